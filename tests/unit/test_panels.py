"""Bottom and top panels in their grooves: heights, room, lid line, keys, cuts, and both made of segments."""

import json

import pytest
from msgspec.structs import replace
from test_cli import run

from peristyle.core.lengths import Format
from peristyle.drawing.section import section_drawing
from peristyle.model import edits, fields
from peristyle.model.design import Keys, Lid, Liner, Panel, Rectangle, Segments, Thing
from peristyle.model.job import decided, job_of, revised
from peristyle.model.panels import Sliding
from peristyle.model.stock import Board
from peristyle.planning.plan import plan
from peristyle.planning.stock.largest import largest
from support.schemas import check_plan
from support.telling import set_so, titled, told, with_fix

PANEL = Panel(height_mm=6.0, depth_mm=4.0, thickness_mm=5.0, fit_mm=0.2)
BOX = job_of(
    shape=Rectangle(300.0, 200.0),
    height_mm=100.0,
    thicknesses_mm=(10.0,),
    bottom=PANEL,
    top=PANEL,
    lid=Lid(height_mm=25.0, kerf_mm=2.5, clean_up_mm=0.5),
)


def test_heights_from_floor_to_top() -> None:
    section = plan(BOX).section
    bottom, top = section.grooves
    assert (bottom.low_mm, bottom.high_mm) == pytest.approx((6.0, 11.2))
    assert (top.low_mm, top.high_mm) == pytest.approx((100 - 11.2, 94.0))
    # The floor stands 11 up, the top's underside 88.8; freeing the lid takes 3 of what is between.
    assert section.room_mm == pytest.approx(88.8 - 3 - 11)
    assert plan(revised(BOX, top=None)).section.room_mm == pytest.approx(100 - 3 - 11)
    assert [p.name for p in section.panels] == ["bottom", "top"]
    assert section.panels[0].outline == section.panels[1].outline


def test_a_liner_under_a_top_panel_holds_the_lid_up_sooner() -> None:
    # MATH of the trade (common practice): headroom = underside of the top panel − top of the liner, after the
    # kerf and the clean-up are gone.
    lined = revised(BOX, liner=Liner(height_mm=74.0))
    found = plan(lined)
    assert found.liner is not None
    assert found.liner.headroom_mm == pytest.approx(0.8)
    proud = plan(revised(lined, liner=Liner(height_mm=76.0)))
    finding = next(f for f in proud.findings if f.code == "liner_holds_lid_up")
    assert finding.numbers["headroom_mm"] == pytest.approx(-1.2)
    assert "liner_holds_lid_up" not in {f.code for f in plan(with_fix(proud.job, finding.fixes[0])).findings}


@pytest.mark.parametrize("top", [PANEL, None])
@pytest.mark.parametrize("lid", [BOX.design.section.lid, None])
def test_a_liner_added_leaves_room_over_it(top: Panel | None, lid: Lid | None) -> None:
    lined = plan(edits.with_liner(revised(BOX, top=top, lid=lid), True))
    assert lined.liner is not None
    assert lined.liner.headroom_mm == pytest.approx(5.0, abs=0.5)
    assert "liner_holds_lid_up" not in {f.code for f in lined.findings}
    fitted = next(c for c in lined.steps if c.operation == "liner_fit")
    assert ("below the top panel" if top else "below the rim") in set_so(fitted)


def test_a_box_sized_from_its_contents_has_room_under_its_top() -> None:
    block = Thing(length_mm=90.0, width_mm=60.0, height_mm=75.0)
    short = plan(revised(BOX, contents=(block,)))
    finding = next(f for f in short.findings if f.code == "contents_too_tall")
    assert finding.numbers["over_mm"] == pytest.approx(75 - 74.8)
    assert "contents_too_tall" not in {f.code for f in plan(with_fix(short.job, finding.fixes[0])).findings}


@pytest.mark.parametrize(
    ("changed", "code"),
    [
        ({"lid": Lid(height_mm=9.0)}, "lid_line_meets_top"),
        ({"lid": Lid(height_mm=90.0)}, "lid_line_meets_groove"),
        ({"height_mm": 20.0, "lid": None}, "grooves_overlap"),
        ({"top": replace(PANEL, height_mm=98.0), "lid": None}, "groove_above_box"),
        ({"top": None, "lid": None, "cover": Sliding(height_mm=98.0)}, "groove_above_box"),
        ({"top": replace(PANEL, depth_mm=10.0)}, "groove_through"),
        ({"top": replace(PANEL, depth_mm=6.0)}, "groove_wall_thin"),
        ({"top": replace(PANEL, play_mm=4.0)}, "panel_falls_out"),
    ],
)
def test_what_is_wrong_with_a_panel_is_said_and_mended(changed: dict[str, object], code: str) -> None:
    bad = plan(revised(BOX, **changed))
    finding = next(f for f in bad.findings if f.code == code)
    assert len(told(finding)) > 40
    assert code not in {f.code for f in plan(with_fix(bad.job, finding.fixes[0])).findings}


def test_keys_keep_clear_of_both_grooves() -> None:
    deep = plan(revised(BOX, lid=None, keys=Keys(count=4, depth_mm=9.0, edge_margin_mm=0.0)))
    spans = [(k.low_mm, k.high_mm) for k in deep.keys.keep_outs if (k.why, k.corner) == ("groove", 0)]
    assert [edge for span in spans for edge in span] == pytest.approx(
        [4.0, 13.2, 86.8, 96.0]
    )  # with 2 mm of wood beside each
    half = 3.0 / 2
    for height in deep.keys.heights_mm:
        assert all(height + half <= low + 1e-9 or height - half >= high - 1e-9 for low, high in spans)


