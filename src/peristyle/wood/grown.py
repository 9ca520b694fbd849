"""Believable wood from a seed: a board sliced from a simulated log.

A point of the board lies at some distance from the log's pith; annual rings of uneven width colour it by that
distance. Slow warps bend the rings, taper turns them into arches along a plain-sawn face, branches push them
aside. Every plane through the board is sliced from the same log, so that face, back, edges and ends fit together.
Invented, for the eye; no measurement of real wood.
"""

import math
from typing import Any, Final, NamedTuple

import numpy as np
from numpy.typing import NDArray

from peristyle.reference.woods import Wood, wood_named
from peristyle.wood.looks import Grown

MOST_PIXELS: Final = 3_000_000
FINEST_PX_PER_MM: Final = 6.0

Floats = NDArray[np.float32]
Picture = NDArray[np.uint8]


class Knot(NamedTuple):
    """Where a branch meets the face: its middle (mm, x along and y across the board) and its radius there."""

    x: float
    y: float
    radius: float


class _Branch(NamedTuple):
    x: float
    angle: float
    lean: float
    spread: float


class _Log(NamedTuple):
    """The log round a board: where its pith runs, how its rings lie, and the branches in it."""

    kind: Wood
    pith: tuple[float, float]
    taper: float
    edges: Floats
    strength: Floats
    sap_mm: float
    branches: tuple[_Branch, ...]


_MOST_CELLS: Final = 4_000_000  # of a random field


def scale_for(length_mm: float, width_mm: float) -> float:
    """Pixels per mm for a board's picture: fine for small boards, bounded for large ones."""
    return min(FINEST_PX_PER_MM, math.sqrt(MOST_PIXELS / (length_mm * width_mm)))


def end_scale_for(board: Grown) -> float:
    """The same for its end, which a thick board has much of."""
    return min(scale_for(board.length_mm, board.width_mm), scale_for(board.width_mm, board.thickness_mm))


def face_picture(board: Grown, depth_mm: float = 0.0, px_per_mm: float | None = None) -> Picture:
    """The plane `depth_mm` under the face as (rows, columns, 3) RGB; row 0 is the top edge, column 0 the start.

    0 is the face, the thickness the back, both as seen from the face: what lies under a point of one lies at the
    same row and column of the other. The same arguments give the same picture.
    """
    scale = px_per_mm or scale_for(board.length_mm, board.width_mm)
    x = _along(board.length_mm, scale)
    y = _along(board.width_mm, scale)[::-1]
    return _sliced(board, x[None, :], y[:, None], np.float32(depth_mm), scale, normal=2)


def edge_picture(board: Grown, *, top: bool = False, px_per_mm: float | None = None) -> Picture:
    """One long edge, (rows, columns, 3): row 0 at the face, the last at the back, column 0 at the start."""
    scale = px_per_mm or scale_for(board.length_mm, board.width_mm)
    x, z = _along(board.length_mm, scale), _along(board.thickness_mm, scale)
    return _sliced(board, x[None, :], np.float32(board.width_mm if top else 0.0), z[:, None], scale, normal=1)


def end_picture(board: Grown, at_mm: float = 0.0, px_per_mm: float | None = None) -> Picture:
    """The end grain of a cut across the board at `at_mm`, (rows, columns, 3): row 0 at the face, column 0 at the
    board's straight edge.
    """
    scale = px_per_mm or end_scale_for(board)
    y, z = _along(board.width_mm, scale), _along(board.thickness_mm, scale)
    return _sliced(board, np.float32(at_mm), y[None, :], z[:, None], scale, normal=0)


def knots_of(board: Grown) -> tuple[Knot, ...]:
    """The knots that show on the face, largest first."""
    log = _log(board)
    found = []
    for branch in log.branches:
        y, radius = _on_face(log, board, branch)
        if 0 <= branch.x <= board.length_mm and -radius < y < board.width_mm + radius:
            found.append(Knot(branch.x, y, radius))
    return tuple(sorted(found, key=lambda knot: -knot.radius))


def _along(length_mm: float, scale: float) -> Floats:
    count = max(2, round(length_mm * scale))
    return ((np.arange(count, dtype=np.float32) + 0.5) / np.float32(count / length_mm)).astype(np.float32)


