"""The Board stage by hand: the search and its filmstrip, the curve, marks painted, the rack, real pictures."""

import io
import itertools
from collections.abc import Iterator
from pathlib import Path
from typing import NamedTuple

import numpy as np
import pytest
from PIL import Image
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtGui import QImage
from PySide6.QtTest import QTest
from PySide6.QtWidgets import (
    QApplication,
    QCheckBox,
    QComboBox,
    QDialog,
    QDialogButtonBox,
    QLineEdit,
    QPushButton,
    QWidget,
)

from conftest import Driver
from gestures import type_over
from peristyle.commands import boards as boards_command
from peristyle.commands import match as match_command
from peristyle.core.errors import PeristyleError
from peristyle.devices.camera import Camera, photograph
from peristyle.drawing.eye import view_of
from peristyle.drawing.shapes import Grain, Label, Pick
from peristyle.model.design import Rectangle, Regular, replace
from peristyle.model.job import job_of, revised
from peristyle.model.stock import Board
from peristyle.planning.plan import Plan, plan
from peristyle.storage import files, pictures, rack
from peristyle.ui.painting import label_box
from peristyle.ui.photobox import Photobox, from_file
from peristyle.ui.rackbox import Rackbox
from peristyle.wood.grown import face_picture
from peristyle.wood.looks import Grown
from support.numbered import came_from


@pytest.fixture
def board(driver, qtbot):  # type: ignore[no-untyped-def]
    """The stage, its curve there."""
    long = replace(driver.session.job.stock.board, length_mm=1300.0)
    driver.session.edit("Board", revised(driver.session.job, board=long))
    driver.window.open_stage("board")
    view = driver.window.view("board")
    qtbot.waitUntil(lambda: view.matcher.now() is not None, timeout=60_000)
    return view


def control(view, kind, name):  # type: ignore[no-untyped-def]
    return next(one for one in view.findChildren(kind) if one.accessibleName() == name and one.isVisible())


def test_a_search_fills_the_filmstrip_and_a_click_takes_one(driver, board, qtbot) -> None:  # type: ignore[no-untyped-def]
    QTest.mouseClick(control(board, QCheckBox, "turned"), Qt.MouseButton.LeftButton, pos=QPoint(8, 8))
    with qtbot.waitSignal(board.matcher.found, timeout=60_000):
        QTest.mouseClick(control(board, QPushButton, "Search"), Qt.MouseButton.LeftButton)
    assert board.films.count() > 3
    found = board.matcher.suggestions.suggestions
    assert any(one.turned for one in found)
    first = board.films.item(0)
    assert first.data(Qt.ItemDataRole.AccessibleTextRole).startswith("match ")
    assert "start" in first.data(Qt.ItemDataRole.AccessibleTextRole)
    QTest.mouseClick(
        board.films.viewport(), Qt.MouseButton.LeftButton, pos=board.films.visualItemRect(first).center()
    )
    now = driver.session.job.stock.board
    assert (now.shift_mm, now.turned) == (found[0].shift_mm, found[0].turned)
    qtbot.waitUntil(lambda: board.matcher.now() is not None, timeout=60_000)
    assert board.matcher.now().now[driver.session.job.closing] == pytest.approx(found[0].closing, abs=1.0)
    driver.session.undo()
    assert driver.session.job.stock.board.shift_mm == 0.0
    # What was found holds while one or another of it is taken, and goes with the ring or the way it was found for.
    assert board.films.count() > 3
    other = replace(driver.session.job.stock.board, method="bevel_direct")
    driver.session.edit("Cut otherwise", revised(driver.session.job, board=other))
    assert board.films.count() == 0
    assert not board.films.isVisible()


def test_the_curve_is_clicked_and_dragged(driver, board) -> None:  # type: ignore[no-untyped-def]
    sheet = board.sheet
    grip = sheet.drawing.handles[-1]
    y = sum(point[1] for point in grip.area) / 4
    trim = driver.session.job.stock.board.end_trim_mm
    QTest.mouseClick(sheet, Qt.MouseButton.LeftButton, pos=sheet.px((trim + 200.0, y)).toPoint())
    assert driver.session.job.stock.board.shift_mm == pytest.approx(200.0, abs=2.0)
    at = sheet.px((trim + 200.0, y))
    driver.drag(sheet, at, 60, 0)
    moved = driver.session.job.stock.board.shift_mm
    assert moved > 220.0
    assert board.matcher.now().now  # the curve holds while only the strip moves
    driver.session.undo()
    assert driver.session.job.stock.board.shift_mm == pytest.approx(200.0, abs=2.0)


