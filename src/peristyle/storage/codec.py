"""A design as JSON and back, with every fault of a file reported at once.

The schema is made from the model's own types, so that file, window and command line share their
limits; `data/design.schema.json` is the shipped copy.
"""

import json
from typing import Annotated, Any, Final, Literal

import msgspec
from msgspec import Meta, Struct

from peristyle import __version__
from peristyle.core.errors import PeristyleError
from peristyle.model.design import Design, problems

FORMAT: Final = "peristyle-design"
VERSION: Final = 1
MAX_BYTES: Final = 32 * 1024 * 1024
_SHOWN = 6


class FileError(PeristyleError):
    """A file that cannot be read or written; the text says what to do."""


class _File(Struct, frozen=True, forbid_unknown_fields=True):
    """The whole file: what it is, which version of the format, and the design."""

    format: Literal["peristyle-design"]
    version: Annotated[int, Meta(ge=1, le=VERSION)]
    design: Design
    app: Annotated[str, Meta(max_length=40)] = ""


def schema() -> dict[str, Any]:
    """The file's JSON Schema (2020-12), as shipped and documented."""
    made: dict[str, Any] = msgspec.json.schema(_File)
    head = {"$schema": "https://json-schema.org/draft/2020-12/schema", "title": "A Peristyle design"}
    plain: dict[str, Any] = json.loads(json.dumps({**head, **made}))  # tuples become lists
    return plain


def encode(design: Design) -> bytes:
    """The design as the bytes of its file."""
    whole = _File(FORMAT, VERSION, design, __version__)
    text = json.dumps(msgspec.to_builtins(whole), indent=1, ensure_ascii=False)
    return (text + "\n").encode()


def decode(data: bytes, name: str) -> Design:
    """The design in `data`, the bytes of the file `name`. Raises FileError with every fault."""
    if len(data) > MAX_BYTES:
        raise FileError(f"“{name}” is too large for a design ({len(data) // 2**20} MB).")
    if not data.strip():
        raise FileError(f"“{name}” is empty: open another file or an older copy.")
    try:
        raw = msgspec.json.decode(data)
    except (msgspec.DecodeError, UnicodeDecodeError, RecursionError) as error:
        raise FileError(
            f"“{name}” is no design that can be read ({_where(error)}). It may have been cut short: "
            "open another file or an older copy."
        ) from error
    if not isinstance(raw, dict) or raw.get("format") != FORMAT:
        raise FileError(f"“{name}” is not a Peristyle design: open a file ending in .peristyle.")
    version = raw.get("version")
    if isinstance(version, int) and not isinstance(version, bool) and version > VERSION:
        raise FileError(
            f"“{name}” was written by a newer Peristyle (format {version}): open it with that one."
        )
    try:
        design = msgspec.convert(raw, _File).design
    except (msgspec.ValidationError, RecursionError) as error:
        raise FileError(_listed(name, _faults(raw) or [str(error)])) from error
    wrong = problems(design)
    if wrong:
        raise FileError(_listed(name, [f"design.{path}: {text}" for path, text in wrong]))
    return design


def _where(error: Exception) -> str:
    if isinstance(error, RecursionError):
        return "nested too deeply"
    return str(error).split("(", 1)[-1].rstrip(")") if "(" in str(error) else "not JSON text"


def _faults(raw: Any) -> list[str]:
    """Every fault with its path, from the schema."""
    # Slow to import (0.2 s) and needed only for a file with faults.
    from jsonschema import Draft202012Validator

    try:
        errors = sorted(Draft202012Validator(schema()).iter_errors(raw), key=lambda e: list(map(str, e.path)))
    except RecursionError:
        return []
    return [_fault(error) for error in errors]


def _fault(error: Any) -> str:
    deepest = error
    while deepest.context:
        # In a choice of shapes, the branch that got furthest says what was meant.
        deepest = max(deepest.context, key=lambda e: (len(e.absolute_path), -len(str(e.message))))
    path = ".".join(str(part) for part in deepest.absolute_path) or "the file"
    message = str(deepest.message)
    return f"{path}: {message if len(message) < 160 else message[:157] + '…'}"


def _listed(name: str, faults: list[str]) -> str:
    more = f"; and {len(faults) - _SHOWN} more" if len(faults) > _SHOWN else ""
    return f"“{name}” has values that cannot be used: {'; '.join(faults[:_SHOWN])}{more}. Mend or reopen an older copy."
