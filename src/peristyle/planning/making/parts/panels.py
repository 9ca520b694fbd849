"""Panels in their grooves, whole or glued up of segments."""

import math
from collections.abc import Iterator, Sequence

from peristyle.core.outlines import Outline as Points
from peristyle.core.outlines import area, bounds, clipped, slot
from peristyle.core.planes import Point
from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import Design, Panel, panel_of, replace, side_name
from peristyle.model.job import Job
from peristyle.model.panels import Wooden
from peristyle.planning.cutters import cutter
from peristyle.planning.findings import Finding, Fix
from peristyle.planning.findings import Place as At
from peristyle.planning.form.ring import RingPlan
from peristyle.planning.making.closed import goes_on_first
from peristyle.planning.making.kind import Kind, Phase, Settled
from peristyle.planning.making.parts.segment_splines import spline_steps
from peristyle.planning.making.parts.walls import along
from peristyle.planning.making.piece import Edge, Feature, Piece, Place
from peristyle.planning.making.rabbets import rabbet_steps
from peristyle.planning.making.ripping import letters
from peristyle.planning.making.setting import (
    SAME_SETTING,
    bit,
    bored_from_edge,
    bored_from_start,
    fence,
    height,
    same,
    stop,
    swing,
    thickness,
    tilt,
    width,
)
from peristyle.planning.making.step import Step, make
from peristyle.planning.section.grooves import GrooveCut, GroovePlan, in_side, tongue_mm
from peristyle.planning.section.levels import PanelPlan, SectionPlan, fitted_to
from peristyle.planning.section.segments import CUT_ERROR_DEG, SegmentsPlan, oversize_mm
from peristyle.planning.stock.laying import PARTED_FIRST, in_strip


def _pieces(plan: Settled) -> Iterator[Piece]:
    held = [(p, groove) for p in plan.section.panels if (groove := plan.section.groove(p.name)) is not None]
    for panel, groove in held:
        if panel.name != "lid":
            yield _panel(panel, groove, panel_of(plan.job.design, panel.name))
    for panel, groove in held:
        yield from _segments(panel, groove)


def _features(plan: Settled) -> Iterator[tuple[str, Feature]]:
    for side in plan.ring.sides:
        for groove in plan.section.grooves:
            if groove.profiles[side.index]:
                feature = along(f"groove.{groove.panel}", "groove", side, groove.profiles[side.index])
                yield f"side.{side.name}", feature
    for panel in plan.section.panels:
        groove_of = plan.section.groove(panel.name)
        if groove_of is not None and panel.name != "lid":
            for feature in _tongues(plan.job.design, plan.ring, groove_of, panel):
                yield f"panel.{panel.name}", feature


def _steps(plan: Settled) -> Iterator[tuple[Phase, Step]]:
    phase = _grooved_in(plan.job, plan.ring)
    grooves = tuple(groove_steps(plan.job, plan.section, plan.ring))
    if grooves:
        yield phase, tried_groove(grooves)
    for step in grooves:
        yield phase, step
    for step in rabbet_steps(plan.job, plan.section, plan.ring, strip=phase == "strip"):
        yield phase, step
    for step in _trued(plan):
        yield "true", step
    for panel in plan.section.panels:
        groove = plan.section.groove(panel.name)
        if groove is None or panel.name == "lid":
            continue  # lids are fitted to the box as it came out
        if panel.segments:
            cut_up, glued = segment_steps(panel, panel.segments, inches=plan.job.design.units == "in")
            for step in (cut_up, *spline_steps(plan, panel.name), glued):
                yield "panels", step
        part = panel_of(plan.job.design, panel.name)
        name = f"panel.{panel.name}"
        names: dict[str, str] = {"panel": panel.name}
        seat: Phase = "close" if goes_on_first(plan, panel, groove) else "seat"
        if groove.seat == "applied" and part is not None:
            for step in _applied(panel, part, inches=plan.job.design.units == "in"):
                # What overhangs is shaped along its edges while it is loose, in long pieces with a backer.
                late = seat == "seat" and step.operation != "panel"
                yield "set" if late else seat, step
        elif groove.seat == "rabbet":
            proud = panel.thickness_mm - groove.width_mm
            yield (
                seat,
                replace(
                    _cut(plan.job.design, plan.ring, plan.section, panel),
                    says=("panel.rabbet", *_grain_said(made_of(part, panel))),
                ),
            )
            own = made_of(part, panel)
            moves = own is not None and not own.sheet and not panel.segments
            yield seat, make(
                "panel_set", (name,), panel.name, tool="clamps",
                says=("panel_set.floats" if moves else "panel_set", "panel_set.proud" if proud else "panel_set.flush"),
                numbers={"proud_mm": proud}, names=names,
            )  # fmt: skip
        else:
            yield "panels", _cut(plan.job.design, plan.ring, plan.section, panel)


