"""A fix mends what it says, with the number that stands on its button; numbers are rounded to the safe side."""

import random
import re

import pytest

from peristyle.core.closing import single_values
from peristyle.core.errors import LengthError
from peristyle.core.lengths import Format, parse_count, parse_length, split_list
from peristyle.core.planes import unit
from peristyle.model.design import Dividers, Keys, Lid, Liner, Panel, Rectangle, Regular, Thing
from peristyle.model.faults import breaches
from peristyle.model.job import Saw, job_of, revised
from peristyle.model.stock import Board
from peristyle.planning.mending import mended
from peristyle.planning.plan import plan
from peristyle.planning.section.grooves import MOST_PASSES, passes
from peristyle.words.findings import offered
from support.designs import random_design
from support.mending import not_mended
from support.telling import button, told, with_fix

BASE = job_of(shape=Rectangle(240.0, 160.0), height_mm=90.0, board=Board(length_mm=900.0))
# Each with the finding it is about, as it was reported not to mend.
CASES = {
    "board_too_narrow": revised(BASE, slopes_deg=(14.3,), board=Board(length_mm=3000.0, width_mm=61.7)),
    "side_too_short": revised(BASE, shape=Regular(7, 21.0), thicknesses_mm=(30.0,)),
    "lid_line_meets_groove": revised(BASE, bottom=Panel(height_mm=40.0), lid=Lid(height_mm=60.0)),
    "keys_no_room": revised(BASE, height_mm=40.0, keys=Keys(count=5, thickness_mm=4.0)),
    "liner_slopes_cross": revised(BASE, slopes_deg=(-30.0,), height_mm=100.0, liner=Liner(height_mm=260.0)),
    "compartment_vanishes": revised(BASE, dividers=Dividers(across=40, thickness_mm=9.0)),
    "divider_meets_corner": revised(
        BASE, shape=Regular(6, 120.0), dividers=Dividers(across=3, height_mm=30.0)
    ),
}


@pytest.mark.parametrize("code", sorted(CASES))
@pytest.mark.parametrize("units", ["mm", "in"])
def test_named_findings_have_a_fix_that_mends(code: str, units: str) -> None:
    found = plan(revised(CASES[code], units="in" if units == "in" else "mm"))
    (finding,) = [f for f in mended(found) if f.code == code][:1]
    assert finding.fixes, told(finding)
    for fix in finding.fixes:
        after = plan(with_fix(found.job, fix))
        assert all(f.code != code for f in after.findings), button(fix)
        assert not breaches(after.job)


def test_the_height_on_the_button_typed_back_mends() -> None:
    for units in ("mm", "in"):
        for width in (37.3, 61.7, 83.123):
            for shape, slope in ((Rectangle(240.0, 160.0), 14.3), (Regular(5, 130.0, "inside", 150.0), 0.0)):
                job = revised(
                    BASE,
                    units=units,
                    shape=shape,
                    slopes_deg=(slope,),
                    board=Board(length_mm=3000.0, width_mm=width),
                )
                (finding,) = [f for f in mended(plan(job)) if f.code == "board_too_narrow"]
                fmt = Format(job.design.units)
                label = next(offered(fix, fmt) for fix in finding.fixes if fix.key == "height")
                text = re.sub(r"Make it | high", "", label)
                typed = revised(job, height_mm=parse_length(text, "in" if units == "in" else "mm"))
                assert all(f.code != "board_too_narrow" for f in plan(typed).findings), label


def test_offered_fixes_mend_in_any_box() -> None:
    chance = random.Random(816)
    offered = 0
    for _ in range(20):
        found = plan(random_design(chance))
        for finding in mended(found):
            for fix in finding.fixes:
                offered += 1
                assert not not_mended(found, finding, fix)
    assert offered > 15


def test_rounding_to_the_safe_side() -> None:
    for fmt in (Format("mm"), Format("in")):
        for value in (63.428571, 12.0, 0.1, 25.4 / 64 * 7, 3.333, 1234.5678):
            low, high = fmt.down(value), fmt.up(value)
            assert low <= value + 1e-7
            assert high >= value - 1e-7
            assert parse_length(fmt.length(low), fmt.units) == pytest.approx(low, abs=1e-6)
            assert parse_length(fmt.length(high), fmt.units) == pytest.approx(high, abs=1e-6)


def test_many_passes_are_a_finding_not_a_thousand_settings() -> None:
    """ceil(width/kerf) passes (common practice); past a hundred only the two outermost, and a stop."""
    assert len(passes(30.0, 0.3)) == 100
    assert passes(30.1, 0.3) == (0.0, 29.8)
    found = plan(revised(BASE, bottom=Panel(thickness_mm=40.0), height_mm=200.0, saw=Saw(kerf_mm=0.1)))
    assert MOST_PASSES == 100
    (finding,) = [f for f in mended(found) if f.code == "too_many_passes"]
    assert finding.fixes
    assert (
        len(breaches(revised(BASE, contents=(Thing(length_mm=9, width_mm=9, height_mm=9, count=9000),) * 2)))
        == 1
    )


def test_each_value_that_closes_a_ring_by_itself() -> None:
    assert single_values([120, 80, 120, 81], [90] * 4) == (
        ("side", 1, pytest.approx(81)),
        ("side", 3, pytest.approx(80)),
    )
    assert single_values([120, 80, 120, 80], [90, 90, 90, 95]) == (("corner", 3, 90.0),)
    assert single_values([120, 80, 110, 85], [90] * 4) == ()


def test_a_hair_under_nothing_is_no_whole_turn() -> None:
    assert unit(-1e-14) == (1.0, 0.0)
    assert unit(360.0) == (1.0, 0.0)
    assert unit(-90.0) == (0.0, -1.0)


@pytest.mark.parametrize(
    ("text", "parts", "values"),
    [
        ("22,5", False, ["22,5"]), ("22,5", True, ["22", "5"]), ("15,30,45", False, ["15", "30", "45"]),
        ("22.5, 30", False, ["22.5", "30"]), ("22,5; 30", True, ["22,5", "30"]), ("22,5 30", True, ["22,5", "30"]),
        ("-3.75,6", True, ["-3.75", "6"]), (" ", False, []),
    ],
)  # fmt: skip
def test_lists_are_parted(text: str, parts: bool, values: list[str]) -> None:
    assert split_list(text, comma_parts=parts) == values


def test_whole_numbers() -> None:
    assert [parse_count(text) for text in ("8", " 12 ", "=3*4")] == [8, 12, 12]
    for text in ("8.5", "eight", "9" * 400, "", "=1/2"):
        with pytest.raises(LengthError):
            parse_count(text)
