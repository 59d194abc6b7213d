"""How colours are shown: scores over the whites, the weakest samples, skin, and the hue and saturation dials."""

import math
from collections.abc import Callable, Mapping, Sequence
from functools import partial
from statistics import fmean

import numpy as np

from even_beam.bench import estimate, terms, terms_in_words
from even_beam.bench.measured import Measured
from even_beam.bench.records import Origin
from even_beam.bench.ssi_reference import AS_GIVEN, MATCHED, ssi_reference
from even_beam.known.evidence import Evidence, ids, numbers, value_of
from even_beam.known.findings.finding import Finding
from even_beam.light.colour import hue_difference
from even_beam.words import notation
from even_beam.words.quantities import QUANTITIES, Use, score_names

SAMPLES = (
    "light greyish red", "dark greyish yellow", "strong yellow green", "moderate yellowish green", "light bluish green",
    "light blue", "light violet", "light reddish purple", "strong red", "strong yellow", "strong green", "strong blue",
    "light yellowish pink (skin)", "moderate olive green (leaf)", "east asian skin",
)  # fmt: skip
"""The samples R1-R15 by name. Source: CIE 13.3-1995, table 1 (R1-R14); JIS Z 8726 (R15)."""

SKIN = (13, 15)


WEAK = 80.0
"""A sample below this is said to be weak (common practice, no source)."""


def _white_groups(evidence: Evidence, usable: Callable[[Measured], bool]) -> list[list[Measured]]:
    """Readings at full level that differ in their white alone, bright enough for the meter's colour figures."""
    trusted = [m for m in evidence.full_level_of(usable) if evidence.is_bright(m)]
    return list(terms.grouped(trusted, "cct").values())


def scores(evidence: Evidence) -> tuple[Finding, ...]:
    """Each score at full level, set of terms by set of terms: over the whites the lowest and the highest, with
    where."""
    found = []
    for name in score_names(Use.FOUND):
        for group in _white_groups(evidence, partial(_has, name)):
            found.append(_score(evidence, name, group))
    return tuple(found)


def _half(score: estimate.Estimate) -> str:
    return notation.number(score.half_width, 1)


def _has(name: str, measured: Measured) -> bool:
    return measured.has(name) or (name == "r9" and estimate.figure_of(measured, name) is not None)


def _score(evidence: Evidence, name: str, group: Sequence[Measured]) -> Finding:
    label, note = _reference_of_ssi(group) if name == "ssi" else (QUANTITIES[name].label, ())
    by_white = terms.by_value(group, "cct")
    found = {w: evidence.score_of(ms, name) for w, ms in by_white.items()}
    known = {w: one for w, one in found.items() if one.value is not None}
    if not known:
        only, one = next(iter(found.items()))
        said = evidence.at(by_white[only][0])
        figure = estimate.figure_of(by_white[only][0], name)
        text = figure.text if figure is not None else ""
        return Finding(
            question="colour",
            name=label,
            value=None,
            unit="",
            words=f"{label} {text}, as typed",
            terms=said,
            readings=ids(by_white[only]),
            uncertainty=one.half_width,
            weight=38,
        )
    best = min(known, key=_far_from_working)
    worst = min(known, key=lambda w: known[w].value or 0.0)
    top = max(known, key=lambda w: known[w].value or 0.0)
    said = evidence.at(group[0], "cct") if len(known) > 1 else evidence.at(by_white[best][0])
    if len(known) > 1:
        lowest, highest = (_as_given(by_white[w], name, known[w]) for w in (worst, top))
        ends = f"{lowest} ({_white(by_white[worst])}) to {highest} ({_white(by_white[top])})"
        span = f"{ends} over {len(known)} whites"
        span = f"{lowest} at each of {len(known)} whites" if lowest == highest else span
        sentence = f"{label} is {span} (±{_half(known[worst])})"
    else:
        sentence = f"{label} is {_as_given(by_white[best], name, known[best])} (±{_half(known[best])})"
    values = [one.value or 0.0 for one in known.values()]
    return Finding(
        question="colour",
        name=label,
        value=known[best].value,
        unit="",
        words=sentence,
        terms=said,
        readings=ids([m for w in known for m in by_white[w]]),
        axis=("cct",),
        spread=max(values) - min(values),
        uncertainty=known[best].half_width,
        not_covered=note,
        weight=QUANTITIES[name].weight,
    )


