"""Real clicks and keys on a real window: what is typed, saved, dragged and recovered is safe."""

import json
import os
import subprocess
import sys
import time
from pathlib import Path

import pytest

from peristyle.model.design import Rectangle
from peristyle.model.job import revised
from peristyle.storage import examples, files

pytest.importorskip("PySide6")
from test_real_window import activate, display, pytestmark, wait_for, window_of, xdo  # noqa: F401 - fixture, marks

SPOTS = """
import sys, json, tempfile
from pathlib import Path
from peristyle.app import make_application, make_window
from peristyle.storage import files
from peristyle.ui.widgets.tag import SizeTag
app = make_application()
folder = Path(tempfile.mkdtemp())
window = make_window(files.load(Path(sys.argv[1])).job, config=folder, state=folder)
window.resize(*map(int, sys.argv[2:])); window.show(); app.processEvents(); app.processEvents()
sheet = window.view("size").sheet
found = {}
for tag in sheet.findChildren(SizeTag):
    at = tag.mapTo(window, tag.rect().center()); found[tag.field.id] = (at.x(), at.y())
area = sheet.drawing.handles[0].area
wall = sheet.mapTo(window, sheet.px((sum(p[0] for p in area) / 4, sum(p[1] for p in area) / 4)).toPoint())
found["wall"] = (wall.x(), wall.y())
window.may_leave = lambda: True
window.close()
print(json.dumps(found))
"""


def spots(path: Path, hand: "Hand") -> dict[str, tuple[int, int]]:
    """Where in a window of this size the sizes and the length's wall lie, asked of a process without a display."""
    env = {**os.environ, "QT_QPA_PLATFORM": "offscreen"}
    done = subprocess.run(
        [sys.executable, "-c", SPOTS, str(path), *hand.size()],
        env=env,
        check=True,
        capture_output=True,
        text=True,
    )
    found: dict[str, tuple[int, int]] = json.loads(done.stdout)
    return found


class Hand:
    """A mouse and a keyboard on one window."""

    def __init__(self, env: dict[str, str], window: str) -> None:
        self.env, self.window = env, window
        activate(env, window)

    def size(self) -> list[str]:
        lines = xdo(self.env, "getwindowgeometry", "--shell", self.window).splitlines()
        found = dict(line.split("=") for line in lines)
        return [found["WIDTH"], found["HEIGHT"]]

    def click(self, spot: tuple[int, int]) -> None:
        xdo(self.env, "mousemove", "--window", self.window, str(spot[0]), str(spot[1]), "click", "1")
        time.sleep(0.15)  # two clicks on two sizes must not make a double click

    def type(self, text: str, *keys: str) -> None:
        xdo(self.env, "type", text)
        if keys:
            xdo(self.env, "key", *keys)

    def keys(self, *keys: str) -> None:
        xdo(self.env, "key", *keys)

    def answer(self, title: str, *keys: str) -> None:
        """Keys for a question, then back to the window."""
        activate(self.env, window_of(self.env, title))
        xdo(self.env, "key", *keys)


def lengths(path: Path) -> tuple[float, float]:
    shape = files.load(path).job.design.form.shape
    assert isinstance(shape, Rectangle)
    return shape.length_mm, shape.width_mm


def test_hands_until_it_is_killed_and_on(display: dict[str, str], tmp_path: Path) -> None:  # noqa: F811
    path, two = tmp_path / "box.peristyle", tmp_path / "two.peristyle"
    files.save(path, examples.load("Star-chart box"))
    files.save(two, examples.load("Filter tray"))
    before = lengths(path)
    copies = tmp_path / "s" / "peristyle" / "recovery"
    # A relative name: what is kept must be the whole path.
    peristyle = subprocess.Popen([sys.executable, "-m", "peristyle", path.name], env=display, cwd=tmp_path)
    try:
        hand = Hand(display, window_of(display, "box.peristyle"))
        at = spots(path, hand)
        length, width = at["form.length_mm"], at["form.width_mm"]
        hand.click(length)
        hand.type("321", "ctrl+s")  # half typed
        wait_for(lambda: lengths(path) == (321.0, before[1]))
        hand.click(width)
        hand.type("99", "Return")
        hand.click(length)
        hand.type("7", "ctrl+z", "ctrl+shift+z", "ctrl+s")
        wait_for(lambda: lengths(path) == (321.0, 99.0))
        # A help page comes between, the button comes up over it: the drag is given up.
        at = spots(path, hand)
        length = at["form.length_mm"]
        xdo(display, "mousemove", "--window", hand.window, *map(str, at["wall"]))
        xdo(
            display,
            "mousedown",
            "1",
            "mousemove_relative",
            "--",
            "20",
            "0",
            "mousemove_relative",
            "--",
            "20",
            "0",
        )
        hand.keys("F1")
        page = window_of(display, "Keys and gestures")
        xdo(display, "mouseup", "1")
        activate(display, page)
        hand.keys("Escape")
        activate(display, hand.window)
        xdo(display, "mousemove_relative", "--", "30", "0")
        hand.keys("ctrl+s")
        # Saved as “two”: the file with the ending is asked about, and stays.
        hand.keys("ctrl+shift+s")
        activate(display, window_of(display, "Save the design"))
        hand.keys("ctrl+a")
        hand.type(str(tmp_path / "two"), "Return")
        hand.answer("^Peristyle$", "Escape")
        activate(display, hand.window)
        hand.click(length)
        hand.type("400", "Return")
        wait_for(lambda: list(copies.glob("*.json")))
        assert lengths(path) == (321.0, 99.0)
        assert files.load(two).job.design.name == "Filter tray"
    finally:
        peristyle.kill()
        peristyle.wait()
    (copy,) = copies.glob("*.json")
    assert json.loads(copy.read_text())["path"] == str(path)
    files.save(path, revised(files.load(path).job, name="Theirs"))
    elsewhere = tmp_path / "elsewhere"
    elsewhere.mkdir()
    again = subprocess.Popen([sys.executable, "-m", "peristyle", str(path)], env=display, cwd=elsewhere)
    try:
        # The question comes first: while it stands, the window behind it takes no keys.
        activate(display, window_of(display, "^Peristyle$"))
        xdo(display, "key", "Return")  # take it up again
        wait_for(lambda: not copy.exists())
        hand = Hand(display, window_of(display, "box.peristyle"))
        hand.keys("ctrl+s")
        hand.answer("^Peristyle$", "Escape")  # the file has changed since: asked
        assert files.load(path).job.design.name == "Theirs"
        assert list(copies.glob("*.json")), "the work is kept aside all the while"
    finally:
        again.kill()
        again.wait()
