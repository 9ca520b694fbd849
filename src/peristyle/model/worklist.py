"""The maker's own order of work, edited: whether a step may stand there is for planning to say."""

from peristyle.model.design import replace
from peristyle.model.job import Job, Moved, OwnStep, Work, revised


def _with(job: Job, **changes: object) -> Job:
    work: Work = replace(job.work, **changes)
    return revised(job, work=work)


def moved(job: Job, step: str, before: str) -> Job:
    """A step done right before another, or last of all where none is named."""
    if any(own.id == step for own in job.work.own):
        own = tuple(replace(one, before=before) if one.id == step else one for one in job.work.own)
        return _with(job, own=own)
    kept = tuple(move for move in job.work.moved if move.step != step)
    return _with(job, moved=(*kept, Moved(step, before)))


def left_out(job: Job, step: str) -> Job:
    """A step left out; one of the maker's own is gone."""
    own = tuple(one for one in job.work.own if one.id != step)
    if len(own) < len(job.work.own):
        return _with(job, own=own)
    return _with(job, left_out=(*(name for name in job.work.left_out if name != step), step))


def put_back(job: Job, step: str) -> Job:
    """A step in the plan again, at its own place."""
    return _with(
        job,
        left_out=tuple(name for name in job.work.left_out if name != step),
        moved=tuple(move for move in job.work.moved if move.step != step),
    )


def with_own(job: Job, title: str, text: str, before: str) -> Job:
    """A step of the maker's own, with a number that no other has."""
    known = {one.id for one in job.work.own}
    number = next(n for n in range(1, len(known) + 2) if f"own.{n}" not in known)
    return _with(job, own=(*job.work.own, OwnStep(f"own.{number}", title, text, before)))
