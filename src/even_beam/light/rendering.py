"""What an eye and a camera would show: the chart and skin under the lamp and under its reference, as display
colours."""

from dataclasses import dataclass
from functools import cache

import numpy as np

from even_beam.light.adaptation import D65_WHITE, adapted_to_d65, lab, srgb, xyz_of_lab
from even_beam.light.colorimetry import observer, tristimulus
from even_beam.light.colour_difference import ciede2000
from even_beam.light.spectra import FloatArray, resample
from even_beam.light.tables import column_names, table
from even_beam.light.tlci import PATCHES, camera_signals, displayed_lab, signals_of


@dataclass(frozen=True, eq=False, slots=True)
class Patches:
    """Colours of k patches: `lamp` and `reference` as sRGB 0-1, shape (..., k, 3), and CIEDE2000 between them, (...,
    k)."""

    names: tuple[str, ...]
    lamp: FloatArray
    reference: FloatArray
    delta_e: FloatArray


@cache
def subjects() -> tuple[tuple[str, ...], FloatArray]:
    """Names and reflectances on the working grid, shape (26, 401): the 24 patches of EBU Tech 3355 and two skins of CIE
    224."""
    wavelength, patches = table("ebu-tech-3355-patches")
    padded = np.append(wavelength, [765.0, 770.0, 775.0, 780.0])  # published to 760 nm: held from there on
    extended = np.vstack([patches, np.repeat(patches[-1:], 4, axis=0)])
    chart = resample(padded, extended.T)
    skins = table("cie-224-samples")[1][:, [14, 17]].T
    return (*column_names("ebu-tech-3355-patches"), "skin, sample 15", "skin, sample 18"), np.vstack([chart, skins])


def seen_by_eye(lamp: FloatArray, reference: FloatArray) -> Patches:
    """What an observer adapted to each light sees, shapes (..., 401) broadcast.

    CIE 1931 observer, full adaptation to D65 (Bradford). Equal illuminance.
    """
    names, reflectance = subjects()
    colours = [adapted_to_display(light, reflectance) for light in np.broadcast_arrays(lamp, reference)]
    first, second = (lab(c / D65_WHITE) for c in colours)
    return Patches(names, srgb(colours[0]), srgb(colours[1]), ciede2000(second, first))


def adapted_to_display(light: FloatArray, reflectance: FloatArray) -> FloatArray:
    """X, Y, Z on D65 of reflectances under a light for an eye adapted to it, shapes (..., 401), (k, 401) to (..., k,
    3)."""
    white = tristimulus(light)
    xyz = (light[..., None, :] * reflectance) @ observer() / white[..., None, 1:2]
    return adapted_to_d65(xyz, white / white[..., 1:2])


def seen_by_camera(lamp: FloatArray, reference: FloatArray, *, balanced: bool = True) -> Patches:
    """What the standard three-chip camera of EBU Tech 3355 shows of the same subjects, shapes (..., 401) broadcast.

    `balanced`: white balanced on each light, as one would. Otherwise balanced on the reference alone, at equal
    luminance: then the cast of the lamp stays in the picture.
    """
    names, reflectance = subjects()
    lamp, reference = np.broadcast_arrays(lamp, reference)
    luminance = tristimulus(reference)[..., 1:2] / tristimulus(lamp)[..., 1:2]
    white_reference, white_lamp = camera_signals(reference)[0], camera_signals(lamp * luminance)[0]
    patches_reference, patches_lamp = (signals_of(light, reflectance) for light in (reference, lamp * luminance))
    balance = white_lamp if balanced else white_reference
    first = displayed_lab(patches_reference, white_reference)
    second = displayed_lab(patches_lamp, balance)
    return Patches(names, display_of_lab(second), display_of_lab(first), ciede2000(first, second))


def display_of_lab(colour: FloatArray) -> FloatArray:
    """SRGB of CIELAB on D65, shape (..., 3)."""
    return srgb(xyz_of_lab(colour))


@dataclass(frozen=True, eq=False, slots=True)
class WhiteBalanceRescue:
    """What a white balance repairs and what it leaves: mean CIEDE2000 of the 24 patches, shape (...)."""

    without: FloatArray
    with_balance: FloatArray

    @property
    def repaired(self) -> FloatArray:
        """The part of the difference that the balance takes away."""
        return self.without - self.with_balance


def white_balance_rescue(lamp: FloatArray, reference: FloatArray) -> WhiteBalanceRescue:
    """The standard camera with and without a white balance on the lamp: a missing part of the spectrum stays
    missing."""
    fixed, balanced = (
        seen_by_camera(lamp, reference, balanced=b).delta_e[..., :PATCHES].mean(axis=-1) for b in (False, True)
    )
    return WhiteBalanceRescue(fixed, balanced)
