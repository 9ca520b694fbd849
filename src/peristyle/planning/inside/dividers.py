"""Dividers in dadoes, in any convex ring: where they stand, how long, how each end meets its wall."""

import math
from collections.abc import Sequence
from functools import lru_cache
from typing import Final, Literal, NamedTuple

from msgspec import Struct

from peristyle.core.outlines import Outline as Points
from peristyle.core.outlines import bounds, run, vertices
from peristyle.core.planes import Slab, meet
from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import MAX_DIVIDERS, Dividers, replace
from peristyle.planning.making.setting import SAME_SETTING

Run = Literal["across", "along"]
_ALONGSIDE: Final = 1e-9  # a wall as good as parallel to a divider, as the sine between them


class DadoPlan(Struct, frozen=True):
    """The dado that holds one end of a divider, on the inner face of side number `side`.

    `at_mm` is from the start of that face's bottom edge to the near edge of the dado there;
    `tilt_deg` is the blade from square, positive where the dado runs toward the side's end as it goes
    in; `gauge_deg` the swing from square to the bottom edge (leaning walls only), positive toward the
    side's end as it rises. `depth_mm` is at the deeper edge: the blade's height.
    """

    side: int
    at_mm: float
    tilt_deg: float
    gauge_deg: float
    depth_mm: float


class DividerPlan(Struct, frozen=True):
    """One divider: its run, size, its two dadoes, and its halving slots. Its ends are square.

    `length_mm` is at its foot and `top_length_mm` at its top edge (walls that lean). `start_mm` is
    from where the inside begins, along side A (across) or square to it (along), to its near face;
    `notches_mm` are near edges of the halving slots from its own start, at its foot. `leans_deg` is
    how its two ends lean outward as they rise. `outline` is its foot seen from above.
    """

    name: str
    run: Run
    length_mm: float
    top_length_mm: float
    height_mm: float
    thickness_mm: float
    start_mm: float
    notches_mm: tuple[float, ...]
    dadoes: tuple[DadoPlan, DadoPlan]
    leans_deg: tuple[float, float]
    outline: Points


class _End(NamedTuple):
    """Where one end of a divider meets its wall; positions along the divider's own run."""

    wall: int
    foot_mm: float
    head_mm: float
    lean_deg: float
    dado: DadoPlan


class Room(NamedTuple):
    """The walls the dividers stand between, and the levels of their foot and top edge."""

    slabs: tuple[Slab, ...]
    floor: Points
    levels_mm: tuple[float, float]
    dividers: Dividers


class Clash(NamedTuple):
    """A divider that runs into a corner, or two that cross within a wall."""

    name: str
    other: str = ""
    corner: int = 0
    over_mm: float = 0.0


# Trying other numbers is for boxes that somebody makes; past this many ends by walls it takes too long.
_MOST_TRIED: Final = 120


class _MeetsCorner(Exception):
    """A divider whose end would lie in a corner's joint."""

    def __init__(self, corner: int, over_mm: float) -> None:
        self.corner, self.over_mm = corner, over_mm


def dado_angles(facing: float, slope_deg: float) -> tuple[float, float]:
    """Blade tilt and gauge swing (degrees) of a dado for an upright divider in a leaning wall.

    `facing` (0 to 1) is the cosine, seen from above, of the angle between the divider and the wall's
    own outward direction. The divider's plane meets the wall's face at 90° − tilt; the line they
    meet in leans from the face's steepest line by the swing.
    """
    slope = math.radians(slope_deg)
    sin_facing = math.sqrt(max(0.0, 1.0 - facing * facing))
    tilt = math.asin(min(1.0, sin_facing * math.cos(slope)))
    gauge = math.atan2(sin_facing * abs(math.sin(slope)), facing)
    return math.degrees(tilt), math.degrees(gauge)


