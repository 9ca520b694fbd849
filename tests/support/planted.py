"""Boards with a match planted in them, what a camera does to a picture, and wood grown another way."""

import random
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from peristyle.devices.camera import chance_camera, photograph
from peristyle.reference.woods import WOODS
from peristyle.wood import match
from peristyle.wood.grown import face_picture
from peristyle.wood.joined import evened
from peristyle.wood.looks import Grown
from peristyle.wood.outline import lens_of, outline
from peristyle.wood.photo import photographed as photo_of
from peristyle.wood.photo import straightened
from peristyle.wood.pictures import Seen

Picture = NDArray[np.uint8]
LENGTH_MM, WIDTH_MM, SCALE = 1200.0, 90.0, 4.0
NOISE = 0.015  # what a photograph makes of wood that is the same: measured, 0.011 to 0.036


class Planted(NamedTuple):
    """A spoilt picture, where the strip that closes best starts, how long it is, and how far before and after the
    start it would do as well.
    """

    seen: Seen
    start_mm: float
    reach_mm: float
    as_well_mm: float
    after_mm: float = 0.0


def another_wood(seed: int, length_mm: float, width_mm: float, scale: float) -> Picture:
    """Wood of a simpler kind: wandering stripes of light and dark, fibres, and short pores."""
    chance = np.random.default_rng(seed)
    columns, rows = round(length_mm * scale), round(width_mm * scale)
    x = np.arange(columns) / scale
    y = np.arange(rows)[:, None] / scale
    bent = (
        y
        + sum(
            chance.uniform(1, 7) * np.sin(x / chance.uniform(40, 300) + chance.uniform(0, 6))
            for _ in range(5)
        )
        + (chance.uniform(-0.03, 0.03) * x)
    )
    tone = sum(
        chance.uniform(4, 16) * np.sin(bent / chance.uniform(0.8, 9) + chance.uniform(0, 6)) for _ in range(7)
    )  # fmt: skip
    fibre = np.repeat(chance.normal(0, 5, (rows, columns // 24 + 1)), 24, axis=1)[:, :columns]
    pores = -22.0 * np.repeat(chance.random((rows, columns // 7 + 1)) < 0.08, 7, axis=1)[:, :columns]
    tone = tone + pores
    base = np.array(chance.uniform(90, 200, 3))
    return np.clip(base + (tone + fibre)[..., None] * [1.0, 0.9, 0.7], 0, 255).astype(np.uint8)


def spoilt(picture: Picture, chance: np.random.Generator) -> Picture:
    """Light that falls off by 40 % along the board, a blur, and noise."""
    made = picture.astype(np.float32) * np.linspace(1.0, 0.6, picture.shape[1])[None, :, None]
    for axis in (0, 1):
        made = (np.roll(made, 1, axis) + 2 * made + np.roll(made, -1, axis)) / 4
    return np.clip(made + chance.normal(0, 3, made.shape), 0, 255).astype(np.uint8)


def planted(seed: int, *, other: bool = False, clean: bool = False, least_mm: float = 3.0) -> Planted:
    """A board in which the wood before one strip's end is that before its start, or mirrors that after it."""
    draw = random.Random(seed)
    chance = np.random.default_rng(seed)
    if other:
        picture = another_wood(seed, LENGTH_MM, WIDTH_MM, SCALE)
    else:
        wood, sawn = list(WOODS)[seed % len(WOODS)], ("plain", "quarter", "rift")[seed % 3]
        picture = face_picture(Grown(wood, seed, LENGTH_MM, WIDTH_MM, 12.0, sawn), 0.0, SCALE).copy()  # type: ignore[arg-type]
    reach = round(draw.uniform(500, 800) * SCALE) / SCALE
    start = round(draw.uniform(20, LENGTH_MM - reach - 20) * SCALE) / SCALE
    a, b, wide = (
        round(start * SCALE),
        round((start + reach) * SCALE),
        round(draw.uniform(least_mm, 2 * least_mm) * SCALE),
    )
    runs_on = draw.random() < 0.5
    picture[:, b - wide : b] = picture[:, a - wide : a] if runs_on else picture[:, a : a + wide][:, ::-1]
    # Wood that is the same for longer than an edge is looked at closes as well a little earlier.
    return Planted(
        Seen(picture if clean else spoilt(picture, chance), SCALE),
        start,
        reach,
        wide / SCALE - match.EDGE_MM if runs_on else 0.0,
    )


def photographed_plant(seed: int) -> Planted | None:
    """The same board photographed by the simulated camera, its outline found unaided, straightened, its light evened;
    None where no outline is found. Its edges lie where they seem to: what is planted may be some tenths off.

    Starts that even the spotless picture tells from the planted one by less than a photograph's own noise do as well.
    """
    one = planted(seed, clean=True, least_mm=6.0)
    camera = chance_camera(seed, 4000, 1600)._replace(falloff=0.4, noise=3.0, blur_px=0.8, quality=60)
    shot = photograph(one.seen.pixels, LENGTH_MM, WIDTH_MM, camera, seed)
    photo = photo_of(shot.jpeg)
    corners = outline(photo)
    if corners is None:
        return None
    pixels, scale = straightened(photo, corners, LENGTH_MM, WIDTH_MM, lens_of(photo, corners))
    starts, apart = _closing(one)
    near = apart <= NOISE
    at = int(np.argmin(np.abs(starts - one.start_mm)))
    low = next((k for k in range(at, -1, -1) if not near[k]), -1) + 1
    high = next((k for k in range(at, len(near)) if not near[k]), len(near)) - 1
    return one._replace(
        seen=evened(Seen(pixels, scale)),
        as_well_mm=max(one.as_well_mm, one.start_mm - float(starts[min(low, at)])),
        after_mm=max(0.0, float(starts[max(high, at)]) - one.start_mm),
    )


def _closing(one: Planted) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """All starts, and how unlike the closing corner's strips are at each."""
    edges = match.edges_of(one.seen, 5.0, 80.0)
    starts, apart = match.closing(edges, one.reach_mm, (10.0, LENGTH_MM - one.reach_mm - 10.0))
    return np.asarray(starts, dtype=float), np.asarray(apart, dtype=float)


def missed_mm(one: Planted) -> float:
    """How far from what was planted the best start is found."""
    starts, apart = _closing(one)
    best = float(starts[np.argmin(apart)])
    return max(one.start_mm - one.as_well_mm - best, best - one.start_mm - one.after_mm, 0.0)


def by_brute_force(
    seen: Seen, low_mm: float, high_mm: float, reach_mm: float, starts_mm: NDArray[np.float64]
) -> NDArray[np.float64]:
    """How unlike the closing corner's strips are at each start, from every point of the full picture, one by one."""
    rows = seen.pixels.shape[0]
    band = seen.pixels[round(rows - high_mm * seen.px_per_mm) : round(rows - low_mm * seen.px_per_mm)].astype(
        float
    )
    wide = round(match.EDGE_MM * seen.px_per_mm)
    found = []
    for start in starts_mm:
        a, b = round(start * seen.px_per_mm), round((start + reach_mm) * seen.px_per_mm)
        strips = []
        for strip in (band[:, b - wide : b], band[:, a : a + wide]):
            rows_of = np.log(strip.mean(axis=1) + 4.0)
            light = rows_of @ [0.3, 0.59, 0.11]
            strips.append((light - light.mean(), rows_of[:, [0, 2]] - rows_of[:, [1]]))
        size = max(1, round(match.ROW_MM * seen.px_per_mm))
        count = len(strips[0][0]) // size
        lights = [s[0][: count * size].reshape(count, size).mean(axis=1) for s in strips]
        tones = [s[1].mean(axis=0) for s in strips]
        found.append(np.hypot(
            np.sqrt(np.mean((lights[0] - lights[1]) ** 2)),
            match.TONE * np.sqrt(np.mean((tones[0] - tones[1]) ** 2)),
        ))  # fmt: skip
    return np.array(found)


def rank_agreement(one: NDArray[np.float64], other: NDArray[np.float64]) -> float:
    """Spearman's rank correlation."""
    ranks = [np.argsort(np.argsort(values)).astype(float) for values in (one, other)]
    return float(np.corrcoef(ranks[0], ranks[1])[0, 1])
