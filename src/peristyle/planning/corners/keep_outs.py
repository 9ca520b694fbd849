"""Stretches of height where no key may be: edges, the lid's lost band, and whatever is cut into the sides there."""

import math
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from functools import cache, lru_cache
from typing import Final

from msgspec import Struct

from peristyle.core.outlines import Outline as Points
from peristyle.core.outlines import area, bounds, clipped, hull
from peristyle.core.planes import Vector
from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import Keys
from peristyle.planning.corners.frame import Frame, Slot
from peristyle.planning.form.ring import RingPlan, SidePlan
from peristyle.planning.making.parts.walls import stands
from peristyle.planning.making.piece import Feature
from peristyle.planning.section.levels import SectionPlan

Cuts = Mapping[str, Sequence[Feature]]  # what is cut into each piece, by its id

_TOUCH_MM2: Final = 1e-4  # less is shared by what only touches
_LATER: Final = ("slot", "lid_kerf")  # what keys bring themselves, and what has its own band


class KeepOut(Struct, frozen=True):
    """A stretch of height where no key may be at the corner of that number, and why: the kind of what is there.

    `of` says more: which panel's groove it is.
    """

    low_mm: float
    high_mm: float
    why: str
    corner: int
    of: str = ""


def keep_outs(keys: Keys, ring: RingPlan, section: SectionPlan, slot: Slot, cuts: Cuts) -> Iterator[KeepOut]:
    """All that a slot like this must keep clear of at its corner, each with its margin."""
    corner, height = slot.frame.index, section.glued_mm
    yield KeepOut(0.0, keys.edge_margin_mm, "bottom edge", corner)
    yield KeepOut(height - keys.edge_margin_mm, height, "top edge", corner)
    margin = keys.lid_margin_mm
    if section.lid:
        yield KeepOut(section.lid.lost_low_mm - margin, section.lid.lost_high_mm + margin, "lid line", corner)
    runs: dict[tuple[str, str], KeepOut] = {}
    spots: dict[str, list[tuple[float, float]]] = {}

    @cache
    def shadow() -> Points:
        return shadow_of(slot.frame, [point for sign in (-1.0, 1.0) for point in slot.cheek(sign)])

    for index, second in ((corner, False), ((corner + 1) % len(ring.sides), True)):
        side = ring.sides[index]
        own = cuts.get(f"side.{side.name}", ())
        place = stands(ring.slabs[index], side, 0.0) if own else None
        for feature in own:
            if place is None or feature.kind in _LATER:
                continue
            reached = _reached(slot, feature, side, second=second)
            points = [place.of(point) for point in reached]
            # What runs right along the side is met where it is reached at all.
            if not points or not (runs_along(feature) or _meets(slot, shadow, points)):
                continue
            ups = [z for _x, _y, z in points]
            low, high = min(ups) - margin, max(ups) + margin
            if runs_along(feature):  # the same groove in both sides is one thing to keep clear of
                of = feature.id.rsplit(".", 1)[1]
                one = runs.get((feature.kind, of))
                if one is not None:
                    low, high = min(low, one.low_mm), max(high, one.high_mm)
                runs[feature.kind, of] = KeepOut(low, high, feature.kind, corner, of)
            else:
                spots.setdefault(feature.kind, []).append((low, high))
    yield from runs.values()
    for kind, spans in spots.items():
        for low, high in joined(spans):
            yield KeepOut(low, high, kind, corner)


def joined(spans: Iterable[tuple[float, float]]) -> list[tuple[float, float]]:
    """The same stretches from below up, those that touch or overlap as one."""
    found: list[tuple[float, float]] = []
    for low, high in sorted(spans):
        if found and low <= found[-1][1] + DEFAULT.length_mm:
            found[-1] = (found[-1][0], max(high, found[-1][1]))
        else:
            found.append((low, high))
    return found


def _reached(slot: Slot, feature: Feature, side: SidePlan, *, second: bool) -> list[Vector]:
    """The corners, in its side's own frame, of what lies no deeper than a slot goes; none where all of it does."""
    under = slot.under_mm(second=second)
    if not runs_along(feature):
        points = points_of(feature, side)
        return points if any(z < under for _x, _y, z in points) else []
    (x, _y), _end = feature.path
    section, found = section_of(feature, side), []
    for (y0, z0), (y1, z1) in zip(section, (*section[1:], *section[:1]), strict=True):
        if z0 < under:
            found.append((x, y0, z0))
        if (z0 < under) != (z1 < under):
            found.append((x, y0 + (y1 - y0) * (under - z0) / (z1 - z0), under))
    return found


