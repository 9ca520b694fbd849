"""Hinges and magnets as solids in the box as it was glued and sawn: mortises, pockets, the lid's swing."""

import random

import manifold3d
import numpy as np
import pytest

from peristyle.model.addresses import applied
from peristyle.model.design import (
    Flat,
    Gable,
    Hinges,
    Keys,
    Magnets,
    Panel,
    Rectangle,
    Regular,
    Split,
    replace,
)
from peristyle.model.job import Job, revised
from peristyle.planning.making.parts.seams import seam_of, seam_spots
from peristyle.planning.plan import Plan, plan
from support import hung
from support.bench import settings_moved, values
from support.glued import glued, wrongly_glued
from support.hung_boxes import BARRELS, BOX, PROVOKED, QUADRANTS, ROOFED, SEAM_PROVOKED, SEAMED
from support.solids import in_box, solid


def random_hung(seed: int) -> Job:
    chance = random.Random(seed)
    shape = chance.choice(
        [
            Rectangle(chance.uniform(200, 300), chance.uniform(140, 200)),
            Regular(chance.choice([3, 5, 6, 8]), 150.0),
        ]
    )
    return revised(
        BOX, shape=shape, thicknesses_mm=(chance.uniform(10, 15),), slopes_deg=(chance.choice([0.0, 0.0, 8.0, -7.0]),),
        keys=Keys(count=chance.randint(1, 3)) if chance.random() < 0.5 else None,
        hinges=Hinges(
            count=chance.randint(1, 2), length_mm=chance.uniform(15, 25), leaf_mm=chance.uniform(7, 9),
            out_mm=chance.uniform(1, 3),
            thick_mm=chance.uniform(0.8, 1.5), inset_mm=chance.uniform(28, 35),
        ),
        magnets=Magnets(inset_mm=30.0, wide_mm=chance.uniform(3, 6)),
    )  # fmt: skip


@pytest.mark.parametrize("seed", range(8))
def test_leaves_fill_their_mortises_and_the_lid_swings_clear(seed: int) -> None:
    made = plan(random_hung(seed))
    assert made.buildable, [f.code for f in made.findings if f.severity == "stop"]
    assert not list(hung.troubles(made))
    assert not wrongly_glued(made)


@pytest.mark.parametrize(
    "changes",
    [
        {"hinges": QUADRANTS},
        {"hinges": QUADRANTS, "slopes_deg": (9.0,), "thicknesses_mm": (12.0, 14.0, 12.0, 11.0)},
        {"hinges": QUADRANTS, "slopes_deg": (-7.0,), "keys": Keys(count=2)},
        {"hinges": BARRELS},
        {"hinges": BARRELS, "shape": Regular(6, 130.0)},
        {"hinges": replace(BARRELS, count=3), "slopes_deg": (9.0,), "thicknesses_mm": (14.0,)},
        {"hinges": BARRELS, "shape": Regular(3, 260.0), "slopes_deg": (-8.0,), "thicknesses_mm": (14.0,)},
    ],
)
def test_quadrants_and_concealed_barrels_fill_what_is_cut_and_the_lid_swings(
    changes: dict[str, object],
) -> None:
    made = plan(revised(BOX, magnets=None, **changes))  # type: ignore[typeddict-item]
    assert made.buildable, [f.code for f in made.findings if f.severity == "stop"]
    assert not list(hung.troubles(made))
    assert not wrongly_glued(made)
    told = {feature for step in made.steps for feature in step.makes}
    assert {f.id for p in made.pieces for f in p.features if ".hinge." in f.id} <= told


def test_a_bevel_behind_the_barrels_is_gauged_where_it_lies() -> None:
    """Its lines on rim and face as told, measured on the solid: at 45° from the axis, whatever the lean."""
    for lean in (0.0, 9.0, -8.0):
        made = plan(revised(BOX, magnets=None, hinges=BARRELS, slopes_deg=(lean,), thicknesses_mm=(14.0,)))
        step = next(step for step in made.steps if step.operation == "hinge_bevel")
        slab, lid = made.ring.slabs[2], made.section.lid
        assert lid is not None
        axis = slab.outer_mm(lid.lost_low_mm) - 6.0
        for level, way, down in ((lid.lost_low_mm, -1.0, "down_mm"), (lid.lost_high_mm, 1.0, "down_lid_mm")):
            z = level + way * step.numbers[down] * slab.cos_slope
            assert slab.outer_mm(z) - axis == pytest.approx(abs(z - level), abs=1e-9)


