"""What the stages and the reckoning say: short lines read off the plan."""

from typing import NamedTuple

from peristyle.core.conventions import convention
from peristyle.core.lengths import Format
from peristyle.drawing.shapes import Pick
from peristyle.drawing.size import across_words
from peristyle.model.design import corner_name, side_name
from peristyle.planning.corners.frame import frames_of
from peristyle.planning.corners.strength import glued_at
from peristyle.planning.inside.contents import Block
from peristyle.planning.making.piece import Piece
from peristyle.planning.plan import Plan
from peristyle.words.corners import SHORTLY, glued_row, upright_says
from peristyle.words.pieces import cuts_told
from peristyle.words.reading import sentence


class Fact(NamedTuple):
    """One line of the reckoning: a name and its value; headings have no value."""

    name: str
    value: str = ""
    strong: bool = False


def facts(plan: Plan, chosen: Pick | None, fmt: Format) -> list[Fact]:
    """What the reckoning says of what is picked, or of the whole box."""
    if not plan.ring.sides:
        return [Fact(plan.job.design.name)]
    if chosen is not None and chosen.kind == "side":
        return _side(plan, chosen.index, fmt)
    if chosen is not None and chosen.kind == "piece" and chosen.index < len(plan.pieces):
        return _piece(plan, plan.pieces[chosen.index], fmt)
    if chosen is not None and chosen.kind == "corner":
        return _corner(plan, chosen.index, fmt)
    if chosen is not None and chosen.kind == "thing" and chosen.index < len(plan.contents.blocks):
        return _thing(plan.contents.blocks[chosen.index], fmt)
    return _whole(plan, fmt)


def _thing(block: Block, fmt: Format) -> list[Fact]:
    thing = block.thing
    size = [thing.length_mm] if thing.round else [thing.length_mm, thing.width_mm]
    rows = [
        Fact(f"{thing.count} {thing.name}"),
        Fact("Each", " × ".join(fmt.length(v) for v in (*size, thing.height_mm)), True),
        Fact("In all, with play", f"{fmt.length(block.length_mm + thing.play_mm)} × "
             f"{fmt.length(block.width_mm + thing.play_mm)}"),
        Fact("High", fmt.length(thing.height_mm * thing.layers)),
    ]  # fmt: skip
    if block.columns is not None:
        rows.append(Fact("Columns × rows", f"{block.columns} × {block.rows}"))
    rows.append(Fact("Layers", str(thing.layers)))
    return rows


def piece_of(plan: Plan, chosen: Pick | None) -> Piece | None:
    """The piece that is picked, a side by its number too."""
    if chosen is None or chosen.kind not in ("side", "piece") or chosen.index >= len(plan.pieces):
        return None
    return plan.pieces[chosen.index]  # the sides come first


def _piece(plan: Plan, piece: Piece, fmt: Format) -> list[Fact]:
    """Any piece: its sizes, what is cut into it, the steps that make it."""
    length, wide = piece.size_mm
    rows = [
        Fact(piece.name),
        Fact("Length × width", f"{fmt.length(length)} × {fmt.length(wide)}", True),
        Fact("Thickness", fmt.length(piece.thickness_mm), True),
        Fact("Cut from", piece.stock),
    ]
    rows += _cut_and_made(plan, piece, fmt)
    return rows


def _cut_and_made(plan: Plan, piece: Piece, fmt: Format) -> list[Fact]:
    rows = [Fact(sentence(name), where) for name, where in cuts_told(piece, fmt)]
    numbers = [n for n, step in enumerate(plan.steps, 1) if piece.id in step.pieces]
    return [*rows, Fact("In steps", _ranges(numbers))] if numbers else rows


def _ranges(numbers: list[int]) -> str:
    """Numbers in a list, those in a row as one: 1-4, 7."""
    runs: list[list[int]] = []
    for number in numbers:
        if runs and runs[-1][-1] == number - 1:
            runs[-1].append(number)
        else:
            runs.append([number])
    return ", ".join(str(run[0]) if len(run) == 1 else f"{run[0]}–{run[-1]}" for run in runs)


