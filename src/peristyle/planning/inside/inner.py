"""Rings within the box: fillets glued to its walls, and a tray that lies on them or on the liner's edge."""

from collections.abc import Iterator

from msgspec import Struct

from peristyle.core.outlines import Outline as Points
from peristyle.core.outlines import vertices
from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import Design, LiftOff, replace
from peristyle.model.job import Job, revised
from peristyle.planning.findings import Finding, Fix, Place, reader
from peristyle.planning.form.ring import RingPlan, ring_from_slabs
from peristyle.planning.inside.contents import ContentsPlan
from peristyle.planning.inside.divider_plan import DividersPlan
from peristyle.planning.inside.liner import LinerPlan
from peristyle.planning.section.levels import SectionPlan

_PLACE = Place("section")
_BEARS_MM = 1.5  # of a tray on what it lies on, at the least (our rule)
_USUAL_BEARS_MM = 3.0  # what is offered where it bears too little (our rule)
_LEAST_DEEP_MM = 2.0  # of a tray over its bottom (our rule)
_NO_FILLETS = Fix("no_fillets", (("inside.fillets", False),))
_NO_TRAY = Fix("no_tray", (("inside.tray", False),))


class InnerRing(Struct, frozen=True):
    """A ring within the box: where its bottom edge lies, how high it is, and a box like it, to be cut as it is cut."""

    ring: RingPlan
    base_mm: float
    height_mm: float
    job: Job

    @property
    def top_mm(self) -> float:
        """How high its upper edge lies."""
        return self.base_mm + self.height_mm


class InnerPlan(Struct, frozen=True):
    """Fillets and tray, None where there is none; what the tray lies on at which level, None where there is nothing."""

    fillets: InnerRing | None = None
    tray: InnerRing | None = None
    rests_mm: float | None = None


def under_rim_mm(design: Design, section: SectionPlan) -> float:
    """How high the body's rim lies, as glued and trued; or the underside of what lies in it or closes it."""
    if section.lid is not None:
        return section.lid.lost_low_mm
    return design.floor_mm + design.room_mm


def _ring(job: Job, ring: RingPlan, base: float, off_wall: float, sizes: tuple[float, float]) -> InnerRing:
    """A ring so far off the walls, level where its bottom edge lies; `sizes` are its thickness and its height."""
    thick, high = sizes
    slabs = tuple(
        slab._replace(offset_mm=slab.inner_mm(base, slab.thickness_mm + off_wall), thickness_mm=thick)
        for slab in ring.slabs
    )
    board = replace(job.stock.board, method="square_first", creep_mm=0.0)
    like = revised(job, height_mm=high, thicknesses_mm=(thick,), board=board)
    return InnerRing(ring_from_slabs(like, slabs), base, high, like)


def plan_inner(job: Job, ring: RingPlan, section: SectionPlan, liner: LinerPlan | None) -> InnerPlan:
    """Where fillets and tray lie."""
    inside, rim = job.design.inside, under_rim_mm(job.design, section)
    if not ring.stands or (inside.fillets is None and inside.tray is None):
        return InnerPlan()
    fillets = tray = None
    rests = liner.base_mm + inside.liner.height_mm if liner and inside.liner and liner.ring.stands else None
    if inside.fillets is not None:
        own = inside.fillets
        fillets = _ring(job, ring, rim - own.below_mm - own.height_mm, 0.0, (own.thickness_mm, own.height_mm))
        rests = fillets.top_mm if rests is None else max(rests, fillets.top_mm)
    if inside.tray is not None:
        made = inside.tray
        base = (job.design.floor_mm if rests is None else rests) + made.bottom_mm
        lining = inside.lining_mm if liner is None else 0.0
        sizes = (made.thickness_mm, max(_LEAST_DEEP_MM, made.height_mm - made.bottom_mm))
        tray = _ring(job, ring, base, made.gap_mm + lining, sizes)
    return InnerPlan(fillets, tray, rests)


def tray_bottom(inner: InnerPlan) -> Points:
    """The outline of a tray's bottom: flush with its walls where they stand on it."""
    if inner.tray is None:
        return ()
    slabs = inner.tray.ring.slabs
    return vertices(slabs, [slab.outer_mm(0.0) for slab in slabs])


