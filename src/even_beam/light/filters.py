"""Filters: measured from two readings, applied to a spectrum, and neutral models of the usual correction series.

A correction is defined by its mired or tint shift; its loss depends on the dye and is data, best measured. The models
here are smooth, labelled as models, and carry a typical loss of the trade (common practice, no source).
"""

from dataclasses import dataclass
from functools import cache

import numpy as np
from numpy.typing import ArrayLike

from even_beam.light.colorimetry import cct_and_duv, illuminance, tristimulus, uv_1960, xy
from even_beam.light.illuminants import daylight, planckian
from even_beam.light.photometry import stops
from even_beam.light.spectra import WAVELENGTH_NM, FloatArray

_LEAST_LIGHT = 0.005


def transmittance(with_filter: FloatArray, without: FloatArray) -> FloatArray:
    """Spectral transmittance from readings with and without a filter, shapes (..., 401) broadcast.

    NaN where the bare light is below 0.5 % of its peak: there is nothing to divide by. Values above one (noise, or a
    fluorescent filter) are kept as they were found.
    """
    enough = without > _LEAST_LIGHT * without.max(axis=-1, keepdims=True)
    return np.where(enough, with_filter / np.where(enough, without, 1.0), np.nan)


def filled(transmission: FloatArray) -> FloatArray:
    """A transmittance with its gaps closed linearly, shape (401,); held at the ends."""
    known = np.isfinite(transmission)
    return np.interp(WAVELENGTH_NM, WAVELENGTH_NM[known], transmission[known])


@dataclass(frozen=True, eq=False, slots=True)
class Shift:
    """What a filter does to a light: mired and Duv shift, loss in stops (positive), and transmittance for that light.

    Arrays of shape (...). Mired positive is warmer, Duv positive greener.
    """

    mired: FloatArray
    duv: FloatArray
    loss_stops: FloatArray
    factor: FloatArray


def shift(light: FloatArray, transmission: FloatArray) -> Shift:
    """The shift of a filter on a light, both on the working grid; shapes (..., 401) broadcast."""
    behind = light * transmission
    cct, duv = cct_and_duv(*uv_1960(*xy(tristimulus(light))))
    cct_behind, duv_behind = cct_and_duv(*uv_1960(*xy(tristimulus(behind))))
    factor = illuminance(behind) / illuminance(light)
    return Shift(1e6 / cct_behind - 1e6 / cct, duv_behind - duv, -stops(factor), factor)


# --- Models of the correction series

FRACTIONS = ("full", "three quarters", "half", "quarter", "eighth")

# Mired shifts and typical losses in stops, by fraction, of two common series: common practice, from memory, no source.
_ORANGE = ((159.0, 1.0), (124.0, 0.75), (109.0, 0.5), (64.0, 0.3), (26.0, 0.15))
_BLUE = ((-137.0, 1.5), (-112.0, 1.2), (-78.0, 0.9), (-35.0, 0.5), (-18.0, 0.3))
_EVEN_ORANGE = ((167.0, 0.9), (131.0, 0.65), (81.0, 0.45), (42.0, 0.3), (20.0, 0.15))
_EVEN_BLUE = ((-131.0, 1.5), (-100.0, 1.2), (-68.0, 0.9), (-30.0, 0.5), (-12.0, 0.25))
_EVEN = "even "
"""Begins the names of the second series, whose fractions are nearer to what they say: its half is half of its full."""
# Tint in CC by fraction, an eighth being 3.5 CC (common practice, no source); fractions of the full loss.
_TINT_CC = (28.0, 21.0, 14.0, 7.0, 3.5)
_GREEN_LOSS = 0.4
_MAGENTA_LOSS = 0.8


@dataclass(frozen=True, eq=False, slots=True)
class FilterModel:
    """A model of a correction: what it is defined by, and its transmittance, shape (401,)."""

    name: str
    transmission: FloatArray
    defined_by: str


def _smooth(slope: float, bump: float) -> FloatArray:
    """A transmittance that tilts with the reciprocal of the wavelength, as a change of temperature does, with a broad
    green bump."""
    tilt = np.exp(slope * (1000.0 / WAVELENGTH_NM - 1000.0 / 560.0))
    return tilt * np.exp(bump * np.exp(-(((WAVELENGTH_NM - 540.0) / 55.0) ** 2)))


def _scaled_to_loss(shape: FloatArray, light: FloatArray, loss: float) -> FloatArray:
    """Scaled so that it loses `loss` stops on a light; never above one."""
    scaled = shape * 2.0**-loss * float(illuminance(light) / illuminance(light * shape))
    return np.minimum(scaled, 1.0)


_SHARES = (1.0, 0.5, 0.25, 0.1, 0.03)
"""Of a step that leads astray these are tried in turn."""


