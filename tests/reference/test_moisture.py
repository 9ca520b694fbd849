"""Wood and the air's damp, against the handbook's values.

Source: Wood Handbook (US Forest Products Laboratory, FPL-GTR-282, 2021), chapter 4 (equilibrium moisture content) and
chapter 13 (coefficients for dimensional change). All values are from memory: no handbook was at hand.
"""

import pytest

from peristyle.core.moisture import equilibrium_percent
from peristyle.model.addresses import applied
from peristyle.model.design import (
    DropIn,
    FalseFloor,
    LiftOff,
    Panel,
    Rectangle,
    Regular,
    Seasons,
    Sliding,
    replace,
)
from peristyle.model.job import OwnSpecies, job_of, revised
from peristyle.model.stock import Board
from peristyle.planning.plan import plan
from peristyle.reference.species import SPECIES

# The handbook's own table at 21.1 °C (70 °F), in whole tenths.
TABLE = {30.0: 6.2, 50.0: 9.2, 65.0: 12.0, 80.0: 16.0}

# Total shrinkage from green to oven-dry (%, radial and tangential) of the single domestic species, and the coefficients
# that follow from it: C = S / (3000 − 20·S).
SHRINKAGE = {
    "black cherry": (3.7, 7.1), "black walnut": (5.5, 7.8), "white ash": (4.9, 7.8), "sugar maple": (4.8, 9.9),
    "red maple": (4.0, 8.2), "american beech": (5.5, 11.9), "yellow birch": (7.3, 9.5),
    "eastern white pine": (2.1, 6.1), "yellow-poplar": (4.6, 8.2),
}  # fmt: skip

BOX = job_of(
    shape=Rectangle(300.0, 220.0, "inside"), height_mm=90.0, thicknesses_mm=(12.0,),
    bottom=Panel(wood="black cherry", depth_mm=5.0, play_mm=1.0), seasons=Seasons(by="moisture", now=9.0, driest=6.0,
    dampest=13.0),
)  # fmt: skip


@pytest.mark.parametrize("humidity", TABLE)
def test_equilibrium_as_in_the_handbooks_table(humidity: float) -> None:
    assert equilibrium_percent(21.1, humidity) == pytest.approx(TABLE[humidity], abs=0.06)


def test_equilibrium_rises_with_the_damp_and_falls_with_warmth() -> None:
    for warm in (5.0, 20.0, 35.0):
        rising = [equilibrium_percent(warm, humidity) for humidity in range(0, 100, 5)]
        assert rising == sorted(rising)
        assert rising[0] == 0.0
    assert equilibrium_percent(30.0, 50.0) < equilibrium_percent(10.0, 50.0)


@pytest.mark.parametrize("name", SHRINKAGE)
def test_coefficients_follow_from_the_whole_shrinkage(name: str) -> None:
    known = SPECIES[name]
    for shrinkage, coefficient in zip(SHRINKAGE[name], (known.radial, known.tangential), strict=True):
        assert shrinkage / (3000 - 20 * shrinkage) == pytest.approx(coefficient, abs=6e-6)


def test_what_strays_from_its_own_shrinkage_is_marked() -> None:
    oak = SPECIES["northern red oak"]
    assert pytest.approx(0.00304, abs=5e-6) == 8.6 / (3000 - 20 * 8.6)
    assert oak.tangential == 0.00294
    assert oak.doubtful


def test_a_panel_moves_by_its_width_across_the_grain() -> None:
    moved = plan(BOX).section.movements[0]
    wide = 220.0 + 2 * (5.0 - 1.0)
    # Change = width × C × change in moisture content; half of it on each side.
    assert moved.across_mm == pytest.approx(wide)
    assert moved.swells_mm == pytest.approx(wide * 0.00248 * 4.0)
    assert moved.shrinks_mm == pytest.approx(wide * 0.00248 * 3.0)
    assert moved.play_damp_mm == pytest.approx(1.0 - moved.swells_mm / 2)
    assert moved.held_dry_mm == pytest.approx(5.0 - 1.0 - moved.shrinks_mm / 2)
    quartered = plan(
        revised(BOX, bottom=replace(BOX.design.section.bottom, sawn="quarter"))
    ).section.movements[0]
    assert quartered.swells_mm == pytest.approx(wide * 0.00126 * 4.0)
    turned = plan(revised(BOX, bottom=replace(BOX.design.section.bottom, grain="width"))).section.movements[0]
    assert turned.across_mm == pytest.approx(300.0 + 2 * 4.0)


