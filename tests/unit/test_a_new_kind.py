"""A kind of part that is known here alone: every reader shows it, and none of them was changed for it."""

import json

from peristyle.core.lengths import Format
from peristyle.drawing.eye import Eye
from peristyle.drawing.operations import operation_drawing
from peristyle.drawing.piece import piece_drawing
from peristyle.drawing.shapes import Path, Pick
from peristyle.drawing.solid import Solid
from peristyle.export.cutlist import cut_list
from peristyle.export.planjson import as_data
from peristyle.export.plantext import as_text
from peristyle.export.sheet import shop_sheet
from peristyle.planning.findings import Finding, Place
from peristyle.planning.making.kind import Kind
from peristyle.planning.making.piece import Edge, Feature, Piece
from peristyle.planning.making.piece import Place as Where
from peristyle.planning.making.setting import stop
from peristyle.planning.making.step import make
from peristyle.planning.plan import KINDS, plan
from peristyle.storage import examples
from peristyle.words import finding_texts, step_texts, step_titles
from support.schemas import check_plan

FACE = ((0.0, 0.0), (80.0, 0.0), (80.0, 12.0), (0.0, 12.0))


BEAD = Feature(
    "handle.1.bead", "bead", "show", ((0.0, 6.0), (80.0, 6.0)), ((0.0, 0.0), (2.0, 0.0), (1.0, 2.0))
)


def handle(_plan):  # type: ignore[no-untyped-def]
    yield Piece(
        id="handle.1", part="handle", name="Handle", stock="handle stock", thickness_mm=9.0, grain_deg=0.0,
        show_face=FACE, inside_face=FACE, edges=(Edge("end", 0.0, 0.0), Edge("start", 0.0, 0.0)),
        place=Where((0.0, 0.0, 200.0), (1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, -1.0)),
        features=(BEAD,),
    )  # fmt: skip


def steps(_plan):  # type: ignore[no-untyped-def]
    yield "last", make("carve", ("handle.1",), makes=("handle.1",), settings=(stop(80.0),), says=("carve",))


def findings(_plan):  # type: ignore[no-untyped-def]
    yield Finding("handle_slim", "note", Place("ring"), {"thick_mm": 9.0})


HANDLE = Kind("handle", handle, steps=steps, findings=findings)


def test_every_reader_shows_it(monkeypatch) -> None:  # type: ignore[no-untyped-def]
    # A kind brings its words with it; nothing else is told of it.
    monkeypatch.setitem(step_titles.TITLES, "carve", "Carve the handle")
    monkeypatch.setitem(step_texts.SAYS, "carve", "With a knife, along the grain.")
    monkeypatch.setitem(finding_texts.TEXTS, "handle_slim", "A handle {thick_mm} thick is slim.")
    made = plan(examples.load(examples.FIRST), (*KINDS, HANDLE))
    fmt = Format("mm")
    assert "handle 1,handle,1,80.00" in cut_list(made)
    data = json.loads(json.dumps(as_data(made)))
    check_plan(data)
    assert data["pieces"][-1]["id"] == "handle.1"
    assert data["pieces"][-1]["features"][0]["kind"] == "bead"
    assert (data["steps"][-2]["id"], data["steps"][-2]["title"]) == ("box.carve", "Carve the handle")
    assert "A handle 9\u202fmm thick is slim." in [finding["text"] for finding in data["findings"]]
    text = as_text(made)
    assert "Handle: 80 × 12 × 9\u202fmm" in text
    assert "Carve the handle" in text
    assert shop_sheet(made).startswith(b"%PDF")
    number = len(made.pieces) - 1
    assert any(face.pick == Pick("piece", number) for face in Solid(made, 1.0).faces(Eye()))
    drawn = piece_drawing(made, made.pieces[-1], fmt)
    assert sum(isinstance(shape, Path) and shape.role == "blade" for shape in drawn.shapes) == 2
    assert operation_drawing(made, made.steps[-2], fmt).shapes
