"""What a hand does: one click on a field, then keys."""

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QWidget


def click(widget: QWidget) -> None:
    """One click of a hand that comes from somewhere else: it brings the focus."""
    if widget.hasFocus():
        widget.clearFocus()
    QTest.mouseClick(widget, Qt.MouseButton.LeftButton)


def type_over(field: QWidget, text: str, key: Qt.Key | None = Qt.Key.Key_Return) -> None:
    """Click a field, type over what is in it, and enter it (with None: leave it half typed)."""
    click(field)
    QTest.keyClicks(field, text)
    if key is not None:
        QTest.keyClick(field, key)
