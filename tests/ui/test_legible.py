"""Every size on every drawing can be read and reached: nothing covers anything, in any window the maker may have."""

from collections.abc import Callable

import pytest
from PySide6.QtCore import QRect, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import (
    QAbstractButton,
    QAbstractScrollArea,
    QAbstractSpinBox,
    QApplication,
    QComboBox,
    QWidget,
)

from conftest import Driver
from peristyle.model.design import Dividers, House, Liner, Outline, Panel, Rectangle, Regular, Thing
from peristyle.model.job import Job, job_of, revised
from peristyle.model.stock import Board
from peristyle.storage import examples
from peristyle.ui import stages as all_stages
from peristyle.ui.session import Pick
from peristyle.ui.widgets.sheet import Sheet
from peristyle.ui.widgets.tag import SizeTag

STAGES = ("size", "section", "board", "corners")
BASE = examples.load(examples.FIRST)
BOXES = {
    "star chart": BASE,
    "caddy": examples.load("Eyepiece caddy"),
    "tray": examples.load("Filter tray"),
    "tickets": examples.load("Ticket box"),
    "inches": revised(BASE, units="in"),
    "house": revised(BASE, shape=House(220.0, 130.0, 33.0, 20.0), keys=None),
    "hexagon": revised(
        BASE,
        shape=Regular(6, 260.0, "across_flats"),
        dividers=Dividers(across=2, along=2),
        liner=Liner(height_mm=40.0),
    ),
    "free": revised(BASE, shape=Outline((200.0, 150.0, None, None), (80.0, 100.0, 95.0, None))),
    "two kinds": revised(
        BASE,
        shape=Rectangle(1.0, 1.0),
        contents=(
            Thing(count=4, length_mm=40.0, width_mm=40.0, height_mm=30.0),
            Thing(count=1, length_mm=90.0, width_mm=65.0, height_mm=18.0),
        ),
    ),
}


def tags_of(sheet: Sheet) -> list[SizeTag]:
    return [tag for tag in sheet.findChildren(SizeTag) if tag.isVisible()]


@pytest.mark.parametrize("size", [(1280, 800), (1024, 700), (1920, 1200)])
@pytest.mark.parametrize("name", sorted(BOXES))
def test_no_size_covers_another(
    open_window: Callable[[Job], Driver], name: str, size: tuple[int, int]
) -> None:
    driver = open_window(BOXES[name])
    driver.window.resize(*size)
    for stage in STAGES:
        sheet = driver.sheet(stage)
        tags = tags_of(sheet)
        assert len(tags) == len(sheet.drawing.tags)
        for number, tag in enumerate(tags):
            spot = tag.geometry()
            assert QRect(sheet.rect()).contains(spot), (stage, tag.accessibleName())
            assert tag.accessibleName()
            for other in tags[:number]:
                assert not spot.intersects(other.geometry()), (
                    stage, tag.accessibleName(), other.accessibleName(),
                )  # fmt: skip


@pytest.mark.parametrize("name", ["star chart", "caddy", "hexagon"])
def test_every_size_is_reached_and_stepped_by_keyboard(
    open_window: Callable[[Job], Driver], name: str
) -> None:
    driver = open_window(BOXES[name])
    for stage in STAGES:
        for tag in tags_of(driver.sheet(stage)):
            tag.setFocus()
            assert tag.hasFocus(), (stage, tag.accessibleName())
            before = driver.session.job
            assert tag.text().strip(), (stage, tag.accessibleName())
            driver.type(tag, "nonsense")
            assert driver.session.job == before
            tag.setFocus()
            for key in (Qt.Key.Key_Up, Qt.Key.Key_Down):  # one of them, where the value is at its limit
                QTest.keyClick(tag, key)
                if driver.session.job != before:
                    break
            assert driver.session.job != before, (stage, tag.accessibleName())
            driver.session.undo()
            assert driver.session.job == before


def _cut_off(view: QWidget) -> list[str]:
    """Controls that reach out of what they lie in; what a small window scrolls to is not cut off."""
    found = []
    for control in view.findChildren(QWidget):
        inner: QWidget | None = control
        if not isinstance(control, QAbstractButton | QComboBox | QAbstractSpinBox) or not control.isVisible():
            continue
        while inner is not None and inner is not view:
            outer = inner.parentWidget()
            if outer is None or isinstance(outer.parentWidget(), QAbstractScrollArea):
                break
            if not outer.rect().adjusted(-1, -1, 1, 1).contains(inner.geometry()):
                found.append(control.accessibleName() or control.objectName())
                break
            inner = outer
    return found


def test_no_control_is_cut_off_in_a_small_window_whatever_box_was_open_before(
    open_window: Callable[[Job], Driver],
) -> None:
    driver = open_window(examples.load("Lamp boxes"))
    driver.window.resize(1024, 700)
    for name in ("Lamp boxes", "Log-book coffer", "Weights case", "Key house"):
        driver.session.start(examples.load(name))
        for stage in all_stages.STAGES:
            driver.window.open_stage(stage.id)
            for _ in range(3):
                QApplication.processEvents()
            assert not _cut_off(driver.window.view(stage.id)), (name, stage.id)


def test_no_control_is_cut_off_at_any_step(open_window: Callable[[Job], Driver]) -> None:
    """What a step is done with stands in a row that breaks, and a step with much to say leaves it little room."""
    house = House(170.0, 110.0, 35.0, overhang_mm=12.0, eaves="plumb")
    board = Board(length_mm=660.0, width_mm=250.0, thickness_mm=9.0)
    job = job_of(shape=house, height_mm=240.0, thicknesses_mm=(9.0,), bottom=Panel(), board=board)
    driver = open_window(job)
    driver.window.resize(1280, 800)
    driver.window.open_stage("saw")
    steps = driver.session.plan.steps
    glue = next(number for number, step in enumerate(steps) if step.operation == "glue")
    for number in (glue, *range(len(steps))):
        QTest.qWait(30)
        driver.session.select(Pick("step", number))
        for _ in range(3):
            QApplication.processEvents()
        assert not _cut_off(driver.window.view("saw")), steps[number].id
