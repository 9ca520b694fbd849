"""One corner: both faces unfolded as they are with their keys and keep-outs, the joint face with its splines, and the
section through the corner at the picked key.
"""

import math
from collections.abc import Callable, Iterator, Sequence
from typing import Final

from peristyle.core.lengths import Format
from peristyle.core.outlines import bounds, box, clipped
from peristyle.core.planes import Point, Vector, dot
from peristyle.drawing.board import face_on_board
from peristyle.drawing.shapes import Drawing, Grain, Handle, Label, Path, Pick, Role, Shape, Tag, line
from peristyle.model import corner_fields as fields
from peristyle.model.design import corner_name, side_name
from peristyle.model.fields import Field
from peristyle.planning.corners.blocks import section_of
from peristyle.planning.corners.frame import Frame, frames_of
from peristyle.planning.corners.keys import KeyPlan, slot_at
from peristyle.planning.making.parts.walls import stands
from peristyle.planning.making.piece import Place
from peristyle.planning.plan import Plan
from peristyle.words.corners import out_of

_At = Callable[[float, float], Point]  # a point of the section, in the drawing
_MOST_SCALE: Final = 6.0  # how much larger than the faces the section is drawn


def corner_drawing(plan: Plan, corner: int, key: int | None, fmt: Format) -> Drawing:
    """The corner at the end of side `corner`. `key` is the number of the picked key there, None the lowest."""
    ring = plan.ring
    if not ring.sides:
        return Drawing(shapes=(Label((50.0, 50.0), "No ring yet", "caution", 14.0, bold=True),),
                       words="No corner: the ring cannot be made.")  # fmt: skip
    corner = min(corner, len(ring.sides) - 1)
    frame = frames_of(ring)[corner]
    keys = plan.keys.at(corner)
    picked = next((one for one in keys if one.number == key), keys[0] if keys else None)
    faces = Faces(plan, frame)
    shapes, tags, handles = faces.shapes(), [*faces.tags(fmt)], [*faces.handles()]
    marked = any(out.corner == corner for out in plan.keys.keep_outs)
    beside = 0.06 if not marked else 0.46 if plan.splines.at(corner) else 0.3  # words stand there
    x = faces.right + faces.tall * beside
    joint = _joint_face(plan, frame, faces, x)
    section = _section(plan, frame, faces, joint.bounds[2] if joint else x, picked, fmt)
    for part in (*((joint,) if joint else ()), section):
        shapes += part.shapes
        tags += part.tags
        handles += part.handles
    x0 = faces.left - faces.tall * 0.24
    return Drawing(
        tuple(shapes), tuple(tags), tuple(handles),
        (x0, faces.low - faces.tall * 0.12, section.bounds[2], faces.top + faces.tall * 0.1),
        _words(plan, corner, keys, fmt),
    )  # fmt: skip


