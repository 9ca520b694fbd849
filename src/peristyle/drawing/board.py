"""The board to scale with the strip of sides on it, and one cut enlarged."""

import math
from collections.abc import Callable
from typing import TYPE_CHECKING, Final, NamedTuple

from peristyle.core.lengths import Format
from peristyle.core.outlines import box
from peristyle.core.planes import Point
from peristyle.drawing.match import LOUPE_MM, curve_shapes, loupe_shapes
from peristyle.drawing.shapes import (
    Drawing,
    Fill,
    Grain,
    Grip,
    Handle,
    Label,
    Path,
    Pick,
    Role,
    Shape,
    Tag,
    dimension,
    line,
)
from peristyle.model import fields
from peristyle.model.design import Panel, corner_name, side_name
from peristyle.planning.form.ring import SidePlan
from peristyle.planning.plan import Plan
from peristyle.planning.stock.clear import Box, lies, on_plane
from peristyle.planning.stock.laying import Placed, parting

if TYPE_CHECKING:  # the search brings NumPy with it
    from peristyle.planning.stock.scored import Curve


def face_on_board(side: SidePlan, piece: Placed) -> tuple[Point, Point, Point, Point]:
    """The show face's four corners on the board, in their order in the side's own frame."""
    a, b, c, d = (piece.on(point) for point in side.outer_face)
    return (a, b, c, d)


def _wood(plan: Plan, gap: float, *, book: bool) -> list[Shape]:
    """The board as a picture; opened like a book its two leaves, so far apart."""
    length, width = plan.job.stock.board.length_mm, plan.job.stock.board.width_mm
    whole = box(0.0, 0.0, length, width)
    shapes: list[Shape] = [
        Grain(whole, whole, None, "leaf_2" if book else "face"), Path(whole, "follows", weight=1.2),
    ]  # fmt: skip
    if book:  # the upper leaf lies turned end for end once the book is open
        upper = box(0.0, width + gap, length, 2 * width + gap)
        turned = ((length, 0.0), (0.0, 0.0), (0.0, width), (length, width))
        shapes += [Grain(upper, turned, None, "leaf_1"), Path(upper, "follows", weight=1.2)]
    return shapes


CURVE_SHARE: Final = 0.075  # how high the curve of starts stands, of the drawing's width
_LEAST_WIDE: Final = 2.6  # the drawing is at least so many times as wide as the boards are high


class Matched(NamedTuple):
    """What was found out about the match: the curve of starts, and the scores of all corners where the strip lies."""

    curve: "Curve"
    now: tuple[float, ...]


def board_drawing(
    plan: Plan,
    fmt: Format,
    matched: Matched | None = None,
    selection: Pick | None = None,
    *,
    loupe: bool = False,
) -> Drawing:
    """The board, its sides in cutting order, losses at true width, and the offcut.

    With a `loupe`, for the screen, also one corner as its faces will meet; with `matched` how well every start does.
    """
    board, wrap = plan.job.stock.board, plan.wrap
    length, width = board.length_mm, board.width_mm
    strip = (wrap.strip_mm or width) + wrap.low_mm
    book = board.method == "book" and bool(wrap.pieces)
    gap = length * 0.018
    top = 2 * width + gap if book else max(width, strip)
    shapes = _wood(plan, gap, book=book)
    others, lifts, over = _others(plan, top, length * 0.075)
    shapes += others

    def drawn(piece: Placed, point: Point) -> Point:
        """A point of a piece, in the drawing."""
        x, y = piece.on(point)
        if piece.board:
            return (x, y + lifts[piece.board])
        return (length - x, y + width + gap) if piece.way == "read_back" else (x, y)

    shapes += _cut_up(plan, fmt, drawn) if wrap.pieces else []
    shapes += _marks(plan, (width + gap) if book else 0.0)
    frame = max(length, _LEAST_WIDE * top)  # what stands below has its size from it, by short wide boards too
    left = (length - frame) / 2
    away = frame * 0.03
    shapes += dimension((0, 0), (length, 0), (0, -away), role="decided")
    shapes += dimension((0, 0), (0, width), (-away * 0.7, 0), role="decided")
    tags, handles = _sizes(plan, top, strip, away)
    if wrap.pieces:
        shapes += _rest(plan, fmt)
    if loupe and selection is not None and selection.kind == "mark" and selection.index < len(board.marks):
        tags += _mark_tags(plan, selection.index)
    low = -away * 1.6
    if matched is not None and wrap.pieces:
        high = low - frame * 0.012
        low = high - frame * CURVE_SHARE
        more, grips = curve_shapes(plan, matched.curve, matched.now, low, high, left + frame)
        shapes, handles, low = [*shapes, *more], [*handles, *grips], low - frame * 0.12
    else:  # what is told above the enlarged cut stands clear of the board's length
        low -= frame * 0.025
    detail = low - frame * 0.012
    tall = frame * 0.1 if loupe else frame * 0.15
    below = _Below(left, frame, detail, tall)
    low = _enlarged(plan, fmt, below, shapes, tags, frame * (0.01 if loupe else 0.28))
    if loupe and len(wrap.pieces) > 1:
        shapes += _loupe(plan, _looked_at(plan, selection), matched, below, fmt)
    return Drawing(
        tuple(shapes), tuple(tags), tuple(handles),
        (left - frame * 0.09, low, max(left + frame, wrap.end_mm) + frame * 0.02, over + frame * 0.05),
        _words(plan, fmt),
    )  # fmt: skip