def _chance(board: Grown, part: int) -> np.random.Generator:
    return np.random.default_rng([board.seed, part])


def _log(board: Grown) -> _Log:
    """The log of a board; every part of it has a chance of its own, so that one look added leaves the rest alone."""
    kind, chance = wood_named(board.wood), _chance(board, 1109)
    wide, thick = board.width_mm, board.thickness_mm
    side = float(chance.choice([-1.0, 1.0]))
    off, deep = float(chance.uniform(0.0, 1.0)), float(chance.uniform(0.0, 1.0))
    if board.sawn == "plain":
        pith = (wide * (0.15 + 0.7 * off), thick / 2 + side * (thick / 2 + 12.0 + 45.0 * deep))
    elif board.sawn == "quarter":
        pith = ((-30.0 - 60.0 * off) if side > 0 else wide + 30.0 + 60.0 * off, thick * deep)
    else:
        pith = (-20.0 - wide * 0.4 * off, thick / 2 + side * (40.0 + wide * 0.6))
    taper = float(chance.uniform(0.035, 0.06)) * float(chance.choice([-1.0, 1.0]))
    taper *= 1.0 if board.sawn == "plain" else 0.25
    reach = math.hypot(wide + abs(pith[0]), thick + abs(pith[1])) + board.length_mm * 0.03 + 60.0
    rings = kind.ring_mm * np.exp(chance.normal(0.0, 0.32, int(reach / kind.ring_mm * 2) + 8))
    rings *= 1.0 + 0.25 * _smooth(
        chance, np.arange(len(rings), dtype=np.float32), 9.0
    )  # dry years and wet ones
    edges = np.cumsum(np.maximum(rings, 0.35)).astype(np.float32)
    strength = chance.uniform(0.55, 1.0, len(edges) + 1).astype(np.float32)
    sap = reach * 2
    if "sapwood" in board.looks:
        far = max(math.hypot(y - pith[0], z - pith[1]) for y in (0.0, wide) for z in (0.0, thick))
        near = min(far, math.hypot(max(0.0, -pith[0], pith[0] - wide), max(0.0, -pith[1], pith[1] - thick)))
        sap = far - (far - near) * float(_chance(board, 7).uniform(0.08, 0.2))
    return _Log(kind, pith, taper, edges, strength, sap, _branches(board, pith))


def _branches(board: Grown, pith: tuple[float, float]) -> tuple[_Branch, ...]:
    if "knots" not in board.looks:
        return ()
    chance = _chance(board, 31)
    count = int(chance.integers(1, 2 + max(1, round(board.length_mm / 500))))
    found = []
    for _ in range(count):
        y = float(chance.uniform(0.1, 0.9)) * board.width_mm
        angle = math.atan2(0.0 - pith[1], y - pith[0])
        far = max(20.0, math.hypot(y - pith[0], pith[1]))
        radius = float(chance.uniform(2.0, 7.0))
        x = float(chance.uniform(0.06, 0.94)) * board.length_mm
        found.append(_Branch(x, angle, float(chance.uniform(-0.3, 0.3)), radius / far))
    return tuple(found)


def _on_face(log: _Log, board: Grown, branch: _Branch) -> tuple[float, float]:
    """Where across the board a branch meets the face, and its radius there."""
    sine = math.sin(branch.angle)
    far = max(20.0, -log.pith[1] / sine if abs(sine) > 1e-6 else 1e9)
    return log.pith[0] + far * math.cos(branch.angle), branch.spread * far


def _smooth(chance: np.random.Generator, at: Any, step: float) -> Floats:
    """A slow random curve (cubic between random heights)."""
    count = int(at.max() / step) + 4
    heights = chance.standard_normal(count).astype(np.float32)
    place = np.maximum(at, 0.0) / np.float32(step)
    k = np.minimum(place.astype(np.int32), count - 2)
    part = (place - k).astype(np.float32)
    ease = part * part * (3 - 2 * part)
    curve: Floats = heights[k] * (1 - ease) + heights[k + 1] * ease
    return curve


