"""What stands out of the body, and whether a lid that is hinged clears it as it swings."""

import math
from collections.abc import Iterator
from typing import Final, NamedTuple

from peristyle.core.outlines import Outline as Points
from peristyle.core.outlines import bounds, box
from peristyle.core.planes import Point
from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import Hinges
from peristyle.planning.findings import Finding, Fix, reader
from peristyle.planning.inside.contents import footprints
from peristyle.planning.inside.inner import plan_inner
from peristyle.planning.making.kind import Settled
from peristyle.planning.section.hardware import side_of
from peristyle.planning.section.rim_findings import NO_HINGES, PLACE

_HEIGHTS: Final = (0.0, 0.5, 1.0)  # of what stands out, looked at from the rim to its top
_NEARER: Final = (
    1.03  # a part made smaller lies nearer to the axis, and wants a little more than it lacked (our rule)
)
_OPENED: Final = (0.3, 0.65, 1.0)  # of the turn after which a point is out of the lid


class _Proud(NamedTuple):
    """What stands out of the body: its outline at its foot and at its top, and those heights over the bottom edge."""

    what: str
    foot: Points
    top: Points
    low_mm: float
    high_mm: float


def swing_findings(plan: Settled, own: Hinges) -> Iterator[Finding]:
    """A liner's lip, a tray, dividers or things that a lid's walls meet as it swings: for each by how much."""
    lid = plan.section.lid
    if lid is None:
        return
    strip, fmt = plan.job.design.section.strip, reader(plan.job.design)
    rim = lid.lost_low_mm + (strip.height_mm if strip else 0.0)
    told = set[str]()
    for one in _proud(plan):
        if one.high_mm <= rim + DEFAULT.length_mm or one.what in told:
            continue
        over = _meets(plan, own, one, rim)
        if over <= DEFAULT.length_mm:
            continue
        told.add(one.what)
        gap = _gap(plan, one.what)
        numbers = {"over_mm": over, "needs_mm": gap + over, "gap_mm": gap, "proud_mm": one.high_mm - rim}
        fixes: tuple[Fix, ...] = ()
        if one.what in ("liner", "tray"):
            wide = fmt.up(gap + over * _NEARER)
            fixes = (Fix(f"{one.what}_gap", ((f"inside.{one.what}.gap_mm", wide),), {"gap_mm": wide}),)
        low = fmt.down(rim - plan.job.design.floor_mm)
        if one.what == "dividers" and low > 0:
            fixes = (Fix("divider_height", (("inside.dividers.height_mm", low),), {"height_mm": low}),)
        kind = "" if one.what == "liner" else one.what
        yield Finding("hinge_lip_binds", "caution", PLACE, numbers, (*fixes, NO_HINGES), {}, kind)


def _gap(plan: Settled, what: str) -> float:
    inside = plan.job.design.inside
    part = {"liner": inside.liner, "tray": inside.tray}.get(what)
    return part.gap_mm if part else 0.0


def _proud(plan: Settled) -> Iterator[_Proud]:
    design, liner = plan.job.design, plan.liner
    floor, inside = design.floor_mm, design.inside
    if liner is not None and inside.liner is not None and liner.ring.stands:
        ring = liner.ring
        yield _Proud(
            "liner", ring.outer_bottom, ring.outer_top, liner.base_mm, liner.base_mm + inside.liner.height_mm
        )
    tray = plan_inner(plan.job, plan.ring, plan.section, liner).tray if inside.tray else None
    if tray is not None and tray.ring.stands:
        yield _Proud("tray", tray.ring.outer_bottom, tray.ring.outer_top, tray.base_mm, tray.top_mm)
    for piece in plan.dividers.pieces if inside.dividers else ():
        x0, y0, x1, y1 = bounds(piece.outline)
        first, last = (piece.height_mm * math.tan(math.radians(lean)) for lean in piece.leans_deg)
        along = piece.run == "along"
        wider = (x0 - first, y0, x1 + last, y1) if along else (x0, y0 - first, x1, y1 + last)
        yield _Proud("dividers", box(x0, y0, x1, y1), box(*wider), floor, floor + piece.height_mm)
    base = floor + inside.lining_mm
    for block in plan.contents.blocks:
        x, y, high = block.x_mm, block.y_mm, block.thing.height_mm * block.thing.layers
        whole = (x, y, 0.0, x + block.length_mm, y + block.width_mm, high)
        for x0, y0, z0, x1, y1, z1 in footprints(block) or [whole]:
            outline = box(x0, y0, x1, y1)
            yield _Proud("things", outline, outline, base + z0, base + z1)


def _meets(plan: Settled, own: Hinges, one: _Proud, rim_mm: float) -> float:
    """How far a lid's wall reaches into what stands out (mm), at the most while it swings; 0 where it clears it.

    The lid stands still and the box turns back under it: a point is in the lid until it comes down to its rim. Source:
    the circle about the hinges' axis; of a lip p high, D from the axis, the far wall needs √(D² + p²) − D.
    """
    lid = plan.section.lid
    assert lid is not None
    slab = plan.ring.slabs[side_of(plan.job.design, own)]
    out = slab.outer_mm(lid.lost_low_mm) + own.axis_out_mm
    lower = lid.lost_high_mm - rim_mm  # what the lid has come down by since it was sawn
    shut = most = 0.0
    for (fx, fy), (tx, ty) in zip(one.foot, one.top, strict=True):
        for share in _HEIGHTS:
            z = rim_mm + share * (one.high_mm - rim_mm)
            up = (z - one.low_mm) / max(one.high_mm - one.low_mm, DEFAULT.length_mm)
            x, y = fx + (tx - fx) * up, fy + (ty - fy) * up
            shut = max(shut, _past(plan, (x, y), z + lower))
            u, w = slab.ux * x + slab.uy * y - out, z - rim_mm
            if u >= 0 or w <= 0:
                continue
            for part in _OPENED:
                turn = part * math.atan2(w, -u)
                c, s = math.cos(turn), math.sin(turn)
                moved, level = u * c - w * s - u, u * s + w * c
                most = max(
                    most, _past(plan, (x + moved * slab.ux, y + moved * slab.uy), rim_mm + level + lower)
                )
    return most if most > shut + DEFAULT.length_mm else 0.0


def _past(plan: Settled, point: Point, z_mm: float) -> float:
    """How far a point lies behind the inner face of the wall that it is furthest behind."""
    return max(slab.ux * point[0] + slab.uy * point[1] - slab.inner_mm(z_mm) for slab in plan.ring.slabs)
