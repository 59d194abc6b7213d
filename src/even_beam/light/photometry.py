"""Light levels: units, stops, the distance law and exposure."""

from typing import NamedTuple

import numpy as np
from numpy.typing import ArrayLike, NDArray

from even_beam.light.spectra import FloatArray

LUX_PER_FOOTCANDLE = 1.0 / 0.3048**2
"""10.7639: one lumen on a square foot."""

METRES_PER_FOOT = 0.3048

FLAT_CONSTANT = 250.0
DOME_CONSTANT = 340.0
"""Calibration constants C for a flat and a dome receptor, lx s (ISO 2720 gives ranges; the meter's own value rules)."""


def stops(ratio: ArrayLike) -> FloatArray:
    """log2 of a ratio of levels; NaN for ratios that are not positive."""
    value = np.asarray(ratio, dtype=np.float64)
    return np.log2(np.where(value > 0.0, value, np.nan))


def ratio_of_stops(stop: ArrayLike) -> FloatArray:
    """The ratio that `stop` stops stand for: 2**stop."""
    return np.exp2(np.asarray(stop, dtype=np.float64))


def at_distance(illuminance: ArrayLike, distance: ArrayLike, target: ArrayLike) -> FloatArray:
    """Illuminance at `target` from one at `distance` (same unit) by the inverse-square law, far from the lamp."""
    ratio = np.asarray(distance, dtype=np.float64) / np.asarray(target, dtype=np.float64)
    return np.asarray(illuminance, dtype=np.float64) * ratio**2


def luminous_intensity(illuminance: ArrayLike, distance_m: ArrayLike) -> FloatArray:
    """Candela from lx at a distance in metres: E d^2. Holds only where the inverse-square law does."""
    return np.asarray(illuminance, dtype=np.float64) * np.asarray(distance_m, dtype=np.float64) ** 2


def exact_f_number(nominal: ArrayLike, tenths: ArrayLike = 0.0) -> FloatArray:
    """The f-number of a full stop written as `nominal` and `tenths` of a stop: f/16 and 8 tenths is f/21.1.

    Full stops are powers of the square root of two: f/22 is 22.63, f/5.6 is 5.657.
    """
    steps = np.round(2.0 * np.log2(np.asarray(nominal, dtype=np.float64)))
    return np.exp2((steps + np.asarray(tenths, dtype=np.float64) / 10.0) / 2.0)


def illuminance_from_exposure(
    f_number: ArrayLike, iso: ArrayLike, shutter_s: ArrayLike, constant: ArrayLike = FLAT_CONSTANT
) -> FloatArray:
    """Illuminance in lx that an incident meter shows as `f_number` at `iso` and `shutter_s`: N^2 C / (S t).

    Source: ISO 2720:1974, exposure equation for incident light.
    """
    n, s, t = (np.asarray(value, dtype=np.float64) for value in (f_number, iso, shutter_s))
    return n**2 * np.asarray(constant, dtype=np.float64) / (s * t)


def ev_from_illuminance(illuminance: ArrayLike, constant: ArrayLike = FLAT_CONSTANT) -> FloatArray:
    """Exposure value at ISO 100 of an incident light level in lx: log2(100 E / C), so E = C 2^EV / 100.

    Source: ISO 2720:1974. C is the meter's own: 250 flat and 340 dome lie 0.44 stop apart.
    """
    return stops(100.0 * np.asarray(illuminance, dtype=np.float64) / np.asarray(constant, dtype=np.float64))


def f_number_from_illuminance(
    illuminance: ArrayLike, iso: ArrayLike, shutter_s: ArrayLike, constant: ArrayLike = FLAT_CONSTANT
) -> FloatArray:
    """The f-number an incident meter shows for a level in lx: sqrt(E S t / C)."""
    e, s, t = (np.asarray(value, dtype=np.float64) for value in (illuminance, iso, shutter_s))
    return np.sqrt(e * s * t / np.asarray(constant, dtype=np.float64))


def nominal_and_tenths(f_number: ArrayLike) -> tuple[FloatArray, FloatArray]:
    """The full stop below an f-number, exact (16, 22.63 ...), and the tenths beyond it, 0-9 (rounded to a tenth)."""
    tenths = np.round(20.0 * np.log2(np.asarray(f_number, dtype=np.float64)))
    full = np.floor(tenths / 10.0)
    return np.exp2(full / 2.0), tenths - 10.0 * full


