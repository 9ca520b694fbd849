"""Stock made ready and ripped: planing, the strip, the trimmed end."""

import itertools
import math
from collections.abc import Iterator, Sequence
from typing import Final

from peristyle.core.conventions import tilt_setting
from peristyle.model.design import replace
from peristyle.model.job import Job
from peristyle.model.tools import Thicknesser, named
from peristyle.planning.cutters import cutter, saw_passes
from peristyle.planning.form.ring import RingPlan, SidePlan
from peristyle.planning.making.machine import creep_of
from peristyle.planning.making.setting import (
    SAME_SETTING,
    fence,
    height,
    off_the_end,
    same,
    thickness,
    tilt,
    width,
)
from peristyle.planning.making.step import Part, Step, make
from peristyle.planning.stock.laying import SURFACING_MM, Run
from peristyle.planning.stock.wrap import WrapPlan


def letters(sides: Sequence[SidePlan]) -> str:
    """The sides' letters in a list; many that follow each other by the first and the last."""
    if len(sides) > _MANY and all(b.index == a.index + 1 for a, b in itertools.pairwise(sides)):
        return f"{sides[0].name} to {sides[-1].name}"
    return ", ".join(side.name for side in sides)


def ids(sides: Sequence[SidePlan], word: str) -> tuple[str, ...]:
    """The sides' pieces, of the box or of a liner."""
    return tuple(f"{word}.{side.name}" for side in sides)


def together(sides: Sequence[SidePlan]) -> str:
    """The sides as a step's id names them."""
    return "_".join(side.name for side in sides)


def part_of(word: str) -> Part:
    """Whose sides they are."""
    known: dict[str, Part] = {"liner": "liner", "strip": "strip", "fillet": "fillet", "tray": "tray"}
    return known.get(word, "box")


_MANY: Final = 6  # more letters than this are told as a run


def leaf_mm(job: Job, thick_mm: float) -> float | None:
    """How thick a leaf is sawn for sides so thick, None where the board does not give two."""
    kerf = cutter(job, "resaw").least_mm
    leaf = thick_mm + SURFACING_MM
    return leaf if 2 * leaf + kerf <= job.stock.board.thickness_mm + 1e-9 else None


def planing(job: Job, ring: RingPlan) -> Iterator[Step]:
    """The whole board to the thickest of its sides, where it is thicker; before it resawn, where it is to be."""
    thickest = max((side.thickness_mm for side in ring.sides), default=0.0)
    book = job.stock.board.method == "book"
    leaf = leaf_mm(job, thickest) if job.stock.board.resaw or book else None
    ready = leaf if leaf is not None else job.stock.board.thickness_mm
    if leaf is not None:
        yield _resawn(job, ring, leaf)
    if ready > thickest:
        yield _planed(job, "plane", ring.sides, thickest, ready - thickest)


_PAST_HALF_MM: Final = 3.0  # how far two cuts from both edges run past the middle (our rule)


def _resawn(job: Job, ring: RingPlan, leaf: float) -> Step:
    """The board sawn into two leaves: on the table saw in two passes where the blade is lower than the board."""
    own, book, high = cutter(job, "resaw"), job.stock.board.method == "book", job.stock.board.width_mm
    passes = max(1, saw_passes(job)) if own.tool == "table_saw" else 1
    up = min(job.shop.table.blade_high_mm, high / 2 + _PAST_HALF_MM) if passes == 2 else high
    way = "two" if passes == 2 else own.tool
    step = make(
        "resaw", ids(ring.sides, "side"), lies="on_edge", cutter=own,
        settings=(fence(leaf), *((height(up),) if passes == 2 else ())), passes=passes,
        says=(*(("resaw.triangle",) if book else ()), f"resaw.{way}", "resaw.book" if book else "resaw.kept"),
        numbers={"leaf_mm": leaf, "high_mm": high, "blade_mm": up},
    )  # fmt: skip
    if passes == 1:
        return step
    told = ("not_through" if key == "guard" else key for key in step.cautions)
    return replace(step, cautions=tuple(told))


def thinning(job: Job, ring: RingPlan) -> Iterator[Step]:
    """Sides thinner than the thickest of their board, once they are parted: nothing planes a stretch of a strip."""
    thickest = max((side.thickness_mm for side in ring.sides), default=0.0)
    for thick in sorted(
        {side.thickness_mm for side in ring.sides if side.thickness_mm < thickest}, reverse=True
    ):
        whom = [side for side in ring.sides if side.thickness_mm == thick]
        yield _planed(job, "thin", whom, thick, thickest - thick)


def _planed(job: Job, operation: str, sides: Sequence[SidePlan], thick: float, off: float) -> Step:
    """So much planed off, down to a thickness, in light passes where the maker's tool takes no more."""
    chosen = named(job.shop.tools, job.shop.uses.plane)
    own = chosen if isinstance(chosen, Thicknesser) else None
    light = math.ceil(off / own.pass_mm - 1e-9) if own else 1
    whole = operation == "plane"
    says = ["plane.all" if whole else "thin", *((f"{operation}.light",) if own else ())]
    numbers = {"off_mm": off, "lights": float(light), "light_mm": off / max(1, light)}
    return make(
        operation, ids(sides, "side"), *(() if whole else (together(sides),)), tool=own.works if own else "planer",
        settings=(thickness(thick),),
        tool_name=own.name if own else "", says=says, numbers=numbers, names={"sides": letters(sides)},
        passes=max(1, light) * (1 if whole else len(sides)),
    )  # fmt: skip


