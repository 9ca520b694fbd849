"""The ring as it came out, from above: its errors drawn larger than life over the ring as it was planned."""

import math
from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from peristyle.core.lengths import Format
from peristyle.core.planes import Point
from peristyle.drawing.shapes import Drawing, Label, Path, Pick, Role, Shape, line
from peristyle.planning.fit.closing import laid
from peristyle.planning.fit.ring import Joint, Made, levels_of, lies_on_wall, planned
from peristyle.planning.plan import Plan
from peristyle.words.fit import gap

_WORST_MM = 0.02  # a joint that is open by less is not pointed at (our rule)
_THIN = 0.05  # of the ring's size: a wall thinner than that has no room for its letter
_SHARE = 0.08  # of the ring's size that the largest error is drawn as, if nothing else is said

Outlines = NDArray[np.float64]


def fitting_factor(base: Plan, made: Sequence[Made], joints: Sequence[Joint]) -> float:
    """How many times larger than life errors are drawn so that the largest is seen well; 1 where there are none."""
    meant, came = _outlines(base, made, joints)
    largest = float(np.max(np.hypot(*(came - meant).reshape(-1, 2).T), initial=0.0))
    size = float(np.ptp(meant.reshape(-1, 2), axis=0).max()) if meant.size else 1.0
    if largest < 1e-6:
        return 1.0
    wanted = _SHARE * size / largest
    step = 10.0 ** math.floor(math.log10(max(wanted, 1.0)))
    return max(1.0, step * math.floor(wanted / step))


def fit_drawing(
    base: Plan,
    made: Sequence[Made],
    joints: Sequence[Joint],
    factor: float,
    fmt: Format,
    picked: int | None = None,
) -> Drawing:
    """The sides as planned, dashed, and as they came out and close, their errors `factor` times as large."""
    ring = base.ring
    if not ring.sides:
        return Drawing(
            shapes=(Label((50.0, 50.0), "No ring yet", "caution", 14.0, bold=True),),
            words="No fit: the ring cannot be made.",
        )
    meant, came = _outlines(base, made, joints)
    drawn = meant + factor * (came - meant)
    shapes: list[Shape] = []
    for index, outline in enumerate(meant):
        shapes.append(
            Path(_points(outline), "quiet", "none", weight=0.8, dash=True, pick=Pick("side", index))
        )
    for index, outline in enumerate(drawn):
        role: Role = "select" if index == picked else "wood"
        shapes.append(Path(_points(outline), role, "hatch", weight=1.4, pick=Pick("side", index)))
    low, high = drawn.reshape(-1, 2).min(axis=0), drawn.reshape(-1, 2).max(axis=0)
    size = float((high - low).max())
    for side, outline in zip(ring.sides, drawn, strict=True):
        middle, away = outline.mean(axis=0), np.zeros(2)
        if side.thickness_mm < _THIN * size:  # no room for a letter: it stands inside of the wall
            middle = outline[2:].mean(axis=0)
            inward = drawn.reshape(-1, 2).mean(axis=0) - middle
            away = 10.0 * inward / max(1e-9, float(np.linalg.norm(inward)))
        shapes.append(Label((float(middle[0]), float(middle[1])), side.name, "follows", 12.0, bold=True,
                            shift=(float(away[0]), float(away[1])), pick=Pick("side", side.index)))  # fmt: skip
    shapes += _gaps(base, drawn, joints, fmt)
    pad = size * 0.16
    bounds = (float(low[0]) - pad, float(low[1]) - pad, float(high[0]) + pad, float(high[1]) + pad)
    widest = max(joints, key=lambda joint: joint.widest_mm, default=Joint())
    told = f"errors × {fmt.number(factor, 0)}"
    shapes.append(
        Label((float(low[0]), float(low[1])), told, "quiet", 9.0, anchor="left", shift=(0.0, -26.0))
    )
    told = gap(widest.widest_mm, fmt)
    words = f"The ring as it came out, its errors {factor:g} times as large; the widest joint {told}."
    return Drawing(tuple(shapes), (), (), bounds, words)


