"""Photographs of a board made its picture: straightened, to scale, joined where it takes several."""

from argparse import Namespace
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import TYPE_CHECKING, Any

from peristyle.commands.console import Parser, print_json
from peristyle.core.errors import PeristyleError

if TYPE_CHECKING:
    from peristyle.model.stock import Board

_BOTH = "both faces were photographed"


def _parser() -> Parser:
    parser = Parser(
        prog="peristyle photograph",
        description="Make photographs of a board its picture: one of all of it, or several, in order from its start, a "
        "stretch each, overlapping by 10 cm or more. The outline is found, or its corners are given.",
    )
    parser.add_argument("file")
    parser.add_argument("board", help="which board of the job")
    parser.add_argument(
        "photos", nargs="+", metavar="PHOTO", help="PNG, JPEG, TIFF or WebP, up to 100 million points"
    )
    parser.add_argument(
        "--size", metavar="LxW", help="the board's length and width, where the job has other ones"
    )
    parser.add_argument(
        "--back", action="store_true", help="it is the back, the board rolled over its long edge"
    )
    parser.add_argument(
        "--corners", action="append", default=[], metavar="X,Y,…",
        help="the four corners in a photograph's points from its upper left: bottom start, bottom end, top end, top "
        "start; once for each photograph",
    )  # fmt: skip
    parser.add_argument(
        "--stretch", action="append", default=[], metavar="LENGTH",
        help="with several: how long the stretch is that a photograph shows; once for each",
    )  # fmt: skip
    parser.add_argument("--look", action="store_true", help="only tell where the outline is found")
    parser.add_argument("--json", action="store_true", help="as data")
    return parser


def run(words: list[str]) -> int:
    options = _parser().parse_args(words)
    # Late, so that other commands start without it.
    from peristyle.commands.reading import Reader
    from peristyle.core.lengths import Format
    from peristyle.model.addresses import sound
    from peristyle.model.design import replace
    from peristyle.model.rack import number_of
    from peristyle.storage import files, pictures
    from peristyle.storage.rack import own_folder
    from peristyle.wood.joined import Taken, developed

    path = Path(options.file)
    loaded = files.load(path)
    job, units = loaded.job, loaded.job.design.units
    stock = job.stock
    number = None if options.board == stock.board.name else number_of(stock, options.board)
    board: Board = stock.board if number is None else stock.rack[number]
    if options.size:
        sizes = Reader(units).sizes(options.size, "--size")
        if len(sizes) != 2:
            raise PeristyleError("--size: give length × width, as in 1200x140.")
        board = replace(board, length_mm=sizes[0], width_mm=sizes[1])
    several = _several(options)
    reader = Reader(units)
    lengths = [reader.length(text, "--stretch") for text in options.stretch] or [board.length_mm]
    taken = []
    for k, name in enumerate(options.photos):
        photo, corners = _photo(Path(name), options.corners[k] if options.corners else "")
        taken.append(Taken(photo, corners, lengths[k]))
    if options.look:
        _tell_corners(options, taken)
        return 0
    made = developed(taken, board.width_mm, board.length_mm if several else None)
    with TemporaryDirectory() as held:
        picture = pictures.keep_pixels(made.pixels, Path(held))
        board = replace(board, **{"back_picture" if options.back else "picture": picture}, cut_from=None)
        if number is None:
            stock = replace(stock, board=board)
        else:
            stock = replace(stock, rack=(*stock.rack[:number], board, *stock.rack[number + 1 :]))
        places = (Path(held), *pictures.places(path, own_folder() / pictures.NAME))
        files.save(path, sound(replace(job, stock=stock)), loaded.stamp, places=places)
    _tell_made(options, board, picture, made, Format(units))
    return 0


def _several(options: Namespace) -> bool:
    """Whether there are several photographs, each with what is said of it. Raises PeristyleError where not."""
    several = len(options.photos) > 1
    for option, given in (("--corners", options.corners), ("--stretch", options.stretch)):
        if given and len(given) != len(options.photos):
            raise PeristyleError(
                f"{option}: once for each of the {len(options.photos)} photographs, or not at all."
            )
    if several and not options.stretch:
        raise PeristyleError("Several photographs: say with --stretch how long a stretch each of them shows.")
    return several


def _tell_made(options: Namespace, board: "Board", picture: str, made: Any, fmt: Any) -> None:
    """What came of it: the picture, and how it was joined."""
    if options.json:
        print_json({
            "board": board.name, "picture": picture, "px_per_mm": made.px_per_mm, "length_mm": made.length_mm,
            "overlaps_mm": list(made.overlaps_mm), "alike": made.alike,
        })  # fmt: skip
        return
    rows, columns, _three = made.pixels.shape
    print(f"“{board.name}”: its {'back' if options.back else 'face'}, {columns} × {rows} points, "
          f"{fmt.number(made.px_per_mm, 2)} for each mm")  # fmt: skip
    if made.overlaps_mm:
        over = ", ".join(fmt.length(mm) for mm in made.overlaps_mm)
        print(f"Joined: the photographs overlap by {over}; together {fmt.length(made.length_mm, unit=True)}")
        if abs(made.length_mm - board.length_mm) > 0.004 * board.length_mm:
            print(
                f"The board is said to be {fmt.length(board.length_mm, unit=True)} long: measure it, and the stretches."
            )


def _photo(path: Path, given: str) -> tuple[Any, Any]:
    """A photograph and its corners, given or found."""
    import numpy as np

    from peristyle.storage import files, pictures
    from peristyle.wood.outline import outline
    from peristyle.wood.photo import photographed

    shown = files.shown(path.name)
    try:
        photo = photographed(pictures.taken(path))
    except PeristyleError as error:
        raise PeristyleError(f"“{shown}”: {error}") from error
    if given:
        try:
            values = [float(part) for part in given.replace(";", ",").split(",")]
        except ValueError:
            values = []
        if len(values) != 8 or not all(abs(value) < 1e6 for value in values):
            raise PeristyleError("--corners: eight numbers, as in 120,2010,3900,1985,3870,420,150,400.")
        return photo, np.array(values).reshape(4, 2)
    corners = outline(photo)
    if corners is None:
        raise PeristyleError(
            f"“{shown}”: no outline of a board was found. Give its four corners with --corners, or lay it on something "
            "of another colour."
        )
    return photo, corners


def _tell_corners(options: Any, taken: list[Any]) -> None:
    if options.json:
        print_json([{"photo": name, "corners": one.corners.round(1).tolist()}
                    for name, one in zip(options.photos, taken, strict=True)])  # fmt: skip
        return
    for name, one in zip(options.photos, taken, strict=True):
        print(f"{name}: {','.join(f'{value:.1f}' for value in one.corners.reshape(-1))}")
