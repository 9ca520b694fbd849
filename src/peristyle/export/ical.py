"""The calendar as iCalendar (RFC 5545): one event for every sitting, in UTC, and the waits as free time."""

import datetime as dt
from collections.abc import Callable

from icalendar import Calendar as Written
from icalendar import Event

from peristyle.planning.time.schedule import Calendar
from peristyle.planning.time.tasks import Task


def icalendar(made: Calendar, told: Callable[[Task], str], now: dt.datetime) -> bytes:
    """The events as bytes. Source: RFC 5545, written by a general package."""
    written = Written()
    written.add("prodid", "-//Peristyle//boxes//EN")
    written.add("version", "2.0")
    for one in made.booked:
        for number, (begins, ends) in enumerate(one.sittings, 1):
            written.add_component(
                _event(f"{one.task.id}/{number}", f"{one.task.job}: {told(one.task)}", begins, ends, now)
            )
        if one.ready > one.ends:
            wait = _event(
                f"{one.task.id}/wait", f"{one.task.job}: waits ({told(one.task)})", one.ends, one.ready, now
            )
            wait.add("transp", "TRANSPARENT")
            written.add_component(wait)
    data: bytes = written.to_ical()
    return data


def _event(name: str, summary: str, begins: dt.datetime, ends: dt.datetime, now: dt.datetime) -> Event:
    event = Event()
    event.add("uid", f"{name.replace(' ', '-')}@peristyle")
    event.add("summary", summary)
    event.add("dtstamp", now)
    event.add("dtstart", begins)
    event.add("dtend", ends)
    return event
