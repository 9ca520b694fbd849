"""The saw work that makes any ring's sides, the box's or a liner's: ripping, crosscuts, bevels."""

import math
from collections.abc import Iterator, Sequence
from typing import Final

from peristyle.core.conventions import tilt_setting
from peristyle.core.lengths import Format
from peristyle.core.planes import EndCut
from peristyle.model.design import Design
from peristyle.planning.cut import SAME_SETTING, Cut, End, same, with_short
from peristyle.planning.findings import Finding, Place, reader
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


def rips(ring: RingPlan, fmt: Format) -> Iterator[Cut]:
    """Both long edges, leaning as the sides do."""
    for slope in sorted({abs(s.slope_deg) for s in ring.sides}):
        slant = next(s.slant_mm for s in ring.sides if abs(s.slope_deg) == slope)
        tilt = f", blade tilted {fmt.angle(slope)}" if slope else ""
        yield Cut(
            0, "rip", "Rip to height",
            sides=tuple(s.index for s in ring.sides if abs(s.slope_deg) == slope),
            tilt_deg=slope,
            fences_mm=(slant,),
            setting=f"{fmt.length(slant, unit=True)} wide{tilt}",
            how="One straight edge first; then both edges parallel"
            + (", leaning the same way, so that the box sits flat." if slope else "."),
            cautions=("guard", "rip", "manual"),
        )  # fmt: skip


def lengths_and_bevels(design: Design, ring: RingPlan, order: Sequence[int], fmt: Format) -> Iterator[Cut]:
    """Sides cut to length and beveled, in their order on the board."""
    if design.board.method == "square_first":
        yield from _crosscuts(ring, order, design.board.creep_mm, fmt)
    yield from _bevels(design, ring, order, fmt)


def _crosscuts(ring: RingPlan, order: Sequence[int], creep: float, fmt: Format) -> Iterator[Cut]:
    """Crosscuts in board order, so that the grain stays in order; equal pieces share a stop."""
    run: list[SidePlan] = []
    stops: dict[tuple[int, ...], int] = {}
    for index in [*order, None]:
        side = ring.sides[index] if index is not None else None
        if run and (side is None or _cross_key(side) != _cross_key(run[0])):
            yield _crosscut(run, creep, stops.setdefault(_cross_key(run[0]), len(stops) + 1), fmt)
            run = []
        if side is not None:
            run.append(side)


def _cross_key(side: SidePlan) -> tuple[int, ...]:
    return same(side.blank_mm, side.start.miter_deg, side.end.miter_deg)


def _crosscut(run: Sequence[SidePlan], creep: float, stop: int, fmt: Format) -> Cut:
    length = run[0].blank_mm + 2 * creep
    miters = sorted({round(abs(c.miter_deg), 6) for s in run for c in (s.start, s.end)})
    swung = miters[-1] > 1e-6
    gauge = f", gauge {' and '.join(fmt.angle(m) for m in miters)}" if swung else ""
    names = ", ".join(s.name for s in run)
    return Cut(
        0, "crosscut", f"Crosscut {names}",
        sides=tuple(s.index for s in run),
        end="both",
        tilt_deg=0.0, gauge_deg=miters[-1], stop_mm=length, count=len(run),
        setting=f"stop {stop} at {fmt.length(length, unit=True)}{gauge}",
        how="In this order, so that the grain runs on. Mark each side's letter and its top edge"
        + (f"; {fmt.length(2 * creep, unit=True)} is left to creep up on the line." if creep else "."),
        cautions=with_short(("guard", "stop_clear"), length),
    )  # fmt: skip


def _bevels(design: Design, ring: RingPlan, order: Sequence[int], fmt: Format) -> Iterator[Cut]:
    """Bevels: cut after cut along the board, or all starts and then all ends to a stop.

    Pieces cut square first that share a setting go together.
    """
    ends: tuple[End, End] = ("start", "end")
    if design.board.method == "bevel_direct":
        for index in order:
            for end in ends:
                yield _bevel(design, [ring.sides[index]], end, fmt)
        return
    for end in ends:
        groups: dict[tuple[int, ...], list[SidePlan]] = {}
        for index in order:
            side = ring.sides[index]
            cut = side.start if end == "start" else side.end
            if abs(cut.bevel_deg) < SAME_SETTING:
                continue  # square already, as crosscut
            stop = side.blank_mm if end == "end" else 0.0
            groups.setdefault(same(cut.bevel_deg, cut.miter_deg, stop), []).append(side)
        for members in groups.values():
            yield _bevel(design, members, end, fmt)


