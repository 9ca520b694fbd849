"""What would keep a lid from opening on its hinges, or a screw from holding."""

import math
from collections.abc import Iterator
from typing import Final

from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import Hinges
from peristyle.model.job import Job
from peristyle.planning.findings import Finding, Fix, reader
from peristyle.planning.form.ring import RingPlan
from peristyle.planning.section.hardware import bevel_down_mm, leg_sides, rims_of, run_at, side_of, spots
from peristyle.planning.section.levels import SectionPlan
from peristyle.planning.section.rim_findings import (
    BESIDE_BORE_MM,
    BESIDE_MM,
    LEAST_BESIDE_MM,
    NO_HINGES,
    PLACE,
    along_findings,
)

_LEAST_LEAF_MM: Final = 3.0  # of a leaf in the wood, to be screwed through (our rule)
_USUAL_LEAF_MM: Final = 6.0  # of it that a narrow leaf is widened to (our rule)
_LEAST_SCREW_MM: Final = 2.0  # a shorter screw holds nothing
_LEAST_BARREL_MM: Final = 2.0  # a thinner one is not made
_SQUARE: Final = math.sin(
    math.radians(0.5)
)  # a quadrant's leg is square to its leaf, within what a mortise gives
BUTTS: Final = Fix("hinge_butts", (("section.hinges.pattern", "butt"),))


def hinge_findings(job: Job, ring: RingPlan, section: SectionPlan, own: Hinges) -> Iterator[Finding]:
    """What is wrong about hinges."""
    design, fmt = job.design, reader(job.design)
    side = ring.sides[side_of(design, own)]
    slab = ring.slabs[side.index]
    if own.pattern == "barrel":
        yield from _barrel_findings(job, ring, section, own)
        yield from along_findings(design, ring, section, own, spots(design, ring, section, own))
        return
    if own.pattern == "quadrant":
        yield from _quadrant_findings(job, ring, section, own)
    within = own.leaf_mm - own.out_mm  # of the leaf in the wood
    if within > slab.level_thickness_mm - LEAST_BESIDE_MM + DEFAULT.length_mm:
        narrow = fmt.down(slab.level_thickness_mm - BESIDE_MM + own.out_mm)
        fixes = (Fix("hinge_leaf", (("section.hinges.leaf_mm", narrow),), {"leaf_mm": narrow}), NO_HINGES)
        numbers = {"within_mm": within, "wall_mm": slab.level_thickness_mm}
        yield Finding("hinge_leaf_wide", "stop", PLACE, numbers, fixes, {"side": side.name})
    elif within < _LEAST_LEAF_MM:
        wide = fmt.up(own.out_mm + _USUAL_LEAF_MM)
        fix = Fix("hinge_leaf", (("section.hinges.leaf_mm", wide),), {"leaf_mm": wide})
        yield Finding("hinge_leaf_narrow", "stop", PLACE, {"within_mm": max(0.0, within)}, (fix, NO_HINGES))
    if own.out_mm < own.barrel_mm / 2 - own.thick_mm - DEFAULT.length_mm:
        least = fmt.up(own.barrel_mm / 2 - own.thick_mm)
        fix = Fix("hinge_out", (("section.hinges.out_mm", least),), {"out_mm": least})
        yield Finding(
            "hinge_barrel_in", "caution", PLACE, {"out_mm": own.out_mm, "barrel_mm": own.barrel_mm}, (fix,)
        )
    if own.pattern == "butt":
        yield from along_findings(design, ring, section, own, spots(design, ring, section, own))
    rims = rims_of(design, section)
    low = rims.least_mm if rims else 0.0
    if own.screw_mm > low - own.thick_mm - BESIDE_MM:
        short = fmt.down(low - own.thick_mm - BESIDE_MM)
        screws: tuple[Fix, ...] = (
            (Fix("hinge_screw", (("section.hinges.screw_mm", short),), {"screw_mm": short}),)
            if short > _LEAST_SCREW_MM
            else ()
        )
        yield Finding(
            "hinge_screw_long",
            "stop",
            PLACE,
            {"screw_mm": own.screw_mm, "high_mm": low},
            (*screws, NO_HINGES),
            {"part": rims.lower if rims else ""},
        )
    if rims is not None and rims.board_mm and own.barrel_mm / 2 > rims.board_mm - BESIDE_MM:
        thick = fmt.up(own.barrel_mm / 2 + BESIDE_MM)
        thicker = Fix("hinge_board", (("section.cover.thickness_mm", thick),), {"thick_mm": thick})
        numbers = {"half_mm": own.barrel_mm / 2, "thick_mm": rims.board_mm}
        yield Finding("hinge_barrel_through", "stop", PLACE, numbers, (thicker, NO_HINGES))


