"""Stretches of one long board, straightened from photographs laid side by side, joined where they overlap; and uneven
light taken out for comparing wood, never for showing it.
"""

import math
from collections.abc import Sequence
from typing import Final, NamedTuple

import cv2
import numpy as np
from numpy.typing import NDArray

from peristyle.core.errors import PeristyleError
from peristyle.wood.outline import lens_of, snapped
from peristyle.wood.photo import Photo, Points, straightened
from peristyle.wood.pictures import MOST_GIVEN_PIXELS, Seen

Pixels = NDArray[np.uint8]

LEAST_OVERLAP_MM: Final = 25.0
_UP_MM: Final = 3.0  # how far one stretch may lie higher than the other
_ALIKE: Final = 0.35  # a lower correlation of the two is chance


class Joined(NamedTuple):
    """The whole board, (rows, columns, 3), with px per mm, its length, and how far each stretch overlaps the next (mm);
    `alike` is the least correlation at a joint, 1 where both show the same wood.
    """

    pixels: Pixels
    px_per_mm: float
    length_mm: float
    overlaps_mm: tuple[float, ...]
    alike: float


def joined(parts: Sequence[tuple[Pixels, float]], total_mm: float | None = None) -> Joined:
    """Stretches in their order from the board's start, each with its px per mm; they show the board's whole width.

    `total_mm` is the board's length as measured, None where that is not known: it tells where to look for the overlaps.
    Raises PeristyleError where two neighbours show no wood in common.
    """
    lengths = [pixels.shape[1] / scale for pixels, scale in parts]
    wide = parts[0][0].shape[0] / parts[0][1]
    scale = min(*(scale for _pixels, scale in parts), math.sqrt(MOST_GIVEN_PIXELS / (sum(lengths) * wide)))
    rows = max(8, round(wide * scale))
    alike = [
        cv2.resize(pixels, (max(8, round(length * scale)), rows), interpolation=cv2.INTER_AREA)
        for (pixels, _scale), length in zip(parts, lengths, strict=True)
    ]
    guess = (sum(lengths) - total_mm) / (len(parts) - 1) if total_mm and len(parts) > 1 else None
    whole, overlaps, least = alike[0].astype(np.float32), [], 1.0
    for number, after in enumerate(alike[1:], 2):
        found = _overlap(whole, after.astype(np.float32), scale, guess)
        if found is None:
            raise PeristyleError(
                f"Photographs {number - 1} and {number} show no wood in common: let each overlap the next by 10 cm or "
                "more, and give them in order from the board's start."
            )
        over, up, like = found
        least = min(least, like)
        overlaps.append(over / scale)
        whole = _put_together(whole, after.astype(np.float32), over, up)
    made = np.clip(np.rint(whole), 0, 255).astype(np.uint8)
    return Joined(made, scale, made.shape[1] / scale, tuple(overlaps), least)


class Taken(NamedTuple):
    """A photograph of a stretch of a board: its four corners there, and how long it is (mm)."""

    photo: Photo
    corners: Points
    length_mm: float


def developed(taken: Sequence[Taken], width_mm: float, total_mm: float | None = None) -> Joined:
    """A board's face from photographs of it: each made straight, its lens taken out, then joined in their order.

    Raises PeristyleError where corners make no outline or neighbours do not overlap.
    """
    parts = []
    for one in taken:
        corners = snapped(one.photo, one.corners)
        parts.append(straightened(one.photo, corners, one.length_mm, width_mm, lens_of(one.photo, corners)))
    if len(parts) == 1:
        pixels, scale = parts[0]
        return Joined(pixels, scale, taken[0].length_mm, (), 1.0)
    return joined(parts, total_mm)


def _overlap(
    before: NDArray[np.float32], after: NDArray[np.float32], scale: float, guess_mm: float | None
) -> tuple[float, float, float] | None:
    """By how many points the second overlaps the first, how far it lies lower, and how alike they are there."""
    reach = min(before.shape[1], after.shape[1])
    if guess_mm is not None and guess_mm * scale > 0:
        slack = max(25.0, 0.3 * guess_mm) * scale
        low, high = max(LEAST_OVERLAP_MM * scale, guess_mm * scale - slack), guess_mm * scale + slack
    else:
        low, high = LEAST_OVERLAP_MM * scale, 0.9 * reach
    high = min(high, reach - 2.0)
    if high <= low:
        return None
    up = max(1, round(_UP_MM * scale))
    wide = max(8, round(low * 0.9))  # what is compared: the end of the first, as much as surely is in both
    one, two = (
        _fine(before[:, -round(high) - 2 * wide :], scale),
        _fine(after[:, : round(high) + wide], scale),
    )
    pattern = one[up:-up, -wide:]
    if pattern.shape[0] < 8 or two.shape[1] <= wide:
        return None
    match = np.asarray(cv2.matchTemplate(two, pattern, cv2.TM_CCOEFF_NORMED), dtype=np.float32)
    match = match[:, max(0, round(low) - wide) :]
    offset = max(0, round(low) - wide)
    if match.size == 0:
        return None
    y, x = np.unravel_index(int(np.argmax(match)), match.shape)
    like = float(match[y, x])
    if like < _ALIKE:
        return None
    px = _between(match[y, :], int(x)) + offset
    py = _between(match[:, x], int(y))
    return px + wide, py - up, like


