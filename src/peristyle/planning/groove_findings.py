"""What is wrong with a panel's groove, and what leaning sides ask of it."""

import math
from collections.abc import Callable, Sequence
from typing import Final

from peristyle.core.planes import Slab
from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import LEAST_KERF_MM, LEAST_MM, Design, GrooveWay, Panel, replace
from peristyle.model.job import Job, decide, revised
from peristyle.planning.findings import Finding, Fix, Place, reader
from peristyle.planning.grooves import MOST_PASSES, GroovePlan, tongue_mm

_LEANS_DEG: Final = 2.0  # less, and a groove square to the face still takes the panel (common practice)
_LEAST_EDGE_MM: Final = 2.0  # less wood beside a groove breaks off (common practice)
_LEAST_HELD_MM: Final = 1.0  # less of a panel in its groove holds nothing (common practice)


def blade_findings(job: Job, place: Place, what: str, width_mm: float) -> list[Finding]:
    """A cut so wide that nobody makes the passes it takes of this blade, or narrower than the blade."""
    kerf = job.shop.saw.kerf_mm
    if width_mm < kerf - DEFAULT.length_mm:
        return [_thinner_than_blade(job, place, what, width_mm)]
    if width_mm <= kerf * MOST_PASSES:
        return []
    fmt = reader(job.design)
    count = math.ceil(width_mm / kerf)
    wider = fmt.up(max(3.0, width_mm / MOST_PASSES))
    return [
        Finding(
            "too_many_passes",
            "stop",
            place,
            f"{what} is {fmt.length(width_mm, unit=True)} wide and the blade takes {fmt.length(kerf, unit=True)}: "
            f"{count} passes. Use a wider blade, or make it narrower.",
            {"width_mm": width_mm, "kerf_mm": kerf, "passes": float(count)},
            (
                Fix(
                    f"Use a blade that takes {fmt.length(wider, unit=True)}",
                    lambda d: revised(d, saw=replace(d.shop.saw, kerf_mm=wider)),
                ),
            )
            if wider <= 50.0
            else (),
        )
    ]


def _with(groove: GroovePlan, panel: Panel, **changes: float) -> Callable[[Job], Job]:
    """An edit of one panel's sizes."""
    changed = replace(panel, **changes)
    return lambda d: decide(d, groove.panel, changed)


def groove_findings(design: Design, slabs: Sequence[Slab], panel: Panel, groove: GroovePlan) -> list[Finding]:
    """A groove too deep, too shallow for its play, too near its edge or off the side."""
    return [*_wall_findings(design, slabs, panel, groove), *_place_findings(design, panel, groove)]


def _wall_findings(design: Design, slabs: Sequence[Slab], panel: Panel, groove: GroovePlan) -> list[Finding]:
    """What is left of the wall behind the groove, and whether the panel reaches into it."""
    fmt = reader(design)
    found: list[Finding] = []
    wall = min(design.form.thicknesses_mm)
    half = fmt.down(_half_way(slabs, groove))
    deepest = max(cut.height_mm for cut in groove.cuts)
    name = groove.panel

    half_depth = Fix(
        f"Make it {fmt.length(half, unit=True)} deep",
        _with(groove, panel, depth_mm=half, play_mm=min(panel.play_mm, half / 2)),
    )
    mends = (half_depth,) if half >= LEAST_MM else ()
    if groove.wall_left_mm <= DEFAULT.length_mm:
        found.append(
            Finding(
                "groove_through",
                "stop",
                Place("section"),
                f"The groove for the {name} is {fmt.length(deepest, unit=True)} deep in sides of "
                f"{fmt.length(wall, unit=True)}: it cuts them through. "
                + (f"Make it at most {fmt.length(half, unit=True)} deep." if mends else "Use thicker sides."),
                {"depth_mm": deepest, "thickness_mm": wall},
                mends,
            )
        )
    elif groove.wall_left_mm < fmt.down(wall / 2) - DEFAULT.length_mm:
        thicker = fmt.up(deepest * 2)
        found.append(
            Finding(
                "groove_wall_thin",
                "caution",
                Place("section"),
                f"The groove for the {name} leaves {fmt.length(groove.wall_left_mm, unit=True)} of wall. "
                + (f"Make it {fmt.length(half, unit=True)} deep or use" if mends else "Use")
                + f" {fmt.length(thicker, unit=True)} sides.",
                {"wall_left_mm": groove.wall_left_mm, "keep_mm": wall / 2},
                mends,
            )
        )
    little = fmt.down(panel.depth_mm / 8)
    if panel.play_mm >= panel.depth_mm - DEFAULT.length_mm:
        found.append(
            Finding(
                "panel_falls_out",
                "stop",
                Place("section"),
                f"With {fmt.length(panel.play_mm, unit=True)} of play each side in a groove "
                f"{fmt.length(panel.depth_mm, unit=True)} deep the {name} panel does not reach into it. "
                "Give less play or a deeper groove.",
                {"play_mm": panel.play_mm, "depth_mm": panel.depth_mm},
                (Fix(f"Give {fmt.length(little, unit=True)} of play", _with(groove, panel, play_mm=little)),),
            )
        )
    return found


