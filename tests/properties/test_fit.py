"""How rings close with their errors: against an optimizer, published sums, and solids; causes found again."""

import math
import random
import time

import manifold3d
import numpy as np
import pytest

from peristyle.core.planes import EndCut
from peristyle.model.design import House, Rectangle, Regular
from peristyle.model.job import Spread, revised
from peristyle.model.progress import with_measured
from peristyle.planning.fit.closing import closed, laid, rolled, shared
from peristyle.planning.fit.diagnose import diagnose
from peristyle.planning.fit.errors import Of, Practice, effects
from peristyle.planning.fit.ring import Joint, at_middle, levels_of, planned
from peristyle.planning.fit.simulate import frame, halves_meet, last_joint, simulate
from peristyle.planning.plan import plan
from support import fits
from support.solids import in_box, solid

EIGHT = fits.box(Regular(8, 100.0))
ONLY_TILTS = Spread(
    tilt_set_deg=0.05,
    tilt_cut_deg=0.05,
    swing_set_deg=0.0,
    swing_cut_deg=0.0,
    stop_set_mm=0.0,
    stop_cut_mm=0.0,
)


@pytest.mark.parametrize("seed", range(5))
def test_a_planned_ring_closes_and_shares_its_errors_as_an_optimizer_does(seed: int) -> None:
    ring = plan(fits.random_box(seed, 6)).ring
    assert (
        max(joint.widest_mm for joint in rolled(levels_of(ring, [planned(s) for s in ring.sides]), 1)) < 1e-9
    )
    levels = levels_of(ring, fits.off(ring, random.Random(seed)))
    ours = shared(levels, "band")
    theirs = fits.optimized(levels)
    for joint, (outside, inside) in zip(ours, theirs, strict=True):
        assert joint.outside_mm == pytest.approx(outside, abs=2e-6)
        assert joint.inside_mm == pytest.approx(inside, abs=2e-6)
        assert min(joint.outside_mm, joint.inside_mm) >= 0.0


def test_the_three_kinds_of_closing_are_as_the_sums_say() -> None:
    """8 sides of 100, 12 thick, every bevel 0.1° too large: the faces disagree by 1.6°, 0.363 mm at one corner; rolled
    up the ends miss by 2nε·R = 3.65 mm; shared, 0.045 mm a corner. Source: sums of small angles (common practice).
    """
    ring = plan(EIGHT).ring
    made = [planned(side) for side in ring.sides]
    made = [
        one._replace(start=EndCut(0.0, one.start.bevel_deg + 0.1), end=EndCut(0.0, one.end.bevel_deg + 0.1))
        for one in made
    ]
    last = closed(ring, made, "rolled", 7)[7]
    assert last.inside_mm - last.outside_mm == pytest.approx(0.363, abs=5e-4)
    assert math.hypot(last.outside_mm, last.step_mm) == pytest.approx(3.65, abs=0.03)
    assert last.outside_mm < 0  # an overlap that cannot be
    band = closed(ring, made, "band", 7)
    assert [joint.inside_mm for joint in band] == pytest.approx([0.0454] * 8, abs=1e-4)
    assert [joint.outside_mm for joint in band] == pytest.approx([0.0] * 8, abs=1e-9)


def test_chance_and_spread_are_those_of_the_closed_forms() -> None:
    """One set-up and every cut 0.05°: the sum's deviation √(Σm²σc² + 2nσr²) = 0.8246°, one corner's √(4σc² + 6σr²/n)
    = 0.10897°, 0.0247 mm; within 0.05 mm erf(0.05/√2·0.0247) = 0.957. Source: variances of sums (textbook).
    """
    made = plan(revised(EIGHT, spread=ONLY_TILTS))
    found = simulate(made, Practice(glue="band"), limit_mm=0.05)
    assert found.turns_deg == pytest.approx(0.8246, abs=1e-4)
    assert found.spread_mm == pytest.approx(0.0247, abs=1e-4)
    one_corner = math.erf(0.05 / (math.sqrt(2) * found.spread_mm))
    assert one_corner == pytest.approx(0.957, abs=1e-3)
    assert one_corner**8 < found.chance < one_corner
    assert sum(found.shares.values()) == pytest.approx(1.0)


def test_shares_are_what_mending_one_error_takes_away() -> None:
    """Each kind of error set to nothing by itself: the variance falls by its share, drawn anew."""
    job = fits.box(Rectangle(220.0, 140.0))
    whole = simulate(plan(job), Practice(), seed=5)
    usual = {"tilt_set_deg": 0.03, "swing_set_deg": 0.03, "tilt_cut_deg": 0.02, "stop_cut_mm": 0.05}
    job = revised(job, spread=Spread(**usual))
    whole = simulate(plan(job), Practice(), seed=5)
    variance = whole.spread_mm**2
    for name, key in (("tilt_set_deg", "tilt_set"), ("tilt_cut_deg", "tilt_cut")):
        less = simulate(plan(revised(job, spread=Spread(**{**usual, name: 0.0}))), Practice(), seed=5)
        assert (variance - less.spread_mm**2) / variance > 0.0
        kind: Of = "tilt_set" if key == "tilt_set" else "tilt_cut"
        assert whole.shares[kind] > 0.0
    assert sum(whole.shares.values()) == pytest.approx(1.0)


