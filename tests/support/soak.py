"""Random hands on the real window: whatever is typed, dragged, clicked or chosen, nothing breaks.

After every event: no traceback, no warning of Qt's, no event over its time. Now and then: everything undone
and done again comes back to the same designs, what is saved and opened again is equal, every value shown
can be read back, and memory has not grown.
"""

import os
import random
import resource
import statistics
import sys
import time
from collections import Counter
from collections.abc import Callable
from functools import partial
from pathlib import Path
from types import TracebackType
from typing import Any

from PySide6.QtCore import QEvent, QPoint, Qt, QtMsgType, qInstallMessageHandler
from PySide6.QtGui import QKeyEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import (
    QAbstractButton,
    QAbstractSpinBox,
    QApplication,
    QComboBox,
    QMenu,
    QPushButton,
    QWidget,
)

from peristyle.app import make_window
from peristyle.drawing.shapes import Pick
from peristyle.model.job import Job
from peristyle.storage import codec, examples, files
from peristyle.ui.actions import ACTIONS
from peristyle.ui.widgets.sheet import Sheet
from peristyle.ui.widgets.tag import SizeTag
from peristyle.ui.window import Window
from support.designs import random_design

SLOWEST_S = 0.3
QUIET_S = 0.0142  # a fixed piece of work on the machine of the benchmarks, in a quiet hour: slower ones have more time
TICKS_PER_S = os.sysconf("SC_CLK_TCK")
STAGES = ("size", "section", "board", "corners", "saw", "fit", "log")
TEXTS = (
    "12", "120", "0", "-5", "9", "6 5/8in", "18 cm", "=240+3", "=1/0", "1e9", "99999999", "abc", "", "?", "½", "22,5",
    "22° 30′", "8/12", "0.0001", "19999", "3", "4", "24", "1", "9" * 130, "٣", "“", "1.2.3", "15; 30", "45 30", "90",
)  # fmt: skip
KEYS = (
    (Qt.Key.Key_Return, None), (Qt.Key.Key_Tab, None), (Qt.Key.Key_Escape, None), (Qt.Key.Key_Up, None),
    (Qt.Key.Key_Down, None), (Qt.Key.Key_PageUp, None), (Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier),
    (Qt.Key.Key_Right, Qt.KeyboardModifier.ControlModifier), (Qt.Key.Key_Left, Qt.KeyboardModifier.ControlModifier),
    (Qt.Key.Key_Right, None), (Qt.Key.Key_Left, None), (Qt.Key.Key_Backspace, None),
)  # fmt: skip
# Actions that ask in a dialog of their own, or leave.
QUIET = {"new", "open", "save", "save_as", "tools", "setups", "sled", "record", "search", "boards", "photograph",
         "batch", "quit", "rename", "keys_help", "angles", "angles_pdf", "about", "full"}  # fmt: skip
QUIET |= {spec.id for spec in ACTIONS if spec.call.startswith("export_format")}


def given_to_others_s() -> float:
    """How long this thread has been ready and had no processor, and the machine none of the host's; 0 if not told."""
    try:
        waited = int(Path("/proc/thread-self/schedstat").read_text().split()[1]) / 1e9
        stolen = int(Path("/proc/stat").read_text().split(maxsplit=9)[8]) / TICKS_PER_S
    except (OSError, IndexError, ValueError):
        return 0.0
    return waited + stolen


def floor_s() -> float:
    """How long a fixed piece of work takes this thread just now."""
    start, kept = time.thread_time(), {}
    for number in range(120_000):
        kept[number % 997] = (number, len(kept))
    return time.thread_time() - start