def shutter_seconds(angle_deg: ArrayLike, frame_rate: ArrayLike) -> FloatArray:
    """Exposure time of a shutter angle at a frame rate: angle / (360 fps)."""
    return np.asarray(angle_deg, dtype=np.float64) / (360.0 * np.asarray(frame_rate, dtype=np.float64))


def shutter_angle(shutter_s: ArrayLike, frame_rate: ArrayLike) -> FloatArray:
    """Shutter angle in degrees of an exposure time at a frame rate: 360 fps t."""
    return 360.0 * np.asarray(frame_rate, dtype=np.float64) * np.asarray(shutter_s, dtype=np.float64)


def cycles_per_exposure(frequency_hz: ArrayLike, shutter_s: ArrayLike) -> FloatArray:
    """Cycles of a light's modulation within one exposure: f t. No verdict by itself: depth and lowest level belong to
    it."""
    return np.asarray(frequency_hz, dtype=np.float64) * np.asarray(shutter_s, dtype=np.float64)


def exposure_transfer(iso: ArrayLike, shutter_s: ArrayLike, new_iso: ArrayLike, new_shutter_s: ArrayLike) -> FloatArray:
    """Stops by which a picture grows brighter when ISO and shutter change at the same f-number and light."""
    gain = np.asarray(new_iso, np.float64) / np.asarray(iso, np.float64)
    return stops(gain * np.asarray(new_shutter_s, np.float64) / np.asarray(shutter_s, np.float64))


def cone_solid_angle(full_angle_deg: ArrayLike) -> FloatArray:
    """Solid angle of a cone in sr: 2 pi (1 - cos(angle / 2))."""
    return 2.0 * np.pi * (1.0 - np.cos(np.deg2rad(np.asarray(full_angle_deg, dtype=np.float64) / 2.0)))


def page_luminance(illuminance: ArrayLike, reflectance: ArrayLike = 1.0) -> FloatArray:
    """Luminance in cd/m2 of a matt page under a level in lx: rho E / pi."""
    return np.asarray(reflectance, dtype=np.float64) * np.asarray(illuminance, dtype=np.float64) / np.pi


class DistanceLaw(NamedTuple):
    """A fitted walk: E = candela / (d - offset)^2.

    `offset_m` is where the light seems to come from, positive in front of the reference plane and negative behind it,
    zero unless `resolved`: unless it lies farther off than the marks and the plane can explain. `residual_stops`, shape
    (n,), measured less fitted; `near_field`, shape (n,), marks that fall short of the law of the farther ones;
    `covariance`, (2, 2), of 1/sqrt(candela) and of the offset in proportion to it.
    """

    candela: float
    offset_m: float
    offset_error_m: float
    residual_stops: FloatArray
    near_field: NDArray[np.bool_]
    resolved: bool
    covariance: FloatArray

    def illuminance(self, distance_m: ArrayLike) -> FloatArray:
        """Illuminance in lx at a distance in metres, inside the walk."""
        return self.candela / (np.asarray(distance_m, np.float64) - self.offset_m) ** 2

    def relative_error(self, distance_m: ArrayLike) -> FloatArray:
        """Relative standard deviation of `illuminance` from what the marks leave open, shapes as the distance."""
        d = np.asarray(distance_m, np.float64)
        design = np.stack([d, np.ones_like(d) if self.resolved else np.zeros_like(d)], axis=-1)
        variance = np.einsum("...i,ij,...j->...", design, self.covariance, design)
        return 2.0 * np.sqrt(variance) / ((d - self.offset_m) / np.sqrt(self.candela))


NEAR_FIELD_STOPS = 0.1
_SURE = 2.2
"""So many standard deviations, of marks and plane together, tell a virtual source from none."""


