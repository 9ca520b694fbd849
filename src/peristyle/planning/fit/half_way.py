"""What is cut already, held against the design as it is now: what serves, what after which further cut, what not."""

import math
from collections.abc import Iterator
from typing import Final, Literal

from msgspec import Struct

from peristyle.model.job import Done
from peristyle.planning.findings import Finding, Place
from peristyle.planning.fit.as_cut import cut_before, features_of
from peristyle.planning.making.asdone import values_of
from peristyle.planning.making.piece import Feature
from peristyle.planning.making.step import Step
from peristyle.planning.plan import Plan

Kind = Literal["serves", "again", "anew", "unneeded", "left_over"]
_TRIALS: Final = "box.try_"  # what was tried on scrap is simply tried again
_SAME: Final = 0.005  # mm or degrees: what nobody can set apart
_WORSE: Final[dict[Kind, int]] = {"serves": 0, "unneeded": 1, "again": 2, "anew": 3, "left_over": 4}
# Where a size can only get smaller: a longer piece is cut shorter, a thicker one planed.
_SMALLER: Final = {
    "crosscut": "stop",
    "bevel": "stop",
    "rip": "fence",
    "plane": "thickness",
    "thin": "thickness",
    "strips": "width",
}


class Verdict(Struct, frozen=True):
    """What a step that is done means now. Of one that is done `again`, or whose pieces are made `anew`, the first
    setting that differs: its gauge, as it was and as it is to be (mm or degrees).
    """

    step: str
    kind: Kind
    pieces: tuple[str, ...]
    gauge: str = ""
    was: float = 0.0
    now: float = 0.0


def verdicts(plan: Plan) -> tuple[Verdict, ...]:
    """Of every step that is done, whether what it made serves."""
    steps = {step.id: step for step in plan.steps}
    there = {piece.id for piece in plan.pieces}
    return tuple(
        one
        for one in _verdicts(plan, steps, there)
        if not one.step.startswith(_TRIALS) or one.kind == "serves"
    )


def _verdicts(plan: Plan, steps: dict[str, Step], there: set[str]) -> tuple[Verdict, ...]:
    return tuple(
        _verdict(plan, done, steps.get(done.step), there) for done in plan.job.progress if done.count
    )


def _verdict(plan: Plan, done: Done, step: Step | None, there: set[str]) -> Verdict:
    if step is None:
        cut = features_of(plan.job, done)
        if cut:  # other steps make the same by now, or something like it
            return _by_feature(plan, done, cut, there)
        names = _named(done.step, there)
        return Verdict(done.step, "unneeded" if names else "left_over", names)
    now = values_of(step)
    if not done.values or len(done.values) != len(now):
        return Verdict(step.id, "serves" if not done.values else "again", step.pieces)
    for setting, was in zip(step.settings, done.values, strict=True):
        if abs(setting.value - was) <= _SAME:
            continue
        kind: Kind = "again"
        if _SMALLER.get(step.operation) == setting.gauge:
            kind = "again" if setting.value < was else "anew"
        elif setting.gauge in ("tilt", "swing"):
            kind = "again" if _room(step, done, was, setting.value) else "anew"
        elif step.operation in ("groove", "rabbet", "dado") and setting.gauge in ("fence", "stop"):
            kind = "anew"
        elif setting.gauge == "height":
            kind = "again" if setting.value > was else "anew"
        return Verdict(step.id, kind, step.pieces, setting.gauge, was, setting.value)
    return Verdict(step.id, "serves", step.pieces)


def _by_feature(plan: Plan, done: Done, cut: list[tuple[str, Feature]], there: set[str]) -> Verdict:
    """What the features that a step has cut are worth, where no step of its name is left."""
    wanted = {feature.id: feature for piece in plan.pieces for feature in piece.features}
    kinds: dict[str, Kind] = {}
    for piece, feature in cut:
        planned = wanted.get(feature.id)
        kind: Kind = (
            "left_over" if piece not in there
            else "unneeded" if planned is None
            else "serves" if planned == feature
            else "anew"
        )  # fmt: skip
        if piece not in kinds or _WORSE[kind] > _WORSE[kinds[piece]]:
            kinds[piece] = kind
    worst = max(kinds.values(), key=lambda kind: _WORSE[kind])
    return Verdict(done.step, worst, tuple(piece for piece, kind in kinds.items() if kind == worst))


def _room(step: Step, done: Done, was: float, now: float) -> bool:
    """Whether an end can be cut at another angle: what the new length gives up is more than the new bevel takes."""
    thick = step.numbers.get("thick_mm", 12.0)
    takes = thick * abs(math.tan(math.radians(now)) - math.tan(math.radians(was)))
    stops = [(s.value, v) for s, v in zip(step.settings, done.values, strict=True) if s.gauge == "stop"]
    return bool(stops) and all(v - value >= takes - _SAME for value, v in stops)


def _named(step: str, there: set[str]) -> tuple[str, ...]:
    """The pieces a step's id speaks of that are still in the plan."""
    letters = step.rsplit(".", maxsplit=1)[-1].split("_")
    return tuple(name for letter in letters if (name := f"side.{letter}") in there)


def cut_findings(plan: Plan) -> Iterator[Finding]:
    """What is cut already and is cut once more, or made anew, since the design has changed."""
    found = verdicts(plan)
    again, anew = ([one for one in found if one.kind == kind] for kind in ("again", "anew"))
    if again or anew:
        numbers = {"again": float(len(again)), "anew": float(len(anew))}
        kind = "both" if again and anew else "again" if again else "anew"
        yield Finding("cut_already", "caution", Place("fit"), numbers, kind=kind)


def of_pieces(plan: Plan, found: tuple[Verdict, ...]) -> dict[str, Kind]:
    """Of every piece that is cut at all, the gravest verdict."""
    worst: dict[str, Kind] = {}
    for verdict in found:
        for piece in verdict.pieces:
            if piece not in worst or _WORSE[verdict.kind] > _WORSE[worst[piece]]:
                worst[piece] = verdict.kind
    return worst


def still_to_do(plan: Plan, found: tuple[Verdict, ...]) -> Iterator[Step]:
    """The order of work from here: what is not done, and what is done again or anew."""
    kinds = {verdict.step: verdict.kind for verdict in found}
    anew = {piece for verdict in found if verdict.kind == "anew" for piece in verdict.pieces}
    before = cut_before(plan)
    for step in plan.steps:
        if step.id in before and not anew & set(step.pieces):
            continue
        if kinds.get(step.id, "again") != "serves" or anew & set(step.pieces):
            yield step