def _field(chance: np.random.Generator, u: Any, v: Any, step: tuple[float, float]) -> Floats:
    """A slow random field over two coordinates of the same shape (bilinear, eased)."""
    low = (float(u.min()), float(v.min()))
    cells = math.prod((float(w.max()) - a) / s + 1.0 for w, a, s in zip((u, v), low, step, strict=True))
    if cells > _MOST_CELLS:  # of a board so large nobody sees cells so small
        step = (step[0] * math.sqrt(cells / _MOST_CELLS), step[1] * math.sqrt(cells / _MOST_CELLS))
    counts = [int((float(w.max()) - a) / s) + 3 for w, a, s in zip((u, v), low, step, strict=True)]
    heights = chance.standard_normal(counts).astype(np.float32)
    places = [(w - np.float32(a)) / np.float32(s) for w, a, s in zip((u, v), low, step, strict=True)]
    i, j = (place.astype(np.int32) for place in places)
    a, b = places[0] - i, places[1] - j
    a, b = a * a * (3 - 2 * a), b * b * (3 - 2 * b)
    flat, row = heights.ravel(), i * counts[1] + j
    low_v = flat[row] * (1 - b) + flat[row + 1] * b
    high_v = flat[row + counts[1]] * (1 - b) + flat[row + counts[1] + 1] * b
    field: Floats = low_v * (1 - a) + high_v * a
    return field


class _Point(NamedTuple):
    """Where the points of a plane lie in the log."""

    radius: Floats  # from the pith, as the rings count it
    angle: Floats
    facing: Floats  # 0 where the plane holds the radius (quartered), 1 where it is square to it
    knot: Floats  # 0 outside, rising to 1 in a knot's middle
    bark: Floats  # the dark line round a knot


def _place(board: Grown, log: _Log, x: Floats, y: Floats, z: Floats, normal: int) -> _Point:
    chance = _chance(board, 17)
    span = np.linspace(-400.0, board.length_mm + 400.0, 512, dtype=np.float32)
    slow = [_smooth(chance, span + 400.0, step) for step in (420.0, 95.0, 260.0, 60.0)]
    sway, lift = (np.interp(x, span, a).astype(np.float32) for a in
                  (4.0 * slow[0] + 1.1 * slow[1], 3.0 * slow[2] + 0.7 * slow[3]))  # fmt: skip
    across = np.float32(-log.pith[0]) + y + sway
    deep = np.float32(-log.pith[1]) + z + lift
    radius = np.sqrt(across * across + deep * deep)
    angle = np.arctan2(deep, across).astype(np.float32)
    true = radius
    # Rings are no circles: they bulge here and there, the same all through the board's thickness.
    chance = _chance(board, 19)
    bulge = np.zeros_like(radius)
    turn = np.linspace(-np.pi, np.pi, 720, dtype=np.float32)
    for step, much in ((0.35, 0.018), (0.09, 0.006)):
        table = _smooth(chance, turn + np.float32(np.pi), step)
        stretch = 1.0 + 0.6 * np.interp(x, span, _smooth(chance, span + 400.0, 180.0))
        at = np.clip((angle + np.float32(np.pi)) * np.float32(719 / (2 * np.pi)), 0, 719).astype(np.int32)
        bulge = bulge + np.float32(much) * table[at] * stretch.astype(np.float32)
    radius = radius * (1.0 + bulge) + np.float32(log.taper) * (x - np.float32(board.length_mm / 2))
    facing = np.abs(deep if normal == 2 else across) / np.maximum(true, 1e-3)
    if normal == 0:
        facing = np.ones_like(true)
    knot, bark = np.zeros_like(radius), np.zeros_like(radius)
    for branch in log.branches:
        size = np.maximum(np.float32(branch.spread) * true, 1.0)
        gone = (angle - np.float32(branch.angle) + np.float32(np.pi)) % np.float32(2 * np.pi) - np.float32(
            np.pi
        )
        gap = np.hypot(x - np.float32(branch.x), true * gone) / size
        radius = radius - 2.4 * size * np.exp(-np.maximum(gap - 0.7, 0.0) / 1.3)
        inside = gap < 1.0
        knot = np.where(inside, np.float32(1.0) - gap, knot)
        bark = np.maximum(bark, np.exp(-(((gap - 1.0) / 0.09) ** 2)))
    return _Point(
        *(np.asarray(a, dtype=np.float32) for a in (np.maximum(radius, 0.0), angle, facing, knot, bark))
    )


