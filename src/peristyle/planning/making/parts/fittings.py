"""Inlays let into the lid or the front; handles of the bevels' own offcuts, knobs and pulls."""

import math
from collections.abc import Iterator
from typing import Final, NamedTuple

from peristyle.core.outlines import Arc, apart, bounds, centroid, flattened, slot
from peristyle.core.outlines import Outline as Points
from peristyle.core.planes import Point
from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import Design, DropIn, Flat, Handle, Inlay, Insert, LiftOff, Sliding
from peristyle.planning.findings import Finding, Fix, reader
from peristyle.planning.findings import Place as At
from peristyle.planning.making.closed import goes_on_first
from peristyle.planning.making.kind import Kind, Phase, Settled, cut_into
from peristyle.planning.making.parts.covers import COVERS
from peristyle.planning.making.parts.dividers import DIVIDERS
from peristyle.planning.making.parts.edges import EDGES
from peristyle.planning.making.parts.feet import wedge_mm
from peristyle.planning.making.parts.hardware import HARDWARE
from peristyle.planning.making.parts.lid import LID
from peristyle.planning.making.parts.openings import OPENINGS
from peristyle.planning.making.parts.panels import PANELS, level
from peristyle.planning.making.parts.walls import stands
from peristyle.planning.making.piece import Edge, Feature, Piece, Place
from peristyle.planning.making.setting import (
    bit,
    bored_from_edge,
    bored_from_start,
    height,
    stop,
    thickness,
    width,
)
from peristyle.planning.making.step import Step, make
from peristyle.planning.section.grooves import in_side

_LEAST_WOOD_MM: Final = 2.0  # under a pocket, beside it (our rule)
_LEAST_WEDGE_MM: Final = 4.0  # a lower one is no handle (our rule)
_THIN_MM: Final = 3.0  # a thinner inlay is shaped on the end of a block and sawn off it (common practice)
_FLUSH_MM: Final = 0.2  # of an inlay that stands proud at the least, to be planed (our rule)
_PLACE: Final = At("section")


class _Face(NamedTuple):
    """The face something is set on: of which piece, its middle in that piece's frame, how thick, its outline."""

    piece: str
    middle: Point
    thick_mm: float
    outline: Points
    place: Place


def _face(plan: Settled, on: str, part: Inlay | Handle) -> _Face | None:
    """The upper face of the lid or the top, or the front; None where there is no board, or the lid is no wood."""
    design = plan.job.design
    if on == "top":
        name = _top_of(design, part)
        panel = next((panel for panel in plan.section.panels if panel.name == name), None)
        groove = plan.section.groove(panel.name) if panel else None
        if panel is None or groove is None:
            return None
        place = level(groove.rests_mm + panel.thickness_mm)
        return _Face(f"panel.{panel.name}", centroid(panel.outline), panel.thickness_mm, panel.outline, place)
    index = design.form.front
    side, slab, lid = plan.ring.sides[index], plan.ring.slabs[index], plan.section.lid
    low, high = 0.0, design.form.height_mm
    if lid is not None and lid.body_mm > 0:
        low, high = (lid.lost_high_mm, high) if isinstance(part, Handle) else (0.0, lid.lost_low_mm)
    ups = [in_side(slab, slab.outer_mm(z), z)[0] for z in (low, high)]
    xs = [x for x, _y in side.outer_face]
    middle = ((min(xs) + max(xs)) / 2, (ups[0] + ups[1]) / 2)
    return _Face(f"side.{side.name}", middle, side.thickness_mm, side.outer_face, stands(slab, side, 0.0))


def _top_of(design: Design, part: Inlay | Handle) -> str | None:
    cover = design.section.cover
    if isinstance(cover, LiftOff | Flat | DropIn | Sliding) or (
        isinstance(cover, Insert) and isinstance(part, Handle) and cover.what != "lattice"
    ):
        return "lid"
    return "top" if cover is None and design.section.top is not None else None


# --- inlays


def _inlaid(inlay: Inlay, face: _Face) -> tuple[Point | Arc, ...]:
    """The outline of an inlay on its face."""
    x, y = face.middle[0] + inlay.along_mm, face.middle[1] + inlay.across_mm
    if inlay.round:
        return slot(x, y, inlay.length_mm, inlay.length_mm)
    return _around((x, y), inlay.length_mm, inlay.width_mm)


