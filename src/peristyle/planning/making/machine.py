"""What the machine that makes the bevels can do, and what it cannot."""

from collections.abc import Iterator

from peristyle.core.conventions import tilt_setting
from peristyle.model.job import Job
from peristyle.planning.findings import Finding, Fix, Place
from peristyle.planning.form.ring import RingPlan
from peristyle.planning.making.setting import SAME_SETTING
from peristyle.reference.machines import USUAL_ANGLES


def creep_of(job: Job, ring: RingPlan) -> float:
    """What is left on each end to creep up on (mm): nothing where the bevel is made without a length stop.

    Source: common practice; a bit, a block or a tall fence takes the piece at its final length.
    """
    return 0.0 if at_length(job, ring) else job.stock.board.creep_mm


def at_length(job: Job, ring: RingPlan) -> bool:
    """Whether pieces come to their bevel mitered and at their final length: there is no stop for it and no swing."""
    return job.shop.saw.kind in USUAL_ANGLES or _on_end(job, ring)


def _on_end(job: Job, ring: RingPlan) -> bool:
    """Whether any bevel is past the saw's stop, so that the piece stands on end for it."""
    if job.shop.saw.kind in USUAL_ANGLES:
        return False
    stop = job.shop.saw.stop_deg
    return any(tilt_setting(c.bevel_deg, stop)[1] for s in ring.sides for c in (s.start, s.end))


def machine_findings(job: Job, ring: RingPlan) -> Iterator[Finding]:
    """Bevels past the saw's stop, and bevels a bit or block does not give."""
    if not ring.sides:
        return
    saw = job.shop.saw
    worst = max((abs(cut.bevel_deg), side.index) for side in ring.sides for cut in (side.start, side.end))
    place = Place("side", worst[1], job.design.side_count)
    yield from _direct_findings(job, ring)
    if saw.stops_deg:
        for bevel in sorted({round(abs(c.bevel_deg), 6) for s in ring.sides for c in (s.start, s.end)}):
            nearest = min(saw.stops_deg, key=lambda given: abs(given - bevel))
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
    numbers = {"bevel_deg": worst[0], "tilt_deg": tilt, "stop_deg": saw.stop_deg}
    if saw.kind == "miter_saw":
        leans = lean > SAME_SETTING
        fix = Fix("table_saw", (("shop.saw.kind", "table_saw"),))
        kind = "leaning" if leans else "miter_saw"
        yield Finding("bevel_past_stop", "stop" if leans else "caution", place, numbers, (fix,), {}, kind)
        return
    yield Finding("bevel_past_stop", "caution", place, numbers)


def _direct_findings(job: Job, ring: RingPlan) -> Iterator[Finding]:
    """Why pieces cannot be cut off the board by their bevels alone."""
    if job.stock.board.method != "bevel_direct":
        return
    saw = job.shop.saw
    if saw.kind in USUAL_ANGLES:
        why = "saw"
    elif _on_end(job, ring):
        why = "on_edge" if saw.kind == "miter_saw" else "on_end"
    elif not ring.leans_alike:
        why = "unlike"
    elif any(side.start_at_mm > SAME_SETTING for side in ring.sides):
        why = "past"
    else:
        return
    fix = Fix("square_first", (("stock.board.method", "square_first"),))
    yield Finding("direct_cannot_be", "stop", Place("board"), {}, (fix,), {"machine": saw.kind}, why)
