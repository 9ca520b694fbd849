"""Build every piece as a solid from its printed numbers only, and stand the pieces in their ring.

Uses manifold3d, a general solid-geometry library, as the outside judge.
"""

import math
from collections.abc import Sequence

import manifold3d
import numpy as np
import pytest
import shapely

from peristyle.planning.form.ring import RingPlan, SidePlan
from peristyle.planning.plan import Plan


def piece(side: SidePlan) -> manifold3d.Manifold:
    """One side from length, thickness, slope, height, miters and bevels, as the saw would leave it.

    Piece frame: x along the bottom edge of the show face, y up the show face, z into the wood.
    """
    length, thick = side.outside_mm, side.thickness_mm
    slope = math.radians(side.slope_deg)
    slant = side.height_mm / math.cos(slope)
    big = 4 * (length + slant + thick) + 4 * thick * sum(
        abs(math.tan(math.radians(c.bevel_deg))) for c in (side.start, side.end)
    )
    slab = manifold3d.Manifold.cube([2 * big, 2 * big, thick]).translate([-big, -big, 0.0])
    # Both edges are ripped level: leaning with the side.
    edge = np.array([0.0, math.cos(slope), math.sin(slope)])
    slab = slab.trim_by_plane(edge.tolist(), 0.0)
    slab = slab.trim_by_plane((-edge).tolist(), -slant * math.cos(slope))
    for cut, x0, sign in ((side.start, 0.0, 1.0), (side.end, length, -1.0)):
        miter, bevel = math.radians(cut.miter_deg), math.radians(cut.bevel_deg)
        # Direction square to the end's edge in the face, pointing into the piece.
        inward = np.array([sign * math.cos(miter), math.sin(miter), 0.0])
        normal = math.cos(bevel) * inward - math.sin(bevel) * np.array([0.0, 0.0, 1.0])
        slab = slab.trim_by_plane(normal.tolist(), float(normal @ [x0, 0.0, 0.0]))
    return slab


def place(ring: RingPlan, index: int, solid: manifold3d.Manifold) -> manifold3d.Manifold:
    """Stand a piece in its place: its bottom start corner on the ring's, leaning by its slope."""
    slab = ring.slabs[index]
    x, y = ring.sides[index].foot[0]
    along, up = np.array(slab.along), np.array(slab.up_face)
    into = -np.array(slab.normal)
    matrix = np.column_stack([along, up, into, [x, y, 0.0]])
    return solid.transform(matrix)


def frustum(bottom: Sequence[tuple[float, float]], top: Sequence[tuple[float, float]],
            height: float) -> manifold3d.Manifold:  # fmt: skip
    """The solid between two level outlines whose sides are planes."""
    points = [[x, y, 0.0] for x, y in bottom] + [[x, y, height] for x, y in top]
    return manifold3d.Manifold.hull_points(np.array(points))


def check(ring: RingPlan, tolerance: float = 1e-6) -> None:
    """No overlap and no gap beyond `tolerance` of the volume."""
    solids = [place(ring, side.index, piece(side)) for side in ring.sides]
    wanted = (
        frustum(ring.outer_bottom, ring.outer_top, ring.height_mm).volume()
        - frustum(ring.inner_bottom, ring.inner_top, ring.height_mm).volume()
    )
    total = sum(s.volume() for s in solids)
    joined = manifold3d.Manifold.batch_boolean(solids, manifold3d.OpType.Add).volume()
    assert abs(total - wanted) <= tolerance * wanted, (total, wanted)
    assert abs(joined - wanted) <= tolerance * wanted, (joined, wanted)
    for a, b in zip(solids, solids[1:] + solids[:1], strict=True):
        assert (a ^ b).volume() <= tolerance * wanted


def divider_depths(found: Plan, number: int) -> list[float]:
    """How deep the corners of divider `number`'s ends lie behind the walls' faces, foot and top, by planes."""
    piece = found.dividers.pieces[number]
    ring = found.liner.ring if found.dividers.in_liner and found.liner else found.ring
    floor = 0.0 if found.dividers.in_liner else found.job.design.floor_mm
    x0, y0, x1, y1 = shapely.Polygon(piece.outline).bounds
    ends = []
    for dado, lean, way in zip(piece.dadoes, piece.leans_deg, (-1, 1), strict=True):
        slab = ring.slabs[dado.side]
        normal = np.array(slab.normal)
        for z in (0.0, piece.height_mm):
            out = way * z * math.tan(math.radians(lean))
            if piece.run == "across":
                corners = [(x, (y0 if way < 0 else y1) + out, floor + z) for x in (x0, x1)]
            else:
                corners = [((x0 if way < 0 else x1) + out, y, floor + z) for y in (y0, y1)]
            face = slab.offset_mm * slab.cos_slope - slab.thickness_mm
            behind = sorted(float(normal @ np.array(c)) - face for c in corners)
            assert behind[1] == pytest.approx(dado.depth_mm)
            ends.append(behind[0])
    return ends