def fit_distance_law(
    distance_m: ArrayLike, illuminance: ArrayLike, relative_error: ArrayLike = 0.02, plane_error_m: float = 0.0
) -> DistanceLaw:
    """Fit a walk of three marks or more, shapes (n,), with a virtual source.

    sqrt(1/E) is linear in the distance; it is fitted by weighted least squares through the farther marks, from the
    farthest inwards while they agree, so that a near field does not bend the law. `relative_error` is the standard
    deviation of a level, of the meter and of its mark together, one for all or one a mark; `plane_error_m` that of the
    reference plane, which is the same for all. They decide whether the offset means anything. Raises `ValueError` for
    fewer than three different distances. Never extrapolate inward of the walk.
    """
    d, e = np.asarray(distance_m, np.float64), np.asarray(illuminance, np.float64)
    error = np.broadcast_to(np.asarray(relative_error, np.float64), d.shape)
    if np.unique(d).size < 3:
        raise ValueError("a distance law needs three different distances")
    order = np.argsort(d)[::-1]
    d, e, error = d[order], e[order], error[order]
    used = 3
    law = _fitted(d[:used], e[:used], error[:used], plane_error_m)
    while used < d.size:
        off = abs(float(np.log2(e[used] / law.illuminance(d[used]))))
        reach = 2.0 * float(np.hypot(error[used], law.relative_error(d[used]))) / float(np.log(2.0))
        if off > max(NEAR_FIELD_STOPS, reach):
            break
        used += 1
        law = _fitted(d[:used], e[:used], error[:used], plane_error_m)
    residual = np.log2(e / law.illuminance(d))
    back = np.argsort(order)
    near = (np.arange(d.size) >= used) & (residual < -NEAR_FIELD_STOPS)
    return law._replace(residual_stops=residual[back], near_field=near[back])


def like_a_disc(
    distance_m: ArrayLike, illuminance: ArrayLike, relative_error: ArrayLike, largest_radius_m: float
) -> bool:
    """Whether a walk, shapes (n,), may be of an evenly bright disc whose light comes from its front.

    Of any radius up to the largest: E goes as 1 / (d² + r²) on its axis (closed form), which near by looks like light
    from behind it.

    False where chance explains the departure of the best such disc in less than 5 % of cases.
    """
    from scipy.special import chdtri  # not at start-up

    d, e = np.asarray(distance_m, np.float64), np.asarray(illuminance, np.float64)
    error = np.broadcast_to(np.asarray(relative_error, np.float64), d.shape)
    radius = np.linspace(0.0, largest_radius_m, 61)[:, None]
    shape = np.log(e) + np.log(d**2 + radius**2)  # constant along the walk for the right radius
    weight = 1.0 / error**2
    mean = (shape * weight).sum(axis=-1, keepdims=True) / weight.sum()
    least = float((((shape - mean) / error) ** 2).sum(axis=-1).min())
    return least <= float(chdtri(max(1, d.size - 2), 0.05))


def _fitted(d: FloatArray, e: FloatArray, error: FloatArray, plane_error_m: float) -> DistanceLaw:
    """1/sqrt(E) = (d - offset)/sqrt(candela), with the offset where it is resolved and without it elsewhere."""
    y = 1.0 / np.sqrt(e)
    sigma = 0.5 * error * y
    design = np.stack([d, np.ones_like(d)], axis=-1) / sigma[:, None]
    covariance = np.asarray(np.linalg.inv(design.T @ design), np.float64)
    slope, intercept = covariance @ design.T @ (y / sigma)
    offset = -intercept / slope
    gradient = np.array([intercept / slope**2, -1.0 / slope])
    deviation = float(np.hypot(np.sqrt(gradient @ covariance @ gradient), plane_error_m))
    nothing = np.zeros(d.size)
    if slope > 0.0 and offset < d.min() and abs(offset) > _SURE * deviation:
        return DistanceLaw(
            candela=1.0 / slope**2,
            offset_m=float(offset),
            offset_error_m=deviation,
            residual_stops=nothing,
            near_field=nothing > 1.0,
            resolved=True,
            covariance=covariance,
        )
    weight = d / sigma
    variance = 1.0 / float(weight @ weight)
    slope = variance * float(weight @ (y / sigma))
    alone = np.array([[variance, 0.0], [0.0, 0.0]])
    return DistanceLaw(
        candela=1.0 / slope**2,
        offset_m=0.0,
        offset_error_m=deviation,
        residual_stops=nothing,
        near_field=nothing > 1.0,
        resolved=False,
        covariance=alone,
    )
