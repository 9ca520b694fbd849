"""The steps in their order, with all that is to be known of each; moved, left out and added to."""

import argparse
from collections.abc import Sequence
from pathlib import Path
from typing import TYPE_CHECKING

from peristyle.commands.console import Parser
from peristyle.core.errors import PeristyleError

if TYPE_CHECKING:
    from peristyle.model.job import Work
    from peristyle.planning.making.step import Step


def _parser() -> Parser:
    parser = Parser(
        prog="peristyle steps",
        description="The steps in their order. With an option the order is changed, if what comes before allows it.",
    )
    parser.add_argument("file")
    parser.add_argument("--move", metavar="STEP", help="do a step at another time")
    parser.add_argument(
        "--before", metavar="STEP", default="", help="right before this one; without it last of all"
    )
    parser.add_argument("--leave-out", metavar="STEP", help="leave a step out")
    parser.add_argument("--put-back", metavar="STEP", help="take a step in again, or to its own place")
    parser.add_argument("--own", metavar="TITLE", help="add a step of your own")
    parser.add_argument("--text", default="", help="how your own step is done")
    parser.add_argument("--long", action="store_true", help="also say what each step comes after, and why")
    return parser


def _check(options: argparse.Namespace, path: Path, work: "Work", steps: "Sequence[Step]") -> None:
    """Raises PeristyleError for options that say nothing without another, and for steps that are not there."""
    if options.before and not (options.move or options.own):
        raise PeristyleError("--before says where a step goes: give --move STEP or --own TITLE too.")
    if options.text and not options.own:
        raise PeristyleError("--text tells of a step of your own: give --own TITLE too.")
    if options.put_back and options.put_back not in {*work.left_out, *(move.step for move in work.moved)}:
        raise PeristyleError(
            f"“{options.put_back[:60]}” was neither left out nor moved: nothing to put back."
        )
    for name in (options.move, options.leave_out, options.before):
        if name and name not in [step.id for step in steps]:
            raise PeristyleError(
                f"“{name[:60]}” is no step of this box: “peristyle steps {path.name}” lists them."
            )


def run(words: list[str]) -> int:
    options = _parser().parse_args(words)
    # Late, so that other commands start without it.
    from peristyle.model import worklist
    from peristyle.model.addresses import sound
    from peristyle.planning.making.order import may_leave_out, may_move
    from peristyle.planning.plan import plan
    from peristyle.storage import files
    from peristyle.words.steps import refused

    path = Path(options.file)
    loaded = files.load(path)
    job, made = loaded.job, plan(loaded.job)
    changed = job
    _check(options, path, job.work, made.steps)
    if options.move:
        found = may_move(made.steps, options.move, options.before)
        if found is not None:
            raise PeristyleError(refused(found, made.job))
        changed = worklist.moved(changed, options.move, options.before)
    if options.leave_out:
        if not may_leave_out(made.steps, options.leave_out):
            raise PeristyleError(f"“{options.leave_out}” cannot be left out: without it the box is not made.")
        changed = worklist.left_out(changed, options.leave_out)
    if options.put_back:
        changed = worklist.put_back(changed, options.put_back)
    if options.own:
        changed = worklist.with_own(changed, options.own, options.text, options.before)
    if changed != job:
        sound(changed)
        files.save(path, changed, loaded.stamp)
        made = plan(changed)
    from peristyle.export.plantext import steps_in_full

    print("\n".join(steps_in_full(made, long=options.long)))
    return 0
