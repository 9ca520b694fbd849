"""Everything that follows from a design."""

from peristyle.commands.console import Parser, load_plan, print_json


def run(words: list[str]) -> int:
    parser = Parser(prog="peristyle plan", description="Everything that follows from a design.")
    parser.add_argument("file")
    parser.add_argument("--json", action="store_true", help="as JSON (docs/plan-json.md)")
    options = parser.parse_args(words)
    from peristyle.export.planjson import as_data
    from peristyle.export.plantext import as_text

    found = load_plan(options.file)
    if options.json:
        print_json(as_data(found))
    else:
        print(as_text(found))
    return 0
