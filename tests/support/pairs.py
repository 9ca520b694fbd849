"""Every kind meets every other: pairs of what a box can have, on every ring, under every lid, as solids in the box."""

import itertools
import random
from collections import Counter
from collections.abc import Iterator
from typing import Any

import manifold3d

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
    LiftOff,
    Liner,
    Magnets,
    Moulding,
    Opening,
    OuterEdge,
    Outline,
    Panel,
    Rectangle,
    Regular,
    Sliding,
    Splines,
    Split,
    Tray,
)
from peristyle.model.job import Job, revised
from peristyle.model.stock import Board
from peristyle.planning.plan import Plan, plan
from support.edged import BOX
from support.solids import placed

BASE = revised(BOX, thicknesses_mm=(14.0,), board=Board(length_mm=6000.0, width_mm=300.0, thickness_mm=20.0))
RINGS: list[dict[str, Any]] = [
    {"shape": Rectangle(240.0, 160.0)}, {"shape": Regular(6, 130.0)}, {"shape": Regular(3, 300.0)},
    {"shape": Regular(11, 80.0)}, {"slopes_deg": (9.0,)}, {"slopes_deg": (-8.0,)},
    {"shape": Outline((160.0, 130.0, None, None), (95.0, 90.0, 82.0, None))},
    {"thicknesses_mm": (14.0, 11.0, 13.0, 12.0)},
]  # fmt: skip
CLOSED: list[dict[str, Any]] = [
    {}, {"lid": None, "top": None}, {"top": Panel(seat="applied", thickness_mm=8.0)},
    {"top": Panel(seat="rabbet", thickness_mm=5.0, depth_mm=5.0)},
    *({"lid": None, "top": None, "cover": cover}
      for cover in (LiftOff(), DropIn(), Insert(), Flat(), Split(), Sliding(), Gable())),
]  # fmt: skip
_PARTS: dict[str, dict[str, Any]] = {
    "edges": {"bottom_edge": OuterEdge(size_mm=3.0), "top_edge": OuterEdge(kind="round_over", size_mm=3.0)},
    "rims": {"rim_edge": EdgeProfile(size_mm=2.0), "lid_edges": EdgeProfile(size_mm=1.5)},
    "moulding": {"moulding": Moulding(ups_mm=(20.0, 20.0, 60.0), ins_mm=(0.0, 2.0, 2.0))},
    "lining": {"lining_mm": 3.0}, "inlay": {"inlay": Inlay(length_mm=40.0)},
    "inlay in front": {"inlay": Inlay(on="front", length_mm=40.0)},
    "wedge": {"handle": Handle(kind="wedge", length_mm=40.0)},
    "pull": {"handle": Handle(kind="pull", on="front", apart_mm=40.0)},
    "hinges": {"hinges": Hinges(inset_mm=40.0, screw_mm=4.0)}, "magnets": {"magnets": Magnets()},
    "quadrants": {"hinges": Hinges(pattern="quadrant", length_mm=30.0, leaf_mm=7.0, leg_wide_mm=4.0, screw_mm=4.0)},
    "barrels": {"hinges": Hinges(pattern="barrel", barrel_mm=4.0, in_mm=5.0, deep_mm=8.0, inset_mm=40.0)},
    "latch": {"latch": Latch(screw_mm=4.0)}, "brackets": {"brackets": Brackets(screw_mm=4.0, long_mm=20.0)},
    "fillets": {"fillets": Fillets(below_mm=14.0)}, "tray": {"tray": Tray(), "fillets": Fillets(below_mm=20.0)},
    "feet": {"feet": Feet(inset_mm=4.0)}, "keys": {"keys": Keys()}, "splines": {"splines": Splines()},
    "corner blocks": {"corner_blocks": CornerBlocks()}, "liner": {"liner": Liner(height_mm=40.0)},
    "dividers": {"dividers": Dividers()}, "false floor": {"false_floor": FalseFloor()},
    "notch": {"openings": (Opening(kind="notch"),)},
    "bottom glued on": {"bottom": Panel(seat="applied", thickness_mm=6.0)},
}  # fmt: skip
_ROUGH = ("segment", "leaf", "board", "band", "key")  # glued up into others, trimmed when they are in
_MUCH_MM3 = 2.0


def pairs(seed: int) -> Iterator[tuple[str, Job]]:
    """All of them in an order of chance, each with what it is called."""
    cases = [
        (ring, lid, a, b) for ring in RINGS for lid in CLOSED for a, b in itertools.combinations(_PARTS, 2)
    ]
    random.Random(seed).shuffle(cases)
    for ring, lid, a, b in cases:
        yield f"{a}, {b}, {ring}, {lid}", revised(BASE, **{**lid, **_PARTS[a], **_PARTS[b], **ring})


def overlapping(made: Plan) -> Iterator[tuple[str, str, float]]:
    """Pieces that stand in each other's wood, and by how much (mm³)."""
    solids: list[tuple[str, manifold3d.Manifold]] = [
        (piece.id, placed(piece)) for piece in made.pieces if piece.part not in _ROUGH
    ]
    boxes = [solid.bounding_box() for _name, solid in solids]
    for (i, (one, a)), (j, (other, b)) in itertools.combinations(enumerate(solids), 2):
        if all(boxes[i][k] < boxes[j][3 + k] and boxes[j][k] < boxes[i][3 + k] for k in range(3)):
            met = (a ^ b).volume()
            if met > _MUCH_MM3 and not _said(made):
                yield one, other, met


def _said(made: Plan) -> bool:
    """A liner that is too high for what closes the box is a caution: it stands off."""
    return any(finding.code == "liner_holds_lid_up" for finding in made.findings)


def met(seed: int, most: int) -> tuple[Counter[str], list[str]]:
    """So many of them planned: how many carried out and refused, and what is wrong."""
    count: Counter[str] = Counter()
    wrong = []
    for words, job in itertools.islice(pairs(seed), most):
        made = plan(job)
        if not made.buildable:
            count["refused"] += 1
            continue
        count["carried out"] += 1
        wrong += [f"{words}: {a} in {b} by {much:.1f} mm³" for a, b, much in overlapping(made)]
    return count, wrong
