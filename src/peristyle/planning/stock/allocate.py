"""Many boxes from many boards: which runs of sides come from which board, by mixed-integer programming.

First all boxes are placed, then boards of the least cost are used, then the fewest corners are broken, then the longest
single offcut is kept; each is settled before the next is asked. Lengths mm.

A board is ripped into strips, a combination of the heights that are wanted lying one above the other from its
straight edge; a strip falls into stretches between what is marked to be avoided. Rings of a job may be cut up at any
corners, into at most `MOST_RUNS` runs, each of which lies on some stretch. Whole numbers say how many boxes are cut up
which way and how many runs of each length lie on each stretch, so that boxes alike are not told apart while it is
solved.
Source: cutting-stock formulation, R. E. Gomory and P. C. Gilmore, 1961 (from memory), with patterns of runs.
"""

import math
import os
import sys
import time
from collections.abc import Callable, Iterator, Sequence
from functools import partial
from typing import Any, Final, NamedTuple

import numpy as np
from msgspec import Struct

from peristyle.core.tolerance import DEFAULT
from peristyle.model.job import Job, revised
from peristyle.model.stock import Board
from peristyle.planning.cutters import cutter
from peristyle.planning.form.ring import RingPlan, plan_ring
from peristyle.planning.inside.contents import sized
from peristyle.planning.stock.broken import RingTold, Stretch, cut_up, free_of, least_seen, told_of
from peristyle.planning.stock.wrap import plan_wrap

NDArrayFloat = np.ndarray[Any, np.dtype[np.float64]]
Row = tuple[
    NDArrayFloat, float, float
]  # what some numbers come to together: their shares, the least and the most

MOST_RUNS: Final = 3
_QUICK_S: Final = 0.8  # how long the first plan is thinned out
_MOST_WAYS: Final = 60  # ways of cutting up one ring that are weighed
_MOST_ROWS: Final = 14  # combinations of strips weighed for each board
_SHARES: Final = (0.06, 0.74, 0.12, 0.08)  # of the time, for each of the four questions


class Wanted(Struct, frozen=True):
    """A job and how many boxes of it; `name` is what a map calls it."""

    name: str
    job: Job
    count: int


class RunPlaced(Struct, frozen=True):
    """A run of sides on a board: its number, where its strip begins and ends along it, and how high up."""

    board: int
    sides: tuple[int, ...]
    start_mm: float
    end_mm: float
    low_mm: float
    high_mm: float


class BoxPlaced(Struct, frozen=True):
    """One box: which job, its number among those, and its runs in cutting order."""

    job: int
    number: int
    runs: tuple[RunPlaced, ...]


class Allocation(Struct, frozen=True):
    """What was found. `cost` is that of the boards used, `gap` how far it may be from the least there is (0 proven),
    `least` a bound no plan goes below. `unplaced` are job number, how many, and the key of why.
    """

    boxes: tuple[BoxPlaced, ...] = ()
    unplaced: tuple[tuple[int, int, str], ...] = ()
    cost: float = 0.0
    least: float = 0.0
    gap: float = 0.0
    broken: int = 0
    offcut_mm: float = 0.0
    offcut_board: int = -1
    priced: bool = False
    cancelled: bool = False
    seconds: float = 0.0

    @property
    def boards(self) -> tuple[int, ...]:
        """The boards that are used, by their numbers."""
        return tuple(sorted({run.board for box in self.boxes for run in box.runs}))


_STRIP: Final = 4  # decimals of a mm by which strips are as high as each other


class _Kind(NamedTuple):
    """A job as the allocation sees it: how high its strip is, and how it may be cut up."""

    told: RingTold
    strip_mm: float
    thick_mm: float
    ways: tuple[tuple[tuple[int, ...], ...], ...]


class _Bin(NamedTuple):
    """A stretch of a strip: its board, which combination of strips, how high it lies, and what it holds."""

    board: int
    rows: int
    low_mm: float
    strip_mm: float
    stretch: Stretch
    holds_mm: float
    last: bool


class _Run(NamedTuple):
    """Runs of one job that are as long as each other."""

    job: int
    length_mm: float


