"""The operations in the order they are done, with their settings and cautions."""

import math
from collections.abc import Iterator, Sequence
from typing import Any, Final, Literal

from msgspec import Struct

from peristyle.core.conventions import tilt_setting
from peristyle.core.lengths import Format
from peristyle.core.planes import EndCut
from peristyle.model.design import Design, replace, side_name
from peristyle.planning.findings import Finding, Place, reader
from peristyle.planning.keys import KeysPlan
from peristyle.planning.ring import RingPlan, SidePlan
from peristyle.planning.section import SectionPlan
from peristyle.planning.wrap import WrapPlan

Operation = Literal[
    "plane", "rip", "groove", "trim", "crosscut", "bevel", "dry_fit", "panel", "glue", "keys", "lid"
]
End = Literal["start", "end", "both"]

SAME_SETTING: Final = 0.005  # mm or degrees


class Cut(Struct, frozen=True):
    """One operation at one setting.

    `tilt_deg` is the blade from square, `gauge_deg` the swing from a square crosscut, `stop_mm`
    from the stop to the blade at the face that lies up, `fence_mm` from the fence to the near side of the
    blade (one for each pass), `depth_mm` the height of the blade. None where a setting has no
    part in it. `sides` are numbers of sides in the order they are cut.
    """

    number: int
    operation: Operation
    title: str
    sides: tuple[int, ...] = ()
    end: End | None = None
    tilt_deg: float | None = None
    gauge_deg: float | None = None
    stop_mm: float | None = None
    fences_mm: tuple[float, ...] = ()
    depth_mm: float | None = None
    on_end: bool = False
    face_up: Literal["show", "inside"] = "show"
    count: int = 1
    setting: str = ""
    how: str = ""
    cautions: tuple[str, ...] = ()

    def as_dict(self) -> dict[str, Any]:
        """The cut as the plan's JSON has it."""
        return {
            "number": self.number,
            "operation": self.operation,
            "title": self.title,
            "sides": [side_name(i) for i in self.sides],
            "end": self.end,
            "tilt_deg": self.tilt_deg,
            "gauge_deg": self.gauge_deg,
            "stop_mm": self.stop_mm,
            "fences_mm": list(self.fences_mm),
            "depth_mm": self.depth_mm,
            "on_end": self.on_end,
            "face_up": self.face_up,
            "count": self.count,
            "setting": self.setting,
            "how": self.how,
            "cautions": list(self.cautions),
        }


def plan_cuts(
    design: Design, ring: RingPlan, section: SectionPlan, wrap: WrapPlan, keys: KeysPlan
) -> tuple[tuple[Cut, ...], tuple[Finding, ...]]:
    """The sequence, and what it asks of the machines."""
    if not ring.sides:
        return (), ()
    fmt = reader(design)
    steps = [
        *_stock(design, ring, wrap, fmt),
        *_grooves(section, fmt),
        *_ends(design, ring, wrap, fmt),
        *_assembly(design, ring, section, keys, fmt),
    ]
    numbered = tuple(replace(cut, number=i + 1) for i, cut in enumerate(steps))
    return numbered, tuple(_beyond(design, ring, fmt))


def _stock(design: Design, ring: RingPlan, wrap: WrapPlan, fmt: Format) -> Iterator[Cut]:
    board = design.board
    for thick in sorted({s.thickness_mm for s in ring.sides}, reverse=True):
        if board.thickness_mm > thick:
            whom = tuple(s.index for s in ring.sides if s.thickness_mm == thick)
            all_same = len(whom) == len(ring.sides)
            yield Cut(
                0, "plane", "Plane to thickness",
                sides=() if all_same else whom,
                depth_mm=thick,
                setting=f"{fmt.length(thick, unit=True)} thick",
                how="The whole board to one setting, so that every side is the same."
                if all_same
                else "Only the stretch for sides " + ", ".join(side_name(i) for i in whom) + ".",
                cautions=("plane", "manual"),
            )  # fmt: skip
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


def _grooves(section: SectionPlan, fmt: Format) -> Iterator[Cut]:
    groove = section.groove
    if groove is None:
        return
    fences = " · ".join(fmt.length(f) for f in groove.fences_mm)
    times = "one pass" if len(groove.fences_mm) == 1 else f"{len(groove.fences_mm)} passes"
    yield Cut(
        0, "groove", "Groove for the bottom",
        tilt_deg=0.0,
        fences_mm=groove.fences_mm,
        depth_mm=groove.depth_mm,
        count=len(groove.fences_mm),
        setting=f"fence {fences} {fmt.units}, depth {fmt.length(groove.depth_mm, unit=True)}",
        how=f"Inside face down, bottom edge on the fence, in the long strip; {times}, "
        "so that it lines up at every corner.",
        cautions=("guard", "groove", "manual"),
    )  # fmt: skip