def test_a_knot_is_painted_moved_clear_of_and_taken_off(driver, board) -> None:  # type: ignore[no-untyped-def]
    box = control(board, QComboBox, "Paint")
    box.setCurrentIndex(box.findData("knot"))
    box.activated.emit(box.currentIndex())
    sheet = board.sheet
    driver.drag(sheet, sheet.px((120.0, 60.0)), 18, 14)
    marks = driver.session.job.stock.board.marks
    assert len(marks) == 1
    assert marks[0].x_mm == pytest.approx(120.0, abs=3.0)
    assert [f.code for f in driver.session.plan.findings].count("on_a_mark") == 1
    assert sheet.painting is None
    wish = control(board, QComboBox, "Wish")
    wish.setCurrentIndex(wish.findData("note"))
    wish.activated.emit(wish.currentIndex())
    assert "on_a_mark" not in [f.code for f in driver.session.plan.findings]
    driver.type(driver.tag(sheet, "stock.board.marks.1.x_mm"), "333")
    assert driver.session.job.stock.board.marks[0].x_mm == 333.0
    QTest.mouseClick(control(board, QPushButton, "Take it off"), Qt.MouseButton.LeftButton)
    assert not driver.session.job.stock.board.marks
    for _ in range(4):
        driver.session.undo()
    assert not driver.session.job.stock.board.marks


class Numbered(NamedTuple):
    """A picture of which every point says where it is: red along the board, blue the same finely, green across it."""

    long: float
    high: float
    fine_mm: float = 50.0

    def pixels(self) -> np.ndarray:
        """Four points a mm."""
        x, y = (np.arange(round(4 * size)) / 4 + 0.125 for size in (self.long, self.high))
        made = np.zeros((len(y), len(x), 3), dtype=np.uint8)
        made[..., 0] = np.round(250 * x / self.long)[None, :]
        made[..., 1] = np.round(250 * y / self.high)[::-1, None]
        made[..., 2] = np.round(250 * (x % self.fine_mm) / self.fine_mm)[None, :]
        return made

    def read(self, colour: tuple[float, float, float]) -> tuple[float, float, float]:
        """Where on the board a point of that colour was, and how nearly along it that can be told."""
        red, green, blue = colour
        rough, fine = red / 250 * self.long, blue / 250 * self.fine_mm
        whole = round((rough - fine) / self.fine_mm) * self.fine_mm
        # Where the fine scale begins anew it is smoothed over.
        near = abs(whole + fine - rough) < 8.0 and 0.15 < blue / 250 < 0.85
        return whole + fine if near else rough, green / 250 * self.high, 2.5 if near else 8.0


def beside(plan: Plan, corner: int) -> Iterator[tuple[int, float, float, tuple[float, float]]]:
    """Points beside a corner on both of its sides: side, along and up its face, where on the board the steps take it
    from.
    """
    told, count = came_from(plan), len(plan.ring.sides)
    for index, ends in ((corner, True), ((corner + 1) % count, False)):
        side = plan.ring.sides[index]
        came = told[f"side.{side.name}"]
        for away in (6.0, 11.0, 18.0):
            x = side.outside_mm - away if ends else away
            for up in np.linspace(0.08, 0.92, 9):
                y = float(up) * side.slant_mm
                on = [
                    a + (b - a) * x / side.outside_mm + (c - a) * float(up)
                    for a, b, c in zip(came.start, came.end, came.top, strict=True)
                ]
                yield index, x, y, (on[0], on[1])


