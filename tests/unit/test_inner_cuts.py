"""The operations for dividers, a liner and segments: settings that make the parts the plan says."""

import json
import math

import pytest
from msgspec.structs import replace
from test_cli import run

from peristyle.core.lengths import Format
from peristyle.drawing.operations import operation_drawing
from peristyle.model.design import Dividers, Lid, Liner, Panel, Rectangle, Regular, Segments, Split
from peristyle.model.job import Job, MachineKind, Saw, job_of, revised
from peristyle.model.stock import Board
from peristyle.planning.plan import plan
from peristyle.reference.cautions import CAUTIONS, caution
from peristyle.words.steps import glue_order
from support.schemas import check_plan
from support.telling import done_so

BOX = job_of(
    shape=Rectangle(200.0, 120.0, "inside"),
    height_mm=70.0,
    thicknesses_mm=(10.0,),
    board=Board(thickness_mm=10.0),
    saw=Saw(kerf_mm=3.0),
    dividers=Dividers(across=2, along=1, thickness_mm=4.0, dado_mm=3.0),
)


def test_dadoes_are_set_from_the_side_s_start() -> None:
    cuts = [c for c in plan(BOX).steps if c.operation == "dado"]
    # A and C share their two settings, B and D one: 200 = 3 rooms and 2 × 4, 120 = 2 rooms and 4.
    assert [(c.pieces, round(c.amount("stop"), 6)) for c in cuts] == [
        (("side.A", "side.C"), 74.0),
        (("side.A", "side.C"), 142.0),
        (("side.B", "side.D"), 68.0),
    ]
    # A dado of 4 with a blade of 3: two passes, the second 1 further.
    assert cuts[0].values("stop") == pytest.approx((74.0, 75.0))
    assert {c.value("height") for c in cuts} == {3.0}


def test_halving_slots_meet_at_half_the_height() -> None:
    found = plan(BOX)
    across, along = (c for c in found.steps if c.operation == "halve")
    assert ("top edge" in done_so(across), "foot" in done_so(along)) == (True, True)
    assert across.value("height") == along.value("height") == 20.0
    assert across.values("stop") == pytest.approx((3 + 58, 3 + 59))
    assert len(along.values("stop")) == 4
    lengths = [c.value("stop") for c in found.steps if c.operation == "divider"]
    assert lengths == [126.0, 206.0]


@pytest.mark.parametrize(
    ("job", "before", "after"),
    [
        (BOX, ["halve", "glue"], ["finish"]),
        (revised(BOX, cover=Split()), ["halve", "glue"], ["lid_fix"]),
        (revised(BOX, lid=Lid()), ["halve", "lid"], ["finish"]),
        (revised(BOX, liner=Liner(thickness_mm=6.0, height_mm=50.0)), ["halve", "liner_fit"], ["finish"]),
    ],
)
def test_dividers_go_in_from_above(job: Job, before: list[str], after: list[str]) -> None:
    made = plan(job)
    order = [step.operation for step in made.steps]
    at = order.index("divider_fit")
    assert all(order.index(one) < at for one in before)
    assert all(order.index(one) > at for one in after)
    fit = made.steps[at]
    by_id = {step.id: step.operation for step in made.steps}
    assert set(before) <= {by_id[one.step] for one in fit.after}
    assert set(fit.pieces) == {piece.id for piece in made.pieces if piece.part == "divider"}
    # What goes in first is slotted from above: a slot open to the floor could not take the others in.
    high = max(y for one in made.pieces if one.part == "divider" for _, y in one.show_face)
    open_above = {
        one.id.split(".")[1]: max(y for cut in one.features for _, y in cut.path or cut.outline) >= high
        for one in made.pieces if one.part == "divider"
    }  # fmt: skip
    first = "across" if "those across first, then those along" in done_so(fit) else "along"
    assert open_above == {"across": first == "across", "along": first == "along"}
    # They reach 40 mm up: a dado that ended there could not take them in from above.
    for step in made.steps:
        if step.operation == "dado":
            assert "runs on to the top edge" in done_so(step)
    picture = operation_drawing(made, fit, Format("mm"))
    assert sum(getattr(shape, "role", "") == "panel" and getattr(shape, "fill", "") == "solid"
               for shape in picture.shapes) == 3  # fmt: skip


@pytest.mark.parametrize(
    ("job", "before", "told"),
    [
        (revised(BOX, slopes_deg=(-12.0,)), "glue", "The dividers go in with it"),
        (revised(BOX, slopes_deg=(-12.0,), lid=Lid(), top=Panel()), "glue", "The dividers go in with it"),
        (revised(BOX, slopes_deg=(-12.0,), liner=Liner(height_mm=50.0)), "liner_fit", "piece by piece"),
    ],
)
def test_what_does_not_pass_the_mouth_goes_in_with_the_walls(job: Job, before: str, told: str) -> None:
    """Wider at the foot than at the mouth: as the finding says, so the steps do."""
    made = plan(job)
    assert "cannot_pass_mouth" in [finding.code for finding in made.findings]
    order = [step.operation for step in made.steps]
    assert "divider_fit" not in order
    held = made.steps[order.index(before)]
    by_id = {step.id: step.operation for step in made.steps}
    assert {"divider", "halve"} <= {by_id[one.step] for one in held.after}
    assert max(at for at, name in enumerate(order) if name == "halve") < order.index(before)
    assert told in done_so(held)
    assert "drops in" not in done_so(held)
    assert "spacer" not in done_so(held)
    assert not any("from there" in done_so(step) for step in made.steps if step.operation == "dado")
    out = plan(revised(job, slopes_deg=(12.0,)))
    assert "divider_fit" in [step.operation for step in out.steps]


