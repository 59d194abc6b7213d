"""Which meter reads next, and which one typed figures come from: chosen, standing ready, or asked for once."""

from collections.abc import Mapping
from dataclasses import dataclass

from even_beam.bench.records import Meter


@dataclass(slots=True)
class WhichMeter:
    """The meter `at_hand` without a run, whether somebody `chose` it, and what was said of typed figures: `typed_from`
    is the meter, None for one that is not named, once `said`."""

    at_hand: str | None = None
    chosen: bool = False
    typed_from: str | None = None
    said: bool = False

    def choose(self, meter_id: str | None) -> None:
        """Somebody chose it, or one that is not named."""
        self.at_hand, self.chosen = meter_id, True

    def offer(self, meter_id: str | None) -> None:
        """It stands ready to be read by a key, and nobody chose it: no typed figure is booked on it."""
        self.at_hand, self.chosen = meter_id, False

    def say_typed_from(self, meter_id: str | None) -> None:
        """The figures of this session are typed from it."""
        self.typed_from, self.said = meter_id, True

    def of_typed(self, next_one: Meter | None, meters: Mapping[str, Meter], *, planned: bool) -> Meter | None:
        """The meter that a typed figure comes from, as far as it was said: never a simulated one, which nobody reads by
        eye. `next_one` reads next, `planned` by a run."""
        if next_one is not None and not next_one.simulated and (planned or self.chosen):
            return next_one
        return meters.get(self.typed_from or "")

    def is_asked_for(self, next_one: Meter | None, meters: Mapping[str, Meter], *, planned: bool) -> bool:
        """Whether a typed figure could be of a meter of the Kit, and nobody said yet of which."""
        was_said = planned or self.chosen
        is_open = bool(next_one.simulated) if next_one is not None and was_said else not was_said
        return is_open and not self.said and bool(read_by_eye(meters))


def read_by_eye(meters: Mapping[str, Meter]) -> tuple[Meter, ...]:
    """The meters that somebody may type figures from, those first that show little else than a level."""
    real = [meter for meter in meters.values() if not meter.simulated]
    return tuple(sorted(real, key=lambda one: one.is_spectrometer))
