"""A panel in its groove: in the box cut through, and enlarged."""

from collections.abc import Callable, Iterator

from peristyle.core.lengths import Format
from peristyle.core.outlines import box
from peristyle.core.planes import Point
from peristyle.drawing.shapes import Handle, Label, Path, Shape, Tag, dimension, line
from peristyle.model import cover_fields, fields
from peristyle.model.design import Panel
from peristyle.planning.plan import Plan
from peristyle.planning.section.grooves import GroovePlan, in_side


def panel_across(
    plan: Plan, groove: GroovePlan, panel: Panel, faces: tuple[float, float], side: int = 0
) -> list[Shape]:
    """The groove in both walls and the panel in it; `faces` are the outer faces at the bottom edge."""
    slab, edge = plan.ring.slabs[side], groove.edges_mm[side] - plan.ring.slabs[side].offset_mm
    (left, right), profile = faces, groove.profiles[side]
    cos, sin = slab.cos_slope, slab.sin_slope
    out_and_up = [(y * sin - z * cos, y * cos + z * sin) for y, z in profile]
    shapes: list[Shape] = [
        Path(tuple((face + way * out, up) for out, up in out_and_up), "blade", "tint", weight=1.0)
        for face, way in ((left, -1.0), (right, 1.0))
        if profile
    ]
    low = groove.rests_mm
    body = box(left - edge, low, right + edge, low + panel.thickness_mm)
    return [*shapes, Path(body, "panel", "solid", weight=1.2)]


def _fields(groove: GroovePlan) -> fields.PanelFields:
    return cover_fields.LID if groove.panel == "lid" else fields.PANELS[groove.panel]


def groove_size(
    plan: Plan, groove: GroovePlan, walls: tuple[float, float], right: float, away: float
) -> tuple[list[Shape], Tag, Handle | None]:
    """How far the groove lies from its edge: dimension, size to type, and the groove to drag; how proud a panel
    stands out of its rabbet.
    """
    height = plan.job.design.form.height_mm
    bottom = groove.panel == "bottom"
    if groove.seat == "rabbet":
        own, at = _fields(groove).proud, (right, 0.0 if bottom else height)
        return [], Tag(own, at, shift=(84.0, -6.0 if bottom else 16.0), prefix="stands proud"), None
    field = _fields(groove).height
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
    plan: Plan, fmt: Format, groove: GroovePlan, panel: Panel, side: int, x: float, share: tuple[float, float]
) -> tuple[list[Shape], list[Tag], float]:
    """The groove in a side, enlarged within a share of the drawing's height: depth, width, what is left; and where it
    ends.

    Sizes run from the panel's own edge: upward for the bottom, downward for the top.
    """
    slab = plan.ring.slabs[side]
    cut = next((cut for cut in groove.cuts if side in cut.sides), groove.cuts[0])
    thick, height = slab.thickness_mm, plan.job.design.form.height_mm
    bottom = groove.panel == "bottom"
    edge = 0.0 if bottom else height
    arrises = [in_side(slab, out, edge)[0] for out in (slab.outer_mm(edge), slab.inner_mm(edge))]

    def up(y: float) -> float:
        """How far from the edge's outermost arris, along the face."""
        return y - min(arrises) if bottom else max(arrises) - y

    profile = [(z, up(y)) for y, z in (groove.profiles[side] if bottom else reversed(groove.profiles[side]))]
    near, far = profile[0][1], profile[-1][1]
    shown = max(far + groove.width_mm * 1.2, thick * 0.5)
    room = share[1] - share[0]
    scale = min(room / shown, room * 0.84 / (thick * 1.8))

    def at(px: float, py: float) -> Point:
        return (x + px * scale, share[0] + py * scale if bottom else share[1] - py * scale)

    inside = thick - cut.height_mm
    outer, inner = (up(y) for y in arrises)
    wall = ((0.0, outer), (thick, inner), *profile, (thick, shown), (0.0, shown))
    end = thick + thick * 0.9
    # As it is cut, the side stands upright here and the level panel leans.
    low = groove.rests_mm
    ends = (groove.edges_mm[side], slab.inner_mm(low) - thick * 0.9)
    body = [
        in_side(slab, out, level)
        for out, level in (
            (ends[0], low), (ends[1], low), (ends[1], low + panel.thickness_mm), (ends[0], low + panel.thickness_mm)
        )
    ]  # fmt: skip
    shapes: list[Shape] = [
        Path(tuple(at(*p) for p in wall), "wood", "hatch", weight=1.4),
        Path(tuple(at(*p) for p in profile), "blade", "tint", weight=1.0),
        Path(tuple(at(z, up(y)) for y, z in body), "panel", "solid", weight=1.2),
        Label(at(thick / 2, shown), f"{groove.panel}, enlarged", "quiet", 9.0,
              shift=(14.0, 12.0 if bottom else -12.0)),
        Label(at(0.0, (near + far) / 2), f"wall {fmt.length(groove.wall_left_mm)}", "follows", 9.0, anchor="right",
              shift=(-6.0, 0.0)),
    ]  # fmt: skip
    shapes += _through_the_year(plan, groove, panel, side, lambda z, y: at(z, up(y)))
    down = -height * 0.03 / scale
    for px, py in ((inside, near), (thick, near)):
        shapes.append(line(at(px, py), at(px, down), "quiet", 0.5))
    middle = at(end, (up(body[1][0]) + up(body[2][0])) / 2)
    tags = _enlarged_sizes(groove, panel, at(thick - cut.height_mm / 2, 0.0), middle)
    return shapes, tags, at(end, 0.0)[0]


def _enlarged_sizes(groove: GroovePlan, panel: Panel, foot: Point, middle: Point) -> list[Tag]:
    """How deep the groove is, at its foot; what else is decided of it and its panel, at the panel's middle."""
    own, way = _fields(groove), -1.0 if groove.panel == "bottom" else 1.0
    tags = [
        Tag(own.depth, foot, shift=(0.0, 22.0 * way), prefix="deep"),
        Tag(own.thickness, middle, shift=(44.0, 0.0), prefix="lid" if groove.panel == "lid" else "panel"),
        Tag(own.play, middle, shift=(44.0, -26.0), prefix="play"),
    ]
    if groove.seat == "groove":
        tags.append(Tag(own.fit, middle, shift=(44.0, 26.0), prefix="fit"))
    if panel.segments and panel.segments.style == "ring":
        tags.append(Tag(fields.ring_width(groove.panel), middle, shift=(130.0, 0.0), prefix="ring wide"))
    return tags


def _through_the_year(
    plan: Plan, groove: GroovePlan, panel: Panel, side: int, at: Callable[[float, float], Point]
) -> Iterator[Shape]:
    """Where a panel's edge stands at the driest and the dampest; `at` takes a point across the side."""
    moved = next((one for one in plan.section.movements if one.panel == groove.panel), None)
    if moved is None:
        return
    slab, held = plan.ring.slabs[side], panel.depth_mm - panel.play_mm
    levels = (groove.rests_mm, groove.rests_mm + panel.thickness_mm)
    for reach, word in ((moved.held_dry_mm - held, "dry"), (panel.play_mm - moved.play_damp_mm, "damp")):
        edge = [in_side(slab, groove.edges_mm[side] + reach, level) for level in levels]
        foot, head = (at(z, y) for y, z in edge)
        dry = word == "dry"
        yield line(foot, head, "decided" if dry else "caution", 1.6, dash=dry)
        yield Label(
            head, word, "quiet", 8.0, anchor="left" if dry else "right", shift=(4.0 if dry else -4.0, 9.0)
        )
