"""The match of two edges: planted matches, other wood, a slow brute force, and what the scale of scores means."""

import io
import random
from functools import lru_cache

import numpy as np
import pytest
from PIL import Image

from peristyle.model.design import Rectangle, Regular, replace
from peristyle.model.job import Job, job_of, revised
from peristyle.model.stock import Board, Break, Mark
from peristyle.planning.plan import plan
from peristyle.planning.stock.looks import look_of_sides
from peristyle.planning.stock.scored import Pictures
from peristyle.planning.stock.search import Allowed, applied, match_of, search
from peristyle.wood import match
from peristyle.wood.grown import MOST_PIXELS, edge_picture, end_picture, face_picture, knots_of
from peristyle.wood.looks import Grown, Look, Plane
from peristyle.wood.pictures import Seen, seen
from peristyle.words.boards import nothing_found
from support.planted import LENGTH_MM, another_wood, by_brute_force, missed_mm, planted, rank_agreement
from support.planted_rings import HOW, missed_start_mm, planted_ring, told_there


def nothing(_name: str) -> None:
    return None


@pytest.mark.parametrize("other", [False, True])
def test_planted_matches_are_found_in_bad_light(other: bool) -> None:
    missed = [missed_mm(planted(seed, other=other)) for seed in range(4)]
    assert sum(miss <= 0.5 for miss in missed) >= 3, missed  # scripts/proof plants a hundred of each


@pytest.mark.parametrize("how", [how for how in HOW if how != "upright"])
def test_what_is_planted_is_found_whatever_way_the_ring_is_cut_up(how: str) -> None:
    """At every corner that the grain does not run over by itself; scripts/proof plants a hundred of each."""
    missed = [missed_start_mm(planted_ring(seed, how, other=seed % 2 > 0)) for seed in range(3)]
    assert sum(miss <= 0.5 for miss in missed) >= 2, missed


def test_strips_that_are_planted_alike_are_told_to_run_on() -> None:
    there, usual = told_there(planted_ring(1, "upright", other=True))
    assert there > 95.0
    assert usual < 60.0


def test_ranks_agree_with_every_point_of_the_full_picture() -> None:
    one = planted(3)
    starts = np.arange(12.0, LENGTH_MM - one.reach_mm - 12.0, 3.0)
    slow = by_brute_force(one.seen, 5.0, 80.0, one.reach_mm, starts)
    edges = match.edges_of(one.seen, 5.0, 80.0)
    fast = match.distances(
        edges, match.steps(starts + one.reach_mm, edges), match.steps(starts, edges)
    ).astype(float)
    assert rank_agreement(slow, fast) > 0.95


def test_the_scale_says_what_it_is() -> None:
    picture = Seen(face_picture(Grown("walnut", 5, 900.0, 90.0, 12.0), 0.0, 4.0), 4.0)
    edges = match.edges_of(picture, 5.0, 80.0)
    scale = match.scaled(edges, 3.0)
    places = np.arange(100, 3000, 10)
    runs = scale.score(match.distances(edges, places, places + 12))
    chance = np.random.default_rng(2)
    strange = scale.score(match.distances(edges, chance.permutation(places), places))
    assert np.median(runs) > 90
    assert np.median(strange) < 12
    assert scale.runs_on_spread[0] < scale.runs_on < scale.runs_on_spread[1] < scale.strange


def test_brightness_does_not_count_and_blank_wood_is_no_trouble() -> None:
    picture = face_picture(Grown("ash", 5, 600.0, 60.0, 12.0), 0.0, 4.0)
    dim = (picture.astype(float) * 0.7).astype(np.uint8)
    one, other = (match.edges_of(Seen(p, 4.0), 0.0, 60.0) for p in (picture, dim))
    scale = match.scaled(one, 3.0)
    assert float(np.abs(one.after - other.after).max()) < scale.strange * 0.5
    blank = match.edges_of(Seen(np.full((40, 400, 3), 128, np.uint8), 4.0), 0.0, 10.0)
    assert np.isfinite(match.scaled(blank, 3.0).score(np.zeros(3, np.float32))).all()


