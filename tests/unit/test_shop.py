"""The maker's tools and order of work in the numbers of the plan."""

import pytest

from peristyle.core.errors import PeristyleError
from peristyle.model import addresses, worklist
from peristyle.model.design import Keys, Lid, Liner, Panel, Rectangle, Regular, replace
from peristyle.model.job import Moved, OwnStep, Work, job_of, revised
from peristyle.model.stock import Board
from peristyle.model.tools import Bit, DadoSet, Uses
from peristyle.planning.making.offering import choices
from peristyle.planning.making.order import Refused, moved
from peristyle.planning.plan import Plan, plan
from peristyle.storage import codec
from peristyle.words.step_reasons import WHY

BOX = job_of(
    shape=Rectangle(240.0, 160.0), height_mm=90.0, thicknesses_mm=(12.0,), bottom=Panel(thickness_mm=6.0, fit_mm=0.0),
    lid=Lid(), keys=Keys(), board=Board(length_mm=1200.0, width_mm=140.0, thickness_mm=12.0),
)  # fmt: skip


def step_of(made: Plan, operation: str):  # type: ignore[no-untyped-def]
    return next(step for step in made.steps if step.operation == operation)


@pytest.mark.parametrize(
    ("tool", "passes", "cut"),
    # ceil(width / kerf) passes of a 6 mm groove (common practice): saw 3, bits 6 and 4, a set as wide as asked.
    [
        ("", 2, 3.0),
        ("Straight bit 6", 1, 6.0),
        ("Straight bit 4", 2, 4.0),
        ("Dado set", 1, 6.0),
        ("Thin blade", 4, 1.8),
    ],
)
def test_a_groove_takes_the_passes_of_its_tool(tool: str, passes: int, cut: float) -> None:
    step = step_of(plan(revised(BOX, uses=Uses(groove=tool))), "groove")
    fences = step.values("fence")
    assert (len(fences), step.cut_mm) == (passes, cut)
    assert fences[-1] - fences[0] == pytest.approx(6.0 - cut)


def test_kerfs_go_where_they_are_lost() -> None:
    plain = plan(BOX)
    thin = plan(revised(BOX, uses=Uses(crosscut="Thin blade")))
    # Four corners, each the kerf narrower.
    assert plain.wrap.used_mm - thin.wrap.used_mm == pytest.approx(4 * (3.0 - 1.8))
    freed = plan(revised(BOX, uses=Uses(lid="Band saw")))
    assert freed.job.design.section.lid.kerf_mm == 0.8  # type: ignore[union-attr]
    assert freed.section.finished_mm == pytest.approx(90.0 - 0.8 - 0.5)


def test_the_lid_s_kerf_and_its_tool_stay_together() -> None:
    job = addresses.put(BOX, "shop.uses.lid", "Band saw")
    assert job.design.section.lid == replace(BOX.design.section.lid, kerf_mm=0.8)
    number = next(n for n, tool in enumerate(job.shop.tools, 1) if tool.name == "Band saw")
    job = addresses.put(job, f"shop.tools.{number}.kerf_mm", "1.2")
    assert job.design.section.lid.kerf_mm == 1.2  # type: ignore[union-attr]
    named = addresses.put(job, f"shop.tools.{number}.name", "Big band saw")
    assert named.shop.uses.lid == "Big band saw"
    by_hand = addresses.put(job, "section.lid.kerf_mm", "2")
    assert by_hand.shop.uses.lid == ""
    gone = job
    while len(gone.shop.tools) > 2:  # one at a time: a number alone never drops many
        gone = addresses.put(gone, "shop.tools", str(len(gone.shop.tools) - 1))
    assert gone.shop.uses.lid == ""
    assert codec.decode(codec.encode(named), "box") == named


def test_tools_that_cannot_be_are_refused() -> None:
    wrong = (
        "shop.uses.rip=Straight bit 4",
        "shop.uses.lid=No such",
        "shop.tools.1.name=Dado set",
        "shop.tools.2.most_mm=5",
    )
    for pair in wrong:
        place, _, text = pair.partition("=")
        with pytest.raises(PeristyleError):
            addresses.sound(addresses.put(BOX, place, text))


