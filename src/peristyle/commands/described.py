"""A box described in a text file, a line for each thing said: `peristyle new FILE --from DESCRIPTION`."""

import re
from collections.abc import Sequence
from pathlib import Path
from typing import Final

from peristyle.core.errors import PeristyleError
from peristyle.storage import files

MOST_BYTES: Final = 100_000
_LINE: Final = re.compile(r"(?:--)?(?P<what>[A-Za-z][\w.-]*)\s*(?:[:=]\s*(?P<value>.*))?")
_QUOTES: Final = "\"'"


def from_description(words: Sequence[str]) -> list[str]:
    """The words with a description in its file's place: each line an option of `peristyle new` or an address, and what
    is said after them besides. Raises PeristyleError that names the line.
    """
    given = list(words)
    for number, word in enumerate(given):
        if word == "--from" and number + 1 < len(given):
            return [*_read(Path(given[number + 1])), *given[:number], *given[number + 2 :]]
        if word.startswith("--from="):
            return [*_read(Path(word.removeprefix("--from="))), *given[:number], *given[number + 1 :]]
    return given


def _read(path: Path) -> list[str]:
    raw = files.read(path)
    if len(raw) > MOST_BYTES:
        raise PeristyleError(f"“{path.name}” is too long to be a description of a box.")
    try:
        text = raw.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise PeristyleError(f"“{path.name}” is not a text file: a description is plain text.") from error
    words: list[str] = []
    for number, line in enumerate(text.splitlines(), 1):
        told = line.strip()
        if told and not told.startswith("#"):
            words += _said(told, f"“{path.name}”, line {number}")
    return words


def _said(line: str, where: str) -> list[str]:
    """One line as words: `height = 80`, `lid`, `section.feet = yes`."""
    found = _LINE.fullmatch(line)
    if found is None:
        raise PeristyleError(
            f"{where}: “{line[:60]}” is neither an option nor an address with its value, as in height = 80."
        )
    what, value = found["what"], (found["value"] or "").strip().strip(_QUOTES)
    if what in ("from", "like"):
        raise PeristyleError(f"{where}: “{what}” is said on the command line, not in a description.")
    if "." in what:
        return ["--set", f"{what}={value}"]
    option = f"--{what.replace('_', '-')}"
    if not value or value.lower() == "yes":
        return [option]
    return [] if value.lower() == "no" else [f"{option}={value}"]
