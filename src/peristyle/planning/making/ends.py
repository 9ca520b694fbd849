"""The ends of any ring's sides, the box's or a liner's: crosscuts and bevels."""

import math
from collections.abc import Iterator, Sequence
from typing import Final, Literal

from peristyle.core.conventions import tilt_setting
from peristyle.core.planes import EndCut
from peristyle.model.design import replace
from peristyle.model.job import Job
from peristyle.planning.cutters import cutter
from peristyle.planning.form.ring import RingPlan, SidePlan
from peristyle.planning.making.machine import at_length, bevels_on, creep_of
from peristyle.planning.making.ripping import ids, letters, part_of, together
from peristyle.planning.making.setting import (
    LEAST_SWING,
    SAME_SETTING,
    End,
    Setting,
    begins,
    same,
    stop,
    swing,
    tilt,
)
from peristyle.planning.making.step import Step, make
from peristyle.reference.machines import USUAL_ANGLES

_SEEN_MM: Final = 0.02  # a joint that is open by less is closed


def crosscuts(
    job: Job, ring: RingPlan, order: Sequence[int], word: str, stops: dict[tuple[int, ...], int] | None = None
) -> Iterator[Step]:
    """Crosscuts in board order, so that the grain stays in order; equal pieces share a stop, also with those whose
    `stops` are set already.

    Sides that lean unlike each other are cut square, long enough for both edges, before they are ripped.
    """
    if method_of(job, word) == "bevel_direct":
        return
    creep, square = creep_of(job, ring), not ring.leans_alike
    run: list[SidePlan] = []
    stops = {} if stops is None else stops

    def key(side: SidePlan) -> tuple[int, ...]:
        if square:
            return same(side.blank_mm)
        return same(side.stop_mm + past_arris_mm(ring, side), side.start.miter_deg, side.end.miter_deg)

    for index in [*order, None]:
        side = ring.sides[index] if index is not None else None
        if run and (side is None or key(side) != key(run[0])):
            again = key(run[0]) in stops
            number = stops.setdefault(key(run[0]), len(stops) + 1)
            cut = _crosscut(job, ring, run, word, creep, number, square=square)
            yield replace(cut, says=(*cut.says, "crosscut.again")) if again else cut
            run = []
        if side is not None:
            run.append(side)


def mitered_ends(job: Job, ring: RingPlan, word: str) -> Iterator[Step]:
    """The ends of sides ripped one by one, swung to their miters and square to the face, before they stand on end
    or come to a bit or a block, which give the bevel alone.
    """
    if ring.leans_alike or not at_length(job, ring):
        return
    groups: dict[tuple[int, ...], list[SidePlan]] = {}
    for side in ring.sides:
        length = side.stop_mm + past_arris_mm(ring, side)
        groups.setdefault(same(length, side.start.miter_deg, side.end.miter_deg), []).append(side)
    for number, members in enumerate(groups.values()):
        cut = _crosscut(job, ring, members, word, 0.0, number + 1)
        start = members[0].shown_at_mm
        begun = ("crosscut.begins",) if start > _SEEN_MM else ()
        says = ("crosscut.miters", *(key for key in cut.says if key in _HANDS), *begun)
        yield replace(
            cut,
            title="crosscut.miters",
            says=says,
            settings=(begins(start), *cut.settings),
            numbers=cut.numbers | {"start_mm": start},
        )


def past_arris_mm(ring: RingPlan, side: SidePlan) -> float:
    """How much further the inside arris of the start reaches than the outside one, along the edge at the gauge (mm, 0
    if it does not): the length stop touches whichever reaches furthest.

    Source: plane geometry; the leaning edge puts the inside arris t·tan(slope) lower, the miter moves it along.
    """
    lean = math.tan(math.radians(side.start.miter_deg)) * math.tan(math.radians(side.slope_deg))
    past = max(0.0, -side.thickness_mm * lean)
    # Off a strip there is wood before the start; a square blank has only what its first cut takes.
    return past if ring.leans_alike else min(past, side.shown_at_mm)


