"""From what is seen of a box to what it likely comes from: the errors of the steps, held against what was measured."""

from collections.abc import Sequence
from typing import Final, NamedTuple

import numpy as np
from msgspec import Struct

from peristyle.model.job import Job, SetUpKind
from peristyle.planning.fit.closing import Array, Frame
from peristyle.planning.fit.errors import Effects, Of, Practice, effects
from peristyle.planning.fit.quantities import Quantity, known, measured, uncertainty
from peristyle.planning.fit.simulate import frame, last_joint, openings
from peristyle.planning.plan import Plan
from peristyle.planning.setups import CHECK_OF

# How far what is truly wrong may be off: a hand's mistake, not the tool's spread (our rule).
_WRONG: Final[dict[Of, float]] = {
    "tilt_set": 0.6, "tilt_cut": 0.6, "swing_set": 0.6, "swing_cut": 0.6, "stop_set": 1.5, "stop_cut": 1.5,
}  # fmt: skip
SURE: Final = 0.7  # less likely than that, no cause is told for certain (our rule)
_LIKELY: Final = 0.3  # of a cause that is worth a check of its own
_TOLD: Final = 5  # causes that are told
_TELLS: Final = 3.0  # how many of its own spreads a measurement must part two causes by, to be worth taking


class Cause(Struct, frozen=True):
    """One thing that may be wrong: its probability among all, and how far it is off (degrees or mm), more than planned
    above 0. `about` are sides, or their ends, as A.start. Put right, the widest joint would close to `left_mm`.
    """

    of: Of
    about: tuple[str, ...]
    probability: float
    off: float
    left_mm: float


class Diagnosis(Struct, frozen=True):
    """The likeliest causes of what was measured; how likely it is that nothing is wrong beyond the tools' own spread.
    Where no cause is likely enough, the name of the one quantity whose measuring would tell most between the first two.
    """

    causes: tuple[Cause, ...] = ()
    nothing: float = 1.0
    tells: str = ""

    @property
    def certain(self) -> bool:
        """Whether there is one cause to act on."""
        return bool(self.causes) and self.causes[0].probability >= SURE

    @property
    def check(self) -> SetUpKind | None:
        """The check of the saw that would show its likeliest cause; None where that lies in no setting."""
        settings = (one for one in self.causes if one.of.endswith("_set") and one.probability >= _LIKELY)
        return next((CHECK_OF[one.of.removesuffix("_set")] for one in settings), None)


class _Seen(NamedTuple):
    """What was measured, less what is planned; how it follows from what is off: values (m), rows (m, S), sds (m)."""

    values: Array
    rows: Array
    sds: Array


class _Model(NamedTuple):
    """All that any measurement is a linear function of."""

    plan: Plan
    ring: Frame
    made: Effects
    gaps: Array  # (S, n): the opening at each corner, inside less outside
    outer: Array  # (S, n): what the outer arrises are apart
    moves: Array  # (S, n, 2): how the corners move


def _model(plan: Plan, practice: Practice) -> _Model:
    ring, made = frame(plan), effects(plan, practice)
    n = ring.count
    if practice.glue == "rolled":
        at = plan.job.closing
        last = made.missed @ last_joint(ring, at).T
        gaps, outer = np.zeros((len(made.sds), n)), np.zeros((len(made.sds), n))
        gaps[:, at], outer[:, at] = last[:, 1] - last[:, 0], last[:, 0]
    else:
        gaps, outer = made.missed @ openings(ring), np.zeros((len(made.sds), n))
    # Round the ring: every corner turns by its bevels' error less its opening, every side is longer by its own.
    turns = made.turns - gaps / ring.faces_mm
    headings = np.hstack([np.zeros((len(turns), 1)), np.cumsum(turns, axis=1)[:, :-1]])
    begins = np.vstack([ring.points[-1:], ring.points[:-1]])
    sides = ring.points - begins
    across = np.column_stack([-sides[:, 1], sides[:, 0]])
    steps = headings[:, :, None] * across[None] + made.lengths[:, :, None] * ring.ways[None]
    return _Model(plan, ring, made, gaps, outer, np.cumsum(steps, axis=1))


def _row(model: _Model, quantity: Quantity) -> Array | None:
    """How one quantity follows from all that can be off; None where it does not."""
    plan, made = model.plan, model.made
    names = quantity.names
    corners = {corner.name: corner.index for corner in plan.ring.corners}
    if quantity.key in ("gap_outside", "gap_inside"):
        at = corners[names["corner"]]
        # Signed: open inside, or where it is open outside, below 0 inside.
        return model.outer[:, at] + (model.gaps[:, at] if quantity.key == "gap_inside" else 0.0)
    if quantity.key == "length":
        return np.array([_direct(s.of, s.about, "stop", names["side"]) for s in made.every])
    if quantity.key in ("bevel", "miter"):
        kind = "tilt" if quantity.key == "bevel" else "swing"
        return np.array([_direct(s.of, s.about, kind, f"{names['side']}.{names['end']}") for s in made.every])
    if quantity.key == "diagonal":
        a, b = corners[names["corner"]], corners[names["other"]]
        way = model.ring.points[b] - model.ring.points[a]
        way = way / np.hypot(*way)
        found: Array = (model.moves[:, b] - model.moves[:, a]) @ way
        return found
    return None


