"""How far a batch is from what this machine can do at all, and how much memory a large one takes."""

import subprocess
import sys

import numpy as np

from benchmarks.figures import lamps
from benchmarks.timing import best_of
from even_beam.light import WAVELENGTH_NM, evaluate

LARGE = 100_000

# Counted from the code, per spectrum: columns of the weight matrices (white, CRI, TM-30, TLCI, SSI), and calls of
# the costly element-wise functions on the samples of each metric (300 + 2 x 99 powers of TM-30, 18 x 9 of TLCI ...).
_COLUMNS = 3 + 45 + 300 + 75 * 77 / 401 + 30
_POWERS = 300 + 99 + 99 + 2 * 75
_OTHERS = 99 * 3 + 15 + 18 * 10
_SIMPLE = 99 * 60 + 18 * 110 + 15 * 45 + 275 * 4


def report() -> list[str]:
    """Lines with the floor and the memory."""
    rows = 1024
    spectra, weights = lamps(rows), np.random.default_rng(1).random((401, 512))
    product = best_of(lambda: spectra @ weights, 20) / (rows * 401 * 512)
    values = np.random.default_rng(2).uniform(0.1, 2.0, 50_000)
    power = best_of(lambda: values**0.42, 20) / values.size
    other = best_of(lambda: np.arctan2(values, 0.5), 20) / values.size
    simple = best_of(lambda: values * 1.1 + 0.3, 20) / values.size / 2.0
    floor = _COLUMNS * 401 * product + _POWERS * power + _OTHERS * other + _SIMPLE * simple
    batch = lamps(4096)
    ours = best_of(lambda: evaluate(WAVELENGTH_NM, batch), 4) / 4096
    parts = ", ".join(
        f"{name} {seconds * 1e6:.0f}"
        for name, seconds in (
            ("products", _COLUMNS * 401 * product),
            ("powers", _POWERS * power),
            ("other functions", _OTHERS * other),
            ("simple arithmetic", _SIMPLE * simple),
        )
    )
    peak = int(subprocess.run([sys.executable, "-c", _LARGE_BATCH], capture_output=True, text=True, check=True).stdout)
    return [
        (
            f"floor of this machine for a spectrum: {floor * 1e6:.0f} us ({parts}); measured {ours * 1e6:.0f} us,"
            f" {ours / floor:.1f}x the floor"
        ),
        (
            f"{LARGE} spectra in one call: {peak / 1024:.0f} MB at the peak, {LARGE * 401 * 8 / 1e6:.0f} MB of it the"
            " spectra themselves (wanted: below 1 GB)"
        ),
    ]


_LARGE_BATCH = f"""
import resource
import numpy as np
from even_beam.light import WAVELENGTH_NM, evaluate, planckian
spectra = np.empty(({LARGE}, 401))
for start in range(0, {LARGE}, 1000):
    spectra[start : start + 1000] = planckian(np.linspace(2500.0, 6500.0, 1000))
evaluate(WAVELENGTH_NM, spectra)
print(resource.getrusage(resource.RUSAGE_SELF).ru_maxrss)
"""
