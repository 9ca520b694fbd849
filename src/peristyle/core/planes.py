"""Slabs and where they meet: one plane method for every corner.

A side is a slab between an outer plane n·x = d and an inner plane n·x = d − t. At a corner the two
outer planes meet in the outer edge and the two inner planes in the inner edge; the edges are
parallel, and the miter plane holds both. From that plane come miter and bevel of each piece, for
any corner, any lean and any two thicknesses.

Frame: x east, y north, z up; the ring runs counter-clockwise seen from above, z = 0 at its bottom.
"""

import math
from functools import lru_cache
from typing import NamedTuple

from peristyle.core.errors import ShapeError
from peristyle.core.tolerance import DEFAULT, Tolerance

Point = tuple[float, float]
Vector = tuple[float, float, float]


def dot(a: Vector, b: Vector) -> float:
    """Scalar product."""
    return a[0] * b[0] + a[1] * b[1] + a[2] * b[2]


def cross(a: Vector, b: Vector) -> Vector:
    """Vector product."""
    return (a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0])


class Slab(NamedTuple):
    """One side as a slab: which way it faces, how far out, how it leans, how thick it is.

    `ux`, `uy` is the horizontal outward direction (length 1); `offset_mm` the distance of the
    bottom outer edge from the origin along it. `sin_slope`, `cos_slope` belong to the lean from
    vertical, positive when the side leans outward as it rises.
    """

    ux: float
    uy: float
    offset_mm: float
    sin_slope: float
    cos_slope: float
    thickness_mm: float

    @classmethod
    def facing(cls, outward_deg: float, offset_mm: float, slope_deg: float, thickness_mm: float) -> "Slab":
        """A slab from its angles in degrees (outward direction counted from east)."""
        ux, uy = unit(outward_deg)
        slope = math.radians(slope_deg)
        return cls(ux, uy, offset_mm, math.sin(slope), math.cos(slope), thickness_mm)

    @property
    def normal(self) -> Vector:
        """Outward normal of both faces."""
        return (self.cos_slope * self.ux, self.cos_slope * self.uy, -self.sin_slope)

    @property
    def along(self) -> Vector:
        """Direction of travel along the bottom edge, counter-clockwise round the ring."""
        return (-self.uy, self.ux, 0.0)

    @property
    def up_face(self) -> Vector:
        """Direction up the face, square to the bottom edge."""
        return (self.sin_slope * self.ux, self.sin_slope * self.uy, self.cos_slope)

    @property
    def level_thickness_mm(self) -> float:
        """Thickness as a level cut shows it."""
        return self.thickness_mm / self.cos_slope

    def outer_mm(self, z_mm: float) -> float:
        """How far out the outer face stands at height z."""
        return self.offset_mm + z_mm * self.sin_slope / self.cos_slope

    def inner_mm(self, z_mm: float, depth_mm: float | None = None) -> float:
        """How far out the plane `depth_mm` behind the outer face stands (the inner face if None)."""
        depth = self.thickness_mm if depth_mm is None else depth_mm
        return self.offset_mm + (z_mm * self.sin_slope - depth) / self.cos_slope


