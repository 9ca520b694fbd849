"""Pictures of boards as they lie on the bench: grown, or given as a photograph straight and to scale."""

import io
import math
import warnings
from typing import TYPE_CHECKING, Final, NamedTuple

import numpy as np

from peristyle.core.errors import PeristyleError
from peristyle.wood.grown import Picture, end_picture, end_scale_for, face_picture, scale_for
from peristyle.wood.looks import Given, Look, Surface

if TYPE_CHECKING:
    from PIL import Image

MOST_GIVEN_PIXELS: Final = 12_000_000  # of a photograph once it is open; larger ones are brought down to it
_END_TONE: Final = 0.82  # end grain drinks the light: it is the darker (our choice)
MOST_FILE_PIXELS: Final = 100_000_000
FORMATS: Final = ("PNG", "JPEG", "TIFF", "WEBP")  # of photographs


class Seen(NamedTuple):
    """A picture, (rows, columns, 3) RGB, row 0 the top edge, column 0 the start; and its pixels per mm."""

    pixels: Picture
    px_per_mm: float


def seen(look: Look, plane: Surface, given: Given, share: float = 1.0) -> Seen:
    """One plane of a board as it lies, show face up: its face, what is under it, a leaf's inside, or its end.

    The end, at the start of the board, has depth under the show face along its columns.

    `share` of its points along each way: a rough picture comes sooner. Every plane is seen from above,
    through the wood, so that what lies under a point is at the same place. A picture
    that cannot be found, or is damaged, is grown instead.
    """
    grown = look.grown
    if plane == "end":
        return _end(look, given, share)
    if plane in ("face", "under"):
        back = look.from_back == (plane == "face")
        depth = grown.thickness_mm if back else 0.0
    else:
        back = look.from_back
        depth = look.leaves_mm[plane == "leaf_2"]
        depth = grown.thickness_mm - depth if look.from_back else depth
    data = given(look.back if back and look.back else look.picture) if look.picture else None
    fitted = _fitted(data, grown.length_mm, grown.width_mm, share) if data is not None else None
    if fitted is not None:
        made = fitted
        if back and look.back:  # as it was taken: rolled over its long edge, the start end still at the left
            made = Seen(made.pixels[::-1], made.px_per_mm)
    else:
        scale = share * scale_for(grown.length_mm, grown.width_mm)
        made = Seen(face_picture(grown, depth, scale), scale)
    pixels = made.pixels
    if look.part is not None:
        pixels = _part(made, look.part)
    if look.turned:
        pixels = pixels[:, ::-1]
    if look.turned != look.from_back:
        pixels = pixels[::-1]
    return Seen(np.ascontiguousarray(pixels), made.px_per_mm)


def _end(look: Look, given: Given, share: float) -> Seen:
    """The end grain of a board as it lies; of one known by a picture, as its lines meet the end."""
    grown = look.grown
    scale = share * end_scale_for(grown)
    if look.picture and given(look.picture) is not None:
        face = seen(look, "face", given, share)
        every = max(1, round(face.px_per_mm / scale))
        rim = face.pixels[::every, : max(1, round(face.px_per_mm))].mean(axis=1, keepdims=True) * _END_TONE
        columns = max(2, round(grown.thickness_mm * face.px_per_mm / every))
        return Seen(np.repeat(rim.astype(np.uint8), columns, axis=1), face.px_per_mm / every)
    part = look.part or (0.0, 0.0, grown.length_mm, grown.width_mm)
    at = part[0] + (part[2] if look.turned else 0.0)
    pixels = end_picture(grown, at, scale).transpose(1, 0, 2)[
        ::-1
    ]  # rows down the width, columns in from the face
    low, high = round(part[1] * scale), max(2, round(part[3] * scale))
    pixels = pixels[max(0, len(pixels) - low - high) : len(pixels) - low]
    if look.from_back:
        pixels = pixels[:, ::-1]
    if look.turned != look.from_back:
        pixels = pixels[::-1]
    return Seen(np.ascontiguousarray(pixels), scale)


