"""A simulated saw with hidden errors, to rehearse set-ups on: it cuts the test pieces and they are measured."""

import math
import random
from typing import NamedTuple

from peristyle.model.job import SetUpKind


class Hidden(NamedTuple):
    """What nobody knows of it: how much more its scales say than is true (degrees, mm), the kerf, how well it repeats,
    the noise of what measures its pieces.
    """

    tilt_deg: float
    swing_deg: float
    stop_mm: float
    kerf_mm: float
    repeats_mm: float = 0.03
    reads_mm: float = 0.02
    reads_deg: float = 0.03


class SimulatedSaw:
    """Cuts what a check asks for, as it is adjusted by then."""

    def __init__(self, seed: int) -> None:
        self._chance = random.Random(seed)
        draw = self._chance.uniform
        self.hidden = Hidden(draw(-0.5, 0.5), draw(-0.3, 0.3), draw(-0.6, 0.6), draw(2.2, 3.4))
        self._corrected = {"tilt": 0.0, "swing": 0.0, "stop": 0.0}

    def correct(self, gauge: str, off: float) -> None:
        """Set its scale `off` more from now on, or move its fence so far."""
        self._corrected[gauge] += off

    def left(self, gauge: str) -> float:
        """What is still off, as nobody could know."""
        hidden = {"tilt": self.hidden.tilt_deg, "swing": self.hidden.swing_deg, "stop": self.hidden.stop_mm}[
            gauge
        ]
        return hidden - self._corrected[gauge]

    def read(self, kind: SetUpKind) -> tuple[float, ...]:
        """Test pieces cut and measured."""
        noise = self._chance.gauss
        hidden = self.hidden
        match kind:
            case "tilt_pair":
                bevel = 45.0 - self.left("tilt")
                return (180.0 - 2 * bevel + noise(0, hidden.reads_deg),)
            case "tilt_ring":
                face, count = 20.0, 8
                turns = math.radians(-self.left("tilt")) * 2 * count
                return (count, face * math.tan(turns) + noise(0, hidden.reads_mm), face)
            case "five_cut":
                length, screw = 400.0, 600.0
                strip = 25.0
                taper = 4 * math.radians(self.left("swing")) * length
                far, near = strip - taper / 2, strip + taper / 2
                return (far + noise(0, hidden.reads_mm), near + noise(0, hidden.reads_mm), length, screw)
            case "stop":
                cut = [200.0 - self.left("stop") + noise(0, hidden.repeats_mm) for _ in range(5)]
                return (200.0, *(c + noise(0, hidden.reads_mm) for c in cut))
            case "kerf":
                pieces = [50.0 + noise(0, 0.01) for _ in range(8)]
                before = math.fsum(pieces) + 8 * hidden.kerf_mm
                return (before, 8, *pieces)
            case "scale":
                return (100.0, 100.0 - self.left("stop"), 600.0, 600.0 - self.left("stop"))
            case "gauge":
                return (noise(0, 0.2),)
            case "width":
                return (6.0 + noise(0, 0.03), 6.0 + noise(0, 0.03))
            case "runner":
                return (abs(noise(0, 0.2)), 400.0)
