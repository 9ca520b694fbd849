"""Hinges let into the rims of body and lid: butts, quadrants round the corners, concealed barrels."""

from collections.abc import Iterator
from typing import Final

from peristyle.core.outlines import Outline as Points
from peristyle.core.outlines import flattened, hull, slot
from peristyle.model.design import Hinges
from peristyle.planning.making.kind import Phase, Settled
from peristyle.planning.making.parts.rims import (
    PAST_MM,
    Rim,
    at,
    board_mm,
    lines,
    made,
    middles,
    overhang_mm,
    rims,
    sunk,
)
from peristyle.planning.making.parts.walls import stands
from peristyle.planning.making.piece import Feature
from peristyle.planning.making.setting import SAME_SETTING, Setting, bit, height, width
from peristyle.planning.making.step import Step, make
from peristyle.planning.section.hardware import Spot, bevel_down_mm, leg_sides, side_of, spots

_BESIDE: Final = (-1, 0, 1)  # a side and those before and after it


def hinge_features(plan: Settled, own: Hinges) -> Iterator[tuple[str, Feature]]:
    """What hinges take of the sides, and of a lid that is a board."""
    places = spots(plan.job.design, plan.ring, plan.section, own)
    if own.pattern == "barrel":
        yield from _barrels(plan, own, places)
        return
    for spot in places:
        for rim in rims(plan):
            yield _mortise(plan, own, spot, rim)
        if board_mm(plan):
            yield from _in_board(plan, own, spot)
        if own.pattern == "quadrant":
            yield from _leg(plan, own, spot)


def _mortise(plan: Settled, own: Hinges, spot: Spot, rim: Rim) -> tuple[str, Feature]:
    """Where a leaf lies: level, as deep as it is thick, from the outside in."""
    slab, side = plan.ring.slabs[spot.side], plan.ring.sides[spot.side]
    # Both leaves reach as far in from the axis, which lies out from the body's face: where the side leans, the lid's
    # rim stands a little further out or in than the body's.
    inner = slab.outer_mm(rims(plan)[0].level_mm) - (own.leaf_mm - own.out_mm)
    outer = slab.outer_mm(rim.level_mm) + PAST_MM + own.thick_mm
    floor, past = rim.level_mm + rim.way * own.thick_mm, rim.level_mm - rim.way * PAST_MM
    place = stands(slab, side, 0.0)
    ends = tuple(
        tuple(
            place.back((*at(plan, spot.side, along, out), z))
            for out, z in ((outer, floor), (inner, floor), (inner, past), (outer, past))
        )
        for along in (spot.begins_mm, spot.ends_mm)
    )
    name = f"side.{side.name}.hinge.{spot.number}.{rim.word}"
    return f"side.{side.name}", Feature(name, "mortise", "show", in_mm=own.leaf_mm - own.out_mm, ends=ends)


def _in_board(plan: Settled, own: Hinges, spot: Spot) -> Iterator[tuple[str, Feature]]:
    """What is let into the underside of a lid that is a board: a leaf with its barrel."""
    face = plan.ring.slabs[spot.side].outer_mm(rims(plan)[0].level_mm)

    def rectangle(inner: float, outer: float) -> Points:
        a, b = spot.begins_mm, spot.ends_mm
        return tuple(at(plan, spot.side, *p) for p in ((a, outer), (b, outer), (b, inner), (a, inner)))

    axis, radius = face + own.out_mm, own.barrel_mm / 2
    name = f"panel.lid.hinge.{spot.number}"
    yield "panel.lid", Feature(name, "mortise", "inside", in_mm=own.thick_mm,
                               outline=rectangle(axis - own.leaf_mm, axis))  # fmt: skip
    if radius > own.thick_mm:
        yield "panel.lid", Feature(f"{name}.barrel", "mortise", "inside", in_mm=radius,
                                   outline=rectangle(axis - radius, axis + radius))  # fmt: skip


