"""A plan for many boxes from many boards that is there at once, before a better one is looked for."""

import time
from collections.abc import Callable
from typing import Final

import numpy as np

from peristyle.core.solver import Numbers
from peristyle.core.tolerance import DEFAULT
from peristyle.planning.stock.cutting_problem import Problem

_QUICK_S: Final = 0.8  # how long the first plan is thinned out


def thrifty(problem: Problem, cancelled: Callable[[], bool]) -> Numbers:
    """A plan that is there at once, without one board after the other that can be spared, the dearest first."""
    best, banned = _greedy(problem, frozenset()), frozenset[int]()
    boxes, until = best[: len(problem.ways)].sum(), time.monotonic() + _QUICK_S
    left = sorted(_used(problem, best), key=problem.cost, reverse=True)
    while left and time.monotonic() < until and not cancelled():
        without = banned | {left.pop(0)}
        made = _greedy(problem, without)
        now = _used(problem, made)
        cheaper = sum(map(problem.cost, now)) < sum(map(problem.cost, _used(problem, best)))
        if made[: len(problem.ways)].sum() >= boxes and cheaper:
            best, banned = made, without
            left = sorted(now, key=problem.cost, reverse=True)
    return best


def _used(problem: Problem, numbers: Numbers) -> list[int]:
    """The boards of a plan."""
    at = len(problem.ways) + len(problem.spots)
    return [board for (board, _rows), on in zip(problem.row_sets, numbers[at:], strict=True) if on > 0.5]


def _greedy(problem: Problem, banned: frozenset[int]) -> Numbers:
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
                       key=lambda k: len(problem.way(j, problem.ways[k][1])))  # fmt: skip
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
    problem: Problem, k: int, left: dict[int, float], chosen: dict[int, int], spot: dict[tuple[int, int], int]
) -> list[tuple[int, int]] | None:
    """Stretches for the runs of one more box, None where there is no room."""
    j, w, wood = problem.ways[k]
    own_left, own_chosen, found = dict(left), dict(chosen), []
    runs = [t for t, many in problem.uses(j, w).items() for _ in range(many)]
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
