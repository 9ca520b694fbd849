"""A house whose roof runs past its walls: lengths to cut, findings, and what must not follow the roof."""

import itertools
import json
import math
from pathlib import Path

import pytest

import assembly
from peristyle import cli
from peristyle.core.errors import LengthError
from peristyle.core.lengths import parse_pitch
from peristyle.core.outlines import bounds
from peristyle.drawing.board import board_drawing
from peristyle.drawing.eye import Eye
from peristyle.drawing.shapes import Path as Line
from peristyle.drawing.size import size_drawing
from peristyle.drawing.solid import Solid
from peristyle.model.design import House, Keys, Liner, Panel, replace
from peristyle.model.job import job_of, revised
from peristyle.model.stock import Board
from peristyle.planning.findings import reader
from peristyle.planning.form.reshape import measured, reshaped
from peristyle.planning.form.ring import plan_ring
from peristyle.planning.plan import Plan, plan
from support.telling import told, with_fix

GABLE = job_of(shape=House(210.0, 95.0, 38.0, 28.0), height_mm=85.0, thicknesses_mm=(8.0,))


def found(made: Plan, code: str) -> list[str]:
    return [told(f) for f in made.findings if f.code == code]


@pytest.mark.parametrize(
    ("text", "degrees"),
    [
        ("33.7", 33.7),
        ("8/12", math.degrees(math.atan(8 / 12))),
        ("8:12", math.degrees(math.atan(8 / 12))),
        ("1 in 6", math.degrees(math.atan(1 / 6))),
        ("7,5 / 12", math.degrees(math.atan(7.5 / 12))),
        ("-1:8", -math.degrees(math.atan(1 / 8))),
        ("=90-52", 38.0),
    ],
)
def test_pitch_as_angle_or_rise_over_run(text: str, degrees: float) -> None:
    assert parse_pitch(text) == pytest.approx(degrees)


@pytest.mark.parametrize("text", ["", "8/", "/12", "8/12/3", "steep"])
def test_a_pitch_that_is_none_says_so(text: str) -> None:
    with pytest.raises(LengthError):
        parse_pitch(text)


@pytest.mark.parametrize("method", ["square_first", "bevel_direct"])
@pytest.mark.parametrize("closing", range(5))
def test_every_piece_lies_on_the_board_whole(closing: int, method: str) -> None:
    """The longer inside included: no piece's wood reaches into its neighbour's or past the strip."""
    board = Board(length_mm=2000.0, method="bevel_direct" if method == "bevel_direct" else "square_first")
    made = plan(revised(GABLE, closing_corner=closing, board=board))
    wrap, sides, kerf = made.wrap, made.ring.sides, made.job.shop.saw.kerf_mm
    backs = []
    for piece in wrap.pieces:
        xs = [
            piece.origin_mm + x
            for face in (sides[piece.side].outer_face, sides[piece.side].inner_face)
            for x, _y in face
        ]
        backs.append((min(xs), max(xs)))
    assert backs[0][0] >= wrap.start_mm - 1e-9
    assert backs[-1][1] + kerf <= wrap.end_mm + 1e-9
    if method == "square_first":
        for (_low, end), (start, _high) in itertools.pairwise(backs):
            assert end + kerf <= start + 1e-9
    assert wrap.used_mm == pytest.approx(
        sum(s.reach_mm[1] - s.reach_mm[0] for s in sides) + sum(wrap.losses_mm)
    )


def test_walls_are_crosscut_to_their_longer_inside() -> None:
    made = plan(GABLE)
    wall = made.ring.sides[1]
    longest = wall.outside_mm + 8.0 * math.tan(math.radians(38.0))
    crosscut = next(c for c in made.steps if c.operation == "crosscut" and "side.B" in c.pieces)
    assert crosscut.value("stop") == pytest.approx(longest)
    top = next(c for c in made.steps if c.operation == "bevel" and c.end == "end" and "side.B" in c.pieces)
    assert (top.lies, top.value("tilt"), top.value("stop")) == (
        "inside_up",
        pytest.approx(38.0),
        pytest.approx(longest),
    )
    # Square eaves are square already: nothing bevels the roof's start.
    assert not [c for c in made.steps if c.operation == "bevel" and c.end == "start" and "side.C" in c.pieces]


