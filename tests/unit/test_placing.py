"""Where keys are put, held against every way of putting them on a grid; and what the reckoning says of them."""

import itertools
import math
import random

import pytest

from peristyle.core.lengths import Format
from peristyle.model import corner_edits
from peristyle.model.design import Keys, Lid, Panel, Rectangle, Regular, replace
from peristyle.model.job import KeyTimes, job_of, revised
from peristyle.planning.corners import placing
from peristyle.planning.corners.frame import frames_of
from peristyle.planning.corners.key_stock import cutting_of, from_strip, times_of
from peristyle.planning.corners.splines import deepest_mm
from peristyle.planning.corners.strength import Glued, glued_at
from peristyle.planning.plan import Plan, plan
from peristyle.words.steps import how
from support.rooms import by_brute_force, random_room

BOX = job_of(shape=Rectangle(240.0, 160.0), height_mm=90.0, thicknesses_mm=(12.0,))


@pytest.mark.parametrize("seed", range(60))
def test_as_many_keys_in_as_few_settings_as_can_be(seed: int) -> None:
    room, count = random_room(random.Random(seed))
    made = placing.few(room, count).heights_mm
    assert (len(made), placing.settings_of(made, room)) == by_brute_force(room, count)
    assert all(any(a - 1e-6 <= h <= b + 1e-6 for a, b in room.free) for h in made)
    assert all(b - a >= room.apart_mm - 1e-6 for a, b in itertools.pairwise(made))


@pytest.mark.parametrize("seed", range(40))
def test_evenly_is_as_even_as_the_grid_allows(seed: int) -> None:
    """Without a lid: the least distance, and twice that to the edges, within a millimetre of the best on the grid."""
    room, count = random_room(random.Random(seed))
    room, count = room._replace(lid_mm=None), min(count, 3)
    made = placing.even(room, count).heights_mm

    def least(heights: tuple[float, ...]) -> float:
        ends = [2 * heights[0], 2 * (room.height_mm - heights[-1])]
        return min([*ends, *(b - a for a, b in itertools.pairwise(heights))])

    places = [float(h) for h in range(int(room.height_mm) + 1) if any(a <= h <= b for a, b in room.free)]
    ways = [
        heights for heights in itertools.combinations(places, count)
        if all(b - a >= room.apart_mm for a, b in itertools.pairwise(heights))
    ]  # fmt: skip
    assert len(made) == count or not ways
    if ways and count > 1:
        assert least(made) >= max(map(least, ways)) - 1.0 or least(made) >= room.apart_mm * 2 - 1.0


def test_even_and_spaced_keys_on_a_box() -> None:
    lidded = revised(BOX, lid=Lid(height_mm=30.0), keys=Keys(count=4, placed="even", edge_margin_mm=6.0))
    made = plan(lidded)
    line = made.section.lid.line_mm  # type: ignore[union-attr]
    assert sum(h > line for h in made.keys.heights_mm) >= 1
    assert sum(h < line for h in made.keys.heights_mm) >= 2
    spaced = plan(
        revised(BOX, keys=Keys(placed="spaced", spacing_mm=16.0, edge_margin_mm=8.0))
    ).keys.heights_mm
    assert [round(b - a, 6) for a, b in itertools.pairwise(spaced)] == [16.0] * (len(spaced) - 1)
    assert sum(spaced) / len(spaced) == pytest.approx(45.0)


