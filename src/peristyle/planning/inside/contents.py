"""Sized from the inside out: what the box holds, in rows and layers, and the inside that follows."""

import math
from bisect import bisect_left, bisect_right
from collections.abc import Sequence
from functools import lru_cache
from typing import Final, NamedTuple

from msgspec import Struct

from peristyle.core.outlines import bounds
from peristyle.core.planes import Point
from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import Design, Dividers, Gable, Rectangle, Regular, Shape, Thing, replace
from peristyle.model.design import Together as Wanted
from peristyle.model.job import Job, revised
from peristyle.model.limits import MAX_MM
from peristyle.planning.findings import EQUAL_COMPARTMENTS, Finding, Fix, Place, reader
from peristyle.planning.form.ring import RingPlan
from peristyle.planning.inside.dividers import DividerPlan
from peristyle.planning.inside.packing import Packing, packed
from peristyle.planning.inside.together import MOST_BLOCKS, Size, Stood, Together, packed_together
from peristyle.planning.section.levels import SectionPlan

_LEAST_PLAY_MM: Final = 0.5  # in all; with less a thing does not lift out by hand (common practice: about 2)

_MOST_TURNS: Final = 60  # ways between two sizes that are tried
_SAME_MM: Final = 1e-6


class Block(Struct, frozen=True):
    """One kind of thing as it stands: columns along side A, rows along side B, layers up.

    Columns and rows are None for round things packed together.

    `x_mm`, `y_mm` is its lower left corner on the floor, seen from above, the box's middle at 0;
    `spots_mm` the middles of the things of one layer. Of things packed together `stood` says where each one lies, from
    the box's middle and the floor.
    """

    thing: Thing
    columns: int | None
    rows: int | None
    x_mm: float
    y_mm: float
    length_mm: float
    width_mm: float
    spots_mm: tuple[Point, ...] = ()
    stood: tuple[Stood, ...] = ()


class ContentsPlan(Struct, frozen=True):
    """What the contents need inside, with their play, and where they stand."""

    length_mm: float = 0.0
    width_mm: float = 0.0
    height_mm: float = 0.0
    room_mm: float = 0.0
    blocks: tuple[Block, ...] = ()
    findings: tuple[Finding, ...] = ()


@lru_cache(maxsize=256)  # asked for the size, and again for where the things stand
def arrange(thing: Thing) -> tuple[int, int]:
    """Columns and rows of one layer: as the maker says, or with the least run of wall round them.

    Among arrangements with as little wall, the one that leaves fewer empty places.
    """
    each = math.ceil(thing.count / thing.layers)
    if thing.columns is not None:
        columns = min(thing.columns, each)
        return columns, math.ceil(each / columns)

    def cost(columns: int) -> tuple[float, int]:
        rows = math.ceil(each / columns)
        long, wide = columns * thing.length_mm, rows * thing.width_mm
        empty = columns * rows - each
        return (long + wide) * (1 + 0.5 * empty / each), 0 if long >= wide else 1

    # Full rows first, but never one long row where a nearly full block would be far more compact.
    best = min(range(1, each + 1), key=cost)
    return best, math.ceil(each / best)


def _share(design: Design, cos_slope: float) -> float:
    """What liner, gap and lining take of the inside at one wall, level (mm): more where the wall leans."""
    liner = design.inside.liner
    return (design.inside.lining_mm + (liner.thickness_mm + liner.gap_mm if liner else 0.0)) / cos_slope


def _blocks(design: Design) -> tuple[Block, ...]:
    """Every kind of thing beside the last, in the maker's order, centred in the box.

    Things of one kind are shared out over the compartments of a rectangle, each with its own play.
    """
    together = _together(design)
    if together is not None:
        return together_blocks(design.inside.contents, together)
    packing = _packing(design)
    if packing is not None:
        return (_packed(design.inside.contents[0], packing),)
    shares = _shares(design)
    if shares is not None:
        thing = design.inside.contents[0]
        return (_shared_out(thing, *arrange(thing), shares),)
    blocks = []
    x = 0.0
    for thing in design.inside.contents:
        columns, rows = arrange(thing)
        length, width = columns * thing.length_mm, rows * thing.width_mm
        blocks.append(Block(thing, columns, rows, x + thing.play_mm / 2, -width / 2, length, width))
        x += length + thing.play_mm
    return tuple(_spotted(replace(block, x_mm=block.x_mm - x / 2)) for block in blocks)


