"""A batch: many boxes from many boards. Jobs by their files, how many of each, and the boards there are."""

from typing import Annotated, Final

from msgspec import Meta, Struct

from peristyle.core.lengths import Units
from peristyle.model.design import replace
from peristyle.model.limits import Name
from peristyle.model.stock import MOST_BOARDS, Board

MOST_JOBS: Final = 100
MOST_BOXES: Final = 1000


class BatchJob(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """A job's file, as a path from the batch's own, and how many boxes of it are wanted."""

    file: Annotated[str, Meta(min_length=1, max_length=1000)]
    count: Annotated[int, Meta(ge=0, le=MOST_BOXES)] = 1


class Batch(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """The whole batch."""

    name: Name = "Batch"
    units: Units = "mm"
    jobs: Annotated[tuple[BatchJob, ...], Meta(max_length=MOST_JOBS)] = ()
    boards: Annotated[tuple[Board, ...], Meta(max_length=MOST_BOARDS)] = ()
    notes: Annotated[str, Meta(max_length=4_000)] = ""


def counted(batch: Batch, number: int, count: int) -> Batch:
    """So many boxes of a job."""
    jobs = list(batch.jobs)
    jobs[number] = replace(jobs[number], count=max(0, min(MOST_BOXES, count)))
    made: Batch = replace(batch, jobs=tuple(jobs))
    return made


def without_board(batch: Batch, name: str) -> Batch:
    """The batch without a board of that name."""
    made: Batch = replace(batch, boards=tuple(board for board in batch.boards if board.name != name))
    return made
