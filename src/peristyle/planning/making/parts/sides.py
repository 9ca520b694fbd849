"""The box's own sides: from the board to the glued ring."""

from collections.abc import Iterator

from peristyle.model.design import replace
from peristyle.planning.making.ends import bevels, crosscuts, mitered_ends
from peristyle.planning.making.kind import Kind, Phase, Settled
from peristyle.planning.making.parts.walls import walls
from peristyle.planning.making.piece import Piece
from peristyle.planning.making.ripping import ids, piece_rips, planing, rips, trimming
from peristyle.planning.making.step import Step, make


def _pieces(plan: Settled) -> Iterator[Piece]:
    front, closing = plan.job.design.form.front, plan.job.closing
    for number, piece in enumerate(walls(plan.ring, "side", "board", 0.0)):
        says = (
            *(("side.front",) if number == front else ()),
            *(("side.closes",) if number == closing else ()),
        )
        yield replace(piece, says=says)


def _steps(plan: Settled) -> Iterator[tuple[Phase, Step]]:
    job, ring, order = plan.job, plan.ring, plan.wrap.order
    for step in (*planing(job, ring), *rips(job, ring, "side")):
        yield "strip", step
    yield "ends", trimming(job, ring)
    ends = (
        *crosscuts(job, ring, order, "side"),
        *piece_rips(job, ring, "side"),
        *mitered_ends(job, ring, "side"),
    )
    for step in ends:
        yield "ends", step
    for step in bevels(job, ring, order, "side"):
        yield "bevels", step
    sides = ids(ring.sides, "side")
    yield "dry", make("dry_fit", sides, tool="tape", says=("dry_fit",))
    held = tuple(f"panel.{panel.name}" for panel in plan.section.panels)
    yield "glue", make(
        "glue", (*sides, *held), tool="clamps", says=("glue",), numbers={"panels": float(len(held))},
    )  # fmt: skip


SIDES = Kind("side", _pieces, steps=_steps)
