"""A ring that cannot be made, drawn as far as it goes, with every value still to be typed."""

import math

from peristyle.core.lengths import Format
from peristyle.core.outlines import bounds
from peristyle.core.planes import Point
from peristyle.drawing.shapes import Anchor, Drawing, Label, Path, Pick, Shape, Tag, line, midpoint
from peristyle.model import fields
from peristyle.model.design import side_name
from peristyle.planning.plan import Plan
from peristyle.words.findings import said

_MOST_TAGGED = 16


def open_ring_drawing(plan: Plan, fmt: Format, chosen: Pick | None) -> Drawing:
    """The sides walked in order, letters, lengths and corners as typed, and the gap where they do not meet."""
    ends = plan.ring.walk
    points = ((0.0, 0.0), *ends)
    x0, y0, x1, y1 = bounds(points)
    reach = max(x1 - x0, y1 - y0, 1.0)
    count = len(ends)
    shapes: list[Shape] = []
    tags: list[Tag] = []
    picked = chosen.index if chosen is not None and chosen.kind in ("side", "corner") else -1
    for i in range(count):
        a, b = points[i], points[i + 1]
        shapes.append(Path((a, b), "follows", closed=False, weight=2.4, pick=Pick("side", i)))
        out = _outward(a, b)
        mid = midpoint(a, b)
        shapes.append(Label((mid[0] - out[0] * reach * 0.04, mid[1] - out[1] * reach * 0.04), side_name(i),
                            "follows", 11.0, bold=True, pick=Pick("side", i)))  # fmt: skip
        if count <= _MOST_TAGGED or i == picked:
            tags.append(
                Tag(fields.side_length(i), (mid[0] + out[0] * reach * 0.06, mid[1] + out[1] * reach * 0.06))
            )
            after = _outward(b, points[i + 2]) if i + 2 < len(points) else _outward(points[0], points[1])
            inward = (-out[0] - after[0], -out[1] - after[1])
            size = math.hypot(*inward) or 1.0
            at = (b[0] + inward[0] / size * reach * 0.1, b[1] + inward[1] / size * reach * 0.1)
            tags.append(Tag(fields.corner_angle(i), at))
    gap = math.hypot(*ends[-1])
    if gap > 1e-6:
        shapes.append(line(ends[-1], (0.0, 0.0), "caution", 1.8, dash=True))
        # Beside its line, outside the ring: letters on it are not read.
        x, y = _outward(ends[-1], (0.0, 0.0))
        anchor: Anchor = "left" if x > 0.3 else "right" if x < -0.3 else "middle"
        shapes.append(Label(midpoint(ends[-1], (0.0, 0.0)), f"gap {fmt.length(gap, unit=True)}", "caution", 10.0,
                            bold=True, anchor=anchor, shift=(x * 9.0, y * 11.0)))  # fmt: skip
    why = next((said(f, fmt) for f in plan.findings if f.severity == "stop"), "")
    pad = reach * 0.2
    return Drawing(
        tuple(shapes), tuple(tags), bounds=(x0 - pad, y0 - pad, x1 + pad, y1 + pad),
        words=f"The ring does not close: drawn as far as it goes. {why}",
    )  # fmt: skip


def _outward(a: Point, b: Point) -> Point:
    """Square to a side walked counter-clockwise, away from the ring."""
    run = math.hypot(b[0] - a[0], b[1] - a[1]) or 1.0
    return ((b[1] - a[1]) / run, (a[0] - b[0]) / run)
