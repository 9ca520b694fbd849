"""A liner: a mitered box within the box."""

from collections.abc import Iterator, Sequence
from typing import Final

from peristyle.core.tolerance import DEFAULT
from peristyle.model.job import Job
from peristyle.planning.inside.liner import LinerPlan, liner_design
from peristyle.planning.inside.mouth import liner_over_mm
from peristyle.planning.making.ends import bevels, crosscuts, mitered_ends
from peristyle.planning.making.kind import Kind, Phase, Settled
from peristyle.planning.making.parts.dividers import held_first
from peristyle.planning.making.parts.walls import walls
from peristyle.planning.making.piece import Piece
from peristyle.planning.making.ripping import ids, piece_rips, rips
from peristyle.planning.making.step import Step, make

_DROPS_MM: Final = 0.3  # with less room on each side a liner does not fall in by itself (common practice)


def _pieces(plan: Settled) -> Iterator[Piece]:
    liner = plan.liner
    if liner is not None and liner.ring.stands:
        yield from walls(liner.ring, "liner", "liner board", liner.base_mm)


def _steps(plan: Settled) -> Iterator[tuple[Phase, Step]]:
    if plan.liner is not None:
        for step in liner_steps(plan.job, plan.liner, plan.wrap.order):
            yield "inside", step
        yield from _fitted(plan, plan.liner)


def liner_steps(job: Job, liner: LinerPlan, order: Sequence[int]) -> Iterator[Step]:
    """The liner's own sides, from a board of its own, and fitting it into the box."""
    ring, part, own = liner.ring, job.design.inside.liner, liner_design(job)
    if not ring.sides or part is None:
        return
    yield from rips(own, ring, "liner")
    yield from crosscuts(own, ring, order, "liner")
    yield from piece_rips(own, ring, "liner")
    yield from mitered_ends(own, ring, "liner")
    yield from bevels(own, ring, order, "liner")


def _fitted(plan: Settled, liner: LinerPlan) -> Iterator[tuple[Phase, Step]]:
    part = plan.job.design.inside.liner
    if not liner.ring.sides or part is None:
        return
    yield "fitting", make(
        "finish_inside", ids(liner.ring.sides, "liner"), part="liner", tool="by_hand", title="finish_inside.liner",
        says=("finish_inside.liner",),
    )  # fmt: skip
    yield "fitting", make(
        "liner_fit", ids(liner.ring.sides, "liner"), part="liner", tool="tape",
        says=_said(plan, part.gap_mm),
        numbers={"gap_mm": part.gap_mm, "room_mm": abs(liner.headroom_mm), "proud": float(liner.headroom_mm < 0)},
        names={"rim": "top panel" if plan.job.design.section.top else "rim"},
    )  # fmt: skip


def _said(plan: Settled, gap_mm: float) -> tuple[str, ...]:
    """How it goes in: as a ring, or piece by piece where that does not pass the mouth."""
    with_it = ("liner_fit.dividers",) if plan.dividers.in_liner and held_first(plan) else ()
    if liner_over_mm(plan.job.design, plan.ring, plan.section, plan.liner) > DEFAULT.length_mm:
        return ("liner_fit.pieces", *with_it)
    goes_in = "liner_fit.drops" if gap_mm >= _DROPS_MM else "liner_fit.pushed"
    stays = "liner_fit.loose" if plan.job.design.section.false_floor else "liner_fit.stays"
    return (goes_in, "liner_fit", stays, *with_it)


LINER = Kind("liner", _pieces, steps=_steps)
