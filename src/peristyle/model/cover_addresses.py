"""The addresses of a lid that is not sawn free: `section.cover`, its kind, and the values that kind has."""

from collections.abc import Iterator, Mapping
from typing import Any

from msgspec import inspect as kinds

from peristyle.model.address import Address, struct_of
from peristyle.model.design import Cover, replace
from peristyle.model.job import Job, revised
from peristyle.model.section_edits import COVERS, NO_COVER, cover_kind, with_cover


def cover_addresses(job: Job, words: Mapping[str, str]) -> Iterator[Address]:
    """The kind of lid, and what it holds as it is; `words` are what its values are called."""
    literal = kinds.LiteralType(values=(NO_COVER, *COVERS))
    yield Address(
        "section.cover", "lid that is not sawn free: its kind", literal, cover_kind, with_cover, NO_COVER
    )
    cover = job.design.section.cover
    if cover is None:
        return
    info = struct_of(type(cover))
    for field in info.fields:
        own = f"{cover_kind(job)}.{field.name}"
        word = words.get(own) or words.get(f"cover.{field.name}") or words[field.name]
        yield _leaf(field, word)


def _leaf(field: kinds.Field, word: str) -> Address:
    name = field.name

    def get(job: Job) -> Any:
        return getattr(job.design.section.cover, name)

    def put(job: Job, value: Any) -> Job:
        cover: Cover | None = job.design.section.cover
        assert cover is not None
        return revised(job, cover=replace(cover, **{name: value}))

    return Address(f"section.cover.{name}", f"lid: {word}", field.type, get, put, field.default)
