"""Free rings: what is knocked out comes back, edits keep the ring closed and convex."""

import math
import random

import pytest
import shapely

from peristyle.core.closing import GAP_MM, TURN_DEG, Ring, close_ring, directions_deg
from peristyle.core.errors import PeristyleError, ShapeError
from peristyle.model import ring_edits
from peristyle.model.design import Outline, Rectangle, Regular, Thing
from peristyle.model.job import Job, job_of
from peristyle.planning.inside.contents import arrange
from peristyle.planning.plan import plan
from peristyle.planning.stock.largest import largest


def random_ring(chance: random.Random) -> tuple[list[float], list[float]]:
    """Sides and corners of a convex outline with points on an ellipse."""
    while True:
        count = chance.randint(3, 9)
        turns = sorted(chance.uniform(0, 2 * math.pi) for _ in range(count))
        wide, deep = chance.uniform(60, 300), chance.uniform(60, 300)
        ring = None
        try:
            ring = ring_edits.measured_points([(wide * math.cos(t), deep * math.sin(t)) for t in turns])
        except ShapeError:
            continue
        if min(ring.lengths_mm) > 20 and all(25 < c < 170 for c in ring.interiors_deg):
            return list(ring.lengths_mm), list(ring.interiors_deg)


def closes(lengths: tuple[float, ...], corners: tuple[float, ...], turn_deg: float = 1e-6) -> bool:
    headings = [math.radians(h) for h in directions_deg(corners)]
    x = sum(v * math.cos(h) for v, h in zip(lengths, headings, strict=True))
    y = sum(v * math.sin(h) for v, h in zip(lengths, headings, strict=True))
    return math.hypot(x, y) < GAP_MM and abs(sum(180 - c for c in corners) - 360) < turn_deg


def stood(job: Job) -> tuple[Outline, Ring]:
    """The free ring of a job: as it was typed, and as it stands."""
    shape = job.design.form.shape
    assert isinstance(shape, Outline)
    return shape, ring_edits.ring_of(shape)


@pytest.mark.parametrize("seed", range(60))
def test_up_to_three_values_knocked_out_come_back(seed: int) -> None:
    chance = random.Random(seed)
    lengths, corners = random_ring(chance)
    places = [("length", i) for i in range(len(lengths))] + [("corner", i) for i in range(len(lengths))]
    known_lengths: list[float | None] = list(lengths)
    known_corners: list[float | None] = list(corners)
    for kind, i in chance.sample(places, chance.randint(1, 3)):
        (known_lengths if kind == "length" else known_corners)[i] = None
    try:
        ring = close_ring(known_lengths, known_corners)
    except ShapeError as error:
        assert error.code in ("outline_open", "outline_unknowns")  # parallel sides settle nothing
        assert sum(v is None for v in known_lengths) >= 2
        return
    assert closes(ring.lengths_mm, ring.interiors_deg)
    for given, found in zip(
        [*known_lengths, *known_corners], [*ring.lengths_mm, *ring.interiors_deg], strict=True
    ):
        assert given is None or found == pytest.approx(given, abs=1e-6)


@pytest.mark.parametrize("seed", range(40))
def test_edits_keep_the_ring_closed_and_convex(seed: int) -> None:
    chance = random.Random(1000 + seed)
    lengths, corners = random_ring(chance)
    job = job_of(
        shape=Outline(tuple(lengths), tuple(corners)),
        slopes_deg=tuple(chance.uniform(-4, 9) for _ in lengths),
    )
    for _ in range(12):
        count = job.design.side_count
        side = chance.randrange(count)
        try:
            match chance.randrange(5):
                case 0:
                    job = ring_edits.set_length(job, side, chance.uniform(15, 320))
                case 1:
                    job = ring_edits.set_corner(job, side, chance.uniform(40, 165))
                case 2:
                    job = (
                        ring_edits.move_corner(job, side, chance.uniform(-40, 40), chance.uniform(-40, 40))
                        or job
                    )
                case 3 if count < 12:
                    job = ring_edits.add_side(job, side)
                case _:
                    job = ring_edits.remove_side(job, side)
        except PeristyleError as error:
            assert str(error).endswith(".")
            continue
        _shape, ring = stood(job)
        assert closes(ring.lengths_mm, ring.interiors_deg)
        assert all(0 < c < 180 for c in ring.interiors_deg)
        assert len(job.design.form.slopes_deg) in (1, job.design.side_count)
        assert shapely.Polygon(ring_edits.walked(ring)).is_valid


