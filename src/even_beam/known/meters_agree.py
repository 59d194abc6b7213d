"""Whether two meters agree: where both have read one lamp at the same terms, what one gives more than the other.

A lamp that both read in one session is the same light to both; one that travelled between two evenings may have
wandered between them, which no number of readings of these evenings tells.
"""

import itertools
import math
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from datetime import datetime
from statistics import fmean

import numpy as np
from scipy import stats

from even_beam.bench import terms
from even_beam.bench.estimate import TELLS
from even_beam.bench.measured import Measured
from even_beam.known.choice import Entrant
from even_beam.known.evenings import WANDERS_MIRED, WANDERS_STOPS

_PER_NATURAL = 1.0 / math.log(2.0)


LEAST_TO_TELL = 3
"""So many pairs at least."""


@dataclass(frozen=True, slots=True)
class Asked:
    """A quantity that both read: what it is called, its unit, how one light differs from evening to evening and two
    readings of one light from each other (95 %; common practice, no source), and what is taken of repeats."""

    name: str
    unit: str
    wanders: float
    repeats: float
    take: Callable[[Sequence[Measured]], float | None]


def _mean(name: str, of: Callable[[float], float]) -> Callable[[Sequence[Measured]], float | None]:
    def taken(repeats: Sequence[Measured]) -> float | None:
        values = [
            value for m in repeats if (value := m.value(name)) is not None and (name != "illuminance" or value > 0)
        ]
        return of(fmean(values)) if values else None

    return taken


ASKED = (
    Asked("level", "stops", WANDERS_STOPS, 0.03, _mean("illuminance", math.log2)),
    Asked("white", "mired", WANDERS_MIRED, 1.0, _mean("cct", lambda kelvin: 1e6 / kelvin)),
    Asked("tint", "Duv", 0.0006, 0.0003, _mean("duv", float)),
    Asked("Ra", "", 0.5, 0.3, _mean("ra", float)),
)


@dataclass(frozen=True, slots=True)
class Pair:
    """What the first meter gives more than the second of one lamp at the same terms; the later of both moments, and the
    sessions of either."""

    lamp: str
    at: datetime
    difference: float
    sessions: tuple[str, str]


@dataclass(frozen=True, slots=True)
class Agreement:
    """What one meter gives more than another (positive: brighter, warmer, greener, higher), with its 95 % half width,
    and what that rests on. `drift` is how that changed over all the time, with its half width, where it can be told."""

    first: str
    second: str
    asked: Asked
    pairs: tuple[Pair, ...]
    difference: float
    half_width: float
    drift: tuple[float, float] | None

    @property
    def is_enough(self) -> bool:
        """Whether there are enough pairs to tell anything: one slip would make one of two."""
        return len(self.pairs) >= LEAST_TO_TELL

    @property
    def is_told(self) -> bool:
        """Whether they differ by more than can be chance."""
        return self.is_enough and abs(self.difference) > self.half_width * TELLS

    @property
    def lamps(self) -> list[str]:
        """The lamps that both have read."""
        return list(dict.fromkeys(pair.lamp for pair in self.pairs))

    @property
    def has_drifted(self) -> bool:
        """Whether what one gives more has changed over time by more than can be chance."""
        return self.drift is not None and abs(self.drift[0]) > self.drift[1] * TELLS


def agreements(entrants: Sequence[Entrant]) -> list[Agreement]:
    """Of every two meters that have read the same lamps at the same terms, by their identities; those with most pairs
    first."""
    found: dict[tuple[str, str], list[tuple[str, list[Measured], list[Measured]]]] = {}
    for entrant in entrants:
        for repeats in terms.grouped(entrant.readings, "meter", "session").values():
            by_meter = terms.by_value_of(repeats, lambda m: m.reading.meter_id or "")
            for one, other in itertools.combinations(sorted(str(name) for name in by_meter if name), 2):
                found.setdefault((one, other), []).append((entrant.name, by_meter[one], by_meter[other]))
    told = [
        agreement
        for (one, other), both in found.items()
        for asked in ASKED
        if (agreement := _agreement(one, other, asked, both)) is not None
    ]
    return sorted(told, key=lambda a: (-len(a.pairs), a.first, a.second))


def _agreement(
    one: str, other: str, asked: Asked, both: Sequence[tuple[str, list[Measured], list[Measured]]]
) -> Agreement | None:
    pairs = tuple(pair for lamp, ours, theirs in both for pair in _pairs(lamp, ours, theirs, asked))
    if not pairs:
        return None
    differences = np.array([pair.difference for pair in pairs])
    mean = float(differences.mean())
    return Agreement(one, other, asked, pairs, mean, _half_width(pairs, differences, asked), _drift(pairs))


def _pairs(lamp: str, ours: Sequence[Measured], theirs: Sequence[Measured], asked: Asked) -> Iterator[Pair]:
    """Session by session where both read in one; else the evenings nearest to each other, each used once."""
    by_session = [terms.by_value_of(side, lambda m: m.reading.session_id) for side in (ours, theirs)]
    shared = [session for session in by_session[0] if session in by_session[1]]
    matched = [(session, session) for session in shared]
    left = [[s for s in side if s not in shared] for side in by_session]
    while left[0] and left[1]:
        a, b = min(
            itertools.product(*left),
            key=lambda two: abs(by_session[0][two[0]][0].reading.at - by_session[1][two[1]][0].reading.at),
        )
        matched.append((a, b))
        left[0].remove(a)
        left[1].remove(b)
    for a, b in matched:
        here, there = asked.take(by_session[0][a]), asked.take(by_session[1][b])
        if here is not None and there is not None:
            at = max(by_session[0][a][-1].reading.at, by_session[1][b][-1].reading.at)
            yield Pair(lamp, at, here - there, (str(a), str(b)))


def _half_width(pairs: Sequence[Pair], differences: np.ndarray, asked: Asked) -> float:
    """Scatter of the pairs (JCGM 100:2008, G.3), which a few may hide by chance, so that it is at least what readings
    repeat to; and what lamps wander between evenings: once for each lamp and two evenings, however many pairs."""
    count = len(pairs)
    scatter = asked.wanders if count < 2 else 0.0
    if count > 1:
        quantile = float(stats.t.ppf(0.975, count - 1))
        spread = max(quantile * float(differences.std(ddof=1)), asked.repeats)
        scatter = spread / math.sqrt(count)
    apart = {(pair.lamp, pair.sessions) for pair in pairs if pair.sessions[0] != pair.sessions[1]}
    together = sum(pair.sessions[0] == pair.sessions[1] for pair in pairs)
    share = (count - together) / count
    wander = share * asked.wanders / math.sqrt(len(apart)) if apart else 0.0
    return math.hypot(scatter, wander)


LEAST_PAIRS, LEAST_DAYS = 4, 30.0
"""A drift is looked for in so many pairs over so many days."""


def _drift(pairs: Sequence[Pair]) -> tuple[float, float] | None:
    """How the difference changed from the first pair to the last, by a line through all."""
    days = np.array([pair.at.timestamp() for pair in pairs]) / 86_400.0
    span = float(days.max() - days.min())
    if len(pairs) < LEAST_PAIRS or span < LEAST_DAYS:
        return None
    line = stats.linregress(days, [pair.difference for pair in pairs])
    quantile = float(stats.t.ppf(0.975, len(pairs) - 2))
    return float(line.slope) * span, quantile * float(line.stderr) * span
