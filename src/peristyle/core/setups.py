"""What test pieces say of a tool: the formulas of set-ups. Angles in degrees, lengths in mm.

`off` is always what the scale says more than is true: to get a value, the scale is set to that value and `off` more.
"""

import math
import statistics
from collections.abc import Sequence
from typing import NamedTuple

from peristyle.core.errors import PeristyleError


class Result(NamedTuple):
    """What a check found: how much more the scale says than is true, or, of a kerf or a width, what is true; the spread
    of several readings (one standard deviation); how far to move a fence at its screw, where that mends it.
    """

    off: float
    spread: float | None = None
    move_mm: float | None = None


def two_scraps(pair_deg: float) -> Result:
    """Two scraps cut at 45° and held together: the angle they make, instead of 90°. It shows twice the error.

    Source: sums of two bevels (common practice): each is (180 − pair)/2, so the blade leans (90 − pair)/2 too much.
    """
    _within("angle of the pair", pair_deg, 60.0, 120.0, "°")
    return Result(-(90.0 - pair_deg) / 2)


def ring_of_scraps(count: int, gap_mm: float, face_mm: float) -> Result:
    """A ring of n scraps, all joints but the last tight: the gap inside at that one, below 0 where it is outside.

    Source: 2n bevels of one error (common practice); the gap over the joint's face is their sum.
    """
    if not 3 <= count <= 60:
        raise PeristyleError(f"A ring has 3 to 60 scraps, not {count}.")
    _within("joint face", face_mm, 0.1, 1000.0)
    return Result(-math.degrees(gap_mm / face_mm) / (2 * count))


def five_cuts(far_mm: float, near_mm: float, length_mm: float, screw_mm: float) -> Result:
    """Five cuts round a board, each with the last one's edge at the fence; then the strip of the fifth is measured, at
    its far end and at the fence. `screw_mm` from the fence's pivot to the screw it is moved at.

    Source: four turns add the error up four times, η = (near − far)/(4·length) (common practice); above 0 the corner
    left of the blade is more than 90°: the fence's end goes forward by η·screw.
    """
    _within("length of the strip", length_mm, 1.0, 10_000.0)
    angle = (near_mm - far_mm) / (4 * length_mm)
    return Result(math.degrees(angle), move_mm=angle * screw_mm)


def stop(set_mm: float, pieces_mm: Sequence[float]) -> Result:
    """Pieces cut at one stop: how much longer the scale says than they are, and how well it repeats."""
    if not pieces_mm:
        raise PeristyleError("Give the length of one piece at least.")
    spread = statistics.stdev(pieces_mm) if len(pieces_mm) > 1 else None
    return Result(set_mm - statistics.fmean(pieces_mm), spread)


def scale(set_mm: Sequence[float], pieces_mm: Sequence[float]) -> Result:
    """Two settings or more and what they cut: how much more the scale says for 1000 mm. Source: a line's slope."""
    if len(set_mm) < 2 or len(set_mm) != len(pieces_mm):
        raise PeristyleError("Give two settings at least, and a piece for each.")
    if max(set_mm) - min(set_mm) < 1.0:
        raise PeristyleError("The settings must lie apart, or the scale is not seen.")
    slope, _start = scale_line(set_mm, pieces_mm)
    return Result(slope * 1000.0)


def scale_line(set_mm: Sequence[float], pieces_mm: Sequence[float]) -> tuple[float, float]:
    """What a length scale says too much: for every mm, and at 0. Source: a line by least squares."""
    line = statistics.linear_regression(pieces_mm, set_mm)
    return line.slope - 1.0, line.intercept


def kerf(before_mm: float, pieces_mm: Sequence[float], cuts: int) -> Result:
    """A board cut into pieces: what is gone, by the number of cuts, is the kerf."""
    if cuts < 1:
        raise PeristyleError("A kerf wants one cut at least.")
    taken = (before_mm - math.fsum(pieces_mm)) / cuts
    _within("kerf", taken, 0.05, 50.0)
    return Result(taken)


def width(cut_mm: Sequence[float]) -> Result:
    """Grooves as a bit or a dado set cuts them."""
    if not cut_mm:
        raise PeristyleError("Give the width of one groove at least.")
    return Result(statistics.fmean(cut_mm), statistics.stdev(cut_mm) if len(cut_mm) > 1 else None)


def zeroed(shown_deg: float) -> Result:
    """A gauge laid on the table: what it shows is what it says too much."""
    return Result(shown_deg)


def runner(play_mm: float, length_mm: float) -> Result:
    """The play of a runner in its slot: the angle it lets a sled turn by, either way of the middle."""
    _within("length of the runner", length_mm, 1.0, 5000.0)
    return Result(0.0, math.degrees(math.atan2(play_mm, length_mm)) / 2)


def _within(what: str, value: float, low: float, high: float, unit: str = "mm") -> None:
    if not low <= value <= high:
        raise PeristyleError(f"The {what} cannot be {value:g} {unit}: measure it again.")
