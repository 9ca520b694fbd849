"""Where along a corner keys are put: clear of what is in the way, with few settings, or as evenly as can be."""

import itertools
import math
from collections.abc import Callable, Iterator, Sequence
from functools import lru_cache
from typing import Final, NamedTuple

from peristyle.core.tolerance import DEFAULT

Spans = tuple[tuple[float, float], ...]

LEAST_BETWEEN_MM: Final = 3.0  # wood between two keys (our rule)
GOOD_BETWEEN_MM: Final = 8.0  # wood between two keys where there is room for it (common practice)
_TINY: Final = 1e-9


class Room(NamedTuple):
    """What there is to place keys in: the height of the corner, where their middles may lie, and the least distance
    between two. `mirrored` says that two heights that mirror each other about the middle share a setting; `lid_mm` is
    the lid line, with one.
    """

    height_mm: float
    free: Spans
    apart_mm: float
    mirrored: bool = True
    lid_mm: float | None = None


class Placed(NamedTuple):
    """Heights from the bottom up, and what had to be given up (keys of words)."""

    heights_mm: tuple[float, ...]
    given_up: tuple[str, ...] = ()


def free_spans(height_mm: float, down_mm: float, up_mm: float, outs: Sequence[tuple[float, float]]) -> Spans:
    """Where the middle of a key may lie that reaches so far down and up, clear of stretches of height."""
    spans = [(down_mm, height_mm - up_mm)]
    for low, high in outs:
        a, b = low - up_mm, high + down_mm
        spans = [
            part
            for x, y in spans
            for part in ((x, min(y, a)), (max(x, b), y))
            if part[1] - part[0] >= -DEFAULT.length_mm
        ]
    return tuple(sorted({(x, max(x, y)) for x, y in spans}))


def apart_mm(thickness_mm: float) -> float:
    """Least distance between the middles of two keys: wood as thick as a key between them, and never under 3 mm."""
    return thickness_mm + max(thickness_mm, LEAST_BETWEEN_MM)


def good_apart_mm(thickness_mm: float) -> float:
    """Distance between the middles of two keys that makers would leave: wood as thick as a key, never under 8 mm."""
    return thickness_mm + max(thickness_mm, GOOD_BETWEEN_MM)


def roomy(room: Room, count: int, thickness_mm: float, way: Callable[[Room, int], Placed]) -> Placed:
    """`count` keys with good wood between them, before few settings; nearer only where they would not fit else."""
    good = room._replace(apart_mm=good_apart_mm(thickness_mm))
    made = way(good, count)
    if len(made.heights_mm) == count:
        return made
    near = way(room, count)
    if len(near.heights_mm) == len(made.heights_mm):
        return made
    return near._replace(given_up=(*near.given_up, "near"))


def settings_of(heights_mm: Sequence[float], room: Room) -> int:
    """How many fence settings cut slots at these heights."""
    if not room.mirrored:
        return len(heights_mm)
    left, number = list(heights_mm), 0
    while left:
        height = left.pop()
        mate = next((h for h in left if abs(room.height_mm - h - height) <= 1e-6), None)
        if mate is not None:
            left.remove(mate)
        number += 1
    return number


def few(room: Room, count: int) -> Placed:
    """`count` keys with as few settings as can be; among those with one in the lid, and then as evenly as can be.

    As many as find room, where that is fewer. Source: common practice; the settings are the least there can be.
    """
    if not room.mirrored:
        return even(room, count)
    made = _by_hand(room, count)
    least = (count + 1) // 2
    if len(made) < count or settings_of(made, room) > least:
        exact = _fewest(room, count)
        if (len(exact), -settings_of(exact, room)) > (len(made), -settings_of(made, room)):
            made = _slid(room, exact)
    given = [] if settings_of(made, room) <= (len(made) + 1) // 2 else ["not_mirrored"]
    return Placed(made, (*given, *_no_lid(room, made)))


