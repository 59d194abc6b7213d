"""Simulated fixtures: what each sends, by setting, configuration, placement and time since it was lit.

They are models with invented numbers, not copies of any product. The names are those by which a lamp in the kit
says that it is simulated.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from functools import cache

import numpy as np

from even_beam.bench.records import Terms
from even_beam.instruments import emitters
from even_beam.light import WAVELENGTH_NM, FloatArray, daylight, planckian
from even_beam.light.colorimetry import LUMINOUS_EFFICACY_LM_PER_W, tristimulus

DEFAULT_WHITE_K = 5600.0

SpectralModel = Callable[[Terms, float], FloatArray]
"""Terms and the share of full output (0-1) to a spectrum of one lumen-weighted unit; level does not matter to its
scale."""


@dataclass(frozen=True, slots=True)
class Attachment:
    """What a modifier does to the light: its factor on axis and a tilt that shifts the white."""

    factor: float
    mired_shift: float = 0.0
    duv_shift: float = 0.0


@dataclass(frozen=True, slots=True)
class SimulatedLamp:
    """One fixture. `law` turns the dial (0-1) into output (0-1); `size_m` is the emitting width (near field)."""

    kind: str
    spectrum: SpectralModel
    candela: float
    law: Callable[[float], float] = lambda dial: dial
    output_by_white: Callable[[float], float] = lambda cct: 1.0
    zoom: Mapping[str, float] = field(default_factory=dict)
    attachments: Mapping[str, Attachment] = field(default_factory=dict)
    size_m: float = 0.1
    warm_up_droop: float = 0.04
    warm_up_min: float = 12.0
    half_peak_deg: float = 60.0
    upright_share: float = 1.0
    watts: float = 100.0

    def output(self, terms: Terms) -> float:
        """Share of full output at the dialled level."""
        dial = 1.0 if terms.level_pct is None else float(np.clip(terms.level_pct / 100.0, 0.0, 1.0))
        return self.law(dial) if dial > 0.0 else 0.0

    def irradiance(self, terms: Terms, minutes_lit: float = 60.0) -> FloatArray:
        """Spectral irradiance in W m-2 nm-1 on the working grid at the placement of `terms`, shape (401,)."""
        output = self.output(terms)
        if output == 0.0:
            return np.zeros_like(WAVELENGTH_NM)
        shape = self.spectrum(terms, output)
        for name in terms.configuration:
            if name in self.attachments:
                shape = _attached(shape, self.attachments[name])
        illuminance = self._illuminance(terms, output, minutes_lit)
        return shape * illuminance / (LUMINOUS_EFFICACY_LM_PER_W * float(tristimulus(shape)[1]))

    def half_peak_in(self, turn_deg: float) -> float:
        """The full half-peak angle in a plane through the axis: an ellipse, `upright_share` as high as it is wide."""
        turn = np.deg2rad(turn_deg)
        return float(self.half_peak_deg / np.hypot(np.cos(turn), np.sin(turn) / self.upright_share))

    def _illuminance(self, terms: Terms, output: float, minutes_lit: float) -> float:
        white = terms.cct_k if terms.cct_k is not None else DEFAULT_WHITE_K
        intensity = self.candela * output * self.output_by_white(white) * self.zoom.get(terms.zoom, 1.0)
        for name in terms.configuration:
            intensity *= self.attachments[name].factor if name in self.attachments else 1.0
        intensity *= 1.0 + self.warm_up_droop * float(np.exp(-minutes_lit / self.warm_up_min))
        distance = terms.distance_m if terms.distance_m else 1.0
        intensity *= 0.5 ** ((terms.angle_deg / (self.half_peak_in(terms.turn_deg) / 2.0)) ** 2)
        # an even disc of this width on its axis: illuminance falls short of the inverse square near to it
        return intensity / (distance**2 + (self.size_m / 2.0) ** 2)


def _attached(spectrum: FloatArray, attachment: Attachment) -> FloatArray:
    """A tilt along the spectrum shifts the white by about the stated mireds; a dip or bump in the green shifts Duv."""
    tilt = np.exp(attachment.mired_shift * 0.0042 * (WAVELENGTH_NM - 560.0) / 100.0)
    bump = 1.0 + 25.0 * attachment.duv_shift * np.exp(-(((WAVELENGTH_NM - 545.0) / 45.0) ** 2))
    return spectrum * tilt * bump


# --- Spectral models


def tungsten(full_k: float = 3200.0) -> SpectralModel:
    """A filament: colder, so redder, as it is dimmed (temperature goes with about the eighth root of the light)."""

    def model(terms: Terms, output: float) -> FloatArray:
        return planckian(full_k * output**0.124)

    return model


def bicolour(
    warm: FloatArray, cool: FloatArray, error_mired: Callable[[float], float], drift_mired: float = 0.0
) -> SpectralModel:
    """Two phosphor channels mixed for the white asked, off by `error_mired`, and by `drift_mired` more at the lowest
    levels."""

    def model(terms: Terms, output: float) -> FloatArray:
        white = terms.cct_k if terms.cct_k is not None else DEFAULT_WHITE_K
        aim = 1e6 / (1e6 / white + error_mired(white) + drift_mired * (1.0 - output) ** 6)
        return _mixed_to(np.stack([warm, cool]), aim)

    return model


def many_emitters(
    channels: tuple[FloatArray, ...], drift_mired: float = 0.0, drift_duv: float = 0.0, error_mired: float = 0.0
) -> SpectralModel:
    """Several channels mixed for the best likeness to the reference at the white asked."""
    basis = np.stack(channels)

    def model(terms: Terms, output: float) -> FloatArray:
        white = terms.cct_k if terms.cct_k is not None else DEFAULT_WHITE_K
        low = (1.0 - output) ** 8
        aim = 1e6 / (1e6 / white + error_mired + drift_mired * low)
        spectrum = _mixed_to(basis, aim)
        bump = 1.0 + 25.0 * drift_duv * low * np.exp(-(((WAVELENGTH_NM - 545.0) / 45.0) ** 2))
        mixed: FloatArray = spectrum * bump
        return mixed

    return model


def _mixed_to(channels: FloatArray, white_k: float) -> FloatArray:
    weights = _weights(channels.tobytes(), channels.shape[0], round(white_k, 3))
    mixed: FloatArray = weights @ channels
    return mixed


@cache
def _weights(channel_bytes: bytes, count: int, white_k: float) -> FloatArray:
    """Non-negative weights that meet the white's X, Y, Z (firmly) and its reference spectrum (softly)."""
    from scipy.optimize import nnls  # takes a moment to import, and only the simulator needs it

    channels = np.frombuffer(channel_bytes).reshape(count, -1)
    reference = planckian(white_k) if white_k < 4000.0 else daylight(white_k)
    reference = reference / float(tristimulus(reference)[1])
    firm = 300.0
    rows = np.vstack([channels.T, firm * tristimulus(channels).T])
    target = np.concatenate([reference, firm * tristimulus(reference)])
    weights, _ = nnls(rows, target)
    return np.asarray(weights)


