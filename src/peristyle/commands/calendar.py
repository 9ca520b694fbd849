"""When the work is done: one box or many on one bench, by the workshop's hours, as text, data or iCalendar."""

import datetime as dt
import sys
from pathlib import Path
from typing import TYPE_CHECKING, Any

from peristyle.commands.console import Parser, print_json, put
from peristyle.core.errors import PeristyleError

if TYPE_CHECKING:
    from peristyle.core.lengths import Format
    from peristyle.model.job import Job
    from peristyle.planning.making.step import Step
    from peristyle.planning.time.schedule import Calendar
    from peristyle.planning.time.tasks import Task

    Asked = tuple[
        Job, str, tuple[int, ...]
    ]  # a job, what it is called, and how many boxes of it, part by part


def _parser() -> Parser:
    parser = Parser(
        prog="peristyle calendar",
        description="When each step is done: hands-on time in the workshop's hours, waits day and night, one bench and "
        "its clamps. Several boxes are interleaved; FILE=12 makes twelve of one, set-up by set-up, FILE=3+9 lets three "
        "of them go on alone from the glue-up, so that they are ready first.",
    )
    parser.add_argument("file", nargs="+", metavar="FILE[=N[+N]]")
    parser.add_argument(
        "--start", metavar="WHEN", help="2026-12-01 or 2026-12-01T18:00; now if nothing is said"
    )
    parser.add_argument(
        "--zone", metavar="ZONE", help="time zone, as Europe/Paris, instead of the first box's"
    )
    parser.add_argument(
        "--clamps", type=int, metavar="N", help="clamps there are, else those of the first box's shop"
    )
    parser.add_argument("--by", metavar="DAY", help="promised for: the last day on which to begin is told")
    parser.add_argument(
        "--move", action="append", metavar="STEP=WHEN",
        help="a step (or its coat, as box.finish/2) is not begun before; kept in the file; STEP= takes it back",
    )  # fmt: skip
    parser.add_argument("--today", action="store_true", help="only what is done on the first day")
    parser.add_argument("--ics", metavar="OUT", help="write it as iCalendar")
    parser.add_argument("--json", action="store_true", help="as data")
    return parser


def _work(
    jobs: "list[Asked]", zone: dt.tzinfo, clamps: int | None
) -> "tuple[list[Task], dict[str, Step], dict[str, dt.datetime]]":
    """All that is to be done of these jobs, the steps by the names it goes by, and by when parts of it are promised."""
    from peristyle.planning.plan import plan
    from peristyle.planning.time.minutes import own_minutes
    from peristyle.planning.time.schedule import in_turn
    from peristyle.planning.time.tasks import part_names, tasks_of

    own = own_minutes([job for job, _name, _count in jobs])
    tasks: list[Task] = []
    steps: dict[str, Step] = {}
    due: dict[str, dt.datetime] = {}
    for job, name, count in jobs:
        made = plan(job)
        tasks += tasks_of(made, name, own, count, clamps)
        parts = part_names(name, count)
        steps |= {f"{part}/{step.id}": step for part in (name, *parts) for step in made.steps}
        promised = _moment(job.work.promised, zone) if job.work.promised else None
        if promised or len(parts) > 1:
            due |= in_turn([name, *parts], promised)
    return tasks, steps, due


def run(words: list[str]) -> int:
    options = _parser().parse_args(words)
    # Late, so that other commands start without it.
    from peristyle.core.lengths import Format
    from peristyle.model.design import replace
    from peristyle.model.working_addresses import checked_zone
    from peristyle.planning.time.schedule import latest_start, schedule, sooner, zone_of
    from peristyle.planning.time.tasks import clamps_of, told_apart
    from peristyle.words import log as said

    jobs = [_job(text) for text in options.file]
    if options.move:
        jobs = [_planned(options.file, jobs, options.move, options.zone)]
    names = told_apart([name for _job, name, _count in jobs])
    jobs = [(job, name, count) for (job, _name, count), name in zip(jobs, names, strict=True)]
    hours = jobs[0][0].shop.hours
    if options.zone:
        hours = replace(hours, zone=checked_zone(options.zone))
    zone, fmt = zone_of(hours), Format(jobs[0][0].design.units)
    begin = _moment(options.start, zone)
    if options.clamps is not None and not 1 <= options.clamps <= 10_000:
        raise PeristyleError("--clamps: give a number from 1 on.")
    clamps = options.clamps or clamps_of(jobs[0][0])
    tasks, steps, due = _work(jobs, zone, clamps)
    split = any(len(count) > 1 for _job, _name, count in jobs)
    found = schedule(tasks, hours, begin, clamps, sooner if split else None, due)
    if found is None:
        raise PeristyleError(
            "There are no hours in the workshop in which all of it can be done: set shop.hours."
        )
    if options.by:
        day = latest_start(tasks, hours, _moment(options.by, zone).astimezone(zone).date(), begin, clamps)
        told = (
            f"Begin on {day:%a %d %b %Y} at the latest."
            if day
            else "Even begun at once it is not ready by then."
        )
        # What is read by a program is on standard output alone.
        print(told, file=sys.stderr if options.json or options.ics else sys.stdout)
    if options.ics:
        from peristyle.export.ical import icalendar

        put(options.ics, icalendar(found, lambda task: said.task(task, steps, fmt), dt.datetime.now(dt.UTC)))
        return 0
    if options.json:
        print_json(_data(found, steps, fmt))
        return 0
    _tell(found, steps, fmt, begin.astimezone(zone), today=options.today)
    return 0


