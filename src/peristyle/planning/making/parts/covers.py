"""Lids that are not sawn free: boards on or in the rim, with plugs, in grooves, in two; roofs of two leaves."""

import math
from collections.abc import Iterator, Sequence
from typing import Final

from peristyle.core.outlines import Outline as Points
from peristyle.core.outlines import clipped, slot, vertices
from peristyle.core.planes import Point
from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import (
    Design,
    DropIn,
    Flat,
    Gable,
    Insert,
    LiftOff,
    Sliding,
    Split,
    replace,
    side_name,
)
from peristyle.model.panels import Wooden
from peristyle.planning.findings import Finding
from peristyle.planning.making.kind import Kind, Phase, Settled
from peristyle.planning.making.parts.panels import board, bored, cut_out, grain_deg, hole, stock_of
from peristyle.planning.making.parts.walls import PAST_MM, along
from peristyle.planning.making.piece import Edge, Feature, Piece, Place
from peristyle.planning.making.setting import fence, stop, swing, thickness, tilt, width
from peristyle.planning.making.step import Step, make
from peristyle.planning.section.covers import (
    Roof,
    cover_findings,
    lowered_to_mm,
    parting_mm,
    plug_edges,
    roof_of,
)
from peristyle.planning.section.grooves import in_side
from peristyle.planning.section.levels import PanelPlan, over_two, panel_plan
from peristyle.planning.section.movement import Moving, boards_findings
from peristyle.planning.section.segments import oversize_mm

_NOTCH_IN_MM: Final = 12.0  # a finger hollow from the end of a sliding lid (common practice)
_NOTCH_DEEP: Final = 1 / 3  # of the lid's thickness (common practice)


def _lid(plan: Settled) -> PanelPlan | None:
    return next((panel for panel in plan.section.panels if panel.name == "lid"), None)


def _wood(plan: Settled) -> Wooden | None:
    """What the lid is made of, where it is of wood."""
    cover = plan.job.design.section.cover
    return cover if isinstance(cover, Wooden) else None


def _plug(plan: Settled) -> PanelPlan | None:
    cover = plan.job.design.section.cover
    if not isinstance(cover, LiftOff) or _lid(plan) is None:
        return None
    outline = vertices(plan.ring.slabs, plug_edges(plan.job.design, plan.ring.slabs, cover))
    return panel_plan("lid", outline, cover.plug_mm)


def halves(plan: Settled) -> tuple[Points, Points] | None:
    """The fixed and the loose part of a lid in two, as outlines; None where it is not in two."""
    cover, lid = plan.job.design.section.cover, _lid(plan)
    if not isinstance(cover, Split) or lid is None:
        return None
    slab = plan.ring.slabs[cover.side % len(plan.ring.slabs)]
    (ux, uy), (ax, ay) = (slab.ux, slab.uy), (-slab.uy, slab.ux)
    fixed, loose = parting_mm(plan.job.design, plan.ring, cover)
    far = 4 * max(lid.length_mm, lid.width_mm) + 100.0

    def window(low: float, high: float) -> Points:
        return tuple(
            (out * ux + run * ax, out * uy + run * ay)
            for out, run in ((low, -far), (high, -far), (high, far), (low, far))
        )

    return clipped(lid.outline, window(fixed, far)), clipped(lid.outline, window(-far, loose))


def _pieces(plan: Settled) -> Iterator[Piece]:
    cover, lid = plan.job.design.section.cover, _lid(plan)
    groove = plan.section.groove("lid")
    if isinstance(cover, Gable):
        yield from _leaves(plan, cover)
    if lid is None or groove is None:
        return
    parts = halves(plan)
    if parts is not None:
        for word, outline in zip(("fixed", "loose"), parts, strict=True):
            if len(outline) >= 3:
                yield board(
                    f"panel.lid.{word}", f"Lid, {word} part", outline, lid.thickness_mm, groove.rests_mm,
                    _wood(plan),
                )  # fmt: skip
        return
    if isinstance(cover, Insert):
        yield replace(
            board("panel.lid", f"{cover.what.capitalize()} insert", lid.outline, lid.thickness_mm, groove.rests_mm),
            stock=cover.what,
        )  # fmt: skip
        return
    yield board("panel.lid", "Lid", lid.outline, lid.thickness_mm, groove.rests_mm, _wood(plan))
    plug = _plug(plan)
    if plug is not None:
        yield board(
            "panel.plug",
            "Plug under the lid",
            plug.outline,
            plug.thickness_mm,
            groove.rests_mm - plug.thickness_mm,
            _wood(plan),
        )


