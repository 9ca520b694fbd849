"""Boxes allocated to boards: what is placed can be cut, as cheaply as brute force finds; batches, their files, maps."""

import json
from pathlib import Path

import pytest

from peristyle.cli import main
from peristyle.core.errors import PeristyleError
from peristyle.core.lengths import Format
from peristyle.drawing.cutting import cutting_map
from peristyle.export.maps import maps_sheet
from peristyle.model import addresses
from peristyle.model.batch import Batch, BatchJob
from peristyle.model.design import Lid, Panel, Rectangle, Regular
from peristyle.model.job import Job, job_of
from peristyle.model.stock import Board, Mark
from peristyle.planning.plan import plan
from peristyle.planning.stock.allocate import allocate
from peristyle.planning.stock.allocation import Allocation, Wanted
from peristyle.planning.stock.batching import settled
from peristyle.storage import batch as kept
from peristyle.storage import examples, files
from peristyle.words.batch import found_lines, map_lines
from support.batches import least_cost, random_batch, troubles

FMT = Format("mm")


@pytest.mark.parametrize("seed", range(6))
def test_what_is_allocated_can_be_cut(seed: int) -> None:
    wanted, boards = random_batch(seed, 5 + seed, 3 + seed % 3, heights=1 + seed % 3)
    firsts: list[Allocation] = []
    found = allocate(wanted, boards, 1.5, first=firsts.append)
    for one in (*firsts, found):
        assert not troubles(one, wanted, boards)
    assert len(found.boxes) >= len(firsts[0].boxes)
    if len(found.boxes) == len(firsts[0].boxes):
        assert found.cost <= firsts[0].cost + 1e-9
    assert found.least <= found.cost + 1e-6


@pytest.mark.parametrize("seed", range(8))
def test_costs_are_those_of_brute_force(seed: int) -> None:
    wanted, boards = random_batch(3 * seed + 1, 2 + seed % 3, 2 + seed % 3, kinds=2)
    least = least_cost(wanted, boards)
    found = allocate(wanted, boards, 6.0)
    if least is None:
        assert found.unplaced
        return
    assert not found.unplaced
    assert found.gap < 1e-4
    assert found.cost == pytest.approx(least)
    # With the dearer boards taken away as well: what is used is needed.
    assert found.cost == pytest.approx(sum(boards[n].price for n in found.boards))


def box(high: float = 60.0, thick: float = 9.0, method: str = "square_first", long: float = 150.0) -> Wanted:
    job = job_of(shape=Rectangle(long, 100.0, "outside"), height_mm=high, thicknesses_mm=(thick,),
                 board=Board(method=method))  # type: ignore[arg-type]  # fmt: skip
    return Wanted("Box", job, 2)


@pytest.mark.parametrize(("one", "board", "why"), [
    (box(thick=20.0), Board(), "too_thin"), (box(high=170.0), Board(), "too_narrow"),
    (box(long=900.0), Board(length_mm=500.0), "too_short"), (box(), Board(length_mm=520.0, width_mm=70.0), "no_room"),
    (box(method="book"), Board(), "not_square_first"),
])  # fmt: skip
def test_what_cannot_be_placed_is_said_with_its_reason(one: Wanted, board: Board, why: str) -> None:
    found = allocate([one], [board], 1.0)
    assert found.unplaced[0][2] == why
    lines = found_lines(found, [one], [board], FMT)
    assert lines[-1].startswith("Not placed: ")
    assert "{" not in " ".join(lines)


def test_fewer_corners_are_broken_and_a_long_offcut_is_kept() -> None:
    # Two boxes of 512 each: on one board of 1100 whole; on the two short ones only broken.
    wanted = [box()]
    boards = [Board(name="Long", length_mm=1100.0, width_mm=70.0, price=10.0),
              Board(name="Short", length_mm=560.0, width_mm=70.0, price=5.0),
              Board(name="Shorter", length_mm=500.0, width_mm=70.0, price=5.0)]  # fmt: skip
    found = allocate(wanted, boards, 3.0)
    assert (found.cost, found.broken) == (10.0, 0)
    # Three rows on one board for two boxes: one is left whole.
    wide = [Board(name="Wide", length_mm=700.0, width_mm=200.0)]
    found = allocate(wanted, wide, 3.0)
    assert found.broken == 0
    assert found.offcut_mm < 700.0 - 10.0  # what is not begun is no offcut
    assert not troubles(found, wanted, wide)


def test_a_search_can_be_stopped_and_tells_how_far_it_is() -> None:
    wanted, boards = random_batch(2, 30, 15, heights=2)
    seen: list[tuple[str, float, float]] = []
    found = allocate(
        wanted, boards, 30.0, progress=lambda *told: seen.append(told), cancelled=lambda: len(seen) > 3
    )
    assert found.cancelled
    assert found.seconds < 20.0
    assert seen
    assert not troubles(found, wanted, boards)
    assert any("stopped" in line for line in found_lines(found, wanted, boards, FMT))