def _tell(
    found: "Calendar", steps: "dict[str, Step]", fmt: "Format", begin: dt.datetime, *, today: bool
) -> None:
    """The calendar line by line, what is done meanwhile, and when each box is ready."""
    from peristyle.words import log as said

    zone = begin.tzinfo
    assert zone is not None
    for one in found.booked:
        if not today or one.starts.astimezone(zone).date() == begin.date():
            print(said.booked(one, steps, fmt, zone))
    if not found.booked:
        print("Nothing is left to do, or nothing can be done yet: “peristyle plan” says which.")
    for line in said.meanwhile(found, steps, fmt, zone) if not today else ():
        print(line)
    jobs = list(dict.fromkeys(one.task.job for one in found.booked))
    for name in jobs:
        ready = found.ready(name)
        goes_on = any(other.startswith(f"{name}, ") for other in jobs)  # in the parts of its batch
        if ready is not None and not goes_on:
            print(f"{name} is ready on {ready.astimezone(zone):%a %d %b %Y at %H:%M}.")


def _data(found: "Calendar", steps: "dict[str, Step]", fmt: "Format") -> list[dict[str, Any]]:
    from peristyle.words import log as said

    return [
        {"task": one.task.id, "job": one.task.job, "step": one.task.step, "words": said.task(one.task, steps, fmt),
         "sittings": [[a.isoformat(), b.isoformat()] for a, b in one.sittings], "ready": one.ready.isoformat(),
         "minutes": one.task.minutes.middle, "guessed": one.task.minutes.guessed, "clamps": one.task.clamps,
         "lot": one.task.lot}
        for one in found.booked
    ]  # fmt: skip


def _job(text: str) -> "Asked":
    """A box and how many of it: as said, else as its file has it."""
    from peristyle.model.working_addresses import read_boxes
    from peristyle.storage import files

    name, mark, count = text.rpartition("=")
    said = bool(mark) and bool(count) and not Path(text).exists()
    job = files.load(Path(name if said else text)).job
    boxes = read_boxes(count) if said else job.work.boxes
    return job, f"{job.design.name} × {sum(boxes)}" if sum(boxes) > 1 else job.design.name, boxes


def _planned(names: list[str], jobs: "list[Asked]", moves: list[str], zone: str | None) -> "Asked":
    """A box with steps planned for later, kept in its file."""
    from peristyle.model.design import replace
    from peristyle.model.working_addresses import checked_zone
    from peristyle.planning.plan import plan
    from peristyle.planning.time.schedule import zone_of
    from peristyle.planning.time.tasks import later, tasks_of
    from peristyle.storage import files

    if len(jobs) > 1 or not Path(names[0]).exists():
        raise PeristyleError("Give one box with --move, without a count.")
    path = Path(names[0])
    loaded = files.load(path)
    job = loaded.job
    hours = replace(job.shop.hours, zone=checked_zone(zone)) if zone else job.shop.hours
    known = [task.name for task in tasks_of(plan(job), job.design.name, boxes=job.work.boxes)]
    for move in moves:
        name, mark, when = move.rpartition("=")
        if not mark or name not in known:
            raise PeristyleError(
                f"“{move[:60]}”: give a step still to be done, as {known[0] if known else 'STEP'}=WHEN."
            )
        job = later(job, name, _moment(when, zone_of(hours)) if when else None)
    files.save(path, job, loaded.stamp)
    return job, jobs[0][1], jobs[0][2]


def _moment(text: str | None, zone: dt.tzinfo) -> dt.datetime:
    """A day or a moment by the workshop's clock, in UTC."""
    if not text:
        return dt.datetime.now(dt.UTC)
    try:
        when = dt.datetime.fromisoformat(text)
    except ValueError as error:
        raise PeristyleError(f"“{text[:30]}” is no day: give it as 2026-12-24.") from error
    return (when if when.tzinfo else when.replace(tzinfo=zone)).astimezone(dt.UTC)
