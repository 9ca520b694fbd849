"""Sized from what it holds and from the board; what stands inside; segments; tapers; houses."""

import json
import math

import pytest
from msgspec.structs import replace
from test_cli import run

from peristyle.export.planjson import as_data
from peristyle.model.design import (
    Alternating,
    House,
    Lid,
    Liner,
    Outline,
    Panel,
    Rectangle,
    Regular,
    Segments,
    Thing,
)
from peristyle.model.job import Saw, job_of, revised
from peristyle.model.stock import Board
from peristyle.planning.form.slabs import two_sizes
from peristyle.planning.inside.contents import arrange, sized
from peristyle.planning.plan import plan
from peristyle.planning.section.segments import plan_segments
from peristyle.planning.stock import largest as largest_box
from peristyle.storage import files
from peristyle.words.steps import glue_order
from support.schemas import check_plan
from support.telling import with_fix

BLOCKS = Thing(count=8, length_mm=24.0, width_mm=24.0, height_mm=40.0)


def test_the_inside_follows_the_contents() -> None:
    # Common practice: 2 mm of play in all for blocks lifted by hand.
    job = job_of(shape=Rectangle(1.0, 1.0), contents=(BLOCKS,), height_mm=60.0, bottom=Panel())
    side_a, side_b = plan(job).ring.sides[:2]
    assert (side_a.inside_mm, side_b.inside_mm) == pytest.approx((4 * 24 + 2, 2 * 24 + 2))
    larger = revised(job, contents=(replace(BLOCKS, length_mm=30.0, columns=4),))
    assert plan(larger).wrap.used_mm == pytest.approx(plan(job).wrap.used_mm + 2 * 24)
    lined = revised(job, liner=Liner(thickness_mm=4.0, gap_mm=0.5), lining_mm=2.0)
    assert plan(lined).ring.sides[0].inside_mm == pytest.approx(98 + 2 * 6.5)


@pytest.mark.parametrize(
    ("count", "columns", "rows"),
    [(1, 1, 1), (2, 2, 1), (4, 2, 2), (6, 3, 2), (8, 4, 2), (12, 4, 3), (7, 4, 2), (13, 4, 4)],
)
def test_arrangement_is_compact(count: int, columns: int, rows: int) -> None:
    found = arrange(replace(BLOCKS, count=count))
    assert found[0] * found[1] >= count
    assert sum(found) <= columns + rows


def test_inward_walls_clear_the_tops_of_things() -> None:
    found = plan(job_of(shape=Rectangle(1.0, 1.0), contents=(BLOCKS,), height_mm=60.0, slopes_deg=(-10.0,)))
    at_top = [slab.inner_mm(40.0) for slab in found.ring.slabs]
    assert min(at_top[0], at_top[2]) == pytest.approx(25.0)
    assert min(at_top[1], at_top[3]) == pytest.approx(49.0)


@pytest.mark.parametrize("slope", [-12.0, 0.0, 9.0])
@pytest.mark.parametrize("shape", [Rectangle(1.0, 1.0), Regular(6, 1.0)])
def test_things_just_clear_a_leaning_liner_and_its_lining(shape: Rectangle | Regular, slope: float) -> None:
    job = job_of(
        shape=shape,
        contents=(BLOCKS,),
        height_mm=70.0,
        bottom=Panel(),
        slopes_deg=(slope,),
        liner=Liner(thickness_mm=5.0, height_mm=45.0, gap_mm=0.4),
        lining_mm=1.5,
    )
    found = plan(job)
    assert found.liner is not None
    spots = found.contents.blocks[0].spots_mm
    clear = []
    for slab in found.liner.ring.slabs:
        for level in (1.5, 1.5 + BLOCKS.height_mm):  # they stand on the lining
            face = slab.inner_mm(level, slab.thickness_mm + job.design.inside.lining_mm)
            reach = max(slab.ux * x + slab.uy * y + 12 * (abs(slab.ux) + abs(slab.uy)) for x, y in spots)
            clear.append(face - reach)
    # Half of the 2 mm of play at the nearest wall, and nowhere less (a polygon gives it along the rows).
    nearest = (
        1.0 if isinstance(shape, Rectangle) else math.cos(math.radians(60.0)) + math.sin(math.radians(60.0))
    )
    assert min(clear) == pytest.approx(nearest)


def test_too_tall_and_too_wide_are_said() -> None:
    tall = job_of(
        shape=Rectangle(1.0, 1.0), contents=(BLOCKS,), height_mm=44.0, bottom=Panel(), lid=Lid(height_mm=12.0)
    )
    finding = next(f for f in plan(tall).findings if f.code == "contents_too_tall")
    assert finding.numbers["over_mm"] == pytest.approx(40 - (44 - 10 - 3))
    assert "contents_too_tall" not in {f.code for f in plan(with_fix(tall, finding.fixes[0])).findings}
    wide = job_of(shape=Outline((90.0,) * 4, (90.0,) * 4), contents=(BLOCKS,), height_mm=60.0)
    assert "contents_do_not_fit" in {f.code for f in plan(wide).findings}


