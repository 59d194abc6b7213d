"""What goes wrong on request, and when."""

from collections.abc import Sequence
from dataclasses import dataclass

METER_FAULTS = ("hang", "drop", "half", "error", "garbage", "unit", "stale")
"""A meter hangs, lets go of the connection, says half a line, complains, says what is no figure, answers in another
unit, or gives its last reading again."""
LAMP_FAULTS = ("deaf", "lossy", "full-on-loss", "slow", "roll-off")
"""A lamp does not listen, misses every other packet, goes to full when the data end, takes its time to settle, or sags
as it warms."""

USUALLY_AT = 5


@dataclass(frozen=True, slots=True)
class Fault:
    """A fault by its name, from which answer on it shows (`hang@7`), or always."""

    name: str
    at: int = USUALLY_AT


def faults_of(texts: Sequence[str]) -> dict[str, Fault]:
    """Faults by their names. Raises `ValueError` for one that there is not."""
    found = {}
    for text in texts:
        name, _, at = text.partition("@")
        if name not in (*METER_FAULTS, *LAMP_FAULTS) or (at and not at.isdecimal()):
            raise ValueError(f"there is no fault “{text}”; there are {', '.join((*METER_FAULTS, *LAMP_FAULTS))}")
        found[name] = Fault(name, int(at) if at else USUALLY_AT)
    return found
