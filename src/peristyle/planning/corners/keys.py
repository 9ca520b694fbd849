"""Keys across the corners: how deep, where, and with how few fence settings."""

import math
from collections.abc import Iterator, Sequence
from typing import Literal

from msgspec import Struct

from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import KeyKind, Keys, replace
from peristyle.model.job import Job
from peristyle.planning.corners import placing
from peristyle.planning.corners.frame import Frame, Slot
from peristyle.planning.corners.keep_outs import Cuts, KeepOut, gathered, keep_outs
from peristyle.planning.cutters import Cutter, key_cutter
from peristyle.planning.form.ring import RingPlan
from peristyle.planning.making.setting import SAME_SETTING
from peristyle.planning.section.grooves import passes
from peristyle.planning.section.levels import SectionPlan

SetName = Literal["keys", "other_keys"]
Edge = Literal["bottom", "top"]


class KeyPlan(Struct, frozen=True):
    """One key at one corner. Height to its middle at the arris; depth from the arris to its floor.

    `number` counts from the bottom at its corner. leg = d/cos(θ/2), base = 2d·tan(θ/2), area = d²·tan(θ/2) for the
    angle θ in which its plane cuts the corner, `angle_deg`; the middle of its slot breaks through inside at
    `breakthrough_mm`, the lower edge of its floor `lower_mm` sooner. It is tipped by `tip_deg` against square to the
    arris, positive where its floor lies higher. A dovetail is `thickness_mm` wide at its floor and `face_mm` at the
    arris. It reaches `reach_mm` down and up from its height.
    """

    corner: int
    number: int
    set: SetName
    kind: KeyKind
    height_mm: float
    thickness_mm: float
    depth_mm: float
    leg_mm: float
    base_mm: float
    area_mm2: float
    breakthrough_mm: float
    lower_mm: float
    tip_deg: float
    angle_deg: float
    face_mm: float
    flare_deg: float
    reach_mm: tuple[float, float]

    @property
    def through_mm(self) -> float:
        """The depth at which any of it comes through inside: of a tipped key the lower edge of its floor does first."""
        return max(0.0, self.breakthrough_mm - self.lower_mm)


class KeySetting(Struct, frozen=True):
    """One setting for slots across corners, and what it cuts.

    The box lies in a cradle of `cradle_deg`, tipped by `tip_deg`, its `edge` toward the fence; `fence_mm` runs along
    the corner's arris (level along the table where the cradle is tipped) from that end to the near side of the slot.
    Of two heights the second is reached with the box turned over on the same setting. `depth_mm` is the blade's height
    over the corner, at `corners`.
    """

    fence_mm: float
    heights_mm: tuple[float, ...]
    passes_mm: tuple[float, ...]
    slots: int
    depth_mm: float
    cradle_deg: float
    edge: Edge
    corners: tuple[int, ...]
    set: SetName = "keys"
    tip_deg: float = 0.0
    lean_deg: float = 0.0


class KeySet(Struct, frozen=True):
    """Keys of one kind: where they go, at which heights, what they keep clear of, what placing them gave up."""

    name: SetName
    keys: Keys
    corners: tuple[int, ...]
    heights_mm: tuple[float, ...]
    keep_outs: tuple[KeepOut, ...]
    given_up: tuple[str, ...] = ()


