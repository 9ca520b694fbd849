"""Moulded sides in the box cut through: what the section takes of both walls, with its points."""

from collections.abc import Callable

from peristyle.core.planes import Point
from peristyle.drawing.covers import drawn_side
from peristyle.drawing.hardware import rows_of_sizes
from peristyle.drawing.shapes import Label, Path, Shape, Tag
from peristyle.model.cover_fields import moulding_point
from peristyle.planning.plan import Plan
from peristyle.planning.section.moulding import regions

_MOST_TAGGED = 6  # points with their sizes on the drawing: more would cover it


def moulded_across(plan: Plan, faces: tuple[float, float], lean: float) -> tuple[list[Shape], list[Tag]]:
    """What is taken off both walls; `faces` are their outer faces' feet."""
    own = plan.job.design.section.moulding
    if own is None or not plan.ring.sides:
        return [], []
    side = plan.ring.sides[drawn_side(plan)]
    slab, high = plan.ring.slabs[side.index], plan.job.design.form.height_mm

    def at(face: float, way: float) -> Callable[[Point], Point]:
        def placed(point: Point) -> Point:
            up, inward = point
            z = up * slab.cos_slope + inward * slab.sin_slope
            out = up * slab.sin_slope - inward * slab.cos_slope
            return face - way * out, min(max(z, 0.0), high)

        return placed

    shapes: list[Shape] = [
        Path(tuple(at(face, way)(point) for point in section), "blade", "solid", weight=0.6)
        for section in regions(own, side)
        for face, way in ((faces[0], 1.0), (faces[1], -1.0))
    ]
    tags: list[Tag] = []
    points = list(zip(own.ups_mm, own.ins_mm, strict=False))
    under = rows_of_sizes(plan) + (plan.job.design.section.feet is not None)
    for number, point in enumerate(points[:_MOST_TAGGED]):
        shapes.append(Label(at(faces[0], 1.0)(point), str(number + 1), "quiet", 8.0, shift=(-9.0, 0.0)))
        row, column = divmod(number, 2)
        down = -20.0 - 26.0 * (row + under)
        for place, (what, prefix) in enumerate((("up", f"{number + 1} up"), ("in", "in"), ("arc", "radius"))):
            if what != "arc" or number < len(points) - 1:
                shift = (24.0 + 300.0 * column + 92.0 * place, down)
                tags.append(Tag(moulding_point(number, what), (faces[0], 0.0), shift=shift, prefix=prefix))
    return shapes, tags
