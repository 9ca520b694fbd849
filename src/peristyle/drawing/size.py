"""The ring from above, to scale, with the sizes it is built on."""

import math

from peristyle.core.lengths import Format
from peristyle.core.outlines import bounds
from peristyle.core.planes import Point
from peristyle.drawing.frieze import MOST_LETTERS
from peristyle.drawing.inner import (
    compartment_tags,
    contents_tags,
    divider_tags,
    free_ring,
    inner_shapes,
    liner_tags,
    picked_side_tags,
    taper_tags,
)
from peristyle.drawing.openring import open_ring_drawing
from peristyle.drawing.shapes import (
    Drawing,
    Grip,
    Handle,
    Label,
    Path,
    Pick,
    Shape,
    Tag,
    dimension,
    line,
    midpoint,
)
from peristyle.model import fields
from peristyle.model.design import Design, House, Outline, Rectangle, Regular, side_name
from peristyle.planning.inside.contents import follows_contents
from peristyle.planning.plan import Plan
from peristyle.words.findings import said

_BETWEEN_LETTERS = 0.7  # of the way from wall to wall: the rest is for the sides' letters along them
_WORDS_WIDE = 0.55  # of the drawing, that the words in its middle take across


def size_drawing(plan: Plan, fmt: Format, chosen: Pick | None = None) -> Drawing:
    """Ring, letters, bevels, inside and outside sizes. A ring that cannot be says why in words."""
    ring = plan.ring
    if ring.walk:
        return open_ring_drawing(plan, fmt, chosen)
    if not ring.sides:
        return _unmade(plan, fmt)
    shapes: list[Shape] = []
    outer, inner = ring.outer_bottom, ring.inner_bottom
    lapped = any(corner.lapped for corner in ring.corners)
    around = (
        [p for side in ring.sides for p in (*side.foot, *side.head)] if lapped else outer + ring.outer_top
    )
    x0, y0, x1, y1 = bounds(around)
    reach = max(x1 - x0, y1 - y0)
    if ring.inner_bottom:
        shapes.append(Path(inner, "inside", "solid", weight=0.6))
    for side in ring.sides:
        quad = side.foot if inner else side.foot[:2]
        edge = 1.2 if lapped else 0.0
        shapes.append(Path(quad, "wood", "solid", weight=edge, pick=Pick("side", side.index)))
    # Outlines once round, over the walls.
    if not lapped:
        shapes.append(Path(outer, weight=1.2))
    if inner:
        shapes.append(Path(inner, weight=1.2))
    if any(abs(side.slope_deg) > 1e-9 for side in ring.sides):
        shapes.append(Path(ring.outer_top, "quiet", dash=True, weight=0.8))
    for panel in plan.section.panels:
        shapes.append(Path(panel.outline, "panel", dash=True, weight=0.8))
    shapes += inner_shapes(plan, chosen)
    shapes += _corner_marks(plan, fmt, reach)
    shapes += _letters(plan, reach)
    tags, handles, more = _sizes(plan, fmt, (x0, y0, x1, y1), reach, chosen)
    shapes += more
    pad = reach * 0.2
    # Sizes stand below and at the right; over the ring, where a row of them stands there.
    row = bool(plan.contents.blocks or plan.liner or plan.dividers.pieces) or follows_contents(
        plan.job.design
    )
    return Drawing(
        tuple(shapes), tuple(tags), tuple(handles),
        (x0 - pad * 0.75, y0 - pad, x1 + pad, y1 + pad * (1.0 if row else 0.5)), _words(plan, fmt),
    )  # fmt: skip


