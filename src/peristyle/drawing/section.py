"""The box cut through: walls, groove, panel, lid line, and the wood the saw takes."""

import math
from collections.abc import Iterator
from typing import NamedTuple

from peristyle.core.lengths import Format
from peristyle.core.outlines import box
from peristyle.core.planes import Point
from peristyle.drawing.covers import (
    applied_sizes,
    drawn_side,
    false_floor_across,
    half_width_mm,
    lid_across,
    lid_sizes,
)
from peristyle.drawing.edges import edges_across
from peristyle.drawing.fittings import fittings_across
from peristyle.drawing.hardware import hardware_across, rows_of_sizes
from peristyle.drawing.inner_section import inner_across
from peristyle.drawing.moulded import moulded_across
from peristyle.drawing.panels import groove_enlarged, groove_size, panel_across
from peristyle.drawing.shapes import Drawing, Handle, Label, Path, Role, Shape, Tag, dimension
from peristyle.model import fields
from peristyle.model.design import Panel, panel_of
from peristyle.planning.inside.contents import lining_up_mm
from peristyle.planning.making.parts.feet import FEET
from peristyle.planning.plan import Plan
from peristyle.planning.section.covers import roof_of
from peristyle.planning.section.grooves import GroovePlan

_SIZES_ROW = (
    0.2  # room for a row of sizes, as a share of the box's height: a narrow window draws it 165 px high
)


def section_drawing(plan: Plan, fmt: Format) -> Drawing:
    """Left and right wall cut through, the middle broken out; the groove enlarged beside it."""
    ring, section, job = plan.ring, plan.section, plan.job
    if not ring.sides:
        return Drawing(
            shapes=(Label((50.0, 50.0), "No ring yet", "caution", 14.0, bold=True),),
            words="No section: the ring cannot be made.",
        )
    height = job.design.form.height_mm
    at = _laid(plan)
    left, right, out, away = at.left, at.right, at.out, at.away
    tags: list[Tag] = []
    shapes: list[Shape] = [*_walls(plan, left, right, at.thick, at.lean, height)]
    if at.broken:
        below = max(_under(plan), _stands_mm(plan))
        shapes += _break((left + right) / 2, (-below, max(height, section.finished_mm - below)), right - left)
    shapes += dimension(
        (left - out, 0.0), (left - out, height), (-away * 1.7, 0.0), role=_held(plan, "glued")
    )
    tags.append(Tag(fields.HEIGHT, (left - out - away * 1.7, height / 2)))
    more, sizes, handles = _panels_across(plan, at)
    shapes += more
    tags += sizes
    more, sizes, end = _enlarged(plan, fmt, at)
    shapes += more
    tags += sizes
    shapes += lid_across(plan, (left, right), at.lean)
    tags += lid_sizes(plan, right + out)
    for add in (
        moulded_across,
        edges_across,
        hardware_across,
        inner_across,
        false_floor_across,
        fittings_across,
    ):
        more, sizes = add(plan, (left, right), at.lean)
        shapes += more
        tags += sizes
    shapes += _room(plan, right - at.thick - (right - left) * 0.16, tags)
    shapes += _inside(plan, at, tags)
    shapes += _lining(plan, at, tags)
    shapes += _feet(plan, (left, right), tags)
    shapes += _lid(plan, fmt, left - out, right + out, away, tags, handles)
    shapes += _closed(plan, left - out, away, tags)
    sizes_below = height * _SIZES_ROW * max(0, rows_of_sizes(plan) - 1)
    foot = -height * 0.12 - sizes_below - 1.6 * max(_under(plan), _stands_mm(plan))
    # What is in a hopeless box may stand over it, and is seen to; one far too small for it stays large enough to read.
    tallest = max(y for shape in shapes if isinstance(shape, Path) for _x, y in shape.points)
    top = max(max(height, section.finished_mm) * 1.1, min(tallest + height * 0.02, height * 1.45))
    bounds = (left - out - away * 2.6, foot, end, top)
    return Drawing(tuple(shapes), tuple(tags), tuple(handles), bounds, _words(plan, fmt))


class _Laid(NamedTuple):
    """How the section lies on its sheet: both outer faces at the foot, the walls' level thickness, their lean, how far
    they stand out over the foot, how far sizes stand off, which side is cut, and whether the middle is broken out.
    """

    left: float
    right: float
    thick: float
    lean: float
    out: float
    away: float
    side: int
    broken: bool


