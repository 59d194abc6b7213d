"""Against what an SSI was found: an index without its reference means nothing (SMPTE ST 2122)."""

from collections.abc import Iterable

from even_beam.bench.measured import Measured
from even_beam.bench.records import Origin
from even_beam.words.entry import says_how

MATCHED, AS_GIVEN = "matched", "reference not stated"
"""Against the lamp's own temperature, as every spectrum here is; and typed, with nobody having said against what."""


def ssi_reference(readings: Iterable[Measured]) -> str:
    """The one reference of the SSI of readings; `AS_GIVEN` where it was not stated, or is not the same for all."""
    found = set()
    for measured in readings:
        figure = measured.figure("ssi")
        if figure is not None:
            given = "" if says_how(figure.qualifier) else figure.qualifier
            found.add(MATCHED if figure.origin is Origin.COMPUTED else given or AS_GIVEN)
    return found.pop() if len(found) == 1 else AS_GIVEN