def _unmade(plan: Plan, fmt: Format) -> Drawing:
    """A ring that cannot be made: its outline at the foot, and the sizes it is built on."""
    why = next((said(f, fmt) for f in plan.findings if f.severity == "stop"), "")
    outer = plan.ring.outer_bottom
    if not outer:
        return Drawing(
            shapes=(Label((50.0, 50.0), "No ring yet", "caution", 14.0, bold=True),),
            words=f"No ring can be drawn. {why}",
        )
    x0, y0, x1, y1 = bounds(outer)
    reach = max(x1 - x0, y1 - y0, 1.0)
    away = reach * 0.155
    shapes: list[Shape] = [Path(outer, "caution", dash=True, weight=1.6)]
    shapes.append(Label(((x0 + x1) / 2, (y0 + y1) / 2), "cannot be made so", "caution", 11.0, bold=True))
    tags: list[Tag] = []
    shape = plan.job.design.form.shape
    if isinstance(shape, Rectangle):
        own, _handles, more = _rectangle(plan, shape, (x0, y0, x1, y1), away, reach)
        tags, shapes = own, [*shapes, *more]
    elif isinstance(shape, Regular):
        one, more = _regular_size(plan, shape, (x0, y0, x1, y1), away)
        tags, shapes = [one], [*shapes, *more]
    elif isinstance(shape, Outline):
        tags = free_ring(plan, None, reach)[0]
    else:
        sizes = (
            [fields.FLOOR, fields.WALL, fields.PITCH]
            if isinstance(shape, House)
            else [fields.FIRST, fields.SECOND]
        )
        middle = ((x0 + x1) / 2, y0)
        tags = [Tag(field, middle, shift=(80.0 * k - 80.0, -24.0)) for k, field in enumerate(sizes)]
    if plan.contents.blocks:
        tags += contents_tags(plan, None)
    tags.append(_thickness_tag(plan, reach, shapes))
    tags += taper_tags(plan)
    pad = reach * 0.2
    return Drawing(
        tuple(shapes), tuple(tags), bounds=(x0 - pad, y0 - pad, x1 + pad, y1 + pad),
        words=f"The ring cannot be made. {why}",
    )  # fmt: skip


def _letters(plan: Plan, reach: float) -> list[Shape]:
    """Each side's letter just inside its wall, the front marked outside."""
    shapes: list[Shape] = []
    ring = plan.ring
    every = math.ceil(len(ring.sides) / MOST_LETTERS)
    for side, slab in zip(ring.sides, ring.slabs, strict=True):
        if side.index % every and side.index != plan.job.design.form.front:
            continue
        a, b = ring.outer_bottom[side.index - 1], ring.outer_bottom[side.index]
        mid = midpoint(a, b)
        back = slab.level_thickness_mm + reach * 0.035
        at = (mid[0] - slab.ux * back, mid[1] - slab.uy * back)
        if any(_covers(piece.outline, at, reach * 0.03) for piece in plan.dividers.pieces):
            aside = reach * 0.06  # back along the side, clear of a divider's end
            at = (at[0] + slab.uy * aside, at[1] - slab.ux * aside)
        shapes.append(Label(at, side.name, "follows", 11.0, bold=True, pick=Pick("side", side.index)))
        if side.index == plan.job.design.form.front:
            out = reach * 0.022
            tip = (mid[0] + slab.ux * out * 0.3, mid[1] + slab.uy * out * 0.3)
            wing = out * 0.7
            base = (mid[0] + slab.ux * out * 1.3, mid[1] + slab.uy * out * 1.3)
            shapes.append(
                Path((tip, (base[0] - slab.uy * wing, base[1] + slab.ux * wing),
                      (base[0] + slab.uy * wing, base[1] - slab.ux * wing)), "decided", "solid")
            )  # fmt: skip
    return shapes


def _covers(outline: tuple[Point, ...], at: Point, margin: float) -> bool:
    """Whether a divider lies under a point, or as near as `margin` (mm)."""
    x0, y0, x1, y1 = bounds(outline)
    return x0 - margin < at[0] < x1 + margin and y0 - margin < at[1] < y1 + margin


def _corner_marks(plan: Plan, fmt: Format, reach: float) -> list[Shape]:
    """The miter line of each corner, its bevels outside, and the closing corner's mark."""
    ring = plan.ring
    count = len(ring.sides)
    shapes: list[Shape] = []
    every = 1 if count <= 12 else count
    for corner in ring.corners:
        i = corner.index
        p = ring.outer_bottom[i]
        first, second = ring.sides[i], ring.sides[(i + 1) % count]
        s0, s1 = ring.slabs[i], ring.slabs[(i + 1) % count]
        bx, by = s0.ux + s1.ux, s0.uy + s1.uy
        size = math.hypot(bx, by) or 1.0
        bx, by = bx / size, by / size
        if ring.inner_bottom:
            shapes.append(Path(corner.joint, "blade", closed=False, weight=1.6, pick=Pick("corner", i)))
        if i % every == 0:
            a, b = first.end.bevel_deg, second.start.bevel_deg
            text = fmt.angle(a) if abs(a - b) < 0.005 else f"{fmt.angle(a)} | {fmt.angle(b)}"
            # Clear of the top's outline where the sides lean outward.
            tx, ty = ring.outer_top[i]
            out = max(0.0, (tx - p[0]) * bx + (ty - p[1]) * by) + reach * 0.02
            at = (p[0] + bx * out, p[1] + by * out)
            shapes.append(Label(at, text, "blade", 8.5, pick=Pick("corner", i),
                                shift=(bx * 16, by * 9)))  # fmt: skip
        if corner.closing:
            shapes += _closing_mark(p, (bx, by), reach)
    return shapes