@pytest.mark.parametrize("seed", range(60))
def test_what_is_worked_out_follows_and_what_was_typed_stays(seed: int) -> None:
    chance = random.Random(3000 + seed)
    lengths, corners = random_ring(chance)
    job = job_of(shape=Outline(tuple(lengths), tuple(corners)))
    for _ in range(16):
        at, name = chance.randrange(len(lengths)), chance.choice(("lengths_mm", "interiors_deg"))
        edit = ring_edits.set_length if name == "lengths_mm" else ring_edits.set_corner
        before, was = stood(job)
        now = getattr(was, name)[at]
        opens = chance.random() < 0.4
        value = math.nan if opens else now * chance.uniform(0.9, 1.1)
        told = [*before.lengths_mm, *before.interiors_deg]
        try:
            job = edit(job, at, value)
        except PeristyleError as error:
            assert str(error).endswith(".")
            continue
        shape, ring = stood(job)
        assert closes(ring.lengths_mm, ring.interiors_deg, TURN_DEG)
        after = [*shape.lengths_mm, *shape.interiors_deg]
        if opens:  # the ring stays as it was
            assert ring.lengths_mm == pytest.approx(ring_edits.ring_of(before).lengths_mm, abs=0.06)
            assert getattr(shape, name)[at] is None
            assert after.count(None) <= 3
        else:
            assert getattr(shape, name)[at] == value
            assert getattr(ring, name)[at] == pytest.approx(value, abs=GAP_MM)
            moved = [k for k, (old, new) in enumerate(zip(told, after, strict=True)) if old != new]
            settled = told.count(None) == 3 and getattr(before, name)[at] is not None
            if settled:  # what is open takes all of it
                assert moved == [at + (0 if name == "lengths_mm" else len(lengths))]


@pytest.mark.parametrize("seed", range(40))
def test_contents_lie_inside_and_apart(seed: int) -> None:
    chance = random.Random(2000 + seed)
    things = tuple(
        Thing(
            count=chance.randint(1, 20), length_mm=chance.uniform(10, 60), width_mm=chance.uniform(10, 60),
            height_mm=20.0, play_mm=chance.uniform(0.5, 4), layers=chance.randint(1, 2),
        )
        for _ in range(chance.randint(1, 3))
    )  # fmt: skip
    shape = Rectangle(1.0, 1.0) if seed % 2 else Regular(chance.randint(3, 10), 1.0)
    found = plan(job_of(shape=shape, contents=things, height_mm=90.0))
    room = shapely.Polygon(found.ring.inner_bottom)
    placed = []
    for block in found.contents.blocks:
        thing = block.thing
        assert len(block.spots_mm) == math.ceil(thing.count / thing.layers)
        assert block.columns * block.rows >= len(block.spots_mm)
        half = thing.length_mm / 2, thing.width_mm / 2
        placed += [shapely.box(x - half[0], y - half[1], x + half[0], y + half[1]) for x, y in block.spots_mm]
    together = shapely.union_all(placed)
    assert together.area == pytest.approx(sum(p.area for p in placed))
    assert room.buffer(1e-6).contains(together)


@pytest.mark.parametrize("count", range(1, 61))
def test_arrangements_waste_little(count: int) -> None:
    thing = Thing(count=count, length_mm=24.0, width_mm=24.0, height_mm=20.0)
    columns, rows = arrange(thing)
    assert columns * rows - count < max(columns, rows)
    assert columns + rows <= 2 * math.ceil(math.sqrt(count)) + 2 or count < 4 or columns * rows == count


@pytest.mark.parametrize("seed", range(15))
def test_the_largest_of_any_ring_is_buildable_and_tight(seed: int) -> None:
    chance = random.Random(3000 + seed)
    lengths, corners = random_ring(chance)
    job = job_of(
        shape=Outline(tuple(lengths), tuple(corners)), height_mm=60.0, thicknesses_mm=(5.0,),
        slopes_deg=(chance.uniform(0, 12),),
    )  # fmt: skip
    best = largest(job)
    assert best is not None
    found = plan(best.job)
    assert not [f for f in found.findings if f.severity == "stop" and f.place.kind == "board"]
    assert found.wrap.spare_mm == pytest.approx(0.0, abs=1e-3)
