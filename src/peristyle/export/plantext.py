"""The plan as text for people."""

from collections.abc import Sequence

from peristyle.core.lengths import Format
from peristyle.model.design import corner_name
from peristyle.planning.findings import reader
from peristyle.planning.making.asdone import done_and_gone
from peristyle.planning.plan import Plan
from peristyle.reference.cautions import caution
from peristyle.words.contents import contents_in_words
from peristyle.words.corners import lines as corner_lines
from peristyle.words.findings import line, refusals
from peristyle.words.pieces import lines as lines_of
from peristyle.words.steps import first_of_all, how, setting, title, tool, why


def as_text(plan: Plan) -> str:
    """The plan for people, in the design's units."""
    job, fmt = plan.job, reader(plan.job.design)._replace(for_rule=True)
    lines = [f"{job.design.name}  ({len(plan.ring.sides) or job.design.side_count} sides, {fmt.units})", ""]
    if plan.ring.sides:
        head = ("side", "outside", "inside", "thick", "start bevel", "end bevel", "miter", "on board")
        where = {p.side: p for p in plan.wrap.pieces}
        rows = [head] + [
            (
                s.name,
                fmt.length(s.outside_mm),
                "none" if s.inner_face_mm is None else fmt.length(s.inner_face_mm),
                fmt.length(s.thickness_mm),
                fmt.angle(s.start.bevel_deg),
                fmt.angle(s.end.bevel_deg),
                f"{fmt.angle(s.start.miter_deg)} / {fmt.angle(s.end.miter_deg)}",
                f"{fmt.length(where[s.index].start_mm)} – {fmt.length(where[s.index].end_mm)}",
            )
            for s in plan.ring.sides
        ]
        lines += _table(rows)
        lines += [
            "",
            f"Height {fmt.length(job.design.form.height_mm, unit=True)} as glued, "
            f"{fmt.length(plan.section.finished_mm, unit=True)} finished{_standing(plan, fmt)}. "
            f"Board: {fmt.length(plan.wrap.needed_mm, unit=True)} of "
            f"{fmt.length(job.stock.board.length_mm, unit=True)}, "
            f"closing corner {corner_name(job.closing, job.design.side_count)}.",
        ]
        lines += contents_in_words(plan, fmt) + lines_of(plan.pieces, fmt)
        lines += corner_lines(plan, fmt)
        lines += ["", "Cuts"]
        lines += [
            f"{number:3d}. {title(step, fmt)}: {setting(step, fmt)}"
            for number, step in enumerate(plan.steps, 1)
        ]
    if plan.findings:
        lines += ["", "Findings"]
        lines += [f"  {line(finding, fmt)}" for finding in plan.findings]
    return "\n".join(lines)


def steps_in_full(plan: Plan, *, long: bool = False) -> list[str]:
    """Every step with its tool, its setting, how it is done and its cautions; general advice once, at the end.

    The `long` form also says what each step comes after, and why.
    """
    fmt = reader(plan.job.design)._replace(for_rule=True)
    titles = {step.id: title(step, fmt) for step in plan.steps}
    lines = refusals(plan.findings, fmt)
    for number, step in enumerate(plan.steps, 1):
        lines += [
            f"{number:3d}. {title(step, fmt)}   [{step.id}]",
            f"     {tool(step)}: {setting(step, fmt)}",
        ]
        lines += [f"     {text}" for text in (*first_of_all(plan.job, step, fmt), how(step, fmt))]
        reasons: dict[str, dict[str, None]] = {}  # a title once, however many steps bear it
        for before in step.after if long else ():
            reasons.setdefault(why(before.why), {})[f"“{titles[before.step]}”"] = None
        lines += [f"     after {', '.join(names)}: {reason}" for reason, names in reasons.items()]
        lines += [f"     ▲ {caution(key, fmt.units)}" for key in step.cautions if key != "manual"]
    lines += ["", caution("manual", fmt.units)] if plan.steps else []
    lines += [f"Done, and no longer in the plan: {name}" for name in done_and_gone(plan, plan.job)]
    return lines or ["No steps yet: the ring cannot be made."]


def _table(rows: Sequence[tuple[str, ...]]) -> list[str]:
    widths = [max(len(row[i]) for row in rows) for i in range(len(rows[0]))]
    return [
        "  ".join(
            cell.rjust(w) if i else cell.ljust(w) for i, (cell, w) in enumerate(zip(row, widths, strict=True))
        )
        for row in rows
    ]


def _standing(plan: Plan, fmt: Format) -> str:
    """How high it stands, where feet or banding lift it."""
    more = plan.standing_mm > plan.section.finished_mm
    return f", {fmt.length(plan.standing_mm, unit=True)} with feet and banding" if more else ""
