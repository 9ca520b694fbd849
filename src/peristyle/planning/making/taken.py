"""What a feature takes of a side's wood, by its corners in the side's own frame."""

import math
from collections.abc import Iterator
from functools import lru_cache

from peristyle.core.outlines import Outline as Points
from peristyle.core.planes import Vector
from peristyle.planning.form.ring import SidePlan
from peristyle.planning.making.piece import Feature


def section_of(feature: Feature, side: SidePlan) -> Points:
    """What runs along a side, as it is seen from its end: how far up the show face, and how deep under it."""
    (_x, y), _end = feature.path
    if feature.face == "show":
        return tuple([(y + across, deep) for across, deep in feature.profile])
    thick = side.thickness_mm
    return tuple([(y + across, thick - deep) for across, deep in feature.profile])


def runs_along(feature: Feature) -> bool:
    """Whether a cut runs along a side from end to end."""
    return feature.kind in ("groove", "rabbet") or (feature.kind == "edge" and not feature.ends)


def points_of(feature: Feature, side: SidePlan) -> tuple[Vector, ...]:
    """The corners of what a feature takes of a side, in its own frame; none where all of it lies past the wood."""
    thick = side.thickness_mm
    if feature.outline:
        levels = (0.0, feature.in_mm) if feature.face == "show" else (thick, thick - feature.in_mm)
        return tuple((x, y, z) for x, y in feature.flat for z in levels)
    if feature.ends:
        return _within(feature.ends, *side.reach_of_both_mm, thick)
    return tuple(point for end in feature.solid_points(thick) for point in end)


# Each is asked for at both corners of its side, and most edits leave most as they are.
@lru_cache(maxsize=1024)
def _within(
    ends: tuple[tuple[Vector, ...], ...], low: float, high: float, thickness_mm: float
) -> tuple[Vector, ...]:
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
    return tuple(found)


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
