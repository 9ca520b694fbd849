"""The box's own sides: from the board to the glued ring."""

import math
from collections.abc import Iterator
from typing import Final

from peristyle.model.design import replace, side_name
from peristyle.model.tools import BandSaw, Clamp, Thicknesser, named
from peristyle.planning.cutters import cutter, saw_passes
from peristyle.planning.findings import Finding, Fix, Place, reader
from peristyle.planning.form.ring import RingPlan
from peristyle.planning.form.roof import EAVES, from_ridge_mm
from peristyle.planning.making.ends import bevels, crosscuts, method_of, mitered_ends
from peristyle.planning.making.kind import Kind, Phase, Settled
from peristyle.planning.making.parts.dividers import divider_ids, held_first
from peristyle.planning.making.parts.walls import walls
from peristyle.planning.making.piece import Piece
from peristyle.planning.making.ripping import (
    ids,
    leaf_mm,
    letters,
    piece_rips,
    planing,
    rips,
    thinning,
    trim_of,
    trimming,
)
from peristyle.planning.making.setting import SAME_SETTING
from peristyle.planning.making.step import Step, make
from peristyle.planning.making.uprights import upright_steps
from peristyle.planning.stock.laying import SURFACING_MM

_FAR_THICKER_MM: Final = 5.0  # what is thicker by more is resawn, not planed away (common practice)
_MOST_SPANS: Final = 8  # sides of a ring whose distances from one corner are told one by one


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
    if plan.wrap.runs:
        yield from _from_runs(plan)
        yield from _together(plan)
        return
    for step in planing(job, ring):
        yield "strip", step
    if job.stock.board.method == "upright":
        for step in trimming(job, ring, plan.wrap):
            yield "ends", step
        yield from upright_steps(job, ring, plan.wrap)
        yield from _together(plan)
        return
    for step in rips(job, ring, "side"):
        yield "strip", step
    for step in trimming(job, ring, plan.wrap):
        yield "ends", step
    direct = method_of(job, "side") == "bevel_direct"
    ends = (
        *crosscuts(job, ring, order, "side"),
        *(() if direct else thinning(job, ring)),
        *piece_rips(job, ring, "side"),
        *mitered_ends(job, ring, "side"),
    )
    for step in ends:
        yield "ends", step
    for step in bevels(job, ring, order, "side"):
        yield "bevels", step
    for step in thinning(job, ring) if direct else ():
        yield "bevels", step
    yield from _together(plan)


def _from_runs(plan: Settled) -> Iterator[tuple[Phase, Step]]:
    """The sides of a broken wrap: a strip of each board they lie on, and run by run off the strips."""
    job, ring, wrap = plan.job, plan.ring, plan.wrap
    known = {board.name: board for board in job.stock.rack}
    strips: list[Step] = []
    thinner: list[Step] = []
    for name in dict.fromkeys(run.board for run in wrap.runs):
        lying = [ring.sides[i] for run in wrap.runs if run.board == name for i in run.sides]
        part: RingPlan = replace(ring, sides=tuple(sorted(lying, key=lambda side: side.index)))
        board = known.get(name, job.stock.board)
        there = replace(
            job, stock=replace(job.stock, board=replace(board, method="square_first", resaw=False))
        )
        there = there if name else job
        for step in (*planing(there, part), *rips(there, part, "side")):
            names = step.names | {"board": board.name, "sides": letters(lying)}
            strips.append(replace(step, title=f"{step.title}.on", says=("on_board", *step.says), names=names))
        thinner += thinning(there, part)
    for step in strips:
        yield "strip", step
    first = [
        next(run for run in wrap.runs if run.board == name)
        for name in dict.fromkeys(r.board for r in wrap.runs)
    ]
    for run in first:
        if run.start_mm > 0.0:
            board = known.get(run.board, job.stock.board)
            yield "ends", trim_of(job, run, ring, "trim", {"board": board.name})
    stops: dict[tuple[int, ...], int] = {}
    for run in wrap.runs:
        if run not in first and run.skip_mm > 0.0:
            yield "ends", trim_of(job, run, ring, "trim.away", {"side": ring.sides[run.sides[0]].name})
        for step in crosscuts(job, ring, run.sides, "side", stops):
            yield "ends", step
    for step in (*thinner, *piece_rips(job, ring, "side"), *mitered_ends(job, ring, "side")):
        yield "ends", step
    for step in bevels(job, ring, wrap.order, "side"):
        yield "bevels", step


def _together(plan: Settled) -> Iterator[tuple[Phase, Step]]:
    """The finished sides brought together: dry, then with glue."""
    ring = plan.ring
    sides = ids(ring.sides, "side")
    across, lengths = _across(ring)
    lines, lie = _eaves(ring)
    yield "dry", make(
        "dry_fit", sides, tool="tape", says=(*lines, "dry_fit"), numbers=lengths | lie, names=across,
    )  # fmt: skip
    # A lid that slides in a groove is cut to the glued box.
    grooved = {groove.panel for groove in plan.section.grooves if groove.seat == "groove"} - {"lid"}
    held = tuple(f"panel.{panel.name}" for panel in plan.section.panels if panel.name in grooved)
    with_it = divider_ids(plan.dividers) if not plan.dividers.in_liner and held_first(plan) else ()
    yield "glue", _glued(plan, (*sides, *held, *with_it), len(held), dividers=bool(with_it))


