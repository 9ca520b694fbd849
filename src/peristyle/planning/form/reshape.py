"""The same box described another way: measured on another line, or as another kind of ring."""

import math

from peristyle.core import outlines
from peristyle.model import edits
from peristyle.model.design import Alternating, House, Outline, Rectangle, Regular, Shape, replace
from peristyle.model.job import Job, openings_within, revised
from peristyle.planning.form.ring import RingPlan, plan_ring


def kind_of(shape: Shape) -> str:
    """What the shape is called in the choice of shapes."""
    kinds: dict[type, str] = {
        Rectangle: "rectangle",
        Regular: "regular",
        Alternating: "alternating",
        House: "house",
    }
    return kinds.get(type(shape), "outline")


def measured(job: Job, measure: str) -> Job:
    """The very same box with its size taken on another line (inside, across flats …).

    The design as it is where the ring does not stand, or the shape has no such measure.
    """
    ring = plan_ring(job)
    shape = job.design.form.shape
    if not ring.stands or measure == shape.measure:
        return job
    level = ring.inner_bottom if measure == "inside" else ring.outer_bottom
    runs = outlines.run_lengths(ring.slabs, level)
    match shape:
        case Regular(sides=count):
            apothem = ring.slabs[0].outer_mm(0.0)
            sizes = {
                "inside": runs[0],
                "outside": runs[0],
                "across_flats": 2 * apothem,
                "across_corners": 2 * apothem / math.cos(math.pi / count),
            }
            if measure not in sizes:
                return job
            new: Shape = replace(shape, size_mm=sizes[measure], measure=measure, top_mm=None)
        case Rectangle() if measure in ("inside", "outside"):
            new = replace(
                shape,
                length_mm=runs[0],
                width_mm=runs[1],
                measure=measure,
                top_length_mm=None,
                top_width_mm=None,
            )
        case Alternating() if measure in ("inside", "outside"):
            new = replace(shape, first_mm=runs[0], second_mm=runs[1], measure=measure)
        case Outline() if measure in ("inside", "outside"):
            angles = tuple(corner.interior_deg for corner in ring.corners)
            new = replace(shape, lengths_mm=runs, interiors_deg=angles, measure=measure)
        case House() if measure in ("inside", "outside"):
            new = replace(shape, width_mm=runs[0], wall_mm=runs[1], measure=measure)
        case _:
            return job
    # A taper's slopes stay as they are, given as angles from here on.
    slopes = tuple(job.design.slope_of(i) for i in range(job.design.side_count))
    even = slopes[:1] if max(slopes) == min(slopes) else slopes
    return revised(job, shape=new, slopes_deg=even)


def reshaped(job: Job, kind: str, ring: RingPlan) -> Job:
    """The same box as another kind of ring, about as large across."""
    shape = job.design.form.shape
    if kind_of(shape) == kind:
        return job
    if isinstance(shape, Rectangle):
        across, deep = shape.length_mm, shape.width_mm
    elif isinstance(shape, Regular):
        across = deep = (
            shape.size_mm if shape.measure.startswith("across") else shape.size_mm * shape.sides / 3.2
        )
    else:
        across = deep = job.design.form.height_mm * 2
    count = job.design.side_count
    new: Shape
    if kind == "rectangle":
        new = Rectangle(across, deep, "outside")
    elif kind == "regular":
        new = Regular(count if count != 4 else 6, across, "across_flats")
    elif kind == "alternating":
        count = max(4, count + count % 2) if count != 4 else 8
        side = across / (1 + 2**0.5)
        new = Alternating(count, round(side), round(side * 0.6), "outside")
    elif kind == "house":
        new = House(across, round(across * 0.5), 40.0)
        count = 5
    elif ring.sides:
        # The very ring that is there, every side and corner now to be typed or dragged.
        line = "inside" if shape.measure == "inside" and ring.stands else "outside"
        lengths = tuple(s.inside_mm or s.outside_mm if line == "inside" else s.outside_mm for s in ring.sides)
        corners = tuple(c.interior_deg for c in ring.corners)
        return revised(
            job, shape=Outline(lengths, corners, "inside" if line == "inside" else "outside"), contents=()
        )
    else:
        return job
    base = edits.with_sides(job, count) if count != job.design.side_count else job
    changed = revised(
        base,
        shape=new,
        thicknesses_mm=job.design.form.thicknesses_mm[:1],
        slopes_deg=job.design.form.slopes_deg[:1],
    )
    last = changed.design.side_count - 1
    closing = changed.stock.closing_corner
    return revised(
        changed,
        front=min(changed.design.form.front, last),
        openings=openings_within(changed, last + 1),
        closing_corner=None if closing is None else min(closing, last),
    )
