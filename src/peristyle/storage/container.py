"""A job with its pictures in one file, to be handed to someone else: a zip archive of `job.peristyle` and `pictures/…`.

Nothing in it is trusted: only those names are taken, no more is read than is allowed, whatever its headers say, and a
picture counts only where it is what its name says. The job comes first, so that it is found where the end is lost.
"""

import hashlib
import io
import re
import struct
import zipfile
import zlib
from collections.abc import Mapping
from pathlib import Path
from typing import Final

from peristyle.core.errors import PeristyleError

MAGIC: Final = b"PK\x03\x04"
JOB: Final = "job.peristyle"
MOST_BYTES: Final = 600 * 2**20  # of the whole file
MOST_JOB: Final = 32 * 2**20
MOST_PICTURE: Final = 200 * 2**20
_MOST_ENTRIES: Final = 500
_PICTURE: Final = re.compile(r"pictures/([0-9a-f]{32}\.(?:png|jpg))")


class ContainerError(PeristyleError):
    """A container that cannot be used; the text says why."""


def is_container(data: bytes) -> bool:
    """Whether these bytes, or the first of them, are a container's: by what they are, not by a name."""
    return data[:4] == MAGIC


def job_of(data: bytes) -> bytes:
    """The job's own bytes. Raises ContainerError for what is no container of ours, or asks for too much."""
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            entries = archive.infolist()
            _check(entries)
            for entry in entries:
                if entry.filename == JOB:
                    return _limited(archive, entry, MOST_JOB)
    except (zipfile.BadZipFile, struct.error, EOFError, zlib.error, NotImplementedError, ValueError) as error:
        first = _first(data)
        if first is not None:
            return first
        raise ContainerError("it is damaged: ask for it again, or open an older copy") from error
    raise ContainerError("it holds no design: open another file")


def _check(entries: list[zipfile.ZipInfo]) -> None:
    """That only what belongs to a job is in it, once, and no more than is allowed."""
    if len(entries) > _MOST_ENTRIES:
        raise ContainerError(f"it holds {len(entries)} entries, more than a design with its pictures has")
    names = [entry.filename for entry in entries]
    for entry in entries:
        name = entry.filename
        if name != JOB and not _PICTURE.fullmatch(name):
            raise ContainerError(f"it holds “{name[:60]}”, which is no part of a design")
        if names.count(name) > 1:
            raise ContainerError(f"it holds “{name[:60]}” more than once")
        if entry.flag_bits & 0x1:
            raise ContainerError("it is locked with a password")
        if entry.file_size > (MOST_JOB if name == JOB else MOST_PICTURE):
            raise ContainerError(f"“{name[:60]}” in it would take {entry.file_size // 2**20} MB")


def _limited(archive: zipfile.ZipFile, entry: zipfile.ZipInfo, most: int) -> bytes:
    """An entry's bytes, never more than `most`, whatever its header says."""
    with archive.open(entry) as stream:
        data = stream.read(most + 1)
    if len(data) > most:
        raise ContainerError(f"“{entry.filename[:60]}” in it is larger than {most // 2**20} MB")
    return data


def _first(data: bytes) -> bytes | None:
    """The job where the archive's end is lost: it is the first thing in it. None where it is not whole."""
    try:
        _magic, _need, flags, method, *_rest, packed, _size, name_long, extra = struct.unpack(
            "<4s5H3I2H", data[:30]
        )
        start = 30 + name_long + extra
        body = data[start : start + packed]
        if data[30 : 30 + name_long] != JOB.encode() or flags & 0x9 or len(body) < packed:
            return None
        if method == zipfile.ZIP_STORED:
            return body
        unpacker = zlib.decompressobj(-15)
        made = unpacker.decompress(body, MOST_JOB + 1)
    except (struct.error, zlib.error):
        return None
    return made if len(made) <= MOST_JOB and unpacker.eof else None


def picture(path: Path, name: str) -> bytes | None:
    """A picture in a container by its name; None where it is not there, or not what its name says."""
    try:
        with zipfile.ZipFile(path) as archive:
            entry = archive.getinfo(f"pictures/{name}")
            if entry.file_size > MOST_PICTURE or entry.flag_bits & 0x1:
                return None
            data = _limited(archive, entry, MOST_PICTURE)
    except (OSError, KeyError, ValueError, EOFError, struct.error, zlib.error, NotImplementedError):
        return None
    except (zipfile.BadZipFile, ContainerError):
        return None
    return data if hashlib.sha256(data).hexdigest()[:32] == name[:32] else None


def holds(path: Path, name: str) -> bool:
    """Whether a container has an entry for a picture."""
    try:
        with zipfile.ZipFile(path) as archive:
            return f"pictures/{name}" in archive.namelist()
    except (OSError, zipfile.BadZipFile, ValueError):
        return False


def packed(job: bytes, pictures: Mapping[str, bytes]) -> bytes:
    """The container's bytes: the job first, then its pictures as they are, since they are packed already."""
    held = io.BytesIO()
    with zipfile.ZipFile(held, "w") as archive:
        # The same job with the same pictures gives the same bytes.
        archive.writestr(_entry(JOB, zipfile.ZIP_DEFLATED), job)
        for name in sorted(pictures):
            archive.writestr(_entry(f"pictures/{name}", zipfile.ZIP_STORED), pictures[name])
    return held.getvalue()


def _entry(name: str, method: int) -> zipfile.ZipInfo:
    made = zipfile.ZipInfo(name, (1980, 1, 1, 0, 0, 0))
    made.compress_type = method
    made.external_attr = 0o644 << 16
    return made
