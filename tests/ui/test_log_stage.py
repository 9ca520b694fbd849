"""The Log stage and the set-ups by hand: notes written and corrected, steps logged at the saw, checks kept."""

import datetime as dt
from pathlib import Path

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QPushButton

from gestures import type_over
from peristyle.model.design import Panel, Rectangle
from peristyle.storage import examples, files
from peristyle.ui.setupbox import SetupBox
from support import fits

BOX = fits.box(Rectangle(200.0, 120.0), bottom=Panel())


def open_log(driver):  # type: ignore[no-untyped-def]
    driver.session.start(BOX)
    driver.window.open_stage("log")
    return driver.window.view("log")


def test_a_note_is_written_and_corrected_and_survives_undo(driver, tmp_path: Path) -> None:  # type: ignore[no-untyped-def]
    view = open_log(driver)
    assert "ready on" in view._ready.text()
    type_over(view._text, "Cherry, the long board")
    assert [entry.text for entry in driver.session.job.log] == ["Cherry, the long board"]
    assert dt.datetime.fromisoformat(driver.session.job.log[0].when).tzinfo is not None
    driver.session.edit("Lower", fits.revised_length(driver.session.job, 190.0))
    driver.session.undo()
    driver.session.undo()
    assert len(driver.session.job.log) == 1
    item = view._story.item(1)
    view._story.setCurrentItem(item)
    type_over(view._minutes, "25")
    assert driver.session.job.log[1].corrects == 0
    assert driver.session.job.log[1].minutes == 25.0
    assert "Correction to 1" in view._story.item(2).text()
    path = tmp_path / "box.peristyle"
    assert driver.window.save_to(path)
    assert len(files.load(path).job.log) == 2
    assert not driver.session.unsaved
    type_over(view._text, "one more")
    assert driver.session.unsaved
    driver.choose("log", "Story", "by step")
    driver.choose("log", "Finish", "shellac")
    assert driver.session.job.work.coating.kind == "shellac"


def test_a_bar_is_dragged_and_moved_by_key_and_the_rest_follows(driver) -> None:  # type: ignore[no-untyped-def]
    view = open_log(driver)
    QApplication.processEvents()
    grips = [one for one in view.sheet.drawing.handles if one.says == "Move in the calendar"]
    assert len(grips) > 15
    last = grips[-1]
    ends = view._calendar()[0].ends
    centre = view.sheet.px((sum(p[0] for p in last.area) / 4, sum(p[1] for p in last.area) / 4)).toPoint()
    down = view.sheet.px((0.0, 0.0)).toPoint() - view.sheet.px((0.0, 52.0)).toPoint()
    QTest.mousePress(view.sheet, Qt.MouseButton.LeftButton, pos=centre)
    QTest.mouseMove(view.sheet, centre + down / 2)
    QTest.mouseMove(view.sheet, centre + down)
    QTest.mouseRelease(view.sheet, Qt.MouseButton.LeftButton, pos=centre + down)
    (planned,) = driver.session.job.work.planned
    assert planned.task.startswith("box.finish/")
    assert (view._calendar()[0].ends - ends).days in (1, 2, 3)
    # The click picked its step: an arrow key moves that on by a day, from its first bar on.
    QTest.keyClick(view.sheet, Qt.Key.Key_Right)
    assert [one.task for one in driver.session.job.work.planned] == [planned.task, "box.finish/sand"]
    driver.session.undo()
    driver.session.undo()
    assert not driver.session.job.work.planned
    view.others([examples.load("Filter tray"), driver.session.job])
    assert "all 3 boxes" in view._ready.text()
    view.others([])
    driver.window.again()
    assert driver.session.job.design.name.endswith("again")


def test_steps_done_at_the_saw_are_logged(driver) -> None:  # type: ignore[no-untyped-def]
    driver.session.start(BOX)
    driver.window.at_saw()
    from peristyle.ui.atsaw import AtSaw

    saw = driver.window.findChild(AtSaw)
    for _ in range(3):
        QTest.keyClick(saw, Qt.Key.Key_Space)
    steps = [step.id for step in driver.session.plan.steps]
    logged = [entry for entry in driver.session.job.log if entry.kind == "done"]
    assert logged
    assert [entry.about for entry in logged] == steps[: len(logged)]
    assert logged[0].minutes is None  # done in an instant: nobody timed it
    count = len(driver.session.job.log)
    for _ in range(3):
        driver.session.undo()
    assert not driver.session.job.progress
    assert len(driver.session.job.log) == count
    driver.window.at_saw()


def test_a_check_is_read_kept_and_stands_in_the_steps(driver, monkeypatch: pytest.MonkeyPatch) -> None:  # type: ignore[no-untyped-def]
    driver.session.start(BOX)

    def by_hand(box: SetupBox) -> int:
        box.show()
        for _key, line in box._lines:
            type_over(line, "89.8", None)
        assert "0.1" in box._result.text()
        keep = next(b for b in box.findChildren(QPushButton) if b.text() == "&Keep it")
        QTest.mouseClick(keep, Qt.MouseButton.LeftButton)
        assert box._history.count() == 1
        box._kind_box.setCurrentIndex(2)
        QTest.mouseClick(keep, Qt.MouseButton.LeftButton)
        assert box._history.count() == 1  # nothing was read: nothing is kept
        assert box._wrong.text()
        read = next(b for b in box.findChildren(QPushButton) if "simulated" in b.text())
        QTest.mouseClick(read, Qt.MouseButton.LeftButton)
        assert "move the fence" in box._result.text()
        box.accept()
        return box.result()

    monkeypatch.setattr(SetupBox, "exec", by_hand)
    driver.window.setups()
    driver.window.open_stage("saw")
    view = driver.window.view("saw")
    rows = [view._list.item(n).text() for n in range(view._list.count())]
    assert any("on its scale tilt at 44.9°" in row for row in rows)
    driver.session.undo()
    QApplication.processEvents()
    assert not driver.session.job.shop.setups
