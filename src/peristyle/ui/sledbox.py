"""The sled: the table's sizes, the drawing, its parts and how it is made."""

from typing import Final

from PySide6.QtWidgets import (
    QDialog,
    QDialogButtonBox,
    QFormLayout,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QTextBrowser,
    QVBoxLayout,
    QWidget,
)

from peristyle.core.errors import PeristyleError
from peristyle.core.lengths import parse_length
from peristyle.drawing.shapes import Drawing
from peristyle.drawing.sled import sled_drawing
from peristyle.model.design import replace
from peristyle.model.faults import breaches
from peristyle.model.job import Job
from peristyle.planning.plan import plan
from peristyle.planning.sled import Sled, sled
from peristyle.ui.session import Session
from peristyle.ui.theme import Theme
from peristyle.ui.widgets.inputs import ListBox, ValueEdit
from peristyle.ui.widgets.sheet import Sheet
from peristyle.ui.wood import WoodStore
from peristyle.words import sled as words

_SIZES: Final = {
    "slot_mm": "Blade to middle of the slot", "slot_wide_mm": "Slot, wide", "slot_deep_mm": "Slot, deep",
    "blade_high_mm": "Blade rises, upright", "base_mm": "Sheet of the base", "layer_mm": "Sheet of the fence",
}  # fmt: skip
_SIDES: Final = {"away": "the side the blade leans away from", "under": "the side the blade leans over"}


class SledBox(QDialog):
    """The table on the left with the drawing, what follows on the right. Raises PeristyleError where no sled is of use;
    sizes for which there is none are said, and what was shown stays.
    """

    def __init__(self, parent: QWidget | None, session: Session, wood: WoodStore, theme: Theme) -> None:
        super().__init__(parent)
        self.setWindowTitle("The sled")
        self.job, self._format = session.job, session.format
        self.sheet_wanted = False
        self._made: Sled | None = None
        self._wrong, self._told = QLabel(), QTextBrowser()
        self._wrong.setWordWrap(True)
        self._told.setAccessibleName("Parts of the sled, and how it is made")
        self._side = ListBox()
        self._side.setAccessibleName("Where the slot is")
        for key, text in _SIDES.items():
            self._side.addItem(text, key)
        self._side.setCurrentIndex(list(_SIDES).index(self.job.shop.table.slot_side))
        self._lines = {key: ValueEdit() for key in _SIZES}
        form = QFormLayout()
        for key, line in self._lines.items():
            line.setText(self._format.length(getattr(self.job.shop.table, key)))
            line.setAccessibleName(_SIZES[key])
            line.editingFinished.connect(self._take)
            form.addRow(f"{_SIZES[key]}:", line)
        form.addRow("The slot is on:", self._side)
        self._side.currentIndexChanged.connect(lambda _n: self._take())
        self.sheet = Sheet(session, wood, self._draw, "The sled from its end and from above")
        self.sheet.dress(theme)
        self._show(self.job)
        pdf = QPushButton("&Save as PDF…")
        pdf.clicked.connect(lambda _on=False: self._want())
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Close)
        buttons.rejected.connect(self.accept)
        buttons.addButton(pdf, QDialogButtonBox.ButtonRole.ActionRole)
        left, both, whole = QVBoxLayout(), QHBoxLayout(), QVBoxLayout(self)
        left.addLayout(form)
        left.addWidget(self._wrong)
        left.addWidget(self.sheet, 1)
        both.addLayout(left, 3)
        both.addWidget(self._told, 2)
        whole.addLayout(both, 1)
        whole.addWidget(buttons)
        self.resize(1040, 680)
        for button in self.findChildren(QPushButton):
            button.setAutoDefault(False)

    def _take(self) -> None:
        """What was typed of the table, where it can be: else the reason."""
        try:
            sizes = {
                key: parse_length(line.text(), self._format.units)
                for key, line in self._lines.items()
                if line.text() != self._format.length(getattr(self.job.shop.table, key))
            }
            table = replace(self.job.shop.table, slot_side=self._side.currentData(), **sizes)
            job = replace(self.job, shop=replace(self.job.shop, table=table))
            wrong = breaches(job)
            if wrong:
                raise PeristyleError(f"This cannot be: {wrong[0]}.")
            self._show(job)
        except PeristyleError as error:
            self._wrong.setText(str(error))

    def _show(self, job: Job) -> None:
        self._made = sled(plan(job))
        self.job = job
        self._wrong.clear()
        fmt = self._format
        parts = "".join(f"<li>{words.part(one, fmt)}</li>" for one in self._made.parts)
        steps = "".join(f"<li>{text}</li>" for text in words.steps(self._made, fmt))
        minds = "".join(f"<li>{text}</li>" for text in words.cautions(self._made, fmt))
        self._told.setHtml(f"<ul>{parts}</ul><ol>{steps}</ol><p><b>To mind</b></p><ul>{minds}</ul>")
        self.sheet.refresh()

    def _draw(self) -> Drawing:
        return sled_drawing(self._made, self._format) if self._made is not None else Drawing()

    def _want(self) -> None:
        self.sheet_wanted = True
        self.accept()
