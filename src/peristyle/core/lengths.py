"""Lengths as makers write them, in and out.

In: `186.5`, `18 cm`, `6 5/8in`, `6-5/8`, `6⅝"`, `0,5`, `2' 6"`, `=250+2`. Out: millimetres with at
most two decimals, or inches to the nearest 1/64. Everything becomes millimetres at once
(1 in = 25.4 mm exactly, International Yard and Pound agreement of 1959); rounding happens
only on the way out.
"""

import math
import re
from fractions import Fraction
from functools import cache
from typing import Final, Literal, NamedTuple

from peristyle.core.errors import LengthError

Units = Literal["mm", "in"]

MM_PER_INCH: Final = 25.4
LONGEST_MM: Final = 100_000.0
_MAX_TEXT: Final = 120

# Exact until the last step, so that 6 5/8in is 168.275 and not a hair less.
_INCH: Final = Fraction(254, 10)
_UNIT_MM: Final[dict[str, Fraction]] = {
    "mm": Fraction(1), "cm": Fraction(10), "dm": Fraction(100), "m": Fraction(1000),
    "in": _INCH, "inch": _INCH, "inches": _INCH, '"': _INCH,
    "ft": 12 * _INCH, "foot": 12 * _INCH, "feet": 12 * _INCH, "'": 12 * _INCH,
}  # fmt: skip
_VULGAR: Final[dict[str, str]] = {
    "½": "1/2", "⅓": "1/3", "⅔": "2/3", "¼": "1/4", "¾": "3/4", "⅕": "1/5", "⅖": "2/5",
    "⅗": "3/5", "⅘": "4/5", "⅙": "1/6", "⅚": "5/6", "⅛": "1/8", "⅜": "3/8", "⅝": "5/8",
    "⅞": "7/8", "⅐": "1/7", "⅑": "1/9", "⅒": "1/10",
}  # fmt: skip
_SUPER = str.maketrans("⁰¹²³⁴⁵⁶⁷⁸⁹₀₁₂₃₄₅₆₇₈₉", "01234567890123456789")

_DECIMAL = r"(?:\d+(?:[.,]\d*)?|[.,]\d+)"
_UNIT = r"(?:inches|inch|feet|foot|mm|cm|dm|in|ft|m|\"|')"
# A mixed number may be joined by a space or, outside a sum, by a hyphen: 6 5/8, 6-5/8.
_QUANTITY = re.compile(
    rf"(?P<whole>{_DECIMAL})(?:(?P<join>\s*-\s*|\s+)(?P<num>\d+)\s*/\s*(?P<den>\d+)"
    rf"|\s*/\s*(?P<over>\d+))?\s*(?P<unit>{_UNIT}(?![a-z]))?",
    re.IGNORECASE,
)
_SUM_TOKEN = re.compile(
    rf"\s*(?:(?P<number>(?:\d+\s+\d+\s*/\s*\d+|{_DECIMAL}))\s*(?P<unit>{_UNIT}(?![a-z]))?"
    r"|(?P<op>[-+*/()]))",
    re.IGNORECASE,
)


class _Value(NamedTuple):
    """A number in a sum: millimetres when it has a unit, as typed when it has none."""

    amount: Fraction
    has_unit: bool


def parse_length(text: str, units: Units = "mm") -> float:
    """The length that `text` says, in mm.

    A bare number is in `units`. A leading `=` allows a sum with + − × / and brackets. Raises
    LengthError with what to type instead; never returns nan or infinity. May be negative: the
    range is the business of whoever asked.
    """
    clean = _tidy(text)
    if not clean:
        raise LengthError("Nothing is typed here: give a length, for example 186.5 or 6 5/8in.")
    scale = _UNIT_MM[units]
    if clean.startswith("="):
        value = _Sum(clean[1:], text.strip(), scale).result()
    else:
        sign = 1
        if clean[0] in "+-":
            sign = -1 if clean[0] == "-" else 1
            clean = clean[1:].lstrip()
        value = sign * _plain(clean, text.strip(), scale)
    if abs(value) > LONGEST_MM:
        raise LengthError(f"“{_short(text)}” is longer than 100 m: check the units.")
    return float(value)


