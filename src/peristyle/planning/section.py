"""The box cut through: groove, panel, lid line, and the heights that are left."""

import math
from collections.abc import Callable
from typing import Final, Literal

from msgspec import Struct

from peristyle.core import outlines
from peristyle.core.outlines import Outline as Points
from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import Design, Lid, Panel, replace
from peristyle.planning.findings import Finding, Fix, Place, reader
from peristyle.planning.ring import RingPlan
from peristyle.planning.segments import SegmentsPlan, plan_segments

PanelName = Literal["bottom", "top"]


class GroovePlan(Struct, frozen=True):
    """The groove for a panel. Heights in mm from the bottom edge, measured upright.

    `fences_mm` are the fence settings, the panel's own edge of the piece (its bottom or its top
    edge) to the near side of the blade, one for each pass, measured along the piece.
    """

    panel: PanelName
    low_mm: float
    high_mm: float
    width_mm: float
    depth_mm: float
    wall_left_mm: float
    fences_mm: tuple[float, ...]


class PanelPlan(Struct, frozen=True):
    """One panel: outline seen from above (mm), thickness, and its size across the box."""

    name: PanelName
    outline: Points
    thickness_mm: float
    length_mm: float
    width_mm: float
    segments: SegmentsPlan | None = None


class LidPlan(Struct, frozen=True):
    """Where the lid is freed. Heights in mm from the bottom of the glued box."""

    body_mm: float
    lid_mm: float
    line_mm: float
    kerf_low_mm: float
    kerf_high_mm: float
    lost_low_mm: float
    lost_high_mm: float
    fence_mm: float

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
    findings: tuple[Finding, ...] = ()

    def groove(self, panel: PanelName) -> GroovePlan | None:
        """The groove of one panel, None where there is none."""
        return next((groove for groove in self.grooves if groove.panel == panel), None)


MOST_PASSES: Final = 100  # nobody makes more for one groove: a wider blade, or a bit (our rule)


def passes(width_mm: float, kerf_mm: float) -> tuple[float, ...]:
    """Offsets (mm) of the blade's near side for a cut wider than the kerf.

    ceil(width/kerf) passes, the first at the near edge, the last at width − kerf, even steps
    between, each no wider than the kerf. One pass at 0 where the blade is as wide or wider. Where
    that would be more than MOST_PASSES only the two outermost: a finding says that it cannot be so.
    """
    if width_mm <= kerf_mm + DEFAULT.length_mm:
        return (0.0,)
    count = math.ceil((width_mm - DEFAULT.length_mm) / kerf_mm)
    if count > MOST_PASSES:
        return (0.0, width_mm - kerf_mm)
    step = (width_mm - kerf_mm) / (count - 1)
    return tuple(i * step for i in range(count))


def too_many_passes(design: Design, place: Place, what: str, width_mm: float) -> list[Finding]:
    """A stop where a cut so wide would take more passes of this blade than anyone makes."""
    kerf = design.board.kerf_mm
    if width_mm <= kerf * MOST_PASSES:
        return []
    fmt = reader(design)
    count = math.ceil(width_mm / kerf)
    wider = fmt.up(max(3.0, width_mm / MOST_PASSES))
    return [
        Finding(
            "too_many_passes",
            "stop",
            place,
            f"{what} is {fmt.length(width_mm, unit=True)} wide and the blade takes {fmt.length(kerf, unit=True)}: "
            f"{count} passes. Use a wider blade, or make it narrower.",
            {"width_mm": width_mm, "kerf_mm": kerf, "passes": float(count)},
            (
                Fix(
                    f"Use a blade that takes {fmt.length(wider, unit=True)}",
                    lambda d: replace(d, board=replace(d.board, kerf_mm=wider)),
                ),
            )
            if wider <= 50.0
            else (),
        )
    ]


def plan_section(design: Design, ring: RingPlan) -> SectionPlan:
    """Grooves, panels and lid, with what is wrong about them."""
    findings: list[Finding] = []
    lid = _lid(design, design.lid) if design.lid else None
    grooves, panels = [], []
    for name, panel in _wanted(design):
        groove = _groove(design, ring, name, panel)
        grooves.append(groove)
        findings += _groove_findings(design, panel, groove)
        findings += too_many_passes(design, Place("section"), f"The groove for the {name}", groove.width_mm)
        if ring.stands:
            panels.append(_panel(design, ring, panel, groove))
    if len(grooves) == 2 and grooves[1].low_mm < grooves[0].high_mm - DEFAULT.length_mm:
        findings.append(_overlap_finding(design, grooves))
    if design.lid and lid:
        findings += _lid_findings(design, design.lid, lid, grooves)
    finished = design.height_mm - (lid.lost_mm if lid else 0.0)
    return SectionPlan(
        glued_mm=design.height_mm,
        finished_mm=finished,
        room_mm=design.room_mm,
        grooves=tuple(grooves),
        panels=tuple(panels),
        lid=lid,
        findings=tuple(findings),
    )