def _place_findings(design: Design, panel: Panel, groove: GroovePlan) -> list[Finding]:
    """How near the groove lies to its edge, and whether it lies in the side at all."""
    fmt, name = reader(design), groove.panel
    found: list[Finding] = []
    if DEFAULT.length_mm < panel.height_mm < _LEAST_EDGE_MM:
        up = fmt.up(_LEAST_EDGE_MM)
        found.append(
            Finding(
                "groove_edge_thin",
                "caution",
                Place("section"),
                f"Only {fmt.length(panel.height_mm, unit=True)} of wood stands between the groove for the {name} and "
                f"the edge: it breaks off. Leave {fmt.length(up, unit=True)}, or let the panel into a rabbet.",
                {"wood_mm": panel.height_mm},
                (Fix(f"Leave {fmt.length(up, unit=True)}", _with(groove, panel, height_mm=up)),),
            )
        )
    if groove.high_mm > design.form.height_mm or groove.low_mm < 0:
        low = fmt.down(max(0.0, min(6.0, design.form.height_mm - groove.width_mm - 1)))
        reach, way, other = (
            (groove.high_mm, "up", "lower")
            if name == "bottom"
            else (design.form.height_mm - groove.low_mm, "down", "higher")
        )
        found.append(
            Finding(
                "groove_above_box",
                "stop",
                Place("section"),
                f"The groove for the {name} ends {fmt.length(reach, unit=True)} {way} and the box is "
                f"{fmt.length(design.form.height_mm, unit=True)} high. Put the groove {other}.",
                {"groove_ends_mm": reach, "height_mm": design.form.height_mm},
                (Fix(f"Put it {fmt.length(low, unit=True)} {way}", _with(groove, panel, height_mm=low)),),
            )
        )
    return found


def _thinner_than_blade(job: Job, place: Place, what: str, width_mm: float) -> Finding:
    fmt, kerf = reader(job.design), job.shop.saw.kerf_mm
    thinner = fmt.down(width_mm)
    fixes = (
        Fix(
            f"Use a blade that takes {fmt.length(thinner, unit=True)}",
            lambda d: revised(d, saw=replace(d.shop.saw, kerf_mm=thinner)),
        ),
    )
    return Finding(
        "thinner_than_blade",
        "caution",
        place,
        f"{what} is to be {fmt.length(width_mm, unit=True)} wide and the blade takes "
        f"{fmt.length(kerf, unit=True)}: it comes out too wide. Use a thinner blade or a bit, or a thicker part.",
        {"width_mm": width_mm, "kerf_mm": kerf},
        fixes if thinner >= LEAST_KERF_MM else (),
    )


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
    fmt, name = reader(job.design), groove.panel

    def fix(way: GrooveWay) -> Fix:
        return Fix(_OFFER[way], lambda d: decide(d, name, replace(panel, groove=way)))

    opening = max(cut.opening_mm for cut in groove.cuts)
    deepest = max(cut.height_mm for cut in groove.cuts)
    tongue = min(tongue_mm(slab, panel.thickness_mm, panel.depth_mm - panel.play_mm) for slab in slabs)
    told = {
        "level": f"Its walls are cut level, the blade tilted {fmt.angle(lean)}: {fmt.length(opening, unit=True)} wide "
        f"along the face, the blade {fmt.length(deepest, unit=True)} high. It could be cut square and wider, or square "
        "for a tongue on the panel's edge.",
        "square": f"It is cut square to the face, {fmt.length(opening, unit=True)} wide, so that the panel goes in "
        "aslant; the gap shows inside. A groove with level walls would fit it closely.",
        "tongue": f"It is cut square to the face for a tongue {fmt.length(tongue, unit=True)} thick, both sides of the "
        f"panel's edge planed to {fmt.angle(lean)}. A groove with level walls leaves the panel as it is.",
    }[groove.way]
    found = [
        Finding(
            "groove_leans",
            "note",
            Place("section"),
            f"The sides lean {fmt.angle(lean)} and the {name} lies level, so its groove leans too. {told}",
            {"slope_deg": lean, "opening_mm": opening, "height_mm": deepest},
            tuple(fix(way) for way in _OFFER if way != groove.way),
        )
    ]
    if groove.way == "level" and lean > job.shop.saw.stop_deg + DEFAULT.angle_deg:
        found.append(
            Finding(
                "groove_past_stop",
                "caution",
                Place("section"),
                f"The groove for the {name} wants the blade tilted {fmt.angle(lean)}, past the saw's stop at "
                f"{fmt.angle(job.shop.saw.stop_deg)}. Cut it square to the face and wider, or rout it along a wedge.",
                {"tilt_deg": lean},
                (fix("square"),),
            )
        )
    if groove.way == "tongue" and tongue < panel.thickness_mm / 3:
        found.append(
            Finding(
                "tongue_too_thin",
                "stop" if tongue <= DEFAULT.length_mm else "caution",
                Place("section"),
                f"At {fmt.angle(lean)} a tongue of the {name}'s {fmt.length(panel.thickness_mm, unit=True)} is only "
                f"{fmt.length(max(0.0, tongue), unit=True)} thick. Cut the groove with level "
                "walls, or take a thicker panel.",
                {"tongue_mm": tongue},
                (fix("level"),),
            )
        )
    if groove.way != "level":
        # The panel's two faces go in by unlike amounts; the lesser must still hold.
        short = min(
            ((panel.depth_mm - panel.play_mm) - panel.thickness_mm * abs(slab.sin_slope)) / slab.cos_slope
            for slab in slabs
        )
        if short < _LEAST_HELD_MM:
            found.append(
                Finding(
                    "panel_held_by_one_face",
                    "caution",
                    Place("section"),
                    f"In a groove square to the face one face of the {name} goes in "
                    f"{fmt.length(max(0.0, short), unit=True)} only. Cut the groove with level walls, or deeper.",
                    {"held_mm": short},
                    (fix("level"),),
                )
            )
    return found


_OFFER: Final[dict[GrooveWay, str]] = {
    "level": "Cut its walls level",
    "square": "Cut it square and wider",
    "tongue": "Cut it square, with a tongue on the panel",
}