def _outlines(base: Plan, made: Sequence[Made], joints: Sequence[Joint]) -> tuple[Outlines, Outlines]:
    """Every side's four arrises as planned, and as it came out, laid over each other: (n, 4, 2)."""
    ring = base.ring
    meant = np.array(
        laid(levels_of(ring, [planned(side) for side in ring.sides]), [Joint()] * len(ring.sides))
    )
    came = np.array(laid(levels_of(ring, made), joints))
    turn = math.atan2(ring.slabs[0].along[1], ring.slabs[0].along[0])
    meant = _turned(meant - meant.reshape(-1, 2).mean(axis=0), turn)
    came = _turned(came - came.reshape(-1, 2).mean(axis=0), turn)
    a, b = came.reshape(-1, 2), meant.reshape(-1, 2)
    off = math.atan2(float((a[:, 0] * b[:, 1] - a[:, 1] * b[:, 0]).sum()), float((a * b).sum()))
    return meant, _turned(came, off)


def _turned(points: Outlines, angle: float) -> Outlines:
    c, s = math.cos(angle), math.sin(angle)
    found: Outlines = points @ np.array([[c, s], [-s, c]])
    return found


def _points(outline: Outlines) -> tuple[Point, ...]:
    return tuple((float(x), float(y)) for x, y in outline)


def _faces(base: Plan, drawn: Outlines, index: int) -> tuple[tuple[Outlines, Outlines], ...]:
    """Where a corner's joint begins outside and ends inside, each on its first and on its second side."""
    after = (index + 1) % len(drawn)
    first, second = drawn[index], drawn[after]

    def under(leaf: Outlines, point: Outlines) -> Outlines:
        """On the inside face of a leaf that lies on a wall, what is nearest."""
        way = (leaf[2] - leaf[3]) / np.hypot(*(leaf[2] - leaf[3]))
        found: Outlines = leaf[3] + way * float((point - leaf[3]) @ way)
        return found

    if lies_on_wall(base.ring, index, "end"):
        return (under(first, second[0]), second[0]), (under(first, second[3]), second[3])
    if lies_on_wall(base.ring, after, "start"):
        return (first[1], under(second, first[1])), (first[2], under(second, first[2]))
    return (first[1], second[0]), (first[2], second[3])


def _gaps(base: Plan, drawn: Outlines, joints: Sequence[Joint], fmt: Format) -> list[Shape]:
    """Both gaps of every corner in figures, outside it and inside; the one to look at first stands out."""
    shapes: list[Shape] = []
    worst = max(range(len(joints)), key=lambda i: joints[i].widest_mm)
    middle = drawn.reshape(-1, 2).mean(axis=0)
    for index, joint in enumerate(joints):
        outside, inside = _faces(base, drawn, index)
        outer, inner = (outside[0] + outside[1]) / 2, (inside[0] + inside[1]) / 2
        role: Role = "caution" if index == worst and joint.widest_mm > _WORST_MM else "follows"
        pick = Pick("corner", index)
        both = ((*outside, joint.outside_mm, outer), (*inside, joint.inside_mm, inner))
        for end, other, mm, where in both:
            if abs(mm) > 5e-4:
                shapes.append(line(_point(end), _point(other), "blade", 1.4))
            away = where - middle
            reach = float(np.hypot(*away)) or 1.0
            out = 1.0 if where is outer else -1.0
            shift = (out * 26.0 * float(away[0]) / reach, out * 16.0 * float(away[1]) / reach)
            if out > 0.0 and base.ring.corners[index].lapped:  # clear of the eaves, which run out over it
                shift = (math.copysign(36.0, float(away[0])), -16.0)
            if abs(mm) > 5e-4 or where is outer:
                name = f"{base.ring.corners[index].name} " if where is outer else ""
                shapes.append(Label(_point(where), f"{name}{gap(mm, fmt)}", role, 9.0, bold=role == "caution",
                                    shift=shift, pick=pick))  # fmt: skip
    return shapes


def _point(p: Outlines) -> Point:
    return float(p[0]), float(p[1])
