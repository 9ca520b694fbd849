"""Panels glued up of segments: a pie of triangles or a ring of trapezoids."""

import math
from typing import Final

from msgspec import Struct

from peristyle.model.design import Segments

CUT_ERROR_DEG: Final = 0.1  # what a good scale lets slip in one cut (common practice)


class SegmentsPlan(Struct, frozen=True):
    """One segment and how it comes off its strip. Lengths mm, angles degrees.

    `outer_mm` and `inner_mm` are the segment's two parallel edges (inner 0 for a triangle),
    `strip_mm` the width of the strip it is cut from, `length_mm` what all of them take of it, turned
    about in turn; `hole_mm` the hole a ring leaves, across its flats. `last_joint_deg` is by how much
    the last joint opens for CUT_ERROR_DEG in every cut.
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
    order: tuple[str, ...]


def plan_segments(segments: Segments, apothem_mm: float, kerf_mm: float) -> SegmentsPlan:
    """Segments of a regular polygon of `segments.count` sides with the given apothem.

    Source: elementary geometry; base = 2·apothem·tan(180/n), gauge 180/n from square; alternate up and
    down on the strip (common practice), so that each takes the mean of its edges and a slanted kerf.
    """
    n = segments.count
    half = math.pi / n
    width = min(segments.ring_mm, apothem_mm) if segments.style == "ring" else apothem_mm
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
        order=_order(n),
    )


def _order(count: int) -> tuple[str, ...]:
    """Glue neighbours, then groups of those, up to two halves; the last joints are fitted dry.

    Source: common practice; with an even number the halves end in one straight line that can be trued.
    """
    halves = [[1] * ((count + 1) // 2), [1] * (count // 2)]
    steps = []
    while max(len(half) for half in halves) > 1:
        halves = [[sum(half[i : i + 2]) for i in range(0, len(half), 2)] for half in halves]
        groups = [size for half in halves for size in half]
        steps.append(f"glue neighbours: {len(groups)} groups of {' + '.join(str(size) for size in groups)}")
    if count % 2:
        steps.append(
            "lay the two parts together dry and plane the last two edges until they close: "
            "an odd number has no straight line across to true"
        )
    else:
        steps.append("true the two straight edges of the halves")
    steps.append("glue the last joints")
    return tuple(steps)
