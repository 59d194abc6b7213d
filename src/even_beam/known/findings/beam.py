"""Across the beam: how wide it is, how even in level and white, what it loses off its axis."""

from collections import Counter
from collections.abc import Sequence

import numpy as np

from even_beam.bench import estimate, terms
from even_beam.bench.beam_angle import HALF, LEAST_ANGLES, aside_of, full_angle, levels_across, plane_of, planes_of
from even_beam.bench.fields import Key
from even_beam.bench.measured import Measured
from even_beam.known.evidence import Evidence, full_level, ids, relative
from even_beam.known.findings.finding import Finding
from even_beam.light.spectra import FloatArray
from even_beam.words import notation

TENTH = 0.1
ROUND_BEAM = 0.03
"""What a beam that is not quite round about its axis leaves open in its lumens (common practice, no source)."""


def groups_across(evidence: Evidence) -> list[list[Measured]]:
    """Readings at full level that differ in their angle alone, plane by plane, the axis among them."""
    groups = planes_of(full_level(evidence.across))
    return [group for group in groups if len({m.terms.angle_deg for m in group}) > 1]


def _axes_of(section: Sequence[Measured]) -> tuple[str, ...]:
    """What its readings differ in: those on the axis stand in all planes, those aside in one."""
    return ("angle", "turn") if plane_of(section) else ("angle",)


def sections(evidence: Evidence) -> list[list[Measured]]:
    """Those with four angles or more."""
    return [group for group in groups_across(evidence) if len({m.terms.angle_deg for m in group}) >= LEAST_ANGLES]


def beam_sections(evidence: Evidence) -> tuple[Finding, ...]:
    """Angles, evenness, colour at the edge and lumens of each section; of centre and sides what they allow."""
    found: list[Finding] = []
    groups = groups_across(evidence)
    planes = Counter(beam_of(group) for group in groups)
    for group in groups:
        if len({m.terms.angle_deg for m in group}) >= LEAST_ANGLES:
            found += _section(evidence, group, is_round=planes[beam_of(group)] == 1)
        else:
            found += _sides(evidence, group)
    return tuple(found)


def beam_of(section: Sequence[Measured]) -> Key:
    """What planes of one beam have in common."""
    return terms.key(aside_of(section), "angle", "turn")


def _by_angle(group: Sequence[Measured]) -> dict[float, list[Measured]]:
    found: dict[float, list[Measured]] = {}
    for measured in group:
        found.setdefault(measured.terms.angle_deg, []).append(measured)
    return found


def _sides(evidence: Evidence, group: Sequence[Measured]) -> list[Finding]:
    """Centre and sides: the loss off the axis and how even the light is between those places."""
    by_angle = _by_angle(group)
    if 0.0 not in by_angle:
        return []
    said = evidence.at(aside_of(group), "angle")
    centre = evidence.level_of(by_angle[0.0])
    levels = {a: evidence.level_of(ms) for a, ms in by_angle.items()}
    found = []
    edge = max(by_angle, key=abs)
    off = [levels[a].less(centre) for a in by_angle if abs(a) == abs(edge)]
    loss = estimate.mean_of(off)
    where = f"{notation.plain(abs(edge))}° off the axis"
    found.append(
        Finding(
            question="output",
            name="loss off axis",
            value=loss.value,
            unit="stops",
            words=(f"At {where} {notation.stops(loss.value)} ±{loss.half_width:.2f} stop against the centre"),
            terms=said,
            readings=ids(group),
            axis=_axes_of(group),
            uncertainty=loss.half_width,
            not_covered=(f"between these places and beyond {notation.plain(abs(edge))}°",),
            rests_on=loss,
            weight=30,
        )
    )
    values = {a: float(np.exp2(level.value or 0.0)) for a, level in levels.items()}
    dark, bright = min(values, key=lambda a: values[a]), max(values, key=lambda a: values[a])
    even = 100.0 * values[dark] / values[bright]
    half = even * relative(levels[dark].less(levels[bright]).half_width)
    found.append(
        Finding(
            question="output",
            name="evenness",
            value=even,
            unit="%",
            words=(f"Of {len(values)} places across the beam the darkest has {even:.0f} % of the brightest"),
            terms=said,
            readings=ids(group),
            axis=_axes_of(group),
            uncertainty=half,
        )
    )
    return found + _edge_colour(evidence, by_angle, said)