def fixed(spectrum: FloatArray) -> SpectralModel:
    """A lamp with one spectrum, whatever is dialled."""
    return lambda terms, output: spectrum


# --- Dimming laws: dial (0-1) to output (0-1)


def linear(dial: float) -> float:
    """Output in proportion to the dial."""
    return dial


def square(dial: float) -> float:
    """Output with the square of the dial, as older dimmers do."""
    return dial**2


def floored(minimum: float) -> Callable[[float], float]:
    """In proportion, but never below `minimum` while the lamp is lit: 1 % that gives 10 %."""
    return lambda dial: minimum + (1.0 - minimum) * dial


_SIX = (
    emitters.line(449.0, 18.0),
    emitters.line(478.0, 24.0),
    emitters.line(505.0, 30.0),
    emitters.phosphor(548.0, 44.0, 58.0),
    emitters.phosphor(598.0, 20.0, 26.0),
    emitters.line(634.0, 18.0) + 0.55 * emitters.phosphor(655.0, 34.0, 30.0),
)
_FIVE = (
    emitters.line(454.0, 20.0),
    emitters.line(523.0, 32.0),
    emitters.line(632.0, 18.0),
    emitters.warm_white(),
    emitters.cool_white(),
)


LAMPS: dict[str, SimulatedLamp] = {
    "tungsten": SimulatedLamp(
        "tungsten Fresnel",
        tungsten(),
        candela=17_400.0,
        law=square,
        zoom={"flood": 0.32, "spot": 1.9},
        size_m=0.06,
        warm_up_droop=0.0,
        half_peak_deg=38.0,
        watts=1000.0,
        attachments={"full blue gel": Attachment(0.35, -137.0, 0.001), "doors": Attachment(1.0)},
    ),
    "bicolour panel": SimulatedLamp(
        "bicolour panel",
        bicolour(emitters.warm_white(), emitters.cool_white(), lambda k: 6.5 * np.sin((1e6 / k - 245.0) / 38.0), 4.0),
        candela=9_800.0,
        output_by_white=lambda k: 1.0 - 0.18 * abs(1e6 / k - 220.0) / 140.0,
        size_m=0.6,
        half_peak_deg=95.0,
        watts=200.0,
        attachments={"softbox": Attachment(0.52, 6.0, 0.0004)},
    ),
    "two-channel point source": SimulatedLamp(
        "two-channel point source",
        bicolour(emitters.warm_white(), emitters.cool_white(), lambda k: -7.5),
        candela=11_200.0,
        output_by_white=lambda k: 1.0 if k > 4300.0 else 0.9,
        size_m=0.04,
        half_peak_deg=100.0,
        watts=300.0,
        attachments={"reflector": Attachment(4.1, -13.0, -0.0006), "softbox": Attachment(0.45, 5.0, 0.0006)},
    ),
    "five-emitter colour light": SimulatedLamp(
        "five-emitter colour light",
        many_emitters(_FIVE, drift_mired=9.0, drift_duv=0.001),
        candela=7_600.0,
        law=lambda dial: 0.004 + 0.996 * dial**1.12,
        size_m=0.3,
        half_peak_deg=100.0,
        watts=150.0,
    ),
    "six-emitter colour light": SimulatedLamp(
        "six-emitter colour light",
        many_emitters(_SIX, drift_mired=2.5, drift_duv=0.0006, error_mired=1.6),
        candela=19_300.0,
        output_by_white=lambda k: 1.0 if k >= 4000.0 else 0.94,
        size_m=0.05,
        half_peak_deg=36.0,
        watts=260.0,
        zoom={"flood": 0.3, "spot": 1.0},
        attachments={"reflector": Attachment(1.0, -3.0), "diffuser": Attachment(0.31, 3.5, 0.0003)},
    ),
    "discharge lamp": SimulatedLamp(
        "discharge lamp",
        fixed(emitters.discharge()),
        candela=61_000.0,
        law=lambda dial: max(dial, 0.5),
        zoom={"flood": 0.25, "spot": 2.4},
        size_m=0.08,
        warm_up_droop=-0.45,
        warm_up_min=2.5,
        half_peak_deg=42.0,
        watts=640.0,
    ),
    "budget panel": SimulatedLamp(
        "budget bicolour panel",
        bicolour(emitters.old_warm_white(), emitters.old_cool_white(), lambda k: 9.0 - 0.0022 * (k - 3200.0), -6.0),
        candela=3_150.0,
        law=floored(0.1),
        size_m=0.5,
        half_peak_deg=110.0,
        upright_share=0.75,
        watts=90.0,
        warm_up_droop=0.09,
    ),
}
"""The simulated fixtures by name."""
