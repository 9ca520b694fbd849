"""The maker's own tools, kept between boxes as an open file beside the settings."""

from pathlib import Path
from typing import Final

import msgspec

from peristyle.core.errors import PeristyleError
from peristyle.model.faults import faults_of, listed
from peristyle.model.job import Shop
from peristyle.storage import files

FORMAT: Final = "peristyle-tools"
NAME: Final = "tools.json"


class _File(msgspec.Struct, frozen=True):
    format: str
    version: int
    shop: Shop


def load(folder: Path) -> Shop | None:
    """The maker's tools, None where none were kept yet. Raises PeristyleError for a file that cannot be read."""
    path = folder / NAME
    if not path.exists():
        return None
    try:
        raw = msgspec.json.decode(files.read(path))
        kept = msgspec.convert(raw, _File)
    except msgspec.DecodeError as error:
        why = listed(faults_of(raw, _File)) if isinstance(error, msgspec.ValidationError) else str(error)
        raise PeristyleError(
            f"Your tools in {files.shown(path)} cannot be read ({why}): those of the box are shown."
        ) from error
    return kept.shop if kept.format == FORMAT else None


def save(folder: Path, shop: Shop) -> None:
    """Keep them. Raises PeristyleError where they cannot be written."""
    folder.mkdir(parents=True, exist_ok=True)
    text = msgspec.json.format(msgspec.json.encode(_File(FORMAT, 1, shop)), indent=1)
    files.write_atomically(folder / NAME, text + b"\n")
