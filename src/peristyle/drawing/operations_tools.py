"""Pictures of operations as other tools than the table saw do them: router, miter saw, band saw, hand and board."""

import math
from typing import get_args

from peristyle.core.lengths import Format
from peristyle.core.outlines import box
from peristyle.core.planes import Point
from peristyle.drawing.operations_inner import sides_named, table_top
from peristyle.drawing.shapes import Label, Path, Shape, dimension, line
from peristyle.model.edges import EdgeProfile, ProfileKind
from peristyle.planning.making.step import Step
from peristyle.planning.plan import Plan
from peristyle.planning.section.edges import curve
from peristyle.words.step_titles import PROFILES

_PROFILE = 18.0  # how large a profile is drawn
_UP = {"show_up": "show face up", "inside_up": "inside face up"}


def _router_bit(x: float, wide: float, top: float) -> list[Shape]:
    """A straight bit standing out of the table: its cutting part, its shank, the collet under the table."""
    return [
        Path(box(x, -6.0, x + wide, top), "blade", "solid"),
        Path(box(x + wide * 0.25, -20.0, x + wide * 0.75, -6.0), "blade", "tint", weight=0.8),
        Path(box(x - 4.0, -30.0, x + wide + 4.0, -18.0), "machine", "solid"),
        Label((x + wide + 8.0, -25.0), "collet", "quiet", 8.0, anchor="left"),
    ]


def routed_groove_picture(plan: Plan, step: Step, fmt: Format) -> list[Shape]:
    """Seen from the end: inside face down over the bit, an edge or the start against the fence."""
    deep, wide = 7.0, 10.0
    stops = step.values("fence") or step.values("stop")
    word = "fence" if step.values("fence") else "stop"
    return [
        *table_top(),
        Path(((-60.0, 0.0), (-8.0, 0.0), (-8.0, deep), (-8.0 + wide, deep), (-8.0 + wide, 0.0), (66.0, 0.0),
              (66.0, 16.0), (-60.0, 16.0)), "wood", "hatch", weight=1.4),
        *_router_bit(-8.0, wide, deep),
        Path(box(-72.0, 0.0, -60.0, 30.0), "machine", "solid"),
        Label((-66.0, 30.0), word, "quiet", 8.5, shift=(0.0, 8.0)),
        Label((20.0, 16.0), "show face up", "follows", 9.0, shift=(0.0, 8.0)),
        Label((12.0, 5.0), f"deep {fmt.length(step.amount('height'))}", "decided", 11.0, bold=True, anchor="left"),
        *dimension((-60.0, 0.0), (-8.0, 0.0), (0.0, -34.0),
                   f"{word} " + " · ".join(fmt.length(f) for f in stops), "decided", 11.0),
    ]  # fmt: skip


def chamfer_picture(plan: Plan, step: Step, fmt: Format) -> list[Shape]:
    """The end of a side over a chamfer bit, a backing piece behind it: the bit's slope takes the corner off."""
    angle = math.radians(step.numbers.get("bevel_deg", 45.0))
    thick = 20.0
    run = min(46.0, math.tan(angle) * thick)
    # The face that is up stays whole: the bit takes wood under it, from the end inward.
    piece = ((-70.0, 0.0), (20.0 - run, 0.0), (20.0, thick), (-70.0, thick))
    waste = ((20.0 - run, 0.0), (20.0, 0.0), (20.0, thick))
    slope = ((20.0 - run - 5.0, -5.0 / math.tan(angle) if angle else -5.0), (22.0, thick + 2.0))
    bit = (slope[0], slope[1], (40.0, thick + 2.0), (40.0, slope[0][1]))
    return [
        *table_top(),
        Path(piece, "wood", "hatch", weight=1.4),
        Path(waste, "paper", "tint", weight=0.8, dash=True),
        Path(bit, "blade", "solid"),
        Path(box(26.0, -30.0, 36.0, slope[0][1]), "blade", "tint", weight=0.8),
        Path(box(20.0, -34.0, 42.0, -24.0), "machine", "solid"),
        Path(box(48.0, 0.0, 60.0, 34.0), "machine", "solid"),
        Label((54.0, 34.0), "fence", "quiet", 8.5, shift=(0.0, 8.0)),
        Label((-60.0, thick), _UP.get(step.lies, ""), "follows", 9.0, anchor="left", shift=(0.0, 8.0)),
        Label((-38.0, thick / 2), sides_named(step), "follows", 12.0, bold=True),
        Label((-10.0, thick + 22.0), f"bit {fmt.angle(step.numbers['bevel_deg'])}", "blade", 12.0, bold=True),
        Label((-70.0, -14.0), "in small passes, a backing piece behind", "quiet", 8.5, anchor="left"),
    ]  # fmt: skip


