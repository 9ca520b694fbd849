"""A small picture of each operation: the piece as it lies, the blade, the stop."""

import math
from collections.abc import Callable
from typing import Final

from peristyle.core.lengths import Format
from peristyle.core.outlines import bounds, box
from peristyle.core.planes import Point
from peristyle.drawing.marking import marked_picture
from peristyle.drawing.operations_inner import (
    dado_picture,
    dividers_picture,
    glued_picture,
    halving_picture,
    liner_picture,
    segments_picture,
    sides_named,
    table_top,
)
from peristyle.drawing.operations_tools import (
    band_saw_picture,
    chamfer_picture,
    hand_saw_picture,
    held_picture,
    miter_saw_picture,
    on_miter_picture,
    profile_picture,
    rabbet_picture,
    resaw_picture,
    routed_groove_picture,
    shooting_picture,
    tried_hinge_picture,
    tried_picture,
    tried_profile_picture,
)
from peristyle.drawing.piece import fitted
from peristyle.drawing.shapes import Anchor, Drawing, Label, Path, Shape, dimension, line
from peristyle.model.design import replace
from peristyle.planning.making.step import Step
from peristyle.planning.plan import Plan
from peristyle.reference.machines import ANGLE_WORDS
from peristyle.words.steps import how, setting, title

# Pictures are drawn on a field 200 × 100, whatever the box: they show how, not how large.
_FIELD = (-100.0, -46.0, 100.0, 62.0)


# Done with another tool than the table saw, an operation has another picture.
_BY_TOOL: Final[dict[tuple[str, str], Callable[[Plan, Step, Format], list[Shape]]]] = {
    ("groove", "router_table"): routed_groove_picture,
    ("dado", "router_table"): routed_groove_picture,
    ("try_groove", "router_table"): routed_groove_picture,
    ("bevel", "chamfer_bit"): chamfer_picture,
    ("bevel", "shooting_board"): shooting_picture,
    ("bevel", "miter_saw"): miter_saw_picture,
    ("crosscut", "miter_saw"): miter_saw_picture,
    ("trim", "miter_saw"): miter_saw_picture,
    ("lid", "band_saw"): band_saw_picture,
    ("lid", "hand_saw"): hand_saw_picture,
    ("keys", "hand_saw"): hand_saw_picture,
}


def operation_drawing(plan: Plan, step: Step | None, fmt: Format) -> Drawing:
    """The picture for one operation; empty, and said why, where there is none."""
    if step is None:
        return Drawing(words="No operations yet: the ring cannot be made.")
    pictures: dict[str, Callable[[Plan, Step, Format], list[Shape]]] = {
        "plane": _plane,
        "thin": _plane,
        "rip": _rip,
        "strips": _rip,
        "strip_bevel": _strip_bevel,
        "heights": _crosscut,
        "groove": _groove,
        "trim": _crosscut,
        "crosscut": _crosscut,
        "bevel": _bevel,
        "dry_fit": _ring,
        "glue": _ring,
        "panel": _panel,
        "keys": _keys,
        "spline_groove": on_miter_picture,
        "lid": _lid,
        "dado": dado_picture,
        "divider": _crosscut,
        "halve": halving_picture,
        "segment": segments_picture,
        "segment_glue": glued_picture,
        "liner_fit": liner_picture,
        "divider_fit": dividers_picture,
        "mark": marked_picture,
        "try_bevel": tried_picture,
        "try_groove": _groove,
        "try_edge": tried_profile_picture,
        "try_hinge": tried_hinge_picture,
        "true_edge": _ring,
        "rabbet": rabbet_picture,
        "resaw": resaw_picture,
        "edge": profile_picture,
    }
    picture = _BY_TOOL.get((step.operation, step.tool)) or pictures.get(step.operation, _piece)
    if step.operation == "glue" and step.tool == "clamps":
        picture = held_picture
    shapes = picture(plan, step, fmt._replace(for_rule=True))  # as the step's own words tell them
    saw = plan.job.shop.saw
    if (
        step.operation in ("bevel", "rip", "strips", "strip_bevel")
        and step.tool == "table_saw"
        and saw.tilts == "left"
    ):
        shapes = [_mirrored(shape) for shape in shapes]
    if step.operation in ("rip", "strips", "strip_bevel") and step.tool == "band_saw":
        shapes = [_turned(shape, step.amount("tilt")) for shape in shapes]
    return Drawing(
        tuple(shapes), bounds=_FIELD, words=f"{title(step, fmt)}: {setting(step, fmt)}. {how(step, fmt)}"
    )


