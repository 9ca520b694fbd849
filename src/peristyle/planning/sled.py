"""The sled the bevels are cut on, from the maker's table and the pieces of a box: its parts, and where screws go.

It has one base, on one side of the blade: the tilted blade itself trims the base's edge, and the work is held along
that edge. Across the blade, x is measured from where the blade's near face meets the table, towards the sled; z up from
the table. Lengths in mm, angles in degrees. Proportions are common practice, sizes of stock the maker's own.
"""

import math
from typing import Final, NamedTuple

from msgspec import Struct

from peristyle.core.errors import PeristyleError
from peristyle.model.job import SledTable
from peristyle.planning.making.step import Step
from peristyle.planning.plan import Plan

_CLEAR: Final = 10.0  # between a screw and the blade
_SCREW: Final = 2.5  # half a screw's thickness
_TEETH: Final = 3.0  # what the blade stands out of the work
_SPARE: Final = 10.0  # the base stands past the cut until it is trimmed
_KERF: Final = 5.0  # no blade takes more, square to it
_HOLD: Final = 60.0  # the stop with its hold-down
_BEHIND: Final = 80.0  # behind the fence, for what shields the blade where it comes out
_STRIP: Final = 45.0  # an edge strip
_SLIDES: Final = 0.8  # the runner is less deep than its slot
_FOOT: Final = 3.0  # the dust notch
_HIGH: Final = 60.0  # the fence is so high at least
_OVER: Final = 45.0  # and so far over the work, for clamps
_DEPTH: Final = 250.0  # the base is so deep at least, not to rock
_FRONT: Final = 30.0  # base before the work; a screw from an end
_BESIDE: Final = 15.0  # a screw from an edge
_GROOVE: Final = 20.0  # the clamps' groove under the fence's top
_CARRIED: Final = 0.6  # of the fence, that lies on the base
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


# How a sled is made, as work for a calendar: what is done, and after what.
MAKING: Final[dict[str, tuple[str, ...]]] = {
    "sled_runner": (), "sled_base": (), "sled_lay": ("sled_runner", "sled_base"), "sled_fence": ("sled_base",),
    "sled_trim": ("sled_lay",), "sled_screw": ("sled_trim", "sled_fence"), "sled_tune": ("sled_screw",),
}  # fmt: skip


class _Work(NamedTuple):
    """What is cut on it: the shortest, longest, widest, thickest piece; the tilts, the steepest first; the swing."""

    shortest: float
    longest: float
    wide: float
    thick: float
    tilts: tuple[float, ...]
    swing: float


def sled(plan: Plan) -> Sled:
    """The sled for a box's bevels. Raises PeristyleError where none is cut flat on a table saw, where the blade cannot
    reach through, or where a base would be too thin.
    """
    work, table = _work(plan), plan.job.shop.table
    tilt, swing = math.radians(work.tilts[0]), math.radians(work.swing)
    several, over = len(work.tilts) > 1, table.slot_side == "under"
    base, top = _base(table, work.thick, tilt)
    leans, away = (math.tan(tilt), 0.0) if over else (0.0, math.tan(tilt))
    _slot_clear(table, base * leans, tilt, several=several)
    first = top * leans + (_CLEAR + _SCREW) / math.cos(tilt)
    if several:
        first = max(first, _STRIP + _BESIDE)  # no screw of the fence goes into a strip that is exchanged
    beyond = _KERF / math.cos(tilt) + _SPARE
    spare = _round(base * away + beyond, plan)
    past = _round(top * away + beyond, plan)  # of the fence's end, until the first cut trims it
    fence = _round(top * leans + work.longest / math.cos(swing) + _HOLD, plan)  # from the blade on
    high, thick, turned = max(_HIGH, work.thick + _OVER), 2 * table.layer_mm, fence * math.sin(swing)
    wide = _round(
        max(table.slot_mm + table.slot_wide_mm / 2 + _HOLD, first + _BEHIND, _CARRIED * fence), plan
    )
    face = work.wide + _FRONT + turned  # of the fence, from the base's front edge
    depth = _round(max(_DEPTH, face + turned + thick + _BEHIND), plan)
    last = max(first + _HOLD, min(fence, wide) - _FRONT)
    runner = table.slot_deep_mm - _SLIDES
    numbers = {
        "slot_mm": table.slot_mm, "slot_wide_mm": table.slot_wide_mm, "runner_mm": runner, "base_mm": base,
        "wide_mm": wide, "depth_mm": depth, "rough_mm": wide + spare, "spare_mm": spare,
        "base_cut_mm": wide - _STRIP, "base_edge_mm": _STRIP, "tilt_deg": work.tilts[0],
        "needed_mm": top / math.cos(tilt), "fence_mm": fence, "past_mm": past, "cut_fence_mm": fence + past,
        "fence_high_mm": high, "layer_mm": table.layer_mm, "foot_mm": _FOOT, "clamp_mm": base + high - _GROOVE,
        "fence_y_mm": face, "first_mm": first, "last_mm": last, "arm_mm": last - first,
        "longest_mm": work.longest, "shortest_mm": work.shortest, "swing_deg": work.swing, "turned_mm": turned,
    }  # fmt: skip
    return Sled(
        parts=_parts(numbers, len(work.tilts)), numbers=numbers, tilts_deg=work.tilts, swing_deg=work.swing, over=over,
        runner_screws=tuple((table.slot_mm, depth * share) for share in (0.1, 0.5, 0.9)),
        fence_screws=((first, face + thick / 2), (last, face + thick / 2)),
    )  # fmt: skip


