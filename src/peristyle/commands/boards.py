"""The boards of a job and the maker's own rack: listed, added, chosen, put back."""

import argparse
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import TYPE_CHECKING, Final

from peristyle.commands.console import Parser
from peristyle.core.errors import PeristyleError

if TYPE_CHECKING:
    from peristyle.model.job import Job
    from peristyle.model.stock import Board, Stock

_DOES = ("list", "add", "use", "remove", "keep", "fetch", "offcuts")


def _parser() -> Parser:
    parser = Parser(
        prog="peristyle boards",
        description="The boards of a job. “list” shows them; “add” puts one on the job's rack; “use” takes the sides "
        "from one; “remove” takes one off; “keep” copies one to your own rack and “fetch” from it; “offcuts” puts what "
        "this box leaves of its board on your own rack. Values of a board are also at addresses: stock.board.…, "
        "stock.rack.1.…",
    )
    parser.add_argument("file")
    parser.add_argument("do", nargs="?", default="list", choices=_DOES, metavar="/".join(_DOES))
    parser.add_argument("name", nargs="?", default="", help="which board")
    parser.add_argument("--size", metavar="LxWxT", help="with add: length, width and thickness")
    parser.add_argument("--wood", help="with add: species, for its picture")
    parser.add_argument("--sawn", choices=("plain", "quarter", "rift"), help="with add; plain if not given")
    parser.add_argument("--looks", help="with add: knots, sapwood, streaks, spalting, curl")
    parser.add_argument("--seed", type=int, help="with add: which figure")
    parser.add_argument("--picture", help="with add: a PNG or JPEG of its face, straight and to scale")
    parser.add_argument("--back-picture", help="with add: the same of its back, rolled over its long edge")
    parser.add_argument("--price", type=float, help="with add: of the whole board")
    parser.add_argument("--sheet", action="store_true", help="with add: plywood and the like")
    return parser


# What a board is like.
_OF_A_BOARD: Final = ("size", "wood", "sawn", "looks", "seed", "picture", "back_picture", "price", "sheet")


def run(words: list[str]) -> int:
    options = _parser().parse_args(words)
    # Late, so that other commands start without it.
    from peristyle.model import rack
    from peristyle.model.addresses import sound
    from peristyle.model.design import replace
    from peristyle.storage import files, pictures
    from peristyle.storage import rack as own

    if options.do != "add" and any(getattr(options, name) not in (None, False) for name in _OF_A_BOARD):
        raise PeristyleError(
            "What a board is like is said with add: boards FILE add NAME --size 1200x140x12."
        )
    path = Path(options.file)
    loaded = files.load(path)
    job = loaded.job
    if options.do not in ("list", "add", "offcuts") and not options.name:
        raise PeristyleError(f"{options.do} which board? {', '.join(rack.names_of(job.stock))}.")
    with TemporaryDirectory() as held:
        stock = _changed(options, job, path, Path(held))
        changed = replace(job, stock=stock)
        if changed != job:
            places = (Path(held), *pictures.places(path, own.own_folder() / pictures.NAME))
            files.save(path, sound(changed), loaded.stamp, places=places)
    _tell(changed)
    return 0


def _changed(options: argparse.Namespace, job: "Job", path: Path, held: Path) -> "Stock":
    """The boards as they are to be; pictures that come with one are put into the folder `held`."""
    # Late, as above.
    from peristyle.model import rack
    from peristyle.storage import rack as own

    stock = job.stock
    match options.do:
        case "add":
            stock = rack.added(stock, _made(options, job, held))
        case "use":
            stock = rack.chosen(stock, options.name)
        case "remove":
            stock = rack.removed(stock, options.name)
        case "keep":
            _keep(own.own_folder(), path, [_of(job, options.name)])
        case "fetch":
            mine = {board.name: board for board in own.load(own.own_folder())}
            if options.name not in mine:
                raise PeristyleError(
                    f"“{options.name[:60]}” is not on your rack. There: {', '.join(mine) or 'none'}."
                )
            stock = rack.added(stock, mine[options.name])
        case "offcuts":
            from peristyle.planning.plan import plan
            from peristyle.planning.stock.reckoned import offcuts

            left = offcuts(plan(job))
            if not left:
                raise PeristyleError("This box leaves nothing of its board that is worth keeping.")
            _keep(own.own_folder(), path, list(left))
        case _:
            pass
    return stock


def _of(job: "Job", name: str) -> "Board":
    from peristyle.model.rack import number_of

    return job.stock.board if name == job.stock.board.name else job.stock.rack[number_of(job.stock, name)]


def _made(options: argparse.Namespace, job: "Job", held: Path) -> "Board":
    """The board that is to be added, its pictures put into the folder `held`; with a picture and no size as long as the
    picture says for its width.
    """
    from peristyle.commands.reading import Reader
    from peristyle.model.addresses import put
    from peristyle.model.design import replace
    from peristyle.model.job import revised
    from peristyle.model.starts import begun
    from peristyle.model.stock import Board
    from peristyle.reference.woods import WOODS
    from peristyle.storage import pictures

    board: Board = begun(Board, job.design.units)
    board = replace(
        board,
        name=options.name or "Board",
        sawn=options.sawn or "plain",
        sheet=options.sheet,
        price=options.price or 0.0,
    )
    if options.size:
        sizes = Reader(job.design.units).sizes(options.size, "--size")
        if len(sizes) != 3:
            raise PeristyleError("--size: give length × width × thickness, as in 1200x140x12.")
        board = replace(board, length_mm=sizes[0], width_mm=sizes[1], thickness_mm=sizes[2])
    if options.wood:
        if options.wood not in WOODS:
            raise PeristyleError(f"--wood: “{options.wood[:40]}” is not one of {', '.join(WOODS)}.")
        board = replace(board, wood=options.wood)
    seed = options.seed if options.seed is not None else 7 + len(job.stock.rack) + 1
    board = replace(board, seed=seed % 2**31)
    for option, field in (("picture", "picture"), ("back_picture", "back_picture")):
        source = getattr(options, option)
        if source:
            board = replace(board, **{field: pictures.keep(Path(source), held)})
    if options.looks:
        there = put(revised(job, board=board), "stock.board.looks", options.looks)
        board = there.stock.board
    return board


def _keep(folder: Path, path: Path, boards: "list[Board]") -> None:
    """Boards put on the maker's own rack, each under a name of its own, with their pictures."""
    from peristyle.model.rack import put_with
    from peristyle.storage import pictures
    from peristyle.storage import rack as own

    kept = own.load(folder)
    for board in boards:
        kept = put_with(kept, board)
        names = (board.picture, board.back_picture)
        pictures.carried(names, folder / pictures.NAME, pictures.places(path, folder / pictures.NAME))
        print(f"On your rack: {kept[-1].name if board not in kept else board.name}")
    own.save(folder, kept)


def _tell(job: "Job") -> None:
    from peristyle.core.lengths import Format
    from peristyle.planning.plan import plan
    from peristyle.words.boards import board_line, reckoned_words

    fmt = Format(job.design.units)
    print(f"sides from  {board_line(job.stock.board, fmt)}")
    for board in job.stock.rack:
        print(f"on the rack {board_line(board, fmt)}")
    made = plan(job)
    if made.wrap.pieces:
        print(reckoned_words(made, fmt))
