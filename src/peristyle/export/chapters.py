"""A sheet of chapters: a title, a drawing, and lists under headings; as PDF."""

from collections.abc import Sequence
from io import BytesIO
from typing import Any, Final, NamedTuple
from xml.sax.saxutils import escape

from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.platypus import Image, KeepTogether, Paragraph, SimpleDocTemplate

from peristyle.core.errors import PeristyleError
from peristyle.drawing.shapes import Drawing
from peristyle.export.pdf import BOLD, INK, REGULAR, DrawingBlock, register_fonts
from peristyle.export.sheet import SIZES, Paper
from peristyle.wood.pictures import upright

_MARGIN: Final = 16 * mm
_LONGEST: Final = 1800  # letters of one paragraph
_SHOT_HIGH_MM: Final = 62.0
_SHOT_POINTS: Final = 700_000


class Shot(NamedTuple):
    """A photograph among the lines, as the bytes of its file, and what stands over it."""

    data: bytes
    words: str


def chapters(
    title: str,
    named: str,
    drawing: Drawing | None,
    high_mm: float,
    parts: Sequence[tuple[str, Sequence[str | Shot]]],
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
        for line in lines:
            words = line.words if isinstance(line, Shot) else line
            told.append(Paragraph(escape(words[:_LONGEST]).replace("  ", "&nbsp; "), body))
            if isinstance(line, Shot):
                if len(told) > 1:  # the day it was taken stays over it
                    told[-2].keepWithNext = 1
                told[-1:] = [KeepTogether([told[-1], _shown(line.data, document.width, body)])]
    document.build(told)
    return out.getvalue()


def _shown(data: bytes, wide: float, body: ParagraphStyle) -> Any:
    """A photograph as it goes on the page; where it cannot be read, that."""
    from PIL import Image as Pictures  # late: only a sheet with photographs pays for it

    try:
        pixels = upright(data, _SHOT_POINTS)
    except PeristyleError:
        return Paragraph("(its photograph cannot be read)", body)
    rows, columns = pixels.shape[:2]
    scale = min(wide / columns, _SHOT_HIGH_MM * mm / rows)
    held = BytesIO()
    Pictures.fromarray(pixels).save(held, "JPEG", quality=85)
    held.seek(0)
    return Image(held, columns * scale, rows * scale, hAlign="LEFT")