def inner_findings(
    job: Job, ring: RingPlan, section: SectionPlan, liner: LinerPlan | None, inner: InnerPlan, contents: ContentsPlan,
    dividers: DividersPlan,
) -> Iterator[Finding]:  # fmt: skip
    """What is wrong about fillets and tray."""
    if inner.fillets is not None:
        yield from _fillet_findings(job, section, liner, inner.fillets, contents, dividers)
    if inner.tray is not None:
        yield from _tray_findings(job, ring, section, inner, contents, dividers)


def _stops(made: InnerRing) -> bool:
    return not made.ring.stands or any(finding.severity == "stop" for finding in made.ring.findings)


def _stands_to_mm(job: Job, contents: ContentsPlan, dividers: DividersPlan) -> float:
    """How high what stands on the floor reaches; the floor itself where nothing does."""
    design, inside = job.design, job.design.inside
    tops = [design.floor_mm]
    if contents.blocks:
        tops.append(design.floor_mm + inside.lining_mm + contents.height_mm)
    if dividers.pieces and inside.dividers is not None:
        tops.append(design.floor_mm + inside.dividers.height_mm)
    return max(tops)


def under_fillets(design: Design, dividers: DividersPlan) -> bool:
    """Whether fillets come over the ends of dividers that stand in the box's walls, or in its liner's."""
    fillets, own, liner = design.inside.fillets, design.inside.dividers, design.inside.liner
    if fillets is None or own is None:
        return False
    off_wall = liner.gap_mm + liner.thickness_mm if liner and dividers.in_liner else 0.0
    return off_wall - own.dado_mm < fillets.thickness_mm


def _fillet_findings(
    job: Job, section: SectionPlan, liner: LinerPlan | None, made: InnerRing, contents: ContentsPlan,
    dividers: DividersPlan,
) -> Iterator[Finding]:  # fmt: skip
    own, fmt, design = job.design.inside.fillets, reader(job.design), job.design
    if own is None:
        return
    if _stops(made):
        yield Finding("fillets_cannot_be", "stop", _PLACE, {"thick_mm": own.thickness_mm}, (_NO_FILLETS,))
        return
    floor, taken = design.floor_mm, design.inside.liner
    if (
        liner is not None
        and taken is not None
        and made.base_mm < liner.base_mm + taken.height_mm - DEFAULT.length_mm
    ):
        yield Finding(
            "fillets_liner", "stop", _PLACE, {}, (_NO_FILLETS, Fix("no_liner", (("inside.liner", False),)))
        )
        return
    stands = _stands_to_mm(job, contents, dividers)
    if made.base_mm < stands - DEFAULT.length_mm:
        room = under_rim_mm(design, section) - stands
        high = fmt.down(room - own.below_mm)
        fixes: tuple[Fix, ...] = ()
        if high >= own.thickness_mm / 2:
            fixes = (Fix("fillet_height", (("inside.fillets.height_mm", high),), {"height_mm": high}),)
        elif own.below_mm and room >= own.height_mm:
            fixes = (Fix("fillet_up", (("inside.fillets.below_mm", 0.0),)),)
        code = "fillets_low" if stands <= floor + DEFAULT.length_mm else "fillets_meet"
        numbers = {"low_mm": stands - made.base_mm, "room_mm": room}
        yield Finding(code, "stop", _PLACE, numbers, (*fixes, _NO_FILLETS))
        return
    numbers = {"thick_mm": own.thickness_mm}
    if contents.blocks:
        yield Finding("fillets_narrow", "caution", _PLACE, numbers, (_NO_FILLETS,))
    if dividers.pieces and under_fillets(design, dividers):
        yield Finding("fillets_narrow", "note", _PLACE, numbers, (_NO_FILLETS,), {}, "dividers")


