"""Reports and tables of a session or a whole logbook, written where the user says."""

from collections.abc import Sequence
from pathlib import Path

import even_beam
from even_beam.bench import compare, summary
from even_beam.bench.comparison import Comparison
from even_beam.bench.dimmer_series import against_dimmer
from even_beam.bench.judging import doubts
from even_beam.bench.measured import Measured
from even_beam.bench.quantities import QUANTITIES
from even_beam.bench.records import SHADED, Calibration, Conditions, Session, Terms
from even_beam.bench.run import term_to_text
from even_beam.figures.chart import Chart
from even_beam.figures.comparison import dimmer_chart, stop_ladder
from even_beam.formats import FormatError, readings_table
from even_beam.reports.page import LampLine, PageContent, write_html, write_pdf
from even_beam.workspace.bench.calibration_form import DARK, calibration_words
from even_beam.workspace.logbook.collection import Collection
from even_beam.workspace.shell.settings import Settings


def page_content(collection: Collection, session: Session, settings: Settings) -> PageContent:
    """The one page about a session."""
    entrants = collection.entrants_in(session.id)
    comparison: Comparison | None = None
    charts: tuple[Chart, ...] = ()
    if entrants:
        comparison = compare.compare(entrants, {}, entrants[0].key, collection.meters)
        dimmed = against_dimmer(entrants, comparison, "stops")
        charts = (stop_ladder(comparison),) if any(e.comparable and e.illuminance for e in comparison.entries) else ()
        if any(len(set(series.levels_pct)) > 1 for series in dimmed):
            charts = (*charts, dimmer_chart(dimmed, "stops"))
        if len(entrants) == 1:
            comparison = None
    rows = [row for e in entrants for row in summary.headline_rows(summary.rows_of(e, collection.meters))]
    lamps = tuple(LampLine(e.name, e.kind, collection.sources[e.source_id].supplied_by) for e in entrants)
    all_readings = collection.readings_in(session.id)
    return PageContent(
        session=session,
        publisher=settings.publisher,
        lamps=lamps,
        calibrations=_calibrations(collection, all_readings),
        conditions=tuple(collection.logbook.of_session(Conditions, session.id)),
        rows=tuple(rows),
        comparison=comparison,
        charts=charts,
        gaps=summary.gaps(entrants, collection.sources),
        doubts=tuple(
            flag.sentence
            for entrant in collection.entrants_in(session.id, doubted=True)
            for flag in doubts.flags(entrant)
        ),
        observations=tuple(
            f"{collection.names_of(seen.source_ids)}: {seen.sentence}" for seen in collection.observations(session.id)
        ),
        taken=len(all_readings),
        left_out=sum(not m.state.counts for m in all_readings),
        distance_unit=settings.distance_unit,
        paper=settings.paper,
        version=even_beam.__version__,
    )


def _calibrations(collection: Collection, readings: Sequence[Measured]) -> tuple[str, ...]:
    """The latest calibration and zeroing of every meter that was read; its dark signal is a matter of the evening."""
    latest: dict[tuple[str, str], Calibration] = {}
    for row in collection.logbook.all(Calibration):
        if row.kind != DARK and any(m.reading.meter_id == row.meter_id and row.at <= m.reading.at for m in readings):
            latest[row.meter_id, row.kind] = row
    return tuple(calibration_words(row, collection.meters[row.meter_id].nickname) for row in latest.values())


def write_report(collection: Collection, session: Session, settings: Settings, path: Path) -> None:
    """The page as HTML or, by its suffix, PDF. Raises `ReportError`."""
    content = page_content(collection, session, settings)
    (write_pdf if path.suffix.lower() == ".pdf" else write_html)(content, path)


def table_rows(collection: Collection, session_ids: Sequence[str] | None = None) -> list[dict[str, str]]:
    """Every figure of every reading as rows of the flat table, what does not count marked in the note."""
    rows = []
    for session in collection.sessions:
        if session_ids is None or session.id in session_ids:
            for measured in collection.readings_in(session.id):
                rows += _reading_rows(collection, session, measured)
    return rows


def _reading_rows(collection: Collection, session: Session, measured: Measured) -> list[dict[str, str]]:
    terms, reading = measured.terms, measured.reading
    meter = collection.meters.get(reading.meter_id or "")
    notes = [reading.note, *measured.state.notes]
    if not measured.state.counts:
        notes.append(str(measured.state.standing) if not measured.state.doubt else "in doubt, not kept")
    elif measured.state.doubt:
        notes.append("kept in doubt")
    if measured.state.suspect:
        notes.append("suspect: something moved")
    if measured.state.corrections:
        notes.append("terms corrected")
    common = {
        "session": session.name,
        "fixture": " + ".join(collection.sources[i].nickname for i in reading.source_ids if i in collection.sources),
        "mode": terms.mode,
        "cct_k": term_to_text(terms.cct_k),
        "tint": terms.tint,
        "dimmer_pct": term_to_text(terms.level_pct),
        "configuration": term_to_text(terms.configuration) or "bare",
        "distance": f"{terms.distance_m:g} m"
        if terms.distance_m is not None
        else ("equal, not measured" if terms.placement == "equal" else ""),
        "position": _position(terms),
        "hue": term_to_text(terms.hue_deg),
        "saturation": term_to_text(terms.saturation_pct),
        "zoom": terms.zoom,
        "reference_plane": terms.reference_plane,
        "meter": meter.nickname if meter is not None else "",
        "time": reading.at.isoformat(timespec="seconds"),
        "note": "; ".join(note for note in notes if note),
    }
    as_read = Measured(measured.state, measured.computed)  # the room's light has rows of its own, mode “off”
    given = [value.quantity for value in reading.values]
    computed = [name for name in (measured.computed.scalars if measured.computed else ()) if name in QUANTITIES]
    quantities = dict.fromkeys([*given, *computed])
    rows = []
    for quantity in quantities:
        for origin, figure in as_read.figures(quantity).items():
            value = figure.text if figure.value is None else _unambiguous(f"{figure.value:.6g}")
            rows.append({**common, "quantity": quantity, "value": value, "origin": str(origin)})
    return rows


def _position(terms: Terms) -> str:
    if terms.placement == SHADED:
        return SHADED
    return "centre" if terms.angle_deg == 0.0 else f"{terms.angle_deg:g} deg"


def _unambiguous(text: str) -> str:
    """Three decimals could be read as thousands: a fourth says that they are not."""
    whole, point, decimals = text.partition(".")
    return f"{text}0" if point and len(decimals) == 3 and len(whole.lstrip("-")) <= 3 else text


def write_table(collection: Collection, path: Path, session_ids: Sequence[str] | None = None) -> int:
    """All readings as CSV, XLSX or JSON, by the suffix; returns the number of rows. Raises `FormatError`."""
    rows = table_rows(collection, session_ids)
    suffix = path.suffix.lower()
    if suffix == ".xlsx":
        readings_table.write_xlsx(rows, path)
        return len(rows)
    if suffix == ".json":
        import json

        text = json.dumps({"readings": rows}, indent=1, ensure_ascii=False)
    else:
        text = readings_table.write_csv(rows)
    partial = path.with_name(path.name + ".part")
    try:
        partial.write_text(text, encoding="utf-8")
        partial.replace(path)
    except OSError as error:
        raise FormatError(
            f"{path.name} could not be written: {error.strerror}. The logbook is unharmed; choose another place"
        ) from error
    return len(rows)
