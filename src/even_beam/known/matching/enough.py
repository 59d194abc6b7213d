"""Is it light enough: the level, the distance or the number of lamps that gives a stop."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from even_beam.bench.estimate import standing
from even_beam.bench.exposure import Exposure, ExposureError
from even_beam.bench.measured import Measured
from even_beam.bench.walks import NotBroughtError
from even_beam.known.evenings import level_contradicted
from even_beam.known.evidence import Evidence, ids, lux_of
from even_beam.known.matching.moved import dial_for_level, dimmer_of, walk_of
from even_beam.light.photometry import f_number_from_illuminance, page_luminance
from even_beam.words import notation

MOST_LAMPS = 16
"""More of one lamp than this is no answer."""

FAR_M = 50.0
"""No mark is looked for beyond this."""


@dataclass(frozen=True, eq=False, slots=True)
class Enough:
    """What one lamp gives for an exposure: the level that was read at `terms`, and how to come to the one needed.

    `stops_over` is read over needed. `dial_pct` is the level of its dimmer that gives it, where its dimming was read
    there; `distance_m` the mark, where the distance law allows; `lamps` how many at the same place, none of what is no
    lamp, nor of more than anybody has. Each is None where the readings do not carry it. `doubtful` says what
    contradicts the level.
    """

    name: str
    terms: str
    needed_lux: float
    read_lux: float
    half_stops: float
    f_number: float
    dial_pct: float | None
    distance_m: float | None
    lamps: int | None
    readings: tuple[str, ...]
    why_no_distance: str = ""
    doubtful: str = ""

    @property
    def stops_over(self) -> float:
        """How much more than needed was read, in stops."""
        return float(np.log2(self.read_lux / self.needed_lux))

    @property
    def is_enough(self) -> bool:
        """Whether it gives what is needed, as far as can be told."""
        return self.stops_over >= -self.half_stops

    @property
    def stop_words(self) -> str:
        """The f-number it gives, as it is said."""
        return notation.f_stop(self.f_number) if self.f_number >= 1.0 else "less than f/1"

    @property
    def sentence(self) -> str:
        """The whole answer."""
        over = abs(self.stops_over)
        stops = f"{notation.number(over, 1)} {notation.stop_word(over)}"
        level = f"{notation.level(self.read_lux)}, which is {self.stop_words}"
        rests = f", resting on {self.doubtful}" if self.doubtful else ""
        gives = f"{self.name} gives {level}, at {self.terms}{rests}"
        if abs(self.stops_over) <= max(self.half_stops, 0.05):
            return f"{gives}: just enough, as far as can be told (±{self.half_stops:.2f} stop)."
        if self.stops_over > 0.0:
            ways = [f"dial {dial_words(self.dial_pct)} %"] if self.dial_pct is not None else []
            ways += [f"move it to {place_words(self.distance_m)}"] if self.distance_m is not None else []
            how = f"; {' or '.join(ways)}" if ways else ""
            return f"{gives}: {stops} more than needed{how}."
        ways = [f"dial {dial_words(self.dial_pct)} %"] if self.dial_pct is not None else []
        ways += [f"at {place_words(self.distance_m)} it would do"] if self.distance_m is not None else []
        ways += [f"{self.lamps} that give as much in the same place would do"] if self.lamps is not None else []
        return f"{gives}: {'; '.join([f'{stops} less than needed', *filter(None, [' or '.join(ways)])])}{self._why}."

    @property
    def _why(self) -> str:
        return f"; a nearer mark is not told ({self.why_no_distance})" if self.why_no_distance else ""


def dial_words(percent: float) -> str:
    """A level to dial, as finely as a dial goes: to one per cent, below five to a tenth."""
    return notation.plain(percent, 0 if percent >= 5.0 else 1)


def place_words(metres: float) -> str:
    """Where to put a lamp: to a tenth of a metre."""
    return notation.distance(round(metres, 1))


def needed_lux(f_number: float, exposure: Exposure) -> float:
    """The illuminance for a stop. Raises `ExposureError` for an f-number that cannot be."""
    lux = exposure.lux(f_number) if f_number > 0.0 else None
    if lux is None or not lux > 0.0:
        raise ExposureError(f"f/{f_number:g} is no stop")
    return lux


def enough(evidence: Evidence, group: Sequence[Measured], f_number: float, exposure: Exposure) -> Enough | None:
    """What one lamp gives for a stop, from readings at one set of terms; None where none has a level.

    `group` are repeats; its dimmer and its walk are looked for among the lamp's readings that differ from them in
    level alone, or in distance alone.
    """
    lit = standing([m for m in group if m.value("illuminance")])
    if not lit:
        return None
    needed, level = needed_lux(f_number, exposure), evidence.level_of(lit)
    read = lux_of(level)
    lamps = int(np.ceil(needed / read - 1e-9))
    distance, why = _distance(evidence, lit, needed)
    return Enough(
        name=evidence.name,
        terms=evidence.at(lit[0]) or "terms not stated",
        needed_lux=needed,
        read_lux=read,
        half_stops=level.half_width,
        f_number=float(f_number_from_illuminance(read, exposure.iso, exposure.shutter_s, exposure.constant)),
        dial_pct=dial_for_level(dimmer_of(evidence, lit), float(np.log2(needed))),
        distance_m=distance,
        lamps=lamps if evidence.is_fixture and lamps <= MOST_LAMPS else None,
        readings=ids(lit),
        why_no_distance=why if needed > read and evidence.is_fixture else "",
        doubtful=level_contradicted(evidence.readings, lit, evidence.level_of),
    )


def _distance(evidence: Evidence, lit: Sequence[Measured], needed: float) -> tuple[float | None, str]:
    """The mark at which the lamp gives what is needed, by its own law; else why none is told."""
    walk = walk_of(evidence, lit)
    if not walk.marks:
        return None, "its distance was not stated"
    wanted, near, far = float(np.log2(needed)), walk.distances_m[0], FAR_M
    try:
        if (walk.at(near)[0].value or 0.0) < wanted:
            return None, f"read from {notation.distance(near)} on, and nothing is brought inward"
        if (walk.at(far)[0].value or 0.0) > wanted:
            return None, ""
        for _ in range(50):
            middle = float(np.sqrt(near * far))
            near, far = (middle, far) if (walk.at(middle)[0].value or 0.0) > wanted else (near, middle)
    except NotBroughtError as error:
        return None, str(error)
    return far, ""


def lux_hours(lux: float, hours: float) -> float:
    """The light that a delicate subject takes in, in lx h."""
    return lux * hours


def page_beside_display(white_cd_m2: float, reflectance: float = 0.85) -> tuple[float, float]:
    """The illuminance in lx that makes a page as bright as a display's white: of a perfect white, and of paper.

    Source: L = E rho / pi of a matt surface; 0.85 is usual of paper (common practice, no source).
    """
    perfect, paper = 1.0 / page_luminance(1.0), 1.0 / page_luminance(1.0, reflectance)
    return float(white_cd_m2 * perfect), float(white_cd_m2 * paper)
