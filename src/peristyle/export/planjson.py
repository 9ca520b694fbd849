"""The plan as data, the JSON contract.

It is documented in docs/plan-json.md and has a schema, data/plan.schema.json. Lengths are mm, angles degrees, both
unrounded.
"""

import json
import math
from collections.abc import Sequence
from typing import Any, Final

from msgspec import convert, to_builtins
from msgspec.json import schema as msgspec_schema

from peristyle.core.lengths import Format
from peristyle.core.planes import EndCut
from peristyle.export import plan_types as types
from peristyle.model.design import House, corner_name, side_name
from peristyle.planning.corners.blocks import BlockPlan
from peristyle.planning.corners.frame import Frame, frames_of
from peristyle.planning.corners.keep_outs import KeepOut
from peristyle.planning.corners.keys import KeyPlan, KeySetting
from peristyle.planning.corners.splines import SplinePlan
from peristyle.planning.corners.strength import glued_at
from peristyle.planning.findings import Finding, reader
from peristyle.planning.fit.as_cut import as_cut
from peristyle.planning.form.ring import CornerPlan, SidePlan
from peristyle.planning.inside.contents import footprints
from peristyle.planning.inside.dividers import DividerPlan
from peristyle.planning.making.piece import Feature, Piece
from peristyle.planning.making.step import Step
from peristyle.planning.mending import mended
from peristyle.planning.plan import Plan
from peristyle.planning.section.grooves import GroovePlan
from peristyle.planning.section.levels import LidPlan, PanelPlan, SectionPlan
from peristyle.planning.section.segments import SegmentsPlan
from peristyle.planning.stock.laying import cutting_order, parting, strip_mm
from peristyle.words.corners import out_of
from peristyle.words.findings import offered, said
from peristyle.words.steps import glue_order, how, setting, title, why

PLAN_VERSION: Final = 2


def as_data(plan: Plan) -> types.PlanData:
    """The plan as plain data, ready for JSON."""
    job, ring = plan.job, plan.ring
    count = job.design.side_count
    return {
        "format": "peristyle-plan",
        "version": PLAN_VERSION,
        "name": job.design.name,
        "units": job.design.units,
        "buildable": plan.buildable,
        "height_mm": job.design.form.height_mm,
        "finished_height_mm": plan.section.finished_mm,
        "standing_height_mm": plan.standing_mm,
        "front": side_name(job.design.form.front),
        "outline": {
            "outer_bottom_mm": _points(ring.outer_bottom),
            "outer_top_mm": _points(ring.outer_top),
            "inner_bottom_mm": _points(ring.inner_bottom),
            "inner_top_mm": _points(ring.inner_top),
        },
        "sides": [_side(s) for s in ring.sides],
        "corners": [_corner(c) for c in ring.corners],
        "wrap": _wrap(plan),
        "section": _section(plan.section),
        "panels": [_panel(p) for p in plan.section.panels],
        "keys": [_key(k, count) for k in plan.keys.keys],
        "key_settings": [_key_setting(s, count) for s in plan.keys.settings],
        "keep_outs": [_keep_out(out, count) for out in plan.keys.keep_outs],
        "splines": [_spline(one, count) for one in plan.splines.splines],
        "corner_blocks": [_block(block, count) for block in plan.corner_blocks.blocks],
        "strength": _strength(plan, count),
        "contents": _contents(plan),
        "liner": _liner(plan),
        "dividers": [_divider(piece) for piece in plan.dividers.pieces],
        "compartments": {
            "widths_mm": list(plan.dividers.widths_mm),
            "depths_mm": list(plan.dividers.depths_mm),
        },
        "roof": _roof(plan),
        "pieces": [_piece(piece) for piece in plan.pieces],
        "cut_already": [_piece(piece) for piece in as_cut(plan).values()],
        "steps": [_step(step, reader(plan.job.design)) for step in plan.steps],
        "findings": [_finding(finding, reader(plan.job.design)) for finding in mended(plan)],
    }


def _corner(corner: CornerPlan) -> types.CornerData:
    return {
        "corner": corner.name,
        "interior_deg": corner.interior_deg,
        "dihedral_deg": corner.dihedral_deg,
        "joint_face_mm": corner.joint_face_mm,
        "closing": corner.closing,
        "lapped": corner.lapped,
    }


