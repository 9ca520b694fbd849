"""The values a maker can set, as one table.

The window's size tags, the command line and the file's limits all speak of these. A field knows
its words, its range and how to read and write itself; writing gives a new design.
"""

import math
from collections.abc import Callable
from functools import cache
from typing import Any, Final, Literal, NamedTuple

from msgspec import inspect

from peristyle.core.errors import LengthError
from peristyle.core.lengths import Format, parse_angle, parse_count, parse_length, parse_pitch
from peristyle.model import ring_edits
from peristyle.model.design import (
    MAX_SLOPE_DEG,
    Brackets,
    CornerBlocks,
    Dividers,
    EdgeProfile,
    FalseFloor,
    Feet,
    Fillets,
    Handle,
    Hinges,
    Inlay,
    Keys,
    Latch,
    Lid,
    Liner,
    Magnets,
    OuterEdge,
    Outline,
    Panel,
    Regular,
    Segments,
    Splines,
    Together,
    Tray,
    replace,
    side_name,
)
from peristyle.model.edits import height_given
from peristyle.model.job import Job, Saw, decide, decided, place_of, revised
from peristyle.model.limits import LEAST_MM, MAX_MM
from peristyle.model.starts import begun
from peristyle.model.stock import Board

Kind = Literal["length", "angle", "pitch", "count"]

MEASURE_WORDS: Final = {
    "inside": "inside",
    "outside": "outside",
    "across_flats": "across flats",
    "across_corners": "across corners",
}


class Field(NamedTuple):
    """One value the maker decides; `id` is its address. `high` is inclusive; `above` says whether `low` is not.

    One that may be left to the program has `open`, which says whether it is: “?” is typed for it, and read as nan.
    """

    id: str
    label: Callable[[Job], str]
    why: str
    get: Callable[[Job], float]
    set: Callable[[Job, float], Job]
    low: float = 0.0
    high: float = MAX_MM
    above: bool = True
    kind: Kind = "length"
    step: float = 1.0
    open: Callable[[Job], bool] | None = None

    @property
    def least(self) -> float:
        """The smallest value it can have: no length over 0 is shorter than LEAST_MM."""
        return max(self.low, LEAST_MM) if self.above and self.kind == "length" else self.low

    def parse(self, job: Job, text: str) -> float:
        """The value that `text` says, checked against the range; nan where it is left open. Raises LengthError."""
        if self.open is not None and text.strip() == "?":
            return math.nan
        if self.kind == "length":
            value = parse_length(text, job.design.units)
        elif self.kind == "angle":
            value = parse_angle(text)
        elif self.kind == "pitch":
            value = parse_pitch(text)
        else:
            value = float(parse_count(text))
        return self.checked(job, value)

    def checked(self, job: Job, value: float) -> float:
        """`value`, if it lies in the range, or the end of the range that it reads as: what is shown may be typed again.

        Raises LengthError that says what would be right.
        """
        fmt = Format(job.design.units)
        if not self.least <= value <= self.high or (self.above and value <= self.low):
            for end in (self.high, self.least):
                within = end > self.low or not self.above
                if within and self.show(fmt, value) == self.show(fmt, end):
                    return end
            low, top = self.show(fmt, self.low), self.show(fmt, self.high)
            reach = f"more than {low}" if self.above else f"at least {low}"
            raise LengthError(
                f"{self.label(job)} cannot be {self.show(fmt, value)}: it must be {reach} and at most {top}."
            )
        return value

    def show(self, fmt: Format, value: float) -> str:
        """The value for reading, with its unit; “?” where it is not known."""
        if math.isnan(value):
            return "?"
        if self.kind == "length":
            return fmt.length(value, unit=True)
        return fmt.angle(value) if self.kind in ("angle", "pitch") else fmt.number(value, 0)


def _of(part: str, name: str) -> tuple[Callable[[Job], float], Callable[[Job, float], Job]]:
    """Getter and setter of a value inside one of the design's parts."""

    def get(job: Job) -> float:
        return float(getattr(decided(job, part), name))

    def put(job: Job, value: float) -> Job:
        changed: Any = replace(decided(job, part), **{name: value})
        return decide(job, part, changed)

    return get, put