def box(**board: object) -> Job:
    rough = {"length_mm": 900.0, "width_mm": 75.0}
    return job_of(shape=Rectangle(180.0, 120.0, "outside"), height_mm=70.0, thicknesses_mm=(12.0,),
                  board=Board(**{**rough, **board}))  # type: ignore[arg-type]  # fmt: skip


def test_suggestions_keep_clear_are_applied_and_score_as_promised() -> None:
    job = box(marks=(Mark(x_mm=40.0, y_mm=20.0), Mark(x_mm=850.0, y_mm=5.0, kind="check", length_mm=40.0)))
    found = search(job, Allowed(other_edge=True), nothing)
    assert found.curve is not None
    assert found.suggestions[0].closing >= found.suggestions[-1].closing
    assert {one.turned for one in found.suggestions} == {False, True}
    pictures = Pictures(nothing)
    for one in found.suggestions[:4]:
        taken = applied(job, one)
        assert not [f for f in plan(taken).findings if f.code == "on_a_mark"], one
        held = match_of(taken, pictures)
        assert held is not None
        assert held.scores(taken.stock.board.shift_mm) == pytest.approx(one.corners, abs=1.0)


def test_stretch_takes_the_ring_to_what_was_promised() -> None:
    job = box()
    best = search(job, Allowed(stretch_mm=3.0), nothing).suggestions
    one = next(s for s in best if s.stretch_mm)
    used = plan(applied(job, one)).wrap.used_mm
    assert used == pytest.approx(plan(job).wrap.used_mm + one.stretch_mm, abs=1e-3)


def test_the_rack_is_searched_and_a_hopeless_board_says_nothing_fits() -> None:
    job = box()
    job = revised(
        job,
        rack=(
            Board(name="Short", length_mm=200.0),
            Board(name="Long", length_mm=800.0, width_mm=75.0, wood="oak"),
        ),
    )
    found = search(job, Allowed(rack=True), nothing)
    assert {one.board for one in found.suggestions} <= {"Board", "Long"}
    assert any(one.rack == 1 for one in found.suggestions)
    wall = Mark(kind="check", x_mm=0.0, y_mm=0.0, length_mm=900.0, width_mm=75.0)
    assert search(box(marks=(wall,)), Allowed(), nothing).suggestions == ()
    assert search(box(length_mm=300.0), Allowed(), nothing).curve is None
    stopped = search(job, Allowed(rack=True), nothing, cancelled=lambda: True)
    assert stopped.cancelled
    assert stopped.suggestions == ()


def test_leaning_corners_are_compared_along_their_own_cuts() -> None:
    job = job_of(shape=Regular(6, 80.0), slopes_deg=(14.0,), board=Board(length_mm=700.0, width_mm=130.0))
    held = match_of(job, Pictures(nothing))
    assert held is not None
    scores = held.scores(0.0)
    upright = match_of(revised(job, slopes_deg=(0.0,)), Pictures(nothing))
    assert upright is not None
    # The jump grows up a leaning corner: it matches less well than an upright one on the same board.
    assert np.mean(scores[:5]) < np.mean(upright.scores(0.0)[:5])


@pytest.mark.parametrize("seed", [11, 12, 13])
def test_face_edge_and_end_of_a_grown_board_fit_together(seed: int) -> None:
    board = Grown("pine", seed, 600.0, 60.0, 24.0, "plain", ("sapwood",))
    face, edge = face_picture(board, 0.0, 4.0), edge_picture(board, px_per_mm=4.0)
    end = end_picture(board, px_per_mm=4.0)

    def light(strip: np.ndarray, blur: int) -> np.ndarray:
        along = strip.mean(axis=(1 if strip.shape[1] < strip.shape[0] else 0, 2))
        smooth = np.convolve(along, np.ones(blur) / blur, "valid")
        return smooth - smooth.mean()

    # Along the lower arris the face's last rows and the edge's first are the same wood; across the start, face and end.
    along = np.corrcoef(light(face[-3:], 25), light(edge[:3], 25))[0, 1]
    across = np.corrcoef(light(face[::-1, :3], 5), light(end[:3], 5))[0, 1]
    assert along > 0.4
    assert across > 0.4


