"""Where a board lies in a photograph: its outline found unaided, corners set by hand brought onto the edges that are
seen, and the lens's bend told from the board's long edges.

Corners and lens are settled together: all places where the bench ends along an edge are to lie on that edge of one
flat board seen through one lens (least squares, what strays left out).
"""

import math
from typing import Any, Final, NamedTuple

import cv2
import numpy as np
from numpy.typing import NDArray

from peristyle.core.errors import PeristyleError
from peristyle.wood.photo import Lens, Photo, Pixels, Plane, Points, plane_of, unbent

_MOST_K1: Final = 0.3  # no lens that pictures are taken with bends more (our assumption)
_SAGS_K1: Final = 0.12  # edges are looked for as far off as this bends them
_USUAL: Final = (0.1, 0.003)  # how large the two numbers of a lens are (our assumption)
_STEEP: Final = 0.5  # of the steepest rise on a line
_NEAR_PX: Final = 3.0  # how far corners set by hand are moved at the most
_FINEST: Final = 2600.0  # columns or rows of the picture that edges are looked for in
# How much a point off a corner counts beside a point off an edge: of one found unaided, of one set by hand.
_FOUND: Final = 0.1
_SET: Final = 4.0
_FREE: Final = 60  # how many places along the edges stray each by itself
_STRAYS_PX: Final = 0.3  # how far a place on an edge is off by itself
_COUNTS: Final = (420, 60)  # places looked at along a long edge and along a short one


def outline(photo: Photo) -> Points | None:
    """The board's four corners in the photograph's own points, None where none is found.

    What differs most from what is seen along the photograph's edges, light that changes slowly left out; where that
    gives no board, by color alone, which a shadow leaves as it is.
    """
    share = min(1.0, 900.0 / max(photo.pixels.shape[:2]))
    small = _smaller(photo.pixels, share)
    found = _board_in(photo, share, _unlike_the_bench(_in_lab(small)))
    return found if found is not None else _board_in(photo, share, _unlike_the_bench(_hues(small)))


def _board_in(photo: Photo, share: float, apart: NDArray[np.float32]) -> Points | None:
    """The board where a smaller picture is unlike the bench; None where that is no board's shape."""
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
    corners = in_order(quad) / share
    # Once more on a finer picture, where the outline is known.
    found = _settled(photo, corners / photo.share, ends=True, reach_px=7.0, held=_FOUND)
    return found.corners if found else corners / photo.share


def _smaller(pixels: Pixels, share: float) -> Pixels:
    return np.asarray(
        cv2.resize(pixels, None, fx=share, fy=share, interpolation=cv2.INTER_AREA), dtype=np.uint8
    )


def _in_lab(pixels: Pixels) -> NDArray[np.float32]:
    """Lightness and color, as the eye tells them apart."""
    made = cv2.cvtColor(pixels.astype(np.float32) / np.float32(255.0), cv2.COLOR_RGB2LAB)
    return np.asarray(made, dtype=np.float32)


def _hues(pixels: Pixels) -> NDArray[np.float32]:
    """Color alone: the logarithms of red and of blue over green, in hundredths, which less light does not change."""
    linear = np.power(pixels.astype(np.float32) / np.float32(255.0), 2.2) + np.float32(0.003)
    logs = 100.0 * np.log(cv2.GaussianBlur(linear, (0, 0), 1.2))
    made = np.stack([logs[..., 0] - logs[..., 1], logs[..., 2] - logs[..., 1]], axis=-1)
    return np.asarray(made, dtype=np.float32)


