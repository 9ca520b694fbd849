"""What is wrong with values that should make a design: every fault with its path, in the maker's words.

The limits are read off the model's own types, so that file, window and command line agree. Of a
part that may be one of several, the kind it says it is decides what it is held against.
"""

import math
from collections.abc import Iterator
from functools import cache
from itertools import islice
from typing import Any, Final, NamedTuple

import msgspec
from msgspec import inspect as kinds
from msgspec.structs import replace

from peristyle.model.job import Job, problems

MOST_LISTED: Final = 20
_MOST_SOUGHT: Final = 200  # past this many nobody reads on, and a damaged file may hold millions
_SHOWN: Final = 24

# How grave a fault is: what is no part at all hides everything in it, what is too much hides nothing.
_NO_PART, _MISSING, _NO_VALUE, _LIMIT, _UNKNOWN = range(5)

_UNITS: Final = {"mm": "\u202fmm", "deg": "°"}


class Fault(NamedTuple):
    """One fault: where (`design.shape.length_mm`), what is wrong, and how grave it is (0 the gravest)."""

    path: str
    text: str
    weight: int = _LIMIT

    @property
    def said(self) -> str:
        """Path and words."""
        return f"{self.path or 'the file'}: {self.text}"


def faults_of(raw: Any, kind: type, path: str = "") -> list[Fault]:
    """The faults of plain data (as from JSON) held against a type, gravest first."""
    found = list(islice(_walk(raw, _info(kind), path, ""), _MOST_SOUGHT))
    return sorted(found, key=lambda fault: fault.weight)


def faults_of_type(value: Any, kind: kinds.Type, path: str) -> list[Fault]:
    """The faults of one value held against its type, gravest first."""
    name = path.rpartition(".")[2]
    return sorted(islice(_walk(value, kind, path, name), _MOST_SOUGHT), key=lambda fault: fault.weight)


def breaches(job: Job) -> list[Fault]:
    """What keeps a design from being written to its file: values past their limits, contradictions.

    Empty for a sound design, and then quick: it is asked in the middle of a drag.
    """
    # What was measured, done and logged is held against its limits as it comes in, not in every frame.
    plain = msgspec.to_builtins(replace(job, measured=(), progress=(), log=(), cut_by=()))
    try:
        msgspec.convert(plain, Job)
        _check_texts(plain)
    except (msgspec.ValidationError, UnicodeEncodeError):
        return faults_of(plain, Job) or [Fault("", "it holds a value that no file can")]
    return [Fault(path, text) for path, text in problems(job)]


def _check_texts(plain: dict[str, Any]) -> None:
    """Raises UnicodeEncodeError where a text holds half a character, which no file can."""
    for text in (
        plain["design"]["name"],
        plain["design"]["notes"],
        plain["stock"]["board"]["wood"],
        *(thing["name"] for thing in plain["design"]["inside"]["contents"]),
        *(tool["name"] for tool in plain["shop"]["tools"]),
        *plain["shop"]["uses"].values(),
        *(text for own in plain["work"]["own"] for text in own.values()),
    ):
        text.encode()


def listed(faults: list[Fault]) -> str:
    """The first of them in a sentence, and how many more there are."""
    more = len(faults) - MOST_LISTED
    over = "more" if len(faults) >= _MOST_SOUGHT else f"{more} more"
    return "; ".join(fault.said for fault in faults[:MOST_LISTED]) + (f"; and {over}" if more > 0 else "")


@cache
def _info(kind: type) -> kinds.Type:
    return kinds.type_info(kind)


def _word(name: str) -> tuple[str, str]:
    """What a value is called, and its unit: `length_mm` is a length in mm."""
    stem, _, unit = name.rpartition("_")
    if stem and unit in _UNITS:
        return stem.replace("_", " "), _UNITS[unit]
    return name.replace("_", " ") or "value", ""


def _shown(value: Any) -> str:
    text = f"{value:.10g}" if isinstance(value, float) else str(value)
    return text if len(text) <= _SHOWN else text[: _SHOWN - 1] + "…"


def _said(value: Any) -> str:
    """What stands there in place of a number or a part."""
    match value:
        case None:
            return "nothing"
        case bool():
            return "true" if value else "false"
        case str():
            return f"“{_shown(value)}”"
        case int() | float():
            return _shown(value)
        case list():
            return "a list"
        case _:
            return "a group of values"


def _walk(value: Any, kind: kinds.Type, path: str, name: str) -> Iterator[Fault]:
    match kind:
        case kinds.StructType():
            yield from _struct(value, kind, path, name)
        case kinds.UnionType():
            yield from _one_of(value, kind, path, name)
        case kinds.VarTupleType() | kinds.ListType():
            yield from _many(value, kind, path, name)
        case kinds.FloatType() | kinds.IntType():
            yield from _number(value, kind, path, name)
        case kinds.StrType():
            yield from _text(value, kind, path, name)
        case kinds.LiteralType():
            if value not in kind.values or isinstance(value, bool):
                choices = ", ".join(map(str, kind.values))
                yield Fault(path, f"{_word(name)[0]} {_said(value)} is not one of {choices}", _NO_VALUE)
        case kinds.BoolType():
            if not isinstance(value, bool):
                yield Fault(path, f"{_word(name)[0]} must be true or false, not {_said(value)}", _NO_VALUE)
        case kinds.NoneType():
            if value is not None:
                yield Fault(path, f"{_word(name)[0]} must be left out, not {_said(value)}", _NO_VALUE)


