"""Terms of a comparison as they are written: `cct=5600;level=100;distance=10 ft;zoom=flood`."""

import re
from collections.abc import Hashable, Mapping

from even_beam.bench import fields, terms
from even_beam.bench.fields import UNSTATED
from even_beam.bench.limits import impossible_term
from even_beam.errors import TellableError
from even_beam.known.choice import JOINABLE, JOINED
from even_beam.words.entry import EntryError, parse

NAMES = tuple(name for name in fields.NAMES if name != "placement")
_ALSO = {"white": "cct", "on": "configuration", "modifier": "configuration", "hue_deg": "hue", "level_pct": "level"}
_NUMBERS = {
    "cct": "cct",
    "level": "level",
    "distance": "distance",
    "hue": "angle",
    "saturation": "level",
    "angle": "angle",
    "turn": "angle",
}
"""Fields that are numbers, with what a bare number means there."""


_BEFORE_A_TERM = re.compile(r",(?=\s*\w+\s*=)|,\s*$")


class TermsTextError(TellableError, ValueError):
    """Terms that could not be understood; the message says how they are written."""


def terms_of(text: str, meters: Mapping[str, str], sessions: Mapping[str, str]) -> dict[str, Hashable]:
    """Terms asked, by field, as they are compared. `meters` and `sessions` give the ids of names in small letters.

    Separated by `;`, or by commas where there is no `;`; a comma before anything but another term belongs to a name, as
    in `session=Glasshouse, north window`. `none` asks for what was not stated, `joined` for all
    sessions or meters as one. Raises `TermsTextError`.
    """
    found: dict[str, Hashable] = {}
    parts = text.split(";") if ";" in text else _BEFORE_A_TERM.split(text)
    for part in (part for part in parts if part.strip()):
        name, sign, value = (word.strip() for word in part.partition("="))
        field = _ALSO.get(name.casefold(), name.casefold())
        if not sign or not value or field not in NAMES:
            raise TermsTextError(
                f"“{part.strip()}” is not understood; write cct=5600;level=100;distance=2 m. Terms are"
                f" {', '.join(NAMES)}"
            )
        found[field] = _value(field, value, meters, sessions)
    return found


def _value(field: str, text: str, meters: Mapping[str, str], sessions: Mapping[str, str]) -> Hashable:
    if text.casefold() in {"none", "not stated"}:
        return UNSTATED
    if text.casefold() == JOINED:
        if field not in JOINABLE:
            raise TermsTextError(f"{field} cannot be joined: only {' and '.join(JOINABLE)} can")
        return JOINED
    stored = fields.BY_NAME[field].stored
    if field in {"meter", "session"}:
        known = meters if field == "meter" else sessions
        if text.casefold() not in known:
            raise TermsTextError(f"there is no {field} “{text}”; there are {'; '.join(known)}")
        return known[text.casefold()]
    if field == "configuration":
        parts = tuple(p.strip() for p in text.split("+") if p.strip() and p.strip().casefold() != "bare")
        return terms.value_of(stored, parts)
    if field not in _NUMBERS:
        return terms.value_of(stored, text)
    try:
        figure = parse(text, _NUMBERS[field]).value
    except EntryError as error:
        raise TermsTextError(str(error)) from error
    if figure is None or (problem := impossible_term(stored, figure)) is not None:
        raise TermsTextError(
            f"“{text}” is not one {fields.BY_NAME[field].label}" + (f": {problem}" if figure is not None else "")
        )
    return terms.value_of(stored, figure)
