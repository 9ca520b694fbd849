"""A side made anew from spare wood: where on the boards of the rack it looks best between its neighbours."""

import math
from collections.abc import Callable
from functools import cache
from typing import TYPE_CHECKING, NamedTuple

import numpy as np

from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import replace
from peristyle.model.job import Job, revised
from peristyle.model.stock import Board, Break
from peristyle.planning.form.ring import RingPlan, plan_ring
from peristyle.planning.inside.contents import sized
from peristyle.planning.section.levels import plan_section
from peristyle.planning.stock.clear import Span, blocked, placed_at, shown_faces
from peristyle.planning.stock.laying import loss_at, parting
from peristyle.planning.stock.wrap import WrapPlan, plan_wrap
from peristyle.wood.match import STEP_MM, Edges, Scale, edges_of, finest_mm, scaled, steps

if TYPE_CHECKING:
    from numpy.typing import NDArray

    from peristyle.wood.pictures import Seen


class Spare(NamedTuple):
    """A place for the side on a board of the rack: how much of it is cut away before, and the scores of the side's two
    corners, 0 to 100; `film` is what the search was told to make of it.
    """

    board: str
    rack: int
    skip_mm: float
    scores: tuple[float, float]
    film: object = None


def remade(job: Job, side: int, board: str, skip_mm: float) -> Job:
    """The job with a side made anew from a board of the rack; the others stay where they lie."""
    planned = sized(job)
    ring = plan_ring(planned)
    count = len(ring.sides)
    wrap = plan_wrap(planned, ring)
    order = wrap.order
    at = order.index(side)
    breaks = dict(job.breaks)
    gone = breaks.pop(side, None)
    if at == 0:  # the first of the order is made anew: the strip begins with the next, where that one lies
        closing = side
        breaks[(side - 1) % count] = Break(after=(side - 1) % count, board=board, skip_mm=skip_mm)
        second = ring.sides[order[1]]
        begins = placed_at(wrap, order[1]).start_mm - wrap.creep_mm - max(0.0, -second.back_mm(second.start))
        moved = replace(job.stock.board, shift_mm=max(0.0, round(begins - job.stock.board.end_trim_mm, 4)))
        last = count - 1
        return revised(
            job, board=moved, closing_corner=None if closing == last else closing, breaks=_sorted(breaks)
        )
    breaks[order[at - 1]] = Break(after=order[at - 1], board=board, skip_mm=skip_mm)
    if at + 1 < count:
        # What it was to be, or was, is cut away: the next side lies where it lay.
        follows = gone or Break(after=side)
        if not follows.board:
            before = order[at - 1]
            how = parting(job)._replace(creep_mm=wrap.creep_mm)
            loss = loss_at(how, ring.sides[before], ring.sides[side], apart=True)
            reached = placed_at(wrap, before).end_mm + loss
            second = ring.sides[order[at + 1]]
            begins = (
                placed_at(wrap, order[at + 1]).start_mm
                - wrap.creep_mm
                - max(0.0, -second.back_mm(second.start))
            )
            follows = replace(follows, skip_mm=max(0.0, round(begins - reached, 4)))
        breaks[side] = follows
    return revised(job, breaks=_sorted(breaks))


def _sorted(breaks: dict[int, Break]) -> tuple[Break, ...]:
    return tuple(breaks[k] for k in sorted(breaks))


