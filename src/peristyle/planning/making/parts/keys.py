"""Keys in slots across the corners: straight ones, of veneer, dovetails."""

import math
from collections.abc import Iterator, Sequence
from typing import Final, NamedTuple

from peristyle.core.planes import Point, Vector, dot
from peristyle.model.design import replace
from peristyle.model.job import Job
from peristyle.model.tools import Bit, named
from peristyle.planning.corners.frame import Frame, Slot, along
from peristyle.planning.corners.key_findings import STEEP_DEG, key_findings
from peristyle.planning.corners.key_stock import Cutting, cutting_of
from peristyle.planning.corners.keys import KeyPlan, KeySet, KeySetting, slot_at
from peristyle.planning.cutters import Cutter, cutter, key_cutter
from peristyle.planning.findings import Finding
from peristyle.planning.making.kind import Kind, Phase, Settled
from peristyle.planning.making.parts.walls import stands
from peristyle.planning.making.piece import Edge, Feature, Piece, Place
from peristyle.planning.making.ripping import ids
from peristyle.planning.making.setting import SAME_SETTING, cradle, fence, height, thickness, tipped, width
from peristyle.planning.making.step import Step, make

SHIM_OVER_MM: Final = 300.0  # the length of cradle that a shim is told for


def _pieces(plan: Settled) -> Iterator[Piece]:
    """Every key; but for its height one is as another of its kind at its corner and in its half."""
    frames = plan.frames if plan.keys.keys else ()
    alike: dict[_Alike, tuple[Piece, float]] = {}
    for key in plan.keys.keys:
        frame = frames[key.corner]
        if _alike(key) not in alike:
            alike[_alike(key)] = (_key(plan, frame, key), key.height_mm)
        first, at = alike[_alike(key)]
        place = replace(
            first.place, origin=along(first.place.origin, ((key.height_mm - at) / frame.edge[2], frame.edge))
        )
        name = key_id(plan, key)
        wedges = tuple(replace(f, id=f"{name}.{f.id.split('.', 3)[3]}") for f in first.features)
        yield replace(first, id=name, name=f"Key {frame.name} {key.number}", place=place, features=wedges)


_Alike = tuple[int, str, float]


def _alike(key: KeyPlan) -> _Alike:
    return key.corner, key.set, key.tip_deg


class _Beside(NamedTuple):
    """One of a corner's two sides: its name, where it stands, the arris's way in its own frame, which of a cheek's
    corners lies in its face, and the slots known there: their ends, at which height, how deep they go.
    """

    name: str
    place: Place
    up: Vector
    own: int
    known: dict["_Alike", tuple[list[list[Vector]], float, float]]


def _features(plan: Settled) -> Iterator[tuple[str, Feature]]:
    """The slots, corner by corner, in both of its sides: but for their height they are as others of their kind."""
    count = len(plan.ring.sides)
    places = (
        [stands(plan.ring.slabs[side.index], side, 0.0) for side in plan.ring.sides] if plan.keys.keys else []
    )
    for corner in dict.fromkeys(key.corner for key in plan.keys.keys):
        frame = plan.frames[corner]
        beside = [
            _Beside(plan.ring.sides[index].name, places[index], _way_in(places[index], frame.edge), own, {})
            for own, index in ((1, corner), (2, (corner + 1) % count))
        ]
        for key in plan.keys.at(corner):
            alike = _alike(key)
            if alike not in beside[0].known:
                slot = slot_at(plan.job, frame, key)
                cheeks = [slot.cheek(sign) for sign in (-1.0, 1.0)]
                deep = slot.depth_mm * math.sin(slot.half_rad)
                for side in beside:  # what lies in the side's own face comes first
                    ends = [
                        [side.place.back(cheek[k]) for k in (0, side.own, 3 - side.own)] for cheek in cheeks
                    ]
                    side.known[alike] = (ends, key.height_mm, deep)
            for side in beside:
                ends, at, deep = side.known[alike]
                run = (key.height_mm - at) / frame.edge[2]
                dx, dy, dz = (run * way for way in side.up)
                moved = tuple([tuple([(x + dx, y + dy, z + dz) for x, y, z in end]) for end in ends])
                name = f"side.{side.name}.slot.{frame.id}.{key.number}"
                yield f"side.{side.name}", Feature(name, "slot", "show", in_mm=deep, ends=moved)


def _way_in(place: Place, way: Vector) -> Vector:
    """A direction in the box, in a piece's own frame."""
    return (dot(way, place.x), dot(way, place.y), dot(way, place.z))


def key_id(plan: Settled, key: KeyPlan) -> str:
    """The name of a key's piece."""
    return f"key.{plan.frames[key.corner].id}.{key.number}"


