"""The shop sheet: box, cut list, board, sequence, keys and cautions, on A4 or Letter."""

import math
from io import BytesIO
from typing import Any, Final, Literal
from xml.sax.saxutils import escape

from reportlab.lib.colors import HexColor
from reportlab.lib.pagesizes import A4, LETTER
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.platypus import KeepTogether, Paragraph, SimpleDocTemplate, Spacer, Table, TableStyle

from peristyle.core.lengths import Format
from peristyle.drawing.board import board_drawing
from peristyle.drawing.corner import corner_drawing
from peristyle.drawing.operations import operation_drawing
from peristyle.drawing.section import section_drawing
from peristyle.drawing.shapes import Drawing
from peristyle.drawing.size import across_words, size_drawing
from peristyle.export.pdf import BOLD, INK, REGULAR, DrawingBlock, register_fonts
from peristyle.model.design import corner_name
from peristyle.planning.corners.keys import KeySet
from peristyle.planning.plan import Plan
from peristyle.reference.cautions import CAUTIONS, caution
from peristyle.words.corners import lines as corner_lines
from peristyle.words.corners import stock_told
from peristyle.words.findings import SEVERITY_WORDS, said
from peristyle.words.pieces import lines as lines_of
from peristyle.words.pieces import listed, row_name
from peristyle.words.steps import how, setting, title, tool

Paper = Literal["a4", "letter"]
SIZES: Final = {"a4": A4, "letter": LETTER}
MARGIN: Final = 15 * mm
_LINE: Final = HexColor("#c9c8c3")


def styles_of() -> dict[str, ParagraphStyle]:
    """Paragraph styles of every sheet."""
    body = ParagraphStyle("body", fontName=REGULAR, fontSize=9, leading=11.5, textColor=INK)
    return {
        "title": ParagraphStyle("title", body, fontName=BOLD, fontSize=18, leading=22),
        "head": ParagraphStyle("head", body, fontName=BOLD, fontSize=11.5, leading=15, spaceBefore=8),
        "body": body,
        "small": ParagraphStyle("small", body, fontSize=8, leading=10),
        "setting": ParagraphStyle("setting", body, fontName=BOLD, fontSize=12, leading=14.5),
    }


def shop_sheet(plan: Plan, paper: Paper = "a4", decimal: str = ".") -> bytes:
    """The sheet as PDF bytes. Prints even when the plan cannot be built: the findings say why."""
    register_fonts()
    styles, fmt = styles_of(), Format(plan.job.design.units, decimal, for_rule=True)
    out = BytesIO()
    document = SimpleDocTemplate(
        out, pagesize=SIZES[paper], leftMargin=MARGIN, rightMargin=MARGIN, topMargin=MARGIN,
        bottomMargin=MARGIN, title=plan.job.design.name, author="Peristyle", invariant=1,
    )  # fmt: skip
    wide = document.width
    story: list[Any] = [
        Paragraph(escape(plan.job.design.name), styles["title"]),
        Paragraph(escape(_summary(plan, fmt)), styles["body"]),
        Spacer(1, 6),
    ]
    story += _findings(plan, fmt, styles)
    if plan.ring.sides:
        tags = tag_text(plan, fmt)
        story += [
            DrawingBlock(size_drawing(plan, fmt), wide, 82 * mm, tags),
            Paragraph("Cut list", styles["head"]),
            _pieces_table(plan, fmt),
            Spacer(1, 4),
            *_parts(plan, fmt, styles),
            KeepTogether([Paragraph("Section", styles["head"]),
                          DrawingBlock(section_drawing(plan, fmt), wide, 66 * mm, tags)]),
            KeepTogether([Paragraph("Board", styles["head"]),
                          DrawingBlock(board_drawing(plan, fmt), wide, 62 * mm, tags)]),
        ]  # fmt: skip
        if plan.keys.keys or plan.splines.splines or plan.corner_blocks.blocks:
            story += _corners(plan, fmt, styles, wide, tags)
        steps = [_step(plan, number, fmt, styles, wide) for number in range(len(plan.steps))]
        story += [KeepTogether([Paragraph("Sequence", styles["head"]), *steps[:1]]), *steps[1:]]
        story += _cautions(plan, styles)
    document.build(story, onFirstPage=_foot, onLaterPages=_foot)
    return out.getvalue()


