"""Bottoms and lids of every kind on rings of every kind: carried out, stood up as solids, opened and closed again."""

import math
from collections.abc import Iterator
from itertools import combinations, product
from typing import Final

import manifold3d
import numpy as np

from peristyle.model import section_edits
from peristyle.model.design import (
    FalseFloor,
    House,
    Lid,
    Liner,
    Outline,
    Panel,
    Rectangle,
    Regular,
    Shape,
    Sliding,
    replace,
)
from peristyle.model.job import Job, job_of, revised
from peristyle.model.stock import Board
from peristyle.planning.making.piece import Piece
from peristyle.planning.plan import Plan, plan
from support import bench, glued
from support.solids import placed

GLUED: Final = Panel(depth_mm=4.0)
BOTTOMS: Final[dict[str, Panel | None]] = {
    "none": None,
    "groove, floating": replace(GLUED, wood="cherry"),
    "groove, ply glued": replace(GLUED, sheet=True),
    "rabbet, flush": replace(GLUED, seat="rabbet"),
    "rabbet, proud": replace(GLUED, seat="rabbet", thickness_mm=6.0, proud_mm=2.0),
    "applied, flush": replace(GLUED, seat="applied", sheet=True),
    "applied, overhang": replace(GLUED, seat="applied", sheet=True, overhang_mm=4.0),
    "false floor": GLUED,
}
LIDS: Final = ("none", "sawn", "sawn, liner lip", "top, sawn", "applied top, sawn", *section_edits.COVERS)
RINGS: Final[dict[str, Shape]] = {
    "rectangle": Rectangle(220.0, 150.0),
    "hexagon": Regular(6, 110.0),
    "irregular": Outline((160.0, 130.0, None, None), (95.0, 90.0, 82.0, None)),
}
LEANS: Final = {"upright": 0.0, "out": 9.0, "in": -9.0}
GRAINS: Final = ("along", "upright")
SETTINGS: Final = list(product(BOTTOMS, LIDS, RINGS, LEANS, GRAINS))


def box(bottom: str, lid: str, ring: str, lean: str, grain: str) -> Job:
    """One of the settings as a box; the ring's walls are thick enough for a rabbet."""
    job = job_of(
        shape=RINGS[ring], height_mm=110.0, thicknesses_mm=(12.0,), slopes_deg=(LEANS[lean],), bottom=BOTTOMS[bottom],
        board=Board(
            length_mm=6000.0, width_mm=1200.0, thickness_mm=12.0,
            method="upright" if grain == "upright" else "square_first",
        ),
    )  # fmt: skip
    if bottom == "false floor":
        job = revised(job, false_floor=FalseFloor())
    if lid in section_edits.COVERS:
        job = section_edits.with_cover(job, lid)
    elif lid != "none":
        job = revised(job, lid=Lid(height_mm=30.0), top=GLUED if lid.startswith("top") else None)
    if lid.startswith("applied"):
        job = revised(job, top=replace(GLUED, seat="applied", sheet=True))
    if lid == "sawn, liner lip":
        job = revised(job, liner=Liner(height_mm=job.design.room_mm - 20.0))
    return job


def house() -> Job:
    """The roofed ring that lies on its side."""
    return job_of(shape=House(200.0, 90.0, 30.0), height_mm=110.0, thicknesses_mm=(12.0,),
                  board=Board(length_mm=6000.0, width_mm=400.0))  # fmt: skip


def refused(made: Plan) -> list[str]:
    """The codes of what says stop."""
    return sorted({finding.code for finding in made.findings if finding.severity == "stop"})


def _overlaps(stood: dict[str, manifold3d.Manifold]) -> Iterator[str]:
    """Pieces that are in one another, beyond what a library rounds."""
    for (one, first), (other, second) in combinations(stood.items(), 2):
        both = (first ^ second).volume()
        if both > 1e-2:
            yield f"{one} and {other} share {both:.3f} mm³"


def _opened(made: Plan, piece: Piece) -> Iterator[np.ndarray]:
    """Where a lid's part goes as the box is opened: motions of the box's frame, little by little."""
    cover = made.job.design.section.cover
    steps = (0.002, 0.05, 0.2, 0.5, 1.0)
    if piece.part == "roof":  # turned about the ridge
        ridge = np.array(piece.place.of((0.0, piece.show_face[2][1], 0.0)))
        axis, way = np.array(piece.place.x), -1.0
        for share in steps:
            angle = math.radians(way * 80.0 * share)
            k = np.array([[0, -axis[2], axis[1]], [axis[2], 0, -axis[0]], [-axis[1], axis[0], 0]])
            turn = np.eye(3) + math.sin(angle) * k + (1 - math.cos(angle)) * (k @ k)
            yield np.column_stack([turn, ridge - turn @ ridge])
        return
    way = np.array([0.0, 0.0, 120.0])
    if isinstance(cover, Sliding):
        slab = made.ring.slabs[cover.side]
        way = np.array([slab.ux, slab.uy, 0.0]) * 400.0
    for share in steps:
        yield np.column_stack([np.eye(3), way * share])


def collisions(made: Plan, stood: dict[str, manifold3d.Manifold]) -> Iterator[str]:
    """What a lid meets as it is opened."""
    cover = made.job.design.section.cover
    if cover is None:
        return
    loose = ("panel.lid", "panel.plug", "panel.lid.loose")
    leaves = [piece for piece in made.pieces if piece.part == "roof"]  # the first is the one that opens
    moving = [*(piece for piece in made.pieces if piece.id in loose), *leaves[:1]]
    names = {piece.id for piece in moving}
    rest = [solid for name, solid in stood.items() if name not in names]
    still = manifold3d.Manifold.batch_boolean(rest, manifold3d.OpType.Add)
    for piece in moving:
        for motion in _opened(made, piece):
            met = (stood[piece.id].transform(motion) ^ still).volume()
            if met > 1e-2:
                yield f"{piece.id} meets {met:.3f} mm³ of the rest as it is opened"
                break


def troubles(job: Job) -> tuple[list[str], list[str]]:
    """The reasons a box is refused for, or what is wrong about it although it is not."""
    made = plan(job)
    stops = refused(made)
    if stops or not made.pieces:
        return stops, []
    wrong = [
        f"{name}: {off:.3f} mm³ otherwise than its steps make it" for name, off in bench.wrongly_made(made)
    ]
    wrong += [f"{name}: {off:.3f} mm³ otherwise once glued" for name, off in glued.wrongly_glued(made)]
    stood = {
        piece.id: placed(piece, without=("lid_kerf", "edge"))
        for piece in made.pieces
        if piece.part not in ("segment", "leaf", "board", "strip", "key", "spline")
    }
    wrong += _overlaps(stood)
    wrong += collisions(made, stood)
    lid = made.section.lid
    if lid is not None and not math.isclose(lid.body_mm + lid.lid_mm + lid.lost_mm, made.section.glued_mm):
        wrong.append("body, lid and what is lost are not the glued height")
    return [], wrong
