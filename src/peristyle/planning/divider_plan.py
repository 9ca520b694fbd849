"""The dividers of a design between its walls, and what is wrong with them."""

import math
from typing import Final

from msgspec import Struct

from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import Design, Dividers, corner_name, replace, side_name
from peristyle.model.job import Job, revised
from peristyle.planning.dividers import Clash, DividerPlan, Room, inside_at, number_that_stands, rooms, stand
from peristyle.planning.findings import Finding, Fix, Place, reader
from peristyle.planning.groove_findings import blade_findings
from peristyle.planning.ring import RingPlan
from peristyle.planning.section import SectionPlan

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
        found += blade_findings(job, Place("ring"), "A dado for a divider", dividers.thickness_mm)
    return DividersPlan(pieces, widths, depths, liner is not None, tuple(found))


def _compartment_findings(
    design: Design, dividers: Dividers, widths: tuple[float, ...], depths: tuple[float, ...]
) -> list[Finding]:
    least = min(*widths, *depths)
    if least > DEFAULT.length_mm:
        return []
    fmt = reader(design)
    equal = Fix(
        "Make the compartments equal",
        lambda d: revised(d, dividers=replace(dividers, widths_mm=(), depths_mm=())),
    )
    fixes = [equal] if dividers.widths_mm or dividers.depths_mm else []
    fewer = _that_leave_room(dividers, widths, depths)
    if fewer is not None:
        words = " and ".join(
            f"{number} {way}" for number, way in ((fewer.across, "across"), (fewer.along, "along")) if number
        )
        fixes.append(Fix(f"Take {words}", lambda d: revised(d, dividers=fewer)))
    fixes.append(Fix("Leave out the dividers", lambda d: revised(d, dividers=None)))
    return [
        Finding(
            "compartment_vanishes",
            "stop",
            Place("ring"),
            f"The dividers and compartments given are {fmt.length(-least, unit=True)} more than there is room "
            "inside. Use fewer or thinner dividers, or smaller compartments.",
            {"least_mm": least},
            tuple(fixes),
        )
    ]


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
    fixes = [Fix("Leave out the dividers", lambda d: revised(d, dividers=None))]
    other = number_that_stands(room)
    if other is not None:
        words = " and ".join(
            f"{number} {way}" for number, way in ((other.across, "across"), (other.along, "along")) if number
        )
        fixes.insert(0, Fix(f"Take {words}", lambda d: revised(d, dividers=other)))
    fmt, count = reader(design), design.side_count
    found = []
    corners = [clash for clash in clashes if not clash.other]
    if corners:
        clash = corners[0]
        move = fmt.up(clash.over_mm + 1.0)
        text = (
            f"Divider {clash.name} runs into corner {corner_name(clash.corner, count)}: a dado there would cut its "
            f"joint. Move it {fmt.length(move, unit=True)} or more to one side, or take another number of dividers."
        )
        place = Place("corner", clash.corner, count)
        text += _likewise(corners)
        found.append(Finding("divider_meets_corner", "stop", place, text, {"move_mm": move}, tuple(fixes)))
    crossed = [clash for clash in clashes if clash.other]
    if crossed:
        text = (
            f"Dividers {crossed[0].name} and {crossed[0].other} cross within a wall, where they cannot be halved. "
            "Move one of them, or take another number of dividers."
        )
        text += _likewise(crossed)
        found.append(Finding("dividers_cross_in_wall", "stop", Place("ring"), text, {}, tuple(fixes)))
    return found


def _likewise(clashes: list[Clash]) -> str:
    return f" ({len(clashes) - 1} more likewise.)" if len(clashes) > 1 else ""


