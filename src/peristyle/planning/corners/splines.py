"""Loose splines inside the miters: how deep their grooves may be, where they lie, and what is wrong about them."""

import math
from collections.abc import Iterator, Sequence
from typing import Final

from msgspec import Struct

from peristyle.core.outlines import Outline as Points
from peristyle.core.outlines import hull
from peristyle.core.planes import Vector, dot
from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import Splines, replace
from peristyle.model.job import Job
from peristyle.model.tools import Bit, can
from peristyle.planning.corners.frame import Frame, along
from peristyle.planning.corners.keep_outs import Cuts, shadow_of, shadows_meet
from peristyle.planning.cutters import cutter
from peristyle.planning.findings import Finding, Fix, Place, reader
from peristyle.planning.form.ring import RingPlan
from peristyle.planning.making.parts.walls import stands
from peristyle.planning.making.piece import Feature
from peristyle.planning.making.piece import Place as Place3
from peristyle.planning.making.taken import points_of, runs_along, section_of, up_face
from peristyle.planning.section.groove_findings import blade_findings

_NONE: Final = Fix("no_splines", (("joints.splines", False),))
_THROUGH: Final = Fix(
    "spline_through", (("joints.splines.stop_bottom_mm", 0.0), ("joints.splines.stop_top_mm", 0.0))
)
GLUE_ROOM_MM: Final = (
    0.5  # what a spline is narrower than its two grooves are deep: room for glue (common practice)
)


class SplinePlan(Struct, frozen=True):
    """One spline at one corner, its groove's middle `place_mm` from the inside arris along the joint.

    Its grooves go `depth_mm` into each piece, square to the miter face; `most_mm` is how deep they could go in the
    first and in the second. It lies from `low_mm` to `high_mm` along the inside arris from its lower end, the whole
    corner where it runs through. `length_mm`, `width_mm` and `thickness_mm` are the spline's own, its length over all:
    an end that runs through is level with the box's edge, and so slants where the corner leans.
    """

    corner: int
    number: int
    place_mm: float
    depth_mm: float
    thickness_mm: float
    width_mm: float
    length_mm: float
    low_mm: float
    high_mm: float
    stopped_low: bool
    stopped_high: bool
    most_mm: tuple[float, float]

    @property
    def added_mm2(self) -> float:
        """The glue it adds: two cheeks in each of two pieces, as deep as its grooves."""
        return 4 * self.depth_mm * self.length_mm


class SplinesPlan(Struct, frozen=True):
    """All splines, corner by corner."""

    splines: tuple[SplinePlan, ...] = ()
    findings: tuple[Finding, ...] = ()

    def at(self, corner: int) -> tuple[SplinePlan, ...]:
        """Those of one corner."""
        return tuple(one for one in self.splines if one.corner == corner)


def deepest_mm(wall_mm: float, place_mm: float, wide_mm: float, bevel_deg: float, margin_mm: float) -> float:
    """How deep a groove square to the miter face may go in a wall.

    Where the show face is the longer the groove runs toward it: (t − margin − (q + w/2)·cos b)/sin b, the groove's
    outer corner meeting the margin. Where the inside is the longer it runs toward that: ((q − w/2)·cos b − margin)/
    sin|b|. Infinite for a square end. Source: plane geometry.
    """
    bevel = math.radians(bevel_deg)
    if abs(bevel) < 1e-9:
        return math.inf
    if bevel > 0:
        return (wall_mm - margin_mm - (place_mm + wide_mm / 2) * math.cos(bevel)) / math.sin(bevel)
    return ((place_mm - wide_mm / 2) * math.cos(bevel) - margin_mm) / -math.sin(bevel)


