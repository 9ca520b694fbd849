"""Moulded sides carried out at the bench by the section that their step tells; their corners meet."""

import math
from typing import Any

import pytest
from msgspec.structs import replace

from peristyle.core.outlines import area
from peristyle.core.planes import meet
from peristyle.model.design import Keys, Moulding, OuterEdge, Panel, Rectangle, Regular
from peristyle.model.edges import EdgeProfile
from peristyle.model.job import Job, Saw, revised
from peristyle.model.section_edits import MOULDINGS, with_moulding
from peristyle.planning.corners.frame import frames_of
from peristyle.planning.corners.strength import glued_at
from peristyle.planning.plan import plan
from peristyle.planning.section.moulding import line_of, regions
from support.bench import wrongly_made
from support.edged import BOX
from support.glued import wrongly_glued
from support.mending import left_after_mending
from support.mouldings import MOULDED, PROVOKED

RINGS: list[dict[str, Any]] = [
    {"shape": Rectangle(240.0, 160.0)}, {"shape": Regular(8, 90.0)}, {"slopes_deg": (-8.0,)},
    {"shape": Regular(3, 200.0), "saw": Saw(kind="shooting_board")}, {"lid": BOX.design.section.lid},
]  # fmt: skip


@pytest.mark.parametrize("kind", list(MOULDINGS))
@pytest.mark.parametrize("ring", RINGS)
def test_a_moulding_is_cut_as_told(kind: str, ring: dict[str, Any]) -> None:
    made = plan(with_moulding(revised(MOULDED, **ring), kind))
    assert not [f.code for f in made.findings if f.severity == "stop" and "moulding" in f.code]
    assert not wrongly_made(made)
    assert not wrongly_glued(made)


def test_an_arc_told_wrong_is_seen() -> None:
    made = plan(with_moulding(MOULDED, "cove"))
    wrong = [
        replace(step, numbers=step.numbers | {"point.1.arc_mm": step.numbers["point.1.arc_mm"] * 1.5})
        if step.operation == "moulding" else step
        for step in made.steps
    ]  # fmt: skip
    assert not wrongly_made(made)
    assert wrongly_made(made, tuple(wrong))


def test_a_quarter_circle() -> None:
    """Hollow: a square less a quarter disc; bulging: a quarter disc. Source: plane geometry."""
    for sign, share in ((-1.0, 1.0 - math.pi / 4), (1.0, math.pi / 4)):
        line = line_of(Moulding(ups_mm=(0.0, 10.0), ins_mm=(10.0, 0.0), arcs_mm=(sign * 10.0,)))
        under = abs(area((*line, (10.0, 10.0))))  # what is left of the wood in the square
        assert under / 100.0 == pytest.approx(share, abs=0.004)


def test_sections_meet_in_the_miter() -> None:
    """Where the lines along both sides through a point of the section cross, the miter plane goes through."""
    made = plan(with_moulding(revised(MOULDED, shape=Regular(7, 110.0)), "ogee"))
    first, second = made.ring.slabs[:2]
    own = made.job.design.section.moulding
    assert own is not None
    for section in regions(own, made.ring.sides[0]):
        for _up, inward in section:
            x, y = meet(first, first.offset_mm - inward, second, second.offset_mm - inward)
            outer = meet(first, first.outer_mm(0.0), second, second.outer_mm(0.0))
            inner = meet(first, first.inner_mm(0.0), second, second.inner_mm(0.0))
            off = (inner[0] - outer[0]) * (y - outer[1]) - (inner[1] - outer[1]) * (x - outer[0])
            assert abs(off) / math.dist(inner, outer) < 1e-6


def test_what_is_glued_is_the_section_that_is_left() -> None:
    flat, moulded = plan(MOULDED), plan(with_moulding(MOULDED, "steps"))
    own = moulded.job.design.section.moulding
    assert own is not None
    taken = sum(abs(area(section)) for section in regions(own, moulded.ring.sides[0]))
    share = 1.0 - taken / (15.0 * 100.0)
    (before, *_a), (after, *_b) = (glued_at(made, frames_of(made.ring)[0]) for made in (flat, moulded))
    assert after.miter_mm2 / before.miter_mm2 == pytest.approx(
        share, abs=0.004
    )  # a hair is drawn past the rim


def test_keys_and_edges_keep_clear() -> None:
    job: Job = with_moulding(revised(MOULDED, keys=Keys(count=2, edge_margin_mm=2.0)), "cove")
    assert "moulding" in {out.why for out in plan(job).keys.keep_outs}
    edge = revised(job, keys=None, top_edge=OuterEdge(size_mm=3.0), rim_edge=EdgeProfile(size_mm=1.0))
    assert "moulding_meets" in {finding.code for finding in plan(edge).findings}


@pytest.mark.parametrize(("changes", "code"), PROVOKED)
def test_what_is_wrong_is_said_and_mended(changes: dict[str, Any], code: str) -> None:
    assert left_after_mending(revised(MOULDED, **changes), code) == 0


def test_a_base_is_matched_in_scrap() -> None:
    made = plan(with_moulding(revised(MOULDED, bottom=Panel(seat="applied", thickness_mm=8.0)), "steps"))
    order = [step.operation for step in made.steps]
    assert order.index("moulding_base") > order.index("moulding")