def _closing_mark(p: Point, out: Point, reach: float) -> list[Shape]:
    """Two short strokes across the corner: here the grain does not run on."""
    shapes: list[Shape] = []
    for k in (0.010, 0.019):
        cx, cy = p[0] + out[0] * reach * k, p[1] + out[1] * reach * k
        w = reach * 0.016
        shapes.append(
            line((cx - out[1] * w, cy + out[0] * w), (cx + out[1] * w, cy - out[0] * w), "caution", 2.0)
        )
    return shapes


def _sizes(
    plan: Plan, fmt: Format, limits: tuple[float, float, float, float], reach: float, chosen: Pick | None
) -> tuple[list[Tag], list[Handle | Grip], list[Shape]]:
    """Decided sizes as tags on dimension lines; the ones that follow, quieter, inside."""
    away = reach * 0.155
    tags: list[Tag] = []
    handles: list[Handle | Grip] = []
    shapes: list[Shape] = []
    shape = plan.job.design.form.shape
    if follows_contents(plan.job.design):
        shapes += _following(plan, fmt, limits, away)
    elif isinstance(shape, Rectangle):
        tags, handles, shapes = _rectangle(plan, shape, limits, away, reach)
    elif isinstance(shape, Regular):
        tag, more = _regular_size(plan, shape, limits, away)
        tags.append(tag)
        shapes += more
    elif isinstance(shape, Outline):
        own, grips = free_ring(plan, chosen, reach)
        tags += own
        handles += grips
        if not any(tag.field.id.endswith(".length_mm") and tag.field.id.startswith("sides.") for tag in own):
            shapes += _side_lengths(plan, fmt, reach)
    else:
        pairs = (
            ((fields.FLOOR, 0), (fields.WALL, 1))
            if isinstance(shape, House)
            else ((fields.FIRST, 0), (fields.SECOND, 1))
        )
        for field, index in pairs:
            a, b = plan.ring.outer_bottom[index - 1], plan.ring.outer_bottom[index]
            slab = plan.ring.slabs[index]
            out = (slab.ux * away, slab.uy * away)
            shapes += dimension(a, b, out, role="decided")
            mid = midpoint(a, b)
            tags.append(Tag(field, (mid[0] + out[0], mid[1] + out[1])))
        if isinstance(shape, House):
            ridge = plan.ring.outer_bottom[2]
            tags.append(Tag(fields.PITCH, ridge, shift=(70.0, 14.0), prefix="pitch"))
            tags.append(Tag(fields.OVERHANG, ridge, shift=(-70.0, 14.0), prefix="overhang"))
    tags.append(_thickness_tag(plan, reach, shapes))
    if plan.contents.blocks:
        tags += contents_tags(plan, chosen)
    elif not plan.dividers.pieces and not _stands_within(plan, reach):
        shapes += _inside_words(plan, fmt)  # what would run through the words: the reckoning has them
    tags += liner_tags(plan) + divider_tags(plan) + taper_tags(plan) + compartment_tags(plan)
    tags += picked_side_tags(plan, chosen, reach)
    return tags, handles, shapes


def _rectangle(
    plan: Plan, shape: Rectangle, limits: tuple[float, float, float, float], away: float, reach: float
) -> tuple[list[Tag], list[Handle | Grip], list[Shape]]:
    """Length and width on dimension lines; two walls to drag."""
    _x0, y0, x1, _y1 = limits
    ring = plan.ring
    outline = ring.inner_bottom if shape.measure == "inside" and ring.stands else ring.outer_bottom
    left, low, right, high = bounds(outline)
    shapes = dimension((left, y0), (right, y0), (0.0, -away), role="decided")
    shapes += dimension((x1, low), (x1, high), (away, 0.0), role="decided")
    tags = [
        Tag(fields.LENGTH, ((left + right) / 2, y0 - away)),
        Tag(fields.WIDTH, (x1 + away, (low + high) / 2)),
    ]
    grip = reach * 0.02
    handles: list[Handle | Grip] = [
        Handle(fields.LENGTH, _strip((right, low), (right, high), grip), (1.0, 0.0), 2.0),
        Handle(fields.WIDTH, _strip((left, high), (right, high), grip), (0.0, 1.0), 2.0),
    ]
    return tags, handles, shapes


