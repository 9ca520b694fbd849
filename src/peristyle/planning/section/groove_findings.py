"""What is wrong with a panel's groove, and what leaning sides ask of it."""

import math
from collections.abc import Sequence
from typing import Final, get_args

from peristyle.core.planes import Slab, cross
from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import Design, GrooveWay, Panel, size_address
from peristyle.model.job import Job
from peristyle.model.limits import LEAST_KERF_MM, LEAST_MM
from peristyle.model.tools import Clamp, Use
from peristyle.planning.cutters import cutter, fitting
from peristyle.planning.findings import Finding, Fix, Place, Severity, reader
from peristyle.planning.making.setting import SAME_SETTING
from peristyle.planning.section.grooves import MOST_PASSES, GroovePlan, tongue_mm

_LEANS_DEG: Final = 2.0  # less, and a groove square to the face still takes the panel (common practice)
_LEAST_EDGE_MM: Final = 2.0  # less wood beside a groove breaks off (common practice)
_EASED_MM: Final = 0.5  # what a panel's eased edge finds its way into (our rule)
_SAME: Final = 1e-9
_LEAST_HELD_MM: Final = 1.0  # less of a panel in its groove holds nothing (common practice)


def blade_findings(
    job: Job, place: Place, use: Use, what: str, width_mm: float, *, tilted: bool = False
) -> list[Finding]:
    """A cut so wide that nobody makes the passes it takes, narrower than what is to cut it, or aslant for a bit.

    `what` is the key of the words for it.
    """
    fmt, own = reader(job.design), cutter(job, use)
    names = {"what": what, "cutter": own.name}
    numbers = {"width_mm": width_mm, "kerf_mm": own.takes(width_mm)}
    kind = "tool" if own.name else ""
    leans = []
    if tilted and not own.tilts:
        fixes = _other_tool(job, use, width_mm, tilted=True)
        leans.append(Finding("tool_upright", "stop", place, numbers, fixes, names))
    alike = fmt.length(width_mm) == fmt.length(own.least_mm)  # nothing is said of two values that read alike
    if width_mm < own.least_mm - DEFAULT.length_mm and not alike:
        fixes = _other_tool(job, use, width_mm, tilted=tilted)
        thinner = fmt.down(width_mm)
        if not own.name and thinner >= LEAST_KERF_MM:
            fixes = (*fixes, _blade(thinner))
        return [*leans, Finding("thinner_than_blade", "caution", place, numbers, fixes, names, kind)]
    if leans:
        return leans
    if width_mm <= own.most_mm * MOST_PASSES:
        return []
    wider = fmt.up(max(3.0, width_mm / MOST_PASSES))
    numbers["passes"] = float(math.ceil(width_mm / own.most_mm))
    fixes = _other_tool(job, use, width_mm, tilted=tilted) if own.name else ()
    if not own.name and wider <= 50.0:
        fixes = (_blade(wider),)
    return [Finding("too_many_passes", "stop", place, numbers, fixes, names, kind)]


def _blade(kerf_mm: float) -> Fix:
    return Fix("blade", (("shop.saw.kerf_mm", kerf_mm),), {"kerf_mm": kerf_mm})


def _other_tool(job: Job, use: Use, width_mm: float, *, tilted: bool) -> tuple[Fix, ...]:
    """What in the shop can make the cut, where something can."""
    better = fitting(job, use, width_mm, tilted=tilted)
    if better is None or better == getattr(job.shop.uses, use):
        return ()
    key = "use_tool" if better else "use_saw"
    return (Fix(key, ((f"shop.uses.{use}", better),), {}, {"cutter": better}),)


def _sized(groove: GroovePlan, key: str, **sizes: float) -> Fix:
    """A panel's sizes set; the first of them is told."""
    changes = tuple((size_address(groove.panel, name, groove.seat), value) for name, value in sizes.items())
    return Fix(key, changes, dict(sizes))


def groove_findings(design: Design, slabs: Sequence[Slab], panel: Panel, groove: GroovePlan) -> list[Finding]:
    """A groove too deep, too shallow for its play, too near its edge or off the side."""
    return [*_wall_findings(design, slabs, panel, groove), *_place_findings(design, panel, groove)]