def test_no_keys_across_a_roof_that_is_laid_on() -> None:
    made = plan(revised(GABLE, keys=Keys(count=2)))
    assert {k.corner for k in made.keys.keys} == {0, 2, 4}
    assert sum(s.slots for s in made.keys.settings) == 6


def test_a_liner_in_a_house_is_mitered_all_round() -> None:
    made = plan(revised(GABLE, bottom=Panel(depth_mm=3.0), liner=Liner(height_mm=50.0)))
    assert made.liner is not None
    assert not any(c.lapped for c in made.liner.ring.corners)
    assembly.check(made.liner.ring)
    assert "plug it where it shows under the eaves" in found(made, "roof_laid_on")[0]


def test_an_overhang_too_short_for_square_eaves() -> None:
    """By trigonometry a square end needs thickness × sin(pitch) of overhang to cover the wall."""
    least = 8.0 * math.sin(math.radians(38.0))
    short = plan(revised(GABLE, shape=replace(GABLE.design.form.shape, overhang_mm=2.0)))
    finding = next(f for f in short.findings if f.code == "overhang_bares_wall")
    assert finding.numbers["least_mm"] == pytest.approx(least)
    for fix in finding.fixes:
        assert not found(plan(with_fix(short.job, fix)), "overhang_bares_wall")
    assert not found(plan(GABLE), "overhang_bares_wall")


def test_a_wall_lost_under_its_roof_is_a_stop_and_no_number() -> None:
    made = plan(revised(GABLE, shape=House(210.0, 18.0, 65.0, 28.0)))
    assert not made.buildable
    assert made.ring.sides == ()
    assert "walls higher" in found(made, "side_vanishes")[0]


def test_the_room_inside_does_not_depend_on_the_overhang() -> None:
    mitered = plan_ring(revised(GABLE, shape=replace(GABLE.design.form.shape, overhang_mm=0.0)))
    laid = plan_ring(GABLE)
    assert laid.inner_bottom == mitered.inner_bottom
    inside = measured(GABLE, "inside")
    assert plan_ring(inside).sides[2].outside_mm == pytest.approx(laid.sides[2].outside_mm)


def test_drawings_show_the_roof_past_the_walls() -> None:
    made = plan(GABLE)
    fmt = reader(GABLE.design)
    wood = [s.points for s in size_drawing(made, fmt).shapes if isinstance(s, Line) and s.role == "wood"]
    x0, _y0, x1, _y1 = bounds([p for points in wood for p in points])
    assert (x0, x1) == pytest.approx((-105.0 - 28.0, 105.0 + 28.0), abs=1e-6)
    assert board_drawing(made, fmt).shapes
    for turn in range(-180, 180, 30):
        for tip in (-20.0, 26.0):
            faces = Solid(made).faces(Eye(float(turn), tip))
            assert {f.pick.index for f in faces if f.kind == "show" and f.pick} - {0, 1, 2, 3, 4} == set()
            assert tip < 0 or any(f.kind == "show" and f.pick and f.pick.index in (2, 3) for f in faces)


def test_a_house_from_another_shape_and_back() -> None:
    ring = plan_ring(GABLE)
    free = reshaped(revised(GABLE, shape=replace(GABLE.design.form.shape, overhang_mm=0.0)), "outline", ring)
    assert free.design.side_count == 5
    assert reshaped(free, "house", plan_ring(free)).design.side_count == 5


def test_a_gable_box_by_command(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    file = tmp_path / "gable.peristyle"
    words = ["new", str(file), "--house", "8in x 3 3/4in @ 9/12", "--overhang", "1 1/8in", "--eaves", "plumb"]
    assert cli.main([*words, "--height", "3", "--thickness", "5/16", "--units", "in"]) == 0
    capsys.readouterr()
    assert cli.main(["plan", str(file), "--json"]) == 0
    roof = json.loads(capsys.readouterr().out)["roof"]
    pitch = math.atan(9 / 12)
    assert roof["laid_on"]
    assert roof["roof_mm"] == pytest.approx((4 + 1.125) * 25.4 / math.cos(pitch))
    assert roof["wall_mm"] == pytest.approx((3.75 - 0.3125 / math.cos(pitch)) * 25.4)
    assert roof["eaves_bevel_deg"] == pytest.approx(-math.degrees(pitch))
    assert cli.main([*words[:5], "-1", "--height", "3"]) != 0
