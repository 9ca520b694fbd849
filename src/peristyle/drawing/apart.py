"""The box's pieces as bodies that stand in their places or moved out of them, whatever parts there are.

What goes together last comes away first: the lid and the keys, then what stands inside, then panels and sides.
"""

import itertools
import math
from collections.abc import Callable, Iterator, Sequence
from typing import Final, Literal, NamedTuple

from msgspec.structs import replace

from peristyle.core.outlines import Outline as Points
from peristyle.core.outlines import bounds, box, clipped
from peristyle.core.planes import Point, Vector
from peristyle.drawing.shapes import Pick
from peristyle.model.design import Thing
from peristyle.planning.inside.contents import footprints
from peristyle.planning.making.piece import Feature, Piece, Place
from peristyle.planning.plan import Plan
from peristyle.planning.stock.laying import Placed
from peristyle.wood.looks import Surface

FaceKind = Literal["show", "inside", "rim", "floor", "key", "lid_line", "divider", "thing", "top", "opening"]

# Of the way from together (0) to apart (1), the stretch in which each part moves.
_MOVES: Final[dict[str, tuple[float, float]]] = {
    "lid": (0.0, 0.4), "key": (0.0, 0.5), "divider": (0.15, 0.65), "liner": (0.2, 0.75), "panel": (0.35, 1.0),
    "segment": (0.35, 1.0), "side": (0.35, 1.0), "block": (0.15, 0.65), "spline": (0.35, 1.0),
    "lining": (0.1, 0.6),
    "fillet": (0.15, 0.65), "tray": (0.1, 0.6), "corner_block": (0.15, 0.65), "roof": (0.0, 0.5), "ledge": (0.15, 0.65),
}  # fmt: skip
# What is lifted out of the box: how far toward its middle's far side, in the box's reach, and up, in its height.
_LEAVES: Final[dict[str, tuple[float, float]]] = {
    "corner_block": (0.2, 1.7), "roof": (0.5, 1.1), "ledge": (0.15, 1.3), "liner": (0.25, 0.9), "fillet": (0.2, 1.2),
    "panel.false": (0.0, 1.6), "panel.tray": (0.0, 1.9), "tray": (0.0, 1.9), "divider": (0.0, 1.7),
    "lining": (0.0, 1.7), "block": (0.0, 2.6), "foot": (0.0, -1.1),
}  # fmt: skip
_KINDS: Final[dict[str, FaceKind]] = {
    "foot": "rim",
    "band": "rim",
    "key": "key",
    "spline": "key",
    "corner_block": "key",
    "panel": "floor",
    "segment": "floor",
    "roof": "floor",
    "ledge": "key",
    "divider": "divider",
    "lining": "thing",
    "inlay": "key",
    "handle": "rim",
    "block": "thing",
}
_SHAPED: Final = ("edge", "moulding")
_LEAST_STRIP_MM: Final = 1e-3
_PLAIN: Final[tuple[Points, Surface]] = ((), "face")
_LET_IN: Final = ("key", "spline", "inlay")
_MOST_PIECES: Final = 1500
MOST_STANDING: Final = 120
_RIM_MM: Final = 1.5  # so much of the face beside it lends its lines to an edge along the grain


class Standing(NamedTuple):
    """One flat face of a body, in the box. `layer` 1 is drawn on a face of layer 0 in the same plane.

    `lit` is how it is turned to the light where it is drawn flat on a face that it is not level with, as a profile is.
    """

    kind: FaceKind
    points: tuple[Vector, ...]
    normal: Vector
    source: Points = ()
    pick: Pick | None = None
    plane: Surface = "face"
    layer: int = 0
    lit: Vector | None = None
    board: str = ""  # the one it wears, by its name on the rack; empty for the sides' own