def test_liner_stands_a_gap_within_and_its_joints_close() -> None:
    import assembly

    job = job_of(
        shape=Regular(8, 200.0, "across_flats"),
        height_mm=80.0,
        liner=Liner(gap_mm=0.3),
        slopes_deg=(4.0,),
        bottom=Panel(),
    )
    found = plan(job)
    assert found.liner is not None
    assembly.check(found.liner.ring)
    outer = found.ring.slabs[0].inner_mm(found.liner.base_mm)
    assert outer - found.liner.ring.slabs[0].outer_mm(0.0) == pytest.approx(0.3 / math.cos(math.radians(4.0)))
    proud = plan(revised(job, lid=Lid(), liner=Liner(height_mm=75.0)))
    held = next(f for f in proud.findings if f.code == "liner_holds_lid_up")
    assert held.numbers["headroom_mm"] == pytest.approx(80 - 3 - 10 - 75)


@pytest.mark.parametrize("with_panels", [False, True])
@pytest.mark.parametrize(
    "shape", [Rectangle(3.0, 2.0), Regular(8, 1.0), Outline((3.0, 2.0, None, None), (90.0,) * 4)]
)
def test_the_largest_box_fits_and_nothing_larger_does(shape, with_panels: bool) -> None:  # type: ignore[no-untyped-def]
    job = job_of(
        shape=shape,
        height_mm=70.0,
        bottom=Panel(),
        board=Board(length_mm=1000.0, width_mm=120.0, thickness_mm=9.0),
    )
    best = largest_box.largest(job, with_panels=with_panels)
    assert best is not None
    assert plan(best.job).buildable
    assert best.limit == ("panel" if with_panels else "board length")
    larger = largest_box.scaled(best.job, 1.001)
    assert larger is not None
    assert largest_box._fits(larger, with_panels) == best.limit
    wide = largest_box.largest(job, fixed_height=False)
    assert wide is not None
    assert wide.job.design.form.height_mm == pytest.approx(120.0)


def test_segments_of_a_pie_and_a_ring() -> None:
    # Elementary geometry: base = 2·apothem·tan(180/n); 8 triangles of apothem 100 have base 82.8427.
    pie = plan_segments(Segments(count=8), 100.0, 3.0)
    assert (pie.outer_mm, pie.miter_deg, pie.apex_deg) == pytest.approx((82.842712, 22.5, 45.0))
    assert 8 * pie.outer_mm * 100 / 2 == pytest.approx(8 * 100**2 * math.tan(math.pi / 8))
    ring = plan_segments(Segments(count=12, style="ring", ring_mm=30.0), 100.0, 3.0)
    assert ring.inner_mm == pytest.approx(140 * math.tan(math.pi / 12))
    assert (ring.hole_mm, pie.hole_mm) == pytest.approx((140.0, 0.0))
    assert ring.last_joint_deg == pytest.approx(2.4)
    assert glue_order(ring.count)[-1].startswith("glue the last")


@pytest.mark.parametrize(
    ("words", "saw"),
    [
        (["--machine", "chamfer-bit"], Saw(kind="chamfer_bit", stops_deg=(11.25, 15.0, 22.5, 30.0, 45.0))),
        (
            ["--machine", "shooting-board", "--gives", "36,45"],
            Saw(kind="shooting_board", stops_deg=(36.0, 45.0)),
        ),
        (
            ["--machine", "miter-saw", "--tilts", "right", "--saw-stop", "47", "--saw-step", "0.5"],
            Saw(kind="miter_saw", tilts="right", stop_deg=47.0, step_deg=0.5),
        ),
        (["--gives", "36"], "--machine chamfer-bit"),
        (["--machine", "chamfer-bit", "--gives", "x"], "--gives"),
        (["--saw-step", "9"], "at most 5"),
    ],
)
def test_machines_on_the_command_line(capsys, tmp_path, words: list[str], saw: Saw | str) -> None:  # type: ignore[no-untyped-def]
    path = tmp_path / "b.peristyle"
    code, _out, err = run(capsys, "new", str(path), "--rect", "--inside", "90x60", "--height", "50", *words)
    if isinstance(saw, str):
        assert code == 2
        assert saw in err
    else:
        assert files.load(path)[0].shop.saw == saw


