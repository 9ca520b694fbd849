"""A batch by hand: jobs, how many, boards, allocated, stopped, saved, printed, a board cut."""

from pathlib import Path

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QPushButton, QSpinBox, QWidget

from peristyle.model.stock import Board
from peristyle.storage import batch as kept
from peristyle.storage import examples, files
from peristyle.ui.batchbox import Batchbox

BOARDS = (
    Board(name="Long", length_mm=1400.0, width_mm=140.0, thickness_mm=14.0, price=18.0),
    Board(name="Long", length_mm=800.0, width_mm=80.0, thickness_mm=14.0, price=9.0),
)


@pytest.fixture
def box(driver, tmp_path):  # type: ignore[no-untyped-def]
    put: list[Board] = []
    window = driver.window
    made = Batchbox(
        window, window.theme, driver.session.format, BOARDS, lambda boards: not put.extend(boards), 3.0
    )
    made.put = put  # type: ignore[attr-defined]
    made.show()
    files.save(tmp_path / "ticket.peristyle", examples.load("Ticket box"))
    yield made
    made.reject()


def press(box: Batchbox, text: str) -> None:
    button = next(one for one in box.findChildren(QPushButton) if one.text() == text)
    QTest.mouseClick(button, Qt.MouseButton.LeftButton)


def test_a_batch_is_allocated_by_hand(box, qtbot, tmp_path: Path) -> None:  # type: ignore[no-untyped-def]
    press(box, "Allocate")
    assert not box.busy  # nothing to allocate yet
    box.add_job(tmp_path / "none.peristyle")
    assert "no file" in box._said.text()
    box.add_job(tmp_path / "ticket.peristyle")
    press(box, "Boards of my rack")
    assert [board.name for board in box.batch.boards] == ["Long", "Long 2"]
    spin = box.findChild(QSpinBox)
    QTest.mouseDClick(spin.lineEdit(), Qt.MouseButton.LeftButton)  # a double click marks the number
    QTest.keyClicks(spin, "3")
    assert box.batch.jobs[0].count == 3
    press(box, "Allocate")
    qtbot.waitUntil(lambda: not box.busy, timeout=60_000)
    assert "3 of 3 boxes placed" in box._said.text()
    maps = [one for one in box._maps.findChildren(QWidget) if one.accessibleName() == "Cutting map"]
    assert len(maps) == len(box.found.boards)
    box.save(tmp_path / "three.batch")
    assert kept.load(tmp_path / "three.batch").batch.jobs[0].file == "ticket.peristyle"
    box.print_to(tmp_path / "maps.pdf")
    assert (tmp_path / "maps.pdf").read_bytes().startswith(b"%PDF")
    used = box.found.boards[0]
    box._boards.setCurrentRow(used)
    press(box, "This board is cut")
    if len(box.batch.boards) == 1:  # no box had sides on the other board too
        assert box.batch.jobs[0].count < 3
        assert box.put
    box.open_path(tmp_path / "three.batch")
    assert box.batch.jobs[0].count == 3
    (tmp_path / "bad.batch").write_text("nothing")
    box.open_path(tmp_path / "bad.batch")
    assert "no batch" in box._said.text()
    assert box.batch.jobs[0].count == 3


def test_a_search_is_stopped_by_hand(box, qtbot, tmp_path: Path) -> None:  # type: ignore[no-untyped-def]
    box._seconds = 60.0
    box.add_job(tmp_path / "ticket.peristyle", 40)
    box.add_boards(tuple(Board(name=f"B {n}", length_mm=700.0 + 97 * n, width_mm=70.0 + 13 * (n % 5), thickness_mm=14.0,
                               price=5.0 + n % 7) for n in range(14)))  # fmt: skip
    press(box, "Allocate")
    qtbot.waitUntil(lambda: box.found is not None, timeout=60_000)  # a plan is there at once
    if box.busy:
        press(box, "Stop")
    qtbot.waitUntil(lambda: not box.busy, timeout=60_000)
    assert box.found.boxes
