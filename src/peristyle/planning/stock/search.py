"""The search for where the wrap begins: every start, on every face and edge and board that is allowed.

Slow beside the plan, since it looks at pictures: it is asked for by itself, off the window's thread, and can be
cancelled.
"""

from collections.abc import Callable, Iterator, Sequence
from concurrent.futures import ThreadPoolExecutor
from typing import Final, Literal

import numpy as np
from msgspec import Struct

from peristyle.model.design import replace
from peristyle.model.job import Job, revised
from peristyle.model.stock import took
from peristyle.planning.form.ring import plan_ring
from peristyle.planning.form.slabs import scaled
from peristyle.planning.inside.contents import sized
from peristyle.planning.making.ripping import leaf_mm
from peristyle.planning.section.levels import plan_section
from peristyle.planning.stock.clear import faces_moved, placed_at, unmet
from peristyle.planning.stock.laying import SEARCHED, stretches
from peristyle.planning.stock.replacing import remade, spares
from peristyle.planning.stock.scored import (
    FILM_MM,
    Along,
    Corners,
    Curve,
    Film,
    Lying,
    Pictures,
    corners_of,
    film_of,
)
from peristyle.planning.stock.wrap import fitting_factor, plan_wrap
from peristyle.wood.looks import Given
from peristyle.wood.match import Floats, Scale
from peristyle.wood.pictures import Seen

APART_MM: Final = 8.0  # two suggestions nearer than this are one
MOST: Final = 12
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
    are not met; `closing` is the least of those over which the grain does not run on by itself. One that `replaces` a
    side tells where on that board the side comes from, `closing` the lesser score of its two corners.
    `apart` is how unlike the edges are that decide, on no board's own scale: suggestions rank by it; `runs_on` says
    that they are as like as those of wood that truly runs on there. `match` is that as a score, all on the scale of the
    board as it lies, so that scores and ranks agree.
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
    film: Film | None = None
    replaces: int | None = None
    apart: float = 0.0
    runs_on: bool = False
    match: float = 0.0


class Found(Struct, frozen=True):
    """What a search found: the curve of the board as it lies, None where it cannot be, and suggestions, best first.
    `fits` is whether any board that was tried holds the ring at all.
    """

    curve: Curve | None
    suggestions: tuple[Suggestion, ...]
    cancelled: bool = False
    fits: bool = True


def searchable(job: Job) -> bool:
    """Whether where this ring starts is to be searched: its sides lie on the board in their order."""
    return job.stock.board.method in SEARCHED and plan_ring(sized(job)).stands


