"""What sits on the lamp: level, white and tint of each configuration beside the bare lamp, and gels beside the rule."""

import itertools
from collections.abc import Sequence

import numpy as np

from even_beam.bench import estimate, terms, terms_in_words
from even_beam.bench.beam_angle import aside_of, half_peak_angle
from even_beam.bench.estimate import Estimate, standing
from even_beam.bench.measured import Measured
from even_beam.bench.records import OFF
from even_beam.known.evidence import Evidence, ids, relative
from even_beam.known.findings.beam import sections
from even_beam.known.findings.finding import Finding, shift_words
from even_beam.words import notation

RULE_STOPS = {"full": 1.0, "three quarters": 0.75, "half": 0.5, "quarter": 0.25, "eighth": 0.125}
_CONVERSIONS = frozenset({"cto", "ctb", "orange", "blue"})


def matrix(evidence: Evidence) -> tuple[Finding, ...]:
    """Each configuration against the barest one read at the same terms in all else: level, white and tint as far as
    read."""
    found: list[Finding] = []
    usable = [
        m
        for m in evidence.readings
        if m.terms.mode != OFF
        and m.terms.angle_deg == 0.0
        and ((m.value("illuminance") or 0.0) > 0.0 or m.value("cct"))
    ]
    for group in terms.grouped(usable, "configuration").values():
        by_configuration = list(terms.by_value(group, "configuration").values())
        if len(by_configuration) < 2:
            continue
        base = min(by_configuration, key=lambda ms: len(ms[0].terms.configuration))
        for readings in by_configuration:
            if readings is not base:
                found += _against(evidence, readings, base)
    return tuple(found)


def _against(evidence: Evidence, fitted: Sequence[Measured], bare: Sequence[Measured]) -> list[Finding]:
    """Each effect as a finding of its own, with one sentence for all of them on the first."""
    name, base = terms_in_words.configuration(fitted[0].terms), terms_in_words.configuration(bare[0].terms)
    said = evidence.at(fitted[0], "configuration")
    level, white, tint = _level(evidence, fitted, bare), _white(evidence, fitted, bare), _tint(evidence, fitted, bare)
    parts = []
    if level is not None:
        ratio = float(np.exp2(level.value or 0.0))
        open_ = notation.number(level.half_width, 2)
        parts.append(f"{notation.times(ratio)}× the light of {base} ({notation.stops(level.value)} ±{open_} stops)")
    parts += shift_words(white, tint)
    if not parts:
        return []
    against = "" if level is not None else f" against {base}"
    sentence = f"With {name} {', '.join(parts)}{against}"
    both = ids([*bare, *fitted])
    found: list[Finding] = []
    if level is not None:
        ratio, half = float(np.exp2(level.value or 0.0)), relative(level.half_width)
        found.append(
            Finding(
                question="modifiers",
                name=f"{name} against {base}, level",
                value=ratio,
                unit="x",
                words=sentence,
                terms=said,
                readings=both,
                axis=("configuration",),
                uncertainty=half * ratio,
                ratio_uncertainty=half,
                rests_on=level,
                weight=49,
            )
        )
    for what, effect, unit in (("white", white, "mired"), ("tint", tint, "")):
        if effect is not None:
            found.append(
                Finding(
                    question="modifiers",
                    name=f"{name} against {base}, {what}",
                    value=effect.value,
                    unit=unit,
                    words=sentence,
                    terms=said,
                    readings=both,
                    axis=("configuration",),
                    uncertainty=effect.half_width,
                    ratio_uncertainty=effect.half_width,
                    rests_on=effect,
                    weight=0 if found else 49,
                )
            )
    rule = gel_rule(name)
    if rule is not None and level is not None:
        loss = -(level.value or 0.0)
        found.append(
            Finding(
                question="modifiers",
                name=f"{name}, loss against the rule",
                value=rule - loss,
                unit="stops",
                words=(
                    f"{notation.sentence(name)} takes {loss:.2f} ±{level.half_width:.2f} stop; the rule says {rule:g}"
                    f" (a rule, not a measurement)"
                ),
                terms=said,
                readings=both,
                axis=("configuration",),
                uncertainty=level.half_width,
            )
        )
    return found


