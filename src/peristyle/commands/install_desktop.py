"""The desktop menu and the file type."""

from peristyle.commands.console import Parser


def run(words: list[str]) -> int:
    parser = Parser(
        prog="peristyle install-desktop",
        description="Add Peristyle to your desktop's menu and teach it the file type.",
    )
    parser.add_argument("--remove", action="store_true", help="take it out again")
    options = parser.parse_args(words)
    from peristyle.desktop import install, remove

    for line in remove() if options.remove else install():
        print(line)
    return 0
