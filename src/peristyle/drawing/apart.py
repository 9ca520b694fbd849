"""The box pulled apart: its pieces moved out of their places, whatever parts there are.

Pieces are convex; moved apart they do not nest, so that painting the farther ones first is right. What goes
together last comes away first: the lid and the keys, then what stands inside, then panels and sides.
"""

import math
from collections.abc import Iterator, Sequence
from typing import Final, NamedTuple

from peristyle.core.outlines import Outline as Points
from peristyle.core.outlines import bounds, clipped
from peristyle.core.planes import Vector
from peristyle.drawing.board import back_on_board, face_on_board
from peristyle.drawing.shapes import Pick
from peristyle.drawing.solid import (
    MOST_STANDING,
    Eye,
    Face,
    FaceKind,
    View,
    outward,
    standing_outline,
    upright,
    view_of,
)
from peristyle.planning.making.piece import Feature, Piece
from peristyle.planning.plan import Plan
from peristyle.planning.stock.laying import Placed
from peristyle.wood.looks import Plane

# Of the way from together (0) to apart (1), the stretch in which each part moves.
_MOVES: Final[dict[str, tuple[float, float]]] = {
    "lid": (0.0, 0.4), "key": (0.0, 0.5), "divider": (0.15, 0.65), "liner": (0.2, 0.75), "panel": (0.35, 1.0),
    "side": (0.35, 1.0), "block": (0.15, 0.65),
}  # fmt: skip
_KINDS: Final[dict[str, FaceKind]] = {
    "foot": "rim",
    "key": "key",
    "panel": "floor",
    "divider": "divider",
    "block": "thing",
}
_MOST_PIECES: Final = 1500


class _Part(NamedTuple):
    """A piece, or the part of one below or above the lid line, as corners in the box and how far it has moved."""

    number: int
    piece: Piece
    outer: tuple[Vector, ...]
    inner: tuple[Vector, ...]
    moved: Vector
    levels: tuple[float, float]  # shares of the height of a side that the part takes


def apart_faces(plan: Plan, eye: Eye, share: float) -> list[Face]:
    """The visible faces, from back to front, of the pieces moved by `share` (0 together, 1 apart)."""
    if not plan.ring.stands:
        return []
    view = view_of(plan, eye, 1.0 + 0.55 * share)
    pieces = [(n, piece) for n, piece in enumerate(plan.pieces) if piece.part != "segment"][:_MOST_PIECES]
    parts = [part for number, piece in pieces for part in _parts(plan, number, piece, share)]
    where = {placed.side: placed for placed in plan.wrap.pieces}
    found: list[tuple[float, list[Face]]] = []
    for part in parts:
        corners = [_moved(p, part.moved) for p in (*part.outer, *part.inner)]
        middle = tuple(math.fsum(axis) / len(corners) for axis in zip(*corners, strict=True))
        faces = []
        for kind, points, source, pick, plane in _faces(plan, part, where):
            at = [_moved(p, part.moved) for p in points]
            normal = outward(at, middle)
            if normal is None or not view.faces_eye(normal, *at[0]):
                continue
            faces.append(
                Face(kind, tuple(view.point(*p) for p in at), view.light(normal), source, pick, plane)
            )
        found.append((view.deep(*middle), faces))
    found += _things(plan, view, share)
    found.sort(key=lambda one: -one[0])
    return [face for _deep, faces in found for face in faces]


def _things(plan: Plan, view: View, share: float) -> list[tuple[float, list[Face]]]:
    """What the box holds, lifted out with the dividers."""
    floor = plan.job.design.floor_mm
    up = floor + _share("divider", share) * plan.job.design.form.height_mm * 2.6
    found = []
    for block in plan.contents.blocks:
        thing = block.thing
        if thing.made and not thing.round:
            continue  # there as pieces
        high = thing.height_mm * thing.layers
        for x, y in block.spots_mm[:MOST_STANDING]:
            outline = standing_outline(thing, x, y)
            faces = upright("thing", outline, up, up + high, view)
            found.append((view.deep(x, y, up + high / 2), faces))
    return found


def _moved(point: Vector, by: Vector) -> Vector:
    return (point[0] + by[0], point[1] + by[1], point[2] + by[2])


def _parts(plan: Plan, number: int, piece: Piece, share: float) -> Iterator[_Part]:
    """The piece moved; a side in two where the lid is freed."""
    outer = tuple(piece.place.of((x, y, 0.0)) for x, y in piece.show_face)
    inner = tuple(piece.place.of((x, y, piece.thickness_mm)) for x, y in piece.inside_face)
    reach = 0.5 * max(abs(v) for p in plan.ring.outer_bottom for v in p)
    by = _away(plan, piece, share, reach)
    lid, height = plan.section.lid, plan.job.design.form.height_mm
    if piece.part != "side" or lid is None or lid.body_mm <= 0:
        lifted = piece.part in ("key", "panel") and lid is not None and _over_lid(piece, lid.line_mm)
        up = _share("lid", share) * height * 0.9 if lifted else 0.0
        yield _Part(number, piece, outer, inner, (by[0], by[1], by[2] + up), (0.0, 1.0))
        return
    up = _share("lid", share) * height * 0.9
    for low, high, lift in ((0.0, lid.kerf_low_mm / height, 0.0), (lid.kerf_high_mm / height, 1.0, up)):
        yield _Part(
            number,
            piece,
            _band(outer, low, high),
            _band(inner, low, high),
            (by[0], by[1], by[2] + lift),
            (low, high),
        )


