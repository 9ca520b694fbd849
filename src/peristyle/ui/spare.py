"""The best place on the rack for a side made anew, looked for in a worker while the window goes on."""

from collections.abc import Callable
from functools import partial
from pathlib import Path

from peristyle.model.job import Job
from peristyle.storage import pictures
from peristyle.ui.session import Session
from peristyle.ui.wood import WoodStore
from peristyle.ui.worker import Worker

Spare = tuple[str, float, tuple[float, float]]


class SpareSearch:
    """One search at a time; `then` gets what it found, where the box is still the one it was asked for."""

    def __init__(self, session: Session, wood: WoodStore) -> None:
        self._session = session
        self._worker = Worker("spare")
        self._asked: object = None
        wood.companions.append(self)

    @property
    def busy(self) -> bool:
        """Whether it is looking."""
        return self._asked is not None

    def look(self, side: int, then: Callable[[Spare | None], None]) -> None:
        """Look along the rack for the best place of a side."""
        asked = self._asked = object()
        work = partial(self._there, asked, self._session.job, side, self._session.places)
        self._worker.do(work, partial(self._take, asked, then), partial(self._failed, asked))

    def cancel(self) -> None:
        """Forget what is looked for."""
        self._asked = None

    def settle(self) -> None:
        """Wait for what is under way."""
        if self.busy:
            self._worker.settle()

    def close(self) -> None:
        """Let go of the thread."""
        self._asked = None
        self._worker.close()

    def _there(self, asked: object, job: Job, side: int, places: tuple[Path, ...]) -> Spare | None:
        """In the worker."""
        # Late: the search brings NumPy.
        from peristyle.planning.stock.replacing import best_spare
        from peristyle.planning.stock.scored import Pictures

        look = Pictures(lambda name: pictures.read(name, places)).of
        return best_spare(job, side, look, cancelled=lambda: self._asked is not asked)

    def _failed(self, asked: object, _error: Exception) -> bool:
        """What goes wrong once nobody waits for it is nobody's trouble."""
        wanted = asked is self._asked
        self._asked = None if wanted else self._asked
        return not wanted

    def _take(self, asked: object, then: Callable[[Spare | None], None], made: Spare | None) -> None:
        if asked is self._asked:
            self._asked = None
            then(made)
