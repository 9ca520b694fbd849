"""Banding on sheet stock's edges, and panels of two leaves that mirror each other."""

import math

import pytest
import shapely

from peristyle.export.cutlist import cut_list
from peristyle.model.addresses import applied
from peristyle.model.design import Feet, Gable, House, Lid, Panel, Rectangle, Regular, Shape, Sliding, replace
from peristyle.model.job import Job, job_of, revised
from peristyle.model.stock import Board
from peristyle.planning.mending import mended
from peristyle.planning.plan import Plan, plan

SHEET = Board(length_mm=2400.0, width_mm=600.0, sheet=True)


def banded(made: Plan) -> dict[str, list[shapely.Polygon]]:
    """The banding of each edge as it lies, from above."""
    found: dict[str, list[shapely.Polygon]] = {}
    for piece in made.pieces:
        if piece.part == "band":
            corners = [piece.place.of((x, y, 0.0)) for x, y in piece.show_face]
            found.setdefault(piece.id.rsplit(".", 1)[1], []).append(
                shapely.Polygon([(x, y) for x, y, _z in corners])
            )
    return found


@pytest.mark.parametrize("slope", [0.0, 12.0, -9.0])
@pytest.mark.parametrize("shape", [Rectangle(220.0, 150.0), Regular(7, 60.0)])
def test_banding_covers_every_edge_that_shows_and_nothing_else(shape: Shape, slope: float) -> None:
    made = plan(
        job_of(shape=shape, height_mm=90.0, thicknesses_mm=(9.0,), slopes_deg=(slope,), lid=Lid(), board=SHEET,
               bottom=Panel(), top=Panel())
    )  # fmt: skip
    found = banded(made)
    assert set(found) == {"bottom", "body", "lid", "top"}
    ring = made.ring
    for name, outer, inner in (
        ("bottom", ring.outer_bottom, ring.inner_bottom), ("top", ring.outer_top, ring.inner_top),
    ):  # fmt: skip
        edge = shapely.Polygon(outer) - shapely.Polygon(inner)
        whole = shapely.union_all(found[name])
        assert whole.symmetric_difference(edge).area < 1e-6 * edge.area
        assert sum(one.area for one in found[name]) == pytest.approx(whole.area)  # none lies on another
    heights = {
        piece.id.rsplit(".", 1)[1]: piece.place.origin[2] for piece in made.pieces if piece.part == "band"
    }
    lid = made.section.lid
    assert lid is not None
    assert heights == pytest.approx(
        {"bottom": -0.5, "body": lid.lost_low_mm + 0.5, "lid": lid.lost_high_mm - 0.5, "top": 90.5}
    )


def test_banding_is_listed_cut_and_put_on_when_the_edges_are_flat() -> None:
    job = job_of(shape=Rectangle(220.0, 150.0), height_mm=90.0, lid=Lid(), board=SHEET)
    made = plan(job)
    steps = [step.operation for step in made.steps]
    assert steps.index("true_lid") < steps.index("level") < steps.index("band_cut") < steps.index("band")
    assert steps.index("band") < steps.index("finish")
    assert cut_list(made).count("banding") == 8  # two lengths on each of four edges
    told = next(f for f in made.findings if f.code == "sheet_banded")
    assert told.numbers["long_mm"] == pytest.approx(
        sum(side.outside_mm + 2.0 for side in made.ring.sides) * 4
    )
    assert not any(piece.part == "band" for piece in plan(revised(job, board=Board())).pieces)
    bare = plan(revised(job, banding_mm=0.0))
    finding = next(f for f in mended(bare) if f.code == "sheet_edges")
    assert applied(bare.job, finding.fixes[0].changes).stock.banding_mm == 0.5
    feet = plan(revised(job, feet=Feet(), lid=None))
    assert set(banded(feet)) == {"top"}  # feet are glued where the bottom's would be


def test_a_house_of_plywood_is_banded_where_it_is_open() -> None:
    made = plan(job_of(shape=House(200.0, 120.0, 30.0), height_mm=100.0, board=SHEET))
    assert set(banded(made)) == {"bottom", "top"}


BOOK = job_of(
    shape=Rectangle(220.0, 150.0), height_mm=70.0, thicknesses_mm=(8.0,), bottom=Panel(leaves=True, thickness_mm=5.0),
    board=Board(length_mm=1300.0, width_mm=120.0, thickness_mm=26.0, method="book"),
)  # fmt: skip


