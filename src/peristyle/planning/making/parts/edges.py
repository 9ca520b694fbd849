"""Profiles along the edges of the sides, and round what lies on or under them."""

import itertools
import math
from collections.abc import Iterator, Sequence
from typing import Final, get_args

from peristyle.core.outlines import Outline as Points
from peristyle.core.planes import Point, Vector
from peristyle.core.tolerance import DEFAULT
from peristyle.model.edges import EdgeName
from peristyle.model.tools import Bit
from peristyle.planning.findings import Finding
from peristyle.planning.making.closed import goes_on_first
from peristyle.planning.making.kind import PHASES, Kind, Phase, Settled, cut_into
from peristyle.planning.making.parts.covers import COVERS, halves
from peristyle.planning.making.parts.dividers import DIVIDERS
from peristyle.planning.making.parts.hardware import HARDWARE
from peristyle.planning.making.parts.lid import LID
from peristyle.planning.making.parts.panels import PANELS
from peristyle.planning.making.parts.walls import PAST_MM, along, stands
from peristyle.planning.making.piece import Face, Feature
from peristyle.planning.making.ripping import letters
from peristyle.planning.making.setting import Setting
from peristyle.planning.making.step import Step, make
from peristyle.planning.making.taken import points_of
from peristyle.planning.section.edges import (
    Run,
    across,
    alike,
    box_section,
    edge_findings,
    leans,
    runs_of,
    side_section,
    taken,
)

_PASS_MM: Final = 3.0  # what a profile bit takes at once (common practice)
_ON_LINE_MM: Final = 1e-6


def _features(plan: Settled) -> Iterator[tuple[str, Feature]]:
    if not plan.ring.stands:
        return
    for run in runs_of(plan.job.design, plan.ring, plan.section):
        face: Face = "inside" if run.inside else "show"
        for side in run.sides:
            section = side_section(run, plan.ring.slabs[side])
            if len(section) > 2:
                name = plan.ring.sides[side].name
                yield f"side.{name}", along(run.id, "edge", plan.ring.sides[side], section, face)
        yield from _past_corners(plan, run)
        for panel in run.panels:
            for number, path in enumerate(_edges_of(plan, panel)):
                yield panel, _round_panel(panel, run, number, path)


def _past_corners(plan: Settled, run: Run) -> Iterator[tuple[str, Feature]]:
    """What a cut along one side takes of the next, where that has none or is not its mirror: the bit runs on."""
    count = len(plan.ring.slabs)
    for side in run.sides if not run.inside else ():
        for other in ((side - 1) % count, (side + 1) % count):
            if other not in run.sides or not alike(plan.ring.slabs[side], plan.ring.slabs[other]):
                for number, ends in enumerate(_prisms(plan, run, side)):
                    place = stands(plan.ring.slabs[other], plan.ring.sides[other], 0.0)
                    own = tuple(tuple(place.back(point) for point in end) for end in ends)
                    piece = f"side.{plan.ring.sides[other].name}"
                    name = f"{piece}.{run.id}.{plan.ring.sides[side].name}.{number + 1}"
                    yield piece, Feature(name, "edge", "show", in_mm=run.profile.size_mm, ends=own)


def _prisms(plan: Settled, run: Run, side: int) -> Iterator[tuple[tuple[Vector, ...], tuple[Vector, ...]]]:
    """A cut along a side and on past its corners, in the box, as convex slices from below up."""
    slab = plan.ring.slabs[side]
    section = box_section(run, slab)
    _low, (_inner, _z), *points, (outer, _top) = section
    far = 4 * run.profile.size_mm + 4 * max(s.thickness_mm for s in plan.ring.slabs)
    ax, ay, _az = slab.along
    foot = plan.ring.sides[side].foot[:2]
    ends = [(x - slab.ux * slab.offset_mm) * ax + (y - slab.uy * slab.offset_mm) * ay for x, y in foot]

    def at(run_mm: float, point: Point) -> Vector:
        out, z = point
        return (ax * run_mm + slab.ux * out, ay * run_mm + slab.uy * out, z)

    bottom = points[0][1] - run.way * PAST_MM
    slices = [((outer, bottom), (points[0][0], bottom), points[0], (outer, points[0][1]))]
    slices += [((outer, a[1]), a, b, (outer, b[1])) for a, b in itertools.pairwise(points)]
    for corners in slices:
        if abs(corners[0][1] - corners[2][1]) > 1e-9:
            yield (
                tuple(at(min(ends) - far, point) for point in corners),
                tuple(at(max(ends) + far, point) for point in corners),
            )


def _edges_of(plan: Settled, panel: str) -> list[tuple[Point, Point]]:
    """The edges of a panel that lie on its own outline: not those along which a lid parts."""
    name = panel.split(".")[1]
    whole = next((p.outline for p in plan.section.panels if p.name == name), ())
    parts = halves(plan) if panel.startswith("panel.lid.") else None
    outline = whole if parts is None else parts[0 if panel.endswith("fixed") else 1]
    lines = _edges(whole)
    return [edge for edge in _edges(outline) if any(_on(line, edge) for line in lines)]


def _edges(outline: Points) -> list[tuple[Point, Point]]:
    return list(zip(outline, (*outline[1:], *outline[:1]), strict=True))


def _on(line: tuple[Point, Point], edge: tuple[Point, Point]) -> bool:
    """Whether a stretch lies on a line."""
    (ax, ay), (bx, by) = line
    run = math.dist((ax, ay), (bx, by)) or 1.0
    return all(abs((bx - ax) * (y - ay) - (by - ay) * (x - ax)) / run < _ON_LINE_MM for x, y in edge)


