"""The calendar as days under each other: hands-on time as bars over the hours, waits hatched behind them.

A bar of the box that is open is dragged to a later hour or day, or moved by a day with the arrow keys once it is
picked: it is not begun before, and the rest follows.
"""

import datetime as dt
from collections.abc import Callable, Collection, Sequence
from typing import Final

from peristyle.drawing.shapes import Drawing, Grip, Label, Path, Pick, Shape, box, line
from peristyle.model.job import Job
from peristyle.planning.time.schedule import Booked, Calendar
from peristyle.planning.time.tasks import Task, later

_ROW: Final = 26.0
_WIDE: Final = 560.0  # of all the hours together
_LEFT: Final = 74.0
_MOST_DAYS: Final = 16
_LETTER: Final = 5.2  # how wide a letter is at this size, about
_LONG: Final = 7  # letters from which on a bar is worth words


def calendar_drawing(
    made: Calendar | None, told: Callable[[Task], str], zone: dt.tzinfo,
    mine: str = "", rows: Sequence[str] = (), picked: Pick | None = None, pinned: Collection[str] = (),
) -> Drawing:  # fmt: skip
    """The days from the first to the last on which anything is done, from the hour anything begins to the last.

    Bars of the job called `mine` can be picked, as its steps `rows` are, and dragged; `pinned` were.
    """
    if made is None or not made.booked:
        words = "Everything is done." if made is not None else "No hours in the workshop: set shop.hours."
        return Drawing((Label((50.0, 50.0), words, "quiet", 12.0),), words=words)
    spans = [(a.astimezone(zone), b.astimezone(zone), one) for one in made.booked for a, b in one.sittings]
    worked = sorted({a.date() for a, _b, _one in spans})
    days = _days(worked)
    low = min(a.hour for a, _b, _one in spans)
    high = max(b.hour + (b.minute > 0) for _a, b, _one in spans)
    per = _WIDE / max(1, high - low)
    shapes: list[Shape] = []
    grips: list[Grip] = []
    for row, day in enumerate(days):
        top = -_ROW * row
        shapes.append(Label((0.0, top - _ROW * 0.6), f"{day:%a %d %b}", "follows", 9.0, anchor="left"))
        shapes.append(line((_LEFT, top - _ROW), (_LEFT + _WIDE, top - _ROW), "quiet", 0.4))
        shapes += _waits(made, day, row, (low, high), zone)
    for a, b, one in spans:
        if a.date() not in days:
            continue
        top = -_ROW * days.index(a.date())
        x0, x1 = (_LEFT + per * (t.hour + t.minute / 60 + t.second / 3600 - low) for t in (a, b))
        area, own = box(x0, top - _ROW + 4.0, max(x0 + 1.5, x1), top - 4.0), one.task.job == mine
        pick = Pick("step", rows.index(one.task.step)) if own and one.task.step in rows else None
        shapes.append(Path(area, "decided" if own or not mine else "follows", "tint", weight=0.8, pick=pick))
        if own and one.task.name in pinned and a == one.starts.astimezone(zone):
            shapes.append(line((x0, top - _ROW + 2.0), (x0, top - 2.0), "caution", 2.2))
        if own:
            grips.append(_grip(one, area, (days, per), zone, pick is not None and pick == picked))
        letters = int((x1 - x0) / _LETTER)
        text = told(one.task)
        if letters >= _LONG:
            shown = text if len(text) <= letters else f"{text[: letters - 1]}…"
            shapes.append(Label((x0 + 3.0, top - _ROW * 0.6), shown, "follows", 8.0, anchor="left"))
    for hour in range(low, high + 1):
        x = _LEFT + per * (hour - low)
        shapes.append(line((x, 0.0), (x, -_ROW * len(days)), "quiet", 0.3, dash=True))
        shapes.append(Label((x, 8.0), f"{hour:02d}", "quiet", 8.0))
    more = sum(day not in days for day in worked)
    foot = -_ROW * len(days) - 16.0
    if more > 0:
        shapes.append(Label((0.0, foot), f"and {more} days more", "quiet", 9.0, anchor="left"))
    bounds = (-10.0, foot - 10.0, _LEFT + _WIDE + 14.0, 22.0)
    last = made.ends.astimezone(zone) if made.ends else None
    words = (
        f"{len(made.booked)} tasks on {len(days) + max(0, more)} days; ready {last:%a %d %b %H:%M}."
        if last
        else ""
    )
    return Drawing(tuple(shapes), (), tuple(grips), bounds, words)


def _days(worked: Sequence[dt.date]) -> list[dt.date]:
    """Every day from the first to the last, where there is room for them; else those with something in them."""
    count = (worked[-1] - worked[0]).days + 1
    if count > _MOST_DAYS:
        return list(worked[:_MOST_DAYS])
    return [worked[0] + dt.timedelta(days=number) for number in range(count)]


def _grip(
    one: Booked, area: tuple[tuple[float, float], ...], scale: tuple[Sequence[dt.date], float],
    zone: dt.tzinfo, chosen: bool,
) -> Grip:  # fmt: skip
    """A bar is dragged over hours and days; once picked, an arrow key moves it by a day."""
    days, per = scale
    start = one.starts.astimezone(zone)

    def move(job: Job, dx: float, dy: float) -> Job | None:
        row = days.index(start.date()) + round(-dy / _ROW) if start.date() in days else round(-dy / _ROW)
        over = row - len(days) + 1
        day = days[-1] + dt.timedelta(days=over) if over > 0 else days[max(0, row)]
        hour = min(23.75, max(0.0, start.hour + start.minute / 60 + dx / per))
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


def _waits(made: Calendar, day: dt.date, row: int, hours: tuple[int, int], zone: dt.tzinfo) -> list[Shape]:
    """What dries on a day, along the foot of its row."""
    low, high = hours
    per = _WIDE / max(1, high - low)
    begin = dt.datetime(day.year, day.month, day.day, low, tzinfo=zone)
    end = begin + dt.timedelta(hours=high - low)
    shapes: list[Shape] = []
    for one in made.booked:
        a, b = max(one.ends, begin), min(one.ready, end)
        if a < b:
            x0, x1 = (_LEFT + per * (t - begin).total_seconds() / 3600 for t in (a, b))
            foot = -_ROW * row - _ROW
            shapes.append(Path(box(x0, foot + 1.0, x1, foot + 4.0), "quiet", "hatch", weight=0.5))
    return shapes
