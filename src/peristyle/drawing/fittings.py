"""Inlay and handle in the box cut through: where they are on top as they lie, with their sizes."""

from collections.abc import Sequence

from peristyle.core.outlines import box
from peristyle.core.planes import Point
from peristyle.drawing.shapes import Path, Shape, Tag
from peristyle.model import cover_fields
from peristyle.model.design import Handle
from peristyle.model.fields import Field
from peristyle.planning.plan import Plan

_APART = 108.0  # points from one size to the next
_SHARE = 0.34  # of the drawing's width that an inlay fills at the most: the middle is left out


def fittings_across(plan: Plan, faces: tuple[float, float], _lean: float) -> tuple[list[Shape], list[Tag]]:
    """What is set on the top, and the sizes of both in rows over the box; what is on the front has its sizes alone."""
    section = plan.job.design.section
    shapes: list[Shape] = []
    tags: list[Tag] = []
    top, middle = _top_mm(plan), (faces[0] + faces[1]) / 2
    up = 52.0
    if section.inlay is not None:
        if section.inlay.on == "top":
            half = min(section.inlay.length_mm / 2, (faces[1] - faces[0]) * _SHARE / 2)
            shapes.append(
                Path(box(middle - half, top - section.inlay.pocket_mm, middle + half, top), "key", "solid")
            )
        rows = (
            cover_fields.INLAY
            if not section.inlay.round
            else (cover_fields.INLAY[0], *cover_fields.INLAY[2:])
        )
        tags += _row(rows, (faces[0], top), up)
        up += 32.0
    if section.handle is not None:
        if section.handle.on == "top":
            shapes += _handle(plan, section.handle, middle, top)
        tags += _row(cover_fields.HANDLE[section.handle.kind], (faces[0], top), up)
    return shapes, tags


def _top_mm(plan: Plan) -> float:
    """How high the upper face of the lid or the top lies."""
    levels = [
        groove.rests_mm + panel.thickness_mm
        for panel in plan.section.panels
        if panel.name != "bottom" and (groove := plan.section.groove(panel.name)) is not None
    ]
    return max(levels, default=plan.job.design.form.height_mm)


def _handle(plan: Plan, own: Handle, x: float, top: float) -> list[Shape]:
    for piece in plan.pieces:
        if piece.part == "handle":
            high, foot = piece.numbers["high_mm"], piece.numbers["foot_mm"]
            left = x - foot / 2
            return [Path(((left, top), (left + foot, top), (left, top + high)), "wood", "hatch", weight=1.0)]
    size = own.bites_mm
    half = own.apart_mm / 2 if own.kind == "pull" else size / 2
    body: tuple[Point, ...] = (
        (x - half - size * 0.4, top), (x + half + size * 0.4, top), (x + half + size * 0.2, top + size),
        (x - half - size * 0.2, top + size),
    )  # fmt: skip
    return [Path(body, "key", "tint", weight=1.0)] if own.kind != "wedge" else []


def _row(rows: Sequence[tuple[str, Field]], at: Point, up: float) -> list[Tag]:
    """Sizes side by side over the wall, from left to right."""
    return [Tag(field, at, shift=(_APART * n, up), prefix=prefix) for n, (prefix, field) in enumerate(rows)]
