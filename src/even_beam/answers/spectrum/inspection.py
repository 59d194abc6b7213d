"""Figures of spectrum files, as `even-beam inspect` prints them (keys in docs/file-format.md)."""

import math
from collections.abc import Iterable, Iterator
from pathlib import Path
from typing import Any

import numpy as np

from even_beam.answers.spectrum import beams
from even_beam.errors import TellableError
from even_beam.formats import FormatError, NamedSpectrum, read_spectra
from even_beam.formats.kinds import BEAMS, SPECTRA
from even_beam.light import FloatArray, SpectrumError, evaluate
from even_beam.light.colorimetry import tristimulus, uv_1976, xy
from even_beam.light.photometry import stops
from even_beam.light.references import reference_spectrum
from even_beam.light.spectra import WAVELENGTH_NM, resample, resample_linearly, validate
from even_beam.light.ssi import similarity
from even_beam.light.tlci import matching
from even_beam.words import notation


class InspectionError(TellableError):
    """A file that no figures could be had from; the message names it."""


class Inspector:
    """Computes figures of files, against a stated SSI reference and, when given, another spectrum."""

    def __init__(self, against: Path | None, ssi_reference: str) -> None:
        self._against = None if against is None else _single(against)
        self._against_path = against
        self._reference_name = ssi_reference
        self._reference = _reference(ssi_reference)

    def figures(self, path: Path) -> Iterator[dict[str, Any]]:
        """The figures of each spectrum of a file, or of the beam of one of LM-63. Raises `InspectionError`."""
        if BEAMS.takes(path):
            yield _beam(path)
            return
        for named in _read(path):
            try:
                yield self._figures(path, named)
            except SpectrumError as error:
                raise InspectionError(f"{named.name}: {error}") from error

    def _figures(self, path: Path, named: NamedSpectrum) -> dict[str, Any]:
        figures = evaluate(named.wavelength_nm, named.values, absolute=named.absolute)
        grid = resample(named.wavelength_nm, named.values)
        ssi = {"reference": self._reference_name, "value": float(figures.ssi.value)}
        if self._reference is not None:
            ssi["value"] = float(similarity(_linear(named), self._reference, _measured(named)))
        found = {
            "file": str(path),
            "illuminance_lx": float(figures.illuminance_lx),
            "cct_k": float(figures.cct_k),
            "duv": float(figures.duv),
            "x": float(figures.x),
            "y": float(figures.y),
            "u_prime": float(figures.u_prime),
            "v_prime": float(figures.v_prime),
            "peak_nm": float(figures.peak_nm),
            "cri": {"Ra": float(figures.cri.Ra), "R": figures.cri.R.tolist()},
            "tm30": {
                "Rf": float(figures.tm30.Rf),
                "Rg": float(figures.tm30.Rg),
                "Rf_h": figures.tm30.Rf_h.tolist(),
                "Rcs_h": figures.tm30.Rcs_h.tolist(),
                "Rhs_h": figures.tm30.Rhs_h.tolist(),
            },
            "ssi": ssi,
            "tlci": {"Qa": float(figures.tlci.Qa)},
        }
        if self._against is not None:
            found["against"] = self._compared(named, grid)
        result: dict[str, Any] = _without_nan(found)
        return result

    def _compared(self, named: NamedSpectrum, grid: FloatArray) -> dict[str, Any]:
        other = self._against
        if other is None:
            raise InspectionError("there is no spectrum to compare with")
        other_grid = resample(other.wavelength_nm, other.values)
        ours, theirs = tristimulus(grid), tristimulus(other_grid)
        u, v = np.array(uv_1976(*xy(ours))) - np.array(uv_1976(*xy(theirs)))
        absolute = named.absolute and other.absolute
        return {
            "file": str(self._against_path),
            "ssi": float(similarity(_linear(named), _linear(other), _measured(named) * _measured(other))),
            "tlmf": float(matching(grid, other_grid)),
            "delta_u_v_prime": float(np.hypot(u, v)),
            "stops": float(stops(ours[1] / theirs[1])) if absolute else math.nan,
        }

    @staticmethod
    def text(figures: dict[str, Any]) -> str:
        """A line for people."""
        parts = [str(figures["file"])]
        if "peak_cd" in figures:
            return "  ".join([*parts, *_beam_words(figures)])
        if figures["illuminance_lx"] is not None:
            parts.append(f"{notation.light(figures['illuminance_lx'])}")
        if figures["cct_k"] is None:
            parts.append(f"coloured, peak {figures['peak_nm']:.0f} nm")
        else:
            parts += [
                f"{notation.kelvin(figures['cct_k'])} K",
                f"Duv {notation.duv(figures['duv'])}",
                f"Ra {notation.number(figures['cri']['Ra'], 1)}",
                f"R9 {notation.number(figures['cri']['R'][8], 1)}",
                f"Rf {notation.number(figures['tm30']['Rf'], 1)}",
                f"Rg {notation.number(figures['tm30']['Rg'], 1)}",
                f"SSI({figures['ssi']['reference']}) {notation.number(figures['ssi']['value'])}",
                f"TLCI {notation.number(figures['tlci']['Qa'])}",
            ]
        return "  ".join(parts)