FLAT = revised(BOX, lid=None, top=None, cover=Flat(thickness_mm=9.0, overhang_mm=5.0),
               hinges=Hinges(screw_mm=4.5))  # fmt: skip


@pytest.mark.parametrize(
    "changes",
    [
        {},
        {"shape": Regular(6, 130.0), "cover": Flat(overhang_mm=0.5)},
        {"slopes_deg": (8.0,), "cover": Flat(overhang_mm=9.0)},
        {"slopes_deg": (-7.0,), "hinges": Hinges(barrel_mm=5.0, out_mm=2.0, count=1, screw_mm=4.5)},
        {"hinges": replace(QUADRANTS, screw_mm=4.5, stay_mm=3.0)},
        {"hinges": replace(QUADRANTS, screw_mm=4.5, stay_mm=0.0), "slopes_deg": (8.0,)},
    ],
)
def test_a_flat_lid_is_hung_and_swings_clear(changes: dict[str, object]) -> None:
    made = plan(revised(FLAT, **changes))  # type: ignore[typeddict-item]
    assert made.buildable, [f.code for f in made.findings if f.severity == "stop"]
    assert "lid_lies_loose" not in {finding.code for finding in made.findings}
    assert not list(hung.troubles(made))


def test_what_is_let_into_a_flat_lid_is_told() -> None:
    """The mortise from the board's edge: what it stands out and what of the leaf lies in the wood. Source: sums."""
    made = plan(revised(FLAT, hinges=Hinges(leaf_mm=9.0, out_mm=1.5)))
    step = next(step for step in made.steps if step.operation == "hinge_mortise")
    assert step.pieces == ("side.C", "panel.lid")
    assert values(step, "width") == pytest.approx([7.5, 12.5])
    lid = next(piece for piece in made.pieces if piece.id == "panel.lid")
    edge = max(y for _x, y in lid.show_face)
    leaf = next(feature for feature in lid.features if feature.id == "panel.lid.hinge.1")
    assert edge - min(y for _x, y in leaf.flat) == pytest.approx(12.5)
    channel = next(feature for feature in lid.features if feature.id.endswith("barrel"))
    assert edge - min(y for _x, y in channel.flat) == pytest.approx(step.numbers["from_mm"])
    pocket = next(feature for feature in lid.features if feature.kind == "pocket")
    bored = next(step for step in made.steps if step.operation == "magnet_bore")
    middle = (min(y for _x, y in pocket.flat) + max(y for _x, y in pocket.flat)) / 2
    assert middle - min(y for _x, y in lid.show_face) == pytest.approx(bored.numbers["in_mm"])


def test_a_thin_barrel_wants_no_channel() -> None:
    made = plan(revised(FLAT, hinges=Hinges(barrel_mm=2.0, thick_mm=1.2, screw_mm=4.5)))
    step = next(step for step in made.steps if step.operation == "hinge_mortise")
    assert "hinge_mortise.channel" not in step.says
    assert not [f for piece in made.pieces for f in piece.features if f.id.endswith("barrel")]


def test_an_axis_inside_the_wood_is_met() -> None:
    """The swing is looked at: about an axis 3 mm inside the face the lid meets the body."""
    made = plan(BOX)
    body, lid = hung.halves(made)
    point, _along, out = hung.axis(made)
    motion, within = hung.turned(made, 30.0), point - (3.0 + 1.5) * out
    rotation = motion[:, :3]
    wrong = np.column_stack([rotation, within - rotation @ within])
    assert (lid.transform(motion) ^ body).volume() < 1e-2
    assert (lid.transform(wrong) ^ body).volume() > 1.0


