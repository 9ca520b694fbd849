"""Every sentence about what is wrong is reached by some box, and reads whole in mm and inches, point and comma."""

import random
import re

import pytest
from msgspec.structs import replace

from peristyle.core.errors import ShapeError
from peristyle.core.lengths import Format
from peristyle.core.planes import simple_corner
from peristyle.model.design import (
    Alternating,
    CornerBlocks,
    Dividers,
    DropIn,
    EdgeProfile,
    FalseFloor,
    Feet,
    Flat,
    Gable,
    Handle,
    Hinges,
    House,
    Inlay,
    Insert,
    Keys,
    Latch,
    Lid,
    LiftOff,
    Liner,
    Magnets,
    Opening,
    Outline,
    Panel,
    Rectangle,
    Regular,
    Seasons,
    Segments,
    Sliding,
    Splines,
    Split,
    Strip,
    Thing,
    Together,
    Tray,
)
from peristyle.model.job import Coating, Job, OwnStep, Saw, Work, job_of, revised
from peristyle.model.progress import with_done
from peristyle.model.section_edits import COVERS, MOULDINGS, with_moulding
from peristyle.model.stock import Board, Break, From
from peristyle.model.tools import STARTING, BandSaw, Bit, Clamp, MiterSaw, Uses
from peristyle.planning.findings import Finding, Place
from peristyle.planning.making.asdone import values_of
from peristyle.planning.plan import plan
from peristyle.words import finding_texts, fix_labels, reading, step_reasons, step_texts, step_titles, steps
from peristyle.words import findings as words
from peristyle.words.corners import settings_told
from support import bench, edged, fits, fitted, hung_boxes, inner_rings, mouldings, plated
from support.corners import hopeless_corners, strengthened
from support.designs import random_design
from support.telling import with_fix

# A hole that nothing filled, a word twice (“¼ in in”), nothing told as a size, one of many.
NOT_READ = re.compile(
    r"[{}_]|None|\.\.|  | [,.;]|\b([a-z]{2,}) \1\b|[−-]0(?![.,\d])|(?<![\d.,])0\u202f(?:mm|in)\b.*\bopen\b"
    r"|(?<![\d.,⁄])1 (?:slots|cuts|passes|keys|feet|strips|splines|hinges|pairs|segments|triangles|wedges|edges)\b"
)
BOX = job_of(shape=Rectangle(240.0, 160.0), height_mm=90.0, board=Board(length_mm=900.0, thickness_mm=9.0))
LEANING = revised(BOX, slopes_deg=(12.0,), board=Board(length_mm=3000.0, width_mm=300.0))
ROUGH = Board(
    length_mm=3000.0, width_mm=500.0, thickness_mm=30.0, edge_mm=3.0, across_mm=12.0, planing_mm=2.0, creep_mm=1.0,
    face="back", turned=True,
)  # fmt: skip
CARDS = Thing(name="cards", length_mm=60.0, width_mm=40.0, height_mm=20.0)


def ring(lengths: tuple[float | None, ...], corners: tuple[float | None, ...]) -> object:
    return revised(BOX, shape=Outline(lengths, corners))


