"""Everything that one spectrum says, worked out without an interface: figures in groups, pictures, patches, plain
words."""

import math
from dataclasses import dataclass

import numpy as np

from even_beam.answers.spectrum.metrics import Metric, metrics_of, white_words
from even_beam.answers.spectrum.patches import pairs_of
from even_beam.answers.spectrum.subjects import SubjectRow, headline, rows_of
from even_beam.bench.records import Spectrum
from even_beam.figures.chart import Chart
from even_beam.figures.hues import hue_colours
from even_beam.figures.patches import PatchPair
from even_beam.figures.scores import Rgb, hue_strip_chart, lollipop_chart, rgb_of
from even_beam.figures.spectrum import spectrum_chart
from even_beam.light import Figures, FloatArray, evaluate, subjects
from even_beam.light.adaptation import adapted_to_d65, srgb
from even_beam.light.colorimetry import cct_and_duv, observer, tristimulus, uv_1960, xy
from even_beam.light.colour import centroid_wavelength, dominant_wavelength, luminous_efficacy
from even_beam.light.cri import beyond_standard, colour_rendering, mean_of_fifteen
from even_beam.light.filters import cc_of_duv, gel_fraction_of_duv
from even_beam.light.references import PRINT_VIEWING, QUOTED, reference_spectrum
from even_beam.light.rendering import seen_by_camera, seen_by_eye, white_balance_rescue
from even_beam.light.spectra import WAVELENGTH_NM, resample
from even_beam.light.ssi import matched_reference, similarity
from even_beam.light.tables import table
from even_beam.light.tlci import SECTORS, advice
from even_beam.light.tm30 import HUE_BINS, colour_fidelity, design_intent, sample_fidelity, skin_fidelity
from even_beam.light.uncertainty import SCORES, USUAL_XY, score_half_widths, white_tolerance
from even_beam.light.white import daylight_distance, named_whites, nearest_named_white, share_between_curves
from even_beam.words import notation
from even_beam.words.metrics import METRICS, MetricWords


@dataclass(frozen=True, slots=True)
class Line:
    """One figure: its name, and its value as written."""

    name: str
    value: str


@dataclass(frozen=True, slots=True)
class Group:
    """Figures that belong together, with what they say and where they mislead."""

    title: str
    lines: tuple[Line, ...]
    words: MetricWords


@dataclass(frozen=True, eq=False, slots=True)
class SpectrumView:
    """All that the Spectrum panel shows."""

    name: str
    understood: str
    spectrum: Chart
    groups: tuple[Group, ...]
    samples: Chart
    all_samples: Chart
    shifts: Chart
    answer: str
    white: str
    by_eye: tuple[SubjectRow, ...]
    by_camera: tuple[SubjectRow, ...]
    metrics: tuple[Metric, ...]
    eye: tuple[PatchPair, ...]
    camera: tuple[PatchPair, ...]
    rescue: str


