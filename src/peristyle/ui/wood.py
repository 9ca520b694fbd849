"""Pictures of the board, grown in the background and kept.

Views ask for the picture of a board and paint plain wood until it is there; `ready` tells them.
"""

from collections import OrderedDict
from collections.abc import Callable, Iterable
from functools import partial
from pathlib import Path
from typing import Final, NamedTuple, Protocol

from PySide6.QtCore import QObject, Qt, QTimer, Signal
from PySide6.QtGui import QColor, QImage

from peristyle.model.job import Job
from peristyle.model.stock import Board
from peristyle.planning.stock.looks import look_of_sides
from peristyle.reference.woods import wood_named
from peristyle.storage import pictures
from peristyle.ui.memory import give_back
from peristyle.ui.worker import Worker
from peristyle.wood.looks import Given, Look, Surface

KEPT: Final = 12
ROUGH: Final = 0.34  # a rough picture first, of so much of the points each way
FINE_MS: Final = 450  # and the fine one once nothing has changed for this long
KEPT_BYTES: Final = 100 * 2**20  # all pictures together
LAST_BYTES: Final = 150 * 2**20  # and those that stand in for boards while their own grow


class WoodPicture(NamedTuple):
    """A board's picture at full, half and quarter size, and pixels per mm of the full one."""

    levels: tuple[QImage, ...]
    px_per_mm: float
    length_mm: float
    width_mm: float

    def level(self, shown_px_per_mm: float) -> tuple[QImage, float]:
        """The smallest level that still has a pixel for each one shown, and its scale."""
        image, scale = self.levels[0], self.px_per_mm
        for smaller in self.levels[1:]:
            if scale / 2 < shown_px_per_mm:
                break
            image, scale = smaller, scale / 2
        return image, scale


class _Key(NamedTuple):
    look: Look
    plane: Surface
    fine: bool = False


