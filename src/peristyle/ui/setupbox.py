"""Set-ups: a check of a tool with test pieces, what it comes to, kept in the shop and in force from then on."""

from PySide6.QtWidgets import (
    QDialog,
    QDialogButtonBox,
    QFormLayout,
    QHBoxLayout,
    QLabel,
    QListWidget,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from peristyle.core.clock import stamp
from peristyle.core.errors import PeristyleError
from peristyle.core.lengths import Format, parse_angle, parse_count, parse_length
from peristyle.core.setups import Result
from peristyle.devices.saw import SimulatedSaw
from peristyle.drawing.setups import setup_drawing
from peristyle.model.job import Job, SetUpKind
from peristyle.planning.setups import CHECKS, kept, made, worked_out
from peristyle.ui.session import Session
from peristyle.ui.theme import Theme
from peristyle.ui.widgets.inputs import ListBox, ValueEdit
from peristyle.ui.widgets.sheet import Sheet
from peristyle.ui.wood import WoodStore
from peristyle.words import setups as words

_MORE = 4  # lines for pieces where several are read
_MOST = 60


class SetupBox(QDialog):
    """One check at a time: how it is done, what is read, what it comes to. *Keep it* puts it in force."""

    def __init__(
        self,
        parent: QWidget | None,
        session: Session,
        wood: WoodStore,
        theme: Theme,
        kind: str = "",
        tool: str = "",
    ) -> None:
        super().__init__(parent)
        self.setWindowTitle("Set-ups")
        self.job, self._format = session.job, session.format
        self._saw: SimulatedSaw | None = None
        self._lines: list[tuple[str, ValueEdit]] = []
        self._kind_box, self._tool_box = ListBox(), ListBox()
        self._kind_box.setAccessibleName("Check")
        self._tool_box.setAccessibleName("Tool")
        for check in CHECKS:
            self._kind_box.addItem(words.NAMES[check], check)
        self._tool_box.addItem("the saw", "")
        for one in self.job.shop.tools:
            self._tool_box.addItem(one.name, one.name)
        self._kind_box.setCurrentIndex(max(0, self._kind_box.findData(kind or "tilt_pair")))
        self._tool_box.setCurrentIndex(max(0, self._tool_box.findData(tool)))
        self._how, self._result, self._wrong = QLabel(), QLabel(), QLabel()
        self.sheet = Sheet(session, wood, lambda: setup_drawing(self.kind), "How the check is done")
        self.sheet.setMinimumSize(300, 220)
        self.sheet.dress(theme)
        for label in (self._how, self._result, self._wrong):
            label.setWordWrap(True)
        self._form = QFormLayout()
        self._history = QListWidget()
        self._history.setAccessibleName("Checks that were kept")
        self._kind_box.currentIndexChanged.connect(lambda _n: self._show())
        self._lay_out()
        self._show()
        self._tell()
        self.resize(820, 600)
        for button in self.findChildren(QPushButton):
            button.setAutoDefault(False)

    def _lay_out(self) -> None:
        """The check and its tool above, what is read beside the picture, what was kept below."""
        keep, read = QPushButton("&Keep it"), QPushButton("Read a simulated &saw")
        read.setToolTip("A saw with hidden errors cuts the test pieces: to rehearse on")
        keep.clicked.connect(lambda _on=False: self._keep())
        read.clicked.connect(lambda _on=False: self._read())
        buttons = QDialogButtonBox(
            QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel
        )
        buttons.accepted.connect(self.accept)
        buttons.rejected.connect(self.reject)
        top, row, whole = QHBoxLayout(), QHBoxLayout(), QVBoxLayout(self)
        top.addWidget(self._kind_box, 1)
        top.addWidget(self._tool_box)
        row.addWidget(read)
        row.addStretch(1)
        row.addWidget(keep)
        left, both = QVBoxLayout(), QHBoxLayout()
        left.addWidget(self._how)
        left.addLayout(self._form)
        left.addWidget(self._result)
        left.addWidget(self._wrong)
        left.addStretch(1)
        both.addLayout(left, 1)
        both.addWidget(self.sheet, 1)
        whole.addLayout(top)
        whole.addLayout(both, 2)
        whole.addLayout(row)
        whole.addWidget(self._history, 1)
        whole.addWidget(buttons)

    @property
    def kind(self) -> SetUpKind:
        """The check that is shown."""
        return next(one for one in CHECKS if one == self._kind_box.currentData())

    def _show(self) -> None:
        """How the check is done, and a line for everything that is read."""
        while self._form.rowCount():
            self._form.removeRow(0)
        self._how.setText(words.HOW[self.kind])
        self._result.clear()
        check = CHECKS[self.kind]
        self._lines = []
        for key in (*check.reads, *([check.reads[-1]] * _MORE if check.many else [])):
            self._line_for(key)
        self.sheet.refresh()

    def _line_for(self, key: str) -> None:
        """One more line for something that is read."""
        line = ValueEdit()
        line.setAccessibleName(words.READS[key])
        line.textEdited.connect(lambda _text: self._edited())
        self._lines.append((key, line))
        self._form.addRow(f"{words.READS[key]}:", line)

    def _edited(self) -> None:
        """As many lines as there are pieces: one is always free."""
        if CHECKS[self.kind].many and self._lines[-1][1].text() and len(self._lines) < _MOST:
            self._line_for(self._lines[-1][0])
        self._work_out()

    def _readings(self) -> list[float]:
        found = []
        for key, line in self._lines:
            text = line.text().strip()
            if not text:
                continue
            negative = text.startswith(("-", "−"))
            bare = text.lstrip("-−")
            if key.endswith("_deg"):
                value = parse_angle(bare)
            elif key.endswith("_mm"):
                value = 0.0 if bare == "0" else parse_length(bare, self._format.units)
            else:
                value = float(parse_count(bare))
            found.append(-value if negative else value)
        return found

    def _work_out(self) -> Result | None:
        """What is read so far comes to; nothing while it is not enough."""
        self._wrong.clear()
        try:
            found = worked_out(self.kind, self._readings())
        except PeristyleError as error:
            self._result.clear()
            self._wrong.setText(str(error) if all(line.text() for _key, line in self._lines) else "")
            return None
        self._result.setText(words.result(self.kind, found, self._format))
        return found

    def _read(self) -> None:
        """The simulated saw cuts the pieces, and what is measured of them is filled in."""
        self._saw = self._saw or SimulatedSaw(len(self.job.shop.setups) + 1)
        plain = Format("mm")
        read = self._saw.read(self.kind)
        while len(self._lines) < len(read):
            self._line_for(self._lines[-1][0])
        for _key, line in self._lines:
            line.clear()
        for (key, line), value in zip(self._lines, read, strict=False):
            if key.endswith("_deg"):
                line.setText(plain.angle(value))
            elif key.endswith("_mm"):
                line.setText(f"{value:.3f} mm")
            else:
                line.setText(f"{round(value)}")
        self._work_out()

    def _keep(self) -> None:
        """In force from here on, in this box's shop."""
        if self._work_out() is None:
            self._wrong.setText(self._wrong.text() or "Something is not read yet.")
            return
        when = stamp()
        self.job = kept(self.job, made(self.kind, self._tool_box.currentData(), self._readings(), when))
        self._tell()

    def _tell(self) -> None:
        self._history.clear()
        for one in reversed(self.job.shop.setups):
            self._history.addItem(words.line(one, self._format))


def edited(
    parent: QWidget, session: Session, wood: WoodStore, theme: Theme, kind: str = "", tool: str = ""
) -> Job | None:
    """The job with the checks that were kept, the one of a kind for a tool shown first; None where it was given up."""
    box = SetupBox(parent, session, wood, theme, kind, tool)
    return box.job if box.exec() else None
