"""What is off, and by how much: every setting of the steps with its set-up error, every cut with its own."""

import math
from collections.abc import Iterator, Sequence
from typing import Final, Literal, NamedTuple, get_args

import numpy as np
from msgspec import Struct

from peristyle.core.planes import EndCut
from peristyle.model.design import replace
from peristyle.model.job import Job, Spread
from peristyle.model.limits import Length
from peristyle.planning.fit.closing import Array, faces_mm, frame_of
from peristyle.planning.fit.ring import Made, at_middle, levels_of, lies_on_wall, planned
from peristyle.planning.making.step import Step
from peristyle.planning.plan import Plan

Of = Literal["tilt_set", "tilt_cut", "swing_set", "swing_cut", "stop_set", "stop_cut"]
Test = Literal["none", "pair", "ring"]
Glue = Literal["rolled", "band", "cauls", "halves"]
_ENDS: Final = ("start", "end")
_CUTS: Final = ("crosscut", "bevel", "strips", "strip_bevel")
_NUDGE: Final = 1e-4  # degrees or mm: for how a side's ends follow from its cuts
_EVEN: Final = 1 / math.sqrt(12)  # the spread of a reading that is anywhere within one step


class Practice(Struct, frozen=True):
    """How the maker works: one stop for all alike or one for each piece, what is tested before, ends as they come
    from the saw or shot, how the ring is closed; `gauge_deg` is the finest step of the gauge the blade is set by, None
    where that is the saw's own scale.
    """

    stop: Literal["one", "each"] = "one"
    test: Test = "none"
    ends: Literal["saw", "shot"] = "saw"
    glue: Glue = "rolled"
    gauge_deg: float | None = None


class Source(NamedTuple):
    """One thing that can be off: of which kind, at which settings or cuts, its spread (degrees or mm, one standard
    deviation); what one degree or mm of it does to the turn at each corner (radians) and to each side's length half
    way up (mm).
    """

    of: Of
    about: tuple[str, ...]  # sides' ends, C.start, or sides, C
    sd: float
    turns: Array
    lengths: Array


class _End(NamedTuple):
    """How a side's level cut follows from its cuts: turn (radians) and length (mm) for a degree of bevel, of miter."""

    turn: tuple[float, float]
    length: tuple[float, float]


def spread_of(job: Job, practice: Practice, faces: Sequence[float]) -> dict[Of, float]:
    """The spread of every kind of error as the maker works.

    A scale is read to its finest step, any error within that as likely; two test pieces against a square show twice
    the error, a ring of n scraps 2n times, down to the gap that is just seen. Source: common practice.
    """
    own: Spread = job.shop.spread
    step = practice.gauge_deg if practice.gauge_deg is not None else job.shop.saw.step_deg
    tilt = own.tilt_set_deg if own.tilt_set_deg is not None and practice.gauge_deg is None else step * _EVEN
    swing = own.swing_set_deg if own.swing_set_deg is not None else job.shop.saw.step_deg * _EVEN
    cut = own.tilt_cut_deg
    if practice.ends == "shot":
        tilt, cut = min(tilt, own.shot_deg), min(cut, own.shot_deg)
    times = {"none": 0, "pair": 2, "ring": 2 * len(faces)}[practice.test]
    if times:
        tilt = min(tilt, math.degrees(own.seen_mm * _EVEN / (min(faces) * times)))
    return {
        "tilt_set": tilt, "tilt_cut": cut, "swing_set": swing, "swing_cut": own.swing_cut_deg,
        "stop_set": own.stop_set_mm, "stop_cut": own.stop_cut_mm,
    }  # fmt: skip


def sources(plan: Plan, practice: Practice) -> list[Source]:
    """Everything that can be off in the ring, by the steps that cut it; those of one setting together."""
    ring = plan.ring
    levels = levels_of(ring, [planned(side) for side in ring.sides])
    sds = spread_of(plan.job, practice, faces_mm(levels))
    ends = {(side.index, end): _end(plan, side.index, end) for side in ring.sides for end in _ENDS}
    found: list[Source] = []
    for kind, number in (("tilt", 0), ("swing", 1)):
        groups: dict[object, list[tuple[int, str, float]]] = {}
        for index, end in ends:
            key, sign = _setting(plan, index, end, kind)
            groups.setdefault(key, []).append((index, end, sign))
        for cuts in groups.values():
            found.append(_source(plan, ends, f"{kind}_set", number, cuts, sds))
        for index, end in ends:
            found.append(_source(plan, ends, f"{kind}_cut", number, [(index, end, 1.0)], sds))
    stops: dict[object, list[int]] = {}
    for side in ring.sides:
        key = side.index if practice.stop == "each" else _stop(plan, side.index)
        stops.setdefault(key, []).append(side.index)
    for alike in stops.values():
        found.append(_longer("stop_set", plan, alike, sds["stop_set"]))
    found += [_longer("stop_cut", plan, [side.index], sds["stop_cut"]) for side in ring.sides]
    return found