def view_of(name: str, spectrum: Spectrum, understood: str = "", own: subjects.Own | None = None) -> SpectrumView:
    """Work everything out, for one's `own` subjects as well; takes some tenths of a second. Raises `SpectrumError`."""
    figures = evaluate(spectrum.wavelength_nm, spectrum.values, absolute=spectrum.absolute)
    grid = resample(spectrum.wavelength_nm, spectrum.values)
    measured = _measured(spectrum)
    cct = float(figures.cct_k)
    coloured = not math.isfinite(cct)
    groups = [_white_group(figures, grid), _colour_group(figures, grid)]
    eye: tuple[PatchPair, ...] = ()
    camera: tuple[PatchPair, ...] = ()
    rescue = ""
    by_eye: tuple[SubjectRow, ...] = ()
    by_camera: tuple[SubjectRow, ...] = ()
    scores: Chart = lollipop_chart([math.nan], ((0, 0, 0),), ["R1"], "R1–R15")
    every: Chart = scores
    if not coloured:
        one = np.array([cct])
        reference = matched_reference(one)[0]
        groups += [
            *_score_groups(figures, grid[None, :], one),
            _ssi_group(figures, grid, measured),
            _tlci_group(figures, grid[None, :], one),
        ]
        groups.append(_uncertainty_group(grid))
        scores, every = _sample_charts(figures, grid, one)
        eye, camera = pairs_of(seen_by_eye(grid, reference)), pairs_of(seen_by_camera(grid, reference))
        rescue = _rescue_words(grid, reference)
        special = {i: float(score) for i, score in enumerate(figures.cri.R, start=1)}
        by_eye = rows_of(subjects.seen_by_eye(grid, reference, own), special)
        by_camera = rows_of(subjects.seen_by_camera(grid, reference, own), special)
    shifts = hue_strip_chart(
        figures.tm30.Rcs_h.tolist(),
        figures.tm30.Rhs_h.tolist(),
        hue_colours(HUE_BINS),
        "hue by hue: up more vivid, a lean turns it",
    )
    chart = spectrum_chart(spectrum, None if coloured else cct)
    return SpectrumView(
        name=name,
        understood=understood,
        spectrum=chart,
        groups=tuple(groups),
        samples=scores,
        all_samples=every,
        shifts=shifts,
        answer=headline(by_eye) if by_eye else "The light is coloured: no subject has a colour of its own under it.",
        white=white_words(figures),
        by_eye=by_eye,
        by_camera=by_camera,
        metrics=metrics_of(figures, grid, measured),
        eye=eye,
        camera=camera,
        rescue=rescue,
    )


def _measured(spectrum: Spectrum) -> FloatArray:
    from even_beam.light.spectra import WAVELENGTH_NM

    inside = (WAVELENGTH_NM >= spectrum.wavelength_nm[0]) & (WAVELENGTH_NM <= spectrum.wavelength_nm[-1])
    return inside.astype(np.float64)


def _white_group(figures: Figures, grid: FloatArray) -> Group:
    cct, duv = float(figures.cct_k), float(figures.duv)
    lines = []
    if math.isfinite(float(figures.illuminance_lx)):
        lines.append(Line("illuminance", f"{notation.light(float(figures.illuminance_lx))}"))
    if not math.isfinite(cct):
        lines.append(Line("colour temperature", "none: the light is coloured"))
        return Group("white", tuple(lines), METRICS["white"])
    index, distance = nearest_named_white(figures.x, figures.y)
    lines += [
        Line("colour temperature", f"{notation.kelvin(cct)} K · {notation.number(1e6 / cct)} mired"),
        Line("Duv (Planckian)", notation.duv(duv)),
    ]
    u, v = uv_1960(figures.x, figures.y)
    off_daylight, share = float(daylight_distance(u, v)[0]), float(share_between_curves(u, v))
    if math.isfinite(off_daylight):
        lines.append(Line("off daylight curve", notation.duv(off_daylight)))
        lines.append(Line("towards daylight", f"{notation.number(100.0 * share)} %"))
    white = max(cct, 1500.0)
    lines += [
        Line(
            "tint here",
            f"CC {notation.number(float(cc_of_duv(duv, white)), 1, signed=True)} (+ green) · corrected by"
            f" {gel_fraction_of_duv(duv, white)}",
        ),
        Line("nearest white", f"{named_whites()[int(index)].name}, {notation.number(float(distance), 4)} u′v′ off"),
    ]
    return Group("white", tuple(lines), METRICS["curves"] if math.isfinite(off_daylight) else METRICS["white"])


