"""What is wrong about hinges and magnets in the rims."""

from collections.abc import Iterator
from typing import Final

from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import Gable, Magnets, Split
from peristyle.model.job import Job
from peristyle.planning.findings import Finding, Fix, reader
from peristyle.planning.form.ring import RingPlan
from peristyle.planning.section.hardware import legs, rims_of, side_of, spots
from peristyle.planning.section.hinge_findings import hinge_findings
from peristyle.planning.section.levels import SectionPlan
from peristyle.planning.section.rim_findings import (
    BESIDE_BORE_MM,
    BESIDE_MM,
    LEAST_BESIDE_MM,
    NO_HINGES,
    NO_MAGNETS,
    PLACE,
    along_findings,
)

_LEAST_MAGNET_MM: Final = (1.0, 0.5)  # across and thick: smaller ones are not made


def hardware_findings(job: Job, ring: RingPlan, section: SectionPlan) -> Iterator[Finding]:
    """What is wrong about hinges and magnets."""
    design = job.design
    hinges, magnets = design.section.hinges, design.section.magnets
    if not ring.stands:
        return
    # Between the boards of a lid in two, or at a roof's ridge, they are looked at where those are made.
    if hinges is not None and not isinstance(design.section.cover, Split | Gable):
        if rims_of(design, section) is None:
            yield Finding("hinges_no_lid", "stop", PLACE, {}, (NO_HINGES,))
        else:
            yield from hinge_findings(job, ring, section, hinges)
    if magnets is not None:
        if rims_of(design, section) is None:
            yield Finding("magnets_no_lid", "stop", PLACE, {}, (NO_MAGNETS,))
        else:
            yield from _magnet_findings(job, ring, section, magnets)


def _magnet_findings(job: Job, ring: RingPlan, section: SectionPlan, own: Magnets) -> Iterator[Finding]:
    design, fmt = job.design, reader(job.design)
    side = ring.sides[side_of(design, own)]
    wall = ring.slabs[side.index].level_thickness_mm
    left = (wall - own.wide_mm) / 2
    if left < LEAST_BESIDE_MM - DEFAULT.length_mm:
        small = fmt.down(wall - 2 * BESIDE_BORE_MM)
        fixes = (
            (Fix("magnet_small", (("section.magnets.wide_mm", small),), {"wide_mm": small}),)
            if small >= _LEAST_MAGNET_MM[0]
            else ()
        )
        numbers = {"wide_mm": own.wide_mm, "left_mm": max(0.0, left)}
        yield Finding("magnet_wall_thin", "stop", PLACE, numbers, (*fixes, NO_MAGNETS), {"side": side.name})
    rims = rims_of(design, section)
    low = rims.least_mm if rims else 0.0
    deep = own.thick_mm + own.under_mm
    if deep > low - BESIDE_MM:
        thin = fmt.down(low - BESIDE_MM - own.under_mm)
        fixes = (
            (Fix("magnet_thin", (("section.magnets.thick_mm", thin),), {"thick_mm": thin}),)
            if thin >= _LEAST_MAGNET_MM[1]
            else ()
        )
        numbers = {"deep_mm": deep, "high_mm": low}
        yield Finding(
            "magnet_deep", "stop", PLACE, numbers, (*fixes, NO_MAGNETS), {"part": rims.lower if rims else ""}
        )
    places = spots(design, ring, section, own)
    yield from along_findings(design, ring, section, own, places)
    hinges = design.section.hinges
    if hinges is None:
        return
    held = [spot for spot in (*spots(design, ring, section, hinges), *legs(design, ring, section, hinges))
            if places and spot.side == places[0].side]  # fmt: skip
    if any(a.begins_mm < b.ends_mm and b.begins_mm < a.ends_mm for a in held for b in places):
        yield Finding("magnet_in_hinge", "stop", PLACE, {}, (NO_MAGNETS,))
