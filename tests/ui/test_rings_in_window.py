"""Contents, liner, dividers, free rings, the board's curve and the machine, in the window."""

from itertools import pairwise

import pytest
from msgspec.structs import replace
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QCheckBox, QComboBox, QLineEdit, QSpinBox, QTextBrowser

from conftest import Driver
from gestures import type_over
from peristyle.drawing.shapes import Pick
from peristyle.model.design import Outline, Rectangle, Regular
from peristyle.model.job import revised
from peristyle.ui import dialogs
from support.telling import done_so, set_so


def choose(view, name: str, key: str) -> None:  # type: ignore[no-untyped-def]
    box = next(b for b in view.findChildren(QComboBox) if b.accessibleName() == name)
    box.setCurrentIndex(box.findData(key))
    box.activated.emit(box.currentIndex())


def spin(view, name: str) -> QSpinBox:  # type: ignore[no-untyped-def]
    return next(b for b in view.findChildren(QSpinBox) if b.accessibleName() == name)


def test_a_block_changed_on_the_drawing_moves_the_board_plan(driver: Driver) -> None:
    sheet = driver.sheet("size")
    choose(driver.window.view("size"), "Holds", "blocks")
    before = driver.session.plan.wrap.used_mm
    assert not [t for t in sheet.drawing.tags if t.field.id.startswith("shape.")]
    driver.type(driver.tag(sheet, "inside.contents.1.length_mm"), "40")
    assert driver.session.plan.wrap.used_mm > before
    driver.type(driver.tag(sheet, "inside.contents.1.columns"), "8")
    assert driver.session.plan.ring.sides[0].inside_mm == pytest.approx(8 * 40 + 2)
    driver.type(driver.tag(sheet, "inside.contents.1.height_mm"), "200")
    assert "contents_too_tall" in {f.code for f in driver.session.plan.findings}
    while driver.session.undo_label:
        driver.session.undo()
    assert driver.session.job.design.inside.contents == ()
    driver.tag(sheet, "form.length_mm")


def test_liner_and_dividers_come_and_go(driver: Driver) -> None:
    driver.window.open_stage("size")
    view = driver.window.view("size")
    spin(view, "Dividers across").setValue(3)
    spin(view, "along").setValue(1)
    assert len(driver.session.plan.dividers.pieces) == 4
    faces = view.solid.grab().toImage()
    spin(view, "Dividers across").setValue(0)
    assert view.solid.grab().toImage() != faces
    assert driver.session.job.design.inside.dividers.along == 1
    section = driver.sheet("section")
    driver.session.edit("Liner", revised(driver.session.job, dividers=None, liner=None))
    driver.window.open_stage("size")
    next(b for b in view.findChildren(QCheckBox) if b.text() == "Liner").click()
    assert driver.session.plan.liner is not None
    driver.window.open_stage("section")
    driver.type(driver.tag(section, "inside.liner.height_mm"), "89")
    assert "liner_holds_lid_up" in {f.code for f in driver.session.plan.findings}


def test_a_free_ring_is_typed_dragged_and_given_sides(driver: Driver) -> None:
    sheet = driver.sheet("size")
    view = driver.window.view("size")
    choose(view, "Shape", "outline")
    shape = driver.session.job.design.form.shape
    assert isinstance(shape, Outline)
    assert [s.outside_mm for s in driver.session.plan.ring.sides] == pytest.approx([240, 160, 240, 160])
    driver.type(driver.tag(sheet, "sides.A.length_mm"), "200")
    assert [s.outside_mm for s in driver.session.plan.ring.sides] == pytest.approx([200, 160, 200, 160])
    driver.type(driver.tag(sheet, "sides.A.interior_deg"), "100")
    ring = driver.session.plan.ring
    assert ring.corners[0].interior_deg == pytest.approx(100)
    assert sum(c.interior_deg for c in ring.corners) == pytest.approx(360)
    driver.drag(sheet, sheet.px(ring.outer_bottom[1]), 25, -20)
    assert driver.session.undo_label == "Drag a corner"
    assert driver.session.plan.ring.stands
    driver.session.select(Pick("side", 2))
    driver.window.action("add_side").trigger()
    assert driver.session.job.design.side_count == 5
    assert all(c.interior_deg < 180 for c in driver.session.plan.ring.corners)
    for _ in range(3):
        driver.window.action("take_side").trigger()
    assert driver.session.job.design.side_count == 3
    assert "at least three sides" in driver.window.statusBar().currentMessage()


