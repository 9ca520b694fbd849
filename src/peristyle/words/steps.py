"""What a step is called, how its tool is set and how it is done, read over its own settings and numbers."""

import itertools
from collections.abc import Callable, Sequence
from typing import Final

from peristyle.core.lengths import MM_PER_INCH, Format
from peristyle.planning.making.step import Step
from peristyle.planning.section.segments import rounds_of
from peristyle.reference.machines import ANGLE_WORDS
from peristyle.words.reading import fill, sentence

_TITLES: Final[dict[str, str]] = {
    "plane": "Plane to thickness",
    "rip": "Rip to height",
    "rip.some": "Rip {sides} to height",
    "rip.strip": "Rip the strip, edges square",
    "groove": "Groove for the {panels}",
    "groove.some": "Groove for the {panels} in {sides}",
    "trim": "Trim the end square",
    "crosscut": "Crosscut {sides}",
    "crosscut.miters": "Miter the ends of {sides}",
    "bevel": "Bevel the {end} of {sides}",
    "dado": "Dado in {sides}",
    "dry_fit": "Dry fit with tape",
    "panel": "Cut the {panel} panel",
    "glue": "Glue up",
    "keys": "Slots for keys",
    "keys.some": "Slots for keys at {corners}",
    "lid": "Free the lid",
    "lid.some": "Free the lid along {sides}",
    "divider": "Cut divider {dividers}",
    "divider.many": "Cut dividers {dividers}",
    "halve": "Halve divider {dividers}",
    "halve.many": "Halve dividers {dividers}",
    "liner_fit": "Fit the liner",
    "opening.hole": "Bore the hole in {sides}",
    "opening.slot": "Cut the slot in {sides}",
    "opening.notch": "Cut the finger notch in {sides}",
    "foot.block": "Cut {count} feet",
    "foot.mitered": "Cut {count} feet, mitered at the {end}",
    "foot.wedge": "Cut {count} wedges for feet",
    "foot_glue": "Glue on the feet",
    "segment": "Cut {count} segments for the {panel}",
    "segment_glue": "Glue up the {panel} from its segments",
}

