"""Sides and corners: from the sizes decided to every length, miter and bevel."""

import math
import re
from collections.abc import Callable

from msgspec import Struct

from peristyle.core import closing, outlines
from peristyle.core.errors import ShapeError
from peristyle.core.outlines import Outline as Points
from peristyle.core.planes import Corner, EndCut, Point, Slab, corner, unit
from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import (
    MAX_MM,
    Alternating,
    Design,
    House,
    Outline,
    Rectangle,
    Regular,
    Shape,
    corner_name,
    replace,
    side_name,
)
from peristyle.planning.findings import Finding, Fix, Place, reader


class SidePlan(Struct, frozen=True):
    """One side, finished. Lengths in mm; `*_top` at the top edge, the others at the bottom edge.

    `reach_mm` is the least and greatest x of the show face, seen from its bottom start corner.
    `outer_face` and `inner_face` are the flat patterns, four (x, y) corners counter-clockwise
    from the bottom start of the show face: x along the bottom edge, y up the slant. Inside values
    are None where the walls leave no inside.
    """

    index: int
    name: str
    thickness_mm: float
    slope_deg: float
    height_mm: float
    slant_mm: float
    rip_mm: float
    outside_mm: float
    outside_top_mm: float
    inside_mm: float | None
    inside_top_mm: float | None
    start: EndCut
    end: EndCut
    outer_face: Points
    inner_face: Points
    reach_mm: tuple[float, float]


class CornerPlan(Struct, frozen=True):
    """The corner at the end of side `index`."""

    index: int
    name: str
    interior_deg: float
    dihedral_deg: float
    joint_face_mm: float
    closing: bool


class RingPlan(Struct, frozen=True):
    """The whole ring. Outlines are seen from above; vertex i lies at the end of side i."""

    slabs: tuple[Slab, ...] = ()
    height_mm: float = 0.0
    sides: tuple[SidePlan, ...] = ()
    corners: tuple[CornerPlan, ...] = ()
    outer_bottom: Points = ()
    outer_top: Points = ()
    inner_bottom: Points = ()
    inner_top: Points = ()
    findings: tuple[Finding, ...] = ()

    @property
    def stands(self) -> bool:
        """Whether there is a ring with room inside it."""
        return bool(self.inner_bottom)


def _regular(shape: Regular) -> list[float]:
    half = math.pi / shape.sides
    match shape.measure:
        case "inside" | "outside":
            apothem = shape.size_mm / (2 * math.tan(half))
        case "across_flats":
            apothem = shape.size_mm / 2
        case "across_corners":
            apothem = shape.size_mm / 2 * math.cos(half)
    return [apothem] * shape.sides


def _walk(lengths: tuple[float, ...], headings: tuple[float, ...], slabs: list[Slab]) -> list[float]:
    """Offsets of the lines of a ring walked side by side, about the middle of its outline."""
    x = y = 0.0
    points: list[Point] = []
    for length, heading in zip(lengths, headings, strict=True):
        dx, dy = unit(heading)
        x, y = x + length * dx, y + length * dy
        points.append((x, y))
    cx, cy = outlines.centroid(tuple(points))
    return [s.ux * (p[0] - cx) + s.uy * (p[1] - cy) for s, p in zip(slabs, points, strict=True)]


def _headings(design: Design) -> tuple[tuple[float, ...], tuple[float, ...]]:
    """Direction each side runs in, and the lengths walked (empty where a shape needs none)."""
    match design.shape:
        case Outline(lengths_mm=lengths, interiors_deg=angles):
            ring = closing.close_ring(lengths, angles)
            return closing.directions_deg(ring.interiors_deg), ring.lengths_mm
        case House(width_mm=width, wall_mm=wall, pitch_deg=pitch):
            roof = width / 2 / math.cos(math.radians(pitch))
            corners = (90.0, 90.0 + pitch, 180.0 - 2 * pitch, 90.0 + pitch, 90.0)
            return closing.directions_deg(corners), (width, wall, roof, roof, wall)
        case Alternating(sides=count, first_mm=first, second_mm=second):
            headings = tuple(360.0 * i / count for i in range(count))
            return headings, tuple((first, second)[i % 2] for i in range(count))
        case _:
            count = design.side_count
            return tuple(360.0 * i / count for i in range(count)), ()