def allocate(
    wanted: Sequence[Wanted],
    boards: Sequence[Board],
    seconds: float = 20.0,
    *,
    progress: Callable[[str, float, float], None] = lambda _what, _share, _gap: None,
    cancelled: Callable[[], bool] = lambda: False,
    first: Callable[[Allocation], None] = lambda _found: None,
) -> Allocation:
    """Place the boxes. `progress` is told which question is open, the share of the time that is gone, and the gap;
    `first` gets a plan that is there at once, before a better one is looked for.
    """
    kinds = [_kind(one.job) for one in wanted]
    problem = _Problem(wanted, kinds, boards)
    started = _now()
    quick = _thrifty(problem, cancelled)
    found = problem.read(quick, seconds=_now() - started)
    first(found)
    if not problem.runs or not problem.bins or cancelled():
        return found
    solved = problem.solve(quick, seconds, progress, cancelled)
    return problem.read(*solved[:1], **solved[1], seconds=_now() - started)


def _told_as(progress: Callable[[str, float, float], None], what: str, done: float, gap: float) -> None:
    progress(what, done, gap)


def _now() -> float:
    return time.monotonic()


def _kind(job: Job) -> _Kind | None:
    """What the allocation needs of a job; None where there is no ring, or its sides are not cut square first."""
    whole = revised(sized(job), breaks=())  # whatever its height or its sizes follow from
    ring = plan_ring(whole)
    if not ring.stands or job.stock.board.method != "square_first":
        return None
    told = told_of(whole, ring)
    ways = tuple(_ways(told, ring, job))
    strip = plan_wrap(whole, ring).strip_mm
    return _Kind(told, strip, max(side.thickness_mm for side in ring.sides), ways)


def _ways(told: RingTold, ring: RingPlan, job: Job) -> Iterator[tuple[tuple[int, ...], ...]]:
    """Ways to cut the ring up, each once for the lengths it gives, the least seen corners standing for all alike."""
    count = len(ring.sides)
    seen: set[tuple[float, ...]] = set()
    for number in range(1, min(MOST_RUNS, count) + 1):
        found = 0
        for corners in least_seen(ring, job.design.form.front, number):
            runs = tuple(cut_up(corners, corners[-1], count))
            key = tuple(sorted(round(told.length_mm(run), 3) for run in runs))
            if key not in seen:
                seen.add(key)
                found += 1
                yield runs
            if found >= _MOST_WAYS:
                break


