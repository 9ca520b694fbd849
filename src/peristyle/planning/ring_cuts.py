"""The saw work that makes any ring's sides, the box's or a liner's: ripping, crosscuts, bevels."""

import math
from collections.abc import Iterator, Sequence
from typing import Final

from peristyle.core.conventions import tilt_setting
from peristyle.core.lengths import Format
from peristyle.core.planes import EndCut
from peristyle.model.design import replace
from peristyle.model.job import Job
from peristyle.planning.cut import SAME_SETTING, Cut, End, same, with_short
from peristyle.planning.findings import Finding, Fix, Place
from peristyle.planning.ring import RingPlan, SidePlan
from peristyle.reference.machines import ANGLE_WORDS, USUAL_ANGLES

_TOOLS: Final = {
    "table_saw": "saw",
    "miter_saw": "saw",
    "chamfer_bit": "chamfer bit",
    "shooting_board": "shooting board",
}

# How a bevel is made without a blade that tilts: common practice.
_SHAPED: Final = {
    "chamfer_bit": "{face} up on the router table, in small passes, with a backing piece behind the edge against "
    "tear-out; the last pass just reaches the {edge} edge.",
    "shooting_board": "Saw near the line by hand; {face} up on the shooting board against a block of this angle, "
    "and plane until the plane just reaches the {edge} edge.",
}


def creep_of(job: Job, ring: RingPlan) -> float:
    """What is left on each end to creep up on (mm): nothing where the bevel is made without a length stop.

    Source: common practice; a bit, a block or a tall fence takes the piece at its final length.
    """
    return 0.0 if _at_length(job, ring) else job.stock.board.creep_mm


def rips(job: Job, ring: RingPlan, fmt: Format) -> Iterator[Cut]:
    """The strip ripped to height; where sides lean unlike each other, to the widest that any of them needs."""
    if ring.leans_alike:
        yield _rip(job, ring, ring.sides, fmt)
        return
    widest = max(ring.sides, key=lambda side: side.rip_mm)
    yield Cut(
        0, "rip", "Rip the strip, edges square",
        sides=tuple(s.index for s in ring.sides),
        tilt_deg=0.0,
        fences_mm=(widest.rip_mm,),
        setting=f"{fmt.length(widest.rip_mm, unit=True)} wide",
        how=f"One straight edge first. The sides lean unlike each other: side {widest.name} needs this width, and "
        "each is ripped to its own height once it is cut to length.",
        cautions=("guard", "rip", "manual"),
    )  # fmt: skip


def piece_rips(job: Job, ring: RingPlan, fmt: Format) -> Iterator[Cut]:
    """Sides that lean unlike each other, each ripped to its own height and lean."""
    if ring.leans_alike:
        return
    groups: dict[tuple[int, ...], list[SidePlan]] = {}
    for side in ring.sides:
        groups.setdefault(same(side.slope_deg, side.slant_mm), []).append(side)
    for members in groups.values():
        yield _rip(job, ring, members, fmt)


def _rip(job: Job, ring: RingPlan, sides: Sequence[SidePlan], fmt: Format) -> Cut:
    """Both long edges of sides that lean alike, leaning as they do."""
    slope, slant = sides[0].slope_deg, sides[0].slant_mm
    steep = abs(slope)
    tilt, on_edge = tilt_setting(steep, job.shop.saw.stop_deg) if steep > SAME_SETTING else (0.0, False)
    some = len(sides) < len(ring.sides)
    whom = " ".join(("", ", ".join(s.name for s in sides))) if some else ""
    how = "One straight edge first; then both edges parallel" if not some else "Both edges parallel"
    if on_edge:
        how += (
            f". A lean of {fmt.angle(steep)} is past the saw's stop: stand the board on its edge against a tall fence "
            f"with the blade at {fmt.angle(tilt)}, or plane the edges to a line."
        )
    elif steep > SAME_SETTING:
        down = "inside" if slope > 0 else "show"
        how += (
            ", leaning the same way, so that the box sits flat. The blade leans away from the fence: for the top edge "
            f"{down} face down, bottom edge on the fence, its arris on the table touching; the width is along the face."
        )
    else:
        how += "."
    words = f", blade tilted {fmt.angle(tilt)}" if steep > SAME_SETTING else ""
    longest = max(s.blank_mm for s in sides)
    cautions = ("guard", "rip", *(("on_end",) if on_edge else ()))
    return Cut(
        0, "rip", f"Rip{whom} to height",
        sides=tuple(s.index for s in sides),
        tilt_deg=tilt,
        fences_mm=(slant,),
        on_end=on_edge,
        edge="bottom",
        face_up="inside" if slope < 0 else "show",
        setting=f"{fmt.length(slant, unit=True)} wide{words}",
        how=how,
        cautions=with_short(cautions, longest) if some else (*cautions, "manual"),
    )  # fmt: skip