def _glued(plan: Settled, pieces: tuple[str, ...], panels: int, *, dividers: bool) -> Step:
    """The glue-up, held as the maker holds it: with tape, where the clamps chosen cannot."""
    chosen = named(plan.job.shop.tools, plan.job.shop.uses.glue)
    clamp = chosen if isinstance(chosen, Clamp) and clamp_trouble(plan.ring, chosen) is None else None
    holds = clamp.holds if clamp else "tape"
    sides = plan.ring.sides
    dadoes = bool(plan.dividers.pieces) and not plan.dividers.in_liner
    aslant = any(finding.code == "panel_rolled_in" for finding in plan.section.findings)
    across, lengths = _across(plan.ring)
    lines, lie = _eaves(plan.ring)
    alike = {round(side.outside_mm, 3): side for side in reversed(sides)}
    numbers = {"panels": float(panels), "round_mm": math.fsum(side.outside_mm for side in sides)}
    numbers |= {f"caul.{side.name}_mm": side.outside_mm for side in reversed(alike.values())}
    return make(
        "glue", pieces, tool="clamps" if clamp else "tape", tool_name=clamp.name if clamp else "",
        says=(
            "glue.lay_out", *(("glue.ply",) if _of_ply(plan) else ()),
            *(("glue.dividers",) if dividers else ("glue.dadoes",) if dadoes else ()),
            "glue.corners", *((*lines, "glue.eaves") if lines else _closed(plan, holds)),
            *(("glue.aslant",) if aslant else ()), "glue.slips", "glue.overnight",
        ), numbers=numbers | lengths | lie, names=across,
    )  # fmt: skip


def _eaves(ring: RingPlan) -> tuple[tuple[str, ...], dict[str, float]]:
    """Where a roof laid on its walls lies, and its numbers: none of a ring whose corners all are mitered."""
    if not any(corner.lapped for corner in ring.corners):
        return (), {}
    first, second = from_ridge_mm(ring.slabs, 0.0, inner=True).values()
    alike = abs(first - second) < SAME_SETTING
    return ("eaves.lines" if alike else "eaves.lines.unlike",), {"first_mm": first, "second_mm": second}


def _closed(plan: Settled, holds: str) -> tuple[str, ...]:
    """How the ring is brought together: a spline does not let a joint fold shut."""
    if not plan.splines.splines:
        return (f"glue.{holds}",)
    return ("glue.splines", "glue.splines.tape" if holds == "tape" else f"glue.{holds}")


def _of_ply(plan: Settled) -> bool:
    """True if a panel in the grooves is plywood, which may be glued in."""
    section = plan.job.design.section
    return any(panel and panel.sheet and panel.seat == "groove" for panel in (section.bottom, section.top))


def _across(ring: RingPlan) -> tuple[dict[str, str], dict[str, float]]:
    """What is measured to see whether a ring is true: its names and numbers for the words."""
    key, numbers = _measured(ring)
    names = {"across": key, "from_corner": ring.corners[-1].name if ring.corners else ""}
    lapped = [corner for corner in ring.corners if corner.lapped]
    return names | {f"top.{corner.name}": side_name(EAVES[corner.index][0]) for corner in lapped}, numbers


