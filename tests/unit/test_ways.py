"""The ways of cutting a board up: where the sides lie, what is lost, which corners run on."""

import itertools
import random

import numpy as np
import pytest

from peristyle.core.lengths import Format
from peristyle.drawing.frieze import frieze_drawing
from peristyle.drawing.match import loupe_shapes
from peristyle.drawing.shapes import Grain
from peristyle.model.addresses import applied
from peristyle.model.design import House, Outline, Panel, Rectangle, Regular, Shape, replace
from peristyle.model.job import Job, Saw, job_of, revised
from peristyle.model.rack import part_of, put_with
from peristyle.model.stock import Board, Break, Mark, Method
from peristyle.planning.plan import plan
from peristyle.planning.stock.broken import breaking, fewest_breaks
from peristyle.planning.stock.search import Allowed, search
from peristyle.planning.stock.search import applied as taken
from peristyle.wood.looks import Grown, Look
from peristyle.wood.pictures import seen
from peristyle.words.steps import how
from support.bench import wrongly_made
from support.numbered import came_from

WAYS: tuple[Method, ...] = ("square_first", "bevel_direct", "flip_shared", "book", "upright", "none")


def box(shape: Shape, **board: object) -> Job:
    rough = {"length_mm": 2400.0, "width_mm": 900.0, "thickness_mm": 30.0}
    return job_of(shape=shape, height_mm=80.0, thicknesses_mm=(12.0,), board=Board(**{**rough, **board}))  # type: ignore[arg-type]


@pytest.mark.parametrize("seed", range(24))
def test_sides_lie_where_the_steps_take_them_from(seed: int) -> None:
    chance = random.Random(seed)
    shape: Shape = chance.choice([
        Rectangle(chance.uniform(90, 260), chance.uniform(80, 200), "outside"),
        Regular(chance.choice((5, 6, 8, 12)), 60.0),
    ])  # fmt: skip
    job = box(
        shape, method=WAYS[seed % len(WAYS)], creep_mm=chance.choice((0.0, 1.5)), edge_mm=chance.choice((0.0, 4.0)),
        across_mm=chance.choice((0.0, 21.0)), shift_mm=chance.choice((0.0, 133.0)),
    )  # fmt: skip
    job = revised(job, bottom=Panel(), closing_corner=chance.randrange(job.design.side_count),
                  saw=Saw(kerf_mm=chance.uniform(1.5, 3.5)))  # fmt: skip
    made = plan(job)
    assert made.buildable, [f.code for f in made.findings]
    told = came_from(made)
    assert len(told) == len(made.wrap.pieces)
    for piece in made.wrap.pieces:
        side = made.ring.sides[piece.side]
        came = told[f"side.{side.name}"]
        assert came.plane == piece.show
        start, end, _top_end, top = (piece.on(point) for point in side.outer_face)
        for there, here in ((start, came.start), (end, came.end), (top, came.top)):
            assert there == pytest.approx(here, abs=1e-6), (side.name, made.job.stock.board.method)


@pytest.mark.parametrize("seed", range(10))
def test_a_broken_wrap_lies_where_the_steps_take_it_from(seed: int) -> None:
    chance = random.Random(seed)
    job = box(
        Regular(chance.choice((4, 6, 9)), 70.0),
        creep_mm=chance.choice((0.0, 1.5)),
        shift_mm=17.0,
        edge_mm=3.0,
    )
    count = job.design.side_count
    spare = Board(name="Spare", length_mm=2400.0, width_mm=300.0, thickness_mm=12.0, across_mm=9.0)
    breaks = tuple(
        Break(after=k, board=chance.choice(("", "Spare")), skip_mm=chance.choice((0.0, 40.0)))
        for k in chance.sample(range(count), 3)
    )
    slopes = chance.choice([(0.0,), (11.0,), tuple(6.0 + k % 3 for k in range(count))])
    made = plan(
        revised(job, rack=(spare,), breaks=breaks, slopes_deg=slopes, closing_corner=chance.randrange(count))
    )
    assert made.buildable, [f.code for f in made.findings]
    assert not wrongly_made(made)
    told = came_from(made)
    for piece in made.wrap.pieces:
        side = made.ring.sides[piece.side]
        came = told[f"side.{side.name}"]
        assert came.board == piece.board
        if slopes == (0.0,):  # else a stop is told along the longer edge
            assert piece.on(side.outer_face[0]) == pytest.approx(came.start, abs=1e-6)
            assert piece.on(side.outer_face[1]) == pytest.approx(came.end, abs=1e-6)
    grains = [s for s in frieze_drawing(made, Format("mm")).shapes if isinstance(s, Grain)]
    assert [grain.board for grain in grains] == [piece.board for piece in made.wrap.pieces]


