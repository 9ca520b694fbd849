"""Where on the board the wrap is best begun: every start searched, the best told, one taken."""

from pathlib import Path
from typing import Any

from peristyle.commands.console import Parser, print_json
from peristyle.core.errors import PeristyleError


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
    parser.add_argument("--take", type=int, metavar="N", help="take suggestion N, and save it")
    parser.add_argument("--json", action="store_true", help="as data")
    return parser


def run(words: list[str]) -> int:
    options = _parser().parse_args(words)
    # Late, so that other commands start without it.
    from peristyle.core.lengths import Format, parse_length
    from peristyle.model.addresses import sound
    from peristyle.planning.stock.search import Allowed, applied, search, searchable
    from peristyle.storage import files, pictures
    from peristyle.storage.rack import own_folder
    from peristyle.words.boards import METHODS, scale_words, suggestion_line

    path = Path(options.file)
    loaded = files.load(path)
    job = loaded.job
    if not searchable(job):
        way = METHODS[job.stock.board.method]
        raise PeristyleError(
            f"There is no closing corner to search ({way}): it is for sides cut along a board in their order."
        )
    stretch = parse_length(options.stretch, job.design.units)
    if not 0 <= stretch <= 50:
        raise PeristyleError("--stretch: between 0 and 50 mm, in all.")
    allowed = Allowed(
        stretch,
        options.other_face,
        options.other_edge,
        options.rack,
        "all" if options.all_corners else "closing",
    )
    folders = [pictures.beside(path), own_folder() / pictures.NAME]
    found = search(job, allowed, lambda name: pictures.read(name, folders))
    fmt, count = Format(job.design.units), job.design.side_count
    if options.take is not None:
        if not 1 <= options.take <= len(found.suggestions):
            raise PeristyleError(f"--take: there are suggestions 1 to {len(found.suggestions)}.")
        job = applied(job, found.suggestions[options.take - 1])
        sound(job)
        files.save(path, job, loaded.stamp)
    if options.json:
        print_json(_data(found))
        return 0
    if found.curve is not None:
        last = job.design.side_count - 1 if loaded.job.stock.closing_corner is None else loaded.job.closing
        print(f"As it lies: closing {found.curve.now[last]:.0f}. {scale_words(found.curve.scale)}")
        for low, high in found.curve.blocked:
            print(
                f"Blocked by what is marked: starts {fmt.length(max(0.0, low))} to {fmt.length(high, unit=True)}"
            )
    for number, one in enumerate(found.suggestions, 1):
        taken = " (taken)" if number == options.take else ""
        print(f"{number:>2}  {suggestion_line(one, loaded.job.stock.board, fmt, count)}{taken}")
    if not found.suggestions:
        print("No start keeps clear of all that is marked: try the other face or edge, or another board.")
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