class Part(NamedTuple):
    """A piece, or the part of one below or above the lid line: both faces, in the piece's own frame and in the box."""

    number: int
    piece: Piece
    show: Points
    inside: Points
    outer: tuple[Vector, ...]
    inner: tuple[Vector, ...]
    place: Place  # where it has moved to


Seen = Callable[[Vector, Vector], bool]  # whether a face turned so, through a point of the box, is wanted


def standing(plan: Plan, share: float, seen: Seen | None = None) -> list[list[Standing]]:
    """Every body as its faces, the pieces moved by `share` (0 together, 1 apart). Empty where there is no ring.

    With `seen` only the faces it wants: quicker, for one eye.
    """
    if not plan.ring.stands:
        return []
    sides = {f"side.{plan.ring.sides[placed.side].name}": placed for placed in plan.wrap.pieces}
    made = []
    for number, piece in bodies(plan, share):
        kind: FaceKind = _KINDS.get(piece.part, "inside")
        if share == 0.0 and kind == "floor" and piece.place.origin[2] > plan.job.design.form.height_mm / 2:
            kind = "top"  # to be seen through, for what stands under it
        lies = sides.get(piece.id)
        for part in parts(plan, number, piece, share):
            made.append(list(_faces(part, lies, kind, seen or _all, together=share == 0.0)))
    things = _things(plan, share)
    if seen is None:
        return _without_joints(made) + things
    return made + [[face for face in body if seen(face.normal, face.points[0])] for body in things]


def bodies(plan: Plan, share: float) -> list[tuple[int, Piece]]:
    """The pieces that stand as bodies, with their numbers."""
    # Segments and leaves stand where the panel that they are glued up to stands.
    left_out = {"segment", "leaf", "board"}
    if share == 0.0:  # what is let into the wood is seen where it shows on the faces, or not at all
        left_out |= {*_LET_IN}
    return [(n, piece) for n, piece in enumerate(plan.pieces) if piece.part not in left_out][:_MOST_PIECES]


def _all(_normal: Vector, _point: Vector) -> bool:
    return True


def _without_joints(bodies: list[list[Standing]]) -> list[list[Standing]]:
    """Without faces that lie wholly on each other, as the two of a closed miter: nobody sees them."""
    found: dict[frozenset[tuple[int, ...]], int] = {}
    keys = [
        [frozenset(tuple(round(v * 100) for v in p) for p in face.points) for face in body] for body in bodies
    ]
    for own in keys:
        for key in own:
            found[key] = found.get(key, 0) + 1
    return [
        [face for face, key in zip(body, own, strict=True) if found[key] == 1 or face.layer]
        for body, own in zip(bodies, keys, strict=True)
    ]


def outward(points: Sequence[Vector], middle: Sequence[float]) -> Vector | None:
    """The direction out of a convex body through one of its faces; None where the face has no area."""
    x = y = z = 0.0
    for p, q in zip(points, (*points[1:], points[0]), strict=True):
        x += (p[1] - q[1]) * (p[2] + q[2])
        y += (p[2] - q[2]) * (p[0] + q[0])
        z += (p[0] - q[0]) * (p[1] + q[1])
    size = math.sqrt(x * x + y * y + z * z)
    if size < 1e-6:
        return None
    a, b, c = points[0]
    out = x * (a - middle[0]) + y * (b - middle[1]) + z * (c - middle[2])
    way = math.copysign(1.0 / size, out)
    return (x * way, y * way, z * way)


def _things(plan: Plan, share: float) -> list[list[Standing]]:
    """What the box holds, lifted out with the dividers."""
    floor = plan.job.design.floor_mm
    up = floor + _share("divider", share) * plan.job.design.form.height_mm * 2.6
    found = []
    for block in plan.contents.blocks:
        thing = block.thing
        if thing.made and not thing.round:
            continue  # there as pieces
        for x0, y0, z0, x1, y1, z1 in footprints(block):
            found.append(_upright(box(x0, y0, x1, y1), up + z0, up + z1))
        if block.stood:
            continue
        high = thing.height_mm * thing.layers
        for x, y in block.spots_mm[:MOST_STANDING]:
            found.append(_upright(_outline(thing, x, y), up, up + high))
    return found


