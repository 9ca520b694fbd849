"""What stands inside the ring: a liner with its own miters, and dividers in dadoes."""

import math

from msgspec import Struct

from peristyle.core.outlines import bounds
from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import Design, Dividers, Rectangle, replace
from peristyle.planning.findings import Finding, Fix, Place, reader
from peristyle.planning.ring import RingPlan, ring_from_slabs
from peristyle.planning.section import SectionPlan


class LinerPlan(Struct, frozen=True):
    """The inner ring, and the room over it once the lid is freed (negative: it stands proud)."""

    ring: RingPlan
    base_mm: float
    headroom_mm: float
    findings: tuple[Finding, ...] = ()


class DividerPlan(Struct, frozen=True):
    """One divider: its run, size, where its dado starts on the side, and its halving slots.

    `start_mm` is from the start of side A's (across) or B's (along) inside to the near edge of the
    dado; `notches_mm` are near edges of the halving slots from the divider's own start.
    """

    name: str
    run: str
    length_mm: float
    height_mm: float
    thickness_mm: float
    start_mm: float
    notches_mm: tuple[float, ...]


class DividersPlan(Struct, frozen=True):
    """All dividers and the compartments between them."""

    pieces: tuple[DividerPlan, ...] = ()
    widths_mm: tuple[float, ...] = ()
    depths_mm: tuple[float, ...] = ()
    findings: tuple[Finding, ...] = ()


def plan_liner(design: Design, ring: RingPlan, section: SectionPlan) -> LinerPlan | None:
    """The liner's ring, its outside a gap within the box's inside; None where there is none."""
    liner = design.liner
    if liner is None or not ring.stands:
        return None
    fmt = reader(design)
    bottom = design.bottom
    base = bottom.height_mm + bottom.thickness_mm if bottom else 0.0
    slabs = tuple(
        slab._replace(
            offset_mm=slab.inner_mm(base, slab.thickness_mm + liner.gap_mm), thickness_mm=liner.thickness_mm
        )
        for slab in ring.slabs
    )
    own = replace(design, height_mm=liner.height_mm, thicknesses_mm=(liner.thickness_mm,))
    inner = ring_from_slabs(own, slabs)
    headroom = section.finished_mm - base - liner.height_mm
    findings = [replace(f, code=f"liner_{f.code}") for f in inner.findings if f.severity == "stop"]
    if design.lid and headroom < -DEFAULT.length_mm:
        top = liner.height_mm + headroom
        findings.append(
            Finding(
                "liner_holds_lid_up",
                "caution",
                Place("section"),
                f"The liner stands {fmt.length(-headroom, unit=True)} higher than the box once the lid is freed: "
                "the lid will sit on the liner and not on the body. Make the liner lower.",
                {"headroom_mm": headroom},
                (
                    Fix(
                        f"Make the liner {fmt.length(top, unit=True)} high",
                        lambda d: replace(d, liner=replace(liner, height_mm=top)),
                    ),
                )
                if top > 0
                else (),
            )
        )
    return LinerPlan(inner, base, headroom, tuple(findings))


def _compartments(inside: float, count: int, thick: float, given: tuple[float, ...]) -> tuple[float, ...]:
    """Clear widths of count + 1 compartments: those given, the rest sharing what is left."""
    free = inside - count * thick
    fixed = given[:count]
    rest = count + 1 - len(fixed)
    return (*fixed, *[(free - math.fsum(fixed)) / rest] * rest)


def plan_dividers(design: Design, ring: RingPlan) -> DividersPlan:
    """Dividers of a rectangle, measured where they stand; nothing where there are none."""
    dividers = design.dividers
    if dividers is None or not ring.stands:
        return DividersPlan()
    if not isinstance(design.shape, Rectangle):
        text = "Dividers in dadoes are worked out for rectangles. Take them out, or make the box a rectangle."
        out = Fix("Leave out the dividers", lambda d: replace(d, dividers=None))
        return DividersPlan(
            findings=(Finding("dividers_need_rectangle", "stop", Place("ring"), text, {}, (out,)),)
        )
    x0, y0, x1, y1 = bounds(ring.inner_bottom)
    long, wide = x1 - x0, y1 - y0
    thick, dado = dividers.thickness_mm, dividers.dado_mm
    widths = _compartments(long, dividers.across, thick, dividers.widths_mm)
    depths = _compartments(wide, dividers.along, thick, dividers.depths_mm)
    x_starts, y_starts = _starts(widths, thick), _starts(depths, thick)
    pieces = [
        DividerPlan(
            f"across {i + 1}", "across", wide + 2 * dado, dividers.height_mm, thick, start,
            tuple(dado + y for y in y_starts),
        )
        for i, start in enumerate(x_starts)
    ] + [
        DividerPlan(
            f"along {i + 1}", "along", long + 2 * dado, dividers.height_mm, thick, start,
            tuple(dado + x for x in x_starts),
        )
        for i, start in enumerate(y_starts)
    ]  # fmt: skip
    return DividersPlan(
        tuple(pieces), widths, depths, tuple(_divider_findings(design, dividers, widths, depths))
    )


def _starts(clear: tuple[float, ...], thick: float) -> tuple[float, ...]:
    """Near edges of the dividers between compartments."""
    starts, at = [], 0.0
    for room in clear[:-1]:
        at += room
        starts.append(at)
        at += thick
    return tuple(starts)


def _divider_findings(
    design: Design, dividers: Dividers, widths: tuple[float, ...], depths: tuple[float, ...]
) -> list[Finding]:
    fmt = reader(design)
    found = []
    least = min(*widths, *depths)
    if least <= DEFAULT.length_mm:
        equal = Fix(
            "Make the compartments equal",
            lambda d: replace(d, dividers=replace(dividers, widths_mm=(), depths_mm=())),
        )
        found.append(
            Finding(
                "compartment_vanishes",
                "stop",
                Place("ring"),
                f"The dividers and compartments given are {fmt.length(-least, unit=True)} more than there is room "
                "inside. Use fewer or thinner dividers, or smaller compartments.",
                {"least_mm": least},
                (equal,) if dividers.widths_mm or dividers.depths_mm else (),
            )
        )
    wall = min(design.thicknesses_mm)
    if dividers.dado_mm > wall / 2 + DEFAULT.length_mm:
        found.append(
            Finding(
                "dado_wall_thin",
                "stop" if dividers.dado_mm >= wall else "caution",
                Place("ring"),
                f"Dadoes {fmt.length(dividers.dado_mm, unit=True)} deep leave "
                f"{fmt.length(max(0.0, wall - dividers.dado_mm), unit=True)} of wall. Keep at least half.",
                {"dado_mm": dividers.dado_mm, "wall_mm": wall},
                (
                    Fix(
                        f"Make them {fmt.length(wall / 3, unit=True)} deep",
                        lambda d: replace(d, dividers=replace(dividers, dado_mm=wall / 3)),
                    ),
                ),
            )
        )
    return found
