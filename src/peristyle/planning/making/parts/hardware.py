"""Hinges and magnets let into the rims of body and lid."""

from collections.abc import Iterator
from typing import Final, NamedTuple

from peristyle.core.outlines import flattened, slot
from peristyle.core.planes import Vector
from peristyle.model.design import Hinges, Magnets
from peristyle.planning.findings import Finding
from peristyle.planning.making.kind import Kind, Phase, Settled
from peristyle.planning.making.parts.walls import stands
from peristyle.planning.making.piece import Feature
from peristyle.planning.making.setting import SAME_SETTING, Setting, bit, height, width
from peristyle.planning.making.step import Step, make
from peristyle.planning.section.hardware import Spot, hardware_findings, rims_of, side_of, spots

_PAST_MM: Final = 1.0  # how far a mortise is drawn out of the wood


class _Rim(NamedTuple):
    """One of the two rims: what it is of, its level, which way the wood lies from it."""

    word: str
    level_mm: float
    way: float


def _rims(plan: Settled) -> list[_Rim]:
    """The rims of the sides: both where a lid is sawn free, the body's where it is a board."""
    found = rims_of(plan.job.design, plan.section)
    if found is None:
        return []
    body = _Rim("body", found.body_mm, -1.0)
    return [body] if found.board_mm else [body, _Rim("lid", found.lid_mm, 1.0)]


def _features(plan: Settled) -> Iterator[tuple[str, Feature]]:
    design = plan.job.design
    for part in (design.section.hinges, design.section.magnets):
        if part is None or not plan.ring.stands:
            continue
        for spot in spots(design, plan.ring, plan.section, part):
            for rim in _rims(plan):
                if isinstance(part, Hinges):
                    yield _mortise(plan, part, spot, rim)
                else:
                    yield _pocket(plan, part, spot, rim)
            rims = rims_of(design, plan.section)
            if rims is not None and rims.board_mm:
                yield from _in_board(plan, part, spot)


def _in_board(plan: Settled, part: Hinges | Magnets, spot: Spot) -> Iterator[tuple[str, Feature]]:
    """What is let into the underside of a lid that is a board: a leaf with its barrel, or a magnet."""
    slab, side, level = plan.ring.slabs[spot.side], plan.ring.sides[spot.side], _rims(plan)[0].level_mm
    place = stands(slab, side, 0.0)
    face, (x0, y0, _z0), (ax, ay, _az) = slab.outer_mm(level), place.origin, slab.along

    def at(run: float, out: float) -> tuple[float, float]:
        far = out - slab.offset_mm
        return x0 + ax * run + slab.ux * far, y0 + ay * run + slab.uy * far

    if isinstance(part, Magnets):
        middle = (face + slab.inner_mm(level)) / 2
        x, y = at(spot.middle_mm, middle)
        deep = part.thick_mm + part.under_mm
        yield "panel.lid", Feature(f"panel.lid.magnet.{spot.number}", "pocket", "inside", in_mm=deep,
                                   outline=slot(x, y, part.wide_mm, part.wide_mm))  # fmt: skip
        return

    def rectangle(inner: float, outer: float) -> tuple[tuple[float, float], ...]:
        ends = (spot.begins_mm, spot.ends_mm)
        return at(ends[0], outer), at(ends[1], outer), at(ends[1], inner), at(ends[0], inner)

    axis, radius = face + part.out_mm, part.barrel_mm / 2
    name = f"panel.lid.hinge.{spot.number}"
    yield "panel.lid", Feature(name, "mortise", "inside", in_mm=part.thick_mm,
                               outline=rectangle(axis - part.leaf_mm, axis))  # fmt: skip
    if radius > part.thick_mm:
        yield "panel.lid", Feature(f"{name}.barrel", "mortise", "inside", in_mm=radius,
                                   outline=rectangle(axis - radius, axis + radius))  # fmt: skip