def spares(
    job: Job,
    side: int,
    picture_of: Callable[[Board], "Seen"],
    film_of: Callable[[Job], object] = lambda _job: None,
    *,
    apart_mm: float = 8.0,
    most: int = 6,
    progress: Callable[[float], None] = lambda _share: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> list[Spare]:
    """Places for a side on the boards of the rack, clear of what is marked there, best first.

    By the matches at both its corners together, as the root of the mean of their squared distances; `most` of each
    board. What `film_of` makes of the job with the side taken from there is kept with it.
    """
    job = sized(job)
    ring = plan_ring(job)
    wrap = plan_wrap(job, ring)
    count = len(ring.sides)
    before, after = (side - 1) % count, (side + 1) % count
    names = {p.side: p.board for p in wrap.pieces}
    own = {"": job.stock.board} | {board.name: board for board in job.stock.rack}
    low, high = _slopes(ring, before, side), _slopes(ring, side, after)
    alike = low == high and names[before] == names[after]
    end = placed_at(wrap, before).origin_mm + ring.sides[before].outside_mm
    start = placed_at(wrap, after).origin_mm
    loss = max(float(np.median([wrap.losses_mm[k] for k in wrap.order])), 0.5)

    @cache
    def beside(finest: float) -> tuple[tuple["NDArray[np.float32]", "NDArray[np.float32]"], list[Scale]]:
        """The neighbours' edges, told as finely, and either corner's scale: what is usual on its neighbour's board."""
        first = _edges(own[names[before]], picture_of, ring, low, finest)
        last = first if alike else _edges(own[names[after]], picture_of, ring, high, finest)
        edges = (first.before[steps([end], first)[0]], last.after[steps([start], last)[0]])
        return edges, [scaled(one, loss) for one in (first, last)]

    least = max(STEP_MM, *(finest_mm(picture_of(own[names[k]])) for k in {before, after}))
    thick = ring.sides[side].thickness_mm
    found: list[Spare] = []
    for number, board in enumerate(job.stock.rack):
        if cancelled():
            break
        if board.sound_thickness_mm >= thick - DEFAULT.length_mm:
            finest = max(least, finest_mm(picture_of(board)))
            wanted, scales = beside(finest)
            rows = _on(job, ring, wrap, side, board, picture_of, (low, high), wanted, finest)
            taken: list[float] = []
            for apart, skip, one, two in rows:
                if math.isinf(apart) or len(taken) >= most:
                    break
                if all(abs(skip - other) >= apart_mm for other in taken):
                    taken.append(skip)
                    pair = (np.array([value], dtype=np.float32) for value in (one, two))
                    scores = [float(scale.score(v)[0]) for scale, v in zip(scales, pair, strict=True)]
                    film = film_of(remade(job, side, board.name, skip))
                    found.append(Spare(board.name, number, skip, (scores[0], scores[1]), film))
        progress((number + 1) / len(job.stock.rack))
    return sorted(found, key=lambda one: -min(one.scores) - sum(one.scores))


def best_spare(
    job: Job,
    side: int,
    picture_of: Callable[[Board], "Seen"],
    progress: Callable[[float], None] = lambda _share: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> tuple[str, float, tuple[float, float]] | None:
    """The board of the rack, how much of it is cut away before, and both scores of the best place for a side."""
    if not job.stock.rack or job.stock.board.method != "square_first":
        return None
    found = spares(job, side, picture_of, progress=progress, cancelled=cancelled, most=1)
    return (found[0].board, found[0].skip_mm, found[0].scores) if found else None


def _slopes(ring: RingPlan, first: int, second: int) -> tuple[float, float]:
    a, b = ring.sides[first], ring.sides[second]
    return (
        round(math.tan(math.radians(a.end.miter_deg)), 6),
        round(-math.tan(math.radians(b.start.miter_deg)), 6),
    )


def _edges(
    board: Board,
    picture_of: Callable[[Board], "Seen"],
    ring: RingPlan,
    slopes: tuple[float, float],
    finest: float,
) -> Edges:
    high = min(side.slant_mm for side in ring.sides)
    return edges_of(picture_of(board), board.low_mm, board.low_mm + high, slopes, finest=finest)


def _on(
    job: Job,
    ring: RingPlan,
    wrap: WrapPlan,
    side: int,
    board: Board,
    picture_of: Callable[[Board], "Seen"],
    slopes: tuple[tuple[float, float], tuple[float, float]],
    wanted: tuple["NDArray[np.float32]", "NDArray[np.float32]"],
    finest: float,
) -> list[tuple[float, float, float, float]]:
    """Every place on one board: the distance that decides, what is cut away before, and that of either corner."""
    trial = remade(job, side, board.name, 0.0)
    there = plan_wrap(trial, ring)
    lying = placed_at(there, side)
    run = next(run for run in there.runs if run.board == board.name and side in run.sides)
    used = [r for r in there.runs if r.board == board.name and r is not run]
    least = max([board.end_trim_mm, *(r.end_mm for r in used if r.sides != run.sides)])
    room = Span(least, board.length_mm - (run.end_mm - run.start_mm))
    if room.high < room.low or there.strip_mm + board.low_mm > board.width_mm + DEFAULT.length_mm:
        return []
    # The board as if it were the sides' own: what is marked on it blocks these moves.
    faces = [
        face._replace(board="")
        for face in shown_faces(trial, ring, there, plan_section(trial, ring))
        if face.board == board.name and face.side == side
    ]
    spans = blocked(board, faces)
    moves = np.arange(room.low, room.high + 1e-9, STEP_MM, dtype=np.float32)
    good = np.ones(len(moves), dtype=bool)
    for span in spans:
        good &= (moves - run.start_mm <= span.low) | (moves - run.start_mm >= span.high)
    moves = moves[good]
    if not len(moves):
        return []
    offset = lying.origin_mm - run.start_mm
    own = [_edges(board, picture_of, ring, slopes[0], finest)]
    own.append(own[0] if slopes[0] == slopes[1] else _edges(board, picture_of, ring, slopes[1], finest))
    first = own[0].after[steps(moves + offset, own[0])]
    last = own[1].before[steps(moves + offset + ring.sides[side].outside_mm, own[1])]
    one = np.sqrt(((first - wanted[0]) ** 2).sum(axis=1))
    two = np.sqrt(((last - wanted[1]) ** 2).sum(axis=1))
    both = np.sqrt((one**2 + two**2) / 2)
    order = np.argsort(both, kind="stable")
    return [(float(both[k]), round(float(moves[k]), 2), float(one[k]), float(two[k])) for k in order[:2000]]
