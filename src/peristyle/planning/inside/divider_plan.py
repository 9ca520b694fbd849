"""The dividers of a design between its walls, and what is wrong with them."""

import math
from typing import Final

from msgspec import Struct

from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import Design, Dividers, corner_name, replace, side_name
from peristyle.model.job import Job
from peristyle.planning.findings import (
    EQUAL_COMPARTMENTS,
    Finding,
    Fix,
    Place,
    Severity,
    part_changes,
    reader,
)
from peristyle.planning.form.ring import RingPlan
from peristyle.planning.inside.dividers import (
    Clash,
    DividerPlan,
    Room,
    inside_at,
    number_that_stands,
    rooms,
    stand,
)
from peristyle.planning.section.groove_findings import blade_findings
from peristyle.planning.section.levels import SectionPlan

_LEAST_DADO_MM: Final = 1.0  # shallower, it would hold nothing (common practice)


class DividersPlan(Struct, frozen=True):
    """All dividers and the compartments between them, at the floor.

    `in_liner`: the dadoes are in the liner's walls, not the box's.
    """

    pieces: tuple[DividerPlan, ...] = ()
    widths_mm: tuple[float, ...] = ()
    depths_mm: tuple[float, ...] = ()
    in_liner: bool = False
    findings: tuple[Finding, ...] = ()


def plan_dividers(
    job: Job, ring: RingPlan, section: SectionPlan, liner: RingPlan | None = None
) -> DividersPlan:
    """Dividers between the walls of the ring, or of the liner where there is one.

    Compartments are measured at the floor, over all of the inside.
    """
    dividers = job.design.inside.dividers
    walls = liner if liner is not None else ring
    if dividers is None or not walls.stands:
        return DividersPlan()
    own = 0.0 if liner is not None else job.design.floor_mm  # a liner's own levels begin at its foot
    room = Room(walls.slabs, inside_at(walls.slabs, own), (own, own + dividers.height_mm), dividers)
    widths, depths = rooms(room)
    found = _compartment_findings(job.design, dividers, widths, depths)
    pieces: tuple[DividerPlan, ...] = ()
    if not found:
        pieces, clashes = stand(room, widths, depths)
        found = _clash_findings(job.design, room, clashes)
        found += _dado_findings(job, dividers, ring, walls, pieces)
        found += _height_findings(job.design, dividers, section)
        found += blade_findings(job, Place("ring"), "dado", "dado_for_divider", dividers.thickness_mm,
                                 tilted=any(dado.tilt_deg for piece in pieces for dado in piece.dadoes))  # fmt: skip
    return DividersPlan(pieces, widths, depths, liner is not None, tuple(found))


def _compartment_findings(
    design: Design, dividers: Dividers, widths: tuple[float, ...], depths: tuple[float, ...]
) -> list[Finding]:
    least = min(*widths, *depths)
    if least > DEFAULT.length_mm:
        return []
    fixes = [EQUAL_COMPARTMENTS] if dividers.widths_mm or dividers.depths_mm else []
    fewer = _that_leave_room(dividers, widths, depths)
    if fewer is not None:
        fixes.append(_fewer(dividers, fewer))
    fixes.append(_NO_DIVIDERS)
    numbers = {"least_mm": least, "over_mm": -least}
    return [Finding("compartment_vanishes", "stop", Place("ring"), numbers, tuple(fixes))]


_NO_DIVIDERS: Final = Fix("no_dividers", (("inside.dividers", False),))


def _fewer(own: Dividers, other: Dividers) -> Fix:
    """Another number of dividers."""
    ways = [way for way, number in (("across", other.across), ("along", other.along)) if number]
    key = "fewer_dividers" if len(ways) == 2 else f"fewer_dividers/{ways[0]}"
    numbers = {"across": float(other.across), "along": float(other.along)}
    return Fix(key, part_changes("inside.dividers", own, other), numbers)