@pytest.mark.parametrize(("kind", "cuts"), [("table_saw", 3), ("chamfer_bit", 2), ("shooting_board", 2)])
def test_ends_are_told_apart_by_their_stop_alone(kind: MachineKind, cuts: int) -> None:
    """Sides of two lengths have two stops at the saw; a bit or a block has none, and one setting serves all."""
    made = plan(
        revised(BOX, dividers=None, saw=Saw(kind=kind, stops_deg=() if kind == "table_saw" else (45.0,)))
    )
    beveled = [step for step in made.steps if step.operation == "bevel"]
    assert len(beveled) == cuts
    assert sorted(edge for step in beveled for edge in step.makes) == sorted(
        f"side.{side}.{end}" for side in "ABCD" for end in ("start", "end")
    )


def test_a_slanted_dado_is_wider_on_the_face() -> None:
    six = revised(BOX, shape=Regular(6, 240.0, "across_flats"), dividers=Dividers(across=4))
    tilted = [c for c in plan(six).steps if c.operation == "dado" and c.value("tilt")]
    assert {round(abs(c.amount("tilt")), 6) for c in tilted} == {60.0}
    assert {c.amount("tilt") > 0 for c in tilted} == {True, False}
    spread = tilted[0].values("stop")[1] - tilted[0].values("stop")[0]
    assert spread == pytest.approx((4.0 - 3.0) / math.cos(math.radians(60)))


def test_the_liner_has_its_own_saw_work() -> None:
    lined = revised(
        BOX, dividers=replace(BOX.design.inside.dividers, across=1, along=0), liner=Liner(thickness_mm=6.0)
    )
    found = plan(lined)
    own = [c for c in found.steps if c.part == "liner"]
    assert [c.operation for c in own if c.operation != "crosscut"] == [
        "rip", "bevel", "bevel", "bevel", "dado", "finish_inside", "liner_fit",
    ]  # fmt: skip
    assert found.liner is not None
    wall = found.liner.ring.sides[0]
    assert (
        next(c for c in own if c.operation == "crosscut" and "liner.A" in c.pieces).value("stop")
        == wall.outside_mm
    )
    assert [c.operation for c in found.steps if c.part == "box"].count("dado") == 0


@pytest.mark.parametrize(("style", "edges"), [("pie", 3), ("ring", 4)])
def test_segments_come_off_a_strip_and_are_glued_to_two_halves(style: str, edges: int) -> None:
    bottom = Panel(segments=Segments(count=8, style=style, ring_mm=30.0))  # type: ignore[arg-type]
    found = plan(revised(BOX, shape=Regular(8, 200.0, "across_flats"), dividers=None, bottom=bottom))
    assert [f.code for f in found.findings if f.code == "segment_ring_open"] == ["segment_ring_open"] * (
        edges == 4
    )
    cut, glue = (c for c in found.steps if c.part == "segment")
    part = found.section.panels[0].segments
    assert part is not None
    assert (cut.value("swing"), cut.passes, cut.value("stop")) == (22.5, 8, part.outer_mm)
    assert "small_piece" in cut.cautions
    # 16 cuts, each 0.1° off (common practice): 1.6° at the last joint, as wide as the radius makes it.
    gap = part.outer_mm / 2 / math.sin(math.pi / 8) * math.radians(1.6)
    assert Format("mm").length(gap, unit=True) in done_so(glue)
    assert (
        done_so(glue).index("Glue neighbours")
        < done_so(glue).index("true the two")
        < done_so(glue).index("last joints")
    )
    order = [c.operation for c in found.steps]
    assert order.index("segment_glue") < order.index("panel") < order.index("glue")
    drawn = operation_drawing(found, glue, Format("mm"))
    assert sum(len(s.points) == edges for s in drawn.shapes if getattr(s, "fill", "") == "tint") == 8


def test_every_step_has_a_picture_words_and_cautions(capsys, tmp_path) -> None:  # type: ignore[no-untyped-def]
    path = str(tmp_path / "b.peristyle")
    words = ["--sides", "6", "--across-flats", "240", "--height", "80", "--bottom", "--segments", "9", "--liner",
             "5x50", "--dividers", "2x2", "--divider-height", "30", "--slope", "4", "--thickness", "10", "--units",
             "mm"]  # fmt: skip
    assert run(capsys, "new", path, *words)[0] == 0
    data = json.loads(run(capsys, "plan", path, "--json")[1])
    check_plan(data)
    assert {s["id"].split(".")[0] for s in data["steps"]} == {"box", "liner", "divider", "segment"}
    for cut in data["steps"]:
        assert cut["cautions"][-1] == "manual"
        assert set(cut["cautions"]) <= set(CAUTIONS)
        assert cut["setting"]
    assert {d["side"] for piece in data["dividers"] for d in piece["dadoes"]} == set("ABCDEF")


def test_cautions_speak_the_maker_s_units() -> None:
    assert "300\u202fmm" in caution("rip", "mm")
    assert "12\u202fin" in caution("rip", "in")
    assert all("mm" not in caution(key, "in") for key in CAUTIONS)


@pytest.mark.parametrize("count", [3, 5, 8, 9, 12, 24])
def test_the_order_of_glue_up_adds_up(count: int) -> None:
    order = glue_order(count)
    groups = [
        [int(n) for n in step.split(" groups of ")[1].split(" + ")] for step in order if " groups of " in step
    ]
    sizes = [1] * count
    for joined in groups:
        assert sum(joined) == count
        # Every group is one or two neighbours of the step before, glued.
        walk = iter(sizes)
        for size in joined:
            first = next(walk)
            assert size == first or size == first + next(walk)
        sizes = joined
    assert len(sizes) == 2
    assert abs(sizes[0] - sizes[1]) <= 1
    assert ("true the two straight" in order[-2]) == (count % 2 == 0)
