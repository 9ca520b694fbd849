"""A drawing onto a painter."""

import math

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QBrush, QColor, QFont, QPainter, QPen, QPolygonF, QTransform

from peristyle.core.planes import Point
from peristyle.drawing.shapes import Drawing, Grain, Label, Path, Pick
from peristyle.ui.theme import Theme
from peristyle.ui.wood import WoodPicture

POINT_PX = 4 / 3


class Fit:
    """Millimetres to pixels: one scale for both ways, y turned up."""

    def __init__(self, scale: float, x_px: float, y_px: float) -> None:
        self.scale, self._x, self._y = scale, x_px, y_px

    @classmethod
    def into(cls, bounds: tuple[float, float, float, float], area: QRectF) -> "Fit":
        """The drawing's bounds as large as they go in `area`, centred."""
        x0, y0, x1, y1 = bounds
        wide, high = max(x1 - x0, 1e-6), max(y1 - y0, 1e-6)
        scale = max(1e-6, min(area.width() / wide, area.height() / high))
        return cls(
            scale,
            area.center().x() - (x0 + x1) / 2 * scale,
            area.center().y() + (y0 + y1) / 2 * scale,
        )

    def px(self, point: Point) -> QPointF:
        """Where a point of the drawing is on the screen."""
        return QPointF(self._x + point[0] * self.scale, self._y - point[1] * self.scale)

    def mm(self, at: QPointF) -> Point:
        """Which point of the drawing lies under the pointer."""
        return ((at.x() - self._x) / self.scale, (self._y - at.y()) / self.scale)

    def polygon(self, points: tuple[Point, ...]) -> QPolygonF:
        """Points as a polygon on the screen."""
        return QPolygonF([self.px(p) for p in points])


def paint(
    painter: QPainter,
    drawing: Drawing,
    fit: Fit,
    theme: Theme,
    wood: WoodPicture | None,
    plain: QColor,
    chosen: Pick | None,
) -> None:
    """Paint every shape; what is chosen gets a heavy outline in the maker's hue last of all."""
    marked: list[QPolygonF] = []
    for shape in drawing.shapes:
        if isinstance(shape, Path):
            _path(painter, shape, fit, theme, plain)
            if chosen is not None and shape.pick == chosen and len(shape.points) > 1:
                marked.append(fit.polygon(shape.points))
        elif isinstance(shape, Grain):
            _grain(painter, shape, fit, wood, plain)
            if chosen is not None and shape.pick == chosen:
                marked.append(fit.polygon(shape.points))
        else:
            _label(painter, shape, fit, theme)
    if marked:
        pen = QPen(theme.decided, 2.6)
        pen.setJoinStyle(Qt.PenJoinStyle.RoundJoin)
        painter.setPen(pen)
        tint = QColor(theme.decided)
        tint.setAlpha(36)
        painter.setBrush(tint)
        for polygon in marked:
            painter.drawPolygon(polygon)


def key_colour(plain: QColor) -> QColor:
    """Keys are of contrasting wood: pale in dark boards, dark in pale ones."""
    return QColor("#ecdcb9") if plain.lightness() < 110 else QColor("#4d3322")


def _path(painter: QPainter, shape: Path, fit: Fit, theme: Theme, plain: QColor) -> None:
    if shape.weight > 0:
        pen = QPen(theme.of(shape.role), shape.weight)
        if shape.dash:
            pen.setStyle(Qt.PenStyle.CustomDashLine)
            pen.setDashPattern([5.0, 3.5])
        pen.setCapStyle(Qt.PenCapStyle.FlatCap)
        painter.setPen(pen)
    else:
        painter.setPen(Qt.PenStyle.NoPen)
    polygon = fit.polygon(shape.points)
    if not shape.closed:
        painter.drawPolyline(polygon)
        return
    if shape.fill == "none":
        painter.setBrush(Qt.BrushStyle.NoBrush)
    elif shape.fill == "hatch":
        base = QColor(theme.filling(shape.role))
        if shape.role != "wood":
            base.setAlpha(34)
        painter.setBrush(base)
        painter.drawPolygon(polygon)
        lines = QColor(theme.of(shape.role))
        lines.setAlpha(60 if shape.role == "wood" else 120)
        painter.setBrush(QBrush(lines, Qt.BrushStyle.BDiagPattern))
    else:
        colour = key_colour(plain) if shape.role == "key" else QColor(theme.filling(shape.role))
        if shape.fill == "tint":
            colour.setAlpha(150 if shape.role == "paper" else 60)
        painter.setBrush(colour)
    painter.drawPolygon(polygon)


