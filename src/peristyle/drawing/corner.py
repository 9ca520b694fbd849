"""One corner unfolded flat: both faces with their keys and keep-outs, and the corner from above."""

import math

from peristyle.core.lengths import Format
from peristyle.core.planes import Point
from peristyle.drawing.board import face_on_board
from peristyle.drawing.shapes import Drawing, Grain, Handle, Label, Path, Pick, Role, Shape, Tag, box, line
from peristyle.model import fields
from peristyle.model.design import corner_name, side_name
from peristyle.planning.corners.keys import KeyPlan
from peristyle.planning.plan import Plan


def corner_drawing(plan: Plan, corner: int, fmt: Format) -> Drawing:
    """The corner at the end of side `corner`, unfolded, with the look from above beside it."""
    ring, job = plan.ring, plan.job
    if not ring.sides:
        return Drawing(shapes=(Label((50.0, 50.0), "No ring yet", "caution", 14.0, bold=True),),
                       words="No corner: the ring cannot be made.")  # fmt: skip
    corner = min(corner, len(ring.sides) - 1)
    height = job.design.form.height_mm
    keys = [k for k in plan.keys.keys if k.corner == corner]
    leg = max((k.leg_mm for k in keys), default=job.design.thickness_of(corner) * 1.5)
    half = max(leg * 2.2, height * 0.42)
    shapes: list[Shape] = _faces(plan, corner, half)
    tags: list[Tag] = []
    handles: list[Handle] = []
    for out in plan.keys.keep_outs:
        role: Role = "blade" if out.why == "lid line" else "caution"
        low, high = max(0.0, out.low_mm), min(height, out.high_mm)
        if high > low:
            shapes.append(Path(box(-half, low, half, high), role, "hatch", weight=0.5, dash=True))
            aside = 0.0 if out.why != "groove" else 8.0 if high < height / 2 else -8.0
            shapes.append(Label((half, (low + high) / 2), out.why, "quiet", 8.5, anchor="left",
                                shift=(6.0, aside)))  # fmt: skip
    if plan.section.lid:
        lid = plan.section.lid
        shapes.append(Path(box(-half, lid.kerf_low_mm, half, lid.kerf_high_mm), "blade", "solid", weight=0.0))
    for groove in plan.section.grooves:
        for z in (groove.low_mm, groove.high_mm):
            shapes.append(line((-half, z), (half, z), "quiet", 0.8, dash=True))
    away = height * 0.1
    for number, key in enumerate(keys):
        low, high = key.height_mm - key.thickness_mm / 2, key.height_mm + key.thickness_mm / 2
        shapes.append(
            Path(
                box(-key.leg_mm, low, key.leg_mm, high), "key", "solid", weight=1.0, pick=Pick("key", number)
            )
        )
        field = fields.key_position(job, number, plan.keys.heights_mm)
        tags.append(Tag(field, (-half - away * 1.2, key.height_mm), prefix=""))
        shapes.append(
            line((-half - away * 0.55, key.height_mm), (-key.leg_mm, key.height_mm), "decided", 0.6)
        )
        grip = max(key.thickness_mm / 2, height * 0.02)
        handles.append(
            Handle(field, box(-half, key.height_mm - grip, half, key.height_mm + grip), (0.0, 1.0))
        )
    shapes.append(line((0.0, 0.0), (0.0, height), "follows", 1.2, dash=True))
    shapes.append(Path(box(-half, 0, half, height), "follows", weight=1.2))
    name = corner_name(corner, len(ring.sides))
    second = (corner + 1) % len(ring.sides)
    for x, side in ((-half / 2, corner), (half / 2, second)):
        shapes.append(Label((x, height), f"side {side_name(side)}", "follows", 10.0, bold=True,
                            shift=(0.0, 11.0), pick=Pick("side", side)))  # fmt: skip
    lies = ": the roof lies on the wall, no keys" if ring.corners[corner].lapped else ""
    shapes.append(Label((0.0, 0.0), f"corner {name}, unfolded{lies}", "quiet", 9.0, shift=(0.0, -14.0)))
    x_end = half + away
    if keys:
        x_end = _from_above(plan, corner, keys[0], half + away * 3.0, shapes, tags, fmt)
    return Drawing(
        tuple(shapes), tuple(tags), tuple(handles),
        (-half - away * 2.2, -away * 1.2, x_end, height + away), _words(plan, corner, keys, fmt),
    )  # fmt: skip


def _faces(plan: Plan, corner: int, half: float) -> list[Shape]:
    """The wood of both faces beside the fold, as it will be seen from outside."""
    ring = plan.ring
    second = (corner + 1) % len(ring.sides)
    where = {p.side: p for p in plan.wrap.pieces}
    height = plan.job.design.form.height_mm
    shapes: list[Shape] = []
    for index, at_end in ((corner, True), (second, False)):
        side, piece = ring.sides[index], where[index]
        a, b, c, d = face_on_board(side, piece)
        shown = min(half, side.outside_mm)
        part = shown / side.outside_mm
        if at_end:
            a, d = _between(b, a, part), _between(c, d, part)
            target = box(-shown, 0, 0, height)
        else:
            b, c = _between(a, b, part), _between(d, c, part)
            target = box(0, 0, shown, height)
        shapes.append(Grain(target, (a, b, c, d), Pick("side", index), piece.show, piece.board))
    return shapes