def _piece(plan: Plan, step: Step, fmt: Format) -> list[Shape]:
    """What has no picture of its own: the first piece with all that is cut into it, to scale."""
    own = (piece for piece in plan.pieces if piece.id in step.pieces)
    piece = next(own, plan.pieces[0] if plan.pieces else None)
    if piece is None:
        return []
    shapes, scale = fitted(piece, 130.0, 62.0)
    long, wide = piece.size_mm
    moved = [_raised(shape, 8.0) for shape in shapes]
    low = 8.0 - wide * scale / 2
    moved += dimension(
        (-long * scale / 2, low), (long * scale / 2, low), (0.0, -12.0), fmt.length(long), "decided", 11.0
    )
    side = Label((long * scale / 2 + 6.0, 8.0), fmt.length(wide), "decided", 11.0, anchor="left")
    return [*moved, side]


def _raised(shape: Shape, by: float) -> Shape:
    return (
        replace(shape, points=tuple((x, y + by) for x, y in shape.points))
        if isinstance(shape, Path)
        else shape
    )


def _mirrored(shape: Shape) -> Shape:
    """The picture for a blade that leans the other way."""
    if isinstance(shape, Label):
        anchor: Anchor = {"left": "right", "right": "left", "middle": "middle"}[shape.anchor]  # type: ignore[assignment]
        return replace(
            shape, at=(-shape.at[0], shape.at[1]), anchor=anchor, shift=(-shape.shift[0], shape.shift[1])
        )
    if isinstance(shape, Path):
        return replace(shape, points=tuple((-x, y) for x, y in shape.points))
    return shape


def _turned(shape: Shape, tilt_deg: float) -> Shape:
    """The picture for a saw whose blade stands upright and whose table leans."""
    cos, sin = math.cos(math.radians(tilt_deg)), math.sin(math.radians(tilt_deg))

    def at(x: float, y: float) -> Point:
        return (x * cos - y * sin, x * sin + y * cos)

    if isinstance(shape, Label):
        return replace(shape, at=at(*shape.at))
    return replace(shape, points=tuple(at(*p) for p in shape.points)) if isinstance(shape, Path) else shape


def _end_view(
    thick: float = 16.0, wide: float = 120.0, tilt_deg: float = 0.0, begun: float = 0.0
) -> list[Shape]:
    """Work seen from its end on the table, and a blade through it at x = 0.

    The other end is bevelled already where `begun`: how far its long point, up if positive, stands out.
    """
    run = math.tan(math.radians(tilt_deg))
    shapes = table_top()
    # The blade leans to the right, away from the piece kept on the left.
    low, high = -14.0, thick + 10.0
    kerf = 2.2
    blade = ((low * run, low), (low * run + kerf, low), (high * run + kerf, high), (high * run, high))
    waste = ((kerf, 0.0), (wide * 0.35, 0.0), (wide * 0.35, thick), (thick * run + kerf, thick))
    left = -wide * 0.6
    kept = ((left + max(0.0, begun), 0.0), (0.0, 0.0), (thick * run, thick), (left - min(0.0, begun), thick))
    shapes += [
        Path(kept, "wood", "hatch", weight=1.4),
        Path(waste, "paper", "tint", weight=0.8, dash=True),
        Path(blade, "blade", "solid", weight=0.8),
    ]
    return shapes


_UP = {"show_up": "show face up", "inside_up": "inside face up"}


def _begun(plan: Plan, step: Step) -> float:
    """The slope of the start's bevel, where it is the end that is cut now: its long point is up if positive."""
    piece = next((piece for piece in plan.pieces if piece.id in step.pieces), None)
    start = piece.edge("start") if piece else None
    if step.end != "end" or start is None:
        return 0.0
    slope = math.tan(math.radians(max(-60.0, min(60.0, start.bevel_deg))))
    return slope if step.lies == "show_up" else -slope


