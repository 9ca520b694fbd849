"""Profiles along the edges: where each runs, its section, and what it would meet.

A profile is cut with the box standing on the rim that it is cut along, the bit's bearing on the face over it: so it
hangs on the point of the face that is as far from the rim as the profile is high, and its section is plumb, whatever
the side leans.
"""

import math
from collections.abc import Iterator, Mapping, Sequence
from typing import Final

from msgspec import Struct

from peristyle.core.outlines import Arc, apart, clipped, flattened, hull
from peristyle.core.outlines import Outline as Points
from peristyle.core.planes import Point, Slab
from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import (
    Design,
    DropIn,
    EdgeName,
    EdgeProfile,
    Flat,
    Gable,
    Insert,
    LiftOff,
    OuterEdge,
    Sliding,
    Split,
    replace,
)
from peristyle.model.job import Job
from peristyle.planning.findings import Change, Finding, Fix, Place, Severity, reader
from peristyle.planning.form.ring import RingPlan
from peristyle.planning.section.grooves import in_side
from peristyle.planning.section.hardware import side_of
from peristyle.planning.section.levels import SectionPlan

_PAST_MM: Final = 1.0  # how far a cut is drawn out of the wood
_LEAST_WOOD_MM: Final = 1.5  # less between a profile and another cut breaks out (our rule)
_LEAST_RIM_MM: Final = 2.0  # of a rim left to stand on or to close against (our rule)
_LEAST_SIZE_MM: Final = 0.5  # a smaller one is an arris eased with paper
_LEANS: Final = 1e-4  # of a slope's sine: less is upright
_PLACE: Final = Place("section")


class Run(Struct, frozen=True):
    """One profile along one rim of the sides, or round a panel.

    `level_mm` is the rim's, and `way` 1 where the wood lies over it, −1 where it lies under. `of` says which rim where
    there are two. `sides` have it; or the pieces `panels` do.
    """

    name: EdgeName
    profile: EdgeProfile
    level_mm: float
    way: float
    sides: tuple[int, ...] = ()
    panels: tuple[str, ...] = ()
    of: str = ""

    @property
    def inside(self) -> bool:
        """Whether it is cut from the inside face."""
        return self.name == "rim_edge"

    def in_lid(self, design: Design) -> bool:
        """Whether what it is cut in comes away with a lid that is sawn free."""
        return self.of == "lid" or (self.name == "top_edge" and design.section.lid is not None)

    @property
    def id(self) -> str:
        """What the cuts of it are called in a piece."""
        return f"edge.{self.name.split('_')[0]}{'.' + self.of if self.of else ''}"


def curve(profile: EdgeProfile) -> Points:
    """The profile (mm) as how far in from the face and how far from the rim: from the rim's end of it to the face's.

    Source: quarter circles; a round-over's middle lies in the wood, a cove's on the arris.
    """
    size = profile.size_mm
    half = size / 2
    outlines: dict[str, tuple[Point | Arc, ...]] = {
        "chamfer": ((size, 0.0), (0.0, size)),
        "cove": ((size, 0.0), Arc((0.0, size), (0.0, 0.0))),
        # Arcs run counter-clockwise, so what bulges the other way is told from its far end.
        "round_over": tuple(reversed(flattened(((0.0, size), Arc((size, 0.0), (size, size)))))),
        "ogee": (
            *flattened(((size, 0.0), Arc((half, half), (half, 0.0)))),
            *tuple(reversed(flattened(((0.0, size), Arc((half, half), (half, size)))))),
        ),
    }
    return flattened(outlines[profile.kind])


def taken(profile: EdgeProfile, past_mm: float = _PAST_MM) -> Points:
    """The section (mm) of what is cut away, as `curve` counts, reaching out of the wood on both sides."""
    size = profile.size_mm
    return ((-past_mm, -past_mm), (size, -past_mm), *curve(profile), (-past_mm, size))


