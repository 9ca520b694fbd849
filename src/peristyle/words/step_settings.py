"""How the tool of each operation is set, in a line: at a machine, or by hand to a line."""

import itertools
from collections.abc import Callable, Sequence
from typing import Final

from peristyle.core.lengths import MM_PER_INCH, Format
from peristyle.model.design import side_name
from peristyle.planning.making.setting import Setting
from peristyle.planning.making.step import Step
from peristyle.planning.section.segments import rounds_of
from peristyle.reference.machines import ANGLE_WORDS
from peristyle.words.reading import fill

_NUDGE_MM: Final = 0.25  # less between two passes is finer than a fence is set: nudged, and tried on scrap
_HAIR_MM: Final = 0.02  # less cannot be read off a fence in either unit


def passes_in_words(count: int) -> str:
    """One pass, two passes."""
    return "one pass" if count == 1 else f"{count} passes"


def _listed(values: Sequence[float], fmt: Format) -> str:
    return f"{' · '.join(fmt.length(value) for value in values)} {fmt.units}"


def fences_in_words(fences_mm: Sequence[float], fmt: Format) -> str:
    """The fence for each pass; where two lie nearer than a fence can be set, the first and how far to nudge it."""
    steps = [abs(b - a) for a, b in itertools.pairwise(fences_mm)]
    shown = [fmt.length(fence) for fence in fences_mm]
    if not steps or (min(steps) >= _NUDGE_MM and len(set(shown)) == len(shown)):
        return f"fence {' · '.join(shown)} {fmt.units}"
    nudge = fmt.length(steps[0], unit=True)
    if steps[0] < _HAIR_MM:
        nudge = "a hair"
    elif fmt.units == "in":
        nudge = f"{fmt.number(steps[0] / MM_PER_INCH, 3)} in"
    times = "once" if len(steps) == 1 else f"{len(steps)} times"
    return f"fence {shown[0]} {fmt.units}, then nudged {nudge} further {times}, proved on scrap"


def _mm(step: Step, gauge: str, fmt: Format, *, unit: bool = True) -> str:
    return fmt.length(step.amount(gauge), unit=unit)  # type: ignore[arg-type]


def _any(step: Step, fmt: Format) -> str:
    """The settings one after the other, for an operation that has no line of its own."""
    told = [
        f"{one.gauge} {fmt.angle(one.value) if one.unit == 'deg' else fmt.length(one.value, unit=True)}"
        for one in step.settings
    ]
    return ", ".join(told) or "by hand"


def _plane(step: Step, fmt: Format) -> str:
    return f"{_mm(step, 'thickness', fmt)} thick"


def _resaw(step: Step, fmt: Format) -> str:
    leaf = f"leaf {_mm(step, 'fence', fmt)} thick"
    high = step.value("height")
    return (
        leaf if high is None else f"{leaf}, blade {fmt.length(high, unit=True)} high, one pass from each edge"
    )


def _tilting(step: Step) -> str:
    """What is tilted: a band saw's blade stands as it is, and the table leans; by hand it is the cut."""
    return {"band_saw": "table", "hand_saw": "cut", "plow_plane": "cut", "router_table": "bit"}.get(
        step.tool, "blade"
    )


def _gauge(step: Step) -> str:
    """What is swung: the gauge or the saw; by hand it is the cut."""
    return "cut at" if step.tool == "hand_saw" else "saw swung" if step.tool == "miter_saw" else "gauge"


def _rip(step: Step, fmt: Format) -> str:
    tilt = step.value("tilt")
    return f"{_mm(step, 'width', fmt)} wide" + (
        f", {_tilting(step)} tilted {fmt.angle(tilt)}" if tilt else ""
    )


def _groove(step: Step, fmt: Format) -> str:
    tilt = step.value("tilt")
    way = "away from" if tilt and tilt > 0 else "toward"
    lean = f"{_tilting(step)} tilted {fmt.angle(abs(tilt))} {way} the fence, " if tilt else ""
    return f"{lean}{fences_in_words(step.values('fence'), fmt)}, depth {_mm(step, 'height', fmt)}"


