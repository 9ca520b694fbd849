"""Every address a design can have."""

from peristyle.commands.console import Parser, print_json


def run(words: list[str]) -> int:
    parser = Parser(
        prog="peristyle addresses",
        description="Every address a design can have: its words, unit, limits and what a new part begins with.",
    )
    parser.add_argument("--json", action="store_true")
    options = parser.parse_args(words)
    # Late, so that other commands start without it.
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
