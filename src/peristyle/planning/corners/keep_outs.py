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
        own = cuts.get(f"side.{side.name}", ())
        place = stands(ring.slabs[index], side, 0.0) if own else None
        for feature in own:
            if place is None or feature.kind in _LATER or not _meets(slot, place, side, feature):
                continue
            y0, y1 = up_face(feature, side.thickness_mm)
            rise = math.cos(math.radians(side.slope_deg))
            of = feature.id.rsplit(".", 1)[1] if runs_along(feature) else ""
            low, high = y0 * rise - margin, y1 * rise + margin
            # The same groove in both sides is one thing to keep clear of.
            one = found.get((feature.kind, of, 0.0, 0.0)) if of else None
            if one is not None:
                low, high = min(low, one.low_mm), max(high, one.high_mm)
            key = (feature.kind, of, 0.0, 0.0) if of else (feature.kind, of, round(low, 6), round(high, 6))
            found[key] = KeepOut(low, high, feature.kind, corner, of)
    yield from found.values()


def _meets(slot: Slot, place: Place, side: SidePlan, feature: Feature) -> bool:
    """Whether a slot would open into a feature, whatever height it lay at."""
    if feature.face == "inside" and not feature.ends:
        # Under a face it goes deepest in the miter: what lies deeper still it never meets, and what runs right
        # along the side it meets where it does not.
        clear = slot.deepest_mm * math.sin(slot.frame.half_rad) <= side.thickness_mm - feature.depth_mm
        if clear or runs_along(feature):
            return not clear
    corners = [place.of(point) for point in points_of(feature, side.thickness_mm)]
    vertex, (ux, uy, uz) = slot.frame.vertex, slot.frame.inward
    start = vertex[0] * ux + vertex[1] * uy + vertex[2] * uz
    if min(x * ux + y * uy + z * uz for x, y, z in corners) - start > slot.deepest_mm:
        return False  # all of it lies deeper than the slot's floor
    return shadows_meet(slot.frame, [point for sign in (-1.0, 1.0) for point in slot.cheek(sign)], corners)


def runs_along(feature: Feature) -> bool:
    """Whether a cut runs along a side from end to end."""
    return feature.kind in ("groove", "rabbet") or (feature.kind == "edge" and not feature.ends)


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


def up_face(feature: Feature, thickness_mm: float) -> tuple[float, float]:
    """From where to where up the face a feature reaches."""
    if runs_along(feature):  # its path runs level, from the start to the end
        ups = [feature.path[0][1] + across for across, _deep in feature.profile]
    else:
        ups = [y for _x, y, _z in points_of(feature, thickness_mm)]
    return min(ups), max(ups)
