"""How much light: levels at stated terms, the distance law, exposure, the focus range."""

from collections.abc import Sequence
from dataclasses import dataclass

from even_beam.bench import terms
from even_beam.bench.estimate import Estimate
from even_beam.bench.measured import Measured
from even_beam.bench.walks import LEAST_MARKS, Walk
from even_beam.known.evidence import Evidence, ids, lux_of, relative, usual
from even_beam.known.findings.finding import Finding, percent_half
from even_beam.light.photometry import cone_solid_angle, f_number_from_illuminance, luminous_intensity, stops
from even_beam.words import notation

RATIOS_ONLY = "its meter is for ratios only: no level is stated"


def levels(evidence: Evidence) -> tuple[Finding, ...]:
    """Illuminance at full level for every set of terms."""
    found = []
    top = max((m.terms.level_pct or 0.0 for m in evidence.lit), default=0.0)
    for repeats in terms.grouped(evidence.full).values():
        dimmed = (repeats[0].terms.level_pct or top) < top  # the highest that its meter read, and not the lamp's
        if evidence.meter_of(repeats[0]).for_ratios_only:
            continue
        level, said = evidence.level_of(repeats), evidence.at(repeats[0])
        lux, share = lux_of(level), relative(level.half_width)
        own = [m.value("illuminance") or 0.0 for m in repeats]
        open_: tuple[str, ...] = () if len(repeats) > 1 else ("read once: its repeatability is not known",)
        if repeats[0].terms.distance_m is None:
            open_ += ("the distance was not measured",)
        again = sum(p.size for p in level.parts if p.name == "repeatability")
        found.append(
            Finding(
                question="output",
                name="illuminance",
                value=lux,
                unit="lx",
                words=f"It gives {notation.level(lux)} ({percent_half(share)})",
                terms=said,
                readings=ids(repeats),
                spread=max(own) - min(own),
                uncertainty=share * lux,
                ratio_uncertainty=relative(2.0**0.5 * again),
                not_covered=open_,
                rests_on=level,
                weight=70 + usual(repeats[0]) - 12 * dimmed,
            )
        )
    return tuple(found)


def disagreeing(evidence: Evidence) -> tuple[Finding, ...]:
    """Repeats of a level that disagree: what is left out, or that no level is stated before one more was read."""
    found = []
    for stand, out in evidence.disagreeing:
        every = [*stand, *out]
        said = evidence.at(every[0])
        shown = notation.listed([notation.lux(m.value("illuminance")) for m in sorted(every, key=_taken)])
        left_out = notation.listed([notation.lux(m.value("illuminance")) for m in sorted(out, key=_taken)])
        one = len(out) == 1
        words = (
            f"{'A reading' if one else 'Readings'} of {left_out} lx {'disagrees' if one else 'disagree'} with"
            f" {len(stand)} others and {'is' if one else 'are'} left out"
            if stand
            else f"Readings of {shown} lx disagree: no level is stated before one more is read"
        )
        found.append(
            Finding(
                question="output",
                name="repeats that disagree",
                value=None,
                unit="lx",
                words=words,
                terms=said,
                readings=ids(every),
                not_covered=() if stand else ("the level at these terms",),
                weight=69 + usual(every[0]),
            )
        )
    return tuple(found)


def _taken(measured: Measured) -> int:
    return measured.reading.sequence


def walks(evidence: Evidence) -> list[Walk]:
    """Every walk at full level, also of a single mark; none of a meter that is for ratios only."""
    found = []
    for group in terms.grouped([m for m in evidence.full if m.terms.distance_m], "distance").values():
        meter = evidence.meter_of(group[0])
        if not meter.for_ratios_only:
            found.append(Walk.of(group, meter, evidence.beam_angles.of(group[0])))
    return found


def distance_law(evidence: Evidence) -> tuple[Finding, ...]:
    """Candela and virtual source of every walk of three marks or more that follows the law; else why it does not.

    Of fewer marks only the candela of the farthest, unproven.
    """
    found: list[Finding] = []
    for walk in walks(evidence):
        found += (
            _fitted(evidence, walk) if len(walk.distances_m) >= LEAST_MARKS else [_single(evidence, walk.marks[-1])]
        )
    return tuple(found)


