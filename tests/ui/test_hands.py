"""What a hand does in the window: click and type, undo from within a field, leave with a size half typed, drag, turn
the wheel. Nothing typed is lost, and nothing is changed that was not meant.
"""

import os
from pathlib import Path

import pytest
from msgspec.structs import replace
from PySide6.QtCore import QEvent, QPoint, QPointF, Qt
from PySide6.QtGui import QWheelEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import (
    QApplication,
    QComboBox,
    QFileDialog,
    QLabel,
    QMessageBox,
    QPushButton,
    QSlider,
    QWidget,
)

from conftest import Driver
from gestures import click, type_over
from peristyle.drawing.solid import Solid
from peristyle.model.design import Dividers, Liner, Outline, Rectangle, Regular, Thing
from peristyle.model.job import revised
from peristyle.model.stock import Board
from peristyle.storage import codec, examples, files
from peristyle.storage.recovery import RecoveryCopy, orphans
from peristyle.ui.actions import ACTIONS
from peristyle.ui.newbox import NewBox
from peristyle.ui.widgets.inputs import AngleBox, CountBox
from peristyle.ui.widgets.solid import SolidView
from peristyle.ui.widgets.tag import SizeTag
from support.telling import told

Buttons = QMessageBox.StandardButton
CTRL = Qt.KeyboardModifier.ControlModifier


def spin(view: QWidget, name: str) -> CountBox:
    return next(box for box in view.findChildren(CountBox) if box.accessibleName() == name)


def length_mm(driver: Driver) -> float:
    shape = driver.session.job.design.form.shape
    assert isinstance(shape, Rectangle)
    return shape.length_mm


# --- typing


