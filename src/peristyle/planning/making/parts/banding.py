"""Banding on the edges of sheet stock: on every edge of the sides that shows, and on none that is glued.

Glued on when the box is closed, trued and flat, so that it is mitered at the corners and never sawn through: it adds
its thickness to the height at every banded edge (common practice).
"""

import math
from collections.abc import Iterator
from typing import Final

from peristyle.core.planes import Point, Vector
from peristyle.model.design import Gable
from peristyle.planning.findings import Finding, Fix
from peristyle.planning.findings import Place as Where
from peristyle.planning.form.ring import SidePlan
from peristyle.planning.making.kind import Kind, Phase, Settled
from peristyle.planning.making.piece import Edge, Piece, Place
from peristyle.planning.making.step import Step, make
from peristyle.planning.section.covers import lowered_for_sliding, lowered_to_mm

SPARE_MM: Final = (
    2.0  # banding is cut so much longer than its side, and as much wider in all (common practice)
)


def _levels(plan: Settled) -> list[tuple[str, float, bool]]:
    """The banded edges: what they are called, how high they lie, and whether they face up.

    Not those that something is glued to, or that a roof lies on.
    """
    section, board = plan.job.design.section, plan.job.stock.board
    if not board.sheet or not plan.job.stock.banding_mm or not plan.ring.stands:
        return []
    glued_on = {
        name for name in ("bottom", "top") if (panel := getattr(section, name)) and panel.seat == "applied"
    }
    found = [("bottom", 0.0, False)] if section.feet is None and "bottom" not in glued_on else []
    lid = plan.section.lid
    if lid is not None and lid.body_mm > 0:
        found += [("body", lid.lost_low_mm, True), ("lid", lid.lost_high_mm, False)]
    covered = "top" in glued_on or isinstance(section.cover, Gable)
    return found if covered else [*found, ("top", plan.ring.height_mm, True)]


def _pieces(plan: Settled) -> Iterator[Piece]:
    for name, high, up in _levels(plan):
        for side in plan.ring.sides:
            level = high
            if name == "top" and lowered_for_sliding(plan.job.design, side.index):
                level = lowered_to_mm(plan.section)
            piece = _band(plan, side, name, level, up=up)
            if piece is not None:
                yield piece


def _rim_mm(plan: Settled, side: SidePlan, name: str) -> float | None:
    """How wide an edge is outside of the rabbet that a panel lies in; None where none is cut into it."""
    panels = {"bottom": ("bottom",), "top": ("top", "lid")}.get(name, ())
    for groove in plan.section.grooves:
        if groove.panel in panels and groove.seat == "rabbet" and groove.profiles:
            rim = min(z for _y, z in groove.profiles[side.index])
            return float(rim / plan.ring.slabs[side.index].cos_slope)
    return None


def _band(plan: Settled, side: SidePlan, name: str, high: float, *, up: bool) -> Piece | None:
    """The banding of one edge of a side: its outline is the edge's own, mitered at both ends."""
    share, thick = high / plan.ring.height_mm, plan.job.stock.banding_mm
    corners = [(a[0] + (b[0] - a[0]) * share, a[1] + (b[1] - a[1]) * share)
               for a, b in zip(side.foot, side.head, strict=True)]  # fmt: skip
    slab = plan.ring.slabs[side.index]
    size = math.hypot(slab.normal[0], slab.normal[1])
    into: Vector = (-slab.normal[0] / size, -slab.normal[1] / size, 0.0)
    way = 1.0 if up else -1.0
    along: Vector = (slab.along[0] * way, slab.along[1] * way, 0.0)
    x0, y0 = corners[0] if up else corners[1]

    def own(point: Point) -> Point:
        dx, dy = point[0] - x0, point[1] - y0
        return (dx * along[0] + dy * along[1], dx * into[0] + dy * into[1])

    order = (0, 1, 2, 3) if up else (1, 0, 3, 2)
    face = tuple(own(corners[k]) for k in order)
    wide = face[3][1]
    rim = _rim_mm(plan, side, name)
    if rim is not None and wide > 0.0:  # as wide as what the rabbet leaves
        share_in = max(0.0, min(1.0, rim / wide))
        wide *= share_in
        inner = tuple(
            (a[0] + (b[0] - a[0]) * share_in, a[1] + (b[1] - a[1]) * share_in)
            for a, b in ((face[1], face[2]), (face[0], face[3]))
        )
        face = (face[0], face[1], *inner)
    if wide <= 0.0:
        return None
    ends = {"start": (face[3][0] - face[0][0]) / wide, "end": (face[1][0] - face[2][0]) / wide}
    return Piece(
        id=f"band.{side.name}.{name}",
        part="band",
        name=f"Banding {side.name}, {name}",
        alike=f"banding, {name}",
        stock="banding",
        thickness_mm=thick,
        grain_deg=0.0,
        show_face=face,
        inside_face=face,
        edges=tuple(Edge(end, 0.0, -math.degrees(math.atan(slant))) for end, slant in ends.items()),
        place=Place((x0, y0, high + thick * way), along, into, (0.0, 0.0, -way)),
        says=("band",),
        numbers={"long_mm": face[1][0] - face[0][0] + SPARE_MM, "wide_mm": wide + SPARE_MM},
    )


def _steps(plan: Settled) -> Iterator[tuple[Phase, Step]]:
    pieces = list(_pieces(plan))
    if not pieces:
        return
    names = tuple(piece.id for piece in pieces)
    numbers = {
        "count": float(len(pieces)), "long_mm": math.fsum(piece.numbers["long_mm"] for piece in pieces),
        "wide_mm": max(piece.numbers["wide_mm"] for piece in pieces), "band_mm": plan.job.stock.banding_mm,
    }  # fmt: skip
    edges = [name for name, _high, _up in _levels(plan)]
    yield "last", make("band_cut", names, tool="by_hand", makes=names, says=("band_cut",), numbers=numbers)
    yield "last", make(
        "band", names, tool="by_hand", says=("band", "band.grows"), numbers=numbers,
        names={"edges": ", ".join(edges)},
    )  # fmt: skip


def _findings(plan: Settled) -> Iterator[Finding]:
    board, place = plan.job.stock.board, Where("board")
    if not board.sheet or not plan.ring.stands:
        return
    pieces = list(_pieces(plan))
    if not pieces:
        fix = Fix("banding", (("stock.banding_mm", 0.5),), {"band_mm": 0.5})
        yield Finding("sheet_edges", "note", place, {}, (fix,))
        return
    levels = _levels(plan)
    numbers = {
        "edges": float(len(pieces)), "long_mm": math.fsum(piece.numbers["long_mm"] for piece in pieces),
        "wide_mm": max(piece.numbers["wide_mm"] for piece in pieces),
        "grows_mm": len(levels) * plan.job.stock.banding_mm,
    }  # fmt: skip
    yield Finding("sheet_banded", "note", place, numbers)


BANDING: Final = Kind("band", _pieces, steps=_steps, findings=_findings)
