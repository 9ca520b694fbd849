"""Edits of a free ring: type a side or a corner, drag a corner, add or take away a side."""

import math
from collections.abc import Sequence
from functools import lru_cache
from itertools import combinations
from typing import Final, Literal

from peristyle.core.closing import GAP_MM, MOST_OPEN, Ring, close_ring, directions_deg
from peristyle.core.errors import LengthError, ShapeError
from peristyle.core.planes import Point, unit
from peristyle.model.design import Outline, replace, side_name
from peristyle.model.job import Job, openings_within, revised

LEAST_CORNER_DEG: Final = 3.0


@lru_cache(maxsize=64)  # every tag of a ring asks
def _closed(shape: Outline) -> Ring | ShapeError:
    try:
        return close_ring(shape.lengths_mm, shape.interiors_deg)
    except ShapeError as error:
        return error


def ring_of(shape: Outline) -> Ring:
    """All sides and corners, what was open worked out. Raises ShapeError."""
    found = _closed(shape)
    if isinstance(found, ShapeError):
        raise found
    return found


def walked(ring: Ring) -> tuple[Point, ...]:
    """Where each side ends, the first side running east from the origin."""
    x = y = 0.0
    points = []
    for length, heading in zip(ring.lengths_mm, directions_deg(ring.interiors_deg), strict=True):
        dx, dy = unit(heading)
        x, y = x + length * dx, y + length * dy
        points.append((x, y))
    return tuple(points)


def measured_points(points: Sequence[Point]) -> Ring:
    """Lengths and corners of an outline given by where its sides end. Raises ShapeError if not convex."""
    count = len(points)
    edges = [(points[i][0] - points[i - 1][0], points[i][1] - points[i - 1][1]) for i in range(count)]
    lengths = tuple(math.hypot(*edge) for edge in edges)
    corners = []
    for i, (ax, ay) in enumerate(edges):
        bx, by = edges[(i + 1) % count]
        turn = math.degrees(math.atan2(ax * by - ay * bx, ax * bx + ay * by))
        if not 0.01 < turn < 180.0 - LEAST_CORNER_DEG:
            raise ShapeError("outline_concave", "Every corner must stay between 0° and 180°.", corner=i)
        corners.append(180.0 - turn)
    if min(lengths) <= 0:
        raise ShapeError("outline_open", "A side has no length left.")
    return Ring(lengths, tuple(corners))


def _with(job: Job, ring: Ring) -> Job:
    measure = (
        job.design.form.shape.measure if job.design.form.shape.measure in ("inside", "outside") else "outside"
    )
    line = "inside" if measure == "inside" else "outside"
    return revised(
        job, shape=Outline(ring.lengths_mm, ring.interiors_deg, "inside" if line == "inside" else "outside")
    )


def _outline(job: Job) -> Outline:
    if not isinstance(job.design.form.shape, Outline):
        raise ShapeError("outline_open", "This ring is not given by its sides and corners.")
    return job.design.form.shape


def closes(shape: Outline) -> bool:
    """Whether the values make a ring; if not, each is typed by itself until they do."""
    try:
        ring_of(shape)
    except ShapeError:
        return False
    return True


def _put(values: tuple[float | None, ...], at: int, value: float | None) -> tuple[float | None, ...]:
    return (*values[:at], value, *values[at + 1 :])


Which = Literal["lengths_mm", "interiors_deg"]
_BOTH: Final[tuple[Which, ...]] = ("lengths_mm", "interiors_deg")
_TRIED: Final = (
    4  # values beside a typed one that may give way to it: a refusal with 60 sides takes 0.3 s then
)
_SAME_MM: Final = 2.5 * GAP_MM  # two closings of one ring, each with its rounding taken up


def _with_value(shape: Outline, which: Which, at: int, value: float | None) -> Outline:
    """The shape with one side or corner as given; None leaves it to be worked out."""
    made: Outline = replace(shape, **{which: _put(getattr(shape, which), at, value)})
    return made


