"""What follows from measured values; what stays; ways out that mend; gauges; the command line."""

import json
import math
import random
from pathlib import Path

import pytest

from peristyle.cli import main
from peristyle.core.errors import PeristyleError
from peristyle.core.lengths import Format
from peristyle.devices.gauges import Bench, Reads
from peristyle.drawing.piece import piece_drawing
from peristyle.drawing.shapes import Label
from peristyle.export.planjson import as_data
from peristyle.model import addresses
from peristyle.model.design import (
    CornerBlocks,
    Eaves,
    House,
    Insert,
    Keys,
    Lid,
    Liner,
    Outline,
    Panel,
    Rectangle,
    Regular,
    Shape,
    Thing,
    replace,
)
from peristyle.model.job import Job, Timed, revised
from peristyle.model.progress import taken_back, with_done, with_measured
from peristyle.model.stock import Board
from peristyle.planning.fit.as_cut import as_cut, cut_before
from peristyle.planning.fit.as_made import sides_made
from peristyle.planning.fit.as_made import with_measured as with_values
from peristyle.planning.fit.half_way import of_pieces, still_to_do, verdicts
from peristyle.planning.fit.quantities import known, out_of_square_deg
from peristyle.planning.fit.rescue import ABOUT, TROUBLES, Rescue, Trouble, rescues, taken, troubles_of
from peristyle.planning.making.asdone import total_of, values_of
from peristyle.planning.making.piece import Feature
from peristyle.planning.plan import plan
from peristyle.planning.stock.replacing import best_spare, spares
from peristyle.planning.stock.scored import Pictures
from peristyle.planning.time.tasks import tasks_of
from peristyle.storage import files
from peristyle.words import fit as words
from support import fits
from support.bench import wrongly_made
from support.designs import random_design
from support.glued import wrongly_glued

BOX = fits.box(
    Rectangle(240.0, 160.0), bottom=Panel(), top=Panel(), lid=Lid(height_mm=25.0), keys=Keys(count=2),
    rack=(Board(name="Spare", length_mm=900.0, width_mm=160.0, thickness_mm=16.0),),
)  # fmt: skip


@pytest.mark.parametrize("seed", range(30))
def test_what_is_cut_stays_and_the_rest_closes_the_ring(seed: int) -> None:
    """Some sides cut and measured, of rings of all kinds: those keep their lengths, the others make the ring close."""
    chance = random.Random(seed)
    pentagon = Outline((100.0, 80.0, 60.0, None, None), (108.0, 110.0, 105.0, None, 110.0))
    shape = chance.choice([Rectangle(220.0, 150.0), Regular(7, 90.0), pentagon])
    job = fits.box(shape, bottom=Panel())
    before = plan(job)
    cut = chance.sample(range(len(before.ring.sides)), len(before.ring.sides) - 2)
    if isinstance(shape, Rectangle):
        cut = chance.sample([0, 1], 1)
    lengths = {i: before.ring.sides[i].outside_mm + chance.uniform(-1.5, 0.5) for i in cut}
    for i, length in lengths.items():
        job = with_measured(job, f"side.{before.ring.sides[i].name}.length_mm", length)
    made = plan(job)
    assert "ring_misses" not in {finding.code for finding in made.findings}
    for i, length in lengths.items():
        assert made.ring.sides[i].outside_mm == pytest.approx(length, abs=1e-6)
        assert made.ring.sides[i].end == before.ring.sides[i].end
    panel = next(piece for piece in made.pieces if piece.id == "panel.bottom")
    assert panel.show_face != next(p for p in before.pieces if p.id == "panel.bottom").show_face
    assert not wrongly_made(made)
    for i in lengths:
        job = taken_back(job, f"side.{before.ring.sides[i].name}.length_mm")
    assert plan(job) == before


