"""Loose splines between the segments that a panel is glued up of: grooves in their joint edges, and the splines."""

import math
from collections.abc import Iterator
from typing import Final, NamedTuple

from peristyle.core.planes import Point, Vector
from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import panel_of
from peristyle.planning.corners.splines import GLUE_ROOM_MM
from peristyle.planning.cutters import cutter
from peristyle.planning.findings import Finding, Fix, Place, reader
from peristyle.planning.making.kind import Kind, Settled
from peristyle.planning.making.parts.splines import stock_step
from peristyle.planning.making.piece import Edge, Feature, Piece
from peristyle.planning.making.piece import Place as Where
from peristyle.planning.making.setting import fence, height
from peristyle.planning.making.step import Step, make
from peristyle.planning.section.groove_findings import blade_findings
from peristyle.planning.section.grooves import passes
from peristyle.planning.section.levels import PanelPlan
from peristyle.planning.section.segments import SegmentsPlan

_BETWEEN_MM: Final = 1.0  # wood left where the grooves of a segment's two edges come together (our rule)
_PAST_MM: Final = 1.0


class _Wanted(NamedTuple):
    """One panel's splines: `edge_mm` is how long a joint edge is, `long_mm` how far the groove runs in from outside."""

    panel: PanelPlan
    plan: SegmentsPlan
    thick_mm: float
    deep_mm: float
    edge_mm: float
    long_mm: float


def _wanted(plan: Settled) -> Iterator[_Wanted]:
    for panel in plan.section.panels:
        part = panel_of(plan.job.design, panel.name)
        decided = part.segments if part else None
        made = panel.segments
        if decided is None or made is None or decided.spline_mm <= 0:
            continue
        half = math.radians(made.apex_deg / 2)
        edge = made.strip_mm / math.cos(half)
        whole = made.outer_mm / 2 / math.sin(half)  # from the middle of the panel
        stop = (decided.spline_depth_mm + _BETWEEN_MM) / math.tan(half)
        yield _Wanted(panel, made, decided.spline_mm, decided.spline_depth_mm, edge, min(edge, whole - stop))


def _joints(one: _Wanted) -> tuple[tuple[Point, Point, Point], ...]:
    """The start's and the end's joint edge of a segment: its outer end, the way along it, the way into the wood."""
    half = math.radians(one.plan.apex_deg / 2)
    sin, cos = math.sin(half), math.cos(half)
    return (((0.0, 0.0), (sin, cos), (cos, -sin)), ((one.plan.outer_mm, 0.0), (-sin, cos), (-cos, -sin)))


def _runs_to(one: _Wanted) -> float:
    """Where a groove ends, from outside: one that runs through goes on past the slanting inner edge."""
    through = one.long_mm >= one.edge_mm - DEFAULT.length_mm
    return one.long_mm + (one.deep_mm + _PAST_MM if through else 0.0)


def _features(plan: Settled) -> Iterator[tuple[str, Feature]]:
    for one in _wanted(plan):
        if one.long_mm <= 0:
            continue
        low = (one.panel.thickness_mm - one.thick_mm) / 2
        for number in range(one.plan.count):
            piece = f"segment.{one.panel.name}.{number + 1}"
            for word, ((x, y), (ax, ay), (ix, iy)) in zip(("start", "end"), _joints(one), strict=True):
                ends = []
                for run in (-_PAST_MM, _runs_to(one)):
                    at = (x + run * ax, y + run * ay)
                    ends.append(tuple(
                        (at[0] + deep * ix, at[1] + deep * iy, z)
                        for deep, z in ((0.0, low), (one.deep_mm, low), (one.deep_mm, low + one.thick_mm),
                                        (0.0, low + one.thick_mm))
                    ))  # fmt: skip
                yield piece, Feature(f"{piece}.spline.{word}", "spline_groove", "inside", in_mm=one.deep_mm,
                                     ends=tuple(ends))  # fmt: skip


