"""Panels glued up of two leaves of the sides' board that mirror each other, opened like a book.

Both leaves are cut at the same place, beyond the strip of the sides; the edges that lay on each other at the board's
straight edge are glued. Their faces are those the resaw parted (common practice).
"""

from collections.abc import Iterator
from typing import Final, NamedTuple

from peristyle.core.outlines import Outline as Points
from peristyle.core.outlines import bounds, clipped
from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import panel_of
from peristyle.planning.cutters import cutter
from peristyle.planning.findings import Finding, Fix, reader
from peristyle.planning.findings import Place as Where
from peristyle.planning.making.kind import Kind, Phase, Settled
from peristyle.planning.making.piece import Edge, Piece, Place
from peristyle.planning.making.ripping import leaf_mm
from peristyle.planning.making.setting import stop, thickness, width
from peristyle.planning.making.step import Step, make
from peristyle.planning.section.levels import PanelPlan
from peristyle.planning.stock.laying import SURFACING_MM

OVER_MM: Final = 3.0  # a leaf is cut so much over its half of the panel on each outer edge (common practice)


class Leaves(NamedTuple):
    """Two leaves for a panel: each so long and wide, from `at_mm` along the board on."""

    panel: PanelPlan
    long_mm: float
    wide_mm: float
    at_mm: float


def _leaves(plan: Settled) -> list[Leaves]:
    kerf, at, found = cutter(plan.job, "crosscut").least_mm, plan.wrap.end_mm, []
    for panel in plan.section.panels:
        part = panel_of(plan.job.design, panel.name)
        if part is None or not part.leaves or panel.segments or plan.section.groove(panel.name) is None:
            continue
        long, wide = panel.length_mm + 2 * OVER_MM, panel.width_mm / 2 + OVER_MM
        found.append(Leaves(panel, long, wide, at))
        at += long + kerf
    return found


def _pieces(plan: Settled) -> Iterator[Piece]:
    for leaves in _leaves(plan):
        panel, groove = leaves.panel, plan.section.groove(leaves.panel.name)
        if groove is None:
            continue
        x0, y0, x1, y1 = bounds(panel.outline)
        joint, up = (y0 + y1) / 2, groove.rests_mm + panel.thickness_mm
        for number, low, high in ((1, joint, y1), (2, y0, joint)):
            half = clipped(panel.outline, ((x0, low), (x1, low), (x1, high), (x0, high)))
            face: Points = tuple((x - x0, y - low) for x, y in half)
            yield Piece(
                id=f"leaf.{panel.name}.{number}",
                part="leaf",
                name=f"{panel.name.capitalize()} leaf {number}",
                alike=f"{panel.name} leaf",
                stock=plan.job.stock.board.name,
                thickness_mm=panel.thickness_mm,
                grain_deg=0.0,
                show_face=face,
                inside_face=face,
                edges=(Edge("start", 0.0), Edge("end", 0.0)),
                place=Place((x0, low, up), (1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, -1.0)),
                says=("leaf",),
                numbers={"long_mm": leaves.long_mm, "wide_mm": leaves.wide_mm, "at_mm": leaves.at_mm},
            )


def _steps(plan: Settled) -> Iterator[tuple[Phase, Step]]:
    for leaves in _leaves(plan):
        name: str = leaves.panel.name
        pieces = (f"leaf.{name}.1", f"leaf.{name}.2")
        numbers = {"at_mm": leaves.at_mm, "end_mm": leaves.at_mm + leaves.long_mm}
        yield "panels", make(
            "leaf", pieces, name, part="leaf", makes=pieces, cutter=cutter(plan.job, "rip"), passes=2,
            settings=(stop(leaves.long_mm), width(leaves.wide_mm), thickness(leaves.panel.thickness_mm)),
            says=("leaf",), numbers=numbers, names={"panel": name},
            short=leaves.long_mm < plan.job.shop.saw.least_mm,
        )  # fmt: skip
        yield "panels", make(
            "leaf_glue", pieces, name, part="leaf", tool="clamps", says=("leaf_glue",), names={"panel": name}
        )  # fmt: skip


def _findings(plan: Settled) -> Iterator[Finding]:
    some = _leaves(plan)
    if not some or not plan.ring.sides:
        return
    board, place, fmt = plan.job.stock.board, Where("board"), reader(plan.job.design)
    whole = tuple((f"section.{leaves.panel.name}.leaves", False) for leaves in some)
    one = Fix("panel_whole", whole)
    thick = max(side.thickness_mm for side in plan.ring.sides)
    leaf = leaf_mm(plan.job, thick) if board.resaw or board.method == "book" else None
    if leaf is None:
        fixes = (Fix("resaw", (("stock.board.resaw", True),)), one)
        yield Finding("leaves_not_resawn", "stop", place, {}, fixes)
        return
    for leaves in some:
        names: dict[str, str] = {"panel": leaves.panel.name}
        if leaf - SURFACING_MM < leaves.panel.thickness_mm - DEFAULT.length_mm:
            numbers = {"leaf_mm": leaf - SURFACING_MM, "panel_mm": leaves.panel.thickness_mm}
            yield Finding("leaves_thin", "stop", place, numbers, (one,), names)
        end = leaves.at_mm + leaves.long_mm
        if end > board.length_mm + DEFAULT.length_mm:
            wanted = fmt.up(end)
            longer = Fix("board_length", (("stock.board.length_mm", wanted),), {"length_mm": wanted})
            numbers = {"needed_mm": end, "board_mm": board.length_mm}
            yield Finding("leaves_no_room", "stop", place, numbers, (longer, one), names)
        if leaves.wide_mm + board.low_mm > board.width_mm + DEFAULT.length_mm:
            wanted = fmt.up(leaves.wide_mm + board.low_mm)
            wider = Fix("board_width", (("stock.board.width_mm", wanted),), {"width_mm": wanted})
            numbers = {"needed_mm": leaves.wide_mm + board.low_mm, "board_mm": board.width_mm}
            yield Finding("leaves_narrow", "stop", place, numbers, (wider, one), names)


LEAVES: Final = Kind("leaf", _pieces, steps=_steps, findings=_findings)
