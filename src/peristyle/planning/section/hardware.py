"""Where hinges and magnets lie along the rims, and what would keep a lid from opening."""

import math
from collections.abc import Iterator, Sequence
from typing import Final

from msgspec import Struct

from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import Design, Flat, Hinges, Magnets
from peristyle.model.job import Job
from peristyle.planning.findings import Finding, Fix, Place, reader
from peristyle.planning.form.ring import RingPlan
from peristyle.planning.inside.liner import LinerPlan
from peristyle.planning.section.levels import SectionPlan

_PLACE: Final = Place("section")
_BESIDE_MM: Final = 2.0  # wood left beside a leaf or a magnet, under a screw's point (common practice)
_LEAST_LEAF_MM: Final = 3.0  # of a leaf in the wood, to be screwed through (our rule)
_USUAL_LEAF_MM: Final = 6.0  # of it that a narrow leaf is widened to (our rule)
_BESIDE_MAGNET_MM: Final = 1.5  # wood left on either side of a pocket (common practice)
_LEAST_SCREW_MM: Final = 2.0  # a shorter screw holds nothing
_LEAST_MAGNET_MM: Final = (1.0, 0.5)  # across and thick: smaller ones are not made
_NO_HINGES: Final = Fix("no_hinges", (("section.hinges", False),))
_NO_MAGNETS: Final = Fix("no_magnets", (("section.magnets", False),))


class Spot(Struct, frozen=True):
    """One hinge or pair of magnets: from where to where along its side, from its start at the bottom edge (mm)."""

    number: int
    side: int
    begins_mm: float
    ends_mm: float

    @property
    def middle_mm(self) -> float:
        """Its middle along the side."""
        return (self.begins_mm + self.ends_mm) / 2