def test_tapers_and_houses_stand_together() -> None:
    import assembly

    hopper = plan(job_of(shape=Rectangle(200.0, 100.0, "inside", 240.0, 160.0), height_mm=60.0))
    assert [s.inside_top_mm for s in hopper.ring.sides] == pytest.approx([240, 160, 240, 160])
    tapered = plan(job_of(shape=Regular(7, 200.0, "across_corners", 150.0), height_mm=90.0))
    assert 2 * math.hypot(*tapered.ring.outer_top[0]) == pytest.approx(150.0)
    house = plan(job_of(shape=House(200.0, 120.0, 35.0), height_mm=100.0))
    for found in (hopper, tapered, house):
        assembly.check(found.ring)
    # Common practice: ridge bevel is the pitch, eaves bevel (90 − pitch)/2 for mitered eaves.
    roof = as_data(house)["roof"]
    assert (roof["ridge_bevel_deg"], roof["eaves_bevel_deg"]) == pytest.approx((35.0, 27.5))
    laid = as_data(plan(job_of(shape=House(200.0, 120.0, 35.0, 20.0), height_mm=100.0)))["roof"]
    assert laid["roof_mm"] == pytest.approx((100 + 20) / math.cos(math.radians(35)))
    assert (laid["laid_on"], laid["wall_top_bevel_deg"]) == (True, pytest.approx(-35.0))


def test_machine_profiles() -> None:
    job = job_of(shape=Regular(4, 150.0))
    assert not [f for f in plan(job).findings if f.code.startswith("bevel")]
    stiff = plan(revised(job, saw=Saw(stop_deg=44.0)))
    assert [f.numbers["tilt_deg"] for f in stiff.findings if f.code == "bevel_past_stop"] == pytest.approx(
        [45.0]
    )
    bit = revised(
        job, shape=Regular(7, 150.0), saw=Saw(kind="chamfer_bit", stops_deg=(15.0, 22.5, 30.0, 45.0))
    )
    assert [f.numbers["nearest_deg"] for f in plan(bit).findings if f.code == "bevel_not_given"] == [22.5]


@pytest.mark.parametrize(
    ("words", "inside"),
    [
        (["--rect", "--contents", "8 of 24x24x40", "--thickness", "7"], (98.0, 50.0)),
        (
            ["--rect", "--contents", "24x24x40", "--contents", "2 of round 50x30", "--play", "1"],
            (126.0, 51.0),
        ),
        (["--rect", "--contents", "8 of 24x24x40", "--liner", "4x30", "--liner-gap", "0"], (106.0, 58.0)),
        (
            [
                "--rect",
                "--outside",
                "3x2",
                "--height",
                "80",
                "--thickness",
                "9",
                "--board",
                "1000x120x9",
                "--fit-board",
            ],
            (275.4, 177.6),
        ),
        (["--sides", "4", "--inside", "100", "--top", "120", "--height", "50"], (100.0, 100.0)),
        (["--house", "200x120@8/12", "--inside", "--height", "90"], (200.0, 120.0)),
    ],
)
def test_command_line_sizes_it(capsys, tmp_path, words: list[str], inside: tuple[float, float]) -> None:  # type: ignore[no-untyped-def]
    path = str(tmp_path / "b.peristyle")
    assert run(capsys, "new", path, *words)[0] == 0
    data = json.loads(run(capsys, "plan", path, "--json")[1])
    check_plan(data)
    assert tuple(s["inside_mm"] for s in data["sides"][:2]) == pytest.approx(inside, abs=1e-3)
    assert not [f for f in data["findings"] if f["severity"] == "stop" and f["where"] != "section"]


@pytest.mark.parametrize(
    ("words", "said"),
    [
        (["--rect", "--contents", "8 of 24x24"], "not like 8 of 24x24x40"),
        (
            ["--rect", "--outside", "240x160", "--contents", "8 of 24x24x40"],
            "leave out --outside, or --contents",
        ),
        (["--sides", "6", "--across-flats", "90", "--contents", "24x24x40"], "leave out --across-flats"),
        (["--rect", "--inside", "10"], "how high"),
        (["--rect", "--inside", "10", "--dado", "3"], "--dado goes with --dividers"),
        (["--rect", "--inside", "10", "--ring", "3"], "--ring goes with --segments"),
        (
            ["--rect", "--inside", "10", "--slope", "3", "--slopes", "1,2,1,2"],
            "--slope and --slopes say the same",
        ),
        (["--rect", "--inside", "90", "--lid", "--lid-kind", "drop-in"], "--lid speaks of a lid sawn free"),
        (["--rect", "--inside", "3x2", "--fit-board"], "needs the board"),
        (
            ["--rect", "--inside", "3x2", "--height", "500", "--board", "1000x120x9", "--fit-board"],
            "no box of these",
        ),
        (
            [
                "--sides",
                "6",
                "--across-flats",
                "80",
                "--height",
                "60",
                "--board",
                "900x90x9",
                "--fit-board",
                "--keep",
                "length",
            ],
            "shapes of two sizes",
        ),
        (["--house", "200x120@95", "--inside", "--height", "90"], "pitch"),
        (["--rect", "--inside", "90", "--height", "50", "--dividers", "x"], "3x1"),
    ],
)
def test_command_line_explains(capsys, tmp_path, words: list[str], said: str) -> None:  # type: ignore[no-untyped-def]
    code, _out, err = run(capsys, "new", str(tmp_path / "b.peristyle"), *words)
    assert code == 2
    assert said in err


