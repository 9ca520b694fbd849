"""The steps in the order they are done, each with what must be done before it."""

from collections.abc import Iterator, Sequence
from typing import Final

from peristyle.model.design import replace
from peristyle.planning.making.kind import PHASES, Kind, Settled
from peristyle.planning.making.step import After, Step

# What comes before an operation on the same part; the last such step there is. Why is said by the pair of them.
_AFTER: Final[dict[str, tuple[str, ...]]] = {
    "rip": ("plane", "crosscut"),
    "groove": ("rip",),
    "trim": ("rip",),
    "crosscut": ("trim", "groove"),
    "bevel": ("crosscut", "trim", "groove"),
    "dado": ("bevel",),
    "opening": ("bevel", "lid"),
    "dry_fit": ("bevel", "dado", "opening"),
    "panel": ("dry_fit", "segment_glue"),
    "segment_glue": ("segment",),
    "glue": ("panel", "dry_fit"),
    "keys": ("glue",),
    "lid": ("keys", "glue"),
    "liner_fit": ("lid", "bevel"),
    "halve": ("divider",),
    "foot": ("bevel",),
    "foot_glue": ("foot", "lid", "glue"),
}


def plan_steps(plan: Settled, kinds: Sequence[Kind]) -> tuple[Step, ...]:
    """The whole sequence; nothing where there is no ring."""
    if not plan.ring.sides:
        return ()
    phases: dict[str, list[Step]] = {phase: [] for phase in PHASES}
    for kind in kinds:
        for phase, step in kind.steps(plan):
            phases[phase].append(step)
    return tuple(_in_order([step for steps in phases.values() for step in steps]))


def _in_order(steps: list[Step]) -> Iterator[Step]:
    """Each with an id of its own, and what must be done before it."""
    done: dict[tuple[str, str], list[Step]] = {}
    taken: dict[str, int] = {}
    for step in steps:
        taken[step.id] = taken.get(step.id, 0) + 1
        own = step.id if taken[step.id] == 1 else f"{step.id}.{taken[step.id]}"
        placed = replace(step, id=own, after=tuple(_before(step, done)))
        done.setdefault((step.part, step.operation), []).append(placed)
        yield placed


def _before(step: Step, done: dict[tuple[str, str], list[Step]]) -> Iterator[After]:
    """What comes before: of each such operation the steps on the same pieces, or else the last."""
    for operation in _AFTER.get(step.operation, ()):
        part = "segment" if operation == "segment_glue" else "box" if operation == "lid" else step.part
        before = done.get((part, operation), [])
        if operation == "panel" and step.operation == "glue":
            shared = before
        else:
            shared = [b for b in before if set(b.pieces) & set(step.pieces)] or before[-1:]
        for other in shared:
            yield After(other.id, f"{step.operation}.{operation}")
