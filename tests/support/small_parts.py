"""Keys, corner blocks and segments off their strips, by the figures of their cards alone, as solids.

As in `support.bench`, of a step only its operation, lie, settings, width of cut and the numbers it tells are read.
"""

import math
from collections.abc import Iterator, Sequence

import manifold3d
import numpy as np

from peristyle.planning.making.piece import Piece
from peristyle.planning.making.step import Step
from peristyle.planning.plan import Plan
from support.bench import FAR, one, values
from support.corners import outside
from support.solids import solid


def _prism(section: list[tuple[float, float]], thick: float) -> manifold3d.Manifold:
    cross = manifold3d.CrossSection([[list(p) for p in section]])
    if cross.area() <= 0:
        cross = manifold3d.CrossSection([[list(p) for p in section[::-1]]])
    return cross.extrude(thick)


def triangles_of(step: Step) -> list[manifold3d.Manifold]:
    """The strip cut head to foot: the whole triangles it gives, each moved so that its base runs from -b/2 at y = 0."""
    high, thick, kerf = one(step, "width"), one(step, "thickness"), step.cut_mm or 0.0
    lean, per = math.tan(math.radians(step.numbers["cut_deg"])), step.numbers["per_mm"]
    slanted = kerf / math.cos(math.radians(step.numbers["cut_deg"]))
    left = _prism([(0, 0), (step.numbers["long_mm"], 0), (step.numbers["long_mm"], high), (0, high)], thick)
    for number in range(int(step.numbers["long_mm"] / per + 1e-6)):
        at, way = per / 2 + number * per, 1.0 if number % 2 == 0 else -1.0
        foot, head = at - way * high / 2 * lean, at + way * high / 2 * lean
        half = max(slanted / 2, 1e-4)  # a knife takes nothing
        left -= _prism(
            [
                (foot - half, -1e-6),
                (foot + half, -1e-6),
                (head + half, high + 1e-6),
                (head - half, high + 1e-6),
            ],
            thick,
        )
    found = []
    for part in left.decompose():
        box = part.bounding_box()
        if part.volume() < 0.999 * thick * high * high * lean:
            continue  # the two ends of the strip
        points = np.asarray(part.to_mesh64().vert_properties)[:, :3]
        low = (
            np.ptp(points[np.abs(points[:, 1]) < 1e-5][:, 0]) if (np.abs(points[:, 1]) < 1e-5).any() else 0.0
        )
        moved = part.translate([-(box[0] + box[3]) / 2, 0.0, 0.0])
        if low < 0.5 * (box[3] - box[0]):  # it stands on its head
            moved = moved.rotate([0.0, 0.0, 180.0]).translate([0.0, high, 0.0])
        found.append(moved)
    return found


def bars_of(step: Step) -> list[manifold3d.Manifold]:
    """Dovetail keys crosscut from their bar: the wide face at y = 0, both edges leaning to the narrow one."""
    high, thick, kerf = one(step, "width"), one(step, "thickness"), step.cut_mm or 0.0
    narrow, each = step.numbers["face_mm"], step.numbers["base_mm"]
    assert math.isclose(
        (thick - narrow) / 2 / high, math.tan(math.radians(step.numbers["flare_deg"])), abs_tol=1e-9
    )
    count = int((step.numbers["long_mm"] + kerf) / (each + kerf) + 1e-6)
    section = [(0.0, 0.0), (0.0, thick), (high, (thick + narrow) / 2), (high, (thick - narrow) / 2)]
    turn = np.array([[0.0, 0.0, 1.0, -each / 2], [1.0, 0.0, 0.0, 0.0], [0.0, 1.0, 0.0, 0.0]])
    return [_prism(section, each).transform(turn)] * count


def block_of(step: Step) -> manifold3d.Manifold:
    """A corner block: x along it, y across its free face, z into the corner."""
    lean, wide, long = math.radians(one(step, "tilt")), one(step, "width"), one(step, "stop")
    slope = math.tan(
        math.pi / 2 - lean if step.lies == "flat" else lean
    )  # how the legs rise over the free face
    tip = wide / 2 * slope
    leg = math.hypot(wide / 2, tip)
    deep = tip * (1 - step.numbers["point_mm"] / leg)
    half = wide / 2 - deep / slope
    section = [(-wide / 2, 0.0), (wide / 2, 0.0), (half, deep), (-half, deep)]
    return _prism(section, long).transform(np.array([[0.0, 0, 1, 0], [1, 0, 0, 0], [0, 1, 0, 0]]))