_SAYS: Final[dict[str, str]] = {
    "plane.all": "The whole board to one setting, so that every side is the same.",
    "plane.light": "{off_mm} comes off in {passes} light passes of {light_mm}, both faces in turn.",
    "plane.some": "Only the stretch for sides {sides}.",
    "rip.strip": "One straight edge first. The sides lean unlike each other: side {side} needs this width, and each "
    "is ripped to its own height once it is cut to length.",
    "rip.straight": "One straight edge first; then both edges parallel.",
    "rip.parallel": "Both edges parallel.",
    "rip.band_saw": "Saw just outside the line and plane to the width.",
    "rip.on_edge": "A lean of {lean_deg} is past the saw's stop: stand the board on its edge against a tall fence "
    "with the blade at {tilt_deg}, or plane the edges to a line.",
    "rip.leaning": "Both lean the same way, so that the box sits flat. The blade leans away from the fence: for the "
    "top edge {down} face down, bottom edge on the fence, its arris on the table touching; the width is along the "
    "face.",
    "trim": "Past checks and snipe; this is where the strip begins.",
    "crosscut": "In this order, so that the grain runs on. Mark each side's letter and its top edge.",
    "crosscut.creep": "In this order, so that the grain runs on. Mark each side's letter and its top edge; "
    "{left_mm} is left to creep up on the line.",
    "crosscut.square": "Square, and as long as its two ends reach: the swing comes with the bevel.",
    "crosscut.both_hands": "The stop measures along the {edge} edge. Show face up and that edge toward you, the "
    "start's cut leans {start_hand} as it goes away from you and the end's cut leans {end_hand} as it goes away "
    "from you.",
    "crosscut.start_hand": "The stop measures along the {edge} edge. Show face up and that edge toward you, the "
    "start's cut leans {start_hand} as it goes away from you; the end's is square.",
    "crosscut.end_hand": "The stop measures along the {edge} edge. Show face up and that edge toward you, the end's "
    "cut leans {end_hand} as it goes away from you; the start's is square.",
    "crosscut.miters": "Both ends at their miter, square to the face, to the final length.",
    "crosscut.begins": "The start's cut begins {start_mm} in along that edge.",
    "bevel.chamfer_bit": "{face} up on the router table, in small passes, with a backing piece behind the edge "
    "against tear-out; the last pass just reaches the {arris} edge.",
    "bevel.shooting_board": "Saw near the line by hand; {face} up on the shooting board against a block of this "
    "angle, and plane until the plane just reaches the {arris} edge.",
    "bevel.on_its_edge": "Bevel {bevel_deg} is further than the saw tilts: stand the piece on its edge against the "
    "fence, {face} to the fence, and swing the saw {bevel_deg}, if it swings so far and cuts so high. The cut dies "
    "at the {arris} edge.",
    "bevel.on_end": "Bevel {bevel_deg} is past the saw's stop: the piece is at its length already. Stand it on end, "
    "clamped to a carrier, {face} against the tall fence, the blade leaning away at {tilt_deg} and more than "
    "{rise_mm} high. There is no length stop: the near side of the kerf meets the table where the {arris} edge "
    "stands.",
    "bevel.direct": "{face} up, the blade leaning away from the piece. The kerf just reaches the last cut at the "
    "{arris} edge.",
    "bevel.direct_turned": "{face} up, the blade leaning away from the piece; the board turned end for end. The "
    "kerf just reaches the last cut at the {arris} edge.",
    "bevel.direct_creep": "First {creep_mm} clear of the line, then creep up to it.",
    "bevel.creep_start": "{face} up, the blade leaning away from the piece; creep up until it has taken {creep_mm} "
    "off the {arris} edge; as much is still to come off the end.",
    "bevel.creep_end": "{face} up, the blade leaning away from the piece; creep up until it has taken {creep_mm} "
    "off the {arris} edge, to the final length.",
    "bevel.dies": "{face} up, the blade leaning away from the piece; the cut dies at the {arris} edge and takes "
    "nothing of its length.",
    "bevel.inside_longer": "Here the inside is the longer face, and the stop is measured on it.",
    "bevel.hand": "With the {edge} edge toward you the cut leans {hand} as it goes away from you.",
    "bevel.scale": "The scale shows {shown_deg}: {error_deg:3} off in each of {cuts} cuts would leave the last "
    "joint {gap_mm} open. Cut a test pair and correct.",
    "groove": "Inside face down, {panel} edge on the fence.",
    "groove.arris": "Inside face down, {panel} edge on the fence, where its {arris} arris touches first.",
    "groove.strip": "In the long strip, in {passes}, so that it lines up at every corner.",
    "groove.pieces": "In the pieces, now ripped to height, in {passes}, so that it lines up at every corner.",
    "groove.turned": "Then the same turned end for end, top edge on the fence.",
    "groove.bit": "A few millimetres deeper each time, against the bit's turning; the last pass light.",
    "dado": "Inside face down, the side's start against the stop.",
    "dado.passes": "Inside face down, the side's start against the stop; {passes}.",
    "dado.reach": "Dividers reach {reach_mm} up: stop the dado there, or let it run on to the top edge.",
    "dry_fit": "Look at every corner inside and out, and measure both diagonals.",
    "panel": "Try it in the dry ring: it must slide with its play, or the ring will not close.",
    "panel.traced": "Trace it from the ring's inside on the drawing; it must lie in the dry ring with its play.",
    "panel.tongue": "Plane both faces of its edges to a tongue {tongues}, {held_mm} long, that leans as the side's "
    "own thickness does; try it in an offcut of the groove.",
    "glue.lay_out": "Lay everything out in its order first, dry, and close it once without glue.",
    "glue.tape": "Tape the sides end to end, show face up; glue both faces of every miter, roll the ring up round "
    "what goes in, and close the last corner with tape. All joints but the last come tight; what is left of the "
    "errors shows there.",
    "glue.band": "The band lies ready, laid out round {round_mm}; glue both faces of every miter, then tighten a "
    "little at a time: the band shares what is left of the errors among all corners.",
    "glue.bar": "Two clamps for each pair of sides, a waxed caul on every side as long as the side ({cauls}); glue "
    "both faces of every miter, one pair lightly, then the other, then both in turn.",
    "glue.corner": "A caul with its notch at every corner; glue both faces of every miter and tighten the corners in "
    "turn, a little each.",
    "glue.slips": "Check the diagonals before it grabs. If it slips: loosen, put it right, tighten again a little at a "
    "time.",
    "glue.overnight": "Leave it overnight.",
    "keys": "In a cradle of {cradle_deg}, {edge} edge to the fence; {slots} slots.",
    "keys.passes": "In a cradle of {cradle_deg}, {edge} edge to the fence; {slots} slots, {passes} each.",
    "keys.hand": "By hand, along knife lines {edge} edge first: {slots} slots, square across the corner and no deeper "
    "than the line; a block clamped beside the line guides the saw.",
    "keys.bit": "The bit takes each slot in small steps of depth, a backing block behind the corner.",
    "keys.turned": "The mirrored slots on the same setting, with the box turned over.",
    "keys.leaning": "The corner leans, so the fence is measured along it, from its {edge} end: let a block on the "
    "fence touch that end alone.",
    "lid": "The line is {line_mm} up. The {edge} edge on the fence.",
    "lid.wider": "The line is {line_mm} up. The {edge} edge on the fence: it is the wider, so that the far side "
    "keeps clear of the fence.",
    "lid.band_saw": "The line is {line_mm} up. The box on one of its sides, its bottom flat against a tall fence, "
    "packed so that it cannot rock: through in one pass, {across_mm} high, body and lid held together to the end.",
    "lid.hand_saw": "Scribe a line all round {low_mm} up from the bottom with a gauge; saw a little way in from every "
    "corner along it, turning the box, until the saw runs in its own kerf all round.",
    "lid.opposite": "Two opposite sides, then the others; pack the kerf before the last cut.",
    "lid.round": "Round the box, side by side; pack the kerf before the last cut.",
    "lid.true": "True both edges on a flat sheet of abrasive.",
    "divider": "Ends square to the faces.",
    "divider.fit": "Plane it until it slides into its dadoes by hand: glue swells it.",
    "halve": "From the {edge}, half the height, so that those across drop over those along. Measured along its "
    "foot; try the slot on an offcut of the divider.",
    "liner_fit": "Tape it dry inside the finished box before any glue: it must drop in by its own weight and come "
    "out by hand. Plane its outside where it binds.",
    "opening.hole": "Show face up on a backing board, bottom edge to the fence; the bit goes through into the board.",
    "opening.slot": "Show face up on a backing board, bottom edge to the fence. Bore both ends, then saw between "
    "them and file to the lines.",
    "opening.notch": "Mark it from a template of radius {radius_mm}, {width_mm} wide and {high_mm} deep at the rim; "
    "saw it and sand to the line.",
    "opening.clamped": "Both sides together, inside faces touching and bottom edges flush, so that the two are "
    "alike.",
    "opening.body": "In the rim of the body, once the lid is free.",
    "foot.block": "From a strip of this width, its grain along the strip; every cut parallel to the last.",
    "foot.mitered": "From a strip ripped to the feet's height; left and right feet are mirrored, so mark which is "
    "which.",
    "foot.wedge": "From the offcuts of the bevels, by hand saw or on a sled: their longest straight stretch.",
    "foot_glue": "Once the bottom is flat: {inset_mm} in from the outside, rubbed on with little glue and left "
    "under a weight.",
    "foot_glue.mitered": "Once the bottom is flat: each pair glued in its miter first, then {inset_mm} in from the "
    "outside, rubbed on with little glue.",
    "segment.pie": "Triangles from a strip {strip_mm} wide and {length_mm} long, turned about for every cut.",
    "segment.ring": "Trapezoids from a strip {strip_mm} wide and {length_mm} long, turned about for every cut.",
    "segment.hole": "The ring leaves a hole {hole_mm} across its flats: let in a panel of its own.",
    "segment_glue.order": "{order}.",
    "segment_glue": "With {error_deg:1} of error in each of {cuts} cuts the last joint would stand {gap_mm} open at "
    "the rim: that is what truing the halves takes away.",
}

