"""The bench: the steps alone, carried out on boards as solids, make the pieces of the plan."""

import itertools
import random

import pytest

from peristyle.model.design import Keys, Lid, Panel, Rectangle, replace
from peristyle.model.job import MachineKind, Saw, job_of, revised
from peristyle.model.stock import Board
from peristyle.planning.plan import plan
from support import bench, glued
from support.ways import boxes, lie_wrongly, wrong


@pytest.mark.parametrize("seed", range(36))
def test_the_steps_make_the_pieces(seed: int) -> None:
    assert not bench.wrongly_made(bench.random_box(seed))


@pytest.mark.parametrize("seed", range(5))
def test_any_order_that_is_allowed_makes_the_same_box(seed: int) -> None:
    made, chance = bench.random_box(seed), random.Random(seed)
    for _ in range(3):
        assert not bench.wrongly_made(made, bench.another_order(made.steps, chance))


@pytest.mark.parametrize("seed", [0, 1, 3, 5, 6, 8])
def test_slots_and_the_lid_come_out_of_the_glued_box_as_told(seed: int) -> None:
    assert not glued.wrongly_glued(bench.random_box(seed))


@pytest.mark.parametrize(("operation", "gauge"), [("keys", "fence"), ("keys", "height"), ("lid", "fence")])
def test_one_wrong_setting_of_the_glued_box_is_caught(operation: str, gauge: str) -> None:
    made = bench.random_box(4)
    wrong = [bench.settings_moved(s, gauge, 0.2) if s.operation == operation else s for s in made.steps]
    assert glued.wrongly_glued(made, wrong)


@pytest.mark.parametrize("gauge", ["tilt", "stop", "fence", "height", "width"])
def test_one_wrong_setting_is_caught(gauge: str) -> None:
    made = bench.random_box(4)
    wrong = tuple(bench.settings_moved(step, gauge, 0.2) for step in made.steps)
    worst = max(
        bench.differ(bench.carried_out(made, piece, wrong), bench.wanted(piece))
        / bench.wanted(piece).volume()
        for piece in made.pieces
        if piece.part == "side"
    )
    assert worst > 1e-4


@pytest.mark.parametrize("first", range(8))
def test_every_ring_is_cut_every_way_or_refused(first: int) -> None:
    """Every 37th of 960 from each of eight places; all of them by `scripts/proof`."""
    told = [
        (ring, way, saw, wrong(job)) for ring, way, saw, job in itertools.islice(boxes(), first * 5, None, 37)
    ]
    assert {mark for *_box, mark in told} == {"+", "-"}, [one for one in told if one[-1] == "!"]


def test_sides_that_share_wood_or_leave_the_board_are_caught() -> None:
    made = next(plan(job) for _ring, way, _saw, job in boxes() if way == "flip_shared")
    assert not lie_wrongly(made)
    for moved in (6.0, -30.0):
        pieces = list(made.wrap.pieces)
        pieces[0] = replace(pieces[0], origin_mm=pieces[0].origin_mm + moved)
        assert lie_wrongly(replace(made, wrap=replace(made.wrap, pieces=tuple(pieces))))


def test_steps_are_named_once_and_come_after_what_they_need() -> None:
    job = job_of(
        shape=Rectangle(240.0, 160.0), height_mm=90.0, thicknesses_mm=(12.0,), slopes_deg=(8.0, -5.0, 8.0, -5.0),
        bottom=Panel(), top=Panel(), lid=Lid(), keys=Keys(count=3), board=Board(thickness_mm=15.0),
    )  # fmt: skip
    made = plan(job)
    ids = [step.id for step in made.steps]
    assert len(set(ids)) == len(ids)
    for number, step in enumerate(made.steps):
        assert all(after.step in ids[:number] for after in step.after), step.id
    makes = [
        name for step in made.steps for name in step.makes if step.operation in ("groove", "keys", "lid")
    ]
    features = [f.id for piece in made.pieces for f in piece.features]
    assert sorted(makes) == sorted(features)  # each feature is made once


@pytest.mark.parametrize("kind", ["chamfer_bit", "shooting_board"])
def test_unlike_leans_come_mitered_to_a_bit_or_a_block(kind: MachineKind) -> None:
    # A bit gives the bevel alone: the swing must be there before, on square blanks as everywhere.
    made = plan(
        job_of(
            shape=Rectangle(240.0, 160.0), height_mm=90.0, thicknesses_mm=(12.0,), slopes_deg=(8.0, -5.0, 8.0, -5.0),
            bottom=Panel(), saw=Saw(kind=kind),
        )
    )  # fmt: skip
    mitered = [step for step in made.steps if step.title == "crosscut.miters"]
    assert sorted(name for step in mitered for name in step.pieces) == [
        "side.A",
        "side.B",
        "side.C",
        "side.D",
    ]
    assert not [
        s for step in made.steps if step.operation == "bevel" for s in step.settings if s.gauge == "stop"
    ]
    said = [f.code for f in plan(revised(made.job, board=Board(method="bevel_direct"))).findings]
    assert said.count("direct_cannot_be") == 1


def test_square_blanks_leave_room_to_creep_up_on() -> None:
    made = plan(
        job_of(
            shape=Rectangle(240.0, 160.0), height_mm=90.0, thicknesses_mm=(12.0,), slopes_deg=(8.0, 3.0, 8.0, 3.0),
            board=Board(length_mm=2000.0),
        )
    )  # fmt: skip
    creeping = plan(revised(made.job, board=replace(made.job.stock.board, creep_mm=1.5)))
    starts = [
        [s.value for step in one.steps if step.operation == "bevel" for s in step.settings if s.end == "start"
         and s.gauge == "stop"]
        for one in (made, creeping)
    ]  # fmt: skip
    assert starts[0]
    assert starts[1] == pytest.approx([value + 1.5 for value in starts[0]])


@pytest.mark.parametrize("seed", [15101, 15269])
def test_a_thinner_side_cut_off_its_board_is_stopped_while_it_is_as_thick_as_the_board(seed: int) -> None:
    """Where its inside is the longer, that reaches further before it is planed thinner."""
    assert bench.wrongly_made(bench.random_box(seed)) == []
