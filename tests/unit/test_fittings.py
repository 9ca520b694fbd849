"""Inlays, handles, knobs and pulls as solids on the box: in their pockets, on their faces, in nothing else."""

import math
from typing import Any

import manifold3d
import numpy as np
import pytest

from peristyle.core.lengths import Format
from peristyle.model.design import Handle, Inlay, Insert
from peristyle.model.job import Job, revised
from peristyle.planning.plan import Plan, plan
from peristyle.words.steps import how
from support.bench import one, values
from support.fitted import COVERED, FACES, PROVOKED
from support.mending import left_after_mending
from support.solids import in_box, placed, solid, whole


def wood(made: Plan) -> manifold3d.Manifold:
    return manifold3d.Manifold.batch_boolean(
        [placed(piece) for piece in made.pieces if piece.part in ("side", "panel")], manifold3d.OpType.Add
    )


@pytest.mark.parametrize("on", ["top", "front"])
@pytest.mark.parametrize("job", FACES)
@pytest.mark.parametrize("ball", [False, True])
def test_an_inlay_fills_its_pocket_and_stands_proud(job: Job, on: str, ball: bool) -> None:
    inlay = Inlay(on=on, round=ball, length_mm=40.0, width_mm=22.0, along_mm=6.0, across_mm=-4.0)  # type: ignore[arg-type]
    made = plan(revised(job, inlay=inlay))
    assert not [finding.code for finding in made.findings if finding.severity == "stop"]
    piece = next(piece for piece in made.pieces if piece.part == "inlay")
    assert (placed(piece) ^ wood(made)).volume() < 1e-3
    # Let in by the pocket's depth: what lies under the face is all of the pocket, and no more.
    host = next(p for p in made.pieces if any(f.kind == "inlay" for f in p.features))
    without = in_box(host, solid(host, without=("inlay",)))
    share = inlay.pocket_mm / inlay.thickness_mm
    assert (placed(piece) ^ without).volume() == pytest.approx(placed(piece).volume() * share, rel=1e-6)


@pytest.mark.parametrize(
    ("fitting", "work"),
    [({"inlay": Inlay()}, "inlay_glue"), ({"handle": Handle(kind="knob")}, "handle_bore")],
)
@pytest.mark.parametrize(("job", "first"), [(FACES[0], "panel_flush"), (FACES[-1], "panel")])
def test_a_panel_in_its_grooves_is_worked_on_before(
    job: Job, first: str, fitting: dict[str, Any], work: str
) -> None:
    """All is measured from its edges, which no rule reaches once the ring is glued round them."""
    made = plan(revised(job, **fitting))
    order = [step.operation for step in made.steps]
    loose = job is FACES[-1]
    assert (order.index(work) < order.index("glue")) == loose
    assert order.index(first) < order.index(work)
    told = next(
        how(step, Format("mm")) for step in made.steps if step.operation in ("inlay_pocket", "handle_bore")
    )
    assert ("while the panel is loose" in told) == loose


@pytest.mark.parametrize("on", ["top", "front"])
@pytest.mark.parametrize("job", FACES)
def test_a_wedge_lies_flat_on_its_face(job: Job, on: str) -> None:
    made = plan(revised(job, handle=Handle(kind="wedge", on=on, length_mm=50.0)))  # type: ignore[arg-type]
    assert not [finding.code for finding in made.findings if finding.severity == "stop"]
    piece = next(piece for piece in made.pieces if piece.part == "handle")
    body = placed(piece)
    assert (body ^ wood(made)).volume() < 1e-3
    toward = np.array(piece.place.x)
    sunk = body.translate((-0.1 * toward).tolist()) ^ wood(made)
    foot = made.job.design.thickness_of(0) * 50.0
    assert sunk.volume() == pytest.approx(0.1 * foot, rel=1e-2)


def test_a_wedge_is_what_the_bevel_cuts_off() -> None:
    """A square end beveled by 45° frees a right triangle, the wall's thickness both ways. Source: plane geometry."""
    made = plan(revised(COVERED, handle=Handle(kind="wedge", length_mm=60.0)))
    piece = next(piece for piece in made.pieces if piece.part == "handle")
    thick = made.job.design.thickness_of(0)
    assert whole(piece).volume() == pytest.approx(thick * thick * math.tan(math.radians(45.0)) / 2 * 60.0)
    step = next(step for step in made.steps if step.operation == "handle_wedge")
    assert one(step, "stop") == 60.0


@pytest.mark.parametrize(("kind", "holes"), [("knob", 1), ("pull", 2)])
def test_holes_are_bored_where_they_are_told(kind: str, holes: int) -> None:
    made = plan(revised(COVERED, handle=Handle(kind=kind, screw_mm=20.0)))  # type: ignore[arg-type]
    lid = next(piece for piece in made.pieces if piece.id == "panel.lid")
    step = next(step for step in made.steps if step.operation == "handle_bore")
    xs, ys = [x for x, _y in lid.show_face], [y for _x, y in lid.show_face]
    cut = whole(lid)
    for x in values(step, "stop"):
        bit = manifold3d.CrossSection.circle(one(step, "width") / 2, 48).extrude(40.0)
        cut -= bit.translate([min(xs) + x, min(ys) + one(step, "fence"), -5.0])
    assert len(values(step, "stop")) == holes
    assert abs((cut - solid(lid)).volume() + (solid(lid) - cut).volume()) < 0.5
    told = next(step for step in made.steps if step.operation == "handle_screw")
    assert "They are 3\u202fmm too long: washers under the heads, 3 of them" in how(told, Format("mm"))


@pytest.mark.parametrize(("changes", "code"), PROVOKED)
def test_what_is_wrong_is_said_and_mended(changes: dict[str, object], code: str) -> None:
    assert left_after_mending(revised(COVERED, **changes), code) == 0


@pytest.mark.parametrize(("what", "key"), [("slate", "handle_bore.stone"), ("glass", "handle_bore.glass")])
def test_a_pull_through_stone_or_glass_is_bored_as_that_is(what: str, key: str) -> None:
    made = plan(revised(COVERED, cover=Insert(what=what), handle=Handle(kind="pull")))  # type: ignore[arg-type]
    (step,) = [step for step in made.steps if step.operation == "handle_bore"]
    assert key in step.says
    assert not any(finding.code == "lid_no_grip" for finding in made.findings)  # the pull is what lifts it
    bare = plan(revised(COVERED, cover=Insert(what=what), handle=None))  # type: ignore[arg-type]
    assert any(finding.code == "lid_no_grip" for finding in bare.findings)


def test_a_lattice_holds_no_knob() -> None:
    made = plan(revised(COVERED, cover=Insert(what="lattice"), handle=Handle(kind="knob")))
    assert any(finding.code == "fitting_no_face" for finding in made.findings)
