"""How green or magenta: the tint over the whites, what a step of its dial is, and a meter's CC figure in Duv."""

import re
from collections.abc import Sequence
from statistics import fmean

import numpy as np

from even_beam.bench import estimate, terms
from even_beam.bench.measured import Measured
from even_beam.bench.records import Meter
from even_beam.known.evidence import Evidence, ids, most_usual, value_of
from even_beam.known.findings.finding import Finding
from even_beam.known.in_words import tint_side
from even_beam.light.filters import NO_SUCH_GEL, duv_of_cc, duv_of_gel, gel_fraction_of_duv
from even_beam.light.white import TINT_REFERENCE_K, off_neutral
from even_beam.words import notation


def off_reference(duv: float, cct_k: float) -> float:
    """A tint as it is judged: beyond the nearer of Planckian and daylight curve, none between them; off the Planckian
    below 4000 K."""
    return float(off_neutral(cct_k, duv))


def tint(evidence: Evidence) -> tuple[Finding, ...]:
    """Mean and range of the tint over the whites, each set of terms by itself; fixed whites as well."""
    found = []
    tinted = evidence.full_level_of(
        lambda m: m.value("duv") is not None and bool(m.value("cct")) and m.terms.hue_deg is None
    )
    for group in terms.grouped(tinted, "cct").values():
        groups = terms.by_value(group, "cct")
        by_white = {w: evidence.tint_of(ms) for w, ms in groups.items()}
        off = {w: off_reference(by_white[w].value or 0.0, _cct(groups[w])) for w in by_white}
        worst = max(off, key=lambda w: abs(off[w]))
        said = evidence.at(group[0], "cct") if len(groups) > 1 else evidence.at(group[0])
        values = [one.value or 0.0 for one in by_white.values()]
        words, aside = _sentence(
            values=values, off=off[worst], half=by_white[worst].half_width, worst=groups[worst], whites=len(groups)
        )
        found.append(
            Finding(
                question="white",
                name="tint",
                value=fmean(values),
                unit="",
                words=words,
                aside=aside,
                terms=said,
                readings=ids(group),
                axis=("cct",),
                spread=max(values) - min(values),
                uncertainty=by_white[worst].half_width,
                rests_on=by_white[worst],
                weight=48 + most_usual(group),
            )
        )
    return tuple(found)


def _cct(repeats: Sequence[Measured]) -> float:
    return fmean([value_of(m, "cct") for m in repeats])


def _sentence(
    values: Sequence[float], off: float, half: float, worst: Sequence[Measured], whites: int
) -> tuple[str, str]:
    """The tint in words: how much, where most, and the gel that would take it back, where one is needed; and its Duv
    where that is another matter."""
    white = worst[0].terms.cct_k
    where = f", most at {notation.dialled(white)} K" if whites > 1 and white is not None else ""
    shown = f"Duv {notation.duv(min(values))}"
    if whites > 1:
        shown += f" to {notation.duv(max(values))} over {whites} whites"
    if abs(off) <= half:
        return f"It has no tint that this meter can tell from none ({shown}, ±{notation.number(half, 4)})", ""
    gel = gel_fraction_of_duv(off, _cct(worst))
    take_back = {
        "none": "too little for a gel",
        NO_SUCH_GEL: "more than any gel of the green series takes back",
    }.get(gel) or _taken_back(gel, off, half, _cct(worst))
    away = f"{notation.number(abs(off), 4)} from {_reference(_cct(worst), off)}"
    return f"It leans {tint_side(off)}{where}: {away}, {take_back}", f"{shown}."


def _taken_back(gel: str, off: float, half: float, cct_k: float) -> str:
    """What the nearest gel does to a tint: it takes it back as far as the meter can tell, or leaves some of it."""
    left = off + duv_of_gel(gel, cct_k)
    if abs(left) <= half:
        return f"{gel} would take it back"
    return f"{gel} would leave {notation.duv(abs(left)).lstrip('+')} to {tint_side(left)}"


def _reference(cct_k: float, off: float) -> str:
    """The curve that a tint lies beyond, or nearest to."""
    return "daylight" if off > 0.0 and cct_k >= TINT_REFERENCE_K[0] else "the Planckian"


