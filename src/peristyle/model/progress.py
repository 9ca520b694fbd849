"""How far the work has come, and what was measured: kept in the job, by steps' and pieces' own ids."""

from peristyle.model.design import replace
from peristyle.model.job import Done, Job, Measured

MOST_DESIGNS = 500


def done_of(job: Job, step: str) -> int:
    """How many pieces or passes of a step are done."""
    return next((done.count for done in job.progress if done.step == step), 0)


def with_done(job: Job, step: str, count: int, values: tuple[float, ...] = ()) -> Job:
    """The job with so many of a step done, at these settings and by the design as it is; 0 forgets it."""
    kept = tuple(done for done in job.progress if done.step != step)
    if count <= 0:
        return _tidied(replace(job, progress=kept))
    designs = job.cut_by if job.design in job.cut_by else (*job.cut_by, job.design)
    number: int | None = designs.index(job.design)
    if len(designs) > MOST_DESIGNS:  # what is cut is then held by its settings alone
        designs, number = job.cut_by, None
    return _tidied(replace(job, progress=(*kept, Done(step, count, values, number)), cut_by=designs))


def _tidied(job: Job) -> Job:
    """Without designs that nothing was done by any more."""
    used = sorted({done.design for done in job.progress if done.design is not None})
    if used == list(range(len(job.cut_by))):
        return job
    at = {number: new for new, number in enumerate(used)}
    progress = tuple(
        done if done.design is None else replace(done, design=at[done.design]) for done in job.progress
    )
    return replace(job, progress=progress, cut_by=tuple(job.cut_by[number] for number in used))


def measured_of(job: Job, name: str) -> float | None:
    """What was measured of a piece (`side.C.length_mm`), None where nothing was."""
    return next((one.value for one in job.measured if one.name == name), None)


def with_measured(
    job: Job, name: str, value: float, gauge: str = "", uncertainty: float | None = None, when: str = ""
) -> Job:
    """The job with a size as it was made (mm or degrees)."""
    kept = tuple(one for one in job.measured if one.name != name)
    return replace(job, measured=(*kept, Measured(name, value, gauge, uncertainty, when)))


def taken_back(job: Job, name: str) -> Job:
    """The job without a measured size."""
    return replace(job, measured=tuple(one for one in job.measured if one.name != name))
