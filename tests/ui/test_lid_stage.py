"""The Section stage by hand: lids and bottoms chosen, sizes typed, heights held, seasons reckoned with."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QCheckBox, QSpinBox

from conftest import Driver
from gestures import click
from peristyle.model.design import Gable, Rectangle, Sliding
from peristyle.model.job import revised
from peristyle.ui.views.section import LIDS


def tick(driver: Driver, word: str) -> None:
    box = next(
        b for b in driver.window.view("section").findChildren(QCheckBox) if b.text() == word and b.isVisible()
    )
    box.setFocus()
    QTest.keyClick(box, Qt.Key.Key_Space)


def test_every_lid_is_chosen_with_the_keys_and_undone(driver: Driver) -> None:
    driver.window.open_stage("section")
    driver.session.start(revised(driver.session.job, shape=Rectangle(240.0, 160.0), slopes_deg=(0.0,)))
    first = driver.session.job
    for key, words in LIDS:
        driver.choose("section", "Lid", words)
        job = driver.session.job
        cover, lid = job.design.section.cover, job.design.section.lid
        assert (cover is None) == (key in ("none", "sawn", "lip"))
        assert (lid is not None) == (key in ("sawn", "lip"))
        assert driver.session.plan.pieces
    assert isinstance(cover, Gable)
    while driver.session.undo_label:
        driver.session.undo()
    assert driver.session.job == first


def test_what_lids_have_in_common_stays(driver: Driver) -> None:
    driver.window.open_stage("section")
    driver.choose("section", "Lid", "lift-off")
    driver.type(driver.tag(driver.window, "section.cover.thickness_mm"), "7.5")
    driver.choose("section", "Lid's way", "out all round")
    driver.choose("section", "Lid", "flat")
    assert driver.session.job.design.section.cover.thickness_mm == 7.5  # type: ignore[union-attr]
    driver.choose("section", "Lid", "sliding")
    driver.choose("section", "Lid's way", "out over C")
    cover = driver.session.job.design.section.cover
    assert isinstance(cover, Sliding)
    assert (cover.thickness_mm, cover.side) == (7.5, 2)


@pytest.mark.parametrize(
    ("field", "held"),
    [("form.body_mm", "body_mm"), ("form.room_mm", "room_mm"), ("form.closed_mm", "finished_mm")],
)
def test_a_height_that_is_typed_is_held(driver: Driver, field: str, held: str) -> None:
    driver.window.open_stage("section")
    driver.choose("section", "Lid", "sawn free")
    driver.type(driver.tag(driver.window, field), "71.5")

    def now() -> float:
        section = driver.session.plan.section
        return section.lid.body_mm if held == "body_mm" and section.lid else getattr(section, held)

    assert now() == pytest.approx(71.5)
    glued = driver.session.plan.section.glued_mm
    driver.type(driver.tag(driver.window, "section.lid.height_mm"), "31")
    driver.type(driver.tag(driver.window, "section.lid.kerf_mm"), "1.8")
    assert now() == pytest.approx(71.5)
    assert driver.session.plan.section.glued_mm != pytest.approx(glued)
    driver.choose("section", "Height held", "height as glued")
    driver.type(driver.tag(driver.window, "section.lid.kerf_mm"), "2.8")
    assert now() != pytest.approx(71.5)


def test_a_floor_that_hides_a_room_and_the_seasons(driver: Driver) -> None:
    driver.window.open_stage("section")
    driver.choose("section", "Bottom", "groove")
    before = driver.session.plan.section.room_mm
    tick(driver, "Hidden room")
    driver.type(driver.tag(driver.window, "section.false_floor.height_mm"), "20")
    own = driver.session.job.design.section.false_floor
    assert own is not None
    assert driver.session.plan.section.room_mm == pytest.approx(before - 20.0 - own.thickness_mm)
    tick(driver, "Seasons")
    driver.choose("section", "Bottom's wood", "white oak")
    dry = driver.session.plan.section.movements[0].shrinks_mm
    boxes = driver.window.view("section").findChildren(QSpinBox)
    driest = next(b for b in boxes if b.accessibleName() == "driest" and b.isVisible())
    click(driest)
    QTest.keyClick(driest, Qt.Key.Key_Down)
    assert driver.session.plan.section.movements[0].shrinks_mm > dry
    driver.choose("section", "False floor's wood", "white oak")
    assert "loose_swells" in {finding.code for finding in driver.session.plan.findings}
    driver.choose("section", "False floor's sawing", "plywood")
    assert "loose_swells" not in {finding.code for finding in driver.session.plan.findings}


def test_the_box_is_made_to_the_slate_at_hand(driver: Driver) -> None:
    driver.window.open_stage("section")
    driver.session.start(
        revised(driver.session.job, shape=Rectangle(240.0, 160.0), slopes_deg=(0.0,), contents=())
    )
    driver.choose("section", "Lid", "insert")
    driver.type(driver.tag(driver.window, "section.cover.insert_length_mm"), "203.2")
    driver.type(driver.tag(driver.window, "section.cover.insert_width_mm"), "101.6")
    slate = next(panel for panel in driver.session.plan.section.panels if panel.name == "lid")
    assert (slate.length_mm, slate.width_mm) == pytest.approx((203.2, 101.6))


def test_lining_is_drawn_and_takes_its_share(driver: Driver) -> None:
    driver.window.open_stage("section")
    driver.choose("section", "Top", "groove")
    tick(driver, "Lining")
    driver.type(driver.tag(driver.window, "inside.lining_mm"), "3.5")
    plan = driver.session.plan
    assert plan.job.design.inside.lining_mm == 3.5
    sheet = driver.sheet("section")
    leaves = [s for s in sheet.drawing.shapes if getattr(s, "fill", "") == "hatch" and s.role == "quiet"]
    assert len(leaves) == 4
    heights = [max(z for _x, z in leaf.points) - min(z for _x, z in leaf.points) for leaf in leaves]
    assert sorted(heights)[:2] == pytest.approx([3.5, 3.5])
    assert sorted(heights)[2] == pytest.approx(plan.section.room_mm - 7.0)
    tick(driver, "Lining")
    assert driver.session.job.design.inside.lining_mm == 0


def test_an_edge_is_profiled_and_its_size_typed(driver: Driver) -> None:
    driver.window.open_stage("section")
    first = driver.session.job
    driver.choose("section", "Edge", "top")
    driver.choose("section", "Profile of the edge", "cove")
    driver.type(driver.tag(driver.window, "section.top_edge.size_mm"), "3.2")
    edge = driver.session.job.design.section.top_edge
    assert edge is not None
    assert (edge.kind, edge.size_mm) == ("cove", 3.2)
    driver.choose("section", "Edge", "bottom")
    driver.choose("section", "Profile of the edge", "round-over")
    assert {step.id for step in driver.session.plan.steps if step.operation == "edge"} == {
        "box.edge.top_edge", "box.edge.bottom_edge",
    }  # fmt: skip
    driver.choose("section", "Edge", "top")
    driver.choose("section", "Profile of the edge", "square")
    assert driver.session.job.design.section.top_edge is None
    while driver.session.undo_label:
        driver.session.undo()
    assert driver.session.job == first


def test_moulded_sides_and_a_point_of_their_section(driver: Driver) -> None:
    driver.window.open_stage("section")
    driver.session.start(
        revised(driver.session.job, shape=Rectangle(240.0, 160.0), slopes_deg=(0.0,), lid=None, top=None)
    )
    driver.choose("section", "Sides' section", "moulded: steps")
    assert any(step.operation == "moulding" for step in driver.session.plan.steps)
    driver.type(driver.tag(driver.window, "section.moulding.ins_mm.3"), "1.2")
    own = driver.session.job.design.section.moulding
    assert own is not None
    assert own.ins_mm[2] == 1.2
    driver.choose("section", "Sides' section", "flat sides")
    assert driver.session.job.design.section.moulding is None


def test_a_handle_and_an_inlay(driver: Driver) -> None:
    driver.window.open_stage("section")
    driver.choose("section", "Top", "glued")
    driver.choose("section", "Handle", "pull")
    driver.type(driver.tag(driver.window, "section.handle.apart_mm"), "48")
    driver.choose("section", "Inlay", "round inlay")
    driver.choose("section", "Where the inlay is", "in front")
    section = driver.session.job.design.section
    assert section.handle is not None
    assert section.inlay is not None
    assert (section.handle.apart_mm, section.handle.on) == (48.0, "top")
    assert (section.inlay.round, section.inlay.on) == (True, "front")
    assert {"inlay.1"} <= {piece.id for piece in driver.session.plan.pieces}
