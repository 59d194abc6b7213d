"""The figures of a reading as answers: each beside what was asked or expected, with what the meter can tell."""

import math
from dataclasses import dataclass, replace

from even_beam.bench.judging.expectation import Expected
from even_beam.bench.judging.gels import named_shift
from even_beam.bench.judging.second_look import SecondLook
from even_beam.bench.measured import Measured
from even_beam.bench.records import Meter, Terms, Value
from even_beam.bench.terms import terms_line
from even_beam.desk.session.desk import Proposal, SessionDesk, Taken
from even_beam.known import in_words as words
from even_beam.known.findings.tint import off_reference
from even_beam.light.white import TINT_REFERENCE_K
from even_beam.shell.settings import Settings
from even_beam.words import notation
from even_beam.words.quantities import QUANTITIES, USUALLY_ASKED


@dataclass(frozen=True, slots=True)
class Scale:
    """A short scale, 0 to 1: where the figure lies, from where to where the meter can tell, and what was wanted."""

    at: float
    told: tuple[float, float]
    wanted: tuple[float, float]
    caption: str

    @property
    def fits(self) -> bool:
        """Whether the figure lies in what was wanted, or cannot be told from it."""
        return self.told[0] <= self.wanted[1] and self.told[1] >= self.wanted[0]


@dataclass(frozen=True, slots=True)
class AnswerText:
    """A figure with its scale where something was asked or expected of it, and a few words."""

    label: str
    value: str
    unit: str = ""
    words: str = ""
    scale: Scale | None = None
    in_doubt: bool = False
    dim: bool = False


WANTED_MIRED, WANTED_DUV = 10.0, 0.003
"""What is drawn as near enough to a white asked: the ring of the miss plot (common practice, no source)."""


def caption(desk: SessionDesk, settings: Settings, taken: Taken | None, proposal: Proposal | None) -> str:
    """Of which reading the figures are, with its terms: they are never those of the next step."""
    if proposal is not None:
        return f"typed, not kept: {terms_line(desk.next_terms, settings.distance_unit)}"
    shown = taken.measured if taken is not None else desk.counted[-1] if desk.counted else None
    if shown is None:
        return ""
    when = "just read" if taken is not None else "read last"
    name = desk.name_of(shown.reading.source_ids) if shown.reading.source_ids else ""
    terms = terms_line(shown.terms, settings.distance_unit)
    return f"{when}: {' · '.join(part for part in (name, terms) if part)}"


def answers_shown(
    desk: SessionDesk, settings: Settings, taken: Taken | None, proposal: Proposal | None
) -> tuple[AnswerText, ...]:
    """The answers of the line in doubt, else of the reading just taken, else of the latest."""
    if proposal is not None:
        return answers_of_proposal(proposal, desk.next_terms, desk.meter, settings)
    shown = taken.measured if taken is not None else desk.counted[-1] if desk.counted else None
    if shown is None:
        return ()
    meter = desk.meters.get(shown.reading.meter_id or "")
    return answers_of(taken if taken is not None else Taken(shown, SecondLook(False, ())), meter, settings)


def answers_of(taken: Taken, meter: Meter | None, settings: Settings) -> tuple[AnswerText, ...]:
    """The figures of a reading just taken, each with what may be said of it."""
    measured, look = taken.measured, taken.look
    blocks = (
        [] if measured.value("illuminance") is None else [_level_block(measured.value("illuminance"), look, settings)]
    )
    dim = meter is not None and (measured.value("illuminance") or math.inf) < meter.dim_lx
    cct, duv = measured.value("cct"), measured.value("duv")
    if cct is not None:
        blocks.append(_white_block(cct, measured.terms, meter, look, dim))
        if duv is not None:
            blocks.append(_tint_block(duv, cct, meter, dim))
    elif duv is not None:
        blocks.append(AnswerText("tint", notation.duv(duv), "Duv", "coloured light: no colour temperature"))
    if (scores := _scores_block(measured, dim)) is not None:
        blocks.append(scores)
    if measured.value("illuminance") is not None and measured.terms.distance_m and measured.computed is None:
        candela = (measured.value("illuminance") or 0.0) * measured.terms.distance_m**2
        blocks.append(AnswerText("candela", notation.number(float(f"{candela:.3g}")), "cd", "by the inverse square"))
    shown = set(USUALLY_ASKED)
    others = [value for value in measured.reading.values if value.quantity not in shown]
    return (*blocks, *(_plain_block(value) for value in others))


def _plain_block(value: Value) -> AnswerText:
    """A figure of any other quantity, as it was given."""
    quantity = QUANTITIES.get(value.quantity)
    label = quantity.label if quantity is not None else value.quantity
    if value.value is None or quantity is None:
        return AnswerText(label, value.text)
    decimals = max(0, -math.floor(math.log10(quantity.step))) if value.value < 100.0 else 0
    return AnswerText(label, notation.number(value.value, decimals), quantity.unit, value.text)


