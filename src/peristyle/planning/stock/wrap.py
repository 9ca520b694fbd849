"""Laying the sides on the board so that the grain runs round the box."""

import math
from typing import Final

from msgspec import Struct

from peristyle.core.lengths import MM_PER_INCH
from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import Design, corner_name, replace, tapers
from peristyle.model.job import Job, revised
from peristyle.model.limits import MAX_MM
from peristyle.model.stock import Board
from peristyle.planning.cutters import cutter
from peristyle.planning.findings import Finding, Fix, Place, reader, shape_changes
from peristyle.planning.form.ring import RingPlan, plan_ring
from peristyle.planning.form.slabs import scaled
from peristyle.planning.making.machine import creep_of
from peristyle.planning.stock.laying import SURFACING_MM, Placed, Run, lay, parting
from peristyle.planning.stock.run_findings import run_findings
from peristyle.planning.stock.way_findings import way_findings

REFINED_MM: Final = 1e-4  # how near to the board's end a fitted strip comes


class WrapPlan(Struct, frozen=True):
    """The strip on the board. `losses_mm[i]` is what the cuts take at corner i on the show face.

    `runs_on[i]` says whether the grain runs over corner i. The strip starts at `start_mm`, `low_mm` up from the
    board's edge. `used_mm` is what one box takes of the board, Σ lengths + all losses,
    without the end trim; `needed_mm` includes the trim. `creep_mm` is what each end keeps to creep up on.
    Where the wrap is broken `runs` are its stretches, and all lengths are those of the sides' own board.
    `tiers` is how many such strips lie above each other, `rows` how many lengths of its strips an upright ring takes.
    """

    order: tuple[int, ...] = ()
    pieces: tuple[Placed, ...] = ()
    losses_mm: tuple[float, ...] = ()
    start_mm: float = 0.0
    used_mm: float = 0.0
    needed_mm: float = 0.0
    spare_mm: float = 0.0
    low_mm: float = 0.0
    strip_mm: float = 0.0
    tiers: int = 0
    rows: int = 1
    runs_on: tuple[bool, ...] = ()
    grain_turn_deg: tuple[float, ...] = ()
    creep_mm: float = 0.0
    runs: tuple[Run, ...] = ()
    findings: tuple[Finding, ...] = ()

    @property
    def end_mm(self) -> float:
        """Where the last cut ends."""
        return self.start_mm + self.used_mm


def plan_wrap(job: Job, ring: RingPlan) -> WrapPlan:
    """The sides on the board, from the trimmed end plus the maker's shift."""
    if not ring.sides:
        return WrapPlan()
    # What no step leaves is not counted either: a bit or a piece on end creeps up on nothing.
    creep = creep_of(job, ring)
    board, sides = job.stock.board, ring.sides
    count = len(sides)
    laid = lay(job, ring, creep)
    start = board.end_trim_mm + board.shift_mm
    plan = WrapPlan(
        order=laid.order,
        creep_mm=creep,
        pieces=laid.pieces,
        losses_mm=laid.losses_mm,
        runs_on=laid.runs_on,
        runs=laid.runs,
        rows=laid.rows,
        start_mm=start,
        used_mm=laid.used_mm,
        needed_mm=board.end_trim_mm + laid.used_mm,
        spare_mm=board.length_mm - start - laid.used_mm,
        low_mm=board.low_mm,
        strip_mm=laid.strip_mm,
        tiers=_tiers(job, ring, laid.strip_mm),
        grain_turn_deg=tuple(
            sides[i].end.miter_deg + sides[(i + 1) % count].start.miter_deg for i in range(count)
        ),
    )
    findings = (
        *_length_findings(job, plan), *_stock_findings(job, ring, plan), *way_findings(job, ring, laid),
        *run_findings(job, ring, laid),
    )  # fmt: skip
    return replace(plan, findings=findings)