def test_two_leaves_make_the_panel_and_mirror_each_other() -> None:
    made = plan(BOOK)
    assert made.buildable, [f.code for f in made.findings]
    leaves = [piece for piece in made.pieces if piece.part == "leaf"]
    assert len(leaves) == 2
    panel = next(piece for piece in made.pieces if piece.id == "panel.bottom")
    whole = shapely.Polygon([panel.place.of((x, y, 0.0))[:2] for x, y in panel.show_face])
    halves = [shapely.Polygon([leaf.place.of((x, y, 0.0))[:2] for x, y in leaf.show_face]) for leaf in leaves]
    assert shapely.union_all(halves).symmetric_difference(whole).area < 1e-9 * whole.area
    assert halves[0].area == pytest.approx(halves[1].area)
    # Beyond the sides on the board, and large enough for their halves.
    step = next(step for step in made.steps if step.operation == "leaf")
    assert step.numbers["at_mm"] >= max(piece.end_mm for piece in made.wrap.pieces)
    assert step.numbers["end_mm"] <= made.job.stock.board.length_mm
    assert step.amount("width") >= panel.width_mm / 2
    assert step.amount("stop") >= panel.length_mm
    order = [s.operation for s in made.steps]
    assert order.index("resaw") < order.index("leaf") < order.index("leaf_glue") < order.index("panel")


@pytest.mark.parametrize(("job", "code"), [
    (revised(BOOK, board=replace(BOOK.stock.board, method="square_first", thickness_mm=8.0)), "leaves_not_resawn"),
    (revised(BOOK, board=replace(BOOK.stock.board, length_mm=590.0)), "leaves_no_room"),
    (revised(BOOK, board=replace(BOOK.stock.board, width_mm=72.0)), "leaves_narrow"),
    (revised(BOOK, bottom=Panel(leaves=True, thickness_mm=11.0, height_mm=8.0)), "leaves_thin"),
])  # fmt: skip
def test_leaves_that_the_board_does_not_give_are_refused_with_a_way_out(job: Job, code: str) -> None:
    found = [f for f in mended(plan(job)) if f.code == code]
    assert found
    assert found[0].severity == "stop"
    assert found[0].fixes


def test_leaves_of_a_polygon_meet_in_the_middle() -> None:
    made = plan(revised(BOOK, shape=Regular(6, 90.0), board=replace(BOOK.stock.board, width_mm=200.0)))
    leaves = [piece for piece in made.pieces if piece.part == "leaf"]
    panel = next(piece for piece in made.pieces if piece.id == "panel.bottom")
    area = math.fsum(shapely.Polygon(leaf.show_face).area for leaf in leaves)
    assert area == pytest.approx(shapely.Polygon(panel.show_face).area)


@pytest.mark.parametrize(
    ("changes", "edges"),
    [
        ({"cover": Gable()}, {"bottom"}),  # the roof lies on the tops
        ({"bottom": Panel(seat="applied")}, {"top"}),  # the bottom is glued on
        ({"top": Panel(seat="applied"), "lid": Lid()}, {"bottom", "body", "lid"}),
        ({"cover": Sliding()}, {"bottom", "top"}),
    ],
)
def test_no_banding_on_an_edge_that_something_lies_on(changes: dict[str, object], edges: set[str]) -> None:
    made = plan(job_of(shape=Rectangle(220.0, 150.0), height_mm=90.0, board=SHEET, **changes))
    assert set(banded(made)) == edges


@pytest.mark.parametrize("slope", [0.0, 10.0])
def test_banding_beside_a_rabbet_is_as_wide_as_the_rim_it_leaves(slope: float) -> None:
    made = plan(job_of(shape=Rectangle(220.0, 150.0), height_mm=90.0, thicknesses_mm=(9.0,), slopes_deg=(slope,),
                       board=SHEET, bottom=Panel(seat="rabbet", depth_mm=4.0)))  # fmt: skip
    panel = shapely.Polygon(next(one.outline for one in made.section.panels))
    for band in banded(made)["bottom"]:
        assert not band.intersects(panel.buffer(-1e-6))  # beside the panel, and close to it
        assert band.distance(panel) < (0.5 + 1e-6 if not slope else 0.6)
    bands = [piece for piece in made.pieces if piece.part == "band" and piece.id.endswith(".bottom")]
    assert all(piece.size_mm[1] == pytest.approx(5.0 / math.cos(math.radians(slope))) for piece in bands)


def test_the_side_a_lid_slides_over_is_banded_where_it_is_lowered() -> None:
    made = plan(job_of(shape=Rectangle(220.0, 150.0), height_mm=90.0, board=SHEET, cover=Sliding(side=1)))
    tops = {
        piece.id: piece.place.origin[2]
        for piece in made.pieces
        if piece.id.endswith(".top") and piece.part == "band"
    }
    low = tops.pop("band.B.top")
    assert len(set(tops.values())) == 1
    assert low < min(tops.values()) - 3.0
    side = next(piece for piece in made.pieces if piece.id == "side.B")
    cut = next(feature for feature in side.features if feature.kind == "lowered")
    assert low - made.job.stock.banding_mm == pytest.approx(cut.line_at(0.0, side.thickness_mm)[0][1])