def _height_findings(design: Design, dividers: Dividers, section: SectionPlan) -> list[Finding]:
    room = section.room_mm
    over = dividers.height_mm - room
    if over <= DEFAULT.length_mm:
        return []
    fmt = reader(design)
    fits = fmt.down(room)
    return [
        Finding(
            "divider_too_tall",
            "caution",
            Place("section"),
            f"The dividers stand {fmt.length(over, unit=True)} higher than there is room once the lid is freed. "
            "Make them lower.",
            {"over_mm": over, "room_mm": room},
            (
                Fix(
                    f"Make them {fmt.length(fits, unit=True)} high",
                    lambda d: revised(d, dividers=replace(dividers, height_mm=fits)),
                ),
            )
            if fits > DEFAULT.length_mm
            else (),
        )
    ]


def _thin_wall_fixes(
    design: Design, dividers: Dividers, deepest: float, wall: float, in_liner: bool
) -> tuple[Fix, ...]:
    """A shallower dado where that leaves one worth cutting, or a thicker wall."""
    fmt = reader(design)
    depth = fmt.down(dividers.dado_mm - (deepest - wall / 2) - wall / 12)
    thick = fmt.up(deepest * 2, 25.4 / 16 if fmt.units == "in" else 0.5)
    fixes = []
    if depth >= _LEAST_DADO_MM:
        fixes.append(
            Fix(
                f"Make them {fmt.length(depth, unit=True)} deep",
                lambda d: revised(d, dividers=replace(dividers, dado_mm=depth)),
            )
        )
    words = fmt.length(thick, unit=True)
    if in_liner and design.inside.liner is not None:
        liner = replace(design.inside.liner, thickness_mm=thick)
        fixes.append(Fix(f"Make the liner {words} thick", lambda d: revised(d, liner=liner)))
    else:
        fixes.append(Fix(f"Make the sides {words} thick", lambda d: revised(d, thicknesses_mm=(thick,))))
    return tuple(fixes)


def _dado_findings(
    job: Job, dividers: Dividers, ring: RingPlan, walls: RingPlan, pieces: tuple[DividerPlan, ...]
) -> list[Finding]:
    """The wall behind the deepest dado, and dadoes steeper than the saw tilts."""
    dadoes = [dado for piece in pieces for dado in piece.dadoes]
    if not dadoes:
        return []
    fmt = reader(job.design)
    found = []
    worst = max(dadoes, key=lambda dado: dado.depth_mm / walls.slabs[dado.side].thickness_mm)
    wall = walls.slabs[worst.side].thickness_mm
    place = Place("side", worst.side, job.design.side_count)
    if worst.depth_mm > wall / 2 + DEFAULT.length_mm:
        fixes = _thin_wall_fixes(job.design, dividers, worst.depth_mm, wall, walls is not ring)
        slanted = (
            f" (a divider that meets side {side_name(worst.side)} at a slant goes in deeper by one edge)"
            if worst.tilt_deg
            else ""
        )
        found.append(
            Finding(
                "dado_wall_thin",
                "stop" if worst.depth_mm >= wall - DEFAULT.length_mm else "caution",
                place,
                f"Dadoes {fmt.length(worst.depth_mm, unit=True)} deep{slanted} leave "
                f"{fmt.length(max(0.0, wall - worst.depth_mm), unit=True)} of wall. Keep at least half: "
                "shallower dadoes, thinner dividers or thicker walls.",
                {"dado_mm": worst.depth_mm, "wall_mm": wall},
                fixes,
            )
        )
    steep = max(dadoes, key=lambda dado: abs(dado.tilt_deg))
    if abs(steep.tilt_deg) > job.shop.saw.stop_deg + DEFAULT.angle_deg:
        found.append(
            Finding(
                "dado_past_stop",
                "caution",
                Place("side", steep.side, job.design.side_count),
                f"A divider meets side {side_name(steep.side)} {fmt.angle(abs(steep.tilt_deg))} from square, past the "
                f"saw's stop at {fmt.angle(job.shop.saw.stop_deg)}. Chop that dado or rout it along a guide, or move "
                "the divider to a wall that it meets more squarely.",
                {"tilt_deg": steep.tilt_deg},
            )
        )
    return found
