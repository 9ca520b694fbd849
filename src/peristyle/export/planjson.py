"""The plan as data, the JSON contract.

It is documented in docs/plan-json.md and has a schema, data/plan.schema.json. Lengths are mm, angles degrees, both
unrounded.
"""

from collections.abc import Sequence
from typing import Any

from msgspec import to_builtins

from peristyle.core.lengths import Format
from peristyle.core.planes import EndCut
from peristyle.model.design import House, corner_name, side_name
from peristyle.planning.corners.keys import KeyPlan, KeySetting
from peristyle.planning.findings import Finding, reader
from peristyle.planning.form.ring import CornerPlan, SidePlan
from peristyle.planning.inside.dividers import DividerPlan
from peristyle.planning.making.piece import Feature, Piece
from peristyle.planning.making.step import Step
from peristyle.planning.mending import mended
from peristyle.planning.plan import Plan
from peristyle.planning.section.grooves import GroovePlan
from peristyle.planning.section.levels import PanelPlan, SectionPlan
from peristyle.planning.section.segments import SegmentsPlan
from peristyle.planning.stock.wrap import cutting_order, parting, strip_mm
from peristyle.words.findings import offered, said
from peristyle.words.steps import glue_order, how, setting, title, why

PLAN_VERSION = 2


def as_data(plan: Plan) -> dict[str, Any]:
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
        "front": side_name(job.design.form.front),
        "outline": {
            f"{loop}_mm": _points(getattr(ring, loop))
            for loop in ("outer_bottom", "outer_top", "inner_bottom", "inner_top")
        },
        "sides": [_side(s) for s in ring.sides],
        "corners": [_corner(c) for c in ring.corners],
        "wrap": _wrap(plan),
        "section": _section(plan.section),
        "panels": [_panel(p) for p in plan.section.panels],
        "keys": [_key(k, count) for k in plan.keys.keys],
        "key_settings": [_key_setting(s, count) for s in plan.keys.settings],
        "contents": _contents(plan),
        "liner": _liner(plan),
        "dividers": [_divider(piece) for piece in plan.dividers.pieces],
        "compartments": {
            "widths_mm": list(plan.dividers.widths_mm),
            "depths_mm": list(plan.dividers.depths_mm),
        },
        "roof": _roof(plan),
        "pieces": [_piece(piece) for piece in plan.pieces],
        "steps": [_step(step, reader(plan.job.design)) for step in plan.steps],
        "findings": [_finding(finding, reader(plan.job.design)) for finding in mended(plan)],
    }


def _corner(corner: CornerPlan) -> dict[str, Any]:
    return {
        "corner": corner.name,
        "interior_deg": corner.interior_deg,
        "dihedral_deg": corner.dihedral_deg,
        "joint_face_mm": corner.joint_face_mm,
        "closing": corner.closing,
        "lapped": corner.lapped,
    }


def _panel(panel: PanelPlan) -> dict[str, Any]:
    return {
        "name": panel.name,
        "outline_mm": _points(panel.outline),
        "thickness_mm": panel.thickness_mm,
        "length_mm": panel.length_mm,
        "width_mm": panel.width_mm,
        "segments": panel.segments and _segments(panel.segments),
    }


def _key_setting(setting: KeySetting, count: int) -> dict[str, Any]:
    return {
        "fence_mm": setting.fence_mm,
        "heights_mm": list(setting.heights_mm),
        "passes_mm": list(setting.passes_mm),
        "slots": setting.slots,
        "depth_mm": setting.depth_mm,
        "cradle_deg": setting.cradle_deg,
        "edge": setting.edge,
        "corners": [corner_name(i, count) for i in setting.corners],
    }


def _segments(segments: SegmentsPlan) -> dict[str, Any]:
    data: dict[str, Any] = to_builtins(segments)
    del data["rounds"]
    return data | {"order": glue_order(segments.count)}


