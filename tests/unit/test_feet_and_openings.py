"""Feet and openings: where they lie, that they fit, what is said where they do not."""

import itertools
import math

import pytest

pytest.importorskip("manifold3d")
from msgspec.structs import replace

from peristyle.core.lengths import Format
from peristyle.core.outlines import Arc, area, bounds, flattened
from peristyle.drawing.eye import Eye
from peristyle.drawing.frieze import frieze_drawing
from peristyle.drawing.piece import piece_drawing
from peristyle.drawing.section import section_drawing
from peristyle.drawing.solid import Solid
from peristyle.export.cutlist import cut_list
from peristyle.model.design import (
    Dividers,
    Feet,
    House,
    Keys,
    Lid,
    Opening,
    Outline,
    Panel,
    Rectangle,
    Regular,
)
from peristyle.model.job import Job, Saw, job_of, revised
from peristyle.model.stock import Board
from peristyle.planning.making.parts.openings import notch_radius
from peristyle.planning.plan import Plan, plan
from support.solids import placed, solid
from support.telling import set_so, told, with_fix

BOX = job_of(
    shape=Rectangle(240.0, 160.0), height_mm=90.0, thicknesses_mm=(9.0,), bottom=Panel(), lid=Lid(height_mm=22.0),
    keys=Keys(count=3), board=Board(length_mm=1200.0, thickness_mm=9.0),
)  # fmt: skip
FMT = Format("mm")
ODD = Outline((200.0, 150.0, 120.0, None), (80.0, 110.0, None, None))


def codes(job: Job) -> set[str]:
    return {finding.code for finding in plan(job).findings}


def side(made: Plan, name: str):  # type: ignore[no-untyped-def]
    return next(piece for piece in made.pieces if piece.id == f"side.{name}")


def test_arcs_become_polygons_as_close_as_they_say() -> None:
    circle = flattened(((10.0, 0.0), Arc((-10.0, 0.0), (0.0, 0.0)), Arc((10.0, 0.0), (0.0, 0.0))))
    assert area(circle) == pytest.approx(math.pi * 100, rel=3e-3)
    assert all(math.hypot(*p) == pytest.approx(10.0) for p in circle)
    assert len(set(circle)) == len(circle)


def test_a_notch_is_a_circle_through_three_points() -> None:
    # Three points on a circle: (−w/2, 0), (0, −d), (w/2, 0). Common practice for laying out a finger notch.
    for wide, deep in ((40.0, 10.0), (30.0, 15.0), (25.0, 20.0)):
        radius = notch_radius(wide, deep)
        if deep < wide / 2:
            assert math.hypot(wide / 2, radius - deep) == pytest.approx(radius)
        else:
            assert radius == wide / 2


@pytest.mark.parametrize("slope", [0.0, 12.0, -9.0])
@pytest.mark.parametrize(
    ("kind", "takes"), [("hole", math.pi * 100), ("slot", math.pi * 25 + 100), ("notch", None)]
)
def test_an_opening_takes_its_own_wood_and_no_more(slope: float, kind: str, takes: float | None) -> None:
    job = revised(
        BOX, lid=None, keys=None, slopes_deg=(slope,), board=Board(length_mm=1600.0, width_mm=200.0),
        openings=(Opening(kind=kind, both=True, up_mm=50.0, along_mm=80.0),),  # type: ignore[arg-type]
    )  # fmt: skip
    made, bare = plan(job), plan(revised(job, openings=()))
    for name in "AC":
        lost = solid(side(bare, name)).volume() - solid(side(made, name)).volume()
        if takes is not None:
            assert lost == pytest.approx(takes * 9.0, rel=5e-3)
        else:
            assert lost > 0.5 * 20.0 * 10.0 * 9.0 * 0.8
    # Clamped together inside to inside, the second is the first's mirror image.
    spans = [bounds(next(f for f in side(made, n).features if f.kind == "opening").flat) for n in "AC"]
    length = made.ring.sides[0].outside_mm
    assert (spans[0][0] + spans[1][2], spans[0][1]) == pytest.approx((length, spans[1][1]))
    # Off the middle each is measured from its own start; in the middle one setting serves the two clamped together.
    cut = [step for step in made.steps if step.operation == "opening"]
    assert [step.pieces for step in cut] == [("side.A",), ("side.C",)]
    middle = plan(revised(job, openings=(replace(job.design.section.openings[0], along_mm=None),)))
    (step,) = [step for step in middle.steps if step.operation == "opening"]
    assert step.pieces == ("side.A", "side.C")
    assert "opening.clamped" in step.says


