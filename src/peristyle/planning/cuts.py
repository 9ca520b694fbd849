"""The operations in the order they are done, with their settings and cautions."""

import math
from collections.abc import Iterator, Sequence

from peristyle.core.lengths import Format
from peristyle.model.design import Design, replace, side_name
from peristyle.planning.cut import Cut, same
from peristyle.planning.divider_plan import DividersPlan
from peristyle.planning.findings import reader
from peristyle.planning.inner_cuts import dado_cuts, divider_cuts, liner_cuts, segment_cuts
from peristyle.planning.keys import KeysPlan
from peristyle.planning.liner import LinerPlan
from peristyle.planning.ring import RingPlan
from peristyle.planning.ring_cuts import lengths_and_bevels, rips
from peristyle.planning.section import SectionPlan
from peristyle.planning.wrap import WrapPlan


def plan_cuts(
    design: Design,
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
    fmt = reader(design)
    in_box = not dividers.in_liner
    steps = [
        *_stock(design, ring, fmt),
        *rips(ring, fmt),
        *_grooves(section, fmt),
        *_trim(design, fmt),
        *lengths_and_bevels(design, ring, wrap.order, fmt),
        *(dado_cuts(design, ring, dividers, fmt) if in_box else ()),
        *_assembly(design, ring, section, keys, fmt),
        *(liner_cuts(design, liner, wrap.order, dividers, fmt) if liner else ()),
        *divider_cuts(design, dividers, fmt),
    ]
    return tuple(replace(cut, number=i + 1) for i, cut in enumerate(steps))


def _stock(design: Design, ring: RingPlan, fmt: Format) -> Iterator[Cut]:
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


def _trim(design: Design, fmt: Format) -> Iterator[Cut]:
    board = design.board
    yield Cut(
        0, "trim", "Trim the end square",
        tilt_deg=0.0, gauge_deg=0.0, stop_mm=board.end_trim_mm + board.shift_mm,
        setting=f"{fmt.length(board.end_trim_mm + board.shift_mm, unit=True)} off the start end",
        how="Past checks and snipe; this is where the strip begins.",
        cautions=("guard", "manual"),
    )  # fmt: skip


def _grooves(section: SectionPlan, fmt: Format) -> Iterator[Cut]:
    """A groove for each panel; both at once where one setting serves, the strip turned end for end."""
    left = list(section.grooves)
    while left:
        groove = left.pop(0)
        mates = [
            g for g in left if same(*g.fences_mm, g.depth_mm) == same(*groove.fences_mm, groove.depth_mm)
        ]
        left = [g for g in left if g not in mates]
        names = " and the ".join(g.panel for g in (groove, *mates))
        fences = " · ".join(fmt.length(f) for f in groove.fences_mm)
        times = "one pass" if len(groove.fences_mm) == 1 else f"{len(groove.fences_mm)} passes"
        turned = "; then the strip turned end for end, top edge on the fence" if mates else ""
        yield Cut(
            0, "groove", f"Groove for the {names}",
            tilt_deg=0.0,
            fences_mm=groove.fences_mm,
            depth_mm=groove.depth_mm,
            count=len(groove.fences_mm) * (1 + len(mates)),
            setting=f"fence {fences} {fmt.units}, depth {fmt.length(groove.depth_mm, unit=True)}",
            how=f"Inside face down, {groove.panel} edge on the fence, in the long strip; {times}, "
            f"so that it lines up at every corner{turned}.",
            cautions=("guard", "groove", "manual"),
        )  # fmt: skip


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
            0, "panel", f"Cut the {panel.name} panel", items=(number,),
            stop_mm=panel.length_mm, fences_mm=(panel.width_mm,), depth_mm=panel.thickness_mm,
            setting=f"{size}, {fmt.length(panel.thickness_mm, unit=True)} thick",
            how="Trace it from the ring's inside on the drawing; it must lie in the dry ring with its play."
            if len(panel.outline) != 4
            else "Try it in the dry ring: it must slide with its play, or the ring will not close.",
            cautions=("guard", "manual"),
        )  # fmt: skip
    yield Cut(
        0, "glue", "Glue up",
        setting=f"{'panels' if len(section.panels) > 1 else 'panel'} in dry, glue on both faces of every miter",
        how="Tape and roll, or a band clamp; check the diagonals before it grabs. Leave it overnight.",
        cautions=("glue", "manual"),
    )  # fmt: skip
    for setting in keys.settings:
        yield _slots(design, ring, setting.fence_mm, setting.passes_mm, setting.slots,
                     len(setting.heights_mm) > 1, fmt)  # fmt: skip
    lid = section.lid
    if lid and lid.body_mm > 0:
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
