"""Spectrum files opened to be looked at, with how they were read and a preview of another way."""

from dataclasses import dataclass
from pathlib import Path

from even_beam.bench.records import Spectrum
from even_beam.figures.chart import Axis, Chart
from even_beam.figures.spectrum import Curve, Scaling, overlay_chart
from even_beam.formats import FormatError, NamedSpectrum, read_spectra
from even_beam.formats.delimited import Mapping, guess, read_lines, shape_of
from even_beam.formats.registry import KnownMappings, is_table, table_lines
from even_beam.light import SpectrumError
from even_beam.light.spectra import validate


@dataclass(frozen=True, eq=False, slots=True)
class OpenedFile:
    """A file of spectra: those that are good, what is wrong with the others, and how a table was read."""

    path: Path
    spectra: tuple[NamedSpectrum, ...]
    refused: tuple[str, ...]
    lines: tuple[str, ...] = ()
    mapping: Mapping | None = None
    shape: str = ""


def open_file(path: Path, known: KnownMappings) -> OpenedFile:
    """Read a file. Raises `FormatError` when nothing in it is a spectrum."""
    lines: list[str] = []
    mapping, shape = None, ""
    if is_table(path):
        lines = table_lines(path)
        try:
            guessed = guess(lines, path.stem)
        except FormatError:
            guessed = None
        if guessed is not None:
            shape = shape_of(lines, guessed)
            mapping = known(shape) or guessed
    found = read_lines(lines, path.stem, mapping) if mapping is not None else read_spectra(path, known)
    return _sorted_out(path, found, tuple(lines), mapping, shape)


def read_again(opened: OpenedFile, mapping: Mapping) -> OpenedFile:
    """The same file by another mapping. Raises `FormatError`."""
    found = read_lines(list(opened.lines), opened.path.stem, mapping)
    return _sorted_out(opened.path, found, opened.lines, mapping, opened.shape)


def _sorted_out(
    path: Path, found: list[NamedSpectrum], lines: tuple[str, ...], mapping: Mapping | None, shape: str
) -> OpenedFile:
    good, refused = [], []
    for spectrum in found:
        try:
            validate(spectrum.wavelength_nm, spectrum.values)
            good.append(spectrum)
        except SpectrumError as error:
            refused.append(f"{spectrum.name}: {error}")
    if not good:
        raise FormatError(f"{path.name}: no spectrum that figures can be computed from. {'; '.join(refused[:3])}")
    return OpenedFile(path=path, spectra=tuple(good), refused=tuple(refused), lines=lines, mapping=mapping, shape=shape)


@dataclass(frozen=True, eq=False, slots=True)
class MappingPreview:
    """What a mapping makes of a file, before it counts."""

    good: bool
    words: str
    chart: Chart


_EMPTY = Chart("", Axis("wavelength, nm", 380.0, 780.0), Axis("", 0.0, 1.0), (), "Nothing to show.")


def preview(lines: list[str], name: str, mapping: Mapping) -> MappingPreview:
    """Read the lines by a mapping, and say what came of it."""
    try:
        found = read_lines(lines, name, mapping)
        for spectrum in found:
            validate(spectrum.wavelength_nm, spectrum.values)
    except (FormatError, SpectrumError) as error:
        return MappingPreview(False, str(error), _EMPTY)
    curves = [Curve(Spectrum(s.wavelength_nm, s.values, s.absolute), i, s.name) for i, s in enumerate(found[:8])]
    first = found[0].wavelength_nm
    count = "one spectrum" if len(found) == 1 else f"{len(found)} spectra"
    words = f"{count}, {first.size} points, {first[0]:g} to {first[-1]:g} nm: {mapping.words}"
    return MappingPreview(True, words, overlay_chart(curves, Scaling.PEAK))
