"""A box within the box: the liner, mitered too, of its own wood."""

from collections.abc import Iterator
from typing import Final

from msgspec import Struct

from peristyle.core.lengths import MM_PER_INCH, Format
from peristyle.core.planes import Slab
from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import Liner, Sliding, replace
from peristyle.model.job import Job, revised
from peristyle.planning.findings import Finding, Fix, Place, reader
from peristyle.planning.form.ring import RingPlan, ring_from_slabs
from peristyle.planning.section.levels import SectionPlan

_LEAST_LIP_MM: Final = 2.0  # a lower one keeps no lid in its place (our rule)


class LinerPlan(Struct, frozen=True):
    """The inner ring, and the room over it once the lid is freed (negative: it stands proud)."""

    ring: RingPlan
    base_mm: float
    headroom_mm: float
    findings: tuple[Finding, ...] = ()


def _of_the_liner(finding: Finding, liner: Liner, fmt: Format) -> Finding:
    """What is wrong with the inner ring, mended on the liner: the box's own sides stay."""
    fixes = [Fix("no_liner", (("inside.liner", False),))]
    meet = finding.numbers.get("meet_mm")
    outside, taken = finding.numbers.get("outside_mm", 0.0), finding.numbers.get("taken_mm")
    if meet is not None:
        fixes.insert(0, _as_high(fmt.down(meet * 0.6)))
    elif taken and outside > 0:
        thin = fmt.down(liner.thickness_mm * outside / taken * 0.8)
        numbers = {"thickness_mm": thin}
        fixes.insert(0, Fix("liner_thickness", (("inside.liner.thickness_mm", thin),), numbers))
    return replace(finding, code=f"liner_{finding.code}", fixes=tuple(fixes))


def _as_high(height_mm: float) -> Fix:
    return Fix("liner_height", (("inside.liner.height_mm", height_mm),), {"height_mm": height_mm})


def liner_design(job: Job) -> Job:
    """The design of a box as high and as thick as the liner, cut as the box is."""
    own = job.design.inside.liner
    if own is None:
        return job
    return revised(job, height_mm=own.height_mm, thicknesses_mm=(own.thickness_mm,))


def plan_liner(job: Job, ring: RingPlan, section: SectionPlan) -> LinerPlan | None:
    """The liner's ring, its outside a gap within the box's inside; None where there is none."""
    liner = job.design.inside.liner
    if liner is None or not ring.stands:
        return None
    fmt = reader(job.design)
    base = job.design.floor_mm
    slabs = tuple(
        slab._replace(
            offset_mm=slab.inner_mm(base, slab.thickness_mm + liner.gap_mm), thickness_mm=liner.thickness_mm
        )
        for slab in ring.slabs
    )
    inner = ring_from_slabs(liner_design(job), slabs)
    headroom = section.room_mm - liner.height_mm - _lower_mm(job, ring, section)
    findings = [_of_the_liner(f, liner, fmt) for f in inner.findings if f.severity == "stop"]
    closed = job.design.section.lid or job.design.section.top or job.design.section.cover
    if closed and headroom < -DEFAULT.length_mm:
        top = fmt.down(liner.height_mm + headroom)
        numbers = {"headroom_mm": headroom, "over_mm": -headroom}
        fixes: tuple[Fix, ...] = (_as_high(top),) if top > 0 else ()
        if job.design.section.lid and job.design.section.strip is None:
            strip = fmt.up(-headroom)
            changes = (("section.strip", True), ("section.strip.height_mm", strip))
            fixes += (Fix("add_strip", changes, {"strip_mm": strip}),)
        slides = isinstance(job.design.section.cover, Sliding)
        kind = "" if job.design.section.lid else "slides" if slides else "closed"
        findings.append(Finding("liner_holds_lid_up", "caution", Place("section"), numbers, fixes, {}, kind))
    findings += _lip_findings(job, ring, section, slabs, base)
    findings += _no_lip_findings(job, section, base)
    return LinerPlan(inner, base, headroom, tuple(findings))


def _lower_mm(job: Job, ring: RingPlan, section: SectionPlan) -> float:
    """How much lower body and lid came out together than planned, by the lowest side measured of each (mm)."""
    if section.lid is None or not job.measured:
        return 0.0
    cosines = {side.name: slab.cos_slope for side, slab in zip(ring.sides, ring.slabs, strict=True)}
    lower = 0.0
    for part, planned in (("body", section.lid.body_mm), ("lid", section.lid.lid_mm)):
        found = [
            one.value * cosines[name[1]] for one in job.measured
            if (name := one.name.split("."))[0] == part and len(name) == 3 and name[1] in cosines
        ]  # fmt: skip
        lower += planned - min(found, default=planned)
    return lower


def _no_lip_findings(job: Job, section: SectionPlan, base_mm: float) -> Iterator[Finding]:
    """A sawn-off lid with no hinges, and a liner too low to keep it in its place."""
    liner, lid, own = job.design.inside.liner, section.lid, job.design.section
    if liner is None or lid is None or own.hinges is not None or own.magnets is not None:
        return
    rim = lid.lost_low_mm + (own.strip.height_mm if own.strip else 0.0)
    proud = base_mm + liner.height_mm - rim
    if proud >= _LEAST_LIP_MM - DEFAULT.length_mm:
        return
    fmt = reader(job.design)
    high = fmt.down(min(rim - base_mm + _usual_lip_mm(job), section.room_mm))
    fixes = (_as_high(high),) if high > liner.height_mm else ()
    numbers = {"down_mm": abs(proud), "lip_mm": _usual_lip_mm(job)}
    yield Finding("liner_no_lip", "caution", Place("section"), numbers, fixes, {}, "" if proud < 0 else "low")


def _usual_lip_mm(job: Job) -> float:
    """How far a lip stands proud that keeps a lid in its place (mm; common practice)."""
    return 0.25 * MM_PER_INCH if job.design.units == "in" else 6.0


def _lip_findings(
    job: Job, ring: RingPlan, section: SectionPlan, slabs: tuple[Slab, ...], base_mm: float
) -> Iterator[Finding]:
    """A liner's lip between walls that lean: leaning out its top is wider than the lid's rim that must come over it;
    leaning in the lid, lower by what the saw took, is the narrower.
    """
    liner, lid, fmt = job.design.inside.liner, section.lid, reader(job.design)
    if liner is None or lid is None:
        return
    strip = job.design.section.strip
    rim = lid.lost_low_mm + (strip.height_mm if strip else 0.0)
    if base_mm + liner.height_mm <= rim + DEFAULT.length_mm:
        return
    high = liner.height_mm
    shut = base_mm + lid.lost_high_mm - rim  # what a height of the liner's is more in the lid that is shut
    over = max(
        max(
            own.outer_mm(high) - slab.inner_mm(lid.lost_high_mm), own.outer_mm(high) - slab.inner_mm(high + shut),
            own.outer_mm(rim - base_mm) - slab.inner_mm(lid.lost_high_mm),
        )
        for own, slab in zip(slabs, ring.slabs, strict=True)
    )  # fmt: skip
    if over > DEFAULT.length_mm:
        gap, top = fmt.up(liner.gap_mm + over), fmt.down(rim - base_mm)
        wider = Fix("liner_gap", (("inside.liner.gap_mm", gap),), {"gap_mm": gap})
        fixes = ((_as_high(top),) if top > 0 else ()) + (wider,)
        numbers = {"over_mm": over, "out_mm": base_mm + liner.height_mm - rim}
        yield Finding("lip_wedges", "stop", Place("section"), numbers, fixes)
