"""Openings through the sides: round holes, slots, finger notches in the rim."""

import math
from collections.abc import Iterator, Sequence
from typing import Final, NamedTuple

from peristyle.core.outlines import Arc, bounds, flattened, slot
from peristyle.core.planes import Point
from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import Opening
from peristyle.planning.findings import Change, Finding, Fix, Place, Severity, reader
from peristyle.planning.form.ring import SidePlan
from peristyle.planning.making.kind import Kind, Phase, Settled, cut_into
from peristyle.planning.making.parts.covers import COVERS
from peristyle.planning.making.parts.dividers import DIVIDERS
from peristyle.planning.making.parts.edges import EDGES
from peristyle.planning.making.parts.hardware import HARDWARE
from peristyle.planning.making.parts.keys import KEYS
from peristyle.planning.making.parts.lid import LID
from peristyle.planning.making.parts.panels import PANELS
from peristyle.planning.making.parts.walls import PAST_MM
from peristyle.planning.making.piece import Feature, trimmed_face
from peristyle.planning.making.setting import Setting, bit, bored_from_edge, bored_from_start, same
from peristyle.planning.making.step import Step, make
from peristyle.planning.section.covers import lowered_for_sliding, lowered_to_mm, roof_of
from peristyle.planning.section.grooves import in_side

_LEAST_WOOD_MM: Final = 5.0  # less beside an opening breaks out (our rule)


class _Placed(NamedTuple):
    """An opening in one side: its middle along the bottom edge and up the face, and its outline there."""

    number: int
    opening: Opening
    side: SidePlan
    x: float
    y: float
    rim: float
    outline: tuple[Point | Arc, ...]