def _around(middle: Point, long_mm: float, wide_mm: float) -> Points:
    """A rectangle about its middle."""
    (x, y), a, b = middle, long_mm / 2, wide_mm / 2
    return ((x - a, y - b), (x + a, y - b), (x + a, y + b), (x - a, y + b))


def _pieces(plan: Settled) -> Iterator[Piece]:
    yield from _inlays(plan)
    yield from _wedges(plan)


def _inlays(plan: Settled) -> Iterator[Piece]:
    inlay = plan.job.design.section.inlay
    face = _face(plan, inlay.on, inlay) if inlay and plan.ring.stands else None
    if inlay is None or face is None:
        return
    outline = flattened(_inlaid(inlay, face))
    x0, y0, _x1, _y1 = bounds(outline)
    own = tuple((x - x0, y - y0) for x, y in outline)
    origin = face.place.of((x0, y0, inlay.pocket_mm - inlay.thickness_mm))
    yield Piece(
        id="inlay.1", part="inlay", name="Inlay", stock="inlay", thickness_mm=inlay.thickness_mm, grain_deg=0.0,
        show_face=own, inside_face=own, edges=(Edge("start", 0.0), Edge("end", 0.0)) if not inlay.round else (),
        place=Place(origin, face.place.x, face.place.y, face.place.z),
        says=(*(("inlay.round",) if inlay.round else ()), "inlay"),
        numbers={"proud_mm": inlay.thickness_mm - inlay.pocket_mm, "across_mm": inlay.length_mm},
    )  # fmt: skip


def _features(plan: Settled) -> Iterator[tuple[str, Feature]]:
    if not plan.ring.stands:
        return
    section = plan.job.design.section
    inlay, handle = section.inlay, section.handle
    face = _face(plan, inlay.on, inlay) if inlay else None
    if inlay is not None and face is not None:
        yield face.piece, Feature(f"{face.piece}.inlay", "inlay", "show", outline=_inlaid(inlay, face),
                                  in_mm=inlay.pocket_mm)  # fmt: skip
    held = _face(plan, handle.on, handle) if handle else None
    if handle is not None and held is not None:
        for number, (x, y) in enumerate(_bores(handle, held), 1):
            hole = slot(x, y, handle.bore_mm, handle.bore_mm)
            name = f"{held.piece}.handle.{number}"
            yield held.piece, Feature(name, "bore", "show", outline=hole, in_mm=held.thick_mm)


def _bores(handle: Handle, face: _Face) -> list[Point]:
    """Where the screws go through."""
    x, y = face.middle
    half = handle.apart_mm / 2
    return {"wedge": [], "knob": [(x, y)], "pull": [(x - half, y), (x + half, y)]}[handle.kind]


def _wedges(plan: Settled) -> Iterator[Piece]:
    """The handle out of a bevel's offcut: the wall's thickness wide at its foot, as high as the bevel makes it."""
    handle = plan.job.design.section.handle
    face = _face(plan, handle.on, handle) if handle and plan.ring.stands else None
    side = plan.ring.sides[plan.job.design.form.front] if plan.ring.stands else None
    if handle is None or face is None or side is None or handle.kind != "wedge":
        return
    high, foot = wedge_mm(plan, side), side.thickness_mm
    if high <= 0:
        return
    x, y = face.middle
    # Its frame: x out of the face, y across, z along the handle; left-handed, as all pieces' are.
    own = face.place
    out = (-own.z[0], -own.z[1], -own.z[2])
    origin = own.of((x - handle.length_mm / 2, y - foot / 2, 0.0))
    triangle: Points = ((0.0, 0.0), (high, 0.0), (0.0, foot))
    yield Piece(
        id="handle.1", part="handle", name="Handle", stock="offcut", thickness_mm=handle.length_mm, grain_deg=0.0,
        show_face=triangle, inside_face=triangle, edges=(), place=Place(origin, out, own.y, own.x),
        says=("handle.wedge",), numbers={"high_mm": high, "foot_mm": foot},
    )  # fmt: skip


# --- steps


