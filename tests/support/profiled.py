"""The bench at the router table: profiles cut along the rims of the glued box and round its boards, as told.

Of a step it reads which rim or board, the kind of bit, how high and how far out it stands; where rims and faces lie is
read off the wood.
"""

import math
from collections.abc import Iterator, Sequence

import manifold3d
import numpy as np

from peristyle.planning.making.piece import Piece
from peristyle.planning.making.step import Step
from peristyle.planning.plan import Plan
from support.bench import FAR, one
from support.glued import apart
from support.solids import in_box, solid

_STEPS = 12  # to a quarter turn, as polygons are drawn


def bit(kind: str, high: float, wide: float) -> list[tuple[float, float]]:
    """The section of the cut: how far beyond the bearing, how far over the table."""
    quarter = [k * math.pi / 2 / _STEPS for k in range(_STEPS + 1)]
    if kind == "chamfer":
        edge = [(wide, 0.0), (0.0, high)]
    elif kind == "cove":
        edge = [(wide * math.cos(a), high * math.sin(a)) for a in quarter]
    elif kind == "round_over":
        edge = [(wide - wide * math.sin(a), high - high * math.cos(a)) for a in quarter]
    else:
        half, top = wide / 2, high / 2
        edge = [(half + half * math.cos(a), top * math.sin(a)) for a in quarter]
        edge += [(half - half * math.sin(a), high - top * math.cos(a)) for a in quarter[1:]]
    return edge


def _sides(made: Plan) -> list[Piece]:
    return [piece for piece in made.pieces if piece.part == "side"]


def _rim(made: Plan, step: Step) -> tuple[float, float, bool]:
    """The level of the rim that lies on the table, which way the wood is, and whether the bearing runs inside."""
    corners = [p.place.of((x, y, 0.0))[2] for p in _sides(made) for x, y in p.show_face]
    lid = made.section.lid
    if "lid_edges" in step.title:
        assert lid is not None
        return (lid.lost_low_mm, -1.0, False) if "body" in step.title else (lid.lost_high_mm, 1.0, False)
    if "rim" in step.title:
        return lid.lost_low_mm if lid else max(corners), -1.0, True
    return (min(corners), 1.0, False) if "bottom" in step.title else (max(corners), -1.0, False)


def rim_cut(made: Plan, step: Step) -> Iterator[manifold3d.Manifold]:
    """What the bit takes along each side, run on past its ends; inside it goes as far as the corner is pared."""
    level, way, inside = _rim(made, step)
    high, wide = one(step, "height"), one(step, "width")
    for piece in _sides(made):
        if piece.id not in step.pieces:
            continue
        place, thick = piece.place, piece.thickness_mm
        along, face = np.array(place.x), np.array(place.of((0.0, 1.0, 0.0))) - np.array(place.origin)
        out = -np.array([place.z[0], place.z[1], 0.0])
        out = out / np.linalg.norm(out)
        start = np.array(place.of((0.0, 0.0, thick if inside else 0.0)))
        foot = start + face * ((level + way * high - start[2]) / face[2])  # where the bearing touches
        # Of the foot only its place square to the side counts.
        foot = foot - along * ((foot - np.array(place.origin)) @ along)
        inward = out if inside else -out
        edge = bit(step.names["profile"], high, wide)
        section = [(-FAR / 40, -1.0), (wide, -1.0), *edge, (-FAR / 40, high)]
        shape = manifold3d.CrossSection([section])
        if shape.area() <= 0:
            shape = manifold3d.CrossSection([section[::-1]])
        base = foot - np.array([0.0, 0.0, way * high])
        frame = np.column_stack([inward, np.array([0.0, 0.0, way]), along, base - along * FAR])
        solid_cut = shape.extrude(2 * FAR).transform(frame)
        if inside:  # within this side's own wood only: the next one's is cut from there
            solid_cut ^= in_box(piece, solid(piece, without=("edge",)))
        yield solid_cut


def board_cut(step: Step, piece: Piece, pieces: Sequence[Piece]) -> Iterator[manifold3d.Manifold]:
    """What the bit takes round a board, in its own frame."""
    high, wide = one(step, "height"), one(step, "width")
    under = step.names["face"] == "underside"
    whole = [p for other in pieces if other.id in step.pieces for p in other.show_face]
    edge = [(-5.0, -1.0), (wide, -1.0), *bit(step.names["profile"], high, wide), (-5.0, high)]
    for a, b in zip(piece.show_face, piece.show_face[1:] + piece.show_face[:1], strict=True):
        along = np.array([b[0] - a[0], b[1] - a[1], 0.0]) / math.dist(a, b)
        inward = np.array([-along[1], along[0], 0.0])
        beyond = max(float(inward[:2] @ (np.array(a) - np.array(p))) for p in whole)
        if "edge.parting" in step.says and beyond > 1e-6:
            continue  # the other part lies over there
        into = np.array([0.0, 0.0, -1.0 if under else 1.0])
        base = np.array([a[0], a[1], piece.thickness_mm if under else 0.0]) - along * FAR
        shape = manifold3d.CrossSection([edge])
        if shape.area() <= 0:
            shape = manifold3d.CrossSection([edge[::-1]])
        yield shape.extrude(2 * FAR).transform(np.column_stack([inward, into, along, base]))


def wrongly_profiled(made: Plan, steps: tuple[Step, ...] | None = None) -> list[tuple[str, float]]:
    """Pieces whose profiles as told are not those planned, and by how much (mm³)."""
    told = [step for step in (made.steps if steps is None else steps) if step.operation == "edge"]
    cuts = [cut for step in told if not step.names["panel"] for cut in rim_cut(made, step)]
    wrong = []
    for piece in made.pieces:
        left = solid(piece, without=("edge", "slot"))
        if piece.part == "side":
            left = in_box(piece, left)
            for cut in cuts:
                left -= cut
            planned = in_box(piece, solid(piece, without=("slot",)))
        elif piece.part == "panel":
            for step in told:
                for cut in board_cut(step, piece, made.pieces) if piece.id in step.pieces else ():
                    left -= cut
            planned = solid(piece)
        else:
            continue
        off = apart(left, planned)
        if off > 2e-6 * left.volume() + 2e-3:
            wrong.append((piece.id, off))
    return wrong
