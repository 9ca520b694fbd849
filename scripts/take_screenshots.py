"""One current picture of each main view, from the demo data, at 1280×800."""

import argparse
import os
import tempfile
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from PySide6.QtWidgets import QApplication

from peristyle.app import make_application, make_window
from peristyle.devices.camera import chance_camera, photograph
from peristyle.drawing.shapes import Pick
from peristyle.model.design import replace
from peristyle.model.job import Job, revised
from peristyle.model.progress import with_measured
from peristyle.model.stock import Board, Mark
from peristyle.planning.plan import plan
from peristyle.planning.stock.looks import look_of
from peristyle.storage import examples, files
from peristyle.ui.atsaw import AtSaw
from peristyle.ui.batchbox import Batchbox
from peristyle.ui.newbox import NewBox
from peristyle.ui.photobox import Photobox, Source
from peristyle.ui.rackbox import Rackbox
from peristyle.ui.toolbox import Toolbox
from peristyle.ui.window import Window
from peristyle.wood.pictures import seen

# file name, example, stage, theme, what is picked
SHOTS = (
    ("size", "Star-chart box", "size", "light", None),
    ("section", "Star-chart box", "section", "light", None),
    ("board", "Star-chart box", "board", "light", Pick("side", 1)),
    ("corners", "Star-chart box", "corners", "light", Pick("corner", 0)),
    ("saw", "Eyepiece caddy", "saw", "light", Pick("step", 5)),
    ("size-polygon", "Eyepiece caddy", "size", "light", Pick("corner", 1)),
    ("size-splayed-dark", "Filter tray", "size", "dark", Pick("side", 0)),
    ("section-gable-dark", "Key house", "section", "dark", None),
)

KNOT = Mark(x_mm=420.0, y_mm=30.0, length_mm=24.0, width_mm=18.0)
BOARDS = (
    ("board-search", (KNOT,), {"length_mm": 1700.0, "looks": ("sapwood",), "wood": "ash", "seed": 4}),
    (
        "board-ways",
        (),
        {"looks": ("sapwood",), "wood": "walnut", "seed": 13, "thickness_mm": 28.0, "width_mm": 360.0},
    ),
    ("board-book", (), {"method": "book", "thickness_mm": 28.0, "wood": "walnut"}),
)
RACK = (
    Board(name="Quartered oak", length_mm=1800.0, width_mm=130.0, wood="oak", sawn="quarter", price=24.0),
    Board(name="Ash with sapwood", length_mm=950.0, wood="ash", looks=("sapwood", "knots"), seed=11),
)


OFFCUTS = (
    Board(name="From the shelves", length_mm=1150.0, width_mm=140.0, thickness_mm=12.0, price=14.0),
    Board(name="Long offcut", length_mm=1900.0, width_mm=78.0, thickness_mm=10.0, price=11.0,
          marks=(Mark(x_mm=640.0, y_mm=12.0, length_mm=30.0, width_mm=26.0),)),
    Board(name="Wide offcut", length_mm=820.0, width_mm=210.0, thickness_mm=12.0, price=12.0),
    Board(name="Short offcut", length_mm=560.0, width_mm=150.0, thickness_mm=10.0, price=4.0),
)  # fmt: skip


def settle(app: QApplication, window: Window) -> None:
    """Let everything that grows in the background arrive and be painted."""
    for _ in range(5):
        app.processEvents()
        window.wood.settle()
        window.reckoning.settle()
    app.processEvents()


def boards(app: QApplication, window: Window, folder: Path, only: list[str] | None) -> None:
    """The Board stage with a search, other ways of cutting, and the dialog of boards."""
    for name, marks, changes in BOARDS:
        if only is not None and name not in only:
            continue
        job = examples.load("Star-chart box")
        job = revised(job, board=replace(job.stock.board, marks=marks, **changes))
        window.session.start(job)
        window.set_theme("light")
        window.open_stage("board")
        view = window.view("board")
        view._turn_to("2" if "ways" in name else "0")
        if "search" in name:
            view._face = view._edge = True
            view._search()
            while view.matcher.busy:
                app.processEvents()
        settle(app, window)
        settle(app, window)
        window.grab().save(str(folder / f"{name}.png"))
    if only is None or "boards" in only:
        window.session.start(revised(examples.load("Star-chart box"), rack=RACK))
        rackbox = Rackbox(window, window.session, (), lambda _path: "")
        rackbox.show()
        app.processEvents()
        rackbox.grab().save(str(folder / "boards.png"))
        rackbox.close()