LEFT_ASIDE: tuple[dict[str, object], ...] = (
    {"segments": Segments()}, {"strips": 3}, {"sheet": True}, {"grain": "width"},
)  # fmt: skip
LEAVES = revised(
    BOX,
    bottom=Panel(leaves=True),
    board=Board(length_mm=1600.0, width_mm=260.0, thickness_mm=30.0, resaw=True),
)
BOXES = [
    LEAVES,
    revised(LEAVES, board=replace(LEAVES.stock.board, resaw=False)),
    *(revised(LEAVES, bottom=replace(Panel(leaves=True), **more)) for more in LEFT_ASIDE),
    revised(BOX, bottom=Panel(strips=3, segments=Segments())),
    revised(BOX, bottom=Panel(strips=3, sheet=True)),
    revised(BOX, bottom=Panel(), false_floor=FalseFloor(strips=3)),
    revised(BOX, cover=LiftOff(wood="white ash"), seasons=Seasons()),
    revised(BOX, contents=(CARDS,), lid=Lid()),
    revised(LEAVES, board=replace(LEAVES.stock.board, length_mm=700.0)),
    revised(LEAVES, board=replace(LEAVES.stock.board, width_mm=76.0)),
    revised(LEAVES, bottom=Panel(leaves=True, thickness_mm=14.0)),
    revised(LEAVES, breaks=(Break(after=1, board="Gone"),)),
    revised(LEAVES, breaks=(Break(after=1, skip_mm=30.0),)),
    revised(BOX, board=Board(sheet=True), banding_mm=0.0),
    *(
        revised(
            BOX,
            rack=(Board(name="Spare", **small),),
            breaks=(Break(after=1, board="Spare"),),
            lid=Lid(),
            board=Board(sheet=True),
        )
        for small in ({"length_mm": 200.0}, {"width_mm": 40.0}, {"thickness_mm": 5.0}, {"length_mm": 2000.0})
    ),
    revised(
        BOX,
        rack=(Board(name="Spare"),),
        board=Board(method="upright"),
        breaks=(Break(after=1, board="Spare"),),
    ),
    revised(
        LEANING,
        slopes_deg=(5.0, 6.0, 5.0, 6.0),
        rack=(Board(name="Spare"),),
        breaks=(Break(after=1, board="Spare"),),
    ),
    revised(BOX, saw=Saw(kind="chamfer_bit", stops_deg=(30.0,))),
    revised(BOX, dividers=Dividers(across=3, widths_mm=(90.0, 90.0, 90.0))),
    revised(BOX, dividers=Dividers(along=50, thickness_mm=6.0)),
    revised(
        BOX,
        shape=Rectangle(240.0, 800.0),
        board=Board(length_mm=3000.0),
        dividers=Dividers(across=0, along=60, thickness_mm=14.0),
    ),
    revised(BOX, bottom=Panel(height_mm=88.0)),
    revised(BOX, top=Panel(height_mm=88.0), bottom=Panel()),
    *(revised(LEANING, bottom=Panel(groove=way)) for way in ("level", "square", "tongue")),
    revised(LEANING, slopes_deg=(50.0,), bottom=Panel(groove="tongue", thickness_mm=2.5)),
    revised(LEANING, slopes_deg=(35.0,), bottom=Panel(groove="tongue", depth_mm=6.0)),
    revised(LEANING, slopes_deg=(50.0,), bottom=Panel(groove="level")),
    revised(LEANING, slopes_deg=(40.0,), bottom=Panel(groove="square", thickness_mm=5.0, depth_mm=3.0)),
    revised(BOX, bottom=Panel(height_mm=14.0), keys=Keys(depth_mm=9.0, positions_mm=(16.0,))),
    revised(BOX, lid=Lid(height_mm=24.0), keys=Keys(positions_mm=(20.0, 64.0))),
    revised(BOX, keys=Keys(positions_mm=(5.0, 60.0))),
    revised(BOX, thicknesses_mm=(2.0,), keys=Keys(depth_mm=4.0, wall_margin_mm=3.0)),
    revised(BOX, thicknesses_mm=(3.0,), splines=Splines(place_mm=4.0, depth_mm=2.0)),
    revised(BOX, keys=Keys(positions_mm=(40.0, 41.0))),
    revised(BOX, keys=Keys(positions_mm=(89.5,))),
    revised(BOX, lid=Lid(height_mm=1.0)),
    revised(BOX, board=replace(BOX.stock.board, shift_mm=300.0)),
    revised(BOX, bottom=Panel(thickness_mm=40.0), height_mm=200.0, saw=Saw(kerf_mm=0.1)),
    revised(BOX, shape=House(240.0, 4.0, 30.0, overhang_mm=8.0), thicknesses_mm=(30.0,)),
    ring((120.0, 80.0, 120.0, 81.0), (90.0,) * 4),
    ring((120.0, 80.0, 120.0, 85.0), (90.0, 90.0, 90.0, 90.0)),
    ring((120.0, 80.0, 110.0, 85.0), (90.0,) * 4),
    ring((120.0, 80.0, 120.0, 80.0), (90.0, 90.0, 90.0, 95.0)),
    ring((100.0, 100.0, 101.0), (60.0, 60.0, 60.0)),
    ring((5.0, 5.0, 5.0, 500.0), (90.0, 90.0, 90.0, 90.0)),
    ring((1.0, 1.0, 100.0), (None, None, None)),
    ring((1.0, None, None, 2.0), (None, None, 90.0, 90.0)),
    ring((None,) * 3, (60.0,) * 3),
    ring((80.0,) * 4, (90.0, 90.0, 200.0, 90.0)),
    revised(BOX, shape=Regular(12, 2.0, "inside"), thicknesses_mm=(3.0, 60.0, 3.0, *(30.0,) * 9)),
    revised(BOX, contents=(CARDS,), dividers=Dividers(widths_mm=(20.0, 30.0))),
    revised(
        BOX,
        shape=Regular(5, 160.0),
        openings=(Opening(both=True), Opening(up_mm=2.0), Opening(along_mm=22.0)),
    ),
    revised(BOX, bottom=Panel(), openings=(Opening(kind="slot", both=True, up_mm=24.0), Opening(up_mm=14.0))),
    revised(BOX, lid=Lid(), openings=(Opening(kind="notch"), Opening(side=1, both=True))),
    *(
        revised(BOX, feet=Feet(kind=kind, size_mm=size))
        for kind in ("block", "mitered", "wedge")
        for size in (8.0, 90.0)
    ),
    revised(BOX, feet=Feet(kind="wedge"), board=Board(method="bevel_direct")),
    revised(BOX, shape=Regular(3, 90.0), saw=Saw(kind="miter_saw"), board=Board(method="bevel_direct")),
    revised(BOX, feet=Feet(kind="wedge"), thicknesses_mm=(9.0, 9.0, 7.0, 9.0)),
    revised(BOX, feet=Feet(), shape=House(240.0, 90.0, 30.0)),
    revised(BOX, feet=Feet(), bottom=Panel(seat="applied", overhang_mm=5.0)),
    revised(BOX, feet=Feet(size_mm=18.0), shape=Regular(24, 400.0, "across_flats")),
    revised(BOX, feet=Feet(kind="wedge", size_mm=18.0), shape=Regular(24, 400.0, "across_flats")),
    revised(
        BOX,
        bottom=Panel(),
        lid=Lid(),
        keys=Keys(thickness_mm=3.0),
        uses=Uses(groove="Dado set", slot="Straight bit 4", lid="Band saw", glue="Bar clamps"),
    ),
    revised(
        BOX,
        bottom=Panel(thickness_mm=6.0),
        lid=Lid(),
        keys=Keys(),
        board=Board(thickness_mm=20.0),
        uses=Uses(
            groove="Straight bit 6",
            slot="Fine hand saw",
            lid="Fine hand saw",
            glue="Band clamp",
            rip="Band saw",
            plane="Drum sander",
        ),
        work=Work(
            finish="after",
            keys="after_lid",
            own=(OwnStep("own.1", "Sharpen", "All of it"), OwnStep("own.2", "Sweep")),
        ),
    ),
    revised(BOX, shape=Regular(6, 100.0), uses=Uses(glue="Bar clamps")),
    revised(BOX, bottom=Panel(seat="rabbet", thickness_mm=6.0), uses=Uses(rabbet="Straight bit 4")),
    revised(BOX, bottom=Panel(seat="rabbet", proud_mm=2.0), top=Panel(seat="rabbet", thickness_mm=5.0)),
    revised(BOX, bottom=Panel(seat="rabbet", thickness_mm=6.0), thicknesses_mm=(9.0, 9.0, 8.0, 9.0)),
    revised(
        BOX, bottom=Panel(seat="rabbet", depth_mm=9.0), top=Panel(seat="rabbet", depth_mm=6.0, proud_mm=3.9)
    ),
    revised(LEANING, bottom=Panel(seat="rabbet")),
    revised(BOX, bottom=Panel(seat="rabbet", play_mm=4.0)),
    revised(BOX, bottom=Panel(), thicknesses_mm=(0.015,)),
    revised(BOX, saw=Saw(kind="miter_saw", stop_deg=30.0, high_mm=100.0)),
    revised(BOX, saw=Saw(sled_mm=200.0)),
    revised(BOX, saw=Saw(kind="miter_saw", stop_deg=30.0, high_mm=60.0)),
    revised(LEANING, slopes_deg=(50.0,), tools=(MiterSaw(swing_deg=20.0),), uses=Uses(crosscut="Miter saw")),
    revised(BOX, contents=(replace(CARDS, made=True),), board=Board(method="bevel_direct", creep_mm=1.0)),
    revised(BOX, board=Board(thickness_mm=25.0, resaw=True), uses=Uses(resaw="Band saw", plane="Planer")),
    revised(BOX, board=Board(thickness_mm=19.0, resaw=True), liner=Liner(gap_mm=0.1)),
    revised(
        BOX,
        shape=Alternating(8, 394.7, 329.5),
        slopes_deg=(-6.5, 24.5, 27.4, -19.2, -19.2, 25.3, 14.6, 1.8),
        height_mm=156.0,
        keys=Keys(depth_mm=11.2),
    ),
    revised(BOX, shape=Rectangle(700.0, 160.0), uses=Uses(glue="Bar clamps", lid="Band saw"), lid=Lid()),
    revised(BOX, tools=(Clamp(name="Few", holds="bar", count=1, opens_mm=900.0),), uses=Uses(glue="Few")),
    revised(BOX, tools=(Clamp(name="Band", opens_mm=100.0),), uses=Uses(glue="Band")),
    revised(BOX, tools=(Clamp(name="Corners", holds="corner", count=9),), uses=Uses(glue="Corners")),
    revised(
        BOX,
        tools=(Bit(name="Hair", width_mm=0.1),),
        uses=Uses(groove="Hair"),
        bottom=Panel(thickness_mm=40.0),
        height_mm=200.0,
    ),
    revised(LEANING, bottom=Panel(thickness_mm=6.0), uses=Uses(groove="Straight bit 6")),
    revised(BOX, dividers=Dividers(thickness_mm=7.0), uses=Uses(dado="Straight bit 6")),
    revised(
        BOX,
        shape=Regular(8, 100.0),
        slopes_deg=(34.8,),
        thicknesses_mm=(10.4, 12.3, 11.4, 13.3, 10.1, 14.0, 11.0, 12.6),
        board=Board(method="bevel_direct", length_mm=3000.0, width_mm=300.0),
    ),
    *(
        revised(box, board=replace(ROUGH, method=way))
        for way in ("flip_shared", "book", "upright", "none", "square_first")
        for box in (
            revised(BOX, bottom=Panel(), dividers=Dividers(), openings=(Opening(),), feet=Feet()),
            revised(
                BOX, bottom=Panel(seat="rabbet"), top=Panel(), lid=Lid(), openings=(Opening(kind="notch"),)
            ),
            revised(BOX, work=Work(finish="after")),
            LEANING,
            revised(BOX, saw=Saw(kind="chamfer_bit")),
            revised(BOX, thicknesses_mm=(9.0, 8.0, 9.0, 8.0)),
            revised(BOX, saw=Saw(stop_deg=20.0)),
            revised(BOX, shape=House(240.0, 90.0, 30.0)),
            revised(BOX, shape=Regular(3, 200.0)),
            revised(BOX, shape=Regular(5, 200.0)),
        )
    ),
    *(revised(BOX, board=Board(method=way)) for way in ("flip_shared", "book", "upright", "none")),
    revised(BOX, board=Board(width_mm=100.0, across_mm=15.0)),
    revised(BOX, shape=Regular(8, 200.0), thicknesses_mm=(4.0, 14.0) * 4, board=Board(method="upright")),
    revised(BOX, thicknesses_mm=(9.0, 7.0, 9.0, 7.0), feet=Feet(kind="wedge"), saw=Saw(stop_deg=60.0)),
    revised(BOX, board=Board(method="flip_shared"), feet=Feet(kind="wedge")),
    *(
        revised(
            BOX,
            bottom=Panel(),
            liner=Liner(),
            board=Board(sheet=True),
            lid=lid,
            rack=(Board(name="Scrap", length_mm=90.0, width_mm=60.0, thickness_mm=2.0),),
            parts=From(panels="Scrap", liner="Scrap"),
        )
        for lid in (None, Lid())
    ),
    revised(BOX, board=Board(method="upright", width_mm=100.0)),
    *(
        revised(BOX, cover=kind(), **more)
        for kind in COVERS.values()
        for more in (
            {},
            {"lid": Lid(), "bottom": Panel(seat="applied")},
            {"top": Panel(), "shape": Regular(6, 120.0)},
            {"slopes_deg": (9.0,), "seasons": Seasons(), "bottom": Panel(wood="driftwood")},
            {
                "shape": Regular(6, 40.0),
                "thicknesses_mm": (30.0,),
                "bottom": Panel(seat="applied", overhang_mm=3.0),
            },
        )
    ),
    *(
        revised(BOX, cover=Insert(what=what, hole_mm=8.0, proud_mm=1.0))
        for what in ("slate", "glass", "tile", "lattice")
    ),
    revised(BOX, cover=DropIn(hole_mm=100.0)),
    revised(BOX, cover=Gable(pitch_deg=60.0), bottom=Panel()),
    revised(BOX, cover=Sliding(side=7), shape=Regular(3, 200.0)),
    revised(BOX, cover=Split(fixed_mm=500.0)),
    revised(BOX, cover=LiftOff(plug_mm=95.0)),
    revised(BOX, cover=LiftOff(), contents=(CARDS,)),
    revised(BOX, false_floor=FalseFloor()),
    revised(LEANING, false_floor=FalseFloor(hole_mm=0.0), bottom=Panel()),
    revised(
        LEANING, slopes_deg=(-12.0,), false_floor=FalseFloor(height_mm=6.0), bottom=Panel(seat="applied")
    ),
    *(
        revised(BOX, bottom=Panel(), false_floor=FalseFloor(**off), dividers=Dividers())
        for off in ({"ledge_mm": 1.0}, {"hole_mm": 90.0}, {"height_mm": 85.0})
    ),
    *(
        revised(BOX, bottom=Panel(wood="cherry", **panel), seasons=seasons, board=board)
        for seasons in (
            Seasons(),
            Seasons(driest=60.0),
            Seasons(by="moisture", now=9.0, driest=5.0, dampest=14.0),
        )
        for board in (BOX.stock.board, Board(method="upright", wood="driftwood", width_mm=700.0))
        for panel in ({"play_mm": 0.1}, {"depth_mm": 1.6, "play_mm": 0.6}, {"seat": "applied"})
    ),
    revised(BOX, bottom=Panel(), seasons=Seasons(), cover=DropIn(wood="cherry", play_mm=0.1)),
    *(
        revised(
            BOX,
            cover=cover,
            board=Board(method="upright", width_mm=900.0),
            bottom=Panel(seat="applied", sheet=True),
        )
        for cover in (Gable(), Sliding())
    ),
    revised(BOX, cover=Gable(pitch_deg=20.0), dividers=Dividers(height_mm=20.0)),
    revised(BOX, bottom=Panel(), false_floor=FalseFloor(), lid=Lid()),
    revised(BOX, bottom=Panel(), false_floor=FalseFloor(), corner_blocks=CornerBlocks()),
    *(
        revised(box, lid=Lid(height_mm=30.0), hinges=Hinges(**own), magnets=Magnets(**held))
        for box in (BOX, LEANING)
        for own, held in (
            ({}, {}),
            ({"leaf_mm": 14.0}, {"wide_mm": 11.0}),
            ({"leaf_mm": 3.0}, {"thick_mm": 40.0}),
            ({"barrel_mm": 8.0, "out_mm": 0.5}, {}),
            ({"screw_mm": 40.0}, {"inset_mm": 3.0}),
            ({"inset_mm": 4.0}, {"side": 2, "inset_mm": 40.0}),
            ({}, {"side": 2, "inset_mm": 40.0}),
        )
    ),
    revised(BOX, hinges=Hinges(), magnets=Magnets()),
    *(
        revised(BOX, top=None, cover=cover, liner=Liner(height_mm=89.0), dividers=Dividers(height_mm=89.0))
        for cover in (Sliding(), DropIn())
    ),
    revised(BOX, top=None, cover=DropIn(), contents=(replace(CARDS, height_mm=89.0),)),
    *(
        revised(BOX, shape=Rectangle(1.0, 1.0), contents=(CARDS,), corner_blocks=CornerBlocks(above_mm=above))
        for above in (0.0, 40.0)
    ),
    revised(BOX, shape=Regular(11, 80.0), dividers=Dividers(across=2, along=2), corner_blocks=CornerBlocks()),
    revised(BOX, lid=Lid(), hinges=Hinges(), liner=Liner(height_mm=74.0, gap_mm=0.2)),
    *(revised(BOX, strip=Strip(), lid=lid, liner=Liner(height_mm=88.0)) for lid in (None, Lid())),
    revised(BOX, strip=Strip(height_mm=400.0, over_mm=80.0), lid=Lid()),
    revised(BOX, liner=Liner(height_mm=89.0), lid=Lid()),
    revised(BOX, bottom=Panel(strips=3), top=Panel(sheet=True), cover=None),
    revised(BOX, bottom=Panel(depth_mm=0.01, play_mm=0.0), thicknesses_mm=(0.015,)),
    *(revised(edged.BOX, **changes) for changes, _code in edged.PROVOKED),
    *(revised(hung_boxes.BOX, **changes) for changes, _code in hung_boxes.PROVOKED),
    *(
        revised(hung_boxes.BOX, hinges=own, slopes_deg=(lean,))
        for own in (hung_boxes.QUADRANTS, hung_boxes.BARRELS)
        for lean in (0.0, 6.0)
    ),
    revised(hung_boxes.BOX, lid=None, top=None, cover=Flat(), hinges=hung_boxes.QUADRANTS),
    *(revised(hung_boxes.SEAMED, **changes) for changes, _code in hung_boxes.SEAM_PROVOKED),
    hung_boxes.ROOFED,
    *(revised(plated.BOX, **changes) for changes, _code in plated.PROVOKED),
    *(revised(inner_rings.BOX, **changes) for changes, _code in inner_rings.PROVOKED),
    *(revised(inner_rings.BOX, **changes) for changes in inner_rings.SHOWN),
    *(revised(plated.BOX, **changes) for changes in plated.SHOWN),
    revised(plated.BOX, latch=Latch(in_mm=1.0), lid_edges=EdgeProfile(size_mm=1.0)),
    *fits.misfits(),
    revised(hung_boxes.BOX, top=None, hinges=hung_boxes.BARRELS, lid_edges=EdgeProfile(size_mm=1.0)),
    *(
        revised(
            BOX,
            contents=(Thing(count=count, round=ball, length_mm=20.0, width_mm=15.0, height_mm=10.0),),
            together=Together(high_mm=high),
        )
        for count, ball, high in ((4, False, 0.0), (30, False, 0.0), (4, True, 0.0), (4, False, 5.0))
    ),
    revised(edged.BOX, lining_mm=3.0, hinges=Hinges()),
    *(
        revised(BOX, cover=Flat(thickness_mm=thick), hinges=Hinges(), magnets=Magnets())
        for thick in (3.0, 9.0)
    ),
    revised(
        BOX, contents=(Thing(made=True, length_mm=20.0, width_mm=15.0, height_mm=10.0),), together=Together()
    ),
    *(revised(fitted.COVERED, **changes) for changes, _code in fitted.PROVOKED),
    *(
        revised(
            box,
            inlay=Inlay(on=on, round=ball, length_mm=40.0),
            handle=Handle(kind=kind, on=on, length_mm=40.0),
        )
        for box in fitted.FACES
        for on, ball, kind in (("top", False, "pull"), ("front", True, "wedge"), ("top", True, "wedge"))
    ),
    revised(BOX, inlay=Inlay(on="front"), board=Board(method="upright", width_mm=900.0)),
    revised(BOX, top=Panel(), lid=Lid(height_mm=11.0)),
    *(revised(mouldings.MOULDED, **changes) for changes, _code in mouldings.PROVOKED),
    *(
        with_moulding(revised(mouldings.MOULDED, bottom=Panel(seat=seat, thickness_mm=8.0)), kind)
        for seat in ("groove", "applied")
        for kind in MOULDINGS
    ),
    *(
        revised(edged.BOX, lining_mm=3.0, dividers=across, corner_blocks=blocks, openings=(Opening(),))
        for across, blocks in ((Dividers(), None), (None, CornerBlocks()))
    ),
    *(edged.random_edges(seed) for seed in range(6)),
    *(
        revised(edged.BOX, lining_mm=thick, shape=shape)
        for thick in (0.6, 3.0)
        for shape in (Regular(3, 200.0), Rectangle(240.0, 160.0))
    ),
    *(strengthened(seed) for seed in range(80)),
    *hopeless_corners(),
]


