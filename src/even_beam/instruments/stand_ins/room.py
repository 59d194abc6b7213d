"""The simulated room as it stands at a moment: lamps on their way to what they were told, warm or cold."""

import math
import threading
import time
from collections.abc import Mapping
from dataclasses import dataclass, field, replace

import numpy as np

from even_beam.bench.records import Terms
from even_beam.instruments.simulated_lamps import LAMPS
from even_beam.light import FloatArray, planckian
from even_beam.light.colorimetry import LUMINOUS_EFFICACY_LM_PER_W, tristimulus

SETTLES_S, SLOW_S = 0.03, 1.2
"""How fast a lamp comes to what it was told, as the time in which the rest falls to 1/e."""
ROLL_OFF = 0.18
"""What a lamp loses as it warms that is too hot."""


@dataclass
class Lamp:
    """One lamp of the room: the model that plays it, what it was told last, and where it came from."""

    model: str
    settles_s: float = SETTLES_S
    rolls_off: bool = False
    told: dict[str, float] = field(default_factory=lambda: {"level": 0.0})
    before: dict[str, float] = field(default_factory=lambda: {"level": 0.0})
    told_at: float = 0.0
    lit_at: float | None = None


class Room:
    """Lamps by name at one place; `speed` makes its time run faster (a warm-up of minutes in seconds)."""

    def __init__(self, lamps: Mapping[str, Lamp], placed: Terms, ambient_lx: float = 0.4, speed: float = 1.0) -> None:
        self.lamps = dict(lamps)
        self._placed, self._speed = placed, speed
        self._lock = threading.Lock()
        glow = planckian(3000.0)
        self._ambient: FloatArray = glow * ambient_lx / (LUMINOUS_EFFICACY_LM_PER_W * float(tristimulus(glow)[1]))

    def tell(self, name: str, terms: Mapping[str, float]) -> None:
        """Set a lamp on its way."""
        with self._lock:
            lamp, now = self.lamps[name], time.monotonic()
            if dict(terms) == lamp.told:
                return
            lamp.before, lamp.told, lamp.told_at = self._now(lamp, now), dict(terms), now
            if lamp.told.get("level", 100.0) > 0.0:
                lamp.lit_at = lamp.lit_at if lamp.lit_at is not None else now
            else:
                lamp.lit_at = None

    def _now(self, lamp: Lamp, now: float) -> dict[str, float]:
        """Where a lamp is on its way."""
        rest = math.exp(-(now - lamp.told_at) * self._speed / lamp.settles_s)
        return {term: to + (lamp.before.get(term, to) - to) * rest for term, to in lamp.told.items()}

    def irradiance(self) -> FloatArray:
        """What arrives at the meter, W m-2 nm-1 on the working grid."""
        total = self._ambient.copy()
        with self._lock:
            now = time.monotonic()
            for lamp in self.lamps.values():
                at = self._now(lamp, now)
                if at.get("level", 100.0) < 0.004 or lamp.lit_at is None:
                    continue
                minutes = (now - lamp.lit_at) * self._speed / 60.0
                light = LAMPS[lamp.model].irradiance(_terms(self._placed, at), minutes)
                total += light * (1.0 - ROLL_OFF * (1.0 - math.exp(-minutes / 4.0)) * lamp.rolls_off)
        return total

    @property
    def watts(self) -> float:
        """What the lamps draw together."""
        with self._lock:
            now = time.monotonic()
            return float(
                np.sum(
                    [
                        LAMPS[one.model].watts * self._now(one, now).get("level", 100.0) / 100.0
                        for one in self.lamps.values()
                    ]
                )
            )


def _terms(placed: Terms, at: Mapping[str, float]) -> Terms:
    return replace(placed, level_pct=at.get("level", 100.0), cct_k=at.get("cct"))
