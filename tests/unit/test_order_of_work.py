"""What hands do, and when: a closed box sawn open, parts cut oversize and trimmed, a liner that shows its inside."""

import random
import re

import pytest

from peristyle.core.lengths import Format
from peristyle.model.addresses import applied
from peristyle.model.design import (
    Feet,
    Gable,
    Hinges,
    Inlay,
    Keys,
    Lid,
    LiftOff,
    Liner,
    Magnets,
    Opening,
    Panel,
    Rectangle,
    Regular,
    Segments,
    Split,
    Strip,
    Thing,
    replace,
)
from peristyle.model.edges import EdgeProfile, OuterEdge
from peristyle.model.job import Coating, Job, Measured, Moved, Work, job_of, revised
from peristyle.model.section_edits import with_edge
from peristyle.model.stock import Board
from peristyle.model.tools import STARTING, BandSaw, Bit, HandSaw, MiterSaw, Tool, Uses
from peristyle.planning.fit.rescue import rescues, taken, troubles_of
from peristyle.planning.inside.contents import suiting_height
from peristyle.planning.making.order import Refused, moved
from peristyle.planning.making.step import Step
from peristyle.planning.plan import Plan, plan
from peristyle.reference.cautions import caution
from peristyle.words.steps import how, setting, title, why
from support.designs import random_design
from support.glued import wrongly_glued

MM = Format("mm")
BOX = job_of(
    shape=Rectangle(200.0, 140.0, "outside"), height_mm=80.0, thicknesses_mm=(9.0,), tools=STARTING,
    board=Board(length_mm=3000.0, width_mm=120.0, thickness_mm=9.0),
)  # fmt: skip


def at(made: Plan, name: str) -> int:
    return [step.id for step in made.steps].index(name)


def step(made: Plan, name: str) -> Step:
    return made.steps[at(made, name)]


def closed(seat: str, **more: object) -> Job:
    return revised(
        BOX, bottom=Panel(seat=seat, thickness_mm=4.0), top=Panel(seat=seat, thickness_mm=5.0), lid=Lid(height_mm=24.0),
        keys=Keys(count=2, depth_mm=6.0), **more,
    )  # fmt: skip


@pytest.mark.parametrize(("seat", "proud"), [("applied", 4.0), ("rabbet", 0.0)])
def test_a_closed_box_is_sawn_open(seat: str, proud: float) -> None:
    """Common practice: glue-up, bottom edge trued, keys, panels on and flushed, edges profiled, then the lid."""
    made = plan(closed(seat, bottom_edge=OuterEdge(size_mm=1.5, when="before_lid")))
    order = ["box.glue", "box.true_edge.bottom", "box.key_flush", "box.panel_set.bottom", "box.edge.bottom_edge",
             "box.lid", "box.true_lid", "box.level", "box.finish"]  # fmt: skip
    assert [at(made, name) for name in order] == sorted(at(made, name) for name in order)
    lid = made.section.lid
    assert lid is not None
    assert step(made, "box.lid").value("fence") == pytest.approx(lid.kerf_low_mm + proud)
    assert not wrongly_glued(made)
    # A fence set as if nothing were on is found out by the box that rides on it.
    if proud:
        wrong = [replace(s, settings=tuple(replace(one, value=one.value - proud) if one.gauge == "fence" else one
                                           for one in s.settings)) if s.id == "box.lid" else s
                 for s in made.steps]  # fmt: skip
        assert wrongly_glued(made, wrong)


def test_the_other_order_is_possible_and_its_fence_follows() -> None:
    made = plan(closed("applied"))
    first = moved(made.steps, "box.lid", "box.panel.bottom")
    assert isinstance(first, tuple)
    job = revised(made.job, work=replace(made.job.work, moved=(Moved("box.lid", "box.panel.bottom"),)))
    other, lid = plan(job), made.section.lid
    assert lid is not None
    assert at(other, "box.lid") < at(other, "box.panel_set.bottom")
    assert step(other, "box.lid").value("fence") == pytest.approx(lid.kerf_low_mm)
    assert not wrongly_glued(other)