@pytest.mark.parametrize("eaves", ["plumb", "square"])
@pytest.mark.parametrize("slope", [0.0, 4.0])
def test_a_roof_laid_on_its_walls_comes_down_on_them_as_they_are(eaves: Eaves, slope: float) -> None:
    """Floor, walls and leaves as measured: the roof keeps its pitch and shifts to where both walls meet it."""
    shape = House(170.0, 110.0, 35.0, overhang_mm=14.0, eaves=eaves)
    job = revised(BOX, shape=shape, height_mm=120.0, slopes_deg=(slope,), lid=None, top=None, keys=None)
    before = plan(job)
    long = dict(zip("ABCD", (1.0, -1.3, -2.1, 0.7), strict=True))
    for name, more in long.items():
        side = before.ring.sides["ABCD".index(name)]
        job = with_measured(job, f"side.{name}.length_mm", side.outside_mm + more)
    made = plan(job)
    for was, side in zip(before.ring.sides, made.ring.sides, strict=True):
        assert side.outside_mm == pytest.approx(was.outside_mm + long.get(side.name, 0.0), abs=1e-6)
        assert (side.start, side.end) == (was.start, was.end)
    assert "ring_misses" not in {finding.code for finding in made.findings}
    assert not wrongly_made(made)
    high = [
        max(y for _, y in one.ring.outer_bottom) - min(y for _, y in one.ring.outer_bottom)
        for one in (before, made)
    ]
    # The ridge by what the walls are higher in the middle, and half the floor that is more by the pitch.
    if slope == 0.0:
        rises = (long["B"] + long["A"] * math.tan(math.radians(35.0))) / 2
        assert high[1] - high[0] == pytest.approx(rises)


def test_walls_grooves_and_slots_are_followed() -> None:
    job = with_measured(BOX, "side.B.thickness_mm", 11.5)
    inside = plan(job).ring.sides[0].inside_mm
    assert inside == pytest.approx(240.0 - 12.0 - 11.5)
    job = with_measured(BOX, "side.A.groove.bottom.width_mm", 4.6)
    assert plan(job).section.panels[0].thickness_mm == pytest.approx(4.5)
    job = with_measured(BOX, "corner.AB.slot.1.width_mm", 3.4)
    assert {key.thickness_mm for key in plan(job).keys.keys} == {3.4}
    done = with_done(job, next(s.id for s in plan(BOX).steps if s.operation == "key_stock"), 1)
    assert {key.thickness_mm for key in plan(done).keys.keys} == {BOX.design.joints.keys.thickness_mm}  # type: ignore[union-attr]


def _lined() -> Job:
    return revised(
        BOX,
        liner=Liner(height_mm=40.0),
        contents=(Thing(length_mm=60.0, width_mm=40.0, height_mm=20.0, count=2),),
    )


CASES: list[tuple[Job, Trouble, str, float]] = [
    (BOX, "short", "A", 1.5), (fits.box(Regular(6, 110.0)), "short", "C", 1.0), (BOX, "thin", "B", 0.8),
    (BOX, "last_gap", "CD", 0.3), (BOX, "panel_large", "bottom", 0.6), (_lined(), "rattles", "", 1.2),
    (revised(BOX, lid=None, top=None, cover=Insert()), "rattles", "", 1.2), (_lined(), "lid_off", "", 1.4),
    (BOX, "lid_low", "", 1.0), (BOX, "groove_wide", "bottom", 0.5), (BOX, "groove_off", "bottom", 1.0),
    (BOX, "chip", "", 2.0), (BOX, "slot_wide", "AB", 0.4), (BOX, "both_ends", "A", 1.0), (BOX, "forgotten", "top", 1.0),
    (BOX, "slipped", "", 0.4), (BOX, "rocks", "", 0.5), (BOX, "long_all", "", 0.8),
]  # fmt: skip


@pytest.mark.parametrize(("job", "trouble", "where", "by"), CASES)
def test_every_trouble_has_ways_out_and_the_rescued_box_is_made_and_closes(
    job: Job, trouble: Trouble, where: str, by: float
) -> None:
    ways = rescues(job, trouble, where, by)
    assert ways
    assert [one.weight for one in ways] == sorted(one.weight for one in ways)
    for one in ways:
        for fmt in (Format("mm"), Format("in", ",")):
            told = [words.rescue(one, fmt), *(text for step in words.own_steps(one, fmt) for text in step)]
            assert not any(mark in text for text in told for mark in ("{", "}", "None", "own."))
        made = plan(taken(job, one, words.own_steps(one, Format("mm"))))
        assert made.buildable
        assert not wrongly_made(made)
        assert not wrongly_glued(made)


def test_all_troubles_are_tried() -> None:
    assert (
        {trouble for _job, trouble, _where, _by in CASES}
        == set(TROUBLES)
        == set(ABOUT)
        == set(words.TROUBLES)
    )


