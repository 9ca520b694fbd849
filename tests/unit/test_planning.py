"""Findings, wrap, section, keys and cuts: what they say, and that their fixes mend."""

import math
from itertools import pairwise

import pytest
from msgspec.structs import replace

from peristyle.core.lengths import Format
from peristyle.model import edits
from peristyle.model.design import House, Keys, Lid, Outline, Panel, Rectangle, Regular
from peristyle.model.job import Job, job_of, revised
from peristyle.model.stock import Board
from peristyle.planning.form.reshape import measured
from peristyle.planning.plan import Plan, plan
from peristyle.planning.section.grooves import passes
from peristyle.planning.stock.wrap import suiting_board
from peristyle.words.steps import how
from support.telling import button, told, with_fix


def codes(found: Plan) -> set[str]:
    return {f.code for f in found.findings}


BOX = job_of(shape=Rectangle(240.0, 160.0), height_mm=90.0, thicknesses_mm=(9.0,),
             board=Board(length_mm=900.0, thickness_mm=9.0))  # fmt: skip


@pytest.mark.parametrize(
    ("job", "code"),
    [
        (revised(BOX, board=replace(BOX.stock.board, length_mm=700.0)), "board_too_short"),
        (revised(BOX, board=replace(BOX.stock.board, length_mm=822.0, method="bevel_direct")), "board_too_short"),
        (revised(BOX, board=replace(BOX.stock.board, shift_mm=300.0)), "strip_off_end"),
        (revised(BOX, board=replace(BOX.stock.board, width_mm=60.0)), "board_too_narrow"),
        (revised(BOX, board=replace(BOX.stock.board, thickness_mm=6.0)), "board_too_thin"),
        (revised(BOX, thicknesses_mm=(9.0, 9.0, 7.0, 9.0)), "unequal_thickness"),
        (revised(BOX, shape=Rectangle(240.0, 15.0)), "side_too_short"),
        (revised(BOX, slopes_deg=(-45.0,)), "slopes_cross"),
        (revised(BOX, bottom=Panel(depth_mm=6.0)), "groove_wall_thin"),
        (revised(BOX, bottom=Panel(depth_mm=9.0)), "groove_through"),
        (revised(BOX, bottom=Panel(depth_mm=3.0, play_mm=3.0)), "panel_falls_out"),
        (revised(BOX, bottom=Panel(height_mm=88.0)), "groove_above_box"),
        (revised(BOX, lid=Lid(height_mm=88.0)), "lid_leaves_no_body"),
        (revised(BOX, bottom=Panel(), lid=Lid(height_mm=78.0)), "lid_line_meets_groove"),
        (revised(BOX, keys=Keys(depth_mm=13.0)), "key_breakthrough"),
        (revised(BOX, keys=Keys(depth_mm=12.0)), "key_wall_thin"),
        (revised(BOX, keys=Keys(leg_mm=19.0)), "key_breakthrough"),
        (revised(BOX, keys=Keys(count=30, thickness_mm=4.0)), "keys_no_room"),
        (revised(BOX, lid=Lid(height_mm=24.0), keys=Keys(positions_mm=(20.0, 64.0))), "key_meets_lid_line"),
        (revised(BOX, keys=Keys(positions_mm=(5.0, 60.0))), "key_near_edge"),
        (revised(BOX, keys=Keys(positions_mm=(40.0, 41.0))), "keys_overlap"),
        (revised(BOX, keys=Keys(positions_mm=(89.5,))), "key_outside_box"),
        (revised(BOX, bottom=Panel(height_mm=14.0), keys=Keys(depth_mm=9.0, positions_mm=(16.0,))), "key_meets_groove"),
        (revised(BOX, shape=Outline((120.0, 80.0, 120.0, 81.0), (90.0,) * 4)), "outline_open"),
        (revised(BOX, shape=Outline((120.0, 80.0, 120.0, 80.0), (90.0, 90.0, 90.0, 95.0))), "outline_open"),
    ],
)  # fmt: skip
def test_every_finding_says_what_to_do_and_its_fixes_mend_it(job: Job, code: str) -> None:
    found = plan(job)
    finding = next(f for f in found.findings if f.code == code)
    assert len(told(finding)) > 30
    assert told(finding).endswith(".")
    for fix in finding.fixes:
        mended = plan(with_fix(job, fix))
        assert code not in codes(mended), button(fix)


