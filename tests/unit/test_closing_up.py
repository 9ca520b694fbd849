"""How boxes of every kind are closed, put together and taken apart again: the cards against the geometry."""

import math
from pathlib import Path

import pytest

from peristyle.cli import main
from peristyle.core.lengths import Units
from peristyle.model.design import (
    FalseFloor,
    Fillets,
    Hinges,
    House,
    Keys,
    Lid,
    Liner,
    Panel,
    Regular,
    Sliding,
    Splines,
    Tray,
)
from peristyle.model.job import Job, revised
from peristyle.model.section_edits import with_lid_kind
from peristyle.planning.making.step import Step
from peristyle.planning.plan import plan
from peristyle.storage import files
from support.plain import BOX
from support.put_in import met_on_the_way
from support.telling import done_so, set_so


def step_of(job: Job, operation: str, part: str = "box") -> Step:
    return next(step for step in plan(job).steps if step.operation == operation and step.part == part)


@pytest.mark.parametrize(("slope", "first"), [(10.0, "inside"), (-10.0, "show")])
def test_a_leaning_rip_says_of_both_edges_which_face_lies_down(slope: float, first: str) -> None:
    """The blade leans from the fence: the face the longer at an edge is up. Leaning out that is the outside at the
    top and the inside at the bottom; common practice, and plane geometry.
    """
    told = done_so(step_of(revised(BOX, slopes_deg=(slope,)), "rip"))
    other = "show" if first == "inside" else "inside"
    assert f"First the top edge: {first} face down" in told
    assert f"Then the bottom edge: {other} face down" in told
    side = plan(revised(BOX, slopes_deg=(slope,))).ring.sides[0]
    tops = [max(y for _, y in face) for face in (side.outer_face, side.inner_face)]
    assert (tops[0] > tops[1]) == (first == "inside")


def test_a_roof_laid_on_its_walls_is_set_down_to_a_line() -> None:
    """Half the house over the cosine of the pitch from the ridge, by hand; not rolled up with the walls."""
    house = revised(BOX, shape=House(170.0, 110.0, 35.0, overhang_mm=12.0, eaves="plumb"))
    for operation in ("dry_fit", "glue"):
        step = step_of(house, operation)
        assert step.numbers["first_mm"] == pytest.approx(85.0 / math.cos(math.radians(35.0)))
        assert f"{step.numbers['first_mm']:.1f}\u202fmm from the ridge" in done_so(step)
        wall = plan(house).ring.sides[1].outside_mm
        assert step.numbers["span.BC_mm"] == pytest.approx(math.hypot(170.0, wall))
        assert "to the top of wall B" in done_so(step)
    made = plan(house)
    leaf = next(piece for piece in made.pieces if piece.id == "side.C")
    assert made.ring.sides[2].inner_face_mm == pytest.approx(leaf.inside_face[1][0] - leaf.inside_face[0][0])
    assert "set the roof down" in done_so(step_of(house, "glue"))
    mitered = revised(house, shape=House(170.0, 110.0, 35.0))
    assert "roof" not in done_so(step_of(mitered, "glue"))


def test_ends_that_run_the_same_way_are_named_before_the_first_cut() -> None:
    """The walls' tops under a laid roof and the roof's leaves; parallelograms between slopes of unlike sign."""
    house = revised(BOX, shape=House(170.0, 110.0, 35.0, overhang_mm=12.0, eaves="plumb"))
    assert "On the edge the two ends of B, C, D, E run the same way" in done_so(step_of(house, "mark"))
    racked = revised(BOX, slopes_deg=(0.0, 12.0, 0.0, -12.0))
    assert "On the face the two ends of A, C run the same way" in done_so(step_of(racked, "mark"))
    assert "never run the same way" in done_so(step_of(BOX, "mark"))


def test_a_ring_with_splines_is_pushed_together_not_rolled_up() -> None:
    """A spline stands square to the miter: it does not let the joint fold shut (plane geometry)."""
    told = done_so(step_of(revised(BOX, shape=Regular(6, 120.0), splines=Splines()), "glue"))
    assert "not rolled up" in told
    assert "roll the" not in told
    assert "roll the ring up" in done_so(step_of(BOX, "glue"))


