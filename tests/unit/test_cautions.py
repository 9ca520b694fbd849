"""Which operation on which tool shows which caution; all of it common practice."""

import pytest

from peristyle.model.design import Dividers, Feet, Keys, Lid, Liner, Opening, Panel, Rectangle, Regular, Tray
from peristyle.model.job import Saw, job_of, revised
from peristyle.model.stock import Board
from peristyle.planning.plan import plan
from peristyle.reference.cautions import CAUTIONS, caution, cautions_of

BOX = job_of(
    shape=Rectangle(240.0, 160.0), height_mm=90.0, bottom=Panel(), lid=Lid(), keys=Keys(), dividers=Dividers(along=1),
    liner=Liner(), openings=(Opening(),), feet=Feet(), board=Board(length_mm=1200.0, thickness_mm=12.0),
)  # fmt: skip


@pytest.mark.parametrize(
    ("operation", "tool", "shown", "never"),
    [
        ("rip", "table_saw", {"guard", "rip"}, {"not_through", "stop_clear"}),
        ("crosscut", "table_saw", {"guard", "stop_clear"}, {"not_through"}),
        (
            "crosscut",
            "miter_saw",
            {"miter_guard", "stop_clear"},
            {"guard", "rip_fence"},
        ),  # it has no riving knife
        ("bevel", "miter_saw", {"miter_guard", "stop_clear"}, {"guard", "rip_fence"}),
        ("groove", "table_saw", {"not_through", "groove"}, {"guard"}),
        ("dado", "table_saw", {"not_through", "groove"}, {"guard"}),
        ("keys", "table_saw", {"not_through", "cradle"}, {"guard"}),
        ("halve", "table_saw", {"not_through"}, {"guard"}),
        ("lid", "table_saw", {"not_through", "lid"}, {"guard"}),
        ("bevel", "chamfer_bit", {"router"}, {"guard", "tilt", "stop_clear"}),
        ("bevel", "shooting_board", {"plane_edge"}, {"guard", "tilt", "stop_clear"}),
        ("segment", "table_saw", {"guard", "small_piece"}, set()),
        ("foot", "table_saw", {"guard", "small_piece"}, set()),
        ("opening", "drill_press", {"bore"}, {"guard"}),
        ("glue", "clamps", {"glue"}, {"guard"}),
        ("plane", "planer", {"plane"}, {"guard"}),
    ],
)
def test_the_table(operation: str, tool: str, shown: set[str], never: set[str]) -> None:
    told = cautions_of(operation, tool, tilted=True, short=True)
    assert shown <= set(told)
    assert not never & set(told)
    assert told[-1] == "manual"  # the machine's manual, local rules, a qualified person: always, and last
    short = {"table_saw": "short_piece", "miter_saw": "short_clamp"}.get(tool, "short_carrier")
    assert {key for key in told if key.startswith("short_")} == {short}
    assert set(told) <= set(CAUTIONS)


def test_a_thin_strip_and_a_knife_have_their_own() -> None:
    """Common practice: what is too narrow for a push stick beside the guard; veneer is cut with a knife."""
    job = revised(BOX, tray=Tray(height_mm=16.0), keys=Keys(kind="veneer", thickness_mm=0.6))
    ripped = {step.part: step.cautions for step in plan(job).steps if step.operation == "rip"}
    assert {part: "thin_rip" in told for part, told in ripped.items()} == {
        "box": False,
        "liner": False,
        "tray": True,
    }
    veneer = next(step for step in plan(job).steps if step.operation == "key_stock")
    assert veneer.cautions == ("edge_tools", "manual")


def test_what_they_must_say() -> None:
    assert "never a crosscut stop" in CAUTIONS["rip_fence"]
    assert "taller than the piece" in CAUTIONS["stop_clear"]
    assert "never clamp both" in CAUTIONS["cradle"]
    assert "Refit guard" in CAUTIONS["not_through"]
    assert "riving knife" not in CAUTIONS["miter_guard"]
    assert "6\u202fin" in caution("miter_guard", "in")


@pytest.mark.parametrize("saw", [Saw(), Saw(kind="miter_saw"), Saw(kind="chamfer_bit", stops_deg=(45.0,))])
def test_steps_show_those_of_their_own_cut(saw: Saw) -> None:
    for job in (revised(BOX, saw=saw), revised(BOX, saw=saw, shape=Regular(3, 260.0), dividers=None)):
        for step in plan(job).steps:
            tilted, on_end = bool(step.value("tilt")), step.lies == "on_end"
            short = bool({"short_piece", "short_clamp", "short_carrier"} & set(step.cautions))
            thin = step.operation == "rip" and step.amount("width") < 20.0
            assert step.cautions == cautions_of(
                step.operation, step.tool, tilted=tilted, on_end=on_end, short=short, thin=thin
            )
            assert ("on_end" in step.cautions) == on_end
