"""The box as a solid in the eye: which faces show, in painting order, and what wood each wears."""

import itertools
import math
from collections.abc import Sequence
from typing import Literal

from msgspec import Struct

from peristyle.core.lengths import Format
from peristyle.core.outlines import bounds, vertices
from peristyle.core.planes import Point, Vector, cross
from peristyle.drawing.board import back_on_board, face_on_board
from peristyle.drawing.frieze import MOST_KEYS
from peristyle.drawing.shapes import Pick, box
from peristyle.model.design import House, Thing
from peristyle.planning.corners.keys import KeyPlan
from peristyle.planning.form.roof import EAVES
from peristyle.planning.inside.dividers import DividerPlan
from peristyle.planning.making.parts.feet import FEET
from peristyle.planning.making.parts.openings import OPENINGS
from peristyle.planning.making.parts.walls import stands
from peristyle.planning.plan import Plan
from peristyle.wood.looks import Plane

FaceKind = Literal["show", "inside", "rim", "floor", "key", "lid_line", "divider", "thing", "top", "opening"]


class Face(Struct, frozen=True):
    """One face in view coordinates (mm, x right, y up), lit by `light` 0-1.

    `source` is the stretch of board it wears, empty for plain wood.
    """

    kind: FaceKind
    points: tuple[Point, ...]
    light: float
    source: tuple[Point, ...] = ()
    pick: Pick | None = None
    plane: Plane = "face"


class Eye(Struct, frozen=True):
    """Where the box is seen from: turned about its upright, tipped toward the eye (degrees)."""

    turn_deg: float = -28.0
    tip_deg: float = 26.0


class View:
    """Turning and a mild perspective, the box's middle at the origin."""

    def __init__(self, eye: Eye, reach: float, height: float, *, standing: bool = False) -> None:
        self._standing = standing
        turn, tip = math.radians(eye.turn_deg), math.radians(eye.tip_deg)
        self._ct, self._st = math.cos(turn), math.sin(turn)
        self._cp, self._sp = math.cos(tip), math.sin(tip)
        self._far = reach * 3.6
        self._lift = height / 2

    def _stood(self, x: float, y: float, z: float) -> Vector:
        """A house stands on its floor, its open front to the eye; other rings lie as they are."""
        return (x, 2 * self._lift - z - self._lift, y + self._lift) if self._standing else (x, y, z)

    def _turned(self, normal: Vector) -> Vector:
        return (normal[0], -normal[2], normal[1]) if self._standing else normal

    def point(self, x: float, y: float, z: float) -> Point:
        """Where a point of the box appears."""
        x, y, z = self._stood(x, y, z)
        x, y, z = x * self._ct - y * self._st, x * self._st + y * self._ct, z - self._lift
        deep = y * self._cp - z * self._sp
        scale = self._far / (self._far + deep)
        return (x * scale, (y * self._sp + z * self._cp) * scale)

    def deep(self, x: float, y: float, z: float) -> float:
        """How far back a point of the box lies."""
        x, y, z = self._stood(x, y, z)
        y, z = x * self._st + y * self._ct, z - self._lift
        return y * self._cp - z * self._sp

    def depth(self, outline: tuple[Point, ...]) -> float:
        """How far back an outline lies, by its nearest corner."""
        return min(x * self._st + y * self._ct for x, y in outline)

    def faces_eye(self, normal: Vector, x: float, y: float, z: float) -> bool:
        """Whether a face through a point turns toward the eye."""
        normal, (x, y, z) = self._turned(normal), self._stood(x, y, z)
        nx = normal[0] * self._ct - normal[1] * self._st
        ny = normal[0] * self._st + normal[1] * self._ct
        nz = normal[2]
        x, y, z = x * self._ct - y * self._st, x * self._st + y * self._ct, z - self._lift
        # The eye stands at −far along the view's depth.
        ex, ey, ez = 0.0, -self._far * self._cp, self._far * self._sp
        return nx * (ex - x) + ny * (ey - y) + nz * (ez - z) > 0

    def light(self, normal: Vector) -> float:
        """Brightness from a lamp over the left shoulder."""
        normal = self._turned(normal)
        nx = normal[0] * self._ct - normal[1] * self._st
        ny = normal[0] * self._st + normal[1] * self._ct
        lamp = (-0.45, -0.62, 0.64)
        return 0.70 + 0.30 * max(0.0, nx * lamp[0] + ny * lamp[1] + normal[2] * lamp[2])


def view_of(plan: Plan, eye: Eye, room: float = 1.0) -> View:
    """The view of a box from an eye; `room` keeps the eye further off, for what lies apart."""
    ring = plan.ring
    points = [p for side in ring.sides for p in (*side.foot, *side.head)]
    reach = max(max(abs(x), abs(y)) for x, y in points) + ring.height_mm / 2
    return View(eye, reach * room, ring.height_mm, standing=isinstance(plan.job.design.form.shape, House))


