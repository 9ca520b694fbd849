"""Log: when the rest will be done, what has been done as a story, and the box's record."""

import datetime as dt
from collections.abc import Iterator
from pathlib import Path
from typing import Final, get_args

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QFileDialog, QLabel, QSplitter, QVBoxLayout, QWidget

from peristyle.core.errors import PeristyleError
from peristyle.drawing.calendar import calendar_drawing, day_pages
from peristyle.drawing.shapes import Drawing
from peristyle.model.design import replace
from peristyle.model.job import CoatKind, Hours, Job
from peristyle.model.working_addresses import told_boxes, with_boxes
from peristyle.planning.plan import Plan, plan
from peristyle.planning.sled import cut_on_it
from peristyle.planning.time.minutes import own_minutes
from peristyle.planning.time.schedule import Calendar, booked, in_turn, schedule, sooner, zone_of
from peristyle.planning.time.tasks import Task, clamps_of, part_names, tasks_of, told_apart
from peristyle.storage import files
from peristyle.ui.session import Session
from peristyle.ui.theme import Theme
from peristyle.ui.widgets.choices import Choices
from peristyle.ui.widgets.fresh import FreshView
from peristyle.ui.widgets.sheet import Sheet
from peristyle.ui.widgets.stacked import stacked
from peristyle.ui.widgets.story import Story
from peristyle.ui.wood import WoodStore
from peristyle.words import log as words

_FRESH: Final = dt.timedelta(minutes=1)
_TRIES: Final = 30  # orders of several boxes that are tried while the window waits
_ORDERS: Final = {"date": "by date", "step": "by step", "today": "what is to do next"}


