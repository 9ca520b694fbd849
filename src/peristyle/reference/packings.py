"""Round things packed closely in a circle and in regular polygons: the shipped tables, made by scripts/packings."""

import json
from functools import lru_cache

Spots = tuple[tuple[float, float], ...]


@lru_cache(maxsize=1)
def round_packings() -> dict[int, Spots]:
    """Middles of n circles of radius 1 about 0, touching but nowhere overlapping, by n (1 to 30).

    The circle round them is the smallest that was found; up to 19 it agrees with the published ones
    (S. Kravitz, "Packing cylinders into cylindrical containers", Mathematics Magazine 40, 1967).
    """
    from importlib import resources  # put off: the window opens without it

    text = resources.files("peristyle").joinpath("data/round-packings.json").read_text(encoding="utf-8")
    return {int(n): tuple((x, y) for x, y in spots) for n, spots in json.loads(text).items()}


@lru_cache(maxsize=1)
def polygon_packings() -> dict[tuple[int, int], Spots]:
    """Middles of n circles of radius 1 in a regular polygon about 0, side A below, by sides (3 to 12) and n (2 to 19).

    The polygon round them is the smallest that was found. Known ones (from memory): in a square two need a side of
    2 + √2 radii, five of 2 + 2√2; seven in a hexagon, six round one.
    """
    from importlib import resources  # as above

    text = resources.files("peristyle").joinpath("data/polygon-packings.json").read_text(encoding="utf-8")
    found = {}
    for key, spots in json.loads(text).items():
        sides, number = map(int, key.split())
        found[sides, number] = tuple((x, y) for x, y in spots)
    return found
