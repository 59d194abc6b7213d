"""All figures of spectra against colour-science and luxpy."""

import warnings

import numpy as np

from benchmarks.timing import best_of
from even_beam.light import WAVELENGTH_NM, daylight, evaluate, planckian

BATCH = 10_000


def lamps(count: int) -> np.ndarray:
    """Random white lamps, none coloured."""
    random = np.random.default_rng(11)
    base = np.where(
        random.random(count)[:, None] < 0.5,
        planckian(random.uniform(2200, 6000, count)),
        daylight(random.uniform(4500, 9000, count)),
    )
    bump = np.exp(
        -(((WAVELENGTH_NM - random.uniform(420, 680, count)[:, None]) / random.uniform(8, 60, count)[:, None]) ** 2)
    )
    return base * (1.0 + random.uniform(-0.5, 0.5, count)[:, None] * bump)


def report() -> list[str]:
    """Lines with the ratios."""
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        return _report()


def _report() -> list[str]:
    import colour
    import luxpy
    from colour.quality import colour_fidelity_index_ANSIIESTM3018, spectral_similarity_index

    colour.utilities.filter_warnings(*[True] * 4)
    batch = lamps(BATCH)
    one = batch[0]
    sd = colour.SpectralDistribution(dict(zip(WAVELENGTH_NM, one, strict=True)))
    reference = colour.sd_blackbody(3200.0, colour.SpectralShape(375, 675, 1))

    def with_colour() -> None:
        copy = sd.copy()
        colour.colour_rendering_index(copy, additional_data=True)
        colour_fidelity_index_ANSIIESTM3018(copy, additional_data=True)
        spectral_similarity_index(copy, reference)
        colour.temperature.uv_to_CCT_Ohno2013(colour.UCS_to_uv(colour.XYZ_to_UCS(colour.sd_to_XYZ(copy) / 100.0)))

    spd = np.vstack([WAVELENGTH_NM, batch[:200]])

    def with_luxpy() -> None:
        luxpy.cri.spd_to_cri(spd, cri_type="ies-tm30", out="Rf,Rg")
        luxpy.cri.spd_to_cri(spd, cri_type="ciera", out="Rf")
        luxpy.xyz_to_cct(luxpy.spd_to_xyz(spd, cieobs="1931_2"), cieobs="1931_2", out="cct,duv")

    evaluate(WAVELENGTH_NM, batch[:2])
    with_colour()
    theirs = best_of(with_colour, 10)
    alone = best_of(lambda: evaluate(WAVELENGTH_NM, one), 50)
    together = best_of(lambda: evaluate(WAVELENGTH_NM, batch), 3) / BATCH
    lux = best_of(with_luxpy, 3) / 200
    return [
        f"colour-science, CRI + TM-30 + SSI + CCT of one spectrum: {theirs * 1e3:.1f} ms",
        f"all figures of one spectrum, TLCI included: {alone * 1e3:.2f} ms, {theirs / alone:.0f}x faster (wanted: 15x)",
        f"in batches of {BATCH}: {together * 1e6:.0f} us a spectrum, {theirs / together:.0f}x faster (wanted: 400x)",
        (
            f"luxpy's leanest batch, Rf + Rg + Ra + CCT: {lux * 1e6:.0f} us a spectrum, {lux / together:.0f}x slower"
            " (wanted: 40x)"
        ),
    ]
