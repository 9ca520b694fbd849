"""What is said of the box as it came out: quantities, causes, chances, ways out, what is cut already."""

from typing import Final

from peristyle.core.lengths import MM_PER_INCH, Format
from peristyle.planning.fit.diagnose import Cause, Diagnosis
from peristyle.planning.fit.errors import Of, Practice
from peristyle.planning.fit.half_way import Kind, Verdict
from peristyle.planning.fit.quantities import Quantity
from peristyle.planning.fit.rescue import ABOUT, Found, Rescue, Trouble, can_be
from peristyle.planning.fit.ring import Joint
from peristyle.planning.fit.simulate import Outcome
from peristyle.planning.plan import Plan
from peristyle.words.reading import clock, fill, sentence
from peristyle.words.setups import NAMES as CHECKS

_TOLD_MM: Final = 5e-4
_SHOWN: Final = 0.05  # mm or degrees: a cause that is off by less would read as nothing
_SQUARE_DEG: Final = 0.02  # less is not seen on a diagonal
_QUANTITIES: Final[dict[str, str]] = {
    "length": "side {side}: length outside",
    "width": "side {side}: width up the face",
    "thickness": "side {side}: thickness",
    "bevel": "side {side}: bevel at its {end}",
    "miter": "side {side}: swing at its {end}",
    "groove_width": "side {side}: width of the groove for the {panel}",
    "groove_depth": "side {side}: depth of the groove for the {panel}",
    "gap_outside": "corner {corner}: gap outside",
    "gap_inside": "corner {corner}: gap inside",
    "slot": "corner {corner}: width of slot {key}",
    "diagonal": "diagonal from corner {corner} to corner {other}, outside",
    "middle": "from the middle to corner {corner}",
    "body": "body: height at side {side}",
    "lid": "lid: height at side {side}",
    "panel_length": "{panel}: length",
    "panel_width": "{panel}: width",
    "panel_thickness": "{panel}: thickness",
    "play": "play of what it holds",
}
WAYS: Final = {
    "rolled": "rolled up with tape", "band": "in a band", "cauls": "between cauls", "halves": "in halves, trued",
}  # fmt: skip
STOPS: Final = {"one": "one stop for all alike", "each": "a stop for each piece"}
TESTS: Final = {"none": "no test cut", "pair": "two test pieces", "ring": "a ring of scraps"}
ENDS: Final = {"saw": "ends from the saw", "shot": "ends shot"}
KINDS: Final[dict[Of, str]] = {
    "tilt_set": "the tilt as it is set", "tilt_cut": "each bevel by itself", "swing_set": "the swing as it is set",
    "swing_cut": "each swing by itself", "stop_set": "the stop as it is set", "stop_cut": "each length by itself",
}  # fmt: skip
_CAUSES: Final[dict[Of, str]] = {
    "tilt_set": "The tilt that {about} are cut at is {off_deg:1} too {steep}",
    "tilt_cut": "The bevel of {about} is {off_deg:1} too {steep}",
    "swing_set": "The swing that {about} are cut at is {off_deg:1} too {wide}",
    "swing_cut": "The swing of {about} is {off_deg:1} too {wide}",
    "stop_set": "The stop that {about} are cut at is {off_mm} too {long}",
    "stop_cut": "Side {about} is {off_mm} too {long}",
}
_MENDS: Final[dict[Of, str]] = {
    "tilt_set": "tilt {off_deg:1} {less}", "tilt_cut": "shoot it {off_deg:1} {less}",
    "swing_set": "swing {off_deg:1} {less}", "swing_cut": "shoot it {off_deg:1} {less}",
    "stop_set": "set the stop {off_mm} {less}", "stop_cut": "cut it again, or its partner to it",
}  # fmt: skip
TROUBLES: Final[dict[Trouble, str]] = {
    "short": "a side is too short", "thin": "a side is too thin", "last_gap": "a joint stays open",
    "panel_large": "a panel is too large", "rattles": "what it holds rattles", "lid_off": "the lid stands off",
    "lid_low": "body or lid came out low", "groove_wide": "a groove is too wide",
    "groove_off": "a groove is in the wrong place", "chip": "an edge chipped", "slot_wide": "a key's slot is too wide",
    "both_ends": "both ends lean the same way", "forgotten": "a groove or an opening was forgotten",
    "slipped": "it slipped in the clamps", "rocks": "it rocks", "long_all": "all sides are a little long",
}  # fmt: skip
# Why there is nothing to be done about one: the box has not what would go wrong.
_CANNOT_BE: Final[dict[Trouble, str]] = {
    "rattles": "Nothing is said to lie in this box: say first what it holds.",
    "lid_off": "No lid is sawn free of this box, and no liner stands under another.",
    "lid_low": "No lid is sawn free of this box.",
    "slot_wide": "This box has no keys.",
}
_RESCUES: Final[dict[str, str]] = {
    "shorten_partner": "Cut side {other} to {is_mm} too: the box gets {by_mm} smaller, panels follow",
    "shorten_all": "Cut all sides to {is_mm}: the box gets smaller, panels follow",
    "smaller_ring": "Make every side smaller by the same share, to {share:1} %",
    "replace_side": "Make side {side} anew, {long_mm} from “{board}”: the grain no longer runs on at its two corners",
    "all_thin": "Plane all sides to {thin_mm}: the inside grows",
    "step_inside": "Leave side {side} thin: flush outside, a step of {by_mm} inside, eased",
    "shoot_last": "Shoot the last joint’s faces, {turn_deg:2} between them",
    "shim_last": "Glue a shaving into the joint, {by_mm} at its thick edge",
    "halves": "Take it apart, glue two halves, true their ends on a flat sheet",
    "trim_panel": "Trim the {panel} by {by_mm}",
    "groove_deeper": "Cut the groove for the {panel} {deep_mm} deep",
    "line_it": "Line it with {lining_mm} of felt or cloth more on each wall",
    "shim_walls": "Glue shims of {by_mm} to its walls",
    "wider_lip": "Take a lip wider by {by_mm}",
    "strip_round_insert": "Glue a strip of {by_mm} round the insert",
    "strip_between": "Let a strip {high_mm} high run round between body and lid: it looks intended",
    "lower_liner": "Plane the liner to {high_mm}",
    "true_both": "True body and lid: they lose {by_mm} more, and the heights are planned anew",
    "thicker_panel": "Make the {panel} {thick_mm} thick",
    "fill_groove": "Glue a strip of {by_mm} into the groove for the {panel}",
    "panel_there": "Leave the {panel} there: its groove at {high_mm}, in all sides alike",
    "fill_and_cut": "Fill the groove for the {panel}, and cut it where it belongs",
    "rip_narrower": "Rip all of it {by_mm} narrower: everything upright moves",
    "glue_chip": "Glue the chip back, or a patch with the grain",
    "thicker_keys": "Plane the keys {thick_mm} thick",
    "one_thick_key": "Plane one key {thick_mm} thick, for corner {corner}",
    "serve_smaller": "Cut side {side} again at one end, {loses_mm} shorter, to serve as side {other}",
    "rout_late": "Rout it now: a carbide bit, light passes, tape against tear-out",
    "glue_on": "Glue the {panel} on flat instead",
    "realign": "Loosen, realign, a band over all, tightened a little at a time",
    "flush_step": "Let it set, and plane the step of {by_mm} flush",
    "plane_high": "Mark its high corners on a flat sheet and plane them, {by_mm}",
    "as_it_is": "Leave it {by_mm} larger: panels and lid follow the ring",
    "shoot_all": "Shoot {by_mm} off every side",
}
# What there is to do about each, in a line: which of it this box allows is said when it is asked about.
WAYS_OUT: Final[dict[Trouble, str]] = {
    "short": "Shorten its partner or every side, or make it anew from a board on the rack.",
    "thin": "Plane every side to it, leave a step inside, or make it anew.",
    "last_gap": "Shoot the last joint, glue in a shaving, or glue two halves and true their ends.",
    "panel_large": "Trim the panel, or deepen its groove.",
    "rattles": "Line the walls, glue on shims, or put a strip round the insert.",
    "lid_off": "Put a strip between body and lid, or lower the liner.",
    "lid_low": "True both edges, put a strip between body and lid, or lower the liner.",
    "groove_wide": "Make the panel thicker, or glue a strip into the groove.",
    "groove_off": "Leave the panel there in all sides, or fill the groove and cut it again.",
    "chip": "Rip all sides narrower, or glue the chip back.",
    "slot_wide": "Make thicker keys, all of them or one.",
    "both_ends": "Cut it again for a shorter side, shorten the others, or make it anew.",
    "forgotten": "Rout it late, or glue the panel on flat.",
    "slipped": "Loosen and realign, or plane the step flush.",
    "rocks": "Plane the high corners, or rip narrower.",
    "long_all": "Leave the box larger, or shoot every side.",
}
_OWN: Final[dict[str, tuple[str, str]]] = {
    "own.ease_step": ("Ease the step inside side {side}", "With a scraper, to {by_mm}: felt hides the rest."),
    "own.shoot_last": (
        "Shoot the last joint at corner {corner}",
        "{turn_deg:2} between the two faces: half of it off each, in shavings, tried dry after every one.",
    ),
    "own.shim_last": (
        "A shaving into the joint at corner {corner}",
        "{by_mm} at its thick edge, the grain along the joint; glued in, and sawn flush.",
    ),
    "own.halves": (
        "Glue two halves first, and true their ends",
        "Each half's two ends on one flat sheet of abrasive until both touch all over; then the halves together.",
    ),
    "own.trim_panel": ("Trim the {panel}", "{by_mm} off, half at each side; tried dry with the ring."),
    "own.shim_walls": ("Shims on the walls", "{by_mm} thick, long grain, a few dots of glue."),
    "own.strip_round_insert": (
        "A strip round the insert",
        "{by_mm} thick, mitered at its corners, flush with the rim.",
    ),
    "own.fill_groove": (
        "Fill the groove for the {panel}",
        "A strip planed to it, glued in, flushed when it is dry.",
    ),
    "own.groove_again": (
        "Cut the groove for the {panel} again",
        "Where it belongs, off a fence proved on scrap.",
    ),
    "own.glue_chip": ("Glue the chip", "Thin glue under it, tape over it; or a patch let in with the grain."),
    "own.one_thick_key": (
        "A thicker key for corner {corner}",
        "Planed to {thick_mm}, tried dry in its slot.",
    ),
    "own.serve_smaller": (
        "Cut side {side} again for side {other}",
        "At the end that leans the wrong way, {loses_mm} shorter, to {long_mm}. Mark both miters first.",
    ),
    "own.rout_late": (
        "Rout what was forgotten",
        "A carbide bit, light passes, tape against tear-out, a stop at both ends.",
    ),
    "own.refinish": ("Touch up the finish", "Where the router ran; the inside first."),
    "own.realign": ("Realign it in the clamps", "Loosen, square it, a band over all; a little at a time."),
    "own.flush_step": ("Plane the step flush", "{by_mm}, from both sides toward the corner."),
    "own.plane_high": (
        "Plane the high corners",
        "Rub the box on a flat sheet with chalk; plane what shows, {by_mm}.",
    ),
    "own.shoot_all": ("Shoot every side", "{by_mm} off each, against one stop."),
}
VERDICTS: Final[dict[Kind, str]] = {
    "serves": "serves as it is", "again": "serves after one more cut", "anew": "is made anew",
    "unneeded": "serves; one cut in it is no longer wanted", "left_over": "is left over",
}  # fmt: skip


