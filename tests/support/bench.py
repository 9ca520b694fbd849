"""A small machine that carries steps out on wood, as solids, by general geometry alone.

Of a step it reads only the operation, the tool, how the piece lies, the edge against fence or gauge, the
settings and the number of passes; never what the step makes, nor anything of planning. Work frame: x along
the wood, y across it, z from the show face into it.
"""

import itertools
import math
import random
from collections.abc import Sequence
from typing import NamedTuple

import manifold3d
import numpy as np
from msgspec.structs import replace

from peristyle.model.design import (
    Alternating,
    Dividers,
    Feet,
    Keys,
    Lid,
    Liner,
    Opening,
    Outline,
    Panel,
    Rectangle,
    Regular,
    Shape,
)
from peristyle.model.job import MachineKind, Saw, job_of, revised
from peristyle.model.stock import Board
from peristyle.model.tools import CAN, Use, Uses, can, named
from peristyle.planning.making.piece import Piece
from peristyle.planning.making.step import Setting, Step
from peristyle.planning.plan import Plan, plan
from support.solids import solid

FAR = 3000.0
METHODS = ("square_first", "square_first", "bevel_direct", "flip_shared", "book", "upright", "none")
KINDS: tuple[MachineKind, ...] = ("table_saw", "table_saw", "miter_saw", "chamfer_bit", "shooting_board")


class Work(NamedTuple):
    """Wood on the bench, and its thickness."""

    solid: manifold3d.Manifold
    thickness_mm: float


def board(length_mm: float, width_mm: float, thickness_mm: float) -> Work:
    """A board, its start at x = 0, with wood to spare on all sides."""
    solid = manifold3d.Manifold.cube([length_mm + 400, width_mm + 200, thickness_mm]).translate(
        [-200, -100, 0]
    )
    return Work(solid, thickness_mm)


def values(step: Step, gauge: str) -> list[float]:
    return [s.value for s in step.settings if s.gauge == gauge]


def one(step: Step, gauge: str, default: float = 0.0) -> float:
    found = values(step, gauge)
    return found[0] if found else default


def keep(work: Work, normal: Sequence[float], point: Sequence[float]) -> Work:
    """What lies on the side of a cut to which `normal` points."""
    n = np.array(normal) / np.linalg.norm(normal)
    return work._replace(solid=work.solid.trim_by_plane(n.tolist(), float(n @ np.array(point))))


def down_face(step: Step, work: Work) -> tuple[float, float]:
    """Where the table is (z), and which way z goes from the table upward."""
    return (work.thickness_mm, -1.0) if step.lies == "show_up" else (0.0, 1.0)


def rip(step: Step, work: Work) -> Work:
    """Both long edges: the blade leans away from the fence, against which the bottom edge lies."""
    table, up = down_face(step, work)
    lean = math.tan(math.radians(one(step, "tilt")))
    width = one(step, "width")
    # The bottom edge is made to lean first, so that it comes out parallel; its arris on the table at y = 0.
    work = keep(work, (0.0, 1.0, -up * lean), (0.0, 0.0, table))
    return keep(work, (0.0, -1.0, up * lean), (0.0, width, table))


def groove(step: Step, work: Work, kerf_mm: float) -> Work:
    """Passes with the blade under the table, the edge's outermost arris on the fence."""
    fences = values(step, "fence")
    edges = [step.edge or "bottom"]
    if step.passes == 2 * len(fences):
        edges.append("top" if edges[0] == "bottom" else "bottom")  # turned end for end
    table, up = down_face(step, work)
    tilt, high = math.radians(one(step, "tilt")), one(step, "height")
    reach = (high - max(0.0, -kerf_mm * math.sin(tilt))) / math.cos(tilt)
    solid = work.solid
    for edge in edges:
        box = work.solid.bounding_box()
        fence_y, way = (box[1], 1.0) if edge == "bottom" else (box[4], -1.0)
        for fence in fences:
            corners = []
            for along, across in ((-20.0, 0.0), (-20.0, kerf_mm), (reach, kerf_mm), (reach, 0.0)):
                f = fence + along * math.sin(tilt) + across * math.cos(tilt)
                h = along * math.cos(tilt) - across * math.sin(tilt)
                corners.append((fence_y + way * f, table + up * h))
            solid -= manifold3d.Manifold.hull_points(
                np.array([[x, y, z] for x in (-FAR, FAR) for y, z in corners])
            )
    return work._replace(solid=solid)


