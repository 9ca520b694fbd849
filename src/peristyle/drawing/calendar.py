"""The calendar as days under each other: hands-on time as bars over the hours, waits hatched behind them."""

import datetime as dt
from collections.abc import Callable
from typing import Final

from peristyle.drawing.shapes import Drawing, Label, Path, Shape, box, line
from peristyle.planning.time.schedule import Calendar
from peristyle.planning.time.tasks import Task

_ROW: Final = 26.0
_WIDE: Final = 560.0  # of all the hours together
_LEFT: Final = 74.0
_MOST_DAYS: Final = 16
_LETTER: Final = 5.2  # how wide a letter is at this size, about
_LONG: Final = 7  # letters from which on a bar is worth words


def calendar_drawing(made: Calendar | None, told: Callable[[Task], str], zone: dt.tzinfo) -> Drawing:
    """As many days as have something in them, from the hour anything begins to that when all is done."""
    if made is None or not made.booked:
        words = "Everything is done." if made is not None else "No hours in the workshop: set shop.hours."
        return Drawing((Label((50.0, 50.0), words, "quiet", 12.0),), words=words)
    spans = [(a.astimezone(zone), b.astimezone(zone), one) for one in made.booked for a, b in one.sittings]
    days = list(dict.fromkeys(a.date() for a, _b, _one in spans))[:_MOST_DAYS]
    low = min(a.hour for a, _b, _one in spans)
    high = max(b.hour + (b.minute > 0) for _a, b, _one in spans)
    per = _WIDE / max(1, high - low)
    shapes: list[Shape] = []
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
        shapes.append(
            Path(box(x0, top - _ROW + 4.0, max(x0 + 1.5, x1), top - 4.0), "decided", "tint", weight=0.8)
        )
        letters = int((x1 - x0) / _LETTER)
        text = told(one.task)
        if letters >= _LONG:
            shown = text if len(text) <= letters else f"{text[: letters - 1]}…"
            shapes.append(Label((x0 + 3.0, top - _ROW * 0.6), shown, "follows", 8.0, anchor="left"))
    for hour in range(low, high + 1):
        x = _LEFT + per * (hour - low)
        shapes.append(line((x, 0.0), (x, -_ROW * len(days)), "quiet", 0.3, dash=True))
        shapes.append(Label((x, 8.0), f"{hour:02d}", "quiet", 8.0))
    more = len({a.date() for a, _b, _one in spans}) - len(days)
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
    return Drawing(tuple(shapes), (), (), bounds, words)


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