def solid_faces(plan: Plan, eye: Eye) -> list[Face]:
    """The visible faces from back to front. Empty where there is no ring."""
    ring = plan.ring
    if not ring.stands:
        return []
    height = ring.height_mm
    view = view_of(plan, eye)

    def seen(flat: Sequence[Point], z: float) -> list[Point]:
        return [view.point(x, y, z) for x, y in flat]

    from_below = view.faces_eye((0.0, 0.0, -1.0), 0.0, 0.0, 0.0)
    stood_on = _stood_on(plan, view)
    feet = [seen(side.foot, 0.0) for side in ring.sides]
    heads = [seen(side.head, height) for side in ring.sides]
    faces = ([] if from_below else stood_on) + _laid(plan, view, feet, heads, soffit=True)
    if view.faces_eye((0.0, 0.0, 1.0), 0.0, 0.0, height):
        faces += _inside(plan, view, seen(ring.inner_bottom, 0.0), seen(ring.inner_top, height))
        faces += [Face("rim", tuple(head), 0.97, pick=Pick("side", i)) for i, head in enumerate(heads)]
    elif from_below:
        faces += [Face("rim", tuple(foot), 0.85, pick=Pick("side", i)) for i, foot in enumerate(feet)]
    where = {p.side: p for p in plan.wrap.pieces}
    # A roof that runs past its walls hides their tops: the roof last.
    keys: dict[int, list[KeyPlan]] = {}
    for key in plan.keys.keys if len(plan.keys.keys) <= MOST_KEYS else ():
        keys.setdefault(key.corner, []).append(key)
    roofs = {EAVES[corner.index][1] for corner in ring.corners if corner.lapped}
    for i in sorted(range(len(ring.sides)), key=roofs.__contains__):
        slab, side = ring.slabs[i], ring.sides[i]
        x, y = side.foot[1]
        if not view.faces_eye(slab.normal, x, y, 0.0):
            continue
        quad = (feet[i][0], feet[i][1], heads[i][1], heads[i][0])
        source = face_on_board(side, where[side.index])
        faces.append(
            Face(
                "show",
                quad,
                view.light(slab.normal),
                source,
                Pick("side", side.index),
                where[side.index].show,
            )
        )
        faces += _marks(plan, i, quad, keys)
        faces += _openings(plan, view, i)
    return faces + _laid(plan, view, feet, heads, soffit=False) + (stood_on if from_below else [])


def _openings(plan: Plan, view: View, index: int) -> list[Face]:
    """The openings in a show face."""
    name = f"side.{plan.ring.sides[index].name}"
    place = stands(plan.ring.slabs[index], plan.ring.sides[index], 0.0)
    return [
        Face("opening", tuple(view.point(*place.of((x, y, 0.0))) for x, y in feature.flat), 0.5)
        for side, feature in OPENINGS.features(plan)
        if side == name
    ]


def _stood_on(plan: Plan, view: View) -> list[Face]:
    """The feet, the farther ones first."""
    found = []
    for piece in FEET.pieces(plan):
        outer = [piece.place.of((x, y, 0.0)) for x, y in piece.show_face]
        inner = [piece.place.of((x, y, piece.thickness_mm)) for x, y in piece.inside_face]
        count = len(outer)
        faces = [outer, inner, *([outer[i], outer[i - 1], inner[i - 1], inner[i]] for i in range(count))]
        middle = [math.fsum(axis) / (2 * count) for axis in zip(*outer, *inner, strict=True)]
        shown = []
        for face in faces:
            normal = outward(face, middle)
            if normal is not None and view.faces_eye(normal, *face[0]):
                shown.append(Face("rim", tuple(view.point(*p) for p in face), view.light(normal)))
        found.append((view.deep(*middle), shown))
    return [face for _deep, shown in sorted(found, key=lambda one: -one[0]) for face in shown]


def outward(points: Sequence[Vector], middle: Sequence[float]) -> Vector | None:
    """The direction out of a convex piece through one of its faces; None where the face has no area."""
    a, b, c = points[0], points[1], points[2]
    first, second = (b[0] - a[0], b[1] - a[1], b[2] - a[2]), (c[0] - b[0], c[1] - b[1], c[2] - b[2])
    normal = cross(first, second)
    size = math.sqrt(sum(v * v for v in normal))
    if size < 1e-9:
        return None
    out = sum(n * (p - m) for n, p, m in zip(normal, a, middle, strict=True))
    way = math.copysign(1.0 / size, out)
    return (normal[0] * way, normal[1] * way, normal[2] * way)


