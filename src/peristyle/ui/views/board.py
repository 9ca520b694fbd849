"""Board: the board to scale, the sides on it, what each cut takes, and how well every corner will match."""

from collections.abc import Callable
from typing import TYPE_CHECKING, Final, get_args

from PySide6.QtCore import Qt, QTimer
from PySide6.QtGui import QResizeEvent, QShowEvent
from PySide6.QtWidgets import QProgressBar, QSizePolicy, QStackedWidget, QWidget

from peristyle.core.errors import LengthError
from peristyle.core.lengths import Format, parse_length
from peristyle.drawing.board import board_drawing
from peristyle.drawing.largest import largest_drawing
from peristyle.drawing.shapes import Drawing
from peristyle.drawing.ways import boards_drawing, rows_of, ways_drawing
from peristyle.model.design import replace, side_name
from peristyle.model.job import Job, revised
from peristyle.model.mark_edits import marked, without_mark
from peristyle.model.stock import Mark, MarkKind
from peristyle.planning.form.slabs import two_sizes
from peristyle.planning.plan import Plan
from peristyle.planning.stock.largest import largest
from peristyle.planning.stock.laying import SEARCHED, stretches
from peristyle.planning.stock.wrap import suiting_board
from peristyle.ui import words
from peristyle.ui.guard import kept_in
from peristyle.ui.matching import Matcher
from peristyle.ui.pictures import cut_picture
from peristyle.ui.session import Session
from peristyle.ui.theme import Theme
from peristyle.ui.widgets.boardsheet import BoardSheet
from peristyle.ui.widgets.choices import Choices
from peristyle.ui.widgets.filmstrip import Filmstrip
from peristyle.ui.widgets.sheet import Sheet
from peristyle.ui.widgets.stacked import stacked
from peristyle.ui.wood import WoodStore
from peristyle.words.boards import METHODS, NOT_SEARCHED, nothing_found

if TYPE_CHECKING:  # the search brings NumPy with it
    from peristyle.planning.stock.search import Suggestion

_KINDS: Final[tuple[MarkKind, ...]] = get_args(MarkKind)
_WISHES: Final = (
    ("avoid", "keep clear of it"), ("front", "have it on the front"), ("height", "have it at a height"),
    ("note", "only note it"),
)  # fmt: skip
_ROWS_PX: Final = (100, 100, 176, 256)  # how high friezes stand, by their rows
_SHOWS: Final = (("through", "right through"), ("front", "on the front"), ("back", "on the back"))