def test_a_corner_that_cannot_be_is_explained(driver: Driver) -> None:
    sheet = driver.sheet("size")
    choose(driver.window.view("size"), "Shape", "outline")
    before = driver.session.job
    driver.type(driver.tag(sheet, "sides.A.interior_deg"), "179.8")
    driver.type(driver.tag(sheet, "sides.A.length_mm"), "19000")
    assert driver.session.plan.ring.sides
    assert driver.session.job.design.form.shape.measure == before.design.form.shape.measure


def test_every_shape_can_be_chosen_from_every_other(driver: Driver) -> None:
    driver.window.open_stage("size")
    view = driver.window.view("size")
    kinds = [
        "regular",
        "house",
        "outline",
        "alternating",
        "rectangle",
        "outline",
        "regular",
        "rectangle",
        "house",
    ]
    for before, after in pairwise(["rectangle", *kinds]):
        choose(view, "Shape", after)
        assert driver.session.plan.ring.stands, (before, after)


def test_the_largest_box_and_its_curve(driver: Driver) -> None:
    driver.session.edit(
        "Board", revised(driver.session.job, board=replace(driver.session.job.stock.board, length_mm=1500.0))
    )
    driver.window.open_stage("board")
    view = driver.window.view("board")
    choose(view, "Below", "1")
    QApplication.processEvents()
    view._largest()
    assert driver.session.plan.wrap.spare_mm == pytest.approx(0.0, abs=1e-3)
    shape = driver.session.job.design.form.shape
    assert isinstance(shape, Rectangle)
    assert shape.length_mm / shape.width_mm == pytest.approx(1.5)
    driver.drag(view.curve, view.curve.px((shape.length_mm, shape.width_mm)), 18, 18)
    longer = driver.session.job.design.form.shape
    assert longer.length_mm > shape.length_mm
    assert driver.session.plan.wrap.spare_mm == pytest.approx(0.0, abs=1e-3)
    choose(view, "keeping", "length")
    driver.session.edit(
        "Board", revised(driver.session.job, board=replace(driver.session.job.stock.board, length_mm=3000.0))
    )
    view._largest()
    longer = driver.session.job.design.form.shape
    next(b for b in view.findChildren(QCheckBox) if b.text().startswith("Panels from")).click()
    view._largest()
    kept = driver.session.job.design.form.shape
    assert kept.length_mm == longer.length_mm
    assert kept.width_mm < longer.width_mm  # room for the bottom beside the strip
    choose(view, "Height", "board")
    view._largest()
    assert driver.session.job.design.form.height_mm == pytest.approx(driver.session.job.stock.board.width_mm)


def test_a_polygon_is_chosen_from_the_row(driver: Driver) -> None:
    driver.session.edit("Shape", revised(driver.session.job, shape=Regular(6, 100.0, "across_flats")))
    driver.window.open_stage("board")
    choose(driver.window.view("board"), "Below", "1")
    QApplication.processEvents()
    curve = driver.window.view("board").curve
    QTest.mouseClick(curve, Qt.MouseButton.LeftButton, pos=curve.px((9.0, 0.0)).toPoint())
    shape = driver.session.job.design.form.shape
    assert isinstance(shape, Regular)
    assert (shape.sides, shape.measure) == (9, "across_flats")
    assert driver.session.plan.wrap.spare_mm == pytest.approx(0.0, abs=1e-3)
    driver.session.undo()
    assert driver.session.job.design.side_count == 6


def test_machine_profile_changes_how_bevels_are_cut(driver: Driver) -> None:
    driver.window.open_stage("saw")
    view = driver.window.view("saw")
    choose(view, "Bevels cut on", "chamfer_bit")
    assert driver.session.job.shop.saw.stops_deg
    gives = next(e for e in view.findChildren(QLineEdit) if e.accessibleName() == "Gives")
    assert gives.isVisible()
    before = driver.session.job
    for text, angles in (("22.5, 45", (22.5, 45.0)), ("22,5 30", (22.5, 30.0)), ("12.5,40", (12.5, 40.0))):
        type_over(gives, text)
        assert driver.session.job.shop.saw.stops_deg == angles
    type_over(gives, "thirty")
    assert gives.text() == "12.5, 40"
    bevel = next(c for c in driver.session.plan.steps if c.operation == "bevel")
    assert (set_so(bevel), bevel.cautions[0]) == (
        "block 45°",
        "plane_edge",
    )  # no bit gives it: sawn near, and shot
    assert "bevel_not_given" in {f.code for f in driver.session.plan.findings}
    type_over(gives, "22.5, 45")
    bevel = next(c for c in driver.session.plan.steps if c.operation == "bevel")
    assert (set_so(bevel), bevel.cautions[0]) == ("bit 45°", "router")
    driver.session.undo()
    for _ in range(3):
        driver.session.undo()
    assert driver.session.job == before
    choose(view, "Bevels cut on", "table_saw")
    assert not gives.isVisible()
    picture = view.sheet.grab().toImage()
    driver.session.select(
        Pick("step", next(n for n, s in enumerate(driver.session.plan.steps) if s.operation == "bevel"))
    )
    left = view.sheet.grab().toImage()
    choose(view, "Tilts", "right")
    assert view.sheet.grab().toImage() != left != picture


