"""A box whose sides are to be moulded, and each thing that can be wrong with that."""

from typing import Any

from peristyle.model.design import Moulding, Panel, Regular
from peristyle.model.job import Saw, revised
from peristyle.model.stock import Board
from support.edged import BOX

MOULDED = revised(
    BOX, top=None, lid=None, thicknesses_mm=(15.0,), bottom=Panel(height_mm=5.0, depth_mm=4.0),
    board=Board(length_mm=6000.0, width_mm=300.0, thickness_mm=20.0),
)  # fmt: skip
_FOOT = Moulding(ups_mm=(20.0, 20.0, 60.0), ins_mm=(0.0, 3.0, 3.0))

# What is decided otherwise of it, and the finding that says what is wrong.
PROVOKED: list[tuple[dict[str, Any], str]] = [
    ({"moulding": Moulding(ups_mm=(5.0,), ins_mm=(1.0,))}, "moulding_no_line"),
    ({"moulding": Moulding(ups_mm=(9.0, 5.0), ins_mm=(1.0, 2.0))}, "moulding_no_line"),
    ({"moulding": _FOOT, "thicknesses_mm": (15.0, 12.0, 15.0, 12.0)}, "moulding_unlike"),
    ({"moulding": Moulding(ups_mm=(20.0, 140.0), ins_mm=(0.0, 3.0))}, "moulding_high"),
    ({"moulding": Moulding(ups_mm=(20.0, 20.0, 60.0), ins_mm=(0.0, 13.0, 13.0))}, "moulding_deep"),
    ({"moulding": Moulding(ups_mm=(0.0, 30.0), ins_mm=(11.5, 11.0)), "bottom": Panel(height_mm=12.0, depth_mm=4.0)},
     "moulding_meets"),
    ({"moulding": Moulding(ups_mm=(20.0, 20.0, 60.0), ins_mm=(0.0, 9.0, 9.0)), "bottom": Panel(height_mm=30.0,
                                                                                            depth_mm=4.5)},
     "moulding_near"),
    ({"moulding": Moulding(ups_mm=(0.0, 8.0, 14.0), ins_mm=(4.0, 4.0, 0.0)), "saw": Saw()}, "moulding_no_arris"),
    ({"moulding": _FOOT, "shape": Regular(3, 200.0)}, "moulding_lies"),
    ({"moulding": _FOOT, "board": Board(length_mm=6000.0, width_mm=900.0, thickness_mm=20.0, method="upright")},
     "moulding_lies"),
]  # fmt: skip