def tint_dial(evidence: Evidence) -> tuple[Finding, ...]:
    """What a step of the tint dial is in Duv, by least squares, and in gel terms."""
    found = []
    tinted = [m for m in evidence.readings if m.value("duv") is not None]
    for group in terms.grouped(tinted, "tint").values():
        dial = [(step, m) for m in group if (step := dial_number(m.terms.tint)) is not None]
        if len({step for step, _ in dial}) < 3:
            continue
        x = np.array([step for step, _ in dial])
        y = np.array([value_of(m, "duv") for _, m in dial])
        (slope, zero), covariance = np.polyfit(x, y, 1, cov="unscaled")
        freedom = max(len(x) - 2, 1)
        scatter = float(np.sqrt(np.sum((y - np.polyval((slope, zero), x)) ** 2) / freedom))
        white = group[0].value("cct") or group[0].terms.cct_k or 5600.0
        half_width = estimate.student(freedom) * scatter * float(np.sqrt(covariance[0, 0]))
        gel = gel_fraction_of_duv(float(slope), white)
        take_back = "" if gel in {"none", NO_SUCH_GEL} else f" (taken back by {gel})"
        said = evidence.at(group[0], "tint")
        sentence = (
            f"A step of the tint dial is {notation.duv(float(slope))} Duv{take_back}; its zero lies at"
            f" {notation.duv(float(zero))}"
        )
        found.append(
            Finding(
                question="white",
                name="Duv per step of tint",
                value=float(slope),
                unit="",
                words=sentence,
                terms=said,
                readings=ids(group),
                axis=("tint",),
                uncertainty=half_width,
                series={"dial": tuple(map(float, x)), "duv": tuple(map(float, y))},
            )
        )
    return tuple(found)


def dial_number(text: str) -> float | None:
    """The number on a tint dial: `+2`, `-1`, `0`; None for words."""
    found = re.fullmatch(r"\s*([+\-−]?\d+(?:\.\d+)?)\s*", text)
    return float(found[1].replace("−", "-")) if found is not None else None


def duv_of_meter_cc(meter: Meter, cc: float, white_k: float) -> float | None:
    """The Duv of a meter's CC figure (green positive); None while it is not known whether it shows the cast or the
    filter needed."""
    if meter.cc_sign not in {"cast", "filter needed"}:
        return None
    return float(duv_of_cc(cc if meter.cc_sign == "cast" else -cc, white_k))


def cc_figures(evidence: Evidence) -> tuple[Finding, ...]:
    """CC as it was typed where no Duv was read, translated at the white in question; both ways while the sign is not
    known."""
    found = []
    typed = [m for m in evidence.having("cc") if m.value("duv") is None]
    for repeats in terms.grouped(typed).values():
        meter, said = evidence.meter_of(repeats[0]), evidence.at(repeats[0])
        cc = fmean([value_of(m, "cc") for m in repeats])
        shown = f"Its tint is {notation.number(abs(cc), 1)} {'G' if cc > 0.0 else 'M'} (CC)"
        white = next((k for m in repeats if (k := m.value("cct") or m.terms.cct_k)), None)
        duv = duv_of_meter_cc(meter, cc, white) if white is not None else None
        if duv is not None:
            sentence = f"{shown}: {notation.duv(duv)} Duv, by ideal dyes at {notation.kelvin(white)} K"
            found.append(
                Finding(
                    question="white",
                    name="tint",
                    value=duv,
                    unit="",
                    words=sentence,
                    terms=said,
                    readings=ids(repeats),
                    weight=46,
                )
            )
            continue
        size = abs(float(duv_of_cc(cc, white))) if white is not None else None
        both = f"; {notation.duv(size).lstrip('+')} Duv either way, the sign not known" if size is not None else ""
        open_ = (f"whether {meter.nickname} shows the cast or the filter needed: say so in the Kit",)
        found.append(
            Finding(
                question="white",
                name="tint in CC",
                value=cc,
                unit="CC",
                words=f"{shown}, as typed{both}",
                terms=said,
                readings=ids(repeats),
                not_covered=open_,
                weight=46,
            )
        )
    return tuple(found)
