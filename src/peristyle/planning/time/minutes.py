"""How long a step takes: by the maker's own log where it says so, else a guess that is marked as one."""

import statistics
from collections.abc import Iterable, Mapping, Sequence
from typing import Final

from msgspec import Struct

from peristyle.model.design import replace
from peristyle.model.job import Entry, Job
from peristyle.planning.making.step import Step
from peristyle.reference.times import guess

ENOUGH: Final = 3  # entries from which on the maker's own minutes are told (our rule)


class Minutes(Struct, frozen=True):
    """What a step takes: the middle, and from least to most; `entries` it is known from, 0 for a guess."""

    middle: float
    least: float
    most: float
    entries: int = 0

    @property
    def guessed(self) -> bool:
        """Whether nobody has timed it."""
        return self.entries < ENOUGH


def operation_of(step_id: str) -> str:
    """The operation a step's id speaks of: box.bevel.start.A_B → bevel."""
    parts = step_id.split(".")
    return parts[1] if len(parts) > 1 else parts[0]


def corrected(log: Sequence[Entry]) -> list[Entry]:
    """The entries as they stand: what a correction says of minutes takes the corrected one's place."""
    standing = {number: entry for number, entry in enumerate(log) if entry.kind != "correction"}
    for entry in log:
        if entry.kind == "correction" and entry.corrects in standing and entry.minutes is not None:
            standing[entry.corrects] = replace(standing[entry.corrects], minutes=entry.minutes)
    return [standing[number] for number in sorted(standing)]


def own_minutes(jobs: Iterable[Job]) -> dict[str, list[float]]:
    """Minutes that were logged, by operation, over many jobs, after those their shop knows of boxes made before."""
    known = list(jobs)
    found: dict[str, list[float]] = {}
    for one in (one for job in known for one in job.shop.timed):
        # Jobs begun from the same box know the same times: they are counted once.
        found[one.operation] = max(found.get(one.operation, []), list(one.minutes), key=len)
    for job in known:
        for entry in corrected(job.log):
            if entry.kind == "done" and entry.minutes:
                found.setdefault(operation_of(entry.about), []).append(entry.minutes)
    return found


def minutes_of(step: Step, own: Mapping[str, Sequence[float]], boxes: int = 1) -> Minutes:
    """What a step takes for so many boxes alike: set up once, each piece or pass by its number."""
    count = max(1, step.passes, len(step.pieces) if step.operation in ("crosscut", "bevel", "groove") else 1)
    return minutes_for(step.operation, own, count, boxes)


def minutes_for(
    operation: str, own: Mapping[str, Sequence[float]], count: int = 1, boxes: int = 1
) -> Minutes:
    """What an operation takes on so many pieces, for so many boxes alike."""
    known, first = own.get(operation, ()), guess(operation)
    if len(known) >= ENOUGH:
        middle = statistics.median(known)
        return Minutes(middle * boxes, min(known) * boxes, max(known) * boxes, len(known))
    middle = first.set_up + first.each * count * boxes
    return Minutes(middle, 0.6 * middle, 1.8 * middle, len(known))