def test_knots_are_where_they_are_said_to_be() -> None:
    board = Grown("maple", 4, 600.0, 120.0, 20.0, "plain", ("knots",))
    knots, picture = knots_of(board), face_picture(board, 0.0, 4.0).astype(float)
    assert knots
    for knot in knots:
        if 10 < knot.x < 590 and 10 < knot.y < 110:
            row, column = round((120 - knot.y) * 4), round(knot.x * 4)
            assert picture[row - 2 : row + 3, column - 2 : column + 3].mean() < picture.mean() * 0.85


@pytest.mark.parametrize("high", [0.01, 0.2, 0.4, 1.1])
def test_a_band_at_the_edge_of_the_board_has_edges_too(high: float) -> None:
    chance = np.random.default_rng(3)
    picture = Seen(chance.integers(0, 255, (40, 300, 3), dtype=np.uint8), 2.0)
    with np.errstate(all="raise"):
        for low in (0.0, 19.9, 25.0):
            found = match.edges_of(picture, low, low + high)
            assert np.isfinite(found.before).all()
            assert np.isfinite(found.after).all()


@lru_cache(maxsize=4)
def grown(look: Look, plane: Plane) -> Seen:
    return seen(look, plane, nothing)


_FINE_MM = 0.125


def strips_of(job: Job, corner: int, wide_mm: float) -> list[np.ndarray]:
    """Both strips of a corner cut from the full picture where the plan lays them: (up, away from the cut, 3)."""
    made, board = plan(job), job.stock.board
    found = []
    for index, ends in ((corner, True), ((corner + 1) % job.design.side_count, False)):
        side = made.ring.sides[index]
        piece = next(p for p in made.wrap.pieces if p.side == index)
        picture = grown(look_of_sides(job), piece.show)
        away = np.arange(_FINE_MM / 2, wide_mm, _FINE_MM)
        x = side.outside_mm - away if ends else away
        y = np.arange(_FINE_MM / 2, side.slant_mm, _FINE_MM)
        corner_at, along, up = (np.array(piece.on(point)) for point in ((0.0, 0.0), (1.0, 0.0), (0.0, 1.0)))
        places = (
            corner_at + x[None, :, None] * (along - corner_at) + y[:, None, None] * (up - corner_at)
        ).reshape(-1, 2)
        column = np.clip((places[:, 0] * picture.px_per_mm).astype(int), 0, picture.pixels.shape[1] - 1)
        row = np.clip(
            ((board.width_mm - places[:, 1]) * picture.px_per_mm).astype(int), 0, picture.pixels.shape[0] - 1
        )
        found.append(np.log(picture.pixels[row, column].reshape(len(y), len(x), 3) + 4.0))
    return found


