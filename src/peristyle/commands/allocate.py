"""A batch of many boxes allocated to its boards: the cheapest plan that places all, with a map for every board."""

import argparse
from pathlib import Path
from typing import TYPE_CHECKING, Any

from peristyle.commands.console import Parser, print_json
from peristyle.core.errors import PeristyleError

if TYPE_CHECKING:
    from peristyle.model.batch import Batch
    from peristyle.planning.stock.allocation import Allocation, Wanted


def _parser() -> Parser:
    parser = Parser(
        prog="peristyle allocate",
        description="Allocate the boxes of a batch to its boards: all placed, at the least cost, the fewest corners "
        "broken, the longest single offcut kept; clear of what is marked. With --new a batch is made.",
    )
    parser.add_argument("file", help="the batch's file")
    parser.add_argument("--new", action="store_true", help="make the batch: jobs by --job, boards by --board")
    parser.add_argument(
        "--job", action="append", default=[], metavar="FILE[=N]", help="a job, and how many boxes of it"
    )
    parser.add_argument(
        "--board", action="append", default=[], metavar="NAME=LxWxT[@PRICE]", help="a board, with its price"
    )
    parser.add_argument("--rack", action="store_true", help="the boards of your own rack as well")
    parser.add_argument("--seconds", type=float, default=20.0, help="how long to look for a better plan (20)")
    parser.add_argument("--maps", metavar="PDF", help="write the cutting maps")
    parser.add_argument("--paper", choices=("a4", "letter"), default="a4")
    parser.add_argument(
        "--done", metavar="BOARD", action="append", default=[],
        help="this board of the plan is cut: it leaves the batch, its offcut goes onto your own rack",
    )  # fmt: skip
    parser.add_argument("--json", action="store_true", help="as data")
    return parser


def run(words: list[str]) -> int:
    options = _parser().parse_args(words)
    # Late, so that other commands start without it.
    from peristyle.core.lengths import Format
    from peristyle.planning.stock.allocate import allocate
    from peristyle.storage import batch as kept
    from peristyle.storage import files
    from peristyle.words.batch import found_lines, map_lines

    path = Path(options.file)
    if not 0.1 <= options.seconds <= 3600:
        raise PeristyleError("--seconds: between 0.1 and 3600.")
    if options.new or options.job or options.board or options.rack:
        _make(options, path)
    opened = kept.load(path)
    batch = opened.batch
    wanted = wanted_of(batch, opened.jobs)
    if not wanted or not batch.boards:
        raise PeristyleError(
            "A batch needs a job and a board: --job box.peristyle=7 --board Oak=1200x140x12."
        )
    found = allocate(wanted, batch.boards, options.seconds)
    fmt = Format(batch.units)
    if options.maps:
        from peristyle.export.maps import maps_sheet

        files.write_atomically(
            Path(options.maps), maps_sheet(batch.name, found, wanted, batch.boards, fmt, options.paper)
        )
    if options.json:
        print_json(data_of(found, wanted, batch))
    else:
        for line in (
            *found_lines(found, wanted, batch.boards, fmt),
            "",
            *map_lines(found, wanted, batch.boards, fmt),
        ):
            print(line)
    if options.done:
        _done(options.done, path, batch, found)
    return 0


def wanted_of(batch: "Batch", jobs: tuple[Any, ...]) -> list["Wanted"]:
    """What the batch wants, its jobs planned as they stand."""
    from peristyle.planning.plan import plan
    from peristyle.planning.stock.allocation import Wanted

    return [
        Wanted(job.design.name, plan(job).job, one.count) for one, job in zip(batch.jobs, jobs, strict=True)
    ]


def _make(options: argparse.Namespace, path: Path) -> None:
    """The batch begun, or with more jobs and boards."""
    from peristyle.commands.reading import Reader
    from peristyle.model.batch import Batch, BatchJob
    from peristyle.model.design import replace
    from peristyle.model.stock import Board
    from peristyle.storage import batch as kept
    from peristyle.storage import files, rack

    batch: Batch = Batch(name=path.stem[:120] or "Batch") if options.new else kept.load(path).batch
    jobs = list(batch.jobs)
    for text in options.job:
        name, _equals, many = text.rpartition("=") if "=" in text else (text, "", "1")
        if not many.strip().isdigit() or not 1 <= int(many) <= 1000:
            raise PeristyleError(
                f"--job: “{text[:60]}”: write as in ticket-box.peristyle=7, at most 1000 boxes."
            )
        job = files.load(Path(name)).job
        jobs.append(BatchJob(file=kept.relative(Path(name), path), count=int(many)))
        batch = replace(batch, units=job.design.units) if len(jobs) == 1 else batch
    boards = [*batch.boards, *(rack.load(rack.own_folder()) if options.rack else ())]
    for text in options.board:
        name, _equals, size = text.partition("=")
        size, _at, price = size.partition("@")
        sizes = Reader(batch.units).sizes(size, "--board") if size else []
        if len(sizes) != 3 or not name.strip():
            raise PeristyleError(
                f"--board: “{text[:60]}”: write as in Oak=1200x140x12 or Oak=1200x140x12@18."
            )
        try:
            cost = float(price or 0)
        except ValueError:
            cost = -1.0
        if not 0 <= cost <= 1e6:
            raise PeristyleError(f"--board: “{price[:20]}” is no price.")
        boards.append(
            Board(name=name.strip(), length_mm=sizes[0], width_mm=sizes[1], thickness_mm=sizes[2], price=cost,
                  seed=7 + len(boards))
        )  # fmt: skip
    kept.save(path, replace(batch, jobs=tuple(jobs), boards=tuple(boards)))


def _done(names: list[str], path: Path, batch: "Batch", found: "Allocation") -> None:
    """Boards that are cut leave the batch, their boxes with them; what is left of them goes onto the maker's rack."""
    from peristyle.planning.stock.batching import settled
    from peristyle.storage import batch as kept
    from peristyle.storage import rack

    left, offcuts = settled(batch, found, names)
    mine = rack.load(rack.own_folder())
    from peristyle.model.rack import put_with

    for board in offcuts:
        mine = put_with(mine, board)
        print(f"On your rack: {mine[-1].name}")
    rack.save(rack.own_folder(), mine)
    kept.save(path, left)


def data_of(found: "Allocation", wanted: list["Wanted"], batch: "Batch") -> dict[str, Any]:
    """The plan as data: every box with its runs, boards and jobs by their names."""
    from peristyle.model.design import side_name

    return {
        "boxes": [
            {
                "job": wanted[box.job].name, "number": box.number,
                "runs": [
                    {
                        "board": batch.boards[run.board].name, "sides": [side_name(i) for i in run.sides],
                        "start_mm": run.start_mm, "end_mm": run.end_mm, "low_mm": run.low_mm, "high_mm": run.high_mm,
                    }
                    for run in box.runs
                ],
            }
            for box in found.boxes
        ],
        "unplaced": [{"job": wanted[j].name, "count": count, "why": why} for j, count, why in found.unplaced],
        "boards": [batch.boards[number].name for number in found.boards],
        "cost": found.cost, "priced": found.priced, "least": found.least, "gap": found.gap,
        "broken_corners": found.broken, "longest_offcut_mm": found.offcut_mm, "seconds": round(found.seconds, 2),
    }  # fmt: skip
