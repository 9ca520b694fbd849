"""The steps as cards for the bench: large settings, the picture, the cautions, room for what was measured."""

from io import BytesIO
from typing import Any, Final
from xml.sax.saxutils import escape

from reportlab.lib.colors import HexColor
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.platypus import KeepTogether, Paragraph, SimpleDocTemplate, Spacer, Table, TableStyle

from peristyle.core.lengths import Format
from peristyle.drawing.operations import operation_drawing
from peristyle.export.pdf import BOLD, INK, REGULAR, DrawingBlock, register_fonts
from peristyle.export.sheet import SIZES, Paper
from peristyle.planning.plan import Plan
from peristyle.reference.cautions import caution
from peristyle.words.findings import line
from peristyle.words.reading import sentence
from peristyle.words.steps import first_of_all, how, setting, title, tool

_MARGIN: Final = 12 * mm
_LINE: Final = HexColor("#63666c")
_LONGEST: Final = 1100  # letters of one text: a card must fit on a page


def bench_cards(plan: Plan, paper: Paper = "a4", decimal: str = ".") -> bytes:
    """A card for each step as PDF bytes, each kept whole; one that says why where there are no steps."""
    register_fonts()
    fmt, out = Format(plan.job.design.units, decimal, for_rule=True), BytesIO()
    document = SimpleDocTemplate(
        out, pagesize=SIZES[paper], leftMargin=_MARGIN, rightMargin=_MARGIN, topMargin=_MARGIN,
        bottomMargin=_MARGIN, title=f"{plan.job.design.name}: cards", author="Peristyle", invariant=1,
    )  # fmt: skip
    story: list[Any] = _beforehand(plan, fmt)
    for number in range(len(plan.steps)):
        story += [KeepTogether([_card(plan, number, fmt, document.width)]), Spacer(1, 5 * mm)]
    if not plan.steps:
        story += [Paragraph("No steps yet: the ring cannot be made.", _styles()["big"])]
    document.build(story)
    return out.getvalue()


def _styles() -> dict[str, ParagraphStyle]:
    body = ParagraphStyle("body", fontName=REGULAR, fontSize=10.5, leading=13.5, textColor=INK)
    return {
        "body": body,
        "small": ParagraphStyle("small", body, fontSize=9, leading=11.5),
        "head": ParagraphStyle("head", body, fontName=BOLD, fontSize=13, leading=16),
        "big": ParagraphStyle("big", body, fontName=BOLD, fontSize=20, leading=24),
    }


def _beforehand(plan: Plan, fmt: Format) -> list[Any]:
    """What is to be known before the first card: why the box cannot be built so, and what to take care of."""
    grave = [finding for finding in plan.findings if finding.severity != "note"]
    styles = _styles()
    advice = Paragraph(escape(caution("manual", plan.job.design.units)), styles["body"])
    head = Paragraph(escape(f"{plan.job.design.name}   before you begin"), styles["small"])
    told = [Paragraph(escape(line(finding, fmt)), styles["body"]) for finding in grave]
    return [head, *told, advice, Spacer(1, 5 * mm)]


def _card(plan: Plan, number: int, fmt: Format, wide: float) -> Table:
    step, styles = plan.steps[number], _styles()
    refused = "" if plan.buildable else "   ▲ The box cannot be built so: see before the first card"
    told = [
        Paragraph(
            escape(
                f"{plan.job.design.name}   {number + 1} of {len(plan.steps)}   {sentence(tool(step))}{refused}"
            ),
            styles["small"],
        ),
        Paragraph(escape(title(step, fmt)[:_LONGEST]), styles["head"]),
        Paragraph(escape(sentence(setting(step, fmt))[:_LONGEST]), styles["big"]),
    ]
    picture = DrawingBlock(operation_drawing(plan, step, fmt), 80 * mm, 42 * mm, {})
    text = " ".join((*first_of_all(plan.job, step, fmt), how(step, fmt)))
    words = [Paragraph(escape(text[:_LONGEST]), styles["body"])]
    cautions = [
        Paragraph(f"▲ {escape(caution(key, plan.job.design.units))}", styles["small"])
        for key in step.cautions
        if key != "manual"  # once, before the first card
    ]
    last = Paragraph("☐ done    measured: ______________________________", styles["small"])
    table = Table(
        [[told, ""], [picture, words], [cautions, ""], [last, ""]], colWidths=[84 * mm, wide - 84 * mm]
    )
    table.setStyle(TableStyle([
        ("SPAN", (0, 0), (1, 0)), ("SPAN", (0, 2), (1, 2)), ("SPAN", (0, 3), (1, 3)),
        ("BOX", (0, 0), (-1, -1), 0.8, _LINE), ("VALIGN", (0, 0), (-1, -1), "TOP"),
        ("TOPPADDING", (0, 0), (-1, -1), 5), ("BOTTOMPADDING", (0, 0), (-1, -1), 5),
    ]))  # fmt: skip
    return table
