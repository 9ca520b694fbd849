"""Closing a ring of sides and corners in which some values are not known.

Walking counter-clockwise, side i runs in direction θᵢ and the corner at its end turns the walk by
180° − interior. The walk must end where it began, facing as it began: three equations, so up to
three unknown values follow from the rest.
"""

import math
from collections.abc import Sequence
from typing import Final, NamedTuple

from peristyle.core.errors import ShapeError

# What a maker's rounding may leave open before it counts as a contradiction.
GAP_MM = 0.02
TURN_DEG = 0.01
MOST_OPEN: Final = 3  # values that three closing equations settle


class Ring(NamedTuple):
    """A closed ring: every length (mm) and every interior angle (degrees) known."""

    lengths_mm: tuple[float, ...]
    interiors_deg: tuple[float, ...]


def close_ring(lengths_mm: Sequence[float | None], interiors_deg: Sequence[float | None]) -> Ring:
    """Work out the unknown values (None, at most three) so that the ring closes.

    Raises ShapeError: `outline_open` when what is typed cannot close (the text says which value
    would have to be what), `outline_unknowns` when too much or too little is known,
    `outline_concave` when a corner is 180° or more.
    """
    lengths, angles = list(lengths_mm), list(interiors_deg)
    free = [("length", i) for i, v in enumerate(lengths) if v is None]
    free += [("angle", i) for i, v in enumerate(angles) if v is None]
    for i, angle in enumerate(angles):
        if angle is not None and angle >= 180.0:
            raise ShapeError(
                "outline_concave",
                f"A corner of {angle:.6g}° is not under 180°: the ring is not convex.",
                corner=i,
                interior_deg=angle,
            )
    if len(free) > MOST_OPEN:
        raise ShapeError(
            "outline_unknowns",
            f"{len(free)} values are left open; a ring gives up to three.",
            unknown=len(free),
            lacking=len(free) - MOST_OPEN,
        )
    if all(length is None for length in lengths):
        raise ShapeError("outline_unknowns", "No side's length is known.", "no_length", unknown=len(free))
    if not free:
        return _checked(lengths, angles)  # type: ignore[arg-type]
    solution = _solve(lengths, angles, free)
    if solution is None:
        numbers = _too_long(lengths)
        more = ("too_long",) if numbers else ()
        text = "These sides and corners do not settle one convex ring."
        raise ShapeError("outline_open", text, "unsettled", more, **numbers)
    return solution


def _too_long(lengths: Sequence[float | None]) -> dict[str, float]:
    """Where one side is longer than all the others together: which, and what it would have to be less than."""
    known = [v for v in lengths if v is not None]
    longest = max(known)
    others = math.fsum(known) - longest
    if len(known) < len(lengths) or longest < others:
        return {}
    return {"long": lengths.index(longest), "under_mm": others}


def as_far_as_it_goes(lengths_mm: Sequence[float | None], interiors_deg: Sequence[float | None]) -> Ring:
    """Sides and corners of a ring that does not close, for drawing: what is open is guessed, evenly."""
    known = [v for v in lengths_mm if v is not None]
    usual = math.fsum(known) / len(known) if known else 100.0
    count = len(interiors_deg)
    missing = sum(v is None for v in interiors_deg)
    rest = (count - 2) * 180.0 - math.fsum(v for v in interiors_deg if v is not None)
    guess = min(179.0, max(20.0, rest / missing)) if missing else 0.0
    return Ring(
        tuple(usual if v is None else v for v in lengths_mm),
        tuple(guess if v is None else v for v in interiors_deg),
    )


def single_values(lengths: Sequence[float], angles: Sequence[float]) -> tuple[tuple[str, int, float], ...]:
    """Every value that, changed by itself, closes the ring: (`side` or `corner`, which, what it would be)."""
    x, y, turn = _gap(lengths, angles)
    if abs(turn) > TURN_DEG:
        changed = ((i, [*angles[:i], angles[i] + turn, *angles[i + 1 :]]) for i in range(len(angles)))
        return tuple(
            ("corner", i, angles[i] + turn)
            for i, trial in changed
            if 0 < angles[i] + turn < 180 and math.hypot(*_gap(lengths, trial)[:2]) <= GAP_MM
        )
    found = []
    for i, heading in enumerate(directions_deg(angles)):
        c, s = math.cos(math.radians(heading)), math.sin(math.radians(heading))
        wanted = lengths[i] - (x * c + y * s)
        if abs(x * s - y * c) <= GAP_MM and wanted > 0:
            found.append(("side", i, wanted))
    return tuple(found)


