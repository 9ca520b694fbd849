"""A question in whole numbers, put to the solver: progress is told, and it can be stopped."""

import math
import os
import sys
from collections.abc import Callable, Sequence
from typing import Any

import numpy as np

Numbers = np.ndarray[Any, np.dtype[np.float64]]
# What some numbers come to together: their shares, the least and the most.
Row = tuple[Numbers, float, float]


def solved(
    aim: Numbers,
    rows: Sequence[Row],
    most: Sequence[float],
    start: Numbers | None,
    seconds: float,
    progress: Callable[[float, float], None],
    cancelled: Callable[[], bool],
    loose: int = 0,
) -> tuple[Numbers | None, float, float, bool]:
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
