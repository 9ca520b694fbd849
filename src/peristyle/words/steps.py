"""What a step is called, how its tool is set and how it is done, read over its own settings and numbers."""

from typing import Final

from peristyle.core.lengths import Format
from peristyle.model.job import Job
from peristyle.planning.making.asdone import as_done
from peristyle.planning.making.order import Refused
from peristyle.planning.making.step import Step
from peristyle.planning.section.segments import rounds_of
from peristyle.words.reading import fill, sentence
from peristyle.words.step_reasons import WHY
from peristyle.words.step_settings import begin_end, passes_in_words, set_at
from peristyle.words.step_texts import SAYS
from peristyle.words.step_titles import PROFILES, TITLES

_LINES: Final = ("liner", "fillet")  # parts whose inside is the face that shows
_WHOSE: Final = {"liner": "Liner", "strip": "Strip", "fillet": "Fillets", "tray": "Tray"}
# Their titles name the part already.
_NAMED: Final = ("liner_fit", "strip_glue", "strip_flush", "fillet_glue", "tray_glue", "tray_fit")


def title(step: Step, fmt: Format) -> str:
    """What the step is called."""
    fmt = fmt._replace(for_rule=True)
    text = fill(TITLES[step.title], fmt, step.numbers, step.names | _profiles(step))
    whose = _WHOSE.get(step.part, "") if step.operation not in _NAMED else ""
    return f"{whose}: {text[:1].lower()}{text[1:]}" if whose else text


def _profiles(step: Step) -> dict[str, str]:
    """The kind of profile that is cut, or those that are tried, in words."""
    kinds = [kind for kind in step.names.get("profile", "").split() if kind in PROFILES]
    return {"kind": ", ".join(PROFILES[kind] for kind in kinds)} if kinds else {}


def _of_its_faces(step: Step, text: str) -> str:
    """The good face of what lines a box is its inside: the other is called the outside face there."""
    if step.part not in _LINES:
        return text
    return (
        text.replace("Show face", "Outside face")
        .replace("show face", "outside face")
        .replace("show-face", "outside-face")
    )


def how(step: Step, fmt: Format) -> str:
    """How it is done."""
    fmt = fmt._replace(for_rule=True)
    names = (
        step.names
        | _profiles(step)
        | {
            "passes": passes_in_words(int(step.numbers.get("passes", 1))),
            "tongues": _tongues(step, fmt),
            "lengths": _strips(step, fmt),
            "begin_end": begin_end(step, fmt),
            "section": _section(step, fmt),
            "leaves": _leaves(step, fmt, 0.0),
            "cloths": _leaves(step, fmt, step.numbers.get("turn_mm", 0.0)),
            "order": "; ".join(glue_order(int(step.numbers.get("count", 1)))),
            "cauls": _cauls(step, fmt),
            "across": fill(
                _ACROSS.get(step.names.get("across", ""), ""),
                fmt,
                step.numbers,
                step.names | {"spans": _spans(step, fmt)},
            ),
        }
    )
    text = " ".join(sentence(fill(SAYS[key], fmt, step.numbers, names)) for key in step.says)
    return _of_its_faces(step, text)


def why(key: str) -> str:
    """Why one step comes after another."""
    return WHY[key]


def changed_since(job: Job, step: Step, fmt: Format) -> list[str]:
    """That a step was done at other settings than the plan has by now; nothing where it was not."""
    done = as_done(job, step)
    if done is None:
        return []
    return [
        f"Done at {setting(done, fmt)}; the plan has changed since, and it would now be {setting(step, fmt)}."
    ]


def first_of_all(job: Job, step: Step, fmt: Format) -> list[str]:
    """What is said before how a step is done: that it was done otherwise, and how often it is done for a batch."""
    boxes = sum(job.work.boxes)
    told = changed_since(job, step, fmt)
    if boxes > 1 and step.pieces and step.settings:
        cuts = "" if step.passes <= 1 else f", {step.passes * boxes} times in all"
        told.append(f"For all {boxes} boxes at this one setting{cuts}.")
    return told


def refused(found: Refused, job: Job) -> str:
    """Why a step cannot stand where it was to be put."""
    fmt = Format(job.design.units)
    return f"“{title(found.then, fmt)}” comes after “{title(found.first, fmt)}”: {why(found.why)}."