def _bevel(plan: Plan, step: Step, fmt: Format) -> list[Shape]:
    tilt = step.amount("tilt")
    if step.lies == "on_end":
        return _on_end(step, fmt)
    thick = 16.0
    run = math.tan(math.radians(tilt)) * thick
    shapes = _end_view(thick, 130.0, tilt, _begun(plan, step) * thick)
    shapes += [
        Label((-78.0, thick), _UP[step.lies], "follows", 9.0, anchor="left", shift=(0.0, 8.0)),
        Label((-39.0, thick / 2), sides_named(step), "follows", 12.0, bold=True),
        Label(
            (run / thick * (thick + 13.0) + 8.0, thick + 13.0),
            f"{ANGLE_WORDS[step.tool]} {fmt.angle(tilt)}",
            "blade",
            12.0,
            bold=True,
            anchor="left",
        ),
        line((0.0, 0.0), (0.0, thick + 24.0), "quiet", 0.7, dash=True),
    ]
    stop = step.value("stop")
    if stop is not None:
        shapes += [
            Path(box(-90.0, 0.0, -78.0, thick + 8.0), "machine", "solid"),
            *dimension((-78.0, 0.0), (run, 0.0), (0.0, -20.0), f"stop {fmt.length(stop)}", "decided", 11.0),
        ]
    swing = max((abs(v) for v in step.values("swing")), default=0.0)
    if swing:
        shapes.append(Label((-78.0, 46.0), f"gauge swung {fmt.angle(swing)}", "blade", 11.0,
                            bold=True, anchor="left"))  # fmt: skip
    return shapes


def _on_end(step: Step, fmt: Format) -> list[Shape]:
    tilt = math.radians(step.amount("tilt"))
    reach = math.tan(tilt)
    shapes = table_top()
    shapes += [
        Path(box(-24.0, 0.0, -12.0, 56.0), "machine", "solid"),
        Label((-24.0, 56.0), "tall fence", "quiet", 8.5, anchor="right", shift=(-4.0, -8.0)),
    ]
    thick = 12.0
    rise = min(44.0, thick / max(reach, 0.2))
    piece = ((-12.0, 0.0), (-12.0, 52.0), (0.0, 52.0), (0.0, rise))
    shapes.append(Path(piece, "wood", "hatch", weight=1.4))
    shapes.append(Path(((-12.0, 0.0), (0.0, 0.0), (0.0, rise)), "paper", "tint", weight=0.8, dash=True))
    dx, dy = math.sin(tilt), math.cos(tilt)
    end: Point = (-12.0 + dx * 66.0, dy * 66.0)
    shapes.append(line((-12.0 - dx * 12.0, -dy * 12.0), end, "blade", 3.0))
    shapes.append(Label((end[0] + 6.0, end[1] * 0.7), f"tilt {fmt.angle(step.amount('tilt'))}", "blade", 12.0,
                        bold=True, anchor="left"))  # fmt: skip
    told = f"piece on end, {step.names.get('face', 'show face')} to the fence"
    shapes.append(Label((-24.0, -16.0), told, "follows", 9.0, anchor="left"))
    return shapes