def test_angles_of_a_whole_ring_and_the_sheet(capsys, tmp_path) -> None:  # type: ignore[no-untyped-def]
    _c, out, _e = run(capsys, "angles", "--outline", "3@?,4@?,5@?", "--thicknesses", "9,9,12", "--json")
    assert [c["interior_deg"] for c in json.loads(out)["corners"]] == pytest.approx(
        [90, 36.8699, 53.1301], abs=1e-4
    )
    _c, out, _e = run(capsys, "angles", "--sides", "4", "--slopes", "38", "--json")
    assert json.loads(out)["corners"][0]["first"]["miter_deg"] == pytest.approx(31.62, abs=0.005)
    _c, out, _e = run(capsys, "angle-sheet", "--slopes", "0,15", "--json")
    rows = json.loads(out)
    assert len(rows) == 44
    assert next(r for r in rows if (r["sides"], r["slope_deg"]) == (6, 15))["bevel"] == pytest.approx(
        28.8791, abs=5e-5
    )
    assert run(capsys, "angle-sheet", "--out", str(tmp_path / "a.pdf"))[0] == 0
    assert (tmp_path / "a.pdf").stat().st_size > 10_000


def test_sized_is_sized_already() -> None:
    job = sized(job_of(shape=Rectangle(1.0, 1.0), contents=(BLOCKS,)))
    assert sized(job) == job


def test_one_size_kept_while_the_other_grows() -> None:
    board = Board(length_mm=1000.0, width_mm=120.0, thickness_mm=9.0)
    job = job_of(shape=Rectangle(300.0, 100.0), height_mm=70.0, board=board)
    best = largest_box.largest(job, keep="length")
    assert best is not None
    assert best.job.design.form.shape.length_mm == 300.0
    assert best.job.design.form.shape.width_mm == pytest.approx((1000 - 10 - 12 - 600) / 2, abs=1e-3)


@pytest.mark.parametrize(
    ("shape", "kept"),
    [
        (Rectangle(150.0, 80.0, "inside", 180.0, 100.0), "length"),
        (Alternating(8, 60.0, 30.0), "second"),
        (House(120.0, 80.0, 35.0), "floor"),
    ],
)
def test_one_of_two_sizes_kept_in_any_shape(shape: Rectangle | Alternating | House, kept: str) -> None:
    board = Board(length_mm=1400.0, width_mm=120.0, thickness_mm=9.0)
    best = largest_box.largest(job_of(shape=shape, height_mm=70.0, board=board), keep=kept)
    assert best is not None
    before, after = two_sizes(shape), two_sizes(best.job.design.form.shape)
    assert after[kept] == before[kept]
    assert all(after[word] > before[word] for word in before if word != kept)
    assert plan(best.job).wrap.spare_mm == pytest.approx(0.0, abs=1e-3)


def test_desktop_files_come_and_go(capsys, tmp_path, monkeypatch: pytest.MonkeyPatch) -> None:  # type: ignore[no-untyped-def]
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path))
    assert run(capsys, "install-desktop")[0] == 0
    entry = (tmp_path / "applications" / "org.peristyle.Peristyle.desktop").read_text()
    assert "Exec=" in entry
    assert "TryExec" not in entry
    assert (tmp_path / "mime" / "packages" / "peristyle-mime.xml").exists()
    assert run(capsys, "install-desktop", "--remove")[0] == 0
    assert not list(tmp_path.rglob("org.peristyle*"))


def test_panels_come_from_beside_the_strip_too() -> None:
    panel = Panel(depth_mm=4.0, play_mm=0.5)
    job = job_of(shape=Rectangle(240.0, 160.0), height_mm=90.0, thicknesses_mm=(9.0,), bottom=panel, top=panel,
                 board=Board(length_mm=1180.0, width_mm=330.0, thickness_mm=12.0))  # fmt: skip
    # Beside a strip of 90 lie 237 of board: both panels of 231.6 − 2 × 5.5 find room there, one after the other.
    alone, both = largest_box.largest(job), largest_box.largest(job, with_panels=True)
    assert alone is not None
    assert both is not None
    assert both.job.design.form.shape == alone.job.design.form.shape
    narrow = largest_box.largest(
        revised(job, board=replace(job.stock.board, width_mm=140.0)), with_panels=True
    )
    assert narrow is not None
    assert narrow.limit == "panel"