def practice(one: Practice) -> str:
    """A way of working, in a line."""
    told = [STOPS[one.stop], TESTS[one.test], ENDS[one.ends], WAYS[one.glue]]
    if one.gauge_deg is not None:
        told.append(f"set with a gauge of {one.gauge_deg:g}°")
    return sentence(", ".join(told))


def quantity(one: Quantity) -> str:
    """What a quantity is."""
    return fill(_QUANTITIES[one.key], Format("mm"), {}, one.names)


def value(one: Quantity, mm_or_deg: float, fmt: Format) -> str:
    """A value of it for reading."""
    return fmt.angle(mm_or_deg) if one.unit == "deg" else fmt.length(mm_or_deg, unit=True)


def against_plan(one: Quantity, measured: float, fmt: Format) -> str:
    """What was measured of it beside what was planned."""
    told = f"{quantity(one)}: {value(one, measured, fmt)}"
    if one.planned is None:
        return told
    off = measured - one.planned
    if value(one, measured, fmt) == value(one, one.planned, fmt):
        return f"{told}, as planned"
    much = fmt.angle(abs(off)) if one.unit == "deg" else gap(abs(off), fmt)
    return f"{told}, {much} {'under' if off < 0 else 'over'} the plan"


def gap(mm: float, fmt: Format) -> str:
    """A gap for reading: hundredths of a millimetre, or thousandths of an inch, where fractions say nothing."""
    if fmt.units == "in":
        return f"{fmt.number(mm / MM_PER_INCH, 4)}\u202fin"
    return f"{fmt.number(mm, 2 if abs(mm) >= 0.1 else 3)}\u202fmm"


