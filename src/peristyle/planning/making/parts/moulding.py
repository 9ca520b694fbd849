"""Sides of a moulding: its section cut along the strips, before they are parted."""

from collections.abc import Iterator
from typing import Final

from peristyle.planning.findings import Finding
from peristyle.planning.making.kind import Kind, Phase, Settled
from peristyle.planning.making.parts.covers import COVERS
from peristyle.planning.making.parts.dividers import DIVIDERS
from peristyle.planning.making.parts.edges import EDGES, cuts_across, passes_for
from peristyle.planning.making.parts.fittings import FITTINGS
from peristyle.planning.making.parts.hardware import HARDWARE
from peristyle.planning.making.parts.panels import PANELS
from peristyle.planning.making.parts.sides import SIDES
from peristyle.planning.making.parts.walls import along
from peristyle.planning.making.piece import Feature
from peristyle.planning.making.step import Step, make
from peristyle.planning.section.moulding import left_of_joint, moulding_findings, regions


def _features(plan: Settled) -> Iterator[tuple[str, Feature]]:
    own = plan.job.design.section.moulding
    if own is None or not plan.ring.stands:
        return
    for side in plan.ring.sides:
        for number, section in enumerate(regions(own, side), 1):
            yield f"side.{side.name}", along(f"moulding.{number}", "moulding", side, section, "show")


def _steps(plan: Settled) -> Iterator[tuple[Phase, Step]]:
    own = plan.job.design.section.moulding
    if own is None or not plan.ring.stands:
        return
    sides = tuple(f"side.{side.name}" for side in plan.ring.sides)
    points = list(zip(own.ups_mm, own.ins_mm, strict=False))
    numbers: dict[str, float] = {}
    for number, (up, inward) in enumerate(points, 1):
        numbers |= {f"point.{number}.up_mm": up, f"point.{number}.in_mm": inward}
        arc = own.arcs_mm[number - 1] if number <= len(own.arcs_mm) else 0.0
        if arc and number < len(points):
            numbers[f"point.{number}.arc_mm"] = arc
    side, share = plan.ring.sides[0], left_of_joint(plan.job.design, plan.ring)
    made = [f"{name}.moulding.{n}" for name in sides for n in range(1, len(regions(own, side)) + 1)]
    passes = passes_for(max(own.ins_mm, default=0.0))
    phase: Phase = "strip" if plan.ring.leans_alike else "pieces"
    yield phase, make(
        "moulding", sides, tool="router_table", makes=made, lies="show_up", edge="bottom",
        passes=passes, says=("moulding", "moulding.back", "moulding.joint"),
        numbers=numbers | {"passes": float(passes), "share": 100 * share},
    )  # fmt: skip
    if plan.job.design.section.bottom is not None and plan.job.design.section.bottom.seat == "applied":
        yield "seat", make("moulding_base", (), tool="scrap", says=("moulding_base",))


def _findings(plan: Settled) -> Iterator[Finding]:
    if plan.job.design.section.moulding is None or not plan.ring.stands:
        return
    cuts = cuts_across(plan, (PANELS, COVERS, DIVIDERS, HARDWARE, EDGES, FITTINGS))
    steps = [step for _phase, step in SIDES.steps(plan) if step.operation in ("bevel", "crosscut", "heights")]
    yield from moulding_findings(plan.job.design, plan.ring, cuts, steps)


MOULDING: Final = Kind("moulding", features=_features, steps=_steps, findings=_findings)
