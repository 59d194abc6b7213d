"""What the dimmer does: the law it follows, the true minimum, drift of white and tint, settings that change by themselves."""

from collections.abc import Sequence

import numpy as np

from even_beam.bench import notation, words
from even_beam.bench.findings.finding import Evidence, Finding, at, grouped, ids, level_mean, value_of, without
from even_beam.bench.measured import Measured
from even_beam.light.spectra import FloatArray

LAWS = {"linear": 1.0, "square": 2.0}
"""Exponents of the laws that have a name."""

LAW_STOPS = 0.15
"""A dimmer follows a law when its levels agree with it within this on the mean (common practice, no source)."""


def _curves(evidence: Evidence) -> list[list[Measured]]:
    usable = [m for m in evidence.lit if m.terms.level_pct]
    groups = grouped(usable, without("level_pct")).values()
    return [g for g in groups if len({m.terms.level_pct for m in g}) > 2]


def law(evidence: Evidence) -> tuple[Finding, ...]:
    """Actual output against the dial, the law it follows, the true minimum and the largest departure from proportion."""
    found: list[Finding] = []
    for group in _curves(evidence):
        dial, output, random = curve_of(evidence, group)
        stops_set, stops_got = np.log2(dial / 100.0), np.log2(output)
        name, exponent, scatter = law_of(stops_set, stops_got)
        terms = at(group[0].terms, "level")
        off = stops_got - stops_set
        worst = int(np.argmax(np.abs(off)))
        series = {
            "dial_pct": tuple(map(float, dial)),
            "output_pct": tuple(map(float, 100.0 * output)),
            "stops": tuple(map(float, stops_got)),
        }
        of_law = f"It follows a {name} law" if name in LAWS else f"It {_LAW_WORDS[name]}"
        sentence = f"{of_law} (exponent {exponent:.2f}); farthest from proportion at {dial[worst]:g} %: {notation.percent(float(100.0 * output[worst]))} % of full, {notation.stops(float(off[worst]))} stops off."
        found.append(
            Finding(
                "dimming",
                "exponent of the dimmer",
                exponent,
                "",
                sentence,
                terms,
                ids(group),
                scatter,
                _exponent_uncertainty(stops_set, random),
                None,
                (),
                series,
            )
        )
        low = int(np.argmin(dial))
        minimum = float(stops_got[low])
        words_ = f"At {dial[low]:g} %, the lowest read, {notation.percent(float(100.0 * output[low]))} % of full: {notation.stops(minimum)} stops."
        uncertainty = float(np.log2(1.0 + random))
        found.append(
            Finding(
                "dimming",
                "true minimum",
                minimum,
                "stops",
                words_,
                terms,
                ids(group),
                None,
                uncertainty,
                uncertainty,
                (f"below {dial[low]:g} %",),
            )
        )
    return tuple(found)


def curve_of(evidence: Evidence, group: Sequence[Measured]) -> tuple[FloatArray, FloatArray, float]:
    """Dial settings in %, rising, with output as a share of the highest, and the relative 95 % uncertainty of a share."""
    by_level = sorted(grouped(group, lambda m: m.terms.level_pct).items(), key=lambda pair: float(str(pair[0])))
    means = [level_mean(evidence, repeats) for _, repeats in by_level]
    dial = np.array([float(str(level)) for level, _ in by_level])
    level = np.array([mean.value for mean in means])
    full = level[-1] / (dial[-1] / 100.0) if dial[-1] < 100.0 else level[-1]
    return dial, level / full, float(np.median([mean.ratio for mean in means]))


def law_of(stops_set: FloatArray, stops_got: FloatArray) -> tuple[str, float, float]:
    """The law's name, its exponent by least squares through full, and the mean departure from it in stops.

    Both in stops below full, shapes (n,). Tried in this order: a power of the dial (linear, square, power); in
    proportion from a floor; S, when the slope rises and falls again by half; else other.
    """
    inside = stops_set < 0.0
    exponent = float((stops_set[inside] @ stops_got[inside]) / (stops_set[inside] @ stops_set[inside]))
    scatter = float(np.mean(np.abs(stops_got[inside] - exponent * stops_set[inside])))
    if scatter <= LAW_STOPS:
        name = min(LAWS, key=lambda law: abs(LAWS[law] - exponent))
        return (name if abs(LAWS[name] - exponent) <= 0.15 else "power"), exponent, scatter
    dial, output = 2.0**stops_set, 2.0**stops_got
    slope, floor = np.polyfit(dial, output, 1, w=1.0 / output)
    fitted = floor + slope * dial
    if floor > 0.0 and np.all(fitted > 0.0) and float(np.mean(np.abs(np.log2(output / fitted)))) <= LAW_STOPS:
        return "floor", exponent, scatter
    rise = np.diff(output) / np.diff(dial)
    steepest = int(np.argmax(rise))
    return ("S" if rise[steepest] > 1.5 * max(rise[0], rise[-1]) else "other"), exponent, scatter