def _struct(value: Any, kind: kinds.StructType, path: str, name: str) -> Iterator[Fault]:
    if not isinstance(value, dict):
        yield Fault(path, f"{_word(name)[0]} must be a group of values, not {_said(value)}", _NO_PART)
        return
    head = f"{path}." if path else ""
    known = {field.encode_name: field for field in kind.fields}
    tag = kind.tag_field
    for key, field in known.items():
        if key in value:
            yield from _walk(value[key], field.type, head + key, key)
        elif field.required:
            yield Fault(head + key, f"{_word(key)[0]} is missing", _MISSING)
    if kind.forbid_unknown_fields:
        strange = (key for key in value if key not in known and key != tag)
        for key in islice(strange, MOST_LISTED):  # a thousand of them must not hide what comes after
            yield Fault(head + str(key)[:60], "is not known here: take it out", _UNKNOWN)


def _one_of(value: Any, kind: kinds.UnionType, path: str, name: str) -> Iterator[Fault]:
    choices = [choice for choice in kind.types if not isinstance(choice, kinds.NoneType)]
    if value is None and len(choices) < len(kind.types):
        return
    tagged = {choice.tag: choice for choice in choices if isinstance(choice, kinds.StructType) and choice.tag}
    if not tagged:
        yield from _walk(value, choices[0], path, name)
        return
    if not isinstance(value, dict):
        yield Fault(path, f"{_word(name)[0]} must be a group of values, not {_said(value)}", _NO_PART)
        return
    field = next(iter(tagged.values())).tag_field or "kind"
    said = value.get(field)
    if not isinstance(said, str) or said not in tagged:
        words = ", ".join(map(str, tagged))
        there = f"{_said(said)} is not" if field in value else "is missing: it must be"
        yield Fault(f"{path}.{field}", f"{field} {there} one of {words}", _NO_PART)
        return
    yield from _struct(value, tagged[said], path, name)


def _many(value: Any, kind: kinds.VarTupleType | kinds.ListType, path: str, name: str) -> Iterator[Fault]:
    word = _word(name)[0]
    if not isinstance(value, list | tuple):
        yield Fault(path, f"{word} must be a list, not {_said(value)}", _NO_PART)
        return
    if kind.max_length is not None and len(value) > kind.max_length:
        yield Fault(path, f"{len(value)} {word}: at most {kind.max_length}")
    elif kind.min_length is not None and len(value) < kind.min_length:
        yield Fault(path, f"{len(value)} {word}: at least {kind.min_length}", _MISSING)
    for number, item in enumerate(value[: kind.max_length]):
        yield from _walk(item, kind.item_type, f"{path}.{number}", name)


def _number(value: Any, kind: kinds.FloatType | kinds.IntType, path: str, name: str) -> Iterator[Fault]:
    word, unit = _word(name)
    whole = isinstance(kind, kinds.IntType)
    good = isinstance(value, int | float) and not isinstance(value, bool)
    if not good or (whole and isinstance(value, float) and value != int(value)):
        must = "a whole number" if whole else "a number"
        yield Fault(path, f"{word} must be {must}, not {_said(value)}", _NO_VALUE)
        return
    if not isinstance(value, int) and not math.isfinite(value):
        yield Fault(path, f"{word} must be a number that can be measured, not {value}", _NO_VALUE)
        return
    limits: tuple[tuple[float | None, bool, str], ...] = (
        (kind.gt, kind.gt is not None and value <= kind.gt, "more than"),
        (kind.ge, kind.ge is not None and value < kind.ge, "at least"),
        (kind.lt, kind.lt is not None and value >= kind.lt, "less than"),
        (kind.le, kind.le is not None and value > kind.le, "at most"),
        (kind.multiple_of, bool(kind.multiple_of and value % kind.multiple_of), "a multiple of"),
    )
    for limit, broken, words in limits:
        if broken:
            yield Fault(path, f"{word} {_shown(value)}{unit}: {words} {_shown(limit)}{unit}")
            return


def _text(value: Any, kind: kinds.StrType, path: str, name: str) -> Iterator[Fault]:
    word = _word(name)[0]
    if not isinstance(value, str):
        yield Fault(path, f"{word} must be a text, not {_said(value)}", _NO_VALUE)
    elif kind.max_length is not None and len(value) > kind.max_length:
        yield Fault(path, f"{word} of {len(value)} characters: at most {kind.max_length}")
    elif kind.min_length is not None and len(value) < kind.min_length:
        yield Fault(path, f"{word} is empty: at least {kind.min_length} character")
    elif any("\ud800" <= letter <= "\udfff" for letter in value):
        yield Fault(path, f"{word} holds half a character: type it again", _NO_VALUE)
