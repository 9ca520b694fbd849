"""What is said of the log and the calendar: entries, times, tasks, days."""

import datetime as dt
from collections.abc import Iterator, Mapping, Sequence
from typing import Final, NamedTuple

from peristyle.core.lengths import Format
from peristyle.model.job import Entry, Job
from peristyle.planning.making.step import Step
from peristyle.planning.time.minutes import Minutes, corrected
from peristyle.planning.time.schedule import Booked, Calendar
from peristyle.planning.time.tasks import Task
from peristyle.words.reading import clock
from peristyle.words.sled import MAKING
from peristyle.words.steps import setting, title

_KINDS: Final = {"done": "Done", "measured": "Measured", "setup": "Set-up", "correction": "Correction"}
COATS: Final = {
    "oil": "oil", "lacquer": "lacquer, three coats in a day", "thin_coats": "many thin coats, rubbed out",
    "shellac": "shellac", "wax": "wax",
}  # fmt: skip
_BETWEEN: Final = {
    "rub_320": "Before it: rubbed with 320, and the dust off.",
    "rub_600_wet": "Before it: rubbed wet with 600; milky slurry is finish, coloured slurry is wood: stop. Wet, "
    "by hand only, never with a sander on the mains.",
    "buff": "Before it: buffed.",
}


def took(one: Minutes) -> str:
    """What a step takes: with from least to most, and a mark where it is guessed."""
    if one.guessed:
        return f"about {clock(one.middle)}, a guess"
    return f"{clock(one.middle)} ({clock(one.least)} to {clock(one.most)}, of {one.entries})"


def entry(one: Entry, number: int, steps: Mapping[str, Step], fmt: Format) -> str:
    """One line of the log."""
    about = title(steps[one.about], fmt) if one.about in steps else one.about
    what = ": ".join(filter(None, (about, one.text)))
    minutes = f" ({clock(one.minutes)})" if one.minutes is not None else ""
    answers = f" to {one.corrects + 1}" if one.corrects is not None else ""
    when = one.when[:16].replace("T", " ")
    shot = " · photograph" if one.picture else ""
    head = f"{_KINDS[one.kind]}{answers}: " if one.kind in _KINDS else ""
    return f"{number + 1}  {when}  {head}{what}{minutes}{shot}"


class Line(NamedTuple):
    """A line of the story: a heading, or the entry of a number (from 0)."""

    text: str
    number: int | None = None


def story(job: Job, steps: Sequence[Step], fmt: Format, *, by_step: bool = False) -> Iterator[Line]:
    """The log as it reads: by date, or step by step."""
    named = {step.id: step for step in steps}
    lines = [(one, Line(f"  {entry(one, number, named, fmt)}", number)) for number, one in enumerate(job.log)]
    if not by_step:
        day = ""
        for one, line in lines:
            if one.when[:10] != day:
                day = one.when[:10]
                yield Line(day)
            yield line
        return
    known = list(dict.fromkeys(one.about for one, _line in lines))
    order = [step.id for step in steps if step.id in known] + [name for name in known if name not in named]
    for name in order:
        yield Line(title(named[name], fmt) if name in named else name or "Notes")
        for one, line in lines:
            if one.about == name:
                yield line


def searchable(job: Job, steps: Sequence[Step], fmt: Format) -> Iterator[str]:
    """Every entry as it reads, to be looked through."""
    named = {step.id: step for step in steps}
    for number, one in enumerate(job.log):
        yield entry(one, number, named, fmt)


def totals(job: Job) -> str:
    """Hands-on time, and how long it took in all."""
    standing = corrected(job.log)
    hands = sum(one.minutes or 0.0 for one in standing)
    days = sorted({one.when[:10] for one in standing})
    if not days:
        return "Nothing is logged yet."
    span = f"from {days[0]} to {days[-1]}" if len(days) > 1 else f"on {days[0]}"
    return f"{clock(hands)} hands-on, on {len(days)} {'days' if len(days) > 1 else 'day'}, {span}."


def worked(job: Job, steps: Sequence[Step], fmt: Format) -> Iterator[str]:
    """The settings that worked, as steps were done at them."""
    done = {one.step: one for one in job.progress if one.count}
    for step in steps:
        if step.id in done and step.settings:
            yield f"{title(step, fmt)}: {setting(step, fmt)}"


def task(one: Task, steps: Mapping[str, Step], fmt: Format) -> str:
    """What is to be done; `steps` by their ids, those of several boxes with the box's name before them."""
    step = steps.get(f"{one.job}/{one.step}") or steps.get(one.step)
    name = title(step, fmt) if step is not None else MAKING.get(one.step, one.step)
    if one.coat:
        inside = " inside" if step is not None and step.operation == "finish_inside" else ""
        return f"Coat {one.coat}{inside}"
    if one.lot:
        which = f"box {one.lot[0]}" if one.lot[0] == one.lot[1] else f"boxes {one.lot[0]} to {one.lot[1]}"
        return f"{name}: {which}"
    return f"{name}: sand" if one.id.endswith("/sand") else name


def booked(
    one: Booked, steps: Mapping[str, Step], fmt: Format, zone: dt.tzinfo, *, with_job: bool = True
) -> str:
    """One task with its times, by the workshop's clock."""
    spans = ", ".join(
        f"{a.astimezone(zone):%a %d %b %H:%M}–{b.astimezone(zone):%H:%M}" for a, b in one.sittings
    )
    waits = f", then waits until {one.ready.astimezone(zone):%a %d %b %H:%M}" if one.ready > one.ends else ""
    whose = f"{one.task.job}: " if with_job else ""
    before = f". {between(one.task.between)}" if one.task.between else ""
    return f"{spans}  {whose}{task(one.task, steps, fmt)}{waits}{before}"


def between(kind: str) -> str:
    """What is done before the next coat."""
    return _BETWEEN.get(kind, "")


def meanwhile(made: Calendar, steps: Mapping[str, Step], fmt: Format, zone: dt.tzinfo) -> Iterator[str]:
    """What is done while something else dries: the other boxes, and other steps of the same one."""
    for one in made.booked:
        if one.ready <= one.ends:
            continue
        other = [b for b in made.booked if one.ends <= b.starts < one.ready]
        if other:
            until = f"{one.ready.astimezone(zone):%a %d %b %H:%M}"
            what = f"{one.task.job}, {task(one.task, steps, fmt)}"
            names = dict.fromkeys(
                task(b.task, steps, fmt) if b.task.job == one.task.job else b.task.job for b in other
            )
            yield f"While {what}, dries until {until}: {', '.join(names)}."


def ready(made: Calendar, name: str, parts: Sequence[str], others: int, zone: dt.tzinfo) -> str:
    """When a box is ready, or each part of its batch (`parts` as the calendar names them); and all that is made beside
    it, where there are `others`. Empty where nothing is left to do.
    """

    def at(when: dt.datetime) -> str:
        return f"{when.astimezone(zone):%a %d %b at %H:%M}"

    told = []
    for part in parts:
        when = made.ready(part)
        if when is not None:
            what = "it is" if part == name else f"the {part.removeprefix(f'{name}, ')} are"
            told.append(f"{what} ready on {at(when)}")
    beside = ""
    if others and made.ends is not None:
        what = "the other box" if others == 1 else f"the {others} other boxes"
        beside = f"; with {what} all is ready on {at(made.ends)}"
    return f"Begun now, {', '.join(told)}{beside}." if told else ""
