"""Every kind of file that the program reads: what it is called, by which suffixes it is offered, and how a table that
could be of several is told by its first line. File dialogs, what is dropped and the command line take what stands here.
"""

from dataclasses import dataclass
from pathlib import Path

from even_beam.formats import columns, readings_table, trace_table
from even_beam.formats.frames import FILM_SUFFIXES
from even_beam.formats.photo_file import PHOTO_SUFFIXES
from even_beam.formats.registry import SPECTRUM_SUFFIXES
from even_beam.formats.waveform_file import WAVEFORM_SUFFIXES


@dataclass(frozen=True, slots=True)
class Kind:
    """A kind of file: its name, and the suffixes it comes under, in small letters."""

    name: str
    suffixes: frozenset[str]

    def takes(self, path: Path) -> bool:
        """Whether a file may be of this kind, by its name."""
        return path.suffix.lower() in self.suffixes


TABLE_SUFFIXES = frozenset({".csv", ".tsv", ".txt", ".xlsx"})

SPECTRA = Kind("spectra", frozenset(SPECTRUM_SUFFIXES))
READINGS = Kind("readings", TABLE_SUFFIXES)
TRACES = Kind("traces", TABLE_SUFFIXES)
BEAMS = Kind("beams", frozenset({".ies"}))
PHOTOS = Kind("photos", PHOTO_SUFFIXES)
SNAPSHOTS = Kind("photos", frozenset({".jpg", ".jpeg", ".png", ".webp", ".tif", ".tiff"}))
"""Photos that are kept with a reading or an observation: made small, and never measured."""
WAVEFORMS = Kind("waveforms", WAVEFORM_SUFFIXES | {".xlsx"})
FILMS = Kind("films", FILM_SUFFIXES)


def file_filter(*kinds: Kind) -> str:
    """Kinds as a file dialog offers them: `Readings, spectra (*.csv *.json);;All files (*)`."""
    names = ", ".join(dict.fromkeys(kind.name for kind in kinds))
    patterns = " ".join(f"*{suffix}" for suffix in sorted({suffix for kind in kinds for suffix in kind.suffixes}))
    return f"{names[:1].upper()}{names[1:]} ({patterns});;All files (*)"


def kind_of(path: Path) -> Kind:
    """What a file holds that may become readings, by its first line: readings, traces or spectra. Raises
    `FormatError`."""
    if not READINGS.takes(path):
        return SPECTRA
    headings = readings_table.headings_of(path)
    if trace_table.is_trace(headings):
        return TRACES
    guess = columns.guess(headings)
    told = sum(target != columns.IGNORED for target in guess.values())
    are_readings = columns.is_known(headings) or told >= 2 or {"quantity", "value"} <= set(guess.values())
    return READINGS if are_readings else SPECTRA
