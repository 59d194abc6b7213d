"""What is said of a set of limits in a line, as people say it: `Ra 95; white 2 mired; evenness 75 %; no R9`."""

import re
from collections.abc import Mapping

from even_beam.bench.tolerances import LIMITS
from even_beam.desk.kit.form_error import FormError
from even_beam.words.entry import EntryError, parse
from even_beam.words.quantities import Use, score_names

USUAL = "Ra 95; R9 80; white 5 mired; tint 0.002; drift 3 mired; evenness 75 %; no R13; purpose …"

_SAID: tuple[tuple[str, str, str], ...] = (
    ("white_kelvin", r"(?:white(?: off)?)", r"k"),
    ("white_k", r"(?:at|the white(?: asked)?(?: is)?)", r"k"),
    ("white_mired", r"(?:white(?: off)?)", r"(?:mired|mk⁻¹)"),
    ("drift_mired", r"drift", r"(?:mired)?"),
    ("duv", r"(?:tint|duv)", r""),
    ("r1_to_r8", r"lowest(?: of r1[-–]r8)?", r""),
    *((name, name, r"") for name in score_names(Use.LIMITED)),
    ("evenness_pct", r"evenness", r"%?"),
    ("unit_stops", r"(?:other )?unit", r"(?:stops?)?"),
    ("ageing_stops", r"ageing", r"(?:stops?)?"),
)
_NAMES: Mapping[str, tuple[str, ...]] = {
    "white": ("white_mired", "white_kelvin"), "tint": ("duv",), "duv": ("duv",), "drift": ("drift_mired",),
    "lowest": ("r1_to_r8",), "evenness": ("evenness_pct",), "level": ("level_lx_low", "level_lx_high"),
    "unit": ("unit_stops",), "ageing": ("ageing_stops",), "white asked": ("white_k",),
    **{name: (name,) for name in score_names(Use.LIMITED)},
}  # fmt: skip


def changed(text: str, limits: Mapping[str, float]) -> dict[str, float]:
    """Limits with what a line says of them. Raises `FormError` for what is not understood."""
    after = dict(limits)
    parts = [part.strip() for part in re.split(r"[;\n]", text) if part.strip()]
    for part in parts:
        _one(part, after)
    return after


def _one(part: str, limits: dict[str, float]) -> None:
    gone = re.fullmatch(r"(?i)no\s+(.+)", part)
    if gone is not None and (names := _NAMES.get(gone[1].strip().casefold())) is not None:
        for name in names:
            limits.pop(name, None)
        return
    between = re.fullmatch(r"(?i)level\s+(?:(\d[\d .,]*)\s*(?:to|-|–)\s*)?(\d[\d .,]*)\s*(lx|fc)?(\s+at most)?", part)
    if between is not None:
        low, high, unit = between[1], between[2], between[3] or "lx"
        if low is None and not between[4]:
            low, high = high, None
        for name, number in (("level_lx_low", low), ("level_lx_high", high)):
            if number is not None:
                limits[name] = _number(f"{number.strip()} {unit}", "illuminance")
        return
    for name, words, unit in _SAID:
        match = re.fullmatch(rf"(?i)(?:{words}\s+(\d[\d.,]*)\s*{unit}|(\d[\d.,]*)\s*{unit}\s*{words})", part)
        if match is not None:
            limits[name] = _number(match[1] or match[2], None)
            return
    raise FormError("line", f"“{part}” is no limit that a verdict knows. Say it like: {USUAL}")


def _number(text: str, quantity: str | None) -> float:
    try:
        value = parse(text, quantity).value
    except EntryError as error:
        raise FormError("line", str(error)) from error
    if value is None or not 0.0 <= value < 1e6:
        raise FormError("line", f"“{text}” is no single number from 0 on")
    return value


def limit_words(name: str, value: float) -> str:
    """A limit as it is read: `at least 95`, `at most 5 mired`, `5 000 K`."""
    from even_beam.words import notation

    known = LIMITS[name]
    bound = "" if name == "white_k" else "at most " if known.most else "at least "
    return f"{bound}{notation.plain(value, 4)} {known.unit}".strip()


def words_of(text: str, limits: Mapping[str, float]) -> str:
    """What a line would change, in words."""
    after = changed(text, limits)
    said = [f"{LIMITS[n].label} {limit_words(n, v)}" for n, v in after.items() if limits.get(n) != v]
    said += [f"{LIMITS[name].label}: not asked" for name in limits if name not in after]
    return "; ".join(said) or "nothing new"
