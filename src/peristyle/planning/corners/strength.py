"""How much is glued at a corner, end grain and long grain, school beside school.

Areas only: what a glued joint holds depends on the wood, its fit and the glue, which nobody can tell from a plan.
"""

import math
from collections.abc import Iterator
from typing import Literal, NamedTuple

from peristyle.model.corner_edits import keys_begun, splines_begun
from peristyle.model.design import CornerBlocks
from peristyle.model.job import decide
from peristyle.model.starts import begun
from peristyle.planning.corners.blocks import BlocksPlan, plan_corner_blocks
from peristyle.planning.corners.frame import Frame
from peristyle.planning.corners.keys import KeysPlan, plan_keys
from peristyle.planning.corners.splines import SplinesPlan, plan_splines
from peristyle.planning.making.kind import Settled
from peristyle.planning.section.moulding import left_of_joint

School = Literal["none", "straight", "veneer", "dovetail", "spline", "block"]


class Glued(NamedTuple):
    """One corner held one way: areas in mm². `miter_mm2` is what is left of the miter itself, end grain unless the
    grain runs up the sides; `long_mm2` is long grain on long grain that keys, splines or blocks add, its grain within
    `off_deg` of the surface. `chosen` is the way the box has.
    """

    school: School
    chosen: bool
    miter_mm2: float
    miter_is_long: bool
    long_mm2: float
    off_deg: float


def glued_at(plan: Settled, frame: Frame) -> list[Glued]:
    """What every school glues at one corner of this box: those it has as they are, others as they would begin."""
    return [] if frame.lapped else list(_glued(plan, frame))


def _glued(plan: Settled, frame: Frame) -> Iterator[Glued]:
    job = plan.job
    upright = job.stock.board.method == "upright"
    miter = frame.joint_mm * job.design.form.height_mm / frame.edge[2] * left_of_joint(job.design, plan.ring)
    keys = plan.keys.at(frame.index)
    splines = plan.splines.at(frame.index)
    blocks = tuple(block for block in plan.corner_blocks.blocks if block.corner == frame.index)
    yield Glued("none", not (keys or splines or blocks), miter, upright, 0.0, 0.0)
    kinds: tuple[Literal["straight", "veneer", "dovetail"], ...] = ("straight", "veneer", "dovetail")
    for kind in kinds:
        own = tuple(key for key in keys if key.kind == kind)
        made = own or tried_keys(plan, frame, kind).at(frame.index)
        taken = sum(key.depth_mm * (key.thickness_mm + key.face_mm) / 2 for key in made)
        yield Glued(kind, bool(own), miter - taken, upright, sum(2 * key.area_mm2 for key in made), 0.0)
    shown = splines or _tried_splines(plan, frame).at(frame.index)
    bevel = (
        math.degrees(math.asin(min(1.0, max(frame.walls_mm) / frame.joint_mm))) if frame.joint_mm else 90.0
    )
    taken = sum(one.thickness_mm * one.length_mm for one in shown)
    yield Glued(
        "spline", bool(splines), miter - taken, upright, sum(one.added_mm2 for one in shown), 90.0 - bevel
    )
    held = blocks or tuple(b for b in _tried_blocks(plan, frame).blocks if b.corner == frame.index)
    yield Glued("block", bool(blocks), miter, upright, sum(block.added_mm2 for block in held), 0.0)


def tried_keys(plan: Settled, frame: Frame, kind: Literal["straight", "veneer", "dovetail"]) -> KeysPlan:
    """Keys of a kind as they would begin at this corner."""
    keys = keys_begun(plan.job, kind)
    job = decide(decide(plan.job, "keys", keys), "other_keys", None)
    return plan_keys(job, plan.ring, (frame,), plan.section, {})


def _tried_splines(plan: Settled, frame: Frame) -> SplinesPlan:
    return plan_splines(decide(plan.job, "splines", splines_begun(plan.job)), plan.ring, (frame,), {})


def _tried_blocks(plan: Settled, frame: Frame) -> BlocksPlan:
    blocks = begun(CornerBlocks, plan.job.design.units)
    return plan_corner_blocks(decide(plan.job, "corner_blocks", blocks), plan.ring, (frame,), plan.section)
