"""From the plan of the box to the list of its pieces, each with its features, in its place."""

import math
from collections.abc import Iterator, Sequence

from peristyle.core.outlines import Outline as Points
from peristyle.core.outlines import area, bounds, clipped
from peristyle.core.planes import Point, Slab, Vector, cross
from peristyle.model.design import Design, corner_name, side_name
from peristyle.planning.divider_plan import DividersPlan
from peristyle.planning.dividers import DividerPlan
from peristyle.planning.grooves import GroovePlan, in_side
from peristyle.planning.keys import KeyPlan, KeysPlan
from peristyle.planning.making.piece import Edge, Feature, FeatureKind, Part, Piece, Place
from peristyle.planning.ring import RingPlan, SidePlan
from peristyle.planning.section import LidPlan, PanelPlan, SectionPlan

_PAST_MM = 1.0  # how far a cut that runs through is drawn past the piece


def plan_pieces(
    design: Design,
    ring: RingPlan,
    section: SectionPlan,
    keys: KeysPlan,
    liner: tuple[RingPlan, float] | None,
    dividers: DividersPlan,
) -> tuple[Piece, ...]:
    """All pieces: sides, panels and their segments, liner, dividers, keys.

    `liner` is its ring and how high it stands.
    """
    if not ring.stands:
        return ()
    own = _dadoes(design, ring, dividers) if not dividers.in_liner else {}
    held = [(panel, groove) for panel in section.panels if (groove := section.groove(panel.name)) is not None]
    found = [
        *_walls(ring, "side", "board", 0.0, {
            side.index: (*_grooves(section, side), *_lid_kerf(section.lid, ring.slabs[side.index], side),
                         *own.get(side.index, ()), *_slots(ring, keys, side))
            for side in ring.sides
        }),
        *(_panel(panel, groove, tuple(_tongues(design, ring, groove, panel))) for panel, groove in held),
        *(segment for panel, groove in held for segment in _segments(panel, groove)),
    ]  # fmt: skip
    if liner is not None and liner[0].stands:
        within = _dadoes(design, liner[0], dividers) if dividers.in_liner else {}
        found += _walls(liner[0], "liner", "liner board", liner[1], within)
    base = liner[1] if liner is not None and dividers.in_liner else design.floor_mm
    found += [_divider(piece, base) for piece in dividers.pieces]
    found += [_key(ring, key, number) for number, key in _numbered(keys)]
    return tuple(found)


# --- sides, of the box and of a liner


def _walls(
    ring: RingPlan, part: Part, stock: str, base_mm: float, features: dict[int, tuple[Feature, ...]]
) -> Iterator[Piece]:
    word = "Side" if part == "side" else "Liner"
    for side in ring.sides:
        yield Piece(
            id=f"{part}.{side.name}",
            part=part,
            name=f"{word} {side.name}",
            stock=stock,
            thickness_mm=side.thickness_mm,
            grain_deg=0.0,
            show_face=side.outer_face,
            inside_face=side.inner_face,
            edges=(
                Edge("bottom", side.slope_deg),
                Edge("end", side.end.bevel_deg, side.end.miter_deg),
                Edge("top", side.slope_deg),
                Edge("start", side.start.bevel_deg, side.start.miter_deg),
            ),
            place=_stands(ring.slabs[side.index], side, base_mm),
            features=features.get(side.index, ()),
        )


def _stands(slab: Slab, side: SidePlan, base_mm: float) -> Place:
    """A side in the ring, its bottom edge `base_mm` over the box's."""
    x, y = side.foot[0]
    nx, ny, nz = slab.normal
    return Place((x, y, base_mm), slab.along, slab.up_face, (-nx, -ny, -nz))


def _reach(side: SidePlan) -> tuple[float, float]:
    xs = [x for x, _y in (*side.outer_face, *side.inner_face)]
    return min(xs) - _PAST_MM, max(xs) + _PAST_MM


