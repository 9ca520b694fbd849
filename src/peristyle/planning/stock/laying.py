"""Where each side lies on the board, by the way it is cut up: what the cuts take, and over which corners grain runs.

The board lies on the bench show face up: x along it from the trimmed end, y across it from the straight edge.
"""

import math
from collections.abc import Sequence
from typing import Final, Literal, NamedTuple

from msgspec import Struct

from peristyle.core.planes import Point
from peristyle.model.design import replace
from peristyle.model.job import Job
from peristyle.model.stock import Method
from peristyle.planning.cutters import cutter
from peristyle.planning.form.ring import RingPlan, SidePlan
from peristyle.planning.making.setting import SAME_SETTING
from peristyle.wood.looks import Plane

SURFACING_MM: Final = (
    1.0  # what comes off a resawn leaf until it is flat, half of it off either face (common practice)
)
ALONG: Final = (
    "square_first",
    "bevel_direct",
)  # ways that leave one closing corner, whose place can be searched
# Ways whose strip can start anywhere, each start scored.
SEARCHED: Final = (*ALONG, "flip_shared", "book", "upright")
PARTED_FIRST: Final = ("flip_shared", "upright")  # there is no strip in which all inside faces lie one way
SEAM_MM: Final = (
    1.0  # a book's two halves may differ by this much before its closing corner is no longer a seam
)

Way = Literal["along", "read_back", "turned_over", "upright"]


class Placed(Struct, frozen=True):
    """One side on the board: the stretch it takes of the board's length, and where and how its face lies.

    `origin_mm` and `y_mm` are where the bottom start corner of the show face lies. `way`: along the board; `read_back`,
    along it the other way round (the upper leaf of a book); `turned_over`, its show face down and its bottom edge up
    the board; `upright`, its bottom edge across the board. `show` and `inside` are the planes of the board that its
    faces are cut from; `board` is the name of that board on the rack, empty for the sides' own.
    """

    side: int
    start_mm: float
    end_mm: float
    origin_mm: float
    y_mm: float = 0.0
    way: Way = "along"
    show: Plane = "face"
    inside: Plane = "under"
    board: str = ""

    def on(self, point: Point) -> Point:
        """A point of the side's own frame (along its bottom edge, up its face), on the board."""
        x, y = point
        match self.way:
            case "along":
                return (self.origin_mm + x, self.y_mm + y)
            case "read_back":
                return (self.origin_mm - x, self.y_mm + y)
            case "turned_over":
                return (self.origin_mm + x, self.y_mm - y)
            case _:
                return (self.origin_mm - y, self.y_mm + x)


def in_strip(job: Job, ring: RingPlan) -> bool:
    """Whether what runs along all sides can be cut in the long strip, before it is cut up."""
    return ring.leans_alike and ring.thick_alike and job.stock.board.method not in PARTED_FIRST


class Parting(NamedTuple):
    """How pieces are parted from the strip: by which method, with what kerf, with what left to creep up on."""

    method: Method
    kerf_mm: float
    creep_mm: float


class Run(Struct, frozen=True):
    """Sides that lie one after the other on one board, `board` its name on the rack, empty for the sides' own.

    `skip_mm` is what is cut away before the first of them; the strip of it begins at `start_mm` and ends, the last cut
    counted, at `end_mm` along the board.
    """

    board: str
    sides: tuple[int, ...]
    skip_mm: float
    start_mm: float
    end_mm: float


class Laid(NamedTuple):
    """All sides on the board.

    `order` is that of the cuts, `losses_mm[i]` what they take at corner i on the show face, `runs_on[i]` whether
    the grain runs over that corner. `used_mm` is what one box takes of the board's length, `strip_mm` what must be
    there of its width; `rows` how many lengths of the strips an upright ring takes.
    """

    order: tuple[int, ...]
    pieces: tuple[Placed, ...]
    losses_mm: tuple[float, ...]
    runs_on: tuple[bool, ...]
    used_mm: float
    strip_mm: float
    rows: int = 1
    runs: tuple[Run, ...] = ()


def parting(job: Job) -> Parting:
    """How this job parts its pieces, with all that the maker would leave to creep up on."""
    board = job.stock.board
    bevelled = board.method in ("bevel_direct", "flip_shared")
    use: Literal["rip", "crosscut"] = "rip" if board.method == "upright" else "crosscut"
    kerf = job.shop.saw.kerf_mm if bevelled else cutter(job, use).least_mm
    return Parting(board.method, kerf, board.creep_mm)


