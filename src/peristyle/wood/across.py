"""The same for strips that are ripped from a board's width, their grain up the box: cuts run along the board.

An edge is a column of wood as long as the board; a corner sees as much of it as the sides are high, from wherever they
lie. Single lines seldom outlast a cut along the grain: what is seen to meet or not is the tone of the wood beside it,
and, far less, how light it is.
"""

from typing import Final, NamedTuple

import numpy as np
from numpy.typing import ArrayLike, NDArray

from peristyle.wood.match import (
    COLOUR_ROW_MM,
    ROW_MM,
    Floats,
    Scale,
    beside,
    light_and_tones,
    resampled,
    spread,
)
from peristyle.wood.pictures import Seen

STEP_MM: Final = 0.5  # how finely places across a board are told apart
_BROAD_MM: Final = 10.0  # how much of the board beside a cut is looked at
# How much tone and lightness count, of that much wood and of what is next to the cut: tried out on grown boards, by
# how surely two edges with only a cut's loss between them are told from any two.
_TONE, _NEAR_TONE, _LIGHT, _NEAR_LIGHT = 1.0, 0.3, 0.05, 0.03
_PLACES: Final = 40  # cuts that the scale of scores is made from, and lengths of each
_LENGTHS: Final = 12


class Column(NamedTuple):
    """The wood beside a cut along the board, a row of numbers for every mm of its length."""

    told: Floats

    @property
    def rows(self) -> int:
        """How many there are."""
        return len(self.told)

    def moved(self, by: int) -> "Column":
        """Each row taken from so many rows further on, held within the board."""
        return Column(self.told[np.clip(np.arange(self.rows) + by, 0, self.rows - 1)]) if by else self


def turned(seen: Seen) -> Seen:
    """A board's picture with its width to the right and its start at the top: the sides stand upright in it."""
    return Seen(seen.pixels.transpose(1, 0, 2)[:, ::-1], seen.px_per_mm)


def column(upright: Seen, place_mm: float, *, before: bool) -> Column:
    """The wood just before a cut so far up the board's width, or just after it; of a picture that is `turned`."""
    scale, pixels = upright.px_per_mm, upright.pixels
    wide = pixels.shape[1]
    low, high = (place_mm - _BROAD_MM, place_mm) if before else (place_mm, place_mm + _BROAD_MM)
    first = min(max(0, round(low * scale)), wide - 2)
    last = min(wide, max(first + 2, round(high * scale)))
    columns = max(2, int((last - first) / scale / STEP_MM))
    rows = max(2, round(pixels.shape[0] / scale / ROW_MM))
    light, tones = light_and_tones(resampled(pixels[:, first:last], rows, columns, 1.0 / columns))
    at = columns if before else 0
    parts = []
    for part, much, near in ((tones[..., 0], _TONE, _NEAR_TONE), (tones[..., 1], _TONE, _NEAR_TONE),
                             (light, _LIGHT, _NEAR_LIGHT)):  # fmt: skip
        parts += [much * part.mean(axis=1), near * beside(part, at, STEP_MM, before=before)]
    return Column(np.stack([_smoothed(part.astype(np.float32)) for part in parts], axis=-1))


def _smoothed(values: Floats) -> Floats:
    """Means over the rows that tone is told by."""
    wide = max(1, round(COLOUR_ROW_MM / ROW_MM))
    padded = np.pad(values, (wide // 2, wide - 1 - wide // 2), mode="edge")
    made: Floats = np.convolve(padded, np.ones(wide, np.float32) / wide, mode="valid").astype(np.float32)
    return made


def apart(before: Column, after: Column, lows: ArrayLike, rows: int) -> Floats:
    """How unlike the two are over so many rows, from each of some rows on."""
    squares = ((before.told - after.told).astype(np.float64) ** 2).sum(axis=1)
    total: NDArray[np.float64] = np.concatenate([[0.0], np.cumsum(squares)])
    low = np.clip(np.asarray(lows, dtype=np.int64), 0, max(0, len(squares) - rows))
    high = np.minimum(low + rows, len(squares))
    made: Floats = np.sqrt(np.maximum(total[high] - total[low], 0.0) / (high - low)).astype(np.float32)
    return made


def scaled(upright: Seen, rows: int, loss_mm: float, seed: int = 1) -> Scale:
    """The scale of scores on this board: from cuts with only their own loss between them, and from any two."""
    wide = upright.pixels.shape[1] / upright.px_per_mm
    edge = min(_BROAD_MM, wide / 4)
    places = np.linspace(edge, max(wide - edge - loss_mm, wide / 2), _PLACES)
    before = [column(upright, float(place), before=True) for place in places]
    after = [column(upright, float(place) + loss_mm, before=False) for place in places]
    count = before[0].rows
    chance = np.random.default_rng([seed, count, rows])
    room = max(1, count - rows)
    runs, strange = [], []
    for k in range(_PLACES):
        lows = chance.integers(0, room, _LENGTHS)
        runs.append(apart(before[k], after[k], lows, rows))
        for low in map(int, lows):
            other, there = int(chance.integers(0, _PLACES)), int(chance.integers(0, room))
            if other != k or abs(low - there) >= rows:
                strange.append(apart(before[k], after[other].moved(there - low), [low], rows))
    alike, unlike = np.concatenate(runs), np.concatenate(strange) if strange else np.ones(1, np.float32)
    return Scale(float(np.median(alike)), float(np.median(unlike)), spread(alike), spread(unlike))