def crosscuts(job: Job, ring: RingPlan, order: Sequence[int], fmt: Format) -> Iterator[Cut]:
    """Crosscuts in board order, so that the grain stays in order; equal pieces share a stop.

    Sides that lean unlike each other are cut square, long enough for both edges, before they are ripped.
    """
    if job.stock.board.method != "square_first":
        return
    creep, square = creep_of(job, ring), not ring.leans_alike
    run: list[SidePlan] = []
    stops: dict[tuple[int, ...], int] = {}

    def key(side: SidePlan) -> tuple[int, ...]:
        if square:
            return same(side.blank_mm)
        return same(side.stop_mm, side.start.miter_deg, side.end.miter_deg)

    for index in [*order, None]:
        side = ring.sides[index] if index is not None else None
        if run and (side is None or key(side) != key(run[0])):
            number = stops.setdefault(key(run[0]), len(stops) + 1)
            yield _crosscut(run, creep, number, square, fmt)
            run = []
        if side is not None:
            run.append(side)


def mitered_ends(job: Job, ring: RingPlan, fmt: Format) -> Iterator[Cut]:
    """The ends of sides ripped one by one, swung to their miters and square to the face, before they stand on end
    or come to a bit or a block, which give the bevel alone.
    """
    if ring.leans_alike or not _at_length(job, ring):
        return
    groups: dict[tuple[int, ...], list[SidePlan]] = {}
    for side in ring.sides:
        groups.setdefault(same(side.stop_mm, side.start.miter_deg, side.end.miter_deg), []).append(side)
    for number, members in enumerate(groups.values()):
        cut = _crosscut(members, 0.0, number + 1, False, fmt)
        names = ", ".join(side.name for side in members)
        how = f"Both ends at their miter, square to the face, to the final length. {_edge_words(members[0])}"
        start = members[0].shown_at_mm
        how += f" The start's cut begins {fmt.length(start, unit=True)} in along that edge."
        yield replace(cut, title=f"Miter the ends of {names}", how=how, start_mm=start)


def _at_length(job: Job, ring: RingPlan) -> bool:
    """Whether pieces come to their bevel mitered and at their final length: there is no stop for it and no swing."""
    return job.shop.saw.kind in USUAL_ANGLES or _on_end(job, ring)


def _on_end(job: Job, ring: RingPlan) -> bool:
    """Whether any bevel is past the saw's stop, so that the piece stands on end for it."""
    if job.shop.saw.kind in USUAL_ANGLES:
        return False
    stop = job.shop.saw.stop_deg
    return any(tilt_setting(c.bevel_deg, stop)[1] for s in ring.sides for c in (s.start, s.end))


def _crosscut(run: Sequence[SidePlan], creep: float, stop: int, square: bool, fmt: Format) -> Cut:
    first = run[0]
    length = (first.blank_mm if square else first.stop_mm) + 2 * creep
    swung = not square and any(abs(c.miter_deg) > _LEAST_SWING for c in (first.start, first.end))
    gauge = f", gauge {_swings(first, fmt)}" if swung else ""
    names = ", ".join(s.name for s in run)
    how = "In this order, so that the grain runs on. Mark each side's letter and its top edge"
    how += f"; {fmt.length(2 * creep, unit=True)} is left to creep up on the line." if creep else "."
    if square and abs(first.blank_mm - first.stop_mm) > SAME_SETTING:
        how += " Square, and as long as its two ends reach: the swing comes with the bevel."
    if swung:
        how += f" {_edge_words(first)}"
    return Cut(
        0, "crosscut", f"Crosscut {names}",
        sides=tuple(s.index for s in run),
        end="both",
        tilt_deg=0.0,
        gauge_deg=max(abs(first.start.miter_deg), abs(first.end.miter_deg)) if swung else 0.0,
        edge=first.longer_edge,
        swings_deg=(("start", -first.start.miter_deg), ("end", first.end.miter_deg)) if swung else (),
        stop_mm=length, count=len(run),
        setting=f"stop {stop} at {fmt.length(length, unit=True)}{gauge}",
        how=how,
        cautions=with_short(("guard", "stop_clear"), length),
    )  # fmt: skip