def _tiers(job: Job, ring: RingPlan, strip_mm: float) -> int:
    """How many strips lie above each other in the board's width.

    Those that lean alike share their leaning cuts: floor((W − t·tan|s| + k/cos s) ÷ (H/cos s + k/cos s)).
    Source: common practice.
    """
    if job.stock.board.method == "upright":
        return int(strip_mm <= job.stock.board.width_mm - job.stock.board.low_mm + DEFAULT.length_mm)
    room, each = job.stock.board.width_mm - job.stock.board.low_mm, strip_mm
    kerf = cutter(job, "rip").least_mm
    if ring.leans_alike:
        slab, side = ring.slabs[0], max(ring.sides, key=lambda s: s.rip_mm)
        room -= side.rip_mm - side.slant_mm
        each, kerf = side.slant_mm, kerf / slab.cos_slope
    return max(0, int((room + kerf + DEFAULT.length_mm) // (each + kerf)))


def fitting_factor(job: Job, room_mm: float) -> float | None:
    """By how much to scale the plan sizes so that the strip takes just `room_mm` of the board.

    None where no size would do.
    """
    if job.stock.board.method == "upright":
        return None  # its length goes by the height, its width by whole strips
    used = [_used(job, factor) for factor in (1.0, 0.5)]
    if used[0] is None or used[1] is None:
        return None
    factor = factor_for(used[0], used[1], room_mm)
    return factor if factor is None or not tapers(job.design) else _refined(job, factor, room_mm)


def _refined(job: Job, factor: float, room_mm: float) -> float | None:
    """The factor for a box that tapers: its lean changes with its size, so the line only comes near."""
    before, taken = 1.0, _used(job, 1.0)
    for _ in range(12):
        now = _used(job, factor)
        if now is None or taken is None:
            return None
        if now <= room_mm and room_mm - now < REFINED_MM:
            return factor
        if factor == before or now == taken:
            return None
        # A hair under the room, so that the last step is never over it.
        step = (room_mm - REFINED_MM / 2 - now) * (factor - before) / (now - taken)
        before, taken, factor = factor, now, factor + step
        if factor <= 0:
            return None
    return None


def factor_for(full_mm: float, half_mm: float, room_mm: float) -> float | None:
    """The factor at which a strip takes `room_mm`, from what it takes at full and at half size.

    What it takes is affine in the plan sizes, so two lengths give the line exactly. A hair is kept
    back, so that rounding does not put the strip over the end again.
    """
    if full_mm <= half_mm:
        return None
    factor = 1.0 + (room_mm - full_mm) / (2 * (full_mm - half_mm))
    return factor * (1 - 1e-9) if factor > 0.02 else None


def _used(job: Job, factor: float) -> float | None:
    other = scaled(job, factor)
    ring = plan_ring(other) if other else None
    return lay(other, ring, parting(job).creep_mm).used_mm if other and ring and ring.sides else None


def _length_findings(job: Job, plan: WrapPlan) -> list[Finding]:
    fmt, board = reader(job.design), job.stock.board
    if plan.spare_mm >= -DEFAULT.length_mm:
        return []
    short = plan.needed_mm - board.length_mm
    if short <= DEFAULT.length_mm:
        room = fmt.down(max(0.0, -short))
        fix = Fix("slide_back", (("stock.board.shift_mm", room),))
        return [
            Finding(
                "strip_off_end", "stop", Place("board"), {"over_mm": -plan.spare_mm, "room_mm": room}, (fix,)
            )
        ]
    unshifted = ("stock.board.shift_mm", 0.0)
    fixes: list[Fix] = []
    factor = fitting_factor(job, board.length_mm - board.end_trim_mm)
    smaller = scaled(job, factor) if factor is not None else None
    wanted = fmt.up(plan.needed_mm, MM_PER_INCH / 8 if fmt.units == "in" else 1.0)
    numbers = {
        "short_mm": short, "needed_mm": plan.needed_mm, "board_mm": board.length_mm, "wanted_mm": wanted,
    }  # fmt: skip
    if factor is not None:
        numbers |= {"fits_at_factor": factor, "percent": 100 * factor}
    if smaller is not None and factor is not None:
        changes = shape_changes(job.design.form.shape, smaller.design.form.shape)
        fixes.append(Fix("scaled", (*changes, unshifted), {"percent": 100 * factor}))
    saved = _saved_by_squaring(job, plan)
    if board.method == "bevel_direct" and saved >= short:
        fixes.append(Fix("square_first", (("stock.board.method", "square_first"), unshifted)))
    if wanted <= MAX_MM:
        longer = ("stock.board.length_mm", wanted)
        fixes.append(Fix("board_length", (longer, unshifted), {"length_mm": wanted}))
    fixes += may_break(job, plan)
    kind = "smaller" if factor is not None else ""
    return [Finding("board_too_short", "stop", Place("board"), numbers, tuple(fixes), {}, kind)]


def may_break(job: Job, plan: WrapPlan) -> tuple[Fix, ...]:
    """A break in the wrap as a fix whose changes are only searched for once it is tried."""
    board, rack = job.stock.board, job.stock.rack
    good = board.method == "square_first" and not plan.runs and (rack or board.marks)
    return (Fix("break_wrap", ()),) if good else ()


def _saved_by_squaring(job: Job, plan: WrapPlan) -> float:
    if job.stock.board.method != "bevel_direct":
        return 0.0
    square = revised(job, board=replace(job.stock.board, method="square_first"))
    used = _used(square, 1.0)
    return plan.used_mm - used if used is not None else 0.0


def _stock_findings(job: Job, ring: RingPlan, plan: WrapPlan) -> list[Finding]:
    fmt, board = reader(job.design), job.stock.board
    found: list[Finding] = []
    thick = max(side.thickness_mm for side in ring.sides)
    if plan.tiers < 1:
        narrow = plan.strip_mm + board.low_mm - board.width_mm
        wide = fmt.up(plan.strip_mm + board.low_mm, MM_PER_INCH / 8 if fmt.units == "in" else 1.0)
        upright = board.method == "upright"
        lower = None if upright else _height_for(job.design, ring, board.width_mm - board.low_mm)
        fixes = [Fix("board_width", (("stock.board.width_mm", wide),), {"width_mm": wide})]
        if lower is not None:
            least = fmt.down(lower)
            fixes.insert(0, Fix("height", (("form.height_mm", least),), {"height_mm": least}))
        numbers = {"narrow_mm": narrow, "strip_mm": plan.strip_mm, "board_mm": board.width_mm - board.low_mm}
        if board.across_mm and narrow <= board.across_mm + DEFAULT.length_mm:
            fixes.insert(0, Fix("slide_down", (("stock.board.across_mm", 0.0),)))
        kind = "upright" if upright else ""
        found.append(Finding("board_too_narrow", "stop", Place("board"), numbers, tuple(fixes), {}, kind))
    gives = board.sound_thickness_mm
    if gives < thick - DEFAULT.length_mm:
        fix = Fix("sides_thick", (("sides.thickness_mm", (gives,)),), {"thickness_mm": gives})
        numbers = {"thick_mm": thick, "board_mm": gives}
        found.append(Finding("board_too_thin", "stop", Place("board"), numbers, (fix,)))
    running = [i for i, runs in enumerate(plan.runs_on) if runs]
    turned = max(running, key=lambda i: abs(plan.grain_turn_deg[i]), default=None)
    turn = plan.grain_turn_deg[turned] if turned is not None else 0.0
    if turned is not None and abs(turn) > 0.05:
        name = corner_name(turned, len(ring.sides))
        numbers = {"turn_deg": turn, "turned_deg": abs(turn)}
        found.append(Finding("grain_turns", "note", Place("ring"), numbers, (), {"corner": name}))
    return found


def _ripped_mm(height_mm: float, rise_mm: float, thickness_mm: float) -> float:
    """Width to rip a side so high that stands `rise_mm` further out at its top: its slant and what its edges lean."""
    return math.hypot(height_mm, rise_mm) + thickness_mm * abs(rise_mm) / height_mm


def _height_for(design: Design, ring: RingPlan, width_mm: float) -> float | None:
    """The greatest height under the design's own at which every side is ripped from so wide a board.

    A slope given as an angle stays; of a box that tapers the sizes at the top stay, and the slope grows as
    it gets lower, so there may be no such height: None.
    """
    tapering = tapers(design)
    unlike = {(math.tan(math.radians(side.slope_deg)), side.thickness_mm) for side in ring.sides}

    def widest(height: float) -> float:
        return max(
            _ripped_mm(height, (design.form.height_mm if tapering else height) * tan, thick)
            for tan, thick in unlike
        )

    # Convex in the height: the lowest point first, then up to where it is as wide as the board.
    low, high = design.form.height_mm * 1e-3, design.form.height_mm
    for _ in range(60):
        third = (high - low) / 3
        if widest(low + third) < widest(high - third):
            high -= third
        else:
            low += third
    lowest = low
    if widest(lowest) > width_mm:
        return None
    high = design.form.height_mm
    for _ in range(60):
        middle = (low + high) / 2
        low, high = (middle, high) if widest(middle) <= width_mm else (low, middle)
    return low


def with_needed_board(job: Job) -> Job:
    """The job with its board as large as the box needs, where nobody has said how large it is."""
    if not job.stock.as_needed:
        return job
    made: Job = replace(job, stock=replace(job.stock, board=suiting_board(job)))
    return made


def suiting_board(job: Job) -> Board:
    """A board the ring just fits on, for a maker who has not said which: rounded up to 10 mm or ½ in."""
    thick = max(job.design.form.thicknesses_mm)
    if job.stock.board.method == "book":
        thick = 2 * (thick + SURFACING_MM) + cutter(job, "resaw").least_mm
    board = replace(job.stock.board, thickness_mm=thick + job.stock.board.planing_mm)
    plan = plan_wrap(revised(job, board=board), plan_ring(job))
    if not plan.pieces:
        return board

    fmt = reader(job.design)

    def up(value: float) -> float:
        return min(MAX_MM, fmt.up(value, MM_PER_INCH / 2 if fmt.units == "in" else 10.0))

    return replace(
        board, length_mm=up(plan.needed_mm + board.shift_mm), width_mm=up(plan.strip_mm + board.low_mm)
    )
