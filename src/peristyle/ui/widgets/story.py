"""The log as lines with their photographs, and the line to add to it."""

from pathlib import Path
from typing import Final

from PySide6.QtCore import QBuffer, QIODevice, QSize, Qt, QTimer
from PySide6.QtGui import QIcon, QImage, QImageReader, QPixmap
from PySide6.QtWidgets import (
    QDialog,
    QFileDialog,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from peristyle.core.clock import stamp
from peristyle.core.errors import LengthError, PeristyleError
from peristyle.core.lengths import parse_count
from peristyle.model.design import replace
from peristyle.model.job import Entry, EntryKind, Job
from peristyle.storage import files, pictures
from peristyle.ui.session import Session
from peristyle.words import log as words
from peristyle.words.steps import title

_THUMB: Final = QSize(96, 72)
_LARGEST: Final = QSize(1600, 1200)
_PHOTOGRAPHS: Final = "Photographs (*.jpg *.jpeg *.png *.tif *.tiff *.webp)"
_NOTE: Final = "A note for the log; Enter writes it"


class Story(QWidget):
    """What is in the log, by date or by step, and how an entry is written, corrected, or given a photograph."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self.order = "date"
        self._picture = ""  # the photograph that goes with the next entry
        self._known: dict[str, QIcon] = {}
        self._total = QLabel()
        self.list = QListWidget()
        self.list.setAccessibleName("The log")
        self.list.setToolTip("Pick an entry to correct it; a double click or Enter shows its photograph")
        self.list.setWordWrap(True)
        self.list.setIconSize(_THUMB)
        self.list.itemActivated.connect(self._show)
        self.list.itemSelectionChanged.connect(self._say_what_is_next)
        told = QVBoxLayout(self)
        told.setContentsMargins(12, 4, 12, 4)
        told.addWidget(self._total)
        told.addWidget(self.list, 1)
        told.addLayout(self._entry_line())
        session.selected.connect(self._say_what_is_next)

    def _entry_line(self) -> QHBoxLayout:
        row = QHBoxLayout()
        self.text, self.minutes, self.shot = QLineEdit(), QLineEdit(), QPushButton("&Photograph…")
        self.text.setPlaceholderText(_NOTE)
        self.text.setAccessibleName("A note for the log")
        self.text.setMaxLength(2000)
        self.minutes.setPlaceholderText("minutes")
        self.minutes.setAccessibleName("Minutes of work")
        self.minutes.setMaximumWidth(90)
        self.shot.setToolTip("A photograph for the entry; or drop one on the window")
        self.shot.clicked.connect(lambda _on=False: self._choose())
        add = QPushButton("&Write")
        add.setToolTip("Entries are never changed: a later one corrects an earlier")
        add.clicked.connect(lambda _on=False: self._write())
        for field in (self.text, self.minutes):
            field.returnPressed.connect(self._write)
            row.addWidget(field, 1 if field is self.text else 0)
        row.addWidget(self.shot)
        row.addWidget(add)
        return row

    def _say_what_is_next(self) -> None:
        """The empty line says what an entry would be about."""
        number, step = self._picked(), self._step()
        if number is not None:
            self.text.setPlaceholderText(f"A correction to entry {number + 1}; Enter writes it")
        elif step:
            named = {one.id: one for one in self._session.plan.steps}
            about = title(named[step], self._session.format)
            self.text.setPlaceholderText(f"A note on “{about}”; Enter writes it")
        else:
            self.text.setPlaceholderText(_NOTE)

    def _step(self) -> str:
        """The step that is picked, by its id; empty for none."""
        pick, steps = self._session.selection, self._session.plan.steps
        return steps[pick.index].id if pick and pick.kind == "step" and pick.index < len(steps) else ""

    def _choose(self) -> None:
        """Ask for a photograph; where one is chosen already, it is put away again."""
        if self._picture:
            self._hold("")
            return
        name = QFileDialog.getOpenFileName(self, "A photograph for the log", "", _PHOTOGRAPHS)[0]
        if name:
            self.attach(Path(name))

    def attach(self, path: Path) -> None:
        """Keep a photograph for the next entry."""
        folder = self._session.own_pictures
        try:
            if folder is None:
                raise PeristyleError("There is no folder for photographs.")
            self._hold(pictures.keep_photograph(path, folder), path.name)
        except (PeristyleError, OSError) as error:
            self._session.said.emit(str(error))
            return
        self._session.said.emit(f"“{files.shown(path.name)}” goes with the next entry: Enter writes it.")
        self.text.setFocus()

    def _hold(self, picture: str, name: str = "") -> None:
        self._picture = picture
        self.shot.setText("Without &photograph" if picture else "&Photograph…")
        self.shot.setIcon(self._thumb(picture) if picture else QIcon())
        self.shot.setAccessibleDescription(f"{name} goes with the next entry" if picture else "")

    def _write(self) -> None:
        """What was typed becomes an entry: a correction, where one is picked in the story."""
        text, minutes = self.text.text().strip(), self.minutes.text().strip()
        if not text and not minutes and not self._picture:
            return
        try:
            took = float(parse_count(minutes)) if minutes else None
        except LengthError as error:
            self._session.said.emit(str(error))
            return
        number = self._picked()
        kind: EntryKind = "note" if number is None else "correction"
        about = self._step() if number is None else self._session.job.log[number].about
        new = Entry(stamp(), about, text, kind, took, picture=self._picture, corrects=number)
        if self._session.change("Write in the log", lambda job: logged(job, new)):
            self.text.clear()
            self.minutes.clear()
            self._hold("")

    def _picked(self) -> int | None:
        """The entry that is picked in the story, to be corrected."""
        item = self.list.currentItem()
        number = item.data(Qt.ItemDataRole.UserRole) if item is not None and item.isSelected() else None
        return number if isinstance(number, int) else None

    def tell_next(self, lines: list[str]) -> None:
        """Other lines in the log's place: what is to be done."""
        self.list.clear()
        self.list.addItems(lines)
        self._total.setText(words.totals(self._session.job))
        self._say_what_is_next()

    def tell(self) -> None:
        """The story anew, as the log stands."""
        job, steps, fmt = self._session.job, self._session.plan.steps, self._session.format
        self.list.clear()
        for line in words.story(job, steps, fmt, by_step=self.order == "step"):
            item = QListWidgetItem(line.text)
            item.setData(Qt.ItemDataRole.UserRole, line.number)
            picture = job.log[line.number].picture if line.number is not None else ""
            if picture:
                item.setIcon(self._thumb(picture))
            self.list.addItem(item)
        self._total.setText(words.totals(job))
        self._say_what_is_next()
        # What was written last is seen, once the lines have their places.
        QTimer.singleShot(0, self.list, self.list.scrollToBottom)

    def _thumb(self, name: str) -> QIcon:
        if name not in self._known:
            seen = self._seen(name, _THUMB * 2)
            if seen.isNull():
                return QIcon()
            self._known[name] = QIcon(QPixmap.fromImage(seen))
        return self._known[name]

    def _seen(self, name: str, room: QSize) -> QImage:
        """A photograph, no larger than `room`; a null image where it is lost or cannot be read."""
        data = pictures.read(name, self._session.places)
        if data is None:
            return QImage()
        held = QBuffer()
        held.setData(data)
        held.open(QIODevice.OpenModeFlag.ReadOnly)
        reader = QImageReader(held)
        size = reader.size()
        if size.isValid() and (size.width() > room.width() or size.height() > room.height()):
            reader.setScaledSize(size.scaled(room, Qt.AspectRatioMode.KeepAspectRatio))
        return reader.read()

    def _show(self, item: QListWidgetItem) -> None:
        """The photograph of an entry, as large as the window."""
        number = item.data(Qt.ItemDataRole.UserRole)
        name = self._session.job.log[number].picture if isinstance(number, int) else ""
        if not name:
            return
        room = self.window().size() * 0.85
        image = self._seen(name, room.boundedTo(_LARGEST))
        if image.isNull():
            self._session.said.emit("The photograph of this entry is lost, or cannot be read.")
            return
        box = QDialog(self)
        box.setWindowTitle(item.text().strip())
        shown = QLabel()
        shown.setPixmap(QPixmap.fromImage(image))
        shown.setAccessibleName(f"Photograph: {item.text().strip()}")
        QVBoxLayout(box).addWidget(shown)
        box.exec()


def logged(job: Job, new: Entry) -> Job:
    """The job with an entry more."""
    made: Job = replace(job, log=(*job.log, new))
    return made