def runs_of(design: Design, ring: RingPlan, section: SectionPlan) -> tuple[Run, ...]:
    """Every profile there is, as far as there is an edge for it."""
    parts, every = design.section, tuple(range(len(ring.slabs)))
    lid, high = section.lid, design.form.height_mm
    found = []
    if parts.bottom_edge is not None:
        bottom = parts.bottom
        if bottom is not None and bottom.seat == "applied":
            found.append(Run("bottom_edge", parts.bottom_edge, 0.0, 1.0, panels=("panel.bottom",)))
        else:
            found.append(Run("bottom_edge", parts.bottom_edge, 0.0, 1.0, every))
    if parts.top_edge is not None and not _no_top_edge(design):
        panels = over_rim(design)
        found.append(Run("top_edge", parts.top_edge, high, -1.0, () if panels else every, panels))
    if parts.lid_edges is not None and lid is not None and lid.body_mm > 0 and parts.strip is None:
        hinges = parts.hinges
        square = () if hinges is None else (side_of(design, hinges),)
        sides = tuple(side for side in every if side not in square)
        found.append(Run("lid_edges", parts.lid_edges, lid.lost_low_mm, -1.0, sides, of="body"))
        found.append(Run("lid_edges", parts.lid_edges, lid.lost_high_mm, 1.0, sides, of="lid"))
    if parts.base_edge is not None and _overhang_mm(design, "base_edge") > 0:
        found.append(Run("base_edge", parts.base_edge, 0.0, -1.0, panels=("panel.bottom",)))
    if parts.under_edge is not None and _overhang_mm(design, "under_edge") > 0:
        found.append(Run("under_edge", parts.under_edge, high, 1.0, panels=over_rim(design)))
    if parts.rim_edge is not None and not _no_rim(design) and not unlike(ring):
        rim = lid.lost_low_mm if lid is not None and lid.body_mm > 0 else high
        found.append(Run("rim_edge", parts.rim_edge, rim, -1.0, every))
    return tuple(found)


def _overhang_mm(design: Design, name: EdgeName) -> float:
    """How far the base or the top overhangs the sides all round (mm): what leaves its other edge to be profiled."""
    section = design.section
    if name == "base_edge":
        bottom = section.bottom
        return bottom.overhang_mm if bottom is not None and bottom.seat == "applied" else 0.0
    cover = section.cover
    if isinstance(cover, Flat | LiftOff | Split):
        return cover.overhang_mm if not isinstance(cover, LiftOff) or cover.over == "all" else 0.0
    top = section.top
    return top.overhang_mm if cover is None and top is not None and top.seat == "applied" else 0.0


def over_rim(design: Design) -> tuple[str, ...]:
    """The pieces that lie on the rim, whose edge is the topmost."""
    cover, top = design.section.cover, design.section.top
    if isinstance(cover, Split):
        return ("panel.lid.fixed", "panel.lid.loose")
    if isinstance(cover, LiftOff | Flat):
        return ("panel.lid",)
    return ("panel.top",) if top is not None and top.seat == "applied" else ()


def _no_top_edge(design: Design) -> bool:
    """Whether what closes the box leaves no edge along its top."""
    return isinstance(design.section.cover, Gable | Sliding)


def _no_rim(design: Design) -> bool:
    """Whether the inner arris of the rim is taken: by what lies in it, or on it."""
    section = design.section
    sealed = section.lid is None and section.top is not None and section.top.seat != "groove"
    return sealed or isinstance(section.cover, DropIn | Insert | Sliding | Gable)


def alike(a: Slab, b: Slab) -> bool:
    """Whether two sides are mirrored at their corner: as thick, and leaning as much."""
    return abs(a.sin_slope - b.sin_slope) < 1e-9 and abs(a.thickness_mm - b.thickness_mm) < 1e-9


def unlike(ring: RingPlan) -> bool:
    """Whether some corner's two sides are not mirrored."""
    return any(not alike(slab, ring.slabs[i - 1]) for i, slab in enumerate(ring.slabs))


def box_section(run: Run, slab: Slab, past_mm: float = _PAST_MM) -> Points:
    """The section of a cut along a side, in the box: how far out, and how high (mm)."""
    foot = run.level_mm + run.way * run.profile.size_mm
    lean = abs(slab.sin_slope / slab.cos_slope) * run.profile.size_mm
    face, way = (slab.inner_mm(foot), 1.0) if run.inside else (slab.outer_mm(foot), -1.0)
    return tuple(
        (face + way * (inward - lean if inward < 0 else inward), run.level_mm + run.way * up)
        for inward, up in taken(run.profile, past_mm)
    )


