"""Sides and corners: from where the sides stand to every length, miter and bevel."""

import math
from functools import lru_cache
from typing import Final, Literal

from msgspec import Struct

from peristyle.core import outlines
from peristyle.core.closing import as_far_as_it_goes, close_ring, single_values
from peristyle.core.errors import ShapeError
from peristyle.core.outlines import Outline as Points
from peristyle.core.planes import Corner, EndCut, Slab, corner
from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import Design, Outline, corner_name, replace, side_name
from peristyle.model.job import Job, Saw, revised, unworked
from peristyle.model.limits import LEAST_MM
from peristyle.model.ring_edits import walked
from peristyle.model.stock import Board
from peristyle.model.tools import Uses
from peristyle.planning.findings import Finding, Fix, Place, reader, shape_changes
from peristyle.planning.form.roof import EAVES, Roof, lap, lay, roof_findings, roof_of
from peristyle.planning.form.slabs import scaled, slabs_of
from peristyle.planning.making.setting import SAME_SETTING

_ANY_BOARD: Final = Board()
_NO_USES: Final = Uses()
_ANY_SAW: Final = Saw()


class SidePlan(Struct, frozen=True):
    """One side, finished. Lengths in mm; `*_top` at the top edge, the others at the bottom edge.

    `reach_mm` is the least and greatest x of the show face, seen from its bottom start corner.
    `outer_face` and `inner_face` are the flat patterns, four (x, y) corners counter-clockwise
    from the bottom start of the show face: x along the bottom edge, y up the slant. Inside values
    are None where the walls leave no inside. `foot` and `head` are the side's plan at its bottom
    and top edge, seen from above: outer start, outer end, inner end, inner start.
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
    foot: Points
    head: Points

    @property
    def inner_face_mm(self) -> float | None:
        """The inside face along its bottom edge; of a roof laid on its walls more than the room has there."""
        if self.inside_mm is None:
            return None
        (start, _), (end, _) = self.inner_face[:2]
        return end - start

    def back_mm(self, cut: EndCut) -> float:
        """How far the inside stands back of the show face at one end's cut; negative: it is longer."""
        return (
            self.thickness_mm * math.tan(math.radians(cut.bevel_deg)) / math.cos(math.radians(cut.miter_deg))
        )

    @property
    def reach_of_both_mm(self) -> tuple[float, float]:
        """The least and greatest x of both faces: what a square blank must hold."""
        xs = [x for x, _y in (*self.outer_face, *self.inner_face)]
        return min(xs), max(xs)

    @property
    def blank_mm(self) -> float:
        """Length to crosscut square, so that both faces lie within."""
        low, high = self.reach_of_both_mm
        return high - low

    @property
    def longer_edge(self) -> Literal["bottom", "top"]:
        """The longer of the two parallel edges of the show face: it lies against the gauge."""
        return "top" if self.outside_top_mm > self.outside_mm + SAME_SETTING else "bottom"

    @property
    def stop_mm(self) -> float:
        """Length at the stop: that of the longer edge, and what the inside is longer at either end."""
        return max(self.outside_mm, self.outside_top_mm) + self._inside_longer_mm

    def _at_edge(self, face: Points, end: Literal["start", "end"]) -> float:
        """Where the longer edge starts or ends on a face, along x."""
        corners = {("bottom", "start"): 0, ("bottom", "end"): 1, ("top", "end"): 2, ("top", "start"): 3}
        return face[corners[self.longer_edge, end]][0]

    @property
    def start_at_mm(self) -> float:
        """From a square blank's start to where the start's cut meets the longer edge, at the face that is up there."""
        up = self.inner_face if self.start.bevel_deg < 0 and self.inner_face else self.outer_face
        return self._at_edge(up, "start") - self.reach_of_both_mm[0]

    @property
    def shown_at_mm(self) -> float:
        """The same for a cut square to the face, which leaves both faces their length."""
        return (
            self._at_edge(self.outer_face, "start")
            - max(0.0, -self.back_mm(self.start))
            - self.reach_of_both_mm[0]
        )

    @property
    def end_stop_mm(self) -> float:
        """Stop for the last bevel: from the furthest point of the start, at the longer edge, to the face that is up."""
        return self.end_stop_in_mm(self.thickness_mm)

    def end_stop_in_mm(self, thick_mm: float) -> float:
        """The same while the side is still as thick as its board (mm): an inside that is the longer reaches further."""
        if not self.inner_face:
            return self.stop_mm

        def at(end: Literal["start", "end"], *, inside: bool) -> float:
            outer, inner = (self._at_edge(face, end) for face in (self.outer_face, self.inner_face))
            return outer + (inner - outer) * thick_mm / self.thickness_mm if inside else outer

        starts = [at("start", inside=inside) for inside in (False, True)]
        return at("end", inside=self.end.bevel_deg < 0) - min(starts)

    @property
    def _inside_longer_mm(self) -> float:
        return sum(max(0.0, -self.back_mm(cut)) for cut in (self.start, self.end))


