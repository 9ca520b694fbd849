"""Where no one board holds the ring: the wrap broken at the fewest, least seen corners."""

import itertools
import math
from collections.abc import Iterator, Sequence
from typing import Final, NamedTuple

from peristyle.core.outlines import centroid
from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import corner_name, replace
from peristyle.model.job import Job, revised
from peristyle.model.stock import Board, Break
from peristyle.planning.findings import Fix
from peristyle.planning.form.ring import RingPlan, plan_ring
from peristyle.planning.making.machine import creep_of
from peristyle.planning.stock.clear import lies, on_plane
from peristyle.planning.stock.laying import loss_at, losses_of, parting
from peristyle.planning.stock.wrap import plan_wrap

_MOST_RUNS: Final = 6
_MOST_TRIED: Final = 1000  # choices of corners looked at for each number of runs
_FINE_MM: Final = 0.1  # how finely what is cut away is told
_LOOSE_MM: Final = 0.01  # a quick no is said of nothing that lacks less: more than all that is rounded


class Stretch(NamedTuple):
    """A stretch of a board that is free of what the sides must keep clear of: faces lie within it."""

    low: float
    high: float


class _Laid(NamedTuple):
    """A run laid down: the board's number (0 the sides' own), and where its strip begins."""

    board: int
    begins: float


class RingTold(NamedTuple):
    """What laying needs to know of the ring: each side's reach, what the cuts at each corner take where the grain runs
    on and where it is broken, and what is left at a strip's start.
    """

    reach: tuple[float, ...]
    inner: tuple[float, ...]
    apart: tuple[float, ...]
    ahead: tuple[float, ...]

    def faces_mm(self, run: Sequence[int]) -> float:
        """What a run takes of a strip, without its last cut."""
        faces = math.fsum(self.reach[i] for i in run) + math.fsum(self.inner[i] for i in run[:-1])
        return self.ahead[run[0]] + faces

    def length_mm(self, run: Sequence[int]) -> float:
        """The same, its last cut counted."""
        return self.faces_mm(run) + self.apart[run[-1]]


class _Packing:
    """Whether runs could lie in the free stretches at all, whatever their order: a quick no before each is laid.

    Two in one stretch are a cut apart at the least. What was asked before is remembered: in a ring of like sides
    most corners to break at give the same runs.
    """

    def __init__(self, rooms: Sequence[float], least_cut_mm: float) -> None:
        self._cut = least_cut_mm
        self._rooms = tuple(sorted((room + least_cut_mm for room in rooms), reverse=True))
        self._known: dict[tuple[float, ...], bool] = {}

    def hold(self, runs_mm: Sequence[float]) -> bool:
        """Whether these could lie there."""
        runs = tuple(sorted((round(run + self._cut, 3) for run in runs_mm), reverse=True))
        if runs not in self._known:
            self._known[runs] = self._packed(runs, self._rooms)
        return self._known[runs]

    def _packed(self, runs: tuple[float, ...], rooms: tuple[float, ...]) -> bool:
        if not runs:
            return True
        if math.fsum(runs) > math.fsum(room for room in rooms if room >= runs[-1] - _LOOSE_MM) + _LOOSE_MM:
            return False
        tried = set[float]()
        for n, room in enumerate(rooms):
            if room < runs[0] - _LOOSE_MM or room in tried:
                continue
            tried.add(room)
            if self._packed(runs[1:], (*rooms[:n], room - runs[0], *rooms[n + 1 :])):
                return True
        return False