def slabs_of(design: Design) -> tuple[Slab, ...]:
    """The sides as slabs: the sizes given are those at the bottom edge. Raises ShapeError."""
    shape = design.shape
    headings, lengths = _headings(design)
    bare = [
        Slab.facing(heading - 90.0, 0.0, design.slope_of(i), design.thickness_of(i))
        for i, heading in enumerate(headings)
    ]
    match shape:
        case Regular():
            offsets = _regular(shape)
        case Rectangle(length_mm=length, width_mm=width):
            offsets = [width / 2, length / 2, width / 2, length / 2]
        case _:
            offsets = _walk(lengths, headings, bare)
    inside = shape.measure == "inside"
    return tuple(
        slab._replace(offset_mm=offset + (slab.level_thickness_mm if inside else 0.0))
        for slab, offset in zip(bare, offsets, strict=True)
    )


def plan_ring(design: Design) -> RingPlan:
    """Every side and corner; where no ring can be made, the findings say why."""
    try:
        slabs = slabs_of(design)
    except ShapeError as error:
        return RingPlan(findings=(_shape_finding(design, error),))
    return ring_from_slabs(design, slabs)


def ring_from_slabs(design: Design, slabs: tuple[Slab, ...]) -> RingPlan:
    """The ring that these slabs make, of the design's height (another's slabs serve a liner)."""
    count = len(slabs)
    try:
        cuts = [corner(slabs[i], slabs[(i + 1) % count]) for i in range(count)]
    except ShapeError as error:
        return RingPlan(findings=(_shape_finding(design, error),))
    height = design.height_mm
    levels = [
        outlines.vertices(slabs, [s.outer_mm(0.0) for s in slabs]),
        outlines.vertices(slabs, [s.outer_mm(height) for s in slabs]),
        outlines.vertices(slabs, [s.inner_mm(0.0) for s in slabs]),
        outlines.vertices(slabs, [s.inner_mm(height) for s in slabs]),
    ]
    runs = [outlines.run_lengths(slabs, level) for level in levels]
    findings = _run_findings(design, runs)
    if any(f.severity == "stop" and f.code != "side_too_short" for f in findings):
        return RingPlan(slabs=slabs, height_mm=height, findings=tuple(findings))
    hollow = not findings
    sides = tuple(
        _side(design, i, slabs[i], cuts[i - 1].second, cuts[i].first, [r[i] for r in runs], hollow)
        for i in range(count)
    )
    corners = tuple(_corner(design, i, cuts[i]) for i in range(count))
    findings += _thickness_findings(design, cuts)
    findings += _overhang_findings(design, sides)
    return RingPlan(
        slabs=slabs,
        height_mm=height,
        sides=sides,
        corners=corners,
        outer_bottom=levels[0],
        outer_top=levels[1],
        inner_bottom=levels[2] if hollow else (),
        inner_top=levels[3] if hollow else (),
        findings=tuple(findings),
    )


def _corner(design: Design, index: int, cut: Corner) -> CornerPlan:
    return CornerPlan(
        index=index,
        name=corner_name(index, design.side_count),
        interior_deg=cut.interior_deg,
        dihedral_deg=cut.dihedral_deg,
        joint_face_mm=cut.joint_face_mm,
        closing=index == design.closing,
    )


