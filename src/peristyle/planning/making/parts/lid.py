"""A lid sawn free of the glued box."""

import math
from collections.abc import Iterator
from typing import Final

from peristyle.core.planes import Slab
from peristyle.planning.form.ring import RingPlan, SidePlan
from peristyle.planning.making.kind import Kind, Phase, Settled
from peristyle.planning.making.parts.walls import along
from peristyle.planning.making.piece import Feature
from peristyle.planning.making.ripping import ids, letters, together
from peristyle.planning.making.setting import SAME_SETTING, fence, height, tilt
from peristyle.planning.making.step import Step, make
from peristyle.planning.section.grooves import in_side
from peristyle.planning.section.levels import LidPlan

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
        for step in _freed(plan.ring, lid):
            yield "lid", step


def _freed(ring: RingPlan, lid: LidPlan) -> Iterator[Step]:
    """The lid sawn free, a step for each setting."""
    for number, cut in enumerate(lid.cuts):
        sides = [ring.sides[i] for i in cut.sides]
        some = len(lid.cuts) > 1
        leaning = cut.tilt_deg > SAME_SETTING
        says = ["lid.wider" if leaning else "lid"]
        says += ["lid.opposite" if len(ring.sides) == 4 else "lid.round"]
        says += ["lid.true"] if number == len(lid.cuts) - 1 else []
        own = ids(sides, "side")
        yield make(
            "lid", own, *([together(sides)] if some else []), makes=(f"{name}.lid" for name in own),
            lies="on_side", edge=cut.edge,
            settings=(*tilt(cut.tilt_deg if leaning else 0.0), fence(cut.fence_mm),
                      height(_just_through(max(side.thickness_mm for side in sides), cut.tilt_deg, lid))),
            passes=len(sides), title="lid.some" if some else "lid", says=says,
            numbers={"line_mm": lid.line_mm}, names={"sides": letters(sides), "edge": cut.edge},
        )  # fmt: skip


def _just_through(wall_mm: float, tilt_deg: float, lid: LidPlan) -> float:
    """The blade's height: the lower corner of a tilted tip comes through the wall too."""
    kerf = lid.kerf_high_mm - lid.kerf_low_mm
    return wall_mm + _THROUGH_MM + kerf * math.sin(math.radians(tilt_deg))


LID = Kind("lid", features=_features, steps=_steps)
