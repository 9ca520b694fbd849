"""How a template is read: numbers by what their names say they are, in the maker's units."""

import re
from collections.abc import Mapping
from typing import Final

from peristyle.core.lengths import Format

_THIN: Final = "\u202f"
_TINY: Final = "a hair"  # never a length of nothing that is something
_HOLE: Final = re.compile(r"\{(\w+)(?::(\w+))?(?:\|([^|}]+)\|([^}]+))?\}")


def fill(template: str, fmt: Format, numbers: Mapping[str, float], names: Mapping[str, str]) -> str:
    """The template with its holes filled.

    `{depth_mm}` is a length with its unit, `{depth_mm:bare}` without; `{tilt_deg}` an angle; any other number
    stands as a count. A number after the colon says how many decimals. Names stand as they are. `{slots|slot|slots}`
    counts: 1 slot, 2 slots.
    """

    def put(hole: re.Match[str]) -> str:
        key, how, one, many = hole.groups()
        if one:
            return counted(numbers[key], one, many, fmt)
        return names[key] if key in names else number(key, numbers[key], fmt, how)

    return _HOLE.sub(put, template)


def number(key: str, value: float, fmt: Format, how: str | None = None) -> str:
    """One number for reading, by what its name says it is."""
    decimals = int(how) if how and how.isdigit() else None
    if key.endswith("_mm"):
        if decimals is not None and fmt.units == "mm":
            return f"{fmt.number(value, decimals)}\u202fmm"
        told = fmt.length(value, unit=how != "bare")
        return _TINY if fmt.units == "in" and value > 0 and told == f"0{_THIN}in" else told
    if key.endswith("_deg"):
        return fmt.angle(value, 2 if decimals is None else decimals)
    if key == "percent":
        return _percent(value, fmt)
    return fmt.number(value, decimals or 0)


def _percent(value: float, fmt: Format) -> str:
    """To a tenth, or as finely as it takes to tell it from all of it."""
    texts = (fmt.number(value, decimals) for decimals in range(1, 5))
    return next((text for text in texts if text != "100" or value == 100.0), fmt.number(value, 5))


def counted(value: float, one: str, many: str, fmt: Format) -> str:
    """So many of something: 1 slot, 2 slots."""
    return f"{fmt.number(value, 0)} {one if round(value) == 1 else many}"


def sentence(text: str) -> str:
    """With a capital to begin with."""
    return text[:1].upper() + text[1:]


def clock(minutes: float) -> str:
    """Minutes for reading: 45 min, 2 h 10."""
    whole = round(minutes)
    return f"{whole} min" if whole < 90 else f"{whole // 60} h {whole % 60:02d}"
