"""A batch in a window: its jobs and how many of each, its boards, and the cutting map of every board that is used."""

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import (
    QDialog,
    QDialogButtonBox,
    QFileDialog,
    QHBoxLayout,
    QLabel,
    QListWidget,
    QListWidgetItem,
    QProgressBar,
    QPushButton,
    QScrollArea,
    QSpinBox,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from peristyle.core.errors import PeristyleError
from peristyle.core.lengths import Format
from peristyle.drawing.shapes import Drawing
from peristyle.model.batch import MOST_BOXES, Batch, BatchJob, counted, without_board
from peristyle.model.design import replace
from peristyle.model.job import Job
from peristyle.model.stock import Board
from peristyle.planning.plan import plan
from peristyle.planning.stock.allocation import Allocation, Wanted
from peristyle.storage import batch as kept
from peristyle.storage import files
from peristyle.ui.guard import painting
from peristyle.ui.painting import Fit, Layer, paint
from peristyle.ui.theme import Theme
from peristyle.ui.worker import Worker
from peristyle.words.boards import board_line

SECONDS = 20.0


class _Map(QWidget):
    """The cutting map of one board."""

    def __init__(self, drawing: Drawing, theme: Theme) -> None:
        super().__init__()
        self._drawing, self._theme = drawing, theme
        x0, y0, x1, y1 = drawing.bounds
        self._shape = (y1 - y0) / max(x1 - x0, 1e-6)
        self.setAccessibleName("Cutting map")
        self.setAccessibleDescription(drawing.words)
        self.setMinimumHeight(64)

    def sizeHint(self) -> QSize:
        """As high as the board is wide."""
        return QSize(600, max(64, min(190, round(600 * self._shape))))

    def paintEvent(self, event: QPaintEvent) -> None:
        """The board."""
        with painting(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.fillRect(self.rect(), self._theme.paper)
            fit = Fit.into(self._drawing.bounds, QRectF(self.rect()).adjusted(6, 4, -6, -4))
            paint(
                painter,
                self._drawing,
                fit,
                self._theme,
                lambda _plane, _board: None,
                self._theme.wood,
                None,
                (Layer(), Layer()),
            )


class Batchbox(QDialog):
    """Edits a batch; it is written to its file when saved."""

    def __init__(
        self,
        parent: QWidget,
        theme: Theme,
        fmt: Format,
        mine: tuple[Board, ...],
        keep: Callable[[tuple[Board, ...]], bool],
        seconds: float = SECONDS,
    ) -> None:
        super().__init__(parent)
        self.setWindowTitle("A batch: many boxes from many boards")
        self._theme, self._format, self._mine, self._keep = theme, fmt, mine, keep
        self._seconds = seconds
        self.batch = Batch(units=fmt.units)
        self.jobs: list[Job] = []
        self.path: Path | None = None
        self.found: Allocation | None = None
        self.busy, self._stop = False, False
        self._worker = Worker("batch", self)
        self._build()
        self._refresh()
        room = parent.screen().availableGeometry()
        self.resize(min(1120, room.width() - 8), min(720, room.height() - 40))

    def _build(self) -> None:
        self._table = QTableWidget(0, 2)
        self._table.setHorizontalHeaderLabels(["Job", "How many"])
        self._table.horizontalHeader().setStretchLastSection(False)
        self._table.setColumnWidth(0, 190)
        self._table.setColumnWidth(1, 80)
        self._table.verticalHeader().hide()
        self._table.setAccessibleName("Jobs of the batch, and how many boxes of each")
        self._boards = QListWidget()
        self._boards.setAccessibleName("Boards of the batch")
        self._boards.setWordWrap(True)
        self._boards.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self._said = QLabel("")
        self._said.setWordWrap(True)
        self._said.setTextFormat(Qt.TextFormat.PlainText)
        self._progress = QProgressBar()
        self._progress.setRange(0, 100)
        self._progress.setAccessibleName("How long it has been looking for a better plan")
        self._progress.hide()
        self._maps = QWidget()
        self._map_rows = QVBoxLayout(self._maps)
        scroll = QScrollArea()
        scroll.setWidgetResizable(True)
        scroll.setWidget(self._maps)
        scroll.setAccessibleName("Cutting maps")
        self._go = QPushButton("Allocate")
        self._go.clicked.connect(lambda _on=False: self._allocate())
        left, right, whole = QVBoxLayout(), QVBoxLayout(), QHBoxLayout(self)
        for widget in (QLabel("Boxes"), self._table, *self._job_buttons(), QLabel("Boards"), self._boards,
                       *self._board_buttons()):  # fmt: skip
            left.addWidget(widget)
        row = QHBoxLayout()
        for text, do in (("Open…", self._open), ("Save…", self._save), ("Print the maps…", self._print)):
            button = QPushButton(text)
            button.clicked.connect(lambda _on=False, do=do: do())
            row.addWidget(button)
        row.addStretch(1)
        row.addWidget(self._go)
        right.addLayout(row)
        right.addWidget(self._progress)
        right.addWidget(self._said)
        right.addWidget(scroll, 1)
        close = QDialogButtonBox(QDialogButtonBox.StandardButton.Close)
        close.rejected.connect(self.reject)
        right.addWidget(close)
        side = QWidget()
        side.setLayout(left)
        side.setFixedWidth(310)
        whole.addWidget(side)
        whole.addLayout(right, 1)

    def _job_buttons(self) -> list[QPushButton]:
        return [self._button("Add a job…", self._add_job), self._button("Take the job off", self._drop_job)]

    def _board_buttons(self) -> list[QPushButton]:
        return [
            self._button("Boards of my rack", self._add_mine), self._button("Boards of the jobs", self._add_jobs_own),
            self._button("Take the board off", self._drop_board), self._button("This board is cut", self._cut),
        ]  # fmt: skip

    def _button(self, text: str, do: Callable[[], None]) -> QPushButton:
        button = QPushButton(text)
        button.clicked.connect(lambda _on=False: do())
        return button

    # --- what is in the batch

    def _refresh(self) -> None:
        for row in range(self._table.rowCount()):
            gone = self._table.cellWidget(row, 1)
            if gone is not None:
                gone.hide()  # it is let go of only later
        self._table.setRowCount(0)
        self._table.setRowCount(len(self.jobs))
        for row, (one, job) in enumerate(zip(self.batch.jobs, self.jobs, strict=True)):
            item = QTableWidgetItem(job.design.name)
            item.setFlags(Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable)
            self._table.setItem(row, 0, item)
            spin = QSpinBox()
            spin.setRange(0, MOST_BOXES)
            spin.setValue(one.count)
            spin.setAccessibleName(f"How many of {job.design.name}")
            spin.valueChanged.connect(lambda value, row=row: self._count(row, value))
            self._table.setCellWidget(row, 1, spin)
        picked = self._boards.currentRow()
        self._boards.clear()
        for board in self.batch.boards:
            self._boards.addItem(QListWidgetItem(board_line(board, self._format)))
        self._boards.setCurrentRow(min(picked, self._boards.count() - 1))
        self._go.setEnabled(bool(self.jobs and self.batch.boards))

    def _changed(self, batch: Batch) -> None:
        self.batch = batch
        self.found = None
        self._show_maps()
        self._said.setText("")
        self._refresh()

    def _count(self, row: int, value: int) -> None:
        self.batch = counted(self.batch, row, value)

    def add_job(self, path: Path, count: int = 1) -> None:
        """A job's file; what is wrong with it is said."""
        try:
            job = files.load(path).job
        except PeristyleError as error:
            self._said.setText(str(error))
            return
        self.jobs.append(job)
        made = BatchJob(file=str(files.absolute(path)), count=count)
        self._changed(replace(self.batch, jobs=(*self.batch.jobs, made)))

    def add_boards(self, boards: tuple[Board, ...]) -> None:
        """Boards, each under a name of its own."""
        own = list(self.batch.boards)
        for board in boards:
            taken = {other.name for other in own}
            name, number = board.name, 2
            while name in taken:
                name, number = f"{board.name[:110]} {number}", number + 1
            own.append(replace(board, name=name))
        self._changed(replace(self.batch, boards=tuple(own)[:100]))

    def _add_job(self) -> None:
        names = QFileDialog.getOpenFileNames(self, "Jobs for the batch", "", "Peristyle jobs (*.peristyle)")[
            0
        ]
        for name in names:
            self.add_job(Path(name))

    def _drop_job(self) -> None:
        row = self._table.currentRow()
        if 0 <= row < len(self.jobs):
            del self.jobs[row]
            jobs = self.batch.jobs
            self._changed(replace(self.batch, jobs=(*jobs[:row], *jobs[row + 1 :])))

    def _add_mine(self) -> None:
        if not self._mine:
            self._said.setText("There is no board on your rack yet: Edit, Boards… puts one there.")
        self.add_boards(self._mine)

    def _add_jobs_own(self) -> None:
        self.add_boards(tuple(board for job in self.jobs for board in (job.stock.board, *job.stock.rack)))

    def _drop_board(self) -> None:
        row = self._boards.currentRow()
        if 0 <= row < len(self.batch.boards):
            self._changed(without_board(self.batch, self.batch.boards[row].name))

    # --- allocating

    def _wanted(self) -> list[Wanted]:
        return [
            Wanted(job.design.name, plan(job).job, one.count)
            for one, job in zip(self.batch.jobs, self.jobs, strict=True)
        ]

    def _allocate(self) -> None:
        if self.busy:
            self._stop = True
            return
        self.busy, self._stop = True, False
        self._go.setText("Stop")
        self._progress.setValue(0)
        self._progress.show()
        work = partial(self._allocate_there, self._wanted(), self.batch.boards)
        self._worker.do(work, partial(self._take, last=True), self._failed)

    def _allocate_there(self, wanted: list[Wanted], boards: tuple[Board, ...]) -> Allocation:
        """In the worker: a plan at once, then better ones."""
        from peristyle.planning.stock.allocate import allocate

        return allocate(
            wanted, boards, self._seconds,
            progress=lambda *step: self._worker.tell(partial(self._show_step, *step)), cancelled=lambda: self._stop,
            first=lambda found: self._worker.tell(partial(self._take, found)),
        )  # fmt: skip

    def _show_step(self, what: str, share: float, gap: float) -> None:
        from peristyle.words.batch import QUESTIONS

        self._progress.setValue(round(100 * share))
        told = (
            f", at most {self._format.number(100 * gap, 1)} % over the least"
            if what == "cost" and gap < 1
            else ""
        )
        self._progress.setFormat(f"{QUESTIONS[what]}{told}")

    def _rest(self) -> None:
        self.busy = False
        self._progress.hide()
        self._go.setText("Allocate")

    def _failed(self, _error: Exception) -> bool:
        self._rest()
        return False

    def _take(self, found: Allocation, *, last: bool = False) -> None:
        if last:
            self._rest()
        from peristyle.words.batch import found_lines

        self.found = found
        self._said.setText(" ".join(found_lines(found, self._wanted(), self.batch.boards, self._format)))
        self._show_maps()

    def _show_maps(self) -> None:
        from peristyle.drawing.cutting import cutting_map

        while self._map_rows.count():
            item = self._map_rows.takeAt(0)
            widget = item.widget() if item is not None else None
            if widget is not None:
                widget.setParent(None)
                widget.deleteLater()
        if self.found is not None:
            wanted = self._wanted()
            for number in self.found.boards:
                drawing = cutting_map(self.found, number, wanted, self.batch.boards, self._format)
                self._map_rows.addWidget(_Map(drawing, self._theme))
        self._map_rows.addStretch(1)

    def _cut(self) -> None:
        """The picked board is cut: it leaves the batch with its boxes, its offcut goes onto the maker's own rack."""
        row = self._boards.currentRow()
        if self.found is None or not 0 <= row < len(self.batch.boards):
            self._said.setText("Allocate first, then pick the board that is cut.")
            return
        from peristyle.planning.stock.batching import settled

        try:
            left, offcuts = settled(self.batch, self.found, [self.batch.boards[row].name])
        except PeristyleError as error:
            self._said.setText(str(error))
            return
        if offcuts and not self._keep(tuple(offcuts)):
            return
        self._changed(left)
        names = ", ".join(board.name for board in offcuts)
        self._said.setText(
            f"On your rack: {names}." if names else "That board is cut; nothing of it is worth keeping."
        )

    # --- its file

    def _open(self) -> None:
        name = QFileDialog.getOpenFileName(self, "Open a batch", "", "Batches (*.batch)")[0]
        if name:
            self.open_path(Path(name))

    def open_path(self, path: Path) -> None:
        """A batch from its file; what is wrong is said, and what was open stays."""
        try:
            opened = kept.load(path)
        except PeristyleError as error:
            self._said.setText(str(error))
            return
        self.path, self.jobs = path, list(opened.jobs)
        absolute = tuple(
            replace(one, file=str(files.absolute(path.parent / one.file))) for one in opened.batch.jobs
        )
        self._changed(replace(opened.batch, jobs=absolute))

    def _save(self) -> None:
        start = str(self.path) if self.path else f"{self.batch.name}.batch"
        name = QFileDialog.getSaveFileName(self, "Save the batch", start, "Batches (*.batch)")[0]
        if name:
            self.save(Path(name))

    def save(self, path: Path) -> None:
        """Write the batch, its jobs named from its own folder."""
        jobs = tuple(replace(one, file=kept.relative(Path(one.file), path)) for one in self.batch.jobs)
        try:
            kept.save(path, replace(self.batch, jobs=jobs))
        except (PeristyleError, OSError) as error:
            self._said.setText(str(error))
            return
        self.path = path
        self._said.setText(f"Saved: {files.shown(path.name)}")

    def _print(self) -> None:
        if self.found is None:
            self._said.setText("Allocate first: there is no map yet.")
            return
        name = QFileDialog.getSaveFileName(
            self, "Print the maps", f"{self.batch.name} maps.pdf", "PDF (*.pdf)"
        )[0]
        if name:
            self.print_to(Path(name))

    def print_to(self, path: Path) -> None:
        """The maps as a PDF."""
        from peristyle.export.maps import maps_sheet

        if self.found is None:
            return
        try:
            sheet = maps_sheet(self.batch.name, self.found, self._wanted(), self.batch.boards, self._format)
            files.write_atomically(path, sheet)
        except (PeristyleError, OSError) as error:
            self._said.setText(str(error))
            return
        self._said.setText(f"Written: {files.shown(path.name)}")

    def done(self, result: int) -> None:
        """Let go of the thread; a search under way is ended."""
        self._stop = True
        self._worker.close(waiting=False)
        super().done(result)
