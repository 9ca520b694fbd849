"""Working on the drawings: sizes typed and stepped, lines dragged, sides picked."""

import sys

import pytest
from msgspec.structs import replace
from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QImage
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QPushButton

from conftest import Driver
from gestures import type_over
from peristyle.drawing.shapes import Pick
from peristyle.model.design import Outline, Rectangle, Regular
from peristyle.model.job import Job, revised
from peristyle.ui.stages import STAGES


def test_a_size_is_typed_on_the_drawing(driver: Driver) -> None:
    tag = driver.tag(driver.sheet("size"), "form.length_mm")
    driver.type(tag, "6 5/8in")
    assert driver.session.job.design.form.shape.length_mm == pytest.approx(168.275)
    assert driver.session.undo_label == "Set length, outside"
    driver.type(tag, "=250+2")
    assert driver.session.job.design.form.shape.length_mm == 252.0
    driver.session.undo()
    driver.session.undo()
    assert driver.session.job.design.form.shape.length_mm == 240.0
    assert tag.text() == "240"


def test_what_cannot_be_read_is_explained_and_the_old_value_kept(driver: Driver, qtbot) -> None:  # type: ignore[no-untyped-def]
    sheet = driver.sheet("size")
    tag = driver.tag(sheet, "form.width_mm")
    with qtbot.waitSignal(driver.session.said) as said:
        driver.type(tag, "6 5/")
    assert "after the slash" in said.args[0]
    assert "stays as it was" in driver.window.statusBar().currentMessage()
    assert driver.session.job.design.form.shape.width_mm == 160.0
    QTest.keyClick(tag, Qt.Key.Key_Escape)
    assert tag.text() == "160"
    with qtbot.waitSignal(driver.session.said) as said:
        driver.type(tag, "0")
    assert "more than 0" in said.args[0]


def test_escape_leaves_and_leaving_takes(driver: Driver) -> None:
    sheet = driver.sheet("size")
    tag, other = driver.tag(sheet, "form.length_mm"), driver.tag(sheet, "form.width_mm")
    driver.type(tag, "300", Qt.Key.Key_Escape)
    assert driver.session.job.design.form.shape.length_mm == 240.0
    type_over(tag, "310", None)
    other.setFocus()
    assert driver.session.job.design.form.shape.length_mm == 310.0


def test_tab_goes_from_size_to_size(driver: Driver) -> None:
    sheet = driver.sheet("section")
    seen = set()
    driver.tag(sheet, "form.height_mm").setFocus()
    for _ in range(len(sheet.drawing.tags)):
        focus = driver.window.focusWidget()
        seen.add(focus.objectName())
        QTest.keyClick(focus, Qt.Key.Key_Tab)
    assert seen == {f"tag:{t.field.id}" for t in sheet.drawing.tags}


def test_arrows_step_and_are_one_thing_to_undo(driver: Driver) -> None:
    tag = driver.tag(driver.sheet("section"), "form.height_mm")
    tag.setFocus()
    for _ in range(3):
        QTest.keyClick(tag, Qt.Key.Key_Up)
    QTest.keyClick(tag, Qt.Key.Key_PageUp)
    assert driver.session.job.design.form.height_mm == 103.0
    driver.session.undo()
    assert driver.session.job.design.form.height_mm == 90.0


def test_steps_in_inches_are_sixteenths(open_window, box: Job) -> None:  # type: ignore[no-untyped-def]
    driver = open_window(revised(box, units="in", height_mm=101.6))
    tag = driver.tag(driver.sheet("section"), "form.height_mm")
    tag.setFocus()
    QTest.keyClick(tag, Qt.Key.Key_Up)
    assert driver.session.job.design.form.height_mm == pytest.approx(101.6 + 25.4 / 16)
    assert tag.text() == "4\u202f¹⁄₁₆"


def test_the_lid_line_is_dragged_and_escape_gives_it_up(driver: Driver) -> None:
    sheet = driver.sheet("section")
    lid = driver.session.plan.section.lid
    assert lid is not None
    at = sheet.px((20.0, lid.line_mm))
    driver.drag(sheet, at, 0, 30)
    dragged = driver.session.job.design.section.lid.height_mm
    assert dragged > 24.0
    assert driver.session.undo_label == "Drag lid height"
    driver.session.undo()
    assert driver.session.job.design.section.lid.height_mm == 24.0
    driver.drag(sheet, sheet.px((20.0, lid.line_mm)), 0, 30, let_go=False)
    assert driver.session.job.design.section.lid.height_mm != 24.0
    QTest.keyClick(sheet, Qt.Key.Key_Escape)
    assert driver.session.job.design.section.lid.height_mm == 24.0
    QTest.mouseRelease(sheet, Qt.MouseButton.LeftButton)
    assert driver.session.redo_label == "Drag lid height"


def test_stages_that_are_not_seen_ask_nothing_of_a_drag(driver: Driver) -> None:
    """Saw and Log tell of every step, which takes the longest to work out: not while something else is dragged."""
    for stage in STAGES:
        driver.window.open_stage(stage.id)
    for stage in STAGES:
        driver.window.open_stage(stage.id)
        driver.session.begin()
        driver.session.preview(revised(driver.session.job, thicknesses_mm=(9.25,)))
        asked = "steps" in vars(driver.session.plan)
        driver.session.cancel()
        assert asked == (stage.id in ("saw", "log")), stage.id
    # What changed meanwhile is told when a stage is opened again.
    view = driver.window.view("saw")
    before = [view._list.item(row).text() for row in range(view._list.count())]
    driver.window.open_stage("size")
    driver.session.edit("Higher", revised(driver.session.job, height_mm=97.0))
    assert [view._list.item(row).text() for row in range(view._list.count())] == before
    driver.window.open_stage("saw")
    assert [view._list.item(row).text() for row in range(view._list.count())] != before


