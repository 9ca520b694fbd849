"""Grooves, lid lines and key slots of leaning sides: closed forms, and a blade carried through the wood."""

import math
import random

import manifold3d
import numpy as np
import pytest

from peristyle.core.planes import Slab, edge_lean_deg
from peristyle.model.design import GrooveWay, Keys, Lid, Outline, Panel, Rectangle, Regular, replace
from peristyle.model.job import Job, job_of, revised
from peristyle.planning.plan import plan
from peristyle.planning.section.grooves import (
    GrooveCut,
    PanelName,
    level_groove_height,
    plan_groove,
    tongue_mm,
)


def leaning(slope_deg: float, thickness_mm: float = 12.0) -> Slab:
    return Slab.facing(0.0, 100.0, slope_deg, thickness_mm)


def test_a_level_groove_in_a_leaning_side() -> None:
    # By hand: 4·cos 15° + 4.2·sin 15°, and the other two ways' closed forms.
    slab = leaning(15.0)
    assert level_groove_height(slab, 4.0, 4.2) == pytest.approx(4.951, abs=5e-4)
    panel = Panel(height_mm=6.0, depth_mm=4.0, thickness_mm=4.0, fit_mm=0.2, play_mm=0.5)
    cut = plan_groove([slab], "bottom", panel, 80.0, 5.0).cuts[0]
    assert cut.height_mm == pytest.approx(4.951, abs=5e-4)
    assert cut.fences_mm == pytest.approx((6.0 / math.cos(math.radians(15)),))
    assert cut.tilt_deg == pytest.approx(15.0)
    assert cut.arris == "inside"
    # 3.5 mm of a 4 mm panel engaged, level: opening 4.77 square to the face; a tongue of 3.24.
    held = 3.5 * math.cos(math.radians(15))
    square = replace(panel, depth_mm=held + 0.5, fit_mm=0.0, groove="square")
    assert plan_groove([slab], "bottom", square, 80.0, 3.0).cuts[0].opening_mm == pytest.approx(
        4.77, abs=5e-3
    )
    assert tongue_mm(slab, 4.0, held) == pytest.approx(3.235, abs=5e-4)


@pytest.mark.parametrize(
    ("slope", "name", "arris", "tilt", "extra"),
    [
        (15.0, "bottom", "inside", 15.0, 0.0),
        (15.0, "top", "outside", -15.0, 3.215),
        (-15.0, "bottom", "outside", -15.0, 3.215),
        (-15.0, "top", "inside", 15.0, 0.0),
    ],
)
def test_mirrored_grooves_are_two_settings(
    slope: float, name: PanelName, arris: str, tilt: float, extra: float
) -> None:
    # The outer arris stands out by t·tan 15° = 3.215 mm where it is the one that touches.
    cut = plan_groove([leaning(slope)], name, Panel(height_mm=6.0), 80.0, 5.0).cuts[0]
    assert cut.arris == arris
    assert cut.tilt_deg == pytest.approx(tilt)
    assert cut.fences_mm[0] == pytest.approx(6.0 / math.cos(math.radians(15)) + extra, abs=5e-4)


def side_as_solid(slab: Slab, height: float) -> manifold3d.Manifold:
    """A stretch of the side, 50 mm long, its edges ripped level, in its own frame."""
    t, s = slab.thickness_mm, math.asin(slab.sin_slope)
    slant, lift = height / math.cos(s), -t * math.tan(s)
    return prism([(0.0, 0.0), (slant, 0.0), (slant + lift, t), (lift, t)])


def sawn(
    solid: manifold3d.Manifold, slab: Slab, name: PanelName, cut: GrooveCut, kerf: float
) -> manifold3d.Manifold:
    """The passes done by the printed numbers only: inside face down, the edge against the fence."""
    box = solid.bounding_box()
    # The machine's frame: the fence at f = 0, the table at h = 0. The side's y runs from or toward the fence.
    for fence in cut.fences_mm:
        tilt = math.radians(cut.tilt_deg)
        # A plate `kerf` thick, the higher corner of its teeth `height_mm` over the table.
        reach = (cut.height_mm - max(0.0, -kerf * math.sin(tilt))) / math.cos(tilt)
        foot, along = np.array([fence, 0.0]), np.array([math.sin(tilt), math.cos(tilt)])
        across = kerf * np.array([math.cos(tilt), -math.sin(tilt)])
        corners = [
            foot - along * 30,
            foot - along * 30 + across,
            foot + along * reach + across,
            foot + along * reach,
        ]
        edge, way = (box[1], 1.0) if name == "bottom" else (box[4], -1.0)
        blade = prism([(edge + way * f, slab.thickness_mm - h) for f, h in corners])
        solid -= blade
    return solid