@pytest.mark.parametrize("seed", range(12))
def test_a_wrap_is_broken_only_as_often_as_it_must_be(seed: int) -> None:
    """Against brute force: no layout with fewer runs exists where every stretch may take any run."""
    chance = random.Random(seed)
    job = box(
        Regular(chance.choice((4, 5, 6)), 100.0, "outside"),
        end_trim_mm=0.0,
        length_mm=chance.uniform(250, 420),
    )
    marks = (Mark(x_mm=chance.uniform(20, 200), y_mm=10.0, length_mm=12.0, width_mm=30.0),)
    rack = tuple(
        Board(
            name=f"Spare {n}",
            length_mm=chance.uniform(160, 380),
            width_mm=200.0,
            thickness_mm=14.0,
            end_trim_mm=0.0,
        )
        for n in range(3)
    )
    job = revised(job, board=replace(job.stock.board, marks=marks), rack=rack)
    made = fewest_breaks(job)
    least = _fewest_runs(job)
    assert (made is None) == (least is None)
    if made is None or least is None:
        return
    found = plan(made)
    assert [f.code for f in found.findings if f.severity != "note"] == []
    assert len(found.wrap.runs) == least
    assert applied(job, breaking(job).changes).stock == made.stock  # type: ignore[union-attr]


def _fewest_runs(job: Job) -> int | None:
    """Every way of cutting the ring up, every order of stretches; the first run on the sides' own board."""
    count, kerf = job.design.side_count, job.shop.saw.kerf_mm
    mark, long = job.stock.board.marks[0], job.stock.board.length_mm
    rooms = [(0, 0.0, mark.x_mm, long), (0, mark.x_mm + mark.length_mm, long, long)]
    rooms += [(n + 1, 0.0, board.length_mm, board.length_mm) for n, board in enumerate(job.stock.rack)]

    def fits(runs: list[int], spent: dict[int, float], first: bool) -> bool:
        if not runs:
            return True
        for board, low, high, whole in rooms:
            begin = max(low, spent.get(board, 0.0))
            end = begin + runs[0] * 100.0 + (runs[0] - 1) * kerf
            good = (not first or board == 0) and end <= high and end + kerf <= whole
            if good and fits(runs[1:], spent | {board: end + kerf}, False):
                return True
        return False

    for number in range(1, count + 1):
        for sizes in itertools.product(range(1, count + 1), repeat=number):
            if sum(sizes) == count and number > 1 and fits(list(sizes), {}, True):
                return number
    return None


def test_a_side_made_anew_leaves_the_others_where_they_lie() -> None:
    spare = Board(name="Spare", length_mm=700.0, width_mm=120.0, thickness_mm=30.0, seed=21)
    job = revised(box(Rectangle(200.0, 140.0)), rack=(spare,))
    before = {p.side: p for p in plan(job).wrap.pieces}
    for side in range(4):
        found = search(job, Allowed(replaces=side), lambda _name: None)
        assert found.suggestions
        made = plan(taken(job, found.suggestions[0]))
        assert made.buildable
        for piece in made.wrap.pieces:
            assert piece.board == ("Spare" if piece.side == side else "")
            if piece.side != side:
                assert piece.start_mm == pytest.approx(before[piece.side].start_mm, abs=0.01)


def test_a_lost_side_is_found_where_it_was_cut_from() -> None:
    """The stretch a side came from is put on the rack as a board: the best place on it is where the side was."""
    job = box(Rectangle(200.0, 140.0), wood="walnut")
    where = {p.side: p for p in plan(job).wrap.pieces}[1]
    board = job.stock.board
    piece = part_of(
        board,
        "What it came from",
        where.start_mm - 37.0,
        0.0,
        where.end_mm - where.start_mm + 90.0,
        board.width_mm,
    )
    found = search(revised(job, rack=(piece,)), Allowed(replaces=1), lambda _name: None)
    # A kerf's loss nearer to one neighbour or the other looks as well.
    assert found.suggestions[0].shift_mm == pytest.approx(37.0, abs=job.shop.saw.kerf_mm + 0.25)
    assert found.suggestions[0].closing > 80