def cut_as_told(made: Plan, wrong: float = 0.0, gauge: str = "height") -> float:
    """How much wood the mortises and pockets as their steps tell differ from those of the pieces (mm³)."""
    lid = made.section.lid
    assert lid is not None
    box, taken = glued(plan(revised(made.job, hinges=None, magnets=None))), []
    named = {piece.id: piece for piece in made.pieces}
    for step in made.steps:
        if step.operation not in ("hinge_mortise", "magnet_bore"):
            continue
        told = settings_moved(step, gauge, wrong)
        place = named[step.pieces[0]].place
        along, out = np.array(place.x), -np.array([place.z[0], place.z[1], 0.0])
        out = out / np.linalg.norm(out)
        start = np.array(place.origin)
        face = np.array(place.of((0.0, 1.0, 0.0))) - start  # up the face
        deep, wide = values(told, "height")[0], values(told, "width")[0]
        rims = zip(
            (lid.lost_low_mm, lid.lost_high_mm), (-1.0, 1.0), (wide, values(told, "width")[-1]), strict=True
        )
        for level, way, wide in rims:
            at_rim = start + face * (level / face[2])  # on the outer face, at the rim
            at_rim = at_rim - along * ((at_rim - start) @ along)
            wall = named[step.pieces[0]].thickness_mm / np.linalg.norm([place.z[0], place.z[1]])
            stops = values(told, "stop")
            if step.operation == "hinge_mortise":
                for begins, ends in zip(stops[::2], stops[1::2], strict=True):
                    corners = [
                        at_rim + along * a - out * inward + np.array([0.0, 0.0, z])
                        for a in (begins, ends) for inward in (-5.0, wide) for z in (way * deep, -way * 0.9)
                    ]  # fmt: skip
                    taken.append(manifold3d.Manifold.hull_points(np.array(corners)))
            else:
                for at in stops:
                    middle = at_rim + along * at - out * wall / 2
                    turns = np.linspace(0, 2 * np.pi, 48, endpoint=False)
                    ring = [middle + along * np.cos(t) * wide / 2 + out * np.sin(t) * wide / 2 for t in turns]
                    corners = [p + np.array([0.0, 0.0, z]) for p in ring for z in (way * deep, -way * 0.9)]
                    taken.append(manifold3d.Manifold.hull_points(np.array(corners)))
    left = box
    for one in taken:
        left -= one
    # Where the lid is sawn free the two rims are apart; what is cut in between is no wood any more.
    whole = manifold3d.Manifold.batch_boolean(
        [in_box(p, solid(p, without=("slot", "lid_kerf"))) for p in made.pieces if p.part == "side"],
        manifold3d.OpType.Add,
    )
    first, second = (
        m.trim_by_plane([0.0, 0.0, -1.0], -lid.lost_low_mm)
        + m.trim_by_plane([0.0, 0.0, 1.0], lid.lost_high_mm)
        for m in (left, whole)
    )
    return (first - second).volume() + (second - first).volume()


@pytest.mark.parametrize("lean", [0.0, 8.0])
def test_mortises_and_pockets_are_cut_as_told(lean: float) -> None:
    made = plan(revised(BOX, slopes_deg=(lean,), bottom=Panel(depth_mm=4.0), top=None))
    assert cut_as_told(made) < 0.5
    for gauge in ("height", "width", "stop"):
        assert cut_as_told(made, 0.4, gauge) > 2.0


@pytest.mark.parametrize(
    ("box", "changes", "code"),
    [*((BOX, *one) for one in PROVOKED), *((SEAMED, *one) for one in SEAM_PROVOKED)],
)
def test_what_is_wrong_is_said_and_mended(box: Job, changes: dict[str, object], code: str) -> None:
    job = revised(box, **changes)  # type: ignore[typeddict-item]
    found = next(finding for finding in plan(job).findings if finding.code == code)
    assert code not in {f.code for f in plan(applied(job, found.fixes[0].changes)).findings}


def test_keys_keep_clear_of_hinges() -> None:
    near = revised(BOX, hinges=Hinges(inset_mm=15.0), keys=Keys(count=3, depth_mm=13.0))
    assert "mortise" in {out.why for out in plan(near).keys.keep_outs}


