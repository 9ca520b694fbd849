"""The maker's own boards, kept between jobs as an open file beside the settings."""

import os
from pathlib import Path
from typing import Final

import msgspec

from peristyle.core.errors import PeristyleError
from peristyle.model.faults import faults_of, listed
from peristyle.model.stock import Board
from peristyle.storage import files

FORMAT: Final = "peristyle-boards"
NAME: Final = "boards.json"


class _File(msgspec.Struct, frozen=True):
    format: str
    version: int
    boards: tuple[Board, ...]


def own_folder() -> Path:
    """The maker's own folder for settings, as the desktop's conventions have it."""
    home = os.environ.get("XDG_CONFIG_HOME", "")
    return (Path(home) if home else Path.home() / ".config") / "peristyle"


def load(folder: Path) -> tuple[Board, ...]:
    """The maker's boards, none where none were kept yet. Raises PeristyleError for a file that cannot be read."""
    path = folder / NAME
    if not path.exists():
        return ()
    try:
        raw = msgspec.json.decode(files.read(path))
        kept = msgspec.convert(raw, _File)
    except msgspec.DecodeError as error:
        why = listed(faults_of(raw, _File)) if isinstance(error, msgspec.ValidationError) else str(error)
        raise PeristyleError(
            f"Your boards in {files.shown(path)} cannot be read ({why}). Mend the file or move it."
        ) from error
    if kept.format != FORMAT:
        raise PeristyleError(f"{files.shown(path)} holds no boards. Mend the file or move it.")
    return kept.boards


def save(folder: Path, boards: tuple[Board, ...]) -> None:
    """Keep them. Raises PeristyleError where they cannot be written."""
    folder.mkdir(parents=True, exist_ok=True)
    text = msgspec.json.format(msgspec.json.encode(_File(FORMAT, 1, boards)), indent=1)
    files.write_atomically(folder / NAME, text + b"\n")
