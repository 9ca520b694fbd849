"""Loading and atomic saving.

A save writes a new file beside the old one, flushes it to the disk and puts it in place in one
step: whatever happens, the old or the new design is there, whole.
"""

import contextlib
import errno
import os
from pathlib import Path
from typing import Final, NamedTuple

from peristyle.model.design import Design
from peristyle.storage.codec import MAX_BYTES, FileError, decode, encode

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


class Loaded(NamedTuple):
    """A design and its stamp: the bytes it came from, to tell whether another wrote there since."""

    design: Design
    stamp: bytes


def _why(error: OSError) -> str:
    return _REASONS.get(error.errno or 0, error.strerror or "the system refused")


def load(path: Path) -> Loaded:
    """Read a design. Raises FileError that says what is wrong and what to do."""
    try:
        with path.open("rb") as stream:
            data = stream.read(MAX_BYTES + 1)
    except FileNotFoundError:
        raise FileError(f"There is no file “{path}”: check the name.") from None
    except (OSError, ValueError) as error:
        why = _why(error) if isinstance(error, OSError) else "the name cannot be used"
        if isinstance(error, IsADirectoryError):
            why = "that is a folder: choose a file in it"
        elif isinstance(error, PermissionError):
            why = "you may not read it"
        raise FileError(f"“{path}” cannot be read: {why}.") from error
    return Loaded(decode(data, path.name), data)


def save(path: Path, design: Design, expected: bytes | None = None) -> bytes:
    """Write a design in one step; the new stamp.

    With `expected`, the stamp of what was opened or last saved here, raises FileChanged when the
    disk holds something else by now. Raises FileError when it cannot be written, or holds a value
    past the limits; the old file then still stands.
    """
    if expected is not None:
        try:
            current = path.read_bytes()
        except OSError:
            current = expected  # gone or unreadable: nothing of another's to lose
        if current != expected:
            raise FileChanged(
                f"“{path.name}” was changed by another window or program since it was opened here. "
                "Save under another name, or save over it."
            )
    data = encode(design)
    decode(data, path.name)  # what could not be opened again is not written
    write_atomically(path, data)
    return data


def write_atomically(path: Path, data: bytes) -> None:
    """Put `data` at `path`, whole or not at all. Raises FileError."""
    temporary: Path | None = None
    try:
        target = Path(os.path.realpath(path))  # a link keeps pointing at the file it names
        temporary = target.with_name(f".{target.name[:80]}.{os.urandom(6).hex()}")
        handle = os.open(temporary, os.O_CREAT | os.O_EXCL | os.O_WRONLY, 0o600)
        with os.fdopen(handle, "wb") as stream:
            stream.write(data)
            stream.flush()
            os.fsync(stream.fileno())
        os.chmod(temporary, _mode(target))
        if target.is_dir():
            raise IsADirectoryError(errno.EISDIR, "is a directory")
        os.replace(temporary, target)
        temporary = None
        _flush_folder(target.parent)
    except (OSError, ValueError) as error:
        why = _why(error) if isinstance(error, OSError) else "the name cannot be used"
        raise FileError(f"“{path.name}” was not saved: {why}. What was there is untouched.") from error
    finally:
        if temporary is not None:
            _remove(temporary)


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
