"""The box cut through: groove, panel, lid line, and the heights that are left."""

import math
from collections.abc import Sequence
from typing import Final, Literal, get_args

from msgspec import Struct

from peristyle.core import outlines
from peristyle.core.outlines import Outline as Points
from peristyle.core.planes import Slab
from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import Design, Lid, LiftOff, Panel, PanelName, Sliding, panel_of, replace
from peristyle.model.job import Job
from peristyle.model.tools import Use
from peristyle.planning.cutters import Cutter, cutter
from peristyle.planning.findings import Finding, Fix, Place, reader
from peristyle.planning.form.ring import RingPlan
from peristyle.planning.making.setting import SAME_SETTING
from peristyle.planning.section.groove_findings import (
    blade_findings,
    groove_findings,
    leaning_findings,
    rabbet_findings,
)
from peristyle.planning.section.grooves import GroovePlan, plan_groove
from peristyle.planning.section.movement import Movement, movement_findings, movements_of
from peristyle.planning.section.segments import SegmentsPlan, oversize_mm, plan_segments


class PanelPlan(Struct, frozen=True):
    """One panel: outline seen from above (mm), thickness, and its size across the box."""

    name: PanelName
    outline: Points
    thickness_mm: float
    length_mm: float
    width_mm: float
    segments: SegmentsPlan | None = None


def panel_plan(
    name: PanelName, outline: Points, thickness_mm: float, segments: SegmentsPlan | None = None
) -> PanelPlan:
    """A panel of an outline, with the size across that follows from it."""
    x0, y0, x1, y1 = outlines.bounds(outline)
    return PanelPlan(name, outline, thickness_mm, x1 - x0, y1 - y0, segments)


class LidCut(Struct, frozen=True):
    """How the lid is freed along the sides that share one setting.

    The box's `edge` lies against the fence; the blade leans away from it by `tilt_deg`, and its near side at
    the table is `fence_mm` from the fence along the face.
    """

    sides: tuple[int, ...]
    edge: Literal["bottom", "top"]
    tilt_deg: float
    fence_mm: float


class LidPlan(Struct, frozen=True):
    """Where the lid is freed. Heights in mm from the bottom of the glued box.

    `fence_mm` is that of the first of `cuts`.
    """

    body_mm: float
    lid_mm: float
    line_mm: float
    kerf_low_mm: float
    kerf_high_mm: float
    lost_low_mm: float
    lost_high_mm: float
    fence_mm: float
    cuts: tuple[LidCut, ...]

    @property
    def lost_mm(self) -> float:
        """What saw and truing take from the height."""
        return self.lost_high_mm - self.lost_low_mm


class SectionPlan(Struct, frozen=True):
    """Everything vertical. `finished_mm` is the closed box after the lid is freed and trued.

    `grooves` and `panels` come from the bottom up. `room_mm` is the height between floor and top
    panel (or rim) once the lid is freed.
    """

    glued_mm: float = 0.0
    finished_mm: float = 0.0
    room_mm: float = 0.0
    grooves: tuple[GroovePlan, ...] = ()
    panels: tuple[PanelPlan, ...] = ()
    lid: LidPlan | None = None
    movements: tuple[Movement, ...] = ()
    findings: tuple[Finding, ...] = ()

    def groove(self, panel: PanelName) -> GroovePlan | None:
        """The groove of one panel, None where there is none."""
        return next((groove for groove in self.grooves if groove.panel == panel), None)