class KeysPlan(Struct, frozen=True):
    """All keys, corner by corner, with the fence settings that cut the slots."""

    sets: tuple[KeySet, ...] = ()
    keys: tuple[KeyPlan, ...] = ()
    settings: tuple[KeySetting, ...] = ()

    @property
    def keep_outs(self) -> tuple[KeepOut, ...]:
        """What keys of any kind keep clear of, each once."""
        return tuple(dict.fromkeys(out for made in self.sets for out in made.keep_outs))

    @property
    def heights_mm(self) -> tuple[float, ...]:
        """Every height at which some corner has a key, from the bottom up."""
        return tuple(sorted({height for made in self.sets for height in made.heights_mm}))

    @property
    def alike(self) -> tuple[tuple[KeyPlan, ...], ...]:
        """The keys by kind and size: those cut alike together, in the order of their corners."""
        groups: dict[tuple[object, ...], list[KeyPlan]] = {}
        for key in self.keys:
            size = (round(v, 4) for v in (key.base_mm, key.depth_mm, key.thickness_mm, abs(key.tip_deg)))
            groups.setdefault((key.set, *size), []).append(key)
        return tuple(tuple(group) for group in groups.values())

    def at(self, corner: int) -> tuple[KeyPlan, ...]:
        """The keys of one corner, from the bottom up."""
        return tuple(key for key in self.keys if key.corner == corner)

    def set_of(self, name: SetName) -> KeySet | None:
        """The keys of one name, None where there are none."""
        return next((made for made in self.sets if made.name == name), None)


def wanted_keys(job: Job) -> Iterator[tuple[SetName, Keys]]:
    """The kinds of keys that the box has."""
    if job.design.joints.keys is not None:
        yield "keys", job.design.joints.keys
    if job.design.joints.other_keys is not None:
        yield "other_keys", job.design.joints.other_keys


def tip_of(keys: Keys, frame: Frame, *, upper: bool) -> float:
    """By how much a slot is tipped against square to the arris (radians); of slanting ones the upper the other way.

    tan τ = tan β/cos(θ/2), β the slant on the faces. Source: plane geometry.
    """
    tip = math.radians(frame.level_deg) if keys.lie == "level" and frame.levels else 0.0
    slant = math.atan(math.tan(math.radians(keys.slant_deg)) / math.cos(frame.half_rad))
    return tip + (-slant if upper else slant)


def slot_of(keys: Keys, frame: Frame, height_mm: float, box_mm: float) -> Slot:
    """The slot of one key at one corner, given by its depth or its leg."""
    slot = Slot(
        frame, height_mm, keys.thickness_mm, keys.depth_mm,
        tip_of(keys, frame, upper=height_mm > box_mm / 2 + DEFAULT.length_mm),
        math.radians(keys.angle_deg) if keys.kind == "dovetail" else 0.0,
    )  # fmt: skip
    return slot if keys.leg_mm is None else slot._replace(depth_mm=keys.leg_mm * math.cos(slot.half_rad))


def plan_keys(
    job: Job, ring: RingPlan, corners: Sequence[Frame], section: SectionPlan, cuts: Cuts
) -> KeysPlan:
    """Keys for the corners that are to have them. `cuts` is what else is cut into the sides."""
    wanted = list(wanted_keys(job))
    if not wanted or not ring.corners:
        return KeysPlan()
    # A roof laid on its walls has no miter there for a key to cross.
    frames = {frame.index: frame for frame in corners if not frame.lapped}
    sets: list[KeySet] = []
    cuts = gathered(cuts)
    for name, keys in wanted:
        own = [frames[i] for i in keys.corners if i in frames] if keys.corners else list(frames.values())
        if not own:
            continue
        kept = _outs(job, keys, own, ring, section, cuts)
        taken = [other for other in sets if {f.index for f in own} & set(other.corners)]
        sets.append(_placed(job, name, keys, own, kept, section, taken))
    made = _numbered(job, sets, frames)
    return KeysPlan(
        sets=tuple(sets), keys=made,
        settings=tuple(setting for one in sets for setting in _settings(job, one, section, frames)),
    )  # fmt: skip


def _outs(
    job: Job, keys: Keys, frames: Sequence[Frame], ring: RingPlan, section: SectionPlan, cuts: Cuts
) -> tuple[KeepOut, ...]:
    """What keys must keep clear of at these corners, those of the lower half and those of the upper."""
    found = (out for frame in frames for slot in _both_halves(job, keys, frame)
             for out in keep_outs(keys, ring, section, slot, cuts))  # fmt: skip
    return tuple(dict.fromkeys(found))


