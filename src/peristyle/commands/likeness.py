"""A box begun from one already made, in other sizes: `peristyle new FILE --like OTHER`."""

import datetime
from collections.abc import Sequence
from pathlib import Path
from typing import Final

from peristyle.commands.console import Parser
from peristyle.commands.reading import MEASURES, Reader, in_range, set_checked
from peristyle.core.errors import PeristyleError
from peristyle.model import addresses, fields
from peristyle.model.again import again
from peristyle.model.design import Rectangle, Regular, Shape, replace
from peristyle.model.job import Job, revised
from peristyle.planning.inside.contents import follows_contents, sized
from peristyle.planning.time.minutes import own_minutes
from peristyle.storage import files

_OF_RECTANGLES: Final = ("inside", "outside")


def _parser() -> Parser:
    parser = Parser(
        prog="peristyle new FILE --like",
        description="Begin a box from one already made: its joints, panels, hardware, tools and notes, in other sizes.",
    )
    parser.add_argument("file", metavar="FILE")
    parser.add_argument("--like", metavar="OTHER", required=True, help="the box to begin from")
    parser.add_argument("--name")
    for measure in MEASURES:
        parser.add_argument(f"--{measure.replace('_', '-')}", metavar="A[xB]")
    parser.add_argument("--height", metavar="H", help="height of the closed box as glued")
    parser.add_argument("--thickness", metavar="T", help="thickness of the sides")
    parser.add_argument("--set", metavar="ADDRESS=VALUE", action="append", default=[], help="any other value")
    return parser


def like_from_words(words: Sequence[str]) -> tuple[Path, Job]:
    """The file to write and the box. Raises PeristyleError that names the option."""
    options = _parser().parse_args(list(words))
    other = files.load(Path(options.like)).job
    job = again(
        other, own_minutes([other]), datetime.datetime.now().astimezone().isoformat(timespec="seconds")
    )
    job = revised(job, name=(options.name or Path(options.file).stem)[:120])
    given = [measure for measure in MEASURES if getattr(options, measure) is not None]
    if given and follows_contents(job.design):
        raise PeristyleError(
            "What it holds gives this box its size: change that with --set inside.contents.1.…"
        )
    if len(given) > 1:
        raise PeristyleError("Say the size once: --inside, --outside, --across-flats or --across-corners.")
    if given:
        job = revised(job, shape=_shape(job, given[0], getattr(options, given[0])))
    if options.height is not None:
        job = set_checked(job, fields.HEIGHT, options.height, "--height")
    if options.thickness is not None:
        thick = Reader(job.design.units).length(options.thickness, "--thickness")
        in_range(job, fields.THICKNESS, thick, "--thickness")
        job = revised(job, thicknesses_mm=(thick,))
    return Path(options.file), sized(with_values(job, options.set))


def _shape(job: Job, measure: str, text: str) -> Shape:
    """The shape of the box in another size, measured as said."""
    shape, option = job.design.form.shape, f"--{measure.replace('_', '-')}"
    sizes = Reader(job.design.units).sizes(text, option)
    if isinstance(shape, Rectangle) and measure in _OF_RECTANGLES and len(sizes) in (1, 2):
        return Rectangle(sizes[0], sizes[-1], "inside" if measure == "inside" else "outside")
    if isinstance(shape, Regular) and len(sizes) == 1:
        made: Shape = replace(shape, size_mm=sizes[0], measure=measure)
        return made
    if isinstance(shape, Rectangle | Regular):
        raise PeristyleError(
            f"{option}: this does not size a box of that shape; a rectangle takes --inside AxB."
        )
    raise PeristyleError(
        f"{option}: the sides of that box have lengths of their own: change them with --set."
    )


def with_values(job: Job, pairs: Sequence[str]) -> Job:
    """The box with values set by their addresses. Raises PeristyleError that names the address."""
    for pair in pairs:
        place, equals, text = pair.partition("=")
        if not equals:
            raise PeristyleError(f"--set “{pair[:60]}” is not ADDRESS=VALUE, as in section.feet=yes.")
        job = addresses.put(job, place, text)
    return addresses.sound(job) if pairs else job
