"""Terms of a comparison as they are written: `cct=5600;level=100;distance=10 ft;zoom=flood`."""

import re
from collections.abc import Hashable, Mapping

from even_beam.bench import fields, terms
from even_beam.bench.field_texts import TermsError
from even_beam.bench.fields import UNSTATED, Field
from even_beam.bench.records import Terms
from even_beam.errors import TellableError
from even_beam.known.choice import JOINABLE, JOINED

NAMES = tuple(name for name in fields.NAMES if name != "placement")
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
        known = fields.named(name)
        if not sign or not value or known is None or known.name not in NAMES:
            raise TermsTextError(
                f"“{part.strip()}” is not understood; write cct=5600;level=100;distance=2 m. Terms are"
                f" {', '.join(NAMES)}"
            )
        found[known.name] = _value(known, value, meters, sessions)
    return found


def _value(field: Field, text: str, meters: Mapping[str, str], sessions: Mapping[str, str]) -> Hashable:
    if text.casefold() in {"none", "not stated"}:
        return UNSTATED
    if text.casefold() == JOINED:
        if field.name not in JOINABLE:
            raise TermsTextError(f"{field.name} cannot be joined: only {' and '.join(JOINABLE)} can")
        return JOINED
    if field.name in {"meter", "session"}:
        known = meters if field.name == "meter" else sessions
        if text.casefold() not in known:
            raise TermsTextError(f"there is no {field.name} “{text}”; there are {'; '.join(known)}")
        return known[text.casefold()]
    if field.read is None:
        raise TermsTextError(f"nothing is asked by {field.label}")
    try:
        changes = field.read(text, Terms())
    except TermsError as error:
        raise TermsTextError(str(error)) from error
    return terms.value_of(field.stored, changes[field.stored])