def _laid(
    plan: Plan, view: View, feet: list[list[Point]], heads: list[list[Point]], *, soffit: bool
) -> list[Face]:
    """A roof that runs past its walls: its undersides, or its ends, as far as they turn to the eye."""
    ring = plan.ring
    faces = []
    for corner in ring.corners:
        if not corner.lapped:
            continue
        over = EAVES[corner.index][1]
        starts = over > corner.index  # the roof's start lies here, else its end
        slab = ring.slabs[over]
        # Corners of a side's plan: outer start, outer end, inner end, inner start.
        tip, under, far = (0, 3, 2) if starts else (1, 2, 3)
        a, b = (under, far) if soffit else (tip, under)
        way = -1.0 if soffit or starts else 1.0
        x, y, z = slab.normal if soffit else slab.along
        normal = (way * x, way * y, way * z)
        if view.faces_eye(normal, *ring.sides[over].foot[under], 0.0):
            quad = (feet[over][a], feet[over][b], heads[over][b], heads[over][a])
            faces.append(Face("inside", quad, view.light(normal) * 0.9, pick=Pick("side", over)))
    return faces


def _inside(plan: Plan, view: View, low: list[Point], top: list[Point]) -> list[Face]:
    """Floor and the inner walls that turn toward the eye."""
    ring = plan.ring
    where = {p.side: p for p in plan.wrap.pieces}
    faces: list[Face] = []
    for panel in plan.section.panels:
        if panel.name == "bottom":
            z = plan.job.design.floor_mm
            faces.append(Face("floor", tuple(view.point(x, y, z) for x, y in panel.outline), 0.62))
    for i, slab in enumerate(ring.slabs):
        normal = (-slab.normal[0], -slab.normal[1], -slab.normal[2])
        x, y = ring.inner_bottom[i]
        if view.faces_eye(normal, x, y, 0.0):
            quad = (low[i - 1], low[i], top[i], top[i - 1])
            back = back_on_board(ring.sides[i], where[i])
            faces.append(
                Face("inside", quad, view.light(normal) * 0.86, back, Pick("side", i), where[i].inside)
            )
    faces += _liner(plan, view)
    faces += _standing(plan, view)
    for panel in plan.section.panels:
        groove = plan.section.groove(panel.name)
        if panel.name == "top" and groove:  # to be seen through, for what stands under it
            z = groove.low_mm + panel.thickness_mm
            clear = vertices(ring.slabs, [slab.inner_mm(z) for slab in ring.slabs])
            faces.append(Face("top", tuple(view.point(x, y, z) for x, y in clear), 0.9))
    return faces


def _liner(plan: Plan, view: View) -> list[Face]:
    """The liner's inner walls that turn toward the eye, and its rim."""
    if plan.liner is None or not plan.liner.ring.stands:
        return []
    ring, base = plan.liner.ring, plan.liner.base_mm
    top = base + ring.height_mm
    low = [view.point(x, y, base) for x, y in ring.inner_bottom]
    high = [view.point(x, y, top) for x, y in ring.inner_top]
    edge = [view.point(x, y, top) for x, y in ring.outer_top]
    faces = []
    for i, slab in enumerate(ring.slabs):
        normal = (-slab.normal[0], -slab.normal[1], -slab.normal[2])
        x, y = ring.inner_bottom[i]
        if view.faces_eye(normal, x, y, base):
            faces.append(Face("inside", (low[i - 1], low[i], high[i], high[i - 1]), view.light(normal)))
        faces.append(Face("rim", (edge[i - 1], edge[i], high[i], high[i - 1]), 0.97))
    return faces


def _standing(plan: Plan, view: View) -> list[Face]:
    """Dividers and contents as upright boxes, the farther ones first."""
    floor = plan.job.design.floor_mm
    solids: list[tuple[FaceKind, tuple[Point, ...], float]] = []
    # In the parts between crossings, so that nearer parts cover farther ones rightly.
    parts = [(piece, _parts_between(piece)) for piece in plan.dividers.pieces]
    if sum(len(own) for _piece, own in parts) > _MOST_PARTS:
        parts = [
            (piece, [box(*bounds(piece.outline))]) for piece, _own in parts
        ]  # a grid too fine to see through
    for piece, own in parts:
        solids += [("divider", part, floor + piece.height_mm) for part in own]
    for block in plan.contents.blocks:
        thing = block.thing
        spots = block.spots_mm if len(block.spots_mm) <= MOST_STANDING else ()
        for x, y in spots:
            solids.append(("thing", standing_outline(thing, x, y), floor + thing.height_mm * thing.layers))
    solids.sort(key=lambda solid: -view.depth(solid[1]))
    return [face for kind, outline, top in solids for face in upright(kind, outline, floor, top, view)]


