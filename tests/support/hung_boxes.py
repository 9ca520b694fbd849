"""Boxes with hinges and magnets, and each thing that can be wrong with them."""

from typing import Any

from peristyle.model.design import (
    Dividers,
    Flat,
    Gable,
    Hinges,
    Lid,
    Liner,
    Magnets,
    Panel,
    Rectangle,
    Regular,
    Split,
    Tray,
    replace,
)
from peristyle.model.job import job_of, revised
from peristyle.model.stock import Board

BOX = job_of(
    shape=Rectangle(240.0, 160.0), height_mm=100.0, thicknesses_mm=(12.0,), bottom=Panel(), top=Panel(),
    lid=Lid(height_mm=30.0),
    hinges=Hinges(), magnets=Magnets(), board=Board(length_mm=4000.0, width_mm=200.0, thickness_mm=16.0),
)  # fmt: skip
QUADRANTS = Hinges(pattern="quadrant", length_mm=32.0, leaf_mm=8.0, thick_mm=1.5, leg_wide_mm=5.0)
BARRELS = Hinges(pattern="barrel", barrel_mm=5.0, in_mm=6.0, deep_mm=9.0)
# What is decided otherwise of the box, and the finding that says what is wrong with it.
PROVOKED: list[tuple[dict[str, Any], str]] = [
        ({"hinges": Hinges(leaf_mm=14.0)}, "hinge_leaf_wide"), ({"hinges": Hinges(leaf_mm=3.0)}, "hinge_leaf_narrow"),
        ({"hinges": Hinges(barrel_mm=8.0, out_mm=0.5)}, "hinge_barrel_in"),
        ({"hinges": Hinges(screw_mm=40.0)}, "hinge_screw_long"),
        ({"hinges": Hinges(inset_mm=4.0)}, "hinges_no_room"), ({"hinges": Hinges(count=12)}, "hinges_no_room"),
        ({"magnets": Magnets(wide_mm=11.0)}, "magnet_wall_thin"), ({"magnets": Magnets(thick_mm=40.0)}, "magnet_deep"),
        ({"magnets": Magnets(inset_mm=3.0)}, "magnets_no_room"),
        ({"magnets": Magnets(side=2, inset_mm=40.0)}, "magnet_in_hinge"),
        ({"lid": None, "top": None}, "hinges_no_lid"), ({"lid": None, "top": None, "hinges": None}, "magnets_no_lid"),
        ({"lid": None, "top": None, "cover": Flat(thickness_mm=3.0), "magnets": None}, "hinge_barrel_through"),
        ({"shape": Regular(6, 130.0), "hinges": QUADRANTS}, "quadrant_corner"),
        ({"hinges": replace(QUADRANTS, length_mm=125.0)}, "quadrants_no_room"),
        ({"hinges": replace(QUADRANTS, leg_mm=6.0)}, "leg_short"),
        ({"hinges": replace(QUADRANTS, leg_mm=170.0)}, "leg_long"),
        ({"hinges": replace(QUADRANTS, leg_wide_mm=11.0)}, "leg_wide"),
        ({"hinges": replace(QUADRANTS, stay_wide_mm=6.0)}, "stay_wide"),
        ({"hinges": replace(QUADRANTS, stay_mm=40.0)}, "stay_deep"),
        ({"hinges": QUADRANTS, "magnets": Magnets(side=1, inset_mm=20.0)}, "magnet_in_hinge"),
        ({"hinges": replace(BARRELS, in_mm=3.0)}, "barrel_wall_thin"),
        ({"hinges": replace(BARRELS, deep_mm=40.0)}, "barrel_deep"),
        ({"hinges": replace(BARRELS, inset_mm=3.0)}, "hinges_no_room"),
        ({"hinges": replace(BARRELS, in_mm=9.0), "lid": Lid(height_mm=10.0), "top": None,
          "thicknesses_mm": (16.0,)}, "barrel_bevel_high"),
        ({"lid": None, "top": None, "cover": Flat(), "magnets": None, "hinges": BARRELS}, "barrel_board"),
        ({"liner": Liner(height_mm=74.0, gap_mm=0.2), "top": None}, "hinge_lip_binds"),
        ({"liner": Liner(height_mm=60.0), "tray": Tray(height_mm=16.0), "top": None}, "hinge_lip_binds"),
        ({"dividers": Dividers(height_mm=74.0), "top": None}, "hinge_lip_binds"),
    ]  # fmt: skip

SEAMED = revised(BOX, lid=None, top=None, magnets=None, cover=Split(fixed_mm=50.0, gap_mm=0.4),
                 hinges=Hinges(out_mm=2.5, leaf_mm=7.0, thick_mm=1.2))  # fmt: skip
ROOFED = revised(SEAMED, cover=Gable(), shape=Rectangle(200.0, 140.0))
# The same of hinges between the boards of a lid.
SEAM_PROVOKED: list[tuple[dict[str, Any], str]] = [
        ({"hinges": QUADRANTS}, "seam_butts"), ({"hinges": Hinges(leaf_mm=12.0, out_mm=2.0)}, "seam_leaf_wide"),
        ({"hinges": Hinges(leaf_mm=4.0, out_mm=2.0)}, "hinge_leaf_narrow"),
        ({"hinges": Hinges(leaf_mm=7.0, out_mm=1.0)}, "seam_barrel_in"),
        ({"cover": Split(gap_mm=6.0)}, "seam_gap_wide"),
        ({"hinges": Hinges(count=9, out_mm=2.0, leaf_mm=7.0)}, "seam_no_room"),
        ({"hinges": Hinges(inset_mm=0.0, out_mm=2.0, leaf_mm=7.0)}, "seam_no_room"),
        ({"cover": Split(fixed_mm=9.0), "hinges": Hinges(screw_mm=30.0, out_mm=2.0, leaf_mm=7.0)}, "seam_screw_long"),
    ]  # fmt: skip