def profile_picture(plan: Plan, step: Step, fmt: Format) -> list[Shape]:
    """A rim on the table, or a board's face, its edge at the bit: what is taken, the bearing on the face over it."""
    board = bool(step.names["panel"])
    kind = next(kind for kind in get_args(ProfileKind) if kind == step.names["profile"])
    where = "inside" if step.title.endswith("rim_edge") else "edge" if board else "outside"
    return [
        *_profiled(kind, sides_named(step) or step.names["panel"], where, board=board),
        *dimension((26.0, 0.0), (26.0, _PROFILE), (26.0, 0.0), "", "decided"),
        Label((56.0, _PROFILE / 2 - 3.0), fmt.length(step.amount("height"), unit=True), "decided", 12.0, bold=True,
              anchor="left"),
    ]  # fmt: skip


def tried_profile_picture(plan: Plan, step: Step, fmt: Format) -> list[Shape]:
    """A scrap at the bit, as the work will be."""
    kind = next(kind for kind in get_args(ProfileKind) if kind in step.names["profile"].split())
    return _profiled(kind, "scrap", "face", board=True)


def _profiled(kind: ProfileKind, name: str, where: str, *, board: bool) -> list[Shape]:
    size = _PROFILE
    line_of = [(-inward, up) for inward, up in curve(EdgeProfile(kind=kind, size_mm=size))]
    wide, high = (86.0, 34.0) if board else (38.0, 58.0)
    wood = ((-wide, 0.0), *line_of, (0.0, high), (-wide, high))
    cutter = (*line_of, (26.0, size), (26.0, -6.0), (-size - 3.0, -6.0), (-size - 3.0, 0.0))
    return [
        *table_top(),
        Path(wood, "wood", "hatch", weight=1.4),
        Path(cutter, "blade", "solid"),
        Path(box(0.0, size, 26.0, size + 9.0), "machine", "solid"),
        Path(box(8.0, -32.0, 18.0, -6.0), "blade", "tint", weight=0.8),
        Label((30.0, size + 4.5), f"bearing on the {where}", "quiet", 8.5, anchor="left"),
        Label((-wide / 2, high - 9.0), name, "follows", 12.0, bold=True),
        Label((-wide, -14.0), PROFILES[kind], "blade", 11.0, bold=True, anchor="left"),
    ]


def tried_hinge_picture(plan: Plan, step: Step, fmt: Format) -> list[Shape]:
    """Two scraps one over the other, a leaf let into each, or a barrel into both; how deep in one of them."""
    barrel = "try_hinge.barrel" in step.says
    deep = step.numbers["bore_mm" if barrel else "sunk_mm" if "try_hinge.seam" in step.says else "thick_mm"]
    drawn, left, right = (16.0, -8.0, 8.0) if barrel else (7.0, -20.0, 44.0)
    shapes: list[Shape] = []
    for sign, foot in ((1.0, 9.0), (-1.0, 7.0)):
        far = foot + sign * 30.0
        shapes += [
            Path(box(-64.0, min(foot, far), 44.0, max(foot, far)), "wood", "hatch", weight=1.4),
            Path(
                box(left, min(foot, foot + sign * drawn), right, max(foot, foot + sign * drawn)),
                "machine",
                "solid",
            ),
            Label((-44.0, (foot + far) / 2), "scrap", "follows", 11.0, bold=True),
        ]
    if not barrel:
        shapes.append(Path(box(44.0, 2.0, 56.0, 14.0), "machine", "solid"))  # the knuckle
    shapes += dimension((44.0, 9.0), (44.0, 9.0 + drawn), (22.0, 0.0), "", "decided")
    told = f"{fmt.length(deep, unit=True)} deep"
    shapes.append(Label((76.0, 9.0 + drawn / 2), told, "decided", 11.0, bold=True, anchor="left"))
    return shapes


