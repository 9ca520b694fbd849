"""A table of what can be measured, with what is planned: a value typed is kept, and the next row waits."""

from collections.abc import Callable

from PySide6.QtCore import QSignalBlocker, Qt, QTimer
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QAbstractItemView, QHeaderView, QTableWidget, QTableWidgetItem, QWidget

from peristyle.core.errors import PeristyleError
from peristyle.core.lengths import parse_angle, parse_length
from peristyle.model.progress import taken_back, with_measured
from peristyle.planning.fit.quantities import Quantity, measured
from peristyle.ui.session import Session
from peristyle.words import fit as words

_KEYS = (Qt.Key.Key_Delete, Qt.Key.Key_Backspace)


class MeasuredTable(QTableWidget):
    """Rows in the order a maker goes round a box. Enter keeps a value and goes on; Delete takes one back."""

    def __init__(self, session: Session, wrong: Callable[[str], None], parent: QWidget | None = None) -> None:
        super().__init__(0, 3, parent)
        self._session, self._wrong = session, wrong
        self._quantities: list[Quantity] = []
        self.setHorizontalHeaderLabels(["", "planned", "measured"])
        self.setAccessibleName("Measured values")
        self.verticalHeader().setVisible(False)
        self.horizontalHeader().setSectionResizeMode(0, QHeaderView.ResizeMode.Stretch)
        for column in (1, 2):
            self.horizontalHeader().setSectionResizeMode(column, QHeaderView.ResizeMode.ResizeToContents)
        self.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
        self.setEditTriggers(
            QAbstractItemView.EditTrigger.AnyKeyPressed | QAbstractItemView.EditTrigger.DoubleClicked
            | QAbstractItemView.EditTrigger.SelectedClicked
        )  # fmt: skip
        # Once the line it was typed in is gone: what follows changes the rows.
        self.itemChanged.connect(self._changed)

    @property
    def waiting(self) -> Quantity | None:
        """The quantity whose value waits to be typed."""
        row = self.currentRow()
        return self._quantities[row] if 0 <= row < len(self._quantities) else None

    def show_rows(self, rows: list[Quantity]) -> None:
        """These rows, with what was measured of them."""
        fmt, values = self._session.format, measured(self._session.job)
        at = self.currentRow()
        with QSignalBlocker(self):
            self._quantities = rows
            self.setRowCount(len(rows))
            for number, one in enumerate(rows):
                seen = values.get(one.name)
                planned = "" if one.planned is None else words.value(one, one.planned, fmt)
                name = words.quantity(one)
                # In a narrow window there is no room to say of each that it is a side's.
                texts = (
                    name.removeprefix("side "),
                    planned,
                    words.value(one, seen.value, fmt) if seen else "",
                )
                for column, text in enumerate(texts):
                    item = self.item(number, column)
                    if item is None:
                        item = QTableWidgetItem()
                        if column < 2:
                            item.setFlags(Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable)
                        self.setItem(number, column, item)
                    item.setText(text)
                    if column == 0:
                        item.setToolTip(name)
                        item.setData(Qt.ItemDataRole.AccessibleTextRole, name)
                    if column == 2:
                        item.setToolTip(
                            f"With the {one.gauge}. Enter keeps it and goes on; Delete takes it back."
                        )
        if rows:
            self.setCurrentCell(min(max(at, 0), len(rows) - 1), 2)

    def fill(self, text: str) -> None:
        """What a gauge types: the value that waits is filled, and the next row waits."""
        item = self.item(self.currentRow(), 2)
        if item is not None:
            item.setText(text)

    def _changed(self, item: QTableWidgetItem) -> None:
        row, column = item.row(), item.column()
        QTimer.singleShot(0, self, lambda: self._typed(row, column))

    def _typed(self, row: int, column: int) -> None:
        item = self.item(row, column)
        if item is None or column != 2 or row >= len(self._quantities):
            return
        text = item.text().strip()
        one = self._quantities[row]
        if not text:
            self._session.change(f"Take back {words.quantity(one)}", lambda job: taken_back(job, one.name))
            return
        try:
            value = (
                parse_angle(text) if one.unit == "deg" else parse_length(text, self._session.job.design.units)
            )
        except PeristyleError as error:
            self._wrong(f"{words.quantity(one)}: {error}")
            seen = measured(self._session.job).get(one.name)
            with QSignalBlocker(self):
                item.setText(words.value(one, seen.value, self._session.format) if seen else "")
            return
        self._wrong("")
        self.setCurrentCell(min(row + 1, self.rowCount() - 1), 2)
        label = f"Measured: {words.quantity(one)}"
        self._session.change(label, lambda job: with_measured(job, one.name, value, one.gauge))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Delete takes the value of the row back."""
        one = self.waiting
        if event.key() in _KEYS and one is not None:
            if one.name in measured(self._session.job):
                self._session.change(
                    f"Take back {words.quantity(one)}", lambda job: taken_back(job, one.name)
                )
            return
        super().keyPressEvent(event)