_HANDS = ("crosscut.both_hands", "crosscut.start_hand", "crosscut.end_hand")


def _crosscut(
    job: Job,
    ring: RingPlan,
    run: Sequence[SidePlan],
    word: str,
    creep: float,
    number: int,
    *,
    square: bool = False,
) -> Step:
    first, own = run[0], ids(run, word)
    past_mm = past_arris_mm(ring, first)
    length = (first.blank_mm if square else first.stop_mm + past_mm) + 2 * creep
    miters: dict[End, float] = {"start": first.start.miter_deg, "end": first.end.miter_deg}
    swung = not square and any(abs(miter) > LEAST_SWING for miter in miters.values())
    some = "crosscut.any" if job.stock.board.method == "none" else "crosscut"
    says = [f"{some}_creep" if creep and some == "crosscut.any" else f"{some}.creep" if creep else some]
    if square and abs(first.blank_mm - first.stop_mm) > SAME_SETTING:
        says.append("crosscut.square")
    leans = (miters["start"], miters["end"])
    if swung:
        says.append(leans_said(leans))
    swings = (swing(-miters["start"], "start"), swing(miters["end"], "end")) if swung else ()
    return make(
        "crosscut", own, together(run), part=part_of(word), cutter=cutter(job, "crosscut"),
        makes=(f"{name}.{end}" for name in own for end in ("start", "end")), lies="show_up",
        edge=first.longer_edge, settings=(*swings, stop(length)), passes=len(run), says=says,
        numbers={"stop_number": float(number), "left_mm": 2 * creep},
        names={
            "sides": letters(run), "edge": first.longer_edge, **hands(leans),
        },
        short=length < job.shop.saw.least_mm,
    )  # fmt: skip


def leans_said(leans_deg: tuple[float, float]) -> str:
    """The key of how the cuts at start and end lean, one of them at least."""
    there = [end for end, lean in zip(("start", "end"), leans_deg, strict=True) if abs(lean) > LEAST_SWING]
    return f"crosscut.{there[0]}_hand" if len(there) == 1 else "crosscut.both_hands"


def hands(leans_deg: tuple[float, float]) -> dict[str, str]:
    """The hands to which the cuts at start and end lean, by the names the words have for them."""
    start, end = leans_deg
    return {"start_hand": _hand(start, "start"), "end_hand": _hand(end, "end")}


def _hand(miter_deg: float, end: End, *, inside_up: bool = False) -> str:
    """The hand to which an end's cut leans as it goes away from the maker, whichever edge is toward him."""
    return "right" if (miter_deg > 0) == ((end == "end") == (not inside_up)) else "left"


def bevels(job: Job, ring: RingPlan, order: Sequence[int], word: str) -> Iterator[Step]:
    """Bevels: cut after cut along the board, or all starts and then all ends to a stop.

    Pieces cut square first that share a setting go together.
    """
    ends: tuple[End, End] = ("start", "end")
    if method_of(job, word) == "bevel_direct":
        cuts = [_bevel(job, ring, [ring.sides[index]], end, word) for index in order for end in ends]
        flipped = job.stock.board.method == "flip_shared"
        yield from _off_the_board(cuts, [ring.sides[index] for index in order], word, flipped=flipped)
        return
    from_square = not ring.leans_alike and not at_length(job, ring)
    for end in ends:
        groups: dict[tuple[int, ...], list[SidePlan]] = {}
        for index in order:
            side = ring.sides[index]
            cut = side.start if end == "start" else side.end
            swung = from_square and abs(cut.miter_deg) > SAME_SETTING
            if abs(cut.bevel_deg) < SAME_SETTING and not swung:
                continue  # square already, as crosscut
            stopped = end == "end" and _stops(job, cut)
            at = side.end_stop_mm if stopped else side.start_at_mm if swung and end == "start" else 0.0
            groups.setdefault(same(cut.bevel_deg, cut.miter_deg, at), []).append(side)
        for members in groups.values():
            yield _bevel(job, ring, members, end, word)