def _crosscut(plan: Plan, step: Step, fmt: Format) -> list[Shape]:
    """From above: board against the gauge, blade across, stop at the end."""
    lean_of = math.tan(math.radians(max((abs(v) for v in step.values("swing")), default=0.0)))
    low, high = -14.0, 22.0
    lean = (high - low) * lean_of / 2
    kept = ((-70.0 + lean, low), (20.0 - lean, low), (20.0 + lean, high), (-70.0 - lean, high))
    rest = ((23.0 - lean, low), (92.0, low), (92.0, high), (23.0 + lean, high))
    shapes: list[Shape] = [
        Path(kept, "wood", "tint", weight=1.4),
        Path(rest, "wood", "none", weight=0.8, dash=True),
        Path(((20.0 - lean * 1.8, low - 16), (22.5 - lean * 1.8, low - 16), (22.5 + lean * 1.8, high + 16),
              (20.0 + lean * 1.8, high + 16)), "blade", "solid"),
        Path(box(-92.0, high, 92.0, high + 5.0), "machine", "tint", weight=1.0),
        Label((92.0, high + 5.0), "gauge", "quiet", 8.5, anchor="right", shift=(0.0, 8.0)),
    ]  # fmt: skip
    names = sides_named(step) or ("divider" if step.part == "divider" else "trim")
    shapes.append(Label((-26.0, 4.0), names, "follows", 13.0, bold=True))
    stopped = step.operation != "trim"
    if stopped:
        shapes.append(Path(box(-82.0 - lean, high - 22.0, -70.0 - lean, high), "machine", "solid"))
    stop = step.value("stop")
    if stop is not None:
        word = "stop" if stopped else "off the end"
        shapes += dimension((-70.0 - lean, low), (20.0 + lean, low), (0.0, -16.0),
                            f"{word} {fmt.length(stop)}", "decided", 11.0)  # fmt: skip
    swing = max((abs(v) for v in step.values("swing")), default=0.0)
    if swing:
        shapes.append(Label((28.0 + lean, 40.0), f"gauge {fmt.angle(swing)}", "blade", 11.0,
                            bold=True, anchor="left"))  # fmt: skip
    return shapes


def _plane(plan: Plan, step: Step, fmt: Format) -> list[Shape]:
    shapes = table_top()
    shapes += [
        Path(box(-90.0, 0.0, 90.0, 16.0), "wood", "hatch", weight=1.4),
        Path(box(-90.0, 16.0, 20.0, 21.0), "blade", "tint", weight=0.8, dash=True),
        *dimension((90.0, 0.0), (90.0, 16.0), (-14.0, 0.0), "", "decided"),
        Label((60.0, 24.0), fmt.length(step.amount("thickness"), unit=True), "decided", 12.0, bold=True),
    ]
    return shapes


def _rip(plan: Plan, step: Step, fmt: Format) -> list[Shape]:
    shapes = _end_view(16.0, 130.0, step.amount("tilt"))
    width = fmt.length(step.amount("width"))
    shapes += [
        Path(box(-90.0, 0.0, -78.0, 30.0), "machine", "solid"),
        Label((-84.0, 30.0), "fence", "quiet", 8.5, shift=(0.0, 8.0)),
        *dimension((-78.0, 0.0), (0.0, 0.0), (0.0, -20.0), f"wide {width}", "decided", 11.0),
    ]
    tilt = step.value("tilt")
    if tilt:
        shapes.append(Label((26.0, 34.0), f"tilt {fmt.angle(tilt)}", "blade", 12.0, bold=True, anchor="left"))
    return shapes


def _strip_bevel(plan: Plan, step: Step, fmt: Format) -> list[Shape]:
    """A strip bevelled along its edge, show face up: first against its square edge, then against the bevelled one."""
    thick, tilt = 16.0, step.amount("tilt")
    run = math.tan(math.radians(tilt)) * thick
    shapes = _end_view(thick, 130.0, tilt, _begun(plan, step) * thick)
    shapes += [
        Path(box(-90.0, 0.0, -78.0, 34.0), "machine", "solid"),
        Label((-84.0, 34.0), "fence", "quiet", 8.5, shift=(0.0, 8.0)),
        Label((-44.0, thick), "show face up", "follows", 9.0, shift=(0.0, 8.0)),
        Label((-39.0, thick / 2), sides_named(step), "follows", 12.0, bold=True),
        Label((26.0, 34.0), f"tilt {fmt.angle(tilt)}", "blade", 12.0, bold=True, anchor="left"),
    ]
    if step.value("width") is not None:
        wide = f"show face {fmt.length(step.amount('width'))} wide"
        shapes += dimension((-78.0, 0.0), (run, 0.0), (0.0, -20.0), wide, "decided", 11.0)
    return shapes