class _Problem:
    """The whole numbers that are asked for, and what binds them."""

    def __init__(
        self, wanted: Sequence[Wanted], kinds: Sequence[_Kind | None], boards: Sequence[Board]
    ) -> None:
        self.wanted, self.kinds, self.boards = wanted, kinds, boards
        self.priced = any(board.price > 0 for board in boards)
        self.kerf = min((cutter(one.job, "rip").least_mm for one in wanted), default=3.0)
        self.bins: list[_Bin] = []
        self.row_sets: list[tuple[int, int]] = []  # board and combination, for each that there is
        self._lay_strips()
        lengths = {
            (j, round(kind.told.length_mm(run), 3))
            for j, kind in enumerate(kinds) if kind for way in kind.ways for run in way
        }  # fmt: skip
        self.runs = [_Run(*one) for one in sorted(lengths)]
        self.run_number = {(run.job, run.length_mm): k for k, run in enumerate(self.runs)}
        self.woods = sorted({board.wood for board in boards})
        # A box's runs come from boards of one wood.
        self.ways = [
            (j, w, wood)
            for j, kind in enumerate(kinds) if kind and wanted[j].count
            for w in range(len(kind.ways)) for wood in self.woods
        ]  # fmt: skip
        self.spots = [
            (t, b)
            for t, run in enumerate(self.runs)
            for b, own in enumerate(self.bins)
            if self._fits(run, own)
        ]

    def cost(self, board: int) -> float:
        """What using a board costs: its price, or the wood that is in it (litres) where no board has one."""
        own = self.boards[board]
        return own.price if self.priced else own.length_mm * own.width_mm * own.thickness_mm / 1e6

    def _fits(self, run: _Run, own: _Bin) -> bool:
        kind = self.kinds[run.job]
        return (
            kind is not None
            and round(kind.strip_mm, _STRIP) == own.strip_mm
            and self.boards[own.board].sound_thickness_mm >= kind.thick_mm - DEFAULT.length_mm
            and run.length_mm <= own.holds_mm + DEFAULT.length_mm
        )

    def _lay_strips(self) -> None:
        """Every combination of strips on every board, and their stretches."""
        slack = min((min(kind.told.apart) for kind in self.kinds if kind), default=0.0)
        for number, board in enumerate(self.boards):
            heights = sorted(
                {
                    round(kind.strip_mm, _STRIP) for j, kind in enumerate(self.kinds)
                    if kind and self.wanted[j].count and board.sound_thickness_mm >= kind.thick_mm - DEFAULT.length_mm
                },
                reverse=True,
            )  # fmt: skip
            for rows, stack in enumerate(_stacks(heights, board.width_mm - board.low_mm, self.kerf)):
                self.row_sets.append((number, rows))
                low = board.low_mm
                for strip in stack:
                    stretches = free_of(board, low, low + strip)
                    for stretch in stretches:
                        ends_at_mark = stretch.high < board.length_mm - DEFAULT.length_mm
                        holds = stretch.high - stretch.low + (slack if ends_at_mark else 0.0)
                        holds = min(holds, board.length_mm - stretch.low)
                        self.bins.append(
                            _Bin(number, rows, low, strip, stretch, holds, stretch is stretches[-1])
                        )
                    low += strip + self.kerf

    # --- the numbers, in one row: ways, runs on stretches, combinations of strips, then what the last question adds

    def solve(
        self,
        quick: NDArrayFloat,
        seconds: float,
        progress: Callable[[str, float, float], None],
        cancelled: Callable[[], bool],
    ) -> tuple[NDArrayFloat, dict[str, Any]]:
        """The four questions one after the other, each with what was answered before held fast."""
        ways, spots, sets = len(self.ways), len(self.spots), len(self.row_sets)
        count = ways + spots + sets
        rows = self._rows(count)
        boxes = np.zeros(count)
        boxes[:ways] = 1.0
        cost = np.zeros(count)
        cost[ways + spots :] = [self.cost(board) for board, _rows in self.row_sets]
        broken = np.zeros(count)
        broken[:ways] = [len(self._way(j, w)) - 1 for j, w, _wood in self.ways]
        best, told = quick, {"least": 0.0, "gap": 1.0, "cancelled": False}
        wanted = float(sum(one.count for j, one in enumerate(self.wanted) if self.kinds[j]))
        started = _now()
        for number, (what, aim, sign) in enumerate(
            (("boxes", boxes, -1.0), ("cost", cost, 1.0), ("corners", broken, 1.0))
        ):
            if what == "boxes" and boxes @ best >= wanted - 1e-6:
                rows.append((boxes, wanted, math.inf))
                continue
            left = seconds - (_now() - started)
            share = _SHARES[number] / sum(_SHARES[number:])
            made, bound, gap, stopped = _run(
                sign * aim, rows, self._integers(count), best, max(0.2, left * share),
                partial(_told_as, progress, what), cancelled,
            )  # fmt: skip
            best = made if made is not None else best
            value = float(aim @ best)
            if what == "cost":
                told |= {"least": bound, "gap": gap}
            room = 1e-6 * max(1.0, abs(value))
            rows.append((aim, -math.inf, value + room) if sign > 0 else (aim, value - room, math.inf))
            if stopped:
                told["cancelled"] = True
                return best, told
        best = self._longest_offcut(rows, best, max(0.2, seconds - (_now() - started)), progress, cancelled)
        return best, told

    def _integers(self, count: int) -> list[float]:
        """The most of each number; all of them are whole."""
        ways, spots = len(self.ways), len(self.spots)
        most = np.full(count, 1.0)
        most[:ways] = [self.wanted[j].count for j, _w, _wood in self.ways]
        most[ways : ways + spots] = [
            int(self.bins[b].holds_mm / self.runs[t].length_mm + 1e-9) for t, b in self.spots
        ]
        return list(most)

    def _way(self, j: int, w: int) -> tuple[tuple[int, ...], ...]:
        kind = self.kinds[j]
        assert kind is not None
        return kind.ways[w]

    def _uses(self, j: int, w: int) -> dict[int, int]:
        """How many runs of each length a way gives."""
        kind = self.kinds[j]
        assert kind is not None
        found: dict[int, int] = {}
        for run in kind.ways[w]:
            t = self.run_number[j, round(kind.told.length_mm(run), 3)]
            found[t] = found.get(t, 0) + 1
        return found

    def _rows(self, count: int) -> list[Row]:
        """What binds the numbers: (numbers, least, most)."""
        made = (*self._no_more_boxes(count), *self._runs_lie_somewhere(count), *self._strips_hold(count))
        return [row for row in made if row[0].any()]

    def _no_more_boxes(self, count: int) -> Iterator[Row]:
        """No more boxes of a job than are wanted."""
        for j, one in enumerate(self.wanted):
            row = np.zeros(count)
            row[: len(self.ways)] = [own == j for own, _w, _wood in self.ways]
            yield row, -math.inf, float(one.count)

    def _runs_lie_somewhere(self, count: int) -> Iterator[Row]:
        """As many runs of each length lie on boards of a wood as its boxes are cut up into."""
        uses = [self._uses(j, w) for j, w, _wood in self.ways]
        for t in range(len(self.runs)):
            for wood in self.woods:
                row = np.zeros(count)
                for k, (_j, _w, of) in enumerate(self.ways):
                    row[k] = -uses[k].get(t, 0) if of == wood else 0.0
                for k, (run, b) in enumerate(self.spots):
                    if run == t and self.boards[self.bins[b].board].wood == wood:
                        row[len(self.ways) + k] = 1.0
                yield row, 0.0, 0.0

    def _strips_hold(self, count: int) -> Iterator[Row]:
        """No stretch holds more than its length, and none where its board is ripped otherwise."""
        sets = {one: k for k, one in enumerate(self.row_sets)}
        after = len(self.ways) + len(self.spots)
        on: dict[int, list[int]] = {}
        for k, (_t, b) in enumerate(self.spots):
            on.setdefault(b, []).append(k)
        for b, spots in on.items():
            row = np.zeros(count)
            for k in spots:
                row[len(self.ways) + k] = self.runs[self.spots[k][0]].length_mm
            place = self.bins[b]
            row[after + sets[place.board, place.rows]] = -place.holds_mm - DEFAULT.length_mm
            yield row, -math.inf, 0.0
        for board in range(len(self.boards)):
            row = np.zeros(count)
            for (own, _rows), k in sets.items():
                row[after + k] = own == board
            yield row, -math.inf, 1.0

    def _longest_offcut(
        self,
        rows: list[Row],
        best: NDArrayFloat,
        seconds: float,
        progress: Callable[[str, float, float], None],
        cancelled: Callable[[], bool],
    ) -> NDArrayFloat:
        """The last question: one strip's end is chosen, and what is left there made as long as can be."""
        ways, spots = len(self.ways), len(self.spots)
        ends = [
            b for b, own in enumerate(self.bins) if own.last and any(number == b for _t, number in self.spots)
        ]
        if not ends:
            return best
        count, more = len(best), len(ends) + 1
        wide = [(np.concatenate([row, np.zeros(more)]), low, high) for row, low, high in rows]
        sets = {one: k for k, one in enumerate(self.row_sets)}
        one_of = np.zeros(count + more)
        one_of[count : count + len(ends)] = 1.0
        wide.append((one_of, 1.0, 1.0))
        longest = max(self.bins[b].holds_mm for b in ends)
        for k, b in enumerate(ends):
            row = np.zeros(count + more)
            for number, (t, own) in enumerate(self.spots):
                if own == b:
                    row[ways + number] = self.runs[t].length_mm
            row[-1], row[count + k] = 1.0, 2 * longest
            wide.append((row, -math.inf, self.bins[b].holds_mm + 2 * longest))
            row = np.zeros(count + more)
            row[count + k], row[ways + spots + sets[self.bins[b].board, self.bins[b].rows]] = 1.0, -1.0
            wide.append((row, -math.inf, 0.0))
        aim = np.zeros(count + more)
        aim[-1] = -1.0
        most = [*self._integers(count), *[1.0] * len(ends), longest]
        made, _bound, _gap, _stopped = _run(
            aim, wide, most, None, seconds, partial(_told_as, progress, "offcut"), cancelled, loose=1
        )
        return made[:count] if made is not None else best

    # --- back to boxes

    def read(
        self,
        numbers: NDArrayFloat,
        least: float = 0.0,
        gap: float = 1.0,
        cancelled: bool = False,
        seconds: float = 0.0,
    ) -> Allocation:
        """Boxes with their runs on the boards."""
        ways = len(self.ways)
        open_at: dict[tuple[int, str], list[tuple[int, float]]] = {}
        reached: dict[int, float] = {}
        for k, (t, b) in enumerate(self.spots):
            own, wood = self.bins[b], self.boards[self.bins[b].board].wood
            for _ in range(round(numbers[ways + k])):
                at = reached.get(b, own.stretch.low)
                open_at.setdefault((t, wood), []).append((b, at))
                reached[b] = at + self.runs[t].length_mm
        boxes: list[BoxPlaced] = []
        counts: dict[int, int] = {}
        for k, (j, w, wood) in enumerate(self.ways):
            for _ in range(round(numbers[k])):
                counts[j] = counts.get(j, 0) + 1
                boxes.append(
                    BoxPlaced(
                        j, counts[j], tuple(self._placed(j, run, wood, open_at) for run in self._way(j, w))
                    )
                )
        placed = sum(len(box.runs) - 1 for box in boxes)
        used = sorted({run.board for box in boxes for run in box.runs})
        offcut, where = max(
            ((own.holds_mm - (reached.get(b, own.stretch.low) - own.stretch.low), own.board)
             for b, own in enumerate(self.bins) if own.last and reached.get(b)),
            default=(0.0, -1),
        )  # fmt: skip
        unplaced = tuple(
            (j, one.count - counts.get(j, 0), self._why(j)) for j, one in enumerate(self.wanted)
            if counts.get(j, 0) < one.count
        )  # fmt: skip
        cost = sum(self.cost(board) for board in used)
        return Allocation(
            tuple(boxes), unplaced, cost, min(least, cost), min(max(gap, 0.0), 1.0), placed, max(0.0, offcut), where,
            self.priced, cancelled, seconds,
        )  # fmt: skip

    def _placed(
        self, j: int, run: tuple[int, ...], wood: str, open_at: dict[tuple[int, str], list[tuple[int, float]]]
    ) -> RunPlaced:
        kind = self.kinds[j]
        assert kind is not None
        length = round(kind.told.length_mm(run), 3)
        b, at = open_at[self.run_number[j, length], wood].pop(0)
        own = self.bins[b]
        return RunPlaced(own.board, run, at, at + length, own.low_mm, own.low_mm + own.strip_mm)

    def _why(self, j: int) -> str:
        """The key of why boxes of a job are not placed."""
        kind = self.kinds[j]
        if kind is None:
            return "not_square_first"
        thick = [b for b in self.boards if b.sound_thickness_mm >= kind.thick_mm - DEFAULT.length_mm]
        if not thick:
            return "too_thin"
        wide = [b for b in thick if b.low_mm + kind.strip_mm <= b.width_mm + DEFAULT.length_mm]
        if not wide:
            return "too_narrow"
        shortest = min(max(kind.told.length_mm(run) for run in way) for way in kind.ways)
        stretches = [s for b in wide for s in free_of(b, b.low_mm, b.low_mm + kind.strip_mm)]
        longest = max((s.high - s.low for s in stretches), default=0.0)
        return "too_short" if shortest > longest else "no_room"