def test_the_strip_is_dragged_along_the_board(driver: Driver) -> None:
    sheet = driver.sheet("board")
    driver.drag(sheet, sheet.px((200.0, 30.0)), 60, 0)
    assert driver.session.job.stock.board.shift_mm > 20
    assert driver.session.selection == Pick("side", 0)
    assert driver.session.plan.wrap.pieces[0].start_mm == 10.0 + driver.session.job.stock.board.shift_mm


def test_a_key_is_dragged_and_all_keep_their_places(driver: Driver) -> None:
    sheet = driver.sheet("corners")
    before = driver.session.plan.keys.heights_mm
    driver.drag(sheet, sheet.px((0.0, before[1])), 0, 14)
    after = driver.session.job.design.joints.keys.positions_mm
    assert after[1] < before[1]
    assert (after[0], after[2]) == (before[0], before[2])


def test_a_wall_is_dragged(driver: Driver) -> None:
    sheet = driver.sheet("size")
    driver.drag(sheet, sheet.px((120.0, 30.0)), 20, 0)
    assert driver.session.job.design.form.shape.length_mm > 245


def test_one_selection_through_all_views(driver: Driver) -> None:
    frieze = driver.window.frieze
    piece = driver.session.plan.wrap.pieces[2]
    QTest.mouseClick(frieze, Qt.MouseButton.LeftButton, pos=frieze.px((540.0, 45.0)).toPoint())
    assert driver.session.selection == Pick("side", piece.side)
    driver.window.open_stage("corners")
    assert driver.window.view("corners").corner == piece.side
    driver.window.open_stage("saw")
    assert f"side.{'ABCD'[piece.side]}" in driver.window.view("saw").step.pieces
    QTest.mouseClick(frieze, Qt.MouseButton.LeftButton, pos=frieze.px((240.0, 60.0)).toPoint())
    assert driver.session.selection == Pick("corner", 0)
    QTest.keyClick(frieze, Qt.Key.Key_Escape)
    assert driver.session.selection is None


def test_a_fix_is_tried_with_a_click_and_undone(open_window, box: Job) -> None:  # type: ignore[no-untyped-def]
    driver = open_window(revised(box, board=replace(box.stock.board, length_mm=700.0)))
    buttons = driver.window.reckoning.findChildren(QPushButton)
    longer = [button for button in buttons if button.text().startswith("Use a board")][-1]
    QTest.mouseClick(longer, Qt.MouseButton.LeftButton)
    assert driver.session.plan.buildable
    driver.session.undo()
    assert not driver.session.plan.buildable


def test_the_solid_turns_by_drag_and_keys(driver: Driver) -> None:
    driver.window.open_stage("size")
    solid = driver.window.view("size").solid
    start = solid.eye
    QTest.keyClick(solid, Qt.Key.Key_Right)
    assert solid.eye.turn_deg == (start.turn_deg + 7.5) % 360
    before = solid.grab().toImage()
    driver.drag(solid, QPointF(100, 200), 80, 20)
    assert solid.eye.tip_deg > start.tip_deg
    assert solid.grab().toImage() != before


def test_the_solid_wears_the_board_as_cut(driver: Driver) -> None:
    """Pixels of the show face move when the strip is moved along the board."""
    window = driver.window
    window.wood.settle()
    window.open_stage("size")
    for _ in range(3):
        QTest.qWait(1)
        window.wood.settle()
    solid = window.view("size").solid
    before = solid.grab().toImage()
    driver.session.edit(
        "Shift", revised(driver.session.job, board=replace(driver.session.job.stock.board, shift_mm=60.0))
    )
    after = solid.grab().toImage()
    assert (
        sum(before.pixel(x, y) != after.pixel(x, y) for x in range(0, 300, 7) for y in range(0, 400, 7)) > 100
    )


@pytest.mark.parametrize("stage", ["size", "section", "board", "corners", "saw"])
@pytest.mark.parametrize(
    "shape",
    [
        Regular(3, 200.0),
        Regular(24, 40.0),
        Rectangle(300.0, 12.0),
        Outline((90.0, 90.0, 90.0), (60.0, 60.0, 70.0)),
    ],
)
def test_every_view_shows_every_box(open_window, box: Job, stage: str, shape: object) -> None:  # type: ignore[no-untyped-def]
    driver = open_window(revised(box, shape=shape, slopes_deg=(5.0,)))
    driver.window.open_stage(stage)
    driver.window.resize(1024, 700)
    image = driver.window.grab().toImage()
    assert isinstance(image, QImage)
    assert len({image.pixel(x, 300) for x in range(170, 900, 3)}) > 1
    words = driver.window.view(stage).sheet.accessibleDescription()
    assert words


def test_painting_does_not_wear_out_none(driver: Driver) -> None:
    """Some Qt bindings lose a reference to None with every call that returns nothing."""
    driver.window.open_stage("size")
    before = sys.getrefcount(None)
    for _ in range(40):
        driver.window.grab()
    assert sys.getrefcount(None) > before - 500