def plan_splines(job: Job, ring: RingPlan, corners: Sequence[Frame], cuts: Cuts) -> SplinesPlan:
    """Splines for the corners that are to have them. `cuts` is what else is cut into the sides."""
    splines = job.design.joints.splines
    if splines is None or not ring.corners or not ring.stands:
        return SplinesPlan()
    frames = [
        frame
        for frame in corners
        if not frame.lapped and (not splines.corners or frame.index in splines.corners)
    ]
    made = tuple(
        _spline(job, splines, ring, frame, number) for frame in frames for number in range(splines.count)
    )
    return SplinesPlan(made, tuple(_findings(job, splines, ring, frames, made, cuts)))


def bevels_at(ring: RingPlan, corner: int) -> tuple[float, float]:
    """The bevels of the two ends that meet at a corner."""
    return ring.sides[corner].end.bevel_deg, ring.sides[(corner + 1) % len(ring.sides)].start.bevel_deg


def _spline(job: Job, splines: Splines, ring: RingPlan, frame: Frame, number: int) -> SplinePlan:
    """One spline, so long that it reaches the box's edges all over where it runs through."""
    whole = job.design.form.height_mm / frame.edge[2]
    place = splines.place_mm + number * splines.apart_mm
    low, high = splines.stop_bottom_mm, whole - splines.stop_top_mm
    first, second = (
        deepest_mm(wall, place, splines.thickness_mm, bevel, splines.wall_margin_mm)
        for wall, bevel in zip(frame.walls_mm, bevels_at(ring, frame.index), strict=True)
    )
    made = SplinePlan(
        corner=frame.index,
        number=number + 1,
        place_mm=place,
        depth_mm=splines.depth_mm,
        thickness_mm=splines.thickness_mm,
        width_mm=max(0.0, 2 * splines.depth_mm - GLUE_ROOM_MM),
        length_mm=high - low,
        low_mm=low,
        high_mm=high,
        stopped_low=splines.stop_bottom_mm > DEFAULT.length_mm,
        stopped_high=splines.stop_top_mm > DEFAULT.length_mm,
        most_mm=(first, second),
    )
    begins, ends = (
        [dot(point, frame.edge) for point in end] for end in body_of(frame, made, job.design.form.height_mm)
    )
    return replace(made, length_mm=max(0.0, max(ends) - min(begins)))


def groove_of(
    frame: Frame, spline: SplinePlan, box_mm: float, *, second: bool
) -> tuple[tuple[Vector, ...], ...]:
    """The groove in one piece as what lies between two outlines, in the box: at its lower and its upper end.

    Where it runs through it ends level with the box's edge.
    """
    return _prism(frame, spline, box_mm, (0.0, spline.depth_mm if second else -spline.depth_mm))


def body_of(frame: Frame, spline: SplinePlan, box_mm: float) -> tuple[tuple[Vector, ...], ...]:
    """The spline itself, as its grooves are told."""
    half = spline.width_mm / 2
    return _prism(frame, spline, box_mm, (-half, half))


def _prism(
    frame: Frame, spline: SplinePlan, box_mm: float, beside: tuple[float, float]
) -> tuple[tuple[Vector, ...], ...]:
    half = spline.thickness_mm / 2
    near, far = spline.place_mm - half, spline.place_mm + half
    ends = []
    for along_mm, stopped, level in (
        (spline.low_mm, spline.stopped_low, 0.0), (spline.high_mm, spline.stopped_high, box_mm),
    ):  # fmt: skip
        corners = []
        for across, out in ((beside[0], near), (beside[1], near), (beside[1], far), (beside[0], far)):
            point = along(frame.inner, (out, frame.joint), (across, frame.beside))
            run = along_mm if stopped else (level - point[2]) / frame.edge[2]
            corners.append(along(point, (run, frame.edge)))
        ends.append(tuple(corners))
    return tuple(ends)