def _tidy(text: str) -> str:
    if len(text) > _MAX_TEXT:
        raise LengthError(f"“{_short(text)}” is too long to be one length.")
    clean = text.strip().translate(_SUPER)
    for mark, plain in _VULGAR.items():
        clean = clean.replace(mark, f" {plain}")
    for mark, plain in (
        ("⁄", "/"), ("−", "-"), ("–", "-"), ("×", "*"), ("÷", "/"), ("″", '"'), ("”", '"'),
        ("“", '"'), ("''", '"'), ("′", "'"), ("’", "'"), ("\u00a0", " "), ("\u202f", " "),
    ):  # fmt: skip
        clean = clean.replace(mark, plain)
    return clean.strip()


def _short(text: str) -> str:
    text = " ".join(text.split())
    return text if len(text) <= 24 else text[:21] + "…"


def _number(text: str) -> Fraction:
    return Fraction(text.replace(",", "."))


def _explain(clean: str, shown: str) -> LengthError:
    """The most helpful thing to say about a text that is no length."""
    shown = _short(shown)
    if re.search(r"/\s*(?:$|[a-z\"'])", clean, re.IGNORECASE):
        return LengthError(f"“{shown}” stops after the slash: finish the fraction, as in 6 5/8.")
    if re.search(r"\d[.,]\d*[.,]", clean):
        return LengthError(f"“{shown}” has two decimal marks: write thousands without a mark, as in 1234.5.")
    unit = re.search(r"[a-zµ]+", clean, re.IGNORECASE)
    if unit and unit.group().lower() not in _UNIT_MM:
        return LengthError(
            f"“{unit.group()}” in “{shown}” is no unit of length known here: use mm, cm, m, in or ft."
        )
    return LengthError(f"“{shown}” is not a length: try 186.5, 18 cm, 6 5/8in or =250+2.")


def _plain(clean: str, shown: str, scale: Fraction) -> Fraction:
    """One quantity, or several that count down (2' 6 5/8")."""
    position, total = 0, Fraction(0)
    last_unit: Fraction | None = None
    while position < len(clean):
        match = _QUANTITY.match(clean, position)
        if match is None:
            raise _explain(clean, shown)
        amount = _amount(match, shown, clean)
        unit = (match["unit"] or "").lower()
        if position and not unit and last_unit == _UNIT_MM["ft"]:
            unit = "in"  # 2' 6 is two feet six
        factor = _UNIT_MM[unit] if unit else scale
        if position and (not unit or last_unit is None or factor >= last_unit):
            raise _explain(clean, shown)
        total += amount * factor
        last_unit = factor if unit else None
        position = match.end()
        while position < len(clean) and clean[position].isspace():
            position += 1
    return total


def _amount(match: re.Match[str], shown: str, clean: str) -> Fraction:
    whole = match["whole"]
    if match["over"] is None and match["num"] is None:
        if match.end() < len(match.string) and match.string[match.end()] in "/.,":
            raise _explain(clean, shown)
        return _number(whole)
    if not whole.isdigit():
        raise LengthError(f"“{_short(shown)}” mixes a decimal with a fraction: use one of the two.")
    top, bottom = (match["num"], match["den"]) if match["num"] else (whole, match["over"])
    if int(bottom) == 0:
        raise LengthError(f"“{_short(shown)}” divides by zero: check the fraction.")
    base = int(whole) if match["num"] else 0
    return base + Fraction(int(top), int(bottom))


