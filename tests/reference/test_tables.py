"""Regular polygons, roofs and hoppers against printed tables and worked examples."""

import math

import pytest
import shapely

from peristyle.core.conventions import corner_angles, sheet_of_angles
from peristyle.core.planes import simple_corner
from peristyle.model.design import House, Panel, Rectangle, Regular
from peristyle.model.job import job_of
from peristyle.planning.plan import plan
from peristyle.planning.section.segments import Segments, plan_segments

# Regular polygons of side 1: radius of the inscribed circle r, of the circumscribed circle R, and area.
# Source: table of regular polygons as in Machinery's Handbook (values from memory, checked to four
# places against the closed forms r = cot(180/n)/2, R = 1/(2 sin(180/n)), A = n·cot(180/n)/4).
POLYGONS = {
    3: (0.2887, 0.5774, 0.4330),
    4: (0.5000, 0.7071, 1.0000),
    5: (0.6882, 0.8507, 1.7205),
    6: (0.8660, 1.0000, 2.5981),
    7: (1.0383, 1.1524, 3.6339),
    8: (1.2071, 1.3066, 4.8284),
    9: (1.3737, 1.4619, 6.1818),
    10: (1.5388, 1.6180, 7.6942),
    12: (1.8660, 1.9319, 11.1962),
}


@pytest.mark.parametrize("sides", POLYGONS)
def test_polygon_tables(sides: int) -> None:
    inscribed, circumscribed, area = POLYGONS[sides]
    ring = plan(job_of(shape=Regular(sides, 1000.0, "outside"), height_mm=80.0, thicknesses_mm=(5.0,))).ring
    assert ring.slabs[0].outer_mm(0.0) == pytest.approx(1000 * inscribed, abs=0.06)
    assert math.hypot(*ring.outer_bottom[0]) == pytest.approx(1000 * circumscribed, abs=0.06)
    assert shapely.Polygon(ring.outer_bottom).area == pytest.approx(1e6 * area, rel=1e-4)
    for measure, size in (("across_flats", 2 * inscribed), ("across_corners", 2 * circumscribed)):
        other = plan(job_of(shape=Regular(sides, 1000 * size, measure), thicknesses_mm=(5.0,)))  # type: ignore[arg-type]
        assert other.ring.sides[0].outside_mm == pytest.approx(1000.0, abs=0.4)


# Miter and bevel of square hoppers at the slopes often worked in handbooks. Closed forms for a square
# corner (common practice): tan(miter) = sin(slope), sin(bevel) = cos(slope)/√2. Two of them are the
# cube's own angles: at 45° slope 35.2644° and 30°; at arctan(1/√2) = 35.2644° slope 30° and 35.2644°.
@pytest.mark.parametrize(
    ("slope", "miter", "bevel"),
    [
        (5.0, 4.9811, 44.7824),
        (15.0, 14.5108, 43.0795),
        (30.0, 26.5651, 37.7612),
        (45.0, 35.2644, 30.0),
        (math.degrees(math.atan(1 / math.sqrt(2))), 30.0, 35.2644),
        (60.0, 40.8934, 20.7048),
    ],
)
def test_square_hoppers(slope: float, miter: float, bevel: float) -> None:
    first = simple_corner(90.0, slope).first
    assert (first.miter_deg, first.bevel_deg) == pytest.approx((miter, bevel), abs=5e-5)


def test_a_cube_corner_from_its_planes() -> None:
    # Three faces of a cube round a corner, seen along its diagonal: 60° from above each, leaning by
    # 35.2644° (arctan 1/√2), and square to each other (elementary geometry).
    found = simple_corner(60.0, math.degrees(math.atan(1 / math.sqrt(2))))
    assert found.dihedral_deg == pytest.approx(90.0, abs=1e-9)
    assert found.first.bevel_deg == pytest.approx(45.0, abs=1e-9)


# Roof pitches as rise over run and their angles, as on a rafter square (common practice).
@pytest.mark.parametrize(
    ("rise", "run", "degrees"), [(4, 12, 18.4349), (6, 12, 26.5651), (8, 12, 33.6901), (12, 12, 45.0)]
)
def test_roof_pitches(rise: int, run: int, degrees: float) -> None:
    pitch = math.degrees(math.atan2(rise, run))
    assert pitch == pytest.approx(degrees, abs=5e-5)
    ring = plan(job_of(shape=House(240.0, 100.0, pitch), thicknesses_mm=(8.0,))).ring
    assert ring.corners[2].interior_deg == pytest.approx(180 - 2 * pitch)
    assert ring.sides[2].outside_mm == pytest.approx(math.hypot(120.0, 120.0 * rise / run))
    top = max(y for _x, y in ring.outer_bottom) - min(y for _x, y in ring.outer_bottom)
    assert top == pytest.approx(100.0 + 120.0 * rise / run)


# Segmented work: the cut angle is 180/n (common practice); 12 segments are cut at 15°, 16 at 11.25°.
@pytest.mark.parametrize(("count", "angle"), [(6, 30.0), (8, 22.5), (12, 15.0), (16, 11.25), (24, 7.5)])
def test_segment_angles(count: int, angle: float) -> None:
    found = plan_segments(Segments(count=count, style="ring", ring_mm=20.0), 80.0, 2.0)
    assert found.miter_deg == angle
    # The trapezoids cover the ring between two polygons exactly.
    outer = shapely.Polygon([(math.cos(a), math.sin(a)) for a in _around(count, 80.0)])
    area = count * (found.outer_mm + found.inner_mm) / 2 * 20.0
    scale = (80.0 / math.cos(math.pi / count)) ** 2
    inner = (60.0 / math.cos(math.pi / count)) ** 2
    assert area == pytest.approx(outer.area * (scale - inner), rel=1e-9)


def _around(count: int, _apothem: float) -> list[float]:
    return [2 * math.pi * k / count for k in range(count)]


def test_the_sheet_holds_the_handbook_row() -> None:
    rows = {(r.sides, r.slope_deg): r.corner.first for r in sheet_of_angles([0.0, 10.0])}
    assert rows[8, 10.0].miter_deg == pytest.approx(4.1141, abs=5e-5)
    assert rows[24, 0.0].bevel_deg == pytest.approx(7.5)
    assert rows[8, 10.0] == corner_angles(sides=8, slope_deg=10.0).corner.first


def test_a_worked_box_by_hand() -> None:
    """A box worked with pencil: inside 200 × 120, 8 mm sides, 3 mm kerf, groove 4 deep with 0.5 play."""
    found = plan(job_of(
        shape=Rectangle(200.0, 120.0, "inside"), height_mm=70.0, thicknesses_mm=(8.0,),
        bottom=Panel(height_mm=5.0, depth_mm=4.0, thickness_mm=4.0, play_mm=0.5, fit_mm=0.0),
    ))  # fmt: skip
    assert [s.outside_mm for s in found.ring.sides] == pytest.approx([216, 136, 216, 136])
    assert [c.joint_face_mm for c in found.ring.corners] == pytest.approx([8 * math.sqrt(2)] * 4)
    assert found.wrap.used_mm == pytest.approx(2 * (216 + 136) + 4 * 3)
    panel = found.section.panels[0]
    assert (panel.length_mm, panel.width_mm) == pytest.approx((207.0, 127.0))
    assert [round(p.start_mm, 6) for p in found.wrap.pieces] == [10.0, 229.0, 368.0, 587.0]
