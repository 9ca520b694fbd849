"""What a new part begins with, in sizes of the maker's own rule: whole millimetres, or parts of an inch.

All are common practice; the maker changes them on the drawing.
"""

from typing import Any, Final

from peristyle.core.lengths import MM_PER_INCH, Units
from peristyle.model.design import Dividers, Feet, Keys, Lid, Liner, Opening, Panel, Thing
from peristyle.model.job import Board, Saw

_IN: Final = MM_PER_INCH

_INCHES: Final[dict[type, dict[str, float]]] = {
    Board: {
        "length_mm": 48 * _IN, "width_mm": 5.5 * _IN, "thickness_mm": _IN / 2, "end_trim_mm": 3 * _IN / 8,
    },
    Panel: {
        "height_mm": _IN / 4, "depth_mm": 5 * _IN / 32, "thickness_mm": _IN / 8, "play_mm": _IN / 64,
        "fit_mm": _IN / 256,
    },
    Saw: {"kerf_mm": _IN / 8},
    Lid: {"height_mm": _IN, "kerf_mm": 3 * _IN / 32, "clean_up_mm": _IN / 64},
    Keys: {
        "thickness_mm": _IN / 8, "depth_mm": 5 * _IN / 16, "edge_margin_mm": _IN / 2, "lid_margin_mm": 5 * _IN / 64,
        "wall_margin_mm": _IN / 16,
    },
    Opening: {"up_mm": 1.5 * _IN, "width_mm": 0.75 * _IN, "high_mm": 3 * _IN / 8},
    Feet: {"size_mm": _IN, "height_mm": _IN / 2, "thickness_mm": 3 * _IN / 8},
    Liner: {"thickness_mm": 3 * _IN / 16, "height_mm": 2.375 * _IN, "gap_mm": _IN / 128},
    Dividers: {"thickness_mm": 3 * _IN / 16, "dado_mm": 5 * _IN / 64, "height_mm": 1.5 * _IN},
    Thing: {"length_mm": 1.25 * _IN, "width_mm": 0.75 * _IN, "height_mm": 1.5 * _IN, "play_mm": 5 * _IN / 64},
}  # fmt: skip


def begun(part: type, units: Units, **given: Any) -> Any:
    """A new part with the sizes it begins with in these units, and with what is `given`."""
    sizes = _INCHES.get(part, {}) if units == "in" else {}
    if part is Thing and units == "mm":
        sizes = {"length_mm": 30.0, "width_mm": 20.0, "height_mm": 40.0}
    return part(**{**sizes, **given})