MOST_STANDING = 120
_MOST_PARTS = 900


def _parts_between(piece: DividerPlan) -> list[tuple[Point, ...]]:
    """A divider's foot in the parts between its crossings."""
    x0, y0, x1, y1 = bounds(piece.outline)
    across = piece.run == "across"
    low, high = (y0, y1) if across else (x0, x1)
    cuts = [low, *(low + notch for notch in piece.notches_mm), high]
    spans = list(itertools.pairwise(cuts))
    return [box(x0, a, x1, b) if across else box(a, y0, b, y1) for a, b in spans]


def standing_outline(thing: Thing, x: float, y: float) -> tuple[Point, ...]:
    """A thing that stands at a place, from above."""
    long, wide = thing.length_mm / 2, thing.width_mm / 2
    return _round(x, y, long) if thing.round else box(x - long, y - wide, x + long, y + wide)


def _round(x: float, y: float, radius: float) -> tuple[Point, ...]:
    return tuple(
        (x + radius * math.cos(math.pi * k / 8), y + radius * math.sin(math.pi * k / 8)) for k in range(16)
    )


def upright(kind: FaceKind, outline: tuple[Point, ...], floor: float, top: float, view: View) -> list[Face]:
    """The sides of an upright solid that turn toward the eye, then its top."""
    faces = []
    for (ax, ay), (bx, by) in zip(outline, outline[1:] + outline[:1], strict=True):
        run = math.hypot(bx - ax, by - ay) or 1.0
        normal = ((by - ay) / run, (ax - bx) / run, 0.0)
        if view.faces_eye(normal, ax, ay, floor):
            quad = (
                view.point(ax, ay, floor),
                view.point(bx, by, floor),
                view.point(bx, by, top),
                view.point(ax, ay, top),
            )
            faces.append(Face(kind, quad, view.light(normal) * 0.92))
    faces.append(Face(kind, tuple(view.point(x, y, top) for x, y in outline), 0.98))
    return faces


def _marks(plan: Plan, index: int, quad: Sequence[Point], keys: dict[int, list[KeyPlan]]) -> list[Face]:
    """Keys and lid line on a show face, placed by share of length and height."""
    side = plan.ring.sides[index]
    height = plan.ring.height_mm

    (ax, ay), (bx, by), (cx, cy), (dx, dy) = quad

    def band(u0: float, u1: float, low: float, high: float) -> tuple[Point, ...]:
        """The part of the face between shares of its length and height."""
        corners = []
        for u, v in ((u0, low), (u1, low), (u1, high), (u0, high)):
            x, y = ax + (bx - ax) * u, ay + (by - ay) * u
            corners.append((x + (dx + (cx - dx) * u - x) * v, y + (dy + (cy - dy) * u - y) * v))
        return tuple(corners)

    faces: list[Face] = []
    before = (index - 1) % len(plan.ring.sides)
    for key in (*keys.get(index, ()), *keys.get(before, ())):
        leg = min(1.0, key.leg_mm / side.outside_mm)
        low = (key.height_mm - key.thickness_mm / 2) / height
        high = (key.height_mm + key.thickness_mm / 2) / height
        u0, u1 = (1 - leg, 1.0) if key.corner == index else (0.0, leg)
        faces.append(Face("key", band(u0, u1, low, high), 1.0))
    lid = plan.section.lid
    if lid:
        low, high = lid.kerf_low_mm / height, lid.kerf_high_mm / height
        faces.append(Face("lid_line", band(0.0, 1.0, low, high), 1.0))
    return faces


def solid_words(plan: Plan, fmt: Format) -> str:
    """The box in a sentence: sides, sizes, lid, keys."""
    ring, job = plan.ring, plan.job
    if not ring.sides:
        return "No box to show yet: the ring cannot be made."
    x0, y0, x1, y1 = bounds(ring.outer_bottom)
    parts = [
        f"{job.design.name}: {len(ring.sides)} sides, {fmt.length(x1 - x0)} × {fmt.length(y1 - y0)} × "
        f"{fmt.length(job.design.form.height_mm, unit=True)} outside"
    ]
    leans = sorted({round(side.slope_deg, 2) for side in ring.sides} - {0.0})
    if leans:
        parts.append("leaning " + " and ".join(fmt.angle(lean) for lean in leans[:3]))
    if plan.section.lid:
        parts.append(f"the lid {fmt.length(plan.section.lid.lid_mm)} high")
    if plan.keys.heights_mm:
        parts.append(f"{len(plan.keys.heights_mm)} keys at a corner")
    return ", ".join(parts) + "."
