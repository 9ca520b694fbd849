"""Reading the words of a command line: lengths, angles, outlines, each error naming its option."""

import argparse
import re
from collections.abc import Callable
from typing import Any

from peristyle.core.errors import LengthError, PeristyleError
from peristyle.core.lengths import Units, parse_angle, parse_length
from peristyle.core.planes import Corner, corner
from peristyle.model import fields
from peristyle.model.design import Design, Outline, Regular, Shape, corner_name, problems
from peristyle.planning.slabs import slabs_of


def read_angle(text: str, option: str, parse: Callable[[str], float] = parse_angle) -> float:
    """An angle in degrees (or, with `parse_pitch`, rise over run)."""
    try:
        return parse(text)
    except LengthError as error:
        raise PeristyleError(f"{option}: {error}") from error


def in_range(design: Design, field: fields.Field, value: float, option: str) -> None:
    """Check a value against the field's range."""
    try:
        field.checked(design, value)
    except LengthError as error:
        raise PeristyleError(f"{option}: {error}") from error


def set_checked(design: Design, field: fields.Field, text: str, option: str) -> Design:
    """The design with a field set from text."""
    try:
        return field.set(design, field.parse(design, text))
    except LengthError as error:
        raise PeristyleError(f"{option}: {error}") from error


class Reader:
    """Lengths in the units of the command."""

    def __init__(self, units: Units) -> None:
        self.units = units

    def length(self, text: str, option: str) -> float:
        try:
            value = parse_length(text, self.units)
        except LengthError as error:
            raise PeristyleError(f"{option}: {error}") from error
        if not 0 < value <= 20_000:
            raise PeristyleError(f"{option}: “{text.strip()}” must be more than 0 and at most 20 m.")
        return value

    def allowance(self, text: str, option: str) -> float:
        """A length that may be 0, up to 1 m."""
        value = 0.0 if text.strip() in ("0", "0mm", "0in") else self.length(text, option)
        if value > 1000.0:
            raise PeristyleError(f"{option}: “{text.strip()}” is more than 1 m: check the units.")
        return value

    def sizes(self, text: str, option: str) -> list[float]:
        return [self.length(part, option) for part in re.split(r"\s*[x×]\s*", text.strip())]

    def several(
        self, options: argparse.Namespace, one: str, many: str, default: tuple[float, ...]
    ) -> tuple[float, ...]:
        text, option = getattr(options, many), f"--{many}"
        if text is None:
            text, option = getattr(options, one), f"--{one}"
            return default if text is None else (self.length(text, option),)
        # A decimal comma would be taken for the next side: lists use points.
        return tuple(self.length(part, option) for part in text.split(","))


def read_count(text: str) -> int:
    """A number of sides."""
    try:
        count = int(text)
    except ValueError:
        raise PeristyleError(f"--sides: “{text}” is not a whole number.") from None
    if not 3 <= count <= 360:
        raise PeristyleError(f"--sides: a ring has 3 to 360 sides, not {count}.")
    return count


def read_outline(text: str, measure: Any, reader: Reader) -> Outline:
    lengths: list[float | None] = []
    corners: list[float | None] = []
    for part in text.split(","):
        length, at, corner = part.partition("@")
        if not at:
            raise PeristyleError(
                f"--outline: “{part.strip()}” needs a length and a corner, as in 120@90 or ?@135."
            )
        lengths.append(None if length.strip() == "?" else reader.length(length, "--outline"))
        angle = None if corner.strip() == "?" else read_angle(corner, "--outline")
        if angle is not None and not 0 < angle < 360:
            raise PeristyleError(f"--outline: a corner of {angle:g}° cannot be: give 0 to 180.")
        corners.append(angle)
    if not 3 <= len(lengths) <= 360:
        raise PeristyleError(f"--outline: a ring has at least three sides, not {len(lengths)}.")
    return Outline(tuple(lengths), tuple(corners), measure)


def ring_from_options(options: argparse.Namespace) -> list[tuple[str, Corner]]:
    """The corners of the ring that `peristyle angles` describes, with their names."""
    reader = Reader(options.units)
    if options.outline is not None:
        shape: Shape = read_outline(options.outline, "inside" if options.inside else "outside", reader)
    elif options.sides is not None:
        shape = Regular(read_count(str(options.sides)), 1000.0)
    else:
        raise PeristyleError("Say which ring: --outline, or --sides with --slopes or --thicknesses.")
    slopes = tuple(read_angle(text, "--slopes") for text in (options.slopes or options.slope).split(","))
    design = Design(
        shape=shape,
        thicknesses_mm=reader.several(options, "thickness", "thicknesses", (1.0,)),
        slopes_deg=slopes,
    )
    for slope in slopes:
        in_range(design, fields.SLOPE, slope, "--slopes")
    for path, text in problems(design):
        raise PeristyleError(f"--{path.split('_')[0]}: {text}.")
    slabs = slabs_of(design)
    count = len(slabs)
    return [(corner_name(i, count), corner(slabs[i], slabs[(i + 1) % count])) for i in range(count)]
