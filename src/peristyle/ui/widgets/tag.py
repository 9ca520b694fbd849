"""A size standing on a drawing: click it or Tab to it, type, Enter; arrows step; Esc leaves."""

import math

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QColor, QFocusEvent, QKeyEvent, QPaintEvent, QPalette, QPen
from PySide6.QtWidgets import QWidget

from peristyle.model.fields import Field
from peristyle.ui.guard import painting
from peristyle.ui.session import Session
from peristyle.ui.theme import Theme
from peristyle.ui.widgets.inputs import ValueEdit, for_the_box, stays


class SizeTag(ValueEdit):
    """One field of the design as text that can be typed over."""

    left = Signal()

    def __init__(self, session: Session, field: Field, theme: Theme, parent: QWidget) -> None:
        super().__init__(parent)
        self._session, self.field, self._theme = session, field, theme
        self._gone = False
        self._wrong = False
        self.setFrame(False)
        self.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.setObjectName(f"tag:{field.id}")
        self.returnPressed.connect(self._enter)
        self.textEdited.connect(self._typed)
        self.dress(theme)
        self.refresh()

    def dress(self, theme: Theme) -> None:
        """Take on a theme's colours."""
        self._theme = theme
        palette = QPalette(self.palette())
        palette.setColor(QPalette.ColorRole.Text, self._colour())
        palette.setColor(QPalette.ColorRole.Base, theme.paper)
        self.setPalette(palette)

    def _colour(self) -> QColor:
        """Decided, or worked out from what is; or wrong."""
        if self._wrong:
            return self._theme.blade
        is_open = self.field.open is not None and self.field.open(self._session.job)
        return self._theme.ink if is_open else self._theme.decided

    def retire(self) -> None:
        """The size has left the drawing: go, without reading or writing it once more."""
        self._gone = True
        self._session.typed(self)
        parent = self.parentWidget()
        if self.hasFocus() and parent is not None:
            parent.setFocus()
        self.hide()
        self.deleteLater()

    def _reading(self) -> str:
        job, fmt = self._session.job, self._session.format
        value = self.field.get(job)
        return (
            fmt.length(value)
            if self.field.kind == "length" and not math.isnan(value)
            else self.field.show(fmt, value)
        )

    def refresh(self) -> None:
        """Show the value, unless the maker is typing."""
        if self._gone:
            return
        if not self.isModified():
            text = self._reading()
            if text != self.text():
                self.setText(text)
                if self.hasFocus():
                    self.selectAll()
            wide = max(38, self.fontMetrics().horizontalAdvance(text) + 16)
            if wide != self.width():
                self.resize(wide, self.fontMetrics().height() + 6)
        if not self.accessibleName():
            self.dress(self._theme)
            label = self.field.label(self._session.job)
            self.setAccessibleName(label)
            self.setAccessibleDescription(self.field.why)
            self.setToolTip(f"{label}. {self.field.why}")

    def rebind(self, field: Field) -> None:
        """Speak of the same size in a new design: its words and range may differ."""
        if field is not self.field:
            self.field = field
            self.setAccessibleName("")
        elif self.accessibleName() != field.label(self._session.job):
            self.setAccessibleName("")

    def _typed(self) -> None:
        if self._gone:  # a key that was on its way when the size left the drawing
            return
        self._session.typing(self)
        wide = max(self.width(), self.fontMetrics().horizontalAdvance(self.text()) + 16)
        parent = self.parentWidget()
        if wide > self.width() and parent is not None:
            self.resize(min(wide, max(38, parent.width() - self.x() - 2)), self.height())
        if self._wrong:
            self._mark(False)

    def _mark(self, wrong: bool) -> None:
        """What cannot be read stands in the colour of the blade, its line broken, until it is mended."""
        self._wrong = wrong
        self.dress(self._theme)

    def _read(self) -> bool:
        """What is typed becomes an edit; else it stays, marked, the reason said."""
        if self._session.set_field(self.field, self.text()):
            self.put_back()
            return True
        self._mark(True)
        return False

    def take(self) -> bool:
        """What is typed becomes an edit; False where it cannot be read: then the focus comes back to it."""
        if self._gone or not self.isModified() or self._read():
            return True
        self.setFocus()
        self.selectAll()
        return False

    def put_back(self) -> None:
        """Show the value again, whatever was typed."""
        self.setModified(False)
        self._session.typed(self)
        if self._wrong:
            self._mark(False)
        self.refresh()

    def _enter(self) -> None:
        self.take()
        self.selectAll()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Arrows step the value, Esc leaves it as it was; undo belongs to the box."""
        steps = {Qt.Key.Key_Up: 1.0, Qt.Key.Key_Down: -1.0,
                 Qt.Key.Key_PageUp: 10.0, Qt.Key.Key_PageDown: -10.0}  # fmt: skip
        key = Qt.Key(event.key())
        if key in steps:
            big = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
            self.put_back()
            self._session.step_field(self.field, steps[key] * (10.0 if big else 1.0))
            self.refresh()
            self.selectAll()
        elif key == Qt.Key.Key_Escape:
            self.put_back()
            self.left.emit()
        elif for_the_box(event):
            self.put_back()
        else:
            super().keyPressEvent(event)

    def focusInEvent(self, event: QFocusEvent) -> None:
        """The whole value is marked, ready to be typed over; what is half typed stays."""
        super().focusInEvent(event)
        if not self.isModified():
            self.selectAll()

    def focusOutEvent(self, event: QFocusEvent) -> None:
        """Leaving takes what was typed; what cannot be read is said and stays to be mended."""
        super().focusOutEvent(event)
        if self._gone or stays(event):
            return
        if not self.isModified():
            self.refresh()
        elif not self._read():
            return
        self.deselect()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Text with a line under it: solid says this can be typed."""
        super().paintEvent(event)
        with painting(self) as painter:
            pen = QPen(self._colour(), 2.0 if self.hasFocus() else 1.0)
            if self._wrong:
                pen.setStyle(Qt.PenStyle.DashLine)
            painter.setPen(pen)
            y = self.height() - 2
            painter.drawLine(5, y, self.width() - 5, y)
