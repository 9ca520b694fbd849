"""How well the closing corner matches wherever the strip starts, and one corner's two faces as they will meet."""

from functools import lru_cache
from typing import TYPE_CHECKING, Final

from peristyle.core.lengths import Format
from peristyle.core.outlines import box
from peristyle.core.planes import Point
from peristyle.drawing.shapes import Grain, Grip, Label, Path, Pick, Shape, line
from peristyle.model.design import corner_name, replace
from peristyle.model.job import Job, revised
from peristyle.planning.plan import Plan
from peristyle.words.boards import deciding

if TYPE_CHECKING:  # the search brings NumPy with it
    from peristyle.planning.stock.scored import Curve

_MOST_POINTS: Final = 900
LOUPE_MM: Final = 60.0  # how much of either side is seen beside a corner


@lru_cache(maxsize=4)  # by the curve itself: while the strip is dragged along it, it stays as it is
def _line(curve: "Curve", x0: float, low: float, tall: float) -> tuple[Path, ...]:
    """The scores as a line, and what lies under it."""
    every = max(1, len(curve.starts_mm) // _MOST_POINTS)
    points = tuple(
        (x0 + curve.starts_mm[k], low + tall * max(curve.scores[k : k + every]) / 100)
        for k in range(0, len(curve.starts_mm), every)
    )
    if len(points) < 2:
        return ()
    under = Path((*points, (points[-1][0], low), (points[0][0], low)), "decided", "tint", weight=0.0)
    return (under, Path(points, "decided", closed=False, weight=1.2))


def curve_shapes(
    plan: Plan, curve: "Curve", now: tuple[float, ...], low: float, high: float, told_at: float
) -> tuple[list[Shape], list[Grip]]:
    """The curve under the board, along its own length: the strip's start against the closing corner's score.

    `low` and `high` are where it stands in the drawing, `told_at` where its caption ends; `now` is all corners' scores.
    """
    board, job = plan.job.stock.board, plan.job
    tall, told = high - low, deciding(curve.decides, job.design.side_count)
    x0, right = board.end_trim_mm, board.length_mm
    shapes: list[Shape] = [
        line((0.0, low), (right, low), "quiet", 0.8),
        *(line((0.0, low + tall * part), (right, low + tall * part), "quiet", 0.4, dash=True) for part in (0.5, 1.0)),
        *(Label((0.0, low + tall * part), f"{100 * part:.0f}", "quiet", 8.0, anchor="right", shift=(-5.0, 0.0))
          for part in (0.0, 0.5, 1.0)),
        Label((told_at, low), f"how well {told} matches, by where the strip starts: click or drag", "quiet",
              8.5, anchor="right", shift=(0.0, -9.0)),
    ]  # fmt: skip
    last = max(curve.starts_mm, default=0.0)
    for a, b in curve.blocked:
        if b > 0 and a < last:
            span = box(x0 + max(0.0, a), low, x0 + min(last, b), high)
            shapes.append(Path(span, "caution", "hatch", weight=0.6))
    shapes += _line(curve, x0, low, tall)
    start = x0 + board.shift_mm
    closing = curve.closing(now) if now else 0.0
    shapes.append(line((start, low), (start, high), "follows", 1.6))
    at = (start, low + tall * closing / 100)
    dot = tall * 0.05
    shapes.append(Path(box(at[0] - dot, at[1] - dot, at[0] + dot, at[1] + dot), "follows", "solid"))
    shapes.append(Label(at, f"{closing:.0f}", "paper", 10.0, bold=True, anchor="left", shift=(10.0, 9.0)))
    area = box(0.0, low - tall * 0.1, right, high + tall * 0.05)
    return shapes, [_grip(area, curve, x0)]


def _grip(area: tuple[Point, ...], curve: "Curve", x0: float) -> Grip:
    last = max(curve.starts_mm, default=0.0)

    def put(job: Job, shift: float) -> Job:
        held = round(min(max(shift, 0.0), last) * 4) / 4
        return revised(job, board=replace(job.stock.board, shift_mm=held))

    def move(job: Job, dx: float, _dy: float) -> Job:
        return put(job, job.stock.board.shift_mm + dx)

    def click(job: Job, x: float, _y: float) -> Job:
        return put(job, x - x0)

    def step(job: Job, way: int) -> Job:
        return put(job, job.stock.board.shift_mm + way)

    return Grip(area, move, "Choose where the strip starts", click, step)


def loupe_shapes(
    plan: Plan, corner: int, score: float | None, at: tuple[float, float, float], fmt: Format
) -> list[Shape]:
    """Both faces of a corner side by side as they will meet: what lies between them on the board is gone.

    `at` is the lower left corner in the drawing and how high the faces stand there.
    """
    job, ring = plan.job, plan.ring
    count = len(ring.sides)
    where = {piece.side: piece for piece in plan.wrap.pieces}
    x, y, high = at
    shapes: list[Shape] = []
    for number, ends in ((corner, True), ((corner + 1) % count, False)):
        side, piece = ring.sides[number], where[number]
        scale = high / side.slant_mm
        reach = min(LOUPE_MM, side.outside_mm * 0.8)
        bottom_start, bottom_end, top_end, top_start = side.outer_face
        near = (bottom_end, top_end) if ends else (bottom_start, top_start)
        way = -1.0 if ends else 1.0
        # The strip beside the cut's own line, shown upright: so do the two faces meet.
        quad = (
            near[0],
            (near[0][0] + way * reach, near[0][1]),
            (near[1][0] + way * reach, near[1][1]),
            near[1],
        )
        source = tuple(piece.on(point) for point in quad)
        wide = reach * scale
        target = box(x + LOUPE_MM * scale - wide, y, x + LOUPE_MM * scale, y + high)
        if not ends:
            target = box(x + LOUPE_MM * scale, y, x + LOUPE_MM * scale + wide, y + high)
        a, b, c, d = source
        lying = (b, a, d, c) if ends else (a, b, c, d)
        shapes.append(Grain(target, lying, Pick("side", number), piece.show, piece.board))
    fold = x + LOUPE_MM * high / min(ring.sides[corner].slant_mm, ring.sides[(corner + 1) % count].slant_mm)
    shapes.append(line((fold, y), (fold, y + high), "follows", 1.0))
    name = corner_name(corner, count)
    told = f"corner {name}" + ("" if score is None else f", match {score:.0f}")
    more = ""
    if corner == job.closing:
        more = "the wrap closes here"
    elif plan.wrap.losses_mm and plan.wrap.losses_mm[corner]:
        more = f"{fmt.length(plan.wrap.losses_mm[corner], unit=True)} gone between"
    for row, text in enumerate(filter(None, (told, more))):
        shapes.append(Label((fold, y), text, "quiet", 9.0, shift=(0.0, -10.0 - 12.0 * row)))
    return shapes
