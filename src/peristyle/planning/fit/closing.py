"""How a ring closes with its errors: rolled up with all joints tight but one, in a band, between cauls.

Every side is rigid; at each corner three things can be off: the gap between the outer arrises and between the inner
ones, both square to the joint, and a step along it. Going round, the turns must add up to 360° and the sides must come
back to where they began: three conditions in all.
"""

import math
from collections.abc import Sequence
from typing import Final, Literal, NamedTuple

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from peristyle.planning.fit.ring import Joint, Level, Made, levels_of, slopes_mm
from peristyle.planning.form.ring import RingPlan

Way = Literal["rolled", "band", "cauls"]
Array = NDArray[np.float64]

_ROUNDS: Final = 40  # of the dual's Newton steps at the most: it is piecewise linear, and ends after a few
_SMALL: Final = 1e-12
_AGAIN: Final = 12  # times the conditions are taken anew where the last solution lies


class Frame(Struct, frozen=True, dict=True):
    """A closed ring's corners in plan: where their first sides end and their second begin, which way the joints run in
    from outside (`along`) and across from the first side to the second, how long their faces are; which way each side
    runs.
    """

    points: Array
    pivots: Array
    along: Array
    across: Array
    faces_mm: Array
    ways: Array

    @property
    def count(self) -> int:
        """How many corners there are."""
        return len(self.faces_mm)

    @property
    def reach_mm(self) -> float:
        """The largest distance from one corner to the last: what angles are weighed by."""
        return float(np.max(np.hypot(*(self.points - self.points[-1]).T))) or 1.0

    def matrix(self) -> Array:
        """The three conditions as they depend on every corner's outer gap, inner gap and step: (3, 3n), mm."""
        n, reach = self.count, self.reach_mm
        arms = _turned(self.pivots[-1] - self.pivots)  # what the end moves for a turn at each corner
        open_ = np.vstack([np.full(n, -reach), -arms.T]) / self.faces_mm
        outer = np.vstack([np.zeros(n), self.across.T]) - open_
        step = np.vstack([np.zeros(n), self.along.T])
        return np.hstack([outer, open_, step])

    def missed(self, turns_rad: Array, lengths_mm: Array) -> Array:
        """How far the conditions are missed, by how much more every corner turns and how much longer every side is:
        (N, n) both, to (N, 3), mm.
        """
        arms = _turned(self.pivots[-1] - self.pivots)
        angle = turns_rad.sum(axis=1, keepdims=True) * self.reach_mm
        return np.hstack([angle, turns_rad @ arms + lengths_mm @ self.ways])


def _turned(vectors: Array) -> Array:
    return np.column_stack([-vectors[:, 1], vectors[:, 0]])


class _Walk(NamedTuple):
    """The sides laid one after the other: where each one's first joint begins outside, and which way it runs
    (radians).
    """

    points: list[tuple[float, float]]
    headings: list[float]


def frame_of(levels: Sequence[Level], joints: Sequence[Joint] | None = None) -> Frame:
    """The corners of a ring as its sides lie, one laid to the other with these joints."""
    n = len(levels)
    walk = _walk(levels, joints or [Joint()] * n)
    ends = [
        _end(level, point, h)
        for point, h, level in zip(walk.points[:n], walk.headings[:n], levels, strict=True)
    ]
    inward = [
        h + math.pi - level.joint_rad("end") for h, level in zip(walk.headings[:n], levels, strict=True)
    ]
    along = np.array([(math.cos(a), math.sin(a)) for a in inward])
    across = np.column_stack([along[:, 1], -along[:, 0]])
    return Frame(
        np.array(ends), np.array(walk.points[1:]), along, across, np.array(faces_mm(levels)),
        # A leaf that lies on a wall may be longer: it only runs out further.
        np.array([(math.cos(h), math.sin(h)) if one.eaves is None else (0.0, 0.0)
                  for h, one in zip(walk.headings[:n], levels, strict=True)]),
    )  # fmt: skip