class _Years(NamedTuple):
    """Tables over the radius, 20 to the mm: how much late wood, how many pores, and how dark the year is."""

    late: Floats
    pores: Floats


def _years(log: _Log, most: float) -> _Years:
    kind, edges = log.kind, log.edges
    fine = np.arange(0.0, most, 0.05, dtype=np.float32)
    year = np.minimum(np.searchsorted(edges, fine), len(edges) - 1)
    inner = np.where(year > 0, edges[year - 1], 0.0)
    part = np.clip((fine - inner) / (edges[year] - inner), 0.0, 1.0)
    rise = np.clip((part - kind.late_from) / (1.0 - kind.late_from), 0.0, 1.0) ** kind.late_rise
    late = log.strength[year] * rise  # slow to come, and gone at once where the next year begins
    density = {
        "ring": np.where(part < 0.24, 0.62 - 1.4 * part, 0.035),
        "half_ring": 0.30 - 0.26 * part,
        "scattered": np.full_like(part, 0.20),
        "none": np.zeros_like(part),
    }[kind.pores]
    return _Years(late.astype(np.float32), density.astype(np.float32))


COARSE: Final = 3  # what changes slowly along the board is worked out at every third column


def _sliced(board: Grown, x: Any, y: Any, z: Any, scale: float, normal: int) -> Picture:
    log = _log(board)
    every = 1 if normal == 0 else COARSE
    columns = x.shape[1] if normal != 0 else y.shape[1]
    thin = x if every == 1 else np.append(x[:, ::every], x[:, -1:] + np.float32(every / scale), axis=1)
    at = _place(board, log, thin, y, z, normal)
    years = _years(log, float(at.radius.max()) + 1.0)
    # A knot's dark line and the rings pushed aside by it are as fine as the rings: all of it follows the radius.
    slow = _rays(board, log.kind, at, thin)
    if "curl" in board.looks and normal != 0:
        slow = slow + _curl(board, thin, at)
    radius, slow = (_fine(a, every, columns) for a in (at.radius, slow))
    step = (radius * 20).astype(np.int32)
    picture = _year_colours(board, log, years)[step]
    picture *= _slow_colour(board, x if normal != 0 else np.float32(0.0) * y + x)
    shade = _fibres(board, step.shape[0], columns, scale, normal)
    shade += slow
    shade -= _pores(board, log.kind, years.pores[step], scale, normal)
    if normal != 0 and log.kind.ray_mm > 0:
        shade -= _ray_ends(board, log.kind, _fine(at.facing, every, columns), scale)
    shade += 1.0
    picture *= shade[..., None]
    if board.looks:
        _mark(board, picture, at, thin, every)
    if normal == 0:
        picture *= np.float32(0.80)  # end grain drinks light
    made: Picture = np.clip(picture, 0, 255, out=picture).astype(np.uint8)
    return made


def _fine(coarse: Floats, every: int, columns: int) -> Floats:
    """A field known at every so many columns, at all of them."""
    if every == 1:
        return coarse
    step = np.diff(coarse, axis=1) / np.float32(every)
    made = np.empty((coarse.shape[0], step.shape[1] * every), dtype=np.float32)
    for k in range(every):
        made[:, k::every] = coarse[:, :-1] + step * np.float32(k)
    return made[:, :columns]


def _year_colours(board: Grown, log: _Log, years: _Years) -> Any:
    """The colour at every radius, 20 to the mm: early and late wood, sap, and years unlike each other."""
    kind, radius = log.kind, np.arange(len(years.late), dtype=np.float32) / 20
    early, dark, pale = (np.array(c, dtype=np.float32) for c in (kind.early, kind.late, kind.sap))
    tone = (years.late * np.float32(kind.contrast))[:, None]
    colours: Any = early * (1 - tone) + dark * tone
    if "sapwood" in board.looks:
        sap = np.clip((radius - np.float32(log.sap_mm)) / 2.5 + 0.5, 0.0, 1.0)[:, None] * np.float32(0.9)
        colours = colours * (1 - sap) + (pale * (1 - 0.35 * tone) + dark * (0.35 * tone)) * sap
    grown = 1.0 + _smooth(_chance(board, 23), radius, 11.0) * 0.022
    return (colours * grown[:, None]).astype(np.float32)


