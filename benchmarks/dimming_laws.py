"""How often a dimmer's law is named wrongly: dimmers of nine shapes, drawn outside the program, read with a meter good
to 1.5 % and set again to 1 %, over the levels that people read.

Wrong is a law named that the dimmer does not follow. *Not told* is no error; the share of right ones is beside it.
"""

from collections import Counter
from collections.abc import Callable

import numpy as np

from even_beam.known.findings.dimming_law import told

SEED, DRAWS = 20261202, 400
SWEEPS = (
    (100, 50, 25, 10),
    (100, 75, 50, 25, 10, 5, 1),
    (100, 50, 10),
    (100, 80, 60, 40, 20),
    (100, 50, 25, 10, 5, 2, 1),
)
READ, SET_ANEW = 0.0075, 0.01

Shape = Callable[[np.ndarray], np.ndarray]


def shapes(rng: np.random.Generator) -> dict[str, Shape]:
    """Dimmers by the law that may be named of them; `none` where no named law is theirs."""
    floor, base = rng.uniform(0.03, 0.2), rng.uniform(0.03, 0.15)
    power, stops, at = rng.uniform(1.2, 2.8), rng.uniform(6.0, 12.0), rng.uniform(0.35, 0.65)
    return {
        "linear": lambda d: d,
        "square": lambda d: d**2,
        "power": lambda d: d**power,
        "base": lambda d: base + (1.0 - base) * d,
        "floor": lambda d: np.maximum(d, floor),
        "even": lambda d: 2.0 ** (stops * (d - 1.0)),
        "none, logistic": lambda d: (1 / (1 + np.exp(-8 * (d - at)))) / (1 / (1 + np.exp(-8 * (1 - at)))),
        "none, two slopes": lambda d: np.where(d > at, d**0.7, at**0.7 * (d / at) ** 1.6),
        "none, lightness": lambda d: ((100.0 * d + 16.0) / 116.0) ** 3,
    }


def scores(draws: int = DRAWS, seed: int = SEED) -> dict[str, Counter[str]]:
    """What was told of each shape: right, wrong, not told."""
    rng = np.random.default_rng(seed)
    found: dict[str, Counter[str]] = {}
    for _ in range(draws):
        for kind, shape in shapes(rng).items():
            dial = np.sort(np.array(SWEEPS[rng.integers(len(SWEEPS))])) / 100.0
            level = shape(dial) * np.exp(rng.normal(0.0, READ, dial.size) + rng.normal(0.0, SET_ANEW, dial.size))
            stops = np.log2(level / level[-1])
            law = told(np.log2(dial / dial[-1]), stops, np.full(dial.size, READ / np.log(2.0))).law
            true = "linear" if kind == "floor" and level[0] > 1.1 * level[-1] * shape(np.array([1e-4]))[0] else kind
            named = "not told" if law is None else "right" if law.kind == true else f"wrong: {law.kind}"
            found.setdefault(kind, Counter())[named] += 1
    return found


def report() -> list[str]:
    """A line a shape, and the share of wrong laws in all."""
    lines, wrong, every = [], 0, 0
    for kind, counted in scores().items():
        total = sum(counted.values())
        wrong += sum(number for what, number in counted.items() if what.startswith("wrong"))
        every += total
        lines.append(f"{kind}: " + ", ".join(f"{what} {100.0 * n / total:.1f} %" for what, n in counted.most_common()))
    return [*lines, f"wrong in {100.0 * wrong / every:.1f} % of {every} dimmers (at most 5 wanted)"]


if __name__ == "__main__":
    print("\n".join(report()))