def _between(a: Point, b: Point, part: float) -> Point:
    return (a[0] + (b[0] - a[0]) * part, a[1] + (b[1] - a[1]) * part)


def _from_above(
    plan: Plan, corner: int, key: KeyPlan, x: float, shapes: list[Shape], tags: list[Tag], fmt: Format
) -> float:
    """The corner from above with its slot: depth along the bisector, leg, and the breakthrough."""
    job, ring = plan.job, plan.ring
    angle = ring.corners[corner].dihedral_deg
    half = math.radians(angle / 2)
    t1 = job.design.thickness_of(corner)
    t2 = job.design.thickness_of((corner + 1) % len(ring.sides))
    arm = max(key.leg_mm * 1.5, max(t1, t2) / math.tan(half) * 2.2)
    height = job.design.form.height_mm
    wide, deep = 2 * arm * math.sin(half), arm * math.cos(half) + max(t1, t2) / math.sin(half)
    scale = min(height * 0.95 / wide, height * 0.62 / deep, 6.0)
    cx, cy = x + wide * scale / 2, height * 0.9

    def at(px: float, py: float) -> Point:
        return (cx + px * scale, cy + py * scale)

    # The outer corner at the top, the bisector pointing down.
    left, right = (-math.sin(half), -math.cos(half)), (math.sin(half), -math.cos(half))
    n1, n2 = (math.cos(half), -math.sin(half)), (-math.cos(half), -math.sin(half))
    inner = _meet(left, n1, t1, right, n2, t2)
    for d, n, t in ((left, n1, t1), (right, n2, t2)):
        end = (d[0] * arm, d[1] * arm)
        quad = ((0.0, 0.0), end, (end[0] + n[0] * t, end[1] + n[1] * t), inner)
        shapes.append(Path(tuple(at(*p) for p in quad), "wood", "hatch", weight=1.2))
    leg, depth = key.leg_mm, key.depth_mm
    slot = ((0.0, 0.0), (left[0] * leg, left[1] * leg), (right[0] * leg, right[1] * leg))
    shapes.append(Path(tuple(at(*p) for p in slot), "key", "solid", weight=1.2))
    limit = key.breakthrough_mm
    shapes.append(line(at(-wide / 3, -limit), at(wide / 3, -limit), "caution", 1.0, dash=True))
    foot = -max(arm * math.cos(half), limit)
    shapes.append(Label(at(0.0, foot), f"breaks through at {fmt.length(limit)}", "caution", 9.0,
                        shift=(0.0, -54.0)))  # fmt: skip
    shapes.append(line(at(0.0, 0.0), at(0.0, -depth), "decided", 1.0))
    shapes.append(Label(at(0.0, 0.0), f"{fmt.angle(angle)} corner", "quiet", 9.0, shift=(0.0, 12.0)))
    shapes.append(Label(at(right[0] * leg, right[1] * leg), f"leg {fmt.length(leg)}", "quiet", 9.0,
                        anchor="left", shift=(8.0, 6.0)))  # fmt: skip
    shapes.append(Label(at(right[0] * leg, right[1] * leg), f"base {fmt.length(key.base_mm)}", "quiet", 9.0,
                        anchor="left", shift=(8.0, 20.0)))  # fmt: skip
    which = (
        fields.KEY_LEG
        if job.design.joints.keys and job.design.joints.keys.leg_mm is not None
        else fields.KEY_DEPTH
    )
    tags.append(
        Tag(
            which,
            at(0.0, -depth / 2),
            shift=(-46.0, 34.0),
            prefix="leg" if which is fields.KEY_LEG else "deep",
        )
    )
    tags.append(Tag(fields.KEY_THICKNESS, (cx, height * 0.0), shift=(-14.0, 16.0), prefix="key thick"))
    tags.append(Tag(fields.KEY_EDGE, (cx, height * 0.0), shift=(88.0, 16.0), prefix="margin"))
    return cx + wide * scale / 2 + height * 0.12


def _meet(d1: Point, n1: Point, t1: float, d2: Point, n2: Point, t2: float) -> Point:
    """Where the inner faces cross: the lines t1·n1 + s·d1 and t2·n2 + s·d2."""
    ox, oy = n2[0] * t2 - n1[0] * t1, n2[1] * t2 - n1[1] * t1
    det = d1[0] * -d2[1] + d1[1] * d2[0]
    s = (ox * -d2[1] + oy * d2[0]) / det
    return (n1[0] * t1 + d1[0] * s, n1[1] * t1 + d1[1] * s)


def _words(plan: Plan, corner: int, keys: list[KeyPlan], fmt: Format) -> str:
    name = corner_name(corner, len(plan.ring.sides))
    if not keys:
        return f"Corner {name} unfolded; no keys."
    heights = ", ".join(fmt.length(k.height_mm, unit=True) for k in keys)
    return (
        f"Corner {name} unfolded with keys at {heights}, {fmt.length(keys[0].depth_mm, unit=True)} deep; "
        f"they would break through at {fmt.length(keys[0].breakthrough_mm, unit=True)}."
    )
