"""The cut list by setting: every setting once, with all that is cut at it, for one box or a batch; as CSV."""

import csv
import io

from peristyle.core.lengths import Format
from peristyle.export.cells import plain_cells
from peristyle.planning.making.step import Step
from peristyle.planning.plan import Plan
from peristyle.words.steps import setting, title, tool

HEAD = ("set_up", "tool", "setting", "lies", "pieces", "pieces_in_all", "cuts_in_all", "boxes", "steps")
_LIES = {
    "show_up": "show face up", "inside_up": "inside up", "on_end": "on end", "on_edge": "on edge",
    "on_miter": "on its miter", "in_cradle": "in the cradle", "on_side": "on its side", "flat": "flat",
}  # fmt: skip


def by_setting(plan: Plan, decimal: str = ".") -> str:
    """Every step with a setting as CSV text (RFC 4180, CRLF line ends), those at one setting of one tool in one row.

    Pieces and cuts are told for all boxes of the batch (`work.boxes`); settings in the maker's units.
    """
    fmt = Format(plan.job.design.units, decimal)
    boxes = sum(plan.job.work.boxes)
    rows: dict[tuple[object, ...], list[Step]] = {}
    for step in plan.steps:
        if step.settings and step.pieces:
            key = (step.tool, step.tool_name, step.lies, setting(step, fmt))
            rows.setdefault(key, []).append(step)
    names = {piece.id: piece.name for piece in plan.pieces}
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(HEAD)
    for number, steps in enumerate(rows.values(), 1):
        first = steps[0]
        pieces = list(dict.fromkeys(piece for step in steps for piece in step.pieces))
        told = ", ".join(dict.fromkeys(names.get(piece, piece) for piece in pieces))
        writer.writerow(plain_cells([
            number, tool(first), setting(first, fmt), _LIES.get(first.lies, ""), told, len(pieces) * boxes,
            sum(step.passes for step in steps) * boxes, boxes,
            "; ".join(dict.fromkeys(title(step, fmt) for step in steps)),
        ]))  # fmt: skip
    return out.getvalue()
