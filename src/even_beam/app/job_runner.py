"""Jobs for the interface: results come back in the interface's thread."""

import atexit
import weakref
from collections.abc import Callable
from typing import Any

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from even_beam.shell.job import Job


class JobRunner(QObject):
    """Runs jobs and delivers their results by the event loop. Keeps a hold on running ones."""

    _delivered = pyqtSignal(object)

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._jobs: set[Job] = set()
        self._shut = False
        self._delivered.connect(lambda call: call())
        atexit.register(_shut, weakref.ref(self))  # a job that told a window torn down would crash the process

    def run(
        self,
        name: str,
        work: Callable[[Job], Any],
        done: Callable[[Any], None],
        failed: Callable[[Exception], None],
        on_progress: Callable[[float, str], None] = lambda share, words: None,
    ) -> Job:
        """Have a job done; it begins in the next turn, when what the key asked for is painted."""

        def finished(call: Callable[[Any], None]) -> Callable[[Any], None]:
            def after(result: Any) -> None:
                self._jobs.discard(job)
                if not job.cancelled:  # it may have been between its end and this delivery
                    call(result)

            return after

        self._jobs = {job for job in self._jobs if job.alive or not job.cancelled}
        job = Job(
            name=name,
            work=work,
            done=finished(done),
            failed=finished(failed),
            deliver=self._delivered.emit,
            on_progress=on_progress,
        )
        if self._shut:
            job.cancel()  # nobody is there any more to deliver it to
            return job
        self._jobs.add(job)
        QTimer.singleShot(0, job.start)
        return job

    @property
    def busy(self) -> bool:
        """Whether a job is under way whose result is awaited."""
        return any(not job.cancelled for job in self._jobs)

    def shut(self) -> None:
        """Stop all, and begin nothing any more: the window is about to be gone."""
        self._shut = True
        self.stop_all()

    def stop_all(self) -> None:
        """Cancel what runs and wait for it a moment."""
        for job in list(self._jobs):
            job.cancel()
            job.wait(2.0)
        self._jobs.clear()


def _shut(runner: "weakref.ref[JobRunner]") -> None:
    if (left := runner()) is not None:
        left.shut()
