"""Dividers in dadoes: in rectangles, polygons, leaning rings and liners, and among contents."""

import math

import numpy as np
import pytest
import shapely
from msgspec.structs import replace

from assembly import divider_depths
from peristyle.model.design import Dividers, Lid, Liner, Outline, Panel, Rectangle, Regular, Thing
from peristyle.model.job import Job, job_of, revised
from peristyle.planning.inside.dividers import dado_angles
from peristyle.planning.plan import plan
from support.telling import with_fix

RECTANGLE = job_of(
    shape=Rectangle(200.0, 120.0, "inside"), height_mm=60.0, dividers=Dividers(across=3, along=1)
)


def test_dividers_divide_and_halve_where_they_cross() -> None:
    found = plan(RECTANGLE).dividers
    assert found.widths_mm == pytest.approx([(200 - 12) / 4] * 4)
    assert [p.length_mm for p in found.pieces] == [124.0] * 3 + [204.0]
    assert found.pieces[1].start_mm == pytest.approx(47 * 2 + 4)
    assert found.pieces[0].notches_mm == pytest.approx([2 + 58])
    assert found.pieces[3].notches_mm == pytest.approx([2 + 47, 2 + 98, 2 + 149])
    low, high = found.pieces[0].dadoes
    assert (low.side, low.at_mm, low.depth_mm) == (0, pytest.approx(47), 2.0)
    assert (high.side, high.at_mm) == (2, pytest.approx(200 - 47 - 4))
    given = plan(revised(RECTANGLE, dividers=Dividers(across=2, widths_mm=(50.0,)))).dividers
    assert given.widths_mm == pytest.approx([50, 71, 71])


@pytest.mark.parametrize(
    ("wrong", "code"),
    [
        (Dividers(across=2, widths_mm=(150.0, 90.0)), "compartment_vanishes"),
        (Dividers(dado_mm=6.0), "dado_wall_thin"),
        (Dividers(height_mm=70.0), "divider_too_tall"),
    ],
)
def test_what_is_wrong_is_said_and_mended(wrong: Dividers, code: str) -> None:
    bad = plan(revised(RECTANGLE, dividers=wrong))
    finding = next(f for f in bad.findings if f.code == code)
    assert code not in {f.code for f in plan(with_fix(bad.job, finding.fixes[0])).findings}


@pytest.mark.parametrize(
    "job",
    [
        job_of(shape=Regular(6, 240.0, "across_flats"), dividers=Dividers(across=2, along=2)),
        job_of(shape=Regular(5, 120.0), slopes_deg=(8.0,), bottom=Panel(), dividers=Dividers(across=2)),
        job_of(shape=Regular(3, 300.0), slopes_deg=(-4.0,), dividers=Dividers(across=2, along=1)),
        job_of(
            shape=Outline((200.0, 140.0, None, None), (80.0, 100.0, 95.0, None)),
            slopes_deg=(6.0, -3.0, 0.0, 10.0),
            dividers=Dividers(across=1, along=1, widths_mm=(70.0,)),
        ),
        job_of(
            shape=Regular(8, 260.0, "across_flats"),
            slopes_deg=(5.0,),
            bottom=Panel(),
            liner=Liner(thickness_mm=6.0, height_mm=50.0),
            dividers=Dividers(across=3),
        ),
    ],
)
def test_every_end_lies_in_its_dado(job: Job) -> None:
    found = plan(revised(job, height_mm=80.0, thicknesses_mm=(12.0,)))
    assert found.dividers.pieces
    assert "divider_meets_corner" not in {f.code for f in found.findings}
    for number in range(len(found.dividers.pieces)):
        assert divider_depths(found, number) == pytest.approx([2.0] * 4)


def test_an_upright_polygon_against_a_polygon_library() -> None:
    found = plan(job_of(shape=Regular(7, 200.0, "across_flats"), dividers=Dividers(across=3, height_mm=30.0)))
    room = shapely.Polygon(found.ring.inner_bottom)
    for piece in found.dividers.pieces:
        x0, _y0, x1, _y1 = shapely.Polygon(piece.outline).bounds
        clear = room.intersection(shapely.box(x0, -500, x1, 500)).bounds
        into = sum(2.0 / abs(found.ring.slabs[dado.side].uy) for dado in piece.dadoes)
        assert piece.length_mm == pytest.approx(clear[3] - clear[1] + into)
        for dado in piece.dadoes:  # the dado's near edge, walked from the side's start, is on the divider
            slab = found.ring.slabs[dado.side]
            x, y = found.ring.inner_bottom[dado.side - 1]
            mark = (x - slab.uy * dado.at_mm, y + slab.ux * dado.at_mm)
            assert min(abs(mark[0] - x0), abs(mark[0] - x1)) < 1e-9


