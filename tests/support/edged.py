"""Boxes with profiled edges: chance ones, and each thing that can be wrong with them."""

import random
from typing import Any

from msgspec.structs import replace

from peristyle.model.design import (
    DropIn,
    EdgeProfile,
    Feet,
    Flat,
    Gable,
    Hinges,
    Keys,
    Lid,
    LiftOff,
    Opening,
    OuterEdge,
    Panel,
    Rectangle,
    Regular,
    Sliding,
    Split,
    Strip,
)
from peristyle.model.job import Job, job_of, revised
from peristyle.model.stock import Board

KINDS = ("chamfer", "round_over", "cove", "ogee")
BOX = job_of(
    shape=Rectangle(240.0, 160.0), height_mm=100.0, thicknesses_mm=(12.0,), bottom=Panel(height_mm=8.0),
    top=Panel(height_mm=8.0), lid=Lid(height_mm=30.0),
    board=Board(length_mm=4000.0, width_mm=200.0, thickness_mm=16.0),
)  # fmt: skip
EDGES = {
    "bottom_edge": OuterEdge(size_mm=3.0), "top_edge": OuterEdge(kind="cove", size_mm=2.5),
    "lid_edges": EdgeProfile(kind="round_over", size_mm=1.5), "rim_edge": EdgeProfile(kind="ogee", size_mm=2.0),
}  # fmt: skip
APPLIED = Panel(seat="applied", thickness_mm=7.0)
CLOSED = [
    {},
    {"lid": None, "top": None, "cover": LiftOff(), "lid_edges": None},
    {"lid": None, "top": None, "cover": Split(), "lid_edges": None},
    {"lid": None, "top": None, "cover": Flat(overhang_mm=6.0), "lid_edges": None},
    {"bottom": APPLIED, "top": APPLIED},
    {
        "bottom": replace(APPLIED, thickness_mm=14.0, overhang_mm=6.0),
        "base_edge": EdgeProfile(kind="ogee", size_mm=4.0),
        "top": replace(APPLIED, thickness_mm=12.0, overhang_mm=5.0),
        "under_edge": EdgeProfile(kind="cove", size_mm=3.0),
    },
    {"hinges": Hinges(inset_mm=45.0)},
]


def random_edges(seed: int) -> Job:
    chance = random.Random(seed)

    def size() -> float:
        return chance.uniform(0.8, 3.4)

    ring: dict[str, object] = chance.choice([
        {"shape": Rectangle(chance.uniform(200, 300), chance.uniform(140, 200))},
        {"shape": Regular(chance.choice([3, 5, 6, 8]), 150.0)},
        {"slopes_deg": (chance.uniform(-16, 16),)},
        {"thicknesses_mm": (12.0, 10.0, 14.0, 11.0), "rim_edge": None},
        {"slopes_deg": (5.0, 9.0, -3.0, 2.0), "rim_edge": None},
    ])  # fmt: skip
    edges = {
        "bottom_edge": OuterEdge(
            kind=chance.choice(KINDS), size_mm=size(), when=chance.choice(["before_lid", "after_lid"])
        ),
        "top_edge": OuterEdge(kind=chance.choice(KINDS), size_mm=size()),
        "lid_edges": EdgeProfile(kind=chance.choice(KINDS), size_mm=size() / 2),
        "rim_edge": EdgeProfile(kind=chance.choice(KINDS), size_mm=size() / 2),
    }
    closed: dict[str, object] = CLOSED[seed % len(CLOSED)]
    if "bottom" in closed or "slopes_deg" in ring:
        edges["bottom_edge"] = replace(edges["bottom_edge"], when="after_lid")
    keys = Keys(count=2) if chance.random() < 0.5 else None
    return revised(BOX, keys=keys, **{**edges, **ring, **closed})  # type: ignore[typeddict-item]


# What is decided otherwise of the box, and the finding that says what is wrong with it.
PROVOKED: list[tuple[dict[str, Any], str]] = [
    ({"lid": None, "top": None, "lid_edges": EdgeProfile()}, "lid_edges_no_lid"),
    ({"lid_edges": EdgeProfile(), "strip": Strip()}, "lid_edges_strip"),
    ({"lid": None, "top": None, "cover": Gable(), "top_edge": OuterEdge()}, "top_edge_none"),
    ({"lid": None, "top": None, "cover": Sliding(), "top_edge": OuterEdge()}, "top_edge_none"),
    ({"lid": None, "top": None, "cover": DropIn(), "rim_edge": EdgeProfile()}, "rim_edge_none"),
    ({"thicknesses_mm": (12.0, 10.0, 12.0, 10.0), "rim_edge": EdgeProfile()}, "rim_edge_unlike"),
    ({"bottom": APPLIED, "bottom_edge": OuterEdge(size_mm=7.0)}, "edge_past_panel"),
    ({"bottom": APPLIED, "base_edge": EdgeProfile()}, "edge_covered"),
    ({"bottom": replace(APPLIED, overhang_mm=2.0), "base_edge": EdgeProfile(size_mm=3.0)}, "edge_past_overhang"),
    ({"bottom": APPLIED, "slopes_deg": (8.0,), "bottom_edge": OuterEdge(when="before_lid")}, "edge_panel_later"),
    ({"slopes_deg": (8.0,), "bottom_edge": OuterEdge(when="before_lid")}, "edge_before_fence"),
    ({"slopes_deg": (50.0,), "bottom_edge": OuterEdge(), "bottom": None, "top": None, "lid": None},
     "edge_no_arris"),
    ({"bottom": None, "bottom_edge": OuterEdge(size_mm=11.0)}, "edge_too_wide"),
    ({"bottom_edge": OuterEdge(kind="cove", size_mm=9.0), "bottom": Panel(height_mm=2.0)}, "edge_meets"),
    ({"bottom_edge": OuterEdge(kind="cove", size_mm=9.9)}, "edge_near"),
    ({"bottom_edge": OuterEdge(size_mm=2.0), "feet": Feet()}, "edge_over_feet"),
    ({"hinges": Hinges(leaf_mm=11.0, side=0), "rim_edge": EdgeProfile(size_mm=2.0)}, "edge_near"),
    ({"lid": Lid(height_mm=6.0), "top": None, "lid_edges": EdgeProfile(size_mm=4.0),
      "top_edge": OuterEdge(size_mm=3.0)}, "edge_meets"),
    ({"bottom_edge": OuterEdge(size_mm=6.0), "openings": (Opening(up_mm=18.0),)}, "opening_thin_wood"),
    ({"board": Board(sheet=True, thickness_mm=12.0), "banding_mm": 1.0, "top_edge": OuterEdge(size_mm=2.0)},
     "edge_through_banding"),
]  # fmt: skip