def plan_section(job: Job, ring: RingPlan) -> SectionPlan:
    """Grooves, panels and lid, with what is wrong about them."""
    findings: list[Finding] = []
    slabs = ring.slabs or (Slab(1.0, 0.0, 0.0, 0.0, 1.0, min(job.design.form.thicknesses_mm)),)
    lid = _lid(job.design, job.design.section.lid, slabs) if job.design.section.lid else None
    grooves, panels = [], []
    for name, wanted in _wanted(job.design):
        seat: Use = "groove" if wanted.seat == "groove" else "rabbet"
        own = cutter(job, seat)
        panel = fitted_to(wanted, own) if seat == "groove" else wanted
        wide = own.takes(panel.thickness_mm + panel.fit_mm)
        groove = _seated(job.design, plan_groove(slabs, name, panel, job.design.form.height_mm, wide), slabs)
        grooves.append(groove)
        if panel.seat == "groove":
            tilted = any(abs(cut.tilt_deg) > SAME_SETTING for cut in groove.cuts)
            findings += groove_findings(job.design, slabs, panel, groove)
            findings += leaning_findings(job, slabs, panel, groove)
            what = f"groove_for_{name}"
            findings += blade_findings(job, Place("section"), "groove", what, groove.width_mm, tilted=tilted)
        elif panel.seat == "rabbet":
            findings += rabbet_findings(job.design, slabs, panel, groove)
        if ring.stands:
            panels.append(_panel(job, ring, panel, groove))
    if len(grooves) > 1 and grooves[-1].low_mm < grooves[0].high_mm - DEFAULT.length_mm:
        findings.append(_overlap_finding(job.design, grooves))
    if job.design.section.lid and lid:
        found = _lid_findings(job.design, job.design.section.lid, lid, grooves)
        findings += found or _thin_beside_lid(job.design, lid, grooves)
        findings += _rough_findings(job, job.design.section.lid)
    lying = [(panel.name, panel.outline) for panel in panels]
    moved = movements_of(job, lying)
    findings += movement_findings(job, moved, lying)
    return SectionPlan(
        glued_mm=job.design.form.height_mm,
        finished_mm=job.design.closed_mm,
        room_mm=job.design.room_mm,
        grooves=tuple(grooves),
        panels=tuple(panels),
        lid=lid,
        movements=moved,
        findings=tuple(findings),
    )


def fitted_to(panel: Panel, own: Cutter) -> Panel:
    """A panel whose groove is cut in one pass where the cutter is as wide as it, and less than its fit wider or not at
    all: no fence is nudged by a hair, the panel is planed to the groove (common practice).
    """
    over = own.least_mm - panel.thickness_mm
    alike = own.least_mm == own.most_mm and -DEFAULT.length_mm <= over < panel.fit_mm
    fitted: Panel = replace(panel, fit_mm=max(0.0, over)) if alike else panel
    return fitted


def _wanted(design: Design) -> list[tuple[PanelName, Panel]]:
    """The panels there are, from the bottom up."""
    return [(name, panel) for name in get_args(PanelName) if (panel := panel_of(design, name)) is not None]


def _seated(design: Design, groove: GroovePlan, slabs: Sequence[Slab]) -> GroovePlan:
    """Where a lid's edge stands over single sides: flush with the outside, but for the sides it stands out over; and
    over the side that is lowered for it to slide out.
    """
    cover = design.section.cover
    if groove.panel != "lid" or not isinstance(cover, LiftOff | Sliding):
        return groove
    count, edges = len(slabs), list(groove.edges_mm)
    thick = cover.thickness_mm
    for index, slab in enumerate(slabs):
        if isinstance(cover, LiftOff) and cover.over == "two" and index not in over_two(design):
            edges[index] -= cover.overhang_mm
        if isinstance(cover, Sliding) and index == cover.side % count:
            edges[index] = min(slab.outer_mm(groove.rests_mm), slab.outer_mm(groove.rests_mm + thick))
    return replace(groove, edges_mm=tuple(edges))


