"""Drawings say what the plan says, at the places where it is so."""

import subprocess
from itertools import pairwise
from shutil import which

import numpy as np
import pytest

from peristyle.core.lengths import Format
from peristyle.core.outlines import bounds
from peristyle.drawing.board import board_drawing, face_on_board
from peristyle.drawing.corner import corner_drawing
from peristyle.drawing.covers import drawn_side
from peristyle.drawing.eye import Eye
from peristyle.drawing.frieze import frieze_drawing
from peristyle.drawing.largest import largest_drawing
from peristyle.drawing.operations import operation_drawing
from peristyle.drawing.panels import groove_enlarged
from peristyle.drawing.section import section_drawing
from peristyle.drawing.shapes import Drawing, Grain, Label, Path, Pick
from peristyle.drawing.size import size_drawing
from peristyle.drawing.solid import Solid
from peristyle.export.sheet import shop_sheet
from peristyle.model.design import (
    Dividers,
    Fillets,
    Flat,
    Hinges,
    House,
    OuterEdge,
    Outline,
    Panel,
    Rectangle,
    Regular,
    Sliding,
    Tray,
    panel_of,
    replace,
)
from peristyle.model.job import Job, job_of, revised
from peristyle.model.stock import Board, Break
from peristyle.planning.plan import Plan, plan
from peristyle.storage import examples
from peristyle.wood.grown import face_picture
from peristyle.wood.looks import Grown
from support import hung_boxes, mouldings
from support.telling import titled

FMT = Format()
DESIGNS = [examples.load(name) for name in examples.names()]


def texts(drawing: Drawing) -> list[str]:
    return [s.text for s in drawing.shapes if isinstance(s, Label)]


def all_drawings(found: Plan) -> list[Drawing]:
    views = [size_drawing, section_drawing, board_drawing, frieze_drawing, largest_drawing]
    return [
        *(view(found, FMT) for view in views),
        *(corner_drawing(found, i, None, FMT) for i in range(len(found.ring.corners))),
        *(operation_drawing(found, cut, FMT) for cut in found.steps),
    ]


@pytest.mark.parametrize("job", DESIGNS, ids=lambda d: d.design.name)
def test_every_drawing_lies_in_its_bounds_and_has_words(job: Job) -> None:
    for drawing in all_drawings(plan(job)):
        assert drawing.words
        x0, y0, x1, y1 = drawing.bounds
        slack = max(x1 - x0, y1 - y0) * 0.08
        for shape in drawing.shapes:
            points = (shape.at,) if isinstance(shape, Label) else shape.points
            for x, y in points:
                assert x0 - slack <= x <= x1 + slack
                assert y0 - slack <= y <= y1 + slack


@pytest.mark.parametrize("job", DESIGNS, ids=lambda d: d.design.name)
def test_the_ring_is_drawn_to_scale(job: Job) -> None:
    found = plan(job)
    drawing = size_drawing(found, FMT)
    walls = [s for s in drawing.shapes if isinstance(s, Path) and s.pick and s.pick.kind == "side"]
    assert len(walls) == len(found.ring.sides)
    for wall, side in zip(walls, found.ring.sides, strict=True):
        (ax, ay), (bx, by) = wall.points[:2]
        assert ((bx - ax) ** 2 + (by - ay) ** 2) ** 0.5 == pytest.approx(side.outside_mm)
    assert {s.name for s in found.ring.sides} <= set(texts(drawing))


def test_losses_on_the_board_have_their_true_width() -> None:
    found = plan(examples.load("Star-chart box"))
    drawing = board_drawing(found, FMT)
    cuts = [s for s in drawing.shapes if isinstance(s, Path) and s.pick and s.pick.kind == "corner"]
    assert [c.pick.index for c in cuts if c.pick] == list(found.wrap.order)
    for cut in cuts:
        x0, _y0, x1, _y1 = bounds(cut.points)
        assert x1 - x0 == pytest.approx(found.wrap.losses_mm[cut.pick.index if cut.pick else 0])


def test_the_frieze_is_the_board_without_its_losses() -> None:
    found = plan(examples.load("Star-chart box"))
    grains = [s for s in frieze_drawing(found, FMT).shapes if isinstance(s, Grain)]
    for before, after in pairwise(grains):
        assert before.points[1] == pytest.approx(after.points[0])
    for grain, piece in zip(grains, found.wrap.pieces, strict=True):
        assert grain.source == face_on_board(found.ring.sides[piece.side], piece)


def test_keys_stand_where_the_plan_has_them() -> None:
    found = plan(examples.load("Star-chart box"))
    drawing = corner_drawing(found, 1, None, FMT)
    keys = [s for s in drawing.shapes if isinstance(s, Path) and s.pick and s.pick.kind == "key"]
    middles = [(bounds(k.points)[1] + bounds(k.points)[3]) / 2 for k in keys]
    assert sorted(middles) == pytest.approx(sorted([*found.keys.heights_mm] * 2))  # on either face
    leg = found.keys.keys[0].leg_mm
    reach = {round(v, 6) for k in keys for v in (bounds(k.points)[0], bounds(k.points)[2])}
    assert reach == {-round(leg, 6), 0.0, round(leg, 6)}


