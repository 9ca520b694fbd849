"""Blocks fitted into the corners from inside."""

import math
from bisect import bisect_left
from collections.abc import Callable, Iterator, Sequence
from typing import Final, Literal, NamedTuple

from peristyle.core.outlines import Outline as Points
from peristyle.core.outlines import area, bounds, box, clipped
from peristyle.core.planes import Point, Vector
from peristyle.core.tolerance import DEFAULT
from peristyle.planning.corners.blocks import POINT_MM, BlockPlan, section_of
from peristyle.planning.corners.frame import Frame, along
from peristyle.planning.cutters import cutter
from peristyle.planning.findings import Finding, Fix, Severity
from peristyle.planning.findings import Place as At
from peristyle.planning.inside.contents import Block, footprints
from peristyle.planning.making.kind import Kind, Phase, Settled
from peristyle.planning.making.piece import Piece, Place, edges_between
from peristyle.planning.making.setting import SAME_SETTING, off_the_end, tilt, width
from peristyle.planning.making.step import Step, make

_TO_SPARE_MM: Final = 60.0  # what a strip that is held while it is ripped is longer
_ALIKE_RAD: Final = 1e-7
Bounds = tuple[float, float, float, float]
_DISC: Final = 24  # corners of what is round, seen from above
_MEET_MM2: Final = 0.02  # of a thing's outline that may lie in a block's before it is in its way


def _pieces(plan: Settled) -> Iterator[Piece]:
    if not plan.corner_blocks.blocks:
        return
    frames = plan.frames
    for block in plan.corner_blocks.blocks:
        if block.length_mm > 0 and block.deep_mm > 0:
            yield _piece(plan, frames[block.corner], block)


def _name(plan: Settled, block: BlockPlan) -> str:
    return f"corner_block.{plan.frames[block.corner].id}"


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

    show, inside = flat(first, last), flat(near, far)
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
        show_face=show,
        inside_face=inside,
        edges=edges_between(("first", "high", "second", "low"), show, inside, block.deep_mm),
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
    alike: dict[int, list[BlockPlan]] = {}
    for block in blocks:
        alike.setdefault(round(plan.frames[block.corner].half_rad / _ALIKE_RAD), []).append(block)
    for own in alike.values():
        yield "inside", _ripped(plan, own, some=len(alike) > 1)
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


def _ripped(plan: Settled, blocks: Sequence[BlockPlan], *, some: bool) -> Step:
    """The strip for blocks of one corner angle. Its legs lie (180° − corner) / 2 off its wide face. With that face on
    the table the blade leans by half the corner. Past 45° the strip stands on edge, its wide face to the fence.
    """
    half = math.degrees(plan.frames[blocks[0].corner].half_rad)
    flat = half <= 45.0 + SAME_SETTING
    names = [_name(plan, block) for block in blocks]
    corners = [plan.frames[block.corner].name for block in blocks]
    # Over all: their ends are level in the box, and slant where the corner leans.
    rough = [_piece(plan, plan.frames[block.corner], block).length_mm for block in blocks]
    slants = any(whole > block.length_mm + SAME_SETTING for whole, block in zip(rough, blocks, strict=True))
    return make(
        "corner_block", names, *(("_".join(corners),) if some else ()), makes=names, cutter=cutter(plan.job, "rip"),
        lies="flat" if flat else "on_edge",
        settings=(*tilt(half if flat else 90.0 - half), width(blocks[0].base_mm), off_the_end(max(rough))),
        title="corner_block.some" if some else "corner_block",
        says=(
            "corner_block.flat" if flat else "corner_block.edge", "corner_block", *(("corner_block.slants",) * slants),
        ),
        numbers={
            "count": float(len(names)), "leg_mm": blocks[0].leg_mm, "each_mm": max(rough), "point_mm": POINT_MM,
            "base_mm": blocks[0].base_mm, "base_deg": 90.0 - half, "lean_deg": half if flat else 90.0 - half,
            "strip_mm": sum(rough) + _TO_SPARE_MM, "tall_mm": max(block.length_mm for block in blocks),
        },
        names={"corners": ", ".join(corners)},
    )  # fmt: skip


class _Standing(NamedTuple):
    """What stands on the floor: from one height to another over the bottom edge, and what of it lies about a place,
    seen from above.
    """

    what: Literal["things", "dividers"]
    low_mm: float
    high_mm: float
    about: Callable[[Bounds], Iterator[Points]]


def _standing(plan: Settled) -> Iterator[_Standing]:
    """The kinds of things, and the dividers one by one."""
    floor = plan.job.design.floor_mm
    for block in plan.contents.blocks:
        thing = block.thing
        for x0, y0, z0, x1, y1, z1 in footprints(block):
            yield _Standing("things", floor + z0, floor + z1, _only(box(x0, y0, x1, y1)))
        if not block.stood:
            yield _Standing("things", floor, floor + thing.height_mm * thing.layers, _spots(block))
    own = plan.job.design.inside.dividers
    for piece in plan.dividers.pieces if own and not plan.dividers.in_liner else ():
        yield _Standing("dividers", floor, floor + piece.height_mm, _only(piece.outline))


def _only(outline: Points) -> Callable[[Bounds], Iterator[Points]]:
    return lambda _place: iter((outline,))


def _spots(block: Block) -> Callable[[Bounds], Iterator[Points]]:
    """The outlines of many things alike that lie about a place: of thousands few are looked at."""
    thing, spots = block.thing, sorted(block.spots_mm)
    half, wide = thing.length_mm / 2, (thing.length_mm if thing.round else thing.width_mm) / 2

    def about(place: Bounds) -> Iterator[Points]:
        left, low, right, high = place
        first = bisect_left(spots, left - half, key=lambda spot: spot[0])
        for x, y in spots[first:]:
            if x > right + half:
                return
            if low - wide < y < high + wide:
                yield _disc(x, y, half) if thing.round else box(x - half, y - wide, x + half, y + wide)

    return about


def _disc(x: float, y: float, radius: float) -> Points:
    turns = (math.tau * number / _DISC for number in range(_DISC))
    return tuple((x + radius * math.cos(turn), y + radius * math.sin(turn)) for turn in turns)


def _findings(plan: Settled) -> Iterator[Finding]:
    """Blocks that stand where things or dividers do, or over them, so that those no longer come out."""
    blocks, met = plan.corner_blocks.blocks, dict[str, str]()
    for one in _standing(plan) if blocks else ():
        for block in blocks:
            over = block.low_mm > one.high_mm - DEFAULT.length_mm
            kind = f"{one.what}_under" if over and one.what == "things" else one.what
            if kind in met or block.high_mm < one.low_mm + DEFAULT.length_mm:
                continue
            frame = plan.frames[block.corner]
            first, _near, _far, last = section_of(frame, block)
            level = max(block.low_mm, one.low_mm)
            flat = tuple(_level(frame, point, level)[:2] for point in (frame.inner, first, last))
            if any(abs(area(clipped(outline, flat))) > _MEET_MM2 for outline in one.about(bounds(flat))):
                met[kind] = frame.name
    for kind, corner in met.items():
        fixes: tuple[Fix, ...] = (Fix("no_corner_blocks", (("joints.corner_blocks", False),)),)
        if kind == "dividers":
            fixes += (Fix("no_dividers", (("inside.dividers", False),)),)
        severity: Severity = "caution" if kind == "things_under" else "stop"
        yield Finding("corner_block_meets", severity, At("keys"), {}, fixes, {"corner": corner}, kind)


CORNER_BLOCKS = Kind("corner_block", _pieces, steps=_steps, findings=_findings)
