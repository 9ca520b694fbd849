"""What is wrong about latches and brackets: screws that come out or meet, plates that lie over something."""

import itertools
import math
from collections.abc import Iterator, Sequence
from typing import Final

from peristyle.core.outlines import Outline as Points
from peristyle.core.outlines import apart, flattened, slot
from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import Brackets, Latch
from peristyle.planning.findings import Finding, Fix, Place, reader
from peristyle.planning.making.kind import Settled, cut_into
from peristyle.planning.making.parts.covers import COVERS
from peristyle.planning.making.parts.dividers import DIVIDERS
from peristyle.planning.making.parts.edges import EDGES
from peristyle.planning.making.parts.fittings import FITTINGS
from peristyle.planning.making.parts.hardware import HARDWARE
from peristyle.planning.making.parts.keys import KEYS
from peristyle.planning.making.parts.lid import LID
from peristyle.planning.making.parts.moulding import MOULDING
from peristyle.planning.making.parts.openings import OPENINGS
from peristyle.planning.making.parts.panels import PANELS
from peristyle.planning.making.parts.plate_places import Plate, angles_deg, joint, plates, screws_out_mm, span
from peristyle.planning.making.parts.splines import SPLINES
from peristyle.planning.making.piece import Feature

_BEHIND_MM: Final = 1.5  # wood left behind a screw's point (common practice)
_BESIDE_MM: Final = 1.0  # from a screw to what is cut in beside it (our rule)
_LEAST_SCREW_MM: Final = 3.0  # a shorter one holds nothing (common practice)
_OFF_EDGE_MM: Final = 1.0  # from a plate to the joint or the edge it must not reach (our rule)
# What a plate cannot lie over, be it let in or not.
_UNEVEN: Final = ("edge", "opening", "moulding", "lowered", "gable", "rabbet")
_CUTS: Final = (MOULDING, PANELS, LID, COVERS, DIVIDERS, SPLINES, KEYS, EDGES, OPENINGS, HARDWARE, FITTINGS)
_PLACE: Final = Place("section")
_AT: Final = {"latch": "section.latch", "bracket": "section.brackets"}


def plate_findings(plan: Settled) -> Iterator[Finding]:
    """What is wrong about latches and brackets."""
    section = plan.job.design.section
    if not plan.ring.stands or (section.latch is None and section.brackets is None):
        return
    every, cuts = list(plates(plan)), cut_into(plan, _CUTS)
    for word, part in (("latch", section.latch), ("bracket", section.brackets)):
        own = [plate for plate in every if plate.word == word]
        if part is None:
            continue
        if not own:
            yield _stop("latch_no_lid", word, {}, ())
            continue
        found = [*_screws(plan, own), *_deep(plan, own)]
        found += (
            _latch_findings(plan, part, own) if isinstance(part, Latch) else _bracket_findings(plan, part)
        )
        yield from found or _met(plan, own, cuts)


def _stop(code: str, word: str, numbers: dict[str, float], fixes: tuple[Fix, ...], **names: str) -> Finding:
    """What says stop; the last way out is to leave the hardware off."""
    without = Fix(f"no_{word}", ((_AT[word], False),))
    return Finding(code, "stop", _PLACE, numbers, (*fixes, without), names | {"what": word})


def _size(plan: Settled, key: str, word: str, name: str, most: float, least: float) -> tuple[Fix, ...]:
    """One size made no larger than that; nothing where it would be too small to be of use."""
    value = reader(plan.job.design).down(most)
    return (Fix(key, ((f"{_AT[word]}.{name}", value),), {name: value}),) if value >= least else ()


def _screws(plan: Settled, own: Sequence[Plate]) -> Iterator[Finding]:
    """Screws that would come out inside."""
    plate = min(own, key=lambda p: p.side.thickness_mm)
    most = plate.side.thickness_mm - plate.in_mm - _BEHIND_MM
    if plate.screw_mm > most + DEFAULT.length_mm:
        numbers = {"screw_mm": plate.screw_mm, "wall_mm": plate.side.thickness_mm}
        fixes = _size(plan, "plate_screw", plate.word, "screw_mm", most, _LEAST_SCREW_MM)
        yield _stop("plate_screw_long", plate.word, numbers, fixes, side=plate.side.name)


