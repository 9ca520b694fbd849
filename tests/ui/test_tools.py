"""The maker's tools and order of work, by hand: the dialog, a tool chosen at its step, steps moved."""

from pathlib import Path

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QComboBox, QDialogButtonBox, QLineEdit, QPushButton

from gestures import type_over
from peristyle.commands import steps as steps_command
from peristyle.model import progress
from peristyle.model.job import revised
from peristyle.planning.making.step import Step
from peristyle.storage import files, toolbox
from peristyle.ui.toolbox import Toolbox
from support import hung_boxes


def pick(driver, operation: str) -> Step:  # type: ignore[no-untyped-def]
    """A click on a step's row."""
    driver.window.open_stage("saw")
    view = driver.window.view("saw")
    row = next(n for n, step in enumerate(driver.session.plan.steps) if step.operation == operation)
    view._list.setCurrentRow(row)
    return driver.session.plan.steps[row]


def choose(driver, name: str) -> QComboBox:  # type: ignore[no-untyped-def]
    """A tool chosen for the step shown."""
    view = driver.window.view("saw")
    box = next(b for b in view.findChildren(QComboBox) if b.accessibleName() == "Done with")
    box.setCurrentIndex(box.findData(name))
    box.activated.emit(box.currentIndex())
    return box


def press(driver, words: str) -> None:  # type: ignore[no-untyped-def]
    view = driver.window.view("saw")
    button = next(b for b in view.findChildren(QPushButton) if b.text() == words)
    QTest.mouseClick(button, Qt.MouseButton.LeftButton)