def texture(
    wood: WoodPicture, source: tuple[Point, ...], target: QPolygonF, shown_px_per_mm: float
) -> QBrush | None:
    """A brush that lays a stretch of the board on a quadrilateral; None where it is seen edge on."""
    image, scale = wood.level(shown_px_per_mm)
    high = wood.width_mm
    quad = QPolygonF([QPointF(x * scale, (high - y) * scale) for x, y in source])
    transform = QTransform()
    # PySide returns the transform, or None where the quadrilateral is flat.
    made = QTransform.quadToQuad(quad, target)
    if made is None or not isinstance(made, QTransform):
        return None
    transform = made
    brush = QBrush(image)
    brush.setTransform(transform)
    return brush


def _grain(
    painter: QPainter, shape: Grain, fit: Fit, wood: WoodPicture | None, plain: QColor
) -> None:
    polygon = fit.polygon(shape.points)
    brush = texture(wood, shape.source, polygon, fit.scale) if wood else None
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(brush if brush is not None else plain)
    painter.drawPolygon(polygon)


def label_font(size: float, bold: bool, base: QFont) -> QFont:
    """The shipped typeface at a size in points."""
    font = QFont(base)
    font.setPixelSize(max(7, round(size * POINT_PX)))
    font.setWeight(QFont.Weight.DemiBold if bold else QFont.Weight.Normal)
    return font


def _label(painter: QPainter, shape: Label, fit: Fit, theme: Theme) -> None:
    painter.setFont(label_font(shape.size, shape.bold, painter.font()))
    metrics = painter.fontMetrics()
    wide = metrics.horizontalAdvance(shape.text)
    at = fit.px(shape.at) + QPointF(shape.shift[0] * POINT_PX, -shape.shift[1] * POINT_PX)
    left = {"middle": -wide / 2, "left": 0.0, "right": -float(wide)}[shape.anchor]
    base = (metrics.ascent() - metrics.descent()) / 2
    turned = abs(shape.turn_deg) > 1e-9
    if turned:
        painter.save()
        painter.translate(at)
        painter.rotate(-shape.turn_deg)
        at = QPointF(0.0, 0.0)
    place = QPointF(at.x() + left, at.y() + base)
    if shape.role == "paper":
        # On wood: a dark ground under pale letters reads on any board.
        ground = QColor(20, 16, 12, 150)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(ground)
        painter.drawRoundedRect(
            QRectF(
                place.x() - 6, at.y() - metrics.height() / 2 - 1, wide + 12, metrics.height() + 2
            ),
            4,
            4,
        )
        painter.setPen(QColor(250, 248, 244))
    else:
        painter.setPen(theme.of(shape.role))
    painter.drawText(place, shape.text)
    if turned:
        painter.restore()


def inside(points: QPolygonF, at: QPointF, closed: bool, slack: float) -> bool:
    """Whether the pointer is in a polygon, or near a line."""
    if closed and points.count() > 2 and points.containsPoint(at, Qt.FillRule.OddEvenFill):
        return True
    if closed and points.count() > 2:
        return False
    return any(
        _near(points.at(i), points.at(i + 1), at) <= slack for i in range(points.count() - 1)
    )


def _near(a: QPointF, b: QPointF, p: QPointF) -> float:
    dx, dy = b.x() - a.x(), b.y() - a.y()
    run = dx * dx + dy * dy
    part = (
        0.0 if run == 0 else max(0.0, min(1.0, ((p.x() - a.x()) * dx + (p.y() - a.y()) * dy) / run))
    )
    return math.hypot(p.x() - a.x() - part * dx, p.y() - a.y() - part * dy)


def picked(drawing: Drawing, fit: Fit, at: QPointF) -> Pick | None:
    """The topmost shape with a meaning under the pointer; lines win over areas."""
    area: Pick | None = None
    for shape in reversed(drawing.shapes):
        if isinstance(shape, Label) or shape.pick is None:
            continue
        closed = isinstance(shape, Grain) or shape.closed
        if inside(fit.polygon(shape.points), at, closed, 7.0):
            if not closed or (isinstance(shape, Path) and shape.pick.kind in ("corner", "key")):
                return shape.pick
            area = area or shape.pick
    return area
