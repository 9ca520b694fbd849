"""The largest box a board gives, for chosen proportions or with the height fixed."""

from typing import Literal

from msgspec import Struct

from peristyle.model.design import replace
from peristyle.model.job import Job, revised
from peristyle.planning.form.ring import plan_ring
from peristyle.planning.form.slabs import scaled, stretched, two_sizes
from peristyle.planning.section.levels import plan_section
from peristyle.planning.stock.wrap import WrapPlan, plan_wrap

Limit = Literal["board length", "board width", "panel", "walls"]


class Largest(Struct, frozen=True):
    """The box found, by how much its plan sizes grew, and which limit binds."""

    job: Job
    factor: float
    limit: Limit


def _fits(job: Job, with_panels: bool) -> Limit | None:
    """Which limit a design breaks, None where it fits."""
    ring = plan_ring(job)
    if not ring.stands:
        return "walls"
    wrap = plan_wrap(job, ring)
    if wrap.tiers < 1:
        return "board width"
    if wrap.spare_mm < 0:
        return "board length"
    if with_panels and not _panels_fit(job, wrap):
        return "panel"
    return None


def _panels_fit(job: Job, wrap: WrapPlan) -> bool:
    """Whether the panels come out of what is left beyond the strip's end, one after the other."""
    section = plan_section(job, plan_ring(job))
    board = job.stock.board
    needed = 0.0
    for panel in section.panels:
        short, long = sorted((panel.length_mm, panel.width_mm))
        if short > board.width_mm:
            return False
        needed += job.shop.saw.kerf_mm + (short if long <= board.width_mm else long)
    return needed <= wrap.spare_mm


def _grown(job: Job, factor: float, keep: str | None) -> Job | None:
    """The design with its plan sizes times `factor`; with `keep`, only the other of its two sizes."""
    others = [word for word in two_sizes(job.design.form.shape) if word != keep]
    if keep is None or len(others) != 1:
        return scaled(job, factor)
    shape = stretched(job.design.form.shape, others[0], factor)
    return revised(job, shape=shape) if shape is not None else None


def largest(
    job: Job, *, fixed_height: bool = True, with_panels: bool = False, keep: str | None = None
) -> Largest | None:
    """The largest box of these proportions from the design's board; None where none fits at all.

    The plan sizes grow together; the height stays as it is, or takes the board's whole width when it
    is not fixed; `keep` is the word for one of its two sizes (`two_sizes`) that must stay. Bisection: whatever fits, a
    smaller one fits too.
    """
    start = revised(job, board=replace(job.stock.board, shift_mm=0.0), contents=())
    if not fixed_height:
        start = _full_width(start)
    low, high = 0.0, 1.0
    limit: Limit = "board length"
    while high < 1e5:
        wider = _grown(start, high, keep)
        broken = _fits(wider, with_panels) if wider else "board length"
        if broken not in (None, "walls"):
            limit = broken or limit
            break
        if broken is None:
            low = high
        high *= 2
    for _ in range(48):
        middle = (low + high) / 2
        tried = _grown(start, middle, keep)
        broken = _fits(tried, with_panels) if tried else "board length"
        # Too small for its walls is no limit from above: grow.
        if broken in (None, "walls"):
            low = middle
        else:
            high, limit = middle, broken
        if high - low < 1e-10 * high:
            break
    found = _grown(start, low, keep)
    if found is None or low <= 0 or _fits(found, with_panels) is not None:
        return None
    return Largest(found, low, limit)


def _full_width(job: Job) -> Job:
    """As high as the board is wide (leaning sides are ripped wider than they are high)."""
    width = job.stock.board.width_mm
    upright = revised(job, height_mm=width)
    # What is ripped is affine in the height: slant plus what the edges' lean takes.
    ring = plan_ring(upright)
    heights = [
        (width - (side.rip_mm - side.slant_mm)) * width / side.slant_mm * (1 - 1e-12) for side in ring.sides
    ]
    least = min(heights, default=width)
    return revised(job, height_mm=least) if least > 0 else upright
