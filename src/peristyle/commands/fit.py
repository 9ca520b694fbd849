"""How a ring closes as it was measured, how likely it does at all, what is wrong, and the ways out."""

from dataclasses import dataclass
from pathlib import Path
from typing import TYPE_CHECKING, Any, NamedTuple

from peristyle.commands.console import Parser, print_json
from peristyle.core.errors import PeristyleError

if TYPE_CHECKING:
    from peristyle.core.lengths import Format
    from peristyle.model.job import Job
    from peristyle.planning.fit.diagnose import Diagnosis
    from peristyle.planning.fit.errors import Practice
    from peristyle.planning.fit.half_way import Verdict
    from peristyle.planning.fit.rescue import Found
    from peristyle.planning.fit.ring import Joint
    from peristyle.planning.fit.simulate import Outcome
    from peristyle.planning.plan import Plan


def _parser() -> Parser:
    parser = Parser(
        prog="peristyle fit",
        description="The ring as it was measured: its gaps closed in the ways makers close it, the likeliest cause, "
        "what comes of many boxes, and what is cut already held against the design.",
    )
    parser.add_argument("file")
    parser.add_argument("--way", choices=("rolled", "band", "cauls", "halves"), default="band",
                        help="how the ring is closed")  # fmt: skip
    parser.add_argument(
        "--stop", choices=("one", "each"), default="one", help="one stop for all alike, or one each"
    )
    parser.add_argument(
        "--test", choices=("none", "pair", "ring"), default="none", help="what is cut in scrap first"
    )
    parser.add_argument("--ends", choices=("saw", "shot"), default="saw", help="ends from the saw, or shot")
    parser.add_argument("--gauge", metavar="ANGLE", help="finest step of the gauge the tilt is set by")
    parser.add_argument(
        "--limit", metavar="LENGTH", help="what a joint may be open and still be closed (0.1 mm)"
    )
    parser.add_argument("--boxes", type=int, metavar="N", help="how many boxes are made by chance")
    parser.add_argument("--seed", type=int, default=1, help="of the chance")
    parser.add_argument("--compare", action="store_true", help="other ways of working beside this one")
    parser.add_argument("--json", action="store_true", help="as data")
    return parser


@dataclass(frozen=True)
class _Asked:
    """What is wanted, read."""

    practice: "Practice"
    limit_mm: float
    boxes: int | None
    seed: int
    compare: bool


def _asked(options: Any) -> _Asked:
    from peristyle.core.lengths import parse_angle, parse_length
    from peristyle.planning.fit.errors import LIMIT_MM, Practice

    gauge = parse_angle(options.gauge) if options.gauge else None
    if gauge is not None and gauge <= 0:
        raise PeristyleError("--gauge: give an angle above 0.")
    limit = parse_length(options.limit, "mm") if options.limit else LIMIT_MM
    if limit <= 0:
        raise PeristyleError("--limit: give a length above 0.")
    if options.boxes is not None and not 1 <= options.boxes <= 10_000_000:
        raise PeristyleError("--boxes: give a number from 1 to 10 000 000.")
    practice = Practice(options.stop, options.test, options.ends, options.way, gauge)
    return _Asked(practice, limit, options.boxes, options.seed, options.compare)


def run(words: list[str]) -> int:
    options = _parser().parse_args(words)
    # Late, so that other commands start without it.
    from peristyle.core.lengths import Format
    from peristyle.model.design import replace
    from peristyle.planning.fit.simulate import halves_meet
    from peristyle.planning.plan import plan
    from peristyle.storage import files

    job = files.load(Path(options.file)).job
    asked = _asked(options)
    base = plan(replace(job, measured=()))
    if not base.ring.stands:
        raise PeristyleError("There is no ring to close: “peristyle plan” says why.")
    if asked.practice.glue == "halves" and not halves_meet(base):
        raise PeristyleError(
            "The two halves of this ring do not end in one plane: it cannot be trued in halves."
        )
    found = _worked_out(job, base, asked)
    if options.json:
        print_json(_data(base, asked, found))
    else:
        _told(base, asked, found, Format(job.design.units))
    return 0