def _over_lid(piece: Piece, line_mm: float) -> bool:
    return piece.place.origin[2] > line_mm


def _band(quad: Sequence[Vector], low: float, high: float) -> tuple[Vector, ...]:
    """The part of a side's face between two shares of its height: bottom start, bottom end, top end, top start."""
    a, b, c, d = quad

    def between(p: Vector, q: Vector, t: float) -> Vector:
        return (p[0] + (q[0] - p[0]) * t, p[1] + (q[1] - p[1]) * t, p[2] + (q[2] - p[2]) * t)

    return (between(a, d, low), between(b, c, low), between(b, c, high), between(a, d, high))


def _share(part: str, share: float) -> float:
    start, end = _MOVES.get(part, (0.0, 1.0))
    return min(1.0, max(0.0, (share - start) / (end - start)))


def _away(plan: Plan, piece: Piece, share: float, reach: float) -> Vector:
    """Which way a piece comes out of its place, and how far."""
    own = _share(piece.part, share)
    match piece.part:
        case "side":
            x, y, _z = piece.place.z
            size = math.hypot(x, y) or 1.0
            return (-x / size * own * reach, -y / size * own * reach, 0.0)
        case "key":
            x, y, z = piece.place.y
            far = own * reach * 0.7
            # Keys leave before the sides do, and go on out with them.
            out = far + _share("side", share) * reach
            return (x * out, y * out, z * far)
        case "panel":
            down = -1.0 if piece.place.origin[2] < plan.job.design.form.height_mm / 2 else 1.0
            return (0.0, 0.0, down * own * plan.job.design.form.height_mm * 0.8)
        case "liner":
            x, y, _z = piece.place.z
            return (
                -x * own * reach * 0.25,
                -y * own * reach * 0.25,
                own * plan.job.design.form.height_mm * 0.9,
            )
        case "foot":
            return (0.0, 0.0, -own * plan.job.design.form.height_mm * 1.1)
        case "block":
            return (0.0, 0.0, own * plan.job.design.form.height_mm * 2.6)
        case "divider":
            return (0.0, 0.0, own * plan.job.design.form.height_mm * 1.7)
        case _:
            return (0.0, 0.0, 0.0)


def _faces(
    plan: Plan, part: _Part, where: dict[int, Placed]
) -> Iterator[tuple[FaceKind, Sequence[Vector], Points, Pick | None, Plane]]:
    """Both faces with what is cut into them, and the edges between them."""
    piece = part.piece
    kind: FaceKind = _KINDS.get(piece.part, "inside")
    pick = Pick("piece", part.number)
    planes: tuple[Plane, Plane] = ("face", "under")
    source: Points = ()
    back: Points = ()
    if piece.part == "side":
        number = next(side.index for side in plan.ring.sides if f"side.{side.name}" == piece.id)
        pick = Pick("side", number)
        side, lies = plan.ring.sides[number], where[number]
        planes = (lies.show, lies.inside)
        source, back = (
            tuple((x, y) for x, y, _z in _band([(x, y, 0.0) for x, y in whole], *part.levels))
            for whole in (face_on_board(side, lies), back_on_board(side, lies))
        )
    yield ("show" if piece.part == "side" else kind), part.outer, source, pick, planes[0]
    yield kind, part.inner, back, pick, planes[1]
    count = len(part.outer)
    for i in range(count):
        j = (i + 1) % count
        edge: FaceKind = "rim" if piece.part in ("side", "liner") else kind
        yield edge, (part.outer[i], part.outer[j], part.inner[j], part.inner[i]), (), pick, "face"
    for feature in piece.features:
        if feature.kind != "lid_kerf":
            opening = _opening(part, feature)
            if len(opening) >= 3:
                yield ("opening" if feature.kind == "opening" else "lid_line"), opening, (), pick, "face"


def _opening(part: _Part, feature: Feature) -> tuple[Vector, ...]:
    """Where a feature opens on its face, as far as this part of the piece has it."""
    piece = part.piece
    strip = feature.flat
    if not strip:
        return ()
    z = 0.0 if feature.face == "show" else piece.thickness_mm
    own = part.outer if feature.face == "show" else part.inner
    face = tuple((p[0], p[1]) for p in (piece.place.back(corner) for corner in own))
    return tuple(piece.place.of((x, y, z)) for x, y in clipped(strip, face))


def apart_reach(plan: Plan) -> float:
    """How much more room the pieces take when they are apart, as a factor."""
    x0, y0, x1, y1 = bounds(plan.ring.outer_bottom) if plan.ring.outer_bottom else (0.0, 0.0, 1.0, 1.0)
    wide = max(x1 - x0, y1 - y0, 1.0)
    return 1.4 + 0.75 * plan.job.design.form.height_mm / wide
