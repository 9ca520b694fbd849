"""What is said of tools: their kinds, what one is in a line, why one is offered for a step or not."""

from typing import Final

from peristyle.core.lengths import Format
from peristyle.model.job import OwnSpecies
from peristyle.model.kept import HardwareName, Kept
from peristyle.model.tools import BandSaw, Bit, Blade, Clamp, DadoSet, HandSaw, MiterSaw, Thicknesser, Tool
from peristyle.planning.making.offering import Choice
from peristyle.words.reading import fill

KINDS: Final[dict[type[Tool], str]] = {
    Blade: "Blade for the saw", DadoSet: "Dado set", MiterSaw: "Miter saw", BandSaw: "Band saw",
    HandSaw: "Hand saw", Bit: "Router bit", Thicknesser: "Sander, planer or plane", Clamp: "Clamps",
}  # fmt: skip

HARDWARE: Final[dict[HardwareName, str]] = {
    "hinges": "hinges", "magnets": "magnets", "latch": "latch", "brackets": "corner brackets",
    "handle": "handle, knob or pull",
}  # fmt: skip
_OF_HARDWARE: Final[dict[HardwareName, str]] = {
    "hinges": "{pattern} hinges, {length_mm} long, leaf {leaf_mm}", "magnets": "magnets {wide_mm} by {thick_mm}",
    "latch": "latch {wide_mm} wide", "brackets": "brackets {long_mm} by {high_mm}", "handle": "{kind}",
}  # fmt: skip

_LINES: Final[dict[type[Tool], str]] = {
    Blade: "kerf {kerf_mm}", DadoSet: "{least_mm} to {most_mm} wide", MiterSaw: "kerf {kerf_mm}",
    BandSaw: "kerf {kerf_mm}, {high_mm} high", HandSaw: "kerf {kerf_mm}", Bit: "{cut}, {width_mm} wide",
    Thicknesser: "{work}, {pass_mm} a pass", Clamp: "{count} that open {opens_mm}",
}  # fmt: skip

_WHY: Final[dict[str, str]] = {
    "tape": "tape and roll",
    "by_hand": "by hand, or any planer",
    "kerf": "takes {kerf_mm}",
    "passes": "{passes} passes",
    "one": "one pass",
    "pared": "two saw cuts, and what is between pared out",
    "too_wide": "cannot: {over_mm} too wide",
    "upright": "cannot: this cut leans",
    "too_high": "cannot: {across_mm} high, more than it saws",
    "pass": "{pass_mm} a pass",
    "carrier": "{pass_mm} a pass, on a carrier: shorter than {least_mm}",
    "band": "all round at once",
    "bar": "with cauls, side against side",
    "corner": "at each corner",
    "band_short": "cannot: the box is {round_mm} round",
    "bar_shape": "cannot: only pairs of parallel sides",
    "bar_short": "cannot: it opens too little, {across_mm} is needed",
    "bar_few": "cannot: {needed} are needed",
}


def wood(own: OwnSpecies, fmt: Format) -> str:
    """What a wood of the maker's own does for 1 % of moisture, in a line."""
    across, radial = (
        f"{100 * share:.3f}".replace(".", fmt.decimal) for share in (own.tangential, own.radial)
    )
    return f"{own.name}: {across} % flat, {radial} % quartered"


def hardware(kept: Kept, fmt: Format) -> str:
    """What is kept under a name, in a line."""
    part = kept.part
    values = {name: getattr(part, name) for name in part.__struct_fields__}
    numbers = {name: value for name, value in values.items() if isinstance(value, float)}
    names = {name: value for name, value in values.items() if isinstance(value, str)}
    text = (
        "concealed hinges, bore {barrel_mm}" if names.get("pattern") == "barrel" else _OF_HARDWARE[kept.what]
    )
    return f"{kept.name}: {fill(text, fmt, numbers, names)}"


def line(tool: Tool, fmt: Format) -> str:
    """What a tool is, in a line."""
    numbers = {
        name: value
        for name in tool.__struct_fields__
        if isinstance(value := getattr(tool, name), int | float)
    }
    names = {
        "cut": getattr(tool, "cuts", "").replace("_", " "),
        "work": getattr(tool, "works", "").replace("_", " "),
    }
    return fill(_LINES[type(tool)], fmt, numbers, names)


def choice(offer: Choice, fmt: Format) -> str:
    """A tool as it is offered for a step: its name, and what of it."""
    why = "one" if offer.why == "passes" and offer.numbers["passes"] == 1 else offer.why
    name = offer.name or {"tape": "Tape", "by_hand": "Plane"}.get(offer.why, "The saw")
    return f"{name}: {fill(_WHY[why], fmt, offer.numbers, {})}"