def test_what_is_drawn_is_what_closing_one_by_one_gives() -> None:
    """A few boxes by chance, each closed exactly: the linear sums differ only by squares of small angles."""
    made = plan(fits.box(Rectangle(220.0, 140.0)))
    every = effects(made, Practice())
    chance = np.random.default_rng(3)
    ring = frame(made)
    for _ in range(5):
        drawn = chance.standard_normal(len(every.sds)) * every.sds * 0.1
        lengths = drawn @ every.lengths
        missed = drawn @ every.missed
        alpha = drawn @ every.turns  # how much more every corner turns: laid to the ends by halves
        levels = levels_of(made.ring, [planned(side) for side in made.ring.sides])
        moved = [
            level._replace(
                length_mm=level.length_mm + lengths[i], end_rad=level.end_rad - alpha[i] / 2,
                start_rad=level.start_rad - alpha[i - 1] / 2,
            )
            for i, level in enumerate(levels)
        ]  # fmt: skip
        exact = rolled(moved, 3)[3]
        n = ring.count
        matrix = ring.matrix()[:, [3, n + 3, 2 * n + 3]]
        outside, inside, _step = -np.linalg.inv(matrix) @ missed
        assert (outside, inside) == pytest.approx((exact.outside_mm, exact.inside_mm), abs=2e-4)


@pytest.mark.parametrize(
    ("shape", "slope"), [(Regular(6, 120.0), 14.0), (Rectangle(200.0, 140.0), -11.0), (Regular(5, 90.0), 0.0)]
)
def test_a_level_cut_is_that_of_the_solid(shape: object, slope: float) -> None:
    """The side as a solid sliced half way up: its edge and the angles of its ends."""
    made = plan(fits.box(shape, slope))  # type: ignore[arg-type]
    for side in made.ring.sides[:2]:
        piece = next(p for p in made.pieces if p.id == f"side.{side.name}")
        whole: manifold3d.Manifold = in_box(piece, solid(piece))
        cut = whole.slice(made.job.design.form.height_mm / 2)
        level = at_middle(made.ring.slabs[side.index], side.slant_mm, planned(side))
        area = level.wall_mm * (
            level.length_mm
            - level.wall_mm / 2 * (1 / math.tan(level.start_rad) + 1 / math.tan(level.end_rad))
        )
        assert cut.area() == pytest.approx(area, rel=1e-6)


def test_a_planted_cause_is_found_again_or_said_to_be_unsure() -> None:
    right = 0
    for seed in range(100):
        job, practice, about, of = fits.planted(seed)
        found = diagnose(plan(job), practice)
        first = found.causes[0] if found.causes else None
        if (first is not None and (first.of, first.about) == (of, about)) or (
            not found.certain and found.nothing < 0.9
        ):
            right += 1
    assert right >= 95


def test_nothing_measured_is_nothing_found_and_a_sound_box_is_told_so() -> None:
    assert not diagnose(plan(EIGHT), Practice()).causes
    job = EIGHT
    for corner in plan(EIGHT).ring.corners:
        job = with_measured(job, f"corner.{corner.name}.gap_inside_mm", 0.01)
    found = diagnose(plan(job), Practice(glue="band"))
    assert found.nothing > 0.5


def test_gaps_alone_leave_two_causes_and_the_measurement_that_parts_them() -> None:
    """One wide corner, open inside: either of its two bevels. Measuring one of them tells."""
    made = plan(fits.box(Regular(8, 100.0)))
    job = fits.box(Regular(8, 100.0))
    sides = [planned(side) for side in made.ring.sides]
    sides[2] = sides[2]._replace(end=EndCut(0.0, sides[2].end.bevel_deg + 0.6))
    for corner, joint in zip(made.ring.corners, closed(made.ring, sides, "band", 0), strict=True):
        job = with_measured(job, f"corner.{corner.name}.gap_inside_mm", joint.inside_mm)
        job = with_measured(job, f"corner.{corner.name}.gap_outside_mm", joint.outside_mm)
    found = diagnose(plan(job), Practice(glue="band"))
    assert not found.certain
    assert {cause.about for cause in found.causes[:2]} == {("C.end",), ("D.start",)}
    assert found.tells in ("side.C.end.bevel_deg", "side.D.start.bevel_deg")


def test_halves_meet_in_one_plane_where_the_ring_is_even() -> None:
    assert halves_meet(plan(EIGHT))
    assert not halves_meet(plan(fits.box(Regular(5, 100.0))))
    begun = time.perf_counter()
    assert simulate(plan(EIGHT), Practice(glue="halves")).chance > 0.99
    assert time.perf_counter() - begun < 30.0


