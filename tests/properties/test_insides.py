"""What stands inside any ring: dividers seated in their walls, halved where they cross, or a reason why not."""

import json
import math
import random

import pytest
import shapely
from test_rings import random_ring

from assembly import divider_depths
from peristyle.core.lengths import Format
from peristyle.drawing.operations import operation_drawing
from peristyle.export.cutlist import cut_list
from peristyle.export.planjson import as_data
from peristyle.model.design import Dividers, Liner, Outline, Panel, Rectangle, Regular, Segments, Shape, Thing
from peristyle.model.job import Job, job_of, revised
from peristyle.model.stock import Board
from peristyle.planning.plan import Plan, plan
from support.schemas import check_plan
from support.telling import with_fix

CLASHES = {"divider_meets_corner", "dividers_cross_in_wall"}


def random_box(chance: random.Random) -> Job:
    lengths, corners = random_ring(chance)
    shapes: list[Shape] = [
        Outline(tuple(lengths), tuple(corners), "inside"),
        Regular(chance.choice([3, 5, 6, 7, 8, 12]), chance.uniform(150, 400), "across_flats"),
        Rectangle(chance.uniform(80, 400), chance.uniform(80, 250), "inside"),
    ]
    job = job_of(
        shape=chance.choice(shapes),
        height_mm=chance.uniform(60, 120),
        units=chance.choice(["mm", "in"]),
        thicknesses_mm=(chance.uniform(8, 14),),
        slopes_deg=(chance.choice([0.0, chance.uniform(-8, 12)]),),
        board=Board(length_mm=20_000.0, width_mm=300.0, thickness_mm=20.0),
        bottom=Panel(segments=Segments(count=chance.choice([5, 8, 9]))),
    )
    sides = job.design.side_count
    if chance.random() < 0.3:
        slopes = tuple(chance.uniform(-5, 8) for _ in range(sides))
        job = revised(job, slopes_deg=slopes)
    liner = Liner(thickness_mm=chance.uniform(5, 9), height_mm=50.0) if chance.random() < 0.3 else None
    dividers = Dividers(
        across=chance.randint(0, 4),
        along=chance.randint(0, 3),
        thickness_mm=chance.uniform(2, 7),
        dado_mm=chance.uniform(1, 2),
        height_mm=chance.uniform(15, 45),
    )
    return revised(job, liner=liner, dividers=dividers)


def check(found: Plan) -> None:
    own, wanted = found.dividers, found.job.design.inside.dividers
    assert wanted is not None
    assert len(own.pieces) == wanted.across + wanted.along
    feet = {piece.name: shapely.Polygon(piece.outline) for piece in own.pieces}
    for number, piece in enumerate(own.pieces):
        assert divider_depths(found, number) == pytest.approx([wanted.dado_mm] * 4)
        others = [feet[p.name] for p in own.pieces if p.run != piece.run]
        crossed = [f for f in others if f.intersection(feet[piece.name]).area > 1e-6]
        assert len(crossed) == len(piece.notches_mm)
        x0, y0, _x1, _y1 = feet[piece.name].bounds
        for notch, other in zip(piece.notches_mm, crossed, strict=True):
            edge = other.bounds[1] - y0 if piece.run == "across" else other.bounds[0] - x0
            assert notch == pytest.approx(edge)


@pytest.mark.parametrize("seed", range(120))
def test_dividers_are_seated_in_any_ring_or_it_says_why(seed: int) -> None:
    chance = random.Random(seed)
    found = plan(random_box(chance))
    if seed % 6 == 0:  # the schema takes longer than the plan
        check_plan(json.loads(json.dumps(as_data(found))))
    assert cut_list(found).count("\r\n") > len(found.ring.sides)
    for cut in found.steps:
        assert operation_drawing(found, cut, Format(found.job.design.units)).shapes
        assert all(s.value >= -1e-9 for s in cut.settings if s.gauge in ("fence", "stop", "width", "height"))
    codes = {finding.code for finding in found.findings}
    if not found.ring.stands or "compartment_vanishes" in codes:
        assert not found.dividers.pieces
        return
    if codes & CLASHES:
        offered = next(f for f in found.findings if f.code in CLASHES).fixes
        mended = plan(with_fix(found.job, offered[0]))
        assert not {f.code for f in mended.findings} & CLASHES
        return
    check(found)


