"""The Log stage and the set-ups by hand: notes written and corrected, steps logged at the saw, checks kept."""

import datetime as dt
import io
import re
from pathlib import Path

import numpy as np
import pytest
from PIL import Image
from PySide6.QtCore import QMimeData, QPointF, Qt, QUrl
from PySide6.QtGui import QDropEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QComboBox, QLineEdit, QPushButton

from gestures import type_over
from peristyle.drawing.shapes import Label, Pick
from peristyle.export.record import record
from peristyle.model.design import Panel, Rectangle, replace
from peristyle.model.job import Entry
from peristyle.storage import examples, files, pictures
from peristyle.ui.searchbox import SearchBox
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
    type_over(view.story.text, "Cherry, the long board")
    assert [entry.text for entry in driver.session.job.log] == ["Cherry, the long board"]
    assert dt.datetime.fromisoformat(driver.session.job.log[0].when).tzinfo is not None
    driver.session.edit("Lower", fits.revised_length(driver.session.job, 190.0))
    driver.session.undo()
    driver.session.undo()
    assert len(driver.session.job.log) == 1
    item = view.story.list.item(1)
    view.story.list.setCurrentItem(item)
    type_over(view.story.minutes, "25")
    assert driver.session.job.log[1].corrects == 0
    assert driver.session.job.log[1].minutes == 25.0
    assert "Correction to 1" in view.story.list.item(2).text()
    path = tmp_path / "box.peristyle"
    assert driver.window.save_to(path)
    assert len(files.load(path).job.log) == 2
    assert not driver.session.unsaved
    type_over(view.story.text, "one more")
    assert driver.session.unsaved
    driver.choose("log", "Below", "by step")
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
    assert "it is ready on" in view._ready.text()
    assert "with the 2 other boxes all is ready on" in view._ready.text()
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
        assert box.sheet.drawing.words.startswith("A board cut round")
        box._kind_box.setCurrentIndex(box._kind_box.findData("kerf"))
        QTest.mouseClick(read, Qt.MouseButton.LeftButton)
        assert (
            2.0 < float(box._result.text().split()[2].replace("\u202fmm.", "")) < 3.6
        )  # all pieces are counted
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


def test_a_step_leads_to_the_check_of_what_it_is_set_by(driver, monkeypatch: pytest.MonkeyPatch) -> None:  # type: ignore[no-untyped-def]
    driver.session.start(BOX)
    driver.window.open_stage("saw")
    view = driver.window.view("saw")
    seen = []
    monkeypatch.setattr(SetupBox, "exec", lambda box: seen.append(box.kind) or 0)
    button = next(b for b in view.findChildren(QPushButton) if b.text() == "Set-ups…")
    for operation in ("bevel", "crosscut", "groove"):
        row = next(n for n, step in enumerate(driver.session.plan.steps) if step.operation == operation)
        view._list.setCurrentRow(row)
        QTest.mouseClick(button, Qt.MouseButton.LeftButton)
    assert seen == ["tilt_pair", "stop", "kerf"]  # a groove is as wide as its passes


def shot(path: Path, shape: tuple[int, int] = (900, 1200)) -> Path:
    """A photograph taken upright with a camera held sideways."""
    pixels = np.zeros((*shape, 3), dtype=np.uint8)
    pixels[:, : shape[1] // 2] = (200, 150, 90)
    picture = Image.fromarray(pixels)
    told = picture.getexif()
    told[0x0112] = 6
    picture.save(path, exif=told)
    return path


def test_a_photograph_goes_with_an_entry_into_the_file_and_the_record(
    driver, tmp_path: Path, monkeypatch
) -> None:  # type: ignore[no-untyped-def]
    view = open_log(driver)
    file = shot(tmp_path / "corner.jpg")
    monkeypatch.setattr("peristyle.ui.widgets.story.QFileDialog.getOpenFileName", lambda *_a: (str(file), ""))
    QTest.mouseClick(view.story.shot, Qt.MouseButton.LeftButton)
    assert "ithout" in view.story.shot.text()
    assert not driver.session.job.log  # only once it is written
    type_over(view.story.text, "the closing corner")
    (entry,) = driver.session.job.log
    assert entry.picture
    assert "ithout" not in view.story.shot.text()
    item = view.story.list.item(1)
    assert "photograph" in item.text()
    assert not item.icon().isNull()
    path = tmp_path / "box.peristyle"
    assert driver.window.save_to(path)
    stored = pictures.read(entry.picture, (path,))
    assert stored is not None
    with Image.open(io.BytesIO(stored)) as seen:
        assert seen.size == (900, 1200)  # upright, and nothing that the camera wrote
        assert not seen.getexif()
    # A file dropped on the window in this stage is of the work, not of the board.
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(file))])
    driver.window.dropEvent(
        QDropEvent(QPointF(20, 20), Qt.DropAction.CopyAction, data, Qt.MouseButton.LeftButton,
                   Qt.KeyboardModifier.NoModifier)
    )  # fmt: skip
    QApplication.processEvents()
    assert "ithout" in view.story.shot.text()
    QTest.mouseClick(view.story.shot, Qt.MouseButton.LeftButton)
    assert "ithout" not in view.story.shot.text()
    made = record(driver.session.plan, given=lambda name: pictures.read(name, (path,)))
    assert len(made) > len(record(driver.session.plan)) + 2000
    driver.window.again()
    assert driver.session.job.log[0].picture == entry.picture
    assert pictures.read(entry.picture, driver.session.places)
    (tmp_path / "bad.jpg").write_bytes(b"no picture")
    view.attach(tmp_path / "bad.jpg")
    assert "bad.jpg" in driver.window.statusBar().currentMessage()


