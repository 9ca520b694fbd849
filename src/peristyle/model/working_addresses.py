"""The addresses of how and when the work is done: coats of finish, the workshop's hours."""

from collections.abc import Iterator, Mapping
from typing import Any, Final

from msgspec import inspect as kinds

from peristyle.core.errors import PeristyleError
from peristyle.model.address import Address, Get, Put, struct_of
from peristyle.model.design import replace
from peristyle.model.job import Coating, Hours, Job

DAYS: Final = ("mon", "tue", "wed", "thu", "fri", "sat", "sun")
MOST_BOXES: Final = 1000
MOST_PARTS: Final = 20
_NONE: Final = "none"
_WORDS: Final = {
    "kind": "what it is finished with", "coats": "how many coats, none for as is usual",
    "wait_h": "how long a coat waits, in hours, none for as is usual",
}  # fmt: skip


def working(job: Job, words: Mapping[str, str]) -> Iterator[Address]:
    """The coats of finish, and when the maker is in the workshop, day by day."""
    del job, words
    info = struct_of(Coating)
    for field in info.fields:
        get, put = _of_coating(field.name)
        place = f"work.coating.{field.name}"
        yield Address(place, f"finish: {_WORDS[field.name]}", field.type, get, put, field.default)
    yield Address("work.boxes", "how many are made alike, as 12, or 3+9 where three go out first", kinds.StrType(),
                  lambda d: told_boxes(d.work.boxes), with_boxes, "1")  # fmt: skip
    usual = Hours()
    for number, day in enumerate(DAYS):
        get, put = _of_day(number)
        told = told_hours(usual.days[number])
        yield Address(f"shop.hours.{day}", f"hours in the workshop on {day}, as 18:00-21:00, or none", kinds.StrType(),
                      get, put, told)  # fmt: skip
    yield Address("shop.hours.zone", "time zone, as Europe/Paris, or empty for this computer's", kinds.StrType(),
                  lambda d: d.shop.hours.zone, _put_zone, "")  # fmt: skip


def _of_coating(name: str) -> tuple[Get, Put]:
    def put(job: Job, value: Any) -> Job:
        coating: Coating = replace(job.work.coating, **{name: value})
        made: Job = replace(job, work=replace(job.work, coating=coating))
        return made

    return lambda job: getattr(job.work.coating, name), put


def told_boxes(boxes: tuple[int, ...]) -> str:
    """The parts of a batch: 12, or 3+9."""
    return "+".join(str(count) for count in boxes)


def read_boxes(text: str) -> tuple[int, ...]:
    """The parts of a batch as typed. Raises PeristyleError with what would be right."""
    parts = [part.strip() for part in text.split("+")]
    if (
        not all(part.isdecimal() and 1 <= int(part) <= MOST_BOXES for part in parts)
        or len(parts) > MOST_PARTS
    ):
        raise PeristyleError(
            f"“{text[:24]}”: give how many are made alike, as 12, or 3+9 where three go out first."
        )
    return tuple(int(part) for part in parts)


def with_boxes(job: Job, text: str) -> Job:
    """The job with so many made alike, as typed. Raises PeristyleError with what would be right."""
    made: Job = replace(job, work=replace(job.work, boxes=read_boxes(text)))
    return made


def told_hours(span: tuple[float, float]) -> str:
    """From when to when, as a clock has it."""
    return _NONE if span[1] <= span[0] else "-".join(f"{int(h):02d}:{round(h % 1 * 60):02d}" for h in span)


def read_hours(text: str) -> tuple[float, float]:
    """From when to when in hours of the day. Raises PeristyleError with what would be right."""
    clean = text.strip().lower().replace("–", "-")
    if clean in ("", _NONE, "-"):
        return (0.0, 0.0)
    try:
        low, high = (_clock(part) for part in clean.split("-"))
    except ValueError as error:
        raise PeristyleError(f"“{text[:24]}” are no hours: give them as 18:00-21:00, or none.") from error
    if not 0 <= low < high <= 24:
        raise PeristyleError(f"“{text[:24]}”: the hours end before they begin.")
    return low, high


def _clock(text: str) -> float:
    hour, _mark, minute = text.strip().partition(":")
    if minute and not 0 <= int(minute) < 60:
        raise ValueError(text)
    return int(hour) + (int(minute) / 60 if minute else 0.0)


def _of_day(number: int) -> tuple[Get, Put]:
    def put(job: Job, text: str) -> Job:
        hours = job.shop.hours
        days = (*hours.days[:number], read_hours(text), *hours.days[number + 1 :])
        made: Job = replace(job, shop=replace(job.shop, hours=replace(hours, days=days)))
        return made

    return lambda job: told_hours(job.shop.hours.days[number]), put


def checked_zone(text: str) -> str:
    """The name of a time zone that is known here. Raises PeristyleError with what would be right."""
    import zoneinfo

    name = text.strip()
    if name:
        try:
            zoneinfo.ZoneInfo(name)
        except (zoneinfo.ZoneInfoNotFoundError, ValueError, OSError) as error:
            raise PeristyleError(
                f"“{name[:40]}” is no time zone known here: give one as Europe/Paris."
            ) from error
    return name


def _put_zone(job: Job, text: str) -> Job:
    hours: Hours = replace(job.shop.hours, zone=checked_zone(text))
    made: Job = replace(job, shop=replace(job.shop, hours=hours))
    return made
