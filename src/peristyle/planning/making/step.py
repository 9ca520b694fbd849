"""A step: what is done at the bench, its settings as values with what they are measured from and to."""

from typing import Literal

from msgspec import Struct, field

Gauge = Literal["fence", "stop", "tilt", "swing", "height", "width", "thickness", "cradle"]
Lies = Literal["show_up", "inside_up", "on_end", "on_edge", "in_cradle", "on_side", "flat"]


class Setting(Struct, frozen=True):
    """One setting of the tool, in mm or degrees: from what to what it is measured, and the finest step it is set in.

    A swing is that of one `end`, positive where the cut leans to the right as it goes away from the maker, the
    step's `edge` toward him. A fence or stop of several passes is there once for each pass, in their order. A
    tilt is positive where the blade leans away from the fence (a groove) or toward the side's end (a dado).
    """

    gauge: Gauge
    value: float
    unit: Literal["mm", "deg"]
    from_: str = field(name="from")
    to: str
    finest: float | None = None
    end: Literal["start", "end"] | None = None


class After(Struct, frozen=True):
    """A step that must be done before, and why."""

    step: str
    why: str


class Step(Struct, frozen=True):
    """One operation. Ids of pieces, features and edges are those of the pieces; `makes` says what is there after it.

    `id` says what the step does, so that it stays when others come and go. `edge` is the edge of the work against
    the fence. `setting` and `how` are the words for it.
    """

    id: str
    operation: str
    tool: str
    title: str
    pieces: tuple[str, ...]
    makes: tuple[str, ...]
    after: tuple[After, ...]
    lies: Lies
    edge: Literal["bottom", "top"] | None
    settings: tuple[Setting, ...]
    passes: int
    setting: str
    how: str
    cautions: tuple[str, ...]
