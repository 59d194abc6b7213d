"""Television lighting consistency index TLCI-2012 and luminaire matching factor TLMF-2013 (EBU Tech 3355).

The observer is a standard three-chip broadcast camera with its display, not an eye and not a digital cinema
camera. Where the standard's text was not at hand, docs/methods.md says what was settled and how.
"""

from dataclasses import dataclass
from functools import cache

import numpy as np

from even_beam.light.adaptation import lab
from even_beam.light.colorimetry import tristimulus
from even_beam.light.colour_difference import ciede2000
from even_beam.light.illuminants import daylight, planckian
from even_beam.light.spectra import FloatArray
from even_beam.light.tables import table
from even_beam.light.temperature_table import TemperatureTable

COLOURS = 18
PATCHES = 24
BLEND_K = (3400.0, 5000.0)
_AT_5_NM = slice(0, 381, 5)
"""380-760 nm in 5 nm out of the working grid."""

_MATRIX = np.array([[1.182, -0.209, 0.027], [0.107, 0.890, 0.003], [0.040, -0.134, 1.094]])
_SATURATION = 0.9
_EXPOSURE = 0.9
# Saturation about the plain mean is linear too: one matrix from balanced signals to linear display values.
_CAMERA_TO_LINEAR = ((_SATURATION * np.eye(3) + (1.0 - _SATURATION) / 3.0) @ _MATRIX / _EXPOSURE).T
_BT709_TO_XYZ = np.array(
    [
        [0.41239080, 0.35758434, 0.18048079],
        [0.21263901, 0.71516868, 0.07219232],
        [0.01933082, 0.11919478, 0.95053215],
    ]
)
_BT709_TO_RELATIVE_XYZ = (_BT709_TO_XYZ / _BT709_TO_XYZ.sum(axis=1, keepdims=True)).T


@cache
def _patch_weights() -> FloatArray:
    """Spectrum at 5 nm to camera signals of the perfect diffuser and the 24 patches: shape (77, 75)."""
    _, camera = table("ebu-tech-3355-camera")
    _, patches = table("ebu-tech-3355-patches")
    reflectance = np.column_stack([np.ones(camera.shape[0]), patches])
    return (reflectance[:, :, None] * camera[:, None, :]).reshape(camera.shape[0], -1)


def camera_signals(spectra: FloatArray) -> tuple[FloatArray, FloatArray]:
    """Raw camera signals of the perfect diffuser, shape (..., 3), and of the patches, shape (..., 24, 3)."""
    raw = (spectra[..., _AT_5_NM] @ _patch_weights()).reshape(*spectra.shape[:-1], PATCHES + 1, 3)
    return raw[..., 0, :], raw[..., 1:, :]


def signals_of(spectra: FloatArray, reflectance: FloatArray) -> FloatArray:
    """Raw camera signals of other subjects, shapes (..., 401) and (k, 401) to (..., k, 3)."""
    _, camera = table("ebu-tech-3355-camera")
    signals: FloatArray = (spectra[..., None, _AT_5_NM] * reflectance[:, _AT_5_NM]) @ camera
    return signals


def displayed_lab(signals: FloatArray, balance: FloatArray) -> FloatArray:
    """CIELAB (D65) of camera signals as the standard display shows them, shapes (..., k, 3) and (..., 3) to (..., k,
    3).

    `balance` is the raw signal that becomes neutral. Source: EBU Tech 3355; ITU-R BT.709 (curve, primaries).
    """
    linear = np.minimum(np.maximum(signals / balance[..., None, :] @ _CAMERA_TO_LINEAR, 0.0), 1.0)
    coded = np.where(linear < 0.018, 4.5 * linear, 1.099 * linear**0.45 - 0.099)
    return lab(coded**2.4 @ _BT709_TO_RELATIVE_XYZ)


