"""Under the list of steps: the order they are done in, as the maker would have it."""

from collections.abc import Callable

from PySide6.QtWidgets import QInputDialog, QMenu, QPushButton, QVBoxLayout, QWidget

from peristyle.drawing.shapes import Pick
from peristyle.model import worklist
from peristyle.model.design import replace
from peristyle.model.job import Job, Work, revised
from peristyle.planning.making.order import may_leave_out, may_move
from peristyle.planning.making.step import Step
from peristyle.planning.plan import plan
from peristyle.ui.session import Session
from peristyle.ui.widgets.choices import Choices
from peristyle.words.steps import refused, title


class Order(QWidget):
    """Moves the step shown, leaves it out, adds one of the maker's own; `shown` is that step's id or none."""

    def __init__(self, session: Session, shown: Callable[[], Step | None]) -> None:
        super().__init__()
        self._session, self._shown = session, shown
        bar = Choices(session)
        bar.button(
            "Earlier", lambda: self.shift(-1), "Do this step before the one above it, where that can be"
        )
        bar.button("Later", lambda: self.shift(1), "Do this step after the one below it, where that can be")
        more: QPushButton = bar.button(
            "Order", lambda: None, "Steps left out, put back, of your own; when to finish"
        )
        more.setMenu(self._menu())
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(bar)

    def _menu(self) -> QMenu:
        menu = QMenu(self)
        menu.addAction("Leave this step out").triggered.connect(lambda _on=False: self.leave_out())
        menu.addAction("Add a step of your own…").triggered.connect(lambda _on=False: self.add())
        self._back = menu.addMenu("Put back")
        self._back.aboutToShow.connect(self._fill_back)
        menu.addSeparator()
        ticks = (
            ("Finish the inside before the glue-up", "finish", ("first", "after")),
            ("Cut key slots in the closed box", "keys", ("before_lid", "after_lid")),
        )
        for words, name, keys in ticks:
            tick = menu.addAction(words)
            tick.setCheckable(True)
            tick.triggered.connect(
                lambda on=False, name=name, keys=keys: self._put(name, keys[0 if on else 1])
            )
            menu.aboutToShow.connect(
                lambda tick=tick, name=name, keys=keys: tick.setChecked(
                    getattr(self._session.job.work, name) == keys[0]
                )
            )
        return menu

    def _put(self, name: str, key: str) -> None:
        def change(job: Job) -> Job:
            work: Work = replace(job.work, **{name: key})
            return revised(job, work=work)

        self._session.change("Change the order of work", change)

    def shift(self, by: int) -> None:
        """One place earlier or later; why not, where that cannot be."""
        step, steps = self._shown(), list(self._session.plan.steps)
        if step is None:
            return
        here = steps.index(step)
        at = here + by if by < 0 else here + by + 1
        if at < 0 or at > len(steps):
            return
        before = steps[at].id if at < len(steps) else ""
        found = may_move(steps, step.id, before)
        if found is not None:
            self._session.said.emit(refused(found, self._session.plan.job))
            return
        self._session.change("Move a step", lambda job: worklist.moved(job, step.id, before))
        self._pick(step.id)

    def _pick(self, step: str) -> None:
        """Stay with a step, wherever it is now."""
        row = next((n for n, one in enumerate(self._session.plan.steps) if one.id == step), None)
        if row is not None:
            self._session.select(Pick("step", row))

    def leave_out(self) -> None:
        """The step shown goes, where the box is made without it."""
        step = self._shown()
        if step is None:
            return
        if not may_leave_out(self._session.plan.steps, step.id):
            said = title(step, self._session.format)
            self._session.said.emit(f"“{said}” cannot be left out: without it the box is not made.")
            return
        self._session.change("Leave a step out", lambda job: worklist.left_out(job, step.id))

    def add(self) -> None:
        """Ask for a step of the maker's own."""
        text, good = QInputDialog.getMultiLineText(
            self, "Own step", "What you do, in a line; below it how, if you like:"
        )
        first, _, rest = text.strip().partition("\n")
        if not good or not first.strip():
            return
        step = self._shown()
        before = step.id if step else ""
        self._session.change(
            "Add a step", lambda job: worklist.with_own(job, first.strip()[:120], rest.strip()[:2000], before)
        )

    def _fill_back(self) -> None:
        """What is left out or moved, by its title."""
        self._back.clear()
        job = self._session.job
        plain: Work = replace(job.work, moved=(), left_out=())
        titles = {step.id: title(step, self._session.format) for step in plan(revised(job, work=plain)).steps}
        names = dict.fromkeys((*job.work.left_out, *(move.step for move in job.work.moved)))
        for name in names:
            action = self._back.addAction(titles.get(name, name))
            action.triggered.connect(lambda _on=False, step=name: self._put_back(step))
        if not names:
            self._back.addAction("Every step is at its own place").setEnabled(False)

    def _put_back(self, step: str) -> None:
        self._session.change("Put a step back", lambda job: worklist.put_back(job, step))
