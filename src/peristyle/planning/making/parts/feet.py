"""Feet: small pieces under the corners, blocks or mitered pairs, or wedges under the sides."""

import math
from collections.abc import Iterator
from typing import Final

from peristyle.core.conventions import tilt_setting
from peristyle.core.outlines import run_lengths, vertices
from peristyle.core.planes import Point, Vector, meet
from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import Feet, House, replace
from peristyle.model.limits import LEAST_MM
from peristyle.planning.findings import Finding, Fix, Place, reader
from peristyle.planning.form.ring import SidePlan
from peristyle.planning.making.kind import Kind, Phase, Settled
from peristyle.planning.making.piece import Edge, Piece
from peristyle.planning.making.piece import Place as Where
from peristyle.planning.making.setting import Setting, stop, swing, thickness, tilt, width
from peristyle.planning.making.step import Step, make
from peristyle.reference.machines import USUAL_ANGLES

_LEAST_BEVEL_DEG: Final = 5.0  # less, and what a bevel cuts off is no wedge to stand on (our rule)
_LEAST_SHARE: Final = 0.5  # of its length: a slimmer block tips over (our rule)
_LEAST_WEDGE_MM: Final = 3.0  # lower, and a wedge is a sliver under the box (our rule)
_DOWN: Final[Vector] = (0.0, 0.0, -1.0)


def _pieces(plan: Settled) -> Iterator[Piece]:
    for piece in _standing(plan):
        yield _lowered(plan, piece)


def _standing(plan: Settled) -> Iterator[Piece]:
    feet = plan.job.design.section.feet
    if feet is None or isinstance(plan.job.design.form.shape, House):
        return
    count = len(plan.ring.sides)
    for number in range(count):
        if feet.kind == "wedge":
            if wedge_mm(plan, plan.ring.sides[number]) > 0:
                yield _wedge(plan, feet, number)
        elif feet.kind == "mitered":
            yield from _pair(plan, feet, number)
        else:
            yield _block(plan, feet, number)


def _lowered(plan: Settled, piece: Piece) -> Piece:
    """The foot under a bottom that reaches below the sides."""
    bottom = plan.job.design.section.bottom
    down = max(0.0, -bottom.up_mm) if bottom else 0.0
    x, y, z = piece.place.origin
    made: Piece = replace(piece, place=replace(piece.place, origin=(x, y, z - down)))
    return made


def _outside(plan: Settled, side: int, inset_mm: float) -> float:
    return plan.ring.slabs[side].outer_mm(0.0) - inset_mm


def _block(plan: Settled, feet: Feet, corner: int) -> Piece:
    """A block with the corner's own angle, its sides along those of the box."""
    ring, after = plan.ring, (corner + 1) % len(plan.ring.sides)
    first, second = ring.slabs[corner], ring.slabs[after]
    near = (_outside(plan, corner, feet.inset_mm), _outside(plan, after, feet.inset_mm))
    angle = math.radians(ring.corners[corner].interior_deg)
    wide = feet.size_mm * math.sin(
        angle
    )  # between its parallel faces, so that its edges are as long as asked
    far = (near[0] - wide, near[1] - wide)
    tip = meet(first, near[0], second, near[1])
    corners = [
        meet(first, a, second, b)
        for a, b in ((far[0], far[1]), (near[0], far[1]), (near[0], near[1]), (far[0], near[1]))
    ]  # fmt: skip
    x: Vector = (first.along[0], first.along[1], 0.0)
    size = math.hypot(x[0], x[1])
    x = (x[0] / size, x[1] / size, 0.0)
    y: Vector = (-x[1], x[0], 0.0)
    place = Where((tip[0], tip[1], 0.0), x, y, _DOWN)
    face = tuple(place.back((px, py, 0.0))[:2] for px, py in corners)
    return _foot(
        plan, feet, f"foot.{corner + 1}", corner, face, face, feet.height_mm, place, (), "foot block"
    )