def shooting_picture(plan: Plan, step: Step, fmt: Format) -> list[Shape]:
    """The side on a ramp of the bevel's angle, the plane on its side along the board's edge."""
    angle = math.radians(step.numbers.get("bevel_deg", 45.0))
    long = 74.0
    ux, uy = math.cos(angle), math.sin(angle)
    toe: Point = (22.0, 6.0)
    ramp = (toe, (toe[0] - long * ux, toe[1] + long * uy), (toe[0] - long * ux, 6.0))
    thick = 12.0
    nx, ny = uy * thick, ux * thick
    top = (toe[0], toe[1] + thick / max(0.2, math.cos(angle)))
    piece = (
        toe,
        top,
        (toe[0] - long * ux + nx, toe[1] + long * uy + ny),
        (toe[0] - long * ux, toe[1] + long * uy),
    )
    return [
        *table_top(),
        Path(box(-78.0, 0.0, 22.0, 6.0), "machine", "tint", weight=1.0),
        Path(ramp, "machine", "tint", weight=1.0),
        Path(piece, "wood", "hatch", weight=1.4),
        Path(box(22.0, 0.0, 28.0, 40.0), "blade", "solid"),
        Path(box(28.0, 0.0, 56.0, 40.0), "machine", "solid"),
        Label((42.0, 40.0), "plane on its side", "quiet", 8.5, shift=(0.0, 8.0)),
        Label((-40.0, 14.0), f"block {fmt.angle(step.numbers['bevel_deg'])}", "blade", 12.0, bold=True),
        Label((-70.0, 54.0), _UP.get(step.lies, ""), "follows", 9.0, anchor="left"),
        Label((-70.0, -14.0), sides_named(step), "follows", 12.0, bold=True, anchor="left"),
    ]  # fmt: skip


def miter_saw_picture(plan: Plan, step: Step, fmt: Format) -> list[Shape]:
    """From above: the work against the fence, the saw's line across it, its swing and tilt in figures."""
    swing = step.value("swing") or 0.0
    if step.operation == "bevel" and step.end == "start" and step.value("swing") is not None:
        swing = step.amount("swing")
    tilt, lean = step.amount("tilt"), math.tan(math.radians(max(-60.0, min(60.0, swing))))
    low, high = -16.0, 16.0
    upright = step.lies == "on_edge"
    deep = 10.0 if upright else high - low
    foot = high - deep

    def at(y: float) -> float:
        return 24.0 + (y - (low + high) / 2) * lean

    blade_low, blade_high = foot - 22.0, high + 4.0
    shapes: list[Shape] = [
        Path(((-74.0, foot), (at(foot), foot), (at(high), high), (-74.0, high)), "wood", "tint", weight=1.4),
        Path(((at(foot) + 3.0, foot), (92.0, foot), (92.0, high), (at(high) + 3.0, high)), "paper", "tint", weight=0.8,
             dash=True),
        Path(((at(blade_low), blade_low), (at(blade_low) + 3.0, blade_low), (at(blade_high) + 3.0, blade_high),
              (at(blade_high), blade_high)), "blade", "solid"),
        Path(box(-92.0, high, 14.0, high + 6.0), "machine", "solid"),
        Path(box(40.0, high, 92.0, high + 6.0), "machine", "solid"),
        Label((-92.0, high + 6.0), "fence", "quiet", 8.5, anchor="left", shift=(0.0, 8.0)),
        Label((-30.0, (foot + high) / 2), sides_named(step), "follows", 12.0, bold=True),
        Label((92.0, foot), "from above", "quiet", 8.5, anchor="right", shift=(0.0, -10.0)),
    ]  # fmt: skip
    words = [f"swing {fmt.angle(abs(swing))}" + (" right" if swing > 0 else " left")] if swing else []
    words += [f"tilt {fmt.angle(tilt)}"] if tilt else []
    shapes.append(Label((34.0, high + 24.0), ", ".join(words) or "square", "blade", 12.0, bold=True))
    lies = f"on its edge, {step.names.get('face', 'show face')} to the fence"
    told = lies if upright else _UP.get(step.lies, "")
    shapes.append(Label((-74.0, low - 20.0 if upright else high + 24.0), told, "follows", 9.0, anchor="left"))
    stop = step.value("stop")
    if stop is not None and step.operation != "trim":
        shapes += [
            Path(box(-86.0, foot, -74.0, high), "machine", "solid"),
            *dimension(
                (-74.0, foot), (at(foot), foot), (0.0, -14.0), f"stop {fmt.length(stop)}", "decided", 11.0
            ),
        ]
    return shapes