def _solve(light: FloatArray, mired: float, duv: float, loss: float) -> FloatArray:
    """The smooth transmittance that shifts a light by `mired` and `duv` and loses `loss` stops: Newton's method on both
    axes."""
    parameters = np.array([-mired / 70.0, 20.0 * duv])
    target = np.array([mired, 1000.0 * duv])
    bare_cct, bare_duv = cct_and_duv(*uv_1960(*xy(tristimulus(light))))

    def transmission(p: FloatArray) -> FloatArray:
        return _scaled_to_loss(_smooth(p[0], p[1]), light, loss)

    def found(p: FloatArray) -> FloatArray:
        cct, tint = cct_and_duv(*uv_1960(*xy(tristimulus(light * transmission(p)))))
        return np.array([1e6 / cct - 1e6 / bare_cct, 1000.0 * (tint - bare_duv)])

    with np.errstate(invalid="ignore", divide="ignore"):  # a step too far has no temperature, and is shortened
        for _ in range(40):
            missing = target - found(parameters)
            if np.abs(missing).max() < 1e-6:
                break
            step = 1e-4
            columns = [(target - missing, found(parameters + step * unit)) for unit in np.eye(2)]
            slopes = np.stack([(moved - now) / step for now, moved in columns], axis=-1)
            whole = np.linalg.solve(slopes, missing)
            nearer = (
                parameters + share * whole
                for share in _SHARES
                if np.linalg.norm(target - found(parameters + share * whole)) < np.linalg.norm(missing)
            )
            found_nearer = next(nearer, None)
            if found_nearer is None:
                break
            parameters = found_nearer
    return transmission(parameters)


_SERIES = {
    "CTO": {False: _ORANGE, True: _EVEN_ORANGE},
    "CTB": {False: _BLUE, True: _EVEN_BLUE},
}


def _parts_of(name: str) -> tuple[bool, str, int]:
    """Whether a correction is of the second series, its kind, and the place of its fraction. Raises `KeyError`."""
    plain, even = name.removeprefix(_EVEN), name.startswith(_EVEN)
    fraction = next((one for one in FRACTIONS if plain.startswith(f"{one} ")), None)
    if fraction is None:
        raise KeyError(name)
    return even, plain[len(fraction) + 1 :], FRACTIONS.index(fraction)


@cache
def correction(name: str) -> FilterModel:
    """The model of `full CTO` ... `eighth CTB`, `even full CTO` ... of the second series, and `full plus green` ...
    `eighth minus green`. Raises `KeyError`.

    Orange is defined on daylight of 5500 K, blue on tungsten of 3200 K, both keeping the tint; green and magenta on
    3200 K, as CC of ideal dyes, keeping the temperature of that white.
    """
    even, kind, index = _parts_of(name)
    if kind in _SERIES:
        mired, loss = _SERIES[kind][even][index]
        light = daylight(5500.0) if kind == "CTO" else planckian(3200.0)
        return FilterModel(
            f"{name} (model)", _solve(light, mired, 0.0, loss), f"{mired:+.0f} mired, typical loss {loss:g} stop"
        )
    sign = {"plus green": 1.0, "minus green": -1.0}[kind]
    cc = sign * _TINT_CC[index]
    full = _GREEN_LOSS if sign > 0 else _MAGENTA_LOSS
    loss = full * _TINT_CC[index] / _TINT_CC[0]
    light = planckian(3200.0)
    made = _solve(light, 0.0, float(duv_of_cc(cc, 3200.0)), loss)
    return FilterModel(
        f"{name} (model)", made, f"CC {abs(cc):g} {'green' if sign > 0 else 'magenta'}, typical loss {loss:g} stop"
    )


def nominal_mired(name: str) -> tuple[float, float]:
    """The least and the most mired by which corrections of a name move a white, warmer positive: its series says one,
    and the plain name is used of the gels of either. A green or magenta one keeps the white. Raises `KeyError`."""
    even, kind, index = _parts_of(name)
    if kind not in _SERIES:
        return 0.0, 0.0
    said = [_SERIES[kind][series][index][0] for series in {even, True}]
    return min(said), max(said)


def correction_names(*, second_series: bool = True) -> tuple[str, ...]:
    """Every correction there is a model of, or without those of the second series, which few drawers hold beside the
    first."""
    kinds = [(before, kind) for before in ("", _EVEN)[: 1 + second_series] for kind in _SERIES]
    kinds += [("", "plus green"), ("", "minus green")]
    return tuple(f"{before}{fraction} {kind}" for before, kind in kinds for fraction in FRACTIONS)


_SAID_FRACTIONS = {
    "1": "full", "1/1": "full", "3/4": "three quarters", "¾": "three quarters", "three quarter": "three quarters",
    "1/2": "half", "½": "half", "1/4": "quarter", "¼": "quarter", "1/8": "eighth", "⅛": "eighth",
}  # fmt: skip
_SAID_KINDS = {
    "orange": "CTO",
    "cto": "CTO",
    "blue": "CTB",
    "ctb": "CTB",
    "green": "plus green",
    "magenta": "minus green",
}


def correction_named(text: str) -> str | None:
    """The correction that a gel's name says in words, as people write it: `½ CTB`, `Half blue`, `1/8 minus-green`; None
    for a gel that is no correction."""
    words = " ".join(text.casefold().replace("-", " ").replace("plusgreen", "plus green").split())
    before = _EVEN if words.startswith(_EVEN) else ""
    words = words.removeprefix(_EVEN).removesuffix(" gel")
    for said, fraction in {**_SAID_FRACTIONS, **{one: one for one in FRACTIONS}}.items():
        if words.startswith(f"{said} "):
            rest = words[len(said) + 1 :]
            name = f"{before}{fraction} {_SAID_KINDS.get(rest, rest)}"
            return name if name in correction_names() else None
    return None


