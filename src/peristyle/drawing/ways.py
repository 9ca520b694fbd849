"""Choices by eye: how the box would look cut another way, or from another board; what it takes, what is against it."""

from collections.abc import Callable, Sequence
from functools import lru_cache
from typing import Final, NamedTuple, get_args

from peristyle.core.lengths import Format
from peristyle.core.outlines import box
from peristyle.core.planes import Point
from peristyle.drawing.board import face_on_board
from peristyle.drawing.shapes import Drawing, Grain, Grip, Label, Path, Pick, Role, Shape, line
from peristyle.model.design import Inside, Joints, replace
from peristyle.model.job import Job, revised, unworked
from peristyle.model.stock import Method, took
from peristyle.planning.plan import Plan, plan
from peristyle.words.boards import AGAINST, METHODS

MOST_BOARDS: Final = 9  # shown beside each other
_WAYS: Final[tuple[Method, ...]] = get_args(Method)
_COLUMNS: Final = 3
_WIDE, _HIGH = 300.0, 46.0
_GAP = 58.0  # a line under one and a line over the next have room in it, in a narrow window too


class _Offer(NamedTuple):
    """One to choose: what it is called, the plan it would be, whether it is what there is, and how it is taken; and
    the name of the board on the rack that its sides come from, empty for their own.
    """

    name: str
    made: Plan
    mine: bool
    take: Callable[[Job], Job | None]
    board: str = ""


@lru_cache(maxsize=32)
def _planned(job: Job) -> Plan:
    """Where the sides of a planned job lie: what stands in the box or holds its corners changes nothing there."""
    form = replace(job.design.form, height_of="glued")
    return plan(replace(job, design=replace(job.design, form=form, inside=Inside(), joints=Joints())))


def ways_drawing(made: Plan, fmt: Format) -> Drawing:
    """A frieze for every way of cutting this board up; a click chooses one."""
    job, offers = unworked(made.job), []
    for method in _WAYS:

        def take(here: Job, method: Method = method) -> Job:
            return revised(here, board=replace(here.stock.board, method=method))

        offers.append(_Offer(METHODS[method], _planned(take(job)), method == job.stock.board.method, take))
    return _beside(offers, "Choose how it is cut", fmt)


def boards_drawing(made: Plan, fmt: Format) -> Drawing:
    """A frieze for every board at hand, cut as this one is, those that hold the ring first; a click takes one."""
    job, offers = unworked(made.job), []
    names = [job.stock.board.name, *(board.name for board in job.stock.rack)]
    for number, name in enumerate(names):

        def take(here: Job, name: str = name) -> Job | None:
            known = [board.name for board in here.stock.rack]
            return replace(here, stock=took(here.stock, known.index(name))) if name in known else None

        there = job if number == 0 else replace(job, stock=took(job.stock, number - 1))
        offers.append(_Offer(name, _planned(there), number == 0, take, name if number else ""))
    offers.sort(key=lambda one: (not one.mine, bool(_against(one.made)), one.name.casefold()))
    shown = sorted(offers[:MOST_BOARDS], key=lambda one: one.name.casefold())
    return _beside(shown, "Take another board", fmt, len(offers) - len(shown))


def _beside(offers: Sequence[_Offer], says: str, fmt: Format, more: int = 0) -> Drawing:
    """Friezes three beside each other; the arrow keys go from one to the next."""
    shapes: list[Shape] = []
    handles: list[Grip] = []
    words: list[str] = []

    def step(job: Job, way: int) -> Job | None:
        number = next((n for n, one in enumerate(offers) if one.mine), 0) + way
        return offers[number].take(job) if 0 <= number < len(offers) else None

    for number, one in enumerate(offers):
        row, column = divmod(number, _COLUMNS)
        x, y = column * (_WIDE + _GAP), -row * (_HIGH + _GAP)
        told = _told(one.made, fmt)
        ink: Role = "follows" if one.mine else "quiet"
        shapes += _frieze(one.made, x, y, one.board)
        band = box(x, y, x + _WIDE, y + _HIGH)
        shapes.append(Path(band, "decided" if one.mine else "quiet", weight=2.4 if one.mine else 0.6))
        for text, at, up in ((one.name, y + _HIGH, 8.0), (told, y, -8.0)):
            shapes.append(Label((x, at), text, ink, 8.0, bold=one.mine, anchor="left", shift=(0.0, up)))
        area = box(x, y - _GAP * 0.45, x + _WIDE, y + _HIGH + _GAP * 0.45)
        handles.append(_grip(one, says, area, step))
        words.append(f"{one.name}: {told}")
    bottom = -((len(offers) - 1) // _COLUMNS) * (_HIGH + _GAP)
    if more:
        told = f"{more} more on the rack"
        shapes.append(Label((0.0, bottom), told, "quiet", 8.0, anchor="left", shift=(0.0, -20.0)))
        words.append(told)
    return Drawing(
        tuple(shapes), handles=tuple(handles),
        bounds=(-6.0, bottom - _GAP * (0.9 if more else 0.5), _COLUMNS * (_WIDE + _GAP), _HIGH + _GAP * 0.5),
        words="; ".join(words) + ".",
    )  # fmt: skip


def rows_of(boards: int) -> int:
    """How many rows so many boards take."""
    return -(-min(boards, MOST_BOARDS) // _COLUMNS)


def _against(made: Plan) -> str:
    return next((AGAINST[f.code] for f in made.findings if f.severity == "stop" and f.code in AGAINST), "")


def _told(made: Plan, fmt: Format) -> str:
    """What it takes and keeps, or what stands against it."""
    wrap = made.wrap
    return _against(made) or (
        f"{fmt.length(wrap.used_mm, unit=True)}, {sum(wrap.runs_on)} of {len(wrap.runs_on)} corners run on"
    )


def _frieze(made: Plan, x: float, y: float, board: str) -> list[Shape]:
    """The sides unrolled in a band, from their own board or another."""
    ring = made.ring
    if not made.wrap.pieces:
        return []
    whole = sum(side.reach_mm[1] - side.reach_mm[0] for side in ring.sides)
    where = {piece.side: piece for piece in made.wrap.pieces}
    shapes: list[Shape] = []
    first = (made.job.closing + 1) % len(ring.sides)
    for k in range(len(ring.sides)):
        side = ring.sides[(first + k) % len(ring.sides)]
        low, high = side.reach_mm
        share = _WIDE / whole

        a, b, c, d = ((x + (u - low) * share, y + v / side.slant_mm * _HIGH) for u, v in side.outer_face)
        piece = where[side.index]
        shapes.append(
            Grain(
                (a, b, c, d),
                face_on_board(side, piece),
                Pick("side", side.index),
                piece.show,
                piece.board or board,
            )
        )
        x += (high - low) * share
        if k + 1 < len(ring.sides):
            on = made.wrap.runs_on[side.index]
            shapes.append(line((x, y), (x, y + _HIGH), "follows" if on else "caution", 0.8 if on else 2.2))
    return shapes


def _grip(one: _Offer, says: str, area: tuple[Point, ...], step: Callable[[Job, int], Job | None]) -> Grip:
    return Grip(area, lambda _job, _dx, _dy: None, says, lambda job, _x, _y: one.take(job), step)
