"""`peristyle new`: a design from the words of a command line."""

import argparse
import re
from collections.abc import Sequence
from pathlib import Path
from typing import Any, Final

from peristyle.core.errors import LengthError, PeristyleError
from peristyle.core.lengths import Units, parse_angle, parse_length
from peristyle.model import fields
from peristyle.model.design import (
    Alternating,
    Board,
    Design,
    Keys,
    Lid,
    Measure,
    Outline,
    Panel,
    Rectangle,
    Regular,
    Shape,
    corner_name,
    problems,
    replace,
    side_name,
)
from peristyle.planning.wrap import suiting_board

# Each option of a part of the box with the field that reads it and knows its range.
_PART_OPTIONS: Final = {
    "--kerf": fields.KERF,
    "--trim": fields.END_TRIM,
    "--creep": fields.CREEP,
    "--shift": fields.SHIFT,
    "--groove-height": fields.GROOVE_HEIGHT,
    "--groove-depth": fields.GROOVE_DEPTH,
    "--panel-thickness": fields.PANEL_THICKNESS,
    "--panel-play": fields.PANEL_PLAY,
    "--groove-fit": fields.PANEL_FIT,
    "--lid-height": fields.LID_HEIGHT,
    "--lid-kerf": fields.LID_KERF,
    "--clean-up": fields.CLEAN_UP,
    "--key-thickness": fields.KEY_THICKNESS,
    "--key-depth": fields.KEY_DEPTH,
    "--key-leg": fields.KEY_LEG,
    "--key-edge": fields.KEY_EDGE,
}
_PARTS: Final[dict[str, tuple[str, Any]]] = {
    "bottom": ("bottom", Panel()),
    "lid": ("lid", Lid()),
    "keys": ("keys", Keys()),
}
_MEASURES: Final[tuple[Measure, ...]] = ("inside", "outside", "across_flats", "across_corners")
_JUST_A_FLAG: Final = "\0"


def _arguments(parser: argparse.ArgumentParser) -> None:
    add = parser.add_argument
    add("file", metavar="FILE")
    shape = parser.add_argument_group("shape, one of")
    shape.add_argument("--sides", metavar="N", help="a regular polygon, 3 sides or more")
    shape.add_argument("--rect", action="store_true", help="a rectangle")
    shape.add_argument(
        "--outline",
        metavar="L@C,…",
        help="each side's length and the corner at its end; ? is worked out",
    )
    size = parser.add_argument_group(
        "size, one of (lengths such as 186.5, 18cm, '6 5/8in'; a bare number is in --units)"
    )
    size.add_argument(
        "--inside",
        metavar="A[xB]",
        nargs="?",
        const=_JUST_A_FLAG,
        help="inside length of the sides",
    )
    size.add_argument(
        "--outside",
        metavar="A[xB]",
        nargs="?",
        const=_JUST_A_FLAG,
        help="outside length of the sides",
    )
    size.add_argument(
        "--across-flats", metavar="A", help="outside, twice the distance from the middle to a side"
    )
    size.add_argument(
        "--across-corners",
        metavar="A",
        help="outside, twice the distance from the middle to a corner",
    )
    add("--height", metavar="H", required=True, help="height of the closed box as glued")
    add("--thickness", metavar="T", help="thickness of the sides")
    add("--thicknesses", metavar="T,…", help="one thickness for each side")
    add("--slope", metavar="S", help="lean from upright, positive outward")
    add("--slopes", metavar="S,…", help="one lean for each side")
    add("--units", choices=("mm", "in"), default="mm")
    add("--name")
    add("--board", metavar="LxWxT", help="length, width and thickness; one that suits, if not given")
    add("--method", choices=("square_first", "bevel_direct"))
    add("--wood")
    add("--seed", type=int)
    add("--keys", metavar="N", help="straight keys at every corner")
    add("--key-positions", metavar="H,…", help="heights of their middles, in place of a count")
    add("--bottom", action="store_true", help="a grooved bottom panel")
    add("--lid", action="store_true", help="a lid sawn free")
    add("--front", metavar="SIDE", help="the side that faces the room, such as A")
    add("--closing", metavar="CORNER", help="the corner where the wrap closes, such as DA")
    for option, field in _PART_OPTIONS.items():
        add(option, metavar="L", help=field.why)