def test_a_bit_is_added_typed_and_kept(driver, monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> None:  # type: ignore[no-untyped-def]
    def by_hand(box: Toolbox) -> int:
        box.show()
        menu = next(b for b in box.findChildren(QPushButton) if b.menu()).menu()
        next(a for a in menu.actions() if a.text() == "Router bit").trigger()
        lines = {line.accessibleName(): line for line in box.findChildren(QLineEdit)}
        type_over(lines["Name"], "Slim bit", Qt.Key.Key_Return)
        type_over(lines["Width"], "no", None)
        box.findChild(QDialogButtonBox).button(QDialogButtonBox.StandardButton.Ok).click()
        assert box.result() == 0  # what cannot be read keeps the dialog open
        assert box._wrong.text()
        for key in (Qt.Key.Key_Backspace, Qt.Key.Key_Backspace):
            QTest.keyClick(lines["Width"], key)
        QTest.keyClicks(lines["Width"], "3.5")
        box.findChild(QDialogButtonBox).button(QDialogButtonBox.StandardButton.Ok).click()
        return box.result()

    monkeypatch.setattr(Toolbox, "exec", by_hand)
    driver.window.action("tools").trigger()
    tools = driver.session.job.shop.tools
    assert (tools[-1].name, tools[-1].width_mm) == ("Slim bit", 3.5)
    kept = toolbox.load(tmp_path / "config")
    assert kept is not None
    assert kept.tools == tools
    driver.window.undo()
    assert len(driver.session.job.shop.tools) == len(tools) - 1
    # A box with other tools than the maker's own says so when it is opened.
    files.save(tmp_path / "other.peristyle", driver.session.job)
    assert driver.window.open_path(tmp_path / "other.peristyle")
    assert "other tools than your own" in driver.window.statusBar().currentMessage()
    # What is changed in such a box leaves the maker's own alone.
    monkeypatch.setattr(Toolbox, "exec", lambda box: 1)
    driver.window.action("tools").trigger()
    assert toolbox.load(tmp_path / "config") == kept


def test_a_wood_of_the_makers_own_is_kept(driver, monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> None:  # type: ignore[no-untyped-def]
    def add(box: Toolbox) -> int:
        box.show()
        menu = next(b for b in box.findChildren(QPushButton) if b.menu()).menu()
        next(a for a in menu.actions() if "wood" in a.text()).trigger()
        lines = {line.accessibleName(): line for line in box.findChildren(QLineEdit)}
        type_over(lines["Name"], "pear", Qt.Key.Key_Return)
        lines = {line.accessibleName(): line for line in box.findChildren(QLineEdit)}
        across = next(line for name, line in lines.items() if name.startswith("Tangential"))
        type_over(across, "0.0033", Qt.Key.Key_Return)
        box.findChild(QDialogButtonBox).button(QDialogButtonBox.StandardButton.Ok).click()
        return box.result()

    monkeypatch.setattr(Toolbox, "exec", add)
    driver.window.action("tools").trigger()
    (own,) = driver.session.job.shop.species
    assert (own.name, own.tangential) == ("pear", 0.0033)
    # Another box with the same tools offers it too, and a wood taken out stays out.
    driver.window.undo()
    assert driver.session.job.shop.species == ()

    def take_out(box: Toolbox) -> int:
        box.show()
        row = next(n for n in range(box._list.count()) if box._list.item(n).text().startswith("pear"))
        box._list.setCurrentRow(row)
        next(b for b in box.findChildren(QPushButton) if b.text() == "Take it out").click()
        box.findChild(QDialogButtonBox).button(QDialogButtonBox.StandardButton.Ok).click()
        return box.result()

    monkeypatch.setattr(Toolbox, "exec", take_out)
    driver.window.action("tools").trigger()
    kept = toolbox.load(tmp_path / "config")
    assert kept is not None
    assert kept.species == ()


def test_the_tool_of_a_step_drives_its_numbers(driver) -> None:  # type: ignore[no-untyped-def]
    before = pick(driver, "groove")
    assert len(before.values("fence")) > 1
    choose(driver, "Straight bit 4")
    step = pick(driver, "groove")
    assert (step.tool, step.tool_name, step.cut_mm) == ("router_table", "Straight bit 4", 4.0)
    assert len(step.values("fence")) < len(before.values("fence")) or step.cut_mm > before.cut_mm
    choose(driver, "Dado set")  # too wide: refused, and said
    assert driver.session.job.shop.uses.groove == "Straight bit 4"
    assert "cannot" in driver.window.statusBar().currentMessage()


def test_steps_move_as_far_as_what_comes_before_allows(driver) -> None:  # type: ignore[no-untyped-def]
    first = pick(driver, "groove")
    press(driver, "Earlier")
    press(driver, "Earlier")
    assert "comes after" in driver.window.statusBar().currentMessage()
    step = pick(driver, "dry_fit")
    driver.window.view("saw").findChildren(QPushButton)
    order = [one.id for one in driver.session.plan.steps]
    driver.window.view("saw").order.leave_out()
    assert step.id not in [one.id for one in driver.session.plan.steps]
    driver.window.undo()
    assert [one.id for one in driver.session.plan.steps] == order
    assert first.id in order


def test_what_was_done_otherwise_is_said(driver) -> None:  # type: ignore[no-untyped-def]
    step = pick(driver, "rip")
    driver.session.change("Done", lambda job: progress.with_done(job, step.id, 1, (step.amount("width"),)))
    driver.session.change("Higher", lambda job: revised(job, height_mm=job.design.form.height_mm + 10))
    pick(driver, "rip")
    assert "the plan has changed since" in driver.window.view("saw")._how.text()


def test_the_command_moves_and_refuses(driver, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:  # type: ignore[no-untyped-def]
    path = tmp_path / "box.peristyle"
    files.save(path, driver.session.job)
    assert steps_command.run([str(path), "--own", "Sharpen", "--before", "box.glue"]) == 0
    told = capsys.readouterr().out
    assert told.index("Sharpen") < told.index("Glue up   [")
    with pytest.raises(Exception, match="comes after"):
        steps_command.run([str(path), "--move", "box.glue", "--before", "box.trim"])
    with pytest.raises(Exception, match="cannot be left out"):
        steps_command.run([str(path), "--leave-out", "box.glue"])


def test_a_boxes_hinges_are_kept_and_taken_for_another(
    driver,  # type: ignore[no-untyped-def]
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    """In the dialog *the hinges of this box*, named; then chosen in the Section of a box that has none."""
    driver.session.start(revised(hung_boxes.BOX, hinges=hung_boxes.QUADRANTS))

    def by_hand(box: Toolbox) -> int:
        box.show()
        menu = next(b for b in box.findChildren(QPushButton) if b.menu()).menu()
        next(a for a in menu.actions() if a.text() == "the hinges of this box").trigger()
        lines = {line.accessibleName(): line for line in box.findChildren(QLineEdit)}
        type_over(lines["Name"], "Brass 32", Qt.Key.Key_Return)
        box.findChild(QDialogButtonBox).button(QDialogButtonBox.StandardButton.Ok).click()
        return box.result()

    monkeypatch.setattr(Toolbox, "exec", by_hand)
    driver.window.tools()
    driver.session.edit("Leave out the hinges", revised(driver.session.job, hinges=None))
    driver.window.open_stage("section")
    driver.choose("section", "Hinges", "Brass 32")
    assert driver.session.job.design.section.hinges == hung_boxes.QUADRANTS
    for _ in range(4):  # down the list one by one
        driver.session.undo()
    assert driver.session.job.design.section.hinges is None
