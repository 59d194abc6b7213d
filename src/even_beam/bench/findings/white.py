"""How white: the error over the range by bands, what to dial, which curve it follows, where output peaks."""

import itertools
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from even_beam.bench import notation, words
from even_beam.bench.findings.finding import (
    Evidence,
    Finding,
    at,
    full_level,
    grouped,
    ids,
    level_mean,
    value_of,
    without,
)
from even_beam.bench.measured import Measured
from even_beam.light import FloatArray
from even_beam.light.colorimetry import uv_at
from even_beam.light.white import share_between_curves

BAND_EDGES_K = (3200.0, 4500.0, 6000.0)
"""Bands of dialled whites; each holds its lower end. Editable by whoever calls."""

USUAL_WHITES_K = (3200.0, 4300.0, 5600.0)
LEAST_SLOPE = 0.2
GAP_MIRED = 40.0
"""Neighbouring whites farther apart than this leave a gap."""


@dataclass(frozen=True, slots=True)
class WhitePoint:
    """One dialled white: the mean that was measured, its error, and the readings."""

    dialled_k: float
    measured_k: float
    mired: float
    duv: float | None
    readings: tuple[str, ...]

    @property
    def kelvin(self) -> float:
        """The error in kelvin."""
        return self.measured_k - self.dialled_k


def white_points(readings: Sequence[Measured]) -> tuple[WhitePoint, ...]:
    """Each dialled white once, the lowest first; means are taken in mired, in which the eye and the errors are even."""
    dialled = [m for m in readings if m.terms.cct_k is not None and m.value("cct")]
    found = []
    for white, repeats in sorted(
        grouped(dialled, lambda m: m.terms.cct_k).items(), key=lambda pair: float(str(pair[0]))
    ):
        asked = float(str(white))
        measured = float(np.mean([1e6 / value_of(m, "cct") for m in repeats]))
        tints = [tint for m in repeats if (tint := m.value("duv")) is not None]
        found.append(
            WhitePoint(
                asked, 1e6 / measured, measured - 1e6 / asked, float(np.mean(tints)) if tints else None, ids(repeats)
            )
        )
    return tuple(found)


def sweeps(evidence: Evidence) -> list[list[Measured]]:
    """Groups of readings that differ in their white alone, at the full level."""
    return [
        group for group in grouped(full_level(evidence.readings), without("cct_k", "distance_m", "angle_deg")).values()
        if len({m.terms.cct_k for m in group if m.terms.cct_k is not None and m.value("cct")}) > 1
    ]  # fmt: skip


def white_errors(evidence: Evidence, edges_k: Sequence[float] = BAND_EDGES_K) -> tuple[Finding, ...]:
    """Signed mean and mean absolute error of all whites and of each band, with worst case and changes of sign.

    `edges_k` lie between the bands; a white at an edge belongs to the band above it.
    """
    bands = list(itertools.pairwise((0.0, *edges_k, np.inf)))
    found: list[Finding] = []
    for sweep in sweeps(evidence):
        points, meter = white_points(sweep), evidence.meter_of(sweep[0])
        terms = at(sweep[0].terms, "white")
        found.append(_errors("white error", points, terms, meter, _gaps(points)))
        for low, high in bands:
            inside = [p for p in points if low <= p.dialled_k < high]
            if len(inside) > 1:
                name = f"white error {notation.dialled(max(low, inside[0].dialled_k))} to {notation.dialled(inside[-1].dialled_k)} K"
                found.append(_errors(name, inside, terms, meter, ()))
    if not found:
        found += [_one_white(evidence, point) for point in white_points(full_level(evidence.readings))]
    return tuple(found)


def _errors(name: str, points: Sequence[WhitePoint], terms: str, meter: object, gaps: tuple[str, ...]) -> Finding:
    error = np.array([p.mired for p in points])
    worst = points[int(np.argmax(np.abs(error)))]
    mean, absolute = float(error.mean()), float(np.abs(error).mean())
    tolerance = float(np.mean([words.white_tolerance_mired(p.measured_k, meter) for p in points]))  # type: ignore[arg-type]
    turns = sign_changes(error, tolerance)
    turning = f"; it changes sign {turns} time{'s' * (turns > 1)}, which a mean hides" if turns else ""
    sentence = (
        f"{notation.number(mean, 1, signed=True)} mired on the mean of {len(points)} whites, {absolute:.1f} mired either way; worst "
        f"{notation.number(worst.mired, 1, signed=True)} mired ({notation.number(worst.kelvin, 0, signed=True)} K) at {notation.dialled(worst.dialled_k)} K{turning}."
    )
    series = {
        "dialled_k": tuple(p.dialled_k for p in points),
        "measured_k": tuple(p.measured_k for p in points),
        "mired": tuple(p.mired for p in points),
        "kelvin": tuple(p.kelvin for p in points),
        "duv": tuple(p.duv for p in points),
    }
    readings = tuple(itertools.chain.from_iterable(p.readings for p in points))
    return Finding(
        "white", name, mean, "mired", sentence, terms, readings, float(np.ptp(error)), tolerance, None, gaps, series
    )


