"""A batch as an open file: the jobs by their paths from it, how many of each, and the boards."""

from pathlib import Path
from typing import Final, NamedTuple

import msgspec

from peristyle.core.errors import PeristyleError
from peristyle.model.batch import Batch
from peristyle.model.faults import faults_of, listed
from peristyle.model.job import Job
from peristyle.storage import files

FORMAT: Final = "peristyle-batch"
ENDING: Final = ".batch"


class _File(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    format: str
    version: int
    batch: Batch


class Opened(NamedTuple):
    """A batch with its jobs, in its own order."""

    batch: Batch
    jobs: tuple[Job, ...]


def load(path: Path) -> Opened:
    """Read a batch and the jobs it names. Raises PeristyleError that says what is wrong, and with which file."""
    shown = files.shown(path.name)
    try:
        raw = msgspec.json.decode(files.read(path))
        made = msgspec.convert(raw, _File)
    except msgspec.ValidationError as error:
        raise PeristyleError(
            f"“{shown}” is no batch that can be read: {listed(faults_of(raw, _File))}."
        ) from error
    except msgspec.DecodeError as error:
        raise PeristyleError(f"“{shown}” is no batch: {error}.") from error
    if made.format != FORMAT or made.version != 1:
        raise PeristyleError(
            f"“{shown}” is no batch of this version: it says {made.format[:40]}, {made.version}."
        )
    names = [board.name for board in made.batch.boards]
    twice = sorted({name for name in names if names.count(name) > 1})
    if twice:
        raise PeristyleError(
            f"“{shown}”: boards must have names of their own; {', '.join(twice)[:80]} is there twice."
        )
    return Opened(made.batch, tuple(files.load(path.parent / one.file).job for one in made.batch.jobs))


def save(path: Path, batch: Batch) -> None:
    """Write a batch in one step. Raises PeristyleError where that cannot be."""
    text = msgspec.json.format(msgspec.json.encode(_File(FORMAT, 1, batch)), indent=1)
    files.write_atomically(path, text + b"\n")


def relative(job: Path, batch: Path) -> str:
    """A job's path as a batch names it: from the batch's own folder where it lies in it or beside it."""
    try:
        return str(files.absolute(job).relative_to(files.absolute(batch).parent))
    except ValueError:
        return str(files.absolute(job))