def _groove(plan: Plan, step: Step, fmt: Format) -> list[Shape]:
    """Seen from the end: inside face down, the blade buried."""
    shapes = table_top()
    deep = 7.0
    run = math.tan(math.radians(step.amount("tilt")))  # the blade leans away from the fence, or toward it

    def leaning(x: float, y: float) -> Point:
        return (x + y * run, y)

    shapes += [
        Path(((-60.0, 0.0), (-8.0, 0.0), leaning(-8.0, deep), leaning(2.0, deep), (2.0, 0.0), (66.0, 0.0), (66.0, 16.0),
              (-60.0, 16.0)), "wood", "hatch", weight=1.4),
        Path((leaning(-8.0, -14.0), leaning(-4.0, -14.0), leaning(-4.0, deep), leaning(-8.0, deep)), "blade", "solid"),
        Path(box(-72.0, 0.0, -60.0, 30.0), "machine", "solid"),
        Label((-66.0, 30.0), "fence", "quiet", 8.5, shift=(0.0, 8.0)),
        Label((0.0, 16.0), "show face up", "follows", 9.0, shift=(20.0, 8.0)),
        *_tilted(step, (8.0, 40.0), fmt),
        Label((12.0, 5.0), f"deep {fmt.length(step.amount('height'))}", "decided", 11.0, bold=True, anchor="left"),
        *dimension((-60.0, 0.0), (-8.0, 0.0), (0.0, -20.0),
                   "fence " + " · ".join(fmt.length(f) for f in step.values("fence")), "decided", 11.0),
    ]  # fmt: skip
    return shapes


def _tilted(step: Step, at: Point, fmt: Format) -> list[Shape]:
    """The blade's tilt in figures, where it leans."""
    tilt = step.value("tilt")
    if not tilt:
        return []
    return [Label(at, f"tilt {fmt.angle(abs(tilt))}", "blade", 12.0, bold=True, anchor="left")]


def _ring(plan: Plan, step: Step, fmt: Format) -> list[Shape]:
    """The real ring from above, made to fit."""
    ring = plan.ring
    reach = max((abs(v) for side in ring.sides for p in side.foot for v in p), default=1.0)
    scale = 44.0 / reach

    def at(p: Point) -> Point:
        return (p[0] * scale, p[1] * scale + 6.0)

    count = len(ring.sides)
    shapes: list[Shape] = [
        Path(tuple(at(p) for p in side.foot), "wood", "tint", weight=1.2) for side in ring.sides
    ]
    inner, outer = ring.inner_bottom or ring.outer_bottom, ring.reached
    across, opposite = step.names.get("across", ""), count // 2
    if across == "spans":
        told = {i: step.numbers[f"span.{ring.corners[i].name}_mm"] for i in range(1, count - 2)}
        for i, span in told.items():
            middle = at(((outer[-1][0] + outer[i][0]) / 2, (outer[-1][1] + outer[i][1]) / 2))
            shapes.append(line(at(outer[-1]), at(outer[i]), "decided", 0.9, dash=True))
            shapes.append(Label(middle, fmt.length(span), "decided", 9.0, bold=True))
        for i in (*told, count - 1):
            x, y = at(outer[i])
            away = math.hypot(x, y - 6.0) or 1.0
            shift = (10.0 * x / away, 8.0 * (y - 6.0) / away)
            anchor: Anchor = "left" if x > 0 else "right"
            shapes.append(Label((x, y), ring.corners[i].name, "quiet", 8.5, anchor=anchor, shift=shift))
    elif across == "corner_to_side":
        for i in range(2):
            (x0, y0), (x1, y1) = inner[(i + opposite) % count], inner[(i + opposite + 1) % count]
            shapes.append(line(at(inner[i]), at(((x0 + x1) / 2, (y0 + y1) / 2)), "decided", 0.9, dash=True))
    elif count % 2 == 0:
        for i in range(2):
            shapes.append(line(at(inner[i]), at(inner[(i + opposite) % count]), "decided", 0.9, dash=True))
    return shapes


