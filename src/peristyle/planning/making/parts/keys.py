"""Keys in slots across the corners."""

import math
from collections.abc import Iterator, Sequence
from typing import Final

from peristyle.core.planes import Slab, Vector, cross
from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import corner_name
from peristyle.model.job import Job
from peristyle.planning.corners.keys import KeyPlan, KeySetting, KeysPlan
from peristyle.planning.cutters import cutter
from peristyle.planning.findings import Finding, Fix, Place, reader
from peristyle.planning.form.ring import RingPlan, SidePlan
from peristyle.planning.making.kind import Kind, Phase, Settled
from peristyle.planning.making.parts.walls import stands
from peristyle.planning.making.piece import Edge, Feature, Piece
from peristyle.planning.making.piece import Place as Where
from peristyle.planning.making.ripping import ids
from peristyle.planning.making.setting import cradle, fence, height, thickness, width
from peristyle.planning.making.step import Step, make


def _pieces(plan: Settled) -> Iterator[Piece]:
    return (_key(plan.ring, key, number) for number, key in _numbered(plan.keys))


def _features(plan: Settled) -> Iterator[tuple[str, Feature]]:
    for side in plan.ring.sides:
        for feature in _slots(plan.ring, plan.keys, side):
            yield f"side.{side.name}", feature


def _steps(plan: Settled) -> Iterator[tuple[Phase, Step]]:
    for setting in plan.keys.settings:
        yield "keys", _cut(plan.job, plan.ring, plan.keys, setting)
    if plan.keys.keys:
        for step in _filled(plan):
            yield "keys", step


def _filled(plan: Settled) -> Iterator[Step]:
    """The keys themselves: their stock, and how they are let in and flushed."""
    keys = [
        f"key.{_corner_id(key.corner, len(plan.ring.sides))}.{number}" for number, key in _numbered(plan.keys)
    ]
    thick = plan.keys.keys[0].thickness_mm
    wide = max(key.depth_mm for key in plan.keys.keys)
    longest = max(key.base_mm for key in plan.keys.keys)
    yield make(
        "key_stock", keys, makes=keys, cutter=cutter(plan.job, "rip"),
        settings=(thickness(thick), width(wide + _PROUD_MM)),
        says=("key_stock",), numbers={"long_mm": math.fsum(key.base_mm + _PROUD_MM for key in plan.keys.keys),
                                      "base_mm": longest, "count": float(len(keys))},
    )  # fmt: skip
    yield make("key_glue", keys, tool="by_hand", says=("key_glue",), numbers={"count": float(len(keys))})
    yield make("key_flush", keys, tool="hand_saw", says=("key_flush",))


def _numbered(keys: KeysPlan) -> Iterator[tuple[int, KeyPlan]]:
    """Keys with their number at their own corner, from the bottom."""
    counted: dict[int, int] = {}
    for key in keys.keys:
        counted[key.corner] = counted.get(key.corner, 0) + 1
        yield counted[key.corner], key


def _corner_edge(ring: RingPlan, corner: int) -> tuple[Vector, Vector, Vector, Vector]:
    """The corner's outer vertex at the bottom, its edge upward, and the way down each face from it (unit vectors)."""
    first, second = ring.slabs[corner], ring.slabs[(corner + 1) % len(ring.slabs)]
    ex, ey, ez = cross(first.normal, second.normal)
    size = math.copysign(math.sqrt(ex * ex + ey * ey + ez * ez), ez)
    edge = (ex / size, ey / size, ez / size)
    x, y = ring.outer_bottom[corner]
    back, on = cross(first.normal, edge), cross(edge, second.normal)
    return (x, y, 0.0), edge, _unit(back, first, -1.0), _unit(on, second, 1.0)


def _unit(vector: Vector, slab: Slab, way: float) -> Vector:
    """`vector` as long as 1, pointing along the side's travel (way 1) or against it."""
    size = math.sqrt(sum(v * v for v in vector))
    sign = math.copysign(1.0, way * sum(v * a for v, a in zip(vector, slab.along, strict=True)))
    return (vector[0] / size * sign, vector[1] / size * sign, vector[2] / size * sign)


def _at(vertex: Vector, edge: Vector, height_mm: float) -> Vector:
    """The point of a corner's edge at a height."""
    run = height_mm / edge[2]
    return (vertex[0] + run * edge[0], vertex[1] + run * edge[1], vertex[2] + run * edge[2])


def _slots(ring: RingPlan, keys: KeysPlan, side: SidePlan) -> Iterator[Feature]:
    """The slots at a side's two ends, each the key's own triangle swept along the corner's edge."""
    place = stands(ring.slabs[side.index], side, 0.0)
    count = len(ring.sides)
    for number, key in _numbered(keys):
        if key.corner not in (side.index, (side.index - 1) % count):
            continue
        vertex, edge, _back, _on = _corner_edge(ring, key.corner)
        at_end = key.corner == side.index
        middle = place.back(_at(vertex, edge, key.height_mm))
        up = place.back(tuple(o + e for o, e in zip(place.origin, edge, strict=True)))  # type: ignore[arg-type]
        half = key.thickness_mm / 2
        path = (
            (middle[0] - half * up[0], middle[1] - half * up[1]),
            (middle[0] + half * up[0], middle[1] + half * up[1]),
        )
        angle = math.radians(ring.corners[key.corner].dihedral_deg)
        # The path goes up: a side's end lies on its right, so that the slot goes to its left there.
        into = 1.0 if at_end else -1.0
        profile = ((0.0, 0.0), (into * key.leg_mm, 0.0),
                   (into * key.leg_mm * math.cos(angle), key.leg_mm * math.sin(angle)))  # fmt: skip
        name = f"side.{side.name}.slot.{_corner_id(key.corner, count)}.{number}"
        yield Feature(name, "slot", "show", path, profile)


