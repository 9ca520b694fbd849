"""What an allocation says: what was placed, what it costs, how good that is, and what could not be placed."""

from collections.abc import Sequence
from typing import Final

from peristyle.core.lengths import Format
from peristyle.model.design import side_name
from peristyle.model.stock import Board
from peristyle.planning.stock.allocation import Allocation, BoxPlaced, RunPlaced, Wanted

QUESTIONS: Final[dict[str, str]] = {
    "boxes": "Placing the boxes", "cost": "Looking for the cheapest boards", "corners": "Breaking fewer corners",
    "offcut": "Keeping a long offcut",
}  # fmt: skip
_WHY: Final[dict[str, str]] = {
    "not_square_first": "its sides are not cut square first: change how it is cut",
    "too_thin": "no board is thick enough",
    "too_narrow": "no board is wide enough",
    "too_short": "no board has a stretch long enough, clear of what is marked",
    "no_room": "there is no room left on the boards",
}


def found_lines(
    found: Allocation, wanted: Sequence[Wanted], boards: Sequence[Board], fmt: Format
) -> list[str]:
    """The whole in sentences."""
    all_boxes = sum(one.count for one in wanted)
    lines = [
        f"{len(found.boxes)} of {all_boxes} boxes placed, on {len(found.boards)} of {len(boards)} boards."
    ]
    if found.boxes:
        unit = "" if found.priced else " litres of wood"
        cost = f"Cost {fmt.number(found.cost, 2)}{unit}"
        if found.gap < 1e-4:
            cost += ", the least there is"
        elif found.gap < 0.999:
            cost += f", at most {fmt.number(100 * found.gap, 1)} % over the least there can be"
        else:
            cost += ", not yet compared with the least there can be"
        lines.append(cost + ".")
        corners = (
            "No corner is"
            if not found.broken
            else "1 corner is"
            if found.broken == 1
            else f"{found.broken} corners are"
        )
        lines.append(f"{corners} broken besides the closing ones.")
        if found.offcut_board >= 0:
            name = boards[found.offcut_board].name
            lines.append(
                f"The longest offcut, {fmt.length(found.offcut_mm, unit=True)}, is left of “{name}”."
            )
    for job, count, why in found.unplaced:
        lines.append(f"Not placed: {count} × {wanted[job].name}: {_WHY[why]}.")
    if found.cancelled:
        lines.append("It was stopped: this is the best found until then.")
    return lines


def run_name(box: BoxPlaced, run: RunPlaced, wanted: Sequence[Wanted]) -> str:
    """What a map writes on a run: whose it is, and which sides."""
    own = wanted[box.job]
    many = own.count > 1
    whole = len(box.runs) == 1
    sides = (
        ""
        if whole
        else f", {side_name(run.sides[0])}" + (f"–{side_name(run.sides[-1])}" if len(run.sides) > 1 else "")
    )
    return f"{own.name}{f' {box.number}' if many else ''}{sides}"


def map_lines(found: Allocation, wanted: Sequence[Wanted], boards: Sequence[Board], fmt: Format) -> list[str]:
    """The maps as text: board by board, strip by strip, from its start."""
    lines = []
    for number in found.boards:
        board = boards[number]
        size = f"{fmt.length(board.length_mm)} × {fmt.length(board.width_mm)}"
        lines.append(f"{board.name} ({size}):")
        runs = sorted(
            (
                (run.low_mm, run.start_mm, box, run)
                for box in found.boxes
                for run in box.runs
                if run.board == number
            ),
            key=lambda one: one[:2],
        )
        for low, start, box, run in runs:
            lines.append(
                f"  {fmt.length(start)} to {fmt.length(run.end_mm)}, {fmt.length(low)} up: {run_name(box, run, wanted)}"
            )
    return lines
