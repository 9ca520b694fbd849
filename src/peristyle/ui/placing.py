"""Where sizes stand on a drawing so that none covers another, a letter or a name. Plain numbers, no Qt."""

from collections.abc import Iterator, Sequence
from itertools import product
from typing import Final, NamedTuple

_EDGE: Final = 2.0  # px kept free at the drawing's edge
_GAP: Final = 1.0  # px between two sizes
_NEAREST: Final = 24  # how many ways out are tried each way before the whole drawing is searched
_CORNERS: Final = 10  # of those, how many are tried both ways at once
_COARSE: Final = 24.0  # px, of that search
_FINE: Final = 9.0


class Box(NamedTuple):
    """An upright rectangle in pixels, y down."""

    x: float
    y: float
    wide: float
    high: float

    def hits(self, other: "Box") -> bool:
        """Whether the two share more than an edge."""
        return (
            self.x < other.x + other.wide
            and other.x < self.x + self.wide
            and self.y < other.y + other.high
            and other.y < self.y + self.high
        )

    def at(self, x: float, y: float) -> "Box":
        """The same box with its corner elsewhere."""
        return Box(x, y, self.wide, self.high)


def placed(
    wanted: Sequence[Box], words: Sequence[Box], wide: float, high: float, *, quick: bool = False
) -> list[Box]:
    """The nearest free place for each box in turn, inside a drawing of this size.

    None covers another, nor any of `words`. Where there is no such place the words give way first. With
    `quick` (in the middle of a drag) only what lies just beside is tried.
    """
    found: list[Box] = []
    for box in wanted:
        start = _inside(box, wide, high)
        spot = _free(start, [*found, *words], wide, high, quick)
        if spot is None and words:
            spot = _free(start, found, wide, high, quick)
        found.append(spot or start)
    return found


def _inside(box: Box, wide: float, high: float) -> Box:
    """The box moved as little as brings it inside."""
    x = max(_EDGE, min(box.x, wide - box.wide - _EDGE))
    y = max(_EDGE, min(box.y, high - box.high - _EDGE))
    return box.at(x, y)


def _free(start: Box, blockers: Sequence[Box], wide: float, high: float, quick: bool) -> Box | None:
    x, y, w, h = start
    ends = [(b.x - w, b.y - h, b.x + b.wide, b.y + b.high) for b in blockers]

    def free(u: float, v: float) -> bool:
        return not any(x0 < u < x1 and y0 < v < y1 for x0, y0, x1, y1 in ends)

    if free(x, y):
        return start
    for u, v in _ways_out(x, y, ends, (wide - w - _EDGE, high - h - _EDGE), quick):
        if free(u, v):
            return start.at(u, v)
    return None


Spots = Iterator[tuple[float, float]]


def _ways_out(
    x: float,
    y: float,
    ends: Sequence[tuple[float, float, float, float]],
    most: tuple[float, float],
    quick: bool,
) -> Spots:
    """Places just beside what is in the way, nearest first; then all over the drawing."""
    most_x, most_y = most

    def nearest(at: float, most: float, sides: tuple[int, int]) -> list[float]:
        beside = {edge for end in ends for edge in (end[sides[0]] - _GAP, end[sides[1]] + _GAP)}
        return sorted((v for v in beside if _EDGE <= v <= most), key=lambda v: abs(v - at))[:_NEAREST]

    xs, ys = nearest(x, most_x, (0, 2)), nearest(y, most_y, (1, 3))
    straight = [(u, y) for u in xs] + [(x, v) for v in ys]
    yield from sorted(straight, key=lambda spot: abs(spot[0] - x) + abs(spot[1] - y))
    if quick:
        return
    corners = product(xs[:_CORNERS], ys[:_CORNERS])
    yield from sorted(corners, key=lambda spot: abs(spot[0] - x) + abs(spot[1] - y))
    for step in (_COARSE, _FINE):
        columns = [_EDGE + k * step for k in range(max(1, int((most_x - _EDGE) / step) + 1))]
        rows = [_EDGE + k * step for k in range(max(1, int((most_y - _EDGE) / step) + 1))]
        grid = product(columns, rows)
        yield from sorted(grid, key=lambda spot: abs(spot[0] - x) + abs(spot[1] - y))
