"""A copy of unsaved work that outlives a crash.

Each window keeps one copy and holds a lock on it. When the window ends well the copy goes; when
it is killed the lock falls and the next start finds the copy. Whoever asks about a copy holds its
lock meanwhile, so that two starts never take the same one.
"""

import contextlib
import fcntl
import os
from pathlib import Path

from peristyle.core.errors import PeristyleError
from peristyle.model.job import Job
from peristyle.storage.codec import Copy, FileError, decode_copy, encode_copy
from peristyle.storage.files import absolute, read, write_atomically


def _take(lock: Path, *, make: bool = False, wait: bool = False) -> int | None:
    """The lock's handle, once it is ours; None where another holds it or it cannot be had.

    A lock file that was swept away before it was ours is no lock: the name must still lead to it.
    """
    flags = os.O_RDWR | os.O_CLOEXEC | os.O_NOFOLLOW | (os.O_CREAT if make else 0)
    while True:
        try:
            handle = os.open(lock, flags, 0o600)
        except OSError:
            return None
        try:
            fcntl.flock(handle, fcntl.LOCK_EX | (0 if wait else fcntl.LOCK_NB))
            if os.path.samestat(os.fstat(handle), os.stat(lock)):
                return handle
        except FileNotFoundError:
            pass  # swept away: look again
        except OSError:
            os.close(handle)
            return None
        os.close(handle)


class RecoveryCopy:
    """The copy one window keeps of its unsaved work. `trouble` says why none can be kept, if so."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder
        self._stem = folder / os.urandom(16).hex()
        self._lock: int | None = None
        self.trouble = ""
        self._begin()

    def _begin(self) -> None:
        """Folder and lock, where they are not there yet or not there any more."""
        try:
            self._folder.mkdir(parents=True, exist_ok=True)
        except OSError as error:
            self.trouble = f"{self._folder}: {error.strerror}"
            return
        lost = self._lock is not None and not self._stem.with_suffix(".lock").exists()
        if lost and self._lock is not None:
            os.close(self._lock)
            self._lock = None
        if self._lock is None:
            # Nobody else knows this name: only a sweeper may hold it, for a moment.
            self._lock = _take(self._stem.with_suffix(".lock"), make=True, wait=True)
        self.trouble = "" if self._lock is not None else f"{self._folder}: nothing can be written there"

    @property
    def copy(self) -> Path:
        """Where the copy is written."""
        return self._stem.with_suffix(".json")

    def keep(self, job: Job, path: Path | None, stamp: str | None = None) -> None:
        """Write the copy, with the file it belongs to and the stamp that had when it was opened.

        Raises FileError where the disk will not take it.
        """
        self._begin()
        if self.trouble:
            raise FileError(self.trouble)
        write_atomically(self.copy, encode_copy(Copy(job, absolute(path) if path else None, stamp)))

    def drop(self) -> None:
        """Nothing is unsaved any more."""
        with contextlib.suppress(OSError):
            self.copy.unlink(missing_ok=True)

    def close(self) -> None:
        """The window ends well: copy and lock go."""
        self.drop()
        if self._lock is not None:
            with contextlib.suppress(OSError):
                self._stem.with_suffix(".lock").unlink(missing_ok=True)
            os.close(self._lock)
            self._lock = None


class Orphan:
    """A copy whose window is gone, held by us: until it is let go no other start is offered it."""

    def __init__(self, copy: Path, held: int, found: Copy) -> None:
        self.copy, self._held = copy, held
        self.job, self.path, self.stamp = found

    def discard(self) -> None:
        """The copy goes: it is open again and kept anew, or it is not wanted."""
        with contextlib.suppress(OSError):
            self.copy.unlink(missing_ok=True)
            self.copy.with_suffix(".lock").unlink(missing_ok=True)
        self.release()

    def release(self) -> None:
        """Leave the copy where it is, for another start."""
        if self._held >= 0:
            os.close(self._held)
            self._held = -1


def orphans(folder: Path, first: Path | None = None) -> list[Orphan]:
    """The copies whose windows are gone, those of the file `first` before the others, each now held.

    A copy that cannot be read is passed over and kept; locks and half-written files that no window
    holds any more are swept away.
    """
    try:
        names = sorted(os.listdir(folder))
    except OSError:
        return []
    found: list[Orphan] = []
    for name in names:
        if name.endswith(".lock") and name[:-5] + ".json" not in names:
            _sweep(folder / name, names)
        if not name.endswith(".json") or name.startswith("."):
            continue
        copy = folder / name
        lock = copy.with_suffix(".lock")
        held = _take(lock, make=not lock.exists())
        if held is None:
            continue
        try:
            # Another start may have taken it up between our look and our lock.
            found.append(Orphan(copy, held, decode_copy(read(copy), name)))
        except (PeristyleError, OSError):
            if not copy.exists():
                with contextlib.suppress(OSError):
                    lock.unlink()
            os.close(held)
    return sorted(found, key=lambda orphan: first is None or orphan.path != absolute(first))


def _sweep(lock: Path, names: list[str]) -> None:
    """Take away a lock without a copy, and what its window had half written, if nobody holds it."""
    held = _take(lock)
    if held is None:
        return
    with contextlib.suppress(OSError):
        if not lock.with_suffix(".json").exists():
            for name in names:
                if name.startswith(f".{lock.stem}"):
                    (lock.parent / name).unlink(missing_ok=True)
            lock.unlink()
    os.close(held)
