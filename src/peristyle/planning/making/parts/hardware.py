"""Hardware let into the rims of body and lid: hinges and magnets."""

from collections.abc import Iterator

from peristyle.core.outlines import flattened, slot
from peristyle.model.design import Magnets
from peristyle.planning.findings import Finding
from peristyle.planning.making.kind import Kind, Phase, Settled
from peristyle.planning.making.parts.hinges import hinge_features, hinge_steps
from peristyle.planning.making.parts.rims import PAST_MM, at, board_mm, made, middles, overhang_mm, rims, sunk
from peristyle.planning.making.parts.seams import seam_features, seam_findings, seam_of, seam_steps
from peristyle.planning.making.parts.swing import swing_findings
from peristyle.planning.making.piece import Feature
from peristyle.planning.making.setting import bit, height
from peristyle.planning.making.step import Step, make
from peristyle.planning.section.hardware import side_of, spots
from peristyle.planning.section.hardware_findings import hardware_findings


def _features(plan: Settled) -> Iterator[tuple[str, Feature]]:
    section, seam = plan.job.design.section, seam_of(plan)
    if seam is not None and section.hinges is not None:
        yield from seam_features(section.hinges, seam)
    if not plan.ring.stands or not rims(plan):
        return
    if section.hinges is not None:
        yield from hinge_features(plan, section.hinges)
    if section.magnets is not None:
        yield from _pockets(plan, section.magnets)


def _pockets(plan: Settled, own: Magnets) -> Iterator[tuple[str, Feature]]:
    """Round pockets in the middle of the rims, plumb; in the underside of a lid that is a board over them."""
    deep = own.thick_mm + own.under_mm
    for spot in spots(plan.job.design, plan.ring, plan.section, own):
        slab = plan.ring.slabs[spot.side]
        for rim in rims(plan):
            middle = (slab.outer_mm(rim.level_mm) + slab.inner_mm(rim.level_mm)) / 2
            round_one = flattened(slot(spot.middle_mm, middle, own.wide_mm, own.wide_mm))
            outline = tuple(at(plan, spot.side, along, out) for along, out in round_one)
            levels = (rim.level_mm - rim.way * PAST_MM, rim.level_mm + rim.way * deep)
            yield sunk(
                plan, spot.side, f"magnet.{spot.number}.{rim.word}", "pocket", outline, levels, own.wide_mm
            )
        if board_mm(plan):
            level = rims(plan)[0].level_mm
            x, y = at(plan, spot.side, spot.middle_mm, (slab.outer_mm(level) + slab.inner_mm(level)) / 2)
            yield "panel.lid", Feature(f"panel.lid.magnet.{spot.number}", "pocket", "inside", in_mm=deep,
                                       outline=slot(x, y, own.wide_mm, own.wide_mm))  # fmt: skip


def _steps(plan: Settled) -> Iterator[tuple[Phase, Step]]:
    section, seam = plan.job.design.section, seam_of(plan)
    if seam is not None and section.hinges is not None:
        yield from seam_steps(section.hinges, seam)
    if not rims(plan):
        return
    if section.magnets is not None:
        yield from _magnet_steps(plan, section.magnets)
    if section.hinges is not None:
        yield from hinge_steps(plan, section.hinges)


def _magnet_steps(plan: Settled, own: Magnets) -> Iterator[tuple[Phase, Step]]:
    design = plan.job.design
    places = spots(design, plan.ring, plan.section, own)
    side = plan.ring.sides[side_of(design, own)]
    if not places:
        return
    piece, cut = made(plan, "magnet", places)
    over = overhang_mm(plan, side.index)
    half = plan.ring.slabs[side.index].level_thickness_mm / 2
    numbers = {"pairs": float(own.count), "deep_mm": own.thick_mm + own.under_mm, "under_mm": own.under_mm,
               "each": 2.0 * own.count, "in_mm": half + (over or 0.0)}  # fmt: skip
    yield "last", make(
        "magnet_bore", piece, tool="drill_press",
        makes=cut,
        settings=(*middles(places), bit(own.wide_mm), height(own.thick_mm + own.under_mm)), passes=2 * own.count,
        says=("magnet_bore", *(() if over is None else ("magnet_bore.board",))), numbers=numbers,
        names={"side": side.name},
    )  # fmt: skip
    yield "finish", make("magnet_glue", piece, tool="by_hand", says=("magnet_glue",), numbers=numbers,
                         names={"side": side.name})  # fmt: skip


def _findings(plan: Settled) -> Iterator[Finding]:
    hinges, seam = plan.job.design.section.hinges, seam_of(plan)
    if hinges is not None and seam is not None:
        yield from seam_findings(plan, hinges, seam)
    yield from hardware_findings(plan.job, plan.ring, plan.section)
    hinges = plan.job.design.section.hinges
    if hinges is not None and plan.ring.stands:
        yield from swing_findings(plan, hinges)


HARDWARE = Kind("hardware", features=_features, steps=_steps, findings=_findings)
