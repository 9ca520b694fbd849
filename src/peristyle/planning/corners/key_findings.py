"""What is wrong about keys, by how much, and what would mend it."""

import itertools
import math
from collections.abc import Iterator, Sequence
from typing import Final

from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import side_name
from peristyle.model.job import Job
from peristyle.model.tools import Bit
from peristyle.planning.corners import placing
from peristyle.planning.corners.frame import Frame
from peristyle.planning.corners.keep_outs import KeepOut
from peristyle.planning.corners.keys import KeyPlan, KeySet, KeysPlan, SetName
from peristyle.planning.cutters import key_cutter
from peristyle.planning.findings import Finding, Fix, Place, Severity, reader
from peristyle.planning.form.ring import RingPlan
from peristyle.planning.section.groove_findings import blade_findings

_PLACE: Final = Place("keys")
_GRAVE: Final[dict[str, Severity]] = {"bottom edge": "caution", "top edge": "caution"}
_CODES: Final[dict[str, str]] = {
    "lid line": "key_meets_lid_line", "groove": "key_meets_groove", "bottom edge": "key_near_edge",
    "top edge": "key_near_edge",
}  # fmt: skip
_VENEER_FITS_MM: Final = (
    0.1  # how much kerf and veneer may differ: glue swells it, an iron closes it (our rule)
)
_LEAST_FACE: Final = 1 / 3  # of the bit's width, what a dovetail keeps at the arris (our rule)


def key_findings(job: Job, ring: RingPlan, corners: Sequence[Frame], plan: KeysPlan) -> Iterator[Finding]:
    """Everything about keys, set by set."""
    frames = {frame.index: frame for frame in corners}
    for one in plan.sets:
        own = [key for key in plan.keys if key.set == one.name]
        yield from _room_findings(job, one, plan)
        yield from _depth_findings(job, one, own)
        yield from _cutter_findings(job, one)
        yield from _place_findings(job, one, own)
        yield from _tip_findings(job, one, own)
        yield from _leaning_findings(job, one, own, frames)
    yield from _side_findings(job, ring, plan)
    yield from _apart_findings(plan)


def _address(name: SetName, value: str) -> str:
    return f"joints.{name}.{value}"


def _none(name: SetName) -> Fix:
    return Fix("no_keys", ((f"joints.{name}", False),))


def _respread(one: KeySet) -> Fix:
    count = max(1, len(one.heights_mm))
    return Fix(
        "respread",
        (
            (_address(one.name, "count"), count), (_address(one.name, "positions_mm"), ()),
            (_address(one.name, "placed"), "few"),
        ),
    )  # fmt: skip


def _room_findings(job: Job, one: KeySet, plan: KeysPlan) -> Iterator[Finding]:
    """Fewer keys than asked for, and what was given up in placing them."""
    keys, placed = one.keys, len(one.heights_mm)
    if not keys.positions_mm and keys.placed != "spaced" and placed < keys.count:
        fixes = [_none(one.name)]
        if placed:
            count = _address(one.name, "count")
            fixes.insert(0, Fix("key_count", ((count, placed),), {"count": float(placed)}))
        shallow = reader(job.design).down(keys.depth_mm * 0.7)
        deeper = any(out.why in ("groove", "dado", "spline_groove") for out in one.keep_outs)
        if (
            keys.leg_mm is None and shallow >= 1.0 and deeper
        ):  # it may be what lies deeper in that is in the way
            fixes.insert(0, _shorter(one, shallow, 0.0))
        numbers = {"asked": float(keys.count), "placed": float(placed)}
        yield Finding("keys_no_room", "stop", _PLACE, numbers, tuple(fixes))
    elif keys.placed == "spaced" and not placed and not keys.positions_mm:
        yield Finding("keys_no_room", "stop", _PLACE, {"asked": 1.0, "placed": 0.0}, (_none(one.name),))
    settings = sum(setting.set == one.name for setting in plan.settings)
    for given in one.given_up:
        numbers = {
            "settings": float(settings), "spacing_mm": keys.spacing_mm, "between_mm": _least_between(one),
            "wanted_mm": placing.good_apart_mm(keys.thickness_mm) - keys.thickness_mm,
        }  # fmt: skip
        fewer: tuple[Fix, ...] = ()
        if given == "near":
            changes = ((_address(one.name, "count"), placed - 1),)
            fewer = (Fix("key_count", changes, {"count": placed - 1.0}),)
        yield Finding(f"keys_{given}", "note", _PLACE, numbers, fewer)


