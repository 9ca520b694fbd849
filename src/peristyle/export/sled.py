"""The sled as a sheet: drawing, parts, steps, cautions; as PDF."""

from io import BytesIO
from typing import Any, Final
from xml.sax.saxutils import escape

from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.platypus import Paragraph, SimpleDocTemplate

from peristyle.core.lengths import Format
from peristyle.drawing.sled import sled_drawing
from peristyle.export.pdf import BOLD, INK, REGULAR, DrawingBlock, register_fonts
from peristyle.export.sheet import SIZES, Paper
from peristyle.planning.plan import Plan
from peristyle.planning.sled import sled
from peristyle.words import sled as words

_MARGIN: Final = 16 * mm


def sled_sheet(plan: Plan, paper: Paper = "a4", decimal: str = ".") -> bytes:
    """The sheet as PDF bytes. Raises PeristyleError where there is nothing for a sled."""
    made, fmt, out = sled(plan), Format(plan.job.design.units, decimal), BytesIO()
    register_fonts()
    body = ParagraphStyle("body", fontName=REGULAR, fontSize=10, leading=13.5, textColor=INK, spaceAfter=3)
    head = ParagraphStyle("head", body, fontName=BOLD, fontSize=13, leading=18, spaceBefore=8)
    title = f"Sled for {plan.job.design.name}"
    document = SimpleDocTemplate(
        out, pagesize=SIZES[paper], leftMargin=_MARGIN, rightMargin=_MARGIN, topMargin=_MARGIN,
        bottomMargin=_MARGIN, title=title, author="Peristyle", invariant=1,
    )  # fmt: skip
    told: list[Any] = [Paragraph(escape(title), ParagraphStyle("title", head, fontSize=18, leading=24))]
    told.append(DrawingBlock(sled_drawing(made, fmt), document.width, 105 * mm, {}))
    for name, lines in (
        ("Parts", [words.part(one, fmt) for one in made.parts]),
        ("How it is made", [f"{k}. {text}" for k, text in enumerate(words.steps(made, fmt), 1)]),
        ("To mind", list(words.cautions(made, fmt))),
    ):
        told.append(Paragraph(name, head))
        told += [Paragraph(escape(line), body) for line in lines]
    document.build(told)
    return out.getvalue()
