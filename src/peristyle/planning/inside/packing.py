"""Round things packed closely in a regular polygon."""

import math
from collections.abc import Iterator
from functools import lru_cache
from itertools import islice
from typing import TYPE_CHECKING, Final

from msgspec import Struct

from peristyle.core.planes import Point, unit
from peristyle.reference.packings import polygon_packings, round_packings

if TYPE_CHECKING:
    from numpy import ndarray

_TURNS = 12  # how many ways an arrangement is turned before the polygon is drawn round it
_MANY = 400  # beyond so many things a lattice is near the best, however it is turned


class Packing(Struct, frozen=True):
    """Where circles of radius 1 stand, and the inside apothem that just holds them."""

    apothem: float
    spots: tuple[Point, ...]


_AT_ONCE: Final = 24
_HEAVY: Final = 60_000


@lru_cache(maxsize=64)
def packed(count: int, sides: int) -> Packing:
    """`count` circles of radius 1 in as small a regular polygon about 0 as is found, side A below.

    Tried: the tables of packings in such a polygon and in a circle, and patches of the two regular lattices about their
    points, the middles of their edges and of their cells; each turned in steps. Sizes in radii.
    """
    import numpy as np  # put off: the window opens without it

    facing = np.array([unit(360.0 * i / sides - 90.0) for i in range(sides)])
    best, least = None, math.inf
    arrangements = _arrangements(count, sides)
    if count * sides > _HEAVY:
        arrangements = islice(arrangements, 2)  # among so many, where the lattice is laid matters little
    for lattice in arrangements:
        for turn in range(_TURNS if count <= _MANY else 1):
            angle = math.pi * turn / 6 / _TURNS
            cos, sin = math.cos(angle), math.sin(angle)
            spots = lattice @ np.array([[cos, sin], [-sin, cos]])
            out = (spots @ facing[:_AT_ONCE].T).max(axis=1)
            for start in range(
                _AT_ONCE, sides, _AT_ONCE
            ):  # in parts: thousands of spots by hundreds of sides
                out = np.maximum(out, (spots @ facing[start : start + _AT_ONCE].T).max(axis=1))
            # Rounding must not choose between spots as far out: nearest first, then by their angle.
            order = np.lexsort((np.arctan2(spots[:, 1], spots[:, 0]).round(6), out.round(9)))[:count]
            reach = float(out[order[-1]])
            if reach < least - 1e-9:
                best, least = spots[order], reach
    assert best is not None
    return Packing(least + 1.0, tuple((float(x), float(y)) for x, y in best))


def _arrangements(count: int, sides: int) -> Iterator["ndarray"]:
    """Sets of at least `count` spots no nearer than 2 to each other."""
    import numpy as np

    own = polygon_packings().get((sides, count))
    if own is not None:
        yield np.array(own)
    table = round_packings().get(count)
    if table is not None:
        yield np.array(table)
    # Enough of each lattice for the farthest corner of a triangle round that many.
    reach = 2 * math.ceil(1.3 * math.sqrt(count)) + 3
    steps = np.mgrid[-reach : reach + 1, -reach : reach + 1].reshape(2, -1).T
    height = math.sqrt(3)
    for basis, middles in (
        (((2.0, 0.0), (1.0, height)), ((0.0, 0.0), (1.0, 0.0), (1.0, height / 3), (1.0, -height / 3))),
        (((2.0, 0.0), (0.0, 2.0)), ((0.0, 0.0), (1.0, 0.0), (1.0, 1.0))),
    ):
        lattice = steps @ np.array(basis)
        for middle in middles:
            spots = lattice - np.array(middle)
            far = (spots**2).sum(axis=1)
            enough = min(len(far) - 1, 4 * count + 20)
            yield spots[far <= np.partition(far, enough)[enough]]