def _compartments(inside: float, count: int, thick: float, given: tuple[float, ...]) -> tuple[float, ...]:
    """Clear widths of count + 1 compartments: those given, the rest sharing what is left."""
    free = inside - count * thick
    fixed = given[:count]
    rest = count + 1 - len(fixed)
    return (*fixed, *[(free - math.fsum(fixed)) / rest] * rest)


def _starts(clear: tuple[float, ...], thick: float) -> tuple[float, ...]:
    """Near edges of the dividers between compartments."""
    starts, at = [], 0.0
    for room in clear[:-1]:
        at += room
        starts.append(at)
        at += thick
    return tuple(starts)


def rooms(room: Room) -> tuple[tuple[float, ...], tuple[float, ...]]:
    """Clear widths and depths of the compartments."""
    x0, y0, x1, y1 = bounds(room.floor)
    own = room.dividers
    return (
        _compartments(x1 - x0, own.across, own.thickness_mm, own.widths_mm),
        _compartments(y1 - y0, own.along, own.thickness_mm, own.depths_mm),
    )


def stand(
    room: Room, widths: tuple[float, ...], depths: tuple[float, ...]
) -> tuple[tuple[DividerPlan, ...], list[Clash]]:
    """The dividers that can stand, and what keeps the others from it."""
    x0, y0, _x1, _y1 = bounds(room.floor)
    thick = room.dividers.thickness_mm
    starts: dict[Run, tuple[float, ...]] = {
        "across": tuple(x0 + x for x in _starts(widths, thick)),
        "along": tuple(y0 + y for y in _starts(depths, thick)),
    }
    crossings: dict[tuple[int, int], bool] = {}
    clashes: list[Clash] = []
    for i, x in enumerate(starts["across"]):
        spans = _spans(room, x)
        lowest, highest = min(s.lowest for s in spans), max(s.highest for s in spans)
        for j, y in enumerate(starts["along"]):
            inside = sum(span.low <= edge <= span.high for span in spans for edge in (y, y + thick))
            crossings[i, j] = inside == 2 * len(spans)
            if not crossings[i, j] and lowest < y + thick and y < highest:
                clashes.append(Clash(f"across {i + 1}", f"along {j + 1}"))
    pieces = []
    for kind, ats in starts.items():
        first = x0 if kind == "across" else y0
        for number, at in enumerate(ats):
            others = starts["along" if kind == "across" else "across"]
            crossed = [
                other
                for k, other in enumerate(others)
                if crossings[(number, k) if kind == "across" else (k, number)]
            ]
            name = f"{kind} {number + 1}"
            try:
                pieces.append(_piece(room, kind, name, at, at - first, crossed))
            except _MeetsCorner as met:
                clashes.append(Clash(name, "", met.corner, met.over_mm))
    return tuple(pieces), clashes


class _Span(NamedTuple):
    """From wall to wall along a divider's face at one level, and with what of it may stand in its dadoes."""

    low: float
    high: float
    lowest: float
    highest: float


def _spans(room: Room, x: float) -> list[_Span]:
    """Along each face of a divider across, at its foot and its top."""
    spans = []
    for level in room.levels_mm:
        for face in (x, x + room.dividers.thickness_mm):
            ends = []
            for way in (-1, 1):
                wall, at = _wall(room.slabs, "across", face, way, level)
                facing = abs(_turned(room.slabs[wall], "across")[1]) * room.slabs[wall].cos_slope
                ends.append((at, way * room.dividers.dado_mm / facing if facing > _ALONGSIDE else 0.0))
            (low, before), (high, after) = ends
            spans.append(_Span(low, high, low + before, high + after))
    return spans


def inside_at(slabs: tuple[Slab, ...], level_mm: float) -> Points:
    return vertices(slabs, [slab.inner_mm(level_mm) for slab in slabs])