def _open_count(shape: Outline) -> int:
    return sum(value is None for value in (*shape.lengths_mm, *shape.interiors_deg))


def _left_open(job: Job, which: Which, at: int) -> Job:
    """A value left to be worked out. A ring that stands stays as it is; raises LengthError where it would not."""
    shape = _outline(job)
    opened = _with_value(shape, which, at, None)
    if _open_count(opened) > MOST_OPEN:
        raise LengthError(
            "Three values are worked out already, and a ring gives no more: type one of them first."
        )
    if closes(shape):
        now = ring_of(shape)
        if not closes(opened) or math.dist(ring_of(opened).lengths_mm, now.lengths_mm) > _SAME_MM:
            raise LengthError(
                "Without this value the others settle no ring, or another one: leave another open."
            )
    return revised(job, shape=opened)


def _held(shape: Outline, which: Which, at: int, value: float) -> Outline | None:
    """The ring in which what is open follows a typed value, and of the other values as few as must; None if none."""
    typed = _with_value(shape, which, at, value)
    if closes(typed):
        return typed
    count = len(shape.lengths_mm)
    beside = [(name, (at + k) % count) for k in range(1, count) for name in _BOTH]
    free = [(name, i) for name, i in beside if getattr(typed, name)[i] is not None][:_TRIED]
    for many in range(1, MOST_OPEN + 1 - _open_count(typed)):
        for given in combinations(free, many):
            trial = typed
            for name, i in given:
                trial = _with_value(trial, name, i, None)
            if closes(trial):
                ring = ring_of(trial)
                for name, i in given:
                    trial = _with_value(trial, name, i, getattr(ring, name)[i])
                return trial
    return None


def _by_itself(job: Job, which: Which, at: int, value: float, what: str) -> Job | None:
    """A value that asks no other to give way: left open (nan), of a ring that does not close, or of one in which what
    is open follows. None where nothing is open. Raises LengthError, which says `what` cannot be.
    """
    if math.isnan(value):
        return _left_open(job, which, at)
    shape = _outline(job)
    if not closes(shape):
        return revised(job, shape=_with_value(shape, which, at, value))
    if not _open_count(shape):
        return None
    held = _held(shape, which, at, value)
    if held is None:
        raise LengthError(
            f"With {what} the ring cannot close while the values you typed stay: leave another one open with ?, or "
            "change one of them first."
        )
    return revised(job, shape=held)


def length_of(shape: Outline, side: int) -> float:
    """A side's length (mm), worked out or as typed; nan where it is not known."""
    known = ring_of(shape).lengths_mm[side] if closes(shape) else shape.lengths_mm[side]
    return math.nan if known is None else known


def corner_of(shape: Outline, corner: int) -> float:
    """A corner's angle (degrees), worked out or as typed; nan where it is not known."""
    known = ring_of(shape).interiors_deg[corner] if closes(shape) else shape.interiors_deg[corner]
    return math.nan if known is None else known


def set_length(job: Job, side: int, length_mm: float) -> Job:
    """Side `side` made `length_mm` long; the two sides that can best give way follow.

    All corners stay. Where values are left open, those follow in their stead; nan leaves this one open. Raises
    LengthError where no such ring closes.
    """
    made = _by_itself(job, "lengths_mm", side, length_mm, f"side {side_name(side)} so long")
    if made is not None:
        return made
    ring = ring_of(_outline(job))
    headings = directions_deg(ring.interiors_deg)
    others = [i for i in range(len(headings)) if i != side]
    best = max(
        ((i, j) for i in others for j in others if i < j),
        key=lambda pair: (
            abs(math.sin(math.radians(headings[pair[0]] - headings[pair[1]])))
            - 0.01 * ((pair[0] - side) % len(headings) == 1)
        ),
    )
    lengths: list[float | None] = [None if i in best else v for i, v in enumerate(ring.lengths_mm)]
    lengths[side] = length_mm
    try:
        return _with(job, close_ring(lengths, ring.interiors_deg))
    except ShapeError as error:
        raise LengthError(
            f"With side {side_name(side)} so long the ring cannot close while its corners stay: "
            "change a corner first, or drag one."
        ) from error