class _Sum:
    """A small sum: bare numbers stay bare until they meet a length."""

    def __init__(self, clean: str, shown: str, scale: Fraction) -> None:
        self._shown = _short(shown)
        self._scale = scale
        self._tokens = self._split(clean)
        self._at = 0

    def result(self) -> Fraction:
        value = self._added()
        if self._at != len(self._tokens):
            raise self._wrong()
        return value.amount if value.has_unit else value.amount * self._scale

    def _wrong(self) -> LengthError:
        return LengthError(f"“{self._shown}” is a sum that does not work out: try =250+2 or =(6in+2)/2.")

    def _split(self, clean: str) -> list[_Value | str]:
        tokens: list[_Value | str] = []
        position = 0
        while clean[position:].strip():
            match = _SUM_TOKEN.match(clean, position)
            if match is None:
                raise self._wrong()
            if match["op"]:
                tokens.append(match["op"])
            else:
                amount = self._read(match["number"])
                unit = (match["unit"] or "").lower()
                tokens.append(_Value(amount * _UNIT_MM.get(unit, 1), bool(unit)))
            position = match.end()
        return tokens

    def _read(self, number: str) -> Fraction:
        if "/" not in number:
            return _number(number)
        whole, fraction = number.split(None, 1)
        top, bottom = fraction.split("/")
        if int(bottom) == 0:
            raise LengthError(f"“{self._shown}” divides by zero: check the sum.")
        return int(whole) + Fraction(int(top), int(bottom))

    def _peek(self) -> _Value | str | None:
        return self._tokens[self._at] if self._at < len(self._tokens) else None

    def _added(self) -> _Value:
        left = self._multiplied()
        while (op := self._peek()) in ("+", "-"):
            self._at += 1
            right = self._multiplied()
            unit = left.has_unit or right.has_unit
            a, b = (self._scaled(v, unit) for v in (left, right))
            left = _Value(a + b if op == "+" else a - b, unit)
        return left

    def _scaled(self, value: _Value, unit: bool) -> Fraction:
        return value.amount * self._scale if unit and not value.has_unit else value.amount

    def _multiplied(self) -> _Value:
        left = self._factor()
        while (op := self._peek()) in ("*", "/"):
            self._at += 1
            right = self._factor()
            if right.has_unit and (left.has_unit or op == "/"):
                raise LengthError(f"“{self._shown}” does not give a length: divide by a number.")
            if op == "/" and right.amount == 0:
                raise LengthError(f"“{self._shown}” divides by zero: check the sum.")
            amount = left.amount * right.amount if op == "*" else left.amount / right.amount
            left = _Value(amount, left.has_unit or right.has_unit)
        return left

    def _factor(self) -> _Value:
        token = self._peek()
        self._at += 1
        if isinstance(token, _Value):
            return token
        if token == "(":
            inner = self._added()
            if self._peek() != ")":
                raise self._wrong()
            self._at += 1
            return inner
        if token in ("-", "+"):
            inner = self._factor()
            return _Value(-inner.amount if token == "-" else inner.amount, inner.has_unit)
        raise self._wrong()


def parse_angle(text: str) -> float:
    """The angle that `text` says, in degrees: `22.5`, `22,5°`, `22° 30′`, `=180/8`.

    Raises LengthError with what to type instead.
    """
    clean = _tidy(text).replace("deg", "°").rstrip()
    match = re.fullmatch(
        rf"([+-]?)\s*({_DECIMAL})\s*°?(?:\s*({_DECIMAL})\s*')?(?:\s*({_DECIMAL})\s*\")?", clean
    )
    if match and ("°" in clean or (match[3] is None and match[4] is None)):
        degrees, minutes, seconds = (_number(part or "0") for part in match.group(2, 3, 4))
        return (-1 if match[1] == "-" else 1) * float(degrees + minutes / 60 + seconds / 3600)
    if clean.startswith("="):
        return float(_Sum(clean[1:].replace("°", ""), text.strip(), Fraction(1)).result())
    raise LengthError(f"“{_short(text)}” is not an angle: try 22.5 or 22° 30′.")


def parse_count(text: str) -> int:
    """The whole number that `text` says: `12`, `=3*4`. Raises LengthError with what to type instead."""
    clean = _tidy(text)
    value: Fraction | None = None
    if re.fullmatch(r"[+-]?\s*\d{1,9}", clean):
        value = Fraction(clean.replace(" ", ""))
    elif clean.startswith("="):
        value = _Sum(clean[1:], text.strip(), Fraction(1)).result()
    if value is None or value.denominator != 1:
        raise LengthError(f"“{_short(text)}” is not a whole number: try 8.")
    return int(value)


def split_list(text: str, *, comma_parts: bool = False) -> list[str]:
    """The values of a list, each still to be read.

    Semicolons part them, else blanks, else commas. Where a comma stands alone between two numbers it may
    be a decimal mark: it is taken for one unless there is a point, or more than one comma, or `comma_parts`
    says that here a comma always parts.
    """
    if ";" in text:
        parts = text.split(";")
    else:
        tight = re.sub(r"\s*([x×@/:°])\s*", r"\1", text.strip())
        parts = re.split(r",?\s+", tight)
        if len(parts) == 1 and (comma_parts or "." in tight or tight.count(",") > 1):
            parts = tight.split(",")
    return [part.strip().strip(",").strip() for part in parts if part.strip(" ,")]


