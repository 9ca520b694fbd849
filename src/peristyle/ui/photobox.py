"""Photographs of a board made its picture: corners corrected under a loupe, sizes typed, stretches joined."""

from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING, Any, Final, NamedTuple

from PySide6.QtCore import QBuffer, QIODevice, QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import (
    QColor,
    QDragEnterEvent,
    QDropEvent,
    QGuiApplication,
    QImage,
    QKeyEvent,
    QKeySequence,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPolygonF,
    QShortcut,
)
from PySide6.QtWidgets import (
    QDialog,
    QDialogButtonBox,
    QFileDialog,
    QFormLayout,
    QHBoxLayout,
    QLabel,
    QListWidget,
    QProgressBar,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from peristyle.core.errors import PeristyleError
from peristyle.core.lengths import Format, parse_length
from peristyle.model.design import replace
from peristyle.model.stock import Board
from peristyle.storage import pictures
from peristyle.ui.guard import painting
from peristyle.ui.memory import give_back
from peristyle.ui.theme import Theme
from peristyle.ui.widgets.inputs import ValueEdit
from peristyle.ui.worker import Worker

if TYPE_CHECKING:  # photographs bring NumPy with them
    import numpy as np
    from numpy.typing import NDArray

SHOWN_POINTS: Final = (
    3_000_000  # of a photograph on the screen; all of them are used when it is made straight
)
ENDINGS: Final = "Photographs (*.png *.jpg *.jpeg *.tif *.tiff *.webp)"
_LOUPE: Final = 7.0  # times what is shown
_NAMES: Final = ("bottom start", "bottom end", "top end", "top start")
_HALF: Final = 66  # half the loupe's width, in points of the screen


class Source(NamedTuple):
    """A photograph as it came: its name, and how to get at its bytes."""

    name: str
    data: Callable[[], bytes]


def from_file(path: Path) -> Source:
    """A photograph in a file."""
    return Source(path.name, lambda: pictures.taken(path))


def from_image(image: QImage) -> Source:
    """A photograph that was pasted."""
    held = QBuffer()
    held.open(QIODevice.OpenModeFlag.WriteOnly)
    image.save(held, format=b"PNG")
    data = bytes(held.data().data())
    return Source("pasted", lambda: data)


class _Shown(NamedTuple):
    """A photograph on the screen: the picture, how many of its points there are for each of its own, its corners in
    its own points, and whether they were found.
    """

    source: Source
    image: QImage
    share: float
    corners: list[QPointF]
    found: bool
    stretch: str


class Canvas(QWidget):
    """The photograph with its four corners: drag them, or pick one with Tab and move it with the arrow keys."""

    moved = Signal()

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._shown: _Shown | None = None
        self._corner = 0
        self._held = False
        self.setMinimumSize(QSize(420, 260))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setAccessibleName("The photograph and the board's four corners")
        self.setToolTip(
            "Drag each mark onto its corner; Tab takes the next, arrow keys move it, with Shift further"
        )

    def show_photo(self, shown: _Shown | None) -> None:
        """Another photograph."""
        self._shown = shown
        self._corner = 0
        self._tell()
        self.update()

    def _tell(self) -> None:
        if self._shown is None:
            self.setAccessibleDescription("No photograph yet")
            return
        at = self._shown.corners[self._corner]
        self.setAccessibleDescription(f"Corner {_NAMES[self._corner]} at {at.x():.0f}, {at.y():.0f}")

    def _fit(self) -> tuple[float, QPointF]:
        """Screen points for each of the photograph's own, and where its upper left corner lies."""
        if self._shown is None:
            return 1.0, QPointF()
        wide, high = self._shown.image.width(), self._shown.image.height()
        scale = min(self.width() / wide, self.height() / high)
        return scale * self._shown.share, QPointF(
            (self.width() - wide * scale) / 2, (self.height() - high * scale) / 2
        )

    def _to_screen(self, point: QPointF) -> QPointF:
        scale, origin = self._fit()
        return origin + point * scale

    def paintEvent(self, event: QPaintEvent) -> None:
        """The photograph, the outline, the marks, and the loupe on the one at hand."""
        with painting(self) as painter:
            self._paint(painter)

    def _paint(self, painter: QPainter) -> None:
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.fillRect(self.rect(), self._theme.paper)
        shown = self._shown
        if shown is None:
            painter.setPen(self._theme.quiet)
            words = "Add a photograph, drop one here, or paste one (Ctrl+V)."
            painter.drawText(self.rect(), int(Qt.AlignmentFlag.AlignCenter), words)
            return
        scale, origin = self._fit()
        share = scale / shown.share
        painter.drawImage(
            QRectF(origin.x(), origin.y(), shown.image.width() * share, shown.image.height() * share),
            shown.image,
        )
        spots = [self._to_screen(corner) for corner in shown.corners]
        for width, colour in ((3.0, QColor(0, 0, 0, 150)), (1.4, QColor("white"))):
            painter.setPen(QPen(colour, width))
            painter.drawPolygon(QPolygonF(spots))
        for k, spot in enumerate(spots):
            own = k == self._corner
            painter.setPen(QPen(QColor("white"), 2.0))
            painter.setBrush(self._theme.decided if own else QColor(0, 0, 0, 130))
            painter.drawEllipse(spot, 7.0 if own else 5.5, 7.0 if own else 5.5)
        if self.hasFocus() or self._held:
            self._loupe(painter, shown, spots[self._corner])

    def _loupe(self, painter: QPainter, shown: _Shown, spot: QPointF) -> None:
        """What lies under the corner at hand, larger, with a cross on the corner itself."""
        x = 10.0 if spot.x() > self.width() / 2 else self.width() - 2.0 * _HALF - 10.0
        area = QRectF(x, 10.0, 2.0 * _HALF, 2.0 * _HALF)
        corner = shown.corners[self._corner] * shown.share
        reach = _HALF / _LOUPE
        painter.drawImage(
            area, shown.image, QRectF(corner.x() - reach, corner.y() - reach, 2 * reach, 2 * reach)
        )
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(self._theme.decided, 2.0))
        painter.drawRect(area)
        middle = area.center()
        for width, colour in ((2.4, QColor(0, 0, 0, 140)), (1.0, QColor("white"))):
            painter.setPen(QPen(colour, width))
            painter.drawLine(middle - QPointF(14, 0), middle + QPointF(14, 0))
            painter.drawLine(middle - QPointF(0, 14), middle + QPointF(0, 14))
        label = QRectF(area.left(), area.bottom(), area.width(), 20.0)
        painter.fillRect(label, self._theme.paper)
        painter.setPen(self._theme.ink)
        painter.drawText(label, int(Qt.AlignmentFlag.AlignCenter), _NAMES[self._corner])

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Take hold of the corner that is nearest."""
        shown = self._shown
        if shown is None or event.button() != Qt.MouseButton.LeftButton:
            return
        spots = [self._to_screen(corner) - event.position() for corner in shown.corners]
        near = min(range(4), key=lambda k: spots[k].manhattanLength())
        self._corner = near
        self._held = spots[near].manhattanLength() < 40
        self._tell()
        self.update()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """The corner follows."""
        if not self._held or not event.buttons() & Qt.MouseButton.LeftButton:
            return
        scale, origin = self._fit()
        self._put((event.position() - origin) / scale)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """Let go."""
        if self._held:
            self._held = False
            self.update()
            self.moved.emit()

    def _put(self, at: QPointF) -> None:
        shown = self._shown
        if shown is None:
            return
        wide, high = shown.image.width() / shown.share, shown.image.height() / shown.share
        shown.corners[self._corner] = QPointF(min(max(at.x(), 0.0), wide), min(max(at.y(), 0.0), high))
        self._tell()
        self.update()

    def focusNextPrevChild(self, forward: bool) -> bool:
        """Tab goes from corner to corner before it leaves."""
        step = self._corner + (1 if forward else -1)
        if self._shown is not None and 0 <= step < 4:
            self._corner = step
            self._tell()
            self.update()
            return True
        return super().focusNextPrevChild(forward)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Arrow keys move the corner by a point of the photograph, with Shift by ten."""
        ways = {
            Qt.Key.Key_Left: (-1, 0),
            Qt.Key.Key_Right: (1, 0),
            Qt.Key.Key_Up: (0, -1),
            Qt.Key.Key_Down: (0, 1),
        }
        way = ways.get(Qt.Key(event.key()))
        if way is None or self._shown is None:
            super().keyPressEvent(event)
            return
        far = 10 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1
        self._put(self._shown.corners[self._corner] + QPointF(way[0] * far, way[1] * far))
        self.moved.emit()