def _unlike_the_bench(lab: NDArray[np.float32]) -> NDArray[np.float32]:
    """How far every point's color is from the bench's, in its own spread; light may fall off over the bench."""
    rows, columns = lab.shape[:2]
    edge = max(3, round(0.03 * min(rows, columns)))
    rim = np.ones((rows, columns), dtype=bool)
    rim[edge:-edge, edge:-edge] = False
    v, u = np.mgrid[-1 : 1 : rows * 1j, -1 : 1 : columns * 1j].astype(np.float32)
    terms = np.stack([np.ones_like(u), u, v, u * u, u * v, v * v], axis=-1)
    apart = np.zeros((rows, columns), dtype=np.float32)
    for channel in range(lab.shape[2]):
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
        points = _edge_points(apart, quad[k], quad[(k + 1) % 4], _inward(quad, k), 40)
        if len(points) < 8:
            return None
        lines.append(_line(points))
    made = np.array([_meet(lines[k - 1], lines[k]) for k in range(4)])
    moved = np.linalg.norm(made - quad, axis=1)
    return made if np.isfinite(made).all() and moved.max() < 0.1 * max(apart.shape) else None


class _Settled(NamedTuple):
    """Corners and the lens."""

    corners: Points
    lens: Lens


def snapped(photo: Photo, corners: Points) -> Points:
    """Corners set by hand, moved by up to three points onto the edges that are seen there; the photograph's own points.

    Only across the board: the end of a stretch that is measured off stays where it was set.
    """
    found = _about(photo, corners)
    return found.corners if found and _moved(found, corners) < _NEAR_PX else corners


def lens_of(photo: Photo, corners: Points) -> Lens:
    """The lens's bend, from the board's long edges: what makes both of them straight.

    None is told where the edges cannot be followed, or are straight as they are. Corners in the photograph's own
    points.
    """
    found = _about(photo, corners)
    return found.lens if found else Lens()


def _about(photo: Photo, corners: Points) -> _Settled | None:
    """Corners and lens near corners that are known: with the short edges where those are the board's own."""
    found = _settled(photo, corners, ends=True, reach_px=7.0, held=_SET)
    if found is None or _moved(found, corners) > _NEAR_PX:
        found = _settled(photo, corners, ends=False, reach_px=4.0, held=_SET)
    return found


def _moved(found: _Settled, corners: Points) -> float:
    return float(np.linalg.norm(found.corners - corners, axis=1).max())


def _settled(photo: Photo, corners: Points, *, ends: bool, reach_px: float, held: float) -> _Settled | None:
    """Corners, in the photograph's own points, and lens from all places where the bench ends; None where the long
    edges cannot be followed.

    With `ends` the short edges are looked for as well; else each corner stays where it is along the board. On a
    picture not too fine, whose points say more than their noise.
    """
    share = min(1.0, _FINEST / max(photo.pixels.shape[:2]))
    found = _settled_in(
        _smaller(photo.pixels, share), corners * photo.share * share, ends=ends, reach_px=reach_px, held=held
    )
    return found._replace(corners=found.corners / share / photo.share) if found else None


def _settled_in(
    pixels: Pixels, corners: Points, *, ends: bool, reach_px: float, held: float
) -> _Settled | None:
    apart = _unlike_the_bench_about(pixels, corners)
    size = (pixels.shape[1], pixels.shape[0])
    now = _Settled(corners, Lens())
    for step in range(4):
        seen = []
        for k in range(4):
            long = k % 2 == 0
            if not long and not ends:
                continue
            sag = _sag(pixels.shape, corners[k], corners[(k + 1) % 4]) if long and step == 0 else 0.0
            try:
                at, inward = _along(plane_of(now.corners, size, 1.0, 1.0, now.lens), k, _COUNTS[k % 2])
            except PeristyleError:
                return None
            points = _rises(apart, at, inward, (reach_px if step < 2 else min(reach_px, 3.0)) + sag)
            if len(points) < 20:
                return None
            seen.append((k, points))
        now = _fitted(seen, now, corners, size, ends=ends, held=held, loose=step == 0)
        if not np.isfinite(now.corners).all():
            return None
    return now


