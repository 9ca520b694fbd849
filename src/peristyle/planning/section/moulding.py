"""Moulded sides: what the section takes of each, and how they must lie and meet.

The stock is a moulding: its back is flat, and its section runs along the side from end to end. So it lies on its back
for every cut, and at a corner the two sections meet only where both sides are alike.
"""

import itertools
import math
from collections.abc import Iterator, Sequence
from typing import Final

from peristyle.core.outlines import Arc, apart, area, flattened
from peristyle.core.outlines import Outline as Points
from peristyle.core.planes import Point
from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import Design, House, Moulding
from peristyle.planning.findings import Finding, Fix, Place, Severity, reader
from peristyle.planning.form.ring import RingPlan, SidePlan
from peristyle.planning.making.step import Step
from peristyle.planning.section.edges import Cuts, unlike

_PAST_MM: Final = 1.0  # how far a cut is drawn out of the wood
_LEAST_WOOD_MM: Final = 2.0  # less between the section and another cut breaks out (our rule)
_LEAST_WALL_MM: Final = 3.0  # of a wall where it is thinnest (our rule)
_PLACE: Final = Place("section")
_NONE: Final = Fix("no_moulding", (("section.moulding", False),))


def line_of(moulding: Moulding) -> Points:
    """The section's line (mm): how far up the face and how far in from it, arcs as polygons.

    Source: the centre of an arc through two points lies on the line square to their chord, √(r² − c²/4) from it.
    """
    points = list(zip(moulding.ups_mm, moulding.ins_mm, strict=False))
    found: list[Point] = points[:1]
    for number, (a, b) in enumerate(itertools.pairwise(points)):
        radius = moulding.arcs_mm[number] if number < len(moulding.arcs_mm) else 0.0
        chord = math.dist(a, b)
        if radius == 0.0 or chord < DEFAULT.length_mm:
            found.append(b)
            continue
        size = max(abs(radius), chord / 2)
        far = math.sqrt(max(0.0, size * size - chord * chord / 4))
        # To the left of the way up lies more of the wood, on the drawing with y along and z across.
        nx, ny = -(b[1] - a[1]) / chord, (b[0] - a[0]) / chord
        way = 1.0 if radius > 0 else -1.0
        center = ((a[0] + b[0]) / 2 + way * far * nx, (a[1] + b[1]) / 2 + way * far * ny)
        if radius > 0:
            found += list(flattened((a, Arc(b, center))))[1:]
        else:
            found += list(reversed(flattened((b, Arc(a, center)))))[1:]
    return tuple(found)


def regions(moulding: Moulding, side: SidePlan) -> tuple[Points, ...]:
    """What is taken off a side, sections (y, z) in its own frame: each stretch in from the face by itself."""
    line = [(y, max(0.0, z)) for y, z in line_of(moulding)]
    if len(line) < 2:
        return ()
    ups = [y for _x, y in (*side.outer_face, *side.inner_face)]
    low, high = min(ups), max(ups)
    if line[0][1] > 0:
        foot = low - _PAST_MM if line[0][0] <= DEFAULT.length_mm else line[0][0]
        line = [(foot, 0.0), (foot, line[0][1]), *line]
    if line[-1][1] > 0:
        head = high + _PAST_MM if line[-1][0] >= _high(side) - DEFAULT.length_mm else line[-1][0]
        line = [*line, (head, line[-1][1]), (head, 0.0)]
    found: list[Points] = []
    run: list[Point] = []
    for number, point in enumerate(line):
        run.append(point)
        if point[1] <= 0 or number == len(line) - 1:
            if any(z > 0 for _y, z in run):
                found.append(tuple(run))
            run = [point]
    return tuple(one for one in found if abs(area(one)) > 1e-9)


def _high(side: SidePlan) -> float:
    """How high the show face is, up the face (mm)."""
    return max(y for _x, y in side.outer_face)


def taken_mm2(moulding: Moulding, side: SidePlan) -> float:
    """How much of a side's section the moulding takes (mm²), within the face's own height."""
    total = 0.0
    for one in regions(moulding, side):
        kept = [(min(max(y, 0.0), _high(side)), z) for y, z in one]
        total += abs(area(tuple(kept)))
    return total


