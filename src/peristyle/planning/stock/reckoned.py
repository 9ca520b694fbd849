"""Volumes, waste and cost of the sides' board, and what is left of it."""

import math
from typing import Final

from msgspec import Struct

from peristyle.model.rack import part_of
from peristyle.model.stock import Board
from peristyle.planning.cutters import cutter
from peristyle.planning.plan import Plan

BOARD_FOOT_MM3: Final = 144 * 25.4**3  # a board one foot square and one inch thick (trade definition)
LEAST_OFFCUT_MM: Final = 40.0  # what is shorter or narrower than this goes into the bin


class Reckoned(Struct, frozen=True):
    """Volumes in mm³: of the board, of what this box takes of it, and of the sides; the share of what is taken that
    becomes shavings and offcuts too small to keep, and the cost of what is taken (None without a price).
    """

    board_mm3: float
    taken_mm3: float
    sides_mm3: float
    cost: float | None

    @property
    def waste(self) -> float:
        """The share of what is taken that is lost, 0 to 1."""
        return max(0.0, 1.0 - self.sides_mm3 / self.taken_mm3) if self.taken_mm3 else 0.0


def reckoned(plan: Plan) -> Reckoned:
    """What the sides take of their board, all of it but the offcuts that go back on the rack; where the wrap goes on
    from other boards, of those what is ripped and crosscut for it.
    """
    board = plan.job.stock.board
    known = {one.name: one for one in plan.job.stock.rack}
    others, more = 0.0, 0.0
    for name in {run.board for run in plan.wrap.runs if run.board}:
        end = max(run.end_mm for run in plan.wrap.runs if run.board == name)
        own = known[name]
        took = min(end, own.length_mm) * own.width_mm * own.thickness_mm
        others += took
        more += own.price * min(1.0, end / own.length_mm)
    whole = board.length_mm * board.width_mm * board.thickness_mm
    left = math.fsum(one.length_mm * one.width_mm * one.thickness_mm for one in offcuts(plan))
    sides = math.fsum(
        side.thickness_mm * (_area(side.outer_face) + _area(side.inner_face)) / 2 for side in plan.ring.sides
    )
    taken = max(whole - left, 0.0)
    cost = board.price * taken / whole + more if board.price or more else None
    return Reckoned(whole, taken + others, sides, cost)


def _area(face: tuple[tuple[float, float], ...]) -> float:
    pairs = zip(face, (*face[1:], *face[:1]), strict=True)
    return abs(math.fsum(a[0] * b[1] - a[1] * b[0] for a, b in pairs)) / 2


def offcuts(plan: Plan) -> tuple[Board, ...]:
    """What is left to keep: beyond the strip and before it, over the board's whole width; then beside it.

    Sawn off in this order, each with its kerf. A book or a resawn board leaves none that is a board.
    """
    job, wrap = plan.job, plan.wrap
    board = job.stock.board
    if not wrap.pieces or wrap.spare_mm < 0 or board.method == "book" or board.resaw:
        return ()
    kerf = cutter(job, "rip").least_mm
    end = wrap.start_mm + wrap.used_mm
    top = wrap.low_mm + wrap.strip_mm + kerf
    parts = (
        ("beyond", end, 0.0, board.length_mm - end, board.width_mm),
        ("before", board.end_trim_mm, 0.0, board.shift_mm - kerf, board.width_mm),
        ("beside", wrap.start_mm, top, wrap.used_mm, board.width_mm - top),
    )
    return tuple(
        part_of(board, f"{board.name[:90]}, {where}", x, y, long, wide)
        for where, x, y, long, wide in parts
        if long >= LEAST_OFFCUT_MM and wide >= LEAST_OFFCUT_MM
    )