def _together(design: Design) -> Together | None:
    """How the things stand as one block, where that is wanted and there is a way."""
    wanted, things = design.inside.together, design.inside.contents
    if wanted is None or any(thing.round for thing in things):
        return None
    kinds = tuple(((thing.length_mm, thing.width_mm, thing.height_mm), thing.count) for thing in things)
    return packed_together(kinds, wanted.high_mm, (wanted.long_mm, wanted.wide_mm))


def together_blocks(things: Sequence[Thing], whole: Together) -> tuple[Block, ...]:
    """Each kind of thing where it lies in a block of all of them, the block in the box's middle."""
    long, wide, _high = whole.size
    found = []
    for kind, thing in enumerate(things):
        own = tuple(
            replace(one, at=(one.at[0] - long / 2, one.at[1] - wide / 2, one.at[2]))
            for one in whole.stood
            if one.kind == kind
        )
        lying = [(one.at, one.turned(_size(thing))) for one in own]
        x0, y0 = min(at[0] for at, _s in lying), min(at[1] for at, _s in lying)
        x1, y1 = max(at[0] + size[0] for at, size in lying), max(at[1] + size[1] for at, size in lying)
        spots = tuple((at[0] + size[0] / 2, at[1] + size[1] / 2) for at, size in lying)
        found.append(Block(thing, None, None, x0, y0, x1 - x0, y1 - y0, spots, own))
    return tuple(found)


def _size(thing: Thing) -> Size:
    return (thing.length_mm, thing.width_mm, thing.height_mm)


def footprints(block: Block) -> list[tuple[float, float, float, float, float, float]]:
    """Of things packed together each one's lowest corner and its far one (mm): x, y, z, then x, y, z."""
    found = []
    for one in block.stood:
        (x, y, z), (a, b, c) = one.at, one.turned(_size(block.thing))
        found.append((x, y, z, x + a, y + b, z + c))
    return found


