"""Where the sides stand: from the sizes decided to slabs, and the same box larger or smaller."""

import math
from typing import Final

from peristyle.core import closing, outlines
from peristyle.core.planes import Point, Slab, unit
from peristyle.model.design import Alternating, Design, House, Outline, Rectangle, Regular, Shape, replace
from peristyle.model.job import Job, revised
from peristyle.model.limits import MAX_MM


def _regular(shape: Regular) -> list[float]:
    half = math.pi / shape.sides
    match shape.measure:
        case "inside" | "outside":
            apothem = shape.size_mm / (2 * math.tan(half))
        case "across_flats":
            apothem = shape.size_mm / 2
        case "across_corners":
            apothem = shape.size_mm / 2 * math.cos(half)
    return [apothem] * shape.sides


def _walk(lengths: tuple[float, ...], headings: tuple[float, ...], slabs: list[Slab]) -> list[float]:
    """Offsets of the lines of a ring walked side by side, about the middle of its outline."""
    x = y = 0.0
    points: list[Point] = []
    for length, heading in zip(lengths, headings, strict=True):
        dx, dy = unit(heading)
        x, y = x + length * dx, y + length * dy
        points.append((x, y))
    cx, cy = outlines.centroid(tuple(points))
    return [s.ux * (p[0] - cx) + s.uy * (p[1] - cy) for s, p in zip(slabs, points, strict=True)]


def _headings(design: Design) -> tuple[tuple[float, ...], tuple[float, ...]]:
    """Direction each side runs in, and the lengths walked (empty where a shape needs none)."""
    match design.form.shape:
        case Outline(lengths_mm=lengths, interiors_deg=angles):
            ring = closing.close_ring(lengths, angles)
            return closing.directions_deg(ring.interiors_deg), ring.lengths_mm
        case House(width_mm=width, wall_mm=wall, pitch_deg=pitch):
            roof = width / 2 / math.cos(math.radians(pitch))
            corners = (90.0, 90.0 + pitch, 180.0 - 2 * pitch, 90.0 + pitch, 90.0)
            return closing.directions_deg(corners), (width, wall, roof, roof, wall)
        case Alternating(sides=count, first_mm=first, second_mm=second):
            headings = tuple(360.0 * i / count for i in range(count))
            return headings, tuple((first, second)[i % 2] for i in range(count))
        case _:
            count = design.side_count
            return tuple(360.0 * i / count for i in range(count)), ()


def slabs_of(design: Design) -> tuple[Slab, ...]:
    """The sides as slabs: the sizes given are those at the bottom edge. Raises ShapeError."""
    shape = design.form.shape
    headings, lengths = _headings(design)
    bare = [
        Slab.facing(heading - 90.0, 0.0, design.slope_of(i), design.thickness_of(i))
        for i, heading in enumerate(headings)
    ]
    match shape:
        case Regular():
            offsets = _regular(shape)
        case Rectangle(length_mm=length, width_mm=width):
            offsets = [width / 2, length / 2, width / 2, length / 2]
        case _:
            offsets = _walk(lengths, headings, bare)
    inside = shape.measure == "inside"
    return tuple(
        slab._replace(offset_mm=offset + (slab.level_thickness_mm if inside else 0.0))
        for slab, offset in zip(bare, offsets, strict=True)
    )


# The shapes that are given by two sizes, by the words for them.
_TWO_SIZES: Final[dict[type, dict[str, str]]] = {
    Rectangle: {"length": "length_mm", "width": "width_mm"},
    Alternating: {"first": "first_mm", "second": "second_mm"},
    House: {"floor": "width_mm", "wall": "wall_mm"},
}


def two_sizes(shape: Shape) -> dict[str, float]:
    """The two sizes (mm) of a shape that is given by two, by the words for them; nothing for others."""
    return {word: getattr(shape, name) for word, name in _TWO_SIZES.get(type(shape), {}).items()}


def stretched(shape: Shape, word: str, factor: float) -> Shape | None:
    """The shape with one of its two sizes, and what that is at the top, times `factor`; None past the limits."""
    name = _TWO_SIZES[type(shape)][word]
    changes = {name: getattr(shape, name) * factor}
    top = getattr(shape, f"top_{name}", None)
    if top is not None:
        changes[f"top_{name}"] = top * factor
    return replace(shape, **changes) if all(0 < size <= MAX_MM for size in changes.values()) else None


def scaled(job: Job, factor: float) -> Job | None:
    """The same box with its plan sizes times `factor`; None where that passes the limits."""
    shape = job.design.form.shape
    if job.design.inside.contents and isinstance(shape, Rectangle | Regular):
        return None  # the contents say how large it is

    def grow(size: float | None) -> float | None:
        return None if size is None else size * factor

    match shape:
        case Regular(size_mm=size):
            new: Shape = replace(shape, size_mm=size * factor, top_mm=grow(shape.top_mm))
            sizes = [size, shape.top_mm or size]
        case Rectangle(length_mm=length, width_mm=width):
            tops = (shape.top_length_mm, shape.top_width_mm)
            new = replace(
                shape, length_mm=length * factor, width_mm=width * factor,
                top_length_mm=grow(tops[0]), top_width_mm=grow(tops[1]),
            )  # fmt: skip
            sizes = [length, width, tops[0] or length, tops[1] or width]
        case House(width_mm=width, wall_mm=wall):
            new = replace(shape, width_mm=width * factor, wall_mm=wall * factor)
            sizes = [width, wall]
        case Alternating(first_mm=first, second_mm=second):
            new = replace(shape, first_mm=first * factor, second_mm=second * factor)
            sizes = [first, second]
        case Outline(lengths_mm=lengths):
            new = replace(shape, lengths_mm=tuple(None if v is None else v * factor for v in lengths))
            sizes = [v for v in lengths if v is not None]
    if any(not 0 < size * factor <= MAX_MM for size in sizes):
        return None
    return revised(job, shape=new)
