"""Sized from the inside out: what the box holds, in rows and layers, and the inside that follows."""

import math

from msgspec import Struct

from peristyle.core.planes import Point
from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import Design, Rectangle, Regular, Thing, replace
from peristyle.planning.findings import Finding, Fix, Place, reader
from peristyle.planning.ring import RingPlan
from peristyle.planning.section import SectionPlan

# Radius of the smallest circle round n equal circles, in their radii.
# Source: S. Kravitz, "Packing cylinders into cylindrical containers", Mathematics Magazine 40 (1967);
# values from memory, n = 2-4 and 7 also by elementary geometry.
_ROUND: tuple[float, ...] = (1.0, 2.0, 1 + 2 / math.sqrt(3), 1 + math.sqrt(2), 2.7013016, 3.0, 3.0)


class Block(Struct, frozen=True):
    """One kind of thing as it stands: columns along side A, rows along side B, layers up.

    `x_mm`, `y_mm` is its lower left corner on the floor, seen from above, the box's middle at 0;
    `spots_mm` the middles of the things of one layer.
    """

    thing: Thing
    columns: int
    rows: int
    x_mm: float
    y_mm: float
    length_mm: float
    width_mm: float
    spots_mm: tuple[Point, ...] = ()


class ContentsPlan(Struct, frozen=True):
    """What the contents need inside, with their play, and where they stand."""

    length_mm: float = 0.0
    width_mm: float = 0.0
    height_mm: float = 0.0
    room_mm: float = 0.0
    blocks: tuple[Block, ...] = ()
    findings: tuple[Finding, ...] = ()


def arrange(thing: Thing) -> tuple[int, int]:
    """Columns and rows of one layer: as the maker says, or with the least run of wall round them.

    Among arrangements with as little wall, the one that leaves fewer empty places.
    """
    each = math.ceil(thing.count / thing.layers)
    if thing.columns is not None:
        columns = min(thing.columns, each)
        return columns, math.ceil(each / columns)

    def cost(columns: int) -> tuple[int, float, int]:
        rows = math.ceil(each / columns)
        long, wide = columns * thing.length_mm, rows * thing.width_mm
        return columns * rows - each, long + wide, 0 if long >= wide else 1

    # Full rows first, but never one long row where a nearly full block would be far more compact.
    best = min(range(1, each + 1), key=lambda c: (cost(c)[1] * (1 + 0.5 * cost(c)[0] / each), cost(c)[2]))
    return best, math.ceil(each / best)


def share_of_liner(design: Design) -> float:
    """What liner, gap and lining take of the inside, on each side (mm)."""
    liner = design.liner
    return design.lining_mm + (liner.thickness_mm + liner.gap_mm if liner else 0.0)


def _blocks(design: Design) -> tuple[Block, ...]:
    """Every kind of thing beside the last, in the maker's order, centred in the box."""
    blocks = []
    x = 0.0
    for thing in design.contents:
        columns, rows = arrange(thing)
        length, width = columns * thing.length_mm, rows * thing.width_mm
        blocks.append(Block(thing, columns, rows, x + thing.play_mm / 2, -width / 2, length, width))
        x += length + thing.play_mm
    placed = tuple(_spotted(replace(b, x_mm=b.x_mm - x / 2)) for b in blocks)
    if isinstance(design.shape, Regular) and _packs_round(placed):
        placed = (replace(placed[0], spots_mm=_ring_spots(placed[0].thing)),)
    return placed