def part_field(part: str, name: str, label: str, why: str, *, step: float = 1.0) -> Field:
    """A row of the table below: a size of one of the job's parts, its limits those of its type."""
    get, put = _of(part, name)
    low, high, above = limits_of(_TYPES[part], name)
    place = f"{place_of(part)}.{name}"
    return Field(place, lambda _d: label, why, get, put, low, high, above, "length", step)


@cache
def _types_of(kind: type) -> dict[str, inspect.Type]:
    """The types of a part's values by name."""
    info = inspect.type_info(kind)
    assert isinstance(info, inspect.StructType)
    return {field.name: field.type for field in info.fields}


def part_row(part: str, *sizes: tuple[str, str, str, str, float]) -> tuple[tuple[str, Field], ...]:
    """Sizes of a part in a row: for each the word before it, its name, label, why, and step."""
    return tuple(
        (prefix, part_field(part, name, label, why, step=step)) for prefix, name, label, why, step in sizes
    )


def limits_of(part: type, name: str) -> tuple[float, float, bool]:
    """The least and the greatest a size of a kind of part can be, and whether the least itself is too little."""
    kind = _types_of(part)[name]
    if isinstance(kind, inspect.UnionType):
        kind = next(one for one in kind.types if not isinstance(one, inspect.NoneType))
    assert isinstance(kind, inspect.FloatType)
    low, high = kind.ge if kind.ge is not None else kind.gt, kind.le if kind.le is not None else kind.lt
    if low == LEAST_MM:  # every size: said as more than nothing
        return 0.0, float(high or MAX_MM), True
    return float(low or 0.0), float(high or MAX_MM), kind.gt is not None


_TYPES: Final[dict[str, type]] = {
    "board": Board, "saw": Saw, "bottom": Panel, "top": Panel, "lid": Lid, "keys": Keys, "other_keys": Keys,
    "splines": Splines, "corner_blocks": CornerBlocks, "liner": Liner,
    "dividers": Dividers, "feet": Feet, "false_floor": FalseFloor, "hinges": Hinges, "magnets": Magnets,
    "together": Together,
    "bottom_edge": OuterEdge, "top_edge": OuterEdge, "lid_edges": EdgeProfile, "rim_edge": EdgeProfile,
    "base_edge": EdgeProfile, "under_edge": EdgeProfile,
    "inlay": Inlay, "handle": Handle, "latch": Latch, "fillets": Fillets, "tray": Tray, "brackets": Brackets,
}  # fmt: skip


def _size_label(job: Job) -> str:
    shape = job.design.form.shape
    if isinstance(shape, Regular):
        words = MEASURE_WORDS[shape.measure]
        return f"Side, {words}" if shape.measure in ("inside", "outside") else words.capitalize()
    return "Size"


def _set_thickness(job: Job, value: float) -> Job:
    return revised(job, thicknesses_mm=(value,))


def _rect(name: str) -> Field:
    get, put = _of("shape", name)
    word = "Length" if name == "length_mm" else "Width"
    return Field(
        f"form.{name}",
        lambda d: f"{word}, {MEASURE_WORDS[d.design.form.shape.measure]}",
        f"{word} of the box; the other sizes follow from it.",
        get,
        put,
    )


def _alternating(name: str, word: str) -> Field:
    get, put = _of("shape", name)
    return Field(
        f"form.{name}",
        lambda d: f"{word} side, {MEASURE_WORDS[d.design.form.shape.measure]}",
        "Every other side has this length.",
        get,
        put,
    )