def _round_panel(panel: str, run: Run, number: int, path: tuple[Point, Point]) -> Feature:
    """A cut along one edge of a board, square to its face, on past its corners."""
    (x0, y0), (x1, y1) = path
    long = math.dist(*path) or 1.0
    past = run.profile.size_mm + PAST_MM
    dx, dy = (x1 - x0) / long * past, (y1 - y0) / long * past
    section = tuple((inward, max(0.0, up)) for inward, up in taken(run.profile))
    return Feature(
        f"{panel}.{run.id}.{number + 1}", "edge", "inside" if run.way > 0 else "show",
        ((x0 - dx, y0 - dy), (x1 + dx, y1 + dy)), section,
    )  # fmt: skip


def _steps(plan: Settled) -> Iterator[tuple[Phase, Step]]:
    runs = runs_of(plan.job.design, plan.ring, plan.section) if plan.ring.stands else ()
    if not runs:
        return
    early: Phase = "close"
    late = {
        f"panel.{panel.name}" for panel in plan.section.panels
        if (groove := plan.section.groove(panel.name)) is not None and not goes_on_first(plan, panel, groove)
    }  # fmt: skip
    loose = _overhanging(plan)  # shaped before they go on
    phases: list[tuple[Phase, Run]] = [
        (
            "mold" if run.panels and set(run.panels) <= loose
            else early if _is_early(plan, run) and not late & set(run.panels) else "last",
            run,
        )
        for run in runs
    ]  # fmt: skip
    kinds = dict.fromkeys(run.profile.kind for run in runs)
    yield (
        min((phase for phase, _run in phases), key=PHASES.index),
        make("try_edge", (), tool="scrap", says=("try_edge",), names={"profile": " ".join(kinds)}),
    )
    for phase, run in phases:
        yield phase, _step(plan, run)


def _overhanging(plan: Settled) -> set[str]:
    """The bottom and the top that are glued on and stand proud of the sides all round."""
    section = plan.job.design.section
    return {
        f"panel.{name}"
        for name, panel in (("bottom", section.bottom), ("top", section.top))
        if panel is not None and panel.seat == "applied" and panel.overhang_mm > DEFAULT.length_mm
    }


def _is_early(plan: Settled, run: Run) -> bool:
    """Whether a profile is cut on the closed box, before its lid is sawn off."""
    return getattr(run.profile, "when", "") == "before_lid" and plan.section.lid is not None


def passes_for(deep_mm: float) -> int:
    """In how many passes a profile or a moulding so deep is cut."""
    return max(1, math.ceil(deep_mm / _PASS_MM))


def _step(plan: Settled, run: Run) -> Step:
    sides = [plan.ring.sides[side] for side in run.sides]
    pieces = run.panels or tuple(f"side.{side.name}" for side in sides)
    size = run.profile.size_mm
    passes = passes_for(size)
    bit = next(
        (tool.name for tool in plan.job.shop.tools
         if isinstance(tool, Bit) and tool.cuts == run.profile.kind and abs(tool.width_mm - size) < 0.005), "",
    )  # fmt: skip
    key = f"{run.name}.{run.of}" if run.of else run.name
    says = ["edge.panel" if run.panels else f"edge.{key}"]
    says += ["edge.hinges"] if len(sides) < len(plan.ring.sides) and sides else []
    says += ["edge.light"] if passes > 1 else []
    says += ["edge.leans"] if leans(run, plan.ring) else []
    says += ["edge.parting"] if len(run.panels) > 1 else []
    return make(
        "edge", pieces, *key.split("."), tool="router_table", tool_name=bit,
        makes=[f"{piece}.{run.id}" for piece in pieces], lies="flat",
        settings=(
            Setting("height", size, "mm", "the table", "where the profile meets the face"),
            Setting("width", size, "mm", "the bearing", "the far side of the profile, at the table"),
        ),
        passes=passes, title=f"edge.{'panel' if run.panels else key}", says=says,
        numbers={"size_mm": size, "passes": float(passes)},
        names={"profile": run.profile.kind, "sides": letters(sides),
               "panel": run.panels[0].split(".")[1] if run.panels else "",
               "panel_edge": "Lower edge" if run.way > 0 else "Upper edge",
               "face": "underside" if run.way > 0 else "upper face"},
        edge="bottom" if run.way > 0 else "top",
    )  # fmt: skip


def _findings(plan: Settled) -> Iterator[Finding]:
    section = plan.job.design.section
    if not any(getattr(section, name) for name in get_args(EdgeName)):
        return
    cuts = cuts_across(plan, (PANELS, LID, COVERS, DIVIDERS, HARDWARE)) if plan.ring.stands else {}
    closes = all(
        goes_on_first(plan, panel, groove) or f"panel.{panel.name}" in _overhanging(plan)
        for panel in plan.section.panels
        if (groove := plan.section.groove(panel.name)) is not None and groove.seat == "applied"
    )  # fmt: skip
    for finding in edge_findings(plan.job, plan.ring, plan.section, cuts):
        if finding.code != "edge_panel_later" or not closes:
            yield finding


def cuts_across(plan: Settled, kinds: Sequence[Kind]) -> dict[int, list[tuple[str, Points]]]:
    """What these kinds cut into each side, seen across it: what it is, and where, (y, z) in the side's own frame."""
    cuts = cut_into(plan, kinds)
    return {
        side.index: [
            (feature.kind, across(points))
            for feature in cuts.get(f"side.{side.name}", ())
            if (points := points_of(feature, side))
        ]
        for side in plan.ring.sides
    }


EDGES = Kind("edge", features=_features, steps=_steps, findings=_findings)