def setting(step: Step, fmt: Format) -> str:
    """How the tool is set, in a line; and at what its scale, where a check of it says that it reads otherwise."""
    fmt = fmt._replace(for_rule=True)
    told = set_at(step, fmt)
    shown = dict.fromkeys(
        f"{one.gauge} at {fmt.angle(one.shows) if one.unit == 'deg' else fmt.length(one.shows, unit=True)}"
        for one in step.settings
        if one.shows is not None
    )
    return f"{told}; on its scale {', '.join(shown)}" if shown else told


_TOOLS: Final[dict[str, str]] = {
    "table_saw": "table saw", "miter_saw": "miter saw", "band_saw": "band saw", "hand_saw": "hand saw",
    "router_table": "router table", "chamfer_bit": "router table, chamfer bit", "shooting_board": "shooting board",
    "plow_plane": "plow or rabbet plane", "planer": "planer",
    "drum_sander": "drum sander", "hand_plane": "hand plane", "drill_press": "drill press",
    "tape": "tape", "clamps": "clamps", "scrap": "scrap", "by_hand": "by hand",
}  # fmt: skip


def tool(step: Step) -> str:
    """What the step is done with: the kind of tool, and the maker's own name for it."""
    kind = _TOOLS.get(step.tool, step.tool.replace("_", " "))
    return f"{step.tool_name} ({kind})" if step.tool_name and step.tool_name.lower() != kind else kind


def _strips(step: Step, fmt: Format) -> str:
    """How long the strips are, side by side, those alike together."""
    told: dict[str, list[str]] = {}
    for key, value in step.numbers.items():
        if key.startswith("long."):
            told.setdefault(fmt.length(value, unit=True), []).append(key.split(".")[1].removesuffix("_mm"))
    return "; ".join(f"{', '.join(sides)} {long}" for long, sides in told.items())


def _section(step: Step, fmt: Format) -> str:
    """A moulding's section point by point: how far up, how far in, and with which radius on to the next."""
    told = []
    for number in range(1, len(step.numbers)):
        if f"point.{number}.up_mm" not in step.numbers:
            break
        up, inward = (step.numbers[f"point.{number}.{word}_mm"] for word in ("up", "in"))
        text = f"{fmt.length(up)} up, {fmt.length(inward)} in"
        arc = step.numbers.get(f"point.{number}.arc_mm")
        if arc:
            text += f", then {'bulging' if arc > 0 else 'hollow'} with {fmt.length(abs(arc))}"
        told.append(text)
    return f"{'; '.join(told)} ({fmt.units})"


def _leaves(step: Step, fmt: Format, over_mm: float) -> str:
    """The leaves of a lining with their sizes, larger all round by what is turned over; those alike together."""
    sizes: dict[str, dict[str, float]] = {}
    for key, value in step.numbers.items():
        if key.startswith("leaf."):
            name, what = key.removeprefix("leaf.").rsplit(".", 1)
            sizes.setdefault(name, {})[what] = value + 2 * over_mm
    told: dict[tuple[str, str], list[str]] = {}
    for name, own in sizes.items():
        size = f"{fmt.length(own['long_mm'])} × {fmt.length(own['wide_mm'], unit=True)}"
        size += f", {fmt.length(own['top_mm'])} along the top" if "top_mm" in own else ""
        where, _dot, letter = name.rpartition(".")
        told.setdefault((size, " in the lid" if where else ""), []).append(
            {"top": "under the lid"}.get(letter, letter)
        )
    return "; ".join(f"{', '.join(words)}{where} {size}" for (size, where), words in told.items())


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


_ACROSS: Final[dict[str, str]] = {
    "diagonals": "both diagonals, which must be alike",
    "diagonals_unlike": "both diagonals, {first_mm} from the corner after A and {second_mm} from the one after B",
    "corners_across": "from every corner to the one across, always the same",
    "as_planned": "from every corner to those across, against the drawing",
    "spans": "along the bottom edge from the outer corner {from_corner} {spans}",
    "triangle": "the three sides, against the drawing",
    "corner_to_side": "from every corner to the middle of the side across",
}


def _spans(step: Step, fmt: Format) -> str:
    """How far it should be from one corner to each of the others."""
    far = {
        key.removeprefix("span.").removesuffix("_mm"): value
        for key, value in step.numbers.items()
        if key.startswith("span.")
    }
    tops = {corner: step.names.get(f"top.{corner}") for corner in far}
    told = [
        f"to {f'the top of wall {tops[corner]}' if tops[corner] else corner} {fmt.length(value, unit=True)}"
        for corner, value in far.items()
    ]
    return " and ".join(told) if len(told) < 3 else f"{', '.join(told[:-1])} and {told[-1]}"


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
