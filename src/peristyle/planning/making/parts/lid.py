"""A lid sawn free of the glued box."""

import math
from collections.abc import Iterator
from typing import Final

from peristyle.core.planes import Slab
from peristyle.core.tolerance import DEFAULT
from peristyle.model.tools import BandSaw, HandSaw, named
from peristyle.planning.cutters import Cutter, cutter
from peristyle.planning.findings import Finding, Fix, Place
from peristyle.planning.form.ring import RingPlan, SidePlan
from peristyle.planning.making.kind import Kind, Phase, Settled
from peristyle.planning.making.parts.walls import along
from peristyle.planning.making.piece import Feature
from peristyle.planning.making.ripping import ids, letters, together
from peristyle.planning.making.setting import SAME_SETTING, fence, height, tilt
from peristyle.planning.making.step import Step, make
from peristyle.planning.section.grooves import in_side
from peristyle.planning.section.levels import LidPlan

_SEEN_MM: Final = 0.1  # a lid that comes out wider by less is not seen to (our rule)
_THROUGH_MM: Final = 1.0  # how far the blade comes out inside: no more than it takes (common practice)


def _features(plan: Settled) -> Iterator[tuple[str, Feature]]:
    lid = plan.section.lid
    if lid is not None and lid.body_mm > 0:
        for side in plan.ring.sides:
            yield f"side.{side.name}", _kerf(lid, plan.ring.slabs[side.index], side)


def _kerf(lid: LidPlan, slab: Slab, side: SidePlan) -> Feature:
    """What the saw takes that frees the lid: level, right through."""
    levels = (lid.kerf_low_mm, lid.kerf_high_mm)
    profile = [
        in_side(slab, slab.inner_mm(z, depth), z)
        for z, depth in (
            (levels[0], slab.thickness_mm), (levels[0], 0.0), (levels[1], 0.0), (levels[1], slab.thickness_mm)
        )
    ]  # fmt: skip
    return along("lid", "lid_kerf", side, tuple(profile))


def _steps(plan: Settled) -> Iterator[tuple[Phase, Step]]:
    lid = plan.section.lid
    if lid is not None and lid.body_mm > 0:
        own = cutter(plan.job, "lid")
        steps_out = max(lid.lost_mm * abs(slab.sin_slope) / slab.cos_slope for slab in plan.ring.slabs)
        steps = _freed(plan.ring, lid, own) if own.tool == "table_saw" else (_at_once(plan.ring, lid, own),)
        for step in steps:
            yield "lid", step
        yield "lid", make(
            "true_lid", ids(plan.ring.sides, "side"), tool="by_hand",
            says=("true_lid", *(("true_lid.leans",) if steps_out > _SEEN_MM else ())),
            numbers={"step_mm": steps_out, "each_mm": (lid.lost_mm - (lid.kerf_high_mm - lid.kerf_low_mm)) / 2,
            "lid_mm": lid.lid_mm,
                     "body_mm": lid.body_mm},
        )  # fmt: skip


def _at_once(ring: RingPlan, lid: LidPlan, own: Cutter) -> Step:
    """The lid sawn free at one setting: on a band saw through the whole box, or by hand along a line."""
    sides = ids(ring.sides, "side")
    return make(
        "lid", sides, makes=(f"{name}.lid" for name in sides), lies="on_side", edge="bottom", cutter=own,
        settings=(fence(lid.kerf_low_mm),), says=(f"lid.{own.tool}",),
        numbers={"line_mm": lid.line_mm, "low_mm": lid.kerf_low_mm, "across_mm": least_across(ring)},
        names={"sides": letters(ring.sides), "edge": "bottom"},
    )  # fmt: skip


def _freed(ring: RingPlan, lid: LidPlan, own: Cutter) -> Iterator[Step]:
    """The lid sawn free, a step for each setting."""
    for cut in lid.cuts:
        sides = [ring.sides[i] for i in cut.sides]
        some = len(lid.cuts) > 1
        leaning = cut.tilt_deg > SAME_SETTING
        says = ["lid.wider" if leaning else "lid"]
        says += ["lid.opposite" if len(ring.sides) == 4 else "lid.round"]
        says += ["lid.no_miter_saw"] if cut is lid.cuts[-1] else []
        names = ids(sides, "side")
        yield make(
            "lid", names, *([together(sides)] if some else []), makes=(f"{name}.lid" for name in names),
            lies="on_side", edge=cut.edge, cutter=own,
            settings=(*tilt(cut.tilt_deg if leaning else 0.0), fence(cut.fence_mm),
                      height(_just_through(max(side.thickness_mm for side in sides), cut.tilt_deg, lid))),
            passes=len(sides), title="lid.some" if some else "lid", says=says,
            numbers={"line_mm": lid.line_mm}, names={"sides": letters(sides), "edge": cut.edge},
        )  # fmt: skip


def _just_through(wall_mm: float, tilt_deg: float, lid: LidPlan) -> float:
    """The blade's height: the lower corner of a tilted tip comes through the wall too."""
    kerf = lid.kerf_high_mm - lid.kerf_low_mm
    return wall_mm + _THROUGH_MM + kerf * math.sin(math.radians(tilt_deg))


def least_across(ring: RingPlan) -> float:
    """How high the box is at the least, lying on one of its sides (mm): what a saw must reach through."""
    points = (*ring.outer_bottom, *ring.outer_top)
    spans = []
    for slab in ring.slabs:
        reach = [x * slab.ux + y * slab.uy for x, y in points]
        spans.append(max(reach) - min(reach))
    return min(spans)


def _findings(plan: Settled) -> Iterator[Finding]:
    """A band saw too low for the box to go through on its side; a blade that would lean further than the saw tilts."""
    saw, lid = named(plan.job.shop.tools, plan.job.shop.uses.lid), plan.section.lid
    if lid is None or not plan.ring.sides:
        return
    leans, stop = max((cut.tilt_deg for cut in lid.cuts), default=0.0), plan.job.shop.saw.stop_deg
    if cutter(plan.job, "lid").tool == "table_saw" and leans > stop + DEFAULT.angle_deg:
        by_hand = next((tool.name for tool in plan.job.shop.tools if isinstance(tool, HandSaw)), "")
        fixes = (
            (Fix("use_hand_saw", (("shop.uses.lid", by_hand),), {}, {"cutter": by_hand}),) if by_hand else ()
        )
        yield Finding(
            "lid_past_stop", "caution", Place("section"), {"leans_deg": leans, "stop_deg": stop}, fixes
        )
    if not isinstance(saw, BandSaw):
        return
    across = least_across(plan.ring)
    if across > saw.high_mm:
        numbers = {"across_mm": across, "high_mm": saw.high_mm}
        fix = Fix("use_saw", (("shop.uses.lid", ""),))
        yield Finding("lid_past_band_saw", "stop", Place("section"), numbers, (fix,), {"cutter": saw.name})


LID = Kind("lid", features=_features, steps=_steps, findings=_findings)