def _same(*values: float) -> tuple[int, ...]:
    """A key that is the same for settings nobody can tell apart at the saw."""
    return tuple([round(v / SAME_SETTING) for v in values])


def _ends(design: Design, ring: RingPlan, wrap: WrapPlan, fmt: Format) -> Iterator[Cut]:
    board = design.board
    yield Cut(
        0, "trim", "Trim the end square",
        tilt_deg=0.0, gauge_deg=0.0, stop_mm=board.end_trim_mm + board.shift_mm,
        setting=f"{fmt.length(board.end_trim_mm + board.shift_mm, unit=True)} off the start end",
        how="Past checks and snipe; this is where the strip begins.",
        cautions=("guard", "manual"),
    )  # fmt: skip
    if board.method == "square_first":
        yield from _crosscuts(ring, wrap, board.creep_mm, fmt)
    yield from _bevels(design, ring, wrap, fmt)


def _crosscuts(ring: RingPlan, wrap: WrapPlan, creep: float, fmt: Format) -> Iterator[Cut]:
    """Crosscuts in board order, so that the grain stays in order; equal pieces share a stop."""
    run: list[SidePlan] = []
    stops: dict[tuple[int, ...], int] = {}
    for index in [*wrap.order, None]:
        side = ring.sides[index] if index is not None else None
        if run and (side is None or _cross_key(side) != _cross_key(run[0])):
            yield _crosscut(run, creep, stops.setdefault(_cross_key(run[0]), len(stops) + 1), fmt)
            run = []
        if side is not None:
            run.append(side)


def _cross_key(side: SidePlan) -> tuple[int, ...]:
    return _same(side.blank_mm, side.start.miter_deg, side.end.miter_deg)


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
        cautions=_with_short(("guard", "stop_clear"), length),
    )  # fmt: skip


def _with_short(cautions: tuple[str, ...], length_mm: float) -> tuple[str, ...]:
    short = ("short_piece",) if length_mm < 300.0 else ()
    return (*cautions, *short, "manual")


def _bevels(design: Design, ring: RingPlan, wrap: WrapPlan, fmt: Format) -> Iterator[Cut]:
    """Bevels: cut after cut along the board, or all starts and then all ends to a stop.

    Pieces cut square first that share a setting go together.
    """
    ends: tuple[End, End] = ("start", "end")
    if design.board.method == "bevel_direct":
        for index in wrap.order:
            for end in ends:
                yield _bevel(design, [ring.sides[index]], end, fmt)
        return
    for end in ends:
        groups: dict[tuple[int, ...], list[SidePlan]] = {}
        for index in wrap.order:
            side = ring.sides[index]
            cut = side.start if end == "start" else side.end
            if abs(cut.bevel_deg) < SAME_SETTING:
                continue  # square already, as crosscut
            stop = side.blank_mm if end == "end" else 0.0
            groups.setdefault(_same(cut.bevel_deg, cut.miter_deg, stop), []).append(side)
        for members in groups.values():
            yield _bevel(design, members, end, fmt)


