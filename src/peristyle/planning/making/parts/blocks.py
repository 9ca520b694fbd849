"""Contents that are made with the box: plain blocks, cut from a strip."""

from collections.abc import Iterator, Sequence

from peristyle.core.planes import Vector
from peristyle.planning.cutters import cutter
from peristyle.planning.inside.contents import Block
from peristyle.planning.making.kind import Kind, Phase, Settled
from peristyle.planning.making.piece import Edge, Piece, Place
from peristyle.planning.making.setting import stop, thickness, width
from peristyle.planning.making.step import Step, make


def _made(plan: Settled) -> Iterator[tuple[int, Block]]:
    """The kinds of things that are made, by their number; round ones are turned, not sawn, and no part of the plan."""
    for number, block in enumerate(plan.contents.blocks, 1):
        if block.thing.made and not block.thing.round:
            yield number, block


def _places(block: Block, floor_mm: float) -> Iterator[Place]:
    """Where each thing lies, as many as there are: its length along x, its width along y, its upper face shown."""
    thing = block.thing
    long, wide, high = thing.length_mm, thing.width_mm, thing.height_mm
    for one in block.stood:
        axes = [tuple(1.0 if axis == own else 0.0 for axis in range(3)) for own in one.axes]
        # The frame is left-handed: z, into the wood, is turned about where the three would make the other hand.
        even = one.axes in ((0, 1, 2), (1, 2, 0), (2, 0, 1))
        into = tuple(-v for v in axes[2]) if even else axes[2]
        x, y, z = one.at[0], one.at[1], one.at[2] + floor_mm
        origin = [v + (high * up if even else 0.0) for v, up in zip((x, y, z), axes[2], strict=True)]
        yield Place(_vector(origin), _vector(axes[0]), _vector(axes[1]), _vector(into))
    for x, y, layer in () if block.stood else _spots(block):
        corner = (x - long / 2, y - wide / 2, floor_mm + (layer + 1) * high)
        yield Place(corner, (1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, -1.0))


def _vector(values: Sequence[float]) -> Vector:
    return values[0], values[1], values[2]


def _spots(block: Block) -> Iterator[tuple[float, float, int]]:
    """The middle of each thing and its layer, as many as there are."""
    spots = ((x, y, layer) for layer in range(block.thing.layers) for x, y in block.spots_mm)
    for _number, spot in zip(range(block.thing.count), spots, strict=False):
        yield spot


def _pieces(plan: Settled) -> Iterator[Piece]:
    floor = plan.job.design.floor_mm
    for kind, block in _made(plan):
        thing = block.thing
        long, wide, high = thing.length_mm, thing.width_mm, thing.height_mm
        face = ((0.0, 0.0), (long, 0.0), (long, wide), (0.0, wide))
        for number, place in enumerate(_places(block, floor), 1):
            yield Piece(
                id=f"block.{kind}.{number}",
                part="block",
                name=f"{thing.name or 'block'} {number}",
                alike=f"block {kind}",
                stock="block stock",
                thickness_mm=high,
                grain_deg=0.0,
                show_face=face,
                inside_face=face,
                edges=(Edge("start", 0.0), Edge("end", 0.0)),
                place=place,
            )


def _steps(plan: Settled) -> Iterator[tuple[Phase, Step]]:
    for kind, block in _made(plan):
        thing = block.thing
        names = tuple(f"block.{kind}.{number}" for number in range(1, len(list(_places(block, 0.0))) + 1))
        yield "dividers", make(
            "block", names, str(kind), makes=names, cutter=cutter(plan.job, "crosscut"),
            settings=(stop(thing.length_mm), width(thing.width_mm), thickness(thing.height_mm)), passes=len(names),
            says=("block", *(("block.together",) if block.stood else ())),
            numbers={"count": float(len(names)), "play_mm": thing.play_mm},
            names={"what": thing.name or "blocks"}, short=thing.length_mm < plan.job.shop.saw.least_mm,
        )  # fmt: skip


BLOCKS = Kind("block", _pieces, steps=_steps)
