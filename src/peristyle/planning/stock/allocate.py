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

import time
from collections.abc import Callable, Iterator, Sequence
from typing import Final

from peristyle.model.job import Job, revised
from peristyle.model.stock import Board
from peristyle.planning.form.ring import RingPlan, plan_ring
from peristyle.planning.inside.contents import sized
from peristyle.planning.stock.allocation import Allocation, Wanted
from peristyle.planning.stock.broken import RingTold, cut_up, least_seen, told_of
from peristyle.planning.stock.cutting_problem import Kind, Problem
from peristyle.planning.stock.quick_plan import thrifty
from peristyle.planning.stock.wrap import plan_wrap

MOST_RUNS: Final = 3
_MOST_WAYS: Final = 60  # ways of cutting up one ring that are weighed


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
    problem = Problem(wanted, kinds, boards)
    started = time.monotonic()
    quick = thrifty(problem, cancelled)
    found = problem.read(quick, seconds=time.monotonic() - started)
    first(found)
    if not problem.runs or not problem.bins or cancelled():
        return found
    solved = problem.solve(quick, seconds, progress, cancelled)
    return problem.read(*solved[:1], **solved[1], seconds=time.monotonic() - started)


def _kind(job: Job) -> Kind | None:
    """What the allocation needs of a job; None where there is no ring, or its sides are not cut square first."""
    whole = revised(sized(job), breaks=())  # whatever its height or its sizes follow from
    ring = plan_ring(whole)
    if not ring.stands or job.stock.board.method != "square_first":
        return None
    told = told_of(whole, ring)
    ways = tuple(_ways(told, ring, job))
    strip = plan_wrap(whole, ring).strip_mm
    return Kind(told, strip, max(side.thickness_mm for side in ring.sides), ways)


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