def _stacks(heights: Sequence[float], width: float, kerf: float) -> list[tuple[float, ...]]:
    """Combinations of strips that lie above each other in a board's width, none of which has room for one more."""
    if not heights:
        return []
    found: list[tuple[float, ...]] = []

    def add(stack: tuple[float, ...], left: float) -> None:
        fitting = [h for h in heights if h <= left + DEFAULT.length_mm and (not stack or h <= stack[-1])]
        if stack and not any(h <= left + DEFAULT.length_mm for h in heights):
            found.append(stack)
        for h in fitting:
            add((*stack, h), left - h - kerf)

    if width / min(heights) > 40:  # a board as wide as a sheet: strips of one height each
        found = [(h,) * int((width + kerf) / (h + kerf)) for h in heights]
    else:
        add((), width)
    return sorted(dict.fromkeys(found), key=lambda stack: (-sum(stack), stack))[:_MOST_ROWS]


def _thrifty(problem: _Problem, cancelled: Callable[[], bool]) -> NDArrayFloat:
    """A plan that is there at once, without one board after the other that can be spared, the dearest first."""
    best, banned = _greedy(problem, frozenset()), frozenset[int]()
    boxes, until = best[: len(problem.ways)].sum(), _now() + _QUICK_S
    left = sorted(_used(problem, best), key=problem.cost, reverse=True)
    while left and _now() < until and not cancelled():
        without = banned | {left.pop(0)}
        made = _greedy(problem, without)
        now = _used(problem, made)
        cheaper = sum(map(problem.cost, now)) < sum(map(problem.cost, _used(problem, best)))
        if made[: len(problem.ways)].sum() >= boxes and cheaper:
            best, banned = made, without
            left = sorted(now, key=problem.cost, reverse=True)
    return best


