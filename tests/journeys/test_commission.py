"""A whole commission in the window, offscreen: from New to the sheet on paper, by keyboard where a hand would."""

import csv
import os
from pathlib import Path
from shutil import which
from subprocess import run

import pytest

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
pytest.importorskip("PySide6")

from PySide6.QtTest import QTest
from PySide6.QtWidgets import QFileDialog, QLineEdit

from gestures import type_over
from peristyle.app import make_window
from peristyle.drawing.shapes import Pick
from peristyle.model.job import revised
from peristyle.planning.stock.wrap import suiting_board
from peristyle.storage import examples, files
from peristyle.ui import theme
from peristyle.ui.newbox import NewBox
from peristyle.ui.widgets.tag import SizeTag
from support.telling import told


def tag(parent, name: str) -> SizeTag:  # type: ignore[no-untyped-def]
    found = parent.findChild(SizeTag, f"tag:{name}")
    assert isinstance(found, SizeTag)
    return found


def put(parent, name: str, text: str) -> None:  # type: ignore[no-untyped-def]
    type_over(tag(parent, name), text)


def test_an_octagon_in_inches_from_new_to_paper(
    qapp, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:  # type: ignore[no-untyped-def]
    qapp.setFont(theme.load_fonts())
    window = make_window(examples.load(examples.FIRST), config=tmp_path / "c", state=tmp_path / "s")
    window.resize(1280, 800)
    window.show()
    session = window.session

    def answer(dialog: NewBox) -> int:
        dialog.set_shape("regular")
        for name, text in (("size", "7 1/4"), ("height", "3 7/8"), ("thickness", "5/16")):
            edit = dialog.findChild(QLineEdit, f"new:{name}")
            edit.clear()
            QTest.keyClicks(edit, text)
        return 1

    monkeypatch.setattr(NewBox, "exec", answer)
    window.new_box()
    assert session.job.design.side_count == 8
    # The dialog opened in the units of the box before: mm, so a bare 7 1/4 is millimetres there.
    assert session.job.design.units == "mm"
    put(window.view("size"), "form.size_mm", "7 1/4in")
    put(window.view("size"), "form.height_mm", "3 7/8in")
    put(window.view("size"), "sides.thickness_mm", "5/16in")
    window.open_stage("board")
    session.edit("Suit", revised(session.job, board=suiting_board(session.job)))
    window.view("board")._largest()
    assert session.job.design.form.shape.size_mm > 184.2
    session.undo()
    assert session.job.design.form.shape.size_mm == pytest.approx(184.15)
    window.open_stage("section")
    section = window.view("section")
    put(section, "section.bottom.height_mm", "1/4in")
    put(section, "section.bottom.depth_mm", "1/8in")
    window.open_stage("corners")
    put(window.view("corners"), "joints.keys.depth_mm", "3/16in")
    assert session.plan.buildable, [told(f) for f in session.plan.findings]
    assert [s.outside_mm for s in session.plan.ring.sides] == pytest.approx(
        [184.15 * 0.41421356] * 8, abs=1e-4
    )
    for _ in range(3):
        window.action("next_side").trigger()
    window.action("front").trigger()
    assert session.job.design.form.front == 2
    session.select(Pick("corner", 4))
    window.action("close_here").trigger()
    assert session.plan.wrap.order[0] == 5

    for name, suffix in (
        ("save_as", "octagon.peristyle"),
        ("cut_list", "octagon.csv"),
        ("sheet_a4", "octagon.pdf"),
    ):
        monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_a, s=suffix: (str(tmp_path / s), ""))
        window.action(name).trigger()
    assert files.load(tmp_path / "octagon.peristyle").job == session.job
    rows = list(csv.DictReader((tmp_path / "octagon.csv").read_text().splitlines()))
    assert [r["part"] for r in rows][:8] == list("FGHABCDE")
    assert float(rows[0]["outside"]) == pytest.approx(184.15 * 0.41421356, abs=0.01)
    assert [r["note"] for r in rows if "front" in r["note"]] == ["front"]
    if which("pdftotext"):
        text = run(
            ["pdftotext", str(tmp_path / "octagon.pdf"), "-"], capture_output=True, check=True
        ).stdout.decode()
        assert "22.5°" in text
        assert "Cautions" in text

    while session.undo_label:
        session.undo()
    assert session.unsaved
    while session.redo_label:
        session.redo()
    assert not session.unsaved
    window.close()
    window.deleteLater()
    qapp.processEvents()
