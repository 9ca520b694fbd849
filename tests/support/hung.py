"""Hinges as solids on a box whose lid is sawn free: leaves in their mortises, the lid swung about the axis."""

import math
from collections.abc import Iterator

import manifold3d
import numpy as np

from peristyle.planning.making.piece import Piece
from peristyle.planning.plan import Plan
from peristyle.planning.section.hardware import rims_of, side_of, spots
from support.solids import in_box, solid


def halves(made: Plan) -> tuple[manifold3d.Manifold, manifold3d.Manifold]:
    """Body and lid as trued, with all that is cut into them; the lid brought down onto the body."""
    lid = made.section.lid
    if lid is None:  # a flat lid, a board on the rim
        parts = [(piece.id, in_box(piece, _whole(piece))) for piece in made.pieces if _of_the_box(piece)]
        low = manifold3d.Manifold.batch_boolean(
            [m for name, m in parts if name != "panel.lid"], manifold3d.OpType.Add
        )
        return low, next(m for name, m in parts if name == "panel.lid")
    wood = manifold3d.Manifold.batch_boolean(
        [in_box(piece, _whole(piece)) for piece in made.pieces if _of_the_box(piece)], manifold3d.OpType.Add
    )
    body = wood.trim_by_plane([0.0, 0.0, -1.0], -lid.lost_low_mm)
    top = wood.trim_by_plane([0.0, 0.0, 1.0], lid.lost_high_mm)
    return body, top.translate([0.0, 0.0, lid.lost_low_mm - lid.lost_high_mm])


def _of_the_box(piece: Piece) -> bool:
    """Walls, bottom and top: not the loose boards within."""
    return piece.part in ("side", "panel") and piece.id not in ("panel.tray", "panel.false")


def _whole(piece: Piece) -> manifold3d.Manifold:
    return solid(piece, without=("slot", "lid_kerf"))


def axis(made: Plan) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """A point of the hinges' axis, its direction along the side, and the way out of the box."""
    own, rims = made.job.design.section.hinges, rims_of(made.job.design, made.section)
    assert own is not None
    assert rims is not None
    level = rims.body_mm
    slab = made.ring.slabs[side_of(made.job.design, own)]
    out = slab.outer_mm(level) + (own.out_mm if own.pattern != "barrel" else -own.in_mm)
    return (
        np.array([slab.ux * out, slab.uy * out, level]), np.array(slab.along),
        np.array([slab.ux, slab.uy, 0.0]),
    )  # fmt: skip


def turned(made: Plan, degrees: float) -> np.ndarray:
    """The lid opened so far: a rotation about the axis, outward and down behind."""
    point, along, out = axis(made)
    up = np.array([0.0, 0.0, 1.0])
    c, s = math.cos(math.radians(degrees)), math.sin(math.radians(degrees))
    # `up` goes to `out`.
    rotation = (
        np.outer(along, along)
        + c * (np.outer(out, out) + np.outer(up, up))
        + s * (np.outer(out, up) - np.outer(up, out))
    )
    return np.column_stack([rotation, point - rotation @ point])


def _foot(made: Plan) -> np.ndarray:
    """The point of the axis over the start of the hinged side's bottom edge."""
    own = made.job.design.section.hinges
    assert own is not None
    point, along, _out = axis(made)
    name = made.ring.sides[side_of(made.job.design, own)].name
    origin = np.array(next(p.place for p in made.pieces if p.id == f"side.{name}").origin)
    foot: np.ndarray = point - ((point - origin) @ along) * along
    return foot


def leaves(made: Plan, *, lid: bool) -> Iterator[manifold3d.Manifold]:
    """The leaves of one half, as plates from the axis inward, along the hinges' lengths."""
    own = made.job.design.section.hinges
    assert own is not None
    _point, along, out = axis(made)
    foot = _foot(made)
    if own.pattern == "barrel":
        yield from _bored(made, lid=lid)
        return
    low, high = (0.0, own.thick_mm) if lid else (-own.thick_mm, 0.0)
    if own.pattern == "quadrant":
        yield from _legs(made, low, high)
        yield from _legs(made, *((0.0, own.thick_mm + own.stay_mm) if lid else (-own.thick_mm - own.stay_mm, 0.0)),
                         wide=own.stay_wide_mm)  # fmt: skip
    for spot in spots(made.job.design, made.ring, made.section, own):
        corners = [
            foot + along * at - out * inward + np.array([0.0, 0.0, z])
            for at in (spot.begins_mm, spot.ends_mm) for inward in (0.0, own.leaf_mm) for z in (low, high)
        ]  # fmt: skip
        yield manifold3d.Manifold.hull_points(np.array(corners))


