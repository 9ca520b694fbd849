"""Undo and redo: a list of designs with the words for what was done between them. The log is no part of it."""

from typing import NamedTuple

from peristyle.model.design import replace
from peristyle.model.job import Entry, Job


class Step(NamedTuple):
    """One edit: what it is called, the design before it and after it."""

    label: str
    before: Job
    after: Job
    join: str | bool = False


class History:
    """Where the maker stands among the edits made so far."""

    def __init__(self, job: Job) -> None:
        self._log: tuple[Entry, ...] = job.log
        self._start = _bare(job)
        self._done: list[Step] = []
        self._undone: list[Step] = []
        self._shown: tuple[Job, tuple[Entry, ...], Job] = (self._start, self._log, job)

    @property
    def job(self) -> Job:
        """The design as it stands, with all that was ever logged."""
        bare, log, shown = self._shown
        now = self._done[-1].after if self._done else self._start
        if now is not bare or log is not self._log:
            shown = replace(now, log=self._log) if self._log else now
            self._shown = (now, self._log, shown)
        return shown

    def _logged(self, log: tuple[Entry, ...]) -> bool:
        """Take what was added to the log; it is never shortened, nor is what is in it changed."""
        known = len(self._log)
        if len(log) <= known or log[:known] != self._log:
            return False
        self._log = log
        return True

    @property
    def undo_label(self) -> str | None:
        """What undo would take back, or None."""
        return self._done[-1].label if self._done else None

    @property
    def redo_label(self) -> str | None:
        """What redo would do again, or None."""
        return self._undone[-1].label if self._undone else None

    def push(self, label: str, after: Job, *, join: str | bool = False) -> bool:
        """Record an edit; False when nothing changed.

        With `join`, which says what is edited, an edit of the same thing as the last one joins it: a
        size stepped ten times with the arrow keys is one thing to undo.
        """
        logged = self._logged(after.log)
        before, after = (self._done[-1].after if self._done else self._start), _bare(after)
        if after == before:
            return logged
        last = self._done[-1] if self._done else None
        if last and join and (last.join, last.label) == (join, label) and not self._undone:
            before = self._done.pop().before
            if before == after:
                return True
        self._done.append(Step(label, before, after, join))
        self._undone.clear()
        return True

    def undo(self) -> Job:
        """Take the last edit back; the design as it then stands."""
        if self._done:
            self._undone.append(self._done.pop())
        return self.job

    def redo(self) -> Job:
        """Do the last undone edit again; the design as it then stands."""
        if self._undone:
            self._done.append(self._undone.pop())
        return self.job


def _bare(job: Job) -> Job:
    made: Job = replace(job, log=()) if job.log else job
    return made