def test_the_same_range_the_other_way_round_moves_as_far() -> None:
    damp = revised(BOX, seasons=Seasons(by="moisture", now=6.0, driest=6.0, dampest=12.0))
    dry = revised(BOX, seasons=Seasons(by="moisture", now=12.0, driest=6.0, dampest=12.0))
    assert plan(damp).section.movements[0].swells_mm == pytest.approx(
        plan(dry).section.movements[0].shrinks_mm
    )


def test_upright_grain_opens_the_ring_and_leaves_the_panel() -> None:
    """Inside 200 mm, cherry, flat sawn, 4 % drier: the ring closes by 1.98 mm along the panel's grain."""
    upright = revised(
        BOX, shape=Rectangle(200.0, 200.0, "inside"), board=Board(method="upright", wood="cherry", width_mm=900.0),
        seasons=Seasons(by="moisture", now=10.0, driest=6.0, dampest=10.0),
    )  # fmt: skip
    moved = plan(upright).section.movements[0]
    assert moved.ring_closes_mm == pytest.approx(1.98, abs=0.006)
    sheet = revised(upright, bottom=replace(BOX.design.section.bottom, sheet=True))
    assert plan(sheet).section.movements[0].play_dry_mm == pytest.approx(1.0 - 1.984 / 2, abs=1e-3)


def test_an_unknown_wood_is_said_and_never_guessed() -> None:
    for wood in ("", "driftwood"):
        made = plan(revised(BOX, bottom=replace(BOX.design.section.bottom, wood=wood)))
        assert "wood_unknown" in {finding.code for finding in made.findings}
        assert not made.section.movements
    own = revised(BOX, bottom=replace(BOX.design.section.bottom, wood="Driftwood"),
                  species=(OwnSpecies(name="driftwood", radial=0.001, tangential=0.002),))  # fmt: skip
    assert plan(own).section.movements[0].swells_mm == pytest.approx(228.0 * 0.002 * 4.0)


def test_a_plug_and_a_loose_floor_are_given_the_room_they_want() -> None:
    """Width across the grain × coefficient × change of moisture content, half on each side: by hand, as the panels."""
    for job, piece, fit in (
        (revised(BOX, cover=LiftOff(wood="black cherry", fit_mm=0.3)), "panel.plug", 0.3),
        (revised(BOX, false_floor=FalseFloor(wood="black cherry", play_mm=0.4)), "panel.false", 0.4),
    ):
        for grain, across in (("length", 220.0), ("width", 300.0)):
            section = job.design.section
            part = section.false_floor or section.cover
            turned = replace(part, grain=grain)
            made = plan(
                revised(job, false_floor=turned) if section.false_floor else revised(job, cover=turned)
            )
            (found,) = [one for one in made.findings if one.code == "loose_swells"]
            assert found.numbers["needed_mm"] == pytest.approx(
                (across - 2 * fit) * 0.00248 * 4.0 / 2, abs=0.011
            )
            board = next(one for one in made.pieces if one.id == piece)
            assert (board.grain_deg, board.stock) == ({"length": 0.0, "width": 90.0}[grain], "black cherry")
            for fix in found.fixes:
                assert "loose_swells" not in {f.code for f in plan(applied(made.job, fix.changes)).findings}


def test_a_panel_that_bursts_or_falls_out_is_said_and_mended() -> None:
    tight = revised(BOX, bottom=replace(BOX.design.section.bottom, play_mm=0.2))
    loose = revised(BOX, bottom=replace(BOX.design.section.bottom, depth_mm=2.5, play_mm=1.2))
    for job, code in ((tight, "panel_swells"), (loose, "panel_shrinks_out")):
        found = next(finding for finding in plan(job).findings if finding.code == code)
        assert code not in {f.code for f in plan(applied(job, found.fixes[0].changes)).findings}
    for cover in (DropIn(wood="black cherry", play_mm=0.1), Sliding(wood="black cherry", play_mm=0.1)):
        codes = {finding.code for finding in plan(revised(BOX, cover=cover)).findings}
        assert "panel_swells" in codes
    hexagon = revised(BOX, shape=Regular(6, 150.0), bottom=replace(BOX.design.section.bottom, play_mm=0.2))
    assert "panel_swells" in {finding.code for finding in plan(hexagon).findings}