def _along(feature: str, kind: FeatureKind, side: SidePlan, profile: Points, thick: float) -> Feature:
    """A cut right along a side's inside face, its profile (y, z) in the side's own frame."""
    low, high = _reach(side)
    return Feature(
        f"side.{side.name}.{feature}", kind, "inside",
        ((low, 0.0), (high, 0.0)), tuple((y, thick - z) for y, z in profile),
    )  # fmt: skip


def _grooves(section: SectionPlan, side: SidePlan) -> Iterator[Feature]:
    for groove in section.grooves:
        profile = groove.profiles[side.index]
        yield _along(f"groove.{groove.panel}", "groove", side, profile, side.thickness_mm)


def _lid_kerf(lid: LidPlan | None, slab: Slab, side: SidePlan) -> Iterator[Feature]:
    """What the saw takes that frees the lid: level, right through."""
    if lid is None or lid.body_mm <= 0:
        return
    levels = (lid.kerf_low_mm, lid.kerf_high_mm)
    profile = [
        in_side(slab, slab.inner_mm(z, depth), z)
        for z, depth in (
            (levels[0], slab.thickness_mm), (levels[0], 0.0), (levels[1], 0.0), (levels[1], slab.thickness_mm)
        )
    ]  # fmt: skip
    yield _along("lid", "lid_kerf", side, tuple(profile), side.thickness_mm)


def _dadoes(design: Design, walls: RingPlan, dividers: DividersPlan) -> dict[int, tuple[Feature, ...]]:
    """The dadoes in each wall that the dividers stand in, from edge to edge."""
    found: dict[int, list[Feature]] = {}
    foot = 0.0 if dividers.in_liner else design.floor_mm
    part = "liner" if dividers.in_liner else "side"
    for piece in dividers.pieces:
        for end, dado in enumerate(piece.dadoes):
            feature = _dado(
                walls, piece, end, foot, f"{part}.{side_name(dado.side)}.dado.{_dotted(piece.name)}"
            )
            found.setdefault(dado.side, []).append(feature)
    return {side: tuple(features) for side, features in found.items()}


def _dado(walls: RingPlan, piece: DividerPlan, end: int, foot_mm: float, name: str) -> Feature:
    """One dado, edge to edge: the divider's end in the wall's own frame, swept along the line where they meet."""
    index = piece.dadoes[end].side
    slab, side = walls.slabs[index], walls.sides[index]
    place = _stands(slab, side, 0.0)
    way = (0.0, 1.0) if piece.run == "across" else (1.0, 0.0)
    sign = -1.0 if end == 0 else 1.0
    runs = [p[0] * way[0] + p[1] * way[1] for p in piece.outline]
    reach = min(runs) if end == 0 else max(runs)
    tips = [p for p, run in zip(piece.outline, runs, strict=True) if abs(run - reach) < 1e-9]
    # Where each face of the divider meets the wall's inner face, at its foot.
    inner = slab.inner_mm(foot_mm)
    ahead = (slab.ux * way[0] + slab.uy * way[1]) * sign
    met = []
    for x, y in tips:
        back = (slab.ux * x + slab.uy * y - inner) / ahead
        met.append((x - back * way[0] * sign, y - back * way[1] * sign))
    flat = [place.back((x, y, foot_mm)) for x, y in (met[0], tips[0], tips[1], met[1])]
    # Up the wall: the line in which a face of the divider meets it.
    line = _meeting(slab, way)
    up = place.back(tuple(o + v for o, v in zip(place.origin, line, strict=True)))  # type: ignore[arg-type]
    length = math.hypot(up[0], up[1])
    ux, uy = up[0] / length, up[1] / length
    start = flat[0]
    ups = [y for _x, y in (*side.outer_face, *side.inner_face)]
    lowest, highest = min(ups) - _PAST_MM, max(ups) + _PAST_MM
    # (left of the path, depth) of each corner, square to the path.
    profile = tuple(
        ((p[0] - start[0]) * -uy + (p[1] - start[1]) * ux, slab.thickness_mm - p[2]) for p in flat
    )
    path = tuple((start[0] + (y - start[1]) * ux / uy, y) for y in (lowest, highest))
    return Feature(name, "dado", "inside", (path[0], path[1]), profile)


