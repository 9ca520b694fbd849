"""Rings whose every corner matches at one start only, whatever way they are cut up: the wood there is planted."""

import random
from typing import Final, NamedTuple

import numpy as np
from numpy.typing import NDArray

from peristyle.model.design import Rectangle, replace
from peristyle.model.job import Job, job_of, revised
from peristyle.model.stock import Board, Break
from peristyle.planning.plan import plan
from peristyle.planning.stock.clear import placed_at
from peristyle.planning.stock.laying import Placed
from peristyle.planning.stock.scored import Pictures
from peristyle.planning.stock.search import Allowed, match_of, search
from peristyle.reference.woods import WOODS
from peristyle.wood.grown import face_picture
from peristyle.wood.joined import evened
from peristyle.wood.looks import Grown, Look, Plane
from peristyle.wood.pictures import Seen
from support.planted import another_wood, spoilt

HOW: Final = ("square_first", "bevel_direct", "flip_shared", "book", "broken", "two boards", "upright")
SCALE: Final = 4.0
WIDE_MM: Final = {"upright": 12.0}  # how much is planted at each corner, 5 mm along the grain
_PLANES: Final[dict[str, tuple[Plane, ...]]] = {
    "flip_shared": ("face", "under"),
    "book": ("leaf_1", "leaf_2"),
}


class Boards(Pictures):
    """Pictures that are given by the board and the plane."""

    def __init__(self, given: dict[tuple[str, Plane], NDArray[np.uint8]]) -> None:
        super().__init__(lambda _name: None)
        self.given = given

    def _of(self, look: Look, plane: Plane, board: Board) -> Seen:
        return evened(Seen(self.given[board.name, plane], SCALE))  # as the light of any photograph is


class PlantedRing(NamedTuple):
    """A ring that lies elsewhere, its boards' pictures, and where it would match."""

    job: Job
    pictures: Boards
    shift_mm: float


def _job(how: str, draw: random.Random) -> Job:
    long, wide = (900.0, 300.0) if how == "upright" else (1100.0, 110.0)
    method = how if how in ("bevel_direct", "flip_shared", "book", "upright") else "square_first"
    board = Board(
        name="Own", length_mm=long, width_mm=wide, thickness_mm=30.0 if how == "book" else 10.0, method=method
    )
    shape = Rectangle(round(draw.uniform(100, 150)), round(draw.uniform(70, 100)), "outside")
    job = job_of(shape=shape, height_mm=70.0, thicknesses_mm=(8.0,), board=board)
    if how == "broken":
        return revised(job, breaks=(Break(after=1, skip_mm=40.0),))
    if how == "two boards":
        spare = Board(name="Spare", length_mm=500.0, width_mm=100.0, thickness_mm=10.0)
        job = replace(job, stock=replace(job.stock, rack=(spare,)))
        return revised(job, breaks=(Break(after=1, board="Spare", skip_mm=50.0),))
    return job


def planted_ring(seed: int, how: str, *, other: bool = False) -> PlantedRing:
    """A ring and its start, on grown wood or on wood grown another way; light, blur and noise as of a photograph."""
    draw, chance = random.Random(seed), np.random.default_rng(seed)
    job = _job(how, draw)
    given: dict[tuple[str, Plane], NDArray[np.uint8]] = {}
    for number, board in enumerate((job.stock.board, *job.stock.rack)):
        for plane in _PLANES.get(how, ("face",)) if not number else ("face",):
            own = seed * 10 + len(given)
            wood = list(WOODS)[seed % len(WOODS)]
            given[board.name, plane] = (
                another_wood(own, board.length_mm, board.width_mm, SCALE) if other
                else face_picture(Grown(wood, own, board.length_mm, board.width_mm, 12.0), 0.0, SCALE).copy()
            )  # fmt: skip
    pictures = Boards(given)
    held = match_of(job, pictures)
    assert held is not None
    shift = round(draw.uniform(15.0, held.room[1] - 15.0) / 0.25) * 0.25
    there = plan(revised(job, board=replace(job.stock.board, shift_mm=shift)))
    for number in held.decides:
        first, second = held.pairs[number]
        _plant(given, placed_at(there.wrap, first), there.ring.sides[first].outside_mm, placed_at(there.wrap, second),
               WIDE_MM.get(how, 5.0))  # fmt: skip
    for key, picture in given.items():
        given[key] = spoilt(picture, chance)
    return PlantedRing(job, Boards(given), shift)


def _plant(
    given: dict[tuple[str, Plane], NDArray[np.uint8]], a: Placed, end: float, b: Placed, wide: float
) -> None:
    """What lies before the end of one side, mirrored, into what lies after the start of the next, as both are read."""
    u = np.arange(0.5 / SCALE, wide, 1.0 / SCALE)
    v = np.arange(-2.0, 72.0, 1.0 / SCALE) + 0.5 / SCALE
    us, vs = (grid.ravel() for grid in np.meshgrid(u, v))
    here, there = given[a.board or "Own", a.show], given[b.board or "Own", b.show]
    there[_points(there, b, us, vs)] = here[_points(here, a, end - us, vs)]


def _points(
    picture: NDArray[np.uint8], placed: Placed, xs: NDArray[np.float64], ys: NDArray[np.float64]
) -> tuple[NDArray[np.intp], NDArray[np.intp]]:
    """Where points of a side are in the picture of its board: rows and columns."""
    on = np.array([placed.on((float(x), float(y))) for x, y in zip(xs, ys, strict=True)])
    rows = picture.shape[0] - 1 - np.floor(on[:, 1] * SCALE + 1e-9).astype(int)
    return np.clip(rows, 0, picture.shape[0] - 1), np.floor(on[:, 0] * SCALE + 1e-9).astype(int)


def missed_start_mm(one: PlantedRing) -> float:
    """How far from what was planted the best start is found."""
    found = search(one.job, Allowed(), lambda _name: None, pictures=one.pictures).suggestions
    return abs(found[0].shift_mm - one.shift_mm)


def told_there(one: PlantedRing) -> tuple[float, float]:
    """The score where the wood was planted, and the middle one of all starts: along the grain wood stays as it is for
    a while, so that of an upright ring other starts may do as well.
    """
    held = match_of(one.job, one.pictures)
    assert held is not None
    scores = held.scores(one.shift_mm)
    return held.curve().closing(scores), float(np.median(held.curve().scores))