def _panel(panel: PanelPlan) -> types.PanelData:
    return {
        "name": panel.name,
        "outline_mm": _points(panel.outline),
        "thickness_mm": panel.thickness_mm,
        "length_mm": panel.length_mm,
        "width_mm": panel.width_mm,
        "segments": _segments(panel.segments) if panel.segments else None,
    }


def _key_setting(setting: KeySetting, count: int) -> types.KeySettingData:
    return {
        "fence_mm": setting.fence_mm,
        "heights_mm": list(setting.heights_mm),
        "passes_mm": list(setting.passes_mm),
        "slots": setting.slots,
        "depth_mm": setting.depth_mm,
        "cradle_deg": setting.cradle_deg,
        "edge": setting.edge,
        "corners": [corner_name(i, count) for i in setting.corners],
        "tip_deg": setting.tip_deg,
        "set": setting.set,
    }


def _keep_out(out: KeepOut, count: int) -> types.KeepOutData:
    return {
        "corner": corner_name(out.corner, count), "low_mm": out.low_mm, "high_mm": out.high_mm, "what": out_of(out),
    }  # fmt: skip


def _spline(one: SplinePlan, count: int) -> types.SplineData:
    data: dict[str, Any] = to_builtins(one)
    data["corner"] = corner_name(one.corner, count)
    data["most_mm"] = [most if math.isfinite(most) else None for most in one.most_mm]
    return convert(data, types.SplineData)


def _block(block: BlockPlan, count: int) -> types.CornerBlockData:
    data: dict[str, Any] = to_builtins(block)
    return convert(data | {"corner": corner_name(block.corner, count)}, types.CornerBlockData)


def _strength(plan: Plan, count: int) -> list[types.StrengthData]:
    """Every corner's; worked out once for corners that are alike and held alike."""
    found: list[types.StrengthData] = []
    alike: dict[tuple[object, ...], types.StrengthData] = {}
    splined = {one.corner for one in plan.splines.splines}
    blocked = {block.corner for block in plan.corner_blocks.blocks}
    keyed = [one.corners for one in plan.keys.sets]
    for frame in frames_of(plan.ring):
        if frame.lapped:
            continue
        held = (
            frame.index in splined,
            frame.index in blocked,
            *(frame.index in corners for corners in keyed),
        )
        if (frame.looks, held) not in alike:
            alike[frame.looks, held] = _glued(plan, frame, count)
        found.append({**alike[frame.looks, held], "corner": corner_name(frame.index, count)})
    return found


def _glued(plan: Plan, frame: Frame, count: int) -> types.StrengthData:
    return {
        "corner": corner_name(frame.index, count),
        "ways": [
            {
                "way": one.school, "chosen": one.chosen, "miter_mm2": one.miter_mm2,
                "miter_grain": "long" if one.miter_is_long else "end", "long_grain_mm2": one.long_mm2,
                "grain_off_deg": one.off_deg,
            }
            for one in glued_at(plan, frame)
        ],
    }  # fmt: skip


def _segments(segments: SegmentsPlan) -> types.SegmentsData:
    data: dict[str, Any] = to_builtins(segments)
    del data["rounds"]
    return convert(data | {"order": glue_order(segments.count)}, types.SegmentsData)


def _step(step: Step, fmt: Format) -> types.StepData:
    return {
        "id": step.id,
        "operation": step.operation,
        "tool": step.tool,
        "tool_name": step.tool_name,
        "cut_mm": step.cut_mm,
        "title": title(step, fmt),
        "pieces": list(step.pieces),
        "makes": list(step.makes),
        "after": [{"step": other.step, "why": why(other.why)} for other in step.after],
        "lies": step.lies,
        "edge": step.edge,
        "settings": [to_builtins(one) for one in step.settings],
        "passes": step.passes,
        "setting": setting(step, fmt),
        "how": how(step, fmt),
        "cautions": list(step.cautions),
    }


