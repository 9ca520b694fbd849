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
from peristyle.wood.pictures import MOST_GIVEN_PIXELS, opened

Points = NDArray[np.float64]
Pixels = NDArray[np.uint8]

FORMATS: Final = ("PNG", "JPEG", "TIFF", "WEBP")
MOST_OPEN: Final = 24_000_000  # points that are kept of a larger photograph
FINEST_PX_PER_MM: Final = 8.0
_USUAL_K2: Final = (
    0.003  # how large the second number of a lens is where the first tells most of it (our assumption)
)
_FREE: Final = 60  # how many places along both edges stray each by itself
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
    from PIL import Image, ImageOps  # late: only who has photographs pays for it

    with opened(data, FORMATS) as picture:
        whole = picture.width * picture.height
        down = min(1.0, math.sqrt(most / whole))
        try:
            turned = picture.getexif().get(0x0112, 1) >= 5
            wide = picture.height if turned else picture.width
            if isinstance(picture, Image.Image) and down < 1.0:
                picture.draft("RGB", (round(picture.width * down), round(picture.height * down)))
            upright = ImageOps.exif_transpose(picture)
            if upright.mode.startswith("I"):  # sixteen bits a point
                upright = upright.point(lambda value: value / 256).convert("L")
            plain = upright.convert("RGB")
        except (OSError, ValueError, SyntaxError, MemoryError) as error:
            raise PeristyleError("The picture is damaged: it cannot be read to its end.") from error
        if plain.width * plain.height > most * 1.02:
            share = math.sqrt(most / (plain.width * plain.height))
            plain = plain.resize(
                (max(1, round(plain.width * share)), max(1, round(plain.height * share))),
                Image.Resampling.BOX,
            )
        pixels = np.asarray(plain, dtype=np.uint8)
    return Photo(pixels, pixels.shape[1] / wide)


