"""The closed box at the saw: which panels are on before its lid is sawn off, and what then rides on the fence."""

from collections.abc import Iterator, Sequence

from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import replace
from peristyle.planning.making.kind import Settled
from peristyle.planning.making.setting import SAME_SETTING
from peristyle.planning.making.step import Step
from peristyle.planning.section.grooves import GroovePlan
from peristyle.planning.section.levels import PanelPlan


def goes_on_first(plan: Settled, panel: PanelPlan, groove: GroovePlan) -> bool:
    """Whether a panel set from outside is on before the lid is sawn off.

    It stays off until then where the closed box could not lie flat on its sides (the panel overhangs them), and
    where it would lie between the fence and key slots that are cut later.
    """
    low, high = groove.rests_mm, groove.rests_mm + panel.thickness_mm
    if plan.keys.keys and plan.job.work.keys == "after_lid" and _past_edge(plan, low, high):
        return False
    return all(
        x * slab.ux + y * slab.uy <= slab.outer_mm(z) + DEFAULT.length_mm
        for slab in plan.ring.slabs
        for x, y in panel.outline
        for z in (low, high)
    )


def _past_edge(plan: Settled, low_mm: float, high_mm: float) -> bool:
    """Whether a panel at these levels stands proud of the bottom or the top edge of the sides."""
    height = plan.job.design.form.height_mm
    return low_mm < -DEFAULT.length_mm or high_mm > height + DEFAULT.length_mm


def riding(plan: Settled, steps: Sequence[Step]) -> Iterator[Step]:
    """The steps with the lid's fence set for the panels that are on by then, whatever the maker's order."""
    on: list[str] = []
    for step in steps:
        if step.operation == "panel_set":
            on += [piece.removeprefix("panel.") for piece in step.pieces]
        yield _with_panels(plan, step, on) if step.operation == "lid" else step


def _with_panels(plan: Settled, step: Step, on: Sequence[str]) -> Step:
    """A cut of the lid, the box's edge kept off the fence by panels that stand proud of that edge."""
    fence_at, level = step.edge or "bottom", 0.0
    more = 0.0
    sides = [side for side in plan.ring.sides if f"side.{side.name}" in step.pieces]
    slab = plan.ring.slabs[sides[0].index]
    up = -1.0 if fence_at == "bottom" else 1.0
    edge = 0.0 if fence_at == "bottom" else plan.job.design.form.height_mm
    from_edge = up * (slab.outer_mm(edge) * slab.sin_slope + edge * slab.cos_slope)
    for panel in plan.section.panels:
        groove = plan.section.groove(panel.name)
        if panel.name not in on or groove is None:
            continue
        for z in (groove.rests_mm, groove.rests_mm + panel.thickness_mm):
            for x, y in panel.outline:
                reach = up * ((x * slab.ux + y * slab.uy) * slab.sin_slope + z * slab.cos_slope)
                more = max(more, reach - from_edge)
                level = max(level, up * (z - edge))
    if more < SAME_SETTING:
        return step
    settings = tuple(
        replace(one, value=one.value + more) if one.gauge == "fence" else one for one in step.settings
    )
    numbers = step.numbers | {
        key: step.numbers[key] + level for key in ("line_mm", "low_mm") if key in step.numbers and up < 0
    }
    says = (*step.says, "lid.panel_on.hand" if step.tool == "hand_saw" else "lid.panel_on")
    return replace(step, settings=settings, numbers=numbers | {"panel_mm": level}, says=says)
