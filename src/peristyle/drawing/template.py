"""Templates true to size: a corner to fold round the box with its slots, and the story stick of all heights.

Drawn in mm as they are to be printed; nothing in them is fitted to anything.
"""

from collections.abc import Sequence
from typing import Final

from peristyle.core.lengths import Format
from peristyle.core.outlines import bounds, box, clipped
from peristyle.drawing.corner import Faces
from peristyle.drawing.part_template import part_templates
from peristyle.drawing.rule import reach_mm, ruler
from peristyle.drawing.shapes import Drawing, Label, Path, Shape, line
from peristyle.planning.corners.frame import frames_of
from peristyle.planning.plan import Plan
from peristyle.planning.section.covers import roof_of
from peristyle.words.corners import KINDS

_BESIDE_MM: Final = 14.0  # what is shown of a face past its slots
_STICK_MM: Final = 22.0
_APART_MM: Final = 30.0


def templates(plan: Plan, fmt: Format) -> list[Drawing]:
    """A template for every kind of corner that has keys and for every part that wants one, then the story stick. Empty
    where there is no ring.
    """
    if not plan.ring.sides:
        return []
    corners = [_corner(plan, alike, fmt) for alike in _alike(plan)]
    return [*corners, *part_templates(plan, fmt), _stick(plan, fmt)]


def _alike(plan: Plan) -> list[tuple[int, ...]]:
    """Corners whose templates would be the same, together."""
    frames = frames_of(plan.ring)
    groups: dict[tuple[object, ...], list[int]] = {}
    for corner in plan.ring.corners:
        keys = plan.keys.at(corner.index)
        if keys:
            frame = frames[corner.index]
            looks = (
                round(corner.dihedral_deg, 4), round(frame.lean_deg, 4), round(frame.back[2], 6), round(frame.on[2], 6),
                *((k.set, round(k.height_mm, 4), round(k.depth_mm, 4), round(k.tip_deg, 4)) for k in keys),
            )  # fmt: skip
            groups.setdefault(looks, []).append(corner.index)
    return [tuple(group) for group in groups.values()]


def _corner(plan: Plan, corners: Sequence[int], fmt: Format) -> Drawing:
    """Both faces beside the arris, the slots, what their heights are; folded along the arris it lies on the corner."""
    frame = frames_of(plan.ring)[corners[0]]
    keys = plan.keys.at(frame.index)
    faces = Faces(plan, frame, half_mm=max(key.leg_mm for key in keys) + _BESIDE_MM)
    shapes: list[Shape] = [Path(outline, "follows", weight=1.0) for outline in faces.outlines]
    shapes.append(line((0.0, 0.0), (0.0, faces.tall), "follows", 1.0, dash=True))
    for which, side in enumerate(faces.sides):
        piece = next(piece for piece in plan.pieces if piece.id == f"side.{side.name}")
        for feature in piece.features:
            if feature.kind != "slot" or feature.id.split(".")[3] != frame.id or len(feature.flat) < 3:
                continue
            shown = clipped(faces.flat(which, feature.flat), faces.outlines[which])
            if len(shown) > 2:
                shapes.append(Path(shown, "follows", "tint", weight=0.7))
    for key in keys:
        at = key.height_mm / frame.edge[2]
        shapes.append(Label((-faces.half, at), fmt.length(key.height_mm), "follows", 8.0, anchor="right",
                            shift=(-4.0, 0.0)))  # fmt: skip
    if plan.section.lid:
        for height in (plan.section.lid.kerf_low_mm, plan.section.lid.kerf_high_mm):
            for which in (0, 1):
                a, b = faces.level(which, height)
                shapes.append(line(a, b, "follows", 0.5, dash=True))
        shapes.append(Label((faces.half, plan.section.lid.line_mm / frame.edge[2]), "lid line", "follows", 8.0,
                            anchor="left", shift=(4.0, 0.0)))  # fmt: skip
    for side, (a, b, _c, _d) in zip(faces.sides, faces.outlines, strict=True):
        middle = ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)
        shapes.append(Label(middle, f"side {side.name}", "follows", 8.5, bold=True, shift=(0.0, 9.0)))
    names = ", ".join(plan.ring.corners[i].name for i in corners)
    kinds = " and ".join(dict.fromkeys(KINDS[key.kind] for key in keys))
    points = [p for outline in faces.outlines for p in outline]
    x0, y0, x1, y1 = bounds(points)
    text = f"{plan.job.design.name}: corner {names}, {kinds}"
    shapes.append(Label((x0, y1), text, "follows", 10.0, bold=True, anchor="left", shift=(0.0, 22.0)))
    shapes.append(Label((x0, y1), "Fold along the broken line; the foot lies level with the box's bottom edge.",
                        "follows", 8.0, anchor="left", shift=(0.0, 9.0)))  # fmt: skip
    shapes += ruler((x0, y0 - 14.0), fmt)
    return Drawing(
        tuple(shapes),
        bounds=(x0 - 16.0, y0 - 24.0, max(x1 + 18.0, x0 + reach_mm(fmt)), y1 + 14.0),
        words=f"{text}.",
    )


