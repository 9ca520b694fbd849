"""A sheet of chapters: a title, a drawing, and lists under headings; as PDF."""

from collections.abc import Sequence
from io import BytesIO
from typing import Any, Final
from xml.sax.saxutils import escape

from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.platypus import Paragraph, SimpleDocTemplate

from peristyle.drawing.shapes import Drawing
from peristyle.export.pdf import BOLD, INK, REGULAR, DrawingBlock, register_fonts
from peristyle.export.sheet import SIZES, Paper

_MARGIN: Final = 16 * mm
_LONGEST: Final = 1800  # letters of one paragraph


def chapters(
    title: str,
    named: str,
    drawing: Drawing | None,
    high_mm: float,
    parts: Sequence[tuple[str, Sequence[str]]],
    paper: Paper,
    tags: dict[str, str] | None = None,
) -> bytes:
    """PDF bytes: `title` at its head, `named` in the reader's window, the drawing so high with its sizes (`tags`), then
    heading and lines of each part; a part without lines is left out, one without a heading stands by itself.
    """
    register_fonts()
    out = BytesIO()
    body = ParagraphStyle("body", fontName=REGULAR, fontSize=10, leading=13.5, textColor=INK, spaceAfter=2)
    head = ParagraphStyle("head", body, fontName=BOLD, fontSize=13, leading=18, spaceBefore=10)
    document = SimpleDocTemplate(
        out, pagesize=SIZES[paper], leftMargin=_MARGIN, rightMargin=_MARGIN, topMargin=_MARGIN,
        bottomMargin=_MARGIN, title=named, author="Peristyle", invariant=1,
    )  # fmt: skip
    told: list[Any] = [Paragraph(escape(title), ParagraphStyle("title", head, fontSize=18, leading=24))]
    if drawing is not None:
        told.append(DrawingBlock(drawing, document.width, high_mm * mm, tags or {}))
    for heading, lines in parts:
        if lines and heading:
            told.append(Paragraph(escape(heading), head))
        told += [Paragraph(escape(line[:_LONGEST]).replace("  ", "&nbsp; "), body) for line in lines]
    document.build(told)
    return out.getvalue()