def prism(profile: list[tuple[float, float]]) -> manifold3d.Manifold:
    """What has this outline across the side, (y, z), 50 mm along it."""
    section = manifold3d.CrossSection([[list(p) for p in profile]])
    if section.area() <= 0:
        section = manifold3d.CrossSection([[list(p) for p in profile][::-1]])
    return section.extrude(50.0).transform(np.array([[0, 0, 1, 0], [1, 0, 0, 0], [0, 1, 0, 0]]))


@pytest.mark.parametrize("seed", range(60))
def test_the_saw_leaves_the_groove_and_the_panel_goes_in(seed: int) -> None:
    """Cut by its printed numbers the groove is its profile; a level panel fits it and lies on its lower wall."""
    chance = random.Random(seed)
    slab = leaning(chance.uniform(-35, 35), chance.uniform(14, 20))
    name: PanelName = chance.choice(["bottom", "top"])
    way: GrooveWay = chance.choice(["level", "square"])
    kerf = chance.uniform(1.5, 3.2)
    panel = Panel(
        height_mm=chance.uniform(4, 12), depth_mm=chance.uniform(3, 5), thickness_mm=chance.uniform(3.2, 7),
        play_mm=chance.uniform(0.1, 0.8), fit_mm=chance.uniform(0.02, 0.2), groove=way,
    )  # fmt: skip
    height = 80.0
    groove = plan_groove([slab], name, panel, height, kerf)
    cut = groove.cuts[0]
    whole = side_as_solid(slab, height)
    made = sawn(whole, slab, name, cut, kerf)
    taken = whole.volume() - made.volume()
    assert taken == pytest.approx(prism(list(groove.profiles[0])).volume(), rel=1e-6)
    assert ((whole - prism(list(groove.profiles[0]))) ^ made).volume() == pytest.approx(
        made.volume(), rel=1e-9
    )
    # The panel, in the box's own directions: level, its edge plumb.
    low = (
        panel.height_mm if name == "bottom" else height - panel.height_mm - panel.thickness_mm - panel.fit_mm
    )
    edge = groove.edges_mm[0] - slab.offset_mm
    s = math.asin(slab.sin_slope)
    corners = [
        (out * math.sin(s) + z * math.cos(s), z * math.sin(s) - out * math.cos(s))
        for out, z in (
            (edge, low),
            (edge, low + panel.thickness_mm),
            (-90.0, low + panel.thickness_mm),
            (-90.0, low),
        )
    ]
    assert (prism(corners) ^ made).volume() <= 1e-4  # they touch: what is rounded off, of some 20,000 mm³
    if way == "level":
        raised = [
            (y + 2 * panel.fit_mm * math.cos(s), z + 2 * panel.fit_mm * math.sin(s)) for y, z in corners
        ]
        assert (prism(raised) ^ made).volume() > 0  # and no room for much more


def box(slope: float) -> Job:
    return job_of(
        shape=Regular(sides=4, size_mm=180.0), height_mm=80.0, thicknesses_mm=(12.0,), slopes_deg=(slope,),
        lid=Lid(height_mm=20.0, kerf_mm=2.5, clean_up_mm=0.0), keys=Keys(positions_mm=(20.0, 60.0)),
    )  # fmt: skip


def test_the_lid_of_a_leaning_box_is_freed_from_its_wider_end() -> None:
    # 20 mm, 10° → 20.309 along the face.
    out = plan(box(10.0)).section.lid
    assert out is not None
    assert [(c.edge, c.tilt_deg) for c in out.cuts] == [("top", pytest.approx(10.0))]
    assert out.cuts[0].fence_mm == pytest.approx(20.309, abs=5e-4)
    inward = plan(box(-10.0)).section.lid
    assert inward is not None
    assert inward.cuts[0].edge == "bottom"
    assert inward.cuts[0].fence_mm == pytest.approx((80 - 20 - 2.5) / math.cos(math.radians(10)))
    upright = plan(box(0.0)).section.lid
    assert upright is not None
    assert upright.fence_mm == pytest.approx(57.5)
    assert upright.cuts[0].edge == "bottom"


