"""Saw: the operations in order, each with its picture, its setting and its cautions."""

from typing import Final

from PySide6.QtCore import QItemSelectionModel, QModelIndex, QPersistentModelIndex, QSignalBlocker, QSize, Qt
from PySide6.QtWidgets import (
    QLabel,
    QListWidget,
    QListWidgetItem,
    QSplitter,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QVBoxLayout,
    QWidget,
)

from peristyle.drawing.operations import operation_drawing
from peristyle.drawing.shapes import Drawing, Pick
from peristyle.model import edits
from peristyle.model.design import replace, side_name
from peristyle.model.job import revised
from peristyle.planning.making.offering import USES, choices
from peristyle.planning.making.step import Step
from peristyle.planning.setups import check_for
from peristyle.reference.cautions import caution
from peristyle.reference.machines import USUAL_ANGLES
from peristyle.ui.painting import label_font
from peristyle.ui.session import Session
from peristyle.ui.theme import Theme
from peristyle.ui.widgets.choices import Choices
from peristyle.ui.widgets.fresh import FreshView
from peristyle.ui.widgets.order import Order
from peristyle.ui.widgets.sheet import Sheet
from peristyle.ui.widgets.stacked import stacked
from peristyle.ui.widgets.told import Told
from peristyle.ui.wood import WoodStore
from peristyle.words import tools as tool_words
from peristyle.words.reading import sentence
from peristyle.words.steps import first_of_all, how, setting, title

_SAWS = {
    "table_saw": "table saw",
    "miter_saw": "miter saw",
    "chamfer_bit": "chamfer bit",
    "shooting_board": "hand saw and shooting board",
}


_BETWEEN: Final = 4  # around every row (pixels)


class _Rows(QStyledItemDelegate):
    """Rows as high as their text is in the width it is painted in: Qt reckons with that of the whole list."""

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex) -> QSize:
        option.rect = option.rect.adjusted(0, 0, -2 * _BETWEEN, 0)
        return super().sizeHint(option, index)


