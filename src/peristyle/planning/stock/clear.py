"""Marks on a board against the sides that lie on it: what must be kept clear of, and what is wished for."""

from collections.abc import Iterator, Sequence
from typing import NamedTuple

from peristyle.core.outlines import Outline as Points
from peristyle.core.outlines import clipped
from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import side_name
from peristyle.model.job import Job
from peristyle.model.stock import Board, Mark
from peristyle.planning.findings import Finding, Fix, Place, reader
from peristyle.planning.form.ring import RingPlan, SidePlan
from peristyle.planning.section.levels import SectionPlan
from peristyle.planning.stock.laying import Placed
from peristyle.planning.stock.wrap import WrapPlan, may_break
from peristyle.wood.looks import Plane

_SHARE = 0.9  # so much of a wished-for place must lie on the front to be there
_NEAR_MM = 2.0  # a wished-for height is met this nearly


class Shown(NamedTuple):
    """A part of a side's face as it lies on the board: what of the board's plane will be seen in the box.

    `board` is its name on the rack, empty for the sides' own.
    """

    side: int
    inside: bool
    plane: Plane
    outline: Points
    board: str = ""


class Span(NamedTuple):
    """From where to where (mm)."""

    low: float
    high: float


class Box(NamedTuple):
    """An upright rectangle on the board (mm)."""

    x0: float
    y0: float
    x1: float
    y1: float


def shown_faces(job: Job, ring: RingPlan, wrap: WrapPlan, section: SectionPlan) -> list[Shown]:
    """Every part of a face that stays: without what freeing the lid takes, and of the insides without grooves."""
    found = []
    for piece in wrap.pieces:
        side = ring.sides[piece.side]
        lost = _lost(side, section)
        for band in _between(side.outer_face, lost):
            found.append(Shown(piece.side, False, piece.show, tuple(piece.on(p) for p in band), piece.board))
        grooves = [
            Span(min(y for y, _z in profile), max(y for y, _z in profile))
            for groove in section.grooves if (profile := groove.profiles[side.index])
        ]  # fmt: skip
        for band in _between(side.inner_face, [*lost, *grooves]) if side.inner_face else ():
            found.append(Shown(piece.side, True, piece.inside, tuple(piece.on(p) for p in band), piece.board))
    return found


def _lost(side: SidePlan, section: SectionPlan) -> list[Span]:
    """What freeing the lid and truing it take, along the face."""
    lid = section.lid
    along = side.slant_mm / side.height_mm if side.height_mm else 1.0
    return [Span(lid.lost_low_mm * along, lid.lost_high_mm * along)] if lid else []


def _between(face: Points, gaps: Sequence[Span]) -> Iterator[Points]:
    """A face in the bands between what is lost of it, from the bottom up."""
    low, high = min(y for _x, y in face), max(y for _x, y in face)
    for gap in (*sorted(gaps), Span(high, high)):
        top = min(gap.low, high)
        if top > low + DEFAULT.length_mm:
            band = _cut(face, low, top)
            if len(band) > 2:
                yield band
        low = max(low, gap.high)


def _cut(face: Points, low: float, high: float) -> Points:
    wide = [x for x, _y in face]
    x0, x1 = min(wide) - 1.0, max(wide) + 1.0
    return tuple(clipped(face, ((x0, low), (x1, low), (x1, high), (x0, high))))


def lies(board: Board, mark: Mark) -> Box:
    """Where a mark is on the board as it lies on the bench."""
    (xa, ya), (xb, yb) = (
        board.lying(mark.x_mm, mark.y_mm), board.lying(mark.x_mm + mark.length_mm, mark.y_mm + mark.width_mm)
    )  # fmt: skip
    return Box(min(xa, xb), min(ya, yb), max(xa, xb), max(ya, yb))


def on_plane(board: Board, mark: Mark, plane: Plane) -> bool:
    """Whether a mark is to be seen in a plane of the board: what goes through is in all of them."""
    if mark.shows == "through":
        return True
    return plane == ("face" if mark.shows == board.face else "under")


