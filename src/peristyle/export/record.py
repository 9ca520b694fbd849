"""The box's record: what it became, settings that worked, what was lost where, time, the story; as PDF."""

from collections.abc import Callable, Iterator

from peristyle.core.lengths import Format
from peristyle.drawing.size import size_drawing
from peristyle.export.chapters import Shot, chapters
from peristyle.export.sheet import Paper, tag_text
from peristyle.model.design import replace
from peristyle.planning.fit.quantities import known
from peristyle.planning.plan import Plan, plan
from peristyle.words import fit as fit_words
from peristyle.words import log as words
from peristyle.words.boards import board_line, reckoned_words

Given = Callable[[str], bytes | None]  # a picture's bytes by its name


def _none(_name: str) -> None:
    return None


def record(made: Plan, paper: Paper = "a4", decimal: str = ".", given: Given = _none) -> bytes:
    """The record as PDF bytes; `given` finds pictures of boards and of the work by their names."""
    fmt, job = Format(made.job.design.units, decimal), made.job
    board = job.stock.board
    wood: list[str | Shot] = [board_line(board, fmt), reckoned_words(made, fmt)]
    seen = given(board.picture) if board.picture else None
    if seen is not None:
        wood[0] = Shot(seen, str(wood[0]))
    about = [words.totals(job), *([job.design.notes] if job.design.notes else [])]
    parts: tuple[tuple[str, list[str | Shot]], ...] = (
        ("", [*about]),
        ("The wood", wood),
        ("Settings that worked", [*words.worked(job, made.steps, fmt)]),
        ("What was measured, and what was lost", [*_lost(made, fmt)]),
        ("The story", [*_story(made, fmt, given)]),
    )
    drawing = size_drawing(made, fmt) if made.ring.sides else None
    return chapters(
        job.design.name, f"{job.design.name}: record", drawing, 70.0, parts, paper, tag_text(made, fmt)
    )


def _lost(made: Plan, fmt: Format) -> Iterator[str]:
    """Every measured quantity beside what was planned of it."""
    if not made.job.measured:
        return
    meant = known(plan(replace(made.job, measured=(), progress=(), log=())))
    for one in made.job.measured:
        quantity = meant.get(one.name)
        if quantity is None:
            yield f"{one.name}: {one.value:g}"
        else:
            yield fit_words.against_plan(quantity, one.value, fmt)


def _story(made: Plan, fmt: Format, given: Given) -> Iterator[str | Shot]:
    """The log, each photograph under its entry."""
    for line in words.story(made.job, made.steps, fmt):
        name = made.job.log[line.number].picture if line.number is not None else ""
        data = given(name) if name else None
        yield line.text if data is None else Shot(data, line.text)