def _in_side(plan: Settled, spot: Spot, along: float, out: float, z: float) -> Vector:
    """A point of the box in the side's own frame: along its bottom edge, so far in from its show face at the rim."""
    slab, side = plan.ring.slabs[spot.side], plan.ring.sides[spot.side]
    place = stands(slab, side, 0.0)
    ax, ay, _az = slab.along
    x0, y0, _z0 = place.origin
    # The foot of the plumb line: at the start of the bottom edge, moved out to where the point lies.
    far = out - slab.offset_mm
    return place.back((x0 + ax * along + slab.ux * far, y0 + ay * along + slab.uy * far, z))


def _mortise(plan: Settled, own: Hinges, spot: Spot, rim: _Rim) -> tuple[str, Feature]:
    """Where a leaf lies: level, as deep as it is thick, from the outside in."""
    slab, side = plan.ring.slabs[spot.side], plan.ring.sides[spot.side]
    # Both leaves reach as far in from the axis, which lies out from the body's face: where the side leans, the lid's
    # rim stands a little further out or in than the body's.
    inner = slab.outer_mm(_rims(plan)[0].level_mm) - (own.leaf_mm - own.out_mm)
    outer = slab.outer_mm(rim.level_mm) + _PAST_MM + own.thick_mm
    floor, past = rim.level_mm + rim.way * own.thick_mm, rim.level_mm - rim.way * _PAST_MM
    ends = tuple(
        tuple(
            _in_side(plan, spot, along, out, z)
            for out, z in ((outer, floor), (inner, floor), (inner, past), (outer, past))
        )
        for along in (spot.begins_mm, spot.ends_mm)
    )
    name = f"side.{side.name}.hinge.{spot.number}.{rim.word}"
    return f"side.{side.name}", Feature(name, "mortise", "show", in_mm=own.leaf_mm - own.out_mm, ends=ends)


def _pocket(plan: Settled, own: Magnets, spot: Spot, rim: _Rim) -> tuple[str, Feature]:
    """A round pocket in the middle of the rim, plumb."""
    slab, side = plan.ring.slabs[spot.side], plan.ring.sides[spot.side]
    middle = (slab.outer_mm(rim.level_mm) + slab.inner_mm(rim.level_mm)) / 2
    floor, past = rim.level_mm + rim.way * (own.thick_mm + own.under_mm), rim.level_mm - rim.way * _PAST_MM
    round_one = flattened(slot(spot.middle_mm, middle, own.wide_mm, own.wide_mm))
    ends = tuple(
        tuple(_in_side(plan, spot, along, out, z) for along, out in round_one) for z in (past, floor)
    )
    name = f"side.{side.name}.magnet.{spot.number}.{rim.word}"
    return f"side.{side.name}", Feature(name, "pocket", "show", in_mm=own.wide_mm, ends=ends)


def _lines(places: tuple[Spot, ...]) -> list[Setting]:
    """Where each begins and ends, from the start of the side's bottom edge, plumb."""
    return [
        Setting("stop", at, "mm", "the start of the side's bottom edge, plumb", "the knife line")
        for spot in places
        for at in (spot.begins_mm, spot.ends_mm)
    ]


def _made(plan: Settled, part: Hinges | Magnets, word: str) -> tuple[tuple[str, ...], list[str]]:
    """The pieces that hardware is let into, and what is made in them."""
    design = plan.job.design
    side = f"side.{plan.ring.sides[side_of(design, part)].name}"
    places = spots(design, plan.ring, plan.section, part)
    made = [f"{side}.{word}.{spot.number}.{rim.word}" for spot in places for rim in _rims(plan)]
    rims = rims_of(design, plan.section)
    if rims is None or not rims.board_mm:
        return (side,), made
    return (side, "panel.lid"), [*made, *(f"panel.lid.{word}.{spot.number}" for spot in places)]


def _overhang_mm(plan: Settled, side: int) -> float | None:
    """How far a lid that is a board stands out over a side (mm); None of one that is sawn free."""
    rims, groove = rims_of(plan.job.design, plan.section), plan.section.groove("lid")
    if rims is None or not rims.board_mm or groove is None:
        return None
    return groove.edges_mm[side] - plan.ring.slabs[side].outer_mm(rims.body_mm)