def _slow_colour(board: Grown, x: Floats) -> Any:
    """The colour's own slow change along a board."""
    chance = _chance(board, 27)
    span = np.linspace(0.0, board.length_mm + 1.0, 256, dtype=np.float32)
    warm = np.interp(x, span, _smooth(chance, span, 700.0) * 0.012 + _smooth(chance, span, 220.0) * 0.006)
    light = 1.0 + np.interp(
        x, span, _smooth(chance, span, 520.0) * 0.018 + _smooth(chance, span, 160.0) * 0.008
    )
    return np.stack([light + warm, light, light - 0.9 * warm], axis=-1).astype(np.float32)


def _fibres(board: Grown, rows: int, columns: int, scale: float, normal: int) -> Any:
    """Fine streaks along the fibres, and the tooth of a planed surface."""
    chance = _chance(board, 29 + normal)
    grain = np.float32(0.010) * chance.standard_normal((rows, columns), dtype=np.float32)
    if normal == 0:
        return grain
    shade: Floats = grain
    for length_mm, much in ((45.0, 0.016), (9.0, 0.016)):
        cells = max(2, int(columns / (length_mm * scale)) + 3)
        coarse = chance.standard_normal((rows, cells)).astype(np.float32)
        begins = chance.uniform(0.0, 1.0, rows).astype(np.float32)[:, None]
        at = np.arange(columns, dtype=np.float32)[None, :] / np.float32(length_mm * scale) + begins
        k = at.astype(np.int32)
        part = at - k
        row = np.arange(rows, dtype=np.int32)[:, None] * cells + k
        flat = coarse.ravel()
        shade = shade + np.float32(much) * (flat[row] * (1 - part) + flat[row + 1] * part)
    return shade


def _dashes(chance: np.random.Generator, shape: tuple[int, int], run_px: float, wide_px: float) -> Floats:
    """A number from 0 to 1 for every pixel, the same along a dash; dashes begin anywhere and differ in length."""
    rows, columns = shape
    bands = max(1, math.ceil(rows / max(1.0, wide_px)))
    runs = np.maximum(1.0, run_px * np.exp(chance.normal(0.0, 0.45, bands))).astype(np.float32)
    begins = (chance.uniform(0.0, 1.0, bands) * runs).astype(np.float32)
    cells = int(columns / float(runs.min())) + 3
    values = chance.random((bands, min(cells, columns + 3)), dtype=np.float32)
    at = (np.arange(columns, dtype=np.float32)[None, :] + begins[:, None]) / runs[:, None]
    picked = np.take_along_axis(values, np.minimum(at.astype(np.int32), values.shape[1] - 1), axis=1)
    band = np.minimum((np.arange(rows) / max(1.0, wide_px)).astype(np.int32), bands - 1)
    dashes: Floats = picked[band]
    return dashes


def _pores(board: Grown, kind: Wood, density: Floats, scale: float, normal: int) -> Floats:
    """The open pores: dark dashes along the grain, crowded where the year has them; dots on an end."""
    if kind.pores == "none":
        return np.zeros_like(density)
    chance = _chance(board, 37 + normal)
    run = kind.pore_mm * scale if normal != 0 else 1.0
    dice = _dashes(chance, (density.shape[0], density.shape[1]), run, kind.pore_wide_mm * scale)
    # A pore narrower than a pixel darkens it by its share.
    thin = min(1.0, kind.pore_wide_mm * scale)
    deep = np.float32(1.15) - np.float32(0.7) * dice / np.maximum(density, np.float32(1e-3))  # no two alike
    pores: Floats = (np.float32(kind.pore_dark * thin) * deep * (dice < density)).astype(np.float32)
    return pores


