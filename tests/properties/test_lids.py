"""Bottoms and lids of every kind: carried out, stood up, opened and closed; or refused with a reason."""

import pytest
import shapely

from peristyle.core.lengths import Format
from peristyle.model.addresses import applied
from peristyle.model.design import (
    FalseFloor,
    Flat,
    Gable,
    Insert,
    Lid,
    LiftOff,
    Liner,
    Panel,
    Rectangle,
    Regular,
    Sliding,
    Split,
    Strip,
)
from peristyle.model.job import Job, job_of, revised
from peristyle.model.panels import Cover
from peristyle.model.stock import Board
from peristyle.planning.plan import plan
from peristyle.words.steps import how
from support import bench, lids

BOX = job_of(shape=Rectangle(240.0, 160.0), height_mm=100.0, thicknesses_mm=(12.0,), bottom=Panel())


@pytest.mark.parametrize("setting", lids.SETTINGS[7::61], ids=", ".join)
def test_each_is_carried_out_and_opens_or_is_refused(setting: tuple[str, str, str, str, str]) -> None:
    """The whole matrix is scripts/proof's."""
    stops, wrong = lids.troubles(lids.box(*setting))
    assert not wrong
    assert all(stops)


@pytest.mark.parametrize(
    ("cover", "gauge", "operation"),
    [
        (Sliding(), "fence", "lower"), (Sliding(), "fence", "groove"), (Gable(), "tilt", "lower"),
        (Gable(), "swing", "gable"), (Gable(), "width", "roof_leaf"), (LiftOff(), "stop", "panel"),
        (Insert(hole_mm=9.0), "fence", "lid_hole"),
    ],
)  # fmt: skip
def test_one_wrong_setting_is_caught(cover: object, gauge: str, operation: str) -> None:
    made = plan(revised(BOX, cover=cover, bottom=None))  # type: ignore[arg-type]
    assert not bench.wrongly_made(made)
    wrong = tuple(bench.settings_moved(s, gauge, 0.2) if s.operation == operation else s for s in made.steps)
    assert bench.wrongly_made(made, wrong)


def test_a_lid_that_does_not_fit_is_met_as_it_is_opened() -> None:
    """The collisions are looked for: a plug too wide for the mouth, a lid too wide for its grooves, are found."""
    made = plan(revised(BOX, cover=LiftOff()))
    stood = {piece.id: lids.placed(piece) for piece in made.pieces}
    assert not list(lids.collisions(made, stood))
    stood["panel.plug"] = stood["panel.plug"].scale([1.02, 1.0, 1.0])
    assert list(lids.collisions(made, stood))


@pytest.mark.parametrize(
    ("cover", "over", "told"),
    [
        (Flat(overhang_mm=5.0), (5.0, 5.0), "stands out 5\u202fmm over the outside"),
        (Flat(overhang_mm=0.0), (0.0, 0.0), "planed flush later"),
        (LiftOff(overhang_mm=4.0, over="all"), (4.0, 4.0), "stands out 4\u202fmm over the outside"),
        (LiftOff(overhang_mm=4.0), (0.0, 4.0), "overhangs A and C by 4\u202fmm. Leave it a shaving long"),
        (
            Split(overhang_mm=5.0, fixed_mm=40.0, side=1),
            (5.0, 5.0),
            "meet 40\u202fmm from the inside face of side B",
        ),
    ],
)
def test_it_is_told_which_sides_a_lid_stands_out_over(
    cover: Cover, over: tuple[float, float], told: str
) -> None:
    """As told so it is: the lid's size less the box's is twice what it stands out."""
    made = plan(revised(BOX, cover=cover))
    lids_own = [
        step for step in made.steps if step.operation == "panel" and step.pieces[0].startswith("panel.lid")
    ]
    assert all(told in how(step, Format("mm")) for step in lids_own)
    lid = next(panel for panel in made.section.panels if panel.name == "lid")
    assert (lid.length_mm, lid.width_mm) == pytest.approx((240.0 + 2 * over[0], 160.0 + 2 * over[1]))
    if isinstance(cover, Split):  # 12 of wall, 40 of the inside and 5 over it: the fixed part
        assert lids_own[0].value("stop") == pytest.approx(5.0 + 12.0 + 40.0)