def _source(
    plan: Plan, ends: dict[tuple[int, str], _End], of: str, number: int, cuts: list[tuple[int, str, float]],
    sds: dict[Of, float],
) -> Source:  # fmt: skip
    n = len(plan.ring.sides)
    turns, lengths = np.zeros(n), np.zeros(n)
    for index, end, sign in cuts:
        turns[index if end == "end" else index - 1] += sign * ends[index, end].turn[number]
        lengths[index] += sign * ends[index, end].length[number]
    names = tuple(f"{plan.ring.sides[index].name}.{end}" for index, end, _sign in cuts)
    kind = next(one for one in sds if one == of)
    return Source(kind, names, sds[kind], turns, lengths)


def _longer(of: Of, plan: Plan, sides: Sequence[int], sd: float) -> Source:
    n = len(plan.ring.sides)
    lengths = np.zeros(n)
    lengths[list(sides)] = 1.0
    return Source(of, tuple(plan.ring.sides[i].name for i in sides), sd, np.zeros(n), lengths)


def _end(plan: Plan, index: int, end: str) -> _End:
    """What a degree of bevel and of miter does at one end: taken from two level cuts a hair apart."""
    if lies_on_wall(plan.ring, index, end):
        return _End((0.0, 0.0), (0.0, 0.0))
    side, slab = plan.ring.sides[index], plan.ring.slabs[index]
    whole = planned(side)
    turns, lengths = [], []
    for name in ("bevel_deg", "miter_deg"):
        both = []
        for way in (-1.0, 1.0):
            cut: EndCut = getattr(whole, end)
            other = cut._replace(**{name: getattr(cut, name) + way * _NUDGE})
            moved = whole._replace(start=other) if end == "start" else whole._replace(end=other)
            both.append(at_middle(slab, side.slant_mm, moved))
        low, high = both
        angles = [one.start_rad if end == "start" else one.end_rad for one in both]
        turns.append((angles[0] - angles[1]) / (2 * _NUDGE))
        lengths.append((high.length_mm - low.length_mm) / (2 * _NUDGE))
    return _End((turns[0], turns[1]), (lengths[0], lengths[1]))


def _cut_by(plan: Plan, index: int) -> Iterator[Step]:
    name = f"side.{plan.ring.sides[index].name}"
    return (
        step for step in plan.steps if step.operation in _CUTS and name in step.pieces and step.part == "box"
    )


def _setting(plan: Plan, index: int, end: str, gauge: str) -> tuple[object, float]:
    """The set-up an end is cut at: by tool and value; and which way an error of it goes there."""
    key: object = ("any", gauge)
    sign = 1.0
    for step in _cut_by(plan, index):
        if step.end not in (None, end):
            continue
        values = [s.value for s in step.settings if s.gauge == gauge and s.end in (None, end)]
        if gauge == "tilt" and values:
            key = (step.tool, step.tool_name, round(values[0], 3))
        elif gauge == "swing":
            value = round(values[0], 3) if values else 0.0
            key = (step.tool, step.tool_name, value)
            # A gauge that should stand square leans all pieces one way: one end gains what the other loses.
            sign = -1.0 if value == 0.0 and end == "end" else 1.0
    return key, sign


def _stop(plan: Plan, index: int) -> object:
    """The stop a side gets its length by: the last step that has one, and which of its values."""
    side = plan.ring.sides[index]
    key: object = ("any", round(side.outside_mm, 3))
    for step in _cut_by(plan, index):
        values = [s.value for s in step.settings if s.gauge in ("stop", "width") and s.end != "start"]
        if values:
            off = [abs(value - side.end_stop_mm) for value in values]
            key = (step.id, round(values[off.index(min(off))], 3))
    return key


class Effects(NamedTuple):
    """All sources as matrices: their spreads (S), what they do to turns and lengths (S, n), and what conditions miss
    by one of each (S, 3).
    """

    every: list[Source]
    sds: Array
    turns: Array
    lengths: Array
    missed: Array


def effects(plan: Plan, practice: Practice) -> Effects:
    """Everything that can be off, ready to be drawn by chance or looked back from."""
    every = sources(plan, practice)
    turns, lengths = np.array([s.turns for s in every]), np.array([s.lengths for s in every])
    made: list[Made] = [planned(side) for side in plan.ring.sides]
    frame = frame_of(levels_of(plan.ring, made))
    return Effects(every, np.array([s.sd for s in every]), turns, lengths, frame.missed(turns, lengths))


LIMIT_MM: Final[Length] = 0.1  # what a joint may be open and still be called closed (common practice)


def compared(practice: Practice) -> list[Practice]:
    """The ways of working that differ from one in one thing each."""
    found = [replace(practice, stop="each" if practice.stop == "one" else "one")]
    found += [replace(practice, test=test) for test in get_args(Test) if test != practice.test]
    found += [replace(practice, ends="shot" if practice.ends == "saw" else "saw")]
    found += [replace(practice, glue=glue) for glue in get_args(Glue) if glue != practice.glue]
    if practice.gauge_deg is None:
        found.append(replace(practice, gauge_deg=0.05))
    return found
