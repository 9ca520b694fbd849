"""Fields to type in and lists to choose from, as every part of the window uses them.

One click selects what is there, so that what is typed takes its place; undo and the keys that go round
the ring act on the box from within a field; what is half typed is known to the session, which takes it
before the maker leaves; and the wheel changes nothing that has not the focus.
"""

from collections.abc import Callable
from typing import TYPE_CHECKING, Any, Final

from PySide6.QtCore import QEvent, QSignalBlocker, Qt
from PySide6.QtGui import QFocusEvent, QKeyEvent, QKeySequence, QMouseEvent, QPalette, QValidator, QWheelEvent
from PySide6.QtWidgets import QAbstractSpinBox, QComboBox, QDoubleSpinBox, QLineEdit, QSpinBox, QWidget

from peristyle.core.errors import LengthError, PeristyleError
from peristyle.core.lengths import parse_angle, parse_count
from peristyle.ui.session import Session

if TYPE_CHECKING:
    from PySide6.QtWidgets import QStyleOptionComboBox

_CTRL: Final = Qt.KeyboardModifier.ControlModifier
_SHIFT: Final = Qt.KeyboardModifier.ShiftModifier
_ROUND: Final = (Qt.Key.Key_Left, Qt.Key.Key_Right)
# The focus comes back by itself: nothing has been left.
_STAYS: Final = (
    Qt.FocusReason.ActiveWindowFocusReason,
    Qt.FocusReason.PopupFocusReason,
    Qt.FocusReason.MenuBarFocusReason,
)


def stays(event: QFocusEvent) -> bool:
    """Whether the focus is only lent, to a menu or another window."""
    return event.reason() in _STAYS


def for_the_box(event: QKeyEvent) -> bool:
    """Keys that act on the box wherever they are pressed: undo, redo, round the ring."""
    if event.matches(QKeySequence.StandardKey.Undo) or event.matches(QKeySequence.StandardKey.Redo):
        return True
    modifiers = event.modifiers() & ~Qt.KeyboardModifier.KeypadModifier
    return event.key() in _ROUND and modifiers in (_CTRL, _CTRL | _SHIFT)


class ValueEdit(QLineEdit):
    """A line to type a value in."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._entered = False
        self.setContextMenuPolicy(Qt.ContextMenuPolicy.NoContextMenu)

    def focusInEvent(self, event: QFocusEvent) -> None:
        """By Tab the whole value is marked at once; by a click when the button is up again."""
        super().focusInEvent(event)
        if event.reason() != Qt.FocusReason.MouseFocusReason:
            self._entered = True

    def focusOutEvent(self, event: QFocusEvent) -> None:
        """The next click is a first one again."""
        super().focusOutEvent(event)
        if not stays(event):
            self._entered = False

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """The press has put the cursor somewhere; the first click means the whole value."""
        super().mouseReleaseEvent(event)
        if not self._entered and not self.hasSelectedText():
            self.selectAll()
        self._entered = True

    def event(self, event: QEvent) -> bool:
        """The line's own undo must not take the keys that undo the box."""
        if (
            event.type() == QEvent.Type.ShortcutOverride
            and isinstance(event, QKeyEvent)
            and for_the_box(event)
        ):
            event.ignore()
            return True
        return super().event(event)


_PICTURE_PX: Final = 50  # a choice shown by its picture alone