def segment_of(step: Step, grooved: Step | None) -> manifold3d.Manifold:
    """A segment off its strip, with the grooves in both joint edges: x along its outer edge, y to the middle."""
    swing, outer = math.tan(math.radians(one(step, "swing"))), one(step, "stop")
    wide, thick = one(step, "width"), one(step, "thickness")
    inner = outer - 2 * wide * swing
    face = [(0.0, 0.0), (outer, 0.0), ((outer + inner) / 2, wide), ((outer - inner) / 2, wide)]
    made = _prism(face if inner > 1e-6 else [*face[:2], (outer / 2, wide)], thick)
    if grooved is None:
        return made
    angle = math.radians(one(step, "swing"))
    deep, kerf, long = one(grooved, "height"), grooved.cut_mm or 0.0, grooved.numbers["long_mm"]
    for x, way in ((0.0, 1.0), (outer, -1.0)):
        along, into = (
            np.array([way * math.sin(angle), math.cos(angle)]),
            np.array([way * math.cos(angle), -math.sin(angle)]),
        )
        for fence in values(grooved, "fence"):
            corners = [
                (*(np.array([x, 0.0]) + a * along + d * into), z)
                for a in (-5.0, long if "segment_groove.stop" in grooved.says else FAR) for d in (-5.0, deep)
                for z in (fence, fence + kerf)
            ]  # fmt: skip
            made -= manifold3d.Manifold.hull_points(np.array(corners))
    return made


def _centred(piece: Piece, made: manifold3d.Manifold) -> manifold3d.Manifold:
    """A piece moved so that the middle of its show face's first edge stands at x = 0."""
    (x0, y0), (x1, _y1) = piece.show_face[0], piece.show_face[1]
    return made.translate([-(x0 + x1) / 2, -y0, 0.0])


def _keys(made: Plan, step: Step) -> Iterator[str]:
    pieces = [piece for piece in made.pieces if piece.id in step.pieces]
    blanks = bars_of(step) if step.title == "key_stock.dovetail" else triangles_of(step)
    if len(blanks) != len(pieces) or step.numbers["count"] != len(pieces):
        yield f"{step.id}: {len(blanks)} off the strip for {len(pieces)} keys"
        return
    for piece, blank in zip(pieces, blanks, strict=True):
        key = _centred(piece, solid(piece))
        if abs(piece.thickness_mm - one(step, "thickness")) > 1e-9 or outside(key, blank) > 1e-3:
            yield f"{piece.id}: {outside(key, blank):.4f} mm³ of it is not in its blank"


def _blocks(made: Plan, step: Step) -> Iterator[str]:
    blank = block_of(step)
    for piece in made.pieces:
        if piece.id in step.pieces:
            ys = [y for _x, y in piece.show_face]
            xs = [x for x, _y in (*piece.show_face, *piece.inside_face)]
            block = solid(piece).translate([-min(xs), -(min(ys) + max(ys)) / 2, 0.0])
            level = (
                len({round(x, 6) for x in xs}) == 2
            )  # ends that are cut on a slant are trimmed where they stand
            off = (block - blank).volume() + ((blank - block).volume() if level else 0.0)
            if off > 1e-3 + 1e-6 * block.volume():
                yield f"{piece.id}: {off:.4f} mm³ otherwise than told"


def _segments(made: Plan, step: Step) -> Iterator[str]:
    grooved = next(
        (
            s
            for s in made.steps
            if s.operation == "segment_groove" and s.names["panel"] == step.names["panel"]
        ),
        None,
    )
    told = segment_of(step, grooved)
    for piece in made.pieces:
        if piece.id in step.pieces:
            whole = solid(piece)
            off = (whole - told).volume() + (told - whole).volume()
            if off > 1e-3 + 1e-6 * whole.volume():
                yield f"{piece.id}: {off:.4f} mm³ otherwise than told"


def wrong_parts(made: Plan, steps: Sequence[Step] | None = None) -> list[str]:
    """What of keys, blocks and segments the cards do not make."""
    told = made.steps if steps is None else steps
    by = {"key_stock": _keys, "corner_block": _blocks, "segment": _segments}
    return [text for step in told if step.operation in by for text in by[step.operation](made, step)]