def heights_of(plan: Plan) -> list[tuple[float, str]]:
    """Every height that is set off on the box, from the bottom up, and what it is."""
    found = [(0.0, "bottom edge"), (plan.job.design.form.height_mm, "top edge")]
    for groove in plan.section.grooves:
        if groove.seat == "applied":
            continue  # it lies on the edge itself
        found += [
            (groove.low_mm, f"{groove.seat} ({groove.panel})"),
            (groove.high_mm, f"{groove.seat} ({groove.panel})"),
        ]
    roof = roof_of(plan.job.design, plan.ring.slabs)
    if roof is not None:
        found.append((roof.eaves_mm, "eaves, outside"))
    false = plan.job.design.section.false_floor
    if false is not None:
        found.append((plan.job.design.bare_floor_mm + false.height_mm, "strips of the false floor"))
    for one in plan.keys.sets:
        for height in one.heights_mm:
            half = one.keys.thickness_mm / 2
            word = KINDS[one.keys.kind][:-1]
            found += [(height - half, word), (height + half, word)]
    if plan.section.lid:
        found += [(plan.section.lid.kerf_low_mm, "lid line"), (plan.section.lid.kerf_high_mm, "lid line")]
    for spline in plan.splines.splines[:1]:
        found += [(spline.low_mm, "spline begins")] if spline.stopped_low else []
        found += [(spline.high_mm, "spline ends")] if spline.stopped_high else []
    for block in plan.corner_blocks.blocks[:1]:
        found += [(block.low_mm, "corner block begins"), (block.high_mm, "corner block ends")]
    if plan.liner and plan.job.design.inside.liner:
        found.append((plan.job.design.floor_mm + plan.job.design.inside.liner.height_mm, "liner"))
    return sorted(found)


def _stick(plan: Plan, fmt: Format) -> Drawing:
    """A strip with a mark at every height, and the same heights written beside it."""
    height = plan.job.design.form.height_mm
    shapes: list[Shape] = [Path(box(0.0, 0.0, _STICK_MM, height), "follows", weight=1.0)]
    written = -_APART_MM
    for at, what in heights_of(plan):
        shapes.append(line((0.0, at), (_STICK_MM, at), "follows", 0.6))
        written = max(at, written + 3.4)
        shapes.append(line((_STICK_MM, at), (_STICK_MM + 6.0, written), "follows", 0.3))
        shapes.append(
            Label((_STICK_MM + 7.0, written), f"{fmt.length(at)}  {what}", "follows", 8.0, anchor="left")
        )
    text = f"{plan.job.design.name}: story stick, heights on a plumb edge"
    shapes.append(Label((0.0, height), text, "follows", 10.0, bold=True, anchor="left", shift=(0.0, 10.0)))
    shapes += ruler((0.0, -14.0), fmt)
    return Drawing(
        tuple(shapes), bounds=(-4.0, -24.0, reach_mm(fmt), max(height, written) + 10.0), words=f"{text}."
    )
