"""The simulated camera: a photograph of one of the job's boards on a bench, to try photographs with."""

from pathlib import Path

from peristyle.commands.console import Parser
from peristyle.core.errors import PeristyleError


def _parser() -> Parser:
    parser = Parser(
        prog="peristyle camera",
        description="A simulated camera, to try photographs without one: it photographs a board of the job on a bench, "
        "with perspective, a lens that bends, uneven light, blur and noise.",
    )
    parser.add_argument("file")
    parser.add_argument("board", help="which board of the job")
    parser.add_argument("out", metavar="JPG", help="where the photograph goes")
    parser.add_argument("--back", action="store_true", help="the back, the board rolled over its long edge")
    parser.add_argument(
        "--from", dest="start", metavar="L", default="0", help="only a stretch: where it begins"
    )
    parser.add_argument("--to", metavar="L", help="only a stretch: where it ends")
    parser.add_argument("--seed", type=int, default=1, help="how it is held")
    parser.add_argument("--points", default="4000x2000", metavar="WxH", help="points of the photograph")
    return parser


def run(words: list[str]) -> int:
    options = _parser().parse_args(words)
    # Late, so that other commands start without it.
    from peristyle.commands.reading import Reader
    from peristyle.devices.camera import chance_camera, photograph
    from peristyle.model.design import replace
    from peristyle.model.rack import number_of
    from peristyle.planning.stock.looks import look_of
    from peristyle.storage import files, pictures
    from peristyle.storage.rack import own_folder
    from peristyle.wood.pictures import seen

    path = Path(options.file)
    job = files.load(path).job
    stock = job.stock
    board = stock.board if options.board == stock.board.name else stock.rack[number_of(stock, options.board)]
    folders = pictures.places(path, own_folder() / pictures.NAME)
    lying = replace(board, turned=False, face="back" if options.back else "front")
    picture = seen(look_of(lying), "face", lambda name: pictures.read(name, folders))
    reader = Reader(job.design.units)
    start = 0.0 if options.start.strip() == "0" else reader.length(options.start, "--from")
    end = reader.length(options.to, "--to") if options.to else board.length_mm
    if not 0.0 <= start < end <= board.length_mm:
        raise PeristyleError("--from and --to: a stretch of the board, from its start.")
    try:
        wide, high = (int(part) for part in options.points.lower().split("x"))
    except ValueError:
        wide = high = 0
    if not (400 <= wide <= 10_000 and 300 <= high <= 10_000):
        raise PeristyleError("--points: width × height, as in 4000x2000; 400 × 300 to 10000 × 10000.")
    scale = picture.px_per_mm
    stretch = picture.pixels[:, round(start * scale) : max(round(start * scale) + 8, round(end * scale))]
    shot = photograph(
        stretch,
        end - start,
        board.width_mm,
        chance_camera(options.seed % 2**31, wide, high),
        options.seed % 2**31,
    )
    files.write_atomically(Path(options.out), shot.jpeg)
    print(f"{options.out}: “{board.name}” photographed")
    return 0