def unit(angle_deg: float) -> Point:
    """Direction of an angle, exact on the axes, where rounding would show in a rectangle."""
    turned = angle_deg % 360.0
    if turned == 360.0:  # a hair under 0 is rounded up to the whole turn
        turned = 0.0
    if turned % 90.0 == 0.0:
        return ((1.0, 0.0), (0.0, 1.0), (-1.0, 0.0), (0.0, -1.0))[int(turned // 90.0)]
    radians = math.radians(turned)
    return (math.cos(radians), math.sin(radians))


def meet(a: Slab, offset_a: float, b: Slab, offset_b: float) -> Point:
    """Where two level lines u·p = offset cross. The slabs must not be parallel."""
    det = a.ux * b.uy - a.uy * b.ux
    return ((offset_a * b.uy - offset_b * a.uy) / det, (a.ux * offset_b - b.ux * offset_a) / det)


class EndCut(NamedTuple):
    """How one end of a piece is cut.

    `miter_deg`: swing of the gauge from a square crosscut, positive where the face grows wider
    upward. `bevel_deg`: tilt of the blade from square, positive where the show face is the longer.
    """

    miter_deg: float
    bevel_deg: float


class Corner(NamedTuple):
    """A corner between two slabs: the end of the first piece meets the start of the second."""

    first: EndCut
    second: EndCut
    interior_deg: float
    dihedral_deg: float
    joint_face_mm: float


@lru_cache(maxsize=4096)  # most edits leave most corners as they are
def corner(a: Slab, b: Slab, tol: Tolerance = DEFAULT) -> Corner:
    """Miter, bevel and joint face where slab `a` ends and slab `b` starts.

    Raises ShapeError `corner_not_convex` when the ring does not turn left by less than 180° there.

    Source: MATH of planes; closed forms for regular rings, tan(miter) = tan(180/n)·sin(slope)
    and sin(bevel) = sin(180/n)·cos(slope), are common practice and checked in the tests.
    """
    turn_deg = math.degrees(math.atan2(a.ux * b.uy - a.uy * b.ux, a.ux * b.ux + a.uy * b.uy))
    if turn_deg <= tol.angle_deg or turn_deg >= 180.0 - tol.angle_deg:
        interior = 180.0 - turn_deg if turn_deg > -180.0 + tol.angle_deg else 0.0
        raise ShapeError(
            "corner_not_convex",
            f"A corner of {interior:.4g}° cannot be mitered from outside: "
            "every corner must be between 0° and 180°.",
            interior_deg=interior,
        )
    na, nb = a.normal, b.normal
    ex, ey, ez = cross(na, nb)
    size = math.sqrt(ex * ex + ey * ey + ez * ez)
    if ez < 0:
        size = -size
    edge = (ex / size, ey / size, ez / size)
    px, py = meet(a, -a.level_thickness_mm, b, -b.level_thickness_mm)
    along_edge = px * edge[0] + py * edge[1]
    # The joint face's width, from the outer to the inner edge, square to both.
    across = (px - along_edge * edge[0], py - along_edge * edge[1], -along_edge * edge[2])
    return Corner(
        first=_end_cut(a, 1.0, edge, across),
        second=_end_cut(b, -1.0, edge, across),
        interior_deg=180.0 - turn_deg,
        dihedral_deg=180.0 - math.degrees(math.acos(max(-1.0, min(1.0, dot(na, nb))))),
        joint_face_mm=math.sqrt(dot(across, across)),
    )


def edge_lean_deg(a: Slab, b: Slab) -> float:
    """How far the outer edge of a corner leans from plumb (degrees), positive where it leans outward as it rises.

    Source: two planes; regular rings, tan λ = tan(slope)/cos(180/n).
    """
    ex, ey, ez = cross(a.normal, b.normal)
    level = math.hypot(ex, ey)
    outward = ex * (a.ux + b.ux) + ey * (a.uy + b.uy)
    return math.degrees(math.atan2(math.copysign(level, outward * math.copysign(1.0, ez)), abs(ez)))


def lapped(a: Slab, b: Slab, *, over_first: bool, plumb: bool) -> Corner:
    """The corner of slabs that lap: the one over runs past the other, whose end lies under it.

    The end below is cut parallel to the inner plane of the slab above; the end above is left
    square, or `plumb`, parallel to the slab below. Both bevels are counted as in a miter: negative
    where the inside is the longer. Raises ShapeError as `corner` does.
    Source: two planes; with upright sides the end below leans as the roof does (common practice).
    """
    met = corner(a, b)
    under_deg = 90.0 - met.dihedral_deg
    over_deg = under_deg if plumb else 0.0
    below = b if over_first else a
    first, second = (over_deg, under_deg) if over_first else (under_deg, over_deg)
    return met._replace(
        first=met.first._replace(bevel_deg=first),
        second=met.second._replace(bevel_deg=second),
        joint_face_mm=below.thickness_mm / math.sin(math.radians(met.dihedral_deg)),
    )


def _end_cut(slab: Slab, way: float, edge: Vector, across: Vector) -> EndCut:
    """The cut at the end that lies along the piece in its own direction (way 1) or against it (−1)."""
    ux, uy = slab.ux, slab.uy
    out_x, out_y = -uy * way, ux * way
    run = edge[0] * out_x + edge[1] * out_y
    sin_slope, cos_slope = slab.sin_slope, slab.cos_slope
    rise = sin_slope * (edge[0] * ux + edge[1] * uy) + cos_slope * edge[2]
    # The joint face's run off the end of the piece, in the face and square to the edge.
    off_run = across[0] * out_x + across[1] * out_y
    off_rise = sin_slope * (across[0] * ux + across[1] * uy) + cos_slope * across[2]
    length = math.hypot(run, rise)
    off_end = (off_run * rise - off_rise * run) / length
    return EndCut(math.degrees(math.atan2(run, rise)), math.degrees(math.atan2(-off_end, slab.thickness_mm)))


def simple_corner(
    interior_deg: float,
    slope_deg: float = 0.0,
    slope2_deg: float | None = None,
    thickness_mm: float = 1.0,
    thickness2_mm: float | None = None,
) -> Corner:
    """One corner by itself, as asked for at the saw; the second side is like the first if None."""
    if not 0.0 < interior_deg < 180.0:
        raise ShapeError(
            "corner_not_convex",
            f"A corner of {interior_deg:.6g}° cannot be mitered: give an angle between 0° and 180°.",
            interior_deg=interior_deg,
        )
    second_slope = slope_deg if slope2_deg is None else slope2_deg
    second_thickness = thickness_mm if thickness2_mm is None else thickness2_mm
    return corner(
        Slab.facing(0.0, 0.0, slope_deg, thickness_mm),
        Slab.facing(180.0 - interior_deg, 0.0, second_slope, second_thickness),
    )
