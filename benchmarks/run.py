"""Prints a table of what takes how long, with ratios against a floor timed in the same run.

    QT_QPA_PLATFORM=offscreen python benchmarks/run.py

Times are medians (and 95th percentiles for frames) of repeated runs; the floors are measured
between them, so that a slow machine slows both.
"""

import os
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

import numpy as np
from msgspec.structs import replace
from PySide6.QtWidgets import QApplication, QSlider

from peristyle.app import make_application, make_window
from peristyle.model.design import Keys, Lid, Outline, Panel, Regular
from peristyle.model.job import Job, job_of, revised
from peristyle.model.stock import Board
from peristyle.planning.plan import Plan, plan
from peristyle.planning.stock.largest import largest
from peristyle.storage import examples
from peristyle.ui.window import Window

ROUNDS = 5
BARE_WINDOW = """
import sys, time
from PySide6.QtWidgets import QApplication, QSlider, QMainWindow, QLabel
app = QApplication([])
class W(QMainWindow):
    def paintEvent(self, event):
        super().paintEvent(event)
        print("painted", flush=True)
        import os; os._exit(0)
w = W(); w.setCentralWidget(QLabel("x")); w.resize(1280, 800); w.show(); app.exec()
"""
# The way a maker starts it, ended at the first paint of the whole window.
OUR_WINDOW = """
import os, sys
from peristyle import cli
import gc; gc.disable()  # as the command itself does
cli.load_what_needs_no_qt()
import peristyle.app as application
kept = application.make_window
def make_window(*a, **k):
    window = kept(*a, **k)
    frieze, old = window.frieze, window.frieze.paintEvent
    def paint(event):
        old(event)
        print("painted", flush=True)
        os._exit(0)
    frieze.paintEvent = paint
    return window
application.make_window = make_window
cli.main(["--demo"])
"""
ARGPARSE = "import argparse\np = argparse.ArgumentParser(); p.add_argument('--sides'); p.parse_args(['--sides', '8'])"


def median_ms(do: Callable[[], object], runs: int) -> float:
    times = []
    for _ in range(runs):
        start = time.perf_counter()
        do()
        times.append((time.perf_counter() - start) * 1000)
    return statistics.median(times)


def process_ms(*commands: list[str], runs: int = 9) -> list[float]:
    """Medians of whole processes, taken in turn so that both see the same machine."""
    times: list[list[float]] = [[] for _ in commands]
    # An installed program has its bytecode; one that may not keep it compiles itself at every start.
    env = {k: v for k, v in os.environ.items() if k != "PYTHONDONTWRITEBYTECODE"}
    env |= {"XDG_CONFIG_HOME": tempfile.gettempdir(), "XDG_STATE_HOME": tempfile.gettempdir()}
    for command in commands:
        subprocess.run(command, check=True, capture_output=True, env=env)
    for _ in range(runs):
        for place, command in enumerate(commands):
            start = time.perf_counter()
            subprocess.run(command, check=True, capture_output=True, env=env)
            times[place].append((time.perf_counter() - start) * 1000)
    return [statistics.median(t) for t in times]


def dozen() -> Job:
    return job_of(
        shape=Regular(12, 300.0, "across_flats"),
        height_mm=110.0,
        bottom=Panel(),
        lid=Lid(),
        keys=Keys(count=3),
        board=Board(length_mm=1200.0),
    )


def irregular(lean: float = 0.0, count: int = 24) -> Job:
    lengths: list[float | None] = [40.0 + (7 * i) % 23 for i in range(count)]
    lengths[-2:] = [None, None]
    corners: list[float | None] = [180.0 - 360.0 / count + (0.8 if i % 2 else -0.8) for i in range(count)]
    return job_of(
        shape=Outline(tuple(lengths), tuple(corners)),
        height_mm=80.0,
        slopes_deg=tuple(2.0 + lean + (i % 5) for i in range(count)),
        thicknesses_mm=tuple(8.0 + (i % 3) * 0.5 for i in range(count)),
        bottom=Panel(),
        keys=Keys(count=2),
        board=Board(length_mm=2400.0),
    )


def star_chart() -> Job:
    return examples.load(examples.FIRST)


def quietest(once: Callable[[], list[float]]) -> tuple[float, float]:
    """95th percentile and median of the quietest of some rounds: what else runs on the machine is not the program's."""
    rounds = [
        (statistics.quantiles(times, n=20)[-1], statistics.median(times))
        for times in (once() for _ in range(ROUNDS))
    ]
    return min(rounds)


def frames(
    app: QApplication, window: Window, stage: str, change: Callable[[Job, int], Job]
) -> tuple[float, float]:
    """A drag step: plan, every view that shows, repainted."""
    window.open_stage(stage)
    for _ in range(3):
        app.processEvents()
        window.wood.settle()
    session = window.session

    def dragged() -> list[float]:
        base = session.job
        times = []
        session.begin()
        for step in range(120):
            start = time.perf_counter()
            session.preview(change(base, step))
            app.processEvents()
            times.append((time.perf_counter() - start) * 1000)
        session.cancel()
        app.processEvents()
        return times

    return quietest(dragged)