def test_where_the_bit_goes_in_is_measured_from_stop_and_fence() -> None:
    made = plan(
        revised(
            BOX, openings=(Opening(kind="slot", width_mm=30.0, high_mm=10.0, up_mm=40.0, along_mm=100.0),)
        )
    )
    step = next(step for step in made.steps if step.operation == "opening")
    assert step.values("stop") == pytest.approx(
        (90.0, 110.0)
    )  # the two ends' middles, half a width less a radius out
    assert (step.value("fence"), step.value("width")) == (40.0, 10.0)
    assert set_so(step) == "middle 90 · 110 mm from the start, 40 mm from the bottom edge, bit 10\u202fmm"
    assert step.cautions[0] == "bore"
    order = [step.operation for step in made.steps]
    assert order.index("bevel") < order.index("opening") < order.index("dry_fit")
    # A notch in the rim of a body waits for the lid to be free.
    made = plan(revised(BOX, openings=(Opening(kind="notch"),)))
    order = [step.operation for step in made.steps]
    assert order.index("opening") > order.index("lid")


@pytest.mark.parametrize(
    ("opening", "code"),
    [
        (Opening(up_mm=2.0), "opening_off_side"),
        (Opening(up_mm=14.0), "opening_meets"),  # the bottom's groove
        (Opening(up_mm=66.0), "opening_meets"),  # the lid line
        (Opening(up_mm=24.0), "opening_thin_wood"),
        (Opening(along_mm=22.0), "opening_near_edge"),
        (Opening(along_mm=5.0), "opening_off_side"),
        (Opening(side=1, along_mm=26.0, width_mm=40.0), "opening_off_side"),
        (Opening(kind="notch", high_mm=63.0), "opening_meets"),
    ],
)
def test_an_opening_keeps_clear_and_says_of_what(opening: Opening, code: str) -> None:
    job = revised(BOX, openings=(opening,))
    found = [f for f in plan(job).findings if f.code.startswith("opening")]
    finding = next(f for f in found if f.code == code)
    assert "Opening 1 in side" in told(finding)
    mended = [fix for fix in finding.fixes if code not in codes(with_fix(job, fix))]
    assert mended or code == "opening_near_edge"


def test_an_opening_meets_dividers_other_openings_and_odd_rings() -> None:
    across = revised(BOX, lid=None, dividers=Dividers(across=1), openings=(Opening(up_mm=50.0),))
    assert "opening_meets" in codes(across)
    two = revised(BOX, openings=(Opening(along_mm=100.0), Opening(along_mm=118.0)))
    assert "openings_meet" in codes(two)
    odd = revised(BOX, shape=Regular(5, 160.0), openings=(Opening(both=True),))
    finding = next(f for f in plan(odd).findings if f.code == "opening_no_mate")
    assert "opening_no_mate" not in codes(with_fix(odd, finding.fixes[0]))


