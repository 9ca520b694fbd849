"""The board to scale with the strip of sides on it, and one cut enlarged."""

import math

from peristyle.core.lengths import Format
from peristyle.core.planes import Point
from peristyle.drawing.shapes import (
    Drawing,
    Grain,
    Handle,
    Label,
    Path,
    Pick,
    Role,
    Shape,
    Tag,
    box,
    dimension,
    line,
)
from peristyle.model import fields
from peristyle.model.design import corner_name, side_name
from peristyle.planning.form.ring import SidePlan
from peristyle.planning.plan import Plan
from peristyle.planning.stock.laying import Placed, parting


def face_on_board(side: SidePlan, piece: Placed) -> tuple[Point, Point, Point, Point]:
    """The show face's four corners on the board, in their order in the side's own frame."""
    a, b, c, d = (piece.on(point) for point in side.outer_face)
    return (a, b, c, d)


def back_on_board(side: SidePlan, piece: Placed) -> tuple[Point, Point, Point, Point]:
    """The inside face's four corners on the board, seen through it."""
    a, b, c, d = (piece.on(point) for point in side.inner_face)
    return (a, b, c, d)


def board_drawing(plan: Plan, fmt: Format) -> Drawing:
    """The board, its strip in cutting order, losses at true width, and the offcut."""
    board, wrap = plan.job.stock.board, plan.wrap
    length, width = board.length_mm, board.width_mm
    shapes: list[Shape] = [Grain(box(0, 0, length, width), box(0, 0, length, width))]
    sides = plan.ring.sides
    strip = wrap.strip_mm or width
    if wrap.pieces:
        shapes += _veils(plan)
        shapes += _losses(plan)
        for piece in wrap.pieces:
            side = sides[piece.side]
            face = face_on_board(side, piece)
            inside = piece.end_mm <= length + 1e-6 and side.rip_mm <= width + 1e-6
            role: Role = "follows" if inside else "caution"
            shapes.append(Path(face, role, weight=1.4, dash=not inside, pick=Pick("side", side.index)))
            middle = ((piece.start_mm + piece.end_mm) / 2, side.slant_mm / 2)
            words = f"{side.name}   {fmt.length(side.outside_mm)}"
            if piece.end_mm - piece.start_mm < length * 0.065:
                words = side.name
            if piece.end_mm - piece.start_mm < length * 0.012 and side.index % 10:
                continue  # too narrow for a letter each
            shapes.append(Label(middle, words, "paper", 10.0, bold=True, pick=Pick("side", side.index)))
    shapes.append(Path(box(0, 0, length, width), "follows", weight=1.2))
    away = length * 0.03
    shapes += dimension((0, 0), (length, 0), (0, -away), role="decided")
    shapes += dimension((0, 0), (0, width), (-away * 0.7, 0), role="decided")
    tags = [
        Tag(fields.BOARD_LENGTH, (length / 2, -away)),
        Tag(fields.BOARD_WIDTH, (-away * 0.7, width / 2), shift=(-24.0, 0.0)),
        Tag(fields.END_TRIM, (board.end_trim_mm / 2, max(width, strip)), shift=(14.0, 22.0), prefix="trim"),
    ]
    handles: list[Handle] = []
    if wrap.pieces:
        start = wrap.pieces[0].start_mm
        tags.append(Tag(fields.SHIFT, (start, max(width, strip)), shift=(120.0, 22.0), prefix="strip moved"))
        handles.append(Handle(fields.SHIFT, box(start, 0, max(wrap.end_mm, start + 1), strip), (1.0, 0.0)))
        shapes += _rest(plan, fmt)
    detail_top = -away * 4.0
    low = _enlarged(plan, fmt, detail_top, shapes, tags)
    return Drawing(
        tuple(shapes), tuple(tags), tuple(handles),
        (-length * 0.09, low, max(length, wrap.end_mm) + length * 0.02, max(width, strip) + length * 0.05),
        _words(plan, fmt),
    )  # fmt: skip