def answers_of_proposal(
    proposal: Proposal, terms: Terms, meter: Meter | None, settings: Settings
) -> tuple[AnswerText, ...]:
    """The figures of a typed line that awaits a decision; in doubt is the one that does not fit."""
    cct = next((entry.value for entry in proposal.entries if entry.quantity == "cct"), None)
    blocks = []
    for entry in proposal.entries:
        if entry.quantity == "illuminance":
            blocks.append(_level_block(entry.value, proposal.look, settings))
        elif entry.quantity == "cct" and entry.value is not None:
            blocks.append(_white_block(entry.value, terms, meter, proposal.look, dim=False))
        elif entry.quantity == "duv" and entry.value is not None and cct is not None:
            tint = _tint_block(entry.value, cct, meter, dim=False)
            blocks.append(replace(tint, in_doubt=proposal.look.in_doubt and proposal.look.quantity == "duv"))
        else:
            known = QUANTITIES.get(entry.quantity or "")
            label = known.label if known is not None else entry.quantity or "figure"
            doubted = proposal.look.in_doubt and proposal.look.quantity == entry.quantity
            blocks.append(AnswerText(label, entry.written.removeprefix(f"{label} "), in_doubt=doubted))
    return tuple(blocks)


def _level_block(level: float | None, look: SecondLook, settings: Settings) -> AnswerText:
    unit = settings.illuminance_unit
    doubt = look.in_doubt and look.quantity == "illuminance"
    scale = _level_scale(level, look.expected, unit) if look.expected is not None else None
    said = ""
    if scale is not None:
        said = "as expected" if scale.fits else "not as expected"
    return AnswerText(
        label="illuminance", value=notation.illuminance(level, unit), unit=unit, words=said, scale=scale, in_doubt=doubt
    )


def _level_scale(level: float | None, expected: Expected, unit: str) -> Scale | None:
    """The expected band in the middle fifth or so of a scale in stops, and the figure on it."""
    if not level:
        return None
    half = 2.5 * max(expected.tolerance_stops, expected.above, 0.1)
    below, above = 0.5 * expected.tolerance_stops / half, 0.5 * expected.above / half
    at = _held(0.5 + 0.5 * expected.stops_off(level) / half)
    low, high = notation.illuminance(expected.low, unit), notation.illuminance(expected.high, unit)
    return Scale(at, (at, at), (0.5 - below, 0.5 + above), f"{low}–{high} was expected")


def _held(place: float) -> float:
    """A place on a scale, held inside its ends."""
    return min(max(place, 0.01), 0.99)


def _around(value: float, half: float, wanted: float, middle: float, said: str) -> Scale:
    """A figure with its half width on a scale about what was wanted, wide enough for both."""
    reach = max(2.5 * wanted, 1.2 * (abs(value - middle) + half))
    at = 0.5 + 0.5 * (value - middle) / reach
    told = 0.5 * half / reach
    band = 0.5 * wanted / reach
    return Scale(_held(at), (_held(at - told), _held(at + told)), (0.5 - band, 0.5 + band), said)


def _white_block(cct: float, terms: Terms, meter: Meter | None, look: SecondLook, dim: bool) -> AnswerText:
    doubt = look.in_doubt and look.quantity == "cct"
    scale = None
    if dim:
        said = "too dim to trust"
    elif terms.cct_k is None:
        said = f"{notation.number(1e6 / cct, 0)} mired"
    else:
        error = words.white_error(cct, terms.cct_k, meter)
        said = words.error_line(error)
        scale = _white_scale(error, terms.cct_k, terms.configuration)
    return AnswerText("white", notation.kelvin(cct), "K", said, scale, in_doubt=doubt, dim=dim)


def _white_scale(error: words.WhiteError, dialled_k: float, configuration: tuple[str, ...]) -> Scale | None:
    """An error against the white that was dialled, or that gels of known shift make of it; none behind any other."""
    shift = named_shift(configuration)
    if shift is None:
        return None
    low, high = shift
    if shift == (0.0, 0.0):
        asked = f"{notation.dialled(dialled_k)} K asked"
    else:
        span = " to ".join(dict.fromkeys(notation.number(end, 0, signed=True) for end in shift))
        asked = f"gels: {span} mired"
    wanted = WANTED_MIRED + 0.5 * (high - low)
    return _around(error.mired, error.tolerance_mired, wanted, 0.5 * (low + high), asked)


def _tint_block(duv: float, cct: float, meter: Meter | None, dim: bool) -> AnswerText:
    """The tint beside that of the white's own curve: a perfect daylight is not green."""
    if dim:
        return AnswerText("tint", notation.duv(duv), "Duv", "too dim to trust", dim=True)
    half = words.tint_tolerance(cct, meter)
    off = off_reference(duv, cct)
    has_two = cct >= TINT_REFERENCE_K[0]
    nearest = duv - off  # on the curve that it lies beyond, or where it is
    beyond = "daylight curve" if has_two and off > 0.0 else "Planckian"
    name = "between the curves" if has_two and off == 0.0 else beyond
    is_between = has_two and off == 0.0
    said = name if is_between else f"on the {name}"
    if abs(off) > half:
        said = words.tint_words(duv, cct, meter)
    mark = "neutral here" if is_between else f"{name} {notation.duv(nearest)}"
    scale = _around(duv, half, WANTED_DUV, nearest, mark)
    return AnswerText("tint", notation.duv(duv), "Duv", said, scale)


def _scores_block(measured: Measured, dim: bool) -> AnswerText | None:
    ra, rf = measured.value("ra"), measured.value("rf")
    if ra is None:
        return None
    if measured.computed is None or rf is None:
        return AnswerText("Ra", notation.score(ra), "", "as the meter shows it", dim=dim)
    samples = measured.vectors.get("R", ())
    lowest = min(range(len(samples)), key=lambda i: samples[i]) if samples else None
    said = f"lowest R{lowest + 1} {notation.score(samples[lowest])}" if lowest is not None else ""
    return AnswerText("Ra · Rf", f"{notation.score(ra)} · {notation.score(rf)}", "", said, dim=dim)
