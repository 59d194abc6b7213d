"""How green or magenta: the tint over the whites, what a step of its dial is, and a meter's CC figure in Duv."""

import itertools
import re

import numpy as np

from even_beam.bench import notation, words
from even_beam.bench.findings.finding import Evidence, Finding, at, grouped, ids, value_of, without
from even_beam.bench.findings.white import sweeps, white_points
from even_beam.bench.records import Meter
from even_beam.light.filters import duv_of_cc, gel_fraction_of_duv


def tint(evidence: Evidence) -> tuple[Finding, ...]:
    """Mean and range of the tint over the whites."""
    found = []
    for sweep in sweeps(evidence):
        points = [p for p in white_points(sweep) if p.duv is not None]
        if not points:
            continue
        duv = np.array([p.duv for p in points], dtype=np.float64)
        worst = points[int(np.argmax(np.abs(duv)))]
        tolerance = words.tint_tolerance(worst.measured_k, evidence.meter_of(sweep[0]))
        gel = gel_fraction_of_duv(float(worst.duv or 0.0), worst.measured_k)
        sentence = f"Duv {notation.duv(float(duv.min()))} to {notation.duv(float(duv.max()))}; most at {notation.dialled(worst.dialled_k)} K, corrected by {gel}."
        readings = tuple(itertools.chain.from_iterable(p.readings for p in points))
        found.append(
            Finding(
                "white",
                "tint",
                float(duv.mean()),
                "",
                sentence,
                at(sweep[0].terms, "white"),
                readings,
                float(np.ptp(duv)),
                tolerance,
            )
        )
    return tuple(found)


def tint_dial(evidence: Evidence) -> tuple[Finding, ...]:
    """What a step of the tint dial is in Duv, by least squares, and in gel terms."""
    found = []
    for group in grouped([m for m in evidence.readings if m.value("duv") is not None], without("tint")).values():
        dial = [(step, m) for m in group if (step := dial_number(m.terms.tint)) is not None]
        if len({step for step, _ in dial}) < 3:
            continue
        x = np.array([step for step, _ in dial])
        y = np.array([value_of(m, "duv") for _, m in dial])
        (slope, zero), covariance = np.polyfit(x, y, 1, cov="unscaled")
        scatter = float(np.sqrt(np.sum((y - np.polyval((slope, zero), x)) ** 2) / max(len(x) - 2, 1)))
        white = group[0].value("cct") or 5600.0
        half_width = 1.96 * scatter * float(np.sqrt(covariance[0, 0]))
        sentence = f"A step of the tint dial is {notation.duv(float(slope))} Duv (taken back by {gel_fraction_of_duv(float(slope), white)}); zero lies at {notation.duv(float(zero))}."
        series = {"dial": tuple(map(float, x)), "duv": tuple(map(float, y))}
        found.append(
            Finding(
                "white",
                "Duv per step of tint",
                float(slope),
                "",
                sentence,
                at(group[0].terms),
                ids(group),
                None,
                half_width,
                None,
                (),
                series,
            )
        )
    return tuple(found)


def dial_number(text: str) -> float | None:
    """The number on a tint dial: `+2`, `-1`, `0`; None for words."""
    found = re.fullmatch(r"\s*([+\-−]?\d+(?:\.\d+)?)\s*", text)
    return float(found[1].replace("−", "-")) if found is not None else None


def duv_of_meter_cc(meter: Meter, cc: float, white_k: float) -> float | None:
    """The Duv of a meter's CC figure (green positive); None while it is not known whether it shows the cast or the filter needed."""
    if meter.cc_sign not in {"cast", "filter needed"}:
        return None
    return float(duv_of_cc(cc if meter.cc_sign == "cast" else -cc, white_k))


def cc_figures(evidence: Evidence) -> tuple[Finding, ...]:
    """CC as it was typed where no Duv was read; translated only when the meter's sign is known."""
    found = []
    typed = [m for m in evidence.having("cc") if m.value("duv") is None]
    for repeats in grouped(typed, lambda m: (m.terms, m.reading.meter_id)).values():
        meter, terms = evidence.meter_of(repeats[0]), at(repeats[0].terms)
        cc = float(np.mean([value_of(m, "cc") for m in repeats]))
        said = f"{notation.number(abs(cc), 1)} {'G' if cc > 0.0 else 'M'} (CC) at {terms}"
        white = next((k for m in repeats if (k := m.value("cct") or m.terms.cct_k)), None)
        duv = duv_of_meter_cc(meter, cc, white) if white is not None else None
        if duv is None:
            open_ = (f"whether {meter.nickname} shows the cast or the filter needed: say so in the Kit",)
            found.append(Finding("white", "tint in CC", cc, "CC", f"{said}, as typed.", terms, ids(repeats), None, None, None, open_))  # fmt: skip
        else:
            sentence = f"{said}: {notation.duv(duv)} Duv, by ideal dyes at {notation.kelvin(white)} K."
            found.append(Finding("white", "tint", duv, "", sentence, terms, ids(repeats)))
    return tuple(found)