def rabbet(step: Step, work: Work) -> Work:
    """A cut along an edge: inside face down with the fence at the edge, or on the edge with the show face to it."""
    box, kerf, high = work.solid.bounding_box(), step.cut_mm or 0.0, one(step, "height")
    bottom = step.edge == "bottom"
    edge, way = (box[1], 1.0) if bottom else (box[4], -1.0)
    solid = work.solid
    for at in values(step, "fence") or [one(step, "width") - FAR]:
        wide = kerf if values(step, "fence") else FAR
        if step.lies == "on_edge":  # standing on the edge: the fence is the show face's
            ys, zs = sorted((edge - way * 5.0, edge + way * high)), (at, at + wide)
        else:
            ys = sorted((edge + way * at, edge + way * (at + wide)))
            zs = (work.thickness_mm - high, work.thickness_mm + 5.0)
        cut = manifold3d.Manifold.cube([2 * FAR, ys[1] - ys[0], zs[1] - zs[0]])
        solid -= cut.translate([-FAR, ys[0], zs[0]])
    return work._replace(solid=solid)


def moulded(step: Step, work: Work) -> Work:
    """The section that is told, cut along the show face from the bottom edge up."""
    points: list[tuple[float, float]] = []
    while f"point.{len(points) + 1}.up_mm" in step.numbers:
        key = f"point.{len(points) + 1}"
        points.append((step.numbers[f"{key}.up_mm"], step.numbers[f"{key}.in_mm"]))
    line = points[:1]
    for number, (a, b) in enumerate(itertools.pairwise(points), 1):
        radius = step.numbers.get(f"point.{number}.arc_mm", 0.0)
        line += _arc(a, b, radius) if radius else [b]
    show = _corners(work, 0.0)[:, 1]
    low, high = float(show.min()), float(show.max())
    below = [(-30.0, line[0][1])] if line[0][0] < 1e-9 else []
    above = [(high - low + 30.0, line[-1][1])] if line[-1][0] > high - low - 1e-6 else []
    line = [*below, *line, *above]
    section = [(low + y, z) for y, z in [(line[0][0], -5.0), *line, (line[-1][0], -5.0)]]
    shape = manifold3d.CrossSection([section])
    if shape.area() <= 0:
        shape = manifold3d.CrossSection([section[::-1]])
    axes = np.array([[0.0, 0.0, 1.0, -FAR], [1.0, 0.0, 0.0, 0.0], [0.0, 1.0, 0.0, 0.0]])
    return work._replace(solid=work.solid - shape.extrude(2 * FAR).transform(axes))


def _arc(a: tuple[float, float], b: tuple[float, float], radius: float) -> list[tuple[float, float]]:
    """Points on the arc from one to the other, 24 to half a turn: bulging out of the wood, or hollow."""
    start, end = complex(*a), complex(*b)
    half = abs(end - start) / 2
    size = max(abs(radius), half)
    middle = (start + end) / 2 + math.copysign(1.0, radius) * 1j * (end - start) / (2 * half) * math.sqrt(
        size**2 - half**2
    )
    turn = 2 * math.asin(min(1.0, half / size))
    steps = max(2, math.ceil(turn / math.pi * 24 - 1e-9))
    spun = [
        middle + (start - middle) * np.exp(1j * math.copysign(turn * k / steps, radius))
        for k in range(1, steps + 1)
    ]
    return [(float(p.real), float(p.imag)) for p in spun]