def _meeting(slab: Slab, way: Point) -> Vector:
    """The direction, upward, in which an upright divider running `way` meets a wall."""
    across = (way[1], -way[0], 0.0)  # square to the divider's faces
    line = cross(slab.normal, across)
    return line if line[2] > 0 else (-line[0], -line[1], -line[2])


# --- panels


def _tongues(design: Design, ring: RingPlan, groove: GroovePlan, panel: PanelPlan) -> Iterator[Feature]:
    """What is planed off a panel's edges, above and below, where it goes into a leaning side with a tongue."""
    part = design.section.bottom if panel.name == "bottom" else design.section.top
    if part is None or groove.way != "tongue":
        return
    low = groove.rests_mm
    high = low + panel.thickness_mm
    for i, slab in enumerate(ring.slabs):
        edge = groove.edges_mm[i]
        # The panel's edge cut through, as far as it goes into the wall: (up the side's face, into its wood).
        quad = [in_side(slab, out, z) for out, z in (
            (slab.inner_mm(low), low), (edge, low), (edge, high), (slab.inner_mm(high), high))]  # fmt: skip
        ys = [y for y, _z in groove.profiles[i]]
        bottom, top = min(ys), max(ys) - part.fit_mm
        far = panel.thickness_mm * 50 + slab.thickness_mm
        for word, window in (
            ("under", ((-far, -far), (bottom, -far), (bottom, far), (-far, far))),
            ("over", ((top, -far), (far * 9, -far), (far * 9, far), (top, far))),
        ):
            cut = clipped(quad, window)
            if len(cut) < 3 or abs(area(cut)) < 1e-9:
                continue
            # Back in the box, and so from the panel's edge inward and from its upper face down.
            profile = tuple(
                (edge - slab.offset_mm - (y * slab.sin_slope - z * slab.cos_slope),
                 high - (y * slab.cos_slope + z * slab.sin_slope))
                for y, z in cut
            )  # fmt: skip
            a, b = panel.outline[i - 1], panel.outline[i]
            run = math.hypot(b[0] - a[0], b[1] - a[1])
            past = 4 * part.depth_mm / run
            path = (
                (a[0] - (b[0] - a[0]) * past, a[1] - (b[1] - a[1]) * past),
                (b[0] + (b[0] - a[0]) * past, b[1] + (b[1] - a[1]) * past),
            )
            yield Feature(f"panel.{panel.name}.tongue.{side_name(i)}.{word}", "tongue", "show", path, profile)


def _panel(panel: PanelPlan, groove: GroovePlan, features: tuple[Feature, ...]) -> Piece:
    """A panel, its show face up."""
    return Piece(
        id=f"panel.{panel.name}",
        part="panel",
        name=f"{panel.name.capitalize()} panel",
        stock="segments" if panel.segments else "panel stock",
        thickness_mm=panel.thickness_mm,
        grain_deg=0.0,
        show_face=panel.outline,
        inside_face=panel.outline,
        edges=tuple(Edge(side_name(i), 0.0) for i in range(len(panel.outline))),
        place=Place(
            (0.0, 0.0, groove.rests_mm + panel.thickness_mm),
            (1.0, 0.0, 0.0),
            (0.0, 1.0, 0.0),
            (0.0, 0.0, -1.0),
        ),
        features=features,
    )