def photographed(app: QApplication, window: Window, folder: Path) -> None:
    """A board photographed by the simulated camera, its corners under the loupe."""
    board = examples.load("Star-chart box").stock.board
    picture = seen(look_of(board), "face", lambda _name: None).pixels
    shot = photograph(picture, board.length_mm, board.width_mm, chance_camera(9, 3000, 1500), 9)
    box = Photobox(window, board, window.session.format, window.theme, lambda _pixels: "", back=False)
    box.resize(1000, 620)
    box.show()
    box.add(Source("board.jpg", lambda: shot.jpeg))
    while box.busy:
        app.processEvents()
    settle(app, window)
    box.grab().save(str(folder / "photograph.png"))
    box.reject()


def batched(app: QApplication, window: Window, folder: Path, scratch: Path) -> None:
    """Seven Ticket boxes and a tray from a pile of offcuts, allocated."""
    box = Batchbox(window, window.theme, window.session.format, OFFCUTS, lambda _boards: True, 3.0)
    box.resize(1120, 680)
    box.show()
    for name, count in (("Ticket box", 7), ("Star-chart box", 1)):
        files.save(scratch / f"{name}.peristyle", examples.load(name))
        box.add_job(scratch / f"{name}.peristyle", count)
    box.add_boards(OFFCUTS)
    box._allocate()
    while box.busy:
        app.processEvents()
    box.resize(1120, 680)
    settle(app, window)
    box.grab().save(str(folder / "batch.png"))
    box.reject()


def window_corners(job: Job) -> list[str]:
    """The names of a box's corners."""
    return [corner.name for corner in plan(job).ring.corners]


def fitted(app: QApplication, window: Window, folder: Path) -> None:
    """The Fit stage of a box that was measured, with what it comes from."""
    job = examples.load("Eyepiece caddy")
    for corner in window_corners(job):
        job = with_measured(job, f"corner.{corner}.gap_inside_mm", 0.11)
    for name, value in (("side.C.length_mm", 82.9), ("side.F.end.bevel_deg", 22.64)):
        job = with_measured(job, name, value)
    window.session.start(job)
    window.set_theme("light")
    window.open_stage("fit")
    window.view("fit")._tabs.setCurrentIndex(1)
    settle(app, window)
    window.grab().save(str(folder / "fit.png"))


def logged(app: QApplication, window: Window, folder: Path) -> None:
    """The Log stage with a step of the calendar picked."""
    window.session.start(examples.load("Ticket box"))
    window.set_theme("light")
    window.open_stage("log")
    window.session.select(Pick("step", 20))
    settle(app, window)
    window.grab().save(str(folder / "log.png"))


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("folder", type=Path)
    parser.add_argument("--size", default="1280x800")
    parser.add_argument("--only")
    options = parser.parse_args()
    options.folder.mkdir(parents=True, exist_ok=True)
    wide, high = map(int, options.size.split("x"))
    app = make_application()
    with tempfile.TemporaryDirectory() as scratch:
        window = make_window(examples.load(examples.FIRST), config=Path(scratch), state=Path(scratch))
        window.resize(wide, high)
        window.show()
        for name, example, stage, theme, pick in SHOTS:
            if options.only and name not in options.only.split(","):
                continue
            window.session.start(examples.load(example))
            window.set_theme(theme)
            window.open_stage(stage)
            window.session.select(pick)
            settle(app, window)
            window.grab().save(str(options.folder / f"{name}.png"))
        boards(app, window, options.folder, options.only.split(",") if options.only else None)
        if not options.only or "photograph" in options.only.split(","):
            photographed(app, window, options.folder)
        if not options.only or "batch" in options.only.split(","):
            batched(app, window, options.folder, Path(scratch))
        if not options.only or "fit" in options.only.split(","):
            fitted(app, window, options.folder)
        if not options.only or "log" in options.only.split(","):
            logged(app, window, options.folder)
        if not options.only or "at-saw" in options.only.split(","):
            window.session.start(examples.load("Filter tray"))
            window.set_theme("light")
            window.at_saw()
            for _ in range(2):
                window.findChild(AtSaw).on()
            settle(app, window)
            window.grab().save(str(options.folder / "at-saw.png"))
            window.at_saw()
        if not options.only or "new" in options.only.split(","):
            window.set_theme("light")
            dialog = NewBox("mm", window.wood, window.theme, window)
            dialog.set_shape("regular")
            dialog.show()
            settle(app, window)
            dialog.grab().save(str(options.folder / "new.png"))
            dialog.close()
        if not options.only or "tools" in options.only.split(","):
            window.session.start(examples.load("Star-chart box"))
            tools = Toolbox(window, window.session, None)
            tools._list.setCurrentRow(5)
            tools.show()
            settle(app, window)
            tools.grab().save(str(options.folder / "tools.png"))
            tools.close()
        window.close()


if __name__ == "__main__":
    main()
