"""Where the wrap is broken, as text: `BC 34; DE Ash offcut, 10`, in the maker's units."""

from peristyle.core.errors import PeristyleError
from peristyle.core.lengths import Format, parse_length
from peristyle.model.design import corner_name
from peristyle.model.job import Job, revised
from peristyle.model.stock import Break

NONE = "none"


def breaks_told(job: Job) -> str:
    """Every break: the corner, the board it goes on from where that is another one, and what is cut away first."""
    fmt, count = Format(job.design.units), job.design.side_count
    told = []
    for after in sorted(job.breaks):
        one = job.breaks[after]
        board = f" {one.board}," if one.board else ""
        skip = fmt.length(one.skip_mm)
        if parse_length(skip, job.design.units) != one.skip_mm:
            skip = f"{one.skip_mm!r} mm"  # what is written must read back the same
        told.append(f"{corner_name(after, count)}{board} {skip}")
    return "; ".join(told) or NONE


def put_breaks(job: Job, text: str) -> Job:
    """The job with its wrap broken so. Raises PeristyleError that says what cannot be read."""
    if text.strip().lower() in (NONE, ""):
        return revised(job, breaks=())
    names = [corner_name(i, job.design.side_count) for i in range(job.design.side_count)]
    found: dict[int, Break] = {}
    for part in text.split(";"):
        corner, _space, rest = part.strip().partition(" ")
        if corner.upper() not in names:
            raise PeristyleError(f"“{corner[:24]}” is no corner of this box: write as in “{names[0]} 34”.")
        board, _comma, skip = rest.rpartition(",")
        name = "" if board.strip() == job.stock.board.name else board.strip()
        if name and name not in {one.name for one in job.stock.rack}:
            known = ", ".join(one.name for one in job.stock.rack) or NONE
            raise PeristyleError(f"“{name[:60]}” is no board on the rack. There: {known}.")
        away = skip.strip() or "0"
        number = names.index(corner.upper())
        if number == job.closing:
            raise PeristyleError(f"The wrap closes at {names[number]}: it is broken there as it is.")
        found[number] = Break(after=number, board=name, skip_mm=parse_length(away, job.design.units))
    return revised(job, breaks=tuple(found[k] for k in sorted(found)))