def between(work: Work, axis: int, wide_mm: float) -> Work:
    """What lies between two square cuts, so far apart, along x (0) or y (1)."""
    for at, sign in ((0.0, 1.0), (wide_mm, -1.0)):
        normal, point = [0.0, 0.0, 0.0], [0.0, 0.0, 0.0]
        normal[axis], point[axis] = sign, at
        work = keep(work, normal, point)
    return work


def waste_off(step: Step, work: Work) -> Work:
    """What two cuts square to each other have parted falls off."""
    parts = work.solid.decompose()
    return work._replace(solid=max(parts, key=lambda part: part.volume()))


def dado(step: Step, work: Work, kerf_mm: float) -> Work:
    """Cuts across the face that lies down, from the piece's start against the stop, at its bottom edge.

    The gauge swings toward the side's end as the cut rises, and the blade leans toward it as it goes in.
    """
    table, up = down_face(step, work)
    start, high = work.solid.bounding_box()[0], one(step, "height")
    tilt, swing = math.radians(one(step, "tilt")), math.radians(one(step, "swing"))
    along = np.array([math.sin(swing), math.cos(swing), 0.0])
    right = np.array([along[1], -along[0], 0.0])
    into = np.array([0.0, 0.0, up])
    blade, across = (
        right * math.sin(tilt) + into * math.cos(tilt),
        right * math.cos(tilt) - into * math.sin(tilt),
    )
    reach = (high - max(0.0, -kerf_mm * math.sin(tilt))) / math.cos(tilt)
    foot = _corners(work, table)[:, 1].min()
    solid = work.solid
    for near in values(step, "stop"):
        at = np.array([start + near, foot, table])
        corners = [
            at + far * along + deep * blade + wide * across
            for far in (-FAR / 10, FAR / 10) for deep in (-20.0, reach) for wide in (0.0, kerf_mm)
        ]  # fmt: skip
        solid -= manifold3d.Manifold.hull_points(np.array(corners))
    return work._replace(solid=solid)


def sized(step: Step, work: Work) -> Work:
    """A plain piece of this length, width and thickness; of swung ends the length is along the edge at the gauge."""
    long, wide, thick = one(step, "stop"), one(step, "width"), one(step, "thickness")
    work = board(long, wide, thick)._replace(
        solid=manifold3d.Manifold.cube([3 * long, wide, thick]).translate([-long, 0, 0]), thickness_mm=thick
    )
    return crosscut(step, work)


def halve(step: Step, work: Work, kerf_mm: float) -> Work:
    """Square cuts down from one edge, measured along its foot from the piece's start."""
    box, high = work.solid.bounding_box(), one(step, "height")
    low = box[1] if step.edge == "bottom" else box[4] - high
    corners = _corners(work, 0.0)
    start = float(corners[np.abs(corners[:, 1] - box[1]) < 1e-5][:, 0].min())
    solid = work.solid
    for near in values(step, "stop"):
        solid -= manifold3d.Manifold.cube([kerf_mm, high, 2 * FAR]).translate([start + near, low, -FAR])
    return work._replace(solid=solid)


def bore(step: Step, work: Work) -> Work:
    """A bit through the face, the bottom edge on the fence; between two places the wood is sawn out."""
    box = work.solid.bounding_box()
    stops, fences = values(step, "stop"), values(step, "fence")
    round_bit = manifold3d.CrossSection.circle(one(step, "width") / 2, 48)
    places = [(box[0] + x, box[1] + y) for x in stops for y in fences]
    holes = [round_bit.translate(place).extrude(3 * work.thickness_mm) for place in places]
    taken = manifold3d.Manifold.batch_hull(holes).translate([0.0, 0.0, -work.thickness_mm])
    return work._replace(solid=work.solid - taken)