def _piece(
    room: Room, kind: Run, name: str, at: float, start: float, crossed: Sequence[float]
) -> DividerPlan:
    """One divider between its two walls, `at` on the axis it stands square to."""
    thick = room.dividers.thickness_mm
    low, high = (_end(room, kind, (at, at + thick), way) for way in (-1, 1))
    notches = tuple(other - low.foot_mm for other in crossed)
    corners = ((at, low.foot_mm), (at + thick, low.foot_mm), (at + thick, high.foot_mm), (at, high.foot_mm))
    outline = corners if kind == "across" else tuple((y, x) for x, y in reversed(corners))
    return DividerPlan(
        name, kind, high.foot_mm - low.foot_mm, high.head_mm - low.head_mm, room.dividers.height_mm, thick,
        start, notches, (low.dado, high.dado), (low.lean_deg, high.lean_deg), outline,
    )  # fmt: skip


def _end(room: Room, kind: Run, faces: tuple[float, float], way: int) -> _End:
    """Where a divider's end stands: `dado` deep at the edge that reaches the wall last.

    Raises _MeetsCorner where its two faces, from the wall's bottom edge to its own top, do not all
    meet one wall.
    """
    found = {_wall(room.slabs, kind, face, way, 0.0)[0] for face in faces}
    reach: list[list[float]] = []
    for level in room.levels_mm:
        met = [_wall(room.slabs, kind, face, way, level) for face in faces]
        found |= {wall for wall, _at in met}
        reach.append([at for _wall, at in met])
    alongside = any(abs(_turned(room.slabs[wall], kind)[1]) <= _ALONGSIDE for wall in found)
    if len(found) > 1 or alongside:
        first = min(found)
        corner = first if first + 1 in found else max(found)
        vertex = room.floor[corner]
        place = vertex[0] if kind == "across" else vertex[1]
        raise _MeetsCorner(corner, min(abs(faces[1] - place), abs(place - faces[0])))
    wall = found.pop()
    slab = room.slabs[wall]
    facing = abs(_turned(slab, kind)[1])
    depth, thick = room.dividers.dado_mm, room.dividers.thickness_mm
    into = depth / (facing * slab.cos_slope)
    foot, head = ((max if way > 0 else min)(at) + way * into for at in reach)
    _keep_clear(room, kind, faces, wall, (foot, head))
    tilt, gauge = dado_angles(facing, math.degrees(math.asin(slab.sin_slope)))
    deepest = depth + thick * math.sqrt(max(0.0, 1.0 - facing * facing)) * slab.cos_slope
    # Going out along the divider, does one come nearer to the wall's end?
    toward_end = way * (slab.ux if kind == "across" else -slab.uy)
    dado = DadoPlan(
        wall,
        _layout(room, kind, faces, way, wall),
        math.copysign(tilt, toward_end) if tilt > SAME_SETTING else 0.0,
        math.copysign(gauge, toward_end * slab.sin_slope) if gauge > SAME_SETTING else 0.0,
        deepest,
    )
    lean = math.degrees(math.atan2((head - foot) * way, room.dividers.height_mm))
    return _End(wall, foot, head, lean, dado)


def _keep_clear(
    room: Room, kind: Run, faces: tuple[float, float], wall: int, ends: tuple[float, float]
) -> None:
    """Raises _MeetsCorner where an end in its dado reaches through a miter into the next wall."""
    count = len(room.slabs)
    for corner, way in ((wall, 1.0), ((wall - 1) % count, -1.0)):
        a, b = room.slabs[corner], room.slabs[(corner + 1) % count]
        for end, level in zip(ends, room.levels_mm, strict=True):
            inner = meet(a, a.inner_mm(level), b, b.inner_mm(level))
            outer = meet(a, a.outer_mm(level), b, b.outer_mm(level))
            miter = (outer[0] - inner[0], outer[1] - inner[1])
            for face in faces:
                x, y = (face, end) if kind == "across" else (end, face)
                # Going out along the miter, the side that ends there lies on the right of it.
                past = (miter[0] * (y - inner[1]) - miter[1] * (x - inner[0])) * way / math.hypot(*miter)
                if past > DEFAULT.length_mm:
                    raise _MeetsCorner(corner, past)


