"""Latches and brackets: their screws as solids in the wood, holes bored as told, what is wrong said and mended."""

import pytest

from peristyle.model.addresses import applied
from peristyle.model.job import revised
from peristyle.planning.making.parts.plate_places import plates
from peristyle.planning.plan import plan
from support import plated
from support.bench import values


@pytest.mark.parametrize("changes", plated.SHOWN)
def test_screws_lie_in_wood_and_in_nothing_else(changes: dict[str, object]) -> None:
    made = plan(revised(plated.BOX, **changes))  # type: ignore[typeddict-item]
    assert made.buildable, [f.code for f in made.findings if f.severity == "stop"]
    assert len(list(plated.screws(made))) > 10
    assert not list(plated.troubles(made))
    told = {feature for step in made.steps for feature in step.makes}
    assert {f.id for p in made.pieces for f in p.features if f.kind in ("pilot", "recess")} <= told


def test_a_screw_that_is_too_long_is_met() -> None:
    assert list(plated.troubles(plated.longer(plan(plated.BOX), 7.0)))


@pytest.mark.parametrize("lean", [0.0, 14.0])
def test_holes_lie_where_the_steps_tell(lean: float) -> None:
    """From arrises, edges and rims as told, found again on the faces: by the lines of the faces themselves."""
    made = plan(revised(plated.BOX, slopes_deg=(lean,)))
    latch, brackets = (
        next(s for s in made.steps if s.operation == "plate_bore" and s.title.endswith(word))
        for word in ("latch", "bracket")
    )
    lid, cos = made.section.lid, made.ring.slabs[0].cos_slope
    assert lid is not None
    body, over = values(latch, "fence")
    ups = {lid.lost_low_mm / cos - body, lid.lost_high_mm / cos + over}
    told = {(x, y) for x in values(latch, "stop") for y in ups}
    bored = {screw for plate in plates(made) if plate.word == "latch" for screw in plate.screws}
    assert sorted(bored) == [pytest.approx(point) for point in sorted(told)]
    side = made.ring.sides[1]
    (ax, _a), (bx, _b), (cx, cy), (dx, dy) = side.outer_face
    (up,) = values(brackets, "fence")
    start, end = ax + (dx - ax) * up / dy, bx + (cx - bx) * up / cy
    told = {(x, up) for out in values(brackets, "stop") for x in (start + out, end - out)}
    bored = {s for p in plates(made) if p.word == "bracket" and p.side.name == side.name for s in p.screws}
    assert sorted(bored) == [pytest.approx(point) for point in sorted(told)]


@pytest.mark.parametrize(("changes", "code"), plated.PROVOKED)
def test_what_is_wrong_is_said_and_mended(changes: dict[str, object], code: str) -> None:
    job = revised(plated.BOX, **changes)  # type: ignore[typeddict-item]
    found = next(finding for finding in plan(job).findings if finding.code == code)
    for fix in found.fixes:
        assert code not in {f.code for f in plan(applied(job, fix.changes)).findings}, fix


def test_keys_keep_clear_of_a_brackets_screws() -> None:
    made = plan(revised(plated.BOX, **plated.SHOWN[2]))
    assert "pilot" in {out.why for out in made.keys.keep_outs}
