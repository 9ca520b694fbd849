"""The sled as a sheet: drawing, parts, steps, cautions; as PDF."""

from peristyle.core.lengths import Format
from peristyle.drawing.sled import sled_drawing
from peristyle.export.chapters import chapters
from peristyle.export.sheet import Paper
from peristyle.planning.plan import Plan
from peristyle.planning.sled import sled
from peristyle.words import sled as words


def sled_sheet(plan: Plan, paper: Paper = "a4", decimal: str = ".") -> bytes:
    """The sheet as PDF bytes. Raises PeristyleError where there is nothing for a sled."""
    made, fmt = sled(plan), Format(plan.job.design.units, decimal)
    title = f"Sled for {plan.job.design.name}"
    parts = (
        ("Parts", [words.part(one, fmt) for one in made.parts]),
        ("How it is made", [f"{k}. {text}" for k, text in enumerate(words.steps(made, fmt), 1)]),
        ("To mind", list(words.cautions(made, fmt))),
    )
    return chapters(title, title, sled_drawing(made, fmt), 105.0, parts, paper)
