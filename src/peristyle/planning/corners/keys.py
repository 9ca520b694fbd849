"""Straight keys: how deep, where, and with how few fence settings."""

import itertools
import math
from collections.abc import Sequence
from typing import Final, Literal

from msgspec import Struct

from peristyle.core.planes import edge_lean_deg
from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import Design, Keys, side_name
from peristyle.model.job import Job
from peristyle.planning.cutters import cutter
from peristyle.planning.findings import Finding, Fix, Place, Severity, reader
from peristyle.planning.form.ring import CornerPlan, RingPlan
from peristyle.planning.making.setting import SAME_SETTING
from peristyle.planning.section.groove_findings import blade_findings
from peristyle.planning.section.grooves import passes
from peristyle.planning.section.levels import SectionPlan


class KeyPlan(Struct, frozen=True):
    """One key at one corner. Height to its middle; depth along the bisector from the outer corner.

    leg = d/cos(θ/2), base = 2d·tan(θ/2), area = d²·tan(θ/2) for a corner of angle θ; the slot
    breaks through inside at `breakthrough_mm`.
    """

    corner: int
    height_mm: float
    thickness_mm: float
    depth_mm: float
    leg_mm: float
    base_mm: float
    area_mm2: float
    breakthrough_mm: float


class KeepOut(Struct, frozen=True):
    """A stretch of height where no key may be, and why."""

    low_mm: float
    high_mm: float
    why: str


Edge = Literal["bottom", "top"]


class KeySetting(Struct, frozen=True):
    """One setting for slots square to the corner's edge, and what it cuts.

    The box lies in a cradle of `cradle_deg`, its `edge` toward the fence; `fence_mm` runs along the corner's
    edge from that end to the near side of the slot. Of two heights the second is reached with the box turned
    over on the same setting. `depth_mm` is the blade's height over the corner, at `corners`.
    """

    fence_mm: float
    heights_mm: tuple[float, ...]
    passes_mm: tuple[float, ...]
    slots: int
    depth_mm: float
    cradle_deg: float
    edge: Edge
    corners: tuple[int, ...]


class KeysPlan(Struct, frozen=True):
    """All keys, corner by corner, with keep-outs and the fence settings that cut the slots."""

    heights_mm: tuple[float, ...] = ()
    keys: tuple[KeyPlan, ...] = ()
    keep_outs: tuple[KeepOut, ...] = ()
    settings: tuple[KeySetting, ...] = ()
    findings: tuple[Finding, ...] = ()

    @property
    def alike(self) -> tuple[tuple[KeyPlan, ...], ...]:
        """The keys by size: those cut alike together, in the order of their corners."""
        groups: dict[tuple[float, float], list[KeyPlan]] = {}
        for key in self.keys:
            groups.setdefault((round(key.base_mm, 4), round(key.depth_mm, 4)), []).append(key)
        return tuple(tuple(group) for group in groups.values())


def plan_keys(job: Job, ring: RingPlan, section: SectionPlan) -> KeysPlan:
    """Keys for every corner, or nothing where the box has none."""
    keys = job.design.joints.keys
    if keys is None or not ring.corners:
        return KeysPlan()
    keep_outs = _keep_outs(job.design, keys, ring, section)
    findings: list[Finding] = []
    if keys.positions_mm:
        heights = tuple(sorted(keys.positions_mm))
    else:
        heights = spread(job.design.form.height_mm, keys.count, keys.thickness_mm, keep_outs,
                         section.lid.lid_mm if section.lid else None)  # fmt: skip
        if len(heights) < keys.count:
            findings.append(
                _no_room(keys, len(heights), _most_that_fit(job.design, keys, keep_outs, section))
            )
    # A roof laid on its walls has no miter there for a key to cross.
    mitered = [corner for corner in ring.corners if not corner.lapped]
    made = tuple(_key(job.design, keys, corner, height) for corner in mitered for height in heights)
    findings += _depth_findings(job.design, keys, ring, made)
    findings += _side_findings(job.design, keys, ring, made)
    findings += blade_findings(job, Place("keys"), "slot", "slot_for_key", keys.thickness_mm)
    findings += _place_findings(job.design, keys, heights, keep_outs)
    return KeysPlan(
        heights_mm=heights,
        keys=made,
        keep_outs=tuple(keep_outs),
        settings=_settings(job, keys, ring, section, heights, mitered),
        findings=tuple(findings),
    )


def _walls(design: Design, corner: CornerPlan) -> float:
    """Mean thickness of the two walls at a corner: what a slot square to the bisector meets."""
    second = (corner.index + 1) % design.side_count
    return (design.thickness_of(corner.index) + design.thickness_of(second)) / 2


