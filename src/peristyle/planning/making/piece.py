"""A piece: what is cut out of stock, with its features and its place in the box.

Own frame of every piece: x along it (a side: along the bottom edge of the show face, start to end), y up the
show face, z from the show face into the wood. Seen from the show face x runs to the right and y up, and z goes
away: the frame is left-handed, as a drawing on the wood is. Lengths mm, angles degrees.
"""

import math
from collections.abc import Sequence
from typing import Final, Literal

from msgspec import Struct

from peristyle.core.outlines import Arc, area, flattened, hull
from peristyle.core.outlines import Outline as Points
from peristyle.core.planes import Point, Vector

Face = Literal["show", "inside"]
_ON_LINE_MM: Final = 1e-9  # what lies nearer to a line than that lies on it


class Place(Struct, frozen=True):
    """A rigid motion into the box: where the piece's origin lies and where its three axes point."""

    origin: Vector
    x: Vector
    y: Vector
    z: Vector

    def of(self, point: Vector) -> Vector:
        """A point of the piece, in the box."""
        a, b, c = point
        (ox, oy, oz), (xx, xy, xz), (yx, yy, yz), (zx, zy, zz) = self.origin, self.x, self.y, self.z
        return (ox + a * xx + b * yx + c * zx, oy + a * xy + b * yy + c * zy, oz + a * xz + b * yz + c * zz)

    def back(self, point: Vector) -> Vector:
        """A point of the box, in the piece's own frame."""
        x, y, z = point[0] - self.origin[0], point[1] - self.origin[1], point[2] - self.origin[2]
        (xx, xy, xz), (yx, yy, yz), (zx, zy, zz) = self.x, self.y, self.z
        return (x * xx + y * xy + z * xz, x * yx + y * yy + z * yz, x * zx + y * zy + z * zz)


