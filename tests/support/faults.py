"""Seeded boards with faults, the sides on them held against a general polygon library."""

import itertools
import random

from shapely.affinity import translate
from shapely.geometry import Polygon, box
from shapely.ops import unary_union

from peristyle.model.job import revised
from peristyle.model.stock import Board
from peristyle.planning.plan import Plan, plan
from peristyle.planning.stock.clear import Span, blocked, lies, nearest_clear, on_plane, shown_faces
from support.designs import random_design, random_mark

_AREA = 1e-3  # mm²: less than this two outlines only touch


def random_laid(seed: int) -> Plan:
    """A box on its board, with faults."""
    chance = random.Random(seed)
    for _ in range(50):
        job = random_design(chance, 8)
        board = job.stock.board
        marks = tuple(random_mark(chance, board, job.design.side_count) for _ in range(chance.randint(1, 5)))
        made = plan(revised(job, marks=marks))
        if made.wrap.pieces and made.ring.stands and made.wrap.spare_mm > 0:
            return made
    raise AssertionError("no box")


def _bad(made: Plan, board: Board, by: float, name: str = "") -> list[str]:
    """What the sides on a board lie on that they must avoid, moved along by so much; as polygons know it. `name` is
    the board's on the rack, empty for the sides' own.
    """
    found = []
    for mark in board.marks:
        if mark.wish != "avoid":
            continue
        area = box(*lies(board, mark))
        for face in shown_faces(made.job, made.ring, made.wrap, made.section):
            if face.board != name:
                continue
            free = (
                face.side in mark.sides
                or (face.inside and mark.inside)
                or not on_plane(board, mark, face.plane)
            )
            if not free and translate(Polygon(face.outline), by, 0).intersection(area).area > _AREA:
                found.append(f"{face.side} on {mark.kind}")
    return found


def misjudged(seed: int) -> list[str]:
    """Where planning and the polygons disagree about a random box: its faults, its moves, its pieces and cuts."""
    made = random_laid(seed)
    board, wrap = made.job.stock.board, made.wrap
    faces = shown_faces(made.job, made.ring, made.wrap, made.section)
    spans, wrong = blocked(board, faces), list[str]()
    said = any(f.code == "on_a_mark" for f in made.findings)
    lain_on = {"": board} | {one.name: one for one in made.job.stock.rack}
    if said != any(_bad(made, lain_on[name], 0.0, name) for name in {piece.board for piece in wrap.pieces}):
        wrong.append(f"{seed}: a fault said {said}")
    chance = random.Random(seed)
    room = Span(-board.shift_mm, wrap.spare_mm)
    moves = [chance.uniform(*room) for _ in range(6)]
    clear = nearest_clear(spans, room)
    moves += [clear] if clear is not None else []
    for move in moves:
        inside = any(s.low + 1e-2 < move < s.high - 1e-2 for s in spans)
        near = any(abs(move - edge) < 1e-2 for s in spans for edge in s)
        if (not near and inside != bool(_bad(made, board, move))) or (
            move == clear and _bad(made, board, move)
        ):
            wrong.append(f"{seed}: moved {move:.3f} blocked {inside}")
    return wrong + [f"{seed}: {text}" for text in overlapping(made)]


def overlapping(made: Plan) -> list[str]:
    """Planes of a board in which pieces lie on each other; a way that is refused is laid out only to be seen."""
    wrong = []
    if any(finding.code.endswith("_cannot_be") for finding in made.findings):
        return []
    ring = made.ring
    boards = sorted({piece.board for piece in made.wrap.pieces})
    for board, plane in itertools.product(boards, ("face", "under", "leaf_1", "leaf_2")):
        outlines = []
        for piece in (one for one in made.wrap.pieces if one.board == board):
            side = ring.sides[piece.side]
            for own, face in ((piece.show, side.outer_face), (piece.inside, side.inner_face)):
                if own == plane and face:
                    outlines.append(Polygon([piece.on(point) for point in face]))
        whole = unary_union(outlines).area if outlines else 0.0
        if abs(whole - sum(one.area for one in outlines)) > 1e-3:
            wrong.append(f"pieces overlap in {plane}")
    return wrong
