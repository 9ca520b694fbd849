"""The boxes a board offers, to choose from: a curve, a row of polygons, or one ring growing."""

import math

from peristyle.core.lengths import Format
from peristyle.core.outlines import box
from peristyle.core.planes import Point
from peristyle.drawing.shapes import Drawing, Grip, Label, Path, Shape, line
from peristyle.model.job import Job
from peristyle.planning.plan import Plan
from peristyle.planning.stock.offers import Offers, offers_of, taken

_SAYS = "Choose from the board"


def largest_drawing(plan: Plan, fmt: Format) -> Drawing:
    """Every offer is a box that uses the board to its end; drag along them, or click one."""
    offers = offers_of(plan.job)
    if offers is None:
        return _nothing(plan)
    return _polygons(plan, offers, fmt) if offers.family == "sides" else _curve(plan, offers, fmt)


def _nothing(plan: Plan) -> Drawing:
    job = plan.job
    text = "No box of these proportions comes from this board."
    if job.design.inside.contents:
        text = "Sized from its contents."
    elif plan.wrap.pieces and plan.wrap.tiers < 1:
        text = "The board is too narrow for sides of this height."
    return Drawing((Label((100.0, 50.0), text, "quiet", 10.0),), bounds=(0.0, 0.0, 200.0, 100.0), words=text)


def _curve(plan: Plan, offers: Offers, fmt: Format) -> Drawing:
    """One size against another, both to one scale, so that a rectangle at the point is the box's own."""
    curve = tuple((offer.x, offer.y) for offer in offers.offers)
    now = offers.now
    right = max(*(x for x, _y in curve), now[0]) * 1.12
    top = max(*(y for _x, y in curve), now[1]) * 1.25
    trade = offers.family == "trade"
    under = ((0.0, 0.0), *((curve[0], *curve[1:], (curve[-1][0], 0.0)) if trade else ()))
    shapes: list[Shape] = [
        line((0.0, 0.0), (right, 0.0), "quiet", 0.8),
        line((0.0, 0.0), (0.0, top), "quiet", 0.8),
        Label((right, 0.0), f"{offers.words[0]}, {fmt.units}", "quiet", 8.5, anchor="left", shift=(6.0, 0.0)),
        Label((0.0, top), f"{offers.words[1]}, {fmt.units}", "quiet", 8.5, anchor="left", shift=(6.0, 0.0)),
        *_figures(right, top, fmt),
        Path(under, "decided", "tint", weight=0.0),
        Path(curve, "decided", closed=False, weight=1.8),
        Path(box(0.0, 0.0, *now), "wood", weight=1.0, dash=True),
    ]
    if not trade:
        shapes += _ring_at(plan)
        shapes.append(Path(box(0.0, 0.0, *curve[-1]), "decided", weight=1.0, dash=True))
    dot = right * 0.016
    shapes.append(_dot(now, dot, plan.wrap.spare_mm >= 0))
    words = f"{fmt.length(now[0])} × {fmt.length(now[1])}"
    shapes.append(Label(now, f"now {words}", "follows", 9.5, bold=True, anchor="left", shift=(9.0, 8.0)))
    wide = max(right * 1.1, min(right * 4.2, top * 4.6))
    said = (
        "Largest boxes from this board" if trade else "From small to the largest from this board",
        "Every point of the line uses the board to its end." if trade else "The line: the ring growing.",
        "Click or drag along it, or use the arrow keys,",
        "to make the box that one.",
    )
    for number, text in enumerate(said):
        at = (right * 1.1 + (wide - right * 1.1) * 0.3, top)
        shapes.append(Label(at, text, "quiet" if number else "follows", 9.0, bold=not number, anchor="left",
                            shift=(0.0, -8.0 - 15.0 * number)))  # fmt: skip
    lead = "Largest boxes from this board: from" if trade else "From this board: from"
    return Drawing(
        tuple(shapes),
        handles=(_grip(offers, box(0.0, 0.0, right, top)),),
        bounds=(-right * 0.03, -top * 0.12, wide, top * 1.05),
        words=f"{lead} {fmt.length(curve[0][0])} × {fmt.length(curve[0][1])} to {fmt.length(curve[-1][0])} × "
        f"{fmt.length(curve[-1][1])}. The board's length sets the limit. The box is {words}.",
    )