def test_a_lid_that_slides_is_not_there_at_the_glue_up() -> None:
    job = revised(BOX, cover=Sliding(side=1))
    assert "panel.lid" not in step_of(job, "glue").pieces
    assert "The edge over side B is flush" in done_so(
        next(s for s in plan(job).steps if s.id == "box.panel.lid")
    )


@pytest.mark.parametrize(
    ("part", "changes", "thick"),
    [
        ("liner", {"liner": Liner(thickness_mm=5.0, height_mm=40.0)}, 5.0),
        ("tray", {"liner": Liner(height_mm=40.0), "tray": Tray(thickness_mm=4.0)}, 4.0),
        ("fillet", {"fillets": Fillets(thickness_mm=6.0)}, 6.0),
    ],
)
def test_rings_within_say_what_they_are_cut_from(part: str, changes: dict[str, object], thick: float) -> None:
    """Long enough for all four with a kerf for each cut and the trimmed end, as thick as the pieces are."""
    made = plan(revised(BOX, lid=Lid(), top=Panel(), **changes))
    step = next(s for s in made.steps if s.operation == "rip" and s.part == part)
    faces = [piece.show_face for piece in made.pieces if piece.part == part]
    long = math.fsum(max(x for x, _ in face) - min(x for x, _ in face) for face in faces)
    kerf = made.job.shop.saw.kerf_mm
    assert step.numbers["long_mm"] == pytest.approx(long + 5 * kerf)
    assert step.numbers["thick_mm"] == thick
    assert f"From stock {thick:g}\u202fmm thick" in done_so(step)


def test_a_liner_over_a_false_floor_stays_loose() -> None:
    job = revised(BOX, lid=Lid(), top=Panel(), false_floor=FalseFloor(), liner=Liner(height_mm=30.0))
    assert ("false_floor_shut", "liner") in {(f.code, f.kind) for f in plan(job).findings}
    assert "dots of glue" not in done_so(step_of(job, "liner_fit", "liner"))
    assert "dots of glue" in done_so(step_of(revised(job, false_floor=None), "liner_fit", "liner"))


def test_barrels_have_no_screws() -> None:
    for operation in ("hinge_hang", "hinge_off", "hinge_again"):
        step = step_of(revised(BOX, lid=Lid(), top=Panel(), hinges=Hinges(pattern="barrel")), operation)
        assert "screw" not in done_so(step) + set_so(step)


@pytest.mark.parametrize(
    ("trouble", "changes", "said"),
    [
        ("lid_off", {}, "No lid is sawn free"),
        ("lid_off", {"lid": Lid(), "top": Panel()}, ""),
        ("lid_low", {"cover": Sliding(side=1)}, "No lid is sawn free"),
        ("rattles", {}, "say first what it holds"),
        ("slot_wide", {}, "no keys"),
        ("slot_wide", {"keys": Keys()}, ""),
        ("panel_large", {"bottom": None}, "no panels"),
    ],
)
def test_what_a_box_has_not_cannot_go_wrong(
    capsys: pytest.CaptureFixture[str], tmp_path: Path, trouble: str, changes: dict[str, object], said: str
) -> None:
    path = tmp_path / "box.peristyle"
    files.save(path, revised(BOX, **changes))
    at = ["--at", "AB"] if "keys" in changes else []
    assert main(["rescue", str(path), trouble, *at]) == 0
    told = capsys.readouterr().out
    assert said in told if said else told.startswith("1  ")


def test_where_it_went_wrong_is_asked_with_what_there_is(
    capsys: pytest.CaptureFixture[str], tmp_path: Path
) -> None:
    files.save(tmp_path / "box.peristyle", BOX)
    assert main(["rescue", str(tmp_path / "box.peristyle"), "short"]) == 2
    assert "A, B, C, D" in capsys.readouterr().err


@pytest.mark.parametrize("units", ["mm", "in"])
@pytest.mark.parametrize("slope", [0.0, 7.0, -7.0, 12.0])
def test_a_lip_between_leaning_walls_begins_with_the_room_it_wants(slope: float, units: Units) -> None:
    job = with_lid_kind(revised(BOX, slopes_deg=(slope,), top=Panel(), units=units), "lip")
    made = plan(job)
    assert job.design.inside.liner is not None
    assert "lip_wedges" not in {finding.code for finding in made.findings}
    assert not list(met_on_the_way(made))
