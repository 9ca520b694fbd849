"""Convex outlines seen from above: areas, lengths, insets.

An outline is a tuple of (x, y) corners in mm, counter-clockwise; `lines` are level lines
u·p = offset given as slabs with an offset each.
"""

import math
from collections.abc import Sequence

from msgspec import Struct

from peristyle.core.planes import Point, Slab, meet

Outline = tuple[Point, ...]
_ARC_STEPS = 24  # to half a turn: 0.02 mm off a circle of 10 mm


class Arc(Struct, frozen=True):
    """The way to the next corner of an outline on a circle round `center`, counter-clockwise."""

    to: Point
    center: Point


def flattened(outline: Sequence[Point | Arc]) -> Outline:
    """An outline of lines and arcs as a polygon; its first corner is a point."""
    points: list[Point] = []
    for corner in outline:
        if not isinstance(corner, Arc):
            points.append(corner)
            continue
        (x0, y0), (cx, cy), (x1, y1) = points[-1], corner.center, corner.to
        radius, start = math.hypot(x0 - cx, y0 - cy), math.atan2(y0 - cy, x0 - cx)
        turn = (math.atan2(y1 - cy, x1 - cx) - start) % (2 * math.pi) or 2 * math.pi
        steps = max(2, math.ceil(turn / math.pi * _ARC_STEPS))
        points += [
            (
                cx + radius * math.cos(start + turn * k / steps),
                cy + radius * math.sin(start + turn * k / steps),
            )
            for k in range(1, steps)
        ]
        points.append(corner.to)
    if math.dist(points[0], points[-1]) < 1e-9:
        points.pop()  # the last arc ends where the outline began
    return tuple(points)


def vertices(slabs: Sequence[Slab], offsets_mm: Sequence[float]) -> Outline:
    """Corners of the ring of lines; vertex i is where line i ends and line i + 1 starts."""
    count = len(slabs)
    return tuple(
        meet(slabs[i], offsets_mm[i], slabs[(i + 1) % count], offsets_mm[(i + 1) % count])
        for i in range(count)
    )


def run_lengths(slabs: Sequence[Slab], corners: Outline) -> tuple[float, ...]:
    """Length of every side, counted along its own direction: negative where sides have crossed."""
    return tuple([run(slab, corners[i - 1], corners[i]) for i, slab in enumerate(slabs)])


def run(slab: Slab, start: Point, end: Point) -> float:
    """How far `end` lies past `start`, counted along a side's own direction."""
    return (end[0] - start[0]) * -slab.uy + (end[1] - start[1]) * slab.ux


def area(outline: Outline) -> float:
    """Area in mm², positive for a counter-clockwise outline."""
    return 0.5 * sum(
        x0 * y1 - x1 * y0 for (x0, y0), (x1, y1) in zip(outline, outline[1:] + outline[:1], strict=True)
    )


def box(x0: float, y0: float, x1: float, y1: float) -> tuple[Point, Point, Point, Point]:
    """The corners of an upright rectangle, counter-clockwise from the lower left."""
    return ((x0, y0), (x1, y0), (x1, y1), (x0, y1))


def bounds(points: Sequence[Point]) -> tuple[float, float, float, float]:
    """Smallest x, smallest y, largest x, largest y."""
    xs = [p[0] for p in points]
    ys = [p[1] for p in points]
    return (min(xs), min(ys), max(xs), max(ys))


def centroid(outline: Outline) -> Point:
    """Centre of area (mm); the mean corner where the area vanishes."""
    total = area(outline)
    if total == 0.0:
        return (
            math.fsum(p[0] for p in outline) / len(outline),
            math.fsum(p[1] for p in outline) / len(outline),
        )
    cx = cy = 0.0
    for (x0, y0), (x1, y1) in zip(outline, outline[1:] + outline[:1], strict=True):
        wedge = x0 * y1 - x1 * y0
        cx += (x0 + x1) * wedge
        cy += (y0 + y1) * wedge
    return (cx / (6 * total), cy / (6 * total))


