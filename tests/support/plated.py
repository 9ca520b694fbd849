"""Boxes with latches and brackets, each thing that can be wrong with them, and their screws as solids."""

import itertools
import math
from collections.abc import Iterator
from typing import Any

import manifold3d
import numpy as np

from peristyle.model.design import (
    Brackets,
    Hinges,
    Keys,
    Latch,
    LiftOff,
    Magnets,
    Opening,
    OuterEdge,
    Panel,
    Regular,
    replace,
)
from peristyle.model.job import revised
from peristyle.planning.making.parts.plate_places import plates
from peristyle.planning.plan import Plan
from support.hung_boxes import BOX as HUNG
from support.solids import in_box, solid

BOX = revised(HUNG, hinges=None, magnets=None, latch=Latch(), brackets=Brackets())
SHOWN: list[dict[str, Any]] = [
    {},
    {"latch": Latch(count=2, in_mm=1.2), "brackets": Brackets(at="both", in_mm=1.0, screw_mm=5.0)},
    {"shape": Regular(6, 130.0), "brackets": Brackets(at="both"), "keys": Keys(count=3)},
    {"shape": Regular(3, 260.0), "brackets": Brackets(screw_mm=3.0, bore_mm=1.0)},
    {"slopes_deg": (14.0,),
     "brackets": Brackets(at="both", in_mm=0.8, screw_mm=4.0), "latch": Latch(screws=1, in_mm=0.8)},
    {"slopes_deg": (-10.0, 6.0, -10.0, 6.0), "thicknesses_mm": (14.0,),
     "hinges": Hinges(), "magnets": Magnets(inset_mm=25.0)},
]  # fmt: skip
# What is decided otherwise of the box, and the finding that says what is wrong with it.
PROVOKED: list[tuple[dict[str, Any], str]] = [
    ({"lid": None}, "latch_no_lid"), ({"lid": None, "top": None, "cover": LiftOff()}, "latch_no_lid"),
    ({"latch": Latch(screw_mm=11.5)}, "plate_screw_long"), ({"brackets": Brackets(screw_mm=30.0)}, "plate_screw_long"),
    ({"latch": Latch(in_mm=5.0)}, "plate_deep"), ({"latch": Latch(lid_mm=30.0)}, "latch_high"),
    ({"latch": Latch(body_mm=70.0)}, "latch_high"), ({"latch": Latch(wide_mm=250.0)}, "latch_no_room"),
    ({"latch": Latch(count=3, inset_mm=3.0)}, "latch_no_room"),
    ({"latch": Latch(count=4, wide_mm=60.0)}, "latch_no_room"), ({"latch": Latch(apart_mm=17.0)}, "latch_screws_off"),
    ({"brackets": Brackets(long_mm=100.0)}, "brackets_meet"), ({"brackets": Brackets(high_mm=80.0)}, "bracket_high"),
    ({"brackets": Brackets(at="top", high_mm=40.0)}, "bracket_high"),
    ({"lid": None, "latch": None, "brackets": Brackets(at="both", high_mm=60.0)}, "bracket_high"),
    ({"brackets": Brackets(screw_mm=9.5)}, "bracket_screws_cross"),
    ({"lid": None, "latch": None, "brackets": Brackets(long_mm=60.0, high_mm=60.0),
      "openings": (Opening(up_mm=50.0, along_mm=50.0),)},
     "plate_meets"),
    ({"bottom": Panel(depth_mm=5.0, height_mm=9.0), "brackets": Brackets()}, "plate_meets"),
    ({"bottom_edge": OuterEdge(size_mm=4.0)}, "plate_meets"),
]  # fmt: skip


def screws(made: Plan) -> Iterator[tuple[str, manifold3d.Manifold]]:
    """Every screw, a hair thinner than its hole, as it sits in the box."""
    places = {piece.id: piece.place for piece in made.pieces}
    turns = [math.tau * k / 24 for k in range(24)]
    for plate in plates(made):
        place, radius = places[f"side.{plate.side.name}"], plate.bore_mm * 0.49
        for x, y in plate.screws:
            corners = [
                place.of((x + radius * math.cos(t), y + radius * math.sin(t), z))
                for t in turns for z in (plate.in_mm, plate.in_mm + plate.screw_mm - 0.01)
            ]  # fmt: skip
            yield plate.name, manifold3d.Manifold.hull_points(np.array(corners))


def troubles(made: Plan) -> Iterator[str]:
    """Screws that are not bored for, out of the wood, in a key or in each other."""
    wood = {p.id: in_box(p, solid(p)) for p in made.pieces}
    bare = [
        in_box(p, solid(p, without=("pilot", "slot", "lid_kerf"))) for p in made.pieces if p.part == "side"
    ]
    whole = manifold3d.Manifold.batch_boolean(bare, manifold3d.OpType.Add)
    every = list(screws(made))
    for name, screw in every:
        if (screw ^ whole).volume() < 0.999 * screw.volume():
            yield f"{name}: a screw comes out of the wood"
        for piece, solid_ in wood.items():
            if (screw ^ solid_).volume() > 1e-3 and not piece.startswith("side."):
                yield f"{name}: a screw goes into {piece}"
            if (screw ^ solid_).volume() > 1e-3 and piece == f"side.{name}":
                yield f"{name}: a screw has no hole"
    for (one, a), (other, b) in itertools.combinations(every, 2):
        if (a ^ b).volume() > 1e-4:
            yield f"{one} meets {other}"


def longer(made: Plan, by_mm: float) -> Plan:
    """The same plan with its screws longer than they were planned."""
    section = made.job.design.section
    assert section.latch is not None
    changed = replace(section.latch, screw_mm=section.latch.screw_mm + by_mm)
    return replace(made, job=revised(made.job, latch=changed))  # type: ignore[no-any-return]
