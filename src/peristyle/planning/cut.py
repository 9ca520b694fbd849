"""One operation at one setting, and what all operations share."""

import itertools
from collections.abc import Sequence
from typing import Final, Literal

from msgspec import Struct

from peristyle.core.lengths import MM_PER_INCH, Format

Operation = Literal[
    "plane", "rip", "groove", "trim", "crosscut", "bevel", "dado", "dry_fit", "segment", "segment_glue",
    "panel", "glue", "keys", "lid", "divider", "halve", "liner_fit",
]  # fmt: skip
Part = Literal["box", "liner", "divider", "segment"]
End = Literal["start", "end", "both"]

_ALIKE: Final = 1e-4  # mm or degrees: settings nearer than this are made as one
SAME_SETTING: Final = 0.005  # mm or degrees
SHORT_MM: Final = 300.0  # under this a piece goes on a sled (common practice)


class Cut(Struct, frozen=True):
    """One operation at one setting.

    `tilt_deg` is the blade from square, `gauge_deg` the swing from a square crosscut, `stop_mm` from the stop
    to the blade at the face that lies up, `fence_mm` from the fence to the near side of the blade (one for each
    pass), `depth_mm` the height of the blade. `start_mm` is from a square blank's start to where the start's
    cut meets its `edge`. None where a setting has no part in it. A groove's tilt is positive where the blade
    leans away from the fence; `edge` is the edge of the work that lies against the fence or the gauge.
    `swings_deg` has the swing for each end, positive where the cut leans to the right as it goes away from the
    maker, that edge toward him. `sides` are numbers of sides in the order they are cut, of the liner where
    `part` says so; `items` those of the plan's dividers or panels that are cut.
    """

    number: int
    operation: Operation
    title: str
    part: Part = "box"
    sides: tuple[int, ...] = ()
    items: tuple[int, ...] = ()
    end: End | None = None
    tilt_deg: float | None = None
    gauge_deg: float | None = None
    stop_mm: float | None = None
    start_mm: float | None = None
    fences_mm: tuple[float, ...] = ()
    depth_mm: float | None = None
    on_end: bool = False
    edge: Literal["bottom", "top"] | None = None
    cradle_deg: float | None = None
    swings_deg: tuple[tuple[str, float], ...] = ()
    panels: tuple[str, ...] = ()
    corners: tuple[str, ...] = ()
    face_up: Literal["show", "inside"] = "show"
    count: int = 1
    setting: str = ""
    how: str = ""
    cautions: tuple[str, ...] = ()


def same(*values: float) -> tuple[int, ...]:
    """A key that is the same for settings nobody can tell apart at the saw."""
    return tuple([round(v / _ALIKE) for v in values])


_NUDGE_MM: Final = 0.25  # less between two passes is finer than a fence is set: nudged, and tried on scrap


def fences_in_words(fences_mm: Sequence[float], fmt: Format) -> str:
    """The fence for each pass; where two lie nearer than a fence can be set, the first and how far to nudge it."""
    steps = [abs(b - a) for a, b in itertools.pairwise(fences_mm)]
    shown = [fmt.length(fence) for fence in fences_mm]
    if not steps or (min(steps) >= _NUDGE_MM and len(set(shown)) == len(shown)):
        return f"fence {' · '.join(shown)} {fmt.units}"
    nudge = (
        f"{fmt.number(steps[0] / MM_PER_INCH, 3)} in"
        if fmt.units == "in"
        else fmt.length(steps[0], unit=True)
    )
    times = "once" if len(steps) == 1 else f"{len(steps)} times"
    return f"fence {shown[0]} {fmt.units}, then nudged {nudge} further {times}, proved on scrap"


def with_short(cautions: tuple[str, ...], length_mm: float) -> tuple[str, ...]:
    """The cautions of a step, with that for short pieces where it applies, and the one that ends every list."""
    short = ("short_piece",) if length_mm < SHORT_MM else ()
    return (*cautions, *short, "manual")