def _part(whole: Seen, part: tuple[float, float, float, float]) -> Picture:
    """A part of a board's picture, from its x, y, length and width (mm)."""
    x, y, length, width = part
    rows, columns, scale = whole.pixels.shape[0], whole.pixels.shape[1], whole.px_per_mm
    left = min(max(0, round(x * scale)), columns - 2)
    low = min(max(0, round(y * scale)), rows - 2)
    wide, high = max(2, round(length * scale)), max(2, round(width * scale))
    return whole.pixels[max(0, rows - low - high) : rows - low, left : left + wide]


def _fitted(data: bytes, length_mm: float, width_mm: float, share: float) -> Seen | None:
    """A given picture at the board's size; None where it is damaged: that must not cost the design."""
    try:
        return _resized(data, length_mm, width_mm, share)
    except (PeristyleError, OSError, ValueError, SyntaxError, MemoryError, EOFError):
        return None


def _resized(data: bytes, length_mm: float, width_mm: float, share: float) -> Seen:
    # Pillow takes a tenth of a second to import: only boards with pictures pay for it.
    from PIL import Image

    with opened(data) as picture:
        scale = share * min(picture.width / length_mm, math.sqrt(MOST_GIVEN_PIXELS / (length_mm * width_mm)))
        size = (max(2, round(length_mm * scale)), max(2, round(width_mm * scale)))
        if isinstance(picture, Image.Image):
            picture.draft("RGB", size)
        plain = picture.convert("RGB")
        if plain.size != size:
            plain = plain.resize(
                size, Image.Resampling.BOX if plain.width > size[0] else Image.Resampling.BILINEAR
            )
        return Seen(np.asarray(plain, dtype=np.uint8), scale)


def opened(data: bytes, formats: tuple[str, ...] = ("PNG", "JPEG")) -> "Image.Image":
    """A picture of one of some formats, not yet decoded. Raises PeristyleError that says what is wrong with it."""
    from PIL import Image, UnidentifiedImageError  # late: see above

    try:
        with warnings.catch_warnings():  # how large it may be is said below
            warnings.simplefilter("ignore", Image.DecompressionBombWarning)
            picture = Image.open(io.BytesIO(data), formats=formats)
    except Image.DecompressionBombError as error:
        raise PeristyleError("The picture has more than 100 million points. Save it smaller.") from error
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError) as error:
        raise PeristyleError(
            f"This is no {' or '.join((', '.join(formats[:-1]), formats[-1]))} picture that can be read: save it as "
            "one of them."
        ) from error
    if picture.width * picture.height > MOST_FILE_PIXELS:
        raise PeristyleError(
            f"The picture has {picture.width} × {picture.height} points: at most 100 million. Save it smaller."
        )
    if min(picture.size) < 8:
        raise PeristyleError(
            f"The picture is only {picture.width} × {picture.height} points: no wood can be seen."
        )
    return picture


def upright(data: bytes, most: int) -> Picture:
    """A photograph turned as its camera says, (rows, columns, 3) RGB, brought down to `most` points at the most.

    PNG, JPEG, TIFF, WebP of up to 100 million points. Raises PeristyleError that says what is wrong with it.
    """
    from PIL import Image, ImageOps  # late: only who has photographs pays for it

    with opened(data, FORMATS) as picture:
        down = min(1.0, math.sqrt(most / (picture.width * picture.height)))
        try:
            if isinstance(picture, Image.Image) and down < 1.0:
                picture.draft("RGB", (round(picture.width * down), round(picture.height * down)))
            turned = ImageOps.exif_transpose(picture)
            if turned.mode.startswith("I"):  # sixteen bits a point
                turned = turned.point(lambda value: value / 256).convert("L")
            plain = turned.convert("RGB")
        except (OSError, ValueError, SyntaxError, MemoryError) as error:
            raise PeristyleError("The picture is damaged: it cannot be read to its end.") from error
        if plain.width * plain.height > most * 1.02:
            share = math.sqrt(most / (plain.width * plain.height))
            plain = plain.resize(
                (max(1, round(plain.width * share)), max(1, round(plain.height * share))),
                Image.Resampling.BOX,
            )
        return np.asarray(plain, dtype=np.uint8)


def checked(data: bytes) -> tuple[int, int]:
    """The size in points of a picture that can be read to its end. Raises PeristyleError for others."""
    with opened(data) as picture:
        size = picture.size
        try:
            picture.load()
        except (OSError, ValueError, SyntaxError) as error:
            raise PeristyleError("The picture is cut short or damaged: save it again.") from error
        return size