def reference_luminaire(cct: FloatArray, inside: float | None = None) -> FloatArray:
    """Planckian to 3400 K, CIE daylight from 5000 K, between them a blend of those two end points: (n,) to (n, 401)."""
    low, high = BLEND_K
    inner = cct if inside is None else np.full_like(cct, inside)
    k = np.clip((cct - low) / (high - low), 0.0, 1.0)[:, None]
    ends = (1.0 - k) * planckian(np.array([low])) + k * daylight(np.array([high]))
    return np.where((inner < low)[:, None], planckian(cct), np.where((inner > high)[:, None], daylight(cct), ends))


def _own_balance_lab(spectra: FloatArray) -> FloatArray:
    white, patches = camera_signals(spectra)
    return displayed_lab(patches[..., :COLOURS, :], white)


_REFERENCE = TemperatureTable(lambda cct, inside: _own_balance_lab(reference_luminaire(cct, inside)))


def consistency(spectra: FloatArray, cct: FloatArray) -> tuple[FloatArray, FloatArray]:
    """TLCI-2012 Qa, shape (n,), and CIEDE2000 of the 18 colours, shape (n, 18).

    Spectra on the working grid, shape (n, 401); `cct` in K, shape (n,); NaN where it is NaN.
    """
    difference = ciede2000(_REFERENCE.at(cct), _own_balance_lab(spectra))
    return _score(difference), difference


def matching(test: FloatArray, reference: FloatArray) -> FloatArray:
    """TLMF-2013 of two spectra on the working grid; shapes (..., 401) broadcast to (...).

    The camera is balanced for the reference alone and all 24 patches count. Both are taken at equal luminance, an
    assumption of ours: alternatives differ by at most about 3 points.
    """
    luminance = tristimulus(reference)[..., 1] / tristimulus(test)[..., 1]
    white, patches = camera_signals(reference)
    _, test_patches = camera_signals(test * luminance[..., None])
    return _score(ciede2000(displayed_lab(patches, white), displayed_lab(test_patches, white)))


def _score(difference: FloatArray) -> FloatArray:
    combined = np.mean(difference**4, axis=-1) ** 0.25
    score: FloatArray = 100.0 / (1.0 + (combined / 3.16) ** 2.4)
    return score


SECTORS = (
    "red", "red to yellow", "yellow", "yellow to green", "green", "green to cyan", "cyan", "cyan to blue", "blue",
    "blue to magenta", "magenta", "magenta to red",
)  # fmt: skip
"""Twelve hue sectors of 30 degrees in the CIELAB plane of the display, the first about its own red (40 degrees)."""


@dataclass(frozen=True, eq=False, slots=True)
class Advice:
    """What a colourist would correct, by hue sector: lightness, chroma (both in CIELAB units) and hue (degrees).

    Lamp less reference, mean over the patches of a sector, shape (n, 12); NaN where no patch lies in a sector.
    """

    lightness: FloatArray
    chroma: FloatArray
    hue_deg: FloatArray


def advice(spectra: FloatArray, cct: FloatArray) -> Advice:
    """Where in the circle of hues a camera sees the lamp otherwise than its reference; shapes (n, 401) and (n,).

    The sectors follow the standard's idea of advice to the colourist; the numbers and their wording are ours.
    """
    reference, test = _REFERENCE.at(cct), _own_balance_lab(spectra)
    turn = 2.0 * np.pi
    hue_reference = np.arctan2(reference[..., 2], reference[..., 1])
    sector = np.floor(((hue_reference - np.deg2rad(25.0)) % turn) / (turn / len(SECTORS))).astype(np.intp)
    hue_shift = np.arctan2(test[..., 2], test[..., 1]) - hue_reference
    chroma_shift = np.hypot(test[..., 1], test[..., 2]) - np.hypot(reference[..., 1], reference[..., 2])
    member = sector[..., None] == np.arange(len(SECTORS))
    count = member.sum(axis=-2)

    def mean(values: FloatArray) -> FloatArray:
        with np.errstate(invalid="ignore"):
            averaged: FloatArray = (values[..., None] * member).sum(axis=-2) / np.where(count, count, np.nan)
        return averaged

    return Advice(
        mean(test[..., 0] - reference[..., 0]),
        mean(chroma_shift),
        np.rad2deg(mean((hue_shift + np.pi) % turn - np.pi)),
    )
