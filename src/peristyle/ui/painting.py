"""A drawing onto a painter."""

import math
from collections.abc import Callable
from functools import cache, lru_cache
from typing import Final

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QBrush, QColor, QFont, QFontMetricsF, QPainter, QPen, QPixmap, QPolygonF, QTransform

from peristyle.core.planes import Point
from peristyle.drawing.shapes import Drawing, Fill, Grain, Label, Path, Pick, Role
from peristyle.ui.placing import Box
from peristyle.ui.theme import DARK, LIGHT, Theme
from peristyle.ui.wood import WoodPicture
from peristyle.wood.looks import Surface

POINT_PX = 4 / 3
_MANY_POINTS: Final = 200  # polygons of more are kept from frame to frame
_GROUND_PX: Final = 6.0  # of dark ground on either side of letters on wood

Planes = Callable[[Surface, str], WoodPicture | None]  # pictures, by the plane and the board


def _polygon(points: tuple[Point, ...], scale: float, x_px: float, y_px: float) -> QPolygonF:
    return QPolygonF([QPointF(x_px + x * scale, y_px - y * scale) for x, y in points])


_kept_polygon = lru_cache(maxsize=16)(_polygon)  # a curve that comes by unchanged in every frame of a drag


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
            scale, area.center().x() - (x0 + x1) / 2 * scale, area.center().y() + (y0 + y1) / 2 * scale
        )

    @property
    def key(self) -> tuple[float, float, float]:
        """What tells one fit from another."""
        return (self.scale, self._x, self._y)

    def px(self, point: Point) -> QPointF:
        """Where a point of the drawing is on the screen."""
        return QPointF(self._x + point[0] * self.scale, self._y - point[1] * self.scale)

    def mm(self, at: QPointF) -> Point:
        """Which point of the drawing lies under the pointer."""
        return ((at.x() - self._x) / self.scale, (self._y - at.y()) / self.scale)

    def polygon(self, points: tuple[Point, ...]) -> QPolygonF:
        """Points as a polygon on the screen."""
        return (_kept_polygon if len(points) > _MANY_POINTS else _polygon)(points, *self.key)


class Layer:
    """A part of a drawing, kept as a picture as long as it comes by the same again."""

    def __init__(self) -> None:
        self._for: tuple[object, ...] | None = None
        self._kept = QPixmap()

    def paint(self, painter: QPainter, like: tuple[object, ...], draw: Callable[[QPainter], None]) -> None:
        """Paint with `draw`, or the kept picture, where `like` says that it would come out the same."""
        device = painter.device()
        ratio = device.devicePixelRatioF()
        wanted = (*like, device.width(), device.height(), ratio, painter.renderHints())
        if wanted != self._for:
            # What moves is painted straight; it is kept once it comes by a second time.
            self._for = wanted
            self._kept = QPixmap()
            draw(painter)
            return
        if self._kept.isNull():
            self._kept = QPixmap(round(device.width() * ratio), round(device.height() * ratio))
            self._kept.setDevicePixelRatio(ratio)
            self._kept.fill(Qt.GlobalColor.transparent)
            inner = QPainter(self._kept)
            try:
                inner.setRenderHints(painter.renderHints())
                inner.setFont(painter.font())
                draw(inner)
            finally:
                inner.end()
        painter.drawPixmap(0, 0, self._kept)


