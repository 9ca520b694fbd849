"""How the woods look: colours and structure for the pictures the program grows.

Where pores lie, how sharply the late wood ends and which woods show their rays is common knowledge of the trade
(common practice, no source); the colours are invented to look believable.
"""

from typing import Final, Literal, NamedTuple

Pores = Literal["ring", "half_ring", "scattered", "none"]
Sawn = Literal["plain", "quarter", "rift"]
Look = Literal["sapwood", "knots", "streaks", "spalting", "curl"]
Colour = tuple[int, int, int]


class Wood(NamedTuple):
    """One species, for the eye.

    Colours (0-255 RGB) of early and late wood and of sap; `ring_mm` the usual spacing of the annual rings;
    `late_from` the share of a year's growth at which its late wood begins, and `late_rise` how suddenly it comes;
    `contrast` how much of the late colour shows. `pores` says where in the year they lie, `pore_dark` how dark
    they are, `pore_mm` how long they look along the grain, `pore_wide_mm` how wide. `ray` is how much the flecks
    show on a quartered face, `ray_mm` the length of the dark ray ends on a plain-sawn one; `ribbon` the
    stripe of interlocked grain.
    """

    words: str
    early: Colour
    late: Colour
    sap: Colour
    ring_mm: float
    late_from: float
    late_rise: float
    contrast: float
    pores: Pores
    pore_dark: float
    pore_mm: float
    pore_wide_mm: float
    ray: float = 0.0
    ray_mm: float = 0.0
    ribbon: float = 0.0


WOODS: Final[dict[str, Wood]] = {
    "cherry": Wood("Cherry", (199, 142, 100), (160, 99, 63), (226, 196, 160), 2.8, 0.45, 2.2, 0.62,
                   "scattered", 0.10, 1.2, 0.12, 0.25, 0.6),
    "walnut": Wood("Walnut", (126, 91, 66), (74, 50, 36), (203, 176, 140), 3.4, 0.25, 1.6, 0.75,
                   "half_ring", 0.42, 7.0, 0.22),
    "ash": Wood("Ash", (228, 208, 174), (188, 156, 112), (236, 222, 194), 3.6, 0.22, 0.8, 0.85,
                "ring", 0.30, 6.0, 0.24),
    "maple": Wood("Maple", (231, 211, 178), (205, 172, 132), (240, 226, 200), 2.6, 0.80, 1.2, 0.55,
                  "scattered", 0.05, 0.8, 0.1, 0.22, 0.8),
    "oak": Wood("Oak", (205, 170, 122), (168, 130, 84), (226, 204, 166), 2.8, 0.30, 0.9, 0.72,
                "ring", 0.42, 8.0, 0.28, 1.0, 9.0),
    "pear": Wood("Pear", (210, 162, 130), (190, 134, 103), (226, 190, 162), 2.2, 0.70, 1.5, 0.5,
                 "scattered", 0.03, 0.6, 0.1, 0.12, 0.4),
    "beech": Wood("Beech", (220, 184, 146), (196, 152, 112), (228, 200, 166), 2.8, 0.65, 1.4, 0.5,
                  "scattered", 0.04, 0.8, 0.1, 0.55, 2.2),
    "elm": Wood("Elm", (186, 150, 108), (146, 106, 70), (220, 196, 156), 3.8, 0.20, 0.8, 0.8,
                "ring", 0.36, 5.0, 0.24, 0.15, 0.8),
    "pine": Wood("Pine", (238, 211, 162), (196, 138, 78), (243, 225, 188), 3.0, 0.52, 1.7, 0.95,
                 "none", 0.0, 0.0, 0.0),
    "sapele": Wood("Sapele", (160, 94, 64), (120, 62, 42), (214, 180, 146), 4.5, 0.40, 1.4, 0.35,
                   "scattered", 0.24, 3.0, 0.16, 0.2, 0.5, 0.9),
}  # fmt: skip

DEFAULT_WOOD: Final = "cherry"


def wood_named(name: str) -> Wood:
    """The wood of that name, or the default for a name this version does not know."""
    return WOODS.get(name, WOODS[DEFAULT_WOOD])