def _laid(plan: Plan) -> _Laid:
    """As wide as looks right beside its height; the break says it is not the whole width. Under a roof it is true."""
    side, height = drawn_side(plan), plan.job.design.form.height_mm
    lean = math.tan(math.radians(plan.job.design.slope_of(side)))
    thick, half = plan.ring.slabs[side].level_thickness_mm, half_width_mm(plan)
    inside = max(height * 0.9, thick * 5) if half is None else 2 * (half - thick)
    out = max(0.0, lean * height)
    return _Laid(0.0, 2 * thick + inside, thick, lean, out, height * 0.16, side, half is None)


def _panels_of(plan: Plan) -> list[tuple[GroovePlan, Panel]]:
    return [
        (groove, panel)
        for groove in plan.section.grooves
        if (panel := panel_of(plan.job.design, groove.panel)) is not None
    ]


def _panels_across(plan: Plan, at: _Laid) -> tuple[list[Shape], list[Tag], list[Handle]]:
    """Bottom, top and lid where they lie, with how far from their edge that is."""
    shapes: list[Shape] = []
    tags: list[Tag] = []
    handles: list[Handle] = []
    for groove, panel in _panels_of(plan):
        shapes += panel_across(plan, groove, panel, (at.left, at.right), at.side)
        if groove.seat == "applied":
            height = plan.job.design.form.height_mm
            tags += applied_sizes(groove, at.right + at.out, height) if groove.panel != "lid" else []
            continue
        if groove.panel == "lid" and groove.seat == "rabbet":
            continue
        walls = (at.left + at.thick, at.right - at.thick)
        more, tag, handle = groove_size(plan, groove, walls, at.right + at.out, at.away)
        shapes += more
        tags += [] if groove.panel == "lid" else [tag]
        handles += [handle] if handle else []
    return shapes, tags, handles


def _enlarged(plan: Plan, fmt: Format, at: _Laid) -> tuple[list[Shape], list[Tag], float]:
    """Grooves and rabbets enlarged beside the box, and how far to the right that reaches."""
    shapes: list[Shape] = []
    tags: list[Tag] = []
    height, x = plan.job.design.form.height_mm, at.right + at.out + at.away * 4.8
    cut = [(groove, panel) for groove, panel in _panels_of(plan) if groove.seat != "applied"]
    far = at.right + at.out + at.away * 4.6
    for groove, panel in cut:
        low, high = (
            (0.12, 0.84) if len(cut) == 1 else (0.04, 0.42) if groove.panel == "bottom" else (0.58, 0.96)
        )
        more, own, end = groove_enlarged(plan, fmt, groove, panel, at.side, x, (low * height, high * height))
        shapes += more
        tags += own
        far = max(far, end + height * 0.42)
    return shapes, tags, far


def _walls(plan: Plan, left: float, right: float, thick: float, lean: float, height: float) -> list[Shape]:
    """Both walls cut through, and the room between them."""
    roof = roof_of(plan.job.design, plan.ring.slabs)
    if roof is not None:
        rise = thick * math.tan(math.radians(plan.job.design.section.cover.pitch_deg))  # type: ignore[union-attr]
        eaves = roof.eaves_mm
        return [
            Path(((x, 0.0), (x + way * thick, 0.0), (x + way * thick, eaves + rise), (x, eaves)), "wood", "hatch",
                 weight=1.4)
            for x, way in ((left, 1.0), (right, -1.0))
        ]  # fmt: skip
    first, second = (
        (
            (x, 0.0),
            (x + sign * thick, 0.0),
            (x + sign * (thick - lean * height), height),
            (x - sign * lean * height, height),
        )
        for x, sign in ((left, 1.0), (right, -1.0))
    )
    return [
        Path((*first[1:3], *reversed(second[1:3])), "inside", "solid", weight=0.0),
        *(Path(wall, "wood", "hatch", weight=1.4) for wall in (first, second)),
    ]


def _held(plan: Plan, which: str) -> Role:
    """How a height is drawn: the one that is held, and those that follow."""
    return "decided" if plan.height_of == which else "quiet"


def _closed(plan: Plan, x: float, away: float, tags: list[Tag]) -> list[Shape]:
    """How high the closed box is once the lid is sawn free, with what stands out of it."""
    stands = _stands_mm(plan)
    high = plan.section.finished_mm - stands
    tags.append(Tag(fields.CLOSED, (x - away * 0.8, high), shift=(0.0, 16.0), prefix="closed"))
    return dimension((x, -stands), (x, high), (-away * 0.8, 0.0), role=_held(plan, "closed"))


