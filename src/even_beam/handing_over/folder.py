"""Readings as open data in a folder: tables, spectra, beams, every record as JSON with its schema, and the page."""

import base64
import json
import re
import shutil
from collections.abc import Callable, Iterable, Sequence
from pathlib import Path

from even_beam.answers.intake.session_folder import SESSION_FILE
from even_beam.bench.observations import Observation, Photo
from even_beam.bench.records import (
    Calibration,
    Claim,
    Computed,
    Conditions,
    Cost,
    Event,
    FileMapping,
    Gear,
    Meter,
    Model,
    Modifier,
    ReportLayout,
    Session,
    Source,
    Step,
    Subject,
    ToleranceSet,
)
from even_beam.bench.target import Look
from even_beam.collection.collection import Collection
from even_beam.files.writing import said, temporary_beside, write
from even_beam.formats import FormatError, NamedSpectrum, lm63, readings_table, session_data, tm27
from even_beam.formats.session_data import PhotoData, SessionData, SpectrumData, TraceData
from even_beam.handing_over.beam_file import beams_of
from even_beam.handing_over.compose import composed
from even_beam.handing_over.kinds import usual_kind
from even_beam.handing_over.material import Material
from even_beam.handing_over.table import table_rows
from even_beam.paper import page
from even_beam.shell.settings import Settings

Pause = Callable[[], None]


def write_folder(
    collection: Collection, settings: Settings, session: Session | None, folder: Path, pause: Pause = lambda: None
) -> int:
    """Write a session, or all of a logbook, into a folder of its own; returns how many readings it holds.

    The folder must be new or empty: nothing of anybody's is written over, and half of one is taken away. Raises
    `FormatError`, `OutputError` and `ReportError`.
    """
    if folder.exists() and (not folder.is_dir() or any(folder.iterdir())):
        raise FormatError(f"{folder.name} is not empty; name a new folder")
    building = temporary_beside(folder)
    with said(folder):
        try:
            folder.parent.mkdir(parents=True, exist_ok=True)
            count = _fill(collection, settings, session, building, pause)
            building.rename(folder)
        except BaseException:
            shutil.rmtree(building, ignore_errors=True)  # half of it would be taken for all
            raise
    return count


def _fill(collection: Collection, settings: Settings, session: Session | None, folder: Path, pause: Pause) -> int:
    for inside in (folder, folder / "spectra", folder / "beams"):
        inside.mkdir()
    sessions = [session] if session is not None else collection.sessions
    data = data_of(collection, sessions)
    write(folder / SESSION_FILE, session_data.written(data))
    write(folder / "schema.json", json.dumps(session_data.schema(), indent=1).encode())
    pause()
    rows = table_rows(collection, [one.id for one in sessions])
    write(folder / "readings.csv", readings_table.write_csv(rows).encode("utf-8"))
    pause()
    spectra = _write_spectra(collection, data, folder / "spectra", pause)
    material = Material(collection, settings, session)
    beams = _write_beams(material, folder / "beams", pause)
    write(folder / "page.html", page.html(composed(material, usual_kind(material), pause=pause)).encode("utf-8"))
    write(folder / "README.md", _readme(sessions, data, spectra, beams).encode("utf-8"))
    for empty in (folder / "spectra", folder / "beams"):
        if not any(empty.iterdir()):
            empty.rmdir()
    return len(data.readings)


# --- every record