def test_one_click_selects_a_second_places_the_cursor(driver: Driver) -> None:
    tag = driver.tag(driver.sheet("size"), "form.length_mm")
    click(tag)
    assert tag.selectedText() == "240"
    QTest.keyClicks(tag, "12")
    assert tag.text() == "12"
    QTest.keyClick(tag, Qt.Key.Key_Return)
    assert length_mm(driver) == 12.0
    QTest.mouseClick(tag, Qt.MouseButton.LeftButton, pos=QPoint(tag.width() - 6, tag.height() // 2))
    assert not tag.hasSelectedText()
    box = spin(driver.window.view("size"), "Sides")
    click(box.lineEdit())
    QTest.keyClicks(box.lineEdit(), "7")
    QTest.keyClick(box, Qt.Key.Key_Return)
    assert driver.session.job.design.side_count == 7


@pytest.mark.parametrize("key", [Qt.Key.Key_Z, Qt.Key.Key_Right])
def test_keys_for_the_box_act_on_it_from_within_a_field(driver: Driver, key: Qt.Key) -> None:
    sheet = driver.sheet("size")
    tag = driver.tag(sheet, "form.length_mm")
    type_over(tag, "300")
    before = driver.session.job
    type_over(tag, "77", None)
    QTest.keyClick(tag, key, CTRL)
    if key == Qt.Key.Key_Z:
        assert length_mm(driver) == 240.0
        QTest.keyClick(tag, Qt.Key.Key_Z, CTRL | Qt.KeyboardModifier.ShiftModifier)
        assert driver.session.job == before
    else:
        assert driver.session.selection is not None
    # What was half typed is put back, and leaving makes no edit.
    assert tag.text() == "300"
    driver.tag(sheet, "form.width_mm").setFocus()
    assert driver.session.job == before
    box = spin(driver.window.view("size"), "Sides")
    click(box.lineEdit())
    QTest.keyClick(box, Qt.Key.Key_Up)
    assert driver.session.job.design.side_count == 5
    QTest.keyClick(box, Qt.Key.Key_Z, CTRL)
    assert driver.session.job == before


def test_a_size_half_typed_is_taken_before_leaving(
    driver: Driver, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, answers: list[object]
) -> None:
    window, path = driver.window, tmp_path / "a.peristyle"
    window.save_to(path)
    tag = driver.tag(driver.sheet("size"), "form.length_mm")
    type_over(tag, "301", None)
    QTest.keyClick(tag, Qt.Key.Key_S, CTRL)
    assert files.load(path).job.design.form.shape.length_mm == 301.0  # type: ignore[union-attr]
    type_over(tag, "302", None)
    window.open_stage("section")
    assert length_mm(driver) == 302.0
    window.open_stage("size")
    type_over(tag, "303", None)
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_a: (str(tmp_path / "list"), ""))
    window.action("cut_list").trigger()
    assert "303.00" in (tmp_path / "list.csv").read_text()
    type_over(spin(window.view("size"), "Sides").lineEdit(), "6", None)
    answers.append(Buttons.Cancel)
    window.open_example("Filter tray")
    assert driver.session.job.design.side_count == 6


def test_what_cannot_be_read_is_said_and_stops_the_leaving(driver: Driver, tmp_path: Path) -> None:
    window = driver.window
    window.save_to(tmp_path / "a.peristyle")
    saved = (tmp_path / "a.peristyle").read_bytes()
    tag = driver.tag(driver.sheet("size"), "form.length_mm")
    said: list[str] = []
    driver.session.said.connect(said.append)
    type_over(tag, "12 parsecs", None)
    QTest.mouseClick(window.stages._buttons["section"], Qt.MouseButton.LeftButton)
    assert window._stage == "size"
    assert window.stages._buttons["size"].isChecked()
    assert "parsecs" in said[-1]
    assert not window.save()
    assert not window.may_leave()
    assert (tmp_path / "a.peristyle").read_bytes() == saved
    assert tag.text() == "12 parsecs"
    QTest.keyClick(tag, Qt.Key.Key_Escape)
    window.open_stage("section")
    assert window._stage == "section"


def test_losing_the_window_keeps_what_is_half_typed(driver: Driver) -> None:
    tag = driver.tag(driver.sheet("size"), "form.length_mm")
    type_over(tag, "1", None)
    other = QWidget()
    other.show()
    other.activateWindow()
    QApplication.processEvents()
    assert length_mm(driver) == 240.0
    other.close()
    driver.window.activateWindow()
    QApplication.processEvents()
    QTest.keyClicks(tag, "2")
    QTest.keyClick(tag, Qt.Key.Key_Return)
    assert length_mm(driver) == 12.0


def test_two_different_sizes_are_two_undos(driver: Driver) -> None:
    things = tuple(Thing(name=name, length_mm=30, width_mm=20, height_mm=20) for name in ("one", "two"))
    driver.session.edit("Hold two kinds", revised(driver.session.job, contents=things))
    from peristyle.model import fields

    for kind in (0, 1):
        for _ in range(3):
            driver.session.step_field(fields.thing_fields(kind)["length_mm"], 1)
    driver.session.undo()
    assert [thing.length_mm for thing in driver.session.job.design.inside.contents] == [33.0, 30.0]
    driver.session.undo()
    assert driver.session.job.design.inside.contents == things


@pytest.mark.parametrize(
    ("text", "angles"),
    [
        ("22,5", (22.5,)),
        ("22,5; 30", (22.5, 30.0)),
        ("22.5,30", (22.5, 30.0)),
        ("15 22,5 30", (15.0, 22.5, 30.0)),
    ],
)
def test_one_reader_for_lists_and_both_marks(driver: Driver, text: str, angles: tuple[float, ...]) -> None:
    driver.window.open_stage("saw")
    view = driver.window.view("saw")
    driver.session.change(
        "Bit", lambda d: revised(d, saw=replace(d.shop.saw, kind="chamfer_bit", stops_deg=(45.0,)))
    )
    gives = next(w for w in view.findChildren(QWidget) if w.accessibleName() == "Gives")
    type_over(gives, text)
    assert driver.session.job.shop.saw.stops_deg == angles


def test_angles_in_spin_boxes_read_and_show_both_marks(driver: Driver) -> None:
    driver.window.open_stage("saw")
    stop = driver.window.view("saw").findChildren(AngleBox)[0]
    type_over(stop.lineEdit(), "46,5")
    QTest.keyClick(stop, Qt.Key.Key_Return)
    assert driver.session.job.shop.saw.stop_deg == 46.5
    driver.window.toggle_comma()
    assert stop.lineEdit().text() == "46,5°"
    type_over(stop.lineEdit(), "far", None)
    QTest.keyClick(stop, Qt.Key.Key_Return)
    assert driver.session.job.shop.saw.stop_deg == 46.5
    stop.put_back()
    driver.window.toggle_comma()


# --- dragging, the wheel


def held(driver: Driver) -> tuple[QWidget, QPoint]:
    """The length's wall taken hold of and moved."""
    sheet = driver.sheet("size")
    area = sheet.drawing.handles[0].area
    xs, ys = [p[0] for p in area], [p[1] for p in area]
    at = sheet.px(((min(xs) + max(xs)) / 2, (min(ys) + max(ys)) / 2)).toPoint()
    QTest.mousePress(sheet, Qt.MouseButton.LeftButton, pos=at)
    for step in (10, 20, 30):
        QTest.mouseMove(sheet, at + QPoint(step, 0))
    assert driver.session.dragging
    return sheet, at + QPoint(30, 0)


@pytest.mark.parametrize("how", [QEvent.Type.WindowDeactivate, QEvent.Type.Hide])
def test_losing_the_window_gives_a_drag_up(driver: Driver, how: QEvent.Type) -> None:
    sheet, at = held(driver)
    QApplication.sendEvent(sheet, QEvent(how))
    assert not driver.session.dragging
    assert length_mm(driver) == 240.0
    QTest.mouseMove(sheet, at + QPoint(40, 0))
    QTest.mouseRelease(sheet, Qt.MouseButton.LeftButton, pos=at)
    assert length_mm(driver) == 240.0


def test_a_button_that_came_up_elsewhere_ends_the_drag(driver: Driver) -> None:
    sheet, at = held(driver)
    moved = length_mm(driver)
    assert moved > 240.0
    QApplication.sendEvent(sheet, _move(at + QPoint(60, 0)))  # no button is down any more
    assert not driver.session.dragging
    assert length_mm(driver) == moved
    driver.session.undo()
    assert length_mm(driver) == 240.0


def _move(at: QPoint):  # type: ignore[no-untyped-def]
    from PySide6.QtGui import QMouseEvent

    none = Qt.MouseButton.NoButton
    return QMouseEvent(
        QEvent.Type.MouseMove, QPointF(at), QPointF(at), none, none, Qt.KeyboardModifier.NoModifier
    )


def test_the_wheel_changes_nothing_that_has_not_the_focus(driver: Driver) -> None:
    before = driver.session.job
    for stage in ("size", "board", "corners", "saw"):
        driver.window.open_stage(stage)
        view = driver.window.view(stage)
        driver.window.frieze.setFocus()
        for box in [
            *view.findChildren(QComboBox),
            *view.findChildren(CountBox),
            *view.findChildren(AngleBox),
        ]:
            for turn in (-120, 120):
                at = QPointF(box.rect().center())
                wheel = QWheelEvent(
                    at, at, QPoint(), QPoint(0, turn), Qt.MouseButton.NoButton, Qt.KeyboardModifier.NoModifier,
                    Qt.ScrollPhase.NoScrollPhase, False,
                )  # fmt: skip
                QApplication.sendEvent(box, wheel)
    assert driver.session.job == before


# --- files from the window


def test_the_ending_is_added_and_asked_about(
    driver: Driver, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, answers: list[object]
) -> None:
    two = tmp_path / "two.peristyle"
    files.save(two, examples.load("Filter tray"))
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_a: (str(tmp_path / "two"), ""))
    answers.append(Buttons.Cancel)
    assert not driver.window.save_as()
    assert files.load(two).job.design.name == "Filter tray"
    answers.append(Buttons.Yes)
    assert driver.window.save_as()
    assert files.load(two).job.design.name == "Trial box"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_a: (str(tmp_path / "Tray 6.5 in"), ""))
    assert driver.window.save_as()
    assert (tmp_path / "Tray 6.5 in.peristyle").exists()
    # An export over the design it comes from is refused.
    monkeypatch.setattr(
        QFileDialog, "getSaveFileName", lambda *_a: (str(tmp_path / "Tray 6.5 in.peristyle"), "")
    )
    answers.append(Buttons.Ok)
    driver.window.export_to(tmp_path / "Tray 6.5 in.peristyle", lambda: driver.window.bytes_of("cut_list"))
    assert files.load(tmp_path / "Tray 6.5 in.peristyle").job.design.name == "Trial box"
    assert not answers


