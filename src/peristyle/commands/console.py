"""What the commands share: options read, outputs written."""

import argparse
import json
import re
import sys
from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING, Any, Final, NoReturn

from peristyle.core.errors import LengthError, PeristyleError
from peristyle.core.lengths import Units, parse_angle, parse_count, parse_length

if TYPE_CHECKING:
    from peristyle.planning.plan import Plan


_NEGATIVE: Final = re.compile(r"-[\d.,½⅓⅔¼¾⅛⅜⅝⅞]")


STDOUT: Final = ("-", "/dev/stdout", "/dev/fd/1", "/proc/self/fd/1")


class Parser(argparse.ArgumentParser):
    """Errors in one clear line, exit code 2. A value may begin with a minus: `--slopes -3.75,6`."""

    def error(self, message: str) -> NoReturn:
        line = " ".join(message.split())
        self.exit(2, f"{self.prog}: {line if len(line) <= 400 else line[:399] + '…'}\n")

    def parse_args(self, args: Any = None, namespace: Any = None) -> Any:
        """As argparse does, once values that begin with a minus are joined to their options."""
        joined: list[str] = []
        for word in args or ():
            last = joined[-1] if joined else ""
            if _NEGATIVE.match(word) and last.startswith("--") and "=" not in last and len(last) > 2:
                joined[-1] = f"{last}={word}"
            else:
                joined.append(word)
        return super().parse_args(joined, namespace)


def print_json(data: Any) -> None:
    """JSON that stays JSON on a terminal that cannot show every letter."""
    plain = (getattr(sys.stdout, "encoding", "") or "").lower().replace("-", "") != "utf8"
    print(json.dumps(data, indent=1, ensure_ascii=plain))


def put(place: str, data: bytes, *, own: Path | None = None) -> None:
    """Write an export where it is wanted, or to standard output; never over the design it comes from."""
    from peristyle.storage import files  # not for the quick answers

    if place in STDOUT:
        sys.stdout.flush()
        out = getattr(sys.stdout, "buffer", None)
        if out is not None:
            out.write(data)
            out.flush()
        else:
            print(data.decode("utf-8", "replace"), end="")
        return
    path = Path(place)
    if own is not None and files.same_file(own, path):
        raise PeristyleError(f"“{files.shown(path)}” is the design itself: choose another name.")
    files.write_atomically(path, data)
    print(place)


def sides(text: str) -> int:
    try:
        count = parse_count(text)
    except LengthError as error:
        raise PeristyleError(f"--sides: {error}") from error
    if not -1000 < count <= 100_000:
        raise PeristyleError(f"--sides: {text.strip()[:24]} is more than any ring has: give 3 to 360.")
    return count


def angle(text: str | None, option: str) -> float | None:
    try:
        return None if text is None else parse_angle(text)
    except LengthError as error:
        raise PeristyleError(f"{option}: {error}") from error


def length_reader(units: Units) -> Callable[[str | None, str], float | None]:
    def read(text: str | None, option: str) -> float | None:
        try:
            return None if text is None else parse_length(text, units)
        except LengthError as error:
            raise PeristyleError(f"{option}: {error}") from error

    return read


def load_plan(path: str) -> "Plan":
    # Late, so that other commands start without it.
    from peristyle.planning.plan import plan
    from peristyle.storage import files

    return plan(files.load(Path(path)).job)