def _along(plane: Plane, k: int, count: int) -> tuple[Points, Points]:
    """Places along the board's edge `k` in the picture, and the ways into the board there (length 1)."""
    share = np.linspace(0.01, 0.99, count)
    nought, one = np.zeros(count), np.ones(count)
    along = {0: (share, nought), 1: (one, share), 2: (share, one), 3: (nought, share)}[k]
    board = np.stack(along, axis=1)
    at = plane.of(board)
    on = plane.of(board + ((0.001, 0.0) if k % 2 == 0 else (0.0, 0.001)))
    way = on - at
    normal = np.stack([-way[:, 1], way[:, 0]], axis=1) / np.linalg.norm(way, axis=1, keepdims=True)
    inner = plane.of(np.array([(0.5, 0.5)]))[0] - at
    return at, normal * np.sign((normal * inner).sum(axis=1, keepdims=True))


def _rises(apart: NDArray[np.float32], at: Points, inward: Points, reach: float) -> Points:
    """Where what is within begins on a line across the edge at each place, (places, 2).

    The outermost of the steep rises: wood has lines of its own along its edges, the bench has none.
    """
    steps = np.arange(-reach, reach + 0.25, 0.5)
    spots = at[:, None, :] + steps[None, :, None] * inward[:, None, :]
    spots = (spots - 0.5).astype(np.float32)  # a picture's first point has its middle half a point in
    values = cv2.remap(apart, spots[..., 0], spots[..., 1], cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
    values = cv2.GaussianBlur(values, (0, 0), sigmaX=2.0, sigmaY=0.01)
    rise = np.diff(values, axis=1)
    inside = rise[:, 1:-1]
    peaks = (
        (inside >= rise[:, :-2])
        & (inside >= rise[:, 2:])
        & (inside >= _STEEP * inside.max(axis=1, keepdims=True))
    )
    best = peaks.argmax(axis=1) + 1
    row = np.arange(len(at))
    low, high, top = rise[row, best - 1], rise[row, best + 1], rise[row, best]
    bend = low - 2 * top + high
    off = np.where(np.abs(bend) > 1e-9, 0.5 * (low - high) / np.where(bend == 0, 1.0, bend), 0.0)
    places = at + ((steps[0] + 0.25 + (best + np.clip(off, -1, 1)) * 0.5)[:, None]) * inward
    made: Points = places[top > 0.25 * np.median(top)]
    return made


def _fitted(
    seen: list[tuple[int, Points]],
    start: _Settled,
    set_so: Points,
    size: tuple[int, int],
    *,
    ends: bool,
    held: float,
    loose: bool,
) -> _Settled:
    """The corners and the lens that bring all places onto their edges."""
    from scipy.optimize import least_squares  # late: only who straightens a photograph pays for it

    middle, half = np.array([size[0] / 2, size[1] / 2]), math.hypot(*size) / 2
    span = np.linalg.norm(np.roll(start.corners, -1, axis=0) - start.corners, axis=1)
    tall, long = (span[1] + span[3]) / 2, (span[0] + span[2]) / 2
    along = (start.corners[1] - start.corners[0] + start.corners[2] - start.corners[3]) / (2 * long)
    told = [(k, (points - middle) / half) for k, points in seen]

    def strays(
        values: NDArray[np.float64], kept: list[NDArray[np.bool_]] | None = None
    ) -> NDArray[np.float64]:
        lens = Lens(float(values[8]), float(values[9]))
        try:
            matrix = np.linalg.inv(plane_of(values[:8].reshape(4, 2), size, 1.0, 1.0, lens).matrix)
        except (PeristyleError, np.linalg.LinAlgError):
            return np.full(sum(len(points) for _k, points in told) + 14, 1e3)
        found = []
        for k, points in told:
            flat = unbent(points, lens)
            on = np.concatenate([flat, np.ones((len(flat), 1))], axis=1) @ matrix.T
            at = on[:, :2] / on[:, 2:]
            found.append((at[:, 1] - k // 2) * tall if k % 2 == 0 else (at[:, 0] - (k == 1)) * long)
        off = values[:8].reshape(4, 2) - set_so
        count = sum(len(points) for _k, points in told)
        hold = [values[8:] / _USUAL * _STRAYS_PX * math.sqrt(count / _FREE)]
        hold.append((off @ along) * (0.02 if ends else 20.0))
        hold.append(((off - (off @ along)[:, None] * along) * held).ravel())
        return np.concatenate([*found, *hold])

    first = np.concatenate([start.corners.ravel(), start.lens])
    wide = np.array([_MOST_K1, 1.0])  # how far the numbers of a lens may go
    bounds = (np.concatenate([first[:8] - 40.0, -wide]), np.concatenate([first[:8] + 40.0, wide]))
    found = least_squares(
        strays,
        first,
        bounds=bounds,
        loss="soft_l1",
        f_scale=(6.0 if loose else 1.0) * _STRAYS_PX,
        x_scale=[1.0] * 8 + [0.01] * 2,
    )
    return _Settled(found.x[:8].reshape(4, 2), Lens(float(found.x[8]), float(found.x[9])))


def _sag(shape: tuple[int, ...], a: Points, b: Points) -> float:
    """How far from the straight line between two points a lens may bend an edge, in points: one that passes near the
    picture's middle hardly at all.
    """
    middle, half = np.array([shape[1] / 2, shape[0] / 2]), math.hypot(shape[0], shape[1]) / 2
    span = float(np.linalg.norm(b - a))
    unit = (b - a) / span
    aside = abs(float((a - middle) @ np.array([-unit[1], unit[0]])))
    return _SAGS_K1 * aside * (span / 2 / half) ** 2 + 0.0006 * span


def _inward(quad: Points, k: int) -> Points:
    a, b = quad[k], quad[(k + 1) % 4]
    normal = np.array([-(b - a)[1], (b - a)[0]])
    normal /= max(np.linalg.norm(normal), 1e-9)
    return normal if normal @ (quad.mean(axis=0) - a) > 0 else -normal


def _edge_points(apart: NDArray[np.float32], a: Points, b: Points, inward: Points, count: int) -> Points:
    """Places along a straight edge where what is within begins, (places, 2)."""
    at = a + np.linspace(0.04, 0.96, count)[:, None] * (b - a)
    reach = min(0.06 * float(np.linalg.norm(b - a)), 24.0) + 4.0
    return _rises(apart, at, np.broadcast_to(inward, at.shape), reach)


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


def _unlike_the_bench_about(pixels: Pixels, corners: Points) -> NDArray[np.float32]:
    """How far each point's colour is on the way from the bench's to the board's, near an outline that is known.

    Both are taken from strips beside the outline, so that the bench may be of any kind; what both spread by, as where
    the light falls off, counts least.
    """
    lab = cv2.cvtColor(pixels.astype(np.float32) / np.float32(255.0), cv2.COLOR_RGB2LAB)
    masks = []
    for grow, but in ((-0.04, -0.3), (0.3, 0.06)):
        mask = np.zeros(pixels.shape[:2], np.uint8)
        cv2.fillConvexPoly(mask, np.round(_grown(corners, grow)).astype(np.int32), 1)
        cv2.fillConvexPoly(mask, np.round(_grown(corners, but)).astype(np.int32), 0)
        masks.append(mask)
    board, bench = (lab[mask > 0] for mask in masks)
    if len(board) < 50 or len(bench) < 50:
        return lab[..., 0].astype(np.float32)
    spread = np.cov(board, rowvar=False) + np.cov(bench, rowvar=False) + np.eye(3)
    weight = np.linalg.solve(spread, np.median(board, axis=0) - np.median(bench, axis=0)).astype(np.float32)
    made: NDArray[np.float32] = ((lab - np.median(bench, axis=0)) @ weight).astype(np.float32)
    return made


def _grown(corners: Points, share: float) -> Points:
    """An outline with every edge moved outward by a share of the board's width, or inward."""
    ahead, behind = np.roll(corners, -1, axis=0) - corners, np.roll(corners, 1, axis=0) - corners
    lengths = np.linalg.norm(ahead, axis=1)
    wide = min(lengths[1], lengths[3])
    ahead /= lengths[:, None]
    behind /= np.linalg.norm(behind, axis=1, keepdims=True)
    made: Points = corners - (ahead + behind) * share * wide
    return made