class CornerPlan(Struct, frozen=True):
    """The corner at the end of side `index`; `lapped` where a roof lies on a wall, not mitered.

    `joint` is the joint seen from above at the bottom edge: its outer and its inner end.
    """

    index: int
    name: str
    interior_deg: float
    dihedral_deg: float
    joint_face_mm: float
    closing: bool
    joint: Points
    lapped: bool = False


class RingPlan(Struct, frozen=True):
    """The whole ring. Outlines are seen from above; vertex i lies at the end of side i.

    `walk` has, of a ring whose values contradict each other, where each side ends that far, the first
    starting at the origin: the gap is from its last point to there. A ring that cannot be made for another
    reason has no sides, but its outer outlines.
    """

    slabs: tuple[Slab, ...] = ()
    height_mm: float = 0.0
    sides: tuple[SidePlan, ...] = ()
    corners: tuple[CornerPlan, ...] = ()
    outer_bottom: Points = ()
    outer_top: Points = ()
    inner_bottom: Points = ()
    inner_top: Points = ()
    findings: tuple[Finding, ...] = ()
    walk: Points = ()

    @property
    def stands(self) -> bool:
        """Whether there is a ring with room inside it."""
        return bool(self.inner_bottom)

    @property
    def reached(self) -> Points:
        """The outer corners at the bottom edge as a rule finds them: where a roof lies on a wall, that wall's top."""
        points = list(self.outer_bottom)
        for at in (one.index for one in self.corners if one.lapped):
            wall = EAVES[at][0]
            points[at] = self.sides[wall].foot[1 if wall == at else 0]
        return tuple(points)

    @property
    def thick_alike(self) -> bool:
        """Whether all sides are as thick, so that the strip they come from has one inside face."""
        thick = [side.thickness_mm for side in self.sides]
        return not thick or max(thick) - min(thick) <= DEFAULT.length_mm

    @property
    def leans_alike(self) -> bool:
        """Whether all sides lean alike, so that one strip can be ripped for all of them."""
        slopes = [side.slope_deg for side in self.sides]
        return not slopes or max(slopes) - min(slopes) <= DEFAULT.angle_deg


def plan_ring(job: Job) -> RingPlan:
    """Every side and corner; where no ring can be made, the findings say why."""
    # Only what the ring follows from: it stays while a board, a key or a lid line is dragged.
    return _ring_of(
        revised(
            unworked(job), name="-", notes="", front=0, board=_ANY_BOARD, keys=None, lid=None,
            openings=(), feet=None, saw=_ANY_SAW, tools=(), uses=_NO_USES,
            liner=None, dividers=None, lining_mm=0.0,
        )
    )  # fmt: skip


