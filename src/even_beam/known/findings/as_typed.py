"""What was given and nothing is reckoned from: bounds and ranges, and figures beside light and colours, as typed."""

from collections.abc import Mapping

from even_beam.bench import terms
from even_beam.bench.measured import Measured
from even_beam.bench.records import Origin, Value
from even_beam.known.evidence import Evidence, ids
from even_beam.known.findings.electrical import apparent_of, watts_of
from even_beam.known.findings.finding import Finding
from even_beam.words import notation
from even_beam.words.quantities import QUANTITIES

_QUESTIONS: Mapping[str, str] = {
    **dict.fromkeys(("illuminance", "luminance", "f_stop", "ev", "beam_deg"), "output"),
    **dict.fromkeys(("cct", "duv", "cc", "x", "y", "hue", "saturation"), "white"),
    **dict.fromkeys(("re", *(f"r{i}" for i in range(1, 16) if i != 9)), "colour"),
    **dict.fromkeys(("power_w", "power_va", "current_a", "voltage_v", "power_factor", "temperature_c"), "electrical"),
    **dict.fromkeys(("flicker_hz", "percent_flicker", "flicker_index", "svm", "pst_lm"), "electrical"),
    "sound_db": "noise",
}
"""The question that a figure belongs to; scores have sentences of their own, with bounds as with figures."""

_ORDER = tuple(QUANTITIES)

_ALONE = frozenset({"luminance", "ev", "re", "temperature_c", "beam_deg", "pst_lm"})
"""Quantities that nothing else is said of."""

_WITH = {"x": "cct", "y": "cct", "duv": "cct", "flicker_index": "percent_flicker", "svm": "percent_flicker"}
"""Quantities that are told with another, where that was read."""


def as_typed(evidence: Evidence) -> tuple[Finding, ...]:
    """One sentence for each question and set of terms, so that nothing that was typed goes untold."""
    untold: dict[str, dict[str, list[Value]]] = {}
    for measured in evidence.readings:
        for value in measured.reading.values:
            question = _QUESTIONS.get(value.quantity)
            if question is not None and value.origin is not Origin.COMPUTED and _is_untold(measured, value):
                untold.setdefault(question, {}).setdefault(measured.reading.id, []).append(value)
    found = []
    for question, values in untold.items():
        for repeats in terms.grouped([m for m in evidence.readings if m.reading.id in values]).values():
            own = [value for m in repeats for value in values[m.reading.id]]
            figures = dict.fromkeys(map(_words, sorted(own, key=lambda value: _ORDER.index(value.quantity))))
            said = evidence.at(repeats[0])
            found.append(
                Finding(
                    question=question,
                    name="as typed",
                    value=None,
                    unit="",
                    words=f"{notation.sentence(', '.join(figures))}, as typed",
                    terms=said,
                    readings=ids(repeats),
                    weight=12,
                )
            )
    return tuple(found)


def _is_untold(measured: Measured, value: Value) -> bool:
    """Whether no other finding speaks of a figure."""
    if measured.value(value.quantity) is None:
        return value.low is not None or value.high is not None
    if value.quantity in _WITH:
        return measured.value(_WITH[value.quantity]) is None
    if value.quantity == "hue":
        return measured.terms.hue_deg is None
    if value.quantity == "saturation":
        return measured.terms.saturation_pct is None
    if value.quantity in {"current_a", "voltage_v", "power_factor"}:
        return watts_of(measured) is None and apparent_of(measured) is None
    return value.quantity in _ALONE


def _words(value: Value) -> str:
    """The figure with the name of its quantity, as it was typed."""
    given = value.text or (notation.plain(value.value, 4) if value.value is not None else _ends(value))
    has_unit = given[-1].isalpha() or not value.unit or given.endswith(value.unit)
    unit = "" if has_unit else value.unit if value.unit == "°" else f" {value.unit}"
    label = "chromaticity x" if value.quantity == "x" else QUANTITIES[value.quantity].label
    return f"{label} {given}{unit}"


def _ends(value: Value) -> str:
    ends = [notation.plain(end, 4) for end in (value.low, value.high) if end is not None]
    return " to ".join(ends) if len(ends) == 2 else f"{'at least' if value.low is not None else 'at most'} {ends[0]}"