def side_section(run: Run, slab: Slab) -> Points:
    """The same across the side, in its own frame, (y, z), as far as it lies behind the face it is cut from."""
    points = [in_side(slab, *point) for point in box_section(run, slab)]
    far = slab.thickness_mm + 2 * run.profile.size_mm + 10.0
    low, high = min(y for y, _z in points) - 1.0, max(y for y, _z in points) + 1.0
    z0, z1 = (-far, slab.thickness_mm) if run.inside else (0.0, far)
    return clipped(points, ((low, z0), (high, z0), (high, z1), (low, z1)))


def leans(run: Run, ring: RingPlan) -> bool:
    """Whether a side that it is cut along leans."""
    return any(abs(ring.slabs[side].sin_slope) > _LEANS for side in run.sides)


def reach_mm(run: Run, slab: Slab) -> float:
    """How much of the rim's width the profile takes (mm), at its arris; none where the side leans too far."""
    turn = run.way * slab.sin_slope / slab.cos_slope
    return run.profile.size_mm * (1.0 + turn if run.inside else 1.0 - turn)


# --- findings

_Sections = Mapping[int, Sequence[tuple[Run, Points]]]
Cuts = Mapping[int, Sequence[tuple[str, Points]]]


def edge_findings(job: Job, ring: RingPlan, section: SectionPlan, cuts: Cuts) -> Iterator[Finding]:
    """What is wrong about profiles; `cuts` are the other cuts across each side, by what they are, as (y, z)."""
    if not ring.stands:
        return
    design = job.design
    yield from _no_edge(design, ring)
    runs = runs_of(design, ring, section)
    for run in runs:
        yield from _on_panel(design, run, runs) if run.panels else _on_rim(design, ring, run, runs)
        if _early(design, run) and leans(run, ring):
            yield Finding("edge_before_fence", "stop", _PLACE, {}, (_later(run.name),), {"edge": run.name})
    sections: dict[int, list[tuple[Run, Points]]] = {}
    for run in runs:
        for side in run.sides:
            sections.setdefault(side, []).append((run, side_section(run, ring.slabs[side])))
    yield from _meetings(design, ring, sections, cuts)
    yield from _beside_feet(design, ring, runs)
    yield from _through_banding(job, runs)


def _leave_out(name: EdgeName) -> Fix:
    return Fix("no_edge", ((f"section.{name}", False),), {}, {"edge": name})


def _smaller(design: Design, name: EdgeName, size_mm: float) -> tuple[Fix, ...]:
    """A smaller profile, as far as one makes sense; or none."""
    size = reader(design).down(size_mm)
    less = Fix("edge_smaller", ((f"section.{name}.size_mm", size),), {"size_mm": size}, {"edge": name})
    return (less, _leave_out(name)) if size >= _LEAST_SIZE_MM else (_leave_out(name),)


def _no_edge(design: Design, ring: RingPlan) -> Iterator[Finding]:
    """Profiles asked for where there is no edge."""
    parts = design.section
    if parts.lid_edges is not None and parts.lid is None:
        yield Finding("lid_edges_no_lid", "stop", _PLACE, {}, (_leave_out("lid_edges"),))
    if parts.lid_edges is not None and parts.lid is not None and parts.strip is not None:
        yield Finding("lid_edges_strip", "stop", _PLACE, {}, (_leave_out("lid_edges"),))
    if parts.top_edge is not None and _no_top_edge(design):
        yield Finding("top_edge_none", "stop", _PLACE, {}, (_leave_out("top_edge"),))
    others: tuple[EdgeName, ...] = ("base_edge", "under_edge")
    for name in others:
        if getattr(parts, name) is not None and _overhang_mm(design, name) <= DEFAULT.length_mm:
            yield Finding("edge_covered", "stop", _PLACE, {}, (_leave_out(name),), {"edge": name})
    if parts.rim_edge is not None and _no_rim(design):
        yield Finding("rim_edge_none", "stop", _PLACE, {}, (_leave_out("rim_edge"),))
    elif parts.rim_edge is not None and unlike(ring):
        yield Finding("rim_edge_unlike", "stop", _PLACE, {}, (_leave_out("rim_edge"),))


