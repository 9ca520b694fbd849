"""A window to drive, offscreen, with its own settings and no leftovers."""

import os
import threading
import time
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
pytest.importorskip("PySide6")

from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QComboBox, QMessageBox, QWidget

from gestures import type_over
from peristyle.app import make_window
from peristyle.model.job import Job
from peristyle.ui import theme
from peristyle.ui.widgets.sheet import Sheet
from peristyle.ui.widgets.tag import SizeTag
from peristyle.ui.window import Window


class Driver:
    """A window and the gestures a maker makes in it."""

    def __init__(self, window: Window) -> None:
        self.window = window
        self.session = window.session

    def sheet(self, stage: str) -> Sheet:
        self.window.open_stage(stage)
        sheet: Sheet = self.window.view(stage).sheet  # type: ignore[attr-defined]
        return sheet

    def tag(self, parent: QWidget, field: str) -> SizeTag:
        tag = parent.findChild(SizeTag, f"tag:{field}")
        assert isinstance(tag, SizeTag), field
        return tag

    def type(self, tag: SizeTag, text: str, key: Qt.Key = Qt.Key.Key_Return) -> None:
        type_over(tag, text, key)

    def choose(self, stage: str, name: str, text: str) -> None:
        """Open a list of choices with the keys and go down it to a word."""
        view: QWidget = self.window.view(stage)  # type: ignore[assignment]
        box = next(b for b in view.findChildren(QComboBox) if b.accessibleName() == name and b.isVisible())
        box.setFocus()
        at, wanted = box.currentIndex(), box.findText(text)
        assert wanted >= 0, (name, [box.itemText(i) for i in range(box.count())])
        for _ in range(abs(wanted - at)):
            QTest.keyClick(box, Qt.Key.Key_Down if wanted > at else Qt.Key.Key_Up)

    def drag(self, sheet: Sheet, start: QPointF, dx: int, dy: int, *, let_go: bool = True) -> None:
        at = start.toPoint()
        QTest.mousePress(sheet, Qt.MouseButton.LeftButton, pos=at)
        for step in range(1, 5):
            QTest.mouseMove(sheet, at + QPoint(dx * step // 4, dy * step // 4))
        if let_go:
            QTest.mouseRelease(sheet, Qt.MouseButton.LeftButton, pos=at + QPoint(dx, dy))


@pytest.fixture(scope="session")
def qapp_args() -> list[str]:
    return ["peristyle"]


@pytest.fixture
def open_window(qapp, tmp_path: Path) -> Iterator[Callable[[Job], Driver]]:  # type: ignore[no-untyped-def]
    qapp.setFont(theme.load_fonts())
    opened: list[Window] = []
    before = threading.active_count()

    def make(job: Job) -> Driver:
        window = make_window(job, config=tmp_path / "config", state=tmp_path / "state")
        window.resize(1280, 800)
        window.show()
        qapp.processEvents()
        opened.append(window)
        return Driver(window)

    yield make
    for window in opened:
        window.may_leave = lambda: True  # type: ignore[method-assign]
        window.close()
        window.deleteLater()
    qapp.processEvents()
    until = time.monotonic() + 10.0  # a window does not wait for a thread it has let go of
    while threading.active_count() > before and time.monotonic() < until:
        time.sleep(0.005)
    assert threading.active_count() <= before, "a thread is left behind"
    assert not list((tmp_path / "state" / "recovery").glob("*")) if opened else True


@pytest.fixture
def driver(open_window: Callable[[Job], Driver], box: Job) -> Driver:
    return open_window(box)


@pytest.fixture
def answers(monkeypatch: pytest.MonkeyPatch) -> list[object]:
    """Answers to message boxes, first come first served; the texts asked pile up in `asked`."""
    queue: list[object] = []

    def execute(box: QMessageBox) -> object:
        answer = queue.pop(0)
        if isinstance(answer, str):
            button = next(b for b in box.buttons() if b.text().replace("&", "") == answer)
            monkeypatch.setattr(box, "clickedButton", lambda: button, raising=False)
            return 0
        return answer

    monkeypatch.setattr(QMessageBox, "exec", execute)
    return queue