def begun_and_changed() -> list[Job]:
    """Boxes whose ends and grooves were cut before they were made shorter, longer, or both."""
    found = []
    for long, up in ((230.0, 6.0), (250.0, 6.0), (230.0, 9.0)):
        job = begun = revised(BOX, bottom=Panel(height_mm=6.0))
        for step in plan(begun).steps:
            if step.operation in ("crosscut", "bevel", "groove"):
                job = with_done(job, step.id, 1, values_of(step))
        found.append(revised(job, shape=Rectangle(long, 160.0), bottom=Panel(height_mm=up)))
    return found


def new_findings() -> list[Job]:
    """Boxes for findings that no other of these has: boards too high to resaw, a low lip, veneer too thick."""
    high = Board(width_mm=400.0, thickness_mm=30.0, resaw=True)
    lipped = revised(BOX, height_mm=80.0, bottom=Panel(), top=Panel(), lid=Lid(height_mm=24.0), liner=Liner())
    body = plan(lipped).section.lid.lost_low_mm - lipped.design.floor_mm
    return [
        revised(BOX, board=high, tools=()),
        revised(BOX, board=high, tools=(BandSaw(),), uses=replace(BOX.shop.uses, resaw="Band saw")),
        revised(lipped, liner=Liner(height_mm=body + 1.0)),
        revised(
            BOX, keys=Keys(kind="veneer", thickness_mm=0.9), uses=replace(BOX.shop.uses, slot="Fine hand saw")
        ),
    ]