MOST_NAMED: Final = 8


def _each_by_itself(
    lengths: Sequence[float], angles: Sequence[float], turn: float
) -> tuple[str, dict[str, float]]:
    """What each value by itself would have to be, as `alone.side.2`; of corners that do not add up, for their sum.

    And in what way: each of several, the only one, for the sum alone, or none.
    """
    rows = single_values(lengths, angles)
    if rows:
        way = "each" if len(rows) > 1 else "only"
    elif abs(turn) > TURN_DEG:
        way = "sum"
        rows = tuple(("corner", i, a + turn) for i, a in enumerate(angles) if 0 < a + turn < 180)
    else:
        way = "none"
    return way, {f"alone.{kind}.{i}": wanted for kind, i, wanted in rows}


def directions_deg(interiors_deg: Sequence[float]) -> tuple[float, ...]:
    """Direction in which each side runs, the first one east."""
    turned, result = 0.0, []
    for interior in interiors_deg:
        result.append(turned)
        turned += 180.0 - interior
    return tuple(result)


def _gap(lengths: Sequence[float], angles: Sequence[float]) -> tuple[float, float, float]:
    """Where the walk ends (x, y in mm) and how far it has over- or under-turned (degrees)."""
    x = y = 0.0
    for length, heading in zip(lengths, directions_deg(angles), strict=True):
        x += length * math.cos(math.radians(heading))
        y += length * math.sin(math.radians(heading))
    return x, y, math.fsum(180.0 - a for a in angles) - 360.0


def _checked(lengths: list[float], angles: list[float]) -> Ring:
    """The ring as typed, its rounding taken up, or the error that says what would close it."""
    x, y, turn = _gap(lengths, angles)
    if math.hypot(x, y) > GAP_MM or abs(turn) > TURN_DEG:
        raise _cannot_close(lengths, angles, x, y, turn)
    # Rounded angles (128.571 seven times) share what is missing, so a regular ring stays regular.
    angles = [angle + turn / len(angles) for angle in angles]
    # Two sides that are not parallel take up what the maker's rounding left.
    headings = directions_deg(angles)
    last = len(lengths) - 1
    other = max(range(last), key=lambda i: abs(math.sin(math.radians(headings[i] - headings[last]))))
    solved = _solve(
        [None if i in (other, last) else v for i, v in enumerate(lengths)],
        list(angles),
        [("length", other), ("length", last)],
    )
    return solved or Ring(tuple(lengths), tuple(angles))


def _cannot_close(lengths: list[float], angles: list[float], x: float, y: float, turn: float) -> ShapeError:
    """Name the one value that, changed, would close the ring; two sides if none alone would."""
    way, alone = _each_by_itself(lengths, angles, turn)
    if abs(turn) > TURN_DEG:
        best, best_gap = len(angles) - 1, math.inf
        for i, angle in enumerate(angles):
            if 0 < angle + turn < 180:
                changed = [*angles[:i], angle + turn, *angles[i + 1 :]]
                gap = math.hypot(*_gap(lengths, changed)[:2])
                if gap < best_gap:
                    best, best_gap = i, gap
        return ShapeError(
            "outline_open", f"A corner of {angles[best]:.6g}° would have to be {angles[best] + turn:.6g}°.",
            "corner", (way,), corner=best, sum_deg=math.fsum(angles), need_deg=180.0 * (len(angles) - 2),
            sides=len(angles), given_deg=angles[best], wanted_deg=angles[best] + turn, **alone,
        )  # fmt: skip
    gap = math.hypot(x, y)
    single = single_values(lengths, angles)
    if single:
        _kind, i, wanted = single[0]
        return ShapeError(
            "outline_open", f"A side of {lengths[i]:.6g} mm would have to be {wanted:.6g} mm.",
            "side", (way,), side=i, given_mm=lengths[i], wanted_mm=wanted, gap_mm=gap, **alone,
        )  # fmt: skip
    count = len(lengths)
    for i in range(count - 1, 0, -1):
        for j in range(i - 1, -1, -1):
            ring = _solve(
                [None if k in (i, j) else v for k, v in enumerate(lengths)],
                list(angles),
                [("length", j), ("length", i)],
            )
            if ring is not None:
                wanted, other = ring.lengths_mm[i], ring.lengths_mm[j]
                return ShapeError(
                    "outline_open", f"Two sides would have to be {other:.6g} mm and {wanted:.6g} mm.",
                    "two_sides", (way,), side=i, wanted_mm=wanted, gap_mm=gap, other=j, other_wanted_mm=other, **alone,
                )  # fmt: skip
    return ShapeError("outline_open", f"The ring stays open by {gap:.2f} mm.", gap_mm=gap)


