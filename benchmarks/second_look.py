"""The second look as a detector: how often it doubts an evening that is clean, and how many slips it catches.

The evenings are drawn outside the program: lamps behind and before their plane, panels near by, lensed spots, dimmers
of nine kinds, rounded figures, a meter good to 1.5 %, marks to 1 cm, aim to 1 %. Slips of ten kinds, one an evening,
beyond 0.6 stop. At entry every reading is looked at as it comes; afterwards the whole evening at once.
"""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from datetime import UTC, datetime, timedelta

import numpy as np

from even_beam.bench.judging.second_look import Context, Subject, second_look
from even_beam.bench.measured import Measured
from even_beam.bench.records import Meter, Origin, Reading, Terms, Value
from even_beam.bench.run import ReadingState
from even_beam.known.choice import Entrant
from even_beam.known.doubts import flags

SEED, EVENINGS = 20261125, 200
START = datetime(2026, 3, 1, 20, tzinfo=UTC)
METER = Meter("m", "Hand meter", kind="light meter", floor_lx=0.0, dim_lx=0.1)
FAR = (
    (5.0, 4.0, 3.0, 2.0, 1.0),
    (1.0, 2.0, 3.0, 4.0),
    (3.0, 2.0, 1.0),
    (1.524, 3.048, 4.572, 7.62),
    (2.0, 3.0, 5.0, 8.0),
)
SWEEPS = (
    (100, 75, 50, 25, 10),
    (100, 50, 25, 10, 5, 1),
    (1, 5, 10, 25, 50, 100),
    (100, 80, 60, 40, 20),
    (10, 30, 50, 70, 90),
)


@dataclass(frozen=True)
class Evening:
    """Terms in the order of reading with the true level of each."""

    kind: str
    terms: tuple[Terms, ...]
    true_lx: np.ndarray


def walks(rng: np.random.Generator) -> Evening:
    """One lamp along its distance: a point behind or before the plane, a panel, a lensed spot."""
    marks = np.array(FAR[rng.integers(len(FAR))])
    kind = rng.integers(3)
    candela = 10.0 ** rng.uniform(3.2, 4.8)
    if kind == 0:
        level = candela / (marks + rng.uniform(-0.1, 0.35)) ** 2
    elif kind == 1:
        width, height = rng.uniform(0.3, 1.2), rng.uniform(0.3, 0.6)
        level = np.array([_panel(d, width, height) for d in marks]) * candela
    else:
        level = candela / (marks + rng.uniform(0.4, 1.3)) ** 2
    terms = tuple(Terms(cct_k=5600.0, level_pct=100.0, distance_m=float(d)) for d in marks)
    return Evening("walk", terms, level)


def _panel(distance: float, width: float, height: float) -> float:
    """Level on the axis of a Lambertian rectangle, by summing its parts (brute force)."""
    x = (np.arange(24) + 0.5) / 24.0 - 0.5
    xx, yy = np.meshgrid(x * width, x * height)
    r2 = xx**2 + yy**2 + distance**2
    return float(np.mean(distance**2 / r2**2))


def _step(x: np.ndarray) -> np.ndarray:
    return np.ceil(x * 20.0) / 20.0


DIMMERS: dict[str, Callable[[np.ndarray, np.random.Generator], np.ndarray]] = {
    "linear": lambda x, rng: x,
    "square": lambda x, rng: x**2,
    "power": lambda x, rng: x ** rng.uniform(0.7, 2.6),
    "S": lambda x, rng: 0.5 - 0.5 * np.cos(np.pi * x) + 0.002,
    "log": lambda x, rng: (100.0**x - 1.0) / 99.0,
    "floored": lambda x, rng: np.maximum(x, rng.uniform(0.02, 0.1)),
    "offset": lambda x, rng: 0.04 + 0.96 * x,
    "stepped": lambda x, rng: _step(x),
    "root": lambda x, rng: x**0.6,
}


def sweeps(rng: np.random.Generator) -> Evening:
    """One lamp along its dimmer, down or up."""
    levels = np.array(SWEEPS[rng.integers(len(SWEEPS))], dtype=np.float64)
    law = DIMMERS[str(rng.choice(list(DIMMERS)))]
    level = 10.0 ** rng.uniform(2.7, 3.9) * law(levels / 100.0, rng)
    terms = tuple(Terms(cct_k=5600.0, level_pct=float(p), distance_m=2.0) for p in levels)
    return Evening("sweep", terms, level)


def two_whites(rng: np.random.Generator) -> Evening:
    """A sweep in two whites, which differ by up to 0.8 stop."""
    first = sweeps(rng)
    other = 2.0 ** rng.uniform(-0.8, 0.8)
    terms = (*first.terms, *(replace(t, cct_k=3200.0) for t in first.terms))
    return Evening("two whites", terms, np.concatenate([first.true_lx, first.true_lx * other]))


