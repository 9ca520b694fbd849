"""Board: the board to scale, the strip of sides on it, and what each cut takes."""

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QVBoxLayout, QWidget

from peristyle.drawing.board import board_drawing
from peristyle.drawing.largest import largest_drawing
from peristyle.model.design import replace
from peristyle.model.job import Job, revised
from peristyle.planning.form.slabs import two_sizes
from peristyle.planning.stock.largest import largest
from peristyle.planning.stock.wrap import suiting_board
from peristyle.reference.woods import WOODS
from peristyle.ui import words
from peristyle.ui.pictures import cut_picture
from peristyle.ui.session import Session
from peristyle.ui.theme import Theme
from peristyle.ui.widgets.choices import Choices
from peristyle.ui.widgets.sheet import Sheet
from peristyle.ui.wood import WoodStore


class View(QWidget):
    """The wrap on its board."""

    def __init__(self, session: Session, wood: WoodStore) -> None:
        super().__init__()
        self._keep, self._height, self._with_panels = "", "", False
        self.sheet = Sheet(session, wood, lambda: board_drawing(session.plan, session.format), "Board")
        bar = Choices(session)
        bar.choice(
            "Cut",
            lambda: (("square_first", "square, then bevel"), ("bevel_direct", "bevel off the board")),
            lambda: session.job.stock.board.method,
            lambda m: bar.edit("Change how it is cut", lambda d: _board(d, method=m)),
            "Square first loses the least grain at the corners",
            picture=cut_picture,
        )
        bar.choice(
            "Closes at",
            lambda: [(str(i), name) for i, name in enumerate(words.corners_list(session.plan))],
            lambda: str(session.job.closing),
            lambda i: bar.edit("Move the closing corner", lambda d: revised(d, closing_corner=int(i))),
            "The one corner whose grain does not run on",
        )
        bar.choice(
            "Front",
            lambda: [(str(i), name) for i, name in enumerate(words.sides_list(session.plan))],
            lambda: str(session.job.design.form.front),
            lambda i: bar.edit("Choose the front", lambda d: revised(d, front=int(i))),
            "The side that faces the room",
        )
        bar.choice(
            "Wood",
            lambda: [(key, wood.words) for key, wood in WOODS.items()],
            lambda: session.job.stock.board.wood if session.job.stock.board.wood in WOODS else "cherry",
            lambda w: bar.edit("Change the wood", lambda d: _board(d, wood=w)),
            "How the board's picture looks",
        )
        bar.button(
            "Another board",
            lambda: bar.edit(
                "Take another board", lambda d: _board(d, seed=(d.stock.board.seed + 1) % 2**31)
            ),
            "A board of the same size with other figure",
        )
        bar.button(
            "Suit the ring",
            lambda: bar.edit(
                "Take a board that suits", lambda d: revised(d, board=suiting_board(session.plan.job))
            ),
            "The smallest board the ring fits on, rounded up to 10 mm",
        )
        self._session = session
        self.curve = Sheet(
            session,
            wood,
            lambda: largest_drawing(session.plan, session.format),
            "Largest boxes from this board",
        )
        self.curve.setFixedHeight(168)
        self.curve.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.curve.setToolTip(
            "Every one is a box that uses the board to its end: click, drag or use the arrow keys to choose"
        )
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addWidget(bar)
        layout.addWidget(self.sheet, 1)
        layout.addWidget(self._search_bar(session))
        layout.addWidget(self.curve)

    def dress(self, theme: Theme) -> None:
        """Take on a theme's colours."""
        self.sheet.dress(theme)
        self.curve.dress(theme)

    def _search_bar(self, session: Session) -> Choices:
        """What the largest box keeps, and what must come from the board: nothing that the design holds."""
        bar = Choices(session)
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
        self._session.said.emit(f"The {best.limit} sets the limit.")


def _board(job: Job, **changes: object) -> Job:
    return revised(job, board=replace(job.stock.board, **changes))
