"""Readings with the room's own light taken off: level by level, spectrum by spectrum."""

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import replace

import numpy as np

from even_beam.bench.ambient import ambients_of, is_ambient
from even_beam.bench.measured import Ambient, Measured
from even_beam.bench.records import Computed, Spectrum
from even_beam.collection.evaluation import computed_of

Pair = tuple[str, str]
"""A reading and the reading of the room that is taken off it, by their ids."""


class NetFigures:
    """Keeps the figures of spectra without the room's, so that each pair is evaluated once."""

    def __init__(self, spectra: Callable[[Iterable[str]], Mapping[str, Spectrum]]) -> None:
        self._spectra = spectra
        self._known: dict[Pair, Computed] = {}
        self._kept: dict[str, tuple[Measured, Measured, Measured]] = {}

    def applied(self, readings: Sequence[Measured]) -> tuple[Measured, ...]:
        """The readings of one session, each with the room's light at its placement where that was read."""
        if not any(is_ambient(m) for m in readings):
            return tuple(readings)
        rooms = ambients_of(readings)
        self._evaluate(
            [
                (m.reading.id, room.reading.id)
                for m in readings
                if (room := rooms[m.reading.id]) is not None and m.computed is not None and room.computed is not None
            ]
        )
        return tuple(self._with(m, rooms[m.reading.id]) for m in readings)

    def _with(self, measured: Measured, room: Measured | None) -> Measured:
        level = room.value("illuminance") if room is not None else None
        if room is None or level is None:
            return measured
        before = self._kept.get(measured.reading.id)
        if before is not None and before[0] is measured and before[1] is room:
            return before[2]  # with all that was found of it
        net = self._known.get((measured.reading.id, room.reading.id))
        found = replace(measured, ambient=Ambient(room.reading.id, level, net))
        self._kept[measured.reading.id] = measured, room, found
        return found

    def _evaluate(self, pairs: Sequence[Pair]) -> None:
        due = [pair for pair in pairs if pair not in self._known]
        if not due:
            return
        spectra = self._spectra({reading_id for pair in due for reading_id in pair})
        net = {lit: _without(spectra[lit], spectra[room]) for lit, room in due}
        computed = {one.reading_id: one for one in computed_of(net)}
        self._known.update({pair: computed[pair[0]] for pair in due})


def _without(lit: Spectrum, room: Spectrum) -> Spectrum:
    """A spectrum less the room's; a relative one cannot be subtracted and stays as it is."""
    if not (lit.absolute and room.absolute):
        return lit
    same_grid = np.array_equal(lit.wavelength_nm, room.wavelength_nm)
    glow = room.values if same_grid else np.interp(lit.wavelength_nm, room.wavelength_nm, room.values, 0.0, 0.0)
    return Spectrum(lit.wavelength_nm, lit.values - glow, lit.absolute)