def side_of(design: Design, part: Hinges | Magnets) -> int:
    """The side they are on: the one across from the front for hinges, the front for magnets, if nothing is said."""
    count, front = design.side_count, design.form.front
    if part.side is not None:
        return min(part.side, count - 1)
    return (front + count // 2) % count if isinstance(part, Hinges) else front


class Rims(Struct, frozen=True):
    """Where body and lid meet: the levels of both rims as the box is glued, and how much wood lies under and over them
    (mm); `board` is how thick the lid is where it is a board on the rim, 0 where it is sawn free.
    """

    body_mm: float
    lid_mm: float
    under_mm: float
    over_mm: float
    board_mm: float = 0.0

    @property
    def least_mm(self) -> float:
        """The lower of what lies under and over them."""
        return min(self.under_mm, self.over_mm)


def rims_of(design: Design, section: SectionPlan) -> Rims | None:
    """The two rims of a lid that is sawn free, or of a flat one; None of any other."""
    lid, cover = section.lid, design.section.cover
    if lid is not None and lid.body_mm > 0:
        return Rims(lid.lost_low_mm, lid.lost_high_mm, lid.body_mm, lid.lid_mm)
    groove = section.groove("lid")
    if isinstance(cover, Flat) and groove is not None:
        level = groove.rests_mm
        return Rims(level, level, level, cover.thickness_mm, cover.thickness_mm)
    return None


def spots(design: Design, ring: RingPlan, section: SectionPlan, part: Hinges | Magnets) -> tuple[Spot, ...]:
    """Where they lie: the outer ones as far in as asked, at the rim, those between evenly."""
    rims = rims_of(design, section)
    if rims is None or not ring.stands:
        return ()
    index = side_of(design, part)
    start, end = _run(ring, index, rims.body_mm)
    long = part.length_mm if isinstance(part, Hinges) else part.wide_mm
    first = start + part.inset_mm - (0.0 if isinstance(part, Hinges) else long / 2)
    last = end - part.inset_mm - (long if isinstance(part, Hinges) else long / 2)
    if part.count == 1:
        first = last = (start + end - long) / 2
    step = (last - first) / max(1, part.count - 1)
    return tuple(
        Spot(number + 1, index, first + number * step, first + number * step + long)
        for number in range(part.count)
    )


def _run(ring: RingPlan, index: int, level: float) -> tuple[float, float]:
    """From where to where a side's show face reaches at a level, from the start of its bottom edge."""
    side = ring.sides[index]
    up = level / ring.slabs[index].cos_slope
    (ax, _ay), (bx, _by), (cx, cy), (dx, dy) = side.outer_face
    return ax + (dx - ax) * up / dy, bx + (cx - bx) * up / cy


def hardware_findings(
    job: Job, ring: RingPlan, section: SectionPlan, liner: LinerPlan | None
) -> Iterator[Finding]:
    """What is wrong about hinges and magnets."""
    design = job.design
    hinges, magnets = design.section.hinges, design.section.magnets
    if not ring.stands:
        return
    if hinges is not None:
        if rims_of(design, section) is None:
            yield Finding("hinges_no_lid", "stop", _PLACE, {}, (_NO_HINGES,))
        else:
            yield from _hinge_findings(job, ring, section, hinges, liner)
    if magnets is not None:
        if rims_of(design, section) is None:
            yield Finding("magnets_no_lid", "stop", _PLACE, {}, (_NO_MAGNETS,))
        else:
            yield from _magnet_findings(job, ring, section, magnets)


def _hinge_findings(
    job: Job, ring: RingPlan, section: SectionPlan, own: Hinges, liner: LinerPlan | None
) -> Iterator[Finding]:
    design, fmt = job.design, reader(job.design)
    side = ring.sides[side_of(design, own)]
    slab = ring.slabs[side.index]
    within = own.leaf_mm - own.out_mm  # of the leaf in the wood
    if within > slab.level_thickness_mm - _BESIDE_MM + DEFAULT.length_mm:
        narrow = fmt.down(slab.level_thickness_mm - _BESIDE_MM + own.out_mm)
        fixes = (Fix("hinge_leaf", (("section.hinges.leaf_mm", narrow),), {"leaf_mm": narrow}), _NO_HINGES)
        numbers = {"within_mm": within, "wall_mm": slab.level_thickness_mm}
        yield Finding("hinge_leaf_wide", "stop", _PLACE, numbers, fixes, {"side": side.name})
    elif within < _LEAST_LEAF_MM:
        wide = fmt.up(own.out_mm + _USUAL_LEAF_MM)
        fix = Fix("hinge_leaf", (("section.hinges.leaf_mm", wide),), {"leaf_mm": wide})
        yield Finding("hinge_leaf_narrow", "stop", _PLACE, {"within_mm": max(0.0, within)}, (fix, _NO_HINGES))
    if own.out_mm < own.barrel_mm / 2 - own.thick_mm - DEFAULT.length_mm:
        least = fmt.up(own.barrel_mm / 2 - own.thick_mm)
        fix = Fix("hinge_out", (("section.hinges.out_mm", least),), {"out_mm": least})
        yield Finding(
            "hinge_barrel_in", "caution", _PLACE, {"out_mm": own.out_mm, "barrel_mm": own.barrel_mm}, (fix,)
        )
    yield from _along(design, ring, section, own, spots(design, ring, section, own))
    rims = rims_of(design, section)
    low = rims.least_mm if rims else 0.0
    if own.screw_mm > low - own.thick_mm - _BESIDE_MM:
        short = fmt.down(low - own.thick_mm - _BESIDE_MM)
        screws: tuple[Fix, ...] = (
            (Fix("hinge_screw", (("section.hinges.screw_mm", short),), {"screw_mm": short}),)
            if short > _LEAST_SCREW_MM
            else ()
        )
        yield Finding(
            "hinge_screw_long",
            "stop",
            _PLACE,
            {"screw_mm": own.screw_mm, "high_mm": low},
            (*screws, _NO_HINGES),
        )
    if rims is not None and rims.board_mm and own.barrel_mm / 2 > rims.board_mm - _BESIDE_MM:
        thick = fmt.up(own.barrel_mm / 2 + _BESIDE_MM)
        thicker = Fix("hinge_board", (("section.cover.thickness_mm", thick),), {"thick_mm": thick})
        numbers = {"half_mm": own.barrel_mm / 2, "thick_mm": rims.board_mm}
        yield Finding("hinge_barrel_through", "stop", _PLACE, numbers, (thicker, _NO_HINGES))
    yield from _lip_binds(job, ring, section, own, liner)


def _lip_binds(
    job: Job, ring: RingPlan, section: SectionPlan, own: Hinges, liner: LinerPlan | None
) -> Iterator[Finding]:
    """A liner's lip that the lid's far wall meets as it swings: over a lip p high, D from the axis, it needs p²/2D.

    Source: the circle about the axis; √(D² + p²) − D.
    """
    part, lid = job.design.inside.liner, section.lid
    if liner is None or part is None or lid is None:
        return
    proud = liner.base_mm + part.height_mm - lid.lost_low_mm
    slab = ring.slabs[side_of(job.design, own)]
    far = max(slab.ux * x + slab.uy * y for x, y in ring.outer_top) - min(
        slab.ux * x + slab.uy * y for x, y in ring.inner_top
    )
    across = far + own.out_mm
    needs = math.hypot(across, proud) - across if proud > 0 else 0.0
    if needs > part.gap_mm + DEFAULT.length_mm:
        least = reader(job.design).up(needs)
        lower = Fix("liner_gap", (("inside.liner.gap_mm", least),), {"gap_mm": least})
        yield Finding(
            "hinge_lip_binds",
            "caution",
            _PLACE,
            {"needs_mm": needs, "gap_mm": part.gap_mm},
            (lower, _NO_HINGES),
        )


def _magnet_findings(job: Job, ring: RingPlan, section: SectionPlan, own: Magnets) -> Iterator[Finding]:
    design, fmt = job.design, reader(job.design)
    side = ring.sides[side_of(design, own)]
    wall = ring.slabs[side.index].level_thickness_mm
    left = (wall - own.wide_mm) / 2
    if left < _BESIDE_MAGNET_MM:
        small = fmt.down(wall - 2 * _BESIDE_MAGNET_MM)
        fixes = (
            (Fix("magnet_small", (("section.magnets.wide_mm", small),), {"wide_mm": small}),)
            if small >= _LEAST_MAGNET_MM[0]
            else ()
        )
        numbers = {"wide_mm": own.wide_mm, "left_mm": max(0.0, left)}
        yield Finding("magnet_wall_thin", "stop", _PLACE, numbers, (*fixes, _NO_MAGNETS), {"side": side.name})
    rims = rims_of(design, section)
    low = rims.least_mm if rims else 0.0
    deep = own.thick_mm + own.under_mm
    if deep > low - _BESIDE_MM:
        thin = fmt.down(low - _BESIDE_MM - own.under_mm)
        fixes = (
            (Fix("magnet_thin", (("section.magnets.thick_mm", thin),), {"thick_mm": thin}),)
            if thin >= _LEAST_MAGNET_MM[1]
            else ()
        )
        yield Finding("magnet_deep", "stop", _PLACE, {"deep_mm": deep, "high_mm": low}, (*fixes, _NO_MAGNETS))
    places = spots(design, ring, section, own)
    yield from _along(design, ring, section, own, places)
    hinges = design.section.hinges
    if hinges is None:
        return
    held = [spot for spot in spots(design, ring, section, hinges) if places and spot.side == places[0].side]
    if any(a.begins_mm < b.ends_mm and b.begins_mm < a.ends_mm for a in held for b in places):
        yield Finding("magnet_in_hinge", "stop", _PLACE, {}, (_NO_MAGNETS,))


def _along(
    design: Design, ring: RingPlan, section: SectionPlan, own: Hinges | Magnets, places: Sequence[Spot]
) -> Iterator[Finding]:
    """Too many, too long, or too near the corner: the wall beside it takes what it is thick from the rim."""
    if not places:
        return
    what = "hinge" if isinstance(own, Hinges) else "magnet"
    nothing = _NO_HINGES if what == "hinge" else _NO_MAGNETS
    rims = rims_of(design, section)
    start, end = _run(ring, places[0].side, rims.body_mm if rims else 0.0)
    long = places[0].ends_mm - places[0].begins_mm
    count = len(ring.slabs)
    index = places[0].side
    thick = max(ring.slabs[(index + k) % count].level_thickness_mm for k in (-1, 1))
    room = end - start - 2 * (thick + _BESIDE_MM)
    fmt = reader(design)
    if places[0].begins_mm - start < thick + _BESIDE_MM - DEFAULT.length_mm or (
        len(places) > 1 and places[1].begins_mm < places[0].ends_mm + _BESIDE_MM
    ):
        inset = fmt.up(thick + _BESIDE_MM + (0.0 if what == "hinge" else long / 2))
        fits = room >= own.count * (long + _BESIDE_MM)
        most = max(1, math.floor(room / (long + _BESIDE_MM)))
        changes = [(f"section.{what}s.inset_mm", inset)]
        if not fits:
            changes.append((f"section.{what}s.count", most))
        fixes = (Fix(f"{what}_inset", tuple(changes), {"inset_mm": inset}),) if room >= long else ()
        numbers = {"room_mm": max(0.0, room), "long_mm": long, "count": float(own.count)}
        yield Finding(
            f"{what}s_no_room", "stop", _PLACE, numbers, (*fixes, nothing), {"side": ring.sides[index].name}
        )