def test_a_panel_that_overhangs_goes_on_after_the_lid_is_off() -> None:
    """The box would not lie flat on its sides at the saw."""
    made = plan(revised(closed("applied"), bottom=Panel(seat="applied", thickness_mm=4.0, overhang_mm=6.0)))
    assert at(made, "box.panel_set.top") < at(made, "box.lid") < at(made, "box.panel_set.bottom")
    assert not wrongly_glued(made)


def test_a_panel_waits_for_its_own_glue_up_alone() -> None:
    job = revised(closed("groove"), top=Panel(thickness_mm=5.0, segments=Segments(count=8), height_mm=6.0))
    made = plan(job)
    glued = "segment.segment_glue.top"
    assert glued in [a.step for a in step(made, "box.panel.top").after]
    assert glued not in [a.step for a in step(made, "box.panel.bottom").after]


@pytest.mark.parametrize("seed", range(40))
def test_what_is_used_is_made_before(seed: int) -> None:
    made = plan(random_design(random.Random(4100 + seed)))
    there = {name: number for number, one in enumerate(made.steps) for name in one.makes}
    for number, one in enumerate(made.steps):
        late = [name for name in one.pieces if there.get(name, -1) > number]
        assert not late, f"{one.id} uses {late} before they are made"
        for after in one.after:
            assert at(made, after.step) < number


def test_a_blank_of_segments_is_larger_than_its_panel() -> None:
    """Glued up oversize, trued, then trimmed (common practice)."""
    job = revised(BOX, shape=Regular(8, 180.0, "across_flats"), bottom=Panel(segments=Segments(count=8)))
    made = plan(job)
    panel = made.section.panels[0]
    assert panel.segments is not None
    assert panel.segments.strip_mm == pytest.approx(panel.width_mm / 2 + 1.5)
    assert at(made, "segment.segment_glue.bottom") < at(made, "box.panel.bottom")
    assert "Flip the strip face for face" in how(step(made, "segment.segment.bottom"), MM)


def test_what_is_flushed_was_left_proud() -> None:
    made = plan(revised(BOX, cover=LiftOff(overhang_mm=0.0, fit_mm=0.0)))
    assert step(made, "box.panel.lid").value("stop") == pytest.approx(203.0)
    assert at(made, "box.panel.lid") < at(made, "box.panel_flush.lid")
    assert "press fit" in how(step(made, "box.panel.plug"), MM)
    split = plan(revised(BOX, cover=Split(overhang_mm=0.0)))
    assert at(split, "box.lid_fix") < at(split, "box.panel_flush.lid")
    over = plan(revised(BOX, cover=LiftOff(overhang_mm=4.0, over="all")))
    assert all(one.operation != "panel_flush" for one in over.steps)


def test_a_liner_shows_its_inside() -> None:
    made = plan(revised(BOX, bottom=Panel(), liner=Liner(height_mm=40.0)))
    assert at(made, "liner.finish_inside") < at(made, "liner.liner_fit")
    bevels = [how(one, MM) for one in made.steps if one.part == "liner" and one.operation == "bevel"]
    assert bevels
    assert all("show face" not in text.lower() and "outside face" in text.lower() for text in bevels)


@pytest.mark.parametrize(("kind", "burns"), [("oil", True), ("lacquer", False), ("shellac", False)])
def test_only_oil_sets_rags_on_fire(kind: str, burns: bool) -> None:
    made = plan(revised(BOX, work=Work(coating=Coating(kind=kind))))
    assert {("rags" in one.cautions) for one in made.steps if one.operation.startswith("finish")} == {burns}


def test_boards_are_resawn_on_the_band_saw() -> None:
    thick = revised(BOX, board=Board(length_mm=3000.0, width_mm=120.0, thickness_mm=24.0, resaw=True))
    assert step(plan(thick), "box.resaw").tool == "band_saw"
    low = tuple(replace(t, high_mm=100.0) if isinstance(t, BandSaw) else t for t in STARTING)
    assert step(plan(revised(thick, tools=low)), "box.resaw").tool == "table_saw"


@pytest.mark.parametrize(("thickness", "told"), [(24.0, True), (21.0, True), (14.0, False), (9.0, False)])
def test_stock_far_too_thick_is_resawn(thickness: float, told: bool) -> None:
    made = plan(revised(BOX, board=Board(length_mm=3000.0, width_mm=120.0, thickness_mm=thickness)))
    found = [finding for finding in made.findings if finding.code == "stock_far_thicker"]
    assert bool(found) == told
    if told:
        assert found[0].fixes[0].changes == (("stock.board.resaw", True),)


