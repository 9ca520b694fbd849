"""The angles and lengths against values from outside the project."""

import math

import pytest

from peristyle.core.conventions import corner_angles, tilt_setting
from peristyle.core.planes import simple_corner
from peristyle.model.design import Keys, Panel, Rectangle, Regular
from peristyle.model.job import Job, job_of, revised
from peristyle.planning.plan import plan


# Source: crown-molding compound angle tables as printed by makers of miter saws, 90° corner
# (values from memory of such tables, two decimals). "Spring" is the slope.
@pytest.mark.parametrize(("spring", "miter", "bevel"), [(38, 31.62, 33.86), (45, 35.26, 30.00)])
def test_crown_molding_tables(spring: float, miter: float, bevel: float) -> None:
    found = simple_corner(90.0, spring)
    assert found.first.miter_deg == pytest.approx(miter, abs=0.005)
    assert found.first.bevel_deg == pytest.approx(bevel, abs=0.005)


# Closed forms, common practice: tan(miter) = tan(180/n)·sin(slope), sin(bevel) = sin(180/n)·cos(slope).
@pytest.mark.parametrize("sides", [3, 4, 5, 6, 8, 12, 24])
@pytest.mark.parametrize("slope", [-20.0, 0.0, 7.5, 15.0, 60.0])
def test_regular_sloped_closed_forms(sides: int, slope: float) -> None:
    half, lean = math.pi / sides, math.radians(slope)
    found = corner_angles(sides=sides, slope_deg=slope).corner.first
    assert found.miter_deg == pytest.approx(
        math.degrees(math.atan(math.tan(half) * math.sin(lean))), abs=1e-10
    )
    assert found.bevel_deg == pytest.approx(
        math.degrees(math.asin(math.sin(half) * math.cos(lean))), abs=1e-10
    )


# Worked values of the closed forms above, to four decimals.
@pytest.mark.parametrize(
    ("sides", "slope", "miter", "bevel"), [(6, 15, 8.4988, 28.8791), (8, 10, 4.1141, 22.1399)]
)
def test_worked_slopes(sides: int, slope: float, miter: float, bevel: float) -> None:
    found = corner_angles(sides=sides, slope_deg=slope).corner.first
    assert (found.miter_deg, found.bevel_deg) == pytest.approx((miter, bevel), abs=5e-5)


# Common practice: bevel = 180/n; corner angle, its half and the bevel of a hexagon are 120, 60, 30.
@pytest.mark.parametrize("sides", range(3, 25))
def test_vertical_rings(sides: int) -> None:
    found = corner_angles(sides=sides, thickness_mm=9.0).corner
    assert found.first.bevel_deg == pytest.approx(180 / sides, abs=1e-10)
    assert found.first.miter_deg == pytest.approx(0.0, abs=1e-12)
    assert found.interior_deg == pytest.approx(180 - 360 / sides)
    assert found.dihedral_deg == pytest.approx(found.interior_deg)
    assert found.joint_face_mm == pytest.approx(9.0 / math.cos(math.pi / sides))


def test_unequal_thickness() -> None:
    # Square corner: tan(bevel 1) = t2/t1; 10 and 12 mm give 50.1944°, 39.8056°, joint 15.6205 mm.
    found = simple_corner(90.0, 0.0, None, 10.0, 12.0)
    assert found.first.bevel_deg == pytest.approx(50.1944, abs=5e-5)
    assert found.second.bevel_deg == pytest.approx(39.8056, abs=5e-5)
    assert found.joint_face_mm == pytest.approx(15.6205, abs=5e-5)


def test_bevel_past_the_stop() -> None:
    # Common practice: most saws stop at 45-47°; three sides are cut on end at 90 − 60.
    assert tilt_setting(60.0) == pytest.approx((30.0, True))
    assert tilt_setting(45.0) == (45.0, False)


def ring(sides: int, **more: object) -> Job:
    return job_of(shape=Regular(sides, 400.0, "outside"), thicknesses_mm=(12.0,), **more)  # type: ignore[arg-type]


# Right triangle at the corner: θ = 90, leg 10 → depth 7.0711, area 50; θ = 120, depth 6 → leg 12,
# base 20.7846, area 62.3538 (elementary trigonometry, worked by hand).
def test_keys() -> None:
    square = plan(job_of(shape=Rectangle(300.0, 200.0), thicknesses_mm=(12.0,), keys=Keys(leg_mm=10.0)))
    key = square.keys.keys[0]
    assert (key.depth_mm, key.area_mm2) == pytest.approx((7.0711, 25 * 2), abs=5e-5)
    hexagon = plan(ring(6, keys=Keys(depth_mm=6.0))).keys.keys[0]
    assert (hexagon.leg_mm, hexagon.base_mm) == pytest.approx((12.0, 20.7846), abs=5e-5)
    assert hexagon.area_mm2 == pytest.approx(62.3538, abs=5e-5)
    assert hexagon.breakthrough_mm == pytest.approx(12.0 / math.sin(math.radians(60)))


def test_wrap_loss_by_both_methods() -> None:
    # Common practice: square first loses the kerf; straight bevels lose kerf / cos(bevel).
    first = plan(ring(8))
    kerf = first.job.shop.saw.kerf_mm
    assert first.wrap.losses_mm == pytest.approx([kerf] * 8)
    assert first.wrap.used_mm == pytest.approx(8 * (400.0 + kerf))
    from msgspec.structs import replace

    direct = plan(
        revised(first.job, board=replace(first.job.stock.board, method="bevel_direct", creep_mm=1.0))
    )
    loss = kerf / math.cos(math.radians(22.5)) + 2.0
    assert direct.wrap.losses_mm == pytest.approx([loss] * 8)
    assert direct.wrap.used_mm == pytest.approx(8 * (400.0 + loss))


def test_panel_is_inside_plus_what_goes_in() -> None:
    # Common practice: inside size + 2·(groove depth − play per side); polygon: offset all round.
    box = job_of(shape=Rectangle(300.0, 200.0, "inside"), bottom=Panel(depth_mm=4.0, play_mm=0.5))
    panel = plan(box).section.panels[0]
    assert (panel.length_mm, panel.width_mm) == pytest.approx((307.0, 207.0))
    octagon = plan(ring(8, bottom=Panel(depth_mm=5.0, play_mm=1.0)))
    flats = 2 * (400.0 / (2 * math.tan(math.pi / 8)) - 12.0 + 4.0)
    assert octagon.section.panels[0].width_mm == pytest.approx(flats)