def _spotted(block: Block) -> Block:
    """The block with the middle of every thing in one layer, row after row."""
    thing = block.thing
    each = math.ceil(thing.count / thing.layers)
    spots = tuple(
        (
            block.x_mm + (number % block.columns + 0.5) * thing.length_mm,
            block.y_mm + (number // block.columns + 0.5) * thing.width_mm,
        )
        for number in range(each)
    )
    return replace(block, spots_mm=spots)


def _packs_round(blocks: tuple[Block, ...]) -> bool:
    """Whether the contents stand as circles in a circle: one kind of round things, up to seven."""
    thing = blocks[0].thing
    each = math.ceil(thing.count / thing.layers)
    return len(blocks) == 1 and thing.round and thing.columns is None and each <= len(_ROUND)


def _ring_spots(thing: Thing) -> tuple[Point, ...]:
    """Round things in a circle: up to six in a ring, the seventh in its middle."""
    each = math.ceil(thing.count / thing.layers)
    if each == 1:
        return ((0.0, 0.0),)
    about = min(each, 6)
    radius = thing.length_mm / 2 / math.sin(math.pi / about)
    ring = tuple(
        (radius * math.cos(2 * math.pi * k / about), radius * math.sin(2 * math.pi * k / about))
        for k in range(about)
    )
    return ring if each < 7 else ((0.0, 0.0), *ring)


def _needs(blocks: tuple[Block, ...]) -> tuple[float, float, float]:
    return (
        math.fsum(b.length_mm + b.thing.play_mm for b in blocks),
        max(b.width_mm + b.thing.play_mm for b in blocks),
        max(b.thing.height_mm * b.thing.layers for b in blocks),
    )


def _floor(design: Design) -> float:
    return design.bottom.height_mm + design.bottom.thickness_mm if design.bottom else 0.0


def _give(design: Design, side: int, tall: float) -> float:
    """What a wall that leans inward takes of the room at the contents' top (mm, 0 or more)."""
    lean = math.tan(math.radians(design.slope_of(side)))
    levels = (_floor(design), _floor(design) + tall)
    return -min(z * lean for z in levels)


def apothem_for(thing_blocks: tuple[Block, ...], sides: int) -> float:
    """Inside apothem of a regular polygon that holds the blocks, centred (mm).

    Round things of one kind up to seven stand as circles in a circle; others as the rectangle they
    fill, which every side must clear.
    """
    first = thing_blocks[0].thing
    if _packs_round(thing_blocks):
        each = math.ceil(first.count / first.layers)
        return first.length_mm / 2 * _ROUND[each - 1] + first.play_mm / 2
    long, wide, _tall = _needs(thing_blocks)
    angles = [math.radians(360.0 * i / sides - 90.0) for i in range(sides)]
    return max(long / 2 * abs(math.cos(a)) + wide / 2 * abs(math.sin(a)) for a in angles)


def follows_contents(design: Design) -> bool:
    """Whether the size of the ring comes from what it holds."""
    return bool(design.contents) and isinstance(design.shape, Rectangle | Regular)


def sized(design: Design) -> Design:
    """The design with the ring sized from its contents, where there are any to size it from."""
    if not follows_contents(design):
        return design
    blocks = _blocks(design)
    long, wide, tall = _needs(blocks)
    share = share_of_liner(design)
    shape = design.shape
    if isinstance(shape, Rectangle):
        length = long + 2 * (share + _give(design, 1, tall))
        width = wide + 2 * (share + _give(design, 0, tall))
        grown = replace(shape, length_mm=length, width_mm=width, measure="inside")
        return replace(design, shape=grown)
    if isinstance(shape, Regular):
        apothem = apothem_for(blocks, shape.sides) + share + _give(design, 0, tall)
        side = 2 * apothem * math.tan(math.pi / shape.sides)
        return replace(design, shape=replace(shape, size_mm=side, measure="inside"))
    return design


def suiting_height(design: Design) -> float:
    """A height (mm) that just takes the contents: floor, contents, 2 mm, and what freeing the lid takes."""
    lost = design.lid.kerf_mm + design.lid.clean_up_mm if design.lid else 0.0
    tall = _needs(_blocks(design))[2] if design.contents else 40.0
    return _floor(design) + tall + 2.0 + lost


def plan_contents(design: Design, ring: RingPlan, section: SectionPlan) -> ContentsPlan:
    """Where the things stand, and whether there is room for them."""
    if not design.contents:
        return ContentsPlan()
    blocks = _blocks(design)
    long, wide, tall = _needs(blocks)
    room = section.finished_mm - _floor(design)
    findings = []
    fmt = reader(design)
    if tall > room + DEFAULT.length_mm:
        over = tall - room
        height = design.height_mm + over
        findings.append(
            Finding(
                "contents_too_tall",
                "stop",
                Place("section"),
                f"The contents stand {fmt.length(tall, unit=True)} high and there is room for "
                f"{fmt.length(max(0.0, room), unit=True)} above the bottom, once the lid is freed: they stand "
                f"{fmt.length(over, unit=True)} proud. Make the box higher.",
                {"over_mm": over, "room_mm": room, "tall_mm": tall},
                (
                    Fix(
                        f"Make it {fmt.length(height, unit=True)} high",
                        lambda d: replace(d, height_mm=height),
                    ),
                ),
            )
        )
    if not follows_contents(design) and ring.stands:
        findings += _held(design, ring, long, wide)
    return ContentsPlan(long, wide, tall, room, blocks, tuple(findings))


def _held(design: Design, ring: RingPlan, long: float, wide: float) -> list[Finding]:
    """For a ring that is not sized from them: whether the contents' rectangle fits its inside."""
    share = share_of_liner(design)
    over = max(
        long / 2 * abs(slab.ux) + wide / 2 * abs(slab.uy) + share - slab.inner_mm(_floor(design))
        for slab in ring.slabs
    )
    if over <= DEFAULT.length_mm:
        return []
    fmt = reader(design)
    return [
        Finding(
            "contents_do_not_fit",
            "stop",
            Place("ring"),
            f"The contents with their play reach {fmt.length(over, unit=True)} into a wall. "
            "Make the ring larger or arrange them otherwise.",
            {"over_mm": over},
        )
    ]