def _trued(plan: Settled) -> Iterator[Step]:
    """The edges trued once the ring is glued: the bottom one, each that key slots or the lid's cut ride on, and each
    that a panel is glued to.
    """
    applied = [groove.panel for groove in plan.section.grooves if groove.seat == "applied"]
    lid = plan.section.lid if plan.section.lid is not None and plan.section.lid.body_mm > 0 else None
    rides = {cut.edge for cut in lid.cuts} if lid else set()
    for setting in plan.keys.settings:
        rides |= {"bottom", "top"} if len(setting.heights_mm) > 1 else {setting.edge}
    for name in ("bottom", "top"):
        if name in rides or name in applied or (rides and name == "bottom"):
            says = ("true_edge", *(("true_edge.rides",) if name in rides else ()))
            yield make("true_edge", (), name, tool="by_hand", says=says, names={"panel": name})


def _applied(panel: PanelPlan, part: Panel, *, inches: bool) -> Iterator[Step]:
    """A panel glued flat on the edges: the panel cut oversize and flushed, or to its overhang."""
    name = f"panel.{panel.name}"
    names: dict[str, str] = {"panel": panel.name}
    flush = part.overhang_mm <= DEFAULT.length_mm
    over = oversize_mm(inches=inches) if flush else 0.0
    yield cut_out(
        name, panel.name, panel, over_mm=over, says=("panel.oversize" if flush else "panel.overhang",),
        numbers={"over_mm": over, "overhang_mm": part.overhang_mm}, names=names, of=made_of(part, panel),
    )  # fmt: skip
    yield make(
        "panel_set", (name,), panel.name, tool="clamps", title="panel_set.applied",
        says=("panel_set.pins", *(("panel_set.sheet",) if part.sheet or panel.segments else ("panel_set.across",))),
        numbers={"overhang_mm": part.overhang_mm}, names=names,
    )  # fmt: skip
    if flush:
        yield make("panel_flush", (name,), panel.name, tool="by_hand", says=("panel_flush",), names=names)


def cut_out(
    piece: str,
    about: str,
    panel: PanelPlan,
    *,
    says: Sequence[str],
    title: str = "panel",
    tool: str = "table_saw",
    over_mm: float = 0.0,
    of: Wooden | None = None,
    numbers: dict[str, float] | None = None,
    names: dict[str, str] | None = None,
) -> Step:
    """A board cut to its outline, or `over_mm` larger all round, the grain as it is to run in what it is `of`."""
    told: dict[str, float] = {} if _is_rectangle(panel.outline) else _edges(panel.outline)
    return make(
        "panel", (piece,), about, makes=(piece,), tool=tool,
        settings=(
            stop(panel.length_mm + 2 * over_mm), width(panel.width_mm + 2 * over_mm), thickness(panel.thickness_mm),
        ),
        says=(*says, *_grain_said(of)), title=title, numbers=told | (numbers or {}), names=names or {"panel": about},
    )  # fmt: skip


def _grain_said(of: Wooden | None) -> tuple[str, ...]:
    return tuple(f"panel.{key}" for key in grain_told(of))


