"""What stands in the box, seen from above: contents, liner, dividers; and a free ring's own sizes."""

import math
from functools import partial

from peristyle.core.outlines import bounds, box
from peristyle.core.planes import Point
from peristyle.drawing.shapes import Grip, Label, Path, Pick, Shape, Tag, midpoint
from peristyle.model import fields, ring_edits
from peristyle.model.design import Rectangle, tapers
from peristyle.model.job import Job
from peristyle.planning.inside.contents import Block, footprints
from peristyle.planning.plan import Plan

_MOST_DRAWN = 400
_MOST_TAGGED = 8


def inner_shapes(plan: Plan, chosen: Pick | None) -> list[Shape]:
    """Liner, dividers and contents inside the ring."""
    return [*_liner(plan), *_dividers(plan), *_contents(plan, chosen)]


def _liner(plan: Plan) -> list[Shape]:
    if plan.liner is None or not plan.liner.ring.sides:
        return []
    ring = plan.liner.ring
    shapes: list[Shape] = [Path(ring.outer_bottom, "panel", "solid", weight=1.0)]
    if ring.inner_bottom:
        shapes.append(Path(ring.inner_bottom, "inside", "solid", weight=1.0))
        shapes += [
            Path((a, b), "blade", closed=False, weight=0.8)
            for a, b in zip(ring.outer_bottom, ring.inner_bottom, strict=True)
        ]
    return shapes


def _dividers(plan: Plan) -> list[Shape]:
    """Dividers with their ends in the walls."""
    return [Path(piece.outline, "panel", "solid", weight=1.0) for piece in plan.dividers.pieces]


def _contents(plan: Plan, chosen: Pick | None) -> list[Shape]:
    """Each thing where it stands; a block that is too many to draw singly, as one."""
    shapes: list[Shape] = []
    shown = tagged_kind(plan, chosen)
    shapes += _stacked(plan, shown)
    for number, block in enumerate(plan.contents.blocks):
        thing = block.thing
        pick = Pick("thing", number)
        each = math.ceil(thing.count / thing.layers)
        spots = block.spots_mm if each <= _MOST_DRAWN and not block.stood else ()
        if not spots and not block.stood:
            whole = box(block.x_mm, block.y_mm, block.x_mm + block.length_mm, block.y_mm + block.width_mm)
            shapes.append(Path(whole, "follows", "tint", pick=pick))
        half = thing.length_mm / 2, thing.width_mm / 2
        for x, y in spots:
            around = (
                _circle(x, y, half[0])
                if thing.round
                else box(x - half[0], y - half[1], x + half[0], y + half[1])
            )
            shapes.append(Path(around, "quiet", "tint", weight=0.8, pick=pick))
        if block.stood:
            continue
        if number == shown and (chosen is None or chosen.kind == "thing"):
            # The one that wears the sizes of its kind.
            x, y = spot_of(block)
            own = (
                _circle(x, y, half[0])
                if thing.round
                else box(x - half[0], y - half[1], x + half[0], y + half[1])
            )
            shapes.append(Path(own, "decided", weight=1.6, pick=pick))
        if number != shown:
            middle = (block.x_mm + block.length_mm / 2, block.y_mm + block.width_mm / 2)
            shapes.append(Label(middle, f"{thing.count} {thing.name}", "follows", 9.0, pick=pick))
    return shapes


def _stacked(plan: Plan, shown: int) -> list[Shape]:
    """Things packed together as they are seen from above: each covers what lies under it; the top ones are named,
    and one of the kind whose sizes are shown stands out.
    """
    lying = [
        (z1, z0, number, (x0, y0, x1, y1))
        for number, block in enumerate(plan.contents.blocks)
        for x0, y0, z0, x1, y1, z1 in footprints(block)
    ]
    shapes: list[Shape] = []
    wears: Path | None = None
    for top, _foot, number, (x0, y0, x1, y1) in sorted(lying):
        pick, middle = Pick("thing", number), ((x0 + x1) / 2, (y0 + y1) / 2)
        shapes.append(Path(box(x0, y0, x1, y1), "panel", "solid", weight=1.0, pick=pick))
        over = [row[3] for row in lying if row[0] > top]
        if not any(a < middle[0] < c and b < middle[1] < d for a, b, c, d in over):
            if number == shown:
                wears = Path(box(x0, y0, x1, y1), "decided", weight=1.6, pick=pick)
            name = plan.contents.blocks[number].thing.name
            shapes.append(Label(middle, name, "follows", 9.0, pick=pick, room_mm=x1 - x0))
    return shapes if wears is None else [*shapes, wears]