def _both_halves(job: Job, keys: Keys, frame: Frame) -> list[Slot]:
    """The slot as it lies in the lower half, and in the upper where it slants the other way there."""
    box = job.design.form.height_mm
    return [slot_of(keys, frame, at, box) for at in ((0.0, box) if keys.slant_deg else (0.0,))]


def _placed(
    job: Job,
    name: SetName,
    keys: Keys,
    frames: Sequence[Frame],
    outs: tuple[KeepOut, ...],
    section: SectionPlan,
    taken: Sequence[KeySet],
) -> KeySet:
    """The heights of one kind of keys: as typed, or where they are put."""
    corners = tuple(frame.index for frame in frames)
    if keys.positions_mm:
        return KeySet(name, keys, corners, tuple(sorted(keys.positions_mm)), outs)
    box = job.design.form.height_mm
    unlike = {frame.looks: frame for frame in frames}.values()
    reaches = [slot.reach_mm for frame in unlike for slot in _both_halves(job, keys, frame)]
    down, up = max(r[0] for r in reaches), max(r[1] for r in reaches)
    lids = [out for out in outs if out.why == "lid line"]
    gap = placing.apart_mm(keys.thickness_mm)
    # Keys already there keep the same wood about them.
    spans = [(out.low_mm, out.high_mm) for out in outs]
    for other in taken:
        wide = max(keys.thickness_mm, other.keys.thickness_mm, placing.LEAST_BETWEEN_MM)
        half = other.keys.thickness_mm / 2 + wide
        spans += [(height - half, height + half) for height in other.heights_mm]
    free = placing.free_spans(box, down, up, spans)
    upright = all(abs(frame.lean_deg) <= SAME_SETTING for frame in frames)
    line = section.lid.line_mm if section.lid and lids else None
    room = placing.Room(box, free, gap, upright, line)
    match keys.placed:
        case "spaced":
            made = placing.spaced(room, keys.spacing_mm)
        case "even":
            made = placing.roomy(room, keys.count, keys.thickness_mm, placing.even)
        case _:
            made = placing.roomy(room, keys.count, keys.thickness_mm, placing.few)
    return KeySet(name, keys, corners, made.heights_mm, outs, made.given_up)


def _numbered(job: Job, sets: Sequence[KeySet], frames: dict[int, Frame]) -> tuple[KeyPlan, ...]:
    """Every key with its number at its own corner, from the bottom."""
    found: list[KeyPlan] = []
    # But for its height a key is as any at a corner like its own.
    alike: dict[tuple[object, ...], KeyPlan] = {}
    for corner, frame in frames.items():
        at = sorted(
            ((height, one) for one in sets if corner in one.corners for height in one.heights_mm),
            key=lambda pair: pair[0],
        )
        for number, (height, one) in enumerate(at, 1):
            upper = height > job.design.form.height_mm / 2 + DEFAULT.length_mm and bool(one.keys.slant_deg)
            first = alike.get((one.name, upper, frame.looks))
            if first is None:
                first = alike[one.name, upper, frame.looks] = _key(job, one, frame, height, number)
            found.append(replace(first, corner=corner, height_mm=height, number=number))
    return tuple(found)


def _key(job: Job, one: KeySet, frame: Frame, height: float, number: int) -> KeyPlan:
    slot = slot_of(one.keys, frame, height, job.design.form.height_mm)
    return KeyPlan(
        corner=frame.index,
        number=number,
        set=one.name,
        kind=one.keys.kind,
        height_mm=height,
        thickness_mm=slot.thickness_mm,
        depth_mm=slot.depth_mm,
        leg_mm=slot.leg_mm,
        base_mm=slot.base_mm,
        area_mm2=slot.area_mm2,
        breakthrough_mm=slot.breakthrough_mm,
        lower_mm=slot.lower_mm,
        tip_deg=math.degrees(slot.tip_rad),
        angle_deg=math.degrees(2 * slot.half_rad),
        face_mm=slot.face_mm,
        flare_deg=math.degrees(slot.flare_rad),
        reach_mm=slot.reach_mm,
    )


