"""What the machine that makes the bevels can do, and what it cannot."""

from collections.abc import Iterator

from peristyle.core.conventions import tilt_setting
from peristyle.model.design import replace
from peristyle.model.job import Job, MachineKind, Saw
from peristyle.model.tools import MiterSaw, named
from peristyle.planning.findings import Finding, Fix, Place, Severity
from peristyle.planning.form.ring import RingPlan
from peristyle.planning.making.setting import SAME_SETTING
from peristyle.reference.machines import USUAL_ANGLES


def creep_of(job: Job, ring: RingPlan) -> float:
    """What is left on each end to creep up on (mm): nothing where the bevel is made without a length stop.

    Source: common practice; a bit, a block or a tall fence takes the piece at its final length.
    """
    shared = (
        job.stock.board.method == "flip_shared"
    )  # a cut that serves two pieces takes nothing off either again
    return 0.0 if shared or at_length(job, ring) else job.stock.board.creep_mm


def at_length(job: Job, ring: RingPlan) -> bool:
    """Whether pieces come to their bevel mitered and at their final length: there is no stop for it and no swing."""
    return job.shop.saw.kind in USUAL_ANGLES or stands_on_end(job, ring)


def stands_on_end(job: Job, ring: RingPlan) -> bool:
    """Whether any bevel is past the saw's stop, so that the piece stands on end for it."""
    if job.shop.saw.kind in USUAL_ANGLES:
        return False
    stop = job.shop.saw.stop_deg
    return any(tilt_setting(c.bevel_deg, stop)[1] for s in ring.sides for c in (s.start, s.end))


def _nearest(saw: Saw, bevel_deg: float) -> float:
    """Of the angles a bit or a block gives the one that comes nearest."""
    return min(saw.stops_deg, key=lambda given: abs(given - bevel_deg))


def bevels_on(saw: Saw, bevel_deg: float) -> MachineKind:
    """What a bevel is cut on: one that no bit gives is sawn near and shot against a block."""
    given = not saw.stops_deg or abs(_nearest(saw, abs(bevel_deg)) - abs(bevel_deg)) <= saw.step_deg
    return saw.kind if given or saw.kind != "chamfer_bit" else "shooting_board"


def machine_findings(job: Job, ring: RingPlan) -> Iterator[Finding]:
    """Bevels past the saw's stop, and bevels a bit or block does not give."""
    if not ring.sides:
        return
    saw = job.shop.saw
    worst = max((abs(cut.bevel_deg), side.index) for side in ring.sides for cut in (side.start, side.end))
    place = Place("side", worst[1], job.design.side_count)
    yield from _direct_findings(job, ring)
    yield from _short_findings(job, ring)
    yield from _reach_findings(job, ring)
    if saw.stops_deg:
        for bevel in sorted({round(abs(c.bevel_deg), 6) for s in ring.sides for c in (s.start, s.end)}):
            nearest = _nearest(saw, bevel)
            if abs(nearest - bevel) > saw.step_deg:
                numbers = {"bevel_deg": bevel, "nearest_deg": nearest}
                yield Finding("bevel_not_given", "caution", place, numbers, (), {"machine": saw.kind})
        return
    steepest = max(ring.sides, key=lambda side: abs(side.slope_deg))
    lean = abs(steepest.slope_deg)
    if tilt_setting(lean, saw.stop_deg)[1]:
        yield Finding(
            "rip_past_stop",
            "caution",
            Place("side", steepest.index, job.design.side_count),
            {
                "slope_deg": steepest.slope_deg, "lean_deg": lean, "tilt_deg": 90.0 - lean,
                "stop_deg": saw.stop_deg,
            },
            (),
            {"side": steepest.name},
        )  # fmt: skip
    tilt, past = tilt_setting(worst[0], saw.stop_deg)
    if not past:
        return
    high = max(side.rip_mm for side in ring.sides)
    numbers = {
        "bevel_deg": worst[0], "tilt_deg": tilt, "stop_deg": saw.stop_deg, "swing_deg": saw.swing_deg,
        "high_mm": saw.high_mm, "wide_mm": high,
    }  # fmt: skip
    if saw.kind == "miter_saw":
        fix = Fix("table_saw", (("shop.saw.kind", "table_saw"),))
        kind = "leaning" if lean > SAME_SETTING else ""
        kind = kind or ("too_far" if worst[0] > saw.swing_deg else "too_high" if high > saw.high_mm else "")
        severity: Severity = "stop" if kind else "caution"
        yield Finding("bevel_past_stop", severity, place, numbers, (fix,), {}, kind or "miter_saw")
        return
    yield Finding("bevel_past_stop", "caution", place, numbers)