def _least_between(one: KeySet) -> float:
    """The least wood between two keys of a set (mm)."""
    pairs = itertools.pairwise(one.heights_mm)
    return min((high - low - one.keys.thickness_mm for low, high in pairs), default=0.0)


def _shorter(one: KeySet, depth_mm: float, leg_mm: float) -> Fix:
    """Slots made shallower, by the size they are given by."""
    if one.keys.leg_mm is None:
        return Fix("key_depth", ((_address(one.name, "depth_mm"), depth_mm),), {"depth_mm": depth_mm})
    return Fix("key_leg", ((_address(one.name, "leg_mm"), leg_mm),), {"leg_mm": leg_mm})


def _depth_findings(job: Job, one: KeySet, made: Sequence[KeyPlan]) -> Iterator[Finding]:
    fmt, keys = reader(job.design), one.keys
    tight = min(made, key=lambda k: k.through_mm - k.depth_mm, default=None)
    if tight is None:
        return
    left = tight.through_mm - tight.depth_mm
    if left >= keys.wall_margin_mm - DEFAULT.length_mm:
        return
    limit = fmt.down(tight.through_mm - keys.wall_margin_mm)
    fixes: tuple[Fix, ...] = ()
    if limit > 0:
        fixes = (_shorter(one, limit, fmt.down(limit / math.cos(math.radians(tight.angle_deg / 2)))),)
    place = Place("corner", tight.corner, job.design.side_count)
    numbers = {
        "depth_mm": tight.depth_mm, "breakthrough_mm": tight.through_mm, "limit_mm": limit,
        "most_mm": max(0.0, limit), "left_mm": left, "keep_mm": keys.wall_margin_mm,
    }  # fmt: skip
    through = left <= DEFAULT.length_mm
    kind = "none" if through and limit <= 0 else ""
    yield Finding("key_breakthrough" if through else "key_wall_thin", "stop" if through else "caution", place,
                  numbers, fixes, {}, kind)  # fmt: skip


def _cutter_findings(job: Job, one: KeySet) -> Iterator[Finding]:
    """What is to cut the slots, and whether a dovetail keeps a neck at the arris."""
    keys, fmt = one.keys, reader(job.design)
    if keys.kind == "straight":
        yield from blade_findings(job, _PLACE, "slot", "slot_for_key", keys.thickness_mm)
        return
    if keys.kind == "veneer":
        own = key_cutter(job, keys)
        straight = Fix("straight_keys", ((_address(one.name, "kind"), "straight"),))
        if own is None:
            yield Finding("veneer_no_saw", "stop", _PLACE, {"wide_mm": keys.thickness_mm}, (straight,))
        elif abs(own.least_mm - keys.thickness_mm) > _VENEER_FITS_MM + DEFAULT.length_mm:
            loose = own.least_mm > keys.thickness_mm
            numbers = {"wide_mm": keys.thickness_mm, "kerf_mm": own.least_mm}
            as_cut = Fix("key_thickness", ((_address(one.name, "thickness_mm"), own.least_mm),), numbers)
            names = {"cutter": own.name or "the saw"}
            yield Finding(
                "veneer_fit", "caution", _PLACE, numbers, (as_cut, straight), names, "" if loose else "tight"
            )
        return
    if key_cutter(job, keys) is None:
        fixes = tuple(
            Fix(
                "dovetail_bit",
                ((_address(one.name, "thickness_mm"), bit.width_mm), (_address(one.name, "angle_deg"), bit.angle_deg)),
                {"wide_mm": bit.width_mm, "bit_deg": bit.angle_deg}, {"cutter": bit.name},
            )
            for bit in job.shop.tools
            if isinstance(bit, Bit) and bit.cuts == "dovetail"
        )[:2]  # fmt: skip
        numbers = {"wide_mm": keys.thickness_mm, "bit_deg": keys.angle_deg}
        yield Finding("dovetail_no_bit", "stop", _PLACE, numbers, fixes)
    flare = math.tan(math.radians(keys.angle_deg))
    depths = [keys.depth_mm] if keys.leg_mm is None else []
    for depth in depths:
        face = keys.thickness_mm - 2 * depth * flare
        if face < keys.thickness_mm * _LEAST_FACE - DEFAULT.length_mm:
            most = fmt.down(keys.thickness_mm * (1 - _LEAST_FACE) / 2 / flare)
            fix = Fix("key_depth", ((_address(one.name, "depth_mm"), most),), {"depth_mm": most})
            numbers = {"face_mm": max(0.0, face), "wide_mm": keys.thickness_mm, "depth_mm": depth}
            yield Finding("dovetail_neck", "stop" if face <= 0 else "caution", _PLACE, numbers, (fix,))


