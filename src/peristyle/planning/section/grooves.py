"""The grooves that hold a panel: where they lie in the box, and so how each side is set at the saw.

A panel lies level; a leaning side does not. So a groove is placed in the box, carried into the side's own
frame (y up the show face, z from the show face into the wood) and the setting is read off there: which
arris of the edge touches the fence, which way the blade leans, how far it stands out of the table.
"""

import math
from collections.abc import Sequence
from typing import Final, Literal, NamedTuple

from msgspec import Struct

from peristyle.core.outlines import Outline as Points
from peristyle.core.planes import Point, Slab
from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import GrooveWay, Panel, PanelName, Seat, replace
from peristyle.model.limits import LEAST_MM

Arris = Literal["both", "inside", "outside"]

MOST_PASSES: Final = 100  # nobody makes more for one groove: a wider blade, or a bit (our rule)
_SAME: Final = 1e-9
_PAST_MM: Final = 1.0  # how far a rabbet is drawn past its edge


class GrooveCut(Struct, frozen=True):
    """The groove in the sides that share one setting, inside face down on the table.

    `tilt_deg` is the blade from square, positive where it leans away from the fence; `fences_mm` from the
    fence to the near side of the blade at the table, one for each pass; `height_mm` the blade's, square to
    the face; `opening_mm` the groove's width along the face. The panel's own edge of the side lies against
    the fence and touches it with `arris`.
    """

    sides: tuple[int, ...]
    tilt_deg: float
    fences_mm: tuple[float, ...]
    height_mm: float
    opening_mm: float
    arris: Arris


class GroovePlan(Struct, frozen=True):
    """The groove for a panel. Heights in mm from the bottom edge, measured upright, at the inside face.

    `rests_mm` is how high the panel's underside lies: on the lower wall. `width_mm` is measured upright too;
    `depth_mm` is the maker's own. `fences_mm` are those of the first of `cuts`. For each side, `edges_mm` is
    how far out the panel's edge stands, level, and `profiles` the groove across the side in the side's own
    frame, (y, z), from the inside face and back to it.
    """

    panel: PanelName
    way: GrooveWay
    rests_mm: float
    low_mm: float
    high_mm: float
    width_mm: float
    depth_mm: float
    wall_left_mm: float
    fences_mm: tuple[float, ...]
    cuts: tuple[GrooveCut, ...]
    edges_mm: tuple[float, ...]
    profiles: tuple[Points, ...]
    seat: Seat = "groove"

    @property
    def edge(self) -> Literal["bottom", "top"]:
        """The edge of the sides that it is counted from."""
        return "bottom" if self.panel == "bottom" else "top"


class _Wanted(NamedTuple):
    """What every side's groove is to hold: the panel's levels, and the blade."""

    name: PanelName
    panel: Panel
    low_mm: float  # the panel's underside
    height_mm: float  # of the box
    kerf_mm: float

    @property
    def width_mm(self) -> float:
        return self.panel.thickness_mm + self.panel.fit_mm


def passes(width_mm: float, kerf_mm: float) -> tuple[float, ...]:
    """Offsets (mm) of the blade's near side for a cut wider than the kerf.

    ceil(width/kerf) passes, the first at the near edge, the last at width − kerf, even steps
    between, each no wider than the kerf. One pass at 0 where the blade is as wide or wider. Where
    that would be more than MOST_PASSES only the two outermost: a finding says that it cannot be so.
    """
    if width_mm <= kerf_mm + DEFAULT.length_mm:
        return (0.0,)
    count = math.ceil((width_mm - DEFAULT.length_mm) / kerf_mm)
    if count > MOST_PASSES:
        return (0.0, width_mm - kerf_mm)
    step = (width_mm - kerf_mm) / (count - 1)
    return tuple(i * step for i in range(count))


_Made = tuple[
    GrooveCut, float, Points
]  # the setting, how far out the panel reaches, the groove across the side


