"""Blocks fitted into the corners from inside."""

import math
from collections.abc import Iterator
from typing import Final

from peristyle.core.planes import Point, Vector
from peristyle.model.design import corner_name
from peristyle.planning.corners.blocks import POINT_MM, BlockPlan, section_of
from peristyle.planning.corners.frame import Frame, along
from peristyle.planning.cutters import cutter
from peristyle.planning.making.kind import Kind, Phase, Settled
from peristyle.planning.making.piece import Edge, Piece, Place
from peristyle.planning.making.setting import off_the_end, tilt, width
from peristyle.planning.making.step import Step, make

_TO_SPARE_MM: Final = 60.0  # what a strip that is held while it is ripped is longer


def _pieces(plan: Settled) -> Iterator[Piece]:
    if not plan.corner_blocks.blocks:
        return
    frames = plan.frames
    for block in plan.corner_blocks.blocks:
        if block.length_mm > 0 and block.deep_mm > 0:
            yield _piece(plan, frames[block.corner], block)


def _name(plan: Settled, block: BlockPlan) -> str:
    return f"corner_block.{corner_name(block.corner, len(plan.ring.sides)).replace('-', '_')}"


def _piece(plan: Settled, frame: Frame, block: BlockPlan) -> Piece:
    """A block in its corner: x up the corner, y across its free face, z from that into the corner."""
    first, near, far, last = section_of(frame, block)
    deep = (-frame.inward[0], -frame.inward[1], -frame.inward[2])
    place = Place(_level(frame, first, block.low_mm), frame.edge, frame.across, deep)

    def flat(a: Vector, b: Vector) -> tuple[Point, ...]:
        corners = [
            _level(frame, p, at)
            for p, at in ((a, block.low_mm), (a, block.high_mm), (b, block.high_mm), (b, block.low_mm))
        ]
        return tuple((x, y) for x, y, _z in (place.back(corner) for corner in corners))

    return Piece(
        id=_name(plan, block),
        part="corner_block",
        name=f"Corner block {frame.name}",
        alike="corner block",
        says=("corner_block",),
        names={"corner": frame.name},
        numbers={"leg_mm": block.leg_mm, "point_mm": POINT_MM},
        stock="key stock",
        thickness_mm=block.deep_mm,
        grain_deg=0.0,
        show_face=flat(first, last),
        inside_face=flat(near, far),
        edges=(Edge("first", 0.0), Edge("end", 0.0), Edge("second", 0.0), Edge("start", 0.0)),
        place=place,
    )


def _level(frame: Frame, point: Vector, height_mm: float) -> Vector:
    """The point moved along the corner to a height over the box's bottom edge."""
    return along(point, ((height_mm - point[2]) / frame.edge[2], frame.edge))


def _steps(plan: Settled) -> Iterator[tuple[Phase, Step]]:
    blocks = plan.corner_blocks.blocks
    if not blocks:
        return
    names = [_name(plan, block) for block in blocks]
    frames = plan.frames
    halves = sorted({round(math.degrees(frames[block.corner].half_rad), 4) for block in blocks})
    longest = max(block.length_mm for block in blocks)
    yield "inside", make(
        "corner_block", names, makes=names, cutter=cutter(plan.job, "rip"),
        settings=(*tilt(90.0 - halves[0]), width(blocks[0].base_mm), off_the_end(longest)),
        says=("corner_block", *(("corner_block.unlike",) if len(halves) > 1 else ())),
        numbers={
            "count": float(len(names)), "leg_mm": blocks[0].leg_mm, "each_mm": longest, "point_mm": POINT_MM,
            "base_mm": blocks[0].base_mm, "corner_deg": 2 * halves[0], "lean_deg": 90.0 - halves[0],
            "strip_mm": sum(block.length_mm for block in blocks) + _TO_SPARE_MM,
        },
    )  # fmt: skip
    yield (
        "inside",
        make(
            "corner_block_glue",
            names,
            tool="by_hand",
            says=("corner_block_glue",),
            numbers={"count": float(len(names))},
        ),
    )


CORNER_BLOCKS = Kind("corner_block", _pieces, steps=_steps)