def _cut_up(plan: Plan, fmt: Format, drawn: "Drawn") -> list[Shape]:
    """What the sides take of the board, what the cuts take, and what is left out."""
    along = plan.job.stock.board.method not in ("book", "upright")
    return [
        *(_veils(plan) if along else ()), *_losses(plan, drawn), *_sides(plan, fmt, drawn), *_others_from(plan),
    ]  # fmt: skip


class _Below(NamedTuple):
    """The room below the board: from where, how wide, its upper edge, how high what stands in it."""

    left: float
    wide: float
    top: float
    tall: float


def _loupe(plan: Plan, corner: int, matched: Matched | None, below: _Below, fmt: Format) -> list[Shape]:
    """A corner as its faces will meet, at the end of the room below the board."""
    score = matched.now[corner] if matched is not None and matched.now else None
    wide = 2 * LOUPE_MM * below.tall / plan.ring.sides[corner].slant_mm
    left = below.left + min(below.wide * 0.8, below.wide * 1.02 - wide)
    return loupe_shapes(plan, corner, score, (left, below.top - below.tall, below.tall), fmt)


def _sizes(plan: Plan, top: float, strip: float, away: float) -> tuple[list[Tag], list[Handle | Grip]]:
    """The board's own sizes and where the strip lies, typed there; the strip is dragged along."""
    board, wrap = plan.job.stock.board, plan.wrap
    tags = [
        Tag(fields.BOARD_LENGTH, (board.length_mm / 2, -away)),
        Tag(fields.BOARD_WIDTH, (-away * 0.7, board.width_mm / 2), shift=(-24.0, 0.0)),
        Tag(fields.END_TRIM, (board.end_trim_mm / 2, top), shift=(14.0, 22.0), prefix="trim"),
    ]
    if not wrap.pieces:
        return tags, []
    start = min(piece.start_mm for piece in wrap.pieces)
    tags.append(Tag(fields.SHIFT, (start, top), shift=(120.0, 22.0), prefix="strip moved"))
    tags.append(Tag(fields.ACROSS, (start, top), shift=(300.0, 22.0), prefix="up from the edge"))
    area = box(start, wrap.low_mm, max(wrap.end_mm, start + 1), max(strip, wrap.low_mm + 1))
    return tags, [Handle(fields.SHIFT, area, (1.0, 0.0))]


def _others(plan: Plan, top: float, gap: float) -> tuple[list[Shape], dict[str, float], float]:
    """The other boards that a broken wrap goes on from: how far up each lies, and where the last one ends."""
    shapes: list[Shape] = []
    lifts: dict[str, float] = {}
    known = {board.name: board for board in plan.job.stock.rack}
    for name in dict.fromkeys(run.board for run in plan.wrap.runs if run.board):
        board = known[name]
        top += 0.0 if lifts else gap  # the first is clear of the sizes over the board
        lifts[name] = top + gap
        long, wide = board.length_mm, board.width_mm
        x1 = min(
            long, plan.job.stock.board.length_mm * 1.02
        )  # a longer one is shown as far as the sheet goes
        whole, target = box(0.0, 0.0, x1, wide), box(0.0, top + gap, x1, top + gap + wide)
        shapes += [Grain(target, whole, None, "face", name), Path(target, "follows", weight=1.2)]
        shapes.append(Label((0.0, top + gap + wide), name, "quiet", 9.5, anchor="left", shift=(0.0, 9.0)))
        top += gap + wide
    return shapes, lifts, top