def test_scale_rounding_is_told(driver: Driver) -> None:
    driver.session.edit("Seven", revised(driver.session.job, shape=Regular(7, 120.0)))
    cut = next(c for c in driver.session.plan.steps if c.operation == "bevel")
    # 180/7 = 25.7143°, shown 25.7°: 14 cuts × 0.0143° on a joint face of 9/cos(25.7143°).
    assert "25.7°" in done_so(cut)
    assert "14 cuts" in done_so(cut)
    assert "0.03" in done_so(cut)


def test_the_sheet_of_angles_opens_and_exports(
    driver: Driver, monkeypatch: pytest.MonkeyPatch, tmp_path
) -> None:  # type: ignore[no-untyped-def]
    pages = []
    monkeypatch.setattr(
        dialogs.QDialog, "exec", lambda d: pages.append(d.findChild(QTextBrowser).toPlainText())
    )
    driver.window.action("angles").trigger()
    assert "22.5°" in pages[0]
    monkeypatch.setattr(
        dialogs.QFileDialog, "getSaveFileName", lambda *_a: (str(tmp_path / "angles.pdf"), "")
    )
    driver.window.action("angles_pdf").trigger()
    assert (tmp_path / "angles.pdf").read_bytes().startswith(b"%PDF")


def test_keys_step_counts_too(driver: Driver) -> None:
    sheet = driver.sheet("size")
    choose(driver.window.view("size"), "Holds", "cards")
    deck = driver.session.plan.ring.sides[0].inside_mm
    assert (
        driver.session.job.design.inside.contents[0].play_mm < 1.0
    )  # under a push-fit lid (common practice)
    choose(driver.window.view("size"), "Add", "round")
    assert [thing.round for thing in driver.session.job.design.inside.contents] == [False, True]
    sheet = driver.sheet("size")
    x, y = driver.session.plan.contents.blocks[1].spots_mm[0]
    QTest.mouseClick(sheet, Qt.MouseButton.LeftButton, pos=sheet.px((x, y + 20)).toPoint())
    assert driver.session.selection == Pick("thing", 1)
    driver.type(driver.tag(sheet, "inside.contents.2.count"), "3")
    assert [thing.count for thing in driver.session.job.design.inside.contents] == [1, 3]
    choose(driver.window.view("size"), "Sizes of", "0")
    driver.tag(sheet, "inside.contents.1.count")
    driver.session.undo()
    driver.session.undo()
    assert driver.session.selection == Pick("thing", 0)
    choose(driver.window.view("size"), "Holds", "nothing")
    assert driver.session.plan.ring.sides[0].inside_mm == deck  # it stays as large as it was
    driver.session.undo()
    choose(driver.window.view("size"), "Holds", "round")
    tag = driver.tag(sheet, "inside.contents.1.count")
    tag.setFocus()
    QTest.keyClick(tag, Qt.Key.Key_Up)
    assert driver.session.job.design.inside.contents[0].count == 7


def test_tapers_sides_of_their_own_and_compartments(driver: Driver) -> None:
    sheet = driver.sheet("size")
    view = driver.window.view("size")
    next(b for b in view.findChildren(QCheckBox) if b.text() == "Taper").click()
    driver.type(driver.tag(sheet, "form.top_length_mm"), "300")
    assert driver.session.plan.ring.sides[0].outside_top_mm == pytest.approx(300.0)
    next(b for b in view.findChildren(QCheckBox) if b.text() == "Taper").click()
    driver.session.select(Pick("side", 2))
    driver.type(driver.tag(sheet, "sides.C.slope_deg"), "12")
    driver.type(driver.tag(sheet, "sides.C.thickness_mm"), "12")
    assert driver.session.job.design.form.slopes_deg == (0.0, 0.0, 12.0, 0.0)
    assert "unequal_thickness" in {f.code for f in driver.session.plan.findings}
    driver.session.undo()
    driver.session.undo()
    assert driver.session.job.design.form.slopes_deg == (0.0,)
    spin(view, "Dividers across").setValue(2)
    driver.type(driver.tag(sheet, "inside.dividers.widths_mm.1"), "50")
    assert driver.session.plan.dividers.widths_mm[0] == 50.0


