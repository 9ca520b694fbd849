"""Values of a design by their addresses."""

from pathlib import Path

from peristyle.commands.console import Parser, print_json


def run(words: list[str]) -> int:
    parser = Parser(prog="peristyle get", description="The values of a design, as they would be typed.")
    parser.add_argument("file")
    parser.add_argument("addresses", nargs="*", metavar="ADDRESS", help="these alone; all if none is given")
    parser.add_argument("--json", action="store_true")
    options = parser.parse_args(words)
    # Late, so that other commands start without it.
    from peristyle.model import addresses
    from peristyle.storage import files

    job = files.load(Path(options.file)).job
    wanted = [addresses.find(job, place) for place in options.addresses] or addresses.addresses(job)
    if options.json:
        print_json({address.id: address.get(job) for address in wanted})
    elif len(options.addresses) == 1:
        print(addresses.written(wanted[0], job))
    else:
        for address in wanted:
            print(f"{address.id} = {addresses.written(address, job)}")
    return 0
