"""Words under a drawing: as high as they need, and scrolled where a small window has no room for them."""

from collections.abc import Sequence

from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QLabel, QScrollArea, QSizePolicy, QVBoxLayout, QWidget


class Told(QScrollArea):
    """Labels one under the other. No caution is ever cut off."""

    def __init__(self, labels: Sequence[QLabel]) -> None:
        super().__init__()
        self._text = QWidget()
        column = QVBoxLayout(self._text)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(2)
        for label in labels:
            column.addWidget(label)
        column.addStretch(1)
        self.setWidget(self._text)
        self.setWidgetResizable(True)
        self.setFrameShape(QScrollArea.Shape.NoFrame)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Preferred)

    def sizeHint(self) -> QSize:
        """As high as the words are at this width."""
        high = self._text.heightForWidth(max(200, self.viewport().width()))
        return QSize(300, max(40, high) + 4)

    def minimumSizeHint(self) -> QSize:
        """A few lines at the least."""
        return QSize(120, 60)

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Other lines at another width."""
        super().resizeEvent(event)
        if event.oldSize().width() != event.size().width():
            self.updateGeometry()