def across_from(plan: Settled, side: int) -> int | None:
    """The side across from another; None where the ring has none."""
    count = len(plan.ring.sides)
    return (side + count // 2) % count if count % 2 == 0 else None


def _placed(plan: Settled) -> Iterator[_Placed]:
    """Every opening in every side that has it."""
    for number, opening in enumerate(plan.job.design.section.openings):
        if opening.side >= len(plan.ring.sides):
            continue
        side = plan.ring.sides[opening.side]
        along = side.outside_mm / 2 if opening.along_mm is None else opening.along_mm
        yield _in(plan, number, opening, side, along)
        other = across_from(plan, opening.side) if opening.both else None
        if other is not None:
            mate = plan.ring.sides[other]
            yield _in(plan, number, opening, mate, mate.outside_mm - along)


def _in(plan: Settled, number: int, opening: Opening, side: SidePlan, x: float) -> _Placed:
    slab, lid = plan.ring.slabs[side.index], plan.section.lid

    def up(level: float) -> float:
        return in_side(slab, slab.outer_mm(level), level)[0]

    high = plan.job.design.form.height_mm
    roof = roof_of(plan.job.design, plan.ring.slabs)
    level = lid.lost_low_mm if lid else high
    if lowered_for_sliding(plan.job.design, side.index):
        level = lowered_to_mm(plan.section)
    elif roof is not None and side.index in roof.under_eaves:
        level = roof.eaves_mm
    rim = up(level)
    if opening.kind == "notch":
        top = up(lid.lost_high_mm) if lid else rim + PAST_MM + side.thickness_mm * abs(slab.sin_slope)
        wide, deep = opening.width_mm, opening.high_mm
        return _Placed(number, opening, side, x, rim - deep, rim, _notch(x, rim, top, wide, deep))
    y, wide = opening.up_mm, opening.width_mm
    outline = slot(x, y, wide, wide if opening.kind == "hole" else opening.high_mm)
    return _Placed(number, opening, side, x, y, rim, outline)


def notch_radius(width_mm: float, deep_mm: float) -> float:
    """The radius (mm) of a finger notch: half its width, or larger where it is shallower than that.

    Source: the circle through three points; (w²/4 + d²) / 2d.
    """
    if deep_mm >= width_mm / 2:
        return width_mm / 2
    return (width_mm**2 / 4 + deep_mm**2) / (2 * deep_mm)


def _notch(x: float, rim: float, top: float, wide: float, deep: float) -> tuple[Point | Arc, ...]:
    radius, half = notch_radius(wide, deep), wide / 2
    middle = rim - deep + radius
    level = min(rim, middle)  # where the arc begins: at the rim, or below it where the notch is deep
    arc = Arc((x + half, level), (x, middle))
    return ((x - half, top), (x - half, level), arc, (x + half, top))


def _features(plan: Settled) -> Iterator[tuple[str, Feature]]:
    for one in _placed(plan):
        side = f"side.{one.side.name}"
        name = f"{side}.opening.{one.number + 1}"
        yield side, Feature(name, "opening", "show", outline=one.outline, in_mm=one.side.thickness_mm)


# --- steps


def _steps(plan: Settled) -> Iterator[tuple[Phase, Step]]:
    # Two sides are cut as one where one setting serves both; else each is measured from its own start.
    grouped: dict[tuple[int, ...], list[_Placed]] = {}
    for one in _placed(plan):
        values = same(*(setting.value for setting in _settings(one)))
        grouped.setdefault((one.number, *values), []).append(one)
    for (number, *_values), members in grouped.items():
        opening, first = members[0].opening, members[0]
        sides = [one.side for one in members]
        own = [f"side.{side.name}" for side in sides]
        in_body = opening.kind == "notch" and plan.section.lid is not None
        settings = _settings(first)
        yield ("last" if in_body else "flat"), make(
            "opening", own, str(number + 1), "_".join(side.name for side in sides),
            tool="band_saw" if opening.kind == "notch" else "drill_press",
            makes=(f"{name}.opening.{number + 1}" for name in own), lies="show_up", edge="bottom",
            settings=settings, passes=sum(s.gauge in ("stop", "fence") for s in settings) - 1,
            title=f"opening.{opening.kind}",
            says=(f"opening.{opening.kind}", *(("opening.clamped",) if len(own) > 1 else ()),
                  *(("opening.body",) if in_body else ())),
            numbers={"width_mm": opening.width_mm, "high_mm": opening.high_mm, "middle_mm": first.x,
                     "radius_mm": notch_radius(opening.width_mm, opening.high_mm)},
            names={"sides": " and ".join(side.name for side in sides)},
            short=first.side.outside_mm < plan.job.shop.saw.least_mm,
        )  # fmt: skip


def _settings(one: _Placed) -> list[Setting]:
    """From the piece's start and its bottom edge, as they lie against stop and fence."""
    faces = (*one.side.outer_face, *one.side.inner_face)
    start, foot = min(x for x, _y in faces), min(y for _x, y in faces)
    x, y = one.x - start, one.y - foot
    if one.opening.kind == "notch":
        return [bored_from_start(x)]
    wide = one.opening.width_mm
    high = wide if one.opening.kind == "hole" else one.opening.high_mm
    radius = min(wide, high) / 2
    dx, dy = wide / 2 - radius, high / 2 - radius
    stops = [bored_from_start(x - dx), bored_from_start(x + dx)] if dx > 0 else [bored_from_start(x)]
    fences = [bored_from_edge(y - dy), bored_from_edge(y + dy)] if dy > 0 else [bored_from_edge(y)]
    return [*stops, *fences, bit(2 * radius)]


# --- findings


def _findings(plan: Settled) -> Iterator[Finding]:
    if not plan.ring.stands:
        return
    for number, opening in enumerate(plan.job.design.section.openings):
        if opening.both and across_from(plan, opening.side) is None:
            fix = Fix("opening_one", ((f"section.openings.{number + 1}.both", False),))
            names = {"opening": str(number + 1)}
            yield Finding("opening_no_mate", "stop", _place(plan, opening.side), {}, (fix,), names)
    placed = list(_placed(plan))
    cut = cut_into(plan, (PANELS, LID, COVERS, DIVIDERS, HARDWARE, EDGES, KEYS)) if placed else {}
    for one in placed:
        x0, y0, x1, y1 = bounds(flattened(one.outline))
        notched = one.opening.kind == "notch"
        area = (x0, y0, x1, min(y1, one.rim) if notched else y1)
        own = cut.get(f"side.{one.side.name}", [])
        yield from _beside_edges(plan, one, area, own)
        near: dict[
            str, float
        ] = {}  # of each kind of cut the nearest: a key at either end is one thing to say
        for feature in own:
            if notched and feature.flat and bounds(feature.flat)[1] > one.rim - DEFAULT.length_mm:
                continue  # it lies over the rim, in wood that is ripped off
            if feature.flat and not feature.trims and not (notched and feature.kind == "lid_kerf"):
                gap = _apart(area, bounds(feature.flat))
                near[feature.kind] = min(gap, near.get(feature.kind, gap))
        for what, gap in near.items():
            yield from _told(plan, one, gap, what, ("opening_meets", "opening_thin_wood"))
    met: set[tuple[int, int]] = set()  # of many at one place each says it once
    for one, other in ((a, b) for i, a in enumerate(placed) for b in placed[i + 1 :] if a.side is b.side):
        if (other.side.index, other.number) in met:
            continue
        if _apart(bounds(flattened(one.outline)), bounds(flattened(other.outline))) < _LEAST_WOOD_MM:
            names = {"opening": str(one.number + 1), "other": str(other.number + 1), "side": one.side.name}
            place = _place(plan, one.side.index)
            met.add((other.side.index, other.number))
            yield Finding("openings_meet", "caution", place, {}, _moves(plan, other), names)


def _place(plan: Settled, side: int) -> Place:
    return Place("side", min(side, len(plan.ring.sides) - 1), len(plan.ring.sides))


_Area = tuple[float, float, float, float]


def _beside_edges(plan: Settled, one: _Placed, area: _Area, cuts: Sequence[Feature]) -> Iterator[Finding]:
    """How near it comes to the side's own edges, on either face, a lowered rim or a gable's slopes among them."""
    x0, y0, x1, y1 = area
    least, edge = math.inf, ""
    square = ((x0, y0), (x1, y0), (x1, y1), (x0, y1))
    corners = flattened(one.outline) if one.opening.kind != "notch" else square
    thick = one.side.thickness_mm
    for whole, z in ((one.side.outer_face, 0.0), (one.side.inner_face, thick)):
        face = trimmed_face(whole, cuts, z, thick)
        for k in range(len(face)):
            word = {0: "bottom", 1: "end", len(face) - 1: "start"}.get(k, "top")
            if word == "top" and one.opening.kind == "notch":
                continue
            (ax, ay), (bx, by) = face[k], face[(k + 1) % len(face)]
            run = math.hypot(bx - ax, by - ay) or 1.0
            for x, y in corners:
                inward = ((bx - ax) * (y - ay) - (by - ay) * (x - ax)) / run
                if inward < least:
                    least, edge = inward, word
    yield from _told(plan, one, least, f"edge_{edge}", ("opening_off_side", "opening_near_edge"))


def _told(plan: Settled, one: _Placed, gap: float, what: str, codes: tuple[str, str]) -> Iterator[Finding]:
    if gap >= _LEAST_WOOD_MM - DEFAULT.length_mm:
        return
    severity: Severity = "stop" if gap <= DEFAULT.length_mm else "caution"
    code = codes[0] if severity == "stop" else codes[1]
    numbers = {"wood_mm": max(0.0, gap)}
    names = {"opening": str(one.number + 1), "what": what, "side": one.side.name}
    yield Finding(code, severity, _place(plan, one.side.index), numbers, _moves(plan, one), names)


def _apart(a: _Area, b: _Area) -> float:
    """How far two upright rectangles lie apart; negative where they overlap."""
    dx, dy = max(b[0] - a[2], a[0] - b[2]), max(b[1] - a[3], a[1] - b[3])
    return math.hypot(max(dx, 0.0), max(dy, 0.0)) if dx > 0 or dy > 0 else max(dx, dy)


def _moves(plan: Settled, one: _Placed) -> tuple[Fix, ...]:
    """To the middle of the side, of the free height, or both; and smaller."""
    address, fmt = f"section.openings.{one.number + 1}", reader(plan.job.design)
    middle: Change = (f"{address}.along_mm", None)
    low = max((g.high_mm for g in plan.section.grooves if g.panel == "bottom"), default=0.0)
    high = plan.section.lid.lost_low_mm if plan.section.lid else plan.job.design.form.height_mm
    high = min(
        (g.low_mm for g in plan.section.grooves if g.panel == "top" and not plan.section.lid), default=high
    )
    level: Change = (f"{address}.up_mm", fmt.down((low + high) / 2))
    smaller: tuple[Change, ...] = (
        (f"{address}.width_mm", fmt.down(one.opening.width_mm / 2)),
        (f"{address}.high_mm", fmt.down(one.opening.high_mm / 2)),
    )
    notch = one.opening.kind == "notch"
    return (
        Fix("opening_middle", (middle,) if notch else (middle, level)),
        Fix("opening_smaller", (*smaller, middle) if notch else (*smaller, middle, level)),
    )


OPENINGS = Kind("opening", features=_features, steps=_steps, findings=_findings)
