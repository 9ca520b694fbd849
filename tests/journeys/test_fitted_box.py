"""A fitted box from what it holds to its papers: window, file, command line and paper must agree."""

import csv
import io
import json
import os
from pathlib import Path
from shutil import which
from subprocess import run as execute

import pytest

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
pytest.importorskip("PySide6")

from PySide6.QtWidgets import QCheckBox, QComboBox, QLineEdit, QPushButton, QSpinBox, QWidget
from test_commission import put

from gestures import type_over
from peristyle import cli
from peristyle.app import make_window
from peristyle.drawing.shapes import Pick
from peristyle.storage import examples
from peristyle.ui import theme
from peristyle.ui.newbox import NewBox
from peristyle.ui.window import Window
from support.telling import titled, told


def control(view: QWidget, kind: type, name: str):  # type: ignore[no-untyped-def]
    return next(found for found in view.findChildren(kind) if found.accessibleName() == name)


def choose(view: QWidget, name: str, key: str) -> None:
    box = control(view, QComboBox, name)
    box.setCurrentIndex(box.findData(key))
    box.activated.emit(box.currentIndex())


def fitted(window: Window, monkeypatch: pytest.MonkeyPatch) -> None:
    """Twelve blocks in six compartments, a liner, a top glued of segments, a lid sawn free."""

    def answer(dialog: NewBox) -> int:
        dialog.set_known("holds")
        for name, text in (("thing_length", "32"), ("thing_width", "26"), ("thing_height", "30")):
            edit = dialog.findChild(QLineEdit, f"new:{name}")
            type_over(edit, text, None)
        dialog.findChildren(QSpinBox)[1].setValue(12)
        return 1

    monkeypatch.setattr(NewBox, "exec", answer)
    window.new_box()
    size = window.view("size")
    put(size, "inside.contents.1.columns", "3")
    control(size, QSpinBox, "Dividers across").setValue(2)
    control(size, QSpinBox, "along").setValue(1)
    control(size, QCheckBox, "Liner").click()
    window.open_stage("section")
    section = window.view("section")
    choose(section, "Top", "groove")
    choose(section, "Top made of", "pie")
    control(section, QSpinBox, "Top segments").setValue(8)
    choose(section, "Lid", "sawn")
    put(section, "form.height_mm", "85")
    put(section, "section.lid.height_mm", "24")
    put(section, "inside.liner.height_mm", "40")
    window.open_stage("board")
    choose(window.view("board"), "Below", "1")
    control(window.view("board"), QPushButton, "Suit the ring").click()


@pytest.fixture
def window(qapp, tmp_path: Path):  # type: ignore[no-untyped-def]
    qapp.setFont(theme.load_fonts())
    made = make_window(examples.load(examples.FIRST), config=tmp_path / "c", state=tmp_path / "s")
    made.resize(1280, 800)
    made.show()
    yield made
    made.may_leave = lambda: True
    made.close()


def test_a_fitted_box_from_its_blocks_to_paper(
    window: Window, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    fitted(window, monkeypatch)
    session = window.session
    plan = session.plan
    # Three columns of 32 and four rows of 26, each compartment with its own 2 mm (common practice).
    assert plan.dividers.widths_mm == pytest.approx([34.0] * 3)
    assert plan.dividers.depths_mm == pytest.approx([54.0] * 2)
    assert plan.dividers.in_liner
    assert not [told(f) for f in plan.findings if f.severity == "stop"]
    # A block grown in the window moves every wall and the board.
    before = plan.wrap.used_mm
    window.open_stage("size")
    put(window.view("size"), "inside.contents.1.length_mm", "35")
    assert session.plan.wrap.used_mm == pytest.approx(before + 2 * 3 * 3.0)
    session.undo()

    window.open_stage("saw")
    saw = window.view("saw")
    seen = []
    for number in range(len(session.plan.steps)):
        session.select(Pick("step", number))
        assert saw.step is session.plan.steps[number]
        assert saw.sheet.drawing.shapes
        seen.append(saw.step.part)
    assert {"box", "liner", "divider", "segment"} == set(seen)
    assert seen.index("segment") < seen.index("liner") < seen.index("divider")

    path = tmp_path / "fitted.peristyle"
    assert window.save_to(path)
    assert cli.main(["plan", str(path), "--json"]) == 0
    data = json.loads(capsys.readouterr().out)
    assert [d["length_mm"] for d in data["dividers"]] == [p.length_mm for p in session.plan.dividers.pieces]
    assert [c["title"] for c in data["steps"]] == [titled(step) for step in session.plan.steps]
    assert cli.main(["plan", str(path)]) == 0
    told = capsys.readouterr().out
    for said in (
        "Holds 12 blocks of 32 × 26 × 30 mm, 3 × 4",
        "Liner A: ",
        "Divider along 1: ",
        "segment (8): ",
    ):
        assert said in told, said

    rows = list(csv.DictReader(io.StringIO(window.bytes_of("cut_list").decode())))
    kinds = [row["kind"] for row in rows]
    assert [kinds.count(k) for k in ("side", "panel", "segment", "liner", "divider")] == [4, 2, 1, 4, 3]
    across = next(row for row in rows if row["part"] == "divider across 1")
    assert float(across["outside"]) == pytest.approx(session.plan.dividers.pieces[0].length_mm, abs=0.005)
    assert "halved at" in across["note"]

    sheet = tmp_path / "sheet.pdf"
    assert cli.main(["export", str(path), "--sheet", str(sheet)]) == 0
    if which("pdftotext"):
        words = execute(
            ["pdftotext", "-layout", str(sheet), "-"], capture_output=True, text=True, check=True
        ).stdout
        for said in ("Liner A", "Divider across 1", "8 segments", "Fit the liner", "Small triangles"):
            assert said in words, said


def test_every_step_of_it_is_undone_and_done_again(window: Window, monkeypatch: pytest.MonkeyPatch) -> None:
    session = window.session
    fitted(window, monkeypatch)
    made, steps = session.job, 0
    designs = [made]
    while session.undo_label:
        session.undo()
        designs.append(session.job)
        steps += 1
    assert steps >= 10
    assert len({id(job) for job in designs}) == steps + 1
    for wanted in reversed(designs[:-1]):
        session.redo()
        assert session.job == wanted
    assert session.job == made
    # In another theme, in inches, in a small window, every stage still shows it.
    window.set_theme("dark")
    choose(window.view("size"), "Units", "in")
    window.resize(1024, 700)
    for stage in ("size", "section", "board", "corners", "saw"):
        window.open_stage(stage)
        view = window.view(stage)
        assert view.sheet.drawing.shapes
        assert not view.grab().isNull()
