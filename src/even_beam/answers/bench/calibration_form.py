"""A calibration as it is said: `calibrated at the institute in March`, `zeroed on Yarrow`, `dark taken`."""

import re
from datetime import datetime

from even_beam.bench.records import Calibration, Meter, new_id
from even_beam.words import notation

ZEROING, DARK = "zeroed", "dark"
_KINDS = (
    (r"zeroed|zeroing", ZEROING),
    (r"dark[ -](?:signal(?: taken)?|taken|calibrated|calibration)", DARK),
    (r"re-?calibrated|calibrated|calibration", "calibrated"),
)


def calibration_of(part: str, meter: Meter, at: datetime) -> Calibration | None:
    """What a part of a line says of a meter; None when it is not about a calibration."""
    for pattern, kind in _KINDS:
        found = re.match(rf"(?i)(?:{pattern})\b[\s,:]*(.*)$", part.strip())
        if found is not None:
            return Calibration(new_id(), meter.id, at, kind, found[1].strip())
    return None


def zeroed(meter_on: str) -> str:
    """On which lamp a meter was zeroed, from the words after that."""
    return re.sub(r"(?i)^(?:on|against|to)\s+", "", meter_on).strip() or "a lamp not named"


def calibration_words(row: Calibration, meter: str) -> str:
    """A calibration as it is said in a line."""
    kind = {DARK: "dark signal taken"}.get(row.kind, row.kind)
    return f"{meter}: {f'{kind} {row.note}'.strip()}, {notation.day(f'{row.at:%Y-%m-%d}')}"