def repeats(rng: np.random.Generator) -> Evening:
    """Three readings of the same, at two marks."""
    level = 10.0 ** rng.uniform(2.0, 3.8)
    terms = tuple(Terms(cct_k=5600.0, level_pct=100.0, distance_m=d) for d in (2.0, 2.0, 2.0, 3.0, 3.0, 3.0))
    return Evening("repeats", terms, level * np.array([1.0, 1.0, 1.0, 4 / 9, 4 / 9, 4 / 9]))


def _logistic(x: np.ndarray, rng: np.random.Generator) -> np.ndarray:
    steep, middle = rng.uniform(4.0, 10.0), rng.uniform(0.35, 0.65)
    at = 1.0 / (1.0 + np.exp(-steep * (x - middle)))
    low, high = 1.0 / (1.0 + np.exp(steep * middle)), 1.0 / (1.0 + np.exp(-steep * (1.0 - middle)))
    return (at - low) / (high - low) + 0.001


def _two_slopes(x: np.ndarray, rng: np.random.Generator) -> np.ndarray:
    low, high, knee = rng.uniform(1.5, 3.0), rng.uniform(0.6, 1.2), rng.uniform(0.2, 0.5)
    return np.where(x < knee, (x / knee) ** low * knee**high, x**high)


STRANGE: dict[str, Callable[[np.ndarray, np.random.Generator], np.ndarray]] = {
    "stops along the dial": lambda x, rng: 2.0 ** (rng.uniform(6.0, 12.0) * (x - 1.0)),
    "logistic": _logistic,
    "two slopes": _two_slopes,
    "CIE lightness": lambda x, rng: np.where(x > 0.08, ((100.0 * x + 16.0) / 116.0) ** 3, 100.0 * x / 903.3),
    "floored power": lambda x, rng: np.maximum(x ** rng.uniform(1.0, 2.4), rng.uniform(0.005, 0.1)),
}
"""Dimmers of other families than the program's laws: 6 to 12 stops over the dial, a logistic curve, a knee, the inverse
of lightness (CIE 15:2018, 8.2.1), a power with a floor."""


def strange_sweeps(rng: np.random.Generator) -> Evening:
    """A sweep along a dimmer of another family."""
    name = str(rng.choice(list(STRANGE)))
    levels = np.array(SWEEPS[rng.integers(len(SWEEPS))], dtype=np.float64)
    level = 10.0 ** rng.uniform(2.7, 4.5) * STRANGE[name](levels / 100.0, rng)
    return Evening(
        "strange sweep", tuple(Terms(cct_k=5600.0, level_pct=float(p), distance_m=2.0) for p in levels), level
    )


def far_origins(rng: np.random.Generator) -> Evening:
    """A walk whose light comes from up to 2 m behind the plane, or 1.5 ft before it."""
    marks = np.array(FAR[rng.integers(len(FAR))])
    level = 10.0 ** rng.uniform(3.2, 4.8) / (marks + rng.uniform(-0.457, 2.0)) ** 2
    return Evening("far origin", tuple(Terms(cct_k=5600.0, level_pct=100.0, distance_m=float(d)) for d in marks), level)


KINDS = (walks, sweeps, two_whites, repeats)
FOREIGN = (strange_sweeps, far_origins)


def read(evening: Evening, rng: np.random.Generator) -> np.ndarray:
    """What the meter shows: errors of meter, mark and aim, three figures."""
    distance = np.array([t.distance_m for t in evening.terms])
    error = rng.normal(0.0, 0.015, distance.size) - np.abs(rng.normal(0.0, 0.01, distance.size))
    marks = {float(d): rng.normal(0.0, 0.01) for d in np.unique(distance)}  # a mark is laid once
    off = np.array([marks[float(d)] for d in distance])
    shown = evening.true_lx * (1.0 + error) * (distance / (distance + off)) ** 2
    return np.array([float(f"{value:.3g}") for value in shown])


def slips(shown: np.ndarray, rng: np.random.Generator) -> Iterator[tuple[str, int, np.ndarray]]:
    """An evening with one slip of each kind that moves its figure by more than 0.6 stop."""
    digits = [f"{v:g}" for v in shown]
    for name, place, wrong in _wrong(digits, shown, rng):
        if wrong > 0.0 and abs(np.log2(wrong / shown[place])) > 0.6:
            other = shown.copy()
            other[place] = wrong
            yield name, place, other


def _wrong(digits: list[str], shown: np.ndarray, rng: np.random.Generator) -> Iterator[tuple[str, int, float]]:
    n = len(digits)
    place = int(rng.integers(n))
    yield "ten times", place, shown[place] * 10.0
    yield "a tenth", place, shown[place] / 10.0
    yield "feet for lux", place, shown[place] / 10.764
    place = int(rng.integers(n))
    text = digits[place]
    spots = [i for i, c in enumerate(text) if c.isdigit()]
    spot = int(rng.choice(spots))
    yield "wrong digit", place, float(f"{text[:spot]}{rng.integers(10)}{text[spot + 1 :]}")
    yield "dropped digit", place, float(text[:spot] + text[spot + 1 :] or "0")
    yield "doubled digit", place, float(text[: spot + 1] + text[spot:])
    if len(spots) > 1:
        a, b = spots[0], spots[1]
        swapped = list(text)
        swapped[a], swapped[b] = swapped[b], swapped[a]
        yield "swapped digits", place, float("".join(swapped))
    place = int(rng.integers(1, n))
    yield "lamp not changed", place, float(shown[place - 1])
    yield "next one read twice", place - 1, float(shown[place])
    yield "something before it", place, float(f"{shown[place] * 0.5:.3g}")


