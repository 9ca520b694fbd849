"""Which tools of the shop can do a step, and which cannot and why."""

from collections.abc import Iterator
from typing import Final, NamedTuple

from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import replace
from peristyle.model.job import Job
from peristyle.model.tools import CAN, BandSaw, Clamp, HandSaw, Thicknesser, Tool, Use, can
from peristyle.planning.cutters import Cutter, at_hand, cutter, of_tool
from peristyle.planning.making.parts.lid import least_across
from peristyle.planning.making.parts.sides import clamp_trouble
from peristyle.planning.making.step import Step
from peristyle.planning.plan import Plan

USES: Final[dict[str, Use]] = {
    "plane": "plane", "thin": "plane", "resaw": "resaw",
    "rip": "rip", "strips": "rip", "heights": "crosscut", "key_stock": "rip",
    "trim": "crosscut", "crosscut": "crosscut", "groove": "groove",
    "rabbet": "rabbet", "dado": "dado", "halve": "dado", "keys": "slot", "lid": "lid", "glue": "glue",
    "spline_groove": "spline", "segment_groove": "spline", "spline_stock": "rip", "corner_block": "rip",
}  # fmt: skip
_BY_WIDTH: Final = (
    "groove",
    "dado",
    "slot",
    "spline",
)  # a rabbet takes any width: what is too wide is buried in the fence


class Choice(NamedTuple):
    """A tool offered for a step: its name (none is the saw, a plane, tape), whether it can, and the key of why."""

    name: str
    can: bool
    why: str
    numbers: dict[str, float]


def choices(plan: Plan, step: Step) -> tuple[Choice, ...]:
    """What could do a step, in the order makers would choose: what the shop has first, then the rest of its kind."""
    use = USES.get(step.operation)
    if use is None:
        return ()
    return tuple(_choices(plan, step, use))


def _choices(plan: Plan, step: Step, use: Use) -> Iterator[Choice]:
    job = plan.job
    bare = cutter(_without(plan, use), use) if use not in ("plane", "glue") else None
    yield _judged(plan, step, use, "", bare, None)
    known = [tool for tool in job.shop.tools if can(tool, use) and at_hand(job, tool)]
    for tool in sorted(known, key=lambda tool: CAN[use].index(type(tool))):
        made = None if isinstance(tool, Thicknesser | Clamp) else of_tool(tool)
        yield _judged(plan, step, use, tool.name, made, tool)


def _without(plan: Plan, use: Use) -> Job:
    """The job with the saw, or nothing, for this use."""
    shop = plan.job.shop
    job: Job = replace(plan.job, shop=replace(shop, uses=replace(shop.uses, **{use: ""})))
    return job


def _judged(plan: Plan, step: Step, use: Use, name: str, own: Cutter | None, tool: Tool | None) -> Choice:
    """What is to be said of one tool for one step."""
    if isinstance(tool, Thicknesser):
        shortest = min(
            (piece.length_mm for piece in plan.pieces if piece.id in step.pieces), default=tool.least_mm
        )
        short = shortest < tool.least_mm
        return Choice(
            name, True, "carrier" if short else "pass", {"pass_mm": tool.pass_mm, "least_mm": tool.least_mm}
        )
    if isinstance(tool, Clamp):
        trouble = clamp_trouble(plan.ring, tool)
        return Choice(name, not trouble, trouble[0] if trouble else tool.holds, trouble[1] if trouble else {})
    if own is None:
        return Choice(name, True, "tape" if use == "glue" else "by_hand", {})
    if isinstance(tool, BandSaw) and use == "resaw" and plan.job.stock.board.width_mm > tool.high_mm:
        return Choice(name, False, "too_high", {"across_mm": plan.job.stock.board.width_mm})
    if use == "resaw" and isinstance(tool, HandSaw):
        return Choice(name, True, "by_hand", {})
    if isinstance(tool, BandSaw) and use == "lid":
        across = least_across(plan.ring)
        if across > tool.high_mm:
            return Choice(name, False, "too_high", {"across_mm": across})
    wide = step.numbers.get("wide_mm")
    if use not in _BY_WIDTH or wide is None:
        return Choice(name, True, "kerf", {"kerf_mm": own.least_mm})
    if own.least_mm > wide + DEFAULT.length_mm:
        return Choice(name, False, "too_wide", {"over_mm": own.least_mm - wide})
    if not own.tilts and step.value("tilt"):
        return Choice(name, False, "upright", {})
    if isinstance(tool, HandSaw):
        return Choice(name, True, "pared", {})
    passes = -(-(wide - DEFAULT.length_mm) // own.takes(wide))
    return Choice(name, True, "passes", {"passes": float(max(1, passes))})
