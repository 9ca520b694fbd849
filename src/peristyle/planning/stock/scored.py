"""How well every corner matches wherever the strip lies, by the way the board is cut up.

Sides that lie along a board are compared as they are read: the upper leaf of a book backwards, from its own inside; a
side that is turned over from the board's other face; one from another board from that one, where it stays. Sides that
stand across a board's width are compared over its length. Slow beside the plan, since it looks at pictures.
"""

import math
from collections.abc import Sequence
from threading import Lock
from typing import TYPE_CHECKING, Final, NamedTuple

import numpy as np
from msgspec import Struct

from peristyle.model.job import Job
from peristyle.model.stock import Board
from peristyle.planning.form.ring import RingPlan
from peristyle.planning.section.levels import SectionPlan
from peristyle.planning.stock.clear import Span, blocked, placed_at, shown_faces
from peristyle.planning.stock.laying import Placed, Way
from peristyle.planning.stock.looks import look_of, look_of_sides
from peristyle.planning.stock.wrap import WrapPlan
from peristyle.wood import across, match
from peristyle.wood.joined import evened
from peristyle.wood.looks import Given, Look, Plane
from peristyle.wood.match import Edges, Floats, Scale
from peristyle.wood.pictures import Seen, seen

if TYPE_CHECKING:
    from numpy.typing import NDArray

FILM_MM: Final = 30.0  # how much of either side a suggestion shows
_FILM_PX: Final = 2.5  # for each mm
_LEAST_LOSS_MM: Final = 0.5


class Lying(NamedTuple):
    """A ring on a board as it lies: `rack` is the board's number on the rack, None for the sides' own."""

    job: Job
    rack: int | None
    wrap: WrapPlan
    ring: RingPlan
    section: SectionPlan


class Film(Struct, frozen=True):
    """The two strips of a closing corner side by side as they will meet: rows and columns of RGB bytes."""

    rows: int
    columns: int
    pixels: bytes


class Curve(Struct, frozen=True, eq=False):
    """The score of every start on the board as it lies: starts past the trim (mm) and their scores, 0 to 100; the
    stretches that faults block, what the scores are measured by, the scores of all corners where the strip lies now,
    and the corners that decide.
    """

    starts_mm: tuple[float, ...]
    scores: tuple[float, ...]
    blocked: tuple[tuple[float, float], ...]
    scale: Scale
    now: tuple[float, ...]
    decides: tuple[int, ...]

    def closing(self, scores: tuple[float, ...]) -> float:
        """Of the scores of all corners the least of those that decide."""
        return min((scores[k] for k in self.decides), default=0.0)


class Pictures:
    """Boards' faces as they are asked for, the last few kept: they are large, and slow to grow."""

    def __init__(self, given: Given, most: int = 2) -> None:
        self._given, self._most = given, most
        self._lock = Lock()  # two may ask at once, and a picture is grown once
        self._kept: dict[object, Seen] = {}

    def let_go(self) -> None:
        """Keep the last one only: a search is over."""
        with self._lock:
            while len(self._kept) > 1:
                self._kept.pop(next(iter(self._kept)))

    def of(self, board: Board) -> Seen:
        """The board's face as it lies."""
        return self._of(look_of(board), "face", board)

    def plane(self, job: Job, plane: Plane, other: Board | None = None) -> Seen:
        """A plane that the sides are cut from, their board as it lies, or another that some of them come from."""
        return self._of(look_of_sides(job, other), plane, other or job.stock.board)

    def _of(self, look: Look, plane: Plane, board: Board) -> Seen:
        """One picture serves both edges."""
        plain = look._replace(turned=False)
        if plane in ("face", "under"):
            plain = plain._replace(leaves_mm=(0.0, 0.0))
        with self._lock:
            if (plain, plane) not in self._kept:
                while len(self._kept) >= self._most:
                    self._kept.pop(next(iter(self._kept)))
                picture = seen(plain, plane, self._given)
                # The light of a photograph is evened out for comparing, never for showing.
                photographed = bool(board.back_picture if board.face == "back" else board.picture)
                self._kept[plain, plane] = evened(picture) if photographed else picture
            picture = self._kept[plain, plane]
        return Seen(picture.pixels[::-1, ::-1], picture.px_per_mm) if look.turned else picture


