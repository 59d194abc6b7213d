"""Spectra of files as readings: each with the lamp, white and level that its names say, in a session of their own."""

from collections.abc import Container, Iterable, Sequence
from dataclasses import dataclass, replace
from pathlib import Path

from even_beam.answers.intake.already_there import AlreadyThere
from even_beam.answers.intake.kit import Clock, ImportReport, Kit
from even_beam.answers.intake.naming import NamedSo, by_pattern, proposed
from even_beam.bench.records import Event, EventKind, Reading, Session, Spectrum, Terms, new_id
from even_beam.bench.terms import said_of
from even_beam.collection.evaluation import evaluate_outdated
from even_beam.files.reading import shown_name, shown_stem
from even_beam.formats import FormatError, NamedSpectrum, read_spectra
from even_beam.formats.registry import KnownMappings
from even_beam.light import SpectrumError
from even_beam.light.spectra import validate


@dataclass(frozen=True, eq=False, slots=True)
class FoundSpectrum:
    """A spectrum of a file, and what it is probably of."""

    named: NamedSpectrum
    file: str
    of: NamedSo


def spectra_of(
    paths: Sequence[Path],
    lamps: Iterable[str],
    pattern: str = "",
    known: KnownMappings = lambda shape: None,
    without_dial: Container[str] = (),
) -> tuple[list[FoundSpectrum], list[str]]:
    """Every spectrum of some files with what its names say, and why others were refused. Raises nothing."""
    found: list[FoundSpectrum] = []
    refused: list[str] = []
    names = list(lamps)
    for path in paths:
        try:
            for named in read_spectra(path, known):
                try:
                    validate(named.wavelength_nm, named.values)
                    found.append(
                        FoundSpectrum(named, shown_name(path), _said_of(named, path, names, pattern, without_dial))
                    )
                except SpectrumError as error:
                    refused.append(f"{shown_name(path)}: {error}")
        except FormatError as error:
            refused.append(error.of(path))
    return found, refused


def _said_of(
    named: NamedSpectrum, path: Path, lamps: Sequence[str], pattern: str, without_dial: Container[str]
) -> NamedSo:
    """The name of the spectrum within its file says more than the file's."""
    own = named.name.removeprefix(shown_stem(path)).strip()
    names = [name for name in ("" if own.isdigit() else own, shown_stem(path)) if name]
    return by_pattern(pattern, names) if pattern else proposed(names, lamps, without_dial)


def repeats_among(found: Sequence[FoundSpectrum]) -> list[str]:
    """Where several spectra would become repeats of one lamp at the same terms: the lamp, and what they are called."""
    alike: dict[tuple[str, Terms], list[str]] = {}
    for one in found:
        alike.setdefault((one.of.lamp.casefold(), one.of.terms), []).append(one.named.name)
    return [
        f"{next(o.of.lamp for o in found if o.of.lamp.casefold() == lamp) or 'a lamp not named'}: {', '.join(names)}"
        for (lamp, _), names in alike.items()
        if len(names) > 1
    ]


def taken_for(found: Sequence[FoundSpectrum]) -> list[tuple[str, str, str]]:
    """Each spectrum with the lamp it was taken for, and the terms."""
    return [(o.named.name, o.of.lamp or "lamp not named", said_of(o.of.terms) or "no terms") for o in found]


def keep_spectra(found: Sequence[FoundSpectrum], name: str, kit: Kit, clock: Clock) -> ImportReport:
    """Keep spectra in a session of their own, named `name`, lamps added by their nicknames."""
    now, logbook = clock(), kit.logbook
    session, there = Session(new_id(), name, now), AlreadyThere(kit.logbook, name)
    taken: list[tuple[Reading, Spectrum | None]] = []
    events = []
    for one in found:
        source = kit.source(one.of.lamp)
        reading = Reading(
            id=new_id(),
            session_id=session.id,
            at=now,
            sequence=len(taken) + 1,
            terms=one.of.terms,
            source_ids=(source.id,) if source else (),
            note=one.named.name,
        )
        spectrum = Spectrum(one.named.wavelength_nm, one.named.values, one.named.absolute)
        if there.takes(reading, spectrum):
            continue
        taken.append((reading, spectrum))
        event = Event(
            id=new_id(),
            session_id=session.id,
            sequence=reading.sequence,
            at=now,
            kind=EventKind.TAKEN,
            reading_id=reading.id,
        )
        events.append(replace(event, reason=f"imported from {one.file}"))
    again = len(found) - len(taken)
    if not taken:
        return ImportReport(again=again)
    kit.keep(session, taken, events)
    evaluate_outdated(logbook)
    return ImportReport([session], len(taken), len(taken), again=again)
