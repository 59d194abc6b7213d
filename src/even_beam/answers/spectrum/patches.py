"""Split patches: subjects as they look under a lamp and under what it is set against, to an eye or to a camera."""

from collections.abc import Mapping, Sequence
from enum import StrEnum

import numpy as np

from even_beam.bench.records import Spectrum
from even_beam.figures.patches import PatchPair, PatchSet
from even_beam.figures.scores import rgb_of
from even_beam.light import FloatArray
from even_beam.light.colorimetry import cct_and_duv, is_white, tristimulus, uv_1960, xy
from even_beam.light.rendering import Patches, seen_by_camera, seen_by_eye
from even_beam.light.spectra import resample
from even_beam.light.ssi import matched_reference
from even_beam.light.subjects import in_order
from even_beam.words import notation


class Against(StrEnum):
    """What a lamp is set against."""

    OWN_REFERENCE = "each lamp's own reference light"
    REFERENCE_LAMP = "the reference lamp"


class Seen(StrEnum):
    """Who looks."""

    EYE = "an eye used to each light"
    BALANCED = "a camera balanced on each light"
    UNBALANCED = "a camera balanced on the reference"


def seen(lamp: FloatArray, reference: FloatArray, by: Seen) -> Patches:
    """The patches of spectra on the working grid."""
    if by is Seen.EYE:
        return seen_by_eye(lamp, reference)
    return seen_by_camera(lamp, reference, balanced=by is Seen.BALANCED)


def pairs_of(patches: Patches) -> tuple[PatchPair, ...]:
    """Patches one by one, in the order of subjects."""
    lamp, reference = rgb_of(patches.lamp), rgb_of(patches.reference)
    return tuple(
        PatchPair(patches.names[i], reference[i], lamp[i], float(patches.delta_e[i])) for i in in_order(patches.names)
    )


def patch_sets(
    lamps: Sequence[tuple[str, Spectrum]], reference: str, against: Against, by: Seen
) -> tuple[PatchSet, ...]:
    """A set for each named lamp; the reference lamp has none against itself, coloured light none against white."""
    grids: Mapping[str, FloatArray] = {name: resample(s.wavelength_nm, s.values) for name, s in lamps}
    found = []
    for name, grid in grids.items():
        if against is Against.REFERENCE_LAMP:
            other = grids.get(reference) if name != reference else None
            title = f"{name} below, {reference} above"
        else:
            cct, duv = cct_and_duv(*uv_1960(*xy(tristimulus(grid))))
            other = matched_reference(np.array([float(cct)]))[0] if bool(is_white(duv)) and np.isfinite(cct) else None
            title = f"{name} below, {notation.white(float(cct))} K reference above"
        if other is not None:
            patches = seen(grid, other, by)
            found.append(PatchSet(title, pairs_of(patches), float(np.mean(patches.delta_e))))
    return tuple(found)
