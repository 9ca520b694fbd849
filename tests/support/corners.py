"""Boxes with strengthened corners, and their solids held against the wood by a general solid-geometry library."""

import math
import random
from collections.abc import Iterator

import manifold3d
import numpy as np

from peristyle.model import corner_edits
from peristyle.model.design import (
    CornerBlocks,
    Keys,
    Lid,
    Liner,
    Opening,
    Outline,
    Panel,
    Rectangle,
    Regular,
    Segments,
    replace,
)
from peristyle.model.job import Job, job_of, revised
from peristyle.model.stock import Board
from peristyle.model.tools import Bit
from peristyle.planning.corners.frame import frames_of
from peristyle.planning.corners.keys import KeyPlan, slot_at, slot_of
from peristyle.planning.corners.splines import bevels_at, deepest_mm
from peristyle.planning.making.piece import Piece
from peristyle.planning.plan import Plan, plan
from support.designs import random_design
from support.solids import in_box, placed, swept, whole

TINY = 1e-6


def strengthened(seed: int) -> Job:
    """A box of some ring, with keys of some kind (slanting, level, mixed), splines or corner blocks."""
    chance = random.Random(seed)
    count = chance.choice((3, 4, 4, 5, 6, 8, 9))
    thick = chance.choice((8.0, 10.0, 12.0, 15.0))
    lean = chance.choice((0.0, 0.0, 0.0, 8.0, 15.0, -6.0))
    rectangle = count == 4 and chance.random() < 0.7
    shape = (
        Rectangle(chance.uniform(170, 260), chance.uniform(120, 200)) if rectangle
        else Regular(count, chance.uniform(700, 1000) / count)
    )  # fmt: skip
    walls: tuple[float, ...] = (thick,)
    slopes: tuple[float, ...] = (lean,)
    if rectangle and chance.random() < 0.4:
        walls = tuple(thick + chance.uniform(-2, 3) for _ in range(4))
    if rectangle and lean and chance.random() < 0.4:
        slopes = (lean, lean / 2, lean, lean / 2)
    height = chance.uniform(70, 130)
    job = job_of(
        shape=shape, height_mm=height, thicknesses_mm=walls, slopes_deg=slopes,
        bottom=Panel() if chance.random() < 0.7 else None,
        lid=Lid(height_mm=chance.uniform(18, 30)) if not lean and chance.random() < 0.5 else None,
        liner=Liner(height_mm=height * 0.6) if chance.random() < 0.15 else None,
    )  # fmt: skip
    if chance.random() < 0.3 and not lean:
        job = revised(
            job, openings=(Opening(side=0, along_mm=chance.uniform(15, 30), up_mm=height / 2, width_mm=12.0),)
        )
    kind = chance.choice(("straight", "straight", "veneer", "dovetail"))
    keys = corner_edits.keys_begun(job, kind)
    if kind == "dovetail":
        keys = replace(keys, thickness_mm=chance.uniform(7, 12), depth_mm=chance.uniform(4, 0.7 * min(walls)))
    elif kind == "straight":
        keys = replace(
            keys, thickness_mm=chance.uniform(1.5, 5), depth_mm=chance.uniform(3, 1.05 * min(walls))
        )
    slant = chance.choice((0.0, 0.0, 10.0, -20.0)) if kind != "dovetail" or chance.random() < 0.5 else 0.0
    keys = replace(
        keys, count=chance.randint(1, 4), placed=chance.choice(("few", "even", "spaced")), slant_deg=slant,
        spacing_mm=chance.uniform(15, 40), edge_margin_mm=chance.uniform(5, 12),
        lie=chance.choice(("square", "level")) if lean and len(slopes) == 1 else "square",
    )  # fmt: skip
    what = chance.choice(("keys", "keys", "keys", "mixed", "splines", "splines", "blocks", "all"))
    if what in ("keys", "mixed", "all"):
        job = revised(job, keys=keys)
    if what == "mixed":
        corners = tuple(range(0, count, 2))
        others = tuple(range(1, count, 2))
        job = revised(
            job,
            keys=replace(keys, corners=corners),
            other_keys=Keys(depth_mm=0.5 * min(walls), corners=others),
        )
    if what in ("splines", "all"):
        job = corner_edits.with_splines(job, True)
    if what in ("blocks", "all"):
        job = corner_edits.with_corner_blocks(revised(job, liner=None), True)
    return job


