"""How long gels for a whole set take: every pack of up to three out of 24 for 20 sources, against the reference
library's colour temperatures alone."""

import numpy as np
from colour.temperature import uv_to_CCT_Ohno2013

from benchmarks.timing import best_of
from even_beam.bench.target import Target
from even_beam.known.matching.gels import Wanting, gel_answers
from even_beam.light.filters import correction, correction_names, tinted
from even_beam.light.gel_packs import Stock

SOURCES, GELS, WANTED_S = 20, 24, 0.5


def report() -> list[str]:
    """A line with the time."""
    names = correction_names()[:GELS]
    gels = np.array([correction(name).transmission for name in names])
    rng = np.random.default_rng(12)
    lights = [tinted(rng.uniform(2700.0, 7000.0), rng.uniform(-0.008, 0.008)) for _ in range(SOURCES)]
    wanting = [Wanting(light, Target(5600.0, 0.0032)) for light in lights]
    ours = best_of(lambda: gel_answers(wanting, Stock(names, gels)), 3)
    packs = len(Stock(names, gels).packs)
    uv = np.stack([rng.uniform(0.19, 0.25, 1000), rng.uniform(0.31, 0.35, 1000)], axis=-1)
    theirs = best_of(lambda: uv_to_CCT_Ohno2013(uv), 2) * SOURCES * packs / 1000.0
    return [
        f"{packs} packs of {GELS} gels on {SOURCES} sources: {1000.0 * ours:.0f} ms, {theirs / ours:.0f} times as fast"
        f" as the reference library's temperatures alone (wanted: below {1000.0 * WANTED_S:.0f} ms)"
    ]
