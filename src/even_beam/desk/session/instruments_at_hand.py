"""Which instrument stands behind a meter of the kit, and the simulated bench that plays the room."""

from datetime import datetime, timedelta

from even_beam.bench.records import OFF, Meter, Source, Terms
from even_beam.instruments.protocols import InstrumentError, MeterDriver
from even_beam.instruments.simulated_bench import Clock, SimulatedBench, SimulatedSpectrometer
from even_beam.instruments.simulated_lamps import LAMPS

_FIRST_LIGHT = Terms(cct_k=5600.0, level_pct=100.0, distance_m=2.0)
"""A lamp is lit from the start, so that a first reading before any lamp is named reads something."""


class Instruments:
    """The instruments at hand. Simulated lamps follow the step as an attentive helper would set them."""

    def __init__(self, clock: Clock, *, seed: int = 1, delay_s: float = 0.0) -> None:
        self._clock = clock
        self._seed = seed
        self._delay = delay_s
        self.bench = SimulatedBench(clock)
        self._meters: dict[str, MeterDriver] = {}
        self._light(["bicolour panel"], _FIRST_LIGHT)

    def meter(self, meter: Meter) -> MeterDriver:
        """The instrument of a meter. Raises `InstrumentError` for one that is read by eye."""
        if not meter.simulated:
            raise InstrumentError(
                f"{meter.nickname} is read by eye: type its figure. Spectrum files may be dropped on the Bench."
            )
        if meter.id not in self._meters:
            self._meters[meter.id] = SimulatedSpectrometer(
                self.bench,
                self._clock,
                self._seed + len(self._meters),
                ceiling_lx=meter.ceiling_lx,
                delay_s=self._delay,
            )
        return self._meters[meter.id]

    def set_lamps(self, sources: list[Source], terms: Terms) -> None:
        """Set the simulated lamps among `sources`; they have been warm for an hour. Without one, the room stays as it
        is.

        For a reading of the room alone every lamp is off.
        """
        names = [source.simulated for source in sources if source.simulated in LAMPS]
        if names or terms.mode == OFF:
            self._light(names, terms)

    def _light(self, names: list[str], terms: Terms) -> None:
        self.bench.set([(name, terms) for name in names])
        now = self._clock()
        warm = now - min(timedelta(hours=1), now - datetime.min.replace(tzinfo=now.tzinfo))  # a clock may say year 1
        for name in names:
            self.bench.warm(name, warm)