def _level(evidence: Evidence, fitted: Sequence[Measured], bare: Sequence[Measured]) -> Estimate | None:
    ours, theirs = standing(fitted), standing(bare)
    return evidence.level_of(ours).less(evidence.level_of(theirs)) if ours and theirs else None


def _white(evidence: Evidence, fitted: Sequence[Measured], bare: Sequence[Measured]) -> Estimate | None:
    ours, theirs = ([m for m in ms if m.value("cct")] for ms in (fitted, bare))
    return evidence.white_of(ours).less(evidence.white_of(theirs)) if ours and theirs else None


def _tint(evidence: Evidence, fitted: Sequence[Measured], bare: Sequence[Measured]) -> Estimate | None:
    ours, theirs = ([m for m in ms if m.value("duv") is not None] for ms in (fitted, bare))
    return evidence.tint_of(ours).less(evidence.tint_of(theirs)) if ours and theirs else None


def beam_spread(evidence: Evidence) -> tuple[Finding, ...]:
    """How wide each configuration makes the beam against the barest one that was read across at the same terms."""
    across = {aside_of(section): section for section in sections(evidence)}
    found = []
    for group in terms.grouped(list(across), "configuration", "angle").values():
        base = min(group, key=lambda first: len(first.terms.configuration))
        bare = half_peak_angle(across[base])
        for first in group:
            wide = half_peak_angle(across[first])
            if first is base or wide is None or bare is None:
                continue
            name, plain = terms_in_words.configuration(first.terms), terms_in_words.configuration(base.terms)
            said = evidence.at(first, "configuration", "angle")
            sentence = f"With {name} the beam is {wide:.0f}° wide at half its peak, with {plain} {bare:.0f}°"
            readings = ids([*across[base], *across[first]])
            found.append(
                Finding(
                    question="modifiers",
                    name=f"{name} against {plain}, beam",
                    value=wide - bare,
                    unit="°",
                    words=sentence,
                    terms=said,
                    readings=readings,
                    axis=("configuration", "angle", "turn"),
                    weight=20,
                )
            )
    return tuple(found)


def gel_rule(name: str) -> float | None:
    """What the rule says a conversion gel takes, in stops: half the light for a full one (common practice, no source).

    Only for conversions called by what they do: `full CTB`, `half orange gel`; None for anything else.
    """
    words = name.casefold().removesuffix("gel").strip()
    fraction = next((f for f in RULE_STOPS if words.startswith(f"{f} ")), None)
    if fraction is None or words.removeprefix(fraction).strip() not in _CONVERSIONS:
        return None
    return RULE_STOPS[fraction]


def spread_across_whites(evidence: Evidence, found_of_each: Sequence[Finding]) -> tuple[Finding, ...]:
    """How a modifier's effect on the level varies over the whites, all else the same; `found_of_each` are those of
    `matrix`."""
    levels = [f for f in found_of_each if f.unit == "x"]
    by_id = {m.reading.id: m for m in evidence.readings}
    found = []

    def same(finding: Finding) -> tuple[str, str]:
        return finding.name, repr(terms.key(by_id[finding.readings[0]], "cct", "configuration"))

    for (name, _), group in itertools.groupby(sorted(levels, key=same), key=same):
        own = list(group)
        if len(own) > 1:
            stops = np.log2([f.value or 1.0 for f in own])
            first = by_id[own[0].readings[0]]
            said = evidence.at(first, "cct", "configuration")
            halves = [(f.uncertainty or 0.0) / (f.value or 1.0) / np.log(2.0) for f in own]
            half = float(np.hypot(*sorted(halves)[-2:])) * max(estimate.TELLS, estimate.picked(len(own)))
            is_told = float(np.ptp(stops)) > half
            ends = [notation.stops(float(end)) for end in (stops.min(), stops.max())]
            over = f"over {len(own)} whites"
            sentence = (
                f"{name}: from {ends[0]} to {ends[1]} stops {over}"
                if is_told
                else f"{name}: {notation.stops(float(stops.mean()))} stops, the same as far as can be told"
                f" (±{half:.2f}) {over}"
            )
            found.append(
                Finding(
                    question="modifiers",
                    name=f"{name}, spread",
                    value=float(np.ptp(stops)),
                    unit="stops",
                    words=sentence,
                    terms=said,
                    readings=tuple(itertools.chain.from_iterable(f.readings for f in own)),
                    axis=("cct", "configuration"),
                )
            )
    return tuple(found)