def test_a_three_sided_ring_is_cut_on_end() -> None:
    found = plan(job_of(shape=Regular(3, 200.0), height_mm=60.0))
    assert "bevel_past_stop" in codes(found)
    bevels = [c for c in found.steps if c.operation == "bevel"]
    assert bevels
    assert all(c.lies == "on_end" and c.value("tilt") == pytest.approx(30.0) for c in bevels)
    assert all("on_end" in c.cautions for c in bevels)


def test_fitting_the_box_uses_the_board_to_its_end() -> None:
    job = revised(BOX, shape=Regular(9, 120.0, "inside"))
    finding = next(f for f in plan(job).findings if f.code == "board_too_short")
    fitted = plan(with_fix(job, finding.fixes[0]))
    assert fitted.wrap.spare_mm == pytest.approx(0.0, abs=1e-4)
    assert fitted.buildable


def test_pieces_lie_in_order_with_their_losses_between() -> None:
    job = revised(BOX, closing_corner=1, board=replace(BOX.stock.board, shift_mm=20.0, creep_mm=0.5))
    wrap = plan(job).wrap
    assert [p.side for p in wrap.pieces] == [2, 3, 0, 1]
    assert wrap.pieces[0].start_mm == 10.0 + 20.0 + 0.5
    for before, after in pairwise(wrap.pieces):
        assert after.start_mm - before.end_mm == pytest.approx(wrap.losses_mm[before.side])
    assert wrap.used_mm == pytest.approx(800.0 + 4 * 4.0)


def test_sloped_pieces_take_their_widest_stretch() -> None:
    found = plan(revised(BOX, slopes_deg=(10.0,)))
    for piece, side in zip(found.wrap.pieces, found.ring.sides, strict=True):
        assert piece.end_mm - piece.start_mm == pytest.approx(side.outside_top_mm)
    assert "grain_turns" in codes(found)
    apart = plan(revised(BOX, slopes_deg=(10.0,), board=replace(BOX.stock.board, method="none")))
    assert "grain_turns" not in codes(apart)  # no grain runs round


def test_a_suiting_board_fits_just() -> None:
    for sides in (3, 5, 12, 24):
        job = job_of(shape=Regular(sides, 61.7, "inside"), height_mm=73.3, slopes_deg=(6.0,))
        found = plan(revised(job, board=suiting_board(job)))
        assert found.buildable
        assert 0 <= found.wrap.spare_mm < 10


@pytest.mark.parametrize(
    ("width", "kerf", "count"), [(3.0, 3.0, 1), (4.1, 3.0, 2), (6.0, 3.0, 2), (9.5, 3.0, 4), (2.0, 3.0, 1)]
)
def test_passes(width: float, kerf: float, count: int) -> None:
    # ceil(w/k) passes, the last at w − k, no step above the kerf (common practice).
    offsets = passes(width, kerf)
    assert len(offsets) == count
    assert offsets[0] == 0.0
    assert offsets[-1] == pytest.approx(max(0.0, width - kerf))
    assert all(b - a <= kerf + 1e-9 for a, b in pairwise(offsets))


def test_lid_takes_kerf_and_clean_up_off_the_height() -> None:
    section = plan(revised(BOX, lid=Lid(height_mm=24.0, kerf_mm=2.5, clean_up_mm=0.6))).section
    lid = section.lid
    assert lid is not None
    assert lid.body_mm + lid.lid_mm + 3.1 == pytest.approx(90.0)
    assert section.finished_mm == pytest.approx(86.9)
    assert lid.line_mm == pytest.approx(90.0 - 24.0 - 0.3 - 1.25)


@pytest.mark.parametrize("count", range(1, 8))
@pytest.mark.parametrize("lid", [None, Lid(height_mm=30.0)])
def test_spread_keys_clear_everything_in_mirrored_pairs(count: int, lid: Lid | None) -> None:
    job = revised(BOX, height_mm=160.0, bottom=Panel(), lid=lid, keys=Keys(count=count, depth_mm=7.0))
    found = plan(job)
    heights = found.keys.heights_mm
    assert len(heights) == count
    assert not [f for f in found.findings if f.code.startswith("key")]
    if count % 2 == 0:
        assert all(any(abs(160.0 - h - other) < 1e-6 for other in heights) for h in heights)
        assert len(found.keys.settings) == count // 2