def _fitted(evidence: Evidence, walk: Walk) -> list[Finding]:
    law = walk.law
    if law is None:
        return []
    readings = [m for mark in walk.marks for m in mark]
    said = evidence.at(readings[0], "distance")
    series = {
        "distance_m": walk.distances_m,
        "illuminance_lx": tuple(lux_of(level) for level in walk.levels),
        "residual_stops": tuple(map(float, law.residual_stops)),
    }
    near, far = notation.distance(walk.distances_m[0]), notation.distance(walk.distances_m[-1])
    short = (
        f" Nearer than {notation.distance(min(walk.used_m))} it falls short of the law." if law.near_field.any() else ""
    )
    if not walk.holds:
        words = (
            f"The walk from {near} to {far} strays {walk.worst_stops:.2f} stop from the inverse-square law, so no"
            f" candela is stated and each distance stands by itself"
        )
        return [
            Finding(
                question="output",
                name="distance law",
                value=walk.worst_stops,
                unit="stops",
                words=words,
                terms=said,
                readings=ids(readings),
                axis=("distance",),
                series=series,
                weight=40,
            )
        ]
    middle = float(sorted(walk.used_m)[len(walk.used_m) // 2])
    share = relative(walk.at_law(middle).half_width)
    candela = Finding(
        question="output",
        name="candela",
        value=law.candela,
        unit="cd",
        words=f"It gives {notation.significant(law.candela)} cd ({percent_half(share)})",
        aside=f"{notation.sentence(walk.words)}.{short}",
        terms=said,
        readings=ids(readings),
        axis=("distance",),
        uncertainty=share * law.candela,
        ratio_uncertainty=relative(2.0**0.5 * 1.96 * float(law.relative_error(middle)) / 0.6931),
        not_covered=(f"nearer than {near} and beyond {far}",),
        series=series,
        rests_on=walk.at_law(middle),
        weight=58,
    )
    if not walk.source_words:
        return [candela]
    words = f"Its light spreads {walk.source_words}"
    source = Finding(
        question="output",
        name="virtual source",
        value=law.offset_m,
        unit="m",
        words=words,
        terms=said,
        readings=ids(readings),
        axis=("distance",),
        uncertainty=1.96 * law.offset_error_m,
    )
    return [candela, source]


def _single(evidence: Evidence, repeats: Sequence[Measured]) -> Finding:
    level, said = evidence.level_of(repeats), evidence.at(repeats[0], "distance")
    distance = repeats[0].terms.distance_m or 1.0
    candela = float(luminous_intensity(lux_of(level), distance))
    share = relative(level.half_width)
    return Finding(
        question="output",
        name="candela",
        value=candela,
        unit="cd",
        words=(
            f"It gives {notation.significant(candela)} cd ({percent_half(share)}) by the inverse square from"
            f" {notation.distance(distance)} alone"
        ),
        terms=said,
        readings=ids(repeats),
        uncertainty=share * candela,
        ratio_uncertainty=None,
        not_covered=("whether the law holds: no walk was read",),
    )


def exposure(evidence: Evidence, found_levels: Sequence[Finding], iso: float, shutter_s: float) -> tuple[Finding, ...]:
    """The f-number that each of the `levels` gives at a sensitivity and exposure time, by the C of its own meter."""
    found = []
    meters = {m.reading.id: evidence.meter_of(m) for m in evidence.lit}
    for level in found_levels:
        meter = meters[level.readings[0]]
        number = float(f_number_from_illuminance(level.value or 0.0, iso, shutter_s, meter.constant))
        exposed = f"ISO {iso:g}, {notation.seconds(shutter_s)} (C {meter.constant:g})"
        words = f"It gives {notation.f_stop(number)} at {exposed}"
        share = (level.uncertainty or 0.0) / (level.value or 1.0)
        found.append(
            Finding(
                question="output",
                name="exposure",
                value=number,
                unit="f/",
                words=words,
                terms=level.terms,
                readings=level.readings,
                uncertainty=number * share / 2.0,
            )
        )
    return tuple(found)


@dataclass(frozen=True, slots=True)
class _End:
    """One end of the focus range: its level, and the full angle of its beam where it is known."""

    zoom: str
    level: Estimate
    readings: tuple[str, ...]
    angle_deg: float | None


def focus_range(evidence: Evidence) -> tuple[Finding, ...]:
    """The ratio between the zooms, beside what the solid angles promise; the rest is light that is lost."""
    found = []
    for readings in terms.grouped([m for m in evidence.full if m.terms.zoom], "zoom").values():
        ends = []
        for repeats in terms.by_value(readings, "zoom").values():
            zoom = repeats[0].terms.zoom
            ends.append(_End(zoom, evidence.level_of(repeats), ids(repeats), evidence.beam_angles.of(repeats[0])))
        if len(ends) > 1:
            found += _gathered(sorted(ends, key=lambda e: e.level.value or 0.0), evidence.at(readings[0], "zoom"))
    return tuple(found)


def _gathered(ends: Sequence[_End], said: str) -> list[Finding]:
    wide, tight = ends[0], ends[-1]
    ratio = tight.level.less(wide.level)
    value = ratio.value or 0.0
    words = (
        f"From {wide.zoom} to {tight.zoom} {notation.stops(value)} ±{ratio.half_width:.2f} stops"
        f" ({notation.times(2.0**value)}×)"
    )
    both = (*wide.readings, *tight.readings)
    known = wide.angle_deg is not None and tight.angle_deg is not None
    open_ = () if known else ("what the solid angles promise: the beam angles are not known",)
    found = [
        Finding(
            question="output",
            name="focus range",
            value=value,
            unit="stops",
            words=words,
            terms=said,
            readings=both,
            axis=("zoom",),
            uncertainty=ratio.half_width,
            not_covered=open_,
            rests_on=ratio,
            weight=50,
        )
    ]
    if wide.angle_deg is None or tight.angle_deg is None:
        return found
    promised = float(stops(cone_solid_angle(wide.angle_deg) / cone_solid_angle(tight.angle_deg)))
    lost = promised - value
    what = "lost" if lost > 0 else "gained"
    sentence = (
        f"Of the {promised:.2f} stops that {wide.angle_deg:.0f}° against {tight.angle_deg:.0f}° promise,"
        f" {abs(lost):.2f} stop is {what} in focusing"
    )
    found.append(
        Finding(
            question="output",
            name="light lost in focusing",
            value=lost,
            unit="stops",
            words=sentence,
            terms=said,
            readings=both,
            axis=("zoom",),
            uncertainty=ratio.half_width,
        )
    )
    return found
