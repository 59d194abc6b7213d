"""Whether a table writes f-numbers as full stops with tenths or as plain numbers: what one of them leaves open, others
beside it may tell.

`22.6` alone is f/22 as a number, or 22 and 6 tenths; where `16.8` stands in the same table, it is the latter.
"""

import re
from collections.abc import Iterable

from even_beam.words.entry import NOMINAL_F_NUMBERS

_OPEN = re.compile(r"(?:f\s*/?\s*)?(\d+)\.(\d)")
_ROUNDED = 0.051
_SCALE = tuple(2.0 ** (sixths / 12.0) for sixths in range(-6, 85) if sixths % 6 in {0, 2, 3, 4})
"""Full, half and third stops as numbers, f/0.7 to f/128 (ISO 517:2008: powers of the square root of two)."""


def plain_number(text: str) -> float | None:
    """The plain f-number that a text could be beside a full stop with tenths; None where it can be one thing only.

    >>> plain_number("22.6"), plain_number("f/16.8"), plain_number("5.6")
    (22.6, None, None)
    """
    found = _OPEN.fullmatch(text.strip().lower())
    if found is None or found[0].lstrip("f/ ") in NOMINAL_F_NUMBERS or found[1] not in NOMINAL_F_NUMBERS:
        return None
    number = float(f"{found[1]}.{found[2]}")
    return number if any(abs(number - step) < _ROUNDED for step in _SCALE) else None


def are_plain(texts: Iterable[str]) -> bool:
    """Whether f-numbers that could be either are plain numbers here: none beside them can only be tenths.

    >>> are_plain(["8", "11.3"]), are_plain(["8.4", "11.3"])
    (True, False)
    """
    open_ = [text for text in texts if _is_open(text)]
    return bool(open_) and all(plain_number(text) is not None for text in open_)


def _is_open(text: str) -> bool:
    found = _OPEN.fullmatch(text.strip().lower())
    return found is not None and found[1] in NOMINAL_F_NUMBERS and f"{found[1]}.{found[2]}" not in NOMINAL_F_NUMBERS


def exactly(number: float) -> str:
    """A plain f-number as it can be read in one way only.

    >>> exactly(22.6), exactly(4.8)
    ('f/22', 'f/4.80')
    """
    full = next((n for n in NOMINAL_F_NUMBERS if round(_of_nominal(n), 1) == number), None)
    return f"f/{full}" if full is not None else f"f/{number:.2f}"


def _of_nominal(nominal: str) -> float:
    return min((2.0 ** (k / 2.0) for k in range(-1, 14)), key=lambda step: abs(step - float(nominal)))
