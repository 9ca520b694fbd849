"""Lids that are not sawn free of the box: where they lie, and what would keep them from it."""

import math
from collections.abc import Iterator, Sequence
from typing import Final, NamedTuple

from peristyle.core.planes import Slab
from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import (
    Design,
    DropIn,
    Flat,
    Gable,
    Insert,
    LiftOff,
    Rectangle,
    Sliding,
    Split,
    leans,
    side_name,
)
from peristyle.model.job import Job
from peristyle.model.starts import begun
from peristyle.planning.findings import Finding, Fix, Place, reader
from peristyle.planning.form.ring import RingPlan
from peristyle.planning.inside.contents import ContentsPlan
from peristyle.planning.section.levels import SectionPlan

_PLACE: Final = Place("section")
_LEAST_PLUG_MM: Final = 5.0  # of room a plug leaves across (our rule)
_KNOCKS_MM: Final = 1.0  # more play over the contents, and they knock a lid loose (common practice)
_CLEAR_MM: Final = (
    0.5  # of play that a plug made deeper leaves over them: with 1/64 in of rounding under 1 (our rule)
)
_LEAST_FIXED_MM: Final = 2.0  # of a lid in two that is glued down (our rule)
_LEAST_LOOSE_MM: Final = 10.0  # of it that opens (our rule)
_NO_WALL_MM: Final = 1.0  # eaves lower than this are drawn as none
_LEAST_WALL_MM: Final = 10.0  # of wall under the eaves, over the floor (our rule)
_NONE: Final = Fix("no_cover", (("section.cover", "none"),))
_FLAT: Final = Fix("cover_flat", (("section.cover", "flat"),))


class Roof(NamedTuple):
    """A gable roof on an upright rectangle: the sides under its eaves and those that rise to its points.

    `half_mm` is from the middle to the outer face under the eaves, which lie `eaves_mm` over the bottom edge;
    `long_mm` from gable to gable, outside. `slope_mm` is a leaf's upper face from eaves to ridge.
    """

    under_eaves: tuple[int, int]
    gables: tuple[int, int]
    half_mm: float
    long_mm: float
    eaves_mm: float
    slope_mm: float


def roof_of(design: Design, slabs: Sequence[Slab]) -> Roof | None:
    """The roof, None where there is none, the ring cannot have one, or it leaves no wall at all."""
    roof = _roof_over(design, slabs)
    return roof if roof is not None and roof.eaves_mm >= _NO_WALL_MM else None


def _roof_over(design: Design, slabs: Sequence[Slab]) -> Roof | None:
    """The roof as it would lie, whether it leaves walls or not.

    Source: plane geometry; a leaf's upper face is (W/2 + o)/cos φ, its underside with square eaves t·tan φ less.
    """
    cover = design.section.cover
    if (
        not isinstance(cover, Gable)
        or not isinstance(design.form.shape, Rectangle)
        or leans(design)
        or not slabs
    ):
        return None
    along = cover.ridge == "along"
    eaves, gables = ((0, 2), (1, 3)) if along else ((1, 3), (0, 2))
    half = (slabs[eaves[0]].offset_mm + slabs[eaves[1]].offset_mm) / 2
    pitch = math.radians(cover.pitch_deg)
    return Roof(
        under_eaves=eaves,
        gables=gables,
        half_mm=half,
        long_mm=slabs[gables[0]].offset_mm + slabs[gables[1]].offset_mm,
        eaves_mm=design.form.height_mm - half * math.tan(pitch),
        slope_mm=(half + cover.overhang_mm) / math.cos(pitch),
    )


def slides_out(slabs: Sequence[Slab], over: int) -> bool:
    """Whether a lid can slide out over a side: no other side stands in its way."""
    way = slabs[over]
    return all(
        slab.ux * way.ux + slab.uy * way.uy < DEFAULT.length_mm
        for index, slab in enumerate(slabs)
        if index != over
    )