def rabbet_findings(design: Design, slabs: Sequence[Slab], panel: Panel, groove: GroovePlan) -> list[Finding]:
    """A rabbet in sides that lean, too deep for its wall, or with nothing of the panel in it."""
    fmt, name, place = reader(design), groove.panel, Place("section")
    names: dict[str, str] = {"panel": name}
    grooved = Fix("in_groove", ((f"section.{name}.seat", "groove"),))
    if name == "lid":
        grooved = Fix("cover_flat", (("section.cover", "flat"),))
    if any(abs(slab.sin_slope) > math.sin(math.radians(SAME_SETTING)) for slab in slabs):
        return [Finding("rabbet_leans", "stop", place, {}, (grooved,), names)]
    found = []
    half = fmt.down(min(slab.thickness_mm for slab in slabs) / 2)
    shallower = _sized(groove, "groove_depth", depth_mm=half, play_mm=min(panel.play_mm, half / 2))
    mends = (shallower,) if half >= LEAST_MM else ()
    numbers = {"wall_left_mm": groove.wall_left_mm, "depth_mm": panel.depth_mm, "half_mm": half}
    if groove.wall_left_mm <= DEFAULT.length_mm:
        found.append(Finding("rabbet_through", "stop", place, numbers, mends, names))
    elif groove.wall_left_mm < half - DEFAULT.length_mm:
        found.append(Finding("rabbet_wall_thin", "caution", place, numbers, mends, names))
    inside = panel.thickness_mm - panel.proud_mm
    if inside < _LEAST_HELD_MM:
        numbers = {"in_mm": max(0.0, inside), "thickness_mm": panel.thickness_mm}
        less = fmt.down(panel.thickness_mm / 2)
        fix = Fix(
            "less_proud", ((size_address(groove.panel, "proud_mm", groove.seat), less),), {"proud_mm": less}
        )
        found.append(Finding("rabbet_holds_nothing", "stop", place, numbers, (fix,), names))
    if panel.play_mm >= panel.depth_mm - DEFAULT.length_mm:
        little = _sized(groove, "play", play_mm=fmt.down(panel.depth_mm / 8))
        numbers = {"play_mm": panel.play_mm, "depth_mm": panel.depth_mm}
        found.append(Finding("panel_falls_out", "stop", place, numbers, (little,), names))
    return found


def _wall_findings(design: Design, slabs: Sequence[Slab], panel: Panel, groove: GroovePlan) -> list[Finding]:
    """What is left of the wall behind the groove, and whether the panel reaches into it."""
    fmt = reader(design)
    found: list[Finding] = []
    wall = min(design.form.thicknesses_mm)
    half = fmt.down(_half_way(slabs, groove))
    deepest = max(cut.height_mm for cut in groove.cuts)
    name = groove.panel

    numbers = {"half_mm": half, "depth_mm": deepest, "thickness_mm": wall}
    names: dict[str, str] = {"panel": name}
    place = Place("section")
    shallower = _sized(groove, "groove_depth", depth_mm=half, play_mm=min(panel.play_mm, half / 2))
    mends = (shallower,) if half >= LEAST_MM else ()
    more = ("shallower",) if mends else ("thicker",)
    if groove.wall_left_mm <= DEFAULT.length_mm:
        found.append(Finding("groove_through", "stop", place, numbers, mends, names, "", more))
    elif groove.wall_left_mm < fmt.down(wall / 2) - DEFAULT.length_mm:
        numbers = {
            "wall_left_mm": groove.wall_left_mm, "keep_mm": wall / 2, "half_mm": half,
            "thicker_mm": fmt.up(deepest * 2),
        }  # fmt: skip
        found.append(Finding("groove_wall_thin", "caution", place, numbers, mends, names, "", more))
    if panel.play_mm >= panel.depth_mm - DEFAULT.length_mm:
        little = _sized(groove, "play", play_mm=fmt.down(panel.depth_mm / 8))
        numbers = {"play_mm": panel.play_mm, "depth_mm": panel.depth_mm}
        found.append(Finding("panel_falls_out", "stop", place, numbers, (little,), names))
    return found


def _place_findings(design: Design, panel: Panel, groove: GroovePlan) -> list[Finding]:
    """How near the groove lies to its edge, and whether it lies in the side at all."""
    fmt, name, high = reader(design), groove.panel, design.form.height_mm
    found: list[Finding] = []
    names: dict[str, str] = {"panel": name}
    place = Place("section")
    if DEFAULT.length_mm < panel.height_mm < _LEAST_EDGE_MM:
        up = fmt.up(_LEAST_EDGE_MM)
        numbers = {"wood_mm": panel.height_mm, "wanted_mm": up}
        fix = _sized(groove, "groove_edge", height_mm=up)
        found.append(Finding("groove_edge_thin", "caution", place, numbers, (fix,), names))
    if groove.high_mm > high or groove.low_mm < 0:
        low = fmt.down(max(0.0, min(6.0, high - groove.width_mm - 1)))
        reach, way = (groove.high_mm, "up") if name == "bottom" else (high - groove.low_mm, "down")
        numbers = {"groove_ends_mm": reach, "height_mm": high}
        fix = _sized(groove, f"groove_{way}", height_mm=low)
        kind = "bottom" if name == "bottom" else "top"
        found.append(Finding("groove_above_box", "stop", place, numbers, (fix,), names, kind))
    return found


