"""Photographs in: TIFF, PNG and JPEG with their colour profiles, raw files where a reader for them is installed."""

import io
import logging
from collections.abc import Mapping
from functools import partial
from pathlib import Path
from typing import Any

import numpy as np

from even_beam.camera.photo import Capture, Photograph, Stored, linear_of_srgb
from even_beam.formats.errors import FormatError
from even_beam.formats.spectrum_file import read_bytes
from even_beam.light import FloatArray

MOST_BYTES, MOST_PIXELS = 400 * 1024 * 1024, 120_000_000
RAW_SUFFIXES = frozenset({".dng", ".cr2", ".cr3", ".nef", ".arw", ".raf", ".rw2", ".orf", ".pef", ".srw"})
PHOTO_SUFFIXES = frozenset({".tif", ".tiff", ".png", ".jpg", ".jpeg"}) | RAW_SUFFIXES

_SHUTTER, _F_NUMBER, _PROGRAM, _ISO = 33434, 33437, 34850, 34855
_EXPOSURE_MODE, _WHITE_BALANCE, _ORIENTATION, _EXIF, _PROFILE = 41986, 41987, 274, 34665, 34675
"""Tags of Exif 2.32 (CIPA DC-008) and of ICC profiles in TIFF."""

_TURNS = {
    1: (0, False),
    2: (0, True),
    3: (2, False),
    4: (2, True),
    5: (1, True),
    6: (3, False),
    7: (3, True),
    8: (1, False),
}
"""Quarter turns against the clock, and whether it is mirrored first, by the tag of orientation."""


def read_photograph(path: Path) -> Photograph:
    """A photograph with the way to its linear light. Raises `FormatError`."""
    suffix = path.suffix.lower()
    if suffix in RAW_SUFFIXES:
        return _raw(path)
    if suffix not in PHOTO_SUFFIXES:
        raise FormatError(f"{path.name}: a photograph is a TIFF, PNG or JPEG file, or a raw file")
    return photograph_in(path.name, read_bytes(path, MOST_BYTES))


def photograph_in(name: str, data: bytes) -> Photograph:
    """A photograph of the content of a TIFF, PNG or JPEG file, which its name tells. Raises `FormatError`."""
    suffix = Path(name).suffix.lower()
    try:
        pixels, profile, tags = _of_tiff(data) if suffix in {".tif", ".tiff"} else _of_picture(data, suffix)
    except FormatError:
        raise
    except Exception as error:  # each of the readers has errors of its own, and a broken file may raise any of them
        raise FormatError(f"{name} cannot be read as a photograph ({error}). Nothing was kept") from error
    return _photo(name, _upright(_colours(pixels, name), tags), profile, tags)


def _of_tiff(data: bytes) -> tuple[Stored, bytes, Mapping[int, Any]]:
    import tifffile  # only where a photograph is read

    logging.getLogger("tifffile").setLevel(logging.CRITICAL)  # what is wrong with a file is said once, by us
    with tifffile.TiffFile(io.BytesIO(data)) as file:
        page = file.pages.first
        if int(page.imagewidth) * int(page.imagelength) > MOST_PIXELS:
            raise FormatError(f"a photograph has at most {MOST_PIXELS // 1_000_000} million pixels")
        profile = page.tags.valueof(_PROFILE, b"") or b""
        own = {tag.code: tag.value for tag in page.tags if tag.code != _EXIF}
        exif = page.tags.valueof(_EXIF, {}) or {}
        codes = {name: code for code, name in tifffile.TIFF.EXIF_TAGS.items()} if isinstance(exif, dict) else {}
        own |= {codes[name]: value for name, value in exif.items() if name in codes}
        return page.asarray(), bytes(profile), own


def _of_picture(data: bytes, suffix: str) -> tuple[Stored, bytes, Mapping[int, Any]]:
    from PIL import Image  # only where a photograph is read

    with Image.open(io.BytesIO(data)) as picture:
        if picture.width * picture.height > MOST_PIXELS:
            raise FormatError(f"a photograph has at most {MOST_PIXELS // 1_000_000} million pixels")
        exif = picture.getexif()
        tags = {**exif, **exif.get_ifd(_EXIF)}
        profile = picture.info.get("icc_profile") or b""
        if suffix == ".png":
            import imagecodecs  # the other library keeps 8 of 16 bits

            return imagecodecs.png_decode(data), profile, tags
        return np.asarray(picture.convert("RGB")), profile, tags


def _colours(pixels: Stored, name: str) -> Stored:
    """Shape (h, w, 3) of what was read: greys thrice, without transparency."""
    if pixels.ndim == 2:
        pixels = np.repeat(pixels[..., None], 3, axis=2)
    if pixels.ndim != 3 or pixels.shape[2] not in {3, 4}:
        raise FormatError(f"{name}: this is no picture in red, green and blue")
    if pixels.dtype not in (np.uint8, np.uint16, np.float32, np.float64, np.float16):
        raise FormatError(f"{name}: its values are {pixels.dtype}; 8 or 16 bits or floating point are read")
    pixels = pixels[..., :3]
    if pixels.dtype.kind == "f" and not np.isfinite(pixels).all():
        raise FormatError(f"{name}: it holds values that are no numbers")
    return pixels


