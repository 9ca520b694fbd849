"""The operations in the order they are done, with their settings and cautions."""

from collections.abc import Iterator
from typing import Final

from peristyle.core.lengths import Format
from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import Design, replace, side_name
from peristyle.model.job import Job
from peristyle.planning.cut import SAME_SETTING, Cut, fences_in_words, same
from peristyle.planning.divider_plan import DividersPlan
from peristyle.planning.findings import reader
from peristyle.planning.grooves import GrooveCut, tongue_mm
from peristyle.planning.inner_cuts import dado_cuts, divider_cuts, liner_cuts, segment_cuts
from peristyle.planning.keys import KeySetting, KeysPlan
from peristyle.planning.liner import LinerPlan
from peristyle.planning.ring import RingPlan
from peristyle.planning.ring_cuts import bevels, crosscuts, mitered_ends, piece_rips, rips
from peristyle.planning.section import LidPlan, PanelPlan, SectionPlan
from peristyle.planning.wrap import WrapPlan


def plan_cuts(
    job: Job,
    ring: RingPlan,
    section: SectionPlan,
    wrap: WrapPlan,
    keys: KeysPlan,
    liner: LinerPlan | None,
    dividers: DividersPlan,
) -> tuple[Cut, ...]:
    """The sequence, numbered."""
    if not ring.sides:
        return ()
    fmt = reader(job.design)
    in_box, in_strip = not dividers.in_liner, ring.leans_alike
    steps = [
        *_stock(job, ring, fmt),
        *rips(job, ring, fmt),
        *(_grooves(section, len(ring.sides), True, fmt) if in_strip else ()),
        *_trim(job, fmt),
        *crosscuts(job, ring, wrap.order, fmt),
        *piece_rips(job, ring, fmt),
        *mitered_ends(job, ring, fmt),
        *(() if in_strip else _grooves(section, len(ring.sides), False, fmt)),
        *bevels(job, ring, wrap.order, fmt),
        *(dado_cuts(job, ring, dividers, fmt) if in_box else ()),
        *_assembly(job.design, ring, section, keys, fmt),
        *(liner_cuts(job, liner, wrap.order, dividers, fmt) if liner else ()),
        *divider_cuts(job, dividers, fmt),
    ]
    return tuple(replace(cut, number=i + 1) for i, cut in enumerate(steps))


def _stock(job: Job, ring: RingPlan, fmt: Format) -> Iterator[Cut]:
    board = job.stock.board
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


def _trim(job: Job, fmt: Format) -> Iterator[Cut]:
    board = job.stock.board
    yield Cut(
        0, "trim", "Trim the end square",
        tilt_deg=0.0, gauge_deg=0.0, stop_mm=board.end_trim_mm + board.shift_mm,
        setting=f"{fmt.length(board.end_trim_mm + board.shift_mm, unit=True)} off the start end",
        how="Past checks and snipe; this is where the strip begins.",
        cautions=("guard", "manual"),
    )  # fmt: skip


def _grooves(section: SectionPlan, count: int, in_strip: bool, fmt: Format) -> Iterator[Cut]:
    """A groove for each panel, a step for each setting; both panels at once where one setting serves."""
    left = [(groove, cut) for groove in section.grooves for cut in groove.cuts]
    while left:
        groove, cut = left.pop(0)
        mates = [g for g, c in left if _groove_key(c) == _groove_key(cut)]
        left = [(g, c) for g, c in left if _groove_key(c) != _groove_key(cut)]
        names = " and the ".join(g.panel for g in (groove, *mates))
        some = len(cut.sides) < count
        whom = " in " + ", ".join(side_name(i) for i in cut.sides) if some else ""
        times = "one pass" if len(cut.fences_mm) == 1 else f"{len(cut.fences_mm)} passes"
        tilted = abs(cut.tilt_deg) > SAME_SETTING
        way = "away from" if cut.tilt_deg > 0 else "toward"
        lean = f"blade tilted {fmt.angle(abs(cut.tilt_deg))} {way} the fence, "
        arris = (
            ""
            if cut.arris == "both"
            else f", where its {'inner' if cut.arris == 'inside' else 'outer'} arris touches first"
        )
        where = "in the long strip" if in_strip else "in the pieces, now ripped to height"
        turned = "; then the same turned end for end, top edge on the fence" if mates else ""
        yield Cut(
            0, "groove", f"Groove for the {names}{whom}",
            sides=cut.sides if some else (),
            tilt_deg=cut.tilt_deg,
            fences_mm=cut.fences_mm,
            depth_mm=cut.height_mm,
            edge=groove.panel,
            panels=(groove.panel, *(g.panel for g in mates)),
            count=len(cut.fences_mm) * (1 + len(mates)),
            setting=f"{lean if tilted else ''}{fences_in_words(cut.fences_mm, fmt)}, "
            f"depth {fmt.length(cut.height_mm, unit=True)}",
            how=f"Inside face down, {groove.panel} edge on the fence{arris}, {where}; {times}, "
            f"so that it lines up at every corner{turned}.",
            cautions=("guard", "groove", "manual"),
        )  # fmt: skip


def _groove_key(cut: GrooveCut) -> tuple[object, ...]:
    """Grooves with the same key are cut at one setting."""
    return (cut.sides, cut.arris, *same(cut.tilt_deg, cut.height_mm, *cut.fences_mm))


_PANELS_IN: Final = ("", "panel in dry, ", "panels in dry, ")


