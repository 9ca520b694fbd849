"""The Fit stage by hand: values typed row by row, a gauge read, causes told, ways out tried and undone."""

import sys

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QComboBox, QLineEdit, QPushButton

from peristyle.model.design import Outline, Rectangle, Regular, replace
from peristyle.model.progress import with_done
from peristyle.model.stock import Board
from peristyle.planning.plan import plan
from peristyle.ui.stages import STAGES
from support import fits


def open_fit(driver, job):  # type: ignore[no-untyped-def]
    driver.session.start(job)
    driver.window.open_stage("fit")
    return driver.window.view("fit")


def turn_to(view, words: str) -> None:  # type: ignore[no-untyped-def]
    names = [view._tabs.tabText(n).replace("&", "") for n in range(view._tabs.count())]
    bar = view._tabs.tabBar()
    QTest.mouseClick(bar, Qt.MouseButton.LeftButton, pos=bar.tabRect(names.index(words)).center())


def type_value(view, text: str) -> None:  # type: ignore[no-untyped-def]
    """What a hand or a gauge does in the row that waits: digits, then Enter."""
    table = view._table
    table.setFocus()
    QTest.keyClicks(table, text[0])
    editor = QApplication.focusWidget()
    assert isinstance(editor, QLineEdit)
    QTest.keyClicks(editor, text[1:])
    QTest.keyClick(editor, Qt.Key.Key_Return)
    for _ in range(3):  # the line closes, and only then its value is taken
        QApplication.processEvents()


def test_values_typed_one_after_the_other_make_the_plan_follow(driver) -> None:  # type: ignore[no-untyped-def]
    view = open_fit(driver, fits.box(Rectangle(200.0, 120.0)))
    assert view._table.waiting.name == "side.A.length_mm"
    type_value(view, "198.4")
    assert driver.session.job.measured[0].value == 198.4
    assert [round(side.outside_mm, 3) for side in driver.session.plan.ring.sides] == [
        198.4,
        120.0,
        198.4,
        120.0,
    ]
    assert view._table.waiting.name == "side.A.width_mm"  # the next one waits
    type_value(view, "nonsense")
    assert len(driver.session.job.measured) == 1
    assert "width" in view._wrong.text()
    driver.session.undo()
    assert not driver.session.job.measured
    assert driver.session.plan.ring.sides[2].outside_mm == 200.0


def test_a_gauge_fills_what_waits_and_delete_takes_it_back(driver) -> None:  # type: ignore[no-untyped-def]
    view = open_fit(driver, fits.box(Regular(6, 100.0)))
    button = next(b for b in view.findChildren(QPushButton) if b.text() == "Read a &gauge")
    for _ in range(3):
        QTest.mouseClick(button, Qt.MouseButton.LeftButton)
        QApplication.processEvents()
    names = [one.name for one in driver.session.job.measured]
    assert names == ["side.A.length_mm", "side.A.width_mm", "side.A.thickness_mm"]
    view._table.setCurrentCell(0, 2)
    QTest.keyClick(view._table, Qt.Key.Key_Delete)
    assert [one.name for one in driver.session.job.measured] == names[1:]


def test_gaps_tell_their_cause_and_the_ring_shows_them(driver) -> None:  # type: ignore[no-untyped-def]
    view = open_fit(driver, fits.box(Regular(8, 100.0)))
    driver.choose("fit", "What is measured", "gaps")
    for _ in range(8):
        type_value(view, "0")
        type_value(view, "0.12")
    turn_to(view, "Causes")
    assert "The tilt that all starts and ends are cut at" in view._causes.text()
    assert "too large" in view._causes.text()
    turn_to(view, "Chances")
    assert "of boxes close to" in view._chances.text()
    driver.choose("fit", "Closed", "rolled up with tape")
    assert "rolled up with tape" in view._chances.text()


def test_a_short_side_has_ways_out_that_are_tried_and_undone(driver) -> None:  # type: ignore[no-untyped-def]
    view = open_fit(driver, fits.box(Rectangle(200.0, 120.0)))
    type_value(view, "198.4")
    turn_to(view, "Ways out")
    offered = [b for b in view.findChildren(QPushButton) if b.text() == "Try it"]
    assert "side C to 198.4" in offered[0].accessibleName()
    QTest.mouseClick(offered[0], Qt.MouseButton.LeftButton)
    assert driver.session.job.design.form.shape.length_mm == 198.4
    driver.session.undo()
    assert driver.session.job.design.form.shape.length_mm == 200.0
    wrong = next(b for b in view.findChildren(QComboBox) if b.accessibleName() == "What is wrong")
    assert wrong.count() == 16


