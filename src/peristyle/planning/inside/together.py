"""Blocks of several sizes packed into one right-angled block, in all three directions: exact where one can be filled.

Sizes are counted in their common unit. Every right-angled block of that volume is tried, the most compact first; then
blocks with a little room left over. Each is first filled as a hand would, the first empty place next; where that does
not come out soon, it is put as a whole-number problem (which of all the places each thing could take) to a solver.
"""

import itertools
import math
from bisect import bisect_left, bisect_right
from collections.abc import Iterator
from functools import lru_cache
from time import monotonic
from typing import Final

from msgspec import Struct

MOST_BLOCKS: Final = 24
_SECONDS: Final = 2.0  # in which the solver is still asked
_TRIES: Final = 3_000  # by hand, before the solver is asked
_MOST_WAYS: Final = 8_000  # of placing things in a block, that the solver is asked of
_MOST_TAKEN: Final = 40_000  # cells in all those ways together
_GRAIN_MM: Final = 0.01  # sizes are told apart to this
# Of the volume what may be left empty where nothing fills it: step by step more, of each the most compact blocks.
_WASTES: Final = (0.0, 0.03, 0.06, 0.1, 0.15, 0.2, 0.3, 0.45)
_EACH: Final = 12  # blocks tried in each step
_LONGER: Final = 1.2  # seconds for one block that is filled
_MOST_CELLS: Final = 30_000
_MOST_LINES: Final = 300  # where one thing may end and the next begin, along an axis
_MOST_SKIPPED: Final = 300  # cells left empty in turn, before it is given up

Size = tuple[float, float, float]


class Stood(Struct, frozen=True):
    """One thing where it stands: which kind, its lowest corner (mm) from the block's, and along which of the three axes
    its length, its width and its height lie.
    """

    kind: int
    at: Size
    axes: tuple[int, int, int]

    def turned(self, size: Size) -> Size:
        """How far it reaches along the box, across it and up (mm), by its own length, width and height."""
        found = [0.0, 0.0, 0.0]
        for own, axis in enumerate(self.axes):
            found[axis] = size[own]
        return found[0], found[1], found[2]


class Together(Struct, frozen=True):
    """A whole arrangement: how large (mm) along side A, along side B and up; `full` where nothing is left empty."""

    size: Size
    stood: tuple[Stood, ...]
    full: bool


_Int3 = tuple[int, int, int]