def stretches(job: Job) -> bool:
    """Whether the ring may be let grow a little: there is one closing corner, and it alone moves."""
    return job.stock.board.method in ALONG and not job.breaks


def cutting_order(job: Job) -> tuple[int, ...]:
    """Sides in the order they lie: the first after the closing corner comes first."""
    count = job.design.side_count
    return tuple((job.closing + 1 + i) % count for i in range(count))


def losses_of(how: Parting, sides: Sequence[SidePlan], closing: int) -> tuple[float, ...]:
    """What the cuts at each corner take of the show face, the strip opened at the closing corner."""
    count = len(sides)
    return tuple([
        loss_at(how, sides[i], sides[(i + 1) % count], apart=i == closing) for i in range(count)
    ])  # fmt: skip


def loss_at(how: Parting, first: SidePlan, second: SidePlan, *, apart: bool = False) -> float:
    """What the cuts between two neighbours take of the show face (mm).

    One kerf, crosscut along the end's own line, and what is left to creep up on; `bevel_direct`: two opposite bevel
    cuts whose kerfs cross at the show face. Where a bevel leans the other way (the inside is longer) the back
    decides, and the gap grows by what it needs: both backs, where the two ends lie `apart` at the strip's own ends.
    """
    ends = (first.end, second.start)
    kerf = 0.0
    for cut in ends:
        along = math.cos(math.radians(cut.miter_deg))
        if how.method == "bevel_direct":
            along *= math.cos(math.radians(cut.bevel_deg))
        kerf = max(kerf, how.kerf_mm / along)
    backs = [first.back_mm(first.end), second.back_mm(second.start)]
    if how.method == "bevel_direct":  # both are cut in wood as thick as the thicker, and planed after
        thick = max(first.thickness_mm, second.thickness_mm)
        backs = [back * thick / side.thickness_mm for back, side in zip(backs, (first, second), strict=True)]
    overhang = (
        max(0.0, -sum(backs))
        if how.method == "bevel_direct" and not apart
        else sum(max(0.0, -back) for back in backs)
    )
    return kerf + 2 * how.creep_mm + overhang


def strip_mm(how: Parting, sides: Sequence[SidePlan], closing: int) -> float:
    """What the sides and all the cuts take of the length of one strip (mm)."""
    return math.fsum(s.reach_mm[1] - s.reach_mm[0] for s in sides) + math.fsum(losses_of(how, sides, closing))


def lay(job: Job, ring: RingPlan, creep_mm: float) -> Laid:
    """The sides on the board, by the job's method; where that method cannot be, as far as it goes."""
    how = parting(job)._replace(creep_mm=creep_mm)
    start = job.stock.board.end_trim_mm + job.stock.board.shift_mm
    low = job.stock.board.low_mm
    match how.method:
        case "flip_shared":
            return _flipped(job, ring, how, start, low)
        case "book":
            return _book(job, ring, how, start, low)
        case "upright":
            return _upright(job, ring, how, start, low)
        case _:
            return _along(job, ring, how, start, low)


def _ripped(ring: RingPlan) -> float:
    return max(side.rip_mm for side in ring.sides)


def _along(job: Job, ring: RingPlan, how: Parting, start: float, low: float) -> Laid:
    """One after the other along the board, from the first after the closing corner; with no grain to match, alike
    ones together.
    """
    order, sides = cutting_order(job), ring.sides
    if how.method == "none":
        order = tuple(sorted(order, key=lambda i: -round(sides[i].stop_mm, 2)))
    count = len(order)
    losses = losses_of(how, sides, order[-1])
    if how.method == "none":
        between = [
            loss_at(how, sides[a], sides[b], apart=n == count - 1)
            for n, (a, b) in enumerate(zip(order, order[1:] + order[:1], strict=True))
        ]
        losses = tuple(between[order.index(i)] for i in range(count))
    if job.breaks and how.method == "square_first":
        return _broken(job, ring, how, order, start)
    pieces = _in_line(how, [sides[i] for i in order], [losses[i] for i in order], start, low)
    used = math.fsum(p.end_mm - p.start_mm for p in pieces) + math.fsum(losses)
    runs = tuple(how.method != "none" and i != order[-1] for i in range(count))
    return Laid(order, pieces, losses, runs, used, _ripped(ring))