def _early(design: Design, run: Run) -> bool:
    """Whether it is cut round the whole box, before its lid is freed."""
    early = isinstance(run.profile, OuterEdge) and run.profile.when == "before_lid"
    return early and design.section.lid is not None


def _later(name: EdgeName) -> Fix:
    return Fix("edge_later", ((f"section.{name}.when", "after_lid"),), {}, {"edge": name})


def _on_panel(design: Design, run: Run, runs: Sequence[Run]) -> Iterator[Finding]:
    """A profile higher than the board it is cut in, with that on its other edge; one that reaches under the sides; or
    one cut before that board is on.
    """
    parts = design.section
    part = parts.bottom if run.name in ("bottom_edge", "base_edge") else parts.cover or parts.top
    thick = part.thickness_mm if part is not None else 0.0
    if run.name in ("base_edge", "under_edge"):
        over = _overhang_mm(design, run.name)
        thick -= sum(
            other.profile.size_mm for other in runs if other is not run and other.panels == run.panels
        )
        if run.profile.size_mm > over + DEFAULT.length_mm:
            numbers = {"size_mm": run.profile.size_mm, "overhang_mm": over}
            fixes = _smaller(design, run.name, over)
            yield Finding("edge_past_overhang", "stop", _PLACE, numbers, fixes, {"edge": run.name})
    if run.profile.size_mm > thick - _LEAST_WOOD_MM + DEFAULT.length_mm:
        numbers = {"size_mm": run.profile.size_mm, "thick_mm": thick}
        fixes = _smaller(design, run.name, thick - _LEAST_WOOD_MM)
        yield Finding("edge_past_panel", "stop", _PLACE, numbers, fixes, {"edge": run.name})
    if _early(design, run):
        yield Finding("edge_panel_later", "stop", _PLACE, {}, (_later(run.name),), {"edge": run.name})


def _on_rim(design: Design, ring: RingPlan, run: Run, runs: Sequence[Run]) -> Iterator[Finding]:
    """What profiles leave of a rim, and sides that lean so far that they have no arris for it."""
    if run.of == "lid":
        return  # as wide as the body's, but for the lean: said once
    others = [
        other for other in runs if other is not run and other.sides and abs(other.level_mm - run.level_mm) < 1e-6
    ]  # fmt: skip
    worst, where = math.inf, 0
    for side in run.sides:
        slab = ring.slabs[side]
        if reach_mm(run, slab) < run.profile.size_mm * 0.1:
            names = {"edge": run.name, "side": ring.sides[side].name}
            fixes = (_leave_out(run.name),)
            yield Finding("edge_no_arris", "stop", Place("side", side, len(ring.sides)), {}, fixes, names)
            return
        left = slab.level_thickness_mm - reach_mm(run, slab)
        left -= sum(reach_mm(other, slab) for other in others if side in other.sides)
        if left < worst:
            worst, where = left, side
    if worst < _LEAST_RIM_MM - DEFAULT.length_mm and not (run.inside and others):
        slab = ring.slabs[where]
        share = reach_mm(run, slab) / run.profile.size_mm
        size = run.profile.size_mm - (_LEAST_RIM_MM - worst) / share
        numbers = {"left_mm": max(0.0, worst), "size_mm": run.profile.size_mm}
        names = {"edge": run.name, "side": ring.sides[where].name}
        yield Finding("edge_too_wide", "stop", _PLACE, numbers, _smaller(design, run.name, size), names)


