"""What nothing said before: mouths, sealed boxes, thin wood, lining on floor and lid, eaves below the floor."""

import pytest

from peristyle.core.lengths import Format
from peristyle.model.design import (
    Dividers,
    House,
    Keys,
    Lid,
    Liner,
    Opening,
    Panel,
    Rectangle,
    Regular,
    Thing,
    replace,
)
from peristyle.model.job import Job, Saw, job_of, revised
from peristyle.model.tools import HandSaw
from peristyle.planning.findings import Finding
from peristyle.planning.mending import mended
from peristyle.planning.plan import plan
from peristyle.words.steps import how
from support.telling import told, with_fix

BOX = job_of(shape=Rectangle(200.0, 140.0), height_mm=80.0, bottom=Panel())
LEANING_IN = revised(BOX, slopes_deg=(-12.0,), shape=Rectangle(240.0, 200.0))


def codes(job: Job) -> dict[str, Finding]:
    return {finding.code: finding for finding in plan(job).findings}


def test_what_cannot_pass_a_mouth_is_said() -> None:
    found = codes(revised(LEANING_IN, liner=Liner(height_mm=40.0)))["cannot_pass_mouth"]
    assert told(found).startswith("The liner")
    assert found.numbers["over_mm"] > 10
    assert told(codes(revised(LEANING_IN, dividers=Dividers(across=1)))["cannot_pass_mouth"]).startswith(
        "A divider"
    )
    # Between walls that stand aslant to it a divider goes in neither from above nor as they are closed.
    hexagon = revised(LEANING_IN, shape=Regular(6, 120.0), dividers=Dividers(across=1, along=2))
    assert codes(hexagon)["cannot_pass_mouth"].severity == "stop"
    assert codes(revised(LEANING_IN, dividers=Dividers(across=1)))["cannot_pass_mouth"].severity == "caution"
    wide = Thing(name="plates", length_mm=195.0, width_mm=150.0, height_mm=20.0)
    narrow = replace(wide, count=20, length_mm=30.0, width_mm=30.0)
    octagon = revised(LEANING_IN, shape=Regular(8, 100.0, "outside"), contents=(wide,))
    assert "cannot_pass_mouth" in codes(octagon)
    assert "cannot_pass_mouth" not in codes(revised(LEANING_IN, contents=(narrow,)))
    for upright_or_out in (0.0, 12.0):
        job = revised(LEANING_IN, slopes_deg=(upright_or_out,), liner=Liner(height_mm=40.0))
        assert "cannot_pass_mouth" not in codes(job)


def test_a_box_that_nothing_opens() -> None:
    sealed = revised(BOX, top=Panel())
    assert codes(sealed)["sealed"].severity == "caution"
    full = revised(sealed, liner=Liner())
    assert codes(full)["sealed"].severity == "stop"
    finding = next(f for f in mended(plan(full)) if f.code == "sealed")
    assert len(finding.fixes) == 2
    for fix in finding.fixes:
        assert "sealed" not in codes(with_fix(full, fix))
    assert "sealed" not in codes(revised(sealed, lid=Lid()))


@pytest.mark.parametrize(
    ("job", "code"),
    [
        (revised(BOX, bottom=Panel(height_mm=0.2)), "groove_edge_thin"),
        (revised(BOX, lid=Lid(height_mm=0.5)), "lid_too_low"),
        (revised(BOX, lid=Lid(height_mm=66.8)), "lid_line_near_groove"),
        (revised(BOX, top=Panel(), lid=Lid(height_mm=10.2)), "lid_line_near_groove"),
        (revised(BOX, bottom=Panel(thickness_mm=2.0)), "thinner_than_blade"),
        (revised(BOX, keys=Keys(thickness_mm=0.7)), "thinner_than_blade"),
        (revised(BOX, dividers=Dividers(thickness_mm=2.0)), "thinner_than_blade"),
        (revised(BOX, shape=House(200.0, 60.0, 45.0, overhang_mm=90.0)), "eaves_below_floor"),
    ],
)
def test_thin_wood_and_low_eaves(job: Job, code: str) -> None:
    finding = next(f for f in mended(plan(job)) if f.code == code)
    assert finding.fixes, code
    assert code not in codes(with_fix(job, finding.fixes[0]))


def test_lining_lies_on_the_floor_and_under_the_lid_too() -> None:
    thing = Thing(length_mm=40.0, width_mm=40.0, height_mm=60.0)
    bare = plan(revised(BOX, contents=(thing,))).contents
    open_box = plan(revised(BOX, contents=(thing,), lining_mm=2.0)).contents
    with_lid = plan(revised(BOX, contents=(thing,), lining_mm=2.0, lid=Lid())).contents
    assert bare.room_mm - open_box.room_mm == pytest.approx(2.0)
    assert bare.room_mm - with_lid.room_mm == pytest.approx(
        2.0 + 3.0
    )  # nothing over it to line; the lid's own loss
    closed = revised(BOX, contents=(thing,), lid=Lid(), top=Panel())
    lined = plan(revised(closed, lining_mm=2.0)).contents
    assert plan(closed).contents.room_mm - lined.room_mm == pytest.approx(4.0)


