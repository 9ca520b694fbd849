"""The maker's tools: a list, and what there is to say of the one picked."""

from collections.abc import Callable
from functools import partial
from typing import get_args

from msgspec import inspect as kinds
from PySide6.QtCore import QSignalBlocker, Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import (
    QDialog,
    QDialogButtonBox,
    QFormLayout,
    QHBoxLayout,
    QLabel,
    QListWidget,
    QMenu,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from peristyle.core.errors import PeristyleError
from peristyle.model import addresses
from peristyle.model.address import Address
from peristyle.model.job import Job, Shop, revised
from peristyle.model.tools import MOST_TOOLS, Tool
from peristyle.ui.session import Session
from peristyle.ui.widgets.inputs import ListBox, ValueEdit
from peristyle.words import tools as words
from peristyle.words.reading import sentence

_SAW = "shop.saw."


class Toolbox(QDialog):
    """Edits a copy of the job's tools; nothing is changed until it is closed with OK."""

    def __init__(self, parent: QWidget, session: Session, mine: Shop | None) -> None:
        super().__init__(parent)
        self.setWindowTitle("Tools")
        self._format, self.job, self._mine = session.format, session.job, mine
        # Whether the tools shown are the maker's own, to be kept for other boxes too.
        self.own = mine is None or (mine.saw, mine.tools) == (self.job.shop.saw, self.job.shop.tools)
        self._list = QListWidget()
        self._list.setAccessibleName("Tools")
        self._list.currentRowChanged.connect(lambda _row: self._show())
        self._form = QFormLayout()
        self._page = QWidget()
        self._page.setLayout(self._form)
        self._wrong = QLabel()
        self._wrong.setWordWrap(True)
        self._take: list[Callable[[], bool]] = []
        add = QPushButton("Add a tool")
        menu = QMenu(add)
        for kind in get_args(Tool):
            menu.addAction(words.KINDS[kind]).triggered.connect(partial(self._add, kind))
        add.setMenu(menu)
        self._remove = QPushButton("Take it out")
        self._remove.clicked.connect(lambda _on=False: self._take_out())
        buttons = QDialogButtonBox(
            QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel
        )
        buttons.accepted.connect(self._finish)
        buttons.rejected.connect(self.reject)
        left, right, columns, whole = QVBoxLayout(), QVBoxLayout(), QHBoxLayout(), QVBoxLayout(self)
        left.addWidget(self._list, 1)
        for widget in (add, self._remove):
            left.addWidget(widget)
        right.addWidget(self._page)
        right.addStretch(1)
        right.addWidget(self._wrong)
        columns.addLayout(left, 3)
        columns.addLayout(right, 4)
        self._note = QHBoxLayout()
        whole.addLayout(self._note)
        whole.addLayout(columns, 1)
        whole.addWidget(buttons)
        self._say_whose()
        self._fill(0)
        room = parent.screen().availableGeometry()
        self.resize(min(720, room.width() - 8), min(480, room.height() - 40))

    def _say_whose(self) -> None:
        """Where the box was planned with other tools than the maker's own, say so and offer those."""
        if self.own:
            return
        told = QLabel("This box was planned with other tools than your own.")
        mine = QPushButton("Take my own")
        mine.clicked.connect(lambda _on=False: self._take_mine())
        self._note.addWidget(told, 1)
        self._note.addWidget(mine)

    def _take_mine(self) -> None:
        assert self._mine is not None
        self.job = revised(self.job, saw=self._mine.saw, tools=self._mine.tools)
        self.own = True
        self._fill(0)

    def _fill(self, row: int) -> None:
        """The list anew: the saw first."""
        with QSignalBlocker(self._list):
            self._list.clear()
            for number in range(len(self.job.shop.tools) + 1):
                self._list.addItem(self._line(number))
            self._list.setCurrentRow(min(row, self._list.count() - 1))
        self._show()

    def _line(self, row: int) -> str:
        """What a row of the list says: the saw first, then the tools."""
        if row == 0:
            saw = self.job.shop.saw
            return (
                f"The saw: {saw.kind.replace('_', ' ')}, kerf {self._format.length(saw.kerf_mm, unit=True)}"
            )
        tool = self.job.shop.tools[row - 1]
        return f"{tool.name}: {words.line(tool, self._format)}"

    def _places(self) -> list[Address]:
        """The values of the tool that is picked."""
        row = self._list.currentRow()
        head = _SAW if row <= 0 else f"shop.tools.{row}."
        known = [one for one in addresses.addresses(self.job) if one.id.startswith(head)]
        return [one for one in known if not one.id.endswith(".kind") or head == _SAW]

    def _show(self) -> None:
        """A row for each value of the picked tool."""
        while self._form.rowCount():
            self._form.removeRow(0)
        self._take = []
        for place in self._places():
            label = sentence(place.words.partition(": ")[2] or place.words)
            self._form.addRow(label, self._control(place, label))
        self._remove.setEnabled(self._list.currentRow() > 0)

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
        line = ValueEdit()
        line.setText(self._text(place))
        line.setAccessibleName(label)
        line.editingFinished.connect(lambda: self._put(place, line.text()))
        self._take.append(lambda: self._put(place, line.text()))
        return line

    def _text(self, place: Address) -> str:
        text = addresses.written(place, self.job)
        return text.replace(".", self._format.decimal) if place.unit in ("mm", "deg") else text

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
        row = 0 if place.id.startswith(_SAW) else int(place.id.split(".")[2])
        self._list.item(row).setText(self._line(row))
        return True

    def _add(self, kind: type[Tool], _on: bool = False) -> None:
        """A new tool of a kind, with a name that no other has."""
        tools = self.job.shop.tools
        if len(tools) >= MOST_TOOLS:
            self._wrong.setText(f"There are {MOST_TOOLS} tools already: take one out first.")
            return
        names, base, number = {tool.name for tool in tools}, kind().name, 2
        name = base
        while name in names:
            name, number = f"{base} {number}", number + 1
        self.job = revised(self.job, tools=(*tools, kind(name=name)))
        self._fill(len(tools) + 1)

    def _take_out(self) -> None:
        """The picked tool goes; what it did goes back to the saw."""
        row = self._list.currentRow()
        if row > 0:
            tools = self.job.shop.tools
            self.job = revised(self.job, tools=(*tools[: row - 1], *tools[row:]))
            self._fill(row - 1)

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


def edited(parent: QWidget, session: Session, mine: Shop | None) -> tuple[Job, bool] | None:
    """The job with its tools as the maker left them, and whether they are his own; None where it was given up."""
    box = Toolbox(parent, session, mine)
    return (box.job, box.own) if box.exec() else None
