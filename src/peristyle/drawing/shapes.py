"""What a drawing is made of. Positions are mm, x right, y up; text and line widths are points.

The window paints a drawing and the sheet prints the same one, so they cannot disagree. A shape
says what it means (`role`), not what colour it is.
"""

from collections.abc import Callable
from typing import Literal

from msgspec import Struct

from peristyle.core.planes import Point
from peristyle.model.fields import Field
from peristyle.model.job import Job
from peristyle.wood.looks import Plane

Role = Literal[
    "decided", "follows", "quiet", "blade", "caution", "wood", "inside", "panel", "paper", "select",
    "key", "machine",
]  # fmt: skip
Kind = Literal["side", "corner", "step", "key", "thing", "piece", "mark"]
Anchor = Literal["middle", "left", "right"]
Fill = Literal["none", "solid", "tint", "hatch"]


class Pick(Struct, frozen=True):
    """What a shape stands for when it is clicked."""

    kind: Kind
    index: int


class Path(Struct, frozen=True):
    """A line or polygon. `weight` in points; `dash` for what is hidden or limits."""

    points: tuple[Point, ...]
    role: Role = "follows"
    fill: Fill = "none"
    closed: bool = True
    weight: float = 1.0
    dash: bool = False
    pick: Pick | None = None


class Label(Struct, frozen=True):
    """Text. `size` in points; `turn_deg` counter-clockwise; `shift` in points, x right, y up.

    One that has `room_mm` of the drawing (0: as much as it likes) gives way where it is wider to the first of the
    `shorter` texts that is not, or is left out.
    """

    at: Point
    text: str
    role: Role = "follows"
    size: float = 9.0
    bold: bool = False
    anchor: Anchor = "middle"
    turn_deg: float = 0.0
    shift: Point = (0.0, 0.0)
    pick: Pick | None = None
    room_mm: float = 0.0
    shorter: tuple[str, ...] = ()

    def fitting(self, wide: Callable[[str], float], scale: float) -> str:
        """The text that has room, by how `wide` texts are and how much of that a millimetre is; empty for none."""
        if not self.room_mm:
            return self.text
        return next((t for t in (self.text, *self.shorter) if wide(t) <= self.room_mm * scale), "")


class Grain(Struct, frozen=True):
    """A piece of the board's picture: `source` on the board (mm), drawn at `points`.

    Both are quadrilaterals with corners in the same order. `board` is its name on the rack, empty for the sides' own.
    """

    points: tuple[Point, Point, Point, Point]
    source: tuple[Point, Point, Point, Point]
    pick: Pick | None = None
    plane: Plane = "face"
    board: str = ""


class Tag(Struct, frozen=True):
    """A size the maker decides, standing on the drawing; typed there."""

    field: Field
    at: Point
    shift: Point = (0.0, 0.0)
    prefix: str = ""


class Handle(Struct, frozen=True):
    """Something that can be dragged: a field that changes by `gain` per mm along `axis`."""

    field: Field
    area: tuple[Point, ...]
    axis: Point
    gain: float = 1.0


class Grip(Struct, frozen=True):
    """Something that can be dragged any way: `move` gives the design for a run of (dx, dy) mm.

    None from it means that it cannot go there; `says` names it in undo. `click`, where there is one,
    gives the design for a click at (x, y) of the drawing; `step` that for an arrow key, one on (1) or back (−1).
    """

    area: tuple[Point, ...]
    move: Callable[[Job, float, float], Job | None]
    says: str
    click: Callable[[Job, float, float], Job | None] | None = None
    step: Callable[[Job, int], Job | None] | None = None


class Drawing(Struct, frozen=True):
    """Shapes in painting order. `words` says the drawing for those who do not see it."""

    shapes: tuple[Path | Label | Grain, ...] = ()
    tags: tuple[Tag, ...] = ()
    handles: tuple[Handle | Grip, ...] = ()
    bounds: tuple[float, float, float, float] = (0.0, 0.0, 100.0, 100.0)
    words: str = ""


Shape = Path | Label | Grain


def line(a: Point, b: Point, role: Role = "follows", weight: float = 1.0, dash: bool = False) -> Path:
    """A straight line."""
    return Path((a, b), role, closed=False, weight=weight, dash=dash)


def dimension(
    a: Point, b: Point, away: Point, text: str = "", role: Role = "follows", size: float = 9.0
) -> list[Shape]:
    """A dimension line beside a–b, moved by `away`, with end ticks, and its text if any."""
    p, q = (a[0] + away[0], a[1] + away[1]), (b[0] + away[0], b[1] + away[1])
    run = ((q[0] - p[0]) ** 2 + (q[1] - p[1]) ** 2) ** 0.5 or 1.0
    reach = ((away[0]) ** 2 + (away[1]) ** 2) ** 0.5
    tick = reach * 0.16
    nx, ny = (away[0] / reach, away[1] / reach) if reach else (0.0, 1.0)
    shapes: list[Shape] = [line(p, q, role, 0.8)]
    for end, foot in ((p, a), (q, b)):
        shapes.append(line((foot[0] + nx * tick, foot[1] + ny * tick),
                           (end[0] + nx * tick, end[1] + ny * tick), "quiet", 0.5))  # fmt: skip
        dx, dy = (q[0] - p[0]) / run * tick * 0.6, (q[1] - p[1]) / run * tick * 0.6
        shapes.append(line((end[0] - dx - nx * tick * 0.6, end[1] - dy - ny * tick * 0.6),
                           (end[0] + dx + nx * tick * 0.6, end[1] + dy + ny * tick * 0.6), role, 1.2))  # fmt: skip
    if text:
        middle = ((p[0] + q[0]) / 2, (p[1] + q[1]) / 2)
        shapes.append(Label(middle, text, role, size, shift=(nx * 9, ny * 9)))
    return shapes


def midpoint(a: Point, b: Point) -> Point:
    """Halfway between two points."""
    return ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)
