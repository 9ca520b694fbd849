"""Pictures of boards and of the work, kept by their digests: beside the job's file, or in the maker's own folder."""

import hashlib
import io
from collections.abc import Iterable, Sequence
from pathlib import Path
from typing import TYPE_CHECKING, Final

from peristyle.core.errors import PeristyleError
from peristyle.storage import files
from peristyle.storage.held import MOST_BYTES, beside, board_pictures, pictures_of, places, read, there

__all__ = [
    "NAME",
    "beside",
    "board_pictures",
    "carried",
    "keep",
    "keep_photograph",
    "keep_pixels",
    "pictures_of",
    "places",
    "read",
    "taken",
    "there",
]

if TYPE_CHECKING:
    import numpy as np
    from numpy.typing import NDArray

NAME: Final = "pictures"
_MOST_OF_WORK: Final = 2_000_000  # points of a photograph in the log


def taken(source: Path) -> bytes:
    """The bytes of a picture's file. Raises PeristyleError where it cannot be read or is too large."""
    if source.is_file() and source.stat().st_size > MOST_BYTES:
        raise PeristyleError(f"“{files.shown(source.name)}” is larger than 200 MB: save it smaller.")
    return files.read(source, MOST_BYTES)


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


def keep_photograph(source: Path, folder: Path) -> str:
    """Take a photograph of the work into a folder, upright, of two million points at the most and without what the
    camera wrote into it; the name it has there. Raises PeristyleError for what is no photograph.
    """
    data = taken(source)
    from peristyle.wood.pictures import upright  # late: see above

    try:
        return keep_pixels(upright(data, _MOST_OF_WORK), folder, 86)
    except PeristyleError as error:
        raise PeristyleError(f"“{files.shown(source.name)}”: {error}") from error


def keep_pixels(pixels: "NDArray[np.uint8]", folder: Path, quality: int = 93) -> str:
    """Keep a picture, (rows, columns, 3) RGB, as a JPEG; the name it has there."""
    from PIL import Image  # late: see above

    held = io.BytesIO()
    Image.fromarray(pixels).save(held, "JPEG", quality=quality, subsampling=0)
    data = held.getvalue()
    name = f"{hashlib.sha256(data).hexdigest()[:32]}.jpg"
    folder.mkdir(parents=True, exist_ok=True)
    if not (folder / name).exists():
        files.write_atomically(folder / name, data)
    return name


def carried(names: Iterable[str], to: Path, folders: Sequence[Path]) -> None:
    """Pictures copied into a folder from wherever they are; what is there stays."""
    for name in names:
        there = to / name
        data = None if not name or there.exists() else read(name, folders)
        if data is not None:
            to.mkdir(parents=True, exist_ok=True)
            files.write_atomically(there, data)