def _outline(thing: Thing, x: float, y: float) -> tuple[Point, ...]:
    """A thing that stands at a place, from above."""
    long, wide = thing.length_mm / 2, thing.width_mm / 2
    if not thing.round:
        return box(x - long, y - wide, x + long, y + wide)
    turns = [math.pi * k / 6 for k in range(12)]
    return tuple((x + long * math.cos(a), y + long * math.sin(a)) for a in turns)


def _upright(outline: tuple[Point, ...], low: float, high: float) -> list[Standing]:
    """The sides of an upright thing, and its top."""
    faces = []
    for (ax, ay), (bx, by) in zip(outline, outline[1:] + outline[:1], strict=True):
        run = math.hypot(bx - ax, by - ay) or 1.0
        quad = ((ax, ay, low), (bx, by, low), (bx, by, high), (ax, ay, high))
        faces.append(Standing("thing", quad, ((by - ay) / run, (ax - bx) / run, 0.0)))
    faces.append(Standing("thing", tuple((x, y, high) for x, y in outline), (0.0, 0.0, 1.0)))
    return faces


def _moved(place: Place, by: Vector) -> Place:
    x, y, z = place.origin
    return replace(place, origin=(x + by[0], y + by[1], z + by[2]))


def parts(plan: Plan, number: int, piece: Piece, share: float) -> Iterator[Part]:
    """The piece moved; a side in two where the lid is freed."""
    show, inside = piece.trimmed
    if share == 0.0:
        yield _part(piece.place, number, piece, show, inside)
        return
    reach = 0.5 * max(abs(v) for p in plan.ring.outer_bottom for v in p)
    lid, height = plan.section.lid, plan.job.design.form.height_mm
    x, y, z = _away(plan, piece, share, reach)
    up = _share("lid", share) * height * 0.9
    if piece.part != "side" or lid is None or lid.body_mm <= 0:
        lifted = piece.part in ("key", "panel") and lid is not None and _over_lid(piece, lid.line_mm)
        yield _part(_moved(piece.place, (x, y, z + up if lifted else z)), number, piece, show, inside)
        return
    for low, high, lift in ((0.0, lid.kerf_low_mm / height, 0.0), (lid.kerf_high_mm / height, 1.0, up)):
        place = _moved(piece.place, (x, y, z + lift))
        yield _part(place, number, piece, _band(show, low, high), _band(inside, low, high))


def _part(place: Place, number: int, piece: Piece, show: Points, inside: Points) -> Part:
    thick = piece.thickness_mm
    if any(feature.kind == "cheek" for feature in piece.features):
        outer = tuple(place.of((x, y, _cheek(piece, y, "below", 0.0))) for x, y in show)
        inner = tuple(place.of((x, y, _cheek(piece, y, "above", thick))) for x, y in inside)
    else:
        outer = tuple([place.of((x, y, 0.0)) for x, y in show])
        inner = tuple([place.of((x, y, thick)) for x, y in inside])
    return Part(number, piece, show, inside, outer, inner, place)


def _cheek(piece: Piece, y: float, which: str, flat: float) -> float:
    """How deep under the show face a face lies at a height, where its cheek leans (a dovetail)."""
    for feature in piece.features:
        if feature.kind == "cheek" and feature.id.endswith(which):
            (_x, y0, z0), (_x1, y1, z1) = feature.ends[0][:2]
            return z0 + (y - y0) * (z1 - z0) / (y1 - y0)
    return flat


def _over_lid(piece: Piece, line_mm: float) -> bool:
    return piece.place.origin[2] > line_mm


