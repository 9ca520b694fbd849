"""The picture of the board marked: its strips, or what lies across it, lettered, with arrows to the top edges."""

import math
from collections.abc import Sequence
from typing import Final

from peristyle.core.lengths import Format
from peristyle.core.outlines import box
from peristyle.core.planes import Point
from peristyle.drawing.shapes import Label, Path, Shape, line
from peristyle.planning.making.step import Step
from peristyle.planning.plan import Plan
from peristyle.planning.stock.laying import Placed

_MIDDLE: Final = 10.0  # up the picture's field


def marked_picture(plan: Plan, step: Step, fmt: Format) -> list[Shape]:
    """Every strip with its bad end struck out, letters, arrows to the top edge, and a line that leans at each end."""
    pieces = plan.wrap.pieces
    if any(piece.way == "upright" for piece in pieces):
        return _marked_across(plan, step.numbers["begins_mm"])
    strips: dict[str, list[Placed]] = {}
    for piece in pieces:
        strips.setdefault(_strip_of(plan, piece), []).append(piece)
    scale = 180.0 / max(1.0, *(piece.end_mm for piece in pieces))
    tall, apart = (26.0, 0.0) if len(strips) == 1 else (min(22.0, 90.0 / len(strips) - 12.0), 12.0)
    low = _MIDDLE - (len(strips) * (tall + apart) - apart) / 2
    shapes: list[Shape] = []
    # The lower leaf below the upper one; of boards the first above the others.
    upward = list(strips.items()) if plan.job.stock.board.method == "book" else list(reversed(strips.items()))
    for number, (name, own) in enumerate(upward):
        foot = low + number * (tall + apart)
        begins = min(piece.start_mm for piece in own) if len(strips) > 1 else step.numbers["begins_mm"]
        shapes += _marked_strip(plan, own, begins, scale, (foot, foot + tall))
        if name:
            shapes.append(Label((92.0, foot + tall), name, "quiet", 8.5, anchor="right", shift=(0.0, 7.0)))
    shapes.append(Label((-90.0, low), "struck out", "blade", 8.5, anchor="left", shift=(0.0, -10.0)))
    shapes.append(
        Label((92.0, low), "arrows to the top edge", "quiet", 8.5, anchor="right", shift=(0.0, -10.0))
    )
    return shapes


def _strip_of(plan: Plan, piece: Placed) -> str:
    """What the strip that a piece lies on is called, where there are several."""
    if plan.job.stock.board.method == "book":
        return "upper leaf" if piece.show == "leaf_1" else "lower leaf"
    return (piece.board or plan.job.stock.board.name or "the sides' board") if plan.wrap.runs else ""


def _marked_strip(
    plan: Plan, pieces: Sequence[Placed], begins_mm: float, scale: float, edges: tuple[float, float]
) -> list[Shape]:
    low, high = edges

    def at(mm: float) -> float:
        return mm * scale - 90.0

    shapes: list[Shape] = [
        Path(box(-90.0, low, 92.0, high), "wood", "none", weight=1.4),
        Path(box(-90.0, low, at(begins_mm), high), "blade", "tint", weight=0.8),
        line((-90.0, low), (at(begins_mm), high), "blade", 1.2),
        line((-90.0, high), (at(begins_mm), low), "blade", 1.2),
    ]
    for piece in pieces:
        left, right = at(piece.start_mm), at(piece.end_mm)
        lean = min(5.0, (right - left) / 5)
        name, middle = plan.ring.sides[piece.side].name, (left + right) / 2
        over = piece.way == "turned_over"  # lettered on the other face, its arrow to the other edge
        foot, head, up = (high, low, -1.0) if over else (low, high, 1.0)
        shapes += [
            line((left, foot), (left + lean, head), "decided", 1.0, dash=over),
            line((right, foot), (right - lean, head), "decided", 1.0, dash=over),
            Label((middle, (low + high) / 2 - up), name, "quiet" if over else "follows", 11.0, bold=True),
            *_arrow((middle, head - 8.0 * up), (middle, head - up), dash=over),
        ]
    return shapes


def _arrow(foot: Point, head: Point, *, dash: bool = False) -> list[Shape]:
    long = math.dist(foot, head)
    ux, uy = (head[0] - foot[0]) / long, (head[1] - foot[1]) / long
    return [
        line(foot, head, "follows", 1.0, dash=dash),
        *(
            line((head[0] - 3.0 * ux + side * uy, head[1] - 3.0 * uy - side * ux), head, "follows", 1.0)
            for side in (2.0, -2.0)
        ),
    ]


def _marked_across(plan: Plan, begins_mm: float) -> list[Shape]:
    """A board whose sides lie across it, tops toward the trimmed end."""
    pieces = plan.wrap.pieces
    ends = [(piece, piece.y_mm + plan.ring.sides[piece.side].outside_mm) for piece in pieces]
    far, wide = max(piece.end_mm for piece in pieces), max(end for _piece, end in ends)
    scale = min(170.0 / far, 84.0 / wide)
    low = _MIDDLE - wide * scale / 2

    def at(x: float, y: float) -> Point:
        return ((x - far / 2) * scale, y * scale + low)

    (left, foot), (begun, head), (right, _y) = at(0.0, 0.0), at(begins_mm, wide), at(far + 0.04 * far, 0.0)
    shapes: list[Shape] = [
        Path(box(left, foot, right, head), "wood", "none", weight=1.4),
        Path(box(left, foot, begun, head), "blade", "tint", weight=0.8),
    ]
    for piece, end in ends:
        (x0, y0), (x1, y1) = at(piece.start_mm, piece.y_mm), at(piece.end_mm, end)
        middle = ((x0 + x1) / 2, (y0 + y1) / 2)
        shapes += [
            Path(box(x0, y0, x1, y1), "decided", "none", weight=1.0),
            Label(middle, plan.ring.sides[piece.side].name, "follows", 11.0, bold=True),
            *_arrow((x0 + 1.5 + min(8.0, 0.25 * (x1 - x0)), middle[1]), (x0 + 1.5, middle[1])),
        ]
    shapes.append(Label((left, foot), "struck out", "blade", 8.5, anchor="left", shift=(0.0, -10.0)))
    beside = (right, (foot + head) / 2)
    shapes.append(Label(beside, "arrows to the top edge", "quiet", 8.5, anchor="left", shift=(8.0, 0.0)))
    return shapes
