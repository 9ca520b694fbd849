"""The search for where the wrap begins: every start, on every face and edge and board that is allowed.

Slow beside the plan, since it looks at pictures: it is asked for by itself, off the window's thread, and can be
cancelled.
"""

import math
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from threading import Lock
from typing import TYPE_CHECKING, Final, Literal, NamedTuple

import numpy as np
from msgspec import Struct

from peristyle.model.design import replace
from peristyle.model.job import Job, revised
from peristyle.model.stock import Board, took
from peristyle.planning.form.ring import RingPlan, plan_ring
from peristyle.planning.form.slabs import scaled
from peristyle.planning.inside.contents import sized
from peristyle.planning.section.levels import SectionPlan, plan_section
from peristyle.planning.stock.clear import Span, blocked, faces_moved, placed_at, shown_faces, unmet
from peristyle.planning.stock.laying import ALONG
from peristyle.planning.stock.looks import look_of
from peristyle.planning.stock.replacing import remade, spares
from peristyle.planning.stock.wrap import WrapPlan, fitting_factor, plan_wrap
from peristyle.wood.joined import evened
from peristyle.wood.looks import Given
from peristyle.wood.match import STEP_MM, Edges, Scale, closing, distances, edges_of, steps
from peristyle.wood.match import scaled as scale_of
from peristyle.wood.pictures import Seen, seen

if TYPE_CHECKING:
    from numpy.typing import NDArray

APART_MM: Final = 8.0  # two suggestions nearer than this are one
MOST: Final = 12
FILM_MM: Final = 30.0  # how much of either side a suggestion shows
_OF_ONE: Final = 6  # suggestions from one board, face and edge
_COARSE_MM: Final = 1.0
_STRETCH_MM: Final = 0.5

Aim = Literal["closing", "all"]
Face = Literal["front", "back"]


class Allowed(Struct, frozen=True):
    """What the search may change: the perimeter by so much (mm, either way), the face, the edge, the board; and
    whether the closing corner alone decides, or all corners together. With `replaces` spare wood is looked for, for
    that side.
    """

    stretch_mm: float = 0.0
    other_face: bool = False
    other_edge: bool = False
    rack: bool = False
    aim: Aim = "closing"
    replaces: int | None = None


class Suggestion(Struct, frozen=True):
    """One place for the wrap. `board` is the board's name, `rack` its number on the rack (None: the board itself);
    `stretch_mm` is what the ring grows by. `corners` are the scores of all corners, 0 to 100, `unmet` how many wishes
    are not met. One that `replaces` a side tells where on that board the side comes from, `closing` the lesser score
    of its two corners.
    """

    board: str
    rack: int | None
    face: Face
    turned: bool
    shift_mm: float
    stretch_mm: float
    closing: float
    corners: tuple[float, ...]
    unmet: int = 0
    film: "Film | None" = None
    replaces: int | None = None


class Film(Struct, frozen=True):
    """The two strips of a closing corner side by side as they will meet: rows and columns of RGB bytes."""

    rows: int
    columns: int
    pixels: bytes


class Curve(Struct, frozen=True):
    """The score of every start on the board as it lies: starts past the trim (mm) and their scores, 0 to 100; the
    stretches that faults block, and what the scores are measured by.
    """

    starts_mm: tuple[float, ...]
    scores: tuple[float, ...]
    blocked: tuple[tuple[float, float], ...]
    scale: Scale
    now: tuple[float, ...]  # the scores of all corners where the strip lies now


class Found(Struct, frozen=True):
    """What a search found: the curve of the board as it lies, None where it cannot be, and suggestions, best first."""

    curve: Curve | None
    suggestions: tuple[Suggestion, ...]
    cancelled: bool = False


class _Try(NamedTuple):
    job: Job
    rack: int | None
    wrap: WrapPlan
    ring: RingPlan
    section: SectionPlan


def searchable(job: Job) -> bool:
    """Whether this ring has a closing corner to search: one that is cut along one board in its order."""
    return job.stock.board.method in ALONG and not job.breaks and plan_ring(sized(job)).stands