def spline_groove(step: Step, name: str, work: Work) -> Work:
    """The piece stands on its miter face, which lies on the table, the inside arris along the fence."""
    solid = work.solid
    for corner in step.names["corners"].split(", "):
        first, second = corner.split("-") if "-" in corner else (corner[0], corner[1])
        if name not in (first, second):
            continue
        end = "end" if name == first else "start"
        pick = np.max if end == "end" else np.min
        # The arrises of the end on both faces, found on the wood; the table holds both.
        ends = {}
        for z in (0.0, work.thickness_mm):
            points = _corners(work, z)
            rows = [points[np.abs(points[:, 1] - y) < 1e-5] for y in (points[:, 1].min(), points[:, 1].max())]
            ends[z] = [np.array([pick(row[:, 0]), row[0, 1], z]) for row in rows]
        low, high = ends[work.thickness_mm]
        along = (high - low) / np.linalg.norm(high - low)
        out = ends[0.0][0] - low
        out = out - (out @ along) * along
        out = out / np.linalg.norm(out)  # in the miter face, from the inside arris to the outer
        into = np.cross(along, out)
        middle = np.array(work.solid.bounding_box()).reshape(2, 3).mean(axis=0)
        into = into * math.copysign(1.0, float((middle - low) @ into))
        deep, wide = one(step, "height"), step.cut_mm or 0.0
        stops = {s.end: s.value for s in step.settings if s.gauge == "stop"}
        begins, whole = stops.get("start", -FAR), float(np.linalg.norm(high - low))
        for fence in values(step, "fence"):
            corners = [
                low + a * along + (fence + b) * out + c * into
                for a in (begins, whole - stops.get("end", -FAR)) for b in (0.0, wide) for c in (-5.0, deep)
            ]  # fmt: skip
            solid -= manifold3d.Manifold.hull_points(np.array(corners))
    return work._replace(solid=solid)


def _swing(step: Step, end: str) -> float:
    return next((s.value for s in step.settings if s.gauge == "swing" and s.end == end), 0.0)


def _corners(work: Work, z: float) -> np.ndarray:
    """The corners of the wood on the face at `z`."""
    points = np.asarray(work.solid.to_mesh64().vert_properties)[:, :3]
    return points[np.abs(points[:, 2] - z) < 1e-5]


def _edge_y(step: Step, work: Work, z: float) -> float:
    """Where the edge against the gauge lies on the face at `z`."""
    ys = _corners(work, z)[:, 1]
    return float(ys.min() if step.edge == "bottom" else ys.max())


def _edge_x(step: Step, work: Work, z: float, end: str) -> float:
    """Where that edge starts or ends on the face at `z`."""
    points = _corners(work, z)
    xs = points[np.abs(points[:, 1] - _edge_y(step, work, z)) < 1e-5][:, 0]
    return float(xs.min() if end == "start" else xs.max())


def crosscut(step: Step, work: Work) -> Work:
    """Both ends, square to the face: the start at x = 0 of the edge that lies against the gauge."""
    y = _edge_y(step, work, 0.0)
    begins = next((s.value for s in step.settings if s.gauge == "stop" and s.end == "start"), 0.0)
    stop = next(s.value for s in step.settings if s.gauge == "stop" and s.end is None)
    for end, sign in (("start", 1.0), ("end", -1.0)):
        # The stop touches whatever reaches furthest at the start, on either face.
        starts = (
            [_edge_x(step, work, face, "start") for face in (0.0, work.thickness_mm)] if end == "end" else []
        )
        x = min(starts) + stop if starts else begins
        # Leaning to the right going away: whichever edge is toward the maker, x grows with y by the tangent.
        lean = math.tan(math.radians(_swing(step, end)))
        work = keep(work, (sign, -sign * lean, 0.0), (x, y, 0.0))
    return work