def _steps(plan: Settled) -> Iterator[tuple[Phase, Step]]:
    section = plan.job.design.section
    if not plan.ring.stands:
        return
    if section.handle is not None:
        yield from _handle_steps(plan, section.handle)


def _inlaying(plan: Settled) -> Iterator[tuple[Phase, Step]]:
    inlay = plan.job.design.section.inlay
    if plan.ring.stands and inlay is not None:
        yield from _inlay_steps(plan, inlay)


def _inlay_steps(plan: Settled, inlay: Inlay) -> Iterator[tuple[Phase, Step]]:
    face = _face(plan, inlay.on, inlay)
    if face is None:
        return
    x0, y0, _x1, _y1 = bounds(face.outline)
    x, y = face.middle[0] + inlay.along_mm, face.middle[1] + inlay.across_mm
    wide = inlay.length_mm if inlay.round else inlay.width_mm
    numbers = {
        "long_mm": inlay.length_mm, "wide_mm": wide, "thick_mm": inlay.thickness_mm, "along_mm": x - x0,
        "up_mm": y - y0, "deep_mm": inlay.pocket_mm, "proud_mm": inlay.thickness_mm - inlay.pocket_mm,
    }  # fmt: skip
    shape = "round" if inlay.round else "square"
    where = inlay.on
    when, loose = _when(plan, face)
    when = "close" if when == "last" and not _waits(plan, face) else when
    thin = ("inlay.thin",) if inlay.thickness_mm < _THIN_MM else ()
    yield when, make(
        "inlay", ("inlay.1",), tool="by_hand", makes=("inlay.1",), title="inlay", says=(f"inlay.{shape}", *thin),
        settings=(stop(inlay.length_mm), width(wide), thickness(inlay.thickness_mm)), numbers=numbers,
    )  # fmt: skip
    yield when, make(
        "inlay_pocket", (face.piece,), tool="router_table", makes=(f"{face.piece}.inlay",), lies="show_up",
        settings=(bored_from_start(x - x0), bored_from_edge(y - y0), height(inlay.pocket_mm)),
        says=(*loose, f"inlay_pocket.{where}", f"inlay_pocket.{shape}"), numbers=numbers,
    )  # fmt: skip
    glued = make("inlay_glue", (face.piece, "inlay.1"), tool="by_hand", says=("inlay_glue",), numbers=numbers)
    yield when, glued


def _waits(plan: Settled, face: _Face) -> bool:
    """Whether a face is there only after the lid is sawn off: that of a lid by itself, or of a panel that goes on
    then. Any other is inlaid and levelled on the glued box, before its edges are profiled.
    """
    if face.piece.startswith("side."):
        return False
    name = face.piece.removeprefix("panel.")
    panel = next((one for one in plan.section.panels if one.name == name), None)
    groove = plan.section.groove(panel.name) if panel is not None else None
    return name == "lid" or panel is None or groove is None or not goes_on_first(plan, panel, groove)


def _when(plan: Settled, face: _Face) -> tuple[Phase, tuple[str, ...]]:
    """When a face is worked on, and what is said of it: last of all, but before the glue-up where the board lies in
    grooves, for then its edges, which all is measured from, are out of reach.
    """
    top = plan.job.design.section.top
    if face.piece == "panel.top" and top is not None and top.seat == "groove":
        return "panels", ("fitting.loose",)
    return "last", ()


