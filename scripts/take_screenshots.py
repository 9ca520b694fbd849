"""One current picture of each main view, from the demo data, at 1280×800."""

import argparse
import os
import tempfile
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from PySide6.QtWidgets import QApplication

from peristyle.app import make_application, make_window
from peristyle.drawing.shapes import Pick
from peristyle.model.design import replace
from peristyle.model.job import revised
from peristyle.model.stock import Board, Mark
from peristyle.storage import examples
from peristyle.ui.atsaw import AtSaw
from peristyle.ui.newbox import NewBox
from peristyle.ui.rackbox import Rackbox
from peristyle.ui.toolbox import Toolbox
from peristyle.ui.window import Window

# file name, example, stage, theme, what is picked
SHOTS = (
    ("size", "Star-chart box", "size", "light", None),
    ("section", "Star-chart box", "section", "light", None),
    ("board", "Star-chart box", "board", "light", Pick("side", 1)),
    ("corners", "Star-chart box", "corners", "light", Pick("corner", 0)),
    ("saw", "Eyepiece caddy", "saw", "light", Pick("cut", 5)),
    ("size-polygon", "Eyepiece caddy", "size", "light", Pick("corner", 1)),
    ("size-splayed-dark", "Filter tray", "size", "dark", Pick("side", 0)),
    ("board-splayed", "Filter tray", "board", "light", None),
    ("size-dividers", "Ticket box", "size", "light", None),
    ("section-polygon-dark", "Eyepiece caddy", "section", "dark", None),
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
    ("board-upright", (), {"method": "upright", "width_mm": 620.0, "wood": "oak", "sawn": "quarter"}),
)
RACK = (
    Board(name="Quartered oak", length_mm=1800.0, width_mm=130.0, wood="oak", sawn="quarter", price=24.0),
    Board(name="Ash with sapwood", length_mm=950.0, wood="ash", looks=("sapwood", "knots"), seed=11),
)


def settle(app: QApplication, window: Window) -> None:
    """Let everything that grows in the background arrive and be painted."""
    for _ in range(3):
        app.processEvents()
        window.wood.settle()
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
