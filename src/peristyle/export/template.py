"""Templates on paper, true to size: PDF tiled over pages with marks to join them by, and SVG in millimetres."""

import math
from io import BytesIO
from typing import Final
from xml.sax.saxutils import escape

from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas

from peristyle.core.errors import PeristyleError
from peristyle.drawing.shapes import Drawing, Label, Path
from peristyle.drawing.template import templates
from peristyle.export.pdf import REGULAR, DrawingBlock, register_fonts
from peristyle.export.sheet import SIZES, Paper
from peristyle.planning.findings import reader
from peristyle.planning.plan import Plan

_EDGE_MM: Final = 12.0  # what printers leave blank, and a little more
_OVER_MM: Final = 10.0  # shown on both of two pages that join
_MOST_PAGES: Final = 200


def template_pdf(plan: Plan, paper: Paper = "a4") -> bytes:
    """All templates, each on as many pages as it needs. Raises PeristyleError where there is nothing to draw."""
    register_fonts()
    out = BytesIO()
    canvas = Canvas(out, pagesize=SIZES[paper], invariant=1)
    canvas.setTitle(f"{plan.job.design.name}: templates")
    canvas.setAuthor("Peristyle")
    for drawing in wanted(plan):
        _tiled(canvas, drawing, SIZES[paper])
    canvas.save()
    return out.getvalue()


def wanted(plan: Plan) -> list[Drawing]:
    """The templates of a plan. Raises PeristyleError where there are none."""
    found = templates(plan, reader(plan.job.design))
    if not found:
        raise PeristyleError("There is no box yet to make templates of: its ring cannot be made.")
    return found


def _tiled(canvas: Canvas, drawing: Drawing, size: tuple[float, float]) -> None:
    """One drawing over pages that overlap; a cross at each corner of what two pages share."""
    x0, y0, x1, y1 = drawing.bounds
    room = (size[0] / mm - 2 * _EDGE_MM, size[1] / mm - 2 * _EDGE_MM)
    counts = [
        1 if span <= free else math.ceil((span - _OVER_MM) / (free - _OVER_MM))
        for span, free in ((x1 - x0, room[0]), (y1 - y0, room[1]))
    ]
    if counts[0] * counts[1] > _MOST_PAGES:
        raise PeristyleError(
            "A template of this box would take more than 200 pages: export it as SVG instead."
        )
    block = DrawingBlock(drawing, (x1 - x0) * mm, (y1 - y0) * mm, {})
    for row in reversed(range(counts[1])):
        for column in range(counts[0]):
            left, low = (at * (free - _OVER_MM) for at, free in zip((column, row), room, strict=True))
            canvas.saveState()
            frame = canvas.beginPath()
            frame.rect(_EDGE_MM * mm, _EDGE_MM * mm, room[0] * mm, room[1] * mm)
            canvas.clipPath(frame, stroke=0, fill=0)
            block.drawOn(canvas, (_EDGE_MM - left) * mm, (_EDGE_MM - low) * mm)
            canvas.restoreState()
            _marks(canvas, room, (column, row), counts)
            canvas.showPage()


def _marks(canvas: Canvas, room: tuple[float, float], at: tuple[int, int], counts: list[int]) -> None:
    """Crosses in the middle of what this page shares with its neighbours, and which page it is."""
    canvas.setLineWidth(0.4)
    half = _OVER_MM / 2
    if counts[0] * counts[1] > 1:
        xs = [half] * (at[0] > 0) + [room[0] - half] * (at[0] < counts[0] - 1) or [half, room[0] - half]
        ys = [half] * (at[1] > 0) + [room[1] - half] * (at[1] < counts[1] - 1) or [half, room[1] - half]
        for x in xs:
            for y in ys:
                cx, cy = (_EDGE_MM + x) * mm, (_EDGE_MM + y) * mm
                canvas.line(cx - 3 * mm, cy, cx + 3 * mm, cy)
                canvas.line(cx, cy - 3 * mm, cx, cy + 3 * mm)
    canvas.setFont(REGULAR, 7)
    text = "Full size. "
    if counts[0] * counts[1] > 1:
        text += (
            f"Row {counts[1] - at[1]} of {counts[1]}, column {at[0] + 1} of {counts[0]}: lay cross on cross."
        )
    canvas.drawString(_EDGE_MM * mm, 6 * mm, text)


def template_svg(plan: Plan) -> bytes:
    """All templates one beside the other in one picture, its units millimetres."""
    drawings = wanted(plan)
    wide = sum(d.bounds[2] - d.bounds[0] for d in drawings) + 10.0 * (len(drawings) - 1)
    high = max(d.bounds[3] - d.bounds[1] for d in drawings)
    rows = [
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{wide:.4f}mm" height="{high:.4f}mm" '
        f'viewBox="0 0 {wide:.4f} {high:.4f}">',
        f"<title>{escape(plan.job.design.name)}: templates</title>",
    ]
    x = 0.0
    for drawing in drawings:
        rows.append(f'<g fill="none" stroke="#000" transform="translate({x - drawing.bounds[0]:.4f} '
                    f'{drawing.bounds[3]:.4f})">')  # fmt: skip
        rows += [_svg(shape) for shape in drawing.shapes if isinstance(shape, Path | Label)]
        rows.append("</g>")
        x += drawing.bounds[2] - drawing.bounds[0] + 10.0
    return ("\n".join([*rows, "</svg>"]) + "\n").encode()


_PT_MM: Final = 25.4 / 72


def _svg(shape: Path | Label) -> str:
    """One shape; y goes down."""
    if isinstance(shape, Label):
        size = shape.size * 0.85 * _PT_MM
        x, y = shape.at[0] + shape.shift[0] * 0.75 * _PT_MM, -shape.at[1] - shape.shift[1] * 0.75 * _PT_MM
        anchor = {"middle": "middle", "left": "start", "right": "end"}[shape.anchor]
        weight = ' font-weight="600"' if shape.bold else ""
        return (
            f'<text x="{x:.4f}" y="{y + size * 0.33:.4f}" font-family="Source Sans 3, sans-serif" '
            f'font-size="{size:.4f}" text-anchor="{anchor}" fill="#000" stroke="none"{weight}>'
            f"{escape(shape.text)}</text>"
        )
    points = " ".join(f"{x:.4f},{-y:.4f}" for x, y in shape.points)
    dash = ' stroke-dasharray="1.2 0.9"' if shape.dash else ""
    fill = ' fill="#0002"' if shape.fill != "none" else ""
    kind = "polygon" if shape.closed else "polyline"
    return f'<{kind} points="{points}" stroke-width="{shape.weight * 0.7 * _PT_MM:.4f}"{dash}{fill}/>'