def bevel(step: Step, work: Work, end: str) -> Work:
    """One end. The cut dies at the edge of the face that is up, or, on end, of the face against the fence."""
    against = (
        step.names["face"] if step.lies in ("on_edge", "on_end") else ""
    )  # the face at the fence, as it is told
    inside = against.startswith("inside") or step.lies == "inside_up"
    upper, inward_z = (work.thickness_mm, -1.0) if inside else (0.0, 1.0)
    tilt = one(step, "tilt")
    slope = math.tan(math.radians(90.0 - tilt if step.lies == "on_end" else tilt))
    lean_view = _swing(step, end)
    if step.lies == "on_edge":  # standing on its edge, the saw's swing is the bevel
        slope = math.tan(math.radians(one(step, "swing")))
    # With the inside up the work is seen from behind: right is left.
    lean = math.tan(math.radians(lean_view if step.lies != "inside_up" else -lean_view))
    y = _edge_y(step, work, upper)
    sign = 1.0 if end == "start" else -1.0
    x = _edge_x(step, work, upper, end)
    stop = [s.value for s in step.settings if s.gauge == "stop" and s.end is None]
    x += sum(s.value for s in step.settings if s.gauge == "stop" and s.end == "start")
    if stop:
        # The stop is taller than the piece and touches the furthest point of its start at that edge.
        x = min(_edge_x(step, work, face, "start") for face in (0.0, work.thickness_mm)) + stop[0]
    if step.lies in ("on_end", "on_edge"):
        # It stands on its mitered end: the cut is parallel to that end's line.
        lean = end_line(work, end, upper)
    along = np.array([lean, 1.0, 0.0]) / math.hypot(lean, 1.0)
    square = np.array([along[1], -along[0], 0.0]) * sign  # into the piece, in the face
    going = square * slope + np.array([0.0, 0.0, inward_z])  # down the cut
    normal = np.cross(along, going)
    if normal @ square < 0:
        normal = -normal
    return keep(work, normal.tolist(), (x, y, upper))


def for_piece(step: Step, name: str, end: str) -> Step:
    """The step as it is set for one piece and one of its ends."""
    one_end = step.end is not None
    settings = tuple(
        s for s in step.settings
        if (not s.of or name in s.of) and (one_end or (s.end == end if s.gauge != "stop" else end == "end"))
    )  # fmt: skip
    return replace(step, settings=settings)


def end_line(work: Work, end: str, z: float) -> float:
    """How far along x an end's line moves for each mm up the face."""
    points = _corners(work, z)
    low, high = (points[np.abs(points[:, 1] - y) < 1e-5] for y in (points[:, 1].min(), points[:, 1].max()))
    pick = np.min if end == "start" else np.max
    return float((pick(high[:, 0]) - pick(low[:, 0])) / (high[0, 1] - low[0, 1]))


def able(made: Plan, name: str, use: Use) -> bool:
    """Whether the tool of that name does such work."""
    tool = named(made.job.shop.tools, name)
    return tool is not None and can(tool, use)


