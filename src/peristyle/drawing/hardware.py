"""Hardware in the box cut through: hinges at the right wall, magnets and latch at the left, brackets at both; their
sizes in rows under the box.
"""

import math
from collections.abc import Sequence

from peristyle.core.outlines import box
from peristyle.core.planes import Point
from peristyle.drawing.covers import drawn_side
from peristyle.drawing.shapes import Path, Shape, Tag
from peristyle.model import hardware_fields
from peristyle.model.design import Brackets, Gable, Hinges, Latch, Magnets, Split
from peristyle.model.fields import Field
from peristyle.planning.plan import Plan
from peristyle.planning.section.hardware import Rims, rims_of

_FIRST = -32.0  # points under the box where the first row of sizes stands
_ROW = 26.0  # from one row to the next
_APART = 84.0  # from one size to the next
_BESIDE = 4  # sizes in a row: as many as a narrow window has room for
_PLATE_MM = 1.2  # how thick a plate is drawn


def rows_of_sizes(plan: Plan) -> int:
    """How many rows of hardware's sizes stand under the box."""
    return len(_rows(plan))


def hardware_across(plan: Plan, faces: tuple[float, float], lean: float) -> tuple[list[Shape], list[Tag]]:
    """Where it lies in the walls, or on them, and its sizes."""
    section, rims = plan.job.design.section, rims_of(plan.job.design, plan.section)
    thick = plan.ring.slabs[drawn_side(plan)].level_thickness_mm
    shapes: list[Shape] = []
    if rims is not None and section.hinges is not None:
        shapes += _hinges(section.hinges, rims, faces[1], lean, thick)
    if rims is not None and section.magnets is not None:
        shapes += _magnets(section.magnets, rims, faces[0], lean, thick)
    if rims is not None and section.latch is not None and not rims.board_mm:
        shapes += _latch(section.latch, rims, faces[0], lean)
    if section.brackets is not None:
        shapes += _brackets(section.brackets, plan.job.design.form.height_mm, faces, lean)
    if section.hinges is not None and isinstance(section.cover, Gable):
        ridge = plan.section.finished_mm + section.hinges.out_mm
        shapes.append(_round(((faces[0] + faces[1]) / 2, ridge), section.hinges.barrel_mm / 2))
    tags: list[Tag] = []
    for number, row in enumerate(_rows(plan)):
        tags += _row(row, (faces[0], 0.0), _FIRST - _ROW * number)
    return shapes, tags


def _rows(plan: Plan) -> list[Sequence[tuple[str, Field]]]:
    section, rims = plan.job.design.section, rims_of(plan.job.design, plan.section)
    rows: list[Sequence[tuple[str, Field]]] = []
    if section.hinges is not None and (rims is not None or isinstance(section.cover, Split | Gable)):
        rows += hardware_fields.HINGES[section.hinges.pattern]
    if rims is not None and section.magnets is not None:
        rows.append(hardware_fields.MAGNETS)
    if section.latch is not None:
        rows.append(hardware_fields.LATCH)
    if section.brackets is not None:
        rows.append(hardware_fields.BRACKETS)
    return [row[at : at + _BESIDE] for row in rows for at in range(0, len(row), _BESIDE)]


def _hinges(own: Hinges, rims: Rims, right: float, lean: float, thick: float) -> list[Shape]:
    """Leaves in their mortises and the barrel; or a bore with the bevel behind it."""
    low, high = rims.body_mm, rims.lid_mm
    face, ways = right + lean * low, ((low, -1.0), (high, 1.0))
    shapes: list[Shape] = []
    if own.pattern == "barrel":
        axis = face - own.in_mm
        for level, way in ways:
            edge = right + lean * level
            back = (
                (axis, level),
                (edge, level),
                (edge + lean * way * (edge - axis), level + way * (edge - axis)),
            )
            shapes.append(Path(back, "paper", "solid"))
            ends = sorted((level, level + way * own.deep_mm))
            bore = box(axis - own.barrel_mm / 2, ends[0], axis + own.barrel_mm / 2, ends[1])
            shapes.append(Path(bore, "key", "solid", weight=0.8))
        return shapes
    inner, outer = face - (own.leaf_mm - own.out_mm), face + own.out_mm
    for level, way in ways:
        ends = sorted((level, level + way * own.thick_mm))
        shapes.append(Path(box(inner, ends[0], outer, ends[1]), "key", "solid", weight=0.8))
    return [*shapes, _round((outer, (low + high) / 2), own.barrel_mm / 2)]


def _round(middle: Point, radius: float) -> Path:
    """A barrel on its end."""
    turns = [math.tau * k / 24 for k in range(24)]
    around = tuple((middle[0] + radius * math.cos(t), middle[1] + radius * math.sin(t)) for t in turns)
    return Path(around, "key", "solid", weight=1.0)


def _magnets(own: Magnets, rims: Rims, left: float, lean: float, thick: float) -> list[Shape]:
    at = left - lean * rims.body_mm + thick / 2
    shapes: list[Shape] = []
    for level, way in ((rims.body_mm, -1.0), (rims.lid_mm, 1.0)):
        ends = sorted((level + way * own.under_mm, level + way * (own.under_mm + own.thick_mm)))
        pocket = box(at - own.wide_mm / 2, ends[0], at + own.wide_mm / 2, ends[1])
        shapes.append(Path(pocket, "decided", "solid", weight=0.8))
    return shapes


def _latch(own: Latch, rims: Rims, left: float, lean: float) -> list[Shape]:
    """Its two plates on the left face, with their screws."""
    shapes: list[Shape] = []
    for level, reach in ((rims.body_mm, -own.body_mm), (rims.lid_mm, own.lid_mm)):
        rise = reach / math.hypot(1.0, lean)
        shapes += _plate(
            (left, lean, -1.0), sorted((level, level + rise)), own.in_mm, own.screw_mm, own.bore_mm
        )
    return shapes


def _brackets(own: Brackets, height: float, faces: tuple[float, float], lean: float) -> list[Shape]:
    rise = own.high_mm / math.hypot(1.0, lean)
    rows = {"bottom": [(0.0, rise)], "top": [(height - rise, height)]}
    shapes: list[Shape] = []
    for low, high in (*rows["bottom"], *rows["top"]) if own.at == "both" else rows[own.at]:
        for face, way in zip(faces, (-1.0, 1.0), strict=True):
            shapes += _plate((face, lean, way), [low, high], own.in_mm, own.screw_mm, own.bore_mm)
    return shapes


def _plate(
    wall: tuple[float, float, float], levels: list[float], in_mm: float, screw: float, bore: float
) -> list[Shape]:
    """A plate on a face (its foot, its lean, which way is out) between two levels, and the screw halfway up it."""
    face, lean, way = wall

    def at(level: float, out: float) -> Point:
        return face + way * (lean * level + out), level

    low, high = levels
    outer = max(_PLATE_MM - in_mm, 0.2)
    plate = (at(low, -in_mm), at(low, outer), at(high, outer), at(high, -in_mm))
    middle = (low + high) / 2
    shaft = (
        at(middle - bore / 2, -in_mm), at(middle - bore / 2, -in_mm - screw), at(middle + bore / 2, -in_mm - screw),
        at(middle + bore / 2, -in_mm),
    )  # fmt: skip
    return [Path(shaft, "decided", "solid", weight=0.8), Path(plate, "key", "solid", weight=0.8)]


def _row(rows: Sequence[tuple[str, Field]], at: Point, down: float) -> list[Tag]:
    return [
        Tag(field, at, shift=(20.0 + _APART * number, down), prefix=prefix)
        for number, (prefix, field) in enumerate(rows)
    ]