class Faces:
    """Both faces beside the arris, laid flat: a point's distance from the arris to either side, and up along it."""

    def __init__(self, plan: Plan, frame: Frame, half_mm: float | None = None) -> None:
        self.plan, self.frame = plan, frame
        ring = plan.ring
        self.sides = (ring.sides[frame.index], ring.sides[(frame.index + 1) % len(ring.sides)])
        self.places = tuple(stands(ring.slabs[side.index], side, 0.0) for side in self.sides)
        self.box = plan.job.design.form.height_mm
        self.tall = self.box / frame.edge[2]
        keys = plan.keys.at(frame.index)
        leg = max((key.leg_mm for key in keys), default=plan.job.design.thickness_of(frame.index) * 1.5)
        self.half = half_mm or max(leg * 2.0, self.tall * 0.4)
        self.outlines = (self._outline(0), self._outline(1))
        points = [p for outline in self.outlines for p in outline]
        left, self.low, right, self.top = bounds(points) if points else (0.0, 0.0, 0.0, self.tall)
        # Where sides lean much, faces run farther from the arris than they are wide there.
        self.left, self.right = min(left, -self.half), max(right, self.half)

    def at(self, which: int, point: Vector) -> Point:
        """A point of the box on one face, in the drawing."""
        frame = self.frame
        away = tuple(p - v for p, v in zip(point, frame.vertex, strict=True))
        down = frame.on if which else frame.back
        return ((dot(away, down) if which else -dot(away, down)), dot(away, frame.edge))  # type: ignore[arg-type]

    def flat(self, which: int, points: Sequence[Point]) -> tuple[Point, ...]:
        """Points of a side's show face, in the drawing."""
        place: Place = self.places[which]
        return tuple(self.at(which, place.of((x, y, 0.0))) for x, y in points)

    def _outline(self, which: int) -> tuple[Point, Point, Point, Point]:
        """A face as far as it is shown: a share of it beside the arris, its end as slanting as that share leaves it."""
        a, b, c, d = self.flat(which, self.sides[which].outer_face)
        side = self.sides[which]
        share = min(1.0, self.half / max(1e-6, min(side.outside_mm, side.outside_top_mm)))
        if which:
            return a, _between(a, b, share), _between(d, c, share), d
        return _between(b, a, share), b, c, _between(c, d, share)

    def shapes(self) -> list[Shape]:
        """Wood, keep-outs, what is cut into the faces, keys, the fold."""
        plan, frame = self.plan, self.frame
        shapes: list[Shape] = [*self._wood()]
        shapes += self._keep_outs()
        if plan.section.lid:
            lid = plan.section.lid
            bands = [self._band(which, lid.kerf_low_mm, lid.kerf_high_mm) for which in (0, 1)]
            shapes += [Path(band, "blade", "solid", weight=0.0) for band in bands if len(band) > 2]
        for groove in (one for one in plan.section.grooves if one.seat != "applied"):
            for z in (groove.low_mm, groove.high_mm):
                for which in (0, 1):
                    on_face = clipped(self.level(which, z), self.outlines[which])
                    if len(on_face) > 1:
                        shapes.append(line(min(on_face), max(on_face), "quiet", 0.8, dash=True))
        shapes += self._cuts()
        for outline in self.outlines:
            shapes.append(Path(outline, "follows", weight=1.2))
        shapes.append(line((0.0, min(0.0, self.low)), (0.0, self.tall), "follows", 1.2, dash=True))
        for side, (_a, _b, c, d) in zip(self.sides, self.outlines, strict=True):
            shapes.append(Label(_between(c, d, 0.5), f"side {side_name(side.index)}", "follows", 10.0, bold=True,
                                shift=(0.0, 13.0), pick=Pick("side", side.index)))  # fmt: skip
        lies = ": the roof lies on the wall, nothing crosses it" if frame.lapped else ""
        shapes.append(
            Label((0.0, self.low), f"corner {frame.name}, unfolded{lies}", "quiet", 9.0, shift=(0.0, -14.0))
        )
        return shapes

    def _wood(self) -> Iterator[Shape]:
        """The wood of both faces, as it will be seen from outside."""
        where = {p.side: p for p in self.plan.wrap.pieces}
        for which, side in enumerate(self.sides):
            piece = where.get(side.index)
            if piece is None:
                continue
            a, b, c, d = face_on_board(side, piece)
            share = min(1.0, self.half / max(1e-6, min(side.outside_mm, side.outside_top_mm)))
            if which:
                b, c = _between(a, b, share), _between(d, c, share)
            else:
                a, d = _between(b, a, share), _between(c, d, share)
            yield Grain(self.outlines[which], (a, b, c, d), Pick("side", side.index), piece.show, piece.board)

    def level(self, which: int, height: float) -> tuple[Point, Point]:
        """Where a height of the box runs on a face: at the arris, and where the face ends or is cut off."""
        down = self.frame.on if which else self.frame.back
        at = height / self.frame.edge[2]
        rise = -down[2] / self.frame.edge[2]
        far = max((abs(x) for x, _y in self.outlines[which]), default=self.half)
        return (0.0, at), ((far if which else -far), at + rise * far)

    def _band(self, which: int, low: float, high: float) -> tuple[Point, ...]:
        """A stretch of height on a face."""
        (a, b), (c, d) = self.level(which, low), self.level(which, high)
        return clipped((a, b, d, c), self.outlines[which]) if len(self.outlines[which]) > 2 else ()

    def _keep_outs(self) -> Iterator[Shape]:
        taken: list[float] = []
        for out in self.plan.keys.keep_outs:
            if out.corner != self.frame.index:
                continue
            role: Role = "blade" if out.why == "lid line" else "caution"
            for which in (0, 1):
                band = self._band(which, max(0.0, out.low_mm), min(self.box, out.high_mm))
                if len(band) > 2:
                    yield Path(band, role, "hatch", weight=0.5, dash=True)
            at = self.level(1, (max(0.0, out.low_mm) + min(self.box, out.high_mm)) / 2)[1]
            aside = self._clear_of(taken, at[1])
            taken.append(aside)
            yield Label((at[0], aside), out_of(out), "quiet", 8.5, anchor="left", shift=(6.0, 0.0))

    def _clear_of(self, taken: Sequence[float], wanted: float) -> float:
        """A height for a word that no other word stands at."""
        step = self.tall * 0.055
        tries = (wanted + sign * step * k for k in range(8) for sign in (1.0, -1.0))
        return next((y for y in tries if all(abs(y - t) > step * 0.98 for t in taken)), wanted)

    def _cuts(self) -> Iterator[Shape]:
        """Keys as they open on the faces, and whatever else is cut into them."""
        cuts = {piece.id: piece.features for piece in self.plan.pieces if piece.part == "side"}
        for which, side in enumerate(self.sides):
            for feature in cuts.get(f"side.{side.name}", ()):
                if feature.face != "show" or len(feature.flat) < 3 or len(self.outlines[which]) < 3:
                    continue
                shown = clipped(self.flat(which, feature.flat), self.outlines[which])
                if len(shown) < 3:
                    continue
                if feature.kind == "slot":
                    if feature.id.split(".")[3] == self.frame.id:
                        number = int(feature.id.rsplit(".", 1)[1])
                        yield Path(shown, "key", "solid", weight=1.0, pick=Pick("key", number - 1))
                elif feature.kind == "opening":
                    yield Path(shown, "inside", "solid", weight=0.8)

    def tags(self, fmt: Format) -> Iterator[Tag]:
        """The height of every key."""
        for key, field in self._positions():
            yield Tag(field, (self.left - self.tall * 0.12, key.height_mm / self.frame.edge[2]), prefix="")

    def handles(self) -> Iterator[Handle]:
        """Keys are dragged along the arris."""
        for key, field in self._positions():
            at = key.height_mm / self.frame.edge[2]
            grip = max(key.thickness_mm / 2, self.tall * 0.02)
            yield Handle(
                field, box(self.left, at - grip, self.right, at + grip), (0.0, 1.0), self.frame.edge[2]
            )

    def _positions(self) -> Iterator[tuple[KeyPlan, Field]]:
        for one in self.plan.keys.sets:
            for number, height in enumerate(one.heights_mm):
                for key in self.plan.keys.at(self.frame.index):
                    if key.set == one.name and key.height_mm == height:
                        yield key, fields.key_position(self.plan.job, one.name, number, one.heights_mm)


