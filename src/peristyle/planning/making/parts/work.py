"""What is done to no part alone: marking, trying on scrap, sanding and finishing, in the order of the trade."""

from collections.abc import Iterator

from peristyle.core.conventions import tilt_setting
from peristyle.model.design import Gable, Insert, replace
from peristyle.model.job import Job
from peristyle.planning.form.ring import RingPlan
from peristyle.planning.making.kind import Kind, Phase, Settled
from peristyle.planning.making.ripping import ids, letters
from peristyle.planning.making.setting import SAME_SETTING
from peristyle.planning.making.step import Step, make
from peristyle.reference.machines import USUAL_ANGLES
from peristyle.reference.times import FINISHES


def _steps(plan: Settled) -> Iterator[tuple[Phase, Step]]:
    job, ring, sides = plan.job, plan.ring, ids(plan.ring.sides, "side")
    yield "mark", _mark(plan, sides)
    yield "bevels", _try_bevel(job, ring)
    coats = _coats(job)
    first, lined = job.work.finish == "first", job.design.inside.lining_mm > 0
    if first:
        seats = {groove.seat for groove in plan.section.grooves}
        kept = [f"finish_inside.{seat}s" for seat in ("groove", "rabbet") if seat in seats]
        if not lined:
            inside = make(
                "finish_inside", sides, tool="by_hand", numbers=coats,
                says=("finish_inside", *kept, f"finish.{job.work.coating.kind}"),
            )  # fmt: skip
            yield "finish_inside", _of_its_finish(job, inside)
    if plan.keys.keys:
        yield "sand", make("rough_sand", sides, tool="by_hand", says=("rough_sand",))
    section = job.design.section
    roofed = isinstance(section.cover, Gable)
    level = "level.gable" if roofed else "level"
    yield "last", make("level", sides, tool="by_hand", title=level, says=(level,))
    yield "finish", _of_its_finish(job, make(
        "finish", sides, tool="by_hand", title="finish" if first else "finish.all", numbers=coats,
        says=(
            "finish", "finish.filled" if job.stock.board.sheet else "finish.steamed", f"finish.{job.work.coating.kind}",
            *(("finish.lined",) if lined else () if first else ("finish.inside",)),
            *(("finish.mask",) if section.openings else ()), *(("finish.parts",) if _comes_later(job) else ()),
            "finish.rags",
        ),
    ))  # fmt: skip


def _comes_later(job: Job) -> bool:
    """Whether something goes in once the box is finished."""
    inside, section = job.design.inside, job.design.section
    inset = isinstance(section.cover, Insert) and section.cover.what == "lattice"
    return inset or any(part is not None for part in (inside.dividers, inside.tray, section.false_floor))


def _coats(job: Job) -> dict[str, float]:
    """How many coats there are and how many hours lie between two."""
    own, usual = job.work.coating, FINISHES[job.work.coating.kind]
    return {
        "coats": float(own.coats if own.coats is not None else usual.coats),
        "wait_h": own.wait_h if own.wait_h is not None else usual.wait_h,
    }


def _of_its_finish(job: Job, step: Step) -> Step:
    """A step of finishing with the cautions of the finish that was chosen: only oil sets rags on fire, and wax is
    not sprayed.
    """
    kind = job.work.coating.kind
    told = [key for key in step.cautions if key != "rags" or kind == "oil"]
    wiped = {"fumes": "air"} if kind == "wax" else {}
    made: Step = replace(step, cautions=tuple(wiped.get(key, key) for key in told))
    return made


def _mark(plan: Settled, sides: tuple[str, ...]) -> Step:
    """The board marked before anything is cut."""
    order = letters([plan.ring.sides[index] for index in plan.wrap.order])
    board = plan.job.stock.board
    lies = [key for key, on in (("mark.back", board.face == "back"), ("mark.turned", board.turned)) if on]
    order_says = {
        "book": "mark.book",
        "upright": "mark.across",
        "none": "mark.any",
        "flip_shared": "mark.flip",
    }.get(board.method, "mark.letters")
    alike = {
        "lean": [s for s in plan.ring.sides if _one_way(s.start.bevel_deg, s.end.bevel_deg)],
        "swing": [s for s in plan.ring.sides if _one_way(s.start.miter_deg, s.end.miter_deg)],
    }
    names = {"sides": order} | {f"ends_{way}": letters(which) for way, which in alike.items()}
    unlike = ["mark.unlike", *(f"mark.{way}" for way, which in alike.items() if which), "mark.others"]
    miters = unlike if any(alike.values()) else ["mark.miters"]
    ends = "mark.ends.book" if board.method == "book" else "mark.ends"
    return make(
        "mark", sides, tool="by_hand", says=(ends, *lies, order_says, *miters), names=names,
        numbers={"begins_mm": board.end_trim_mm + board.shift_mm},
    )  # fmt: skip


def _one_way(start_deg: float, end_deg: float) -> bool:
    """Whether a side's two ends run the same way: a parallelogram, not a trapezoid."""
    return min(start_deg, end_deg) < -SAME_SETTING and max(start_deg, end_deg) > SAME_SETTING


def _try_bevel(job: Job, ring: RingPlan) -> Step:
    """A pair of scraps cut at the first bevel and held together, before the sides are cut."""
    side = ring.sides[0]
    bevel = abs(side.end.bevel_deg)
    alike = all(abs(abs(s.end.bevel_deg) - bevel) < SAME_SETTING for s in ring.sides)
    on_end = job.shop.saw.kind not in USUAL_ANGLES and tilt_setting(bevel, job.shop.saw.stop_deg)[1]
    past = "try_bevel.edge" if job.shop.saw.kind == "miter_saw" else "try_bevel.end"
    square = abs(bevel - 45.0) < SAME_SETTING
    pair = "try_bevel" if square else "try_bevel.gauge"
    says = past if on_end else pair if alike else "try_bevel.each"
    corner = ring.corners[0]
    return make(
        "try_bevel", (), says=(says,), tool="scrap",
        numbers={"bevel_deg": bevel, "corner_deg": 2 * (90.0 - bevel)}, names={"corner": corner.name},
    )  # fmt: skip


WORK = Kind("work", steps=_steps)
