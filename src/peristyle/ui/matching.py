"""The search for the closing corner off the window's thread: the curve of starts kept fresh, suggestions on asking."""

from functools import partial
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, QTimer, Signal

from peristyle.drawing.board import Matched
from peristyle.model.design import replace
from peristyle.model.job import Job
from peristyle.planning.plan import Plan
from peristyle.planning.stock.laying import SEARCHED
from peristyle.storage import pictures
from peristyle.ui.memory import give_back
from peristyle.ui.session import Session
from peristyle.ui.wood import WoodStore
from peristyle.ui.worker import Worker

if TYPE_CHECKING:  # the search brings NumPy with it, which opening a window need not wait for
    from peristyle.planning.stock.scored import Corners, Curve, Pictures
    from peristyle.planning.stock.search import Allowed, Found


class Matcher(QObject):
    """Tells how well starts match. What it shows of a board stays while only the strip is moved along it."""

    fresh = Signal()
    found = Signal()
    progress = Signal(float)

    def __init__(self, session: Session, wood: WoodStore, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._session, self._wood = session, wood
        self._worker = Worker("match", self)
        self._pictures: Pictures | None = None
        self._key: object = None
        self._asked: object = None
        self._waiting: object = None
        self._match: Corners | None = None
        self._curve: Curve | None = None
        self._stop = False
        self._closed = False
        self.suggestions: Found | None = None
        self._found_for: object = None
        self.busy = False
        self.allowed: Allowed | None = None  # of the last search
        wood.companions.append(self)
        self._rest = QTimer(self)
        self._rest.setSingleShot(True)
        self._rest.setInterval(180)
        self._rest.timeout.connect(self._ask)

    def now(self) -> Matched | None:
        """What is known of the board as it lies; asks for it where it is not, or is of another."""
        plan = self._session.plan
        searched = plan.job.stock.board.method in SEARCHED
        if not searched or not plan.wrap.pieces or not plan.ring.stands:
            return None
        key = self._key_of(plan)
        if key != self._key:
            # Once what is wanted has stayed the same for a while; being asked again does not put it off.
            if key not in (self._asked, self._waiting) and not self._session.dragging:
                self._waiting = key
                self._rest.start()
            return None
        if self._match is None or self._curve is None:
            return None
        return Matched(self._curve, self._match.scores(plan.job.stock.board.shift_mm))

    def _key_of(self, plan: Plan) -> object:
        board, wrap = plan.job.stock.board, plan.wrap
        moved = {"": board.shift_mm}  # what comes from other boards stays where it lies
        where = tuple(
            (p.side, p.board, *(round(v - moved.get(p.board, 0.0), 4) for v in (p.origin_mm, p.end_mm)))
            for p in wrap.pieces
        )
        lid = plan.section.lid
        lost = (lid.lost_low_mm, lid.lost_high_mm) if lid else ()
        others = {p.board for p in wrap.pieces if p.board}
        looks = tuple(
            (
                one.name, one.wood, one.seed, one.sawn, one.looks, one.picture, one.back_picture, one.face, one.turned,
                one.length_mm, one.width_mm, one.thickness_mm, one.cut_from, one.low_mm,
            )
            for one in (board, *(one for one in plan.job.stock.rack if one.name in others))
        )  # fmt: skip
        slants = tuple(round(side.slant_mm, 4) for side in plan.ring.sides)
        return (looks, board.low_mm, board.end_trim_mm, board.marks, where, lost, slants, self._wood.folders)

    def _ask(self) -> None:
        if self._session.dragging:
            self._rest.start()
            return
        plan = self._session.plan
        key = self._key_of(plan)
        self._waiting = None
        if self._closed or key in (self._key, self._asked):
            return
        self._asked = key
        self._worker.do(
            partial(self._match_there, plan), partial(self._take, key), partial(self._failed, key)
        )

    def _given(self, name: str) -> bytes | None:
        return pictures.read(name, self._wood.folders)

    def _held(self) -> "Pictures":
        if self._pictures is None:
            # Late: it brings NumPy with it.
            from peristyle.planning.stock.scored import Pictures

            self._pictures = Pictures(self._given)
        return self._pictures

    def _match_there(self, plan: Plan) -> "tuple[Corners, Curve] | None":
        """In the worker."""
        # Late: see above.
        from peristyle.planning.stock.search import match_of

        try:
            match = match_of(plan.job, self._held())
            return (match, match.curve()) if match else None
        finally:
            give_back()

    def _take(self, key: object, made: "tuple[Corners, Curve] | None") -> None:
        if key == self._asked:
            self._key, self._asked = key, None
            self._match, self._curve = made or (None, None)
            self.fresh.emit()

    def _failed(self, key: object, _error: Exception) -> bool:
        """Not asked again of the same board; what went wrong with another one no longer counts."""
        if key != self._asked:
            return True
        self._key, self._asked = key, None
        self._match = self._curve = None
        return False

    def search(self, allowed: "Allowed") -> None:
        """Look for the best starts; a search under way is ended."""
        self._stop = False
        self.busy, self.allowed = True, allowed
        self._found_for = _searched_of(self._session.plan.job)
        self._worker.do(
            partial(self._search_there, self._session.plan.job, allowed), self._take_found, self._gave_up
        )
        self.progress.emit(0.0)

    def forget(self) -> bool:
        """Let go of suggestions for another ring, another way of cutting or other boards; whether there were any."""
        old = self.suggestions is not None and self._found_for != _searched_of(self._session.plan.job)
        if old:
            self.suggestions = None
        return old

    def cancel(self) -> None:
        """End the search; what was found so far stays."""
        self._stop = True

    def _search_there(self, job: Job, allowed: "Allowed") -> "Found":
        """In the worker."""
        # Late: see above.
        from peristyle.planning.stock.search import search

        held = self._held()
        try:
            return search(
                job, allowed, self._given, pictures=held, progress=self._share, cancelled=lambda: self._stop
            )
        finally:
            held.let_go()
            give_back()

    def _share(self, share: float) -> None:
        self._worker.tell(partial(self.progress.emit, share))

    def _take_found(self, made: "Found") -> None:
        self.busy = False
        self.suggestions = made
        self.found.emit()

    def _gave_up(self, _error: Exception) -> bool:
        self.busy = False
        self.found.emit()
        return False

    def settle(self) -> None:
        """Finish what is under way: for pictures that must be complete, and for leaving."""
        if self._rest.isActive():
            self._rest.stop()
            self._ask()
        self._worker.settle()

    def close(self) -> None:
        """Let go of the thread."""
        self._closed, self._stop = True, True
        self._rest.stop()
        self._worker.close()
        self._match = self._curve = self._pictures = self.suggestions = None


def _searched_of(job: Job) -> object:
    """What suggestions are for: they hold while another of them is taken, since that only moves or swaps boards."""
    boards = (job.stock.board, *job.stock.rack)
    same = {
        "shift_mm": 0.0,
        "face": "front",
        "turned": False,
        "method": "none",
        "creep_mm": 0.0,
        "resaw": False,
    }
    return (
        job.design.form, job.stock.board.method, job.closing, job.shop,
        frozenset(replace(board, **same) for board in boards),
    )  # fmt: skip