def _between(a: Point, b: Point, share: float) -> Point:
    return (a[0] + (b[0] - a[0]) * share, a[1] + (b[1] - a[1]) * share)


def _joint_face(plan: Plan, frame: Frame, faces: Faces, x: float) -> Drawing | None:
    """The joint face of the first side with the splines' grooves in it: the inside arris at its left."""
    splines = plan.splines.at(frame.index)
    if not splines:
        return None
    wide, tall = frame.joint_mm, faces.tall
    scale = max(1.0, min(2.5, tall * 0.3 / wide))
    start = x + tall * 0.1
    shapes: list[Shape] = [Path(box(start, 0.0, start + wide * scale, tall), "wood", "hatch", weight=1.2)]
    tags, handles = [], []
    for spline in splines:
        near, far = (start + (spline.place_mm + way * spline.thickness_mm / 2) * scale for way in (-1.0, 1.0))
        shapes.append(Path(box(near, spline.low_mm, far, spline.high_mm), "key", "solid", weight=1.0))
        if spline.number == 1:
            for field, at, sign in (
                (fields.SPLINE_LOW, spline.low_mm, 1.0), (fields.SPLINE_HIGH, spline.high_mm, -1.0),
            ):  # fmt: skip
                tags.append(Tag(field, (start + wide * scale, at), shift=(36.0, 0.0), prefix=""))
                grip = tall * 0.025
                area = box(near - grip, at - grip, far + grip, at + grip)
                handles.append(Handle(field, area, (0.0, sign)))
    shapes.append(Label((start + wide * scale / 2, 0.0), "joint face", "quiet", 9.0, shift=(0.0, -14.0)))
    shapes.append(Label((start, tall), "inside", "quiet", 8.5, shift=(0.0, 9.0)))
    return Drawing(
        tuple(shapes), tuple(tags), tuple(handles), (start, 0.0, start + wide * scale + tall * 0.3, tall)
    )


