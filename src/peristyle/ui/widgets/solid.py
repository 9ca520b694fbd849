"""The box as a solid: drag to turn it, arrow keys too. It wears the wood as it will be cut."""

from functools import partial
from time import monotonic
from typing import Final

from PySide6.QtCore import QEvent, QPointF, QRectF, QSize, Qt, QTimer
from PySide6.QtGui import (
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPixmap,
    QPolygonF,
    QResizeEvent,
    QShowEvent,
)
from PySide6.QtWidgets import QSlider, QWidget

from peristyle.core.planes import Point
from peristyle.drawing.apart import apart_reach
from peristyle.drawing.eye import Eye
from peristyle.drawing.solid import Face, Solid, solid_words
from peristyle.model import fields
from peristyle.planning.plan import Plan
from peristyle.ui.guard import kept_in, painting
from peristyle.ui.painting import label_font
from peristyle.ui.placing import Box, placed
from peristyle.ui.session import Session
from peristyle.ui.theme import LIGHT, Theme
from peristyle.ui.widgets.faces import Faces
from peristyle.ui.widgets.sheet import FocusSeen, mark_focus
from peristyle.ui.widgets.tag import SizeTag
from peristyle.ui.wood import WoodStore

_SLICE_S: Final = 0.02  # of painting many faces finely, between one event and the next
_BETWEEN_MS: Final = 5
_LONG_EDGE: Final = 0.4  # of the longest upright edge: shorter ones are a gable's or a chamfer's


class _AtRest:
    """The fine picture of a box of many faces, while it is made and after."""

    def __init__(self, like: tuple[object, ...], solid: Solid, picture: QPixmap) -> None:
        self.like, self.solid, self.picture = like, solid, picture
        self.faces: Faces | None = None
        self.done = False


def _upright(faces: list[QPolygonF]) -> list[tuple[QPointF, QPointF]]:
    """The edges of faces that stand, each from its foot up; of those of a gable or a chamfer only the long ones."""
    found = []
    for face in faces:
        points = [face.at(i) for i in range(face.count())]
        for p, q in zip(points, [*points[1:], points[0]], strict=True):
            low, high = (p, q) if p.y() >= q.y() else (q, p)
            if low.y() - high.y() > abs(low.x() - high.x()):
                found.append((low, high))
    least = _LONG_EDGE * max((low.y() - high.y() for low, high in found), default=0.0)
    return [(low, high) for low, high in found if low.y() - high.y() >= least]