def _wanted(design: Design) -> list[tuple[PanelName, Panel]]:
    both: list[tuple[PanelName, Panel | None]] = [("bottom", design.bottom), ("top", design.top)]
    return [(name, panel) for name, panel in both if panel is not None]


def _lid(design: Design, lid: Lid) -> LidPlan:
    lost_high = design.height_mm - lid.height_mm
    lost = lid.lost_mm
    kerf_low = lost_high - lid.clean_up_mm / 2 - lid.kerf_mm
    return LidPlan(
        body_mm=lost_high - lost,
        lid_mm=lid.height_mm,
        line_mm=kerf_low + lid.kerf_mm / 2,
        kerf_low_mm=kerf_low,
        kerf_high_mm=kerf_low + lid.kerf_mm,
        lost_low_mm=lost_high - lost,
        lost_high_mm=lost_high,
        fence_mm=kerf_low,
    )


def _groove(design: Design, ring: RingPlan, name: PanelName, panel: Panel) -> GroovePlan:
    width = panel.thickness_mm + panel.fit_mm
    # Along a leaning piece the groove sits further from its edge than upright.
    lean = min((s.cos_slope for s in ring.slabs), default=1.0)
    low = panel.height_mm if name == "bottom" else design.height_mm - panel.height_mm - width
    return GroovePlan(
        panel=name,
        low_mm=low,
        high_mm=low + width,
        width_mm=width,
        depth_mm=panel.depth_mm,
        wall_left_mm=min(design.thicknesses_mm) - panel.depth_mm,
        fences_mm=tuple(panel.height_mm / lean + offset for offset in passes(width, design.board.kerf_mm)),
    )


def _panel(design: Design, ring: RingPlan, panel: Panel, groove: GroovePlan) -> PanelPlan:
    """The panel: the ring's inside at the groove, plus what goes in, less the play.

    Source: common practice; the smaller of the outlines at the panel's two faces, so that a
    square-edged panel goes into the grooves of leaning sides.
    """
    held = panel.depth_mm - panel.play_mm
    levels = (groove.low_mm, groove.low_mm + panel.thickness_mm)
    offsets = [min(slab.inner_mm(z) for z in levels) + held / slab.cos_slope for slab in ring.slabs]
    outline = outlines.vertices(ring.slabs, offsets)
    x0, y0, x1, y1 = outlines.bounds(outline)
    segments = None
    if panel.segments:
        # A blank that covers the panel: on the ring's own lines where its corners are alike and as many,
        # else round it.
        apothem = max(math.hypot(x - (x0 + x1) / 2, y - (y0 + y1) / 2) for x, y in outline)
        if len(outline) == panel.segments.count and _equiangular(ring):
            apothem = max(offsets)
        segments = plan_segments(panel.segments, apothem, design.board.kerf_mm)
    return PanelPlan(groove.panel, outline, panel.thickness_mm, x1 - x0, y1 - y0, segments)


def _equiangular(ring: RingPlan) -> bool:
    """Whether all the ring's corners are alike, seen from above."""
    turn = 360.0 / len(ring.corners)
    return all(abs(180.0 - corner.interior_deg - turn) < 1e-6 for corner in ring.corners)