# --- quadrants


def _leg(plan: Settled, own: Hinges, spot: Spot) -> Iterator[tuple[str, Feature]]:
    """The leg of a quadrant along the side beside, and the slot for its stay; leaf and leg run on past the miter into
    each other's side.
    """
    beside = leg_sides(plan.job.design, own)[spot.number - 1]
    cuts = [("leg", own.leg_wide_mm, own.thick_mm)]
    cuts += [("stay", own.stay_wide_mm, own.thick_mm + own.stay_mm)] if own.stay_mm else []
    for rim in rims(plan):
        for word, wide, deep in cuts:
            levels = (rim.level_mm - rim.way * PAST_MM, rim.level_mm + rim.way * deep)
            outline = _leg_outline(plan, own, spot, wide, 0.0 if word == "leg" else own.leg_wide_mm / 2)
            for side, past in ((beside, ""), (spot.side, ".past")):
                name = f"hinge.{spot.number}.{rim.word}.{word}{past}"
                yield sunk(plan, side, name, "mortise", outline, levels, wide)
        slab, face = plan.ring.slabs[spot.side], plan.ring.slabs[spot.side].outer_mm(rims(plan)[0].level_mm)
        outs = (slab.outer_mm(rim.level_mm) + PAST_MM, face - (own.leaf_mm - own.out_mm))
        leaf = tuple(
            at(plan, spot.side, along, out)
            for along, out in (
                (spot.begins_mm, outs[0]), (spot.ends_mm, outs[0]), (spot.ends_mm, outs[1]), (spot.begins_mm, outs[1]),
            )
        )  # fmt: skip
        levels = (rim.level_mm - rim.way * PAST_MM, rim.level_mm + rim.way * own.thick_mm)
        yield sunk(
            plan, beside, f"hinge.{spot.number}.{rim.word}.leaf", "mortise", leaf, levels, own.leg_wide_mm
        )
    if board_mm(plan):
        yield "panel.lid", Feature(f"panel.lid.hinge.{spot.number}.leg", "mortise", "inside", in_mm=own.thick_mm,
                                   outline=_leg_outline(plan, own, spot, own.leg_wide_mm, 0.0))  # fmt: skip
        if own.stay_mm:
            yield "panel.lid", Feature(f"panel.lid.hinge.{spot.number}.stay", "mortise", "inside",
                                       outline=_leg_outline(plan, own, spot, own.stay_wide_mm, own.leg_wide_mm / 2),
                                       in_mm=own.thick_mm + own.stay_mm)  # fmt: skip


def _leg_outline(plan: Settled, own: Hinges, spot: Spot, wide: float, middle: float) -> Points:
    """A leg from above, from the inner edge of the leaf to its end; or what lies along its middle."""
    level = rims(plan)[0].level_mm
    beside = plan.ring.slabs[leg_sides(plan.job.design, own)[spot.number - 1]]
    slab = plan.ring.slabs[spot.side]
    outer = beside.outer_mm(level) - own.leg_in_mm - (middle - wide / 2 if middle else 0.0)
    face = slab.outer_mm(level)
    ends = (face - (own.leaf_mm - own.out_mm), face - own.leg_mm)
    # The two sides are square to each other: a point from how far out it lies along either.
    return hull(
        [
            (slab.ux * a + beside.ux * b, slab.uy * a + beside.uy * b)
            for a in ends
            for b in (outer, outer - wide)
        ]
    )


# --- concealed barrels


