"""Fillets and a tray: small mitered rings of their own, cut as the box is, and what makes them whole."""

from collections.abc import Iterator
from typing import Final, Literal

from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import Opening, replace
from peristyle.planning.findings import Finding, Fix, Place
from peristyle.planning.inside.inner import InnerPlan, InnerRing, inner_findings, plan_inner, tray_bottom
from peristyle.planning.making.ends import bevels, crosscuts, mitered_ends
from peristyle.planning.making.kind import Kind, Phase, Settled
from peristyle.planning.making.parts.panels import board, cut_out
from peristyle.planning.making.parts.walls import walls
from peristyle.planning.making.piece import Piece
from peristyle.planning.making.ripping import ids, piece_rips, rips
from peristyle.planning.making.step import Step, make
from peristyle.planning.section.levels import panel_plan

_BOTTOM: Final = "panel.tray"
_PLACE: Final = Place("section")


def _inner(plan: Settled) -> InnerPlan:
    return plan_inner(plan.job, plan.ring, plan.section, plan.liner)


def _pieces(plan: Settled) -> Iterator[Piece]:
    inner, own = _inner(plan), plan.job.design.inside.tray
    for word, made in (("fillet", inner.fillets), ("tray", inner.tray)):
        if made is not None and made.ring.stands:
            yield from walls(made.ring, word, f"{word} strip", made.base_mm)
    if inner.tray is not None and own is not None and inner.tray.ring.stands:
        yield board(
            _BOTTOM, "Tray's bottom", tray_bottom(inner), own.bottom_mm, inner.tray.base_mm - own.bottom_mm
        )


def _steps(plan: Settled) -> Iterator[tuple[Phase, Step]]:
    inner, inside = _inner(plan), plan.job.design.inside
    if inner.fillets is not None and inside.fillets is not None and inner.fillets.ring.sides:
        yield from _sides(plan, inner.fillets, "fillet")
        own = ids(inner.fillets.ring.sides, "fillet")
        told = {"below_mm": inside.fillets.below_mm, "high_mm": inner.fillets.height_mm}
        level = "_level" if inside.fillets.below_mm < DEFAULT.length_mm else ""
        says = ("fillet_glue", f"fillet_glue.{_under(plan)}{level}")
        yield "rings", make("fillet_glue", own, part="fillet", tool="by_hand", says=says, numbers=told)
    if inner.tray is None or inside.tray is None or not inner.tray.ring.sides:
        return
    yield from _sides(plan, inner.tray, "tray")
    names = ids(inner.tray.ring.sides, "tray")
    panel = panel_plan("bottom", tray_bottom(inner), inside.tray.bottom_mm)
    numbers = {"gap_mm": inside.tray.gap_mm, "high_mm": inside.tray.height_mm}
    yield "rings", make("tray_glue", names, part="tray", tool="tape", says=("tray_glue",), numbers=numbers)
    bottom = cut_out(_BOTTOM, "tray", panel, says=("panel.tray",), title="panel.tray", numbers=numbers)
    yield "rings", replace(bottom, part="tray")
    on = "fillets" if inner.fillets is not None and inner.rests_mm == inner.fillets.top_mm else "liner"
    yield "rings", make(
        "tray_fit", (*names, _BOTTOM), part="tray", tool="by_hand", says=("tray_fit", "tray_fit.finish"),
        numbers=numbers, names={"on": on},
    )  # fmt: skip


def _under(plan: Settled) -> str:
    """What the fillets are measured from: the body's rim, or the underside of what lies in it or closes it."""
    design = plan.job.design
    open_rim = plan.section.lid is not None or design.floor_mm + design.room_mm > design.form.height_mm - 1e-6
    return "rim" if open_rim else "lid"


def _sides(plan: Settled, made: InnerRing, word: Literal["fillet", "tray"]) -> Iterator[tuple[Phase, Step]]:
    """Their own strip and its sides, cut to length and beveled."""
    ring, order = made.ring, plan.wrap.order
    for step in (
        *rips(made.job, ring, word), *crosscuts(made.job, ring, order, word), *piece_rips(made.job, ring, word),
        *mitered_ends(made.job, ring, word), *bevels(made.job, ring, order, word),
    ):  # fmt: skip
        yield "inside", step


def _findings(plan: Settled) -> Iterator[Finding]:
    inner, design = _inner(plan), plan.job.design
    yield from inner_findings(
        plan.job, plan.ring, plan.section, plan.liner, inner, plan.contents, plan.dividers
    )
    for word, address, made in (
        ("fillets", "inside.fillets", inner.fillets),
        ("tray", "inside.tray", inner.tray),
    ):
        if made is None:
            continue
        without = Fix(f"no_{word}", ((address, False),))
        if plan.corner_blocks.blocks:
            blocks = Fix("no_corner_blocks", (("joints.corner_blocks", False),))
            yield Finding("inner_blocks", "stop", _PLACE, {}, (blocks, without), {"what": word})
        for number, opening in enumerate(design.section.openings, 1):
            if _shows(plan, made, opening):
                names = {"what": word, "opening": str(number)}
                yield Finding("inner_opening", "caution", _PLACE, {}, (without,), names)


def _shows(plan: Settled, made: InnerRing, opening: Opening) -> bool:
    """Whether a ring within the box stands behind an opening: holes by their height, notches from the rim down."""
    cos = plan.ring.slabs[min(opening.side, len(plan.ring.slabs) - 1)].cos_slope
    if opening.kind == "notch":
        rim = plan.section.lid.lost_low_mm if plan.section.lid else plan.job.design.form.height_mm
        low, high = rim - opening.high_mm * cos, rim
    else:
        half = (opening.width_mm if opening.kind == "hole" else opening.high_mm) / 2
        low, high = (opening.up_mm - half) * cos, (opening.up_mm + half) * cos
    return low < made.top_mm and made.base_mm < high


INNER_RINGS = Kind("inner_ring", _pieces, steps=_steps, findings=_findings)
