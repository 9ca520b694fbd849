"""Hardware chosen, of the usual sizes or as the maker keeps it in the shop."""

import math
from typing import Any, Final, get_args

from peristyle.core.lengths import MM_PER_INCH
from peristyle.model import section_edits
from peristyle.model.design import Brackets, Flat, Gable, Hinges, Latch, Magnets, Split, replace
from peristyle.model.hardware import HingePattern
from peristyle.model.job import Job, decide, decided
from peristyle.model.kept import HARDWARE, HardwareName, kept_as, name_of, taken
from peristyle.model.kept_addresses import with_kept
from peristyle.model.starts import begun

NONE: Final = "none"
_KEPT: Final = "kept:"
_UNDER_SCREW_MM: Final = 2.0  # of a board left over a screw's point (common practice)
_SHORT_SCREW_MM: Final = 3.0
_PATTERNS: Final = {"butt": "butt hinges", "quadrant": "quadrant hinges", "barrel": "concealed hinges"}
_ROWS: Final = {"bottom": "brackets below", "top": "brackets above", "both": "brackets both"}


def ways(job: Job, what: HardwareName) -> list[tuple[str, str]]:
    """What a box may have of it, (key, words): none, each usual kind, and each that is kept in the shop."""
    usual = {
        "hinges": _PATTERNS, "magnets": {"usual": "magnets"}, "latch": {"usual": "latch"}, "brackets": _ROWS,
    }.get(what, {})  # fmt: skip
    return [(NONE, f"no {what}"), *usual.items(), *kept_ways(job, what)]


def kept_ways(job: Job, what: HardwareName) -> list[tuple[str, str]]:
    """What of it is kept in the shop, (key, words)."""
    return [(f"{_KEPT}{one.name}", one.name) for one in job.shop.hardware if one.what == what]


def with_handle(job: Job, key: str) -> Job:
    """A handle of a kind, or one that is kept in the shop; none of `none`."""
    return with_way(job, "handle", key) if key.startswith(_KEPT) else section_edits.with_handle(job, key)


def way(job: Job, what: HardwareName) -> str:
    """Which of these ways it is now."""
    part = decided(job, what)
    if part is None:
        return NONE
    name = name_of(job.shop.hardware, what, part)
    if name is not None:
        return f"{_KEPT}{name}"
    return str(
        part.pattern if isinstance(part, Hinges) else part.at if isinstance(part, Brackets) else "usual"
    )


def with_way(job: Job, what: HardwareName, key: str) -> Job:
    """The box with hardware in one of its ways: sizes stay as they are where only its kind changes."""
    now: Any = decided(job, what)
    if key == NONE:
        return decide(job, what, None)
    if key.startswith(_KEPT):
        one = next(
            one for one in job.shop.hardware if one.what == what and one.name == key.removeprefix(_KEPT)
        )
        return decide(job, what, taken(one, now))
    made: Any = now or begun(HARDWARE[what], job.design.units)
    if isinstance(made, Hinges) and key in get_args(HingePattern):
        made = _of_pattern(job, made, key) if now is None or made.pattern != key else made
    if isinstance(made, Brackets):
        made = replace(made, at=key)
    return decide(job, what, made)


def _of_pattern(job: Job, own: Hinges, pattern: Any) -> Hinges:
    """Hinges of a pattern: concealed ones in the middle of the wall; in a thin lid with screws that stay in it."""
    made: Hinges = replace(own, pattern=pattern)
    cover, step = job.design.section.cover, _step_mm(job)
    if isinstance(cover, Split | Gable):  # its axis over the face, its leaves in the board's edge
        out = max(made.out_mm, math.ceil(made.barrel_mm / 2 / step) * step)
        deep = math.floor((cover.thickness_mm - _UNDER_SCREW_MM) / step) * step
        made = replace(made, out_mm=out, leaf_mm=max(step, min(made.leaf_mm, deep + out)))
    if isinstance(cover, Flat):
        most = math.floor((cover.thickness_mm - made.thick_mm - _UNDER_SCREW_MM) / step) * step
        made = replace(made, screw_mm=max(_SHORT_SCREW_MM, min(made.screw_mm, most)))
    if pattern == "barrel":
        middle = round(min(job.design.form.thicknesses_mm) / 2 / step) * step
        made = replace(made, in_mm=max(step, middle))
    return made


def _step_mm(job: Job) -> float:
    """What sizes are rounded to: half a millimetre, or a thirty-second of an inch."""
    return MM_PER_INCH / 32 if job.design.units == "in" else 0.5


def with_count(job: Job, what: HardwareName, count: int) -> Job:
    """So many of them."""
    part: Any = decided(job, what)
    return decide(job, what, replace(part, count=count)) if counted(job, what) else job


def counted(job: Job, what: HardwareName) -> int:
    """How many there are, 0 where they are not counted: brackets are at every corner, quadrants a pair."""
    part = decided(job, what)
    if isinstance(part, Hinges) and part.pattern == "quadrant":
        return 0
    return part.count if isinstance(part, Hinges | Magnets | Latch) else 0


def keep(job: Job, what: HardwareName, name: str) -> Job:
    """What the box has, kept in the shop under a name; a name there is already is given to it anew."""
    part: Any = decided(job, what)
    if part is None:
        return job
    rest = tuple(one for one in job.shop.hardware if one.name != name)
    return with_kept(job, (*rest, kept_as(name, what, part)))


def to_keep(job: Job) -> list[HardwareName]:
    """What the box has that is kept under no name yet."""
    parts = {what: decided(job, what) for what in HARDWARE}
    return [what for what, part in parts.items() if part and name_of(job.shop.hardware, what, part) is None]