@pytest.mark.parametrize("slope", [24.0, -24.0])
def test_keys_keep_clear_of_a_level_groove_where_it_lies(slope: float) -> None:
    """However much the sides lean, a level groove lies between the same heights at any depth (plane geometry)."""
    keys = Keys(count=1, depth_mm=11.0, edge_margin_mm=0.0)
    leaning = plan(revised(BOX, slopes_deg=(slope,), lid=None, top=None, keys=keys))
    (groove,) = leaning.section.grooves
    (out,) = [k for k in leaning.keys.keep_outs if (k.why, k.corner) == ("groove", 0)]
    assert (out.low_mm, out.high_mm) == pytest.approx((groove.low_mm - 2.0, groove.high_mm + 2.0))


def test_one_fence_setting_grooves_both_edges() -> None:
    (cut,) = [c for c in plan(BOX).steps if c.operation == "groove"]
    assert (titled(cut), cut.passes) == ("Groove for the bottom and the top", 4)
    assert cut.values("fence") == pytest.approx((6.0, 8.2))
    apart = [
        c for c in plan(revised(BOX, top=replace(PANEL, height_mm=4.0))).steps if c.operation == "groove"
    ]
    assert [c.value("fence") for c in apart] == [6.0, 4.0]
    panels = [c for c in plan(BOX).steps if c.operation == "panel"]
    assert [(titled(c), c.pieces) for c in panels] == [
        ("Cut the bottom panel", ("panel.bottom",)),
        ("Cut the top panel", ("panel.top",)),
    ]


def test_both_panels_come_out_of_the_same_board() -> None:
    board = Board(length_mm=900.0, width_mm=190.0, thickness_mm=10.0)
    found = largest(revised(BOX, board=board), with_panels=True)
    assert found is not None
    assert found.limit == "panel"
    made = plan(found.job)
    # One after the other beyond the strip, each across the board, with a cut before each.
    panels = sum(min(p.length_mm, p.width_mm) + 3.0 for p in made.section.panels)
    assert made.wrap.spare_mm - panels == pytest.approx(0.0, abs=1e-3)
    narrow = largest(revised(BOX, board=replace(board, width_mm=150.0, length_mm=3000.0)), with_panels=True)
    assert narrow is not None
    assert plan(narrow.job).section.panels[0].width_mm == pytest.approx(150.0, abs=1e-3)
    alone = largest(revised(BOX, board=board, top=None), with_panels=True)
    assert alone is not None
    assert alone.factor > found.factor


@pytest.mark.parametrize("part", ["bottom", "top"])
def test_either_panel_is_added_glued_up_and_left_out(part: str) -> None:
    bare = revised(BOX, bottom=None, top=None)
    added = edits.with_panel(bare, part, True)
    pie = edits.with_segments(added, "pie", 12, part)
    assert decided(pie, part).segments == Segments(count=12)
    assert [p.name for p in plan(pie).section.panels] == [part]
    assert edits.with_segments(pie, "one", part=part) == added
    assert edits.with_panel(pie, part, False) == bare
    drawn = section_drawing(plan(pie), Format("mm"))
    assert {f"section.{part}.{name}_mm" for name in ("height", "depth", "thickness", "play", "fit")} <= {
        tag.field.id for tag in drawn.tags
    }
    for field in fields.PANELS[part]:
        low = field.set(pie, 1.5)
        assert field.get(low) == 1.5
        assert decided(low, "top" if part == "bottom" else "bottom") is None


def test_top_panels_on_the_command_line(capsys, tmp_path) -> None:  # type: ignore[no-untyped-def]
    path = str(tmp_path / "b.peristyle")
    words = ["--rect", "--inside", "10x6", "--height", "4 1/2", "--units", "in", "--top-panel-thickness", "1/4",
             "--top-segments", "10", "--top-ring", "1 1/2", "--bottom", "--lid-height", "1"]  # fmt: skip
    assert run(capsys, "new", path, *words)[0] == 0
    data = json.loads(run(capsys, "plan", path, "--json")[1])
    check_plan(data)
    assert [p["name"] for p in data["panels"]] == ["bottom", "top"]
    assert data["panels"][1]["thickness_mm"] == pytest.approx(6.35)
    assert data["panels"][1]["segments"]["count"] == 10
    assert data["section"]["top_groove"]["high_mm"] == pytest.approx(4.25 * 25.4)
    code, _out, err = run(
        capsys, "new", path, "--rect", "--inside", "90", "--height", "50", "--top-segments", "2"
    )
    assert code == 2
    assert err.count("\n") == 1


def test_a_bit_too_wide_that_cannot_lean_either_is_told_both() -> None:
    job = revised(BOX, slopes_deg=(9.0,), bottom=Panel(thickness_mm=4.0), lid=None, top=None)
    job = revised(job, uses=replace(job.shop.uses, groove="Straight bit 6"))
    found = {finding.code: finding for finding in plan(job).findings}
    assert found["tool_upright"].severity == "stop"
    assert found["tool_upright"].fixes
    assert "thinner_than_blade" in found
