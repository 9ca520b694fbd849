"""Round things packed closely in a circle: the shipped table, made by scripts/packings."""

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