def random_box(seed: int) -> Plan:
    """A box that can be sawn: any ring, upright or leaning alike, thick or unequal, with grooves."""
    chance = random.Random(seed)
    for _ in range(200):
        sides = chance.randint(3, 12)
        shape: Shape = chance.choice([
            Regular(sides, chance.uniform(70, 160)),
            Rectangle(chance.uniform(120, 320), chance.uniform(100, 240)),
            Alternating(2 * chance.randint(2, 5), chance.uniform(80, 140), chance.uniform(60, 120)),
            Outline((chance.uniform(120, 160), chance.uniform(120, 160), None, None),
                    (chance.uniform(75, 105), 90.0, chance.uniform(80, 100), None)),
        ])  # fmt: skip
        leaning, alike = chance.random() < 0.7, chance.random() < 0.6
        panel = Panel(
            height_mm=chance.uniform(4, 8), depth_mm=chance.uniform(2, 4), thickness_mm=chance.uniform(3.2, 6),
            groove=chance.choice(["level", "square"]), proud_mm=chance.choice([0.0, 1.5]),
        )  # fmt: skip
        count = plan(job_of(shape=shape)).job.design.side_count
        if not leaning and chance.random() < 0.4:
            panel = replace(panel, seat="rabbet")
        thick = (
            [chance.uniform(9, 14)]
            if chance.random() < 0.6
            else [chance.uniform(9, 14) for _ in range(count)]
        )
        slopes = (chance.uniform(-35, 35) if leaning else 0.0,)
        if leaning and not alike:
            slopes = tuple(chance.uniform(-14, 14) for _ in range(count))
        dividers = (
            Dividers(
                across=chance.randint(1, 2), along=chance.randint(0, 1), thickness_mm=chance.uniform(4, 6)
            )
            if chance.random() < 0.5
            else None
        )
        openings = tuple(
            Opening(
                kind=chance.choice(["hole", "slot"]), side=chance.randrange(count), both=chance.random() < 0.4,
                up_mm=chance.uniform(20, 60), width_mm=chance.uniform(6, 24), high_mm=chance.uniform(6, 12),
            )
            for _ in range(chance.choice([0, 0, 1]))
        )  # fmt: skip
        made = plan(
            job_of(
                shape=shape, height_mm=chance.uniform(50, 110), thicknesses_mm=tuple(thick),
                slopes_deg=slopes, bottom=panel,
                top=panel if chance.random() < 0.5 else None, lid=Lid(height_mm=20.0),
                board=Board(
                    length_mm=9000.0, width_mm=2500.0, thickness_mm=40.0,
                    method=random.Random(seed).choice(METHODS),
                    creep_mm=chance.choice([0.0, 0.0, 1.0]),
                ),
                saw=Saw(kerf_mm=chance.uniform(1.5, 3.2), kind=chance.choice(KINDS)),
                dividers=dividers, openings=openings,
                keys=Keys(count=chance.randint(1, 3), thickness_mm=chance.uniform(3.2, 5)),
                liner=Liner(thickness_mm=4.0, height_mm=20.0) if chance.random() < 0.2 else None,
                feet=Feet(size_mm=20.0) if chance.random() < 0.3 else None,
            )
        )  # fmt: skip
        names = [""] + [tool.name for tool in made.job.shop.tools]
        uses = {use: chance.choice([n for n in names if not n or able(made, n, use)]) for use in CAN}
        own = plan(revised(made.job, uses=Uses(**uses)))
        narrow = not any(finding.code == "thinner_than_blade" for finding in own.findings)
        if own.buildable and own.pieces and narrow and chance.random() < 0.7:
            return own
        if made.buildable and made.pieces:
            return made
    raise AssertionError("no box")


def lower(step: Step, work: Work) -> Work:
    """Ripped lower with the show face on the table, the bottom edge on the fence, the blade leaning away from it."""
    low, lean = work.solid.bounding_box()[1], math.tan(math.radians(one(step, "tilt")))
    return keep(work, (0.0, -1.0, lean), (0.0, low + one(step, "fence"), 0.0))


def gable(step: Step, work: Work) -> Work:
    """Two cuts from a mark on the top edge down to both ends, the gauge swung to one hand and the other."""
    box, slope = work.solid.bounding_box(), math.tan(math.radians(one(step, "swing")))
    mark = (box[0] + one(step, "stop"), box[4], 0.0)
    return keep(keep(work, (slope, -1.0, 0.0), mark), (-slope, -1.0, 0.0), mark)


def roof_leaf(step: Step, work: Work) -> Work:
    """A board with one long edge beveled."""
    slope = math.tan(math.radians(one(step, "tilt")))
    return keep(sized(step, work), (0.0, -1.0, -slope), (0.0, one(step, "width"), 0.0))


def ledge(step: Step, name: str) -> Work:
    """A strip, its back leaning as the wall does, as long as told for this wall."""
    long = step.numbers[f"long.{name.split('.')[1]}_mm"]
    wide, high = one(step, "width"), one(step, "thickness")
    slope = math.tan(math.radians(one(step, "tilt")))
    work = Work(manifold3d.Manifold.cube([long, wide, high]), high)
    up = step.names["wide"] == "up"
    return keep(work, (0.0, -1.0, -slope if up else slope), (0.0, wide, 0.0 if up else high))