def even(room: Room, count: int) -> Placed:
    """`count` keys as evenly as can be, lid and body each with its share by height, whatever settings that takes."""
    if room.lid_mm is None:
        return Placed(tuple(_evenest(room.free, count, 0.0, room.height_mm, room.apart_mm)))
    parts = [
        (0.0, room.lid_mm, tuple((a, min(b, room.lid_mm)) for a, b in room.free if a < room.lid_mm)),
        (room.lid_mm, room.height_mm,
         tuple((max(a, room.lid_mm), b) for a, b in room.free if b > room.lid_mm)),
    ]  # fmt: skip
    most = [len(_packed(spans, room.apart_mm, count)) for _low, _high, spans in parts]
    share = round(count * (room.height_mm - room.lid_mm) / room.height_mm)
    in_lid = min(max(share, 1 if count > 1 else 0, count - most[0]), most[1])
    body = min(count - in_lid, most[0])
    made = [
        height
        for number, (low, high, spans) in zip((body, in_lid), parts, strict=True)
        for height in _evenest(spans, number, low, high, room.apart_mm)
    ]
    return Placed(tuple(sorted(made)), _no_lid(room, made))


def spaced(room: Room, spacing_mm: float) -> Placed:
    """Keys every so many mm, as many as there is room for, in the middle of the free height.

    One that would meet something gives way by up to half the spacing, or is left out.
    """
    if not room.free:
        return Placed(())
    low, high = room.free[0][0], room.free[-1][1]
    number = min(40, int((high - low) / spacing_mm + _TINY) + 1)
    start = (low + high - (number - 1) * spacing_mm) / 2
    made: list[float] = []
    given = False
    for k in range(number):
        wanted = start + k * spacing_mm
        found = min((_nearest(wanted, span) for span in room.free), key=lambda h: abs(h - wanted))
        near = abs(found - wanted) <= spacing_mm / 2 and all(
            abs(found - h) >= room.apart_mm - _TINY for h in made
        )
        given |= not near or abs(found - wanted) > DEFAULT.length_mm
        made += [found] if near else []
    return Placed(tuple(made), ("not_spaced",) if given else ())


def _no_lid(room: Room, made: Sequence[float]) -> tuple[str, ...]:
    """Whether a lid that could have a key has none."""
    if room.lid_mm is None or len(made) < 2 or any(h > room.lid_mm for h in made):
        return ()
    return ("no_lid",)


def _by_hand(room: Room, count: int) -> tuple[float, ...]:
    """Mirrored pairs, one of them in the lid, an odd key in the middle or where it is evenest."""
    height, apart = room.height_mm, room.apart_mm
    middle = height / 2
    lower = _mirrored(room)
    pairs, odd = divmod(count, 2)
    chosen: list[float] = []
    if room.lid_mm is not None and pairs and lower:
        wanted = min(room.lid_mm, height - room.lid_mm) / 2  # one of the pair in the lid and one in the body
        first = min((_nearest(wanted, s) for s in lower), key=lambda h: abs(h - wanted))
        chosen = [first]
        lower = _away(lower, first, apart)
    chosen += _evenest_pairs(lower, pairs - len(chosen), middle, bool(odd), apart)
    heights = sorted([h for c in chosen for h in (c, height - c)])
    for _ in range(count - len(heights)):
        best: float | None = middle
        if not _is_free(middle, room.free, heights, apart):
            best = _widest(room.free, heights, height, apart)
        if best is None:
            break
        heights = sorted([*heights, best])
    return tuple(heights)


def _mirrored(room: Room) -> Spans:
    """Where below the middle a key may lie whose mirror image is free too."""
    found = (
        (max(a, room.height_mm - d), min(b, room.height_mm - c, (room.height_mm - room.apart_mm) / 2))
        for a, b in room.free
        for c, d in room.free
    )
    return tuple(sorted((a, max(a, b)) for a, b in found if a <= b + DEFAULT.length_mm))


def _nearest(wanted: float, span: tuple[float, float]) -> float:
    return min(max(wanted, span[0]), span[1])


def _away(spans: Spans, height: float, gap: float) -> Spans:
    """The spans with what lies within `gap` of `height` taken out."""
    return tuple(
        part
        for a, b in spans
        for part in ((a, min(b, height - gap)), (max(a, height + gap), b))
        if part[0] <= part[1]
    )


def _is_free(height: float, free: Spans, taken: Sequence[float], apart: float) -> bool:
    return any(a - _TINY <= height <= b + _TINY for a, b in free) and all(
        abs(height - t) >= apart - _TINY for t in taken
    )


