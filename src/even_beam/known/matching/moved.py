"""A lamp's level where it was not read: along its own walk, and between the levels of its own dimmer."""

from collections.abc import Sequence
from itertools import pairwise

import numpy as np

from even_beam.bench import terms
from even_beam.bench.measured import Measured
from even_beam.bench.walks import Walk
from even_beam.known.evidence import Evidence


def walk_of(evidence: Evidence, lit: Sequence[Measured]) -> Walk:
    """The walk of a lamp at the terms of some repeats but for the distance."""
    key = terms.key(lit[0], "distance", "placement")
    along = [m for m in evidence.lit if terms.key(m, "distance", "placement") == key]
    return Walk.of(along, evidence.meter_of(lit[0]), evidence.beam_angles.of(lit[0]))


def dimmer_of(evidence: Evidence, lit: Sequence[Measured]) -> list[tuple[float, float]]:
    """The dimmer of a lamp at the terms of some repeats but for the level: log2 of the dial in %, and log2 of the level
    in lx, rising. Empty where it does not rise, or where fewer than two levels were read."""
    key = terms.key(lit[0], "level")
    along = [m for m in evidence.lit if m.terms.level_pct and terms.key(m, "level") == key]
    points = sorted(
        (float(np.log2(ms[0].terms.level_pct or 1.0)), evidence.level_of(ms).value or 0.0)
        for ms in terms.grouped(along).values()
    )
    rises = all(level > before for (_, before), (_, level) in pairwise(points))
    return points if len(points) > 1 and rises else []


def dial_for_level(points: Sequence[tuple[float, float]], wanted: float) -> float | None:
    """The dial in % that gives a level, log2 of lx, between those that were read; None outside them."""
    levels = [level for _, level in points]
    if not points or not levels[0] <= wanted <= levels[-1]:
        return None
    return float(np.exp2(np.interp(wanted, levels, [dial for dial, _ in points])))


def level_at_dial(points: Sequence[tuple[float, float]], level_pct: float) -> float | None:
    """log2 of the level in lx at a dial in %, between those that were read; None outside them."""
    dials = [dial for dial, _ in points]
    wanted = float(np.log2(level_pct)) if level_pct > 0.0 else -np.inf
    if not points or not dials[0] <= wanted <= dials[-1]:
        return None
    return float(np.interp(wanted, dials, [level for _, level in points]))
