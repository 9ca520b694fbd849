"""The command line: the same core as the window, without importing Qt.

Only what a command needs is imported, so that the quick answer at the saw is quick.
"""

import argparse
import codecs
import gc
import io
import json
import os
import re
import sys
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import TYPE_CHECKING, Any, Final, NoReturn

from peristyle import __version__
from peristyle.core.errors import LengthError, PeristyleError
from peristyle.core.lengths import Format, Units, parse_angle, parse_count, parse_length, split_list

if TYPE_CHECKING:
    from peristyle.planning.plan import Plan


_NEGATIVE: Final = re.compile(r"-[\d.,½⅓⅔¼¾⅛⅜⅝⅞]")
_SIZES: Final = ("form.length_mm", "form.width_mm", "form.size_mm")
_STDOUT: Final = ("-", "/dev/stdout", "/dev/fd/1", "/proc/self/fd/1")


class _Parser(argparse.ArgumentParser):
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


_PLAIN: Final = {
    "−": "-", "–": "-", "—": "-", "×": "x", "°": "deg", "′": "'", "″": '"', "“": '"', "”": '"', "’": "'", "…": "...",
    "½": " 1/2", "¼": " 1/4", "¾": " 3/4", "⅓": " 1/3", "⅔": " 2/3", "⅛": " 1/8", "⅜": " 3/8", "⅝": " 5/8",
    "⅞": " 7/8", "⁄": "/", "\u202f": " ", "·": "|", "▲": "!",
} | {a: str(b) for b, a in enumerate("⁰¹²³⁴⁵⁶⁷⁸⁹")} | {a: str(b) for b, a in enumerate("₀₁₂₃₄₅₆₇₈₉")}  # fmt: skip


def _spelled(error: UnicodeError) -> tuple[str | bytes, int]:
    """What a terminal cannot show, spelled with what it can; bytes of a file's name as they are."""
    if not isinstance(error, UnicodeEncodeError):
        raise error
    out = b""
    for letter in error.object[error.start : error.end]:
        if "\udc80" <= letter <= "\udcff":
            out += bytes([ord(letter) - 0xDC00])
        else:
            out += _PLAIN.get(letter, "?").encode(error.encoding, "replace")
    return out, error.end


def main(argv: Sequence[str] | None = None) -> int:
    """Run `peristyle`; the exit code. 2 for anything the maker can put right."""
    words = list(sys.argv[1:] if argv is None else argv)
    codecs.register_error("spelled", _spelled)
    for stream in (sys.stdout, sys.stderr):
        if isinstance(stream, io.TextIOWrapper):
            stream.reconfigure(errors="spelled")
    try:
        code = COMMANDS[words[0]](words[1:]) if words and words[0] in COMMANDS else _window(words)
        sys.stdout.flush()
        return code
    except BrokenPipeError:
        # The reader (head, a pager) has seen enough.
        _forget_output()
        return 0
    except PeristyleError as error:
        _complain(str(error))
    except OSError as error:
        name = f" “{error.filename}”" if error.filename else ""
        _complain(f"{(error.strerror or 'the system refused')}{name}: choose another place, or make room.")
        _forget_output()
    return 2


def _complain(text: str) -> None:
    print(f"peristyle: {' '.join(text.split())}", file=sys.stderr)


def _forget_output() -> None:
    """What could not be written must not be tried again when the interpreter ends."""
    quiet = os.open(os.devnull, os.O_WRONLY)
    os.dup2(quiet, sys.stdout.fileno())


def _print_json(data: Any) -> None:
    """JSON that stays JSON on a terminal that cannot show every letter."""
    plain = (getattr(sys.stdout, "encoding", "") or "").lower().replace("-", "") != "utf8"
    print(json.dumps(data, indent=1, ensure_ascii=plain))


def _put(place: str, data: bytes, *, own: Path | None = None) -> None:
    """Write an export where it is wanted, or to standard output; never over the design it comes from."""
    from peristyle.storage import files  # not for the quick answers

    if place in _STDOUT:
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


