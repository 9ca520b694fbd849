"""A simulated camera: boards photographed on a bench, so that all that is done with photographs can be tried.

Perspective, a lens that bends, uneven light, blur, noise and JPEG; the bench is of some other colour than wood.
"""

import io
import math
from typing import Any, Final, NamedTuple

import cv2
import numpy as np
from numpy.typing import NDArray

from peristyle.wood.photo import Lens, Plane, unbent

BENCHES: Final = (
    (78, 84, 92),
    (196, 194, 188),
    (58, 92, 74),
    (120, 116, 112),
    (40, 42, 46),
)  # mats and cloths


class Camera(NamedTuple):
    """How a photograph is taken. `tilt_deg` from straight above, along and across the board; `roll_deg` as it is held.

    `fills` is how much of the photograph's width the board takes, `lens` its bend, `falloff` how much darker the far
    corner is, `blur_px` and `noise` (of 255) as they are, `quality` of the JPEG.
    """

    columns: int = 4000
    rows: int = 3000
    tilt_deg: tuple[float, float] = (6.0, -9.0)
    roll_deg: float = 1.5
    fills: float = 0.86
    lens: Lens = Lens(-0.06, 0.001)
    falloff: float = 0.25
    blur_px: float = 0.8
    noise: float = 3.0
    quality: int = 88


class Shot(NamedTuple):
    """A photograph as a JPEG, and the true way from the board (mm) to its points."""

    jpeg: bytes
    plane: Plane


def chance_camera(seed: int, columns: int = 3000, rows: int = 2000) -> Camera:
    """A camera held some way or other."""
    chance = np.random.default_rng([seed, 77])
    return Camera(
        columns, rows, (float(chance.uniform(-14, 14)), float(chance.uniform(-16, 16))),
        float(chance.uniform(-5, 5)), float(chance.uniform(0.74, 0.88)),
        Lens(float(chance.uniform(-0.10, 0.06)), float(chance.uniform(-0.001, 0.001))),
        float(chance.uniform(0.0, 0.4)), float(chance.uniform(0.4, 1.2)), float(chance.uniform(1.0, 5.0)), 80,
    )  # fmt: skip


def photograph(
    picture: NDArray[np.uint8], length_mm: float, width_mm: float, camera: Camera | None = None, seed: int = 1
) -> Shot:
    """A photograph of a board, its face given as (rows, columns, 3), row 0 its top edge, column 0 its start."""
    from PIL import Image  # late: see wood.photo

    camera = camera or Camera()
    chance = np.random.default_rng([seed, 5])
    plane = _seen_from(camera, length_mm, width_mm)
    inverse = np.linalg.inv(plane.matrix)
    made = np.empty((camera.rows, camera.columns, 3), dtype=np.uint8)
    bench = _bench(chance, camera)
    light = _light(chance, camera)
    scale = picture.shape[1] / length_mm
    source: Any = picture
    for top in range(0, camera.rows, 256):
        v, u = np.mgrid[top : min(top + 256, camera.rows), 0 : camera.columns].astype(np.float64)
        points = np.stack([u + 0.5, v + 0.5], axis=-1)
        flat = unbent((points - plane.middle) / plane.half, plane.lens)
        lifted = np.concatenate([flat, np.ones((*flat.shape[:2], 1))], axis=-1) @ inverse.T
        mm = lifted[..., :2] / lifted[..., 2:]
        x = (mm[..., 0] * scale - 0.5).astype(np.float32)
        y = ((width_mm - mm[..., 1]) * scale - 0.5).astype(np.float32)
        wood = cv2.remap(source, x, y, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE).astype(np.float32)
        # Over the edge in a point's width, as a lens does it.
        px = 1.0 / max(camera.columns * camera.fills / length_mm, 1e-6)
        inside = np.minimum.reduce([mm[..., 0], length_mm - mm[..., 0], mm[..., 1], width_mm - mm[..., 1]])
        cover = np.clip(inside / px + 0.5, 0.0, 1.0).astype(np.float32)[..., None]
        both = wood * cover + bench[top : top + 256] * (1 - cover)
        made[top : top + 256] = np.clip(both * light[top : top + 256, :, None], 0, 255).astype(np.uint8)
    if camera.blur_px > 0:
        made = np.asarray(cv2.GaussianBlur(made, (0, 0), camera.blur_px), dtype=np.uint8)
    grain = chance.standard_normal((camera.rows, camera.columns, 1), dtype=np.float32) * camera.noise
    made = np.clip(made + grain, 0, 255).astype(np.uint8)
    held = io.BytesIO()
    Image.fromarray(made).save(held, "JPEG", quality=camera.quality)
    return Shot(held.getvalue(), plane)


def _seen_from(camera: Camera, length_mm: float, width_mm: float) -> Plane:
    """The way from the board to the photograph: the camera over its middle, tilted and rolled."""
    across, along = (math.radians(v) for v in camera.tilt_deg)
    roll = math.radians(camera.roll_deg)
    ca, sa, cb, sb, cr, sr = *_turn(across), *_turn(along), *_turn(roll)
    turned = (
        np.array([[cr, -sr, 0], [sr, cr, 0], [0, 0, 1]])
        @ np.array([[1, 0, 0], [0, ca, -sa], [0, sa, ca]])
        @ np.array([[cb, 0, sb], [0, 1, 0], [-sb, 0, cb]])
    )
    half = math.hypot(camera.columns, camera.rows) / 2
    focal = 1.25 * camera.columns / half  # about what a telephone has
    far = focal * half * length_mm / (camera.fills * camera.columns)
    # The board's own y runs up, a photograph's down.
    board = np.array([[1.0, 0.0, -length_mm / 2], [0.0, -1.0, width_mm / 2], [0.0, 0.0, 0.0]])
    placed = turned @ board
    placed[2, 2] += far
    matrix = np.diag([focal, focal, 1.0]) @ placed
    middle = np.array([camera.columns / 2, camera.rows / 2])
    return Plane(matrix / matrix[2, 2], camera.lens, middle, half)


def _turn(angle: float) -> tuple[float, float]:
    return math.cos(angle), math.sin(angle)


def _bench(chance: np.random.Generator, camera: Camera) -> NDArray[np.float32]:
    base = np.array(BENCHES[chance.integers(len(BENCHES))], dtype=np.float32)
    small = chance.standard_normal((camera.rows // 40 + 2, camera.columns // 40 + 2)).astype(np.float32)
    soft = cv2.resize(small, (camera.columns, camera.rows), interpolation=cv2.INTER_CUBIC)
    fine = chance.standard_normal((camera.rows, camera.columns), dtype=np.float32)
    made: NDArray[np.float32] = base + (soft * 2.5 + fine * 2.0)[..., None]
    return made


def _light(chance: np.random.Generator, camera: Camera) -> NDArray[np.float32]:
    """Brightness over the photograph: 1 at the brightest corner, less by `falloff` at the darkest."""
    turn = chance.uniform(0, 2 * math.pi)
    v, u = np.mgrid[-1 : 1 : camera.rows * 1j, -1 : 1 : camera.columns * 1j].astype(np.float32)
    slope = u * np.float32(math.cos(turn)) + v * np.float32(math.sin(turn))
    bowl = (u * u + v * v) / 2
    both = 0.6 * (slope - slope.min()) / (slope.max() - slope.min()) + 0.4 * bowl
    made: NDArray[np.float32] = (1.0 - camera.falloff * both).astype(np.float32)
    return made
