"""The window: files, questions, themes, menus, what assistive technology reads."""

import sys
from pathlib import Path

import pytest
from PySide6.QtCore import QMimeData, QPointF, QRect, Qt, QUrl
from PySide6.QtGui import QColor, QDropEvent, QImage, QPainter, QPalette
from PySide6.QtTest import QTest
from PySide6.QtWidgets import (
    QAbstractButton,
    QAbstractSpinBox,
    QApplication,
    QCheckBox,
    QComboBox,
    QFileDialog,
    QLineEdit,
    QListWidget,
    QMessageBox,
)
from pytestqt.qtbot import QtBot

from conftest import Driver
from gestures import type_over
from peristyle.app import own_up_to_errors
from peristyle.model.design import Dividers, Rectangle, Regular
from peristyle.model.job import revised
from peristyle.model.stock import Board
from peristyle.planning.plan import plan
from peristyle.planning.stock.looks import look_of
from peristyle.storage import examples, files
from peristyle.storage.recovery import orphans
from peristyle.ui import theme, wood
from peristyle.ui.actions import ACTIONS, help_html
from peristyle.ui.newbox import NewBox
from peristyle.ui.widgets.sheet import Sheet
from peristyle.ui.widgets.solid import SolidView
from support.telling import titled

Buttons = QMessageBox.StandardButton


def change(driver: Driver, height: float = 77.0) -> None:
    driver.session.edit("Set height", revised(driver.session.job, height_mm=height))


def test_save_open_and_unsaved(driver: Driver, tmp_path: Path, answers: list[object]) -> None:
    window, path = driver.window, tmp_path / "a.peristyle"
    change(driver)
    assert window.isWindowModified()
    assert window.save_to(path)
    assert not window.isWindowModified()
    assert files.load(path).job.design.form.height_mm == 77.0
    change(driver, 66.0)
    answers.append(Buttons.Cancel)
    assert not window.open_path(path)
    assert driver.session.job.design.form.height_mm == 66.0
    answers.append(Buttons.Discard)
    assert window.open_path(path)
    assert driver.session.job.design.form.height_mm == 77.0
    assert driver.session.undo_label is None


def test_save_asks_for_a_name_and_adds_the_ending(
    driver: Driver, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_a: (str(tmp_path / "mine"), ""))
    change(driver)
    driver.window.action("save").trigger()
    assert files.load(tmp_path / "mine.peristyle").job.design.form.height_mm == 77.0
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_a: (str(tmp_path / "parts"), ""))
    driver.window.action("cut_list").trigger()
    driver.window.action("sheet_letter").trigger()
    assert (tmp_path / "parts.csv").read_text().startswith("part,")
    assert (tmp_path / "parts.pdf").read_bytes().startswith(b"%PDF")


def test_a_file_that_cannot_be_read_leaves_the_design(
    driver: Driver, tmp_path: Path, answers: list[object]
) -> None:
    bad = tmp_path / "photo.png"
    bad.write_bytes(b"\x89PNG\r\n")
    answers.append(Buttons.Ok)
    before = driver.session.job
    assert not driver.window.open_path(bad)
    assert driver.session.job is before
    assert not answers


def test_two_windows_on_one_file(driver: Driver, tmp_path: Path, answers: list[object]) -> None:
    path = tmp_path / "a.peristyle"
    driver.window.save_to(path)
    files.save(path, revised(driver.session.job, name="Theirs"))
    change(driver)
    answers.append("Cancel")
    assert not driver.window.save()
    assert files.load(path).job.design.name == "Theirs"
    answers.append("Save over it")
    assert driver.window.save()
    assert files.load(path).job.design.form.height_mm == 77.0


def test_a_save_that_fails_is_said_and_nothing_is_lost(
    driver: Driver, tmp_path: Path, answers: list[object]
) -> None:
    change(driver)
    answers.append(Buttons.Ok)
    assert not driver.window.save_to(tmp_path / "no" / "such" / "a.peristyle")
    assert driver.session.unsaved
    assert not answers


def test_a_dropped_file_opens(driver: Driver, tmp_path: Path, qtbot) -> None:  # type: ignore[no-untyped-def]
    path = tmp_path / "dropped.peristyle"
    files.save(path, examples.load("Filter tray"))
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(path))])
    drop = QDropEvent(
        QPointF(300, 300),
        Qt.DropAction.CopyAction,
        data,
        Qt.MouseButton.LeftButton,
        Qt.KeyboardModifier.NoModifier,
    )
    with qtbot.waitSignal(driver.session.filed):
        driver.window.dropEvent(drop)
    assert driver.session.path == path
    driver.window._fill_recent()
    assert driver.window._recent.actions()[0].text() == "dropped.peristyle"


