"""What bevels are cut with, beside a blade that tilts freely."""

from typing import Final

# Angles (degrees) that chamfer bits are sold in, and a shooting board's usual blocks: common practice.
USUAL_ANGLES: Final[dict[str, tuple[float, ...]]] = {
    "chamfer_bit": (11.25, 15.0, 22.5, 30.0, 45.0),
    "shooting_board": (22.5, 30.0, 45.0),
}

# What has the bevel's angle, for settings and pictures.
ANGLE_WORDS: Final[dict[str, str]] = {
    "table_saw": "tilt", "miter_saw": "tilt", "chamfer_bit": "bit", "shooting_board": "block",
}  # fmt: skip
