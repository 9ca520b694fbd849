"""The calendar as days under each other: hands-on time as bars over the hours, waits hatched behind them.

A bar of the box that is open is dragged to a later hour or day, or moved by a day with the arrow keys once it is
picked: it is not begun before, and the rest follows.
"""

import datetime as dt
import itertools
import math
from collections.abc import Callable, Collection, Sequence
from typing import Final

import numpy as np

from peristyle.core.outlines import box
from peristyle.drawing.shapes import Drawing, Grip, Label, Path, Pick, Shape, line
from peristyle.model.job import Job
from peristyle.planning.time.schedule import Booked, Calendar
from peristyle.planning.time.tasks import Task, later

_ROW: Final = 26.0
_SHEET: Final = (2.8, 220.0)  # how much wider than high the drawing is, and how many pixels high, about
_LEFT: Final = 78.0  # pixels for the days
_MOST_DAYS: Final = 16
_BREAK: Final = 0.15  # of an hour's width, an hour in which nobody is at the bench
_LETTER: Final = 6.4  # pixels a letter is wide, about
_LONG: Final = 7  # letters from which on a bar is worth words


def calendar_drawing(
    made: Calendar | None, told: Callable[[Task], str], zone: dt.tzinfo,
    mine: Collection[str] = (), rows: Sequence[str] = (), picked: Pick | None = None, pinned: Collection[str] = (),
    page: int = 0, *, nothing: str,
) -> Drawing:  # fmt: skip
    """The days from the first to the last on which anything is done, from the hour anything begins to the last; where
    they are too many, those of one page of `day_pages`.

    Bars of the jobs in `mine` can be picked, as its steps `rows` are, and dragged; `pinned` were. `nothing` is said
    where no work is left.
    """
    if made is None or not made.booked:
        words = nothing if made is not None else "No hours in the workshop: set shop.hours."
        return Drawing((Label((50.0, 50.0), words, "quiet", 12.0),), words=words)
    spans = [(a.astimezone(zone), b.astimezone(zone), one) for one in made.booked for a, b in one.sittings]
    pages = day_pages(made, zone)
    days = pages[min(page, len(pages) - 1)]
    high = _ROW * len(days) + 48.0
    left, wide, unit = _LEFT * high / _SHEET[1], _SHEET[0] * high, high / _SHEET[1]
    clock = _Clock((left, wide), [(_hour(a, a.date()), _hour(b, a.date())) for a, b, _one in spans])
    shapes: list[Shape] = []
    grips: list[Grip] = []
    for row, day in enumerate(days):
        top = -_ROW * row
        shapes.append(Label((0.0, top - _ROW * 0.6), f"{day:%a %d %b}", "follows", 9.0, anchor="left"))
        shapes.append(line((left, top - _ROW), (left + wide, top - _ROW), "quiet", 0.4))
        shapes += _waits(made, day, row, clock, zone)
    for a, b, one in spans:
        if a.date() not in days:
            continue
        top = -_ROW * days.index(a.date())
        x0, x1 = (clock.x(_hour(t, a.date())) for t in (a, b))
        area, own = box(x0, top - _ROW + 4.0, max(x0 + 1.5, x1), top - 4.0), one.task.job in mine
        pick = Pick("step", rows.index(one.task.step)) if own and one.task.step in rows else None
        shapes.append(Path(area, "decided" if own or not mine else "follows", "tint", weight=0.8, pick=pick))
        if own and one.task.name in pinned and a == one.starts.astimezone(zone):
            shapes.append(line((x0, top - _ROW + 2.0), (x0, top - 2.0), "caution", 2.2))
        if own:
            grips.append(_grip(one, area, (days, clock), zone, pick is not None and pick == picked))
        letters = int((x1 - x0) / (_LETTER * unit))
        text = told(one.task)
        if letters >= _LONG:
            shown = text if len(text) <= letters else f"{text[: letters - 1]}…"
            shapes.append(Label((x0 + 3.0, top - _ROW * 0.6), shown, "follows", 8.0, anchor="left"))
    for hour in clock.hours:
        x = clock.x(hour)
        shapes.append(line((x, 0.0), (x, -_ROW * len(days)), "quiet", 0.3, dash=True))
        shapes.append(Label((x, 8.0), f"{hour % 24:02d}", "quiet", 8.0))
    more = len({a.date() for a, _b, _one in spans if a.date() > days[-1]})
    foot = -_ROW * len(days) - 16.0
    if more > 0:
        shapes.append(Label((0.0, foot), f"and {more} days more", "quiet", 9.0, anchor="left"))
    bounds = (-10.0, foot - 10.0, left + wide + 14.0, 22.0)
    last = made.ends.astimezone(zone) if made.ends else None
    words = (
        f"{len(made.booked)} tasks on {sum(map(len, pages))} days; ready {last:%a %d %b %H:%M}."
        if last
        else ""
    )
    return Drawing(tuple(shapes), (), tuple(grips), bounds, words)