@lru_cache(maxsize=16)
def _ring_of(job: Job) -> RingPlan:
    try:
        slabs = slabs_of(job.design)
    except ShapeError as error:
        shape = job.design.form.shape
        walk: Points = ()
        if isinstance(shape, Outline):
            walk = walked(as_far_as_it_goes(shape.lengths_mm, shape.interiors_deg))
        return RingPlan(findings=(_shape_finding(job.design, error),), walk=walk)
    return ring_from_slabs(job, slabs, roof_of(job.design))


def ring_from_slabs(job: Job, slabs: tuple[Slab, ...], roof: Roof | None = None) -> RingPlan:
    """The ring that these slabs make, of the design's height (another's slabs serve a liner)."""
    count = len(slabs)
    try:
        cuts = [
            lap(slabs, i, roof) if roof and i in EAVES else corner(slabs[i], slabs[(i + 1) % count])
            for i in range(count)
        ]
    except ShapeError as error:
        return RingPlan(findings=(_shape_finding(job.design, error),))
    height = job.design.form.height_mm
    levels = [
        outlines.vertices(slabs, [s.outer_mm(0.0) for s in slabs]),
        outlines.vertices(slabs, [s.outer_mm(height) for s in slabs]),
        outlines.vertices(slabs, [s.inner_mm(0.0) for s in slabs]),
        outlines.vertices(slabs, [s.inner_mm(height) for s in slabs]),
    ]
    runs = [outlines.run_lengths(slabs, level) for level in levels]
    findings = _run_findings(job, runs)
    unmade = RingPlan(slabs=slabs, height_mm=height, outer_bottom=levels[0], outer_top=levels[1])
    if any(f.severity == "stop" and f.code != "side_too_short" for f in findings):
        return replace(unmade, findings=tuple(findings))
    hollow = not findings
    feet, heads = _plans(levels[0], levels[2]), _plans(levels[1], levels[3])
    if roof:
        feet, heads = lay(feet, slabs, 0.0, roof), lay(heads, slabs, height, roof)
        runs[0], runs[1] = (
            tuple(outlines.run(slab, *plan[:2]) for slab, plan in zip(slabs, plans, strict=True))
            for plans in (feet, heads)
        )
        outside = [min(pair) for pair in zip(*runs[:2], strict=True)]
        findings += roof_findings(job.design, roof, slabs, cuts, feet, outside)
        if any(f.code == "side_vanishes" for f in findings):
            return replace(unmade, findings=tuple(findings))
    sides = tuple(
        _side(job.design, i, slabs[i], cuts[i - 1].second, cuts[i].first, [r[i] for r in runs], (feet[i], heads[i]),
              hollow)
        for i in range(count)
    )  # fmt: skip
    joints = [foot[1:3] for foot in feet]
    if roof:
        joints = [
            (feet[w][0], feet[w][3]) if (w := EAVES.get(i, (i, i))[0]) > i else j
            for i, j in enumerate(joints)
        ]
    corners = tuple(
        _corner(job, i, cuts[i], joints[i], roof is not None and i in EAVES) for i in range(count)
    )
    findings += _thickness_findings(job.design)
    return replace(
        unmade, sides=sides, corners=corners, inner_bottom=levels[2] if hollow else (),
        inner_top=levels[3] if hollow else (), findings=tuple(findings),
    )  # fmt: skip


def _plans(outer: Points, inner: Points) -> list[Points]:
    """Each side's plan at one level, mitered at both ends."""
    return [(outer[i - 1], outer[i], inner[i], inner[i - 1]) for i in range(len(outer))]


def _corner(job: Job, index: int, cut: Corner, joint: Points, lapped: bool) -> CornerPlan:
    return CornerPlan(
        index=index,
        name=corner_name(index, job.design.side_count),
        interior_deg=cut.interior_deg,
        dihedral_deg=cut.dihedral_deg,
        joint_face_mm=cut.joint_face_mm,
        closing=index == job.closing,
        joint=joint,
        lapped=lapped,
    )