@pytest.mark.parametrize("method", WAYS)
def test_frieze_and_loupe_show_the_wood_where_the_sides_lie(method: Method) -> None:
    made = plan(box(Rectangle(200.0, 140.0), method=method))
    told = came_from(made)
    grains = [s for s in frieze_drawing(made, Format("mm")).shapes if isinstance(s, Grain)]
    for piece, grain in zip(made.wrap.pieces, grains, strict=True):
        came = told[f"side.{made.ring.sides[piece.side].name}"]
        assert (grain.plane, grain.source[0], grain.source[1]) == (
            came.plane,
            pytest.approx(came.start),
            pytest.approx(came.end),
        )
    for corner in range(4):
        before, after = [
            s
            for s in loupe_shapes(made, corner, None, (0.0, 0.0, 80.0), Format("mm"))
            if isinstance(s, Grain)
        ]
        first, second = told[f"side.{'ABCD'[corner]}"], told[f"side.{'ABCD'[(corner + 1) % 4]}"]
        # The inner edges of the two strips are the ends that meet.
        assert before.source[1] == pytest.approx(first.end)
        assert after.source[0] == pytest.approx(second.start)


def test_shared_cuts_take_the_board_the_handbook_sum_says() -> None:
    # Σ (outside + inside)/2 + n·k/cos(bevel) + t·tan(bevel): four sides of 100, 12 thick, kerf 3 (common practice).
    made = plan(box(Rectangle(100.0, 100.0, "outside"), method="flip_shared"))
    assert made.wrap.used_mm == pytest.approx(380.9706, abs=1e-4)
    assert not any(made.wrap.runs_on)


def _plane(points: list[tuple[float, float, float]], axis: int) -> tuple[np.ndarray, float]:
    """The plane through four corners, facing along an axis; they all lie in it."""
    corners = np.array(points)
    normal = np.cross(corners[1] - corners[0], corners[2] - corners[0])
    normal *= np.sign(normal[axis]) / np.linalg.norm(normal)
    assert np.ptp(corners @ normal) < 1e-9
    return normal, float(corners[0] @ normal)


@pytest.mark.parametrize("seed", range(12))
def test_one_cut_serves_two_pieces_however_the_sides_lean(seed: int) -> None:
    """Turned about the board's length, both ends that meet lie in planes one kerf apart, and so do all long edges."""
    chance = random.Random(seed)
    shape: Shape = chance.choice([
        Rectangle(chance.uniform(150, 260), chance.uniform(140, 200), "outside"),
        Regular(chance.choice((3, 5, 8, 11)), 150.0),
        Outline((90.0, 120.0, 80.0, None, None), (100.0, 110.0, 115.0, 105.0, None)),
    ])  # fmt: skip
    job = revised(
        box(shape, method="flip_shared"), slopes_deg=(chance.choice((-1, 1)) * chance.uniform(2, 25),),
        saw=Saw(kerf_mm=chance.uniform(1.5, 3.5), stop_deg=60.0),
    )  # fmt: skip
    made = plan(job)
    assert made.buildable, [f.code for f in made.findings]
    ends, edges = [], []
    for piece in made.wrap.pieces:
        side = made.ring.sides[piece.side]
        over = piece.way == "turned_over"
        show = [(*piece.on(point), 12.0 * over) for point in side.outer_face]
        back = [(*piece.on(point), 12.0 * (not over)) for point in side.inner_face]
        faces = [
            _plane([show[a], show[b], back[b], back[a]], axis)
            for a, b, axis in ((3, 0, 0), (1, 2, 0), (0, 1, 1), (2, 3, 1))
        ]
        ends.append(faces[:2])
        edges += sorted(faces[2:], key=lambda plane: plane[1])
    for low, high in zip(edges[::2], edges[1::2], strict=True):
        for own, first in ((low, edges[0]), (high, edges[1])):
            assert own[0] == pytest.approx(first[0], abs=1e-9)
            assert own[1] == pytest.approx(first[1], abs=1e-6)
    for (_start, end), (start, _end) in itertools.pairwise(ends):
        assert end[0] == pytest.approx(start[0], abs=1e-9)
        assert start[1] - end[1] == pytest.approx(job.shop.saw.kerf_mm, abs=1e-6)
    last = made.wrap.pieces[-1]
    assert made.wrap.used_mm > last.end_mm - made.wrap.pieces[0].start_mm
    step = next(step for step in made.steps if step.operation == "bevel")
    assert step.passes == len(made.ring.sides) + 1
    assert "bevel.flip_swung" in step.says