def test_measuring_on_another_line_leaves_the_box_alone() -> None:
    for job in (BOX, revised(BOX, shape=Regular(7, 90.0, "across_corners"), slopes_deg=(8.0,))):
        for line in ("inside", "outside", "across_flats"):
            other = measured(job, line)
            before, after = plan(job).ring.sides, plan(other).ring.sides
            assert [s.outside_mm for s in after] == pytest.approx([s.outside_mm for s in before])


def test_number_of_sides_keeps_the_design_sound() -> None:
    job = revised(BOX, front=3, closing_corner=3, slopes_deg=(1.0, 2.0, 3.0, 4.0))
    fewer = edits.with_sides(job, 3)
    assert (fewer.design.form.front, fewer.stock.closing_corner, fewer.design.form.slopes_deg) == (
        2,
        2,
        (1.0,),
    )
    assert plan(fewer).ring.stands


def test_cuts_share_stops_and_end_with_the_manual() -> None:
    found = plan(revised(BOX, bottom=Panel(), lid=Lid(), keys=Keys()))
    ends = [c for c in found.steps if c.operation == "bevel" and c.end == "end"]
    assert [c.pieces for c in ends] == [("side.A", "side.C"), ("side.B", "side.D")]
    assert [c.value("stop") for c in ends] == [240.0, 160.0]
    assert len({c.id for c in found.steps}) == len(found.steps)
    assert all(c.cautions[-1] == "manual" for c in found.steps)
    order = [c.operation for c in found.steps]
    assert (
        order.index("groove")
        < order.index("crosscut")
        < order.index("bevel")
        < order.index("glue")
        < order.index("lid")
    )


def test_slots_that_meet_on_a_short_side_are_stopped() -> None:
    # Elementary geometry: a slot of depth d in a corner of half angle h runs d / cos(h) down each face.
    ring = job_of(
        shape=Regular(24, 30.0), height_mm=90.0, thicknesses_mm=(12.0,), keys=Keys(count=2, depth_mm=9.0)
    )
    found = plan(ring)
    finding = next(f for f in found.findings if f.code == "key_slots_meet")
    assert finding.numbers["taken_mm"] == pytest.approx(2 * 9.0 / math.cos(math.radians(82.5)))
    for fix in finding.fixes:
        assert "key_slots_meet" not in {f.code for f in plan(with_fix(found.job, fix)).findings}
    by_leg = plan(revised(ring, keys=Keys(count=2, leg_mm=16.0)))
    finding = next(f for f in by_leg.findings if f.code == "key_slots_meet")
    assert finding.numbers["taken_mm"] == pytest.approx(32.0)
    assert "key_slots_meet" not in {f.code for f in plan(with_fix(by_leg.job, finding.fixes[0])).findings}
    assert "key_slots_meet" not in {f.code for f in plan(revised(ring, keys=Keys(leg_mm=14.0))).findings}


def test_a_ring_that_is_not_all_alike_is_measured_from_one_corner_to_the_others() -> None:
    """A house of 220 × 95 under a roof at 40°: what a tape shows across it, by Pythagoras."""
    job = job_of(shape=House(220.0, 95.0, 40.0), height_mm=190.0, thicknesses_mm=(10.0,))
    steps = {step.operation: step for step in plan(job).steps}
    spans = {key: value for key, value in steps["dry_fit"].numbers.items() if key.startswith("span.")}
    peak = 95.0 + 110.0 * math.tan(math.radians(40.0))
    assert spans == pytest.approx({
        "span.BC_mm": math.hypot(220.0, 95.0), "span.CD_mm": math.hypot(110.0, peak),
    })  # fmt: skip
    said = how(steps["glue"], Format("mm"))
    assert "corner EA to BC 239.6\u202fmm and to CD" in said
    for shape, words in (
        (Regular(5, 100.0), "middle of the side across"), (Regular(6, 100.0), "to the one across, always the same"),
        (Outline((100.0, 120.0, 90.0), (None, None, None)), "the three sides"),
    ):  # fmt: skip
        made = plan(job_of(shape=shape, height_mm=90.0, thicknesses_mm=(10.0,)))  # type: ignore[arg-type]
        assert words in how(next(s for s in made.steps if s.operation == "dry_fit"), Format("mm"))