def _segments(panel: PanelPlan, groove: GroovePlan) -> Iterator[Piece]:
    """The segments a panel is glued up of, round its middle, before it is cut to its outline."""
    made = panel.segments
    if made is None:
        return
    x0, y0, x1, y1 = bounds(panel.outline)
    cx, cy, up = (x0 + x1) / 2, (y0 + y1) / 2, groove.rests_mm + panel.thickness_mm
    outer, inner, wide = made.outer_mm, made.inner_mm, made.strip_mm
    face: Points = ((0.0, 0.0), (outer, 0.0), ((outer + inner) / 2, wide), ((outer - inner) / 2, wide))
    if inner <= 1e-9:
        face = (*face[:2], (outer / 2, wide))
    apothem = outer / 2 / math.tan(math.pi / made.count)
    for number in range(made.count):
        turn = 2 * math.pi * number / made.count - math.pi / 2
        out, along = (math.cos(turn), math.sin(turn)), (-math.sin(turn), math.cos(turn))
        origin = (
            cx + apothem * out[0] - outer / 2 * along[0], cy + apothem * out[1] - outer / 2 * along[1], up
        )  # fmt: skip
        yield Piece(
            id=f"segment.{panel.name}.{number + 1}",
            part="segment",
            name=f"{panel.name.capitalize()} segment {number + 1}",
            stock="segment strip",
            thickness_mm=panel.thickness_mm,
            grain_deg=0.0,
            show_face=face,
            inside_face=face,
            edges=(Edge("start", 0.0, -made.miter_deg), Edge("end", 0.0, -made.miter_deg)),
            place=Place(origin, (*along, 0.0), (-out[0], -out[1], 0.0), (0.0, 0.0, -1.0)),
        )


# --- dividers


def _dotted(name: str) -> str:
    return name.replace(" ", ".")


def _divider(piece: DividerPlan, base_mm: float) -> Piece:
    """A divider between its two walls, its foot `base_mm` up; x along its run, y up."""
    x0, y0, x1, _y1 = bounds(piece.outline)
    high, long = piece.height_mm, piece.length_mm
    outs = [high * math.tan(math.radians(lean)) for lean in piece.leans_deg]
    face = ((0.0, 0.0), (long, 0.0), (long + outs[1], high), (-outs[0], high))
    if piece.run == "across":
        place = Place((x1, y0, base_mm), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0), (-1.0, 0.0, 0.0))
    else:
        place = Place((x0, y0, base_mm), (1.0, 0.0, 0.0), (0.0, 0.0, 1.0), (0.0, 1.0, 0.0))
    thick = piece.thickness_mm
    low, top = (0.0, high / 2) if piece.run == "along" else (high / 2, high)
    past = _PAST_MM if piece.run == "across" else 0.0
    notches = tuple(
        Feature(
            f"divider.{_dotted(piece.name)}.notch.{number + 1}", "notch", "show",
            ((at, low - (_PAST_MM - past)), (at, top + past)),
            ((0.0, 0.0), (-thick, 0.0), (-thick, thick), (0.0, thick)),
        )
        for number, at in enumerate(piece.notches_mm)
    )  # fmt: skip
    return Piece(
        id=f"divider.{_dotted(piece.name)}",
        part="divider",
        name=f"Divider {piece.name}",
        stock="divider stock",
        thickness_mm=piece.thickness_mm,
        grain_deg=0.0,
        show_face=face,
        inside_face=face,
        edges=(Edge("end", 0.0, piece.leans_deg[1]), Edge("start", 0.0, piece.leans_deg[0])),
        place=place,
        features=notches,
    )


# --- keys


def _numbered(keys: KeysPlan) -> Iterator[tuple[int, KeyPlan]]:
    """Keys with their number at their own corner, from the bottom."""
    counted: dict[int, int] = {}
    for key in keys.keys:
        counted[key.corner] = counted.get(key.corner, 0) + 1
        yield counted[key.corner], key


def _corner_edge(ring: RingPlan, corner: int) -> tuple[Vector, Vector, Vector, Vector]:
    """The corner's outer vertex at the bottom, its edge upward, and the way down each face from it (unit vectors)."""
    first, second = ring.slabs[corner], ring.slabs[(corner + 1) % len(ring.slabs)]
    ex, ey, ez = cross(first.normal, second.normal)
    size = math.copysign(math.sqrt(ex * ex + ey * ey + ez * ez), ez)
    edge = (ex / size, ey / size, ez / size)
    x, y = ring.outer_bottom[corner]
    back, on = cross(first.normal, edge), cross(edge, second.normal)
    return (x, y, 0.0), edge, _unit(back, first, -1.0), _unit(on, second, 1.0)


