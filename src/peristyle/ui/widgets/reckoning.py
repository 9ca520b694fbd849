"""The reckoning: figures of what is picked, and the findings with what would mend them."""

from typing import Final

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, QTimer
from PySide6.QtGui import QFocusEvent, QFontMetrics, QPaintEvent, QPen
from PySide6.QtWidgets import QFrame, QLabel, QPushButton, QScrollArea, QSizePolicy, QVBoxLayout, QWidget

from peristyle.core.lengths import Format
from peristyle.drawing.piece import piece_drawing
from peristyle.drawing.shapes import Drawing
from peristyle.model.addresses import applied
from peristyle.model.job import Job
from peristyle.planning.findings import Finding
from peristyle.ui import words
from peristyle.ui.guard import painting
from peristyle.ui.painting import label_font, text_width
from peristyle.ui.session import Session
from peristyle.ui.theme import LIGHT, Theme
from peristyle.ui.widgets.sheet import Sheet
from peristyle.ui.wood import WoodStore
from peristyle.words.findings import SEVERITY_WORDS, offered, said

_ROW = 21
_AFTER_MS: Final = 20  # after an edit what fixes do is tried: first it is seen
_PIECE_HIGH = 214
_WIDE = 286
_BUTTON_ROOM = _WIDE - 94  # without the margins, a card's bar, the scroll bar and a button's frame


class _Facts(QWidget):
    """Names and values in two columns, painted: it follows a drag frame by frame."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.theme: Theme = LIGHT
        self._rows: list[words.Fact] = []
        self.setAccessibleName("Figures")
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def say(self, rows: list[words.Fact]) -> None:
        """Show these rows."""
        if rows == self._rows:
            return
        taller = len(rows) != len(self._rows)
        self._rows = rows
        self.setAccessibleDescription("; ".join(f"{r.name.strip()} {r.value}".strip() for r in rows))
        if taller:
            self.updateGeometry()
        self.update()

    def sizeHint(self) -> QSize:
        """A row for every fact."""
        return QSize(240, _ROW * len(self._rows) + 14)

    def minimumSizeHint(self) -> QSize:
        """As tall as its rows."""
        return QSize(160, self.sizeHint().height())

    def paintEvent(self, event: QPaintEvent) -> None:
        """Names left, values right; what the next cut needs is strong."""
        with painting(self) as painter:
            y = 2.0
            for number, row in enumerate(self._rows):
                if number == 0:
                    painter.setFont(label_font(12.5, True, self.font()))
                    painter.setPen(self.theme.ink)
                    title = painter.fontMetrics().elidedText(
                        row.name, Qt.TextElideMode.ElideRight, self.width()
                    )
                    painter.drawText(
                        QRectF(0, y, self.width(), 24), int(Qt.AlignmentFlag.AlignVCenter), title
                    )
                    y += 28
                    continue
                base = y + _ROW * 0.72
                painter.setFont(label_font(10.0, False, self.font()))
                painter.setPen(self.theme.quiet)
                painter.drawText(QPointF(0.0, base), row.name)
                size = 11.5 if row.strong else 10.5
                painter.setFont(label_font(size, row.strong, self.font()))
                painter.setPen(self.theme.ink)
                value = row.value
                wide = text_width(value, size, row.strong, self.font())
                room = self.width() - text_width(row.name, 10.0, False, self.font()) - 8.0
                if wide > room:  # a long list: smaller, and what even so has no room is left out
                    painter.setFont(label_font(9.0, row.strong, self.font()))
                    value = painter.fontMetrics().elidedText(value, Qt.TextElideMode.ElideRight, int(room))
                    wide = painter.fontMetrics().horizontalAdvance(value)
                painter.drawText(QPointF(self.width() - wide, base), value)
                y += _ROW


class _Card(QFrame):
    """One finding: what, why, by how much; a button for each fix."""

    def __init__(self, session: Session, finding: Finding, theme: Theme) -> None:
        super().__init__()
        self._session, self._finding, self._theme = session, finding, theme
        layout = QVBoxLayout(self)
        layout.setContentsMargins(14, 8, 8, 10)
        layout.setSpacing(5)
        self._head, self._text = QLabel(), QLabel()
        self._head.setFont(label_font(9.5, True, self.font()))
        self._text.setWordWrap(True)
        for label in (self._head, self._text):
            label.setTextFormat(Qt.TextFormat.PlainText)
        self._text.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        layout.addWidget(self._head)
        layout.addWidget(self._text)
        self._buttons: list[QPushButton] = []
        for number in range(len(finding.fixes)):
            button = QPushButton()
            button.setToolTip("Try it; undo takes it back")
            button.setVisible(False)  # until it has been tried
            button.clicked.connect(lambda _on=False, n=number: self._mend(n))
            layout.addWidget(button)
            self._buttons.append(button)
        self.say(finding)

    def say(self, finding: Finding) -> None:
        """Speak of a finding of the same kind with other figures: a drag changes them frame by frame."""
        self._finding = finding
        self._head.setText(f"{SEVERITY_WORDS[finding.severity]}  ·  {finding.place.text}")
        fmt = self._session.format
        text = said(finding, fmt)
        self._text.setText(text)
        for button, fix in zip(self._buttons, finding.fixes, strict=True):
            label = offered(fix, fmt)
            button.setText(_folded(label, button.fontMetrics()).replace("&", "&&"))
            button.setAccessibleName(f"Fix: {label}")
        self.setAccessibleName(f"{SEVERITY_WORDS[finding.severity]}: {text}")

    @property
    def fixes(self) -> int:
        """How many fixes the finding has, tried or not."""
        return len(self._buttons)

    def offer(self, number: int, good: bool) -> None:
        """Show a fix that mends, hide one that does not."""
        self._buttons[number].setVisible(good)

    def _mend(self, number: int) -> None:
        # Put off: a window opens without trying anything.
        from peristyle.planning.mending import settled

        fix = settled(self._session.plan.job, self._finding.fixes[number])
        label = offered(fix, self._session.format)
        self._session.change(label, lambda job: applied(job, fix.changes))

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paper ground; the bar at the left is full for stop, broken for care, thin for a note."""
        with painting(self) as painter:
            theme = self._theme
            painter.fillRect(self.rect(), theme.paper)
            severity = self._finding.severity
            colour = {"stop": theme.blade, "caution": theme.caution, "note": theme.quiet}[severity]
            pen = QPen(colour, {"stop": 6.0, "caution": 4.0, "note": 1.5}[severity])
            pen.setCapStyle(Qt.PenCapStyle.FlatCap)
            if severity == "caution":
                pen.setDashPattern([2.0, 1.2])
            painter.setPen(pen)
            painter.drawLine(4, 2, 4, self.height() - 2)


