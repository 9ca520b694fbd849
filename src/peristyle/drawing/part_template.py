"""Parts at full size: whatever is no plain rectangle, or has something cut through it or into it that is laid out.

Drawn as the show face lies, the inside's outline and what is hidden broken: to be laid on the wood and pricked through.
"""

from collections.abc import Iterator
from typing import Final

from peristyle.core.lengths import Format
from peristyle.core.outlines import bounds
from peristyle.drawing.rule import reach_mm, ruler
from peristyle.drawing.shapes import Drawing, Label, Path, Shape, line
from peristyle.planning.making.piece import Piece
from peristyle.planning.plan import Plan
from peristyle.words.pieces import spoken

_LAID_OUT: Final = ("opening", "gable", "lowered", "finger_notch", "mortise", "pocket", "bore")
_ROUGH: Final = (
    "segment",
    "leaf",
    "board",
    "key",
    "spline",
    "block",
    "band",
    "corner_block",
    "ledge",
    "strip",
)
_CROSS_MM: Final = 3.0
_SAME: Final = 1e-6


def part_templates(plan: Plan, fmt: Format) -> list[Drawing]:
    """A template for every part that wants one, those alike once."""
    found: dict[tuple[object, ...], list[Piece]] = {}
    for piece in plan.pieces:
        if piece.part not in _ROUGH and (
            not _plain(piece) or any(f.kind in _LAID_OUT for f in piece.features)
        ):
            found.setdefault(_looks(piece), []).append(piece)
    return [_part(plan, group, fmt) for group in found.values()]


def _plain(piece: Piece) -> bool:
    """Whether both faces are rectangles along its own axes, or it is a side that only its ends are cut on."""
    if piece.part in ("side", "liner", "fillet", "tray"):
        return True
    xs, ys = ({round(p[axis], 5) for p in piece.show_face} for axis in (0, 1))
    return len(piece.show_face) == 4 and len(xs) == 2 and len(ys) == 2


def _looks(piece: Piece) -> tuple[object, ...]:
    show, inside = piece.trimmed
    outlines = tuple(tuple((round(x, 4), round(y, 4)) for x, y in face) for face in (show, inside))
    cuts = tuple(
        (f.kind, f.face, tuple((round(x, 4), round(y, 4)) for x, y in (f.flat or f.shadow)))
        for f in piece.features if f.kind in _LAID_OUT and not f.trims
    )  # fmt: skip
    return piece.part, outlines, cuts


def _part(plan: Plan, group: list[Piece], fmt: Format) -> Drawing:
    """One part: its outlines, what is laid out on it with a cross in its middle, its sizes, a line along the grain."""
    piece = group[0]
    show, inside = piece.trimmed
    x0, y0, x1, y1 = bounds((*show, *inside))
    shapes: list[Shape] = [Path(show, "follows", weight=1.0)]
    if any(abs(a - b) > _SAME for p, q in zip(show, inside, strict=False) for a, b in zip(p, q, strict=True)):
        shapes.append(Path(inside, "follows", weight=0.7, dash=True))
    for feature in piece.features:
        outline = feature.flat or feature.shadow
        if feature.kind not in _LAID_OUT or feature.trims or len(outline) < 3:
            continue
        hidden = feature.face != "show" and feature.depth_mm < piece.thickness_mm - _SAME
        shapes.append(Path(outline, "follows", weight=0.8, dash=hidden))
        shapes += _cross(outline, fmt)
    middle = ((x0 + x1) / 2, y0 + (y1 - y0) * 0.12)
    reach = (x1 - x0) * 0.15
    shapes.append(line((middle[0] - reach, middle[1]), (middle[0] + reach, middle[1]), "follows", 0.4))
    shapes.append(Label(middle, "grain", "follows", 7.5, shift=(0.0, 6.0)))
    name = spoken(group) if piece.alike else ", ".join(one.name for one in group)
    size = f"{fmt.length(x1 - x0)} × {fmt.length(y1 - y0)} × {fmt.length(piece.thickness_mm, unit=True)}"
    text = f"{plan.job.design.name}: {name}"
    shapes.append(Label((x0, y1), text, "follows", 10.0, bold=True, anchor="left", shift=(0.0, 22.0)))
    shapes.append(Label((x0, y1), f"Show face up, {size}. Broken: the inside.", "follows", 8.0, anchor="left",
                        shift=(0.0, 9.0)))  # fmt: skip
    shapes += ruler((x0, y0 - 14.0), fmt)
    bounds_mm = (x0 - 8.0, y0 - 24.0, max(x1 + 8.0, x0 + reach_mm(fmt)), y1 + 14.0)
    return Drawing(tuple(shapes), bounds=bounds_mm, words=f"{text}.")


def _cross(outline: tuple[tuple[float, float], ...], fmt: Format) -> Iterator[Shape]:
    """Where a bit or a knife begins, and how far that is from the part's own start and bottom edge."""
    x0, y0, x1, y1 = bounds(outline)
    x, y = (x0 + x1) / 2, (y0 + y1) / 2
    yield line((x - _CROSS_MM, y), (x + _CROSS_MM, y), "follows", 0.4)
    yield line((x, y - _CROSS_MM), (x, y + _CROSS_MM), "follows", 0.4)
    at = f"{fmt.length(x)}, {fmt.length(y)}"
    yield Label((x1, y), at, "follows", 7.0, anchor="left", shift=(4.0, 0.0))
