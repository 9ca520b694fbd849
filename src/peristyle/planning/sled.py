"""The sled the bevels are cut on, from the maker's table and the pieces of a box: its parts, and where screws go.

It has one base, on one side of the blade: the tilted blade itself trims the base's edge, and the work is held along
that edge. Across the blade, x is measured from where the blade's near face meets the table, towards the sled; z up from
the table. Lengths in mm, angles in degrees. Proportions are common practice, sizes of stock the maker's own.
"""

import math
from typing import Final

from msgspec import Struct

from peristyle.core.errors import PeristyleError
from peristyle.model.job import SledTable
from peristyle.planning.making.step import Step
from peristyle.planning.plan import Plan

_CLEAR: Final = 10.0  # between a screw and the blade
_SCREW: Final = 2.5  # half a screw's thickness
_TEETH: Final = 3.0  # what the blade stands out of the work
_DEEP: Final = 25.0  # a screw goes so far into the fence
_SPARE: Final = 10.0  # the base stands past the cut until it is trimmed
_KERF: Final = 5.0  # no blade takes more, square to it
_HOLD: Final = 60.0  # the stop with its hold-down
_BEHIND: Final = 80.0  # behind the fence, for what shields the blade where it comes out
_STRIP: Final = 45.0  # an edge strip
_SLIDES: Final = 0.8  # the runner is less deep than its slot
_FOOT: Final = 3.0  # the dust notch
_LEAST: Final = 6.0  # a base under this bends


class SledPart(Struct, frozen=True):
    """A part to be cut: its key, how many, and its sizes (mm)."""

    key: str
    count: int
    length_mm: float
    width_mm: float
    thickness_mm: float


class Sled(Struct, frozen=True):
    """A sled: parts; `numbers` for its steps by the names words have for them; the tilts it is for, the steepest
    first; how far the fence swings to either side; where the screws of the runner and of the fence stand, (x, y) with
    y from the base's front edge.
    """

    parts: tuple[SledPart, ...]
    numbers: dict[str, float]
    tilts_deg: tuple[float, ...]
    swing_deg: float
    over: bool
    runner_screws: tuple[tuple[float, float], ...]
    fence_screws: tuple[tuple[float, float], ...]

    @property
    def several(self) -> bool:
        """Whether the base has an edge strip for every tilt."""
        return len(self.tilts_deg) > 1