def _side(
    design: Design,
    index: int,
    slab: Slab,
    start: EndCut,
    end: EndCut,
    runs: list[float],
    plans: tuple[Points, Points],
    hollow: bool,
) -> SidePlan:
    outside, outside_top, inside, inside_top = runs
    slant = design.form.height_mm / slab.cos_slope
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
        height_mm=design.form.height_mm,
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
        foot=plans[0],
        head=plans[1],
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
    numbers = dict(error.numbers)
    place = Place("ring")
    if "corner" in numbers:
        place = Place("corner", int(numbers["corner"]), design.side_count)
    elif "side" in numbers:
        place = Place("side", int(numbers["side"]), design.side_count)
    names = {
        word: side_name(int(numbers[key]))
        for word, key in (("side", "side"), ("side", "corner"), ("other", "other"), ("long", "long"))
        if key in numbers
    }
    shape = design.form.shape
    fixes = _outline_fixes(shape, numbers) if isinstance(shape, Outline) else ()
    return Finding(error.code, "stop", place, numbers, fixes, names, error.kind, error.more)


def _outline_fixes(shape: Outline, numbers: dict[str, float]) -> tuple[Fix, ...]:
    """The one value that would close the ring, and the others that would."""
    for key, what in (("wanted_mm", "side"), ("wanted_deg", "corner")):
        if key in numbers:
            index = int(numbers[what])
            return (_made(what, index, numbers[key]), *_other_ways(shape, index))
    filled = _filled_in(shape)
    if "unknown" in numbers and filled is not None:
        return (Fix("fill_in", shape_changes(shape, filled)),)
    return ()


_MOST_WAYS: Final = 3


def _made(what: str, index: int, wanted: float) -> Fix:
    """One side or corner made what it would have to be."""
    side = side_name(index)
    if what == "side":
        return Fix(
            "side_length", ((f"sides.{side}.length_mm", wanted),), {"wanted_mm": wanted}, {"side": side}
        )
    return Fix(
        "corner_angle", ((f"sides.{side}.interior_deg", wanted),), {"wanted_deg": wanted}, {"side": side}
    )


def _other_ways(shape: Outline, first: int) -> list[Fix]:
    """The other single values that close the ring; or two sides together, where none does."""
    lengths = [v for v in shape.lengths_mm if v is not None]
    angles = [v for v in shape.interiors_deg if v is not None]
    if len(lengths) < len(shape.lengths_mm) or len(angles) < len(shape.interiors_deg):
        return []
    fixes = [_made(kind, i, wanted) for kind, i, wanted in single_values(lengths, angles) if i != first]
    return (fixes or _by_two_sides(shape, lengths, angles))[:_MOST_WAYS]


def _by_two_sides(shape: Outline, lengths: list[float], angles: list[float]) -> list[Fix]:
    """The last corner made to fit the sum, and the first two sides that can give way."""
    over = math.fsum(angles) - (len(angles) - 2) * 180.0
    corners = [*angles[:-1], angles[-1] - over]
    if not 0 < corners[-1] < 180:
        return []
    count = len(lengths)
    for i, j in ((a, b) for a in range(count - 1, 0, -1) for b in range(a - 1, -1, -1)):
        try:
            ring = close_ring([None if k in (i, j) else v for k, v in enumerate(lengths)], corners)
        except ShapeError:
            continue
        new = replace(shape, lengths_mm=ring.lengths_mm, interiors_deg=ring.interiors_deg)
        return [
            Fix("two_sides", shape_changes(shape, new), {}, {"side": side_name(i), "other": side_name(j)})
        ]
    return []