def _unit(vector: Vector, slab: Slab, way: float) -> Vector:
    """`vector` as long as 1, pointing along the side's travel (way 1) or against it."""
    size = math.sqrt(sum(v * v for v in vector))
    sign = math.copysign(1.0, way * sum(v * a for v, a in zip(vector, slab.along, strict=True)))
    return (vector[0] / size * sign, vector[1] / size * sign, vector[2] / size * sign)


def _at(vertex: Vector, edge: Vector, height_mm: float) -> Vector:
    """The point of a corner's edge at a height."""
    run = height_mm / edge[2]
    return (vertex[0] + run * edge[0], vertex[1] + run * edge[1], vertex[2] + run * edge[2])


def _slots(ring: RingPlan, keys: KeysPlan, side: SidePlan) -> Iterator[Feature]:
    """The slots at a side's two ends, each the key's own triangle swept along the corner's edge."""
    place = _stands(ring.slabs[side.index], side, 0.0)
    count = len(ring.sides)
    for number, key in _numbered(keys):
        if key.corner not in (side.index, (side.index - 1) % count):
            continue
        vertex, edge, _back, _on = _corner_edge(ring, key.corner)
        at_end = key.corner == side.index
        middle = place.back(_at(vertex, edge, key.height_mm))
        up = place.back(tuple(o + e for o, e in zip(place.origin, edge, strict=True)))  # type: ignore[arg-type]
        half = key.thickness_mm / 2
        path = (
            (middle[0] - half * up[0], middle[1] - half * up[1]),
            (middle[0] + half * up[0], middle[1] + half * up[1]),
        )
        angle = math.radians(ring.corners[key.corner].dihedral_deg)
        # The path goes up: a side's end lies on its right, so that the slot goes to its left there.
        into = 1.0 if at_end else -1.0
        profile = ((0.0, 0.0), (into * key.leg_mm, 0.0),
                   (into * key.leg_mm * math.cos(angle), key.leg_mm * math.sin(angle)))  # fmt: skip
        name = f"side.{side.name}.slot.{_corner_id(key.corner, count)}.{number}"
        yield Feature(name, "slot", "show", path, profile)


def _corner_id(corner: int, count: int) -> str:
    return corner_name(corner, count).replace("-", "_")


def _key(ring: RingPlan, key: KeyPlan, number: int) -> Piece:
    """A key in its slot: a triangle, x along its base from side to side, y to the corner."""
    vertex, edge, back, on = _corner_edge(ring, key.corner)
    count = len(ring.sides)
    name = corner_name(key.corner, count)
    half = key.thickness_mm / 2
    tip = _at(vertex, edge, key.height_mm)
    first = tuple(t + key.leg_mm * b - half * e for t, b, e in zip(tip, back, edge, strict=True))
    last = tuple(t + key.leg_mm * b - half * e for t, b, e in zip(tip, on, edge, strict=True))
    along = tuple((b - a) / key.base_mm for a, b in zip(first, last, strict=True))
    middle = tuple((a + b) / 2 for a, b in zip(first, last, strict=True))
    toward = tuple((t - half * e - m) / key.depth_mm for t, e, m in zip(tip, edge, middle, strict=True))
    face = ((0.0, 0.0), (key.base_mm, 0.0), (key.base_mm / 2, key.depth_mm))
    return Piece(
        id=f"key.{_corner_id(key.corner, count)}.{number}",
        part="key",
        name=f"Key {name} {number}",
        stock="key stock",
        thickness_mm=key.thickness_mm,
        grain_deg=0.0,
        show_face=face,
        inside_face=face,
        edges=(Edge("base", 0.0), Edge("first", 0.0), Edge("second", 0.0)),
        place=Place(_vector(first), _vector(along), _vector(toward), edge),
    )


def _vector(values: Sequence[float]) -> Vector:
    x, y, z = values
    return (x, y, z)