def _section(plan: Plan, frame: Frame, faces: Faces, x: float, key: KeyPlan | None, fmt: Format) -> Drawing:
    """The corner cut through: square to the arris, or in the plane of a tipped key; outer arris at the top."""
    job, tall = plan.job, faces.tall
    slot = slot_at(job, frame, key) if key else None
    half = slot.half_rad if slot else frame.half_rad
    # In a tipped plane the walls look thicker.
    thicker = (
        slot.breakthrough_mm * math.sin(half) / (frame.through_mm * math.sin(frame.half_rad)) if slot else 1.0
    )
    t1, t2 = (wall * thicker for wall in frame.walls_mm)
    blocks = [block for block in plan.corner_blocks.blocks if block.corner == frame.index]
    arm = max(
        [key.leg_mm * 1.5 if key else 0.0, max(t1, t2) / math.tan(half) * 2.2, max(t1, t2) * 1.8]
        + [max(t1, t2) / math.tan(half) + block.leg_mm * 1.4 for block in blocks]
    )
    wide = 2 * arm * math.sin(half)
    deep = arm * math.cos(half) + max(t1, t2) / math.sin(half)
    scale = min(tall * 0.95 / wide, tall * 0.62 / deep, _MOST_SCALE)
    x += tall * 0.06
    cx, cy = x + wide * scale / 2, tall * 0.92

    def at(px: float, py: float) -> Point:
        return (cx + px * scale, cy + py * scale)

    left, right = (-math.sin(half), -math.cos(half)), (math.sin(half), -math.cos(half))
    n1, n2 = (math.cos(half), -math.sin(half)), (-math.cos(half), -math.sin(half))
    inner = _meet(left, n1, t1, right, n2, t2)
    shapes: list[Shape] = []
    for d, n, t in ((left, n1, t1), (right, n2, t2)):
        end = (d[0] * arm, d[1] * arm)
        quad = ((0.0, 0.0), end, (end[0] + n[0] * t, end[1] + n[1] * t), inner)
        shapes.append(Path(tuple(at(*p) for p in quad), "wood", "hatch", weight=1.2))
    tags = [*_let_in(plan, frame, at, shapes)]
    handles = [*_spline_handles(plan, frame, at, scale)]
    low = -deep
    if key:
        legs = (left[0] * key.leg_mm, left[1] * key.leg_mm), (right[0] * key.leg_mm, right[1] * key.leg_mm)
        shapes.append(Path(tuple(at(*p) for p in ((0.0, 0.0), *legs)), "key", "solid", weight=1.2))
        tags += _key_section(plan, key, at, half, arm, shapes, fmt)
        low = min(low, -key.breakthrough_mm * 1.15)
    name = f"{fmt.angle(math.degrees(2 * half))} corner" + (
        ", in the slot's plane" if slot and slot.tip_rad else ""
    )
    shapes.append(Label(at(0.0, 0.0), name, "quiet", 9.0, shift=(0.0, 12.0)))
    tags += _foot_tags(plan, frame.index, key, cx)
    return Drawing(
        tuple(shapes),
        tuple(tags),
        tuple(handles),
        (x, at(0.0, low)[1], cx + wide * scale / 2 + tall * 0.12, tall),
    )