def plug_edges(design: Design, slabs: Sequence[Slab], cover: LiftOff) -> tuple[float, ...]:
    """How far out a plug's edges stand: plumb, so that it passes the mouth, `fit_mm` clear of it."""
    rim = design.form.height_mm
    return tuple(min(slab.inner_mm(rim), slab.inner_mm(rim - cover.plug_mm)) - cover.fit_mm for slab in slabs)


def lowered_to_mm(section: SectionPlan) -> float:
    """The level to which the side is lowered that a lid slides out over: the lid lies on it."""
    groove = section.groove("lid")
    return groove.low_mm if groove else section.glued_mm


def lowered_for_sliding(design: Design, side: int) -> bool:
    """Whether a side is ripped lower for a lid to slide out over it."""
    cover = design.section.cover
    return isinstance(cover, Sliding) and cover.side == side


def cover_findings(
    job: Job, ring: RingPlan, section: SectionPlan, contents: ContentsPlan
) -> Iterator[Finding]:
    """What is wrong with a lid that is not sawn free."""
    design = job.design
    cover = design.section.cover
    if cover is None or not ring.stands:
        return
    if design.section.lid is not None:
        sawn = Fix("no_lid_sawn", (("section.lid", False),))
        yield Finding("two_lids", "stop", _PLACE, {}, (sawn, _NONE))
    if design.section.top is not None:
        yield Finding("top_under_lid", "stop", _PLACE, {}, (Fix("no_top", (("section.top", False),)), _NONE))
    match cover:
        case Gable():
            yield from _roof_findings(design, ring, cover)
        case Sliding():
            yield from _sliding_findings(ring, cover)
        case LiftOff():
            if cover.over == "two" and cover.overhang_mm > DEFAULT.length_mm and design.side_count % 2:
                every = Fix("overhang_all", (("section.cover.over", "all"),))
                yield Finding(
                    "overhang_one", "caution", _PLACE, {"sides": float(design.side_count)}, (every,)
                )
            yield from _plug_findings(design, ring, cover, contents)
        case Split():
            yield from _split_findings(design, ring, cover)
        case Flat() if design.section.hinges is None:
            fix = Fix("cover_lift_off", (("section.cover", "lift_off"),))
            yield Finding("lid_lies_loose", "note", _PLACE, {}, (fix,))
        case DropIn(hole_mm=hole) | Insert(hole_mm=hole):
            yield from _hole_findings(design, section, hole)


def _hole_findings(design: Design, section: SectionPlan, hole_mm: float) -> Iterator[Finding]:
    """A hole that leaves no lid, or a lid that lies flush with nothing to lift it by."""

    def bore(mm: float) -> Fix:
        return Fix("lid_hole", (("section.cover.hole_mm", mm),), {"hole_mm": mm})

    panel = next((panel for panel in section.panels if panel.name == "lid"), None)
    least = min(panel.length_mm, panel.width_mm) if panel else 0.0
    if hole_mm > least / 2:
        less = bore(reader(design).down(least / 4))
        yield Finding("lid_hole_wide", "stop", _PLACE, {"hole_mm": hole_mm, "lid_mm": least}, (less,))
    elif hole_mm == 0 and (design.section.handle is None or design.section.handle.on != "top"):
        usual = bore(begun(DropIn, design.units).hole_mm)
        yield Finding("lid_no_grip", "note", _PLACE, {}, (usual,))


def _roof_findings(design: Design, ring: RingPlan, cover: Gable) -> Iterator[Finding]:
    roof = _roof_over(design, ring.slabs)
    if roof is None:
        kind = "leans" if leans(design) and isinstance(design.form.shape, Rectangle) else "ring"
        yield Finding("gable_needs_rectangle", "stop", _PLACE, {}, (_FLAT, _NONE), {}, kind)
        return
    over = roof.eaves_mm - design.floor_mm
    if over >= _LEAST_WALL_MM:
        return
    fmt, high = reader(design), design.form.height_mm
    tall = fmt.up(high + max(_LEAST_WALL_MM, high / 4) - over)
    fixes = [Fix("height", (("form.height_mm", tall),), {"height_mm": tall})]
    lower = math.degrees(math.atan((high - design.floor_mm) / 2 / roof.half_mm)) // 1
    if lower >= 5.0:
        fixes.append(Fix("gable_pitch", (("section.cover.pitch_deg", lower),), {"pitch_deg": lower}))
    numbers = {"wall_mm": over, "rise_mm": high - roof.eaves_mm}
    yield Finding("gable_leaves_no_wall", "stop", _PLACE, numbers, tuple(fixes))