def _pair(plan: Settled, feet: Feet, corner: int) -> Iterator[Piece]:
    """Two pieces that meet in a miter under the corner, their show faces outward."""
    ring, count = plan.ring, len(plan.ring.sides)
    after = (corner + 1) % count
    tip = meet(
        ring.slabs[corner], _outside(plan, corner, feet.inset_mm),
        ring.slabs[after], _outside(plan, after, feet.inset_mm),
    )  # fmt: skip
    half = (180.0 - ring.corners[corner].interior_deg) / 2
    short = feet.thickness_mm * math.tan(math.radians(half))
    long, high = feet.size_mm, feet.height_mm
    for side, at_end in ((corner, True), (after, False)):
        slab = ring.slabs[side]
        x: Vector = (-slab.uy, slab.ux, 0.0)
        back = long if at_end else 0.0
        origin = (tip[0] - back * x[0], tip[1] - back * x[1], -high)
        inner = (0.0, long - short) if at_end else (short, long)
        show = ((0.0, 0.0), (long, 0.0), (long, high), (0.0, high))
        inside = ((inner[0], 0.0), (inner[1], 0.0), (inner[1], high), (inner[0], high))
        edges = (
            Edge("bottom", 0.0), Edge("end", half if at_end else 0.0, 0.0), Edge("top", 0.0),
            Edge("start", 0.0 if at_end else half, 0.0),
        )  # fmt: skip
        place = Where(origin, x, (0.0, 0.0, 1.0), (-slab.ux, -slab.uy, 0.0))
        hand = 1 if at_end else 2
        name = f"foot.{corner + 1}.{hand}"
        alike = "foot, mitered at its end" if at_end else "foot, mitered at its start"
        yield _foot(plan, feet, name, corner, show, inside, feet.thickness_mm, place, edges, alike)


def wedge_mm(plan: Settled, side: SidePlan) -> float:
    """How high the wedge is that a side's bevel cuts off (mm); 0 where none is cut off."""
    job = plan.job
    bevel = side.end.bevel_deg
    on_end = tilt_setting(bevel, job.shop.saw.stop_deg)[1]
    own_cuts = job.stock.board.method in ("square_first", "book", "none")
    if not own_cuts or job.shop.saw.kind in USUAL_ANGLES or on_end:
        return 0.0
    return side.thickness_mm * math.tan(math.radians(bevel)) if bevel > _LEAST_BEVEL_DEG else 0.0


def _wedge(plan: Settled, feet: Feet, number: int) -> Piece:
    """A side's own offcut, its square corner under the outside, half way along."""
    side, slab = plan.ring.sides[number], plan.ring.slabs[number]
    line = vertices(plan.ring.slabs, [_outside(plan, i, feet.inset_mm) for i in range(len(plan.ring.sides))])
    (ax, ay), (bx, by) = line[number - 1], line[number]
    x = (-slab.uy, slab.ux)
    begin = ((ax + bx) / 2 - x[0] * feet.size_mm / 2, (ay + by) / 2 - x[1] * feet.size_mm / 2, 0.0)
    high = wedge_mm(plan, side)
    face: tuple[Point, ...] = ((0.0, 0.0), (side.thickness_mm, 0.0), (0.0, high))
    place = Where(begin, (-slab.ux, -slab.uy, 0.0), _DOWN, (x[0], x[1], 0.0))
    made = _foot(plan, feet, f"foot.{number + 1}", number, face, face, feet.size_mm, place, (), "foot wedge")
    return _wedge_told(made, side)


def _wedge_told(piece: Piece, side: SidePlan) -> Piece:
    return Piece(
        id=piece.id, part=piece.part, name=f"Foot under side {side.name}", stock="offcut", grain_deg=0.0,
        thickness_mm=piece.thickness_mm, show_face=piece.show_face, inside_face=piece.inside_face,
        edges=piece.edges, place=piece.place, alike=piece.alike, says=("foot.wedge",), names={"side": side.name},
    )  # fmt: skip