def test_the_recovery_copy_follows_unsaved_work(driver: Driver, tmp_path: Path, qtbot) -> None:  # type: ignore[no-untyped-def]
    change(driver)
    driver.window._keep_copy()
    copies = list((tmp_path / "state" / "recovery").glob("*.json"))
    assert len(copies) == 1
    assert list(orphans(tmp_path / "state" / "recovery")) == []  # this window still holds it
    driver.window.save_to(tmp_path / "a.peristyle")
    assert not copies[0].exists()
    driver.session.start_recovered(revised(driver.session.job, height_mm=55.0), tmp_path / "a.peristyle")
    assert driver.session.unsaved
    driver.session.undo()
    assert driver.session.job.design.form.height_mm == 77.0


def test_undo_through_everything_and_back(driver: Driver) -> None:
    session, window = driver.session, driver.window
    start = session.job
    for stage in ("size", "section", "board", "corners"):
        window.open_stage(stage)
        view = window.view(stage)
        for box in view.findChildren(QComboBox):
            for index in range(min(box.count(), 3)):
                box.setCurrentIndex(index)
                box.activated.emit(index)
        for tick in view.findChildren(QAbstractButton):
            if tick.isEnabled() and not tick.text().endswith("…"):  # which opens a dialog
                tick.click()
        for spin in view.findChildren(QAbstractSpinBox):
            spin.stepUp()
    end = session.job
    steps = 0
    while session.undo_label:
        session.undo()
        steps += 1
    assert steps > 15
    assert session.job == start
    while session.redo_label:
        session.redo()
    assert session.job == end


def test_new_asks_one_question_and_draws(driver: Driver, monkeypatch: pytest.MonkeyPatch) -> None:
    dialog = NewBox("mm", driver.window.wood, driver.window.theme, driver.window)
    assert dialog.job is not None
    dialog.set_shape("regular")
    size = dialog.findChild(QLineEdit, "new:size")
    size.clear()
    QTest.keyClicks(size, "6 5/")
    assert dialog.job is None
    QTest.keyClicks(size, "8in")
    assert dialog.job is not None
    assert dialog.job.design.form.shape == Regular(8, 168.275, "across_flats")
    made = dialog.job
    monkeypatch.setattr(NewBox, "exec", lambda _self: 1)
    monkeypatch.setattr(NewBox, "job", property(lambda _self: made))
    driver.window.new_box()
    assert driver.session.job == made
    assert driver.session.plan.buildable
    dialog.deleteLater()


def test_new_from_what_it_holds_and_from_the_board(driver: Driver) -> None:
    dialog = NewBox("mm", driver.window.wood, driver.window.theme, driver.window)
    dialog.show()

    def type_in(name: str, text: str) -> None:
        edit = dialog.findChild(QLineEdit, f"new:{name}")
        assert edit.isVisible()
        type_over(edit, text, None)

    dialog.set_known("holds")
    assert not dialog.findChild(QLineEdit, "new:height").isVisible()
    type_in("thing_length", "30")
    made = dialog.job
    assert made is not None
    found = plan(made)
    # Eight blocks of 30 × 24, two by four the least run of wall, with 2 mm of play in all (common practice).
    assert (found.ring.sides[0].inside_mm, found.ring.sides[1].inside_mm) == pytest.approx((62.0, 98.0))
    assert found.buildable
    dialog.set_shape("regular")
    assert dialog.job is not None
    assert plan(dialog.job).buildable
    dialog.set_known("board")
    type_in("board_length", "900")
    assert dialog.job is not None
    assert plan(dialog.job).wrap.spare_mm == pytest.approx(0.0, abs=1e-3)
    dialog.set_shape("rectangle")
    type_in("length", "30")
    type_in("width", "20")
    shape = dialog.job.design.form.shape
    assert isinstance(shape, Rectangle)
    assert shape.length_mm / shape.width_mm == pytest.approx(1.5)
    type_in("height", "500")
    assert dialog.job is None
    dialog.deleteLater()


def contrast(a: QColor, b: QColor) -> float:
    """WCAG 2.2, contrast ratio (success criterion 1.4.3)."""

    def light(colour: QColor) -> float:
        parts = [c / 12.92 if c <= 0.04045 else ((c + 0.055) / 1.055) ** 2.4 for c in colour.getRgbF()[:3]]
        return 0.2126 * parts[0] + 0.7152 * parts[1] + 0.0722 * parts[2]

    low, high = sorted((light(a), light(b)))
    return (high + 0.05) / (low + 0.05)