def _grown(key: _Key, given: Given) -> WoodPicture:
    """One picture, grown or opened off the window's thread."""
    # NumPy takes 0.2 s to import: here it costs the first paint nothing.
    from peristyle.wood.pictures import seen

    pixels, scale = seen(key.look, key.plane, given, 1.0 if key.fine else ROUGH)
    rows, columns, _three = pixels.shape
    full = QImage(pixels.tobytes(), columns, rows, columns * 3, QImage.Format.Format_RGB888)
    full = full.convertToFormat(QImage.Format.Format_RGB32)
    levels = [full]
    smooth = Qt.TransformationMode.SmoothTransformation
    for _ in range(2):
        last = levels[-1]
        wide, high = max(1, last.width() // 2), max(1, last.height() // 2)
        levels.append(last.scaled(wide, high, Qt.AspectRatioMode.IgnoreAspectRatio, smooth))
    return WoodPicture(tuple(levels), scale, columns / scale, rows / scale)


def _bytes_of(kept: Iterable[WoodPicture]) -> int:
    return sum(level.sizeInBytes() for picture in kept for level in picture.levels)


class Companion(Protocol):
    """Something else that works on pictures in the background."""

    def settle(self) -> None:
        """Finish what is under way."""

    def close(self) -> None:
        """Let go of its thread."""


class WoodStore(QObject):
    """The pictures by board. A board that changes under a drag keeps its last picture until rest."""

    ready = Signal()

    def __init__(self, *, rest_ms: int = 120) -> None:
        super().__init__()
        self._worker = Worker("wood", self)
        self._closed = False  # a window that is closing may paint once more
        self._kept: OrderedDict[_Key, WoodPicture] = OrderedDict()
        self._growing: set[_Key] = set()
        # Asked for last stands last.
        self._last: OrderedDict[tuple[Surface, str], WoodPicture] = OrderedDict()
        self._wanted: dict[tuple[Surface, str], _Key] = {}
        self.companions: list[Companion] = []  # settled and closed with this
        self.folders: tuple[Path, ...] = ()  # where pictures of real boards are
        self._rest = QTimer(self)
        self._rest.setSingleShot(True)
        self._rest.setInterval(rest_ms)
        self._rest.timeout.connect(self._grow)
        self._finer = QTimer(self)
        self._finer.setSingleShot(True)
        self._finer.setInterval(max(FINE_MS if rest_ms else 0, rest_ms))
        self._finer.timeout.connect(self._grow_finer)
        self.held: Callable[[], bool] = lambda: (
            False
        )  # whether something is being dragged: fine pictures wait

    def of_sides(self, job: Job) -> Callable[[Surface, str], WoodPicture | None]:
        """The pictures of the boards the sides come from, by plane and by the board's name on the rack."""
        own = look_of_sides(job)
        others: dict[str, Look] = {}

        def picture(plane: Surface, board: str) -> WoodPicture | None:
            if board and not others:
                others.update({other.name: look_of_sides(job, other) for other in job.stock.rack})
            return self.picture(others.get(board, own), plane, board)

        return picture

    def picture(self, look: Look, plane: Surface = "face", board: str = "") -> WoodPicture | None:
        """One plane of a board, as far as it is there; the last one of that `board` while a new one grows."""
        if plane in ("face", "under"):
            look = look._replace(leaves_mm=(0.0, 0.0))  # how it would be resawn changes nothing on its faces
        return self._picture(look, plane, (plane, board))

    def _picture(self, look: Look, plane: Surface, place: tuple[Surface, str]) -> WoodPicture | None:
        """One plane of a board, rough at first; the last one while the new one grows, None at the very first."""
        for key in (_Key(look, plane, True), _Key(look, plane)):
            if key in self._kept:
                self._kept.move_to_end(key)
                self._stands_in(place, self._kept[key])
                if not key.fine and self._wanted.get(place) != key._replace(fine=True):
                    self._wanted[place] = key._replace(fine=True)
                    self._finer.start()
                return self._last[place]
        if self._wanted.get(place) not in (key, key._replace(fine=True)):
            self._wanted[place] = key
            self._rest.start()
        if place in self._last:
            self._last.move_to_end(place)
        return self._last.get(place)

    def _stands_in(self, place: tuple[Surface, str], picture: WoodPicture) -> None:
        """The last picture of a place. Where they come to too much, those not asked for the longest are forgotten."""
        fresh = self._last.get(place) is not picture
        self._last[place] = picture
        self._last.move_to_end(place)
        while fresh and len(self._last) > 1 and _bytes_of(self._last.values()) > LAST_BYTES:
            gone, _picture = self._last.popitem(last=False)
            self._wanted.pop(gone, None)

    def _given(self, name: str) -> bytes | None:
        return pictures.read(name, self.folders)

    def plain(self, board: Board) -> QColor:
        """One colour for the wood, for rims, inner walls and until the picture is there."""
        kind = wood_named(board.wood)
        mix = [(2 * a + b) // 3 for a, b in zip(kind.early, kind.late, strict=True)]
        return QColor(*mix)

    def _grow_finer(self) -> None:
        """The fine pictures, once nothing moves: growing them would take the time of its frames."""
        if self.held():
            self._finer.start()
        else:
            self._grow()

    def _grow(self) -> None:
        for key in self._wanted.values():
            if not self._closed and key not in self._growing and key not in self._kept:
                self._growing.add(key)
                # Where it fails `key` stays among the growing: plain wood, and not tried again at every paint.
                self._worker.do(partial(self._grow_there, key), partial(self._arrived, key))

    def _grow_there(self, key: _Key) -> WoodPicture:
        """In the worker."""
        try:
            return _grown(key, self._given)
        finally:
            give_back()

    def _arrived(self, key: _Key, grown: WoodPicture) -> None:
        self._growing.discard(key)
        self._kept[key] = grown
        while len(self._kept) > 1 and (len(self._kept) > KEPT or _bytes_of(self._kept.values()) > KEPT_BYTES):
            self._kept.popitem(last=False)
        self.ready.emit()

    def settle(self) -> None:
        """Finish what grows: before leaving, and for pictures that must be complete."""
        for companion in self.companions:
            companion.settle()
        if self._rest.isActive() or self._finer.isActive():
            self._rest.stop()
            self._finer.stop()
            self._grow()
        self._worker.settle()

    def close(self) -> None:
        """Let go of the thread."""
        for companion in self.companions:
            companion.close()
        self._closed = True
        self._rest.stop()
        self._finer.stop()
        self._worker.close()
        self._kept.clear()
        self._last.clear()