def _veils(plan: Plan) -> list[Shape]:
    """What is not strip, veiled: the trim, what lies before the strip, the rest, the rip waste."""
    board, wrap = plan.job.stock.board, plan.wrap
    length, width = board.length_mm, board.width_mm
    strip = min(wrap.strip_mm, width)
    start, end = min(wrap.pieces[0].start_mm, length), min(wrap.end_mm, length)
    shapes: list[Shape] = []
    for x0, x1 in ((0.0, start), (end, length)):
        if x1 > x0:
            shapes.append(Path(box(x0, 0, x1, width), "paper", "tint", weight=0.0))
    if width > strip and end > start:
        shapes.append(Path(box(start, strip, end, width), "paper", "tint", weight=0.0))
    trim = min(board.end_trim_mm, length)
    if trim > 0:
        shapes.append(Path(box(0, 0, trim, width), "blade", "hatch", weight=0.8))
    return shapes


def _losses(plan: Plan) -> list[Shape]:
    """What each cut takes of the show face, at true width; wedges where faces lean."""
    wrap, sides = plan.wrap, plan.ring.sides
    shapes: list[Shape] = []
    for k, piece in enumerate(wrap.pieces):
        side = sides[piece.side]
        a = face_on_board(side, piece)
        if k + 1 < len(wrap.pieces):
            after = wrap.pieces[k + 1]
            b = face_on_board(sides[after.side], after)
        else:
            x = wrap.end_mm
            b = ((x, 0.0), (x, 0.0), (x, side.slant_mm), (x, side.slant_mm))
        gap = (a[1], b[0], b[3], a[2])
        shapes.append(Path(gap, "blade", "solid", weight=0.6, pick=Pick("corner", piece.side)))
    first = face_on_board(sides[wrap.pieces[0].side], wrap.pieces[0])
    if first[3][0] < first[0][0]:
        wedge = ((first[3][0], 0.0), first[0], first[3])
        shapes.append(Path(wedge, "blade", "tint", weight=0.4))
    return shapes


def _rest(plan: Plan, fmt: Format) -> list[Shape]:
    """What is left of the board, or what it lacks: in length past its end, in width over its edge."""
    wrap, board = plan.wrap, plan.job.stock.board
    shapes: list[Shape] = []
    top = max(wrap.strip_mm, board.width_mm)
    if wrap.strip_mm > board.width_mm + 1e-6:
        end = min(wrap.end_mm, board.length_mm)
        lacking = box(wrap.start_mm, board.width_mm, max(end, wrap.start_mm), wrap.strip_mm)
        shapes.append(Path(lacking, "caution", "hatch", weight=1.2, dash=True))
        narrow = f"{fmt.length(wrap.strip_mm - board.width_mm, unit=True)} too narrow"
        shapes.append(
            Label((end, top), narrow, "caution", 10.0, bold=True, anchor="right", shift=(0.0, 10.0))
        )
    if wrap.spare_mm < 0:
        beyond = box(board.length_mm, 0, wrap.end_mm, wrap.strip_mm)
        shapes.append(Path(beyond, "caution", "hatch", weight=1.2))
        short = f"{fmt.length(-wrap.spare_mm, unit=True)} too short"
        shapes.append(Label((wrap.end_mm, top), short, "caution", 10.0, bold=True, anchor="right",
                            shift=(0.0, 24.0 if shapes[:-1] else 10.0)))  # fmt: skip
    elif wrap.spare_mm >= board.length_mm * 0.05:
        middle = ((wrap.end_mm + board.length_mm) / 2, board.width_mm / 2)
        shapes.append(Label(middle, f"offcut {fmt.length(wrap.spare_mm)}", "follows", 9.5))
    return shapes