def _assembly(
    design: Design, ring: RingPlan, section: SectionPlan, keys: KeysPlan, fmt: Format
) -> Iterator[Cut]:
    yield Cut(
        0, "dry_fit", "Dry fit with tape",
        setting="no glue yet",
        how="Look at every corner inside and out, and measure both diagonals.",
        cautions=("manual",),
    )  # fmt: skip
    for number, panel in enumerate(section.panels):
        if panel.segments:
            yield from segment_cuts(number, panel, panel.segments, fmt)
        size = f"{fmt.length(panel.length_mm)} × {fmt.length(panel.width_mm)} {fmt.units}"
        yield Cut(
            0, "panel", f"Cut the {panel.name} panel", items=(number,), panels=(panel.name,),
            stop_mm=panel.length_mm, fences_mm=(panel.width_mm,), depth_mm=panel.thickness_mm,
            setting=f"{size}, {fmt.length(panel.thickness_mm, unit=True)} thick",
            how=(
                "Trace it from the ring's inside on the drawing; it must lie in the dry ring with its play."
                if len(panel.outline) != 4
                else "Try it in the dry ring: it must slide with its play, or the ring will not close."
            )
            + _tongue_words(design, ring, section, panel, fmt),
            cautions=("guard", "manual"),
        )  # fmt: skip
    yield Cut(
        0, "glue", "Glue up",
        setting=f"{_PANELS_IN[min(2, len(section.panels))]}glue on both faces of every miter",
        how="Tape and roll, or a band clamp; check the diagonals before it grabs. Leave it overnight.",
        cautions=("glue", "manual"),
    )  # fmt: skip
    for setting in keys.settings:
        yield _slots(ring, keys, setting, fmt)
    if section.lid and section.lid.body_mm > 0:
        yield from _freed(ring, section.lid, fmt)


def _tongue_words(design: Design, ring: RingPlan, section: SectionPlan, panel: PanelPlan, fmt: Format) -> str:
    """What is planed off a panel's edges so that they fit grooves square to leaning sides."""
    groove = section.groove(panel.name)
    part = design.section.bottom if panel.name == "bottom" else design.section.top
    if groove is None or part is None or groove.way != "tongue":
        return ""
    held = part.depth_mm - part.play_mm
    told = {
        (
            fmt.angle(abs(side.slope_deg)),
            fmt.length(tongue_mm(slab, panel.thickness_mm, held), unit=True),
        ): None
        for side, slab in zip(ring.sides, ring.slabs, strict=True)
    }
    ways = " and ".join(f"{thick} thick, leaning {lean}" for lean, thick in told)
    return (
        f" Plane both faces of its edges to a tongue {ways}, {fmt.length(held, unit=True)} long, that leans as the "
        "side's own thickness does; try it in an offcut of the groove."
    )


def _freed(ring: RingPlan, lid: LidPlan, fmt: Format) -> Iterator[Cut]:
    """The lid sawn free, a step for each setting."""
    for number, cut in enumerate(lid.cuts):
        some = len(lid.cuts) > 1
        whom = " along " + ", ".join(side_name(i) for i in cut.sides) if some else ""
        lean = (
            f"blade tilted {fmt.angle(cut.tilt_deg)} away from the fence, "
            if cut.tilt_deg > SAME_SETTING
            else ""
        )
        wider = ": it is the wider, so that the far side keeps clear of the fence" if lean else ""
        order = (
            "Two opposite sides, then the others" if len(ring.sides) == 4 else "Round the box, side by side"
        )
        last = number == len(lid.cuts) - 1
        yield Cut(
            0, "lid", f"Free the lid{whom}",
            sides=cut.sides if some else (),
            tilt_deg=cut.tilt_deg, fences_mm=(cut.fence_mm,), edge=cut.edge,
            depth_mm=max(ring.sides[i].thickness_mm for i in cut.sides), count=len(cut.sides),
            setting=f"{lean}fence {fmt.length(cut.fence_mm, unit=True)} from the {cut.edge} edge",
            how=f"The line is {fmt.length(lid.line_mm, unit=True)} up. The {cut.edge} edge on the fence{wider}. "
            f"{order}; pack the kerf before the last cut"
            + ("; true both edges on a flat sheet of abrasive." if last else "."),
            cautions=("guard", "lid", "manual"),
        )  # fmt: skip


def _slots(ring: RingPlan, keys: KeysPlan, setting: KeySetting, fmt: Format) -> Cut:
    fences = tuple(setting.fence_mm + at for at in setting.passes_mm)
    each = "" if len(fences) == 1 else f", {len(fences)} passes each"
    some = len(setting.corners) < sum(not corner.lapped for corner in ring.corners)
    whom = " at " + ", ".join(ring.corners[i].name for i in setting.corners) if some else ""
    turned = len(setting.heights_mm) > 1
    leaning = (
        f" The corner leans, so the fence is measured along it, from its {setting.edge} end: let a block on the fence "
        "touch that end alone."
        if any(abs(slab.sin_slope) > DEFAULT.length_mm for slab in ring.slabs)
        else ""
    )
    return Cut(
        0, "keys", f"Slots for keys{whom}",
        tilt_deg=0.0, fences_mm=fences, depth_mm=setting.depth_mm, count=setting.slots,
        edge=setting.edge, cradle_deg=setting.cradle_deg,
        corners=tuple(ring.corners[i].name for i in setting.corners),
        items=tuple(keys.heights_mm.index(height) for height in setting.heights_mm),
        setting=f"{fences_in_words(fences, fmt)}, depth {fmt.length(setting.depth_mm, unit=True)}",
        how=f"In a cradle of {fmt.angle(setting.cradle_deg)}, {setting.edge} edge to the fence; {setting.slots} "
        f"slots{each}" + ("; the same setting with the box turned over." if turned else ".") + leaning,
        cautions=("guard", "cradle", "manual"),
    )  # fmt: skip
