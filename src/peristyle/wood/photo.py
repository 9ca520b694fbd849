"""Photographs of boards made straight and to scale: opened, their outline found, lens and perspective taken out.

Points of a photograph are its own, upright as it is meant to be seen: x to the right, y down, from its upper left
corner. Corners of a board come in the order of its own frame: bottom start, bottom end, top end, top start, the board
lying with its start at the left.
"""

import math
from typing import Any, Final, NamedTuple

import cv2
import numpy as np
from numpy.typing import NDArray

from peristyle.core.errors import PeristyleError
from peristyle.wood.pictures import FORMATS, MOST_GIVEN_PIXELS, opened, upright

Points = NDArray[np.float64]
Pixels = NDArray[np.uint8]

MOST_OPEN: Final = 24_000_000  # points that are kept of a larger photograph
FINEST_PX_PER_MM: Final = 8.0
LEAST_SPAN: Final = 12.0  # sides of a board's outline in the photograph, in points


class Photo(NamedTuple):
    """A photograph, (rows, columns, 3) RGB; `share` is how many of its points there are for each of the file's own."""

    pixels: Pixels
    share: float


class Lens(NamedTuple):
    """How a lens bends: a point at r (in half diagonals) from the middle is moved out by 1 + k1·r² + k2·r⁴."""

    k1: float = 0.0
    k2: float = 0.0


STRAIGHT: Final = Lens()  # a lens that does not bend


def photographed(data: bytes, most: int = MOST_OPEN) -> Photo:
    """A photograph, turned as its camera says, brought down to `most` points at the most.

    PNG, JPEG, TIFF, WebP of up to 100 million points. Raises PeristyleError that says what is wrong with it.
    """
    pixels = upright(data, most)
    with opened(data, FORMATS) as picture:
        turned = picture.getexif().get(0x0112, 1) >= 5
        wide = picture.height if turned else picture.width
    return Photo(pixels, pixels.shape[1] / wide)


def unbent(points: Points, lens: Lens) -> Points:
    """Where points would lie without the lens's bend; in half diagonals from the middle."""
    straight = points.copy()
    for _ in range(7):
        r2 = (straight**2).sum(axis=-1, keepdims=True)
        straight = points / (1.0 + lens.k1 * r2 + lens.k2 * r2 * r2)
    return straight


def bent(points: Points, lens: Lens) -> Points:
    """Where the lens puts points; in half diagonals from the middle."""
    r2 = (points**2).sum(axis=-1, keepdims=True)
    made: Points = points * (1.0 + lens.k1 * r2 + lens.k2 * r2 * r2)
    return made


class Plane(NamedTuple):
    """The way from a board, in mm from its bottom start corner, to a photograph's own points."""

    matrix: Points
    lens: Lens
    middle: Points
    half: float

    def of(self, points_mm: Points) -> Points:
        """Where points of the board, (…, 2), lie in the photograph."""
        flat = points_mm.reshape(-1, 2)
        lifted = np.concatenate([flat, np.ones((len(flat), 1))], axis=1) @ self.matrix.T
        straight = lifted[:, :2] / lifted[:, 2:]
        made: Points = (bent(straight, self.lens) * self.half + self.middle).reshape(points_mm.shape)
        return made


def plane_of(
    corners: Points, size: tuple[float, float], length_mm: float, width_mm: float, lens: Lens = STRAIGHT
) -> Plane:
    """The way from a board of that size to a photograph of so many columns and rows, in which its corners lie there.

    Raises PeristyleError where the corners make no four-sided outline.
    """
    middle = np.array([size[0] / 2, size[1] / 2])
    half = math.hypot(*size) / 2
    spans = np.linalg.norm(np.roll(corners, -1, axis=0) - corners, axis=1)
    first, then = (
        np.roll(corners, -1, axis=0) - corners,
        np.roll(corners, -2, axis=0) - np.roll(corners, -1, axis=0),
    )
    turns = first[:, 0] * then[:, 1] - first[:, 1] * then[:, 0]
    if spans.min() < LEAST_SPAN or not (np.all(turns > 0) or np.all(turns < 0)):
        raise PeristyleError(
            "The four corners make no outline of a board: put each on its own corner, in their order."
        )
    straight = unbent((corners - middle) / half, lens)
    board = np.array([(0.0, 0.0), (length_mm, 0.0), (length_mm, width_mm), (0.0, width_mm)])
    matrix = cv2.getPerspectiveTransform(board.astype(np.float32), straight.astype(np.float32))
    matrix = _exactly(board, straight, matrix)
    return Plane(matrix, lens, middle, half)


def _exactly(board: Points, straight: Points, start: NDArray[Any]) -> Points:
    """The same in full precision: the eight numbers that carry four points into four."""
    rows, known = [], []
    for (x, y), (u, v) in zip(board, straight, strict=True):
        rows += [[x, y, 1, 0, 0, 0, -u * x, -u * y], [0, 0, 0, x, y, 1, -v * x, -v * y]]
        known += [u, v]
    try:
        found = np.linalg.solve(np.array(rows), np.array(known))
    except np.linalg.LinAlgError:
        return start.astype(np.float64)
    return np.append(found, 1.0).reshape(3, 3)


def straightened(
    photo: Photo, corners: Points, length_mm: float, width_mm: float, lens: Lens = STRAIGHT
) -> tuple[Pixels, float]:
    """The board from above, (rows, columns, 3), its start at the left and its straight edge below; and px per mm.

    Corners in the photograph's own points. Raises PeristyleError where they make no outline.
    """
    size = (photo.pixels.shape[1] / photo.share, photo.pixels.shape[0] / photo.share)
    plane = plane_of(corners, size, length_mm, width_mm, lens)
    spans = np.linalg.norm(np.roll(corners, -1, axis=0) - corners, axis=1) * photo.share
    dense = max(spans[0], spans[2]) / length_mm
    scale = min(FINEST_PX_PER_MM, dense, math.sqrt(MOST_GIVEN_PIXELS / (length_mm * width_mm)))
    columns, rows = max(8, round(length_mm * scale)), max(8, round(width_mm * scale))
    made = np.empty((rows, columns, 3), dtype=np.uint8)
    x = (np.arange(columns) + 0.5) * length_mm / columns
    for top in range(0, rows, 256):  # in bands, so that the maps stay small
        y = width_mm - (np.arange(top, min(top + 256, rows)) + 0.5) * width_mm / rows
        spots = plane.of(np.stack(np.broadcast_arrays(x[None, :], y[:, None]), axis=-1)) * photo.share - 0.5
        made[top : top + 256] = cv2.remap(
            photo.pixels, spots[..., 0].astype(np.float32), spots[..., 1].astype(np.float32), cv2.INTER_LINEAR,
            borderMode=cv2.BORDER_REPLICATE,
        )  # fmt: skip
    return made, columns / length_mm
