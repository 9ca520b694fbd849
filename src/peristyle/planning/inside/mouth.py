"""Things that come in from above, or could never come out again: the box's mouth, and a box that nothing opens."""

import math
from typing import Final

from peristyle.core import outlines
from peristyle.core.outlines import Outline as Points
from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import Design
from peristyle.planning.findings import Finding, Fix, Place, Severity, reader
from peristyle.planning.form.ring import RingPlan
from peristyle.planning.inside.contents import ContentsPlan, footprints
from peristyle.planning.inside.divider_plan import DividersPlan
from peristyle.planning.inside.liner import LinerPlan
from peristyle.planning.section.levels import SectionPlan

_SQUARE_DEG: Final = 3.0  # a wall so nearly square to a divider comes over its end as it is closed (our rule)


def mouth_findings(
    design: Design,
    ring: RingPlan,
    section: SectionPlan,
    liner: LinerPlan | None,
    dividers: DividersPlan,
    contents: ContentsPlan,
) -> list[Finding]:
    """What cannot pass the mouth of a box that leans in, and a box closed for good."""
    if not ring.stands:
        return []
    inside = _inside(design, liner, dividers, contents)
    found = [*_sealed(design, inside), *_open(design, inside)]
    mouth = _mouth(design, ring, section)
    found += _cannot_pass("liner", liner_over_mm(design, ring, section, liner))
    found += _dividers(dividers, dividers_over_mm(design, ring, section, liner, dividers))
    found += _things(design, ring, contents, mouth) if mouth else []
    return found


def _mouth(design: Design, ring: RingPlan, section: SectionPlan) -> list[float]:
    """How far out the walls stand at the mouth; nothing where none of them leans in."""
    if not any(slab.sin_slope < -DEFAULT.length_mm for slab in ring.slabs):
        return []
    level = section.lid.body_mm if section.lid else design.form.height_mm
    return [slab.inner_mm(level) for slab in ring.slabs]


def liner_over_mm(design: Design, ring: RingPlan, section: SectionPlan, liner: LinerPlan | None) -> float:
    """How much further out a liner reaches at its foot than the mouth it must pass; 0 or less where it goes in."""
    mouth = _mouth(design, ring, section)
    if not mouth or liner is None or not liner.ring.stands:
        return 0.0
    feet = [slab.outer_mm(0.0) for slab in liner.ring.slabs]
    return max(foot - inner for foot, inner in zip(feet, mouth, strict=True))


def dividers_over_mm(
    design: Design, ring: RingPlan, section: SectionPlan, liner: LinerPlan | None, dividers: DividersPlan
) -> float:
    """How much further out a divider reaches at its foot than the ends of its dadoes at the mouth of the walls that
    hold it; 0 or less where it goes in from above.
    """
    own, part = design.inside.dividers, design.inside.liner
    mouth, slabs = _mouth(design, ring, section), ring.slabs
    if not mouth or own is None or not dividers.pieces:
        return 0.0
    if dividers.in_liner:
        if liner is None or part is None:
            return 0.0
        slabs = liner.ring.slabs
        mouth = [slab.inner_mm(part.height_mm) for slab in slabs]
    over = -math.inf
    for piece in dividers.pieces:
        for dado in piece.dadoes:
            slab = slabs[dado.side]
            reach = max(slab.ux * x + slab.uy * y for x, y in piece.outline)
            over = max(over, reach - mouth[dado.side] - own.dado_mm / slab.cos_slope)
    return over


def _cannot_pass(what: str, over: float, thing: str = "") -> list[Finding]:
    if over <= DEFAULT.length_mm:
        return []
    names = {"thing": thing}
    return [Finding("cannot_pass_mouth", "caution", Place("ring"), {"over_mm": over}, (), names, what)]


def _dividers(dividers: DividersPlan, over: float) -> list[Finding]:
    """Dividers that go in as their walls are closed; where those stand aslant to them there is no way in at all."""
    aslant = max((abs(dado.tilt_deg) for piece in dividers.pieces for dado in piece.dadoes), default=0.0)
    if over <= DEFAULT.length_mm or aslant <= _SQUARE_DEG:
        return _cannot_pass("divider", over)
    fixes = (
        Fix("upright", (("sides.slope_deg", (0.0,)),)), Fix("no_dividers", (("inside.dividers", False),)),
    )  # fmt: skip
    return [Finding("cannot_pass_mouth", "stop", Place("ring"), {"over_mm": over}, fixes, {}, "aslant")]


def _things(design: Design, ring: RingPlan, contents: ContentsPlan, mouth: list[float]) -> list[Finding]:
    """The largest thing, lifted straight out through the middle of the mouth."""
    outline: Points = outlines.vertices(ring.slabs, mouth)
    x0, y0 = outlines.centroid(outline)
    over, name = 0.0, ""
    for block in contents.blocks:
        thing = block.thing
        for slab, inner in zip(ring.slabs, mouth, strict=True):
            middle = slab.ux * x0 + slab.uy * y0
            flat = [(x1 - x0, y1 - y0) for x0, y0, _z0, x1, y1, _z1 in footprints(block)]
            if thing.round:
                reach = thing.length_mm / 2
            else:
                flat = flat or [(thing.length_mm, thing.width_mm)]
                reach = max((abs(slab.ux) * long + abs(slab.uy) * wide) / 2 for long, wide in flat)
            if middle + reach - inner > over:
                over, name = middle + reach - inner, thing.name
    return _cannot_pass("thing", over, name)


def _inside(
    design: Design, liner: LinerPlan | None, dividers: DividersPlan, contents: ContentsPlan
) -> tuple[str, ...]:
    """What stands on the floor: the keys of its words."""
    return tuple(
        word
        for word, there in (
            ("things", bool(contents.blocks)),
            ("liner", liner is not None),
            ("tray", design.inside.tray is not None),
            ("dividers", bool(dividers.pieces)),
        )
        if there
    )


def _open(design: Design, inside: tuple[str, ...]) -> list[Finding]:
    """Nothing under what stands inside, or nothing over a lid that is sawn free."""
    section, found = design.section, []
    if section.bottom is None and inside:
        fix = Fix("add_bottom", (("section.bottom", True),))
        found.append(Finding("no_bottom", "caution", Place("section"), {}, (fix,)))
    if section.lid is not None and section.top is None:
        fixes = (Fix("add_top", (("section.top", True),)), Fix("no_lid_sawn", (("section.lid", False),)))
        found.append(Finding("lid_open", "note", Place("section"), {}, fixes))
    return found


def _sealed(design: Design, inside: tuple[str, ...]) -> list[Finding]:
    """A top panel glued in, and no lid sawn free: nothing opens the box again."""
    if design.section.top is None or design.section.lid is not None or design.section.bottom is None:
        return []
    quarter = _quarter(design)
    fixes = (
        Fix("lid_free", (("section.lid", True), ("section.lid.height_mm", quarter))),
        Fix("no_top", (("section.top", False),)),
    )
    severity: Severity = "stop" if inside else "caution"
    return [Finding("sealed", severity, Place("section"), {}, fixes, {}, "", inside)]


def _quarter(design: Design) -> float:
    """A lid a quarter of the height, in whole millimetres or sixteenths of an inch."""
    return reader(design).up(design.form.height_mm / 4)