_LEAST_SWING: Final = 1e-6


def _swings(side: SidePlan, fmt: Format) -> str:
    """How the gauge swings for a side's two ends, and to which hand."""
    ends = (("start", side.start.miter_deg), ("end", side.end.miter_deg))
    if same(side.start.miter_deg) == same(side.end.miter_deg):
        return f"{fmt.angle(abs(side.end.miter_deg))}, to opposite hands"
    return ", ".join(f"{fmt.angle(abs(miter))} at the {end}" for end, miter in ends)


def _hand(miter_deg: float, end: str, face_up: str = "show") -> str:
    """The hand to which an end's cut leans as it goes away from the maker, whichever edge is toward him."""
    return "right" if (miter_deg > 0) == ((end == "end") == (face_up == "show")) else "left"


def _edge_words(side: SidePlan) -> str:
    """Which edge lies against the gauge, and which way each end's cut leans, show face up."""
    hands = [
        f"the {end}'s cut leans {_hand(miter, end)} as it goes away from you"
        for end, miter in (("start", side.start.miter_deg), ("end", side.end.miter_deg))
        if abs(miter) > _LEAST_SWING
    ]
    if not hands:
        return "Both square."
    edge = side.longer_edge
    return f"The stop measures along the {edge} edge. Show face up and that edge toward you, {' and '.join(hands)}."


def bevels(job: Job, ring: RingPlan, order: Sequence[int], fmt: Format) -> Iterator[Cut]:
    """Bevels: cut after cut along the board, or all starts and then all ends to a stop.

    Pieces cut square first that share a setting go together.
    """
    ends: tuple[End, End] = ("start", "end")
    if job.stock.board.method == "bevel_direct":
        for index in order:
            for end in ends:
                yield _bevel(job, ring, [ring.sides[index]], end, fmt)
        return
    from_square = not ring.leans_alike and not _at_length(job, ring)
    for end in ends:
        groups: dict[tuple[int, ...], list[SidePlan]] = {}
        for index in order:
            side = ring.sides[index]
            cut = side.start if end == "start" else side.end
            swung = from_square and abs(cut.miter_deg) > SAME_SETTING
            if abs(cut.bevel_deg) < SAME_SETTING and not swung:
                continue  # square already, as crosscut
            stop = side.end_stop_mm if end == "end" else side.start_at_mm if swung else 0.0
            groups.setdefault(same(cut.bevel_deg, cut.miter_deg, stop), []).append(side)
        for members in groups.values():
            yield _bevel(job, ring, members, end, fmt)