def _used(problem: _Problem, numbers: NDArrayFloat) -> list[int]:
    """The boards of a plan."""
    at = len(problem.ways) + len(problem.spots)
    return [board for (board, _rows), on in zip(problem.row_sets, numbers[at:], strict=True) if on > 0.5]


def _greedy(problem: _Problem, banned: frozenset[int]) -> NDArrayFloat:
    """A plan without some boards: the longest rings first, whole where they can be, on the boards in use first."""
    ways, spots = len(problem.ways), len(problem.spots)
    numbers = np.zeros(ways + spots + len(problem.row_sets))
    spot = {one: k for k, one in enumerate(problem.spots)}
    sets = {one: k for k, one in enumerate(problem.row_sets)}
    left = {b: 0.0 if own.board in banned else own.holds_mm for b, own in enumerate(problem.bins)}
    chosen: dict[int, int] = {}
    order = sorted(
        (j for j, kind in enumerate(problem.kinds) if kind and kind.ways),
        key=lambda j: -problem.kinds[j].told.length_mm(problem.kinds[j].ways[0][0]),  # type: ignore[union-attr]
    )
    for j in order:
        tries = sorted((k for k, (own, _w, _wood) in enumerate(problem.ways) if own == j),
                       key=lambda k: len(problem._way(j, problem.ways[k][1])))  # fmt: skip
        for _ in range(problem.wanted[j].count):
            for k in tries:
                taken = _taken(problem, k, left, chosen, spot)
                if taken is None:
                    continue
                numbers[k] += 1
                for t, b in taken:
                    numbers[ways + spot[t, b]] += 1
                    left[b] -= problem.runs[t].length_mm
                    own = problem.bins[b]
                    chosen[own.board] = own.rows
                    numbers[ways + spots + sets[own.board, own.rows]] = 1.0
                break
            else:
                break
    return numbers