def test_every_sentence_is_reached_and_whole() -> None:
    formats = (Format("mm"), Format("in", ","))
    jobs = [*BOXES, *begun_and_changed(), *(random_design(random.Random(seed)) for seed in range(300))]
    jobs += new_findings()
    findings = [finding for job in jobs for finding in plan(job).findings]
    try:
        simple_corner(181.0)
    except ShapeError as error:
        findings.append(Finding(error.code, "stop", Place("ring"), dict(error.numbers)))
    reached = set()
    for finding in findings:
        reached.add(f"{finding.code}/{finding.kind}" if finding.kind else finding.code)
        reached |= {f"{finding.code}+{more}" for more in finding.more} | {
            f"fix {fix.key}" for fix in finding.fixes
        }
        for fmt in formats:
            said = [words.said(finding, fmt), *(words.offered(fix, fmt) for fix in finding.fixes)]
            assert not [text for text in said if NOT_READ.search(text)]
            assert said[0].endswith((".", ")"))
            assert words.UNTOLD[:20] not in said[0]
    # The geometry's last resort: no ring has been found yet that needs it.
    reached.add("outline_open")
    missing = (set(finding_texts.TEXTS) | {f"fix {key}" for key in fix_labels.LABELS}) - reached
    assert not missing


# What nothing mends by itself: the maker's own choice, or what can only be known of.
_NO_FIX = {
    "bevel_not_given", "bevel_past_stop", "book_seams", "contents_do_not_fit", "cut_already", "dado_past_stop",
    "flip_shows_back", "grain_turns", "groove_leans", "keys_no_lid", "keys_not_mirrored", "keys_not_spaced",
    "outline_concave", "part_board_small", "part_board_thin", "rip_past_stop", "roof_laid_on", "sheet_banded",
    "side_past_sled", "side_vanishes", "upright_moves", "wish_front", "wish_height",
}  # fmt: skip