def _band(face: Points, low: float, high: float) -> Points:
    """The part of a side's face between two shares of its height: bottom start, bottom end, top end, top start."""
    if len(face) != 4:  # of a hopeless side slopes can leave a corner, or nothing
        xs, top = [x for x, _y in face], max((y for _x, y in face), default=0.0)
        return clipped(face, box(min(xs), low * top, max(xs), high * top)) if len(face) > 2 else ()
    a, b, c, d = face

    def between(p: Point, q: Point, t: float) -> Point:
        return (p[0] + (q[0] - p[0]) * t, p[1] + (q[1] - p[1]) * t)

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
        case "spline":
            x, y, z = piece.place.z
            return (x * own * reach * 0.5, y * own * reach * 0.5, z * own * reach * 0.5)
        case "strip":
            x, y, _z = piece.place.z
            up = _share("lid", share) * plan.job.design.form.height_mm * 0.45
            side = _share("side", share) * reach
            return (-x * side, -y * side, up)
        case "panel" if piece.id not in _LEAVES:
            down = -1.0 if piece.place.origin[2] < plan.job.design.form.height_mm / 2 else 1.0
            return (0.0, 0.0, down * own * plan.job.design.form.height_mm * 0.8)
        case "band":
            up = 1.0 if piece.place.z[2] < 0 else -1.0
            return (0.0, 0.0, up * own * plan.job.design.form.height_mm * 0.3)
        case _:
            out, up = _LEAVES.get(piece.id, _LEAVES.get(piece.part, (0.0, 0.0)))
            x, y, _z = piece.place.y if piece.part == "ledge" else piece.place.z
            far = own * reach * out
            return (-x * far, -y * far, own * plan.job.design.form.height_mm * up)


def _faces(
    part: Part, lies: Placed | None, kind: FaceKind, seen: Seen, *, together: bool
) -> Iterator[Standing]:
    """Both faces with what is cut into them, and the edges between them, as far as they are wanted."""
    piece, outer, inner = part.piece, part.outer, part.inner
    pick = Pick("piece", part.number) if lies is None else Pick("side", lies.side)
    board = lies.board if lies else ""
    into = piece.place.z
    out = (-into[0], -into[1], -into[2])
    for on_show, points, normal in ((True, outer, out), (False, inner, into)):
        if len(points) < 3 or not seen(
            normal, points[0]
        ):  # of a hopeless piece nothing may be left of a face
            continue
        if lies is None:
            face = Standing(kind, points, normal, (), pick)
        else:
            source = tuple([lies.on(p) for p in (part.show if on_show else part.inside)])
            wears: Surface = lies.show if on_show else lies.inside
            face = Standing("show" if on_show else kind, points, normal, source, pick, wears, board=board)
        yield face
        yield from _cuts(part, face, lies, on_show=on_show, together=together, quick=seen is not _all)
    if len(outer) != len(inner) or len(outer) < 3:
        return
    middle = [sum(axis) / (2 * len(outer)) for axis in zip(*outer, *inner, strict=True)]
    edged: FaceKind = "rim" if piece.part in ("side", "liner", "strip", "fillet", "tray") else kind
    for i, j in zip(range(len(outer)), (*range(1, len(outer)), 0), strict=True):
        points = (outer[i], outer[j], inner[j], inner[i])
        way = outward(points, middle)
        if way is not None and seen(way, points[0]):
            source, plane = _worn(part, lies, i, j) if lies else _PLAIN
            yield Standing(edged, points, way, source, pick, plane, board=board)