def set_corner(job: Job, corner: int, interior_deg: float) -> Job:
    """The corner at the end of side `corner` made `interior_deg`; the next corner and two sides follow.

    Where values are left open, those follow in their stead; nan leaves this one open. Raises LengthError where no such
    ring closes.
    """
    what = f"{interior_deg:.6g}° at the end of side {side_name(corner)}"
    made = _by_itself(job, "interiors_deg", corner, interior_deg, what)
    if made is not None:
        return made
    ring = ring_of(_outline(job))
    count = len(ring.lengths_mm)
    after = (corner + 1) % count
    angles: list[float | None] = [None if i == after else v for i, v in enumerate(ring.interiors_deg)]
    angles[corner] = interior_deg
    for first, second in ((after, (after + 1) % count), (corner, after), (corner, (after + 1) % count)):
        lengths = [None if i in (first, second) else v for i, v in enumerate(ring.lengths_mm)]
        try:
            return _with(job, close_ring(lengths, angles))
        except ShapeError:
            continue
    raise LengthError(
        f"With {interior_deg:.6g}° at the end of side {side_name(corner)} the ring cannot close: "
        "try an angle nearer to what it was."
    )


def move_corner(job: Job, corner: int, dx: float, dy: float) -> Job | None:
    """The corner dragged by (dx, dy) mm; None where the ring would not stay convex."""
    shape = _outline(job)
    if not closes(shape):
        return None
    points = list(walked(ring_of(shape)))
    x, y = points[corner]
    points[corner] = (x + dx, y + dy)
    try:
        ring = measured_points(points)
    except ShapeError:
        return None
    moved = _with(job, ring)
    # What is worked out stays so, where it gives the ring that was dragged.
    opened = _outline(moved)
    for name in _BOTH:
        for at, value in enumerate(getattr(shape, name)):
            opened = _with_value(opened, name, at, None) if value is None else opened
    if closes(opened) and math.dist(ring_of(opened).lengths_mm, ring.lengths_mm) < _SAME_MM:
        return revised(moved, shape=opened)
    return moved


def _spliced(values: tuple[float, ...], at: int, *, add: bool) -> tuple[float, ...]:
    """Values of single sides when a side is added after `at` or taken away at `at`."""
    if len(values) == 1:
        return values
    return (*values[: at + 1], values[at], *values[at + 1 :]) if add else (*values[:at], *values[at + 1 :])


def add_side(job: Job, side: int) -> Job:
    """Side `side` broken in two at its middle, a little outward."""
    ring = ring_of(_outline(job))
    points = list(walked(ring))
    (ax, ay), (bx, by) = points[side - 1], points[side]
    room = min(180.0 - ring.interiors_deg[side - 1], 180.0 - ring.interiors_deg[side])
    out = math.tan(math.radians(min(10.0, room / 3))) / 2
    points.insert(side, ((ax + bx) / 2 + (by - ay) * out, (ay + by) / 2 - (bx - ax) * out))
    return _respliced(job, measured_points(points), side, add=True)


def remove_side(job: Job, side: int) -> Job:
    """The corner at the end of side `side` cut off: its two sides become one. Three sides must stay."""
    points = list(walked(ring_of(_outline(job))))
    if len(points) <= 3:
        raise LengthError("A ring has at least three sides: this one cannot lose another.")
    del points[side]
    return _respliced(job, measured_points(points), side, add=False)


def _respliced(job: Job, ring: Ring, side: int, *, add: bool) -> Job:
    changed = _with(job, ring)
    last = len(ring.lengths_mm) - 1
    closing = job.stock.closing_corner
    return revised(
        changed,
        thicknesses_mm=_spliced(job.design.form.thicknesses_mm, side, add=add),
        slopes_deg=_spliced(job.design.form.slopes_deg, side, add=add),
        front=min(job.design.form.front, last),
        openings=openings_within(job, last + 1),
        closing_corner=None if closing is None else min(closing, last),
    )
