"""The boxes a board offers: every one of a family that uses the board to its end."""

import math
from collections.abc import Iterator
from functools import lru_cache
from typing import Final, Literal, NamedTuple

from msgspec import Struct

from peristyle.core.outlines import bounds
from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import Design, Rectangle, Regular, Shape, replace, tapers
from peristyle.model.edits import with_sides
from peristyle.model.job import Job, Saw, revised, unworked
from peristyle.model.limits import MAX_SIDES
from peristyle.model.stock import Board
from peristyle.planning.form.ring import plan_ring
from peristyle.planning.form.slabs import scaled, slabs_of, stretched, two_sizes
from peristyle.planning.stock.laying import lay, parting
from peristyle.planning.stock.wrap import factor_for, fitting_factor

Family = Literal["trade", "sides", "size"]

_STEPS = 25
_BASE_MM = 300.0
_MOST_SIDES = 12
_SMALLEST = 0.2
_ANY_BOARD: Final = Board()


class Offer(Struct, frozen=True):
    """One box: its two sizes (mm; for polygons the number of sides and the size across), its shape."""

    x: float
    y: float
    shape: Shape


class Offers(Struct, frozen=True):
    """What may be chosen, in order, and where the box as it is stands among them.

    `trade`: one size against another. `sides`: a regular polygon of any number of sides. `size`: a
    free ring, smaller up to the largest; `x` and `y` are its size over all.
    """

    family: Family
    words: tuple[str, ...]
    offers: tuple[Offer, ...]
    now: tuple[float, float]

    def nearest(self, x: float, y: float) -> Offer:
        """The offer nearest to a point; for polygons the nearest number of sides."""
        if self.family == "sides":
            return min(self.offers, key=lambda offer: abs(offer.x - x))
        return min(self.offers, key=lambda offer: (offer.x - x) ** 2 + (offer.y - y) ** 2)


def taken(job: Job, offer: Offer) -> Job:
    """The design as that box, its strip at the board's trimmed end."""
    shape = offer.shape
    if isinstance(shape, Regular) and shape.sides != job.design.side_count:
        job = with_sides(job, shape.sides)
    return revised(job, shape=shape, board=replace(job.stock.board, shift_mm=0.0))


def offers_of(job: Job) -> Offers | None:
    """What the board gives; None where contents say how large the box is, or nothing fits."""
    shape = job.design.form.shape
    if job.design.inside.contents and isinstance(shape, Rectangle | Regular):
        return None
    if job.stock.board.method == "upright":
        return None  # its length goes by the height, its width by whole strips
    now = job.stock.board
    # Only what the sizes follow from, so that the curve stays while the rest is dragged.
    board = Board(
        length_mm=now.length_mm,
        width_mm=now.width_mm - now.low_mm,
        thickness_mm=1.0,
        end_trim_mm=now.end_trim_mm,
        creep_mm=now.creep_mm,
        method=now.method,
    )
    bare = revised(
        unworked(job), name="-", notes="", front=0, bottom=None, top=None, lid=None, keys=None, liner=None,
        dividers=None, openings=(), feet=None,
        contents=(), saw=Saw(kerf_mm=job.shop.saw.kerf_mm), board=board,
    )  # fmt: skip
    sizes = two_sizes(shape)
    if sizes:
        x, y = sizes.values()
        found = _trade(_normal(bare), x >= y if isinstance(shape, Rectangle) else None)
        made = Offers("trade", tuple(sizes), found, (x, y))
    elif isinstance(shape, Regular):
        made = Offers(
            "sides",
            ("sides", "across"),
            _by_sides(_normal(bare), _numbers(job.design.side_count)),
            (job.design.side_count, _across(job.design)),
        )
    else:
        made = Offers("size", ("long", "wide"), _by_size(bare), _over_all(job))
    return made if len(made.offers) > 1 else None


def _normal(job: Job) -> Job:
    """The design at a standard size, tops in proportion, so that the curve stays while it is dragged."""
    shape = job.design.form.shape
    if isinstance(shape, Regular):
        normal = scaled(with_sides(job, 3), _BASE_MM / shape.size_mm)
        return normal or job
    for word, size in two_sizes(shape).items():
        # Rounded: the same taper must be the same design, whatever size it was dragged to.
        shape = stretched(shape, word, _BASE_MM / size) or shape
    if isinstance(shape, Rectangle):
        tops = {
            name: round(top, 6) for name in ("top_length_mm", "top_width_mm") if (top := getattr(shape, name))
        }
        shape = replace(shape, length_mm=_BASE_MM, width_mm=_BASE_MM, **tops)
    return revised(job, shape=shape)


class _Line(NamedTuple):
    """What follows from the plan sizes in a straight line: at full size and at half."""

    strips_mm: tuple[float, float]
    insides_mm: tuple[tuple[float, float], ...]
    rip_mm: float