def data_of(collection: Collection, sessions: Sequence[Session]) -> SessionData:
    """Sessions with everything that they rest on, as it is written; all sessions with all that the Kit knows."""
    logbook = collection.logbook
    everything = len(sessions) == len(collection.sessions)
    measured = [m for one in sessions for m in collection.readings_in(one.id)]
    own = [reading for one in sessions for reading in logbook.readings(one.id)]
    ids = [reading.id for reading in own]
    events = [event for one in sessions for event in logbook.of_session(Event, one.id)]
    named = {i for event in events for i in event.new.split()}
    steps = [step for one in sessions for step in logbook.of_session(Step, one.id)]
    seen = [o for one in sessions for o in logbook.of_session(Observation, one.id)]
    read, planned, looked_at = (
        (one.source_ids for one in own),
        (s.source_ids for s in steps),
        (o.source_ids for o in seen),
    )
    used = {i for ids_ in (*read, *planned, *looked_at) for i in ids_} | named
    sources = [s for s in logbook.all(Source) if everything or s.id in used]
    models = {m.id for m in logbook.all(Model) if everything} | {s.model_id for s in sources}
    meters = {reading.meter_id for reading in own} | {step.meter_id for step in steps} | named
    meters |= {m.id for m in logbook.all(Meter) if everything}
    spectra = logbook.spectra(ids)
    computed = [_plain(c) for one in sessions for c in logbook.computed(one.id).values()]
    return SessionData(
        models=tuple(m for m in logbook.all(Model) if m.id in models),
        sources=tuple(sources),
        claims=tuple(c for c in logbook.all(Claim) if c.model_id in models),
        costs=tuple(c for c in logbook.all(Cost) if c.model_id in models),
        gear=tuple(g for g in logbook.all(Gear) if g.model_id in models),
        subjects=tuple(logbook.all(Subject)),
        modifiers=tuple(logbook.all(Modifier)),
        meters=tuple(m for m in logbook.all(Meter) if m.id in meters),
        calibrations=tuple(c for c in logbook.all(Calibration) if c.meter_id in meters),
        tolerance_sets=tuple(logbook.all(ToleranceSet)),
        mappings=tuple(logbook.all(FileMapping)),
        sessions=tuple(sessions),
        conditions=tuple(c for one in sessions for c in logbook.of_session(Conditions, one.id)),
        layouts=tuple(c for one in sessions for c in logbook.of_session(ReportLayout, one.id)),
        steps=tuple(steps),
        readings=tuple(own),
        spectra=tuple(SpectrumData.of(i, spectra[i]) for i in ids if i in spectra),
        traces=tuple(TraceData.of(i, trace) for i in ids for trace in logbook.traces(i)),
        events=tuple(events),
        observations=tuple(seen),
        photos=tuple(_photo(p) for one in sessions for p in logbook.of_session(Photo, one.id)),
        looks=tuple(look for look in logbook.all(Look) if everything or set(look.reading_ids) <= set(ids)),
        computed=tuple(computed),
        states={m.reading.id: ", ".join(["counts"] * m.state.counts + [*m.state.marks]) for m in measured},
    )


def _plain(computed: Computed) -> Computed:
    """Its figures in full, not as the logbook unpacks them when they are asked for."""
    vectors = {name: tuple(map(float, values)) for name, values in computed.vectors.items()}
    return Computed(computed.reading_id, computed.method_version, dict(computed.scalars), vectors)


def _photo(photo: Photo) -> PhotoData:
    return PhotoData(
        id=photo.id,
        session_id=photo.session_id,
        at=photo.at.isoformat(),
        name=photo.name,
        media_type=photo.media_type,
        image=base64.b64encode(photo.image).decode(),
        thumbnail=base64.b64encode(photo.thumbnail).decode(),
        observation_id=photo.observation_id,
        reading_id=photo.reading_id,
    )


# --- spectra and beams


def _write_spectra(collection: Collection, data: SessionData, folder: Path, pause: Pause) -> int:
    """A TM-27 file a spectrum, named by the reading's number in `readings.csv` and its lamp."""
    by_id = {spectrum.reading_id: spectrum.spectrum for spectrum in data.spectra}
    for number, reading in enumerate(data.readings, start=1):
        spectrum = by_id.get(reading.id)
        if spectrum is None:
            continue
        pause()
        lamp = collection.names_of(reading.source_ids)
        name = f"{lamp}, reading {number}, {reading.id}, {data.states[reading.id]}"
        named = NamedSpectrum(name, spectrum.wavelength_nm, spectrum.values, spectrum.absolute, "")
        write(folder / f"{number:04d} {_file_name(lamp)}.xml", tm27.write([named]).encode("utf-8"))
    return len(by_id)