def _beam(path: Path) -> dict[str, Any]:
    try:
        return beams.beam_figures(path)
    except FormatError as error:
        raise InspectionError(str(error)) from error


def _beam_words(figures: dict[str, Any]) -> list[str]:
    words = [f"peak {notation.significant(figures['peak_cd'])} cd", f"{notation.significant(figures['lumens'])} lm"]
    for name in ("beam", "field"):
        angle = figures[f"{name}_angle_deg"]
        words.append(f"{name} {notation.plain(angle)}°" if angle is not None else f"{name} wider than was read")
    return words


def _read(path: Path) -> list[NamedSpectrum]:
    try:
        return read_spectra(path)
    except FormatError as error:
        raise InspectionError(f"{path}: {str(error).removeprefix(f'{path.stem}: ')}") from error


def _single(path: Path) -> NamedSpectrum:
    named = _read(path)[0]
    try:
        validate(named.wavelength_nm, named.values)
    except SpectrumError as error:
        raise InspectionError(f"{path.name}: {error}") from error
    return named


def _linear(named: NamedSpectrum) -> FloatArray:
    """As SSI takes a spectrum."""
    return resample_linearly(named.wavelength_nm, named.values)


def _measured(named: NamedSpectrum) -> FloatArray:
    inside = (WAVELENGTH_NM >= named.wavelength_nm[0]) & (WAVELENGTH_NM <= named.wavelength_nm[-1])
    return inside.astype(np.float64)


def _reference(name: str) -> FloatArray | None:
    """The reference spectrum of a name or a file; None for matched."""
    if name == "matched":
        return None
    named = reference_spectrum(name)
    if named is not None:
        return named
    path = Path(name)
    if not path.exists():
        raise InspectionError(f"the SSI reference “{name}” is neither P3200, D55, matched nor a file")
    found = _single(path)
    return resample(found.wavelength_nm, found.values)


def files_below(paths: Iterable[Path]) -> list[Path]:
    """The files themselves, and for a folder the files of spectra below it, in order."""
    found: list[Path] = []
    for path in paths:
        if path.is_dir():
            found += sorted(p for p in path.rglob("*") if p.is_file() and (SPECTRA.takes(p) or BEAMS.takes(p)))
        else:
            found.append(path)
    return found


def _without_nan(value: Any) -> Any:
    if isinstance(value, dict):
        return {key: _without_nan(item) for key, item in value.items()}
    if isinstance(value, list):
        return [_without_nan(item) for item in value]
    return None if isinstance(value, float) and not math.isfinite(value) else value