def _looked_at(plan: Plan, selection: Pick | None) -> int:
    """The corner under the loupe: the picked one, or the closing corner."""
    if selection is not None and selection.kind == "corner" and selection.index < len(plan.ring.sides):
        return selection.index
    return plan.job.closing


def on_top(plan: Plan, piece: Placed) -> tuple[Point, ...]:
    """A piece's outline in the plane of the board that lies up, in its own frame: of one that is turned over the
    inside, else its show face.
    """
    side = plan.ring.sides[piece.side]
    return (side.inner_face or side.outer_face) if piece.way == "turned_over" else side.outer_face


Drawn = Callable[[Placed, Point], Point]


def _sides(plan: Plan, fmt: Format, drawn: Drawn) -> list[Shape]:
    """The pieces on the board, lettered."""
    shapes = list[Shape]()
    own, known = plan.job.stock.board, {board.name: board for board in plan.job.stock.rack}
    for piece in plan.wrap.pieces:
        board = known[piece.board] if piece.board else own
        length, width = board.length_mm, board.width_mm
        side = plan.ring.sides[piece.side]
        face = tuple(drawn(piece, point) for point in on_top(plan, piece))
        reach = [piece.on(point) for point in side.outer_face]
        fits = (
            max(x for x, _y in reach) <= length + 1e-6 and max(y for _x, y in reach) <= width + 1e-6
            and side.rip_mm + board.low_mm <= max(width, side.rip_mm if piece.way == "upright" else 0.0) + 1e-6
        )  # fmt: skip
        role: Role = "follows" if fits else "caution"
        shapes.append(Path(face, role, weight=1.4, dash=not fits, pick=Pick("side", side.index)))
        middle = (sum(x for x, _y in face) / len(face), sum(y for _x, y in face) / len(face))
        words = f"{side.name}   {fmt.length(side.outside_mm)}"
        shorter: tuple[str, ...] = (side.name,)
        if piece.way == "turned_over":
            words, shorter = f"{words}, shows the back", (words, side.name)
        wide = max(x for x, _y in face) - min(x for x, _y in face)
        shapes.append(
            Label(
                middle,
                words,
                "paper",
                10.0,
                bold=True,
                pick=Pick("side", side.index),
                room_mm=wide,
                shorter=shorter,
            )
        )
    return shapes


def _others_from(plan: Plan) -> list[Shape]:
    """What else lies on the sides' board: pieces that say where on it they begin."""
    shapes: list[Shape] = []
    low, told = plan.job.stock.board.low_mm, set[float]()
    for number, piece in enumerate(plan.pieces if any(p.leaves for p in _panels(plan)) else ()):
        at = piece.numbers.get("at_mm")
        if piece.part != "leaf" or at is None or at in told:
            continue
        told.add(at)
        long, wide = piece.numbers["long_mm"], piece.numbers["wide_mm"]
        area = box(at, low, at + long, low + wide)
        shapes.append(Path(area, "follows", weight=1.2, dash=True, pick=Pick("piece", number)))
        middle = (at + long / 2, low + wide / 2)
        shapes.append(Label(middle, f"{piece.alike}, twice", "paper", 9.0, pick=Pick("piece", number)))
    return shapes


def _panels(plan: Plan) -> list[Panel]:
    section = plan.job.design.section
    return [part for part in (section.bottom, section.top) if part is not None]


