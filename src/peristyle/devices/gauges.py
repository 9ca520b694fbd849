"""Simulated gauges: a caliper, an angle gauge and feelers that read a box whose errors nobody knows beforehand.

A real gauge that types its reading like a keyboard fills the value that waits; so does this one, through `typed`.
"""

import math
import random
from typing import Final, NamedTuple, Protocol

from peristyle.core.planes import EndCut
from peristyle.planning.fit.closing import Way, closed
from peristyle.planning.fit.errors import Practice, sources
from peristyle.planning.fit.quantities import Gauge, Quantity
from peristyle.planning.fit.ring import Made, planned
from peristyle.planning.plan import Plan


class Reads(NamedTuple):
    """How a gauge reads: what it always adds, its noise (one standard deviation), and its finest step."""

    offset: float = 0.0
    noise: float = 0.0
    step: float = 0.01


USUAL: Final[dict[Gauge, Reads]] = {
    "caliper": Reads(0.0, 0.02, 0.01), "rule": Reads(0.0, 0.2, 0.5), "angle gauge": Reads(0.0, 0.04, 0.05),
    "feeler": Reads(0.0, 0.01, 0.05),
}  # fmt: skip


class Reader(Protocol):
    """What any gauge does: it reads one quantity, as it would type it."""

    def typed(self, quantity: Quantity) -> str | None:
        """The reading in mm or degrees, as text; None of what it cannot measure."""
        ...


class Bench:
    """A box on a simulated bench: cut with the tools' own spread by chance, and read by simulated gauges."""

    def __init__(
        self, base: Plan, seed: int, way: Way = "band", reads: dict[Gauge, Reads] | None = None
    ) -> None:
        self._chance = random.Random(seed)
        self._reads = reads or USUAL
        self._base = base
        self.made = self._cut(base)
        self._joints = closed(base.ring, self.made, way, base.job.closing)

    def _cut(self, base: Plan) -> list[Made]:
        """The sides as they come off: every set-up and every cut off by its spread."""
        sides = [planned(side) for side in base.ring.sides]
        for source in sources(base, Practice()):
            off = self._chance.gauss(0.0, source.sd)
            for number, side in enumerate(base.ring.sides):
                if source.of.startswith("stop") and side.name in source.about:
                    sides[number] = sides[number]._replace(length_mm=sides[number].length_mm + off)
                for end in ("start", "end"):
                    if f"{side.name}.{end}" not in source.about:
                        continue
                    cut: EndCut = getattr(sides[number], end)
                    tilts = source.of.startswith("tilt")
                    cut = (
                        cut._replace(bevel_deg=cut.bevel_deg + off)
                        if tilts
                        else cut._replace(miter_deg=cut.miter_deg + off)
                    )
                    whole = sides[number]
                    sides[number] = whole._replace(start=cut) if end == "start" else whole._replace(end=cut)
        return sides

    def true(self, quantity: Quantity) -> float | None:
        """What a quantity truly is; None of what this bench does not know."""
        names, key = quantity.names, quantity.key
        if "side" in names:
            number = next(side.index for side in self._base.ring.sides if side.name == names["side"])
            one = self.made[number]
            if key in ("bevel", "miter"):
                cut = one.start if names["end"] == "start" else one.end
                return cut.bevel_deg if key == "bevel" else cut.miter_deg
            return {"length": one.length_mm, "thickness": one.thickness_mm}.get(key, quantity.planned)
        if key in ("gap_outside", "gap_inside"):
            number = next(c.index for c in self._base.ring.corners if c.name == names["corner"])
            joint = self._joints[number]
            return joint.outside_mm if key == "gap_outside" else joint.inside_mm
        return quantity.planned

    def typed(self, quantity: Quantity) -> str | None:
        """A reading, with the gauge's offset, noise and finest step."""
        value, reads = self.true(quantity), self._reads[quantity.gauge]
        if value is None:
            return None
        read = value + reads.offset + self._chance.gauss(0.0, reads.noise)
        if quantity.gauge == "feeler":
            read = max(0.0, read)
        places = max(0, -math.floor(math.log10(reads.step))) if reads.step > 0 else 3
        return f"{round(read / reads.step) * reads.step:.{places}f}" if reads.step > 0 else f"{read:.3f}"
