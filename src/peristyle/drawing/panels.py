"""A panel in its groove: in the box cut through, and enlarged."""

from peristyle.core.lengths import Format
from peristyle.core.planes import Point
from peristyle.drawing.shapes import Handle, Label, Path, Shape, Tag, box, dimension, line
from peristyle.model import fields
from peristyle.model.design import Panel
from peristyle.planning.plan import Plan
from peristyle.planning.section import GroovePlan


def panel_across(
    plan: Plan, groove: GroovePlan, panel: Panel, walls: tuple[float, float], lean: float
) -> list[Shape]:
    """The groove in both walls and the panel in it; `walls` are the inner faces at the bottom edge."""
    cos = plan.ring.slabs[0].cos_slope
    depth, reach = groove.depth_mm / cos, (groove.depth_mm - panel.play_mm) / cos
    at = groove.low_mm * lean
    left, right = walls[0] - at, walls[1] + at
    low = groove.low_mm
    shapes: list[Shape] = [
        Path(box(*sorted_x(face, face + depth * sign, low, groove.high_mm)), "blade", "tint", weight=1.0)
        for face, sign in ((left, -1.0), (right, 1.0))
    ]
    body = box(left - reach, low, right + reach, low + panel.thickness_mm)
    return [*shapes, Path(body, "panel", "solid", weight=1.2)]


def sorted_x(a: float, b: float, low: float, high: float) -> tuple[float, float, float, float]:
    """The bounds of a box between two x's, whichever is the smaller."""
    return (min(a, b), low, max(a, b), high)


def groove_size(
    plan: Plan, groove: GroovePlan, walls: tuple[float, float], right: float, away: float
) -> tuple[list[Shape], Tag, Handle]:
    """How far the groove lies from its edge: dimension, size to type, and the groove to drag."""
    height = plan.design.height_mm
    bottom = groove.panel == "bottom"
    field = fields.PANELS[groove.panel].height
    edge, near = (0.0, groove.low_mm) if bottom else (height, groove.high_mm)
    out = away if bottom else away * 0.45
    shapes = dimension((right, edge), (right, near), (out, 0.0), role="decided")
    word = "groove up" if bottom else "groove down"
    shift = (78.0, 0.0) if bottom else (70.0, 22.0)
    tag = Tag(field, (right + out, (edge + near) / 2), shift=shift, prefix=word)
    slack = height * 0.02
    area = box(walls[0], groove.low_mm - slack, walls[1], groove.high_mm + slack)
    return shapes, tag, Handle(field, area, (0.0, 1.0 if bottom else -1.0))


def groove_enlarged(
    plan: Plan, fmt: Format, groove: GroovePlan, panel: Panel, x: float, share: tuple[float, float]
) -> tuple[list[Shape], list[Tag], float]:
    """The groove enlarged within a share of the drawing's height: depth, width, what is left; and where it ends.

    Sizes run from the panel's own edge: upward for the bottom, downward for the top.
    """
    design = plan.design
    own = fields.PANELS[groove.panel]
    thick = min(design.thicknesses_mm)
    near = panel.height_mm
    far = near + groove.width_mm
    shown = far + groove.width_mm * 1.2
    room = share[1] - share[0]
    scale = min(room / shown, room * 0.84 / (thick * 1.8))
    bottom = groove.panel == "bottom"

    def at(px: float, py: float) -> Point:
        return (x + px * scale, share[0] + py * scale if bottom else share[1] - py * scale)

    inside = thick - groove.depth_mm
    wall = ((0.0, 0.0), (thick, 0.0), (thick, near), (inside, near), (inside, far), (thick, far), (thick, shown),
            (0.0, shown))  # fmt: skip
    end = thick + thick * 0.9
    # A panel lies on the lower side of its groove.
    low = near if bottom else far - panel.thickness_mm
    body = box(inside + panel.play_mm, low, end, low + panel.thickness_mm)
    shapes: list[Shape] = [
        Path(tuple(at(*p) for p in wall), "wood", "hatch", weight=1.4),
        Path(tuple(at(*p) for p in box(inside, near, thick, far)), "blade", "tint", weight=1.0),
        Path(tuple(at(*p) for p in body), "panel", "solid", weight=1.2),
        Label(at(thick / 2, shown), f"{groove.panel}, enlarged", "quiet", 9.0,
              shift=(14.0, 12.0 if bottom else -12.0)),
        Label(at(inside / 2, (near + far) / 2), fmt.length(groove.wall_left_mm), "follows", 9.0),
    ]  # fmt: skip
    down = -design.height_mm * 0.03 / scale
    for px, py in ((inside, near), (thick, near)):
        shapes.append(line(at(px, py), at(px, down), "quiet", 0.5))
    middle = at(end, low + panel.thickness_mm / 2)
    way = -1.0 if bottom else 1.0
    tags = [
        Tag(own.depth, at(thick - groove.depth_mm / 2, 0.0), shift=(0.0, 22.0 * way), prefix="deep"),
        Tag(own.thickness, middle, shift=(44.0, 0.0), prefix="panel"),
        Tag(own.play, middle, shift=(44.0, -26.0), prefix="play"),
        Tag(own.fit, middle, shift=(44.0, 26.0), prefix="fit"),
    ]
    if panel.segments and panel.segments.style == "ring":
        tags.append(Tag(fields.ring_width(groove.panel), middle, shift=(130.0, 0.0), prefix="ring wide"))
    return shapes, tags, at(end, 0.0)[0]