def _measured(terms: Terms, lux: float, sequence: int) -> Measured:
    at = START + timedelta(seconds=40 * sequence)
    value = Value("illuminance", lux, Origin.TYPED, text=f"{lux:g}")
    record = Reading(f"r{sequence}", "s", at, sequence, terms, ("lamp",), meter_id="m", values=(value,))
    return Measured(ReadingState(record, terms))


def asked(evening: Evening, shown: np.ndarray, clean: np.ndarray) -> set[int]:
    """The places that were doubted as they came, or asked about though nothing rules them out."""
    return at_entry(evening, shown, clean, weak=True)


def at_entry(evening: Evening, shown: np.ndarray, clean: np.ndarray, *, weak: bool = False) -> set[int]:
    """The places that were doubted as they came, or named as the odd one later; `weak` doubts as well.

    What is doubted is read again, rightly this time: a slip is gone then, and what was right is the same once more.
    """
    doubted: set[int] = set()
    taken: list[Measured] = []
    for place, (terms, first) in enumerate(zip(evening.terms, shown, strict=True)):
        before, lux = taken[-1] if taken else None, first
        look = second_look(_subject(terms, lux), Context(taken, before))
        if look.in_doubt or (weak and look.asks):
            doubted.add(place)
            again = [_measured(terms, float(lux), place)]
            lux = clean[place]
            look = second_look(_subject(terms, lux), Context(taken, before, again))
            if look.in_doubt:
                continue
        if look.odd_id:
            odd = int(look.odd_id[1:])
            doubted.add(odd)
            if shown[place] == clean[place]:
                doubted.discard(place)  # it was looked at, and the earlier one named instead
            taken = [m for m in taken if m.reading.id != look.odd_id]
            taken.append(_measured(evening.terms[odd], float(clean[odd]), odd))
        taken.append(_measured(terms, float(lux), place))
    return doubted


def _subject(terms: Terms, lux: float) -> Subject:
    return Subject({"illuminance": float(lux)}, terms, "lamp", METER, typed=True)


def afterwards(evening: Evening, shown: np.ndarray, clean: np.ndarray) -> set[int]:
    """The places that are doubted when the whole evening is looked at; `clean` is not."""
    pairs = enumerate(zip(evening.terms, shown, strict=True))
    own = tuple(_measured(terms, float(lux), place) for place, (terms, lux) in pairs)
    return {int(flag.reading_id[1:]) for flag in flags(Entrant("lamp", "Tansy", "", own))}


@dataclass
class Score:
    """Clean evenings with a doubt, slips found, and found with no right reading accused."""

    clean: int = 0
    alarms: int = 0
    slips: int = 0
    caught: int = 0
    alone: int = 0

    def line(self, name: str) -> str:
        """The score in a line."""
        return (
            f"{name}: doubts {100.0 * self.alarms / self.clean:.1f} % of {self.clean} clean evenings; catches"
            f" {100.0 * self.caught / self.slips:.1f} % of {self.slips} slips, {100.0 * self.alone / self.slips:.1f} %"
            " alone"
        )


Kind = Callable[[np.random.Generator], Evening]


def scores(evenings: int = EVENINGS, seed: int = SEED, kinds: Sequence[Kind] = (*KINDS, *FOREIGN)) -> dict[str, Score]:
    """Both looks over every kind of evening."""
    rng = np.random.default_rng(seed)
    found: dict[str, Score] = {}
    for kind in kinds:
        for _ in range(evenings):
            evening = kind(rng)
            shown = read(evening, rng)
            wrong = list(slips(shown, rng))
            for name, look in (("at entry", at_entry), ("at entry and asked", asked), ("afterwards", afterwards)):
                score = found.setdefault(f"{evening.kind}, {name}", Score())
                score.clean += 1
                score.alarms += bool(look(evening, shown, shown))
                for _, place, other in wrong:
                    doubted = look(evening, other, shown)
                    score.slips += 1
                    score.caught += place in doubted
                    score.alone += doubted == {place}
    return found


def report() -> list[str]:
    """Lines with false alarms and catches, and what is wanted."""
    lines = [score.line(name) for name, score in scores().items()]
    return [*lines, "wanted: doubts in at most 3 % of clean evenings, 95 % of slips caught, 90 % alone"]


if __name__ == "__main__":
    print("\n".join(report()))