def _figures(right: float, top: float, fmt: Format) -> list[Shape]:
    """Round figures along both axes, with their ticks."""
    unit = 25.4 if fmt.units == "in" else 1.0
    rough = max(right, top) / unit / 4
    size = 10.0 ** math.floor(math.log10(rough)) if rough > 0 else 1.0
    step = next(s for s in (size, 2 * size, 5 * size, 10 * size) if s >= rough) * unit
    shapes: list[Shape] = []
    for k in range(1, 9):
        at = k * step
        if at <= right:
            shapes.append(line((at, 0.0), (at, -top * 0.03), "quiet", 0.8))
            shapes.append(Label((at, 0.0), fmt.length(at), "quiet", 8.0, shift=(0.0, -9.0)))
        if at <= top:
            shapes.append(line((0.0, at), (-right * 0.015, at), "quiet", 0.8))
            shapes.append(Label((0.0, at), fmt.length(at), "quiet", 8.0, anchor="right", shift=(-6.0, 0.0)))
    return shapes


def _ring_at(plan: Plan) -> list[Shape]:
    """The ring itself from above, in the corner of the two axes."""
    points = plan.ring.outer_bottom
    if not points:
        return []
    x, y = min(p[0] for p in points), min(p[1] for p in points)
    return [Path(tuple((p[0] - x, p[1] - y) for p in points), "wood", "tint", weight=1.2)]


def _dot(at: Point, size: float, fits: bool) -> Path:
    return Path(
        box(at[0] - size, at[1] - size, at[0] + size, at[1] + size), "decided" if fits else "caution", "solid"
    )


def _grip(offers: Offers, area: tuple[Point, ...]) -> Grip:
    """Along the offers: the nearest to where the pointer is."""
    now = offers.now

    def move(start: Job, dx: float, dy: float) -> Job | None:
        return taken(start, offers.nearest(now[0] + dx, now[1] + dy))

    def click(start: Job, x: float, y: float) -> Job | None:
        return taken(start, offers.nearest(x, y))

    def step(start: Job, way: int) -> Job | None:
        nearest = offers.offers.index(offers.nearest(*now))
        there = nearest + way
        return taken(start, offers.offers[there]) if 0 <= there < len(offers.offers) else None

    return Grip(area, move, _SAYS, click, step)


def _polygons(plan: Plan, offers: Offers, fmt: Format) -> Drawing:
    """The largest polygon of each number of sides in a row, all to one scale; the box as it is dashed."""
    reach = max(offer.y for offer in offers.offers)
    reach = max(reach, offers.now[1])
    shapes: list[Shape] = []
    now = round(offers.now[0])
    for offer in offers.offers:
        count = round(offer.x)
        middle = offer.x
        mine = count == now
        shapes.append(
            Path(_polygon(count, offer.y, middle, reach), "decided", "tint", weight=2.0 if mine else 0.9)
        )
        if mine:
            fits = plan.wrap.spare_mm >= 0
            shapes.append(
                Path(
                    _polygon(count, offers.now[1], middle, reach),
                    "wood" if fits else "caution",
                    weight=1.4,
                    dash=True,
                )
            )
        shapes.append(Label((middle, -0.5), f"{count}", "follows" if mine else "quiet", 9.0, bold=mine,
                            shift=(0.0, -8.0)))  # fmt: skip
        shapes.append(Label((middle, 0.5), fmt.length(offer.y), "follows" if mine else "quiet", 8.5, bold=mine,
                            shift=(0.0, 8.0)))  # fmt: skip
    first, last = offers.offers[0], offers.offers[-1]
    said = (f"The largest polygons from this board, by number of sides; across the flats, {fmt.units}. "
            "Click one, drag, or use the arrow keys to make the box that one.")  # fmt: skip
    shapes.append(Label((first.x - 0.6, 0.72), said, "quiet", 8.5, anchor="left", shift=(0.0, 6.0)))
    return Drawing(
        tuple(shapes),
        handles=(_grip(offers, box(first.x - 0.5, -0.6, last.x + 0.5, 0.6)),),
        bounds=(first.x - 0.6, -0.72, last.x + 0.6, 0.9),
        words="Largest polygons from this board, across the flats: "
        + ", ".join(f"{round(offer.x)} sides {fmt.length(offer.y)}" for offer in offers.offers)
        + f". The board's length sets the limit. The box has {now} sides and is {fmt.length(offers.now[1])} across.",
    )


def _polygon(count: int, across: float, middle: float, reach: float) -> tuple[Point, ...]:
    """A regular polygon standing on a side, `across` of `reach` large, about (middle, 0)."""
    # An odd one is measured by twice its apothem, and reaches further up.
    radius = across / reach * 0.44 / math.cos(math.pi / count)
    turn = -math.pi / 2 + math.pi / count
    return tuple(
        (
            middle + radius * math.cos(turn + 2 * math.pi * k / count),
            radius * math.sin(turn + 2 * math.pi * k / count),
        )
        for k in range(count)
    )