def tagged_kind(plan: Plan, chosen: Pick | None) -> int:
    """Which kind of thing has its sizes on the drawing: the one that is picked, else the first."""
    last = len(plan.contents.blocks) - 1
    return min(chosen.index, last) if chosen is not None and chosen.kind == "thing" else 0


def _circle(x: float, y: float, radius: float) -> tuple[Point, ...]:
    steps = 28
    return tuple(
        (x + radius * math.cos(2 * math.pi * k / steps), y + radius * math.sin(2 * math.pi * k / steps))
        for k in range(steps)
    )


def contents_tags(plan: Plan, chosen: Pick | None) -> list[Tag]:
    """The sizes of one kind of thing on one of them; how many and how they stand in a row over the ring."""
    if chosen is not None and chosen.kind != "thing":
        return []  # another thing is picked: its own sizes show
    number = tagged_kind(plan, chosen)
    block = plan.contents.blocks[number]
    named = fields.thing_fields(number)
    thing = block.thing
    x, y = spot_of(block)
    half = (thing.length_mm / 2, (thing.length_mm if thing.round else thing.width_mm) / 2)
    outline = plan.ring.outer_top or plan.ring.outer_bottom
    x0, _y0, x1, y1 = bounds((*outline, *plan.ring.outer_bottom))
    row = ((x0 + x1) / 2, y1)
    tags = [
        Tag(named["length_mm"], (x, y - half[1]), shift=(8.0, 8.0), prefix="⌀" if thing.round else "long"),
        Tag(named["height_mm"], (x, y), shift=(8.0, 10.0), prefix="high"),
    ]
    if not thing.round:
        tags.append(Tag(named["width_mm"], (x + half[0], y), shift=(0.0, -6.0), prefix="wide"))
    rest: tuple[tuple[str, str], ...] = (
        ("count", "count"), ("columns", "columns"), ("layers", "layers"), ("play_mm", "play"),
    )  # fmt: skip
    shift = -148.0
    if plan.job.design.inside.together is not None:
        rest = (rest[0], rest[3])
        tags.append(Tag(fields.TOGETHER_HIGH, row, shift=(shift, 50.0), prefix="no higher"))
        shift += 98.0
    for name, word in rest:
        tags.append(Tag(named[name], row, shift=(shift, 50.0), prefix=word))
        shift += 74.0
    tags.append(Tag(fields.LINING, row, shift=(shift, 50.0), prefix="lining"))
    return tags


def spot_of(block: Block) -> Point:
    """The middle of the thing that wears its kind's sizes: the nearest to the block's middle."""
    middle = (block.x_mm + block.length_mm / 2, block.y_mm + block.width_mm / 2)
    return min(block.spots_mm or (middle,), key=lambda p: (p[0] - middle[0]) ** 2 + (p[1] - middle[1]) ** 2)


def picked_side_tags(plan: Plan, chosen: Pick | None, reach: float) -> list[Tag]:
    """The picked side's own lean and thickness, beside it."""
    if chosen is None or chosen.kind != "side" or chosen.index >= len(plan.ring.sides):
        return []
    slab = plan.ring.slabs[chosen.index]
    mid = midpoint(plan.ring.outer_bottom[chosen.index - 1], plan.ring.outer_bottom[chosen.index])
    back = slab.level_thickness_mm + reach * 0.13
    at = (mid[0] - slab.ux * back, mid[1] - slab.uy * back)
    tags = [Tag(fields.side_thickness(chosen.index), at, shift=(24.0, 11.0), prefix="this side")]
    if not tapers(plan.job.design):
        tags.append(Tag(fields.side_slope(chosen.index), at, shift=(24.0, -13.0), prefix="leans"))
    return tags


def taper_tags(plan: Plan) -> list[Tag]:
    """Sizes at the top, over the drawing."""
    if not tapers(plan.job.design):
        return []
    x0, _y0, x1, y1 = bounds(plan.ring.outer_top)
    if plan.job.design.form.shape.measure.startswith("across") or not hasattr(
        plan.job.design.form.shape, "length_mm"
    ):
        return [Tag(fields.TOP_SIZE, ((x0 + x1) / 2, y1), shift=(0.0, 30.0), prefix="at the top")]
    return [
        Tag(fields.TOP_LENGTH, ((x0 + x1) / 2, y1), shift=(-10.0, 30.0), prefix="at the top"),
        Tag(fields.TOP_WIDTH, ((x0 + x1) / 2, y1), shift=(52.0, 30.0), prefix="×"),
    ]


