"""Boxes with inlays and handles, and each thing that can be wrong with them."""

from typing import Any

from peristyle.model.design import (
    DropIn,
    Flat,
    Gable,
    Handle,
    Inlay,
    Insert,
    Lid,
    LiftOff,
    Opening,
    OuterEdge,
    Panel,
    Regular,
)
from peristyle.model.job import revised
from support.edged import BOX

COVERED = revised(BOX, lid=None, top=None, cover=LiftOff(thickness_mm=9.0))
FACES = [
    revised(BOX, top=Panel(seat="applied", thickness_mm=8.0)),
    COVERED,
    revised(COVERED, cover=DropIn(thickness_mm=8.0, hole_mm=0.0), shape=Regular(6, 130.0)),
    revised(COVERED, cover=Flat(), slopes_deg=(9.0,)),
    revised(BOX, top=Panel(thickness_mm=6.0), lid=Lid()),
]
# What is decided otherwise of the covered box, and the finding that says what is wrong with it.
PROVOKED: list[tuple[dict[str, Any], str]] = [
    ({"cover": Gable(), "inlay": Inlay()}, "fitting_no_face"),
    ({"cover": Insert(), "inlay": Inlay()}, "fitting_no_face"),
    ({"inlay": Inlay(pocket_mm=3.0)}, "inlay_sunk"),
    ({"inlay": Inlay(thickness_mm=9.0, pocket_mm=8.0)}, "inlay_deep"),
    ({"inlay": Inlay(on="front", pocket_mm=10.5, thickness_mm=12.0)}, "inlay_deep"),
    ({"inlay": Inlay(along_mm=110.0)}, "fitting_off_face"),
    ({"inlay": Inlay(), "handle": Handle()}, "fitting_meets"),
    ({"cover": DropIn(), "inlay": Inlay()}, "fitting_meets"),
    ({"top_edge": OuterEdge(size_mm=4.0), "inlay": Inlay(along_mm=85.0)}, "fitting_meets"),
    ({"openings": (Opening(up_mm=50.0),), "inlay": Inlay(on="front")}, "fitting_meets"),
    ({"shape": Regular(12, 60.0), "handle": Handle(kind="wedge")}, "handle_no_wedge"),
    ({"handle": Handle(kind="wedge", length_mm=120.0)}, "handle_long"),
    ({"handle": Handle(screw_mm=8.0)}, "handle_screw_short"),
]  # fmt: skip
