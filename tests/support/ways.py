"""Every ring in every way of cutting on every saw: carried out as solids and on the board, or refused with a reason."""

import itertools
from collections import defaultdict
from collections.abc import Iterator
from typing import Any

from peristyle.core.outlines import Outline as Points
from peristyle.core.outlines import area, clipped
from peristyle.model.design import House, Lid, Outline, Panel, Rectangle, Regular
from peristyle.model.job import Job, Saw, job_of
from peristyle.model.stock import Board, Method
from peristyle.planning.plan import Plan, plan
from support.bench import wrongly_made

RINGS: dict[str, Any] = {
    "rectangle": Rectangle(240.0, 160.0), "triangle": Regular(3, 220.0), "hexagon": Regular(6, 110.0),
    "irregular": Outline((160.0, 130.0, 110.0, None, None), (110.0, 100.0, 115.0, 105.0, None)),
    "house": House(220.0, 95.0, 40.0),
}  # fmt: skip
LEANS: dict[str, tuple[float, ...]] = {"upright": (0.0,), "out": (9.0,), "in": (-7.0,), "unlike": (6.0, 2.0)}
WALLS: dict[str, tuple[float, ...]] = {"alike": (12.0,), "unlike": (12.0, 10.0)}
WAYS: tuple[Method, ...] = ("square_first", "bevel_direct", "flip_shared", "book", "upright", "none")
SAWS = ("table_saw", "miter_saw", "chamfer_bit", "shooting_board")


def boxes() -> Iterator[tuple[tuple[str, str, str], Method, str, Job]]:
    """All of them: ring, lean and walls; the way; the saw."""
    for ring, lean, walls, way, saw in itertools.product(RINGS, LEANS, WALLS, WAYS, SAWS):
        shape = RINGS[ring]
        count = job_of(shape=shape).design.side_count
        slopes, thick = LEANS[lean], WALLS[walls]
        if len(slopes) > 1:
            slopes = tuple(slopes[i % 2] for i in range(count))
        if len(thick) > 1:
            thick = tuple(thick[i % 2] for i in range(count))
        board = Board(length_mm=4000.0, width_mm=1500.0, thickness_mm=36.0, method=way)
        yield (ring, lean, walls), way, saw, job_of(
            shape=shape, slopes_deg=slopes, thicknesses_mm=thick, height_mm=90.0, board=board,
            bottom=Panel(), top=Panel(), lid=Lid(height_mm=25.0), saw=Saw(kind=saw),  # type: ignore[arg-type]
        )  # fmt: skip


def wrong(job: Job) -> str:
    """`+` where the steps make the box and its sides lie clear of each other on the board, `-` where it is refused."""
    made = plan(job)
    if any(finding.severity == "stop" for finding in made.findings):
        return "-"
    return "!" if not made.pieces or wrongly_made(made) or lie_wrongly(made) else "+"


def lie_wrongly(made: Plan) -> list[tuple[str, ...]]:
    """Sides that reach past the board, or share wood of one of its faces."""
    board, found = made.job.stock.board, list[tuple[str, ...]]()
    planes: dict[str, list[tuple[str, Points]]] = defaultdict(list)
    for piece in made.wrap.pieces:
        side = made.ring.sides[piece.side]
        for plane, face in ((piece.show, side.outer_face), (piece.inside, side.inner_face)):
            there = tuple(piece.on(point) for point in face)
            planes[plane].append((side.name, there))
            if min(x for x, _y in there) < -1e-6 or max(x for x, _y in there) > board.length_mm + 1e-6:
                found.append((side.name, "past the board"))
    for plane, faces in planes.items():
        for (one, a), (other, b) in itertools.combinations(faces, 2):
            if abs(area(clipped(a, b))) > 1e-3:
                found.append((one, other, plane))
    return found


def matrix() -> Iterator[str]:
    """A row for each ring, lean and walls; in each way of cutting the four saws."""
    rows: dict[tuple[str, str, str], dict[Method, str]] = defaultdict(lambda: defaultdict(str))
    for ring, way, _saw, job in boxes():
        rows[ring][way] += wrong(job)
    yield f"{'':30}" + "  ".join(f"{way:12}" for way in WAYS)
    for ring, ways in rows.items():
        yield f"{' '.join(ring):30}" + "  ".join(f"{ways[way]:12}" for way in WAYS)
