"""How well two edges of wood look when they meet, and where on a board they look best.

Every place along a board has two edges: what lies just before a cut there, and what lies just after. An edge is
told by numbers: lightness in rows across the board, colour in broader rows, and which way the grain runs. Each is
taken over a few millimetres, what is nearest to the cut counting most, and free of how bright the light is there: of
lightness only what differs across the board counts, of colour only its tone.
"""

from collections.abc import Sequence
from typing import Final, NamedTuple

import numpy as np
from numpy.typing import NDArray

from peristyle.wood.pictures import Seen

STEP_MM: Final = 0.25  # how finely places along a board are told apart
ROW_MM: Final = 1.0
COLOUR_ROW_MM: Final = 5.0
EDGE_MM: Final = 3.0  # how far from the cut an edge is looked at
NEAR_MM: Final = 12.0  # what is nearest to the cut counts most: to a third over this much
# How much colour and lean count beside the rows of lightness: tried out on planted matches (scripts/proof).
TONE: Final = 0.7
LEAN: Final = 0.01
LIGHTNESS: Final = (0.30, 0.59, 0.11)  # how much red, green and blue count in it
_DARKEST: Final = 4.0  # levels of 255 added to all, so that what is nearly black is not told apart
_PAIRS: Final = 4000  # pairs of edges that the scale of scores is made from
_FAR_MM: Final = 40.0  # two edges further apart than this do not run on into each other

Floats = NDArray[np.float32]


class Edges(NamedTuple):
    """All edges of a band of board, a row of numbers every `step_mm` from its start.

    `before[k]` tells the wood just before a cut at k · step_mm, `after[k]` that just after it; (places, numbers).
    """

    before: Floats
    after: Floats
    step_mm: float = STEP_MM

    @property
    def places(self) -> int:
        """How many places there are."""
        return len(self.before)


class Scale(NamedTuple):
    """What distances mean on this board.

    `runs_on` is the median distance of two edges with only a cut's loss between them, `strange` that of two taken at
    random; the spreads are their 10th and 90th percentiles.
    """

    runs_on: float
    strange: float
    runs_on_spread: tuple[float, float]
    strange_spread: tuple[float, float]

    def score(self, distance: Floats) -> Floats:
        """100 as well as wood that truly runs on does on this board, 0 as two edges taken at random; 0 to 100."""
        room = max(self.strange - self.runs_on, 1e-9)
        made: Floats = np.clip(100.0 * (self.strange - distance) / room, 0.0, 100.0)
        return made


def edges_of(
    seen: Seen,
    low_mm: float,
    high_mm: float,
    slopes: tuple[float, float] = (0.0, 0.0),
    step_mm: float = STEP_MM,
    finest: float = 0.0,
) -> Edges:
    """The edges of the band from `low_mm` to `high_mm` up the board.

    `slopes` are how far a cut runs along the board for each mm up it, of the edges before and after. Bands past the
    picture's own edges are cut off there. Steps and rows are no finer than the picture has points for, or than
    `finest` (mm): edges are compared with those of another picture only where both are told as finely.
    """
    finest = max(finest, finest_mm(seen))
    step_mm = max(step_mm, finest)
    rows = seen.pixels.shape[0]
    top = min(rows - 1, max(0, round(rows - high_mm * seen.px_per_mm)))
    bottom = min(rows, max(top + 1, round(rows - low_mm * seen.px_per_mm)))
    band = seen.pixels[top:bottom][::-1]  # the lowest row first
    length = seen.pixels.shape[1] / seen.px_per_mm
    columns = max(2, int(length / step_mm))
    number = max(2, round((high_mm - low_mm) / max(ROW_MM, 2 * finest)))
    plain = resampled(band, number, columns, step_mm / length)
    light, colour = light_and_tones(plain)
    light = light - light.mean(axis=0, keepdims=True)  # how bright it is there does not count
    gap = (bottom - top) / seen.px_per_mm / number
    return _edges(light, colour, (slopes[0] * gap, slopes[1] * gap), step_mm)


def finest_mm(seen: Seen) -> float:
    """How finely places along a picture can be told apart: to half a point."""
    return 0.5 / seen.px_per_mm