@pytest.mark.parametrize("look", [theme.LIGHT, theme.DARK])
def test_everything_read_has_contrast(look: theme.Theme) -> None:
    for colour in (look.ink, look.quiet, look.decided, look.blade, look.caution):
        for ground in (look.paper, look.window):
            assert contrast(colour, ground) >= 4.5


def test_boxes_to_tick_are_seen_in_the_dark(driver: Driver) -> None:
    """WCAG 2.2, non-text contrast (success criterion 1.4.11): 3 : 1."""
    roles = QPalette.ColorRole
    for choice, least in (("dark", 3.0), ("light", 0.0)):
        driver.window.set_theme(choice)
        driver.window.open_stage("section")
        QTest.qWait(1)
        box = next(b for b in driver.window.view("section").findChildren(QCheckBox) if b.isVisible())
        colours = box.palette()
        assert contrast(colours.color(roles.Base), colours.color(roles.Window)) >= least
        assert contrast(colours.color(roles.Text), colours.color(roles.Base)) >= 3.0


def test_themes_and_decimal_comma_are_kept(driver: Driver) -> None:
    driver.window.action("dark").trigger()
    assert driver.window.theme.dark
    driver.window.action("comma").trigger()
    change(driver, 77.5)
    assert driver.tag(driver.sheet("section"), "form.height_mm").text() == "77,5"
    from peristyle.ui.settings import Settings

    kept = Settings(Path(driver.window._settings._store.fileName()))
    driver.window._settings._store.sync()
    assert (kept.theme, kept.decimal) == ("dark", ",")
    driver.window.action("light").trigger()


def test_every_control_has_a_name(driver: Driver) -> None:
    for stage in ("size", "section", "board", "corners", "saw"):
        driver.window.open_stage(stage)
    kinds = (QLineEdit, QComboBox, QAbstractSpinBox, QAbstractButton, QListWidget)
    nameless = [
        w
        for kind in kinds
        for w in driver.window.findChildren(kind)
        if w.isVisible() and not w.accessibleName() and not getattr(w, "text", str)()
        and not w.objectName().startswith("qt_")
    ]  # fmt: skip
    assert nameless == []


def test_actions_come_from_one_table(driver: Driver) -> None:
    keys = [a.keys for a in ACTIONS if a.keys]
    assert len(keys) == len(set(keys))
    for action in ACTIONS:
        assert callable(getattr(driver.window, action.call.split(":")[0]))
    assert all(key in help_html() for key in keys)


def test_keyboard_goes_round_the_ring(driver: Driver) -> None:
    for _ in range(5):
        driver.window.action("next_side").trigger()
    driver.window.action("front").trigger()
    assert driver.session.job.design.form.front == 0
    driver.window.action("last_side").trigger()
    driver.window.action("front").trigger()
    assert driver.session.job.design.form.front == 3
    driver.window.action("next_corner").trigger()
    driver.window.action("close_here").trigger()
    assert driver.session.job.stock.closing_corner == 0
    assert [p.side for p in driver.session.plan.wrap.pieces] == [1, 2, 3, 0]


def test_saw_list_and_cautions(driver: Driver) -> None:
    driver.window.open_stage("saw")
    view = driver.window.view("saw")
    rows = view.findChild(QListWidget)
    assert rows.count() == len(driver.session.plan.steps)
    for row in range(rows.count()):
        rows.setCurrentRow(row)
        assert view.step is driver.session.plan.steps[row]
        assert view.sheet.drawing.words.startswith(titled(view.step))
        assert "manual" in view._cautions.text()


def test_every_row_of_the_steps_is_as_high_as_its_text(driver: Driver) -> None:
    driver.session.edit("Dividers", revised(driver.session.job, dividers=Dividers(across=2, along=1)))
    driver.window.open_stage("saw")
    rows = driver.window.view("saw").findChild(QListWidget)
    wrap = int(Qt.AlignmentFlag.AlignLeft) | int(Qt.TextFlag.TextWordWrap)
    for wide in range(1180, 1300, 4):
        driver.window.resize(wide, 800)
        QApplication.processEvents()
        ends = None
        for row in range(rows.count()):
            at = rows.visualItemRect(rows.item(row))
            room = QRect(0, 0, at.width() - 2 * 3, 1000)  # Qt's margin at either side of a row's text
            told = rows.fontMetrics().boundingRect(room, wrap, rows.item(row).text())
            assert told.height() <= at.height()
            assert ends is None or at.top() - ends == 2 * rows.spacing()
            ends = at.bottom() + 1


def test_a_hopeless_box_is_shown_with_reasons(driver: Driver) -> None:
    driver.session.edit("Shrink", revised(driver.session.job, shape=Rectangle(5.0, 5.0)))
    for stage in ("size", "section", "board", "corners", "saw"):
        driver.window.open_stage(stage)
        assert not driver.window.grab().isNull()
    assert "cannot be built" in driver.window.stages._buttons["size"].accessibleName()


