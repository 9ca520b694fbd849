"""Size: the ring from above to scale, and the box as a solid beside it."""

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QSplitter, QVBoxLayout, QWidget

from peristyle.drawing.size import size_drawing
from peristyle.model import fields
from peristyle.model.design import (
    MAX_SLOPE_DEG,
    Alternating,
    Design,
    Measure,
    Rectangle,
    Regular,
    Shape,
    replace,
)
from peristyle.planning.ring import measured
from peristyle.ui.session import Session
from peristyle.ui.theme import Theme
from peristyle.ui.widgets.choices import Choices
from peristyle.ui.widgets.sheet import Sheet
from peristyle.ui.widgets.solid import SolidView
from peristyle.ui.wood import WoodStore

_SHAPES = (
    ("rectangle", "Rectangle"),
    ("regular", "Regular polygon"),
    ("alternating", "Two lengths in turn"),
)


class View(QWidget):
    """The ring and what it is built on."""

    def __init__(self, session: Session, wood: WoodStore) -> None:
        super().__init__()
        self._session = session
        self.sheet = Sheet(
            session, wood, lambda: size_drawing(session.plan, session.format), "Ring from above"
        )
        self.solid = SolidView(session, wood)
        split = QSplitter(Qt.Orientation.Horizontal)
        split.addWidget(self.sheet)
        split.addWidget(self.solid)
        split.setSizes([480, 330])
        split.setChildrenCollapsible(False)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addWidget(self._bar(session))
        layout.addWidget(split, 1)

    def dress(self, theme: Theme) -> None:
        """Take on a theme's colours."""
        self.sheet.dress(theme)
        self.solid.dress(theme)

    def _bar(self, session: Session) -> Choices:
        bar = Choices(session)
        bar.choice(
            "Shape",
            lambda: _shapes(session.design),
            lambda: _kind(session.design.shape),
            lambda kind: bar.edit("Change the shape", lambda d: reshaped(d, kind)),
            "What ring the sides make",
        )
        bar.count(
            "Sides",
            3,
            24,
            lambda: session.design.side_count,
            lambda n: bar.edit("Change the number of sides", lambda d: fields.with_sides(d, n)),
            "How many sides; a rectangle becomes a polygon",
        )
        bar.choice(
            "Measured",
            lambda: _measures(session.design),
            lambda: session.design.shape.measure,
            lambda m: bar.edit("Change what is measured", lambda d: measured(d, m)),
            "Which line the size is taken on; the box stays as it is",
        )
        bar.angle(
            "Slope",
            MAX_SLOPE_DEG,
            lambda: session.design.slopes_deg[0],
            lambda v: bar.edit("Change the slope", lambda d: replace(d, slopes_deg=(v,))),
            "Lean of all sides from upright, positive outward",
        )
        bar.choice(
            "Units",
            lambda: (("mm", "mm"), ("in", "inch")),
            lambda: session.design.units,
            lambda u: bar.edit("Change the units", lambda d: replace(d, units="in" if u == "in" else "mm")),
            "How lengths read, and what a bare number means",
        )
        return bar


def _kind(shape: Shape) -> str:
    return {Rectangle: "rectangle", Regular: "regular", Alternating: "alternating"}.get(
        type(shape), "outline"
    )


def _shapes(design: Design) -> list[tuple[str, str]]:
    """The kinds on offer; a free outline only when the design is one."""
    more = [("outline", "Sides and corners")] if _kind(design.shape) == "outline" else []
    return [*_SHAPES, *more]


def _measures(design: Design) -> list[tuple[str, str]]:
    keys: tuple[Measure, ...] = ("inside", "outside")
    if isinstance(design.shape, Regular):
        keys = ("inside", "outside", "across_flats", "across_corners")
    return [(key, fields.MEASURE_WORDS[key]) for key in keys]


def reshaped(design: Design, kind: str) -> Design:
    """The same box as another kind of ring, about as large across."""
    shape = design.shape
    if _kind(shape) == kind:
        return design
    if isinstance(shape, Rectangle):
        across, deep = shape.length_mm, shape.width_mm
    elif isinstance(shape, Regular):
        across = deep = (
            shape.size_mm if shape.measure.startswith("across") else shape.size_mm * shape.sides / 3.2
        )
    else:
        across = deep = design.height_mm * 2
    count = design.side_count
    new: Shape
    if kind == "rectangle":
        new = Rectangle(across, deep, "outside")
    elif kind == "regular":
        new = Regular(count if count != 4 else 6, across, "across_flats")
    elif kind == "alternating":
        count = max(4, count + count % 2) if count != 4 else 8
        side = across / (1 + 2**0.5)
        new = Alternating(count, round(side), round(side * 0.6), "outside")
    else:
        return design
    base = fields.with_sides(design, count) if count != design.side_count else design
    changed = replace(
        base, shape=new, thicknesses_mm=design.thicknesses_mm[:1], slopes_deg=design.slopes_deg[:1]
    )
    last = changed.side_count - 1
    closing = changed.closing_corner
    return replace(
        changed,
        front=min(changed.front, last),
        closing_corner=None if closing is None else min(closing, last),
    )
