"""The sled the bevels of a box are cut on: its parts and its making."""

from pathlib import Path

from peristyle.commands.console import Parser, print_json


def _parser() -> Parser:
    parser = Parser(
        prog="peristyle sled",
        description="The sled the bevels of a box are cut on: its parts, where screws are clear of the tilted blade, "
        "how it is made and tuned. Your table is shop.table: “peristyle set FILE shop.table.slot_mm=125”.",
    )
    parser.add_argument("file")
    parser.add_argument("--pdf", metavar="OUT", help="write it as PDF, with drawings")
    parser.add_argument("--json", action="store_true", help="as data")
    return parser


def run(words: list[str]) -> int:
    options = _parser().parse_args(words)
    # Late, so that other commands start without it.
    from msgspec import to_builtins

    from peristyle.core.lengths import Format
    from peristyle.planning.plan import plan
    from peristyle.planning.sled import sled
    from peristyle.storage import files
    from peristyle.words import sled as said

    path = Path(options.file)
    made = plan(files.load(path).job)
    found, fmt = sled(made), Format(made.job.design.units)
    if options.pdf:
        from peristyle.commands.console import put
        from peristyle.export.sled import sled_sheet

        put(options.pdf, sled_sheet(made), own=path)
        return 0
    if options.json:
        print_json(to_builtins(found))
        return 0
    for part in found.parts:
        print(said.part(part, fmt))
    for number, text in enumerate(said.steps(found, fmt), 1):
        print(f"{number}. {text}")
    for text in said.cautions(found, fmt):
        print(f"! {text}")
    return 0
