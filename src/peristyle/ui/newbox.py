"""New: one question, and a box is drawn at once."""

from PySide6.QtCore import Qt
from PySide6.QtGui import QFont
from PySide6.QtWidgets import (
    QComboBox,
    QDialog,
    QDialogButtonBox,
    QFormLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QSpinBox,
    QVBoxLayout,
    QWidget,
)

from peristyle.core.errors import PeristyleError
from peristyle.core.lengths import Units
from peristyle.drawing.size import size_drawing
from peristyle.model import edits, fields
from peristyle.model.design import Board, Design, Keys, Measure, Rectangle, Regular, Shape, replace
from peristyle.planning.wrap import suiting_board
from peristyle.ui.session import Session
from peristyle.ui.theme import Theme
from peristyle.ui.widgets.sheet import Sheet
from peristyle.ui.wood import WoodStore

_MM = {"size": "180", "length": "240", "width": "160", "height": "90", "thickness": "9"}
_IN = {"size": "7", "length": "9 1/2", "width": "6 1/4", "height": "3 1/2", "thickness": "3/8"}


class NewBox(QDialog):
    """Asks what is known of the box: its shape and one measure. The ring is drawn as it is typed."""

    def __init__(self, units: Units, wood: WoodStore, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle("New box")
        self.resize(760, 440)
        self._error = QLabel()
        self._error.setWordWrap(True)
        self._fields: dict[str, QLineEdit] = {}
        self._design: Design | None = None
        self._shape, self._measure, self._units = QComboBox(), QComboBox(), QComboBox()
        for key, text in (("rectangle", "Rectangle"), ("regular", "Regular polygon")):
            self._shape.addItem(text, key)
        for key, text in (("mm", "millimetres"), ("in", "inches, in fractions")):
            self._units.addItem(text, key)
        self._units.setCurrentIndex(self._units.findData(units))
        self._sides = QSpinBox()
        self._sides.setRange(3, 24)
        self._sides.setValue(8)
        self._form = QFormLayout()
        self._form.setLabelAlignment(Qt.AlignmentFlag.AlignLeft)
        question = QLabel("What do you know of it?")
        question.setFont(self._big())
        self._form.addRow(question)
        for word, control in (("Shape", self._shape), ("Sides", self._sides), ("Size taken", self._measure)):
            control.setAccessibleName(word)
            self._form.addRow(word, control)
        for key, word in (("size", "Size"), ("length", "Length"), ("width", "Width"),
                          ("height", "Height"), ("thickness", "Thickness of the sides")):  # fmt: skip
            edit = QLineEdit()
            edit.setAccessibleName(word)
            edit.setObjectName(f"new:{key}")
            edit.textEdited.connect(self._follow)
            self._fields[key] = edit
            self._form.addRow(word, edit)
        self._units.setAccessibleName("Units")
        self._form.addRow("Units", self._units)
        self._form.addRow(self._error)
        session = Session(Design(shape=Rectangle(240.0, 160.0)))
        self._session = session
        self._sheet = Sheet(session, wood, lambda: size_drawing(session.plan, session.format), "The new box")
        self._sheet.dress(theme)
        # The preview shows; it is not edited here.
        self._sheet.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        self._buttons = QDialogButtonBox(
            QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel
        )
        self._buttons.button(QDialogButtonBox.StandardButton.Ok).setText("Draw this box")
        self._buttons.accepted.connect(self.accept)
        self._buttons.rejected.connect(self.reject)
        row = QHBoxLayout()
        row.addLayout(self._form, 0)
        row.addWidget(self._sheet, 1)
        whole = QVBoxLayout(self)
        whole.addLayout(row, 1)
        whole.addWidget(self._buttons)
        self._fill_measures()
        self._fill_values()
        # In order: the lists first, then what follows from them.
        self._shape.activated.connect(self._fill_measures)
        self._units.activated.connect(self._fill_values)
        for signal in (self._shape.activated, self._measure.activated, self._units.activated,
                       self._sides.valueChanged):  # fmt: skip
            signal.connect(self._follow)
        self._follow()

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
    def design(self) -> Design | None:
        """The box as asked for, None while something cannot be read."""
        return self._design

    def set_shape(self, kind: str) -> None:
        """Choose the shape, as a click in the list does."""
        self._shape.setCurrentIndex(self._shape.findData(kind))
        self._fill_measures()
        self._follow()

    def _fill_measures(self) -> None:
        keys: tuple[Measure, ...] = ("inside", "outside")
        regular = self._shape.currentData() == "regular"
        if regular:
            keys = ("across_flats", "across_corners", "inside", "outside")
        self._measure.clear()
        for key in keys:
            word = fields.MEASURE_WORDS[key]
            self._measure.addItem(f"side, {word}" if regular and key in ("inside", "outside") else word, key)
        for row, shown in (("size", regular), ("length", not regular), ("width", not regular)):
            self._form.setRowVisible(self._fields[row], shown)
        self._form.setRowVisible(self._sides, regular)

    def _fill_values(self) -> None:
        for key, text in (_IN if self.units == "in" else _MM).items():
            self._fields[key].setText(text)

    def _follow(self) -> None:
        """Read everything again; draw the box or say what cannot be read."""
        try:
            self._design = self._read()
        except PeristyleError as error:
            self._design = None
            self._error.setText(str(error))
        else:
            self._error.setText("")
            self._session.start(self._design)
        self._buttons.button(QDialogButtonBox.StandardButton.Ok).setEnabled(self._design is not None)

    def _read(self) -> Design:
        start = Design(shape=Rectangle(1.0, 1.0), units=self.units)

        def length(key: str, field: fields.Field) -> float:
            return field.parse(start, self._fields[key].text())

        measure: Measure = self._measure.currentData()
        shape: Shape
        if self._shape.currentData() == "regular":
            size = length("size", fields.BOARD_LENGTH._replace(label=lambda _d: "Size"))
            shape = Regular(self._sides.value(), size, measure)
        else:
            line = "inside" if measure == "inside" else "outside"
            shape = Rectangle(
                length("length", fields.BOARD_LENGTH._replace(label=lambda _d: "Length")),
                length("width", fields.BOARD_LENGTH._replace(label=lambda _d: "Width")),
                "inside" if line == "inside" else "outside",
            )
        thick = length("thickness", fields.THICKNESS)
        design = Design(
            name="Untitled box", units=self.units, shape=shape, board=Board(),
            height_mm=length("height", fields.HEIGHT), thicknesses_mm=(thick,),
        )  # fmt: skip
        design = edits.with_panel(design, "bottom", True)
        design = replace(design, keys=Keys(count=2, depth_mm=max(thick * 0.6, round(thick * 1.6) / 2)))
        return replace(design, board=suiting_board(design))