def _packed(
    spans: Spans, gap: float, count: int, low: float = -math.inf, high: float = math.inf
) -> list[float]:
    """At most `count` heights at least `gap` apart, each as low as it may go: as many as there can be."""
    heights: list[float] = []
    least = low
    for a, b in sorted(spans):
        while len(heights) < count and max(a, least) <= min(b, high):
            heights.append(max(a, least))
            least = heights[-1] + gap
    return heights


def _evenest_pairs(spans: Spans, count: int, middle: float, odd: bool, apart: float) -> list[float]:
    """`count` heights below the middle, the least distance between any two as large as can be.

    Mirror images (and an odd key in the middle) count as neighbours. Bisection on the distance;
    for a given distance, placing each key as low as it may go is best.
    """

    def placed(gap: float) -> list[float]:
        return _packed(spans, gap, count, high=middle - gap * (1.0 if odd else 0.5))

    low, high = apart, middle
    count = min(count, len(placed(low)))
    if count == 0:
        return []
    for _ in range(40):
        gap = (low + high) / 2
        if len(placed(gap)) >= count:
            low = gap
        else:
            high = gap
    return placed(low)[:count]


def _evenest(spans: Spans, count: int, low: float, high: float, apart: float) -> list[float]:
    """`count` heights between two edges, the least distance between them, and twice that to the edges, as large as
    can be; as many as find room, where that is fewer.
    """
    count = min(count, len(_packed(spans, apart, count)))
    if count <= 0:
        return []
    if count == 1:
        middle = (low + high) / 2
        return [min((_nearest(middle, span) for span in spans), key=lambda h: abs(h - middle))]

    def placed(gap: float) -> list[float]:
        return _packed(spans, max(gap, apart), count, low + gap / 2, high - gap / 2)

    least, most = 0.0, (high - low) * 2
    if len(placed(least)) < count:
        return _packed(spans, apart, count)
    for _ in range(40):
        gap = (least + most) / 2
        if len(placed(gap)) >= count:
            least = gap
        else:
            most = gap
    return _balanced(placed(least), spans, low, high, max(least, apart))


def _balanced(made: list[float], spans: Spans, low: float, high: float, gap: float) -> list[float]:
    """Heights moved off the low side, where all of them may go up by as much."""
    top = _packed(tuple((-b, -a) for a, b in spans), gap, len(made), low=-high + gap / 2)
    upper = [-h for h in reversed(top)]
    if len(upper) != len(made):
        return made
    found = [(a + b) / 2 for a, b in zip(made, upper, strict=True)]
    free = all(any(a - _TINY <= h <= b + _TINY for a, b in spans) for h in found)
    return found if free else made


def _widest(free: Spans, taken: Sequence[float], top: float, apart: float) -> float | None:
    """The free height farthest from every key and edge, or None where none is far enough."""
    marks = sorted([0.0, *taken, top])
    best: tuple[float, float] | None = None
    for span in free:
        for low, high in itertools.pairwise(marks):
            candidate = _nearest((low + high) / 2, span)
            if any(abs(candidate - t) < apart - _TINY for t in taken):
                continue
            score = min(candidate - low, high - candidate)
            if best is None or score > best[0]:
                best = (score, candidate)
    return best[1] if best else None


