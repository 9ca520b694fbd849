"""Profiles along the edges in the box cut through: what the bit takes, and how large it is."""

from collections.abc import Iterator
from typing import Final

from peristyle.core.outlines import clipped
from peristyle.core.planes import Point
from peristyle.drawing.covers import drawn_side
from peristyle.drawing.shapes import Path, Shape, Tag
from peristyle.model import cover_fields
from peristyle.model.design import EdgeName
from peristyle.planning.plan import Plan
from peristyle.planning.section.edges import Run, box_section, curve, runs_of
from peristyle.words.step_titles import PROFILES

_SHIFTS: Final[dict[EdgeName, tuple[float, float]]] = {
    "bottom_edge": (-84.0, -14.0),
    "top_edge": (-16.0, 19.0),
    "lid_edges": (-58.0, 0.0),
    "rim_edge": (58.0, -16.0),
    "base_edge": (-84.0, 6.0),
    "under_edge": (-84.0, 0.0),
}


def edges_across(plan: Plan, faces: tuple[float, float], lean: float) -> tuple[list[Shape], list[Tag]]:
    """What is taken off both walls' edges, or those of the board on or under them; `faces` their outer faces' feet."""
    shapes: list[Shape] = []
    tags: dict[EdgeName, Tag] = {}
    for run in runs_of(plan.job.design, plan.ring, plan.section):
        outlines = list(_of_board(plan, run) if run.panels else _of_wall(plan, run))
        if run.sides and drawn_side(plan) not in run.sides:
            outlines = []  # the side with the hinges
        for outline in outlines:
            for face, way in ((faces[0], 1.0), (faces[1], -1.0)):
                shapes.append(
                    Path(tuple((face + way * x, z) for x, z in outline), "blade", "solid", weight=0.6)
                )
        inset = plan.ring.slabs[drawn_side(plan)].level_thickness_mm if run.inside else 0.0
        at = (faces[0] + inset - lean * run.level_mm, run.level_mm)
        field = cover_fields.EDGES[run.name]
        tags.setdefault(run.name, Tag(field, at, shift=_SHIFTS[run.name], prefix=PROFILES[run.profile.kind]))
    return shapes, list(tags.values())


def _of_wall(plan: Plan, run: Run) -> Iterator[tuple[Point, ...]]:
    """The cut in the wall that is drawn, from its outer face's foot inward."""
    slab, height = plan.ring.slabs[drawn_side(plan)], plan.job.design.form.height_mm
    wall = [(slab.outer_mm(z), z) for z in (0.0, height)] + [(slab.inner_mm(z), z) for z in (height, 0.0)]
    kept = clipped(box_section(run, slab), wall)
    if len(kept) > 2:
        yield tuple((slab.offset_mm - out, z) for out, z in kept)


def _of_board(plan: Plan, run: Run) -> Iterator[tuple[Point, ...]]:
    """The cut in the edge of the board that lies on the rim or under the foot."""
    part = run.panels[0].split(".")[1]
    groove = next((one for one in plan.section.grooves if one.panel == part), None)
    panel = next((one for one in plan.section.panels if one.name == part), None)
    if groove is None or panel is None:
        return
    side = drawn_side(plan)
    edge = plan.ring.slabs[side].offset_mm - groove.edges_mm[side]
    level = groove.rests_mm + (0.0 if run.way > 0 else panel.thickness_mm)
    yield ((edge, level), *((edge + inward, level + run.way * up) for inward, up in curve(run.profile)))