def test_slivers_are_mitered_by_hand() -> None:
    made = plan(revised(closed("groove"), strip=Strip(height_mm=2.0)))
    bevels = [one for one in made.steps if one.part == "strip" and one.operation == "bevel"]
    assert bevels
    assert {one.tool for one in bevels} == {"shooting_board"}
    assert all("plane_edge" in one.cautions and "guard" not in one.cautions for one in bevels)


def test_grooves_across_the_grain_are_guided() -> None:
    job = revised(BOX, bottom=Panel(), board=replace(BOX.stock.board, method="upright", width_mm=900.0))
    assert "miter gauge or a square push block" in how(step(plan(job), "box.groove.bottom"), MM)


def test_a_profile_on_a_sawn_box_begins_on_the_closed_box() -> None:
    def when(job: Job) -> str:
        edge = with_edge(job, "bottom_edge", "chamfer").design.section.bottom_edge
        assert edge is not None
        return edge.when

    assert when(revised(BOX, bottom=Panel(), lid=Lid())) == "before_lid"
    assert when(revised(BOX, bottom=Panel())) == "after_lid"
    assert when(revised(BOX, bottom=Panel(), lid=Lid(), slopes_deg=(6.0,))) == "after_lid"


def test_a_base_is_molded_before_it_goes_on() -> None:
    base = Panel(seat="applied", thickness_mm=8.0, overhang_mm=6.0)
    made = plan(revised(closed("groove"), bottom=base, bottom_edge=OuterEdge(kind="cove", size_mm=4.0)))
    order = ["box.lid", "box.panel.bottom", "box.edge.panel", "box.panel_set.bottom", "box.level"]
    found = [name for name in order if name in [one.id for one in made.steps]]
    edges = [one.id for one in made.steps if one.operation == "edge"]
    assert len(edges) == 1
    assert at(made, "box.panel.bottom") < at(made, edges[0]) < at(made, "box.panel_set.bottom")
    assert [at(made, name) for name in found] == sorted(at(made, name) for name in found)
    assert not isinstance(moved(made.steps, "box.try_edge", edges[0]), Refused)
    assert isinstance(moved(made.steps, edges[0], "box.finish"), Refused)


@pytest.mark.parametrize(("play", "told"), [(0.0, True), (0.49, True), (0.5, False), (2.0, False)])
def test_what_has_no_play_cannot_be_lifted_out(play: float, told: bool) -> None:
    thing = Thing(name="tiles", length_mm=60.0, width_mm=40.0, height_mm=20.0, play_mm=play)
    made = plan(revised(BOX, contents=(thing,)))
    found = [finding for finding in made.findings if finding.code == "contents_bind"]
    assert bool(found) == told
    for finding in found:
        mended = applied(made.job, finding.fixes[0].changes)
        assert all(other.code != "contents_bind" for other in plan(mended).findings)


def test_the_edge_that_rides_on_the_fence_is_trued() -> None:
    """A box that leans out is wider at its top: there the fence is, for keys and lid."""
    leaning = plan(revised(closed("groove"), slopes_deg=(8.0,), bottom=Panel(), top=None))
    ridden = {one.edge for one in leaning.steps if one.operation in ("keys", "lid")}
    trued = [one.names["panel"] for one in leaning.steps if one.operation == "true_edge"]
    assert ridden <= set(trued)
    assert trued[0] == "bottom"
    upright = plan(closed("groove"))
    assert "square" in how(step(upright, "box.try_bevel"), MM)
    hexagon = plan(revised(BOX, shape=Regular(6, 180.0, "across_flats")))
    assert "bevel gauge set to 120°" in how(step(hexagon, "box.try_bevel"), MM)


def codes(job: Job) -> set[str]:
    return {finding.code for finding in plan(job).findings}