def plan_groove(
    slabs: Sequence[Slab], name: PanelName, panel: Panel, height_mm: float, kerf_mm: float
) -> GroovePlan:
    """The groove for one panel in every side of a box `height_mm` high, cut with a blade `kerf_mm` wide."""
    if panel.seat == "rabbet":
        return _plan_rabbet(slabs, name, panel, height_mm, kerf_mm)
    if panel.seat == "applied":
        return _plan_applied(slabs, name, panel, height_mm)
    width = panel.thickness_mm + panel.fit_mm
    known: dict[Slab, _Made] = {}
    low = panel.height_mm if name == "bottom" else height_mm - panel.height_mm - width
    wanted = _Wanted(name, panel, low, height_mm, kerf_mm)
    upright = not any(abs(slab.sin_slope) > _SAME for slab in slabs)
    way: GrooveWay = "level" if upright else panel.groove
    made = [_carried(way, slab, wanted, known) for slab in slabs]
    grouped: dict[tuple[float, ...], list[int]] = {}
    for index, (cut, _edge, _profile) in enumerate(made):
        key = tuple(round(v, 6) for v in (cut.tilt_deg, *cut.fences_mm, cut.height_mm))
        grouped.setdefault(key, []).append(index)
    heights = [low, low + width]
    if way != "level":
        heights = [
            _height_at(slab, point)
            for slab, (_cut, _edge, profile) in zip(slabs, made, strict=True)
            for point in (profile[0], profile[-1])
        ]
    cuts = tuple(replace(made[members[0]][0], sides=tuple(members)) for members in grouped.values())
    return GroovePlan(
        panel=name,
        way=way,
        rests_mm=low,
        low_mm=min(heights),
        high_mm=max(heights),
        width_mm=width,
        depth_mm=panel.depth_mm,
        wall_left_mm=min(
            slab.thickness_mm - cut.height_mm
            for slab, (cut, _edge, _profile) in zip(slabs, made, strict=True)
        ),
        fences_mm=cuts[0].fences_mm,
        cuts=cuts,
        edges_mm=tuple(edge for _cut, edge, _profile in made),
        profiles=tuple(profile for _cut, _edge, profile in made),
    )


def _plan_rabbet(
    slabs: Sequence[Slab], name: PanelName, panel: Panel, height_mm: float, kerf_mm: float
) -> GroovePlan:
    """The rabbet for a panel along the edge of upright sides, its shoulder as high as the panel goes in.

    Its fence is that of the cut along its shoulder, inside face down: `passes` of it where the tool is narrower.
    """
    shoulder = max(LEAST_MM, panel.thickness_mm - panel.proud_mm)  # of nothing the findings speak
    bottom = name == "bottom"
    low, high = (0.0, shoulder) if bottom else (height_mm - shoulder, height_mm)
    open_end = -_PAST_MM if bottom else height_mm + _PAST_MM
    fence = max(0.0, shoulder - kerf_mm)
    profiles = []
    for slab in slabs:
        thick, floor = slab.thickness_mm, slab.thickness_mm - panel.depth_mm
        ends = (open_end, high) if bottom else (low, open_end)
        profiles.append(((ends[0], thick), (ends[0], floor), (ends[1], floor), (ends[1], thick)))
    cut = GrooveCut(tuple(range(len(slabs))), 0.0, (fence,), panel.depth_mm, shoulder, "both")
    return GroovePlan(
        panel=name,
        way="level",
        rests_mm=-panel.proud_mm if bottom else height_mm + panel.proud_mm - panel.thickness_mm,
        low_mm=low,
        high_mm=high,
        width_mm=shoulder,
        depth_mm=panel.depth_mm,
        wall_left_mm=min(slab.thickness_mm - panel.depth_mm for slab in slabs),
        fences_mm=(fence,),
        cuts=(cut,),
        edges_mm=tuple(slab.inner_mm(low) + panel.depth_mm - panel.play_mm for slab in slabs),
        profiles=tuple(profiles),
        seat="rabbet",
    )