def faces_mm(levels: Sequence[Level]) -> list[float]:
    """How long the joint is at the end of each side: the shorter of the two faces."""
    return [
        min(one.face_mm("end"), after.face_mm("start"))
        for one, after in zip(levels, (*levels[1:], levels[0]), strict=True)
    ]


def _walk(levels: Sequence[Level], joints: Sequence[Joint]) -> _Walk:
    """Side after side from the first, and where the first would lie again."""
    points, headings = [(0.0, 0.0)], [0.0]
    faces = faces_mm(levels)
    for index, (level, joint) in enumerate(zip(levels, joints, strict=True)):
        heading, after = headings[-1], levels[(index + 1) % len(levels)]
        x, y = _end(level, points[-1], heading)
        inward = heading + math.pi - level.joint_rad("end")
        ux, uy = math.cos(inward), math.sin(inward)
        x += joint.outside_mm * uy + joint.step_mm * ux
        y += joint.step_mm * uy - joint.outside_mm * ux
        opens = (joint.inside_mm - joint.outside_mm) / faces[index]
        points.append((x, y))
        headings.append(inward - after.joint_rad("start") - opens)
    return _Walk(points, headings)


def _end(level: Level, start: tuple[float, float], heading: float) -> tuple[float, float]:
    """Where a side's last joint begins outside, its first beginning at `start`."""
    (x0, y0), (x1, y1) = level.joins("start"), level.joins("end")
    c, s = math.cos(heading), math.sin(heading)
    return (start[0] + (x1 - x0) * c - (y1 - y0) * s, start[1] + (x1 - x0) * s + (y1 - y0) * c)


def rolled(levels: Sequence[Level], last: int) -> tuple[Joint, ...]:
    """Every joint truly tight and its outer arrises flush, but for that at the end of side `last`.

    Source: plane geometry, exact: the sides laid one to the other, and what is left between the last two.
    """
    n = len(levels)
    order = [(last + 1 + k) % n for k in range(n)]
    laid = [levels[i] for i in order]
    walk = _walk(laid, [Joint()] * n)
    heading, end, face = walk.headings[n - 1], laid[-1], faces_mm(laid)[-1]
    inward = heading + math.pi - end.joint_rad("end")
    ux, uy = math.cos(inward), math.sin(inward)
    dx, dy = (-v for v in _end(end, walk.points[n - 1], heading))
    opens = _rest(walk.headings[n] - 2 * math.pi)
    outside = dx * uy - dy * ux
    found = [Joint()] * n
    found[last] = Joint(outside, outside + face * opens, dx * ux + dy * uy)
    return tuple(found)


def _rest(angle: float) -> float:
    """An angle within half a turn of 0."""
    return (angle + math.pi) % (2 * math.pi) - math.pi


def shared(levels: Sequence[Level], way: Way) -> tuple[Joint, ...]:
    """The errors shared by all joints, by least squares, with faces that can touch but not go into each other.

    In a band the outer arrises are drawn flush; cauls press each joint shut and let it slide along its face. Source:
    least squares under the three conditions, taken anew at each solution until they hold exactly.
    """
    n = len(levels)
    x = np.zeros(3 * n)
    for _ in range(_AGAIN):
        lies = frame_of(levels, _joints(x))
        matrix = lies.matrix()
        # What is wanted of the whole of x, not of a step on: the conditions as they are here.
        missed = _missed(levels, _joints(x), lies.reach_mm) - matrix @ x
        better = solved(matrix, missed[None, :], slides=way == "cauls")[0]
        moved, x = float(np.max(np.abs(better - x))), better
        if moved < _SMALL * 1e3:
            break
    return _joints(x)


def _joints(x: Array) -> tuple[Joint, ...]:
    n = len(x) // 3
    return tuple(Joint(*map(float, (x[i], x[n + i], x[2 * n + i]))) for i in range(n))


