"""A row that goes on in a second one where there is no room: for bars of choices."""

from PySide6.QtCore import QPoint, QRect, QSize, Qt
from PySide6.QtWidgets import QLayout, QLayoutItem, QWidget


class FlowLayout(QLayout):
    """Items one after another, broken into rows as the width asks. Groups of widgets stay together."""

    def __init__(self, parent: QWidget, gap: int = 10) -> None:
        super().__init__(parent)
        self._items: list[QLayoutItem] = []
        self._gap = gap
        self.setContentsMargins(12, 5, 12, 5)

    def addItem(self, item: QLayoutItem) -> None:
        """Qt's way of adding."""
        self._items.append(item)

    def count(self) -> int:
        """How many items there are."""
        return len(self._items)

    def itemAt(self, index: int) -> QLayoutItem | None:
        """The item at a place."""
        return self._items[index] if 0 <= index < len(self._items) else None

    def takeAt(self, index: int) -> QLayoutItem | None:
        """Take the item at a place out."""
        return self._items.pop(index) if 0 <= index < len(self._items) else None

    def expandingDirections(self) -> Qt.Orientation:
        """It takes no more than it needs."""
        return Qt.Orientation(0)

    def hasHeightForWidth(self) -> bool:
        """Narrower is higher."""
        return True

    def heightForWidth(self, width: int) -> int:
        """How high the rows are at a width."""
        return self._place(QRect(0, 0, width, 0), move=False)

    def setGeometry(self, rect: QRect) -> None:
        """Place every item."""
        super().setGeometry(rect)
        self._place(rect, move=True)

    def sizeHint(self) -> QSize:
        """One row, if there is room."""
        margins = self.contentsMargins()
        wide = sum(item.sizeHint().width() + self._gap for item in self._items if not item.isEmpty())
        high = max((item.sizeHint().height() for item in self._items), default=0)
        return QSize(wide + margins.left() + margins.right(), high + margins.top() + margins.bottom())

    def minimumSize(self) -> QSize:
        """The widest item must fit."""
        margins = self.contentsMargins()
        wide = max((item.minimumSize().width() for item in self._items), default=0)
        return QSize(wide + margins.left() + margins.right(), self.sizeHint().height())

    def _place(self, rect: QRect, *, move: bool) -> int:
        margins = self.contentsMargins()
        area = rect.marginsRemoved(margins)
        x, y, row = area.x(), area.y(), 0
        for item in self._items:
            if item.isEmpty():  # hidden
                continue
            size = item.sizeHint()
            if x > area.x() and x + size.width() > area.right() + 1:
                x, y, row = area.x(), y + row + 4, 0
            if move:
                item.setGeometry(QRect(QPoint(x, y), size))
            x += size.width() + self._gap
            row = max(row, size.height())
        return y + row - rect.y() + margins.bottom()