def _parts(n: dict[str, float], tilts: int) -> tuple[SledPart, ...]:
    """The parts to be cut; of several tilts an edge strip each, and the base so much narrower."""
    depth, base, high = n["depth_mm"], n["base_mm"], n["fence_high_mm"]
    sheet = [SledPart("base", 1, n["base_cut_mm"] if tilts > 1 else n["rough_mm"], depth, base)]
    if tilts > 1:
        sheet.append(SledPart("edge", tilts, depth, _STRIP + n["spare_mm"], base))
    return (
        *sheet,
        SledPart("runner", 1, depth, n["slot_wide_mm"], n["runner_mm"]),
        SledPart("layer", 2, n["cut_fence_mm"], high, n["layer_mm"]),
        SledPart("shield", 1, 2 * _STRIP, _BEHIND - _GROOVE, high),
        SledPart("stop", 1, _HOLD, high - _CLEAR, n["layer_mm"]),
        SledPart("hold", 1, 2 * _HOLD, _FRONT, n["layer_mm"]),
    )


def _slot_clear(table: SledTable, over: float, tilt: float, *, several: bool) -> None:
    """Refuses a slot too near the blade, `over` it at the base's top."""
    edge = table.slot_mm - table.slot_wide_mm / 2
    if several and edge < _STRIP + _CLEAR:
        raise PeristyleError(
            "The slot is too near the blade for edge strips, one for each tilt of this box: make a sled for each."
        )
    if edge < over + _CLEAR:
        raise PeristyleError(
            f"The slot is too near for a blade that leans over it {math.degrees(tilt):.3g}°: use the slot on the side "
            "it leans away from (shop.table.slot_side)."
        )


def _work(plan: Plan) -> _Work:
    """What the box has to be cut on it."""
    steps, sizes = cut_on_it(plan), {piece.id: piece for piece in plan.pieces}
    if not steps:
        raise PeristyleError(
            "No side of this box gets its bevel lying flat on a table saw: a sled has nothing to do."
        )
    pieces = [sizes[name] for step in steps for name in step.pieces if name in sizes]
    lengths = [piece.length_mm for piece in pieces]
    tilts = {round(abs(value), 2) for step in steps for value in step.values("tilt")}
    return _Work(
        min(lengths), max(lengths), max(piece.width_mm for piece in pieces),
        max(piece.thickness_mm for piece in pieces), tuple(sorted(tilts, reverse=True)),
        max((abs(value) for step in steps for value in step.values("swing")), default=0.0),
    )  # fmt: skip


def _round(size: float, plan: Plan) -> float:
    """A size nobody measures by, up to the next 5 mm or quarter inch."""
    step = 5.0 if plan.job.design.units == "mm" else 6.35
    return math.ceil(size / step - 1e-9) * step


def cut_on_it(plan: Plan) -> list[Step]:
    """The bevels of a box's sides that are cut with the piece lying flat on a table saw; none where there are none."""
    return [
        step
        for step in plan.steps
        if step.operation == "bevel" and step.tool == "table_saw" and step.lies in ("show_up", "inside_up")
        and step.part == "box"
    ]  # fmt: skip


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
