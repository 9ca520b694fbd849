"""A strip between body and lid: a small mitered ring of its own, where the lid would stand off what is in the box."""

from collections.abc import Iterator

from msgspec import Struct

from peristyle.model.design import Strip, replace
from peristyle.model.job import Job, revised
from peristyle.planning.findings import Finding, Fix, Place
from peristyle.planning.form.ring import RingPlan, ring_from_slabs
from peristyle.planning.section.levels import SectionPlan


class StripPlan(Struct, frozen=True):
    """The strip's ring as it is cut, overwide, its bottom edge on the body's rim."""

    ring: RingPlan
    base_mm: float
    job: Job  # a box as high and as thick as the strip, cut square first


def plan_strip(job: Job, ring: RingPlan, section: SectionPlan) -> StripPlan | None:
    """The strip, overwide outside and in; None where there is none or no lid to stand on it.

    Source: plane geometry; a ring t + 2v thick whose sides are longer by v·Σ tan(turn / 2) at their two ends.
    """
    own = job.design.section.strip
    if own is None or section.lid is None or not ring.stands:
        return None
    base = section.lid.lost_low_mm
    slabs = tuple(
        slab._replace(
            offset_mm=slab.outer_mm(base) + own.over_mm / slab.cos_slope,
            thickness_mm=slab.thickness_mm + 2 * own.over_mm,
        )
        for slab in ring.slabs
    )
    board = replace(job.stock.board, method="square_first", creep_mm=0.0)
    thick = tuple(slab.thickness_mm for slab in slabs)
    like = revised(job, height_mm=own.height_mm, thicknesses_mm=thick, board=board)
    return StripPlan(ring_from_slabs(like, slabs), base, like)


def strip_findings(job: Job, own: Strip, made: StripPlan | None) -> Iterator[Finding]:
    """A strip with no lid over it, or one that cannot be cut."""
    nothing = Fix("no_strip", (("section.strip", False),))
    if job.design.section.lid is None:
        yield Finding("strip_without_lid", "stop", Place("section"), {}, (nothing,))
    elif made is not None and (not made.ring.stands or any(f.severity == "stop" for f in made.ring.findings)):
        yield Finding("strip_cannot_be", "stop", Place("section"), {"thick_mm": own.height_mm}, (nothing,))