@pytest.mark.parametrize("lean", [-19.8, -12.0, 9.0, 19.8])
@pytest.mark.parametrize("name", ["bottom", "top"])
def test_a_groove_cut_wider_than_its_panel_is_deep_enough(name: str, lean: float) -> None:
    """The panel's edge stands clear of the floor by its play, however wide the bit is (plane geometry)."""
    panel = Panel(height_mm=6.0, depth_mm=3.0, thickness_mm=4.0, play_mm=0.5, fit_mm=0.1)
    slab = Slab.facing(0.0, 100.0, lean, 18.0)
    for kerf in (2.4, 4.1, 6.0, 8.0):
        groove = plan_groove([slab], name, panel, 80.0, kerf)  # type: ignore[arg-type]
        (_foot, low, *_middle, high, _end) = groove.profiles[0]
        for y, z in (low, high):  # the floor's ends, as far out as they lie in the box
            out = slab.offset_mm + y * slab.sin_slope - z * slab.cos_slope
            level = y * slab.cos_slope + z * slab.sin_slope
            if groove.rests_mm - 1e-6 <= level <= groove.rests_mm + 4.1 + 1e-6 or kerf > 4.1:
                assert out >= groove.edges_mm[0] + 0.5 - 1e-6, (kerf, level)


def test_key_slots_follow_a_leaning_corner() -> None:
    # tan λ = tan 15°/cos 45° → 20.7536°; a height h lies h/cos λ along the edge.
    slabs = [Slab.facing(90.0 * i, 90.0, 15.0, 12.0) for i in range(2)]
    assert edge_lean_deg(*slabs) == pytest.approx(20.7536, abs=5e-5)
    settings = plan(box(15.0)).keys.settings
    assert [s.edge for s in settings] == ["top", "top"]  # turned over it would not serve the mirrored slot
    lam = math.radians(20.7536)
    assert sorted(s.fence_mm for s in settings) == pytest.approx(
        [20.0 / math.cos(lam) - 1.5, 60.0 / math.cos(lam) - 1.5], abs=1e-3
    )
    upright = plan(box(0.0)).keys.settings
    assert [(s.heights_mm, s.edge) for s in upright] == [((20.0, 60.0), "bottom")]


def test_keys_given_by_their_leg_have_a_depth_for_every_corner() -> None:
    job = revised(
        box(0.0),
        shape=Rectangle(200.0, 120.0),
        slopes_deg=(0.0,),
        keys=Keys(leg_mm=10.0, positions_mm=(20.0,)),
    )
    assert plan(job).keys.settings[0].depth_mm == pytest.approx(7.0711, abs=5e-5)
    unlike = revised(job, shape=_kite())
    settings = plan(unlike).keys.settings
    assert len(settings) == len({round(c.dihedral_deg, 3) for c in plan(unlike).ring.corners})
    for setting in settings:
        assert setting.depth_mm == pytest.approx(10.0 * math.cos(math.radians(setting.cradle_deg / 2)))
    assert sum(s.slots for s in settings) == 4


def _kite() -> Outline:
    return Outline((120.0, 160.0, None, None), (100.0, 80.0, 105.0, 75.0))


def test_strips_that_lean_share_their_cuts() -> None:
    # Six sides leaning 15°, 80 high, 12 thick, kerf 3: each strip takes 82.82 + 3.11 of the width, and 3.22 once.
    tray = job_of(shape=Regular(6, 120.0), height_mm=80.0, thicknesses_mm=(12.0,), slopes_deg=(15.0,))
    just = (
        2 * (80 + 3) / math.cos(math.radians(15))
        - 3 / math.cos(math.radians(15))
        + 12 * math.tan(math.radians(15))
    )
    for width, tiers in ((just + 0.01, 2), (just - 0.01, 1)):
        board = replace(tray.stock.board, width_mm=width, length_mm=2000.0)
        assert plan(revised(tray, board=board)).wrap.tiers == tiers


def test_nothing_is_left_to_creep_up_on_where_there_is_no_stop() -> None:
    made = plan(revised(box(0.0), board=replace(box(0.0).stock.board, creep_mm=1.5)))
    assert made.wrap.creep_mm == 1.5
    (first, *_rest) = [cut for cut in made.steps if cut.operation == "crosscut"]
    assert first.value("stop") == pytest.approx(183.0)
    for kind in ("chamfer_bit", "shooting_board"):
        shaped = plan(revised(made.job, saw=replace(made.job.shop.saw, kind=kind)))
        assert shaped.wrap.creep_mm == 0.0
        assert next(c for c in shaped.steps if c.operation == "crosscut").value("stop") == pytest.approx(
            180.0
        )
        assert shaped.wrap.used_mm == pytest.approx(made.wrap.used_mm - 8 * 1.5)
