"""The work as tasks for a calendar: hands-on minutes and waits, what must be done before, how many clamps are held."""

import datetime as dt
from collections.abc import Iterator, Mapping, Sequence
from typing import Final

from msgspec import Struct

from peristyle.model.design import replace
from peristyle.model.job import Coating, Job, Planned
from peristyle.model.progress import done_of
from peristyle.model.tools import Clamp
from peristyle.planning.fit.as_cut import cut_before
from peristyle.planning.making.asdone import total_of
from peristyle.planning.making.step import Step
from peristyle.planning.plan import Plan
from peristyle.planning.sled import MAKING, cut_on_it
from peristyle.planning.time.minutes import Minutes, minutes_for, minutes_of
from peristyle.reference.times import FINISHES, GLUED, Schedule

_BOX_CLAMPS: Final = 4  # that a glue-up holds where nothing says otherwise (our rule)
_WHOLE: Final = ("glue", "segment_glue", "leaf_glue", "coat")  # not left half done over night


class Task(Struct, frozen=True):
    """One thing to be done: of which job, with hands-on minutes in the middle, hours it waits before what follows, for
    how many of them clamps are held and how many. `after` are tasks of the same job, by their ids; it is not begun
    before `not_before` (UTC). `step` is the plan's step, `coat` the number of a coat of finish, 0 for none, `between`
    the key of what is done before it; `lot` which boxes of a batch, from which to which, where not all at once.
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
    lot: tuple[int, int] | None = None

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
    made: Plan,
    name: str,
    own: Mapping[str, Sequence[float]] | None = None,
    boxes: Sequence[int] = (1,),
    clamps: int | None = None,
) -> tuple[Task, ...]:
    """All that is still to be done of a job, in the maker's order: what is done already is left out.

    A task comes after those of the steps its own needs, so that what needs nothing of a glue-up can be done while it
    dries; a step of the maker's own stands where it was put. What was glued according to the log is waited for.

    So many `boxes` are made alike, set-up by set-up; where there are several numbers, those parts of the batch go their
    own ways from the glue-up on. What wants more than all `clamps` (those of the shop, if None) is glued in lots.
    """
    limit = clamps if clamps is not None else clamps_of(made.job)
    sled = tuple(_sled_tasks(made, name, own or {}, limit))
    batch = _Batch(made, own or {}, limit, sled)
    parts = part_names(name, boxes)
    split = next((n for n, step in enumerate(made.steps) if step.operation == "glue"), len(made.steps))
    shared = range(split if len(boxes) > 1 else len(made.steps))
    last: dict[str, tuple[str, ...]] = {}
    found = [*sled, *batch.tasks(shared, name, sum(boxes), last)]
    for part, count in zip(parts, boxes, strict=True) if len(boxes) > 1 else ():
        found += batch.tasks(range(split, len(made.steps)), part, count, dict(last))
    return tuple(found)


def part_names(name: str, boxes: Sequence[int]) -> list[str]:
    """What the parts of a batch are called in a calendar; the job's own name where there is one."""
    if len(boxes) == 1:
        return [name]
    words = ["first", *(["next"] * (len(boxes) - 2)), "last"]
    return told_apart([f"{name}, {word} {count}" for word, count in zip(words, boxes, strict=True)])


def clamps_of(job: Job) -> int | None:
    """How many clamps there are in the shop; None where none are listed."""
    counts = [tool.count for tool in job.shop.tools if isinstance(tool, Clamp)]
    return sum(counts) if counts else None


