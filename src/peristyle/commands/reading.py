"""Reading the words of a command line: lengths, angles, shapes, contents, each error naming its option."""

import argparse
import re
from collections.abc import Callable, Sequence
from typing import Any, Final

from peristyle.core.errors import LengthError, PeristyleError
from peristyle.core.lengths import Units, parse_angle, parse_count, parse_length, parse_pitch, split_list
from peristyle.core.planes import Corner, corner
from peristyle.model import fields
from peristyle.model.design import (
    Alternating,
    House,
    Measure,
    Outline,
    Rectangle,
    Regular,
    Shape,
    Thing,
    corner_name,
    replace,
)
from peristyle.model.job import Job, job_of, problems
from peristyle.planning.form.slabs import slabs_of

MEASURES: Final[tuple[Measure, ...]] = ("inside", "outside", "across_flats", "across_corners")
JUST_A_FLAG: Final = "\0"


def read_angle(text: str, option: str, parse: Callable[[str], float] = parse_angle) -> float:
    """An angle in degrees (or, with `parse_pitch`, rise over run)."""
    try:
        return parse(text)
    except LengthError as error:
        raise PeristyleError(f"{option}: {error}") from error


def in_range(job: Job, field: fields.Field, value: float, option: str) -> None:
    """Check a value against the field's range."""
    try:
        field.checked(job, value)
    except LengthError as error:
        raise PeristyleError(f"{option}: {error}") from error


def set_checked(job: Job, field: fields.Field, text: str, option: str) -> Job:
    """The design with a field set from text."""
    try:
        return field.set(job, field.parse(job, text))
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
        return tuple(self.length(part, option) for part in split_list(text, comma_parts=True))


def read_count(text: str) -> int:
    """A number of sides."""
    try:
        count = parse_count(text)
    except LengthError as error:
        raise PeristyleError(f"--sides: {error}") from error
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
    slopes = tuple(
        read_angle(text, "--slopes") for text in split_list(options.slopes or options.slope, comma_parts=True)
    )
    job = job_of(
        shape=shape,
        thicknesses_mm=reader.several(options, "thickness", "thicknesses", (1.0,)),
        slopes_deg=slopes,
    )
    for slope in slopes:
        in_range(job, fields.SLOPE, slope, "--slopes")
    for path, text in problems(job):
        raise PeristyleError(f"--{path.split('_')[0]}: {text}.")
    slabs = slabs_of(job.design)
    count = len(slabs)
    return [(corner_name(i, count), corner(slabs[i], slabs[(i + 1) % count])) for i in range(count)]


_CONTENTS: Final = re.compile(r"\s*(?:(\d{1,9})\s*(?:of|×|x)\s+)?(round\s+|⌀\s*)?(\S.*)", re.IGNORECASE)


def read_contents(options: argparse.Namespace, reader: Reader) -> tuple[Thing, ...]:
    """`8 of 24x24x40`, `6 of round 50x30`, `210x297x20`."""
    things = []
    play = 2.0 if options.play is None else reader.allowance(options.play, "--play")
    # Several kinds may stand in one text: “8 of 24x24x40; 2 of round 50x30”.
    for text in [part for given in options.contents or () for part in given.split(";") if part.strip()]:
        match = _CONTENTS.fullmatch(text)
        sizes = reader.sizes(match[3], "--contents") if match else []
        wanted = 2 if match and match[2] else 3
        if match is None or len(sizes) != wanted:
            raise PeristyleError(f"--contents: “{text}” is not like 8 of 24x24x40, or 6 of round 50x30.")
        count = int(match[1] or 1)
        if not 1 <= count <= 10_000:
            raise PeristyleError(f"--contents: {count} things are not 1 to 10000.")
        things.append(
            Thing(
                name="jars" if wanted == 2 else "blocks", count=count, length_mm=sizes[0],
                width_mm=sizes[-2] if wanted == 3 else sizes[0],
                height_mm=sizes[-1], round=wanted == 2, play_mm=play,
            )
        )  # fmt: skip
    if options.contents and not things:
        raise PeristyleError("--contents: say what it holds, as in 8 of 24x24x40.")
    return tuple(things)