def test_what_is_protected_or_no_file_is_not_written_unasked(
    driver: Driver, tmp_path: Path, answers: list[object]
) -> None:
    path = tmp_path / "a.peristyle"
    driver.window.save_to(path)
    path.chmod(0o444)
    driver.session.edit("Raise", revised(driver.session.job, height_mm=95.0))
    answers.append("Cancel")
    assert not driver.window.save()
    answers.append("Save over it")
    assert driver.window.save()
    assert files.load(path).job.design.form.height_mm == 95.0
    path.unlink()
    os.mkfifo(path)
    driver.session.edit("Raise", revised(driver.session.job, height_mm=96.0))
    answers.append(Buttons.Ok)
    assert not driver.window.save()  # and does not hang
    answers.append(Buttons.Ok)
    driver.session._saved = driver.session.job
    assert not driver.window.open_path(path)
    path.unlink()


def test_recovered_work_belongs_to_its_own_file(
    driver: Driver, tmp_path: Path, answers: list[object]
) -> None:
    path = tmp_path / "box.peristyle"
    driver.window.save_to(path)
    lost = RecoveryCopy(tmp_path / "old")
    lost.keep(revised(driver.session.job, height_mm=111.0), path, driver.session.stamp)
    os.close(lost._lock)  # type: ignore[arg-type]  # as a kill lets go of it
    lost._lock = None
    files.save(path, revised(driver.session.job, name="Theirs"))  # changed since
    (found,) = orphans(tmp_path / "old", path)
    assert orphans(tmp_path / "old") == []  # held: no other start takes it
    driver.window.take_up(found)
    assert driver.session.job.design.form.height_mm == 111.0
    assert driver.session.path == path
    assert list((tmp_path / "state" / "recovery").glob("*.json")), "kept anew before the old one went"
    assert not list((tmp_path / "old").glob("*.json"))
    answers.append("Cancel")
    assert not driver.window.save()
    assert files.load(path).job.design.name == "Theirs"
    # A copy can be opened by hand like any file.
    copy = tmp_path / "copy.json"
    copy.write_bytes(codec.encode_copy(codec.Copy(driver.session.job, path, None)))
    assert files.load(copy).job.design.form.height_mm == 111.0
    driver.session.open(copy)
    assert driver.session.path == path