class _Batch:
    """The steps of a plan as tasks, for so many boxes at a time."""

    def __init__(
        self, made: Plan, own: Mapping[str, Sequence[float]], limit: int | None, sled: Sequence[Task]
    ) -> None:
        job = made.job
        self._made, self._own, self._limit = made, own, limit
        # What is cut on a sled waits until it is tuned.
        self._sled = (sled[-1].id,) if sled else ()
        self._on_sled = {step.id for step in cut_on_it(made)} if sled else set()
        self._done = {step.id for step in made.steps if done_of(job, step.id) >= total_of(step)} | cut_before(
            made
        )
        self._planned = {one.task: moment(one.not_before) for one in job.work.planned}
        dry = {step.id: _dry(job, step) for step in made.steps if step.id in self._done}
        self._dries = {name: when for name, when in dry.items() if when is not None}

    def tasks(self, rows: range, name: str, boxes: int, last: dict[str, tuple[str, ...]]) -> Iterator[Task]:
        """Tasks of some steps; `last` are those each step ended with so far, and is added to."""
        steps = self._made.steps
        for row in rows:
            step = steps[row]
            needs = [one.step for one in step.after]
            if row and "own" in (step.operation, steps[row - 1].operation):
                needs.append(steps[row - 1].id)
            if step.id in self._done:
                continue
            before = tuple(dict.fromkeys(task for one in needs for task in last.get(one, ())))
            if step.id in self._on_sled:
                before = (*before, *self._sled)
            ends: tuple[str, ...] = ()
            for task in _of_step(self._made.job, step, name, self._own, boxes, self._limit):
                waits = [
                    *(self._dries[one] for one in needs if one in self._dries),
                    self._planned.get(task.name),
                ]
                known = [when for when in waits if when is not None]
                yield replace(task, after=before, not_before=max(known) if known else None)
                if task.lot:
                    ends = (*ends, task.id)
                else:
                    before = ends = (task.id,)
            last[step.id] = ends


def _sled_tasks(
    made: Plan, name: str, own: Mapping[str, Sequence[float]], limit: int | None
) -> Iterator[Task]:
    """The making of the sled, where the maker wants it first; it is there once anything was cut on it."""
    job, on_it = made.job, cut_on_it(made) if made.job.work.sled else []
    if not job.work.sled or any(done_of(job, step.id) for step in on_it or made.steps):
        return
    planned = {one.task: moment(one.not_before) for one in job.work.planned}
    for operation, after in MAKING.items():
        clamped, waits = GLUED.get(operation, (0.0, 0.0))
        yield Task(
            f"{name}/{operation}", name, operation, minutes_for(operation, own), waits, clamped,
            min(2, limit or 2) if clamped else 0,
            tuple(f"{name}/{one}" for one in after), whole=bool(clamped), not_before=planned.get(operation),
        )  # fmt: skip


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
    job: Job, step: Step, name: str, own: Mapping[str, Sequence[float]], boxes: int, limit: int | None
) -> Iterator[Task]:
    if step.operation in ("finish", "finish_inside"):
        yield from _coats(job, step, name, minutes_of(step, own, boxes), boxes)
        return
    clamped, waits = GLUED.get(step.operation, (0.0, 0.0))
    around = step.operation in ("glue", "roof_fix")
    whole = step.operation in _WHOLE
    each = min(_clamps(job) if around else 2, limit or _BOX_CLAMPS) if clamped else 0
    at_once = boxes if limit is None or not each else max(1, limit // each)
    if boxes <= at_once:
        took = minutes_of(step, own, boxes)
        yield Task(f"{name}/{step.id}", name, step.id, took, waits, clamped, each * boxes, whole=whole)
        return
    before = None
    for first in range(1, boxes + 1, at_once):
        count = min(at_once, boxes - first + 1)
        took, all_told = minutes_of(step, own, count), minutes_of(step, own, first - 1 + count)
        if before is not None:  # it is set up once
            middle = all_told.middle - before.middle
            took = Minutes(middle, 0.6 * middle, 1.8 * middle, took.entries)
        before = all_told
        yield Task(
            f"{name}/{step.id}/lot{first}", name, step.id, took, waits, clamped, each * count, whole=whole,
            lot=(first, first + count - 1),
        )  # fmt: skip


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
    """How many clamps the glue-up of one box holds."""
    return next(
        (min(tool.count, _BOX_CLAMPS) for tool in job.shop.tools if isinstance(tool, Clamp)), _BOX_CLAMPS
    )
