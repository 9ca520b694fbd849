"""Lids that are not sawn free, applied panels and false floors, in the box cut through."""

import math

from peristyle.core.outlines import box
from peristyle.core.planes import Point
from peristyle.drawing.shapes import Label, Path, Shape, Tag
from peristyle.model import cover_fields, fields
from peristyle.model.design import Gable, LiftOff, Sliding, Split
from peristyle.model.section_edits import insert_mm
from peristyle.planning.plan import Plan
from peristyle.planning.section.covers import Roof, roof_of
from peristyle.planning.section.grooves import GroovePlan

_SPLIT_AT = 0.62  # where across the drawing the parts of a lid meet: beside the break


def half_width_mm(plan: Plan) -> float | None:
    """Half of how wide the box is drawn where it must be true: under a roof."""
    roof = roof_of(plan.job.design, plan.ring.slabs)
    return roof.half_mm if roof else None


def drawn_side(plan: Plan) -> int:
    """The side that is cut through: not the one that a lid slides out over."""
    cover = plan.job.design.section.cover
    if isinstance(cover, Sliding) and cover.side == 0:
        return 1
    roof = roof_of(plan.job.design, plan.ring.slabs)
    return roof.under_eaves[0] if roof else 0


def lid_across(plan: Plan, faces: tuple[float, float], lean: float) -> list[Shape]:
    """The lid as it lies in or on the rim; `faces` are the walls' outer faces at their feet."""
    cover, height = plan.job.design.section.cover, plan.job.design.form.height_mm
    (left, right), out = faces, lean * height
    if isinstance(cover, Gable):
        roof = roof_of(plan.job.design, plan.ring.slabs)
        return _roof(cover, roof, left, right) if roof else []
    shapes: list[Shape] = []
    if isinstance(cover, LiftOff):
        slab = plan.ring.slabs[drawn_side(plan)]
        inner = slab.level_thickness_mm - out + max(0.0, lean * cover.plug_mm) + cover.fit_mm
        plug = box(left + inner, height - cover.plug_mm, right - inner, height)
        shapes.append(Path(plug, "panel", "solid", weight=1.0))
    if isinstance(cover, Split):
        at = left + (right - left) * _SPLIT_AT
        gap = max(cover.gap_mm, (right - left) * 0.006)
        body = box(at, height, at + gap, height + cover.thickness_mm)
        shapes.append(Path(body, "blade", "solid", weight=0.6))
        shapes.append(Label((at, height + cover.thickness_mm), "fixed", "quiet", 9.0, shift=(30.0, 10.0)))
    return shapes


def _roof(cover: Gable, roof: Roof, left: float, right: float) -> list[Shape]:
    """Both leaves on the slopes, mitered at the ridge, and the gable that is seen behind."""
    pitch = math.radians(cover.pitch_deg)
    cos, sin, tan = math.cos(pitch), math.sin(pitch), math.tan(pitch)
    middle, thick = (left + right) / 2, cover.thickness_mm
    ridge = roof.eaves_mm + roof.half_mm * tan
    behind = ((left, roof.eaves_mm), (right, roof.eaves_mm), (middle, ridge))
    shapes: list[Shape] = [Path(behind, "inside", "tint", weight=0.8)]
    for way in (-1.0, 1.0):
        far = roof.half_mm + cover.overhang_mm
        top: Point = (middle + way * far, ridge + thick / cos - far * tan)
        foot: Point = (top[0] - way * thick * sin, top[1] - thick * cos)
        leaf = ((middle, ridge), foot, top, (middle, ridge + thick / cos))
        shapes.append(Path(leaf, "panel", "solid", weight=1.2))
    return shapes


def lid_sizes(plan: Plan, right: float) -> list[Tag]:
    """The sizes of the lid that are decided, one under the other beside it."""
    cover, height = plan.job.design.section.cover, plan.job.design.form.height_mm
    if cover is None:
        return []
    rows = cover_fields.SHOWN[type(cover)]
    if insert_mm(plan.job) is not None:
        rows = (*rows, ("insert", cover_fields.INSERT_LENGTH), ("×", cover_fields.INSERT_WIDTH))
    return [
        Tag(field, (right, height), shift=(78.0, 18.0 - 26.0 * number), prefix=prefix)
        for number, (prefix, field) in enumerate(rows)
    ]


def applied_sizes(groove: GroovePlan, right: float, height: float) -> list[Tag]:
    """What is decided of a bottom or top that is glued on flat."""
    own = fields.PANELS[groove.panel]
    bottom = groove.panel == "bottom"
    at = (right, 0.0 if bottom else height)
    way = -1.0 if bottom else 1.0
    return [
        Tag(own.thickness, at, shift=(84.0, 8.0 * way), prefix="panel"),
        Tag(own.overhang, at, shift=(84.0, 34.0 * way), prefix="stands out"),
    ]


def false_floor_across(plan: Plan, faces: tuple[float, float], lean: float) -> tuple[list[Shape], list[Tag]]:
    """The loose board on its strips, and the room hidden under it."""
    own = plan.job.design.section.false_floor
    if own is None:
        return [], []
    foot, thick = plan.job.design.bare_floor_mm, plan.ring.slabs[drawn_side(plan)].level_thickness_mm
    top = foot + own.height_mm
    shapes: list[Shape] = []
    (left, right) = faces
    for face, way in ((left, 1.0), (right, -1.0)):
        near = [face + way * (thick - lean * z) for z in (foot, top)]
        inner = max(near) if way > 0 else min(near)
        strip = (
            (near[0], foot),
            (near[1], top),
            (inner + way * own.ledge_mm, top),
            (inner + way * own.ledge_mm, foot),
        )
        shapes.append(Path(strip, "wood", "hatch", weight=1.0))
    inset = thick - lean * top + own.play_mm
    shapes.append(
        Path(box(left + inset, top, right - inset, top + own.thickness_mm), "panel", "solid", weight=1.2)
    )
    at = (left + inset + (right - left) * 0.12, (foot + top) / 2)
    tags = [
        Tag(cover_fields.FALSE_HEIGHT, at, shift=(40.0, 0.0), prefix="hidden"),
        Tag(
            cover_fields.FALSE_THICKNESS, (at[0], top + own.thickness_mm), shift=(40.0, 15.0), prefix="floor"
        ),
    ]
    return shapes, tags
