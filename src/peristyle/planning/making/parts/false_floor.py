"""A floor over a hidden compartment: a loose board on strips that are glued along the walls."""

from collections.abc import Iterator
from typing import Final, NamedTuple

from peristyle.core.outlines import run_lengths, vertices
from peristyle.core.planes import Point
from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import Design, FalseFloor
from peristyle.model.starts import begun
from peristyle.planning.findings import Change, Finding, Fix, reader
from peristyle.planning.findings import Place as At
from peristyle.planning.form.ring import SidePlan
from peristyle.planning.making.kind import Kind, Phase, Settled
from peristyle.planning.making.parts.panels import board, bored, cut_out, hole
from peristyle.planning.making.piece import Edge, Feature, Piece, Place
from peristyle.planning.making.setting import SAME_SETTING, off_the_end, thickness, tilt, width
from peristyle.planning.making.step import Step, make
from peristyle.planning.section.levels import PanelPlan, panel_plan
from peristyle.planning.section.movement import Moving, boards_findings

_LEAST_LEDGE_MM: Final = 5.0  # a shorter strip is left out (our rule)
_BEARS_MM: Final = 1.5  # of the board on each strip at the least (our rule)
_BEARS_WELL_MM: Final = 4.0  # what a strip is made to bear of it (our rule)
_PLACE: Final = At("section")


class _Ledge(NamedTuple):
    """The strip along one wall: where its front begins, how long it is, how wide above and below."""

    side: SidePlan
    start: Point
    long_mm: float
    top_mm: float
    foot_mm: float


def _board(plan: Settled, own: FalseFloor) -> PanelPlan | None:
    if not plan.ring.stands:
        return None
    low = plan.job.design.bare_floor_mm + own.height_mm
    edges = [
        min(slab.inner_mm(low), slab.inner_mm(low + own.thickness_mm)) - own.play_mm
        for slab in plan.ring.slabs
    ]
    return panel_plan("bottom", vertices(plan.ring.slabs, edges), own.thickness_mm)


def _ledges(plan: Settled, own: FalseFloor) -> Iterator[_Ledge]:
    """A strip along every wall that is long enough, clear of those beside it."""
    slabs, foot = plan.ring.slabs, plan.job.design.bare_floor_mm
    top = foot + own.height_mm
    clear = [min(slab.inner_mm(foot), slab.inner_mm(top)) - own.ledge_mm for slab in slabs]
    corners = vertices(slabs, clear)
    runs = run_lengths(slabs, corners)  # along the fronts, from one to the next
    for side, slab, run, front in zip(plan.ring.sides, slabs, runs, clear, strict=True):
        if run >= _LEAST_LEDGE_MM:
            yield _Ledge(
                side, corners[side.index - 1], run, slab.inner_mm(top) - front, slab.inner_mm(foot) - front
            )


def _pieces(plan: Settled) -> Iterator[Piece]:
    own = plan.job.design.section.false_floor
    panel = _board(plan, own) if own else None
    if own is None or panel is None:
        return
    foot = plan.job.design.bare_floor_mm
    yield board("panel.false", "False floor", panel.outline, panel.thickness_mm, foot + own.height_mm, own)
    for ledge in _ledges(plan, own):
        slab, (x, y) = plan.ring.slabs[ledge.side.index], ledge.start
        place = Place((x, y, foot + own.height_mm), slab.along, (slab.ux, slab.uy, 0.0), (0.0, 0.0, -1.0))
        yield Piece(
            id=f"ledge.{ledge.side.name}",
            part="ledge",
            name=f"Strip along side {ledge.side.name}",
            alike="strip under the false floor",
            says=("ledge",) if abs(ledge.top_mm - ledge.foot_mm) < SAME_SETTING else ("ledge.leans",),
            numbers={"lean_deg": abs(ledge.side.slope_deg)},
            stock="strip",
            thickness_mm=own.height_mm,
            grain_deg=0.0,
            show_face=((0.0, 0.0), (ledge.long_mm, 0.0), (ledge.long_mm, ledge.top_mm), (0.0, ledge.top_mm)),
            inside_face=(
                (0.0, 0.0),
                (ledge.long_mm, 0.0),
                (ledge.long_mm, ledge.foot_mm),
                (0.0, ledge.foot_mm),
            ),
            edges=(
                Edge("front", 0.0),
                Edge("end", 0.0),
                Edge("back", ledge.side.slope_deg),
                Edge("start", 0.0),
            ),
            place=place,
        )


def _features(plan: Settled) -> Iterator[tuple[str, Feature]]:
    own = plan.job.design.section.false_floor
    panel = _board(plan, own) if own else None
    if own is not None and panel is not None and own.hole_mm > 0:
        yield "panel.false", hole("panel.false", panel, own.hole_mm)