class View(FreshView):
    """The calendar above, the story and a line to add to it below."""

    def __init__(self, session: Session, wood: WoodStore) -> None:
        super().__init__(session)
        self._others: list[Job] = []  # boxes on the same bench, as long as the window is open
        self._plans: list[Plan] = []
        self._known: tuple[Plan, dt.datetime, Calendar | None] | None = None
        self._page = 0  # of the calendar's days
        self.sheet = Sheet(session, wood, self._draw, "Calendar of what is still to be done")
        self.sheet.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self._ready = QLabel()
        self._ready.setContentsMargins(14, 4, 14, 4)
        self._ready.setWordWrap(True)
        self.story = Story(session)
        upper = QWidget()
        column = QVBoxLayout(upper)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.sheet, 1)
        column.addWidget(self._ready)
        split = QSplitter(Qt.Orientation.Vertical)
        split.addWidget(upper)
        split.addWidget(self.story)
        split.setSizes([330, 250])
        split.setChildrenCollapsible(False)
        layout = stacked(self)
        self._choices = self._bar(session)
        layout.addWidget(self._choices)
        layout.addWidget(split, 1)
        session.selected.connect(self._follow)
        self._keep_fresh()

    def heightForWidth(self, _width: int) -> int:
        """The calendar gives way: the view is as high as the window has room."""
        return self.minimumHeight()

    def dress(self, theme: Theme) -> None:
        """Take on a theme's colours."""
        self.sheet.dress(theme)

    def _bar(self, session: Session) -> Choices:
        bar = Choices(session)

        def coat(kind: str) -> None:
            chosen = next(one for one in get_args(CoatKind) if one == kind)
            bar.edit("Change the finish", lambda d: _coated(d, chosen))

        def turn_to(order: str) -> None:
            self.story.order = order
            self.tell()

        finish = bar.choice("Finish", lambda: list(words.COATS.items()), lambda: session.job.work.coating.kind, coat,
                   "What it is finished with: coats and their waits decide the calendar")  # fmt: skip
        finish.setMaximumWidth(92)  # its list is as wide as it needs
        many = bar.text("Boxes", lambda: told_boxes(session.job.work.boxes),
                        lambda text: bar.edit("Change how many are made", lambda d: with_boxes(d, text)),
                        "How many are made alike, set-up by set-up: 12, or 3+9 where three go out first")  # fmt: skip
        many.setMinimumWidth(56)
        many.setMaximumWidth(72)
        below = bar.choice("Below", lambda: list(_ORDERS.items()), lambda: self.story.order, turn_to,
                   "The log as it was written, or step by step; or the next day in the workshop")  # fmt: skip
        below.setMaximumWidth(92)
        bar.choice("", self._pages, lambda: str(self._page), self._turn_page,
                   "Which of its days the calendar shows", name="Days")  # fmt: skip
        bar.only_when(lambda: len(self._pages()) > 1)
        bar.tick("Sled", lambda: session.job.work.sled,
                 lambda on: bar.edit("Make the sled first" if on else "No sled first",
                                     lambda d: replace(d, work=replace(d.work, sled=on))),
                 "The sled its bevels are cut on is made first, and they wait until it is tuned")  # fmt: skip
        bar.only_when(lambda: session.job.work.sled or bool(cut_on_it(session.plan)))
        bar.button("Others…", self._choose_others,
                   "Boxes made on the same bench: their work is put between this one's")  # fmt: skip
        bar.button("Record…", lambda: session.asked.emit("record"), "The box's record as PDF")
        bar.button(
            "Search…", lambda: session.asked.emit("search"), "Every entry that says it, in all your boxes"
        )
        return bar

    def _pages(self) -> list[tuple[str, str]]:
        """The calendar's days by the page, from when to when; of the calendar as it was last reckoned."""
        known = self._known[2] if self._known is not None else None
        if known is None:
            return []
        pages = day_pages(known, zone_of(self._session.job.shop.hours))
        return [(str(number), f"{days[0]:%d %b} – {days[-1]:%d %b}") for number, days in enumerate(pages)]

    def _turn_page(self, page: str) -> None:
        self._page = int(page)
        self.sheet.refresh()

    def attach(self, path: Path) -> None:
        """A photograph that goes with the next entry."""
        self.story.attach(path)

    def _choose_others(self) -> None:
        """Files of boxes made on the same bench; none chosen leaves this one alone."""
        names = QFileDialog.getOpenFileNames(
            self, "Other boxes on the bench", "", "Peristyle jobs (*.peristyle)"
        )[0]
        try:
            self.others([files.load(Path(name)).job for name in names])
        except (PeristyleError, OSError) as error:
            self._session.said.emit(str(error))

    def others(self, jobs: list[Job]) -> None:
        """Boxes whose work is put between this one's; in the order they are given."""
        self._others, self._plans, self._known = jobs, [plan(job) for job in jobs], None
        self.sheet.refresh()
        self.tell()

    def _calendar(self) -> tuple[Calendar | None, dt.tzinfo]:
        """What is still to be done, in the maker's own order, from now on; reckoned once for a plan and a minute."""
        made, now = self._session.plan, dt.datetime.now(dt.UTC)
        if self._known is not None and self._known[0] is made and now - self._known[1] < _FRESH:
            return self._known[2], zone_of(made.job.shop.hours)
        own = own_minutes([made.job, *self._others])
        plans = (made, *self._plans)
        names = told_apart([one.job.design.name for one in plans])
        clamps = clamps_of(made.job)
        tasks = [
            task
            for one, name in zip(plans, names, strict=True)
            for task in tasks_of(one, name, own, one.job.work.boxes, clamps)
        ]
        found = self._booked(tasks, made.job.shop.hours, now, clamps)
        self._known = (made, now, found)
        return found, zone_of(made.job.shop.hours)

    def _booked(
        self, tasks: list[Task], hours: Hours, now: dt.datetime, clamps: int | None
    ) -> Calendar | None:
        """One box in its own order; of several a good order is looked for, and kept through a drag."""
        parts = self._mine
        if not self._others and len(parts) == 1:
            return booked(tasks, hours, now, clamps)
        last = self._known[2] if self._known is not None else None
        if self._session.dragging and last is not None:
            rank = {one.task.id: number for number, one in enumerate(last.booked)}
            order = sorted(tasks, key=lambda task: rank.get(task.id, len(rank)))
            kept = booked(order, hours, now, clamps)
            if kept is not None:
                return kept
        if len(parts) == 1:
            return schedule(tasks, hours, now, clamps, tries=_TRIES)
        due = in_turn([self._session.job.design.name, *parts], None)
        return schedule(tasks, hours, now, clamps, sooner, due, _TRIES)

    @property
    def _mine(self) -> list[str]:
        """What this box is called in the calendar: itself, or the parts of its batch."""
        job = self._session.job
        return part_names(job.design.name, job.work.boxes)

    def _draw(self) -> Drawing:
        found, zone = self._calendar()
        job, fmt = self._session.job, self._session.format
        mine = {job.design.name, *self._mine}
        steps = {step.id: step for step in self._session.plan.steps}

        def told(task: Task) -> str:
            if task.job not in mine:
                return task.job
            part = task.job.removeprefix(f"{job.design.name}, ")
            told = words.task(task, steps, fmt)
            return told if task.job == job.design.name else f"{part}: {told}"

        pinned = [one.task for one in job.work.planned]
        picked = self._session.selection
        return calendar_drawing(
            found, told, zone, mine, list(steps), picked, pinned, self._page, nothing=self._nothing()
        )

    def _nothing(self) -> str:
        """What is said where no work is left: that all is done, or that there is nothing to be done yet."""
        if self._session.plan.steps:
            return "Everything is done."
        return "There is no ring yet: at the right stands what would mend it."

    def tell(self) -> None:
        """What was done, or the next day; when all is ready."""
        if not self._session.dragging:  # what is dragged changes nothing that was done
            if self.story.order == "today":
                self.story.tell_next(list(self._next()))
            else:
                self.story.tell()
        self._tell_ready()
        if not self._session.dragging:
            self._page = max(0, min(self._page, len(self._pages()) - 1))
            self._choices.refresh()

    def _next(self) -> Iterator[str]:
        """The next day on which there is something to do: what, from when to when; and what can be done meanwhile."""
        found, zone = self._calendar()
        fmt, names = self._session.format, {self._session.job.design.name, *self._mine}
        if found is None or not found.booked:
            yield self._nothing()
            return
        steps = {f"{name}/{step.id}": step for name in names for step in self._session.plan.steps}
        steps |= {f"{one.job.design.name}/{step.id}": step for one in self._plans for step in one.steps}
        day = found.booked[0].starts.astimezone(zone).date()
        yield f"{day:%A %d %B}"
        several = len(names) + len(self._others) > 1
        for one in found.booked:
            if one.starts.astimezone(zone).date() == day:
                yield "  " + words.booked(one, steps, fmt, zone, with_job=several)
        meanwhile = list(words.meanwhile(found, steps, fmt, zone))
        if meanwhile:
            yield "While something dries"
            yield from (f"  {line}" for line in meanwhile)

    def _follow(self) -> None:
        """Another step is picked: its times."""
        if self.isVisible():
            self._tell_ready()

    def _tell_ready(self) -> None:
        """When all is ready, and the times of the step that is picked."""
        job, steps, fmt = self._session.job, self._session.plan.steps, self._session.format
        found, zone = self._calendar()
        told = words.ready(found, job.design.name, self._mine, len(self._others), zone) if found else ""
        if told:
            told += " Minutes are guesses until three of a kind are logged."
        pick = self._session.selection
        if found and pick is not None and pick.kind == "step" and pick.index < len(steps):
            named = {step.id: step for step in steps}
            names = {job.design.name, *self._mine}
            mine = [one for one in found.booked if one.task.job in names]
            told += "".join(
                f"\n{words.booked(one, named, fmt, zone, with_job=False)} ({words.took(one.task.minutes)})"
                for one in mine
                if one.task.step == steps[pick.index].id
            )
        self._ready.setText(told)


def _coated(job: Job, kind: CoatKind) -> Job:
    made: Job = replace(
        job, work=replace(job.work, coating=replace(job.work.coating, kind=kind, coats=None, wait_h=None))
    )
    return made