def _colour_group(figures: Figures, grid: FloatArray) -> Group:
    dominant, purity = dominant_wavelength(figures.x, figures.y)
    lines = (
        Line("x, y", f"{notation.number(float(figures.x), 4)}, {notation.number(float(figures.y), 4)}"),
        Line("u′, v′", f"{notation.number(float(figures.u_prime), 4)}, {notation.number(float(figures.v_prime), 4)}"),
        Line("peak, centroid", f"{figures.peak_nm:.0f} nm, {float(centroid_wavelength(grid)):.0f} nm"),
        Line(
            "dominant, purity",
            f"{notation.number(float(dominant))} nm, {notation.number(100 * float(purity))} %",
        ),
        Line("radiation gives", f"{notation.number(float(luminous_efficacy(grid)))} lm/W"),
    )
    return Group(
        "light",
        lines,
        MetricWords(
            "What the spectrum is, before any eye judges it.",
            "Dominant wavelength and purity are against equal energy; a purple is given by its complement, negative.",
        ),
    )


def _score_groups(figures: Figures, grid: FloatArray, cct: FloatArray) -> list[Group]:
    rendering = colour_rendering(grid, cct)
    special = figures.cri.R
    worst = int(np.argmin(special))
    lines = [
        Line("Ra (R1–R8)", notation.number(float(figures.cri.Ra), 1)),
        Line("mean of 15, not Ra", notation.number(float(mean_of_fifteen(special)), 1)),
        Line("R9 R12 R13 R15", " · ".join(notation.number(float(special[i])) for i in (8, 11, 12, 14))),
        Line(
            "lowest",
            f"R{worst + 1} {notation.number(float(special[worst]), 1)} (difference"
            f" {notation.number(float(rendering.delta_e[0, worst]), 1)})",
        ),
    ]
    if bool(beyond_standard(rendering.chromaticity_difference)[0]):
        lines.append(Line("beyond the standard", "the tint is too strong for these scores to be accurate"))
    fidelity = colour_fidelity(grid, cct)
    intent = design_intent(
        float(fidelity.Rf[0]), float(fidelity.Rg[0]), float(fidelity.Rf_h[0, 0]), float(fidelity.Rcs_h[0, 0])
    )
    tm30 = (
        Line("Rf · Rg", f"{notation.number(float(figures.tm30.Rf), 1)} · {notation.number(float(figures.tm30.Rg), 1)}"),
        Line("Rf of skin", notation.number(float(skin_fidelity(fidelity.delta_e)[0]), 1)),
        Line(
            "reds: Rf, chroma",
            f"{notation.number(float(fidelity.Rf_h[0, 0]))},"
            f" {notation.number(float(fidelity.Rcs_h[0, 0]), 1, signed=True)} %",
        ),
        Line("design intent", " · ".join(f"{name} {level}" for name, level in intent.items())),
    )
    return [Group("CRI", tuple(lines), METRICS["cri"]), Group("TM-30", tm30, METRICS["tm30"])]


def _ssi_group(figures: Figures, grid: FloatArray, measured: FloatArray) -> Group:
    lines = []
    for name in (*QUOTED, PRINT_VIEWING):
        reference = reference_spectrum(name)
        if reference is not None:
            lines.append(
                Line(
                    f"against {name}" + (", prints" if name == PRINT_VIEWING else ""),
                    notation.number(float(similarity(grid, reference, measured))),
                )
            )
    kind = "Planckian" if float(figures.cct_k) < 4000.0 else "daylight"
    matched = "against matched"
    return Group(
        "SSI",
        (
            *lines,
            Line(
                matched,
                f"{notation.number(float(figures.ssi.value))} ({kind} {notation.kelvin(float(figures.cct_k))} K)",
            ),
        ),
        METRICS["ssi"],
    )


def _tlci_group(figures: Figures, grid: FloatArray, cct: FloatArray) -> Group:
    found = advice(grid, cct)
    lines = [Line("Qa", notation.number(float(figures.tlci.Qa), 1))]
    strength = (
        np.nan_to_num(np.abs(found.chroma[0]))
        + np.nan_to_num(np.abs(found.lightness[0]))
        + np.nan_to_num(np.abs(found.hue_deg[0])) / 4.0
    )
    for i in np.argsort(strength)[::-1][:3]:
        if strength[i] < 1.0:
            break
        lines.append(
            Line(
                SECTORS[i],
                _correction(float(found.lightness[0, i]), float(found.chroma[0, i]), float(found.hue_deg[0, i])),
            )
        )
    return Group("TLCI", tuple(lines), METRICS["tlci"])