def test_a_window_opens_where_nothing_can_be_kept(
    qapp, tmp_path: Path, box, monkeypatch: pytest.MonkeyPatch
) -> None:  # type: ignore[no-untyped-def]
    from peristyle.app import make_window

    blocked = tmp_path / "file"
    blocked.write_text("in the way")
    window = make_window(box, config=blocked / "config", state=blocked / "state")
    said: list[str] = []
    monkeypatch.setattr(window, "say", said.append)
    window.say_what_cannot_be_kept()
    window.say_what_cannot_be_kept()
    window.session.edit("Raise", revised(box, height_mm=99.0))
    window._keep_copy()
    window._keep_copy()
    assert len(said) == 1
    window.may_leave = lambda: True  # type: ignore[method-assign]
    window.close()
    window.deleteLater()


# --- nothing that cannot be saved


def test_no_edit_makes_what_cannot_be_saved(driver: Driver) -> None:
    session, before = driver.session, driver.session.job
    said: list[str] = []
    session.said.connect(said.append)
    bad = (
        revised(before, board=Board(length_mm=30_000.0)),
        revised(before, name="x" * 121),
        revised(before, name="\ud800"),
        revised(before, height_mm=float("nan")),
        revised(before, front=7),
        revised(before, shape=Regular(400, 100.0)),
    )
    for job in bad:
        assert not session.edit("Try", job)
        session.begin()
        session.preview(job)
        session.commit("Drag")
    assert session.job == before
    assert len(said) == len(bad)
    assert "at most 20000" in said[0]
    codec.decode(codec.encode(session.job), "box")


# --- a new box


def test_sizes_on_the_new_boxs_drawing_count(driver: Driver) -> None:
    dialog = NewBox("mm", driver.window.wood, driver.window.theme, driver.window)
    dialog.show()
    dialog.activateWindow()
    QApplication.processEvents()
    type_over(driver.tag(dialog._sheet, "form.length_mm"), "333")
    assert dialog.isVisible()
    assert dialog.job is not None
    assert dialog.job.design.form.shape.length_mm == 333.0  # type: ignore[union-attr]
    field = dialog._fields["length"]
    assert field.text() == "333"
    type_over(dialog._fields["width"], "99")  # Enter in a field does not close the dialog
    assert dialog.isVisible()
    shape = dialog.job.design.form.shape
    assert (shape.length_mm, shape.width_mm) == (333.0, 99.0)  # type: ignore[union-attr]
    assert "an insert in a lip" in [dialog._what.itemText(i) for i in range(dialog._what.count())]
    dialog.close()
    dialog.deleteLater()