def _reference_of_ssi(group: Sequence[Measured]) -> tuple[str, tuple[str, ...]]:
    """What SSI is called, and what is said of its reference: a typed one has whatever reference its meter took."""
    reference = ssi_reference(group)
    said = {
        MATCHED: "the reference of SSI is the lamp's own colour temperature",
        AS_GIVEN: "against what reference an SSI was given, unless its note says so",
    }
    return f"SSI ({reference})", (said.get(reference, f"the reference of SSI is {reference}"),)


def _far_from_working(white: object) -> float:
    """How far from the white that is usually asked: 5600 K, then 3200 K."""
    if white is None:
        return 1e6
    mired = 1e6 / float(str(white))
    return min(abs(mired - 1e6 / 5600.0), abs(mired - 1e6 / 3200.0) + 3.0)


def _white(repeats: Sequence[Measured]) -> str:
    return terms_in_words.white(repeats[0].terms)


def _as_given(repeats: Sequence[Measured], name: str, one: estimate.Estimate) -> str:
    """A score with as many decimals as it was given with; a computed one to the whole number, as it is quoted."""
    figure = estimate.figure_of(repeats[0], name)
    typed = figure is not None and figure.text and len(repeats) == 1 and figure.origin is not Origin.COMPUTED
    return notation.as_given(one.value, figure.text if typed and figure is not None else "")


def samples(evidence: Evidence) -> tuple[Finding, ...]:
    """The weakest of R1-R15 by name, and the skin samples, at the white nearest to a working one of each set of
    terms."""
    found = []
    for group in _white_groups(evidence, lambda m: bool(sample_scores(m))):
        by_white = terms.by_value(group, "cct")
        repeats = by_white[min(by_white, key=_far_from_working)]
        own = [sample_scores(m) for m in repeats]
        table = {i: [one[i] for one in own if i in one] for i in range(1, 16)}
        means = {i: fmean(v) for i, v in table.items() if v}
        said = evidence.at(repeats[0])
        found.append((_weakest if len(means) == len(table) else _some)(evidence, repeats, means))
        skin = [i for i in SKIN if i in means]
        if skin:
            words = ", ".join(f"R{i} {notation.score(means[i])}" for i in skin)
            found.append(
                Finding(
                    question="colour",
                    name="skin samples",
                    value=min(means[i] for i in skin),
                    unit="",
                    words=f"Skin: {words}",
                    terms=said,
                    readings=ids(repeats),
                )
            )
    return tuple(found)


def _weakest(evidence: Evidence, repeats: Sequence[Measured], means: Mapping[int, float]) -> Finding:
    """The weakest three, where all fifteen were read: of a few nobody knows."""
    weakest, said = sorted(means, key=lambda i: means[i])[:3], evidence.at(repeats[0])
    named = ", ".join(f"R{i} {notation.score(means[i])} ({SAMPLES[i - 1]})" for i in weakest)
    return Finding(
        question="colour",
        name="weakest sample",
        value=means[weakest[0]],
        unit="",
        words=f"It is weakest in {named}",
        terms=said,
        readings=ids(repeats),
        series={"sample": tuple(map(float, means)), "R": tuple(means.values())},
        uncertainty=evidence.score_of(repeats, f"r{weakest[0]}").half_width,
        weight=33,
    )


def _some(evidence: Evidence, repeats: Sequence[Measured], means: Mapping[int, float]) -> Finding:
    """Some of the fifteen, as they were read."""
    said = evidence.at(repeats[0])
    named = ", ".join(f"R{i} {notation.score(means[i])} ({SAMPLES[i - 1]})" for i in sorted(means))
    return Finding(
        question="colour",
        name="samples read",
        value=None,
        unit="",
        words=f"{notation.sentence(named)}; which of the fifteen is weakest was not read",
        terms=said,
        readings=ids(repeats),
        not_covered=("the other samples",),
        series={"sample": tuple(map(float, means)), "R": tuple(means.values())},
        weight=33,
    )


