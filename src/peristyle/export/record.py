"""The box's record: what it became, settings that worked, time, the story; as PDF."""

from peristyle.core.lengths import Format
from peristyle.drawing.size import size_drawing
from peristyle.export.chapters import chapters
from peristyle.export.sheet import Paper, tag_text
from peristyle.planning.plan import Plan
from peristyle.words import log as words


def record(plan: Plan, paper: Paper = "a4", decimal: str = ".") -> bytes:
    """The record as PDF bytes."""
    fmt, job = Format(plan.job.design.units, decimal), plan.job
    wood = job.stock.board
    about = [
        f"Wood: {wood.wood}, {fmt.length(wood.thickness_mm, unit=True)} thick as it came. {words.totals(job)}",
        *([job.design.notes] if job.design.notes else []),
    ]
    parts = (
        ("", about),
        ("Settings that worked", list(words.worked(job, plan.steps, fmt))),
        ("What was measured", [f"{one.name}: {one.value:g}" for one in job.measured]),
        ("The story", [line.text for line in words.story(job, plan.steps, fmt)]),
    )
    drawing = size_drawing(plan, fmt) if plan.ring.sides else None
    return chapters(
        job.design.name, f"{job.design.name}: record", drawing, 70.0, parts, paper, tag_text(plan, fmt)
    )