def method_of(job: Job, word: str) -> Literal["square_first", "bevel_direct"]:
    """How the ends of these sides are cut: to length first, or off the board by their bevels. A liner's strip is cut
    up the plain way, whatever is done with the board of the sides, but for bevels straight off it.
    """
    method = job.stock.board.method
    direct = method == "bevel_direct" or (method == "flip_shared" and word == "side")
    return "bevel_direct" if direct else "square_first"


def _off_the_board(
    cuts: Sequence[Step], sides: Sequence[SidePlan], word: str, *, flipped: bool = False
) -> Iterator[Step]:
    """Sides cut off the board by their bevels alone, as it is done: letter by letter, start and end in turn.

    One step, its settings for those pieces that have them; row by row where pieces lie otherwise or lean to other
    hands.
    """
    first, last = cuts[0], cuts[1]
    told = [hands((side.start.miter_deg, side.end.miter_deg)) for side in sides]
    leans = [tuple(abs(cut.miter_deg) > LEAST_SWING for cut in (side.start, side.end)) for side in sides]
    unlike = (
        any(cut.lies != first.lies for cut in cuts) or told.count(told[0]) < len(told) or len(set(leans)) > 1
    )
    if unlike and not flipped:
        yield from cuts
        return
    found: dict[tuple[object, ...], tuple[Setting, list[str]]] = {}
    for cut in cuts:
        for one in cut.settings:
            end = None if one.gauge == "stop" and one.end is None else cut.end
            key = (one.gauge, end, one.end, *same(one.value))
            found.setdefault(key, (replace(one, end=end), []))[1].append(cut.pieces[0])
    settings = [
        replace(one, of=() if len(whose) == len(sides) else tuple(whose)) for one, whose in found.values()
    ]
    says = [
        "bevel.flip" if flipped else "bevel.loop",
        *(key for key in first.says if key in ("bevel.direct_creep",)),
    ]
    if any(leans[0]):
        says.append(leans_said((sides[0].start.miter_deg, sides[0].end.miter_deg)))
        if flipped:
            says.append("bevel.flip_swung")
    if "bevel.scale" in first.says and "bevel.scale" in last.says:
        says.append("bevel.scale")
    own = ids(sides, word)
    yield replace(
        first, id=f"{first.part}.bevel.{together(sides)}", pieces=own, end=None, title="bevel.loop",
        passes=len(sides) + 1 if flipped else len(cuts),
        makes=tuple(f"{name}.{end}" for name in own for end in ("start", "end")), settings=tuple(settings),
        says=tuple(says),
        names=first.names | told[0] | {"sides": letters(sides)},
    )  # fmt: skip


def _stops(job: Job, cut: EndCut) -> bool:
    """Whether a side's length is kept by a stop as its end is beveled: none is where a bit or a block gives the
    angle, or where the piece stands on end.
    """
    saw = job.shop.saw
    return saw.kind not in USUAL_ANGLES and not tilt_setting(cut.bevel_deg, saw.stop_deg)[1]