def test_what_a_tool_would_take_is_offered_with_its_reason() -> None:
    narrow = revised(
        BOX,
        bottom=Panel(thickness_mm=4.0, fit_mm=0.0),
        tools=(DadoSet(), Bit(), Bit(name="Four", width_mm=4.0)),
    )
    made = plan(narrow)
    offered = {one.name: (one.can, one.why) for one in choices(made, step_of(made, "groove"))}
    assert offered == {
        "": (True, "passes"), "Straight bit 6": (False, "too_wide"), "Four": (True, "passes"),
        "Dado set": (False, "too_wide"),
    }  # fmt: skip
    leaning = plan(revised(narrow, slopes_deg=(12.0,)))
    assert not {one.name: one.can for one in choices(leaning, step_of(leaning, "groove"))}["Four"]


def test_keys_once_the_lid_is_free_are_measured_by_their_own_part() -> None:
    made = plan(revised(BOX, keys=Keys(positions_mm=(15.0, 40.0, 78.0)), work=Work(keys="after_lid")))
    line = made.section.lid.line_mm  # type: ignore[union-attr]
    for setting in made.keys.settings:
        for number, height in enumerate(setting.heights_mm):
            edge = setting.edge if number == 0 else ("top" if setting.edge == "bottom" else "bottom")
            assert (edge == "top") == (height > line)
    order = [step.operation for step in made.steps]
    assert order.index("lid") < order.index("keys")


def test_a_rabbet_is_as_deep_as_the_panel_goes_in() -> None:
    panel = Panel(seat="rabbet", thickness_mm=5.0, depth_mm=4.0, play_mm=0.5, proud_mm=2.0)
    made = plan(revised(BOX, bottom=panel, lid=None))
    assert (made.section.panels[0].length_mm, made.section.panels[0].width_mm) == (216 + 7.0, 136 + 7.0)
    assert made.job.design.floor_mm == 3.0
    cheek, shoulder = (
        next(s for s in plan(revised(BOX, bottom=replace(panel, proud_mm=0.0))).steps if s.title == title)
        for title in ("rabbet.cheek", "rabbet.shoulder")
    )
    assert (shoulder.values("fence"), shoulder.value("height")) == ((2.0,), 4.0)  # 5 − kerf 3
    assert (cheek.values("fence"), cheek.value("height"), cheek.lies) == ((8.0,), 5.0, "on_edge")  # 12 − 4
    said = [f.code for f in plan(revised(BOX, bottom=panel, slopes_deg=(8.0,))).findings]
    assert "rabbet_leans" in said


def test_moves_hold_through_changes_and_refuse_with_a_reason() -> None:
    made = plan(BOX)
    found = moved(made.steps, "box.glue", "box.trim")
    assert isinstance(found, Refused)
    assert found.then.id == "box.glue"
    assert found.why in WHY
    ids = [step.id for step in made.steps]
    job = worklist.moved(BOX, "box.key_stock", ids[0])
    assert plan(job).steps[0].id == "box.key_stock"
    longer = revised(job, shape=Regular(6, 90.0))
    # Its place is gone: the move is passed over, also of a step that nothing keeps from the end.
    assert plan(longer).steps == plan(revised(longer, work=Work())).steps
    held = plan(revised(BOX, liner=Liner(height_mm=30.0))).steps
    assert moved(held, "liner.liner_fit", "gone") == held
    own = revised(
        BOX, work=Work(own=(OwnStep("own.1", "Sharpen", before="box.glue"),), moved=(Moved("no", "no"),))
    )
    assert "own.1" in [step.id for step in plan(own).steps]
    left = worklist.left_out(BOX, "box.dry_fit")
    assert "box.dry_fit" not in [step.id for step in plan(left).steps]
    assert plan(worklist.put_back(left, "box.dry_fit")).steps == made.steps