def _foot(canvas: Any, document: Any) -> None:
    canvas.saveState()
    canvas.setFont(REGULAR, 8)
    canvas.setFillColor(HexColor("#63666c"))
    canvas.drawRightString(document.pagesize[0] - MARGIN, 8 * mm, f"page {canvas.getPageNumber()}")
    canvas.drawString(MARGIN, 8 * mm, "Drawings are fitted to the page: take sizes from the figures.")
    canvas.restoreState()


def _summary(plan: Plan, fmt: Format) -> str:
    job = plan.job
    parts = [f"{job.design.side_count} sides"]
    parts += [f"{name.lower()} {value}" for name, value in across_words(job.design, plan, fmt)[:3]]
    parts.append(f"{fmt.length(plan.section.finished_mm)} high finished")
    if plan.standing_mm > plan.section.finished_mm:
        parts.append(f"{fmt.length(plan.standing_mm)} with feet and banding")
    return ", ".join(parts) + f" ({'inches' if fmt.units == 'in' else 'mm'})"


def tag_text(plan: Plan, fmt: Format) -> dict[str, str]:
    """The sizes that stand in the drawings, by the ids of their fields."""
    tags: dict[str, str] = {}
    drawings: list[Drawing] = [size_drawing(plan, fmt), section_drawing(plan, fmt), board_drawing(plan, fmt)]
    corners = {key.corner for key in plan.keys.keys} | {one.corner for one in plan.splines.splines}
    drawings += [corner_drawing(plan, corner, None, fmt) for corner in sorted(corners)[:4]]
    for drawing in drawings:
        for tag in drawing.tags:
            value = tag.field.get(plan.job)
            length = tag.field.kind == "length" and not math.isnan(value)
            tags[tag.field.id] = fmt.length(value) if length else tag.field.show(fmt, value)
    return tags


def grid(rows: list[Any], widths: list[float] | None = None) -> Table:
    """A ruled table, its head repeated on every page."""
    table = Table(rows, colWidths=widths, repeatRows=1, hAlign="LEFT")
    table.setStyle(TableStyle([
        ("FONT", (0, 0), (-1, -1), REGULAR, 9.5),
        ("FONT", (0, 0), (-1, 0), BOLD, 8),
        ("FONT", (0, 1), (1, -1), BOLD, 11),
        ("TEXTCOLOR", (0, 0), (-1, -1), INK),
        ("LINEBELOW", (0, 0), (-1, -1), 0.4, _LINE),
        ("ALIGN", (1, 0), (-1, -1), "RIGHT"),
        ("TOPPADDING", (0, 0), (-1, -1), 1.5),
        ("BOTTOMPADDING", (0, 0), (-1, -1), 2.5),
    ]))  # fmt: skip
    return table


def _pieces_table(plan: Plan, fmt: Format) -> Table:
    """All pieces: those on the board in cutting order, then the others."""
    rows: list[Any] = [
        ["piece", "count", "length", "inside", "height", "thick", "bevels", "miters", "on the board"]
    ]
    where = plan.on_board
    for group in listed(sorted(plan.pieces, key=lambda p: where.get(p.id, (math.inf, 0.0))[0])):
        first = group[0]
        long, wide = first.size_mm
        runs, start, end = first.runs, first.edge("start"), first.edge("end")
        apart = runs and first.show_face != first.inside_face
        rows.append([
            row_name(first), str(len(group)), fmt.length(long), fmt.length(runs[1]) if runs and apart else "",
            fmt.length(wide), fmt.length(first.thickness_mm),
            f"{fmt.angle(start.bevel_deg)} / {fmt.angle(end.bevel_deg)}" if start and end else "",
            f"{fmt.angle(start.miter_deg or 0.0)} / {fmt.angle(end.miter_deg or 0.0)}" if start and end else "",
            " – ".join(fmt.length(mm) for mm in where.get(first.id, ())),
        ])  # fmt: skip
    return grid(rows)