def _meets(slot: Slot, shadow: Callable[[], Points], points: Sequence[Vector]) -> bool:
    """Whether a slot, with its shadow, would open into what has these corners, whatever height it lay at."""
    vertex, (ux, uy, uz) = slot.frame.vertex, slot.frame.inward
    start = vertex[0] * ux + vertex[1] * uy + vertex[2] * uz
    if min(x * ux + y * uy + z * uz for x, y, z in points) - start > slot.deepest_mm:
        return False  # all of it lies deeper than the slot's floor
    return shadows_meet(shadow(), shadow_of(slot.frame, points))


def section_of(feature: Feature, side: SidePlan) -> Points:
    """What runs along a side, as it is seen from its end: how far up the show face, and how deep under it."""
    (_x, y), _end = feature.path
    show = feature.face == "show"
    return tuple((y + across, deep if show else side.thickness_mm - deep) for across, deep in feature.profile)


def runs_along(feature: Feature) -> bool:
    """Whether a cut runs along a side from end to end."""
    return feature.kind in ("groove", "rabbet") or (feature.kind == "edge" and not feature.ends)


def shadow_of(frame: Frame, points: Iterable[Vector]) -> Points:
    """The convex outline of a body, told by its corners in the box, as it is seen along the arris."""
    (ax, ay, az), (ix, iy, iz) = frame.across, frame.inward
    x0, y0, z0 = frame.vertex
    aways = [(x - x0, y - y0, z - z0) for x, y, z in points]
    return hull([(x * ax + y * ay + z * az, x * ix + y * iy + z * iz) for x, y, z in aways])


def shadows_meet(one: Points, other: Points) -> bool:
    """Whether two convex shadows overlap."""
    if len(one) < 3 or len(other) < 3:
        return False
    (left, low, right, high), box = bounds(one), bounds(other)
    if left >= box[2] or box[0] >= right or low >= box[3] or box[1] >= high:
        return False
    shared = clipped(one, other)
    return len(shared) > 2 and abs(area(shared)) > _TOUCH_MM2


def points_of(feature: Feature, side: SidePlan) -> list[Vector]:
    """The corners of what a feature takes of a side, in its own frame; none where all of it lies past the wood."""
    thickness_mm = side.thickness_mm
    if feature.outline:
        show = feature.face == "show"
        far = feature.in_mm if show else thickness_mm - feature.in_mm
        return [(x, y, z) for x, y in feature.flat for z in (0.0 if show else thickness_mm, far)]
    if feature.ends:
        return _within(feature.ends, *side.reach_of_both_mm, thickness_mm)
    return [point for end in feature.solid_points(thickness_mm) for point in end]


@lru_cache(
    maxsize=4096
)  # each is asked for at both corners of its side, and most edits leave most as they are
def _within(
    ends: tuple[tuple[Vector, ...], ...], low: float, high: float, thickness_mm: float
) -> list[Vector]:
    """The corners of what lies between two ends, no further along a side and no deeper than its wood goes.

    It may run on far past the wood, and up or down there. Each of its faces is clipped by one limit after another.
    Source: Sutherland and Hodgman's clipping (common practice).
    """
    first, last = ends
    count = len(first)
    around = [(first[i - 1], first[i], last[i], last[i - 1]) for i in range(count)]
    found: list[Vector] = []
    for face in (first, last, *around):
        kept: list[Vector] = list(face)
        for axis, at, way in ((0, low, 1.0), (0, high, -1.0), (2, 0.0, 1.0), (2, thickness_mm, -1.0)):
            inside = [(point[axis] - at) * way for point in kept]
            if not inside or min(inside) >= 0.0:
                continue
            kept = [
                point
                for i in range(len(kept))
                for point in _kept(kept[i - 1], inside[i - 1], kept[i], inside[i])
            ]
        found += kept
    return found


def _kept(a: Vector, a_in: float, b: Vector, b_in: float) -> Iterator[Vector]:
    """What of the way from one point to another is kept: where it crosses the limit, and its end."""
    if (a_in >= 0.0) != (b_in >= 0.0):
        share = a_in / (a_in - b_in)
        x, y, z = (p + (q - p) * share for p, q in zip(a, b, strict=True))
        yield (x, y, z)
    if b_in >= 0.0:
        yield b


def up_face(feature: Feature, side: SidePlan) -> tuple[float, float]:
    """From where to where up the face a feature reaches; (inf, -inf) where all of it lies past the wood."""
    if runs_along(feature):  # its path runs level, from the start to the end
        ups = [y for y, _z in section_of(feature, side)]
    else:
        ups = [y for _x, y, _z in points_of(feature, side)]
    return min(ups, default=math.inf), max(ups, default=-math.inf)