def _leaves(plan: Settled, cover: Gable) -> Iterator[Piece]:
    """A leaf over each of the two sides under the eaves: x along the ridge, y up to it, z down into the wood."""
    roof = roof_of(plan.job.design, plan.ring.slabs)
    if roof is None:
        return
    pitch, thick = math.radians(cover.pitch_deg), cover.thickness_mm
    cos, sin, tan = math.cos(pitch), math.sin(pitch), math.tan(pitch)
    long = roof.long_mm + 2 * cover.ends_mm
    up = plan.job.design.form.height_mm + thick / cos - (roof.half_mm + cover.overhang_mm) * tan
    for index in roof.under_eaves:
        slab = plan.ring.slabs[index]
        out = slab.offset_mm + cover.overhang_mm
        gable = plan.ring.slabs[(index - 1) % 4]  # the one at the side's start
        start = gable.offset_mm + cover.ends_mm
        origin = (slab.ux * out + gable.ux * start, slab.uy * out + gable.uy * start, up)
        place = Place(
            origin, slab.along, (-slab.ux * cos, -slab.uy * cos, sin), (-slab.ux * sin, -slab.uy * sin, -cos)
        )
        under = roof.slope_mm - thick * tan
        yield Piece(
            id=f"roof.{side_name(index)}",
            part="roof",
            name=f"Roof leaf over side {side_name(index)}",
            alike="roof leaf",
            says=("roof", "sheet" if cover.sheet else f"roof.{cover.grain}"),
            numbers={"under_mm": under, "pitch_deg": cover.pitch_deg},
            stock=stock_of(cover),
            thickness_mm=thick,
            grain_deg=grain_deg(cover),
            show_face=((0.0, 0.0), (long, 0.0), (long, roof.slope_mm), (0.0, roof.slope_mm)),
            inside_face=((0.0, 0.0), (long, 0.0), (long, under), (0.0, under)),
            edges=(Edge("bottom", 0.0), Edge("end", 0.0), Edge("top", cover.pitch_deg), Edge("start", 0.0)),
            place=place,
        )


def _features(plan: Settled) -> Iterator[tuple[str, Feature]]:
    cover, lid = plan.job.design.section.cover, _lid(plan)
    if isinstance(cover, Gable):
        roof = roof_of(plan.job.design, plan.ring.slabs)
        if roof is not None:
            yield from _under_roof(plan, cover, roof)
    if isinstance(cover, DropIn | Insert) and lid is not None and cover.hole_mm > 0:
        yield "panel.lid", hole("panel.lid", lid, cover.hole_mm)
    if isinstance(cover, Sliding) and lid is not None and cover.side < len(plan.ring.sides):
        yield from _for_sliding(plan, cover, lid)