class Soak:
    """One window and one seeded chance."""

    def __init__(self, seed: int, folder: Path) -> None:
        self.chance = random.Random(seed)
        self.folder = folder
        self.troubles: list[str] = []
        # How long, of it reckoning, what was done, on which stage, and the job as it was then.
        self.over = 0  # events over the limit by the clock alone
        self.slow: list[tuple[float, float, str, str, Job]] = []
        self.done: Counter[str] = Counter()
        app = QApplication.instance()
        assert isinstance(app, QApplication)
        self.app = app
        self._doing = ""
        self._longest = (0.0, 0.0)
        self._hook, self._handler = sys.excepthook, qInstallMessageHandler(self._warned)
        sys.excepthook = self._broke
        self.window: Window = make_window(
            examples.load(examples.FIRST), config=folder / "config", state=folder / "state"
        )
        self.window.may_leave = lambda: True  # type: ignore[method-assign]
        self.window.resize(1280, 800)
        self.window.show()
        self.session = self.window.session

    def close(self) -> None:
        """Put everything back."""
        self.window.close()
        self.window.deleteLater()
        self.app.processEvents()
        sys.excepthook = self._hook
        qInstallMessageHandler(self._handler)

    def _broke(self, kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> None:
        import traceback

        self.troubles.append(
            f"{self._doing}: " + "".join(traceback.format_exception(kind, error, trace))[-1500:]
        )

    def _warned(self, level: QtMsgType, _where: Any, text: str) -> None:
        if level != QtMsgType.QtDebugMsg and "propagateSizeHints" not in text:
            self.troubles.append(f"{self._doing}: Qt says {text}")

    def run(self, events: int) -> None:
        """So many events; checks of everything now and then."""
        acts = (
            (self.type_somewhere, 22), (self.press_keys, 12), (self.drag, 16), (self.click_sheet, 8), (self.choose, 12),
            (self.push, 10), (self.spin, 6), (self.stage, 8), (self.action, 8), (self.other_box, 3), (self.resize, 2),
            (self.undo_some, 10), (self.pick, 5), (self.wheel, 2),
        )  # fmt: skip
        names = [act for act, often in acts for _ in range(often)]
        for number in range(events):
            act = self.chance.choice(names)
            self._doing = f"event {number}, {act.__name__}"
            self._longest = (0.0, 0.0)
            try:
                self.one(act)
                self.one(self.app.processEvents)
                # Outside a running event loop what is to be deleted later waits for ever.
                self.app.sendPostedEvents(None, QEvent.Type.DeferredDelete)
            except Exception as error:
                self._broke(type(error), error, error.__traceback__)
            took, own = self._longest
            if took > SLOWEST_S and self.session.job.design.side_count <= 60:
                self.over += 1
                slower = statistics.median(floor_s() for _ in range(5)) / QUIET_S
                if took > SLOWEST_S * max(1.0, slower):
                    what = f"{self._doing}, the machine {slower:.1f} times as slow as in the benchmarks"
                    self.slow.append((took, own, what, self.window._stage, self.session.job))
            self.done[act.__name__] += 1
            if number % 97 == 96:
                self._doing = f"event {number}, check"
                try:
                    self.check()
                except Exception as error:
                    self._broke(type(error), error, error.__traceback__)

    def one(self, event: Callable[[], object]) -> None:
        """One event of a gesture, timed by itself: a drag is many, each of which must be quick."""
        inner, self._longest = self._longest, (0.0, 0.0)
        start, own, others = time.perf_counter(), time.thread_time(), given_to_others_s()
        event()
        others = given_to_others_s() - others
        own = time.thread_time() - own
        whole = (max(own, time.perf_counter() - start - others), own)
        # What was timed inside counts by itself.
        self._longest = max(inner, self._longest if self._longest[0] else whole)

    # --- what a hand may do

    def _visible(self, kind: type) -> list[Any]:
        return [w for w in self.window.findChildren(kind) if w.isVisible() and w.isEnabled()]

    def type_somewhere(self) -> None:
        """A text, sensible or absurd, into any field."""
        fields = self._visible(SizeTag) + self._visible(QAbstractSpinBox)
        if fields:
            field = self.chance.choice(fields)
            self.one(lambda: QTest.mouseClick(field, Qt.MouseButton.LeftButton))
            for letter in self.chance.choice(TEXTS):
                # QTest knows the keys of ASCII only.
                for kind in (QEvent.Type.KeyPress, QEvent.Type.KeyRelease):
                    modifiers = Qt.KeyboardModifier.NoModifier
                    QApplication.sendEvent(field, QKeyEvent(kind, Qt.Key.Key_unknown, modifiers, letter))
            if self.chance.random() < 0.8:
                self.one(lambda: QTest.keyClick(field, Qt.Key.Key_Return))

    def press_keys(self) -> None:
        """A key, wherever the focus is."""
        key, modifier = self.chance.choice(KEYS)
        target = self.window.focusWidget() or self.window
        QTest.keyClick(target, key, modifier or Qt.KeyboardModifier.NoModifier)

    def _sheet(self) -> QWidget | None:
        sheets = self._visible(Sheet)
        return self.chance.choice(sheets) if sheets else None

    def drag(self) -> None:
        """Take hold of a handle (or of anything), move, let go or give up."""
        sheet = self._sheet()
        if not isinstance(sheet, Sheet):
            return
        at = QPoint(
            self.chance.randrange(max(1, sheet.width())), self.chance.randrange(max(1, sheet.height()))
        )
        handles = sheet.drawing.handles
        if handles and self.chance.random() < 0.8:
            area = self.chance.choice(handles).area
            xs, ys = [p[0] for p in area], [p[1] for p in area]
            at = sheet.px(((min(xs) + max(xs)) / 2, (min(ys) + max(ys)) / 2)).toPoint()
        self.one(lambda: QTest.mousePress(sheet, Qt.MouseButton.LeftButton, pos=at))
        for _ in range(self.chance.randint(1, 4)):
            at += QPoint(self.chance.randint(-60, 60), self.chance.randint(-60, 60))
            self.one(partial(QTest.mouseMove, sheet, at))
        if self.chance.random() < 0.15:
            QTest.keyClick(sheet, Qt.Key.Key_Escape)
        self.one(lambda: QTest.mouseRelease(sheet, Qt.MouseButton.LeftButton, pos=at))

    def click_sheet(self) -> None:
        """A click anywhere on a drawing."""
        sheet = self._sheet()
        if sheet is not None:
            spot = QPoint(
                self.chance.randrange(max(1, sheet.width())), self.chance.randrange(max(1, sheet.height()))
            )
            QTest.mouseClick(sheet, Qt.MouseButton.LeftButton, pos=spot)

    def choose(self) -> None:
        """Another entry of a list."""
        boxes = [box for box in self._visible(QComboBox) if box.count()]
        if boxes:
            box = self.chance.choice(boxes)
            box.setCurrentIndex(self.chance.randrange(box.count()))
            box.activated.emit(box.currentIndex())

    def push(self) -> None:
        """A button, a tick, a fix."""
        # One with a menu, or that asks in a dialog, would wait for an answer.
        buttons = [
            button for button in self._visible(QAbstractButton)
            if not button.text().endswith("…") and not (isinstance(button, QPushButton) and button.menu())
        ]  # fmt: skip
        if buttons:
            self.chance.choice(buttons).click()

    def spin(self) -> None:
        """A step of a spin box."""
        boxes = self._visible(QAbstractSpinBox)
        if boxes:
            self.chance.choice(boxes).stepBy(self.chance.choice((-10, -1, 1, 10)))

    def stage(self) -> None:
        """Another stage."""
        self.window.open_stage(self.chance.choice(STAGES))

    def action(self) -> None:
        """Something from the menus."""
        names = [name for name in self.window._actions if name not in QUIET]
        self.window.action(self.chance.choice(names)).trigger()

    def other_box(self) -> None:
        """Another box altogether."""
        if self.chance.random() < 0.3:
            self.window.open_example(self.chance.choice(examples.names()))
        else:
            self.session.start(random_design(self.chance))

    def resize(self) -> None:
        """Another size of the window."""
        self.window.resize(
            *self.chance.choice(((1280, 800), (1024, 700), (960, 504), (1366, 732), (1920, 1200)))
        )

    def undo_some(self) -> None:
        """A step back, or on."""
        step = self.window.undo if self.chance.random() < 0.6 else self.window.redo
        step()

    def pick(self) -> None:
        """A side, a corner, a thing, or nothing."""
        kind = self.chance.choice(("side", "corner", "thing", None))
        most = {"side": self.session.job.design.side_count, "corner": self.session.job.design.side_count,
                "thing": len(self.session.job.design.inside.contents)}.get(str(kind), 0)  # fmt: skip
        self.session.select(Pick(kind, self.chance.randrange(most)) if kind and most else None)  # type: ignore[arg-type]

    def wheel(self) -> None:
        """Open and close a menu: its entries are made anew."""
        menus = self.window.findChildren(QMenu)
        if menus:
            self.chance.choice(menus).aboutToShow.emit()

    # --- what must hold

    def check(self) -> None:
        """Undo all and redo all, save and open, read back what is shown."""
        self.session.put_typed_back()
        self.read_back()
        now = self.session.job
        back = [now]
        while self.session.undo_label is not None:
            self.session.undo()
            back.append(self.session.job)
        for wanted in reversed(back[:-1]):
            self.session.redo()
            if self.session.job != wanted:
                self.troubles.append(f"{self._doing}: redo came to another design")
                break
        path = self.folder / "soak.peristyle"
        files.save(path, now)
        if files.load(path).job != now:
            self.troubles.append(f"{self._doing}: what was saved came back changed")
        codec.decode(codec.encode(now), "again")

    def read_back(self) -> None:
        """What a size shows, typed again, is taken."""
        for tag in self._visible(SizeTag):
            text = tag.text()
            value = tag.field.get(self.session.job)
            if not tag.field.low <= value <= tag.field.high:
                continue  # not known, or followed from others past what may be typed
            try:
                tag.field.parse(self.session.job, text)
            except Exception as error:
                self.troubles.append(f"{self._doing}: {tag.field.id} shows {text!r}: {error}")


def rss_mb() -> float:
    """Memory of this process now."""
    for line in Path("/proc/self/status").read_text().splitlines():
        if line.startswith("VmRSS"):
            return int(line.split()[1]) / 1024
    return resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