class View(QWidget):
    """The wrap on its board."""

    def __init__(self, session: Session, wood: WoodStore) -> None:
        super().__init__()
        self._keep, self._height, self._with_panels = "", "", False
        self._session = session
        self._face = self._edge = self._rack = self._all = False
        self._stretch = 0.0
        self._kept: dict[str, Drawing] = {}
        self.matcher = Matcher(session, wood, self)
        self.sheet = BoardSheet(session, wood, self._draw, "Board")
        self.matcher.fresh.connect(self.sheet.refresh)
        wood.ready.connect(self.sheet.update)
        self.curve = self._curve_sheet(session, wood)
        self.films = Filmstrip(session, self._take)
        self._progress = QProgressBar()
        self._progress.setRange(0, 100)
        self._progress.setMaximumWidth(120)
        self._progress.setAccessibleName("How far the search has come")
        self._progress.hide()
        self._below = QStackedWidget()
        self._bars: list[Choices] = []
        self._pages = (
            self._match_page(session), self._largest_page(session), self._ways_page(session, wood),
            self._boards_page(session, wood),
        )  # fmt: skip
        for page in self._pages:
            self._below.addWidget(page)
        self.sheet.painted = self._unpaint
        self._bar = self._choices(session)
        layout = stacked(self)
        layout.addWidget(self._bar)
        layout.addWidget(self.sheet, 1)
        layout.addWidget(self._below)
        self._below.setSizePolicy(self._bar.sizePolicy())
        self.matcher.progress.connect(self._show_progress)
        self.matcher.found.connect(self._show_found)
        session.selected.connect(self._bar.refresh)
        session.changed.connect(self._follow)
        session.rested.connect(self.ways.refresh)
        session.rested.connect(self.boards.refresh)
        self._follow()

    def _follow(self) -> None:
        """The filmstrip is there only where there is something to show, the ways once nothing moves."""
        if not self._session.dragging:
            if self.matcher.forget():
                self.films.show_all(())
            self.films.setVisible(self._is_searched() and self.films.count() > 0)
            # How high it is follows from which of its choices there are.
            self._bars[self._below.currentIndex()].refresh()
            self.boards.setFixedHeight(_ROWS_PX[rows_of(1 + len(self._session.job.stock.rack))])
            self._fit_below()

    @kept_in
    def showEvent(self, event: QShowEvent) -> None:
        """What changed while another stage was open has its places only now."""
        super().showEvent(event)
        QTimer.singleShot(0, self, self._fit_below)

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Narrower, the choices below want more rows."""
        super().resizeEvent(event)
        self._fit_below()

    def _fit_below(self) -> None:
        """As high as the page that shows needs, so that the board has the rest."""
        for number, page in enumerate(self._pages):
            shown = number == self._below.currentIndex()
            policy = QSizePolicy.Policy.Fixed if shown else QSizePolicy.Policy.Ignored
            page.setSizePolicy(QSizePolicy.Policy.Preferred, policy)
        page = self._pages[self._below.currentIndex()]
        layout = page.layout()
        high = page.sizeHint().height()
        if layout is not None and layout.hasHeightForWidth():  # a narrow window wants two rows of choices
            high = max(high, layout.totalHeightForWidth(self.width()))
        self._below.setFixedHeight(high)

    def _draw(self) -> Drawing:
        session = self._session
        return board_drawing(session.plan, session.format, self.matcher.now(), session.selection, loupe=True)

    def dress(self, theme: Theme) -> None:
        """Take on a theme's colours."""
        self.sheet.dress(theme)
        self.curve.dress(theme)
        self.ways.dress(theme)
        self.boards.dress(theme)

    def _choices(self, session: Session) -> Choices:
        bar = Choices(session)
        bar.choice(
            "Cut",
            lambda: tuple(METHODS.items()),
            lambda: session.job.stock.board.method,
            lambda m: bar.edit("Change how it is cut", lambda d: _board(d, method=m)),
            "How the sides come out of the board: what the cuts take, and over which corners the grain runs",
            picture=cut_picture,
        )
        bar.only_when(lambda: self._mark is None)
        bar.choice(
            "Closes at",
            lambda: [(str(i), name) for i, name in enumerate(words.corners_list(session.plan))],
            lambda: str(session.job.closing),
            lambda i: bar.edit("Move the closing corner", lambda d: revised(d, closing_corner=int(i))),
            "The one corner whose grain does not run on",
        )
        bar.only_when(lambda: self._mark is None)
        bar.choice(
            "Front",
            lambda: [(str(i), name) for i, name in enumerate(words.sides_list(session.plan))],
            lambda: str(session.job.design.form.front),
            lambda i: bar.edit("Choose the front", lambda d: revised(d, front=int(i))),
            "The side that faces the room",
        )
        bar.only_when(lambda: self._mark is None)
        bar.choice(
            "Lies",
            lambda: (
                ("front", "as pictured"), ("front turned", "turned"), ("back", "back up"),
                ("back turned", "back up, turned"),
            ),
            lambda: session.job.stock.board.face + (" turned" if session.job.stock.board.turned else ""),
            self._lay,
            "Which face becomes the show faces; turned, it lies end for end, its other edge down",
        )  # fmt: skip
        bar.only_when(lambda: self._mark is None)
        bar.button(
            "Boards…", lambda: session.asked.emit("boards"), "The boards of this box, and your own rack"
        )
        bar.only_when(lambda: self._mark is None)
        bar.button("Make it anew", self._anew, "Look for spare wood for the picked side on the rack's boards")
        bar.only_when(lambda: self._picked_side is not None)
        self._mark_choices(bar, session)
        return bar

    def _mark_choices(self, bar: Choices, session: Session) -> None:
        """What is to be done about the picked mark."""

        def change(label: str, **changes: object) -> None:
            number = self._number
            if number is not None:
                bar.edit(label, lambda d: marked(d, number, **changes))

        bar.choice(
            "Mark",
            lambda: [(kind, kind) for kind in _KINDS],
            lambda: self._mark.kind if self._mark else "knot",
            lambda kind: change("Change the mark", kind=kind),
            "What is there on the board",
        )
        bar.only_when(lambda: self._mark is not None)
        bar.choice(
            "Wish",
            lambda: _WISHES,
            lambda: self._mark.wish if self._mark else "avoid",
            lambda wish: change("Change the wish", wish=wish),
            "What is to be done about it",
        )
        bar.only_when(lambda: self._mark is not None)
        bar.choice(
            "It is",
            lambda: _SHOWS,
            lambda: self._mark.shows if self._mark else "through",
            lambda shows: change("Change where the mark shows", shows=shows),
            "On which faces of the board it is",
        )
        bar.only_when(lambda: self._mark is not None)
        bar.tick(
            "Inside is fine",
            lambda: self._mark.inside if self._mark else False,
            lambda on: change("Let it come inside" if on else "Keep insides clear", inside=on),
            "It may come on an inside face",
        )
        bar.only_when(lambda: self._mark is not None)
        bar.button("Take it off", self._unmark, "This mark goes")
        bar.only_when(lambda: self._mark is not None)

    @property
    def _number(self) -> int | None:
        chosen = self._session.selection
        return chosen.index if chosen is not None and chosen.kind == "mark" else None

    @property
    def _mark(self) -> Mark | None:
        number, marks = self._number, self._session.job.stock.board.marks
        return marks[number] if number is not None and number < len(marks) else None

    def _unmark(self) -> None:
        number = self._number
        if number is not None:
            self._session.select(None)
            self._bar.edit("Take a mark off", lambda d: without_mark(d, number))

    def _lay(self, how: str) -> None:
        face, _blank, turned = how.partition(" ")
        self._bar.edit(
            "Lay the board otherwise", lambda d: _board(d, face=face, turned=bool(turned), shift_mm=0.0)
        )

    def _unpaint(self) -> None:
        self.sheet.painting = None
        self.sheet.unsetCursor()
        self._match_bar.refresh()

    def _paint(self, kind: str) -> None:
        self.sheet.painting = next((known for known in _KINDS if known == kind), None)
        self.sheet.setFocus()
        if kind:
            self._session.said.emit(f"Drag over the {kind} on the board; Esc leaves off.")

    def _below_choice(self, bar: Choices, page: int) -> None:
        bar.choice(
            "Below",
            lambda: (
                ("0", "closing corner"),
                ("1", "largest box"),
                ("2", "ways of cutting"),
                ("3", "boards at hand"),
            ),
            lambda: str(page),
            self._turn_to,
            "What is looked for on this board",
        )

    def _turn_to(self, page: str) -> None:
        self._below.setCurrentIndex(int(page))
        self._fit_below()
        for bar in self._bars:
            bar.refresh()

    def _match_page(self, session: Session) -> QWidget:
        """What the search may change, and what it found."""
        page = QWidget()
        bar = self._match_bar = Choices(session)
        self._bars.append(bar)
        self._below_choice(bar, 0)
        searched = self._is_searched
        bar.button("Search", self._search, "Rank every start; again while it runs: stop")
        bar.only_when(searched)
        for word, name, why in (
            ("back", "_face", "Search the board's other face too"),
            ("turned", "_edge", "Search it turned end for end too"),
            ("rack", "_rack", "Search every board on the rack too"),
            ("all corners", "_all", "Rank by all corners together, not by the closing corner alone"),
        ):
            self._option(bar, word, name, why)
            bar.only_when(searched)
        box = bar.text(
            "Stretch", self._stretch_words, self._set_stretch, "Let the ring grow or shrink by so much in all"
        )
        box.setFixedWidth(60)
        bar.only_when(self._is_along)
        bar.choice(
            "Paint",
            lambda: [("", "nothing"), *((kind, f"a {kind}") for kind in _KINDS)],
            lambda: self.sheet.painting or "",
            self._paint,
            "Mark faults to keep clear of, and what is wished for, by dragging on the board",
        )
        layout = stacked(page)
        layout.addWidget(bar)
        layout.addWidget(self._progress)
        layout.addWidget(self.films)
        return page

    def _is_searched(self) -> bool:
        """Whether there is a start to search."""
        return self._session.job.stock.board.method in SEARCHED

    def _is_along(self) -> bool:
        """Whether the ring may be stretched."""
        return stretches(self._session.job)

    def _option(self, bar: Choices, word: str, name: str, why: str) -> None:
        bar.tick(word, lambda: bool(getattr(self, name)), lambda on: setattr(self, name, on), why)

    def _stretch_words(self) -> str:
        return self._session.format.length(self._stretch, unit=True)

    def _set_stretch(self, text: str) -> bool:
        try:
            value = parse_length(text, self._session.job.design.units)
        except LengthError as error:
            self._session.said.emit(str(error))
            return False
        if not 0 <= value <= 50:
            self._session.said.emit("Stretch: between 0 and 50 mm, in all.")
            return False
        self._stretch = value
        return True

    def _search(self) -> None:
        if self.matcher.busy:
            self.matcher.cancel()
            return
        # Late: it brings NumPy with it.
        from peristyle.planning.stock.search import Allowed, searchable

        if not searchable(self._session.plan.job):
            self._session.said.emit(NOT_SEARCHED)
            return
        self.matcher.search(
            Allowed(self._stretch, self._face, self._edge, self._rack, "all" if self._all else "closing")
        )

    @property
    def _picked_side(self) -> int | None:
        """The picked side, where spare wood for it can be looked for."""
        chosen, job = self._session.selection, self._session.job
        if chosen is None or chosen.kind != "side" or chosen.index >= job.design.side_count:
            return None
        return chosen.index if job.stock.rack and job.stock.board.method == "square_first" else None

    def _anew(self) -> None:
        """Rank the places on the rack for the picked side."""
        side = self._picked_side
        if side is None or self.matcher.busy:
            return
        # Late: it brings NumPy with it.
        from peristyle.planning.stock.search import Allowed

        self._session.said.emit(
            f"Spare wood for side {side_name(side)}: each picture shows its two corners as they would meet."
        )
        self.matcher.search(Allowed(replaces=side))

    def _show_progress(self, share: float) -> None:
        self._progress.setVisible(True)
        self._progress.setValue(round(100 * share))

    def _show_found(self) -> None:
        self._progress.hide()
        found = self.matcher.suggestions
        self.films.show_all(found.suggestions if found else ())
        self._follow()
        if found is not None and not found.suggestions:
            replaced = self.matcher.allowed is not None and self.matcher.allowed.replaces is not None
            self._session.said.emit(nothing_found(found.fits, replaces=replaced))

    def _take(self, suggestion: "Suggestion") -> None:
        # Late: see above.
        from peristyle.planning.stock.search import applied

        name = suggestion.board
        here = self._session.job
        known = [board.name for board in here.stock.rack]
        if suggestion.rack is not None and name not in known:
            self._session.said.emit(f"“{name}” is no longer on the rack: search again.")
            return
        if suggestion.rack is not None:
            suggestion = replace(suggestion, rack=known.index(name))
        self._session.edit("Take a suggested start", applied(here, suggestion))

    def _largest_page(self, session: Session) -> QWidget:
        page = QWidget()
        layout = stacked(page)
        layout.addWidget(self._search_bar(session))
        layout.addWidget(self.curve)
        return page

    def _ways_page(self, session: Session, wood: WoodStore) -> QWidget:
        """Every way of cutting this board up, to be chosen by eye."""
        self.ways = self._friezes(session, wood, "Ways of cutting", ways_drawing)
        self.ways.setFixedHeight(_ROWS_PX[2])
        self.ways.setToolTip("How the box would look cut each way: click one, or use the arrow keys")
        return self._friezes_page(session, self.ways, 2)

    def _boards_page(self, session: Session, wood: WoodStore) -> QWidget:
        """Every board at hand, to be chosen by eye."""
        self.boards = self._friezes(session, wood, "Boards at hand", boards_drawing)
        self.boards.setToolTip("How the box would look cut from each board: click one, or use the arrow keys")
        return self._friezes_page(session, self.boards, 3)

    def _friezes_page(self, session: Session, sheet: Sheet, number: int) -> QWidget:
        page = QWidget()
        bar = Choices(session)
        self._bars.append(bar)
        self._below_choice(bar, number)
        layout = stacked(page)
        layout.addWidget(bar)
        layout.addWidget(sheet)
        return page

    def _friezes(
        self, session: Session, wood: WoodStore, name: str, draw: Callable[[Plan, Format], Drawing]
    ) -> Sheet:
        """Friezes drawn at rest; while something is dragged they wait."""

        def drawn() -> Drawing:
            if name not in self._kept or not session.dragging:
                self._kept[name] = draw(session.plan, session.format)
            return self._kept[name]

        sheet = Sheet(session, wood, drawn, name)
        sheet.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        return sheet

    @staticmethod
    def _curve_sheet(session: Session, wood: WoodStore) -> Sheet:
        curve = Sheet(
            session,
            wood,
            lambda: largest_drawing(session.plan, session.format),
            "Largest boxes from this board",
        )
        curve.setFixedHeight(148)
        curve.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        curve.setToolTip(
            "Every one is a box that uses the board to its end: click, drag or use the arrow keys to choose"
        )
        return curve

    def _search_bar(self, session: Session) -> Choices:
        """What the largest box keeps, and what must come from the board: nothing that the design holds."""
        bar = Choices(session)
        self._bars.append(bar)
        self._below_choice(bar, 1)
        bar.button(
            "Suit the ring",
            lambda: bar.edit(
                "Take a board that suits", lambda d: revised(d, board=suiting_board(session.plan.job))
            ),
            "The smallest board the ring fits on, rounded up to 10 mm",
        )
        bar.button(
            "Largest box", self._largest, "The largest box this board gives, by what is chosen beside it"
        )
        bar.choice(
            "keeping",
            lambda: [
                ("", "its proportions"),
                *((word, f"the {word}") for word in two_sizes(session.job.design.form.shape)),
            ],
            lambda: self._keep if self._keep in two_sizes(session.job.design.form.shape) else "",
            self._keep_size,
            "Which of its two sizes stays as it is",
        )
        bar.only_when(lambda: bool(two_sizes(session.job.design.form.shape)))
        bar.choice(
            "Height",
            lambda: (("", "as it is"), ("board", "all the board's width")),
            lambda: self._height,
            self._keep_height,
            "How high the largest box is",
        )
        bar.tick(
            "Panels from this board too",
            lambda: self._with_panels,
            self._take_panels,
            "Bottom and top must come out of what is left of the board",
        )
        bar.only_when(
            lambda: (
                session.job.design.section.bottom is not None or session.job.design.section.top is not None
            )
        )
        return bar

    def _keep_size(self, size: str) -> None:
        self._keep = size

    def _keep_height(self, height: str) -> None:
        self._height = height

    def _take_panels(self, on: bool) -> None:
        self._with_panels = on

    def _largest(self) -> None:
        job = self._session.plan.job  # as sized from its contents, where it has any
        best = largest(
            job,
            fixed_height=not self._height,
            with_panels=self._with_panels,
            keep=self._keep if self._keep in two_sizes(job.design.form.shape) else None,
        )
        if best is None:
            self._session.said.emit("No such box comes from this board.")
            return
        self._session.edit("Take the largest box", best.job)
        self._session.said.emit(f"The {best.limit} set{'' if best.limit.endswith('s') else 's'} the limit.")


def _board(job: Job, **changes: object) -> Job:
    return revised(job, board=replace(job.stock.board, **changes))
