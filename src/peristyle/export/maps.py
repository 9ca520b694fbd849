"""The cutting maps of a batch on paper: what was placed, then every board that is used."""

from collections.abc import Sequence
from io import BytesIO
from typing import Any
from xml.sax.saxutils import escape

from reportlab.lib.units import mm
from reportlab.platypus import KeepTogether, Paragraph, SimpleDocTemplate, Spacer

from peristyle.core.lengths import Format
from peristyle.drawing.cutting import cutting_map
from peristyle.export.pdf import DrawingBlock, register_fonts
from peristyle.export.sheet import MARGIN, SIZES, Paper, styles_of
from peristyle.model.stock import Board
from peristyle.planning.stock.allocation import Allocation, Wanted
from peristyle.words.batch import found_lines, map_lines


def maps_sheet(
    name: str,
    found: Allocation,
    wanted: Sequence[Wanted],
    boards: Sequence[Board],
    fmt: Format,
    paper: Paper = "a4",
) -> bytes:
    """The maps as PDF bytes."""
    register_fonts()
    styles, out = styles_of(), BytesIO()
    document = SimpleDocTemplate(
        out, pagesize=SIZES[paper], leftMargin=MARGIN, rightMargin=MARGIN, topMargin=MARGIN, bottomMargin=MARGIN,
        title=name, author="Peristyle", invariant=1,
    )  # fmt: skip
    story: list[Any] = [Paragraph(escape(f"{name}: cutting maps"), styles["title"])]
    story += [Paragraph(escape(line), styles["body"]) for line in found_lines(found, wanted, boards, fmt)]
    wide = document.width
    for number in found.boards:
        board = boards[number]
        only = Allocation(tuple(box for box in found.boxes if any(run.board == number for run in box.runs)))
        high = min(80 * mm, max(24 * mm, wide * board.width_mm / board.length_mm * 1.5))
        lines = map_lines(only, wanted, boards, fmt)
        own = lines[next(k for k, line in enumerate(lines) if line.startswith(f"{board.name} (")) :]
        end = next((k for k, line in enumerate(own[1:], 1) if not line.startswith("  ")), len(own))
        story.append(
            KeepTogether([
                Spacer(1, 5), DrawingBlock(cutting_map(found, number, wanted, boards, fmt), wide, high, {}),
                *(Paragraph(escape(line.strip()), styles["body"]) for line in own[1:end]),
            ])
        )  # fmt: skip
    document.build(story)
    return out.getvalue()