def _bevel(job: Job, ring: RingPlan, sides: Sequence[SidePlan], end: End, fmt: Format) -> Cut:
    side = sides[0]
    cut: EndCut = side.start if end == "start" else side.end
    kind = job.shop.saw.kind
    fixed = kind in USUAL_ANGLES  # a bit or a block has its angle: nothing tilts
    tilt, on_end = (
        (abs(cut.bevel_deg), False) if fixed else tilt_setting(cut.bevel_deg, job.shop.saw.stop_deg)
    )
    upright = on_end and kind == "miter_saw"  # no piece stands on end there: on edge, and the saw swings
    # What is left to creep up on comes off the start first; without a length stop there is nothing to come off.
    stop = side.end_stop_mm if end == "end" and not fixed and not on_end else None
    face = "inside" if cut.bevel_deg < -SAME_SETTING else "show"
    swung = abs(cut.miter_deg) > _LEAST_SWING and not on_end  # on end it stands on its mitered end
    gauge = f", gauge {fmt.angle(abs(cut.miter_deg))}" if swung else ""
    # Sides ripped one by one come as square blanks: the first cut says where it begins.
    begins = end == "start" and not ring.leans_alike and not _at_length(job, ring)
    start = side.start_at_mm + creep_of(job, ring) if begins else None
    parts = [f"{ANGLE_WORDS[kind]} {fmt.angle(tilt)}{gauge}"]
    if upright:
        parts = [f"saw swung {fmt.angle(abs(cut.bevel_deg))}, blade upright"]
    if start is not None:
        parts.append(f"{fmt.length(start, unit=True)} from the blank's start")
    if stop is not None:
        parts.append(f"stop at {fmt.length(stop, unit=True)}")
    how = _bevel_words(job, ring, side, end, cut, tilt, fmt)
    if gauge and not on_end:
        how += (
            f" With the {side.longer_edge} edge toward you the cut leans {_hand(cut.miter_deg, end, face)} as it "
            "goes away from you."
        )
    if not fixed and not upright:
        how += _scale_words(job, cut, tilt, fmt)
    names = ", ".join(s.name for s in sides)
    cautions = ("guard", "tilt", "stop_clear", *(("on_end",) if on_end and not upright else ()))
    if fixed:
        cautions = ("router",) if kind == "chamfer_bit" else ("plane_edge",)
    return Cut(
        0, "bevel", f"Bevel the {end} of {names}",
        sides=tuple(s.index for s in sides), end=end, tilt_deg=0.0 if upright else tilt,
        gauge_deg=abs(cut.bevel_deg) if upright else 0.0 if on_end else abs(cut.miter_deg),
        stop_mm=stop, start_mm=start,
        on_end=on_end and not upright, count=len(sides),
        face_up="inside" if face == "inside" else "show",
        edge=side.longer_edge,
        swings_deg=((end, cut.miter_deg * (1 if _hand(1.0, end, face) == "right" else -1)),) if swung else (),
        setting=", ".join(parts), how=how,
        cautions=with_short(cautions, side.blank_mm),
    )  # fmt: skip


def _bevel_words(
    job: Job, ring: RingPlan, side: SidePlan, end: End, cut: EndCut, tilt: float, fmt: Format
) -> str:
    """How the piece lies for its bevel, and where the cut ends."""
    kind = job.shop.saw.kind
    inside_longer = cut.bevel_deg < -SAME_SETTING
    face = "Inside" if inside_longer else "Show face"
    edge = "inside" if inside_longer else "show-face"
    longer = " Here the inside is the longer face, and the stop is measured on it." if inside_longer else ""
    if kind in USUAL_ANGLES:
        return _SHAPED[kind].format(face=face, edge=edge)
    bevel = fmt.angle(abs(cut.bevel_deg))
    if abs(cut.bevel_deg) > tilt + SAME_SETTING and kind == "miter_saw":
        return (
            f"Bevel {bevel} is further than the saw tilts: stand the piece on its edge against the fence, "
            f"{face.lower()} to the fence, and swing the saw {bevel}, if it swings so far and cuts so high. The cut "
            f"dies at the {edge} edge."
        )
    if tilt_setting(cut.bevel_deg, job.shop.saw.stop_deg)[1]:
        rise = side.thickness_mm * math.tan(math.radians(abs(cut.bevel_deg)))
        return (
            f"Bevel {bevel} is past the saw's stop: the piece is at its length already. Stand it on end, clamped to a "
            f"carrier, {face.lower()} against the tall fence, the blade leaning away at {fmt.angle(tilt)} and more "
            f"than {fmt.length(rise, unit=True)} high. There is no length stop: the near side of the kerf meets the "
            f"table where the {edge} edge stands."
        )
    if job.stock.board.method == "bevel_direct":
        turned = "; the board turned end for end" if end == "start" else ""
        how = (
            f"{face} up, the blade leaning away from the piece{turned}. The kerf just reaches the last cut at the "
            f"{edge} edge."
        )
        if creep_of(job, ring):
            how += f" First {fmt.length(job.stock.board.creep_mm, unit=True)} clear of the line, then creep up to it."
        return how + longer
    creep = creep_of(job, ring)
    dies = f"the cut dies at the {edge} edge and takes nothing of its length."
    if creep:
        left = fmt.length(creep, unit=True)
        dies = f"creep up until it has taken {left} off the {edge} edge" + (
            ", to the final length." if end == "end" else "; as much is still to come off the end."
        )
    return f"{face} up, the blade leaning away from the piece; {dies}{longer}"


