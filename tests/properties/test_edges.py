"""Profiles along the edges, cut at the bench as told: what is left is what was planned, and corners meet."""

import math

import pytest
from msgspec.structs import replace

from peristyle.core.outlines import area
from peristyle.core.planes import meet
from peristyle.model.design import EdgeProfile, Hinges, Keys, OuterEdge, Regular
from peristyle.model.job import revised
from peristyle.planning.plan import plan
from peristyle.planning.section.edges import box_section, curve, runs_of
from support.bench import settings_moved
from support.edged import BOX, EDGES, KINDS, PROVOKED, random_edges
from support.glued import wrongly_glued
from support.mending import left_after_mending
from support.profiled import wrongly_profiled


@pytest.mark.parametrize("seed", range(8))
def test_profiles_are_cut_as_told(seed: int) -> None:
    made = plan(random_edges(seed))
    about_edges = [f for f in made.findings if f.severity == "stop" and "edge" in f.code]
    assert not about_edges
    assert [step for step in made.steps if step.operation == "edge"]
    assert not wrongly_profiled(made)
    assert not wrongly_glued(made)


@pytest.mark.parametrize("gauge", ["height", "width"])
@pytest.mark.parametrize("name", list(EDGES))
def test_a_profile_told_wrong_is_seen(gauge: str, name: str) -> None:
    made = plan(revised(BOX, **{name: EDGES[name]}))  # type: ignore[arg-type]
    assert not wrongly_profiled(made)
    wrong = [settings_moved(step, gauge, 0.2) if step.operation == "edge" else step for step in made.steps]
    assert wrongly_profiled(made, tuple(wrong))


@pytest.mark.parametrize("kind", KINDS)
@pytest.mark.parametrize("lean", [0.0, 13.0, -11.0])
def test_profiles_of_two_sides_meet_in_their_miter(kind: str, lean: float) -> None:
    """Where the lines of both cuts cross, at every level, the miter plane goes through: within 1e-6 mm."""
    edges = {name: replace(edge, kind=kind) for name, edge in EDGES.items()}
    made = plan(revised(BOX, shape=Regular(7, 110.0), slopes_deg=(lean,), **edges))  # type: ignore[arg-type]
    slabs = made.ring.slabs
    for run in runs_of(made.job.design, made.ring, made.section):
        first, second = slabs[0], slabs[1]
        for (a, z), (b, _z) in zip(box_section(run, first), box_section(run, second), strict=True):
            x, y = meet(first, a, second, b)
            outer = meet(first, first.outer_mm(z), second, second.outer_mm(z))
            inner = meet(first, first.inner_mm(z), second, second.inner_mm(z))
            off = (inner[0] - outer[0]) * (y - outer[1]) - (inner[1] - outer[1]) * (x - outer[0])
            assert abs(off) / math.dist(inner, outer) < 1e-6


def test_areas_of_the_profiles() -> None:
    """Of size s: a chamfer s²/2, a cove πs²/4, a round-over (1 − π/4)s², an ogee s²/2. Source: plane geometry."""
    shares = {"chamfer": 0.5, "cove": math.pi / 4, "round_over": 1 - math.pi / 4, "ogee": 0.5}
    for kind, share in shares.items():
        profile = EdgeProfile(kind=kind, size_mm=8.0)
        assert abs(area(((0.0, 0.0), *curve(profile)))) == pytest.approx(64.0 * share, rel=2e-2)


def test_before_the_lid_is_freed_or_after() -> None:
    for when, first in (("before_lid", True), ("after_lid", False)):
        made = plan(revised(BOX, keys=Keys(), bottom_edge=OuterEdge(when=when)))
        order = [step.operation for step in made.steps]
        assert (order.index("edge") < order.index("lid")) is first
        assert order.index("key_flush") < order.index("edge")


def test_a_side_with_hinges_stays_square_where_body_and_lid_meet() -> None:
    made = plan(revised(BOX, lid_edges=EdgeProfile(), hinges=Hinges()))
    cut = {piece for step in made.steps if step.operation == "edge" for piece in step.pieces}
    assert cut == {"side.A", "side.B", "side.D"}


def test_keys_keep_clear_of_profiles() -> None:
    made = plan(revised(BOX, keys=Keys(edge_margin_mm=0.0), bottom_edge=OuterEdge(size_mm=8.0)))
    assert any(out.why == "edge" and out.high_mm > 8.0 for out in made.keys.keep_outs)


def test_a_profile_that_runs_past_unlike_corners_is_one_thing_to_keep_clear_of() -> None:
    keys, unlike = Keys(edge_margin_mm=0.0), (12.0, 4.0, 12.0, 4.0)
    made = plan(revised(BOX, slopes_deg=unlike, top_edge=OuterEdge(size_mm=8.0), keys=keys))
    past = [f for p in made.pieces for f in p.features if f.kind == "edge" and f.ends]
    own = [out for out in made.keys.keep_outs if (out.why, out.corner) == ("edge", 0)]
    assert len(past) == 16  # at each corner, either way, two slices
    assert len(own) == 2  # along a side, and past its end
    for out in own:
        assert 87.0 < out.low_mm < 91.0
        assert out.high_mm > made.section.glued_mm


@pytest.mark.parametrize(("changes", "code"), PROVOKED)
def test_what_is_wrong_is_said_and_mended(changes: dict[str, object], code: str) -> None:
    assert left_after_mending(revised(BOX, **changes), code) == 0