def _step(step: Step, fmt: Format) -> dict[str, Any]:
    return {
        "id": step.id,
        "operation": step.operation,
        "tool": step.tool,
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


def _finding(finding: Finding, fmt: Format) -> dict[str, Any]:
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


def _points(outline: tuple[tuple[float, float], ...]) -> list[list[float]]:
    return [[x, y] for x, y in outline]


def _end(cut: EndCut) -> dict[str, float]:
    return {"bevel_deg": cut.bevel_deg, "miter_deg": cut.miter_deg}


def _side(side: SidePlan) -> dict[str, Any]:
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


def _piece(piece: Piece) -> dict[str, Any]:
    data: dict[str, Any] = to_builtins(piece)
    for told in ("alike", "says", "numbers", "names"):
        del data[told]
    features = [_feature(feature) for feature in piece.features]
    return data | {"length_mm": piece.length_mm, "width_mm": piece.width_mm, "features": features}


def _feature(feature: Feature) -> dict[str, Any]:
    data: dict[str, Any] = to_builtins(feature)
    del data["in_mm"]
    for unused in ("path", "profile") if feature.outline else ("outline",):
        del data[unused]
    return data | {"depth_mm": feature.depth_mm}


def _wrap(plan: Plan) -> dict[str, Any]:
    job, wrap = plan.job, plan.wrap
    count = job.design.side_count
    return {
        "method": job.stock.board.method,
        "order": [side_name(i) for i in cutting_order(job)],
        "pieces": [
            {"side": side_name(p.side), "board": 1, "start_mm": p.start_mm, "end_mm": p.end_mm}
            for p in wrap.pieces
        ],
        "loss_mm": list(wrap.losses_mm),
        "grain_turn_deg": list(wrap.grain_turn_deg),
        "used_mm": wrap.used_mm,
        "end_trim_mm": job.stock.board.end_trim_mm,
        "needed_mm": wrap.needed_mm,
        "spare_mm": wrap.spare_mm,
        "tiers": wrap.tiers,
        "closing_corner": corner_name(job.closing, count),
    }


def _section(section: SectionPlan) -> dict[str, Any]:
    lid = section.lid
    return {
        "glued_mm": section.glued_mm,
        "finished_mm": section.finished_mm,
        "room_mm": section.room_mm,
        "groove": _groove(section.groove("bottom")),
        "top_groove": _groove(section.groove("top")),
        "lid": lid
        and {
            "body_mm": lid.body_mm,
            "lid_mm": lid.lid_mm,
            "line_mm": lid.line_mm,
            "kerf_low_mm": lid.kerf_low_mm,
            "kerf_high_mm": lid.kerf_high_mm,
            "lost_mm": lid.lost_mm,
            "fence_mm": lid.fence_mm,
            "cuts": [to_builtins(cut) | {"sides": _names(cut.sides)} for cut in lid.cuts],
        },
    }


def _groove(groove: GroovePlan | None) -> dict[str, Any] | None:
    if groove is None:
        return None
    data: dict[str, Any] = to_builtins(groove)
    del data["panel"], data["edges_mm"], data["profiles"], data["rests_mm"]
    for cut, made in zip(data["cuts"], groove.cuts, strict=True):
        cut["sides"] = _names(made.sides)
    return data


def _names(sides: Sequence[int]) -> list[str]:
    return [side_name(i) for i in sides]


def _contents(plan: Plan) -> dict[str, Any] | None:
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
            }
            for b in found.blocks
        ],
    }


def _divider(piece: DividerPlan) -> dict[str, Any]:
    dadoes = [to_builtins(dado) | {"side": side_name(dado.side)} for dado in piece.dadoes]
    data: dict[str, Any] = to_builtins(piece)
    return data | {"dadoes": dadoes, "outline_mm": _points(data.pop("outline"))}


def _liner(plan: Plan) -> dict[str, Any] | None:
    liner = plan.liner
    if liner is None:
        return None
    return {
        "sides": [_side(side) for side in liner.ring.sides],
        "base_mm": liner.base_mm,
        "headroom_mm": liner.headroom_mm,
        "board_needed_mm": strip_mm(parting(plan.job), liner.ring.sides, plan.job.closing),
    }


def _roof(plan: Plan) -> dict[str, Any] | None:
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


def _key(key: KeyPlan, count: int) -> dict[str, Any]:
    return {
        "corner": corner_name(key.corner, count),
        "height_mm": key.height_mm,
        "thickness_mm": key.thickness_mm,
        "depth_mm": key.depth_mm,
        "leg_mm": key.leg_mm,
        "base_mm": key.base_mm,
        "area_mm2": key.area_mm2,
        "breakthrough_mm": key.breakthrough_mm,
    }