_LAW_WORDS = {
    "floor": "is in proportion from a floor on",
    "S": "follows an S",
    "other": "follows no simple law",
    "power": "follows a power of the dial",
}


def _exponent_uncertainty(stops_set: FloatArray, relative: float) -> float:
    """95 % half width of the exponent when each share is uncertain by `relative`; full is common to all shares."""
    x = stops_set[stops_set < 0.0]
    one = float(np.log2(1.0 + relative)) / np.sqrt(2.0)
    own = one / np.sqrt(float(x @ x))
    common = one * abs(float(x.sum())) / float(x @ x)
    return float(np.hypot(own, common))


def drift(evidence: Evidence) -> tuple[Finding, ...]:
    """How white and tint move from the highest level to the lowest that can be trusted."""
    found = []
    for group in _curves(evidence):
        trusted = [m for m in group if m.value("cct") and value_of(m, "illuminance") >= evidence.meter_of(m).dim_lx]
        levels = sorted({m.terms.level_pct for m in trusted if m.terms.level_pct is not None})
        if len(levels) < 2:
            continue
        mired = [_mean_mired(trusted, level) for level in levels]
        shift = mired[0] - mired[-1]
        tints = [_mean_duv(trusted, level) for level in levels]
        turned = tints[0] - tints[-1] if tints[0] is not None and tints[-1] is not None else None
        meter = evidence.meter_of(trusted[0])
        tolerance = 0.5 * words.white_tolerance_mired(1e6 / mired[-1], meter)
        tint_words = f", Duv {notation.duv(turned)}" if turned is not None else ""
        sentence = f"From {levels[-1]:g} % to {levels[0]:g} % the white moves {notation.number(shift, 1, signed=True)} mired{tint_words}."
        series = {"dial_pct": tuple(levels), "mired": tuple(mired), "duv": tuple(tints)}
        found.append(
            Finding(
                "dimming",
                "white drift with level",
                shift,
                "mired",
                sentence,
                at(group[0].terms, "level"),
                ids(trusted),
                None,
                tolerance,
                None,
                _too_dim(evidence, group),
                series,
            )
        )
    return tuple(found)


def _mean_mired(readings: Sequence[Measured], level: float) -> float:
    return float(np.mean([1e6 / value_of(m, "cct") for m in readings if m.terms.level_pct == level]))


def _mean_duv(readings: Sequence[Measured], level: float) -> float | None:
    found = [tint for m in readings if m.terms.level_pct == level and (tint := m.value("duv")) is not None]
    return float(np.mean(found)) if found else None


def _too_dim(evidence: Evidence, group: Sequence[Measured]) -> tuple[str, ...]:
    dim = [
        m.terms.level_pct
        for m in group
        if value_of(m, "illuminance") < evidence.meter_of(m).dim_lx and m.terms.level_pct
    ]
    return (f"at and below {max(dim):g} %: too dim for this meter's colour figures",) if dim else ()


def noise_floor(evidence: Evidence) -> tuple[Finding, ...]:
    """The level below which colour figures are noise for the meter used."""
    found = []
    for group in _curves(evidence):
        dim = [m for m in group if value_of(m, "illuminance") < evidence.meter_of(m).dim_lx]
        if dim:
            level = max(m.terms.level_pct or 0.0 for m in dim)
            sentence = f"At {level:g} % and below the meter sees less than {notation.lux(evidence.meter_of(dim[0]).dim_lx)} lx: its colour figures there are mostly noise."
            found.append(
                Finding(
                    "dimming",
                    "colour figures are noise from",
                    level,
                    "%",
                    sentence,
                    at(group[0].terms, "level"),
                    ids(dim),
                )
            )
    return tuple(found)


def changed_by_themselves(evidence: Evidence) -> tuple[Finding, ...]:
    """Settings that the lamp displayed otherwise than it was asked for."""
    found = []
    for measured in evidence.readings:
        for event in measured.state.displayed:
            asked = measured.state.as_taken
            sentence = f"Asked for {event.field.replace('_', ' ')} {event.old or 'nothing'} it showed {event.new or 'nothing'} at {at(asked)}."
            found.append(
                Finding(
                    "dimming", "a setting that changed by itself", None, "", sentence, at(asked), (measured.reading.id,)
                )
            )
    return tuple(found)