def slot_depth(keys: Keys, dihedral_deg: float) -> float:
    """Depth along the bisector (mm), from the depth or the leg, whichever the maker gave."""
    if keys.leg_mm is not None:
        return keys.leg_mm * math.cos(math.radians(dihedral_deg / 2))
    return keys.depth_mm


def _key(design: Design, keys: Keys, corner: CornerPlan, height: float) -> KeyPlan:
    half = math.radians(corner.dihedral_deg / 2)
    depth = slot_depth(keys, corner.dihedral_deg)
    return KeyPlan(
        corner=corner.index,
        height_mm=height,
        thickness_mm=keys.thickness_mm,
        depth_mm=depth,
        leg_mm=depth / math.cos(half),
        base_mm=2 * depth * math.tan(half),
        area_mm2=depth * depth * math.tan(half),
        breakthrough_mm=_walls(design, corner) / math.sin(half),
    )


def _keep_outs(design: Design, keys: Keys, ring: RingPlan, section: SectionPlan) -> list[KeepOut]:
    """Edges, the lid's lost band with its margin, and the groove where a slot would meet it."""
    height = design.form.height_mm
    found = [
        KeepOut(0.0, keys.edge_margin_mm, "bottom edge"),
        KeepOut(height - keys.edge_margin_mm, height, "top edge"),
    ]
    if section.lid:
        margin = keys.lid_margin_mm
        found.append(KeepOut(section.lid.lost_low_mm - margin, section.lid.lost_high_mm + margin, "lid line"))
    for groove in section.grooves:
        if any(
            slot_depth(keys, c.dihedral_deg)
            > (_walls(design, c) - groove.depth_mm) / math.sin(math.radians(c.dihedral_deg / 2))
            for c in ring.corners
            if not c.lapped
        ):
            found.append(
                KeepOut(groove.low_mm - keys.lid_margin_mm, groove.high_mm + keys.lid_margin_mm, "groove")
            )
    return found


Spans = list[tuple[float, float]]


def _free(low: float, high: float, thickness: float, keep_outs: Sequence[KeepOut]) -> Spans:
    """Where the middle of a key may lie."""
    spans: Spans = [(low + thickness / 2, high - thickness / 2)]
    for out in keep_outs:
        a, b = out.low_mm - thickness / 2, out.high_mm + thickness / 2
        spans = [
            part
            for x, y in spans
            for part in ((x, min(y, a)), (max(x, b), y))
            if part[1] - part[0] >= -DEFAULT.length_mm
        ]
    return sorted({(x, max(x, y)) for x, y in spans})


def spread(
    height: float, count: int, thickness: float, keep_outs: Sequence[KeepOut], lid_mm: float | None = None
) -> tuple[float, ...]:
    """Heights for `count` keys: mirrored pairs first (one fence setting cuts both), then evenness.

    With a lid, one pair is centred in the lid as near as its mirror image allows. An odd key goes
    to the middle, or where it is evenest. Fewer come back where there is no room for all.
    Source: common practice.
    """
    free = _free(0.0, height, thickness, keep_outs)
    mirrored: Spans = [
        (max(a, height - d), min(b, height - c))
        for a, b in free
        for c, d in free
        if max(a, height - d) <= min(b, height - c) + DEFAULT.length_mm
    ]
    middle = height / 2
    lower = [(a, min(b, middle - thickness)) for a, b in mirrored if a <= middle - thickness]
    pairs, odd = divmod(count, 2)
    chosen: list[float] = []
    if lid_mm is not None and pairs and lower:
        wanted = min(lid_mm, height - lid_mm) / 2  # one of the pair in the lid and one in the body
        first = min((_nearest(wanted, s) for s in lower), key=lambda h: abs(h - wanted))
        chosen = [first]
        lower = _away(lower, first, _apart(thickness))
    chosen += _evenest(lower, pairs - len(chosen), middle, bool(odd), thickness)
    heights = sorted([h for c in chosen for h in (c, height - c)])
    for _ in range(count - len(heights)):
        best = middle
        if not _is_free(middle, free, heights, thickness):
            widest = _widest(free, heights, height, thickness)
            if widest is None:
                break
            best = widest
        heights = sorted([*heights, best])
    return tuple(heights)


_LEAST_BETWEEN_MM: Final = 3.0  # wood between two keys (our rule)


def _apart(thickness: float) -> float:
    """Least distance between the middles of two keys: wood as thick as a key between them, and never under 3 mm."""
    return thickness + max(thickness, _LEAST_BETWEEN_MM)


def _nearest(wanted: float, span: tuple[float, float]) -> float:
    return min(max(wanted, span[0]), span[1])