@pytest.mark.parametrize(
    ("width", "tool", "passes"), [(70.0, "table_saw", 1), (120.0, "table_saw", 2), (160.0, "hand_saw", 1)]
)
def test_boards_are_resawn_only_where_the_blade_reaches(width: float, tool: str, passes: int) -> None:
    """Without a band saw: one pass up to the blade's height, two from both edges up to twice that, else by hand."""
    tools = tuple(one for one in STARTING if not isinstance(one, BandSaw))
    board = Board(length_mm=3000.0, width_mm=width, thickness_mm=24.0, resaw=True)
    sawn = step(plan(revised(BOX, board=board, tools=tools, height_mm=60.0)), "box.resaw")
    assert (sawn.tool, sawn.passes) == (tool, passes)
    assert (sawn.value("height") is not None) == (passes == 2)
    assert ("not_through" in sawn.cautions) == (passes == 2)


def test_a_board_no_saw_reaches_is_not_resawn() -> None:
    tools = tuple(one for one in STARTING if not isinstance(one, BandSaw | HandSaw))
    board = Board(length_mm=3000.0, width_mm=160.0, thickness_mm=24.0, resaw=True)
    assert "resaw_too_high" in codes(revised(BOX, board=board, tools=tools))
    assert "resaw_too_high" not in codes(revised(BOX, board=board))
    assert "resaw_too_high" not in codes(revised(BOX, board=replace(board, width_mm=150.0), tools=tools))


@pytest.mark.parametrize("placed", ["even", "few"])
def test_keys_keep_good_wood_between_them(placed: str) -> None:
    """Common practice: 8 mm of wood between two keys comes before few settings; what gives way is said."""
    low = revised(BOX, lid=Lid(height_mm=28.0), keys=Keys(count=3, depth_mm=6.0, placed=placed))
    made = plan(low).keys.sets[0]
    assert len(made.heights_mm) == 3
    assert all(b - a >= 3.0 + 8.0 - 1e-6 for a, b in zip(made.heights_mm, made.heights_mm[1:], strict=False))
    full = revised(low, height_mm=60.0, keys=Keys(count=5, depth_mm=6.0, placed=placed))
    assert "keys_near" in codes(full) or "keys_no_room" in codes(full)
    assert "keys_near" not in codes(low)


def test_veneer_keys_fit_their_cut() -> None:
    fine = replace(next(t for t in STARTING if isinstance(t, HandSaw)), kerf_mm=0.6)
    tools = (*(t for t in STARTING if not isinstance(t, HandSaw)), fine)
    for thick, told in ((0.6, False), (0.7, False), (0.5, False), (0.9, True)):
        job = revised(BOX, tools=tools, keys=Keys(kind="veneer", thickness_mm=thick, depth_mm=5.0))
        assert ("veneer_fit" in codes(job)) == told, thick


def test_a_cutter_chosen_is_the_one_the_step_names() -> None:
    disk = Bit(name="Slot cutter", cuts="slotting", width_mm=0.7)
    job = revised(BOX, tools=(*STARTING, disk), uses=replace(BOX.shop.uses, slot="Slot cutter"),
                  keys=Keys(kind="veneer", thickness_mm=0.7, depth_mm=5.0))  # fmt: skip
    slots = next(one for one in plan(job).steps if one.operation == "keys")
    assert slots.tool_name == "Slot cutter"
    assert "keys.thin" in slots.says


@pytest.mark.parametrize("seat", ["applied", "rabbet"])
def test_inlays_are_levelled_before_edges_are_profiled(seat: str) -> None:
    """Common practice: a bit's bearing or its cutter follows a face that is planed already."""
    job = revised(BOX, bottom=Panel(), top=Panel(seat=seat, thickness_mm=6.0), inlay=Inlay(round=True),
                  top_edge=OuterEdge(size_mm=1.5))  # fmt: skip
    made = plan(job)
    edges = [n for n, one in enumerate(made.steps) if one.operation == "edge"]
    assert edges
    assert at(made, "box.inlay_glue") < min(edges)
    assert "diameter" in setting(step(made, "box.inlay"), MM)
    lifted = plan(revised(BOX, cover=LiftOff(), inlay=Inlay(), bottom_edge=OuterEdge(size_mm=1.5)))
    assert at(lifted, "box.inlay_glue") < min(n for n, s in enumerate(lifted.steps) if s.operation == "edge")