def test_maps_are_drawn_told_and_printed() -> None:
    wanted, boards = random_batch(5, 6, 4, heights=2)
    found = allocate(wanted, boards, 1.0)
    lines = map_lines(found, wanted, boards, FMT)
    assert sum(line.startswith("  ") for line in lines) == sum(len(box.runs) for box in found.boxes)
    for number in found.boards:
        drawing = cutting_map(found, number, wanted, boards, FMT)
        assert boards[number].name in drawing.words
    assert maps_sheet("Batch", found, wanted, boards, FMT).startswith(b"%PDF")


def test_a_board_that_is_cut_leaves_its_offcut() -> None:
    boards = [Board(name="One", length_mm=700.0, width_mm=70.0, marks=(Mark(x_mm=600.0),)),
              Board(name="Two", length_mm=900.0, width_mm=70.0)]  # fmt: skip
    batch = Batch(jobs=(BatchJob(file="a", count=2),), boards=tuple(boards))
    found = allocate([box()], boards, 2.0)
    assert not found.unplaced
    left, offcuts = settled(batch, found, ["One"])
    assert (left.jobs[0].count, [board.name for board in left.boards]) == (1, ["Two"])
    assert offcuts[0].name == "One, beyond"
    assert offcuts[0].length_mm == pytest.approx(
        700.0 - max(r.end_mm for b in found.boxes for r in b.runs if r.board == 0)
    )
    assert offcuts[0].marks
    with pytest.raises(PeristyleError, match="no board of this plan"):
        settled(batch, found, ["Three"])


def test_a_batch_by_command(
    tmp_path: Path, capsys: pytest.CaptureFixture[str], monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("XDG_CONFIG_HOME", str(tmp_path / "config"))
    files.save(tmp_path / "ticket.peristyle", examples.load("Ticket box"))
    file = str(tmp_path / "seven.batch")
    job = str(tmp_path / "ticket.peristyle")
    made = [
        "allocate",
        file,
        "--new",
        "--job",
        f"{job}=3",
        "--board",
        "Oak=1400x140x14@18",
        "--board",
        "Ash=900x75x14@9",
    ]
    assert main([*made, "--seconds", "2", "--maps", str(tmp_path / "maps.pdf")]) == 0
    assert "3 of 3 boxes placed" in capsys.readouterr().out
    assert (tmp_path / "maps.pdf").read_bytes().startswith(b"%PDF")
    assert kept.load(tmp_path / "seven.batch").batch.jobs[0] == BatchJob(file="ticket.peristyle", count=3)
    assert main(["allocate", file, "--json", "--seconds", "1"]) == 0
    data = json.loads(capsys.readouterr().out)
    assert len(data["boxes"]) == 3
    assert main(["allocate", file, "--seconds", "1", "--done", *data["boards"][:1]]) in (0, 2)
    for wrong in (
        ["--job", "none.peristyle"],
        ["--board", "Oak"],
        ["--board", "X=1x2x3@dear"],
        ["--seconds", "0"],
    ):
        assert main(["allocate", file, *wrong]) == 2
        assert capsys.readouterr().err.startswith("peristyle: ")
    (tmp_path / "bad.batch").write_text(
        '{"format": "peristyle-batch", "version": 1, "batch": {"jobs": [{"count": -1}]}}'
    )
    assert main(["allocate", str(tmp_path / "bad.batch")]) == 2
    assert "no batch that can be read" in capsys.readouterr().err


@pytest.mark.parametrize(
    "job",
    [
        job_of(
            shape=Rectangle(11.75 * 25.4, 8.625 * 25.4), height_mm=3.671875 * 25.4, thicknesses_mm=(12.7,)
        ),
        job_of(
            shape=Regular(6, 200.0, "across_flats"), height_mm=77.7, thicknesses_mm=(8.0,), slopes_deg=(11.0,)
        ),
        addresses.applied(
            job_of(shape=Rectangle(220.0, 140.0), bottom=Panel(), lid=Lid()),
            (("form.room_mm", 63.3), ("form.height_of", "room")),
        ),
    ],
    ids=["inches", "leaning", "room held"],
)
def test_boxes_whose_strips_are_no_round_numbers_are_placed(job: Job) -> None:
    board = Board(length_mm=1600.0, width_mm=160.0, thickness_mm=16.0)
    found = allocate([Wanted("Box", job, 1)], [board], 1.0)
    assert not found.unplaced
    assert not troubles(found, [Wanted("Box", job, 1)], [board])
    (run,) = found.boxes[0].runs
    assert run.high_mm - run.low_mm == pytest.approx(plan(job).wrap.strip_mm, abs=1e-4)