# Asked for the size, and again for where the things stand, and over and over in a drag.
@lru_cache(maxsize=64)
def packed_together(kinds: tuple[tuple[Size, int], ...], high_mm: float = 0.0) -> Together | None:
    """The most compact right-angled block of these things, (length, width, height) and how many of each kind.

    No higher than `high_mm`, 0 for any. None where none was found, or there are more than MOST_BLOCKS.
    """
    if not 0 < sum(count for _size, count in kinds) <= MOST_BLOCKS:
        return None
    whole = [tuple(round(v / _GRAIN_MM) for v in size) for size, _count in kinds]
    unit = math.gcd(*(v for size in whole for v in size))
    sizes: list[_Int3] = [(a // unit, b // unit, c // unit) for a, b, c in whole]
    counts = [count for _size, count in kinds]
    volume = sum(count * math.prod(size) for size, count in zip(sizes, counts, strict=True))
    most_high = math.floor(round(high_mm / _GRAIN_MM) / unit + 1e-9) if high_mm > 0 else 10**9
    lines = _lines(sizes, counts, round(volume ** (1 / 3) * 5) + 2 * max(max(size) for size in sizes))
    search, ends = _Search(sizes, counts, lines), monotonic() + _SECONDS
    for block in _blocks(volume, sizes, lines, most_high):
        found = search.fill(block, math.prod(block) - volume, ends - monotonic())
        if found is not None:
            mm = unit * _GRAIN_MM
            stood = tuple(
                Stood(kind, (at[0] * mm, at[1] * mm, at[2] * mm), axes) for kind, at, axes in sorted(found)
            )
            size = (block[0] * mm, block[1] * mm, block[2] * mm)
            return Together(size, stood, math.prod(block) == volume)
    return None


def _lines(sizes: list[_Int3], counts: list[int], most: int) -> list[int]:
    """Where along an axis one thing may end and the next begin: all sums of their sizes, none if too many."""
    found = {0}
    for size, count in zip(sizes, counts, strict=True):
        for _ in range(count):
            found |= {at + step for at in found for step in size if at + step <= most}
            if len(found) > _MOST_LINES:
                return []
    return sorted(found)


def _blocks(volume: int, sizes: list[_Int3], lines: list[int], most_high: int) -> Iterator[_Int3]:
    """Right-angled blocks that could hold it, longer than wide: those that leave nothing empty, then others."""
    least, longest = max(min(size) for size in sizes), max(max(size) for size in sizes)
    most = math.floor(volume * (1 + _WASTES[-1]))
    ends, found = [line for line in lines if line >= least], []
    for high in ends:
        if high > most_high:
            break
        for wide in ends:
            first = max(wide, -(-volume // (high * wide)))
            last = most // (high * wide)
            for long in ends[bisect_left(ends, first) : bisect_right(ends, last)]:
                if max(long, high) >= longest:
                    surface = long * wide + wide * high + long * high
                    found.append((high * wide * long - volume, surface, high, (long, wide, high)))
    found.sort()
    full = [row for row in found if row[0] == 0]
    some = [
        row for low, high in itertools.pairwise(_WASTES)
        for row in sorted((row for row in found if low < row[0] / volume <= high), key=lambda row: row[1])[:_EACH]
    ]  # fmt: skip
    for _waste, _surface, _high, block in (*full, *some):
        yield block


class _Search:
    """What is to be packed, the ways each thing can stand, and how many tries are left for the block at hand."""

    def __init__(self, sizes: list[_Int3], counts: list[int], lines: list[int]) -> None:
        self.counts, self.lines = counts, lines
        self.left = _TRIES
        # Of each kind the ways it can stand that differ, the largest kinds first.
        order = sorted(range(len(sizes)), key=lambda k: -math.prod(sizes[k]))
        self.ways: list[tuple[int, list[tuple[_Int3, _Int3]]]] = []
        for kind in order:
            ways: dict[_Int3, _Int3] = {}
            for axes in itertools.permutations(range(3)):
                turned = [0, 0, 0]
                for own, axis in enumerate(axes):
                    turned[axis] = sizes[kind][own]
                ways.setdefault((turned[0], turned[1], turned[2]), (axes[0], axes[1], axes[2]))
            self.ways.append((kind, list(ways.items())))

    def fill(self, block: _Int3, waste: int, seconds: float) -> list[tuple[int, _Int3, _Int3]] | None:
        """Where each thing lies in a block with so much to be left empty; None where it is not found."""
        ends = [[line for line in self.lines if line <= size] for size in block]
        across = [len(own) - 1 for own in ends]
        if math.prod(across) > _MOST_CELLS:
            return None
        self.left = _TRIES
        filling = _Filling(self, ends, across)
        found = filling.put(waste)
        if found is not None or waste or self.left > 0 or seconds <= 0:
            return found
        return filling.solved(min(seconds, _LONGER))


class _Filling:
    """One block being filled: its first empty place in every way, and so on.

    Places are the cells between the lines where things may end, as bits of one number: along, then across, then up.
    """

    def __init__(self, search: _Search, ends: list[list[int]], across: list[int]) -> None:
        self.search, self.ends, self.across = search, ends, across
        self.index = [{line: number for number, line in enumerate(own)} for own in ends]
        self.full = (1 << math.prod(across)) - 1
        self.left = list(search.counts)
        self.lying: list[tuple[int, _Int3, _Int3]] = []
        self.reaches: dict[_Int3, tuple[list[int], ...]] = {}
        self.solids: dict[_Int3, int] = {}

    def put(self, waste: int) -> list[tuple[int, _Int3, _Int3]] | None:
        """All of it, or None."""
        return self.lying if self._place(0, waste, 0) else None

    def solved(self, seconds: float) -> list[tuple[int, _Int3, _Int3]] | None:
        """All of it, by whole-number programming: every cell taken once."""
        import numpy as np  # late, as SciPy: slow to import, and seldom asked
        from scipy.optimize import Bounds, LinearConstraint, milp
        from scipy.sparse import csr_array

        ways = [
            (kind, cell, axes, here)
            for kind, own in self.search.ways
            for size, axes in own
            for cell, here in self._everywhere(size)
        ]
        if not 0 < len(ways) <= _MOST_WAYS or sum(here.bit_count() for *_way, here in ways) > _MOST_TAKEN:
            return None
        cells, kinds = math.prod(self.across), len(self.left)
        rows, columns = [], []
        for number, (kind, _cell, _axes, here) in enumerate(ways):
            whole = np.frombuffer(here.to_bytes(cells // 8 + 1, "little"), np.uint8)
            own = np.flatnonzero(np.unpackbits(whole, bitorder="little"))
            rows.append(np.append(own, cells + kind))
            columns.append(np.full(len(own) + 1, number))
        where = (np.concatenate(rows), np.concatenate(columns))
        taken = csr_array((np.ones(len(where[0])), where), shape=(cells + kinds, len(ways)))
        wanted = np.array([1.0] * cells + [float(count) for count in self.search.counts])
        found = milp(
            np.zeros(len(ways)), constraints=LinearConstraint(taken, wanted, wanted), integrality=np.ones(len(ways)),
            bounds=Bounds(0, 1), options={"time_limit": seconds},
        )  # fmt: skip
        if found.x is None or found.status != 0:
            return None
        chosen = [way for way, share in zip(ways, found.x, strict=True) if share > 0.5]
        return [(kind, self._at(cell), axes) for kind, cell, axes, _here in chosen]

    def _at(self, cell: int) -> _Int3:
        x, y, z = self._corner(cell)
        return self.ends[0][x], self.ends[1][y], self.ends[2][z]

    def _everywhere(self, size: _Int3) -> Iterator[tuple[int, int]]:
        """Every cell from which on a thing can lie, and what it takes there."""
        starts = [[n for n, span in enumerate(own) if span] for own in self._reach(size)]
        for z, y, x in itertools.product(*reversed(starts)):
            cell = x + self.across[0] * (y + self.across[1] * z)
            here = self._shape(cell, (x, y, z), size)
            if here is not None:
                yield cell, here

    def _reach(self, size: _Int3) -> tuple[list[int], ...]:
        """How many cells a thing of that size takes along each axis from each line on; 0 where it ends at none."""
        if size not in self.reaches:
            self.reaches[size] = tuple(
                [
                    max(0, self.index[axis].get(line + size[axis], 0) - n)
                    for n, line in enumerate(self.ends[axis][:-1])
                ]
                for axis in range(3)
            )
        return self.reaches[size]

    def _shape(self, cell: int, corner: _Int3, size: _Int3) -> int | None:
        """The cells that a thing takes which lies from a cell on; None where it reaches out of the block."""
        reach = self._reach(size)
        spans = (reach[0][corner[0]], reach[1][corner[1]], reach[2][corner[2]])
        if not (spans[0] and spans[1] and spans[2]):
            return None
        if spans not in self.solids:
            self.solids[spans] = self._solid(spans)
        return self.solids[spans] << cell

    def _corner(self, cell: int) -> _Int3:
        up, rest = divmod(cell, self.across[0] * self.across[1])
        y, x = divmod(rest, self.across[0])
        return x, y, up

    def _solid(self, spans: _Int3) -> int:
        row, layer, solid = (1 << spans[0]) - 1, 0, 0
        for y in range(spans[1]):
            layer |= row << (y * self.across[0])
        for z in range(spans[2]):
            solid |= layer << (z * self.across[0] * self.across[1])
        return solid

    def _place(self, taken: int, empty: int, skipped: int) -> bool:
        if len(self.lying) == sum(self.search.counts):
            return True
        if taken == self.full or skipped > _MOST_SKIPPED:
            return False
        free = ~taken & self.full
        cell = (free & -free).bit_length() - 1
        corner = self._corner(cell)
        at = self._at(cell)
        for kind, ways in self.search.ways:
            for size, axes in ways if self.left[kind] else ():
                self.search.left -= 1
                if self.search.left <= 0:
                    return False
                here = self._shape(cell, corner, size)
                if here is None or here & taken:
                    continue
                self.left[kind] -= 1
                self.lying.append((kind, at, axes))
                if self._place(taken | here, empty, skipped):
                    return True
                self.lying.pop()
                self.left[kind] += 1
        own = math.prod(self.ends[axis][corner[axis] + 1] - at[axis] for axis in range(3))
        return own <= empty and self._place(taken | (1 << cell), empty - own, skipped + 1)