def _barrels(plan: Settled, own: Hinges, places: tuple[Spot, ...]) -> Iterator[tuple[str, Feature]]:
    """Bores in the joint's axis, and the bevel behind it on both halves, without which the lid would not turn."""
    if not places or board_mm(plan):
        return
    index, slabs = places[0].side, plan.ring.slabs
    slab = slabs[index]
    axis = slab.outer_mm(rims(plan)[0].level_mm) - own.in_mm
    for rim in rims(plan):
        past = rim.level_mm - rim.way * PAST_MM
        for spot in places:
            round_one = flattened(slot(spot.middle_mm, axis, own.barrel_mm, own.barrel_mm))
            outline = tuple(at(plan, index, along, out) for along, out in round_one)
            levels = (past, rim.level_mm + rim.way * own.deep_mm)
            yield sunk(
                plan, index, f"hinge.{spot.number}.{rim.word}", "hinge_bore", outline, levels, own.barrel_mm
            )
        run = own.in_mm + 2 * slab.thickness_mm + PAST_MM
        section = (
            (axis, rim.level_mm),
            (axis + run, rim.level_mm + rim.way * run),
            (axis + run, past),
            (axis, past),
        )
        long = max(x for x, _y in plan.ring.sides[index].outer_face) + 4 * run
        for other in _BESIDE:
            side = plan.ring.sides[(index + other) % len(slabs)]
            place = stands(slabs[side.index], side, 0.0)
            ends = tuple(
                tuple(place.back((*at(plan, index, along, out), z)) for out, z in section)
                for along in (-4 * run, long)
            )
            name = f"side.{side.name}.hinge.bevel.{rim.word}"
            yield f"side.{side.name}", Feature(name, "edge", "show", in_mm=own.in_mm, ends=ends)


# --- steps


def hinge_steps(plan: Settled, own: Hinges) -> Iterator[tuple[Phase, Step]]:
    """Scrap first, the rims, then hung, taken off, finished, hung again."""
    places = spots(plan.job.design, plan.ring, plan.section, own)
    if not places or (own.pattern == "barrel" and board_mm(plan)):
        return
    numbers = _numbers(plan, own)
    names = {"side": plan.ring.sides[places[0].side].name}
    barrel = own.pattern == "barrel"
    end = ".barrel" if barrel else ""
    pieces, _made = made(plan, "hinge", places)
    yield "last", make("try_hinge", (), tool="scrap", says=(f"try_hinge{end}",), numbers=numbers)
    yield from _bored(plan, own, places, numbers) if barrel else _let_in(plan, own, places, numbers)

    def with_hinges(phase: Phase, operation: str) -> tuple[Phase, Step]:
        return phase, make(
            operation, pieces, tool="by_hand", says=(f"{operation}{end}",), numbers=numbers, names=names
        )

    yield with_hinges("last", "hinge_hang")
    yield with_hinges("last", "hinge_off")
    yield with_hinges("finish", "hinge_again")


def _numbers(plan: Settled, own: Hinges) -> dict[str, float]:
    side = side_of(plan.job.design, own)
    slab, found = plan.ring.slabs[side], rims(plan)
    over = overhang_mm(plan, side) or 0.0
    steps_out = slab.outer_mm(found[-1].level_mm) - slab.outer_mm(found[0].level_mm) + over
    within, count = own.leaf_mm - own.out_mm, 2 if own.pattern == "quadrant" else own.count
    return {
        "count": float(count), "out_mm": own.out_mm, "barrel_mm": own.barrel_mm, "within_mm": within,
        "screw_mm": own.screw_mm, "thick_mm": own.thick_mm, "half_mm": own.thick_mm / 2,
        "screws": float(2 * count * own.screws), "lid_mm": within + steps_out, "over_mm": over,
        "deep_mm": own.barrel_mm / 2, "from_mm": over - own.out_mm + own.barrel_mm / 2, "out_by_mm": steps_out,
        "leg_mm": own.leg_mm, "leg_wide_mm": own.leg_wide_mm, "leg_in_mm": own.leg_in_mm,
        "leg_over_mm": own.leg_mm + steps_out,
        "stay_wide_mm": own.stay_wide_mm, "stay_mm": own.thick_mm + own.stay_mm, "in_mm": own.in_mm,
        "bore_mm": own.deep_mm, "in_lid_mm": own.in_mm + steps_out, "each": 2.0 * count,
    }  # fmt: skip


