"""Values of a design changed by their addresses."""

from pathlib import Path
from typing import Final

from peristyle.commands.console import Parser
from peristyle.core.errors import PeristyleError

_SIZES: Final = ("form.length_mm", "form.width_mm", "form.size_mm")


def run(words: list[str]) -> int:
    parser = Parser(
        prog="peristyle set",
        description="Change values of a design, lengths as typed in the window: all of them, or none.",
    )
    parser.add_argument("file")
    parser.add_argument("values", nargs="+", metavar="ADDRESS=VALUE")
    options = parser.parse_args(words)
    # Late, so that other commands start without it.
    from peristyle.model import addresses
    from peristyle.planning.inside.contents import follows_contents
    from peristyle.planning.plan import plan
    from peristyle.planning.stock.wrap import with_needed_board
    from peristyle.storage import files

    path = Path(options.file)
    loaded = files.load(path)
    job, done = loaded.job, []
    for pair in options.values:
        place, equals, text = pair.partition("=")
        if not equals:
            raise PeristyleError(f"“{pair[:60]}” is not ADDRESS=VALUE, as in section.lid.height_mm=30.")
        before = addresses.written(addresses.find(job, place), job)
        job = addresses.put(job, place, text)
        address = addresses.find(job, place)
        done.append(f"{address.id}: {before} → {addresses.written(address, job)}")
    job = with_needed_board(addresses.sound(job))
    files.save(path, job, loaded.stamp)
    print("\n".join(done))
    if follows_contents(job.design) and any(pair.startswith(_SIZES) for pair in options.values):
        print("What it holds gives the ring its size: with inside.contents=0 the sizes set here count.")
    findings = plan(job).findings
    if findings:
        print(f"{len(findings)} finding{'s' if len(findings) > 1 else ''}: “peristyle plan” shows them")
    return 0