def by_every_point(job: Job, corner: int, starts: np.ndarray) -> np.ndarray:
    """How unlike the two strips are at each start: along the board as it is told there, upright mostly by tone."""
    upright, found = job.stock.board.method == "upright", []
    for start in starts:
        there = revised(job, board=replace(job.stock.board, shift_mm=float(start)))
        strips = strips_of(there, corner, 10.0 if upright else match.EDGE_MM)
        squares = 0.0
        for wide, tones, lights in ((80, 1.0, 0.05), (24, 0.3, 0.03)) if upright else ():
            first, second = (strip[:, :wide].mean(axis=1) for strip in strips)
            told = np.concatenate([tones * (first - second)[:, [0, 2]] - tones * (first - second)[:, [1]],
                                   lights * ((first - second) @ [[0.3], [0.59], [0.11]])], axis=1)  # fmt: skip
            rows = np.stack(
                [np.convolve(one, np.ones(40) / 40, "valid") for one in told.T], axis=-1
            )  # 5 mm each
            squares += float((rows**2).sum(axis=1).mean())
        if not upright:
            first, second = (strip.mean(axis=1) for strip in strips)
            light = (first - second) @ [0.3, 0.59, 0.11]
            rows = light[: len(light) // 8 * 8].reshape(-1, 8).mean(axis=1)
            tone = ((first - second)[:, [0, 2]] - (first - second)[:, [1]]).mean(axis=0)
            squares = float(rows.std() ** 2 + match.TONE**2 * np.mean(tone**2))
        found.append(np.sqrt(squares))
    return np.array(found)


_DECIDE = {"book": (1, 3), "flip_shared": (0, 1, 2, 3), "upright": (3,)}


@pytest.mark.parametrize(
    ("method", "wood"),
    [("book", "walnut"), ("book", "oak"), ("flip_shared", "cherry"), ("flip_shared", "pine"), ("upright", "cherry"),
     ("upright", "pine")],
)  # fmt: skip
def test_whatever_way_it_is_cut_starts_rank_as_every_point_of_the_wood_would(method: str, wood: str) -> None:
    wide = {"length_mm": 700.0, "width_mm": 420.0, "thickness_mm": 30.0} if method == "upright" else {
        "length_mm": 1100.0, "width_mm": 90.0, "thickness_mm": 30.0}  # fmt: skip
    job = revised(box(method=method, wood=wood, **wide), shape=Rectangle(120.0, 80.0, "outside"))
    held = match_of(job, Pictures(nothing))
    assert held is not None
    assert held.decides == _DECIDE[method]
    starts = np.arange(0.0, held.room[1], held.room[1] / 40)
    for number in held.decides:
        slow = by_every_point(job, held.order[number], starts)
        assert rank_agreement(slow, held.apart(number, starts.astype(np.float32)).astype(float)) > 0.95
    # Where the wood is one piece but for a cut it runs on, and any two strips taken at random are strangers.
    inner = [n for n in range(4) if n not in held.decides]
    ranked, apart = held.ranked()
    assert not inner or np.median([held.scale.score(held.apart(n, ranked)) for n in inner]) > 80
    if method == "book":  # the tone of one board may well be the same all over
        assert np.median(held.scale.score(apart)) < np.median(held.scale.score(held.apart(inner[0], ranked)))


def test_an_upright_box_in_two_lengths_is_matched_at_both_its_ends() -> None:
    """Two lengths of two strips: where both streaks of a painted board meet each other is found."""
    tone = 20.0 * np.sin(np.arange(800) / 37.0)[:, None] * np.linspace(-1, 1, 220)[None, :]
    base = np.array([140.0, 110.0, 80.0])
    pixels = (
        np.clip(base + tone[..., None] * [1.0, 0.2, -0.8], 0, 255).astype(np.uint8).transpose(1, 0, 2)[::-1]
    )
    data = io.BytesIO()
    Image.fromarray(pixels).save(data, "PNG")
    job = revised(
        box(method="upright", length_mm=800.0, width_mm=220.0, thickness_mm=12.0, picture="streaks.png"),
        shape=Rectangle(120.0, 80.0, "outside"),
    )
    found = search(job, Allowed(), lambda _name: data.getvalue())
    assert found.curve is not None
    assert found.curve.decides == (1, 3)
    best = found.suggestions[0]
    taken = applied(job, best)
    assert plan(taken).wrap.spare_mm >= 0
    # The two edges have one tone where the sine is nought: the middle of the two lengths lies there.
    pieces = plan(taken).wrap.pieces
    middle = (min(p.start_mm for p in pieces) + max(p.end_mm for p in pieces)) / 2
    assert abs(middle / 37.0 / np.pi - round(middle / 37.0 / np.pi)) * 37.0 * np.pi < 12.0
    assert best.closing == pytest.approx(min(best.corners[1], best.corners[3]))


def test_nothing_is_searched_where_a_start_makes_no_difference() -> None:
    assert search(box(method="none"), Allowed(), nothing).suggestions == ()
    none = search(box(method="book", length_mm=120.0, thickness_mm=30.0), Allowed(), nothing)
    assert not none.fits
    assert "does not go on the board" in nothing_found(none.fits, replaces=False)


def test_where_the_wrap_is_broken_the_strip_moves_and_the_rest_stays() -> None:
    spare = Board(name="Spare", length_mm=700.0, width_mm=100.0, thickness_mm=12.0)
    job = box(length_mm=1000.0, width_mm=100.0)
    job = revised(
        replace(job, stock=replace(job.stock, rack=(spare,))), breaks=(Break(after=1, board="Spare"),)
    )
    found = search(job, Allowed(rack=True, stretch_mm=5.0), nothing)
    assert found.curve is not None
    assert set(found.curve.decides) == {1, job.closing}
    assert {one.rack for one in found.suggestions} == {None}  # sides lie on the other one already
    assert {one.stretch_mm for one in found.suggestions} == {0.0}
    before, best = plan(job), plan(applied(job, found.suggestions[0]))
    for old, new in zip(before.wrap.pieces, best.wrap.pieces, strict=True):
        assert (old.origin_mm == new.origin_mm) == bool(old.board)


@pytest.mark.parametrize(
    ("wide", "points", "long"), [(18.0, 0, 900.0), (100.0, 300, 900.0), (100.0, 60, 900.0), (100.0, 0, 1.0)]
)
def test_spare_wood_is_ranked_whatever_the_boards_are(wide: float, points: int, long: float) -> None:
    """Beside a board too narrow or too short for its sides, or of which there is only a poor picture."""
    data = io.BytesIO()
    Image.fromarray(another_wood(3, 900.0, 100.0, (points or 900) / 900.0)).save(data, "PNG")
    spare = Board(name="Spare", length_mm=700.0, width_mm=200.0, thickness_mm=12.0)
    job = box(length_mm=long, width_mm=wide, picture="poor.png" if points else "")
    job = replace(job, stock=replace(job.stock, rack=(spare,)))
    found = search(job, Allowed(replaces=1), lambda _name: data.getvalue())
    assert found.suggestions
    taken = applied(job, found.suggestions[0])
    again = search(taken, Allowed(), lambda _name: data.getvalue())  # its corners are told from both boards
    assert bool(again.suggestions) == (wide > 70.0 and long > 70.0)


def test_a_board_too_thin_to_be_opened_like_a_book_is_not_offered() -> None:
    job = box(method="book", length_mm=900.0, width_mm=100.0, thickness_mm=30.0)
    thin = Board(name="Thin", length_mm=900.0, width_mm=100.0, thickness_mm=10.0)
    job = replace(job, stock=replace(job.stock, rack=(thin,)))
    assert {one.rack for one in search(job, Allowed(rack=True), nothing).suggestions} == {None}


def test_the_largest_boards_cost_no_more_memory_than_others() -> None:
    """What a slip of the hand may type (twenty metres each way) is told as finely as its picture, no finer."""
    wide = Seen(np.zeros((500, 5000, 3), np.uint8), 0.25)  # 20 m by 2 m
    edges = match.edges_of(wide, 10.0, 1900.0)
    assert edges.step_mm == 2.0
    assert edges.before.size < 10_000_000
    thick = Board(length_mm=300.0, width_mm=2000.0, thickness_mm=20000.0)
    assert (
        seen(look_of_sides(box()), "end", nothing).px_per_mm
        == seen(look_of_sides(box()), "face", nothing).px_per_mm
    )
    assert seen(look_of_sides(revised(box(), board=thick)), "end", nothing).pixels.size < 4 * MOST_PIXELS


def hopeless(chance: random.Random) -> Job:
    """Boards of every size, a hair's breadth among them, and a ring that may or may not come from them."""

    def board(name: str) -> Board:
        return Board(
            name=name, length_mm=chance.choice((1.0, 9.0, 300.0, 1400.0, chance.uniform(1, 2000))),
            width_mm=chance.choice((1.0, 20.0, 120.0, 400.0, chance.uniform(1, 400))),
            thickness_mm=chance.choice((2.0, 10.0, 30.0)), end_trim_mm=chance.choice((0.0, 5.0, 50.0)),
            shift_mm=chance.choice((0.0, 0.0, 20.0)), across_mm=chance.choice((0.0, 0.0, 30.0)),
            method=chance.choice(("square_first", "square_first", "bevel_direct", "flip_shared", "book", "upright")),
        )  # fmt: skip

    shape = chance.choice(
        (Rectangle(chance.uniform(3, 300), chance.uniform(3, 300), "outside"),
         Regular(chance.randrange(3, 9), chance.uniform(20, 300), "across_flats"))
    )  # fmt: skip
    job = job_of(shape=shape, height_mm=chance.choice((2.0, 20.0, 70.0)), thicknesses_mm=(chance.choice((1.0, 8.0)),),
                 slopes_deg=(chance.choice((0.0, 0.0, 12.0, -9.0)),), board=board("Own"))  # fmt: skip
    rack = tuple(board(f"Spare {k}") for k in range(chance.randrange(3)))
    job = replace(job, stock=replace(job.stock, rack=rack))
    if chance.random() < 0.4:
        after, name = (
            chance.randrange(job.design.side_count - 1),
            chance.choice(["", *(one.name for one in rack)]),
        )
        job = revised(job, breaks=(Break(after=after, board=name, skip_mm=chance.choice((0.0, 20.0))),))
    return job


@pytest.mark.parametrize("seed", [*range(8), 21, 40, 48, 96, 97, 132])
def test_no_board_is_too_hopeless_to_be_searched(seed: int) -> None:
    chance = random.Random(seed)
    job = hopeless(chance)
    found = search(job, Allowed(other_face=True, rack=True, aim=chance.choice(("closing", "all"))), nothing)
    spare = search(job, Allowed(replaces=chance.randrange(job.design.side_count)), nothing)
    for one in (*found.suggestions, *spare.suggestions):
        assert all(0.0 <= score <= 100.0 for score in one.corners)
        assert plan(applied(job, one)).wrap.pieces


def test_suggestions_rank_by_the_wood_alone_across_faces_edges_and_boards() -> None:
    """Scores stop at 100 and each board has its own scale: how unlike the edges are decides, and is told."""
    boards = tuple(Board(name=f"Board {n}", length_mm=2600.0, width_mm=120.0, thickness_mm=9.0, wood=wood, seed=n)
                   for n, wood in enumerate(("maple", "cherry", "beech"), 1))  # fmt: skip
    job = job_of(
        shape=Rectangle(200.0, 140.0), height_mm=80.0, thicknesses_mm=(9.0,), board=boards[0], rack=boards[1:]
    )
    found = search(job, Allowed(rack=True, other_face=True, other_edge=True), dict).suggestions
    assert len({(one.rack, one.face, one.turned) for one in found}) > 1
    assert [one.apart for one in found] == sorted(one.apart for one in found)
    for one in found:
        corners = match_of(applied(job, one), Pictures(dict))
        assert corners is not None
        now = float(corners.apart(len(corners.order) - 1, np.array([corners.shift], dtype=np.float32))[0])
        assert now == pytest.approx(one.apart, rel=0.25, abs=0.004)
        assert one.runs_on == (one.apart <= corners.scale.runs_on)