@lru_cache(maxsize=2048)
def _line(job: Job) -> _Line | None:
    rings = []
    for factor in (1.0, 0.5):
        trial = scaled(job, factor)
        ring = plan_ring(trial) if trial is not None else None
        if ring is None or not ring.stands:
            return None
        rings.append(ring)
    full, half = (lay(job, ring, parting(job).creep_mm).used_mm for ring in rings)
    insides = [
        [v for side in ring.sides for v in (side.inside_mm, side.inside_top_mm) if v is not None]
        for ring in rings
    ]
    return _Line((full, half), tuple(zip(*insides, strict=True)), max(side.rip_mm for side in rings[0].sides))


def _fitted(job: Job) -> Job | None:
    """The design scaled so that the strip takes the whole board; None where no such ring stands."""
    if tapers(job.design):
        return _fitted_taper(job)
    board = job.stock.board
    # Asked once for a shape, whatever the board's size while that is dragged.
    line = _line(revised(job, board=replace(_ANY_BOARD, creep_mm=board.creep_mm, method=board.method)))
    if line is None or line.rip_mm > board.width_mm + DEFAULT.length_mm:
        return None
    factor = factor_for(*line.strips_mm, board.length_mm - board.end_trim_mm)
    if factor is None or any(full + 2 * (factor - 1) * (full - half) <= 0 for full, half in line.insides_mm):
        return None
    return scaled(job, factor)


@lru_cache(maxsize=256)
def _fitted_taper(job: Job) -> Job | None:
    """A tapering box, whose lean changes with its size: sought, not worked out in one step."""
    board = job.stock.board
    factor = fitting_factor(job, board.length_mm - board.end_trim_mm)
    grown = scaled(job, factor) if factor is not None else None
    ring = plan_ring(grown) if grown is not None else None
    if ring is None or not ring.stands:
        return None
    return grown if max(side.rip_mm for side in ring.sides) <= board.width_mm + DEFAULT.length_mm else None


@lru_cache(maxsize=32)  # the curve stays while the box is dragged along it, or the strip along the board
def _trade(job: Job, long_first: bool | None) -> tuple[Offer, ...]:
    """One size against the other, from alike to 4 : 1 (rectangles), or from 1 : 4 to 4 : 1."""
    found = []
    words = tuple(two_sizes(job.design.form.shape))
    for step in range(_STEPS):
        ratio = (
            4.0 ** (step / (_STEPS - 1)) if long_first is not None else 4.0 ** (2 * step / (_STEPS - 1) - 1)
        )
        shape = stretched(job.design.form.shape, words[0 if long_first is not False else 1], ratio)
        best = _fitted(revised(job, shape=shape)) if shape is not None else None
        if best is not None:
            x, y = two_sizes(best.design.form.shape).values()
            found.append(Offer(x, y, best.design.form.shape))
    return tuple(found)


def _numbers(now: int) -> tuple[int, ...]:
    """The numbers of sides to choose from: the small ones, and of many sides those about what the box has."""
    if now <= 2 * _MOST_SIDES:
        return tuple(range(3, max(_MOST_SIDES, now + 2) + 1))
    return tuple(n for n in range(now - 2, now + 3) if n <= MAX_SIDES)


@lru_cache(maxsize=32)
def _by_sides(job: Job, counts: tuple[int, ...]) -> tuple[Offer, ...]:
    """The largest regular polygon of each number of sides."""
    found = []
    for count in counts:
        best = _fitted(with_sides(job, count))
        if best is not None:
            found.append(Offer(float(count), _across(best.design), best.design.form.shape))
    return tuple(found)


def _across(design: Design) -> float:
    """Across the flats outside at the bottom edge; of an odd polygon twice the apothem (mm)."""
    return 2 * slabs_of(design)[0].offset_mm


@lru_cache(maxsize=32)
def _by_size(job: Job) -> tuple[Offer, ...]:
    """A free ring from small to the largest the board gives."""
    best = _fitted(job)
    return tuple(_shrunk(best)) if best is not None else ()


def _shrunk(best: Job) -> Iterator[Offer]:
    for step in range(_STEPS):
        factor = _SMALLEST + (1 - _SMALLEST) * step / (_STEPS - 1)
        smaller = scaled(best, factor)
        if smaller is not None and plan_ring(smaller).stands:
            yield Offer(*_over_all(smaller), smaller.design.form.shape)


def _over_all(job: Job) -> tuple[float, float]:
    """Length and width over all, outside at the bottom edge."""
    ring = plan_ring(job)
    if not ring.outer_bottom:
        return (math.nan, math.nan)
    x0, y0, x1, y1 = bounds(ring.outer_bottom)
    return (x1 - x0, y1 - y0)