def _direct(of: Of, about: Sequence[str], kind: str, name: str) -> float:
    return 1.0 if of.startswith(kind) and name in about else 0.0


def _seen(model: _Model, job: Job) -> _Seen:
    """What was measured of the ring. Gaps are told as they are seen, 0 or more: both of a corner give its opening."""
    there, values = known(model.plan), measured(job)
    found: list[tuple[float, Array, float]] = []
    for name, one in values.items():
        quantity = there.get(name)
        if quantity is None or quantity.planned is None:
            continue
        row, value, sd = _row(model, quantity), one.value - quantity.planned, uncertainty(quantity, one)
        if quantity.key == "gap_outside":
            inside = values.get(name.replace("outside", "inside"))
            if inside is not None:
                continue  # told with the inside's
            row, value = _opening_row(model, quantity), -value
        elif quantity.key == "gap_inside":
            outside = values.get(name.replace("inside", "outside"))
            row = _opening_row(model, quantity)
            value -= outside.value if outside is not None else 0.0
        if row is not None:
            found.append((value, row, sd))
    if not found:
        return _Seen(np.zeros(0), np.zeros((0, len(model.made.sds))), np.zeros(0))
    every, rows, sds = zip(*found, strict=True)
    return _Seen(np.array(every), np.array(rows), np.array(sds))


def _opening_row(model: _Model, quantity: Quantity) -> Array:
    at = next(c.index for c in model.plan.ring.corners if c.name == quantity.names["corner"])
    found: Array = model.gaps[:, at]
    return found


def _evidence(seen: _Seen, spread: Array) -> float:
    """How likely what was seen is, if all that is off has these variances: the logarithm of the density."""
    cover = seen.rows * spread @ seen.rows.T + np.diag(seen.sds**2)
    sign, size = np.linalg.slogdet(cover)
    return float(-0.5 * (seen.values @ np.linalg.solve(cover, seen.values) + sign * size))


def diagnose(plan: Plan, practice: Practice) -> Diagnosis:
    """What is likely wrong. Source: Bayes' rule over one cause at a time, all else at the tools' own spread."""
    model = _model(plan, practice)
    seen = _seen(model, plan.job)
    if not len(seen.values):
        return Diagnosis()
    every, usual = model.made.every, model.made.sds**2
    spreads = [usual]
    for number, source in enumerate(every):
        wide = usual.copy()
        wide[number] += _WRONG[source.of] ** 2
        spreads.append(wide)
    # As likely as not nothing is wrong; if something is, any of them alike.
    before = np.log([0.5, *[0.5 / len(every)] * len(every)])
    logs = before + np.array([_evidence(seen, spread) for spread in spreads])
    chances = np.exp(logs - logs.max())
    chances /= chances.sum()
    means = [_means(seen, spread) for spread in spreads]
    ranked = sorted(range(1, len(spreads)), key=lambda k: -chances[k])
    causes = []
    for k in ranked[:_TOLD]:
        if chances[k] < 0.02:
            break
        source, off = every[k - 1], float(means[k][k - 1])
        mended = means[k].copy()
        mended[k - 1] = 0.0
        left = float(np.max(np.abs(mended @ model.gaps), initial=0.0))
        causes.append(Cause(source.of, source.about, float(chances[k]), off, left))
    tells = ""
    if len(causes) > 1 and causes[0].probability < SURE:
        tells = _tells(model, plan.job, means[ranked[0]] - means[ranked[1]])
    return Diagnosis(tuple(causes), float(chances[0]), tells)


def _means(seen: _Seen, spread: Array) -> Array:
    """What everything is off by, as far as it is known: (S)."""
    cover = seen.rows * spread @ seen.rows.T + np.diag(seen.sds**2)
    found: Array = spread * (seen.rows.T @ np.linalg.solve(cover, seen.values))
    return found


def _tells(model: _Model, job: Job, apart: Array) -> str:
    """The quantity not yet measured that parts two explanations most, in its own spreads; none where none does."""
    taken, best = measured(job), ("", _TELLS)
    for name, quantity in known(model.plan).items():
        row = None if name in taken else _row(model, quantity)
        if row is None:
            continue
        parts = abs(float(row @ apart)) / quantity.sure
        if parts > best[1]:
            best = (name, parts)
    return best[0]