def _for_sliding(plan: Settled, cover: Sliding, lid: PanelPlan) -> Iterator[tuple[str, Feature]]:
    """What is ripped off the side that the lid slides out over, and the hollow for a finger at the lid's end."""
    side, slab, high = (
        plan.ring.sides[cover.side],
        plan.ring.slabs[cover.side],
        plan.job.design.form.height_mm,
    )
    level = lowered_to_mm(plan.section)
    over = high + PAST_MM + side.thickness_mm * abs(slab.sin_slope)
    profile = tuple(
        in_side(slab, slab.inner_mm(z, depth), z)
        for z, depth in ((level, side.thickness_mm), (level, 0.0), (over, 0.0), (over, side.thickness_mm))
    )
    yield f"side.{side.name}", along("lowered", "lowered", side, profile)
    if cover.notch_mm > 0:
        (ax, ay), (bx, by) = lid.outline[cover.side - 1], lid.outline[cover.side]
        run = math.hypot(bx - ax, by - ay)
        wide = min(cover.notch_mm, run / 2)
        in_from = wide / 2 + _NOTCH_IN_MM
        x, y = (ax + bx) / 2 - slab.ux * in_from, (ay + by) / 2 - slab.uy * in_from
        hollow = slot(x, y, wide, wide)
        yield (
            "panel.lid",
            Feature(
                "panel.lid.finger",
                "finger_notch",
                "show",
                outline=hollow,
                in_mm=lid.thickness_mm * _NOTCH_DEEP,
            ),
        )


def _under_roof(plan: Settled, cover: Gable, roof: Roof) -> Iterator[tuple[str, Feature]]:
    """What is cut off the walls under the roof's leaves: the eaves ripped to the pitch, the gables to their points."""
    tan, high = math.tan(math.radians(cover.pitch_deg)), plan.job.design.form.height_mm
    for index in roof.under_eaves:
        side = plan.ring.sides[index]
        thick, top = side.thickness_mm, high + PAST_MM + side.thickness_mm * tan
        profile = ((roof.eaves_mm + thick * tan, thick), (roof.eaves_mm, 0.0), (top, 0.0), (top, thick))
        yield f"side.{side.name}", along("lowered", "lowered", side, profile)
    for index in roof.gables:
        side = plan.ring.sides[index]
        half, past = roof.half_mm, PAST_MM
        drop = high - (half + past) * tan
        for word, way in (("start", -1.0), ("end", 1.0)):
            far = half + way * (half + past)
            outline: tuple[Point, ...] = ((far, drop), (half, high), (half, high + past), (far, high + past))
            if way > 0:
                outline = outline[::-1]
            name = f"side.{side.name}.gable.{word}"
            yield (
                f"side.{side.name}",
                Feature(name, "gable", "show", outline=outline, in_mm=side.thickness_mm),
            )


def _steps(plan: Settled) -> Iterator[tuple[Phase, Step]]:
    cover, lid = plan.job.design.section.cover, _lid(plan)
    if isinstance(cover, Gable):
        yield from _roof_steps(plan, cover)
    if isinstance(cover, Sliding) and lid is not None and cover.side < len(plan.ring.sides):
        yield "flat", _lowered(plan, cover)
    if lid is None or cover is None:
        return
    if isinstance(cover, Split):
        yield from _in_two(plan, cover, lid)
        return
    if isinstance(cover, Insert):
        yield "last", cut_out("panel.lid", "lid", lid, says=(f"panel.{cover.what}",), title="panel.insert",
                              tool="by_hand", names={"what": cover.what},
                              numbers={"play_mm": cover.play_mm, "ledge_mm": cover.ledge_mm})  # fmt: skip
        if cover.hole_mm > 0:
            yield "last", bored("panel.lid", lid, cover.hole_mm, says="lid_hole.pull")
        return
    says = {DropIn: "panel.drop_in", Flat: "panel.flat", LiftOff: "panel.lift_off", Sliding: "panel.sliding"}
    play = getattr(cover, "play_mm", 0.0)
    out, numbers, names = _stands_out(plan.job.design)
    if isinstance(cover, Sliding):
        names |= {"side": side_name(cover.side)}
    yield "last", cut_out("panel.lid", "lid", lid, says=(says[type(cover)], *out), title="panel.lid",
                          over_mm=numbers.get("over_mm", 0.0),
                          numbers={"play_mm": play} | numbers, of=_wood(plan),
                          names={"panel": "lid"} | names)  # fmt: skip
    plug = _plug(plan)
    if plug is not None and isinstance(cover, LiftOff):
        fits = "panel.plug" if cover.fit_mm > 0 else "panel.plug.press"
        yield "last", cut_out("panel.plug", "plug", plug, says=(fits,), title="panel.plug",
                              numbers={"fit_mm": cover.fit_mm}, of=cover)  # fmt: skip
        yield "last", make("plug_glue", ("panel.lid", "panel.plug"), tool="clamps", says=("plug_glue",))
    yield from _flushed(out, "panel.lid")
    if isinstance(cover, DropIn) and cover.hole_mm > 0:
        yield "last", bored("panel.lid", lid, cover.hole_mm, says="lid_hole.finger")
    if isinstance(cover, Sliding) and cover.notch_mm > 0:
        yield "last", make(
            "lid_notch", ("panel.lid",), tool="by_hand", makes=("panel.lid.finger",), says=("lid_notch",),
            numbers={"wide_mm": cover.notch_mm, "deep_mm": lid.thickness_mm * _NOTCH_DEEP, "in_mm": _NOTCH_IN_MM},
        )  # fmt: skip