def test_every_finding_has_a_box_at_its_limit_that_is_free_of_it() -> None:
    """The value on a fix's button is the limit: the same box with it has the finding no more."""
    jobs = [*BOXES, *begun_and_changed(), *(random_design(random.Random(seed)) for seed in range(300))]
    known = {key.split("/")[0].split("+")[0] for key in finding_texts.TEXTS} - {"corner_not_convex"}
    seen: dict[str, int] = {}
    free: set[str] = set()
    for job in (*jobs, *new_findings()):
        made = plan(job)
        for finding in made.findings:
            seen[finding.code] = seen.get(finding.code, 0) + 1
            if finding.code in free or seen[finding.code] > 6:
                continue
            tried = (plan(with_fix(made.job, fix)) for fix in finding.fixes)
            if any(all(other.code != finding.code for other in after.findings) for after in tried):
                free.add(finding.code)
    assert known <= set(seen)
    assert known - free == _NO_FIX
    assert not {finding.code for finding in plan(revised(BOX, lid=None, top=None)).findings} & _NO_FIX


def test_a_liners_findings_name_the_liner() -> None:
    high = revised(
        LEANING, slopes_deg=(-30.0,), liner=Liner(height_mm=80.0, thickness_mm=9.0), shape=Regular(6, 74.0)
    )
    said = [words.said(f, Format("in", ",")) for f in plan(high).findings if f.code.startswith("liner_")]
    assert said
    assert all("iner" in text for text in said)