def _let_in(plan: Plan, frame: Frame, at: _At, shapes: list[Shape]) -> Iterator[Tag]:
    """Blocks and splines as the section shows them, and the sizes that stand on them."""
    for block in plan.corner_blocks.blocks:
        if block.corner == frame.index:
            flat = [_across(frame, p) for p in section_of(frame, block)]
            shapes.append(Path(tuple(at(*p) for p in flat), "panel", "solid", weight=1.0))
            yield Tag(fields.BLOCK_LEG, at(*flat[0]), shift=(-10.0, -16.0), prefix="leg")
    for spline in plan.splines.at(frame.index):
        for sign in (-1.0, 1.0):
            points = _groove_section(frame, spline.place_mm, spline.thickness_mm, sign * spline.depth_mm)
            shapes.append(Path(tuple(at(*p) for p in points), "key", "solid", weight=1.0))


def _spline_handles(plan: Plan, frame: Frame, at: _At, scale: float) -> Iterator[Handle]:
    """The first spline is dragged along the joint."""
    for spline in plan.splines.at(frame.index)[:1]:
        area = _groove_section(frame, spline.place_mm, spline.thickness_mm, spline.depth_mm)
        way = _in_section(frame, frame.joint)
        yield Handle(fields.SPLINE_PLACE, tuple(at(*p) for p in area), way, 1.0 / scale)


