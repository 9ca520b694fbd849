"""What would be found out at the saw is said as it is planned, and mended by what is offered, in both rules."""

import pytest

from peristyle.model.design import (
    CornerBlocks,
    Dividers,
    DropIn,
    FalseFloor,
    Fillets,
    Flat,
    Gable,
    Insert,
    Lid,
    LiftOff,
    Liner,
    Outline,
    Panel,
    Rectangle,
    Seasons,
    Sliding,
    Split,
    Strip,
    Thing,
)
from peristyle.model.job import Job, OwnSpecies, revised
from peristyle.planning.mending import mended
from peristyle.planning.plan import Plan, plan
from support.plain import BOX as BASE
from support.telling import with_fix

JAR = Thing(name="jar", length_mm=40.0, width_mm=30.0, height_mm=50.0)
WALNUT = Panel(seat="applied", thickness_mm=6.0, wood="walnut")
IRREGULAR = Outline((160.0, 130.0, None, None), (95.0, 90.0, 82.0, None))
# Each with the finding that it must be told by; the ones with nothing to offer but another box say so in words.
CASES: dict[str, Job] = {
    "two_lids": revised(BASE, cover=Flat(), lid=Lid()),
    "top_under_lid": revised(BASE, cover=Flat(), top=Panel()),
    "gable_needs_rectangle": revised(BASE, shape=IRREGULAR, cover=Gable()),
    "gable_leaves_no_wall": revised(BASE, cover=Gable(pitch_deg=60.0)),
    "lid_cannot_slide": revised(BASE, shape=IRREGULAR, cover=Sliding(side=1)),
    "lid_hole_wide": revised(BASE, cover=DropIn(hole_mm=90.0)),
    "lid_no_grip": revised(BASE, cover=Insert()),
    "lid_lies_loose": revised(BASE, cover=Flat()),
    "lid_knocks_loose": revised(BASE, cover=LiftOff(), contents=(JAR,)),
    "plug_no_room": revised(BASE, shape=Rectangle(240.0, 28.0), cover=LiftOff()),
    "split_leaves_none": revised(BASE, cover=Split(fixed_mm=400.0)),
    "strip_without_lid": revised(BASE, strip=Strip()),
    "false_floor_alone": revised(BASE, bottom=None, false_floor=FalseFloor()),
    "ledge_narrow": revised(BASE, false_floor=FalseFloor(ledge_mm=1.0)),
    "false_floor_small": revised(BASE, false_floor=FalseFloor(hole_mm=90.0)),
    "false_floor_high": revised(BASE, false_floor=FalseFloor(height_mm=80.0)),
    "false_floor_mouth": revised(BASE, slopes_deg=(-12.0,), false_floor=FalseFloor()),
    "false_floor_dividers": revised(BASE, dividers=Dividers(across=2, height_mm=30.0), false_floor=FalseFloor()),
    "false_floor_blocks": revised(BASE, corner_blocks=CornerBlocks(), false_floor=FalseFloor()),
    "false_floor_shut": revised(BASE, false_floor=FalseFloor(), fillets=Fillets(height_mm=6.0)),
    "lip_wedges": revised(BASE, slopes_deg=(9.0,), lid=Lid(), top=Panel(), liner=Liner(height_mm=62.0)),
    "corner_block_meets": revised(BASE, corner_blocks=CornerBlocks(), shape=Rectangle(1.0, 1.0), contents=(JAR,)),
    "false_floor_no_grip": revised(BASE, false_floor=FalseFloor(hole_mm=0.0)),
    "seasons_out_of_order": revised(BASE, seasons=Seasons(now=30.0)),
    "wood_unknown": revised(BASE, seasons=Seasons()),
    "panel_swells": revised(BASE, bottom=Panel(wood="beech", play_mm=0.1), seasons=Seasons(driest=30.0, dampest=90.0)),
    "panel_shrinks_out": revised(BASE, bottom=Panel(wood="beech", depth_mm=2.0, play_mm=1.0),
                                 seasons=Seasons(driest=15.0)),
    "applied_moves": revised(BASE, bottom=WALNUT, seasons=Seasons()),
    "panel_rolled_in": revised(BASE, slopes_deg=(15.0,)),
}  # fmt: skip


def codes(made: Plan) -> list[str]:
    return [finding.code for finding in made.findings]


@pytest.mark.parametrize("code", sorted(CASES))
@pytest.mark.parametrize("units", ["mm", "in"])
def test_it_is_said_and_mended(code: str, units: str) -> None:
    made = plan(revised(CASES[code], units="in" if units == "in" else "mm"))
    (finding,) = [one for one in mended(made) if one.code == code][:1]
    assert finding.fixes
    for fix in finding.fixes:
        after = codes(plan(with_fix(made.job, fix)))
        assert after.count(code) < codes(made).count(code), fix


@pytest.mark.parametrize("grain", ["length", "width"])
def test_a_panel_glued_on_moves_across_its_own_grain(grain: str) -> None:
    """Source: the handbook's ΔC, here by hand: width across the grain × coefficient × change of moisture content."""
    for shape, sizes in ((Rectangle(240.0, 160.0), (240.0, 160.0)), (IRREGULAR, None)):
        bottom = Panel(seat="applied", wood="pear", grain="width" if grain == "width" else "length")
        air = Seasons(by="moisture", now=8.0, driest=6.0, dampest=12.0)
        job = revised(BASE, shape=shape, bottom=bottom, seasons=air,
                      species=(OwnSpecies(name="pear", tangential=0.003),))  # fmt: skip
        made = plan(job)
        (found,) = [one for one in made.findings if one.code == "applied_moves"]
        panel = made.section.panels[0]
        along, across = sizes or (panel.length_mm, panel.width_mm)
        wide = across if grain == "length" else along
        assert found.numbers["moves_mm"] == pytest.approx(wide * 0.003 * 6.0)


def test_lining_takes_its_share_of_what_a_plug_leaves() -> None:
    bare, lined = (
        plan(revised(BASE, cover=LiftOff(), contents=(JAR,), lining_mm=thick)) for thick in (0.0, 3.0)
    )
    play = [
        next(f.numbers["play_mm"] for f in made.findings if f.code == "lid_knocks_loose")
        for made in (bare, lined)
    ]
    assert play[0] - play[1] == pytest.approx(6.0)
    (fix,) = next(f.fixes for f in lined.findings if f.code == "lid_knocks_loose")
    assert "contents_too_tall" not in codes(plan(with_fix(lined.job, fix)))
