"""What sits on the lamp: level, white and tint of each configuration beside the bare lamp, and gels beside the rule."""

import itertools
from collections.abc import Sequence

import numpy as np

from even_beam.bench import notation, words
from even_beam.bench.findings.finding import Evidence, Finding, at, grouped, ids, level_mean, value_of, without
from even_beam.bench.findings.output import HALF, full_angle, levels_across, sections
from even_beam.bench.measured import Measured

RULE_STOPS = {"full": 1.0, "three quarters": 0.75, "half": 0.5, "quarter": 0.25, "eighth": 0.125}
_CONVERSIONS = frozenset({"cto", "ctb", "orange", "blue"})


def matrix(evidence: Evidence) -> tuple[Finding, ...]:
    """Each configuration against the barest one read at the same white, level and place."""
    found: list[Finding] = []
    for group in grouped(evidence.lit, without("configuration")).values():
        by_configuration = grouped(group, lambda m: m.terms.configuration)
        if len(by_configuration) < 2:
            continue
        base = min(by_configuration.values(), key=lambda ms: len(ms[0].terms.configuration))
        for readings in by_configuration.values():
            if readings is not base:
                found += _against(evidence, readings, base)
    return tuple(found)


def _against(evidence: Evidence, fitted: Sequence[Measured], bare: Sequence[Measured]) -> list[Finding]:
    ours, theirs = level_mean(evidence, fitted), level_mean(evidence, bare)
    ratio = ours.value / theirs.value
    relative = float(np.hypot(ours.ratio, theirs.ratio) / np.sqrt(2.0))
    name, base = notation.configuration(fitted[0].terms), notation.configuration(bare[0].terms)
    terms = at(fitted[0].terms, "configuration")
    both = ids([*bare, *fitted])
    sentence = (
        f"With {name} {notation.times(ratio)}× the light of {base} ({notation.stops(float(np.log2(ratio)))} stops)"
    )
    shift = _mired(fitted, bare)
    tint = _duv(fitted, bare)
    if shift is not None:
        sentence += f", {notation.number(shift, 1, signed=True)} mired"
    if tint is not None:
        sentence += f", Duv {notation.duv(tint)}"
    found = [
        Finding(
            "modifiers",
            f"{name} against {base}, level",
            ratio,
            "x",
            f"{sentence}, at {terms}.",
            terms,
            both,
            None,
            relative * ratio,
            relative,
        )
    ]
    if shift is not None:
        tolerance = 0.4 * words.white_tolerance_mired(value_of(bare[0], "cct"), evidence.meter_of(bare[0]))
        found.append(
            Finding(
                "modifiers",
                f"{name} against {base}, white",
                shift,
                "mired",
                f"{sentence}, at {terms}.",
                terms,
                both,
                None,
                tolerance,
                tolerance,
            )
        )
    rule = gel_rule(name)
    if rule is not None:
        off = float(np.log2(ratio)) + rule
        found.append(
            Finding("modifiers", f"{name}, loss against the rule", off, "stops", f"{name} takes {abs(float(np.log2(ratio))):.2f} stop; the rule says {rule:.1f} (a rule, not a measurement).", terms, both, None, relative)
        )  # fmt: skip
    if tint is not None:
        half = 0.4 * words.tint_tolerance(value_of(bare[0], "cct"), evidence.meter_of(bare[0])) if shift is not None else None  # fmt: skip
        found.append(Finding("modifiers", f"{name} against {base}, tint", tint, "", f"{sentence}, at {terms}.", terms, both, None, half, half))  # fmt: skip
    return found


def _mired(fitted: Sequence[Measured], bare: Sequence[Measured]) -> float | None:
    with_, without_ = ([1e6 / value_of(m, "cct") for m in ms if m.value("cct")] for ms in (fitted, bare))
    return float(np.mean(with_) - np.mean(without_)) if with_ and without_ else None


def _duv(fitted: Sequence[Measured], bare: Sequence[Measured]) -> float | None:
    with_, without_ = ([value_of(m, "duv") for m in ms if m.value("duv") is not None] for ms in (fitted, bare))
    return float(np.mean(with_) - np.mean(without_)) if with_ and without_ else None


def beam_spread(evidence: Evidence) -> tuple[Finding, ...]:
    """How wide each configuration makes the beam against the barest one that was read across at the same terms."""
    across = {section[0]: section for section in sections(evidence)}
    found = []
    for group in grouped(list(across), without("configuration", "angle_deg")).values():
        base = min(group, key=lambda first: len(first.terms.configuration))
        bare = _beam_angle(across[base])
        for first in group:
            wide = _beam_angle(across[first])
            if first is base or wide is None or bare is None:
                continue
            name, plain = notation.configuration(first.terms), notation.configuration(base.terms)
            terms = at(first.terms, "configuration")
            sentence = (
                f"With {name} the beam is {wide:.0f}° wide at half its peak, with {plain} {bare:.0f}°, at {terms}."
            )
            readings = ids([*across[base], *across[first]])
            found.append(Finding("modifiers", f"{name} against {plain}, beam", wide - bare, "°", sentence, terms, readings))  # fmt: skip
    return tuple(found)


def _beam_angle(section: Sequence[Measured]) -> float | None:
    angle, level = levels_across(section)
    return full_angle(angle, level / level.max(), HALF)


def gel_rule(name: str) -> float | None:
    """What the rule says a conversion gel takes, in stops: half the light for a full one (common practice, no source).

    Only for conversions called by what they do: `full CTB`, `half orange gel`; None for anything else.
    """
    words = name.casefold().removesuffix("gel").strip()
    fraction = next((f for f in RULE_STOPS if words.startswith(f"{f} ")), None)
    if fraction is None or words.removeprefix(fraction).strip() not in _CONVERSIONS:
        return None
    return RULE_STOPS[fraction]


def spread_across_whites(evidence: Evidence) -> tuple[Finding, ...]:
    """How a modifier's effect on the level varies over the whites."""
    found = []
    levels = [f for f in matrix(evidence) if f.unit == "x"]
    for name, group in itertools.groupby(sorted(levels, key=lambda f: f.name), key=lambda f: f.name):
        own = list(group)
        if len(own) > 1:
            stops = np.log2([f.value or 1.0 for f in own])
            sentence = f"{name}: from {notation.stops(float(stops.min()))} to {notation.stops(float(stops.max()))} stops over {len(own)} settings."
            found.append(
                Finding(
                    "modifiers",
                    f"{name}, spread",
                    float(np.ptp(stops)),
                    "stops",
                    sentence,
                    "",
                    tuple(itertools.chain.from_iterable(f.readings for f in own)),
                )
            )
    return tuple(found)
