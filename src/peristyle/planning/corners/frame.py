"""A corner's own frame: its arris, the two faces that meet there, and what is cut square across it."""

import math
from functools import cached_property, lru_cache
from typing import NamedTuple

from msgspec import Struct

from peristyle.core.planes import Slab, Vector, cross, dot, edge_lean_deg, meet
from peristyle.planning.form.ring import RingPlan


class Frame(Struct, frozen=True, dict=True):
    """The corner at the end of side `index`. All directions are unit vectors in the box.

    `vertex` is the arris's lower end and `edge` runs up it. `back` and `on` run from it down the faces of the first
    and the second side, square to it; `across` from the first side to the second, level with what is let in across
    the corner, and `inward` along the bisector. `joint` runs in the miter from the inside arris to the outer one,
    `joint_mm` wide, and `beside` square to the miter, into the second side. `inner` is the inside arris's lower end.
    """

    index: int
    name: str
    vertex: Vector
    edge: Vector
    back: Vector
    on: Vector
    across: Vector
    inward: Vector
    half_rad: float
    lean_deg: float
    walls_mm: tuple[float, float]
    inner: Vector
    joint: Vector
    joint_mm: float
    beside: Vector
    lapped: bool

    @property
    def through_mm(self) -> float:
        """How deep along the bisector what is let in square to the arris comes through inside.

        t/sin(θ/2), with unequal walls the mean of the two. Source: plane geometry.
        """
        return sum(self.walls_mm) / 2 / math.sin(self.half_rad)

    @property
    def level_deg(self) -> float:
        """By how much what is let in is tipped so that it lies level: against the arris's own lean."""
        return math.degrees(math.atan2(-self.inward[2], self.edge[2]))

    @property
    def levels(self) -> bool:
        """Whether anything let in across it can lie level: both faces lean alike."""
        return abs(self.across[2]) < 1e-7

    @property
    def id(self) -> str:
        """The corner's name as it stands in the names of pieces, features and steps."""
        return self.name.replace("-", "_")

    @cached_property
    def looks(self) -> tuple[float, ...]:
        """What is the same for corners that differ only in where they stand."""
        values = (
            self.half_rad,
            self.lean_deg,
            *self.walls_mm,
            self.back[2],
            self.on[2],
            self.edge[2],
            self.joint_mm,
        )
        return tuple([round(v, 7) for v in values])

    def at(self, height_mm: float) -> Vector:
        """The arris at a height over the box's bottom edge."""
        return along(self.vertex, (height_mm / self.edge[2], self.edge))


def along(start: Vector, *moves: tuple[float, Vector]) -> Vector:
    """A point moved by so much along each direction."""
    x, y, z = start
    for by, (dx, dy, dz) in moves:
        x, y, z = x + by * dx, y + by * dy, z + by * dz
    return (x, y, z)


def _unit(vector: Vector) -> Vector:
    size = math.sqrt(dot(vector, vector))
    return (vector[0] / size, vector[1] / size, vector[2] / size)


def frames_of(ring: RingPlan) -> tuple[Frame, ...]:
    """Every corner's frame, in their order."""
    return tuple([_frame(ring, index) for index in range(len(ring.corners))])


def _frame(ring: RingPlan, index: int) -> Frame:
    first, second = ring.slabs[index], ring.slabs[(index + 1) % len(ring.slabs)]
    plan = ring.corners[index]
    ways = _ways(first._replace(offset_mm=0.0), second._replace(offset_mm=0.0))
    x, y = ring.outer_bottom[index]
    inside = (ring.inner_bottom or ring.outer_bottom)[index]
    return Frame(
        index=index, name=plan.name, vertex=(x, y, 0.0), half_rad=math.radians(plan.dihedral_deg / 2),
        walls_mm=(first.thickness_mm, second.thickness_mm), inner=(*inside, 0.0), joint_mm=plan.joint_face_mm,
        lapped=plan.lapped, **ways._asdict(),
    )  # fmt: skip


class _Ways(NamedTuple):
    """The directions of a corner, wherever it stands, and its arris's lean."""

    edge: Vector
    back: Vector
    on: Vector
    across: Vector
    inward: Vector
    joint: Vector
    beside: Vector
    lean_deg: float


@lru_cache(maxsize=4096)  # most edits leave most corners as they are
def _ways(first: Slab, second: Slab) -> _Ways:
    edge = _unit(cross(first.normal, second.normal))
    if edge[2] < 0:
        edge = (-edge[0], -edge[1], -edge[2])
    back, on = _down(first, edge, -1.0), _down(second, edge, 1.0)
    # The inside arris is where both inner planes meet: as seen from the outer one, square to it.
    x, y = meet(first, -first.level_thickness_mm, second, -second.level_thickness_mm)
    out = along((-x, -y, 0.0), (x * edge[0] + y * edge[1], edge))
    joint = _unit(out)
    return _Ways(
        edge=edge, back=back, on=on, across=_unit(along(on, (-1.0, back))), inward=_unit(along(on, (1.0, back))),
        joint=joint, beside=cross(edge, joint), lean_deg=edge_lean_deg(first, second),
    )  # fmt: skip


