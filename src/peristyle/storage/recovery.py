"""A copy of unsaved work that outlives a crash.

Each window keeps one copy and holds a lock on it. When the window ends well the copy goes; when
it is killed the lock falls and the next start finds the copy.
"""

import fcntl
import json
import os
from collections.abc import Iterator
from pathlib import Path
from typing import NamedTuple

from peristyle.core.errors import PeristyleError
from peristyle.model.design import Design
from peristyle.storage.codec import decode, encode
from peristyle.storage.files import write_atomically


class Recovered(NamedTuple):
    """Unsaved work found: the design, the file it belongs to if it has one, and the copy itself."""

    design: Design
    path: Path | None
    copy: Path


class RecoveryCopy:
    """The copy one window keeps of its unsaved work."""

    def __init__(self, folder: Path) -> None:
        self._stem = folder / os.urandom(16).hex()
        folder.mkdir(parents=True, exist_ok=True)
        self._lock = os.open(self._stem.with_suffix(".lock"), os.O_CREAT | os.O_RDWR, 0o600)
        fcntl.flock(self._lock, fcntl.LOCK_EX | fcntl.LOCK_NB)

    @property
    def copy(self) -> Path:
        """Where the copy is written."""
        return self._stem.with_suffix(".json")

    def keep(self, design: Design, path: Path | None) -> None:
        """Write the copy. Raises FileError where the disk will not take it."""
        body = {"path": str(path) if path else None, "file": encode(design).decode()}
        write_atomically(self.copy, json.dumps(body).encode())

    def drop(self) -> None:
        """Nothing is unsaved any more."""
        self.copy.unlink(missing_ok=True)

    def close(self) -> None:
        """The window ends well: copy and lock go."""
        self.drop()
        self._stem.with_suffix(".lock").unlink(missing_ok=True)
        os.close(self._lock)


def orphans(folder: Path) -> Iterator[Recovered]:
    """Copies whose window is gone. A copy that cannot be read is passed over and kept."""
    for copy in sorted(folder.glob("*.json")):
        if _held(copy.with_suffix(".lock")):
            continue
        try:
            body = json.loads(copy.read_bytes())
            design = decode(str(body["file"]).encode(), copy.name)
            path = Path(body["path"]) if body["path"] else None
        except (OSError, ValueError, KeyError, TypeError, PeristyleError):
            continue
        yield Recovered(design, path, copy)


def discard(found: Recovered) -> None:
    """Forget a copy, once it is open again or not wanted."""
    found.copy.unlink(missing_ok=True)
    found.copy.with_suffix(".lock").unlink(missing_ok=True)


def _held(lock: Path) -> bool:
    try:
        handle = os.open(lock, os.O_RDWR)
    except OSError:
        return False
    try:
        fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError:
        return True
    finally:
        os.close(handle)
    return False
