"""The largest box a board gives, for chosen proportions or with the height fixed."""

import itertools
from collections.abc import Sequence
from typing import Final, Literal

from msgspec import Struct

from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import replace
from peristyle.model.job import Job, revised
from peristyle.model.limits import LEAST_MM
from peristyle.planning.cutters import cutter
from peristyle.planning.form.ring import plan_ring
from peristyle.planning.form.slabs import scaled, stretched, two_sizes
from peristyle.planning.section.levels import plan_section
from peristyle.planning.stock.clear import Span, blocked, nearest_clear, shown_faces
from peristyle.planning.stock.wrap import WrapPlan, plan_wrap

Limit = Literal["board length", "board width", "panel", "walls", "marked places"]


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
    """Whether the panels come out of what the strip leaves: beyond its end, beside it, or both.

    What is left is sawn in one of two ways, each a straight cut (common practice): off beyond the strip, over the
    board's whole width, or along the strip, over its whole length. In each part the panels lie one after another.
    """
    panels = [(p.length_mm, p.width_mm) for p in plan_section(job, plan_ring(job)).panels]
    board, kerf = job.stock.board, cutter(job, "rip").least_mm
    along, beyond = board.length_mm - board.end_trim_mm, wrap.spare_mm - kerf
    beside = board.width_mm - wrap.strip_mm - kerf
    ways = (
        ((beyond, board.width_mm), (along - wrap.spare_mm, beside)),
        ((beyond, wrap.strip_mm), (along, beside)),
    )
    return any(_lie(panels, parts, kerf) for parts in ways)


def _lie(panels: Sequence[tuple[float, float]], parts: Sequence[tuple[float, float]], kerf_mm: float) -> bool:
    """Whether panels (length, width) find places one after another in parts (length, width), either way round."""
    choices = [(k, size) for k in range(len(parts)) for size in (0, 1)]
    for chosen in itertools.product(choices, repeat=len(panels)):
        taken = [0.0] * len(parts)
        wide = [0.0] * len(parts)
        for (part, turned), panel in zip(chosen, panels, strict=True):
            taken[part] += panel[turned] + (kerf_mm if taken[part] else 0.0)
            wide[part] = max(wide[part], panel[1 - turned])
        tiny = DEFAULT.length_mm
        if all(
            used <= room[0] + tiny and across <= room[1] + tiny
            for used, across, room in zip(taken, wide, parts, strict=True)
            if used
        ):
            return True
    return not panels


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
    if all(mark.wish != "avoid" for mark in start.stock.board.marks):
        return Largest(found, low, limit)
    return _clear_of_faults(start, low, keep, with_panels, limit)


_STEPS: Final = 400  # sizes tried from the largest down: a cut must just fall on a fault now and then


def _clear_of_faults(
    start: Job, most: float, keep: str | None, with_panels: bool, limit: Limit
) -> Largest | None:
    """The largest box no larger than `most` of which no side lies on a fault, its strip moved clear of them.

    With faults a smaller box need not fit where a larger one does: from the largest down, each size tried, and the
    first that is clear refined upward.
    """
    above = most
    for step in range(_STEPS):
        factor = most * (1.0 - 0.95 * step / _STEPS)
        found = _clear(start, factor, keep, with_panels)
        if found is None:
            above = factor
            continue
        low = factor
        for _ in range(24 if step else 0):
            middle = (low + above) / 2
            better = _clear(start, middle, keep, with_panels)
            low, above = (middle, above) if better is not None else (low, middle)
            found = better or found
        return Largest(found, low, "marked places" if step else limit)
    return None


def _clear(start: Job, factor: float, keep: str | None, with_panels: bool) -> Job | None:
    """The box of this size with its strip clear of all faults, None where there is no such place for it."""
    job = _grown(start, factor, keep)
    if job is None or _fits(job, with_panels) is not None:
        return None
    ring = plan_ring(job)
    wrap = plan_wrap(job, ring)
    faces = shown_faces(job, ring, wrap, plan_section(job, ring))
    move = nearest_clear(blocked(job.stock.board, faces), Span(0.0, max(0.0, wrap.spare_mm)))
    return None if move is None else revised(job, board=replace(job.stock.board, shift_mm=move))


def _full_width(job: Job) -> Job:
    """As high as the board is wide (leaning sides are ripped wider than they are high)."""
    width = max(job.stock.board.width_mm - job.stock.board.low_mm, LEAST_MM)
    upright = revised(job, height_mm=width)
    # What is ripped is affine in the height: slant plus what the edges' lean takes.
    ring = plan_ring(upright)
    heights = [
        (width - (side.rip_mm - side.slant_mm)) * width / side.slant_mm * (1 - 1e-12) for side in ring.sides
    ]
    least = min(heights, default=width)
    return revised(job, height_mm=least) if least > 0 else upright