def _half_way(slabs: Sequence[Slab], groove: GroovePlan) -> float:
    """The depth (mm) that leaves half of every side's wall."""
    return min(
        slab.thickness_mm / 2
        if groove.way != "level"
        else (slab.thickness_mm / 2 - groove.width_mm * abs(slab.sin_slope)) / slab.cos_slope
        for slab in slabs
    )


def leaning_findings(job: Job, slabs: Sequence[Slab], panel: Panel, groove: GroovePlan) -> list[Finding]:
    """How a level panel is let into leaning sides, and what would not work about it."""
    worst = max(slabs, key=lambda slab: abs(slab.sin_slope))
    lean = math.degrees(math.asin(abs(worst.sin_slope)))
    if lean <= _LEANS_DEG:
        return []
    opening = max(cut.opening_mm for cut in groove.cuts)
    deepest = max(cut.height_mm for cut in groove.cuts)
    held = panel.depth_mm - panel.play_mm
    tongue = min(tongue_mm(slab, panel.thickness_mm, held) for slab in slabs)
    numbers = {"slope_deg": lean, "opening_mm": opening, "height_mm": deepest, "tongue_mm": tongue}
    names: dict[str, str] = {"panel": groove.panel}
    place = Place("section")
    ways = tuple(_cut_as(groove, way) for way in get_args(GrooveWay) if way != groove.way)
    if groove.panel == "lid":
        ways = ()  # what slides wants level walls
    none_left = groove.way == "tongue" and tongue <= DEFAULT.length_mm
    told = () if none_left else (groove.way,)
    found = [Finding("groove_leans", "note", place, numbers, ways, names, "", told)]
    if groove.panel != "lid":
        found += _rolled_in(job, slabs, panel, groove)
    stop = job.shop.saw.stop_deg
    if groove.way == "level" and lean > stop + DEFAULT.angle_deg:
        numbers = {"tilt_deg": lean, "stop_deg": stop}
        square = (_cut_as(groove, "square"),) if groove.panel != "lid" else ()
        found.append(Finding("groove_past_stop", "caution", place, numbers, square, names))
    level = (_cut_as(groove, "level"),)
    if groove.way == "tongue" and tongue < panel.thickness_mm / 3:
        numbers = {
            "tongue_mm": tongue, "thin_mm": tongue, "slope_deg": lean, "panel_mm": panel.thickness_mm,
        }  # fmt: skip
        severity: Severity = "stop" if none_left else "caution"
        kind = "none" if none_left else ""
        found.append(Finding("tongue_too_thin", severity, place, numbers, level, names, kind))
    if groove.way != "level":
        # The panel's two faces go in by unlike amounts; the lesser must still hold.
        short = min((held - panel.thickness_mm * abs(slab.sin_slope)) / slab.cos_slope for slab in slabs)
        if short < _LEAST_HELD_MM:
            numbers = {"held_mm": short, "in_mm": max(0.0, short)}
            found.append(Finding("panel_held_by_one_face", "caution", place, numbers, level, names))
    return found


def _rolled_in(job: Job, slabs: Sequence[Slab], panel: Panel, groove: GroovePlan) -> list[Finding]:
    """A panel that the last sides of a leaning ring come to aslant when it is rolled up round it.

    A side turns about its corner's edge, which leans by λ: as its groove's mouth comes to the panel's edge, the groove
    still lies off by the depth held times tan λ. Source: small rotations about the edge where two planes meet.
    """
    if job.shop.uses.glue or job.design.joints.splines:
        return []  # held so that no side turns as it comes
    leans = []
    for slab, after in zip(slabs, (*slabs[1:], slabs[0]), strict=True):
        edge = cross(slab.normal, after.normal)
        leans.append(math.hypot(edge[0], edge[1]) / abs(edge[2]) if abs(edge[2]) > _SAME else 0.0)
    rises = (panel.depth_mm - panel.play_mm) * max(leans)
    if rises <= panel.fit_mm + _EASED_MM:
        return []
    bands = [tool.name for tool in job.shop.tools if isinstance(tool, Clamp) and tool.holds == "band"]
    fixes = tuple(Fix("use_band", (("shop.uses.glue", name),), {}, {"cutter": name}) for name in bands[:1])
    numbers = {"rises_mm": rises, "fit_mm": panel.fit_mm}
    return [Finding("panel_rolled_in", "note", Place("section"), numbers, fixes, {"panel": groove.panel})]


def _cut_as(groove: GroovePlan, way: GrooveWay) -> Fix:
    return Fix(f"groove_{way}", ((f"section.{groove.panel}.groove", way),))
