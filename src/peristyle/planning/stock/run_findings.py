"""What stands against a wrap that is broken over several boards, or over stretches of one."""

from collections.abc import Iterator

from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import corner_name
from peristyle.model.job import Job
from peristyle.planning.findings import Finding, Fix, Place
from peristyle.planning.form.ring import RingPlan
from peristyle.planning.stock.laying import Laid

_WHOLE = Fix("unbroken", (("stock.breaks", "none"),))
_PLACE = Place("board")


def run_findings(job: Job, ring: RingPlan, laid: Laid) -> Iterator[Finding]:
    """A way of cutting that has no runs, boards that are not there, and boards too small for what they are to give."""
    if not job.breaks:
        return
    if job.stock.board.method != "square_first":
        fixes = (Fix("square_first", (("stock.board.method", "square_first"),)), _WHOLE)
        yield Finding("breaks_not_cut", "stop", _PLACE, {}, fixes)
        return
    known = {board.name: board for board in job.stock.rack}
    for name in sorted(
        {one.board for one in job.breaks.values() if one.board} - {*known, job.stock.board.name}
    ):
        yield Finding("break_board_gone", "stop", _PLACE, {}, (_WHOLE,), {"board": name})
    thick = max(side.thickness_mm for side in ring.sides)
    for name in dict.fromkeys(run.board for run in laid.runs if run.board):
        board = known[name]
        needed = max(run.end_mm for run in laid.runs if run.board == name)
        for what, want, have in (
            ("long", needed, board.length_mm),
            ("wide", laid.strip_mm + board.low_mm, board.width_mm),
            ("thick", thick, board.sound_thickness_mm),
        ):
            if want > have + DEFAULT.length_mm:
                numbers = {"needed_mm": want, "board_mm": have}
                yield Finding("break_board_small", "stop", _PLACE, numbers, (_WHOLE,), {"board": name}, what)
    count = len(ring.sides)
    broken = [corner_name(i, count) for i in range(count) if i in job.breaks]
    numbers = {"broken": float(len(broken) + 1), "count": float(count)}
    yield Finding("wrap_broken", "note", _PLACE, numbers, (_WHOLE,), {"corners": ", ".join(broken)})
