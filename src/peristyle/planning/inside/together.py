"""Blocks of several sizes packed into one right-angled block, in all three directions.

Sizes are counted in their common unit. Every right-angled block of that volume is tried, the most compact first; then
blocks with a little room left over. Each is filled as a hand would, the first empty place next, in a few orders of the
things. First every block has a few tries, then those more compact than the one found have many. Where a small one would
be filled and the hand does not come to an end, it is put once as a whole-number problem (which of all the places each
thing could take) to a solver. Tries are counted, not timed: the same things stand the same way on every machine.
"""

import itertools
import math
from collections.abc import Iterator, Sequence
from functools import lru_cache
from typing import Final

from msgspec import Struct

MOST_BLOCKS: Final = 24
_TRIES: Final = 150_000  # in all
# Rounds over all blocks, with tries for one block and order: where nothing may be left empty, and where something may.
_ROUNDS: Final = ((60, 60), (200, 200), (3_000, 750), (12_000, 1_500))
_MOST_WAYS: Final = 600  # of placing things in a block, and cells in it, that the solver is asked of
_MOST_TAKEN: Final = 10_000  # cells in all these ways: more are slow to be readied for the solver
# Of its own looks at how far it has come: of 62 blocks it was asked of, the 14 that it filled were filled by the fifth,
# a hard puzzle by the fourteenth; the others went on to as many as 51, seconds long.
_LOOKS: Final = 16
_GRAIN_MM: Final = 0.01  # sizes are told apart to this
# Of the volume what may be left empty where nothing fills it: step by step more, of each the most compact blocks.
_WASTES: Final = (0.0, 0.03, 0.06, 0.1, 0.15, 0.2, 0.3, 0.45)
_EACH: Final = 12  # blocks tried in each step
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
def packed_together(
    kinds: tuple[tuple[Size, int], ...], high_mm: float = 0.0, asked_mm: tuple[float, float] = (0.0, 0.0)
) -> Together | None:
    """The most compact right-angled block of these things, (length, width, height) and how many of each kind.

    No higher than `high_mm`, and as long and wide as asked, 0 for any. None where none was found, or there are more
    than MOST_BLOCKS.
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
    blocks = [
        one for one in _blocks(volume, sizes, lines, most_high) if _is_asked(one, asked_mm, unit * _GRAIN_MM)
    ]
    found = _Search(sizes, counts, lines).best(blocks, volume)
    if found is None:
        return None
    block, lying = found
    mm = unit * _GRAIN_MM
    stood = tuple(Stood(kind, (at[0] * mm, at[1] * mm, at[2] * mm), axes) for kind, at, axes in sorted(lying))
    return Together((block[0] * mm, block[1] * mm, block[2] * mm), stood, math.prod(block) == volume)


def _is_asked(block: _Int3, asked_mm: tuple[float, float], unit_mm: float) -> bool:
    """Whether a block is as long and wide as asked, whichever of the two is the longer."""
    own = (block[0] * unit_mm, block[1] * unit_mm)
    return any(
        all(not want or abs(want - have) < _GRAIN_MM for want, have in zip(asked_mm, ways, strict=True))
        for ways in (own, own[::-1])
    )


def _lines(sizes: list[_Int3], counts: list[int], most: int) -> list[int]:
    """Where along an axis one thing may end and the next begin: all sums of their sizes, none if too many."""
    found = {0}
    for size, count in zip(sizes, counts, strict=True):
        for _ in range(count):
            found |= {at + step for at in found for step in size if at + step <= most}
            if len(found) > _MOST_LINES:
                return []
    return sorted(found)


def _blocks(volume: int, sizes: list[_Int3], lines: list[int], most_high: int) -> list[_Int3]:
    """Right-angled blocks that could hold it, longer than wide: those that leave nothing empty, then others."""
    import numpy as np  # late: what opens a window need not wait for it

    least, longest = max(min(size) for size in sizes), max(max(size) for size in sizes)
    ends = np.array([line for line in lines if line >= least], np.int64)
    high, wide = (own.ravel() for own in np.meshgrid(ends[ends <= most_high], ends, indexing="ij"))
    # Of each height and width the lengths that give room enough and not too much.
    first = np.searchsorted(ends, np.maximum(wide, -(-volume // (high * wide))))
    last = np.searchsorted(ends, math.floor(volume * (1 + _WASTES[-1])) // (high * wide), side="right")
    each = np.maximum(last - first, 0)
    nth = np.arange(each.sum()) - np.repeat(np.cumsum(each) - each, each)
    high, wide, long = np.repeat(high, each), np.repeat(wide, each), ends[np.repeat(first, each) + nth]
    holds = np.maximum(long, high) >= longest
    high, wide, long = high[holds], wide[holds], long[holds]
    waste, surface = high * wide * long - volume, long * wide + wide * high + long * high
    found: list[_Int3] = []
    for low, most in ((-1.0, 0.0), *itertools.pairwise(_WASTES)):
        own = np.flatnonzero((waste > low * volume) & (waste <= most * volume))
        own = own[np.lexsort((wide[own], high[own], surface[own]))][: None if most == 0 else _EACH]
        found += zip(long[own].tolist(), wide[own].tolist(), high[own].tolist(), strict=True)
    return found


class _Way(Struct, frozen=True):
    """How one kind of thing can stand: its axes, and along each axis how many cells it takes from each line on (0 where
    it would end at none).
    """

    axes: _Int3
    spans: tuple[list[int], list[int], list[int]]


_Ways = list[tuple[int, list[_Way]]]
_Lying = list[tuple[int, _Int3, _Int3]]


class _Search:
    """What is to be packed, the ways each thing can stand, and how many tries are left."""

    def __init__(self, sizes: list[_Int3], counts: list[int], lines: list[int]) -> None:
        self.counts, self.lines, self.left = counts, lines, _TRIES
        self.closed: set[_Int3] = set()  # searched to their end
        index = {line: number for number, line in enumerate(lines)}
        spans = {
            size: [max(0, index.get(line + size, 0) - number) for number, line in enumerate(lines)]
            for size in {v for own in sizes for v in own}
        }
        # Of each kind the ways it can stand that differ, the largest kinds first.
        ways: _Ways = []
        for kind in sorted(range(len(sizes)), key=lambda k: -math.prod(sizes[k])):
            own: dict[_Int3, _Way] = {}
            for axes in itertools.permutations(range(3)):
                turned = [0, 0, 0]
                for size, axis in zip(sizes[kind], axes, strict=True):
                    turned[axis] = size
                long, wide, high = turned
                own.setdefault(
                    (long, wide, high),
                    _Way((axes[0], axes[1], axes[2]), (spans[long], spans[wide], spans[high])),
                )
            ways.append((kind, list(own.values())))
        turned_over = [(kind, own[::-1]) for kind, own in ways]
        self.orders = (ways, turned_over, ways[::-1], turned_over[::-1])

    def best(self, blocks: Sequence[_Int3], volume: int) -> tuple[_Int3, _Lying] | None:
        """The first of the blocks that is filled, and how; None where none is."""
        best, left = None, list(enumerate(blocks))
        for many, some in _ROUNDS:
            for number, block in left if best else left[::-1]:
                waste = math.prod(block) - volume
                found = self._fill(block, waste, some if waste else many)
                if found is not None:
                    best, left = (block, found), left[:number]
                    break
        return (self._solved(left, volume) if left else None) or best

    def _solved(self, left: Sequence[tuple[int, _Int3]], volume: int) -> tuple[_Int3, _Lying] | None:
        """The most compact block that would be filled and that the hand did not see to its end, put to the solver."""
        for block in (
            block for _number, block in left if math.prod(block) == volume and block not in self.closed
        ):
            filling = self._filling(block, exact=True)
            if filling is not None:
                found = filling.solved(self.orders[0])
                return None if found is None else (block, found)
        return None

    def _fill(self, block: _Int3, waste: int, tries: int) -> _Lying | None:
        """Where each thing lies in a block with so much to be left empty; None where it is not found."""
        filling = self._filling(block, exact=not waste)
        if filling is None:
            return None
        # Where nothing is left empty one order is as good as another.
        for ways in self.orders if waste else self.orders[:1]:
            given = filling.tries = min(tries, self.left)
            if given <= 0:
                return None
            found = filling.put(ways, waste)
            self.left -= given - filling.tries
            if found is not None:
                return found
            if filling.tries > 0:  # it was searched to its end: there is no way
                self.closed.add(block)
                return None
        return None

    def _filling(self, block: _Int3, exact: bool) -> "_Filling | None":
        """A block to be filled; None where it has too many cells."""
        across = tuple(sum(line <= size for line in self.lines) - 1 for size in block)
        return None if math.prod(across) > _MOST_CELLS else _Filling(self.lines, across, self.counts, exact)


class _Filling:
    """One block being filled: its first empty place in every way, and so on.

    Places are the cells between the lines where things may end, as bits of one number: along, then across, then up.
    """

    def __init__(self, lines: list[int], across: tuple[int, ...], counts: list[int], exact: bool) -> None:
        self.lines, self.across, self.counts, self.exact = lines, across, counts, exact
        self.full = (1 << math.prod(across)) - 1
        self.tries = 0
        self.lying: _Lying = []
        self.left: list[int] = []
        self.ways: _Ways = []
        self.solids: dict[_Int3, int] = {}
        self.hopeless: set[tuple[int, ...]] = set()

    def put(self, ways: _Ways, waste: int) -> _Lying | None:
        """All of it, or None."""
        self.ways, self.left, self.lying = ways, list(self.counts), []
        return self.lying if self._place(0, waste, 0) else None

    def solved(self, ways: _Ways) -> _Lying | None:
        """All of it, by whole-number programming: every cell taken once. None where that is too much to ask."""
        import numpy as np  # late: slow to import, and seldom asked

        from peristyle.core.solver import solved

        if math.prod(self.across) > _MOST_WAYS:
            return None
        all_of = [(kind, *placed) for kind, own in ways for way in own for placed in self._everywhere(way)]
        if not 0 < len(all_of) <= _MOST_WAYS:
            return None
        cells, kinds = math.prod(self.across), len(self.counts)
        taken = np.zeros((cells + kinds, len(all_of)))
        for number, (kind, _at, _axes, here) in enumerate(all_of):
            bits = np.frombuffer(here.to_bytes(cells // 8 + 1, "little"), np.uint8)
            taken[:cells, number] = np.unpackbits(bits, bitorder="little")[:cells]
            taken[cells + kind, number] = 1.0
        if np.count_nonzero(taken) > _MOST_TAKEN:
            return None
        wanted = [1.0] * cells + [float(count) for count in self.counts]
        rows = [(row, most, most) for row, most in zip(taken, wanted, strict=True)]
        found = solved(np.zeros(len(all_of)), rows, [1.0] * len(all_of), nodes=1, looks=_LOOKS).numbers
        if found is None:
            return None
        return [way[:3] for way, share in zip(all_of, found, strict=True) if share > 0.5]

    def _everywhere(self, way: _Way) -> Iterator[tuple[_Int3, _Int3, int]]:
        """Every place where a thing can lie, how, and the cells that it takes there."""
        for up, across, along in itertools.product(*(range(most) for most in reversed(self.across))):
            long, wide, high = way.spans
            shape = self._solid(along, long[along], across, wide[across], up, high[up])
            if shape:
                at = (self.lines[along], self.lines[across], self.lines[up])
                yield at, way.axes, shape << (along + self.across[0] * (across + self.across[1] * up))

    def _place(self, taken: int, empty: int, skipped: int) -> bool:
        if len(self.lying) == sum(self.counts):
            return True
        if taken == self.full or skipped > _MOST_SKIPPED:
            return False
        here = (taken, *self.left) if self.exact else ()
        if here in self.hopeless:
            return False
        if self._laid(taken, empty, skipped):
            return True
        if self.exact and self.tries > 0:
            self.hopeless.add(here)
        return False

    def _laid(self, taken: int, empty: int, skipped: int) -> bool:
        """Whether the first empty place is filled, or left empty, and all the rest comes out."""
        free = ~taken & self.full
        cell = (free & -free).bit_length() - 1
        up, rest = divmod(cell, self.across[0] * self.across[1])
        across, along = divmod(rest, self.across[0])
        at = (self.lines[along], self.lines[across], self.lines[up])
        for kind, ways in self.ways:
            for way in ways if self.left[kind] else ():
                self.tries -= 1
                if self.tries <= 0:
                    return False
                long, wide, high = way.spans
                shape = self._solid(along, long[along], across, wide[across], up, high[up])
                if not shape or (shape << cell) & taken:
                    continue
                self.left[kind] -= 1
                self.lying.append((kind, at, way.axes))
                if self._place(taken | shape << cell, empty, skipped):
                    return True
                self.lying.pop()
                self.left[kind] += 1
        lines = self.lines
        own = (lines[along + 1] - at[0]) * (lines[across + 1] - at[1]) * (lines[up + 1] - at[2])
        return own <= empty and self._place(taken | (1 << cell), empty - own, skipped + 1)

    def _solid(self, along: int, long: int, across: int, wide: int, up: int, high: int) -> int:
        """The cells that a thing reaching so far takes, as from the first on; 0 where it does not fit there."""
        most = self.across
        fits = along + long <= most[0] and across + wide <= most[1] and up + high <= most[2]
        if not (long and wide and high and fits):
            return 0
        found = self.solids.get((long, wide, high))
        if found is None:
            row, layer, found = (1 << long) - 1, 0, 0
            for y in range(wide):
                layer |= row << (y * most[0])
            for z in range(high):
                found |= layer << (z * most[0] * most[1])
            self.solids[long, wide, high] = found
        return found