def _correction(lightness: float, chroma: float, hue: float) -> str:
    """What to do about a sector: the opposite of what the lamp does."""
    parts = []
    if abs(chroma) >= 0.7:
        parts.append("less saturated" if chroma > 0 else "more saturated")
    if abs(lightness) >= 0.7:
        parts.append("darker" if lightness > 0 else "lighter")
    if abs(hue) >= 2.0:
        parts.append(f"hue {notation.number(-hue, 0, signed=True)}°")
    return ", ".join(parts) or "nearly right"


def _uncertainty_group(grid: FloatArray) -> Group:
    cct, duv = cct_and_duv(*uv_1960(*xy(tristimulus(grid))))
    mired, tint = white_tolerance(cct, USUAL_XY, duv)
    half = dict(zip(SCORES, score_half_widths(WAVELENGTH_NM, grid), strict=True))
    lines = (
        Line("colour temperature", f"±{notation.number(float(mired), 1)} mired"),
        Line("Duv", f"±{notation.number(float(tint), 4)}"),
        Line("Ra · Rf · SSI", " · ".join(f"±{notation.number(float(half[name]), 1)}" for name in ("ra", "rf", "ssi"))),
        Line(
            "R9 · R13 · TLCI", " · ".join(f"±{notation.number(float(half[name]), 1)}" for name in ("r9", "r13", "tlci"))
        ),
    )
    return Group(
        "what a handheld meter can tell",
        lines,
        MetricWords(
            "95 % of readings of a meter with xy ±0.003 lie within these of the truth.",
            "An estimate from smooth calibration errors; stray light and noise at low levels come on top.",
        ),
    )


def _sample_charts(figures: Figures, grid: FloatArray, cct: FloatArray) -> tuple[Chart, Chart]:
    wavelength, samples = table("cie-13.3-samples")
    names = [f"R{i}" for i in range(1, 16)]
    first = lollipop_chart(
        figures.cri.R.tolist(), _under(grid, resample(wavelength, samples.T)), names, "R1–R15, off a perfect 100"
    )
    fidelity = colour_fidelity(grid[None, :], cct)
    ninety_nine = table("cie-224-samples")[1].T
    rf = sample_fidelity(fidelity.delta_e)[0].tolist()
    second = lollipop_chart(
        rf, _under(grid, ninety_nine), [str(i) for i in range(1, 100)], "the 99 samples of TM-30, off a perfect 100"
    )
    return first, second


def sample_colours(spectrum: Spectrum) -> tuple[Rgb, ...]:
    """The display colours of the samples R1-R15 under a spectrum. Raises `SpectrumError`."""
    wavelength, samples = table("cie-13.3-samples")
    return _under(resample(spectrum.wavelength_nm, spectrum.values), resample(wavelength, samples.T))


def _under(light: FloatArray, reflectance: FloatArray) -> tuple[Rgb, ...]:
    """The display colours of reflectances under a light, for an adapted eye."""
    white = tristimulus(light)
    xyz = (light * reflectance) @ observer() / white[1]
    return rgb_of(srgb(adapted_to_d65(xyz, white / white[1])))


def _rescue_words(grid: FloatArray, reference: FloatArray) -> str:
    found = white_balance_rescue(grid, reference)
    before, after = float(found.without), float(found.with_balance)
    return (
        f"A camera balanced for the reference would be off by {notation.number(before, 1)} on average; a white balance"
        f" on this lamp leaves {notation.number(after, 1)} (CIEDE2000, 24 patches)."
    )