@pytest.mark.parametrize(
    ("kind", "coats"), [("oil", "2 coats"), ("lacquer", "3 thin coats"), ("shellac", "4 thin")]
)
def test_the_finish_chosen_is_the_one_in_the_steps(kind: str, coats: str) -> None:
    made = plan(revised(BOX, work=Work(coating=Coating(kind=kind))))
    last = next(one for one in made.steps if one.operation == "finish")
    assert coats in how(last, MM)
    assert "Steam out dents" in how(last, MM)
    sheet = plan(revised(BOX, board=replace(BOX.stock.board, sheet=True)))
    assert "Steam out" not in how(next(one for one in sheet.steps if one.operation == "finish"), MM)


def test_feet_and_banding_count_in_the_height() -> None:
    bare = plan(revised(BOX, bottom=Panel()))
    assert bare.standing_mm == bare.section.finished_mm
    assert plan(revised(BOX, feet=Feet(height_mm=12.0))).standing_mm == pytest.approx(92.0)
    proud = revised(BOX, bottom=Panel(seat="applied", thickness_mm=6.0), feet=Feet(height_mm=12.0))
    assert plan(proud).standing_mm == pytest.approx(98.0)
    banded = plan(revised(BOX, board=replace(BOX.stock.board, sheet=True), banding_mm=0.5))
    levels = {piece.id.rpartition(".")[2] for piece in banded.pieces if piece.part == "band"}
    assert banded.standing_mm == pytest.approx(80.0 + 0.5 * len(levels))


@pytest.mark.parametrize(("high", "told"), [(40.0, True), (61.0, False)])
def test_a_lip_that_is_none(high: float, told: bool) -> None:
    job = revised(BOX, bottom=Panel(), top=Panel(), lid=Lid(height_mm=24.0), liner=Liner(height_mm=high))
    rim = plan(job).section.lid.lost_low_mm - job.design.floor_mm
    assert ("liner_no_lip" in codes(job)) == told == (high < rim + 2.0)
    assert "liner_no_lip" not in codes(revised(job, hinges=Hinges()))


@pytest.mark.parametrize(("leaf", "stopped"), [(9.0, False), (10.0, True)])
def test_a_leaf_may_come_near_the_inside(leaf: float, stopped: bool) -> None:
    job = revised(
        BOX, bottom=Panel(), top=Panel(), lid=Lid(height_mm=24.0), hinges=Hinges(leaf_mm=leaf, out_mm=1.5)
    )
    assert ("hinge_leaf_wide" in codes(job)) == stopped


@pytest.mark.parametrize(("wall", "stopped"), [(7.0, False), (6.5, True)])
def test_magnets_leave_a_millimetre_of_wall(wall: float, stopped: bool) -> None:
    job = revised(BOX, thicknesses_mm=(wall,), lid=Lid(height_mm=24.0), top=Panel(thickness_mm=3.0, depth_mm=3.0),
                  magnets=Magnets(wide_mm=5.0))  # fmt: skip
    assert ("magnet_wall_thin" in codes(job)) == stopped


@pytest.mark.parametrize(("sides", "told"), [(9, True), (8, False)])
def test_two_overhangs_want_sides_across(sides: int, told: bool) -> None:
    job = revised(
        BOX, shape=Regular(sides, 200.0, "across_flats"), cover=LiftOff(over="two", overhang_mm=5.0)
    )
    assert ("overhang_one" in codes(job)) == told


@pytest.mark.parametrize(("clean", "told"), [(0.5, True), (1.5, False)])
def test_a_band_saw_leaves_more_to_true(clean: float, told: bool) -> None:
    uses = replace(BOX.shop.uses, lid="Band saw")
    job = revised(BOX, bottom=Panel(), top=Panel(), lid=Lid(clean_up_mm=clean), uses=uses)
    assert ("lid_sawn_rough" in codes(job)) == told
    assert "lid_sawn_rough" not in codes(revised(job, uses=replace(uses, lid="")))


def test_a_round_hole_is_no_square_at_a_gable() -> None:
    """A hole of 40 in a 200 × 140 box under a 45° roof: its corners, were it square, would lie outside."""
    hole = Opening(kind="hole", side=1, up_mm=95.0, width_mm=30.0, high_mm=30.0)
    job = revised(BOX, height_mm=120.0, cover=Gable(pitch_deg=45.0, ridge="along"), openings=(hole,))
    told = [f for f in plan(job).findings if f.code == "opening_off_side"]
    assert not told


