"""What follows from what was measured: the ring as it will close, and what is still to be cut to it."""

import math
from collections.abc import Mapping, Sequence

import numpy as np

from peristyle.core.outlines import centroid
from peristyle.core.planes import Slab, meet
from peristyle.model.design import Alternating, Design, Outline, Rectangle, Regular, replace, side_name
from peristyle.model.job import Job, Measured, revised
from peristyle.planning.findings import Finding, Fix, Place
from peristyle.planning.form.ring import RingPlan, ring_from_slabs
from peristyle.planning.form.roof import EAVES, Roof, roof_of

_CLOSES_MM = 0.25  # what a ring's lengths may miss and still close with gaps nobody sees (our rule)
_LEAST_EAVES_MM = 0.01  # a leaf that ends short of its wall is drawn as if it just reached it
_LENGTHS = ("crosscut", "bevel", "strip_bevel")  # operations that a side has its length by
_OF_THE_RING = ("length_mm", "thickness_mm")


def measured_of(job: Job) -> dict[str, Measured]:
    """What was measured, by name."""
    return {one.name: one for one in job.measured}


def _of_sides(values: Mapping[str, Measured], design: Design, what: str) -> dict[int, float]:
    """What was measured of every side that has it, by its number."""
    found = {}
    for side in range(design.side_count):
        one = values.get(f"side.{side_name(side)}.{what}")
        if one is not None:
            found[side] = one.value
    return found


def done_with(job: Job, side: str, operations: tuple[str, ...]) -> bool:
    """Whether a side's length is cut: a step of these operations that names it is done."""
    ids = [one.step.split(".") for one in job.progress if one.count]
    return any(len(parts) > 1 and parts[1] in operations and side in parts[-1].split("_") for parts in ids)


def built_ring(job: Job, ring: RingPlan) -> RingPlan:
    """The ring as it follows from what was measured of its sides: those cut stay, the others close it.

    Source: the least change of the lengths that are free, under the closing of the polygon.
    """
    values = measured_of(job)
    lengths, thick = (_of_sides(values, job.design, what) for what in _OF_THE_RING)
    if not ring.stands or not (lengths or thick):
        return ring
    planned = np.array([side.outside_mm for side in ring.sides])
    cut = [side for side in ring.sides if done_with(job, side.name, _LENGTHS)]
    fixed = {side.index: side.outside_mm for side in cut} | lengths
    walls = [thick.get(side.index, side.thickness_mm) for side in ring.sides]
    like = revised(job, thicknesses_mm=tuple(walls) if len(set(walls)) > 1 else (walls[0],))
    roof = roof_of(job.design)
    if roof is not None:
        slabs = _under_roof(ring, fixed, walls)
        made = ring_from_slabs(like, slabs, _as_long(slabs, fixed, roof))
        return made if made.stands else ring
    wanted = _closing(ring, planned, fixed)
    if wanted is None:
        return _missing(job, ring, planned, fixed)
    made = ring_from_slabs(like, _slabs(ring, wanted, walls))
    return made if made.stands else ring


def _under_roof(ring: RingPlan, fixed: Mapping[int, float], walls: list[float]) -> tuple[Slab, ...]:
    """A house whose roof is laid on its walls: floor and walls as long as they are, the leaves on the walls' tops.

    Nothing need close: the roof shifts to where both walls meet its underside. Source: plane geometry.
    """
    slabs = [slab._replace(thickness_mm=thick) for slab, thick in zip(ring.slabs, walls, strict=True)]
    floor = slabs[0]
    ends = {1: 1.0, 4: -1.0}  # the walls, and to which side of the floor's middle each stands
    longer = fixed.get(0, ring.sides[0].outside_mm) - ring.sides[0].outside_mm
    for wall, leaf in EAVES.values():
        x, y = meet(floor, floor.outer_mm(0.0), slabs[wall], slabs[wall].outer_mm(0.0))
        x, y = (foot + ends[wall] * longer / 2 * way for foot, way in zip((x, y), floor.along, strict=False))
        slabs[wall] = slabs[wall]._replace(offset_mm=slabs[wall].ux * x + slabs[wall].uy * y)
        long = fixed.get(wall, ring.sides[wall].outside_mm)
        top = [foot + ends[wall] * long * way for foot, way in zip((x, y), slabs[wall].along, strict=False)]
        over = slabs[leaf]
        higher = over.ux * top[0] + over.uy * top[1] - over.inner_mm(0.0)
        slabs[leaf] = over._replace(offset_mm=over.offset_mm + higher)
    return tuple(slabs)


def _as_long(slabs: Sequence[Slab], fixed: Mapping[int, float], roof: Roof) -> Roof:
    """The roof with leaves that are cut or measured as long as they are: they run out further over the eaves, or
    less far.
    """
    first, second = slabs[2], slabs[3]
    ridge = meet(first, first.outer_mm(0.0), second, second.outer_mm(0.0))
    out = list(roof.overhangs_mm)
    for number, (wall, leaf) in enumerate(EAVES.values()):
        if leaf in fixed:
            below, way = slabs[wall], fixed[leaf] * (-1.0 if leaf == 2 else 1.0)
            x, y = (r + way * u for r, u in zip(ridge, slabs[leaf].along, strict=False))
            out[number] = max(_LEAST_EAVES_MM, below.ux * x + below.uy * y - below.outer_mm(0.0))
    return Roof((out[0], out[1]), roof.plumb)