@pytest.mark.parametrize("thick", ["0.3", "9", "60"])
def test_new_is_sound_for_any_thickness(driver: Driver, thick: str) -> None:
    dialog = NewBox("mm", driver.window.wood, driver.window.theme, driver.window)
    edit = dialog.findChild(QLineEdit, "new:thickness")
    edit.clear()
    QTest.keyClicks(edit, thick)
    assert dialog.job is not None
    assert dialog.job.design.joints.keys is not None
    assert dialog.job.design.joints.keys.depth_mm > 0
    files.decode(files.encode(dialog.job), "new")
    dialog.deleteLater()


def test_an_error_nobody_foresaw_leaves_the_window_and_the_work(
    driver: Driver, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    monkeypatch.setattr(sys, "excepthook", sys.excepthook)
    log = tmp_path / "trouble.txt"
    own_up_to_errors(driver.window, log)
    sheet = driver.sheet("size")
    real = sheet._draw
    sheet._draw = lambda: real().shapes[10_000]  # type: ignore[assignment, return-value]
    before = driver.session.job
    driver.session.edit("Raise it", revised(before, height_mm=before.design.form.height_mm + 10))
    assert "could not be made" in sheet.drawing.words
    assert "IndexError" in log.read_text()
    assert "IndexError" in capsys.readouterr().err
    sheet._draw = real
    driver.session.undo()
    label = driver.session.undo_label
    with monkeypatch.context() as broken:
        broken.setattr("peristyle.ui.session.plan", lambda _design: 1 / 0)
        with pytest.raises(ZeroDivisionError):
            driver.session.edit("Lower it", revised(before, height_mm=before.design.form.height_mm - 10))
    # What cannot be planned is neither shown nor kept: undo and saving know nothing of it.
    assert driver.session.undo_label == label
    assert not driver.session.unsaved
    assert driver.session.job == before
    assert "could not be made" not in sheet.drawing.words


def test_a_picture_that_cannot_grow_is_owned_up_to(qtbot: QtBot, monkeypatch: pytest.MonkeyPatch) -> None:
    def fail(_key: object, _given: object) -> None:
        raise MemoryError("no room for a picture")

    monkeypatch.setattr(wood, "_grown", fail)
    store = wood.WoodStore(rest_ms=0)
    with qtbot.captureExceptions() as told:
        assert store.picture(look_of(Board())) is None
        qtbot.waitUntil(lambda: bool(told), timeout=60_000)
    assert "no room for a picture" in str(told[0][1])
    assert store.picture(look_of(Board())) is None  # plain wood, and the work goes on
    store.close()


def test_boards_nobody_looks_at_any_more_are_forgotten(qtbot, monkeypatch: pytest.MonkeyPatch) -> None:  # type: ignore[no-untyped-def]
    """Thirty boards one after the other: what stands in for them does not grow, and the last ones are there."""
    image = QImage(300, 100, QImage.Format.Format_RGB32)
    monkeypatch.setattr(wood, "_grown", lambda _key, _given: wood.WoodPicture((image,), 1.0, 300.0, 100.0))
    monkeypatch.setattr(wood, "LAST_BYTES", 10 * image.sizeInBytes())
    store = wood.WoodStore(rest_ms=0)
    looks = [look_of(Board(seed=seed)) for seed in range(30)]
    for number, look in enumerate(looks):
        for _ in range(3):  # asked for, rough, fine
            store.picture(look, "face", f"Board {number}")
            QApplication.processEvents()
            store.settle()
    there = [store.picture(look, "face", f"Board {number}") is not None for number, look in enumerate(looks)]
    assert not any(there[:15])
    assert all(there[-10:])
    store.close()


def test_what_fails_in_painting_leaves_the_window(driver: Driver, monkeypatch: pytest.MonkeyPatch) -> None:
    """A painter left open in a paint event ends the program: it is closed, and the trouble said."""
    told: list[BaseException] = []
    monkeypatch.setattr(sys, "excepthook", lambda _kind, error, _trace: told.append(error))

    def fails(_view: object, painter: QPainter) -> None:
        painter.drawLine(0, 0, 5, 5)
        raise ValueError("planted")

    driver.window.open_stage("size")
    for kind in (SolidView, Sheet):
        with monkeypatch.context() as patch:
            patch.setattr(kind, "_paint", fails)
            for view in driver.window.findChildren(kind):
                if view.isVisible():
                    view.repaint()
                    view.grab()
    assert len(told) > 3
    assert {str(error) for error in told} == {"planted"}
    driver.window.grab()