def over_two(design: Design) -> tuple[int, ...]:
    """The front and what lies across from it: the sides that a lid's two overhangs stand out over."""
    count, front = design.side_count, design.form.front
    return (front,) if count % 2 else (front, (front + count // 2) % count)


def _lid(design: Design, lid: Lid, slabs: Sequence[Slab]) -> LidPlan:
    lost_high = design.form.height_mm - lid.height_mm
    lost = lid.lost_mm
    kerf_low = lost_high - lid.clean_up_mm / 2 - lid.kerf_mm
    cuts = _lid_cuts(slabs, kerf_low, design.form.height_mm - kerf_low - lid.kerf_mm)
    return LidPlan(
        body_mm=lost_high - lost,
        lid_mm=lid.height_mm,
        line_mm=kerf_low + lid.kerf_mm / 2,
        kerf_low_mm=kerf_low,
        kerf_high_mm=kerf_low + lid.kerf_mm,
        lost_low_mm=lost_high - lost,
        lost_high_mm=lost_high,
        fence_mm=cuts[0].fence_mm,
        cuts=cuts,
    )


def _lid_cuts(slabs: Sequence[Slab], below_mm: float, above_mm: float) -> tuple[LidCut, ...]:
    """The settings that free the lid: from the edge that is the wider in plan, where the far side keeps clear.

    Source: common practice for the edge; along a face that leans by s a height h is h/cos s.
    """
    outward = any(slab.sin_slope > DEFAULT.length_mm for slab in slabs)
    inward = any(slab.sin_slope < -DEFAULT.length_mm for slab in slabs)
    grouped: dict[tuple[str, float, float], list[int]] = {}
    for index, slab in enumerate(slabs):
        top = slab.sin_slope > DEFAULT.length_mm or (
            outward and not inward and slab.sin_slope > -DEFAULT.length_mm
        )
        edge, level = ("top", above_mm) if top else ("bottom", below_mm)
        tilt = math.degrees(math.asin(abs(slab.sin_slope)))
        grouped.setdefault((edge, round(tilt, 6), round(level / slab.cos_slope, 6)), []).append(index)
    return tuple(
        LidCut(
            tuple(members),
            "top" if edge == "top" else "bottom",
            math.degrees(math.asin(abs(slabs[members[0]].sin_slope))),
            (above_mm if edge == "top" else below_mm) / slabs[members[0]].cos_slope,
        )
        for (edge, _tilt, _fence), members in grouped.items()
    )


def _panel(job: Job, ring: RingPlan, panel: Panel, groove: GroovePlan) -> PanelPlan:
    """The panel: as far out as its grooves take it, less the play."""
    offsets = groove.edges_mm
    outline = outlines.vertices(ring.slabs, offsets)
    segments = None
    if panel.segments:
        x0, y0, x1, y1 = outlines.bounds(outline)
        # A blank that covers the panel: on the ring's own lines where its corners are alike and as many,
        # else round it.
        apothem = max(math.hypot(x - (x0 + x1) / 2, y - (y0 + y1) / 2) for x, y in outline)
        if len(outline) == panel.segments.count and _equiangular(ring):
            apothem = max(offsets)
        over = oversize_mm(inches=job.design.units == "in")
        kerf = cutter(job, "crosscut").least_mm
        segments = plan_segments(panel.segments, apothem, kerf, over_mm=over)
    return panel_plan(groove.panel, outline, panel.thickness_mm, segments)


def _equiangular(ring: RingPlan) -> bool:
    """Whether all the ring's corners are alike, seen from above."""
    turn = 360.0 / len(ring.corners)
    return all(abs(180.0 - corner.interior_deg - turn) < 1e-6 for corner in ring.corners)


def _overlap_finding(design: Design, grooves: list[GroovePlan]) -> Finding:
    over = grooves[0].high_mm - grooves[1].low_mm
    height = reader(design).up(design.form.height_mm + over + 20.0)
    fix = Fix("height", (("form.height_mm", height),), {"height_mm": height})
    return Finding("grooves_overlap", "stop", Place("section"), {"over_mm": over}, (fix,))


def _lid_as_high(height_mm: float) -> Fix:
    return Fix("lid_height", (("section.lid.height_mm", height_mm),), {"height_mm": height_mm})


_ROUGH_MM: Final = (
    1.5  # what truing takes of both edges that a band saw or a hand saw leaves (common practice)
)
_LEAST_WOOD_MM: Final = 2.0  # less between two cuts, or in a lid, breaks out (common practice)


def _thin_beside_lid(design: Design, plan: LidPlan, grooves: Sequence[GroovePlan]) -> list[Finding]:
    """Little wood between the lid line and a groove, or in the lid itself."""
    fmt = reader(design)
    found = []
    if plan.lid_mm < _LEAST_WOOD_MM:
        fix = _lid_as_high(fmt.up(_LEAST_WOOD_MM))
        found.append(Finding("lid_too_low", "caution", Place("section"), {"lid_mm": plan.lid_mm}, (fix,)))
    for groove in grooves:
        below = (
            plan.lost_low_mm - groove.high_mm
            if groove.panel == "bottom"
            else groove.low_mm - plan.lost_high_mm
        )
        if 0 <= below + DEFAULT.length_mm < _LEAST_WOOD_MM:
            move = fmt.up(_LEAST_WOOD_MM - below) * (-1 if groove.panel == "bottom" else 1)
            height = plan.lid_mm + move
            fixes = (_lid_as_high(height),) if height >= _LEAST_WOOD_MM else ()
            numbers = {"wood_mm": below, "stands_mm": max(0.0, below)}
            names: dict[str, str] = {"panel": groove.panel}
            found.append(Finding("lid_line_near_groove", "caution", Place("section"), numbers, fixes, names))
    return found


def _rough_findings(job: Job, lid: Lid) -> list[Finding]:
    """Less to true than a band saw or a hand saw leaves rough."""
    saw = cutter(job, "lid")
    if saw.tool not in ("band_saw", "hand_saw") or lid.clean_up_mm >= _ROUGH_MM - DEFAULT.length_mm:
        return []
    more = reader(job.design).up(_ROUGH_MM)
    numbers = {"clean_mm": lid.clean_up_mm, "wanted_mm": more}
    fix = Fix("lid_clean_up", (("section.lid.clean_up_mm", more),), {"clean_mm": more})
    return [Finding("lid_sawn_rough", "caution", Place("section"), numbers, (fix,), {"cutter": saw.name})]


def _lid_findings(design: Design, lid: Lid, plan: LidPlan, grooves: list[GroovePlan]) -> list[Finding]:
    fmt = reader(design)
    floor = max((groove.high_mm for groove in grooves if groove.panel == "bottom"), default=0.0)
    top = min((groove.low_mm for groove in grooves if groove.panel == "top"), default=math.inf)
    # About a quarter, and no more than leaves 5 mm of body over the bottom's groove.
    over = min(design.form.height_mm / 4, design.form.height_mm - lid.lost_mm - floor - 5.0)
    low = fmt.down(over if over > 1.0 else (design.form.height_mm - lid.lost_mm - floor) / 2)
    lower = (_lid_as_high(low),) if low > 0 else ()
    whole, place = design.form.height_mm, Place("section")
    if plan.body_mm <= DEFAULT.length_mm:
        numbers = {"body_mm": plan.body_mm, "taken_mm": whole - plan.body_mm, "height_mm": whole}
        return [Finding("lid_leaves_no_body", "stop", place, numbers, lower)]
    if plan.lost_low_mm < floor - DEFAULT.length_mm:
        numbers = {"lid_line_mm": plan.lost_low_mm, "groove_top_mm": floor}
        return [Finding("lid_line_meets_groove", "stop", place, numbers, lower)]
    if plan.lost_high_mm > top + DEFAULT.length_mm:
        fix = _lid_as_high(fmt.up(whole - top + 5.0))
        numbers = {"lid_line_mm": plan.lost_high_mm, "groove_mm": top}
        return [Finding("lid_line_meets_top", "stop", place, numbers, (fix,))]
    return []