@pytest.mark.parametrize("method", ["square_first", "bevel_direct", "book", "upright", "flip_shared"])
def test_a_numbered_board_is_seen_as_it_is_cut(driver, method: str, tmp_path: Path) -> None:  # type: ignore[no-untyped-def]
    """Frieze, loupe and solid against what the steps alone take off the board, point by point beside every corner."""
    board = Numbered(400.0, 620.0) if method == "upright" else Numbered(1000.0, 130.0)
    Image.fromarray(board.pixels()).save(tmp_path / "numbered.png")
    name = pictures.keep(tmp_path / "numbered.png", driver.window._pictures)
    stock = Board(length_mm=board.long, width_mm=board.high, thickness_mm=40.0, picture=name, method=method,  # type: ignore[arg-type]
                  shift_mm=7.0, across_mm=11.0)  # fmt: skip
    job = job_of(
        shape=Rectangle(170.0, 110.0, "outside"), height_mm=90.0, thicknesses_mm=(10.0,), board=stock
    )
    driver.session.edit("Box", job)
    assert driver.session.plan.buildable, [f.code for f in driver.session.plan.findings]
    checked = {"frieze": 0, "loupe": 0, "solid": 0}
    for corner in range(4):
        for stage, look in (("board", in_loupe), ("board", in_frieze), ("size", in_solid)):
            driver.window.open_stage(stage)
            # What is picked is tinted in the frieze, and looked at in the loupe.
            driver.session.select(Pick("corner", corner) if look is in_loupe else None)
            for _ in range(4):
                driver.window.grab()
                driver.window.wood.settle()
                QTest.qWait(5)
            shots: dict[str, QImage] = {}  # one picture of each is enough for all points
            for index, x, y, on in beside(driver.session.plan, corner):
                colour = look(driver, shots, corner, index, x, y)
                if colour is None:  # turned away from the eye, or beyond what the loupe shows
                    continue
                along, up, near = board.read(colour)
                assert (along, up) == (
                    pytest.approx(on[0], abs=near),
                    pytest.approx(on[1], abs=board.high / 80),
                ), (look.__name__, corner, index, x, y)
                checked[look.__name__.removeprefix("in_")] += 1
    assert checked["frieze"] == checked["loupe"] == 4 * 54
    assert checked["solid"] >= 2 * 27  # two sides turn to the eye, each with two ends


def colour_at(view: QWidget, shots: dict[str, QImage], at: QPointF) -> tuple[float, float, float]:
    if "one" not in shots:
        shots["one"] = view.grab().toImage()
    image = shots["one"]
    ratio = image.devicePixelRatio()
    pixel = image.pixelColor(int(at.x() * ratio), int(at.y() * ratio))
    return pixel.red(), pixel.green(), pixel.blue()


def in_frieze(driver, shots, _corner: int, index: int, x: float, y: float) -> tuple[float, float, float]:  # type: ignore[no-untyped-def]
    frieze, grains = driver.window.frieze, {}
    for shape in frieze.drawing.shapes:
        if isinstance(shape, Grain) and shape.pick is not None:
            grains[shape.pick.index] = shape
    left, foot = grains[index].points[0]
    return colour_at(frieze, shots, frieze.px((left + x, foot + y)))


def in_loupe(driver, shots, corner: int, index: int, x: float, y: float) -> tuple[float, float, float]:  # type: ignore[no-untyped-def]
    """The two strips that meet, as large as they are shown under the board."""
    sheet, side = driver.window.view("board").sheet, driver.session.plan.ring.sides[index]
    grains = [s for s in sheet.drawing.shapes if isinstance(s, Grain) and s.pick == Pick("side", index)]
    (x0, y0), (x1, _y1), (_x2, y2), _last = grains[-1].points
    scale = (y2 - y0) / side.slant_mm
    at = x1 - (side.outside_mm - x) * scale if index == corner else x0 + x * scale
    return colour_at(sheet, shots, sheet.px((at, y0 + y * scale)))


def in_solid(
    driver, shots, _corner: int, index: int, x: float, y: float
) -> tuple[float, float, float] | None:  # type: ignore[no-untyped-def]
    """Without the shade that lies over it; None where another face is seen there."""
    solid, plan = driver.window.view("size").solid, driver.session.plan
    piece = next(p for p in plan.pieces if p.id == f"side.{plan.ring.sides[index].name}")
    view = view_of(plan, solid.eye)
    place = solid._polygon(solid._scale(), (view.point(*piece.place.of((x, y, 0.0))),))
    faces = [
        f for f, polygon in solid._polygons if polygon.containsPoint(place.at(0), Qt.FillRule.OddEvenFill)
    ]
    if not faces or faces[-1].kind != "show" or faces[-1].pick != Pick("side", index):
        return None
    shade = round(255 * (1 - faces[-1].light)) / 255
    seen = colour_at(solid, shots, place.at(0))
    made = tuple((c - over * shade) / (1 - shade) for c, over in zip(seen, (20, 12, 6), strict=True))
    return made[0], made[1], made[2]