def _set(key: str, name: str, value: float, good: bool = True) -> tuple[Fix, ...]:
    """The hinges with one of their sizes changed; nothing where that is no good."""
    return (Fix(key, ((f"section.hinges.{name}", value),), {name: value}),) if good else ()


def _barrel_findings(job: Job, ring: RingPlan, section: SectionPlan, own: Hinges) -> Iterator[Finding]:
    """Concealed barrels: the wall beside the bore, how deep it goes, the bevel behind it."""
    fmt, side = reader(job.design), ring.sides[side_of(job.design, own)]
    slab, rims = ring.slabs[side.index], rims_of(job.design, section)
    if rims is None:
        return
    if rims.board_mm:
        yield _stop("barrel_board", {}, (BUTTS,))
        return
    wall, names = slab.level_thickness_mm, {"side": side.name}
    over = rims.lid_mm - rims.body_mm
    step_out = slab.outer_mm(rims.lid_mm) - slab.outer_mm(rims.body_mm)
    near = own.in_mm + min(0.0, step_out)  # in from the face of whichever rim stands further in
    left = min(near, wall - own.in_mm - max(0.0, step_out)) - own.barrel_mm / 2
    if left < BESIDE_BORE_MM - DEFAULT.length_mm:
        thin = min(own.barrel_mm, fmt.down(wall - abs(step_out) - 2 * BESIDE_BORE_MM))
        middle = fmt.down((wall - step_out) / 2)
        changes = (("section.hinges.in_mm", middle), ("section.hinges.barrel_mm", thin))
        fix = Fix("barrel_middle", changes, {"in_mm": middle, "barrel_mm": thin})
        numbers = {"barrel_mm": own.barrel_mm, "left_mm": max(0.0, left)}
        yield _stop("barrel_wall_thin", numbers, (fix,) if thin >= _LEAST_BARREL_MM else (), names)
    low = rims.least_mm - BESIDE_MM
    if own.deep_mm > low + DEFAULT.length_mm:
        deep = fmt.down(low)
        numbers = {"deep_mm": own.deep_mm, "high_mm": rims.least_mm}
        shallower = _set("barrel_deep", "deep_mm", deep, deep >= _LEAST_SCREW_MM)
        yield _stop("barrel_deep", numbers, shallower, {"part": rims.lower})
    down = max(bevel_down_mm(slab, own.in_mm, by, way) for by, way in ((0.0, -1.0), (over, 1.0)))
    if down * slab.cos_slope > low + DEFAULT.length_mm:
        near = fmt.up(own.barrel_mm / 2 + BESIDE_BORE_MM)
        numbers = {"down_mm": down, "high_mm": rims.least_mm}
        yield _stop("barrel_bevel_high", numbers, _set("barrel_nearer", "in_mm", near, near < own.in_mm))


def _stop(
    code: str, numbers: dict[str, float], fixes: tuple[Fix, ...], names: dict[str, str] | None = None
) -> Finding:
    """What says stop, with the last way out of it: no hinges."""
    return Finding(code, "stop", PLACE, numbers, (*fixes, NO_HINGES), names or {})