def _side(
    design: Design, index: int, slab: Slab, start: EndCut, end: EndCut, runs: list[float], hollow: bool
) -> SidePlan:
    outside, outside_top, inside, inside_top = runs
    slant = design.height_mm / slab.cos_slope
    tan_start = math.tan(math.radians(start.miter_deg))
    tan_end = math.tan(math.radians(end.miter_deg))
    outer = ((0.0, 0.0), (outside, 0.0), (outside + slant * tan_end, slant), (-slant * tan_start, slant))
    # The inner face starts lower (or higher) on a leaning side, and is shorter by the bevels.
    lift = -slab.thickness_mm * slab.sin_slope / slab.cos_slope
    inner = tuple(
        (x - edge, y + lift) for (x, y), edge in zip(outer, _insets(slab, start, end, lift), strict=True)
    )
    return SidePlan(
        index=index,
        name=side_name(index),
        thickness_mm=slab.thickness_mm,
        slope_deg=design.slope_of(index),
        height_mm=design.height_mm,
        slant_mm=slant,
        rip_mm=slant + abs(lift),
        outside_mm=outside,
        outside_top_mm=outside_top,
        inside_mm=inside if hollow else None,
        inside_top_mm=inside_top if hollow else None,
        start=start,
        end=end,
        outer_face=outer,
        inner_face=inner if hollow else (),
        reach_mm=(min(0.0, outer[3][0]), max(outside, outer[2][0])),
    )


def _insets(slab: Slab, start: EndCut, end: EndCut, lift: float) -> tuple[float, ...]:
    """How far along x each corner of the inner face lies behind that of the outer face.

    The bevel takes t·tan(bevel) square to the end's edge; along x that is divided by cos(miter),
    and the face's own rise `lift` moves along the slanted edge by lift·tan(miter).
    """

    def inset(cut: EndCut) -> float:
        miter = math.radians(cut.miter_deg)
        taken = slab.thickness_mm * math.tan(math.radians(cut.bevel_deg)) / math.cos(miter)
        return taken - lift * math.tan(miter)

    at_start, at_end = -inset(start), inset(end)
    return (at_start, at_end, at_end, at_start)


def _shape_finding(design: Design, error: ShapeError) -> Finding:
    numbers = error.numbers
    text = str(error)
    place = Place("ring")
    if "corner" in numbers:
        place = Place("corner", int(numbers["corner"]), design.side_count)
    elif "side" in numbers:
        place = Place("side", int(numbers["side"]), design.side_count)
    shape = design.shape
    fixes: tuple[Fix, ...] = ()
    if isinstance(shape, Outline):
        for number in range(design.side_count, 0, -1):
            for word in ("side", "Side"):
                text = text.replace(f"{word} {number} ", f"{word} {side_name(number - 1)} ")
        text = _in_units(design, text)
        fixes = _outline_fixes(design, shape, numbers)
    return Finding(error.code, "stop", place, text, numbers, fixes)


def _in_units(design: Design, text: str) -> str:
    """Lengths that the geometry gives in mm, in the maker's own units."""
    if design.units == "mm":
        return text
    fmt = reader(design)
    return re.sub(r"(-?\d+(?:\.\d+)?) mm", lambda m: fmt.length(float(m[1]), unit=True), text)


def _outline_fixes(design: Design, shape: Outline, numbers: dict[str, float]) -> tuple[Fix, ...]:
    """The one value that would close the ring, as an edit."""
    for key, index_key, values, show in (
        ("wanted_mm", "side", "lengths_mm", reader(design).length),
        ("wanted_deg", "corner", "interiors_deg", reader(design).angle),
    ):
        if key in numbers:
            index, wanted = int(numbers[index_key]), numbers[key]
            word = "side" if key == "wanted_mm" else "the corner after side"

            def apply(d: Design, index: int = index, wanted: float = wanted, values: str = values) -> Design:
                old = list(getattr(shape, values))
                old[index] = wanted
                return replace(d, shape=replace(shape, **{values: tuple(old)}))

            return (Fix(f"Make {word} {side_name(index)} {show(wanted)}", apply),)
    return ()


