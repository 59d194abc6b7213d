"""Numbers that do not say what they are: what each could be here, and how well that fits."""

import re
from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import replace

from even_beam.bench.field_texts import FIXED
from even_beam.bench.limits import impossible_figure
from even_beam.bench.records import Terms
from even_beam.said import figures
from even_beam.said.meaning import GROUPED, Meaning, Stretch, Whole, may_part, term
from even_beam.said.situation import Situation
from even_beam.said.terms import dialled
from even_beam.words.entry import AmbiguousEntryError, Entry, EntryError, parse
from even_beam.words.quantities import QUANTITIES, score_names

USUAL_WHITES_K = (2700.0, 2800.0, 3000.0, 3200.0, 4000.0, 4300.0, 4400.0, 4500.0, 5000.0, 5400.0, 5500.0, 5600.0,
                  6000.0, 6500.0, 7500.0, 8000.0, 10_000.0)  # fmt: skip
"""Whites that lamps are dialled to (common practice, no source)."""

NEAR_DIALLED_MIRED = 40.0
"""A number no farther from what is dialled may well be the white that was read."""

MAY_BE, SURE = 2.0, 0.5
"""What a number costs that may be something, and one that can hardly be anything else here."""
FITS = 1.5
"""What is taken off a level that is expected, or that lies where levels were typed all along."""
FARTHER = 0.8
"""What a white costs more for each `NEAR_DIALLED_MIRED` between it and what is dialled."""

LAST = 1.2
"""What a number costs more as something that nobody asked for."""
UNASKED = ("ra", "tlci")

MOST_DUV = 0.06
"""A number without unit that is larger is no Duv."""

_PER_CENT = re.compile(r"[2-9]\d|100")
_THREE_DECIMALS = re.compile(r"[.,]\d{3}")
_NOUGHTS = re.compile(r"0{2,}")


def meanings(stretch: Stretch) -> Iterable[Meaning]:
    """What a number without unit may be here: a figure that is asked, or the white of a dial."""
    situation, words = stretch.situation, stretch.words
    if not _is_number(words):
        return
    apart = GROUPED if may_part(stretch) else 0.0
    for name in _candidates(situation):
        for entry, said in _entries(words, name, situation):
            if impossible_figure(name, entry.value, entry.low, entry.high) is None:
                yield _figure(name, replace(entry, text=words), said, situation, apart)
    for setting in (*_dial(words, situation), *_dimmer(words, situation)):
        yield replace(setting, cost=setting.cost + apart)


def _is_number(words: str) -> bool:
    """Whether it is a number, however it is bounded, and nothing says of what."""
    if _NOUGHTS.fullmatch(words):
        return False
    try:
        return parse(words).quantity is None
    except AmbiguousEntryError:
        return True
    except EntryError:
        return False


def _candidates(situation: Situation) -> list[str]:
    """The quantities that a number may be of: those asked, the white or the hue that is dialled; without a run the
    usual scores as well, where nothing else fits."""
    beside = [] if situation.firm else ["hue"] if situation.terms.hue_deg is not None else ["cct"]
    if situation.firm and situation.terms.cct_k is not None:
        beside.append("cct")
    unasked = [] if situation.firm else list(UNASKED)
    return list(dict.fromkeys([*situation.asked, *beside, *unasked]))


def _entries(words: str, name: str, situation: Situation) -> Iterator[tuple[Entry, str]]:
    """The number as a figure of a quantity, each way it may be read, with the number as it was taken."""
    try:
        yield _entry(words, name, situation), words
    except AmbiguousEntryError as asks:
        for choice in asks.choices:
            yield _entry(choice, name, situation), choice
    except EntryError:
        return


def _entry(words: str, name: str, situation: Situation) -> Entry:
    if name == "illuminance" and situation.level_unit != "lx":
        return parse(f"{words} {situation.level_unit}")
    return parse(words, name)


def _spelled(name: str, said: str, situation: Situation) -> str:
    """The number as it says by itself what it is."""
    unit = {"illuminance": situation.level_unit, "cct": "K", "duv": "duv"}.get(name)
    known = QUANTITIES[name]
    if name == "f_stop":
        return f"f/{said}"
    if unit is not None:
        return f"{said} {unit}"
    return f"{known.names[0]} {said}" if known.names else f"{said} {next(iter(known.units), '')}".strip()


def _shown(name: str, entry: Entry) -> str:
    known = QUANTITIES[name]
    if name == "cct":
        return f"{entry.written} read"
    return f"{known.label} {entry.written}" if known.names and name != "duv" else entry.written