class _Inner(QWidget):
    """What scrolls; round what is seen of it a frame where the panel has the focus."""

    def __init__(self, area: QScrollArea) -> None:
        super().__init__()
        self._area = area
        self.theme: Theme = LIGHT

    def paintEvent(self, event: QPaintEvent) -> None:
        """Only the frame."""
        if self._area.hasFocus():
            with painting(self) as painter:
                painter.setPen(QPen(self.theme.decided, 1.6))
                painter.drawRect(QRectF(self.visibleRegion().boundingRect()).adjusted(1.5, 1.5, -1.5, -1.5))


class Reckoning(QScrollArea):
    """The panel at the right."""

    def __init__(self, session: Session, wood: WoodStore, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self._theme: Theme = LIGHT
        self.setFixedWidth(_WIDE)  # it never scrolls sideways
        self.setWidgetResizable(True)
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setAccessibleName("Reckoning")
        inner = self._inner = _Inner(self)
        self._layout = QVBoxLayout(inner)
        self._layout.setContentsMargins(14, 12, 14, 12)
        self._layout.setSpacing(8)
        self._facts = _Facts(inner)
        self.piece = Sheet(session, wood, self._draw_piece, "The picked piece", margin_px=6.0)
        self.piece.setFixedHeight(_PIECE_HIGH)
        self.piece.hide()
        self._layout.addWidget(self.piece)
        self._layout.addWidget(self._facts)
        self._calm = QLabel("Nothing stands in the way.")
        self._layout.addWidget(self._calm)
        self._layout.addStretch(1)
        self.setWidget(inner)
        self._shown: tuple[Finding, ...] = ()
        self._shown_in: Format | None = None
        self._cards: list[_Card] = []
        self._trials: list[tuple[int, int]] = []
        self._tried_for: Job | None = None
        self._trying = QTimer(self)
        self._trying.timeout.connect(self._try_next)
        session.changed.connect(self.refresh)
        session.rested.connect(self.refresh)
        session.selected.connect(self.refresh)
        self.refresh()

    def focusInEvent(self, event: QFocusEvent) -> None:
        """Focus is seen."""
        super().focusInEvent(event)
        self._inner.update()

    def focusOutEvent(self, event: QFocusEvent) -> None:
        """Focus is seen to go."""
        super().focusOutEvent(event)
        self._inner.update()

    def _draw_piece(self) -> Drawing:
        """The picked piece by itself; nothing where none is picked."""
        plan = self._session.plan
        piece = words.piece_of(plan, self._session.selection)
        return piece_drawing(plan, piece, self._session.format) if piece else Drawing()

    def _try_fixes(self) -> None:
        """Begin to try every fix on the plan, one at a turn, once nothing moves."""
        self._trials = [(c, n) for c, card in enumerate(self._cards) for n in range(card.fixes)]
        self._tried_for = self._session.job
        self._trying.start(_AFTER_MS)

    def _try_next(self) -> None:
        """A fix that mends shows its button; one that does not stays hidden."""
        if not self._trials or self._session.dragging or self._tried_for is not self._session.job:
            self._trying.stop()
            return
        # Put off: a window opens without trying anything.
        from peristyle.planning.mending import mends, settled

        self._trying.setInterval(0)
        place, number = self._trials.pop(0)
        finding = self._shown[place]
        plan = self._session.plan
        self._cards[place].offer(number, mends(plan, finding, settled(plan.job, finding.fixes[number])))

    def settle(self) -> None:
        """Try at once what is left to be tried: for a picture of the window."""
        while self._trying.isActive():
            self._try_next()

    def dress(self, theme: Theme) -> None:
        """Take on a theme's colours."""
        self._theme = theme
        self._facts.theme = theme
        self.piece.dress(theme)
        self._inner.theme = theme
        self._facts.update()
        self._renew(self._shown)

    def refresh(self) -> None:
        """Figures at once; cards only when what they say has changed."""
        plan, fmt = self._session.plan, self._session.format
        self._facts.say(words.facts(plan, self._session.selection, fmt))
        self.piece.setVisible(words.piece_of(plan, self._session.selection) is not None)
        if (plan.findings, fmt) != (self._shown, self._shown_in):
            self._shown_in = fmt
            if [_kind(f) for f in plan.findings] == [_kind(f) for f in self._shown]:
                for card, finding in zip(self._cards, plan.findings, strict=True):
                    card.say(finding)
                self._shown = plan.findings
            else:
                self._renew(plan.findings)
                return
        if not self._session.dragging and self._tried_for is not self._session.job:
            self._try_fixes()

    def _renew(self, findings: tuple[Finding, ...]) -> None:
        cards = [_Card(self._session, f, self._theme) for f in findings]
        for card in self._cards:
            self._layout.removeWidget(card)
            card.hide()
            card.deleteLater()
        self._shown, self._cards = findings, cards
        for place, card in enumerate(self._cards):
            self._layout.insertWidget(2 + place, card)
        self._calm.setVisible(not findings)
        if not self._session.dragging:
            self._try_fixes()


def _folded(label: str, metrics: QFontMetrics) -> str:
    """A label in as many lines as it takes: a button wraps nothing by itself."""
    lines = [""]
    for word in label.split(" "):
        longer = f"{lines[-1]} {word}".strip()
        if lines[-1] and metrics.horizontalAdvance(longer) > _BUTTON_ROOM:
            lines.append(word)
        else:
            lines[-1] = longer
    return "\n".join(lines)


def _kind(finding: Finding) -> tuple[str, str, int]:
    return (finding.code, finding.severity, len(finding.fixes))