def _foot(
    plan: Settled, feet: Feet, name: str, corner: int, show: tuple[Point, ...], inside: tuple[Point, ...],
    thick: float, place: Where, edges: tuple[Edge, ...], alike: str,
) -> Piece:  # fmt: skip
    own = plan.ring.corners[corner].name
    sided = edges or tuple(Edge(f"side {k + 1}", 0.0) for k in range(len(show)))
    return Piece(
        id=name, part="foot", name=f"Foot under corner {own}", stock="foot stock", thickness_mm=thick,
        grain_deg=0.0, show_face=show, inside_face=inside, edges=sided, place=place, alike=alike,
        says=("foot",), names={"corner": own},
    )  # fmt: skip


def _steps(plan: Settled) -> Iterator[tuple[Phase, Step]]:
    feet = plan.job.design.section.feet
    pieces = list(_pieces(plan))
    if feet is None or not pieces:
        return
    grouped: dict[tuple[object, ...], list[Piece]] = {}
    for piece in pieces:
        turn = _turn(plan, piece)
        grouped.setdefault((piece.alike, round(turn, 4), *(round(v, 4) for v in piece.size_mm)), []).append(
            piece
        )
    for members in grouped.values():
        names = [piece.id for piece in members]
        yield "last", make(
            "foot", names, "_".join(name.removeprefix("foot.").replace(".", "-") for name in names),
            makes=names, settings=_settings(plan, feet, members[0]), passes=len(members),
            title=f"foot.{feet.kind}", says=(f"foot.{feet.kind}",),
            numbers={"count": float(len(members)), "angle_deg": _turn(plan, members[0])},
            names={"end": "end" if members[0].id.endswith(".1") else "start"},
        )  # fmt: skip
    bottom = plan.job.design.section.bottom
    stands_out = bottom.overhang_mm if bottom and bottom.seat == "applied" else 0.0
    told = "foot_glue.flush" if feet.inset_mm < DEFAULT.length_mm else "foot_glue"
    yield "last", make(
        "foot_glue", [piece.id for piece in pieces], tool="clamps", passes=len(pieces),
        says=(
            *(("foot_glue.mitered",) if feet.kind == "mitered" else ()),
            told if stands_out < DEFAULT.length_mm else "foot_glue.under",
        ),
        numbers={"inset_mm": feet.inset_mm + stands_out, "count": float(len(pieces))},
    )  # fmt: skip


def _turn(plan: Settled, piece: Piece) -> float:
    """The angle of the corner that a foot stands under (degrees)."""
    corner = int(piece.id.split(".")[1]) - 1
    return plan.ring.corners[corner].interior_deg


def _settings(plan: Settled, feet: Feet, piece: Piece) -> list[Setting]:
    if feet.kind == "wedge":
        return [stop(feet.size_mm)]
    if feet.kind == "mitered":
        half = (180.0 - _turn(plan, piece)) / 2
        return [*tilt(half), stop(feet.size_mm), width(feet.height_mm), thickness(feet.thickness_mm)]
    from_square = 90.0 - _turn(plan, piece)
    wide = feet.size_mm * math.sin(math.radians(_turn(plan, piece)))
    swings = [swing(abs(from_square))] if abs(from_square) > DEFAULT.angle_deg else []
    return [*swings, stop(feet.size_mm), width(wide), thickness(feet.height_mm)]


