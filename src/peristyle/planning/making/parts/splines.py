"""Loose splines inside the miters: their grooves, square to the miter face, and the splines themselves."""

import math
from collections.abc import Iterator, Sequence

from peristyle.core.planes import Point
from peristyle.model.design import Splines
from peristyle.model.job import Job
from peristyle.planning.corners.frame import Frame
from peristyle.planning.corners.splines import GLUE_ROOM_MM, SplinePlan, bevels_at, body_of, groove_of
from peristyle.planning.cutters import cutter
from peristyle.planning.making.kind import Kind, Phase, Settled
from peristyle.planning.making.parts.walls import stands
from peristyle.planning.making.piece import Feature, Piece, Place, edges_between
from peristyle.planning.making.ripping import ids
from peristyle.planning.making.setting import (
    SAME_SETTING,
    from_inside_arris,
    height,
    stops_short,
    thickness,
    width,
)
from peristyle.planning.making.step import Part, Step, make
from peristyle.planning.section.grooves import passes


def _name(plan: Settled, spline: SplinePlan) -> str:
    own = f"spline.{plan.frames[spline.corner].id}"
    splines = plan.job.design.joints.splines
    return f"{own}.{spline.number}" if splines and splines.count > 1 else own


def _pieces(plan: Settled) -> Iterator[Piece]:
    if not plan.splines.splines:
        return
    frames = plan.frames
    for spline in plan.splines.splines:
        if spline.length_mm > 0 and spline.width_mm > 0:
            yield _piece(plan, frames[spline.corner], spline)


def _piece(plan: Settled, frame: Frame, spline: SplinePlan) -> Piece:
    """A spline in its grooves: x along the corner, y from the second piece into the first, z toward the outside."""
    low, high = body_of(frame, spline, plan.job.design.form.height_mm)
    away = (-frame.beside[0], -frame.beside[1], -frame.beside[2])
    place = Place(low[1], frame.edge, away, frame.joint)

    def flat(*corners: tuple[float, float, float]) -> tuple[Point, ...]:
        return tuple((x, y) for x, y, _z in (place.back(corner) for corner in corners))

    show, inside = flat(low[1], high[1], high[0], low[0]), flat(low[2], high[2], high[3], low[3])
    return Piece(
        id=_name(plan, spline),
        part="spline",
        name=f"Spline {frame.name}" + (f" {spline.number}" if spline.number > 1 else ""),
        alike="spline",
        says=("spline",),
        names={"corner": frame.name},
        stock="spline stock",
        thickness_mm=spline.thickness_mm,
        grain_deg=90.0,
        show_face=show,
        inside_face=inside,
        edges=edges_between(("first", "high", "second", "low"), show, inside, spline.thickness_mm),
        place=place,
    )


def _features(plan: Settled) -> Iterator[tuple[str, Feature]]:
    if not plan.splines.splines:
        return
    frames, count, box = plan.frames, len(plan.ring.sides), plan.job.design.form.height_mm
    for spline in plan.splines.splines:
        frame = frames[spline.corner]
        for second in (False, True):
            side = plan.ring.sides[(spline.corner + second) % count]
            place = stands(plan.ring.slabs[side.index], side, 0.0)
            ends = tuple(
                tuple(place.back(p) for p in end) for end in groove_of(frame, spline, box, second=second)
            )
            name = f"side.{side.name}.spline.{plan.frames[spline.corner].id}.{spline.number}"
            yield (
                f"side.{side.name}",
                Feature(name, "spline_groove", "inside", in_mm=spline.depth_mm, ends=ends),
            )


def _steps(plan: Settled) -> Iterator[tuple[Phase, Step]]:
    splines = plan.job.design.joints.splines
    made = plan.splines.splines
    if splines is None or not made:
        return
    for number in range(1, splines.count + 1):
        yield "bevels", _groove(plan, splines, [one for one in made if one.number == number])
    pieces = [_name(plan, one) for one in made]
    first = made[0]
    size = (first.thickness_mm, first.width_mm)
    yield "panels", stock_step(plan.job, pieces, lengths_mm=[one.length_mm for one in made], size_mm=size)
    yield "panels", make(
        "spline_fit", pieces, tool="by_hand",
        says=("spline_fit", *(("spline_fit.level",) if not (first.stopped_low and first.stopped_high) else ())),
        numbers={"count": float(len(pieces))},
    )  # fmt: skip