def _rabbet(step: Step, fmt: Format) -> str:
    if step.value("width") is not None:
        return f"{_mm(step, 'width', fmt)} standing out of the fence, depth {_mm(step, 'height', fmt)}"
    return f"{fences_in_words(step.values('fence'), fmt)}, depth {_mm(step, 'height', fmt)}"


def _trim(step: Step, fmt: Format) -> str:
    where = "of the strip" if step.title == "trim.away" else "off the start end"
    return f"{_mm(step, 'stop', fmt)} {where}"


def _strip_bevel(step: Step, fmt: Format) -> str:
    wide = f", {_mm(step, 'width', fmt)} wide" if step.value("width") is not None else ""
    return f"{_tilting(step)} tilted {fmt.angle(step.amount('tilt'))}{wide}"


def _heights(step: Step, fmt: Format) -> str:
    return f"stop at {_mm(step, 'stop', fmt)}"


def _crosscut(step: Step, fmt: Format) -> str:
    swings = {s.end: abs(s.value) for s in step.settings if s.gauge == "swing"}
    gauge = ""
    if swings:
        start, end = swings["start"], swings["end"]
        alike = abs(start - end) < 1e-4
        both = f"{fmt.angle(end)}, to opposite hands"
        gauge = ", gauge " + (
            both if alike else f"{fmt.angle(start)} at the start, {fmt.angle(end)} at the end"
        )
    return f"stop {fmt.number(step.numbers['stop_number'], 0)} at {_mm(step, 'stop', fmt)}{gauge}"


def _whose(setting: Setting) -> str:
    """For which pieces a setting holds, where not for all."""
    return f" for {', '.join(name.split('.')[1] for name in setting.of)}" if setting.of else ""


def _loop(step: Step, fmt: Format) -> str:
    """The settings for start and end of every piece, each value once."""
    told: dict[str, list[str]] = {}
    for one in step.settings:
        word = {"tilt": ANGLE_WORDS[step.tool], "swing": "gauge", "stop": "stop at"}[one.gauge]
        value = fmt.angle(abs(one.value)) if one.unit == "deg" else fmt.length(one.value, unit=True)
        told.setdefault(word, []).append(f"{value}{_whose(one)}")
    return ", ".join(f"{word} {' · '.join(dict.fromkeys(values))}" for word, values in told.items())


def _bevel(step: Step, fmt: Format) -> str:
    if "bevel.loop" in step.says or "bevel.flip" in step.says:
        return _loop(step, fmt)
    swing = step.value("swing")
    if "bevel.on_its_edge" in step.says:
        parts = [f"saw swung {fmt.angle(step.amount('swing'))}, blade upright"]
    else:
        parts = [f"{ANGLE_WORDS[step.tool]} {fmt.angle(step.amount('tilt'))}"]
        parts += [f"gauge {fmt.angle(abs(swing))}"] if swing else []
    if step.begins_mm is not None:
        start = fmt.length(step.begins_mm, unit=True)
        parts.append(
            "at the blank's start" if step.begins_mm < _HAIR_MM else f"{start} from the blank's start"
        )
    if step.value("stop") is not None:
        parts.append(f"stop at {_mm(step, 'stop', fmt)}")
    return ", ".join(parts)


def _dado(step: Step, fmt: Format) -> str:
    tilt, swing = step.value("tilt"), step.value("swing")
    slant = (
        f"tilt {fmt.angle(abs(tilt))} toward the side's {'end' if tilt > 0 else 'start'}, " if tilt else ""
    )
    slant += f"gauge {fmt.angle(abs(swing))}, " if swing else ""
    return f"{slant}{_listed(step.values('stop'), fmt)} from the start, depth {_mm(step, 'height', fmt)}"