def test_the_lost_band_is_as_high_as_kerf_and_clean_up() -> None:
    found = plan(examples.load("Star-chart box"))
    assert found.section.lid is not None
    bands = [
        s for s in section_drawing(found, FMT).shapes
        if isinstance(s, Path) and s.role == "blade" and s.weight == 0.0
    ]  # fmt: skip
    heights = sorted(bounds(b.points)[3] - bounds(b.points)[1] for b in bands)
    assert heights == pytest.approx([2.5, 3.0])


@pytest.mark.parametrize("turn", range(0, 360, 30))
@pytest.mark.parametrize("shape", [Rectangle(200.0, 120.0), Regular(7, 90.0), House(200.0, 120.0, 40.0)])
def test_the_solid_shows_some_sides_and_never_all(shape, turn: int) -> None:  # type: ignore[no-untyped-def]
    found = plan(job_of(shape=shape, height_mm=80.0))
    faces = Solid(found).faces(Eye(float(turn), 26.0))
    shown = {f.pick for f in faces if f.kind == "show"}
    assert 1 <= len(shown) < len(found.ring.sides)
    assert all(0 < f.light <= 1.0 for f in faces)
    assert all(len(f.source) == 4 for f in faces if f.kind == "show")


def test_the_solid_puts_near_things_over_far_ones() -> None:
    found = plan(examples.load("Ticket box"))
    for fine in (True, False):
        kinds = [f.kind for f in Solid(found).faces(Eye(), fine=fine)]
        assert kinds.index("floor") < kinds.index("divider") < len(kinds) - kinds[::-1].index("show")


def test_a_ring_that_cannot_be_is_said_in_every_drawing() -> None:
    broken = plan(job_of(shape=Outline((90.0, 90.0, 90.0), (60.0, 60.0, 70.0))))
    assert not broken.ring.sides
    for drawing in (
        size_drawing(broken, FMT),
        section_drawing(broken, FMT),
        corner_drawing(broken, 0, None, FMT),
    ):
        assert "No" in drawing.words
    assert frieze_drawing(broken, FMT).words


def test_picking_a_side_offers_its_own_sizes() -> None:
    found = plan(examples.load("Star-chart box"))
    plain = {t.field.id for t in size_drawing(found, FMT).tags}
    picked = {t.field.id for t in size_drawing(found, FMT, Pick("side", 1)).tags}
    assert picked - plain == {"sides.B.thickness_mm", "sides.B.slope_deg"}


def test_wood_grows_from_its_seed() -> None:
    one = face_picture(Grown("cherry", 7, 300.0, 60.0, 12.0), px_per_mm=2.0)
    assert one.shape == (120, 600, 3)
    assert np.array_equal(one, face_picture(Grown("cherry", 7, 300.0, 60.0, 12.0), px_per_mm=2.0))
    assert not np.array_equal(one, face_picture(Grown("cherry", 8, 300.0, 60.0, 12.0), px_per_mm=2.0))
    # Grain runs along the board: neighbours along it are more alike than neighbours across it.
    light = one.astype(float).sum(axis=2)
    assert np.abs(np.diff(light, axis=1)).mean() < np.abs(np.diff(light, axis=0)).mean()
    dark, pale = (
        face_picture(Grown(w, 3, 200.0, 50.0, 12.0), px_per_mm=1.0).mean() for w in ("walnut", "maple")
    )
    assert dark < pale - 50


@pytest.mark.skipif(which("pdftotext") is None, reason="needs poppler-utils")
@pytest.mark.parametrize("paper", ["a4", "letter"])
@pytest.mark.parametrize("job", DESIGNS, ids=lambda d: d.design.name)
def test_the_sheet_can_be_read(job: Job, paper: str) -> None:
    found = plan(revised(job, units="mm"))
    data = shop_sheet(found, paper)  # type: ignore[arg-type]
    assert data == shop_sheet(found, paper)  # type: ignore[arg-type]
    text = subprocess.run(
        ["pdftotext", "-layout", "-", "-"], input=data, capture_output=True, check=True
    ).stdout.decode()
    assert job.design.name in text
    assert "manual and local rules" in text.replace("\n", " ")
    for side in found.ring.sides:
        assert FMT._replace(for_rule=True).length(side.outside_mm) in text
    for number, step in enumerate(found.steps, 1):
        assert f"{number}. {titled(step)}"[:40] in text
    size = subprocess.run(["pdfinfo", "-"], input=data, capture_output=True, check=True).stdout.decode()
    assert ("595" if paper == "a4" else "612") in size


def test_letters_keep_clear_of_dividers() -> None:
    job = job_of(shape=Rectangle(200.0, 120.0), dividers=Dividers(across=1, along=1))
    found = plan(job)
    letters = [
        s for s in size_drawing(found, FMT).shapes if isinstance(s, Label) and s.text in "ABCD" and s.bold
    ]
    assert len(letters) == 4
    for letter in letters:
        for piece in found.dividers.pieces:
            xs, ys = zip(*piece.outline, strict=True)
            assert not (min(xs) - 3 < letter.at[0] < max(xs) + 3 and min(ys) - 3 < letter.at[1] < max(ys) + 3)


