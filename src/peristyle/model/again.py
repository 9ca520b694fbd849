"""Another box like one that was made: its settings and lessons go with it, what was done and measured does not."""

from collections.abc import Mapping, Sequence
from typing import Final

from peristyle.model.design import replace
from peristyle.model.job import Entry, Job, Timed

_MOST: Final = 60  # times of an operation that are kept, the latest
_LONGEST: Final = 2000  # letters of an entry
_NAME: Final = 120


def again(job: Job, minutes: Mapping[str, Sequence[float]], when: str) -> Job:
    """A job begun from an earlier one: tools, set-ups, order of work, minutes and notes of the earlier are taken over.

    `minutes` are those logged, by operation; `when` is now (ISO 8601).
    """
    timed = tuple(Timed(name, tuple(took[-_MOST:])) for name, took in minutes.items())
    lessons = tuple(
        Entry(when, one.about, f"From {job.design.name}: {one.text}"[:_LONGEST], "note", picture=one.picture)
        for one in job.log
        if (one.text or one.picture) and one.kind in ("note", "correction")
    )
    made: Job = replace(
        job,
        design=replace(job.design, name=f"{job.design.name} again"[:_NAME]),
        shop=replace(job.shop, timed=timed),
        work=replace(job.work, planned=(), promised="", sled=False),
        measured=(), progress=(), log=lessons, cut_by=(),
    )  # fmt: skip
    return made
