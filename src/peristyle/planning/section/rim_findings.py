"""What keeps hinges and magnets from lying along a rim."""

import math
from collections.abc import Iterator, Sequence
from typing import Final

from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import Design, Hinges, Magnets
from peristyle.planning.findings import Finding, Fix, Place, reader
from peristyle.planning.form.ring import RingPlan
from peristyle.planning.section.hardware import Spot, rims_of, run_at
from peristyle.planning.section.levels import SectionPlan

PLACE: Final = Place("section")
BESIDE_MM: Final = 2.0  # wood left beside a leaf or a magnet, under a screw's point (common practice)
LEAST_BESIDE_MM: Final = 1.0  # wood that must be left beside a leaf or a magnet (our rule)
BESIDE_BORE_MM: Final = 1.5  # wood left on either side of a round pocket or a bore (common practice)
NO_HINGES: Final = Fix("no_hinges", (("section.hinges", False),))
NO_MAGNETS: Final = Fix("no_magnets", (("section.magnets", False),))


def along_findings(
    design: Design, ring: RingPlan, section: SectionPlan, own: Hinges | Magnets, places: Sequence[Spot]
) -> Iterator[Finding]:
    """Too many, too long, or too near the corner: the wall beside it takes what it is thick from the rim."""
    if not places:
        return
    what = "hinge" if isinstance(own, Hinges) else "magnet"
    nothing = NO_HINGES if what == "hinge" else NO_MAGNETS
    rims = rims_of(design, section)
    start, end = run_at(ring, places[0].side, rims.body_mm if rims else 0.0)
    long = places[0].ends_mm - places[0].begins_mm
    count = len(ring.slabs)
    index = places[0].side
    thick = max(ring.slabs[(index + k) % count].level_thickness_mm for k in (-1, 1))
    room = end - start - 2 * (thick + BESIDE_MM)
    fmt = reader(design)
    if places[0].begins_mm - start < thick + BESIDE_MM - DEFAULT.length_mm or (
        len(places) > 1 and places[1].begins_mm < places[0].ends_mm + BESIDE_MM
    ):
        inset = fmt.up(thick + BESIDE_MM + (0.0 if what == "hinge" else long / 2))
        fits = room >= own.count * (long + BESIDE_MM)
        most = max(1, math.floor(room / (long + BESIDE_MM)))
        changes = [(f"section.{what}s.inset_mm", inset)]
        if not fits:
            changes.append((f"section.{what}s.count", most))
        fixes = (Fix(f"{what}_inset", tuple(changes), {"inset_mm": inset}),) if room >= long else ()
        numbers = {"room_mm": max(0.0, room), "long_mm": long, "count": float(own.count)}
        yield Finding(
            f"{what}s_no_room", "stop", PLACE, numbers, (*fixes, nothing), {"side": ring.sides[index].name}
        )