def _findings(
    job: Job,
    splines: Splines,
    ring: RingPlan,
    frames: Sequence[Frame],
    made: Sequence[SplinePlan],
    cuts: Cuts,
) -> Iterator[Finding]:
    """What keeps splines from being made, gravest things first."""
    fmt, margin = reader(job.design), splines.wall_margin_mm
    yield from blade_findings(job, Place("keys"), "spline", "groove_for_spline", splines.thickness_mm)
    if splines.count == 2 and splines.apart_mm < splines.thickness_mm + margin - DEFAULT.length_mm:
        apart = fmt.up(splines.thickness_mm + margin)
        fix = Fix("spline_apart", (("joints.splines.apart_mm", apart),), {"apart_mm": apart})
        numbers = {"apart_mm": splines.apart_mm, "least_mm": apart}
        yield Finding("splines_close", "stop", Place("keys"), numbers, (fix,))
    tight = min(made, key=lambda one: min(one.most_mm), default=None)
    if tight is not None and min(tight.most_mm) < tight.depth_mm - DEFAULT.length_mm:
        yield _too_deep(job, splines, tight, ring)
    for frame in frames:
        bevel = max(bevels_at(ring, frame.index), key=abs)
        inside = (splines.place_mm - splines.thickness_mm / 2) * math.cos(math.radians(bevel))
        last = splines.place_mm + (splines.count - 1) * splines.apart_mm + splines.thickness_mm / 2
        place = Place("corner", frame.index, len(ring.sides))
        if inside < margin - DEFAULT.length_mm:
            nearest = fmt.up(margin / math.cos(math.radians(bevel)) + splines.thickness_mm / 2)
            fix = Fix("spline_place", (("joints.splines.place_mm", nearest),), {"place_mm": nearest})
            numbers = {"left_mm": max(0.0, inside), "keep_mm": margin}
            yield Finding(
                "spline_near_inside", "caution" if inside > 0 else "stop", place, numbers, (fix, _NONE)
            )
            break
        if last > frame.joint_mm - DEFAULT.length_mm:
            numbers = {"joint_mm": frame.joint_mm, "needs_mm": last}
            yield Finding("spline_past_joint", "stop", place, numbers, (_NONE,))
            break
    if any(one.length_mm < 5.0 for one in made):
        numbers = {"length_mm": min(one.length_mm for one in made)}
        yield Finding("spline_short", "stop", Place("keys"), numbers, (_THROUGH, _NONE))
    if (splines.stop_bottom_mm or splines.stop_top_mm) and cutter(job, "spline").tool != "router_table":
        yield Finding("spline_stop_saw", "stop", Place("keys"), {}, (*_router(job, splines), _THROUGH))
    yield from _met(job, splines, ring, frames, made, cuts)


def _router(job: Job, splines: Splines) -> tuple[Fix, ...]:
    """A bit of the shop that does it."""
    bits = [t for t in job.shop.tools if isinstance(t, Bit) and can(t, "spline")]
    fitting = [bit for bit in bits if bit.width_mm <= splines.thickness_mm + DEFAULT.length_mm]
    best = max(fitting, key=lambda bit: bit.width_mm, default=None)
    if best is not None:
        return (Fix("use_tool", (("shop.uses.spline", best.name),), {}, {"cutter": best.name}),)
    wider = min(bits, key=lambda bit: bit.width_mm, default=None)
    if wider is None:
        return ()
    changes = (("shop.uses.spline", wider.name), ("joints.splines.thickness_mm", wider.width_mm))
    return (Fix("spline_bit", changes, {"wide_mm": wider.width_mm}, {"cutter": wider.name}),)


def _too_deep(job: Job, splines: Splines, tight: SplinePlan, ring: RingPlan) -> Finding:
    """A groove deeper than its wall allows."""
    fmt = reader(job.design)
    most = fmt.down(max(0.0, min(tight.most_mm)))
    place = Place("corner", tight.corner, len(ring.sides))
    fixes: tuple[Fix, ...] = (_NONE,)
    if most >= 1.0:
        fixes = (Fix("spline_depth", (("joints.splines.depth_mm", most),), {"depth_mm": most}), _NONE)
    numbers = {"depth_mm": tight.depth_mm, "most_mm": most, "keep_mm": splines.wall_margin_mm}
    through = tight.depth_mm - min(tight.most_mm) > splines.wall_margin_mm * 0.5
    kind = "" if most > 0 else "none"
    return Finding("spline_too_deep", "stop" if through else "caution", place, numbers, fixes, {}, kind)


