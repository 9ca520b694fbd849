"""Steps that are done already, held against what the plan says now."""

from collections.abc import Iterator
from typing import Final

from peristyle.model.design import replace
from peristyle.model.job import Job
from peristyle.planning.making.step import Step
from peristyle.planning.plan import Plan

_SAME: Final = 0.005  # mm or degrees: what nobody can set apart

_COUNTED: Final = (
    "crosscut",
    "bevel",
    "dado",
    "keys",
    "lid",
    "divider",
    "halve",
    "segment",
    "foot",
    "groove",
    "block",
    "rabbet",
)  # pieces or passes are told one by one


def values_of(step: Step) -> tuple[float, ...]:
    """The values of all its settings, in their order."""
    return tuple(setting.value for setting in step.settings)


def as_done(job: Job, step: Step) -> Step | None:
    """The step with the settings it was done at, where the plan has others by now; None where nothing changed."""
    done = next((one for one in job.progress if one.step == step.id and one.count), None)
    if done is None or not done.values or len(done.values) != len(step.settings):
        return None
    if all(abs(a - b) <= _SAME for a, b in zip(done.values, values_of(step), strict=True)):
        return None
    settings = tuple(
        replace(setting, value=value) for setting, value in zip(step.settings, done.values, strict=True)
    )
    changed: Step = replace(step, settings=settings)
    return changed


def done_and_gone(plan: Plan, job: Job) -> Iterator[str]:
    """The ids of steps that were done and are no longer in the plan."""
    there = {step.id for step in plan.steps}
    return (one.step for one in job.progress if one.count and one.step not in there)


def total_of(step: Step) -> int:
    """How many pieces or passes a step has to be counted."""
    return step.passes if step.operation in _COUNTED else 1
