"""Where pictures are held, and how they are found: by their digests, in folders and in jobs' own files."""

import hashlib
import re
from collections.abc import Sequence
from pathlib import Path
from typing import Final

from peristyle.model.job import Job
from peristyle.model.stock import Board
from peristyle.storage import container

MOST_BYTES: Final = 200 * 2**20
_DIGEST: Final = re.compile(r"[0-9a-f]{32}\.(png|jpg)")


def beside(path: Path) -> Path:
    """A folder of a job's pictures beside its file, as it was kept before both were in one."""
    return path.with_name(path.name + ".pictures")


def places(path: Path | None, own: Path) -> tuple[Path, ...]:
    """Where a job's pictures may be: in its own file, beside it, or in the maker's own folder."""
    return (*((path, beside(path)) if path else ()), own)


def read(name: str, folders: Sequence[Path]) -> bytes | None:
    """The picture of that name, None where it is in no folder and no container, or is not what its name says."""
    if not _DIGEST.fullmatch(name):
        return None
    for folder in folders:
        if folder.is_file():
            data = container.picture(folder, name)
            if data is not None:
                return data
            continue
        path = folder / name
        if path.is_file() and path.stat().st_size <= MOST_BYTES:
            data = path.read_bytes()
            if hashlib.sha256(data).hexdigest()[:32] == name[:32]:
                return data
    return None


def there(name: str, places: Sequence[Path]) -> bool:
    """Whether a picture of that name is somewhere; what is in it is looked at when it is read."""
    return any(
        container.holds(place, name) if place.is_file() else (place / name).is_file() for place in places
    )


def pictures_of(job: Job) -> tuple[str, ...]:
    """The names of all pictures of a job: of its boards, and of its log."""
    return tuple(dict.fromkeys((*board_pictures(job), *(one.picture for one in job.log if one.picture))))


def board_pictures(job: Job) -> tuple[str, ...]:
    """The names of the pictures of a job's boards."""
    boards: tuple[Board, ...] = (job.stock.board, *job.stock.rack)
    return tuple(dict.fromkeys(name for b in boards for name in (b.picture, b.back_picture) if name))