class Feature(Struct, frozen=True):
    """What is cut into one face: a profile swept along a straight path, or an outline straight in; a solid too.

    `path` runs on the face, from its first to its second point; `profile` is the cut square to it: how far to the
    left of the path as it lies on the drawing of the show face, and how deep under the face. Or `outline` is cut
    square to the face, `in_mm` deep. Or it is what lies between two outlines in space, its `ends`, corner to corner:
    what tapers, leans, or is cut into an end; it is convex, may reach out of the wood, and goes `in_mm` into it.
    """

    id: str
    kind: str
    face: Face
    path: tuple[Point, Point] = ((0.0, 0.0), (0.0, 0.0))
    profile: Points = ()
    outline: tuple[Point | Arc, ...] = ()
    in_mm: float = 0.0
    ends: tuple[tuple[Vector, ...], ...] = ()

    @property
    def trims(self) -> bool:
        """Whether it takes a part of the piece's edge right off, so that the piece has another outline."""
        return self.kind in ("lowered", "gable")

    @property
    def depth_mm(self) -> float:
        """How deep it goes, square to the face."""
        return max([depth for _across, depth in self.profile]) if self.profile else self.in_mm

    @property
    def flat(self) -> Points:
        """Where it opens on its face, arcs as polygons."""
        return self._open_at(0.0)

    def line_at(self, z_mm: float, thickness_mm: float) -> tuple[Point, Point]:
        """Of what trims an edge: two points of the line it leaves, so far under the show face; wood lies below it."""
        if self.outline:
            points = flattened(self.outline)
            foot = min(points, key=lambda p: p[1])
            tip = max((p for p in points if p[0] != foot[0]), key=lambda p: -p[1])
            return (foot, tip) if foot[0] < tip[0] else (tip, foot)
        deep = z_mm if self.face == "show" else thickness_mm - z_mm
        level = min(y for y, at in self.profile if abs(at - deep) < 1e-6)
        (x0, _y0), (x1, _y1) = self.path
        return (x0, level), (x1, level)

    def through(self, thickness_mm: float) -> Points:
        """Where it comes out of the other face of a piece so thick; empty where it does not."""
        told = not self.ends or self.in_mm > 0  # how deep it goes into the wood
        return () if told and self.depth_mm < thickness_mm - 1e-6 else self._open_at(thickness_mm)

    @property
    def shadow(self) -> Points:
        """What of the face lies over it, whether it opens there or not; of one between two ends only."""
        return hull([(x, y) for end in self.ends for x, y, _z in end])

    def at_depth(self, z_mm: float) -> Points:
        """Its section level with the face, so far under the show face; of one between two ends only."""
        first, last = self.ends
        levels = [p[2] - z_mm for p in first]
        others = [p[2] - z_mm for p in last]
        deeper = min(*levels[2:], *others[2:])
        if max(*levels[:2], *others[:2]) < 1e-9 < deeper and min(*levels[:2], *others[:2]) > -1e-9:
            # It opens there between the first two corners of its ends, as a key's slot does.
            (a, b), (c, d) = first[:2], last[:2]
            return ((a[0], a[1]), (b[0], b[1]), (d[0], d[1]), (c[0], c[1]))
        if min(*levels, *others) > 1e-9 or max(*levels, *others) < -1e-9:
            return ()
        found = []
        for a, b in _sides_of(self.ends):
            if abs(a[2] - z_mm) < 1e-9:
                found.append((a[0], a[1]))
            elif (a[2] < z_mm) != (b[2] < z_mm) and abs(b[2] - z_mm) >= 1e-9:
                share = (z_mm - a[2]) / (b[2] - a[2])
                found.append((a[0] + share * (b[0] - a[0]), a[1] + share * (b[1] - a[1])))
        return hull(found) if len(found) > 2 else ()

    def _open_at(self, depth_mm: float) -> Points:
        if self.ends:
            return self.at_depth(depth_mm)
        if self.outline:
            return flattened(self.outline)
        across = [a for a, deep in self.profile if abs(deep - depth_mm) < 1e-6]
        if not across:
            return ()
        (x0, y0), (x1, y1) = self.path
        run = math.hypot(x1 - x0, y1 - y0)
        lx, ly = -(y1 - y0) / run, (x1 - x0) / run
        low, high = min(across), max(across)
        return (
            (x0 + low * lx, y0 + low * ly), (x1 + low * lx, y1 + low * ly),
            (x1 + high * lx, y1 + high * ly), (x0 + high * lx, y0 + high * ly),
        )  # fmt: skip

    def solid_points(self, thickness_mm: float) -> tuple[tuple[Vector, ...], tuple[Vector, ...]]:
        """The profile at both ends of the path, in the piece's own frame."""
        if self.ends:
            return self.ends[0], self.ends[1]
        (x0, y0), (x1, y1) = self.path
        run = math.hypot(x1 - x0, y1 - y0)
        left = (-(y1 - y0) / run, (x1 - x0) / run)

        def at(start: Point) -> tuple[Vector, ...]:
            return tuple(
                (
                    start[0] + across * left[0],
                    start[1] + across * left[1],
                    depth if self.face == "show" else thickness_mm - depth,
                )
                for across, depth in self.profile
            )

        return at(self.path[0]), at(self.path[1])


def _sides_of(ends: tuple[tuple[Vector, ...], ...]) -> list[tuple[Vector, Vector]]:
    """The edges of what lies between two outlines, both ways of each."""
    pairs = [(end[i - 1], end[i]) for end in ends for i in range(len(end))]
    pairs += list(zip(*ends, strict=True))
    return [*pairs, *((b, a) for a, b in pairs)]


class Edge(Struct, frozen=True):
    """One edge of a piece: `bevel_deg` from square, positive where the show face is the longer, and, of the two ends
    of a long piece, `miter_deg` from the line square to its bottom edge, positive where the face widens upward.
    """

    id: str
    bevel_deg: float
    miter_deg: float | None = None