def _window(words: list[str]) -> int:
    parser = _Parser(
        prog="peristyle",
        description="Plan mitered boxes. Without a command, opens the window.",
        epilog="Commands: " + ", ".join(COMMANDS) + ". Each has its own --help.",
    )
    parser.add_argument("file", nargs="?", help="design to open")
    parser.add_argument("--demo", action="store_true", help="open the demo boxes")
    parser.add_argument("--version", action="version", version=f"peristyle {__version__}")
    parser.add_argument("--screenshot", metavar="PNG", help="save a picture of the window and leave")
    options = parser.parse_args(words)
    # Nothing that is made in starting is rubbish; the window sets the collector going again.
    gc.disable()
    try:
        # The only way from here to Qt, and only when a window is asked for.
        from peristyle.app import run
    except ImportError as error:
        raise PeristyleError(
            f"The window needs Qt ({error}): install it with pip install 'peristyle[window]'."
        ) from error
    return run(
        Path(options.file) if options.file else None,
        demo=options.demo,
        screenshot=Path(options.screenshot) if options.screenshot else None,
    )


def _angles(words: list[str]) -> int:
    parser = _Parser(prog="peristyle angles", description="The angles of one corner, in every convention.")
    parser.add_argument("--sides", help="a regular ring of so many sides")
    parser.add_argument("--interior", help="the corner's angle seen from above, in place of --sides")
    parser.add_argument("--slope", default="0", help="lean from upright, positive outward")
    parser.add_argument("--slope2", help="lean of the second side, if another")
    parser.add_argument("--thickness", help="thickness of the sides, for the joint face")
    parser.add_argument("--thickness2", help="thickness of the second side, if another")
    parser.add_argument("--outline", metavar="L@C,…", help="every corner of a ring of sides and corners")
    parser.add_argument("--slopes", metavar="S,…", help="every corner of a ring, one lean for each side")
    parser.add_argument("--thicknesses", metavar="T,…", help="one thickness for each side")
    line = parser.add_mutually_exclusive_group()
    line.add_argument("--inside", action="store_true", help="the outline's lengths measure the inside")
    line.add_argument("--outside", action="store_true", help="… the outside (this if neither is said)")
    parser.add_argument("--units", choices=("mm", "in"), default="mm")
    parser.add_argument("--json", action="store_true")
    options = parser.parse_args(words)
    if options.outline or options.slopes or options.thicknesses:
        return _ring_angles(options)
    from peristyle.core.conventions import as_data, as_text, corner_angles

    length = _length_reader(options.units)
    found = corner_angles(
        sides=None if options.sides is None else _sides(options.sides),
        interior_deg=_angle(options.interior, "--interior"),
        slope_deg=_angle(options.slope, "--slope") or 0.0,
        slope2_deg=_angle(options.slope2, "--slope2"),
        thickness_mm=length(options.thickness, "--thickness"),
        thickness2_mm=length(options.thickness2, "--thickness2"),
    )
    if options.json:
        _print_json(as_data(found))
    else:
        print(as_text(found, Format(options.units)))
    return 0


def _ring_angles(options: argparse.Namespace) -> int:
    """The angles of every corner of a ring, as `angles` gives them for one."""
    # A whole ring needs the model: not the quickest answer, but the same planes.
    from peristyle.core.conventions import ring_as_data, ring_as_text
    from peristyle.reading import ring_from_options

    corners = ring_from_options(options)
    if options.json:
        _print_json(ring_as_data(corners))
    else:
        print(ring_as_text(corners, Format(options.units)))
    return 0


def _sheet(words: list[str]) -> int:
    parser = _Parser(
        prog="peristyle angle-sheet",
        description="All angles of regular rings, 3 to 24 sides, slopes in steps, for the wall.",
    )
    parser.add_argument("--slopes", default="0,5,10,15", metavar="S,…")
    parser.add_argument("--out", metavar="OUT.pdf", help="as PDF; without it as text")
    parser.add_argument("--paper", choices=("a4", "letter"), default="a4")
    parser.add_argument("--json", action="store_true")
    options = parser.parse_args(words)
    from peristyle.core.conventions import convention, sheet_of_angles

    slopes = [_angle(text, "--slopes") or 0.0 for text in split_list(options.slopes, comma_parts=True)]
    if not all(-90 < slope < 90 for slope in slopes) or len(slopes) > 40:
        raise PeristyleError("--slopes: give up to 40 slopes under 90°, as in 0,5,10.")
    rows = sheet_of_angles(slopes)
    if options.out:
        from peristyle.export.anglesheet import angle_sheet

        _put(options.out, angle_sheet(rows, options.paper))
    elif options.json:
        data = [
            {
                "sides": r.sides,
                "slope_deg": r.slope_deg,
                "interior_deg": r.corner.interior_deg,
                "dihedral_deg": r.corner.dihedral_deg,
                "miter_deg": r.corner.first.miter_deg,
                **convention(r.corner.first)._asdict(),
            }
            for r in rows
        ]
        _print_json(data)
    else:
        fmt = Format()
        print("sides  slope    bevel      from face  miter      corner     half")
        for r in rows:
            cut = r.corner.first
            figures = (
                cut.bevel_deg,
                90 - cut.bevel_deg,
                cut.miter_deg,
                r.corner.interior_deg,
                r.corner.interior_deg / 2,
            )
            print(
                f"{r.sides:<7}{fmt.angle(r.slope_deg):<9}"
                + "".join(f"{fmt.angle(v, 3):<11}" for v in figures).rstrip()
            )
    return 0


