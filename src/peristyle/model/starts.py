"""What a new part begins with, in sizes of the maker's own rule: whole millimetres, or parts of an inch.

All are common practice; the maker changes them on the drawing.
"""

from fractions import Fraction
from typing import Any, Final

from peristyle.core.lengths import Units
from peristyle.model.design import (
    Brackets,
    CornerBlocks,
    Dividers,
    DropIn,
    EdgeProfile,
    FalseFloor,
    Feet,
    Fillets,
    Flat,
    Gable,
    Handle,
    Hinges,
    Inlay,
    Insert,
    Keys,
    Latch,
    Lid,
    LiftOff,
    Liner,
    Magnets,
    Moulding,
    Opening,
    OuterEdge,
    Panel,
    Sliding,
    Splines,
    Split,
    Strip,
    Thing,
    Tray,
)
from peristyle.model.job import Saw
from peristyle.model.stock import Board
from peristyle.model.tools import STARTING, BandSaw, Bit, Blade, Clamp, DadoSet, HandSaw, Thicknesser, Tool

_IN: Final = Fraction(254, 10)  # exact, so that ¾ in to begin with is the ¾ in that a maker types

_INCHES: Final[dict[type, dict[str, Fraction]]] = {
    Board: {
        "length_mm": 48 * _IN, "width_mm": 11 * _IN / 2, "thickness_mm": _IN / 2, "end_trim_mm": 3 * _IN / 8,
    },
    Panel: {
        "height_mm": _IN / 4, "depth_mm": 5 * _IN / 32, "thickness_mm": _IN / 8, "play_mm": _IN / 64,
        "fit_mm": _IN / 256,
    },
    FalseFloor: {
        "height_mm": _IN / 2, "thickness_mm": _IN / 8, "play_mm": _IN / 64, "ledge_mm": _IN / 4, "hole_mm": 5 * _IN / 8,
    },
    EdgeProfile: {"size_mm": _IN / 16},
    OuterEdge: {"size_mm": _IN / 8},
    Inlay: {"length_mm": 5 * _IN / 2, "width_mm": 5 * _IN / 4, "thickness_mm": _IN / 8, "pocket_mm": 5 * _IN / 64},
    Handle: {
        "length_mm": 5 * _IN / 2, "apart_mm": 5 * _IN / 2, "bore_mm": 5 * _IN / 32, "screw_mm": 3 * _IN / 4,
        "bites_mm": 5 * _IN / 16, "washer_mm": 3 * _IN / 64,
    },
    Hinges: {
        "length_mm": _IN, "leaf_mm": 3 * _IN / 8, "thick_mm": 3 * _IN / 64, "barrel_mm": 5 * _IN / 32,
        "out_mm": _IN / 16,
        "screw_mm": 3 * _IN / 8, "inset_mm": 5 * _IN / 4,
        "leg_mm": 5 * _IN / 4, "leg_wide_mm": _IN / 4, "leg_in_mm": 3 * _IN / 32, "stay_mm": 3 * _IN / 16,
        "stay_wide_mm": 5 * _IN / 64, "in_mm": _IN / 4, "deep_mm": 3 * _IN / 8,
    },
    Latch: {
        "wide_mm": 11 * _IN / 16, "body_mm": 9 * _IN / 16, "lid_mm": _IN / 2, "apart_mm": 3 * _IN / 8,
        "screw_mm": _IN / 4, "bore_mm": 3 * _IN / 64, "inset_mm": 3 * _IN / 2,
    },
    Brackets: {
        "long_mm": 15 * _IN / 16, "high_mm": 3 * _IN / 4, "screw_mm": _IN / 4, "bore_mm": 3 * _IN / 64,
    },
    Magnets: {"wide_mm": 3 * _IN / 16, "thick_mm": _IN / 8, "under_mm": _IN / 128, "inset_mm": 3 * _IN / 4},
    Strip: {"height_mm": 5 * _IN / 64, "over_mm": _IN / 32},
    LiftOff: {
        "thickness_mm": 5 * _IN / 16, "overhang_mm": 3 * _IN / 16, "plug_mm": _IN / 4, "fit_mm": _IN / 64,
    },
    DropIn: {
        "thickness_mm": _IN / 4, "ledge_mm": 3 * _IN / 16, "play_mm": _IN / 64, "hole_mm": 3 * _IN / 4,
    },
    Insert: {"thickness_mm": _IN / 4, "ledge_mm": 3 * _IN / 16, "play_mm": _IN / 64},
    Flat: {"thickness_mm": 5 * _IN / 16, "overhang_mm": 3 * _IN / 16},
    Split: {
        "thickness_mm": 5 * _IN / 16, "overhang_mm": 3 * _IN / 16, "fixed_mm": 3 * _IN / 2, "gap_mm": _IN / 64,
    },
    Sliding: {
        "height_mm": 3 * _IN / 16, "depth_mm": 5 * _IN / 32, "thickness_mm": 3 * _IN / 16, "play_mm": _IN / 64,
        "fit_mm": _IN / 64, "notch_mm": 3 * _IN / 4,
    },
    Gable: {"thickness_mm": 5 * _IN / 16, "overhang_mm": _IN / 2, "ends_mm": 3 * _IN / 8},
    Saw: {"kerf_mm": _IN / 8, "least_mm": 12 * _IN},
    Blade: {"kerf_mm": 3 * _IN / 32},
    DadoSet: {"least_mm": _IN / 4, "most_mm": 13 * _IN / 16},
    BandSaw: {"kerf_mm": _IN / 32, "high_mm": 6 * _IN},
    HandSaw: {"kerf_mm": _IN / 32},
    Bit: {"width_mm": _IN / 4},
    Thicknesser: {"least_mm": 9 * _IN / 4, "pass_mm": _IN / 64},
    Clamp: {"opens_mm": 156 * _IN},
    Lid: {"height_mm": _IN, "kerf_mm": 3 * _IN / 32, "clean_up_mm": _IN / 64},
    Keys: {
        "thickness_mm": _IN / 8, "depth_mm": 5 * _IN / 16, "edge_margin_mm": _IN / 2, "lid_margin_mm": 5 * _IN / 64,
        "wall_margin_mm": _IN / 16, "spacing_mm": 9 * _IN / 8,
    },
    Splines: {
        "thickness_mm": _IN / 8, "depth_mm": _IN / 4, "place_mm": 3 * _IN / 16, "apart_mm": _IN / 4,
        "wall_margin_mm": 5 * _IN / 64,
    },
    CornerBlocks: {"leg_mm": _IN / 2, "below_mm": _IN / 8},
    Opening: {"up_mm": 3 * _IN / 2, "width_mm": 3 * _IN / 4, "high_mm": 3 * _IN / 8},
    Feet: {"size_mm": _IN, "height_mm": _IN / 2, "thickness_mm": 3 * _IN / 8},
    Fillets: {"thickness_mm": 3 * _IN / 16, "height_mm": 5 * _IN / 16},
    Tray: {
        "height_mm": 5 * _IN / 8, "thickness_mm": 3 * _IN / 16, "bottom_mm": _IN / 8, "gap_mm": _IN / 64,
    },
    Liner: {"thickness_mm": 3 * _IN / 16, "height_mm": 19 * _IN / 8, "gap_mm": _IN / 128},
    Dividers: {"thickness_mm": 3 * _IN / 16, "dado_mm": 5 * _IN / 64, "height_mm": 3 * _IN / 2},
    Thing: {"length_mm": 5 * _IN / 4, "width_mm": 3 * _IN / 4, "height_mm": 3 * _IN / 2, "play_mm": 5 * _IN / 64},
}  # fmt: skip


