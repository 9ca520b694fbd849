"""The strip between body and lid: ripped, mitered, glued on with the lid as its clamp, and flushed."""

from collections.abc import Iterator
from typing import Final

from peristyle.model.design import replace
from peristyle.planning.findings import Finding
from peristyle.planning.making.ends import bevels, crosscuts, mitered_ends
from peristyle.planning.making.kind import Kind, Phase, Settled
from peristyle.planning.making.parts.walls import walls
from peristyle.planning.making.piece import Piece
from peristyle.planning.making.ripping import ids, piece_rips, rips
from peristyle.planning.making.step import Step, make
from peristyle.planning.section.strip import StripPlan, plan_strip, strip_findings
from peristyle.reference.cautions import cautions_of

_SLIVER_MM: Final = 5.0  # a strip thinner than this is mitered by hand (common practice)
_BLOCK: Final = "shooting_board"


def _made(plan: Settled) -> StripPlan | None:
    return plan_strip(plan.job, plan.ring, plan.section) if plan.job.design.section.strip else None


def _pieces(plan: Settled) -> Iterator[Piece]:
    strip = _made(plan)
    if strip is not None and strip.ring.stands:
        yield from walls(strip.ring, "strip", "strip", strip.base_mm)


def _steps(plan: Settled) -> Iterator[tuple[Phase, Step]]:
    strip, own = _made(plan), plan.job.design.section.strip
    if strip is None or own is None or not strip.ring.sides:
        return
    ring, order = strip.ring, plan.wrap.order
    for step in (
        *rips(strip.job, ring, "strip"), *crosscuts(strip.job, ring, order, "strip"),
        *piece_rips(strip.job, ring, "strip"), *mitered_ends(strip.job, ring, "strip"),
        *bevels(strip.job, ring, order, "strip"),
    ):  # fmt: skip
        thin = step.operation == "bevel" and own.height_mm < _SLIVER_MM
        yield "seat", _by_hand(step) if thin else step
    names = ids(ring.sides, "strip")
    numbers = {"over_mm": own.over_mm, "high_mm": own.height_mm}
    yield (
        "seat",
        make("strip_glue", names, part="strip", tool="clamps", says=("strip_glue",), numbers=numbers),
    )
    yield (
        "seat",
        make("strip_flush", names, part="strip", tool="by_hand", says=("strip_flush",), numbers=numbers),
    )


def _by_hand(step: Step) -> Step:
    """The bevel of a sliver, on a shooting block: no machine holds it."""
    told = cautions_of(step.operation, _BLOCK, tilted=False, on_end=False, short=False, thin=False)
    return replace(step, tool=_BLOCK, tool_name="", says=("bevel.sliver",), cautions=told)


def _findings(plan: Settled) -> Iterator[Finding]:
    own = plan.job.design.section.strip
    if own is not None:
        yield from strip_findings(plan.job, own, _made(plan))


STRIP = Kind("strip", _pieces, steps=_steps, findings=_findings)
