"""Where on the board the wrap is best begun: every start searched, the best told, one taken."""

from pathlib import Path
from typing import TYPE_CHECKING, Any

from peristyle.commands.console import Parser, print_json
from peristyle.core.errors import PeristyleError
from peristyle.model.design import corner_name, side_name
from peristyle.model.job import Job

if TYPE_CHECKING:  # the search brings NumPy with it
    from peristyle.core.lengths import Format
    from peristyle.planning.stock.search import Found


def _parser() -> Parser:
    parser = Parser(
        prog="peristyle match",
        description="Search every start for the wrap whose closing corner matches best, clear of what is marked on "
        "the board.",
    )
    parser.add_argument("file")
    parser.add_argument(
        "--stretch", metavar="LENGTH", default="0", help="let the ring grow or shrink by so much in all"
    )
    parser.add_argument("--other-face", action="store_true", help="try the board's other face as well")
    parser.add_argument("--other-edge", action="store_true", help="try it turned end for end as well")
    parser.add_argument("--rack", action="store_true", help="try every board on the rack as well")
    parser.add_argument("--all-corners", action="store_true", help="rank by all corners together")
    parser.add_argument(
        "--replace", metavar="SIDE", help="look for spare wood for one side on the boards of the rack"
    )
    parser.add_argument(
        "--break",
        dest="broken",
        action="store_true",
        help="break the wrap at the fewest, least seen corners, so that it comes from the boards there are",
    )
    parser.add_argument("--take", type=int, metavar="N", help="take suggestion N, and save it")
    parser.add_argument("--json", action="store_true", help="as data")
    return parser


def run(words: list[str]) -> int:
    options = _parser().parse_args(words)
    # Late, so that other commands start without it.
    from peristyle.core.lengths import Format, parse_length
    from peristyle.model.addresses import sound
    from peristyle.planning.stock.laying import stretches
    from peristyle.planning.stock.search import Allowed, applied, search, searchable
    from peristyle.storage import files, pictures
    from peristyle.storage.rack import own_folder
    from peristyle.words.boards import METHODS, NOT_SEARCHED

    path = Path(options.file)
    loaded = files.load(path)
    job = loaded.job
    if options.broken:
        return _broken(options, path, job, loaded.stamp)
    replaces = _side(options.replace, job) if options.replace else None
    if replaces is None and not searchable(job):
        way = METHODS[job.stock.board.method]
        raise PeristyleError(f"{NOT_SEARCHED} This box: {way}.")
    stretch = parse_length(options.stretch, job.design.units)
    if not 0 <= stretch <= 50:
        raise PeristyleError("--stretch: between 0 and 50 mm, in all.")
    if stretch and not stretches(job):
        raise PeristyleError(
            "--stretch: only for sides cut along one strip, unbroken; otherwise more than the last corner moves."
        )
    allowed = Allowed(
        stretch,
        options.other_face,
        options.other_edge,
        options.rack,
        "all" if options.all_corners else "closing",
        replaces,
    )
    folders = pictures.places(path, own_folder() / pictures.NAME)
    found = search(job, allowed, lambda name: pictures.read(name, folders))
    fmt = Format(job.design.units)
    if options.take is not None:
        if not 1 <= options.take <= len(found.suggestions):
            raise PeristyleError(f"--take: there are suggestions 1 to {len(found.suggestions)}.")
        job = applied(job, found.suggestions[options.take - 1])
        sound(job)
        files.save(path, job, loaded.stamp)
    if options.json:
        print_json(_data(found))
        return 0
    _tell(found, loaded.job, fmt, options.take, replaces=replaces is not None)
    return 0


def _tell(found: "Found", job: Job, fmt: "Format", taken: int | None, *, replaces: bool) -> None:
    """What was found, in lines."""
    from peristyle.words.boards import deciding, nothing_found, scale_words, suggestion_line

    count = job.design.side_count
    if found.curve is not None:
        what = deciding(found.curve.decides, count)
        print(
            f"As it lies: {what} {found.curve.closing(found.curve.now):.0f}. {scale_words(found.curve.scale)}"
        )
        for low, high in found.curve.blocked:
            print(
                f"Blocked by what is marked: starts {fmt.length(max(0.0, low))} to {fmt.length(high, unit=True)}"
            )
    for number, one in enumerate(found.suggestions, 1):
        print(
            f"{number:>2}  {suggestion_line(one, job.stock.board, fmt, count)}{' (taken)' if number == taken else ''}"
        )
    if not found.suggestions:
        print(nothing_found(found.fits, replaces=replaces))


def _side(letter: str, job: Job) -> int:
    """The number of a side by its letter. Raises PeristyleError where that cannot be made anew."""
    names = [side_name(i) for i in range(job.design.side_count)]
    if letter.strip().upper() not in names:
        raise PeristyleError(f"--replace: “{letter[:12]}” is no side of this box: {names[0]} to {names[-1]}.")
    if job.stock.board.method != "square_first":
        raise PeristyleError("--replace: only a side that is cut square first can come from another board.")
    return names.index(letter.strip().upper())


def _broken(options: Any, path: Path, job: Job, stamp: str) -> int:
    """The wrap broken at the fewest corners; told, or with --take 1 saved."""
    # Late, as above.
    from peristyle.core.lengths import Format
    from peristyle.model.addresses import sound
    from peristyle.model.runs import breaks_told
    from peristyle.planning.plan import plan
    from peristyle.planning.stock.broken import fewest_breaks
    from peristyle.storage import files
    from peristyle.words.findings import said

    made = fewest_breaks(plan(job).job)
    if made is None:
        raise PeristyleError(
            "No breaks were found that let this ring come from these boards. It is for sides cut square first; more "
            "boards on the rack may help."
        )
    if options.take is not None:
        if options.take != 1:
            raise PeristyleError("--take: there is suggestion 1.")
        files.save(path, sound(made), stamp)
    found = plan(made)
    if options.json:
        told = {"breaks": breaks_told(made), "closing": corner_name(made.closing, made.design.side_count)}
        print_json(told | {"shift_mm": made.stock.board.shift_mm})
        return 0
    fmt = Format(job.design.units)
    for finding in (f for f in found.findings if f.code == "wrap_broken"):
        print(said(finding, fmt))
    for run in found.wrap.runs:
        sides = ", ".join(side_name(i) for i in run.sides)
        board = run.board or job.stock.board.name
        print(f"{sides}: “{board}”, {fmt.length(run.start_mm)} to {fmt.length(run.end_mm, unit=True)}")
    print("Taken." if options.take else "Add --take 1 to take it.")
    return 0


def _data(found: Any) -> dict[str, Any]:
    from msgspec import to_builtins

    data: dict[str, Any] = to_builtins(
        {"suggestions": found.suggestions, "curve": found.curve}, builtin_types=(bytes,)
    )
    for one in data["suggestions"]:
        del one["film"]  # a picture, for the window
    if found.curve is not None:
        data["curve"]["scale"] = found.curve.scale._asdict()
    return data