def _whole(plan: Plan, fmt: Format) -> list[Fact]:
    job = plan.job
    rows = [Fact(job.design.name)]
    rows += [Fact(name, value) for name, value in across_words(job.design, plan, fmt)]
    rows.append(Fact("Height, finished", fmt.length(plan.section.finished_mm)))
    if plan.standing_mm > plan.section.finished_mm:
        rows.append(Fact("   with feet, banding", fmt.length(plan.standing_mm)))
    rows += [
        Fact(f"Panel, {p.name}", f"{fmt.length(p.length_mm)} × {fmt.length(p.width_mm)}", True)
        for p in plan.section.panels
    ]
    for moved in plan.section.movements:
        if moved.swells_mm or moved.shrinks_mm:
            change = f"−{fmt.length(moved.shrinks_mm)} / +{fmt.length(moved.swells_mm)}"
            rows.append(Fact(f"   {moved.panel}, dry / damp", change))
    for panel in plan.section.panels:
        if panel.segments:
            part = panel.segments
            rows.append(
                Fact(
                    f"{panel.name.capitalize()}, {part.count} segments, gauge",
                    fmt.angle(part.miter_deg),
                    True,
                )
            )
            rows.append(Fact("   outer edge", fmt.length(part.outer_mm)))
            rows.append(Fact("   strip", f"{fmt.length(part.strip_mm)} × {fmt.length(part.length_mm)}"))
            rows.append(Fact("   last joint, 0.1° off each", fmt.angle(part.last_joint_deg)))
    if plan.liner is not None and plan.liner.ring.sides:
        wall = plan.liner.ring.sides[0]
        rows.append(Fact("Liner side, outside", fmt.length(wall.outside_mm), True))
        rows.append(Fact("   bevel", fmt.angle(wall.end.bevel_deg)))
        rows.append(Fact("   room over it", fmt.length(plan.liner.headroom_mm)))
    for kind in sorted({p.run for p in plan.dividers.pieces}):
        lengths = sorted({fmt.length(p.length_mm) for p in plan.dividers.pieces if p.run == kind})
        rows.append(Fact(f"Dividers {kind}", ", ".join(lengths), True))
    rows.append(Fact("Board needed", fmt.length(plan.wrap.needed_mm), True))
    for name in dict.fromkeys(run.board for run in plan.wrap.runs if run.board):
        taken = max(run.end_mm for run in plan.wrap.runs if run.board == name)
        rows.append(Fact(f"   and of “{name[:24]}”", fmt.length(taken)))
    rows.append(Fact("Offcut", fmt.length(max(0.0, plan.wrap.spare_mm))))
    rows.append(Fact("Wrap closes at", corner_name(job.closing, job.design.side_count)))
    return rows


