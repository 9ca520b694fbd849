"""What was measured of a box as it is made: told, typed in, taken back."""

from pathlib import Path
from typing import TYPE_CHECKING, Any

from peristyle.commands.console import Parser, print_json
from peristyle.core.clock import stamp
from peristyle.core.errors import PeristyleError

if TYPE_CHECKING:
    from peristyle.core.lengths import Format
    from peristyle.model.job import Job
    from peristyle.planning.fit.quantities import Quantity


def _parser() -> Parser:
    parser = Parser(
        prog="peristyle measure",
        description="What was measured of a box: side.C.length_mm=182.4. Without values: all there is to measure, in "
        "the order a maker goes round a box, with what is planned.",
    )
    parser.add_argument("file")
    parser.add_argument(
        "values", nargs="*", metavar="NAME=VALUE", help="as typed in the window, in the box's units"
    )
    parser.add_argument("--gauge", default="", help="what it was measured with")
    parser.add_argument(
        "--sure", metavar="VALUE", help="how well it is known: one standard deviation, mm or degrees"
    )
    parser.add_argument(
        "--back", action="append", default=[], metavar="NAME", help="take a measured value back"
    )
    parser.add_argument("--measured", action="store_true", help="only what was measured")
    parser.add_argument("--json", action="store_true", help="as data")
    return parser


def run(words: list[str]) -> int:
    options = _parser().parse_args(words)
    if not options.values and (options.gauge or options.sure):
        raise PeristyleError(
            "--gauge and --sure speak of values: give them too, as in side.A.length_mm=182.4."
        )
    # Late, so that other commands start without it.
    from peristyle.core.lengths import Format
    from peristyle.model.design import replace
    from peristyle.model.progress import taken_back, with_measured
    from peristyle.planning.fit.quantities import known
    from peristyle.planning.plan import plan
    from peristyle.storage import files

    path = Path(options.file)
    loaded = files.load(path)
    job = loaded.job
    there = known(plan(replace(job, measured=())))
    fmt = Format(job.design.units)
    sure = _number(options.sure) if options.sure else None
    when = stamp()
    for text in options.values:
        name, value = _read(text, there, fmt)
        job = with_measured(job, name, value, options.gauge, sure, when)
    for name in options.back:
        if all(one.name != name for one in job.measured):
            raise PeristyleError(f"“{name[:60]}” was not measured: nothing to take back.")
        job = taken_back(job, name)
    if job != loaded.job:
        files.save(path, job, loaded.stamp)
    _told(job, there, fmt, options)
    return 0


def _number(text: str) -> float:
    try:
        value = float(text.replace(",", "."))
    except ValueError as error:
        raise PeristyleError(f"--sure: “{text[:24]}” is no number.") from error
    if not 0 < value <= 100:
        raise PeristyleError("--sure: give a number above 0 and at most 100.")
    return value


def _read(text: str, there: "dict[str, Quantity]", fmt: "Format") -> tuple[str, float]:
    """A name and its value. Raises PeristyleError that says which names there are."""
    import difflib

    from peristyle.core.lengths import parse_angle, parse_length

    name, mark, value = text.partition("=")
    name = name.strip()
    if not mark:
        raise PeristyleError(f"“{text[:40]}”: give NAME=VALUE, as in side.C.length_mm=182.4.")
    if name not in there:
        near = difflib.get_close_matches(name, there, 3, 0.5)
        hint = f" Perhaps {' or '.join(near)}?" if near else ""
        raise PeristyleError(f"“{name[:60]}” is nothing to be measured on this box.{hint}")
    try:
        read = parse_angle(value) if there[name].unit == "deg" else parse_length(value, fmt.units)
    except PeristyleError as error:
        raise PeristyleError(f"{name}: {error}") from error
    return name, read


def _told(job: "Job", there: "dict[str, Quantity]", fmt: "Format", options: Any) -> None:
    from peristyle.planning.fit.quantities import measured, uncertainty
    from peristyle.words.fit import quantity, value

    values = measured(job)
    rows = [(one, values.get(name)) for name, one in there.items()]
    if options.measured or options.values:
        rows = [row for row in rows if row[1] is not None]
    if options.json:
        print_json([
            {"name": one.name, "words": quantity(one), "unit": one.unit, "planned": one.planned,
             "measured": seen.value if seen else None, "gauge": (seen.gauge if seen else "") or one.gauge,
             "uncertainty": uncertainty(one, seen) if seen else one.sure, "when": seen.when if seen else ""}
            for one, seen in rows
        ])  # fmt: skip
        return
    for one, seen in rows:
        planned = "" if one.planned is None else f"planned {value(one, one.planned, fmt)}"
        was = f"measured {value(one, seen.value, fmt)}" if seen else ""
        told = ", ".join(filter(None, (planned, was)))
        print(f"{one.name}  {quantity(one)}: {told or one.gauge}")
    gone = [name for name in values if name not in there]
    if gone:
        print(f"No longer in the plan: {', '.join(gone)}.")
    if not rows:
        print("Nothing was measured yet.")
