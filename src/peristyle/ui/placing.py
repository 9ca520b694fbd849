"""Where sizes stand on a drawing so that none covers another, a letter or a name. Plain numbers, no Qt."""

from collections.abc import Iterable, Iterator, Sequence
from itertools import product
from typing import Final, NamedTuple

_EDGE: Final = 2.0  # px kept free at the drawing's edge
_GAP: Final = 1.0  # px between two sizes
_NEAREST: Final = 28  # how many ways out are tried each way before the whole drawing is searched
_GRID: Final = 9.0  # px, of that search


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


def placed(wanted: Sequence[Box], words: Sequence[Box], wide: float, high: float) -> list[Box]:
    """The nearest free place for each box in turn, inside a drawing of this size.

    None covers another, nor any of `words`. Where there is no such place the words give way first.
    """
    found: list[Box] = []
    for box in wanted:
        start = _inside(box, box.x, box.y, wide, high)
        blockers = [*found, *words]
        spot = _free(start, blockers, wide, high) or _free(start, found, wide, high)
        found.append(spot or start)
    return found


def _inside(box: Box, x: float, y: float, wide: float, high: float) -> Box:
    """The box moved as little as brings it inside."""
    most_x, most_y = wide - box.wide - _EDGE, high - box.high - _EDGE
    return box.at(max(_EDGE, min(x, most_x)), max(_EDGE, min(y, most_y)))


def _free(start: Box, blockers: Sequence[Box], wide: float, high: float) -> Box | None:
    if not any(start.hits(other) for other in blockers):
        return start
    for spot in _ways_out(start, blockers, wide, high):
        if not any(spot.hits(other) for other in blockers):
            return spot
    return None


def _ways_out(start: Box, blockers: Sequence[Box], wide: float, high: float) -> Iterator[Box]:
    """Places just beside what is in the way, nearest first; then all over the drawing."""
    xs = _nearest(start.x, (v for b in blockers for v in (b.x - start.wide - _GAP, b.x + b.wide + _GAP)))
    ys = _nearest(start.y, (v for b in blockers for v in (b.y - start.high - _GAP, b.y + b.high + _GAP)))
    beside = {_inside(start, x, y, wide, high) for x, y in product((start.x, *xs), (start.y, *ys))}
    yield from sorted(beside, key=lambda spot: abs(spot.x - start.x) + abs(spot.y - start.y))
    steps = product(range(int(wide / _GRID)), range(int(high / _GRID)))
    everywhere = {_inside(start, i * _GRID, j * _GRID, wide, high) for i, j in steps}
    yield from sorted(everywhere, key=lambda spot: abs(spot.x - start.x) + abs(spot.y - start.y))


def _nearest(start: float, values: Iterable[float]) -> list[float]:
    return sorted(set(values), key=lambda value: abs(value - start))[:_NEAREST]