def _missed(levels: Sequence[Level], joints: Sequence[Joint], reach_mm: float) -> Array:
    """How far the ring misses closing, exactly: in the scale of the matrix."""
    walk = _walk(levels, joints)
    x, y = walk.points[-1]
    return np.array([(walk.headings[-1] - 2 * math.pi) * reach_mm, x, y])


def solved(matrix: Array, missed: Array, *, slides: bool) -> Array:
    """The least gaps and steps that close many rings at once: (3, 3n) and (N, 3) to (N, 3n).

    Gaps are 0 or more; without `slides` there are no steps. Source: the dual of least squares under linear conditions,
    three multipliers a ring, by Newton's method with a line search (it is convex and piecewise quadratic).
    """
    n = matrix.shape[1] // 3
    gaps, steps = matrix[:, : 2 * n], matrix[:, 2 * n :]
    wanted = -missed
    scale = np.trace(matrix @ matrix.T) / 3
    slip = steps @ steps.T if slides else np.zeros((3, 3))
    lam = wanted @ np.linalg.inv(gaps @ gaps.T / 2 + slip + _SMALL * scale * np.eye(3))
    for _ in range(_ROUNDS):
        pull = lam @ gaps
        held = pull > 0.0
        left = wanted - np.where(held, pull, 0.0) @ gaps.T - lam @ slip
        if float(np.max(np.abs(left))) < _SMALL * max(1.0, float(np.max(np.abs(wanted)))):
            break
        curve = np.einsum("ij,nj,kj->nik", gaps, held, gaps) + slip + _SMALL * scale * np.eye(3)
        way = np.linalg.solve(curve, left[:, :, None])[:, :, 0]
        lam = lam + _far(lam, way, gaps, slip, wanted)[:, None] * way
    x = np.zeros((len(missed), 3 * n))
    x[:, : 2 * n] = np.maximum(0.0, lam @ gaps)
    if slides:
        x[:, 2 * n :] = lam @ steps
    return x


def _far(lam: Array, way: Array, gaps: Array, slip: Array, wanted: Array) -> Array:
    """How far along each way the dual still grows: 1, or half as often as it takes."""

    def value(at: Array) -> Array:
        pull = np.maximum(0.0, at @ gaps)
        kept: Array = (at * wanted).sum(axis=1) - 0.5 * (pull**2).sum(axis=1)
        kept -= 0.5 * np.einsum("ni,ij,nj->n", at, slip, at)
        return kept

    share = np.ones(len(lam))
    now = value(lam)
    for _ in range(20):
        worse = value(lam + share[:, None] * way) < now - 1e-14 * np.maximum(1.0, np.abs(now))
        if not worse.any():
            break
        share[worse] /= 2
    return share


def closed(ring: RingPlan, made: Sequence[Made], way: Way, last: int) -> tuple[Joint, ...]:
    """The joints of a ring as its sides came out, closed in one of the ways; `last` is the joint rolled up last."""
    levels = levels_of(ring, made)
    joints = rolled(levels, last) if way == "rolled" else shared(levels, way)
    return tuple(
        Joint(one.outside_mm, one.inside_mm, one.step_mm, slope)
        for one, slope in zip(joints, slopes_mm(ring, made), strict=True)
    )


def laid(levels: Sequence[Level], joints: Sequence[Joint]) -> list[list[tuple[float, float]]]:
    """Every side's four arrises as it lies in the ring: outer start, outer end, inner end, inner start."""
    walk, found = _walk(levels, joints), []
    for (x, y), heading, level in zip(walk.points, walk.headings, levels, strict=False):
        c, s = math.cos(heading), math.sin(heading)
        x0, y0 = level.joins("start")
        own = (
            (0.0, 0.0),
            (level.length_mm, 0.0),
            (level.length_mm - level.wall_mm / math.tan(level.end_rad), level.wall_mm),
            (level.wall_mm / math.tan(level.start_rad), level.wall_mm),
        )
        found.append([(x + (a - x0) * c - (b - y0) * s, y + (a - x0) * s + (b - y0) * c) for a, b in own])
    return found
