"""The column of stages, each with its one telling figure and a mark where it needs a look."""

from PySide6.QtCore import QRectF, QSize, Qt, QTimer, Signal
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QAbstractButton, QButtonGroup, QLabel, QSizePolicy, QVBoxLayout, QWidget

from peristyle.ui.guard import painting
from peristyle.ui.painting import label_font
from peristyle.ui.session import Session
from peristyle.ui.stages import STAGES, Stage, figure, stage_of
from peristyle.ui.theme import LIGHT, Theme

_MARKS = {"stop": "cannot be built", "caution": "take care"}


class _Stage(QAbstractButton):
    """One stage: title, figure, mark."""

    def __init__(self, number: int, stage: Stage, parent: QWidget) -> None:
        super().__init__(parent)
        self.stage, self._number = stage, number
        self.theme: Theme = LIGHT
        self.figure, self.worst = "", ""
        self.setCheckable(True)
        self.setText(stage.title)
        self.setObjectName(f"stage:{stage.id}")

    def sizeHint(self) -> QSize:
        """Wide enough for a figure."""
        return QSize(158, 62)

    def say(self, figure: str, worst: str) -> None:
        """Show a figure and the gravest finding."""
        if (figure, worst) != (self.figure, self.worst):
            self.figure, self.worst = figure, worst
            mark = f", {_MARKS[worst]}" if worst in _MARKS else ""
            self.setAccessibleName(f"{self.text()}: {figure}{mark}")
            self.setAccessibleDescription(self.stage.why)
            self.setToolTip(f"{self.text()} (Ctrl+{self._number}){mark}")
            self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Title over figure; a bar and paper ground for the one that is open."""
        with painting(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            theme = self.theme
            if self.isChecked():
                painter.fillRect(self.rect(), theme.paper)
                painter.fillRect(0, 0, 4, self.height(), theme.ink)
            elif self.underMouse():
                painter.fillRect(self.rect(), theme.faint)
            if self.hasFocus():
                painter.setPen(QPen(theme.decided, 1.6))
                painter.drawRect(QRectF(self.rect()).adjusted(5, 2, -2, -2))
            painter.setPen(theme.ink)
            painter.setFont(label_font(11.0, True, self.font()))
            wide = self.width() - 26
            painter.drawText(QRectF(16, 9, wide, 22), int(Qt.AlignmentFlag.AlignVCenter), self.text())
            painter.setFont(label_font(10.0, False, self.font()))
            painter.setPen(theme.quiet if not self.isChecked() else theme.ink)
            figure = painter.fontMetrics().elidedText(self.figure, Qt.TextElideMode.ElideRight, wide + 6)
            painter.drawText(QRectF(16, 31, wide + 8, 22), int(Qt.AlignmentFlag.AlignVCenter), figure)
            if self.worst in _MARKS:
                self._mark(painter)

    def _mark(self, painter: QPainter) -> None:
        """A filled disc says stop, a ring says care: shape and not hue alone."""
        theme = self.theme
        disc = QRectF(self.width() - 24, 14, 11, 11)
        painter.setPen(QPen(theme.caution if self.worst == "caution" else theme.blade, 2.2))
        painter.setBrush(theme.blade if self.worst == "stop" else Qt.BrushStyle.NoBrush)
        painter.drawEllipse(disc)


AFTER_FIRST_PAINT_MS = 60


class StageColumn(QWidget):
    """The stages from top to bottom in the order of the work."""

    chosen = Signal(str)

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self.setAccessibleName("Stages")
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 8, 0, 0)
        layout.setSpacing(2)
        group = QButtonGroup(self)
        self._buttons: dict[str, _Stage] = {}
        for number, stage in enumerate(STAGES, start=1):
            button = _Stage(number, stage, self)
            button.clicked.connect(lambda _on=False, s=stage.id: self.chosen.emit(s))
            group.addButton(button)
            layout.addWidget(button)
            self._buttons[stage.id] = button
        # What the stage that is open is there for; it gives way where a window is low.
        self._why = QLabel()
        self._why.setWordWrap(True)
        self._why.setContentsMargins(16, 10, 10, 4)
        self._why.setAlignment(Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignLeft)
        self._why.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Ignored)
        self._why.setFont(label_font(9.0, False, self.font()))
        layout.addWidget(self._why, 1)
        self.setFixedWidth(158)
        session.changed.connect(self.refresh)
        session.rested.connect(self.refresh)
        self._refresh(count_steps=False)
        QTimer.singleShot(AFTER_FIRST_PAINT_MS, self, self.refresh)

    def dress(self, theme: Theme) -> None:
        """Take on a theme's colours."""
        for button in self._buttons.values():
            button.theme = theme
            button.update()

    def open(self, stage: str) -> None:
        """Show which stage is open."""
        self._buttons[stage].setChecked(True)
        self._why.setText(self._buttons[stage].stage.why)

    def refresh(self) -> None:
        """Figures and marks from the plan; the steps are counted once a drag rests."""
        self._refresh(count_steps=not self._session.dragging)

    def _refresh(self, *, count_steps: bool) -> None:
        plan, fmt = self._session.plan, self._session.format
        worst: dict[str, str] = {}
        for finding in plan.findings:  # gravest first
            worst.setdefault(stage_of(finding), finding.severity)
        for button in self._buttons.values():
            if button.stage.late and not count_steps:
                continue
            button.say(figure(plan, button.stage, fmt), worst.get(button.stage.id, ""))
