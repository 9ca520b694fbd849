"""Why a board cannot be cut up the way that was chosen, and what that way asks for."""

from collections.abc import Iterator

from peristyle.model.design import House, corner_name
from peristyle.model.job import Job
from peristyle.planning.cutters import cutter
from peristyle.planning.findings import Finding, Fix, Place
from peristyle.planning.form.ring import RingPlan
from peristyle.planning.making.machine import stands_on_end
from peristyle.planning.making.setting import SAME_SETTING
from peristyle.planning.stock.laying import SURFACING_MM, Laid
from peristyle.reference.machines import USUAL_ANGLES

_SQUARE = Fix("square_first", (("stock.board.method", "square_first"),))


def way_findings(job: Job, ring: RingPlan, laid: Laid) -> Iterator[Finding]:
    """What stands against the method of the board, or is to be known of it."""
    match job.stock.board.method:
        case "flip_shared":
            yield from _flip_findings(job, ring)
        case "book":
            yield from _book_findings(job, ring, laid)
        case "upright":
            yield from _upright_findings(job, ring)
        case _:
            return


def _leans(ring: RingPlan) -> bool:
    return any(abs(side.slope_deg) > SAME_SETTING for side in ring.sides)


def _unlike(ring: RingPlan) -> bool:
    """Whether the two ends at any corner are bevelled unlike each other, or an inside is the longer."""
    sides = ring.sides
    pairs = zip(sides, (*sides[1:], sides[0]), strict=True)
    return any(
        abs(a.end.bevel_deg - b.start.bevel_deg) > SAME_SETTING or a.end.bevel_deg < -SAME_SETTING
        or abs(a.thickness_mm - b.thickness_mm) > SAME_SETTING
        for a, b in pairs
    )  # fmt: skip


def _flip_findings(job: Job, ring: RingPlan) -> Iterator[Finding]:
    saw = job.shop.saw
    why = (
        "saw" if saw.kind in USUAL_ANGLES
        else "leaning" if not ring.leans_alike
        else "unlike" if _unlike(ring)
        else "on_end" if stands_on_end(job, ring)
        else ""
    )  # fmt: skip
    if why:
        yield Finding("flip_cannot_be", "stop", Place("board"), {}, (_SQUARE,), {"machine": saw.kind}, why)
        return
    yield Finding("flip_shows_back", "note", Place("board"))


def _book_findings(job: Job, ring: RingPlan, laid: Laid) -> Iterator[Finding]:
    apart = laid.losses_mm[laid.order[-1]]
    lost = cutter(job, "resaw").least_mm + SURFACING_MM
    name = corner_name(laid.order[-1], len(ring.sides))
    numbers = {"apart_mm": apart, "lost_mm": lost}
    kind = "" if laid.runs_on[laid.order[-1]] else "apart"
    yield Finding("book_seams", "note", Place("board"), numbers, (), {"corner": name}, kind)


def _upright_findings(job: Job, ring: RingPlan) -> Iterator[Finding]:
    saw = job.shop.saw
    why = (
        "saw" if saw.kind != "table_saw"
        else "leaning" if _leans(ring)
        else "roof" if isinstance(job.design.form.shape, House)
        else "inside_longer" if any(cut.bevel_deg < -SAME_SETTING for s in ring.sides for cut in (s.start, s.end))
        else "on_end" if stands_on_end(job, ring)
        else ""
    )  # fmt: skip
    if why:
        fixes: tuple[Fix, ...] = (_SQUARE,)
        if why == "saw":
            fixes = (Fix("table_saw", (("shop.saw.kind", "table_saw"),)), _SQUARE)
        yield Finding("upright_cannot_be", "stop", Place("board"), {}, fixes, {"machine": saw.kind}, why)
        return
    section = job.design.section
    if section.bottom is not None or section.top is not None:
        yield Finding("upright_moves", "note", Place("board"))
