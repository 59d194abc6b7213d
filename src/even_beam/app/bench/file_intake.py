"""Spectrum files on the Bench: read in a worker, assigned to steps, kept as readings."""

from collections.abc import Callable
from pathlib import Path
from typing import NamedTuple

from PyQt6.QtWidgets import QWidget

from even_beam.app import dialogs
from even_beam.app.bench.files_dialog import FilesDialog
from even_beam.app.jobs import JobRunner
from even_beam.bench import notation
from even_beam.bench.records import Step
from even_beam.formats import FormatError, NamedSpectrum, read_spectra
from even_beam.light import SpectrumError
from even_beam.light.spectra import validate
from even_beam.workspace.file_mappings import known_mappings
from even_beam.workspace.session_desk import SessionDesk


class _Found(NamedTuple):
    good: list[NamedSpectrum]
    refused: list[str]


class FileIntake:
    """Takes files for a session. `keep` is called for each spectrum that becomes a reading, with its step."""

    def __init__(
        self,
        parent: QWidget,
        jobs: JobRunner,
        keep: Callable[[NamedSpectrum, Step | None], None],
        failed: Callable[[Exception], None],
    ) -> None:
        self._parent, self._jobs, self._keep, self._failed = parent, jobs, keep, failed

    def take(self, paths: list[Path], desk: SessionDesk) -> None:
        """Read the files, then ask which becomes which reading."""
        known = known_mappings(desk.logbook)

        def work(job: object) -> _Found:
            found = _Found([], [])
            for path in paths:
                try:
                    for named in read_spectra(path, known):
                        validate(named.wavelength_nm, named.values)
                        found.good.append(named)
                except (FormatError, SpectrumError) as error:
                    found.refused.append(f"{path.name}: {error}")
            return found

        self._jobs.run("read spectrum files", work, lambda found: self._assign(found, desk), self._failed)

    def _assign(self, found: _Found, desk: SessionDesk) -> None:
        if not found.good:
            dialogs.tell(self._parent.window(), "No spectrum could be read", "\n".join(found.refused))
            return
        open_steps = [state.step for state in desk.state.steps if not state.done]
        if len(found.good) == 1 and not found.refused and not open_steps:
            self._keep(found.good[0], None)
            return
        names = [notation.terms_line(step.terms) for step in open_steps]
        dialog = FilesDialog(self._parent.window(), found.good, names, found.refused)
        if dialog.exec():
            for named, place in dialog.assigned:
                self._keep(named, open_steps[place] if place is not None else None)