def turned_apart(app: QApplication, window: Window) -> tuple[float, float]:
    """A frame of the solid while it is pulled apart by its slider."""
    window.open_stage("size")
    for _ in range(3):
        app.processEvents()
        window.wood.settle()
    solid = window.view("size").solid  # type: ignore[attr-defined]
    slider = solid.findChild(QSlider)

    def pulled() -> list[float]:
        slider.setSliderDown(True)
        times = []
        for step in range(100):
            start = time.perf_counter()
            slider.setValue(step + 1)
            app.processEvents()
            times.append((time.perf_counter() - start) * 1000)
        slider.setSliderDown(False)
        slider.setValue(0)
        app.processEvents()
        return times

    return quietest(pulled)


def photographed_board(window: Window) -> Job:
    """The demo box on a board known by a picture of twelve million points."""
    from peristyle.storage import pictures
    from peristyle.wood.grown import face_picture
    from peristyle.wood.looks import Grown

    job = star_chart()
    board = job.stock.board
    scale = (12_000_000 / (board.length_mm * board.width_mm)) ** 0.5
    pixels = face_picture(Grown("oak", 3, board.length_mm, board.width_mm, 12.0), 0.0, scale)
    return revised(job, board=replace(board, picture=pictures.keep_pixels(pixels, window._pictures)))


def iter_of(plans: list[Plan], name: str) -> Callable[[], object]:
    """Asks the next plan for something each time."""
    left = iter(plans)
    return lambda: getattr(next(left), name)


def row(what: str, value: float, limit: str, note: str = "") -> None:
    print(f"{what:<58}{value:>9.2f} ms   {limit:<14}{note}", flush=True)


def searched() -> None:
    """The search for the closing corner, from pictures that are there."""
    from peristyle.planning.stock.scored import Pictures
    from peristyle.planning.stock.search import Allowed, search
    from peristyle.wood import match
    from peristyle.wood.looks import Grown, Look
    from peristyle.wood.pictures import seen

    picture = seen(Look(Grown("cherry", 3, 3000.0, 140.0, 12.0)), "face", lambda _name: None)

    def ranked() -> object:
        edges = match.edges_of(picture, 0.0, 100.0)
        starts, apart = match.closing(edges, 800.0, (10.0, 2190.0))
        return np.argsort(match.scaled(edges, 3.0).score(apart)), starts

    row("every start of a 3 m board at 0.25 mm, picture to ranking", median_ms(ranked, 5), "< 300 ms")
    woods = ("oak", "walnut", "ash")
    boards = [
        Board(
            name=f"Board {n}", length_mm=1000.0 + 40 * n, width_mm=120.0, wood=woods[n % 3], seed=n, looks=()
        )
        for n in range(15)
    ]
    job = revised(star_chart(), board=boards[0], rack=tuple(boards[1:]), contents=(), liner=None)
    pictures = Pictures(lambda _name: None, most=30)
    for board in boards:
        for face in ("front", "back"):
            pictures.of(replace(board, face=face))
    allowed = Allowed(other_face=True, other_edge=True, rack=True)
    row(
        "15 boards, both faces, both edges, pictures there",
        median_ms(lambda: search(job, allowed, lambda _name: None, pictures=pictures), 3),
        "< 3000 ms",
    )


def shot() -> None:
    """A photograph of 24 million points on the screen and made straight; a batch allocated."""
    import random

    from peristyle.devices.camera import Camera, photograph
    from peristyle.model.design import Rectangle
    from peristyle.planning.stock.allocate import allocate
    from peristyle.planning.stock.allocation import Wanted
    from peristyle.ui.photobox import SHOWN_POINTS
    from peristyle.wood.grown import face_picture
    from peristyle.wood.joined import Taken, developed
    from peristyle.wood.looks import Grown
    from peristyle.wood.outline import outline
    from peristyle.wood.photo import photographed

    wood = face_picture(Grown("oak", 3, 1200.0, 140.0, 12.0), 0.0, 3.0)
    taken = photograph(wood, 1200.0, 140.0, Camera(6000, 4000), 3)
    photo = photographed(taken.jpeg)
    corners = outline(photo)
    assert corners is not None
    row(
        "24 million points on the screen, outline found",
        median_ms(lambda: outline(photographed(taken.jpeg, SHOWN_POINTS)), 5),
        "< 1500 ms",
    )
    row("the same made straight", median_ms(lambda: developed([Taken(photo, corners, 1200.0)], 140.0), 3), "")
    chance = random.Random(4)
    kinds = [
        Wanted(f"Box {k}", job_of(shape=Rectangle(chance.uniform(90, 220), chance.uniform(70, 160), "outside"),
                                  height_mm=60.0, thicknesses_mm=(9.0,)), 4)
        for k in range(4)
    ]  # fmt: skip
    stock = [
        Board(name=f"B {n}", length_mm=chance.uniform(700, 2400), width_mm=chance.choice((70.0, 90.0, 140.0)),
              thickness_mm=10.0, price=round(chance.uniform(5, 30), 2))
        for n in range(8)
    ]  # fmt: skip
    settled: list[float] = []
    start = time.perf_counter()
    allocate(
        kinds,
        stock,
        8.0,
        progress=lambda what, _share, _gap: (
            settled.append((time.perf_counter() - start) * 1000)
            if what in ("corners", "offcut") and not settled
            else None
        ),
    )
    row("16 boxes over 8 boards, cost proven the least", settled[0] if settled else 8000.0, "< 2000 ms")