SIZE: Final = Field("form.size_mm", _size_label, "The size the ring is built on.", *_of("shape", "size_mm"))
LENGTH: Final = _rect("length_mm")
WIDTH: Final = _rect("width_mm")
FIRST: Final = _alternating("first_mm", "First")
SECOND: Final = _alternating("second_mm", "Second")
HEIGHT: Final = Field(
    "form.height_mm", lambda _d: "Height", "Height of the closed box as glued, before the lid is freed.",
    *height_given("glued"),
)  # fmt: skip
CLOSED: Final = Field(
    "form.closed_mm", lambda _d: "Height closed", "Of the closed box once a lid is freed, with what stands out of it: "
    "held, and the glued height follows.", *height_given("closed"),
)  # fmt: skip
BODY: Final = Field(
    "form.body_mm", lambda _d: "Body", "Of the sides under a lid sawn free: held, and the glued height follows.",
    *height_given("body"),
)  # fmt: skip
ROOM: Final = Field(
    "form.room_mm", lambda _d: "Room inside", "From the floor to what closes the box: held, and the glued height "
    "follows.", *height_given("room"),
)  # fmt: skip
THICKNESS: Final = Field(
    "sides.thickness_mm", lambda _d: "Thickness",
    "All sides the same, or the miters cannot close inside and outside at once.",
    lambda d: d.design.form.thicknesses_mm[0], _set_thickness, step=0.5,
)  # fmt: skip
SLOPE: Final = Field(
    "sides.slope_deg", lambda _d: "Slope", "Lean from upright: positive leans outward as it rises.",
    lambda d: d.design.form.slopes_deg[0], lambda d, v: revised(d, slopes_deg=(v,)),
    -MAX_SLOPE_DEG, MAX_SLOPE_DEG, False, "pitch",
)  # fmt: skip
BOARD_LENGTH: Final = part_field("board", "length_mm", "Board length", "Usable length of the board.", step=10)
BOARD_WIDTH: Final = part_field("board", "width_mm", "Board width", "Usable width of the board.")
BOARD_THICKNESS: Final = part_field(
    "board", "thickness_mm", "Board thickness", "As it lies now; it is planed to the sides.", step=0.5
)
KERF: Final = part_field("saw", "kerf_mm", "Saw kerf", "What one cut of the blade takes away.", step=0.1)
END_TRIM: Final = part_field(
    "board", "end_trim_mm", "End trim", "Taken off the start end: checks, snipe, a rough cut.",
    )  # fmt: skip
CREEP: Final = part_field(
    "board", "creep_mm", "Left to creep up", "Left on each end of a piece, to creep up on the line.",
    step=0.5,
)  # fmt: skip
SHIFT: Final = part_field(
    "board", "shift_mm", "Strip starts at", "How far along the board the strip begins, past the trim.",
    )  # fmt: skip


ACROSS: Final = part_field(
    "board", "across_mm", "Strip lies up from the edge", "How far the strip lies up from the board's straight edge.",
    )  # fmt: skip


class PanelFields(NamedTuple):
    """The sizes of a panel in its groove."""

    height: Field
    depth: Field
    thickness: Field
    play: Field
    fit: Field
    proud: Field
    overhang: Field


def _panel(part: str) -> PanelFields:
    # The bottom's sizes go without saying; the top's are named.
    def word(name: str) -> str:
        return name if part == "bottom" else f"Top {name[0].lower()}{name[1:]}"

    return PanelFields(
        part_field(
            part, "height_mm", word("Groove height"),
            f"From the {part} edge to the near edge of the groove.", step=0.5,
        ),
        part_field(
            part, "depth_mm", word("Groove depth"), "Keep at least half the wall behind it.", step=0.5
        ),
        part_field(
            part, "thickness_mm", word("Panel thickness"), "The groove is made to this plus the fit.", step=0.5
        ),
        part_field(
            part, "play_mm", word("Play each side"), "Room at the bottom of the groove, so that the ring can close.",
            step=0.1,
        ),
        part_field(
            part, "fit_mm", word("Groove fit"), "What the groove is wider than the panel is thick.",
            step=0.05,
        ),
        part_field(
            part, "proud_mm", word("Panel stands proud"), "How far it stands out of its rabbet; 0 is flush.",
            step=0.5,
        ),
        part_field(
            part, "overhang_mm", word("Panel stands out"), "How far it stands out where it is glued on; 0 is flushed.",
            step=0.5,
        ),
    )  # fmt: skip


PANELS: Final = {"bottom": _panel("bottom"), "top": _panel("top")}


def ring_width(part: str) -> Field:
    """How wide the trapezoids are that a panel's ring is made of."""

    def get(job: Job) -> float:
        panel: Panel | None = decided(job, part)
        return panel.segments.ring_mm if panel and panel.segments else 0.0

    def put(job: Job, value: float) -> Job:
        panel: Panel = decided(job, part) or Panel()
        made = replace(panel.segments or Segments(style="ring"), ring_mm=value)
        return decide(job, part, replace(panel, segments=made))

    word = "Ring width" if part == "bottom" else "Top ring width"
    return Field(
        f"section.{part}.segments.ring_mm", lambda _d: word, "Of the trapezoids that make the ring.", get, put
    )


