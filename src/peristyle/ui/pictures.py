"""Small pictures of what can be chosen, drawn by us in ink on nothing, so that they suit either theme."""

import math
from collections.abc import Sequence
from functools import cache
from typing import Final

from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QColor, QIcon, QPainter, QPen, QPixmap, QPolygonF

_PX: Final = 20
_INK: Final = QColor("#7a7468")  # reads on pale and dark alike
_WOOD: Final = QColor("#c9a97a")

Points = Sequence[tuple[float, float]]


def _polygon(sides: int, radius: float = 0.46) -> list[tuple[float, float]]:
    turn = math.pi / 2 + math.pi / sides
    return [
        (
            0.5 + radius * math.cos(turn + 2 * math.pi * k / sides),
            0.5 + radius * math.sin(turn + 2 * math.pi * k / sides),
        )
        for k in range(sides)
    ]


def _drawn(areas: Sequence[Points], lines: Sequence[Points] = ()) -> QIcon:
    """Filled areas, then lines, in a square of side 1 with y down."""
    pixmap = QPixmap(2 * _PX, 2 * _PX)
    pixmap.setDevicePixelRatio(2.0)
    pixmap.fill(Qt.GlobalColor.transparent)
    painter = QPainter(pixmap)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setPen(QPen(_INK, 1.3))
    painter.setBrush(_WOOD)
    for area in areas:
        painter.drawPolygon(QPolygonF([QPointF(x * _PX, y * _PX) for x, y in area]))
    for line in lines:
        painter.drawPolyline(QPolygonF([QPointF(x * _PX, y * _PX) for x, y in line]))
    painter.end()
    return QIcon(pixmap)


@cache
def shape_picture(kind: str) -> QIcon:
    """The ring from above."""
    shapes: dict[str, Points] = {
        "rectangle": ((0.06, 0.2), (0.94, 0.2), (0.94, 0.8), (0.06, 0.8)),
        "regular": _polygon(6),
        "alternating": ((0.3, 0.06), (0.7, 0.06), (0.94, 0.3), (0.94, 0.7), (0.7, 0.94), (0.3, 0.94), (0.06, 0.7),
                        (0.06, 0.3)),
        "house": ((0.14, 0.94), (0.14, 0.42), (0.5, 0.08), (0.86, 0.42), (0.86, 0.94)),
        "outline": ((0.1, 0.84), (0.06, 0.36), (0.44, 0.1), (0.92, 0.3), (0.78, 0.9)),
    }  # fmt: skip
    return _drawn([shapes.get(kind, shapes["rectangle"])])


@cache
def panel_picture(kind: str) -> QIcon:
    """A panel in one piece, of two leaves that mirror each other, a pie of triangles, a ring of trapezoids."""
    outer = _polygon(8)
    if kind == "leaves":
        return _drawn(
            [((0.1, 0.16), (0.9, 0.16), (0.9, 0.84), (0.1, 0.84))],
            [((0.1, 0.5), (0.9, 0.5)), ((0.2, 0.4), (0.8, 0.26)), ((0.2, 0.6), (0.8, 0.74))],
        )
    if kind == "strips":
        lines = [((0.1, y), (0.9, y)) for y in (0.39, 0.61)]
        return _drawn([((0.1, 0.16), (0.9, 0.16), (0.9, 0.84), (0.1, 0.84))], lines)
    if kind == "pie":
        return _drawn([outer], [((0.5, 0.5), corner) for corner in outer])
    if kind == "ring":
        inner = _polygon(8, 0.2)
        return _drawn([outer], [*zip(inner, outer, strict=True), [*inner, inner[0]]])
    return _drawn(
        [((0.1, 0.16), (0.9, 0.16), (0.9, 0.84), (0.1, 0.84))],
        [((0.2, 0.4), (0.8, 0.36)), ((0.2, 0.64), (0.8, 0.6))],
    )