def _parts(plan: Plan, fmt: Format, styles: dict[str, ParagraphStyle]) -> list[Any]:
    lines = lines_of(plan.pieces, fmt)
    count = plan.job.design.side_count
    lines.append(
        f"Cut in this order from one board: {fmt.length(plan.wrap.needed_mm, unit=True)} needed. "
        f"The wrap closes at corner {corner_name(plan.job.closing, count)}."
    )
    return [Paragraph(escape(text), styles["body"]) for text in lines]


def _corners(
    plan: Plan, fmt: Format, styles: dict[str, ParagraphStyle], wide: float, tags: dict[str, str]
) -> Any:
    """What strengthens the corners, one of each kind drawn."""
    tags = tags | {
        f"joints.{one.name}.positions_mm.{i + 1}": fmt.length(h)
        for one in plan.keys.sets
        for i, h in enumerate(one.heights_mm)
    }
    lines = [
        *corner_lines(plan, fmt),
        *(stock for one in plan.keys.sets if (stock := _stock(plan, one, fmt))),
    ]
    shown = [one.corners[0] for one in plan.keys.sets if one.corners]
    shown += [one.corner for one in plan.splines.splines[:1]] + [
        one.corner for one in plan.corner_blocks.blocks[:1]
    ]
    drawn = [
        DrawingBlock(corner_drawing(plan, at, None, fmt), wide, 62 * mm, tags) for at in dict.fromkeys(shown)
    ]
    return [
        KeepTogether([
            Paragraph("Corners", styles["head"]),
            *(Paragraph(escape(text), styles["body"]) for text in lines),
            *drawn[:1],
        ]),
        *drawn[1:2],
    ]  # fmt: skip


def _stock(plan: Plan, one: KeySet, fmt: Format) -> str:
    text = stock_told(plan, one, fmt)
    return f"{text[:1].upper()}{text[1:]}, with some to trim." if text else ""


def _step(plan: Plan, number: int, fmt: Format, styles: dict[str, ParagraphStyle], wide: float) -> Table:
    step = plan.steps[number]
    picture = DrawingBlock(operation_drawing(plan, step, fmt), 46 * mm, 24 * mm, {})
    words = [
        Paragraph(f"{number + 1}. {escape(_short(title(step, fmt)))} ({escape(tool(step))})", styles["body"]),
        Paragraph(escape(_short(setting(step, fmt))), styles["setting"]),
        Paragraph(escape(_short(how(step, fmt))), styles["small"]),
    ]
    table = Table([[picture, words, ""]], colWidths=[48 * mm, wide - 58 * mm, 10 * mm])
    table.setStyle(TableStyle([
        ("VALIGN", (0, 0), (-1, -1), "MIDDLE"),
        ("LINEBELOW", (0, 0), (-1, -1), 0.4, _LINE),
        ("BOX", (2, 0), (2, 0), 0.4, _LINE),
    ]))  # fmt: skip
    return table


_LONGEST = 900  # letters of one text in a row of the sequence: a row must fit on a page


def _short(text: str) -> str:
    """A text that a row can hold; what is more is counted, and `peristyle plan --json` has it all."""
    if len(text) <= _LONGEST:
        return text
    kept = text[:_LONGEST].rsplit(" ", 1)[0]
    return f"{kept} … and more of the same: the whole row is in the plan as JSON"


def _cautions(plan: Plan, styles: dict[str, ParagraphStyle]) -> list[Any]:
    keys = [key for key in CAUTIONS if any(key in step.cautions for step in plan.steps)]
    lines = [Paragraph(f"▲ {escape(caution(key, plan.job.design.units))}", styles["small"]) for key in keys]
    return [KeepTogether([Paragraph("Cautions", styles["head"]), *lines])]


def _findings(plan: Plan, fmt: Format, styles: dict[str, ParagraphStyle]) -> list[Any]:
    return [
        Paragraph(
            f"<b>{SEVERITY_WORDS[f.severity]}</b> ({f.place.text}): {escape(said(f, fmt))}", styles["body"]
        )
        for f in plan.findings
    ]