def test_every_step_is_told_whole() -> None:
    formats = (Format("mm"), Format("in", ","))
    leaning = revised(BOX, slopes_deg=(9.0, -5.0, 9.0, -5.0), bottom=Panel(), lid=Lid(), keys=Keys())
    pie, hole = Panel(segments=Segments()), Panel(segments=Segments(count=7, style="ring", ring_mm=30.0))
    creep = Board(length_mm=3000.0, width_mm=300.0, creep_mm=1.0)
    direct = replace(creep, method="bevel_direct", creep_mm=0.0)
    jobs = [
        *BOXES, leaning, revised(leaning, board=creep), revised(leaning, saw=Saw(kind="miter_saw", stop_deg=20.0)),
        *(revised(leaning, saw=Saw(kind=kind)) for kind in ("chamfer_bit", "shooting_board")),
        revised(BOX, shape=Regular(3, 200.0), bottom=pie),
        revised(BOX, shape=Regular(7, 100.0), bottom=hole, lid=Lid()),
        revised(BOX, shape=Regular(3, 200.0), saw=Saw(kind="miter_saw")), revised(BOX, board=creep),
        revised(BOX, board=direct, top=Panel(), bottom=Panel()), revised(BOX, board=replace(direct, creep_mm=1.0)),
        revised(BOX, board=Board(thickness_mm=30.0), thicknesses_mm=(9.0, 9.0, 7.0, 9.0)),
        revised(BOX, liner=Liner(height_mm=200.0), lid=Lid(), dividers=Dividers(across=1, along=1)),
        revised(BOX, dividers=Dividers(across=2, along=2), keys=Keys(count=3, thickness_mm=5.0)),
        revised(LEANING, slopes_deg=(-9.0,), dividers=Dividers(), lid=Lid()),
        revised(BOX, bottom=Panel(seat="applied"), feet=Feet()),
        revised(inner_rings.BOX, tray=Tray(), liner=Liner(height_mm=40.0), dividers=Dividers(height_mm=30.0)),
        revised(
            inner_rings.BOX, tray=Tray(), liner=Liner(height_mm=40.0), false_floor=FalseFloor(),
            contents=(Thing(made=True, length_mm=30.0, width_mm=20.0, height_mm=10.0),),
        ),
        revised(BOX, shape=Regular(7, 100.0), bottom=Panel(play_mm=4.5)),
        revised(BOX, bottom=Panel(grain="width"), cover=Gable(grain="width")),
        revised(LEANING, slopes_deg=(55.0,)), revised(LEANING, slopes_deg=(0.0,), top=Panel(fit_mm=0.1)),
        revised(BOX, slopes_deg=(9.0, 0.0, 9.0, 0.0), bottom=Panel(groove="tongue")),
        revised(BOX, lid=None, top=None, cover=Split(), dividers=Dividers()),
        revised(BOX, lid=None, top=None, cover=Split(overhang_mm=0.0)),
        revised(BOX, lid=None, top=None, cover=LiftOff(overhang_mm=0.0, fit_mm=0.0)),
        revised(BOX, lid=None, top=None, cover=Flat(overhang_mm=0.0)), revised(LEANING, slopes_deg=(50.0,), lid=Lid()),
        revised(BOX, shape=House(240.0, 90.0, 30.0)), revised(BOX, dividers=Dividers(thickness_mm=3.0)),
        revised(LEANING, slopes_deg=(0.0, 10.0, 0.0, 0.0), saw=Saw(kind="chamfer_bit")),
        *(revised(BOX, lid=None, top=None, cover=Insert(what=what), handle=Handle(kind="knob"))
          for what in ("slate", "glass")),
        *(revised(BOX, work=Work(coating=Coating(kind=kind))) for kind in ("lacquer", "shellac", "thin_coats", "wax")),
        revised(BOX, lid=None, top=None, cover=Gable(sheet=True)),
        revised(BOX, inlay=Inlay(thickness_mm=2.0, pocket_mm=1.5, on="front")),
        revised(BOX, lid=Lid(), top=Panel(seat="applied"), bottom=Panel(seat="applied"), tools=STARTING,
                uses=Uses(lid="Fine hand saw")),
        revised(BOX, tools=(*STARTING, Bit(name="Disk", cuts="slotting", width_mm=3.0)), uses=Uses(slot="Disk"),
                keys=Keys(thickness_mm=3.0)),
        *(revised(BOX, board=Board(width_mm=wide, thickness_mm=30.0, resaw=True), tools=tools)
          for wide in (60.0, 120.0, 160.0) for tools in (STARTING, STARTING[3:4])),
        *(revised(job, tools=tools, saw=Saw(kind="shooting_board", table_saw=False))
          for seed in range(120) for job in (random_design(random.Random(seed)),) for tools in ((), STARTING[2:3])),
        *(random_design(random.Random(seed)) for seed in range(120)),
    ]  # fmt: skip
    jobs += [revised(job, tools=(), saw=Saw(kind="shooting_board", table_saw=False)) for job in (
        *jobs[:80], revised(BOX, slopes_deg=(10.0, 0.0, 0.0, 0.0)), revised(BOX, slopes_deg=(0.0, 10.0, 0.0, 0.0)),
        revised(BOX, lid=None, top=None, cover=Gable()),
    )]  # fmt: skip
    reached = set()
    for job in jobs:
        for step in plan(job).steps:
            reached |= {f"title {step.title}", *(f"says {key}" for key in step.says)}
            reached |= {f"why {after.why}" for after in step.after}
            for fmt in formats:
                told = [steps.title(step, fmt), steps.setting(step, fmt), steps.how(step, fmt)]
                told += [steps.why(after.why) for after in step.after]
                assert all(told)
                assert not [text for text in told if NOT_READ.search(text)]
    tables = (("title", step_titles.TITLES), ("says", step_texts.SAYS), ("why", step_reasons.WHY))
    missing = {f"{word} {key}" for word, table in tables for key in table} - reached
    assert not missing