def parse_pitch(text: str) -> float:
    """A slope in degrees, from an angle or from rise over run: `33.7`, `8/12`, `8:12`, `8 in 12`.

    Raises LengthError with what to type instead.
    """
    match = re.fullmatch(rf"([+-]?)\s*({_DECIMAL})\s*(?:/|:|in|on|over)\s*({_DECIMAL})", _tidy(text))
    if match is None:
        return parse_angle(text)
    rise, run = _number(match[2]), _number(match[3])
    degrees = math.degrees(math.atan2(rise, run))
    return -degrees if match[1] == "-" else degrees


_BY_RULE_MM: Final = 10.0  # shorter ones are gauged, with a caliper or by a cutter


class Format(NamedTuple):
    """How the maker likes to read lengths: unit, decimal mark, finest fraction of an inch. With `for_rule`, lengths
    from 10 mm on are told to a tenth of a millimeter, as a rule or a stop shows them.
    """

    units: Units = "mm"
    decimal: str = "."
    finest: int = 64
    for_rule: bool = False

    def length(self, mm: float, *, unit: bool = False) -> str:
        """A length for reading: `186.5` or `6 ⅝`; with its unit when `unit`."""
        coarse = self.for_rule and abs(mm) >= _BY_RULE_MM
        text = self._inches(mm) if self.units == "in" else self.number(mm, 1 if coarse else 2)
        return f"{text}\u202f{self.units}" if unit else text

    def down(self, mm: float, grid_mm: float | None = None) -> float:
        """The longest length (mm) that reads as it is and is no longer than `mm`: for “at most”.

        `grid_mm` asks for whole steps of that size in place of the finest that is shown.
        """
        return self._stepped(mm, grid_mm, -1)

    def up(self, mm: float, grid_mm: float | None = None) -> float:
        """The shortest length (mm) that reads as it is and is no shorter than `mm`: for “at least”."""
        return self._stepped(mm, grid_mm, 1)

    def _stepped(self, mm: float, grid_mm: float | None, way: int) -> float:
        grid = grid_mm or (MM_PER_INCH / self.finest if self.units == "in" else 0.01)
        if self.units == "in" and not grid_mm and abs(mm) < grid:
            grid = MM_PER_INCH / 1000  # too small for a fraction: shown as a decimal
        # A hair of rounding, far under any tolerance, must not cost a whole step.
        steps = mm / grid - way * 1e-8 / grid
        count = math.ceil(steps) if way > 0 else math.floor(steps)
        if self.units == "in":  # ¾ in as it is typed, to the last bit
            return float(count * Fraction(grid / MM_PER_INCH).limit_denominator(1000) * _INCH)
        return round(count * grid, 9)

    def number(self, value: float, decimals: int) -> str:
        """A plain number with at most `decimals` decimals, a real minus and the maker's mark."""
        text = f"{value:.{decimals}f}"
        if decimals:
            text = text.rstrip("0").rstrip(".")
        if text[0] == "-":  # of −0.0 too
            text = "0" if text == "-0" else text.replace("-", "−")
        return text if self.decimal == "." else text.replace(".", self.decimal)

    def angle(self, degrees: float, decimals: int = 2) -> str:
        """An angle for reading: `22.5°`."""
        return self.number(degrees, decimals) + "°"

    def _inches(self, mm: float) -> str:
        sixty_fourths = round(abs(mm) / MM_PER_INCH * self.finest)
        if not sixty_fourths:  # a fit, a gap: too small for a fraction, not nothing
            return self.number(mm / MM_PER_INCH, 3)
        whole, part = divmod(sixty_fourths, self.finest)
        sign = "−" if mm < 0 and sixty_fourths else ""
        if not part:
            return f"{sign}{whole}"
        fraction = _printed(part, self.finest)
        return f"{sign}{whole}\u202f{fraction}" if whole else f"{sign}{fraction}"


@cache
def _printed(part: int, whole: int) -> str:
    return typeset_fraction(Fraction(part, whole))


_ONE_GLYPH: Final = {text: mark for mark, text in _VULGAR.items()}
_RAISED = str.maketrans("0123456789", "⁰¹²³⁴⁵⁶⁷⁸⁹")
_LOWERED = str.maketrans("0123456789", "₀₁₂₃₄₅₆₇₈₉")


def typeset_fraction(value: Fraction) -> str:
    """A proper fraction as printers set it: ⅝, ¹³⁄₁₆."""
    plain = f"{value.numerator}/{value.denominator}"
    if plain in _ONE_GLYPH:
        return _ONE_GLYPH[plain]
    top = str(value.numerator).translate(_RAISED)
    return f"{top}⁄{str(value.denominator).translate(_LOWERED)}"