def _groove_findings(design: Design, panel: Panel, groove: GroovePlan) -> list[Finding]:
    fmt = reader(design)
    found: list[Finding] = []
    wall = min(design.thicknesses_mm)
    half = fmt.down(wall / 2)
    name = groove.panel

    def mended(**changes: float) -> Callable[[Design], Design]:
        return lambda d: replace(d, **{name: replace(panel, **changes)})

    half_depth = Fix(
        f"Make it {fmt.length(half, unit=True)} deep",
        mended(depth_mm=half, play_mm=min(panel.play_mm, half / 2)),
    )
    if groove.wall_left_mm <= DEFAULT.length_mm:
        found.append(
            Finding(
                "groove_through",
                "stop",
                Place("section"),
                f"The groove for the {name} is {fmt.length(panel.depth_mm, unit=True)} deep in sides of "
                f"{fmt.length(wall, unit=True)}: it cuts them through. "
                f"Make it at most {fmt.length(half, unit=True)} deep.",
                {"depth_mm": panel.depth_mm, "thickness_mm": wall},
                (half_depth,),
            )
        )
    elif groove.wall_left_mm < half - DEFAULT.length_mm:
        thicker = fmt.up(panel.depth_mm * 2)
        found.append(
            Finding(
                "groove_wall_thin",
                "caution",
                Place("section"),
                f"The groove for the {name} leaves {fmt.length(groove.wall_left_mm, unit=True)} of wall. Make it "
                f"{fmt.length(half, unit=True)} deep or use {fmt.length(thicker, unit=True)} sides.",
                {"wall_left_mm": groove.wall_left_mm, "keep_mm": half},
                (half_depth,),
            )
        )
    little = fmt.down(panel.depth_mm / 8)
    if panel.play_mm >= panel.depth_mm - DEFAULT.length_mm:
        found.append(
            Finding(
                "panel_falls_out",
                "stop",
                Place("section"),
                f"With {fmt.length(panel.play_mm, unit=True)} of play each side in a groove "
                f"{fmt.length(panel.depth_mm, unit=True)} deep the {name} panel does not reach into it. "
                "Give less play or a deeper groove.",
                {"play_mm": panel.play_mm, "depth_mm": panel.depth_mm},
                (Fix(f"Give {fmt.length(little, unit=True)} of play", mended(play_mm=little)),),
            )
        )
    if groove.high_mm > design.height_mm or groove.low_mm < 0:
        low = fmt.down(max(0.0, min(6.0, design.height_mm - groove.width_mm - 1)))
        reach, way, other = (
            (groove.high_mm, "up", "lower")
            if name == "bottom"
            else (design.height_mm - groove.low_mm, "down", "higher")
        )
        found.append(
            Finding(
                "groove_above_box",
                "stop",
                Place("section"),
                f"The groove for the {name} ends {fmt.length(reach, unit=True)} {way} and the box is "
                f"{fmt.length(design.height_mm, unit=True)} high. Put the groove {other}.",
                {"groove_ends_mm": reach, "height_mm": design.height_mm},
                (Fix(f"Put it {fmt.length(low, unit=True)} {way}", mended(height_mm=low)),),
            )
        )
    return found


def _overlap_finding(design: Design, grooves: list[GroovePlan]) -> Finding:
    fmt = reader(design)
    over = grooves[0].high_mm - grooves[1].low_mm
    height = fmt.up(design.height_mm + over + 20.0)
    return Finding(
        "grooves_overlap",
        "stop",
        Place("section"),
        f"The grooves for bottom and top run into each other by {fmt.length(over, unit=True)}. Make the box higher, or "
        "move the grooves nearer to its edges.",
        {"over_mm": over},
        (Fix(f"Make it {fmt.length(height, unit=True)} high", lambda d: replace(d, height_mm=height)),),
    )


def _lid_findings(design: Design, lid: Lid, plan: LidPlan, grooves: list[GroovePlan]) -> list[Finding]:
    fmt = reader(design)
    floor = max((groove.high_mm for groove in grooves if groove.panel == "bottom"), default=0.0)
    top = min((groove.low_mm for groove in grooves if groove.panel == "top"), default=math.inf)
    # About a quarter, and no more than leaves 5 mm of body over the bottom's groove.
    over = min(design.height_mm / 4, design.height_mm - lid.lost_mm - floor - 5.0)
    low = fmt.down(over if over > 1.0 else (design.height_mm - lid.lost_mm - floor) / 2)
    lower = (
        (
            Fix(
                f"Make the lid {fmt.length(low, unit=True)} high",
                lambda d: replace(d, lid=replace(lid, height_mm=low)),
            ),
        )
        if low > 0
        else ()
    )
    if plan.body_mm <= DEFAULT.length_mm:
        return [
            Finding(
                "lid_leaves_no_body",
                "stop",
                Place("section"),
                f"Lid, kerf and clean-up take {fmt.length(design.height_mm - plan.body_mm, unit=True)} "
                f"of {fmt.length(design.height_mm, unit=True)}: no body is left. Lower the lid.",
                {"body_mm": plan.body_mm},
                lower,
            )
        ]
    if plan.lost_low_mm < floor - DEFAULT.length_mm:
        return [
            Finding(
                "lid_line_meets_groove",
                "stop",
                Place("section"),
                f"The lid line starts {fmt.length(plan.lost_low_mm, unit=True)} up and the groove "
                f"ends {fmt.length(floor, unit=True)} up: the saw would free the bottom. "
                "Lower the lid or the groove.",
                {"lid_line_mm": plan.lost_low_mm, "groove_top_mm": floor},
                lower,
            )
        ]
    if plan.lost_high_mm > top + DEFAULT.length_mm:
        high = fmt.up(design.height_mm - top + 5.0)
        return [
            Finding(
                "lid_line_meets_top",
                "stop",
                Place("section"),
                f"The lid line ends {fmt.length(plan.lost_high_mm, unit=True)} up and the groove for the top starts "
                f"{fmt.length(top, unit=True)} up: the saw would free the top panel. Make the lid higher.",
                {"lid_line_mm": plan.lost_high_mm, "groove_mm": top},
                (
                    Fix(
                        f"Make the lid {fmt.length(high, unit=True)} high",
                        lambda d: replace(d, lid=replace(lid, height_mm=high)),
                    ),
                ),
            )
        ]
    return []