_NOT_OF = {
    ("hand_saw", "by_hand", "tape", "clamps"): r"\b(fence|cradle|blade|gauge \d|table)\b",
    ("miter_saw",): r"rip fence|cradle|\bon the table\b",
    ("router_table", "drill_press"): r"\b(blade|kerf|riving)\b",
    ("band_saw",): r"riving|blade tilted",
    ("planer", "drum_sander"): r"\b(fence|blade)\b",
    ("chamfer_bit",): r"\b(blade|kerf|tilt)\b",
    ("table_saw",): r"\bthe bit\b",
}


@pytest.mark.parametrize("first", range(0, 90, 30))
def test_a_step_tells_of_nothing_its_tool_does_not_have(first: int) -> None:
    """No fence by hand, no blade on a router table: common practice. A mortise by hand may be routed, and says so."""
    fmt = Format("mm")
    for seed in range(first, first + 30):
        for made in (bench.random_box(seed), plan(random_design(random.Random(seed)))):
            for step in made.steps if made.buildable else ():
                told = [step_texts.SAYS[key] for key in step.says if key != "hinge_mortise.router"]
                text = " ".join([steps.setting(step, fmt), *told])
                strange = [found for tools, found in _NOT_OF.items() if step.tool in tools]
                assert not any(re.search(found, text) for found in strange), (seed, step.id, step.tool, text)