@pytest.mark.parametrize(("shape", "runs"), [
    (Rectangle(200.0, 140.0), 4), (Regular(6, 80.0), 6), (Regular(5, 80.0), 4), (Rectangle(140.0, 200.0), 4),
])  # fmt: skip
def test_a_book_runs_over_every_corner_where_a_run_of_sides_is_half_the_ring(shape: Shape, runs: int) -> None:
    made = plan(box(shape, method="book"))
    assert sum(made.wrap.runs_on) == runs
    assert made.wrap.used_mm < plan(box(shape, method="square_first")).wrap.used_mm * 0.62


def test_upright_strips_lie_side_by_side_and_end_to_end() -> None:
    wide, narrow = (
        plan(box(Regular(6, 60.0, "outside"), method="upright", width_mm=w)) for w in (400.0, 200.0)
    )
    assert (wide.wrap.rows, narrow.wrap.rows) == (1, 2)
    assert (sum(wide.wrap.runs_on), sum(narrow.wrap.runs_on)) == (5, 4)
    unlike = plan(box(Rectangle(200.0, 140.0, "outside"), method="upright", width_mm=330.0))
    assert [f.kind for f in unlike.findings if f.code == "board_too_narrow"] == ["upright"]


@pytest.mark.parametrize(("method", "job", "why"), [
    ("flip_shared", revised(box(Regular(6, 80.0)), slopes_deg=(8.0, 12.0) * 3), "leaning"),
    ("flip_shared", revised(box(Regular(4, 80.0)), saw=Saw(kind="chamfer_bit")), "saw"),
    ("upright", revised(box(Regular(6, 80.0)), slopes_deg=(8.0,)), "leaning"),
    ("upright", revised(box(Regular(6, 80.0)), saw=Saw(kind="miter_saw")), "saw"),
    ("upright", revised(box(Regular(3, 180.0)), saw=Saw(stop_deg=45.0)), "on_end"),
    ("upright", box(House(200.0, 120.0, 30.0)), "roof"),
    ("upright", revised(box(Regular(8, 200.0)), thicknesses_mm=(4.0, 14.0) * 4), "inside_longer"),
])  # fmt: skip
def test_what_a_way_cannot_do_is_refused_with_a_way_out(method: Method, job: Job, why: str) -> None:
    job = revised(job, board=replace(job.stock.board, method=method))
    found = next(f for f in plan(job).findings if f.code == f"{method.split('_')[0]}_cannot_be")
    assert (found.severity, found.kind) == ("stop", why)
    assert found.fixes


@pytest.mark.parametrize("turned", [False, True])
@pytest.mark.parametrize("face", ["front", "back"])
def test_a_numbered_picture_lies_as_the_board_does(face: str, turned: bool) -> None:
    rows, columns = 60, 200
    numbered = np.zeros((rows, columns, 3), dtype=np.uint8)
    numbered[..., 0], numbered[..., 1] = np.arange(columns)[None, :], np.arange(rows)[::-1, None]
    data = _png(numbered)
    board = Board(length_mm=200.0, width_mm=60.0, face=face, turned=turned, picture="p")  # type: ignore[arg-type]
    look = Look(Grown("oak", 1, 200.0, 60.0, 12.0), "p", "", face == "back", turned)
    shown = seen(look, "face", lambda _name: data).pixels
    for x, y in ((0.5, 0.5), (150.5, 10.5), (33.5, 59.5)):
        there = board.lying(x, y)
        pixel = shown[int(60 - there[1]), int(there[0])]
        assert (int(pixel[0]), int(pixel[1])) == (int(x), int(y))
        assert board.lying(*there) == pytest.approx((x, y))