def fewest_breaks(job: Job) -> Job | None:
    """The job with its wrap broken at the fewest corners that let it come from the boards there are, clear of what is
    marked; of as many the least seen ones, the front being the most seen. None where no such breaks are found.

    All boards of the rack may be used, as they lie. Only for sides that are cut square first.
    """
    if job.stock.board.method != "square_first":
        return None
    whole = revised(job, breaks=())
    ring = plan_ring(whole)
    if not ring.stands:
        return None
    strip = plan_wrap(whole, ring).strip_mm
    thick = max(side.thickness_mm for side in ring.sides)
    boards = [job.stock.board, *job.stock.rack]
    usable = [
        n for n, board in enumerate(boards)
        if n == 0 or (board.sound_thickness_mm >= thick - DEFAULT.length_mm
                      and board.low_mm + strip <= board.width_mm + DEFAULT.length_mm)
    ]  # fmt: skip
    free = {n: free_of(boards[n], boards[n].low_mm, boards[n].low_mm + strip) for n in usable}
    told = told_of(whole, ring)
    count = len(ring.sides)
    rooms = sorted((stretch.high - stretch.low for some in free.values() for stretch in some), reverse=True)
    could = _Packing(rooms, min(told.apart))
    for number in range(_fewest(rooms, math.fsum(told.reach)), min(count, _MOST_RUNS) + 1):
        for corners in least_seen(ring, job.design.form.front, number):
            runs = cut_up(corners, corners[0], count)
            if not could.hold([told.faces_mm(run) for run in runs]):
                continue
            takes = [(told.faces_mm(run), told.length_mm(run)) for run in runs]
            begin = {run[0]: n for n, run in enumerate(runs)}
            for closing in corners:
                first = begin[(closing + 1) % count]
                laid = _lay((*takes[first:], *takes[:first]), boards, free)
                if laid is not None:
                    return _broken(whole, told, cut_up(corners, closing, count), closing, laid)
    return None


def _fewest(rooms: Sequence[float], needed: float) -> int:
    """How many of the longest stretches it takes at the least; two runs in one are one run."""
    whole = itertools.accumulate(rooms)
    return max(2, next((n for n, length in enumerate(whole, 1) if length >= needed), _MOST_RUNS + 1))


def breaking(job: Job) -> Fix | None:
    """The same as a fix; None where there is none."""
    made = fewest_breaks(job)
    if made is None:
        return None
    count = job.design.side_count
    breaks = "; ".join(
        f"{corner_name(one.after, count)} {f'{one.board}, ' if one.board else ''}{one.skip_mm:.4f} mm"
        for one in made.stock.breaks
    )
    changes = (
        ("stock.breaks", "none"), ("stock.closing_corner", corner_name(made.closing, count)),
        ("stock.board.shift_mm", made.stock.board.shift_mm), ("stock.breaks", breaks),
    )  # fmt: skip
    corners = [corner_name(n, count) for n in sorted({made.closing, *made.breaks})]
    return Fix("break_wrap", changes, {"broken": float(len(corners))}, {"corners": " and ".join(corners)})


def told_of(job: Job, ring: RingPlan) -> RingTold:
    how, sides, count = parting(job)._replace(creep_mm=creep_of(job, ring)), ring.sides, len(ring.sides)
    return RingTold(
        tuple(side.reach_mm[1] - side.reach_mm[0] for side in sides),
        losses_of(how, sides, -1),
        tuple(loss_at(how, sides[i], sides[(i + 1) % count], apart=True) for i in range(count)),
        tuple(how.creep_mm + max(0.0, -side.back_mm(side.start)) for side in sides),
    )


def free_of(board: Board, low: float, high: float) -> list[Stretch]:
    """The stretches of a strip, from `low` to `high` up the board, that nothing marked lies in, whatever it might be
    allowed besides.
    """
    taken = []
    for mark in board.marks:
        area = lies(board, mark)
        inside = mark.inside and not on_plane(board, mark, "face")
        if mark.wish == "avoid" and not inside and area.y0 < high and area.y1 > low:
            taken.append((area.x0, area.x1))
    found, at = [], board.end_trim_mm
    for x0, x1 in sorted(taken):
        if x0 > at:
            found.append(Stretch(at, x0))
        at = max(at, x1)
    if board.length_mm > at:
        found.append(Stretch(at, board.length_mm))
    return found