_PLAIN: Final[dict[str, str]] = {
    "dry_fit": "no glue yet", "mark": "before it is cut up",
    "try_bevel": "scraps and a square", "try_bevel.gauge": "scraps and a bevel gauge",
    "try_bevel.each": "scraps and a bevel gauge",
    "leaf_glue": "edge to edge, flat",
    "band_cut": "by knife, longer and wider than its edge", "band": "mitered at the corners, flushed",
    "finish_inside": "tape over every miter", "rough_sand": "corners left sharp",
    "key_glue": "until they show on both faces", "key_flush": "flush saw and plane", "panel_set": "glue and weight",
    "panel_flush": "plane and sand", "true_edge": "on a flat sheet of abrasive",
    "ledge_glue": "glue on the wall side", "plug_glue": "in the middle only", "lid_fix": "glue and weight",
    "roof_fix": "one glued, one dry", "strip_glue": "the lid is its clamp", "strip_flush": "saw near and sand",
    "try_hinge": "a scrap and one hinge",
    "hinge_hang": "one screw to a leaf first", "hinge_off": "numbered", "hinge_again": "wax on the screws",
    "hinge_hang.barrel": "pressed in dry", "hinge_again.barrel": "epoxy in the bores",
    "magnet_glue": "poles marked",
    "plate_screw": "wax on the screws",
    "divider_fit": "no glue", "floor_fit": "no glue",
    "fillet_glue": "a few dots of glue", "tray_glue": "tape and roll", "tray_fit": "glue and weight",
    "try_edge": "a scrap with a square arris",
    "spline_fit": "no glue yet", "corner_block_glue": "rubbed in, no clamp",
    "level": "on a flat sheet of abrasive",
    "finish": "grits, dents, coats", "own": "a step of your own",
}  # fmt: skip


def _plain(step: Step, fmt: Format) -> str:
    """What is set with no gauge."""
    return _PLAIN.get(next(iter(step.says), "")) or _PLAIN[step.operation]


def _true_lid(step: Step, fmt: Format) -> str:
    return fill("{each_mm} off each edge", fmt, step.numbers, {})


def _key_stock(step: Step, fmt: Format) -> str:
    return f"{_mm(step, 'thickness', fmt)} thick, {_mm(step, 'width', fmt)} wide"


def _spline_groove(step: Step, fmt: Format) -> str:
    return (
        f"fence {_listed(step.values('fence'), fmt)} from the inside arris, depth {_mm(step, 'height', fmt)}"
    )


def _segment_groove(step: Step, fmt: Format) -> str:
    return (
        f"{fences_in_words(step.values('fence'), fmt)} from the show face, depth {_mm(step, 'height', fmt)}"
    )


def _corner_block(step: Step, fmt: Format) -> str:
    lean = fmt.angle(step.amount("tilt"))
    return (
        f"{_tilting(step)} tilted {lean}, free face {_mm(step, 'width', fmt)}, {_mm(step, 'stop', fmt)} long"
    )


def _panel(step: Step, fmt: Format) -> str:
    """A panel's size: of a rectangle its two, of any other its sides and corners."""
    sides = [value for key, value in step.numbers.items() if key.startswith("edge.")]
    if not sides:
        return _sized(step, fmt)
    thick = f"{_mm(step, 'thickness', fmt)} thick"
    corners = [value for key, value in step.numbers.items() if key.startswith("corner.")]
    if len({round(v, 3) for v in sides}) == 1 and len({round(v, 3) for v in corners}) == 1:
        each = f"{fmt.length(sides[0], unit=True)}, {fmt.angle(corners[0])} at each corner"
        return f"{len(sides)} sides of {each}, {thick}"
    told = ", ".join(
        f"{side_name(i)} {fmt.length(side)}, {fmt.angle(corner)}"
        for i, (side, corner) in enumerate(zip(sides, corners, strict=True))
    )
    return f"{told} ({fmt.units}; each side and the corner at its end), {thick}"


def _sized(step: Step, fmt: Format) -> str:
    if "inlay.round" in step.says:
        return f"diameter {_mm(step, 'stop', fmt)}, {_mm(step, 'thickness', fmt)} thick"
    size = f"{_mm(step, 'stop', fmt, unit=False)} × {_mm(step, 'width', fmt, unit=False)} {fmt.units}"
    leans = dict.fromkeys(fmt.angle(abs(lean)) for lean in step.values("swing"))
    swung = f", ends swung {' and '.join(leans)}" if leans else ""
    return f"{size}, {_mm(step, 'thickness', fmt)} thick{swung}"


_PANELS_IN: Final = ("", "panel in dry, ", "panels in dry, ")