def search(
    job: Job,
    allowed: Allowed,
    given: Given,
    *,
    pictures: Pictures | None = None,
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
    coarse = _COARSE_MM if len(tries) > 4 and stretches(job) else 0.0

    scales: list[Scale] = []

    def look(number: int) -> tuple[list[Suggestion], Curve | None]:
        one = tries[number]
        if cancelled():
            return [], None
        corners = corners_of(one, pictures, coarse if number else 0.0)
        if number == 0:
            scales.append(corners.scale)
        own = _suggestions(corners, allowed)
        if coarse and number and allowed.aim == "closing" and isinstance(corners, Along):
            own = [_exact(corners, suggestion) for suggestion in own[:3]]
        here = one.job.stock.board == job.stock.board
        return own, corners.curve(every=allowed.aim == "all") if here else None

    # NumPy works on two at once: much of the time it holds nothing that the other needs.
    with ThreadPoolExecutor(max_workers=2) as pool:
        for number, (own, own_curve) in enumerate(pool.map(look, range(len(tries)))):
            found += own
            curve = own_curve or curve
            progress((number + 1) / len(tries))
    return Found(curve, _ranked(found, scales), cancelled(), bool(tries))


def _replacing(
    job: Job, side: int, pictures: Pictures, progress: Callable[[float], None], cancelled: Callable[[], bool]
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


def _film_of(job: Job, side: int, pictures: Pictures) -> Film:
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
        left = max(0, round(x * scale))
        parts.append(Seen(picture.pixels[top:bottom, left : left + round(FILM_MM * scale)], scale))
    return film_of(parts)


def match_of(job: Job, pictures: Pictures) -> Corners | None:
    """The corners on the board as it lies; None where nothing is to be searched, or the ring does not fit on it."""
    tries = [one for one in _tries(sized(job), Allowed()) if one.job.stock.board == job.stock.board]
    return corners_of(tries[0], pictures) if tries else None


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


def _tries(job: Job, allowed: Allowed) -> Iterator[Lying]:
    """Every board, face and edge that may be, the board as it lies first, whatever stands against it."""
    if not searchable(job):
        return
    ring, section = plan_ring(job), plan_section(job, plan_ring(job))
    boards: list[tuple[int | None, Job]] = [(None, job)]
    if allowed.rack:
        taken = {broken.board for broken in job.breaks.values()}  # other sides lie there already
        boards += [
            (n, replace(job, stock=took(job.stock, n)))
            for n, board in enumerate(job.stock.rack)
            if board.name not in taken
        ]
    thick = max(side.thickness_mm for side in ring.sides)
    for rack, there in boards:
        board = there.stock.board
        if (board.resaw or board.method == "book") and leaf_mm(there, thick) is None:
            continue  # it does not give two leaves
        faces: tuple[Face, ...] = (board.face, "back" if board.face == "front" else "front")
        for face in faces if allowed.other_face else faces[:1]:
            for turned in (board.turned, not board.turned) if allowed.other_edge else (board.turned,):
                shift = board.shift_mm if (face, turned) == (board.face, board.turned) else 0.0
                lying = revised(there, board=replace(board, face=face, turned=turned, shift_mm=shift))
                wrap = plan_wrap(lying, ring)
                rests = wrap.spare_mm + lying.stock.board.shift_mm
                stops = any(f.severity == "stop" and f.code != "strip_off_end" for f in wrap.findings)
                if wrap.pieces and rests >= 0 and not stops:
                    yield Lying(lying, rack, wrap, ring, section)


def _suggestions(corners: Corners, allowed: Allowed) -> list[Suggestion]:
    """The best starts, each the best of its neighbourhood."""
    by = [0.0]
    if allowed.stretch_mm > 0 and stretches(corners.lying.job):
        count = int(allowed.stretch_mm / _STRETCH_MM + 1e-9)
        by += [k * _STRETCH_MM * sign for k in range(1, count + 1) for sign in (1, -1)]
    rows = []
    for stretch in by:
        shifts, apart = corners.ranked(stretch, every=allowed.aim == "all")
        good = corners.clear(shifts)
        rows += [(float(a), float(s), stretch) for s, a in _lowest(shifts[good], apart[good])]
    rows.sort()
    found: list[Suggestion] = []
    for apart_by, shift, stretch in rows:
        if any(abs(one.shift_mm - shift) < APART_MM for one in found):
            continue
        found.append(_told_of(corners, shift, stretch, apart_by))
        if len(found) == _OF_ONE:
            break
    return found


def _told_of(corners: Corners, shift: float, stretch: float, apart: float) -> Suggestion:
    lying = corners.lying
    board, scores = lying.job.stock.board, corners.scores(shift, stretch)
    left = len(unmet(lying.job, faces_moved(corners.faces, shift - corners.shift)))
    return Suggestion(
        board.name, lying.rack, board.face, board.turned, round(shift, 2), stretch,
        min(scores[corners.order[n]] for n in corners.decides), scores,
        left, corners.film(shift, stretch), apart=apart, runs_on=apart <= corners.scale.runs_on,
    )  # fmt: skip


def _lowest(shifts: Floats, apart: Floats) -> list[tuple[float, float]]:
    """The lowest of every neighbourhood, lowest first."""
    order = np.argsort(apart, kind="stable")
    taken: list[tuple[float, float]] = []
    for k in order[: 40 * _OF_ONE * 4]:
        if all(abs(float(shifts[k]) - s) >= APART_MM for s, _a in taken):
            taken.append((float(shifts[k]), float(apart[k])))
            if len(taken) == _OF_ONE:
                break
    return taken


def _exact(corners: Along, rough: Suggestion) -> Suggestion:
    """A suggestion found coarsely, brought to its exact place."""
    told = corners.exact(rough.shift_mm, rough.stretch_mm, 2 * _COARSE_MM)
    if told is None:
        return rough
    shift, score, apart = told
    scores = tuple(score if k == corners.last else c for k, c in enumerate(corners.scores(shift)))
    runs_on = apart <= corners.scale.runs_on
    made: Suggestion = replace(
        rough, shift_mm=shift, closing=score, corners=scores, apart=apart, runs_on=runs_on
    )
    return made


def _ranked(found: list[Suggestion], scales: Sequence[Scale]) -> tuple[Suggestion, ...]:
    """Best first: wishes that are met, then how like the edges are. Scores stop at 100, and each board has its own."""
    best = sorted(found, key=lambda one: (one.unmet, one.apart))[:MOST]
    if not best or not scales:
        return tuple(best)
    told = scales[0].score(np.array([one.apart for one in best], dtype=np.float32))
    return tuple(replace(one, match=float(score)) for one, score in zip(best, told, strict=True))
