"""Believable wood from a seed: a board sliced from a simulated log.

A point of the board lies at some distance from the log's pith; annual rings of uneven width
colour it by that distance. Slow warps bend the rings, taper turns them into arches along the
board, fibres and pores lie on top. Invented, for the eye; no measurement of real wood.
"""

from typing import Final

import numpy as np
from numpy.typing import NDArray

from peristyle.reference.woods import Wood, wood_named

MOST_COLUMNS: Final = 3600
FINEST_PX_PER_MM: Final = 5.0

Floats = NDArray[np.float32]


def scale_for(length_mm: float, width_mm: float) -> float:
    """Pixels per mm for a board's picture: fine for small boards, bounded for long ones."""
    return min(FINEST_PX_PER_MM, MOST_COLUMNS / length_mm, 900 / width_mm)


def board_picture(
    wood: str, seed: int, length_mm: float, width_mm: float, px_per_mm: float | None = None
) -> NDArray[np.uint8]:
    """The board's show face as (rows, columns, 3) RGB; row 0 is the top edge, column 0 the start.

    The same arguments give the same picture. Scale as `scale_for` unless given.
    """
    scale = px_per_mm or scale_for(length_mm, width_mm)
    kind = wood_named(wood)
    chance = np.random.default_rng([seed, 1109])
    columns, rows = max(2, round(length_mm * scale)), max(2, round(width_mm * scale))
    x = np.linspace(0.0, length_mm, columns, dtype=np.float32)
    y = np.linspace(width_mm, 0.0, rows, dtype=np.float32)
    radius, across = _radius(chance, x, y, width_mm)
    late = _rings(chance, kind, radius)
    shade = _fibres(chance, kind, rows, columns, scale)
    sap = _sapwood(chance, across, width_mm)
    early, dark, pale = (np.array(c, dtype=np.float32) for c in (kind.early, kind.late, kind.sap))
    tone = late[..., None] * kind.contrast
    picture = early * (1 - tone) + dark * tone
    picture = picture * (1 - sap[..., None]) + (pale * (1 - 0.4 * tone) + dark * 0.4 * tone) * sap[..., None]
    picture *= (1.0 + shade)[..., None]
    return np.clip(picture, 0, 255).astype(np.uint8)


def _smooth(chance: np.random.Generator, at: Floats, step_mm: float) -> Floats:
    """A slow random curve along one axis (cubic between random heights)."""
    count = int(at.max() / step_mm) + 4
    heights = chance.standard_normal(count).astype(np.float32)
    place = at / step_mm
    k = np.minimum(place.astype(np.int32), count - 2)
    part = place - k
    ease = part * part * (3 - 2 * part)
    curve: Floats = heights[k] * (1 - ease) + heights[k + 1] * ease
    return curve


def _radius(chance: np.random.Generator, x: Floats, y: Floats, width_mm: float) -> tuple[Floats, Floats]:
    """Distance of every point of the face from the pith, bent by warps; and the place across."""
    depth = float(chance.uniform(8, 45))
    pith = width_mm * float(chance.uniform(-0.1, 0.75))
    taper = float(chance.uniform(0.035, 0.06)) * float(chance.choice([-1.0, 1.0]))
    length = float(x.max())
    lift = depth + taper * (x - length / 2) + 3.0 * _smooth(chance, x, 260.0) + 0.7 * _smooth(chance, x, 60.0)
    sway = 5.0 * _smooth(chance, x, 420.0) + 1.2 * _smooth(chance, x, 90.0)
    bow = 1.6 * _smooth(chance, y, 24.0)
    across = (y[:, None] - pith) + sway[None, :]
    radius = np.sqrt(across * across + (lift[None, :] + bow[:, None]) ** 2)
    return radius.astype(np.float32), across.astype(np.float32)


def _rings(chance: np.random.Generator, kind: Wood, radius: Floats) -> Floats:
    """How much late wood each point shows: slow in spring, sudden at the year's end."""
    most = float(radius.max()) + 10.0
    widths = kind.ring_mm * np.exp(chance.normal(0.0, 0.35, int(most / kind.ring_mm * 2) + 8))
    edges = np.cumsum(widths).astype(np.float32)
    strength = chance.uniform(0.55, 1.0, len(edges) + 1).astype(np.float32)
    # One look-up table over the radius is far quicker than a search for every pixel.
    fine = np.arange(0.0, most, 0.05, dtype=np.float32)
    year = np.minimum(np.searchsorted(edges, fine), len(edges) - 1)
    inner = np.where(year > 0, edges[year - 1], 0.0)
    part = np.clip((fine - inner) / (edges[year] - inner), 0.0, 1.0)
    table = (strength[year] * (part**2.5) * (1 - np.clip((part - 0.93) / 0.07, 0, 1))).astype(np.float32)
    late: Floats = table[np.minimum((radius * 20).astype(np.int32), len(table) - 1)]
    return late


def _fibres(chance: np.random.Generator, kind: Wood, rows: int, columns: int, scale: float) -> Floats:
    """Brightness along the fibres, and short dark pores."""
    cells = max(2, int(columns / (30 * scale)) + 2)
    coarse = chance.standard_normal((rows, cells)).astype(np.float32)
    at = np.linspace(0, cells - 1.001, columns, dtype=np.float32)
    k = at.astype(np.int32)
    part = at - k
    shade: Floats = np.float32(0.028) * (coarse[:, k] * (1 - part) + coarse[:, k + 1] * part)
    run = max(1, round(1.3 * scale))
    count = max(2, columns // run + 1)
    pores = (chance.random((rows, count)) > 1 - 0.13 * kind.pores).astype(np.float32)
    shade = shade - np.float32(0.11 * kind.pores) * np.repeat(pores, run, axis=1)[:, :columns]
    result: Floats = shade + np.float32(0.012) * chance.standard_normal((rows, columns), dtype=np.float32)
    return result


def _sapwood(chance: np.random.Generator, across: Floats, width_mm: float) -> Floats:
    """A paler strip along one edge of some boards."""
    if chance.random() < 0.45:
        return np.zeros_like(across)
    edge = float(across.max()) - width_mm * float(chance.uniform(0.04, 0.12))
    sap: Floats = (0.8 * np.clip((across - edge) / 5.0, 0.0, 1.0)).astype(np.float32)
    return sap
