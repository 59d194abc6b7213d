"""QR codes (ISO/IEC 18004) as modules, and as a picture of a pixel a module."""

import base64
import io
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

QUIET_MODULES = 4
"""The margin that the standard wants on each side."""


@lru_cache(maxsize=1024)
def modules_of(text: str, level: str) -> NDArray[np.uint8] | None:
    """The modules of a code with its margin, shape (n, n), 0 dark and 255 light; None for more text than any code
    holds.

    `level` of error correction is L, M, Q or H.
    """
    import zxingcpp  # only where labels are made

    try:
        symbol = zxingcpp.create_barcode(text, zxingcpp.BarcodeFormat.QRCode, ec_level=level.upper())
    except ValueError:
        return None
    return np.array(symbol.to_image(scale=1, add_quiet_zones=True), dtype=np.uint8)


def png_uri(modules: NDArray[np.uint8]) -> str:
    """The code as a picture, which is printed without smoothing."""
    from PIL import Image

    data = io.BytesIO()
    Image.fromarray(modules).convert("1").save(data, "PNG")
    return f"data:image/png;base64,{base64.b64encode(data.getvalue()).decode()}"
