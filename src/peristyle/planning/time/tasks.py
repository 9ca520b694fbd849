"""The work as tasks for a calendar: hands-on minutes and waits, what must be done before, how many clamps are held."""

import datetime as dt
from collections.abc import Iterator, Mapping, Sequence
from typing import Final

from msgspec import Struct

from peristyle.model.design import replace
from peristyle.model.job import Coating, Job, Planned
from peristyle.model.progress import done_of
from peristyle.model.tools import Clamp
from peristyle.planning.making.asdone import total_of
from peristyle.planning.making.step import Step
from peristyle.planning.plan import Plan
from peristyle.planning.time.minutes import Minutes, minutes_of
from peristyle.reference.times import FINISHES, GLUED, Schedule

_BOX_CLAMPS: Final = 4  # that a glue-up holds where nothing says otherwise (our rule)
_WHOLE: Final = ("glue", "segment_glue", "leaf_glue", "coat")  # not left half done over night


class Task(Struct, frozen=True):
    """One thing to be done: of which job, with hands-on minutes in the middle, hours it waits before what follows, for
    how many of them clamps are held and how many. `after` are tasks of the same job, by their ids; it is not begun
    before `not_before` (UTC). `step` is the plan's step, `coat` the number of a coat of finish, 0 for none, `between`
    the key of what is done before it.
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
    between: str = ""
    not_before: dt.datetime | None = None

    @property
    def name(self) -> str:
        """What it is called in the job: its step, with the number of a coat after it."""
        return self.id.removeprefix(f"{self.job}/")


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
    """All that is still to be done of a job, in the maker's order: what is done already is left out.

    A task comes after those of the steps its own needs, so that what needs nothing of a glue-up can be done while it
    dries; a step of the maker's own stands where it was put. What was glued according to the log is waited for.
    """
    job = made.job
    done = {step.id for step in made.steps if done_of(job, step.id) >= total_of(step)}
    planned = {one.task: moment(one.not_before) for one in job.work.planned}
    dries = {step.id: when for step in made.steps if step.id in done and (when := _dry(job, step))}
    last: dict[str, str] = {}
    found: list[Task] = []
    for number, step in enumerate(made.steps):
        needs = [one.step for one in step.after]
        if number and "own" in (step.operation, made.steps[number - 1].operation):
            needs.append(made.steps[number - 1].id)
        if step.id in done:
            continue
        before = tuple(dict.fromkeys(last[one] for one in needs if one in last))
        for task in _of_step(job, step, name, own or {}, boxes):
            waits = [*(dries[one] for one in needs if one in dries), planned.get(task.name)]
            known = [when for when in waits if when is not None]
            found.append(replace(task, after=before, not_before=max(known) if known else None))
            before = (task.id,)
        last[step.id] = before[0]
    return tuple(found)


def told_apart(names: Sequence[str]) -> list[str]:
    """Names of jobs in one calendar, no two alike."""
    found: list[str] = []
    for name in names:
        count = 2
        new = name
        while new in found:
            new, count = f"{name} ({count})", count + 1
        found.append(new)
    return found


def moment(text: str) -> dt.datetime | None:
    """A moment as the file has it, in UTC; None where it is none."""
    try:
        return dt.datetime.fromisoformat(text).astimezone(dt.UTC)
    except (ValueError, OverflowError):
        return None


def later(job: Job, name: str, when: dt.datetime | None) -> Job:
    """The job with a task of its calendar not begun before a moment; None takes that back."""
    kept = tuple(one for one in job.work.planned if one.task != name)
    if when is not None:
        kept = (*kept, Planned(name, when.astimezone(dt.UTC).isoformat(timespec="minutes")))
    made: Job = replace(job, work=replace(job.work, planned=kept))
    return made


def _dry(job: Job, step: Step) -> dt.datetime | None:
    """When a step that is done may be worked on, if it waits and the log says when it was done."""
    waits = GLUED.get(step.operation, (0.0, 0.0))[1]
    whens = [moment(one.when) for one in job.log if one.about == step.id and one.kind == "done"]
    if not waits or not whens or whens[-1] is None:
        return None
    return whens[-1] + dt.timedelta(hours=waits)


def _of_step(
    job: Job, step: Step, name: str, own: Mapping[str, Sequence[float]], boxes: int
) -> Iterator[Task]:
    took = minutes_of(step, own, boxes)
    if step.operation in ("finish", "finish_inside"):
        yield from _coats(job, step, name, took, boxes)
        return
    clamped, waits = GLUED.get(step.operation, (0.0, 0.0))
    around = step.operation in ("glue", "roof_fix")
    clamps = (_clamps(job) if around else 2) * boxes if clamped else 0
    yield Task(
        f"{name}/{step.id}", name, step.id, took, waits, clamped, clamps, whole=step.operation in _WHOLE
    )


def _coats(job: Job, step: Step, name: str, took: Minutes, boxes: int) -> Iterator[Task]:
    """Sanding first, then coat after coat with its wait; the last is left to cure, or, inside, until it is dry."""
    finish = finish_of(job.work.coating)
    if step.operation == "finish_inside":
        finish = finish._replace(cure_h=finish.wait_h)
    yield Task(f"{name}/{step.id}/sand", name, step.id, took)
    for coat in range(1, finish.coats + 1):
        minutes = finish.minutes * (1 + 0.5 * (boxes - 1))
        wait = finish.wait_h if coat < finish.coats else finish.cure_h
        told = Minutes(minutes, 0.6 * minutes, 1.8 * minutes)
        yield Task(f"{name}/{step.id}/{coat}", name, step.id, told, wait, coat=coat, whole=True,
                   between=finish.between if coat > 1 else "")  # fmt: skip


def _clamps(job: Job) -> int:
    """How many clamps one glue-up holds."""
    return next(
        (min(tool.count, _BOX_CLAMPS) for tool in job.shop.tools if isinstance(tool, Clamp)), _BOX_CLAMPS
    )