@pytest.mark.parametrize("kind", ["block", "mitered", "wedge"])
@pytest.mark.parametrize(
    "shape",
    [
        Rectangle(240.0, 160.0),
        Regular(3, 260.0),
        Regular(6, 120.0),
        Outline((200.0, 150.0, 120.0, None), (80.0, 110.0, None, None)),
    ],
)
def test_feet_stand_under_the_box_and_clear_of_each_other(kind: str, shape) -> None:  # type: ignore[no-untyped-def]
    feet = Feet(kind=kind, size_mm=26.0, height_mm=11.0, thickness_mm=8.0, inset_mm=2.0)  # type: ignore[arg-type]
    saw = Saw(stop_deg=70.0)  # the triangle's bevels, too, are cut flat and leave wedges
    made = plan(revised(BOX, shape=shape, feet=feet, keys=None, saw=saw, board=Board(length_mm=2000.0)))
    if "feet_unlike" in {f.code for f in made.findings}:
        assert kind == "wedge"
    standing = [placed(piece) for piece in made.pieces if piece.part == "foot"]
    assert len(standing) == len(made.ring.sides) * (2 if kind == "mitered" else 1)
    assert all(foot.volume() > 100.0 for foot in standing)
    tops = [foot.bounding_box()[5] for foot in standing]
    assert tops == pytest.approx([0.0] * len(tops), abs=1e-9)
    walls = [placed(piece) for piece in made.pieces if piece.part == "side"]
    for a, b in itertools.combinations([*standing, *walls], 2):
        assert (a ^ b).volume() < 1e-6
    if kind == "mitered":  # a pair closes its miter: together they fill the corner
        for n in range(len(made.ring.sides)):
            first, second = standing[2 * n], standing[2 * n + 1]
            assert (first + second).volume() == pytest.approx(first.volume() + second.volume())
            assert len((first + second).decompose()) == 1
    steps = [step for step in made.steps if step.operation == "foot"]
    assert sorted(name for step in steps for name in step.pieces) == sorted(
        piece.id for piece in made.pieces if piece.part == "foot"
    )
    assert [step.operation for step in made.steps[-2:]] == ["foot_glue", "finish"]
    rows = cut_list(made)
    assert "foot" in rows
    assert Solid(made).faces(Eye())
    assert section_drawing(made, FMT).tags


def test_feet_that_cannot_be_are_refused_with_a_reason() -> None:
    for job, code in (
        (
            revised(BOX, bottom=Panel(seat="rabbet", proud_mm=1.5), feet=Feet(kind="mitered")),
            "feet_beside_panel",
        ),
        (revised(BOX, feet=Feet(size_mm=90.0)), "feet_meet"),
        (revised(BOX, feet=Feet(kind="mitered", size_mm=10.0, thickness_mm=12.0)), "foot_too_thick"),
        (revised(BOX, feet=Feet(kind="wedge"), saw=Saw(kind="chamfer_bit", stops_deg=(45.0,))), "foot_no_offcut"),
        (revised(BOX, feet=Feet(kind="wedge"), board=Board(method="bevel_direct")), "foot_no_offcut"),
        (revised(BOX, feet=Feet(kind="wedge"), saw=Saw(stop_deg=70.0), shape=ODD),
         "feet_unlike"),
        (revised(BOX, feet=Feet(kind="wedge"), shape=Regular(24, 400.0, "across_flats")), "foot_low"),
        (revised(BOX, feet=Feet(), shape=House(240.0, 90.0, 30.0), lid=None, bottom=None), "feet_under_house"),
    ):  # fmt: skip
        finding = next(f for f in plan(job).findings if f.code == code)
        assert len(told(finding)) > 40
        assert any(code not in codes(with_fix(job, fix)) for fix in finding.fixes)


def test_pieces_show_themselves_with_their_openings() -> None:
    made = plan(
        revised(
            BOX, openings=(Opening(kind="slot"), Opening(side=1, kind="notch")), feet=Feet(kind="mitered")
        )
    )
    for piece in made.pieces:
        drawn = piece_drawing(made, piece, FMT)
        assert drawn.shapes
        assert piece.name in drawn.words
    tags = {tag.field.id for tag in piece_drawing(made, side(made, "A"), FMT).tags}
    assert tags == {
        "section.openings.1.width_mm",
        "section.openings.1.high_mm",
        "section.openings.1.up_mm",
        "section.openings.1.along_mm",
    }
    field = next(
        t.field
        for t in piece_drawing(made, side(made, "B"), FMT).tags
        if t.field.id == "section.openings.2.high_mm"
    )
    assert field.set(made.job, 6.0).design.section.openings[1].high_mm == 6.0
    before = plan(revised(made.job, openings=()))
    assert len(frieze_drawing(made, FMT).shapes) == len(frieze_drawing(before, FMT).shapes) + 2