def _in_two(plan: Settled, cover: Split, lid: PanelPlan) -> Iterator[tuple[Phase, Step]]:
    """The lid's two parts, and the one that is glued down."""
    says, numbers, names = _stands_out(plan.job.design)
    says = tuple("panel.flush_on.part" if key == "panel.flush_on" else key for key in says)
    numbers |= {"fixed_mm": cover.fixed_mm, "gap_mm": cover.gap_mm}
    names |= {"side": side_name(cover.side % len(plan.ring.slabs))}
    for word, outline in zip(("fixed", "loose"), halves(plan) or (), strict=False):
        if len(outline) < 3:
            continue
        part = panel_plan("lid", outline, lid.thickness_mm)
        yield "last", cut_out(f"panel.lid.{word}", f"lid.{word}", part, says=("panel.lid_part", *says),
                              title=f"panel.lid.{word}", of=_wood(plan), numbers=numbers,
                              names={"panel": f"lid.{word}"} | names)  # fmt: skip
    yield "last", make("lid_fix", ("panel.lid.fixed",), tool="clamps", says=("lid_fix",))
    yield from _flushed(says, "panel.lid.fixed", "panel.lid.loose")


def _flushed(out: Sequence[str], *pieces: str) -> Iterator[tuple[Phase, Step]]:
    """A lid planed flush with the sides it does not overhang, once it lies on them."""
    says = {"panel.flush_on": "panel_flush.lid", "panel.flush_on.part": "panel_flush.lid.part",
            "panel.stands_out.two": "panel_flush.lid.part"}  # fmt: skip
    for key in out:
        if key in says:
            yield (
                "last",
                make("panel_flush", pieces, "lid", tool="by_hand", says=(says[key],), names={"panel": "lid"}),
            )


def _stands_out(design: Design) -> tuple[tuple[str, ...], dict[str, float], dict[str, str]]:
    """How far a lid on the rim stands out over the sides, and over which: key of the words, and what they read."""
    cover = design.section.cover
    if not isinstance(cover, Flat | LiftOff | Split):
        return (), {}, {}
    if cover.overhang_mm < DEFAULT.length_mm:
        return ("panel.flush_on",), {"over_mm": oversize_mm(inches=design.units == "in")}, {}
    numbers = {"overhang_mm": cover.overhang_mm}
    if not isinstance(cover, LiftOff) or cover.over == "all":
        return ("panel.stands_out",), numbers, {}
    over = " and ".join(side_name(index) for index in sorted(over_two(design)))
    return ("panel.stands_out.two",), numbers, {"over": over}


def _lowered(plan: Settled, cover: Sliding) -> Step:
    """The side ripped down to the groove's lower wall, level: where it leans the blade leans with it."""
    side, slab = plan.ring.sides[cover.side], plan.ring.slabs[cover.side]
    level = lowered_to_mm(plan.section)
    outer = in_side(slab, slab.outer_mm(level), level)[0]
    # Where the side leans outward its inner arris reaches the fence first, over the table.
    stands_out = max(0.0, slab.thickness_mm * slab.sin_slope / slab.cos_slope)
    return make(
        "lower", (f"side.{side.name}",), side.name, makes=(f"side.{side.name}.lowered",), lies="inside_up",
        edge="bottom", settings=(*tilt(-side.slope_deg), fence(outer + stands_out)), says=("lower.sliding",),
        names={"sides": side.name},
    )  # fmt: skip