def _quadrant_findings(job: Job, ring: RingPlan, section: SectionPlan, own: Hinges) -> Iterator[Finding]:
    """Quadrants: a square corner at both ends, room for the leaves, and what the stay's slot leaves."""
    design, fmt = job.design, reader(job.design)
    rims, index = rims_of(design, section), side_of(design, own)
    slab, names = ring.slabs[index], {"side": ring.sides[index].name}
    if rims is None:
        return
    beside = [ring.slabs[other] for other in leg_sides(design, own)]
    if any(abs(slab.ux * other.ux + slab.uy * other.uy) > _SQUARE for other in beside):
        yield _stop("quadrant_corner", {}, (BUTTS,), names)
        return
    start, end = run_at(ring, index, rims.body_mm)
    half = (end - start) / 2 - own.leg_in_mm - BESIDE_MM / 2
    if own.length_mm > half + DEFAULT.length_mm:
        size = fmt.down(half)
        numbers = {"length_mm": own.length_mm, "half_mm": half}
        fixes = _set("hinge_length", "length_mm", size, size > own.leg_wide_mm)
        yield _stop("quadrants_no_room", numbers, fixes, names)
    yield from _leg_findings(job, ring, section, own)
    if not own.stay_mm:
        return
    if own.stay_wide_mm > own.leg_wide_mm + DEFAULT.length_mm:
        numbers = {"stay_wide_mm": own.stay_wide_mm, "leg_wide_mm": own.leg_wide_mm}
        third = fmt.down(own.leg_wide_mm / 3)
        yield _stop("stay_wide", numbers, _set("stay_wide", "stay_wide_mm", third, third > 0))
    deep = own.thick_mm + own.stay_mm
    if deep > rims.least_mm - BESIDE_MM + DEFAULT.length_mm:
        less = fmt.down(rims.least_mm - BESIDE_MM - own.thick_mm)
        numbers = {"deep_mm": deep, "high_mm": rims.least_mm}
        yield _stop("stay_deep", numbers, (*_set("stay_deep", "stay_mm", less, less > 0), BUTTS))


def _leg_findings(job: Job, ring: RingPlan, section: SectionPlan, own: Hinges) -> Iterator[Finding]:
    """Legs too long, too short or too wide for the sides they lie in; the first that is."""
    design, fmt = job.design, reader(job.design)
    rims, hinged = rims_of(design, section), ring.slabs[side_of(design, own)]
    least = own.leaf_mm - own.out_mm + BESIDE_MM
    if own.leg_mm < least:
        size = fmt.up(least + own.leg_wide_mm)
        yield _stop("leg_short", {"leg_mm": own.leg_mm}, (*_set("leg_length", "leg_mm", size), BUTTS))
        return
    for other in leg_sides(design, own):
        names = {"side": ring.sides[other].name}
        low, high = run_at(ring, other, rims.body_mm if rims else 0.0)
        far = high - low - hinged.level_thickness_mm - BESIDE_MM
        if own.leg_mm > far + DEFAULT.length_mm:
            size = fmt.down(far)
            numbers = {"leg_mm": own.leg_mm, "room_mm": max(0.0, far)}
            yield _stop(
                "leg_long", numbers, (*_set("leg_length", "leg_mm", size, size > least), BUTTS), names
            )
            return
        left = ring.slabs[other].level_thickness_mm - own.leg_in_mm - own.leg_wide_mm
        if left < BESIDE_MM - DEFAULT.length_mm:
            wide = fmt.down(own.leg_wide_mm + left - BESIDE_MM)
            numbers = {"leg_wide_mm": own.leg_wide_mm, "left_mm": max(0.0, left)}
            fixes = _set("leg_wide", "leg_wide_mm", wide, wide >= _LEAST_LEAF_MM)
            yield _stop("leg_wide", numbers, (*fixes, BUTTS), names)
            return
