"""At the saw: one step at a time, to be read from two metres, worked with a few keys."""

import time
from typing import Final

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QKeyEvent, QResizeEvent, QShowEvent
from PySide6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QScrollArea, QSizePolicy, QVBoxLayout, QWidget

from peristyle.core import clock
from peristyle.core.errors import LengthError
from peristyle.core.lengths import parse_length
from peristyle.drawing.operations import operation_drawing
from peristyle.drawing.shapes import Drawing
from peristyle.model import progress
from peristyle.model.design import replace
from peristyle.model.job import Entry, Job
from peristyle.planning.fit.as_cut import cut_before
from peristyle.planning.making.asdone import total_of, values_of
from peristyle.planning.making.step import Step
from peristyle.reference.cautions import caution
from peristyle.ui.guard import kept_in
from peristyle.ui.painting import label_font
from peristyle.ui.session import Session
from peristyle.ui.theme import Theme
from peristyle.ui.widgets.sheet import Sheet
from peristyle.ui.wood import WoodStore
from peristyle.words.reading import sentence
from peristyle.words.steps import first_of_all, how, setting, title, tool

# Operations that are done piece by piece, or cut by cut: each is counted.
# What is worth measuring after an operation: the quantity, its words, and the gauge that says what is planned.
_MEASURED: Final = {
    "plane": ("thickness_mm", "thickness", "thickness"),
    "thin": ("thickness_mm", "thickness", "thickness"),
    "rip": ("width_mm", "width", "width"),
    "crosscut": ("length_mm", "length", "stop"),
    "panel": ("length_mm", "length", "stop"),
    "divider": ("length_mm", "length", "stop"),
    "block": ("length_mm", "length", "stop"),
}
_LEAST_MIN, _MOST_MIN = 0.5, 240.0  # what was done faster or slower was not timed, but caught up on
_REFUSED: Final = "this box cannot be built so: leave, and see why"
_KEYS: Final = "Space: done  ·  Page Up: back  ·  Page Down: on  ·  digits and Enter: measured  ·  Esc: leave"


