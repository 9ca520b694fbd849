"""Set-ups of the maker's tools: the checks, what each wants read, what is in force, what a scale is set to."""

from collections.abc import Sequence
from typing import Final, NamedTuple

from peristyle.core import setups
from peristyle.core.errors import PeristyleError
from peristyle.core.setups import Result
from peristyle.model.design import replace
from peristyle.model.job import Job, SetUp, SetUpKind, Shop
from peristyle.model.tools import Bit, Clamp, DadoSet, Thicknesser, Tool
from peristyle.planning.making.setting import Gauge, Setting
from peristyle.planning.making.step import Step


class Check(NamedTuple):
    """One check: the keys of what is read, in their order, the last as often as there are pieces where `many`; the
    gauge whose settings it corrects, empty where it corrects none; degrees or mm.
    """

    reads: tuple[str, ...]
    many: bool
    gauge: Gauge | None
    unit: str


CHECKS: Final[dict[SetUpKind, Check]] = {
    "tilt_pair": Check(("pair_deg",), False, "tilt", "deg"),
    "tilt_ring": Check(("count", "gap_mm", "face_mm"), False, "tilt", "deg"),
    # Mended at the fence's screw, and then gone: no setting is corrected by it.
    "five_cut": Check(("far_mm", "near_mm", "length_mm", "screw_mm"), False, None, "deg"),
    "stop": Check(("set_mm", "piece_mm"), True, "stop", "mm"),
    "scale": Check(("set_mm", "piece_mm", "set_mm", "piece_mm"), False, "stop", "mm"),
    "kerf": Check(("before_mm", "cuts", "piece_mm"), True, None, "mm"),
    "gauge": Check(("shown_deg",), False, "tilt", "deg"),
    "width": Check(("cut_mm",), True, None, "mm"),
    "runner": Check(("play_mm", "length_mm"), False, None, "deg"),
}
# The first check of what a gauge says: the one that is soonest done.
CHECK_OF: Final[dict[str, SetUpKind]] = {"tilt": "tilt_pair", "swing": "five_cut", "stop": "stop"}
_TOLD: Final = 0.005  # degrees or mm: less is not set apart on a scale


def check_for(shop: Shop, step: Step) -> SetUpKind | None:
    """The check that tells most about a step: of what it is set by; of a groove how wide its cutter cuts."""
    for setting in step.settings:
        if setting.gauge in CHECK_OF:
            return CHECK_OF[setting.gauge]
    if not any(setting.gauge == "fence" for setting in step.settings):
        return None
    tool = next((tool for tool in shop.tools if tool.name == step.tool_name), None)
    return "width" if isinstance(tool, Bit | DadoSet) else "kerf"


def worked_out(kind: SetUpKind, readings: Sequence[float]) -> Result:
    """What readings say. Raises PeristyleError where they are too few, or cannot be."""
    check = CHECKS[kind]
    wanted = len(check.reads)
    if len(readings) < wanted or (len(readings) > wanted and not check.many):
        raise PeristyleError(
            f"Give {wanted}{' or more' if check.many else ''} readings: {', '.join(check.reads)}."
        )
    match kind:
        case "tilt_pair":
            return setups.two_scraps(readings[0])
        case "tilt_ring":
            return setups.ring_of_scraps(round(readings[0]), readings[1], readings[2])
        case "five_cut":
            return setups.five_cuts(*readings[:4])
        case "stop":
            return setups.stop(readings[0], readings[1:])
        case "scale":
            return setups.scale(readings[::2], readings[1::2])
        case "kerf":
            return setups.kerf(readings[0], readings[2:], round(readings[1]))
        case "gauge":
            return setups.zeroed(readings[0])
        case "width":
            return setups.width(readings)
        case "runner":
            return setups.runner(readings[0], readings[1])


def made(kind: SetUpKind, tool: str, readings: Sequence[float], when: str) -> SetUp:
    """A check as it is kept."""
    found = worked_out(kind, readings)
    return SetUp(
        tool=tool, kind=kind, when=when, readings=tuple(readings), off=found.off, spread=found.spread
    )


def kept(job: Job, setup: SetUp) -> Job:
    """The job with a check kept in its copy of the shop, in force from here on: a kerf or a width is the tool's own, a
    spread is how well it repeats.
    """
    shop = replace(job.shop, setups=(*job.shop.setups, setup))
    if setup.kind == "kerf" and not setup.tool:
        shop = replace(shop, saw=replace(shop.saw, kerf_mm=setup.off))
    tools = tuple(_with_width(tool, setup) if tool.name == setup.tool else tool for tool in shop.tools)
    shop = replace(shop, tools=tools)
    if setup.kind == "stop" and setup.spread is not None:
        shop = replace(shop, spread=replace(shop.spread, stop_cut_mm=min(5.0, setup.spread)))
    found: Job = replace(job, shop=shop)
    return found


def _with_width(tool: Tool, setup: SetUp) -> Tool:
    made: Tool = tool
    if setup.kind == "kerf" and not isinstance(tool, Bit | Clamp | DadoSet | Thicknesser):
        made = replace(tool, kerf_mm=setup.off)
    if setup.kind == "width" and isinstance(tool, Bit):
        made = replace(tool, width_mm=setup.off)
    if setup.kind == "width" and isinstance(tool, DadoSet):
        made = replace(tool, least_mm=setup.off)
    return made


def correction(shop: Shop, tool: str, gauge: Gauge, value: float) -> float:
    """How much more the tool's scale is set to than `value` so that it comes true (mm, degrees): by the last checks,
    none counted twice. Scraps show the errors of all they were set with: a gauge zeroed later adds what it moved by.
    A scale's slope is a stop's too: the later of the two says where it stands.
    """
    mine = [one for one in shop.setups if one.tool == tool and CHECKS[one.kind].gauge == gauge]
    return (_tilted if gauge == "tilt" else _stopped)(mine, value)


def _tilted(checks: Sequence[SetUp], _value: float) -> float:
    total = zero = 0.0
    for one in checks:
        if one.kind == "gauge":
            total += one.off - zero
            zero = one.off
        else:
            total = one.off
    return total


def _stopped(checks: Sequence[SetUp], value: float) -> float:
    slope = start = 0.0  # of the scale: it says start + (1 + slope) · what is true
    for one in checks:
        if one.kind == "scale":
            slope, start = one.off / 1000.0, 0.0
            if len(one.readings) == 4 and one.readings[1] != one.readings[3]:  # as the check itself has them
                slope, start = setups.scale_line(one.readings[::2], one.readings[1::2])
        else:
            start = one.off - slope * (one.readings[0] - one.off if one.readings else 0.0)
    return start + slope * value


def shown(shop: Shop, step: Step, setting: Setting) -> float | None:
    """What the tool's scale is set to so that a setting comes true; None where it is the setting itself."""
    if step.tool not in ("table_saw", "miter_saw"):
        return None
    tool = "" if step.tool == "table_saw" and not step.tool_name else step.tool_name
    total = correction(shop, tool, setting.gauge, setting.value)
    return setting.value + total if abs(total) > _TOLD else None


def as_set(shop: Shop, steps: Sequence[Step]) -> tuple[Step, ...]:
    """The steps with what the scales are set to, where a check says other than they read."""
    if not shop.setups:
        return tuple(steps)
    found = []
    for step in steps:
        settings = tuple(replace(one, shows=shown(shop, step, one)) for one in step.settings)
        found.append(replace(step, settings=settings) if settings != step.settings else step)
    return tuple(found)
