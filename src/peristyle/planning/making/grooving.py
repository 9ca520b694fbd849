"""Cuts into the sides' inside faces: grooves for the panels, dadoes for the dividers."""

import math
from collections.abc import Iterator

from peristyle.core.outlines import run
from peristyle.model.design import side_name
from peristyle.model.job import Job
from peristyle.planning.divider_plan import DividersPlan
from peristyle.planning.dividers import DadoPlan
from peristyle.planning.grooves import GrooveCut, passes
from peristyle.planning.making.ripping import part_of
from peristyle.planning.making.setting import SAME_SETTING, fence, from_start, height, same, swing, tilt
from peristyle.planning.making.step import Step, make, short
from peristyle.planning.ring import RingPlan
from peristyle.planning.section import SectionPlan


def groove_steps(section: SectionPlan, ring: RingPlan) -> Iterator[Step]:
    """A groove for each panel, a step for each setting; both panels at once where one setting serves."""
    left = [(groove, cut) for groove in section.grooves for cut in groove.cuts]
    while left:
        groove, cut = left.pop(0)
        mates = [g for g, c in left if _key(c) == _key(cut)]
        left = [(g, c) for g, c in left if _key(c) != _key(cut)]
        panels = [groove.panel, *(g.panel for g in mates)]
        some = len(cut.sides) < len(ring.sides)
        names = [side_name(i) for i in cut.sides]
        tilted = cut.tilt_deg if abs(cut.tilt_deg) > SAME_SETTING else 0.0
        says = ["groove" if cut.arris == "both" else "groove.arris"]
        says += ["groove.strip" if ring.leans_alike else "groove.pieces"]
        says += ["groove.turned"] if mates else []
        yield make(
            "groove", [f"side.{name}" for name in names], *panels, *(["_".join(names)] if some else []),
            makes=(f"side.{name}.groove.{panel}" for name in names for panel in panels),
            lies="show_up", edge=groove.panel,
            settings=(*tilt(tilted), *(fence(mm) for mm in cut.fences_mm), height(cut.height_mm)),
            passes=len(cut.fences_mm) * len(panels), title="groove.some" if some else "groove", says=says,
            numbers={"passes": float(len(cut.fences_mm))},
            names={
                "panels": " and the ".join(panels), "sides": ", ".join(names), "panel": groove.panel,
                "arris": "inner" if cut.arris == "inside" else "outer",
            },
            cautions=("guard", "groove"),
        )  # fmt: skip


def _key(cut: GrooveCut) -> tuple[object, ...]:
    """Grooves with the same key are cut at one setting."""
    return (cut.sides, cut.arris, *same(cut.tilt_deg, cut.height_mm, *cut.fences_mm))


def dado_steps(job: Job, walls: RingPlan, dividers: DividersPlan, word: str) -> Iterator[Step]:
    """The dadoes, each from its side's start: equal settings on several sides together."""
    groups: dict[tuple[int, ...], list[tuple[DadoPlan, str]]] = {}
    for dado, name in sorted(
        ((dado, piece.name) for piece in dividers.pieces for dado in piece.dadoes),
        key=lambda d: (d[0].side, d[0].at_mm),
    ):
        at = _stop(walls, dado)
        key = same(at, dado.tilt_deg, dado.gauge_deg, dado.depth_mm)
        groups.setdefault(key, []).append((dado, name))
    own = job.design.inside.dividers
    if not groups or own is None:
        return
    offsets = passes(own.thickness_mm, job.shop.saw.kerf_mm)
    reach = (0.0 if dividers.in_liner else job.design.floor_mm) + own.height_mm
    for members in groups.values():
        first = members[0][0]
        # A slanted cut is wider on the face than the divider is thick.
        widen = math.cos(math.radians(first.tilt_deg)) * math.cos(math.radians(first.gauge_deg))
        stops = [from_start(_stop(walls, first) + offset / widen) for offset in offsets]
        names = [side_name(dado.side) for dado, _name in members]
        yield make(
            "dado", tuple(dict.fromkeys(f"{word}.{name}" for name in names)), "_".join(names),
            part=part_of(word),
            makes=(f"{word}.{side_name(dado.side)}.dado.{name.replace(' ', '.')}" for dado, name in members),
            lies="show_up",
            settings=(*tilt(first.tilt_deg), *((swing(first.gauge_deg),) if first.gauge_deg else ()), *stops,
                      height(first.depth_mm)),
            passes=len(members) * len(offsets),
            says=("dado.passes" if len(offsets) > 1 else "dado", "dado.reach"),
            numbers={"passes": float(len(offsets)), "reach_mm": reach},
            names={"sides": ", ".join(names)},
            cautions=("guard", "groove", *short(walls.sides[first.side].outside_mm)),
        )  # fmt: skip


def _stop(walls: RingPlan, dado: DadoPlan) -> float:
    """From where the piece reaches furthest at its start, which lies at the stop, to the dado's near edge."""
    side, slab = walls.sides[dado.side], walls.slabs[dado.side]
    begin = run(slab, side.foot[0], walls.inner_bottom[dado.side - 1])
    return begin + dado.at_mm - min(x for x, _y in (*side.outer_face, *side.inner_face))