def _rays(board: Grown, kind: Wood, at: _Point, x: Floats) -> Floats:
    """What runs across the rings: bright flecks on a quartered face, the stripe of interlocked grain."""
    shade = np.zeros_like(at.radius)
    chance = _chance(board, 41)
    along = x * np.ones_like(at.radius)
    if kind.ribbon:
        bands = _field(chance, at.radius, along, (5.0, 240.0))
        shade = shade + np.float32(0.16 * kind.ribbon) * np.tanh(2.5 * bands) * (1.15 - at.facing)
    quartered = np.clip((0.42 - at.facing) / 0.30, 0.0, 1.0)
    if kind.ray > 0.1 and float(quartered.max()) > 0.0:
        size = 0.45 + 0.55 * kind.ray
        sway = 1.6 * _field(chance, at.radius, along, (9.0, 40.0)) + 0.35 * at.radius
        flecks = _field(chance, along + sway, at.radius, (1.7 * size, 9.0 * size))
        flecks = flecks + 0.5 * _field(chance, along + 1.7 * sway, at.radius, (0.8 * size, 5.0 * size))
        groups = _field(chance, along, at.radius, (60.0, 25.0))
        bright = np.clip((flecks - (1.45 - 0.5 * kind.ray) + 0.35 * groups) / 0.3, 0.0, 1.0)
        shade = shade + np.float32(0.12 * kind.ray) * bright * quartered
    return shade.astype(np.float32)


def _ray_ends(board: Grown, kind: Wood, facing: Floats, scale: float) -> Floats:
    """The short dark lines in which rays end on a plain-sawn face."""
    chance = _chance(board, 59)
    rows, columns = facing.shape
    dice = _dashes(chance, (rows, columns), kind.ray_mm * scale, 0.22 * scale)
    dark: Floats = (dice > 0.965) * np.clip((facing - 0.5) / 0.3, 0.0, 1.0)
    return dark * np.float32(0.10 + 0.06 * kind.ray)


def _curl(board: Grown, x: Floats, at: _Point) -> Floats:
    """Curly figure: bars of light across the grain, wandering and fading."""
    chance = _chance(board, 43)
    ones = np.ones_like(at.radius)
    wander = _field(chance, at.radius, x * ones, (14.0, 45.0))
    much = 0.55 + 0.45 * np.clip(_field(chance, at.radius, x * ones, (40.0, 160.0)), -1.0, 1.0)
    bars: Floats = np.float32(0.085) * much * np.sin(x * np.float32(2 * np.pi / 11.0) + 1.6 * wander)
    return bars


def _mark(board: Grown, picture: Floats, at: _Point, x: Floats, every: int) -> None:
    """Knots, mineral streaks and the lines of spalting, put on the picture."""
    columns, along = picture.shape[1], x * np.ones_like(at.radius)
    if "knots" in board.looks:
        knot, bark = _fine(at.knot, every, columns), _fine(at.bark, every, columns)
        rings = 1.0 - (0.28 - 0.10 * np.sin(knot * np.float32(26.0))) * (knot > 0)
        tone = rings * (1.0 - 0.62 * bark)
        picture *= np.stack([tone, tone * (1 - 0.12 * (knot > 0)), tone * (1 - 0.22 * (knot > 0))], axis=-1)
    if "streaks" in board.looks:
        chance = _chance(board, 47)
        field = _field(chance, at.radius, along, (2.2, 190.0))
        field = field + 0.35 * _field(chance, at.radius, along, (0.8, 60.0))
        _blend(
            picture,
            _fine(np.clip((field - 1.75) / 0.5, 0.0, 1.0) * np.float32(0.75), every, columns),
            (96, 74, 66),
        )
    if "spalting" in board.looks:
        chance = _chance(board, 53)
        across = at.radius + 30.0 * at.angle
        field = _field(chance, along, across, (46.0, 13.0)) + 0.25 * _field(chance, along, across, (9.0, 4.0))
        field = _fine(field, every, columns)
        _blend(picture, np.clip(field * 4.0, 0.0, 1.0) * np.float32(0.22), (232, 222, 200))
        picture *= (1.0 - 0.82 * np.exp(-((field / 0.045) ** 2)))[..., None]


def _blend(picture: Floats, much: Floats, colour: tuple[int, int, int]) -> None:
    """So much (0 to 1) of a colour laid over the picture."""
    picture += (np.array(colour, dtype=np.float32) - picture) * much[..., None]
