"""Pictures of the operations inside the box: dadoes, dividers, segments, the liner."""

import math
from collections.abc import Callable, Sequence

from peristyle.core.lengths import Format
from peristyle.core.outlines import box
from peristyle.core.planes import Point
from peristyle.drawing.shapes import Label, Path, Shape, dimension, line
from peristyle.planning.making.step import Step
from peristyle.planning.plan import Plan
from peristyle.planning.section.segments import SegmentsPlan


def table_top(y: float = 0.0) -> list[Shape]:
    """The machine's table, a line to lay the work on."""
    return [
        line((-96.0, y), (96.0, y), "machine", 2.0),
        Label((96.0, y), "table", "quiet", 8.0, anchor="right", shift=(0.0, -8.0)),
    ]


_OF_RINGS = ("side.", "liner.", "strip.", "fillet.", "tray.")  # pieces that go round, each with a letter


def sides_named(step: Step) -> str:
    """The sides' letters as far as a small picture has room for them."""
    names = [name.split(".")[1] for name in step.pieces if name.startswith(_OF_RINGS)]
    return ", ".join(names) if len(names) <= 4 else f"{names[0]} … {names[-1]}"


def dado_picture(plan: Plan, step: Step, fmt: Format) -> list[Shape]:
    """The side seen along its height, inside face down, its start against the stop."""
    tilt = math.radians(step.amount("tilt"))
    thick, deep, wide = 16.0, 6.0, 9.0
    run = math.tan(tilt) * deep
    half = wide / math.cos(tilt) / 2
    left, right = -half, half
    dado = ((left, 0.0), (left + run, deep), (right + run, deep), (right, 0.0))
    blade = 2.6 / math.cos(tilt)
    low = -14.0 * math.tan(tilt)
    shapes = table_top()
    shapes += [
        Path(((-70.0, 0.0), *dado, (70.0, 0.0), (70.0, thick), (-70.0, thick)), "wood", "hatch", weight=1.4),
        Path(((left + low, -14.0), (left + low + blade, -14.0), (left + run + blade, deep), (left + run, deep)),
             "blade", "solid"),
        Path(box(-82.0, 0.0, -70.0, 28.0), "machine", "solid"),
        Label((-76.0, 28.0), "stop", "quiet", 8.5, shift=(0.0, 8.0)),
        Label((38.0, thick), "show face up", "follows", 9.0, shift=(0.0, 8.0)),
        Label((40.0, thick / 2), sides_named(step), "follows", 12.0,
              bold=True),
        Label((right + 6.0, -12.0), f"deep {fmt.length(step.amount('height'))}", "decided", 11.0, bold=True,
              anchor="left"),
        *dimension((-70.0, 0.0), (left, 0.0), (0.0, -24.0), f"stop {fmt.length(step.amount('stop'))}", "decided",
                   11.0),
    ]  # fmt: skip
    words = [f"tilt {fmt.angle(abs(value))}" for value in step.values("tilt")]
    words += [f"gauge {fmt.angle(abs(value))}" for value in step.values("swing")]
    if words:
        shapes.append(Label((-6.0, thick + 26.0), ", ".join(words), "blade", 12.0, bold=True))
    return shapes


def halving_picture(plan: Plan, step: Step, fmt: Format) -> list[Shape]:
    """The divider seen from its face, its slots where they are, half its height deep."""
    piece = next(p for p in plan.dividers.pieces if f"divider.{p.name.replace(' ', '.')}" == step.pieces[0])
    tall = 46.0
    scale = 160.0 / piece.length_mm
    slot = max(2.4, piece.thickness_mm * scale)
    from_top = piece.run == "across"
    shapes: list[Shape] = [Path(box(-80.0, 0.0, 80.0, tall), "wood", "tint", weight=1.4)]
    for notch in piece.notches_mm:
        x = -80.0 + notch * scale
        y0, y1 = (tall / 2, tall) if from_top else (0.0, tall / 2)
        shapes.append(Path(box(x, y0, x + slot, y1), "blade", "tint", weight=1.2))
    first = -80.0 + piece.notches_mm[0] * scale
    edge = "top edge" if from_top else "foot"
    shapes += [
        Label((-80.0, tall), piece.name, "follows", 11.0, bold=True, anchor="left", shift=(0.0, 9.0)),
        Label((80.0, tall if from_top else 0.0), f"from the {edge}", "quiet", 9.0, anchor="right",
              shift=(0.0, 9.0 if from_top else -9.0)),
        Label((first + slot + 5.0, tall * (0.75 if from_top else 0.25)), f"deep {fmt.length(step.amount('height'))}",
              "decided", 11.0, bold=True, anchor="left"),
        *dimension((-80.0, 0.0), (first, 0.0), (0.0, -20.0), fmt.length(piece.notches_mm[0]), "decided", 11.0),
    ]  # fmt: skip
    return shapes


