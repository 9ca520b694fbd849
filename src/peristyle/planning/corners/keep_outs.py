"""Stretches of height where no key may be: edges, the lid's lost band, and whatever is cut into the sides there."""

import math
from collections.abc import Iterable, Iterator, Mapping, Sequence
from typing import Final

from msgspec import Struct

from peristyle.core.outlines import Outline as Points
from peristyle.core.outlines import area, clipped, hull
from peristyle.core.planes import Vector, dot
from peristyle.model.design import Keys
from peristyle.planning.corners.frame import Frame, Slot, along
from peristyle.planning.form.ring import RingPlan, SidePlan
from peristyle.planning.making.parts.walls import stands
from peristyle.planning.making.piece import Feature, Place
from peristyle.planning.section.levels import SectionPlan

Cuts = Mapping[str, Sequence[Feature]]  # what is cut into each piece, by its id

_TOUCH_MM2: Final = 1e-4  # less is shared by what only touches
_LATER: Final = ("slot", "lid_kerf")  # what keys bring themselves, and what has its own band


class KeepOut(Struct, frozen=True):
    """A stretch of height where no key may be at the corner of that number, and why: the kind of what is there.

    `of` says more: which panel's groove it is.
    """

    low_mm: float
    high_mm: float
    why: str
    corner: int
    of: str = ""


def keep_outs(keys: Keys, ring: RingPlan, section: SectionPlan, slot: Slot, cuts: Cuts) -> Iterator[KeepOut]:
    """All that a slot like this must keep clear of at its corner, each with its margin."""
    corner, height = slot.frame.index, section.glued_mm
    yield KeepOut(0.0, keys.edge_margin_mm, "bottom edge", corner)
    yield KeepOut(height - keys.edge_margin_mm, height, "top edge", corner)
    margin = keys.lid_margin_mm
    if section.lid:
        yield KeepOut(section.lid.lost_low_mm - margin, section.lid.lost_high_mm + margin, "lid line", corner)
    found: dict[tuple[str, str, float, float], KeepOut] = {}
    for index in (corner, (corner + 1) % len(ring.sides)):
        side = ring.sides[index]
        place = stands(ring.slabs[index], side, 0.0)
        for feature in cuts.get(f"side.{side.name}", ()):
            if feature.kind in _LATER or not _meets(slot, place, side, feature):
                continue
            _x0, y0, _z0, _x1, y1, _z1 = box_of(feature, side.thickness_mm)
            rise = math.cos(math.radians(side.slope_deg))
            of = feature.id.rsplit(".", 1)[1] if feature.kind in ("groove", "rabbet") else ""
            low, high = y0 * rise - margin, y1 * rise + margin
            # The same groove in both sides is one thing to keep clear of.
            one = found.get((feature.kind, of, 0.0, 0.0)) if of else None
            if one is not None:
                low, high = min(low, one.low_mm), max(high, one.high_mm)
            key = (feature.kind, of, 0.0, 0.0) if of else (feature.kind, of, round(low, 6), round(high, 6))
            found[key] = KeepOut(low, high, feature.kind, corner, of)
    yield from found.values()


def looks_of(ring: RingPlan, corner: int, cuts: Cuts) -> tuple[object, ...]:
    """What is the same for corners with the same cuts about them: each cut as it lies beside the corner."""
    found: list[object] = []
    for index, at_end in ((corner, True), ((corner + 1) % len(ring.sides), False)):
        side = ring.sides[index]
        foot = side.outer_face[1][0] if at_end else 0.0
        for feature in cuts.get(f"side.{side.name}", ()):
            if feature.kind in _LATER:
                continue
            if feature.kind in ("groove", "rabbet"):  # these run past both ends: how long they are is nothing
                found.append((feature.kind, feature.id.rsplit(".", 1)[1], feature.profile))
                continue
            points = [v for x, y, z in points_of(feature, side.thickness_mm) for v in (x - foot, y, z)]
            found.append((feature.kind, *(round(v, 3) + 0.0 for v in points)))
    return tuple(found)


def _meets(slot: Slot, place: Place, side: SidePlan, feature: Feature) -> bool:
    """Whether a slot would open into a feature, whatever height it lay at: both seen along the arris."""
    frame = slot.frame
    corners = [place.of(point) for point in points_of(feature, side.thickness_mm)]
    deepest = slot.depth_mm + slot.thickness_mm * abs(math.tan(slot.tip_rad))
    if min(dot(along(p, (-1.0, frame.vertex)), frame.inward) for p in corners) > deepest:
        return False  # all of it lies deeper than the slot's floor

    return shadows_meet(frame, [point for sign in (-1.0, 1.0) for point in slot.cheek(sign)], corners)


def shadows_meet(frame: Frame, one: Iterable[Vector], other: Iterable[Vector]) -> bool:
    """Whether two convex bodies, told by their corners in the box, overlap as they are seen along the arris."""

    def seen(points: Iterable[Vector]) -> Points:
        aways = [along(p, (-1.0, frame.vertex)) for p in points]
        return hull([(dot(away, frame.across), dot(away, frame.inward)) for away in aways])

    first, second = seen(one), seen(other)
    if len(first) < 3 or len(second) < 3:
        return False
    shared = clipped(first, second)
    return len(shared) > 2 and abs(area(shared)) > _TOUCH_MM2


def points_of(feature: Feature, thickness_mm: float) -> list[Vector]:
    """The corners of what a feature takes, in its piece's own frame."""
    if feature.outline:
        show = feature.face == "show"
        far = feature.in_mm if show else thickness_mm - feature.in_mm
        return [(x, y, z) for x, y in feature.flat for z in (0.0 if show else thickness_mm, far)]
    return [point for end in feature.solid_points(thickness_mm) for point in end]


def box_of(feature: Feature, thickness_mm: float) -> tuple[float, float, float, float, float, float]:
    """The least and the greatest x, y and z of what a feature takes, in its piece's own frame."""
    xs, ys, zs = zip(*points_of(feature, thickness_mm), strict=True)
    return min(xs), min(ys), min(zs), max(xs), max(ys), max(zs)