def _met(
    job: Job,
    splines: Splines,
    ring: RingPlan,
    frames: Sequence[Frame],
    made: Sequence[SplinePlan],
    cuts: Cuts,
) -> Iterator[Finding]:
    """What else is cut into the sides where a spline's groove runs: said once for each kind of thing."""
    said: set[str] = set()
    known: dict[tuple[object, ...], tuple[float, float, Points, Points]] = {}
    for frame in frames:
        for index, second in ((frame.index, False), ((frame.index + 1) % len(ring.sides), True)):
            side = ring.sides[index]
            place = stands(ring.slabs[index], side, 0.0)
            for feature in cuts.get(f"side.{side.name}", ()):
                if feature.kind in said or feature.kind == "lid_kerf":
                    continue
                y0, y1 = up_face(feature, side)
                for one in made:
                    if one.corner != frame.index:
                        continue
                    looks = (frame.looks, one.number, second)
                    if looks not in known:
                        groove = groove_of(frame, one, job.design.form.height_mm, second=second)
                        points = [point for end in groove for point in end]
                        known[looks] = (*_in_side(points, place), shadow_of(frame, points))
                    low, high, section, shadow = known[looks]
                    if max(y0 - high, low - y1) >= -DEFAULT.length_mm:
                        continue
                    if runs_along(feature):
                        meets = shadows_meet(section_of(feature, side), section)
                    else:
                        corners = [place.of(point) for point in points_of(feature, side)]
                        meets = shadows_meet(shadow, shadow_of(frame, corners))
                    if not meets:
                        continue
                    said.add(feature.kind)
                    yield _meeting(job, splines, ring, frame, feature, (y0, y1), side.slant_mm)
                    break


def _in_side(groove: Sequence[Vector], place: Place3) -> tuple[float, float, Points]:
    """From where to where up a side's face a groove lies, and its outline as it is seen from the side's end."""
    points = [place.back(point) for point in groove]
    ups = [y for _x, y, _z in points]
    return min(ups), max(ups), hull([(y, z) for _x, y, z in points])


def _meeting(
    job: Job,
    splines: Splines,
    ring: RingPlan,
    frame: Frame,
    met: Feature,
    spans: tuple[float, float],
    slant_mm: float,
) -> Finding:
    """What is met, and from where to where up the side it lies: stop short of it, or pass outside it."""
    fmt = reader(job.design)
    place = Place("corner", frame.index, len(ring.sides))
    low = spans[0] + spans[1] < slant_mm
    stretch = slant_mm / job.design.form.height_mm
    name = "stop_bottom_mm" if low else "stop_top_mm"
    stop = fmt.up((spans[1] if low else slant_mm - spans[0]) * max(1.0, stretch) + splines.wall_margin_mm)
    end = "bottom" if low else "top"
    fix = Fix("spline_stop", ((f"joints.splines.{name}", stop),), {"stop_mm": stop}, {"end": end})
    bevel = math.radians(max(bevels_at(ring, frame.index), key=abs))
    out = fmt.up((met.depth_mm + 0.3) / math.cos(bevel) + splines.thickness_mm / 2)
    room = min(deepest_mm(wall, out, splines.thickness_mm, math.degrees(bevel), splines.wall_margin_mm)
               for wall in frame.walls_mm)  # fmt: skip
    shallow = min(splines.depth_mm, fmt.down(max(0.0, room)))
    outward: tuple[Fix, ...] = ()
    if shallow >= 1.5:
        changes = (("joints.splines.place_mm", out), ("joints.splines.depth_mm", shallow))
        outward = (Fix("spline_out", changes, {"place_mm": out, "depth_mm": shallow}),)
    return Finding("spline_meets", "stop", place, {}, (fix, *outward, _NONE), {"what": met.kind})