def _segments(plan: Plan, step: Step) -> SegmentsPlan:
    """The segments that a step is about; it is there only with them."""
    part = next(panel.segments for panel in plan.section.panels if panel.name == step.names["panel"])
    assert part is not None
    return part


def segments_picture(plan: Plan, step: Step, fmt: Format) -> list[Shape]:
    """The strip with its segments turned about in turn, the blade between two of them."""
    part = _segments(plan, step)
    # To scale while it is not too slender to be seen.
    tall = 40.0
    outer = min(70.0, max(14.0, tall * part.outer_mm / part.strip_mm))
    inner = outer * part.inner_mm / part.outer_mm
    lean = (outer - inner) / 2
    shapes: list[Shape] = []
    foot_at, head_at = -84.0, -84.0 + lean
    for wide, narrow in [(outer, inner), (inner, outer)] * 12:
        foot, head = foot_at + wide, head_at + narrow
        if max(foot, head) > 84.0:
            break
        corners = ((foot_at, 0.0), (foot, 0.0), (head, tall), (head_at, tall))
        shapes.append(Path(corners, "wood", "tint", weight=1.2, dash=bool(shapes)))
        foot_at, head_at = foot, head
    first = -84.0 + outer
    beyond = lean / tall
    low: Point = (first + beyond * 18.0, -18.0)
    high: Point = (first - lean - beyond * 10.0, tall + 10.0)
    shapes += [
        line(low, high, "blade", 3.0),
        Label((high[0] + 4.0, tall + 10.0), f"gauge {fmt.angle(step.amount('swing'))}", "blade", 12.0, bold=True,
              anchor="left"),
        *dimension((-84.0, 0.0), (first, 0.0), (0.0, -20.0), f"edge {fmt.length(part.outer_mm)}", "decided", 11.0),
        Label((86.0, -14.0), f"strip {fmt.length(part.strip_mm)} wide", "decided", 11.0, bold=True, anchor="right"),
    ]  # fmt: skip
    return shapes


def glued_picture(plan: Plan, step: Step, fmt: Format) -> list[Shape]:
    """The two halves before the last joint."""
    part = _segments(plan, step)
    radius, hole = 44.0, 44.0 * part.inner_mm / part.outer_mm
    turn = 2 * math.pi / part.count
    first = (part.count + 1) // 2
    shapes: list[Shape] = []
    begin = math.pi / 2 - first * turn / 2  # the upper part stands level
    for number in range(part.count):
        apart = 6.0 if number < first else -6.0
        turns = (begin + number * turn, begin + (number + 1) * turn)
        ring = [(radius * math.cos(a), radius * math.sin(a)) for a in turns]
        ring += [(hole * math.cos(a), hole * math.sin(a)) for a in reversed(turns)] if hole else [(0.0, 0.0)]
        shapes.append(Path(tuple((x, y * 0.82 + apart + 6.0) for x, y in ring), "wood", "tint", weight=1.1))
    even = part.count % 2 == 0  # an odd number has no straight line across
    if even:
        shapes.append(line((-60.0, 6.0), (60.0, 6.0), "blade", 1.4, dash=True))
    words = "true here" if even else "fit these last"
    shapes.append(Label((62.0, 6.0), words, "blade", 10.0, bold=True, anchor="left"))
    return shapes


def liner_picture(plan: Plan, step: Step, fmt: Format) -> list[Shape]:
    """The liner in the box from above, to scale."""
    if plan.liner is None:
        return []
    walls, at = _walls_from_above(plan)
    return [*walls, *(Path(at(side.foot), "panel", "solid", weight=1.0) for side in plan.liner.ring.sides)]


def dividers_picture(plan: Plan, step: Step, fmt: Format) -> list[Shape]:
    """The dividers in the box, or in its liner, from above, to scale."""
    shapes, at = _walls_from_above(plan)
    if plan.liner is not None:
        shapes += [Path(at(side.foot), "panel", "tint", weight=1.0) for side in plan.liner.ring.sides]
    shapes += [Path(at(piece.outline), "panel", "solid", weight=1.0) for piece in plan.dividers.pieces]
    return shapes


def _walls_from_above(plan: Plan) -> tuple[list[Shape], Callable[[Sequence[Point]], tuple[Point, ...]]]:
    """The box's walls at their foot, and what brings points of the box into that picture."""
    ring = plan.ring
    reach = max((abs(v) for point in ring.outer_bottom for v in point), default=1.0)

    def at(points: Sequence[Point]) -> tuple[Point, ...]:
        return tuple((x * 44.0 / reach, y * 44.0 / reach + 6.0) for x, y in points)

    return [Path(at(side.foot), "wood", "tint", weight=1.0) for side in ring.sides], at
