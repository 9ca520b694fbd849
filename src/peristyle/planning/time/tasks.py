"""The work as tasks for a calendar: hands-on minutes and waits, what must be done before, how many clamps are held."""

from collections.abc import Iterator, Mapping, Sequence
from typing import Final

from msgspec import Struct

from peristyle.model.design import replace
from peristyle.model.job import Coating, Job
from peristyle.model.tools import Clamp
from peristyle.planning.making.step import Step
from peristyle.planning.plan import Plan
from peristyle.planning.time.minutes import Minutes, minutes_of
from peristyle.reference.times import FINISHES, GLUED, Schedule

_BOX_CLAMPS: Final = 4  # that a glue-up holds where nothing says otherwise (our rule)
_WHOLE: Final = ("glue", "segment_glue", "leaf_glue", "coat")  # not left half done over night


class Task(Struct, frozen=True):
    """One thing to be done: of which job, with hands-on minutes in the middle, hours it waits before what follows, for
    how many of them clamps are held and how many. `after` are tasks of the same job, by their ids. `step` is the plan's
    step, `coat` the number of a coat of finish, 0 for none.
    """

    id: str
    job: str
    step: str
    minutes: Minutes
    wait_h: float = 0.0
    clamped_h: float = 0.0
    clamps: int = 0
    after: tuple[str, ...] = ()
    coat: int = 0
    whole: bool = False


def finish_of(coating: Coating) -> Schedule:
    """A finish as the maker does it: the usual schedule, with his own number of coats and wait."""
    usual = FINISHES[coating.kind]
    return usual._replace(
        coats=coating.coats if coating.coats is not None else usual.coats,
        wait_h=coating.wait_h if coating.wait_h is not None else usual.wait_h,
    )


def tasks_of(
    made: Plan, name: str, own: Mapping[str, Sequence[float]] | None = None, boxes: int = 1
) -> tuple[Task, ...]:
    """All that is still to be done of a job, in its order: what is done already is left out."""
    done = {one.step for one in made.job.progress if one.count}
    found: list[Task] = []
    last = ""
    for step in made.steps:
        if step.id in done:
            continue
        for task in _of_step(made.job, step, name, own or {}, boxes):
            # The order of the plan is the maker's: one thing after the other on one bench.
            after = (last,) if last else ()
            found.append(_after(task, after))
            last = task.id
    return tuple(found)


def _after(task: Task, after: tuple[str, ...]) -> Task:
    made: Task = replace(task, after=after)
    return made


def _of_step(
    job: Job, step: Step, name: str, own: Mapping[str, Sequence[float]], boxes: int
) -> Iterator[Task]:
    took = minutes_of(step, own, boxes)
    if step.operation == "finish":
        yield from _coats(job, step, name, took, boxes)
        return
    clamped, waits = GLUED.get(step.operation, (0.0, 0.0))
    around = step.operation in ("glue", "roof_fix")
    clamps = (_clamps(job) if around else 2) * boxes if clamped else 0
    yield Task(
        f"{name}/{step.id}", name, step.id, took, waits, clamped, clamps, whole=step.operation in _WHOLE
    )


def _coats(job: Job, step: Step, name: str, took: Minutes, boxes: int) -> Iterator[Task]:
    """Sanding first, then coat after coat with its wait."""
    finish = finish_of(job.work.coating)
    yield Task(f"{name}/{step.id}/sand", name, step.id, took)
    for coat in range(1, finish.coats + 1):
        minutes = finish.minutes * (1 + 0.5 * (boxes - 1))
        wait = finish.wait_h if coat < finish.coats else finish.cure_h
        told = Minutes(minutes, 0.6 * minutes, 1.8 * minutes)
        yield Task(f"{name}/{step.id}/{coat}", name, step.id, told, wait, coat=coat, whole=True)


def _clamps(job: Job) -> int:
    """How many clamps one glue-up holds."""
    return next(
        (min(tool.count, _BOX_CLAMPS) for tool in job.shop.tools if isinstance(tool, Clamp)), _BOX_CLAMPS
    )