def _place_findings(job: Job, one: KeySet, made: Sequence[KeyPlan]) -> Iterator[Finding]:
    """Keys that reach past the box, or into what they must keep clear of: each height once, at its first corner."""
    box, respread = job.design.form.height_mm, _respread(one)
    said: set[tuple[str, str, float]] = set()
    by_corner: dict[int, list[KeepOut]] = {}
    for out in one.keep_outs:
        by_corner.setdefault(out.corner, []).append(out)
    for key in made:
        down, up = key.reach_mm
        low, high = key.height_mm - down, key.height_mm + up
        numbers = {"height_mm": key.height_mm, "box_mm": box}
        half = key.thickness_mm / 2
        if key.height_mm + half > box + DEFAULT.length_mm or key.height_mm - half < -DEFAULT.length_mm:
            if ("out", "", key.height_mm) not in said:
                said.add(("out", "", key.height_mm))
                yield Finding("key_outside_box", "stop", _PLACE, numbers, (respread,))
            continue
        for out in by_corner.get(key.corner, ()):
            overlap = min(high, out.high_mm) - max(low, out.low_mm)
            if overlap <= DEFAULT.length_mm:
                continue
            if (out.why, out.of, key.height_mm) in said:
                continue
            said.add((out.why, out.of, key.height_mm))
            code = _CODES.get(out.why, "key_meets")
            names = {"edge": out.why.removesuffix(" edge")} if code == "key_near_edge" else {"what": out.why}
            yield Finding(code, _GRAVE.get(out.why, "stop"), _PLACE,
                          {"height_mm": key.height_mm, "overlap_mm": overlap}, (respread,), names)  # fmt: skip


STEEP_DEG: Final = 30.0  # tipped further, a box slides in its cradle unless it is clamped (our rule)
_MOST_TIP_DEG: Final = 45.0  # a cradle tipped further holds nothing (our rule)


def _tip_findings(job: Job, one: KeySet, made: Sequence[KeyPlan]) -> Iterator[Finding]:
    """A cradle tipped so far that the box slides out of it, or that a slot's floor runs out at the arris."""
    worst = max(made, key=lambda key: abs(key.tip_deg), default=None)
    if worst is None:
        return
    tip = math.radians(abs(worst.tip_deg))
    runs_out = worst.thickness_mm / 2 * math.tan(tip) > worst.depth_mm * 0.9
    own = key_cutter(job, one.keys)
    by_hand = own is not None and own.tool == "hand_saw"  # no cradle holds the box
    if not runs_out and (by_hand or abs(worst.tip_deg) <= STEEP_DEG):
        return
    too_far = runs_out or abs(worst.tip_deg) > _MOST_TIP_DEG
    half = math.radians(worst.angle_deg / 2)
    gentle = math.degrees(math.atan(math.tan(math.radians(20.0)) * math.cos(half)))
    slant = math.copysign(math.floor(gentle), one.keys.slant_deg)
    changes = ((_address(one.name, "slant_deg"), slant),)
    fixes = (Fix("key_slant", changes, {"slant_deg": abs(slant)}), Fix("keys_square", (
        (_address(one.name, "slant_deg"), 0.0), (_address(one.name, "lie"), "square"),
    )))  # fmt: skip
    place = Place("corner", worst.corner, job.design.side_count)
    yield Finding(
        "key_tipped_far", "stop" if too_far else "caution", place, {"tip_deg": abs(worst.tip_deg)}, fixes,
        {"corner": place.text}, "" if too_far else "steep",
    )  # fmt: skip