@pytest.mark.parametrize(
    "job",
    [
        SEAMED, revised(SEAMED, shape=Regular(6, 120.0)), revised(SEAMED, slopes_deg=(7.0,)), ROOFED,
        revised(ROOFED, cover=Gable(ridge="across", pitch_deg=25.0)),
        revised(SEAMED, cover=Split(fixed_mm=60.0, gap_mm=2.4)),
    ],
)  # fmt: skip
def test_the_loose_board_of_a_lid_turns_on_its_hinges(job: Job) -> None:
    """Leaves in the gap between both edges, in no wood; swung up about an axis over the seam, nothing is met."""
    made = plan(job)
    assert made.buildable, [f.code for f in made.findings if f.severity == "stop"]
    seam, own = seam_of(made), job.design.section.hinges
    assert seam is not None
    assert own is not None
    wood = {p.id: in_box(p, solid(p)) for p in made.pieces}
    rest = manifold3d.Manifold.batch_boolean(
        [m for name, m in wood.items() if name != seam.loose.id], manifold3d.OpType.Add
    )
    loose = wood[seam.loose.id]
    for spot in seam_spots(own, seam):
        for way in (-1.0, 1.0):  # either leaf, from the axis down, against its own board
            leaf = manifold3d.Manifold.hull_points(np.array([
                seam.at(run, out, level)
                for run in (spot.begins_mm, spot.ends_mm) for out in (0.0, way * own.thick_mm)
                for level in (seam.top_mm + own.out_mm, seam.top_mm + own.out_mm - own.leaf_mm)
            ]))  # fmt: skip
            board = loose if way > 0 else wood[seam.fixed.id]
            assert (leaf ^ board).volume() < 1e-2
            off = leaf.translate([0.05 * way * seam.across[0], 0.05 * way * seam.across[1], 0.0])
            assert (off ^ board).volume() > 1e-3
    point, along = np.array(seam.at(0.0, 0.0, seam.top_mm + own.out_mm)), np.array([*seam.along, 0.0])
    across, up = np.array([*seam.across, 0.0]), np.array([0.0, 0.0, 1.0])
    for degrees in (0.05, 5.0, 30.0, 60.0, 90.0, 100.0):
        c, s = np.cos(np.radians(degrees)), np.sin(np.radians(degrees))
        turn = (
            np.outer(along, along) + c * (np.outer(across, across) + np.outer(up, up))
            + s * (np.outer(up, across) - np.outer(across, up))
        )  # fmt: skip
        moved = loose.transform(np.column_stack([turn, point - turn @ point]))
        assert (moved ^ rest).volume() < 1e-2, degrees


@pytest.mark.parametrize("lean", [0.0, 6.0, -5.0])
def test_bores_and_legs_lie_where_the_steps_tell(lean: float) -> None:
    """Middles, lines and depths as told, measured on the rims of the solid: from faces and corners, not from plans."""
    box = revised(BOX, magnets=None, slopes_deg=(lean,), thicknesses_mm=(14.0,))
    made = plan(revised(box, hinges=BARRELS))
    step = next(step for step in made.steps if step.operation == "hinge_bore")
    side = next(piece for piece in made.pieces if piece.id == "side.C")
    lid, (x0, y0, _z) = made.section.lid, side.place.origin
    assert lid is not None
    for word, level, in_mm, way in (
        ("body", lid.lost_low_mm, step.numbers["in_mm"], -1.0),
        ("lid", lid.lost_high_mm, step.numbers["in_lid_mm"], 1.0),
    ):
        face = made.ring.slabs[2].outer_mm(level)
        for number, along in enumerate(values(step, "stop"), 1):
            bore = next(f for f in side.features if f.id == f"side.C.hinge.{number}.{word}")
            ends = [np.array([side.place.of(p) for p in end]) for end in bore.ends]
            middle = ends[1].mean(axis=0)
            assert middle[2] == pytest.approx(level + way * values(step, "height")[0])
            out = made.ring.slabs[2].ux * middle[0] + made.ring.slabs[2].uy * middle[1]
            assert face - out == pytest.approx(in_mm)
            run = np.array(side.place.x) @ (middle - np.array([x0, y0, middle[2]]))
            assert run == pytest.approx(along)
    made = plan(revised(box, hinges=QUADRANTS))
    step = next(step for step in made.steps if step.operation == "hinge_mortise")
    low = lid.lost_low_mm
    beside, hinged = made.ring.slabs[1], made.ring.slabs[2]
    piece = next(p for p in made.pieces if p.id == "side.B")
    legs = [f for f in piece.features if f.id.endswith("body.leg")]
    (leg,) = legs
    points = [piece.place.of(p) for p in leg.ends[1]]
    ins = [beside.outer_mm(low) - (beside.ux * x + beside.uy * y) for x, y, _z in points]
    backs = [hinged.outer_mm(low) - (hinged.ux * x + hinged.uy * y) for x, y, _z in points]
    assert (min(ins), max(ins)) == pytest.approx((2.5, 2.5 + step.numbers["leg_wide_mm"]))
    assert max(backs) == pytest.approx(step.numbers["leg_mm"])
    assert points[0][2] == pytest.approx(low - values(step, "height")[0])