def _panel(panel: PanelPlan, groove: GroovePlan, part: Panel | None) -> Piece:
    """A panel, its show face up."""
    name, of = f"{panel.name.capitalize()} panel", made_of(part, panel)
    made = board(f"panel.{panel.name}", name, panel.outline, panel.thickness_mm, groove.rests_mm, of)
    return replace(made, stock="segments") if panel.segments else made


def hole(piece: str, panel: PanelPlan, hole_mm: float) -> Feature:
    """A round hole through a board's middle, for a finger or a pull."""
    x0, y0, x1, y1 = bounds(panel.outline)
    outline = slot((x0 + x1) / 2, (y0 + y1) / 2, hole_mm, hole_mm)
    return Feature(f"{piece}.hole", "opening", "show", outline=outline, in_mm=panel.thickness_mm)


def bored(
    piece: str, panel: PanelPlan, hole_mm: float, *about: str, says: str, title: str = "lid_hole"
) -> Step:
    """That hole, measured from the start and the near edge of the board's outline."""
    return make(
        "lid_hole", (piece,), *about, tool="drill_press", makes=(f"{piece}.hole",), lies="show_up",
        settings=(bored_from_start(panel.length_mm / 2), bored_from_edge(panel.width_mm / 2), bit(hole_mm)),
        title=title, says=(says,), numbers={"hole_mm": hole_mm},
    )  # fmt: skip


def level(upper_mm: float) -> Place:
    """Where a board lies that is level in the box, its show face up and so high."""
    return Place((0.0, 0.0, upper_mm), (1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, -1.0))


def grain_told(of: Wooden | None) -> tuple[str, ...]:
    """How a board's grain runs: for its note and, with `panel.` before it, its step. Nothing if it has no one way."""
    return () if of is None else ("sheet",) if of.sheet else (f"grain.{of.grain}",)


def stock_of(of: Wooden | None) -> str:
    """What a board is cut from, as far as it is said."""
    return "sheet stock" if of and of.sheet else (of.wood.strip() if of else "") or "panel stock"


def grain_deg(of: Wooden | None) -> float:
    """Which way its grain runs in its own frame (degrees from x)."""
    return 90.0 if of and of.grain == "width" and not of.sheet else 0.0


def made_of(part: Panel | None, panel: PanelPlan) -> Wooden | None:
    """The wood of a panel as it is made: of segments it has no one grain, of leaves that of the board they are from."""
    if part is None or panel.segments:
        return None
    return replace(part, grain="length", sheet=False) if part.leaves else part


def board(
    name: str, words: str, outline: Points, thickness_mm: float, rests_mm: float, of: Wooden | None = None
) -> Piece:
    """A board that lies level in the box, its show face up, its underside so high."""
    return Piece(
        id=name,
        part="panel",
        name=words,
        says=(
            *(() if len(outline) == 4 else ("panel.sided",)),
            *(("wood",) if of and of.wood.strip() and not of.sheet else ()),
            *grain_told(of),
        ),
        names={"wood": of.wood.strip()} if of else {},
        numbers={"sides": float(len(outline))},
        stock=stock_of(of),
        thickness_mm=thickness_mm,
        grain_deg=grain_deg(of),
        show_face=outline,
        inside_face=outline,
        edges=tuple(Edge(side_name(i), 0.0) for i in range(len(outline))),
        place=level(rests_mm + thickness_mm),
    )


