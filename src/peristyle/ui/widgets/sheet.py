"""A drawing on the screen that can be worked on: sizes typed, lines dragged, sides picked."""

import math
import sys
from collections.abc import Callable

from PySide6.QtCore import QEvent, QPointF, QRectF, QSize, Qt
from PySide6.QtGui import (
    QFocusEvent,
    QFontMetricsF,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QResizeEvent,
    QShowEvent,
)
from PySide6.QtWidgets import QWidget

from peristyle.core.planes import Point
from peristyle.drawing.shapes import Drawing, Grip, Handle, Label, Pick, Tag
from peristyle.model.job import Job
from peristyle.ui.guard import kept_in, painting
from peristyle.ui.painting import POINT_PX, Fit, Layer, label_box, label_font, paint, picked
from peristyle.ui.placing import Box, placed
from peristyle.ui.session import Session
from peristyle.ui.theme import LIGHT, Theme
from peristyle.ui.widgets.tag import SizeTag
from peristyle.ui.wood import WoodStore

_FAR_PX = 42.0  # farther from its own place than this, a size is led back to it by a line
_STEPS = {Qt.Key.Key_Right: 1, Qt.Key.Key_Down: 1, Qt.Key.Key_Left: -1, Qt.Key.Key_Up: -1}
_MOST_OUT_PX = 90.0  # room given to letters at a drawing's edges


def mark_focus(painter: QPainter, widget: QWidget, theme: Theme) -> None:
    """A frame round what has the focus and is painted by us."""
    if widget.hasFocus():
        painter.setPen(QPen(theme.decided, 1.6))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(QRectF(widget.rect()).adjusted(1.5, 1.5, -1.5, -1.5))


class FocusSeen(QWidget):
    """Something we paint that shows whether it has the focus."""

    def focusInEvent(self, event: QFocusEvent) -> None:
        """Focus is seen."""
        super().focusInEvent(event)
        self.update()

    def focusOutEvent(self, event: QFocusEvent) -> None:
        """Focus is seen to go."""
        super().focusOutEvent(event)
        self.update()