def paint(
    painter: QPainter,
    drawing: Drawing,
    fit: Fit,
    theme: Theme,
    wood: Planes,
    plain: QColor,
    chosen: Pick | None,
    layers: tuple[Layer, Layer],
) -> None:
    """Paint the wood, then every other shape; what is chosen gets a heavy outline last of all.

    `layers` keep the wood, and while anything moves all the rest.
    """
    fine = bool(painter.renderHints() & QPainter.RenderHint.Antialiasing)
    grains = [s for s in drawing.shapes if isinstance(s, Grain)]
    rest = [s for s in drawing.shapes if not isinstance(s, Grain)]

    def lay(on: QPainter) -> None:
        for grain in grains:
            _grain(on, grain, fit, wood, plain)

    def draw(on: QPainter) -> None:
        for shape in rest:
            if isinstance(shape, Path):
                _path(on, shape, fit, theme, plain, fine=fine)
            else:
                _label(on, shape, fit, theme)

    seen = tuple(id(wood(*one)) for one in dict.fromkeys((g.plane, g.board) for g in grains))
    layers[0].paint(painter, (grains, fit.key, seen, plain.rgb()), lay)
    if fine:
        draw(painter)  # letters are sharper on the ground they stand on
    else:
        layers[1].paint(painter, (rest, fit.key, theme.dark, plain.rgb()), draw)
    if chosen is not None:
        _mark(painter, drawing, fit, theme, chosen)


def _mark(painter: QPainter, drawing: Drawing, fit: Fit, theme: Theme, chosen: Pick) -> None:
    pen = QPen(theme.decided, 2.6)
    pen.setJoinStyle(Qt.PenJoinStyle.RoundJoin)
    painter.setPen(pen)
    tint = QColor(theme.decided)
    tint.setAlpha(36)
    painter.setBrush(tint)
    for shape in drawing.shapes:
        if shape.pick == chosen and not isinstance(shape, Label) and len(shape.points) > 1:
            painter.drawPolygon(fit.polygon(shape.points))


@cache
def _pen(rgb: int, weight: float, dash: bool) -> QPen:
    pen = QPen(QColor(rgb), weight)
    if dash:
        pen.setStyle(Qt.PenStyle.CustomDashLine)
        pen.setDashPattern([5.0, 3.5])
    pen.setCapStyle(Qt.PenCapStyle.FlatCap)
    return pen


def key_colour(plain: QColor) -> QColor:
    """Keys are of contrasting wood: pale in dark boards, dark in pale ones."""
    return QColor("#ecdcb9") if plain.lightness() < 110 else QColor("#4d3322")


def text_width(text: str, size: float, bold: bool, base: QFont) -> float:
    """How wide a text in the typeface of `base` is, in pixels."""
    return _advance(base.family(), size, bold, text)


@lru_cache(maxsize=400)
def _tools(
    dark: bool, plain: int, role: Role, fill: Fill, weight: float, dash: bool
) -> tuple[QPen | Qt.PenStyle, tuple[QBrush | Qt.BrushStyle, ...]]:
    """The pen of a shape, and the brushes that fill it one after the other. `plain` is the colour of the wood."""
    theme = DARK if dark else LIGHT
    pen = _pen(theme.of(role).rgb(), weight, dash) if weight > 0 else Qt.PenStyle.NoPen
    if fill == "none":
        return pen, (Qt.BrushStyle.NoBrush,)
    if fill == "hatch":
        base = QColor(theme.filling(role))
        if role != "wood":
            base.setAlpha(34)
        lines = QColor(theme.of(role))
        lines.setAlpha(60 if role == "wood" else 120)
        return pen, (QBrush(base), QBrush(lines, Qt.BrushStyle.BDiagPattern))
    colour = key_colour(QColor.fromRgb(plain)) if role == "key" else QColor(theme.filling(role))
    if fill == "tint":
        colour.setAlpha(150 if role == "paper" else 60)
    return pen, (QBrush(colour),)


def _path(painter: QPainter, shape: Path, fit: Fit, theme: Theme, plain: QColor, *, fine: bool) -> None:
    if shape.weight == 0 and shape.fill == "none":
        return  # there only to be picked
    weight = shape.weight
    if weight > 0 and not fine:
        weight = max(1.0, weight)  # hairlines are slow unsmoothed
    pen, brushes = _tools(theme.dark, plain.rgb(), shape.role, shape.fill, weight, shape.dash)
    painter.setPen(pen)
    polygon = fit.polygon(shape.points)
    if not shape.closed:
        painter.drawPolyline(polygon)
        return
    for brush in brushes:
        painter.setBrush(brush)
        painter.drawPolygon(polygon)
    if fine and shape.role == "key" and shape.fill == "solid" and polygon.count() == 4:
        key_grain(painter, polygon, key_colour(plain))


