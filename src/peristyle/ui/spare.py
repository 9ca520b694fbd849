"""The best place on the rack for a side made anew, looked for in a worker while the window goes on."""

from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from contextlib import suppress

from PySide6.QtCore import QObject, Signal

from peristyle.model.job import Job
from peristyle.storage import pictures
from peristyle.ui.session import Session
from peristyle.ui.wood import WoodStore

Spare = tuple[str, float, tuple[float, float]]


class SpareSearch(QObject):
    """One search at a time; `then` gets what it found, where the box is still the one it was asked for."""

    _found = Signal(object, object)

    def __init__(self, session: Session, wood: WoodStore) -> None:
        super().__init__()
        self._session = session
        self._pool = ThreadPoolExecutor(max_workers=1, thread_name_prefix="spare")
        self._asked: object = None
        self._then: Callable[[Spare | None], None] = lambda _found: None
        self._found.connect(self._take)
        wood.companions.append(self)

    @property
    def busy(self) -> bool:
        """Whether it is looking."""
        return self._asked is not None

    def look(self, side: int, then: Callable[[Spare | None], None]) -> None:
        """Look along the rack for the best place of a side."""
        asked = self._asked = object()
        self._then = then
        job, places = self._session.job, self._session.places
        self._work = self._pool.submit(self._there, asked, job, side, places)

    def cancel(self) -> None:
        """Forget what is looked for."""
        self._asked = None

    def settle(self) -> None:
        """Wait for what is under way."""
        if self.busy:
            self._work.result(timeout=60)

    def close(self) -> None:
        """Let go of the thread."""
        self._asked = None
        self._pool.shutdown(wait=True, cancel_futures=True)

    def _there(self, asked: object, job: Job, side: int, places: object) -> None:
        """In the worker."""
        made: object
        try:
            # Late: the search brings NumPy.
            from peristyle.planning.stock.replacing import best_spare
            from peristyle.planning.stock.scored import Pictures

            look = Pictures(lambda name: pictures.read(name, places)).of  # type: ignore[arg-type]
            made = best_spare(job, side, look, cancelled=lambda: self._asked is not asked)
        except Exception as error:  # a worker keeps what it raises to itself: it is said where it is heard
            made = error
        with suppress(RuntimeError):  # the window closed meanwhile
            self._found.emit(asked, made)

    def _take(self, asked: object, made: object) -> None:
        if asked is not self._asked:
            return
        self._asked = None
        if isinstance(made, Exception):
            raise made
        self._then(made)  # type: ignore[arg-type]  # what the worker sends is what the search gives