def _that_leave_room(
    dividers: Dividers, widths: tuple[float, ...], depths: tuple[float, ...]
) -> Dividers | None:
    """As many dividers each way as leave equal compartments at least as wide as a divider is thick."""
    thick = dividers.thickness_mm
    numbers = []
    for asked, clear in ((dividers.across, widths), (dividers.along, depths)):
        inside = math.fsum(clear) + (len(clear) - 1) * thick
        numbers.append(max(0, min(asked, int((inside - thick) // (2 * thick)))))
    if not any(numbers) or numbers == [dividers.across, dividers.along]:
        return None
    return replace(dividers, across=numbers[0], along=numbers[1], widths_mm=(), depths_mm=())


def _clash_findings(design: Design, room: Room, clashes: list[Clash]) -> list[Finding]:
    """The first divider that runs into a corner and the first two that cross in a wall, with how many more."""
    if not clashes:
        return []
    fixes = [_NO_DIVIDERS]
    other = number_that_stands(room)
    if other is not None:
        fixes.insert(0, _fewer(room.dividers, other))
    fmt, count = reader(design), design.side_count
    found = []
    corners = [clash for clash in clashes if not clash.other]
    if corners:
        clash = corners[0]
        numbers = {"move_mm": fmt.up(clash.over_mm + 1.0), "likewise": len(corners) - 1.0}
        names = {"divider": clash.name, "corner": corner_name(clash.corner, count)}
        place, more = Place("corner", clash.corner, count), ("likewise",) if len(corners) > 1 else ()
        found.append(Finding("divider_meets_corner", "stop", place, numbers, tuple(fixes), names, "", more))
    crossed = [clash for clash in clashes if clash.other]
    if crossed:
        numbers, more = {"likewise": len(crossed) - 1.0}, ("likewise",) if len(crossed) > 1 else ()
        names = {"divider": crossed[0].name, "other": crossed[0].other}
        found.append(
            Finding("dividers_cross_in_wall", "stop", Place("ring"), numbers, tuple(fixes), names, "", more)
        )
    return found


def _height_findings(design: Design, dividers: Dividers, section: SectionPlan) -> list[Finding]:
    room = section.room_mm
    over = dividers.height_mm - room
    if over <= DEFAULT.length_mm:
        return []
    fits = reader(design).down(room)
    fix = Fix("divider_height", (("inside.dividers.height_mm", fits),), {"height_mm": fits})
    numbers = {"over_mm": over, "room_mm": room}
    fixes = (fix,) if fits > DEFAULT.length_mm else ()
    kind = "" if design.section.lid else "closed"
    return [Finding("divider_too_tall", "caution", Place("section"), numbers, fixes, {}, kind)]


def _thin_wall_fixes(
    design: Design, dividers: Dividers, deepest: float, wall: float, in_liner: bool
) -> tuple[Fix, ...]:
    """A shallower dado where that leaves one worth cutting, or a thicker wall."""
    fmt = reader(design)
    depth = fmt.down(dividers.dado_mm - (deepest - wall / 2) - wall / 12)
    thick = fmt.up(deepest * 2, 25.4 / 16 if fmt.units == "in" else 0.5)
    fixes = []
    if depth >= _LEAST_DADO_MM:
        fixes.append(Fix("dado_depth", (("inside.dividers.dado_mm", depth),), {"depth_mm": depth}))
    numbers = {"thickness_mm": thick}
    if in_liner and design.inside.liner is not None:
        fixes.append(Fix("liner_thickness", (("inside.liner.thickness_mm", thick),), numbers))
    else:
        fixes.append(Fix("sides_thick", (("sides.thickness_mm", (thick,)),), numbers))
    return tuple(fixes)


def _dado_findings(
    job: Job, dividers: Dividers, ring: RingPlan, walls: RingPlan, pieces: tuple[DividerPlan, ...]
) -> list[Finding]:
    """The wall behind the deepest dado, and dadoes steeper than the saw tilts."""
    dadoes = [dado for piece in pieces for dado in piece.dadoes]
    if not dadoes:
        return []
    found = []
    worst = max(dadoes, key=lambda dado: dado.depth_mm / walls.slabs[dado.side].thickness_mm)
    wall = walls.slabs[worst.side].thickness_mm
    place = Place("side", worst.side, job.design.side_count)
    if worst.depth_mm > wall / 2 + DEFAULT.length_mm:
        fixes = _thin_wall_fixes(job.design, dividers, worst.depth_mm, wall, walls is not ring)
        left = wall - worst.depth_mm
        numbers = {"dado_mm": worst.depth_mm, "wall_mm": wall, "left_mm": max(0.0, left)}
        severity: Severity = "stop" if left <= DEFAULT.length_mm else "caution"
        names, more = {"side": side_name(worst.side)}, ("slanted",) if worst.tilt_deg else ()
        found.append(Finding("dado_wall_thin", severity, place, numbers, fixes, names, "", more))
    steep = max(dadoes, key=lambda dado: abs(dado.tilt_deg))
    stop = job.shop.saw.stop_deg
    if abs(steep.tilt_deg) > stop + DEFAULT.angle_deg:
        numbers = {"tilt_deg": steep.tilt_deg, "from_square_deg": abs(steep.tilt_deg), "stop_deg": stop}
        place = Place("side", steep.side, job.design.side_count)
        found.append(
            Finding("dado_past_stop", "caution", place, numbers, (), {"side": side_name(steep.side)})
        )
    return found
