"""The sled from its end, the blade tilted through it, and from above."""

import math

from peristyle.core.lengths import Format
from peristyle.core.outlines import box
from peristyle.core.planes import Point
from peristyle.drawing.shapes import Drawing, Label, Path, Shape, dimension, line
from peristyle.planning.sled import Sled


def sled_drawing(made: Sled, fmt: Format) -> Drawing:
    """Across the blade below, from above over it; the blade at the left."""
    n = made.numbers
    lean = math.tan(math.radians(made.tilts_deg[0])) * (1 if made.over else -1)
    wide, base, depth = n["wide_mm"], n["base_mm"], n["depth_mm"]
    top = base + n["fence_high_mm"]
    kerf = 3.0 / math.cos(math.radians(made.tilts_deg[0]))
    reach = n["needed_mm"] * math.cos(math.radians(made.tilts_deg[0]))
    far, ends = max(wide, n["fence_mm"]), (-n["past_mm"], n["fence_mm"])
    blade = (0.0, 0.0), (lean * reach, reach), (lean * reach - kerf, reach), (-kerf, 0.0)
    shapes: list[Shape] = [
        line((-60.0, 0.0), (far + 20.0, 0.0), "follows", 1.4),
        Path(((0.0, 0.0), (wide, 0.0), (wide, base), (lean * base, base)), "wood", "tint", weight=1.0),
        Path(_cut_fence(lean, base, top, reach, ends), "follows", "hatch", weight=0.8),
        Path(blade, "blade", "solid", weight=0.4),
        Path(box(n["slot_mm"] - n["slot_wide_mm"] / 2, -n["runner_mm"], n["slot_mm"] + n["slot_wide_mm"] / 2, 0.0),
             "wood", "tint", weight=1.0),
    ]  # fmt: skip
    for x, _y in made.fence_screws:
        shapes.append(Path(box(x - 2.5, 0.0, x + 2.5, base + 25.0), "caution", "solid", weight=0.4))
    x = made.fence_screws[0][0]
    shapes += dimension(
        (0.0, -n["runner_mm"] - 14.0), (n["slot_mm"], -n["runner_mm"] - 14.0), (0.0, -6.0), role="follows"
    )
    shapes.append(
        Label((n["slot_mm"] / 2, -n["runner_mm"] - 32.0), f"slot {fmt.length(n['slot_mm'])}", "follows", 9.0)
    )
    shapes.append(
        Label(
            (x, base + 25.0), f"first screw {fmt.length(x)}", "caution", 9.0, anchor="left", shift=(6.0, 6.0)
        )
    )
    shapes.append(
        Label((lean * reach, reach), fmt.angle(made.tilts_deg[0]), "blade", 9.0, shift=(-16.0, 10.0))
    )
    up = top + 70.0
    shapes += _from_above(made, up, fmt)
    bounds = (-80.0, -n["runner_mm"] - 50.0, far + 40.0, up + depth + 30.0)
    words = (
        f"The sled from its end and from above: base {fmt.length(wide)} by {fmt.length(depth)}, first screw "
        f"{fmt.length(x)} from the blade."
    )
    return Drawing(tuple(shapes), (), (), bounds, words)


def _cut_fence(
    lean: float, base: float, top: float, reach: float, ends: tuple[float, float]
) -> tuple[Point, ...]:
    """The fence's face, its end sawn as far up as the blade reaches."""
    start, end = ends
    reach = min(reach, top)
    return (lean * base, base), (end, base), (end, top), (start, top), (start, reach), (lean * reach, reach)


def _from_above(made: Sled, up: float, fmt: Format) -> list[Shape]:
    """The base with its front edge at the top, the fence over it, the runner dashed, where screws stand."""
    n = made.numbers
    wide, depth, face = n["wide_mm"], n["depth_mm"], n["fence_y_mm"]

    def at(x: float, y: float) -> Point:
        return x, up + depth - y

    def oblong(x0: float, y0: float, x1: float, y1: float) -> tuple[Point, ...]:
        return at(x0, y0), at(x1, y0), at(x1, y1), at(x0, y1)

    half, thick = n["slot_wide_mm"] / 2, 2 * n["layer_mm"]
    stop = n["longest_mm"] + (n["base_mm"] * math.tan(math.radians(made.tilts_deg[0])) if made.over else 0.0)
    shapes: list[Shape] = [
        Path(oblong(0.0, 0.0, wide, depth), "wood", "tint", weight=1.0),
        Path(oblong(n["slot_mm"] - half, 0.0, n["slot_mm"] + half, depth), "quiet", dash=True, weight=0.8),
        Path(oblong(-n["past_mm"], face, n["fence_mm"], face + thick), "follows", "hatch", weight=0.9),
        Path(oblong(stop, face - n["layer_mm"], stop + 60.0, face), "follows", "tint", weight=0.9),
        Path(oblong(0.0, face + thick, 90.0, depth - 20.0), "caution", "tint", weight=0.9),
        line(at(0.0, -20.0), at(0.0, depth + 20.0), "blade", 1.6),
    ]
    if made.swing_deg > 0.005:
        pivot = made.fence_screws[0][0]
        for sign in (1, -1):
            turn = math.radians(made.swing_deg) * sign
            run = n["fence_mm"] - pivot
            end = at(pivot + run * math.cos(turn), face + run * math.sin(turn))
            shapes.append(line(at(pivot, face), end, "follows", 0.8, dash=True))
    for x, y in (*made.fence_screws, *made.runner_screws):
        shapes.append(Path(oblong(x - 3.0, y - 3.0, x + 3.0, y + 3.0), "caution", "solid", weight=0.4))
    for (x, y), text in (
        ((n["fence_mm"] * 0.3, face + thick / 2), "fence"), ((stop + 30.0, face - n["layer_mm"] / 2), "stop"),
        ((45.0, (face + thick + depth - 20.0) / 2), "shield"), ((wide / 2, depth * 0.08), "pushed away from you ↑"),
    ):  # fmt: skip
        shapes.append(Label(at(x, y), text, "follows", 9.0))
    shapes += dimension(at(0.0, depth + 12.0), at(wide, depth + 12.0), (0.0, -6.0), role="follows")
    shapes.append(Label(at(wide / 2, depth + 30.0), fmt.length(wide), "follows", 9.0))
    return shapes