def edges_between(
    names: Sequence[str], show: Points, inside: Points, thickness_mm: float
) -> tuple[Edge, ...]:
    """The edges of a straight-sided piece, named in the order of its corners: each as its two faces have it."""
    turn = math.copysign(1.0, area(show))
    edges = []
    for number, name in enumerate(names):
        (ax, ay), (bx, by) = show[number], show[(number + 1) % len(show)]
        (px, py), run = inside[number], math.dist((ax, ay), (bx, by))
        inward = turn * ((bx - ax) * (py - ay) - (by - ay) * (px - ax)) / run if run else 0.0
        edges.append(Edge(name, math.degrees(math.atan2(inward, thickness_mm))))
    return tuple(edges)


def trimmed_face(face: Points, features: Sequence[Feature], z_mm: float, thickness_mm: float) -> Points:
    """A face so far under the show face, without what features take right off its edges."""
    for feature in features:
        if feature.trims:
            face = _kept(face, *feature.line_at(z_mm, thickness_mm))
    return face


def _kept(face: Points, a: Point, b: Point) -> Points:
    """What of a face lies below a line from left to right."""

    def over(p: Point) -> float:
        return (b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0])

    found: list[Point] = []
    near = _ON_LINE_MM * math.dist(a, b)
    for p, q in zip(face, face[1:] + face[:1], strict=True):
        first, second = over(p), over(q)
        if first <= near:
            found.append(p)
        if (first < -near and second > near) or (second < -near and first > near):
            share = first / (first - second)
            found.append((p[0] + share * (q[0] - p[0]), p[1] + share * (q[1] - p[1])))
    return tuple(found)


class Piece(Struct, frozen=True):
    """One piece. `stock` says what it is cut from; both faces are outlines in the piece's own frame.

    Pieces of equal size that share the name `alike` are counted together in lists. `says` are keys of what a list
    tells of it besides, over `numbers` (mm, degrees, counts) and `names`.
    """

    id: str
    part: str
    name: str
    stock: str
    thickness_mm: float
    grain_deg: float
    show_face: Points
    inside_face: Points
    edges: tuple[Edge, ...]
    place: Place
    features: tuple[Feature, ...] = ()
    alike: str = ""
    says: tuple[str, ...] = ()
    numbers: dict[str, float] = {}
    names: dict[str, str] = {}

    @property
    def length_mm(self) -> float:
        """Over all, along x."""
        xs = [x for x, _y in (*self.show_face, *self.inside_face)]
        return max(xs) - min(xs)

    @property
    def width_mm(self) -> float:
        """Over all, along y."""
        ys = [y for _x, y in (*self.show_face, *self.inside_face)]
        return max(ys) - min(ys)

    @property
    def trimmed(self) -> tuple[Points, Points]:
        """Both faces without what is taken right off an edge: a rim ripped lower, a gable's slopes."""
        thick = self.thickness_mm
        show = trimmed_face(self.show_face, self.features, 0.0, thick)
        return show, trimmed_face(self.inside_face, self.features, thick, thick)

    def edge(self, name: str) -> Edge | None:
        """One of its edges by name, None where it has none of that name."""
        return next((edge for edge in self.edges if edge.id == name), None)

    @property
    def runs(self) -> tuple[float, float] | None:
        """Of a piece with two ends: its lengths along the bottom edge, on the show face and on the inside."""
        if self.edge("start") is None:
            return None
        (a, b), (c, d) = self.show_face[:2], self.inside_face[:2]
        return math.dist(a, b), math.dist(c, d)

    @property
    def size_mm(self) -> tuple[float, float]:
        """Length and width for a list: a piece with two ends by its show face along the bottom edge, else over all."""
        own = self.runs
        if own is None:
            return self.length_mm, self.width_mm
        ys = [y for _x, y in self.show_face]
        return own[0], max(ys) - min(ys)
