"""Set-ups against sums and against geometry of their own; corrections converge; calendars against every order."""

import math
import random

import pytest

from peristyle.core.errors import PeristyleError
from peristyle.core.setups import five_cuts, kerf, ring_of_scraps, runner, scale, stop, two_scraps, width
from peristyle.devices.saw import SimulatedSaw
from peristyle.model.design import Rectangle
from peristyle.planning.setups import CHECKS, correction, kept, made, worked_out
from support import fits

ROUNDS = [("tilt_pair", "tilt"), ("tilt_ring", "tilt"), ("five_cut", "swing"), ("stop", "stop")]


def test_the_usual_figures() -> None:
    """B 25.00, A 24.76, L 400, D 600: the fence moves 0.090 mm. Source: the five-cut test (common practice)."""
    found = five_cuts(24.76, 25.0, 400.0, 600.0)
    assert found.move_mm == pytest.approx(0.090)
    assert two_scraps(90.2).off == pytest.approx(0.1)  # two pieces show twice the error
    assert ring_of_scraps(8, 0.3627, 12.99).off == pytest.approx(-0.1, abs=1e-3)
    assert kerf(500.0, [59.0] * 8, 8).off == pytest.approx(3.5)
    assert stop(200.0, [199.4, 199.6]).off == pytest.approx(0.5)
    assert scale([100.0, 600.0], [99.9, 599.4]).off == pytest.approx(0.8, rel=0.3)
    assert width([6.02, 6.0]).spread == pytest.approx(0.01414, abs=1e-4)
    assert runner(0.2, 400.0).spread == pytest.approx(math.degrees(0.2 / 400) / 2, rel=1e-6)


@pytest.mark.parametrize("error", [0.15, -0.08])
def test_five_cuts_by_turning_a_board(error: float) -> None:
    """A board turned four times on a fence that is off by so much: its edges by rotations, the strip by distances."""
    heading, edges = 0.0, []
    for _ in range(
        5
    ):  # each cut is square to the fence but for the error; the edge before it lies on the fence
        heading += math.pi / 2 + math.radians(error)
        edges.append(heading)
    # The fifth cut against the first: what four turns more than a full one add up to.
    taper = edges[4] - edges[0] - 2 * math.pi
    length, strip = 400.0, 25.0
    far, near = strip - taper * length / 2, strip + taper * length / 2
    assert five_cuts(far, near, length, 600.0).off == pytest.approx(error, rel=1e-3)


@pytest.mark.parametrize("seed", range(12))
@pytest.mark.parametrize(("kind", "gauge"), ROUNDS)
def test_two_rounds_bring_a_hidden_error_to_what_the_readings_allow(seed: int, kind: str, gauge: str) -> None:
    saw = SimulatedSaw(seed)
    known = next(one for one in CHECKS if one == kind)
    for _ in range(2):
        saw.correct(gauge, worked_out(known, saw.read(known)).off)
    assert abs(saw.left(gauge)) < {"tilt_pair": 0.06, "tilt_ring": 0.02, "five_cut": 0.01, "stop": 0.06}[kind]


def test_readings_that_cannot_be_are_said() -> None:
    rng = random.Random(1)
    for kind in CHECKS:
        with pytest.raises(PeristyleError):
            worked_out(kind, ())
    for call in (
        lambda: two_scraps(10.0), lambda: ring_of_scraps(2, 0.1, 10.0), lambda: kerf(100.0, [100.0], 1),
        lambda: scale([100.0, 100.1], [99.0, 99.1]), lambda: five_cuts(1.0, 1.0, 0.0, 1.0),
        lambda: stop(rng.random(), []),
    ):  # fmt: skip
        with pytest.raises(PeristyleError):
            call()


@pytest.mark.parametrize(
    "order", [("scale", "stop"), ("stop", "scale"), ("scale",), ("stop", "scale", "stop")]
)
def test_a_stop_and_a_length_scale_are_not_counted_twice(order: tuple[str, ...]) -> None:
    """A scale that begins at 0.4 and says 2 mm too much for a metre: 400 mm are at 401.2 on it."""

    def says(mm: float) -> float:
        return 0.4 + 1.002 * mm

    read = {"scale": (says(100.0), 100.0, says(600.0), 600.0), "stop": (says(200.0), 200.0, 200.0)}
    job = fits.box(Rectangle(200.0, 120.0))
    for kind in order:
        job = kept(job, made(next(one for one in CHECKS if one == kind), "", read[kind], ""))
    assert correction(job.shop, "", "stop", 400.0) == pytest.approx(1.2, abs=1e-9)


def test_scraps_show_what_the_gauge_says_too_much_already() -> None:
    job = fits.box(Rectangle(200.0, 120.0))
    for kind, value, total in (
        ("gauge", 0.2, 0.2), ("tilt_pair", 90.6, 0.3), ("gauge", 0.25, 0.35), ("tilt_ring", (8, 0.0, 20.0), 0.0),
    ):  # fmt: skip
        readings = value if isinstance(value, tuple) else (value,)
        job = kept(job, made(next(one for one in CHECKS if one == kind), "", readings, ""))
        assert correction(job.shop, "", "tilt", 45.0) == pytest.approx(total)
