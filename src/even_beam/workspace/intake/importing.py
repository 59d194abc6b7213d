"""Past readings and spectra from files into a session; texts are understood here, and kept as typed."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import UTC, datetime
from pathlib import Path
from typing import TYPE_CHECKING

from even_beam.bench import notation
from even_beam.bench.choice import Entrant
from even_beam.bench.entry import EntryError, parse
from even_beam.bench.exposure import Exposure, ExposureError, shutter_of
from even_beam.bench.judging.doubts import SLIPS, flags
from even_beam.bench.limits import ImpossibleError, checked, impossible_figure
from even_beam.bench.measured import Measured
from even_beam.bench.quantities import QUANTITIES
from even_beam.bench.records import (
    SHADED,
    Event,
    EventKind,
    Origin,
    Reading,
    Session,
    Spectrum,
    Terms,
    Value,
    new_id,
)
from even_beam.bench.run import ReadingState
from even_beam.bench.traces import ends_of
from even_beam.formats import FormatError, columns, readings_table, trace_table
from even_beam.formats.readings_table import PastFigure
from even_beam.formats.registry import SPECTRUM_SUFFIXES
from even_beam.light.photometry import FLAT_CONSTANT
from even_beam.workspace.intake.kit import ImportReport, Kit
from even_beam.workspace.intake.mappings import known_columns
from even_beam.workspace.intake.naming import files_in
from even_beam.workspace.intake.spectra import keep_spectra, spectra_of

if TYPE_CHECKING:
    from even_beam.logbook.store import Logbook

Clock = Callable[[], datetime]


@dataclass(slots=True)
class PastTable:
    """A table understood: readings by session, and the rows that could not be, each with its line and reason."""

    name: str
    by_session: dict[str, list["_Draft"]]
    refused: list[str]


def understand(table: readings_table.Table, mapping: Mapping[str, str] | None = None) -> PastTable:
    """The readings of a flat table. Raises `FormatError` when nothing in it can be used.

    A row that cannot be understood is refused with its line number and reason; the others come in.
    """
    found = PastTable(table.name, {}, [])
    for row in readings_table.figures_of(table, mapping):
        try:
            _add_row(row, found.by_session, Path(table.name).stem)
        except (EntryError, ImpossibleError, ExposureError) as error:
            found.refused.append(f"line {row.line}: {error}")
    if not found.by_session:
        reasons = "; ".join(found.refused[:20]) or "no row holds a figure"
        more = f"; and {len(found.refused) - 20} more" if len(found.refused) > 20 else ""
        raise FormatError(f"{table.name}: no row could be understood. {notation.sentence(reasons)}{more}")
    return found


_COLUMN_WORDS = {
    "cct_k": "white dialled, K",
    "dimmer_pct": "level, %",
    "hue": "hue dialled",
    "saturation": "saturation dialled",
}


def target_words(target: str) -> str:
    """What a column can be, in words."""
    if target == columns.IGNORED:
        return "left out"
    if target.startswith(columns.MEASURED):
        quantity = QUANTITIES[target.removeprefix(columns.MEASURED)]
        return f"figures: {quantity.label}{f', {quantity.unit}' if quantity.unit else ''}"
    return _COLUMN_WORDS.get(target, target.replace("_", " "))


def columns_preview(table: readings_table.Table, mapping: Mapping[str, str]) -> str:
    """What comes of a table read by a mapping, in a sentence. Raises `FormatError`."""
    past = understand(table, mapping)
    readings = sum(len(drafts) for drafts in past.by_session.values())
    lamps = {draft.fixture for drafts in past.by_session.values() for draft in drafts if draft.fixture}
    named = f" of {', '.join(sorted(lamps)[:4])}{' …' if len(lamps) > 4 else ''}" if lamps else ", lamp not named"
    count = len(past.refused)
    refused = f" {count} row{'s' * (count > 1)} cannot be understood; first, {past.refused[0]}." if count else ""
    return f"{readings} readings{named} in {len(past.by_session)} session{'s' * (len(past.by_session) > 1)}.{refused}"


def keep(past: PastTable, logbook: "Logbook", clock: Clock) -> ImportReport:
    """Keep what was understood: one session a name, lamps and meters added by their nicknames."""
    report = ImportReport(refused=list(past.refused))
    kit = Kit(logbook)
    for name, drafts in past.by_session.items():
        _keep_session(name=name, drafts=drafts, file=past.name, kit=kit, clock=clock, report=report)
    return report


def import_table(path: Path, logbook: "Logbook", clock: Clock) -> ImportReport:
    """Readings of a flat table into one session a name, by the mapping kept for its columns. Raises `FormatError`."""
    table = readings_table.load(path)
    return keep(understand(table, known_columns(logbook, table.shape)), logbook, clock)


@dataclass(slots=True)
class _Draft:
    key: tuple[str, ...]
    fixture: str
    meter: str
    terms: Terms
    at: datetime | None
    notes: list[str]
    values: list[Value] = field(default_factory=list)
    exposure: Exposure | None = None


_TERMS_COLUMNS = (
    "mode",
    "cct_k",
    "tint",
    "dimmer_pct",
    "configuration",
    "distance",
    "position",
    "hue",
    "saturation",
    "zoom",
    "reference_plane",
)


_REMARKS = {
    "iso": "ISO {}",
    "shutter": "shutter {}",
    "receptor_c": "receptor C {}",
    "ssi_reference": "SSI against {}",
    "fan": "fan {}",
    "power_source": "power from {}",
}
"""Columns that no term holds: kept in the note of the reading, so that nothing of a table is lost."""


def _notes(row: PastFigure) -> list[str]:
    """What a row says beside its figure and its terms."""
    said = [text.format(row[name]) for name, text in _REMARKS.items() if row[name]]
    return [row["note"], *said] if row["note"] else said


def _add_row(row: PastFigure, by_session: dict[str, list[_Draft]], fallback: str) -> None:
    value = _value(row)
    drafts = by_session.setdefault(row["session"] or fallback, [])
    key = tuple(row[name] for name in ("fixture", "meter", "time", *_TERMS_COLUMNS, *_REMARKS))
    last = drafts[-1] if drafts else None
    if last is not None and last.key == key and all(v.quantity != value.quantity for v in last.values):
        last.values.append(value)
        last.notes += [note for note in _notes(row) if note not in last.notes]
        return
    try:
        terms, time, exposure = _terms(row), _time(row["time"]), _exposure(row)
        draft = _Draft(
            key=key,
            fixture=row["fixture"],
            meter=row["meter"],
            terms=terms,
            at=time,
            notes=_notes(row),
            values=[value],
            exposure=exposure,
        )
    except (EntryError, ImpossibleError, ExposureError):
        if not drafts:
            del by_session[row["session"] or fallback]
        raise
    drafts.append(draft)


def _exposure(row: PastFigure) -> Exposure | None:
    """What the f-numbers of a row stand for, where sensitivity and exposure time were stated."""
    if not row["iso"] or not row["shutter"]:
        return None
    iso = parse(row["iso"].lower().removeprefix("iso")).middle
    constant = parse(row["receptor_c"]).middle if row["receptor_c"] else FLAT_CONSTANT
    return Exposure(iso, shutter_of(row["shutter"]), constant)


def _value(row: PastFigure) -> Value:
    quantity = row["quantity"].lower().replace("-", "_")
    if quantity not in QUANTITIES:
        raise EntryError(f"the quantity “{row['quantity']}” is not known; known are {', '.join(QUANTITIES)}")
    text = " ".join(part for part in (row["value"], row["unit"]) if part)
    if quantity == "f_stop" and not row["unit"] and not row["value"].lower().startswith("f"):
        text = f"f/{row['value']}"
    entry = parse(text, quantity)
    if entry.quantity not in {quantity, "percent", "angle"}:
        raise EntryError(f"“{text}” is not a figure of {QUANTITIES[quantity].label}")
    if (problem := impossible_figure(quantity, entry.value, entry.low, entry.high)) is not None:
        raise ImpossibleError(problem)
    return Value(
        quantity=quantity,
        value=entry.value,
        origin=Origin.TYPED,
        low=entry.low,
        high=entry.high,
        text=text,
        unit=QUANTITIES[quantity].unit,
        qualifier=(row["ssi_reference"] if quantity == "ssi" else "") or row["qualifier"] or entry.qualifier,
    )


def _terms(row: PastFigure) -> Terms:
    distance, placement = _distance(row["distance"])
    position = row["position"].lower()
    angle = 0.0
    if position == SHADED:
        placement = SHADED
    elif position and position not in {"centre", "center", "axis", "on axis"}:
        angle = parse(position.removesuffix("off axis"), "angle").middle
    terms = Terms(
        mode=row["mode"] or ("CCT" if row["cct_k"] else "fixed"),
        cct_k=_number(row["cct_k"], "cct"),
        tint=row["tint"],
        level_pct=_number(row["dimmer_pct"], "level"),
        hue_deg=_number(row["hue"], "hue"),
        saturation_pct=_number(row["saturation"], "saturation"),
        zoom=row["zoom"],
        configuration=tuple(
            p.strip() for p in row["configuration"].split("+") if p.strip() and p.strip().lower() != "bare"
        ),
        distance_m=distance,
        placement=placement,
        angle_deg=angle,
        reference_plane=row["reference_plane"],
    )
    return checked(terms)


def _distance(text: str) -> tuple[float | None, str]:
    if not text:
        return None, "unknown"
    if "equal" in text.lower():
        return None, "equal"
    entry = parse(text, "distance")
    if entry.value is None or entry.value <= 0.0:
        raise EntryError(f"“{text}” is not a distance; write 25 ft or 3 m")
    return entry.value, "on axis"


def _number(text: str, quantity: str) -> float | None:
    return parse(text, quantity).value if text else None


def _time(text: str) -> datetime | None:
    if not text:
        return None
    try:
        time = datetime.fromisoformat(text)
    except ValueError:
        raise EntryError(f"“{text}” is not a time; write 2026-11-25T14:30") from None
    return time if time.tzinfo is not None else time.replace(tzinfo=UTC)


def _keep_session(name: str, drafts: Sequence[_Draft], file: str, kit: Kit, clock: Clock, report: ImportReport) -> None:
    now = clock()
    first = min((draft.at for draft in drafts if draft.at is not None), default=now)
    session = Session(new_id(), name, first)
    kit.logbook.save(session)
    taken: list[tuple[Reading, Spectrum | None]] = []
    events = []
    for sequence, draft in enumerate(drafts, start=1):
        source, meter = kit.source(draft.fixture), kit.meter(draft.meter)
        reading = Reading(
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
        taken.append((reading, None))
        events.append(
            Event(
                id=new_id(),
                session_id=session.id,
                sequence=sequence,
                at=now,
                kind=EventKind.TAKEN,
                reading_id=reading.id,
                reason=f"imported from {file}",
            )
        )
        report.figures += len(draft.values)
    stated = [(reading, draft.exposure) for (reading, _), draft in zip(taken, drafts, strict=True) if draft.exposure]
    for sequence, (reading, exposure) in enumerate(stated, start=len(drafts) + 1):
        kind = EventKind.EXPOSURE_STATED
        events.append(
            Event(
                id=new_id(),
                session_id=session.id,
                sequence=sequence,
                at=now,
                kind=kind,
                reading_id=reading.id,
                new=exposure.text,
            )
        )
    events += _doubts(kit, [reading for reading, _ in taken], len(drafts) + len(stated), now, report)
    kit.logbook.commit_readings(taken, events)
    report.sessions.append(session)
    report.readings += len(taken)


def _doubts(kit: Kit, readings: Sequence[Reading], last: int, now: datetime, report: ImportReport) -> list[Event]:
    """What one slip of the hand would explain is in doubt from the start: it counts once someone says so."""
    by_lamp: dict[str, list[Measured]] = {}
    for reading in readings:
        if len(reading.source_ids) == 1:
            by_lamp.setdefault(reading.source_ids[0], []).append(Measured(ReadingState(reading, reading.terms)))
    found = [
        flag
        for source_id, own in by_lamp.items()
        for flag in flags(Entrant(source_id, kit.name_of(source_id), "", tuple(own)))
        if flag.cause in SLIPS
    ]
    report.doubts += [flag.sentence for flag in found]
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
    session = Session(new_id(), path.stem, now)
    reading = Reading(
        new_id(), session.id, now, 1, Terms(mode="fixed"), note=f"from file: {path.name}", values=ends_of(traces)
    )
    event = Event(
        id=new_id(),
        session_id=session.id,
        sequence=1,
        at=now,
        kind=EventKind.TAKEN,
        reading_id=reading.id,
        reason=f"imported from {path.name}",
    )
    logbook.save(session)
    logbook.commit_readings([(reading, None)], [event], {reading.id: traces})
    return ImportReport([session], 1, len(traces))


def kind_of(path: Path) -> str:
    """What a file holds, by its first line: `readings`, `trace` or `spectra`. Raises `FormatError`."""
    if path.suffix.lower() not in {".csv", ".tsv", ".txt", ".xlsx"}:
        return "spectra"
    headings = readings_table.headings_of(path)
    if trace_table.is_trace(headings):
        return "trace"
    guess = columns.guess(headings)
    told = sum(target != columns.IGNORED for target in guess.values())
    return (
        "readings"
        if columns.is_known(headings) or told >= 2 or {"quantity", "value"} <= set(guess.values())
        else "spectra"
    )


def import_files(paths: Sequence[Path], logbook: "Logbook", clock: Clock, pattern: str = "") -> ImportReport:
    """Tables of past readings, traces and spectra, told apart by their first line; folders are gone through.

    Spectra are named by `pattern` (`naming.by_pattern`), else by what their names say. Raises `FormatError`.
    """
    report = ImportReport()
    spectra = []
    files, name = files_in(paths, frozenset(SPECTRUM_SUFFIXES))
    if not files:
        raise FormatError("there is no file of readings or spectra in that folder")
    for path in files:
        kind = kind_of(path)
        if kind == "spectra":
            spectra.append(path)
        else:
            report.add((import_trace if kind == "trace" else import_table)(path, logbook, clock))
    if spectra:
        kit = Kit(logbook)
        found, refused = spectra_of(spectra, kit.names, pattern)
        report.refused += refused
        if not found:
            raise FormatError("no spectrum could be read. " + "; ".join(report.refused))
        report.add(keep_spectra(found, name, kit, clock))
    return report