def _listed(about: tuple[str, ...]) -> str:
    """Sides, or sides' ends, in a list."""
    told = [f"{name.split('.')[0]}’s {name.split('.')[1]}" if "." in name else name for name in about]
    if len(told) > 4:
        sides = sorted({name.split(".")[0] for name in about})
        ends = sorted({name.split(".")[1] for name in about if "." in name})
        word = " and ".join({"start": "starts", "end": "ends"}[end] for end in reversed(ends))
        return f"all {word}" if ends else f"sides {sides[0]} to {sides[-1]}"
    return " and ".join(filter(None, (", ".join(told[:-1]), told[-1])))


def cause(one: Cause, fmt: Format) -> str:
    """What may be wrong, how likely, and what to do about it."""
    small, off = one.off < 0, abs(one.off)
    numbers = {"off_deg": off, "off_mm": off}
    names = {
        "about": _listed(one.about), "steep": "small" if small else "large", "wide": "small" if small else "large",
        "long": "short" if small else "long", "less": "more" if small else "less",
    }  # fmt: skip
    what, mend = (fill(texts[one.of], fmt, numbers, names) for texts in (_CAUSES, _MENDS))
    left = f"the gaps would close to {gap(one.left_mm, fmt)}"
    return f"{fmt.number(100 * one.probability, 0)} %: {what}. {sentence(mend)}; {left}."