def _bevel(design: Design, sides: Sequence[SidePlan], end: End, fmt: Format) -> Cut:
    side = sides[0]
    cut: EndCut = side.start if end == "start" else side.end
    tilt, on_end = tilt_setting(cut.bevel_deg, design.saw.stop_deg)
    stop = side.blank_mm if end == "end" else None
    inside_longer = cut.bevel_deg < -SAME_SETTING
    direct = design.board.method == "bevel_direct"
    gauge = f", gauge {fmt.angle(abs(cut.miter_deg))}" if abs(cut.miter_deg) > 1e-6 else ""
    parts = [f"tilt {fmt.angle(tilt)}{gauge}"]
    if stop is not None:
        parts.append(f"stop at {fmt.length(stop, unit=True)}")
    edge = "inside" if inside_longer else "show-face"
    how = f"{'Inside' if inside_longer else 'Show face'} up, the blade leaning away from the piece"
    if direct:
        how += "; the board turned end for end" if end == "start" else ""
        how += f". The kerf just reaches the last cut at the {edge} edge."
    else:
        how += f"; the cut dies at the {edge} edge and takes nothing of its length."
    if on_end:
        how = (
            f"Bevel {fmt.angle(abs(cut.bevel_deg))} is past the saw's stop: stand the piece on end "
            f"against a tall fence with the blade at {fmt.angle(tilt)}."
        )
    if inside_longer:
        how += " Here the inside is the longer face, and the stop is measured on it."
    how += _scale_words(design, cut, tilt, fmt)
    names = ", ".join(s.name for s in sides)
    cautions = ("guard", "tilt", "stop_clear", *(("on_end",) if on_end else ()))
    return Cut(
        0, "bevel", f"Bevel the {end} of {names}",
        sides=tuple(s.index for s in sides), end=end, tilt_deg=tilt,
        gauge_deg=abs(cut.miter_deg), stop_mm=stop, on_end=on_end, count=len(sides),
        face_up="inside" if inside_longer else "show",
        setting=", ".join(parts), how=how,
        cautions=_with_short(cautions, side.blank_mm),
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


def _assembly(
    design: Design, ring: RingPlan, section: SectionPlan, keys: KeysPlan, fmt: Format
) -> Iterator[Cut]:
    yield Cut(
        0, "dry_fit", "Dry fit with tape",
        setting="no glue yet",
        how="Look at every corner inside and out, and measure both diagonals.",
        cautions=("manual",),
    )  # fmt: skip
    for panel in section.panels:
        size = f"{fmt.length(panel.length_mm)} × {fmt.length(panel.width_mm)} {fmt.units}"
        yield Cut(
            0, "panel", f"Cut the {panel.name} panel",
            stop_mm=panel.length_mm, fences_mm=(panel.width_mm,), depth_mm=panel.thickness_mm,
            setting=f"{size}, {fmt.length(panel.thickness_mm, unit=True)} thick",
            how="Trace it from the ring's inside on the drawing; it must lie in the dry ring with its play."
            if len(panel.outline) != 4
            else "Try it in the dry ring: it must slide with its play, or the ring will not close.",
            cautions=("guard", "manual"),
        )  # fmt: skip
    yield Cut(
        0, "glue", "Glue up",
        setting="panel in dry, glue on both faces of every miter",
        how="Tape and roll, or a band clamp; check the diagonals before it grabs. Leave it overnight.",
        cautions=("glue", "manual"),
    )  # fmt: skip
    for setting in keys.settings:
        yield _slots(design, ring, setting.fence_mm, setting.passes_mm, setting.slots,
                     len(setting.heights_mm) > 1, fmt)  # fmt: skip
    lid = section.lid
    if lid:
        yield Cut(
            0, "lid", "Free the lid",
            tilt_deg=0.0, fences_mm=(lid.fence_mm,),
            depth_mm=max(s.thickness_mm for s in ring.sides), count=len(ring.sides),
            setting=f"fence {fmt.length(lid.fence_mm, unit=True)} from the bottom edge",
            how=f"The line is {fmt.length(lid.line_mm, unit=True)} up. Two opposite sides, then the "
            "others; true both edges on a flat sheet of abrasive.",
            cautions=("guard", "lid", "manual"),
        )  # fmt: skip


def _slots(
    design: Design, ring: RingPlan, fence: float, passes_mm: Sequence[float], slots: int,
    flipped: bool, fmt: Format,
) -> Cut:  # fmt: skip
    from_keys = design.keys
    assert from_keys is not None  # settings exist only with keys
    angles = sorted({round(c.dihedral_deg, 6) for c in ring.corners if not c.lapped})
    cradle = " and ".join(fmt.angle(a) for a in angles)
    depth = from_keys.depth_mm
    if from_keys.leg_mm is not None:
        depth = from_keys.leg_mm * math.cos(math.radians(angles[0] / 2))
    fences = tuple(fence + p for p in passes_mm)
    each = "" if len(fences) == 1 else f", {len(fences)} passes each"
    return Cut(
        0, "keys", "Slots for keys",
        tilt_deg=0.0, fences_mm=fences, depth_mm=depth, count=slots,
        setting=f"fence {' · '.join(fmt.length(f) for f in fences)} {fmt.units}, "
        f"depth {fmt.length(depth, unit=True)}",
        how=f"In a cradle of {cradle}; {slots} slots{each}"
        + ("; the same setting with the box turned over." if flipped else "."),
        cautions=("guard", "cradle", "manual"),
    )  # fmt: skip


def _beyond(design: Design, ring: RingPlan, fmt: Format) -> Iterator[Finding]:
    """Bevels past the saw's stop, and bevels a bit or block does not give."""
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


_TOOLS: Final = {
    "table_saw": "saw",
    "miter_saw": "saw",
    "chamfer_bit": "chamfer bit",
    "shooting_board": "shooting board",
}