def outline(photo: Photo) -> Points | None:
    """The board's four corners in the photograph's own points, None where none is found.

    What differs most from what is seen along the photograph's edges, light that changes slowly left out.
    """
    share = min(1.0, 900.0 / max(photo.pixels.shape[:2]))
    apart = _unlike_the_bench(_smaller(photo.pixels, share))
    apart = np.asarray(cv2.GaussianBlur(apart, (0, 0), 2.0), dtype=np.float32)
    scaled = np.clip(apart * 16.0, 0, 255).astype(np.uint8)
    limit, mask = cv2.threshold(scaled, 0, 255, cv2.THRESH_BINARY + cv2.THRESH_OTSU)
    if limit < 24.0:
        return None
    kernel = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (7, 7))
    mask = cv2.morphologyEx(cv2.morphologyEx(mask, cv2.MORPH_OPEN, kernel), cv2.MORPH_CLOSE, kernel)
    count, labels, stats, _middles = cv2.connectedComponentsWithStats(mask)
    if count < 2:
        return None
    largest = 1 + int(np.argmax(stats[1:, cv2.CC_STAT_AREA]))
    if stats[largest, cv2.CC_STAT_AREA] < 0.01 * mask.size:
        return None
    body = (labels == largest).astype(np.uint8)
    contours, _tree = cv2.findContours(body, cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
    hull = cv2.convexHull(max(contours, key=cv2.contourArea))
    if stats[largest, cv2.CC_STAT_AREA] < 0.75 * cv2.contourArea(hull):
        return None
    quad = _quad(hull) + 0.5
    for _ in range(2):
        refined = _refined(apart, quad)
        if refined is None:
            break
        quad = refined
    corners = _to_the_bend(apart, in_order(quad), 12.0) / share
    # Once more on a finer picture, where the outline is known.
    finer = min(1.0, 2600.0 / max(photo.pixels.shape[:2]))
    fine = _smaller(photo.pixels, finer)
    for _ in range(2):
        about = _unlike_the_bench_about(fine, corners * finer)
        corners = _to_the_bend(about, corners * finer, 8.0, 8.0) / finer
    made: Points = corners / photo.share
    return made


def _smaller(pixels: Pixels, share: float) -> Pixels:
    return np.asarray(
        cv2.resize(pixels, None, fx=share, fy=share, interpolation=cv2.INTER_AREA), dtype=np.uint8
    )


def _unlike_the_bench(pixels: Pixels) -> NDArray[np.float32]:
    """How far every point's colour is from the bench's, in its own spread; light may fall off over the bench."""
    lab = cv2.cvtColor(pixels.astype(np.float32) / np.float32(255.0), cv2.COLOR_RGB2LAB)
    rows, columns = lab.shape[:2]
    edge = max(3, round(0.03 * min(rows, columns)))
    rim = np.ones((rows, columns), dtype=bool)
    rim[edge:-edge, edge:-edge] = False
    v, u = np.mgrid[-1 : 1 : rows * 1j, -1 : 1 : columns * 1j].astype(np.float32)
    terms = np.stack([np.ones_like(u), u, v, u * u, u * v, v * v], axis=-1)
    apart = np.zeros((rows, columns), dtype=np.float32)
    for channel in range(3):
        # What the bench would be everywhere, from its rim; again without what does not belong to it.
        own = rim.copy()
        for _ in range(3):
            fitted, *_rest = np.linalg.lstsq(terms[own], lab[..., channel][own], rcond=None)
            off = lab[..., channel] - terms @ fitted
            spread = max(1.0, float(np.median(np.abs(off[own]))) * 1.48)
            own = rim & (np.abs(off) < 3.0 * spread)
        apart += (off / np.float32(spread)) ** 2
    return np.minimum(np.sqrt(apart), 16.0).astype(np.float32)


def _quad(hull: NDArray[Any]) -> Points:
    """The four-sided outline nearest to a hull."""
    round_it = cv2.arcLength(hull, True)
    for share in np.linspace(0.01, 0.12, 23):
        made = cv2.approxPolyDP(hull, share * round_it, True).reshape(-1, 2)
        if len(made) == 4:
            return made.astype(np.float64)
    return cv2.boxPoints(cv2.minAreaRect(hull)).astype(np.float64)


def in_order(quad: Points) -> Points:
    """Four corners as bottom start, bottom end, top end, top start: the long way along x, however it lies.

    A board that stands upright in the photograph has its start below.
    """
    middle = quad.mean(axis=0)
    around = quad[np.argsort(np.arctan2(-(quad[:, 1] - middle[1]), quad[:, 0] - middle[0]))]
    lengths = np.linalg.norm(np.roll(around, -1, axis=0) - around, axis=1)
    # A long edge first, counter-clockwise as it is seen; of the two that which lies lower, or runs up at the right.
    first = 0 if lengths[0] + lengths[2] >= lengths[1] + lengths[3] else 1
    a, b = around[first], around[(first + 1) % 4]
    along = b - a
    forward = along[0] > 0 if abs(along[0]) >= abs(along[1]) else along[1] < 0
    return np.roll(around, -(first if forward else first + 2), axis=0)


def _refined(apart: NDArray[np.float32], quad: Points) -> Points | None:
    """Corners where the outline's own edges meet, each a line through the places where the bench ends."""
    lines = []
    for k in range(4):
        points = edge_points(apart, quad[k], quad[(k + 1) % 4], _inward(quad, k), 40)
        if len(points) < 8:
            return None
        lines.append(_line(points))
    made = np.array([_meet(lines[k - 1], lines[k]) for k in range(4)])
    moved = np.linalg.norm(made - quad, axis=1)
    return made if np.isfinite(made).all() and moved.max() < 0.1 * max(apart.shape) else None


def snapped(photo: Photo, corners: Points) -> Points:
    """Corners set by hand, moved by up to two points onto the edges that are seen there; the photograph's own points.

    Only across the board: the end of a stretch that is measured off stays where it was set.
    """
    own = corners * photo.share
    apart = _unlike_the_bench_about(photo.pixels, own)
    moved = _to_the_bend(apart, own, 2.5, 4.0, sure=True)
    # What the hand set within a point or so is as good as what is seen.
    near = np.linalg.norm(moved - own, axis=1, keepdims=True) < 0.8
    made: Points = np.where(near, own, moved) / photo.share
    return made


def _to_the_bend(
    apart: NDArray[np.float32], quad: Points, most: float, reach: float = 0.0, *, sure: bool = False
) -> Points:
    """Corners where the edges, bent as a lens bends them, meet; none moved by more than `most`."""
    made = quad.copy()
    for k in range(4):
        a, b = quad[k], quad[(k + 1) % 4]
        span = b - a
        normal = np.array([-span[1], span[0]]) / np.linalg.norm(span)
        long = k % 2 == 0
        if sure and not long:
            continue  # a point along the board is worth little; across it, it tells how the board leans away
        bulge = 0.02 * float(np.linalg.norm(span)) if long else 0.0
        points = edge_points(
            apart, a, b, _inward(quad, k), 120 if long else 60, reach + bulge if reach else 0.0
        )
        if len(points) < 20:
            continue
        if sure and long:  # once more, nearly to the ends, about the curve through them
            curve = _curve(np.concatenate([[a], points, [b]]), 0.8)[0]
            points = edge_points(apart, a, b, _inward(quad, k), 420, 4.0, curve)
        along = (points - a) @ span / (span @ span)
        off = (points - a) @ normal
        good = np.ones(len(points), dtype=bool)
        for _ in range(4):
            fitted = np.polynomial.polynomial.polyfit(
                along[good], off[good], (4 if sure else 3) if long else 1
            )
            stray = np.abs(np.polynomial.polynomial.polyval(along, fitted) - off)
            good = stray <= max(0.5, 2.0 * float(np.median(stray)))
        if sure and (good.sum() < 0.7 * len(points) or float(np.median(stray)) > 0.6):
            continue  # nothing straight is to be seen there
        for corner, share, beside in ((k, 0.0, (k - 1) % 4), ((k + 1) % 4, 1.0, (k + 2) % 4)):
            short = quad[beside] - quad[corner]
            lean = short @ normal
            if abs(lean) > 1e-6:
                moved = np.polynomial.polynomial.polyval(share, fitted) / lean * short
                made[corner] = made[corner] + moved if np.linalg.norm(moved) < most else made[corner]
    return made


def _inward(quad: Points, k: int) -> Points:
    a, b = quad[k], quad[(k + 1) % 4]
    normal = np.array([-(b - a)[1], (b - a)[0]])
    normal /= max(np.linalg.norm(normal), 1e-9)
    return normal if normal @ (quad.mean(axis=0) - a) > 0 else -normal


def edge_points(
    apart: NDArray[np.float32],
    a: Points,
    b: Points,
    inward: Points,
    count: int,
    reach: float = 0.0,
    curve: Points | None = None,
) -> Points:
    """Places along an edge where what is within begins: the steepest rise on lines across it, (places, 2).

    With a `curve`, the numbers of a polynomial over the share of the way, the lines are about that.
    """
    span = float(np.linalg.norm(b - a))
    reach = reach or min(0.06 * span, 24.0) + 4.0
    steps = np.arange(-reach, reach + 0.25, 0.5)
    shares = np.linspace(*((0.04, 0.96) if curve is None else (0.012, 0.988)), count)
    at = a + shares[:, None] * (b - a)
    if curve is not None:
        unit = (b - a) / span
        at = at + np.polynomial.polynomial.polyval(shares, curve)[:, None] * np.array([-unit[1], unit[0]])
    spots = at[:, None, :] + steps[None, :, None] * inward
    spots = (spots - 0.5).astype(np.float32)  # a picture's first point has its middle half a point in
    values = cv2.remap(apart, spots[..., 0], spots[..., 1], cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
    values = cv2.GaussianBlur(values, (0, 0), sigmaX=2.0, sigmaY=0.01)
    rise = np.diff(values, axis=1)
    best = rise[:, 1:-1].argmax(axis=1) + 1
    row = np.arange(count)
    low, high, top = rise[row, best - 1], rise[row, best + 1], rise[row, best]
    bend = low - 2 * top + high
    off = np.where(np.abs(bend) > 1e-9, 0.5 * (low - high) / np.where(bend == 0, 1.0, bend), 0.0)
    good = top > 0.25 * np.median(top)
    places = at + ((steps[0] + 0.25 + (best + np.clip(off, -1, 1)) * 0.5)[:, None]) * inward
    made: Points = places[good]
    return made


def _line(points: Points) -> tuple[Points, Points]:
    """A line through points, those that lie off it left out: a point on it and its direction."""
    kept = points
    for _ in range(4):
        middle = kept.mean(axis=0)
        _u, _s, way = np.linalg.svd(kept - middle)
        off = np.abs((points - middle) @ np.array([-way[0][1], way[0][0]]))
        kept = points[off <= max(0.6, 2.0 * float(np.median(off)))]
        if len(kept) < 4:
            break
    return middle, way[0]


def _meet(first: tuple[Points, Points], second: tuple[Points, Points]) -> Points:
    (p, u), (q, v) = first, second
    det = u[0] * -v[1] + v[0] * u[1]
    if abs(det) < 1e-9:
        return np.array([math.nan, math.nan])
    d = q - p
    made: Points = p + (d[0] * -v[1] + v[0] * d[1]) / det * u
    return made


def lens_of(photo: Photo, corners: Points) -> Lens:
    """The lens's bend, from the board's long edges: what makes both of them straight.

    None is told where the edges cannot be followed, or are straight as they are. Corners in the photograph's own
    points.
    """
    own = corners * photo.share
    apart = _unlike_the_bench_about(photo.pixels, own)
    edges = []
    for k in (0, 2):
        a, b = own[k], own[(k + 1) % 4]
        inward = _inward(own, k)
        points = edge_points(apart, a, b, inward, 160, 0.035 * float(np.linalg.norm(b - a)) + 6.0)
        if len(points) < 60:
            return Lens()
        # Once more close to the curve through them: wood has lines of its own along its edges.
        curve = _curve(np.concatenate([[a], points, [b]]), 0.8)[0]
        points = edge_points(apart, a, b, inward, 420, 4.0, curve)
        edges.append(points[_curve(points, 0.3)[1]])
    size = photo.pixels.shape
    half = math.hypot(size[0], size[1]) / 2
    middle = np.array([size[1] / 2, size[0] / 2])
    told = [(edge - middle) / half for edge in edges]

    def cost(k1: float, k2: float) -> float:
        return sum(_bent(unbent(edge, Lens(k1, k2))) for edge in told)

    least, k1 = min((cost(k1, 0.0), float(k1)) for k1 in np.linspace(-0.3, 0.3, 61))
    # The two numbers make up for each other: of two lenses as good, the one that bends more simply.
    dear = least / _FREE / _USUAL_K2**2
    k2, step = 0.0, 0.01
    best = least
    for _ in range(90):  # one way and the other, ever finer
        ways = ((step, 0.0), (-step, 0.0), (0.0, step), (0.0, -step), (step, -step), (-step, step))
        found, pair = min((cost(k1 + a, k2 + b) + dear * (k2 + b) ** 2, (k1 + a, k2 + b)) for a, b in ways)
        if found < best:
            best, (k1, k2) = found, pair
        else:
            step /= 1.7
    return Lens(k1, k2) if best < 0.95 * cost(0.0, 0.0) else Lens()


def _unlike_the_bench_about(pixels: Pixels, corners: Points) -> NDArray[np.float32]:
    """How far each point's colour is on the way from the bench's to the board's, near an outline that is known.

    Both are taken from strips beside the outline, so that the bench may be of any kind.
    """
    lab = cv2.cvtColor(pixels.astype(np.float32) / np.float32(255.0), cv2.COLOR_RGB2LAB)
    inner, outer = np.zeros(pixels.shape[:2], np.uint8), np.zeros(pixels.shape[:2], np.uint8)
    middle = corners.mean(axis=0)
    spans = np.linalg.norm(np.roll(corners, -1, axis=0) - corners, axis=1)
    wide = min(spans[1], spans[3])
    for mask, grow in ((inner, -0.12), (outer, 0.12)):
        away = corners - middle
        unit = away / np.linalg.norm(away, axis=1, keepdims=True)
        cv2.fillConvexPoly(mask, np.round(corners + unit * grow * wide).astype(np.int32), 1)
    board = lab[inner > 0]
    cv2.fillConvexPoly(outer, np.round(corners + (corners - middle) * 0.02).astype(np.int32), 0)
    bench = lab[outer > 0]
    if len(board) < 50 or len(bench) < 50:
        return lab[..., 0].astype(np.float32)
    away = np.median(board, axis=0) - np.median(bench, axis=0)
    spread = np.maximum(bench.std(axis=0) + board.std(axis=0), 1.0)
    weight = away / spread**2
    made: NDArray[np.float32] = ((lab - np.median(bench, axis=0)) @ weight).astype(np.float32)
    return made


def _curve(points: Points, least: float) -> tuple[Points, NDArray[np.bool_]]:
    """A polynomial through points along an edge, over the share of the way from the first to the last, and which of
    them do not stray from it.
    """
    way = points[-1] - points[0]
    long = float(np.linalg.norm(way))
    unit = way / long
    along = (points - points[0]) @ unit / long
    off = (points - points[0]) @ np.array([-unit[1], unit[0]])
    good = np.ones(len(points), dtype=bool)
    for _ in range(6):
        fitted = np.polynomial.polynomial.polyfit(along[good], off[good], 4)
        stray = np.abs(np.polynomial.polynomial.polyval(along, fitted) - off)
        good = stray <= max(least, 2.0 * float(np.median(stray)))
    return fitted, good


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


def _bent(points: Points) -> float:
    """How far points stray from a straight line, for the line's own length."""
    middle = points.mean(axis=0)
    _u, size, _way = np.linalg.svd(points - middle, full_matrices=False)
    return float((size[1] / size[0]) ** 2)


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