@pytest.mark.parametrize("sheet", [False, True])
def test_solid_panels_are_not_glued_all_round(sheet: bool) -> None:
    for seat in ("rabbet", "applied"):
        made = plan(revised(BOX, bottom=Panel(seat=seat, sheet=sheet)))
        assert ("long-grain edge" in how(step(made, "box.panel_set.bottom"), MM)) != sheet


def test_a_board_nobody_entered_is_as_large_as_it_takes() -> None:
    job = revised(BOX, as_needed=True)
    for change in ({"thicknesses_mm": (19.0,)}, {"slopes_deg": (12.0,)}, {"height_mm": 300.0}):
        assert not {f.code for f in plan(revised(job, **change)).findings} & {
            "board_too_thin",
            "board_too_narrow",
        }
    entered = applied(job, (("stock.board.width_mm", 90.0),))
    assert not entered.stock.as_needed
    assert "board_too_narrow" in codes(revised(entered, height_mm=300.0))


_MACHINES = re.compile(r"table saw|rip fence|\bsled\b|miter gauge|riving|\bblade\b")


@pytest.mark.parametrize("kind", ["miter_saw", "chamfer_bit", "shooting_board"])
@pytest.mark.parametrize("tools", [STARTING, (*STARTING, MiterSaw()), ()])
def test_a_shop_without_a_table_saw_hears_of_none(kind: str, tools: tuple[Tool, ...]) -> None:
    """Steps, their settings, cautions and reasons speak of the machines there are (common practice)."""
    for seed in range(40):
        job = random_design(random.Random(seed))
        saw = replace(job.shop.saw, kind=kind, table_saw=False)
        made = plan(revised(job, tools=tools, saw=saw))
        for one in made.steps if made.buildable else ():
            assert one.tool != "table_saw", (seed, one.id)
            told = [setting(one, MM), how(one, MM), *(why(after.why) for after in one.after)]
            told += [caution(key, "mm") for key in one.cautions if key != "manual"]
            by_hand = one.tool in (
                "hand_saw",
                "plow_plane",
                "by_hand",
                "shooting_board",
                "router_table",
                "chamfer_bit",
            )
            strange = [text for text in told if _MACHINES.search(text)] if by_hand else []
            assert not strange, (seed, one.id, one.tool, strange)


def test_a_saw_agrees_with_itself() -> None:
    without = applied(BOX, (("shop.saw.table_saw", False),))
    assert without.shop.saw.kind == "shooting_board"
    assert (
        applied(revised(BOX, tools=(MiterSaw(),)), (("shop.saw.table_saw", False),)).shop.saw.kind
        == "miter_saw"
    )
    assert applied(without, (("shop.saw.kind", "table_saw"),)).shop.saw.table_saw


@pytest.mark.parametrize(("across", "told"), [(200.0, True), (900.0, False)])
def test_short_sides_are_beveled_off_the_board(across: float, told: bool) -> None:
    saw = replace(BOX.shop.saw, kind="miter_saw")
    job = revised(
        BOX,
        saw=saw,
        shape=Regular(6, across, "across_flats"),
        board=replace(BOX.stock.board, length_mm=6000.0),
    )
    found = [f for f in plan(job).findings if f.code == "short_on_miter_saw"]
    assert bool(found) == told
    if told:
        assert "short_on_miter_saw" not in codes(applied(job, found[0].fixes[0].changes))


@pytest.mark.parametrize(("bit", "cuts"), [(6.0, 1), (6.05, 1), (5.0, 2), (4.0, 2)])
def test_a_bit_as_wide_as_the_panel_cuts_once(bit: float, cuts: int) -> None:
    tools = (Bit(name="Own bit", width_mm=bit),)
    job = revised(
        BOX,
        tools=tools,
        uses=Uses(groove="Own bit"),
        bottom=Panel(thickness_mm=6.0, fit_mm=0.1, depth_mm=4.0),
    )
    groove = step(plan(job), "box.groove.bottom")
    assert len(groove.values("fence")) == cuts
    assert ("groove.fitted" in groove.says) == (cuts == 1)


