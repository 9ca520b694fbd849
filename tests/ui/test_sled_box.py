"""The sled in the window: the table's sizes typed, refused where they cannot be, the sheet written."""

from pathlib import Path

import pytest
from PySide6.QtWidgets import QApplication, QPushButton

from gestures import type_over
from peristyle.storage import examples
from peristyle.ui.sledbox import SledBox


def test_the_table_is_measured_in_the_window(driver, monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> None:  # type: ignore[no-untyped-def]
    driver.session.start(examples.load("Filter tray"))
    seen = []

    def by_hand(box: SledBox) -> int:
        box.show()
        box.activateWindow()
        QApplication.processEvents()
        before = box._told.toPlainText()
        type_over(box._lines["slot_mm"], "140")
        assert box._told.toPlainText() != before
        assert "140" in box._told.toPlainText()
        type_over(box._lines["blade_high_mm"], "12")
        assert "larger blade" in box._wrong.text()
        assert box.job.shop.table.blade_high_mm == 75.0
        type_over(box._lines["blade_high_mm"], "far")
        assert box._wrong.text()
        type_over(box._lines["blade_high_mm"], "80")
        assert not box._wrong.text()
        seen.append(box)
        next(one for one in box.findChildren(QPushButton) if "PDF" in one.text()).click()
        return box.result()

    monkeypatch.setattr(SledBox, "exec", by_hand)
    monkeypatch.setattr(driver.window, "_asked_name", lambda *_: tmp_path / "sled.pdf")
    driver.window.sled()
    assert seen
    assert (driver.session.job.shop.table.slot_mm, driver.session.job.shop.table.blade_high_mm) == (
        140.0,
        80.0,
    )
    assert (tmp_path / "sled.pdf").stat().st_size > 5000
    driver.session.undo()
    assert driver.session.job.shop.table.slot_mm == 125.0
