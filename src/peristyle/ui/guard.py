"""What Qt calls must let no error out: that would end the program, and what is not saved with it."""

import functools
import sys
from collections.abc import Callable
from typing import ParamSpec

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