def diagnosis(found: Diagnosis, quantities: dict[str, Quantity], fmt: Format) -> list[str]:
    """All that is to be said of what was measured."""
    if not found.causes and found.nothing >= 1.0:
        return ["Measure gaps, lengths or bevels, and the likeliest cause is told."]
    told = [cause(one, fmt) for one in found.causes if abs(one.off) >= _SHOWN]
    if found.nothing > 0.02:
        told.append(
            f"{fmt.number(100 * found.nothing, 0)} %: nothing is wrong beyond what these tools leave by themselves."
        )
    if found.tells:
        told.append(f"These look alike. Measure “{quantity(quantities[found.tells])}”: it tells them apart.")
    elif found.causes and not found.certain and found.nothing < 0.5:
        told.append("No one cause stands out: more measurements would tell.")
    if found.check:
        told.append(f"A set-up shows it, and puts it right in every later step: {CHECKS[found.check]}.")
    return told


def squareness(degrees: float, fmt: Format) -> str:
    """What both diagonals say."""
    if abs(degrees) < _SQUARE_DEG:
        return "Both diagonals say it is square."
    way, off = ("wide" if degrees > 0 else "narrow"), fmt.angle(abs(degrees))
    return f"By its diagonals it is out by {off}: the corner after side B is too {way}. Press it square."


TWIST: Final = "Twist is left to your eye: sight across the rims, with winding sticks if it is long."


def differs(one: Practice, other: Practice) -> str:
    """What a way of working does otherwise than another."""
    told = [
        words[getattr(one, name)]
        for name, words in (("stop", STOPS), ("test", TESTS), ("ends", ENDS), ("glue", WAYS))
        if getattr(one, name) != getattr(other, name)
    ]
    if one.gauge_deg != other.gauge_deg and one.gauge_deg is not None:
        told.append(f"set with a gauge of {one.gauge_deg:g}°")
    return sentence(", ".join(told))


def compared(one: Practice, other: Practice, outcome: Outcome, fmt: Format) -> str:
    """Another way of working, what it does otherwise and what comes of it, in a line."""
    chance = fmt.number(100 * outcome.chance, 0)
    return f"{differs(one, other)}: {chance} %, nine of ten within {gap(outcome.nine_in_ten_mm, fmt)}"