def _taken(
    problem: _Problem,
    k: int,
    left: dict[int, float],
    chosen: dict[int, int],
    spot: dict[tuple[int, int], int],
) -> list[tuple[int, int]] | None:
    """Stretches for the runs of one more box, None where there is no room."""
    j, w, wood = problem.ways[k]
    own_left, own_chosen, found = dict(left), dict(chosen), []
    runs = [t for t, many in problem._uses(j, w).items() for _ in range(many)]
    for t in sorted(runs, key=lambda t: -problem.runs[t].length_mm):
        fitting = [
            b for b, own in enumerate(problem.bins)
            if (t, b) in spot and problem.boards[own.board].wood == wood
            and own_chosen.get(own.board, own.rows) == own.rows
            and own_left[b] >= problem.runs[t].length_mm - DEFAULT.length_mm
        ]  # fmt: skip
        if not fitting:
            return None
        # A board in use first, the tightest stretch of it; else the cheapest board.
        b = min(fitting, key=lambda b: (
            problem.bins[b].board not in own_chosen, own_left[b] if problem.bins[b].board in own_chosen else
            problem.cost(problem.bins[b].board), own_left[b],
        ))  # fmt: skip
        own_left[b] -= problem.runs[t].length_mm
        own_chosen[problem.bins[b].board] = problem.bins[b].rows
        found.append((t, b))
    return found