def test_a_way_of_cutting_is_chosen_by_eye(driver, board) -> None:  # type: ignore[no-untyped-def]
    box = control(board, QComboBox, "Below")
    box.setCurrentIndex(box.findData("2"))
    box.activated.emit(box.currentIndex())
    QTest.qWait(5)
    sheet = board.ways
    assert len(sheet.drawing.handles) == 6
    last = sheet.drawing.handles[-1].area
    at = (sum(x for x, _y in last) / 4, last[0][1] + 10.0)
    QTest.mouseClick(sheet, Qt.MouseButton.LeftButton, pos=sheet.px(at).toPoint())
    assert driver.session.job.stock.board.method == "none"
    QTest.keyClick(sheet, Qt.Key.Key_Left)
    assert driver.session.job.stock.board.method == "upright"
    driver.session.undo()
    assert driver.session.job.stock.board.method == "none"
    driver.session.undo()
    assert driver.session.job.stock.board.method == "square_first"


def test_a_board_is_chosen_by_eye(driver, board, qtbot) -> None:  # type: ignore[no-untyped-def]
    rack = (
        Board(name="Walnut", length_mm=1600.0, width_mm=140.0, wood="walnut"),
        Board(name="Ash", length_mm=500.0, width_mm=140.0, wood="ash"),
    )
    driver.session.edit("Rack", revised(driver.session.job, rack=rack))
    box = control(board, QComboBox, "Below")
    box.setCurrentIndex(box.findData("3"))
    box.activated.emit(box.currentIndex())
    for _ in range(5):
        board.boards.grab()
        driver.window.wood.settle()
        QTest.qWait(5)
    sheet = board.boards
    assert "Ash: the board is too short" in sheet.drawing.words
    assert len(sheet.drawing.handles) == 3
    # Each shows the sides in its own wood: walnut is far darker than the sides' own.
    image = sheet.grab().toImage()
    middles = [
        tuple(sum(axis) / 4 for axis in zip(*handle.area, strict=True)) for handle in sheet.drawing.handles
    ]
    light = [image.pixelColor(sheet.px((x + 20.0, y + 5.0)).toPoint()).lightness() for x, y in middles]
    assert light[2] < light[1] - 30
    QTest.mouseClick(sheet, Qt.MouseButton.LeftButton, pos=sheet.px(middles[2]).toPoint())
    stock = driver.session.job.stock
    assert (stock.board.name, [one.name for one in stock.rack]) == ("Walnut", ["Board", "Ash"])
    QTest.keyClick(sheet, Qt.Key.Key_Left)
    QTest.keyClick(sheet, Qt.Key.Key_Left)
    assert driver.session.job.stock.board.name == "Ash"
    for _ in range(3):
        driver.session.undo()
    assert driver.session.job.stock.board.name == "Board"