def slot_at(job: Job, frame: Frame, key: KeyPlan) -> Slot:
    """The slot of a planned key."""
    keys = job.design.joints.keys if key.set == "keys" else job.design.joints.other_keys
    assert keys is not None
    return slot_of(keys, frame, key.height_mm, job.design.form.height_mm)


def _settings(job: Job, one: KeySet, section: SectionPlan, frames: dict[int, Frame]) -> list[KeySetting]:
    """Settings for corners alike in angle, depth and lean; at upright corners mirrored heights share one.

    A leaning corner's arris is not square to the box's ends: turned over, the other end meets the fence.
    """
    keys, box = one.keys, job.design.form.height_mm
    own: Cutter | None = key_cutter(job, keys)
    wide = own.takes(keys.thickness_mm) if own else keys.thickness_mm
    cuts = (0.0,) if keys.kind != "straight" else passes(keys.thickness_mm, wide)
    alike: dict[tuple[float, ...], list[Frame]] = {}
    for corner in one.corners:
        frame = frames[corner]
        depth = slot_of(keys, frame, 0.0, box).depth_mm
        looks = (frame.lean_deg, math.degrees(2 * frame.half_rad), depth, frame.level_deg)
        alike.setdefault(tuple(round(v, 4) for v in looks), []).append(frame)
    found = []
    for members in alike.values():
        frame = members[0]
        upright = abs(frame.lean_deg) <= SAME_SETTING
        end: Edge = "top" if frame.lean_deg > 0 and not upright else "bottom"
        for edge, served in _served(job, section, one.heights_mm, end, mirrored=upright):
            level = box - served[0] if edge == "top" else served[0]
            slot = slot_of(keys, frame, served[0], box)
            # Seen from the end at the fence, a floor that lies higher is one that lies further off, or nearer.
            tip = slot.tip_rad if edge == "bottom" else -slot.tip_rad
            middle = level / math.cos(math.radians(frame.lean_deg)) * math.cos(tip)
            found.append(
                KeySetting(
                    fence_mm=middle - keys.thickness_mm / 2,
                    heights_mm=served,
                    passes_mm=cuts,
                    slots=len(served) * len(members),
                    depth_mm=slot.depth_mm,
                    cradle_deg=math.degrees(2 * frame.half_rad),
                    edge=edge,
                    corners=tuple(member.index for member in members),
                    set=one.name,
                    tip_deg=math.degrees(tip),
                    lean_deg=frame.lean_deg,
                )
            )
    return found


def _served(
    job: Job, section: SectionPlan, heights: tuple[float, ...], wide: Edge, *, mirrored: bool
) -> list[tuple[Edge, tuple[float, ...]]]:
    """The heights by fence setting, and the edge toward the fence; `mirrored` ones share one, the box turned over.

    Once the lid is free, a slot is measured from the edge of its own part: the body's bottom or the lid's top.
    """
    top = job.design.form.height_mm
    line = section.lid.line_mm if section.lid and job.work.keys == "after_lid" else None
    left = list(heights)
    found: list[tuple[Edge, tuple[float, ...]]] = []
    while left:
        height = left.pop(0)
        edge: Edge = wide if line is None else "top" if height > line else "bottom"
        # A micrometre is what the fence cannot tell apart.
        mates = (h for h in left if mirrored and abs(top - h - height) <= 1e-6)
        mirror = next((h for h in mates if line is None or (h > line) != (height > line)), None)
        if mirror is not None:
            left.remove(mirror)
        found.append((edge, (height,) if mirror is None else (height, mirror)))
    return found
