"""What a light does to subjects: skin, deep reds, foliage and so on, each a group of published reflectances.

Reflectances: CIE 13.3-1995 (R1 to R14), JIS Z 8726 (R15), EBU Tech 3355 (the chart), CIE 224:2017 (samples 15 and 18,
skins). Which of them stand for which subject is our choice (common practice, no source).
"""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from functools import cache

import numpy as np

from even_beam.light.adaptation import D65_WHITE, lab
from even_beam.light.colour_difference import ciede2000
from even_beam.light.rendering import adapted_to_display, display_of_lab, subjects
from even_beam.light.spectra import WAVELENGTH_NM, FloatArray, resample
from even_beam.light.tables import table
from even_beam.light.tlci import camera_signals, displayed_lab, signals_of

_OF_CHART: Mapping[str, tuple[str, ...]] = {
    "skin": ("deep skin", "fair skin", "skin, sample 15", "skin, sample 18"),
    "deep reds": ("deep red", "rose red"),
    "oranges, yellows": ("orange", "amber", "yellow"),
    "foliage": ("leaf green", "lime green"),
    "blues": ("deep blue", "strong blue", "sky blue"),
    "violets, pinks": ("dark violet", "violet blue", "magenta"),
    "pastels": (),
    "whites, greys": ("white", "grey 8", "grey 6.5", "grey 5", "grey 3.5"),
}
_BESIDE: Mapping[str, str] = {
    "green": "lime green",
    "sea green": "green",
    "turquoise": "sea green",
    "black": "grey 3.5",
}
"""Patches that stand for no subject, each with the one that it is looked at after."""
_OF_CRI: Mapping[str, tuple[int, ...]] = {
    "skin": (13, 15), "deep reds": (9,), "oranges, yellows": (10,), "foliage": (14, 11), "blues": (12,),
    "violets, pinks": (7, 8), "pastels": (1, 2, 3, 4, 5, 6, 7, 8), "whites, greys": (),
}  # fmt: skip

SUBJECTS: tuple[str, ...] = tuple(_OF_CHART)
"""The subjects, in the order in which they are told."""


def in_order(names: Sequence[str]) -> list[int]:
    """The places of patches in the order of subjects: skins, reds, yellows, greens, blues, violets, greys; those
    that are of no subject follow as they are."""
    every = [name for members in _OF_CHART.values() for name in members]
    for name, before in _BESIDE.items():
        every.insert(every.index(before) + 1, name)
    rank = {name: place for place, name in enumerate(every)}
    return sorted(range(len(names)), key=lambda place: rank.get(names[place], len(every)))


def samples_of(subject: str) -> tuple[int, ...]:
    """The numbers of the colour-rendering samples that stand for a subject. Raises `KeyError`."""
    return _OF_CRI[subject]


@dataclass(frozen=True, eq=False, slots=True)
class Shift:
    """What becomes of a subject's members under a lamp: k names, CIELAB under the reference and under the lamp, shape
    (k, 3), and CIEDE2000 between them, shape (k,)."""

    subject: str
    members: tuple[str, ...]
    before: FloatArray
    after: FloatArray
    delta_e: FloatArray

    @property
    def mean(self) -> float:
        """The mean CIEDE2000 of the members."""
        return float(self.delta_e.mean())

    @property
    def lightness(self) -> float:
        """By how much they are lighter, in L*."""
        return float((self.after[:, 0] - self.before[:, 0]).mean())

    @property
    def chroma(self) -> float:
        """By how much they are more vivid, in C*."""
        return float((np.hypot(*self.after[:, 1:].T) - np.hypot(*self.before[:, 1:].T)).mean())

    @property
    def hue(self) -> float:
        """By how much their hue turns, in the units of C* (ISO/CIE 11664-4, the metric hue difference); positive from
        red towards yellow."""
        before, after = self.before[:, 1:], self.after[:, 1:]
        cross = before[:, 0] * after[:, 1] - before[:, 1] * after[:, 0]
        dot = (before * after).sum(axis=1)
        chroma = np.sqrt(np.maximum(np.hypot(*before.T) * np.hypot(*after.T), 0.0))
        return float((2.0 * chroma * np.sin(np.arctan2(cross, dot) / 2.0)).mean())

    @property
    def hue_deg(self) -> float:
        """The hue of the subject under the reference, the direction of its mean colour, 0 to 360."""
        a, b = self.before[:, 1:].mean(axis=0)
        return float(np.degrees(np.arctan2(b, a)) % 360.0)

    @property
    def colours(self) -> FloatArray:
        """The member that changes most, under the reference and under the lamp, sRGB 0 to 1, shape (2, 3)."""
        most = int(self.delta_e.argmax())
        return display_of_lab(np.stack([self.before[most], self.after[most]]))


@cache
def _members() -> dict[str, tuple[tuple[str, ...], FloatArray]]:
    """Names and reflectances of each subject on the working grid."""
    names, reflectance = subjects()
    wavelength, samples = table("cie-13.3-samples")
    cri = resample(wavelength, samples.T)
    found = {}
    for subject in SUBJECTS:
        own = [names.index(name) for name in _OF_CHART[subject]]
        numbers = _OF_CRI[subject]
        label = (*_OF_CHART[subject], *(f"R{number}" for number in numbers))
        found[subject] = label, np.vstack([reflectance[own], cri[[n - 1 for n in numbers]]])
    return found


Own = Mapping[str, FloatArray]
"""Reflectances of one's own subjects on the working grid, shape (401,), by their names."""


def seen_by_eye(lamp: FloatArray, reference: FloatArray, own: Own | None = None) -> tuple[Shift, ...]:
    """What an observer adapted to each light sees of the subjects; both spectra on the working grid, shape (401,).

    One's own subjects come after the published ones, each by itself.
    """

    def colours(light: FloatArray, reflectance: FloatArray) -> FloatArray:
        return lab(adapted_to_display(light, reflectance) / D65_WHITE)

    return _shifts(lamp, reference, own, colours)


def seen_by_camera(lamp: FloatArray, reference: FloatArray, own: Own | None = None) -> tuple[Shift, ...]:
    """What the standard camera of EBU Tech 3355 shows, balanced on each light."""

    def colours(light: FloatArray, reflectance: FloatArray) -> FloatArray:
        return displayed_lab(signals_of(light, reflectance), camera_signals(light)[0])

    return _shifts(lamp, reference, own, colours)


def _shifts(
    lamp: FloatArray,
    reference: FloatArray,
    own: Own | None,
    colours: Callable[[FloatArray, FloatArray], FloatArray],
) -> tuple[Shift, ...]:
    groups = [(subject, names, those) for subject, (names, those) in _members().items()]
    groups += [(name, (name,), one[None, :]) for name, one in (own or {}).items()]
    return tuple(
        _shift(subject, names, colours(reference, those), colours(lamp, those)) for subject, names, those in groups
    )


def reflectance_on_grid(wavelength_nm: FloatArray, reflectance: FloatArray) -> FloatArray:
    """A measured reflectance, shape (n,), on the working grid, shape (401,); beyond its ends as at them (CIE 15:2018,
    7.2.3)."""
    inside = resample(wavelength_nm, reflectance)
    known = (WAVELENGTH_NM >= wavelength_nm[0]) & (WAVELENGTH_NM <= wavelength_nm[-1])
    return np.where(known, inside, np.interp(WAVELENGTH_NM, wavelength_nm, reflectance))


def _shift(subject: str, names: tuple[str, ...], before: FloatArray, after: FloatArray) -> Shift:
    return Shift(subject, names, before, after, ciede2000(after, before))