def test_measured_heights_are_believed_and_asked_about_once() -> None:
    """Body and lid 0.6 and 1.2 mm lower than planned: the liner holds the lid up by 1.8 mm, said once, mended once."""
    job = job_of(
        shape=Rectangle(200.0, 140.0), height_mm=90.0, thicknesses_mm=(9.0,), bottom=Panel(), top=Panel(),
        lid=Lid(height_mm=25.0), liner=Liner(height_mm=40.0),
    )  # fmt: skip
    room = plan(job).liner
    assert room is not None
    job = revised(job, liner=Liner(height_mm=40.0 + room.headroom_mm))
    assert "liner_holds_lid_up" not in {f.code for f in plan(job).findings}
    body, lid = plan(job).section.lid.body_mm, plan(job).section.lid.lid_mm
    measured = [Measured(f"body.{n}.height_mm", body - 0.6) for n in "ABCD"]
    measured += [Measured(f"lid.{n}.height_mm", lid - 1.2) for n in "ABCD"]
    job = replace(job, measured=tuple(measured))
    held = [f for f in plan(job).findings if f.code == "liner_holds_lid_up"]
    assert [round(f.numbers["over_mm"], 6) for f in held] == [1.8]
    found = list(troubles_of(job))
    assert sorted((one.trouble, round(one.by_mm, 6)) for one in found) == [("lid_low", 1.2), ("lid_off", 1.8)]
    ways = rescues(job, "lid_off", "", found[-1].by_mm)
    assert {one.key for one in ways} == {"strip_between", "lower_liner"}
    assert len(ways) == 2
    for one in ways:
        assert "liner_holds_lid_up" not in {f.code for f in plan(taken(job, one)).findings}, one.key


def test_a_base_and_a_top_are_profiled_on_both_edges_while_they_are_loose() -> None:
    """Common practice: long pieces, shaped before they go on; the upper edge is the one that meets a molded side."""
    job = revised(
        BOX, bottom=Panel(seat="applied", thickness_mm=12.0, overhang_mm=8.0),
        top=Panel(seat="applied", thickness_mm=10.0, overhang_mm=6.0), bottom_edge=OuterEdge(size_mm=3.0),
        base_edge=EdgeProfile(kind="ogee", size_mm=6.0), under_edge=EdgeProfile(kind="cove", size_mm=4.0),
    )  # fmt: skip
    made = plan(job)
    assert made.buildable
    names = [one.id for one in made.steps if one.operation == "edge"]
    assert {"box.edge.bottom_edge", "box.edge.base_edge", "box.edge.under_edge"} <= set(names)
    for part, edge in (("bottom", "base_edge"), ("bottom", "bottom_edge"), ("top", "under_edge")):
        assert (
            at(made, f"box.panel.{part}") < at(made, f"box.edge.{edge}") < at(made, f"box.panel_set.{part}")
        )
    base = next(piece for piece in made.pieces if piece.id == "panel.bottom")
    cut = {feature.face for feature in base.features if feature.kind == "edge"}
    assert cut == {"show", "inside"}
    titles = [title(step(made, name), MM) for name in names]
    assert len(set(titles)) == len(titles)


@pytest.mark.parametrize(
    ("size", "over", "code"), [(6.0, 6.0, ""), (6.5, 6.0, "edge_past_overhang"), (2.0, 0.0, "edge_covered")]
)
def test_the_other_edge_wants_an_overhang(size: float, over: float, code: str) -> None:
    bottom = Panel(seat="applied", thickness_mm=12.0, overhang_mm=over)
    found = codes(revised(BOX, bottom=bottom, base_edge=EdgeProfile(size_mm=size)))
    assert found & {"edge_past_overhang", "edge_covered"} == ({code} if code else set())


@pytest.mark.parametrize("play", [0.5, 2.0, 3.5])
def test_play_counts_in_the_height_too(play: float) -> None:
    job = revised(
        BOX, contents=(Thing(count=1, length_mm=60.0, width_mm=40.0, height_mm=30.0, play_mm=play),)
    )
    high = suiting_height(job.design)
    assert plan(revised(job, height_mm=high)).section.room_mm == pytest.approx(30.0 + play)
