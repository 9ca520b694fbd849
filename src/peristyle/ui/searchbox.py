"""Search the logs of all the maker's boxes: those opened lately, and all that lie beside them."""

from collections.abc import Iterator
from pathlib import Path
from typing import Final

from PySide6.QtCore import Qt, QTimer
from PySide6.QtWidgets import (
    QDialog,
    QDialogButtonBox,
    QFileDialog,
    QLabel,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QVBoxLayout,
    QWidget,
)

from peristyle.core.errors import PeristyleError
from peristyle.core.lengths import Format
from peristyle.planning.plan import plan
from peristyle.storage import files
from peristyle.words.log import searchable

_MOST_FILES: Final = 2000
_MOST_SHOWN: Final = 500


class SearchBox(QDialog):
    """What is typed is looked for in every entry; `chosen` is the box whose entry was picked.

    Boxes are read one after the other while the window goes on; what is found comes as it is found.
    """

    def __init__(self, parent: QWidget | None, recent: list[Path]) -> None:
        super().__init__(parent)
        self.setWindowTitle("Search the logs")
        self.resize(760, 480)
        self.chosen: Path | None = None
        self._lines: list[tuple[Path, str, str]] = []  # whose, as it reads, as it is looked through
        self._found = 0  # lines that say it, shown or not
        self._seen: set[Path] = set()
        self._waits: Iterator[Path] = iter(())
        self.text, self.list, self._told = QLineEdit(), QListWidget(), QLabel()
        self.text.setPlaceholderText("A word of a note, a step, a wood")
        self.text.setAccessibleName("What to look for")
        self.text.setClearButtonEnabled(True)
        self.list.setAccessibleName("Entries that say it")
        self.list.setWordWrap(True)
        self.list.setResizeMode(QListWidget.ResizeMode.Adjust)
        self.list.itemActivated.connect(self._choose)
        self.text.textChanged.connect(lambda _text: self._show())
        self.text.returnPressed.connect(self.list.setFocus)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Close)
        more = buttons.addButton("In another &folder…", QDialogButtonBox.ButtonRole.ActionRole)
        more.clicked.connect(lambda _on=False: self._another())
        buttons.rejected.connect(self.reject)
        column = QVBoxLayout(self)
        for widget in (self.text, self.list, self._told, buttons):
            column.addWidget(widget)
        self._next = QTimer(self)
        self._next.timeout.connect(self._read_one)
        folders = dict.fromkeys(path.parent for path in recent)
        self._read(
            [*recent, *(path for folder in folders for path in sorted(folder.glob(f"*{files.SUFFIX}")))]
        )

    def _another(self) -> None:
        """A folder more, with all that lies in it."""
        name = QFileDialog.getExistingDirectory(self, "Search the boxes in a folder")
        if name:
            self._read(sorted(Path(name).rglob(f"*{files.SUFFIX}")))

    def _read(self, paths: list[Path]) -> None:
        fresh = [path for path in dict.fromkeys(paths) if path not in self._seen]
        self._waits = iter((*self._waits, *fresh[:_MOST_FILES]))
        self._next.start(0)
        self._say()

    def _read_one(self) -> None:
        """The next box is read; one that cannot be is passed over."""
        path = next(self._waits, None)
        if path is None:
            self._next.stop()
        elif path not in self._seen:
            self._seen.add(path)
            try:
                job = files.load(path).job
                lines = searchable(job, plan(job).steps if job.log else (), Format(job.design.units))
                fresh = [(path, f"{job.design.name}  {line}", line.casefold()) for line in lines]
            except (PeristyleError, OSError):
                return
            self._lines += fresh
            self._add(fresh)  # below what stands there: what is picked stays picked
        self._say()

    @property
    def _wanted(self) -> str:
        return self.text.text().strip().casefold()

    def _show(self) -> None:
        self.list.clear()
        self._found = 0
        self._add(self._lines)
        self._say()

    def _add(self, lines: list[tuple[Path, str, str]]) -> None:
        """Those of the lines that say it, as far as they are shown; the first is picked where none was."""
        wanted = self._wanted
        found = [one for one in lines if wanted and wanted in one[2]]
        self._found += len(found)
        for path, text, _folded in found[: max(0, _MOST_SHOWN - self.list.count())]:
            item = QListWidgetItem(text)
            item.setData(Qt.ItemDataRole.UserRole, str(path))
            item.setToolTip(files.shown(path))
            self.list.addItem(item)
        if found and self.list.currentRow() < 0:
            self.list.setCurrentRow(0)

    def _say(self) -> None:
        boxes = f"{len(self._seen)} box{'' if len(self._seen) == 1 else 'es'} read"
        going = ", more are being read" if self._next.isActive() else ""
        what = f"{self._found} found. " if self._wanted else ""
        self._told.setText(f"{what}{boxes}{going}. Enter opens the box an entry is of.")

    def _choose(self, item: QListWidgetItem) -> None:
        self.chosen = Path(item.data(Qt.ItemDataRole.UserRole))
        self.accept()
