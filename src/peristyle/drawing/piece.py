"""One piece by itself: both faces with what is cut into them, true to scale."""

from collections.abc import Callable, Sequence

from peristyle.core.lengths import Format
from peristyle.core.outlines import bounds, clipped
from peristyle.core.planes import Point
from peristyle.drawing.shapes import Drawing, Fill, Label, Path, Role, Shape, Tag, dimension
from peristyle.model import fields
from peristyle.planning.fit.as_cut import as_cut
from peristyle.planning.making.piece import Feature, Piece
from peristyle.planning.plan import Plan
from peristyle.words.pieces import told_whole


def piece_drawing(plan: Plan, piece: Piece, fmt: Format) -> Drawing:
    """The show face above, the inside below it as it is seen from inside; hidden cuts dashed."""
    x0, y0, x1, y1 = bounds((*piece.show_face, *piece.inside_face))
    reach = max(x1 - x0, y1 - y0)
    gap = max(reach * 0.14, (y1 - y0) * 0.42)  # room for a size and a name between the faces
    drop = (y1 - y0) + gap
    shapes = [*_face(piece, "show", lambda p: p)]

    def turned(p: Point) -> Point:
        return (x0 + x1 - p[0], p[1] - drop)

    shapes += _face(piece, "inside", turned)
    cut = as_cut(plan).get(piece.id)
    if cut is not None:
        for face, at in (("show", _as_it_is), ("inside", turned)):
            shapes += _cut_already(piece, cut, face, at)
        where = (x1, y1 - drop)
        shapes.append(Label(where, "as it is cut already", "caution", 8.0, anchor="right", shift=(0.0, 7.0)))
    long, wide = piece.size_mm
    low, right = min(y for _x, y in piece.show_face), max(x for x, _y in piece.show_face)
    away = gap * 0.42
    shapes += dimension((x0, low), (x0 + long, low), (0.0, -away), "", "follows")
    shapes.append(Label((x0 + long / 2, low - away), fmt.length(long), "follows", 9.0, shift=(0.0, -8.0)))
    shapes += dimension((right, low), (right, low + wide), (away, 0.0), "", "follows")
    shapes.append(
        Label(
            (right + away, low + wide / 2), fmt.length(wide), "follows", 9.0, turn_deg=90.0, shift=(9.0, 0.0)
        )
    )
    shapes.append(Label((x0, y1), "show face", "quiet", 8.0, anchor="left", shift=(0.0, 8.0)))
    shapes.append(Label((x0, y1 - drop), "inside", "quiet", 8.0, anchor="left", shift=(0.0, 7.0)))
    tags = _opening_tags(plan, piece, (x0 + x1) / 2)
    return Drawing(
        tuple(shapes), tuple(tags),
        bounds=(x0 - reach * 0.03, y0 - drop - gap * 0.2, right + away * 2.2, y1 + gap * 0.5),
        words=told_whole(piece, fmt) + (" It is cut otherwise already." if cut is not None else ""),
    )  # fmt: skip


def _as_it_is(p: Point) -> Point:
    return p


def _cut_already(piece: Piece, cut: Piece, face: str, at: Callable[[Point], Point]) -> list[Shape]:
    """What a piece has already that the plan has otherwise: its outline, and features."""
    planned, outline = (one.show_face if face == "show" else one.inside_face for one in (piece, cut))
    shapes: list[Shape] = []
    if planned != outline:
        shapes.append(Path(tuple(at(p) for p in outline), "caution", weight=1.4))
    for feature in cut.features:
        shown = _shown(feature, outline) if feature not in piece.features else ()
        if len(shown) > 2:
            here = feature.face == face
            shapes.append(Path(tuple(at(p) for p in shown), "caution", weight=1.4, dash=not here))
    return shapes


def _face(piece: Piece, face: str, at: Callable[[Point], Point]) -> list[Shape]:
    """One face, solid what is cut into it, dashed what is cut into the other."""
    outline = piece.show_face if face == "show" else piece.inside_face
    other = piece.inside_face if face == "show" else piece.show_face
    whole: Fill = "hatch" if face == "show" else "tint"
    shapes: list[Shape] = [Path(tuple(at(p) for p in outline), "wood", whole, weight=1.2)]
    if other != outline:
        shapes.append(Path(tuple(at(p) for p in other), "quiet", weight=0.6, dash=True))
    for feature in piece.features:
        shown = _shown(feature, outline)
        if len(shown) < 3:
            continue
        through = feature.depth_mm >= piece.thickness_mm - 1e-6
        here = (feature.face == face or through) and bool(feature.flat)
        role: Role = "inside" if feature.kind == "opening" else "blade"
        fill: Fill = "none" if not here else "solid" if feature.kind == "opening" else "tint"
        shapes.append(Path(tuple(at(p) for p in shown), role, fill, weight=0.9, dash=not here))
    return shapes


def _shown(feature: Feature, outline: Sequence[Point]) -> tuple[Point, ...]:
    """Where a feature is seen on a face: within it, unless it has an outline of its own."""
    if feature.outline:
        return feature.flat
    seen = feature.flat or feature.shadow
    return clipped(seen, outline) if len(seen) > 2 else ()


def _opening_tags(plan: Plan, piece: Piece, middle: float) -> list[Tag]:
    """The sizes of the openings that were decided in this side."""
    tags: list[Tag] = []
    for feature in piece.features:
        if feature.kind != "opening" or piece.part != "side":
            continue
        number = int(feature.id.rsplit(".", 1)[1]) - 1
        opening = plan.job.design.section.openings[number]
        x0, y0, x1, y1 = bounds(feature.flat)
        if not piece.id.endswith(f".{_letter(plan, opening.side)}"):
            continue
        own = fields.opening_fields(number, (x0 + x1) / 2)
        sign = 1.0 if (x0 + x1) / 2 <= middle else -1.0
        tags.append(Tag(own["width_mm"], ((x0 + x1) / 2, y1), shift=(0.0, 14.0)))
        tags.append(Tag(own["along_mm"], (x0, (y0 + y1) / 2), shift=(-34.0 * sign, -14.0)))
        if opening.kind != "notch":
            tags.append(Tag(own["up_mm"], ((x0 + x1) / 2, y0), shift=(0.0, -14.0)))
        if opening.kind != "hole":
            tags.append(Tag(own["high_mm"], (x1, (y0 + y1) / 2), shift=(34.0 * sign, 10.0)))
    return tags


def _letter(plan: Plan, side: int) -> str:
    return plan.ring.sides[min(side, len(plan.ring.sides) - 1)].name


def fitted(piece: Piece, wide: float, high: float) -> tuple[list[Shape], float]:
    """The show face with its features for a small picture, its middle at the origin; and its scale."""
    x0, y0, x1, y1 = bounds(piece.show_face)
    scale = min(wide / max(x1 - x0, 1e-6), high / max(y1 - y0, 1e-6))
    cx, cy = (x0 + x1) / 2, (y0 + y1) / 2

    def at(p: Point) -> Point:
        return ((p[0] - cx) * scale, (p[1] - cy) * scale)

    return _face(piece, "show", at), scale
