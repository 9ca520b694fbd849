"""The sizes of hinges, magnets, latches and brackets, as fields with short words before them."""

from collections.abc import Mapping
from typing import Final

from peristyle.model.fields import Field, part_field, part_row
from peristyle.model.hardware import HingePattern

Row = tuple[tuple[str, Field], ...]


def _hinge(prefix: str, name: str, label: str, why: str, step: float) -> tuple[str, Field]:
    return prefix, part_field("hinges", name, label, why, step=step)


_LENGTH: Final = _hinge("hinges", "length_mm", "Hinge length", "Along the side.", 1.0)
_SET_IN: Final = _hinge("set in", "inset_mm", "Hinges set in", "The outer ones from the side's ends.", 1.0)
_LEAF: Final = (
    _hinge("leaf", "leaf_mm", "Leaf", "From the axis to the leaf's edge.", 0.5),
    _hinge("leaf thick", "thick_mm", "Leaf thickness", "How deep its mortise is.", 0.1),
    _hinge("barrel", "barrel_mm", "Barrel", "Its diameter.", 0.5),
    _hinge("axis out", "out_mm", "Axis out", "How far the axis lies outside the side's face.", 0.5),
    _hinge("screws", "screw_mm", "Screws", "How long they are.", 1.0),
)
HINGES: Final[Mapping[HingePattern, tuple[Row, ...]]] = {
    "butt": ((_LENGTH, _SET_IN, *_LEAF),),
    "quadrant": (
        (_LENGTH, *_LEAF),
        (
            _hinge("legs", "leg_mm", "Leg", "From the hinged side's face to the leg's end.", 1.0),
            _hinge("wide", "leg_wide_mm", "Leg width", "How wide the leg is.", 0.5),
            _hinge("in", "leg_in_mm", "Leg in from the face", "Of the side it lies in.", 0.5),
            _hinge("stay", "stay_mm", "Stay's slot", "How much deeper than the leaf; 0 is none.", 0.5),
            _hinge("stay wide", "stay_wide_mm", "Stay's slot, width", "How wide it is.", 0.5),
        ),
    ),
    "barrel": (
        (
            _hinge("barrels", "barrel_mm", "Barrel", "Its diameter: that of the bore.", 0.5),
            _SET_IN,
            _hinge(
                "axis in", "in_mm", "Axis in", "How far in from the side's face the bores' middles are.", 0.5
            ),
            _hinge("deep", "deep_mm", "Bore", "How deep it goes into each rim.", 0.5),
        ),
    ),
}
MAGNETS: Final[Row] = part_row(
    "magnets",
    ("magnets", "wide_mm", "Magnet", "Its diameter.", 0.5),
    ("thick", "thick_mm", "Magnet thickness", "As deep as its pocket, with what it lies under.", 0.5),
    ("set in", "inset_mm", "Magnets set in", "Middles of the outer ones from the side's ends.", 1.0),
)
LATCH: Final[Row] = part_row(
    "latch",
    ("latch", "wide_mm", "Latch width", "Along the side.", 1.0),
    ("body", "body_mm", "Latch on the body", "How far it reaches under the joint.", 0.5),
    ("lid", "lid_mm", "Latch on the lid", "How far it reaches over the joint.", 0.5),
    ("let in", "in_mm", "Latch let in", "How deep; 0 leaves it on the face.", 0.1),
    ("apart", "apart_mm", "Latch's screws apart", "Those of one half.", 0.5),
    ("screws", "screw_mm", "Latch's screws", "How long they are.", 0.5),
    ("bit", "bore_mm", "Latch's bit", "For its screws.", 0.1),
)
BRACKETS: Final[Row] = part_row(
    "brackets",
    ("brackets", "long_mm", "Bracket", "How far it reaches along both sides.", 1.0),
    ("high", "high_mm", "Bracket height", "Along the face.", 1.0),
    ("let in", "in_mm", "Brackets let in", "How deep; 0 leaves them on the faces.", 0.1),
    ("screws", "screw_mm", "Brackets' screws", "How long they are.", 0.5),
    ("bit", "bore_mm", "Brackets' bit", "For their screws.", 0.1),
)
