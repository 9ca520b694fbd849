"""The box cut through: walls, groove, panel, lid line, and the wood the saw takes."""

import math

from peristyle.core.lengths import Format
from peristyle.core.planes import Point
from peristyle.drawing.shapes import Drawing, Handle, Label, Path, Role, Shape, Tag, box, dimension, line
from peristyle.model import fields
from peristyle.planning.plan import Plan


def section_drawing(plan: Plan, fmt: Format) -> Drawing:
    """Left and right wall cut through, the middle broken out; the groove enlarged beside it."""
    ring, section, design = plan.ring, plan.section, plan.design
    if not ring.sides:
        return Drawing(
            shapes=(Label((50.0, 50.0), "No ring yet", "caution", 14.0, bold=True),),
            words="No section: the ring cannot be made.",
        )
    height = design.height_mm
    slab = ring.slabs[0]
    lean = math.tan(math.radians(design.slope_of(0)))
    thick = slab.level_thickness_mm
    # As wide as looks right beside its height; the break says it is not the whole width.
    inside = max(height * 0.9, thick * 5)
    shapes: list[Shape] = []
    tags: list[Tag] = []
    handles: list[Handle] = []

    def wall(x: float, sign: float) -> tuple[Point, ...]:
        return (
            (x, 0.0),
            (x + sign * thick, 0.0),
            (x + sign * (thick - lean * height), height),
            (x - sign * lean * height, height),
        )

    left, right = 0.0, 2 * thick + inside
    span = right - left
    shapes.append(
        Path((*wall(left, 1.0)[1:3], *reversed(wall(right, -1.0)[1:3])), "inside", "solid", weight=0.0)
    )
    for x, sign in ((left, 1.0), (right, -1.0)):
        shapes.append(Path(wall(x, sign), "wood", "hatch", weight=1.4))
    shapes += _break((left + right) / 2, height, span)
    away = height * 0.16
    shapes += dimension((left, 0.0), (left, height), (-away * 1.7, 0.0), role="decided")
    tags.append(Tag(fields.HEIGHT, (left - away * 1.7, height / 2)))
    groove = section.groove
    if groove and design.bottom:
        shapes += _panel(plan, left, right, thick, lean)
        shapes += dimension((right, 0.0), (right, groove.low_mm), (away, 0.0), role="decided")
        tags.append(
            Tag(
                fields.GROOVE_HEIGHT, (right + away, groove.low_mm / 2), shift=(78.0, 0.0), prefix="groove up"
            )
        )
        handles.append(
            Handle(
                fields.GROOVE_HEIGHT,
                box(
                    left + thick, groove.low_mm - height * 0.02, right - thick, groove.high_mm + height * 0.02
                ),
                (0.0, 1.0),
            )
        )
    shapes += _liner(plan, left, right, thick, tags)
    shapes += _lid(plan, fmt, left, right, away, tags, handles)
    shapes += dimension((left, 0.0), (left, section.finished_mm), (-away * 0.8, 0.0), role="quiet")
    shapes.append(
        Label(
            (left - away * 0.8, height * 0.5),
            f"finished {fmt.length(section.finished_mm)}",
            "quiet",
            9.0,
            turn_deg=90.0,
            shift=(-8.0, 0.0),
        )
    )
    x_end = right + away * 4.6
    if groove and design.bottom:
        x_end = _detail(plan, fmt, right + away * 4.4, shapes, tags)
    return Drawing(
        tuple(shapes),
        tuple(tags),
        tuple(handles),
        (left - away * 2.6, -height * 0.12, x_end, height * 1.1),
        _words(plan, fmt),
    )


def _break(x: float, height: float, span: float) -> list[Shape]:
    """Two zigzag lines: the middle is left out."""
    gap = span * 0.035
    shapes: list[Shape] = []
    for offset in (-gap, gap):
        points = [
            (x + offset + (gap * 0.6 if k % 2 else -gap * 0.6), -height * 0.06 + height * 1.12 * k / 6)
            for k in range(7)
        ]
        shapes.append(Path(tuple(points), "quiet", closed=False, weight=0.8))
    return shapes


