"""The calendar: when each task is done, in the workshop's hours, on one bench with so many clamps.

Hands-on work is done one thing at a time and may go on another day; a glue-up or a coat is done in one go. Waits run
day and night, by true time: a day on which the clocks change has 23 or 25 hours.
"""

import datetime as dt
import itertools
import zoneinfo
from collections.abc import Callable, Iterator, Mapping, Sequence
from functools import lru_cache
from typing import Final

from msgspec import Struct

from peristyle.model.job import Hours
from peristyle.planning.time.tasks import Task

_UTC: Final = dt.UTC
_DAYS_AHEAD: Final = 4000  # a calendar is not looked for further
_EXACT: Final = 8  # tasks up to which every order is tried
_TRIES: Final = 400  # orders that are tried of more


class Booked(Struct, frozen=True):
    """A task in the calendar: from when to when at each sitting (UTC), and until when it then waits."""

    task: Task
    sittings: tuple[tuple[dt.datetime, dt.datetime], ...]
    ready: dt.datetime

    @property
    def starts(self) -> dt.datetime:
        """When it is begun."""
        return self.sittings[0][0]

    @property
    def ends(self) -> dt.datetime:
        """When the hands are off it."""
        return self.sittings[-1][1]


class Calendar(Struct, frozen=True):
    """All tasks in the order they are begun; when the last is ready."""

    booked: tuple[Booked, ...] = ()

    def ready(self, job: str) -> dt.datetime | None:
        """When everything of a job is done and dry."""
        times = [one.ready for one in self.booked if one.task.job == job]
        return max(times) if times else None

    @property
    def ends(self) -> dt.datetime | None:
        """When all of it is."""
        return max((one.ready for one in self.booked), default=None)


def zone_of(hours: Hours) -> dt.tzinfo:
    """The zone of the workshop's clock; this computer's where none is named."""
    if hours.zone:
        return zoneinfo.ZoneInfo(hours.zone)
    return dt.datetime.now().astimezone().tzinfo or _UTC


def open_hours(hours: Hours, begin: dt.datetime) -> Iterator[tuple[dt.datetime, dt.datetime]]:
    """The workshop's hours from a moment on, in UTC. Source: the zone's own rules, daylight saving and all."""
    zone = zone_of(hours)
    day = begin.astimezone(zone).date()
    for _ in range(_DAYS_AHEAD):
        low, high = hours.days[day.weekday()]
        if high > low:
            first, last = (_at(day, hour, zone) for hour in (low, high))
            if last > begin:
                yield max(first, begin), last
        day += dt.timedelta(days=1)


