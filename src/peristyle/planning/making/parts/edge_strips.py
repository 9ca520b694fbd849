"""Panels and lids glued up of strips, edge to edge."""

from collections.abc import Iterator
from typing import Final, NamedTuple

from peristyle.core.outlines import bounds
from peristyle.model.design import FalseFloor, Gable, Panel, Split, panel_of
from peristyle.model.panels import Wooden
from peristyle.planning.findings import Finding, Fix
from peristyle.planning.findings import Place as At
from peristyle.planning.making.kind import Kind, Phase, Settled
from peristyle.planning.making.parts.panels import stock_of
from peristyle.planning.making.piece import Edge, Piece, Place
from peristyle.planning.making.setting import stop, thickness, width
from peristyle.planning.making.step import Step, make
from peristyle.planning.section.levels import PanelPlan

_SPARE_MM: Final = 6.0  # along and across, for truing what is glued up (common practice)


class _Joined(NamedTuple):
    """One panel glued up of a number of strips: how long along the grain and how wide each is cut."""

    panel: PanelPlan
    number: int
    long_mm: float
    wide_mm: float
    along: bool  # the grain runs along the panel's length
    stock: str


def _joined(plan: Settled) -> Iterator[_Joined]:
    for panel in plan.section.panels:
        part = panel_of(plan.job.design, panel.name)
        split = panel.name == "lid" and isinstance(plan.job.design.section.cover, Split)
        if part is None or part.strips < 2 or split or _why_no_strips(part):
            continue
        along = part.grain == "length"
        long, wide = (panel.length_mm, panel.width_mm) if along else (panel.width_mm, panel.length_mm)
        yield _Joined(
            panel, part.strips, long + _SPARE_MM, (wide + _SPARE_MM) / part.strips, along, stock_of(part)
        )


def _pieces(plan: Settled) -> Iterator[Piece]:
    """The strips where the panel they become lies: x along the grain, y across it, z down."""
    for one in _joined(plan):
        groove = plan.section.groove(one.panel.name)
        if groove is None:
            continue
        x0, y0, x1, y1 = bounds(one.panel.outline)
        top = groove.rests_mm + one.panel.thickness_mm
        middle = ((x0 + x1) / 2, (y0 + y1) / 2)
        face = ((0.0, 0.0), (one.long_mm, 0.0), (one.long_mm, one.wide_mm), (0.0, one.wide_mm))
        for number in range(one.number):
            across = (number - one.number / 2) * one.wide_mm
            if one.along:
                origin = (middle[0] - one.long_mm / 2, middle[1] + across, top)
                place = Place(origin, (1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, -1.0))
            else:
                origin = (middle[0] + across + one.wide_mm, middle[1] - one.long_mm / 2, top)
                place = Place(origin, (0.0, 1.0, 0.0), (-1.0, 0.0, 0.0), (0.0, 0.0, -1.0))
            yield Piece(
                id=f"board.{one.panel.name}.{number + 1}",
                part="board",
                name=f"{one.panel.name.capitalize()} strip {number + 1}",
                alike=f"{one.panel.name} strip",
                says=("board",),
                stock=one.stock,
                thickness_mm=one.panel.thickness_mm,
                grain_deg=0.0,
                show_face=face,
                inside_face=face,
                edges=(Edge("bottom", 0.0), Edge("end", 0.0), Edge("top", 0.0), Edge("start", 0.0)),
                place=place,
            )


def _steps(plan: Settled) -> Iterator[tuple[Phase, Step]]:
    for one in _joined(plan):
        names = [f"board.{one.panel.name}.{number + 1}" for number in range(one.number)]
        panel: dict[str, str] = {"panel": one.panel.name}
        phase: Phase = "last" if one.panel.name == "lid" else "panels"
        yield phase, make(
            "board", names, one.panel.name, part="leaf", makes=names, passes=one.number,
            settings=(stop(one.long_mm), width(one.wide_mm), thickness(one.panel.thickness_mm)), says=("board",),
            numbers={"count": float(one.number)}, names=panel,
        )  # fmt: skip
        yield phase, make(
            "leaf_glue", names, f"{one.panel.name}", "strips", part="leaf", tool="clamps", title="leaf_glue.strips",
            says=("leaf_glue.strips",), numbers={"spare_mm": _SPARE_MM}, names=panel,
        )  # fmt: skip


def _findings(plan: Settled) -> Iterator[Finding]:
    """Strips, leaves and segments asked for together, and strips of what is cut from one board."""
    section = plan.job.design.section
    for name in ("bottom", "top"):
        panel = panel_of(plan.job.design, name)
        if panel is not None and panel.leaves:
            if panel.segments:
                yield _left_out(name, "leaves", False, "leaves")
            elif panel.sheet:
                yield _left_out(name, "sheet", False, "sheet_leaves")
            elif panel.grain != "length":
                yield _left_out(name, "grain", "length", "grain_leaves")
    for at in ("bottom", "top", "false_floor", "cover"):
        part = getattr(section, at)
        if isinstance(part, Wooden) and part.strips > 1:
            told = _why_no_strips(part)
            if told:
                yield _left_out(at, "strips", 1, told)


def _why_no_strips(part: Wooden) -> str:
    """Why what is to be of strips is not; empty where it is."""
    if part.sheet:
        return "sheet"
    if isinstance(part, FalseFloor | Split | Gable):
        return "whole"
    if isinstance(part, Panel) and (part.segments or part.leaves):
        return "segments" if part.segments else "leaves_strips"
    return ""


def _left_out(at: str, name: str, usual: object, kind: str) -> Finding:
    """A choice that another one leaves aside."""
    fix = Fix(f"usual_{name}", ((f"section.{at}.{name}", usual),))
    names = {"panel": {"cover": "lid", "false_floor": "false floor"}.get(at, at)}
    return Finding("left_aside", "note", At("section"), {}, (fix,), names, kind)


EDGE_STRIPS = Kind("edge_strips", _pieces, steps=_steps, findings=_findings)