def _figure(name: str, entry: Entry, said: str, situation: Situation, apart: float) -> Meaning:
    """A number as a figure of a quantity; how well that fits is known with the whole line."""
    if name in figures.COLOUR_READ and entry.value is not None:
        meaning = figures.colour_read(name, f"{entry.value:g}", entry.text)
    else:
        letter = QUANTITIES[name].letter
        meaning = Meaning(_spelled(name, said, situation), _shown(name, entry), entry=entry, letter=letter)

    def settled(whole: Whole) -> Meaning | None:
        cost = _WEIGHTS.get(name, _any)(entry, whole.here, situation)
        return None if cost is None else replace(meaning, cost=cost + apart, settle=None)

    return replace(meaning, settle=settled, least=SURE + apart)


Weight = Callable[[Entry, Terms, Situation], float | None]
"""What a number costs as a figure, at the terms of the whole line; None where it is none."""


def _any(entry: Entry, here: Terms, situation: Situation) -> float | None:
    return MAY_BE


def _level(entry: Entry, here: Terms, situation: Situation) -> float | None:
    value = entry.middle
    if value < 0.0:
        return None
    usual = (span for span in (situation.expected, situation.lately) if span is not None)
    return MAY_BE - FITS if any(low <= value <= high for low, high in usual) else MAY_BE


def _white(entry: Entry, here: Terms, situation: Situation) -> float | None:
    """Near what is dialled; elsewhere only what lamps are set to, or where a white and no level is asked."""
    value = entry.middle
    apart = abs(1e6 / value - 1e6 / here.cct_k) if here.cct_k is not None and value > 0.0 else float("inf")
    if apart <= NEAR_DIALLED_MIRED:
        return MAY_BE + FARTHER * apart / NEAR_DIALLED_MIRED
    if "cct" not in situation.asked:
        return None
    if "illuminance" not in situation.asked:
        return MAY_BE
    if here.cct_k is None or _is_usual(value, situation):
        return MAY_BE if 1700.0 <= value <= 20_000.0 else None
    is_far = situation.firm or apart > 3.0 * NEAR_DIALLED_MIRED
    return None if is_far else MAY_BE + FARTHER * apart / NEAR_DIALLED_MIRED


def _is_usual(value: float, situation: Situation) -> bool:
    return not situation.firm and _is_a_white(value, situation)


def _is_a_white(value: float, situation: Situation) -> bool:
    """Whether lamps are set to it."""
    return value in USUAL_WHITES_K or value in situation.whites


def _score(name: str) -> Weight:
    def weight(entry: Entry, here: Terms, situation: Situation) -> float | None:
        if not 20.0 <= entry.middle <= 100.0:
            return None
        return MAY_BE if name in situation.asked else MAY_BE + LAST

    return weight


def _duv(entry: Entry, here: Terms, situation: Situation) -> float | None:
    """Nobody signs a level, or gives it in thousandths."""
    typed = entry.text.strip()
    like_one = typed[:1] in {"+", "-", "−"} or _THREE_DECIMALS.search(typed) is not None
    return SURE if like_one and abs(entry.middle) <= MOST_DUV else None


def _hue(entry: Entry, here: Terms, situation: Situation) -> float | None:
    if here.hue_deg is None and "hue" not in situation.asked:
        return None
    return SURE if 0.0 <= entry.middle <= 360.0 else None


_WEIGHTS: Mapping[str, Weight] = {
    "illuminance": _level, "cct": _white, "duv": _duv, "hue": _hue,
    **{name: _score(name) for name in score_names()},
}  # fmt: skip


def _dial(words: str, situation: Situation) -> Iterator[Meaning]:
    """The white of a dial: one that lamps are set to, where nobody asks for a figure alone and the lamp has one."""
    if situation.firm or situation.terms.mode == FIXED:
        return
    try:
        entry = parse(words, "cct")
    except EntryError:
        return
    white = entry.value
    if white is not None and _is_a_white(white, situation) and white != situation.terms.cct_k:
        yield dialled(white, cost=MAY_BE, letter="d")


def _dimmer(words: str, situation: Situation) -> Iterator[Meaning]:
    """The dimmer's level, where it may be a score as well: nobody asked for either, so it is never taken alone."""
    if not situation.firm and _PER_CENT.fullmatch(words):
        said = term(f"{words} %", f"{words} % of the dimmer", level_pct=float(words))
        yield replace(said, cost=max(said.cost, MAY_BE + LAST), letter="p")
