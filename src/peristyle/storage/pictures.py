"""Pictures of boards, kept by their digests: beside the job's file, or in the maker's own folder."""

import hashlib
import io
import re
from collections.abc import Iterable, Sequence
from pathlib import Path
from typing import TYPE_CHECKING, Final

from peristyle.core.errors import PeristyleError
from peristyle.model.job import Job
from peristyle.model.stock import Board
from peristyle.storage import files

if TYPE_CHECKING:
    import numpy as np
    from numpy.typing import NDArray

NAME: Final = "pictures"
MOST_BYTES: Final = 200 * 2**20
_DIGEST: Final = re.compile(r"[0-9a-f]{32}\.(png|jpg)")


def beside(path: Path) -> Path:
    """The folder of a job's pictures, beside its file."""
    return path.with_name(path.name + ".pictures")


def taken(source: Path) -> bytes:
    """The bytes of a picture's file. Raises PeristyleError where it cannot be read or is too large."""
    if source.is_file() and source.stat().st_size > MOST_BYTES:
        raise PeristyleError(f"“{files.shown(source.name)}” is larger than 200 MB: save it smaller.")
    return files.read(source)


def keep(source: Path, folder: Path) -> str:
    """Take a picture into a folder; the name it has there. Raises PeristyleError for what is none."""
    data = taken(source)
    # Late: it imports NumPy, which opening a window need not wait for.
    from peristyle.wood.pictures import checked

    try:
        checked(data)
    except PeristyleError as error:
        raise PeristyleError(f"“{files.shown(source.name)}”: {error}") from error
    name = (
        f"{hashlib.sha256(data).hexdigest()[:32]}.{'png' if data[:4] == bytes([137, 80, 78, 71]) else 'jpg'}"
    )
    folder.mkdir(parents=True, exist_ok=True)
    if not (folder / name).exists():
        files.write_atomically(folder / name, data)
    return name


def keep_pixels(pixels: "NDArray[np.uint8]", folder: Path) -> str:
    """Keep a picture, (rows, columns, 3) RGB, as a JPEG; the name it has there."""
    from PIL import Image  # late: see above

    held = io.BytesIO()
    Image.fromarray(pixels).save(held, "JPEG", quality=93, subsampling=0)
    data = held.getvalue()
    name = f"{hashlib.sha256(data).hexdigest()[:32]}.jpg"
    folder.mkdir(parents=True, exist_ok=True)
    if not (folder / name).exists():
        files.write_atomically(folder / name, data)
    return name


def read(name: str, folders: Sequence[Path]) -> bytes | None:
    """The picture of that name, None where it is in none of the folders, or is not what its name says."""
    if not _DIGEST.fullmatch(name):
        return None
    for folder in folders:
        path = folder / name
        if path.is_file() and path.stat().st_size <= MOST_BYTES:
            data = path.read_bytes()
            if hashlib.sha256(data).hexdigest()[:32] == name[:32]:
                return data
    return None


def pictures_of(job: Job) -> tuple[str, ...]:
    """The names of all pictures of a job's boards."""
    boards: tuple[Board, ...] = (job.stock.board, *job.stock.rack)
    return tuple(dict.fromkeys(name for b in boards for name in (b.picture, b.back_picture) if name))


def brought_along(job: Job, path: Path, folders: Sequence[Path]) -> None:
    """The job's pictures beside its file, from wherever they are; what is there stays."""
    carried(pictures_of(job), beside(path), folders)


def carried(names: Iterable[str], to: Path, folders: Sequence[Path]) -> None:
    """Pictures copied into a folder from wherever they are; what is there stays."""
    for name in names:
        there = to / name
        data = None if not name or there.exists() else read(name, folders)
        if data is not None:
            to.mkdir(parents=True, exist_ok=True)
            files.write_atomically(there, data)
