"""Whether a table writes decimals with a point or a comma: what one number leaves open, others beside it may tell.

`1.600` alone is a thousand and six hundred to some and one and six tenths to others; where `95.6` stands in the same
table it is the latter.
"""

import re
from collections.abc import Iterable

_NUMBER = re.compile(r"\d[\d.,]*\d")
_GROUPED = re.compile(r"\d{1,3}(?:([.,])\d{3})(?:\1\d{3})+")
_OPEN = re.compile(r"[1-9]\d{0,2}[.,]\d{3}")
_SINGLE = re.compile(r"\d+([.,])\d+")
_OTHER = {".": ",", ",": "."}


def decimal_sign_of(texts: Iterable[str]) -> str:
    """The sign before the decimals in these texts, `.` or `,`; empty where no number tells, or where they disagree.

    >>> decimal_sign_of(["1.600", "+0.0021"]), decimal_sign_of(["1.600", "95,6"]), decimal_sign_of(["1.600"])
    ('.', ',', '')
    """
    told = {_told_by(number) for text in texts for number in _NUMBER.findall(text)} - {""}
    return told.pop() if len(told) == 1 else ""


def _told_by(number: str) -> str:
    if (grouped := _GROUPED.fullmatch(number)) is not None:
        return _OTHER[grouped[1]]
    if (single := _SINGLE.fullmatch(number)) is not None:
        return "" if _OPEN.fullmatch(number) else single[1]
    return number[max(number.rfind("."), number.rfind(","))] if {".", ","} <= set(number) else ""


def with_points(text: str, sign: str) -> str:
    """The text with its numbers as they can be read in one way only: a point before the decimals, nothing in thousands.

    Left as it is where the sign is not known. A fourth decimal tells three of them from thousands.

    >>> with_points("1.600 to 1.700,5 lx", ","), with_points("7.599 lx", ".")
    ('1600 to 1700.5 lx', '7.5990 lx')
    """
    if not sign:
        return text
    return _NUMBER.sub(lambda found: _closed(found[0].replace(_OTHER[sign], "").replace(sign, ".")), text)


def _closed(number: str) -> str:
    return f"{number}0" if _OPEN.fullmatch(number) else number