def _following(
    plan: Plan, fmt: Format, limits: tuple[float, float, float, float], away: float
) -> list[Shape]:
    """The inside that follows from the contents: ink, not to be typed."""
    if not plan.ring.stands:
        return []
    _x0, y0, x1, _y1 = limits
    left, low, right, high = bounds(plan.ring.inner_bottom)
    return [
        *dimension((left, y0), (right, y0), (0.0, -away), f"inside {fmt.length(right - left)}"),
        *dimension((x1, low), (x1, high), (away, 0.0)),
        Label((x1 + away, (low + high) / 2), fmt.length(high - low), turn_deg=90.0, shift=(-9.0, 0.0)),
    ]


def _strip(a: Point, b: Point, half: float) -> tuple[Point, ...]:
    (ax, ay), (bx, by) = a, b
    run = math.hypot(bx - ax, by - ay) or 1.0
    nx, ny = -(by - ay) / run * half, (bx - ax) / run * half
    return ((ax + nx, ay + ny), (ax - nx, ay - ny), (bx - nx, by - ny), (bx + nx, by + ny))


def _regular_size(
    plan: Plan, shape: Regular, limits: tuple[float, float, float, float], away: float
) -> tuple[Tag, list[Shape]]:
    """The one size of a regular polygon where it applies: along side A, or across."""
    _x0, y0, x1, _y1 = limits
    ring = plan.ring
    if shape.measure in ("inside", "outside"):
        outline = ring.inner_bottom if shape.measure == "inside" and ring.stands else ring.outer_bottom
        a, b = outline[-1], outline[0]
        shapes = dimension((a[0], y0), (b[0], y0), (0.0, -away), role="decided")
        return Tag(fields.SIZE, ((a[0] + b[0]) / 2, y0 - away)), shapes
    half = shape.size_mm / 2
    if shape.measure == "across_flats":
        shapes = dimension((x1, -half), (x1, half), (away, 0.0), role="decided")
        return Tag(fields.SIZE, (x1 + away, half * 0.22)), shapes
    # Across corners: through the middle, along the corner after side A.
    corner = ring.outer_bottom[0]
    far = (-corner[0], -corner[1])
    shapes = [line(far, corner, "decided", 0.9)]
    return Tag(fields.SIZE, (corner[0] * -0.45, corner[1] * -0.45)), shapes


def _side_lengths(plan: Plan, fmt: Format, reach: float) -> list[Shape]:
    shapes: list[Shape] = []
    for side, slab in zip(plan.ring.sides, plan.ring.slabs, strict=True):
        mid = midpoint(plan.ring.outer_bottom[side.index - 1], plan.ring.outer_bottom[side.index])
        at = (mid[0] + slab.ux * reach * 0.05, mid[1] + slab.uy * reach * 0.05)
        shapes.append(Label(at, fmt.length(side.outside_mm), "follows", 9.0))
    return shapes


def _thickness_tag(plan: Plan, reach: float, shapes: list[Shape]) -> Tag:
    """The wall's thickness, read off a side on the left, away from the other sizes."""
    ring = plan.ring
    index = min(range(len(ring.slabs)), key=lambda i: ring.slabs[i].ux + 0.3 * ring.slabs[i].uy)
    slab = ring.slabs[index]
    a, b = ring.outer_bottom[index - 1], ring.outer_bottom[index]
    # Along the side: clear of a free ring's lengths, and low on a house's wall, clear of its eaves.
    part = {Outline: 0.12, House: 0.62}.get(type(plan.job.design.form.shape), 0.28)
    at = (a[0] + (b[0] - a[0]) * part, a[1] + (b[1] - a[1]) * part)
    back = slab.level_thickness_mm
    foot = (at[0] - slab.ux * back, at[1] - slab.uy * back)
    out = reach * 0.05
    shapes.append(line((foot[0], foot[1]), (at[0] + slab.ux * out, at[1] + slab.uy * out), "decided", 0.9))
    return Tag(
        fields.THICKNESS,
        (at[0] + slab.ux * out, at[1] + slab.uy * out),
        shift=(slab.ux * 22, slab.uy * 8),
        prefix="thick",
    )


