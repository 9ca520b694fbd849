"""A dialog with a list of things of the job and a row for each value of the one picked."""

from collections.abc import Callable

from msgspec import inspect as kinds
from PySide6.QtCore import QSignalBlocker, Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import (
    QCheckBox,
    QDialog,
    QDialogButtonBox,
    QFormLayout,
    QHBoxLayout,
    QLabel,
    QListWidget,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from peristyle.core.errors import PeristyleError
from peristyle.model import addresses
from peristyle.model.address import Address
from peristyle.ui.session import Session
from peristyle.ui.widgets.inputs import ListBox, ValueEdit
from peristyle.words.reading import sentence


class ListAndForm(QDialog):
    """Edits a copy of the job; nothing is changed until it is closed with OK."""

    def __init__(self, parent: QWidget, session: Session, title: str) -> None:
        super().__init__(parent)
        self.setWindowTitle(title)
        self._format, self.job = session.format, session.job
        self._list = QListWidget()
        self._list.setAccessibleName(title)
        self._list.currentRowChanged.connect(lambda _row: self._show())
        self._form = QFormLayout()
        self._page = QWidget()
        self._page.setLayout(self._form)
        self._wrong = QLabel()
        self._wrong.setWordWrap(True)
        self._take: list[Callable[[], bool]] = []
        buttons = QDialogButtonBox(
            QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel
        )
        buttons.accepted.connect(self._finish)
        buttons.rejected.connect(self.reject)
        left, right, columns, whole = QVBoxLayout(), QVBoxLayout(), QHBoxLayout(), QVBoxLayout(self)
        left.addWidget(self._list, 1)
        for widget in self._buttons():
            left.addWidget(widget)
        scroll = QScrollArea()
        scroll.setWidgetResizable(True)
        scroll.setFrameShape(QScrollArea.Shape.NoFrame)
        scroll.setWidget(self._page)
        right.addWidget(scroll, 1)
        right.addWidget(self._wrong)
        columns.addLayout(left, 3)
        columns.addLayout(right, 4)
        self._note = QHBoxLayout()
        whole.addLayout(self._note)
        whole.addLayout(columns, 1)
        whole.addWidget(buttons)

    # --- what each dialog says for itself

    def _buttons(self) -> list[QPushButton]:
        """What can be done with the list."""
        return []

    def _rows(self) -> int:
        """How many there are."""
        raise NotImplementedError

    def _line(self, row: int) -> str:
        """What a row of the list says."""
        raise NotImplementedError

    def _places(self) -> list[Address]:
        """The values of the picked one."""
        raise NotImplementedError

    def _row_of(self, place: Address) -> int:
        """The row that a value belongs to."""
        raise NotImplementedError

    # --- what they share

    def _fill(self, row: int) -> None:
        """The list anew."""
        with QSignalBlocker(self._list):
            self._list.clear()
            for number in range(self._rows()):
                self._list.addItem(self._line(number))
            self._list.setCurrentRow(min(row, self._list.count() - 1))
        self._show()

    def _show(self) -> None:
        """A row for each value of the picked one."""
        while self._form.rowCount():
            self._form.removeRow(0)
        self._take = []
        for place in self._places():
            label = sentence(place.words.partition(": ")[2] or place.words)
            self._form.addRow(label, self._control(place, label))

    def _control(self, place: Address, label: str) -> QWidget:
        kind = place.kind
        if isinstance(kind, kinds.LiteralType):
            box = ListBox()
            for value in kind.values:
                box.addItem(str(value).replace("_", " "), value)
            box.setCurrentIndex(box.findData(place.get(self.job)))
            box.activated.connect(lambda _i: self._put(place, str(box.currentData())))
            box.setAccessibleName(label)
            return box
        if isinstance(kind, kinds.BoolType):
            tick = QCheckBox()
            tick.setChecked(bool(place.get(self.job)))
            tick.setAccessibleName(label)
            tick.toggled.connect(lambda on: self._put(place, "yes" if on else "no"))
            return tick
        line = ValueEdit()
        line.setText(self._text(place))
        line.setAccessibleName(label)
        line.editingFinished.connect(lambda: self._put(place, line.text()))
        self._take.append(lambda: self._put(place, line.text()))
        return line

    def _text(self, place: Address) -> str:
        text = addresses.written(place, self.job)
        return text.replace(".", self._format.decimal) if place.unit in ("mm", "deg", "number") else text

    def _put(self, place: Address, text: str) -> bool:
        """Take what was typed; False, the reason said, where it cannot be read or cannot be."""
        if text == self._text(addresses.find(self.job, place.id)):
            return True
        try:
            job = addresses.put(self.job, place.id, text)
            addresses.sound(job)
        except PeristyleError as error:
            self._wrong.setText(str(error))
            return False
        self._wrong.setText("")
        self.job = job
        row = self._row_of(place)
        self._list.item(row).setText(self._line(row))
        return True

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Enter in a field takes what was typed, and does not close."""
        entered = event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter)
        if entered and not isinstance(self.focusWidget(), QPushButton):
            event.accept()
            return
        super().keyPressEvent(event)

    def _finish(self) -> None:
        """Close, unless something half typed cannot be taken."""
        if all(take() for take in self._take):
            self.accept()
