"""The cut list as CSV: one row a part, in the maker's units."""

import csv
import io

from peristyle.core.lengths import MM_PER_INCH
from peristyle.export.cells import plain_cells
from peristyle.planning.findings import reader
from peristyle.planning.making.piece import Edge, Piece
from peristyle.planning.plan import Plan
from peristyle.words.pieces import listed, remarks, row_name

HEAD = (
    "part", "kind", "count", "outside", "inside", "height", "thickness", "start_bevel_deg",
    "start_miter_deg", "end_bevel_deg", "end_miter_deg", "edge_bevel_deg", "board_start",
    "board_end", "units", "note",
)  # fmt: skip


def _angle(degrees: float) -> str:
    """Three decimals, and never a minus before nothing."""
    return f"{round(degrees, 3) + 0.0:.3f}"


def cut_list(plan: Plan) -> str:
    """All pieces as CSV text (RFC 4180, CRLF line ends): those on the board in cutting order, then the others.

    Millimetres carry two decimals; inches carry the decimal inch (four places) in the columns and
    the nearest 1/64 in the note.
    """
    fmt = reader(plan.job.design)

    def size(mm: float | None) -> str:
        if mm is None:
            return ""
        return f"{mm / MM_PER_INCH:.4f}" if fmt.units == "in" else f"{mm:.2f}"

    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(HEAD)
    where = plan.on_board
    pieces = sorted(plan.pieces, key=lambda piece: where[piece.id][0] if piece.id in where else float("inf"))
    groups = listed(pieces)
    for group in groups:
        first = group[0]
        long, wide = first.size_mm
        note = remarks(group, groups, fmt)
        if fmt.units == "in" and first.id in where:
            note = f"{fmt.length(long)} × {fmt.length(wide)} in" + (f"; {note}" if note else "")
        writer.writerow(plain_cells([
            row_name(first), first.part, len(group), size(long), size(_inside(first)), size(wide),
            size(first.thickness_mm), *_angles(first), *(size(at) for at in where.get(first.id, (None, None))),
            fmt.units, note,
        ]))  # fmt: skip
    return out.getvalue()


def _inside(piece: Piece) -> float | None:
    """The length inside, where it is another; of a segment its inner edge."""
    if "inner_mm" in piece.numbers:
        return piece.numbers["inner_mm"]
    runs = piece.runs
    return runs[1] if runs and piece.show_face != piece.inside_face else None


def _angles(piece: Piece) -> list[str]:
    """Bevel and miter of both ends, and the long edges' bevel; nothing for a piece without ends."""
    ends = [piece.edge("start"), piece.edge("end")]
    found = [text for edge in ends for text in _of_end(piece, edge)]
    bottom = piece.edge("bottom")
    return [*found, _angle(bottom.bevel_deg) if bottom else ""]


def _of_end(piece: Piece, edge: Edge | None) -> list[str]:
    if edge is None:
        return ["", ""]
    gauge = piece.numbers.get("gauge_deg", edge.miter_deg or 0.0)
    return [_angle(edge.bevel_deg), _angle(gauge)]
