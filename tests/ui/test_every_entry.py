"""Every entry of every menu, opened with the mouse as a hand does; what it opens is shut with Esc."""

from collections.abc import Callable
from pathlib import Path

import pytest

pytest.importorskip("PySide6")

from PySide6.QtCore import QPoint, Qt, QTimer
from PySide6.QtGui import QAction
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QDialog, QMenu

from peristyle.model.job import Job
from peristyle.storage import examples
from peristyle.ui.actions import ACTIONS
from ui.conftest import Driver

# What asks something: each has a window of its own, with a title.
_ASK = (
    "new", "open", "save", "save_as", *(a.id for a in ACTIONS if a.call.startswith("export_")), "batch", "rename",
    "photograph", "tools", "setups", "sled", "boards", "keys_help", "angles", "about",
)  # fmt: skip
_OFTEN_MS = 40
_TRIES = 100


class _Closer:
    """Shuts whatever opens, the topmost first, and remembers what it was."""

    def __init__(self) -> None:
        self.seen: list[str] = []
        self._timer = QTimer()
        self._timer.timeout.connect(self._look)
        self._timer.start(_OFTEN_MS)

    def _look(self) -> None:
        modal = QApplication.activeModalWidget()
        if isinstance(modal, QDialog) and modal.isVisible():
            self.seen.append(modal.windowTitle())
            QTest.keyClick(modal, Qt.Key.Key_Escape)

    def stop(self) -> None:
        self._timer.stop()


def _click(menu: QMenu, action: QAction) -> None:
    QTest.mouseClick(menu, Qt.MouseButton.LeftButton, pos=menu.actionGeometry(action).center())


def _opened(driver: Driver, action: QAction, qtbot) -> list[str]:  # type: ignore[no-untyped-def]
    """The menu of an action pulled down and the action clicked; the titles of the windows it opened."""
    bar = driver.window.menuBar()
    for top in bar.actions():
        menu = top.menu()
        if isinstance(menu, QMenu) and action in menu.actions():
            closer = _Closer()
            QTest.mouseClick(bar, Qt.MouseButton.LeftButton, pos=bar.actionGeometry(top).center())
            qtbot.waitUntil(menu.isVisible)
            QTest.mouseMove(menu, QPoint(2, 2))
            _click(menu, action)
            qtbot.waitUntil(lambda: QApplication.activeModalWidget() is None)
            closer.stop()
            menu.close()
            return closer.seen
    raise AssertionError(action.text())


@pytest.mark.qt_log_ignore("This plugin does not support", extend=True)
@pytest.mark.parametrize("example", ["Star-chart box", "Weights case", "Key house"])
def test_every_entry_opens(
    open_window: Callable[[Job], Driver],
    example: str,
    qtbot,  # type: ignore[no-untyped-def]
    tmp_path: Path,
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    monkeypatch.chdir(tmp_path)
    driver = open_window(examples.load(example))
    words = {spec.words.replace("&", ""): spec.id for spec in ACTIONS}
    tried = set()
    for action in driver.window.findChildren(QAction):
        name = words.get(action.text().replace("&", ""))
        if name is None or name in ("quit", "full", "at_saw", *tried) or not action.isEnabled():
            continue
        tried.add(name)
        seen = _opened(driver, action, qtbot)
        assert QApplication.activeModalWidget() is None
        assert all(title.strip() for title in seen), name
        if name in _ASK:
            assert seen, name
    assert set(_ASK) <= tried
    driver.window.may_leave = lambda: True  # type: ignore[method-assign]
