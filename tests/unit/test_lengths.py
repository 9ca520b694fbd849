"""Lengths and angles as makers write them."""

import contextlib
from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from peristyle.core.errors import LengthError
from peristyle.core.lengths import Format, parse_angle, parse_length, typeset_fraction


@pytest.mark.parametrize(
    ("text", "units", "mm"),
    [
        ("186.5", "mm", 186.5),
        ("6 5/8", "in", 168.275),
        ("6-5/8", "in", 168.275),
        ("6⅝", "in", 168.275),
        ("6 ⅝″", "mm", 168.275),
        ("6.625in", "mm", 168.275),
        ("6 5/8in", "mm", 168.275),
        ("18.4cm", "mm", 184.0),
        ("18,4 CM", "in", 184.0),
        ("0,5", "mm", 0.5),
        (",5", "mm", 0.5),
        ("5/8", "in", 15.875),
        ("¹³⁄₁₆", "in", 20.6375),
        ("2' 6 5/8\"", "mm", 777.875),
        ("2'6", "mm", 762.0),
        ("1m 5cm", "in", 1050.0),
        ("-3", "mm", -3.0),
        ("−3 mm", "in", -3.0),
        ("=250+2", "mm", 252.0),
        ("=2*40+3", "in", 83 * 25.4),
        ("=6in+2", "mm", 154.4),
        ("=(6in+2)/2", "mm", 77.2),
        ("=250-5/8", "in", 249.375 * 25.4),
        ("=6 5/8 - 1/8", "in", 165.1),
        ("=3*-(2-4)", "mm", 6.0),
    ],
)
def test_reads(text: str, units: str, mm: float) -> None:
    assert parse_length(text, units) == pytest.approx(mm, rel=1e-15)  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("text", "hint"),
    [
        ("", "Nothing is typed"),
        ("6 5/", "after the slash"),
        ("6 5/0", "divides by zero"),
        ("=4/0", "divides by zero"),
        ("1,234.5", "two decimal marks"),
        ("12 parsec", "parsec"),
        ("6.5 1/2", "decimal with a fraction"),
        ("5 6", "not a length"),
        ("10mm 5cm", "not a length"),
        ("6/5/8", "not a length"),
        ("=(", "sum"),
        ("=2in*3in", "does not give a length"),
        ("9" * 60, "longer than 100 m"),
        ("9" * 200, "too long"),
        ("nan", "nan"),
        ("__import__('os')", "no unit of length"),
    ],
)
def test_explains_what_it_cannot_read(text: str, hint: str) -> None:
    with pytest.raises(LengthError, match=hint.replace("(", r"\(")):
        parse_length(text, "mm")


@given(st.text(max_size=40))
def test_any_text_gives_a_length_or_an_explanation(text: str) -> None:
    for units in ("mm", "in"):
        # Anything but a length or a LengthError fails the test.
        with contextlib.suppress(LengthError):
            assert abs(parse_length(text, units)) <= 100_000  # type: ignore[arg-type]


@given(st.integers(0, 40 * 64))
def test_inches_come_back(sixty_fourths: int) -> None:
    mm = sixty_fourths * 25.4 / 64
    assert parse_length(Format("in").length(mm), "in") == pytest.approx(mm, abs=1e-9)


def test_what_is_too_small_for_a_fraction_is_not_nothing() -> None:
    inches = Format("in")
    assert inches.length(0.1) == "0.004"
    assert inches.length(-0.1) == "−0.004"
    assert inches.length(0.0) == "0"
    assert inches.length(1e-9) == "0"
    assert inches.length(0.3) == "¹⁄₆₄"


def test_display_rounds_and_typesets() -> None:
    assert Format("in").length(168.275) == "6\u202f⅝"
    assert Format("in").length(30.1625, unit=True) == "1\u202f³⁄₁₆\u202fin"
    assert Format("in").length(25.39) == "1"
    assert Format("mm", ",").length(186.504) == "186,5"
    assert Format().length(-0.001) == Format().length(-0.0) == "0"
    assert Format().angle(-0.0) == "0°"
    assert Format().length(-2.5) == "−2.5"
    assert typeset_fraction(Fraction(13, 64)) == "¹³⁄₆₄"


@pytest.mark.parametrize(
    ("text", "degrees"), [("22.5", 22.5), ("22,5°", 22.5), ("22° 30′", 22.5), ("-5", -5.0), ("=180/8", 22.5)]
)
def test_angles(text: str, degrees: float) -> None:
    assert parse_angle(text) == pytest.approx(degrees)


def test_no_angle() -> None:
    with pytest.raises(LengthError, match="not an angle"):
        parse_angle("steep")