def _panel(plan: Plan, step: Step, fmt: Format) -> list[Shape]:
    """The panel as it is cut, to scale."""
    outline = next(piece.show_face for piece in plan.pieces if piece.id == step.pieces[0])
    x0, y0, x1, y1 = bounds(outline)
    scale = min(120.0 / (x1 - x0), 62.0 / (y1 - y0))
    points = tuple(((x - (x0 + x1) / 2) * scale, (y - (y0 + y1) / 2) * scale + 12.0) for x, y in outline)
    low = min(p[1] for p in points)
    half, tall = (x1 - x0) * scale / 2, (y1 - y0) * scale
    side = Label(
        (half + 14.0, low + tall / 2),
        fmt.length(step.amount("width")),
        "decided",
        11.0,
        anchor="left",
        shift=(4.0, 0.0),
    )
    return [
        Path(points, "panel", "solid", weight=1.4),
        *dimension((-half, low), (half, low), (0.0, -14.0), fmt.length(step.amount("stop")), "decided", 11.0),
        *dimension((half, low), (half, low + tall), (12.0, 0.0), "", "decided"),
        side,
    ]


def _keys(plan: Plan, step: Step, fmt: Format) -> list[Shape]:
    """The box on its corner in the cradle, the blade below."""
    angle = step.value("cradle") or 90.0
    half = math.radians(angle / 2)
    arm = 44.0
    left: Point = (-math.sin(half) * arm, math.cos(half) * arm)
    right: Point = (math.sin(half) * arm, math.cos(half) * arm)
    shapes = table_top(-10.0)
    shapes += [
        Path((left, (0.0, 0.0), right, (right[0] - 9 * math.cos(half), right[1] + 9 * math.sin(half)),
              (0.0, 10.0 / math.sin(half)), (left[0] + 9 * math.cos(half), left[1] + 9 * math.sin(half))),
             "wood", "hatch", weight=1.4),
        Path((left, (0.0, 0.0), right, (right[0] + 14, right[1]), (right[0] + 14, -10.0),
              (left[0] - 14, -10.0), (left[0] - 14, left[1])), "machine", "tint", weight=1.0),
        Path(box(-2.0, -24.0, 2.0, 8.0), "blade", "solid"),
        Label((0.0, 44.0), f"cradle {fmt.angle(angle)}" + _tip_told(step, fmt), "follows", 10.0),
        Label((8.0, -24.0), f"deep {fmt.length(step.amount('height'))}", "decided", 11.0, bold=True, anchor="left"),
        Label((-8.0, -24.0), "fence " + " · ".join(fmt.length(f) for f in step.values("fence")), "decided", 11.0,
              bold=True, anchor="right"),
    ]  # fmt: skip
    return shapes


def _tip_told(step: Step, fmt: Format) -> str:
    tip = step.value("tip")
    return f", tipped {fmt.angle(abs(tip))}" if tip else ""


def _lid(plan: Plan, step: Step, fmt: Format) -> list[Shape]:
    """The closed box against the fence, the blade through one wall at the line."""
    shapes = table_top()
    at = 22.0
    run = math.tan(math.radians(step.amount("tilt")))
    here, there = ("lid", "body") if step.edge == "top" else ("body", "lid")
    shapes += [
        Path(box(-60.0, 0.0, 60.0, 40.0), "wood", "none", weight=1.4),
        Path(box(-54.0, 6.0, 54.0, 34.0), "inside", "solid", weight=0.8),
        Path(box(-72.0, 0.0, -60.0, 46.0), "machine", "solid"),
        Label((-66.0, 46.0), "fence", "quiet", 8.5, shift=(0.0, 8.0)),
        Label((-50.0, 40.0), f"{step.edge} edge", "quiet", 8.5, anchor="left", shift=(0.0, 8.0)),
        Path(
            (
                (at - 14.0 * run, -14.0),
                (at + 3.0 - 14.0 * run, -14.0),
                (at + 3.0 + 7.0 * run, 7.0),
                (at + 7.0 * run, 7.0),
            ),
            "blade",
            "solid",
        ),
        line((at + 1.5 + 7.0 * run, 7.0), (at + 1.5 + 40.0 * run, 40.0), "blade", 0.8, dash=True),
        *_tilted(step, (at + 8.0, -12.0), fmt),
        Label((-20.0, 20.0), here, "follows", 10.0),
        Label((42.0, 20.0), there, "follows", 10.0),
        *dimension(
            (-60.0, 0.0),
            (at, 0.0),
            (0.0, -20.0),
            f"fence {fmt.length(step.value('fence') or 0.0)}",
            "decided",
            11.0,
        ),
    ]
    return shapes
