"""Slow work off the window's thread: one thread for one thing, and what it makes is heard on the window's own."""

from collections.abc import Callable
from concurrent.futures import Future, ThreadPoolExecutor, wait
from contextlib import suppress
from functools import partial
from typing import Final, TypeVar

from PySide6.QtCore import QObject, Signal

_PATIENCE_S: Final = 60.0
Made = TypeVar("Made")


class Worker(QObject):
    """A thread that does one thing after the other, in the order they were asked for."""

    _called = Signal(object)

    def __init__(self, name: str, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._pool = ThreadPoolExecutor(max_workers=1, thread_name_prefix=name)
        self._last: Future[None] | None = None
        self._closed = False
        self._called.connect(self._hear)

    def do(
        self,
        work: Callable[[], Made],
        then: Callable[[Made], None],
        failed: Callable[[Exception], bool] = lambda _error: False,
    ) -> None:
        """Do `work` in the thread, and `then` with what it made on the window's.

        What it raises is told to `failed` there; unless that says that it has seen to it (True), it is raised again
        where errors nobody foresaw are said. Nothing is done once the worker is closed.
        """
        if not self._closed:
            self._last = self._pool.submit(self._there, work, then, failed)

    def tell(self, call: Callable[[], None]) -> None:
        """From within the work: do something on the window's thread meanwhile, to show how far it has come."""
        with suppress(RuntimeError):  # the window closed meanwhile
            self._called.emit(call)

    def settle(self) -> None:
        """Wait for what is under way; what it made is heard when the window next has time."""
        if self._last is not None:
            wait([self._last], timeout=_PATIENCE_S)

    def close(self, *, waiting: bool = True) -> None:
        """Let go of the thread; what was not begun is forgotten, and nothing more is heard."""
        self._closed = True
        self._pool.shutdown(wait=waiting, cancel_futures=True)

    def _there(
        self, work: Callable[[], Made], then: Callable[[Made], None], failed: Callable[[Exception], bool]
    ) -> None:
        """In the thread, which keeps what it raises to itself."""
        try:
            made = work()
        except Exception as error:  # said where it is heard
            self.tell(partial(_own_up, error, failed))
        else:
            self.tell(partial(then, made))

    def _hear(self, call: Callable[[], None]) -> None:
        if not self._closed:
            call()


def _own_up(error: Exception, failed: Callable[[Exception], bool]) -> None:
    if not failed(error):
        raise error