def _between(values: NDArray[np.float32], k: int) -> float:
    """Where a peak lies between points."""
    if not 0 < k < len(values) - 1:
        return float(k)
    low, top, high = (float(v) for v in values[k - 1 : k + 2])
    bend = low - 2 * top + high
    return k + (0.5 * (low - high) / bend if bend < -1e-12 else 0.0)


def _fine(pixels: NDArray[np.float32], scale: float) -> NDArray[np.float32]:
    """The figure without the light: the logarithm of lightness less what changes slowly."""
    light = np.log(pixels @ np.array([0.30, 0.59, 0.11], dtype=np.float32) + 4.0)
    made: NDArray[np.float32] = light - cv2.GaussianBlur(light, (0, 0), 5.0 * scale)
    return made


def _put_together(
    before: NDArray[np.float32], after: NDArray[np.float32], over: float, up: float
) -> NDArray[np.float32]:
    """One stretch after the other, the light of the second brought to that of the first, faded in over the overlap."""
    start = before.shape[1] - over
    columns = before.shape[1] + after.shape[1] - round(over)
    rows = before.shape[0]
    way = np.array([[1.0, 0.0, start], [0.0, 1.0, -up]])
    moved = cv2.warpAffine(
        after, way, (columns, rows), flags=cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE
    )
    first, last = math.ceil(start), before.shape[1]
    # Brightness of both where both are, channel by channel.
    gain = (before[:, first:last].mean(axis=(0, 1)) + 1.0) / (moved[:, first:last].mean(axis=(0, 1)) + 1.0)
    fade = np.ones(columns, dtype=np.float32)
    fade[:first] = 0.0
    fade[first:last] = np.linspace(0.0, 1.0, last - first, dtype=np.float32)
    # The gain fades out along the second stretch: its far end keeps its own light.
    out = np.clip((np.arange(columns) - last) / max(1, columns - last), 0.0, 1.0).astype(np.float32)
    held = gain[None, None, :] ** (1.0 - out)[None, :, None]
    whole = np.zeros((rows, columns, 3), dtype=np.float32)
    whole[:, :last] = before
    made: NDArray[np.float32] = whole * (1 - fade)[None, :, None] + moved * held * fade[None, :, None]
    return made.astype(np.float32)


def evened(seen: Seen) -> Seen:
    """A picture without the slow changes of a photograph's light, for comparing wood."""
    small = cv2.resize(seen.pixels, (min(160, seen.pixels.shape[1]), min(24, seen.pixels.shape[0])),
                       interpolation=cv2.INTER_AREA).astype(np.float32)  # fmt: skip
    logs = np.log(small @ np.array([0.30, 0.59, 0.11], dtype=np.float32) + 4.0)
    rows, columns = logs.shape
    fitted = _slow(rows, columns) @ np.linalg.lstsq(_slow(rows, columns), logs.reshape(-1), rcond=None)[0]
    gain = np.exp(fitted.mean() - fitted).reshape(rows, columns).astype(np.float32)
    whole = cv2.resize(gain, (seen.pixels.shape[1], seen.pixels.shape[0]), interpolation=cv2.INTER_CUBIC)
    made = np.clip(seen.pixels * whole[..., None], 0, 255).astype(np.uint8)
    return Seen(made, seen.px_per_mm)


def _slow(rows: int, columns: int) -> NDArray[np.float64]:
    """Surfaces that bend slowly over a picture, along it and across it each by itself: where both went together, wood's
    own slow changes would be taken for light.
    """
    v, u = np.mgrid[-1 : 1 : rows * 1j, -1 : 1 : columns * 1j]
    terms = [np.ones_like(u), u, u**2, u**3, u**4, v, v**2]
    return np.stack([term.reshape(-1) for term in terms], axis=1)