def _enlarged(plan: Plan, fmt: Format, top: float, shapes: list[Shape], tags: list[Tag]) -> float:
    """The first cut between two sides seen from the board's edge, enlarged: how it is cut."""
    wrap, board = plan.wrap, plan.job.stock.board
    if len(wrap.pieces) < 2:
        return top
    first = plan.ring.sides[wrap.pieces[0].side]
    second = plan.ring.sides[wrap.pieces[1].side]
    loss = wrap.losses_mm[first.index]
    thick = max(first.thickness_mm, second.thickness_mm)
    tan1, tan2 = (math.tan(math.radians(c.bevel_deg)) for c in (first.end, second.start))
    spread = loss + first.thickness_mm * abs(tan1) + second.thickness_mm * abs(tan2) + thick * 2.4
    scale = min(board.length_mm * 0.44 / spread, board.length_mm * 0.15 / thick)
    x0 = board.length_mm * 0.28
    y0 = top - thick * scale

    def at(px: float, py: float) -> Point:
        return (x0 + px * scale, y0 + py * scale)

    end1 = thick * 1.2 + first.thickness_mm * abs(tan1)
    start2 = end1 + loss
    far = start2 + second.thickness_mm * abs(tan2) + thick * 1.2
    creep = plan.wrap.creep_mm
    name = corner_name(first.index, plan.job.design.side_count)
    shapes.append(Label(at(far / 2, 0.0), f"the cut at corner {name}, from the board's edge, enlarged",
                        "quiet", 9.0, shift=(0.0, -44.0)))  # fmt: skip
    shapes.append(Label(at(0, thick), "show face", "quiet", 8.5, anchor="left", shift=(0.0, 8.0)))
    left = ((0.0, 0.0), (end1 - first.thickness_mm * tan1, 0.0), (end1, thick), (0.0, thick))
    right = ((start2 + second.thickness_mm * tan2, 0.0), (far, 0.0), (far, thick), (start2, thick))
    waste = (left[1], right[0], (start2, thick), (end1, thick))
    shapes.append(Path(tuple(at(*p) for p in waste), "blade", "tint", weight=0.0))
    for piece in (left, right):
        shapes.append(Path(tuple(at(*p) for p in piece), "wood", "hatch", weight=1.4))
    for index, px in ((first.index, end1 * 0.35), (second.index, far - (far - start2) * 0.35)):
        shapes.append(Label(at(px, thick / 2), side_name(index), "follows", 12.0, bold=True))
    kerf_low = end1 + creep + max(0.0, -first.back_mm(first.end))  # past an inside that is the longer
    if board.method == "square_first":
        kerf = box(kerf_low, 0.0, kerf_low + parting(plan.job).kerf_mm, thick)
        shapes.append(Path(tuple(at(*p) for p in kerf), "blade", "solid", weight=0.8))
    else:
        for tan, edge, sign in ((tan1, end1 + creep, 1.0), (tan2, start2 - creep, -1.0)):
            wide = parting(plan.job).kerf_mm / math.cos(math.atan(tan)) * sign
            t = thick * tan * sign
            slab = ((edge, thick), (edge + wide, thick), (edge + wide - t, 0.0), (edge - t, 0.0))
            shapes.append(Path(tuple(at(*p) for p in slab), "blade", "solid", weight=0.8))
    shapes += dimension(at(end1, thick), at(start2, thick), (0.0, board.length_mm * 0.012), role="blade")
    shapes.append(Label(at((end1 + start2) / 2, thick), f"lost {fmt.length(loss)}", "blade", 9.5,
                        bold=True, shift=(0.0, 14.0)))  # fmt: skip
    low = at(0.0, 0.0)[1]
    tags.append(Tag(fields.KERF, at((end1 + start2) / 2, 0.0), shift=(-90.0, -18.0), prefix="saw kerf"))
    tags.append(Tag(fields.CREEP, at((end1 + start2) / 2, 0.0), shift=(60.0, -18.0), prefix="creep"))
    side_of = at(far, thick / 2)
    shapes.append(line(at(far, 0.0), at(far, thick), "decided", 1.4))
    tags.append(Tag(fields.BOARD_THICKNESS, side_of, shift=(70.0, 0.0), prefix="board thick"))
    return low - board.length_mm * 0.085


def _words(plan: Plan, fmt: Format) -> str:
    wrap, board = plan.wrap, plan.job.stock.board
    order = ", ".join(side_name(i) for i in wrap.order)
    return (
        f"A board {fmt.length(board.length_mm, unit=True)} long with the sides in the order {order}: "
        f"{fmt.length(wrap.needed_mm, unit=True)} needed, "
        f"{fmt.length(max(0.0, wrap.spare_mm), unit=True)} left."
    )