def compartment_tags(plan: Plan) -> list[Tag]:
    """Clear widths along side C and depths along side D, all but the last, which follows."""
    found = plan.dividers
    if not found.widths_mm or not plan.ring.stands or len(found.widths_mm) + len(found.depths_mm) > 14:
        return []
    walls = plan.liner.ring if found.in_liner and plan.liner else plan.ring
    x0, y0, _x1, y1 = bounds(walls.inner_bottom)
    thick = plan.job.design.inside.dividers.thickness_mm if plan.job.design.inside.dividers else 0.0
    # In a rectangle along its walls; elsewhere in the middle, where no wall cuts in.
    upright = isinstance(plan.job.design.form.shape, Rectangle)
    middle_y = y0 + math.fsum(found.depths_mm[: len(found.depths_mm) // 2]) + found.depths_mm[-1] / 2
    middle_x = x0 + math.fsum(found.widths_mm[: len(found.widths_mm) // 2]) + found.widths_mm[-1] / 2
    tags = []
    at = x0
    for i, wide in enumerate(found.widths_mm[:-1]):
        field = fields.compartment(i, "widths_mm", found.widths_mm)
        spot = (at + wide / 2, y1 if upright else middle_y)
        tags.append(Tag(field, spot, shift=(0.0, -40.0 if upright else 22.0)))
        at += wide + thick
    at = y0
    for i, deep in enumerate(found.depths_mm[:-1]):
        field = fields.compartment(i, "depths_mm", found.depths_mm)
        spot = (x0 if upright else middle_x, at + deep / 2)
        tags.append(Tag(field, spot, shift=(24.0 if upright else 0.0, 0.0 if upright else -4.0)))
        at += deep + thick
    return tags


def liner_tags(plan: Plan) -> list[Tag]:
    """The liner's wall and gap beside its upper left corner."""
    if plan.liner is None or not plan.liner.ring.sides:
        return []
    _x0, _y0, _x1, y1 = bounds(plan.ring.outer_bottom)
    return [
        Tag(fields.LINER_THICKNESS, (0.0, y1), shift=(-40.0, 26.0), prefix="liner"),
        Tag(fields.LINER_GAP, (0.0, y1), shift=(60.0, 26.0), prefix="gap"),
    ]


def divider_tags(plan: Plan) -> list[Tag]:
    """The dividers' thickness and the depth of their dadoes, over the drawing."""
    if plan.job.design.inside.dividers is None or not plan.ring.sides:
        return []
    x0, _y0, x1, y1 = bounds(plan.ring.outer_bottom)
    at = (x1 - x0) * 0.2
    return [
        Tag(fields.DIVIDER_THICKNESS, (x0 + at, y1), shift=(0.0, 52.0), prefix="divider"),
        Tag(fields.DADO, (x1 - at, y1), shift=(0.0, 52.0), prefix="dado"),
    ]


def free_ring(plan: Plan, chosen: Pick | None, reach: float) -> tuple[list[Tag], list[Grip]]:
    """A free ring's sides and corners to type, its corners to drag. With many sides, those picked."""
    ring = plan.ring
    count = len(ring.sides)
    few = count <= _MOST_TAGGED
    inside = plan.job.design.form.shape.measure == "inside" and ring.stands
    outline = ring.inner_bottom if inside else ring.outer_bottom
    picked = chosen.index % count if chosen is not None and chosen.kind in ("side", "corner") else -1
    tags: list[Tag] = []
    grips: list[Grip] = []
    slack = reach * 0.022
    for i in range(count):
        slab = ring.slabs[i]
        if few or i == picked:
            mid = midpoint(ring.outer_bottom[i - 1], ring.outer_bottom[i])
            at = (mid[0] + slab.ux * reach * 0.07, mid[1] + slab.uy * reach * 0.07)
            tags.append(Tag(fields.side_length(i), at))
        after = ring.slabs[(i + 1) % count]
        bx, by = slab.ux + after.ux, slab.uy + after.uy
        size = math.hypot(bx, by) or 1.0
        if few or i == picked:
            p = ring.inner_bottom[i] if ring.stands else ring.outer_bottom[i]
            at = (p[0] - bx / size * reach * 0.075, p[1] - by / size * reach * 0.075)
            tags.append(Tag(fields.corner_angle(i), at))
        x, y = outline[i]
        grips.append(
            Grip(box(x - slack, y - slack, x + slack, y + slack), partial(_move, i), "Drag a corner")
        )
    return tags, grips


def _move(corner: int, job: Job, dx: float, dy: float) -> Job | None:
    return ring_edits.move_corner(job, corner, dx, dy)
