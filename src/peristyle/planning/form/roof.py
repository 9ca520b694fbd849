"""A house's roof that runs past the eaves: laid on the walls, where the ring would be mitered."""

import math
from collections.abc import Sequence

from msgspec import Struct

from peristyle.core.outlines import Outline as Points
from peristyle.core.planes import Corner, Point, Slab, cross, lapped, meet
from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import Design, House, side_name
from peristyle.planning.findings import Finding, Fix, Place, reader

# Floor A, wall B, roof C and D, wall E: by corner, the wall that ends there and the roof on it.
EAVES = {1: (1, 2), 3: (4, 3)}


class Roof(Struct, frozen=True):
    """How far each leaf's show face runs past its wall's (level, mm), and how the eaves are cut."""

    overhangs_mm: tuple[float, float]
    plumb: bool

    @property
    def overhang_mm(self) -> float:
        """The lesser of the two."""
        return min(self.overhangs_mm)


def roof_of(design: Design) -> Roof | None:
    """The roof laid on the walls; None where the eaves are mitered or the box is no house."""
    shape = design.form.shape
    if not isinstance(shape, House) or shape.overhang_mm <= 0:
        return None
    return Roof((shape.overhang_mm, shape.overhang_mm), shape.eaves == "plumb")


def lap(slabs: Sequence[Slab], corner: int, roof: Roof) -> Corner:
    """The cuts at one of the eaves."""
    wall, over = EAVES[corner]
    return lapped(slabs[corner], slabs[corner + 1], over_first=over < wall, plumb=roof.plumb)


def lay(feet: list[Points], slabs: Sequence[Slab], z_mm: float, roof: Roof) -> list[Points]:
    """Each side's plan at height z (outer start, outer end, inner end, inner start), the roof laid on."""
    laid = list(feet)
    for (corner, (wall, over)), past in zip(EAVES.items(), roof.overhangs_mm, strict=True):
        at_end = wall == corner  # the wall ends at this corner, and the roof starts there
        below, above = slabs[wall], slabs[over]
        out = below.outer_mm(z_mm)
        under = meet(below, out, above, above.inner_mm(z_mm))
        tip = meet(below, out + past, above, above.outer_mm(z_mm))
        plumb = meet(below, out + past, above, above.inner_mm(z_mm))
        soffit = plumb if roof.plumb else _squared(below, above, tip)
        a, b, c, d = laid[wall]
        laid[wall] = (a, under, c, d) if at_end else (under, b, c, d)
        a, b, c, d = laid[over]
        laid[over] = (tip, b, c, soffit) if at_end else (a, tip, soffit, d)
    return laid


def from_ridge_mm(slabs: Sequence[Slab], z_mm: float, *, inner: bool) -> dict[int, float]:
    """How far (mm) down each leaf from the ridge its underside meets the wall's outer face, level at height z.

    Of a ring whose roof is laid on its walls; from the ridge's inner arris or its outer one.
    """
    found = dict[int, float]()
    for wall, leaf in EAVES.values():
        over, under = slabs[leaf], slabs[wall]
        other = slabs[leaf + (leaf - wall)]  # across the ridge: on from the wall
        one, two = (s.inner_mm(z_mm) if inner else s.outer_mm(z_mm) for s in (over, other))
        ridge = meet(over, one, other, two)
        joint = meet(under, under.outer_mm(z_mm), over, over.inner_mm(z_mm))
        found[leaf] = abs(sum((r - j) * u for r, j, u in zip(ridge, joint, over.along, strict=False)))
    return found


def _squared(below: Slab, above: Slab, tip: Point) -> Point:
    """Where a square end from `tip` comes out on the inner face, at the same level."""
    ex, ey, ez = cross(below.normal, above.normal)
    nx, ny, nz = above.normal
    back = above.thickness_mm
    return (tip[0] - back * (nx - ex * nz / ez), tip[1] - back * (ny - ey * nz / ez))


def roof_findings(
    design: Design,
    roof: Roof,
    slabs: Sequence[Slab],
    corners: Sequence[Corner],
    feet: Sequence[Points],
    outside_mm: Sequence[float],
) -> list[Finding]:
    """What the maker should know of a roof laid on, and where it does not cover its walls."""
    fmt = reader(design)
    bevels = (-corners[1].first.bevel_deg, -corners[3].second.bevel_deg)
    alike = abs(bevels[0] - bevels[1]) < DEFAULT.angle_deg
    numbers = {
        "roof_mm": outside_mm[2], "wall_mm": outside_mm[1], "wall_top_bevel_deg": bevels[0],
        "other_bevel_deg": bevels[1],
    }  # fmt: skip
    grooved = design.section.bottom or design.section.top
    found = [
        Finding(
            "roof_laid_on",
            "note",
            Place("ring"),
            numbers,
            (),
            {"ends": "plumb" if roof.plumb else "square"},
            "" if alike else "unlike",
            ("groove",) if grooved else (),
        )
    ]
    least = min(outside_mm[1], outside_mm[4])
    if least <= DEFAULT.length_mm:
        index = 1 if outside_mm[1] == least else 4
        found.append(
            Finding(
                "side_vanishes",
                "stop",
                Place("side", index),
                {"outside_mm": least},
                (),
                {"side": side_name(index)},
                "roof",
            )
        )
    found += _below_floor(design, roof, slabs, feet)
    # The soffit must reach past the wall's outer face, or the joint is seen from below.
    lacking = max(_bare(slabs[wall], feet[over][3 if over > wall else 2]) for wall, over in EAVES.values())
    if lacking > DEFAULT.length_mm:
        least = roof.overhang_mm + lacking
        wanted = fmt.up(least)
        numbers = {
            "lacking_mm": lacking, "least_mm": least, "overhang_mm": roof.overhang_mm, "wanted_mm": wanted,
        }  # fmt: skip
        fixes = (
            Fix("eaves_plumb", (("form.eaves", "plumb"),)),
            Fix("overhang", (("form.overhang_mm", wanted),), {"overhang_mm": wanted}),
        )
        found.append(Finding("overhang_bares_wall", "caution", Place("ring"), numbers, fixes))
    return found


def _below_floor(design: Design, roof: Roof, slabs: Sequence[Slab], feet: Sequence[Points]) -> list[Finding]:
    """Eaves that hang lower than the floor the house stands on."""
    floor, fmt = slabs[0], reader(design)
    low = max(floor.ux * x + floor.uy * y for over in (2, 3) for x, y in feet[over]) - floor.outer_mm(0.0)
    shape = design.form.shape
    if low <= DEFAULT.length_mm or not isinstance(shape, House):
        return []
    shorter = fmt.down(roof.overhang_mm - low / math.tan(math.radians(shape.pitch_deg)))
    fix = Fix("overhang", (("form.overhang_mm", shorter),), {"overhang_mm": shorter})
    numbers = {"below_mm": low}
    return [Finding("eaves_below_floor", "stop", Place("ring"), numbers, (fix,) if shorter > 0 else ())]


def _bare(wall: Slab, soffit: Point) -> float:
    """How far (level, mm) the roof's underside falls short of the wall's outer face: negative past it."""
    return wall.offset_mm - (wall.ux * soffit[0] + wall.uy * soffit[1])
