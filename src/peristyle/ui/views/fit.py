"""Fit: the ring as it came out, its errors larger than life; what they come from, how likely, and the ways out."""

from functools import partial
from typing import Final

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QHBoxLayout,
    QLabel,
    QPushButton,
    QScrollArea,
    QSlider,
    QSplitter,
    QTabWidget,
    QVBoxLayout,
    QWidget,
)

from peristyle.core.errors import LengthError
from peristyle.core.lengths import parse_length
from peristyle.devices.gauges import Bench
from peristyle.drawing.fit import fit_drawing, fitting_factor
from peristyle.drawing.shapes import Drawing
from peristyle.model.design import replace
from peristyle.planning.fit.as_cut import steps_done
from peristyle.planning.fit.as_made import sides_made, with_measured
from peristyle.planning.fit.closing import Way, closed
from peristyle.planning.fit.diagnose import diagnose
from peristyle.planning.fit.errors import LIMIT_MM, Practice, compared
from peristyle.planning.fit.half_way import still_to_do, verdicts
from peristyle.planning.fit.quantities import Quantity, known, measured, out_of_square_deg
from peristyle.planning.fit.rescue import (
    ABOUT,
    TROUBLES,
    Rescue,
    Trouble,
    matched,
    places_of,
    rescues,
    taken,
    troubles_of,
)
from peristyle.planning.fit.ring import Joint, Made
from peristyle.planning.fit.simulate import halves_meet, simulate
from peristyle.planning.plan import Plan, plan
from peristyle.ui.session import Session
from peristyle.ui.spare import Spare, SpareSearch
from peristyle.ui.theme import Theme
from peristyle.ui.widgets.choices import Choices
from peristyle.ui.widgets.fresh import FreshView
from peristyle.ui.widgets.inputs import ValueEdit
from peristyle.ui.widgets.measured import MeasuredTable
from peristyle.ui.widgets.sheet import Sheet
from peristyle.ui.widgets.stacked import stacked
from peristyle.ui.wood import WoodStore
from peristyle.words import fit as words
from peristyle.words.steps import title

_GROUPS: Final = {
    "sides": ("length", "thickness", "width"), "bevels": ("bevel", "miter"), "gaps": ("gap_outside", "gap_inside"),
    "grooves and slots": ("groove_width", "groove_depth", "slot"), "diagonals": ("diagonal", "middle"),
    "heights": ("body", "lid"), "panels": ("panel_length", "panel_width", "panel_thickness", "play"),
}  # fmt: skip
_QUICK: Final = {"rolled": 100_000, "band": 4_000, "cauls": 4_000, "halves": 100_000}  # boxes told at once
_BESIDE: Final = 2_000  # boxes told of each way of working beside the chosen one
_SLIDES: Final = 300  # steps of the slider: from 1 × to 1000 ×