def flushed(made: Plan, step: Step, work: Work) -> Work:
    """What stands over is taken off, plumb, down to the sides' outer faces where the panel lies on them."""
    level = 0.0 if step.names["panel"] == "bottom" else max(
        piece.place.of((x, y, 0.0))[2] for piece in made.pieces if piece.part == "side" for x, y in piece.show_face
    )  # fmt: skip
    arrises = []
    for piece in made.pieces:
        if piece.part == "side":
            points = np.array([piece.place.of((x, y, 0.0)) for x, y in piece.show_face])
            edge = points[np.abs(points[:, 2] - level) < 1e-6]
            out = -np.array([piece.place.z[0], piece.place.z[1]])
            arrises.append((out / np.linalg.norm(out), edge[0, :2], edge[:, :2]))
    corners = np.concatenate([edge for _out, _at, edge in arrises])
    middle = (corners.min(axis=0) + corners.max(axis=0)) / 2
    box = work.solid.bounding_box()
    solid = work.solid.translate([middle[0] - (box[0] + box[3]) / 2, middle[1] - (box[1] + box[4]) / 2, 0.0])
    whole = solid.volume()
    for out, at, _edge in arrises:
        solid = solid.trim_by_plane([-out[0], -out[1], 0.0], -float(out @ at))
    assert solid.volume() < whole  # there was something to flush
    return work._replace(solid=solid)


def planed(step: Step, work: Work) -> Work:
    """All that is too much comes off the inside face."""
    thick = one(step, "thickness")
    assert thick < work.thickness_mm
    return work._replace(solid=work.solid.trim_by_plane([0.0, 0.0, -1.0], -thick), thickness_mm=thick)


_PLAIN = {
    "rip": rip, "opening": bore, "lid_hole": bore, "crosscut": crosscut, "lower": lower, "gable": gable,
    "roof_leaf": roof_leaf, "plane": planed, "thin": planed,
    **dict.fromkeys(("panel", "divider", "foot", "board"), sized),
}  # fmt: skip


def carried_out(made: Plan, piece: Piece, steps: tuple[Step, ...]) -> manifold3d.Manifold:
    """The piece as the steps leave it before it is glued up."""
    work = board(piece.length_mm, piece.width_mm + 60.0, _stock_mm(made, piece, steps))
    for step in steps:
        if piece.id in step.pieces:
            work = worked(made, piece.id, step, work)
    return work.solid


def _stock_mm(made: Plan, piece: Piece, steps: tuple[Step, ...]) -> float:
    """How thick the wood is that a piece is cut from: a side's as thick as the thickest, or more where it is planed."""
    planed = {step.operation for step in steps if piece.id in step.pieces} & {"plane", "thin"}
    if piece.part != "side" or (made.wrap.runs and not planed):  # runs lie on boards of their own thickness
        return piece.thickness_mm
    thickest = max(side.thickness_mm for side in made.ring.sides)
    return thickest + 7.0 if "plane" in planed else thickest


def worked(made: Plan, name: str, step: Step, work: Work) -> Work:
    """The work after one step; what is done on no machine leaves it as it is."""
    kerf = step.cut_mm or 0.0
    match step.operation:
        case plain if plain in _PLAIN:
            return _PLAIN[plain](step, work)
        case "moulding":
            return moulded(step, work)
        case "groove":
            return groove(step, work, kerf)
        case "rabbet":
            return waste_off(step, rabbet(step, work))
        case "ledge":
            return ledge(step, name)
        case "panel_flush" if step.names["panel"] == "lid" and "panel_flush.lid.part" in step.says:
            return work  # a shaving that no setting tells
        case "panel_flush":
            return flushed(made, step, work)
        case "halve":
            return halve(step, work, kerf)
        case "dado":
            return dado(step, work, kerf)
        case "strips":
            return between(work, 0, one(step, "width"))
        case "strip_bevel":
            at = tuple(replace(s, gauge="stop") if s.gauge == "width" else s for s in step.settings)
            return bevel(replace(step, settings=at), work, step.end or "")
        case "spline_groove":
            return spline_groove(step, name.split(".")[1], work)
        case "heights":
            return between(work, 1, one(step, "stop"))
        case "bevel":
            for end in (step.end,) if step.end else ("start", "end"):  # in turn, where one step has both
                work = bevel(for_piece(step, name, end), work, end)
    return work