def _filled_in(shape: Outline) -> Outline | None:
    """An outline with too little known, the rest guessed: corners alike, sides as long as the known ones."""
    count = len(shape.lengths_mm)
    known = [v for v in shape.lengths_mm if v is not None]
    usual = math.fsum(known) / len(known) if known else 100.0
    open_corners = sum(v is None for v in shape.interiors_deg)
    rest = (count - 2) * 180.0 - math.fsum(v for v in shape.interiors_deg if v is not None)
    angles = tuple(rest / open_corners if v is None else v for v in shape.interiors_deg)
    if not all(0 < angle < 180 for angle in angles):
        return None
    # Two sides stay open, for the ring to close by: those that are open now, or the last.
    places = [i for i, v in enumerate(shape.lengths_mm) if v is None]
    left = ([*places, *(i for i in reversed(range(count)) if i not in places)])[:2]
    lengths = tuple(None if i in left else usual if v is None else v for i, v in enumerate(shape.lengths_mm))
    guess = replace(shape, lengths_mm=lengths, interiors_deg=angles)
    try:
        ring = close_ring(guess.lengths_mm, guess.interiors_deg)
    except ShapeError:
        return None
    return replace(guess, lengths_mm=ring.lengths_mm, interiors_deg=ring.interiors_deg)


def _run_findings(job: Job, runs: list[tuple[float, ...]]) -> list[Finding]:
    """Sides that vanish: outside, toward the top, or inside their own thickness."""
    fmt, high = reader(job.design), job.design.form.height_mm
    tiny = DEFAULT.length_mm
    outer, outer_top, inner, inner_top = (min(r) for r in runs)
    if outer <= tiny:
        index = runs[0].index(outer)
        names = {"side": side_name(index)}
        return [Finding("side_vanishes", "stop", Place("side", index), {"outside_mm": outer}, (), names)]
    if outer_top <= tiny:
        index = runs[1].index(outer_top)
        limit = min(high * low / (low - top) for low, top in zip(runs[0], runs[1], strict=True) if top < low)
        lower = fmt.down(limit * 0.6)
        fixes = (
            Fix("height", (("form.height_mm", lower),), {"height_mm": lower}),
            Fix("upright", (("sides.slope_deg", (0.0,)),)),
        )
        numbers = {"meet_mm": limit, "height_mm": high}
        return [Finding("slopes_cross", "stop", Place("side", index), numbers, fixes)]
    if min(inner, inner_top) <= tiny:
        level = 2 if inner <= inner_top else 3
        index = runs[level].index(min(runs[level]))
        return [_too_short(job, index, runs, level == 3)]
    return []


def _too_short(job: Job, index: int, runs: list[tuple[float, ...]], at_top: bool) -> Finding:
    fmt, form = reader(job.design), job.design.form
    outside, inside = runs[1 if at_top else 0][index], runs[3 if at_top else 2][index]
    # Inside falls short of outside in proportion to the thickness of the walls; the tightest side decides.
    share = max(
        (out - inn) / out
        for outer, inner in ((runs[0], runs[2]), (runs[1], runs[3]))
        for out, inn in zip(outer, inner, strict=True)
    )
    thin = tuple(max(LEAST_MM, fmt.down(t * 0.8 / share)) for t in form.thicknesses_mm)
    fixes = [Fix("thinner_sides", (("sides.thickness_mm", thin),), {"thickness_mm": min(thin)})]
    larger = scaled(job, share * 1.25)
    if larger is not None:
        fixes.append(Fix("larger", shape_changes(form.shape, larger.design.form.shape)))
    return Finding(
        "side_too_short",
        "stop",
        Place("side", index),
        {"outside_mm": outside, "taken_mm": outside - inside},
        tuple(fixes),
        {"side": side_name(index)},
        "top" if at_top else "",
    )


def _thickness_findings(design: Design) -> list[Finding]:
    """Why a step in thickness shows."""
    thick = [design.thickness_of(i) for i in range(design.side_count)]
    least, differ = min(thick), max(thick) - min(thick)
    if differ <= DEFAULT.length_mm:
        return []
    fix = Fix("plane_all", (("sides.thickness_mm", (least,)),), {"thickness_mm": least})
    numbers = {"thinnest_mm": least, "thickest_mm": max(thick), "differ_mm": differ}
    return [Finding("unequal_thickness", "caution", Place("ring"), numbers, (fix,))]
