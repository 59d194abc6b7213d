"""Sums that are done in the head beside a lamp: exposure carried over, lux-hours, a page beside a display."""

import re

from even_beam.bench.exposure import Exposure, shutter_of
from even_beam.known.matching.enough import lux_hours, page_beside_display
from even_beam.light.photometry import LUX_PER_FOOTCANDLE, exposure_transfer
from even_beam.words import notation

_TRANSFER = re.compile(r"iso\s*(\d{1,7})\s*[,;]?\s+(.+?)\s+(?:to|->|→)\s+iso\s*(\d{1,7})\s*[,;]?\s+(.+)")
_HOURS = re.compile(r"(\d{1,6}(?:\.\d+)?)\s*(lx|fc)\s*[x×*,]?\s*(\d{1,4}(?:\.\d+)?)\s*h(?:ours)?")
_DISPLAY = re.compile(r"(\d{1,5}(?:\.\d+)?)\s*(?:cd/m2|cd/m²|nits?)")


def sum_of(text: str) -> str | None:
    """The answer to a sum as it is typed; None for a line that is none. Raises `ExposureError` for what cannot be.

    `ISO 640 1/30 to ISO 12800 1/250`, `50 lx 8 h`, `80 cd/m2`.
    """
    words = " ".join(text.casefold().split())
    if found := _TRANSFER.fullmatch(words):
        before = Exposure(float(found[1]), shutter_of(found[2]))
        after = Exposure(float(found[3]), shutter_of(found[4]))
        stops = float(exposure_transfer(before.iso, before.shutter_s, after.iso, after.shutter_s))
        size = f"{notation.number(abs(stops), 2)} {notation.stop_word(stops)}"
        change = "as bright" if round(stops, 2) == 0.0 else f"{size} {'brighter' if stops > 0.0 else 'darker'}"
        return (
            f"From ISO {before.iso:g}, {notation.seconds(before.shutter_s)} to ISO {after.iso:g},"
            f" {notation.seconds(after.shutter_s)} the picture is {change}, at the same stop in the same light."
        )
    if found := _HOURS.fullmatch(words):
        lux = float(found[1]) * (LUX_PER_FOOTCANDLE if found[2] == "fc" else 1.0)
        total = lux_hours(lux, float(found[3]))
        return f"{found[1]} {found[2]} for {notation.plain(float(found[3]))} h are {notation.number(total)} lx h."
    if found := _DISPLAY.fullmatch(words):
        perfect, paper = page_beside_display(float(found[1]))
        return (
            f"A page is as bright as a display's white of {found[1]} cd/m² at {notation.number(perfect)} lx, were it"
            f" perfectly white, to {notation.number(paper)} lx on paper that reflects 85 % of the light."
        )
    return None
