"""How colours are shown: scores and their spread, the weakest samples, skin, and the hue and saturation dials."""

import math
from collections.abc import Mapping, Sequence

import numpy as np

from even_beam.bench import notation
from even_beam.bench.findings.finding import Evidence, Finding, at, ids, value_of
from even_beam.bench.measured import Measured
from even_beam.bench.quantities import QUANTITIES
from even_beam.light.colour import hue_difference

SCORES = ("ra", "r9", "rf", "rg", "ssi", "tlci")
SAMPLES = (
    "light greyish red", "dark greyish yellow", "strong yellow green", "moderate yellowish green", "light bluish green",
    "light blue", "light violet", "light reddish purple", "strong red", "strong yellow", "strong green", "strong blue",
    "light yellowish pink (skin)", "moderate olive green (leaf)", "east asian skin",
)  # fmt: skip
"""The samples R1-R15 by name. Source: CIE 13.3-1995, table 1 (R1-R14); JIS Z 8726 (R15)."""

SKIN = (13, 15)


def scores(evidence: Evidence) -> tuple[Finding, ...]:
    """Each score: median, and lowest with where it was read."""
    found = []
    trusted = [m for m in evidence.readings if _bright(evidence, m)]
    for score in SCORES:
        own = [m for m in trusted if m.value(score) is not None]
        if not own:
            continue
        values = np.array([value_of(m, score) for m in own])
        worst = own[int(np.argmin(values))]
        label = QUANTITIES[score].label
        sentence = f"{label} {notation.score(float(np.median(values)))}, from {notation.score(float(values.min()))} ({at(worst.terms)}) to {notation.score(float(values.max()))}."
        note = ("the reference of SSI is the lamp's own colour temperature",) if score == "ssi" else ()
        found.append(
            Finding(
                "colour",
                label,
                float(np.median(values)),
                "",
                sentence,
                "over all settings read",
                ids(own),
                float(np.ptp(values)),
                None,
                None,
                note,
            )
        )
    return tuple(found)


def _bright(evidence: Evidence, measured: Measured) -> bool:
    level = measured.value("illuminance")
    return level is None or level >= evidence.meter_of(measured).dim_lx


def samples(evidence: Evidence) -> tuple[Finding, ...]:
    """The weakest of R1-R15 by name, and the skin samples."""
    scores = {m: read for m in evidence.readings if _bright(evidence, m) and (read := sample_scores(m))}
    own = list(scores)
    if not own:
        return ()
    table = {i: [one[i] for one in scores.values() if i in one] for i in range(1, 16)}
    medians = {i: float(np.median(v)) for i, v in table.items() if v}
    weakest = sorted(medians, key=lambda i: medians[i])[:3]
    named = ", ".join(f"R{i} {notation.score(medians[i])} ({SAMPLES[i - 1]})" for i in weakest)
    found = [Finding("colour", "weakest sample", medians[weakest[0]], "", f"Weakest: {named}.", "over all settings read", ids(own), None, None, None, (), {"sample": tuple(map(float, medians)), "R": tuple(medians.values())})]  # fmt: skip
    skin = [i for i in SKIN if i in medians]
    if skin:
        words = ", ".join(f"R{i} {notation.score(medians[i])}" for i in skin)
        found.append(
            Finding(
                "colour",
                "skin samples",
                min(medians[i] for i in skin),
                "",
                f"Skin: {words}.",
                "over all settings read",
                ids(own),
            )
        )
    return tuple(found)


def sample_scores(measured: Measured) -> Mapping[int, float]:
    """R1-R15 of a reading, computed or typed, as far as they are there."""
    vector = measured.vectors.get("R", ())
    if vector:
        return {i: v for i, v in enumerate(vector, start=1) if math.isfinite(v)}
    return {i: v for i in range(1, 16) if (v := measured.value(f"r{i}")) is not None}


def hue_dial(evidence: Evidence) -> tuple[Finding, ...]:
    """Errors of the hue dial around the circle, and of the saturation dial. Meters' protractors are unstated: as typed."""
    own = [m for m in evidence.readings if m.terms.hue_deg is not None and m.value("hue") is not None]
    if not own:
        return ()
    asked = np.array([m.terms.hue_deg for m in own], dtype=np.float64)
    off = hue_difference(np.array([value_of(m, "hue") for m in own]), asked)
    worst = int(np.argmax(np.abs(off)))
    sentence = f"{float(np.mean(np.abs(off))):.0f}° off on the mean of {len(own)} hues; worst {notation.number(float(off[worst]), 0, signed=True)}° at {asked[worst]:.0f}°."
    series = {"asked_deg": tuple(map(float, asked)), "error_deg": tuple(map(float, off))}
    found = [
        Finding(
            "colour",
            "hue error",
            float(np.mean(np.abs(off))),
            "°",
            sentence,
            at(own[0].terms),
            ids(own),
            float(np.ptp(off)),
            None,
            None,
            ("the meter's hue scale is its own and not stated",),
            series,
        )
    ]
    found += _saturation(own)
    return tuple(found)


def _saturation(own: Sequence[Measured]) -> list[Finding]:
    dialled = [m for m in own if m.terms.saturation_pct is not None and m.value("saturation") is not None]
    if not dialled:
        return []
    off = np.array([value_of(m, "saturation") - (m.terms.saturation_pct or 0.0) for m in dialled])
    sentence = f"Saturation {notation.number(float(off.mean()), 0, signed=True)} points on the mean of {len(dialled)} settings."
    return [
        Finding(
            "colour",
            "saturation error",
            float(off.mean()),
            "%",
            sentence,
            at(dialled[0].terms),
            ids(dialled),
            float(np.ptp(off)),
        )
    ]


def desaturated_white(evidence: Evidence) -> tuple[Finding, ...]:
    """The white that is left when the saturation is taken out in the colour mode."""
    own = [m for m in evidence.readings if m.terms.saturation_pct == 0.0 and m.value("cct")]
    return tuple(
        Finding("colour", "desaturated white", m.value("cct"), "K", f"With no saturation it gives {notation.kelvin(m.value('cct'))} K, Duv {notation.duv(m.value('duv'))}.", at(m.terms), (m.reading.id,))
        for m in own[:1]
    )  # fmt: skip