def _marks(plan: Plan, lift: float) -> list[Shape]:
    """What is marked on the board, as it lies: faults hatched, wishes outlined."""
    board = plan.job.stock.board
    shapes: list[Shape] = []
    for number, mark in enumerate(board.marks):
        whole = lies(board, mark)
        area = Box(
            max(0.0, whole.x0),
            max(0.0, whole.y0),
            min(board.length_mm, whole.x1),
            min(board.width_mm, whole.y1),
        )
        if area.x0 >= area.x1 or area.y0 >= area.y1:
            continue  # off the board
        pick = Pick("mark", number)
        bad = mark.wish == "avoid"
        up = on_plane(board, mark, "face") or board.method == "book"
        outline = box(*area)
        fill: Fill = "hatch" if bad and up else "none"
        shapes.append(
            Path(
                outline, "caution" if bad else "decided", fill, weight=1.6, dash=not up or not bad, pick=pick
            )
        )
        shapes.append(Label((area.x0, area.y0), mark.kind, "caution" if bad else "decided", 8.5, anchor="left",
                            shift=(0.0, -7.0), pick=pick))  # fmt: skip
        if lift and mark.shows == "through":
            x0, x1 = board.length_mm - area.x1, board.length_mm - area.x0
            shapes.append(Path(box(x0, area.y0 + lift, x1, area.y1 + lift), "caution" if bad else "decided", fill,
                               weight=1.6, dash=not bad, pick=pick))  # fmt: skip
    return shapes


def _mark_tags(plan: Plan, number: int) -> list[Tag]:
    """The sizes of the picked mark, on it."""
    board = plan.job.stock.board
    own, area = fields.mark_fields(number), lies(board, board.marks[number])
    middle = ((area.x0 + area.x1) / 2, (area.y0 + area.y1) / 2)
    tags = [
        Tag(own["x_mm"], (area.x0, middle[1]), shift=(-46.0, 10.0), prefix="from the start"),
        Tag(own["y_mm"], (area.x0, area.y0), shift=(-46.0, -12.0), prefix="up"),
        Tag(own["length_mm"], (middle[0], area.y0), shift=(46.0, -12.0), prefix="long"),
        Tag(own["width_mm"], (area.x1, middle[1]), shift=(46.0, 10.0), prefix="wide"),
    ]
    if board.marks[number].wish == "height":
        tags.append(Tag(own["at_mm"], (area.x1, area.y1), shift=(60.0, 22.0), prefix="wished at"))
    return tags


def _veils(plan: Plan) -> list[Shape]:
    """What is not strip, veiled: the trim, what lies before the strip, the rest, the rip waste."""
    board, wrap = plan.job.stock.board, plan.wrap
    length, width = board.length_mm, board.width_mm
    low, strip = wrap.low_mm, min(wrap.strip_mm + wrap.low_mm, width)
    start, end = min(wrap.pieces[0].start_mm, length), min(wrap.end_mm, length)
    shapes: list[Shape] = []
    for x0, x1 in ((0.0, start), (end, length)):
        if x1 > x0:
            shapes.append(Path(box(x0, 0, x1, width), "paper", "tint", weight=0.0))
    if end > start:
        if width > strip:
            shapes.append(Path(box(start, strip, end, width), "paper", "tint", weight=0.0))
        if low > 0:
            shapes.append(Path(box(start, 0, end, min(low, width)), "paper", "tint", weight=0.0))
    trim = min(board.end_trim_mm, length)
    if trim > 0:
        shapes.append(Path(box(0, 0, trim, width), "blade", "hatch", weight=0.8))
    return shapes


def _losses(plan: Plan, drawn: Drawn) -> list[Shape]:
    """What each cut takes of the plane that lies up, at true width; wedges where faces lean."""
    wrap, sides = plan.wrap, plan.ring.sides
    shapes: list[Shape] = []

    def ends(piece: Placed) -> tuple[Point, Point, Point, Point]:
        """Start low, end low, end high, start high, as they lie."""
        a, b, c, d = (drawn(piece, point) for point in on_top(plan, piece))
        return (d, c, b, a) if piece.way == "turned_over" else (a, b, c, d)

    for k, piece in enumerate(wrap.pieces):
        a = ends(piece)
        after = next((one for one in wrap.pieces[k + 1 :] if one.board == piece.board), None)
        away = after.start_mm - piece.end_mm - wrap.losses_mm[piece.side] if after and wrap.runs else 0.0
        if after is not None and away > 0.01:  # the stretch between is cut away
            b = ends(after)
            shapes.append(
                Path((a[1], b[0], b[3], a[2]), "blade", "hatch", weight=0.8, pick=Pick("corner", piece.side))
            )
        elif after is not None and (after.way == "read_back") == (piece.way == "read_back") and not (
            piece.way == "upright" and after.start_mm != piece.start_mm
        ):  # fmt: skip
            b = ends(after)
            shapes.append(
                Path((a[1], b[0], b[3], a[2]), "blade", "solid", weight=0.6, pick=Pick("corner", piece.side))
            )
        elif after is None and piece.way in ("along", "turned_over"):
            x = max((run.end_mm for run in wrap.runs if run.board == piece.board), default=wrap.end_mm)
            low, high = a[1][1], a[2][1]
            gap = (a[1], (x, low), (x, high), a[2])
            shapes.append(Path(gap, "blade", "solid", weight=0.6, pick=Pick("corner", piece.side)))
    first = wrap.pieces[0]
    face = face_on_board(sides[first.side], first)
    if first.way == "along" and face[3][0] < face[0][0]:
        wedge = ((face[3][0], face[0][1]), face[0], face[3])
        shapes.append(Path(wedge, "blade", "tint", weight=0.4))
    return shapes