def test_a_bevel_cut_on_end_tells_of_no_stop() -> None:
    """Past the saw's stop a piece stands on its end, clamped: nothing there touches a stop."""
    made = plan(fits.box(Regular(3, 150.0)))
    bevels = [step for step in made.steps if step.operation == "bevel" and step.lies == "on_end"]
    assert bevels
    for step in bevels:
        assert "stop_clear" not in step.cautions
        assert not any("stop" in step_reasons.WHY[other.why] for other in step.after)
    stopped = [step for step in plan(fits.box(Regular(6, 150.0))).steps if step.operation == "bevel"]
    assert any("the stop touches" in step_reasons.WHY[o.why] for step in stopped for o in step.after)


def test_a_share_short_of_the_whole_is_never_told_as_the_whole() -> None:
    told = [reading.number("percent", value, Format("mm")) for value in (95.41, 99.94, 99.99, 100.0)]
    assert told == ["95.4", "99.9", "99.99", "100"]


def test_key_settings_count_their_slots_and_corners_that_share_one_are_told_together() -> None:
    shape = Outline((100.0, 120.0, 90.0, None, None), (100.0, 110.0, 115.0, 105.0, None))
    job = revised(BOX, shape=shape, keys=Keys(positions_mm=(20.0, 45.0)))
    made = plan(job)
    assert len(made.keys.settings) == 8  # a cradle for each of four angles, two fences
    assert [text.split(":")[1] for text in settings_told(made, Format("mm"))] == [" 5 slots"] * 2
    one = plan(revised(job, keys=Keys(positions_mm=(20.0,), corners=(0,))))
    assert settings_told(one, Format("mm")) == ["fence 18.5 mm: 1 slot at AB"]
