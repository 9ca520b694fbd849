"""Rabbets for panels that are let in from outside."""

from collections.abc import Iterator

from peristyle.core.tolerance import DEFAULT
from peristyle.model.job import Job
from peristyle.planning.cutters import cutter
from peristyle.planning.form.ring import RingPlan, SidePlan
from peristyle.planning.making.ripping import ids, letters, together
from peristyle.planning.making.setting import fence, height, same, stands_out
from peristyle.planning.making.step import Step, make
from peristyle.planning.section.grooves import passes
from peristyle.planning.section.levels import SectionPlan


def rabbet_steps(job: Job, section: SectionPlan, ring: RingPlan, *, strip: bool) -> Iterator[Step]:
    """A rabbet for each panel let in from outside, in the long `strip` or in the parted sides: two saw cuts square to
    each other, or one with a bit or a dado set. In two cuts the waste comes free on the outside, never between blade
    and fence (common practice).
    """
    own, told = cutter(job, "rabbet"), "rabbet.strip" if strip else "rabbet.sides"
    every = ids(ring.sides, "side")
    for groove in (g for g in section.grooves if g.seat == "rabbet"):
        made = [f"{name}.groove.{groove.panel}" for name in every]
        depth, shoulder = groove.depth_mm, groove.width_mm
        names: dict[str, str] = {"panel": groove.panel, "edge": groove.edge}
        numbers = {"depth_mm": depth, "shoulder_mm": shoulder, "wide_mm": shoulder}
        wide = own.takes(shoulder)
        at_once = wide >= shoulder - DEFAULT.length_mm
        if own.name or at_once:
            fences = [fence(at) for at in passes(shoulder, wide)]
            yield make(
                "rabbet", every, groove.panel, makes=made, lies="show_up", edge=groove.edge, cutter=own, cut_mm=wide,
                settings=(*((stands_out(shoulder),) if at_once else fences), height(depth)), passes=len(fences),
                says=("rabbet.at_once" if at_once else "rabbet.passes", told), numbers=numbers, names=names,
            )  # fmt: skip
            continue
        yield make(
            "rabbet", every, groove.panel, "shoulder", lies="show_up", edge=groove.edge, cutter=own,
            settings=(fence(groove.fences_mm[0]), height(depth)), title="rabbet.shoulder",
            says=("rabbet.shoulder", told), numbers=numbers, names=names,
        )  # fmt: skip
        walls: dict[tuple[int, ...], list[SidePlan]] = {}
        for side in ring.sides:
            walls.setdefault(same(side.thickness_mm), []).append(side)
        for members in walls.values():
            some = len(walls) > 1
            yield make(
                "rabbet", ids(members, "side"), groove.panel, "cheek", *([together(members)] if some else []),
                makes=(f"side.{side.name}.groove.{groove.panel}" for side in members), lies="on_edge",
                edge=groove.edge, cutter=own, settings=(fence(members[0].thickness_mm - depth), height(shoulder)),
                title="rabbet.cheek.some" if some else "rabbet.cheek", says=("rabbet.cheek",), numbers=numbers,
                names=names | {"sides": letters(members)},
            )  # fmt: skip