def _glue(step: Step, fmt: Format) -> str:
    return f"{_PANELS_IN[min(2, int(step.numbers['panels']))]}glue on both faces of every miter"


def _keys(step: Step, fmt: Format) -> str:
    if step.tool == "hand_saw" and step.value("width") is None:
        at, deep = _mm(step, "fence", fmt), _mm(step, "height", fmt)
        return f"one cut {at} from the {step.edge} edge, depth {deep}"
    if step.tool == "hand_saw":
        lines = (step.amount("fence"), step.amount("fence") + step.amount("width"))
        shown = " and ".join(fmt.length(line) for line in lines)
        return f"lines {shown} {fmt.units} from the {step.edge} edge, depth {_mm(step, 'height', fmt)}"
    tip = step.value("tip")
    tipped = f", cradle tipped {fmt.angle(abs(tip))}" if tip else ""
    return f"{fences_in_words(step.values('fence'), fmt)}, depth {_mm(step, 'height', fmt)}{tipped}"


def _lid(step: Step, fmt: Format) -> str:
    tilt = step.value("tilt")
    lean = f"{_tilting(step)} tilted {fmt.angle(tilt)} away from the fence, " if tilt else ""
    if step.tool == "hand_saw":
        return f"scribed {_mm(step, 'fence', fmt)} up from the bottom"
    high = f", blade {_mm(step, 'height', fmt)} high" if step.value("height") else ""
    return f"{lean}fence {_mm(step, 'fence', fmt)} from the {step.edge} edge{high}"


def _halve(step: Step, fmt: Format) -> str:
    return f"slots at {_listed(step.values('stop'), fmt)} from its start, {_mm(step, 'height', fmt)} deep"


def _liner_fit(step: Step, fmt: Format) -> str:
    way = "past" if step.numbers["proud"] else "below"
    words = "{gap_mm} of room each side, {room_mm} " + way + " the {rim}"
    return fill(words, fmt, step.numbers, step.names)


def _segment(step: Step, fmt: Format) -> str:
    inner = step.numbers["inner_mm"]
    edges = _mm(step, "stop", fmt) + (f" outer, {fmt.length(inner, unit=True)} inner" if inner else "")
    return f"{_gauge(step)} {fmt.angle(step.amount('swing'))}, edge {edges}"


def _opening(step: Step, fmt: Format) -> str:
    parts = [f"middle {_listed(step.values('stop'), fmt)} from the start"]
    if step.value("fence") is not None:
        parts.append(
            f"{_listed(step.values('fence'), fmt)} from the bottom edge, bit {_mm(step, 'width', fmt)}"
        )
    else:
        parts.append(fill("{width_mm:bare} × {high_mm}", fmt, step.numbers, step.names))
    return ", ".join(parts)


def _foot(step: Step, fmt: Format) -> str:
    tilt, swing = step.value("tilt"), step.value("swing")
    parts = [f"{_mm(step, 'stop', fmt)} long"]
    parts += [f"{_mm(step, 'width', fmt)} wide"] if step.value("width") else []
    parts += [f"{_mm(step, 'thickness', fmt)} thick"] if step.value("thickness") else []
    parts += [f"{_tilting(step)} tilted {fmt.angle(tilt)}"] if tilt else []
    parts += [f"{_gauge(step)} {fmt.angle(swing)}"] if swing else []
    return ", ".join(parts)


def _foot_glue(step: Step, fmt: Format) -> str:
    return fill("{count|foot|feet}", fmt, step.numbers, step.names)


def _lower(step: Step, fmt: Format) -> str:
    tilt = step.value("tilt")
    lean = (
        f"{_tilting(step)} tilted {fmt.angle(abs(tilt))} {'from' if tilt > 0 else 'toward'} the fence, "
        if tilt
        else ""
    )
    at = "line at" if step.tool in ("hand_saw", "band_saw") else "fence"
    return f"{lean}{at} {_mm(step, 'fence', fmt)}"


def _gable(step: Step, fmt: Format) -> str:
    return (
        f"{_gauge(step)} {fmt.angle(step.amount('swing'))}, from {_mm(step, 'stop', fmt)} along the top edge"
    )