def _run_findings(design: Design, runs: list[tuple[float, ...]]) -> list[Finding]:
    """Sides that vanish: outside, toward the top, or inside their own thickness."""
    fmt = reader(design)
    tiny = DEFAULT.length_mm
    outer, outer_top, inner, inner_top = (min(r) for r in runs)
    if outer <= tiny:
        index = runs[0].index(outer)
        text = (
            f"Side {side_name(index)} has no length left outside: its neighbours meet before it. "
            "Make it longer, or the sides closer to one thickness."
        )
        return [Finding("side_vanishes", "stop", Place("side", index), text, {"outside_mm": outer})]
    if outer_top <= tiny:
        index = runs[1].index(outer_top)
        limit = min(
            design.height_mm * low / (low - high)
            for low, high in zip(runs[0], runs[1], strict=True)
            if high < low
        )
        return [
            Finding(
                "slopes_cross",
                "stop",
                Place("side", index),
                f"The sides lean together and meet at {fmt.length(limit, unit=True)}, below the "
                f"height of {fmt.length(design.height_mm, unit=True)}. Lower the box or lean less.",
                {"meet_mm": limit, "height_mm": design.height_mm},
                (
                    Fix(
                        f"Make it {fmt.length(limit * 0.6, unit=True)} high",
                        lambda d: replace(d, height_mm=limit * 0.6),
                    ),
                    Fix("Stand the sides upright", lambda d: replace(d, slopes_deg=(0.0,))),
                ),
            )
        ]
    if min(inner, inner_top) <= tiny:
        level = 2 if inner <= inner_top else 3
        index = runs[level].index(min(runs[level]))
        return [_too_short(design, index, runs[level - 2][index], runs[level][index], level == 3)]
    return []


def _too_short(design: Design, index: int, outside: float, inside: float, at_top: bool) -> Finding:
    fmt = reader(design)
    # Inside falls short of outside in proportion to the thickness of the walls.
    shrink = outside - inside
    most = outside / shrink * 0.8
    fixes = [
        Fix(
            "Use thinner sides: " + fmt.length(min(design.thicknesses_mm) * most, unit=True),
            lambda d: replace(d, thicknesses_mm=tuple(t * most for t in d.thicknesses_mm)),
        )
    ]
    grown = scaled(design, shrink * 1.25 / outside) if outside > 0 else None
    if grown is not None:
        fixes.append(Fix("Make the box larger", lambda _d: grown))
    where = " at the top" if at_top else ""
    return Finding(
        "side_too_short",
        "stop",
        Place("side", index),
        f"Side {side_name(index)} is {fmt.length(outside, unit=True)} long outside{where}, and its "
        f"miters take {fmt.length(shrink, unit=True)}: nothing is left inside. "
        "Make the side longer or the wood thinner.",
        {"outside_mm": outside, "taken_mm": shrink},
        tuple(fixes),
    )


def scaled(design: Design, factor: float) -> Design | None:
    """The same box with its plan sizes times `factor`; None where that passes the limits."""
    shape = design.shape
    if design.contents and isinstance(shape, Rectangle | Regular):
        return None  # the contents say how large it is

    def grow(size: float | None) -> float | None:
        return None if size is None else size * factor

    match shape:
        case Regular(size_mm=size):
            new: Shape = replace(shape, size_mm=size * factor, top_mm=grow(shape.top_mm))
            sizes = [size, shape.top_mm or size]
        case Rectangle(length_mm=length, width_mm=width):
            tops = (shape.top_length_mm, shape.top_width_mm)
            new = replace(
                shape, length_mm=length * factor, width_mm=width * factor,
                top_length_mm=grow(tops[0]), top_width_mm=grow(tops[1]),
            )  # fmt: skip
            sizes = [length, width, tops[0] or length, tops[1] or width]
        case House(width_mm=width, wall_mm=wall):
            new = replace(shape, width_mm=width * factor, wall_mm=wall * factor)
            sizes = [width, wall]
        case Alternating(first_mm=first, second_mm=second):
            new = replace(shape, first_mm=first * factor, second_mm=second * factor)
            sizes = [first, second]
        case Outline(lengths_mm=lengths):
            new = replace(shape, lengths_mm=tuple(None if v is None else v * factor for v in lengths))
            sizes = [v for v in lengths if v is not None]
    if any(not 0 < size * factor <= MAX_MM for size in sizes):
        return None
    return replace(design, shape=new)


