"""Every address a design can have."""

from typing import TYPE_CHECKING

from peristyle.commands.console import Parser, print_json

if TYPE_CHECKING:
    pass


def run(words: list[str]) -> int:
    parser = Parser(
        prog="peristyle addresses",
        description="Every address a design can have: its words, unit, limits and what a new part begins with.",
    )
    parser.add_argument("--json", action="store_true")
    options = parser.parse_args(words)
    # As above.
    from peristyle.model import addresses

    rows = [addresses.described(address) for address in addresses.every()]
    if options.json:
        print_json(rows)
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
