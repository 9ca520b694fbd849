"""At the saw: a few keys, one step at a time, what is done and measured kept in the job."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QPushButton

from peristyle.model import progress
from peristyle.model.design import Panel, Rectangle
from peristyle.model.job import revised
from peristyle.planning.making.asdone import total_of
from peristyle.storage import files
from peristyle.ui.atsaw import AtSaw


@pytest.fixture
def page(driver) -> AtSaw:  # type: ignore[no-untyped-def]
    driver.window.open_stage("saw")
    driver.window.action("at_saw").trigger()
    found = driver.window.findChild(AtSaw)
    assert found is not None
    assert found.isVisible()
    return found


def press(page: AtSaw, *keys: Qt.Key | str) -> None:
    for key in keys:
        if isinstance(key, str):
            QTest.keyClicks(page, key)
        else:
            QTest.keyClick(page, key)


def test_space_is_done_and_page_up_is_back(driver, page: AtSaw) -> None:  # type: ignore[no-untyped-def]
    steps = driver.session.plan.steps
    assert page.step is steps[0]
    press(page, Qt.Key.Key_Space)
    assert progress.done_of(driver.session.job, steps[0].id) == 1
    assert page.step is driver.session.plan.steps[1]
    press(page, Qt.Key.Key_PageUp)
    assert page.step is driver.session.plan.steps[0]
    assert "done" in page._count.text()
    # A step of several pieces is counted.
    row = next(n for n, step in enumerate(steps) if total_of(step) > 1)
    for _ in range(row):
        press(page, Qt.Key.Key_PageDown)
    press(page, Qt.Key.Key_Space)
    assert f"1 of {total_of(steps[row])} done" in page._count.text()
    assert page.step.id == steps[row].id
    driver.session.undo()
    assert progress.done_of(driver.session.job, steps[row].id) == 0


def test_a_box_that_cannot_be_built_says_so_at_the_saw(driver, page: AtSaw) -> None:  # type: ignore[no-untyped-def]
    assert "cannot be built" not in page._count.text()
    driver.session.edit("Too deep", revised(driver.session.job, bottom=Panel(depth_mm=40.0)))
    assert not driver.session.plan.buildable
    assert "cannot be built so" in page._count.text()
    assert "cannot be built so" in page.accessibleDescription()


def test_digits_and_enter_are_measured_and_kept(driver, page: AtSaw, tmp_path) -> None:  # type: ignore[no-untyped-def]
    while page.step.operation != "crosscut":
        press(page, Qt.Key.Key_PageDown)
    piece = page.step.pieces[0]
    assert "planned 240" in page._measured.text()
    press(page, "239.88", Qt.Key.Key_Backspace)
    assert "239.8▏" in page._measured.text()
    press(page, Qt.Key.Key_Return)
    assert progress.measured_of(driver.session.job, f"{piece}.length_mm") == 239.8
    assert "measured 239.8" in page._measured.text()
    press(page, "1/0", Qt.Key.Key_Return)  # no length: said, and still there to be mended
    assert "1/0" in page._measured.text()
    press(page, Qt.Key.Key_Escape)
    press(page, Qt.Key.Key_Space)
    assert driver.window.save_to(tmp_path / "job.peristyle")
    kept = files.load(tmp_path / "job.peristyle").job
    assert (kept.measured, kept.progress) == (driver.session.job.measured, driver.session.job.progress)
    press(page, Qt.Key.Key_Escape)
    assert not page.isVisible()
    # It begins again where the work stands.
    first = next(
        s for s in driver.session.plan.steps if progress.done_of(driver.session.job, s.id) < total_of(s)
    )
    driver.window.action("at_saw").trigger()
    assert page.step.id == first.id


def test_its_place_stays_when_the_design_changes(driver, page: AtSaw) -> None:  # type: ignore[no-untyped-def]
    while page.step.operation != "glue":
        press(page, Qt.Key.Key_PageDown)
    driver.session.edit("Longer", revised(driver.session.job, shape=Rectangle(300.0, 200.0), keys=None))
    assert page.step.operation == "glue"
    driver.session.edit("Shrink", revised(driver.session.job, shape=Rectangle(5.0, 5.0)))
    press(
        page, Qt.Key.Key_Space, Qt.Key.Key_PageDown, "12", Qt.Key.Key_Return
    )  # nothing to do, nothing breaks
    driver.session.undo()
    button = next(b for b in page.findChildren(QPushButton) if b.text() == "Done")
    QTest.mouseClick(button, Qt.MouseButton.LeftButton)
    assert driver.session.job.progress
    assert page.hasFocus()
