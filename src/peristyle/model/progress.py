"""How far the work has come, and what was measured: kept in the job, by steps' and pieces' own ids."""

from peristyle.model.design import replace
from peristyle.model.job import Done, Job, Measured


def done_of(job: Job, step: str) -> int:
    """How many pieces or passes of a step are done."""
    return next((done.count for done in job.progress if done.step == step), 0)


def with_done(job: Job, step: str, count: int, values: tuple[float, ...] = ()) -> Job:
    """The job with so many of a step done, at these settings; 0 forgets it."""
    kept = tuple(done for done in job.progress if done.step != step)
    return replace(job, progress=(*kept, Done(step, count, values)) if count > 0 else kept)


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
