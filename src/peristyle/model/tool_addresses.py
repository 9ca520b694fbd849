"""The addresses of the maker's tools: `shop.tools.3.kerf_mm`."""

from collections.abc import Iterator, Mapping
from typing import Any, Final, get_args

from msgspec import inspect as kinds

from peristyle.core.errors import PeristyleError
from peristyle.model.address import Address, Get, Put, struct_of
from peristyle.model.design import replace
from peristyle.model.job import Job, revised
from peristyle.model.tools import MOST_TOOLS, Blade, Tool, Uses

TOOL_KINDS: Final[dict[str, type[Tool]]] = {
    str(struct_of(kind).tag): kind for kind in get_args(Tool)
}  # fmt: skip


def tools(job: Job, words: Mapping[str, str]) -> Iterator[Address]:
    """The maker's tools one by one, and how many there are; `words` are what their values are called."""

    def counted(job: Job, number: int) -> Job:
        gone = [tool.name for tool in job.shop.tools[number:]]
        if len(gone) > 1:
            raise PeristyleError(
                f"shop.tools={number} would remove {len(gone)} tools: {', '.join(gone)}. Remove the last one alone "
                f"with shop.tools={len(job.shop.tools) - 1}, or remove tools in the window."
            )
        more = tuple(Blade(name=f"Tool {n + 1}") for n in range(len(job.shop.tools), number))
        return revised(job, tools=(*job.shop.tools, *more)[:number])

    limits = kinds.IntType(ge=0, le=MOST_TOOLS)
    yield Address("shop.tools", "how many tools there are", limits, lambda d: len(d.shop.tools), counted, 0)
    for number, tool in enumerate(job.shop.tools):
        head, each = f"shop.tools.{number + 1}", f"tool {number + 1}"
        literal = kinds.LiteralType(values=tuple(TOOL_KINDS))
        yield Address(f"{head}.kind", f"{each}: kind", literal, _kind_at(number), _other_kind(number))
        for field in struct_of(type(tool)).fields:
            get, put = _of_tool(number, field.name)
            place = f"{head}.{field.name}"
            told = words.get(f"tool.{field.name}", words[field.name])
            yield Address(place, f"{each}: {told}", field.type, get, put, field.default)


def _kind_at(number: int) -> Get:
    return lambda job: struct_of(type(job.shop.tools[number])).tag


def _other_kind(number: int) -> Put:
    def put(job: Job, kind: str) -> Job:
        if kind not in TOOL_KINDS:
            raise PeristyleError(f"“{kind[:24]}” is no kind of tool: {', '.join(TOOL_KINDS)}.")
        if kind == _kind_at(number)(job):
            return job
        made = TOOL_KINDS[kind](name=job.shop.tools[number].name)
        return revised(job, tools=(*job.shop.tools[:number], made, *job.shop.tools[number + 1 :]))

    return put


def _of_tool(number: int, name: str) -> tuple[Get, Put]:
    def put(job: Job, value: Any) -> Job:
        tool = job.shop.tools[number]
        made: Tool = replace(tool, **{name: value})
        tools = (*job.shop.tools[:number], made, *job.shop.tools[number + 1 :])
        if name != "name":
            return revised(job, tools=tools)
        renamed = {
            use: made.name for use in Uses.__struct_fields__ if getattr(job.shop.uses, use) == tool.name
        }
        uses: Uses = replace(job.shop.uses, **renamed)
        return replace(job, shop=replace(job.shop, tools=tools, uses=uses))

    return lambda job: getattr(job.shop.tools[number], name), put
