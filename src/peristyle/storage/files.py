"""Loading and atomic saving.

A save writes a new file beside the old one, flushes it to the disk and puts it in place in one
step: whatever happens, the old or the new design is there, whole.
"""

import contextlib
import errno
import os
import stat
from collections.abc import Sequence
from pathlib import Path
from typing import Final, NamedTuple

from peristyle.model.job import Job
from peristyle.storage import container, held
from peristyle.storage.codec import MAX_BYTES, FileError, decode, encode, stamp_of

SUFFIX: Final = ".peristyle"

_REASONS: Final = {
    errno.ENOSPC: "the disk is full: make room or save elsewhere",
    errno.EDQUOT: "your share of the disk is used up: make room or save elsewhere",
    errno.EACCES: "you may not write there: save it in a folder of yours",
    errno.EPERM: "you may not write there: save it in a folder of yours",
    errno.EROFS: "that disk is read-only: save elsewhere",
    errno.ENOENT: "the folder is not there: choose another",
    errno.ENOTDIR: "the folder is not there: choose another",
    errno.EISDIR: "that is a folder: choose a file name",
    errno.ENAMETOOLONG: "the name is too long: choose a shorter one",
}


class FileChanged(FileError):
    """The file on the disk is no longer the one that was opened or last saved."""


class FileProtected(FileError):
    """The file is there and marked as not to be written: only with the maker's word."""


class Loaded(NamedTuple):
    """A design and the stamp of its file, to tell whether another wrote there since."""

    job: Job
    stamp: str


def _why(error: OSError) -> str:
    return _REASONS.get(error.errno or 0, error.strerror or "the system refused")


def shown(path: Path | str) -> str:
    """A path for reading, whatever bytes its name has."""
    return os.fsencode(path).decode("utf-8", "replace")


def absolute(path: Path) -> Path:
    """The path from the root: what is kept for later must not depend on the folder one is in."""
    return Path(os.path.abspath(path))


def _no_file(mode: int) -> str:
    """What stands in the way of reading or writing something that is no ordinary file; empty if it is one."""
    for test, word in (
        (stat.S_ISDIR, "that is a folder: choose a file in it"),
        (stat.S_ISFIFO, "that is a pipe and no file: choose another name"),
        (stat.S_ISSOCK, "that is a socket and no file: choose another name"),
        (stat.S_ISCHR, "that is a device and no file: choose another name"),
        (stat.S_ISBLK, "that is a device and no file: choose another name"),
    ):
        if test(mode):
            return word
    return "" if stat.S_ISREG(mode) else "that is no ordinary file: choose another name"


def read(path: Path, most: int = 0) -> bytes:
    """The bytes of an ordinary file, at most one more than `most`, or than a design may have. Never waits.

    Raises FileError that says what is wrong and what to do.
    """
    try:
        # Looked at before it is opened: opening a device may do something, opening a pipe would wait.
        word = _no_file(os.stat(path).st_mode)
        if not word:
            handle = os.open(path, os.O_RDONLY | os.O_NONBLOCK | os.O_NOCTTY | os.O_CLOEXEC)
            with os.fdopen(handle, "rb") as stream:
                word = _no_file(os.fstat(handle).st_mode)
                if not word:
                    head = stream.read(4)
                    room = most or (container.MOST_BYTES if container.is_container(head) else MAX_BYTES)
                    return head + stream.read(room - 3)
    except FileNotFoundError:
        raise FileError(f"There is no file “{shown(path)}”: check the name.") from None
    except (OSError, ValueError) as error:
        word = _why(error) if isinstance(error, OSError) else "the name cannot be used"
        if isinstance(error, PermissionError):
            word = "you may not read it"
    raise FileError(f"“{shown(path)}” cannot be read: {word}.")


def load(path: Path) -> Loaded:
    """Read a design. Raises FileError that says what is wrong and what to do."""
    data = read(path)
    return Loaded(decode(data, shown(path.name)), stamp_of(data))


