"""The boxes a board offers: each uses it to its end, and each can be made."""

import pytest
from msgspec.structs import replace

from peristyle.core.lengths import Format
from peristyle.drawing.largest import largest_drawing
from peristyle.drawing.shapes import Grip
from peristyle.model.design import Alternating, House, Outline, Rectangle, Regular, Thing
from peristyle.model.job import Job, job_of
from peristyle.model.stock import Board
from peristyle.planning.plan import plan
from peristyle.planning.stock.offers import offers_of, taken

BOARD = Board(length_mm=1000.0, width_mm=120.0, thickness_mm=9.0)
SHAPES = [
    Rectangle(3.0, 2.0),
    Rectangle(150.0, 240.0, "inside"),
    Rectangle(200.0, 100.0, "outside", 240.0, 130.0),
    Regular(8, 120.0, "across_flats"),
    Regular(5, 90.0, "inside", 120.0),
    Regular(24, 30.0),
    Alternating(8, 60.0, 40.0),
    House(150.0, 90.0, 35.0),
    House(150.0, 90.0, 30.0, 12.0),
    Outline((200.0, 150.0, None, None), (80.0, 100.0, 95.0, None)),
]


@pytest.mark.parametrize("method", ["square_first", "bevel_direct"])
@pytest.mark.parametrize("shape", SHAPES)
def test_every_offer_uses_the_board_to_its_end(shape, method: str) -> None:  # type: ignore[no-untyped-def]
    board = replace(BOARD, method=method, shift_mm=3.0)  # type: ignore[arg-type]
    job = job_of(shape=shape, height_mm=70.0, board=board)
    offers = offers_of(job)
    assert offers is not None
    made = [plan(taken(job, offer)) for offer in offers.offers]
    assert all(found.ring.stands and found.wrap.tiers >= 1 for found in made)
    spares = [found.wrap.spare_mm for found in made]
    if offers.family == "size":  # from small to the largest
        assert spares[-1] == pytest.approx(0, abs=1e-3)
        assert spares == sorted(spares, reverse=True)
    else:
        assert spares == pytest.approx([0.0] * len(spares), abs=1e-3)
    assert len(made) >= 10
    # Taken, an offer is where the drawing says the box now stands.
    chosen = offers.offers[4]
    again = offers_of(taken(job, chosen))
    assert again is not None
    assert again.now == pytest.approx((chosen.x, chosen.y))
    if offers.family != "size":  # a free ring may be smaller still
        same = again.nearest(*again.now)
        assert (same.x, same.y) == pytest.approx((chosen.x, chosen.y))


def test_a_rectangle_trades_length_for_width() -> None:
    offers = offers_of(job_of(shape=Rectangle(3.0, 2.0), height_mm=70.0, board=BOARD))
    assert offers is not None
    assert len(offers.offers) == 25
    # Elementary: what the board leaves after the trim and four kerfs is the ring's girth.
    assert all(o.x + o.y == pytest.approx((1000 - 10 - 12) / 2, abs=1e-3) for o in offers.offers)


def test_polygons_grow_with_their_sides() -> None:
    offers = offers_of(job_of(shape=Regular(6, 50.0), height_mm=70.0, board=BOARD))
    assert offers is not None
    assert [round(o.x) for o in offers.offers] == list(range(3, 13))
    across = [o.y for o in offers.offers]
    assert across == sorted(across)  # of one girth, more sides hold more (elementary geometry)


@pytest.mark.parametrize(
    "job",
    [
        job_of(shape=Rectangle(200.0, 100.0), height_mm=130.0, board=BOARD),
        job_of(
            shape=Rectangle(1.0, 1.0), board=BOARD, contents=(Thing(length_mm=1, width_mm=1, height_mm=1),)
        ),
        job_of(shape=Regular(6, 50.0), board=replace(BOARD, length_mm=40.0)),
        job_of(shape=Outline((200.0, 100.0, 50.0), (90.0, 90.0, 90.0)), board=BOARD),
    ],
)
def test_where_nothing_is_offered_the_drawing_says_why(job: Job) -> None:
    assert offers_of(job) is None
    drawing = largest_drawing(plan(job), Format("mm"))
    assert len(drawing.words) > 10
    assert not drawing.handles


@pytest.mark.parametrize("shape", [Rectangle(300.0, 200.0), Regular(8, 120.0), SHAPES[-1]])
def test_it_is_chosen_by_a_click_or_a_drag(shape) -> None:  # type: ignore[no-untyped-def]
    job = job_of(shape=shape, height_mm=70.0, board=BOARD)
    offers = offers_of(job)
    assert offers is not None
    (grip,) = largest_drawing(plan(job), Format("mm")).handles
    assert isinstance(grip, Grip)
    assert grip.click is not None
    last = offers.offers[-1]
    for chosen in (
        grip.click(job, last.x, last.y),
        grip.move(job, last.x - offers.now[0], last.y - offers.now[1]),
    ):
        assert chosen is not None
        assert chosen.design.form.shape == last.shape
