"""The box put together and finished at the saw: dry fit, panels, glue, slots for keys, the lid freed."""

from collections.abc import Iterator

from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import Design
from peristyle.planning.grooves import tongue_mm
from peristyle.planning.keys import KeySetting, KeysPlan
from peristyle.planning.making.inside import segment_steps
from peristyle.planning.making.ripping import ids, letters, together
from peristyle.planning.making.setting import (
    SAME_SETTING,
    cradle,
    fence,
    height,
    stop,
    thickness,
    tilt,
    width,
)
from peristyle.planning.making.step import Step, make
from peristyle.planning.ring import RingPlan
from peristyle.planning.section import LidPlan, PanelPlan, SectionPlan


def assembly(design: Design, ring: RingPlan, section: SectionPlan, keys: KeysPlan) -> Iterator[Step]:
    """From the dry fit to the freed lid."""
    sides = ids(ring.sides, "side")
    yield make("dry_fit", sides, tool="tape", says=("dry_fit",))
    for panel in section.panels:
        if panel.segments:
            yield from segment_steps(panel, panel.segments)
        yield _panel(design, ring, section, panel)
    held = tuple(f"panel.{panel.name}" for panel in section.panels)
    yield make(
        "glue", (*sides, *held), tool="clamps", says=("glue",), numbers={"panels": float(len(held))},
        cautions=("glue",),
    )  # fmt: skip
    for setting in keys.settings:
        yield _slots(ring, keys, setting)
    if section.lid and section.lid.body_mm > 0:
        yield from _freed(ring, section.lid)


def _panel(design: Design, ring: RingPlan, section: SectionPlan, panel: PanelPlan) -> Step:
    says = ["panel" if len(ring.sides) == 4 else "panel.traced"]
    numbers: dict[str, float] = {}
    groove = section.groove(panel.name)
    part = design.section.bottom if panel.name == "bottom" else design.section.top
    if groove is not None and part is not None and groove.way == "tongue":
        held = part.depth_mm - part.play_mm
        numbers["held_mm"] = held
        says.append("panel.tongue")
        for side, slab in zip(ring.sides, ring.slabs, strict=True):
            numbers[f"tongue.{side.name}.thick_mm"] = tongue_mm(slab, panel.thickness_mm, held)
            numbers[f"tongue.{side.name}.lean_deg"] = abs(side.slope_deg)
    name = f"panel.{panel.name}"
    return make(
        "panel", (name,), panel.name, makes=(name,),
        settings=(stop(panel.length_mm), width(panel.width_mm), thickness(panel.thickness_mm)),
        says=says, numbers=numbers, names={"panel": panel.name}, cautions=("guard",),
    )  # fmt: skip


def _slots(ring: RingPlan, keys: KeysPlan, setting: KeySetting) -> Step:
    fences = [fence(setting.fence_mm + at) for at in setting.passes_mm]
    corners = [ring.corners[i].name for i in setting.corners]
    some = len(corners) < sum(not corner.lapped for corner in ring.corners)
    at = [keys.heights_mm.index(mm) + 1 for mm in setting.heights_mm]
    says = ["keys.passes" if len(fences) > 1 else "keys"]
    says += ["keys.turned"] if len(setting.heights_mm) > 1 else []
    says += ["keys.leaning"] if any(abs(slab.sin_slope) > DEFAULT.length_mm for slab in ring.slabs) else []
    walls = {i for corner in setting.corners for i in (corner, (corner + 1) % len(ring.sides))}
    slots = [
        f"side.{ring.sides[i].name}.slot.{ring.corners[corner].name.replace('-', '_')}.{number}"
        for corner in setting.corners
        for i in (corner, (corner + 1) % len(ring.sides))
        for number in at
    ]
    return make(
        "keys", ids([side for side in ring.sides if side.index in walls], "side"), "_".join(corners),
        "_".join(map(str, at)), makes=slots, lies="in_cradle", edge=setting.edge,
        settings=(cradle(setting.cradle_deg), *fences, height(setting.depth_mm)), passes=setting.slots,
        title="keys.some" if some else "keys", says=says,
        numbers={"slots": float(setting.slots), "passes": float(len(fences)), "cradle_deg": setting.cradle_deg},
        names={"corners": ", ".join(corners), "edge": setting.edge}, cautions=("guard", "cradle"),
    )  # fmt: skip


def _freed(ring: RingPlan, lid: LidPlan) -> Iterator[Step]:
    """The lid sawn free, a step for each setting."""
    for number, cut in enumerate(lid.cuts):
        sides = [ring.sides[i] for i in cut.sides]
        some = len(lid.cuts) > 1
        leaning = cut.tilt_deg > SAME_SETTING
        says = ["lid.wider" if leaning else "lid"]
        says += ["lid.opposite" if len(ring.sides) == 4 else "lid.round"]
        says += ["lid.true"] if number == len(lid.cuts) - 1 else []
        own = ids(sides, "side")
        yield make(
            "lid", own, *([together(sides)] if some else []), makes=(f"{name}.lid" for name in own),
            lies="on_side", edge=cut.edge,
            settings=(*tilt(cut.tilt_deg if leaning else 0.0), fence(cut.fence_mm),
                      height(max(side.thickness_mm for side in sides))),
            passes=len(sides), title="lid.some" if some else "lid", says=says,
            numbers={"line_mm": lid.line_mm}, names={"sides": letters(sides), "edge": cut.edge},
            cautions=("guard", "lid"),
        )  # fmt: skip