def _upright(pixels: Stored, tags: Mapping[int, Any]) -> Stored:
    turns, mirrored = _TURNS.get(_whole(tags.get(_ORIENTATION)), (0, False))
    return np.asarray(np.rot90(pixels[:, ::-1] if mirrored else pixels, turns))


def _photo(name: str, pixels: Stored, profile: bytes, tags: Mapping[int, Any]) -> Photograph:
    greatest = {"uint8": 255.0, "uint16": 65535.0}.get(pixels.dtype.name, 1.0)
    if profile:
        decode, understood = (
            partial(_by_profile, profile=profile),
            "by the colour profile in the file",
        )
        try:
            decode(np.zeros((1, 3), pixels.dtype))
        except FormatError as error:
            raise FormatError(f"{name}: {error}") from error
    elif pixels.dtype.kind == "f":
        decode, understood = partial(_scaled, greatest=1.0), "floating point without a profile: taken as linear light"
    else:
        decode = partial(_by_srgb, greatest=greatest)
        understood = "no colour profile in the file: taken as sRGB"
    return Photograph(name, pixels, decode, greatest, _capture(tags), understood)


def _scaled(pixels: Stored, greatest: float) -> FloatArray:
    return pixels.astype(np.float64) / greatest


def _by_srgb(pixels: Stored, greatest: float) -> FloatArray:
    return linear_of_srgb(pixels.astype(np.float64) / greatest)


def _by_profile(pixels: Stored, profile: bytes) -> FloatArray:
    """Linear sRGB by a profile (ICC.1), relative colorimetric; black stays black."""
    import imagecodecs  # only where a photograph has a profile

    stored = np.ascontiguousarray(pixels if pixels.dtype.kind != "f" else pixels.astype(np.float32))
    flat = stored.reshape(1, -1, 3)
    try:
        linear = imagecodecs.cms_transform(
            flat, profile, linear_profile(), colorspace="rgb", outcolorspace="rgb", outdtype="float32", intent=1
        )
    except (RuntimeError, ValueError, imagecodecs.CmsError) as error:
        raise FormatError(f"its colour profile cannot be used ({error}); save it as sRGB and try again") from error
    return np.asarray(linear, np.float64).reshape(pixels.shape)


def linear_profile() -> bytes:
    """A profile of linear light with the primaries of IEC 61966-2-1."""
    import imagecodecs

    return bytes(
        imagecodecs.cms_profile(
            "rgb",
            whitepoint=[0.3127, 0.3290, 1.0],
            primaries=[0.64, 0.33, 1.0, 0.30, 0.60, 1.0, 0.15, 0.06, 1.0],
            gamma=1.0,
        )
    )


def _raw(path: Path) -> Photograph:
    """A raw file: linear, its white balance held, no automatic brightness."""
    try:
        import rawpy  # an extra: most people hand over TIFF or JPEG
    except ImportError:
        raise FormatError(
            f"{path.name}: raw files are read where rawpy is installed (pip install 'even-beam[raw]'); or save it as a"
            " 16-bit TIFF without automatic brightness"
        ) from None
    read_bytes(path, MOST_BYTES)
    try:
        with rawpy.imread(str(path)) as raw:
            pixels = raw.postprocess(
                gamma=(1.0, 1.0),
                no_auto_bright=True,
                output_bps=16,
                use_camera_wb=False,
                user_wb=[float(m) for m in raw.daylight_whitebalance],
                output_color=rawpy.ColorSpace.sRGB,
            )
    except Exception as error:  # the library's own errors have no common base that is public
        raise FormatError(f"{path.name} cannot be read as a raw file ({error}). Nothing was kept") from error
    return Photograph(
        path.name, pixels, partial(_scaled, greatest=65535.0), 65535.0, Capture(), "raw, linear, daylight balance"
    )


def _capture(tags: Mapping[int, Any]) -> Capture:
    """What the file says of the exposure; never of the camera."""
    program, mode, balance = (_whole(tags.get(tag), -1) for tag in (_PROGRAM, _EXPOSURE_MODE, _WHITE_BALANCE))
    auto = {0: True, 1: False, 2: True}.get(mode)
    if auto is None and program > 0:
        auto = program != 1
    return Capture(
        _number(tags.get(_SHUTTER)),
        _number(tags.get(_F_NUMBER)),
        _number(tags.get(_ISO)),
        auto,
        {0: True, 1: False}.get(balance),
    )


def _number(value: Any) -> float | None:
    """A positive figure of a tag: a number, a fraction as two of them, or the first of several."""
    try:
        if isinstance(value, tuple | list):
            value = value[0] / value[1] if len(value) == 2 and value[1] else value[0]
        found = float(value)
    except (TypeError, ValueError, ZeroDivisionError, IndexError):
        return None
    return found if np.isfinite(found) and found > 0.0 else None


def _whole(value: Any, otherwise: int = 1) -> int:
    try:
        return int(value[0] if isinstance(value, tuple | list) else value)
    except (TypeError, ValueError, IndexError):
        return otherwise
