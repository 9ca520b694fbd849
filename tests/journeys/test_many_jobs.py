"""The observatory's commissions together: four of them as a batch from six boards, all on one bench's calendar."""

import datetime as dt
import itertools
import os
import subprocess
from collections.abc import Iterator
from pathlib import Path
from shutil import which

import pytest

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
pytest.importorskip("PySide6")

import shapely
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QCheckBox, QComboBox, QFileDialog, QPushButton, QWidget

from peristyle.app import make_window
from peristyle.model.stock import Board
from peristyle.planning.sled import cut_on_it
from peristyle.planning.time.tasks import clamps_of
from peristyle.storage import files
from peristyle.ui import theme
from peristyle.ui.batchbox import Batchbox
from peristyle.ui.window import Window

JOBS = Path(__file__).parents[1] / "data" / "commissions"
BOARDS = (
    Board(name="Ash 1", length_mm=1600.0, width_mm=160.0, thickness_mm=12.0, price=30.0),
    Board(name="Ash 2", length_mm=1250.0, width_mm=110.0, thickness_mm=12.0, price=20.0),
    Board(name="Walnut", length_mm=1800.0, width_mm=150.0, thickness_mm=14.0, price=40.0),
    Board(name="Offcut", length_mm=780.0, width_mm=105.0, thickness_mm=26.0, price=10.0),
    Board(name="Cherry", length_mm=900.0, width_mm=95.0, thickness_mm=9.5, price=15.0),
    Board(name="Oak", length_mm=2000.0, width_mm=180.0, thickness_mm=13.5, price=35.0),
)


@pytest.fixture
def window(qapp, tmp_path: Path) -> Iterator[Window]:  # type: ignore[no-untyped-def]
    qapp.setFont(theme.load_fonts())
    made = make_window(files.load(JOBS / "9.peristyle").job, config=tmp_path / "c", state=tmp_path / "s")
    made.resize(1280, 800)
    made.show()
    yield made
    made.may_leave = lambda: True  # type: ignore[method-assign]
    made.close()
    made.deleteLater()
    qapp.processEvents()


def press(at: QWidget, words: str) -> None:
    button = next(one for one in at.findChildren(QPushButton) if one.text() == words and one.isVisible())
    QTest.mouseClick(button, Qt.MouseButton.LeftButton)


def test_four_commissions_come_from_a_rack_of_six_boards(
    window: Window, qtbot, monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:  # type: ignore[no-untyped-def]
    wanted = ("2", "6", "7", "9")
    box = Batchbox(window, window.theme, window.session.format, BOARDS, lambda _boards: True, 4.0)
    box.show()
    for name in wanted:
        file = str(JOBS / f"{name}.peristyle")
        monkeypatch.setattr(QFileDialog, "getOpenFileNames", lambda *_a, file=file, **_k: ([file], ""))
        press(box, "Add a job…")
    assert [Path(job.file).stem for job in box.batch.jobs] == list(wanted)
    press(box, "Boards of my rack")
    assert len(box.batch.boards) == len(BOARDS)
    press(box, "Allocate")
    qtbot.waitUntil(lambda: not box.busy, timeout=60_000)
    assert "4 of 4 boxes placed" in box._said.text()
    found = box.found
    assert found is not None
    runs = [run for one in found.boxes for run in one.runs]
    assert {one.job for one in found.boxes} == {0, 1, 2, 3}
    for number in found.boards:
        board = box.batch.boards[number]
        plank = shapely.box(0.0, 0.0, board.length_mm, board.width_mm).buffer(1e-6)
        cut = [shapely.box(r.start_mm, r.low_mm, r.end_mm, r.high_mm) for r in runs if r.board == number]
        assert all(plank.contains(piece) for piece in cut)
        assert all(a.intersection(b).area < 1e-3 for a, b in itertools.combinations(cut, 2))
    box.print_to(tmp_path / "maps.pdf")
    if which("pdftotext"):
        text = subprocess.run(
            ["pdftotext", str(tmp_path / "maps.pdf"), "-"], capture_output=True, text=True, check=True
        )
        assert all(job.design.name in text.stdout for job in box.jobs)
    box.reject()


def test_all_commissions_share_one_bench_and_its_clamps(
    window: Window, qtbot, monkeypatch: pytest.MonkeyPatch
) -> None:  # type: ignore[no-untyped-def]
    others = sorted(str(path) for path in JOBS.glob("*.peristyle") if path.stem != "9")
    window.open_stage("log")
    monkeypatch.setattr(QFileDialog, "getOpenFileNames", lambda *_a, **_k: (others, ""))
    view = window.view("log")
    press(view, "Others…")
    QTest.qWait(50)
    # The tenth of them is the sled that they are cut on: it is made first.
    ticked = next(b for b in view.findChildren(QCheckBox) if b.text() == "Sled" and b.isVisible())
    QTest.mouseClick(ticked, Qt.MouseButton.LeftButton, pos=QPoint(8, ticked.height() // 2))
    QTest.qWait(50)
    assert window.session.job.work.sled
    found, _zone = view._calendar()
    assert found is not None
    assert (
        len({one.task.job.split(",")[0] for one in found.booked}) == 9
    )  # of the lamp boxes three go out first
    own = [one for one in found.booked if one.task.job == window.session.job.design.name]
    tuned = next(one for one in own if one.task.step == "sled_tune")
    bevels = [one for one in own if one.task.step in {step.id for step in cut_on_it(window.session.plan)}]
    assert bevels
    assert all(tuned.ready <= one.starts for one in bevels)
    # One pair of hands, however many boxes: no two sittings at once; and no more clamps held than there are.
    sittings = sorted(sitting for one in found.booked for sitting in one.sittings)
    assert all(a[1] <= b[0] for a, b in itertools.pairwise(sittings))
    most = clamps_of(window.session.job)
    held = [
        (one.ends, one.ends + dt.timedelta(hours=one.task.clamped_h), one.task.clamps) for one in found.booked
    ]
    if most is not None:
        for begins, _ends, _count in held:
            assert sum(count for a, b, count in held if a <= begins < b) <= most
    # In every job what must come before does.
    ready = {one.task.id: one.ready for one in found.booked}
    for one in found.booked:
        assert all(ready[before] <= one.starts for before in one.task.after if before in ready)
    # Its days are more than fit: they are turned to with the keys.
    days = next(b for b in view.findChildren(QComboBox) if b.accessibleName() == "Days" and b.isVisible())
    assert days.count() > 1
    seen = view.sheet.drawing.shapes[0]
    days.setFocus()
    QTest.keyClick(days, Qt.Key.Key_Down)
    assert view.sheet.drawing.shapes[0] != seen  # another day comes first
    monkeypatch.setattr(QFileDialog, "getOpenFileNames", lambda *_a, **_k: ([], ""))
    press(view, "Others…")
    assert len({one.task.job for one in view._calendar()[0].booked}) == 1