def _overhang_findings(design: Design, sides: tuple[SidePlan, ...]) -> list[Finding]:
    """A roof that runs past the eaves is laid on the walls: what changes against the mitered ring."""
    shape = design.shape
    if not isinstance(shape, House) or shape.overhang_mm <= 0:
        return []
    fmt = reader(design)
    lean = math.cos(math.radians(shape.pitch_deg))
    roof = sides[2].outside_mm + shape.overhang_mm / lean
    wall = sides[1].outside_mm - sides[2].thickness_mm / lean
    return [
        Finding(
            "roof_laid_on",
            "note",
            Place("ring"),
            f"With an overhang the eaves are not mitered: cut the roof {fmt.length(roof, unit=True)} long, "
            "mitered at the "
            f"ridge only, and the walls {fmt.length(wall, unit=True)} high outside, their tops bevelled "
            f"{fmt.angle(shape.pitch_deg)}, so that the roof lies on them.",
            {"roof_mm": roof, "wall_mm": wall, "wall_top_bevel_deg": shape.pitch_deg},
        )
    ]


def _thickness_findings(design: Design, cuts: list[Corner]) -> list[Finding]:
    """Why a step in thickness shows, and bevels that no saw's own stop reaches."""
    fmt = reader(design)
    found: list[Finding] = []
    thick = [design.thickness_of(i) for i in range(design.side_count)]
    if max(thick) - min(thick) > DEFAULT.length_mm:
        same: Callable[[Design], Design] = lambda d: replace(  # noqa: E731 - a fix is an edit
            d, thicknesses_mm=(min(d.thicknesses_mm),)
        )
        found.append(
            Finding(
                "unequal_thickness",
                "caution",
                Place("ring"),
                f"The sides differ in thickness by {fmt.length(max(thick) - min(thick), unit=True)}. "
                "Where two thicknesses meet, the two bevels differ and the joint no longer halves "
                "the corner: the line shows at the rim, and each piece needs its own tilt.",
                {"thinnest_mm": min(thick), "thickest_mm": max(thick)},
                (Fix(f"Plane all to {fmt.length(min(thick), unit=True)}", same),),
            )
        )
    return found


def measured(design: Design, measure: str) -> Design:
    """The very same box with its size taken on another line (inside, across flats …).

    The design as it is where the ring does not stand, or the shape has no such measure.
    """
    ring = plan_ring(design)
    shape = design.shape
    if not ring.stands or measure == shape.measure:
        return design
    level = ring.inner_bottom if measure == "inside" else ring.outer_bottom
    runs = outlines.run_lengths(ring.slabs, level)
    match shape:
        case Regular(sides=count):
            apothem = ring.slabs[0].outer_mm(0.0)
            sizes = {
                "inside": runs[0],
                "outside": runs[0],
                "across_flats": 2 * apothem,
                "across_corners": 2 * apothem / math.cos(math.pi / count),
            }
            if measure not in sizes:
                return design
            new: Shape = replace(shape, size_mm=sizes[measure], measure=measure, top_mm=None)
        case Rectangle() if measure in ("inside", "outside"):
            new = replace(
                shape,
                length_mm=runs[0],
                width_mm=runs[1],
                measure=measure,
                top_length_mm=None,
                top_width_mm=None,
            )
        case Alternating() if measure in ("inside", "outside"):
            new = replace(shape, first_mm=runs[0], second_mm=runs[1], measure=measure)
        case Outline() if measure in ("inside", "outside"):
            angles = tuple(corner.interior_deg for corner in ring.corners)
            new = replace(shape, lengths_mm=runs, interiors_deg=angles, measure=measure)
        case House() if measure in ("inside", "outside"):
            new = replace(shape, width_mm=runs[0], wall_mm=runs[1], measure=measure)
        case _:
            return design
    # A taper's slopes stay as they are, given as angles from here on.
    slopes = tuple(design.slope_of(i) for i in range(design.side_count))
    even = slopes[:1] if max(slopes) == min(slopes) else slopes
    return replace(design, shape=new, slopes_deg=even)
