"""Drawings on paper: the same shapes as on the screen, by reportlab, with the shipped typeface."""

import math
from importlib import resources
from io import BytesIO
from typing import Any, Final

from reportlab.lib.colors import Color, HexColor
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.platypus import Flowable

from peristyle.core.planes import Point
from peristyle.drawing.shapes import Drawing, Grain, Label, Path

REGULAR: Final = "SourceSans3"
BOLD: Final = "SourceSans3-Semibold"

INK: Final = HexColor("#26282c")
_ROLES: Final = {
    "decided": HexColor("#1d57a8"), "select": HexColor("#1d57a8"), "follows": INK,
    "quiet": HexColor("#63666c"), "blade": HexColor("#a8234b"), "caution": HexColor("#7d5200"),
    "wood": INK, "inside": HexColor("#63666c"), "panel": HexColor("#63666c"), "paper": INK,
    "key": INK, "machine": HexColor("#63666c"),
}  # fmt: skip
_FILLS: Final = {
    "wood": HexColor("#f1e7d4"), "inside": HexColor("#f7f6f2"), "panel": HexColor("#f5eee0"),
    "key": HexColor("#4d3322"), "machine": HexColor("#d5d4d0"), "paper": HexColor("#ffffff"),
}  # fmt: skip


def register_fonts() -> None:
    """Make the shipped typeface known to the PDF writer."""
    for name, file in ((REGULAR, "SourceSans3-Regular.ttf"), (BOLD, "SourceSans3-Semibold.ttf")):
        if name not in pdfmetrics.getRegisteredFontNames():
            data = resources.files("peristyle").joinpath("data", "fonts", file).read_bytes()
            pdfmetrics.registerFont(TTFont(name, BytesIO(data)))


class DrawingBlock(Flowable):  # type: ignore[misc]  # reportlab has no types
    """A drawing fitted into a block of the page, `width` × `height` points.

    `tag_text` gives the words for each size tag, which on paper is plain text.
    """

    def __init__(self, drawing: Drawing, width: float, height: float, tag_text: dict[str, str]) -> None:
        super().__init__()
        self.width, self.height = width, height
        self._drawing, self._tags = drawing, tag_text
        x0, y0, x1, y1 = drawing.bounds
        self._scale = min(width / max(x1 - x0, 1e-6), height / max(y1 - y0, 1e-6))
        self._x = width / 2 - (x0 + x1) / 2 * self._scale
        self._y = height / 2 - (y0 + y1) / 2 * self._scale

    def _pt(self, point: Point) -> Point:
        return (self._x + point[0] * self._scale, self._y + point[1] * self._scale)

    def draw(self) -> None:
        """Put the shapes on the page."""
        for shape in self._drawing.shapes:
            if isinstance(shape, Path):
                self._path(shape)
            elif isinstance(shape, Grain):
                self._polygon(shape.points, None, _FILLS["wood"])
            else:
                self._label(shape)
        for tag in self._drawing.tags:
            text = f"{tag.prefix} {self._tags.get(tag.field.id, '')}".strip()
            label = Label(tag.at, text, "decided", 9.0, bold=True, shift=tag.shift)
            self._label(label, ground=True)

    def _outline(self, points: tuple[Point, ...], closed: bool) -> Any:
        path = self.canv.beginPath()
        for number, point in enumerate(points):
            (path.moveTo if number == 0 else path.lineTo)(*self._pt(point))
        if closed:
            path.close()
        return path

    def _polygon(self, points: tuple[Point, ...], stroke: Color | None, fill: Color | None) -> None:
        if stroke is not None:
            self.canv.setStrokeColor(stroke)
        if fill is not None:
            self.canv.setFillColor(fill)
        self.canv.drawPath(
            self._outline(points, True), stroke=int(stroke is not None), fill=int(fill is not None)
        )

    def _path(self, shape: Path) -> None:
        colour = _ROLES[shape.role]
        self.canv.setLineWidth(shape.weight * 0.7)
        self.canv.setDash([3.5, 2.5] if shape.dash else [])
        stroke = colour if shape.weight > 0 else None
        if not shape.closed:
            self.canv.setStrokeColor(colour)
            self.canv.drawPath(self._outline(shape.points, False), stroke=1, fill=0)
        elif shape.fill == "none":
            self._polygon(shape.points, stroke, None)
        else:
            fill = _FILLS.get(shape.role, colour)
            if shape.fill == "tint" or (shape.fill == "hatch" and shape.role != "wood"):
                fill = Color(fill.red, fill.green, fill.blue, alpha=0.25)
            self._polygon(shape.points, stroke, fill)
            if shape.fill == "hatch":
                self._hatch(shape, colour)
        self.canv.setDash([])

    def _hatch(self, shape: Path, colour: Color) -> None:
        """Slanting lines inside the outline, so that print without colour says the same."""
        points = [self._pt(p) for p in shape.points]
        low = min(p[0] - p[1] for p in points)
        high = max(p[0] - p[1] for p in points)
        bottom, top = min(p[1] for p in points), max(p[1] for p in points)
        self.canv.saveState()
        self.canv.clipPath(self._outline(shape.points, True), stroke=0, fill=0)
        self.canv.setStrokeColor(Color(colour.red, colour.green, colour.blue, alpha=0.35))
        self.canv.setLineWidth(0.4)
        step = 4.0
        for k in range(min(600, math.ceil((high - low) / step) + 1)):
            at = low + k * step
            self.canv.line(at + bottom, bottom, at + top, top)
        self.canv.restoreState()

    def _label(self, shape: Label, ground: bool = False) -> None:
        font = BOLD if shape.bold else REGULAR
        size = shape.size * 0.85
        x, y = self._pt(shape.at)
        x, y = x + shape.shift[0] * 0.75, y + shape.shift[1] * 0.75
        text = shape.fitting(lambda one: pdfmetrics.stringWidth(one, font, size), self._scale)
        wide = pdfmetrics.stringWidth(text, font, size)
        left = {"middle": -wide / 2, "left": 0.0, "right": -wide}[shape.anchor]
        self.canv.saveState()
        self.canv.translate(x, y)
        if shape.turn_deg:
            self.canv.rotate(shape.turn_deg)
        if ground:
            self.canv.setFillColor(HexColor("#ffffff"))
            self.canv.rect(left - 1.5, -size * 0.5, wide + 3, size, stroke=0, fill=1)
        self.canv.setFillColor(_ROLES[shape.role])
        self.canv.setFont(font, size)
        self.canv.drawString(left, -size * 0.33, text)
        self.canv.restoreState()
