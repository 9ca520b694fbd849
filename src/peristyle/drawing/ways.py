"""The ways of cutting a board up side by side: how the box would look, what it would take, what stands against it."""

from functools import lru_cache
from typing import Final, get_args

from peristyle.core.lengths import Format
from peristyle.core.planes import Point
from peristyle.drawing.board import face_on_board
from peristyle.drawing.shapes import Drawing, Grain, Grip, Label, Path, Pick, Shape, box, line
from peristyle.model.design import replace
from peristyle.model.job import Job, revised, unworked
from peristyle.model.stock import Method
from peristyle.planning.plan import Plan, plan
from peristyle.words.boards import AGAINST, METHODS

_WAYS: Final[tuple[Method, ...]] = get_args(Method)
_SAYS: Final = "Choose how it is cut"
_COLUMNS: Final = 3
_WIDE, _HIGH, _GAP = 300.0, 46.0, 26.0


@lru_cache(maxsize=24)
def _planned(job: Job, method: Method) -> Plan:
    return plan(revised(job, board=replace(job.stock.board, method=method)))


def ways_drawing(made: Plan, fmt: Format) -> Drawing:
    """A frieze for every way, three beside each other; a click chooses one."""
    now = made.job.stock.board.method
    shapes: list[Shape] = []
    handles: list[Grip] = []
    words: list[str] = []
    for number, method in enumerate(_WAYS):
        other = _planned(unworked(made.job), method)
        row, column = divmod(number, _COLUMNS)
        x, y = column * (_WIDE + _GAP), -row * (_HIGH + _GAP)
        told = f"{METHODS[method]}: {_told(other, fmt)}"
        shapes += _frieze(other, x, y)
        mine = method == now
        band = box(x, y, x + _WIDE, y + _HIGH)
        shapes.append(Path(band, "decided" if mine else "quiet", weight=2.4 if mine else 0.6))
        shapes.append(Label((x, y + _HIGH), told, "follows" if mine else "quiet", 8.0, bold=mine, anchor="left",
                            shift=(0.0, 8.0)))  # fmt: skip
        handles.append(_grip(method, box(x, y - 2.0, x + _WIDE, y + _HIGH + _GAP * 0.8)))
        words.append(told)
    bottom = -(len(_WAYS) // _COLUMNS - 1) * (_HIGH + _GAP)
    return Drawing(
        tuple(shapes), handles=tuple(handles),
        bounds=(-6.0, bottom - 6.0, _COLUMNS * (_WIDE + _GAP), _HIGH + _GAP), words="; ".join(words) + ".",
    )  # fmt: skip


def _told(made: Plan, fmt: Format) -> str:
    """What a way takes and keeps, or what stands against it."""
    against = [AGAINST[f.code] for f in made.findings if f.severity == "stop" and f.code in AGAINST]
    if against:
        return against[0]
    wrap = made.wrap
    return f"{fmt.length(wrap.used_mm, unit=True)}, {sum(wrap.runs_on)} of {len(wrap.runs_on)} corners run on"


def _frieze(made: Plan, x: float, y: float) -> list[Shape]:
    """The sides unrolled in a band."""
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
            Grain((a, b, c, d), face_on_board(side, piece), Pick("side", side.index), piece.show, piece.board)
        )
        x += (high - low) * share
        if k + 1 < len(ring.sides):
            on = made.wrap.runs_on[side.index]
            shapes.append(line((x, y), (x, y + _HIGH), "follows" if on else "caution", 0.8 if on else 2.2))
    return shapes


def _grip(method: Method, area: tuple[Point, ...]) -> Grip:
    def click(job: Job, _x: float, _y: float) -> Job | None:
        return revised(job, board=replace(job.stock.board, method=method))

    def step(job: Job, way: int) -> Job | None:
        number = _WAYS.index(job.stock.board.method) + way
        return click_at(job, _WAYS[number]) if 0 <= number < len(_WAYS) else None

    def click_at(job: Job, other: Method) -> Job:
        return revised(job, board=replace(job.stock.board, method=other))

    return Grip(area, lambda _job, _dx, _dy: None, _SAYS, click, step)
