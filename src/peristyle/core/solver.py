"""A question in whole numbers, put to the solver: progress is told, and it can be stopped."""

import itertools
import math
import os
import sys
from collections.abc import Callable, Sequence
from typing import Any, Final, NamedTuple

import numpy as np

Numbers = np.ndarray[Any, np.dtype[np.float64]]
# What some numbers come to together: their shares, the least and the most.
Row = tuple[Numbers, float, float]

_THREADS: Final = 2  # always: the solver keeps the number it began with


class Answer(NamedTuple):
    """What came of a question: the numbers (None where there are none), a bound no answer goes below, how far off the
    least the answer may be (0 proven), and whether it was stopped.
    """

    numbers: Numbers | None
    bound: float
    gap: float
    stopped: bool


def solved(
    aim: Numbers,
    rows: Sequence[Row],
    most: Sequence[float],
    *,
    loose: int = 0,
    start: Numbers | None = None,
    seconds: float = math.inf,
    nodes: int | None = None,
    looks: int | None = None,
    progress: Callable[[float, float], None] = lambda _share, _gap: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> Answer:
    """The whole numbers from 0 to `most`, within all `rows`, for which `aim` is least; the last `loose` of them need
    not be whole. It is given `seconds`, or so many `nodes` of the search and `looks` at how far it has come, which
    come to the same on every machine; `progress` is told the share of the time that is gone, and the gap.
    """
    import highspy  # late: only who asks pays for it

    solver = _solver()
    for option, value in (
        ("time_limit", seconds),
        ("mip_rel_gap", 1e-6),
        ("threads", _THREADS),
        ("mip_max_nodes", nodes),
    ):
        if value is not None:
            solver.setOptionValue(option, value)
    solver.passModel(_problem(aim, rows, most, loose))
    if start is not None:
        given = highspy.HighsSolution()
        given.col_value = list(start)
        solver.setSolution(given)
    stopped, looked_at = [False], itertools.count(1)

    def looked(event: Any) -> None:
        if looks is not None and next(looked_at) >= looks:
            event.interrupt()
        gap = event.data_out.mip_gap
        progress(min(1.0, event.data_out.running_time / seconds), gap if math.isfinite(gap) else 1.0)
        if cancelled():
            stopped[0] = True
            event.interrupt()

    solver.cbMipInterrupt.subscribe(looked)
    solver.run()
    info = solver.getInfo()
    values = np.array(solver.getSolution().col_value)
    there = info.primal_solution_status == highspy.SolutionStatus.kSolutionStatusFeasible
    good = there and len(values) == len(aim)
    if good:
        whole = len(values) - loose
        values[:whole] = np.rint(values[:whole])
    gap = info.mip_gap if math.isfinite(info.mip_gap) else 1.0
    return Answer(values if good else None, float(info.mip_dual_bound), float(gap), stopped[0])


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


def _problem(aim: Numbers, rows: Sequence[Row], most: Sequence[float], loose: int) -> Any:
    """The question in the solver's own form; the last `loose` numbers need not be whole."""
    import highspy

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
