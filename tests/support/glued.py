"""The bench after the glue: the ring of pieces as one, slots for keys across its corners, the lid sawn free.

As in `support.bench`, a step tells only its operation, how the work lies, its settings and what is said of it;
where a corner's arris runs and where a face lies is read off the wood.
"""

import math
from collections.abc import Sequence

import manifold3d
import numpy as np

from peristyle.model.tools import Bit, named
from peristyle.planning.making.piece import Piece
from peristyle.planning.making.step import Step
from peristyle.planning.plan import Plan
from support.bench import FAR, one, unset, values
from support.solids import in_box, solid

_CUT_LATER = ("slot", "lid_kerf", "edge")


def _sides(made: Plan) -> list[Piece]:
    return [piece for piece in made.pieces if piece.part == "side"]


def glued(made: Plan, without: tuple[str, ...] = _CUT_LATER) -> manifold3d.Manifold:
    """The sides standing together as one, without what is cut after the glue."""
    return manifold3d.Manifold.batch_boolean(
        [in_box(piece, solid(piece, without=without)) for piece in _sides(made)], manifold3d.OpType.Add
    )


def lid_cut(made: Plan, step: Step, box: manifold3d.Manifold) -> list[manifold3d.Manifold]:
    """What the blade takes of the box, lying on one side after the other, an edge of it against the fence."""
    taken = []
    tilt, fence, high = math.radians(one(step, "tilt")), one(step, "fence"), one(step, "height")
    kerf = step.cut_mm or 0.0
    if step.tool in (
        "band_saw",
        "hand_saw",
    ):  # right through at that level, the bottom flat against the fence
        foot = box.bounding_box()[2]
        return [manifold3d.Manifold.cube([2 * FAR, 2 * FAR, kerf]).translate([-FAR, -FAR, foot + fence])]
    for piece in _sides(made):
        if piece.id not in step.pieces:
            continue
        place = piece.place
        frame = np.column_stack([place.x, place.y, place.z])
        lying = box.transform(np.column_stack([frame.T, -frame.T @ np.array(place.origin)]))
        low, top = lying.bounding_box()[1], lying.bounding_box()[4]
        at, way = (low + fence, 1.0) if step.edge == "bottom" else (top - fence, -1.0)
        tip = high - kerf * math.sin(tilt)  # the blade's lower corner at its tip
        corners = [
            (at + way * (z * math.tan(tilt) + across / math.cos(tilt)), z)
            for z, across in ((-FAR / 10, 0.0), (-FAR / 10, kerf), (tip, kerf), (tip, 0.0))
        ]
        blade = manifold3d.Manifold.hull_points(
            np.array([[x, y, z] for x in (-FAR, FAR) for y, z in corners])
        )
        taken.append(in_box(piece, blade))
    return taken


def key_cut(made: Plan, step: Step) -> list[manifold3d.Manifold]:
    """The slots of a step: the box on its corner in a cradle, one end of the arris against the fence."""
    named = {piece.id: piece for piece in _sides(made)}
    height = made.job.design.form.height_mm
    corners = step.names["corners"].split(", ")
    ways = ["bottom", "top"] if step.passes > len(corners) else [step.edge or "bottom"]
    taken = []
    for corner in corners:
        first, second = corner.split("-") if "-" in corner else (corner[0], corner[1])
        n1, n2 = (-np.array(named[f"side.{name}"].place.z) for name in (first, second))
        arris = np.cross(n1, n2) / np.linalg.norm(np.cross(n1, n2))
        arris = arris * math.copysign(1.0, arris[2])
        angle = 180.0 - math.degrees(math.acos(float(n1 @ n2)))
        assert abs(angle - one(step, "cradle")) < 1e-6
        inward = -(n1 + n2) / np.linalg.norm(n1 + n2)
        # Where both outer faces meet the level of the arris's end.
        for end in ways:
            level = 0.0 if end == "bottom" else height
            rows = np.array([n1, n2, [0.0, 0.0, 1.0]])
            named_at = [np.array(named[f"side.{name}"].place.origin) for name in (first, second)]
            vertex = np.linalg.solve(rows, [n1 @ named_at[0], n2 @ named_at[1], level])
            along = arris if end == "bottom" else -arris
            side = np.cross(inward, along)
            deep, tip = one(step, "height"), math.radians(one(step, "tip"))
            kerf = one(step, "width") if values(step, "width") else step.cut_mm or 0.0
            # The cradle tipped, the end at the fence low: what lies away along the table, and what is up.
            level, up = (
                along * math.cos(tip) - inward * math.sin(tip),
                inward * math.cos(tip) + along * math.sin(tip),
            )
            fences = values(step, "fence")
            middle = (fences[0] + fences[-1] + kerf) / 2
            top = deep + middle * math.tan(tip)  # over the arris at the slot's middle
            lean = math.tan(math.radians(_flare(made, step)))
            for fence in fences:
                corners = [
                    (fence + kerf / 2 + sign * (kerf / 2 - down * lean), across, top - down)
                    for sign in (-1.0, 1.0) for across in (-FAR / 2, FAR / 2)
                    for down in (0.0, FAR if not lean else kerf / 2 / lean * 0.999)
                ]  # fmt: skip
                block = manifold3d.Manifold.hull_points(np.array(corners))
                taken.append(block.transform(np.column_stack([level, side, up, vertex])))
    return taken