class ListBox(QComboBox):
    """A choice of named things."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)

    def keep_short(self, letters: int) -> None:
        """So many letters beside the picture, none for the picture alone; the open list is as wide as it must be."""
        self.setMinimumContentsLength(letters)
        self.setSizeAdjustPolicy(self.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        if letters == 0:
            self.setFixedWidth(_PICTURE_PX)
        self._short, self._wordless = True, letters == 0

    _short = _wordless = False
    _state: Callable[[], object] | None = None

    def goes_past_what_is_refused(self, state: Callable[[], object]) -> None:
        """`state` stays the same object where a choice was refused, and the list shows again what it was."""
        self._state = state

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """The arrows go on past a choice that is refused, to the next that is not."""
        way = {Qt.Key.Key_Down: 1, Qt.Key.Key_Up: -1}.get(Qt.Key(event.key()), 0)
        begun, state = self.currentIndex(), self._state
        was = state() if state is not None else None
        super().keyPressEvent(event)
        if state is None or not way or event.modifiers() & Qt.KeyboardModifier.AltModifier:
            return
        tried = begun + way
        while self.currentIndex() == begun and state() is was and 0 <= tried + way < self.count():
            tried += way
            self.setCurrentIndex(tried)
            self.activated.emit(tried)

    def initStyleOption(self, option: "QStyleOptionComboBox") -> None:
        """As ever, but for the words where the picture says enough."""
        super().initStyleOption(option)
        if self._wordless:
            option.currentText = ""

    def showPopup(self) -> None:
        """The list as wide as its longest line."""
        if self._short:
            view = self.view()
            view.setMinimumWidth(view.sizeHintForColumn(0) + 2 * view.frameWidth() + 24)
        super().showPopup()

    def wheelEvent(self, event: QWheelEvent) -> None:
        """Only where it has the focus."""
        if self.hasFocus():
            super().wheelEvent(event)
        else:
            event.ignore()


# A class between two of Qt's own would be two boxes in one.
_Box: Any = QAbstractSpinBox if TYPE_CHECKING else object


class _NumberBox(_Box):  # type: ignore[misc]  # what mixes in has no type of its own
    """What the boxes for counts and for angles share. `session` is None in a dialog of its own."""

    _session: Session | None = None  # Qt asks for texts before all is set up
    _half = False

    def _begin(self, session: Session | None, low: float, high: float) -> None:
        self._session = session
        box: Any = self
        box.setRange(low, high)
        line = ValueEdit(self)
        self.setLineEdit(line)
        self.setKeyboardTracking(False)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        line.textEdited.connect(self._typed)

    @property
    def half_typed(self) -> bool:
        """Whether something is typed that is not entered."""
        return self._half

    def read(self, text: str) -> float:
        """The number a text says. Raises LengthError."""
        raise NotImplementedError

    def _checked(self, text: str) -> float:
        box: Any = self
        value = self.read(text)
        low, high = box.minimum(), box.maximum()
        if not low <= value <= high:
            show: Callable[[float], str] = box.textFromValue
            raise LengthError(
                f"{self.accessibleName() or 'It'} cannot be {text.strip()[:24]}: give {show(low)} to {show(high)}."
            )
        return value

    def validate(self, text: str, at: int) -> Any:
        """Anything may be typed; what cannot be read is said once it is entered."""
        try:
            self._checked(text)
        except PeristyleError:
            return (QValidator.State.Intermediate, text, at)
        return (QValidator.State.Acceptable, text, at)

    def _typed(self) -> None:
        self._half = True
        if self._session is not None:
            self._session.typing(self)

    def _settled(self) -> None:
        self._half = False
        self._tint(False)
        if self._session is not None:
            self._session.typed(self)

    def _tint(self, wrong: bool) -> None:
        palette = QPalette(self.palette())
        colour = palette.color(QPalette.ColorRole.BrightText if wrong else QPalette.ColorRole.WindowText)
        palette.setColor(QPalette.ColorRole.Text, colour)
        self.lineEdit().setPalette(palette)

    def take(self) -> bool:
        """What is typed becomes the value; False, the reason said, where it cannot be read."""
        if not self._half:
            return True
        box: Any = self
        try:
            value = self._checked(self.lineEdit().text())
        except PeristyleError as error:
            self._tint(True)
            if self._session is not None:
                self._session.said.emit(str(error))
            self.setFocus()
            return False
        self._settled()
        box.setValue(value)
        self.lineEdit().setText(box.textFromValue(box.value()) + box.suffix())
        return True

    def put_back(self) -> None:
        """Forget what is half typed."""
        box: Any = self
        if self._half:
            self._settled()
            self.lineEdit().setText(box.textFromValue(box.value()) + box.suffix())

    def focusOutEvent(self, event: QFocusEvent) -> None:
        """Leaving takes what was typed; what cannot be read stays to be mended."""
        box: Any = self
        if self._half and (stays(event) or not self.take_quietly()):
            text, value = self.lineEdit().text(), box.value()
            with QSignalBlocker(self):
                super().focusOutEvent(event)
                box.setValue(value)
            self.lineEdit().setText(text)
            self._half = True
            return
        super().focusOutEvent(event)

    def take_quietly(self) -> bool:
        """As `take`, without asking the focus back: the maker has gone on to something else."""
        try:
            self._checked(self.lineEdit().text())
        except PeristyleError as error:
            self._tint(True)
            if self._session is not None:
                self._session.said.emit(str(error))
            return False
        return self.take()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Enter takes what is typed, Esc forgets it; undo belongs to the box."""
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            if self.take():
                self.selectAll()
        elif (event.key() == Qt.Key.Key_Escape and self._half) or for_the_box(event):
            self.put_back()
        else:
            if event.key() in (Qt.Key.Key_Up, Qt.Key.Key_Down, Qt.Key.Key_PageUp, Qt.Key.Key_PageDown):
                self.put_back()
            super().keyPressEvent(event)

    def wheelEvent(self, event: QWheelEvent) -> None:
        """Only where it has the focus."""
        if self.hasFocus():
            super().wheelEvent(event)
        else:
            event.ignore()