def test_keys_of_the_handbook() -> None:
    """MATH's own figures (plane geometry): a dovetail, a slanting slot, level slots of a leaning corner, a spline."""
    dovetail = plan(revised(BOX, keys=Keys(kind="dovetail", thickness_mm=12.7, angle_deg=14.0, depth_mm=8.0)))
    assert dovetail.keys.keys[0].face_mm == pytest.approx(8.711, abs=5e-4)
    slanting = plan(revised(BOX, keys=Keys(slant_deg=15.0))).keys
    assert abs(slanting.keys[0].tip_deg) == pytest.approx(20.754, abs=5e-4)
    assert 300 * math.tan(math.radians(slanting.keys[0].tip_deg)) == pytest.approx(113.7, abs=0.05)
    leaning = revised(BOX, shape=Regular(4, 200.0), slopes_deg=(15.0,), keys=Keys())
    (square,) = {round(key.breakthrough_mm, 3) for key in plan(leaning).keys.keys}
    level = plan(revised(leaning, keys=Keys(lie="level"))).keys
    assert square == pytest.approx(16.429, abs=5e-4)
    assert level.keys[0].breakthrough_mm == pytest.approx(17.569, abs=5e-4)
    assert abs(level.keys[0].tip_deg) == pytest.approx(20.7536, abs=5e-5)
    assert level.keys[0].angle_deg == pytest.approx(90.0)
    # A level cut leaves square to the arris by as much as the side's end is swung: by hand it is marked so.
    for count in (3, 4, 9):
        by_hand = plan(
            revised(
                leaning, shape=Regular(count, 200.0), keys=Keys(kind="veneer", lie="level", thickness_mm=0.6)
            )
        )
        told = next(step for step in by_hand.steps if step.operation == "keys")
        assert told.numbers["slant_deg"] == pytest.approx(abs(by_hand.ring.sides[0].start.miter_deg))
    assert deepest_mm(12.0, 4.0, 3.0, 22.5, 2.0) == pytest.approx(12.853, abs=5e-4)


def test_a_veneer_key_is_ten_in_and_ten_down() -> None:
    """Common practice."""
    keys = plan(corner_edits.with_key_kind(BOX, "keys", "veneer")).keys
    low = keys.keys[0]
    assert low.leg_mm == pytest.approx(10.0)
    assert low.height_mm - low.thickness_mm / 2 == pytest.approx(10.0)
    assert low.thickness_mm <= 0.7


def test_corners_that_lean_alike_are_framed_alike() -> None:
    ring = plan(revised(BOX, shape=Regular(6, 120.0), slopes_deg=(15.0,))).ring
    for frame in frames_of(ring):
        assert frame.levels
        # tan λ = tan s/cos(180/n) (plane geometry).
        assert math.tan(math.radians(frame.lean_deg)) == pytest.approx(
            math.tan(math.radians(15.0)) / math.cos(math.radians(30.0))
        )


def test_mixed_corners_and_mixed_heights() -> None:
    job = revised(BOX, keys=Keys(depth_mm=7.0))
    mixed = corner_edits.with_kinds_at(job, 1, "other")
    made = plan(mixed)
    assert {key.kind for key in made.keys.at(1)} == {"dovetail"}
    assert {key.kind for key in made.keys.at(0)} == {"straight"}
    assert corner_edits.kinds_at(mixed, 1) == "other"
    back = corner_edits.with_kinds_at(mixed, 1, "keys")
    assert back == job
    both = plan(corner_edits.with_kinds_at(revised(BOX, height_mm=140.0, keys=Keys(depth_mm=6.0)), 2, "both"))
    heights = [(key.height_mm, key.thickness_mm) for key in both.keys.at(2)]
    assert len(heights) >= 3
    for (low, thick), (high, other) in itertools.pairwise(heights):
        assert high - low - (thick + other) / 2 >= max(thick, other, 3.0) - 1e-6
    ids = [step.id for step in both.steps]
    assert len(ids) == len(set(ids))


def test_a_strip_gives_what_is_told() -> None:
    """Triangles head to foot, neighbours sharing a slanting cut: laid out along the strip, they end where it ends."""
    made = plan(revised(BOX, keys=Keys(count=3, depth_mm=8.0)))
    cutting = cutting_of(made.job, made.keys.keys)
    high, kerf = 8.0 + 3.0, made.job.shop.saw.kerf_mm
    base = 2 * high * math.tan(math.radians(45.0))
    slant = kerf / math.cos(math.radians(45.0))
    x = slant  # the first cut
    for _ in made.keys.keys:
        x += base / 2 + slant  # along the strip's middle line each takes half its base
    assert cutting.strip_mm == pytest.approx(x + base / 2)  # and half a base at the ends
    for length in (100.0, 300.0, 777.0):
        count = from_strip(length, cutting)
        assert (count + 1) * cutting.per_mm <= length + 1e-6 < (count + 2) * cutting.per_mm + 1e-6