def hopeless_corners() -> Iterator[Job]:
    """Boxes that something is wrong with at the corners: each sentence about it is reached by one of them."""
    box = job_of(shape=Rectangle(240.0, 160.0), height_mm=90.0, thicknesses_mm=(12.0,))
    grooved = revised(box, bottom=Panel(), top=Panel())
    straight, dovetail = corner_edits.keys_begun(box, "straight"), corner_edits.keys_begun(box, "dovetail")
    hole = Opening(side=0, along_mm=15.0, up_mm=45.0, width_mm=14.0)
    for keys in (
        replace(straight, positions_mm=(45.0,)), replace(straight, positions_mm=(30.0, 35.0)),
        replace(straight, positions_mm=(1.6,), edge_margin_mm=0.0),
        replace(straight, lie="level"), replace(straight, placed="spaced", spacing_mm=300.0, edge_margin_mm=44.0),
        replace(straight, placed="spaced", spacing_mm=22.0), replace(straight, count=5, thickness_mm=6.0),
        replace(dovetail, thickness_mm=9.0), replace(dovetail, depth_mm=11.9, angle_deg=25.0),
        replace(straight, kind="veneer", thickness_mm=0.2), replace(straight, slant_deg=12.0, lie="level"),
    ):  # fmt: skip
        yield revised(box, openings=(hole,), keys=keys)
        yield revised(box, lid=Lid(height_mm=16.0), keys=keys)
        yield revised(box, slopes_deg=(9.0, -5.0, 9.0, -5.0), keys=keys)
    by_hand = revised(
        box, uses=replace(box.shop.uses, slot="Fine hand saw"), keys=replace(straight, slant_deg=15.0)
    )
    yield by_hand
    yield revised(by_hand, keys=replace(straight, slant_deg=-15.0))
    splined = revised(
        corner_edits.with_splines(box, True), uses=replace(box.shop.uses, spline="Straight bit 4")
    )
    splines = splined.design.joints.splines
    assert splines is not None
    for own in (
        replace(splines, depth_mm=14.0), replace(splines, place_mm=1.0), replace(splines, place_mm=16.0),
        replace(splines, count=2, apart_mm=3.0), replace(splines, stop_bottom_mm=50.0, stop_top_mm=38.0),
        replace(splines, stop_bottom_mm=10.0), replace(splines, stop_top_mm=10.0),
        replace(splines, stop_top_mm=10.0, stop_bottom_mm=10.0), replace(splines, thickness_mm=0.5),
    ):  # fmt: skip
        for one in (box, grooved, revised(box, thicknesses_mm=(12.0, 9.0, 12.0, 9.0))):
            for tool in ("Straight bit 4", "", "Straight bit 6"):
                yield revised(one, splines=own, uses=replace(box.shop.uses, spline=tool))
    bare = revised(box, splines=replace(splines, stop_top_mm=10.0, thickness_mm=3.0), tools=())
    yield bare
    yield revised(bare, tools=(Bit(name="Wide bit", width_mm=5.0),))
    yield revised(splined, splines=replace(splines, corners=(0, 2)))
    yield revised(splined, board=Board(method="upright", width_mm=300.0, thickness_mm=12.0))
    for segments in (Segments(spline_mm=1.5), Segments(spline_mm=4.0), Segments(spline_mm=1.0, spline_depth_mm=60.0),
                     Segments(style="ring", ring_mm=20.0, spline_mm=1.0)):  # fmt: skip
        yield revised(box, shape=Regular(8, 90.0), bottom=Panel(thickness_mm=6.0, segments=segments))
    blocks = CornerBlocks()
    odd = Outline((200.0, 150.0, None, None), (100.0, 80.0, 105.0, None))
    yield revised(box, shape=odd, corner_blocks=blocks)
    yield revised(box, corner_blocks=blocks, liner=Liner(height_mm=50.0))
    yield revised(box, corner_blocks=replace(blocks, leg_mm=90.0))
    yield revised(box, corner_blocks=replace(blocks, leg_mm=0.8))
    yield revised(grooved, corner_blocks=replace(blocks, below_mm=80.0))
    yield revised(
        box, shape=Regular(3, 240.0), corner_blocks=blocks, thicknesses_mm=(9.0, 12.0, 9.0), lid=Lid()
    )


