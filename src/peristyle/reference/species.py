"""How much woods swell and shrink: coefficients for dimensional change, 6 to 14 % moisture content.

Source: Wood Handbook (US Forest Products Laboratory, FPL-GTR-282, 2021), chapter 13, table of coefficients for
dimensional change. All values are from memory, none was looked up; those of single domestic species agree with
C = S/(3000 − 20·S) from their whole shrinkage, those of groups and of imported woods stray, and one is doubtful.
"""

from typing import Final, NamedTuple


class Species(NamedTuple):
    """Change for 1 % of moisture content, as a share of the width: along the rings' radius, and along the rings."""

    radial: float
    tangential: float
    doubtful: bool = False


SPECIES: Final[dict[str, Species]] = {
    "american beech": Species(0.00190, 0.00431),
    "black cherry": Species(0.00126, 0.00248),
    "black walnut": Species(0.00190, 0.00274),
    "commercial red oak": Species(0.00158, 0.00369),
    "eastern white pine": Species(0.00071, 0.00212),
    "northern red oak": Species(0.00137, 0.00294, doubtful=True),
    "red maple": Species(0.00137, 0.00289),
    "sugar maple": Species(0.00165, 0.00353),
    "teak": Species(0.00101, 0.00186),
    "white ash": Species(0.00169, 0.00274),
    "white oak": Species(0.00180, 0.00365),
    "yellow birch": Species(0.00256, 0.00338),
    "yellow-poplar": Species(0.00158, 0.00289),
}

# What the pictures of boards call a wood, and the species it is here; the others are not known to the table.
SHORT: Final[dict[str, str]] = {
    "beech": "american beech", "cherry": "black cherry", "walnut": "black walnut", "pine": "eastern white pine",
    "maple": "sugar maple", "ash": "white ash", "birch": "yellow birch", "poplar": "yellow-poplar",
}  # fmt: skip