def _measured(ring: RingPlan) -> tuple[str, dict[str, float]]:
    """The key of what is measured to see whether a ring is true, and what it should be where it is not all alike."""
    count, points = len(ring.sides), ring.reached
    if count % 2:
        middles = [
            ((x0 + x1) / 2, (y0 + y1) / 2)
            for (x0, y0), (x1, y1) in zip(points, points[1:] + points[:1], strict=True)
        ]
        far = [math.dist(points[i], middles[(i + count // 2) % count]) for i in range(count)]
        if max(far) - min(far) < SAME_SETTING:
            return "corner_to_side", {}
        return _spans(ring) if count > 3 else ("triangle", {})
    far = [math.dist(points[i], points[i + count // 2]) for i in range(count // 2)]
    alike = max(far) - min(far) < SAME_SETTING
    if count == 4:
        return ("diagonals", {}) if alike else ("diagonals_unlike", {"first_mm": far[0], "second_mm": far[1]})
    return ("corners_across", {}) if alike else _spans(ring)


def _spans(ring: RingPlan) -> tuple[str, dict[str, float]]:
    """From one corner to every other that is not its neighbour: with the sides that holds the whole ring."""
    count, points = len(ring.sides), ring.reached
    if count > _MOST_SPANS:
        return "as_planned", {}
    return "spans", {
        f"span.{ring.corners[i].name}_mm": math.dist(points[-1], points[i]) for i in range(1, count - 2)
    }


def _stock_findings(plan: Settled) -> Iterator[Finding]:
    """What making the board ready asks of it."""
    board, fmt = plan.job.stock.board, reader(plan.job.design)
    tool = named(plan.job.shop.tools, plan.job.shop.uses.plane)
    thick = max((side.thickness_mm for side in plan.ring.sides), default=0.0)
    planed = board.thickness_mm > thick
    if (
        isinstance(tool, Thicknesser)
        and planed
        and thick
        and tool.snipe_mm > board.end_trim_mm + board.shift_mm
    ):
        trim = fmt.up(tool.snipe_mm)
        numbers = {"snipe_mm": tool.snipe_mm, "trim_mm": board.end_trim_mm}
        fix = Fix("end_trim", (("stock.board.end_trim_mm", trim),), {"trim_mm": trim})
        yield Finding("snipe_in_strip", "caution", Place("board"), numbers, (fix,), {"cutter": tool.name})
    book = board.method == "book"
    over = board.thickness_mm - thick
    if (
        thick
        and over > _FAR_THICKER_MM
        and not (board.resaw or book)
        and leaf_mm(plan.job, thick) is not None
    ):
        numbers = {"over_mm": over, "thick_mm": thick, "board_mm": board.thickness_mm}
        fix = Fix(
            "resaw_leaves", (("stock.board.resaw", True),), {"leaf_mm": leaf_mm(plan.job, thick) or 0.0}
        )
        yield Finding("stock_far_thicker", "note", Place("board"), numbers, (fix,))
    sawn = cutter(plan.job, "resaw") if board.resaw or book else None
    chosen = named(plan.job.shop.tools, sawn.name) if sawn and sawn.name else None
    low = chosen.high_mm < board.width_mm if isinstance(chosen, BandSaw) else chosen is None
    if sawn is not None and low and (chosen is not None or not saw_passes(plan.job)):
        reach = chosen.high_mm if isinstance(chosen, BandSaw) else 2 * plan.job.shop.table.blade_high_mm
        numbers = {"wide_mm": board.width_mm, "reach_mm": reach}
        way = (("stock.board.method", "square_first"),) if book else (("stock.board.resaw", False),)
        fix = Fix("square_first" if book else "no_resaw", way)
        kind = "" if chosen is None else "band_saw"
        yield Finding("resaw_too_high", "stop", Place("board"), numbers, (fix,), {"cutter": sawn.name}, kind)
    if (board.resaw or book) and thick and leaf_mm(plan.job, thick) is None:
        needed = 2 * (thick + SURFACING_MM) + cutter(plan.job, "resaw").least_mm
        numbers = {"needed_mm": needed, "thickness_mm": board.thickness_mm}
        fix = Fix("no_resaw", (("stock.board.resaw", False),))
        if book:
            fix = Fix("square_first", (("stock.board.method", "square_first"),))
        yield Finding("resaw_too_thin", "stop", Place("board"), numbers, (fix,))


def clamp_trouble(ring: RingPlan, clamp: Clamp) -> tuple[str, dict[str, float]] | None:
    """Why these clamps cannot hold this ring while it is glued: the key of the words, and their numbers.

    A band goes once round; bars press pairs of parallel sides, two for each pair (common practice).
    """
    sides = ring.sides
    if clamp.holds == "band":
        around = math.fsum(max(side.outside_mm, side.outside_top_mm) for side in sides)
        return ("band_short", {"round_mm": around}) if around > clamp.opens_mm else None
    if clamp.holds == "corner":
        return None if clamp.count >= len(sides) else ("bar_few", {"needed": float(len(sides))})
    square = len(sides) == 4 and all(abs(corner.interior_deg - 90.0) < 1.0 for corner in ring.corners)
    if not square:
        return "bar_shape", {}
    across = max(max(side.outside_mm, side.outside_top_mm) for side in sides)
    if across > clamp.opens_mm:
        return "bar_short", {"across_mm": across}
    return None if clamp.count >= len(sides) else ("bar_few", {"needed": float(len(sides))})


def _findings(plan: Settled) -> Iterator[Finding]:
    """Clamps that cannot hold the glue-up, a planer's snipe in the strip, a board too thin for two leaves."""
    yield from _stock_findings(plan)
    clamp = named(plan.job.shop.tools, plan.job.shop.uses.glue)
    if not isinstance(clamp, Clamp) or not plan.ring.sides:
        return
    trouble = clamp_trouble(plan.ring, clamp)
    if trouble is not None:
        why, numbers = trouble
        fix = Fix("use_tape", (("shop.uses.glue", ""),))
        yield Finding("clamps_cannot", "caution", Place("ring"), numbers, (fix,), {"cutter": clamp.name}, why)


SIDES = Kind("side", _pieces, steps=_steps, findings=_findings)