def _bevel(job: Job, ring: RingPlan, sides: Sequence[SidePlan], end: End, word: str) -> Step:
    side, own, saw = sides[0], ids(sides, word), job.shop.saw
    cut: EndCut = side.start if end == "start" else side.end
    fixed = saw.kind in USUAL_ANGLES  # a bit or a block has its angle: nothing tilts
    angle, on_end = (abs(cut.bevel_deg), False) if fixed else tilt_setting(cut.bevel_deg, saw.stop_deg)
    upright = on_end and saw.kind == "miter_saw"  # no piece stands on end there: on edge, and the saw swings
    inside_up = cut.bevel_deg < -SAME_SETTING
    creep = creep_of(job, ring)
    settings = [] if upright else [*tilt(angle, saw.step_deg)]
    says = list(_lying(job, cut, end, creep, on_end=on_end))
    hand = _hand(cut.miter_deg, end, inside_up=inside_up)
    if upright:
        settings.append(swing(abs(cut.bevel_deg)))
    elif abs(cut.miter_deg) > LEAST_SWING and not on_end:  # on end it stands on its mitered end
        settings.append(swing(abs(cut.miter_deg) * (1 if hand == "right" else -1), end))
        says.append("bevel.hand")
    # Sides ripped one by one come as square blanks: the first cut says where it begins.
    if end == "start" and not ring.leans_alike and not at_length(job, ring):
        settings.append(begins(side.start_at_mm + creep))
    # What is left to creep up on comes off the start first; without a length stop there is nothing to come off.
    if end == "end" and _stops(job, cut):
        # Cut off the board, a thinner side is planed only afterwards.
        direct = method_of(job, word) == "bevel_direct"
        thick = max(s.thickness_mm for s in ring.sides) if direct else side.thickness_mm
        settings.append(stop(side.end_stop_in_mm(thick)))
    numbers = {
        "bevel_deg": abs(cut.bevel_deg), "tilt_deg": angle, "creep_mm": creep,
        "rise_mm": max(s.thickness_mm for s in sides) * math.tan(math.radians(abs(cut.bevel_deg))),
    }  # fmt: skip
    if not fixed and not upright:
        scale = _scale(job, cut, angle)
        numbers |= scale
        says += ["bevel.scale"] if scale else []
    return make(
        "bevel", own, end, together(sides), part=part_of(word),
        tool=bevels_on(saw, cut.bevel_deg),
        makes=(f"{name}.{end}" for name in own),
        lies="on_edge" if upright else "on_end" if on_end else "inside_up" if inside_up else "show_up",
        edge=side.longer_edge, end=end, settings=settings, passes=len(sides), says=says, numbers=numbers,
        names={
            "sides": letters(sides), "end": end, "face": "inside" if inside_up else "show face",
            "arris": "inside" if inside_up else "show-face", "edge": side.longer_edge, "hand": hand,
        },
        short=min(s.blank_mm for s in sides) < saw.least_mm,
    )  # fmt: skip


def _lying(job: Job, cut: EndCut, end: End, creep: float, *, on_end: bool) -> Iterator[str]:
    """How the piece lies for its bevel, and where the cut ends: keys of the words."""
    kind = bevels_on(job.shop.saw, cut.bevel_deg)
    if kind in USUAL_ANGLES:
        yield f"bevel.{kind}"
        return
    if on_end:
        yield "bevel.on_its_edge" if kind == "miter_saw" else "bevel.on_end"
        return
    if job.stock.board.method in ("bevel_direct", "flip_shared"):
        yield "bevel.direct_turned" if end == "start" else "bevel.direct"
        if creep:
            yield "bevel.direct_creep"
    elif creep:
        yield f"bevel.creep_{end}"
    else:
        yield "bevel.dies"
    if cut.bevel_deg < -SAME_SETTING:
        yield "bevel.inside_longer"


def _scale(job: Job, cut: EndCut, tilt_deg: float) -> dict[str, float]:
    """What the saw's scale shows, and what its rounding leaves open: joint face × 2n × error (radians).

    Source: common practice; with every other joint tight the last takes the sum of all errors.
    """
    step = job.shop.saw.step_deg
    shown = round(tilt_deg / step) * step
    error = abs(shown - tilt_deg)
    cuts = 2 * job.design.side_count
    thick = min(job.design.form.thicknesses_mm)
    gap = thick / math.cos(math.radians(cut.bevel_deg)) * math.radians(cuts * error)
    if gap < _SEEN_MM:
        return {}
    return {"shown_deg": shown, "error_deg": error, "cuts": float(cuts), "gap_mm": gap}