def test_an_offcut_shows_its_own_part_of_the_board() -> None:
    board = Board(length_mm=400.0, width_mm=100.0, turned=True, marks=(Mark(x_mm=40.0, y_mm=70.0),))
    part = part_of(board, "left", 250.0, 0.0, 150.0, 60.0)
    whole = seen(Look(Grown("ash", 3, 400.0, 100.0, 12.0)), "face", lambda _n: None)
    scale = whole.px_per_mm
    assert part.cut_from is not None
    cut = (part.cut_from.x_mm, part.cut_from.y_mm, 150.0, 60.0)
    own = seen(Look(Grown("ash", 3, 400.0, 100.0, 12.0), part=cut), "face", lambda _n: None).pixels
    # Turned, the lying 250–400 × 0–60 is the pictured 0–150 × 40–100.
    assert cut[:2] == (0.0, 40.0)
    assert np.array_equal(own, whole.pixels[: round(60 * scale), : round(150 * scale)])
    assert (part.marks[0].x_mm, part.marks[0].y_mm) == (40.0, 30.0)


def _png(pixels: np.ndarray) -> bytes:
    import io

    from PIL import Image

    held = io.BytesIO()
    Image.fromarray(pixels).save(held, "PNG")
    return held.getvalue()


def test_nothing_on_the_makers_rack_is_ever_replaced() -> None:
    own = (Board(name="Oak", wood="oak"),)
    other = put_with(own, Board(name="Oak", wood="ash"))
    assert [(board.name, board.wood) for board in other] == [("Oak", "oak"), ("Oak 2", "ash")]
    assert put_with(own, own[0]) == own


@pytest.mark.parametrize("method", ["square_first", "bevel_direct", "none", "book", "upright"])
def test_nothing_planes_a_stretch_of_a_strip(method: Method) -> None:
    """Common practice: the board is planed as a whole; a thinner side alone, off its inside, before it is grooved."""
    job = revised(
        box(Rectangle(200.0, 140.0), method=method),
        saw=Saw(stop_deg=60.0),
        thicknesses_mm=(9.0, 12.0, 9.0, 11.0),
        bottom=Panel(),
    )
    made = plan(job)
    assert made.buildable, [f.code for f in made.findings]
    at = {step.id: n for n, step in enumerate(made.steps)}
    board = [step for step in made.steps if step.operation == "plane"]
    assert [(len(step.pieces), step.amount("thickness")) for step in board] == [(4, 12.0)]
    thin = [step for step in made.steps if step.operation == "thin"]
    assert [(set(step.pieces), step.amount("thickness"), step.numbers["off_mm"]) for step in thin] == [
        ({"side.D"}, 11.0, 1.0), ({"side.A", "side.C"}, 9.0, 3.0),
    ]  # fmt: skip
    parts = {"bevel_direct": "bevel", "upright": "strips"}.get(method, "crosscut")
    for step in thin:
        own = [s for s in made.steps if s.operation == parts and set(s.pieces) & set(step.pieces)]
        assert own
        assert all(at[s.id] < at[step.id] for s in own)
        assert {a.step for a in step.after} == {s.id for s in own}
        assert "inside face" in how(step, Format("mm"))
    grooves = [step for step in made.steps if step.operation == "groove"]
    assert grooves
    assert all(at[s.id] > at[t.id] for s in grooves for t in thin)
    assert not any("long strip" in how(step, Format("mm")) for step in grooves)
    assert not wrongly_made(made)


def test_a_band_saw_rips_strips_and_the_saw_bevels_them() -> None:
    """Common practice: a joint is not left from a band saw, whose cut is planed."""
    job = box(Rectangle(100.0, 80.0), method="upright", width_mm=500.0)
    made = plan(revised(job, uses=replace(job.shop.uses, rip="Band saw"), bottom=Panel()))
    tools = {step.operation: step for step in made.steps}
    assert tools["strips"].tool == "band_saw"
    assert "plane to the width" in how(tools["strips"], Format("mm"))
    assert tools["strip_bevel"].tool == "table_saw"