LID_HEIGHT: Final = part_field("lid", "height_mm", "Lid height", "The finished lid, after truing.")
LID_KERF: Final = part_field("lid", "kerf_mm", "Lid kerf", "What the saw takes in freeing the lid.", step=0.1)
CLEAN_UP: Final = part_field(
    "lid", "clean_up_mm", "Clean-up", "What truing takes from both edges together.",
    step=0.1,
)  # fmt: skip

FLOOR: Final = Field(
    "form.width_mm",
    lambda d: f"Floor, {MEASURE_WORDS[d.design.form.shape.measure]}",
    "Width of the house.",
    *_of("shape", "width_mm"),
)
WALL: Final = Field(
    "form.wall_mm",
    lambda d: f"Wall, {MEASURE_WORDS[d.design.form.shape.measure]}",
    "Height of its walls.",
    *_of("shape", "wall_mm"),
)
PITCH: Final = Field(
    "form.pitch_deg",
    lambda _d: "Pitch",
    "Slope of the roof from level, or rise over run: 8/12.",
    *_of("shape", "pitch_deg"),
    0.0,
    84.0,
    True,
    "pitch",
)
OVERHANG: Final = Field(
    "form.overhang_mm",
    lambda _d: "Overhang",
    "How far the roof runs past the eaves, level.",
    *_of("shape", "overhang_mm"),
    above=False,
)
LINER_THICKNESS: Final = part_field(
    "liner", "thickness_mm", "Liner thickness", "Wall of the inner box.", step=0.5
)
LINER_HEIGHT: Final = part_field("liner", "height_mm", "Liner height", "From the bottom panel up.")
LINER_GAP: Final = part_field(
    "liner", "gap_mm", "Liner gap", "Room between the two rings on each side.", step=0.1
)
DIVIDER_THICKNESS: Final = part_field(
    "dividers", "thickness_mm", "Divider thickness", "As wide as its dado.", step=0.5
)
DIVIDER_HEIGHT: Final = part_field("dividers", "height_mm", "Divider height", "From the bottom panel up.")
DADO: Final = part_field("dividers", "dado_mm", "Dado depth", "Keep at least half the wall.", step=0.5)

TOGETHER_HIGH: Final = part_field(
    "together", "high_mm", "No higher than", "How high the packed block may be; 0 for any height.", step=1.0
)


def _inside(name: str, label: str, why: str, most: float, step: float) -> Field:
    """A size of what lies on the inner faces."""
    return Field(
        f"inside.{name}", lambda _d: label, why, lambda job: float(decided(job, name)),
        lambda job, mm: decide(job, name, mm), 0.0, most, False, step=step,
    )  # fmt: skip


CLOTH: Final = _inside(
    "cloth_mm", "Cloth", "How thick the cloth over the lining's leaves is; 0 for none.", 10.0, 0.1
)
LINING: Final = _inside(
    "lining_mm", "Lining", "Foam or cloth on each inner face; it takes its share of the inside.", 100.0, 0.5
)


def _top(name: str, words: str) -> Field:
    """A size at the top edge; the slope follows from it."""
    return Field(
        f"form.{name}", lambda _d: words, "Measured as at the bottom; the sides' slope follows.",
        lambda d: float(getattr(d.design.form.shape, name) or 0.0),
        lambda d, v: revised(d, shape=replace(d.design.form.shape, **{name: v})),
    )  # fmt: skip


TOP_SIZE: Final = _top("top_mm", "Size at the top")
TOP_LENGTH: Final = _top("top_length_mm", "Length at the top")
TOP_WIDTH: Final = _top("top_width_mm", "Width at the top")