def _cuts(
    part: Part, face: Standing, lies: Placed | None, *, on_show: bool, together: bool, quick: bool
) -> Iterator[Standing]:
    """Where the features of a piece open on one of its faces; `quick` without those that nobody misses in motion."""
    own_face = part.show if on_show else part.inside
    for feature in part.piece.features:
        if feature.kind == "lid_kerf" and not together:  # the piece is in two there
            continue
        own = on_show == (feature.face == "show")
        if feature.trims or (quick and together and feature.kind == "groove"):
            continue  # the faces end there; a panel fills its groove
        if feature.kind in _SHAPED:
            if own and feature.profile:
                yield from _profiled(part, face, feature, lies, own_face, on_show=on_show)
            continue
        strip = feature.flat if own else feature.through(part.piece.thickness_mm)
        opening = _opening(part, strip, own_face, on_show=on_show) if strip else ()
        if len(opening) >= 3:
            mark: FaceKind = "opening" if feature.kind == "opening" else "lid_line"
            filled = feature.kind == "slot" and together
            if feature.kind == "inlay" and together:
                mark = "divider"
            yield Standing(
                "key" if filled else mark, opening, face.normal, (), face.pick, layer=2 if filled else 1
            )


def _profiled(
    part: Part, face: Standing, feature: Feature, lies: Placed | None, own: Points, *, on_show: bool
) -> Iterator[Standing]:
    """A profile or a moulding as strips along it, each lit as it is turned."""
    (x0, y0), (x1, y1) = feature.path
    run = math.hypot(x1 - x0, y1 - y0) or 1.0
    lx, ly = -(y1 - y0) / run, (x1 - x0) / run
    place, z = part.place, 0.0 if on_show else part.piece.thickness_mm
    out = -1.0 if on_show else 1.0
    for (a, deep_a), (b, deep_b) in itertools.pairwise(feature.profile):
        if abs(b - a) < _LEAST_STRIP_MM or max(deep_a, deep_b) <= 0:
            continue
        strip = tuple(
            (x + across * lx, y + across * ly)
            for x, y, across in ((x0, y0, a), (x1, y1, a), (x1, y1, b), (x0, y0, b))
        )
        found = clipped(strip, own)
        if len(found) < 3:
            continue
        # Outward and square to the strip: as it goes deeper it turns toward where it began.
        size = math.hypot(b - a, deep_b - deep_a)
        along, away = (deep_b - deep_a) * math.copysign(1.0, b - a) / size, out * abs(b - a) / size
        lit = tuple(along * (lx * place.x[i] + ly * place.y[i]) + away * place.z[i] for i in range(3))
        points = tuple([place.of((x, y, z)) for x, y in found])
        source = tuple(lies.on(point) for point in found) if lies is not None else ()
        yield face._replace(points=points, source=source, layer=1, lit=(lit[0], lit[1], lit[2]))


def _worn(part: Part, lies: Placed, i: int, j: int) -> tuple[Points, Surface]:
    """What an edge of a side shows: along the grain the lines of the face beside it, across it the end grain."""
    within = part.show
    (ax, ay), (bx, by) = lies.on(within[i]), lies.on(within[j])
    thick = part.piece.thickness_mm
    if abs(bx - ax) >= abs(by - ay):
        middle = lies.on((sum(x for x, _y in within) / len(within), sum(y for _x, y in within) / len(within)))
        in_mm = math.copysign(_RIM_MM, middle[1] - ay)
        return ((ax, ay), (bx, by), (bx, by + in_mm), (ax, ay + in_mm)), lies.show
    return ((0.0, ay), (0.0, by), (thick, by), (thick, ay)), "end"


def _opening(part: Part, strip: Points, own: Points, *, on_show: bool) -> tuple[Vector, ...]:
    """Where a feature opens on a face, as far as this part of the piece has it."""
    place, z = part.place, 0.0 if on_show else part.piece.thickness_mm
    return tuple([place.of((x, y, z)) for x, y in clipped(strip, own)])


def apart_reach(plan: Plan) -> float:
    """How much more room the pieces take when they are apart, as a factor."""
    x0, y0, x1, y1 = bounds(plan.ring.outer_bottom) if plan.ring.outer_bottom else (0.0, 0.0, 1.0, 1.0)
    wide = max(x1 - x0, y1 - y0, 1.0)
    return 1.4 + 0.75 * plan.job.design.form.height_mm / wide