def errors() -> None:
    """Many boxes of twelve sides by chance, rolled up and in a band; one ring closed exactly."""
    from peristyle.planning.fit.closing import closed
    from peristyle.planning.fit.errors import Practice
    from peristyle.planning.fit.ring import planned
    from peristyle.planning.fit.simulate import simulate

    made = plan(dozen())
    sides = [
        planned(side)._replace(length_mm=side.outside_mm + 0.1 * (side.index % 3)) for side in made.ring.sides
    ]
    row(
        "100 000 boxes of 12 sides, rolled up",
        median_ms(lambda: simulate(made, Practice(), boxes=100_000), 5),
        "< 500 ms",
    )
    band = Practice(glue="band")
    row("2000 of them in a band", median_ms(lambda: simulate(made, band, boxes=2000), 10), "< 33 ms")
    row(
        "one ring of 12 sides in a band, exactly",
        median_ms(lambda: closed(made.ring, sides, "band", 0), 20),
        "< 33 ms",
    )


def main() -> None:
    print(f"{'what':<58}{'measured':>12}   {'wanted':<14}")
    start = dozen()
    # Another lean each time, so that nothing is remembered from the run before.
    lean = (step / 1000 for step in range(10_000))
    row(
        "plan of a 12-sided box",
        median_ms(lambda: plan(revised(dozen(), slopes_deg=(next(lean),))), 200),
        "< 2 ms",
    )
    plans = [plan(revised(dozen(), slopes_deg=(next(lean),))) for _ in range(60)]
    row("its pieces, when first asked for", median_ms(iter_of(plans, "pieces"), 60), "< 3 ms")
    row("its steps, when first asked for", median_ms(iter_of(plans, "steps"), 60), "< 6 ms")
    row(
        "plan of a 24-sided sloped irregular ring",
        median_ms(lambda: plan(irregular(next(lean))), 100),
        "< 5 ms",
    )
    row(
        "largest box from a board, with its panels",
        median_ms(lambda: largest(start, with_panels=True), 20),
        "< 100 ms",
    )
    errors()
    searched()
    shot()
    app = make_application()
    with tempfile.TemporaryDirectory() as scratch:
        folder = Path(scratch)
        window = make_window(dozen(), config=folder, state=folder)
        window.resize(1280, 800)
        window.show()
        drags: dict[str, Callable[[Job, int], Job]] = {
            "size": lambda d, i: revised(d, thicknesses_mm=(8.0 + i / 60,)),
            "section": lambda d, i: revised(d, lid=Lid(height_mm=20.0 + i / 8)),
            "board": lambda d, i: revised(d, board=replace(d.stock.board, shift_mm=i / 2)),
            "corners": lambda d, i: revised(d, keys=Keys(positions_mm=(20.0, 30.0 + i / 4, 100.0))),
        }
        drags |= dict.fromkeys(("saw", "fit", "log"), drags["board"])  # the frieze is dragged in every stage
        for stage in drags:  # a stage that has been open must cost nothing while another is
            window.open_stage(stage)
            app.processEvents()
        for job, what in ((star_chart(), "demo box"), (dozen(), "12 sides")):
            window.session.start(job)
            for stage, change in drags.items():
                slow, middle = frames(app, window, stage, change)
                row(
                    f"drag step, {stage}, {what}, 95th percentile", slow, "< 16 ms", f"median {middle:.1f} ms"
                )
            slow, middle = turned_apart(app, window)
            row(
                f"the solid pulled apart, {what}, 95th percentile", slow, "< 33 ms", f"median {middle:.1f} ms"
            )
        window.session.start(photographed_board(window))
        slow, middle = frames(app, window, "board", drags["board"])
        row("drag step, board, 12-megapixel picture, 95th perc.", slow, "< 16 ms", f"median {middle:.1f} ms")
        window.close()
    floor, ours = process_ms([sys.executable, "-c", BARE_WINDOW], [sys.executable, "-c", OUR_WINDOW])
    row("first paint, bare PySide6 window (floor)", floor, "")
    row("first paint, Peristyle with the demo", ours, "< 1.5 × floor", f"{ours / floor:.2f} ×")
    floor, ours = process_ms(
        [sys.executable, "-c", ARGPARSE],
        [sys.executable, "-m", "peristyle", "angles", "--sides", "8", "--slope", "10"],
        runs=15,
    )
    row("python + argparse (floor)", floor, "")
    row("peristyle angles", ours, "< 3 × floor", f"{ours / floor:.2f} ×")


if __name__ == "__main__":
    main()