def _roof_steps(plan: Settled, cover: Gable) -> Iterator[tuple[Phase, Step]]:
    roof = roof_of(plan.job.design, plan.ring.slabs)
    if roof is None:
        return
    eaves = [plan.ring.sides[index] for index in roof.under_eaves]
    yield "flat", make(
        "lower", [f"side.{side.name}" for side in eaves], "eaves",
        makes=[f"side.{side.name}.lowered" for side in eaves], lies="inside_up", edge="bottom",
        settings=(*tilt(cover.pitch_deg), fence(roof.eaves_mm)), says=("lower.eaves",),
        passes=2, names={"sides": ", ".join(side.name for side in eaves)},
    )  # fmt: skip
    gables = [plan.ring.sides[index] for index in roof.gables]
    yield "flat", make(
        "gable", [f"side.{side.name}" for side in gables],
        makes=[f"side.{side.name}.gable.{end}" for side in gables for end in ("start", "end")],
        lies="show_up", edge="bottom", settings=(swing(cover.pitch_deg), stop(roof.half_mm)), says=("gable",), passes=4,
        numbers={"eaves_mm": roof.eaves_mm, "pitch_deg": cover.pitch_deg},
        names={"sides": ", ".join(side.name for side in gables)},
    )  # fmt: skip
    leaves = [f"roof.{side_name(index)}" for index in roof.under_eaves]
    long = roof.long_mm + 2 * cover.ends_mm
    under = roof.slope_mm - cover.thickness_mm * math.tan(math.radians(cover.pitch_deg))
    yield "last", make(
        "roof_leaf", leaves, makes=leaves, passes=2,
        settings=(*tilt(cover.pitch_deg), stop(long), width(roof.slope_mm), thickness(cover.thickness_mm)),
        says=("roof_leaf", *(("panel.sheet", "roof_leaf.band") if cover.sheet else (f"roof_leaf.{cover.grain}",))),
        numbers={
            "under_mm": under, "pitch_deg": cover.pitch_deg, "thick_mm": cover.thickness_mm,
            "band_mm": 2 * (long + 2 * roof.slope_mm),
        },
    )  # fmt: skip
    yield "last", make(
        "roof_fix", leaves, tool="clamps", says=("roof_fix",),
        numbers={"overhang_mm": cover.overhang_mm, "ends_mm": cover.ends_mm},
        names={"fixed": side_name(roof.under_eaves[1]), "opens": side_name(roof.under_eaves[0])},
    )  # fmt: skip


def _findings(plan: Settled) -> Iterator[Finding]:
    yield from cover_findings(plan.job, plan.ring, plan.section, plan.contents)
    yield from boards_findings(plan.job, list(_moving(plan)))


def _moving(plan: Settled) -> Iterator[Moving]:
    """What of a lid moves through the year besides the panel it is: a plug, a part or a leaf that is glued down."""
    cover, at = plan.job.design.section.cover, "section.cover"
    plug, parted = _plug(plan), halves(plan)
    roof = roof_of(plan.job.design, plan.ring.slabs)
    if isinstance(cover, LiftOff) and plug is not None:
        yield Moving("plug", cover, at, plug.outline, ("fit_mm", cover.fit_mm), told=True)
    if isinstance(cover, Split) and parted is not None:
        yield Moving("lid’s fixed part", cover, at, parted[0], told=True)
    if isinstance(cover, Gable) and roof is not None:
        long = roof.long_mm + 2 * cover.ends_mm
        yield Moving(
            "roof’s fixed leaf",
            cover,
            at,
            ((0.0, 0.0), (long, 0.0), (long, roof.slope_mm), (0.0, roof.slope_mm)),
        )


COVERS = Kind("cover", _pieces, _features, _steps, _findings)