def test_measured_values_name_what_is_wrong() -> None:
    job = BOX
    for name, value in (
        ("side.A.length_mm", 238.5), ("side.B.thickness_mm", 11.4), ("side.C.width_mm", 79.0),
        ("panel.bottom.length_mm", 230.0), ("side.D.groove.top.width_mm", 5.0), ("corner.AB.slot.1.width_mm", 3.9),
        ("body.A.height_mm", 50.0), ("corner.CD.gap_inside_mm", 0.3), ("contents.play_mm", 1.0),
    ):  # fmt: skip
        job = with_measured(job, name, value)
    found = list(troubles_of(job))
    assert {one.trouble for one in found} == {
        "short", "thin", "chip", "panel_large", "groove_wide", "slot_wide", "lid_low", "last_gap", "rattles",
    }  # fmt: skip
    assert all(words.found(one, Format("in", ",")) for one in found)


def test_a_design_changed_half_way_tells_what_serves() -> None:
    job = BOX
    for step in plan(BOX).steps:
        if step.operation in ("crosscut", "bevel", "rip", "groove"):
            job = with_done(job, step.id, 1, values_of(step))
    assert {one.kind for one in verdicts(plan(job))} == {"serves"}
    shorter = plan(revised(job, shape=Rectangle(230.0, 160.0)))
    found = verdicts(shorter)
    assert of_pieces(shorter, found)["side.A"] == "again"
    assert of_pieces(shorter, found)["side.B"] == "serves"
    longer = plan(revised(job, shape=Rectangle(250.0, 160.0)))
    assert of_pieces(longer, verdicts(longer))["side.A"] == "anew"
    hexagon = plan(revised(job, shape=Regular(6, 120.0)))
    assert {one.kind for one in verdicts(hexagon)} - {"serves"}
    assert next(s.operation for s in still_to_do(shorter, found)) != "glue"
    for one in (*found, *verdicts(hexagon)):
        assert "None" not in words.verdict(one, "Step", Format("in"))


def test_diagonals_tell_how_far_it_is_out_of_square() -> None:
    """A rectangle racked by 0.3°: its corners as a parallelogram's, by coordinates."""
    made = plan(BOX)
    skew = math.radians(0.3)
    a, b = 240.0, 160.0
    over, up = b * math.sin(skew), b * math.cos(skew)
    points = [(a, 0.0), (a + over, up), (over, up), (0.0, 0.0)]
    names = [corner.name for corner in made.ring.corners]  # AB, BC, CD, DA
    job = BOX
    for one, other in ((0, 2), (1, 3)):
        length = math.dist(points[one], points[other])
        job = with_measured(job, f"ring.{names[one]}_{names[other]}_mm", length)
    off = out_of_square_deg(with_values(plan(BOX), job))
    assert off == pytest.approx(-0.3, abs=2e-3)  # the corner after side B is the narrow one
    assert "narrow" in words.squareness(off or 0.0, Format("mm"))
    assert out_of_square_deg(made) is None


def test_a_gauge_reads_the_box_on_the_bench_with_its_own_errors() -> None:
    base = plan(BOX)
    bench = Bench(
        base, 4, reads=dict.fromkeys(("caliper", "rule", "angle gauge", "feeler"), Reads(0.2, 0.0, 0.01))
    )
    there = known(base)
    read = bench.typed(there["side.A.length_mm"])
    assert read is not None
    assert float(read) == pytest.approx(bench.made[0].length_mm + 0.2, abs=0.006)
    assert abs(bench.made[0].length_mm - 240.0) > 1e-6
    assert float(bench.typed(there["corner.AB.gap_inside_mm"]) or 0) >= 0.0
    assert bench.typed(there["side.A.start.bevel_deg"]) is not None