def _scale_words(job: Job, cut: EndCut, tilt: float, fmt: Format) -> str:
    """What the saw's scale shows, and what its rounding leaves open: joint face × 2n × error (radians).

    Source: common practice; with every other joint tight the last takes the sum of all errors.
    """
    step = job.shop.saw.step_deg
    shown = round(tilt / step) * step
    error = abs(shown - tilt)
    if error < 1e-6:
        return ""
    cuts = 2 * job.design.side_count
    thick = min(job.design.form.thicknesses_mm)
    gap = thick / math.cos(math.radians(cut.bevel_deg)) * math.radians(cuts * error)
    return (
        f" The scale shows {fmt.angle(shown)}: {fmt.angle(error, 3)} off in each of {cuts} cuts would leave the last "
        f"joint {fmt.length(gap, unit=True)} open. Cut a test pair and correct."
    )


def machine_findings(job: Job, ring: RingPlan) -> Iterator[Finding]:
    """Bevels past the saw's stop, and bevels a bit or block does not give."""
    if not ring.sides:
        return
    saw = job.shop.saw
    worst = max((abs(cut.bevel_deg), side.index) for side in ring.sides for cut in (side.start, side.end))
    place = Place("side", worst[1], job.design.side_count)
    yield from _direct_findings(job, ring)
    if saw.stops_deg:
        for bevel in sorted({round(abs(c.bevel_deg), 6) for s in ring.sides for c in (s.start, s.end)}):
            nearest = min(saw.stops_deg, key=lambda given: abs(given - bevel))
            if abs(nearest - bevel) > saw.step_deg:
                numbers = {"bevel_deg": bevel, "nearest_deg": nearest}
                yield Finding("bevel_not_given", "caution", place, numbers, (), {"machine": saw.kind})
        return
    steepest = max(ring.sides, key=lambda side: abs(side.slope_deg))
    lean = abs(steepest.slope_deg)
    if tilt_setting(lean, saw.stop_deg)[1]:
        yield Finding(
            "rip_past_stop",
            "caution",
            Place("side", steepest.index, job.design.side_count),
            {
                "slope_deg": steepest.slope_deg, "lean_deg": lean, "tilt_deg": 90.0 - lean,
                "stop_deg": saw.stop_deg,
            },
            (),
            {"side": steepest.name},
        )  # fmt: skip
    tilt, past = tilt_setting(worst[0], saw.stop_deg)
    if not past:
        return
    numbers = {"bevel_deg": worst[0], "tilt_deg": tilt, "stop_deg": saw.stop_deg}
    if saw.kind == "miter_saw":
        leans = lean > SAME_SETTING
        fix = Fix("table_saw", (("shop.saw.kind", "table_saw"),))
        kind = "leaning" if leans else "miter_saw"
        yield Finding("bevel_past_stop", "stop" if leans else "caution", place, numbers, (fix,), {}, kind)
        return
    yield Finding("bevel_past_stop", "caution", place, numbers)


def _direct_findings(job: Job, ring: RingPlan) -> Iterator[Finding]:
    """Why pieces cannot be cut off the board by their bevels alone."""
    if job.stock.board.method != "bevel_direct":
        return
    saw = job.shop.saw
    if saw.kind in USUAL_ANGLES:
        why = "saw"
    elif _on_end(job, ring):
        why = "on_end"
    elif not ring.leans_alike:
        why = "unlike"
    else:
        return
    fix = Fix("square_first", (("stock.board.method", "square_first"),))
    yield Finding("direct_cannot_be", "stop", Place("board"), {}, (fix,), {"machine": saw.kind}, why)