def _leaning_findings(
    job: Job, one: KeySet, made: Sequence[KeyPlan], frames: dict[int, Frame]
) -> Iterator[Finding]:
    """Slots that leave the side at an edge, and level ones where the faces do not lean alike."""
    top, over, corner = job.design.form.height_mm, 0.0, 0
    for key in made:
        down, up = key.reach_mm
        past = max(key.height_mm + up - top, down - key.height_mm)
        if past > over + DEFAULT.length_mm:
            over, corner = past, key.corner
    half = one.keys.thickness_mm / 2
    out_of_it = any(key.height_mm + half > top or key.height_mm < half for key in made)
    if over > 0 and not out_of_it:
        place = Place("corner", corner, job.design.side_count)
        yield Finding(
            "key_leaves_side", "stop", place, {"over_mm": over}, (_respread(one),), {"corner": place.text}
        )
    if one.keys.lie == "level":
        unlike = [frames[i] for i in one.corners if not frames[i].levels]
        if unlike:
            place = Place("corner", unlike[0].index, job.design.side_count)
            square = Fix("keys_square", ((_address(one.name, "lie"), "square"),))
            yield Finding("key_level_unlike", "stop", place, {}, (square,), {"corner": place.text})


def _side_findings(job: Job, ring: RingPlan, plan: KeysPlan) -> Iterator[Finding]:
    """Slots so long down a face that those of its two corners meet."""
    legs: dict[int, float] = {}
    for key in plan.keys:
        legs[key.corner] = max(legs.get(key.corner, 0.0), key.leg_mm)
    worst: tuple[float, int, float, float] | None = None
    for side in ring.sides:
        long = min(side.outside_mm, side.outside_top_mm)
        taken = legs.get(side.index, 0.0) + legs.get((side.index - 1) % len(ring.sides), 0.0)
        if taken > long - DEFAULT.length_mm and (worst is None or taken / long > worst[0]):
            worst = (taken / long, side.index, long, taken)
    if worst is None:
        return
    ratio, index, long, taken = worst
    fmt = reader(job.design)
    factor = 0.7 / ratio  # leaves nearly a third of the side whole
    changes = [
        change
        for one in plan.sets
        for change in _shorter(
            one, fmt.down(one.keys.depth_mm * factor), fmt.down((one.keys.leg_mm or 0.0) * factor)
        ).changes
    ]
    first = _shorter(
        plan.sets[0], fmt.down(plan.sets[0].keys.depth_mm * factor),
        fmt.down((plan.sets[0].keys.leg_mm or 0.0) * factor),
    )  # fmt: skip
    nothing = Fix("no_keys", tuple((f"joints.{one.name}", False) for one in plan.sets))
    fixes = (Fix(first.key, tuple(changes), first.numbers), nothing)
    place, names = Place("side", index, job.design.side_count), {"side": side_name(index)}
    yield Finding("key_slots_meet", "stop", place, {"taken_mm": taken, "side_mm": long}, fixes, names)


def _apart_findings(plan: KeysPlan) -> Iterator[Finding]:
    """Keys that overlap, or have too little wood between them; said once for each pair of heights."""
    said: set[tuple[float, float]] = set()
    for _corner, group in itertools.groupby(plan.keys, key=lambda key: key.corner):
        for low, high in itertools.pairwise(group):
            pair = (low.height_mm, high.height_mm)
            wide = (low.thickness_mm + high.thickness_mm) / 2
            gap = high.height_mm - low.height_mm - wide
            least = max(low.thickness_mm, high.thickness_mm, placing.LEAST_BETWEEN_MM)
            if gap >= least - DEFAULT.length_mm or pair in said:
                continue
            said.add(pair)
            fixes = tuple(_respread(one) for one in plan.sets if one.name == high.set)
            numbers = {"low_mm": pair[0], "high_mm": pair[1], "between_mm": max(0.0, gap), "least_mm": least}
            overlap = gap < -DEFAULT.length_mm
            code = "keys_overlap" if overlap else "keys_close"
            yield Finding(code, "stop" if overlap else "caution", _PLACE, numbers, fixes)
