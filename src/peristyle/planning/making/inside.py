"""What stands inside and what is glued up: dividers, a liner, segments."""

import math
from collections.abc import Iterator, Sequence

from peristyle.model.job import Job
from peristyle.planning.divider_plan import DividersPlan
from peristyle.planning.grooves import passes
from peristyle.planning.liner import LinerPlan, liner_design
from peristyle.planning.making.ends import bevels, crosscuts, mitered_ends
from peristyle.planning.making.grooving import dado_steps
from peristyle.planning.making.ripping import ids, piece_rips, rips
from peristyle.planning.making.setting import (
    SAME_SETTING,
    from_start,
    height,
    same,
    stop,
    swing,
    thickness,
    width,
)
from peristyle.planning.making.step import Step, make, short
from peristyle.planning.section import PanelPlan
from peristyle.planning.segments import CUT_ERROR_DEG, SegmentsPlan


def divider_steps(job: Job, dividers: DividersPlan) -> Iterator[Step]:
    """Dividers to length, and the halving slots where they cross."""
    own = job.design.inside.dividers
    if own is None:
        return
    lengths: dict[tuple[int, ...], list[int]] = {}
    halved: dict[tuple[int, ...], list[int]] = {}
    for number, piece in enumerate(dividers.pieces):
        lengths.setdefault(same(piece.length_mm, piece.top_length_mm, *piece.leans_deg), []).append(number)
        if piece.notches_mm:
            halved.setdefault((int(piece.run == "along"), *same(*piece.notches_mm)), []).append(number)
    for members in lengths.values():
        piece = dividers.pieces[members[0]]
        longest = max(piece.length_mm, piece.top_length_mm)
        leaning = any(abs(lean) > SAME_SETTING for lean in piece.leans_deg)
        starts, ends = (abs(lean) for lean in piece.leans_deg)
        swings = (swing(starts, "start"), swing(ends, "end")) if leaning else ()
        pieces = _pieces(dividers, members)
        yield make(
            "divider", pieces, _numbers(members), part="divider", makes=pieces,
            settings=(*swings, stop(longest), width(piece.height_mm), thickness(piece.thickness_mm)),
            passes=len(members), title=_title("divider", members),
            says=("divider", *(("divider.leaning",) if leaning else ()), "divider.fit"),
            names={"dividers": _names(dividers, members),
                   "longer": "top edge" if piece.top_length_mm > piece.length_mm else "foot"},
            cautions=("guard", "stop_clear", *short(longest)),
        )  # fmt: skip
    for members in halved.values():
        piece = dividers.pieces[members[0]]
        offsets = passes(own.thickness_mm, job.shop.saw.kerf_mm)
        slots = [from_start(notch + offset) for notch in piece.notches_mm for offset in offsets]
        pieces = _pieces(dividers, members)
        yield make(
            "halve", pieces, _numbers(members), part="divider",
            makes=(f"{name}.notch.{n + 1}" for name in pieces for n in range(len(piece.notches_mm))),
            lies="on_edge", edge="bottom" if piece.run == "along" else "top",
            settings=(*slots, height(piece.height_mm / 2)), passes=len(members) * len(slots),
            title=_title("halve", members), says=("halve",),
            names={"dividers": _names(dividers, members),
                   "edge": "foot" if piece.run == "along" else "top edge"},
            cautions=("guard", *short(piece.length_mm)),
        )  # fmt: skip


def _pieces(dividers: DividersPlan, members: Sequence[int]) -> tuple[str, ...]:
    return tuple(f"divider.{dividers.pieces[number].name.replace(' ', '.')}" for number in members)


def _numbers(members: Sequence[int]) -> str:
    return "_".join(str(number + 1) for number in members)


def _names(dividers: DividersPlan, members: Sequence[int]) -> str:
    return ", ".join(dividers.pieces[number].name for number in members)


def _title(key: str, members: Sequence[int]) -> str:
    return f"{key}.many" if len(members) > 1 else key


def liner_steps(job: Job, liner: LinerPlan, order: Sequence[int], dividers: DividersPlan) -> Iterator[Step]:
    """The liner's own sides, from a board of its own, and fitting it into the box."""
    ring, part, own = liner.ring, job.design.inside.liner, liner_design(job)
    if not ring.sides or part is None:
        return
    yield from rips(own, ring, "liner")
    yield from crosscuts(own, ring, order, "liner")
    yield from piece_rips(own, ring, "liner")
    yield from mitered_ends(own, ring, "liner")
    yield from bevels(own, ring, order, "liner")
    if dividers.in_liner:
        yield from dado_steps(job, ring, dividers, "liner")
    yield make(
        "liner_fit", ids(ring.sides, "liner"), part="liner", tool="tape", says=("liner_fit",),
        numbers={"gap_mm": part.gap_mm, "room_mm": abs(liner.headroom_mm), "proud": float(liner.headroom_mm < 0)},
        names={"rim": "top panel" if job.design.section.top else "rim"}, cautions=("glue",),
    )  # fmt: skip


def segment_steps(panel: PanelPlan, part: SegmentsPlan) -> Iterator[Step]:
    """The segments off their strip, then the glue-up in its order."""
    pieces = [f"segment.{panel.name}.{number + 1}" for number in range(part.count)]
    yield make(
        "segment", pieces, panel.name, part="segment", makes=pieces,
        settings=(swing(part.miter_deg), stop(part.outer_mm), width(part.strip_mm), thickness(panel.thickness_mm)),
        passes=part.count, says=("segment.ring", "segment.hole") if part.inner_mm > 0 else ("segment.pie",),
        numbers={"count": float(part.count), "inner_mm": part.inner_mm, "strip_mm": part.strip_mm,
                 "length_mm": part.length_mm, "hole_mm": part.hole_mm},
        names={"panel": panel.name}, cautions=("guard", "small_piece", "stop_clear"),
    )  # fmt: skip
    gap = part.outer_mm / 2 / math.sin(math.pi / part.count) * math.radians(part.last_joint_deg)
    yield make(
        "segment_glue", pieces, panel.name, part="segment", tool="clamps", passes=part.count,
        says=("segment_glue.order", "segment_glue"),
        numbers={"count": float(part.count), "cuts": 2.0 * part.count, "error_deg": CUT_ERROR_DEG, "gap_mm": gap},
        names={"panel": panel.name}, cautions=("glue",),
    )  # fmt: skip