def _key(plan: Settled, frame: Frame, key: KeyPlan) -> Piece:
    """A key in its slot: x along its floor from the first side to the second, y to the corner.

    A dovetail is as thick as its floor all over, less the wedges that its cheeks lean by.
    """
    slot = slot_at(plan.job, frame, key)
    half = slot.thickness_mm / 2
    way = _way(slot)
    low, high = slot.cheek(-way, half), slot.cheek(way, half)
    toward, up = along((0.0, 0.0, 0.0), (-1.0, slot.into)), along((0.0, 0.0, 0.0), (way, slot.over))
    place = Place(low[1], frame.across, toward, up)

    def flat(corners: Sequence[Vector]) -> tuple[Point, ...]:
        arris, first, second = (place.back(p) for p in corners)
        return ((first[0], first[1]), (second[0], second[1]), (arris[0], arris[1]))

    name = frame.name
    return Piece(
        id=key_id(plan, key),
        part="key",
        name=f"Key {name} {key.number}",
        alike="key" if key.kind == "straight" else f"{key.kind} key",
        says=("key",) if key.kind != "dovetail" else ("key", "key.dovetail"),
        names={"corner": name},
        numbers={"face_mm": key.face_mm, "flare_deg": key.flare_deg},
        stock="veneer" if key.kind == "veneer" else "key stock",
        thickness_mm=key.thickness_mm,
        grain_deg=0.0,
        show_face=flat(low),
        inside_face=flat(high),
        edges=(Edge("base", 0.0), Edge("first", 0.0), Edge("second", 0.0)),
        place=place,
        features=tuple(_wedges(slot, place, key_id(plan, key))) if slot.flare_rad else (),
    )


def _way(slot: Slot) -> float:
    """Which cheek is the show face: of keys that slant both ways the larger, so that they are listed as alike."""
    return -1.0 if slot.tip_rad < 0 else 1.0


def _wedges(slot: Slot, place: Place, name: str) -> Iterator[Feature]:
    """What is off a dovetail's two cheeks: between the cheek and the blank's own face, from the floor to the arris."""
    run, half, tan = slot.base_mm, slot.thickness_mm / 2, math.tan(slot.flare_rad)
    deep = slot.depth_mm + slot.thickness_mm * abs(math.tan(slot.tip_rad))
    middle = slot.frame.at(slot.height_mm)
    for sign, word in ((-_way(slot), "below"), (_way(slot), "above")):
        outlines = []
        for far in (-run, run):
            corners = []
            top = slot.depth_mm - 2 * deep
            for into, out in (
                (slot.depth_mm, half), (top, half - 2 * deep * tan), (top, half + deep), (slot.depth_mm, half + deep),
            ):  # fmt: skip
                point = along(middle, (into, slot.into), (sign * out, slot.over), (far, slot.frame.across))
                corners.append(place.back(point))
            outlines.append(tuple(corners))
        yield Feature(
            f"{name}.wedge.{word}", "cheek", "show", in_mm=slot.thickness_mm, ends=(outlines[0], outlines[1])
        )


def _steps(plan: Settled) -> Iterator[tuple[Phase, Step]]:
    for setting in plan.keys.settings:
        one = plan.keys.set_of(setting.set)
        if one is not None:
            yield "keys", _cut(plan, one, setting)
    for one in plan.keys.sets:
        if any(key.set == one.name for key in plan.keys.keys):
            for step in _filled(plan, one):
                yield "keys", step


def _filled(plan: Settled, one: KeySet) -> Iterator[Step]:
    """The keys themselves: their stock, and how they are let in and flushed."""
    own = [key for key in plan.keys.keys if key.set == one.name]
    keys = [key_id(plan, key) for key in own]
    about = () if one.name == "keys" else ("other",)
    kind = one.keys.kind
    cutting: Cutting = cutting_of(plan.job, own)
    numbers = {
        "long_mm": cutting.strip_mm, "base_mm": cutting.longest_mm, "count": float(len(keys)),
        "trim_mm": cutting.trim_mm, "per_mm": cutting.per_mm, "flare_deg": own[0].flare_deg,
        "face_mm": cutting.narrow_mm,
        "cut_deg": cutting.cut_deg,
    }  # fmt: skip
    says = {
        "straight": ("key_stock", "key_stock.strip"), "veneer": ("key_stock.veneer",),
        "dovetail": ("key_stock.dovetail",),
    }[kind]  # fmt: skip
    yield make(
        "key_stock", keys, *about, makes=keys,
        cutter=None if kind == "veneer" else cutter(plan.job, "rip"), tool="by_hand",
        settings=(thickness(own[0].thickness_mm), width(cutting.strip_wide_mm)),
        says=says, title="key_stock" if kind == "straight" else f"key_stock.{kind}", numbers=numbers,
    )  # fmt: skip
    yield make(
        "key_glue", keys, *about, tool="by_hand",
        says=("key_glue",) if kind == "straight" else (f"key_glue.{kind}",), numbers={"count": float(len(keys))},
    )  # fmt: skip
    yield make("key_flush", keys, *about, tool="hand_saw", says=("key_flush",))