def test_a_step_that_is_picked_is_what_the_note_is_about(driver) -> None:  # type: ignore[no-untyped-def]
    view = open_log(driver)
    driver.session.select(Pick("step", 2))
    step = driver.session.plan.steps[2]
    assert "A note on" in view.story.text.placeholderText()
    type_over(view.story.text, "slow feed")
    assert driver.session.job.log[0].about == step.id


def test_the_logs_of_all_boxes_are_searched(driver, tmp_path: Path) -> None:  # type: ignore[no-untyped-def]
    for number, text in enumerate(("burnt at the knot", "all well", "Knot cut away")):
        job = replace(BOX, design=replace(BOX.design, name=f"Box {number}"),
                      log=(Entry("2026-11-01T10:00:00+00:00", "", text),))  # fmt: skip
        files.save(tmp_path / f"{number}.peristyle", job)
    (tmp_path / "broken.peristyle").write_text("{")
    box = SearchBox(driver.window, [tmp_path / "0.peristyle"])
    QTest.keyClicks(box.text, "KNOT")
    for _ in range(12):
        QTest.qWait(2)
    assert [box.list.item(n).text()[:5] for n in range(box.list.count())] == ["Box 0", "Box 2"]
    assert "2 found" in box._told.text()
    box.list.setCurrentRow(1)
    more = tmp_path / "more"
    more.mkdir()
    files.save(more / "late.peristyle", files.load(tmp_path / "0.peristyle").job)
    box._read([more / "late.peristyle"])
    for _ in range(4):
        QTest.qWait(2)
    assert box.list.count() == 3
    assert box.list.currentRow() == 1  # what is picked stays picked while more is read
    assert "3 found" in box._told.text()
    QTest.keyClick(box.list, Qt.Key.Key_Return)
    assert box.chosen == tmp_path / "2.peristyle"
    box.text.clear()
    assert box.list.count() == 0


def test_how_many_are_made_and_what_is_to_do_next(driver) -> None:  # type: ignore[no-untyped-def]
    view = open_log(driver)
    field = next(f for f in view.findChildren(QLineEdit) if f.accessibleName() == "Boxes")
    type_over(field, "3+9")
    assert driver.session.job.work.boxes == (3, 9)
    assert any(one.task.job.endswith("first 3") for one in view._calendar()[0].booked)
    type_over(field, "none")
    assert driver.session.job.work.boxes == (3, 9)
    assert "3+9" in driver.window.statusBar().currentMessage()
    driver.choose("log", "Below", "what is to do next")
    lines = [view.story.list.item(n).text() for n in range(view.story.list.count())]
    assert "Plane to thickness" in lines[1] or "Rip" in lines[1]
    assert "While something dries" in lines
    driver.session.undo()
    assert driver.session.job.work.boxes == (1,)


def test_days_that_do_not_fit_are_turned_to(driver) -> None:  # type: ignore[no-untyped-def]
    view = open_log(driver)
    days = next(b for b in view.findChildren(QComboBox) if b.accessibleName() == "Days")
    assert not days.isVisible()  # one box: all of it is seen
    view.others([examples.load(name) for name in ("Filter tray", "Weights case", "Log-book coffer") * 3])
    assert days.isVisible()
    first = view.sheet.drawing
    assert any("days more" in one.text for one in first.shapes if isinstance(one, Label))
    days.setFocus()
    QTest.keyClick(days, Qt.Key.Key_Down)
    assert view.sheet.drawing.shapes != first.shapes
    here, there = (
        {
            one.text
            for one in each.shapes
            if isinstance(one, Label) and re.fullmatch(r"\w+ \d\d \w+", one.text)
        }
        for each in (first, view.sheet.drawing)
    )
    assert here
    assert there
    assert not here & there
    view.others([])
    assert not days.isVisible()
    assert view.sheet.drawing.shapes


def test_where_there_is_no_ring_nothing_is_called_done(driver) -> None:  # type: ignore[no-untyped-def]
    view = open_log(driver)
    driver.session.start(fits.box(Rectangle(200.0, 120.0), -60.0))
    assert not driver.session.plan.ring.sides
    assert "no ring yet" in view.sheet.drawing.words
    driver.session.start(BOX)
    assert "ring" not in view.sheet.drawing.words