def _spotted(block: Block) -> Block:
    """The block with the middle of every thing in one layer, row after row."""
    thing, columns = block.thing, block.columns or 1
    each = math.ceil(thing.count / thing.layers)
    spots = tuple(
        (
            block.x_mm + (number % columns + 0.5) * thing.length_mm,
            block.y_mm + (number // columns + 0.5) * thing.width_mm,
        )
        for number in range(each)
    )
    return replace(block, spots_mm=spots)


def _shares(design: Design) -> Dividers | None:
    """The dividers whose equal compartments one kind of things is shared out over, if any."""
    own = design.inside.dividers
    equal = own is not None and not own.widths_mm and not own.depths_mm
    return (
        own
        if equal and len(design.inside.contents) == 1 and isinstance(design.form.shape, Rectangle)
        else None
    )


def _shared_out(thing: Thing, columns: int, rows: int, dividers: Dividers) -> Block:
    """The things of one layer in equal compartments, as many columns and rows in each."""
    axes = []
    for count, number, size in (
        (columns, dividers.across, thing.length_mm),
        (rows, dividers.along, thing.width_mm),
    ):
        each = math.ceil(count / (number + 1))
        room = each * size + thing.play_mm
        over = (number + 1) * room + number * dividers.thickness_mm
        middles = [
            -over / 2
            + (place // each) * (room + dividers.thickness_mm)
            + thing.play_mm / 2
            + (place % each + 0.5) * size
            for place in range(count)
        ]
        axes.append((over - thing.play_mm, middles))
    (length, xs), (width, ys) = axes
    each = math.ceil(thing.count / thing.layers)
    spots = tuple((xs[number % columns], ys[number // columns]) for number in range(each))
    return Block(thing, columns, rows, -length / 2, -width / 2, length, width, spots)


def _packing(design: Design) -> Packing | None:
    """How round things of one kind stand in a regular polygon, unless the maker says in what columns."""
    shape = design.form.shape
    if not isinstance(shape, Regular) or len(design.inside.contents) != 1:
        return None
    thing = design.inside.contents[0]
    if not thing.round or thing.columns is not None:
        return None
    return packed(math.ceil(thing.count / thing.layers), shape.sides)


def _packed(thing: Thing, packing: Packing) -> Block:
    radius = thing.length_mm / 2
    spots = tuple((x * radius, y * radius) for x, y in packing.spots)
    x0, y0, x1, y1 = bounds(spots)
    return Block(
        thing, None, None, x0 - radius, y0 - radius, x1 - x0 + 2 * radius, y1 - y0 + 2 * radius, spots
    )


def _needs(design: Design, blocks: tuple[Block, ...]) -> tuple[float, float, float]:
    """Length, width and height the things take with their play, and with dividers among them."""
    among = (
        design.inside.dividers
        if isinstance(design.form.shape, Rectangle) and _shares(design) is None
        else None
    )
    across, along = (
        (among.across * among.thickness_mm, among.along * among.thickness_mm) if among else (0.0, 0.0)
    )
    if blocks and blocks[0].stood:
        lows, highs = zip(*((box[:3], box[3:]) for block in blocks for box in footprints(block)), strict=True)
        (x0, y0, _z0), (x1, y1, z1) = map(min, zip(*lows, strict=True)), map(max, zip(*highs, strict=True))
        play = max(block.thing.play_mm for block in blocks)
        return x1 - x0 + play + across, y1 - y0 + play + along, z1
    return (
        math.fsum(b.length_mm + b.thing.play_mm for b in blocks) + across,
        max(b.width_mm + b.thing.play_mm for b in blocks) + along,
        max(b.thing.height_mm * b.thing.layers for b in blocks),
    )


def _give(design: Design, side: int, tall: float) -> float:
    """What one wall takes beyond the things themselves: liner and lining, and its lean up to their top (mm).

    The size of the ring is that at the bottom edge, so a wall that leans outward gives some back.
    """
    slope = math.radians(design.slope_of(side))
    foot = design.floor_mm + design.inside.lining_mm
    levels = (foot, foot + tall)
    return _share(design, math.cos(slope)) - min(z * math.tan(slope) for z in levels)


def _apothem(design: Design, blocks: tuple[Block, ...], sides: int) -> float:
    """Inside apothem of a regular polygon that holds the blocks, centred (mm).

    Round things packed together as they are packed; others as the rectangle they fill.
    """
    packing = _packing(design)
    if packing is not None:
        thing = design.inside.contents[0]
        return thing.length_mm / 2 * packing.apothem + thing.play_mm / 2
    long, wide, _tall = _needs(design, blocks)
    angles = [math.radians(360.0 * i / sides - 90.0) for i in range(sides)]
    return max(long / 2 * abs(math.cos(a)) + wide / 2 * abs(math.sin(a)) for a in angles)


def follows_contents(design: Design) -> bool:
    """Whether the size of the ring comes from what it holds."""
    return bool(design.inside.contents) and isinstance(design.form.shape, Rectangle | Regular)


def sized(job: Job) -> Job:
    """The design with its height as glued, and the ring sized from its contents where there are any for that."""
    if job.design.form.height_of != "glued":
        job = replace(job, design=job.design.as_glued())
    if not follows_contents(job.design):
        return job
    held = _taking(job.design)
    first = _round(job, held)
    shape = first.design.form.shape
    if not _tapers(shape):
        return first
    # What the walls lean by follows from the size that is looked for: halfway to it, as often as it takes.
    last = job.design.form.shape
    for _ in range(_MOST_TURNS):
        last = _between(last, shape)
        found = _round(revised(job, shape=last), held)
        shape = found.design.form.shape
        apart = max(abs(a - b) for a, b in zip(_sizes(last), _sizes(shape), strict=True))
        if apart < _SAME_MM:
            return found
        if not apart < MAX_MM:
            break
    return first  # no size lets them pass the mouth: the findings say so


class _Held(NamedTuple):
    """What the things take whatever the walls lean by: their length, width and height; of a polygon its apothem."""

    long: float
    wide: float
    tall: float
    apothem: float


def _taking(design: Design) -> _Held:
    blocks, shape = _blocks(design), design.form.shape
    apothem = _apothem(design, blocks, shape.sides) if isinstance(shape, Regular) else 0.0
    return _Held(*_needs(design, blocks), apothem)


def _tapers(shape: object) -> bool:
    """Whether its size at the top is given apart, so that its walls lean by what lies between."""
    names = ("top_mm", "top_length_mm", "top_width_mm")
    return any(getattr(shape, name, None) is not None for name in names)


def _sizes(shape: object) -> tuple[float, ...]:
    if isinstance(shape, Rectangle):
        return (shape.length_mm, shape.width_mm)
    return (shape.size_mm,) if isinstance(shape, Regular) else ()


def _between(one: Shape, other: Shape) -> Shape:
    """Halfway between two sizes of a shape, measured as the second is."""
    if isinstance(one, Rectangle) and isinstance(other, Rectangle) and one.measure == other.measure:
        return replace(other, length_mm=(one.length_mm + other.length_mm) / 2,
                       width_mm=(one.width_mm + other.width_mm) / 2)  # fmt: skip
    if isinstance(one, Regular) and isinstance(other, Regular) and one.measure == other.measure:
        return replace(other, size_mm=(one.size_mm + other.size_mm) / 2)
    return other


def _round(job: Job, held: _Held) -> Job:
    """The ring sized from what it holds, its walls leaning as they do now."""
    shape, design = job.design.form.shape, job.design
    if isinstance(shape, Rectangle):
        length = held.long + 2 * _give(design, 1, held.tall)
        width = held.wide + 2 * _give(design, 0, held.tall)
        return revised(job, shape=replace(shape, length_mm=length, width_mm=width, measure="inside"))
    if isinstance(shape, Regular):
        side = 2 * (held.apothem + _give(design, 0, held.tall)) * math.tan(math.pi / shape.sides)
        return revised(job, shape=replace(shape, size_mm=side, measure="inside"))
    return job


def suiting_height(design: Design) -> float:
    """A height (mm) that just takes the contents: floor, contents, their play, and what freeing the lid takes."""
    tall = _needs(design, _blocks(design))[2] if design.inside.contents else 40.0
    over = max((thing.play_mm for thing in design.inside.contents), default=2.0)
    return design.form.height_mm - design.room_mm + tall + over + lining_up_mm(design)


def lining_up_mm(design: Design) -> float:
    """What lining takes of the height (mm): a leaf on the floor, and one under what closes the box."""
    section = design.section
    closed = section.top or (section.cover and not isinstance(section.cover, Gable))
    return design.inside.lining_mm * (2 if closed else 1)


def plan_contents(design: Design, ring: RingPlan, section: SectionPlan) -> ContentsPlan:
    """Where the things stand, and whether there is room for them."""
    if not design.inside.contents:
        return ContentsPlan()
    blocks = _blocks(design)
    long, wide, tall = _needs(design, blocks)
    room = section.room_mm - lining_up_mm(design)
    findings = []
    fmt = reader(design)
    if design.inside.together is not None and not blocks[0].stood:
        findings.append(_not_together(design, design.inside.together))
    if tall > room + DEFAULT.length_mm:
        over = tall - room
        height = fmt.up(design.form.height_mm + over)
        numbers = {"over_mm": over, "room_mm": room, "tall_mm": tall, "clear_mm": max(0.0, room)}
        fix = Fix("height", (("form.height_mm", height),), {"height_mm": height})
        kind = "" if design.section.lid else "closed"
        findings.append(Finding("contents_too_tall", "stop", Place("section"), numbers, (fix,), {}, kind))
    for number, thing in enumerate(design.inside.contents, 1):
        if thing.play_mm < _LEAST_PLAY_MM - DEFAULT.length_mm and design.inside.together is None:
            play = fmt.up(_LEAST_PLAY_MM)
            fix = Fix("play", ((f"inside.contents.{number}.play_mm", play),), {"play_mm": play})
            numbers = {"play_mm": thing.play_mm, "needed_mm": play}
            findings.append(
                Finding(
                    "contents_bind",
                    "caution",
                    Place("ring"),
                    numbers,
                    (fix,),
                    {"thing": thing.name.strip() or "things"},
                )
            )
    if not follows_contents(design) and ring.stands:
        findings += _held(design, ring, (long, wide, tall))
    return ContentsPlan(long, wide, tall, room, blocks, tuple(findings))


def _not_together(design: Design, asked: Wanted) -> Finding:
    """That the things do not stand as one block, and why."""
    things = design.inside.contents
    kind = ""
    if any(thing.round for thing in things):
        kind = "round"
    elif sum(thing.count for thing in things) > MOST_BLOCKS:
        kind = "many"
    beside = Fix("not_together", (("inside.together", False),))
    given = [name for name in asked.__struct_fields__ if getattr(asked, name)]
    freed = Fix("together_high", tuple((f"inside.together.{name}", 0.0) for name in given))
    fixes = (freed, beside) if given and not kind else (beside,)
    return Finding(
        "no_way_together", "caution", Place("ring"), {"most": float(MOST_BLOCKS)}, fixes, kind=kind
    )


def _held(design: Design, ring: RingPlan, needs: tuple[float, float, float]) -> list[Finding]:
    """For a ring that is not sized from them: whether the contents' rectangle fits its inside."""
    long, wide, tall = needs
    foot = design.floor_mm + design.inside.lining_mm
    levels = (foot, foot + tall)
    over = max(
        long / 2 * abs(slab.ux)
        + wide / 2 * abs(slab.uy)
        + _share(design, slab.cos_slope)
        - slab.inner_mm(level)
        for slab in ring.slabs
        for level in levels
    )
    if over <= DEFAULT.length_mm:
        return []
    return [Finding("contents_do_not_fit", "stop", Place("ring"), {"over_mm": over})]


def _share_room(
    box: tuple[float, float, float, float, float, float], flat: tuple[float, float, float, float]
) -> bool:
    """Whether one thing stands where a divider does, seen from above."""
    x0, y0, _z0, x1, y1, _z1 = box
    return x0 < flat[2] - 1e-6 and flat[0] < x1 - 1e-6 and y0 < flat[3] - 1e-6 and flat[1] < y1 - 1e-6


def in_the_way(
    design: Design, contents: ContentsPlan, dividers: tuple[DividerPlan, ...]
) -> tuple[Finding, ...]:
    """A caution where dividers stand in the place of things; with equal compartments where those would suit."""
    if not dividers or not contents.blocks:
        return ()
    # Sorted both ways, so that a divider looks only at the things level with it.
    sorted_by = {
        "across": [sorted(block.spots_mm) for block in contents.blocks],
        "along": [sorted(block.spots_mm, key=lambda spot: spot[1]) for block in contents.blocks],
    }
    blocked = []
    for piece in dividers:
        x0, y0, x1, y1 = bounds(piece.outline)
        axis, low, high = (0, x0, x1) if piece.run == "across" else (1, y0, y1)
        for block, spots in zip(contents.blocks, sorted_by[piece.run], strict=True):
            reach = max(block.thing.length_mm, block.thing.width_mm) / 2
            first = bisect_left(spots, low - reach, key=lambda spot: spot[axis])
            last = bisect_right(spots, high + reach, key=lambda spot: spot[axis])
            met = [box for box in footprints(block) if _share_room(box, (x0, y0, x1, y1))]
            if met or (
                not block.stood and any(_overlaps(block, spot, x0, y0, x1, y1) for spot in spots[first:last])
            ):
                blocked.append(piece.name)
                break
    if not blocked:
        return ()
    fixes = [Fix("no_dividers", (("inside.dividers", False),))]
    own = design.inside.dividers
    if (
        own
        and (own.widths_mm or own.depths_mm)
        and isinstance(design.form.shape, Rectangle)
        and len(contents.blocks) == 1
    ):
        fixes.insert(0, EQUAL_COMPARTMENTS)
    others = len(blocked) - 3
    numbers = {"others": float(others)} if others > 0 else {}
    names, kind = {"dividers": ", ".join(blocked[:3])}, "many" if others > 0 else ""
    return (Finding("divider_among_things", "caution", Place("ring"), numbers, tuple(fixes), names, kind),)


def _overlaps(block: Block, spot: Point, x0: float, y0: float, x1: float, y1: float) -> bool:
    """Whether a thing stands in the place of a divider within these bounds, seen from above."""
    thing = block.thing
    beside = max(x0 - spot[0], 0.0, spot[0] - x1)
    behind = max(y0 - spot[1], 0.0, spot[1] - y1)
    if thing.round:
        return math.hypot(beside, behind) < thing.length_mm / 2 - DEFAULT.length_mm
    tiny = DEFAULT.length_mm
    return beside < thing.length_mm / 2 - tiny and behind < thing.width_mm / 2 - tiny