def _panel(plan: Plan, left: float, right: float, thick: float, lean: float) -> list[Shape]:
    """The groove in both walls and the panel in it."""
    groove, bottom = plan.section.groove, plan.design.bottom
    assert groove is not None
    assert bottom is not None
    depth = groove.depth_mm / plan.ring.slabs[0].cos_slope
    play = bottom.play_mm / plan.ring.slabs[0].cos_slope
    at = groove.low_mm * lean
    shapes: list[Shape] = []
    for face, sign in ((left + thick - at, -1.0), (right - thick + at, 1.0)):
        shapes.append(
            Path(
                box(
                    min(face, face + sign * depth),
                    groove.low_mm,
                    max(face, face + sign * depth),
                    groove.high_mm,
                ),
                "blade",
                "tint",
                weight=1.0,
            )
        )
    reach = depth - play
    shapes.append(
        Path(
            box(
                left + thick - at - reach,
                groove.low_mm,
                right - thick + at + reach,
                groove.low_mm + bottom.thickness_mm,
            ),
            "panel",
            "solid",
            weight=1.2,
        )
    )
    return shapes


def _liner(plan: Plan, left: float, right: float, thick: float, tags: list[Tag]) -> list[Shape]:
    """The liner's walls, and the contents' height between them."""
    shapes: list[Shape] = []
    floor = plan.section.floor_mm
    inset = thick
    if plan.liner is not None and plan.design.liner is not None:
        liner = plan.design.liner
        top = plan.liner.base_mm + liner.height_mm
        for x, sign in ((left + thick + liner.gap_mm, 1.0), (right - thick - liner.gap_mm, -1.0)):
            wall = box(
                min(x, x + sign * liner.thickness_mm), floor, max(x, x + sign * liner.thickness_mm), top
            )
            shapes.append(Path(wall, "panel", "solid", weight=1.2))
        inset += liner.gap_mm + liner.thickness_mm
        tags.append(
            Tag(fields.LINER_HEIGHT, (left + inset, (floor + top) / 2), shift=(62.0, 0.0), prefix="liner")
        )
    if plan.contents.blocks:
        tall = floor + plan.contents.height_mm
        role: Role = "caution" if plan.contents.height_mm > plan.contents.room_mm else "quiet"
        shapes.append(
            Path(box(left + inset, floor, right - inset, tall), role, "tint", weight=0.8, dash=True)
        )
        shapes.append(Label(((left + right) / 2, tall), "contents", "quiet", 9.0, shift=(30.0, -9.0)))
    return shapes


def _lid(
    plan: Plan, fmt: Format, left: float, right: float, away: float, tags: list[Tag], handles: list[Handle]
) -> list[Shape]:
    """The band the saw and the truing take, and the heights above and below it."""
    lid = plan.section.lid
    if lid is None:
        return []
    height = plan.design.height_mm
    over = away * 0.3
    shapes: list[Shape] = [
        Path(box(left - over, lid.lost_low_mm, right + over, lid.lost_high_mm), "blade", "tint", weight=0.0),
        Path(box(left - over, lid.kerf_low_mm, right + over, lid.kerf_high_mm), "blade", "solid", weight=0.0),
    ]
    shapes += dimension((right, lid.lost_high_mm), (right, height), (away, 0.0), role="decided")
    tags.append(
        Tag(
            fields.LID_HEIGHT,
            (right + away, (lid.lost_high_mm + height) / 2),
            shift=(34.0, 0.0),
            prefix="lid",
        )
    )
    tags.append(Tag(fields.LID_KERF, (right + away * 0.35, lid.line_mm), shift=(62.0, 9.0), prefix="kerf"))
    tags.append(
        Tag(fields.CLEAN_UP, (right + away * 0.35, lid.line_mm), shift=(62.0, -13.0), prefix="clean-up")
    )
    shapes += dimension((right, 0.0), (right, lid.body_mm), (away * 0.55, 0.0), role="quiet")
    shapes.append(
        Label(
            (right + away * 0.55, lid.body_mm * 0.55),
            f"body {fmt.length(lid.body_mm)}",
            "quiet",
            9.0,
            turn_deg=90.0,
            shift=(9.0, 0.0),
        )
    )
    at = left + (right - left) * 0.24
    shapes.append(
        Label(
            (at, lid.lost_low_mm), f"lid line {fmt.length(lid.line_mm)} up", "blade", 9.0, shift=(0.0, -10.0)
        )
    )
    grip = height * 0.03
    handles.append(
        Handle(
            fields.LID_HEIGHT,
            box(left - over, lid.lost_low_mm - grip, right + over, lid.lost_high_mm + grip),
            (0.0, 1.0),
            -1.0,
        )
    )
    return shapes


