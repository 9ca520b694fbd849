"""How the woods look: colours for the pictures the program grows. Invented to look believable."""

from typing import Final, NamedTuple


class Wood(NamedTuple):
    """Colours (0-255 RGB) of early and late wood and sap, ring spacing in mm, figure strength."""

    words: str
    early: tuple[int, int, int]
    late: tuple[int, int, int]
    sap: tuple[int, int, int]
    ring_mm: float
    contrast: float
    pores: float


WOODS: Final[dict[str, Wood]] = {
    "cherry": Wood("Cherry", (196, 138, 96), (158, 96, 60), (220, 186, 146), 3.2, 0.75, 0.25),
    "walnut": Wood("Walnut", (120, 86, 62), (76, 52, 38), (196, 168, 132), 3.6, 0.85, 0.7),
    "ash": Wood("Ash", (222, 200, 164), (178, 146, 104), (232, 216, 186), 4.2, 1.0, 0.9),
    "maple": Wood("Maple", (228, 206, 170), (204, 172, 130), (236, 220, 190), 3.0, 0.45, 0.12),
    "oak": Wood("Oak", (200, 164, 116), (156, 116, 74), (220, 194, 152), 3.4, 0.9, 1.0),
    "pear": Wood("Pear", (206, 156, 124), (182, 124, 94), (222, 184, 154), 2.4, 0.4, 0.1),
}

DEFAULT_WOOD: Final = "cherry"


def wood_named(name: str) -> Wood:
    """The wood of that name, or the default for a name this version does not know."""
    return WOODS.get(name, WOODS[DEFAULT_WOOD])