def sample_scores(measured: Measured) -> Mapping[int, float]:
    """R1-R15 of a reading, computed or typed, as far as they are there."""
    vector = measured.vectors.get("R", ())
    if vector:
        return {i: v for i, v in enumerate(vector, start=1) if math.isfinite(v)}
    return {i: v for i in range(1, 16) if (v := measured.value(f"r{i}")) is not None}


def hue_dial(evidence: Evidence) -> tuple[Finding, ...]:
    """Errors of the hue dial around the circle, and of the saturation dial. Meters' protractors are unstated: as
    typed."""
    found = []
    dialled = [m for m in evidence.readings if m.terms.hue_deg is not None and m.value("hue") is not None]
    for group in terms.grouped(dialled, "hue").values():
        own = [ms[0] for _, ms in numbers(terms.by_value(group, "hue"))]
        asked = np.array([m.terms.hue_deg for m in own], dtype=np.float64)
        off = hue_difference(np.array([value_of(m, "hue") for m in own]), asked)
        worst, said = int(np.argmax(np.abs(off))), evidence.at(group[0], "cct")
        if len(own) == 1:
            sentence = f"Hue {notation.number(float(off[0]), 0, signed=True)}° off at {asked[0]:.0f}°"
        else:
            sentence = (
                f"Hue {float(np.mean(np.abs(off))):.0f}° off on the mean of {len(own)} hues; worst"
                f" {notation.number(float(off[worst]), 0, signed=True)}° at {asked[worst]:.0f}°"
            )
        found.append(
            Finding(
                question="colour",
                name="hue error",
                value=float(np.mean(np.abs(off))),
                unit="°",
                words=sentence,
                terms=said,
                readings=ids(own),
                axis=("hue",),
                spread=float(np.ptp(off)),
                not_covered=("the meter's hue scale is its own and not stated",),
                series={"asked_deg": tuple(map(float, asked)), "error_deg": tuple(map(float, off))},
                weight=32,
            )
        )
    return (*found, *_saturation(evidence))


def _saturation(evidence: Evidence) -> list[Finding]:
    found = []
    usable = [m for m in evidence.readings if m.terms.saturation_pct is not None and m.value("saturation") is not None]
    for dialled in terms.grouped(usable, "saturation", "hue").values():
        off = np.array([value_of(m, "saturation") - (m.terms.saturation_pct or 0.0) for m in dialled])
        said = evidence.at(dialled[0], "cct", "saturation")
        plural = "s" * (len(dialled) > 1)
        sentence = (
            f"Saturation {notation.number(float(off.mean()), 0, signed=True)} points on the mean of {len(dialled)}"
            f" setting{plural}"
        )
        found.append(
            Finding(
                question="colour",
                name="saturation error",
                value=float(off.mean()),
                unit="%",
                words=sentence,
                terms=said,
                readings=ids(dialled),
                axis=("saturation", "hue"),
                spread=float(np.ptp(off)),
            )
        )
    return found


def desaturated_white(evidence: Evidence) -> tuple[Finding, ...]:
    """The white that is left when the saturation is taken out in the colour mode."""
    found = []
    own = [m for m in evidence.readings if m.terms.saturation_pct == 0.0 and m.value("cct")]
    for repeats in terms.grouped(own).values():
        first, said = repeats[0], evidence.at(repeats[0], "saturation")
        tint = f", Duv {notation.duv(first.value('duv'))}" if first.value("duv") is not None else ""
        found.append(
            Finding(
                question="colour",
                name="desaturated white",
                value=first.value("cct"),
                unit="K",
                words=f"With no saturation it gives {notation.white(first.value('cct'))} K{tint}",
                terms=said,
                readings=(first.reading.id,),
            )
        )
    return tuple(found)