def test_sizes_of_dividers_and_rings_are_typed_where_they_stand(driver: Driver) -> None:
    sheet = driver.sheet("size")
    spin(driver.window.view("size"), "Dividers across").setValue(2)
    for field, text in (("inside.dividers.thickness_mm", "6"), ("inside.dividers.dado_mm", "2.5")):
        driver.type(driver.tag(sheet, field), text)
    section = driver.sheet("section")
    driver.type(driver.tag(section, "inside.dividers.height_mm"), "31")
    dividers = driver.session.job.design.inside.dividers
    assert dividers is not None
    assert (dividers.thickness_mm, dividers.dado_mm, dividers.height_mm) == (6.0, 2.5, 31.0)
    choose(driver.window.view("section"), "Bottom made of", "ring")
    before = driver.session.plan.section.panels[0].segments
    driver.type(driver.tag(section, "section.bottom.segments.ring_mm"), "22")
    after = driver.session.plan.section.panels[0].segments
    assert before is not None
    assert after is not None
    wide = 22.0 + 1.5  # what is trimmed off once the blank is true
    assert (after.strip_mm, after.hole_mm) == pytest.approx(
        (wide, before.hole_mm + 2 * (before.strip_mm - wide))
    )


def test_the_bottom_of_segments(driver: Driver) -> None:
    driver.window.open_stage("section")
    view = driver.window.view("section")
    choose(view, "Bottom made of", "pie")
    spin(view, "Segments").setValue(12)
    segments = driver.session.plan.section.panels[0].segments
    assert segments is not None
    assert segments.miter_deg == 15.0
    choose(view, "Bottom made of", "one")
    assert driver.session.plan.section.panels[0].segments is None


def test_a_house_stands_and_its_overhang_is_told(driver: Driver) -> None:
    sheet = driver.sheet("size")
    view = driver.window.view("size")
    choose(view, "Shape", "house")
    standing = view.solid.grab().toImage()
    mitered = driver.session.plan.ring.sides[1].outside_mm
    driver.type(driver.tag(sheet, "form.overhang_mm"), "20")
    told = next(f for f in driver.session.plan.findings if f.code == "roof_laid_on")
    assert told.numbers["wall_mm"] == driver.session.plan.ring.sides[1].outside_mm < mitered
    for _ in range(20):  # 150°: from behind
        QTest.keyClick(view.solid, Qt.Key.Key_Right)
    assert view.solid.grab().toImage() != standing


def test_a_pitch_typed_as_rise_over_run_and_eaves_chosen(driver: Driver) -> None:
    sheet, view = driver.sheet("size"), driver.window.view("size")
    choose(view, "Shape", "house")
    eaves = next(box for box in view.findChildren(QComboBox) if box.accessibleName() == "Eaves")
    assert not eaves.isVisible()  # mitered eaves leave nothing to choose
    driver.type(driver.tag(sheet, "form.pitch_deg"), "8/12")
    driver.type(driver.tag(sheet, "form.overhang_mm"), "20")
    assert eaves.isVisible()
    roof = driver.session.plan.ring.sides[2]
    assert (roof.start.bevel_deg, roof.end.bevel_deg) == pytest.approx((0.0, 33.690067526))
    choose(view, "Eaves", "plumb")
    assert driver.session.plan.ring.sides[2].start.bevel_deg == pytest.approx(-33.690067526)
    for _ in range(4):
        driver.session.undo()
    assert not eaves.isVisible()


def test_what_it_holds_is_packed_together(driver: Driver) -> None:
    driver.window.open_stage("size")
    driver.session.start(
        revised(driver.session.job, shape=Rectangle(240.0, 160.0), slopes_deg=(0.0,), liner=None)
    )
    driver.choose("size", "Holds", "blocks")
    boxes = driver.window.view("size").findChildren(QCheckBox)
    box = next(one for one in boxes if one.text() == "Packed together" and one.isVisible())
    box.setFocus()
    QTest.keyClick(box, Qt.Key.Key_Space)
    assert driver.session.job.design.inside.together is not None
    first = driver.session.plan.contents
    assert first.blocks[0].stood
    driver.type(driver.tag(driver.window, "inside.together.high_mm"), "45")
    assert driver.session.plan.contents.height_mm <= 45.0