def _foot_tags(plan: Plan, corner: int, key: KeyPlan | None, cx: float) -> Iterator[Tag]:
    """Sizes that belong to no line of the section, at its foot."""
    rows: list[tuple[Field, str]] = []
    if key:
        own = fields.KEY_FIELDS[key.set]
        one = plan.keys.set_of(key.set)
        rows += [(own.thickness, "wide" if key.kind == "dovetail" else "key thick"), (own.edge, "margin")]
        if key.kind == "dovetail":
            rows.append((own.flare, "bit"))
        if one and one.keys.placed == "spaced" and not one.keys.positions_mm:
            rows.append((own.spacing, "every"))
        rows.append((own.slant, "slant"))
    splines = plan.job.design.joints.splines
    if splines and plan.splines.at(corner):
        rows += [
            (fields.SPLINE_PLACE, "spline in"),
            (fields.SPLINE_DEPTH, "deep"),
            (fields.SPLINE_THICKNESS, "thick"),
        ]
        rows += [(fields.SPLINE_APART, "apart")] if splines.count == 2 else []
    if any(block.corner == corner for block in plan.corner_blocks.blocks):
        rows += [(fields.BLOCK_BELOW, "block under rim")]
    for number, (field, prefix) in enumerate(rows):
        column, row = number % 2, number // 2
        yield Tag(
            field,
            (cx, 0.0),
            shift=(-40.0 + 120.0 * column, 24.0 * ((len(rows) - 1) // 2 - row) - 6.0),
            prefix=prefix,
        )


def _key_section(
    plan: Plan, key: KeyPlan, at: _At, half: float, arm: float, shapes: list[Shape], fmt: Format
) -> list[Tag]:
    """Depth against breakthrough, in figure and mark; leg and base."""
    limit, wide = key.through_mm, 2 * arm * math.sin(half)
    leg, depth = key.leg_mm, key.depth_mm
    right = (math.sin(half), -math.cos(half))
    shapes.append(line(at(-wide / 3, -limit), at(wide / 3, -limit), "caution", 1.0, dash=True))
    foot = min(
        -limit, -arm * math.cos(half) - min(plan.ring.sides[key.corner].thickness_mm, limit) * math.sin(half)
    )
    shapes.append(Label(at(0.0, foot), f"breaks through at {fmt.length(limit)}", "caution", 9.0,
                        shift=(0.0, -16.0)))  # fmt: skip
    shapes.append(line(at(0.0, 0.0), at(0.0, -depth), "decided", 1.0))
    for text, down in ((f"leg {fmt.length(leg)}", 6.0), (f"base {fmt.length(key.base_mm)}", 20.0)):
        shapes.append(Label(at(right[0] * leg, right[1] * leg), text, "quiet", 9.0, anchor="left",
                            shift=(8.0, down)))  # fmt: skip
    own, keys = fields.KEY_FIELDS[key.set], plan.keys.set_of(key.set)
    by_leg = keys is not None and keys.keys.leg_mm is not None
    field = own.leg if by_leg else own.depth
    return [Tag(field, at(0.0, -depth / 2), shift=(-46.0, 34.0), prefix="leg" if by_leg else "deep")]


def _across(frame: Frame, point: Vector) -> Point:
    """A point of the box as the section shows it: across the corner, and outward."""
    away: Vector = tuple(p - v for p, v in zip(point, frame.vertex, strict=True))  # type: ignore[assignment]
    return (dot(away, frame.across), -dot(away, frame.inward))


def _in_section(frame: Frame, way: Vector) -> Point:
    return (dot(way, frame.across), -dot(way, frame.inward))


def _groove_section(frame: Frame, place: float, thick: float, depth: float) -> tuple[Point, ...]:
    """A spline's groove in one piece, in the section."""
    foot: Vector = tuple(p - v for p, v in zip(frame.inner, frame.vertex, strict=True))  # type: ignore[assignment]
    ix, iy = dot(foot, frame.across), -dot(foot, frame.inward)
    (jx, jy), (bx, by) = _in_section(frame, frame.joint), _in_section(frame, frame.beside)
    return tuple(
        (ix + jx * out + bx * beside, iy + jy * out + by * beside)
        for out, beside in (
            (place - thick / 2, 0.0), (place - thick / 2, depth), (place + thick / 2, depth), (place + thick / 2, 0.0),
        )
    )  # fmt: skip


def _meet(d1: Point, n1: Point, t1: float, d2: Point, n2: Point, t2: float) -> Point:
    """Where the inner faces cross: the lines t1·n1 + s·d1 and t2·n2 + s·d2."""
    ox, oy = n2[0] * t2 - n1[0] * t1, n2[1] * t2 - n1[1] * t1
    det = d1[0] * -d2[1] + d1[1] * d2[0]
    s = (ox * -d2[1] + oy * d2[0]) / det
    return (n1[0] * t1 + d1[0] * s, n1[1] * t1 + d1[1] * s)


def _words(plan: Plan, corner: int, keys: Sequence[KeyPlan], fmt: Format) -> str:
    name = corner_name(corner, len(plan.ring.sides))
    parts = []
    if keys:
        heights = ", ".join(fmt.length(k.height_mm, unit=True) for k in keys)
        parts.append(
            f"keys at {heights}, {fmt.length(keys[0].depth_mm, unit=True)} deep; they would break through at "
            f"{fmt.length(keys[0].through_mm, unit=True)}"
        )
    for spline in plan.splines.at(corner)[:1]:
        parts.append(f"a spline {fmt.length(spline.length_mm, unit=True)} long in the miter")
    if any(block.corner == corner for block in plan.corner_blocks.blocks):
        parts.append("a block fitted in from inside")
    return (
        f"Corner {name} unfolded with {'; '.join(parts)}." if parts else f"Corner {name} unfolded; no keys."
    )