def _findings(plan: Settled) -> Iterator[Finding]:
    feet = plan.job.design.section.feet
    if feet is None or not plan.ring.stands:
        return
    if isinstance(plan.job.design.form.shape, House):
        fix = Fix("no_feet", (("section.feet", False),))
        yield Finding("feet_under_house", "stop", Place("section"), {}, (fix,))
        return
    place, fmt, slabs = Place("section"), reader(plan.job.design), plan.ring.slabs
    line = vertices(slabs, [_outside(plan, i, feet.inset_mm) for i in range(len(slabs))])
    runs = run_lengths(slabs, line)
    least = min(runs)
    most = least if feet.kind == "wedge" else least / 2
    if feet.size_mm > most - DEFAULT.length_mm:
        fits = fmt.down(most * 0.6)
        numbers = {"size_mm": feet.size_mm, "run_mm": max(0.0, least)}
        shorter = (
            (Fix("foot_size", (("section.feet.size_mm", fits),), {"size_mm": fits}),)
            if fits > LEAST_MM
            else ()
        )
        inward = Fix("foot_inset", (("section.feet.inset_mm", 0.0),))
        yield Finding("feet_meet", "stop", place, numbers, (*shorter, inward))
    yield from _beside_panel(plan, feet)

    if feet.kind == "block":
        blunt = max(corner.interior_deg for corner in plan.ring.corners)
        wide = feet.size_mm * math.sin(math.radians(blunt))
        if wide < feet.size_mm * _LEAST_SHARE:
            fix = Fix("foot_mitered", (("section.feet.kind", "mitered"),))
            numbers = {"wide_mm": wide, "interior_deg": blunt}
            yield Finding("foot_slim", "caution", place, numbers, (fix,))
    if feet.kind == "mitered":
        half = max((180.0 - corner.interior_deg) / 2 for corner in plan.ring.corners)
        takes = feet.thickness_mm * math.tan(math.radians(half))
        if takes > feet.size_mm - DEFAULT.length_mm:
            thin = fmt.down(feet.thickness_mm * feet.size_mm / takes * 0.6)
            fix = Fix("foot_thickness", (("section.feet.thickness_mm", thin),), {"thickness_mm": thin})
            yield Finding(
                "foot_too_thick", "stop", place, {"takes_mm": takes, "size_mm": feet.size_mm}, (fix,)
            )
    if feet.kind == "wedge":
        highs = [wedge_mm(plan, side) for side in plan.ring.sides]
        if min(highs) <= 0:
            yield Finding(
                "foot_no_offcut", "stop", place, {}, (Fix("foot_block", (("section.feet.kind", "block"),)),)
            )
        elif max(highs) - min(highs) > DEFAULT.length_mm:
            numbers = {"differ_mm": max(highs) - min(highs)}
            fix = Fix("foot_block", (("section.feet.kind", "block"),))
            yield Finding("feet_unlike", "caution", place, numbers, (fix,))
        if 0 < min(highs) < _LEAST_WEDGE_MM:
            kinds = ("mitered", "block")
            others = tuple(Fix(f"foot_{kind}", (("section.feet.kind", kind),)) for kind in kinds)
            yield Finding("foot_low", "caution", place, {"high_mm": min(highs)}, others)


def _beside_panel(plan: Settled, feet: Feet) -> Iterator[Finding]:
    """Feet under a bottom that stands proud of its rabbet, where they lie more beside it than on it."""
    bottom, groove = plan.job.design.section.bottom, plan.section.groove("bottom")
    if (
        bottom is None
        or groove is None
        or bottom.seat != "rabbet"
        or bottom.proud_mm <= 0
        or feet.kind == "wedge"
    ):
        return
    slabs, fmt = plan.ring.slabs, reader(plan.job.design)
    edge_mm = max(slab.outer_mm(0.0) - out for slab, out in zip(slabs, groove.edges_mm, strict=True))
    wide = feet.thickness_mm if feet.kind == "mitered" else feet.size_mm
    beside = min(wide, edge_mm - feet.inset_mm)
    if beside > wide / 2:
        inset = fmt.up(edge_mm)
        fix = Fix("foot_under_panel", (("section.feet.inset_mm", inset),), {"inset_mm": inset})
        numbers = {"beside_mm": beside, "wide_mm": wide, "proud_mm": bottom.proud_mm}
        yield Finding("feet_beside_panel", "caution", Place("section"), numbers, (fix,))


FEET = Kind("foot", _pieces, steps=_steps, findings=_findings)
