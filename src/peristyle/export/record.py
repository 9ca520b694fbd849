"""The box's record: what it became, settings that worked, time, the story; as PDF."""

from io import BytesIO
from typing import Any, Final
from xml.sax.saxutils import escape

from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.platypus import Paragraph, SimpleDocTemplate, Spacer

from peristyle.core.lengths import Format
from peristyle.drawing.size import size_drawing
from peristyle.export.pdf import BOLD, INK, REGULAR, DrawingBlock, register_fonts
from peristyle.export.sheet import SIZES, Paper
from peristyle.planning.plan import Plan
from peristyle.words import log as words

_MARGIN: Final = 16 * mm
_LONGEST: Final = 1800  # letters of one paragraph


def record(plan: Plan, paper: Paper = "a4", decimal: str = ".") -> bytes:
    """The record as PDF bytes."""
    register_fonts()
    fmt, out, job = Format(plan.job.design.units, decimal), BytesIO(), plan.job
    body = ParagraphStyle("body", fontName=REGULAR, fontSize=10, leading=13.5, textColor=INK)
    head = ParagraphStyle("head", body, fontName=BOLD, fontSize=13, leading=18, spaceBefore=10)
    document = SimpleDocTemplate(
        out, pagesize=SIZES[paper], leftMargin=_MARGIN, rightMargin=_MARGIN, topMargin=_MARGIN,
        bottomMargin=_MARGIN, title=f"{job.design.name}: record", author="Peristyle", invariant=1,
    )  # fmt: skip
    told: list[Any] = [
        Paragraph(escape(job.design.name), ParagraphStyle("title", head, fontSize=18, leading=24))
    ]
    if plan.ring.sides:
        told.append(DrawingBlock(size_drawing(plan, fmt), document.width, 70 * mm, {}))
    wood = job.stock.board
    told.append(Paragraph(escape(f"Wood: {wood.wood}, {fmt.length(wood.thickness_mm, unit=True)} thick as it came. "
                                 f"{words.totals(job)}"), body))  # fmt: skip
    if job.design.notes:
        told.append(Paragraph(escape(job.design.notes[:_LONGEST]), body))
    for title, lines in (
        ("Settings that worked", list(words.worked(job, plan.steps, fmt))),
        ("What was measured", [f"{one.name}: {one.value:g}" for one in job.measured]),
        ("The story", list(words.story(job, plan.steps, fmt))),
    ):
        if lines:
            told.append(Paragraph(title, head))
            told += [Paragraph(escape(line[:_LONGEST]).replace("  ", "&nbsp; "), body) for line in lines]
    told.append(Spacer(1, 2 * mm))
    document.build(told)
    return out.getvalue()
