"""What cameras and photodiodes saw of a lamp: how deep it flickers, charts in photographs, fades."""

from collections.abc import Sequence
from statistics import fmean

from even_beam.bench import terms
from even_beam.bench.measured import Measured
from even_beam.bench.seen import benchmark_of
from even_beam.known.evidence import Evidence, ids, value_of
from even_beam.known.findings.finding import Finding
from even_beam.words import notation

SEEN_FROM_SVM = 1.0
"""A stroboscopic effect of one is seen by a mean observer in half of the cases (IEC TR 63158, from memory)."""

_NOT_SEEN_BY = ("configuration", "zoom", *terms.PLACE)
"""What flickering light does not depend on."""


def flicker_depth(evidence: Evidence) -> tuple[Finding, ...]:
    """How deep the light dips at each setting that a photodiode was held to."""
    found = []
    for repeats in terms.grouped(evidence.having("percent_flicker"), *_NOT_SEEN_BY).values():
        percent = fmean([value_of(m, "percent_flicker") for m in repeats])
        index, svm = (_mean(repeats, name) for name in ("flicker_index", "svm"))
        told = [f"{percent:.1f} % flicker"]
        if index is not None:
            told.append(f"flicker index {index:.2f}")
        if svm is not None:
            seen = "seen" if svm >= SEEN_FROM_SVM else "not seen"
            told.append(f"SVM {svm:.2f}, {seen} on moving things by a mean observer")
        said = evidence.at(repeats[0], *_NOT_SEEN_BY)
        found.append(
            Finding(
                question="electrical",
                name="flicker depth",
                value=percent,
                unit="%",
                words=f"{', '.join(told)}",
                terms=said,
                readings=ids(repeats),
                axis=_NOT_SEEN_BY,
                not_covered=("what a camera shows of it: that depends on frame rate, shutter and read-out",),
                weight=20,
            )
        )
    return tuple(found)


def charts(evidence: Evidence) -> tuple[Finding, ...]:
    """How far a photographed chart is from the same chart under its benchmark, a photograph a finding."""
    found = []
    for measured in evidence.having("chart_balanced"):
        balanced, shot = value_of(measured, "chart_balanced"), measured.value("chart_as_shot")
        skin = measured.value("chart_skin")
        benchmark = benchmark_of(measured.reading) or "its benchmark"
        parts = [f"A photographed chart is {balanced:.1f} from the one in {benchmark} once greys agree"]
        if shot is not None:
            parts.append(f"{shot:.1f} as shot")
        if skin is not None:
            parts.append(f"its skins {skin:.1f}")
        said = evidence.at(measured)
        found.append(
            Finding(
                question="colour",
                name="chart photograph",
                value=balanced,
                unit="",
                words=f"{', '.join(parts)} (mean CIEDE2000)",
                terms=said,
                readings=ids([measured]),
                not_covered=("other cameras: it is this one's look",),
                weight=24,
            )
        )
    return tuple(found)


def fades(evidence: Evidence) -> tuple[Finding, ...]:
    """How long fades took, a recording a finding."""
    found = []
    for measured in evidence.having("fade_s"):
        seconds = value_of(measured, "fade_s")
        text = next(v.text for v in measured.reading.values if v.quantity == "fade_s")
        said = evidence.at(measured, "level")
        found.append(
            Finding(
                question="dimming",
                name="fade",
                value=seconds,
                unit="s",
                words=f"A fade took {text or f'{notation.plain(seconds, 2)} s'}",
                terms=said,
                readings=ids([measured]),
                axis=("level",),
                weight=12,
            )
        )
    return tuple(found)


def _mean(repeats: Sequence[Measured], quantity: str) -> float | None:
    known = [value for m in repeats if (value := m.value(quantity)) is not None]
    return fmean(known) if known else None