def _room(plan: Plan, x: float, tags: list[Tag]) -> list[Shape]:
    """The room inside, from the floor to what closes the box; where a lid is sawn free, less what that takes."""
    floor, room = plan.job.design.floor_mm, plan.section.room_mm
    lost = plan.section.lid.lost_mm if plan.section.lid else 0.0
    if room <= 0:
        return []
    top = floor + room + lost
    tags.append(Tag(fields.ROOM, (x, (floor + top) / 2), shift=(0.0, 0.0), prefix="room"))
    return dimension((x, floor), (x, top), (0.0, 0.0), role=_held(plan, "room"))


def _under(plan: Plan) -> float:
    """How far feet reach below the box (mm)."""
    return max((-piece.place.of((0.0, y, z))[2] for piece in FEET.pieces(plan)
                for _x, y in piece.show_face for z in (0.0, piece.thickness_mm)), default=0.0)  # fmt: skip


def _stands_mm(plan: Plan) -> float:
    """How far a bottom reaches below the sides, for feet to stand under it (mm)."""
    bottom = plan.job.design.section.bottom
    return max(0.0, -bottom.up_mm) if bottom else 0.0


def _feet(plan: Plan, walls: tuple[float, float], tags: list[Tag]) -> list[Shape]:
    """The feet as they stand under the two walls, and their sizes."""
    feet, high, top = plan.job.design.section.feet, _under(plan), -_stands_mm(plan)
    if feet is None or high <= 0:
        return []
    deep = {"block": feet.size_mm, "mitered": feet.thickness_mm, "wedge": plan.job.design.thickness_of(0)}[
        feet.kind
    ]
    shapes: list[Shape] = []
    for x, sign in ((walls[0], 1.0), (walls[1], -1.0)):
        near, far = x + sign * feet.inset_mm, x + sign * (feet.inset_mm + deep)
        bottom = near if feet.kind == "wedge" else far
        shapes.append(
            Path(((near, top), (far, top), (bottom, -high), (near, -high)), "wood", "hatch", weight=1.2)
        )
    at = walls[0] + feet.inset_mm + deep
    if feet.kind != "wedge":
        tags.append(Tag(fields.FEET_HEIGHT, (at, -high), shift=(26.0, -17.0), prefix="feet"))
    tags.append(Tag(fields.FEET_SIZE, (at, -high), shift=(104.0, -17.0), prefix="long"))
    tags.append(Tag(fields.FEET_INSET, (at, -high), shift=(184.0, -17.0), prefix="set in"))
    if feet.kind == "mitered":
        tags.append(Tag(fields.FEET_THICKNESS, (at, -high), shift=(266.0, -17.0), prefix="thick"))
    return shapes


def _break(x: float, levels: tuple[float, float], span: float) -> list[Shape]:
    """Two zigzag lines from under the foot to over the top: the middle is left out."""
    gap, (foot, top) = span * 0.035, levels
    past = (top - foot) * 0.06
    shapes: list[Shape] = []
    for offset in (-gap, gap):
        points = [
            (x + offset + (gap * 0.6 if k % 2 else -gap * 0.6), foot - past + (top - foot + 2 * past) * k / 6)
            for k in range(7)
        ]
        shapes.append(Path(tuple(points), "quiet", closed=False, weight=0.8))
    return shapes


def _upright(at: _Laid, near: float, far: float, low: float, high: float) -> Iterator[tuple[Point, ...]]:
    """What lies along both walls between two levels, from so far in to so far in from their outer faces, level; it
    leans as they do.
    """
    for edge, way in ((at.left, 1.0), (at.right, -1.0)):
        yield tuple(
            (edge + way * (inward - at.lean * z), z)
            for inward, z in ((near, low), (far, low), (far, high), (near, high))
        )


def _behind_liner(plan: Plan, at: _Laid) -> float:
    """How far in the inside begins, level: behind the wall, and behind the liner where there is one."""
    liner, made = plan.job.design.inside.liner, plan.liner
    if liner is None or made is None or not made.ring.slabs:
        return at.thick
    return (
        at.thick
        + liner.gap_mm / plan.ring.slabs[at.side].cos_slope
        + made.ring.slabs[at.side].level_thickness_mm
    )