def read_tapered(shape: Shape, options: argparse.Namespace, reader: Reader) -> Shape:
    """The shape with its size at the top."""
    if options.top is None:
        return shape
    sizes = reader.sizes(options.top, "--top")
    if isinstance(shape, Regular) and len(sizes) == 1:
        return replace(shape, top_mm=sizes[0])
    if isinstance(shape, Rectangle) and len(sizes) <= 2:
        return replace(shape, top_length_mm=sizes[0], top_width_mm=sizes[-1])
    raise PeristyleError("--top: a rectangle takes LxW there, a regular polygon one size.")


def read_shape(options: argparse.Namespace, reader: Reader) -> Shape:
    """The ring that the options ask for. Raises PeristyleError that names the option."""
    kinds = [options.sides is not None, options.rect, options.outline is not None, options.house is not None]
    if sum(kinds) != 1:
        raise PeristyleError("Say the shape once: --sides N, --rect, --outline or --house.")
    given = [m for m in MEASURES if getattr(options, m) is not None]
    if options.contents and not given:
        # The contents say how large; the sizes here are worked out before anything is written.
        return (
            Rectangle(1.0, 1.0, "inside")
            if options.rect
            else Regular(read_count(options.sides or ""), 1.0, "inside")
        )
    if options.house is not None:
        return _house(options, given, reader)
    if len(given) != 1:
        raise PeristyleError("Say the size once: --inside, --outside, --across-flats or --across-corners.")
    measure = given[0]
    option, text = f"--{measure.replace('_', '-')}", getattr(options, measure)
    if options.outline is not None:
        if measure not in ("inside", "outside") or text is not JUST_A_FLAG:
            raise PeristyleError(
                "With --outline, give --inside or --outside without a size: it says which line "
                "the lengths measure."
            )
        return read_outline(options.outline, "inside" if measure == "inside" else "outside", reader)
    if text is JUST_A_FLAG:
        raise PeristyleError(f"{option}: give a size, for example {option} 180.")
    sizes = reader.sizes(text, option)
    line = "inside" if measure == "inside" else "outside"
    if options.rect:
        if measure not in ("inside", "outside") or len(sizes) > 2:
            raise PeristyleError("A rectangle takes --inside LxW or --outside LxW.")
        return Rectangle(sizes[0], sizes[-1], "inside" if line == "inside" else "outside")
    count = read_count(options.sides)
    if len(sizes) == 2 and measure in ("inside", "outside"):
        if count % 2:
            raise PeristyleError(f"Two side lengths in turn need an even number of sides, not {count}.")
        return Alternating(count, sizes[0], sizes[1], "inside" if line == "inside" else "outside")
    if len(sizes) != 1:
        raise PeristyleError(f"{option}: a polygon takes one size, for example {option} 180.")
    return Regular(count, sizes[0], measure)


def _house(options: argparse.Namespace, given: Sequence[str], reader: Reader) -> House:
    """A house as floor × wall @ pitch."""
    sizes, at, pitch = options.house.partition("@")
    floor = reader.sizes(sizes, "--house")
    if not at or len(floor) != 2:
        raise PeristyleError("--house: give floor × wall @ pitch, as in 200x120@40 or 200x120@8/12.")
    angle = read_angle(pitch, "--house", parse_pitch)
    if not 0 < angle < 85:
        raise PeristyleError(f"--house: a pitch of {angle:g}° cannot be: give 0 to 85.")
    return House(
        floor[0],
        floor[1],
        angle,
        reader.allowance(options.overhang, "--overhang") if options.overhang else 0.0,
        measure="inside" if given == ["inside"] else "outside",
        eaves=options.eaves or "square",
    )