def test_angles_of_a_dado() -> None:
    # Common practice: square to an upright wall at 90°; a hexagon's next-but-one wall at 60° from square.
    assert dado_angles(1.0, 0.0) == (0.0, 0.0)
    assert dado_angles(0.5, 0.0) == pytest.approx((60.0, 0.0))
    # Elementary geometry: the angle between the two planes, and of their line from the steepest one.
    for facing, slope in ((0.7, 12.0), (0.9, -25.0)):
        s = math.radians(slope)
        sin_facing = math.sqrt(1 - facing**2)
        wall = np.array([sin_facing * math.cos(s), facing * math.cos(s), -math.sin(s)])
        steepest = np.array([sin_facing * math.sin(s), facing * math.sin(s), math.cos(s)])
        divider = np.array([1.0, 0.0, 0.0])
        line = np.cross(wall, divider)
        tilt, gauge = dado_angles(facing, slope)
        assert math.sin(math.radians(tilt)) == pytest.approx(abs(wall @ divider))
        assert math.cos(math.radians(gauge)) == pytest.approx(abs(line @ steepest) / np.linalg.norm(line))


@pytest.mark.parametrize(("sides", "across", "along"), [(5, 1, 0), (6, 0, 1), (7, 1, 0), (3, 3, 0)])
def test_a_divider_into_a_corner_is_stopped_and_another_number_offered(
    sides: int, across: int, along: int
) -> None:
    bad = plan(job_of(shape=Regular(sides, 200.0), dividers=Dividers(across=across, along=along)))
    finding = next(f for f in bad.findings if f.code == "divider_meets_corner")
    assert (finding.severity, finding.place.kind) == ("stop", "corner")
    mended = plan(with_fix(bad.job, finding.fixes[0]))
    assert "divider_meets_corner" not in {f.code for f in mended.findings}
    assert mended.dividers.pieces


def test_steep_dadoes_need_another_way() -> None:
    found = plan(job_of(shape=Regular(6, 240.0, "across_flats"), dividers=Dividers(across=4)))
    finding = next(f for f in found.findings if f.code == "dado_past_stop")
    assert finding.numbers["tilt_deg"] == pytest.approx(60.0)


def test_compartments_hold_what_they_are_for() -> None:
    blocks = Thing(count=8, length_mm=24.0, width_mm=30.0, height_mm=40.0)
    job = job_of(
        shape=Rectangle(1.0, 1.0), contents=(blocks,), height_mm=60.0, dividers=Dividers(across=1, along=1)
    )
    found = plan(job)
    # 4 × 2 blocks in 2 × 2 compartments: each with its own 2 mm of play (common practice).
    assert found.dividers.widths_mm == pytest.approx([2 * 24 + 2] * 2)
    assert found.dividers.depths_mm == pytest.approx([30 + 2] * 2)
    spots = found.contents.blocks[0].spots_mm
    feet = [shapely.Polygon(piece.outline) for piece in found.dividers.pieces]
    for x, y in spots:
        thing = shapely.box(x - 12, y - 15, x + 12, y + 15)
        assert all(thing.distance(foot) == pytest.approx(1.0) or thing.distance(foot) > 1 for foot in feet)
    inside = shapely.Polygon(found.ring.inner_bottom)
    assert all(inside.contains(shapely.box(x - 12, y - 15, x + 12, y + 15)) for x, y in spots)


def test_a_lid_taken_off_the_height_counts() -> None:
    job = revised(RECTANGLE, lid=Lid(), bottom=Panel(), dividers=Dividers(height_mm=48.0))
    finding = next(f for f in plan(job).findings if f.code == "divider_too_tall")
    assert finding.numbers["room_mm"] == pytest.approx(60 - 3 - 10)


@pytest.mark.parametrize(
    ("shape", "thing", "dividers", "blocked"),
    [
        (Regular(8, 1.0), {"count": 7, "round": True}, Dividers(across=2), True),
        (Rectangle(1.0, 1.0), {"count": 8}, Dividers(across=1, along=1), False),
        (Rectangle(1.0, 1.0), {"count": 8}, Dividers(across=1, widths_mm=(20.0,)), True),
    ],
)
def test_dividers_in_the_way_of_things_are_said(
    shape: Regular | Rectangle, thing: dict[str, int], dividers: Dividers, blocked: bool
) -> None:
    things = (Thing(length_mm=24.0, width_mm=24.0, height_mm=30.0, **thing),)
    dividers = replace(dividers, height_mm=20.0)
    found = plan(job_of(shape=shape, contents=things, height_mm=50.0, dividers=dividers))
    said = [f for f in found.findings if f.code == "divider_among_things"]
    assert bool(said) == blocked
    if said:
        assert "divider_among_things" not in {
            f.code for f in plan(with_fix(found.job, said[0].fixes[0])).findings
        }