def _roof_leaf(step: Step, fmt: Format) -> str:
    return f"{_sized(step, fmt)}, {_tilting(step)} tilted {fmt.angle(step.amount('tilt'))}"


def _ledge(step: Step, fmt: Format) -> str:
    tilt = step.value("tilt")
    lean = f", {_tilting(step)} tilted {fmt.angle(tilt)} for the back" if tilt else ""
    return f"{_mm(step, 'width', fmt)} wide, {_mm(step, 'thickness', fmt)} high{lean}"


def _lid_hole(step: Step, fmt: Format) -> str:
    at = f"{_mm(step, 'stop', fmt)} from the start, {_mm(step, 'fence', fmt)} from the near edge"
    return f"{at}, bit {_mm(step, 'width', fmt)}"


def _lid_notch(step: Step, fmt: Format) -> str:
    return fill("{wide_mm} wide, {deep_mm} deep", fmt, step.numbers, step.names)


def _segment_glue(step: Step, fmt: Format) -> str:
    return f"{len(rounds_of(int(step.numbers['count']))) + 2} steps; leave the last joint dry"


def begin_end(step: Step, fmt: Format) -> str:
    """From where to where each hinge lies."""
    at = [fmt.length(value) for value in step.values("stop")]
    return (
        ", ".join(f"{a} to {b}" for a, b in zip(at[::2], at[1::2], strict=False)) + f" {fmt.units}"
        if at
        else ""
    )


def _hinge_mortise(step: Step, fmt: Format) -> str:
    where = "each corner" if step.title.endswith("quadrant") else "the start"
    deep = f", {_mm(step, 'height', fmt)} deep" if step.value("height") is not None else ""
    return f"{begin_end(step, fmt)} from {where}, {_mm(step, 'width', fmt)} from the face{deep}"


def _plate_recess(step: Step, fmt: Format) -> str:
    return f"{_mm(step, 'height', fmt)} deep"


def _plate_bore(step: Step, fmt: Format) -> str:
    bored = f"bit {_mm(step, 'width', fmt)}, {_mm(step, 'height', fmt)} deep"
    across = f"{_listed(step.values('stop'), fmt)} from {step.settings[0].from_.split(',')[0]}"
    edges = "rims" if step.title.endswith("latch") else "edge"
    return f"{across}, {_listed(step.values('fence'), fmt)} from the {edges}, {bored}"


def _hinge_bevel(step: Step, fmt: Format) -> str:
    return f"{_mm(step, 'width', fmt)} on the rim, {_mm(step, 'height', fmt)} on the face"


def _magnet_bore(step: Step, fmt: Format) -> str:
    bored = f"bit {_mm(step, 'width', fmt)}, {_mm(step, 'height', fmt)} deep"
    return f"middles {_listed(step.values('stop'), fmt)} from the start, {bored}"


def _inlay_pocket(step: Step, fmt: Format) -> str:
    at = f"middle {_mm(step, 'stop', fmt)} from the start, {_mm(step, 'fence', fmt)} from the near edge"
    return f"{at}, {_mm(step, 'height', fmt)} deep"


def _handle_bore(step: Step, fmt: Format) -> str:
    at = f"{_listed(step.values('stop'), fmt)} from the start, {_mm(step, 'fence', fmt)} from the near edge"
    return f"{at}, bit {_mm(step, 'width', fmt)}"


def _handle_wedge(step: Step, fmt: Format) -> str:
    return f"{_mm(step, 'stop', fmt)} long"


def _lining(step: Step, fmt: Format) -> str:
    return f"{_mm(step, 'thickness', fmt)} thick" if step.value("thickness") is not None else "to size"


def _edge(step: Step, fmt: Format) -> str:
    size = _mm(step, "height", fmt)
    return f"bit {size} over the table, fence level with its bearing, {passes_in_words(step.passes)}"


