"""The addresses of the hardware that is kept in the shop, and of a box's that is taken from there."""

from collections.abc import Callable, Iterator
from typing import Any

from msgspec import inspect as kinds

from peristyle.core.errors import PeristyleError
from peristyle.model.address import Address, Get, Put, struct_of
from peristyle.model.design import replace
from peristyle.model.job import Job, decide, decided
from peristyle.model.kept import HARDWARE, MOST_KEPT, HardwareName, Kept, kept_as, name_of, taken

_NONE = "none"


def kept(job: Job, word: Callable[[str, str], str]) -> Iterator[Address]:
    """What is kept, one by one, and how many there are; `word` says what a value of a part is called."""
    limits = kinds.IntType(ge=0, le=MOST_KEPT)
    yield Address(
        "shop.hardware",
        "how many kinds of hardware are kept",
        limits,
        lambda d: len(d.shop.hardware),
        _counted,
        0,
    )
    for number, one in enumerate(job.shop.hardware):
        head, each = f"shop.hardware.{number + 1}", f"hardware {number + 1}"
        get, put = _named(number)
        yield Address(
            f"{head}.name", f"{each}: name", kinds.StrType(min_length=1, max_length=120), get, put, "Hardware"
        )
        literal = kinds.LiteralType(values=tuple(HARDWARE))
        yield Address(
            f"{head}.what", f"{each}: what it is", literal, _what(number), _as_other(number), "hinges"
        )
        info = struct_of(HARDWARE[one.what])
        for field in info.fields:
            if field.name not in ("count", "inset_mm", "side", "at", "on"):
                get, put = _of_part(number, field.name)
                words = f"{each}: {word(one.what, field.name)}"
                yield Address(f"{head}.{field.name}", words, field.type, get, put, field.default)


def taken_from(head: str, what: HardwareName, words: str) -> Address:
    """Which of what is kept a box's hardware is; set, it takes that one's sizes."""

    def get(job: Job) -> str:
        return name_of(job.shop.hardware, what, decided(job, what)) or _NONE

    def put(job: Job, text: str) -> Job:
        wanted = text.strip()
        if wanted.lower() in ("", _NONE):
            return job
        known = {one.name: one for one in job.shop.hardware if one.what == what}
        if wanted not in known:
            there = ", ".join(known) or "nothing yet"
            raise PeristyleError(f"“{wanted[:40]}” is not kept as {what} in the shop: {there}.")
        return decide(job, what, taken(known[wanted], decided(job, what)))

    return Address(
        f"{head}.kept", f"{words}: which of those kept in the shop", kinds.StrType(), get, put, _NONE
    )


def with_kept(job: Job, every: tuple[Kept, ...]) -> Job:
    """The job with other hardware kept in its copy of the shop."""
    return replace(job, shop=replace(job.shop, hardware=every))


def _counted(job: Job, number: int) -> Job:
    """The last ones go, or hinges come."""
    now = job.shop.hardware
    more = tuple(
        kept_as(f"Hardware {n + 1}", "hinges", HARDWARE["hinges"]()) for n in range(len(now), number)
    )
    return with_kept(job, (*now, *more)[:number])


def _changed(job: Job, number: int, one: Kept) -> Job:
    now = job.shop.hardware
    return with_kept(job, (*now[:number], one, *now[number + 1 :]))


def _named(number: int) -> tuple[Get, Put]:
    def put(job: Job, text: str) -> Job:
        return _changed(job, number, replace(job.shop.hardware[number], name=text))

    return lambda job: job.shop.hardware[number].name, put


def _what(number: int) -> Get:
    return lambda job: job.shop.hardware[number].what


def _as_other(number: int) -> Put:
    def put(job: Job, what: HardwareName) -> Job:
        one = job.shop.hardware[number]
        return job if what == one.what else _changed(job, number, kept_as(one.name, what, HARDWARE[what]()))

    return put


def _of_part(number: int, name: str) -> tuple[Get, Put]:
    def put(job: Job, value: Any) -> Job:
        one = job.shop.hardware[number]
        made: Any = replace(one.part, **{name: value})
        return _changed(job, number, kept_as(one.name, one.what, made))

    return lambda job: getattr(job.shop.hardware[number].part, name), put
