"""Files on the Bench, read in a worker: spectra and traces become readings, tables of old tests become sessions."""

from collections.abc import Callable
from dataclasses import dataclass, field
from pathlib import Path

from PyQt6.QtWidgets import QWidget

from even_beam.answers.intake import importing
from even_beam.answers.intake.assigning import steps_for
from even_beam.answers.intake.kit import Kit
from even_beam.answers.intake.mappings import known_columns, known_mappings, remember_columns
from even_beam.answers.intake.naming import files_in
from even_beam.answers.intake.past_table import PastTable, understand
from even_beam.answers.intake.session_folder import holds_session, keep_session, read_session
from even_beam.answers.intake.spectra import FoundSpectrum, keep_spectra, spectra_of
from even_beam.app import dialogs
from even_beam.app.job_runner import JobRunner
from even_beam.app.stations.bench.columns_dialog import ColumnsDialog
from even_beam.app.stations.bench.files_dialog import FilesDialog
from even_beam.app.stations.bench.names_dialog import NamesDialog
from even_beam.bench.records import Step
from even_beam.bench.terms import terms_line
from even_beam.bench.traces import Trace
from even_beam.desk.session.document import Document
from even_beam.formats import FormatError, NamedSpectrum, columns, kinds, readings_table, trace_table
from even_beam.formats.readings_table import Table
from even_beam.formats.session_data import SessionData
from even_beam.light import SpectrumError


@dataclass(slots=True)
class _Found:
    name: str = ""
    spectra: list[FoundSpectrum] = field(default_factory=list)
    traces: list[tuple[str, tuple[Trace, ...]]] = field(default_factory=list)
    tables: list[Table] = field(default_factory=list)
    handed: list[SessionData] = field(default_factory=list)
    refused: list[str] = field(default_factory=list)


class FileIntake:
    """Takes files for the session at work. The callbacks are told of each spectrum and trace, and of sessions made;
    `walk` goes through what is in doubt of the session at work; `unit` is that of distances.
    """

    def __init__(
        self,
        parent: QWidget,
        jobs: JobRunner,
        keep: Callable[[NamedSpectrum, Step | None], None],
        keep_traces: Callable[[tuple[Trace, ...], str], None],
        imported: Callable[[str], None],
        walk: Callable[[], None],
        unit: Callable[[], str],
        failed: Callable[[Exception], None],
    ) -> None:
        self._parent, self._jobs, self._failed, self._unit = parent, jobs, failed, unit
        self._keep, self._keep_traces, self._imported, self._walk = keep, keep_traces, imported, walk

    def take(self, paths: list[Path], document: Document) -> None:
        """Read the files, then ask what is not plain."""
        known, kit = known_mappings(document.logbook), Kit(document.logbook)
        lamps, without_dial = kit.names, kit.without_dial

        def work(job: object) -> _Found:
            found = _Found()
            handed = [path for path in paths if holds_session(path)]
            for path in handed:
                try:
                    found.handed.append(read_session(path))
                except FormatError as error:
                    found.refused.append(error.of(path))
            files, found.name = files_in([path for path in paths if path not in handed], kinds.SPECTRA.suffixes)
            for path in files:
                try:
                    kind = kinds.kind_of(path)
                    if kind is kinds.READINGS:
                        found.tables.append(readings_table.load(path))
                    elif kind is kinds.TRACES:
                        found.traces.append((path.name, trace_table.traces_of(readings_table.load(path))))
                    else:
                        own, refused = spectra_of([path], lamps, known=known, without_dial=without_dial)
                        found.spectra += own
                        found.refused += refused
                except (FormatError, SpectrumError) as error:
                    found.refused.append(f"{path.name}: {error}")
            return found

        self._jobs.run("read files", work, lambda found: self._place(found, document), self._failed)

    def _place(self, found: _Found, document: Document) -> None:
        for data in found.handed:
            self._take_session(data, found, document)
        for name, traces in found.traces:
            self._keep_traces(traces, name)
        for table in found.tables:
            self._take_table(table, document)
        if found.spectra:
            self._assign(found, document)
        elif found.refused:
            dialogs.tell(self._parent.window(), "Not everything could be read", "\n".join(found.refused))

    def _assign(self, found: _Found, document: Document) -> None:
        desk = document.bench()
        open_steps = [state.step for state in desk.state.steps if not state.done]
        if len(found.spectra) == 1 and not found.refused and not open_steps and not desk.is_run:
            self._keep(found.spectra[0].named, None)
            return
        if not open_steps:
            self._name(found, document)
            return
        names = [terms_line(step.terms) for step in open_steps]
        spectra = [one.named for one in found.spectra]
        told = steps_for(found.spectra, open_steps, {one.id: one.nickname for one in desk.sources.values()})
        dialog = FilesDialog(self._parent.window(), spectra, names, found.refused, told)
        if dialog.exec():
            for named, place in dialog.assigned:
                self._keep(named, open_steps[place])

    def _name(self, found: _Found, document: Document) -> None:
        """Ask which lamp each spectrum is of; they become a session of their own, never part of a finished run."""
        kit = Kit(document.logbook)
        dialog = NamesDialog(self._parent.window(), found.spectra, kit.names, found.name, found.refused)
        if not dialog.exec() or not dialog.named:
            return
        report = keep_spectra(dialog.named, dialog.session_name, kit, document.clock)
        document.kit.changed()
        for session in report.sessions:
            document.work_on(session)
        self._imported(report.words)

    def _take_session(self, data: SessionData, found: _Found, document: Document) -> None:
        try:
            report = keep_session(data, document.logbook)
        except FormatError as error:
            found.refused.append(str(error))
            return
        document.kit.changed()
        for session in report.sessions:
            document.work_on(session)
        self._imported(report.words)

    def _take_table(self, table: Table, document: Document) -> None:
        """Ask what the columns are, the first time a table of this shape comes; then keep what it says."""
        mapping = known_columns(document.logbook, table.shape)
        if mapping is None and not columns.is_known(table.headings):
            dialog = ColumnsDialog(self._parent.window(), table, readings_table.guess_of(table), self._unit())
            if not dialog.exec():
                return
            mapping = dialog.mapping
            remember_columns(document.logbook, table.shape, mapping)
        self._jobs.run(
            "understand the table",
            lambda job: understand(table, mapping),
            lambda past: self._keep_table(past, document),
            self._failed,
        )

    def _keep_table(self, past: PastTable, document: Document) -> None:
        report = importing.keep(past, document.logbook, document.clock)
        document.kit.changed()
        if report.refused:
            lines = [f"{past.name}, {line}" for line in report.refused[:12]]
            more = [f"and {len(report.refused) - 12} more"] if len(report.refused) > 12 else []
            dialogs.tell(
                self._parent.window(), "Not everything was understood; the rest is in", "\n".join([*lines, *more])
            )
        for session in report.sessions:
            document.work_on(session)
            self._walk()
        self._imported(report.words)