def band_saw_picture(plan: Plan, step: Step, fmt: Format) -> list[Shape]:
    """The box on its side against the fence, the blade straight down through all of it."""
    return [
        *table_top(),
        Path(box(-60.0, 0.0, 60.0, 40.0), "wood", "none", weight=1.4),
        Path(box(-54.0, 6.0, 54.0, 34.0), "inside", "solid", weight=0.8),
        Path(box(-72.0, 0.0, -60.0, 48.0), "machine", "solid"),
        Label((-66.0, 48.0), "tall fence", "quiet", 8.5, shift=(0.0, 8.0)),
        Path(box(22.0, -14.0, 24.0, 58.0), "blade", "solid"),
        Path(box(14.0, 44.0, 32.0, 54.0), "machine", "solid"),
        Label((36.0, 49.0), "guide down", "quiet", 8.5, anchor="left"),
        Label((-20.0, 20.0), "body", "follows", 10.0),
        Label((42.0, 20.0), "lid", "follows", 10.0),
        Label((-56.0, 40.0), "bottom flat on the fence", "quiet", 8.5, anchor="left", shift=(0.0, 8.0)),
        *dimension(
            (-60.0, 0.0),
            (22.0, 0.0),
            (0.0, -20.0),
            f"fence {fmt.length(step.amount('fence'))}",
            "decided",
            11.0,
        ),
    ]


def hand_saw_picture(plan: Plan, step: Step, fmt: Format) -> list[Shape]:
    """The closed box from its side, the line all round it and the saw begun at a corner; or a corner's slots."""
    fences = step.values("fence")
    marked = " · ".join(fmt.length(f) for f in fences[:4])
    top = 44.0
    at = top * 0.66
    shapes: list[Shape] = [
        Path(box(-56.0, 0.0, 56.0, top), "wood", "tint", weight=1.4),
        line((-56.0, 0.0), (-56.0, top), "follows", 1.4),
    ]
    ats = (at,) if step.operation == "lid" else (12.0, top - 12.0)
    for y in ats:
        shapes.append(line((-56.0, y), (56.0, y), "blade", 1.0, dash=True))
        if step.operation != "lid":
            shapes.append(line((44.0, y), (56.0, y), "blade", 2.4))
    y = ats[-1]
    blade = ((30.0, y - 1.0), (92.0, y + 5.0), (92.0, y + 17.0), (30.0, y + 9.0))
    shapes += [
        Path(blade, "machine", "tint", weight=1.0),
        line((30.0, y - 1.0), (92.0, y + 5.0), "blade", 2.2),
        *dimension((-56.0, 0.0), (-56.0, ats[0]), (-14.0, 0.0), "", "decided"),
        Label((-74.0, ats[0] / 2), marked, "decided", 11.0, bold=True, anchor="right"),
        Label((0.0, -10.0), f"from the {step.edge or 'bottom'} edge", "quiet", 8.5),
    ]
    return shapes


def held_picture(plan: Plan, step: Step, fmt: Format) -> list[Shape]:
    """What the clamps do: a band right round, pairs of bars, or a caul at every corner."""
    ring = plan.ring
    reach = max((abs(v) for side in ring.sides for p in side.foot for v in p), default=1.0)
    scale = 40.0 / reach

    def at(p: Point, out: float = 0.0) -> Point:
        far = math.hypot(*p) or 1.0
        return ((p[0] + p[0] / far * out) * scale, (p[1] + p[1] / far * out) * scale + 6.0)

    corners = [ring.outer_bottom[i] for i in range(len(ring.sides))]
    shapes: list[Shape] = [Path(tuple(at(p) for p in s.foot), "wood", "tint", weight=1.2) for s in ring.sides]
    out = 3.0 / scale
    if "glue.band" in step.says:
        shapes.append(Path(tuple(at(p, out) for p in corners), "machine", "none", weight=3.0))
    elif "glue.bar" in step.says:
        xs, ys = [at(p)[0] for p in corners], [at(p)[1] for p in corners]
        low, high, left, right = min(ys), max(ys), min(xs), max(xs)
        for x in (left * 0.5, right * 0.5):
            shapes.append(line((x, low - 8.0), (x, high + 8.0), "machine", 3.0))
        for y in ((low * 3 + high) / 4, (low + high * 3) / 4):
            shapes.append(line((left - 8.0, y), (right + 8.0, y), "machine", 3.0))
        shapes += [Path(box(left, low - 4.0, right, low), "machine", "tint", weight=0.8),
                   Path(box(left, high, right, high + 4.0), "machine", "tint", weight=0.8)]  # fmt: skip
    else:
        for p in corners:
            x, y = at(p)
            shapes.append(Path(box(x - 4.0, y - 4.0, x + 4.0, y + 4.0), "machine", "tint", weight=1.0))
    shapes.append(
        Label((0.0, -44.0), "both diagonals alike, and all corners tight outside and in", "quiet", 8.5)
    )
    return shapes


