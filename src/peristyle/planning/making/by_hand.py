"""Steps in a shop without a table saw: on the machine that takes its place, or by hand to a line."""

from typing import Final

from peristyle.model.design import replace
from peristyle.model.job import Job
from peristyle.model.tools import BandSaw, HandSaw, MiterSaw
from peristyle.planning.making.step import Step
from peristyle.reference.cautions import cautions_of

_HANDS: Final = ("hand_saw", "plow_plane")
_ACROSS: Final = ("divider", "foot", "block", "segment")  # crosscuts: a miter saw does them
# What is said of a fence, a blade or a table, and what is said by hand in its place; nothing where that is empty.
_SAYS: Final[dict[str, str]] = {
    "rip.leaning": "rip.planed",
    "rip.leaning.table": "rip.planed",
    "rip.on_edge": "rip.planed",
    "rip.band_saw": "",
    "groove": "groove.plow",
    "groove.arris": "groove.plow",
    "groove.across": "groove.knife",
    "groove.sides": "groove.each",
    "groove.planed": "groove.each",
    "groove.turned": "",
    "groove.bit": "",
    "rabbet.at_once": "rabbet.plow",
    "rabbet.passes": "rabbet.plow",
    "rabbet.shoulder": "rabbet.plow",
    "rabbet.cheek": "rabbet.plow",
    "rabbet.sides": "groove.each",
    "dado": "dado.hand",
    "dado.passes": "dado.hand",
    "spline_groove": "spline_groove.hand",
    "spline_groove.unlike": "",
    "spline_groove.once": "",
    "spline_groove.passes": "",
    "spline_groove.bit": "",
    "spline_groove.blade": "",
    "spline_groove.low": "spline_groove.short",
    "spline_groove.high": "spline_groove.short",
    "spline_groove.both": "spline_groove.short",
    "crosscut.both_hands": "crosscut.leans",
    "crosscut.start_hand": "crosscut.leans.start",
    "crosscut.end_hand": "crosscut.leans.end",
    "crosscut.any": "crosscut.alike",
    "crosscut.again": "crosscut.alike",
    "heights": "crosscut.alike",
    "corner_block.edge": "corner_block.hand",
    "corner_block.flat": "corner_block.hand",
    "key_stock": "key_stock.hand",
    "strip_bevel.start": "strip_bevel.hand",
    "strip_bevel.creep": "strip_bevel.hand",
    "strip_bevel.end": "strip_bevel.hand",
    "lower.sliding": "lower.hand",
    "lower.eaves": "lower.eaves.hand",
    "gable": "gable.hand",
}
_FIRST: Final[dict[str, str]] = {  # said before the rest
    "rip": "by_line.width",
    "strips": "by_line.width",
    "crosscut": "by_line.length",
    "heights": "by_line.length",
    "trim": "by_line.end",
}


def in_this_shop(job: Job, step: Step) -> Step:
    """The step as a shop does it that has no table saw; as it is where it has one."""
    if job.shop.saw.table_saw:
        return step
    moved = _elsewhere(job, step) if step.tool == "table_saw" else step
    if moved.tool == "band_saw":
        return replace(moved, says=tuple(_ON_BAND_SAW.get(key, key) for key in moved.says))
    if moved.tool not in _HANDS or moved.operation in ("keys", "lid", "resaw", "key_flush"):
        return moved
    first = _FIRST.get(moved.operation)
    told = (first or "", *(_SAYS.get(key, key) for key in moved.says))
    by_line = ("by_line",) if step.tool == "table_saw" else ()
    made: Step = replace(moved, says=tuple(dict.fromkeys((*(key for key in told if key), *by_line))))
    return made


def _elsewhere(job: Job, step: Step) -> Step:
    """On the saw that takes the table saw's place, with that one's cautions."""
    wanted = (MiterSaw, BandSaw, HandSaw) if step.operation in _ACROSS else (BandSaw, HandSaw)
    own = next((tool for kind in wanted for tool in job.shop.tools if isinstance(tool, kind)), None)
    tool = (
        "miter_saw" if isinstance(own, MiterSaw) else "band_saw" if isinstance(own, BandSaw) else "hand_saw"
    )
    short = "short_piece" in step.cautions
    tilted = any(one.gauge == "tilt" for one in step.settings)
    told = cautions_of(step.operation, tool, tilted=tilted, short=short and tool == "miter_saw")
    says = (*step.says, "by_line") if tool == "band_saw" else step.says
    made: Step = replace(step, tool=tool, tool_name=own.name if own else "", cautions=told, says=says)
    return made


_ON_BAND_SAW: Final[dict[str, str]] = {
    key: new for key, new in _SAYS.items() if key.startswith(("strip_bevel", "gable", "lower", "key_stock"))
}
