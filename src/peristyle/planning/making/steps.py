"""The steps in the order they are done, each with what must be done before it."""

from collections.abc import Iterator
from typing import Final

from peristyle.model.design import replace
from peristyle.model.job import Job
from peristyle.planning.divider_plan import DividersPlan
from peristyle.planning.keys import KeysPlan
from peristyle.planning.liner import LinerPlan
from peristyle.planning.making.assembly import assembly
from peristyle.planning.making.ends import bevels, crosscuts, mitered_ends
from peristyle.planning.making.grooving import dado_steps, groove_steps
from peristyle.planning.making.inside import divider_steps, liner_steps
from peristyle.planning.making.ripping import piece_rips, planing, rips, trimming
from peristyle.planning.making.step import After, Step
from peristyle.planning.ring import RingPlan
from peristyle.planning.section import SectionPlan
from peristyle.planning.wrap import WrapPlan

# What comes before an operation on the same part; the last such step there is. Why is said by the pair of them.
_AFTER: Final[dict[str, tuple[str, ...]]] = {
    "rip": ("plane", "crosscut"),
    "groove": ("rip",),
    "trim": ("rip",),
    "crosscut": ("trim", "groove"),
    "bevel": ("crosscut", "trim", "groove"),
    "dado": ("bevel",),
    "dry_fit": ("bevel", "dado"),
    "panel": ("dry_fit", "segment_glue"),
    "segment_glue": ("segment",),
    "glue": ("panel", "dry_fit"),
    "keys": ("glue",),
    "lid": ("keys", "glue"),
    "liner_fit": ("lid", "bevel"),
    "halve": ("divider",),
}


def plan_steps(
    job: Job,
    ring: RingPlan,
    section: SectionPlan,
    wrap: WrapPlan,
    keys: KeysPlan,
    liner: LinerPlan | None,
    dividers: DividersPlan,
) -> tuple[Step, ...]:
    """The whole sequence; nothing where there is no ring."""
    if not ring.sides:
        return ()
    in_strip, grooves = ring.leans_alike, tuple(groove_steps(section, ring))
    steps = [
        *planing(job, ring),
        *rips(job, ring, "side"),
        *(grooves if in_strip else ()),
        trimming(job, ring),
        *crosscuts(job, ring, wrap.order, "side"),
        *piece_rips(job, ring, "side"),
        *mitered_ends(job, ring, "side"),
        *(() if in_strip else grooves),
        *bevels(job, ring, wrap.order, "side"),
        *(() if dividers.in_liner else dado_steps(job, ring, dividers, "side")),
        *assembly(job.design, ring, section, keys),
        *(liner_steps(job, liner, wrap.order, dividers) if liner else ()),
        *divider_steps(job, dividers),
    ]
    return tuple(_in_order(steps))


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