def search(
    job: Job,
    allowed: Allowed,
    given: Given,
    *,
    pictures: "Pictures | None" = None,
    progress: Callable[[float], None] = lambda _share: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> Found:
    """Rank every start that keeps clear. Pictures come from `given`, or are grown."""
    job = sized(job)
    pictures = pictures or Pictures(given)
    if allowed.replaces is not None:
        return _replacing(job, allowed.replaces, pictures, progress, cancelled)
    tries = list(_tries(job, allowed))
    found: list[Suggestion] = []
    curve: Curve | None = None
    coarse = _COARSE_MM if len(tries) > 4 else 0.0

    def look(number: int) -> tuple[list[Suggestion], Curve | None]:
        one = tries[number]
        if cancelled():
            return [], None
        match = Match(one, pictures.of(one.job.stock.board), coarse if number else 0.0)
        own = match.suggestions(allowed)
        if coarse and number and allowed.aim == "closing":
            own = [_exact(match, suggestion) for suggestion in own[:3]]
        return own, match.curve(allowed) if one.job.stock.board == job.stock.board else None

    # NumPy works on two at once: much of the time it holds nothing that the other needs.
    with ThreadPoolExecutor(max_workers=2) as pool:
        for number, (own, own_curve) in enumerate(pool.map(look, range(len(tries)))):
            found += own
            curve = own_curve or curve
            progress((number + 1) / len(tries))
    return Found(curve, _ranked(found, allowed), cancelled())


def _replacing(
    job: Job,
    side: int,
    pictures: "Pictures",
    progress: Callable[[float], None],
    cancelled: Callable[[], bool],
) -> Found:
    """Spare wood for one side."""
    if job.stock.board.method != "square_first" or not plan_ring(job).stands:
        return Found(None, ())
    rows = spares(
        job, side, pictures.of, lambda made: _film_of(made, side, pictures), progress=progress, cancelled=cancelled
    )[:MOST]  # fmt: skip
    count = job.design.side_count
    found = []
    for row in rows:
        board = job.stock.rack[row.rack]
        scores = [0.0] * count
        scores[(side - 1) % count], scores[side] = row.scores
        film = row.film if isinstance(row.film, Film) else None
        found.append(
            Suggestion(
                row.board, row.rack, board.face, board.turned, row.skip_mm, 0.0, min(row.scores), tuple(scores),
                film=film, replaces=side,
            )
        )  # fmt: skip
    return Found(None, tuple(found), cancelled())


def _film_of(job: Job, side: int, pictures: "Pictures") -> Film:
    """Both corners of a side as they will meet, its own face between its neighbours'."""
    ring = plan_ring(job)
    wrap = plan_wrap(job, ring)
    boards = {"": job.stock.board} | {board.name: board for board in job.stock.rack}
    high, count = min(s.slant_mm for s in ring.sides), len(ring.sides)
    parts = []
    for number, ends in ((side - 1, "end"), (side, "start"), (side, "end"), (side + 1, "start")):
        placed = placed_at(wrap, number % count)
        board = boards[placed.board]
        picture = pictures.of(board)
        scale, rows = picture.px_per_mm, picture.pixels.shape[0]
        x = placed.origin_mm + (ring.sides[number % count].outside_mm - FILM_MM if ends == "end" else 0.0)
        top = max(0, round(rows - (board.low_mm + high) * scale))
        bottom = min(rows, round(rows - board.low_mm * scale))
        every, left = max(1, round(scale / 2.5)), max(0, round(x * scale))
        parts.append(picture.pixels[top:bottom:every, left : left + round(FILM_MM * scale) : every])
    tall = min(part.shape[0] for part in parts)
    both = np.ascontiguousarray(np.concatenate([part[:tall] for part in parts], axis=1))
    return Film(both.shape[0], both.shape[1], both.tobytes())


def match_of(job: Job, pictures: "Pictures") -> "Match | None":
    """The board as it lies, its edges told; None where nothing is to be searched, or the ring does not fit on it."""
    tries = [one for one in _tries(sized(job), Allowed()) if one.job.stock.board == job.stock.board]
    return Match(tries[0], pictures.of(job.stock.board), 0.0) if tries else None


def applied(job: Job, suggestion: Suggestion) -> Job:
    """The job with a suggestion taken."""
    if suggestion.replaces is not None:
        return remade(job, suggestion.replaces, suggestion.board, suggestion.shift_mm)
    if suggestion.rack is not None:
        job = replace(job, stock=took(job.stock, suggestion.rack))
    board = replace(
        job.stock.board, face=suggestion.face, turned=suggestion.turned, shift_mm=suggestion.shift_mm
    )
    job = revised(job, board=board)
    return _stretched(job, suggestion.stretch_mm) or job if suggestion.stretch_mm else job


def _stretched(job: Job, by_mm: float) -> Job | None:
    """The ring grown so that its strip takes so much more of the board."""
    planned = sized(job)
    used = plan_wrap(planned, plan_ring(planned)).used_mm
    factor = fitting_factor(planned, used + by_mm)
    return scaled(job, factor) if factor else None


def _tries(job: Job, allowed: Allowed) -> Iterator[_Try]:
    """Every board, face and edge that may be, the board as it lies first, whatever stands against it."""
    if not searchable(job):
        return
    ring, section = plan_ring(job), plan_section(job, plan_ring(job))
    boards: list[tuple[int | None, Job]] = [(None, job)]
    if allowed.rack:
        boards += [(n, replace(job, stock=took(job.stock, n))) for n in range(len(job.stock.rack))]
    for rack, there in boards:
        board = there.stock.board
        faces: tuple[Face, ...] = (board.face, "back" if board.face == "front" else "front")
        for face in faces if allowed.other_face else faces[:1]:
            for turned in (board.turned, not board.turned) if allowed.other_edge else (board.turned,):
                shift = board.shift_mm if (face, turned) == (board.face, board.turned) else 0.0
                lying = revised(there, board=replace(board, face=face, turned=turned, shift_mm=shift))
                wrap = plan_wrap(lying, ring)
                rests = wrap.spare_mm + lying.stock.board.shift_mm
                stops = any(f.severity == "stop" and f.code != "strip_off_end" for f in wrap.findings)
                if wrap.pieces and rests >= 0 and not stops:
                    yield _Try(lying, rack, wrap, ring, section)


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
        """The board's face as it lies; one picture serves both edges."""
        look = look_of(board)
        plain = look._replace(turned=False)
        with self._lock:
            if plain not in self._kept:
                while len(self._kept) >= self._most:
                    self._kept.pop(next(iter(self._kept)))
                picture = seen(plain, "face", self._given)
                # The light of a photograph is evened out for comparing, never for showing.
                photographed = bool(board.back_picture if board.face == "back" else board.picture)
                self._kept[plain] = evened(picture) if photographed else picture
            picture = self._kept[plain]
        return Seen(picture.pixels[::-1, ::-1], picture.px_per_mm) if look.turned else picture


class Match:
    """One board as it lies, its edges told, its starts scored."""

    def __init__(self, one: _Try, picture: Seen, coarse_mm: float) -> None:
        self._one, self._step = one, coarse_mm
        ring, wrap, board = one.ring, one.wrap, one.job.stock.board
        self._order = wrap.order
        self._told: dict[tuple[float, float], Edges] = {}
        self._picture, self._low = picture, board.low_mm
        self._high = board.low_mm + min(side.slant_mm for side in ring.sides)
        self._shift = board.shift_mm
        self.room = (0.0, wrap.spare_mm + board.shift_mm)
        self.band = (picture, self._low, self._high)
        self.last = wrap.order[-1]
        pairs = [(k, wrap.order[(n + 1) % len(wrap.order)]) for n, k in enumerate(wrap.order)]
        # Where each corner's two edges are with the strip at the trimmed end, and how its cuts run.
        self.corners = [self._ends(a, b) for a, b in pairs]
        loss = float(np.median([wrap.losses_mm[k] for k in wrap.order[:-1] or wrap.order]))
        self.scale = scale_of(self.edges(self.corners[-1][2]), max(loss, 0.5))
        faces = shown_faces(one.job, ring, wrap, one.section)
        self._faces = faces
        self.blocked = [Span(s.low + self._shift, s.high + self._shift) for s in blocked(board, faces)]

    def _ends(self, first: int, second: int) -> tuple[float, float, tuple[float, float]]:
        ring, wrap = self._one.ring, self._one.wrap
        a, b = ring.sides[first], ring.sides[second]
        end = placed_at(wrap, first).origin_mm + a.outside_mm - self._shift
        start = placed_at(wrap, second).origin_mm - self._shift
        slopes = (math.tan(math.radians(a.end.miter_deg)), -math.tan(math.radians(b.start.miter_deg)))
        return end, start, (round(slopes[0], 6), round(slopes[1], 6))

    def edges(self, slopes: tuple[float, float]) -> Edges:
        if slopes not in self._told:
            step = {"step_mm": self._step} if self._step else {}
            self._told[slopes] = edges_of(self._picture, self._low, self._high, slopes, **step)
        return self._told[slopes]

    def _distance(self, corner: int, shifts: "NDArray[np.float32]") -> "NDArray[np.float32]":
        end, start, slopes = self.corners[corner]
        edges = self.edges(slopes)
        return distances(edges, steps(end + shifts, edges), steps(start + shifts, edges))

    def _all(
        self, allowed: Allowed, stretch: float = 0.0
    ) -> tuple["NDArray[np.float32]", "NDArray[np.float32]"]:
        """Every start, and the distance that decides there."""
        end, start, slopes = self.corners[-1]
        edges = self.edges(slopes)
        high = self.room[1] - stretch
        starts, apart = closing(edges, end + stretch - start, (start + self.room[0], start + high))
        shifts = starts - np.float32(start)
        shifts = np.clip(shifts, 0.0, None)
        if allowed.aim == "all" and len(self.corners) > 1:
            others = [self._distance(k, shifts) ** 2 for k in range(len(self.corners) - 1)]
            apart = np.sqrt((apart**2 + sum(others)) / len(self.corners))
        return shifts, apart

    def clear(self, shifts: "NDArray[np.float32]") -> "NDArray[np.bool_]":
        good = np.ones(len(shifts), dtype=bool)
        for span in self.blocked:
            good &= (shifts <= span.low) | (shifts >= span.high)
        return good

    def curve(self, allowed: Allowed) -> Curve:
        shifts, apart = self._all(allowed)
        now = self.scores(self._shift)
        scores = self.scale.score(apart)
        return Curve(
            tuple(float(s) for s in shifts), tuple(float(s) for s in scores),
            tuple((s.low, s.high) for s in self.blocked), self.scale, now,
        )  # fmt: skip

    def scores(self, shift: float) -> tuple[float, ...]:
        """The score of every corner with the strip there, in the order of the corners round the box."""
        at = np.array([shift], dtype=np.float32)
        order = self._order
        told = {order[n]: float(self.scale.score(self._distance(n, at))[0]) for n in range(len(order))}
        return tuple(told[k] for k in sorted(told))

    def suggestions(self, allowed: Allowed) -> list[Suggestion]:
        """The best starts, each the best of its neighbourhood."""
        stretches = [0.0]
        if allowed.stretch_mm > 0:
            count = int(allowed.stretch_mm / _STRETCH_MM + 1e-9)
            stretches += [k * _STRETCH_MM * sign for k in range(1, count + 1) for sign in (1, -1)]
        rows = []
        for stretch in stretches:
            shifts, apart = self._all(allowed, stretch)
            good = self.clear(shifts)
            rows += [(float(a), float(s), stretch) for s, a in _lowest(shifts[good], apart[good])]
        rows.sort()
        found: list[Suggestion] = []
        for _apart, shift, stretch in rows:
            if any(abs(one.shift_mm - shift) < APART_MM for one in found):
                continue
            found.append(self._told_of(shift, stretch))
            if len(found) == _OF_ONE:
                break
        return found

    def _told_of(self, shift: float, stretch: float) -> Suggestion:
        one = self._one
        board = one.job.stock.board
        corners = self.scores(shift)
        end, start, slopes = self.corners[-1]
        edges = self.edges(slopes)
        pair = (np.array([v + shift], dtype=np.float32) for v in (end + stretch, start))
        first, second = (steps(v, edges) for v in pair)
        score = float(self.scale.score(distances(edges, first, second))[0])
        left = len(unmet(one.job, faces_moved(self._faces, shift - self._shift)))
        last = self.last
        corners = tuple(score if k == last else c for k, c in enumerate(corners))
        film = self._film(end + stretch + shift, start + shift)
        return Suggestion(
            board.name,
            one.rack,
            board.face,
            board.turned,
            round(shift, 2),
            stretch,
            score,
            corners,
            left,
            film,
        )

    def _film(self, end: float, start: float) -> Film:
        """What lies before the end and after the start, side by side, the faces upright."""
        scale, rows = self._picture.px_per_mm, self._picture.pixels.shape[0]
        wide = round(FILM_MM * scale)
        top, bottom = max(0, round(rows - self._high * scale)), min(rows, round(rows - self._low * scale))
        first, second = max(0, round(end * scale) - wide), max(0, round(start * scale))
        parts = [self._picture.pixels[top:bottom, at : at + wide] for at in (first, second)]
        every = max(1, round(scale / 2.5))
        both = np.ascontiguousarray(np.concatenate(parts, axis=1)[::every, ::every])
        return Film(both.shape[0], both.shape[1], both.tobytes())


def _lowest(shifts: "NDArray[np.float32]", apart: "NDArray[np.float32]") -> list[tuple[float, float]]:
    """The lowest of every neighbourhood, lowest first."""
    order = np.argsort(apart, kind="stable")
    taken: list[tuple[float, float]] = []
    for k in order[: 40 * _OF_ONE * 4]:
        if all(abs(float(shifts[k]) - s) >= APART_MM for s, _a in taken):
            taken.append((float(shifts[k]), float(apart[k])))
            if len(taken) == _OF_ONE:
                break
    return taken


def _exact(match: Match, rough: Suggestion) -> Suggestion:
    """A suggestion found coarsely, brought to its exact place by the wood about it alone."""
    end, start, slopes = match.corners[-1]
    about = 2 * _COARSE_MM
    first = _local(match, end + rough.stretch_mm + rough.shift_mm, slopes, about).before
    second = _local(match, start + rough.shift_mm, slopes, about).after
    count = min(len(first), len(second))
    apart = np.sqrt(np.einsum("ij,ij->i", first[:count] - second[:count], first[:count] - second[:count]))
    moves = (np.arange(count) - count // 2) * STEP_MM
    shifts = np.clip(rough.shift_mm + moves, *match.room).astype(np.float32)
    good = match.clear(shifts)
    if not good.any():
        return rough
    best = int(np.argmin(np.where(good, apart, np.inf)))
    shift, score = round(float(shifts[best]), 2), float(match.scale.score(apart[best : best + 1])[0])
    last = match.last
    corners = tuple(score if k == last else c for k, c in enumerate(match.scores(shift)))
    made: Suggestion = replace(rough, shift_mm=shift, closing=score, corners=corners)
    return made


def _local(match: Match, at: float, slopes: tuple[float, float], about: float) -> Edges:
    """The edges within `about` of a place, at the finest step: from the stretch of the picture beside it alone."""
    seen_all, low, high = match.band
    scale = seen_all.px_per_mm
    margin = 14.0 + max(abs(slope) for slope in slopes) * (high - low)
    left = round((at - about - margin) * scale)
    wide = round(2 * (about + margin) * scale)
    columns = np.clip(np.arange(left, left + wide), 0, seen_all.pixels.shape[1] - 1)
    edges = edges_of(Seen(seen_all.pixels[:, columns], scale), low, high, slopes)
    middle = round((at - left / scale) / STEP_MM)
    count = round(about / STEP_MM)
    part = slice(middle - count, middle + count + 1)
    return Edges(edges.before[part], edges.after[part])


def _ranked(found: list[Suggestion], allowed: Allowed) -> tuple[Suggestion, ...]:
    """Best first: wishes that are met before scores."""

    def worth(one: Suggestion) -> float:
        return one.closing if allowed.aim == "closing" else sum(one.corners) / len(one.corners)

    return tuple(sorted(found, key=lambda one: (one.unmet, -worth(one)))[:MOST])