def stock_step(
    job: Job,
    splines: Sequence[str],
    *more: str,
    lengths_mm: Sequence[float],
    size_mm: tuple[float, float],
    part: Part = "box",
) -> Step:
    """Splines cut from one strip, with a cut for each: `size_mm` is how thick and how wide it is."""
    saw = cutter(job, "rip")
    thick, wide = size_mm
    alike = max(lengths_mm) - min(lengths_mm) < SAME_SETTING
    numbers = {
        "count": float(len(splines)), "each_mm": max(lengths_mm), "room_mm": GLUE_ROOM_MM,
        "long_mm": math.fsum(lengths_mm) + len(splines) * saw.least_mm,
    }  # fmt: skip
    return make(
        "spline_stock", splines, *more, part=part, makes=splines, cutter=saw, settings=(thickness(thick), width(wide)),
        says=("spline_stock", "spline_stock.alike" if alike else "spline_stock.unlike"), numbers=numbers,
    )  # fmt: skip


def _groove(plan: Settled, splines: Splines, made: list[SplinePlan]) -> Step:
    """One setting for a groove in every miter that has it: the inside arris is against the fence at both ends."""
    job, count = plan.job, len(plan.ring.sides)
    own = cutter(job, "spline")
    first = made[0]
    wide = own.takes(first.thickness_mm)
    near = first.place_mm - first.thickness_mm / 2
    fences = [from_inside_arris(near + at) for at in passes(first.thickness_mm, wide)]
    corners = [one.corner for one in made]
    sides = {i for corner in corners for i in (corner, (corner + 1) % count)}
    bevels = sorted({round(b, 4) for corner in corners for b in bevels_at(plan.ring, corner)})
    says = ["spline_groove", "spline_groove.passes" if len(fences) > 1 else "spline_groove.once"]
    router = own.tool == "router_table"
    says.append("spline_groove.bit" if router else "spline_groove.blade")
    if len(bevels) > 1:
        says.append("spline_groove.unlike")
    stopped = first.stopped_low or first.stopped_high
    if stopped:
        both = first.stopped_low and first.stopped_high
        says.append(
            "spline_groove.both" if both else f"spline_groove.{'low' if first.stopped_low else 'high'}"
        )
    stops = [stops_short(first.low_mm, "bottom")] if first.stopped_low else []
    stops += [stops_short(splines.stop_top_mm, "top")] if first.stopped_high else []
    makes = [
        f"side.{plan.ring.sides[i].name}.spline.{plan.frames[corner].id}.{first.number}"
        for corner in corners
        for i in (corner, (corner + 1) % count)
    ]
    names = [plan.ring.corners[corner].name for corner in corners]
    some = len(names) < sum(not corner.lapped for corner in plan.ring.corners)
    return make(
        "spline_groove", ids([side for side in plan.ring.sides if side.index in sides], "side"), str(first.number),
        makes=makes, lies="on_miter", cutter=own, cut_mm=wide, settings=(*fences, height(first.depth_mm), *stops),
        passes=2 * len(corners) * len(fences), title="spline_groove.some" if some else "spline_groove", says=says,
        numbers={
            "wide_mm": first.thickness_mm, "grooves": float(2 * len(corners)), "passes": float(len(fences)),
            "bevel_deg": bevels[0], "low_mm": first.low_mm, "high_mm": splines.stop_top_mm,
            "long_mm": first.length_mm, "place_mm": first.place_mm,
        },
        names={"corners": ", ".join(names)},
    )  # fmt: skip


SPLINES = Kind("spline", _pieces, _features, _steps)
