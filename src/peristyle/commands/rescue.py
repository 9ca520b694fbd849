"""When something is wrong: the ways out, what each costs, and one taken."""

import argparse
from pathlib import Path
from typing import TYPE_CHECKING

from peristyle.commands.console import Parser, print_json
from peristyle.core.errors import PeristyleError

if TYPE_CHECKING:
    from peristyle.core.lengths import Format
    from peristyle.model.job import Job
    from peristyle.planning.fit.rescue import Found, Trouble
    from peristyle.planning.plan import Plan


def _parser() -> Parser:
    parser = Parser(
        prog="peristyle rescue",
        description="The ways out of something that went wrong, the cheapest first. Without a trouble: those there "
        "are, and what the measured values say is wrong.",
    )
    parser.add_argument("file")
    parser.add_argument("trouble", nargs="?", help="what is wrong: short, thin, lid_off …")
    parser.add_argument(
        "--at", default="", metavar="WHERE", help="which side, corner or panel: C, BC, bottom"
    )
    parser.add_argument("--by", metavar="LENGTH", help="by how much")
    parser.add_argument("--take", type=int, metavar="N", help="take way out N, and save it")
    parser.add_argument("--json", action="store_true", help="as data")
    return parser


def _tell_troubles(found: "list[Found]", made: "Plan", fmt: "Format", *, as_data: bool) -> None:
    """What is wrong by what was measured, and every trouble that can be asked about."""
    from peristyle.planning.fit.rescue import ABOUT, TROUBLES, can_be
    from peristyle.words import fit

    if as_data:
        print_json(
            {
                "troubles": dict(fit.TROUBLES),
                "ways": dict(fit.WAYS_OUT),
                "found": [one._asdict() for one in found],
            }
        )
        return
    for wrong in found:
        print(f"{wrong.trouble}  {fit.found(wrong, fmt)}.")
    for key in TROUBLES:
        print(f"{key}  {fit.TROUBLES[key]} ({'the box' if ABOUT[key] == 'box' else 'a ' + ABOUT[key]})")
        print(f"    {fit.WAYS_OUT[key] if can_be(made, key) else fit.no_rescue(made, key)}")


def _asked(options: argparse.Namespace, found: "list[Found]", made: "Plan") -> "tuple[Trouble, str, float]":
    """What is wrong, where and by how much, as far as it is not said by what was measured. Raises PeristyleError."""
    from peristyle.core.lengths import parse_length
    from peristyle.planning.fit.rescue import ABOUT, TROUBLES, can_be, places_of

    trouble = next((key for key in TROUBLES if key == options.trouble), None)
    if trouble is None:
        raise PeristyleError(f"“{options.trouble[:24]}” is no trouble known: {', '.join(TROUBLES)}.")
    if options.at and ABOUT[trouble] == "box":
        raise PeristyleError(f"“{trouble}” is about the whole box: leave out --at.")
    here = [one for one in found if one.trouble == trouble and options.at.upper() in ("", one.where.upper())]
    seen = here[0] if here else None
    where = options.at or (seen.where if seen else "")
    by_mm = parse_length(options.by, made.job.design.units) if options.by else seen.by_mm if seen else 1.0
    if not where and ABOUT[trouble] != "box" and can_be(made, trouble):
        raise PeristyleError(
            f"Say at which {ABOUT[trouble]} with --at: {', '.join(places_of(made, ABOUT[trouble]))}."
        )
    if by_mm <= 0:
        raise PeristyleError("--by: give a length above 0.")
    return trouble, where, by_mm


def run(words: list[str]) -> int:
    options = _parser().parse_args(words)
    if options.trouble is None and (options.at or options.by is not None or options.take is not None):
        raise PeristyleError(
            "Say what is wrong too, as in “short --at C --by 1.5”: without it all troubles are told."
        )
    # Late, so that other commands start without it.
    from msgspec import to_builtins

    from peristyle.core.lengths import Format
    from peristyle.model.addresses import sound
    from peristyle.planning.fit.rescue import can_be, rescues, taken, troubles_of
    from peristyle.planning.plan import plan
    from peristyle.storage import files, pictures
    from peristyle.storage.rack import own_folder
    from peristyle.words import fit

    path = Path(options.file)
    loaded = files.load(path)
    job, fmt = loaded.job, Format(loaded.job.design.units)
    found, made = list(troubles_of(job)), plan(job)
    if options.trouble is None:
        _tell_troubles(found, made, fmt, as_data=options.json)
        return 0
    trouble, where, by_mm = _asked(options, found, made)
    folders = pictures.places(path, own_folder() / pictures.NAME)

    def best(one: "Job", side: int) -> tuple[str, float, tuple[float, float]] | None:
        # Late: the search brings NumPy, and only a side made anew wants it.
        from peristyle.planning.stock.replacing import best_spare
        from peristyle.planning.stock.scored import Pictures

        return best_spare(one, side, Pictures(lambda name: pictures.read(name, folders)).of)

    ways = rescues(job, trouble, where, by_mm, best) if can_be(made, trouble) else ()
    if options.take is not None:
        if not 1 <= options.take <= len(ways):
            raise PeristyleError(f"--take: there are {len(ways)} ways out.")
        one = ways[options.take - 1]
        files.save(path, sound(taken(job, one, fit.own_steps(one, fmt))), loaded.stamp)
        print(f"Taken: {fit.rescue(one, fmt)}")
        return 0
    if options.json:
        print_json(
            [{"words": fit.rescue(one, fmt), "weight": one.weight, **to_builtins(one)} for one in ways]
        )
        return 0
    for number, one in enumerate(ways, 1):
        print(f"{number}  {fit.rescue(one, fmt)}")
    if not ways:
        print(fit.no_rescue(made, trouble))
    return 0