def key_grain(painter: QPainter, polygon: QPolygonF, colour: QColor) -> None:
    """A few lines along a key: its grain crosses the joint."""
    a, b, c, d = (polygon.at(i) for i in range(4))
    along, up = (b - a).manhattanLength(), (d - a).manhattanLength()
    if along < up:
        a, b, c, d = b, c, d, a
    if min(along, up) < 5.0:
        return
    line = QColor(colour.lighter(140) if colour.lightness() < 128 else colour.darker(118))
    line.setAlpha(150)
    painter.setPen(QPen(line, 0.7))
    for share in (0.28, 0.55, 0.8):
        painter.drawLine(a + (d - a) * share, b + (c - b) * share)


def texture(
    wood: WoodPicture,
    source: tuple[Point, ...],
    target: QPolygonF,
    shown_px_per_mm: float,
    *,
    fine: bool = True,
) -> QBrush | None:
    """A brush that lays a stretch of the board on a face, corner on corner; None where it is seen edge on.

    Not `fine`, or where the face has other than four corners, perspective inside it is left out: twice as fast, and
    unseen in motion.
    """
    image, scale = wood.level(shown_px_per_mm)
    high = wood.width_mm
    if len(source) < 3 or target.count() != len(source):
        return None
    if fine and len(source) == 4:
        quad = QPolygonF([QPointF(x * scale, (high - y) * scale) for x, y in source])
        # PySide gives the transformation, or None where the quadrilateral is flat.
        made = QTransform.quadToQuad(quad, target)
        if not isinstance(made, QTransform):
            return None
        transform = made
    else:
        (ax, ay), (bx, by), (dx, dy) = source[0], source[1], source[-1]
        ux, uy, vx, vy = (bx - ax) * scale, (ay - by) * scale, (dx - ax) * scale, (ay - dy) * scale
        det = ux * vy - uy * vx
        if det == 0.0:
            return None
        o, p, q = target.at(0), target.at(1), target.at(target.count() - 1)
        px, py, qx, qy = p.x() - o.x(), p.y() - o.y(), q.x() - o.x(), q.y() - o.y()
        m11, m21 = (px * vy - qx * uy) / det, (qx * ux - px * vx) / det
        m12, m22 = (py * vy - qy * uy) / det, (qy * ux - py * vx) / det
        sx, sy = ax * scale, (high - ay) * scale
        transform = QTransform(m11, m12, m21, m22, o.x() - m11 * sx - m21 * sy, o.y() - m12 * sx - m22 * sy)
    brush = QBrush(image)
    brush.setTransform(transform)
    return brush


def _upright(quad: tuple[Point, ...]) -> bool:
    """Whether a quadrilateral from its lower left corner is an upright rectangle."""
    (ax, ay), (bx, by), (cx, cy), (dx, dy) = quad
    return ay == by and bx == cx and cy == dy and dx == ax and cx > ax and cy > ay


def _grain(painter: QPainter, shape: Grain, fit: Fit, planes: Planes, plain: QColor) -> None:
    wood = planes(shape.plane, shape.board)
    polygon = fit.polygon(shape.points)
    if wood is not None and _upright(shape.points) and _upright(shape.source):
        # A plain copy is five times as fast as a brush laid through a transformation.
        image, scale = wood.level(fit.scale)
        (x0, y0), (x1, y1) = shape.source[0], shape.source[2]
        part = QRectF(x0 * scale, (wood.width_mm - y1) * scale, (x1 - x0) * scale, (y1 - y0) * scale)
        painter.drawImage(polygon.boundingRect(), image, part)
        return
    brush = texture(wood, shape.source, polygon, fit.scale) if wood else None
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(brush if brush is not None else plain)
    painter.drawPolygon(polygon)