class Sheet(FocusSeen):
    """Shows what `draw` returns and keeps it fresh. Hidden sheets wait until they are shown."""

    def __init__(
        self,
        session: Session,
        wood: WoodStore,
        draw: Callable[[], Drawing],
        name: str,
        parent: QWidget | None = None,
        *,
        margin_px: float = 14.0,
    ) -> None:
        super().__init__(parent)
        self._session, self._wood, self._draw = session, wood, draw
        self._theme: Theme = LIGHT
        self._margin = margin_px
        self._tags: dict[str, SizeTag] = {}
        self._drawing = Drawing()
        self._fit = Fit(1.0, 0.0, 0.0)
        # Room for letters at the left edge and the right (px), kept while something is dragged.
        self._aside = (0.0, 0.0)
        self._stale = True
        self._drag: _Drag | None = None
        self._layers = (Layer(), Layer())
        self._leaders: list[tuple[Box, QPointF]] = []
        self.setAccessibleName(name)
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.ClickFocus)
        session.changed.connect(self.refresh)
        session.selected.connect(self.refresh)
        wood.ready.connect(self.update)
        session.rested.connect(self.update)

    def sizeHint(self) -> QSize:
        """Room for a drawing that can be read."""
        return QSize(480, 360)

    def dress(self, theme: Theme) -> None:
        """Take on a theme's colours."""
        self._theme = theme
        for tag in self._tags.values():
            tag.dress(theme)
        self.update()

    @property
    def drawing(self) -> Drawing:
        """What is shown."""
        return self._drawing

    def px(self, point: Point) -> QPointF:
        """Where a point of the drawing is in the widget."""
        return self._fit.px(point)

    def refresh(self) -> None:
        """Draw again from the plan; at once when visible, else when next shown."""
        if not self.isVisible():
            self._stale = True
            return
        self._stale = False
        before, self._drawing = self._drawing, _kept_in(self._draw)
        if self._session.dragging and _looks_alike(before, self._drawing):
            return  # what a drag does not change is not painted again
        self.setAccessibleDescription(self._drawing.words)
        if self._drag is None:
            self._refit()
        self._place_tags()
        self.update()

    def _refit(self) -> None:
        m = self._margin
        area = QRectF(self.rect()).adjusted(m, m, -m, -m)
        if self._session.dragging:  # it would tremble
            left, right = self._aside
            self._fit = Fit.into(self._drawing.bounds, area.adjusted(left, 0.0, -right, 0.0))
            return
        self._fit, self._aside = Fit.into(self._drawing.bounds, area), (0.0, 0.0)
        # Letters stay as large as they are however small the drawing: those at its edges are given room.
        words = [
            label_box(s, self._fit, self.font())
            for s in self._drawing.shapes
            if isinstance(s, Label) and not s.room_mm
        ]
        if words:
            left, right = min(w.x for w in words), max(w.x + w.wide for w in words)
            left, right = (
                min(_MOST_OUT_PX, max(0.0, out)) for out in (2.0 - left, right + 2.0 - self.width())
            )
            if left or right:
                self._aside = (left, right)
                self._fit = Fit.into(self._drawing.bounds, area.adjusted(left, 0.0, -right, 0.0))

    def _place_tags(self) -> None:
        wanted: dict[str, Tag] = {tag.field.id: tag for tag in self._drawing.tags}
        for key in [k for k in self._tags if k not in wanted]:
            self._tags.pop(key).retire()
        last: QWidget | None = None
        boxes: list[Box] = []
        for key, tag in wanted.items():
            widget = self._tags.get(key)
            if widget is None:
                widget = SizeTag(self._session, tag.field, self._theme, self)
                widget.left.connect(self.setFocus)
                self._tags[key] = widget
                widget.show()
                if last is not None:
                    QWidget.setTabOrder(last, widget)
            else:
                widget.rebind(tag.field)
                widget.refresh()
            at = self._fit.px(tag.at)
            before = self._prefix_px(tag)
            x = at.x() + tag.shift[0] * POINT_PX - widget.width() / 2 - before
            y = at.y() - tag.shift[1] * POINT_PX - widget.height() / 2
            boxes.append(Box(x, y, widget.width() + before, widget.height()))
            last = widget
        words = [label_box(s, self._fit, self.font()) for s in self._drawing.shapes if isinstance(s, Label)]
        spots = placed(boxes, words, self.width(), self.height(), quick=self._session.dragging)
        self._leaders = []
        for (key, tag), box, spot in zip(wanted.items(), boxes, spots, strict=True):
            self._tags[key].move(round(spot.x + self._prefix_px(tag)), round(spot.y))
            if abs(spot.x - box.x) + abs(spot.y - box.y) > _FAR_PX:
                self._leaders.append((spot, QPointF(box.x + box.wide / 2, box.y + box.high / 2)))

    def _prefix_px(self, tag: Tag) -> float:
        """Room for the quiet words before a tag."""
        if not tag.prefix:
            return 0.0
        return QFontMetricsF(label_font(9.0, False, self.font())).horizontalAdvance(tag.prefix) + 5.0

    @kept_in
    def showEvent(self, event: QShowEvent) -> None:
        """Catch up with what happened while hidden."""
        super().showEvent(event)
        if self._stale:
            self.refresh()

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Fit again."""
        super().resizeEvent(event)
        if not self._stale:
            self._refit()
            self._place_tags()

    def paintEvent(self, event: QPaintEvent) -> None:
        """The drawing, then the quiet words before each tag."""
        with painting(self) as painter:
            self._paint(painter)

    def _paint(self, painter: QPainter) -> None:
        # What moves is drawn roughly, and finely once it rests: a frame has 16 ms.
        fine = not self._session.dragging
        painter.setRenderHint(QPainter.RenderHint.Antialiasing, fine)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform, fine)
        painter.fillRect(self.rect(), self._theme.paper)
        board = self._session.job.stock.board
        paint(painter, self._drawing, self._fit, self._theme,
              self._wood.of_sides(self._session.plan.job), self._wood.plain(board),
              self._session.selection, self._layers)  # fmt: skip
        self._lead(painter)
        painter.setFont(label_font(9.0, False, self.font()))
        painter.setPen(self._theme.quiet)
        for tag in self._drawing.tags:
            widget = self._tags.get(tag.field.id)
            if tag.prefix and widget is not None:
                wide = painter.fontMetrics().horizontalAdvance(tag.prefix)
                ground = QRectF(widget.x() - wide - 5, widget.y(), wide + 5, widget.height())
                painter.fillRect(ground, self._theme.paper)
                painter.drawText(ground, int(Qt.AlignmentFlag.AlignVCenter), " " + tag.prefix)
        mark_focus(painter, self, self._theme)

    def _lead(self, painter: QPainter) -> None:
        """A thin line from a size that had to give way to the place it speaks of."""
        painter.setPen(QPen(self._theme.decided, 0.8, Qt.PenStyle.DotLine))
        for spot, to in self._leaders:
            x = min(max(to.x(), spot.x), spot.x + spot.wide)
            y = min(max(to.y(), spot.y), spot.y + spot.high)
            painter.drawLine(QPointF(x, y), to)

    def _handle_at(self, at: QPointF) -> Handle | Grip | None:
        for handle in reversed(self._drawing.handles):
            if self._fit.polygon(handle.area).containsPoint(at, Qt.FillRule.OddEvenFill):
                return handle
        return None

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Pick what lies under the pointer, and take hold of it if it can be dragged."""
        if event.button() != Qt.MouseButton.LeftButton:
            return
        self._let_go()  # a release that never came
        at = event.position()
        pick = picked(self._drawing, self._fit, at)
        self.clicked(pick)
        handle = self._handle_at(at)
        if handle is not None:
            self._drag = _Drag(self._fit.mm(at), handle, self._session.job)

    def clicked(self, pick: Pick | None) -> None:
        """What a click means; a click on nothing lets go of the selection."""
        self._session.select(pick)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Drag what is held; elsewhere the pointer tells what can be."""
        at = event.position()
        if self._drag is not None and not event.buttons() & Qt.MouseButton.LeftButton:
            self._let_go()  # the button came up where we could not see it
        if self._drag is not None and self._drag.moved and not self._session.dragging:
            self._drag = None  # undone, or another box was opened, in the middle of it
        if self._drag is None:
            handle = self._handle_at(at)
            if handle is None:
                self.unsetCursor()
            elif isinstance(handle, Grip):
                self.setCursor(Qt.CursorShape.SizeAllCursor)
            else:
                across = abs(handle.axis[0]) > abs(handle.axis[1])
                self.setCursor(Qt.CursorShape.SizeHorCursor if across else Qt.CursorShape.SizeVerCursor)
            return
        job = self._drag.at(self._fit.mm(at), self._session)
        if job is not None:
            if not self._drag.moved:
                self._drag.moved = True
                self._session.begin()
            self._session.preview(job)
            self._session.said.emit(self._drag.reading(self._session))

    def _let_go(self) -> None:
        """The drag, if there is one, becomes one edit."""
        drag, self._drag = self._drag, None
        if drag is not None and drag.moved and self._session.dragging:
            self._session.commit(drag.named(self._session.job))
            self.refresh()

    def _give_up(self) -> None:
        """The drag, if there is one, is as if it had not been."""
        drag, self._drag = self._drag, None
        if drag is not None and drag.moved and self._session.dragging:
            self._session.cancel()
            self.refresh()

    def event(self, event: QEvent) -> bool:
        """Losing the window, or being hidden, gives a drag up."""
        if event.type() in (QEvent.Type.WindowDeactivate, QEvent.Type.Hide):
            self._give_up()
        return super().event(event)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """Let go: the drag becomes one edit."""
        if event.button() != Qt.MouseButton.LeftButton or self._drag is None:
            return
        if self._drag.moved:
            self._let_go()
        else:
            drag, self._drag = self._drag, None
            clicked = drag.clicked(self._fit.mm(event.position()))
            if clicked is not None:
                self._session.edit(drag.named(clicked), clicked)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Esc gives up a drag, then the selection; arrow keys go along what can be chosen from."""
        if event.key() == Qt.Key.Key_Escape and self._drag is not None:
            self._give_up()
        elif event.key() == Qt.Key.Key_Escape:
            self._session.select(None)
        elif not self._stepped(_STEPS.get(Qt.Key(event.key()), 0)):
            super().keyPressEvent(event)

    def _stepped(self, way: int) -> bool:
        """One on or back among the offers of a diagram."""
        grip = next((h for h in self._drawing.handles if isinstance(h, Grip) and h.step), None)
        if not way or grip is None or grip.step is None:
            return False
        job = grip.step(self._session.job, way)
        if job is not None:
            self._session.edit(grip.says, job, join=self.accessibleName())
        return True