def test_the_groove_of_a_sliding_lid_is_shown_in_a_side_that_has_it() -> None:
    """Not in the one that is lowered for the lid, where it would run right through the wall."""
    seen = []
    for over in (0, 2):
        made = plan(job_of(shape=Rectangle(200.0, 200.0), height_mm=90.0, cover=Sliding(side=over)))
        groove, panel = made.section.groove("lid"), panel_of(made.job.design, "lid")
        assert groove is not None
        assert panel is not None
        shapes, _tags, _end = groove_enlarged(made, FMT, groove, panel, drawn_side(made), 0.0, (0.0, 40.0))
        seen.append([p for shape in shapes if isinstance(shape, Path) for p in shape.points])
    assert np.allclose(seen[0], seen[1])


@pytest.mark.parametrize("method", ["square_first", "flip_shared", "book", "upright", "none", "broken"])
def test_the_marked_board_shows_every_letter_at_a_place_of_its_own(method: str) -> None:
    board = Board(length_mm=900.0, width_mm=500.0, thickness_mm=30.0)
    job = job_of(shape=Regular(6, 90.0, "outside"), height_mm=80.0, thicknesses_mm=(10.0,), board=board)
    if method == "broken":
        breaks = (Break(after=1, board="Other", skip_mm=5.0), Break(after=3, board="Third"))
        rack = (replace(board, name="Other"), replace(board, name="Third"))
        job = replace(job, stock=replace(job.stock, rack=rack, breaks=breaks))
    else:
        job = revised(job, board=replace(board, method=method))
    made = plan(job)
    assert made.buildable, [f.code for f in made.findings]
    drawing = operation_drawing(made, next(step for step in made.steps if step.operation == "mark"), FMT)
    at = {s.text: s.at for s in drawing.shapes if isinstance(s, Label) and len(s.text) == 1}
    assert sorted(at) == list("ABCDEF")
    places = list(at.values())
    assert min(np.hypot(a[0] - b[0], a[1] - b[1]) for n, a in enumerate(places) for b in places[:n]) > 10.0
    x0, y0, x1, y1 = drawing.bounds
    assert all(x0 < x < x1 and y0 < y < y1 for x, y in places)
    names = set(texts(drawing))
    assert ("upper leaf" in names) == (method == "book")
    assert ({"Other", "Third"} <= names) == (method == "broken")


def test_what_is_measured_across_a_ring_is_drawn_where_it_is_measured() -> None:
    made = plan(job_of(shape=House(220.0, 95.0, 40.0), height_mm=190.0, thicknesses_mm=(10.0,)))
    step = next(step for step in made.steps if step.operation == "dry_fit")
    drawing = operation_drawing(made, step, FMT)
    spans = [s.points for s in drawing.shapes if isinstance(s, Path) and s.dash]
    assert len(spans) == 2
    assert {"EA", "BC", "CD", FMT._replace(for_rule=True).length(step.numbers["span.BC_mm"])} <= set(
        texts(drawing)
    )
    long = [np.hypot(b[0] - a[0], b[1] - a[1]) for a, b in spans]
    assert long[0] / long[1] == pytest.approx(step.numbers["span.BC_mm"] / step.numbers["span.CD_mm"])
    five = plan(job_of(shape=Regular(5, 100.0), height_mm=90.0, thicknesses_mm=(10.0,)))
    step = next(step for step in five.steps if step.operation == "dry_fit")
    drawn = [s.points for s in operation_drawing(five, step, FMT).shapes if isinstance(s, Path) and s.dash]
    assert len(drawn) == 2
    long = [np.hypot(b[0] - a[0], b[1] - a[1]) for a, b in drawn]
    assert long[0] == pytest.approx(long[1])


def test_every_step_has_a_picture_and_its_own_letters() -> None:
    seen = set()
    frame = {"lid": None, "top": None, "cover": Flat()}
    for job in (
        *DESIGNS,
        revised(hung_boxes.BOX, hinges=Hinges(), bottom_edge=OuterEdge(), fillets=Fillets(), tray=Tray()),
        revised(hung_boxes.BOX, hinges=Hinges(pattern="barrel")),
        revised(mouldings.BOX, bottom=Panel(seat="applied", thickness_mm=8.0), **frame),
    ):  # fmt: skip
        made = plan(job)
        for step in made.steps:
            drawing = operation_drawing(made, step, FMT)
            assert any(isinstance(shape, Path) for shape in drawing.shapes), step.id
            seen.add(step.operation)
            if step.operation == "crosscut" and step.part in ("fillet", "tray"):
                assert set(texts(drawing)) & set("ABCD"), step.id
    assert {"try_hinge", "try_edge", "fillet_glue", "tray_glue"} <= seen