class View(FreshView):
    """The ring at the left, what is measured and what it means at the right."""

    def __init__(self, session: Session, wood: WoodStore) -> None:
        super().__init__(session)
        self._practice = Practice(glue="band")
        self._group, self._factor = "sides", 0.0
        self._trouble: Trouble | None = None
        self._where, self._by = "", 1.0
        self._bench: Bench | None = None
        self._spare = SpareSearch(session, wood)
        session.changed.connect(self._spare.cancel)
        self._base_of: tuple[object, Plan] | None = None
        self.sheet = Sheet(session, wood, self._draw, "The ring as it came out")
        self._slider = QSlider(Qt.Orientation.Horizontal)
        self._slider.setRange(0, _SLIDES)
        self._slider.setAccessibleName("How much larger than life errors are drawn")
        self._slider.setToolTip("How much larger than life errors are drawn")
        self._slider.valueChanged.connect(self._slid)
        left = QWidget()
        column = QVBoxLayout(left)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.sheet, 1)
        column.addWidget(self._slider)
        self._wrong = QLabel()
        self._wrong.setWordWrap(True)
        self._table = MeasuredTable(session, self._wrong.setText)
        self._causes, self._chances, self._cut = (_told() for _ in range(3))
        self._out = QVBoxLayout()
        self._tabs = QTabWidget()
        for page, words_, why in (
            (self._measured_page(), "&Measured", "What was measured: typed, or by a gauge"),
            (_page(self._causes), "Ca&uses", "What it likely comes from, and what to correct"),
            (
                self._chances_page(session),
                "&Chances",
                "How likely every joint closes, and which error is worth mending",
            ),
            (self._out_page(), "&Ways out", "What to do when something is wrong"),
            (_page(self._cut), "Cut al&ready", "What is done already, held against the design"),
        ):
            self._tabs.setTabToolTip(self._tabs.addTab(page, words_), why)
        self._tabs.currentChanged.connect(lambda _n: self.tell())
        split = QSplitter(Qt.Orientation.Horizontal)
        split.addWidget(left)
        split.addWidget(self._tabs)
        split.setSizes([440, 400])
        split.setChildrenCollapsible(False)
        layout = stacked(self)
        self._bar_shown = self._bar(session)
        layout.addWidget(self._bar_shown)
        layout.addWidget(split, 1)
        self._keep_fresh()

    def heightForWidth(self, _width: int) -> int:
        """The drawing gives way: the view is as high as the window has room."""
        return self.minimumHeight()

    def dress(self, theme: Theme) -> None:
        """Take on a theme's colours."""
        self.sheet.dress(theme)

    # --- what is shown

    @property
    def base(self) -> Plan:
        """The box as it was meant: planned without what was measured."""
        job = self._session.job
        meant = replace(job, measured=(), progress=(), log=())
        if self._base_of is None or self._base_of[0] != meant:
            self._base_of = (meant, self._session.plan if meant == job else plan(meant))
            self._bench = None
        return self._base_of[1]

    def _made(self) -> tuple[list[Made], tuple[Joint, ...]]:
        made = sides_made(self._session.job, self.base)
        way: Way = "band" if self._practice.glue == "halves" else self._practice.glue
        return made, closed(self.base.ring, made, way, self.base.job.closing) if made else ()

    def _draw(self) -> Drawing:
        base = self.base
        if not base.ring.sides:
            return fit_drawing(base, (), (), 1.0, self._session.format)
        made, joints = self._made()
        factor = self._factor or fitting_factor(base, made, joints)
        chosen = self._session.selection
        side = chosen.index if chosen is not None and chosen.kind == "side" else None
        return fit_drawing(base, made, joints, factor, self._session.format, side)

    def _slid(self, at: int) -> None:
        self._factor = 10.0 ** (3.0 * at / _SLIDES) if at else 0.0
        self.sheet.refresh()

    def tell(self) -> None:
        """The page that is open, anew."""
        base, fmt = self.base, self._session.format
        self._table.show_rows([q for q in known(base).values() if q.key in _GROUPS[self._group]])
        if not base.ring.stands:
            for label in (self._causes, self._chances, self._cut):
                label.setText("There is no ring yet.")
            return
        match self._tabs.currentIndex():
            case 1:
                seen = with_measured(base, self._session.job)
                lines = words.diagnosis(diagnose(seen, self._practice), known(base), fmt)
                square = out_of_square_deg(seen)
                lines += [] if square is None else [words.squareness(square, fmt)]
                self._causes.setText("\n\n".join([*lines, words.TWIST]))
            case 2:
                boxes = _QUICK[self._practice.glue]
                outcome = simulate(base, self._practice, boxes=boxes)
                lines = words.outcome(outcome, self._practice, LIMIT_MM, fmt)
                shares = [f"{words.KINDS[of]}: {fmt.number(100 * part, 0)} %" for of, part in outcome.shares.items()
                          if part >= 0.005]  # fmt: skip
                told = f"{fmt.number(boxes, 0)} boxes by chance, from the spread of your tools (shop.spread)."
                self._chances.setText("\n\n".join([*lines, "\n".join(shares), *self._others(), told]))
            case 3:
                self._offer()
            case 4:
                self._cut.setText("\n".join(self._cut_lines()))

    def _others(self) -> list[str]:
        """Ways of working that differ in one thing, and what comes of them."""
        base, fmt = self.base, self._session.format
        ways = [one for one in compared(self._practice) if one.glue != "halves" or halves_meet(base)]
        told = [words.compared(one, self._practice, simulate(base, one, boxes=_BESIDE), fmt) for one in ways]
        return ["One thing done otherwise:\n" + "\n".join(told)]

    def _cut_lines(self) -> list[str]:
        """What is done already, and what is left to do."""
        made, fmt = self._session.plan, self._session.format
        found = verdicts(made)
        named = steps_done(made.job) | {step.id: step for step in made.steps}
        titles = {name: title(step, fmt) for name, step in named.items()}
        lines = [words.verdict(one, titles.get(one.step, one.step), fmt) for one in found]
        if not lines:
            return ["Nothing is marked as done: At the saw, Space says so."]
        left = [title(step, fmt) for step in still_to_do(made, found)]
        return [*lines, "", f"From here: {'; '.join(left[:8])}{' …' if len(left) > 8 else '.'}"]

    # --- pages

    def _bar(self, session: Session) -> Choices:
        bar = Choices(session)

        def put(**changes: object) -> None:
            self._practice = replace(self._practice, **changes)
            self.tell()
            self.sheet.refresh()
            bar.refresh()

        def ways() -> list[tuple[str, str]]:
            return [
                (key, text) for key, text in words.WAYS.items() if key != "halves" or halves_meet(self.base)
            ]

        bar.choice("Closed", ways, lambda: self._practice.glue, lambda key: put(glue=key),
                   "How the ring is closed: each leaves its errors at other places")  # fmt: skip
        bar.choice("", lambda: list(words.STOPS.items()), lambda: self._practice.stop, lambda key: put(stop=key),
                   "Whether pieces alike are cut against one stop", name="Stops")  # fmt: skip
        bar.choice("", lambda: list(words.TESTS.items()), lambda: self._practice.test, lambda key: put(test=key),
                   "What is cut in scrap before the miters", name="Test cuts")  # fmt: skip
        bar.choice("", lambda: list(words.ENDS.items()), lambda: self._practice.ends, lambda key: put(ends=key),
                   "Ends as the saw leaves them, or shot", name="Ends")  # fmt: skip
        bar.button("Set-ups…", self._set_up,
                   "Check the saw's tilt, swing and stop: where a cause lies in a setting")  # fmt: skip
        return bar

    def _set_up(self) -> None:
        """The check that would show the likeliest cause."""
        seen = with_measured(self.base, self._session.job)
        check = diagnose(seen, self._practice).check if self.base.ring.stands else None
        self._session.asked.emit(f"setups:{check or ''}")

    def _measured_page(self) -> QWidget:
        page = QWidget()
        column, row = QVBoxLayout(page), QHBoxLayout()
        bar = Choices(self._session)

        def turn_to(key: str) -> None:
            self._group = key
            self._table.setCurrentCell(0, 2)
            self.tell()

        bar.choice("", lambda: [(key, key) for key in _GROUPS], lambda: self._group, turn_to,
                   "What is measured, in the order a maker goes round a box", name="What is measured")  # fmt: skip
        row.addWidget(bar, 1)
        gauge = QPushButton("Read a &gauge")
        gauge.setToolTip(
            "A simulated gauge reads the value that waits, of a box cut by chance: to rehearse on"
        )
        gauge.clicked.connect(lambda _on=False: self._read())
        row.addWidget(gauge)
        column.addLayout(row)
        column.addWidget(self._table, 1)
        column.addWidget(self._wrong)
        return page

    def _read(self) -> None:
        """The simulated gauge types what it reads into the row that waits."""
        waiting: Quantity | None = self._table.waiting
        if not self.base.ring.sides:
            self._session.said.emit("There is nothing to read: this ring cannot be made.")
            return
        if self._bench is None:
            way: Way = "band" if self._practice.glue == "halves" else self._practice.glue
            self._bench = Bench(self.base, len(measured(self._session.job)) + 1, way)
        text = self._bench.typed(waiting) if waiting is not None else None
        if text is not None and waiting is not None:
            self._table.fill(text if waiting.unit == "deg" else f"{text} mm")

    def _chances_page(self, session: Session) -> QWidget:
        del session
        return _page(self._chances)

    def _out_page(self) -> QWidget:
        page = QWidget()
        column = QVBoxLayout(page)
        bar = Choices(self._session)

        def key_now() -> str:
            return self._trouble or TROUBLES[0]

        def turn_to(key: str) -> None:
            self._trouble = next(one for one in TROUBLES if one == key)
            self._where = self._first_place()
            self._offer()
            bar.refresh()

        def go_to(where: str) -> None:
            self._where = where
            self._offer()

        bar.choice(
            "", lambda: list(words.TROUBLES.items()), key_now, turn_to, "What is wrong", name="What is wrong"
        )
        bar.choice("", self._places, lambda: self._where, go_to, "Where", name="Where it is wrong")
        bar.only_when(lambda: ABOUT[self._trouble or TROUBLES[0]] != "box")
        column.addWidget(bar)
        row = QHBoxLayout()
        row.addWidget(QLabel("by"))
        self._amount = ValueEdit()
        self._amount.setAccessibleName("By how much")
        self._amount.editingFinished.connect(self._typed_amount)
        row.addWidget(self._amount)
        row.addStretch(1)
        column.addLayout(row)
        inner = QWidget()
        inner.setLayout(self._out)
        area = QScrollArea()
        area.setWidgetResizable(True)
        area.setFrameShape(QScrollArea.Shape.NoFrame)
        area.setWidget(inner)
        column.addWidget(area, 1)
        self._out_bar = bar
        return page

    def _places(self) -> list[tuple[str, str]]:
        about = ABOUT[self._trouble or TROUBLES[0]]
        if about == "box":
            return [("", "the box")]
        return [(name, f"{about} {name}") for name in places_of(self.base, about)]

    def _first_place(self) -> str:
        places = [key for key, _text in self._places()]
        return self._where if self._where in places else (places[0] if places else "")

    def _typed_amount(self) -> None:
        try:
            self._by = max(1e-6, parse_length(self._amount.text(), self._session.job.design.units))
        except LengthError as error:
            self._wrong.setText(str(error))
        self._offer()

    def _offer(self) -> None:
        """The ways out, each a button; taken with a click and undone like any edit."""
        fmt, job = self._session.format, self._session.job
        if self._trouble is None:
            seen = next(troubles_of(job), None)
            self._trouble = seen.trouble if seen else "short"
            self._where, self._by = (seen.where, seen.by_mm) if seen else ("", 1.0)
        self._where = self._first_place()
        self._amount.setText(fmt.length(self._by, unit=True))
        while (item := self._out.takeAt(0)) is not None:
            if (old := item.widget()) is not None:
                old.setParent(None)
                old.deleteLater()
        about = ABOUT[self._trouble]
        ways = rescues(job, self._trouble, self._where, self._by) if self._where or about == "box" else ()
        for one in ways:
            told = QLabel(words.rescue(one, fmt))
            told.setWordWrap(True)
            button = QPushButton("Try it")
            button.setAccessibleName(f"Try it: {words.rescue(one, fmt)}")
            button.setToolTip("Undo takes it back")
            steps = words.own_steps(one, fmt)
            button.clicked.connect(partial(self._try, button, one, steps))
            self._out.addWidget(told)
            self._out.addWidget(button, 0, Qt.AlignmentFlag.AlignLeft)
        if not ways:
            nothing = QLabel(words.no_rescue(self.base, self._trouble))
            nothing.setWordWrap(True)
            self._out.addWidget(nothing)
        self._out.addStretch(1)
        self._out_bar.refresh()

    def _try(self, button: QPushButton, one: Rescue, steps: list[tuple[str, str]], _on: bool = False) -> None:
        """Take a way out; for a side made anew the rack is looked along first, until the button is clicked again."""
        if one.anew is None:
            self._take(one, steps)
            return
        if self._spare.busy:
            self._spare.cancel()
            button.setText("Try it")
            return

        def found(spare: Spare | None) -> None:
            self._take(
                one if spare is None else matched(one, self._session.job, lambda _job, _side: spare), steps
            )

        button.setText("Looking along the rack… stop")
        self._spare.look(one.anew[0], found)

    def _take(self, one: Rescue, steps: list[tuple[str, str]]) -> None:
        label = words.rescue(one, self._session.format)
        if self._session.change(label.split(".", maxsplit=1)[0][:80], lambda job: taken(job, one, steps)):
            self._session.said.emit(label)


def _told() -> QLabel:
    label = QLabel()
    label.setWordWrap(True)
    label.setAlignment(Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignLeft)
    label.setContentsMargins(12, 10, 12, 10)
    label.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
    return label


def _page(label: QLabel) -> QScrollArea:
    area = QScrollArea()
    area.setWidgetResizable(True)
    area.setFrameShape(QScrollArea.Shape.NoFrame)
    area.setWidget(label)
    return area
