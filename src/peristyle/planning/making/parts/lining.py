"""Lining: leaves of foam or card on floor and walls and under the lid, and the cloth that covers them."""

from collections.abc import Iterator, Sequence
from typing import Final, NamedTuple

from peristyle.core.lengths import MM_PER_INCH
from peristyle.core.outlines import vertices
from peristyle.core.planes import Slab
from peristyle.model.design import Design, replace, side_name
from peristyle.planning.findings import Finding, Fix, Place
from peristyle.planning.inside.contents import lining_up_mm
from peristyle.planning.making.kind import Kind, Phase, Settled
from peristyle.planning.making.parts.panels import board
from peristyle.planning.making.piece import Edge, Piece
from peristyle.planning.making.piece import Place as Where
from peristyle.planning.making.setting import thickness
from peristyle.planning.making.step import Step, make

_TURN_MM: Final = 15.0  # of cloth turned over behind a leaf, all round (common practice)
_TURN_IN_MM: Final = MM_PER_INCH * 5 / 8
_LEAST_LEAF_MM: Final = 0.3  # a thinner leaf is left out: the cloth is glued to the wood
_LEAST_MM: Final = 3.0  # a smaller piece of lining is left out (our rule)


class _Room(NamedTuple):
    """A part of the inside with its walls: its slabs, how high their feet lie, from where to where it is lined."""

    word: str
    slabs: Sequence[Slab]
    base_mm: float
    low_mm: float
    high_mm: float


def _roof_mm(plan: Settled) -> float:
    """How high the underside of what closes the box lies, as it is glued (mm)."""
    design, lid = plan.job.design, plan.section.lid
    return design.floor_mm + design.room_mm + (lid.lost_mm if lid else 0.0)


def _rooms(plan: Settled) -> Iterator[_Room]:
    """The body, and a lid that is sawn free; walls of a liner as high as it is."""
    design, lid, liner = plan.job.design, plan.section.lid, plan.liner
    thick = design.inside.lining_mm
    under = lining_up_mm(design) - thick
    low, high = design.floor_mm + thick, lid.lost_low_mm if lid else _roof_mm(plan) - under
    own, top = design.inside.liner, 0.0
    if liner is not None and own is not None and liner.ring.stands:
        top = liner.base_mm + own.height_mm
        yield _Room("", liner.ring.slabs, liner.base_mm, low, top if lid else min(top, high))
    else:
        yield _Room("", plan.ring.slabs, 0.0, low, high)
    if lid is not None and lid.body_mm > 0:
        proud = max(0.0, top - lid.lost_low_mm)  # of a lip that goes up into the lid
        yield _Room("lid", plan.ring.slabs, 0.0, lid.lost_high_mm + proud, _roof_mm(plan) - under)


def _pieces(plan: Settled) -> Iterator[Piece]:
    inside = plan.job.design.inside
    if inside.lining_mm <= 0 or not plan.ring.stands:
        return
    for room in _rooms(plan):
        if not room.word:
            yield from _flat(plan, room.slabs, room.base_mm, "floor", plan.job.design.floor_mm)
        yield from _walls(plan, room)
    if lining_up_mm(plan.job.design) > inside.lining_mm:
        yield from _flat(plan, plan.ring.slabs, 0.0, "top", _roof_mm(plan) - inside.lining_mm)


def _foam_mm(plan: Settled) -> float:
    """How thick the leaves are under their cloth; 0 where it is cloth alone."""
    inside = plan.job.design.inside
    foam = inside.lining_mm - inside.cloth_mm
    return foam if foam >= _LEAST_LEAF_MM else 0.0


def _flat(
    plan: Settled, slabs: Sequence[Slab], base_mm: float, word: str, rests_mm: float
) -> Iterator[Piece]:
    """The leaf on the floor, or the one under what closes the box: from wall to wall, less the cloth on its edges.

    `base_mm` is how high the feet of the ring lie whose walls it reaches to.
    """
    inside, foam = plan.job.design.inside, _foam_mm(plan)
    levels = [rests_mm - base_mm, rests_mm + inside.lining_mm - base_mm]
    cloth = inside.cloth_mm if foam else 0.0
    outline = vertices(slabs, [min(slab.inner_mm(z) for z in levels) - cloth for slab in slabs])
    xs, ys = [x for x, _y in outline], [y for _x, y in outline]
    if min(max(xs) - min(xs), max(ys) - min(ys)) < _LEAST_MM:
        return
    thick = foam or inside.lining_mm
    rests = rests_mm if word == "floor" else rests_mm + inside.lining_mm - thick
    made = board(f"lining.{word}", "Lining of the floor" if word == "floor" else "Lining under the lid", outline,
                 thick, rests)  # fmt: skip
    yield replace(made, part="lining", stock="foam or card" if foam else "cloth", alike="")