def _at_odds(board: Board, mark: Mark, face: Shown) -> bool:
    """Whether a mark must not come on a face, wherever it lies."""
    allowed = face.side in mark.sides or (face.inside and mark.inside)
    return mark.wish == "avoid" and not allowed and on_plane(board, mark, face.plane)


def _span(face: Shown, box: Box) -> Span | None:
    """The face's reach along the board over the box's own width of it; None where they are not side by side."""
    low = max(box.y0, min(y for _x, y in face.outline))
    high = min(box.y1, max(y for _x, y in face.outline))
    if high - low <= DEFAULT.length_mm:
        return None
    band = _cut(face.outline, low, high)
    xs = [x for x, _y in band]
    return Span(min(xs), max(xs)) if xs else None


def overlaps(face: Shown, box: Box) -> bool:
    """Whether a place on the board lies on a face; touching is not lying on it."""
    return any(moved.low < 0.0 < moved.high for moved in _moves(face, box))


def _moves(face: Shown, box: Box) -> Iterator[Span]:
    """By how much the face may be moved along the board so that it lies on the box."""
    span = _span(face, box)
    if span is not None:
        yield Span(box.x0 - span.high + DEFAULT.length_mm, box.x1 - span.low - DEFAULT.length_mm)


def blocked(board: Board, faces: Sequence[Shown]) -> list[Span]:
    """The moves along the board of all sides that lie on it (mm) that bring one on a mark it must avoid; in
    order, those that overlap brought together.
    """
    spans = sorted(
        move
        for mark in board.marks
        for face in faces
        if not face.board and _at_odds(board, mark, face)
        for move in _moves(face, lies(board, mark))
        if move.high > move.low
    )
    joined: list[Span] = []
    for span in spans:
        if joined and span.low <= joined[-1].high:
            joined[-1] = Span(joined[-1].low, max(joined[-1].high, span.high))
        else:
            joined.append(span)
    return joined


def nearest_clear(spans: Sequence[Span], room: Span) -> float | None:
    """The least move within `room` that is in none of the spans; None where all of it is blocked."""
    known = [0.0, room.low, room.high, *(edge for span in spans for edge in span)]
    good = [
        move for move in known
        if room.low - 1e-9 <= move <= room.high + 1e-9 and not any(s.low < move < s.high for s in spans)
    ]  # fmt: skip
    return min(good, key=abs) if good else None


def unmet(job: Job, faces: Sequence[Shown]) -> list[int]:
    """The numbers of the marks whose wish is not met: on the front, or at a height."""
    board = job.stock.board
    return [
        n
        for n, mark in enumerate(board.marks)
        if mark.wish in ("front", "height") and not _met(job, mark, faces)
    ]


def _met(job: Job, mark: Mark, faces: Sequence[Shown]) -> bool:
    board = job.stock.board
    box = lies(board, mark)
    seen = [f for f in faces if not f.inside and not f.board and on_plane(board, mark, f.plane)]
    if mark.wish == "front":
        whole = (box.x1 - box.x0) * (box.y1 - box.y0)
        return sum(_shared(f, box) for f in seen if f.side == job.design.form.front) >= _SHARE * whole
    high = (box.y0 + box.y1) / 2 - board.low_mm
    return any(overlaps(f, box) for f in seen) and abs(high - mark.at_mm) <= _NEAR_MM


def _shared(face: Shown, box: Box) -> float:
    """The area that a face and a place on the board share (mm²)."""
    part = clipped(face.outline, ((box.x0, box.y0), (box.x1, box.y0), (box.x1, box.y1), (box.x0, box.y1)))
    pairs = zip(part, (*part[1:], *part[:1]), strict=True)
    return abs(sum(a[0] * b[1] - a[1] * b[0] for a, b in pairs)) / 2