def _finding(finding: Finding, fmt: Format) -> types.FindingData:
    return {
        "code": finding.code,
        "severity": finding.severity,
        "where": finding.place.text,
        "text": said(finding, fmt),
        "numbers": dict(finding.numbers),
        "fixes": [offered(fix, fmt) for fix in finding.fixes],
        "mends": [
            [{"address": place, "value": to_builtins(value)} for place, value in fix.changes]
            for fix in finding.fixes
        ],
    }


def _points(outline: tuple[tuple[float, float], ...]) -> types.Points:
    return [[x, y] for x, y in outline]


def _end(cut: EndCut) -> types.EndData:
    return {"bevel_deg": cut.bevel_deg, "miter_deg": cut.miter_deg}


def _side(side: SidePlan) -> types.SideData:
    return {
        "side": side.name,
        "outside_mm": side.outside_mm,
        "outside_top_mm": side.outside_top_mm,
        "inside_mm": side.inside_mm,
        "inside_top_mm": side.inside_top_mm,
        "thickness_mm": side.thickness_mm,
        "height_mm": side.height_mm,
        "slope_deg": side.slope_deg,
        "slant_height_mm": side.slant_mm,
        "top_bevel_deg": side.slope_deg,
        "bottom_bevel_deg": side.slope_deg,
        "start": _end(side.start),
        "end": _end(side.end),
        "outer_face_mm": _points(side.outer_face),
        "inner_face_mm": _points(side.inner_face),
    }


def _piece(piece: Piece) -> types.PieceData:
    data: dict[str, Any] = to_builtins(piece)
    for told in ("alike", "says", "numbers", "names"):
        del data[told]
    features = [_feature(feature) for feature in piece.features]
    data |= {"length_mm": piece.length_mm, "width_mm": piece.width_mm, "features": features}
    return convert(data, types.PieceData)


def _feature(feature: Feature) -> types.FeatureData:
    data: dict[str, Any] = to_builtins(feature)
    del data["in_mm"]
    ways = {"outline": ("outline",), "ends": ("ends",)}
    used = next((keys for name, keys in ways.items() if getattr(feature, name)), ("path", "profile"))
    for unused in {"path", "profile", "outline", "ends"} - {*used}:
        del data[unused]
    return convert(data | {"depth_mm": feature.depth_mm}, types.FeatureData)


def _wrap(plan: Plan) -> types.WrapData:
    job, wrap = plan.job, plan.wrap
    count = job.design.side_count
    numbers = {"": 1} | {board.name: n + 2 for n, board in enumerate(job.stock.rack)}
    return {
        "method": job.stock.board.method,
        "order": [side_name(i) for i in wrap.order or cutting_order(job)],
        "pieces": [
            {
                "side": side_name(p.side),
                "board": numbers[p.board],
                "start_mm": p.start_mm,
                "end_mm": p.end_mm,
                "origin": [p.origin_mm, p.y_mm],
                "way": p.way,
                "show": p.show,
            }
            for p in wrap.pieces
        ],
        "loss_mm": list(wrap.losses_mm),
        "runs_on": list(wrap.runs_on),
        "grain_turn_deg": list(wrap.grain_turn_deg),
        "used_mm": wrap.used_mm,
        "end_trim_mm": job.stock.board.end_trim_mm,
        "needed_mm": wrap.needed_mm,
        "spare_mm": wrap.spare_mm,
        "tiers": wrap.tiers,
        "closing_corner": corner_name(job.closing, count),
    }


def _section(section: SectionPlan) -> types.SectionData:
    return {
        "glued_mm": section.glued_mm,
        "finished_mm": section.finished_mm,
        "room_mm": section.room_mm,
        "groove": _groove(section.groove("bottom")),
        "top_groove": _groove(section.groove("top")),
        "lid_groove": _groove(section.groove("lid")),
        "movements": [convert(to_builtins(moved), types.MovementData) for moved in section.movements],
        "lid": _lid(section.lid) if section.lid else None,
    }


def _lid(lid: LidPlan) -> types.LidData:
    data: dict[str, Any] = to_builtins(lid) | {"lost_mm": lid.lost_mm}
    del data["lost_low_mm"], data["lost_high_mm"]
    data["cuts"] = [to_builtins(cut) | {"sides": _names(cut.sides)} for cut in lid.cuts]
    return convert(data, types.LidData)