def outside(one: manifold3d.Manifold, other: manifold3d.Manifold) -> float:
    """How much of a solid lies outside another: the least of ways to ask, for where faces all but coincide the library
    can be led astray in one of them, but not in all.
    """
    found = []
    for turn in ([0.0, 0.0, 0.0], [17.0, 23.0, 31.0], [-41.0, 7.0, 59.0]):
        a, b = one.rotate(turn), other.rotate(turn)
        found += [(a - b).volume(), a.volume() - (a ^ b).volume()]
        if min(found) < 1e-3:
            break
    return max(0.0, min(found))


def _near(a: float, b: float, wood: float) -> bool:
    return abs(a - b) <= TINY * wood + 1e-3


def misfits(made: Plan) -> Iterator[str]:
    """What of keys, splines and blocks is not as told: in words, nothing where all is well."""
    walls = [piece for piece in made.pieces if piece.part == "side"]
    stood = {piece.id: in_box(piece, whole(piece)) for piece in walls}
    joined = manifold3d.Manifold.batch_boolean(list(stood.values()), manifold3d.OpType.Add)
    frames = frames_of(made.ring)
    named = {piece.id: piece for piece in made.pieces}
    stops = {finding.code for finding in made.findings if finding.severity == "stop"}
    for key in made.keys.keys if "key_tipped_far" not in stops else ():
        piece = named[f"key.{made.ring.corners[key.corner].name.replace('-', '_')}.{key.number}"]
        yield from _key_misfits(made, key, piece, walls, joined, stops)
    for spline in made.splines.splines:
        frame = frames[spline.corner]
        for side, bevel, wall, most in zip(
            (spline.corner, (spline.corner + 1) % len(walls)), bevels_at(made.ring, spline.corner), frame.walls_mm,
            spline.most_mm, strict=True,
        ):  # fmt: skip
            margin = made.job.design.joints.splines.wall_margin_mm  # type: ignore[union-attr]
            groove = next(
                f for f in walls[side].features
                if f.kind == "spline_groove" and f.id.endswith(f"{frame.name.replace('-', '_')}.{spline.number}")
            )  # fmt: skip
            deep = [z for end in groove.ends for _x, _y, z in end]
            # At its greatest depth the groove leaves just the margin before one face.
            assert math.isclose(most, deepest_mm(wall, spline.place_mm, spline.thickness_mm, bevel, margin))
            left = min(*deep, wall - max(deep))
            near = any(finding.code == "spline_near_inside" for finding in made.findings)
            if most >= spline.depth_mm and not near and left < margin - 1e-6:
                yield f"{groove.id} leaves {left:.4f}, not {margin}"
    for piece in made.pieces:
        if piece.part != "spline":
            continue
        solid = placed(piece)
        grooves = [
            in_box(wall, swept(f, wall)) for wall in walls for f in wall.features
            if f.kind == "spline_groove" and f"spline.{'.'.join(f.id.split('.')[3:])}".startswith(piece.id)
        ]  # fmt: skip
        hollow = manifold3d.Manifold.batch_boolean(grooves, manifold3d.OpType.Add)
        one_by_one = solid
        for groove in grooves:  # both lie against each other, which can lead the library astray
            one_by_one -= groove
        out = min(outside(solid, hollow), one_by_one.volume())
        if out > TINY * solid.volume() + 1e-2:
            yield f"{piece.id} reaches {out:.4f} mm³ out of its grooves"
    for piece in made.pieces:
        if piece.part == "corner_block":
            solid = placed(piece)
            over = (solid ^ joined).volume()
            if over > TINY * joined.volume():
                yield f"{piece.id} is in the walls by {over:.4f} mm³"