def across_words(design: Design, plan: Plan, fmt: Format) -> list[tuple[str, str]]:
    """The sizes that follow, for whoever asks: name and value."""
    ring = plan.ring
    if not ring.sides:
        return []
    found: list[tuple[str, str]] = []
    if isinstance(design.form.shape, Regular):
        count = design.form.shape.sides
        slab = ring.slabs[0]
        apothem = slab.outer_mm(0.0)
        inner = slab.inner_mm(0.0)
        half = math.cos(math.pi / count)
        side = ring.sides[0]
        found = [
            ("Side, outside", fmt.length(side.outside_mm)),
            ("Side, inside", "none" if side.inside_mm is None else fmt.length(side.inside_mm)),
            ("Across flats, outside", fmt.length(2 * apothem)),
            ("Across flats, inside", fmt.length(2 * inner)),
            ("Across corners, outside", fmt.length(2 * apothem / half)),
        ]
    else:
        for word, outline in (("Outside", ring.outer_bottom), ("Inside", ring.inner_bottom)):
            if outline:
                x0, y0, x1, y1 = bounds(outline)
                found.append((word, f"{fmt.length(x1 - x0)} × {fmt.length(y1 - y0)}"))
    if ring.stands and any(abs(s.slope_deg) > 1e-9 for s in ring.sides):
        x0, y0, x1, y1 = bounds(ring.outer_top)
        found.append(("Outside at the top", f"{fmt.length(x1 - x0)} × {fmt.length(y1 - y0)}"))
    return found


def _stands_within(plan: Plan, reach: float) -> bool:
    """Whether a liner stands so far from the walls that it leaves no room for words in its middle."""
    if plan.liner is None or not plan.liner.ring.inner_bottom:
        return False
    x0, y0, x1, y1 = bounds(plan.liner.ring.inner_bottom)
    return min(x1 - x0, y1 - y0) < _WORDS_WIDE * reach


def _inside_words(plan: Plan, fmt: Format) -> list[Shape]:
    """The sizes that follow, quiet, in the middle of the ring."""
    if not plan.ring.stands:
        return [Label((0.0, 0.0), "no room inside", "caution", 11.0, bold=True)]
    rows = across_words(plan.job.design, plan, fmt)
    job = plan.job
    rows = [r for r in rows if not r[0].endswith("at the top")]  # the reckoning has it
    if isinstance(job.design.form.shape, Rectangle | Regular):
        said = fields.MEASURE_WORDS[job.design.form.shape.measure]
        same = {said, f"{said}, outside", f"side, {said}"}
        rows = [r for r in rows if r[0].lower() not in same]
    shapes: list[Shape] = []
    texts = [f"{name}  {value}" for name, value in rows]
    # All of them or none, as far as their letters tell how wide they are: the reckoning has them too.
    room = _across_the_middle(plan.ring.inner_bottom) * _BETWEEN_LETTERS / max(map(len, texts), default=1)
    for number, text in enumerate(texts):
        shift = (0.0, (len(rows) - 1) * 9.0 - number * 18.0)
        shapes.append(Label((0.0, 0.0), text, "quiet", 9.0, shift=shift, room_mm=room * len(text)))
    return shapes


def _across_the_middle(outline: tuple[Point, ...]) -> float:
    """How far it is from wall to wall through the middle, from left to right; 0 where that lies in no room."""
    crossed = [
        a[0] + (b[0] - a[0]) * a[1] / (a[1] - b[1])
        for a, b in zip(outline, (*outline[1:], *outline[:1]), strict=True)
        if (a[1] > 0) != (b[1] > 0)
    ]
    return max(crossed) - min(crossed) if crossed else 0.0


def _words(plan: Plan, fmt: Format) -> str:
    """The drawing in a sentence or two."""
    ring = plan.ring
    sides = ", ".join(
        f"{s.name} {fmt.length(s.outside_mm, unit=True)} outside"
        + ("" if s.inside_mm is None else f", {fmt.length(s.inside_mm, unit=True)} inside")
        for s in ring.sides[:8]
    )
    more = f" and {len(ring.sides) - 8} more" if len(ring.sides) > 8 else ""
    return (
        f"A ring of {len(ring.sides)} sides seen from above: {sides}{more}. Front is side "
        f"{side_name(plan.job.design.form.front)}."
    )