def _in_the_middle(image: QImage, share: float) -> list[QPointF]:
    """Four marks in the middle of a photograph, in its own points."""
    wide, high = image.width() / share, image.height() / share
    return [QPointF(wide * u, high * v) for u, v in ((0.1, 0.7), (0.9, 0.7), (0.9, 0.3), (0.1, 0.3))]


class Photobox(QDialog):
    """Photographs of one face of a board; with OK they are made straight and joined, and the board has a picture."""

    def __init__(
        self,
        parent: QWidget,
        board: Board,
        fmt: Format,
        theme: Theme,
        keep: Callable[[Any], str],
        *,
        back: bool,
    ) -> None:
        super().__init__(parent)
        self.board, self._format, self._keep, self._back = board, fmt, keep, back
        self.setWindowTitle(f"Photograph the {'back' if back else 'face'} of “{board.name[:40]}”")
        self.setAcceptDrops(True)
        self._photos: list[_Shown] = []
        self._worker = Worker("photo", self)
        self.busy = False
        self._closed = False
        self.canvas = Canvas(theme)
        self._list = QListWidget()
        self._list.setMaximumHeight(92)
        self._list.setAccessibleName("Photographs, in order from the board's start")
        self._list.currentRowChanged.connect(self._pick)
        self.length, self.width_, self.stretch = ValueEdit(), ValueEdit(), ValueEdit()
        for box, value, name in (
            (self.length, board.length_mm, "Board, length"), (self.width_, board.width_mm, "Board, width"),
        ):  # fmt: skip
            box.setText(fmt.length(value, unit=True))
            box.setAccessibleName(name)
        self.stretch.setAccessibleName("Length of the stretch that this photograph shows")
        self.stretch.editingFinished.connect(self._stretched)
        self._wrong = QLabel()
        self._wrong.setWordWrap(True)
        self._progress = QProgressBar()
        self._progress.setRange(0, 0)
        self._progress.setAccessibleName("Working on the photographs")
        self._progress.hide()
        self._build()
        QShortcut(QKeySequence.StandardKey.Paste, self, self.paste)
        room = parent.screen().availableGeometry()
        self.resize(min(1000, room.width() - 8), min(640, room.height() - 40))

    def _build(self) -> None:
        add, remove = QPushButton("Add a photograph…"), QPushButton("Take it off")
        add.clicked.connect(lambda _on=False: self._choose())
        remove.clicked.connect(lambda _on=False: self._remove())
        form = QFormLayout()
        form.addRow("Board, length", self.length)
        form.addRow("Board, width", self.width_)
        form.addRow("This one shows", self.stretch)
        self._stretch_row = form.labelForField(self.stretch)
        hint = QLabel(
            "Put the four marks on the board's own corners. A long board takes several photographs, in order from its "
            "start, each overlapping the next by 10 cm or more: their marks then stand on the stretch that is measured."
        )
        hint.setWordWrap(True)
        self._buttons = QDialogButtonBox(
            QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel
        )
        self._buttons.accepted.connect(self._develop)
        self._buttons.rejected.connect(self.reject)
        right = QVBoxLayout()
        for widget in (self._list, add, remove):
            right.addWidget(widget)
        right.addLayout(form)
        right.addWidget(hint)
        right.addWidget(self._wrong)
        right.addStretch(1)
        right.addWidget(self._progress)
        right.addWidget(self._buttons)
        whole = QHBoxLayout(self)
        whole.addWidget(self.canvas, 3)
        side = QWidget()
        side.setLayout(right)
        side.setFixedWidth(290)
        whole.addWidget(side)
        self._show_stretch()

    # --- photographs come and go

    def _choose(self) -> None:
        for name in QFileDialog.getOpenFileNames(self, "Photographs of the board", "", ENDINGS)[0]:
            self.add(from_file(Path(name)))

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        """Photographs may be dropped."""
        if event.mimeData().hasUrls() or event.mimeData().hasImage():
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        """Take every file dropped."""
        event.acceptProposedAction()
        for url in event.mimeData().urls():
            if url.isLocalFile():
                self.add(from_file(Path(url.toLocalFile())))

    def paste(self) -> None:
        """Take the picture that was copied elsewhere."""
        image = QGuiApplication.clipboard().image()
        if image.isNull():
            self._wrong.setText("There is no picture to paste.")
        else:
            self.add(from_image(image))

    def add(self, source: Source) -> None:
        """Open a photograph off the window's thread, and look for the board in it."""
        self._wrong.setText("")
        self._set_busy(True)
        said = f"“{source.name}”: "
        self._worker.do(
            partial(self._open_there, source),
            partial(self._take_opened, source),
            partial(self._went_wrong, said),
        )

    def _open_there(self, source: Source) -> "tuple[QImage, float, list[list[float]] | None]":
        """In the worker: the photograph, its share of the points, and the board's corners in it, if they are found."""
        # Late: it brings NumPy with it, which opening a window need not wait for.
        from peristyle.wood.photo import photographed

        photo = photographed(source.data(), SHOWN_POINTS)
        rows, columns, _three = photo.pixels.shape
        image = QImage(photo.pixels.tobytes(), columns, rows, columns * 3, QImage.Format.Format_RGB888).copy()
        # On the screen at once: looking for the outline takes longer.
        shown = _Shown(source, image, photo.share, _in_the_middle(image, photo.share), True, "")
        self._worker.tell(partial(self._show_seen, shown))
        from peristyle.wood.outline import outline

        corners = outline(photo)
        return image, photo.share, None if corners is None else corners.tolist()

    def _went_wrong(self, said: str, error: Exception) -> bool:
        """What a file or a disk did not give is said here; anything else where errors nobody foresaw are said."""
        self._set_busy(False)
        foreseen = isinstance(error, (PeristyleError, OSError))
        if foreseen:
            self._wrong.setText(f"{said}{error}")
        return foreseen

    def _take_opened(self, source: Source, made: "tuple[QImage, float, list[list[float]] | None]") -> None:
        self._set_busy(False)
        image, share, corners = made
        found = corners is not None
        if corners is None:
            self._wrong.setText("No board's outline was found: put the four marks on its corners.")
        spots = [QPointF(x, y) for x, y in corners] if corners is not None else _in_the_middle(image, share)
        self._photos.append(_Shown(source, image, share, spots, found, ""))
        self._list.addItem(source.name)
        self._list.setCurrentRow(len(self._photos) - 1)
        self._show_stretch()
        self.canvas.setFocus()

    def _show_seen(self, shown: _Shown) -> None:
        """The photograph as soon as it is open, its marks in the middle until the outline is found."""
        self.canvas.show_photo(shown)

    def _remove(self) -> None:
        row = self._list.currentRow()
        if 0 <= row < len(self._photos):
            del self._photos[row]
            self._list.takeItem(row)
            self._pick(self._list.currentRow())
            self._show_stretch()

    def _pick(self, row: int) -> None:
        shown = self._photos[row] if 0 <= row < len(self._photos) else None
        self.canvas.show_photo(shown)
        self.stretch.setText(shown.stretch if shown else "")

    def _show_stretch(self) -> None:
        """How long a stretch is asked for only of several."""
        several = len(self._photos) > 1
        self.stretch.setVisible(several)
        self._stretch_row.setVisible(several)

    def _stretched(self) -> None:
        row = self._list.currentRow()
        if 0 <= row < len(self._photos):
            self._photos[row] = self._photos[row]._replace(stretch=self.stretch.text())

    # --- the picture

    def _length(self, text: str, what: str) -> float | None:
        try:
            value = parse_length(text, self._format.units)
        except PeristyleError as error:
            self._wrong.setText(f"{what}: {error}")
            return None
        if not 1.0 <= value <= 20_000.0:
            self._wrong.setText(f"{what}: more than 1 mm and at most 20 m.")
            return None
        return value

    def _develop(self) -> None:
        """Make the photographs straight and join them, off the window's thread."""
        self._stretched()
        if self.busy:
            return
        if not self._photos:
            self._wrong.setText("There is no photograph yet.")
            return
        length, width = self._length(self.length.text(), "Length"), self._length(self.width_.text(), "Width")
        if length is None or width is None:
            return
        several = len(self._photos) > 1
        stretches = []
        for number, shown in enumerate(self._photos, 1):
            own = self._length(shown.stretch, f"Photograph {number}, what it shows") if several else length
            if own is None:
                return
            stretches.append(own)
        self._wrong.setText("")
        self._set_busy(True)
        jobs = [(one.source, [(c.x(), c.y()) for c in one.corners], own)
                for one, own in zip(self._photos, stretches, strict=True)]  # fmt: skip
        work = partial(self._make_there, jobs, length, width)
        self._worker.do(work, self._take_made, partial(self._went_wrong, ""))

    def _make_there(self, jobs: list[Any], length: float, width: float) -> tuple[str, float, float]:
        """In the worker: the picture's name, and the board's size."""
        # Late: see above.
        import numpy as np

        from peristyle.wood.joined import Taken, developed
        from peristyle.wood.photo import photographed

        try:
            taken = [
                Taken(photographed(source.data()), np.array(corners), own) for source, corners, own in jobs
            ]
            whole = developed(taken, width, length if len(taken) > 1 else None)
            return self._keep(whole.pixels), length, width
        finally:
            give_back()

    def _take_made(self, made: tuple[str, float, float]) -> None:
        self._set_busy(False)
        name, length, width = made
        picture = {"back_picture" if self._back else "picture": name}
        self.board = replace(self.board, length_mm=length, width_mm=width, cut_from=None, **picture)
        self.accept()

    def _set_busy(self, on: bool) -> None:
        self.busy = on
        self._progress.setVisible(on)
        self._buttons.button(QDialogButtonBox.StandardButton.Ok).setEnabled(not on)

    def done(self, result: int) -> None:
        """Let go of the thread."""
        self._closed = True
        self._worker.close(waiting=False)
        super().done(result)


def photographed(
    parent: QWidget,
    board: Board,
    fmt: Format,
    theme: Theme,
    keep: "Callable[[NDArray[np.uint8]], str]",
    sources: tuple[Source, ...] = (),
    *,
    back: bool = False,
) -> Board | None:
    """The board with a picture made of photographs; None where it was given up."""
    box = Photobox(parent, board, fmt, theme, keep, back=back)
    for source in sources:
        box.add(source)
    return box.board if box.exec() else None
