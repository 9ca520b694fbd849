"""The cutting map of a board: its strips, whose sides lie where on them, what is marked, and what is left."""

from collections.abc import Sequence

from peristyle.core.lengths import Format
from peristyle.core.outlines import box
from peristyle.drawing.shapes import Drawing, Label, Path, Shape
from peristyle.model.stock import Board
from peristyle.planning.stock.allocation import Allocation, Wanted
from peristyle.planning.stock.clear import lies
from peristyle.words.batch import run_name


def cutting_map(
    found: Allocation, number: int, wanted: Sequence[Wanted], boards: Sequence[Board], fmt: Format
) -> Drawing:
    """One board from above, its start at the left, its straight edge below."""
    board = boards[number]
    long, wide = board.length_mm, board.width_mm
    shapes: list[Shape] = [Path(box(0, 0, long, wide), "wood", "solid", weight=1.2)]
    if board.end_trim_mm:
        shapes.append(Path(box(0, 0, min(board.end_trim_mm, long), wide), "blade", "hatch", weight=0.6))
    told = []
    reached: dict[float, tuple[float, float]] = {}  # how far each strip goes, and how high its middle lies
    for placed in found.boxes:
        for run in placed.runs:
            if run.board != number:
                continue
            name = run_name(placed, run, wanted)
            shapes.append(
                Path(box(run.start_mm, run.low_mm, run.end_mm, run.high_mm), "panel", "solid", weight=1.2)
            )
            middle = ((run.start_mm + run.end_mm) / 2, (run.low_mm + run.high_mm) / 2)
            size = 9.0 if run.end_mm - run.start_mm > 0.12 * long else 7.0
            shapes.append(Label(middle, name, "follows", size))
            reached[run.low_mm] = max(reached.get(run.low_mm, (0.0, 0.0)), (run.end_mm, middle[1]))
            told.append(f"{name} from {fmt.length(run.start_mm)} to {fmt.length(run.end_mm, unit=True)}")
    for mark in board.marks:
        area = lies(board, mark)
        shape = box(max(0.0, area.x0), max(0.0, area.y0), min(long, area.x1), min(wide, area.y1))
        shapes.append(Path(shape, "caution", "hatch" if mark.wish == "avoid" else "none", weight=1.2))
    for end, middle_mm in reached.values():
        if long - end > 0.08 * long:
            shapes.append(
                Label(((end + long) / 2, middle_mm), f"{fmt.length(long - end)} left", "quiet", 8.5)
            )
    name = f"{board.name}: {fmt.length(long)} × {fmt.length(wide, unit=True)}"
    shapes.append(Label((0.0, wide), name, "follows", 9.5, bold=True, anchor="left", shift=(0.0, 10.0)))
    words = f"{name}. " + ("; ".join(told) or "Not used.")
    return Drawing(tuple(shapes), (), (), (-long * 0.02, -wide * 0.1, long * 1.02, wide * 1.3), words)