def _one_white(evidence: Evidence, point: WhitePoint) -> Finding:
    measured = next(m for m in evidence.readings if m.reading.id == point.readings[0])
    tolerance = words.white_tolerance_mired(point.measured_k, evidence.meter_of(measured))
    sentence = f"{notation.number(point.mired, 1, signed=True)} mired ({notation.number(point.kelvin, 0, signed=True)} K) at {notation.dialled(point.dialled_k)} K."
    return Finding("white", "white error", point.mired, "mired", sentence, at(measured.terms), point.readings, None, tolerance, None, ("any other white",))  # fmt: skip


def sign_changes(errors: Sequence[float] | np.ndarray, least: float) -> int:
    """How often an error changes its sign along the range; errors smaller than `least` have none."""
    signs = [np.sign(e) for e in errors if abs(e) > least]
    return sum(bool(a != b) for a, b in itertools.pairwise(signs))


def _gaps(points: Sequence[WhitePoint]) -> tuple[str, ...]:
    """Where the range was not measured."""
    return tuple(
        f"between {notation.dialled(a.dialled_k)} and {notation.dialled(b.dialled_k)} K"
        for a, b in itertools.pairwise(points)
        if 1e6 / a.dialled_k - 1e6 / b.dialled_k > GAP_MIRED
    )


def beyond(points: Sequence[WhitePoint], kelvin: float) -> int:
    """How many whites lie farther from what was dialled than a limit in kelvin."""
    return sum(abs(p.kelvin) > kelvin for p in points)


def curve(evidence: Evidence) -> tuple[Finding, ...]:
    """Which curve the whites follow: 0 is the Planckian, 1 the daylight curve, half-way between is what some aim for."""
    found = []
    for sweep in sweeps(evidence):
        points = [p for p in white_points(sweep) if p.duv is not None and p.measured_k >= 4000.0]
        if len(points) < 2:
            continue
        u, v = uv_at(np.array([p.measured_k for p in points]), np.array([p.duv for p in points]))
        share = share_between_curves(u, v)
        middle = float(np.nanmedian(share))
        sentence = f"From 4000 K on it {_followed(middle)}: {notation.number(100.0 * middle)} % of the way from Planckian to daylight."
        readings = tuple(itertools.chain.from_iterable(p.readings for p in points))
        series = {"measured_k": tuple(p.measured_k for p in points), "share": tuple(map(float, share))}
        found.append(Finding("white", "share of the way to daylight", middle, "", sentence, at(sweep[0].terms, "white"), readings, float(np.nanmax(share) - np.nanmin(share)), None, None, ("below 4000 K, where there is no daylight",), series))  # fmt: skip
    return tuple(found)


def _followed(share: float) -> str:
    if share < -0.25:
        return "lies on the magenta side of both curves"
    if share > 1.25:
        return "lies on the green side of both curves"
    return f"follows {'the Planckian' if share < 0.25 else 'the daylight curve' if share > 0.75 else 'a line between the curves'}"


def dial_slope(evidence: Evidence) -> tuple[Finding, ...]:
    """How far the white moves for a move of the dial, in mired per mired, and what to dial for the usual whites."""
    found = []
    for sweep in sweeps(evidence):
        points = white_points(sweep)
        dialled = np.array([1e6 / p.dialled_k for p in points])
        measured = np.array([1e6 / p.measured_k for p in points])
        slope, zero = (float(v) for v in np.polyfit(dialled, measured, 1))
        sentence = f"The dial moves the white by {slope:.2f} mired a mired{_what_to_dial(slope, zero, measured)}."
        off = np.abs(measured - np.polyval((slope, zero), dialled))
        readings = tuple(itertools.chain.from_iterable(p.readings for p in points))
        open_ = (f"whites between the marks: they stray up to {float(off.max()):.1f} mired from this line",)
        found.append(Finding("white", "dial slope", slope, "", sentence, at(sweep[0].terms, "white"), readings, None, None, None, open_))  # fmt: skip
    return tuple(found)


def _what_to_dial(slope: float, zero: float, measured: FloatArray) -> str:
    """What gives the usual whites that lie in what was measured; nothing for a lamp that hardly follows its dial."""
    wanted = [k for k in USUAL_WHITES_K if measured.min() <= 1e6 / k <= measured.max()]
    if slope < LEAST_SLOPE or not wanted:
        return ""
    advice = [
        f"{notation.dialled(round(1e6 * slope / (1e6 / k - zero), -1))} for {notation.dialled(k)} K" for k in wanted
    ]
    return f"; dial {', '.join(advice)}"


def peak_output(evidence: Evidence) -> tuple[Finding, ...]:
    """The white at which the lamp gives most, and how much less it gives at the others."""
    found = []
    for group in grouped([m for m in full_level(evidence.lit) if m.terms.cct_k is not None], without("cct_k")).values():
        by_white = grouped(group, lambda m: m.terms.cct_k)
        if len(by_white) < 3:
            continue
        means = {float(str(w)): level_mean(evidence, repeats) for w, repeats in by_white.items()}
        best = max(means, key=lambda w: means[w].value)
        least = min(means, key=lambda w: means[w].value)
        down = float(np.log2(means[least].value / means[best].value))
        sentence = (
            f"Most light at {notation.dialled(best)} K; at {notation.dialled(least)} K {notation.stops(down)} stop."
        )
        series = {"dialled_k": tuple(means), "illuminance_lx": tuple(mean.value for mean in means.values())}
        found.append(
            Finding(
                "white",
                "white of most output",
                best,
                "K",
                sentence,
                at(group[0].terms, "white"),
                ids(group),
                None,
                None,
                None,
                (),
                series,
            )
        )
    return tuple(found)