@cache
def _font(family: str, size: float, bold: bool) -> tuple[QFont, QFontMetricsF]:
    font = QFont(family)
    font.setPixelSize(max(7, round(size * POINT_PX)))
    font.setWeight(QFont.Weight.DemiBold if bold else QFont.Weight.Normal)
    font.setHintingPreference(QFont.HintingPreference.PreferNoHinting)
    return font, QFontMetricsF(font)


def label_font(size: float, bold: bool, base: QFont) -> QFont:
    """The typeface of `base` at a size in points."""
    return _font(base.family(), size, bold)[0]


@lru_cache(maxsize=2000)
def _advance(family: str, size: float, bold: bool, text: str) -> float:
    """Width of a text: measuring costs as much as drawing, and most texts stay the same."""
    return _font(family, size, bold)[1].horizontalAdvance(text)


def _text_of(shape: Label, fit: Fit, family: str) -> str:
    """What of a label is written at this scale."""
    return shape.fitting(lambda text: _advance(family, shape.size, shape.bold, text) + 1.0, fit.scale)


def label_box(shape: Label, fit: Fit, base: QFont) -> Box:
    """Where a label lies on the screen (upright bounds), with a little air."""
    metrics = _font(base.family(), shape.size, shape.bold)[1]
    wide = _advance(base.family(), shape.size, shape.bold, _text_of(shape, fit, base.family()))
    high = metrics.ascent() + metrics.descent()
    left = {"middle": -wide / 2, "left": 0.0, "right": -wide}[shape.anchor]
    at = fit.px(shape.at)
    x, y = at.x() + shape.shift[0] * POINT_PX, at.y() - shape.shift[1] * POINT_PX
    if abs(shape.turn_deg) < 1e-9:
        return Box(x + left - 2, y - high / 2, wide + 4, high)
    turn = math.radians(-shape.turn_deg)
    cos, sin = math.cos(turn), math.sin(turn)
    corners = [
        (u * cos - v * sin, u * sin + v * cos) for u in (left, left + wide) for v in (-high / 2, high / 2)
    ]
    xs, ys = [c[0] for c in corners], [c[1] for c in corners]
    return Box(x + min(xs) - 2, y + min(ys) - 2, max(xs) - min(xs) + 4, max(ys) - min(ys) + 4)


def _label(painter: QPainter, shape: Label, fit: Fit, theme: Theme) -> None:
    family = painter.font().family()
    font, metrics = _font(family, shape.size, shape.bold)
    painter.setFont(font)
    text = _text_of(shape, fit, family)
    if not text:
        return
    wide = _advance(family, shape.size, shape.bold, text)
    at = fit.px(shape.at) + QPointF(shape.shift[0] * POINT_PX, -shape.shift[1] * POINT_PX)
    left = {"middle": -wide / 2, "left": 0.0, "right": -wide}[shape.anchor]
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
        beside = min(_GROUND_PX, (shape.room_mm * fit.scale - wide) / 2) if shape.room_mm else _GROUND_PX
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(ground)
        painter.drawRoundedRect(
            QRectF(
                place.x() - beside, at.y() - metrics.height() / 2 - 1, wide + 2 * beside, metrics.height() + 2
            ),
            4,
            4,
        )
        painter.setPen(QColor(250, 248, 244))
    else:
        painter.setPen(theme.of(shape.role))
    painter.drawText(place, text)
    if turned:
        painter.restore()


def inside(points: QPolygonF, at: QPointF, closed: bool, slack: float) -> bool:
    """Whether the pointer is in a polygon, or near a line."""
    if closed and points.count() > 2 and points.containsPoint(at, Qt.FillRule.OddEvenFill):
        return True
    if closed and points.count() > 2:
        return False
    return any(_near(points.at(i), points.at(i + 1), at) <= slack for i in range(points.count() - 1))


def _near(a: QPointF, b: QPointF, p: QPointF) -> float:
    dx, dy = b.x() - a.x(), b.y() - a.y()
    run = dx * dx + dy * dy
    part = 0.0 if run == 0 else max(0.0, min(1.0, ((p.x() - a.x()) * dx + (p.y() - a.y()) * dy) / run))
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
