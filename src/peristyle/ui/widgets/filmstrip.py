"""The suggestions of a search as a filmstrip: each the two strips of its closing corner as they will meet."""

from collections.abc import Callable
from typing import TYPE_CHECKING

from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QIcon, QImage, QPixmap
from PySide6.QtWidgets import QListWidget, QListWidgetItem

from peristyle.ui.session import Session
from peristyle.words.boards import suggestion_line

if TYPE_CHECKING:  # the search brings NumPy with it
    from peristyle.planning.stock.search import Suggestion

_ICON = QSize(104, 56)


class Filmstrip(QListWidget):
    """A row of pictures; Enter or a click takes one."""

    def __init__(self, session: Session, take: Callable[["Suggestion"], None]) -> None:
        super().__init__()
        self._session = session
        self._shown: list[Suggestion] = []
        self.setViewMode(QListWidget.ViewMode.IconMode)
        self.setFlow(QListWidget.Flow.LeftToRight)
        self.setWrapping(False)
        self.setMovement(QListWidget.Movement.Static)
        self.setIconSize(_ICON)
        self.setHorizontalScrollMode(QListWidget.ScrollMode.ScrollPerPixel)
        self.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setFixedHeight(112)
        self.setAccessibleName("Suggested starts")
        self.itemActivated.connect(lambda item: take(self._shown[self.row(item)]))
        self.itemClicked.connect(lambda item: take(self._shown[self.row(item)]))

    def show_all(self, suggestions: "tuple[Suggestion, ...]") -> None:
        """These, best first."""
        self.clear()
        self._shown = list(suggestions)
        fmt, job = self._session.format, self._session.job
        for one in suggestions:
            item = QListWidgetItem(self)
            film = one.film
            if film is not None:
                image = QImage(
                    film.pixels, film.columns, film.rows, film.columns * 3, QImage.Format.Format_RGB888
                )
                pixmap = QPixmap.fromImage(image).scaled(
                    _ICON, Qt.AspectRatioMode.IgnoreAspectRatio, Qt.TransformationMode.SmoothTransformation
                )
                item.setIcon(QIcon(pixmap))
            where = f"{one.board}" if one.rack is not None else ""
            turned = ", ".join(
                word for word, on in (
                    ("other face", one.face != job.stock.board.face), ("turned", one.turned != job.stock.board.turned)
                ) if on
            )  # fmt: skip
            first = f"{one.match:.0f} at {fmt.length(one.shift_mm)}"
            item.setText(
                " ".join(word for word in (first, f"({where or turned})" if where or turned else "") if word)
            )
            told = suggestion_line(one, job.stock.board, fmt, job.design.side_count)
            item.setToolTip(told)
            item.setData(Qt.ItemDataRole.AccessibleTextRole, told)
