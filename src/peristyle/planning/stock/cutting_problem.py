"""The whole numbers by which many boxes are cut from many boards, and what binds them.

They say how many boxes are cut up which way, how many runs of each length lie on each stretch of which strip, and how
each board is ripped into strips. Lengths mm.
"""

import math
import time
from collections.abc import Callable, Iterator, Sequence
from functools import partial
from typing import Any, Final, NamedTuple

import numpy as np

from peristyle.core.solver import Numbers, Row, solved
from peristyle.core.tolerance import DEFAULT
from peristyle.model.stock import Board
from peristyle.planning.cutters import cutter
from peristyle.planning.stock.allocation import Allocation, BoxPlaced, RunPlaced, Wanted
from peristyle.planning.stock.broken import RingTold, Stretch, free_of

_MOST_ROWS: Final = 14  # combinations of strips weighed for each board
_SHARES: Final = (0.06, 0.74, 0.12, 0.08)  # of the time, for each of the four questions
_STRIP: Final = 4  # decimals of a mm by which strips are as high as each other


class Kind(NamedTuple):
    """A job as the allocation sees it: how high its strip is, and how it may be cut up."""

    told: RingTold
    strip_mm: float
    thick_mm: float
    ways: tuple[tuple[tuple[int, ...], ...], ...]


class Bin(NamedTuple):
    """A stretch of a strip: its board, which combination of strips, how high it lies, and what it holds."""

    board: int
    rows: int
    low_mm: float
    strip_mm: float
    stretch: Stretch
    holds_mm: float
    last: bool


class Run(NamedTuple):
    """Runs of one job that are as long as each other."""

    job: int
    length_mm: float


class Problem:
    """The whole numbers that are asked for, and what binds them."""

    def __init__(
        self, wanted: Sequence[Wanted], kinds: Sequence[Kind | None], boards: Sequence[Board]
    ) -> None:
        self.wanted, self.kinds, self.boards = wanted, kinds, boards
        self.priced = any(board.price > 0 for board in boards)
        self.kerf = min((cutter(one.job, "rip").least_mm for one in wanted), default=3.0)
        self.bins: list[Bin] = []
        self.row_sets: list[tuple[int, int]] = []  # board and combination, for each that there is
        self._lay_strips()
        lengths = {
            (j, round(kind.told.length_mm(run), 3))
            for j, kind in enumerate(kinds) if kind for way in kind.ways for run in way
        }  # fmt: skip
        self.runs = [Run(*one) for one in sorted(lengths)]
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

    def _fits(self, run: Run, own: Bin) -> bool:
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
                            Bin(number, rows, low, strip, stretch, holds, stretch is stretches[-1])
                        )
                    low += strip + self.kerf

    # --- the numbers, in one row: ways, runs on stretches, combinations of strips, then what the last question adds

    def solve(
        self,
        quick: Numbers,
        seconds: float,
        progress: Callable[[str, float, float], None],
        cancelled: Callable[[], bool],
    ) -> tuple[Numbers, dict[str, Any]]:
        """The four questions one after the other, each with what was answered before held fast."""
        ways, spots, sets = len(self.ways), len(self.spots), len(self.row_sets)
        count = ways + spots + sets
        rows = self._rows(count)
        boxes = np.zeros(count)
        boxes[:ways] = 1.0
        cost = np.zeros(count)
        cost[ways + spots :] = [self.cost(board) for board, _rows in self.row_sets]
        broken = np.zeros(count)
        broken[:ways] = [len(self.way(j, w)) - 1 for j, w, _wood in self.ways]
        best, told = quick, {"least": 0.0, "gap": 1.0, "cancelled": False}
        wanted = float(sum(one.count for j, one in enumerate(self.wanted) if self.kinds[j]))
        started = time.monotonic()
        for number, (what, aim, sign) in enumerate(
            (("boxes", boxes, -1.0), ("cost", cost, 1.0), ("corners", broken, 1.0))
        ):
            if what == "boxes" and boxes @ best >= wanted - 1e-6:
                rows.append((boxes, wanted, math.inf))
                continue
            left = seconds - (time.monotonic() - started)
            share = _SHARES[number] / sum(_SHARES[number:])
            found = solved(
                sign * aim, rows, self._integers(count), start=best, seconds=max(0.2, left * share),
                progress=partial(progress, what), cancelled=cancelled,
            )  # fmt: skip
            best = found.numbers if found.numbers is not None else best
            value = float(aim @ best)
            if what == "cost":
                told |= {"least": found.bound, "gap": found.gap}
            room = 1e-6 * max(1.0, abs(value))
            rows.append((aim, -math.inf, value + room) if sign > 0 else (aim, value - room, math.inf))
            if found.stopped:
                told["cancelled"] = True
                return best, told
        best = self._longest_offcut(
            rows, best, max(0.2, seconds - (time.monotonic() - started)), progress, cancelled
        )
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

    def way(self, j: int, w: int) -> tuple[tuple[int, ...], ...]:
        kind = self.kinds[j]
        assert kind is not None
        return kind.ways[w]

    def uses(self, j: int, w: int) -> dict[int, int]:
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
        uses = [self.uses(j, w) for j, w, _wood in self.ways]
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
        best: Numbers,
        seconds: float,
        progress: Callable[[str, float, float], None],
        cancelled: Callable[[], bool],
    ) -> Numbers:
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
        found = solved(
            aim,
            wide,
            most,
            loose=1,
            seconds=seconds,
            progress=partial(progress, "offcut"),
            cancelled=cancelled,
        ).numbers
        return found[:count] if found is not None else best

    # --- back to boxes

    def read(
        self,
        numbers: Numbers,
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
                        j, counts[j], tuple(self._placed(j, run, wood, open_at) for run in self.way(j, w))
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
