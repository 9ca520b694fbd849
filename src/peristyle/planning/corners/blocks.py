"""Blocks fitted into the corners from inside: where they stand, what they are cut from, and what is in their way."""

import math
from collections.abc import Iterator, Sequence

from msgspec import Struct

from peristyle.core.planes import Vector
from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import CornerBlocks
from peristyle.model.job import Job
from peristyle.planning.corners.frame import Frame, along
from peristyle.planning.findings import Finding, Fix, Place, reader
from peristyle.planning.form.ring import RingPlan
from peristyle.planning.section.levels import SectionPlan

POINT_MM = (
    1.0  # of each leg, what is planed off the block's point so that it beds on both faces (common practice)
)


class BlockPlan(Struct, frozen=True):
    """One corner block, from `low_mm` to `high_mm` over the box's bottom edge.

    `leg_mm` lies along each inner face; `base_mm` is its free face, `deep_mm` from that to its planed point.
    """

    corner: int
    leg_mm: float
    base_mm: float
    deep_mm: float
    low_mm: float
    high_mm: float
    length_mm: float

    @property
    def added_mm2(self) -> float:
        """The glue it adds: both faces that lie on the walls."""
        return 2 * (self.leg_mm - POINT_MM) * self.length_mm


class BlocksPlan(Struct, frozen=True):
    """All corner blocks."""

    blocks: tuple[BlockPlan, ...] = ()
    findings: tuple[Finding, ...] = ()


def plan_corner_blocks(
    job: Job, ring: RingPlan, corners: Sequence[Frame], section: SectionPlan
) -> BlocksPlan:
    """Blocks for the corners that are to have them."""
    wanted = job.design.joints.corner_blocks
    if wanted is None or not ring.corners or not ring.stands:
        return BlocksPlan()
    low, high = _levels(job, wanted, section)
    frames = [
        frame
        for frame in corners
        if not frame.lapped and (not wanted.corners or frame.index in wanted.corners)
    ]
    made = tuple(
        BlockPlan(
            corner=frame.index,
            leg_mm=wanted.leg_mm,
            base_mm=2 * wanted.leg_mm * math.sin(frame.half_rad),
            deep_mm=(wanted.leg_mm - POINT_MM) * math.cos(frame.half_rad),
            low_mm=low,
            high_mm=high,
            length_mm=max(0.0, high - low) / frame.edge[2],
        )
        for frame in frames
    )
    return BlocksPlan(made, tuple(_findings(job, wanted, ring, made)))


def _levels(job: Job, wanted: CornerBlocks, section: SectionPlan) -> tuple[float, float]:
    """From the bottom panel, or where the maker says, to under the top panel or the body's rim."""
    bottom = section.groove("bottom")
    panel = job.design.section.bottom
    low = bottom.low_mm + panel.thickness_mm if bottom and panel else wanted.above_mm
    rim = section.lid.lost_low_mm if section.lid else job.design.floor_mm + section.room_mm
    return max(low, wanted.above_mm), rim - wanted.below_mm


def section_of(frame: Frame, block: BlockPlan) -> tuple[Vector, Vector, Vector, Vector]:
    """Its section at the inside arris's lower end: along the first face to its point, and back along the second."""
    return (
        along(frame.inner, (block.leg_mm, frame.back)),
        along(frame.inner, (POINT_MM, frame.back)),
        along(frame.inner, (POINT_MM, frame.on)),
        along(frame.inner, (block.leg_mm, frame.on)),
    )


def _findings(
    job: Job, wanted: CornerBlocks, ring: RingPlan, made: tuple[BlockPlan, ...]
) -> Iterator[Finding]:
    fmt, nothing = reader(job.design), Fix("no_corner_blocks", (("joints.corner_blocks", False),))
    place = Place("keys")
    if made and made[0].high_mm - made[0].low_mm < 5.0:
        yield Finding(
            "corner_block_short", "stop", place, {"room_mm": made[0].high_mm - made[0].low_mm}, (nothing,)
        )
    if job.design.inside.liner is not None:
        yield Finding(
            "corner_block_liner", "stop", place, {}, (nothing, Fix("no_liner", (("inside.liner", False),)))
        )
    inner = [side.inside_mm or 0.0 for side in ring.sides]
    held = {block.corner for block in made}
    for index, clear in enumerate(inner):
        ends = sum(corner in held for corner in (index, (index - 1) % len(inner)))
        if ends * wanted.leg_mm > clear + DEFAULT.length_mm:
            most = fmt.down(clear / 2 * 0.9)
            fix = Fix("corner_block_leg", (("joints.corner_blocks.leg_mm", most),), {"leg_mm": most})
            yield Finding("corner_block_wide", "stop", Place("side", index, len(inner)), {"clear_mm": clear},
                          (fix, nothing))  # fmt: skip
            break
    if wanted.leg_mm <= POINT_MM + DEFAULT.length_mm:
        fix = Fix("corner_block_leg", (("joints.corner_blocks.leg_mm", 6.0),), {"leg_mm": 6.0})
        yield Finding("corner_block_small", "stop", place, {"leg_mm": wanted.leg_mm}, (fix, nothing))