class AtSaw(QWidget):
    """The whole window for one step. What is done and measured is kept in the job, and can be undone."""

    left = Signal()

    def __init__(self, session: Session, wood: WoodStore, under: QWidget) -> None:
        super().__init__(under)
        self._under = under
        self.hide()
        self.setAutoFillBackground(True)
        self._session = session
        self._at = ""
        self._typed = ""
        self._since = time.monotonic()
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("At the saw")
        self._count, self._title, self._setting = QLabel(), QLabel(), QLabel()
        self._how, self._cautions, self._measured, self._next = QLabel(), QLabel(), QLabel(), QLabel()
        self._sizes = (
            (self._count, 16.0, False), (self._title, 22.0, False), (self._setting, 34.0, True),
            (self._how, 16.0, False), (self._cautions, 14.0, False), (self._measured, 18.0, True),
            (self._next, 14.0, False),
        )  # fmt: skip
        for label, _size, _bold in self._sizes:
            label.setWordWrap(True)
            label.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Minimum)
        self.sheet = Sheet(session, wood, self._draw, "Picture of the operation")
        self.sheet.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        text = QWidget()
        told = QVBoxLayout(text)
        told.setContentsMargins(0, 0, 0, 0)
        told.setSpacing(14)
        for label in (self._how, self._cautions):
            told.addWidget(label)
        told.addStretch(1)
        # No caution is ever cut off: what a small window has no room for is scrolled to.
        area = QScrollArea()
        area.setWidget(text)
        area.setWidgetResizable(True)
        area.setFrameShape(QScrollArea.Shape.NoFrame)
        area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        middle = QHBoxLayout()
        middle.setSpacing(24)
        middle.addWidget(self.sheet, 3)
        middle.addWidget(area, 2)
        column = QVBoxLayout(self)
        column.setContentsMargins(36, 20, 36, 16)
        column.setSpacing(8)
        for label in (self._count, self._title, self._setting):
            column.addWidget(label)
        column.addLayout(middle, 1)
        for label in (self._measured, self._next):
            column.addWidget(label)
        column.addLayout(self._buttons())
        session.changed.connect(self.refresh)

    def _buttons(self) -> QHBoxLayout:
        """The same as the keys, for a hand on the mouse."""
        row = QHBoxLayout()
        for words, do in (
            ("Back", self.back),
            ("Done", self.done),
            ("On", self.on),
            ("Leave", self.left.emit),
        ):
            button = QPushButton(words)
            button.setFont(label_font(14.0, False, self.font()))
            button.setFocusPolicy(Qt.FocusPolicy.NoFocus)  # Space is Done, wherever the hand was last
            button.clicked.connect(lambda _on=False, act=do: act())
            row.addWidget(button)
        hint = QLabel(_KEYS)
        hint.setWordWrap(True)
        row.addWidget(hint, 1)
        return row

    @kept_in
    def showEvent(self, event: QShowEvent) -> None:
        """Begin where the work stands."""
        super().showEvent(event)
        self._since = time.monotonic()
        before = cut_before(self._session.plan)
        left = [
            s
            for s in self._session.plan.steps
            if s.id not in before and progress.done_of(self._session.job, s.id) < total_of(s)
        ]
        steps = left or list(self._session.plan.steps)
        self._go(steps[0] if steps else None)
        self.setFocus()

    def resizeEvent(self, event: QResizeEvent) -> None:
        """As large as the window lets it be."""
        super().resizeEvent(event)
        scale = min(1.4, max(0.7, min(self.height() / 770, self.width() / 1280)))
        for label, size, bold in self._sizes:
            label.setFont(label_font(size * scale, bold, self.font()))

    def cover(self) -> None:
        """Lie over all that is under it."""
        self.setGeometry(self._under.rect())
        self.show()
        self.raise_()
        self.setFocus()

    def focusNextPrevChild(self, _forward: bool) -> bool:
        """Tab leads nowhere: what lies under it must not get the keys."""
        return False

    def dress(self, theme: Theme) -> None:
        """Take on a theme's colours."""
        self.sheet.dress(theme)

    @property
    def step(self) -> Step | None:
        """The step shown; the first where the one that was shown is no longer there."""
        steps = self._session.plan.steps
        return next((step for step in steps if step.id == self._at), steps[0] if steps else None)

    def _row(self) -> int:
        return next((n for n, step in enumerate(self._session.plan.steps) if step is self.step), 0)

    def _go(self, step: Step | None) -> None:
        self._at = step.id if step else ""
        self._typed = ""
        self.refresh()

    def _move(self, by: int) -> None:
        steps = self._session.plan.steps
        if steps:
            self._go(steps[min(len(steps) - 1, max(0, self._row() + by))])

    def back(self) -> None:
        """The step before."""
        self._move(-1)

    def on(self) -> None:
        """The next step, whether this one is done or not."""
        self._move(1)

    def done(self) -> None:
        """One piece more is done; after the last the next step."""
        step = self.step
        if step is None:
            return
        count = min(total_of(step), progress.done_of(self._session.job, step.id) + 1)
        words = title(step, self._session.format)
        told = values_of(step)
        whole = count >= total_of(step)
        entry = self._entry(step) if whole else None

        def marked(job: Job) -> Job:
            made = progress.with_done(job, step.id, count, told)
            return replace(made, log=(*made.log, entry)) if entry is not None else made

        self._session.change(f"Done: {words}", marked)
        if count >= total_of(step):
            self._move(1)

    def _entry(self, step: Step) -> Entry:
        """What the log says of a step that is done: with the minutes since the last one, where they can be true."""
        now, since = time.monotonic(), self._since
        self._since = now
        minutes = round((now - since) / 60, 1)
        stamp = clock.stamp()
        true = _LEAST_MIN <= minutes <= _MOST_MIN
        told = self._was_measured(step)
        return Entry(stamp, step.id, told, "done", minutes if true else None, values_of(step))

    def _was_measured(self, step: Step) -> str:
        """What was measured of a step's pieces, for the log; empty where nothing was."""
        known, job, fmt = _MEASURED.get(step.operation), self._session.job, self._session.format
        if known is None:
            return ""
        names = {piece.id: piece.name for piece in self._session.plan.pieces}
        found = {one: progress.measured_of(job, f"{one}.{known[0]}") for one in dict.fromkeys(step.pieces)}
        told = [
            f"{names.get(one, one)} {fmt.length(mm, unit=True)}"
            for one, mm in found.items()
            if mm is not None
        ]
        return f"{known[1]} measured: {', '.join(told)}"[:2000] if told else ""

    def _measurable(self, step: Step) -> tuple[str, str, float] | None:
        """What would be measured here: its name in the job, its words, what is planned (mm)."""
        known = _MEASURED.get(step.operation)
        if known is None or not step.pieces:
            return None
        quantity, words, gauge = known
        planned = step.value(gauge)  # type: ignore[arg-type]
        number = min(len(step.pieces) - 1, progress.done_of(self._session.job, step.id))
        piece = step.pieces[number]
        name = next((p.name for p in self._session.plan.pieces if p.id == piece), piece)
        return (
            None
            if planned is None
            else (f"{piece}.{quantity}", f"{words} of {name[:1].lower()}{name[1:]}", planned)
        )

    def _keep(self) -> None:
        """What was typed becomes the measured value."""
        step = self.step
        wanted = self._measurable(step) if step else None
        if not self._typed or wanted is None:
            return
        name, words, _planned = wanted
        try:
            value = parse_length(self._typed, self._session.job.design.units)
        except LengthError as error:
            self._session.said.emit(str(error))
            return
        self._typed = ""
        self._session.change(f"Measured: {words}", lambda job: progress.with_measured(job, name, value))
        self.refresh()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """A few keys, for dusty hands."""
        key, text = event.key(), event.text()
        if key == Qt.Key.Key_Space and not self._typed:
            self.done()
        elif key == Qt.Key.Key_PageUp:
            self.back()
        elif key == Qt.Key.Key_PageDown:
            self.on()
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._keep()
        elif key == Qt.Key.Key_Backspace:
            self._typed = self._typed[:-1]
            self.refresh()
        elif key == Qt.Key.Key_Escape:
            if self._typed:
                self._typed = ""
                self.refresh()
            else:
                self.left.emit()
        elif text and text in "0123456789.,/ " and (text != " " or self._typed) and self._takes_sizes():
            self._typed += text
            self.refresh()
        else:
            super().keyPressEvent(event)

    def _takes_sizes(self) -> bool:
        """Whether the step has a size to measure."""
        return self.step is not None and self._measurable(self.step) is not None

    def _draw(self) -> Drawing:
        return operation_drawing(self._session.plan, self.step, self._session.format)

    def refresh(self) -> None:
        """The step as it stands."""
        if not self.isVisible():
            return
        step, fmt, steps = self.step, self._session.format, self._session.plan.steps
        if step is None:
            self._title.setText("No operations yet: the ring cannot be made.")
            for label in (self._count, self._setting, self._how, self._cautions, self._measured, self._next):
                label.setText("")
            return
        row, count, total = self._row(), progress.done_of(self._session.job, step.id), total_of(step)
        counted = f"   ·   {count} of {total} done" if total > 1 else "   ·   done" if count else ""
        refused = "" if self._session.plan.buildable else f"   ·   ▲ {_REFUSED}"
        self._count.setText(f"Step {row + 1} of {len(steps)}   ·   {tool(step)}{counted}{refused}")
        self._title.setText(title(step, fmt))
        self._setting.setText(sentence(setting(step, fmt)))
        self._how.setText("\n".join((*first_of_all(self._session.job, step, fmt), how(step, fmt))))
        self._cautions.setText("\n".join("▲  " + caution(key, fmt.units) for key in step.cautions))
        self._measured.setText(self._measure_words(step))
        self._measured.setVisible(bool(self._measured.text()))
        after = steps[row + 1] if row + 1 < len(steps) else None
        self._next.setText(f"Next: {title(after, fmt)}" if after else "This is the last step.")
        self.setAccessibleDescription(f"{self._count.text()}. {self._title.text()}: {self._setting.text()}")
        self.sheet.refresh()

    def _measure_words(self, step: Step) -> str:
        wanted, fmt = self._measurable(step), self._session.format
        if wanted is None:
            return ""
        name, words, planned = wanted
        if self._typed:
            return f"{sentence(words)}: {self._typed}▏"
        kept = progress.measured_of(self._session.job, name)
        was = f"measured {fmt.length(kept, unit=True)}, " if kept is not None else "type what you measure; "
        return f"{sentence(words)}: {was}planned {fmt.length(planned, unit=True)}"