def _steps(plan: Settled) -> Iterator[tuple[Phase, Step]]:
    design = plan.job.design
    hinges, magnets = design.section.hinges, design.section.magnets
    if not _rims(plan):
        return
    if magnets is not None:
        yield from _magnet_steps(plan, magnets)
    if hinges is None:
        return
    places = spots(design, plan.ring, plan.section, hinges)
    side = plan.ring.sides[side_of(design, hinges)]
    piece, made = _made(plan, hinges, "hinge")
    within = hinges.leaf_mm - hinges.out_mm
    slab, rims = plan.ring.slabs[side.index], _rims(plan)
    steps_out = slab.outer_mm(rims[-1].level_mm) - slab.outer_mm(rims[0].level_mm)
    over = _overhang_mm(plan, side.index)
    steps_out += over or 0.0
    leans = abs(steps_out) > SAME_SETTING
    told = ["hinge_mortise"] if over is None else ["hinge_mortise.board"]
    told += ["hinge_mortise.leans"] if leans and over is None else []
    if over is None:
        told.append("hinge_mortise.barrel")
    elif hinges.barrel_mm / 2 > hinges.thick_mm:
        told.append("hinge_mortise.channel")
    numbers = {
        "count": float(hinges.count), "out_mm": hinges.out_mm, "barrel_mm": hinges.barrel_mm, "within_mm": within,
        "screw_mm": hinges.screw_mm, "thick_mm": hinges.thick_mm, "half_mm": hinges.thick_mm / 2,
        "screws": float(2 * hinges.count * hinges.screws), "lid_mm": within + steps_out, "over_mm": over or 0.0,
        "deep_mm": hinges.barrel_mm / 2, "from_mm": (over or 0.0) - hinges.out_mm + hinges.barrel_mm / 2,
    }  # fmt: skip
    names = {"side": side.name}
    yield "last", make("try_hinge", (), tool="scrap", says=("try_hinge",), numbers=numbers)
    yield "last", make(
        "hinge_mortise", piece, tool="by_hand",
        makes=made,
        settings=(
            *_lines(places), width(within), *((width(within + steps_out),) if leans else ()), height(hinges.thick_mm),
        ), passes=2 * hinges.count, says=(*told, "hinge_mortise.router"), numbers=numbers, names=names,
    )  # fmt: skip
    yield (
        "last",
        make("hinge_hang", piece, tool="by_hand", says=("hinge_hang",), numbers=numbers, names=names),
    )
    yield "last", make("hinge_off", piece, tool="by_hand", says=("hinge_off",), numbers=numbers, names=names)
    yield (
        "finish",
        make("hinge_again", piece, tool="by_hand", says=("hinge_again",), numbers=numbers, names=names),
    )


def _magnet_steps(plan: Settled, own: Magnets) -> Iterator[tuple[Phase, Step]]:
    design = plan.job.design
    places = spots(design, plan.ring, plan.section, own)
    side = plan.ring.sides[side_of(design, own)]
    piece, made = _made(plan, own, "magnet")
    over = _overhang_mm(plan, side.index)
    half = plan.ring.slabs[side.index].level_thickness_mm / 2
    numbers = {"pairs": float(own.count), "deep_mm": own.thick_mm + own.under_mm, "under_mm": own.under_mm,
               "each": 2.0 * own.count, "in_mm": half + (over or 0.0)}  # fmt: skip
    middles = [
        Setting(
            "stop",
            spot.middle_mm,
            "mm",
            "the start of the side's bottom edge, plumb",
            "the middle of the bit",
        )
        for spot in places
    ]
    yield "last", make(
        "magnet_bore", piece, tool="drill_press",
        makes=made,
        settings=(*middles, bit(own.wide_mm), height(own.thick_mm + own.under_mm)), passes=2 * own.count,
        says=("magnet_bore", *(() if over is None else ("magnet_bore.board",))), numbers=numbers,
        names={"side": side.name},
    )  # fmt: skip
    yield "finish", make("magnet_glue", piece, tool="by_hand", says=("magnet_glue",), numbers=numbers,
                         names={"side": side.name})  # fmt: skip


def _findings(plan: Settled) -> Iterator[Finding]:
    return hardware_findings(plan.job, plan.ring, plan.section, plan.liner)


HARDWARE = Kind("hardware", features=_features, steps=_steps, findings=_findings)