# Why one step comes after another.
_WHY: Final[dict[str, str]] = {
    "rip.plane": "a saw kerf is set by a face that is flat and as thick as it will be",
    "rip.crosscut": "sides that lean unlike each other are ripped one by one",
    "groove.rip": "the ripped edge rides on the fence",
    "trim.rip": "the strip is crosscut from its ripped edge",
    "crosscut.trim": "the strip is measured from its trimmed end",
    "crosscut.groove": "grooves run in the long strip, so that they line up at every corner",
    "bevel.crosscut": "the bevel dies at the end of the length",
    "bevel.trim": "the first bevel starts there",
    "bevel.groove": "the groove is cut before the ends are fragile",
    "dado.bevel": "the dado is measured from the finished start",
    "dry_fit.bevel": "all miters are cut",
    "dry_fit.dado": "dadoes are cut while the sides lie flat",
    "panel.dry_fit": "the panel is fitted to the ring as it came out",
    "panel.segment_glue": "the panel is cut from its glued segments",
    "segment_glue.segment": "all segments are cut",
    "glue.panel": "a panel goes in as the ring closes",
    "glue.dry_fit": "a rehearsal comes before glue",
    "keys.glue": "the slots cross glued corners",
    "lid.keys": "a key across the line would be cut",
    "lid.glue": "the closed box is sawn round",
    "liner_fit.lid": "the liner goes in from above",
    "liner_fit.bevel": "its sides are cut",
    "opening.bevel": "it is measured from the finished start",
    "opening.lid": "it is cut in the rim of the body",
    "dry_fit.opening": "openings are cut while the sides lie flat",
    "foot.bevel": "their angles are those of the corners, as cut",
    "foot_glue.foot": "all feet are cut",
    "foot_glue.lid": "the closed box is sawn round on its flat bottom",
    "foot_glue.glue": "they stand under the finished box",
    "halve.divider": "the dividers are at their length",
}