def _meetings(design: Design, ring: RingPlan, sections: _Sections, cuts: Cuts) -> Iterator[Finding]:
    """Other cuts that a profile comes near to or opens into; of each kind the nearest."""
    nearest: dict[tuple[EdgeName, str], tuple[float, int, Run]] = {}
    seen = set()
    for side, own in sections.items():
        looks = (tuple(section for _run, section in own), tuple(cuts.get(side, ())))
        if looks in seen:
            continue  # as in a side before
        seen.add(looks)
        for run, section in own:
            for what, points in _beside(design, sections, cuts, side, run):
                gap = apart(section, points, _LEAST_WOOD_MM)
                if gap < nearest.get((run.name, what), (_LEAST_WOOD_MM - DEFAULT.length_mm, 0, run))[0]:
                    nearest[run.name, what] = (gap, side, run)
    told: set[frozenset[str]] = set()
    for (name, what), (gap, side, run) in nearest.items():
        if frozenset((name, what)) in told:
            continue  # of two profiles the first says it
        told.add(frozenset((name, what)))
        met = gap <= DEFAULT.length_mm
        severity: Severity = "stop" if met else "caution"
        others = [points for kind, points in _beside(design, sections, cuts, side, run) if kind == what]
        fixes = _smaller(design, name, _clear_size(run, ring.slabs[side], others))
        names: dict[str, str] = {"edge": name, "what": what, "side": ring.sides[side].name}
        code = "edge_meets" if met else "edge_near"
        place = Place("side", side, len(ring.sides))
        yield Finding(code, severity, place, {"wood_mm": max(0.0, gap)}, fixes, names)


def _beside(
    design: Design, sections: _Sections, cuts: Cuts, side: int, run: Run
) -> Iterator[tuple[str, Points]]:
    """What else is cut into the wood that a profile is cut in, but for the lid line beside the rims that it makes."""
    at_line = run.of or run.inside
    yield from ((what, points) for what, points in cuts.get(side, ()) if not (what == "lid_kerf" and at_line))
    for other, points in sections[side]:
        # How much two of them leave of one rim is another matter.
        same_rim = abs(other.level_mm - run.level_mm) < DEFAULT.length_mm
        if other.name != run.name and other.in_lid(design) == run.in_lid(design) and not same_rim:
            yield other.name, points


def _clear_size(run: Run, slab: Slab, others: Sequence[Points]) -> float:
    """The largest size (mm) that leaves wood enough beside other cuts: found by halving, each try looked at."""
    low, high = 0.0, run.profile.size_mm
    for _ in range(14):
        size = (low + high) / 2
        section = side_section(replace(run, profile=replace(run.profile, size_mm=size)), slab)
        clear = all(apart(section, other, _LEAST_WOOD_MM) >= _LEAST_WOOD_MM for other in others)
        low, high = (size, high) if clear else (low, size)
    return low


def _beside_feet(design: Design, ring: RingPlan, runs: Sequence[Run]) -> Iterator[Finding]:
    """Feet that stand out under what the profile has taken."""
    feet = design.section.feet
    for run in runs:
        if feet is None or run.name != "bottom_edge" or not run.sides:
            continue
        reach = max(reach_mm(run, ring.slabs[side]) for side in run.sides)
        if feet.inset_mm < reach - DEFAULT.length_mm:
            inset = reader(design).up(reach)
            change: Change = ("section.feet.inset_mm", inset)
            fix = Fix("feet_inset", (change,), {"inset_mm": inset})
            numbers = {"inset_mm": feet.inset_mm, "reach_mm": reach}
            yield Finding("edge_over_feet", "caution", _PLACE, numbers, (fix, _leave_out(run.name)))


def _through_banding(job: Job, runs: Sequence[Run]) -> Iterator[Finding]:
    """A profile that goes through the banding of sheet stock."""
    thick = job.stock.banding_mm
    for run in runs:
        if job.stock.board.sheet and run.sides and run.profile.size_mm > thick + DEFAULT.length_mm:
            numbers = {"size_mm": run.profile.size_mm, "thick_mm": thick}
            fixes = _smaller(job.design, run.name, thick)
            yield Finding("edge_through_banding", "caution", _PLACE, numbers, fixes, {"edge": run.name})
            return


def across(points: Sequence[tuple[float, float, float]]) -> Points:
    """What a cut takes across its side, by its corners in the side's frame: (y, z)."""
    return hull([(y, z) for _x, y, z in points])