def _inside(plan: Plan, at: _Laid, tags: list[Tag]) -> list[Shape]:
    """The liner's walls, and what stands between them: dividers, contents."""
    shapes: list[Shape] = []
    floor, (left, right) = plan.job.design.floor_mm, (at.left, at.right)
    inset, liner = _behind_liner(plan, at), plan.job.design.inside.liner
    if plan.liner is not None and liner is not None and plan.liner.ring.slabs:
        top = plan.liner.base_mm + liner.height_mm
        wall = plan.liner.ring.slabs[at.side].level_thickness_mm
        shapes += [
            Path(outline, "panel", "solid", weight=1.2)
            for outline in _upright(at, inset - wall, inset, floor, top)
        ]
        tags.append(
            Tag(fields.LINER_HEIGHT, (left + inset, (floor + top) / 2), shift=(62.0, 0.0), prefix="liner")
        )
    dividers = plan.job.design.inside.dividers
    if dividers is not None and plan.dividers.pieces:
        # One of them, seen on its end.
        x = left + inset + (right - left - 2 * inset) * 0.72
        high = floor + dividers.height_mm
        shapes.append(Path(box(x, floor, x + dividers.thickness_mm, high), "panel", "solid", weight=1.0))
        tags.append(Tag(fields.DIVIDER_HEIGHT, (x, high), shift=(-6.0, 15.0), prefix="dividers"))
    if plan.contents.blocks:
        lining = plan.job.design.inside.lining_mm
        foot = floor + lining
        tall = foot + plan.contents.height_mm
        inset += lining
        role: Role = "caution" if plan.contents.height_mm > plan.contents.room_mm else "quiet"
        shapes.append(Path(box(left + inset, foot, right - inset, tall), role, "tint", weight=0.8, dash=True))
        shapes.append(Label(((left + right) / 2, foot), "contents", "quiet", 9.0, shift=(30.0, 9.0)))
    return shapes


def _lining(plan: Plan, at: _Laid, tags: list[Tag]) -> list[Shape]:
    """Foam or cloth: a leaf on the floor, one under what closes the box, and one on each wall or the liner."""
    job = plan.job.design
    thick, floor, roof = job.inside.lining_mm, job.floor_mm, job.floor_mm + job.room_mm
    under = lining_up_mm(job) - thick
    if thick <= 0 or roof - floor <= thick + under:
        return []
    behind = _behind_liner(plan, at)
    front = behind + thick / plan.ring.slabs[at.side].cos_slope
    low, high = floor + thick, roof - under
    outlines = list(_upright(at, behind, front, low, high))
    for foot, head in ((floor, low), *(((high, roof),) if under else ())):
        (a, _b, _c, d), (e, _f, _g, h) = _upright(at, behind, front, foot, head)
        outlines.append((a, e, h, d))  # from wall to wall
    (_a, b, c, _d), _other = outlines[:2]
    middle = (b[0] + (c[0] - b[0]) * 0.25, b[1] + (c[1] - b[1]) * 0.25)
    tags.append(Tag(fields.LINING, middle, shift=(50.0, 0.0), prefix="lining"))
    tags.append(Tag(fields.CLOTH, middle, shift=(50.0, 26.0), prefix="cloth"))
    return [Path(outline, "quiet", "hatch", weight=0.8) for outline in outlines]


def _lid(
    plan: Plan, fmt: Format, left: float, right: float, away: float, tags: list[Tag], handles: list[Handle]
) -> list[Shape]:
    """The band the saw and the truing take, and the heights above and below it."""
    lid = plan.section.lid
    if lid is None:
        return []
    height = plan.job.design.form.height_mm
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
    tags.append(
        Tag(fields.LID_KERF, (right + away * 0.35, lid.line_mm), shift=(62.0, 9.0), prefix="lid kerf")
    )
    tags.append(
        Tag(fields.CLEAN_UP, (right + away * 0.35, lid.line_mm), shift=(62.0, -13.0), prefix="clean-up")
    )
    shapes += dimension((right, 0.0), (right, lid.body_mm), (away * 0.55, 0.0), role=_held(plan, "body"))
    tags.append(Tag(fields.BODY, (right + away * 0.55, lid.body_mm * 0.55), shift=(34.0, 0.0), prefix="body"))
    at = left + (right - left) * 0.3
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


def _words(plan: Plan, fmt: Format) -> str:
    section = plan.section
    parts = [f"The box cut through: {fmt.length(section.glued_mm, unit=True)} high as glued"]
    if section.lid:
        parts.append(
            f"lid {fmt.length(section.lid.lid_mm, unit=True)}, body {fmt.length(section.lid.body_mm, unit=True)}"
        )
    for groove in section.grooves:
        if groove.seat == "applied":
            parts.append(f"the {groove.panel} lies on the edge")
            continue
        parts.append(
            f"groove for the {groove.panel} {fmt.length(groove.low_mm, unit=True)} up, "
            f"{fmt.length(groove.depth_mm, unit=True)} deep"
        )
    return ", ".join(parts) + "."
