"""What a board's picture depends on. Knows no NumPy, so that naming a look costs the first paint nothing."""

from collections.abc import Callable
from typing import Literal, NamedTuple

from peristyle.reference.woods import Look as Shown
from peristyle.reference.woods import Sawn

Plane = Literal["face", "under", "leaf_1", "leaf_2"]  # what a side's faces are cut from
Surface = Literal["face", "under", "leaf_1", "leaf_2", "end"]  # what there is a picture of
Given = Callable[[str], bytes | None]


class Grown(NamedTuple):
    """What a board grows from: its species and seed, its size (mm), how it is sawn, and what it shows."""

    wood: str
    seed: int
    length_mm: float
    width_mm: float
    thickness_mm: float
    sawn: Sawn = "plain"
    looks: tuple[Shown, ...] = ()


class Look(NamedTuple):
    """What a board looks like: what it grows from or the names of its pictures, and how it lies.

    Of a board that is `part` of the one that grew, its x, y, length and width in that (mm).

    `leaves_mm` are the depths under the face at which two leaves of it show once it is resawn and surfaced.
    """

    grown: Grown
    picture: str = ""
    back: str = ""
    from_back: bool = False
    turned: bool = False
    part: tuple[float, float, float, float] | None = None
    leaves_mm: tuple[float, float] = (0.0, 0.0)
