"""Faces of a solid painted from back to front: wood on what shows, plain colours on the rest."""

import math
from collections.abc import Callable
from time import monotonic
from typing import Final

from PySide6.QtCore import QLineF, Qt
from PySide6.QtGui import QBrush, QColor, QPainter, QPen, QPolygonF

from peristyle.core.planes import Point
from peristyle.drawing.apart import FaceKind
from peristyle.drawing.solid import Face
from peristyle.ui.painting import Planes, key_colour, key_grain, texture

_MARKS: Final = ("lid_line", "key", "opening")  # lie on another face, without an outline of their own
_SHADED: Final = ("inside", "floor", "divider", "thing", "rim")


def _colours(plain: QColor) -> dict[FaceKind, QColor]:
    """What each kind of face is painted in, of wood of one colour."""
    pale = plain.lighter(118)
    return {
        "inside": plain.lighter(106), "rim": plain.lighter(107), "floor": plain.lighter(112),
        "key": key_colour(plain), "lid_line": QColor(30, 20, 12, 190),
        "divider": plain.lighter(120), "opening": QColor(38, 26, 16), "thing": QColor("#c9c4ba"), "show": plain,
        "top": QColor(pale.red(), pale.green(), pale.blue(), 170),
    }  # fmt: skip


def _outlined(painter: QPainter, polygon: QPolygonF, lines: tuple[bool, ...]) -> None:
    """The edges of a face that are its own."""
    if all(lines):
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPolygon(polygon)
        return
    count = polygon.count()
    painter.drawLines([QLineF(polygon.at(i), polygon.at((i + 1) % count)) for i in range(count) if lines[i]])


class Faces:
    """Faces where they stand on the paper, painted all at once or some at a time."""

    def __init__(
        self, faces: list[Face], place: Callable[[tuple[Point, ...]], QPolygonF], scale: float, planes: Planes,
        plain: QColor,
    ) -> None:  # fmt: skip
        self.polygons = [(face, place(face.points)) for face in faces]
        self._place, self._scale, self._planes, self._plain = place, scale, planes, plain
        self._wholes: dict[tuple[Point, ...], QPolygonF] = {}
        self._painted = 0

    def paint(self, painter: QPainter, seconds: float = math.inf) -> bool:
        """Go on painting for so long at most; whether all of them are painted."""
        fine = bool(painter.renderHints() & QPainter.RenderHint.Antialiasing)
        # A translucent hairline without smoothing takes ten times as long as a plain one.
        joint = QPen(QColor(30, 20, 12, 130), 0.9) if fine else QPen(self._plain.darker(190), 1.0)
        colours, ends = _colours(self._plain), monotonic() + seconds
        for face, polygon in self.polygons[self._painted :]:
            self._face(painter, face, polygon, joint, colours, fine=fine)
            self._painted += 1
            if monotonic() >= ends:
                break
        return self._painted == len(self.polygons)

    def _worn(self, face: Face, polygon: QPolygonF, *, fine: bool) -> QBrush | None:
        """The wood that a face wears; None for those that are painted in one colour."""
        # Inside faces wear the board's back, once nothing moves.
        if len(face.source) < 4 or not (face.kind == "show" or fine):
            return None
        picture = self._planes(face.plane, face.board)
        if picture is None:
            return None
        whole = polygon
        if face.whole is not face.points:
            whole = self._wholes.get(face.whole) or self._place(face.whole)
            self._wholes[face.whole] = whole
        return texture(picture, face.source, whole, self._scale, fine=fine)

    def _face(
        self, painter: QPainter, face: Face, polygon: QPolygonF, joint: QPen, colours: dict[FaceKind, QColor], *,
        fine: bool,
    ) -> None:  # fmt: skip
        shade = round(255 * (1 - face.light))
        bare = QPen(Qt.PenStyle.NoPen)
        worn = self._worn(face, polygon, fine=fine)
        base: QColor | QBrush = colours[face.kind]
        if worn is not None:
            base = worn
        elif face.kind in _SHADED:
            base = colours[face.kind].darker(100 + shade)
        cut = not all(face.lines)
        edged = face.kind not in _MARKS
        if not fine and not cut:  # one stroke for the edge and the shade or the colour: half the time
            if worn is not None:
                painter.setPen(bare)
                painter.setBrush(base)
                painter.drawPolygon(polygon)
                base = QColor(20, 12, 6, shade)
            painter.setPen(joint if edged else bare)
            painter.setBrush(base)
            painter.drawPolygon(polygon)
            return
        # The parts of a divided face meet without a hairline when each is drawn a little over its edge.
        painter.setPen(QPen(QBrush(base), 0.8) if cut and fine else bare)
        painter.setBrush(base)
        painter.drawPolygon(polygon)
        if worn is not None:
            painter.setPen(bare)
            painter.setBrush(QColor(20, 12, 6, shade))
            painter.drawPolygon(polygon)
        if face.kind == "key" and fine:
            key_grain(painter, polygon, colours["key"])
        if edged:
            painter.setPen(joint)
            _outlined(painter, polygon, face.lines)