def _plan_applied(slabs: Sequence[Slab], name: PanelName, panel: Panel, height_mm: float) -> GroovePlan:
    """Where a panel lies that is glued flat on the sides' edges, or lies on the rim: nothing is cut for it."""
    bottom = name == "bottom"
    edge = 0.0 if bottom else height_mm
    low = -panel.thickness_mm if bottom else height_mm
    return GroovePlan(
        panel=name,
        way="level",
        rests_mm=low,
        low_mm=low if bottom else edge,
        high_mm=edge if bottom else low + panel.thickness_mm,
        width_mm=panel.thickness_mm,
        depth_mm=0.0,
        wall_left_mm=min(slab.thickness_mm for slab in slabs),
        fences_mm=(),
        cuts=(),
        edges_mm=tuple(slab.outer_mm(edge) + panel.overhang_mm for slab in slabs),
        profiles=tuple(() for _slab in slabs),
        seat="applied",
    )


def _carried(way: GrooveWay, slab: Slab, wanted: _Wanted, known: dict[Slab, _Made]) -> _Made:
    """One side's groove, worked out once for all that lean and are as thick alike, wherever they stand."""
    alike = slab._replace(ux=1.0, uy=0.0, offset_mm=0.0)
    if alike not in known:
        known[alike] = _CUTS[way](alike, wanted)
    cut, edge, profile = known[alike]
    return cut, edge + slab.offset_mm, profile


def in_side(slab: Slab, out_mm: float, z_mm: float) -> Point:
    """A point `out_mm` out and `z_mm` up in the box, across the side: up its face, and into the wood."""
    out = out_mm - slab.offset_mm
    return (out * slab.sin_slope + z_mm * slab.cos_slope, z_mm * slab.sin_slope - out * slab.cos_slope)


def _height_at(slab: Slab, point: Point) -> float:
    """How high in the box a point across the side lies."""
    return point[0] * slab.cos_slope + point[1] * slab.sin_slope


def level_groove_height(slab: Slab, depth_mm: float, width_mm: float) -> float:
    """Blade height (mm), square to the face, for a groove with level walls `depth_mm` deep at the shallower.

    Source: two planes; d·cos s + w·sin|s| for a side leaning by s.
    """
    return depth_mm * slab.cos_slope + width_mm * abs(slab.sin_slope)


def tongue_mm(slab: Slab, thickness_mm: float, held_mm: float) -> float:
    """Thickness (mm) of the tongue that a level panel's edge can have, square to a leaning side's face.

    `held_mm` is how far it goes in, square to the face. Source: two planes; p/cos s − h·tan|s|.
    """
    return (thickness_mm - held_mm * abs(slab.sin_slope)) / slab.cos_slope


def _level(slab: Slab, wanted: _Wanted) -> _Made:
    """Walls level, as the panel is: the blade leans by the side's slope. And how far out the panel reaches."""
    width, kerf = wanted.width_mm, wanted.kerf_mm
    low, high = wanted.low_mm, wanted.low_mm + width
    bottom = wanted.name == "bottom"
    # A blade wider than the groove takes more at the wall away from the edge: where that is the deeper one, it counts.
    past = max(0.0, kerf - width) if (slab.sin_slope > 0) != bottom else 0.0
    blade = level_groove_height(slab, wanted.panel.depth_mm, width + past)
    nears = [low + at if bottom else high - at for at in passes(width, kerf)]
    fences = _fences(slab, wanted, [in_side(slab, slab.inner_mm(z), z)[0] for z in nears])
    # Each pass leaves a floor of its own, plumb, as deep as the blade at its deeper wall.
    lows = sorted(z if bottom else z - kerf for z in nears)
    floors = [slab.inner_mm(z if slab.sin_slope > 0 else z + kerf) + blade / slab.cos_slope for z in lows]
    outline: list[tuple[float, float]] = [(slab.inner_mm(lows[0]), lows[0])]
    for number, (z, floor) in enumerate(zip(lows, floors, strict=True)):
        last = number == len(lows) - 1
        if slab.sin_slope > 0:
            ends = (z, z + kerf if last else lows[number + 1])
        else:
            ends = (z if number == 0 else lows[number - 1] + kerf, z + kerf)
        outline += [(floor, end) for end in ends]
    outline.append((slab.inner_mm(lows[-1] + kerf), lows[-1] + kerf))
    edge = max(slab.inner_mm(low), slab.inner_mm(high)) + wanted.panel.depth_mm - wanted.panel.play_mm
    tilt = math.degrees(math.asin(slab.sin_slope)) * (1.0 if bottom else -1.0)
    opening = (lows[-1] + kerf - lows[0]) / slab.cos_slope
    cut = GrooveCut((), tilt, fences, blade, opening, _arris(slab, wanted))
    return cut, edge, tuple(in_side(slab, *point) for point in outline)