_LISTS: Final[dict[type, dict[str, tuple[Fraction, ...]]]] = {
    Moulding: {
        "ups_mm": (3 * _IN / 8, 9 * _IN / 16, 7 * _IN / 8, 17 * _IN / 16),
        "ins_mm": (0 * _IN, _IN / 16, _IN / 16, 0 * _IN),
    }
}


def begun(part: type, units: Units, **given: Any) -> Any:
    """A new part with the sizes it begins with in these units, and with what is `given`."""
    sizes: dict[str, Any] = {}
    if units == "in":
        sizes = {name: float(size) for name, size in _INCHES.get(part, {}).items()}
        sizes |= {name: tuple(map(float, many)) for name, many in _LISTS.get(part, {}).items()}
    if part is Thing and units == "mm":
        sizes = {"length_mm": 30.0, "width_mm": 20.0, "height_mm": 40.0}
    return part(**{**sizes, **given})


def tools_in(units: Units) -> tuple[Tool, ...]:
    """A sensible few tools to begin with, in the maker's own rule."""
    if units == "mm":
        return STARTING
    tools: tuple[Tool, ...] = (
        begun(Blade, units),
        begun(DadoSet, units),
        begun(BandSaw, units),
        begun(HandSaw, units),
        begun(Bit, units, name="Straight bit ¼"),
        begun(Bit, units, name="Straight bit ⅛", width_mm=float(_IN / 8)),
        begun(Bit, units, name="Dovetail bit", cuts="dovetail", width_mm=float(_IN / 2), angle_deg=14.0),
        begun(Thicknesser, units),
        begun(
            Thicknesser, units, name="Planer", works="planer", least_mm=float(12 * _IN), snipe_mm=float(5 * _IN / 2),
            pass_mm=float(_IN / 32),
        ),
        begun(Clamp, units),
        begun(Clamp, units, name="Bar clamps", holds="bar", count=6, opens_mm=float(24 * _IN)),
    )  # fmt: skip
    return tools