_NUDGE_MM: Final = 0.25  # less between two passes is finer than a fence is set: nudged, and tried on scrap


def title(step: Step, fmt: Format) -> str:
    """What the step is called."""
    text = fill(_TITLES[step.title], fmt, step.numbers, step.names)
    of_liner = step.part == "liner" and step.operation != "liner_fit"
    return f"Liner: {text[:1].lower()}{text[1:]}" if of_liner else text


def how(step: Step, fmt: Format) -> str:
    """How it is done."""
    names = step.names | {
        "passes": passes_in_words(int(step.numbers.get("passes", 1))),
        "tongues": _tongues(step, fmt),
        "order": "; ".join(glue_order(int(step.numbers.get("count", 1)))),
        "cauls": _cauls(step, fmt),
    }
    return " ".join(sentence(fill(_SAYS[key], fmt, step.numbers, names)) for key in step.says)


def why(key: str) -> str:
    """Why one step comes after another."""
    return _WHY[key]


def setting(step: Step, fmt: Format) -> str:
    """How the tool is set, in a line."""
    return _SETTINGS.get(step.operation, _any)(step, fmt)


_TOOLS: Final[dict[str, str]] = {
    "table_saw": "table saw", "miter_saw": "miter saw", "band_saw": "band saw", "hand_saw": "hand saw",
    "router_table": "router table", "chamfer_bit": "router table, chamfer bit", "shooting_board": "shooting board",
    "planer": "planer", "drum_sander": "drum sander", "hand_plane": "hand plane", "drill_press": "drill press",
    "tape": "tape", "clamps": "clamps",
}  # fmt: skip


def tool(step: Step) -> str:
    """What the step is done with: the kind of tool, and the maker's own name for it."""
    kind = _TOOLS.get(step.tool, step.tool.replace("_", " "))
    return f"{step.tool_name} ({kind})" if step.tool_name and step.tool_name.lower() != kind else kind


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
    if fmt.units == "in":
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


def _rip(step: Step, fmt: Format) -> str:
    tilt = step.value("tilt")
    return f"{_mm(step, 'width', fmt)} wide" + (f", blade tilted {fmt.angle(tilt)}" if tilt else "")


def _groove(step: Step, fmt: Format) -> str:
    tilt = step.value("tilt")
    way = "away from" if tilt and tilt > 0 else "toward"
    lean = f"blade tilted {fmt.angle(abs(tilt))} {way} the fence, " if tilt else ""
    return f"{lean}{fences_in_words(step.values('fence'), fmt)}, depth {_mm(step, 'height', fmt)}"


def _trim(step: Step, fmt: Format) -> str:
    return f"{_mm(step, 'stop', fmt)} off the start end"


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


def _bevel(step: Step, fmt: Format) -> str:
    swing = step.value("swing")
    if "bevel.on_its_edge" in step.says:
        parts = [f"saw swung {fmt.angle(step.amount('swing'))}, blade upright"]
    else:
        parts = [f"{ANGLE_WORDS[step.tool]} {fmt.angle(step.amount('tilt'))}"]
        parts += [f"gauge {fmt.angle(abs(swing))}"] if swing else []
    if step.begins_mm is not None:
        parts.append(f"{fmt.length(step.begins_mm, unit=True)} from the blank's start")
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