def _steps(plan: Settled) -> Iterator[tuple[Phase, Step]]:
    own = plan.job.design.section.false_floor
    panel = _board(plan, own) if own else None
    if own is None or panel is None:
        return
    # It stands on the bottom, so it comes after one that is let in from outside.
    bottom = plan.job.design.section.bottom
    phase: Phase = "seat" if bottom is not None and bottom.seat != "groove" else "inside"
    leans: dict[float, list[_Ledge]] = {}
    for ledge in _ledges(plan, own):
        leans.setdefault(round(ledge.side.slope_deg, 4), []).append(ledge)
    every = [f"ledge.{ledge.side.name}" for ledges in leans.values() for ledge in ledges]
    for ledges in leans.values():
        names = [f"ledge.{ledge.side.name}" for ledge in ledges]
        slope = ledges[0].side.slope_deg
        lengths = {f"long.{ledge.side.name}_mm": ledge.long_mm for ledge in ledges}
        yield phase, make(
            "ledge", names, *(["_".join(ledge.side.name for ledge in ledges)] if len(leans) > 1 else []), makes=names,
            settings=(
                *tilt(abs(slope) if abs(slope) > SAME_SETTING else 0.0),
                width(max(ledges[0].top_mm, ledges[0].foot_mm)), thickness(own.height_mm),
                off_the_end(max(ledge.long_mm for ledge in ledges)),
            ),
            says=("ledge", *(("ledge.leans",) if abs(slope) > SAME_SETTING else ())), passes=len(names),
            numbers=lengths | {"count": float(len(names)), "lean_deg": abs(slope)},
            names={"wide": "up" if slope > 0 else "down"},
        )  # fmt: skip
    if every:
        yield phase, make(
            "ledge_glue", every, tool="by_hand", says=("ledge_glue",), numbers={"high_mm": own.height_mm}
        )  # fmt: skip
    yield phase, cut_out("panel.false", "false", panel, says=("panel.false",), title="panel.false",
                            numbers={"play_mm": own.play_mm}, of=own)  # fmt: skip
    if own.hole_mm > 0:
        yield (
            phase,
            bored("panel.false", panel, own.hole_mm, "false", says="lid_hole.finger", title="lid_hole.false"),
        )
    yield phase, make("floor_fit", ("panel.false",), tool="by_hand", says=("floor_fit",))


def _findings(plan: Settled) -> Iterator[Finding]:
    design = plan.job.design
    own = design.section.false_floor
    panel = _board(plan, own) if own else None
    if own is None or panel is None:
        return
    nothing = Fix("no_false_floor", (("section.false_floor", False),))
    if design.section.bottom is None:
        fix = Fix("add_bottom", (("section.bottom", True),))
        yield Finding("false_floor_alone", "stop", _PLACE, {}, (fix, nothing))
        return
    if own.ledge_mm - own.play_mm < _BEARS_MM:
        wide = reader(design).up(own.play_mm + _BEARS_WELL_MM)
        fix = Fix("ledge_wide", (("section.false_floor.ledge_mm", wide),), {"ledge_mm": wide})
        yield Finding(
            "ledge_narrow", "stop", _PLACE, {"bears_mm": max(0.0, own.ledge_mm - own.play_mm)}, (fix, nothing)
        )
    if not list(_ledges(plan, own)) or min(panel.length_mm, panel.width_mm) < 2 * own.hole_mm:
        yield Finding("false_floor_small", "stop", _PLACE, {}, (nothing,))
        return
    if design.room_mm < 1.0:
        yield Finding("false_floor_high", "stop", _PLACE, {"room_mm": max(0.0, design.room_mm)}, (nothing,))
    rim = plan.section.lid.body_mm if plan.section.lid else design.form.height_mm
    reach = [
        slab.ux * x + slab.uy * y - slab.inner_mm(rim)
        for slab, (x, y) in zip(plan.ring.slabs, panel.outline, strict=True)
    ]
    if max(reach) > DEFAULT.length_mm:
        yield Finding("false_floor_mouth", "stop", _PLACE, {"over_mm": max(reach)}, (nothing,))
    if design.inside.dividers is not None and not plan.dividers.in_liner and plan.dividers.pieces:
        fix = Fix("no_dividers", (("inside.dividers", False),))
        yield Finding("false_floor_dividers", "stop", _PLACE, {}, (fix, nothing))
    if plan.corner_blocks.blocks:
        fix = Fix("no_corner_blocks", (("joints.corner_blocks", False),))
        yield Finding("false_floor_blocks", "stop", _PLACE, {}, (fix, nothing))
    yield from _shut_in(design, own, nothing)
    room = ("play_mm", own.play_mm)

    def bearing(play_mm: float) -> tuple[Change, ...]:
        return (
            ("section.false_floor.ledge_mm", max(own.ledge_mm, reader(design).up(play_mm + _BEARS_WELL_MM))),
        )

    floor = Moving("false floor", own, "section.false_floor", panel.outline, room, bearing)
    yield from boards_findings(plan.job, [floor])
    if own.hole_mm == 0:
        usual = begun(FalseFloor, design.units).hole_mm
        fix = Fix("false_hole", (("section.false_floor.hole_mm", usual),))
        yield Finding("false_floor_no_grip", "note", _PLACE, {}, (fix,))


def _shut_in(design: Design, own: FalseFloor, nothing: Fix) -> Iterator[Finding]:
    """What comes over the floor's edges, so that it no longer lifts out."""
    inside = design.inside
    if inside.fillets is not None and inside.fillets.thickness_mm > own.play_mm:
        numbers = {"thick_mm": inside.fillets.thickness_mm, "play_mm": own.play_mm}
        fixes = (Fix("no_fillets", (("inside.fillets", False),)), nothing)
        yield Finding("false_floor_shut", "caution", _PLACE, numbers, fixes, {}, "fillets")
    if inside.lining_mm > own.play_mm:
        numbers = {"thick_mm": inside.lining_mm, "play_mm": own.play_mm}
        fixes = (Fix("no_lining", (("inside.lining_mm", 0.0),)), nothing)
        yield Finding("false_floor_shut", "caution", _PLACE, numbers, fixes, {}, "lining")
    if inside.liner is not None:
        yield Finding("false_floor_shut", "note", _PLACE, {}, (), {}, "liner")


FALSE_FLOOR = Kind("false_floor", _pieces, _features, _steps, _findings)