def _solver() -> Any:
    """A solver that says nothing; it greets on the process's own output before it can be told not to."""
    import highspy

    sys.stdout.flush()
    kept, nothing = os.dup(1), os.open(os.devnull, os.O_WRONLY)
    try:
        os.dup2(nothing, 1)
        make: Any = highspy.Highs
        solver = make()
        solver.setOptionValue("output_flag", False)
    finally:
        os.dup2(kept, 1)
        os.close(kept)
        os.close(nothing)
    return solver


def _problem(aim: NDArrayFloat, rows: Sequence[Row], most: Sequence[float], loose: int) -> Any:
    """The question in the solver's own form; the last `loose` numbers need not be whole."""
    import highspy  # late: only who allocates pays for it

    problem = highspy.HighsLp()
    problem.num_col_, problem.num_row_ = len(aim), len(rows)
    problem.col_cost_, problem.col_lower_, problem.col_upper_ = (
        aim,
        np.zeros(len(aim)),
        np.array(most, dtype=float),
    )
    problem.row_lower_ = np.array([max(low, -highspy.kHighsInf) for _row, low, _high in rows])
    problem.row_upper_ = np.array([min(high, highspy.kHighsInf) for _row, _low, high in rows])
    filled = [np.flatnonzero(row) for row, _low, _high in rows]
    problem.a_matrix_.format_ = highspy.MatrixFormat.kRowwise
    problem.a_matrix_.start_ = np.concatenate([[0], np.cumsum([len(at) for at in filled])]).astype(np.int32)
    problem.a_matrix_.index_ = np.concatenate(filled).astype(np.int32) if filled else np.zeros(0, np.int32)
    problem.a_matrix_.value_ = np.concatenate(
        [row[at] for (row, _l, _h), at in zip(rows, filled, strict=True)]
    )
    whole, part = highspy.HighsVarType.kInteger, highspy.HighsVarType.kContinuous
    problem.integrality_ = [whole] * (len(aim) - loose) + [part] * loose
    return problem


def _run(
    aim: NDArrayFloat,
    rows: Sequence[Row],
    most: Sequence[float],
    start: NDArrayFloat | None,
    seconds: float,
    progress: Callable[[float, float], None],
    cancelled: Callable[[], bool],
    loose: int = 0,
) -> tuple[NDArrayFloat | None, float, float, bool]:
    """One question put to the solver: the numbers, a bound, the gap, and whether it was stopped. The last `loose`
    numbers need not be whole.
    """
    import highspy  # late: only who allocates pays for it

    solver = _solver()
    solver.setOptionValue("time_limit", seconds)
    solver.setOptionValue("mip_rel_gap", 1e-6)
    solver.setOptionValue("threads", 2)
    solver.passModel(_problem(aim, rows, most, loose))
    if start is not None:
        given = highspy.HighsSolution()
        given.col_value = list(start)
        solver.setSolution(given)
    stopped = [False]

    def looked(event: Any) -> None:
        gap = event.data_out.mip_gap
        progress(min(1.0, event.data_out.running_time / seconds), gap if math.isfinite(gap) else 1.0)
        if cancelled():
            stopped[0] = True
            event.interrupt()

    solver.cbMipInterrupt.subscribe(looked)
    solver.run()
    info = solver.getInfo()
    values = np.array(solver.getSolution().col_value)
    good = info.primal_solution_status == highspy.SolutionStatus.kSolutionStatusFeasible and len(
        values
    ) == len(aim)
    if good and loose:
        values[:-loose] = np.rint(values[:-loose])
    elif good:
        values = np.rint(values)
    gap = info.mip_gap if math.isfinite(info.mip_gap) else 1.0
    return (values if good else None), float(info.mip_dual_bound), float(gap), stopped[0]