def _away(spans: Spans, height: float, gap: float) -> Spans:
    """The spans with what lies within `gap` of `height` taken out."""
    return [
        part
        for a, b in spans
        for part in ((a, min(b, height - gap)), (max(a, height + gap), b))
        if part[0] <= part[1]
    ]


def _is_free(height: float, free: Spans, taken: Sequence[float], thickness: float) -> bool:
    return any(a <= height <= b for a, b in free) and all(abs(height - t) >= _apart(thickness) for t in taken)


def _evenest(spans: Spans, count: int, middle: float, odd: bool, thickness: float) -> list[float]:
    """`count` heights below the middle, the least distance between any two as large as can be.

    Mirror images (and an odd key in the middle) count as neighbours. Bisection on the distance;
    for a given distance, placing each key as low as it may go is best.
    """

    def placed(gap: float) -> list[float]:
        heights: list[float] = []
        least, most = -math.inf, middle - gap * (1.0 if odd else 0.5)
        for a, b in sorted(spans):
            while len(heights) < count and max(a, least) <= min(b, most):
                heights.append(max(a, least))
                least = heights[-1] + gap
        return heights

    low, high = _apart(thickness), middle
    count = min(count, len(placed(low)))
    if count == 0:
        return []
    for _ in range(40):
        gap = (low + high) / 2
        if len(placed(gap)) >= count:
            low = gap
        else:
            high = gap
    return placed(low)[:count]


def _widest(free: Spans, taken: Sequence[float], top: float, thickness: float) -> float | None:
    """The free height farthest from every key and edge, or None where none is far enough."""
    marks = sorted([0.0, *taken, top])
    best: tuple[float, float] | None = None
    for span in free:
        for low, high in itertools.pairwise(marks):
            candidate = _nearest((low + high) / 2, span)
            if any(abs(candidate - t) < _apart(thickness) for t in taken):
                continue
            score = min(candidate - low, high - candidate)
            if best is None or score > best[0]:
                best = (score, candidate)
    return best[1] if best else None


def _settings(
    job: Job,
    keys: Keys,
    ring: RingPlan,
    section: SectionPlan,
    heights: tuple[float, ...],
    corners: Sequence[CornerPlan],
) -> tuple[KeySetting, ...]:
    """Settings for corners alike in angle, depth and lean; at upright corners mirrored heights share one.

    A leaning corner's edge is not square to the box's ends: turned over, the other end meets the fence.
    """
    alike: dict[tuple[float, ...], list[CornerPlan]] = {}
    for corner in corners:
        lean = edge_lean_deg(ring.slabs[corner.index], ring.slabs[(corner.index + 1) % len(ring.slabs)])
        depth = slot_depth(keys, corner.dihedral_deg)
        alike.setdefault((round(lean, 4), round(corner.dihedral_deg, 4), round(depth, 4)), []).append(corner)
    found = []
    for (lean, _dihedral, _depth), members in alike.items():
        upright = abs(lean) <= SAME_SETTING
        wide: Edge = "top" if lean > 0 and not upright else "bottom"
        for edge, served in _served(job, section, heights, wide, mirrored=upright):
            level = job.design.form.height_mm - served[0] if edge == "top" else served[0]
            found.append(
                KeySetting(
                    fence_mm=level / math.cos(math.radians(lean)) - keys.thickness_mm / 2,
                    heights_mm=served,
                    passes_mm=passes(keys.thickness_mm, cutter(job, "slot").takes(keys.thickness_mm)),
                    slots=len(served) * len(members),
                    depth_mm=slot_depth(keys, members[0].dihedral_deg),
                    cradle_deg=members[0].dihedral_deg,
                    edge=edge,
                    corners=tuple(corner.index for corner in members),
                )
            )
    return tuple(found)


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


def _most_that_fit(design: Design, keys: Keys, keep_outs: Sequence[KeepOut], section: SectionPlan) -> int:
    """The greatest number under the one asked for that finds its places; fewer are spread otherwise."""
    lid = section.lid.lid_mm if section.lid else None
    return next(
        (
            number
            for number in range(keys.count - 1, 0, -1)
            if len(spread(design.form.height_mm, number, keys.thickness_mm, keep_outs, lid)) == number
        ),
        0,
    )


_NO_KEYS: Final = Fix("no_keys", (("joints.keys", False),))


def _no_room(keys: Keys, placed: int, most: int) -> Finding:
    fixes = [_NO_KEYS]
    if most:
        fixes.insert(0, Fix("key_count", (("joints.keys.count", most),), {"count": float(most)}))
    numbers = {"asked": float(keys.count), "placed": float(placed)}
    return Finding("keys_no_room", "stop", Place("keys"), numbers, tuple(fixes))


