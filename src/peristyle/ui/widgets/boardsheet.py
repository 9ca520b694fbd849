"""The board's own sheet: faults and wishes are painted on it."""

from collections.abc import Callable

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPaintEvent, QPen

from peristyle.core.errors import PeristyleError
from peristyle.drawing.shapes import Drawing, Pick
from peristyle.model.mark_edits import with_mark, without_mark
from peristyle.model.stock import MarkKind
from peristyle.ui.guard import painting
from peristyle.ui.session import Session
from peristyle.ui.widgets.sheet import Sheet
from peristyle.ui.wood import WoodStore


class BoardSheet(Sheet):
    """While something is chosen to paint, a drag on the board marks a place with it."""

    def __init__(self, session: Session, wood: WoodStore, draw: Callable[[], Drawing], name: str) -> None:
        super().__init__(session, wood, draw, name)
        self._job = session
        self.painting: MarkKind | None = None
        self.painted: Callable[[], None] = lambda: None
        self._from: QPointF | None = None
        self._to = QPointF()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Begin a mark, where one is being painted."""
        if self.painting is None or event.button() != Qt.MouseButton.LeftButton:
            super().mousePressEvent(event)
            return
        self._from = self._to = event.position()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """The mark grows."""
        if self.painting is None:
            super().mouseMoveEvent(event)
            return
        self.setCursor(Qt.CursorShape.CrossCursor)
        if self._from is not None:
            self._to = event.position()
            self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """The mark is there."""
        if self._from is None or self.painting is None:
            super().mouseReleaseEvent(event)
            return
        begun, self._from = self._from, None
        kind = self.painting
        a, b = self._fit.mm(begun), self._fit.mm(event.position())
        try:
            made = with_mark(self._job.job, kind, a, b)
        except PeristyleError as error:
            self._job.said.emit(str(error))
            self.update()
            return
        if self._job.edit(f"Mark a {kind}", made):
            self._job.select(Pick("mark", len(made.stock.board.marks) - 1))
        self.painted()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Esc gives a mark up that is being painted, then the painting."""
        if event.key() == Qt.Key.Key_Escape and self.painting is not None:
            self._from = None
            self.painted()
            self.update()
            return
        chosen = self._job.selection
        if event.key() == Qt.Key.Key_Delete and chosen is not None and chosen.kind == "mark":
            number = chosen.index
            self._job.select(None)
            self._job.change("Remove a mark", lambda job: without_mark(job, number))
            return
        super().keyPressEvent(event)

    def paintEvent(self, event: QPaintEvent) -> None:
        """The board, and the mark that is being painted."""
        super().paintEvent(event)
        if self._from is None:
            return
        with painting(self) as painter:
            painter.setPen(QPen(self._theme.caution, 1.6, Qt.PenStyle.DashLine))
            painter.drawRect(QRectF(self._from, self._to).normalized())