def _section(evidence: Evidence, section: Sequence[Measured], *, is_round: bool) -> list[Finding]:
    """`is_round`: nothing else was read of the beam, which is then taken to be round about its axis."""
    angle, level = levels_across(section)
    said = evidence.at(aside_of(section), "angle")
    share = level / float(level.max())
    series = {"angle_deg": tuple(map(float, angle)), "illuminance_lx": tuple(map(float, level))}
    found: list[Finding] = []
    for name, part in (("beam angle", HALF), ("field angle", TENTH)):
        full = full_angle(angle, share, part)
        if full is None:
            words = f"The {name} ({100.0 * part:.0f} % of the peak) lies beyond {max(abs(angle)):.0f}° off the axis"
            found.append(
                Finding(
                    question="output",
                    name=name,
                    value=None,
                    unit="°",
                    words=words,
                    terms=said,
                    readings=ids(section),
                    axis=_axes_of(section),
                    not_covered=(words,),
                )
            )
            continue
        step = float(np.median(np.diff(angle)))
        found.append(
            Finding(
                question="output",
                name=name,
                value=full,
                unit="°",
                words=f"{notation.sentence(name)} {full:.0f}° ({100.0 * part:.0f} % of the peak)",
                terms=said,
                readings=ids(section),
                axis=_axes_of(section),
                uncertainty=max(0.25 * step, 1.0),
                series=series,
                weight=45 if part == HALF else 0,
            )
        )
    if (beam := found[0].value) is not None:
        found += _evenness(evidence, section, angle=angle, level=level, beam=beam, said=said)
        found += lumens_of(evidence, [section], [beam], said=said, shape=ROUND_BEAM) if is_round else []
    return found + _edge_colour(evidence, _by_angle(section), said)


def _evenness(
    evidence: Evidence, section: Sequence[Measured], *, angle: FloatArray, level: FloatArray, beam: float, said: str
) -> list[Finding]:
    inside = np.abs(angle) <= beam / 2.0
    evenness = float(level[inside].min() / level[inside].max())
    own = 2.0**0.5 * evidence.meter_of(section[0]).ratio_tolerance
    return [
        Finding(
            question="output",
            name="evenness",
            value=100.0 * evenness,
            unit="%",
            words=f"Within the beam the darkest read is {100.0 * evenness:.0f} % of the brightest",
            terms=said,
            readings=ids(section),
            axis=_axes_of(section),
            uncertainty=100.0 * evenness * own,
        )
    ]


def lumens_of(
    evidence: Evidence, planes: Sequence[Sequence[Measured]], widths: Sequence[float], *, said: str, shape: float
) -> list[Finding]:
    """The light within a beam's half, of one plane or of two that stand upright on each other, each as wide as stated.

    With one the beam is taken to be round. Of an ellipse with two axes it is the geometric mean of what each plane
    would give alone: that goes with the square of its axis, the ellipse with their product. `shape` is the share that
    this leaves open.
    """
    first, distance = planes[0][0], planes[0][0].terms.distance_m
    if not distance or evidence.meter_of(first).for_ratios_only:
        return []
    lumens, both = 1.0, list(dict.fromkeys(m for plane in planes for m in plane))
    for plane, width in zip(planes, widths, strict=True):
        angle, level = levels_across(plane)
        lumens *= lumens_within(angle, level * distance**2, width) ** (1.0 / len(planes))
    one = evidence.level_of([m for m in both if m.terms.angle_deg == first.terms.angle_deg])
    within = " by ".join(f"{width:.0f}°" for width in widths)
    taken_as = "is not round about its axis" if len(planes) == 1 else "has lines of equal light that are no ellipses"
    return [
        Finding(
            question="output",
            name="lumens in the beam",
            value=lumens,
            unit="lm",
            words=f"It gives {notation.significant(lumens)} lm within {within}",
            terms=said,
            readings=ids(both),
            axis=("angle", "turn") if len(planes) > 1 else _axes_of(planes[0]),
            uncertainty=lumens * float(np.hypot(relative(one.half_width), shape)),
            not_covered=(f"a beam that {taken_as}",),
        )
    ]


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


def _edge_colour(evidence: Evidence, by_angle: dict[float, list[Measured]], said: str) -> list[Finding]:
    """How far white and tint move from the axis to the farthest angle on either side."""
    white = {a: [m for m in ms if m.value("cct")] for a, ms in by_angle.items()}
    white = {a: ms for a, ms in white.items() if ms}
    if 0.0 not in white or len(white) < 2:
        return []
    edge = max(white, key=abs)
    shift = evidence.white_of(white[edge]).less(evidence.white_of(white[0.0]))
    tinted = [[m for m in white[a] if m.value("duv") is not None] for a in (edge, 0.0)]
    tint = ""
    if tinted[0] and tinted[1]:
        turned = evidence.tint_of(tinted[0]).less(evidence.tint_of(tinted[1]))
        tint = f", Duv {notation.duv(turned.value)}"
    sentence = (
        f"At {abs(edge):.0f}° off the axis {notation.number(shift.value, 1, signed=True)} mired{tint} from the centre"
    )
    return [
        Finding(
            question="output",
            name="colour at the edge",
            value=shift.value,
            unit="mired",
            words=sentence,
            terms=said,
            readings=ids([*white[edge], *white[0.0]]),
            axis=_axes_of([m for ms in by_angle.values() for m in ms]),
            uncertainty=shift.half_width,
            rests_on=shift,
            weight=25,
        )
    ]
