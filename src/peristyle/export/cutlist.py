"""The cut list as CSV: one row a part, in the maker's units."""

import csv
import io

from peristyle.core.lengths import MM_PER_INCH
from peristyle.planning.dividers import dadoes_in_words
from peristyle.planning.findings import reader
from peristyle.planning.making.setting import SAME_SETTING
from peristyle.planning.plan import Plan

HEAD = (
    "part", "kind", "count", "outside", "inside", "height", "thickness", "start_bevel_deg",
    "start_miter_deg", "end_bevel_deg", "end_miter_deg", "edge_bevel_deg", "board_start",
    "board_end", "units", "note",
)  # fmt: skip


def _angle(degrees: float) -> str:
    """Three decimals, and never a minus before nothing."""
    return f"{round(degrees, 3) + 0.0:.3f}"


def cut_list(plan: Plan) -> str:
    """Sides in cutting order, then panels and keys, as CSV text (RFC 4180, CRLF line ends).

    Millimetres carry two decimals; inches carry the decimal inch (four places) in the columns and
    the nearest 1/64 in the note.
    """
    job, fmt = plan.job, reader(plan.job.design)
    inches = job.design.units == "in"

    def size(mm: float | None) -> str:
        if mm is None:
            return ""
        return f"{mm / MM_PER_INCH:.4f}" if inches else f"{mm:.2f}"

    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(HEAD)
    sides = {s.index: s for s in plan.ring.sides}
    for piece in plan.wrap.pieces:
        side = sides[piece.side]
        notes = []
        if inches:
            notes.append(f"{fmt.length(side.outside_mm)} × {fmt.length(side.slant_mm)} in")
        if job.design.form.front == side.index:
            notes.append("front")
        if job.closing == side.index:
            notes.append("wrap closes at its end")
        writer.writerow([
            side.name, "side", 1, size(side.outside_mm), size(side.inside_mm), size(side.slant_mm),
            size(side.thickness_mm),
            *(_angle(v) for v in (side.start.bevel_deg, side.start.miter_deg,
                                   side.end.bevel_deg, side.end.miter_deg, side.slope_deg)),
            size(piece.start_mm), size(piece.end_mm), job.design.units, "; ".join(notes),
        ])  # fmt: skip
    for panel in plan.section.panels:
        writer.writerow([
            panel.name, "panel", 1, size(panel.length_mm), "", size(panel.width_mm),
            size(panel.thickness_mm), "", "", "", "", "", "", "", job.design.units,
            "" if len(panel.outline) == 4 else f"{len(panel.outline)}-sided, size over all",
        ])  # fmt: skip
        if panel.segments:
            part = panel.segments
            writer.writerow([
                f"{panel.name} segment", "segment", part.count, size(part.outer_mm), size(part.inner_mm),
                size(part.strip_mm), size(panel.thickness_mm), "", f"{part.miter_deg:.3f}", "",
                f"{part.miter_deg:.3f}", "", "", "", job.design.units,
                f"from a strip {fmt.length(part.length_mm, unit=True)} long, turned about in turn",
            ])  # fmt: skip
    for wall in plan.liner.ring.sides if plan.liner else ():
        angles = (
            wall.start.bevel_deg,
            wall.start.miter_deg,
            wall.end.bevel_deg,
            wall.end.miter_deg,
            wall.slope_deg,
        )
        sizes = map(size, (wall.outside_mm, wall.inside_mm, wall.slant_mm, wall.thickness_mm))
        turned = map(_angle, angles)
        writer.writerow([f"liner {wall.name}", "liner", 1, *sizes, *turned, "", "", job.design.units, ""])
    for divider in plan.dividers.pieces:
        note = dadoes_in_words(divider, fmt)
        if abs(divider.top_length_mm - divider.length_mm) > SAME_SETTING:
            note += f"; {fmt.length(divider.top_length_mm)} long at its top edge"
        sizes = map(size, (divider.length_mm, None, divider.height_mm, divider.thickness_mm))
        blank = [""] * 7
        writer.writerow([f"divider {divider.name}", "divider", 1, *sizes, *blank, job.design.units, note])
    for alike in plan.keys.alike:
        first = alike[0]
        corners = dict.fromkeys(plan.ring.corners[key.corner].name for key in alike)
        where = "" if len(plan.keys.alike) == 1 else f"; corners {', '.join(corners)}"
        writer.writerow([
            "key", "key", len(alike), size(first.base_mm), "", size(first.depth_mm),
            size(first.thickness_mm), "", "", "", "", "", "", "", job.design.units,
            f"triangle: base along the corner, height is the slot's depth{where}",
        ])  # fmt: skip
    return out.getvalue()