def left_of_joint(design: Design, ring: RingPlan) -> float:
    """The share of a joint face that a moulding leaves to be glued; 1 of flat sides."""
    own = design.section.moulding
    if own is None or not ring.sides:
        return 1.0
    side = ring.sides[0]
    return 1.0 - taken_mm2(own, side) / (side.thickness_mm * _high(side))


def moulding_findings(design: Design, ring: RingPlan, cuts: Cuts, steps: Sequence[Step]) -> Iterator[Finding]:
    """What is wrong about moulded sides; `cuts` as for edges, `steps` those that part and bevel the sides."""
    own = design.section.moulding
    if own is None or not ring.stands:
        return
    ups = own.ups_mm
    if len(ups) < 2 or len(ups) != len(own.ins_mm) or any(b < a for a, b in itertools.pairwise(ups)):
        yield Finding("moulding_no_line", "stop", _PLACE, {}, (_NONE,))
        return
    if unlike(ring) or isinstance(design.form.shape, House):
        yield Finding("moulding_unlike", "stop", _PLACE, {}, (_NONE,))
    high = min(_high(side) for side in ring.sides)
    if ups[-1] > high + DEFAULT.length_mm:
        clip = Fix("moulding_clip", (("section.moulding.ups_mm", tuple(min(up, high) for up in ups)),))
        yield Finding("moulding_high", "stop", _PLACE, {"up_mm": ups[-1], "high_mm": high}, (clip, _NONE))
    deep = max((z for side in ring.sides[:1] for one in regions(own, side) for _y, z in one), default=0.0)
    wall = min(side.thickness_mm for side in ring.sides) - deep
    if wall < _LEAST_WALL_MM - DEFAULT.length_mm:
        thick = reader(design).up(deep + _LEAST_WALL_MM)
        thicker = Fix("thicker_sides", (("sides.thickness_mm", (thick,)),), {"thickness_mm": thick})
        yield Finding("moulding_deep", "stop", _PLACE, {"left_mm": max(0.0, wall)}, (thicker, _NONE))
    yield from _meets(ring, own, cuts)
    for step in steps:
        against = step.names.get("face", "") if step.lies in ("on_edge", "on_end") else ""
        if step.lies == "inside_up" or against.startswith("show") or step.operation == "heights":
            square = Fix("square_first", (("stock.board.method", "square_first"),))
            bit = Fix("chamfer_bit", (("shop.saw.kind", "chamfer_bit"),))
            yield Finding("moulding_lies", "stop", _PLACE, {}, (square, bit, _NONE))
            return
        if step.edge is not None and _cuts_away(own, step.edge, high):
            ins = (0.0, *own.ins_mm[1:]) if step.edge == "bottom" else (*own.ins_mm[:-1], 0.0)
            begin = Fix("moulding_arris", (("section.moulding.ins_mm", ins),))
            yield Finding("moulding_no_arris", "stop", _PLACE, {}, (begin, _NONE), {"end": step.edge})
            return


def _cuts_away(own: Moulding, edge: str, high_mm: float) -> bool:
    """Whether the section takes the arris of the show face along one of its edges."""
    (first_up, first_in), (last_up, last_in) = line_of(own)[0], line_of(own)[-1]
    if edge == "bottom":
        return first_up <= DEFAULT.length_mm and first_in > DEFAULT.length_mm
    return last_up >= high_mm - DEFAULT.length_mm and last_in > DEFAULT.length_mm


def _meets(ring: RingPlan, own: Moulding, cuts: Cuts) -> Iterator[Finding]:
    """The nearest of what else is cut into a side."""
    nearest: tuple[float, str, SidePlan] | None = None
    for side in ring.sides:
        taken = regions(own, side)
        for what, points in cuts.get(side.index, ()):
            gap = min((apart(one, points, _LEAST_WOOD_MM) for one in taken), default=math.inf)
            if gap < _LEAST_WOOD_MM and (nearest is None or gap < nearest[0]):
                nearest = (gap, what, side)
    if nearest is None:
        return
    gap, what, side = nearest
    met = gap <= DEFAULT.length_mm
    severity: Severity = "stop" if met else "caution"
    names: dict[str, str] = {"what": what, "side": side.name}
    place = Place("side", side.index, len(ring.sides))
    yield Finding(
        "moulding_meets" if met else "moulding_near", severity, place, {"wood_mm": gap}, (_NONE,), names
    )
