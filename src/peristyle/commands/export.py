"""The plan written in other formats."""

import os
import sys
from pathlib import Path

from peristyle.commands.console import Parser, load_plan, put
from peristyle.export.formats import FORMATS


def run(words: list[str]) -> int:
    """Write the plan in one or more formats."""
    parser = Parser(
        prog="peristyle export",
        description="Write the plan as a file, in one format or several. “-” writes to standard output.",
    )
    parser.add_argument("file")
    for form in FORMATS:
        parser.add_argument(
            form.option,
            dest=form.id,
            metavar=f"OUT{form.ending}",
            action="append",
            default=[],
            help=form.says,
        )
    parser.add_argument("--paper", choices=("a4", "letter"), default="a4")
    options = parser.parse_args(words)
    wanted = [(form, place) for form in FORMATS for place in getattr(options, form.id)]
    if not wanted:
        named = [f"{form.option} OUT{form.ending}" for form in FORMATS]
        parser.error(f"{', '.join(named[:-1])} or {named[-1]} is required, or several")
    if len({os.path.realpath(place) for _form, place in wanted}) < len(wanted):
        parser.error("two outputs cannot go to one place: give each its own name")
    found = load_plan(options.file)
    if not found.buildable:
        print(
            f"This box cannot be built so: “peristyle plan {Path(options.file).name}” says why.",
            file=sys.stderr,
        )
    for form, place in wanted:
        put(place, form.make(found, options.paper, "."), own=Path(options.file))
    return 0