def thing_fields(number: int) -> dict[str, Field]:
    """The sizes of one kind of thing the box holds, by name."""

    def field(
        name: str, label: str, why: str, kind: Kind = "length", low: float = 0.0, above: bool = True
    ) -> Field:
        def get(job: Job) -> float:
            if name == "columns":
                return float(job.design.inside.contents[number].columns or 0)
            return float(getattr(job.design.inside.contents[number], name))

        def put(job: Job, value: float) -> Job:
            new: Any = int(value) if kind == "count" else value
            if name == "columns" and new == 0:
                new = None
            changes = {name: new}
            if name == "length_mm" and job.design.inside.contents[number].round:
                changes["width_mm"] = new
            things = list(job.design.inside.contents)
            things[number] = replace(things[number], **changes)
            return revised(job, contents=tuple(things))

        high = 1000.0 if kind == "count" or name == "play_mm" else MAX_MM
        return Field(
            f"inside.contents.{number + 1}.{name}", lambda _d: label, why, get, put, low, high, above, kind
        )

    return {
        "length_mm": field("length_mm", "Length of a thing", "Along side A; the diameter of round things."),
        "width_mm": field("width_mm", "Width of a thing", "Along side B."),
        "height_mm": field("height_mm", "Height of a thing", "As it stands in the box."),
        "count": field("count", "How many", "Things of this kind.", "count", 1, False),
        "columns": field("columns", "Columns", "Along side A; 0 arranges them by itself.", "count", 0, False),
        "layers": field("layers", "Layers", "Above each other.", "count", 1, False),
        "play_mm": field(
            "play_mm", "Play", "In all: about 2 for blocks lifted by hand, under 1 for a deck under a push-fit lid.",
            low=0.0, above=False,
        ),
    }  # fmt: skip


def _each(values: tuple[float, ...], count: int, side: int, value: float) -> tuple[float, ...]:
    """One value a side, with that of `side` changed; one for all again where they are the same."""
    full = list(values) if len(values) == count else [values[0]] * count
    full[side] = value
    return (full[0],) if len(set(full)) == 1 else tuple(full)


def side_slope(side: int) -> Field:
    """The lean of one side."""
    return Field(
        f"sides.{side_name(side)}.slope_deg", lambda _d: f"Slope of side {side_name(side)}",
        "This side's own lean from upright.",
        lambda d: d.design.slope_of(side),
        lambda d, v: revised(d, slopes_deg=_each(d.design.form.slopes_deg, d.design.side_count, side, v)),
        -MAX_SLOPE_DEG, MAX_SLOPE_DEG, False, "pitch",
    )  # fmt: skip


def side_thickness(side: int) -> Field:
    """The thickness of one side."""
    return Field(
        f"sides.{side_name(side)}.thickness_mm", lambda _d: f"Thickness of side {side_name(side)}",
        "Where two thicknesses meet, the bevels differ and the miter shows.",
        lambda d: d.design.thickness_of(side),
        lambda d, v: revised(
            d, thicknesses_mm=_each(d.design.form.thicknesses_mm, d.design.side_count, side, v)
        ),
        step=0.5,
    )  # fmt: skip


def compartment(number: int, name: str, clear_mm: tuple[float, ...]) -> Field:
    """The clear width (`widths_mm`) or depth (`depths_mm`) of one compartment; those after it share the rest."""
    words = "width" if name == "widths_mm" else "depth"

    def put(job: Job, value: float) -> Job:
        given = (*clear_mm[:number], value)
        return revised(
            job,
            dividers=replace(
                job.design.inside.dividers or begun(Dividers, job.design.units), **{name: given}
            ),
        )

    return Field(
        f"inside.dividers.{name}.{number + 1}", lambda _d: f"Compartment {number + 1}, {words}",
        "The compartments after it share what is left.", lambda _d: clear_mm[number], put,
    )  # fmt: skip


_SHARPEST_DEG: Final = 0.1  # a corner sharper than that, or as near to straight, is none (our rule)
_WORKED_OUT: Final = (
    "Type ? to have it worked out from the others: with three so left open, all that you typed stays."
)


def _open_at(which: ring_edits.Which, at: int) -> Callable[[Job], bool]:
    """Whether that side or corner of a free ring is left to be worked out; a ring may have fewer by now."""
    return lambda job: (
        isinstance(shape := job.design.form.shape, Outline)
        and at < len(values := getattr(shape, which))
        and values[at] is None
    )