def tinted(cct_k: float, duv: float) -> FloatArray:
    """A light that has a white and nothing else to tell it by, shape (401,): the reference spectrum of its temperature
    (Planckian below 4000 K, else CIE daylight) behind a smooth filter that gives it its CCT and Duv."""
    return brought(planckian(cct_k) if cct_k < 4000.0 else daylight(min(cct_k, 25_000.0)), cct_k, duv)


def as_measured(light: FloatArray, mired: float, duv: float, loss_stops: float) -> FloatArray:
    """The smooth filter, shape (401,), that does to a light what was measured of a gel: its shift in mired and Duv, and
    its loss in stops (positive)."""
    return _solve(light, mired, duv, loss_stops)


def brought(light: FloatArray, cct_k: float, duv: float) -> FloatArray:
    """A light, shape (401,), behind the smooth filter that brings it to a white near its own; peaks and gaps stay.

    One that no smooth filter brings there, because it lacks too much of it, is as nearly there as one can be.
    """
    found, at = (float(v) for v in cct_and_duv(*uv_1960(*xy(tristimulus(light)))))
    return light * _solve(light, 1e6 / cct_k - 1e6 / found, duv - at, 0.0)


# --- Tint in CC and in fractions of the green series, at a stated white


def _ideal_dye(cc: float) -> FloatArray:
    """An ideal block dye: magenta absorbs 500-600 nm, green what lies on either side, by a density of CC/100."""
    middle = (WAVELENGTH_NM >= 500.0) & (WAVELENGTH_NM < 600.0)
    density = abs(cc) / 100.0
    return 10.0 ** -np.where(middle if cc < 0 else ~middle, density, 0.0)


GEL_WHITES_K = (1500.0, 20_000.0)
"""Where a fraction of the green series means something; farther out the dyes' steps are reckoned at the nearer end."""

TOO_MUCH_CC = 1.5 * _TINT_CC[0]
"""Beyond half as much again as a full one no gel of the series corrects a tint."""

NO_SUCH_GEL = "no such gel"


@cache
def _duv_per_cc(white_k: float) -> tuple[FloatArray, FloatArray]:
    """CC from -60 to 60 and the Duv shift of the ideal dye on the white (Planckian below 4000 K, else CIE daylight)."""
    light = planckian(white_k) if white_k < 4000.0 else daylight(white_k)
    steps = np.linspace(-60.0, 60.0, 61)
    shifts = shift(light, np.stack([_ideal_dye(cc) for cc in steps])).duv
    known = np.isfinite(shifts)  # far from white a dye leaves no temperature to tell a tint from
    return steps[known], shifts[known]


def _at_white(white_k: float) -> tuple[FloatArray, FloatArray]:
    low, high = GEL_WHITES_K
    return _duv_per_cc(round(min(max(float(white_k), low), high), -1))


def duv_of_cc(cc: ArrayLike, white_k: float) -> FloatArray:
    """Duv shift of CC of green (positive) or magenta at a white: ideal dyes on its reference spectrum, no constant.

    Finite for any white; outside 1500-20 000 K as at the nearer of the two.
    """
    steps, shifts = _at_white(white_k)
    return np.interp(np.asarray(cc, np.float64), steps, shifts)


def cc_of_duv(duv: ArrayLike, white_k: float) -> FloatArray:
    """CC of green (positive) or magenta (negative) that a tint amounts to at a white; within 60 CC."""
    steps, shifts = _at_white(white_k)
    return np.interp(np.asarray(duv, np.float64), shifts, steps)


def duv_of_gel(name: str, white_k: float) -> float:
    """Duv shift of a gel of the plus- or minus-green series at a white. Raises `KeyError`."""
    _, kind, index = _parts_of(name)
    sign = {"plus green": 1.0, "minus green": -1.0}[kind]
    return float(duv_of_cc(sign * _TINT_CC[index], white_k))


def gel_fraction_of_duv(duv: float, white_k: float) -> str:
    """The nearest fraction of the plus- or minus-green series that would *correct* a tint at a white, in words.

    `duv` is the tint off the reference of that white (`white.reference_duv`). A green cast (positive) is corrected with
    minus green. `none` below half of an eighth; `no such gel` for a tint that none of the series corrects, and for one
    that is no number.
    """
    if not np.isfinite(duv) or not np.isfinite(white_k):
        return NO_SUCH_GEL
    cc = abs(float(cc_of_duv(duv, white_k)))
    if cc < 0.5 * _TINT_CC[-1]:
        return "none"
    if cc > TOO_MUCH_CC:
        return NO_SUCH_GEL
    fraction = FRACTIONS[int(np.argmin(np.abs(np.array(_TINT_CC) - cc)))]
    return f"{fraction} {'minus' if duv > 0 else 'plus'} green"