class CountBox(_NumberBox, QSpinBox):
    """A whole number."""

    def __init__(self, session: Session | None, low: int, high: int, parent: QWidget | None = None) -> None:
        QSpinBox.__init__(self, parent)
        self._begin(session, low, high)

    def read(self, text: str) -> float:
        """A whole number as every field reads it."""
        return parse_count(text)

    def valueFromText(self, text: str) -> int:
        """Qt asks only after `validate` has let it pass."""
        try:
            return int(self._checked(text))
        except PeristyleError:
            return self.value()

    def textFromValue(self, value: int) -> str:
        """Digits, without marks for thousands."""
        return str(int(value))


class AngleBox(_NumberBox, QDoubleSpinBox):
    """An angle in degrees, with the maker's decimal mark."""

    def __init__(self, session: Session, low: float, high: float, parent: QWidget | None = None) -> None:
        QDoubleSpinBox.__init__(self, parent)
        self.setDecimals(3)
        self.setSingleStep(0.5)
        self.setSuffix("°")
        self._begin(session, low, high)

    def read(self, text: str) -> float:
        """An angle as every field reads it: 22,5 or 22.5° or 22° 30′."""
        return parse_angle(text)

    def valueFromText(self, text: str) -> float:
        """Qt asks only after `validate` has let it pass."""
        try:
            return self._checked(text)
        except PeristyleError:
            return self.value()

    def textFromValue(self, value: float) -> str:
        """At most three decimals, the maker's own mark."""
        session = self._session
        return session.format.number(value, 3) if session is not None else f"{value:g}"


class TextBox(ValueEdit):
    """A short text that is read when it is entered; what cannot be read is said and stays to be mended."""

    def __init__(self, session: Session, now: Callable[[], str], put: Callable[[str], bool]) -> None:
        super().__init__()
        self._session, self._now, self._put = session, now, put
        self.textEdited.connect(lambda _text: session.typing(self))
        self.returnPressed.connect(self._enter)

    def _enter(self) -> None:
        """Enter where it cannot be read: the reason is said, and what was there comes back."""
        if self.isModified():
            self._put(self.text())
        self.put_back()

    def show_now(self) -> None:
        """Show the value, unless the maker is typing."""
        if not self.isModified() and self.text() != self._now():
            self.setText(self._now())

    def take(self) -> bool:
        """What is typed becomes an edit; False where it cannot be read."""
        if not self.isModified():
            return True
        if not self._put(self.text()):
            self.setFocus()
            return False
        self.put_back()
        return True

    def put_back(self) -> None:
        """Show the value again."""
        self.setModified(False)
        self._session.typed(self)
        self.setText(self._now())

    def focusOutEvent(self, event: QFocusEvent) -> None:
        """Leaving takes what was typed."""
        super().focusOutEvent(event)
        if self.isModified() and not stays(event) and self._put(self.text()):
            self.put_back()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Esc forgets what is typed; undo belongs to the box."""
        if event.key() == Qt.Key.Key_Escape or for_the_box(event):
            self.put_back()
        else:
            super().keyPressEvent(event)