def mark_findings(job: Job, ring: RingPlan, wrap: WrapPlan, section: SectionPlan) -> Iterator[Finding]:
    """Sides that lie on what they must avoid, and wishes that are not met."""
    board = job.stock.board
    others = [one for one in job.stock.rack if one.name in {run.board for run in wrap.runs}]
    if not any(one.marks for one in (board, *others)) or not wrap.pieces:
        return
    faces = shown_faces(job, ring, wrap, section)
    place = Place("board")
    for name, there in (("", board), *((one.name, one) for one in others)):
        for mark in there.marks:
            hit = [
                face for face in faces
                if face.board == name and _at_odds(there, mark, face) and overlaps(face, lies(there, mark))
            ]  # fmt: skip
            if not hit:
                continue
            first = hit[0]
            own = (
                *_moved_clear(job, wrap, blocked(board, faces)), *_allowed(board, mark, first), *may_break(job, wrap)
            )  # fmt: skip
            yield Finding(
                "on_a_mark", "caution", place, {}, () if name else own,
                {"mark": mark.kind, "side": side_name(first.side),
                 "face": "inside" if first.inside else "show_face"},
            )  # fmt: skip
    for number in unmet(job, faces):
        mark = board.marks[number]
        numbers = {"at_mm": mark.at_mm}
        fixes = _wished(job, wrap, mark)
        names = {"mark": mark.kind, "side": side_name(job.design.form.front)}
        yield Finding(f"wish_{mark.wish}", "note", place, numbers, fixes, names)


def _moved_clear(job: Job, wrap: WrapPlan, spans: Sequence[Span]) -> tuple[Fix, ...]:
    board = job.stock.board
    room = Span(-board.shift_mm, wrap.spare_mm)
    move = nearest_clear(spans, room) if wrap.spare_mm >= 0 else None
    if move is None or move == 0.0:
        return ()
    fmt = reader(job.design)
    exact = board.shift_mm + move
    shift = fmt.up(exact) if move > 0 else fmt.down(exact)
    clear = (
        not any(s.low < shift - board.shift_mm < s.high for s in spans)
        and shift - board.shift_mm <= room.high
    )
    shift = shift if clear and shift >= 0 else exact
    return (Fix("move_clear", (("stock.board.shift_mm", shift),), {"shift_mm": shift}),)


def _allowed(board: Board, mark: Mark, face: Shown) -> tuple[Fix, ...]:
    if not face.inside:
        return ()
    number = board.marks.index(mark) + 1
    return (Fix("allow_inside", ((f"stock.board.marks.{number}.inside", True),)),)


def _wished(job: Job, wrap: WrapPlan, mark: Mark) -> tuple[Fix, ...]:
    """Moves that bring a mark to where it is wished, where the board has the room for it."""
    board, fmt = job.stock.board, reader(job.design)
    box = lies(board, mark)
    if mark.wish == "front":
        front = next((p for p in wrap.pieces if p.side == job.design.form.front), None)
        if front is None or front.way == "upright":
            return ()
        shift = fmt.down(board.shift_mm + (box.x0 + box.x1) / 2 - (front.start_mm + front.end_mm) / 2)
        if not 0.0 <= shift <= board.shift_mm + wrap.spare_mm:
            return ()
        return (Fix("to_the_front", (("stock.board.shift_mm", shift),), {"shift_mm": shift}),)
    across = fmt.down((box.y0 + box.y1) / 2 - mark.at_mm - board.edge_mm)
    if not 0.0 <= across <= board.width_mm - board.edge_mm - wrap.strip_mm:
        return ()
    return (Fix("to_the_height", (("stock.board.across_mm", across),), {"across_mm": across}),)


def faces_moved(faces: Sequence[Shown], by_mm: float) -> list[Shown]:
    """The faces with their strip moved along the board."""
    return [face._replace(outline=tuple((x + by_mm, y) for x, y in face.outline)) for face in faces]


def placed_at(wrap: WrapPlan, number: int) -> Placed:
    """Where a side lies."""
    return next(piece for piece in wrap.pieces if piece.side == number)