class Corners:
    """The corners of a ring on its board, to be scored wherever the strip starts.

    `last` is the corner where the wrap closes; `decides` are those over which the grain does not run on by itself, as
    places in the order of cutting. Starts are from the trimmed end (mm), `room` the least and the most.
    """

    scale: Scale

    def __init__(self, lying: Lying) -> None:
        self.lying = lying
        wrap, board = lying.wrap, lying.job.stock.board
        self.order, self.last, self.shift = wrap.order, wrap.order[-1], board.shift_mm
        self.room = (0.0, wrap.spare_mm + self.shift)
        self.decides: tuple[int, ...] = (len(self.order) - 1,)
        self.faces = shown_faces(lying.job, lying.ring, wrap, lying.section)
        self.blocked = [Span(s.low + self.shift, s.high + self.shift) for s in blocked(board, self.faces)]
        self.pairs = [(k, self.order[(n + 1) % len(self.order)]) for n, k in enumerate(self.order)]

    def apart(self, number: int, shifts: Floats, stretch: float = 0.0) -> Floats:
        """How unlike the two edges of a corner are at some starts, with the strip longer by `stretch` at its end: that
        moves the last corner alone.
        """
        raise NotImplementedError

    def starts(self, stretch: float = 0.0) -> Floats:
        """Every start there is room for."""
        raise NotImplementedError

    def strips(self, number: int, shift: float, stretch: float = 0.0) -> tuple[Seen, Seen]:
        """The wood before a corner and after it, upright, as the two will meet."""
        raise NotImplementedError

    def ranked(self, stretch: float = 0.0, *, every: bool = False) -> tuple[Floats, Floats]:
        """Every start, and what decides there: the worst of the corners that the grain does not run over, or the
        mean over `every` corner.
        """
        shifts = self.starts(stretch)
        numbers = range(len(self.order)) if every else self.decides
        told = np.stack([self.apart(n, shifts, stretch) for n in numbers])
        made: Floats = np.sqrt((told**2).mean(axis=0)) if every else told.max(axis=0)
        return shifts, made

    def clear(self, shifts: Floats) -> "NDArray[np.bool_]":
        """Which starts keep clear of what is marked."""
        good = np.ones(len(shifts), dtype=bool)
        for span in self.blocked:
            good &= (shifts <= span.low) | (shifts >= span.high)
        return good

    def scores(self, shift: float, stretch: float = 0.0) -> tuple[float, ...]:
        """The score of every corner with the strip there, in the order of the corners round the box."""
        at = np.array([shift], dtype=np.float32)
        told = {k: float(self.scale.score(self.apart(n, at, stretch))[0]) for n, k in enumerate(self.order)}
        return tuple(told[k] for k in sorted(told))

    def curve(self, *, every: bool = False) -> Curve:
        """The score of every start, as they decide."""
        shifts, apart = self.ranked(every=every)
        scores = self.scale.score(apart)
        return Curve(
            tuple(float(s) for s in shifts), tuple(float(s) for s in scores),
            tuple((s.low, s.high) for s in self.blocked), self.scale, self.scores(self.shift),
            tuple(self.order[n] for n in self.decides),
        )  # fmt: skip

    def film(self, shift: float, stretch: float = 0.0) -> Film:
        """What lies before the closing corner and after it, side by side, the faces upright."""
        return film_of(self.strips(len(self.order) - 1, shift, stretch))


def film_of(strips: Sequence[Seen]) -> Film:
    """Strips side by side, each brought to the scale of a film; of a hopeless board there may be no wood to show."""
    parts = []
    for pixels, scale in strips:
        if not pixels.size:
            continue
        row, column = (
            np.minimum(
                (np.arange(max(1, int(size / scale * _FILM_PX))) + 0.5) / _FILM_PX * scale, size - 1
            ).astype(int)
            for size in pixels.shape[:2]
        )
        parts.append(pixels[np.ix_(row, column)])
    if not parts:
        return Film(1, 1, bytes(3))
    tall = min(len(part) for part in parts)
    both = np.ascontiguousarray(np.concatenate([part[:tall] for part in parts], axis=1))
    return Film(both.shape[0], both.shape[1], both.tobytes())