def tried_picture(plan: Plan, step: Step, fmt: Format) -> list[Shape]:
    """Two scraps held together at their bevels, and the angle they must close to."""
    bevel = math.radians(step.numbers["bevel_deg"])
    long, thick = 64.0, 12.0
    half = math.pi / 2 - bevel  # of the corner
    inner = thick / math.sin(half)
    shapes: list[Shape] = []
    for way in (1.0, -1.0):
        ux, uy = way * math.sin(half), -math.cos(half)
        nx, ny = -way * math.cos(half), -math.sin(half)
        outer_far: Point = (ux * long, 40.0 + uy * long)
        inner_far: Point = (outer_far[0] + nx * thick, outer_far[1] + ny * thick)
        shapes.append(
            Path(((0.0, 40.0), outer_far, inner_far, (0.0, 40.0 - inner)), "wood", "hatch", weight=1.4)
        )
    shapes += [
        line((0.0, 46.0), (0.0, -6.0), "decided", 1.0, dash=True),
        Label((0.0, -14.0), f"closes to {fmt.angle(step.numbers['corner_deg'])}", "decided", 12.0, bold=True),
        Label((0.0, -30.0), "gap outside: bevel too small; gap inside: too large", "quiet", 8.5),
    ]
    return shapes


def rabbet_picture(plan: Plan, step: Step, fmt: Format) -> list[Shape]:
    """Flat, inside face down, its edge to the fence; or on that edge, the waste free on the outside."""
    if step.lies == "on_edge":
        at, high = 12.0, 10.0
        return [
            *table_top(),
            Path(box(-24.0, 0.0, -12.0, 58.0), "machine", "solid"),
            Label((-18.0, 58.0), "tall fence", "quiet", 8.5, shift=(0.0, 8.0)),
            Path(((-12.0, 0.0), (0.0, 0.0), (0.0, high), (8.0, high), (8.0, 50.0), (-12.0, 50.0)), "wood", "hatch",
                 weight=1.4),
            Path(box(4.0, 0.0, 8.0, high), "paper", "tint", weight=0.8, dash=True),
            Path(box(0.0, -14.0, 4.0, high), "blade", "solid"),
            Label((18.0, 36.0), "inside", "follows", 9.0, anchor="left"),
            Label((14.0, 4.0), "waste falls free", "quiet", 8.5, anchor="left"),
            Label((-30.0, at), f"high {fmt.length(step.amount('height'))}", "decided", 11.0, bold=True, anchor="right"),
            *dimension((-12.0, 0.0), (0.0, 0.0), (0.0, -22.0), f"fence {fmt.length(step.amount('fence'))}", "decided",
                       11.0),
        ]  # fmt: skip
    buried = step.value("width") is not None
    deep, wide, near = 7.0, 12.0, 0.0 if buried else 8.0
    shapes = [
        *table_top(),
        Path(((-60.0 + (wide if buried else near + 4.0), 0.0), (66.0, 0.0), (66.0, 16.0), (-60.0, 16.0), (-60.0, deep),
              (-60.0 + (wide if buried else near + 4.0), deep)), "wood", "hatch", weight=1.4),
        Path(box(-72.0, deep + 2.0 if buried else 0.0, -60.0, 30.0), "machine", "solid"),
        Path(box(-66.0 if buried else -60.0 + near, -14.0, -60.0 + (wide if buried else near + 4.0), deep), "blade",
             "solid"),
        Label((-66.0, 30.0), "sacrificial fence" if buried else "fence", "quiet", 8.5, shift=(0.0, 8.0)),
        Label((20.0, 16.0), "show face up", "follows", 9.0, shift=(0.0, 8.0)),
        Label((-40.0, 5.0), f"deep {fmt.length(step.amount('height'))}", "decided", 11.0, bold=True, anchor="left"),
    ]  # fmt: skip
    words = f"standing out {fmt.length(step.amount('width'))}" if buried else None
    told = words or "fence " + " · ".join(fmt.length(value) for value in step.values("fence"))
    far = -60.0 + (wide if buried else near)
    return [*shapes, *dimension((-60.0, 0.0), (far, 0.0), (0.0, -24.0), "", "decided"),
            Label((far + 4.0, -26.0), told, "decided", 11.0, anchor="left")]  # fmt: skip