def _rest(plan: Plan, fmt: Format) -> list[Shape]:
    """What is left of the board, or what it lacks: in length past its end, in width over its edge."""
    wrap, board = plan.wrap, plan.job.stock.board
    shapes: list[Shape] = []
    strip = wrap.strip_mm + wrap.low_mm
    top = max(strip, board.width_mm)
    if strip > board.width_mm + 1e-6:
        end = min(wrap.end_mm, board.length_mm)
        lacking = box(wrap.start_mm, board.width_mm, max(end, wrap.start_mm), strip)
        shapes.append(Path(lacking, "caution", "hatch", weight=1.2, dash=True))
        narrow = f"{fmt.length(strip - board.width_mm, unit=True)} too narrow"
        beside = end < board.length_mm * 0.75  # there is paper beside what is lacking, to say it on
        shapes.append(Label((end, (board.width_mm + strip) / 2) if beside else (end, board.width_mm), narrow, "caution",
                            10.0, bold=True, anchor="left" if beside else "right",
                            shift=(8.0, 0.0) if beside else (-4.0, -9.0)))  # fmt: skip
    if wrap.spare_mm < 0:
        beyond = box(board.length_mm, wrap.low_mm, wrap.end_mm, strip)
        shapes.append(Path(beyond, "caution", "hatch", weight=1.2))
        short = f"{fmt.length(-wrap.spare_mm, unit=True)} too short"
        shapes.append(Label((wrap.end_mm, top), short, "caution", 10.0, bold=True, anchor="right",
                            shift=(0.0, 24.0 if shapes[:-1] else 10.0)))  # fmt: skip
    elif wrap.spare_mm >= board.length_mm * 0.12:
        middle = ((wrap.end_mm + board.length_mm) / 2, board.width_mm / 2)
        veiled = board.method not in ("book", "upright")
        shapes.append(
            Label(middle, f"offcut {fmt.length(wrap.spare_mm)}", "follows" if veiled else "paper", 9.5)
        )
    return shapes