class _Found(NamedTuple):
    """All that is to be said."""

    joints: "tuple[Joint, ...]"
    diagnosis: "Diagnosis"
    boxes: "list[tuple[Practice, Outcome]]"
    wrong: "list[Found]"
    seen: "Plan"
    done: "tuple[Verdict, ...]"
    meant: "Plan"  # the box as it was meant, with what was measured


def _worked_out(job: "Job", base: "Plan", asked: _Asked) -> _Found:
    from peristyle.planning.fit.as_made import sides_made, with_measured
    from peristyle.planning.fit.closing import closed
    from peristyle.planning.fit.diagnose import diagnose
    from peristyle.planning.fit.half_way import verdicts
    from peristyle.planning.fit.rescue import troubles_of
    from peristyle.planning.fit.simulate import simulate
    from peristyle.planning.plan import plan

    practice, seen = asked.practice, plan(job)
    way = practice.glue if practice.glue != "halves" else "band"
    ways = [practice, *(_others(practice, base) if asked.compare else [])]
    return _Found(
        closed(base.ring, sides_made(job, base), way, base.job.closing),
        diagnose(with_measured(base, job), practice),
        [(one, simulate(base, one, limit_mm=asked.limit_mm, boxes=asked.boxes, seed=asked.seed)) for one in ways],
        list(troubles_of(job)), seen, verdicts(seen), with_measured(base, job),
    )  # fmt: skip


def _data(base: "Plan", asked: _Asked, found: _Found) -> dict[str, Any]:
    from msgspec import to_builtins

    return {
        "way": asked.practice.glue,
        "corners": [
            {"corner": corner.name, **to_builtins(joint)}
            for corner, joint in zip(base.ring.corners, found.joints, strict=True)
        ],
        "diagnosis": to_builtins(found.diagnosis),
        "simulations": [{"practice": to_builtins(one), **to_builtins(made)} for one, made in found.boxes],
        "found": [one._asdict() for one in found.wrong],
        "done": [to_builtins(one) for one in found.done],
    }


def _told(base: "Plan", asked: _Asked, found: _Found, fmt: "Format") -> None:
    from peristyle.planning.fit.as_cut import steps_done
    from peristyle.planning.fit.quantities import known, out_of_square_deg
    from peristyle.words import fit
    from peristyle.words.steps import title

    print(f"As measured, {fit.WAYS[asked.practice.glue]}:")
    for corner, joint in zip(base.ring.corners, found.joints, strict=True):
        print(f"  {fit.joint(corner.name, joint, fmt)}")
    print("What it likely comes from:")
    for line in fit.diagnosis(found.diagnosis, known(base), fmt):
        print(f"  {line}")
    square = out_of_square_deg(found.meant)
    if square is not None:
        print(f"  {fit.squareness(square, fmt)}")
    print("Many boxes:")
    for one, made in found.boxes:
        if len(found.boxes) > 1:
            print(f"  {fit.practice(one)}:")
        for line in fit.outcome(made, one, asked.limit_mm, fmt):
            print(f"  {'  ' if len(found.boxes) > 1 else ''}{line}")
    if found.wrong:
        print("Wrong, as measured (“peristyle rescue” has the ways out):")
    for wrong in found.wrong:
        print(f"  {fit.found(wrong, fmt)}.")
    named = steps_done(found.seen.job) | {step.id: step for step in found.seen.steps}
    titles = {name: title(step, fmt) for name, step in named.items()}
    for verdict in found.done:
        if verdict.kind != "serves":
            print(fit.verdict(verdict, titles.get(verdict.step, verdict.step), fmt))


def _others(practice: "Practice", base: "Plan") -> "list[Practice]":
    """The ways of working that differ from this one in one thing."""
    from peristyle.planning.fit.errors import compared
    from peristyle.planning.fit.simulate import halves_meet

    return [one for one in compared(practice) if one.glue != "halves" or halves_meet(base)]