def test_measured_from_the_command_line_and_taken_back(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    path = str(tmp_path / "box.peristyle")
    files.save(Path(path), BOX)
    assert main(["measure", path]) == 0
    assert "side.A.length_mm" in capsys.readouterr().out
    assert (
        main(["measure", path, "side.A.length_mm=238.5", "--gauge", "rule", "--sure", "0.2", "--json"]) == 0
    )
    told = json.loads(capsys.readouterr().out)
    assert told[0]["measured"] == 238.5
    assert told[0]["uncertainty"] == 0.2
    assert sides_made(files.load(Path(path)).job, plan(BOX))[0].length_mm == 238.5
    assert main(["fit", path, "--way", "band", "--boxes", "500", "--json"]) == 0
    assert len(json.loads(capsys.readouterr().out)["corners"]) == 4
    assert main(["fit", path, "--way", "cauls", "--compare", "--boxes", "200"]) == 0
    assert "Worth mending first" in capsys.readouterr().out
    assert main(["rescue", path, "short", "--take", "1"]) == 0
    shape = files.load(Path(path)).job.design.form.shape
    assert isinstance(shape, Rectangle)
    assert shape.length_mm == 238.5
    assert main(["measure", path, "--back", "side.A.length_mm"]) == 0
    assert not files.load(Path(path)).job.measured
    capsys.readouterr()
    for wrong in (
        ["measure", path, "side.Z.length_mm=4"], ["measure", path, "side.A.length_mm=long"], ["measure", path, "x"],
        ["measure", path, "--back", "side.B.length_mm"], ["rescue", path, "sunk"], ["rescue", path, "short"],
        ["rescue", path, "short", "--at", "Z"], ["rescue", path, "panel_large", "--at", "lid"],
        ["fit", path, "--limit", "0"],
    ):  # fmt: skip
        assert main(wrong) != 0, wrong
        assert capsys.readouterr().err.startswith("peristyle")


def test_blocks_do_not_keep_a_ring_from_being_measured() -> None:
    made = plan(with_measured(revised(BOX, corner_blocks=CornerBlocks()), "side.A.length_mm", 239.0))
    assert made.ring.sides[2].outside_mm == pytest.approx(239.0)


def test_a_way_out_costs_the_minutes_of_its_work_by_the_makers_own_log() -> None:
    spare = Board(name="spare", length_mm=700.0, width_mm=140.0, thickness_mm=14.0)
    job = replace(BOX, stock=replace(BOX.stock, rack=(spare,)))
    (guessed,) = [one for one in rescues(job, "short", "A", 1.5) if one.key == "replace_side"]
    assert guessed.guessed
    assert guessed.minutes > 5
    done = job
    for step in plan(job).steps:
        done = with_done(done, step.id, total_of(step), values_of(step))

    def shorten(box: Job) -> Rescue:
        return next(one for one in rescues(box, "short", "A", 1.5) if one.key == "shorten_partner")

    cut_again = shorten(done)
    assert cut_again.minutes > shorten(job).minutes
    operations = {step.operation for step in plan(job).steps}
    timed = tuple(Timed(one, (40.0, 50.0, 60.0)) for one in sorted(operations))
    own = replace(done, shop=replace(done.shop, timed=timed))
    slow = shorten(own)
    assert not slow.guessed
    assert slow.minutes > 2 * cut_again.minutes
    assert "by your log" in words.rescue(slow, Format("mm"))


def test_a_side_made_anew_comes_from_where_it_matches_best() -> None:
    rack = tuple(
        Board(name=f"spare {k}", length_mm=700.0, width_mm=140.0, thickness_mm=14.0, seed=k) for k in (5, 6)
    )
    job = replace(BOX, stock=replace(BOX.stock, rack=rack))
    look = Pictures(lambda _name: None).of
    (one,) = [
        way for way in rescues(job, "short", "B", 1.5, lambda box, side: best_spare(box, side, look))
        if way.key == "replace_side"
    ]  # fmt: skip
    found = spares(job, 1, look)
    assert one.scores == max((spare.scores for spare in found), key=lambda pair: min(pair) + sum(pair))
    broken = {brk.board: brk.skip_mm for brk in taken(job, one).stock.breaks if brk.board}
    assert broken == {one.anew[1]: one.skip_mm}


@pytest.mark.parametrize("seed", range(24))
def test_what_is_cut_stays_as_it_is_whatever_becomes_of_the_design(seed: int) -> None:
    """Steps done in their order, the design changed, more done, changed again: what they made never changes."""
    chance = random.Random(seed)
    job = random_design(chance)
    for _ in range(20):  # one that can be built
        if plan(job).buildable and plan(job).steps:
            break
        job = random_design(chance)
    kept: dict[str, Feature] = {}
    for _turn in range(3):
        made = plan(job)
        cut = as_cut(made)
        features = {f.id: f for piece in made.pieces for f in cut.get(piece.id, piece).features}
        there = {piece.id for piece in made.pieces}
        for name, feature in kept.items():
            if any(name.startswith(f"{piece}.") for piece in there):
                assert features[name] == feature, name
        undone = [step for step in made.steps if not any(done.step == step.id for done in job.progress)]
        for step in undone[: chance.randint(1, 6)]:
            job = with_done(job, step.id, total_of(step), values_of(step))
            planned = {f.id: f for piece in made.pieces for f in piece.features}
            kept |= {name: planned[name] for name in step.makes if name in planned and name not in kept}
        for _ in range(4):  # another value at any address of the design
            places = [one for one in addresses.addresses(job) if one.id.startswith(("form.", "section."))]
            place = chance.choice(places)
            value = place.get(job)
            if isinstance(value, float) and not math.isnan(value):
                try:
                    changed = addresses.applied(job, ((place.id, value * chance.uniform(0.8, 1.25)),))
                    plan(changed)
                except (PeristyleError, ValueError):
                    continue
                job = changed
    assert len(job.cut_by) <= 3
    assert not as_cut(plan(replace(job, progress=(), cut_by=())))


def test_a_box_that_is_begun_keeps_its_designs_in_its_file(tmp_path: Path) -> None:
    first = next(step for step in plan(BOX).steps if step.operation == "groove")
    job = with_done(BOX, first.id, total_of(first), values_of(first))
    changed = revised(job, bottom=Panel(height_mm=11.0))
    path = tmp_path / "begun.peristyle"
    files.save(path, changed)
    back = files.load(path).job
    assert back.cut_by == (BOX.design,)
    made = plan(back)
    side = as_cut(made)["side.A"]
    planned = next(piece for piece in made.pieces if piece.id == "side.A")
    assert {f.id for f in side.features} == {f.id for f in planned.features}
    drawn = piece_drawing(made, planned, Format("mm"))
    assert any(isinstance(shape, Label) and "cut already" in shape.text for shape in drawn.shapes)
    assert any(finding.code == "cut_already" for finding in made.findings)
    assert [piece["id"] for piece in as_data(made)["cut_already"]] == ["side.A", "side.B", "side.C", "side.D"]
    assert not with_done(back, first.id, 0).cut_by  # forgotten: no design is kept for it


def test_a_groove_that_was_cut_with_its_mirror_image_is_not_cut_again() -> None:
    job = revised(BOX, bottom=Panel(), top=Panel())
    both = next(step for step in plan(job).steps if step.operation == "groove")
    assert {name.rsplit(".", 1)[1] for name in both.makes} == {"bottom", "top"}
    job = with_done(job, both.id, total_of(both), values_of(both))
    moved = plan(revised(job, bottom=Panel(height_mm=11.0)))
    (verdict,) = verdicts(moved)
    assert verdict.kind == "anew"  # the lower one is in the wrong place now
    top = next(step for step in moved.steps if step.id.startswith("box.groove.top"))
    assert top.id in cut_before(moved)
    serving = plan(revised(job, keys=Keys(count=3)))
    assert {one.kind for one in verdicts(serving)} == {"serves"}
    assert top.id not in [task.step for task in tasks_of(moved, "box")]


@pytest.mark.parametrize(
    "shape",
    [
        Rectangle(200.0, 140.0, "outside", 230.0, 160.0),
        Regular(6, 100.0, top_mm=118.0),
        Regular(5, 90.0, "inside"),
        Regular(7, 200.0, "across_flats"),
    ],
)
def test_a_box_made_smaller_keeps_the_lean_its_sides_were_cut_at(shape: Shape) -> None:
    """Sides that are cut already lean as they lean: every rescue of a short one, and the finding's own fix."""
    job = revised(BOX, shape=shape, lid=None, top=None, keys=None)
    before = plan(job)
    for one in rescues(job, "short", "A", 1.5):
        after = plan(taken(job, one)).ring.sides
        assert [side.slope_deg for side in after] == pytest.approx([s.slope_deg for s in before.ring.sides])
        assert [side.end.bevel_deg for side in after] == pytest.approx(
            [s.end.bevel_deg for s in before.ring.sides]
        )
        if one.anew is None:
            assert after[0].outside_mm == pytest.approx(before.ring.sides[0].outside_mm - 1.5)
    measured = with_measured(job, "side.A.length_mm", before.ring.sides[0].outside_mm - 3.0)
    for side in before.ring.sides[1:]:
        measured = with_measured(measured, f"side.{side.name}.length_mm", side.outside_mm)
    (misses,) = [one for one in plan(measured).findings if one.code == "ring_misses"]
    for fix in misses.fixes:
        after = plan(addresses.applied(job, fix.changes)).ring.sides
        assert [side.slope_deg for side in after] == pytest.approx([s.slope_deg for s in before.ring.sides])
