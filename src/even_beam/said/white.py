"""A white as people say it, for whoever shall have it: `5600`, `3200 K +0.002`, `daylight 5600`, `D55`."""

import re

from even_beam.bench.records import Terms
from even_beam.bench.target import Target
from even_beam.light.white import daylight_white, reference_duv
from even_beam.said.situation import Situation
from even_beam.said.understanding import understand
from even_beam.words import notation
from even_beam.words.entry import EntryError

LOWEST_K, HIGHEST_K, DAYLIGHT_FROM_K = 1000.0, 25_000.0, 4000.0

C2_NOW, C2_THEN = 1.4388, 1.4380
"""The second radiation constant, in cm K, of today and of when D55 was named (CIE 15:2018, 4.1.2, note 3): daylight
of 5503 K."""

_DAYLIGHT = re.compile(r"(?:daylight\s*|d(?=\d))(\d{2,5})\s*k?(?:[\s,]+(.+))?")
_ASKED = Situation(("cct", "duv"), Terms(), firm=True)


def white_said(text: str) -> Target:
    """The white of a text. Without a tint it lies where such a white is expected: on the Planckian up to 4000 K, on the
    daylight curve from 5000 K on, between them between; `5600, 0.000` is on the Planckian. Raises `EntryError`."""
    words = text.strip().lower()
    daylight = _DAYLIGHT.fullmatch(words)
    white, tint = (daylight[1], daylight[2] or "") if daylight is not None else (words, "")
    cct, duv = _figures(white if daylight is None else f"{white} K", text)
    if daylight is None:
        return Target(cct, float(reference_duv(cct)) if duv is None else duv)
    nominal = cct * 100.0 * C2_NOW / C2_THEN if cct < 100.0 else cct
    if not DAYLIGHT_FROM_K <= nominal <= HIGHEST_K:
        raise EntryError("the daylight locus begins at 4000 K")
    white_k, locus = daylight_white(nominal)
    more = _figures(f"{nominal:.0f} K {tint}", text)[1] if tint else None
    name = f"D{cct:.0f}" if cct < 100.0 else f"daylight {notation.dialled(nominal)} K"
    return Target(float(white_k), float(locus) + (more or 0.0), name)


def _figures(words: str, typed: str) -> tuple[float, float | None]:
    """CCT, and Duv where one is said."""
    if short := re.fullmatch(r"(\d\d) K", words):
        return float(short[1]), None
    said = understand(words, _ASKED)
    figures = {entry.quantity: entry.value for entry in said.entries}
    cct = figures.get("cct")
    strange = said.choices or said.terms or figures.keys() - {"cct", "duv"}
    if strange or cct is None or not LOWEST_K <= cct <= HIGHEST_K:
        raise EntryError(f"“{typed.strip()}” is not a white from 1000 to 25 000 K; write 5600, 3200 K +0.002 or D55")
    return cct, figures.get("duv")
