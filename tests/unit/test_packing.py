"""Round things packed in a polygon: against published circles, closed forms and a polygon library."""

import math

import pytest
import shapely

from peristyle.model.design import Regular, Thing
from peristyle.model.job import job_of
from peristyle.planning.inside.packing import packed
from peristyle.planning.plan import plan
from peristyle.reference.packings import round_packings

# Radius of the smallest known circle round n unit circles. Source: S. Kravitz, "Packing cylinders
# into cylindrical containers", Mathematics Magazine 40 (1967), and R. L. Graham and others, "Dense
# packings of congruent circles in a circle", Discrete Mathematics 181 (1998); values from memory.
PUBLISHED = {
    1: 1.0, 2: 2.0, 3: 2.1547, 4: 2.4142, 5: 2.7013, 6: 3.0, 7: 3.0, 8: 3.3048, 9: 3.6131, 10: 3.8130,
    11: 3.9238, 12: 4.0296, 13: 4.2361, 14: 4.3284, 15: 4.5214, 16: 4.6154, 17: 4.7920, 18: 4.8637,
    19: 4.8637, 20: 5.1223,
}  # fmt: skip


def nearest(spots: tuple[tuple[float, float], ...]) -> float:
    return min((math.dist(a, b) for i, a in enumerate(spots) for b in spots[:i]), default=math.inf)


@pytest.mark.parametrize("count", sorted(round_packings()))
def test_the_shipped_table_agrees_with_published_circles(count: int) -> None:
    spots = round_packings()[count]
    assert len(spots) == count
    assert nearest(spots) >= 2 - 1e-8
    reach = 1 + max(math.hypot(*spot) for spot in spots)
    if count in PUBLISHED:
        assert reach == pytest.approx(PUBLISHED[count], abs=6e-5)


@pytest.mark.parametrize("k", [1, 2, 3, 4])
def test_numbers_that_fill_a_polygon_fill_it(k: int) -> None:
    # Elementary geometry: rows of touching circles that lie along every side.
    assert packed(1 + 3 * k * (k + 1), 6).apothem == pytest.approx(1 + k * math.sqrt(3))
    assert packed((k + 1) * (k + 2) // 2, 3).apothem == pytest.approx(1 + k / math.sqrt(3))
    assert packed(k * k, 4).apothem == pytest.approx(k, abs=1e-8)


@pytest.mark.parametrize("sides", [3, 4, 5, 6, 8, 24])
@pytest.mark.parametrize("count", [2, 8, 12, 23, 31, 75])
def test_things_stand_clear_of_each_other_and_the_walls(sides: int, count: int) -> None:
    jar = Thing(count=count, length_mm=50.0, width_mm=50.0, height_mm=30.0, round=True, play_mm=1.0)
    found = plan(job_of(shape=Regular(sides, 1.0), contents=(jar,), height_mm=40.0))
    spots = found.contents.blocks[0].spots_mm
    room = shapely.Polygon(found.ring.inner_bottom)
    assert len(spots) == count
    assert nearest(spots) >= 50 - 1e-6
    clear = min(room.exterior.distance(shapely.Point(spot)) for spot in spots) - 25
    assert clear == pytest.approx(0.5, abs=1e-6)  # half the play on each side, and nothing wasted
    assert all(room.contains(shapely.Point(spot)) for spot in spots)
    columns = round(math.sqrt(count))
    rows = Thing(
        count=count, length_mm=50.0, width_mm=50.0, height_mm=30.0, round=True, columns=columns, play_mm=1.0
    )
    in_rows = plan(job_of(shape=Regular(sides, 1.0), contents=(rows,), height_mm=40.0))
    assert found.ring.slabs[0].offset_mm <= in_rows.ring.slabs[0].offset_mm + 1e-9


def test_very_many_things_are_packed_as_densely_as_circles_go() -> None:
    # Lagrange: no packing of the plane is denser than pi/sqrt(12) = 0.9069; a large patch comes near.
    found = packed(2000, 6)
    area = 6 * found.apothem**2 * math.tan(math.pi / 6)
    assert 0.85 < 2000 * math.pi / area < math.pi / math.sqrt(12)


@pytest.mark.parametrize(
    ("sides", "count", "side_in_diameters"),
    [(4, 2, 1 + 1 / math.sqrt(2)), (4, 5, 1 + math.sqrt(2)), (4, 3, 1 + math.cos(math.radians(15)))],
)
def test_known_packings_in_a_square(sides: int, count: int, side_in_diameters: float) -> None:
    # From memory: two circles in a square, d(1 + 1/sqrt 2); five, d(1 + sqrt 2); three, d(1 + cos 15 deg).
    assert 2 * packed(count, sides).apothem == pytest.approx(2 * side_in_diameters, abs=1e-6)


def test_seven_in_a_hexagon_are_six_round_one() -> None:
    assert packed(7, 6).apothem == pytest.approx(1 + math.sqrt(3), abs=1e-6)
