"""New: one question, and a box is drawn at once."""

from PySide6.QtCore import QSignalBlocker, Qt
from PySide6.QtGui import QFont, QKeyEvent
from PySide6.QtWidgets import (
    QDialog,
    QDialogButtonBox,
    QFormLayout,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from peristyle.core.errors import PeristyleError
from peristyle.core.lengths import Format, Units, parse_length
from peristyle.drawing.size import size_drawing
from peristyle.model import edits, fields
from peristyle.model.design import Keys, Line, Measure, Rectangle, Regular, Shape, Thing, replace
from peristyle.model.faults import breaches, listed
from peristyle.model.job import Job, Saw, job_of, revised
from peristyle.model.starts import begun, tools_in
from peristyle.model.stock import Board
from peristyle.planning.inside.contents import sized, suiting_height
from peristyle.planning.plan import plan
from peristyle.planning.stock.largest import largest
from peristyle.planning.stock.wrap import suiting_board
from peristyle.ui.session import Session
from peristyle.ui.theme import Theme
from peristyle.ui.widgets.inputs import CountBox, ListBox, ValueEdit
from peristyle.ui.widgets.sheet import Sheet
from peristyle.ui.wood import WoodStore

_MM = {"size": "180", "length": "240", "width": "160", "height": "90", "thickness": "9",
       "board_length": "1200", "board_width": "120", "board_thickness": "10"}  # fmt: skip
_IN = {"size": "7", "length": "9 1/2", "width": "6 1/4", "height": "3 1/2", "thickness": "3/8",
       "board_length": "48", "board_width": "5", "board_thickness": "1/2"}  # fmt: skip
_WORDS = {
    "size": "Size", "length": "Length", "width": "Width", "thing_length": "Each is long", "thing_width": "Each is wide",
    "thing_height": "Each is high", "board_length": "Board length", "board_width": "Board width",
    "board_thickness": "Board thickness", "height": "Height", "thickness": "Thickness of the sides",
}  # fmt: skip
_KNOWN = (("size", "its size"), ("holds", "what it holds"), ("board", "the board"))


class NewBox(QDialog):
    """Asks what is known of the box: its size, what it holds, or the board. The ring is drawn as it is typed."""

    def __init__(self, units: Units, wood: WoodStore, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle("New box")
        self.resize(760, 440)
        self._error = QLabel()
        self._error.setWordWrap(True)
        self._fields: dict[str, ValueEdit] = {}
        self._typed: set[str] = set()  # what the maker typed: it outlives a change of units
        self._written: Units = units
        self._regular = False
        self._design: Job | None = None
        self._shape, self._measure, self._units = ListBox(), ListBox(), ListBox()
        self._known, self._what = ListBox(), ListBox()
        for key, text in _KNOWN:
            self._known.addItem(text, key)
        for key, text in edits.HOLDS_WORDS.items():
            self._what.addItem(text, key)
        self._count = CountBox(None, 1, 1000)
        for key, text in (("rectangle", "Rectangle"), ("regular", "Regular polygon")):
            self._shape.addItem(text, key)
        for key, text in (("mm", "millimetres"), ("in", "inches, in fractions")):
            self._units.addItem(text, key)
        self._units.setCurrentIndex(self._units.findData(units))
        self._sides = CountBox(None, 3, 24)
        self._sides.setValue(8)
        self._ask()
        session = Session(job_of(shape=Rectangle(240.0, 160.0)))
        self._session = session
        self._sheet = Sheet(session, wood, lambda: size_drawing(session.plan, session.format), "The new box")
        self._sheet.dress(theme)
        self._following = False
        session.filed.connect(self._drawn_on)
        session.said.connect(self._error.setText)
        self._buttons = QDialogButtonBox(
            QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel
        )
        self._buttons.button(QDialogButtonBox.StandardButton.Ok).setText("Draw this box")
        for button in self._buttons.findChildren(QPushButton):
            button.setAutoDefault(False)  # Enter in a field enters it, and nothing more
        self._buttons.accepted.connect(self.accept)
        self._buttons.rejected.connect(self.reject)
        row = QHBoxLayout()
        row.addLayout(self._form, 0)
        row.addWidget(self._sheet, 1)
        whole = QVBoxLayout(self)
        whole.addLayout(row, 1)
        whole.addWidget(self._buttons)
        self._thing = edits.HOLDS[self._what.currentData()]
        self._fill_measures()
        self._fill_values()
        # In order: the lists first, then what follows from them.
        self._known.activated.connect(self._fill_measures)
        self._shape.activated.connect(self._fill_measures)
        self._units.activated.connect(self._convert)
        self._what.activated.connect(self._fill_things)
        for signal in (self._known.activated, self._what.activated, self._shape.activated, self._measure.activated,
                       self._units.activated, self._sides.valueChanged, self._count.valueChanged):  # fmt: skip
            signal.connect(self._follow)
        self._follow()

    def _ask(self) -> None:
        """The question and the fields it is answered in."""
        self._form = QFormLayout()
        self._form.setLabelAlignment(Qt.AlignmentFlag.AlignLeft)
        question = QLabel("What do you know of it?")
        question.setFont(self._big())
        self._form.addRow(question)
        self._units.setAccessibleName("Units")
        self._form.addRow("Units", self._units)
        asked: tuple[tuple[str, QWidget], ...] = (
            ("I know", self._known), ("Shape", self._shape), ("Sides", self._sides),
            ("Size taken", self._measure), ("It holds", self._what), ("How many", self._count),
        )  # fmt: skip
        for word, control in asked:
            control.setAccessibleName(word)
            self._form.addRow(word, control)
        for key, word in _WORDS.items():
            edit = ValueEdit()
            edit.setAccessibleName(word)
            edit.setObjectName(f"new:{key}")
            edit.textEdited.connect(self._follow)
            edit.textEdited.connect(lambda _text, key=key: self._typed.add(key))
            self._fields[key] = edit
            self._form.addRow(word, edit)
        self._form.addRow(self._error)

    def _big(self) -> QFont:
        font = self.font()
        font.setPointSizeF(font.pointSizeF() * 1.3)
        font.setBold(True)
        return font

    @property
    def units(self) -> Units:
        """The units chosen."""
        return "in" if self._units.currentData() == "in" else "mm"

    @property
    def job(self) -> Job | None:
        """The box as asked for, None while something cannot be read."""
        return self._design

    def set_shape(self, kind: str) -> None:
        """Choose the shape, as a click in the list does."""
        self._shape.setCurrentIndex(self._shape.findData(kind))
        self._fill_measures()
        self._follow()

    def set_known(self, what: str) -> None:
        """Choose what is known, as a click in the list does."""
        self._known.setCurrentIndex(self._known.findData(what))
        self._fill_measures()
        self._follow()

    def _fill_measures(self) -> None:
        keys: tuple[Measure, ...] = ("inside", "outside")
        regular = self._shape.currentData() == "regular"
        if regular:
            keys = ("across_flats", "across_corners", "inside", "outside")
        before = self._measure.currentData()
        self._measure.clear()
        for key in keys:
            word = fields.MEASURE_WORDS[key]
            self._measure.addItem(f"side, {word}" if regular and key in ("inside", "outside") else word, key)
        if regular == self._regular:  # another shape begins with what is usual for it
            self._measure.setCurrentIndex(max(0, self._measure.findData(before)))
        self._regular = regular
        known = self._known.currentData()
        thing = edits.HOLDS[self._what.currentData()]
        shown = {
            "size": known == "size" and regular,
            "length": known != "holds" and not regular,
            "width": known != "holds" and not regular,
            "height": known != "holds",
            "thickness": True,
        }
        for name, edit in self._fields.items():
            group = name.split("_")[0]
            there = shown.get(name, group == {"holds": "thing", "board": "board"}.get(known))
            self._form.setRowVisible(edit, there and not (name == "thing_width" and thing.round))
        # The board gives the size: length and width are its proportions.
        self._say("length", "Length" if known == "size" else "Long, in proportion")
        self._say("width", "Width" if known == "size" else "to wide")
        self._say("thing_length", "Across each" if thing.round else _WORDS["thing_length"])
        self._form.setRowVisible(self._sides, regular)
        self._form.setRowVisible(self._measure, known == "size")
        for control in (self._what, self._count):
            self._form.setRowVisible(control, known == "holds")

    def _say(self, key: str, word: str) -> None:
        label = self._form.labelForField(self._fields[key])
        if isinstance(label, QLabel):
            label.setText(word)
        self._fields[key].setAccessibleName(word)

    def _convert(self) -> None:
        """What was typed, in the other units; what was not, the sizes that boxes begin with in them."""
        fmt, kept = Format(self.units), {}
        for key in self._typed:
            try:
                kept[key] = fmt.length(parse_length(self._fields[key].text(), self._written))
            except PeristyleError:
                kept[key] = self._fields[key].text()
        self._fill_values()
        for key, text in kept.items():
            self._fields[key].setText(text)

    def _fill_values(self) -> None:
        for key, text in (_IN if self.units == "in" else _MM).items():
            self._fields[key].setText(text)
        self._written = self.units
        self._fill_things()

    def _fill_things(self) -> None:
        """The sizes that such things usually have."""
        thing = self._thing = edits.HOLDS[self._what.currentData()]
        fmt = Format(self.units)
        for key in ("length", "width", "height"):
            self._fields[f"thing_{key}"].setText(fmt.length(getattr(thing, f"{key}_mm")))
        self._count.setValue(thing.count)
        self._fill_measures()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Enter presses the button that has the focus; in a field it does not close the dialog."""
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            focus = self.focusWidget()
            if isinstance(focus, QPushButton) and focus.isEnabled():
                focus.click()
            return
        super().keyPressEvent(event)

    def accept(self) -> None:
        """What is half typed in the drawing counts; what cannot be read keeps the dialog open."""
        if self._session.take_typed() and self._design is not None:
            super().accept()

    def _drawn_on(self) -> None:
        """A size typed or dragged on the drawing counts, and the fields beside it say so."""
        if self._following:
            return
        self._design = self._session.job
        fmt, job, shape = Format(self.units), self._design, self._session.job.design.form.shape
        shown = {"height": job.design.form.height_mm, "thickness": job.design.form.thicknesses_mm[0]}
        if isinstance(shape, Regular):
            shown["size"] = shape.size_mm
        elif isinstance(shape, Rectangle):
            shown |= {"length": shape.length_mm, "width": shape.width_mm}
        if job.design.inside.contents:
            self._thing = job.design.inside.contents[0]
            for name in ("length", "width", "height"):
                shown[f"thing_{name}"] = getattr(self._thing, f"{name}_mm")
            with QSignalBlocker(self._count):
                self._count.setValue(self._thing.count)
        for key, mm in shown.items():
            self._fields[key].setText(fmt.length(mm))
        self._error.setText("")

    def _follow(self) -> None:
        """Read everything again; draw the box or say what cannot be read."""
        try:
            made = self._read()
            wrong = breaches(made)
            if wrong:
                raise PeristyleError(f"This box cannot be kept: {listed(wrong[:2])}.")
        except PeristyleError as error:
            self._design = None
            self._error.setText(str(error))
        else:
            self._design = made
            self._error.setText("")
            self._following = True
            self._session.start(made)
            self._following = False
        self._buttons.button(QDialogButtonBox.StandardButton.Ok).setEnabled(self._design is not None)

    def _read(self) -> Job:
        """The box as asked for. Raises PeristyleError that says what cannot be read."""
        known = self._known.currentData()
        thick = self._length("thickness", fields.THICKNESS)
        job = job_of(
            name="Untitled box",
            units=self.units,
            shape=self._read_shape(known),
            thicknesses_mm=(thick,),
            board=begun(Board, self.units),
            saw=begun(Saw, self.units),
            tools=tools_in(self.units),
        )
        job = edits.with_panel(job, "bottom", True)
        if known == "holds":
            job = revised(
                job, contents=(self._read_thing(),), lining_mm=self._session.job.design.inside.lining_mm
            )
            job = sized(revised(job, height_mm=suiting_height(job.design)))
        else:
            job = revised(job, height_mm=self._length("height", fields.HEIGHT))
        job = _keyed(job)
        return (
            self._from_board(job)
            if known == "board"
            else revised(job, board=suiting_board(job), as_needed=True)
        )

    def _length(self, key: str, field: fields.Field | None = None) -> float:
        start = job_of(shape=Rectangle(1.0, 1.0), units=self.units)
        field = field or fields.BOARD_LENGTH._replace(label=lambda _d: self._fields[key].accessibleName())
        return field.parse(start, self._fields[key].text())

    def _read_shape(self, known: str) -> Shape:
        regular = self._shape.currentData() == "regular"
        if known == "holds":  # sized from what it holds
            return Regular(self._sides.value(), 1.0, "inside") if regular else Rectangle(1.0, 1.0, "inside")
        measure: Measure = self._measure.currentData() if known == "size" else "outside"
        if regular:
            return Regular(self._sides.value(), self._length("size") if known == "size" else 100.0, measure)
        line: Line = "inside" if measure == "inside" else "outside"
        return Rectangle(self._length("length"), self._length("width"), line)

    def _read_thing(self) -> Thing:
        thing = self._thing  # with what was said of it on the drawing
        long = self._length("thing_length")
        wide = long if thing.round else self._length("thing_width")
        return replace(
            thing,
            count=self._count.value(),
            length_mm=long,
            width_mm=wide,
            height_mm=self._length("thing_height"),
        )

    def _from_board(self, job: Job) -> Job:
        board = replace(
            job.stock.board, length_mm=self._length("board_length"), width_mm=self._length("board_width"),
            thickness_mm=self._length("board_thickness"),
        )  # fmt: skip
        found = largest(revised(job, board=board))
        if found is None:
            raise PeristyleError(
                "No such box comes from this board: make it lower, of thinner sides, or take a larger board."
            )
        return found.job


def _keyed(job: Job) -> Job:
    """With a pair of keys, or with one nearer to the edges where a pair finds no place in so low a box."""
    thick = job.design.form.thicknesses_mm[0]
    fmt, units = Format(job.design.units), job.design.units
    pair = begun(Keys, units, count=2, depth_mm=max(thick * 0.6, fmt.down(thick * 0.8)))
    margin = fmt.down(min(pair.edge_margin_mm, job.design.form.height_mm * 0.2))
    one = replace(pair, count=1, edge_margin_mm=margin)
    tried = [revised(job, keys=keys) for keys in (pair, one)]
    stopped = [
        any(f.code.startswith("key") and f.severity == "stop" for f in plan(d).findings) for d in tried
    ]
    return tried[1] if stopped == [True, False] else tried[0]