def _sliding_findings(ring: RingPlan, cover: Sliding) -> Iterator[Finding]:
    count = len(ring.slabs)
    if cover.side >= count or not slides_out(ring.slabs, cover.side):
        ways = [index for index in range(count) if slides_out(ring.slabs, index)]
        fixes = tuple(
            Fix("slide_over", (("section.cover.side", side_name(index)),), {}, {"side": side_name(index)})
            for index in ways[:1]
        )
        names = {"side": side_name(cover.side)}
        yield Finding("lid_cannot_slide", "stop", _PLACE, {}, (*fixes, _FLAT), names)


def _plug_findings(
    design: Design, ring: RingPlan, cover: LiftOff, contents: ContentsPlan
) -> Iterator[Finding]:
    edges = plug_edges(design, ring.slabs, cover)
    across = min(
        edge + edges[other]
        for index, edge in enumerate(edges)
        for other in range(index + 1, len(edges))
        if ring.slabs[index].ux * ring.slabs[other].ux + ring.slabs[index].uy * ring.slabs[other].uy < -0.1
    )
    if across < _LEAST_PLUG_MM or design.room_mm <= DEFAULT.length_mm:
        yield Finding(
            "plug_no_room", "stop", _PLACE, {"room_mm": max(0.0, min(across, design.room_mm))}, (_FLAT,)
        )
        return
    play = contents.room_mm - contents.height_mm  # under the lining, where there is one
    if contents.blocks and play > _KNOCKS_MM:
        fmt = reader(design)
        deeper = fmt.down(cover.plug_mm + play - _CLEAR_MM)
        fixes: tuple[Fix, ...] = ()
        if deeper > cover.plug_mm:
            fixes = (Fix("plug_deeper", (("section.cover.plug_mm", deeper),), {"plug_mm": deeper}),)
        yield Finding("lid_knocks_loose", "caution", _PLACE, {"play_mm": play}, fixes)


def _split_findings(design: Design, ring: RingPlan, cover: Split) -> Iterator[Finding]:
    across = across_mm(design, ring, cover)
    most = across - cover.gap_mm - _LEAST_LOOSE_MM
    if cover.side >= len(ring.slabs) or not _LEAST_FIXED_MM <= cover.fixed_mm <= most:
        third = reader(design).down(across / 3)
        changes = (("section.cover.side", "A"), ("section.cover.fixed_mm", third))
        fix = Fix("split_third", changes, {"fixed_mm": third})
        yield Finding(
            "split_leaves_none", "stop", _PLACE, {"fixed_mm": cover.fixed_mm, "across_mm": across}, (fix,)
        )


def across_mm(design: Design, ring: RingPlan, cover: Split) -> float:
    """How far the inside reaches from the side under the fixed part, at the rim (mm)."""
    slab = ring.slabs[cover.side % len(ring.slabs)]
    rim = design.form.height_mm
    least = min(slab.ux * x + slab.uy * y for x, y in ring.outer_top)
    return slab.inner_mm(rim) - least - slab.level_thickness_mm


def parting_mm(design: Design, ring: RingPlan, cover: Split) -> tuple[float, float]:
    """Where a lid in two is parted, as how far out from the middle along its side's way: the fixed part's edge and the
    other's.
    """
    slab = ring.slabs[cover.side % len(ring.slabs)]
    line = slab.inner_mm(design.form.height_mm) - cover.fixed_mm
    return line, line - cover.gap_mm