def _closing(ring: RingPlan, planned: np.ndarray, fixed: Mapping[int, float]) -> np.ndarray | None:
    """Lengths that close the ring with its planned corners: those fixed as they are, to within what nobody sees."""
    n = len(planned)
    ways = np.array([slab.along[:2] for slab in ring.slabs]).T
    held = np.array([fixed.get(i, planned[i]) for i in range(n)])
    miss = ways @ held
    free = [i for i in range(n) if i not in fixed]
    if free:
        least, *_rest = np.linalg.lstsq(ways[:, free], -miss, rcond=None)
        held[free] += least
        miss = ways @ held
    if float(np.hypot(*miss)) > _CLOSES_MM:
        return None
    # What is left is less than anybody sees: shared by all.
    least, *_rest = np.linalg.lstsq(ways, -miss, rcond=None)
    found = held + least
    return found if float(found.min()) > 0 else None


def _slabs(ring: RingPlan, lengths: np.ndarray, walls: list[float]) -> tuple[Slab, ...]:
    """The sides as slabs, walked along their planned ways, about the middle of their outline."""
    x = y = 0.0
    points = []
    for slab, length in zip(ring.slabs, lengths, strict=True):
        x, y = x + slab.along[0] * float(length), y + slab.along[1] * float(length)
        points.append((x, y))
    cx, cy = centroid(tuple(points))
    return tuple(
        slab._replace(offset_mm=slab.ux * (px - cx) + slab.uy * (py - cy), thickness_mm=wall)
        for slab, (px, py), wall in zip(ring.slabs, points, walls, strict=True)
    )


def _missing(job: Job, ring: RingPlan, planned: np.ndarray, fixed: Mapping[int, float]) -> RingPlan:
    """The ring as it was planned, and the finding that the sides as they are do not close it."""
    worst = max(fixed, key=lambda side: abs(fixed[side] - planned[side]))
    off = fixed[worst] - float(planned[worst])
    ways = np.array([slab.along[:2] for slab in ring.slabs]).T
    held = np.array([fixed.get(i, planned[i]) for i in range(len(planned))])
    numbers = {"miss_mm": float(np.hypot(*(ways @ held))), "off_mm": abs(off), "is_mm": fixed[worst]}
    kind = "short" if off < 0 else "long"
    side, fixes = ring.sides[worst], _to_measured(job.design, ring, worst, fixed[worst]) if off < 0 else ()
    numbers["to_mm"] = side.outside_mm
    place = Place("side", side.index, len(planned))
    found = Finding("ring_misses", "stop", place, numbers, fixes, {"side": side.name}, kind)
    made: RingPlan = replace(ring, findings=(*ring.findings, found))
    return made


def _to_measured(design: Design, ring: RingPlan, side: int, is_mm: float) -> tuple[Fix, ...]:
    """The box made so much smaller that a side that came out short is right: its partner, or all sides, follow."""
    shape, inside = design.form.shape, 0.0
    if shape.measure == "inside":
        slabs = ring.slabs
        inside = ring.sides[side].outside_mm - (ring.sides[side].inside_mm or 0.0) if slabs else 0.0
    match shape:
        case Rectangle():
            name = "length_mm" if side % 2 == 0 else "width_mm"
            value = is_mm - inside
        case Alternating():
            name, value = ("first_mm" if side % 2 == 0 else "second_mm"), is_mm - inside
        case Regular(size_mm=size, measure="across_flats" | "across_corners"):
            name, value = "size_mm", size * is_mm / ring.sides[side].outside_mm
        case Regular(size_mm=size):
            name, value = "size_mm", size - (ring.sides[side].outside_mm - is_mm)
        case Outline():
            return (
                Fix(
                    "side_measured",
                    ((f"sides.{side_name(side)}.length_mm", is_mm - inside),),
                    {"is_mm": is_mm},
                ),
            )
        case _:
            return ()
    changes = [(f"form.{name}", value)]
    top = getattr(shape, "top_mm" if name == "size_mm" else f"top_{name}", None)
    if top is not None:  # what tapers keeps its lean
        changes.append(
            ("form.top_mm" if name == "size_mm" else f"form.top_{name}", top + value - getattr(shape, name))
        )
    if min(mm for _name, mm in changes) <= 0:
        return ()
    return (Fix("to_measured", tuple(changes), {"is_mm": is_mm}),)


def followed(job: Job) -> Job:
    """The design with what is still to be made following what was measured: keys their slots, panels their grooves."""
    values = measured_of(job)
    slots = [one.value for name, one in values.items() if ".slot." in name]
    keys = job.design.joints.keys
    if slots and keys is not None and not _done(job, "key_stock"):
        # One rip serves all slots: the widest is filled, the others are eased to it.
        job = revised(job, keys=replace(keys, thickness_mm=max(slots)))
    for part in ("bottom", "top"):
        panel = getattr(job.design.section, part)
        widths = [one.value for name, one in values.items() if name.endswith(f".groove.{part}.width_mm")]
        if panel is not None and panel.seat == "groove" and widths and not _done(job, f"panel.{part}"):
            thick = min(widths) - panel.fit_mm
            if thick > 0 and math.isfinite(thick):
                job = revised(job, **{part: replace(panel, thickness_mm=thick)})
    return job


def _done(job: Job, word: str) -> bool:
    return any(one.count and word in one.step for one in job.progress)
