"""Which of many flat faces hide which: a tree of planes, made once, that gives the order for any eye.

Convex faces that stand in each other (a panel within walls, a key in its slot) have no order from back to front as
they are: they are divided where the plane of another cuts them. Lengths mm.

Source: H. Fuchs, Z. Kedem, B. Naylor, "On visible surface generation by a priori tree structures", 1980 (from memory).
"""

from collections.abc import Callable, Iterator, Sequence
from typing import Final, NamedTuple

from peristyle.core.planes import Vector

NEAR_MM: Final = 1e-4  # a point so near a plane lies in it
_TRIED: Final = 5  # planes weighed against each other at each turn


class Facet(NamedTuple):
    """A flat convex face. `normal` has length 1; `number` is whose it is; `lines[i]` is whether the edge from point i
    is one of the face's own and not of a division; of faces in one plane those with the lower `layer` lie below.
    """

    points: tuple[Vector, ...]
    normal: Vector
    number: int
    lines: tuple[bool, ...]
    layer: int = 0


class _Node:
    """A plane with the faces that lie in it, and what lies on either side."""

    __slots__ = ("ahead", "at", "behind", "normal", "offset")

    def __init__(self, normal: Vector, offset: float, at: list[Facet]) -> None:
        self.normal, self.offset, self.at = normal, offset, at
        self.ahead: _Node | None = None
        self.behind: _Node | None = None


class Hidden:
    """The tree of planes over a set of faces."""

    def __init__(self, facets: Sequence[Facet]) -> None:
        self._root: _Node | None = None
        # Faces to be divided, and where: without recursion, because a ring of many sides makes a deep tree.
        self._waiting: list[tuple[list[Facet], _Node | None, bool]] = []
        if facets:
            self._waiting.append((list(facets), None, True))

    def grow(self) -> bool:
        """Divide once more. False where all faces have their order: a window with many grows them between events."""
        if not self._waiting:
            return False
        own, parent, is_ahead = self._waiting.pop()
        divider = _divider(own)
        normal, offset = _plane(divider)
        at, ahead, behind = _divided(own, divider)
        at.sort(key=lambda facet: facet.layer)
        node = _Node(normal, offset, at)
        if parent is None:
            self._root = node
        elif is_ahead:
            parent.ahead = node
        else:
            parent.behind = node
        if ahead:
            self._waiting.append((ahead, node, True))
        if behind:
            self._waiting.append((behind, node, False))
        return bool(self._waiting)

    def from_back(self, ahead: Callable[[Vector, Vector], bool]) -> Iterator[Facet]:
        """All faces, or the parts of those that were divided, the hidden before those that hide them.

        `ahead(normal, point)` says whether the eye is on the side of a plane to which its normal points.
        """
        while self.grow():
            pass
        stack: list[_Node | list[Facet]] = [self._root] if self._root else []
        while stack:
            node = stack.pop()
            if isinstance(node, list):
                yield from node
                continue
            seen = ahead(node.normal, node.at[0].points[0])
            first, last = (node.behind, node.ahead) if seen else (node.ahead, node.behind)
            if last:
                stack.append(last)
            stack.append(node.at)
            if first:
                stack.append(first)


def _plane(facet: Facet) -> tuple[Vector, float]:
    (x, y, z), (a, b, c) = facet.points[0], facet.normal
    return facet.normal, a * x + b * y + c * z


def _divider(facets: Sequence[Facet]) -> Facet:
    """Of some faces the one whose plane divides few others and parts the rest evenly."""
    step = max(1, len(facets) // _TRIED)
    best, least = facets[0], float("inf")
    for facet in facets[::step] if len(facets) > 2 else ():
        (a, b, c), offset = _plane(facet)
        ahead = behind = cut = 0
        for other in facets:
            low = high = 0.0
            for x, y, z in other.points:
                over = a * x + b * y + c * z - offset
                if over < low:
                    low = over
                elif over > high:
                    high = over
            if high > NEAR_MM:
                if low < -NEAR_MM:
                    cut += 1
                else:
                    ahead += 1
            elif low < -NEAR_MM:
                behind += 1
        cost = 6 * cut + abs(ahead - behind)
        if cost < least:
            best, least = facet, cost
    return best


def _divided(facets: Sequence[Facet], divider: Facet) -> tuple[list[Facet], list[Facet], list[Facet]]:
    """Faces in a face's plane, ahead of it and behind it; those it cuts in two parts.

    The face itself lies in it, though a skew one of a hopeless box does not quite: each step has one face fewer to do.
    """
    at: list[Facet] = [divider]
    ahead: list[Facet] = []
    behind: list[Facet] = []
    (a, b, c), offset = _plane(divider)
    for facet in facets:
        if facet is divider:
            continue
        over = [a * x + b * y + c * z - offset for x, y, z in facet.points]
        low, high = min(over), max(over)
        if high <= NEAR_MM:
            (at if low >= -NEAR_MM else behind).append(facet)
        elif low >= -NEAR_MM:
            ahead.append(facet)
        else:
            for way, side in ((1.0, ahead), (-1.0, behind)):
                part = _part(facet, [way * v for v in over])
                if len(part.points) > 2:
                    side.append(part)
    return at, ahead, behind


def _part(facet: Facet, over: Sequence[float]) -> Facet:
    """The part of a face where `over`, the distance of its points from a plane, is not negative."""
    points: list[Vector] = []
    lines: list[bool] = []
    count = len(over)
    for i in range(count):
        j = (i + 1) % count
        p, q, here, there = facet.points[i], facet.points[j], over[i], over[j]
        if here >= 0.0:
            points.append(p)
            lines.append(facet.lines[i])
        if (here >= 0.0) != (there >= 0.0):
            share = here / (here - there)
            points.append(
                (p[0] + (q[0] - p[0]) * share, p[1] + (q[1] - p[1]) * share, p[2] + (q[2] - p[2]) * share)
            )
            # Going out, the edge that follows is the division itself; coming in, the rest of the face's own.
            lines.append(facet.lines[i] if here < 0.0 else False)
    return facet._replace(points=tuple(points), lines=tuple(lines))