def _sides(text: str) -> int:
    try:
        count = parse_count(text)
    except LengthError as error:
        raise PeristyleError(f"--sides: {error}") from error
    if not -1000 < count <= 100_000:
        raise PeristyleError(f"--sides: {text.strip()[:24]} is more than any ring has: give 3 to 360.")
    return count


def _angle(text: str | None, option: str) -> float | None:
    try:
        return None if text is None else parse_angle(text)
    except LengthError as error:
        raise PeristyleError(f"{option}: {error}") from error


def _length_reader(units: Units) -> Callable[[str | None, str], float | None]:
    def read(text: str | None, option: str) -> float | None:
        try:
            return None if text is None else parse_length(text, units)
        except LengthError as error:
            raise PeristyleError(f"{option}: {error}") from error

    return read


def _new(words: list[str]) -> int:
    # The model and the planner: not needed for the quick answers above.
    from peristyle.model.faults import breaches, listed
    from peristyle.newbox import new_from_words
    from peristyle.planning.plan import plan
    from peristyle.storage import files
    from peristyle.storage.codec import encode

    path, job = new_from_words(words, _Parser(prog="peristyle new", description="Make a design file."))
    if str(path) in _STDOUT:
        wrong = breaches(job)
        if wrong:
            raise PeristyleError(f"This design cannot be written: {listed(wrong)}.")
        _put(str(path), encode(job))
        return 0
    if os.path.lexists(path):
        kept = path.with_name(path.name + "~")
        files.write_atomically(kept, files.read(path))
        print(f"peristyle: the old “{path.name}” is kept as “{kept.name}”", file=sys.stderr)
    files.save(path, job)
    findings = plan(job).findings
    count = f", {len(findings)} finding{'s' if len(findings) > 1 else ''}" if findings else ""
    print(f"{path}: {job.design.side_count} sides{count}")
    return 0


def _set(words: list[str]) -> int:
    parser = _Parser(
        prog="peristyle set",
        description="Change values of a design, lengths as typed in the window: all of them, or none.",
    )
    parser.add_argument("file")
    parser.add_argument("values", nargs="+", metavar="ADDRESS=VALUE")
    options = parser.parse_args(words)
    # As above.
    from peristyle.model import addresses
    from peristyle.planning.contents import follows_contents
    from peristyle.planning.plan import plan
    from peristyle.storage import files

    path = Path(options.file)
    loaded = files.load(path)
    job, done = loaded.job, []
    for pair in options.values:
        place, equals, text = pair.partition("=")
        if not equals:
            raise PeristyleError(f"“{pair[:60]}” is not ADDRESS=VALUE, as in section.lid.height_mm=30.")
        before = addresses.written(addresses.find(job, place), job)
        job = addresses.put(job, place, text)
        address = addresses.find(job, place)
        done.append(f"{address.id}: {before} → {addresses.written(address, job)}")
    addresses.sound(job)
    files.save(path, job, loaded.stamp)
    print("\n".join(done))
    if follows_contents(job.design) and any(pair.startswith(_SIZES) for pair in options.values):
        print("What it holds gives the ring its size: with inside.contents=0 the sizes set here count.")
    findings = plan(job).findings
    if findings:
        print(f"{len(findings)} finding{'s' if len(findings) > 1 else ''}: “peristyle plan” shows them")
    return 0