def _shorter(keys: Keys, depth_mm: float, leg_mm: float) -> Fix:
    """Slots made shallower, by the size they are given by."""
    if keys.leg_mm is None:
        return Fix("key_depth", (("joints.keys.depth_mm", depth_mm),), {"depth_mm": depth_mm})
    return Fix("key_leg", (("joints.keys.leg_mm", leg_mm),), {"leg_mm": leg_mm})


def _depth_findings(design: Design, keys: Keys, ring: RingPlan, made: Sequence[KeyPlan]) -> list[Finding]:
    fmt = reader(design)
    tight = min(made, key=lambda k: k.breakthrough_mm - k.depth_mm, default=None)
    if tight is None:
        return []
    left = tight.breakthrough_mm - tight.depth_mm
    if left >= keys.wall_margin_mm - DEFAULT.length_mm:
        return []
    limit = fmt.down(tight.breakthrough_mm - keys.wall_margin_mm)
    fixes: tuple[Fix, ...] = ()
    if limit > 0:
        half = math.radians(ring.corners[tight.corner].dihedral_deg / 2)
        fixes = (_shorter(keys, limit, fmt.down(limit / math.cos(half))),)
    place = Place("corner", tight.corner, design.side_count)
    numbers = {
        "depth_mm": tight.depth_mm, "breakthrough_mm": tight.breakthrough_mm, "limit_mm": limit,
        "most_mm": max(0.0, limit), "left_mm": left, "keep_mm": keys.wall_margin_mm,
    }  # fmt: skip
    if left <= DEFAULT.length_mm:
        return [Finding("key_breakthrough", "stop", place, numbers, fixes)]
    return [Finding("key_wall_thin", "caution", place, numbers, fixes)]


# What a key must keep clear of: the code and how grave it is.
_HIT: Final[dict[str, tuple[str, Severity]]] = {
    "lid line": ("key_meets_lid_line", "stop"),
    "groove": ("key_meets_groove", "stop"),
    "bottom edge": ("key_near_edge", "caution"),
    "top edge": ("key_near_edge", "caution"),
}


def _side_findings(design: Design, keys: Keys, ring: RingPlan, made: Sequence[KeyPlan]) -> list[Finding]:
    """Slots so long down a face that those of its two corners meet."""
    legs = {key.corner: key.leg_mm for key in made}
    worst: tuple[float, int, float, float] | None = None
    for side in ring.sides:
        long = min(side.outside_mm, side.outside_top_mm)
        taken = legs.get(side.index, 0.0) + legs.get((side.index - 1) % len(ring.sides), 0.0)
        if taken > long - DEFAULT.length_mm and (worst is None or taken / long > worst[0]):
            worst = (taken / long, side.index, long, taken)
    if worst is None:
        return []
    ratio, index, long, taken = worst
    fmt = reader(design)
    factor = 0.7 / ratio  # leaves nearly a third of the side whole
    fixes = (
        _shorter(keys, fmt.down(keys.depth_mm * factor), fmt.down((keys.leg_mm or 0.0) * factor)), _NO_KEYS,
    )  # fmt: skip
    numbers = {"taken_mm": taken, "side_mm": long}
    place, names = Place("side", index, design.side_count), {"side": side_name(index)}
    return [Finding("key_slots_meet", "stop", place, numbers, fixes, names)]


def _place_findings(
    design: Design, keys: Keys, heights: Sequence[float], keep_outs: Sequence[KeepOut]
) -> list[Finding]:
    half, whole = keys.thickness_mm / 2, design.form.height_mm
    found: list[Finding] = []
    respread = Fix("respread", (("joints.keys.count", len(heights)), ("joints.keys.positions_mm", ())))
    place = Place("keys")
    for height in heights:
        if height + half > whole or height - half < 0:
            numbers = {"height_mm": height, "box_mm": whole}
            found.append(Finding("key_outside_box", "stop", place, numbers, (respread,)))
            continue
        for out in keep_outs:
            overlap = min(height + half, out.high_mm) - max(height - half, out.low_mm)
            if overlap > 1e-6:
                code, severity = _HIT[out.why]
                names = {"edge": out.why.removesuffix(" edge")}
                numbers = {"height_mm": height, "overlap_mm": overlap}
                found.append(Finding(code, severity, place, numbers, (respread,), names))
    for low, high in itertools.pairwise(heights):
        if high - low < keys.thickness_mm - DEFAULT.length_mm:
            numbers = {"low_mm": low, "high_mm": high}
            found.append(Finding("keys_overlap", "stop", place, numbers, (respread,)))
    return found