def _bored(made: Plan, *, lid: bool) -> Iterator[manifold3d.Manifold]:
    """Barrels in the joint, a hair thinner than their bores, half in the body and half in the lid."""
    own = made.job.design.section.hinges
    assert own is not None
    _point, along, _out = axis(made)
    foot = _foot(made)
    for spot in spots(made.job.design, made.ring, made.section, own):
        barrel = manifold3d.Manifold.cylinder(own.deep_mm - 0.01, own.barrel_mm * 0.495, circular_segments=48)
        middle = foot + along * spot.middle_mm - np.array([0.0, 0.0, 0.0 if lid else own.deep_mm - 0.01])
        yield barrel.translate(list(middle))


def _legs(made: Plan, low: float, high: float, wide: float | None = None) -> Iterator[manifold3d.Manifold]:
    """The legs of quadrants as plates, or their stays, from the two corners of the body's rim: square to each other."""
    own, rims = made.job.design.section.hinges, rims_of(made.job.design, made.section)
    assert own is not None
    assert rims is not None
    index, level = side_of(made.job.design, own), rims.body_mm
    slabs = made.ring.slabs
    for beside in (slabs[index - 1], slabs[(index + 1) % len(slabs)]):
        far, face = beside.outer_mm(level) - own.leg_in_mm, slabs[index].outer_mm(level)
        middle = far - own.leg_wide_mm / 2
        ends = (far, far - own.leg_wide_mm) if wide is None else (middle - wide / 2, middle + wide / 2)
        corners = [
            [slabs[index].ux * a + beside.ux * b, slabs[index].uy * a + beside.uy * b, level + z]
            for a in (face - own.leg_mm, face - own.leaf_mm + own.out_mm) for b in ends for z in (low, high)
        ]  # fmt: skip
        yield manifold3d.Manifold.hull_points(np.array(corners))


def _barrels(made: Plan) -> Iterator[manifold3d.Manifold]:
    """The barrels about the axis, a hair thinner than measured."""
    own = made.job.design.section.hinges
    assert own is not None
    _point, along, _out = axis(made)
    foot = _foot(made)
    across = np.array([along[1], -along[0], 0.0])
    for spot in spots(made.job.design, made.ring, made.section, own):
        turns = np.linspace(0.0, 2 * np.pi, 24, endpoint=False)
        ring = [own.barrel_mm * 0.499 * (np.cos(t) * across + np.array([0.0, 0.0, np.sin(t)])) for t in turns]
        corners = [foot + along * at + p for at in (spot.begins_mm, spot.ends_mm) for p in ring]
        yield manifold3d.Manifold.hull_points(np.array(corners))


def troubles(made: Plan) -> Iterator[str]:
    """Leaves and barrels in wood, leaves not flush with their mortises' walls; a lid that meets the body opening."""
    body, lid = halves(made)
    for half, own, word in ((body, False, "body"), (lid, True, "lid")):
        barrels = list(_barrels(made)) if made.section.lid is None and own else []
        if any((barrel ^ half).volume() > 1e-2 for barrel in barrels):
            yield f"a barrel lies in the {word}'s wood"
        for leaf in leaves(made, lid=own):
            if (leaf ^ half).volume() > 1e-2:
                yield f"a leaf lies in the {word}'s wood by {(leaf ^ half).volume():.3f} mm³"
            # It fills its mortise: a hair larger all round but for the outside, and it touches.
            grown = leaf.translate([0.0, 0.0, 0.05 if own else -0.05])
            if (grown ^ half).volume() < 1e-3:
                yield f"a leaf has room over it in the {word}"
    concealed = made.job.design.section.hinges
    assert concealed is not None
    for degrees in (0.05, 1.0, 5.0, 20.0, 45.0, 80.0, 89.95 if concealed.pattern == "barrel" else 95.0):
        met = (lid.transform(turned(made, degrees)) ^ body).volume()
        if met > 1e-2:
            yield f"opened {degrees}° the lid meets the body by {met:.3f} mm³"
