"""A reading with its figures in one place: what screens, findings and comparisons work on."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property
from typing import NamedTuple

from even_beam.bench import fields
from even_beam.bench.records import Computed, Origin, Reading, Terms, Value
from even_beam.bench.run import ReadingState


class Figure(NamedTuple):
    """One figure of a reading and who gave it; `value` is None where only a bound or a range is known."""

    value: float | None
    origin: Origin
    low: float | None = None
    high: float | None = None
    text: str = ""
    qualifier: str = ""


@dataclass(frozen=True, eq=False, slots=True)
class Ambient:
    """The room's own light where a reading was taken, and the reading that measured it.

    `net` are the figures of the spectrum without the room's; None where one of the two has no spectrum.
    """

    reading_id: str
    illuminance_lx: float
    net: Computed | None = None


AN_F_NUMBER = "from an f-number"
"""The qualifier of a level that was read as an f-number: it is good to its tenths."""

_PREFERENCE = (Origin.COMPUTED, Origin.DEVICE, Origin.TYPED)


@dataclass(frozen=True, eq=False)
class Measured:
    """A reading's state and figures, without the room's own light where that was read (`ambient`).

    `computed` is None for typed readings. `reading` and its `terms` are those of the state, corrected.
    """

    state: ReadingState
    computed: Computed | None = None
    ambient: Ambient | None = None
    reading: Reading = field(init=False, repr=False)
    terms: Terms = field(init=False, repr=False)

    def __post_init__(self) -> None:
        # plain attributes, for they are asked for a hundred times a reading
        reading = self.state.reading
        object.__setattr__(self, "reading", reading)
        object.__setattr__(self, "terms", reading.terms)

    @cached_property
    def key(self) -> fields.Key:
        """Every field of its terms as it is compared (`bench.terms`); of impossible terms there need be none."""
        return fields.key_of(self.reading)

    @property
    def is_loaded(self) -> bool:
        """Whether its figures are at hand; of a long history they are read only where a question needs them."""
        return self.computed is not None or bool(self.reading.values)

    @property
    def source_id(self) -> str | None:
        """The one source that was read, or None when unnamed or several were lit."""
        ids = self.reading.source_ids
        return ids[0] if len(ids) == 1 else None

    def figure(self, quantity: str) -> Figure | None:
        """The figure of a quantity: computed from the spectrum before the device's own before a typed one."""
        if self.ambient is None and self.computed is not None and quantity in self.computed.scalars:
            return Figure(self.computed.scalars[quantity], Origin.COMPUTED)
        found = self.figures(quantity)
        return next((found[origin] for origin in _PREFERENCE if origin in found), None)

    def figures(self, quantity: str) -> Mapping[Origin, Figure]:
        """All figures of a quantity by origin, the room's light taken off illuminance and spectrum."""
        found = {value.origin: _figure(value) for value in self.reading.values if value.quantity == quantity}
        if quantity == "illuminance" and not found and (exposed := self._exposed()) is not None:
            found[exposed.origin] = exposed
        computed = self.computed
        if computed is not None and quantity in computed.scalars:
            found[Origin.COMPUTED] = Figure(computed.scalars[quantity], Origin.COMPUTED)
        if self.ambient is None:
            return found
        if quantity == "illuminance":
            found = {origin: _without(figure, self.ambient.illuminance_lx) for origin, figure in found.items()}
        if self.ambient.net is not None and quantity in self.ambient.net.scalars:
            found[Origin.COMPUTED] = Figure(self.ambient.net.scalars[quantity], Origin.COMPUTED)
        return found

    @property
    def vectors(self) -> Mapping[str, tuple[float, ...]]:
        """The computed vectors, such as R1-R15; empty for typed readings."""
        best = self.ambient.net if self.ambient is not None and self.ambient.net is not None else self.computed
        return best.vectors if best is not None else {}

    @property
    def ambient_share(self) -> float | None:
        """Which share of the light that was read is the room's; None where the room was not read."""
        level = self.value("illuminance")
        if self.ambient is None or level is None:
            return None
        return self.ambient.illuminance_lx / max(level + self.ambient.illuminance_lx, 1e-9)

    def value(self, quantity: str) -> float | None:
        """The plain value of a quantity, None when there is none or only a bound."""
        if self.ambient is not None:
            if quantity not in self._net:
                figure = self.figure(quantity)
                self._net[quantity] = None if figure is None else figure.value
            return self._net[quantity]
        return self._plain.get(quantity)  # as almost always, and asked tens of thousands of times

    @cached_property
    def _net(self) -> dict[str, float | None]:
        """The plain figures without the room's that were asked for."""
        return {}

    def has(self, quantity: str) -> bool:
        """Whether there is a figure of a quantity, be it only a bound."""
        return self.figure(quantity) is not None if self.ambient is not None else quantity in self._plain

    @cached_property
    def _plain(self) -> Mapping[str, float | None]:
        """The plain figures where the room was not read: the computed before the device's before the hand's."""
        preferred = sorted(self.reading.values, key=lambda value: _PREFERENCE.index(value.origin))
        found = {value.quantity: value.value for value in reversed(preferred)}
        if "illuminance" not in found and (exposed := self._exposed()) is not None:
            found["illuminance"] = exposed.value
        return found if self.computed is None else found | dict(self.computed.scalars)

    def _exposed(self) -> Figure | None:
        """The level that an f-number stands for, where its exposure was stated."""
        exposure = self.state.exposure
        found = next((v for v in self.reading.values if v.quantity == "f_stop"), None)
        if exposure is None or found is None:
            return None
        value, low, high = map(exposure.lux, (found.value, found.low, found.high))
        return Figure(
            value=value,
            origin=found.origin,
            low=low,
            high=high,
            text=f"{found.text} at {exposure.words}",
            qualifier=AN_F_NUMBER,
        )


def _figure(value: Value) -> Figure:
    return Figure(
        value=value.value,
        origin=value.origin,
        low=value.low,
        high=value.high,
        text=value.text,
        qualifier=value.qualifier,
    )


def _without(figure: Figure, ambient_lx: float) -> Figure:
    """An illuminance without the room's; never below zero."""
    value, low, high = (
        None if v is None else max(v - ambient_lx, 0.0) for v in (figure.value, figure.low, figure.high)
    )
    return figure._replace(value=value, low=low, high=high)
