"""Photos as they are kept: turned upright, without the position they were taken at, with a small thumbnail."""

import io
from dataclasses import dataclass
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from even_beam.errors import TellableError
from even_beam.files.reading import InputError, read

LONGEST_SIDE = 2400
THUMBNAIL_SIDE = 240
MAX_BYTES = 64 * 1024 * 1024


class PhotoError(TellableError):
    """A photo that cannot be kept; the message says why."""


@dataclass(frozen=True, slots=True)
class Picture:
    """A photo ready to be kept: JPEG bytes without any embedded data about place, time or camera."""

    name: str
    media_type: str
    image: bytes
    thumbnail: bytes


def read_photo(path: Path) -> Picture:
    """A photo from a file, at most `LONGEST_SIDE` pixels wide or high. Raises `PhotoError`.

    It is encoded anew, and no embedded data is copied: position, time and camera stay behind.
    """
    from PIL import Image, ImageOps, UnidentifiedImageError  # only when a photo is added

    try:
        with Image.open(io.BytesIO(read(path, MAX_BYTES))) as found:
            upright = ImageOps.exif_transpose(found).convert("RGB")
    except InputError as error:
        raise PhotoError(f"{error}. Nothing was kept.") from error
    except (OSError, UnidentifiedImageError, Image.DecompressionBombError, SyntaxError, ValueError) as error:
        raise PhotoError(f"{path.name} is not a readable photo. Nothing was kept; choose a JPEG or PNG.") from error
    return Picture(path.name, "image/jpeg", _encoded(upright, LONGEST_SIDE), _encoded(upright, THUMBNAIL_SIDE))


def picture_of(name: str, pixels: NDArray[np.uint8]) -> Picture:
    """A photo ready to be kept, of display colours of shape (h, w, 3)."""
    from PIL import Image  # only when a photo is added

    image = Image.fromarray(pixels)
    return Picture(name, "image/jpeg", _encoded(image, LONGEST_SIDE), _encoded(image, THUMBNAIL_SIDE))


def _encoded(image, side: int) -> bytes:  # type: ignore[no-untyped-def]
    small = image.copy()
    small.thumbnail((side, side))
    data = io.BytesIO()
    small.save(data, "JPEG", quality=88, exif=b"")
    return data.getvalue()
