"""Marks painted on the sides' board, as it lies on the bench."""

from typing import Any, Final

from peristyle.core.errors import PeristyleError
from peristyle.model.design import replace
from peristyle.model.job import Job, revised
from peristyle.model.stock import MOST_MARKS, WISHES, Mark, MarkKind

LEAST_MM: Final = 2.0  # a smaller rectangle was a click: a mark of the usual size about it
USUAL_MM: Final = 16.0


def with_mark(job: Job, kind: MarkKind, a: tuple[float, float], b: tuple[float, float]) -> Job:
    """With a mark between two points of the board as it lies (mm). Raises PeristyleError where there are too many,
    or it lies off the board.
    """
    board = job.stock.board
    if len(board.marks) >= MOST_MARKS:
        raise PeristyleError(f"There are {MOST_MARKS} marks already: take one off first.")
    (xa, ya), (xb, yb) = board.lying(*a), board.lying(*b)
    x0, x1, y0, y1 = min(xa, xb), max(xa, xb), min(ya, yb), max(ya, yb)
    if x1 - x0 < LEAST_MM or y1 - y0 < LEAST_MM:
        x, y = (x0 + x1) / 2, (y0 + y1) / 2
        x0, x1, y0, y1 = x - USUAL_MM / 2, x + USUAL_MM / 2, y - USUAL_MM / 2, y + USUAL_MM / 2
    x0, x1 = max(0.0, x0), min(board.length_mm, x1)
    y0, y1 = max(0.0, y0), min(board.width_mm, y1)
    if x1 - x0 < 0.1 or y1 - y0 < 0.1:
        raise PeristyleError("That is not on the board.")
    through = kind in ("knot", "check", "wane", "sapwood", "streak")
    mark = Mark(
        kind=kind, x_mm=round(x0, 1), y_mm=round(y0, 1), length_mm=round(x1 - x0, 1), width_mm=round(y1 - y0, 1),
        wish=WISHES[kind], shows="through" if through else board.face,
    )  # fmt: skip
    return revised(job, marks=(*board.marks, mark))


def without_mark(job: Job, number: int) -> Job:
    """Without one of the marks."""
    marks = job.stock.board.marks
    return revised(job, marks=(*marks[:number], *marks[number + 1 :]))


def marked(job: Job, number: int, **changes: Any) -> Job:
    """With one of the marks otherwise."""
    marks = list(job.stock.board.marks)
    changed: Mark = replace(marks[number], **changes)
    marks[number] = changed
    return revised(job, marks=tuple(marks))
