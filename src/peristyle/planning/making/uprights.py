"""Sides with the grain upright: strips ripped from the board's width, bevelled along their edges, cut to height."""

from collections.abc import Iterator
from typing import Final

from peristyle.core.conventions import tilt_setting
from peristyle.model.job import Job
from peristyle.planning.cutters import cutter, the_saw
from peristyle.planning.form.ring import RingPlan, SidePlan
from peristyle.planning.making.kind import Phase
from peristyle.planning.making.ripping import ids, letters, thinning, together
from peristyle.planning.making.setting import SAME_SETTING, End, same, stop, tilt, width
from peristyle.planning.making.step import Step, make
from peristyle.planning.stock.laying import strips_of
from peristyle.planning.stock.wrap import WrapPlan

_ENDS: Final[tuple[End, End]] = ("start", "end")


def upright_steps(job: Job, ring: RingPlan, wrap: WrapPlan) -> Iterator[tuple[Phase, Step]]:
    """Strips, their bevels, and the heights crosscut from them."""
    strips = len([p for p in wrap.pieces if p.start_mm == wrap.pieces[0].start_mm])
    sides = [ring.sides[index] for index in wrap.order]
    assert strips in strips_of(wrap.order, ring.sides)
    for step in _strips(job, sides, strips, wrap):
        yield "ends", step
    for step in thinning(job, ring):
        yield "ends", step
    for end in _ENDS:
        for step in _bevels(job, sides, end, wrap.creep_mm):
            yield "bevels", step
    yield "bevels", _heights(job, ring, sides)


def _strips(job: Job, sides: list[SidePlan], strips: int, wrap: WrapPlan) -> Iterator[Step]:
    """The strips off the straight edge one after the other, square, each as wide as its side is long; those that are
    all alike at one setting.
    """
    long = wrap.rows * (sides[0].height_mm + cutter(job, "crosscut").least_mm)
    low, creep = job.stock.board.low_mm, wrap.creep_mm
    wide = [_wide(side) + 2 * creep for side in sides[:strips]]
    together_at_once = strips > 1 and max(wide) - min(wide) < SAME_SETTING
    for number in range(1 if together_at_once else strips):
        own = sides if together_at_once else sides[number::strips]
        says = ["strips.all" if together_at_once else "strips", *(("strips.creep",) if creep else ())]
        says += ["strips.low"] if number == 0 and low else []
        says += ["rip.band_saw"] if cutter(job, "rip").tool == "band_saw" else []
        yield make(
            "strips", ids(own, "side"), "all" if together_at_once else str(number + 1), lies="show_up",
            cutter=cutter(job, "rip"), settings=(width(wide[number]),), says=says,
            title="strips.all" if together_at_once else "strips", passes=strips if together_at_once else 1,
            numbers={
                "strip": float(number + 1), "strips": float(strips), "long_mm": long, "creep_mm": creep, "low_mm": low,
            },
            names={"sides": letters(own)}, short=job.stock.board.length_mm < job.shop.saw.least_mm,
        )  # fmt: skip


def _wide(side: SidePlan) -> float:
    """The width of a side's strip, square: that of its longer face."""
    return side.outside_mm + sum(max(0.0, -side.back_mm(cut)) for cut in (side.start, side.end))


def _bevels(job: Job, sides: list[SidePlan], end: End, creep: float) -> Iterator[Step]:
    """One long edge of every strip, those of one bevel and width together."""
    groups: dict[tuple[int, ...], list[SidePlan]] = {}
    for side in sides:
        cut = side.start if end == "start" else side.end
        if abs(cut.bevel_deg) >= SAME_SETTING:
            groups.setdefault(same(cut.bevel_deg, side.outside_mm if end == "end" else 0.0), []).append(side)
    for members in groups.values():
        side = members[0]
        cut = side.start if end == "start" else side.end
        angle, _past = tilt_setting(cut.bevel_deg, job.shop.saw.stop_deg)
        settings = [*tilt(angle, job.shop.saw.step_deg)]
        if end == "end":
            settings.append(width(side.outside_mm))
        says = ["strip_bevel.end" if end == "end" else "strip_bevel.creep" if creep else "strip_bevel.start"]
        yield make(
            "strip_bevel", ids(members, "side"), end, together(members), cutter=the_saw(job, "rip"),
            makes=(f"{name}.{end}" for name in ids(members, "side")), lies="show_up", end=end, settings=settings,
            passes=len(members), says=says, numbers={"bevel_deg": abs(cut.bevel_deg), "creep_mm": creep},
            names={"sides": letters(members), "end": end},
        )  # fmt: skip


def _heights(job: Job, ring: RingPlan, sides: list[SidePlan]) -> Step:
    """All sides crosscut from their strips to one stop."""
    own, high = ids(sides, "side"), ring.height_mm
    return make(
        "heights", own, cutter=cutter(job, "crosscut"), lies="show_up", settings=(stop(high),), passes=len(own),
        makes=(f"{name}.{edge}" for name in own for edge in ("bottom", "top")),
        says=("heights",), names={"sides": letters(sides)}, short=high < job.shop.saw.least_mm,
    )  # fmt: skip