def another_order(steps: Sequence[Step], chance: random.Random) -> tuple[Step, ...]:
    """The steps in some order that what comes before what allows."""
    left, done, made = list(steps), set[str](), []
    while left:
        ready = [step for step in left if all(after.step in done for after in step.after)]
        step = chance.choice(ready)
        left.remove(step)
        done.add(step.id)
        made.append(step)
    return tuple(made)


def differ(one: manifold3d.Manifold, other: manifold3d.Manifold) -> float:
    """How much of the wood two solids do not share, once their corners are brought together."""
    a, b = one.bounding_box(), other.bounding_box()
    moved = one.translate([b[i] - a[i] for i in range(3)])
    # Faces that all but coincide can lead a solid library astray in one way of asking, not in both.
    apart = (moved - other).volume() + (other - moved).volume()
    return min(apart, abs(moved.volume() + other.volume() - 2 * (moved ^ other).volume()))


def wrongly_made(made: Plan, steps: tuple[Step, ...] | None = None) -> list[tuple[str, float]]:
    """The pieces that the steps do not make, and by how much (mm³): more than 2e-6 of the wood."""
    wrong = []
    steps = made.steps if steps is None else steps
    for piece in made.pieces:
        if piece.part in (
            "side",
            "liner",
            "divider",
            "roof",
            "ledge",
            "strip",
            "board",
            "fillet",
            "tray",
        ) or (piece.part in ("panel", "foot") and _plain(piece)):
            whole = wanted(piece)
            assert whole.volume() > 0, f"{piece.id} is nothing"
            off = differ(carried_out(made, piece, steps), whole)
            if off > 2e-6 * whole.volume() + 1e-3 + unset(piece):
                wrong.append((piece.id, off))
    return wrong


def unset(piece: Piece) -> float:
    """The wood in bevels, and in dadoes aslant, finer than any saw is set (0.005°): left square, and rightly so."""
    fine = [abs(edge.bevel_deg) for edge in piece.edges if 0 < abs(edge.bevel_deg) < 0.005]
    area = piece.thickness_mm**2 * (piece.length_mm + piece.width_mm)
    left = sum(area * math.tan(math.radians(bevel)) for bevel in fine)
    for feature in piece.features:
        if feature.kind == "dado":
            (x0, y0), (x1, y1) = feature.path
            aslant = min(abs(x1 - x0), abs(y1 - y0))  # over all of its length
            if aslant < math.hypot(x1 - x0, y1 - y0) * math.radians(0.005):
                left += aslant * math.hypot(x1 - x0, y1 - y0) * feature.depth_mm
    return left


def _plain(piece: Piece) -> bool:
    """Whether it is a right-angled block but for what is cut into it."""
    turns = [
        (b[0] - a[0]) * (c[0] - b[0]) + (b[1] - a[1]) * (c[1] - b[1])
        for a, b, c in zip(piece.show_face, piece.show_face[1:] + piece.show_face[:1],
                           piece.show_face[2:] + piece.show_face[:2], strict=True)
    ]  # fmt: skip
    square = len(piece.show_face) == 4 and all(abs(turn) < 1e-6 for turn in turns)
    return square and piece.show_face == piece.inside_face


def wanted(piece: Piece) -> manifold3d.Manifold:
    return solid(piece, without=("slot", "lid_kerf", "finger_notch", "edge"))


def settings_moved(step: Step, gauge: str, by: float) -> Step:
    """The same step with one gauge set wrong."""

    def moved(setting: Setting) -> Setting:
        return replace(setting, value=setting.value + by) if setting.gauge == gauge else setting

    return replace(step, settings=tuple(moved(s) for s in step.settings))