def outcome(one: Outcome, practice: Practice, limit_mm: float, fmt: Format) -> list[str]:
    """What comes of many boxes."""
    names = {
        "chance": fmt.number(100 * one.chance, 0), "limit": gap(limit_mm, fmt), "median": gap(one.median_mm, fmt),
        "nine": gap(one.nine_in_ten_mm, fmt), "spread": gap(one.spread_mm, fmt), "way": WAYS[practice.glue],
    }  # fmt: skip
    numbers = {"turns_deg": one.turns_deg}
    texts = [
        "{chance} % of boxes close to {limit} at every joint, {way}.",
        "Widest joint: {median} in half of them, {nine} at the most in nine of ten.",
    ]
    if practice.glue == "rolled":
        texts.append(
            "All faces together disagree by {turns_deg:2} (one deviation); tape leaves all of it, and what the ends "
            "miss each other by, at the last joint."
        )
    elif practice.glue != "halves":
        texts.append("One corner opens by {spread} (one deviation): each takes a share.")
    told = [fill(text, fmt, numbers, names) for text in texts]
    if one.shares:
        first, share = next(iter(one.shares.items()))
        told.append(
            f"Worth mending first: {KINDS[first]}, {fmt.number(100 * share, 0)} % of what the joints vary."
        )
    return told


def joint(name: str, one: Joint, fmt: Format) -> str:
    """How a corner meets."""
    step = f", a step of {gap(one.step_mm, fmt)}" if abs(one.step_mm) > _TOLD_MM else ""
    slope = f", {gap(one.slope_mm, fmt)} more at the top" if abs(one.slope_mm) > _TOLD_MM else ""
    return f"{name}: outside {gap(one.outside_mm, fmt)}, inside {gap(one.inside_mm, fmt)}{step}{slope}"


def found(one: Found, fmt: Format) -> str:
    """What is wrong, as measured."""
    where = f" ({one.where})" if one.where else ""
    return f"{sentence(TROUBLES[one.trouble])}{where}, by {gap(one.by_mm, fmt)}"


def no_rescue(made: Plan, trouble: Trouble) -> str:
    """What is said where there is no way out."""
    if not can_be(made, trouble):
        return _CANNOT_BE.get(trouble, f"This box has no {ABOUT[trouble]}s.")
    return "No way out is known here that leaves a box that can be made."


def rescue(one: Rescue, fmt: Format) -> str:
    """A way out, and what it costs."""
    costs = []
    if one.size_mm > 0.05:
        costs.append(fill("{size_mm:1} of size", fmt, {"size_mm": one.size_mm}, {}))
    if one.wood_mm > 0.5:
        costs.append(fill("{wood_mm:0} of board", fmt, {"wood_mm": one.wood_mm}, {}))
    if one.corners:
        costs.append(f"the grain at {one.corners} corners")
    if one.minutes > 0.5:
        costs.append(f"about {clock(one.minutes)} more{', a guess' if one.guessed else ' by your log'}")
    text = fill(_RESCUES[one.key], fmt, one.numbers, one.names)
    shows = " It shows." if one.seen else ""
    if one.scores is not None:
        shows = " Its corners match {:.0f} and {:.0f} of 100.".format(*one.scores) + shows
    return f"{text}. Costs {', '.join(costs)}.{shows}" if costs else f"{text}.{shows}"


def own_steps(one: Rescue, fmt: Format) -> list[tuple[str, str]]:
    """The steps a way out adds, as titles and how they are done."""
    return [
        (sentence(fill(title, fmt, one.numbers, one.names)), fill(text, fmt, one.numbers, one.names))
        for title, text in (_OWN[key] for key in one.steps)
    ]


def verdict(one: Verdict, title: str, fmt: Format) -> str:
    """What a step that is done means now."""
    text = f"{title}: {VERDICTS[one.kind]}"
    if not one.gauge:
        return f"{text}."
    angle = one.gauge in ("tilt", "swing", "cradle", "tip")
    was, now = (fmt.angle(v) if angle else fmt.length(v, unit=True) for v in (one.was, one.now))
    return f"{text} ({one.gauge} {was}, now {now})."