def _walls(plan: Settled, room: _Room) -> Iterator[Piece]:
    """A leaf on each wall, as long as its front face between those beside it, less the cloth on its edges."""
    inside, foam = plan.job.design.inside, _foam_mm(plan)
    cloth = inside.cloth_mm if foam else 0.0
    low, high = room.low_mm + cloth - room.base_mm, room.high_mm - cloth - room.base_mm
    if high - low < _LEAST_MM:
        return
    fronts = [
        vertices(room.slabs, [slab.inner_mm(z, slab.thickness_mm + inside.lining_mm) for slab in room.slabs])
        for z in (low, high)
    ]
    thick = foam or inside.lining_mm
    for index, slab in enumerate(room.slabs):
        ax, ay, _az = slab.along
        spans = [
            (start[0] * ax + start[1] * ay + cloth, end[0] * ax + end[1] * ay - cloth)
            for start, end in ((front[index - 1], front[index]) for front in fronts)
        ]
        (a0, b0), (a1, b1) = spans
        if min(b0 - a0, b1 - a1) < _LEAST_MM:
            continue
        up = (high - low) / slab.cos_slope
        face = ((0.0, 0.0), (b0 - a0, 0.0), (b0 - a1, up), (b0 - b1, up))
        out = slab.inner_mm(low, slab.thickness_mm + thick)
        nx, ny, nz = slab.normal
        ux, uy, uz = slab.up_face
        origin = (ax * b0 + slab.ux * out, ay * b0 + slab.uy * out, low + room.base_mm)
        name = side_name(index)
        where = f"{name} in the lid" if room.word else name
        yield Piece(
            id=f"lining.{room.word + '.' if room.word else ''}{name}", part="lining", name=f"Lining of side {where}",
            alike="lining of the lid’s walls" if room.word else "lining of the walls",
            stock="foam or card" if foam else "cloth", thickness_mm=thick, grain_deg=0.0, show_face=face,
            inside_face=face,
            edges=(Edge("bottom", 0.0), Edge("end", 0.0), Edge("top", 0.0), Edge("start", 0.0)),
            place=Where(origin, (-ax, -ay, 0.0), (ux, uy, uz), (nx, ny, nz)),
        )  # fmt: skip


def _steps(plan: Settled) -> Iterator[tuple[Phase, Step]]:
    pieces = tuple(_pieces(plan))
    if not pieces:
        return
    design, foam = plan.job.design, _foam_mm(plan)
    turn = _TURN_IN_MM if design.units == "in" else _TURN_MM
    numbers = {
        "sides": float(len(plan.ring.sides)),
        "turn_mm": turn,
        "cloth_mm": design.inside.cloth_mm,
        "lining_mm": design.inside.lining_mm,
    }
    for piece in pieces:
        key = piece.id.removeprefix("lining.")
        (x0, _y0), (x1, _y1), *_rest = piece.show_face
        long, wide = piece.size_mm
        leaf = piece.id not in ("lining.floor", "lining.top")
        numbers |= {f"leaf.{key}.long_mm": x1 - x0 if leaf else long, f"leaf.{key}.wide_mm": wide}
        if leaf and abs(piece.show_face[2][0] - piece.show_face[3][0] - (x1 - x0)) > 1e-6:
            numbers[f"leaf.{key}.top_mm"] = piece.show_face[2][0] - piece.show_face[3][0]
    names = tuple(piece.id for piece in pieces)
    odd = () if len(plan.ring.sides) == 4 else ("lining.template",)
    if foam:
        yield "finish", make(
            "lining", names, tool="by_hand", makes=names, settings=(thickness(foam),), says=("lining", *odd),
            numbers=numbers,
        )  # fmt: skip
        yield "finish", make("lining_cover", names, tool="by_hand", says=("lining_cover",), numbers=numbers)
    else:
        yield "finish", make(
            "lining", names, tool="by_hand", makes=names, title="lining.cloth", says=("lining.cloth", *odd),
            numbers=numbers,
        )  # fmt: skip
    cut_through = ("lining_set.openings",) if _covers_openings(design) else ()
    yield (
        "finish",
        make("lining_set", names, tool="by_hand", says=("lining_set", *cut_through), numbers=numbers),
    )


def _covers_openings(design: Design) -> bool:
    """Whether leaves lie behind openings: all but notches in the rim, over which none reaches."""
    return any(opening.kind != "notch" for opening in design.section.openings)


def _findings(plan: Settled) -> Iterator[Finding]:
    """What stands where leaves run from wall to wall, and openings that they cover."""
    design = plan.job.design
    if design.inside.lining_mm <= 0 or not plan.ring.stands:
        return
    bare = Fix("no_lining", (("inside.lining_mm", 0.0),))
    for what, there, address in (
        ("dividers", bool(plan.dividers.pieces), "inside.dividers"),
        ("fillets", design.inside.fillets is not None and plan.liner is None, "inside.fillets"),
        ("blocks", bool(plan.corner_blocks.blocks) and plan.liner is None, "joints.corner_blocks"),
    ):
        if there:
            without = Fix(f"no_{'corner_blocks' if what == 'blocks' else what}", ((address, False),))
            yield Finding("lining_meets", "stop", Place("section"), {}, (bare, without), kind=what)
    if _covers_openings(design):
        yield Finding("lining_over_opening", "caution", Place("section"), {}, (bare,))


LINING: Final = Kind("lining", _pieces, steps=_steps, findings=_findings)