def _write_beams(material: Material, folder: Path, pause: Pause) -> int:
    count = 0
    for entrant in material.entrants:
        pause()
        for _, photometry in beams_of(material, entrant):
            count += 1
            write(folder / f"{count:02d} {_file_name(entrant.name)}.ies", lm63.write(photometry).encode("ascii"))
    return count


def _file_name(name: str) -> str:
    """A name as a file may have it everywhere."""
    return re.sub(r"[^\w\- ]", "_", name, flags=re.ASCII).strip() or "lamp"


# --- what is in it


_COLUMNS = (
    ("session", "the session's name", ""),
    ("fixture", "the lamp's nickname; several joined by +", ""),
    ("mode", "CCT, HSI, fixed, off ...", ""),
    ("cct_k", "white that was dialled", "K"),
    ("tint", "tint as dialled, on the lamp's own scale", ""),
    ("dimmer_pct", "level that was dialled", "%"),
    ("configuration", "what sat on the lamp; bare for nothing", ""),
    ("distance", "from the reference plane", "m, as written"),
    ("position", "centre, or degrees off the axis", "deg"),
    ("hue, saturation, zoom, reference_plane", "as dialled or noted", "deg, %"),
    ("quantity", "illuminance, cct, duv, ra, r9, rf ...", ""),
    ("value", "as given, or computed to six figures", "lx, K, as the quantity has"),
    ("origin", "typed by a person, given by the device, or computed from the spectrum", ""),
    ("meter, time, note", "what read it, when (ISO 8601, UTC), and how it stands", ""),
)


def _readme(sessions: Iterable[Session], data: SessionData, spectra: int, beams: int) -> str:
    """What another laboratory needs to read and recompute it."""
    columns = "\n".join(f"| `{name}` | {words} | {unit} |" for name, words, unit in _COLUMNS)
    names = "\n".join(f"- {one.name} ({one.created_at:%Y-%m-%d})" for one in sessions)
    out = sum(not state.startswith("counts") for state in data.states.values())
    simulated = {meter.id for meter in data.meters if meter.simulated}
    played = sum(reading.meter_id in simulated for reading in data.readings)
    warning = f"\n**{played} of the readings are simulated: they say nothing of any real lamp.**\n" if played else ""
    files = ["| `readings.csv` | every figure of every reading, a row each |"]
    if spectra:
        number = "named by the number of the reading; W/(m2 nm) where “irradiance”"
        files.append(f"| `spectra/` | {spectra} spectra as IES TM-27, {number} |")
    if beams:
        files.append(f"| `beams/` | {beams} beams as IES LM-63-2019; what is assumed stands in their keywords |")
    listed = "\n".join(files)
    return f"""# Readings of film lights

{names}
{warning}
{len(data.readings)} readings, {out} of which do not count (read again, taken back, set aside or in doubt); they are
here all the same, and say so.

## Files

| file | holds |
|---|---|
{listed}
| `{SESSION_FILE}` | every record: lamps, meters, terms, steps, readings, events, spectra, computed figures |
| `schema.json` | its JSON schema (2020-12) |
| `page.html` | the report; it opens in a browser, offline |

## Columns of `readings.csv`

| column | meaning | unit |
|---|---|---|
{columns}

A note of `superseded`, `taken back`, `set aside`, `in doubt, not kept`, `kept in doubt` or `suspect: something moved`
says that a figure does not count, or counts with a mark. Figures of different origin are never mixed: `computed` ones
follow from the spectra (CIE 1931 observer, CIE 13.3, ANSI/IES TM-30-20, AMPAS SSI, EBU Tech 3355) and can be
recomputed from `spectra/`.

## Back into a logbook

`even-beam import THIS_FOLDER LOGBOOK` keeps every figure, status, event and term; what the logbook has already is left
as it is.
"""
