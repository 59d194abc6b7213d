"""How much light: levels at stated terms, the distance law, exposure, the focus range, the beam across its axis."""

import re
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from even_beam.bench import notation
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
from even_beam.light.photometry import (
    cone_solid_angle,
    f_number_from_illuminance,
    fit_distance_law,
    luminous_intensity,
    nominal_and_tenths,
    stops,
)
from even_beam.light.spectra import FloatArray

RATIOS_ONLY = "its meter is for ratios only: no level is stated"
HALF, TENTH = 0.5, 0.1
LEAST_ANGLES = 4

_NOMINAL = {5.7: "5.6", 11.3: "11", 22.6: "22", 45.3: "45", 90.5: "90"}
"""Full stops by the names they go by."""


def levels(evidence: Evidence) -> tuple[Finding, ...]:
    """Illuminance at full level for every white, configuration, zoom and distance."""
    found = []
    for repeats in grouped(full_level(evidence.lit), without("angle_deg")).values():
        if evidence.meter_of(repeats[0]).for_ratios_only:
            continue
        mean, terms = level_mean(evidence, repeats), repeats[0].terms
        open_: tuple[str, ...] = () if mean.repeats > 1 else ("read once: its repeatability is not known",)
        if terms.distance_m is None:
            open_ += ("the distance was not measured",)
        found.append(
            Finding(
                "output", "illuminance", mean.value, "lx",
                f"{notation.lux(mean.value)} lx ±{notation.percent(100.0 * mean.absolute)} % at {at(terms)}.", at(terms), ids(repeats),
                mean.spread, mean.absolute * mean.value, mean.ratio, open_,
            )
        )  # fmt: skip
    return tuple(found)


def distance_law(evidence: Evidence) -> tuple[Finding, ...]:
    """Candela and virtual source of every walk of three marks or more; of a single mark only the candela, unproven."""
    found: list[Finding] = []
    full = [m for m in full_level(evidence.lit) if m.terms.distance_m]
    for walk in grouped(full, without("distance_m")).values():
        marks = grouped(walk, lambda m: m.terms.distance_m)
        if evidence.meter_of(walk[0]).for_ratios_only:
            continue
        found += _fitted(evidence, walk, marks) if len(marks) >= 3 else [_single(evidence, list(marks.values())[-1])]
    return tuple(found)


def _fitted(evidence: Evidence, walk: Sequence[Measured], marks: dict[object, list[Measured]]) -> list[Finding]:
    means = [level_mean(evidence, repeats) for repeats in marks.values()]
    distance = np.array([repeats[0].terms.distance_m for repeats in marks.values()], dtype=np.float64)
    level = np.array([mean.value for mean in means])
    random = max(evidence.meter_of(walk[0]).ratio_tolerance / 1.96, 1e-3)
    law = fit_distance_law(distance, level, random)
    holds = ~law.near_field
    terms = at(walk[0].terms, "distance")
    nearest = float(distance[holds].min())
    worst = float(np.max(np.abs(law.residual_stops[holds])))
    absolute = float(np.hypot(np.median([m.absolute for m in means]), 1.96 * random / np.sqrt(holds.sum())))
    near = f" Nearer than {notation.distance(nearest)} it falls short of the law." if law.near_field.any() else ""
    source = (
        f" The light seems to come from {notation.number(100.0 * law.offset_m, 0, signed=True)} cm in front of the reference plane."
        if law.resolved else ""
    )  # fmt: skip
    series = {
        "distance_m": tuple(map(float, distance)),
        "illuminance_lx": tuple(map(float, level)),
        "residual_stops": tuple(map(float, law.residual_stops)),
    }
    sentence = f"{notation.number(float(f'{law.candela:.3g}'))} cd, the law holds within {worst:.2f} stop from {notation.distance(nearest)} to {notation.distance(float(distance.max()))}.{near}{source}"
    open_ = (
        f"nearer than {notation.distance(float(distance.min()))} and beyond {notation.distance(float(distance.max()))}",
    )
    candela = Finding(
        "output", "candela", law.candela, "cd", sentence, terms, ids(walk), None, absolute * law.candela,
        float(np.sqrt(2.0) * 1.96 * random / np.sqrt(holds.sum())), open_, series,
    )  # fmt: skip
    if not law.resolved:
        return [candela]
    return [candela, Finding("output", "virtual source", law.offset_m, "m", source.strip(), terms, ids(walk))]


def _single(evidence: Evidence, repeats: Sequence[Measured]) -> Finding:
    mean, terms = level_mean(evidence, repeats), repeats[0].terms
    candela = float(luminous_intensity(mean.value, terms.distance_m or 1.0))
    return Finding(
        "output", "candela", candela, "cd",
        f"{notation.number(float(f'{candela:.3g}'))} cd by the inverse square from {notation.distance(terms.distance_m)} alone.",
        at(terms, "distance"), ids(repeats), None, mean.absolute * candela, mean.ratio, ("whether the law holds: no walk was read",),
    )  # fmt: skip