def test_hand_or_jig_by_the_makers_own_times() -> None:
    times = KeyTimes(cradle_min=30.0, setting_min=5.0, slot_min=0.5, hand_slot_min=6.0)
    job = revised(BOX, keys=Keys(), times=times)
    assert times_of(job, 1, 8) == (39.0, 48.0, 1)
    assert times_of(revised(job, times=replace(times, hand_slot_min=1.0)), 1, 8) == (39.0, 8.0, 9)
    assert times_of(revised(job, times=replace(times, hand_slot_min=0.2)), 1, 8).boxes_from == 0


def _glued_first(made: Plan) -> list[Glued]:
    return glued_at(made, frames_of(made.ring)[0])


def test_areas_of_every_school_side_by_side() -> None:
    found = {one.school: one for one in _glued_first(plan(revised(BOX, keys=Keys(leg_mm=10.0))))}
    # MATH: θ 90, leg 10 → area 50; two keys, two cheeks each.
    assert found["straight"].long_mm2 == pytest.approx(4 * 50.0)
    assert found["straight"].chosen
    assert found["none"].miter_mm2 == pytest.approx(12.0 * math.sqrt(2) * 90.0)
    assert found["straight"].miter_mm2 == pytest.approx(
        found["none"].miter_mm2 - 2 * 3.0 * 10.0 / math.sqrt(2)
    )
    assert not any(one.miter_is_long for one in found.values())
    splines = corner_edits.with_splines(BOX, True)
    spline = next(one for one in _glued_first(plan(splines)) if one.school == "spline")
    own = plan(splines).splines.splines[0]
    assert spline.chosen
    assert spline.long_mm2 == pytest.approx(4 * own.depth_mm * own.length_mm)
    assert spline.off_deg == pytest.approx(45.0)


def test_a_groove_is_kept_clear_of_by_what_a_spline_says() -> None:
    grooved = corner_edits.with_splines(revised(BOX, bottom=Panel()), True)
    made = plan(grooved)
    assert made.buildable
    spline = made.splines.splines[0]
    assert spline.stopped_low
    assert spline.low_mm > made.section.grooves[0].high_mm
    step = next(step for step in made.steps if step.operation == "spline_groove")
    assert "inside arris" in how(step, Format("mm"))
    order = [step.operation for step in made.steps]
    assert (
        order.index("bevel") < order.index("spline_groove") < order.index("spline_fit") < order.index("glue")
    )
    through = plan(revised(grooved, splines=replace(grooved.design.joints.splines, stop_bottom_mm=0.0)))  # type: ignore[type-var]
    assert "spline_meets" in {finding.code for finding in through.findings}


@pytest.mark.parametrize("stop_mm", [0.0, 12.0])
def test_splines_of_a_leaning_box_reach_its_rim_and_are_trimmed_to_it(stop_mm: float) -> None:
    """A level rim cuts a leaning spline aslant: it is made as long as the farther of its faces, a cut for each."""
    job = revised(BOX, shape=Regular(6, 150.0), slopes_deg=(18.0,), lid=None, keys=None)
    job = corner_edits.with_splines(job, True)
    job = revised(job, splines=replace(job.design.joints.splines, stop_bottom_mm=stop_mm, stop_top_mm=0.0))  # type: ignore[type-var]
    made = plan(job)
    splines = [piece for piece in made.pieces if piece.part == "spline"]
    longest = max(x for piece in splines for x, _y in (*piece.show_face, *piece.inside_face)) - min(
        x for piece in splines for x, _y in (*piece.show_face, *piece.inside_face)
    )
    along_arris = job.design.form.height_mm / made.frames[0].edge[2] - stop_mm
    assert longest > along_arris + 0.1
    stock = next(step for step in made.steps if step.operation == "spline_stock")
    assert stock.numbers["each_mm"] == pytest.approx(longest)
    assert stock.numbers["long_mm"] == pytest.approx(6 * (longest + job.shop.saw.kerf_mm))
    assert [piece.size_mm[0] for piece in splines] == pytest.approx([longest] * 6)
    high, low = splines[0].edge("high"), splines[0].edge("low")
    assert high is not None
    assert abs(high.bevel_deg) > 1.0  # level across a leaning corner
    assert low is not None
    assert (abs(low.bevel_deg) < 1e-6) == (stop_mm > 0)
    assert "spline_fit.level" in next(step for step in made.steps if step.operation == "spline_fit").says