@pytest.mark.parametrize("lean", [0.0, 9.0, -9.0])
def test_a_strip_is_a_mitered_ring_of_its_own(lean: float) -> None:
    """Its sides are longer by the overwidth times the tangents of half the turns: a hexagon of 100, 1 over: 101.155."""
    job = revised(
        BOX,
        shape=Regular(6, 100.0),
        lid=Lid(),
        slopes_deg=(lean,),
        board=Board(length_mm=3000.0, width_mm=300.0),
    )
    bare, made = plan(job), plan(revised(job, strip=Strip(height_mm=2.0, over_mm=1.0)))
    assert made.buildable
    assert not bench.wrongly_made(made)
    strips = [piece for piece in made.pieces if piece.part == "strip"]
    assert len(strips) == 6
    assert strips[0].thickness_mm == pytest.approx(made.ring.sides[0].thickness_mm + 2.0)
    if not lean:
        assert strips[0].size_mm[0] == pytest.approx(101.155, abs=6e-4)
    for more in ("finished_mm", "room_mm"):
        assert getattr(made.section, more) == pytest.approx(getattr(bare.section, more) + 2.0)
    # A liner that held the lid up by 2 mm: the strip it is mended with takes that away.
    held = revised(job, liner=Liner(height_mm=bare.section.room_mm + 2.0))
    found = next(f for f in plan(held).findings if f.code == "liner_holds_lid_up")
    fix = next(fix for fix in found.fixes if fix.key == "add_strip")
    assert "liner_holds_lid_up" not in {f.code for f in plan(applied(held, fix.changes)).findings}


def _outline(name: str, job: Job) -> shapely.Polygon:
    return shapely.Polygon(next(p.show_face for p in plan(job).pieces if p.id == name))


@pytest.mark.parametrize("shape", [Rectangle(240.0, 160.0), Regular(6, 110.0), Regular(3, 260.0)])
def test_outlines_are_those_a_polygon_library_offsets(shape: Rectangle | Regular) -> None:
    job = revised(BOX, shape=shape)
    ring = plan(job).ring
    outer, inner = shapely.Polygon(ring.outer_top), shapely.Polygon(ring.inner_top)

    def same(name: str, cover: object, wanted: shapely.Polygon) -> None:
        found = _outline(name, revised(job, cover=cover))  # type: ignore[arg-type]
        assert found.symmetric_difference(wanted).area < 1e-6 * wanted.area

    def off(polygon: shapely.Polygon, mm: float) -> shapely.Polygon:
        return polygon.buffer(mm, join_style="mitre", mitre_limit=100.0)

    same("panel.lid", Flat(overhang_mm=5.0), off(outer, 5.0))
    same("panel.lid", LiftOff(overhang_mm=4.0, over="all"), off(outer, 4.0))
    same("panel.plug", LiftOff(fit_mm=0.3), off(inner, -0.3))
    same("panel.lid", Insert(ledge_mm=5.0, play_mm=0.5), off(inner, 4.5))
    cover = Split(fixed_mm=40.0, gap_mm=0.5, side=0)
    both = [_outline(f"panel.lid.{part}", revised(job, cover=cover)) for part in ("fixed", "loose")]
    whole = off(outer, 5.0)
    assert both[0].distance(both[1]) == pytest.approx(0.5)
    assert whole.contains(both[0].buffer(-1e-6))
    gap = whole.area - both[0].area - both[1].area
    assert gap == pytest.approx(0.5 * both[0].intersection(both[1].buffer(0.5 + 1e-6)).length / 2, rel=0.05)
    made = plan(revised(job, false_floor=FalseFloor(play_mm=0.5, hole_mm=0.0)))
    floor = shapely.Polygon(next(p.show_face for p in made.pieces if p.id == "panel.false"))
    assert floor.symmetric_difference(off(inner, -0.5)).area < 1e-6 * floor.area


def test_the_worked_examples() -> None:
    """Values worked by hand from plane geometry: a lip, a plumb plug in a box that leans out, a gable's leaf."""
    lip = plan(
        job_of(shape=Rectangle(91.0, 91.0, "inside"), thicknesses_mm=(12.0,), cover=Insert(ledge_mm=5.0))
    )
    assert lip.section.panels[0].length_mm == pytest.approx(100.0)
    # The rim 180 clear, sides leaning out 10°, the plug 8 deep with 0.3 of fit: 176.579.
    out = plan(
        job_of(
            shape=Rectangle(180.0, 180.0, "inside"), height_mm=60.0, thicknesses_mm=(12.0,), slopes_deg=(10.0,),
            cover=LiftOff(plug_mm=8.0),
        )
    )  # fmt: skip
    plug = next(piece for piece in out.pieces if piece.id == "panel.plug")
    rim = 2 * out.ring.slabs[0].inner_mm(60.0)
    assert plug.size_mm[0] - rim == pytest.approx(176.579 - 180.0, abs=6e-4)
    # 240 wide, 15 over the eaves, 30°, 8 thick: 155.885 above, 151.266 below.
    roof = plan(
        job_of(
            shape=Rectangle(300.0, 240.0), height_mm=150.0, thicknesses_mm=(12.0,),
            cover=Gable(pitch_deg=30.0, overhang_mm=15.0, thickness_mm=8.0),
        )
    )  # fmt: skip
    leaf = next(piece for piece in roof.pieces if piece.part == "roof")
    assert leaf.show_face[2][1] == pytest.approx(155.885, abs=6e-4)
    assert leaf.inside_face[2][1] == pytest.approx(151.266, abs=6e-4)