def _side(plan: Plan, index: int, fmt: Format) -> list[Fact]:
    side = plan.ring.sides[index]
    rows = [Fact(f"Side {side.name}" + (", the front" if plan.job.design.form.front == index else ""))]
    rows.append(Fact("Outside", fmt.length(side.outside_mm), True))
    rows.append(Fact("Inside", "none" if side.inner_face_mm is None else fmt.length(side.inner_face_mm)))
    rows.append(Fact("Thickness", fmt.length(side.thickness_mm)))
    if side.slope_deg:
        rows.append(Fact("Outside at the top", fmt.length(side.outside_top_mm)))
        rows.append(Fact("Ripped to, along the slant", fmt.length(side.slant_mm), True))
        rows.append(Fact("Edges leaning", fmt.angle(side.slope_deg)))
    dadoes = [d for p in plan.dividers.pieces for d in p.dadoes if d.side == index]
    for dado in sorted(dadoes, key=lambda d: d.at_mm):
        slant = f", tilt {fmt.angle(abs(dado.tilt_deg))}" if dado.tilt_deg else ""
        rows.append(
            Fact("Liner's dado at" if plan.dividers.in_liner else "Dado at", fmt.length(dado.at_mm) + slant)
        )
    for word, cut in (("start", side.start), ("end", side.end)):
        said = convention(cut, plan.job.shop.saw.stop_deg)
        rows.append(Fact(f"Bevel, {word}", fmt.angle(said.bevel), True))
        rows.append(Fact("   from the face", fmt.angle(said.from_face)))
        shown = round(said.tilt / plan.job.shop.saw.step_deg) * plan.job.shop.saw.step_deg
        if abs(shown - said.tilt) > 1e-6:
            rows.append(Fact("   on the saw's scale", fmt.angle(shown)))
        if said.on_end:
            rows.append(Fact("   on end, tilt", fmt.angle(said.tilt)))
        if abs(cut.miter_deg) > 1e-6:
            rows.append(Fact(f"Miter, {word}", fmt.angle(cut.miter_deg), True))
    piece = next(p for p in plan.wrap.pieces if p.side == index)
    where = f"On “{piece.board[:20]}”" if piece.board else "On the board"
    rows.append(Fact(where, f"{fmt.length(piece.start_mm)} – {fmt.length(piece.end_mm)}"))
    if plan.ring.stands:
        cuts = _cut_and_made(plan, plan.pieces[index], fmt)
        rows += [fact for fact in cuts if "ado" not in fact.name]  # dadoes stand above, as they are set
    return rows


def _corner(plan: Plan, index: int, fmt: Format) -> list[Fact]:
    corner = plan.ring.corners[index]
    count = len(plan.ring.sides)
    first, second = plan.ring.sides[index], plan.ring.sides[(index + 1) % count]
    rows = [Fact(f"Corner {corner.name}" + (", where the wrap closes" if corner.closing else ""))]
    rows.append(Fact("Corner angle", fmt.angle(corner.interior_deg)))
    rows.append(Fact("Half the corner", fmt.angle(corner.interior_deg / 2)))
    if abs(corner.dihedral_deg - corner.interior_deg) > 1e-6:
        rows.append(Fact("True angle of the faces", fmt.angle(corner.dihedral_deg)))
    rows.append(Fact(f"Bevel of {first.name}", fmt.angle(first.end.bevel_deg), True))
    rows.append(Fact(f"Bevel of {second.name}", fmt.angle(second.start.bevel_deg), True))
    rows.append(Fact("Joint face", fmt.length(corner.joint_face_mm)))
    if not corner.closing:
        rows.append(Fact("Grain lost here", fmt.length(plan.wrap.losses_mm[index])))
    turn = plan.wrap.grain_turn_deg[index]
    if abs(turn) > 0.005:
        rows.append(Fact("Grain turns by", fmt.angle(turn)))
    keys = plan.keys.at(index)
    if keys:
        rows.append(Fact("Keys at", ", ".join(fmt.length(k.height_mm) for k in keys)))
        rows.append(Fact("Slot deep", fmt.length(keys[0].depth_mm), True))
        rows.append(Fact("Leg down each face", fmt.length(keys[0].leg_mm)))
        rows.append(Fact("Breaks through at", fmt.length(keys[0].through_mm)))
    return rows + _strength(plan, index, fmt)


def _strength(plan: Plan, index: int, fmt: Format) -> list[Fact]:
    """What each school glues at a corner of this box, the one it has told larger."""
    found = glued_at(plan, frames_of(plan.ring)[index])
    if not found:
        return []
    upright = upright_says(found)
    rows = [Fact("Glued here, long grain added")]
    rows += [Fact(upright)] if upright else []
    for one in found:
        school, miter, added = glued_row(one, fmt)
        name = f"{school[:1].upper()}{school[1:]}"
        rows.append(Fact(name, miter if one.school == "none" else added, one.chosen))
    return [*rows, Fact(SHORTLY)]


def sides_list(plan: Plan) -> list[str]:
    """Names of all sides."""
    return [side_name(i) for i in range(plan.job.design.side_count)]


def corners_list(plan: Plan) -> list[str]:
    """Names of all corners."""
    count = plan.job.design.side_count
    return [corner_name(i, count) for i in range(count)]