def _tongues(design: Design, ring: RingPlan, groove: GroovePlan, panel: PanelPlan) -> Iterator[Feature]:
    """What is planed off a panel's edges, above and below, where it goes into a leaning side with a tongue."""
    part = panel_of(design, panel.name)
    if part is None or groove.way != "tongue":
        return
    low = groove.rests_mm
    high = low + panel.thickness_mm
    for i, slab in enumerate(ring.slabs):
        edge = groove.edges_mm[i]
        # The panel's edge cut through, as far as it goes into the wall: (up the side's face, into its wood).
        quad = [in_side(slab, out, z) for out, z in (
            (slab.inner_mm(low), low), (edge, low), (edge, high), (slab.inner_mm(high), high))]  # fmt: skip
        ys = [y for y, _z in groove.profiles[i]]
        bottom, top = min(ys), max(ys) - part.fit_mm
        far = panel.thickness_mm * 50 + slab.thickness_mm
        for word, window in (
            ("under", ((-far, -far), (bottom, -far), (bottom, far), (-far, far))),
            ("over", ((top, -far), (far * 9, -far), (far * 9, far), (top, far))),
        ):
            cut = clipped(quad, window)
            if len(cut) < 3 or abs(area(cut)) < 1e-9:
                continue
            # Back in the box, and so from the panel's edge inward and from its upper face down.
            profile = tuple(
                (edge - slab.offset_mm - (y * slab.sin_slope - z * slab.cos_slope),
                 high - (y * slab.cos_slope + z * slab.sin_slope))
                for y, z in cut
            )  # fmt: skip
            a, b = panel.outline[i - 1], panel.outline[i]
            run = math.hypot(b[0] - a[0], b[1] - a[1])
            past = 4 * part.depth_mm / run
            path = (
                (a[0] - (b[0] - a[0]) * past, a[1] - (b[1] - a[1]) * past),
                (b[0] + (b[0] - a[0]) * past, b[1] + (b[1] - a[1]) * past),
            )
            yield Feature(f"panel.{panel.name}.tongue.{side_name(i)}.{word}", "tongue", "show", path, profile)


def _segments(panel: PanelPlan, groove: GroovePlan) -> Iterator[Piece]:
    """The segments a panel is glued up of, round its middle, before it is cut to its outline."""
    made = panel.segments
    if made is None:
        return
    x0, y0, x1, y1 = bounds(panel.outline)
    cx, cy, up = (x0 + x1) / 2, (y0 + y1) / 2, groove.rests_mm + panel.thickness_mm
    outer, inner, wide = made.outer_mm, made.inner_mm, made.strip_mm
    face: Points = ((0.0, 0.0), (outer, 0.0), ((outer + inner) / 2, wide), ((outer - inner) / 2, wide))
    if inner <= 1e-9:
        face = (*face[:2], (outer / 2, wide))
    apothem = outer / 2 / math.tan(math.pi / made.count)
    for number in range(made.count):
        turn = 2 * math.pi * number / made.count - math.pi / 2
        out, along = (math.cos(turn), math.sin(turn)), (-math.sin(turn), math.cos(turn))
        origin = (
            cx + apothem * out[0] - outer / 2 * along[0], cy + apothem * out[1] - outer / 2 * along[1], up
        )  # fmt: skip
        yield Piece(
            id=f"segment.{panel.name}.{number + 1}",
            part="segment",
            name=f"{panel.name.capitalize()} segment {number + 1}",
            alike=f"{panel.name} segment",
            says=("segment",),
            numbers={
                "strip_mm": made.length_mm,
                "inner_mm": made.inner_mm,
                "gauge_deg": made.miter_deg,
                "count": float(made.count),
                "wide_mm": made.strip_mm,
            },
            stock="segment strip",
            thickness_mm=panel.thickness_mm,
            grain_deg=0.0,
            show_face=face,
            inside_face=face,
            edges=(Edge("start", 0.0, -made.miter_deg), Edge("end", 0.0, -made.miter_deg)),
            place=Place(origin, (*along, 0.0), (-out[0], -out[1], 0.0), (0.0, 0.0, -1.0)),
        )


def tried_groove(steps: Sequence[Step]) -> Step:
    """A groove tried on scrap first, at the setting of the first of the grooves."""
    first = steps[0]
    return replace(
        first, id="box.try_groove", operation="try_groove", pieces=(), makes=(), title="try_groove",
        says=("try_groove",) if len(steps) == 1 else ("try_groove", "try_groove.each"),
    )  # fmt: skip


