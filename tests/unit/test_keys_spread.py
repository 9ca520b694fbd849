"""Keys spread: wood between them, some in the lid and some in the body; counts and sizes from the plan."""

import csv
import io
import itertools
import random
from pathlib import Path

import pytest

from peristyle.cli import main
from peristyle.core.errors import LengthError
from peristyle.core.lengths import Format
from peristyle.export.cutlist import cut_list
from peristyle.model.corner_edits import with_keys
from peristyle.model.corner_fields import key_position
from peristyle.model.design import Keys, Lid, Outline, Panel, Rectangle
from peristyle.model.edits import with_lid, with_panel
from peristyle.model.job import Saw, job_of, revised
from peristyle.planning.plan import plan
from peristyle.storage import files
from peristyle.words.step_settings import fences_in_words

BOX = job_of(
    shape=Rectangle(200.0, 140.0), height_mm=100.0, thicknesses_mm=(12.0,), bottom=Panel(), keys=Keys()
)


@pytest.mark.parametrize("seed", range(60))
def test_keys_have_wood_between_them_and_hold_lid_and_body(seed: int) -> None:
    chance = random.Random(seed)
    thick = chance.choice([2.0, 3.0, 4.0, 6.0])
    count = chance.randint(2, 6)
    lid = Lid(height_mm=chance.uniform(20, 120)) if chance.random() < 0.7 else None
    job = revised(
        BOX, height_mm=chance.uniform(60, 160), lid=lid, keys=Keys(count=count, thickness_mm=thick, edge_margin_mm=8.0),
        saw=Saw(kerf_mm=1.5),
    )  # fmt: skip
    made = plan(job)
    heights = made.keys.heights_mm
    for low, high in itertools.pairwise(heights):
        assert high - low >= thick + max(thick, 3.0) - 1e-6  # our rule
    freed = made.section.lid
    if freed and len(heights) == count and min(freed.lid_mm, freed.body_mm) > 16 + 2 * thick:
        assert any(h > freed.line_mm for h in heights)
        assert any(h < freed.line_mm for h in heights)


def test_unlike_corners_have_keys_of_their_own() -> None:
    job = revised(BOX, shape=Outline((120.0, 160.0, None, None), (100.0, 80.0, 105.0, 75.0)))
    made = plan(job)
    assert sum(len(group) for group in made.keys.alike) == len(made.keys.keys) == 8
    rows = [row for row in csv.DictReader(io.StringIO(cut_list(made))) if row["kind"] == "key"]
    assert sum(int(row["count"]) for row in rows) == 8
    assert len(rows) == len(made.keys.alike) == 4
    assert all("corners" in row["note"] for row in rows)


def test_a_pass_finer_than_the_fence_is_nudged() -> None:
    assert fences_in_words((6.0, 8.2), Format()) == "fence 6 · 8.2 mm"
    assert fences_in_words((6.0, 6.1), Format()).startswith("fence 6 mm, then nudged 0.1")
    eighth = fences_in_words((6.35, 6.35 + 0.1), Format("in"))
    assert eighth == "fence ¼ in, then nudged 0.004 in further once, proved on scrap"


def test_a_box_in_inches_begins_in_inches() -> None:
    bare = job_of(shape=Rectangle(254.0, 152.4), height_mm=101.6, thicknesses_mm=(12.7,), units="in")
    whole = with_keys(with_lid(with_panel(bare, "bottom", True), True), True)
    bottom, lid, keys = whole.design.section.bottom, whole.design.section.lid, whole.design.joints.keys
    assert bottom is not None
    assert lid is not None
    assert keys is not None
    for size in (
        bottom.height_mm,
        bottom.depth_mm,
        bottom.thickness_mm,
        lid.height_mm,
        keys.thickness_mm,
        keys.edge_margin_mm,
    ):
        assert (size / 25.4 * 64) == pytest.approx(round(size / 25.4 * 64))
    assert bottom.height_mm == pytest.approx(6.35)
    assert "-0.000" not in cut_list(plan(whole))


def test_a_new_box_in_inches_is_sawn_with_an_eighth(tmp_path) -> None:  # type: ignore[no-untyped-def]
    path = str(tmp_path / "box.peristyle")
    assert (
        main(
            [
                "new",
                path,
                "--rect",
                "--inside",
                "8inx5in",
                "--height",
                "3in",
                "--thickness",
                "3/8in",
                "--units",
                "in",
            ]
        )
        == 0
    )
    job = files.load(Path(path)).job
    assert job.shop.saw.kerf_mm == pytest.approx(25.4 / 8)
    assert job.stock.board.end_trim_mm == pytest.approx(25.4 * 3 / 8)


def test_each_kind_of_key_keeps_clear_of_its_own_margins_only() -> None:
    keys, wide = (
        Keys(count=3, edge_margin_mm=6.0),
        Keys(count=1, edge_margin_mm=20.0, placed="even", corners=(0,)),
    )
    made = plan(revised(BOX, keys=keys, other_keys=wide, lid=None))
    low = [out for out in made.keys.keep_outs if (out.why, out.corner) == ("bottom edge", 0)]
    assert sorted(out.high_mm for out in low) == [6.0, 20.0]
    assert min(made.keys.sets[0].heights_mm) < 20.0
    assert "key_near_edge" not in {finding.code for finding in made.findings}


def test_what_a_size_reads_as_may_be_typed_again_at_the_end_of_its_range() -> None:
    job = revised(BOX, height_mm=52.3871, keys=Keys(positions_mm=(20.0, 52.3871)), lid=None)
    field = key_position(job, "keys", 1, (20.0, 52.3871))
    shown = field.show(Format("mm"), field.get(job)).split("\u202f")[0]
    assert (shown, field.parse(job, shown)) == ("52.39", 52.3871)
    for wrong in ("52.4", "0", "-52.39"):
        with pytest.raises(LengthError, match=r"at most 52\.39"):
            field.parse(job, wrong)
