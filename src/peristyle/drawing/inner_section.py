"""Fillets and tray in the box cut through, with their sizes."""

from peristyle.core.planes import Point
from peristyle.drawing.covers import drawn_side
from peristyle.drawing.shapes import Path, Shape, Tag
from peristyle.model import inner_fields
from peristyle.planning.inside.inner import plan_inner
from peristyle.planning.plan import Plan


def inner_across(plan: Plan, faces: tuple[float, float], lean: float) -> tuple[list[Shape], list[Tag]]:
    """What lies along both walls: fillets, and the tray over them with its bottom from wall to wall."""
    inside = plan.job.design.inside
    inner = plan_inner(plan.job, plan.ring, plan.section, plan.liner)
    slab = plan.ring.slabs[drawn_side(plan)]
    thick, cos = slab.level_thickness_mm, slab.cos_slope
    shapes: list[Shape] = []
    tags: list[Tag] = []

    def at(way: float, inward: float, level: float) -> Point:
        edge = faces[0] if way > 0 else faces[1]
        return edge + way * (inward - lean * level), level

    def along(near: float, far: float, low: float, high: float) -> list[Shape]:
        """On both walls, from so far in to so far in, between two levels."""
        corners = ((near, low), (far, low), (far, high), (near, high))
        return [
            Path(tuple(at(way, inward, level) for inward, level in corners), "panel", "solid", weight=1.0)
            for way in (1.0, -1.0)
        ]

    if inner.fillets is not None and inside.fillets is not None and inner.fillets.ring.slabs:
        low, high = inner.fillets.base_mm, inner.fillets.top_mm
        far = thick + inside.fillets.thickness_mm / cos
        shapes += along(thick, far, low, high)
        spot = at(1.0, far, (low + high) / 2)
        tags += [
            Tag(
                field,
                spot,
                shift=(34.0 + 78.0 * number, -24.0 if inside.tray is None else -50.0),
                prefix=prefix,
            )
            for number, (prefix, field) in enumerate(inner_fields.FILLETS)
        ]
    if inner.tray is not None and inside.tray is not None and inner.tray.ring.slabs:
        own = inside.tray
        low, high = inner.tray.base_mm, inner.tray.top_mm
        near = thick + own.gap_mm / cos + (inside.lining_mm if plan.liner is None else 0.0) / cos
        far = near + own.thickness_mm / cos
        shapes += along(near, far, low, high)
        foot = low - own.bottom_mm
        left, right = at(1.0, near, low)[0], at(-1.0, near, low)[0]
        bottom = ((left, foot), (right, foot), (right, low), (left, low))
        shapes.append(Path(bottom, "panel", "solid", weight=1.0))
        spot = at(1.0, far, foot)
        tags += [
            Tag(field, spot, shift=(34.0 + 66.0 * number, -20.0), prefix=prefix)
            for number, (prefix, field) in enumerate(inner_fields.TRAY)
        ]
    return shapes, tags