@lru_cache(maxsize=64)
def _fewest(room: Room, count: int) -> tuple[float, ...]:
    """As many keys as find room, up to `count`, in the fewest settings: exact, but not evenly.

    Heights are folded about the middle and looked at from outside in; of all keys below and above each that may be
    put next, every way is kept that no other beats.
    """
    middle, apart = room.height_mm / 2, room.apart_mm
    # (last below, last above, how many): the fewest settings, and the heights.
    ways: _Ways = {(math.inf, math.inf, 0): (0, ())}
    for fold in _folds(room, count):
        below, above = (_is_free(middle + way * fold, room.free, (), apart) for way in (-1.0, 1.0))
        if not below and not above:
            continue
        ways = _in_reach(ways, fold + apart - _TINY)
        found = dict(ways)
        for (low, high, number), (settings, heights) in ways.items():
            may = (below and low - fold >= apart - _TINY, above and high - fold >= apart - _TINY)
            both = all(may) and 2 * fold >= apart - _TINY
            for on, more in ((may[0], (-fold,)), (may[1], (fold,)), (both, (-fold, fold))):
                if not on or number + len(more) > count:
                    continue
                if fold < _TINY and not all(may):
                    continue
                state = (
                    fold if -fold in more or fold < _TINY else low,
                    fold if fold in more or fold < _TINY else high,
                    number + len(more),
                )
                if state[0] + state[1] < apart - _TINY and fold >= _TINY:
                    continue  # those nearest to the middle are too near to each other
                made = (settings + 1, (*heights, *(middle + at for at in more)))
                if state not in found or made[0] < found[state][0]:
                    found[state] = made
        ways = found
    best = max(ways.items(), key=lambda item: (item[0][2], -item[1][0]))
    return tuple(sorted(best[1][1]))


_Ways = dict[tuple[float, float, int], tuple[int, tuple[float, ...]]]


def _in_reach(ways: _Ways, reach: float) -> _Ways:
    """The same, keys so far out that nothing yet to come can be too near to them no longer told apart."""
    found: _Ways = {}
    for (low, high, number), made in ways.items():
        state = (math.inf if low >= reach else low, math.inf if high >= reach else high, number)
        if state not in found or made[0] < found[state][0]:
            found[state] = made
    # More keys in no more settings, with as much room left, is as good for all that is to come.
    kept: _Ways = {}
    front: list[tuple[float, int, int]] = []
    for (low, high, number), made in sorted(
        found.items(), key=lambda one: (*(-v for v in one[0]), one[1][0])
    ):
        if any(b >= high and n >= number and s <= made[0] for b, n, s in front):
            continue
        front.append((high, number, made[0]))
        kept[low, high, number] = made
    return kept


def _folds(room: Room, count: int) -> list[float]:
    """Distances from the middle that an arrangement pushed outward can need, greatest first: keys stop at the outer
    end of a span, or as near as they may to the one further out.
    """
    middle = room.height_mm / 2
    ends = {abs(end - middle) for low, high in room.free for end in (min(low, middle), max(high, middle))} | {
        0.0
    }
    found = {round(end - step * room.apart_mm, 9) for end in ends for step in range(count + 1)}
    return sorted((f for f in found if f >= 0.0), reverse=True)


def _slid(room: Room, heights: tuple[float, ...]) -> tuple[float, ...]:
    """The same keys, each (with its mirror image) slid to where it is furthest from its neighbours; twice over."""
    now = list(heights)
    for _ in range(12):
        for group in _groups(now, room):
            others = [h for h in now if h not in group]
            now = sorted([*others, *_best(group, others, room)])
    return tuple(now)


def _groups(heights: Sequence[float], room: Room) -> Iterator[tuple[float, ...]]:
    left = list(heights)
    while left:
        height = left.pop(0)
        mate = next((h for h in left if abs(room.height_mm - h - height) <= 1e-6), None)
        if mate is not None:
            left.remove(mate)
        yield (height,) if mate is None else (height, mate)


def _best(group: tuple[float, ...], others: Sequence[float], room: Room) -> tuple[float, ...]:
    """The group slid along its span: of some places in it the one with most room about it."""
    spans = _mirrored(room) if len(group) == 2 else room.free
    span = next((s for s in spans if s[0] - _TINY <= group[0] <= s[1] + _TINY), None)
    if span is None:
        return group

    def moved(height: float) -> tuple[float, ...]:
        return (height,) if len(group) == 1 else (height, room.height_mm - height)

    def score(height: float) -> float:
        own = moved(height)
        gaps = [abs(a - b) for a in own for b in others] + [abs(own[0] - own[-1])] * (len(own) - 1)
        edge = min(2 * min(h, room.height_mm - h) for h in own)
        return min([*gaps, edge]) if min(gaps, default=math.inf) >= room.apart_mm - _TINY else -1.0

    trials = [span[0] + (span[1] - span[0]) * k / 16 for k in range(17)]
    best = max([group[0], *trials], key=score)
    return moved(best) if score(best) > score(group[0]) + _TINY else group