def save(
    path: Path, job: Job, expected: str | None = None, *, over: bool = False, places: Sequence[Path] = ()
) -> str:
    """Write a design in one step; the new stamp. One with pictures becomes a container of both, its pictures taken
    from `places` (folders and containers); where none is found it stays plain.

    With `expected`, the stamp of what was opened or last saved here, raises FileChanged when the
    disk holds something else by now. Raises FileProtected for a file marked as not to be written,
    unless `over`; FileError when it cannot be written, or holds a value past the limits; the old
    file then still stands.
    """
    if expected is not None and os.path.lexists(path) and stamp_of(read(path)) != expected:
        raise FileChanged(
            f"“{shown(path.name)}” was changed by another window or program since it was opened here. "
            "Save under another name, or save over it."
        )
    data = encode(job)
    decode(data, shown(path.name))  # what could not be opened again is not written
    found = {name: own for name in held.pictures_of(job) if (own := held.read(name, (path, *places)))}
    if found:
        data = container.packed(data, found)
    write_atomically(path, data, over=over)
    return stamp_of(data)


def write_atomically(path: Path, data: bytes, *, over: bool = False) -> None:
    """Put `data` at `path`, whole or not at all.

    Raises FileError, FileProtected where the file there is marked as not to be written (unless
    `over`). What is no ordinary file (a device, a pipe, a folder) is never replaced.
    """
    temporary: Path | None = None
    try:
        target = Path(os.path.realpath(path))  # a link keeps pointing at the file it names
        _check_target(path, target, over=over)
        temporary = target.with_name(f".{target.name[:40]}.{os.urandom(6).hex()}")
        handle = os.open(temporary, os.O_CREAT | os.O_EXCL | os.O_WRONLY | os.O_CLOEXEC, 0o600)
        with os.fdopen(handle, "wb") as stream:
            stream.write(data)
            stream.flush()
            os.fsync(stream.fileno())
        os.chmod(temporary, _mode(target))
        os.replace(temporary, target)
        temporary = None
        _flush_folder(target.parent)
    except (OSError, ValueError) as error:
        why = _why(error) if isinstance(error, OSError) else "the name cannot be used"
        raise FileError(
            f"“{shown(path.name) or shown(path)}” was not saved: {why}. What was there is untouched."
        ) from error
    finally:
        if temporary is not None:
            _remove(temporary)


def _check_target(path: Path, target: Path, *, over: bool) -> None:
    """Raises FileError where something stands at the target that must not be replaced."""
    try:
        mode = os.lstat(target).st_mode
    except FileNotFoundError:
        return
    word = "that is a link that leads nowhere: choose another name" if stat.S_ISLNK(mode) else _no_file(mode)
    if word:
        raise FileError(f"“{shown(path)}” was not saved: {word}. What was there is untouched.")
    if not over and not (mode & 0o222 and os.access(target, os.W_OK)):
        raise FileProtected(
            f"“{shown(path.name)}” is marked as not to be written. Save under another name, or save over it."
        )


def same_file(one: Path, other: Path) -> bool:
    """Whether two names lead to one file, by links too."""
    try:
        return os.path.samefile(one, other)
    except OSError:
        return os.path.realpath(one) == os.path.realpath(other)


def _remove(temporary: Path) -> None:
    with contextlib.suppress(OSError, ValueError):
        temporary.unlink(missing_ok=True)


def _mode(target: Path) -> int:
    """The old file's permissions, or what a new file gets here."""
    try:
        return target.stat().st_mode & 0o777
    except OSError:
        mask = os.umask(0)
        os.umask(mask)
        return 0o666 & ~mask


def _flush_folder(folder: Path) -> None:
    handle = os.open(folder, os.O_RDONLY)
    try:
        os.fsync(handle)
    except OSError:
        pass  # some file systems cannot; the file itself is flushed
    finally:
        os.close(handle)
