"""Where hardware lies that is screwed to the faces: latches over the lid's joint, brackets round the corners."""

import math
from collections.abc import Iterator
from typing import Final, NamedTuple

from peristyle.core.outlines import Outline as Points
from peristyle.core.outlines import box
from peristyle.core.planes import Point, dot
from peristyle.model.design import Brackets, Latch
from peristyle.planning.form.ring import SidePlan
from peristyle.planning.making.kind import Settled

# Of a leaf's length, from the arris: no screw is nearer, where those of the two leaves would meet (our rule).
_NEAR_END: Final = 0.4


class Plate(NamedTuple):
    """One plate on one face, in its side's own frame: its outline and the middles of its screws."""

    word: str  # latch or bracket
    name: str
    side: SidePlan
    outline: Points
    screws: tuple[Point, ...]
    in_mm: float
    screw_mm: float
    bore_mm: float


def plates(plan: Settled) -> Iterator[Plate]:
    """All plates that are screwed to the sides' faces."""
    section = plan.job.design.section
    if not plan.ring.stands:
        return
    if section.latch is not None:
        yield from _latches(plan, section.latch)
    if section.brackets is not None:
        for index in range(len(plan.ring.sides)):
            yield from _leaves(plan, section.brackets, index)


def span(side: SidePlan, up: float) -> tuple[float, float]:
    """From where to where a side's face reaches at a height along it."""
    (ax, _ay), (bx, _by), (cx, cy), (dx, dy) = side.outer_face
    return ax + (dx - ax) * up / dy, bx + (cx - bx) * up / cy


def joint(plan: Settled, side: SidePlan) -> tuple[float, float] | None:
    """Where along a side's face body and lid end, as trued; None where no lid is sawn free."""
    lid = plan.section.lid
    if lid is None or lid.body_mm <= 0:
        return None
    cos = plan.ring.slabs[side.index].cos_slope
    return lid.lost_low_mm / cos, lid.lost_high_mm / cos


def _latches(plan: Settled, own: Latch) -> Iterator[Plate]:
    side = plan.ring.sides[latch_side(plan, own)]
    rims = joint(plan, side)
    if rims is None:
        return
    start, end = span(side, rims[0])
    first, last = start + own.inset_mm, end - own.inset_mm
    if own.count == 1:
        first = last = (start + end) / 2
    for number in range(own.count):
        x = first + (last - first) * number / max(1, own.count - 1)
        xs = (x,) if own.screws == 1 else (x - own.apart_mm / 2, x + own.apart_mm / 2)
        for word, level, reach in (("body", rims[0], -own.body_mm), ("lid", rims[1], own.lid_mm)):
            low, high = sorted((level, level + reach))
            outline = box(x - own.wide_mm / 2, low, x + own.wide_mm / 2, high)
            middles = tuple((at, level + reach / 2) for at in xs)
            yield Plate("latch", f"latch.{number + 1}.{word}", side, outline, middles, own.in_mm, own.screw_mm,
                        own.bore_mm)  # fmt: skip


def latch_side(plan: Settled, own: Latch) -> int:
    """The side they are on: the front, if nothing is said."""
    front = plan.job.design.form.front
    return front if own.side is None else min(own.side, len(plan.ring.sides) - 1)


def screws_out_mm(own: Brackets) -> list[float]:
    """How far from the corner's arris the screws of a leaf are, level along the face (mm)."""
    near, far = own.long_mm * _NEAR_END, own.long_mm - max(2 * own.bore_mm, own.long_mm / 8)
    if own.screws == 1:
        return [(near + far) / 2]
    return [near + (far - near) * n / (own.screws - 1) for n in range(own.screws)]


def _leaves(plan: Settled, own: Brackets, index: int) -> Iterator[Plate]:
    """The leaves on one side: at its start and its end, below, above, or both."""
    side = plan.ring.sides[index]
    top = side.outer_face[2][1]
    rows = {"bottom": (0.0, own.high_mm), "top": (top - own.high_mm, top)}
    for row in ("bottom", "top") if own.at == "both" else (own.at,):
        low, high = rows[row]
        middle = (low + high) / 2
        for end, way in (("start", 1.0), ("end", -1.0)):
            at = 0 if end == "start" else 1
            foot, head, here = span(side, low)[at], span(side, high)[at], span(side, middle)[at]
            reach = way * own.long_mm
            outline: Points = ((foot, low), (foot + reach, low), (head + reach, high), (head, high))
            if way < 0:
                outline = outline[::-1]
            screws = tuple((here + way * out, middle) for out in screws_out_mm(own))
            yield Plate(
                "bracket", f"bracket.{row}.{end}", side, outline, screws, own.in_mm, own.screw_mm, own.bore_mm
            )


def angles_deg(plan: Settled) -> list[float]:
    """The angle between the faces at the end of each side, inside the box (degrees)."""
    slabs = plan.ring.slabs
    found = []
    for slab, after in zip(slabs, (*slabs[1:], slabs[0]), strict=True):
        found.append(180.0 - math.degrees(math.acos(max(-1.0, min(1.0, dot(slab.normal, after.normal))))))
    return found