@cache
def groove_picture(kind: str) -> QIcon:
    """A leaning wall cut through, its groove, and the level panel's edge in it."""
    wall = ((0.02, 0.06), (0.34, 0.94), (0.66, 0.94), (0.34, 0.06))
    panels = {
        "level": ((0.98, 0.42), (0.32, 0.42), (0.32, 0.62), (0.98, 0.62)),
        "square": ((0.98, 0.44), (0.36, 0.44), (0.36, 0.6), (0.98, 0.6)),
        "tongue": ((0.98, 0.36), (0.5, 0.36), (0.52, 0.46), (0.34, 0.54), (0.37, 0.64), (0.58, 0.58), (0.6, 0.66),
                   (0.98, 0.66)),
    }  # fmt: skip
    grooves = [((0.46, 0.36), (0.3, 0.42), (0.38, 0.7), (0.56, 0.64))] if kind == "square" else []
    return _drawn([wall, panels.get(kind, panels["level"])], grooves)


@cache
def seat_picture(kind: str) -> QIcon:
    """A wall's foot cut through, and the panel in its groove, in its rabbet, or no panel."""
    foot = 0.8 if kind == "applied" else 0.94
    wall = ((0.1, 0.06), (0.1, foot), (0.42, foot), (0.42, 0.06))
    panels = {
        "groove": [((0.96, 0.62), (0.3, 0.62), (0.3, 0.78), (0.96, 0.78))],
        "rabbet": [((0.96, 0.78), (0.28, 0.78), (0.28, 0.94), (0.96, 0.94))],
        "applied": [((0.96, 0.82), (0.1, 0.82), (0.1, 0.98), (0.96, 0.98))],
    }
    return _drawn([wall, *panels.get(kind, [])], [])


@cache
def lid_picture(kind: str) -> QIcon:
    """The box cut through at its rim, and the lid of a kind on it, in it, or over it."""

    def flat(x0: float, x1: float, top: float, foot: float) -> Points:
        return ((x0, top), (x1, top), (x1, foot), (x0, foot))

    lids: dict[str, list[Points]] = {
        "sawn": [flat(0.1, 0.9, 0.12, 0.3)],
        "lip": [flat(0.1, 0.9, 0.08, 0.22), flat(0.26, 0.34, 0.26, 0.96), flat(0.66, 0.74, 0.26, 0.96)],
        "lift_off": [flat(0.04, 0.96, 0.22, 0.38), flat(0.26, 0.74, 0.38, 0.5)],
        "drop_in": [flat(0.17, 0.83, 0.4, 0.54)],
        "insert": [flat(0.17, 0.83, 0.4, 0.48)],
        "flat": [flat(0.02, 0.98, 0.24, 0.38)],
        "split": [flat(0.02, 0.56, 0.24, 0.38), flat(0.62, 0.98, 0.24, 0.38)],
        "sliding": [flat(0.16, 1.0, 0.5, 0.6)],
        "gable": [
            ((0.0, 0.42), (0.5, 0.06), (0.5, 0.2), (0.06, 0.5)),
            ((1.0, 0.42), (0.5, 0.06), (0.5, 0.2), (0.94, 0.5)),
        ],
    }
    return _drawn([flat(0.1, 0.24, 0.4, 0.96), flat(0.76, 0.9, 0.4, 0.96), *lids.get(kind, [])])


@cache
def cut_picture(kind: str) -> QIcon:
    """Two neighbours on the board, seen from its edge, and the cuts between them; leaves; or strips upright."""
    left, right = (
        ((0.02, 0.3), (0.44, 0.3), (0.26, 0.76), (0.02, 0.76)),
        ((0.56, 0.3), (0.98, 0.3), (0.98, 0.76), (0.74, 0.76)),
    )
    match kind:
        case "square_first":
            return _drawn([left, right], [((0.5, 0.12), (0.5, 0.9))])
        case "bevel_direct":
            return _drawn([left, right], [((0.54, 0.12), (0.22, 0.92)), ((0.46, 0.12), (0.78, 0.92))])
        case "flip_shared":
            nested = ((0.5, 0.3), (0.98, 0.3), (0.98, 0.76), (0.32, 0.76))
            return _drawn([left, nested], [((0.54, 0.12), (0.22, 0.92))])
        case "book":
            leaves = (
                ((0.06, 0.7), (0.5, 0.86), (0.5, 0.74), (0.06, 0.58)),
                ((0.94, 0.7), (0.5, 0.86), (0.5, 0.74), (0.94, 0.58)),
            )
            return _drawn(list(leaves), [((0.06, 0.3), (0.94, 0.3))])
        case "upright":
            return _drawn([((0.1, 0.14), (0.9, 0.14), (0.9, 0.86), (0.1, 0.86))],
                          [((0.37, 0.14), (0.37, 0.86)), ((0.63, 0.14), (0.63, 0.86))])  # fmt: skip
        case _:
            apart = (
                ((0.04, 0.34), (0.3, 0.34), (0.3, 0.7), (0.04, 0.7)),
                ((0.38, 0.24), (0.62, 0.24), (0.62, 0.6), (0.38, 0.6)),
                ((0.7, 0.4), (0.96, 0.4), (0.96, 0.76), (0.7, 0.76)),
            )
            return _drawn(list(apart), [])


