"""What Qt calls must let no error out: that would end the program, and what is not saved with it."""

import functools
import sys
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from typing import ParamSpec

from PySide6.QtGui import QPaintDevice, QPainter

P = ParamSpec("P")


def kept_in(event: Callable[P, None]) -> Callable[P, None]:
    """An override of one of Qt's own calls: what fails in it is said as any error is, and the window goes on."""

    @functools.wraps(event)
    def called(*args: P.args, **kwargs: P.kwargs) -> None:
        try:
            event(*args, **kwargs)
        except Exception:
            sys.excepthook(*sys.exc_info())

    return called


@contextmanager
def painting(device: QPaintDevice) -> Iterator[QPainter]:
    """A painter on a widget for one paint event, or on a picture.

    It is closed whatever fails meanwhile: one that is left open ends the program.
    """
    painter = QPainter(device)
    try:
        yield painter
    except Exception:
        sys.excepthook(*sys.exc_info())
    finally:
        painter.end()