def exposure(evidence: Evidence, iso: float, shutter_s: float) -> tuple[Finding, ...]:
    """The f-number that each level gives at a sensitivity and exposure time, by the constant C of its own meter."""
    found = []
    for level in levels(evidence):
        meter = next(evidence.meter_of(m) for m in evidence.readings if m.reading.id == level.readings[0])
        number = float(f_number_from_illuminance(level.value or 0.0, iso, shutter_s, meter.constant))
        full, tenths = (float(v) for v in nominal_and_tenths(number))
        words = f"f/{_NOMINAL.get(round(full, 1), notation.plain(full))} and {tenths:.0f} tenths at ISO {iso:g}, 1/{1.0 / shutter_s:.0f} s (C {meter.constant:g})"
        relative = (level.uncertainty or 0.0) / (level.value or 1.0)
        found.append(
            Finding("output", "exposure", number, "f/", f"{words} at {level.terms}.", level.terms, level.readings, None, number * relative / 2.0)
        )  # fmt: skip
    return tuple(found)


@dataclass(frozen=True, slots=True)
class _End:
    """One end of the focus range: its level, and the full angle of its beam where it is known."""

    zoom: str
    level: float
    readings: tuple[str, ...]
    angle_deg: float | None
    ratio: float


def focus_range(evidence: Evidence) -> tuple[Finding, ...]:
    """The ratio between the zooms, beside what the solid angles promise; the rest is light that is lost."""
    found = []
    beams = {f.terms: f for f in beam_sections(evidence) if f.name == "beam angle"}
    for readings in grouped([m for m in full_level(evidence.lit) if m.terms.zoom], without("zoom")).values():
        ends = []
        for zoom, repeats in grouped(readings, lambda m: m.terms.zoom).items():
            mean = level_mean(evidence, repeats)
            measured = beams.get(at(repeats[0].terms))
            angle = measured.value if measured is not None else angle_named(str(zoom))
            ends.append(_End(str(zoom), mean.value, ids(repeats), angle, mean.ratio))
        if len(ends) > 1:
            found += _gathered(sorted(ends, key=lambda e: e.level), at(readings[0].terms, "zoom"))
    return tuple(found)


def _gathered(ends: Sequence[_End], terms: str) -> list[Finding]:
    wide, tight = ends[0], ends[-1]
    ratio = float(stops(tight.level / wide.level))
    both = (*wide.readings, *tight.readings)
    words = f"From {wide.zoom} to {tight.zoom} {notation.stops(ratio)} stops ({notation.times(2.0**ratio)}×)"
    uncertainty = float(np.log2(1.0 + tight.ratio))
    if wide.angle_deg is None or tight.angle_deg is None:
        open_ = ("what the solid angles promise: the beam angles are not known",)
        return [
            Finding(
                "output",
                "focus range",
                ratio,
                "stops",
                f"{words} at {terms}.",
                terms,
                both,
                None,
                uncertainty,
                None,
                open_,
            )
        ]
    promised = float(stops(cone_solid_angle(wide.angle_deg) / cone_solid_angle(tight.angle_deg)))
    lost = promised - ratio
    sentence = f"{words}; {wide.angle_deg:.0f}° against {tight.angle_deg:.0f}° promise {promised:.2f}, so {abs(lost):.2f} stop of the light is {'lost' if lost > 0 else 'gained'} on the way."
    return [
        Finding("output", "focus range", ratio, "stops", sentence, terms, both, None, uncertainty),
        Finding("output", "light lost in focusing", lost, "stops", sentence, terms, both, None, uncertainty),
    ]


def angle_named(zoom: str) -> float | None:
    """The angle that a zoom is called by, such as `15°` or `50 deg`; None for `flood` and `spot`."""
    found = re.search(r"(\d+(?:\.\d+)?)\s*(?:°|deg)", zoom)
    return float(found[1]) if found is not None else None


# --- across the beam


def beam_sections(evidence: Evidence) -> tuple[Finding, ...]:
    """Half-peak and tenth-peak angles, evenness, colour at the edge and lumens of each section of four angles or more."""
    return tuple(finding for section in sections(evidence) for finding in _section(evidence, section))


def sections(evidence: Evidence) -> list[list[Measured]]:
    """Readings that differ in their angle alone, at four angles or more."""
    across = [m for m in evidence.readings if (m.value("illuminance") or 0.0) > 0.0]
    groups = grouped(across, without("angle_deg")).values()
    return [group for group in groups if len({m.terms.angle_deg for m in group}) >= LEAST_ANGLES]