def _looks_alike(one: Drawing, other: Drawing) -> bool:
    """Whether two drawings without tags paint alike (the values of tags are not in the drawing)."""
    return not (one.tags or other.tags) and one.shapes == other.shapes and one.bounds == other.bounds


_FAILED = Drawing(
    (Label((50.0, 50.0), "This drawing could not be made. Undo the last step.", "caution", 11.0),),
    words="This drawing could not be made. Undo the last step.",
)


def _kept_in(draw: Callable[[], Drawing]) -> Drawing:
    """What `draw` makes; where the program fails, a sheet that says so.

    An error let out into Qt's own calls would end the program.
    """
    try:
        return draw()
    except Exception:
        sys.excepthook(*sys.exc_info())
        return _FAILED


class _Drag:
    """A handle held: where it was taken, and the design as it was."""

    def __init__(self, start: Point, handle: Handle | Grip, job: Job) -> None:
        self._start, self._handle, self._design = start, handle, job
        self._value = handle.field.get(job) if isinstance(handle, Handle) else 0.0
        self.moved = False

    def named(self, job: Job) -> str:
        """What undo calls it."""
        handle = self._handle
        return handle.says if isinstance(handle, Grip) else f"Drag {handle.field.label(job).lower()}"

    def clicked(self, point: Point) -> Job | None:
        """The design that a click without a drag means, if any."""
        handle = self._handle
        if not isinstance(handle, Grip) or handle.click is None:
            return None
        return handle.click(self._design, *point)

    def reading(self, session: Session) -> str:
        """What it reads while it moves."""
        if isinstance(self._handle, Grip):
            return self._handle.says
        field = self._handle.field
        return f"{field.label(session.job)} {field.show(session.format, field.get(session.job))}"

    def at(self, point: Point, session: Session) -> Job | None:
        """The design with the handle moved to `point`; None while it has not left its place."""
        handle = self._handle
        dx, dy = point[0] - self._start[0], point[1] - self._start[1]
        # Half a millimetre, or a thirty-second of an inch: what a tape shows.
        grid = 25.4 / 32 if session.job.design.units == "in" else 0.5
        if isinstance(handle, Grip):
            if not self.moved and math.hypot(dx, dy) < grid:
                return None
            return handle.move(self._design, dx, dy)
        field = handle.field
        value = self._value + (dx * handle.axis[0] + dy * handle.axis[1]) * handle.gain
        value = round(value / grid) * grid
        low = field.low + (grid if field.above else 0.0)
        value = min(max(value, low), field.high)
        if not self.moved and abs(value - self._value) < grid:
            return None
        return field.set(self._design, value)
