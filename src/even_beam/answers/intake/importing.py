"""Past readings and spectra from files into a session; texts are understood here, and kept as typed."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path
from typing import TYPE_CHECKING

from even_beam.answers.intake.already_there import AlreadyThere
from even_beam.answers.intake.kit import ImportReport, Kit
from even_beam.answers.intake.mappings import known_columns
from even_beam.answers.intake.naming import files_in
from even_beam.answers.intake.past_table import Draft, PastTable, asked_in, slips_in, understand
from even_beam.answers.intake.session_folder import holds_session, keep_session, read_session
from even_beam.answers.intake.spectra import keep_spectra, repeats_among, spectra_of, taken_for
from even_beam.bench.exposure import Exposure
from even_beam.bench.records import Event, EventKind, Reading, Session, Terms, new_id
from even_beam.bench.seen import note_of
from even_beam.bench.traces import ends_of
from even_beam.files.reading import shown_name, shown_stem
from even_beam.formats import FormatError, readings_table, trace_table
from even_beam.formats.columns import UndecidedError
from even_beam.formats.kinds import READINGS, SPECTRA, TRACES, kind_of

if TYPE_CHECKING:
    from even_beam.logbook.store import Logbook

Clock = Callable[[], datetime]


def keep(past: PastTable, logbook: "Logbook", clock: Clock) -> ImportReport:
    """Keep what was understood: one session a name, lamps and meters added by their nicknames."""
    report = ImportReport(refused=list(past.refused), passed_over=past.passed_over)
    kit = Kit(logbook)
    for name, drafts in past.by_session.items():
        _keep_session(name=name, drafts=drafts, file=past.name, kit=kit, clock=clock, report=report)
    return report


@dataclass(frozen=True, slots=True)
class AsSaid:
    """What was said beforehand of files: a `pattern` of the names of spectra, the `columns` of a table in their order
    or to `guess` them, and to `keep_repeats` where several files are of one lamp at one set of terms."""

    pattern: str = ""
    columns: tuple[str, ...] = ()
    guess: bool = False
    keep_repeats: bool = False
    told: Callable[[readings_table.Table], None] = lambda table: None
    explained: Callable[[readings_table.Table, Mapping[str, str]], None] = lambda table, mapping: None


class RepeatsError(FormatError):
    """Several files would become repeats of one lamp, and nobody said that they are."""


ASKS = (RepeatsError, UndecidedError)
"""What is asked before anything comes in."""


def import_table(path: Path, logbook: "Logbook", clock: Clock, said: AsSaid = AsSaid()) -> ImportReport:
    """Readings of a flat table into one session a name, by the columns that were said, else by the mapping kept for
    them; it is told once it is read, before the long part begins. Raises `FormatError`."""
    table = readings_table.load(path)
    if said.columns:
        table = table.headed(said.columns)
    mapping = known_columns(logbook, table.shape)
    if said.columns or said.guess:
        mapping = readings_table.guess_of(table)
        said.explained(table, mapping)
    said.told(table)
    return keep(understand(table, mapping), logbook, clock)


def _keep_session(name: str, drafts: Sequence[Draft], file: str, kit: Kit, clock: Clock, report: ImportReport) -> None:
    now = clock()
    first = min((draft.at for draft in drafts if draft.at is not None), default=now)
    session, there = Session(new_id(), name, first), AlreadyThere(kit.logbook, name)
    fresh: list[tuple[Reading, Exposure | None]] = []
    for draft in drafts:
        reading = _reading_of(draft, session, len(fresh) + 1, kit, now)
        if there.takes(reading, timed=draft.at is not None):
            report.again += 1
        else:
            fresh.append((reading, draft.exposure))
    if not fresh:
        return
    readings = [reading for reading, _ in fresh]
    stated = [(reading, exposure) for reading, exposure in fresh if exposure is not None]
    events = [
        Event(
            id=new_id(),
            session_id=session.id,
            sequence=reading.sequence,
            at=now,
            kind=EventKind.TAKEN,
            reading_id=reading.id,
            reason=f"imported from {file}",
        )
        for reading in readings
    ]
    events += [
        Event(
            id=new_id(),
            session_id=session.id,
            sequence=sequence,
            at=now,
            kind=EventKind.EXPOSURE_STATED,
            reading_id=reading.id,
            new=exposure.text,
        )
        for sequence, (reading, exposure) in enumerate(stated, start=len(readings) + 1)
    ]
    events += _doubts(kit, readings, len(readings) + len(stated), now, report)
    kit.keep(session, [(reading, None) for reading in readings], events)
    report.sessions.append(session)
    report.readings += len(readings)
    report.figures += sum(len(reading.values) for reading in readings)


def _reading_of(draft: Draft, session: Session, sequence: int, kit: Kit, now: datetime) -> Reading:
    source, meter = kit.source(draft.fixture), kit.meter(draft.meter)
    return Reading(
        id=new_id(),
        session_id=session.id,
        at=draft.at or now,
        sequence=sequence,
        terms=draft.terms,
        source_ids=(source.id,) if source else (),
        step_id=None,
        meter_id=meter.id if meter else None,
        note="; ".join(draft.notes),
        values=tuple(draft.values),
    )


def _doubts(kit: Kit, readings: Sequence[Reading], last: int, now: datetime, report: ImportReport) -> list[Event]:
    """What one slip of the hand would explain is in doubt from the start: it counts once someone says so."""
    found = slips_in(readings, kit.name_of)
    report.doubts += [flag.sentence for flag in found]
    slipped = {flag.reading_id for flag in found}
    report.asks += [flag.sentence for flag in asked_in(readings, kit.name_of) if flag.reading_id not in slipped]
    session_id = readings[0].session_id if readings else ""
    return [
        Event(
            id=new_id(),
            session_id=session_id,
            sequence=last + place,
            at=now,
            kind=EventKind.IN_DOUBT,
            reading_id=flag.reading_id,
            field=flag.cause,
            reason=flag.sentence,
        )
        for place, flag in enumerate(found, start=1)
    ]


def import_trace(path: Path, logbook: "Logbook", clock: Clock) -> ImportReport:
    """A power log, a warm-up or a fade into a session of one reading. Raises `FormatError`."""
    traces = trace_table.traces_of(readings_table.load(path))
    now = clock()
    session = Session(new_id(), shown_stem(path), now)
    reading = Reading(
        new_id(), session.id, now, 1, Terms(mode="fixed"), note=note_of(shown_name(path)), values=ends_of(traces)
    )
    if AlreadyThere(logbook, session.name).takes(reading):
        return ImportReport(again=1)
    event = Event(
        id=new_id(),
        session_id=session.id,
        sequence=1,
        at=now,
        kind=EventKind.TAKEN,
        reading_id=reading.id,
        reason=f"imported from {shown_name(path)}",
    )
    Kit(logbook).keep(session, [(reading, None)], [event], {reading.id: traces})
    return ImportReport([session], 1, len(traces))


def import_files(
    paths: Sequence[Path],
    logbook: "Logbook",
    clock: Clock,
    said: AsSaid = AsSaid(),
) -> ImportReport:
    """Tables of past readings, traces and spectra, told apart by their first line; folders are gone through.

    Spectra are named by the pattern that was said (`naming.by_pattern`), else by what their names say. A file that
    cannot be understood keeps no other from coming in. Raises `FormatError` where nothing came in, and of `ASKS`.
    """
    report = ImportReport()
    handed = [path for path in paths if holds_session(path)]
    for path in handed:
        try:
            report.add(keep_session(read_session(path), logbook))
        except FormatError as error:
            report.refused.append(error.of(path))
    spectra = []
    files, name = files_in([path for path in paths if path not in handed], SPECTRA.suffixes)
    if not files and not handed:
        raise FormatError("there is no file of readings or spectra in that folder")
    for path in files:
        try:
            kind = READINGS if said.columns and READINGS.takes(path) else kind_of(path)
            if kind is SPECTRA:
                spectra.append(path)
            elif kind is TRACES:
                report.add(import_trace(path, logbook, clock))
            else:
                report.add(import_table(path, logbook, clock, said))
        except UndecidedError:
            raise
        except FormatError as error:
            report.refused.append(error.of(path))
    if spectra:
        report.add(_import_spectra(spectra, name, Kit(logbook), clock, said))
    if report.refused and not report.readings and not report.again:
        several = len(files) + len(handed) > 1
        raise FormatError(("nothing could be read. " if several else "") + "; ".join(report.refused))
    return report


def _import_spectra(files: Sequence[Path], name: str, kit: Kit, clock: Clock, said: AsSaid) -> ImportReport:
    found, refused = spectra_of(files, kit.names, said.pattern, without_dial=kit.without_dial)
    if not found:
        return ImportReport(refused=refused)
    repeats = repeats_among(found)
    if repeats and not said.keep_repeats:
        raise RepeatsError(
            f"several would become repeats of one lamp at the same terms: {'; '.join(repeats)}. Say how they are named"
            " (--map “{lamp} {cct} {level}”), or that they are (--keep)"
        )
    report = keep_spectra(found, name, kit, clock)
    report.refused += refused
    report.taken_for = taken_for(found)
    return report