def test_a_side_made_anew_is_looked_for_along_the_rack_while_the_window_goes_on(driver) -> None:  # type: ignore[no-untyped-def]
    box = fits.box(Rectangle(200.0, 120.0))
    spare = Board(name="spare", length_mm=700.0, width_mm=120.0, thickness_mm=14.0)
    view = open_fit(driver, replace(box, stock=replace(box.stock, rack=(spare,))))
    type_value(view, "198.4")
    turn_to(view, "Ways out")
    last = [b for b in view.findChildren(QPushButton) if b.text() == "Try it"][-1]
    assert "anew" in last.accessibleName()
    QTest.mouseClick(last, Qt.MouseButton.LeftButton)
    assert "stop" in last.text()
    QTest.mouseClick(last, Qt.MouseButton.LeftButton)
    assert not driver.session.job.stock.breaks  # given up
    QTest.mouseClick(last, Qt.MouseButton.LeftButton)
    view._spare.settle()
    QApplication.processEvents()
    assert [one.board for one in driver.session.job.stock.breaks if one.board] == ["spare"]
    assert "Its corners match" in driver.window.statusBar().currentMessage()
    driver.session.undo()
    assert not driver.session.job.stock.breaks


def test_what_is_cut_already_is_held_against_a_changed_design(driver) -> None:  # type: ignore[no-untyped-def]
    job = fits.box(Rectangle(200.0, 120.0))
    view = open_fit(driver, job)
    for step in driver.session.plan.steps:
        if step.operation == "crosscut":
            job = with_done(job, step.id, 1, tuple(s.value for s in step.settings))
    driver.session.start(job)
    driver.session.edit("Smaller", fits.revised_length(driver.session.job, 190.0))
    turn_to(view, "Cut already")
    assert "serves after one more cut (stop 200" in view._cut.text()
    driver.session.edit("Larger", fits.revised_length(driver.session.job, 210.0))
    assert "is made anew (stop 200" in view._cut.text()


def test_what_fails_while_a_stage_is_shown_is_said_and_the_window_goes_on(driver, monkeypatch) -> None:  # type: ignore[no-untyped-def]
    """An error in one of Qt's own calls would end the program: it is told as any other is."""
    view, said = open_fit(driver, fits.box(Rectangle(200.0, 120.0))), []
    driver.window.open_stage("size")
    monkeypatch.setattr(view, "tell", lambda: 1 / 0)
    monkeypatch.setattr(sys, "excepthook", lambda kind, *_rest: said.append(kind))
    driver.window.open_stage("fit")
    assert said == [ZeroDivisionError]
    assert view.isVisible()


def test_a_ring_that_cannot_be_closed_opens_in_every_stage(driver) -> None:  # type: ignore[no-untyped-def]
    """A hopeless outline: no view may fail over it, nor when it becomes hopeless while the view is open."""
    angles = (131.0, 121.0, 128.0, 119.0, 128.0, 126.0, None)
    hopeless = fits.box(Outline((146.0, 93.0, 112.0, 109.0, 89.0, None, None), angles))
    assert not plan(hopeless).ring.stands
    driver.session.start(hopeless)
    for stage in STAGES:
        driver.window.open_stage(stage.id)
    driver.window.open_stage("size")
    driver.session.start(
        fits.box(Outline((100.0, 80.0, 60.0, None, None), (108.0, 110.0, 105.0, None, 110.0)))
    )
    driver.window.open_stage("fit")
    turn_to(driver.window.view("fit"), "Causes")
    driver.session.edit("Worse", hopeless)
    assert "no ring" in driver.window.view("fit")._causes.text()
    driver.session.undo()
    assert "no ring" not in driver.window.view("fit")._causes.text()


def test_no_gauge_is_read_where_there_is_no_ring(driver) -> None:  # type: ignore[no-untyped-def]
    """Of two lengths that cannot close; the button says so, whatever row waits."""
    hopeless = replace(
        fits.box(Rectangle(200.0, 120.0)).design.form, shape=Outline((500.0, 20.0, 20.0), (60.0,) * 3)
    )
    job = fits.box(Rectangle(200.0, 120.0))
    view = open_fit(driver, replace(job, design=replace(job.design, form=hopeless)))
    assert not view.base.ring.sides
    said: list[str] = []
    driver.session.said.connect(said.append)
    button = next(b for b in view.findChildren(QPushButton) if b.text() == "Read a &gauge")
    QTest.mouseClick(button, Qt.MouseButton.LeftButton)
    assert said == ["There is nothing to read: this ring cannot be made."]
