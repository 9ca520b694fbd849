"""The maker's own order: steps moved, left out and added, as far as one may come before another."""

from collections.abc import Sequence
from typing import Final, NamedTuple

from peristyle.model.design import replace
from peristyle.model.job import OwnStep, Work
from peristyle.planning.making.step import Step

# What can be left undone and the box still comes out as planned.
OPTIONAL: Final = (
    "mark", "try_groove", "try_bevel", "dry_fit", "finish_inside", "rough_sand", "true_lid", "level", "finish",
)  # fmt: skip


class Refused(NamedTuple):
    """Why a step cannot stand there: the step it must come after, or before, and the key of why."""

    first: Step
    then: Step
    why: str


def arranged(steps: Sequence[Step], work: Work) -> tuple[Step, ...]:
    """The steps in the maker's order. What cannot be (any more) is passed over."""
    if not (work.moved or work.left_out or work.own):
        return tuple(steps)
    out = {step.id for step in steps if step.id in work.left_out and step.operation in OPTIONAL}
    left = [_without(step, out) for step in steps if step.id not in out]
    for own in work.own:
        left = _put_in(left, _own(own), own.before)
    for move in work.moved:
        found = moved(left, move.step, move.before)
        left = left if isinstance(found, Refused) else list(found)
    return tuple(left)


def _without(step: Step, out: set[str]) -> Step:
    return replace(step, after=tuple(a for a in step.after if a.step not in out)) if step.after else step


def _own(own: OwnStep) -> Step:
    """A step of the maker's, in the maker's own words."""
    return Step(
        id=own.id, operation="own", part="box", tool="by_hand", pieces=(), makes=(), lies="flat", settings=(),
        passes=1, title="own", says=("own",) if own.text else ("own.bare",), numbers={},
        names={"title": own.title, "text": own.text},
        cautions=("manual",),
    )  # fmt: skip


def _put_in(steps: Sequence[Step], step: Step, before: str) -> list[Step]:
    at = next((n for n, other in enumerate(steps) if other.id == before), len(steps))
    return [*steps[:at], step, *steps[at:]]


def moved(steps: Sequence[Step], step_id: str, before: str) -> tuple[Step, ...] | Refused:
    """The steps with one moved right before another (last of all where none is named), or why that cannot be.

    As they are where either is not there (any more).
    """
    own = next((step for step in steps if step.id == step_id), None)
    if own is None or before == step_id or (before and all(step.id != before for step in steps)):
        return tuple(steps)
    made = _put_in([step for step in steps if step is not own], own, before)
    at = {step.id: number for number, step in enumerate(made)}
    for step in made:
        for after in step.after:
            if at.get(after.step, -1) > at[step.id]:
                first = next(other for other in made if other.id == after.step)
                return Refused(first, step, after.why)
    return tuple(made)


def may_move(steps: Sequence[Step], step_id: str, before: str) -> Refused | None:
    """Why a step cannot be done right before another, None where it can."""
    found = moved(steps, step_id, before)
    return found if isinstance(found, Refused) else None


def may_leave_out(steps: Sequence[Step], step_id: str) -> bool:
    """Whether the box is made without a step."""
    return any(step.id == step_id and step.operation in (*OPTIONAL, "own") for step in steps)