def _bevel(design: Design, sides: Sequence[SidePlan], end: End, fmt: Format) -> Cut:
    side = sides[0]
    cut: EndCut = side.start if end == "start" else side.end
    kind = design.saw.kind
    fixed = kind in USUAL_ANGLES  # a bit or a block has its angle: nothing tilts
    tilt, on_end = (abs(cut.bevel_deg), False) if fixed else tilt_setting(cut.bevel_deg, design.saw.stop_deg)
    stop = side.blank_mm if end == "end" else None
    inside_longer = cut.bevel_deg < -SAME_SETTING
    direct = design.board.method == "bevel_direct"
    gauge = f", gauge {fmt.angle(abs(cut.miter_deg))}" if abs(cut.miter_deg) > 1e-6 else ""
    parts = [f"{ANGLE_WORDS[kind]} {fmt.angle(tilt)}{gauge}"]
    if stop is not None:
        parts.append(f"stop at {fmt.length(stop, unit=True)}")
    edge = "inside" if inside_longer else "show-face"
    how = f"{'Inside' if inside_longer else 'Show face'} up, the blade leaning away from the piece"
    if direct:
        how += "; the board turned end for end" if end == "start" else ""
        how += f". The kerf just reaches the last cut at the {edge} edge."
    else:
        how += f"; the cut dies at the {edge} edge and takes nothing of its length."
    if fixed:
        how = _SHAPED[kind].format(face="Inside" if inside_longer else "Show face", edge=edge)
    elif on_end:
        how = (
            f"Bevel {fmt.angle(abs(cut.bevel_deg))} is past the saw's stop: stand the piece on end "
            f"against a tall fence with the blade at {fmt.angle(tilt)}."
        )
    if inside_longer:
        how += " Here the inside is the longer face, and the stop is measured on it."
    if not fixed:
        how += _scale_words(design, cut, tilt, fmt)
    names = ", ".join(s.name for s in sides)
    cautions = ("guard", "tilt", "stop_clear", *(("on_end",) if on_end else ()))
    if fixed:
        cautions = ("router",) if kind == "chamfer_bit" else ("plane_edge",)
    return Cut(
        0, "bevel", f"Bevel the {end} of {names}",
        sides=tuple(s.index for s in sides), end=end, tilt_deg=tilt,
        gauge_deg=abs(cut.miter_deg), stop_mm=stop, on_end=on_end, count=len(sides),
        face_up="inside" if inside_longer else "show",
        setting=", ".join(parts), how=how,
        cautions=with_short(cautions, side.blank_mm),
    )  # fmt: skip


def _scale_words(design: Design, cut: EndCut, tilt: float, fmt: Format) -> str:
    """What the saw's scale shows, and what its rounding leaves open: joint face × 2n × error (radians).

    Source: common practice; with every other joint tight the last takes the sum of all errors.
    """
    step = design.saw.step_deg
    shown = round(tilt / step) * step
    error = abs(shown - tilt)
    if error < 1e-6:
        return ""
    cuts = 2 * design.side_count
    thick = min(design.thicknesses_mm)
    gap = thick / math.cos(math.radians(cut.bevel_deg)) * math.radians(cuts * error)
    return (
        f" The scale shows {fmt.angle(shown)}: {fmt.angle(error, 3)} off in each of {cuts} cuts would leave the last "
        f"joint {fmt.length(gap, unit=True)} open. Cut a test pair and correct."
    )


def machine_findings(design: Design, ring: RingPlan) -> Iterator[Finding]:
    """Bevels past the saw's stop, and bevels a bit or block does not give."""
    if not ring.sides:
        return
    fmt = reader(design)
    saw = design.saw
    worst = max((abs(cut.bevel_deg), side.index) for side in ring.sides for cut in (side.start, side.end))
    place = Place("side", worst[1], design.side_count)
    if saw.stops_deg:
        for bevel in sorted({round(abs(c.bevel_deg), 6) for s in ring.sides for c in (s.start, s.end)}):
            nearest = min(saw.stops_deg, key=lambda given: abs(given - bevel))
            if abs(nearest - bevel) > saw.step_deg:
                yield Finding(
                    "bevel_not_given",
                    "caution",
                    place,
                    f"The {_TOOLS[saw.kind]} gives {fmt.angle(nearest)} and this ring needs {fmt.angle(bevel)}. "
                    "Saw near the line and shoot the rest against a block of that angle.",
                    {"bevel_deg": bevel, "nearest_deg": nearest},
                )
        return
    if worst[0] > saw.stop_deg + 1e-9:
        tilt, _on_end = tilt_setting(worst[0], saw.stop_deg)
        yield Finding(
            "bevel_past_stop",
            "caution",
            place,
            f"A bevel of {fmt.angle(worst[0])} is past the saw's stop at {fmt.angle(saw.stop_deg)} (45-47° on most). "
            f"Stand the piece on end against a tall fence with the blade at {fmt.angle(tilt)}, or use a chamfer bit.",
            {"bevel_deg": worst[0], "tilt_deg": tilt},
        )