def levels_across(section: Sequence[Measured]) -> tuple[FloatArray, FloatArray]:
    """The angles of a section in degrees, rising, and the mean level at each in lx, shapes (n,)."""
    by_angle = grouped(section, lambda m: m.terms.angle_deg)
    angle = np.array(sorted(float(str(a)) for a in by_angle))
    return angle, np.array([np.mean([value_of(m, "illuminance") for m in by_angle[a]]) for a in angle])


def _section(evidence: Evidence, section: Sequence[Measured]) -> list[Finding]:
    angle, level = levels_across(section)
    by_angle = {float(a): [m for m in section if m.terms.angle_deg == a] for a in angle}
    terms, peak = at(section[0].terms), float(level.max())
    share = level / peak
    series = {"angle_deg": tuple(map(float, angle)), "illuminance_lx": tuple(map(float, level))}
    found: list[Finding] = []
    for name, part in (("beam angle", HALF), ("field angle", TENTH)):
        full = full_angle(angle, share, part)
        if full is None:
            words = f"The {name} ({100.0 * part:.0f} % of the peak) lies beyond {max(abs(angle)):.0f}° off the axis."
            found.append(Finding("output", name, None, "°", words, terms, ids(section), not_covered=(words,)))
            continue
        step = float(np.median(np.diff(angle)))
        found.append(Finding("output", name, full, "°", f"{notation.sentence(name)} {full:.0f}° ({100.0 * part:.0f} % of the peak).", terms, ids(section), None, max(0.25 * step, 1.0), None, (), series))  # fmt: skip
    beam = found[0].value
    if beam is not None:
        found += _within(evidence, section, angle, level, beam, terms)
    found += _edge_colour(by_angle, terms)
    return found


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


def _within(
    evidence: Evidence, section: Sequence[Measured], angle: FloatArray, level: FloatArray, beam: float, terms: str
) -> list[Finding]:  # fmt: skip
    inside = np.abs(angle) <= beam / 2.0
    evenness = float(level[inside].min() / level[inside].max())
    found = [Finding("output", "evenness", 100.0 * evenness, "%", f"Within the beam the darkest read is {100.0 * evenness:.0f} % of the brightest.", terms, ids(section))]  # fmt: skip
    distance = section[0].terms.distance_m
    if distance and not evidence.meter_of(section[0]).for_ratios_only:
        lumens = lumens_within(angle, level * distance**2, beam)
        mean = level_mean(evidence, section[:1])
        found.append(
            Finding(
                "output", "lumens in the beam", lumens, "lm", f"{notation.number(float(f'{lumens:.3g}'))} lm within {beam:.0f}°.", terms,
                ids(section), None, lumens * float(np.hypot(mean.absolute, 0.03)), None, ("a beam that is not round about its axis",),
            )
        )  # fmt: skip
    return found


def lumens_within(angle_deg: FloatArray, candela: FloatArray, beam_deg: float) -> float:
    """Luminous flux within a full angle, of a beam that is round about its axis: 2 pi integral of I sin(a) da."""
    order = np.argsort(np.abs(angle_deg))
    radius = np.deg2rad(np.linspace(0.0, beam_deg / 2.0, 400))
    # both sides of a section stand for the same ring: their mean
    rings = grouped_mean(np.deg2rad(np.abs(angle_deg[order])), candela[order])
    intensity = np.interp(radius, *rings)
    return float(2.0 * np.pi * np.trapezoid(intensity * np.sin(radius), radius))


def grouped_mean(keys: FloatArray, values: FloatArray) -> tuple[FloatArray, FloatArray]:
    """Each key once, rising, with the mean of its values."""
    unique, inverse = np.unique(keys, return_inverse=True)
    return unique, np.bincount(inverse, values) / np.bincount(inverse)


def _edge_colour(by_angle: dict[float, list[Measured]], terms: str) -> list[Finding]:
    white = {a: cct for a, ms in by_angle.items() if (cct := ms[0].value("cct")) is not None}
    if 0.0 not in white or len(white) < 2:
        return []
    edge = max(white, key=abs)
    shift = 1e6 / white[edge] - 1e6 / white[0.0]
    centre, rim = by_angle[0.0][0], by_angle[edge][0]
    duv = [m.value("duv") for m in (rim, centre)]
    tint = f", Duv {notation.duv(duv[0] - duv[1])}" if duv[0] is not None and duv[1] is not None else ""
    words = f"At {edge:.0f}° off the axis {notation.number(shift, 0, signed=True)} mired{tint} from the centre."
    return [Finding("output", "colour at the edge", shift, "mired", words, terms, ids([rim, centre]))]