def clipped(outline: Sequence[Point], window: Sequence[Point]) -> Outline:
    """The part of a convex outline within a convex window, whichever way round each runs; empty where none is.

    Source: Sutherland and Hodgman's clipping of a polygon by one edge after another (common practice).
    """
    way = 1.0 if area(tuple(window)) >= 0 else -1.0
    kept = list(outline)
    for (ax, ay), (bx, by) in zip(window, (*window[1:], window[0]), strict=True):
        ux, uy = (bx - ax) * way, (by - ay) * way
        inside = [ux * (y - ay) - uy * (x - ax) for x, y in kept]
        if not inside or min(inside) >= 0:
            continue
        found: list[Point] = []
        for i, p in enumerate(kept):
            here, there = inside[i], inside[i - 1]
            if (here >= 0) != (there >= 0):
                before, t = kept[i - 1], there / (there - here)
                found.append((before[0] + (p[0] - before[0]) * t, before[1] + (p[1] - before[1]) * t))
            if here >= 0:
                found.append(p)
        kept = found
    return tuple(kept)


def hull(points: Sequence[Point]) -> Outline:
    """The smallest convex outline round points, counter-clockwise; fewer than three corners where they lie on a line.

    Source: Andrew's monotone chain (common practice).
    """
    left = sorted(set(points))
    if len(left) < 3:
        return tuple(left)

    def half(way: Sequence[Point]) -> list[Point]:
        kept: list[Point] = []
        for p in way:
            while len(kept) > 1:
                (ax, ay), (bx, by) = kept[-2], kept[-1]
                if (bx - ax) * (p[1] - ay) - (by - ay) * (p[0] - ax) > 1e-12:
                    break
                kept.pop()
            kept.append(p)
        return kept[:-1]

    return (*half(left), *half(left[::-1]))


def slot(x: float, y: float, wide: float, high: float) -> tuple[Point | Arc, ...]:
    """A slot with round ends along its longer way; as wide as high it is a round hole."""
    radius = min(wide, high) / 2
    dx, dy = wide / 2 - radius, high / 2 - radius
    if dy <= 0:
        return (
            (x - dx, y - radius), (x + dx, y - radius), Arc((x + dx, y + radius), (x + dx, y)),
            (x - dx, y + radius), Arc((x - dx, y - radius), (x - dx, y)),
        )  # fmt: skip
    return (
        (x + radius, y - dy), (x + radius, y + dy), Arc((x - radius, y + dy), (x, y + dy)),
        (x - radius, y - dy), Arc((x + radius, y - dy), (x, y - dy)),
    )  # fmt: skip


def apart(one: Outline, other: Outline, within_mm: float = math.inf) -> float:
    """How far two outlines lie apart (mm); 0 where they touch, cross or hold each other.

    Farther than `within_mm` is not looked at closely: infinite, if the upright rectangles round them lie as far apart.
    """
    if len(one) < 3 or len(other) < 3:
        return math.inf
    (left, low, right, high), box = bounds(one), bounds(other)
    if math.hypot(max(box[0] - right, left - box[2], 0.0), max(box[1] - high, low - box[3], 0.0)) > within_mm:
        return math.inf
    if _holds(one, other[0]) or _holds(other, one[0]):
        return 0.0
    least = math.inf
    for i, a in enumerate(one):
        b = one[i - 1]
        for j, c in enumerate(other):
            d = other[j - 1]
            if _cross(a, b, c, d):
                return 0.0
            least = min(least, _from(a, c, d), _from(c, a, b))
    return least


def _holds(outline: Outline, point: Point) -> bool:
    """Whether a point lies within an outline."""
    x, y = point
    inside = False
    for i, (x1, y1) in enumerate(outline):
        x0, y0 = outline[i - 1]
        if (y0 > y) != (y1 > y) and x < x0 + (y - y0) / (y1 - y0) * (x1 - x0):
            inside = not inside
    return inside


def _cross(a: Point, b: Point, c: Point, d: Point) -> bool:
    def side(p: Point, q: Point, r: Point) -> float:
        return (q[0] - p[0]) * (r[1] - p[1]) - (q[1] - p[1]) * (r[0] - p[0])

    return side(a, b, c) * side(a, b, d) < 0 and side(c, d, a) * side(c, d, b) < 0


def _from(p: Point, a: Point, b: Point) -> float:
    """How far a point lies from a stretch."""
    run = (b[0] - a[0], b[1] - a[1])
    size = run[0] ** 2 + run[1] ** 2
    at = 0.0 if size == 0 else min(1.0, max(0.0, ((p[0] - a[0]) * run[0] + (p[1] - a[1]) * run[1]) / size))
    return math.dist(p, (a[0] + at * run[0], a[1] + at * run[1]))