def _get(words: list[str]) -> int:
    parser = _Parser(prog="peristyle get", description="The values of a design, as they would be typed.")
    parser.add_argument("file")
    parser.add_argument("addresses", nargs="*", metavar="ADDRESS", help="these alone; all if none is given")
    parser.add_argument("--json", action="store_true")
    options = parser.parse_args(words)
    # As above.
    from peristyle.model import addresses
    from peristyle.storage import files

    job = files.load(Path(options.file)).job
    wanted = [addresses.find(job, place) for place in options.addresses] or addresses.addresses(job)
    if options.json:
        _print_json({address.id: address.get(job) for address in wanted})
    elif len(options.addresses) == 1:
        print(addresses.written(wanted[0], job))
    else:
        for address in wanted:
            print(f"{address.id} = {addresses.written(address, job)}")
    return 0


def _addresses(words: list[str]) -> int:
    parser = _Parser(
        prog="peristyle addresses",
        description="Every address a design can have: its words, unit, limits and what a new part begins with.",
    )
    parser.add_argument("--json", action="store_true")
    options = parser.parse_args(words)
    # As above.
    from peristyle.model import addresses

    rows = [addresses.described(address) for address in addresses.every()]
    if options.json:
        _print_json(rows)
        return 0
    for row in rows:
        limits = [
            f"{word} {row[key]:g}"
            for word, key in (("from", "least"), ("to", "most"))
            if row[key] is not None
        ]
        begins = f"; {row['default']} to begin with" if row["default"] is not None else ""
        told = f", {' '.join(limits)}" if limits else ""
        print(f"{row['address']}: {row['words']} ({row['unit']}{told}{begins})")
    return 0


def _load_plan(path: str) -> "Plan":
    # As above.
    from peristyle.planning.plan import plan
    from peristyle.storage import files

    return plan(files.load(Path(path)).job)


def _plan(words: list[str]) -> int:
    parser = _Parser(prog="peristyle plan", description="Everything that follows from a design.")
    parser.add_argument("file")
    parser.add_argument("--json", action="store_true", help="as JSON (docs/plan-json.md)")
    options = parser.parse_args(words)
    from peristyle.export.planjson import as_data
    from peristyle.export.plantext import as_text

    found = _load_plan(options.file)
    if options.json:
        _print_json(as_data(found))
    else:
        print(as_text(found))
    return 0


def _export(words: list[str]) -> int:
    parser = _Parser(
        prog="peristyle export",
        description="Write the cut list, the shop sheet, or both. “-” writes to standard output.",
    )
    parser.add_argument("file")
    parser.add_argument("--cut-list", metavar="OUT.csv", action="append", default=[])
    parser.add_argument("--sheet", metavar="OUT.pdf", action="append", default=[])
    parser.add_argument("--paper", choices=("a4", "letter"), default="a4")
    options = parser.parse_args(words)
    outputs = [*options.cut_list, *options.sheet]
    if not outputs:
        parser.error("--cut-list OUT.csv or --sheet OUT.pdf is required, or both")
    if len({os.path.realpath(place) for place in outputs}) < len(outputs):
        parser.error("two outputs cannot go to one place: give each its own name")
    own = Path(options.file)
    found = _load_plan(options.file)
    for place in options.cut_list:
        from peristyle.export.cutlist import cut_list

        _put(place, cut_list(found).encode(), own=own)
    for place in options.sheet:
        # The PDF library takes 0.2 s to import.
        from peristyle.export.sheet import shop_sheet

        _put(place, shop_sheet(found, options.paper), own=own)
    return 0


def _install(words: list[str]) -> int:
    parser = _Parser(
        prog="peristyle install-desktop",
        description="Add Peristyle to your desktop's menu and teach it the file type.",
    )
    parser.add_argument("--remove", action="store_true", help="take it out again")
    options = parser.parse_args(words)
    from peristyle.desktop import install, remove

    for line in remove() if options.remove else install():
        print(line)
    return 0


COMMANDS: dict[str, Callable[[list[str]], int]] = {
    "angles": _angles,
    "angle-sheet": _sheet,
    "new": _new,
    "plan": _plan,
    "get": _get,
    "set": _set,
    "addresses": _addresses,
    "export": _export,
    "install-desktop": _install,
}


def entry() -> Any:
    """What `python -m peristyle` runs."""
    raise SystemExit(main())


if __name__ == "__main__":
    entry()