def _square(slab: Slab, wanted: _Wanted) -> _Made:
    """Square to the face, wide enough for the level panel to go in aslant."""
    panel = wanted.panel
    levels = (wanted.low_mm, wanted.low_mm + panel.thickness_mm)
    edge = _square_edge(slab, wanted)
    ups = [in_side(slab, out, z)[0] for z in levels for out in (edge, slab.inner_mm(z))]
    return _straight(slab, wanted, edge, min(ups), max(ups) + panel.fit_mm)


def _tongue(slab: Slab, wanted: _Wanted) -> _Made:
    """Square to the face, for a panel whose edge is cut to a tongue that leans as the side does."""
    panel = wanted.panel
    held = panel.depth_mm - panel.play_mm
    thick = tongue_mm(slab, panel.thickness_mm, held)
    start = in_side(slab, slab.inner_mm(wanted.low_mm), wanted.low_mm)[0]
    start += max(0.0, held * slab.sin_slope / slab.cos_slope)
    return _straight(slab, wanted, _square_edge(slab, wanted), start, start + thick + panel.fit_mm)


_CUTS: Final = {"level": _level, "square": _square, "tongue": _tongue}


def _square_edge(slab: Slab, wanted: _Wanted) -> float:
    """How far out the panel's edge stands in a groove square to the face: its longer face decides."""
    panel = wanted.panel
    held = panel.depth_mm - panel.play_mm
    levels = (wanted.low_mm, wanted.low_mm + panel.thickness_mm)
    return min(slab.inner_mm(z) for z in levels) + held / slab.cos_slope


def _straight(slab: Slab, wanted: _Wanted, edge_mm: float, low_y: float, high_y: float) -> _Made:
    """A groove square to the face between two lines up the face."""
    thick, depth, kerf = slab.thickness_mm, wanted.panel.depth_mm, wanted.kerf_mm
    bottom = wanted.name == "bottom"
    ats = passes(high_y - low_y, kerf)
    fences = _fences(slab, wanted, [low_y + at if bottom else high_y - at for at in ats])
    wide = max(kerf, high_y - low_y)
    ends = (low_y, low_y + wide) if bottom else (high_y - wide, high_y)
    profile = ((ends[0], thick), (ends[0], thick - depth), (ends[1], thick - depth), (ends[1], thick))
    return GrooveCut((), 0.0, fences, depth, wide, _arris(slab, wanted)), edge_mm, profile


def _arrises(slab: Slab, wanted: _Wanted) -> tuple[float, float]:
    """How far up the face the outer and the inner arris of the panel's own edge lie; edges are ripped level."""
    level = 0.0 if wanted.name == "bottom" else wanted.height_mm
    return (in_side(slab, slab.outer_mm(level), level)[0], in_side(slab, slab.inner_mm(level), level)[0])


def _arris(slab: Slab, wanted: _Wanted) -> Arris:
    """Which arris of the edge stands out further, and so touches the fence."""
    outer, inner = _arrises(slab, wanted)
    if abs(outer - inner) <= _SAME:
        return "both"
    return "inside" if (inner < outer) == (wanted.name == "bottom") else "outside"


def _fences(slab: Slab, wanted: _Wanted, nears: Sequence[float]) -> tuple[float, ...]:
    """From the fence to the near side of the blade, for each near side up the face."""
    reach = _arrises(slab, wanted)
    if wanted.name == "bottom":
        return tuple(near - min(reach) for near in nears)
    return tuple(max(reach) - near for near in nears)
