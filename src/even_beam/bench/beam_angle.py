"""How wide a lamp's beam is: measured across it, called so by its zoom, or claimed. It sets what an aim error costs."""

import re
from collections.abc import Sequence

import numpy as np

from even_beam.bench import terms
from even_beam.bench.measured import Measured
from even_beam.bench.records import Claim
from even_beam.light.spectra import FloatArray

CLAIM = "beam_deg"
"""The quantity of a claim of a beam angle."""

HALF = 0.5
LEAST_ANGLES = 4


def angle_named(zoom: str) -> float | None:
    """The angle that a zoom is called by, such as `15°` or `50 deg`; None for `flood` and `spot`."""
    found = re.search(r"(\d+(?:\.\d+)?)\s*(?:°|deg)", zoom)
    return float(found[1]) if found is not None else None


def planes_of(readings: Sequence[Measured]) -> list[list[Measured]]:
    """Readings that differ in their angle alone, one list a plane through the axis; those on the axis stand in each."""
    found = []
    for group in terms.grouped(readings, "angle", "turn").values():
        on_axis = [m for m in group if m.terms.angle_deg == 0.0]
        planes = terms.by_value([m for m in group if m.terms.angle_deg != 0.0], "turn")
        found += [[*on_axis, *aside] for aside in planes.values()]
    return found


def aside_of(section: Sequence[Measured]) -> Measured:
    """A reading of a section off the axis, which tells its plane; the first where there is none."""
    return next((m for m in section if m.terms.angle_deg != 0.0), section[0])


def plane_of(section: Sequence[Measured]) -> float:
    """The plane of a section in degrees, 0 the level one, as terms are compared."""
    return float(str(terms.value(aside_of(section), "turn")))


def levels_across(section: Sequence[Measured]) -> tuple[FloatArray, FloatArray]:
    """Angles in degrees, rising, each once, with the mean level read there; all must have one."""
    by_angle: dict[float, list[float]] = {}
    for measured in section:
        by_angle.setdefault(measured.terms.angle_deg, []).append(measured.value("illuminance") or 0.0)
    angle = np.array(sorted(by_angle))
    return angle, np.array([float(np.mean(by_angle[a])) for a in angle])


def full_angle(angle_deg: FloatArray, share: FloatArray, part: float) -> float | None:
    """The full angle within which a section stays above `part` of its peak; one-sided sections count for both sides.

    Interpolated between neighbouring angles; None when the section ends before it falls so far.
    """
    sides = [_falls(angle_deg[angle_deg >= 0.0], share[angle_deg >= 0.0], part)]
    if (angle_deg < 0.0).sum() >= 2:
        left = angle_deg <= 0.0
        sides.append(_falls(-angle_deg[left][::-1], share[left][::-1], part))
    if any(side is None for side in sides):
        return None
    total = float(sum(side for side in sides if side is not None))
    return total if len(sides) == 2 else 2.0 * total


def _falls(angle: FloatArray, share: FloatArray, part: float) -> float | None:
    """Where the share first falls through `part`, going outwards."""
    below = np.flatnonzero(share < part)
    below = below[below > 0]
    if below.size == 0:
        return None
    i = int(below[0])
    return float(angle[i - 1] + (share[i - 1] - part) / (share[i - 1] - share[i]) * (angle[i] - angle[i - 1]))


def half_peak_angle(section: Sequence[Measured]) -> float | None:
    """How wide a section is at half its peak; None when it ends before it falls so far."""
    angle, level = levels_across(section)
    return full_angle(angle, level / level.max(), HALF)


_ALONG_A_BEAM = ("angle", "turn", "distance", "cct", "level", "session", "meter")
"""What may differ between a reading and the section that tells how wide its beam is."""


class BeamAngles:
    """The half-peak angles of a lamp's beams: measured by its sections, else named by their zooms, else claimed."""

    def __init__(self, readings: Sequence[Measured], claims: Sequence[Claim] = ()) -> None:
        self._claims = [claim for claim in claims if claim.quantity == CLAIM]
        across = terms.grouped([m for m in readings if m.terms.angle_deg != 0.0], *_ALONG_A_BEAM)
        self._measured = {key: found for key, off in across.items() if (found := _measured(readings, off)) is not None}

    def of(self, first: Measured) -> float | None:
        """The angle of the beam that a reading was taken in; None where nothing tells it."""
        measured = self._measured.get(terms.key(first, *_ALONG_A_BEAM), angle_named(first.terms.zoom))
        return measured if measured is not None else self._claimed(first)

    def _claimed(self, first: Measured) -> float | None:
        """As it is claimed of what sat on the lamp; of a range its narrow end, where an aim error costs most."""
        on_it = {part.casefold() for part in first.terms.configuration}
        for claim in self._claims:
            with_it = {part for part in on_it if part in claim.condition.casefold()}
            if with_it == on_it and (on_it or not claim.condition):
                return claim.low if claim.low is not None else claim.high
        return None


def _measured(readings: Sequence[Measured], off_axis: Sequence[Measured]) -> float | None:
    """By the first section of a beam that has angles enough and falls to half its peak."""
    wanted = {terms.key(m, "angle", "turn") for m in off_axis}
    lit = [m for m in readings if terms.key(m, "angle", "turn") in wanted and m.value("illuminance")]
    for own in planes_of(lit):
        enough = len({m.terms.angle_deg for m in own}) >= LEAST_ANGLES
        if enough and (found := half_peak_angle(own)) is not None:
            return found
    return None