class SolidView(FocusSeen):
    """Paints the faces from back to front. Height and slope stand beside it as sizes to type."""

    def __init__(self, session: Session, wood: WoodStore, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session, self._wood = session, wood
        self._theme: Theme = LIGHT
        self._eye = Eye()
        self._grip: tuple[QPointF, Eye] | None = None
        self._words = ""
        self._edge = (QPointF(), QPointF())
        self._turned = False
        self._polygons: list[tuple[Face, QPolygonF]] = []
        self._solid: tuple[Plan, float, Solid] | None = None
        self._resting: _AtRest | None = None
        self._going_on = QTimer(self)
        self._going_on.setInterval(_BETWEEN_MS)
        self._going_on.timeout.connect(self._go_on)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("The box as a solid")
        self.setToolTip("Drag or use the arrow keys to turn the box")
        self._tags = [SizeTag(session, f, self._theme, self) for f in (fields.HEIGHT, fields.SLOPE)]
        self._apart = QSlider(Qt.Orientation.Horizontal, self)
        self._apart.setRange(0, 100)
        self._apart.setPageStep(25)
        self._apart.setAccessibleName("Pulled apart")
        self._apart.setToolTip(
            "Pull the box apart and put it together again; on the box, + and − do the same"
        )
        self._apart.setAccessibleDescription("0 is together, 100 is all pieces apart")
        self._apart.valueChanged.connect(self._pulled)
        self._apart.sliderReleased.connect(self.update)
        self._describe()
        session.changed.connect(self._follow)
        session.selected.connect(self.update)
        wood.ready.connect(self._worn_anew)
        session.rested.connect(self.update)

    def sizeHint(self) -> QSize:
        """Room for a box."""
        return QSize(320, 320)

    def dress(self, theme: Theme) -> None:
        """Take on a theme's colours."""
        self._theme = theme
        for tag in self._tags:
            tag.dress(theme)
        self.update()

    @property
    def eye(self) -> Eye:
        """Where the box is seen from."""
        return self._eye

    @kept_in
    def showEvent(self, event: QShowEvent) -> None:
        """Catch up with what changed while another stage was open."""
        super().showEvent(event)
        self._follow()

    def _follow(self) -> None:
        if not self.isVisible():
            return
        self._describe()
        for tag in self._tags:
            tag.refresh()
        self._place_tags()
        self.update()

    def _describe(self) -> None:
        """The box in a sentence for whoever does not see it."""
        session = self._session
        said = solid_words(session.plan, session.format)
        if said != self._words:
            self._words = said
            self.setAccessibleDescription(
                f"{said} Drag or use the arrow keys to turn it, + and − to pull it apart."
            )

    def resizeEvent(self, event: QResizeEvent) -> None:
        """The sizes stay at the foot, the slider at the top."""
        super().resizeEvent(event)
        self._apart.setGeometry(max(8, self.width() - 148), 10, min(140, self.width() - 16), 22)
        self._place_tags()

    def _place_tags(self) -> None:
        """The height on the solid's outermost upright edge, the slope at the foot of the face beside it."""
        height, slope = self._tags
        wide, high = float(self.width()), float(self.height())
        # The strips of a profile have no lines of their own.
        scale = self._scale()
        faces = [
            polygon if f.whole is f.points else self._polygon(scale, f.whole)
            for f, polygon in self._polygons
            if f.kind == "show" and any(f.lines)
        ]
        upright = _upright(faces)
        if upright:
            edge = max(upright, key=lambda e: e[0].x() + e[1].x())
            left = min((face.boundingRect() for face in faces), key=lambda box: box.left())
            foot = QPointF(left.center().x(), left.bottom() + 22)
        else:
            edge = (QPointF(wide / 2, high - 60), QPointF(wide / 2, high - 100))
            foot = QPointF(wide / 2, high - 20)
        self._edge = edge
        x = max(edge[0].x(), edge[1].x()) + 16
        y = (edge[0].y() + edge[1].y()) / 2
        boxes = [
            Box(x, y - height.height() / 2 + 8, height.width(), height.height() + 16),
            Box(foot.x() - slope.width() / 2 - 34, foot.y(), slope.width() + 34, slope.height()),
        ]
        spots = placed(boxes, (), wide, high)
        height.move(round(spots[0].x), round(spots[0].y + 16))
        slope.move(round(spots[1].x + 34), round(spots[1].y))

    def paintEvent(self, event: QPaintEvent) -> None:
        """Faces from back to front, dark joint lines last."""
        with painting(self) as painter:
            self._paint(painter)

    def _paint(self, painter: QPainter) -> None:
        painter.fillRect(self.rect(), self._theme.paper)
        # Smooth edges wait while the box is turned, pulled apart, or a size is dragged.
        resized = self._session.dragging or self._apart.isSliderDown()
        still = not resized and self._grip is None
        share = self._apart.value() / 100.0
        plan = self._session.plan
        solid = self._standing(plan, share)
        kept = self._at_rest(solid) if still and solid.many else None
        fine = still and (kept is None or kept.done)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing, fine)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform, fine)
        if kept is not None and kept.faces is not None and kept.done:
            painter.drawPixmap(0, 0, kept.picture)
            self._polygons = kept.faces.polygons
        else:
            # While sizes or pieces move, bodies are drawn one after the other; at rest, and when turned, rightly.
            faces = self._laid(solid.faces(self._eye, fine=not resized and not solid.many))
            self._polygons = faces.polygons
            faces.paint(painter)
        self._place_tags()
        chosen = self._session.selection
        for face, polygon in self._polygons:
            if chosen is not None and face.pick == chosen and face.kind == "show" and any(face.lines):
                painter.setPen(QPen(self._theme.decided, 2.6))
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.drawPolygon(polygon)
        if not share:
            self._sizes(painter, bool(self._polygons))
        painter.setPen(self._theme.quiet)
        painter.setFont(label_font(9.0, False, self.font()))
        painter.drawText(QRectF(0.0, 10.0, self._apart.x() - 6.0, 22.0),
                         int(Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight), "apart")  # fmt: skip
        if not self._polygons:
            painter.drawText(self.rect(), int(Qt.AlignmentFlag.AlignCenter), "No box to show yet")
        mark_focus(painter, self, self._theme)
        if kept is not None and not kept.done and not self._going_on.isActive():
            self._going_on.start()  # from now on: not in the same breath as what was just drawn

    def _standing(self, plan: Plan, share: float) -> Solid:
        """The box as it stands, kept for as long as only the eye moves."""
        kept = self._solid
        if kept is None or kept[0] is not plan or kept[1] != share:
            kept = self._solid = (plan, share, Solid(plan, share))
        return kept[2]

    def _at_rest(self, solid: Solid) -> "_AtRest":
        """The fine picture of a box of many faces: as far as it is made, and going on between events."""
        like = (solid, self._eye, self.size(), self.devicePixelRatioF(), self._theme)
        if self._resting is None or self._resting.like != like:
            picture = QPixmap(self.size() * self.devicePixelRatioF())
            picture.setDevicePixelRatio(self.devicePixelRatioF())
            picture.fill(self._theme.paper)
            self._resting = _AtRest(like, solid, picture)
        return self._resting

    def _go_on(self) -> None:
        """A little more of the fine picture, unless something moves."""
        made = self._resting
        if (
            made is None
            or made.done
            or not self.isVisible()
            or self._grip is not None
            or self._session.dragging
        ):
            self._going_on.stop()
            return
        ends = monotonic() + _SLICE_S
        while monotonic() < ends:
            if made.solid.grow():
                continue
            if made.faces is None:
                made.faces = self._laid(made.solid.faces(self._eye))
                continue
            made.done = True  # if painting fails: once is enough
            with painting(made.picture) as painter:
                painter.setRenderHints(
                    QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform
                )
                made.done = made.faces.paint(painter, ends - monotonic())
            if made.done:
                self._going_on.stop()
                self.update()
            return

    def _worn_anew(self) -> None:
        """The wood's picture has come."""
        self._resting = None
        self.update()

    def _sizes(self, painter: QPainter, stands: bool) -> None:
        """The dimension line beside the upright edge, and what the two sizes are called."""
        height, slope = self._tags
        (foot, head), out = self._edge, QPointF(9.0, 0.0)
        if stands:
            painter.setPen(QPen(self._theme.decided, 1.0))
            painter.drawLine(foot + out, head + out)
            for end in (foot, head):
                painter.drawLine(end + out * 0.4, end + out * 1.6)
        painter.setFont(label_font(9.0, False, self.font()))
        painter.setPen(self._theme.quiet)
        painter.drawText(
            QRectF(height.x(), height.y() - 16, 60, 16), int(Qt.AlignmentFlag.AlignVCenter), "height"
        )
        painter.drawText(QRectF(slope.x() - 34, slope.y(), 34, slope.height()),
                         int(Qt.AlignmentFlag.AlignVCenter), "slope")  # fmt: skip

    def _reach(self) -> float:
        """A radius that holds the box however it is turned, so that turning never resizes it."""
        ring = self._session.plan.ring
        points = (*ring.outer_bottom, *ring.outer_top)
        flat = max(((x * x + y * y) ** 0.5 for x, y in points), default=1.0)
        return float((flat**2 + (ring.height_mm / 2) ** 2) ** 0.5) * 1.12

    def _scale(self) -> float:
        room = min(self.width() - 40, self.height() - 20)
        share = self._apart.value() / 100.0
        wider = 1.0 + (apart_reach(self._session.plan) - 1.0) * share
        return room / 2 / (self._reach() * wider)

    def _laid(self, faces: list[Face]) -> Faces:
        scale, job = self._scale() if faces else 1.0, self._session.job
        return Faces(
            faces,
            partial(self._polygon, scale),
            scale,
            self._wood.of_sides(job),
            self._wood.plain(job.stock.board),
        )

    def _polygon(self, scale: float, points: tuple[Point, ...]) -> QPolygonF:
        cx, cy = self.width() / 2 - 16, (self.height() - 12) / 2
        return QPolygonF([QPointF(cx + x * scale, cy - y * scale) for x, y in points])

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Take hold of the box."""
        if event.button() != Qt.MouseButton.LeftButton:
            return
        self._grip = (event.position(), self._eye)
        self._turned = False

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Turn it."""
        if self._grip is not None and not event.buttons() & Qt.MouseButton.LeftButton:
            self._grip = None  # the button came up where we could not see it
            self.update()
        if self._grip is None:
            return
        start, eye = self._grip
        moved = event.position() - start
        if abs(moved.x()) + abs(moved.y()) > 3:
            self._turned = True
        if self._turned:
            self._look(eye.turn_deg + moved.x() * 0.5, eye.tip_deg + moved.y() * 0.4)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """Let go; a click without a turn picks a side."""
        if self._grip is None or event.button() != Qt.MouseButton.LeftButton:
            return
        self._grip = None
        if not self._turned:
            self._pick(event.position())
        self.update()

    def _pulled(self) -> None:
        """The pieces move; the sizes stand on the whole box only."""
        for tag in self._tags:
            tag.setVisible(self._apart.value() == 0)
        self.update()

    def _give_up(self) -> bool:
        """Turn back to where it was taken hold of."""
        grip, self._grip = self._grip, None
        if grip is None:
            return False
        self._eye = grip[1]
        self.update()
        return True

    def event(self, event: QEvent) -> bool:
        """Losing the window, or being hidden, gives a turn up."""
        if event.type() in (QEvent.Type.WindowDeactivate, QEvent.Type.Hide):
            self._give_up()
        return super().event(event)

    def _pick(self, at: QPointF) -> None:
        for face, polygon in reversed(self._polygons):
            if face.pick and polygon.containsPoint(at, Qt.FillRule.OddEvenFill):
                self._session.select(face.pick)
                return
        self._session.select(None)

    def _look(self, turn: float, tip: float) -> None:
        self._eye = Eye(turn % 360.0, min(max(tip, 3.0), 85.0))
        self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Arrow keys turn and tip; + and − pull apart and put together; Esc gives a turn up, then lets go."""
        if event.key() == Qt.Key.Key_Escape:
            if not self._give_up():
                self._session.select(None)
            return
        turns = {Qt.Key.Key_Left: (-7.5, 0.0), Qt.Key.Key_Right: (7.5, 0.0),
                 Qt.Key.Key_Up: (0.0, -7.5), Qt.Key.Key_Down: (0.0, 7.5)}  # fmt: skip
        pulls = {Qt.Key.Key_Plus: 10, Qt.Key.Key_Equal: 10, Qt.Key.Key_Minus: -10}
        if Qt.Key(event.key()) in pulls:
            self._apart.setValue(self._apart.value() + pulls[Qt.Key(event.key())])
            return
        move = turns.get(Qt.Key(event.key()))
        if move is None:
            super().keyPressEvent(event)
            return
        self._look(self._eye.turn_deg + move[0], self._eye.tip_deg + move[1])
