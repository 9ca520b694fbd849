"""Stretches of height where no key may be: edges, the lid's lost band, and whatever is cut into the sides there."""

import math
from collections.abc import Iterable, Iterator, Mapping, Sequence
from typing import Final

from msgspec import Struct

from peristyle.core.outlines import Outline as Points
from peristyle.core.outlines import area, bounds, clipped, hull
from peristyle.core.planes import Vector
from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import Keys, replace
from peristyle.planning.corners.frame import Frame, Slot
from peristyle.planning.form.ring import RingPlan, SidePlan
from peristyle.planning.making.parts.walls import stands
from peristyle.planning.making.piece import Feature, Place
from peristyle.planning.making.taken import points_of, runs_along, section_of
from peristyle.planning.section.levels import SectionPlan

Cuts = Mapping[str, Sequence[Feature]]  # what is cut into each piece, by its id

_SLICES: Final = 8  # of a profile, taken together: a sixth of an ogee or of a quarter circle
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
    shadow = shadow_of(slot.frame, [*slot.cheek(-1.0), *slot.cheek(1.0)])
    sideways = min(x for x, _y in shadow), max(x for x, _y in shadow)
    for index, second in ((corner, False), ((corner + 1) % len(ring.sides), True)):
        side = ring.sides[index]
        own = cuts.get(f"side.{side.name}")
        if not own:
            continue
        under, place = slot.under_mm(second=second), stands(ring.slabs[index], side, 0.0)
        for feature in own:
            if feature.kind in _LATER or _beside(feature, side, place, slot.frame, sideways):
                continue
            points = [place.of(point) for point in _reached(feature, side, under)]
            if not points:
                continue
            ups = [z for _x, _y, z in points]
            low, high = min(ups) - margin, max(ups) + margin
            if runs_along(feature):  # met wherever it is reached; the same groove in both sides is one thing
                of = feature.id.rsplit(".", 1)[1]
                one = runs.get((feature.kind, of))
                if one is not None:
                    low, high = min(low, one.low_mm), max(high, one.high_mm)
                runs[feature.kind, of] = KeepOut(low, high, feature.kind, corner, of)
                continue
            if shadows_meet(shadow, shadow_of(slot.frame, points)):
                spots.setdefault(feature.kind, []).append((low, high))
    yield from runs.values()
    for kind, spans in spots.items():
        for low, high in _joined(spans):
            yield KeepOut(low, high, kind, corner)


def gathered(cuts: Cuts) -> dict[str, list[Feature]]:
    """The same cuts, the thin slices of a profile that runs on past its corner taken several at a time.

    What a slot keeps clear of is told by the outermost corners, and so comes out no less: by a few slices' height more.
    """
    return {piece: list(_fewer(features)) for piece, features in cuts.items()}


def _fewer(features: Sequence[Feature]) -> Iterator[Feature]:
    stack: list[Feature] = []
    for feature in features:
        if stack and not (len(stack) < _SLICES and _stands_on(feature, stack[-1])):
            yield _as_one(stack)
            stack = []
        if feature.kind == "edge" and feature.ends:
            stack.append(feature)
        else:
            yield feature
    if stack:
        yield _as_one(stack)


def _stands_on(feature: Feature, other: Feature) -> bool:
    """Whether a slice of a profile begins where the other ends."""
    if not feature.ends or feature.id.rpartition(".")[0] != other.id.rpartition(".")[0]:
        return False
    (_outer, begins, *_rest), (*_below, ends, _last) = feature.ends[0], other.ends[0]
    return math.dist(begins, ends) < DEFAULT.length_mm


def _as_one(slices: Sequence[Feature]) -> Feature:
    return replace(slices[0], ends=tuple(_around([one.ends[end] for one in slices]) for end in (0, 1)))


def _around(slices: Sequence[Sequence[Vector]]) -> tuple[Vector, ...]:
    """The outline of slices one over the other, each told by its outer, two inner and outer corners from below up."""
    return (slices[0][0], *(corner for own in slices for corner in own[1:3]), slices[-1][3])


def _beside(
    feature: Feature, side: SidePlan, place: Place, frame: Frame, sideways: tuple[float, float]
) -> bool:
    """Whether all of a cut lies to one side of a slot, seen along the arris: a quick yes for most there are."""
    if feature.ends:
        points: Iterable[Vector] = (point for end in feature.ends for point in end)
    elif feature.outline:
        points = ((x, y, z) for x, y in feature.flat for z in (0.0, side.thickness_mm))
    else:
        return False
    (ax, ay, az), vertex = frame.across, frame.vertex
    by_x, by_y, by_z = (ax * v[0] + ay * v[1] + az * v[2] for v in (place.x, place.y, place.z))
    at = sum(a * (o - v) for a, o, v in zip(frame.across, place.origin, vertex, strict=True))
    places = [at + by_x * x + by_y * y + by_z * z for x, y, z in points]
    return min(places) >= sideways[1] or max(places) <= sideways[0]


def _joined(spans: Iterable[tuple[float, float]]) -> list[tuple[float, float]]:
    """The same stretches from below up, those that touch or overlap as one."""
    found: list[tuple[float, float]] = []
    for low, high in sorted(spans):
        if found and low <= found[-1][1] + DEFAULT.length_mm:
            found[-1] = (found[-1][0], max(high, found[-1][1]))
        else:
            found.append((low, high))
    return found


def _reached(feature: Feature, side: SidePlan, under_mm: float) -> Sequence[Vector]:
    """The corners, in its side's own frame, of what lies less deep under the face; none where nothing does."""
    if feature.face == "inside" and not feature.ends and side.thickness_mm - feature.depth_mm >= under_mm:
        return ()
    if not runs_along(feature):
        points = points_of(feature, side)
        return points if any(z < under_mm for _x, _y, z in points) else ()
    (x, _y), _end = feature.path
    section, found = section_of(feature, side), []
    for (y0, z0), (y1, z1) in zip(section, (*section[1:], *section[:1]), strict=True):
        if z0 < under_mm:
            found.append((x, y0, z0))
        if (z0 < under_mm) != (z1 < under_mm):
            found.append((x, y0 + (y1 - y0) * (under_mm - z0) / (z1 - z0), under_mm))
    return found


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