class _Reading(NamedTuple):
    """How sides are read off a board: off which, by its name on the rack (empty: the sides' own), which plane of it,
    and which way.
    """

    board: str
    plane: Plane
    way: Way


class _End(NamedTuple):
    """One edge of a corner: in which reading, where along it with the strip at the trimmed end, and which way it goes
    when the strip is moved (0: it stays).
    """

    reading: _Reading
    place_mm: float
    way: float


_Slopes = tuple[float, float]


class Along(Corners):
    """Sides one after the other along a board, or along the leaves of a book."""

    def __init__(self, lying: Lying, pictures: Pictures, coarse_mm: float = 0.0) -> None:
        super().__init__(lying)
        self._pictures = pictures
        self._told: dict[tuple[_Reading, _Slopes], Edges] = {}
        self._read: dict[_Reading, Seen] = {}
        ring, wrap, stock = lying.ring, lying.wrap, lying.job.stock
        self._boards = {"": stock.board} | {board.name: board for board in stock.rack}
        self._high = min(side.slant_mm for side in ring.sides)
        self.corners = [self._ends(a, b) for a, b in self.pairs]
        finest = max(match.finest_mm(self.picture(end.reading)) for pair in self.corners for end in pair[:2])
        self._finest, self._step = finest, max(coarse_mm or match.STEP_MM, finest)
        # Where another plane or another board begins, and where the wood does not run on.
        self.decides = tuple(
            n for n, (k, (a, b, _slopes)) in enumerate(zip(self.order, self.corners, strict=True))
            if a.reading != b.reading or not wrap.runs_on[k]
        ) or self.decides  # fmt: skip
        losses = [wrap.losses_mm[k] for n, k in enumerate(self.order) if n not in self.decides]
        reading, slopes = self.corners[0][0].reading, self.corners[-1][2]
        loss = float(np.median(losses or wrap.losses_mm))
        self.scale = match.scaled(self.edges(reading, slopes), max(loss, _LEAST_LOSS_MM))

    def _ends(self, first: int, second: int) -> tuple[_End, _End, _Slopes]:
        """Where a corner's two edges are, and how its cuts run."""
        ring, wrap = self.lying.ring, self.lying.wrap
        a, b = ring.sides[first], ring.sides[second]
        slopes = (math.tan(math.radians(a.end.miter_deg)), -math.tan(math.radians(b.start.miter_deg)))
        end, start = self._end(placed_at(wrap, first), a.outside_mm), self._end(placed_at(wrap, second), 0.0)
        return end, start, (round(slopes[0], 6), round(slopes[1], 6))

    def _end(self, placed: Placed, along: float) -> _End:
        reading = _Reading(placed.board, placed.show, placed.way)
        if placed.board:  # the strip on the sides' own board is moved, not what lies on another
            return _End(reading, placed.origin_mm + along, 0.0)
        back = placed.way == "read_back"
        at = self._boards[""].length_mm - placed.origin_mm if back else placed.origin_mm
        way = -1.0 if back else 1.0
        return _End(reading, at + along - way * self.shift, way)

    def picture(self, reading: _Reading) -> Seen:
        """A plane of a board as the sides cut from it are read."""
        if reading not in self._read:
            other = self._boards[reading.board] if reading.board else None
            told = self._pictures.plane(self.lying.job, reading.plane, other)
            pixels = told.pixels[::-1] if reading.way == "turned_over" else told.pixels
            self._read[reading] = Seen(
                pixels[:, ::-1] if reading.way == "read_back" else pixels, told.px_per_mm
            )
        return self._read[reading]

    def _band(self, reading: _Reading) -> tuple[float, float]:
        """From where to where up a reading (mm) the sides lie."""
        board = self._boards[reading.board]
        low = board.low_mm
        if reading.way == "turned_over":
            low = board.width_mm - next(p.y_mm for p in self.lying.wrap.pieces if p.way == "turned_over")
        return low, low + self._high

    def edges(self, reading: _Reading, slopes: _Slopes) -> Edges:
        """All edges of a plane as it is read, for cuts that run so."""
        if (reading, slopes) not in self._told:
            self._told[reading, slopes] = match.edges_of(
                self.picture(reading), *self._band(reading), slopes, self._step, self._finest
            )
        return self._told[reading, slopes]

    def apart(self, number: int, shifts: Floats, stretch: float = 0.0) -> Floats:
        """As ever."""
        end, start, slopes = self.corners[number]
        before, after = self.edges(end.reading, slopes), self.edges(start.reading, slopes)
        both = Edges(before.before, after.after, before.step_mm)
        longer = stretch if number == len(self.order) - 1 else 0.0
        first = match.steps(end.place_mm + longer + end.way * shifts, before)
        second = match.steps(start.place_mm + start.way * shifts, after)
        return match.distances(both, first, second)

    def starts(self, stretch: float = 0.0) -> Floats:
        """Every start at which the strip's first edge is one of the places that are told."""
        at, step = self.corners[-1][1].place_mm, self._step
        low = math.ceil((at + self.room[0]) / step - 1e-9)
        high = math.floor((at + self.room[1] - stretch) / step + 1e-9)
        shifts = np.arange(low, high + 1) * step - at
        made: Floats = np.clip(shifts, 0.0, None).astype(np.float32)
        return made

    def ranked(self, stretch: float = 0.0, *, every: bool = False) -> tuple[Floats, Floats]:
        """As ever, but where one closing corner decides: that is quicker told of all starts at once."""
        end, start, slopes = self.corners[-1]
        if every or len(self.decides) > 1:
            return super().ranked(stretch, every=every)
        reach = end.place_mm + stretch - start.place_mm
        room = (start.place_mm + self.room[0], start.place_mm + self.room[1] - stretch)
        starts, apart = match.closing(self.edges(end.reading, slopes), reach, room)
        return np.clip(starts - np.float32(start.place_mm), 0.0, None), apart

    def strips(self, number: int, shift: float, stretch: float = 0.0) -> tuple[Seen, Seen]:
        """As ever."""
        end, start, _slopes = self.corners[number]
        found = []
        for one, away in ((end, -FILM_MM), (start, 0.0)):
            picture, (low, high) = self.picture(one.reading), self._band(one.reading)
            scale, rows = picture.px_per_mm, picture.pixels.shape[0]
            top, bottom = max(0, round(rows - high * scale)), min(rows, round(rows - low * scale))
            at = one.place_mm + one.way * shift + (stretch if one is end else 0.0)
            left = max(0, round((at + away) * scale))
            found.append(Seen(picture.pixels[top:bottom, left : left + round(FILM_MM * scale)], scale))
        return found[0], found[1]

    def exact(self, shift: float, stretch: float, about_mm: float) -> tuple[float, float, float] | None:
        """A start found coarsely, brought to its exact place by the wood about it alone, with the closing corner's
        score there and how unlike its edges are; None where nothing near it is clear.
        """
        end, start, slopes = self.corners[-1]
        picture = self.picture(end.reading)
        step = max(match.STEP_MM, match.finest_mm(picture))
        first = self._local(picture, end.place_mm + stretch + shift, slopes, about_mm).before
        second = self._local(picture, start.place_mm + shift, slopes, about_mm).after
        count = min(len(first), len(second))
        apart = np.sqrt(np.einsum("ij,ij->i", first[:count] - second[:count], first[:count] - second[:count]))
        moves = (np.arange(count) - count // 2) * step
        shifts = np.clip(shift + moves, *self.room).astype(np.float32)
        good = self.clear(shifts)
        if not good.any():
            return None
        best = int(np.argmin(np.where(good, apart, np.inf)))
        score = float(self.scale.score(apart[best : best + 1])[0])
        return round(float(shifts[best]), 2), score, float(apart[best])

    def _local(self, whole: Seen, at: float, slopes: _Slopes, about: float) -> Edges:
        """The edges within `about` of a place, at the finest step: from the stretch of the picture beside it alone."""
        scale = whole.px_per_mm
        low, high = self._band(self.corners[-1][0].reading)
        margin = 14.0 + max(abs(slope) for slope in slopes) * (high - low)
        left = round((at - about - margin) * scale)
        wide = round(2 * (about + margin) * scale)
        columns = np.clip(np.arange(left, left + wide), 0, whole.pixels.shape[1] - 1)
        edges = match.edges_of(Seen(whole.pixels[:, columns], scale), low, high, slopes)
        middle = round((at - left / scale) / edges.step_mm)
        count = round(about / edges.step_mm)
        part = slice(middle - count, middle + count + 1)
        return Edges(edges.before[part], edges.after[part])


class Upright(Corners):
    """Strips side by side across a board's width, the grain up the sides; in one length or in several."""

    def __init__(self, lying: Lying, pictures: Pictures) -> None:
        super().__init__(lying)
        wrap = lying.wrap
        self._picture = across.turned(pictures.plane(lying.job, "face"))
        self._high = lying.ring.height_mm
        self._rows = max(1, round(self._high / match.ROW_MM))
        self._columns: dict[tuple[float, bool], across.Column] = {}
        self.decides = tuple(n for n, k in enumerate(self.order) if not wrap.runs_on[k])
        losses = [loss for loss, on in zip(wrap.losses_mm, wrap.runs_on, strict=True) if on] or [0.0]
        self.scale = across.scaled(self._picture, self._rows, max(float(np.median(losses)), _LEAST_LOSS_MM))

    def _column(self, place: float, *, before: bool) -> across.Column:
        key = (round(place, 4), before)
        if key not in self._columns:
            self._columns[key] = across.column(self._picture, place, before=before)
        return self._columns[key]

    def _places(self, number: int) -> tuple[Placed, float, Placed, float]:
        """The two sides of a corner, and where across the board their edges are."""
        wrap, sides = self.lying.wrap, self.lying.ring.sides
        (first, second), own = self.pairs[number], sides[self.pairs[number][0]]
        a, b = placed_at(wrap, first), placed_at(wrap, second)
        return a, a.y_mm + own.outside_mm, b, b.y_mm

    def apart(self, number: int, shifts: Floats, stretch: float = 0.0) -> Floats:
        """As ever."""
        a, end, b, start = self._places(number)
        after = self._column(start, before=False).moved(round((b.origin_mm - a.origin_mm) / match.ROW_MM))
        lows = np.rint((a.origin_mm - self._high - self.shift + shifts) / match.ROW_MM)
        return across.apart(self._column(end, before=True), after, lows, self._rows)

    def starts(self, stretch: float = 0.0) -> Floats:
        """Every half row."""
        step = match.ROW_MM / 2
        made: Floats = (np.arange(max(0, math.floor(self.room[1] / step + 1e-9) + 1)) * step).astype(
            np.float32
        )
        return made

    def strips(self, number: int, shift: float, stretch: float = 0.0) -> tuple[Seen, Seen]:
        """As ever."""
        a, end, b, start = self._places(number)
        scale, found = self._picture.px_per_mm, []
        for placed, left in ((a, end - FILM_MM), (b, start)):
            bottom = placed.origin_mm - self.shift + shift
            top, first = max(0, round((bottom - self._high) * scale)), max(0, round(left * scale))
            rows, columns = round(self._high * scale), round(FILM_MM * scale)
            found.append(Seen(self._picture.pixels[top : top + rows, first : first + columns], scale))
        return found[0], found[1]


def corners_of(lying: Lying, pictures: Pictures, coarse_mm: float = 0.0) -> Corners:
    """The corners by the way the board is cut up; with `coarse_mm` sides along one board are told only so finely."""
    if lying.job.stock.board.method == "upright":
        return Upright(lying, pictures)
    return Along(lying, pictures, coarse_mm)