def test_what_is_typed_outlives_a_change_of_units(driver: Driver) -> None:
    dialog = NewBox("mm", driver.window.wood, driver.window.theme, driver.window)
    dialog.show()
    dialog.activateWindow()
    QApplication.processEvents()
    dialog._measure.setFocus()
    QTest.keyClick(dialog._measure, Qt.Key.Key_Down)  # from inside to outside
    for name, text in (("length", "254"), ("height", "114.3")):
        type_over(dialog._fields[name], text, None)
    dialog._units.setFocus()
    QTest.keyClick(dialog._units, Qt.Key.Key_Down)
    assert dialog.units == "in"
    assert dialog._measure.currentData() == "outside"
    assert [
        dialog._fields[name].text().replace("\u202f", " ") for name in ("length", "height", "thickness")
    ] == ["10", "4 ½", "3/8"]
    job = dialog.job
    assert job is not None
    assert job.design.form.height_mm == pytest.approx(114.3)
    # An inch box begins with inch sizes: nothing warns of a key that is wider than the blade by a hair.
    driver.session.start(job)
    assert [f for f in driver.session.plan.findings if f.severity != "note"] == []
    dialog.close()
    dialog.deleteLater()


# --- rings that contradict themselves


def test_a_contradicting_ring_is_mended_by_typing(driver: Driver) -> None:
    shape = Outline((120.0, 80.0, 110.0, 85.0), (90.0,) * 4)
    driver.session.start(revised(driver.session.job, shape=shape))
    sheet = driver.sheet("size")
    assert "does not close" in sheet.drawing.words
    assert {tag.field.id for tag in sheet.drawing.tags} == {
        f"sides.{side}.{name}" for name in ("length_mm", "interior_deg") for side in "ABCD"
    }
    type_over(driver.tag(sheet, "sides.C.length_mm"), "120")
    (finding,) = [f for f in driver.session.plan.findings if f.code == "outline_open"]
    assert "side B at 85\u202fmm" in told(finding)
    assert "side D at 80\u202fmm" in told(finding)
    type_over(driver.tag(sheet, "sides.D.length_mm"), "80")
    assert driver.session.plan.ring.stands


# --- access


def test_mnemonics_are_unique_in_each_menu() -> None:
    seen: set[tuple[str, str]] = {("&File", "r"), ("&File", "e")}  # recent, examples
    for action in ACTIONS:
        if "&" in action.words:
            key = (action.menu, action.words[action.words.index("&") + 1].lower())
            assert key not in seen, action.words
            seen.add(key)


@pytest.mark.parametrize("name", ["[*] & <b>fat</b>", "箱" * 120, "א" * 40])
def test_a_name_is_plain_text_everywhere(driver: Driver, name: str, tmp_path: Path) -> None:
    driver.session.edit("Rename", revised(driver.session.job, name=name, board=Board(length_mm=100.0)))
    assert driver.window.windowTitle().replace("[*][*]", "[*]").startswith(name)
    for label in driver.window.reckoning.findChildren(QLabel):
        if label.wordWrap():
            assert label.textFormat() == Qt.TextFormat.PlainText
    assert driver.window.bytes_of("sheet", "a4").startswith(b"%PDF")
    assert driver.window.save_to(tmp_path / "a.peristyle")


def test_focus_is_seen_and_the_diagram_steps_by_keyboard(driver: Driver) -> None:
    driver.window.open_stage("board")
    driver.window.view("board")._turn_to("1")
    QApplication.processEvents()
    curve = driver.window.view("board").curve  # type: ignore[attr-defined]
    before = curve.grab().toImage()
    curve.setFocus()
    QApplication.processEvents()
    assert curve.grab().toImage() != before
    sizes = []
    for _ in range(3):
        QTest.keyClick(curve, Qt.Key.Key_Right)
        sizes.append(driver.session.job.design.form.shape)
    assert len(set(sizes)) == 3
    driver.session.undo()
    driver.window.open_stage("size")
    solid = driver.window.view("size").solid  # type: ignore[attr-defined]
    plain = solid.grab().toImage()
    solid.setFocus()
    QApplication.processEvents()
    assert solid.grab().toImage() != plain
    assert "4 sides" in solid.accessibleDescription()