def _handle_steps(plan: Settled, handle: Handle) -> Iterator[tuple[Phase, Step]]:
    face = _face(plan, handle.on, handle)
    if face is None:
        return
    if handle.kind == "wedge":
        for piece in _wedges(plan):
            yield "last", make(
                "handle_wedge", (piece.id,), tool="hand_saw", makes=(piece.id,),
                settings=(stop(handle.length_mm),), says=("handle_wedge",), numbers=piece.numbers | {
                    "long_mm": handle.length_mm},
            )  # fmt: skip
            yield (
                "last",
                make(
                    "handle_glue", (face.piece, piece.id), tool="clamps", says=(f"handle_glue.{handle.on}",)
                ),
            )
        return
    x0, y0, _x1, _y1 = bounds(face.outline)
    bores = _bores(handle, face)
    over = handle.screw_mm - face.thick_mm - handle.bites_mm
    washers = max(0, math.ceil(over / handle.washer_mm - 1e-9)) if handle.washer_mm > 0 else 0
    numbers = {"bore_mm": handle.bore_mm, "screw_mm": handle.screw_mm, "thick_mm": face.thick_mm,
               "bites_mm": handle.bites_mm, "over_mm": max(0.0, over), "washers": float(washers)}  # fmt: skip
    when, loose = _when(plan, face)
    yield when, make(
        "handle_bore", (face.piece,), tool="drill_press", lies="show_up",
        makes=[f"{face.piece}.handle.{number}" for number in range(1, len(bores) + 1)],
        settings=(
            *(bored_from_start(x - x0) for x, _y in bores), bored_from_edge(bores[0][1] - y0), bit(handle.bore_mm),
        ),
        passes=len(bores), says=(*loose, *_bored_in(plan, face)), numbers=numbers,
    )  # fmt: skip
    yield "finish", make(
        "handle_screw", (face.piece,), tool="by_hand", numbers=numbers,
        says=("handle_screw", *(("handle_screw.washers",) if washers else ())),
    )  # fmt: skip


def _bored_in(plan: Settled, face: _Face) -> tuple[str, ...]:
    """How the holes are bored: wood with a backing board, stone and glass in their own ways."""
    cover = plan.job.design.section.cover
    what = cover.what if isinstance(cover, Insert) and face.piece == "panel.lid" else ""
    if what == "glass":
        return ("handle_bore.glass",)
    return ("handle_bore", *(("handle_bore.stone",) if what in ("slate", "tile") else ()))


# --- findings


def _findings(plan: Settled) -> Iterator[Finding]:
    section = plan.job.design.section
    if not plan.ring.stands or (section.inlay is None and section.handle is None):
        return
    kinds = (PANELS, LID, COVERS, DIVIDERS, HARDWARE, EDGES, OPENINGS)
    cuts = cut_into(plan, kinds)
    for word, part in (("inlay", section.inlay), ("handle", section.handle)):
        if part is None:
            continue
        face = _face(plan, part.on, part)
        if face is None:
            front = Fix("to_front", ((f"section.{word}.on", "front"),), {}, {"what": word})
            yield Finding("fitting_no_face", "stop", _PLACE, {}, (front, _without(word)), {"what": word})
        elif isinstance(part, Inlay):
            yield from _inlay_findings(plan, part, face, cuts.get(face.piece, []))
        else:
            inlaid = [f for name, f in _features(plan) if f.kind == "inlay" and name == face.piece]
            yield from _handle_findings(plan, part, face, [*cuts.get(face.piece, []), *inlaid])


def _without(word: str) -> Fix:
    return Fix(f"no_{word}", ((f"section.{word}", False),))


def _inlay_findings(plan: Settled, inlay: Inlay, face: _Face, cuts: list[Feature]) -> Iterator[Finding]:
    fmt, nothing = reader(plan.job.design), _without("inlay")
    if inlay.pocket_mm > inlay.thickness_mm - _FLUSH_MM + DEFAULT.length_mm:
        deep = fmt.down(inlay.thickness_mm * 2 / 3)
        numbers = {"deep_mm": inlay.pocket_mm, "thick_mm": inlay.thickness_mm}
        fixes = (
            (Fix("inlay_pocket", (("section.inlay.pocket_mm", deep),), {"deep_mm": deep}),)
            if deep > 0
            else ()
        )
        yield Finding("inlay_sunk", "stop", _PLACE, numbers, (*fixes, nothing))
    under = face.thick_mm - inlay.pocket_mm
    behind = [
        f for f in cuts if f.face == "inside" and _over(flattened(_inlaid(inlay, face)), f.flat or f.shadow)
    ]
    under -= max((feature.depth_mm for feature in behind), default=0.0)
    if under < _LEAST_WOOD_MM - DEFAULT.length_mm:
        deep = fmt.down(inlay.pocket_mm - (_LEAST_WOOD_MM - under))
        shallower = (("section.inlay.pocket_mm", deep),)
        fixes = (Fix("inlay_pocket", shallower, {"deep_mm": deep}),) if deep >= _FLUSH_MM else ()
        yield Finding("inlay_deep", "stop", _PLACE, {"left_mm": max(0.0, under)}, (*fixes, nothing))
    middle = (("section.inlay.along_mm", 0.0), ("section.inlay.across_mm", 0.0))
    moved = (Fix("inlay_middle", middle),) if inlay.along_mm or inlay.across_mm else ()
    fixes = (*moved, *_smaller(plan, "inlay", ("length_mm", "width_mm")))
    yield from _placed(face, flattened(_inlaid(inlay, face)), cuts, "inlay", fixes)