def _key_misfits(
    made: Plan, key: KeyPlan, piece: Piece, walls: list[Piece], joined: manifold3d.Manifold, stops: set[str]
) -> Iterator[str]:
    solid, wood = placed(piece), joined.volume()
    slot = slot_at(made.job, frames_of(made.ring)[key.corner], key)
    name = f"slot.{made.ring.corners[key.corner].name.replace('-', '_')}.{key.number}"
    cuts = [
        in_box(wall, swept(feature, wall)) for wall in walls for feature in wall.features
        if feature.id.endswith(name)
    ]  # fmt: skip
    if len(cuts) != 2:
        yield f"{piece.id}: {len(cuts)} slots"
        return
    # Both halves are told alike, and the key is what they take.
    if outside(cuts[0], cuts[1]) > TINY * wood + 1e-3:
        yield f"{piece.id}: the slots of its two sides differ"
    if outside(solid, cuts[0]) > TINY * wood + 1e-3:
        yield f"{piece.id}: not in its slot by {outside(solid, cuts[0]):.5f}"
    if not _near(solid.volume(), cuts[0].volume(), wood):
        yield f"{piece.id}: {solid.volume():.4f} mm³ in a slot of {cuts[0].volume():.4f}"
    away = "key_leaves_side" in stops or "key_outside_box" in stops
    if key.depth_mm < key.through_mm - 1e-6 and not away:
        out = outside(solid, joined)
        if out > TINY * wood + 1e-2:
            yield f"{piece.id}: {out:.4f} mm³ of it in no wood"
    elif key.depth_mm > key.through_mm + 0.05 and not away:
        out = solid.volume() - (solid ^ joined).volume()
        if out <= 1e-6:
            yield f"{piece.id}: told to break through, and does not"
    # Its cheeks' area, off the solid itself.
    mesh = solid.to_mesh()
    points = np.asarray(mesh.vert_properties)[:, :3]
    tris = points[np.asarray(mesh.tri_verts)]
    normals = np.cross(tris[:, 1] - tris[:, 0], tris[:, 2] - tris[:, 0]) / 2
    areas = np.linalg.norm(normals, axis=1)
    over, into = np.array(slot.over), np.array(slot.into)
    total = 0.0
    for sign in (1.0, -1.0):
        way = sign * over * math.cos(slot.flare_rad) - into * math.sin(slot.flare_rad)
        same = (normals @ way) > 0.9999 * areas
        total += float(areas[same].sum())
    if slot.tip_rad == 0.0 and abs(total - 2 * key.area_mm2) > 1e-3 * total + 1e-3:
        yield f"{piece.id}: cheeks of {total:.4f} mm², told {2 * key.area_mm2:.4f}"
    if "key_meets" in stops or "key_meets_groove" in stops or "key_meets_lid_line" in stops:
        return
    for wall in walls:
        for feature in wall.features:
            if feature.kind == "slot":
                continue
            met = (solid ^ in_box(wall, swept(feature, wall)) ^ in_box(wall, whole(wall))).volume()
            if met > 1e-4:
                yield f"{piece.id} meets {feature.id} by {met:.4f} mm³"


def wrong_corners(seed: int) -> list[str]:
    """What is wrong about one box with strengthened corners."""
    return [f"{seed}: {text}" for text in misfits(plan(strengthened(seed)))]


def opened_unsaid(seed: int, step_mm: float = 2.0) -> list[str]:
    """Heights at which a slot would open into something in its sides, and nothing says so; all margins are 0."""
    chance = random.Random(seed)
    keys = Keys(
        kind=chance.choice(("straight", "dovetail", "veneer")), depth_mm=chance.uniform(3.0, 9.0),
        thickness_mm=chance.choice((2.0, 3.2, 6.0)), slant_deg=chance.choice((0.0, 0.0, 10.0)),
        edge_margin_mm=0.0, lid_margin_mm=0.0, wall_margin_mm=0.0,
    )  # fmt: skip
    made = plan(revised(random_design(chance), keys=keys, other_keys=None))
    walls = {piece.id: piece for piece in made.pieces if piece.part == "side"}
    height, found = made.job.design.form.height_mm, []
    for frame in made.frames[:2] if walls else ():
        outs = [out for out in made.keys.keep_outs if out.corner == frame.index]
        sides = (made.ring.sides[frame.index], made.ring.sides[(frame.index + 1) % len(made.ring.sides)])
        bodies: dict[str, manifold3d.Manifold] = {}
        for wall in (walls[f"side.{side.name}"] for side in sides if not frame.lapped):
            for feature in wall.features:
                if feature.kind not in ("slot", "lid_kerf"):
                    body = in_box(wall, swept(feature, wall)) ^ in_box(wall, whole(wall))
                    bodies[feature.kind] = bodies.get(feature.kind, manifold3d.Manifold()) + body
        for at in np.arange(step_mm / 2, height, step_mm):
            slot = slot_of(keys, frame, float(at), height)
            down, up = slot.reach_mm
            said = {out.why for out in outs if min(at + up, out.high_mm) > max(at - down, out.low_mm)}
            body = manifold3d.Manifold.hull_points(np.array([*slot.cheek(-1.0), *slot.cheek(1.0)]))
            met = [
                kind for kind, other in bodies.items() if kind not in said and (body ^ other).volume() > 1e-3
            ]
            found += [f"{seed}: at {at:.1f} of {frame.name} into {kind}" for kind in met]
    return found