def _grooved_in(job: Job, ring: RingPlan) -> Phase:
    """When grooves and rabbets are cut: in the strip, in the parted pieces, or in sides bevelled as they are parted."""
    if in_strip(job, ring):
        return "strip"
    method = job.stock.board.method
    parted = method in PARTED_FIRST or (method == "bevel_direct" and ring.leans_alike)
    return "flat" if parted else "pieces"


def groove_steps(job: Job, section: SectionPlan, ring: RingPlan) -> Iterator[Step]:
    """A groove for each panel, a step for each setting; both panels at once where one setting serves."""
    own = cutter(job, "groove")
    piece_by_piece = "groove.planed" if ring.leans_alike else "groove.pieces"
    told = {"strip": "groove.strip", "flat": "groove.sides"}.get(_grooved_in(job, ring), piece_by_piece)
    left = [(groove, cut) for groove in section.grooves if groove.seat == "groove" for cut in groove.cuts]
    while left:
        groove, cut = left.pop(0)
        mates = [g for g, c in left if _key(c) == _key(cut)]
        left = [(g, c) for g, c in left if _key(c) != _key(cut)]
        panels = [groove.panel, *(g.panel for g in mates)]
        some = len(cut.sides) < len(ring.sides)
        names = [side_name(i) for i in cut.sides]
        tilted = cut.tilt_deg if abs(cut.tilt_deg) > SAME_SETTING else 0.0
        says = ["groove" if cut.arris == "both" else "groove.arris"]
        says.append(told)
        says += ["groove.turned"] if mates else []
        part = panel_of(job.design, groove.panel)
        says += ["groove.fitted"] if part is not None and fitted_to(part, own) != part else []
        says += ["groove.bit"] if own.tool == "router_table" else []
        says += ["groove.across"] if job.stock.board.method == "upright" else []
        says += ["groove.eaves"] if any(corner.lapped for corner in ring.corners) else []
        yield make(
            "groove", [f"side.{name}" for name in names], *panels, *(["_".join(names)] if some else []),
            makes=(f"side.{name}.groove.{panel}" for name in names for panel in panels),
            lies="show_up", edge=groove.edge, cutter=own, cut_mm=own.takes(groove.width_mm),
            settings=(*tilt(tilted), *(fence(mm) for mm in cut.fences_mm), height(cut.height_mm)),
            passes=len(cut.fences_mm) * len(panels), title="groove.some" if some else "groove", says=says,
            numbers={"passes": float(len(cut.fences_mm)), "wide_mm": groove.width_mm},
            names={
                "panels": " and the ".join(panels), "sides": ", ".join(names), "edge": groove.edge,
                "arris": "inner" if cut.arris == "inside" else "outer",
            },
        )  # fmt: skip


def _key(cut: GrooveCut) -> tuple[object, ...]:
    """Grooves with the same key are cut at one setting."""
    return (cut.sides, cut.arris, *same(cut.tilt_deg, cut.height_mm, *cut.fences_mm))


def _cut(design: Design, ring: RingPlan, section: SectionPlan, panel: PanelPlan) -> Step:
    square = _is_rectangle(panel.outline)
    says = ["panel" if square else "panel.traced"]
    numbers: dict[str, float] = {} if square else _edges(panel.outline)
    names: dict[str, str] = {"panel": panel.name}
    groove = section.groove(panel.name)
    part = panel_of(design, panel.name)
    if groove is not None and part is not None and not square:
        numbers["add_mm"] = abs(part.depth_mm - part.play_mm)
        says = ["panel.traced"] if part.depth_mm >= part.play_mm else ["panel.traced.less"]
    if groove is not None and part is not None and groove.way == "tongue":
        held = part.depth_mm - part.play_mm
        numbers["held_mm"] = held
        left = [tongue_mm(slab, panel.thickness_mm, held) for slab in ring.slabs]
        leaning = [side for side in ring.sides if abs(side.slope_deg) > SAME_SETTING]
        some = "" if len(leaning) == len(ring.sides) else ".some"
        says += [f"panel.tongue{some}"] if min(left) > 0 else []  # of none that is left nothing can be planed
        names["sides"] = letters(leaning)
        for side in leaning:
            numbers[f"tongue.{side.name}.thick_mm"] = left[side.index]
            numbers[f"tongue.{side.name}.lean_deg"] = abs(side.slope_deg)
    name = f"panel.{panel.name}"
    says += _grain_said(made_of(part, panel))
    return make(
        "panel", (name,), panel.name, makes=(name,),
        settings=(stop(panel.length_mm), width(panel.width_mm), thickness(panel.thickness_mm)),
        says=says, numbers=numbers, names=names,
    )  # fmt: skip


