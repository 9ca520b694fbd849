"""The rims of body and lid, and what is sunk into them from where they meet."""

from typing import Final, NamedTuple

from peristyle.core.outlines import Outline as Points
from peristyle.core.planes import Point
from peristyle.planning.making.kind import Settled
from peristyle.planning.making.parts.walls import stands
from peristyle.planning.making.piece import Feature
from peristyle.planning.making.setting import Setting
from peristyle.planning.section.hardware import Spot, rims_of

PAST_MM: Final = 1.0  # how far what is sunk in is drawn out of the wood


class Rim(NamedTuple):
    """One of the two rims: what it is of, its level, which way the wood lies from it."""

    word: str
    level_mm: float
    way: float


def rims(plan: Settled) -> list[Rim]:
    """The rims of the sides: both where a lid is sawn free, the body's where it is a board."""
    found = rims_of(plan.job.design, plan.section)
    if found is None:
        return []
    body = Rim("body", found.body_mm, -1.0)
    return [body] if found.board_mm else [body, Rim("lid", found.lid_mm, 1.0)]


def board_mm(plan: Settled) -> float:
    """How thick a lid is that is a board (mm); 0 of one that is sawn free, or none."""
    found = rims_of(plan.job.design, plan.section)
    return found.board_mm if found else 0.0


def at(plan: Settled, side: int, along: float, out: float) -> Point:
    """A point of the box from above: so far along a side's bottom edge, and so far out from the origin."""
    slab = plan.ring.slabs[side]
    (x0, y0), (ax, ay, _az) = plan.ring.sides[side].foot[0], slab.along
    far = out - slab.offset_mm
    return x0 + ax * along + slab.ux * far, y0 + ay * along + slab.uy * far


def sunk(plan: Settled, side: int, name: str, kind: str, outline: Points, levels: tuple[float, float],
         in_mm: float) -> tuple[str, Feature]:  # fmt: skip
    """What is cut plumb into a side between two levels, its outline given as seen from above."""
    place = stands(plan.ring.slabs[side], plan.ring.sides[side], 0.0)
    ends = tuple(tuple(place.back((x, y, z)) for x, y in outline) for z in levels)
    piece = f"side.{plan.ring.sides[side].name}"
    return piece, Feature(f"{piece}.{name}", kind, "show", in_mm=in_mm, ends=ends)


def overhang_mm(plan: Settled, side: int) -> float | None:
    """How far a lid that is a board stands out over a side (mm); None of one that is sawn free."""
    found, groove = rims_of(plan.job.design, plan.section), plan.section.groove("lid")
    if found is None or not found.board_mm or groove is None:
        return None
    return groove.edges_mm[side] - plan.ring.slabs[side].outer_mm(found.body_mm)


def lines(places: tuple[Spot, ...]) -> list[Setting]:
    """Where each begins and ends, from the start of the side's bottom edge, plumb."""
    return [
        _from_start(where, "the knife line") for spot in places for where in (spot.begins_mm, spot.ends_mm)
    ]


def middles(places: tuple[Spot, ...]) -> list[Setting]:
    """Where the middle of each is bored, from the start of the side's bottom edge, plumb."""
    return [_from_start(spot.middle_mm, "the middle of the bit") for spot in places]


def _from_start(mm: float, to: str) -> Setting:
    return Setting("stop", mm, "mm", "the start of the side's bottom edge, plumb", to)


def made(plan: Settled, word: str, places: tuple[Spot, ...]) -> tuple[tuple[str, ...], list[str]]:
    """The pieces that hardware is let into along a side, and what is made in them."""
    side = f"side.{plan.ring.sides[places[0].side].name}"
    own = [f"{side}.{word}.{spot.number}.{rim.word}" for spot in places for rim in rims(plan)]
    if not board_mm(plan):
        return (side,), own
    return (side, "panel.lid"), [*own, *(f"panel.lid.{word}.{spot.number}" for spot in places)]