def _pieces(plan: Settled) -> Iterator[Piece]:
    """A spline in every joint: x in from the outside, y across the joint, z down."""
    for one in _wanted(plan):
        wide = 2 * one.deep_mm - GLUE_ROOM_MM
        if one.long_mm <= 0 or wide <= 0:
            continue
        xs, ys = [x for x, _y in one.panel.outline], [y for _x, y in one.panel.outline]
        middle = ((min(xs) + max(xs)) / 2, (min(ys) + max(ys)) / 2)
        groove = plan.section.groove(one.panel.name)
        top = (groove.rests_mm if groove else 0.0) + (one.panel.thickness_mm + one.thick_mm) / 2
        whole = one.plan.outer_mm / 2 / math.sin(math.radians(one.plan.apex_deg / 2))
        face = ((0.0, 0.0), (one.long_mm, 0.0), (one.long_mm, wide), (0.0, wide))
        for number in range(one.plan.count):
            turn = 2 * math.pi * (number + 0.5) / one.plan.count - math.pi / 2
            out, left = (math.cos(turn), math.sin(turn)), (-math.sin(turn), math.cos(turn))
            origin: Vector = (
                middle[0] + whole * out[0] - wide / 2 * left[0], middle[1] + whole * out[1] - wide / 2 * left[1], top,
            )  # fmt: skip
            yield Piece(
                id=f"segment_spline.{one.panel.name}.{number + 1}",
                part="spline",
                name=f"{one.panel.name.capitalize()} segment spline {number + 1}",
                alike=f"{one.panel.name} segment spline",
                says=("spline",),
                stock="spline stock",
                thickness_mm=one.thick_mm,
                grain_deg=90.0,
                show_face=face,
                inside_face=face,
                edges=(Edge("first", 0.0), Edge("high", 0.0), Edge("second", 0.0), Edge("low", 0.0)),
                place=Where(origin, (-out[0], -out[1], 0.0), (*left, 0.0), (0.0, 0.0, -1.0)),
            )


def spline_steps(plan: Settled, panel: str) -> Iterator[Step]:
    """The grooves and the splines of one panel, once its segments are cut and before they are glued."""
    for one in _wanted(plan):
        if one.long_mm <= 0 or one.panel.name != panel:
            continue
        own = cutter(plan.job, "spline")
        wide = own.takes(one.thick_mm)
        near = (one.panel.thickness_mm - one.thick_mm) / 2
        fences = [fence(near + at) for at in passes(one.thick_mm, wide)]
        pieces = [f"segment.{one.panel.name}.{number + 1}" for number in range(one.plan.count)]
        splines = [f"segment_spline.{one.panel.name}.{number + 1}" for number in range(one.plan.count)]
        stopped = one.long_mm < one.edge_mm - DEFAULT.length_mm
        yield make(
            "segment_groove", pieces, one.panel.name, part="segment", cutter=own, cut_mm=wide, lies="on_edge",
            makes=[f"{piece}.spline.{word}" for piece in pieces for word in ("start", "end")],
            settings=(*fences, height(one.deep_mm)), passes=2 * one.plan.count * len(fences),
            says=("segment_groove", *(("segment_groove.stop",) if stopped else ())),
            numbers={"wide_mm": one.thick_mm, "grooves": 2.0 * one.plan.count, "long_mm": one.long_mm},
            names={"panel": one.panel.name},
        )  # fmt: skip
        size = (one.thick_mm, max(0.0, 2 * one.deep_mm - GLUE_ROOM_MM))
        lengths = [one.long_mm] * one.plan.count
        yield stock_step(plan.job, splines, one.panel.name, lengths_mm=lengths, size_mm=size, part="segment")


def _findings(plan: Settled) -> Iterator[Finding]:
    for one in _wanted(plan):
        at = f"section.{one.panel.name}.segments"
        fmt = reader(plan.job.design)
        nothing = Fix("no_splines", ((f"{at}.spline_mm", 0.0),))
        if one.thick_mm > one.panel.thickness_mm / 2 + DEFAULT.length_mm:
            thin = fmt.down(one.panel.thickness_mm / 3)
            fixes: tuple[Fix, ...] = (nothing,)
            if thin >= 0.5:
                fixes = (
                    Fix("segment_spline_thin", ((f"{at}.spline_mm", thin),), {"thick_mm": thin}),
                    nothing,
                )
            numbers = {"thick_mm": one.thick_mm, "panel_mm": one.panel.thickness_mm}
            yield Finding(
                "segment_spline_thick", "stop", Place("section"), numbers, fixes, {"panel": one.panel.name}
            )
        yield from blade_findings(plan.job, Place("section"), "spline", "groove_for_spline", one.thick_mm)
        if one.long_mm < 5.0:
            numbers = {"length_mm": max(0.0, one.long_mm)}
            yield Finding(
                "segment_spline_short",
                "stop",
                Place("section"),
                numbers,
                (nothing,),
                {"panel": one.panel.name},
            )


SEGMENT_SPLINES: Final = Kind("segment_spline", _pieces, _features, findings=_findings)
