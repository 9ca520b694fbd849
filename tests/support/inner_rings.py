"""Boxes with fillets and trays, and each thing that can be wrong with them."""

from typing import Any

from peristyle.model.design import (
    CornerBlocks,
    Dividers,
    DropIn,
    FalseFloor,
    Fillets,
    Insert,
    LiftOff,
    Liner,
    Opening,
    Rectangle,
    Regular,
    Thing,
    Tray,
)
from peristyle.model.job import revised
from support.hung_boxes import BOX as HUNG

BOX = revised(HUNG, hinges=None, magnets=None)
LOW = Fillets(below_mm=20.0)
_THINGS = (Thing(length_mm=50.0, width_mm=30.0, height_mm=20.0, count=4),)
SHOWN: list[dict[str, Any]] = [
    {"fillets": LOW, "tray": Tray()},
    {"liner": Liner(height_mm=40.0), "tray": Tray()},
    {"fillets": LOW, "tray": Tray(), "slopes_deg": (9.0,)},
    {"fillets": LOW, "tray": Tray(gap_mm=3.0), "slopes_deg": (-9.0,)},
    {"fillets": LOW, "tray": Tray(), "shape": Regular(7, 90.0)},
    {"fillets": LOW, "tray": Tray(), "shape": Rectangle(300.0, 150.0), "thicknesses_mm": (9.0,)},
    {"lid": None, "top": None, "cover": Insert(), "fillets": Fillets()},
    {"lid": None, "top": None, "cover": DropIn(), "fillets": Fillets(), "shape": Regular(6, 120.0)},
    {"liner": Liner(height_mm=30.0), "false_floor": FalseFloor()},
]
# What is decided otherwise of the box, and the finding that says what is wrong with it.
PROVOKED: list[tuple[dict[str, Any], str]] = [
    ({"fillets": Fillets(thickness_mm=90.0)}, "fillets_cannot_be"),
    ({"fillets": Fillets(below_mm=55.0)}, "fillets_low"),
    ({"fillets": Fillets(height_mm=60.0)}, "fillets_low"),
    ({"fillets": LOW, "liner": Liner(height_mm=40.0)}, "fillets_liner"),
    ({"fillets": Fillets(below_mm=30.0), "contents": _THINGS}, "fillets_meet"),
    ({"fillets": Fillets(height_mm=4.0), "contents": _THINGS}, "fillets_narrow"),
    ({"fillets": Fillets(height_mm=4.0), "dividers": Dividers(height_mm=30.0)}, "fillets_narrow"),
    ({"fillets": Fillets(height_mm=4.0), "false_floor": FalseFloor()}, "false_floor_shut"),
    ({"tray": Tray(height_mm=4.0), "fillets": LOW}, "tray_shallow"),
    ({"tray": Tray(thickness_mm=90.0), "fillets": LOW}, "tray_cannot_be"), ({"tray": Tray()}, "tray_on_nothing"),
    ({"tray": Tray(), "liner": Liner(height_mm=15.0), "contents": _THINGS}, "tray_meets"),
    ({"tray": Tray(height_mm=60.0), "fillets": LOW}, "tray_high"),
    ({"tray": Tray(height_mm=60.0), "liner": Liner(height_mm=50.0)}, "tray_high"),
    ({"tray": Tray(gap_mm=4.0), "fillets": LOW}, "tray_falls"),
    ({"tray": Tray(gap_mm=4.0), "liner": Liner(height_mm=40.0)}, "tray_falls"),
    ({"tray": Tray(), "fillets": LOW, "slopes_deg": (-9.0,)}, "tray_mouth"),
    ({"fillets": LOW, "corner_blocks": CornerBlocks()}, "inner_blocks"),
    ({"fillets": LOW, "openings": (Opening(up_mm=45.0),)}, "inner_opening"),
    ({"fillets": LOW, "openings": (Opening(kind="notch", high_mm=24.0),)}, "inner_opening"),
    ({"lid": None, "tray": Tray(), "fillets": LOW}, "sealed"), ({"fillets": LOW, "lining_mm": 2.0}, "lining_meets"),
    ({"lid": None, "top": None, "cover": LiftOff(), "tray": Tray(height_mm=40.0), "fillets": LOW}, "tray_high"),
]  # fmt: skip