class View(FreshView):
    """The sequence at the left, one operation large at the right."""

    def __init__(self, session: Session, wood: WoodStore) -> None:
        super().__init__(session)
        self._row = 0
        session.selected.connect(self._turn)
        self._list = QListWidget()
        self._list.setAccessibleName("Operations in order")
        self._list.setFrameShape(QListWidget.Shape.NoFrame)
        self._list.setWordWrap(True)
        self._list.setResizeMode(QListWidget.ResizeMode.Adjust)  # rows are laid out anew where it is wider
        self._list.setSpacing(_BETWEEN)
        self._list.setItemDelegate(_Rows(self._list))
        self._list.currentRowChanged.connect(self._picked)
        self._title, self._setting = QLabel(), QLabel()
        self._how, self._cautions = QLabel(), QLabel()
        for label in (self._title, self._setting, self._how, self._cautions):
            label.setWordWrap(True)
            label.setContentsMargins(18, 4, 18, 4)
            label.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        self._title.setFont(label_font(12.0, False, self.font()))
        self._setting.setFont(label_font(20.0, True, self.font()))
        self._cautions.setFont(label_font(9.5, False, self.font()))
        self.sheet = Sheet(session, wood, self._draw, "Picture of the operation")
        right = QWidget()
        column = QVBoxLayout(right)
        column.setContentsMargins(0, 8, 0, 6)
        column.setSpacing(2)
        self._with = self._tool_bar(session)
        self._told = Told((self._how, self._cautions))
        self.sheet.setMinimumHeight(150)
        for widget, stretch in (
            (self._title, 0),
            (self._setting, 0),
            (self._with, 0),
            (self.sheet, 1),
            (self._told, 0),
        ):
            column.addWidget(widget, stretch)
        split = QSplitter(Qt.Orientation.Horizontal)
        left = QWidget()
        steps = QVBoxLayout(left)
        steps.setContentsMargins(0, 0, 0, 4)
        steps.setSpacing(2)
        steps.addWidget(self._list, 1)
        self.order = Order(session, lambda: self.step)
        steps.addWidget(self.order)
        split.addWidget(left)
        split.addWidget(right)
        split.setSizes([280, 540])
        split.setChildrenCollapsible(False)
        layout = stacked(self)
        layout.addWidget(self._bar(session))
        layout.addWidget(split, 1)
        session.selected.connect(self._follow)
        self._turn()
        self._keep_fresh()

    def heightForWidth(self, _width: int) -> int:
        """The picture gives way to the words: the view is as high as the window has room."""
        return self.minimumHeight()

    def dress(self, theme: Theme) -> None:
        """Take on a theme's colours."""
        self.sheet.dress(theme)

    def _bar(self, session: Session) -> Choices:
        """The machine the bevels are cut with."""
        bar = Choices(session)

        def put(label: str, **changes: object) -> None:
            bar.edit(label, lambda d: revised(d, saw=replace(d.shop.saw, **changes)))

        def tilts() -> bool:
            return session.job.shop.saw.kind not in USUAL_ANGLES

        bar.choice(
            "Bevels cut on",
            lambda: list(_SAWS.items()),
            lambda: session.job.shop.saw.kind,
            lambda kind: bar.edit("Change the machine", lambda d: edits.with_machine(d, kind)),
            "What tilts, and how far; a bit or block gives only its own angles",
        )
        bar.choice(
            "Tilts",
            lambda: (("left", "left"), ("right", "right")),
            lambda: session.job.shop.saw.tilts,
            lambda side: put("Change which way it tilts", tilts=side),
            "Which way the blade leans: keep the piece on the other side",
        )
        bar.only_when(tilts)
        bar.angle(
            "Stop at",
            1.0,
            89.0,
            lambda: session.job.shop.saw.stop_deg,
            lambda v: put("Change the saw's stop", stop_deg=v),
            "How far it tilts; a steeper bevel is cut on end",
        )
        bar.only_when(tilts)
        bar.text(
            "Gives",
            lambda: ("; " if session.decimal == "," else ", ").join(
                session.format.number(v, 3) for v in session.job.shop.saw.stops_deg
            ),
            lambda text: bar.edit("Change its angles", lambda d: edits.with_stops(d, text)),
            "The angles your own bits or blocks give, such as 22.5, 30, 45",
        )
        bar.only_when(lambda: not tilts())
        bar.angle(
            "Set to",
            0.01,
            5.0,
            lambda: session.job.shop.saw.step_deg,
            lambda v: put("Change the saw's steps", step_deg=v),
            "The finest step its scale or gauge shows",
        )
        bar.button(
            "At the saw",
            lambda: session.asked.emit("at_saw"),
            "One step at a time over the whole window (F5)",
        )
        return bar

    def _tool_bar(self, session: Session) -> Choices:
        """What the step shown is done with."""
        bar = Choices(session)

        def offered() -> list[tuple[str, str]]:
            step = self.step
            found = choices(session.plan, step) if step else ()
            return [(one.name, tool_words.choice(one, session.format)) for one in found]

        def now() -> str:
            step = self.step
            use = USES.get(step.operation) if step else None
            return getattr(session.job.shop.uses, use) if use else ""

        def put(name: str) -> None:
            step = self.step
            found = (
                next((one for one in choices(session.plan, step) if one.name == name), None) if step else None
            )
            if step is None or found is None:
                return
            if not found.can:
                session.said.emit(f"{tool_words.choice(found, session.format)}. Nothing is changed.")
                bar.refresh()
                return
            uses = replace(session.job.shop.uses, **{USES[step.operation]: name})
            bar.edit("Choose the tool", lambda d: revised(d, uses=uses))

        bar.choice(
            "Done with", offered, now, put, "What of your tools does this step, and what each would take"
        )
        bar.only_when(lambda: self.step is not None and self.step.operation in USES)
        bar.button(
            "Tools…",
            lambda: session.asked.emit("tools"),
            "Your tools, woods and hardware: add, change, take out",
        )
        bar.button(
            "Set-ups…",
            self._set_up,
            "Check this tool's scales with test pieces: what they say too much stands in every step",
        )
        return bar

    def _set_up(self) -> None:
        """The check of what this step is set by, for the tool it is done with."""
        step = self.step
        check = check_for(self._session.plan.job.shop, step) if step is not None else None
        self._session.asked.emit(f"setups:{check or ''}:{step.tool_name if step is not None else ''}")

    @property
    def step(self) -> Step | None:
        """The operation shown."""
        steps = self._session.plan.steps
        return steps[min(self._row, len(steps) - 1)] if steps else None

    def _draw(self) -> Drawing:
        return operation_drawing(self._session.plan, self.step, self._session.format)

    def tell(self) -> None:
        """The list anew where it changed, and the operation shown."""
        fmt = self._session.format
        lines = [
            f"{number}.  {title(step, fmt)}\n{setting(step, fmt)}"
            for number, step in enumerate(self._session.plan.steps, 1)
        ]
        if lines != [self._list.item(i).text() for i in range(self._list.count())]:
            with QSignalBlocker(self._list):
                self._list.clear()
                for text in lines:
                    self._list.addItem(QListWidgetItem(text))
        self._mark()
        self._say()

    def _mark(self) -> None:
        with QSignalBlocker(self._list):
            row = min(self._row, self._list.count() - 1)
            self._list.setCurrentRow(row, QItemSelectionModel.SelectionFlag.ClearAndSelect)

    def _say(self) -> None:
        step, fmt = self.step, self._session.format
        if step is None:
            self._title.setText("No operations yet")
            for label in (self._setting, self._how, self._cautions):
                label.setText("")
            return
        total = len(self._session.plan.steps)
        self._title.setText(f"{min(self._row, total - 1) + 1} of {total}   {title(step, fmt)}")
        self._setting.setText(sentence(setting(step, fmt)))
        self._how.setText("\n".join((*first_of_all(self._session.job, step, fmt), how(step, fmt))))
        self._cautions.setText("\n".join("▲  " + caution(key, fmt.units) for key in step.cautions))
        self._told.updateGeometry()

    def _picked(self, row: int) -> None:
        if row >= 0:
            self._row = row
            self._session.select(Pick("step", row))

    def _turn(self) -> None:
        """A side picked elsewhere turns to the first operation that cuts it alone or first."""
        chosen = self._session.selection
        if chosen is None:
            return
        if chosen.kind == "step":
            self._row = chosen.index
        elif chosen.kind == "side":
            side = f"side.{side_name(chosen.index)}"
            rows = [
                row
                for row, step in enumerate(self._session.plan.steps)
                if step.operation in ("crosscut", "bevel") and side in step.pieces
            ]
            if rows and self._row not in rows:
                self._row = rows[0]

    def _follow(self) -> None:
        if self.isVisible():
            self._mark()
            self._say()
            self._with.refresh()