@pytest.mark.parametrize("seed", range(12))
def test_no_side_lies_in_another_and_gaps_are_where_they_are_told(seed: int) -> None:
    """The sides as areas where the closing lays them: nothing is shared, and the ring comes back to where it began."""
    ring = plan(fits.random_box(seed, 24)).ring
    levels = levels_of(ring, fits.off(ring, random.Random(seed)))
    for way in ("band", "cauls"):
        joints = shared(levels, "band" if way == "band" else "cauls")
        sides = laid(levels, joints)
        areas = [manifold3d.CrossSection([side]) for side in sides]
        for index, joint in enumerate(joints):
            after = (index + 1) % len(sides)
            assert (areas[index] ^ areas[after]).area() < 1e-3
            end, begin = np.array(sides[index][1]), np.array(sides[after][0])
            gap = math.hypot(joint.outside_mm, joint.step_mm)
            assert float(np.hypot(*(end - begin))) == pytest.approx(gap, abs=1e-6)


_ROOFS = [
    House(200.0, 90.0, pitch, overhang, eaves=eaves)
    for pitch, overhang in ((30.0, 15.0), (52.0, 4.0), (65.0, 40.0))
    for eaves in ("square", "plumb")
]


@pytest.mark.parametrize("shape", [House(200.0, 90.0, 40.0), *_ROOFS])
@pytest.mark.parametrize("slope", [0.0, 8.0])
def test_a_roof_laid_on_its_walls_closes_and_lies_where_the_solid_does(shape: House, slope: float) -> None:
    """Its leaves meet the walls with their inside faces; each side's area is that of its solid, sliced half way up."""
    made = plan(fits.box(shape, slope))
    sides = [planned(side) for side in made.ring.sides]
    levels = levels_of(made.ring, sides)
    for joints in (*(rolled(levels, last) for last in range(5)), shared(levels, "band")):
        assert max(joint.widest_mm for joint in joints) < 1e-9
    areas = [manifold3d.CrossSection([side]) for side in laid(levels, [Joint()] * 5)]
    pieces = [next(p for p in made.pieces if p.id == f"side.{side.name}") for side in made.ring.sides]
    wholes: list[manifold3d.Manifold] = [in_box(piece, solid(piece)) for piece in pieces]
    slices = [whole.slice(made.job.design.form.height_mm / 2) for whole in wholes]
    for index, area in enumerate(areas):
        assert area.area() == pytest.approx(slices[index].area(), rel=1e-6)
        assert (area ^ areas[(index + 1) % 5]).area() < 1e-6


@pytest.mark.parametrize("shape", _ROOFS)
def test_what_is_off_in_a_laid_roof_shows_where_it_closes(shape: House) -> None:
    """A longer leaf and other eaves only run out further; a longer wall opens the ridge, sides never lie in another."""
    ring = plan(fits.box(shape)).ring
    sides = [planned(side) for side in ring.sides]
    eaves = [*sides]
    eaves[2] = eaves[2]._replace(
        length_mm=eaves[2].length_mm + 1.5, start=EndCut(0.0, eaves[2].start.bevel_deg + 3.0)
    )
    assert max(joint.widest_mm for joint in closed(ring, eaves, "rolled", 2)) < 1e-9
    wall = [*sides]
    wall[1] = wall[1]._replace(length_mm=wall[1].length_mm + 0.6)
    ridge = closed(ring, wall, "rolled", 2)[2]
    # The leaf on it is lifted with it, along the ridge's upright joint: a step, and no gap.
    assert (abs(ridge.step_mm), abs(ridge.outside_mm)) == pytest.approx((0.6, 0.0), abs=1e-9)
    for seed in range(4):
        levels = levels_of(ring, fits.off(ring, random.Random(seed)))
        joints = shared(levels, "band")
        areas = [manifold3d.CrossSection([side]) for side in laid(levels, joints)]
        for index in range(5):
            assert (areas[index] ^ areas[(index + 1) % 5]).area() < 1e-3


def test_each_error_of_a_laid_roof_weighs_as_closing_with_it_tells() -> None:
    """One end or one length off by a hair, closed exactly, against the sums the chances are made from; eaves weigh
    nothing.
    """
    made = plan(fits.box(House(200.0, 90.0, 52.0, 14.0)))
    every, hair, at = effects(made, Practice()), 1e-3, 0
    joint = last_joint(frame(made), at)
    for source, missed in zip(every.every, every.missed, strict=True):
        if source.of not in ("tilt_cut", "stop_cut"):
            continue
        side, _dot, end = source.about[0].partition(".")
        sides = [planned(one) for one in made.ring.sides]
        number = "ABCDE".index(side)
        one = sides[number]
        if end:
            cut: EndCut = getattr(one, end)
            sides[number] = one._replace(**{end: cut._replace(bevel_deg=cut.bevel_deg + hair)})
        else:
            sides[number] = one._replace(length_mm=one.length_mm + hair)
        exact = rolled(levels_of(made.ring, sides), at)[at]
        outside, inside, _step = missed * hair @ joint.T
        assert (outside, inside) == pytest.approx((exact.outside_mm, exact.inside_mm), abs=1e-6), source.about
        if source.about[0] in ("C.start", "D.end", "C", "D"):
            assert max(abs(outside), abs(inside)) < 1e-12
