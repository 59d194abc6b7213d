"""How well two readings of the same thing agree: what the meter, the lamp and the hand leave open together."""

import itertools
from collections.abc import Callable, Sequence

import numpy as np

from even_beam.bench import fields, terms
from even_beam.bench.estimate import figure_of
from even_beam.bench.measured import Measured
from even_beam.known.evidence import Evidence, ids
from even_beam.known.findings.finding import Finding
from even_beam.words.quantities import QUANTITIES, Use, score_names

LEAST_PAIRS = 3


def _kelvin(a: float, b: float) -> float:
    return abs(b - a)


def _stops(a: float, b: float) -> float:
    return abs(float(np.log2(b / a))) if a > 0.0 and b > 0.0 else float("nan")


_QUANTITIES: Sequence[tuple[str, str, str, int, Callable[[float, float], float]]] = (
    ("cct", "white", "K", 1, _kelvin),
    ("illuminance", "level", "stops", 3, _stops),
    ("duv", "tint", "Duv", 5, _kelvin),
    *((name, QUANTITIES[name].label, "", 1, _kelvin) for name in score_names(Use.FOUND)),
)


def repeatability(evidence: Evidence) -> tuple[Finding, ...]:
    """The mean difference between one reading and the next at the same terms, of every quantity that was read twice.

    A level that its repeats contradict is told as that, and left out here.
    """
    slips = {m.reading.id for each in evidence.disagreeing for m in each.out}
    stand = [m for m in evidence.readings if m.reading.id not in slips]
    pairs = [pair for group in terms.grouped(stand).values() for pair in itertools.pairwise(group)]
    return tuple(found for one in _QUANTITIES if (found := _of(pairs, *one)) is not None)


def _of(
    pairs: Sequence[tuple[Measured, Measured]],
    quantity: str,
    name: str,
    unit: str,
    decimals: int,
    apart: Callable[[float, float], float],
) -> Finding | None:
    own = [(a, b, _value(a, quantity), _value(b, quantity)) for a, b in pairs]
    known = [(a, b, apart(x, y)) for a, b, x, y in own if x is not None and y is not None]
    known = [one for one in known if np.isfinite(one[2])]
    if len(known) < LEAST_PAIRS:
        return None
    off = np.array([size for _, _, size in known])
    mean, most = float(off.mean()), float(off.max())
    of = f" {unit}" if unit and unit != "Duv" else ""
    sentence = (
        f"Two readings of the same {name} differ by {mean:.{decimals}f}{of} on the mean of {len(known)} pairs,"
        f" {most:.{decimals}f} at most"
    )
    return Finding(
        question="repeats",
        name=f"repeatability of {name}",
        value=mean,
        unit=unit if unit != "Duv" else "",
        words=sentence,
        terms="pairs at the same terms each",
        readings=tuple(dict.fromkeys(ids([m for a, b, _ in known for m in (a, b)]))),
        axis=fields.NAMES,
        spread=most,
        not_covered=("what is common to both: the calibration, the mark, the lamp's warmth",),
    )


def _value(measured: Measured, quantity: str) -> float | None:
    found = figure_of(measured, quantity)
    return found.value if found is not None else None