def _solve(
    lengths: Sequence[float | None], angles: Sequence[float | None], free: list[tuple[str, int]]
) -> Ring | None:
    """Newton's method from several starts; the convex solution with all lengths positive."""
    count = len(lengths)
    known_turn = math.fsum(180.0 - a for a in angles if a is not None)
    open_angles = [i for kind, i in free if kind == "angle"]
    known = [v for v in lengths if v is not None]
    typical = math.fsum(known) / len(known) if known else 1.0
    even = (360.0 - known_turn) / len(open_angles) if open_angles else 0.0
    spread = ((0.0, 0.0, 0.0), (0.5, -0.3, -0.2), (-0.3, 0.5, -0.2), (-0.2, -0.3, 0.5),
              (0.8, -0.4, -0.4), (-0.4, 0.8, -0.4), (-0.4, -0.4, 0.8))  # fmt: skip
    for shift in spread:
        for factor in (1.0, 3.0, 0.3):
            trial_lengths = [typical * factor if v is None else v for v in lengths]
            trial_angles = [180.0 if v is None else v for v in angles]
            for place, i in enumerate(open_angles):
                trial_angles[i] = 180.0 - even * (1.0 + shift[place])
            ring = _newton(trial_lengths, trial_angles, free)
            if ring is not None and len(ring.lengths_mm) == count:
                return ring
    return None


def _newton(lengths: list[float], angles: list[float], free: list[tuple[str, int]]) -> Ring | None:
    """Gauss-Newton on the three closing equations in the free values."""
    size = max(1.0, math.fsum(abs(v) for v in lengths))
    for _ in range(60):
        x, y, turn = _gap(lengths, angles)
        residual = (x, y, math.radians(turn) * size)
        if max(abs(r) for r in residual) < 1e-12 * size:
            break
        rows = [_derivative(lengths, angles, kind, i, size) for kind, i in free]
        step = _least_squares(rows, residual)
        if step is None:
            return None
        for (kind, i), delta in zip(free, step, strict=True):
            if kind == "length":
                lengths[i] -= delta
            else:
                angles[i] -= math.degrees(max(-0.5, min(0.5, delta / size)))
    x, y, turn = _gap(lengths, angles)
    if math.hypot(x, y) > GAP_MM or abs(turn) > TURN_DEG:
        return None
    if any(v <= 0 for v in lengths) or any(not 0 < a < 180 for a in angles):
        return None
    return Ring(tuple(lengths), tuple(angles))


def _derivative(
    lengths: list[float], angles: list[float], kind: str, index: int, size: float
) -> tuple[float, float, float]:
    """How the three residuals change with one free value (angles as radians times `size`)."""
    headings = directions_deg(angles)
    if kind == "length":
        heading = math.radians(headings[index])
        return (math.cos(heading), math.sin(heading), 0.0)
    # Opening the corner by dφ turns all later sides by −dφ.
    dx = math.fsum(lengths[i] * math.sin(math.radians(headings[i])) for i in range(index + 1, len(lengths)))
    dy = -math.fsum(lengths[i] * math.cos(math.radians(headings[i])) for i in range(index + 1, len(lengths)))
    return (dx / size, dy / size, -1.0)


def _least_squares(
    columns: list[tuple[float, float, float]], residual: tuple[float, float, float]
) -> list[float] | None:
    """Solve the normal equations of at most three unknowns by elimination with pivoting."""
    n = len(columns)
    rows = [
        [math.fsum(a * b for a, b in zip(ci, cj, strict=True)) for cj in columns]
        + [math.fsum(a * r for a, r in zip(ci, residual, strict=True))]
        for ci in columns
    ]
    for k in range(n):
        pivot = max(range(k, n), key=lambda r: abs(rows[r][k]))
        if abs(rows[pivot][k]) < 1e-14:
            return None
        rows[k], rows[pivot] = rows[pivot], rows[k]
        for r in range(n):
            if r != k:
                factor = rows[r][k] / rows[k][k]
                rows[r] = [a - factor * b for a, b in zip(rows[r], rows[k], strict=True)]
    return [rows[k][n] / rows[k][k] for k in range(n)]