def test_a_box_of_many_parts_is_shown_at_once_and_finely_soon(driver: Driver, qtbot) -> None:  # type: ignore[no-untyped-def]
    solid = driver.window.view("size").solid  # type: ignore[attr-defined]
    many = Dividers(across=9, along=8, height_mm=40.0)
    driver.session.edit(
        "Many dividers", revised(driver.session.job, shape=Rectangle(420.0, 300.0), dividers=many)
    )
    QApplication.processEvents()
    resting = solid._resting
    assert resting is not None
    assert not resting.done
    assert len(solid._polygons) > 200  # there already, roughly
    # Wood that comes meanwhile begins it anew.
    qtbot.waitUntil(lambda: solid._resting is not None and solid._resting.done, timeout=60_000)
    QApplication.processEvents()
    resting = solid._resting
    assert solid._polygons is resting.faces.polygons
    # What was painted bit by bit is what is painted at once.
    there = [(face.kind, face.points) for face, _polygon in solid._polygons]
    assert there == [(face.kind, face.points) for face in Solid(driver.session.plan).faces(solid.eye)]
    # A turn begins at once, and what rests afterwards is made anew.
    QTest.keyClick(solid, Qt.Key.Key_Left)
    QApplication.processEvents()
    assert solid._resting is not resting
    assert not solid._resting.done


def test_fixes_are_offered_once_they_have_mended(driver: Driver, qtbot) -> None:  # type: ignore[no-untyped-def]
    hopeless = revised(
        driver.session.job, liner=Liner(height_mm=30.0), dividers=Dividers(across=40, thickness_mm=9.0)
    )
    driver.session.edit("Crowd it", hopeless)
    reckoning = driver.window.reckoning
    qtbot.waitUntil(lambda: not reckoning._trying.isActive() or not reckoning._trials, timeout=60_000)
    cards = [card for card in reckoning._cards if card._finding.code == "compartment_vanishes"]
    assert cards
    shown = [button for button in cards[0]._buttons if button.isVisibleTo(cards[0])]
    assert shown
    shown[0].click()
    assert all(f.code != "compartment_vanishes" for f in driver.session.plan.findings)


def test_the_box_is_pulled_apart_by_slider_and_by_key(driver: Driver) -> None:
    driver.window.open_stage("size")
    view = driver.window.findChild(SolidView)
    slider = view.findChild(QSlider)
    assert slider.accessibleName() == "Pulled apart"
    view.setFocus()
    whole = view.grab().toImage()
    QTest.keyClick(view, Qt.Key.Key_Plus)
    assert slider.value() == 10
    assert not any(tag.isVisible() for tag in view.findChildren(SizeTag))
    assert view.grab().toImage() != whole
    slider.setFocus()
    QTest.keyClick(slider, Qt.Key.Key_End)
    assert slider.value() == 100
    view.setFocus()
    for _ in range(10):
        QTest.keyClick(view, Qt.Key.Key_Minus)
    assert slider.value() == 0
    assert all(tag.isVisible() for tag in view.findChildren(SizeTag))


def test_a_long_button_does_not_push_the_panel_out_of_the_window(driver: Driver, qtbot) -> None:  # type: ignore[no-untyped-def]
    driver.session.change("lean", lambda job: revised(job, slopes_deg=(10.0,)))
    reckoning = driver.window.reckoning
    qtbot.waitUntil(lambda: not reckoning._trying.isActive() or not reckoning._trials, timeout=60_000)
    shown = [one for one in reckoning.findChildren(QPushButton) if one.isVisible()]
    assert any("\n" in one.text() for one in shown)
    assert all("\n" not in one.accessibleName() for one in shown)
    assert reckoning.widget().width() <= reckoning.viewport().width()


def test_what_was_said_of_the_box_goes_with_its_next_change(driver: Driver) -> None:
    driver.window.say("No start keeps clear of all that is marked.")
    driver.session.edit("Change the height", revised(driver.session.job, height_mm=77.0))
    assert driver.window.statusBar().currentMessage() == ""
    driver.window.say("Said after it.")
    driver.session.changed.emit()
    assert driver.window.statusBar().currentMessage() == "Said after it."