_SETTINGS: Final[dict[str, Callable[[Step, Format], str]]] = {
    "plane": _plane, "thin": _plane, "resaw": _resaw, "rip": _rip, "groove": _groove, "rabbet": _rabbet,
    "try_groove": _groove,
    "strips": _rip, "strip_bevel": _strip_bevel, "heights": _heights,
    "trim": _trim, "crosscut": _crosscut, "bevel": _bevel,
    "dado": _dado, "panel": _panel, "glue": _glue, "keys": _keys, "lid": _lid,
    "divider": _sized, "block": _sized, "halve": _halve, "liner_fit": _liner_fit, "segment": _segment, "leaf": _sized,
    "board": _sized,
    "true_lid": _true_lid, "key_stock": _key_stock, "spline_stock": _key_stock,
    "spline_groove": _spline_groove, "segment_groove": _segment_groove,
    "corner_block": _corner_block, **dict.fromkeys(_PLAIN, _plain),
    "lower": _lower, "gable": _gable, "roof_leaf": _roof_leaf, "ledge": _ledge, "lid_hole": _lid_hole,
    "lid_notch": _lid_notch, "hinge_mortise": _hinge_mortise, "hinge_bore": _magnet_bore,
    "plate_recess": _plate_recess, "plate_bore": _plate_bore,
    "hinge_bevel": _hinge_bevel, "magnet_bore": _magnet_bore, "edge": _edge,
    "inlay": _sized, "inlay_pocket": _inlay_pocket, "handle_bore": _handle_bore, "handle_wedge": _handle_wedge,
    "lining": _lining,
    "segment_glue": _segment_glue, "opening": _opening, "foot": _foot, "foot_glue": _foot_glue,
}  # fmt: skip


def _line_rip(step: Step, fmt: Format) -> str:
    tilt = step.value("tilt")
    return f"{_mm(step, 'width', fmt)} wide" + (f", edges planed to {fmt.angle(tilt)}" if tilt else "")


def _line_length(step: Step, fmt: Format) -> str:
    swings = dict.fromkeys(
        fmt.angle(abs(one.value)) for one in step.settings if one.gauge == "swing" and one.value
    )
    ends = f", ends cut {' and '.join(swings)} from square" if swings else ""
    return f"{_mm(step, 'stop', fmt)} long{ends}"


def _line_dado(step: Step, fmt: Format) -> str:
    tilt, swing = step.value("tilt"), step.value("swing")
    slant = (
        f", leaning {fmt.angle(abs(tilt))} toward the side's {'end' if tilt > 0 else 'start'}" if tilt else ""
    )
    slant += f", {fmt.angle(abs(swing))} off square on the face" if swing else ""
    return f"{_listed(step.values('stop'), fmt)} from the start{slant}, depth {_mm(step, 'height', fmt)}"


def _line_groove(step: Step, fmt: Format) -> str:
    at, deep = fmt.length(step.values("fence")[0], unit=True), _mm(step, "height", fmt)
    wide = step.numbers.get("wide_mm")
    return (
        f"{at} from the edge, " + (f"{fmt.length(wide, unit=True)} wide, " if wide else "") + f"{deep} deep"
    )


def _line_rabbet(step: Step, fmt: Format) -> str:
    wide = step.amount("width") or step.numbers.get("shoulder_mm", 0.0)
    return f"{fmt.length(wide, unit=True)} wide, {_mm(step, 'height', fmt)} deep"


def _line_spline(step: Step, fmt: Format) -> str:
    at, deep = _listed(step.values("fence"), fmt), _mm(step, "height", fmt)
    wide = step.numbers.get("wide_mm")
    return f"{at} from the inside edge of the miter, " + (
        f"{fmt.length(wide, unit=True)} wide, {deep} deep" if wide else f"{deep} deep"
    )


_BY_LINE: Final[dict[str, Callable[[Step, Format], str]]] = {
    "rip": _line_rip, "strips": _line_rip, "strip_bevel": _line_rip, "crosscut": _line_length, "heights": _line_length,
    "dado": _line_dado, "groove": _line_groove, "try_groove": _line_groove, "rabbet": _line_rabbet,
    "spline_groove": _line_spline,
}  # fmt: skip


def set_at(step: Step, fmt: Format) -> str:
    """The line for a step: by hand where a hand tool has one of its own."""
    by_line = _BY_LINE.get(step.operation) if step.tool in ("hand_saw", "plow_plane") else None
    return (by_line or _SETTINGS.get(step.operation, _any))(step, fmt)
