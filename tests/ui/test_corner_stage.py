"""The Corners stage by hand: kinds of keys chosen, keys added, dragged and taken away, splines typed and dragged."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from conftest import Driver
from peristyle.drawing.shapes import Handle, Path, Pick
from peristyle.model.design import Regular
from peristyle.model.job import revised


def test_every_school_is_chosen_and_undone(driver: Driver) -> None:
    driver.window.open_stage("corners")
    first = driver.session.job
    for kind in ("veneer", "dovetail", "straight"):
        driver.choose("corners", "Keys", kind)
        assert driver.session.job.design.joints.keys.kind == kind
        assert {key.kind for key in driver.session.plan.keys.keys} == {kind}
    driver.choose("corners", "Splines", "one")
    assert driver.session.plan.splines.splines
    driver.choose("corners", "Splines", "two")
    assert driver.session.job.design.joints.splines.count == 2
    driver.choose("corners", "Where keys are put", "evenly")
    assert driver.session.job.design.joints.keys.placed == "even"
    while driver.session.undo_label:
        driver.session.undo()
    assert driver.session.job == first


def test_a_key_is_added_picked_and_taken_away(driver: Driver) -> None:
    sheet = driver.sheet("corners")
    driver.window.resize(1280, 800)
    before = driver.session.plan.keys.heights_mm
    place = (before[0] + before[1]) / 2
    at = sheet.px((6.0, place)).toPoint()
    QTest.mouseDClick(sheet, Qt.MouseButton.LeftButton, pos=at)
    after = driver.session.plan.keys.heights_mm
    assert len(after) == len(before) + 1
    assert min(abs(h - place) for h in after) < 0.5
    assert set(before) <= set(after)
    key = next(s for s in sheet.drawing.shapes if isinstance(s, Path) and s.pick == Pick("key", 1))
    middle = sum(y for _x, y in key.points) / len(key.points)
    QTest.mouseClick(sheet, Qt.MouseButton.LeftButton, pos=sheet.px((3.0, middle)).toPoint())
    assert driver.session.selection == Pick("key", 1)
    sheet.setFocus()
    QTest.keyClick(sheet, Qt.Key.Key_Delete)
    assert driver.session.plan.keys.heights_mm == before
    assert driver.session.undo_label == "Take away a key"


def test_another_kind_at_one_corner(driver: Driver) -> None:
    driver.window.open_stage("corners")
    driver.choose("corners", "Corner", "BC")
    driver.choose("corners", "Keys at this corner", "others")
    plan = driver.session.plan
    assert {key.kind for key in plan.keys.at(1)} == {"dovetail"}
    assert {key.kind for key in plan.keys.at(0)} == {"straight"}
    driver.choose("corners", "Keys", "veneer")  # now speaks of what this corner has
    assert driver.session.job.design.joints.other_keys.kind == "veneer"
    assert driver.session.job.design.joints.keys.kind == "straight"


def test_splines_are_typed_and_dragged(driver: Driver) -> None:
    sheet = driver.sheet("corners")
    driver.choose("corners", "Splines", "one")
    driver.type(driver.tag(sheet, "joints.splines.place_mm"), "7,25")
    assert driver.session.job.design.joints.splines.place_mm == 7.25
    driver.type(driver.tag(sheet, "joints.splines.depth_mm"), "4")
    assert driver.session.plan.splines.splines[0].depth_mm == 4.0
    before = driver.session.job.design.joints.splines.stop_bottom_mm
    handle = next(
        h for h in sheet.drawing.handles if isinstance(h, Handle) and h.field.id.endswith("stop_bottom_mm")
    )
    x = sum(p[0] for p in handle.area) / len(handle.area)
    y = sum(p[1] for p in handle.area) / len(handle.area)
    driver.drag(sheet, sheet.px((x, y)), 0, -24)
    assert driver.session.job.design.joints.splines.stop_bottom_mm > before
    assert driver.session.undo_label.startswith("Drag")


@pytest.mark.parametrize("size", [(1280, 800), (1024, 700)])
def test_a_leaning_corner_has_its_choice_of_lie(open_window, box, size) -> None:  # type: ignore[no-untyped-def]
    job = revised(box, shape=Regular(6, 120.0), slopes_deg=(12.0,), lid=None, front=0)
    driver = open_window(job)
    driver.window.resize(*size)
    driver.window.open_stage("corners")
    driver.choose("corners", "How keys lie", "level")
    assert driver.session.job.design.joints.keys.lie == "level"
    assert abs(driver.session.plan.keys.keys[0].tip_deg) > 5.0
    sheet = driver.sheet("corners")
    assert any("slot's plane" in getattr(s, "text", "") for s in sheet.drawing.shapes)