def _cut(plan: Settled, one: KeySet, setting: KeySetting) -> Step:
    job, ring, keys = plan.job, plan.ring, one.keys
    own = key_cutter(job, keys) or Cutter("router_table", "", keys.thickness_mm, keys.thickness_mm)
    by_hand = own.tool == "hand_saw"
    thick = keys.thickness_mm
    fences = [fence(setting.fence_mm + at) for at in setting.passes_mm]
    one_cut = by_hand and keys.kind == "veneer"
    if by_hand and not one_cut:  # no passes: two lines, and what is between them is pared out
        fences = [fence(setting.fence_mm), width(thick)]
    corners = [ring.corners[i].name for i in setting.corners]
    some = len(corners) < sum(not corner.lapped for corner in ring.corners)
    at = {
        (key.corner, key.height_mm): key.number for key in plan.keys.keys if key.set == one.name
    }  # fmt: skip
    numbers_at = [at[setting.corners[0], mm] for mm in setting.heights_mm]
    says = [
        "keys.veneer" if one_cut else "keys.hand" if by_hand else "keys.passes" if len(fences) > 1 else "keys"
    ]
    says += ["keys.mirrored" if by_hand else "keys.turned"] if len(setting.heights_mm) > 1 else []
    if own.tool == "router_table":
        fixed = keys.kind == "veneer" or (keys.kind == "straight" and _is_slotting(job, own))
        says.append("keys.dovetail" if keys.kind == "dovetail" else "keys.thin" if fixed else "keys.bit")
    elif not by_hand:
        says.append("keys.backing")
    tip = abs(setting.tip_deg) > SAME_SETTING
    if tip:
        says.append(f"keys.tipped.{'low' if setting.tip_deg < 0 else 'high'}{'.hand' if by_hand else ''}")
        if not by_hand:
            says += ["keys.slant"] if keys.slant_deg else ["keys.level"] if keys.lie == "level" else []
            says += ["keys.steep"] if abs(setting.tip_deg) > STEEP_DEG else []
    elif abs(setting.lean_deg) > SAME_SETTING:
        says.append("keys.leaning.hand" if by_hand else "keys.leaning")
    walls = {i for corner in setting.corners for i in (corner, (corner + 1) % len(ring.sides))}
    slots = [
        f"side.{ring.sides[i].name}.slot.{plan.frames[corner].id}.{at[corner, mm]}"
        for corner in setting.corners
        for i in (corner, (corner + 1) % len(ring.sides))
        for mm in setting.heights_mm
    ]
    about = () if one.name == "keys" else ("other",)
    return make(
        "keys", ids([side for side in ring.sides if side.index in walls], "side"), *about, "_".join(corners),
        "_".join(map(str, numbers_at)), makes=slots, lies="in_cradle", edge=setting.edge,
        cutter=own, cut_mm=thick if keys.kind != "straight" else own.takes(thick),
        settings=(
            cradle(setting.cradle_deg), *((tipped(setting.tip_deg),) if tip else ()), *fences, height(setting.depth_mm),
        ),
        passes=setting.slots, title=_title(keys.kind, some=some), says=says,
        numbers={
            "wide_mm": thick, "slots": float(setting.slots), "passes": float(len(fences)),
            "cradle_deg": setting.cradle_deg, "tip_deg": abs(setting.tip_deg),
            "shim_mm": SHIM_OVER_MM * math.tan(math.radians(abs(setting.tip_deg))), "over_mm": SHIM_OVER_MM,
            "slant_deg": _on_face_deg(plan.frames[setting.corners[0]], setting.tip_deg), "flare_deg": keys.angle_deg,
        },
        names={"corners": ", ".join(corners), "edge": setting.edge},
    )  # fmt: skip


def _is_slotting(job: Job, own: Cutter) -> bool:
    """Whether a thin disk on the router table's spindle cuts the slots."""
    bit = named(job.shop.tools, own.name)
    return isinstance(bit, Bit) and bit.cuts == "slotting"


def _on_face_deg(frame: Frame, tip_deg: float) -> float:
    """By how much a slot so tipped slants on the faces, from square to the arris. Source: plane geometry."""
    return math.degrees(math.atan(math.tan(math.radians(abs(tip_deg))) * math.cos(frame.half_rad)))


def _title(kind: str, *, some: bool) -> str:
    own = "keys" if kind == "straight" else f"keys.{kind}"
    return f"{own}.some" if some else own


def _findings(plan: Settled) -> Iterator[Finding]:
    return key_findings(plan.job, plan.ring, plan.frames, plan.keys)


KEYS = Kind("key", _pieces, _features, _steps, _findings)
