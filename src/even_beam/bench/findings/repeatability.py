"""How well two readings of the same thing agree: what the meter, the lamp and the hand leave open together."""

import itertools

import numpy as np

from even_beam.bench.findings.finding import Evidence, Finding, grouped, ids, value_of
from even_beam.bench.measured import Measured

LEAST_PAIRS = 3


def repeatability(evidence: Evidence) -> tuple[Finding, ...]:
    """The mean difference between one reading and the next at the same terms, in kelvin and in stops."""
    groups = grouped(evidence.readings, lambda m: (m.terms, m.reading.meter_id, m.reading.session_id)).values()
    pairs = [pair for group in groups for pair in itertools.pairwise(group)]
    found = []
    for quantity, name, unit in (("cct", "white", "K"), ("illuminance", "level", "stops")):
        own = [(a, b) for a, b in pairs if a.value(quantity) and b.value(quantity)]
        if len(own) < LEAST_PAIRS:
            continue
        apart = np.array([_apart(a, b, quantity) for a, b in own])
        decimals = 1 if unit == "K" else 3
        mean, most = float(apart.mean()), float(apart.max())
        sentence = f"Two readings of the same {name} differ by {mean:.{decimals}f} {unit} on the mean of {len(own)} pairs, {most:.{decimals}f} at most."  # fmt: skip
        readings = ids([m for pair in own for m in pair])
        open_ = ("what is common to both: the calibration, the mark, the lamp's warmth",)
        found.append(Finding("repeats", f"repeatability of {name}", mean, unit, sentence, "over all settings read twice", readings, most, None, None, open_))  # fmt: skip
    return tuple(found)


def _apart(a: Measured, b: Measured, quantity: str) -> float:
    first, second = value_of(a, quantity), value_of(b, quantity)
    return abs(second - first) if quantity == "cct" else abs(float(np.log2(second / first)))
