"""Which readings a figure may rest on, and what is said of it where it rests on one in doubt."""

from collections.abc import Sequence

from even_beam.bench import terms
from even_beam.bench.measured import Measured


def trusted(readings: Sequence[Measured]) -> tuple[Measured, ...]:
    """Suspect readings are left out where others were read at the same terms; where there are none they stay,
    marked."""
    if not any(m.state.suspect for m in readings):
        return tuple(readings)
    clean = {terms.key(m) for m in readings if not m.state.suspect}
    return tuple(m for m in readings if not m.state.suspect or terms.key(m) not in clean)


def doubts_of(readings: Sequence[Measured]) -> str:
    """What is in doubt of readings that a figure rests on; empty when nothing is."""
    each = {m.reading.id: m for m in readings}.values()
    suspect = sum(m.state.suspect for m in each)
    kept = sum(bool(m.state.doubt) for m in each)
    parts = [f"{suspect} suspect reading{'s' * (suspect > 1)}"] if suspect else []
    parts += [f"{kept} reading{'s' * (kept > 1)} kept in doubt"] if kept else []
    return " and ".join(parts)