def new_from_words(words: Sequence[str], parser: argparse.ArgumentParser) -> tuple[Path, Design]:
    """The file to write and the design. Raises PeristyleError that names the option."""
    _arguments(parser)
    options = parser.parse_args(list(words))
    reader = _Reader(options.units)
    shape = _shape(options, reader)
    design = Design(
        name=(options.name or Path(options.file).stem or "Untitled box")[:120],
        units=options.units,
        shape=shape,
        thicknesses_mm=reader.several(options, "thickness", "thicknesses", (9.0,)),
        slopes_deg=tuple(
            _angle(text, "--slopes") for text in (options.slopes or options.slope or "0").split(",")
        ),
    )
    design = _checked(design, fields.HEIGHT, options.height, "--height")
    for thick in design.thicknesses_mm:
        _in_range(design, fields.THICKNESS, thick, "--thickness")
    for slope in design.slopes_deg:
        _in_range(design, fields.SLOPE, slope, "--slope")
    design = _with_parts(design, options, reader)
    for path, text in problems(design):
        raise PeristyleError(f"{path.split('_')[0]}: {text}.")
    design = _with_places(design, options)
    if options.board is None:
        design = replace(design, board=suiting_board(design))
    return Path(options.file), design


def _angle(text: str, option: str) -> float:
    try:
        return parse_angle(text)
    except LengthError as error:
        raise PeristyleError(f"{option}: {error}") from error


def _in_range(design: Design, field: fields.Field, value: float, option: str) -> None:
    try:
        field.checked(design, value)
    except LengthError as error:
        raise PeristyleError(f"{option}: {error}") from error


def _checked(design: Design, field: fields.Field, text: str, option: str) -> Design:
    try:
        return field.set(design, field.parse(design, text))
    except LengthError as error:
        raise PeristyleError(f"{option}: {error}") from error


class _Reader:
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


def _shape(options: argparse.Namespace, reader: _Reader) -> Shape:
    kinds = [options.sides is not None, options.rect, options.outline is not None]
    if sum(kinds) != 1:
        raise PeristyleError("Say the shape once: --sides N, --rect or --outline.")
    given = [m for m in _MEASURES if getattr(options, m) is not None]
    if len(given) != 1:
        raise PeristyleError("Say the size once: --inside, --outside, --across-flats or --across-corners.")
    measure = given[0]
    option, text = f"--{measure.replace('_', '-')}", getattr(options, measure)
    if options.outline is not None:
        if measure not in ("inside", "outside") or text is not _JUST_A_FLAG:
            raise PeristyleError(
                "With --outline, give --inside or --outside without a size: it says which line "
                "the lengths measure."
            )
        return _outline(options.outline, "inside" if measure == "inside" else "outside", reader)
    if text is _JUST_A_FLAG:
        raise PeristyleError(f"{option}: give a size, for example {option} 180.")
    sizes = reader.sizes(text, option)
    line = "inside" if measure == "inside" else "outside"
    if options.rect:
        if measure not in ("inside", "outside") or len(sizes) > 2:
            raise PeristyleError("A rectangle takes --inside LxW or --outside LxW.")
        return Rectangle(sizes[0], sizes[-1], "inside" if line == "inside" else "outside")
    count = _count(options.sides)
    if len(sizes) == 2 and measure in ("inside", "outside"):
        if count % 2:
            raise PeristyleError(f"Two side lengths in turn need an even number of sides, not {count}.")
        return Alternating(count, sizes[0], sizes[1], "inside" if line == "inside" else "outside")
    if len(sizes) != 1:
        raise PeristyleError(f"{option}: a polygon takes one size, for example {option} 180.")
    return Regular(count, sizes[0], measure)


