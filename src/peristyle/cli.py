"""The way in: a command, or the window. Commands work without importing Qt."""

import codecs
import gc
import io
import os
import sys
from collections.abc import Callable, Sequence
from importlib import import_module
from pathlib import Path
from typing import Any, Final

from peristyle import __version__
from peristyle.commands.console import Parser
from peristyle.core.errors import PeristyleError

COMMANDS: Final = (
    "angles", "angle-sheet", "new", "plan", "steps", "boards", "match", "photograph", "camera", "allocate", "get",
    "set", "addresses", "measure", "fit", "rescue", "setup", "sled", "log", "calendar", "export", "install-desktop",
)  # fmt: skip

_BEFORE_QT: Final = (
    "drawing.board", "drawing.frieze", "drawing.piece", "drawing.size", "drawing.solid", "export.formats",
    "planning.plan", "storage.examples", "storage.rack", "storage.recovery", "storage.toolbox", "words.findings",
)  # fmt: skip


def _command(name: str) -> Callable[[list[str]], int]:
    """A command's own module is loaded when it is asked for: the quick answer at the saw is quick."""
    module = import_module(f"peristyle.commands.{name.replace('-', '_')}")
    run: Callable[[list[str]], int] = module.run
    return run


_PLAIN: Final = {
    "−": "-", "–": "-", "—": "-", "×": "x", "°": "deg", "′": "'", "″": '"', "“": '"', "”": '"', "’": "'", "…": "...",
    "½": " 1/2", "¼": " 1/4", "¾": " 3/4", "⅓": " 1/3", "⅔": " 2/3", "⅛": " 1/8", "⅜": " 3/8", "⅝": " 5/8",
    "⅞": " 7/8", "⁄": "/", "\u202f": " ", "·": "|", "▲": "!",
} | {a: str(b) for b, a in enumerate("⁰¹²³⁴⁵⁶⁷⁸⁹")} | {a: str(b) for b, a in enumerate("₀₁₂₃₄₅₆₇₈₉")}  # fmt: skip


def _spelled(error: UnicodeError) -> tuple[str | bytes, int]:
    """What a terminal cannot show, spelled with what it can; bytes of a file's name as they are."""
    if not isinstance(error, UnicodeEncodeError):
        raise error
    out = b""
    for letter in error.object[error.start : error.end]:
        if "\udc80" <= letter <= "\udcff":
            out += bytes([ord(letter) - 0xDC00])
        else:
            out += _PLAIN.get(letter, "?").encode(error.encoding, "replace")
    return out, error.end


def main(argv: Sequence[str] | None = None) -> int:
    """Run `peristyle`; the exit code. 2 for anything the maker can put right."""
    words = list(sys.argv[1:] if argv is None else argv)
    codecs.register_error("spelled", _spelled)
    for stream in (sys.stdout, sys.stderr):
        if isinstance(stream, io.TextIOWrapper):
            stream.reconfigure(errors="spelled")
    try:
        code = _command(words[0])(words[1:]) if words and words[0] in COMMANDS else _window(words)
        sys.stdout.flush()
        return code
    except BrokenPipeError:
        # The reader (head, a pager) has seen enough.
        _forget_output()
        return 0
    except PeristyleError as error:
        _complain(str(error))
    except OSError as error:
        name = f" “{error.filename}”" if error.filename else ""
        _complain(f"{(error.strerror or 'the system refused')}{name}: choose another place, or make room.")
        _forget_output()
    return 2


def _complain(text: str) -> None:
    print(f"peristyle: {' '.join(text.split())}", file=sys.stderr)


def _forget_output() -> None:
    """What could not be written must not be tried again when the interpreter ends."""
    quiet = os.open(os.devnull, os.O_WRONLY)
    os.dup2(quiet, sys.stdout.fileno())


def _window(words: list[str]) -> int:
    parser = Parser(
        prog="peristyle",
        description="Plan mitered boxes. Without a command, opens the window.",
        epilog="Commands: " + ", ".join(COMMANDS) + ". Each has its own --help.",
    )
    parser.add_argument("file", nargs="?", help="design to open")
    parser.add_argument("--demo", action="store_true", help="open the demo boxes")
    parser.add_argument("--version", action="version", version=f"peristyle {__version__}")
    parser.add_argument("--screenshot", metavar="PNG", help="save a picture of the window and leave")
    options = parser.parse_args(words)
    # Nothing that is made in starting is rubbish; the window sets the collector going again.
    gc.disable()
    load_what_needs_no_qt()
    try:
        # The only way from here to Qt, and only when a window is asked for.
        from peristyle.app import run
    except ImportError as error:
        raise PeristyleError(
            f"The window needs Qt ({error}): install it with pip install 'peristyle[window]'."
        ) from error
    return run(
        Path(options.file) if options.file else None,
        demo=options.demo,
        screenshot=Path(options.screenshot) if options.screenshot else None,
    )


def load_what_needs_no_qt() -> None:
    """Load it first: Qt reads the source of every module that is loaded after it."""
    for name in _BEFORE_QT:
        import_module(f"peristyle.{name}")


def entry() -> Any:
    """What `python -m peristyle` runs."""
    raise SystemExit(main())


if __name__ == "__main__":
    entry()