def _detail(plan: Plan, fmt: Format, x: float, shapes: list[Shape], tags: list[Tag]) -> float:
    """The groove enlarged, to the same height as the section: depth, width, what is left."""
    groove, bottom, design = plan.section.groove, plan.design.bottom, plan.design
    assert groove is not None
    assert bottom is not None
    thick = min(design.thicknesses_mm)
    shown = groove.high_mm + groove.width_mm * 1.2
    scale = min(design.height_mm * 0.72 / shown, design.height_mm * 0.6 / (thick * 1.8))
    y = design.height_mm * 0.12

    def at(px: float, py: float) -> Point:
        return (x + px * scale, y + py * scale)

    wall = (
        (0.0, 0.0),
        (thick, 0.0),
        (thick, groove.low_mm),
        (thick - groove.depth_mm, groove.low_mm),
        (thick - groove.depth_mm, groove.high_mm),
        (thick, groove.high_mm),
        (thick, shown),
        (0.0, shown),
    )
    shapes.append(Path(tuple(at(*p) for p in wall), "wood", "hatch", weight=1.4))
    cut = box(thick - groove.depth_mm, groove.low_mm, thick, groove.high_mm)
    shapes.append(Path(tuple(at(*p) for p in cut), "blade", "tint", weight=1.0))
    end = thick + thick * 0.9
    panel = box(
        thick - groove.depth_mm + bottom.play_mm, groove.low_mm, end, groove.low_mm + bottom.thickness_mm
    )
    shapes.append(Path(tuple(at(*p) for p in panel), "panel", "solid", weight=1.2))
    top = at(0.0, shown)[1]
    shapes.append(Label((at(thick / 2, 0)[0], top), "groove, enlarged", "quiet", 9.0, shift=(14.0, 12.0)))
    shapes.append(
        Label(
            at((thick - groove.depth_mm) / 2, (groove.low_mm + groove.high_mm) / 2),
            fmt.length(groove.wall_left_mm),
            "follows",
            9.0,
        )
    )
    foot = at(thick, groove.low_mm)
    shapes.append(
        line(
            at(thick - groove.depth_mm, groove.low_mm),
            (at(thick - groove.depth_mm, 0)[0], y - design.height_mm * 0.03),
            "quiet",
            0.5,
        )
    )
    shapes.append(line(foot, (foot[0], y - design.height_mm * 0.03), "quiet", 0.5))
    tags.append(
        Tag(
            fields.GROOVE_DEPTH, (at(thick - groove.depth_mm / 2, 0)[0], y), shift=(0.0, -22.0), prefix="deep"
        )
    )
    mid = at(end, groove.low_mm + bottom.thickness_mm / 2)
    tags.append(Tag(fields.PANEL_THICKNESS, mid, shift=(44.0, 0.0), prefix="panel"))
    tags.append(Tag(fields.PANEL_PLAY, mid, shift=(44.0, -26.0), prefix="play"))
    tags.append(Tag(fields.PANEL_FIT, mid, shift=(44.0, 26.0), prefix="fit"))
    return at(end, 0)[0] + design.height_mm * 0.42


def _words(plan: Plan, fmt: Format) -> str:
    section = plan.section
    parts = [f"The box cut through: {fmt.length(section.glued_mm, unit=True)} high as glued"]
    if section.lid:
        parts.append(
            f"lid {fmt.length(section.lid.lid_mm, unit=True)}, body {fmt.length(section.lid.body_mm, unit=True)}"
        )
    if section.groove:
        parts.append(
            f"groove {fmt.length(section.groove.low_mm, unit=True)} up, "
            f"{fmt.length(section.groove.depth_mm, unit=True)} deep"
        )
    return ", ".join(parts) + "."