def _count(text: str) -> int:
    try:
        count = int(text)
    except ValueError:
        raise PeristyleError(f"--sides: “{text}” is not a whole number.") from None
    if not 3 <= count <= 360:
        raise PeristyleError(f"--sides: a ring has 3 to 360 sides, not {count}.")
    return count


def _outline(text: str, measure: Any, reader: _Reader) -> Outline:
    lengths: list[float | None] = []
    corners: list[float | None] = []
    for part in text.split(","):
        length, at, corner = part.partition("@")
        if not at:
            raise PeristyleError(
                f"--outline: “{part.strip()}” needs a length and a corner, as in 120@90 or ?@135."
            )
        lengths.append(None if length.strip() == "?" else reader.length(length, "--outline"))
        angle = None if corner.strip() == "?" else _angle(corner, "--outline")
        if angle is not None and not 0 < angle < 360:
            raise PeristyleError(f"--outline: a corner of {angle:g}° cannot be: give 0 to 180.")
        corners.append(angle)
    if not 3 <= len(lengths) <= 360:
        raise PeristyleError(f"--outline: a ring has at least three sides, not {len(lengths)}.")
    return Outline(tuple(lengths), tuple(corners), measure)


def _with_parts(design: Design, options: argparse.Namespace, reader: _Reader) -> Design:
    """Board, bottom, lid and keys: a part is there when any of its options is given."""
    asked = {
        option: value
        for option in _PART_OPTIONS
        if (value := getattr(options, option[2:].replace("-", "_"))) is not None
    }
    wanted = {_PART_OPTIONS[option].id.split(".")[0] for option in asked}
    wanted |= {part for part in ("bottom", "lid") if getattr(options, part)}
    if options.keys is not None or options.key_positions is not None:
        wanted.add("keys")
    thinnest = min(design.thicknesses_mm)
    if "bottom" in wanted:
        design = fields.with_bottom(design, True)
    if "lid" in wanted:
        design = fields.with_lid(design, True)
    if "keys" in wanted:
        design = replace(design, keys=Keys(depth_mm=thinnest * 0.8))
    design = replace(design, board=_board(options, reader))
    for option, text in asked.items():
        design = _checked(design, _PART_OPTIONS[option], text, option)
    if options.keys is not None:
        design = _checked(design, fields.KEY_COUNT, options.keys, "--keys")
    if options.key_positions is not None and design.keys:
        heights = tuple(reader.length(text, "--key-positions") for text in options.key_positions.split(","))
        design = replace(design, keys=replace(design.keys, positions_mm=heights))
    return design


def _board(options: argparse.Namespace, reader: _Reader) -> Board:
    board = Board()
    if options.board is not None:
        sizes = reader.sizes(options.board, "--board")
        if len(sizes) != 3:
            raise PeristyleError("--board: give length × width × thickness, as in 1200x140x12.")
        board = replace(board, length_mm=sizes[0], width_mm=sizes[1], thickness_mm=sizes[2])
    if options.method:
        board = replace(board, method=options.method)
    if options.wood:
        board = replace(board, wood=options.wood[:120])
    if options.seed is not None:
        board = replace(board, seed=options.seed % 2**31)
    return board


def _with_places(design: Design, options: argparse.Namespace) -> Design:
    count = design.side_count
    if options.front is not None:
        names = [side_name(i) for i in range(count)]
        design = replace(design, front=_index(options.front, names, "--front"))
    if options.closing is not None:
        corners = [corner_name(i, count) for i in range(count)]
        design = replace(design, closing_corner=_index(options.closing, corners, "--closing"))
    return design


def _index(text: str, names: list[str], option: str) -> int:
    wanted = text.strip().upper()
    if wanted not in names:
        raise PeristyleError(f"{option}: “{text}” is not one of {', '.join(names)}.")
    return names.index(wanted)