def resampled(band: NDArray[np.uint8], rows: int, columns: int, share: float) -> Floats:
    """Means over equal cells, so many rows and columns, each that share of the length: (rows, columns, 3)."""
    if band.shape[0] < rows:  # a band at the board's very edge has hardly a row of points
        band = np.repeat(band, -(-rows // band.shape[0]), axis=0)
    cuts = np.linspace(0, band.shape[0], rows + 1).round().astype(int)[:-1]
    counts = np.diff(np.append(cuts, band.shape[0]))
    high = np.add.reduceat(band, cuts, axis=0, dtype=np.float32) / counts[:, None, None].astype(np.float32)
    whole = int(band.shape[1] * share)
    if whole >= 2:  # a fine picture first by whole points, then like any other
        high = high[:, : band.shape[1] // whole * whole]
        high = np.add.reduceat(high, np.arange(0, high.shape[1], whole), axis=1) / np.float32(whole)
    else:
        whole = 1
    at = np.clip((np.arange(columns) + 0.5) * share * band.shape[1] / whole - 0.5, 0, high.shape[1] - 1)
    k = np.minimum(at.astype(np.int64), high.shape[1] - 2)
    part = (at - k).astype(np.float32)[None, :, None]
    made: Floats = (high[:, k] * (1 - part) + high[:, k + 1] * part).astype(np.float32)
    return made


def light_and_tones(plain: Floats) -> tuple[Floats, Floats]:
    """Lightness and tones of colour, as logarithms: (rows, columns), (rows, columns, 2)."""
    logs = np.log(plain + _DARKEST)
    light = logs @ np.array(LIGHTNESS, dtype=np.float32)
    colour = np.stack([logs[..., 0] - logs[..., 1], logs[..., 2] - logs[..., 1]], axis=-1)
    return light.astype(np.float32), colour.astype(np.float32)


def _grouped(values: Floats) -> Floats:
    """Means over broader rows."""
    cuts = np.arange(
        0, max(1, len(values) - round(COLOUR_ROW_MM / ROW_MM) + 1), round(COLOUR_ROW_MM / ROW_MM)
    )
    counts = np.diff(np.append(cuts, len(values))).astype(np.float32)
    made = np.add.reduceat(values, cuts, axis=0) / counts.reshape(-1, *[1] * (values.ndim - 1))
    return made.astype(np.float32)


def _edges(light: Floats, colour: Floats, slopes: tuple[float, float], step_mm: float) -> Edges:
    """A row of numbers for every place along the band, for the wood before it and after."""
    made = []
    straight = _plainly(light, colour, step_mm) if not any(slopes) else None
    for slope, before in ((slopes[0] / step_mm, True), (slopes[1] / step_mm, False)):
        told = straight
        if told is None:
            told = _plainly(_sheared(light, slope), _sheared(colour, slope), step_mm)
        made.append(np.ascontiguousarray(_near(told, step_mm, before=before).T))
    return Edges(made[0], made[1], step_mm)


def _plainly(light: Floats, colour: Floats, step_mm: float) -> Floats:
    """All that is told of each place, weighed: (numbers, columns). Rows count most, colour and lean help."""
    tones = _grouped(colour)
    flat = tones.transpose(0, 2, 1).reshape(2 * len(tones), -1)
    lean = _lean(light, step_mm)
    parts = [
        light / np.float32(np.sqrt(len(light))),
        flat * np.float32(TONE / np.sqrt(len(flat))),
        lean * np.float32(LEAN / np.sqrt(len(lean))),
    ]
    return np.concatenate(parts)


def _sheared(values: Floats, slope: float) -> Floats:
    """Each row moved back by how far (in columns for each row) the cut has run along the board there."""
    made = np.empty_like(values)
    for row in range(len(values)):
        made[row] = np.roll(values[row], -round((row + 0.5) * slope), axis=0)
    return made


def _near(values: Floats, step_mm: float, *, before: bool) -> Floats:
    """Means over the wood beside each place, the nearest counting most (rows, columns)."""
    weights = _weights(step_mm)
    count, columns = len(weights), values.shape[1]
    padded = np.pad(values, ((0, 0), (count, count)), mode="edge")
    made = np.zeros((len(values), columns), dtype=np.float32)
    for k, weight in enumerate(weights):
        at = count - 1 - k if before else count + k
        made += np.float32(weight) * padded[:, at : at + columns]
    return made


def _weights(step_mm: float) -> NDArray[np.float64]:
    """How much the wood counts that lies so many steps from a cut."""
    weights = np.exp(-np.arange(max(1, round(EDGE_MM / step_mm))) * step_mm / NEAR_MM)
    made: NDArray[np.float64] = weights / weights.sum()
    return made


def beside(values: Floats, at: int, step_mm: float, *, before: bool) -> Floats:
    """The mean of the wood before the column `at`, or from it on, the nearest counting most: one for each row."""
    weights = _weights(step_mm)
    away = np.arange(len(weights))
    columns = np.clip(at - 1 - away if before else at + away, 0, values.shape[1] - 1)
    made: Floats = (values[:, columns] @ weights).astype(np.float32)
    return made


def _lean(light: Floats, step_mm: float) -> Floats:
    """Which way the grain runs, in rows of a few mm: mm along the lines' own rise, about −1 to 1."""
    across = np.gradient(light, axis=0)
    along = np.gradient(light, axis=1) / np.float32(step_mm / ROW_MM)
    both, own = _grouped(across * along), _grouped(across * across)
    wide = min(max(1, round(2.0 / step_mm)), light.shape[1])
    kernel = np.ones(wide, dtype=np.float32) / wide
    smooth = [np.stack([np.convolve(row, kernel, mode="same") for row in part]) for part in (both, own)]
    made: Floats = np.clip(-smooth[0] / (smooth[1] + 1e-5), -1.0, 1.0).astype(np.float32)
    return made


def distances(edges: Edges, before: NDArray[np.int64], after: NDArray[np.int64]) -> Floats:
    """How unlike the wood before some places is to that after others, pair by pair; places in steps."""
    apart = edges.before[before] - edges.after[after]
    made: Floats = np.sqrt(np.einsum("ij,ij->i", apart, apart))
    return made


def scaled(edges: Edges, loss_mm: float, seed: int = 1) -> Scale:
    """The scale of scores on this board: from edges with a cut's loss between them, and from edges taken at random."""
    gap = min(round(loss_mm / edges.step_mm), edges.places - 1)  # of a board shorter than a cut, too
    last = max(1, edges.places - gap - 1)
    places = np.linspace(0, last - 1, min(_PAIRS, last)).astype(np.int64)
    runs = distances(edges, places, places + gap)
    chance = np.random.default_rng([seed, edges.places])
    first = chance.integers(0, edges.places, _PAIRS)
    second = chance.integers(0, edges.places, _PAIRS)
    far = np.abs(first - second) >= min(_FAR_MM / edges.step_mm, edges.places / 4)
    far |= not far.any()
    strange = distances(edges, first[far], second[far])
    return Scale(float(np.median(runs)), float(np.median(strange)), spread(runs), spread(strange))


def spread(values: Floats) -> tuple[float, float]:
    """Between what most of some distances lie: their 10th and 90th percentiles."""
    low, high = np.percentile(values, [10, 90])
    return float(low), float(high)


def steps(places_mm: Sequence[float] | Floats, edges: Edges) -> NDArray[np.int64]:
    """Places (mm) as steps, held within the board."""
    made: NDArray[np.int64] = np.clip(
        np.rint(np.asarray(places_mm) / edges.step_mm), 0, edges.places - 1
    ).astype(np.int64)
    return made


def closing(edges: Edges, reach_mm: float, room_mm: tuple[float, float]) -> tuple[Floats, Floats]:
    """The distance at the closing corner for every start: (starts in mm, distances).

    `reach_mm` is from the first side's start to the last side's end; starts lie in `room_mm`.
    """
    low, high = (
        int(np.ceil(room_mm[0] / edges.step_mm - 1e-9)),
        int(np.floor(room_mm[1] / edges.step_mm + 1e-9)),
    )
    reach = round(reach_mm / edges.step_mm)
    high = min(high, edges.places - 1 - reach)
    if high < low:
        return np.zeros(0, dtype=np.float32), np.zeros(0, dtype=np.float32)
    starts = np.arange(low, high + 1)
    apart = edges.before[low + reach : high + 1 + reach] - edges.after[low : high + 1]
    return (starts * edges.step_mm).astype(np.float32), np.sqrt(np.einsum("ij,ij->i", apart, apart))