def _reach_findings(job: Job, ring: RingPlan) -> Iterator[Finding]:
    """A crosscut that a miter saw does not swing to, and a side longer than the sled."""
    saw, count = job.shop.saw, job.design.side_count
    tool = named(job.shop.tools, job.shop.uses.crosscut)
    swings = (
        tool.swing_deg if isinstance(tool, MiterSaw) else saw.swing_deg if saw.kind == "miter_saw" else None
    )
    worst = max(ring.sides, key=lambda side: max(abs(side.start.miter_deg), abs(side.end.miter_deg)))
    miter = max(abs(worst.start.miter_deg), abs(worst.end.miter_deg))
    if swings is not None and miter > swings:
        use = "shop.uses.crosscut" if isinstance(tool, MiterSaw) else "shop.saw.kind"
        fix = Fix("table_saw", ((use, "" if isinstance(tool, MiterSaw) else "table_saw"),))
        numbers = {"miter_deg": miter, "swing_deg": swings}
        yield Finding("miter_past_swing", "stop", Place("side", worst.index, count), numbers, (fix,))
    longest = max(ring.sides, key=lambda side: side.stop_mm)
    if saw.kind == "table_saw" and saw.sled_mm and longest.stop_mm > saw.sled_mm:
        numbers = {"stop_mm": longest.stop_mm, "sled_mm": saw.sled_mm}
        place = Place("side", longest.index, count)
        yield Finding("side_past_sled", "caution", place, numbers, (), {"side": longest.name})


def _short_findings(job: Job, ring: RingPlan) -> Iterator[Finding]:
    """Pieces too short to be held at a miter saw, where they could be beveled off the long board instead."""
    saw = job.shop.saw
    shortest = min(ring.sides, key=lambda side: side.stop_mm)
    if (
        saw.kind != "miter_saw"
        or job.stock.board.method != "square_first"
        or shortest.stop_mm >= saw.least_mm
    ):
        return
    direct = replace(job, stock=replace(job.stock, board=replace(job.stock.board, method="bevel_direct")))
    if any(_direct_findings(direct, ring)):
        return
    fix = Fix("bevel_direct", (("stock.board.method", "bevel_direct"),))
    numbers = {"stop_mm": shortest.stop_mm, "least_mm": saw.least_mm}
    place = Place("side", shortest.index, job.design.side_count)
    yield Finding("short_on_miter_saw", "note", place, numbers, (fix,), {"side": shortest.name})


def _direct_findings(job: Job, ring: RingPlan) -> Iterator[Finding]:
    """Why pieces cannot be cut off the board by their bevels alone."""
    if job.stock.board.method != "bevel_direct":
        return
    saw = job.shop.saw
    if saw.kind in USUAL_ANGLES:
        why = "saw"
    elif stands_on_end(job, ring):
        why = "on_edge" if saw.kind == "miter_saw" else "on_end"
    elif not ring.leans_alike:
        why = "unlike"
    elif any(side.start_at_mm > SAME_SETTING for side in ring.sides):
        why = "past"
    else:
        return
    fix = Fix("square_first", (("stock.board.method", "square_first"),))
    yield Finding("direct_cannot_be", "stop", Place("board"), {}, (fix,), {"machine": saw.kind}, why)