def _in_line(
    how: Parting, sides: Sequence[SidePlan], losses: Sequence[float], start: float, low: float
) -> tuple[Placed, ...]:
    # Where the first piece's inside is the longer, it is the inside that starts at the trimmed end.
    x = start + how.creep_mm + max(0.0, -sides[0].back_mm(sides[0].start))
    pieces = []
    for side, loss in zip(sides, losses, strict=True):
        least, most = side.reach_mm
        pieces.append(Placed(side.index, x, x + most - least, x - least, low))
        x += most - least + loss
    return tuple(pieces)


def _broken(job: Job, ring: RingPlan, how: Parting, order: tuple[int, ...], start: float) -> Laid:
    """Run by run, each on its board behind what was cut from that before."""
    sides, count, breaks = ring.sides, len(order), job.breaks
    losses = tuple(
        loss_at(how, sides[i], sides[(i + 1) % count], apart=i == order[-1] or i in breaks)
        for i in range(count)
    )
    known = {board.name: board for board in job.stock.rack}
    reached: dict[str, float] = {}
    runs: list[Run] = []
    pieces: list[Placed] = []
    for wanted, skip, some in _runs(job, order):
        name, board = (wanted, known[wanted]) if wanted in known else ("", job.stock.board)
        begin = reached.get(name, 0.0) + skip if runs else start
        own = _in_line(how, [sides[i] for i in some], [losses[i] for i in some], begin, board.low_mm)
        pieces += [replace(piece, board=name) for piece in own]
        reached[name] = own[-1].end_mm + losses[some[-1]]
        runs.append(Run(name, some, skip, begin, reached[name]))
    runs_on = tuple(i not in breaks and i != order[-1] for i in range(count))
    return Laid(
        order, tuple(pieces), losses, runs_on, reached.get("", start) - start, _ripped(ring), runs=tuple(runs)
    )


def _runs(job: Job, order: tuple[int, ...]) -> list[tuple[str, float, tuple[int, ...]]]:
    """The board each run lies on, what is cut away of it first, and the sides, in cutting order."""
    found: list[tuple[str, float, list[int]]] = [("", 0.0, [])]
    for before, index in zip((None, *order), order, strict=False):
        broken = job.breaks.get(before) if before is not None else None
        if broken is not None:
            found.append((broken.board, broken.skip_mm, []))
        found[-1][2].append(index)
    return [(name, skip, tuple(some)) for name, skip, some in found]


def _flipped(job: Job, ring: RingPlan, how: Parting, start: float, low: float) -> Laid:
    """Every cut serves two pieces, and every other piece shows the board's back, its bottom edge up the board.

    Turned about the board's length a cut stays as it is seen from either piece, so the next piece begins where the
    last one's inside ends at its top edge: that is the corner which comes to lie under its own first one.
    """
    order, sides = cutting_order(job), ring.sides
    slots = [
        how.kerf_mm / math.cos(math.radians(side.end.bevel_deg)) / math.cos(math.radians(side.end.miter_deg))
        for side in sides
    ]
    pieces: list[Placed] = []
    origin = start - sides[order[0]].reach_mm[0]
    for number, index in enumerate(order):
        side = sides[index]
        least, most = side.reach_mm
        about = (index, origin + least, origin + most, origin)
        inside = side.inner_face or side.outer_face
        if number % 2 == 0:
            pieces.append(Placed(*about, low))
        else:  # leaning edges stay where they are: the section is the same either way up
            pieces.append(Placed(*about, low + inside[0][1] + side.slant_mm, "turned_over", "under", "face"))
        origin += inside[2][0] + slots[index]
    used = max(piece.end_mm for piece in pieces) + slots[order[-1]] - start
    return Laid(order, tuple(pieces), tuple(slots), (False,) * len(order), used, _ripped(ring))


