"""What an import would bring in a second time: the same file twice, or a table that has grown since.

A reading is the same when its session is called the same and everything that was said of it is: lamp, meter, terms,
figures, note, its time where the file has one, its spectrum. As many as are there are left out, so that repeats within
one file all come in.
"""

from collections import Counter
from collections.abc import Hashable
from typing import TYPE_CHECKING

from even_beam.bench.records import Reading, Spectrum

if TYPE_CHECKING:
    from even_beam.logbook.store import Logbook


class AlreadyThere:
    """The readings of all sessions of one name, each to be found once. `timed` compares their times as well."""

    def __init__(self, logbook: "Logbook", session_name: str) -> None:
        self._of: dict[bool, Counter[Hashable]] = {True: Counter(), False: Counter()}
        for session in logbook.sessions():
            if session.name == session_name:
                readings = logbook.readings(session.id)
                spectra = logbook.spectra([reading.id for reading in readings])
                for reading in readings:
                    said = _said(reading, spectra.get(reading.id))
                    self._of[True][said, reading.at] += 1
                    self._of[False][said, None] += 1

    def takes(self, reading: Reading, spectrum: Spectrum | None = None, *, timed: bool = False) -> bool:
        """Whether one like it is there, which is then used up."""
        key = _said(reading, spectrum), reading.at if timed else None
        if not self._of[timed][key]:
            return False
        self._of[timed][key] -= 1
        return True


def _said(reading: Reading, spectrum: Spectrum | None) -> Hashable:
    """Everything that a file said of a reading."""
    values = frozenset((v.quantity, v.origin, v.value, v.low, v.high, v.text, v.qualifier) for v in reading.values)
    # a grid is kept as its beginning and its step
    light = None if spectrum is None else (spectrum.wavelength_nm.round(6).tobytes(), spectrum.values.tobytes())
    return reading.source_ids, reading.meter_id, reading.terms, values, reading.note, light