def rips(job: Job, ring: RingPlan, word: str) -> Iterator[Step]:
    """The strip ripped to height; where sides lean unlike each other, to the widest that any of them needs."""
    if ring.leans_alike:
        step = _rip(job, ring, ring.sides, word)
        yield _from_edge(job, step) if word == "side" else _from_stock(job, ring, step)
        return
    widest = max(ring.sides, key=lambda side: side.rip_mm)
    step = make(
        "rip", ids(ring.sides, word), together(ring.sides), part=part_of(word), lies="show_up",
        cutter=cutter(job, "rip"),
        settings=(width(widest.rip_mm),), title="rip.strip", says=("rip.strip",), names={"side": widest.name},
    )  # fmt: skip
    yield step if word == "side" else _from_stock(job, ring, step)


def _from_stock(job: Job, ring: RingPlan, step: Step) -> Step:
    """With what an inner ring is made of: it has no board in the plan, so its card says how much it takes."""
    cut, creep = cutter(job, "crosscut").least_mm, creep_of(job, ring)
    numbers = {
        "thick_mm": max(side.thickness_mm for side in ring.sides),
        "long_mm": math.fsum(side.blank_mm + 2 * creep + cut for side in ring.sides) + cut,
    }
    return replace(step, says=("rip.stock", *step.says), numbers=step.numbers | numbers)


def _from_edge(job: Job, step: Step) -> Step:
    """With what comes off the board's edge before the strip begins."""
    board = job.stock.board
    if not board.low_mm:
        return step
    says = (
        *step.says,
        *(("rip.rough",) if board.edge_mm else ()),
        *(("rip.across",) if board.across_mm else ()),
    )
    numbers = step.numbers | {"edge_mm": board.edge_mm, "across_mm": board.across_mm}
    return replace(step, says=says, numbers=numbers)


def piece_rips(job: Job, ring: RingPlan, word: str) -> Iterator[Step]:
    """Sides that lean unlike each other, each ripped to its own height and lean."""
    if ring.leans_alike:
        return
    groups: dict[tuple[int, ...], list[SidePlan]] = {}
    for side in ring.sides:
        groups.setdefault(same(side.slope_deg, side.slant_mm), []).append(side)
    for members in groups.values():
        yield _rip(job, ring, members, word)


def _rip(job: Job, ring: RingPlan, sides: Sequence[SidePlan], word: str) -> Step:
    """Both long edges of sides that lean alike, leaning as they do."""
    slope, slant = sides[0].slope_deg, sides[0].slant_mm
    steep = abs(slope)
    lean, on_edge = tilt_setting(steep, job.shop.saw.stop_deg) if steep > SAME_SETTING else (0.0, False)
    some, saw = len(sides) < len(ring.sides), cutter(job, "rip")
    says = ["rip.parallel" if some else "rip.straight"]
    if on_edge:
        says.append("rip.on_edge")
    elif steep > SAME_SETTING:
        says.append("rip.leaning.table" if saw.tool == "band_saw" else "rip.leaning")
    own, (down, other) = ids(sides, word), ("inside", "show") if slope > 0 else ("show", "inside")
    says += ["rip.band_saw"] if saw.tool == "band_saw" else []
    return make(
        "rip", own, together(sides), part=part_of(word), cutter=saw,
        makes=(f"{name}.{edge}" for name in own for edge in ("bottom", "top")),
        lies="on_edge" if on_edge else "inside_up" if slope < 0 else "show_up", edge="bottom",
        settings=(*tilt(lean), width(slant)),
        title="rip.some" if some else "rip", says=says,
        numbers={"lean_deg": steep, "tilt_deg": lean},
        names={"sides": letters(sides), "down": down, "other": other},
        short=some and min(s.blank_mm for s in sides) < job.shop.saw.least_mm,
    )  # fmt: skip


def trim_of(job: Job, run: Run, ring: RingPlan, title: str, names: dict[str, str]) -> Step:
    """What is cut away before a run of a broken wrap: off its board's end, or behind what was cut from it before."""
    off = run.start_mm if title == "trim" else run.skip_mm
    return make(
        "trim", ids([ring.sides[i] for i in run.sides], "side"), cutter=cutter(job, "crosscut"),
        settings=(off_the_end(off),), title=f"{title}.on" if title == "trim" else title,
        says=("on_board", "trim") if title == "trim" else (title,),
        names=names | {"sides": letters([ring.sides[i] for i in run.sides])},
    )  # fmt: skip


def trimming(job: Job, ring: RingPlan, wrap: WrapPlan) -> Iterator[Step]:
    """The board's end cut square, where the strip begins; of a book that of each leaf."""
    board = job.stock.board
    start = board.end_trim_mm + board.shift_mm
    saw = cutter(job, "crosscut")
    if board.method != "book" or not wrap.pieces:
        yield make(
            "trim", ids(ring.sides, "side"), cutter=saw, settings=(off_the_end(start),), says=("trim",)
        )
        return
    # The upper leaf lies turned end for end once the book is open: its strip begins at the far end.
    for way, number in (("along", 2), ("read_back", 1)):
        own = [piece for piece in wrap.pieces if piece.way == way]
        begins = (
            min(p.start_mm for p in own) if way == "along" else board.length_mm - max(p.end_mm for p in own)
        )
        first = ring.sides[own[0].side]
        # Where the first side's inside is the longer, it is the inside that begins there.
        begins -= wrap.creep_mm + max(0.0, -first.back_mm(first.start))
        yield make(
            "trim", ids([ring.sides[p.side] for p in own], "side"), f"leaf_{number}", cutter=saw,
            settings=(off_the_end(begins),), says=("trim.book",), title=f"trim.leaf_{number}",
        )  # fmt: skip