def _is_rectangle(outline: Points) -> bool:
    """Whether its corners are square."""
    return len(outline) == 4 and all(abs(corner - 90.0) < SAME_SETTING for corner in _corners(outline))


def _corners(outline: Points) -> list[float]:
    """The corner at the end of every edge (degrees)."""
    ways = [math.atan2(b[1] - a[1], b[0] - a[0]) for a, b in _walked(outline)]
    return [
        180.0 - math.degrees((on - back) % math.tau)
        for back, on in zip(ways, ways[1:] + ways[:1], strict=True)
    ]


def _walked(outline: Points) -> list[tuple[Point, Point]]:
    """The edges: that of side A first, as its corner is the first to end."""
    return [(outline[i - 1], outline[i]) for i in range(len(outline))]


def _edges(outline: Points) -> dict[str, float]:
    """Its edges and corners in order, by the names the words have for them."""
    numbers = {f"edge.{n}_mm": math.dist(a, b) for n, (a, b) in enumerate(_walked(outline))}
    return numbers | {f"corner.{n}_deg": corner for n, corner in enumerate(_corners(outline))}


def segment_steps(panel: PanelPlan, part: SegmentsPlan, *, inches: bool) -> Iterator[Step]:
    """The segments off their strip, then the glue-up in its order."""
    pieces = [f"segment.{panel.name}.{number + 1}" for number in range(part.count)]
    yield make(
        "segment", pieces, panel.name, part="segment", makes=pieces,
        settings=(swing(part.miter_deg), stop(part.outer_mm), width(part.strip_mm), thickness(panel.thickness_mm)),
        passes=part.count, says=("segment.ring", "segment.hole") if part.inner_mm > 0 else ("segment.pie",),
        numbers={"count": float(part.count), "inner_mm": part.inner_mm, "strip_mm": part.strip_mm,
                 "length_mm": part.length_mm, "hole_mm": part.hole_mm},
        names={"panel": panel.name},
    )  # fmt: skip
    gap = part.outer_mm / 2 / math.sin(math.pi / part.count) * math.radians(part.last_joint_deg)
    yield make(
        "segment_glue", pieces, panel.name, part="segment", tool="clamps", passes=part.count,
        says=("segment_glue.order", "segment_glue", "segment_glue.trim"),
        numbers={"count": float(part.count), "cuts": 2.0 * part.count, "error_deg": CUT_ERROR_DEG, "gap_mm": gap,
                 "over_mm": oversize_mm(inches=inches)},
        names={"panel": panel.name},
    )  # fmt: skip


def _findings(plan: Settled) -> Iterator[Finding]:
    """A ring of segments that nothing fills."""
    for panel in plan.section.panels:
        if panel.segments is not None and panel.segments.inner_mm > 0:
            pie = Fix("segment_pie", ((f"section.{panel.name}.segments.style", "pie"),))
            numbers = {"hole_mm": panel.segments.hole_mm}
            yield Finding(
                "segment_ring_open", "caution", At("section"), numbers, (pie,), {"panel": panel.name}
            )


PANELS = Kind("panel", _pieces, _features, _steps, _findings)