def _flare(made: Plan, step: Step) -> float:
    """The angle of the bit that cuts, off the tool in the shop."""
    tool = named(made.job.shop.tools, step.tool_name)
    return tool.angle_deg if isinstance(tool, Bit) and tool.cuts == "dovetail" else 0.0


def apart(one: manifold3d.Manifold, other: manifold3d.Manifold) -> float:
    """How much wood the two do not share (mm³): the least of ways to ask, for a solid library can be led astray
    where faces all but coincide, but not in every way of asking.
    """
    found = []
    for turn, nudge in (([0.0, 0.0, 0.0], 0.0), ([17.0, 23.0, 31.0], 0.0), ([-41.0, 7.0, 59.0], 1e-4)):
        moved, still = one.translate([nudge, -nudge, nudge]).rotate(turn), other.rotate(turn)
        by_moving = one.surface_area() * nudge * math.sqrt(3.0)
        found.append((moved - still).volume() + (still - moved).volume() - by_moving)
        found.append(abs(moved.volume() + still.volume() - 2 * (moved ^ still).volume()) - by_moving)
        if min(found) < 1e-3:
            break
    return max(0.0, min(found))


def closed_by(made: Plan, steps: Sequence[Step]) -> manifold3d.Manifold:
    """The panels that are on when the lid is sawn off: the box rides on them."""
    at = next((number for number, step in enumerate(steps) if step.operation == "lid"), 0)
    on = {piece for step in steps[:at] if step.operation == "panel_set" for piece in step.pieces}
    solids = [in_box(piece, solid(piece, without=_CUT_LATER)) for piece in made.pieces if piece.id in on]
    return manifold3d.Manifold.batch_boolean(solids, manifold3d.OpType.Add)


def wrongly_glued(made: Plan, steps: Sequence[Step] | None = None) -> list[tuple[str, float]]:
    """What slots and lid cuts as told leave of each side otherwise than planned (mm³), and a lid still held."""
    box, wrong = glued(made), []
    told_steps = made.steps if steps is None else steps
    for operation, feature in (("keys", "slot"), ("lid", "lid_kerf")):
        told = [step for step in told_steps if step.operation == operation]
        closed = box + closed_by(made, told_steps) if operation == "lid" else box
        cuts = [
            cut
            for step in told
            for cut in (key_cut(made, step) if operation == "keys" else lid_cut(made, step, closed))
        ]
        if not cuts:
            continue
        kept = tuple(kind for kind in _CUT_LATER if kind != feature)
        for piece in _sides(made):
            left = in_box(piece, solid(piece, without=_CUT_LATER))
            for cut in cuts:
                left -= cut
            off = apart(left, in_box(piece, solid(piece, without=kept)))
            if off > 2e-6 * left.volume() + 1e-3 + unset(piece):
                wrong.append((f"{piece.id} {operation}", off))
            lid = made.section.lid
            if operation == "lid" and lid is not None:
                between = left.trim_by_plane([0.0, 0.0, 1.0], lid.kerf_low_mm + 1e-3)
                held = between.trim_by_plane([0.0, 0.0, -1.0], -(lid.kerf_high_mm - 1e-3)).volume()
                wrong += [(f"{piece.id} still held", held)] if held > 1e-2 else []
    return wrong
