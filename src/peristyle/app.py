"""Builds the window and wires everything."""

import contextlib
import gc
import os
import sys
from pathlib import Path
from types import TracebackType

from PySide6.QtCore import QStandardPaths, QTimer
from PySide6.QtWidgets import QApplication

from peristyle import __version__
from peristyle.core.errors import PeristyleError
from peristyle.model.job import Job
from peristyle.storage import examples, files
from peristyle.storage.recovery import Orphan, RecoveryCopy, orphans
from peristyle.ui import theme
from peristyle.ui.session import Session
from peristyle.ui.settings import Settings
from peristyle.ui.widgets.stages import AFTER_FIRST_PAINT_MS
from peristyle.ui.window import Window
from peristyle.ui.wood import WoodStore


def make_application() -> QApplication:
    """The application with its name and typeface, before any widget."""
    existing = QApplication.instance()
    if isinstance(existing, QApplication):
        return existing
    app = QApplication(["peristyle", "-style", "fusion"])
    app.setProperty(theme.STYLED, True)
    app.setApplicationName("Peristyle")
    app.setApplicationVersion(__version__)
    app.setDesktopFileName("org.peristyle.Peristyle")
    app.setFont(theme.load_fonts())
    return app


def _calm_the_collector() -> None:
    """What is built once stays; plans are trees without cycles, so collect seldom.

    Collecting on the usual thresholds takes about a sixth of every frame of a drag.
    """
    gc.freeze()
    gc.enable()
    gc.set_threshold(50_000, 20, 50)


def make_window(
    job: Job, path: Path | None = None, stamp: str | None = None,
    *, config: Path, state: Path,
) -> Window:  # fmt: skip
    """A window on a design, with its settings in `config` and recovery copies in `state`."""
    session = Session(job, path, stamp)
    with contextlib.suppress(OSError):  # said by the window, which opens all the same
        config.mkdir(parents=True, exist_ok=True)
    settings = Settings(config / "peristyle.ini")
    window = Window(session, WoodStore(), settings, RecoveryCopy(state / "recovery"))
    _calm_the_collector()
    return window


def own_up_to_errors(window: Window, log: Path) -> None:
    """What nobody foresaw is said at the foot of the window and written to `log`; the work goes on.

    The recovery copy has the design as it was before.
    """

    def tell(kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> None:
        sys.__excepthook__(kind, error, trace)
        if not isinstance(error, Exception):
            return
        import traceback  # put off: it costs the window some of its first second

        with contextlib.suppress(OSError):
            log.parent.mkdir(parents=True, exist_ok=True)
            log.write_text("".join(traceback.format_exception(kind, error, trace)), encoding="utf-8")
        words = f"Something went wrong inside the program: undo the last step, or save under another name. See {log}."
        QTimer.singleShot(0, window, lambda: window.say(words))

    sys.excepthook = tell


def _folder(kind: QStandardPaths.StandardLocation) -> Path:
    """The user's own folder for settings or state, as the desktop's conventions have it."""
    return Path(QStandardPaths.writableLocation(kind)) / "peristyle"


def _offer(window: Window, found: list[Orphan]) -> None:
    """Ask about work that a crash left; take up the first that is wanted, forget what is not."""
    left = list(found)
    while left:
        piece = left.pop(0)
        file = files.shown(piece.path) if piece.path else ""
        answer = window.ask.ask_recover(window, piece.job.design.name, file)
        if answer == "take":
            window.take_up(piece)
            break
        if answer == "throw":
            piece.discard()
        else:
            piece.release()
    for piece in left:
        piece.release()


def run(file: Path | None, *, demo: bool = False, screenshot: Path | None = None) -> int:
    """Start the application; its exit code. Raises FileError for a file that cannot be opened."""
    job = examples.load(examples.FIRST)
    if demo:
        file = None
    if file is not None:
        files.load(file)  # a file that cannot be read is said before a window opens
    _check_display()
    app = make_application()
    config = _folder(QStandardPaths.StandardLocation.GenericConfigLocation)
    state = _folder(QStandardPaths.StandardLocation.GenericStateLocation)
    # Before this window's own copy is there.
    left = orphans(state / "recovery", file) if screenshot is None else []
    window = make_window(job, config=config, state=state)
    if file is not None:
        window.session.open(file)
        QTimer.singleShot(AFTER_FIRST_PAINT_MS, window, window.say_whose_tools)
    own_up_to_errors(window, state / "trouble.txt")
    if screenshot is not None:
        window.resize(1280, 800)  # a picture has its size on any screen
    else:
        open_inside(window, app)
    window.show()
    QTimer.singleShot(AFTER_FIRST_PAINT_MS, window, lambda: _give_icon(app))
    if screenshot is not None:
        QTimer.singleShot(0, window, lambda: _picture(app, window, screenshot))
    elif left:
        QTimer.singleShot(0, window, lambda: _offer(window, left))
    QTimer.singleShot(AFTER_FIRST_PAINT_MS, window, window.say_what_cannot_be_kept)
    return app.exec()


def open_inside(window: Window, app: QApplication) -> None:
    """1280 × 800, or what the screen has room for."""
    screen = app.primaryScreen()
    wide, high = 1280, 800
    if screen is not None:
        # The title bar and the frame are the desktop's, and lie inside the screen too.
        room = screen.availableGeometry().adjusted(4, 32, -4, -4)
        if room.width() < wide or room.height() < high:
            wide, high = min(wide, room.width()), min(high, room.height())
            window.move(screen.availableGeometry().topLeft())
    window.resize(wide, high)


def _give_icon(app: QApplication) -> None:
    """The window's icon, whose class costs the first paint some milliseconds."""
    from PySide6.QtGui import QIcon

    icon = Path(__file__).with_name("data") / "desktop" / "org.peristyle.Peristyle.svg"
    app.setWindowIcon(QIcon(str(icon)))


def _picture(app: QApplication, window: Window, target: Path) -> None:
    """Save what the window looks like, wood and fixes and all, and leave."""
    for _ in range(4):  # what is higher or lower for it finds its place one holder at a time
        window.grab()  # painting asks for the wood
        window.wood.settle()
        window.reckoning.settle()
        app.processEvents()
    window.grab().save(str(target))
    window.close()
    app.quit()


def _check_display() -> None:
    """A clear word in place of Qt's abort where there is no display."""
    named = os.environ.get("QT_QPA_PLATFORM", "")
    shown = os.environ.get("DISPLAY") or os.environ.get("WAYLAND_DISPLAY")
    if sys.platform.startswith("linux") and not named and not shown:
        raise PeristyleError(
            "There is no display here. Start Peristyle in a desktop session, or run scripts/demo, "
            "which uses a virtual one."
        )