def _let_in(
    plan: Settled, own: Hinges, places: tuple[Spot, ...], numbers: dict[str, float]
) -> Iterator[tuple[Phase, Step]]:
    """The mortises for leaves."""
    pieces, cut = made(plan, "hinge", places)
    side, over = places[0].side, overhang_mm(plan, places[0].side)
    leans = abs(numbers["out_by_mm"]) > SAME_SETTING
    told = ["hinge_mortise"] if over is None else ["hinge_mortise.board"]
    told += ["hinge_mortise.leans"] if leans and over is None else []
    if over is None:
        told.append("hinge_mortise.barrel")
    elif own.barrel_mm / 2 > own.thick_mm:
        told.append("hinge_mortise.channel")
    if own.pattern == "quadrant":
        told += ["hinge_mortise.legs", *(["hinge_mortise.stay"] if own.stay_mm else [])]
        told += ["hinge_mortise.legs_leg"] if over is not None or leans else []
        beside = [f"side.{plan.ring.sides[index].name}" for index in leg_sides(plan.job.design, own)]
        cut = sorted({feature.id for _piece, feature in hinge_features(plan, own)} | set(cut))
        pieces = (pieces[0], *beside, *pieces[1:])
    within, struck = numbers["within_mm"], lines(places)
    if own.pattern == "quadrant":  # from either corner of the rim, where a leaning side has it
        ends = (own.leg_in_mm, own.leg_in_mm + own.length_mm)
        struck = [Setting("stop", mm, "mm", "each corner of the body's rim", "the knife line") for mm in ends]
    yield "last", make(
        "hinge_mortise", pieces, tool="by_hand", makes=cut,
        settings=(
            *struck, width(within), *((width(numbers["lid_mm"]),) if leans else ()), height(own.thick_mm),
        ), passes=2 * len(places), says=(*told, "hinge_mortise.router"), numbers=numbers,
        names={"side": plan.ring.sides[side].name}, title=f"hinge_mortise.{own.pattern}",
    )  # fmt: skip


def _bored(
    plan: Settled, own: Hinges, places: tuple[Spot, ...], numbers: dict[str, float]
) -> Iterator[tuple[Phase, Step]]:
    """Bores for barrels, and the bevel behind them."""
    pieces, cut = made(plan, "hinge", places)
    side, count = places[0].side, len(plan.ring.slabs)
    names = {"side": plan.ring.sides[side].name}
    leans = abs(numbers["out_by_mm"]) > SAME_SETTING
    ends = ("", ".leans") if leans else ("",)
    yield "last", make(
        "hinge_bore", pieces, tool="drill_press", makes=cut,
        settings=(*middles(places), bit(own.barrel_mm), height(own.deep_mm)), passes=2 * len(places),
        says=[f"hinge_bore{end}" for end in ends], numbers=numbers, names=names,
    )  # fmt: skip
    sides = [f"side.{plan.ring.sides[(side + other) % count].name}" for other in _BESIDE]
    slab, found = plan.ring.slabs[side], rims(plan)
    down = [bevel_down_mm(slab, own.in_mm, rim.level_mm - found[0].level_mm, rim.way) for rim in found]
    yield "last", make(
        "hinge_bevel", (sides[1],), tool="by_hand",
        makes=[f"{name}.hinge.bevel.{rim.word}" for name in sides for rim in found],
        settings=(width(own.in_mm), *((width(numbers["in_lid_mm"]),) if leans else ()),
                  *(height(mm) for mm in dict.fromkeys(round(mm, 6) for mm in down))),
        passes=2, says=[f"hinge_bevel{end}" for end in ends],
        numbers=numbers | {"down_mm": down[0], "down_lid_mm": down[1]}, names=names,
    )  # fmt: skip