def _corner_id(corner: int, count: int) -> str:
    return corner_name(corner, count).replace("-", "_")


def _key(ring: RingPlan, key: KeyPlan, number: int) -> Piece:
    """A key in its slot: a triangle, x along its base from side to side, y to the corner."""
    vertex, edge, back, on = _corner_edge(ring, key.corner)
    count = len(ring.sides)
    name = corner_name(key.corner, count)
    half = key.thickness_mm / 2
    tip = _at(vertex, edge, key.height_mm)
    first = tuple(t + key.leg_mm * b - half * e for t, b, e in zip(tip, back, edge, strict=True))
    last = tuple(t + key.leg_mm * b - half * e for t, b, e in zip(tip, on, edge, strict=True))
    along = tuple((b - a) / key.base_mm for a, b in zip(first, last, strict=True))
    middle = tuple((a + b) / 2 for a, b in zip(first, last, strict=True))
    toward = tuple((t - half * e - m) / key.depth_mm for t, e, m in zip(tip, edge, middle, strict=True))
    face = ((0.0, 0.0), (key.base_mm, 0.0), (key.base_mm / 2, key.depth_mm))
    return Piece(
        id=f"key.{_corner_id(key.corner, count)}.{number}",
        part="key",
        name=f"Key {name} {number}",
        alike="key",
        says=("key",),
        names={"corner": name},
        stock="key stock",
        thickness_mm=key.thickness_mm,
        grain_deg=0.0,
        show_face=face,
        inside_face=face,
        edges=(Edge("base", 0.0), Edge("first", 0.0), Edge("second", 0.0)),
        place=Where(_vector(first), _vector(along), _vector(toward), edge),
    )


def _vector(values: Sequence[float]) -> Vector:
    x, y, z = values
    return (x, y, z)


def _cut(job: Job, ring: RingPlan, keys: KeysPlan, setting: KeySetting) -> Step:
    own = cutter(job, "slot")
    thick = keys.keys[0].thickness_mm
    fences = [fence(setting.fence_mm + at) for at in setting.passes_mm]
    if own.tool == "hand_saw":  # no passes: two lines, and what is between them is pared out
        fences = [fence(setting.fence_mm), width(thick)]
    corners = [ring.corners[i].name for i in setting.corners]
    some = len(corners) < sum(not corner.lapped for corner in ring.corners)
    at = [keys.heights_mm.index(mm) + 1 for mm in setting.heights_mm]
    by_hand = own.tool == "hand_saw"
    says = ["keys.hand" if by_hand else "keys.passes" if len(fences) > 1 else "keys"]
    says += ["keys.mirrored" if by_hand else "keys.turned"] if len(setting.heights_mm) > 1 else []
    says += ["keys.bit"] if own.tool == "router_table" else []
    says += ["keys.leaning"] if any(abs(slab.sin_slope) > DEFAULT.length_mm for slab in ring.slabs) else []
    walls = {i for corner in setting.corners for i in (corner, (corner + 1) % len(ring.sides))}
    slots = [
        f"side.{ring.sides[i].name}.slot.{ring.corners[corner].name.replace('-', '_')}.{number}"
        for corner in setting.corners
        for i in (corner, (corner + 1) % len(ring.sides))
        for number in at
    ]
    return make(
        "keys", ids([side for side in ring.sides if side.index in walls], "side"), "_".join(corners),
        "_".join(map(str, at)), makes=slots, lies="in_cradle", edge=setting.edge,
        cutter=own, cut_mm=own.takes(thick),
        settings=(cradle(setting.cradle_deg), *fences, height(setting.depth_mm)), passes=setting.slots,
        title="keys.some" if some else "keys", says=says,
        numbers={
            "wide_mm": thick, "slots": float(setting.slots), "passes": float(len(fences)),
            "cradle_deg": setting.cradle_deg,
        },
        names={"corners": ", ".join(corners), "edge": setting.edge},
    )  # fmt: skip


_PROUD_MM: Final = 3.0  # how far a key is left to stand out until it is flushed (common practice)


def _findings(plan: Settled) -> Iterator[Finding]:
    """Slots square to a corner that leans run up one face and down the other: one that leaves the side at an edge."""
    keys, top = plan.job.design.joints.keys, plan.job.design.form.height_mm
    if keys is None or not plan.keys.keys or not any(slab.sin_slope for slab in plan.ring.slabs):
        return
    over, corner = 0.0, 0
    reach: dict[int, tuple[float, float]] = {}
    for key in plan.keys.keys:
        if (
            key.corner not in reach
        ):  # how far its triangle rises and falls from its tip, alike for all keys there
            _vertex, edge, back, on = _corner_edge(plan.ring, key.corner)
            half, rises = key.thickness_mm / 2 * edge[2], (0.0, key.leg_mm * back[2], key.leg_mm * on[2])
            reach[key.corner] = (max(rises) + half, min(rises) - half)
        up, down = reach[key.corner]
        past = max(key.height_mm + up - top, -key.height_mm - down)
        if past > over + DEFAULT.length_mm:
            over, corner = past, key.corner
    if over > 0:
        margin = reader(plan.job.design).up(keys.edge_margin_mm + over + 1.0)
        fixes = (
            ()
            if keys.positions_mm
            else (Fix("key_margin", (("joints.keys.edge_margin_mm", margin),), {"margin_mm": margin}),)
        )
        place = Place("corner", corner, len(plan.ring.sides))
        yield Finding("key_leaves_side", "stop", place, {"over_mm": over}, fixes, {"corner": place.text})


KEYS = Kind("key", _pieces, _features, _steps, _findings)