def _turned(slab: Slab, kind: Run) -> tuple[float, float]:
    """A wall's outward direction beside a divider's run and along it: 0 and ±1 where it is met head on."""
    return (slab.ux, slab.uy) if kind == "across" else (slab.uy, slab.ux)


def _met_at(slab: Slab, kind: Run, face: float, level_mm: float) -> float:
    """Where along a divider's run its face meets a wall that does not run alongside."""
    beside, ahead = _turned(slab, kind)
    return (slab.inner_mm(level_mm) - beside * face) / ahead


@lru_cache(maxsize=32)
def _facing(
    slabs: tuple[Slab, ...], kind: Run, level: float
) -> tuple[
    list[tuple[int, float, float]],
    list[tuple[int, float, float, float]],
    list[tuple[int, float, float, float]],
]:
    """The walls that run alongside a divider, those it meets going on, and those going back."""
    alongside: list[tuple[int, float, float]] = []
    onward: list[tuple[int, float, float, float]] = []
    back: list[tuple[int, float, float, float]] = []
    for i, slab in enumerate(slabs):
        beside, ahead = _turned(slab, kind)
        if abs(ahead) <= _ALONGSIDE:
            alongside.append((i, beside, slab.inner_mm(level)))
        else:
            (onward if ahead > 0 else back).append((i, beside, ahead, slab.inner_mm(level)))
    for walls in (onward, back):
        walls.sort(key=lambda wall: wall[1])  # from one end of the run of walls to the other
    return alongside, onward, back


def _wall(slabs: tuple[Slab, ...], kind: Run, face: float, way: int, level: float) -> tuple[int, float]:
    """The wall that a divider's face meets in the direction `way`, and where along its run."""
    alongside, onward, back = _facing(slabs, kind, level)
    for i, beside, inner in alongside:
        if beside * face > inner + DEFAULT.length_mm:
            return i, -math.inf * way  # the face stands beyond a wall that runs alongside it: no way at all
    walls = onward if way > 0 else back

    def met(number: int) -> float:
        _i, beside, ahead, inner = walls[number]
        return (inner - beside * face) / ahead * way

    # Along the walls in their order the distance falls and then rises, for the ring is convex: halve to its least.
    low, high = 0, len(walls) - 1
    while low < high:
        middle = (low + high) // 2
        if met(middle + 1) < met(middle):
            low = middle + 1
        else:
            high = middle
    return walls[low][0], met(low) * way


def _layout(room: Room, kind: Run, faces: tuple[float, float], way: int, wall: int) -> float:
    """From the start of the wall's inner bottom edge to the dado's near edge there."""
    slab = room.slabs[wall]
    before = room.slabs[wall - 1]
    begin = meet(before, before.inner_mm(0.0), slab, slab.inner_mm(0.0))
    marks = []
    for face in faces:
        at = _met_at(slab, kind, face, 0.0)
        marks.append(run(slab, begin, (face, at) if kind == "across" else (at, face)))
    return min(marks)


def number_that_stands(room: Room) -> Dividers | None:
    """Equal compartments of nearly the number asked for, where no divider meets a corner."""
    own = room.dividers

    def near(number: int) -> list[int]:
        return (
            [n for n in (number, number + 1, number - 1, number + 2) if 0 < n <= MAX_DIVIDERS]
            if number
            else [0]
        )

    if (own.across + own.along) * len(room.slabs) > _MOST_TRIED:
        return None
    tries = [(a, b) for a in near(own.across) for b in near(own.along)]
    for across, along in sorted(tries, key=lambda t: abs(t[0] - own.across) + abs(t[1] - own.along)):
        tried = replace(own, across=across, along=along, widths_mm=(), depths_mm=())
        trial = room._replace(dividers=tried)
        clear = rooms(trial)
        if min(*clear[0], *clear[1]) > DEFAULT.length_mm and not stand(trial, *clear)[1]:
            return tried
    return None
