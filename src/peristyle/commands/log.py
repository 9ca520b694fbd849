"""The log of a box: told, added to, searched; never changed."""

import os
from collections.abc import Sequence
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import TYPE_CHECKING, Any

from peristyle.commands.console import Parser, print_json, put
from peristyle.core.clock import stamp
from peristyle.core.errors import PeristyleError

if TYPE_CHECKING:
    from peristyle.model.job import Job
    from peristyle.planning.making.step import Step


def _parser() -> Parser:
    parser = Parser(
        prog="peristyle log",
        description="The log of a box as a story. Entries are only ever added; a correction answers an earlier one.",
    )
    parser.add_argument("file", nargs="+", help="the box; with --search as many as wanted")
    parser.add_argument("--add", metavar="TEXT", help="add a note")
    parser.add_argument("--step", default="", metavar="ID", help="which step it is about")
    parser.add_argument(
        "--minutes", type=float, metavar="N", help="minutes of work; with --step the step is done"
    )
    parser.add_argument("--picture", metavar="FILE", help="a photograph for the entry: PNG, JPEG, TIFF, WebP")
    parser.add_argument("--correct", type=int, metavar="N", help="the note corrects entry N")
    parser.add_argument("--by-step", action="store_true", help="step by step instead of by date")
    parser.add_argument("--search", metavar="TEXT", help="entries of all these boxes that say it")
    parser.add_argument("--record", metavar="PDF", help="write the box's record")
    parser.add_argument(
        "--begin", metavar="NEW", help="begin another box like it: settings, set-ups, minutes and notes go with it"
    )  # fmt: skip
    parser.add_argument("--json", action="store_true", help="as data")
    return parser


def run(words: list[str]) -> int:
    options = _parser().parse_args(words)
    # Late, so that other commands start without it.
    from msgspec import to_builtins

    from peristyle.core.lengths import Format
    from peristyle.planning.plan import plan
    from peristyle.storage import files, pictures
    from peristyle.storage.rack import own_folder
    from peristyle.words import log as said

    entry = options.add is not None or options.minutes is not None or bool(options.picture)
    if not entry and (options.step or options.correct is not None):
        raise PeristyleError(
            "--step and --correct say what an entry is about: give --add, --minutes or --picture too."
        )
    if options.search is not None:
        if entry or options.record or options.begin:
            raise PeristyleError("--search only looks: add, print or begin with a second command.")
        return _searched(options)
    if len(options.file) > 1:
        raise PeristyleError("Give one box; several only with --search.")
    path = Path(options.file[0])
    places = pictures.places(path, own_folder() / pictures.NAME)
    loaded = files.load(path)
    job, made = loaded.job, plan(loaded.job)
    if entry:
        with TemporaryDirectory() as held:
            job = _added(options, job, made.steps, Path(held))
            files.save(path, job, loaded.stamp, places=(Path(held), *places))
    if options.record:
        from peristyle.export.record import record

        sheet = record(plan(job), given=lambda name: pictures.read(name, places))
        put(options.record, sheet, own=path)
        return 0
    if options.begin:
        return _begun(options.begin, job, places)
    if options.json:
        print_json([to_builtins(one) for one in job.log])
        return 0
    for line in said.story(job, made.steps, Format(job.design.units), by_step=options.by_step):
        print(line.text)
    print(said.totals(job))
    return 0


def _added(options: Any, job: "Job", steps: "Sequence[Step]", held: Path) -> "Job":
    """The box with an entry more; its photograph is put into the folder `held`."""
    from peristyle.model.design import replace
    from peristyle.model.job import Entry, EntryKind
    from peristyle.model.progress import with_done
    from peristyle.planning.making.asdone import total_of, values_of
    from peristyle.storage import pictures

    known = {step.id: step for step in steps}
    if options.step and options.step not in known:
        raise PeristyleError(f"“{options.step[:60]}” is no step of this box: “peristyle steps” lists them.")
    if options.minutes is not None and not 0 <= options.minutes <= 100_000:
        raise PeristyleError("--minutes: give a number from 0 to 100 000.")
    if options.correct is not None and not 1 <= options.correct <= len(job.log):
        raise PeristyleError(f"--correct: there are {len(job.log)} entries.")
    if options.add is not None and len(options.add) > 2000:
        raise PeristyleError("--add: at most 2000 letters.")
    shot = pictures.keep_photograph(Path(options.picture), held) if options.picture else ""
    corrects = None if options.correct is None else options.correct - 1
    timed = options.step and options.minutes is not None
    kind: EntryKind = "correction" if corrects is not None else "done" if timed else "note"
    about = job.log[corrects].about if corrects is not None else options.step
    new = Entry(stamp(), about, options.add or "", kind, options.minutes, (), shot, corrects)
    if kind == "done":
        step = known[options.step]
        job = with_done(job, step.id, total_of(step), values_of(step))
    made: Job = replace(job, log=(*job.log, new))
    return made


def _begun(name: str, job: "Job", places: "Sequence[Path]") -> int:
    """Another box like this one, in a file of its own."""
    from peristyle.model.again import again
    from peristyle.planning.time.minutes import own_minutes
    from peristyle.storage import files

    if os.path.lexists(name):
        raise PeristyleError(f"“{name}” is there already: give another name.")
    made = again(job, own_minutes([job]), stamp())
    files.save(Path(name), made, places=places)
    print(f"{name}: {made.design.name}, {len(made.log)} notes taken over")
    return 0


def _searched(options: Any) -> int:
    """Every entry of many boxes that has the words, in any of them."""
    from peristyle.core.lengths import Format
    from peristyle.planning.plan import plan
    from peristyle.storage import files
    from peristyle.words import log as said

    wanted, found = options.search.casefold(), 0
    for name in options.file:
        job = files.load(Path(name)).job
        if not job.log:
            continue
        for line in said.searchable(job, plan(job).steps, Format(job.design.units)):
            if wanted in line.casefold():
                found += 1
                print(f"{job.design.name}  {line}")
    if not found:
        print("Nothing is found.")
    return 0