@pytest.mark.parametrize("seed", range(80))
def test_panels_lie_in_their_grooves_and_their_blanks_cover_them(seed: int) -> None:
    chance = random.Random(1000 + seed)
    job = random_box(chance)
    count = chance.choice([5, 8, 12, job.design.side_count])
    segments = Segments(count=count, style=chance.choice(["pie", "ring"]), ring_mm=chance.uniform(10, 60))
    panel = Panel(
        height_mm=chance.uniform(3, 9), depth_mm=4.0, play_mm=chance.uniform(0.2, 1.0), segments=segments
    )
    found = plan(revised(job, bottom=panel, top=panel, dividers=None, liner=None))
    for made, groove in zip(found.section.panels, found.section.grooves, strict=True):
        for i, slab in enumerate(found.ring.slabs):
            # How far the panel's plumb edge goes in, level, at the groove's two walls: the shallower decides.
            edge = made.outline[i]
            out = slab.ux * edge[0] + slab.uy * edge[1]
            into = [out - slab.inner_mm(level) for level in (groove.low_mm, groove.high_mm)]
            assert min(into) == pytest.approx(panel.depth_mm - panel.play_mm)
            assert max(into) - min(into) == pytest.approx(
                groove.width_mm * abs(slab.sin_slope) / slab.cos_slope
            )
        part = made.segments
        assert part is not None
        radius = part.outer_mm / 2 / math.sin(math.pi / count)
        shape = shapely.Polygon(made.outline)
        middle = (0.0, 0.0)
        if not isinstance(job.design.form.shape, Regular | Rectangle) or job.design.side_count != count:
            x0, y0, x1, y1 = shape.bounds
            middle = ((x0 + x1) / 2, (y0 + y1) / 2)
        blank = shapely.Polygon(
            [
                (
                    middle[0] + radius * math.cos(-math.pi / 2 + math.pi * (2 * k + 1) / count),
                    middle[1] + radius * math.sin(-math.pi / 2 + math.pi * (2 * k + 1) / count),
                )
                for k in range(count)
            ]
        )
        assert blank.buffer(1e-6).contains(shape)
        # n segments have the blank's area, less the hole of a ring.
        hole = blank.area * (part.inner_mm / part.outer_mm) ** 2
        each = (part.outer_mm + part.inner_mm) / 2 * part.strip_mm
        assert count * each == pytest.approx(blank.area - hole)


@pytest.mark.parametrize("top", [(190.0, 130.0), (150.0, 100.0)])
def test_a_tapered_ring_round_what_it_holds_is_as_tight_as_an_upright_one(top: tuple[float, float]) -> None:
    """The walls lean by what lies between both sizes: what is sized from its contents just holds them."""
    thing = Thing(count=6, length_mm=40.0, width_mm=30.0, height_mm=30.0, columns=3, play_mm=2.0)
    shape = Rectangle(200.0, 140.0, "inside", top[0], top[1])
    made = plan(job_of(shape=shape, height_mm=60.0, contents=(thing,), bottom=Panel()))
    (block,) = made.contents.blocks
    low, high = made.job.design.floor_mm, made.job.design.floor_mm + 30.0
    for across, need in ((0, block.width_mm), (1, block.length_mm)):
        slab, other = made.ring.slabs[across], made.ring.slabs[across + 2]
        room = min(slab.inner_mm(z) + other.inner_mm(z) for z in (low, high))
        assert room == pytest.approx(need + 2.0, abs=1e-3)  # and its play
