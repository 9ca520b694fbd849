"""The largest boxes a board gives, as a curve of length against width with the box as it is."""

from peristyle.core.lengths import Format
from peristyle.drawing.shapes import Drawing, Grip, Label, Path, Shape, box, line
from peristyle.model.design import Design, Rectangle, replace
from peristyle.planning.largest import choices, share_of_board
from peristyle.planning.plan import Plan


def largest_drawing(plan: Plan, fmt: Format) -> Drawing:
    """Every point of the curve is a box that uses the board to its end; drag along it to choose one."""
    design = plan.design
    curve = choices(design)
    shape = design.shape
    if len(curve) < 2 or not isinstance(shape, Rectangle):
        factor = share_of_board(design) if plan.wrap.pieces and not design.contents else None
        text = (
            "Sized from its contents."
            if design.contents
            else "No box of these proportions comes from this board."
        )
        if factor is not None:
            text = f"The length of the board would give {fmt.number(factor * 100, 1)} % of this size."
        return Drawing(
            (Label((100.0, 50.0), text, "quiet", 10.0),), bounds=(0.0, 0.0, 200.0, 100.0), words=text
        )
    longest, widest = max(x for x, _y in curve), max(y for _x, y in curve)
    now = (shape.length_mm, shape.width_mm)
    right, top = max(longest, now[0]) * 1.12, max(widest, now[1]) * 1.25
    # The two axes are scaled alike, so that the little box at the point has its true proportions.
    shapes: list[Shape] = [
        line((0.0, 0.0), (right, 0.0), "quiet", 0.8),
        line((0.0, 0.0), (0.0, top), "quiet", 0.8),
        Label((right, 0.0), "length", "quiet", 8.5, anchor="right", shift=(0.0, -9.0)),
        Label((0.0, top), "width", "quiet", 8.5, anchor="left", shift=(6.0, 0.0)),
        Path(
            ((0.0, 0.0), (curve[0][0], curve[0][1]), *curve[1:], (curve[-1][0], 0.0)),
            "decided",
            "tint",
            weight=0.0,
        ),
        Path(curve, "decided", closed=False, weight=1.8),
        Path(box(0.0, 0.0, *now), "wood", weight=1.0, dash=True),
    ]
    dot = right * 0.016
    inside = plan.wrap.spare_mm >= 0
    shapes.append(
        Path(
            box(now[0] - dot, now[1] - dot, now[0] + dot, now[1] + dot),
            "decided" if inside else "caution",
            "solid",
        )
    )
    words = f"{fmt.length(now[0])} × {fmt.length(now[1])}"
    shapes.append(Label(now, words, "follows", 9.5, bold=True, anchor="left", shift=(9.0, 8.0)))

    def move(start: Design, dx: float, dy: float) -> Design | None:
        """Along the curve: the nearest of its boxes to where the pointer is."""
        at = (now[0] + dx, now[1] + dy)
        x, y = min(curve, key=lambda p: (p[0] - at[0]) ** 2 + (p[1] - at[1]) ** 2)
        if not isinstance(start.shape, Rectangle):
            return None
        board = replace(start.board, shift_mm=0.0)
        return replace(start, shape=replace(start.shape, length_mm=x, width_mm=y), board=board)

    slack = right * 0.05
    grip = Grip(
        box(now[0] - slack, now[1] - slack, now[0] + slack, now[1] + slack), move, "Choose from the board"
    )
    return Drawing(
        tuple(shapes), handles=(grip,), bounds=(-right * 0.03, -top * 0.12, right * 1.1, top * 1.05),
        words=f"Largest boxes from this board: from {fmt.length(curve[0][0])} × {fmt.length(curve[0][1])} "
        f"to {fmt.length(curve[-1][0])} × {fmt.length(curve[-1][1])}. The box is {words}.",
    )  # fmt: skip