def _deep(plan: Settled, own: Sequence[Plate]) -> Iterator[Finding]:
    """Plates let in deeper than a third of the wall."""
    plate = min(own, key=lambda p: p.side.thickness_mm)
    most = plate.side.thickness_mm / 3
    if plate.in_mm > most + DEFAULT.length_mm:
        fixes = _size(plan, "plate_in", plate.word, "in_mm", most, 0.0)
        numbers = {"in_mm": plate.in_mm, "wall_mm": plate.side.thickness_mm}
        yield _stop("plate_deep", plate.word, numbers, fixes, side=plate.side.name)


def _latch_findings(plan: Settled, own: Latch, every: Sequence[Plate]) -> Iterator[Finding]:
    """Plates over an edge, over the side's ends, over each other; screws off the plate."""
    side = every[0].side
    rims, top = joint(plan, side) or (0.0, 0.0), side.outer_face[2][1]
    halves = (("body", "body_mm", rims[0], own.body_mm), ("lid", "lid_mm", top - rims[1], own.lid_mm))
    for half, name, room, reach in halves:
        if reach > room - _OFF_EDGE_MM + DEFAULT.length_mm:
            value = reader(plan.job.design).down(room - _OFF_EDGE_MM)
            less = Fix(
                "latch_reach", ((f"section.latch.{name}", value),), {"reach_mm": value}, {"half": half}
            )
            fixes = (less,) if value >= 2 * own.bore_mm else ()
            yield _stop("latch_high", "latch", {"reach_mm": reach, "room_mm": room}, fixes, half=half)
    yield from _latch_along(plan, own, every)
    most = own.wide_mm - 2 * own.bore_mm
    if own.screws > 1 and own.apart_mm > most + DEFAULT.length_mm:
        numbers = {"apart_mm": own.apart_mm, "wide_mm": own.wide_mm}
        yield _stop(
            "latch_screws_off",
            "latch",
            numbers,
            _size(plan, "latch_apart", "latch", "apart_mm", most, own.bore_mm),
        )


def _latch_along(plan: Settled, own: Latch, every: Sequence[Plate]) -> Iterator[Finding]:
    side = every[0].side
    levels = [y for plate in every for _x, y in plate.outline]
    start, end = max(span(side, y)[0] for y in levels), min(span(side, y)[1] for y in levels)
    xs = sorted({round((plate.outline[0][0] + plate.outline[1][0]) / 2, 6) for plate in every})
    half, fmt = own.wide_mm / 2, reader(plan.job.design)
    near = any(b - a < own.wide_mm + _OFF_EDGE_MM for a, b in itertools.pairwise(xs))
    if near or xs[0] - half < start + _OFF_EDGE_MM or xs[-1] + half > end - _OFF_EDGE_MM:
        room = end - start - 2 * _OFF_EDGE_MM
        most = math.floor((room + _OFF_EDGE_MM) / (own.wide_mm + 2 * _OFF_EDGE_MM))
        inset = fmt.up(half + 2 * _OFF_EDGE_MM + max(abs(start), abs(side.outer_face[1][0] - end)))
        spread = (("section.latch.inset_mm", inset), ("section.latch.count", max(1, min(own.count, most))))
        one = (("section.latch.count", 1),)
        fixes = (
            (Fix("latch_inset", spread if 1 < own.count < most else one),)
            if room >= own.wide_mm and own.count > 1
            else ()
        )
        numbers = {"wide_mm": own.wide_mm, "room_mm": max(0.0, room)}
        yield _stop("latch_no_room", "latch", numbers, fixes, side=side.name)


