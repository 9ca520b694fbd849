"""One setting of a tool as a value, and when two are the same."""

from typing import Final, Literal

from msgspec import Struct, field

Gauge = Literal["fence", "stop", "tilt", "swing", "height", "width", "thickness", "cradle", "tip"]
End = Literal["start", "end"]

_ODD: Final = 0.381966
_ALIKE: Final = 1e-4  # mm or degrees: settings nearer than this are made as one
SAME_SETTING: Final = 0.005  # mm or degrees: what nobody can set apart
LEAST_SWING: Final = 1e-6


class Setting(Struct, frozen=True):
    """One setting of the tool, in mm or degrees: from what to what it is measured, and the finest step it is set in.

    A swing is that of one `end`, positive where the cut leans to the right as it goes away from the maker, the
    step's `edge` toward him. Where a step has other settings for some of its pieces, `of` names those. A fence or
    stop of several passes is there once for each pass, in their order. A tilt is positive where the blade leans
    away from the fence (a groove) or toward the side's end (a dado). `shows` is what the tool's scale is set to, where
    a check of it says that it reads otherwise.
    """

    gauge: Gauge
    value: float
    unit: Literal["mm", "deg"]
    from_: str = field(name="from")
    to: str
    finest: float | None = None
    end: End | None = None
    of: tuple[str, ...] = ()
    shows: float | None = None


def same(*values: float) -> tuple[int, ...]:
    """A key that is the same for settings nobody can tell apart at the saw.

    What is rounded is moved by an odd share, so that no size a maker would give lies between two keys.
    """
    return tuple([round(v / _ALIKE + _ODD) for v in values])


def tilt(degrees: float, finest: float | None = None) -> tuple[Setting, ...]:
    """The blade's lean; a square one is no setting."""
    if not degrees:
        return ()
    return (Setting("tilt", degrees, "deg", "square to the table", "the blade", finest),)


def swing(degrees: float, end: End | None = None) -> Setting:
    """The gauge's or the saw's swing."""
    return Setting("swing", degrees, "deg", "square to the gauge", "the line of the cut", None, end)


def cradle(degrees: float) -> Setting:
    """The angle between a cradle's faces."""
    return Setting("cradle", degrees, "deg", "one face of the cradle", "the other")


def tipped(degrees: float) -> Setting:
    """A cradle's tip: positive where the end at the fence lies low."""
    return Setting("tip", degrees, "deg", "the table", "the corner's arris")


def from_inside_arris(mm: float) -> Setting:
    """The fence for a groove in a miter face that lies on the table, the inside arris against it."""
    return Setting(
        "fence", mm, "mm", "the fence, the piece's inside arris against it", "the near side of what cuts"
    )


def stops_short(mm: float, edge: Literal["bottom", "top"]) -> Setting:
    """Where a groove along a corner begins or ends short of an edge, along its inside arris."""
    end: End = "start" if edge == "bottom" else "end"
    return Setting(
        "stop", mm, "mm", f"the piece's {edge} edge, at the inside arris", "the middle of the bit", None, end
    )


def stop(mm: float) -> Setting:
    """The length stop, which the other end of the piece lies against."""
    return Setting("stop", mm, "mm", "the stop", "the blade, at the face that lies up")


def begins(mm: float) -> Setting:
    """Where the first cut goes into a square blank, along its edge."""
    start = ("the blank's start, along the edge", "the blade, at the face that lies up")
    return Setting("stop", mm, "mm", *start, None, "start")


def off_the_end(mm: float) -> Setting:
    """What comes off the board's rough end."""
    return Setting("stop", mm, "mm", "the board's rough end", "the blade, at the face that lies up")


def from_start(mm: float) -> Setting:
    """A stop at the piece's start, for a cut across its face."""
    return Setting("stop", mm, "mm", "the stop at the piece's start", "the near side of the blade")


def fence(mm: float) -> Setting:
    """The fence, to the near side of the blade."""
    return Setting("fence", mm, "mm", "the fence", "the near side of the blade at the table")


def width(mm: float) -> Setting:
    """A width ripped, along the face."""
    return Setting("width", mm, "mm", "one long edge", "the other, along the face")


def height(mm: float) -> Setting:
    """The blade's height."""
    return Setting("height", mm, "mm", "the table", "the top of the blade")


def stands_out(mm: float) -> Setting:
    """How much of a bit or a dado set stands out of a sacrificial fence."""
    return Setting("width", mm, "mm", "the sacrificial fence", "the far side of what cuts")


def thickness(mm: float) -> Setting:
    """A thickness planed or chosen."""
    return Setting("thickness", mm, "mm", "the table", "the cutters")


def bored_from_start(mm: float) -> Setting:
    """A stop at the piece's start, for a bit that goes through its face."""
    return Setting("stop", mm, "mm", "the stop at the piece's start", "the middle of the bit")


def bored_from_edge(mm: float) -> Setting:
    """The fence of a drill press, the work's bottom edge against it."""
    return Setting("fence", mm, "mm", "the fence", "the middle of the bit")


def bit(mm: float) -> Setting:
    """The bit that bores."""
    return Setting("width", mm, "mm", "one side of the bit", "the other")