def _handle_findings(plan: Settled, handle: Handle, face: _Face, cuts: list[Feature]) -> Iterator[Finding]:
    fmt = reader(plan.job.design)
    if handle.kind == "wedge":
        side = plan.ring.sides[plan.job.design.form.front]
        high = wedge_mm(plan, side)
        if high < _LEAST_WEDGE_MM:
            knob = Fix("handle_knob", (("section.handle.kind", "knob"),))
            yield Finding(
                "handle_no_wedge", "stop", _PLACE, {"high_mm": max(0.0, high)}, (knob, _without("handle"))
            )
            return
        long = plan.job.design.form.height_mm / plan.ring.slabs[side.index].cos_slope
        if handle.length_mm > long + DEFAULT.length_mm:
            size = fmt.down(long)
            shorter = Fix("handle_length", (("section.handle.length_mm", size),), {"length_mm": size})
            numbers = {"length_mm": handle.length_mm, "long_mm": long}
            yield Finding("handle_long", "stop", _PLACE, numbers, (shorter, _without("handle")))
        outline = _around(face.middle, handle.length_mm, side.thickness_mm)
        yield from _placed(face, outline, cuts, "handle", _smaller(plan, "handle", ("length_mm",)))
        return
    least = face.thick_mm + handle.bites_mm / 2
    if handle.screw_mm < least:
        size = fmt.up(face.thick_mm + handle.bites_mm)
        longer = Fix("handle_screw", (("section.handle.screw_mm", size),), {"screw_mm": size})
        numbers = {"screw_mm": handle.screw_mm, "thick_mm": face.thick_mm}
        yield Finding("handle_screw_short", "caution", _PLACE, numbers, (longer, _without("handle")))
    for x, y in _bores(handle, face):
        hole = flattened(slot(x, y, handle.bore_mm, handle.bore_mm))
        found = list(_placed(face, hole, cuts, "handle", _smaller(plan, "handle", ("apart_mm",))))
        yield from found
        if found:
            return


def _over(one: Points, other: Points) -> bool:
    return len(other) > 2 and apart(one, other, DEFAULT.length_mm) <= DEFAULT.length_mm


def _placed(
    face: _Face, outline: Points, cuts: list[Feature], word: str, fixes: tuple[Fix, ...]
) -> Iterator[Finding]:
    """That it lies on its face, clear of what is cut into that or through it."""
    inside = min(
        ((bx - ax) * (y - ay) - (by - ay) * (x - ax)) / (math.dist((ax, ay), (bx, by)) or 1.0)
        for (ax, ay), (bx, by) in zip(face.outline, (*face.outline[1:], face.outline[0]), strict=True)
        for x, y in outline
    )
    if inside < _LEAST_WOOD_MM - DEFAULT.length_mm:
        yield Finding("fitting_off_face", "stop", _PLACE, {"over_mm": -inside}, fixes, {"what": word})
    for feature in cuts:
        flat = feature.flat if feature.face == "show" else feature.through(face.thick_mm)
        if len(flat) > 2 and apart(outline, flat, _LEAST_WOOD_MM) < _LEAST_WOOD_MM:
            names = {"what": word, "cut": feature.kind}
            yield Finding("fitting_meets", "stop", _PLACE, {}, fixes, names)
            return


def _smaller(plan: Settled, word: str, sizes: tuple[str, ...]) -> tuple[Fix, ...]:
    """Half of these sizes; or without it."""
    part, fmt = getattr(plan.job.design.section, word), reader(plan.job.design)
    halved = tuple((f"section.{word}.{size}", fmt.down(getattr(part, size) / 2)) for size in sizes)
    return Fix(f"{word}_smaller", halved), _without(word)


FITTINGS: Final = Kind("fitting", _pieces, _features, _steps, _findings)
INLAYS: Final = Kind("inlay", steps=_inlaying)  # before edges are profiled
