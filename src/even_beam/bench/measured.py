"""A reading with its figures in one place: what screens, findings and comparisons work on."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import NamedTuple

from even_beam.bench.records import Computed, Origin, Reading, Terms, Value
from even_beam.bench.run import ReadingState


class Figure(NamedTuple):
    """One figure of a reading and who gave it; `value` is None where only a bound or a range is known."""

    value: float | None
    origin: Origin
    low: float | None = None
    high: float | None = None
    text: str = ""


_PREFERENCE = (Origin.COMPUTED, Origin.DEVICE, Origin.TYPED)


@dataclass(frozen=True, eq=False, slots=True)
class Measured:
    """A reading's state and figures. `computed` is None for typed readings."""

    state: ReadingState
    computed: Computed | None = None

    @property
    def reading(self) -> Reading:
        """The reading, terms corrected."""
        return self.state.reading

    @property
    def terms(self) -> Terms:
        """The terms, corrected."""
        return self.state.reading.terms

    @property
    def source_id(self) -> str | None:
        """The one source that was read, or None when unnamed or several were lit."""
        ids = self.reading.source_ids
        return ids[0] if len(ids) == 1 else None

    def figure(self, quantity: str) -> Figure | None:
        """The figure of a quantity: computed from the spectrum before the device's own before a typed one."""
        found = self.figures(quantity)
        return next((found[origin] for origin in _PREFERENCE if origin in found), None)

    def figures(self, quantity: str) -> Mapping[Origin, Figure]:
        """All figures of a quantity by origin."""
        found = {value.origin: _figure(value) for value in self.reading.values if value.quantity == quantity}
        if self.computed is not None and quantity in self.computed.scalars:
            found[Origin.COMPUTED] = Figure(self.computed.scalars[quantity], Origin.COMPUTED)
        return found

    def value(self, quantity: str) -> float | None:
        """The plain value of a quantity, None when there is none or only a bound."""
        figure = self.figure(quantity)
        return None if figure is None else figure.value


def _figure(value: Value) -> Figure:
    return Figure(value.value, value.origin, value.low, value.high, value.text)
