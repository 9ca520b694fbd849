"""Four things that go wrong, each from the measured value to the box that is made all the same, in the window."""

import os
from pathlib import Path

import pytest

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
pytest.importorskip("PySide6")

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QComboBox, QLineEdit, QPushButton

from gestures import type_over
from peristyle.app import make_window
from peristyle.model import section_edits
from peristyle.model.design import Lid, Liner, Panel, Rectangle
from peristyle.model.job import Job, revised
from peristyle.model.progress import with_done
from peristyle.planning.making.asdone import values_of
from peristyle.planning.plan import plan
from peristyle.ui import theme
from support import fits

BOX = fits.box(Rectangle(240.0, 160.0), bottom=Panel(), top=Panel(), lid=Lid(height_mm=25.0))


class Bench:
    """The window at its Fit stage, and what a hand does there."""

    def __init__(self, job: Job, folder: Path) -> None:
        self.window = make_window(job, config=folder / "c", state=folder / "s")
        self.window.resize(1280, 800)
        self.window.show()
        self.window.activateWindow()
        QApplication.processEvents()
        self.session = self.window.session
        self.window.open_stage("fit")
        self.view = self.window.view("fit")

    def choose(self, name: str, text: str) -> None:
        box = next(b for b in self.view.findChildren(QComboBox) if b.accessibleName() == name)
        box.setFocus()
        for _ in range(box.findText(text) - box.currentIndex()):
            QTest.keyClick(box, Qt.Key.Key_Down)

    def measure(self, name: str, text: str) -> None:
        table = self.view._table
        row = next(n for n, one in enumerate(table._quantities) if one.name == name)
        table.setCurrentCell(row, 2)
        table.setFocus()
        QTest.keyClicks(table, text[0])
        editor = QApplication.focusWidget()
        assert isinstance(editor, QLineEdit)
        QTest.keyClicks(editor, text[1:])
        QTest.keyClick(editor, Qt.Key.Key_Return)
        for _ in range(3):
            QApplication.processEvents()

    def turn_to(self, words: str) -> None:
        bar = self.view._tabs.tabBar()
        names = [self.view._tabs.tabText(n).replace("&", "") for n in range(bar.count())]
        QTest.mouseClick(bar, Qt.MouseButton.LeftButton, pos=bar.tabRect(names.index(words)).center())

    def offered(self) -> list[QPushButton]:
        QApplication.processEvents()
        return [b for b in self.view.findChildren(QPushButton) if b.text() == "Try it"]

    def take(self, words: str) -> None:
        button = next(b for b in self.offered() if words in b.accessibleName())
        QTest.mouseClick(button, Qt.MouseButton.LeftButton)

    def leave(self) -> None:
        self.window.may_leave = lambda: True
        self.window.close()


@pytest.fixture
def bench(qapp, tmp_path: Path):  # type: ignore[no-untyped-def]
    qapp.setFont(theme.load_fonts())
    made: list[Bench] = []

    def at(job: Job) -> Bench:
        made.append(Bench(job, tmp_path))
        return made[-1]

    yield at
    for one in made:
        one.leave()


def test_the_short_piece(bench) -> None:  # type: ignore[no-untyped-def]
    hand = bench(BOX)
    hand.measure("side.B.length_mm", "158.6")
    panel = next(piece for piece in hand.session.plan.pieces if piece.id == "panel.bottom")
    assert panel.width_mm == pytest.approx(143.0 - 1.4)  # its partner and the panels follow at once
    hand.measure("side.D.length_mm", "160")
    assert {f.code for f in hand.session.plan.findings if f.severity == "stop"} == {"ring_misses"}
    hand.turn_to("Ways out")
    hand.take("Cut side D to 158.6")
    assert hand.session.job.design.form.shape.width_mm == pytest.approx(158.6)
    hand.turn_to("Measured")
    hand.measure("side.D.length_mm", "158.6")
    assert hand.session.plan.buildable
    for _ in range(4):
        hand.session.undo()
    assert hand.session.job == BOX


def test_the_lid_that_stands_off(bench) -> None:  # type: ignore[no-untyped-def]
    hand = bench(revised(BOX, liner=Liner(height_mm=60.0)))
    hand.turn_to("Ways out")
    hand.choose("What is wrong", "the lid stands off")
    type_over(hand.view._amount, "1.4")
    hand.take("Let a strip")
    strip = hand.session.job.design.section.strip
    assert strip is not None
    assert strip.height_mm == pytest.approx(1.4)
    assert any(step.operation == "strip_glue" for step in hand.session.plan.steps)
    hand.session.undo()
    assert hand.session.job.design.section.strip is None


def test_the_panel_too_large(bench) -> None:  # type: ignore[no-untyped-def]
    hand = bench(BOX)
    hand.choose("What is measured", "panels")
    hand.measure("panel.bottom.length_mm", "224.2")
    hand.turn_to("Ways out")
    before = len(hand.session.plan.steps)
    hand.take("Trim the bottom by")
    assert len(hand.session.plan.steps) == before + 1
    assert "Trim the bottom" in [own.title for own in hand.session.job.work.own]
    hand.session.undo()
    assert not hand.session.job.work.own


def test_the_change_to_a_gable_half_way(bench) -> None:  # type: ignore[no-untyped-def]
    job = revised(BOX, lid=None, top=None)
    for step in plan(job).steps:
        if step.operation in ("rip", "crosscut") and step.part == "box":
            job = with_done(job, step.id, len(step.pieces), values_of(step))
    hand = bench(job)
    hand.session.edit("A gable", section_edits.with_cover(hand.session.job, "gable"))
    hand.turn_to("Cut already")
    told = hand.view._cut.text()
    assert "serves as it is" in told
    assert "From here:" in told
    kinds = {line.rsplit(": ", 1)[-1] for line in told.splitlines() if "serves" in line or "anew" in line}
    assert kinds
    assert hand.session.plan.buildable
