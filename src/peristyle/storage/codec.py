"""A job as JSON and back, with every fault of a file reported at once.

The schema is made from the model's own types, so that file, window and command line share their
limits; `data/design.schema.json` is the shipped copy. A recovery copy is a design file with a word
about where it belongs, and opens like one.
"""

import hashlib
import json
import os
from pathlib import Path
from typing import Annotated, Any, Final, Literal, NamedTuple

import msgspec
from msgspec import Meta, Struct

from peristyle import __version__
from peristyle.core.errors import PeristyleError
from peristyle.model.faults import Fault, faults_of, listed
from peristyle.model.job import Job, problems
from peristyle.storage import container, migrations

FORMAT: Final = "peristyle-design"
COPY_FORMAT: Final = "peristyle-recovery"
VERSION: Final = 2
# Nearly all of it would be the log, kept for years; more is damage.
_CONTROLS: Final = dict.fromkeys(n for n in (*range(32), *range(127, 160)) if chr(n) not in "\t\n\r")
MAX_BYTES: Final = 32 * 1024 * 1024


class FileError(PeristyleError):
    """A file that cannot be read or written; the text says what to do."""


class _File(Struct, frozen=True, forbid_unknown_fields=True):
    """The whole file: what it is, which version of the format, and the job."""

    format: Literal["peristyle-design"]
    version: Annotated[int, Meta(ge=1, le=VERSION)]
    job: Job
    app: Annotated[str, Meta(max_length=40)] = ""


def schema() -> dict[str, Any]:
    """The file's JSON Schema (2020-12), as shipped and documented."""
    made: dict[str, Any] = msgspec.json.schema(_File)
    head = {"$schema": "https://json-schema.org/draft/2020-12/schema", "title": "A Peristyle design"}
    plain: dict[str, Any] = json.loads(json.dumps({**head, **made}))  # tuples become lists
    return plain


class Copy(NamedTuple):
    """A recovery copy: the job, and the file it belongs to with the stamp it had, if it has one."""

    job: Job
    path: Path | None
    stamp: str | None


def stamp_of(data: bytes) -> str:
    """What tells one state of a file from another: the SHA-256 of its bytes."""
    return hashlib.sha256(data).hexdigest()


def _plain(job: Job) -> Any:
    return msgspec.to_builtins(_File(FORMAT, VERSION, job, __version__))


def encode(job: Job) -> bytes:
    """The job as the bytes of its file."""
    return (json.dumps(_plain(job), indent=1, ensure_ascii=False) + "\n").encode()


def encode_copy(copy: Copy) -> bytes:
    """A recovery copy as bytes. A path of any bytes comes back the same."""
    raw = os.fsencode(copy.path) if copy.path else b""
    body: dict[str, Any] = {"format": COPY_FORMAT, "path": raw.decode("utf-8", "replace") or None}
    if body["path"] and body["path"].encode() != raw:
        body["path_bytes"] = raw.hex()
    body |= {"stamp": copy.stamp, "file": _plain(copy.job)}
    return json.dumps(body, indent=1, ensure_ascii=False).encode()


def is_copy(data: bytes) -> bool:
    """Whether these bytes are a recovery copy's."""
    return COPY_FORMAT.encode() in data[:200]


def decode_copy(data: bytes, name: str) -> Copy:
    """A recovery copy's job and where it belongs. Raises FileError."""
    body = _raw(data, name)
    if not isinstance(body, dict):
        raise FileError(f"“{name}” is no recovery copy that can be read.")
    inner = body.get("file")
    # Text within text is how it was written before version 0.3.
    job = decode(inner.encode(), name) if isinstance(inner, str) else _job(inner, name)
    path, raw, stamp = body.get("path"), body.get("path_bytes"), body.get("stamp")
    where = None
    try:
        where = Path(os.fsdecode(bytes.fromhex(raw)) if isinstance(raw, str) else str(path)) if path else None
    except ValueError:
        where = None
    # A path that is not absolute would name another file in another folder.
    if where is not None and not where.is_absolute():
        where = None
    return Copy(job, where, stamp if isinstance(stamp, str) else None)


def decode(data: bytes, name: str) -> Job:
    """The job in `data`, the bytes of the file `name`, plain or with pictures. Raises FileError with every fault."""
    if container.is_container(data):
        try:
            data = container.job_of(data)
        except container.ContainerError as error:
            raise FileError(f"“{name}” cannot be opened: {error}.") from error
    if is_copy(data):
        return decode_copy(data, name).job
    return _job(_raw(data, name), name)


def _raw(data: bytes, name: str) -> Any:
    """The bytes as plain data. Raises FileError where they are no JSON text."""
    if len(data) > MAX_BYTES:
        raise FileError(
            f"“{name}” is too large for a design (over {MAX_BYTES // 2**20} MB): open another file."
        )
    if not data.strip():
        raise FileError(f"“{name}” is empty: open another file or an older copy.")
    try:
        return msgspec.json.decode(data)
    except (msgspec.DecodeError, UnicodeDecodeError, RecursionError) as error:
        raise FileError(
            f"“{name}” is no design that can be read ({_where(error)}). It may have been cut short: "
            "open another file or an older copy."
        ) from error


def _job(raw: Any, name: str) -> Job:
    if not isinstance(raw, dict) or raw.get("format") != FORMAT:
        raise FileError(f"“{name}” is not a Peristyle design: open a file ending in .peristyle.")
    version = raw.get("version")
    if isinstance(version, int) and not isinstance(version, bool) and version > VERSION:
        raise FileError(
            f"“{name}” was written by a newer Peristyle (format {version}): open it with that one."
        )
    raw = _without_controls(raw)
    old = type(version) is int and version == 1
    if old:
        raw = migrations.from_1(raw)
    try:
        job = msgspec.convert(raw, _File).job
    except (msgspec.ValidationError, RecursionError) as refused:
        found = faults_of(raw, _File) or [Fault("job", str(refused))]
    else:
        found = [Fault(f"job.{path}", text) for path, text in problems(job)]
        if not found:
            return job
    if old:
        found = [fault._replace(path=migrations.path_in_1(fault.path)) for fault in found]
    raise _unusable(name, found)


def _without_controls(raw: Any) -> Any:
    """Plain data whose texts hold no control characters: they would reach terminals and spreadsheets."""
    if isinstance(raw, dict):
        return {key: _without_controls(value) for key, value in raw.items()}
    if isinstance(raw, list):
        return [_without_controls(value) for value in raw]
    return raw.translate(_CONTROLS) if isinstance(raw, str) and not raw.isprintable() else raw


def _where(error: Exception) -> str:
    if isinstance(error, RecursionError):
        return "nested too deeply"
    return str(error).split("(", 1)[-1].rstrip(")") if "(" in str(error) else "not JSON text"


def _unusable(name: str, faults: list[Fault]) -> FileError:
    return FileError(
        f"“{name}” has values that cannot be used: {listed(faults)}. Mend them or open an older copy."
    )