def _down(slab: Slab, edge: Vector, way: float) -> Vector:
    """Square to the arris in a side's face, along the side's travel (way 1) or against it."""
    found = _unit(cross(slab.normal, edge))
    sign = math.copysign(1.0, way * dot(found, slab.along))
    return (found[0] * sign, found[1] * sign, found[2] * sign)


class Slot(NamedTuple):
    """What is let in across a corner at one height: as thick as it is, tipped, so deep, flaring towards its floor.

    `tip_rad` is positive where the floor lies higher than the arris. `thickness_mm` is that at the floor, `flare_rad`
    the angle by which each cheek leans (a dovetail), 0 of a straight one.
    """

    frame: Frame
    height_mm: float
    thickness_mm: float
    depth_mm: float
    tip_rad: float = 0.0
    flare_rad: float = 0.0

    @property
    def into(self) -> Vector:
        """The way from the arris to the floor."""
        return along(
            (0.0, 0.0, 0.0),
            (math.cos(self.tip_rad), self.frame.inward),
            (math.sin(self.tip_rad), self.frame.edge),
        )

    @property
    def over(self) -> Vector:
        """Square to the slot's middle plane, upward."""
        return along(
            (0.0, 0.0, 0.0),
            (math.cos(self.tip_rad), self.frame.edge),
            (-math.sin(self.tip_rad), self.frame.inward),
        )

    @property
    def half_rad(self) -> float:
        """Half the corner's angle as the slot's plane cuts it. Source: plane geometry."""
        return math.atan(math.tan(self.frame.half_rad) * math.cos(self.tip_rad))

    @property
    def leg_mm(self) -> float:
        """Its length down each face, in its middle plane."""
        return self.depth_mm / math.cos(self.half_rad)

    @property
    def base_mm(self) -> float:
        """The length of its floor, in its middle plane."""
        return 2 * self.depth_mm * math.tan(self.half_rad)

    @property
    def area_mm2(self) -> float:
        """One cheek."""
        return self.depth_mm**2 * math.tan(self.half_rad) / math.cos(self.flare_rad)

    @property
    def face_mm(self) -> float:
        """How wide it is at the arris."""
        return self.thickness_mm - 2 * self.depth_mm * math.tan(self.flare_rad)

    @property
    def breakthrough_mm(self) -> float:
        """The depth at which its middle comes through inside."""
        return self.frame.through_mm / math.cos(self.tip_rad)

    @property
    def lower_mm(self) -> float:
        """How much sooner the lower edge of a tipped one's floor comes through than its middle."""
        return self.thickness_mm / 2 * abs(math.tan(self.tip_rad))

    def cheek(self, sign: float, half_mm: float | None = None) -> tuple[Vector, Vector, Vector]:
        """The upper (sign 1) or lower cheek's corners: at the arris, and where its floor ends at the first and the
        second face. With `half_mm` the section so far from the middle plane instead.
        """
        tip, flare = math.tan(self.tip_rad), math.tan(self.flare_rad)
        at_floor = sign * (self.thickness_mm / 2 if half_mm is None else half_mm)
        at_arris = at_floor
        if half_mm is None and flare:
            at_arris = sign * self.face_mm / 2 / (1.0 - sign * tip * flare)
        middle, over, into = self.frame.at(self.height_mm), self.over, self.into
        run = self.depth_mm * math.cos(self.tip_rad) - at_floor * math.sin(self.tip_rad)
        run *= math.tan(self.frame.half_rad)
        arris = along(middle, (at_arris, over), (at_arris * tip, into))
        floor, across = along(middle, (at_floor, over), (self.depth_mm, into)), self.frame.across
        return arris, along(floor, (-run, across)), along(floor, (run, across))

    @property
    def deepest_mm(self) -> float:
        """How far in from the arris its floor reaches at the most, square to the arris. Source: plane geometry."""
        return self.depth_mm * math.cos(self.tip_rad) + self.thickness_mm / 2 * abs(math.sin(self.tip_rad))

    def under_mm(self, *, second: bool) -> float:
        """How deep under the first or the second face it goes at the most: where its floor meets the miter.

        Between unequal walls the miter does not halve the corner. Source: plane geometry.
        """
        frame, deep = self.frame, self.deepest_mm
        aside = deep * dot(frame.joint, frame.across) / dot(frame.joint, frame.inward)
        return deep * math.sin(frame.half_rad) + (-aside if second else aside) * math.cos(frame.half_rad)

    @property
    def reach_mm(self) -> tuple[float, float]:
        """How far it reaches down and up from its height at the arris: the heights of its six corners."""
        cos, sin, frame = math.cos(self.tip_rad), math.sin(self.tip_rad), self.frame
        over = frame.edge[2] * cos - frame.inward[2] * sin
        into = frame.inward[2] * cos + frame.edge[2] * sin
        half, tip = self.thickness_mm / 2, math.tan(self.tip_rad)
        heights = []
        for at in (-half, half):
            run = abs((self.depth_mm * cos - at * sin) * math.tan(frame.half_rad) * frame.across[2])
            floor = at * over + self.depth_mm * into
            arris = at * (self.face_mm / self.thickness_mm)
            arris /= 1.0 - math.copysign(1.0, at) * tip * math.tan(self.flare_rad)
            heights += [floor - run, floor + run, arris * (over + tip * into)]
        return -min(heights), max(heights)
