"""What can be measured on a box as it is made: every quantity, what is planned of it, and how well it is known."""

import math
from collections.abc import Iterator
from typing import Final, Literal, NamedTuple

from peristyle.model.job import Job, Measured
from peristyle.planning.plan import Plan

Gauge = Literal["caliper", "rule", "angle gauge", "feeler"]
# One standard deviation of what a gauge reads, in mm or degrees (from memory of common practice).
SURE: Final[dict[Gauge, float]] = {"caliper": 0.03, "rule": 0.25, "angle gauge": 0.05, "feeler": 0.03}
_LIMIT_MM: Final = 150.0  # what a caliper reaches (common practice)


class Quantity(NamedTuple):
    """One thing to be measured: its name as an address has it, the key of its words and the names in them, what is
    planned (None where nothing is), in mm or degrees, and with what it is measured.
    """

    name: str
    key: str
    names: dict[str, str]
    planned: float | None
    unit: Literal["mm", "deg"]
    gauge: Gauge

    @property
    def sure(self) -> float:
        """How well it is known once measured, one standard deviation."""
        return SURE[self.gauge]


def uncertainty(quantity: Quantity, made: Measured) -> float:
    """How well a measured value is known: as the maker says, or as its gauge reads."""
    return made.uncertainty if made.uncertainty is not None else quantity.sure


def quantities(plan: Plan) -> Iterator[Quantity]:
    """Everything there is to measure, in the order a maker goes round a box: sides, corners, the whole, within."""
    yield from _sides(plan)
    yield from _corners(plan)
    yield from _whole(plan)
    yield from _within(plan)


def _long(mm: float) -> Gauge:
    return "caliper" if mm <= _LIMIT_MM else "rule"


def _sides(plan: Plan) -> Iterator[Quantity]:
    for side in plan.ring.sides:
        head, names = f"side.{side.name}", {"side": side.name}
        yield Quantity(f"{head}.length_mm", "length", names, side.outside_mm, "mm", _long(side.outside_mm))
        yield Quantity(f"{head}.width_mm", "width", names, side.slant_mm, "mm", _long(side.slant_mm))
        yield Quantity(f"{head}.thickness_mm", "thickness", names, side.thickness_mm, "mm", "caliper")
        for end, cut in (("start", side.start), ("end", side.end)):
            told = names | {"end": end}
            yield Quantity(f"{head}.{end}.bevel_deg", "bevel", told, cut.bevel_deg, "deg", "angle gauge")
            if abs(cut.miter_deg) > 1e-6:
                yield Quantity(f"{head}.{end}.miter_deg", "miter", told, cut.miter_deg, "deg", "angle gauge")
        for groove in plan.section.grooves:
            told = names | {"panel": groove.panel}
            own = f"{head}.groove.{groove.panel}"
            yield Quantity(f"{own}.width_mm", "groove_width", told, groove.width_mm, "mm", "caliper")
            yield Quantity(f"{own}.depth_mm", "groove_depth", told, groove.depth_mm, "mm", "caliper")


def _corners(plan: Plan) -> Iterator[Quantity]:
    for corner in plan.ring.corners:
        head, names = f"corner.{corner.name}", {"corner": corner.name}
        for where in ("outside", "inside"):
            yield Quantity(f"{head}.gap_{where}_mm", f"gap_{where}", names, 0.0, "mm", "feeler")
        keys = [key for key in plan.keys.keys if key.corner == corner.index]
        for key in keys:
            told = names | {"key": str(key.number)}
            yield Quantity(
                f"{head}.slot.{key.number}.width_mm", "slot", told, key.thickness_mm, "mm", "caliper"
            )


def diagonal_pairs(count: int) -> list[tuple[int, int]]:
    """The corners whose distances tell a ring that is out of true: each with the one across, or the one after next."""
    if count % 2 == 0:
        return [(i, i + count // 2) for i in range(count // 2)]
    return [(i, (i + count // 2) % count) for i in range(count)] if count > 3 else []


def _whole(plan: Plan) -> Iterator[Quantity]:
    ring, corners = plan.ring, plan.ring.corners
    if not ring.sides:
        return
    points = ring.reached
    for a, b in diagonal_pairs(len(corners)):
        mm = math.dist(points[a], points[b])
        names = {"corner": corners[a].name, "other": corners[b].name}
        yield Quantity(f"ring.{corners[a].name}_{corners[b].name}_mm", "diagonal", names, mm, "mm", "rule")
    x, y = _middle(plan)
    for corner, point in zip(corners, points, strict=True):
        mm = math.dist((x, y), point)
        yield Quantity(f"ring.middle.{corner.name}_mm", "middle", {"corner": corner.name}, mm, "mm", "rule")
    lid = plan.section.lid
    for side in ring.sides:
        names = {"side": side.name}
        cos = ring.slabs[side.index].cos_slope
        if lid is None:
            continue
        low, high = lid.lost_low_mm / cos, (plan.job.design.form.height_mm - lid.lost_high_mm) / cos
        yield Quantity(f"body.{side.name}.height_mm", "body", names, low, "mm", _long(low))
        yield Quantity(f"lid.{side.name}.height_mm", "lid", names, high, "mm", _long(high))


def _middle(plan: Plan) -> tuple[float, float]:
    points = plan.ring.reached
    return sum(x for x, _y in points) / len(points), sum(y for _x, y in points) / len(points)


def _within(plan: Plan) -> Iterator[Quantity]:
    for panel in plan.section.panels:
        head, names = f"panel.{panel.name}", {"panel": str(panel.name)}
        for what, mm in (
            ("length", panel.length_mm),
            ("width", panel.width_mm),
            ("thickness", panel.thickness_mm),
        ):
            gauge: Gauge = "caliper" if what == "thickness" else _long(mm)
            yield Quantity(f"{head}.{what}_mm", f"panel_{what}", names, mm, "mm", gauge)
    if plan.contents.blocks:
        yield Quantity("contents.play_mm", "play", {}, None, "mm", "feeler")


def known(plan: Plan) -> dict[str, Quantity]:
    """All quantities by their names."""
    return {one.name: one for one in quantities(plan)}


def out_of_square_deg(plan: Plan) -> float | None:
    """How far a ring of four sides is out of its planned corners, as both diagonals show it (degrees): the corner after
    the second side larger above 0. None where they were not both measured.

    Source: the cosine rule for both diagonals of a parallelogram; d₁² − d₂² = 4ab·cos(corner) for one.
    """
    pairs, corners = diagonal_pairs(len(plan.ring.corners)), plan.ring.corners
    if len(corners) != 4:
        return None
    names = [f"ring.{corners[a].name}_{corners[b].name}_mm" for a, b in pairs]
    values, there = measured(plan.job), known(plan)
    if any(name not in values for name in names):
        return None
    off = [values[name].value ** 2 - (there[name].planned or 0.0) ** 2 for name in names]
    a, b = (plan.ring.sides[i].outside_mm for i in (0, 1))
    return math.degrees((off[0] - off[1]) / (4 * a * b))


def measured(job: Job) -> dict[str, Measured]:
    """What was measured, by name."""
    return {one.name: one for one in job.measured}