@lru_cache(maxsize=32)
def _spans_from(hours: Hours, day: dt.date) -> tuple[tuple[dt.datetime, dt.datetime], ...]:
    """The workshop's hours from a day on, as many as a calendar may want: the same through every drag."""
    return tuple(itertools.islice(open_hours(hours, _at(day, 0.0, zone_of(hours))), _DAYS_AHEAD // 4))


def _at(day: dt.date, hour: float, zone: dt.tzinfo) -> dt.datetime:
    """An hour of a day by the workshop's clock, in UTC."""
    whole, minute = divmod(round(hour * 60), 60)
    if whole == 24:
        day, whole = day + dt.timedelta(days=1), 0
    return dt.datetime(day.year, day.month, day.day, whole, minute, tzinfo=zone).astimezone(_UTC)


class _Bench:
    """What is taken of the workshop's hours, and of its clamps."""

    def __init__(self, hours: Hours, begin: dt.datetime, clamps: int | None) -> None:
        day = begin.astimezone(zone_of(hours)).date()
        self._spans = [(max(a, begin), b) for a, b in _spans_from(hours, day) if b > begin]
        self._clamps = clamps
        self._held: list[tuple[dt.datetime, dt.datetime, int]] = []

    def book(self, task: Task, earliest: dt.datetime) -> Booked | None:
        """The first time it can be done; taken from the bench's hours."""
        need = dt.timedelta(minutes=task.minutes.middle)
        # Where clamps are wanted that are held, it can be begun so that they are free when the hands are off it.
        starts = [earliest]
        if task.clamps and self._clamps is not None:
            starts += sorted(at for _low, high, _count in self._held if (at := high - need) > earliest)
        for number, begin in itertools.product(range(len(self._spans)), starts):
            if begin is not earliest and not self._spans[number][0] < begin < self._spans[number][1]:
                continue
            sittings = self._sittings(number, begin, need, task.whole)
            if sittings is None or not self._free(task, sittings[-1][1]):
                continue
            for low, high in sittings:
                self._take(low, high)
            end = sittings[-1][1]
            if task.clamps:
                self._held.append((end, end + dt.timedelta(hours=task.clamped_h), task.clamps))
            return Booked(task, tuple(sittings), end + dt.timedelta(hours=task.wait_h))
        return None

    def _sittings(
        self, number: int, earliest: dt.datetime, need: dt.timedelta, whole: bool
    ) -> list[tuple[dt.datetime, dt.datetime]] | None:
        """From one span of hours on, as many as it takes; one alone where it is done in one go."""
        low, high = self._spans[number]
        begin = max(low, earliest)
        if begin >= high:
            return None
        longest = max(b - a for a, b in self._spans[number : number + 60])
        if whole and high - begin < need and need <= longest:
            return None
        if whole:
            return [(begin, begin + need)]
        found, left = [], need
        for low, high in self._spans[number:]:
            begin = max(low, earliest)
            if begin >= high:
                continue
            end = min(high, begin + left)
            found.append((begin, end))
            left -= end - begin
            if left <= dt.timedelta(0):
                return found
        return None

    def _free(self, task: Task, at: dt.datetime) -> bool:
        """Whether there are clamps enough from then on, for as long as it holds them."""
        if not task.clamps or self._clamps is None:
            return True
        until = at + dt.timedelta(hours=task.clamped_h)
        held = sum(count for low, high, count in self._held if low < until and at < high)
        return held + task.clamps <= self._clamps

    def _take(self, low: dt.datetime, high: dt.datetime) -> None:
        spans = []
        for a, b in self._spans:
            if high <= a or b <= low:
                spans.append((a, b))
                continue
            spans += [(x, y) for x, y in ((a, low), (high, b)) if x < y]
        self._spans = spans


def booked(
    order: Sequence[Task], hours: Hours, begin: dt.datetime, clamps: int | None = None
) -> Calendar | None:
    """Tasks taken in this order, each as early as it can be; None where a task never fits or comes before another it
    needs.
    """
    bench = _Bench(hours, begin, clamps)
    done: dict[str, dt.datetime] = {}
    found = []
    for task in order:
        if any(name not in done for name in task.after):
            return None
        earliest = max(
            [begin, *(done[name] for name in task.after), *([task.not_before] if task.not_before else [])]
        )
        made = bench.book(task, earliest)
        if made is None:
            return None
        done[task.id] = made.ready
        found.append(made)
    return Calendar(tuple(sorted(found, key=lambda one: one.starts)))


def schedule(
    tasks: Sequence[Task], hours: Hours, begin: dt.datetime, clamps: int | None = None,
    cost: Callable[[Calendar], float] | None = None, due: Mapping[str, dt.datetime] | None = None,
    tries: int = _TRIES,
) -> Calendar | None:  # fmt: skip
    """A calendar that ends early: every order tried where there are few tasks, else by what has most still to come.

    `cost` is what is made least, the end of all if None; jobs promised for a day come before others. Source: serial
    schedule generation over orders (textbook); with every order tried it is the best there is, else, after so many
    `tries`, a good one.
    """
    worth = cost or (lambda made: made.ends.timestamp() if made.ends else 0.0)
    tails = _tails(tasks)
    when = due or {}
    late = dt.datetime.max.replace(tzinfo=_UTC)
    first = _ordered(tasks, lambda task: (when.get(task.job, late), -tails[task.id]))
    best = booked(first, hours, begin, clamps)
    orders: Iterator[Sequence[Task]] = (
        itertools.permutations(tasks) if len(tasks) <= _EXACT else _swapped(first, tries)
    )
    for order in orders:
        made = booked(order, hours, begin, clamps)
        if made is not None and (best is None or worth(made) < worth(best)):
            best = made
    return best


def sooner(made: Calendar) -> float:
    """What is made least where parts of a batch go out one after the other: when each job is ready, all together."""
    last: dict[str, float] = {}
    for one in made.booked:
        last[one.task.job] = max(last.get(one.task.job, 0.0), one.ready.timestamp())
    return sum(last.values())


def in_turn(parts: Sequence[str], promised: dt.datetime | None) -> dict[str, dt.datetime]:
    """For when the parts of a batch are wanted: one after the other, by the day the job is promised for."""
    last = promised or dt.datetime.max.replace(tzinfo=_UTC)
    return {part: last - dt.timedelta(seconds=len(parts) - number) for number, part in enumerate(parts)}


def _tails(tasks: Sequence[Task]) -> dict[str, float]:
    """How much is still to come after each task of its job, with its waits (minutes)."""
    after: dict[str, list[Task]] = {}
    for task in tasks:
        for name in task.after:
            after.setdefault(name, []).append(task)
    found: dict[str, float] = {}
    for task in reversed(tasks):
        follows = max((found[one.id] for one in after.get(task.id, ()) if one.id in found), default=0.0)
        found[task.id] = task.minutes.middle + 60 * task.wait_h + follows
    return found


def _ordered(tasks: Sequence[Task], key: Callable[[Task], tuple[dt.datetime, float]]) -> list[Task]:
    """Tasks in an order that keeps that of each job, and comes after what is needed of others, else by a key."""
    queues: dict[str, list[Task]] = {}
    for task in tasks:
        queues.setdefault(task.job, []).append(task)
    heads, found = {name: iter(queue) for name, queue in queues.items()}, []
    ready = {name: next(queue) for name, queue in heads.items()}
    waiting = {task.id for task in tasks}
    while ready:
        able = [name for name, task in ready.items() if not waiting.intersection(task.after)] or list(ready)
        name = min(able, key=lambda one: key(ready[one]))
        task = ready.pop(name)
        waiting.discard(task.id)
        found.append(task)
        following = next(heads[name], None)
        if following is not None:
            ready[name] = following
    return found


def _swapped(first: Sequence[Task], tries: int) -> Iterator[Sequence[Task]]:
    """Orders near the first: neighbours of other jobs exchanged."""
    tried = 0
    for number in range(len(first) - 1):
        if first[number].job != first[number + 1].job and tried < tries:
            tried += 1
            yield [*first[:number], first[number + 1], first[number], *first[number + 2 :]]


def latest_start(
    tasks: Sequence[Task], hours: Hours, promised: dt.date, now: dt.datetime, clamps: int | None = None
) -> dt.date | None:
    """The last day on which the work can be begun and still be ready on the day promised; None where it is too late."""
    zone = zone_of(hours)
    ends = _at(promised, 24.0, zone)
    low, high = now.astimezone(zone).date(), promised
    found = None
    while low <= high:
        day = low + (high - low) // 2
        begin = max(now, _at(day, 0.0, zone))
        made = schedule(tasks, hours, begin, clamps)
        if made is not None and made.ends is not None and made.ends <= ends:
            found, low = day, day + dt.timedelta(days=1)
        else:
            high = day - dt.timedelta(days=1)
    return found