def side_length(side: int) -> Field:
    """The length of one side of a free ring; two others give way, or what is left open follows."""
    is_open = _open_at("lengths_mm", side)
    return Field(
        f"sides.{side_name(side)}.length_mm",
        lambda d: f"Side {side_name(side)}, {MEASURE_WORDS[d.design.form.shape.measure]}" + _told_open(is_open(d)),
        f"Two other sides give way; the corners stay. {_WORKED_OUT}",
        lambda d: ring_edits.length_of(d.design.form.shape, side) if isinstance(d.design.form.shape, Outline) else 0.0,
        lambda d, v: ring_edits.set_length(d, side, v), open=is_open,
    )  # fmt: skip


def corner_angle(corner: int) -> Field:
    """One corner of a free ring; the next corner and two sides give way, or what is left open follows."""
    is_open = _open_at("interiors_deg", corner)
    return Field(
        f"sides.{side_name(corner)}.interior_deg",
        lambda d: f"Corner at the end of side {side_name(corner)}" + _told_open(is_open(d)),
        f"The next corner and two sides give way. {_WORKED_OUT}",
        lambda d: ring_edits.corner_of(shape, corner) if isinstance(shape := d.design.form.shape, Outline) else 0.0,
        lambda d, v: ring_edits.set_corner(d, corner, v), _SHARPEST_DEG, 180.0 - _SHARPEST_DEG, False,
        "angle", open=is_open,
    )  # fmt: skip


def _told_open(is_open: bool) -> str:
    return ", worked out" if is_open else ""


FEET_SIZE: Final = part_field("feet", "size_mm", "Foot length", "Along each side.")
FEET_HEIGHT: Final = part_field(
    "feet", "height_mm", "Foot height", "How high the feet lift the box.", step=0.5
)
FEET_THICKNESS: Final = part_field("feet", "thickness_mm", "Foot thickness", "Of a mitered pair.", step=0.5)
FEET_INSET: Final = part_field("feet", "inset_mm", "Feet set in", "How far in from the outside.", step=0.5)


def mark_fields(number: int) -> dict[str, Field]:
    """The place and size of one mark on the board, by name: as the board is pictured, from its start and its edge."""

    def field(name: str, label: str, *, above: bool) -> Field:
        def get(job: Job) -> float:
            return float(getattr(job.stock.board.marks[number], name))

        def put(job: Job, value: float) -> Job:
            marks = list(job.stock.board.marks)
            changed: Any = replace(marks[number], **{name: value})
            marks[number] = changed
            return revised(job, marks=tuple(marks))

        why = "From the start end and the straight edge, as the board is pictured."
        return Field(f"stock.board.marks.{number + 1}.{name}", lambda _d: label, why, get, put, above=above)

    return {
        "x_mm": field("x_mm", "Mark begins", above=False), "y_mm": field("y_mm", "Mark lies up", above=False),
        "length_mm": field("length_mm", "Mark is long", above=True),
        "width_mm": field("width_mm", "Mark is wide", above=True),
        "at_mm": field("at_mm", "Wished at height", above=False),
    }  # fmt: skip


def opening_fields(number: int, along_mm: float) -> dict[str, Field]:
    """The sizes of one opening, by name; `along_mm` is where its middle lies now."""

    def field(name: str, label: str, why: str, *, above: bool = True) -> Field:
        def get(job: Job) -> float:
            value = getattr(job.design.section.openings[number], name)
            return along_mm if value is None else float(value)

        def put(job: Job, value: float) -> Job:
            openings = list(job.design.section.openings)
            changed: Any = replace(openings[number], **{name: value})
            openings[number] = changed
            return revised(job, openings=tuple(openings))

        return Field(f"section.openings.{number + 1}.{name}", lambda _d: label, why, get, put, above=above)

    return {
        "along_mm": field("along_mm", "Opening's middle", "From the side's start.", above=False),
        "up_mm": field(
            "up_mm", "Opening's height", "Its middle, up the face from the bottom edge.", above=False
        ),
        "width_mm": field("width_mm", "Opening's width", "Along the side; a hole's diameter."),
        "high_mm": field("high_mm", "Opening's own height", "A slot's height, a notch's depth."),
    }