def sled(plan: Plan) -> Sled:
    """The sled for a box's bevels. Raises PeristyleError where none is cut flat on a table saw, where the blade cannot
    reach through, or where a base would be too thin.
    """
    steps = _cut_on_it(plan)
    table = plan.job.shop.table
    sizes = {piece.id: piece for piece in plan.pieces}
    pieces = [sizes[name] for step in steps for name in step.pieces if name in sizes]
    longest = max(piece.length_mm for piece in pieces)
    shortest = min(piece.length_mm for piece in pieces)
    strip = max(piece.width_mm for piece in pieces)
    thick = max(piece.thickness_mm for piece in pieces)
    tilts = tuple(sorted({round(abs(v), 2) for s in steps for v in s.values("tilt")}, reverse=True))
    swing = max((abs(v) for s in steps for v in s.values("swing")), default=0.0)
    tilt = math.radians(tilts[0])
    base, top = _base(table, thick, tilt)
    leans = math.tan(tilt) if table.slot_side == "under" else 0.0
    first = top * leans + (_CLEAR + _SCREW) / math.cos(tilt)
    if len(tilts) > 1:
        first = max(first, _STRIP + 15.0)  # no screw of the fence goes into a strip that is exchanged
    away = 0.0 if leans else math.tan(tilt)
    spare = _round(base * away + _KERF / math.cos(tilt) + _SPARE, plan)
    past = _round(
        top * away + _KERF / math.cos(tilt) + _SPARE, plan
    )  # the fence's end, until the first cut trims it
    fence_mm = _round(
        top * leans + longest / math.cos(math.radians(swing)) + _HOLD, plan
    )  # from the blade on
    fence_high = max(60.0, thick + 45.0)
    wide = _round(max(table.slot_mm + table.slot_wide_mm / 2 + 50.0, first + 80.0, 0.6 * fence_mm), plan)
    fence_thick = 2 * table.layer_mm
    turned = fence_mm * math.sin(math.radians(swing))
    depth = _round(max(250.0, strip + 30.0 + 2 * turned + fence_thick + _BEHIND), plan)
    if len(tilts) > 1 and table.slot_mm - table.slot_wide_mm / 2 < _STRIP + _CLEAR:
        raise PeristyleError(
            "The slot is too near the blade for edge strips, one for each tilt of this box: make a sled for each."
        )
    if table.slot_mm - table.slot_wide_mm / 2 < base * leans + _CLEAR:
        raise PeristyleError(
            f"The slot is too near for a blade that leans over it {math.degrees(tilt):.3g}°: use the slot on the side "
            "it leans away from (shop.table.slot_side)."
        )
    fence_y = strip + 30.0 + turned  # the face the work lies against
    last = max(first + 60.0, min(fence_mm, wide) - 30.0)
    runner_at = [(table.slot_mm, depth * share) for share in (0.1, 0.5, 0.9)]
    numbers = {
        "slot_mm": table.slot_mm, "slot_wide_mm": table.slot_wide_mm, "runner_mm": table.slot_deep_mm - _SLIDES,
        "base_mm": base, "wide_mm": wide, "depth_mm": depth, "rough_mm": wide + spare, "spare_mm": spare,
        "base_cut_mm": wide - _STRIP, "base_edge_mm": _STRIP, "tilt_deg": tilts[0], "needed_mm": top / math.cos(tilt),
        "fence_mm": fence_mm, "past_mm": past, "cut_fence_mm": fence_mm + past, "fence_high_mm": fence_high,
        "layer_mm": table.layer_mm, "foot_mm": _FOOT, "clamp_mm": base + fence_high - 20.0, "fence_y_mm": fence_y,
        "first_mm": first, "last_mm": last, "arm_mm": last - first, "longest_mm": longest, "shortest_mm": shortest,
        "swing_deg": swing, "turned_mm": turned,
    }  # fmt: skip
    parts = [
        SledPart("base", 1, wide + spare, depth, base),
        SledPart("runner", 1, depth, table.slot_wide_mm, table.slot_deep_mm - _SLIDES),
        SledPart("layer", 2, fence_mm + past, fence_high, table.layer_mm),
        SledPart("shield", 1, 2 * _STRIP, _BEHIND - 20.0, fence_high),
        SledPart("stop", 1, _HOLD, fence_high - 10.0, table.layer_mm),
        SledPart("hold", 1, _HOLD * 2, 30.0, table.layer_mm),
    ]
    if len(tilts) > 1:
        parts.insert(1, SledPart("edge", len(tilts), depth, _STRIP + spare, base))
        parts[0] = SledPart("base", 1, wide - _STRIP, depth, base)
    middle = fence_y + fence_thick / 2
    return Sled(tuple(parts), numbers, tilts, swing, table.slot_side == "under",
                tuple(runner_at), ((first, middle), (last, middle)))  # fmt: skip


def _round(size: float, plan: Plan) -> float:
    """A size nobody measures by, up to the next 5 mm or quarter inch."""
    step = 5.0 if plan.job.design.units == "mm" else 6.35
    return math.ceil(size / step - 1e-9) * step


def _cut_on_it(plan: Plan) -> list[Step]:
    """The bevels cut with the piece lying flat on a table saw."""
    flat = [
        step
        for step in plan.steps
        if step.operation == "bevel" and step.tool == "table_saw" and step.lies in ("show_up", "inside_up")
    ]
    found = [step for step in flat if step.part == "box"]
    if not found:
        raise PeristyleError(
            "No side of this box gets its bevel lying flat on a table saw: a sled has nothing to do."
        )
    return found


def _base(table: SledTable, thick: float, tilt: float) -> tuple[float, float]:
    """How thick the base is, and how high over the table the blade cuts: through base and work, out by its teeth."""
    reach = table.blade_high_mm * math.cos(tilt)
    base = min(table.base_mm, reach - thick - _TEETH)
    if base < _LEAST:
        raise PeristyleError(
            f"At {math.degrees(tilt):.3g}° the blade reaches {reach:.0f} mm over the table: not through a side of "
            f"{thick:.3g} mm on a base. Cut it at the miter gauge, or with a larger blade (shop.table.blade_high_mm)."
        )
    return base, base + thick + _TEETH