def _groove(groove: GroovePlan | None) -> types.GrooveData | None:
    if groove is None:
        return None
    data: dict[str, Any] = to_builtins(groove)
    del data["panel"], data["edges_mm"], data["profiles"], data["rests_mm"]
    for cut, made in zip(data["cuts"], groove.cuts, strict=True):
        cut["sides"] = _names(made.sides)
    return convert(data, types.GrooveData)


def _names(sides: Sequence[int]) -> list[str]:
    return [side_name(i) for i in sides]


def _contents(plan: Plan) -> types.ContentsData | None:
    found = plan.contents
    if not found.blocks:
        return None
    return {
        "length_mm": found.length_mm,
        "width_mm": found.width_mm,
        "height_mm": found.height_mm,
        "room_mm": found.room_mm,
        "blocks": [
            {
                "name": b.thing.name,
                "count": b.thing.count,
                "columns": b.columns,
                "rows": b.rows,
                "layers": b.thing.layers,
                "x_mm": b.x_mm,
                "y_mm": b.y_mm,
                "length_mm": b.length_mm,
                "width_mm": b.width_mm,
                "spots_mm": _points(b.spots_mm),
                "stood_mm": [{"low": list(box[:3]), "high": list(box[3:])} for box in footprints(b)],
            }
            for b in found.blocks
        ],
    }


def _divider(piece: DividerPlan) -> types.DividerData:
    dadoes = [to_builtins(dado) | {"side": side_name(dado.side)} for dado in piece.dadoes]
    data: dict[str, Any] = to_builtins(piece)
    data |= {"dadoes": dadoes, "outline_mm": _points(data.pop("outline"))}
    return convert(data, types.DividerData)


def _liner(plan: Plan) -> types.LinerData | None:
    liner = plan.liner
    if liner is None:
        return None
    return {
        "sides": [_side(side) for side in liner.ring.sides],
        "base_mm": liner.base_mm,
        "headroom_mm": liner.headroom_mm,
        "board_needed_mm": strip_mm(parting(plan.job), liner.ring.sides, plan.job.closing),
    }


def _roof(plan: Plan) -> types.RoofData | None:
    """A house's angles: ridge and eaves, mitered or, with an overhang, laid on the walls."""
    shape = plan.job.design.form.shape
    if not isinstance(shape, House) or not plan.ring.sides:
        return None
    wall, roof = plan.ring.sides[1], plan.ring.sides[2]
    return {
        "pitch_deg": shape.pitch_deg,
        "overhang_mm": shape.overhang_mm,
        "laid_on": plan.ring.corners[1].lapped,
        "ridge_bevel_deg": roof.end.bevel_deg,
        "eaves_bevel_deg": roof.start.bevel_deg,
        "wall_top_bevel_deg": wall.end.bevel_deg,
        "wall_mm": wall.outside_mm,
        "roof_mm": roof.outside_mm,
    }


def _key(key: KeyPlan, count: int) -> types.KeyData:
    return {
        "corner": corner_name(key.corner, count),
        "number": key.number,
        "kind": key.kind,
        "set": key.set,
        "height_mm": key.height_mm,
        "thickness_mm": key.thickness_mm,
        "depth_mm": key.depth_mm,
        "leg_mm": key.leg_mm,
        "base_mm": key.base_mm,
        "area_mm2": key.area_mm2,
        "breakthrough_mm": key.breakthrough_mm,
        "tip_deg": key.tip_deg,
        "angle_deg": key.angle_deg,
        "face_mm": key.face_mm,
    }


def schema() -> dict[str, Any]:
    """The plan's JSON Schema (2020-12), as shipped and documented, made from its types."""
    head = {"$schema": "https://json-schema.org/draft/2020-12/schema", "title": "A Peristyle plan"}
    made: dict[str, Any] = json.loads(json.dumps({**head, **msgspec_schema(types.PlanData)}))
    for kind in made["$defs"].values():
        if "properties" in kind:
            kind["additionalProperties"] = False
    return made
