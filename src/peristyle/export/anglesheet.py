"""The sheet of angles for the wall: regular rings at each slope, in every convention, as PDF."""

from collections.abc import Sequence
from io import BytesIO
from itertools import groupby
from typing import Any

from reportlab.lib.units import mm
from reportlab.platypus import PageBreak, Paragraph, SimpleDocTemplate, Spacer

from peristyle.core.conventions import SheetRow, table_rows
from peristyle.core.lengths import Format
from peristyle.export.pdf import register_fonts
from peristyle.export.sheet import SIZES, Paper, grid, styles_of


def angle_sheet(rows: Sequence[SheetRow], paper: Paper = "a4") -> bytes:
    """One page for each slope."""
    register_fonts()
    styles, fmt = styles_of(), Format()
    out = BytesIO()
    edge = 15 * mm
    document = SimpleDocTemplate(
        out, pagesize=SIZES[paper], leftMargin=edge, rightMargin=edge, topMargin=edge, bottomMargin=edge,
        title="Angles of mitered rings", author="Peristyle", invariant=1,
    )  # fmt: skip
    story: list[Any] = []
    for slope, group in groupby(rows, key=lambda row: row.slope_deg):
        if story:
            story.append(PageBreak())
        words = "upright sides" if slope == 0 else f"sides leaning {fmt.angle(slope)}"
        story += [
            Paragraph(f"Mitered rings, {words}", styles["title"]),
            Spacer(1, 4),
            grid(table_rows(list(group), fmt)),
            Spacer(1, 8),
            Paragraph(
                "Bevel: tilt of the blade from a square cut. Miter: swing of the gauge from a square "
                "crosscut, the face wider at the top for sides that lean outward. Corner: seen from above. Past 45° "
                "the piece stands on end against a tall fence, with the machine's manual and local rules followed.",
                styles["small"],
            ),
        ]
    document.build(story)
    return out.getvalue()
