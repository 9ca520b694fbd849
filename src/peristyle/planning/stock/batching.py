"""A batch after boards of its plan were cut: what is still wanted, and what is left of those boards."""

from collections.abc import Sequence

from peristyle.core.errors import PeristyleError
from peristyle.model.batch import Batch, counted, without_board
from peristyle.model.rack import part_of
from peristyle.model.stock import Board
from peristyle.planning.stock.allocation import Allocation
from peristyle.planning.stock.reckoned import LEAST_OFFCUT_MM


def settled(batch: Batch, found: Allocation, names: Sequence[str]) -> tuple[Batch, list[Board]]:
    """The batch without these boards and the boxes that came from them, and the offcuts of those boards.

    Raises PeristyleError for a board that is not in the plan, and where a box has sides on another board that is not
    cut: such boards are cut together.
    """
    known = {board.name: number for number, board in enumerate(batch.boards)}
    numbers = set()
    for name in names:
        if name not in known or known[name] not in found.boards:
            used = ", ".join(batch.boards[number].name for number in found.boards) or "none"
            raise PeristyleError(f"“{name[:60]}” is no board of this plan. There: {used}.")
        numbers.add(known[name])
    for box in found.boxes:
        on = {run.board for run in box.runs}
        if on & numbers and not on <= numbers:
            others = ", ".join(sorted(batch.boards[number].name for number in on - numbers))
            raise PeristyleError(
                f"A box has sides on {others} too: cut these boards together, and say so of all of them."
            )
    left = batch
    for j, one in enumerate(batch.jobs):
        made = sum(box.job == j and box.runs[0].board in numbers for box in found.boxes)
        left = counted(left, j, one.count - made)
    offcuts = []
    for number in sorted(numbers):
        board = batch.boards[number]
        left = without_board(left, board.name)
        end = max(run.end_mm for box in found.boxes for run in box.runs if run.board == number)
        long = board.length_mm - end
        if long >= LEAST_OFFCUT_MM and board.width_mm >= LEAST_OFFCUT_MM:
            offcuts.append(part_of(board, f"{board.name[:90]}, beyond", end, 0.0, long, board.width_mm))
    return left, offcuts