def _enlarged(
    plan: Plan, fmt: Format, below: _Below, shapes: list[Shape], tags: list[Tag], in_mm: float
) -> float:
    """The first cut between two sides seen from the board's edge, enlarged: how it is cut."""
    wrap, board, x0 = plan.wrap, plan.job.stock.board, below.left + in_mm
    if len(wrap.pieces) < 2:
        return below.top
    first = plan.ring.sides[wrap.pieces[0].side]
    second = plan.ring.sides[wrap.pieces[1].side]
    loss = wrap.losses_mm[first.index]
    thick = max(first.thickness_mm, second.thickness_mm)
    tan1, tan2 = (math.tan(math.radians(c.bevel_deg)) for c in (first.end, second.start))
    spread = loss + first.thickness_mm * abs(tan1) + second.thickness_mm * abs(tan2) + thick * 2.4
    scale = min(below.wide * 0.44 / spread, below.tall / thick)
    y0 = below.top - thick * scale

    def at(px: float, py: float) -> Point:
        return (x0 + px * scale, y0 + py * scale)

    end1 = thick * 1.2 + first.thickness_mm * abs(tan1)
    start2 = end1 + loss
    far = start2 + second.thickness_mm * abs(tan2) + thick * 1.2
    seen_from = "end" if board.method == "upright" else "edge"
    name = corner_name(first.index, plan.job.design.side_count)
    alone = board.method == "upright" and not wrap.runs_on[first.index]  # nothing lies beside it
    own = ", each strip from a length of its own" if alone else ""
    told = f"the cut at corner {name}{own}, from the board's {seen_from}, enlarged"
    shapes.append(Label(at(0.0, 0.0), told, "quiet", 9.0, anchor="left", shift=(0.0, -44.0)))
    shapes.append(Label(at(0, thick), "show face", "quiet", 8.5, anchor="left", shift=(0.0, 8.0)))
    left = ((0.0, 0.0), (end1 - first.thickness_mm * tan1, 0.0), (end1, thick), (0.0, thick))
    right = ((start2 + second.thickness_mm * tan2, 0.0), (far, 0.0), (far, thick), (start2, thick))
    shared = board.method == "flip_shared"
    if shared:  # the next piece lies turned over: its cut is the same one
        right = ((start2 - second.thickness_mm * tan2, 0.0), (far, 0.0), (far, thick), (start2, thick))
    waste = (left[1], right[0], (start2, thick), (end1, thick))
    if not alone:
        shapes.append(Path(tuple(at(*p) for p in waste), "blade", "tint", weight=0.0))
    for piece in (left,) if alone else (left, right):
        shapes.append(Path(tuple(at(*p) for p in piece), "wood", "hatch", weight=1.4))
    names = ((first.index, end1 * 0.35), (second.index, far - (far - start2) * 0.35))
    for index, px in names[:1] if alone else names:
        shapes.append(Label(at(px, thick / 2), side_name(index), "follows", 12.0, bold=True))
    slabs = [(left[2], left[1], right[0], right[3])] if shared else _kerfs(plan, first, second, end1, thick)
    shapes += [Path(tuple(at(*p) for p in slab), "blade", "solid", weight=0.8) for slab in slabs]
    if not alone:
        shapes += dimension(at(end1, thick), at(start2, thick), (0.0, below.wide * 0.012), role="blade")
        shapes.append(Label(at((end1 + start2) / 2, thick), f"lost {fmt.length(loss)}", "blade", 9.5,
                            bold=True, shift=(0.0, 14.0)))  # fmt: skip
    low = at(0.0, 0.0)[1]
    tags.append(Tag(fields.KERF, at((end1 + start2) / 2, 0.0), shift=(-90.0, -18.0), prefix="saw kerf"))
    tags.append(Tag(fields.CREEP, at((end1 + start2) / 2, 0.0), shift=(60.0, -18.0), prefix="creep"))
    side_of = at(far, thick / 2)
    if not alone:
        shapes.append(line(at(far, 0.0), at(far, thick), "decided", 1.4))
    tags.append(Tag(fields.BOARD_THICKNESS, side_of, shift=(70.0, 0.0), prefix="board thick"))
    return low - below.wide * 0.15


def _kerfs(
    plan: Plan, first: SidePlan, second: SidePlan, end_mm: float, thick: float
) -> list[tuple[Point, ...]]:
    """What the blade takes between two sides, seen from the edge, the first side's show face ending at `end_mm`."""
    creep, kerf = plan.wrap.creep_mm, parting(plan.job).kerf_mm
    if plan.job.stock.board.method != "bevel_direct":
        low = end_mm + creep + max(0.0, -first.back_mm(first.end))  # past an inside that is the longer
        return [box(low, 0.0, low + kerf, thick)]
    start_mm = end_mm + plan.wrap.losses_mm[first.index]
    slabs: list[tuple[Point, ...]] = []
    for end, edge, sign in ((first.end, end_mm + creep, 1.0), (second.start, start_mm - creep, -1.0)):
        bevel = math.radians(end.bevel_deg)
        wide, away = kerf / math.cos(bevel) * sign, thick * math.tan(bevel) * sign
        slabs.append(((edge, thick), (edge + wide, thick), (edge + wide - away, 0.0), (edge - away, 0.0)))
    return slabs


def _words(plan: Plan, fmt: Format) -> str:
    wrap, board = plan.wrap, plan.job.stock.board
    order = ", ".join(side_name(i) for i in wrap.order)
    return (
        f"A board {fmt.length(board.length_mm, unit=True)} long with the sides in the order {order}: "
        f"{fmt.length(wrap.needed_mm, unit=True)} needed, "
        f"{fmt.length(max(0.0, wrap.spare_mm), unit=True)} left."
    )