def _bracket_findings(plan: Settled, own: Brackets) -> Iterator[Finding]:
    """Leaves that meet, reach over the joint, or whose screws cross in the corner."""
    runs = {
        side.name: min(b - a for a, b in (span(side, y) for y in (0.0, side.outer_face[2][1])))
        for side in plan.ring.sides
    }
    name = min(runs, key=lambda side: runs[side])
    most = (runs[name] - _OFF_EDGE_MM) / 2
    if own.long_mm > most + DEFAULT.length_mm:
        numbers = {"long_mm": own.long_mm, "run_mm": runs[name]}
        fixes = _size(plan, "bracket_long", "bracket", "long_mm", most, 4 * own.bore_mm)
        yield _stop("brackets_meet", "bracket", numbers, fixes, side=name)
    room = min(room for side in plan.ring.sides for room in _heights(plan, own, side.index))
    if own.high_mm > room + DEFAULT.length_mm:
        numbers = {"high_mm": own.high_mm, "room_mm": max(0.0, room)}
        fixes = _size(plan, "bracket_high", "bracket", "high_mm", room, 4 * own.bore_mm)
        yield _stop("bracket_high", "bracket", numbers, fixes)
    # Two screws at one height, one from either face of a corner, meet in the miter where they are as deep as they are
    # out from the arris, times the half angle's tangent.
    out = min(screws_out_mm(own))
    deepest = out * math.tan(math.radians(min(*angles_deg(plan), 178.0) / 2)) - own.bore_mm - own.in_mm
    if own.screw_mm > deepest + DEFAULT.length_mm:
        numbers = {"screw_mm": own.screw_mm, "out_mm": out, "deepest_mm": max(0.0, deepest)}
        fixes = _size(plan, "plate_screw", "bracket", "screw_mm", deepest, _LEAST_SCREW_MM)
        yield _stop("bracket_screws_cross", "bracket", numbers, fixes)


def _heights(plan: Settled, own: Brackets, index: int) -> Iterator[float]:
    """How high a leaf may be on a side, below and above."""
    side = plan.ring.sides[index]
    rims, top = joint(plan, side), side.outer_face[2][1]
    if rims is None:
        yield top / 2 - _OFF_EDGE_MM if own.at == "both" else top
        return
    if own.at != "top":
        yield rims[0] - _OFF_EDGE_MM
    if own.at != "bottom":
        yield top - rims[1] - _OFF_EDGE_MM


def _met(plan: Settled, own: Sequence[Plate], cuts: dict[str, list[Feature]]) -> Iterator[Finding]:
    """The first thing that a screw goes into or a plate lies over."""
    for plate in own:
        holes = [flattened(slot(x, y, plate.bore_mm, plate.bore_mm)) for x, y in plate.screws]
        for feature in cuts.get(f"side.{plate.side.name}", ()):
            left = _depth_left(plate, holes, feature)
            if left is not None:
                fixes = _size(plan, "plate_screw", plate.word, "screw_mm", left, _LEAST_SCREW_MM)
                yield _stop("plate_meets", plate.word, {}, fixes, cut=feature.kind, side=plate.side.name)
                return


def _depth_left(plate: Plate, holes: Sequence[Points], feature: Feature) -> float | None:
    """How long a screw may be over a cut; 0 where none may be there at all; None where nothing meets."""
    if feature.kind in _UNEVEN and feature.face == "show" and _lies_over(plate, feature, feature.flat):
        return 0.0
    left, opening = math.inf, feature.flat or feature.shadow
    for hole in holes:
        if apart(hole, opening, _BESIDE_MM) >= _BESIDE_MM:
            continue
        if feature.face == "show" or feature.ends:
            return 0.0
        over = plate.side.thickness_mm - feature.depth_mm - plate.in_mm - _BEHIND_MM
        if plate.screw_mm > over + DEFAULT.length_mm:
            left = min(left, over)
    return left if left < math.inf else None


def _lies_over(plate: Plate, feature: Feature, flat: Points) -> bool:
    """Whether a plate lies on what is cut away; a latch bridges the eased arrises of the joint it closes."""
    if plate.word == "latch" and feature.kind == "edge":
        return False
    return apart(plate.outline, flat, DEFAULT.length_mm) <= DEFAULT.length_mm
