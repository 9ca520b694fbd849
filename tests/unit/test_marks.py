"""Marks on boards: no side on what it must avoid, held against a general polygon library."""

import pytest

from peristyle.model.addresses import applied as changed
from peristyle.model.design import Lid, Panel, Rectangle
from peristyle.model.job import job_of, revised
from peristyle.model.mark_edits import with_mark
from peristyle.model.stock import Board, Mark
from peristyle.planning.plan import plan
from peristyle.planning.stock.clear import Span, blocked, lies, nearest_clear, shown_faces
from peristyle.planning.stock.largest import largest
from support.faults import misjudged


@pytest.mark.parametrize("seed", range(16))
def test_no_side_lies_on_what_it_must_avoid(seed: int) -> None:
    assert not misjudged(seed)


def test_a_mark_may_fall_into_a_loss_the_lids_kerf_or_an_inside_that_is_allowed() -> None:
    job = job_of(
        shape=Rectangle(200.0, 140.0, "outside"), height_mm=80.0, thicknesses_mm=(12.0,), lid=Lid(height_mm=25.0),
        bottom=Panel(), board=Board(),
    )  # fmt: skip

    def found(mark: Mark) -> list[str]:
        return [f.code for f in plan(revised(job, marks=(mark,))).findings if f.code == "on_a_mark"]

    assert found(Mark(x_mm=100.0, y_mm=20.0))
    assert not found(Mark(x_mm=210.2, y_mm=5.0, length_mm=2.6, width_mm=70.0))  # in the kerf between A and B
    assert not found(Mark(x_mm=2.0, y_mm=5.0, length_mm=7.0, width_mm=70.0))  # in the end's trim
    lid = plan(job).section.lid
    assert lid is not None
    assert not found(
        Mark(x_mm=20.0, y_mm=lid.lost_low_mm, length_mm=100.0, width_mm=lid.lost_high_mm - lid.lost_low_mm)
    )
    assert found(Mark(x_mm=100.0, y_mm=20.0, shows="back"))
    assert not found(Mark(x_mm=100.0, y_mm=20.0, shows="back", inside=True))
    assert not found(Mark(x_mm=100.0, y_mm=20.0, sides=(0,)))
    assert found(Mark(x_mm=100.0, y_mm=20.0, sides=(1,)))
    assert not found(Mark(x_mm=100.0, y_mm=82.0))  # above the strip


def test_what_mends_a_mark_mends_it() -> None:
    job = job_of(shape=Rectangle(200.0, 140.0, "outside"), height_mm=80.0, board=Board(length_mm=1600.0))
    job = revised(job, marks=(Mark(x_mm=100.0, y_mm=20.0), Mark(x_mm=1500.0, y_mm=50.0, kind="figure", wish="front"),
                              Mark(x_mm=40.0, y_mm=100.0, length_mm=1500.0, width_mm=8.0, kind="streak", wish="height",
                                   at_mm=60.0)))  # fmt: skip
    for code in ("on_a_mark", "wish_height"):
        finding = next(f for f in plan(job).findings if f.code == code)
        mended = plan(changed(job, finding.fixes[0].changes))
        assert code not in [f.code for f in mended.findings]


def test_the_nearest_clear_move_is_the_nearest() -> None:
    spans = [Span(-5.0, 10.0), Span(10.0, 30.0), Span(40.0, 60.0)]
    assert nearest_clear(spans, Span(-20.0, 100.0)) == -5.0
    assert nearest_clear(spans, Span(0.0, 100.0)) == 10.0
    assert nearest_clear([Span(-1.0, 200.0)], Span(0.0, 100.0)) is None


@pytest.mark.parametrize(
    ("face", "turned"), [("front", False), ("front", True), ("back", False), ("back", True)]
)
def test_a_mark_is_painted_where_the_hand_is_however_the_board_lies(face: str, turned: bool) -> None:
    job = job_of(shape=Rectangle(200.0, 140.0), board=Board(face=face, turned=turned))  # type: ignore[arg-type]
    made = with_mark(job, "stain", (300.0, 40.0), (340.0, 60.0))
    board = made.stock.board
    assert lies(board, board.marks[0]) == pytest.approx((300.0, 40.0, 340.0, 60.0))
    assert board.marks[0].shows == face
    click = with_mark(job, "knot", (300.0, 40.0), (300.5, 40.5)).stock.board
    assert lies(click, click.marks[0]).x1 - lies(click, click.marks[0]).x0 == pytest.approx(16.0)


def test_with_faults_a_larger_box_may_fit_where_a_smaller_does_not() -> None:
    # A board of 1000, faults at 250 and 500, kerf 3: four sides of 246 fit, of 200 do not (worked by hand).
    faults = tuple(
        Mark(x_mm=at, y_mm=0.0, length_mm=0.1, width_mm=100.0, kind="check") for at in (250.0, 500.0)
    )
    board = Board(length_mm=1000.0, width_mm=100.0, end_trim_mm=0.0, marks=faults)

    def clear(side: float) -> bool:
        made = plan(job_of(shape=Rectangle(side, side, "outside"), height_mm=80.0, board=board))
        spans = blocked(board, shown_faces(made.job, made.ring, made.wrap, made.section))
        return nearest_clear(spans, Span(0.0, made.wrap.spare_mm)) is not None

    assert clear(246.5)
    assert not clear(200.0)
    best = largest(job_of(shape=Rectangle(150.0, 150.0, "outside"), height_mm=80.0, board=board))
    assert best is not None
    assert best.job.design.form.shape.length_mm > 245.0  # type: ignore[union-attr]
    assert not [f for f in plan(best.job).findings if f.code == "on_a_mark" or f.severity == "stop"]