@pytest.mark.parametrize(
    ("job", "code", "operation", "said"),
    [
        (revised(BOX, slopes_deg=(50.0,), lid=Lid(), top=Panel()), "lid_past_stop", "lid", "with a hand saw"),
        (revised(BOX, slopes_deg=(50.0,)), "groove_past_stop", "groove", "along a wedge of 50°"),
        (
            revised(BOX, shape=Regular(6, 240.0, "across_flats"), dividers=Dividers(across=4)),
            "dado_past_stop",
            "dado",
            "chop the dado",
        ),
    ],
)
def test_no_card_sets_a_blade_further_than_the_saw_tilts(
    job: Job, code: str, operation: str, said: str
) -> None:
    """What the finding offers the card says too; with a saw that tilts so far neither says a word."""
    made = plan(job)
    assert code in codes(job)
    leaning = [step for step in made.steps if step.operation == operation and abs(step.amount("tilt")) > 45.0]
    assert leaning
    assert all(said in how(step, Format("mm")) for step in leaning)
    others = [step for step in made.steps if step not in leaning and step.operation != "try_groove"]
    assert not any(said in how(step, Format("mm")) for step in others)
    able = revised(job, saw=Saw(stop_deg=62.0))
    assert code not in codes(able)
    assert not any(said in how(step, Format("mm")) for step in plan(able).steps)


def test_a_lid_past_the_saws_tilt_is_freed_by_hand() -> None:
    job = revised(BOX, slopes_deg=(50.0,), lid=Lid(), top=Panel(), tools=(HandSaw(),))
    offered = next(fix for fix in codes(job)["lid_past_stop"].fixes if fix.key == "use_hand_saw")
    mended_job = with_fix(job, offered)
    assert "lid_past_stop" not in codes(mended_job)
    assert [step.tool for step in plan(mended_job).steps if step.operation == "lid"] == ["hand_saw"]


def test_what_a_finding_says_is_done_the_steps_do() -> None:
    """The last side of a leaning ring, a groove under eaves, leaves of lining over a hole, a cradle tipped far."""
    told = {
        "glue": (revised(BOX, slopes_deg=(18.0,), shape=Regular(6, 90.0)), "put that side on straight"),
        "groove": (revised(BOX, shape=House(160.0, 90.0, 35.0, overhang_mm=14.0)), "plug it where it shows"),
        "lining_set": (revised(BOX, lining_mm=3.0, openings=(Opening(side=0),)), "cut through it"),
        "keys": (revised(BOX, keys=Keys(slant_deg=26.0)), "clamp it to the cradle"),
    }
    for operation, (job, said) in told.items():
        found = [how(step, Format("mm")) for step in plan(job).steps if step.operation == operation]
        assert any(said in text for text in found), operation
        plain = plan(revised(BOX, keys=Keys(), lining_mm=3.0))
        assert not any(said in how(step, Format("mm")) for step in plain.steps if step.operation == operation)


def test_a_bevel_that_no_bit_gives_is_shot_as_its_finding_says() -> None:
    """Source: common practice. Of the two ring corners of a house one has a bit here and the others have none."""
    job = revised(BOX, shape=House(160.0, 90.0, 30.0), saw=Saw(kind="chamfer_bit", stops_deg=(30.0, 45.0)))
    assert "bevel_not_given" not in codes(job)  # the ridge of 30° bevels at 30°, the eaves at 30° too
    none = revised(job, saw=Saw(kind="chamfer_bit", stops_deg=(45.0,)))
    assert "bevel_not_given" in codes(none)
    tools = {round(step.amount("tilt")): step.tool for step in plan(none).steps if step.operation == "bevel"}
    assert tools == {45: "chamfer_bit", 30: "shooting_board"}
    shot = next(
        step for step in plan(none).steps if step.operation == "bevel" and step.tool == "shooting_board"
    )
    assert "Saw near the line by hand" in how(shot, Format("mm"))
    assert "router" not in shot.cautions


def test_a_cradle_is_spoken_of_only_where_one_holds_the_box() -> None:
    sawn, by_hand = Keys(slant_deg=26.0), Keys(kind="veneer", thickness_mm=0.6, slant_deg=26.0)
    assert "key_tipped_far" in codes(revised(BOX, keys=sawn))
    assert "key_tipped_far" not in codes(revised(BOX, keys=by_hand, tools=(HandSaw(),)))