def _tray_findings(
    job: Job,
    ring: RingPlan,
    section: SectionPlan,
    inner: InnerPlan,
    contents: ContentsPlan,
    dividers: DividersPlan,
) -> Iterator[Finding]:
    own, made, fmt, design = job.design.inside.tray, inner.tray, reader(job.design), job.design
    if own is None or made is None:
        return
    if own.height_mm - own.bottom_mm < _LEAST_DEEP_MM - DEFAULT.length_mm:
        high = fmt.up(own.bottom_mm + 3 * _LEAST_DEEP_MM)
        fix = Fix("tray_height", (("inside.tray.height_mm", high),), {"height_mm": high})
        yield Finding("tray_shallow", "stop", _PLACE, {"bottom_mm": own.bottom_mm}, (fix, _NO_TRAY))
        return
    if _stops(made):
        yield Finding("tray_cannot_be", "stop", _PLACE, {"thick_mm": own.thickness_mm}, (_NO_TRAY,))
        return
    if inner.rests_mm is None:
        changes = (("inside.fillets", True), ("inside.fillets.below_mm", fmt.up(own.height_mm)))
        yield Finding("tray_on_nothing", "stop", _PLACE, {}, (Fix("add_fillets", changes), _NO_TRAY))
        return
    yield from _tray_bears(job, inner)
    over = _stands_to_mm(job, contents, dividers) - inner.rests_mm
    if over > DEFAULT.length_mm:
        yield Finding("tray_meets", "stop", _PLACE, {"over_mm": over}, (_NO_TRAY,))
    room = design.floor_mm + design.room_mm - inner.rests_mm
    closed = bool(design.section.lid or design.section.top or design.section.cover)
    if closed and own.height_mm > room + DEFAULT.length_mm:
        high = fmt.down(room)
        numbers = {"over_mm": own.height_mm - room, "room_mm": max(0.0, room)}
        lower = Fix("tray_height", (("inside.tray.height_mm", high),), {"height_mm": high})
        fixes = (lower,) if high >= own.bottom_mm + _LEAST_DEEP_MM else ()
        if job.design.inside.fillets is not None and not isinstance(design.section.cover, LiftOff):
            below = fmt.up(job.design.inside.fillets.below_mm + own.height_mm - room)
            down = Fix("fillet_below", (("inside.fillets.below_mm", below),), {"below_mm": below})
            fixes = (*fixes, down) if design.inside.liner is None else fixes
        yield Finding("tray_high", "stop", _PLACE, numbers, (*fixes, _NO_TRAY))
    yield from _tray_passes(job, ring, section, made)


def _tray_bears(job: Job, inner: InnerPlan) -> Iterator[Finding]:
    """Whether it lies on enough: the liner's edge, or the fillets."""
    inside, fmt = job.design.inside, reader(job.design)
    own, liner, fillets = inside.tray, inside.liner, inside.fillets
    if own is None:
        return
    on_fillets = inner.fillets is not None and inner.rests_mm == inner.fillets.top_mm
    if on_fillets and fillets is not None:
        place, wide, thick = "inside.fillets.thickness_mm", fillets.thickness_mm, fillets.thickness_mm
    elif liner is not None:
        place, wide, thick = (
            "inside.liner.thickness_mm",
            liner.gap_mm + liner.thickness_mm,
            liner.thickness_mm,
        )
    else:
        return
    bears = wide - own.gap_mm - (inside.lining_mm if liner is None else 0.0)
    if bears < _BEARS_MM - DEFAULT.length_mm:
        thicker = fmt.up(thick + _USUAL_BEARS_MM - bears)
        fix = Fix(
            "tray_bears",
            ((place, thicker),),
            {"thick_mm": thicker},
            {"what": "fillets" if on_fillets else "liner"},
        )
        yield Finding("tray_falls", "stop", _PLACE, {"bears_mm": max(0.0, bears)}, (fix, _NO_TRAY))


def _tray_passes(job: Job, ring: RingPlan, section: SectionPlan, made: InnerRing) -> Iterator[Finding]:
    """A tray that cannot come in through the mouth of a box that leans in."""
    level = section.lid.lost_low_mm if section.lid else job.design.form.height_mm
    over = max(
        tray.outer_mm(z) - slab.inner_mm(level)
        for slab, tray in zip(ring.slabs, made.ring.slabs, strict=True)
        for z in (0.0, made.height_mm)
    )
    if over > DEFAULT.length_mm:
        own = job.design.inside.tray
        gap = reader(job.design).up((own.gap_mm if own else 0.0) + over)
        fix = Fix("tray_gap", (("inside.tray.gap_mm", gap),), {"gap_mm": gap})
        yield Finding("tray_mouth", "stop", _PLACE, {"over_mm": over}, (fix, _NO_TRAY))
