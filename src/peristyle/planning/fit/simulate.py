"""Many boxes made by chance: how likely every joint closes, and which error is worth mending first."""

import math
from typing import Final, NamedTuple

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from peristyle.planning.fit.closing import Array, Frame, frame_of, solved
from peristyle.planning.fit.errors import LIMIT_MM, Effects, Of, Practice, effects
from peristyle.planning.fit.ring import levels_of, planned
from peristyle.planning.plan import Plan

BOXES: Final = 100_000
_BAND_BOXES: Final = 20_000  # where faces can only touch, each box is a small problem of its own
_CHUNK: Final = 20_000
_PLANE_DEG: Final = 0.5  # two halves are trued on a flat sheet where their ends lie in one plane


class Outcome(Struct, frozen=True):
    """What came of many boxes. `chance` that every joint closes within the limit; the widest joint of a box at the
    median and of nine boxes in ten (mm); `shares` of what the joints vary, by what is off: they add up to 1.

    `spread_mm` is one standard deviation of the opening at the last joint, rolled up, or of one corner, shared;
    `turns_deg` that of all faces' disagreement together.
    """

    boxes: int
    chance: float
    median_mm: float
    nine_in_ten_mm: float
    spread_mm: float
    turns_deg: float
    shares: dict[Of, float]


class _Linear(NamedTuple):
    """Every joint's gaps as they follow from what is off, where signs do not matter: (S, k), mm."""

    gaps: Array
    one: Array  # (S): the opening of which the spread is told


def frame(plan: Plan) -> Frame:
    """The ring as it is planned, its corners in plan."""
    return frame_of(levels_of(plan.ring, [planned(side) for side in plan.ring.sides]))


def last_joint(ring: Frame, last: int) -> Array:
    """What is left at the last joint for what the conditions miss: (3, 3), from those to its gaps and its step."""
    n = ring.count
    matrix = ring.matrix()[:, [last, n + last, 2 * n + last]]
    found: Array = -np.asarray(np.linalg.inv(matrix), dtype=np.float64)
    return found


def openings(ring: Frame) -> Array:
    """The opening at each corner (inside less outside, mm) for what the conditions miss, the outer arrises touching:
    (3, n).

    Source: the least squares of the openings under the three conditions, whatever their signs.
    """
    n = ring.count
    matrix = ring.matrix()[:, n : 2 * n]
    found: Array = -(matrix.T @ np.linalg.inv(matrix @ matrix.T)).T
    return found


def _linear(ring: Frame, made: Effects, practice: Practice, last: int) -> _Linear:
    if practice.glue == "rolled":
        gaps = made.missed @ last_joint(ring, last).T
        return _Linear(gaps, gaps[:, 1] - gaps[:, 0])
    gaps = made.missed @ openings(ring)
    return _Linear(gaps, gaps[:, last])


def halves_meet(plan: Plan) -> bool:
    """Whether the ring's two halves end in one plane, so that both are trued on a flat sheet before they meet."""
    if not plan.ring.stands:
        return False
    ring = frame(plan)
    n = ring.count
    if n % 2:
        return False
    for one in range(n // 2):
        other = one + n // 2
        way = ring.points[other] - ring.points[one]
        way = way / np.hypot(*way)
        off = [abs(float(way[0] * ring.along[k][1] - way[1] * ring.along[k][0])) for k in (one, other)]
        if max(off) < math.sin(math.radians(_PLANE_DEG)):
            return True
    return False


def simulate(plan: Plan, practice: Practice, *, limit_mm: float = LIMIT_MM, boxes: int | None = None, seed: int = 1,
             last: int | None = None) -> Outcome:  # fmt: skip
    """So many boxes, each error by chance from its spread. Source: MATH of errors; normal errors, set-ups shared."""
    ring, made = frame(plan), effects(plan, practice)
    at = plan.job.closing if last is None else last
    chance = np.random.default_rng(seed)
    linear = _linear(ring, made, practice, at)
    shares = _shares(made, linear.gaps)
    turns = float(math.degrees(np.sqrt(((made.turns.sum(axis=1) * made.sds) ** 2).sum())))
    spread = float(np.sqrt(((linear.one * made.sds) ** 2).sum()))
    if practice.glue == "halves":
        widest = _halves(plan, ring, chance, boxes or BOXES)
        spread = float(np.std(widest))
        shares = {}
    elif practice.glue == "rolled":
        widest = _drawn(made, linear.gaps, chance, boxes or BOXES)
    else:
        widest = _touching(ring, made, chance, boxes or _BAND_BOXES, slides=practice.glue == "cauls")
    return Outcome(
        len(widest), float(np.mean(widest <= limit_mm)), float(np.median(widest)), float(np.quantile(widest, 0.9)),
        spread, turns, shares,
    )  # fmt: skip


def _shares(made: Effects, gaps: Array) -> dict[Of, float]:
    """How much of all joints' variance comes of each kind of error."""
    each = ((gaps * made.sds[:, None]) ** 2).sum(axis=1)
    total = float(each.sum()) or 1.0
    found: dict[Of, float] = {}
    for source, part in zip(made.every, each, strict=True):
        found[source.of] = found.get(source.of, 0.0) + float(part) / total
    return dict(sorted(found.items(), key=lambda item: -item[1]))


def _drawn(made: Effects, gaps: Array, chance: np.random.Generator, boxes: int) -> NDArray[np.float64]:
    """The widest of the last joint's gaps in every box."""
    weights = (gaps * made.sds[:, None]).astype(np.float32)
    found = []
    for begin in range(0, boxes, _CHUNK):
        count = min(_CHUNK, boxes - begin)
        drawn = chance.standard_normal((count, len(weights)), dtype=np.float32)
        found.append(np.abs(drawn @ weights).max(axis=1))
    return np.concatenate(found).astype(float)


def _touching(
    ring: Frame, made: Effects, chance: np.random.Generator, boxes: int, *, slides: bool
) -> NDArray[np.float64]:
    """The widest gap in every box where faces touch and never go into each other."""
    matrix, found = ring.matrix(), []
    for begin in range(0, boxes, _CHUNK):
        count = min(_CHUNK, boxes - begin)
        missed = (chance.standard_normal((count, len(made.sds))) * made.sds) @ made.missed
        found.append(np.abs(solved(matrix, missed, slides=slides)).max(axis=1))
    return np.concatenate(found)


def _halves(plan: Plan, ring: Frame, chance: np.random.Generator, boxes: int) -> NDArray[np.float64]:
    """Both halves trued on a flat sheet: what is left is how flat that is, at the two joints where they meet."""
    shot = math.radians(plan.job.shop.spread.shot_deg)
    face = float(ring.faces_mm.max())
    drawn = chance.standard_normal((boxes, 4)) * shot * face
    found: NDArray[np.float64] = np.abs(drawn[:, :2] + drawn[:, 2:]).max(axis=1)
    return found