def _book(job: Job, ring: RingPlan, how: Parting, start: float, low: float) -> Laid:
    """Half the ring from the lower leaf, the other half from the upper one, read backwards."""
    order, sides = cutting_order(job), ring.sides
    losses = list(losses_of(how, sides, order[-1]))
    lengths = [sides[i].reach_mm[1] - sides[i].reach_mm[0] for i in order]

    def taken(some: Sequence[int]) -> float:
        inner = [losses[i] for i in some[:-1]]
        return math.fsum(lengths[order.index(i)] for i in some) + math.fsum(inner)

    halves = [(order[:m], order[m:]) for m in range(1, len(order))]
    lower, upper = min(halves, key=lambda pair: abs(taken(pair[0]) - taken(pair[1])))
    first, last = sides[lower[0]], sides[lower[-1]]
    ahead = how.creep_mm + max(0.0, -first.back_mm(first.start))
    behind = how.kerf_mm + how.creep_mm + max(0.0, -last.back_mm(last.end))
    seam = start + ahead + max(taken(lower), taken(upper))
    pieces: list[Placed] = []
    x = seam - taken(lower)
    for index in lower:
        least, most = sides[index].reach_mm
        pieces.append(Placed(index, x, x + most - least, x - least, low, "along", "leaf_2", "under"))
        x += most - least + losses[index]
    x = seam
    for index in upper:
        least, most = sides[index].reach_mm
        pieces.append(Placed(index, x - (most - least), x, x + least, low, "read_back", "leaf_1", "face"))
        x -= most - least + losses[index]
    apart = abs(taken(lower) - taken(upper))
    losses[lower[-1]], losses[upper[-1]] = 0.0, apart
    runs = [True] * len(order)
    runs[upper[-1]] = apart <= SEAM_MM
    return Laid(order, tuple(pieces), tuple(losses), tuple(runs), seam + behind - start, _ripped(ring))


def alike(a: SidePlan, b: SidePlan) -> bool:
    """Whether two sides come from strips that are ripped and bevelled alike."""
    pairs = (
        (a.outside_mm, b.outside_mm), (a.start.bevel_deg, b.start.bevel_deg), (a.end.bevel_deg, b.end.bevel_deg),
        (a.thickness_mm, b.thickness_mm),
    )  # fmt: skip
    return all(abs(x - y) < SAME_SETTING for x, y in pairs)


def strips_of(order: Sequence[int], sides: Sequence[SidePlan]) -> tuple[int, ...]:
    """By how many strips side by side an upright ring can be made: what lies end to end in a strip must be alike."""
    count = len(order)
    return tuple(
        n for n in range(1, count + 1)
        if all(alike(sides[order[k]], sides[order[k % n]]) for k in range(count))
    )  # fmt: skip


def _upright(job: Job, ring: RingPlan, how: Parting, start: float, low: float) -> Laid:
    """Strips side by side across the board's width, the grain up the sides; as many lengths as it takes."""
    order, sides = cutting_order(job), ring.sides
    losses = losses_of(how, sides, order[-1])
    room = job.stock.board.width_mm - low
    across = cutter(job, "crosscut").least_mm
    high = ring.height_mm

    def wide(n: int) -> float:
        some = order[:n]
        ends = sum(max(0.0, -back) for back in (
            sides[some[0]].back_mm(sides[some[0]].start), sides[some[-1]].back_mm(sides[some[-1]].end)))  # fmt: skip
        inner = math.fsum(losses[i] for i in some[:-1])
        return math.fsum(sides[i].outside_mm for i in some) + inner + 2 * how.creep_mm + ends

    known = strips_of(order, sides)
    fitting = [n for n in known if wide(n) <= room + 1e-6]
    strips = fitting[-1] if fitting else known[0]
    rows = math.ceil(len(order) / strips)
    pieces = []
    for row in range(rows):
        some = order[row * strips : (row + 1) * strips]
        x = start + row * (high + across)
        y = low + how.creep_mm + max(0.0, -sides[some[0]].back_mm(sides[some[0]].start))
        for index in some:
            pieces.append(Placed(index, x, x + high, x + high, y, "upright"))
            y += sides[index].outside_mm + losses[index]
    runs = [True] * len(order)
    for row in range(1, rows + 1):
        runs[order[min(row * strips, len(order)) - 1]] = False
    taken = tuple(loss if on else 0.0 for loss, on in zip(losses, runs, strict=True))
    return Laid(order, tuple(pieces), taken, tuple(runs), rows * (high + across), wide(strips), rows)