def resaw_picture(plan: Plan, step: Step, fmt: Format) -> list[Shape]:
    """The board on its edge, its flat face to the fence, the blade between the two leaves."""
    return [
        *table_top(),
        Path(box(-32.0, 0.0, -20.0, 58.0), "machine", "solid"),
        Label((-26.0, 58.0), "tall fence", "quiet", 8.5, shift=(0.0, 8.0)),
        Path(box(-20.0, 0.0, -6.0, 48.0), "wood", "hatch", weight=1.4),
        Path(box(-4.0, 0.0, 10.0, 48.0), "wood", "tint", weight=1.0),
        Path(box(-6.0, -14.0, -4.0, 58.0), "blade", "solid"),
        Label((16.0, 34.0), "the other leaf", "quiet", 8.5, anchor="left"),
        *dimension((-20.0, 0.0), (-6.0, 0.0), (0.0, -20.0), "", "decided"),
        Label(
            (-2.0, -22.0),
            f"leaf {fmt.length(step.amount('fence'))}",
            "decided",
            12.0,
            bold=True,
            anchor="left",
        ),
    ]


def on_miter_picture(plan: Plan, step: Step, fmt: Format) -> list[Shape]:
    """Seen along the corner: the piece stands on its miter face in a carrier, the inside arris against the fence."""
    bevel = math.radians(step.numbers.get("bevel_deg", 45.0))
    thick, far, deep, wide = 20.0, 62.0, 9.0, 6.0
    joint = thick / math.cos(bevel)
    # Up the piece from its miter face, which lies on the table from the fence on: it leans by the bevel.
    up = (math.sin(bevel) * far, math.cos(bevel) * far)
    left = -40.0
    piece = ((left, 0.0), (left + joint, 0.0), (left + joint + up[0], up[1]), (left + up[0], up[1]))
    if step.numbers.get("bevel_deg", 0.0) < 0:
        piece = tuple((2 * left + joint - x, y) for x, y in piece)  # type: ignore[assignment]
    at = left + joint * 0.32
    groove = box(at, 0.0, at + wide, deep)
    carrier = ((left + joint, 0.0), (left + joint + up[0], up[1]), (left + joint + up[0] + 34.0, up[1]),
               (left + joint + up[0] + 34.0, 0.0))  # fmt: skip
    fences = " · ".join(fmt.length(f) for f in step.values("fence"))
    cutter = _router_bit(at, wide, deep) if step.tool == "router_table" else [
        Path(box(at, -24.0, at + wide, deep), "blade", "solid")
    ]  # fmt: skip
    return [
        *table_top(),
        Path(carrier, "machine", "tint", weight=0.8),
        Path(piece, "wood", "hatch", weight=1.4),
        Path(groove, "paper", "solid", weight=0.8),
        *cutter,
        Path(box(left - 12.0, 0.0, left, 40.0), "machine", "solid"),
        Label((left - 6.0, 40.0), "fence", "quiet", 8.5, shift=(0.0, 8.0)),
        Label((left - 14.0, 6.0), "inside arris", "quiet", 8.5, anchor="right"),
        Label((left + joint + up[0] + 17.0, up[1] * 0.45), "carrier", "quiet", 8.5),
        Label((at + wide + 5.0, -14.0), f"deep {fmt.length(step.amount('height'))}", "decided", 11.0, bold=True,
              anchor="left"),
        Label((left - 4.0, -14.0), f"fence {fences}", "decided", 11.0, bold=True, anchor="right"),
    ]  # fmt: skip