def least_seen(ring: RingPlan, front: int, number: int) -> Iterator[tuple[int, ...]]:
    """So many corners, the least seen together first: a corner is seen the more, the nearer it is to the front."""
    middle = centroid(ring.outer_bottom)
    nx, ny, _nz = ring.slabs[front].normal
    size = math.hypot(nx, ny) or 1.0
    seen = []
    for i, side in enumerate(ring.sides):
        x, y = side.foot[1]
        away = math.hypot(x - middle[0], y - middle[1]) or 1.0
        seen.append((1.0 + ((x - middle[0]) * nx + (y - middle[1]) * ny) / (size * away), i))
    shares = {i: share for share, i in seen}
    some = itertools.islice(itertools.combinations([i for _share, i in sorted(seen)], number), _MOST_TRIED)
    return iter(sorted(some, key=lambda corners: (round(sum(shares[i] for i in corners), 6), corners)))


def cut_up(corners: Sequence[int], closing: int, count: int) -> list[tuple[int, ...]]:
    """The runs between broken corners, from the closing one on."""
    runs: list[list[int]] = [[]]
    for k in range(count):
        i = (closing + 1 + k) % count
        runs[-1].append(i)
        if i in corners and i != closing:
            runs.append([])
    return [tuple(run) for run in runs]


def _lay(
    takes: Sequence[tuple[float, float]],
    boards: Sequence[Board],
    free: dict[int, list[Stretch]],
    laid: tuple[_Laid, ...] = (),
    reached: tuple[float, ...] = (),
) -> tuple[_Laid, ...] | None:
    """A place for each run, in cutting order along every board; the first on the sides' own. `takes` is what each
    takes of a strip without its last cut and with it, `reached` how far every board is cut up.
    """
    if len(laid) == len(takes):
        return laid
    at = reached or (0.0,) * len(boards)
    for number in free if laid else (0,):
        place = _first_place(takes[len(laid)], boards[number], free[number], at[number])
        if place is None:
            continue
        begins, ends = place
        after = (*at[:number], ends, *at[number + 1 :])
        made = _lay(takes, boards, free, (*laid, _Laid(number, begins)), after)
        if made is not None:
            return made
    return None


def _first_place(
    takes: tuple[float, float], board: Board, free: Sequence[Stretch], reached: float
) -> tuple[float, float] | None:
    """Where a run can begin on a board at the earliest, and where its last cut ends."""
    faces, whole = takes
    for stretch in free:
        begins = max(stretch.low, reached)
        if begins + faces > stretch.high + DEFAULT.length_mm:
            continue
        begins = math.ceil((begins - reached) / _FINE_MM - 1e-9) * _FINE_MM + reached
        if (
            begins + faces <= stretch.high + DEFAULT.length_mm
            and begins + whole <= board.length_mm + DEFAULT.length_mm
        ):
            return begins, begins + whole
    return None


def _broken(
    job: Job, ring: RingTold, runs: Sequence[tuple[int, ...]], closing: int, laid: Sequence[_Laid]
) -> Job:
    boards = [job.stock.board, *job.stock.rack]
    reached: dict[int, float] = {}
    breaks: list[Break] = []
    for k, (run, place) in enumerate(zip(runs, laid, strict=True)):
        if k:
            skip = max(0.0, place.begins - reached.get(place.board, 0.0))
            name = boards[place.board].name if place.board else ""
            breaks.append(Break(after=runs[k - 1][-1], board=name, skip_mm=round(skip, 4)))
        reached[place.board] = place.begins + ring.length_mm(run)
    board = job.stock.board
    shift = round(max(0.0, laid[0].begins - board.end_trim_mm), 4)
    last = job.design.side_count - 1
    moved = replace(board, shift_mm=shift)
    return revised(
        job,
        board=moved,
        closing_corner=None if closing == last else closing,
        breaks=tuple(sorted(breaks, key=lambda one: one.after)),
    )
