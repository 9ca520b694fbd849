"""Checks of the tools: worked out from what was read, kept in the job's shop, in force in every step."""

from pathlib import Path

from peristyle.commands.console import Parser, print_json
from peristyle.core.clock import stamp
from peristyle.core.errors import PeristyleError


def _parser() -> Parser:
    parser = Parser(
        prog="peristyle setup",
        description="A check of a tool by test pieces: what its scale says too much, kept, and in force from then on. "
        "Without a check: those there are, and what was kept.",
    )
    parser.add_argument("file")
    parser.add_argument("check", nargs="?", help="tilt_pair, tilt_ring, five_cut, stop …")
    parser.add_argument("readings", nargs="*", metavar="VALUE", help="what was read, in the order told")
    parser.add_argument("--tool", default="", metavar="NAME", help="which of the tools, if not the saw")
    parser.add_argument("--try", dest="only", action="store_true", help="only say what it comes to")
    parser.add_argument(
        "--simulated", type=int, metavar="SEED", help="read a simulated saw with hidden errors"
    )
    parser.add_argument("--json", action="store_true", help="as data")
    return parser


def run(words: list[str]) -> int:
    options = _parser().parse_args(words)
    # Late, so that other commands start without it.
    from msgspec import to_builtins

    from peristyle.core.lengths import Format
    from peristyle.devices.saw import SimulatedSaw
    from peristyle.planning.setups import CHECKS, kept, made, worked_out
    from peristyle.storage import files
    from peristyle.words import setups as said

    path = Path(options.file)
    loaded = files.load(path)
    job, fmt = loaded.job, Format(loaded.job.design.units)
    if options.simulated is not None and options.readings:
        raise PeristyleError("Give what was read, or --simulated for a saw to read from: not both.")
    if options.check is None:
        if options.json:
            print_json([to_builtins(one) for one in job.shop.setups])
            return 0
        for kind, check in CHECKS.items():
            reads = ", ".join(said.READS[key] for key in check.reads) + (" …" if check.many else "")
            print(f"{kind}  {said.NAMES[kind]}: {reads}. {said.HOW[kind]}")
        for one in job.shop.setups:
            print(said.line(one, fmt))
        return 0
    known = [one for one in CHECKS if one == options.check]
    if not known:
        raise PeristyleError(f"“{options.check[:24]}” is no check known: {', '.join(CHECKS)}.")
    kind = known[0]
    if options.tool and all(tool.name != options.tool for tool in job.shop.tools):
        names = ", ".join(tool.name for tool in job.shop.tools) or "none"
        raise PeristyleError(f"“{options.tool[:40]}” is none of the tools: {names}.")
    if options.simulated is not None:
        readings = SimulatedSaw(options.simulated).read(kind)
    else:
        readings = tuple(
            _value(text, CHECKS[kind].reads, number, fmt) for number, text in enumerate(options.readings)
        )
    found = worked_out(kind, readings)
    if options.json:
        print_json({"check": kind, "readings": list(readings), **found._asdict()})
    else:
        print(said.result(kind, found, fmt))
    if not options.only:
        when = stamp()
        files.save(path, kept(job, made(kind, options.tool, readings, when)), loaded.stamp)
    return 0


def _value(text: str, reads: tuple[str, ...], number: int, fmt: object) -> float:
    """One reading, by what it is: an angle, a count, or a length in the box's units."""
    from peristyle.core.lengths import Format, parse_angle, parse_count, parse_length

    assert isinstance(fmt, Format)
    key = reads[min(number, len(reads) - 1)]
    negative = text.strip().startswith(("-", "−"))
    bare = text.strip().lstrip("-−") if negative else text
    if key.endswith("_deg"):
        value = parse_angle(bare)
    elif key.endswith("_mm"):
        value = 0.0 if bare.strip() in ("0", "0.0") else parse_length(bare, fmt.units)
    else:
        value = float(parse_count(bare))
    return -value if negative else value
