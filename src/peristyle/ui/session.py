"""The one mutable holder: the design being worked on, its plan, the selection, the file."""

import math
from collections.abc import Callable
from pathlib import Path
from typing import Protocol

from PySide6.QtCore import QObject, Signal

from peristyle.core.errors import PeristyleError
from peristyle.core.lengths import Format
from peristyle.drawing.shapes import Pick
from peristyle.model.design import replace
from peristyle.model.faults import breaches, listed
from peristyle.model.fields import Field
from peristyle.model.history import History
from peristyle.model.job import Job
from peristyle.planning.plan import Plan, plan
from peristyle.storage import codec, files


class Typed(Protocol):
    """A field in which something may be typed that is not entered yet."""

    def take(self) -> bool:
        """Make it an edit; False, the reason said, where it cannot be read."""

    def put_back(self) -> None:
        """Forget it: the field shows its value again."""


def _as_planned(job: Job, planned: Plan) -> Job:
    """The job with the board it was planned with, where that is as large as the box needs."""
    made: Job = replace(job, stock=planned.job.stock) if job.stock.as_needed else job
    return made


class Session(QObject):
    """Edits go in here; everything on the screen follows its signals.

    A drag is `begin`, any number of `preview`, then `commit` or `cancel`: one thing to undo. What could
    not be saved (a value past its limits) is never kept, whoever asks for it: `edit` and `preview` are the
    only ways in.
    """

    changed = Signal()
    selected = Signal()
    filed = Signal()
    rested = Signal()
    said = Signal(str)
    asked = Signal(str)  # a view asks the window for one of its actions

    def __init__(self, job: Job, path: Path | None = None, stamp: str | None = None) -> None:
        super().__init__()
        self.places: tuple[Path, ...] = ()  # where pictures of boards and of the work may be
        self.own_pictures: Path | None = None  # the maker's own folder of them
        self._typing: list[Typed] = []
        self._load(job, path, stamp)
        self.decimal = "."

    def _load(self, job: Job, path: Path | None, stamp: str | None) -> None:
        self._history = History(job)
        self._saved: Job | None = job
        self._shown = job
        self._dragging = False
        self.path = files.absolute(path) if path else None
        self._stamp = stamp
        self._typing.clear()
        self.selection: Pick | None = None
        self.plan: Plan = plan(job)

    @property
    def job(self) -> Job:
        """The design as shown, in the middle of a drag too."""
        return self._shown

    @property
    def dragging(self) -> bool:
        """Whether something is held and moving: paint for speed."""
        return self._dragging

    @property
    def format(self) -> Format:
        """How lengths read: the design's units, the maker's decimal mark."""
        return Format(self._shown.design.units, self.decimal)

    @property
    def unsaved(self) -> bool:
        """Whether there is anything to lose."""
        return self._history.job != self._saved

    @property
    def stamp(self) -> str | None:
        """The stamp of the file as it was opened or last saved here."""
        return self._stamp

    @property
    def undo_label(self) -> str | None:
        """What undo would take back."""
        return self._history.undo_label

    @property
    def redo_label(self) -> str | None:
        """What redo would do again."""
        return self._history.redo_label

    def _show(self, job: Job, planned: Plan | None = None) -> None:
        if job is self._shown:
            return
        planned = planned or plan(job)
        self._shown, self.plan = job, planned
        self._keep_selection()
        self.changed.emit()

    def _keep_selection(self) -> None:
        if self.selection is None:
            return
        match self.selection.kind:
            case "step":
                limit = len(self.plan.steps)
            case "thing":
                limit = len(self._shown.design.inside.contents)
            case "piece":
                limit = len(self.plan.pieces)
            case "mark":
                limit = len(self._shown.stock.board.marks)
            case "key":
                limit = max((key.number for key in self.plan.keys.keys), default=0)
            case _:
                limit = self._shown.design.side_count
        if self.selection.index >= limit:
            self.selection = None
            self.selected.emit()

    def edit(self, label: str, job: Job, *, join: str | bool = False) -> bool:
        """Make an edit that can be undone; False, with the reason said, where it could not be saved."""
        if self._dragging:
            self.cancel()
        wrong = breaches(job)
        if wrong:
            self.said.emit(f"{label}: this cannot be kept ({listed(wrong[:3])}). The box stays as it was.")
            return False
        planned = plan(job)  # before it is kept: what the program cannot plan must not stay in the history
        if self._history.push(label, _as_planned(job, planned), join=join):
            self._show(self._history.job, planned)
            self.filed.emit()
        return True

    def change(self, label: str, how: Callable[[Job], Job]) -> bool:
        """Make an edit of the design as it is; what `how` refuses is said."""
        try:
            return self.edit(label, how(self.job))
        except PeristyleError as error:
            self.said.emit(str(error))
            return False

    def set_field(self, field: Field, text: str) -> bool:
        """Set a field from typed text; False, with the reason said, when it cannot be read."""
        try:
            changed = field.set(self.job, field.parse(self.job, text))
        except PeristyleError as error:
            self.said.emit(f"{error} {field.label(self.job)} stays as it was.")
            return False
        return self.edit(f"Set {field.label(self.job).lower()}", changed)

    def step_field(self, field: Field, steps: float) -> None:
        """Move a field by whole steps (1/16 inch for lengths in inches), kept in its range."""
        unit = field.step
        if field.kind == "length" and self.job.design.units == "in":
            unit = 25.4 / 16 if field.step >= 1 else 25.4 / 64
        low = max(field.least, field.low + (min(unit, 0.05) if field.above else 0.0))
        now = field.get(self.job)
        if math.isnan(now):
            self.said.emit(f"{field.label(self.job)} is not known yet: type it.")
            return
        value = min(max(now + steps * unit, low), field.high)
        label = f"Set {field.label(self.job).lower()}"
        try:
            self.edit(label, field.set(self.job, value), join=field.id)
        except PeristyleError as error:
            self.said.emit(str(error))

    # --- what is typed and not entered yet

    def typing(self, field: Typed) -> None:
        """Something is half typed in a field."""
        if field not in self._typing:
            self._typing.append(field)

    def typed(self, field: Typed) -> None:
        """It has been entered, or put back."""
        if field in self._typing:
            self._typing.remove(field)

    def take_typed(self) -> bool:
        """Take what is typed anywhere, before leaving; False to stay, where it cannot be read."""
        return all(field.take() for field in list(self._typing))

    def put_typed_back(self) -> None:
        """Forget what is half typed."""
        for field in list(self._typing):
            field.put_back()

    # --- drags

    def begin(self) -> None:
        """Start a drag."""
        self._dragging = True

    def preview(self, job: Job) -> None:
        """Show a design in the middle of a drag; what could not be saved is not shown."""
        if self._dragging and not breaches(job):
            planned = plan(job)
            self._show(_as_planned(job, planned), planned)

    def commit(self, label: str) -> None:
        """End a drag: what is shown becomes one edit."""
        self._dragging = False
        if self._history.push(label, self._shown):
            self.filed.emit()
        self.rested.emit()

    def cancel(self) -> None:
        """Leave a drag as if it had not been."""
        self._dragging = False
        self._show(self._history.job)
        self.rested.emit()

    def undo(self) -> None:
        """Take the last edit back."""
        self._step(self._history.undo)

    def redo(self) -> None:
        """Do the last undone edit again."""
        self._step(self._history.redo)

    def _step(self, move: Callable[[], Job]) -> None:
        self._dragging = False
        self._show(move())
        self.filed.emit()

    def select(self, selection: Pick | None) -> None:
        """Pick a side, a corner or a step; everything turns to it."""
        if selection != self.selection:
            self.selection = selection
            self.selected.emit()

    def start(self, job: Job, path: Path | None = None, stamp: str | None = None) -> None:
        """Begin afresh with another design."""
        self.put_typed_back()
        self._load(job, path, stamp)
        self.changed.emit()
        self.selected.emit()
        self.filed.emit()

    def start_recovered(self, job: Job, path: Path | None, stamp: str | None = None) -> None:
        """Go on with work found after a crash: unsaved until it is saved.

        `stamp` is that of its file when it was opened: saving asks where the file has changed since.
        """
        saved = None
        if path is not None:
            try:
                saved, now = files.load(path)
                stamp = stamp or now
            except PeristyleError:
                saved = None  # gone or spoiled: the work is all there is
        self.start(saved or job, path, stamp)
        self._saved = saved
        self.edit("Recover unsaved work", job)
        self.filed.emit()

    def open(self, path: Path) -> None:
        """Open a file, a recovery copy too. Raises FileError; what was open stays then."""
        data = files.read(path)
        if codec.is_copy(data):
            self.start_recovered(*codec.decode_copy(data, files.shown(path.name)))
            return
        self.start(codec.decode(data, files.shown(path.name)), path, codec.stamp_of(data))

    def save(self, path: Path, *, over: bool = False) -> None:
        """Save at `path`. Raises FileChanged when another wrote there since, unless `over`."""
        path = files.absolute(path)
        expected = self._stamp if path == self.path and not over else None
        self._stamp = files.save(path, self._history.job, expected, over=over, places=self.places)
        self.path = path
        self._saved = self._history.job
        self.filed.emit()