_WALL: Final = ((0.06, 0.18), (0.94, 0.18), (0.94, 0.62), (0.06, 0.62))


@cache
def feet_picture(kind: str) -> QIcon:
    """The box from the front on its feet, or a corner of it from above."""
    left: dict[str, Points] = {
        "block": ((0.1, 0.62), (0.3, 0.62), (0.3, 0.84), (0.1, 0.84)),
        "mitered": ((0.06, 0.62), (0.36, 0.62), (0.26, 0.84), (0.06, 0.84)),
        "wedge": ((0.3, 0.62), (0.7, 0.62), (0.3, 0.82)),
    }
    own = left.get(kind)
    feet = [] if own is None else [own] if kind == "wedge" else [own, [(1.0 - x, y) for x, y in own]]
    return _drawn([_WALL, *feet])


@cache
def edge_picture(kind: str) -> QIcon:
    """The corner of a board cut through, its arris at the upper right."""
    turns = [k * math.pi / 16 for k in range(9)]
    profiles: dict[str, Points] = {
        "chamfer": ((0.5, 0.14), (0.86, 0.5)),
        "round_over": [(0.42 + 0.44 * math.sin(t), 0.58 - 0.44 * math.cos(t)) for t in turns],
        "cove": [(0.86 - 0.44 * math.cos(t), 0.14 + 0.44 * math.sin(t)) for t in turns],
        "ogee": [*((0.62 - 0.24 * math.cos(t), 0.14 + 0.24 * math.sin(t)) for t in turns),
                 *((0.62 + 0.24 * math.sin(t), 0.62 - 0.24 * math.cos(t)) for t in turns)],
    }  # fmt: skip
    arris: Points = ((0.86, 0.14),)
    return _drawn([((0.1, 0.9), (0.1, 0.14), *profiles.get(kind, arris), (0.86, 0.9))])


@cache
def opening_picture(kind: str) -> QIcon:
    """A side from outside with what is cut through it."""
    cuts: dict[str, Points] = {
        "hole": [
            (0.5 + 0.14 * math.cos(k * math.pi / 8), 0.4 + 0.14 * math.sin(k * math.pi / 8))
            for k in range(17)
        ],
        "slot": (
            (0.34, 0.32),
            (0.66, 0.32),
            (0.72, 0.4),
            (0.66, 0.48),
            (0.34, 0.48),
            (0.28, 0.4),
            (0.34, 0.32),
        ),
        "notch": [
            (0.5 + 0.2 * math.cos(k * math.pi / 8), 0.18 + 0.2 * math.sin(k * math.pi / 8)) for k in range(9)
        ],
    }
    return _drawn([_WALL], [cuts[kind]] if kind in cuts else [])


@cache
def key_picture(kind: str) -> QIcon:
    """A corner from outside with what crosses it."""
    wall = ((0.08, 0.08), (0.92, 0.08), (0.92, 0.92), (0.08, 0.92))
    fold: Points = ((0.5, 0.08), (0.5, 0.92))
    lines: dict[str, list[Points]] = {
        "straight": [
            ((0.26, y), (0.74, y), (0.74, y + 0.12), (0.26, y + 0.12), (0.26, y)) for y in (0.24, 0.62)
        ],
        "veneer": [((0.26, 0.3), (0.74, 0.3)), ((0.26, 0.7), (0.74, 0.7))],
        "dovetail": [
            ((0.2, y), (0.5, y + 0.08), (0.8, y), (0.8, y + 0.3), (0.5, y + 0.22), (0.2, y + 0.3), (0.2, y))
            for y in (0.16, 0.54)
        ],
    }
    return _drawn([wall], [fold, *lines.get(kind, [])])
