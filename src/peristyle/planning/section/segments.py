"""Panels glued up of segments: a pie of triangles or a ring of trapezoids."""

import math
from typing import Final

from msgspec import Struct

from peristyle.core.lengths import MM_PER_INCH
from peristyle.model.design import Segments

CUT_ERROR_DEG: Final = 0.1  # what a good scale lets slip in one cut (common practice)


class SegmentsPlan(Struct, frozen=True):
    """One segment and how it comes off its strip. Lengths mm, angles degrees.

    `outer_mm` and `inner_mm` are the segment's two parallel edges (inner 0 for a triangle),
    `strip_mm` the width of the strip it is cut from, `length_mm` what all of them take of it, turned
    about in turn; `hole_mm` the hole a ring leaves, across its flats. `last_joint_deg` is by how much
    the last joint opens for CUT_ERROR_DEG in every cut; `rounds` the sizes of the groups after each round of
    gluing.
    """

    count: int
    style: str
    miter_deg: float
    apex_deg: float
    outer_mm: float
    inner_mm: float
    strip_mm: float
    length_mm: float
    last_joint_deg: float
    hole_mm: float
    rounds: tuple[tuple[int, ...], ...]


_OVERSIZE_MM: Final = 1.5  # common practice
_OVERSIZE_IN_MM: Final = MM_PER_INCH / 16


def oversize_mm(*, inches: bool) -> float:
    """How much larger all round a board is cut that is trimmed or flushed later (mm; common practice)."""
    return _OVERSIZE_IN_MM if inches else _OVERSIZE_MM


def plan_segments(
    segments: Segments, apothem_mm: float, kerf_mm: float, *, over_mm: float = 0.0
) -> SegmentsPlan:
    """Segments of a regular polygon of `segments.count` sides with the given apothem, `over_mm` larger all round.

    Source: elementary geometry; base = 2·apothem·tan(180/n), gauge 180/n from square; alternate up and
    down on the strip (common practice), so that each takes the mean of its edges and a slanted kerf.
    """
    n = segments.count
    half = math.pi / n
    apothem_mm += over_mm
    ring_mm = segments.ring_mm + over_mm
    width = min(ring_mm, apothem_mm) if segments.style == "ring" else apothem_mm
    outer = 2 * apothem_mm * math.tan(half)
    inner = 2 * (apothem_mm - width) * math.tan(half)
    each = (outer + inner) / 2 + kerf_mm / math.cos(half)
    return SegmentsPlan(
        count=n,
        style=segments.style,
        miter_deg=180.0 / n,
        apex_deg=360.0 / n,
        outer_mm=outer,
        inner_mm=inner,
        strip_mm=width,
        length_mm=n * each + (outer - inner) / 2,
        hole_mm=2 * (apothem_mm - width),
        last_joint_deg=2 * n * CUT_ERROR_DEG,
        rounds=rounds_of(n),
    )


def rounds_of(count: int) -> tuple[tuple[int, ...], ...]:
    """Glue neighbours, then groups of those, up to two halves: the sizes of the groups after each round.

    Source: common practice; with an even number the halves end in one straight line that can be trued.
    """
    halves = [[1] * ((count + 1) // 2), [1] * (count // 2)]
    rounds = []
    while max(len(half) for half in halves) > 1:
        halves = [[sum(half[i : i + 2]) for i in range(0, len(half), 2)] for half in halves]
        rounds.append(tuple(size for half in halves for size in half))
    return tuple(rounds)