def _hour(when: dt.datetime, day: dt.date) -> float:
    """The hour of a day by the workshop's clock, past 24 on the next."""
    return (when.date() - day).days * 24 + when.hour + when.minute / 60 + when.second / 3600


class _Clock:
    """Hours across the drawing. Where nobody is ever at the bench for two hours or more there is a narrow break."""

    def __init__(self, across: tuple[float, float], spans: Sequence[tuple[float, float]]) -> None:
        used = {hour for a, b in spans for hour in range(int(a), max(int(a) + 1, math.ceil(b)))}
        low, high = min(used), max(used) + 1
        narrow = set()
        for hour in range(low, high):
            if not {hour - 1, hour} & used or not {hour, hour + 1} & used:
                narrow.add(hour)
        wides = [_BREAK if hour in narrow else 1.0 for hour in range(low, high)]
        left, wide = across
        per = wide / sum(wides)
        self._edges = [left + per * past for past in itertools.accumulate(wides, initial=0.0)]
        self.low, self.high = low, high
        self.hours = [h for h in range(low, high + 1) if h not in narrow or h - 1 not in narrow]

    def x(self, hour: float) -> float:
        """Where an hour is."""
        return float(np.interp(hour, range(self.low, self.high + 1), self._edges))

    def hour(self, x: float) -> float:
        """Which hour is there."""
        return float(np.interp(x, self._edges, range(self.low, self.high + 1)))


def day_pages(made: Calendar, zone: dt.tzinfo) -> list[list[dt.date]]:
    """Every day from the first to the last, where there is room for them; else those with something in them, as many to
    a page as there is room for. Empty where nothing is to be done.
    """
    worked = sorted({a.astimezone(zone).date() for one in made.booked for a, _b in one.sittings})
    if not worked:
        return []
    count = (worked[-1] - worked[0]).days + 1
    if count > _MOST_DAYS:
        return [worked[at : at + _MOST_DAYS] for at in range(0, len(worked), _MOST_DAYS)]
    return [[worked[0] + dt.timedelta(days=number) for number in range(count)]]


def _grip(
    one: Booked, area: tuple[tuple[float, float], ...], scale: tuple[Sequence[dt.date], _Clock],
    zone: dt.tzinfo, chosen: bool,
) -> Grip:  # fmt: skip
    """A bar is dragged over hours and days; once picked, an arrow key moves it by a day."""
    days, clock = scale
    start = one.starts.astimezone(zone)

    def move(job: Job, dx: float, dy: float) -> Job | None:
        row = days.index(start.date()) + round(-dy / _ROW) if start.date() in days else round(-dy / _ROW)
        over = row - len(days) + 1
        day = days[-1] + dt.timedelta(days=over) if over > 0 else days[max(0, row)]
        hour = min(23.75, clock.hour(clock.x(_hour(start, start.date())) + dx))
        return _moved(job, one.task, dt.datetime(day.year, day.month, day.day, tzinfo=zone), hour)

    def step(job: Job, way: int) -> Job | None:
        day = start + dt.timedelta(days=way)
        return _moved(job, one.task, dt.datetime(day.year, day.month, day.day, tzinfo=zone), 0.0)

    return Grip(area, move, "Move in the calendar", None, step if chosen else None)


def _moved(job: Job, task: Task, day: dt.datetime, hour: float) -> Job:
    """Not begun before an hour of a day, to the quarter; a moment that is past takes it back."""
    quarter = round(hour * 4)
    when = day.replace(hour=quarter // 4 % 24, minute=15 * (quarter % 4))
    return later(job, task.name, when if when > dt.datetime.now(dt.UTC) else None)


def _waits(made: Calendar, day: dt.date, row: int, clock: _Clock, zone: dt.tzinfo) -> list[Shape]:
    """What dries on a day, along the foot of its row."""
    shapes: list[Shape] = []
    for one in made.booked:
        a, b = (_hour(t.astimezone(zone), day) for t in (one.ends, one.ready))
        a, b = max(a, clock.low), min(b, clock.high)
        if a < b:
            x0, x1 = clock.x(a), clock.x(b)
            foot = -_ROW * row - _ROW
            shapes.append(Path(box(x0, foot + 1.0, x1, foot + 4.0), "quiet", "hatch", weight=0.5))
    return shapes