def _dry_fit(step: Step, fmt: Format) -> str:
    return "no glue yet"


def _sized(step: Step, fmt: Format) -> str:
    size = f"{_mm(step, 'stop', fmt, unit=False)} × {_mm(step, 'width', fmt, unit=False)} {fmt.units}"
    leans = dict.fromkeys(fmt.angle(abs(lean)) for lean in step.values("swing"))
    swung = f", ends swung {' and '.join(leans)}" if leans else ""
    return f"{size}, {_mm(step, 'thickness', fmt)} thick{swung}"


_PANELS_IN: Final = ("", "panel in dry, ", "panels in dry, ")


def _glue(step: Step, fmt: Format) -> str:
    return f"{_PANELS_IN[min(2, int(step.numbers['panels']))]}glue on both faces of every miter"


def _keys(step: Step, fmt: Format) -> str:
    return f"{fences_in_words(step.values('fence'), fmt)}, depth {_mm(step, 'height', fmt)}"


def _lid(step: Step, fmt: Format) -> str:
    tilt = step.value("tilt")
    lean = f"blade tilted {fmt.angle(tilt)} away from the fence, " if tilt else ""
    return f"{lean}fence {_mm(step, 'fence', fmt)} from the {step.edge} edge"


def _halve(step: Step, fmt: Format) -> str:
    return f"slots at {_listed(step.values('stop'), fmt)} from its start, {_mm(step, 'height', fmt)} deep"


def _liner_fit(step: Step, fmt: Format) -> str:
    way = "past" if step.numbers["proud"] else "below"
    words = "{gap_mm} of room each side, {room_mm} " + way + " the {rim}"
    return fill(words, fmt, step.numbers, step.names)


def _segment(step: Step, fmt: Format) -> str:
    inner = step.numbers["inner_mm"]
    edges = _mm(step, "stop", fmt, unit=False) + (f" outer, {fmt.length(inner)} inner" if inner else "")
    return f"gauge {fmt.angle(step.amount('swing'))}, edge {edges} {fmt.units}"


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
    parts += [f"blade tilted {fmt.angle(tilt)}"] if tilt else []
    parts += [f"gauge {fmt.angle(swing)}"] if swing else []
    return ", ".join(parts)


def _foot_glue(step: Step, fmt: Format) -> str:
    return fill("{count} feet", fmt, step.numbers, step.names)


def _segment_glue(step: Step, fmt: Format) -> str:
    return f"{len(glue_order(int(step.numbers['count'])))} steps; leave the last joint dry"


_SETTINGS: Final[dict[str, Callable[[Step, Format], str]]] = {
    "plane": _plane, "rip": _rip, "groove": _groove, "trim": _trim, "crosscut": _crosscut, "bevel": _bevel,
    "dado": _dado, "dry_fit": _dry_fit, "panel": _sized, "glue": _glue, "keys": _keys, "lid": _lid,
    "divider": _sized, "halve": _halve, "liner_fit": _liner_fit, "segment": _segment,
    "segment_glue": _segment_glue, "opening": _opening, "foot": _foot, "foot_glue": _foot_glue,
}  # fmt: skip


def _tongues(step: Step, fmt: Format) -> str:
    """How thick and how far leaning a panel's tongues are, each kind once."""
    sides = [
        key.split(".")[1] for key in step.numbers if key.startswith("tongue.") and key.endswith("thick_mm")
    ]
    told = {
        f"{fmt.length(step.numbers[f'tongue.{side}.thick_mm'], unit=True)} thick, leaning "
        f"{fmt.angle(step.numbers[f'tongue.{side}.lean_deg'])}": None
        for side in sides
    }
    return " and ".join(told)


def _cauls(step: Step, fmt: Format) -> str:
    """How long the cauls are, each length once."""
    told = {
        fmt.length(value, unit=True): None for key, value in step.numbers.items() if key.startswith("caul.")
    }
    return " and ".join(told)


def glue_order(count: int) -> list[str]:
    """The order in which so many segments are glued to each other."""
    told = [
        f"glue neighbours: {len(groups)} groups of {' + '.join(str(size) for size in groups)}"
        for groups in rounds_of(count)
    ]
    if count % 2:
        told.append(
            "lay the two parts together dry and plane the last two edges until they close: "
            "an odd number has no straight line across to true"
        )
    else:
        told.append("true the two straight edges of the halves")
    return [*told, "glue the last joints"]