def test_a_board_is_added_typed_pictured_and_kept_on_the_rack(  # type: ignore[no-untyped-def]
    driver, monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    Image.new("RGB", (400, 60), (150, 110, 70)).save(tmp_path / "plank.jpg")
    (tmp_path / "no.png").write_text("no picture")

    def by_hand(box: Rackbox) -> int:
        box.show()
        buttons = {b.text(): b for b in box.findChildren(QPushButton)}
        buttons["Add a board"].click()
        lines = {line.accessibleName(): line for line in box.findChildren(QLineEdit)}
        type_over(lines["Name"], "Plank", Qt.Key.Key_Return)
        type_over(lines["Length"], "800", Qt.Key.Key_Return)
        box.take_picture("picture", tmp_path / "no.png")
        assert "PNG" in box._wrong.text()
        box.take_picture("picture", tmp_path / "plank.jpg")
        assert not box._wrong.text()
        buttons["Onto my rack"].click()
        buttons["Sides from this one"].click()
        box.findChild(QDialogButtonBox).button(QDialogButtonBox.StandardButton.Ok).click()
        return box.result()

    monkeypatch.setattr(Rackbox, "exec", by_hand)
    driver.window.action("boards").trigger()
    now = driver.session.job.stock
    assert (now.board.name, now.board.length_mm, bool(now.board.picture)) == ("Plank", 800.0, True)
    assert [board.name for board in now.rack] == ["Board"]
    assert [board.name for board in rack.load(tmp_path / "config")] == ["Plank"]
    # Saved, its picture is in the file, and the box can be handed on.
    driver.window.save_to(tmp_path / "box.peristyle")
    assert pictures.there(now.board.picture, (tmp_path / "box.peristyle",))
    driver.session.undo()
    assert driver.session.job.stock.board.name == "Board"


def test_the_command_line_has_a_rack_and_a_search(
    box, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, capsys
) -> None:  # type: ignore[no-untyped-def]
    monkeypatch.setenv("XDG_CONFIG_HOME", str(tmp_path / "cfg"))
    path = tmp_path / "box.peristyle"
    files.save(path, revised(box, board=replace(box.stock.board, length_mm=1200.0)), None)
    Image.new("RGB", (1600, 240), (150, 110, 70)).save(tmp_path / "p.png")
    run = boards_command.run
    run(
        [
            str(path),
            "add",
            "Oak",
            "--size",
            "1400x150x14",
            "--wood",
            "oak",
            "--looks",
            "knots, sapwood",
            "--price",
            "12",
        ]
    )
    run([str(path), "add", "Real", "--picture", str(tmp_path / "p.png")])
    job = files.load(path).job
    assert [board.name for board in job.stock.rack] == ["Oak", "Real"]
    assert job.stock.rack[0].looks == ("knots", "sapwood")
    run([str(path), "keep", "Oak"])
    run([str(path), "remove", "Oak"])
    run([str(path), "fetch", "Oak"])
    run([str(path), "use", "Oak"])
    run([str(path), "offcuts"])
    out = capsys.readouterr().out
    assert "lost in cuts" in out
    assert "it costs" in out
    assert len(rack.load(tmp_path / "cfg" / "peristyle")) > 1
    match_command.run([str(path), "--other-edge", "--take", "1"])
    told = capsys.readouterr().out
    assert "(taken)" in told
    taken = files.load(path).job
    assert taken.stock.board.shift_mm > 0
    assert plan(taken).wrap.spare_mm >= 0
    match_command.run([str(path), "--json"])
    assert '"suggestions"' in capsys.readouterr().out
    with pytest.raises(PeristyleError, match="no board on the rack"):
        run([str(path), "use", "Gone"])
    files.save(path, revised(taken, board=replace(taken.stock.board, method="none")), files.load(path).stamp)
    with pytest.raises(PeristyleError, match="no start to search"):
        match_command.run([str(path)])


def test_what_is_no_picture_is_refused_before_memory_is_spent(tmp_path: Path) -> None:
    held = io.BytesIO()
    Image.new("1", (20_000, 12_000)).save(held, "PNG")
    (tmp_path / "huge.png").write_bytes(held.getvalue())
    (tmp_path / "cut.png").write_bytes(held.getvalue()[:-2000])
    for name, said in (("huge.png", "100 million"), ("cut.png", "100 million|damaged")):
        with pytest.raises(PeristyleError, match=said):
            pictures.keep(tmp_path / name, tmp_path / "kept")
    assert pictures.read("../../etc/passwd", [tmp_path]) is None


def test_a_rack_that_cannot_be_read_is_left_as_it_is(  # type: ignore[no-untyped-def]
    driver, monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    spoilt = tmp_path / "config" / rack.NAME
    spoilt.write_text('{"format": "peristyle-boards", "boards": [')

    def by_hand(box: Rackbox) -> int:
        next(b for b in box.findChildren(QPushButton) if b.text() == "Onto my rack").click()
        return 1

    monkeypatch.setattr(Rackbox, "exec", by_hand)
    driver.window.action("boards").trigger()
    driver.window.action("offcuts").trigger()
    assert spoilt.read_text().endswith('"boards": [')


def test_a_board_is_photographed_by_hand(driver, qtbot, tmp_path: Path) -> None:  # type: ignore[no-untyped-def]
    """A photograph of the simulated camera: found, a corner dragged off and moved by keys, made straight."""
    camera = Camera(1600, 800, (3.0, -4.0), 1.0, 0.84)
    wood = face_picture(Grown("walnut", 4, 700.0, 120.0, 12.0), px_per_mm=2.5)
    (tmp_path / "shot.jpg").write_bytes(photograph(wood, 700.0, 120.0, camera, 3).jpeg)
    window, session = driver.window, driver.session
    box = Photobox(
        window, session.job.stock.board, session.format, window.theme,
        lambda pixels: pictures.keep_pixels(pixels, tmp_path / "kept"), back=False,
    )  # fmt: skip
    box.show()
    box.add(from_file(tmp_path / "shot.jpg"))
    qtbot.waitUntil(lambda: not box.busy, timeout=60_000)
    canvas = box.canvas
    found = [QPointF(c) for c in canvas._shown.corners]
    spot = canvas._to_screen(found[2])
    canvas.setFocus()
    QTest.mousePress(canvas, Qt.MouseButton.LeftButton, pos=spot.toPoint())
    QTest.mouseMove(canvas, (spot + QPointF(-20, 12)).toPoint())
    QTest.mouseRelease(canvas, Qt.MouseButton.LeftButton, pos=(spot + QPointF(-20, 12)).toPoint())
    assert (canvas._shown.corners[2] - found[2]).manhattanLength() > 20
    away = canvas._shown.corners[2]
    QTest.keyClick(canvas, Qt.Key.Key_Right, Qt.KeyboardModifier.ShiftModifier)
    QTest.keyClick(canvas, Qt.Key.Key_Up)
    assert canvas._shown.corners[2] == away + QPointF(10, -1)
    canvas._shown.corners[2] = found[2]
    for field, text in ((box.length, "700"), (box.width_, "12 cm")):
        field.setFocus()
        field.clear()
        QTest.keyClicks(field, text)
    box._buttons.button(QDialogButtonBox.StandardButton.Ok).click()
    qtbot.waitUntil(lambda: not box.busy, timeout=60_000)
    assert box.result() == QDialog.DialogCode.Accepted
    assert (box.board.length_mm, box.board.width_mm) == (700.0, 120.0)
    kept = pictures.read(box.board.picture, [tmp_path / "kept"])
    assert kept is not None
    # What is no picture is said, and nothing else happens.
    (tmp_path / "no.png").write_bytes(b"nothing")
    other = Photobox(window, box.board, session.format, window.theme, lambda _pixels: "", back=True)
    other.add(from_file(tmp_path / "no.png"))
    qtbot.waitUntil(lambda: not other.busy, timeout=60_000)
    assert "no PNG" in other._wrong.text()
    other.reject()


def test_in_a_narrow_window_all_choices_of_the_search_are_there(driver) -> None:  # type: ignore[no-untyped-def]
    driver.window.resize(1024, 700)
    driver.window.open_stage("board")
    QApplication.processEvents()
    view = driver.window.view("board")
    below = view._below
    for name in ("Search", "Stretch", "Paint"):
        control = next(w for w in below.currentWidget().findChildren(QWidget) if w.accessibleName() == name)
        lower = control.mapTo(below, control.rect().bottomLeft())
        assert control.isVisible()
        assert lower.y() <= below.height(), name


@pytest.mark.parametrize(("sides", "wide"), [(4, 1280), (7, 1280), (12, 1024), (24, 1024), (60, 1280)])
def test_names_on_the_board_never_cover_each_other(driver: Driver, sides: int, wide: int) -> None:
    driver.window.resize(wide, 700)
    board = Board(length_mm=1500.0, width_mm=120.0)
    job = revised(driver.session.job, shape=Regular(sides, 250.0, "across_flats"), board=board, lid=None)
    assert driver.session.edit("Sides", job)
    driver.window.open_stage("board")
    QApplication.processEvents()
    sheet = driver.window.view("board").sheet  # type: ignore[attr-defined]
    names = [
        s for s in sheet.drawing.shapes if isinstance(s, Label) and s.role == "paper" and s.pick is not None
    ]
    assert len(names) == sides
    boxes = sorted((label_box(name, sheet._fit, sheet.font()) for name in names), key=lambda box: box.x)
    # Two pixels of air on either side are part of a box.
    assert all(a.x + a.wide - 2 <= b.x + 2 for a, b in itertools.pairwise(boxes))
    if sides <= 7:
        assert any(name.fitting(sheet.fontMetrics().horizontalAdvance, sheet._fit.scale) for name in names)


def test_a_board_as_large_as_needed_is_shown_as_large_as_it_is_planned(driver: Driver) -> None:
    """Until its size is typed: then that stays."""
    session = driver.session
    session.edit("As needed", revised(session.job, as_needed=True))
    session.edit("Higher", revised(session.job, height_mm=session.job.design.form.height_mm + 90.0))
    board = session.plan.job.stock.board
    assert session.job.stock.board == board
    assert "board_too_narrow" not in {finding.code for finding in session.plan.findings}
    sheet = driver.sheet("board")
    driver.type(driver.tag(sheet, "stock.board.width_mm"), "60")
    assert session.job.stock.board.width_mm == 60.0
    assert not session.job.stock.as_needed
    assert "board_too_narrow" in {finding.code for finding in session.plan.findings}
