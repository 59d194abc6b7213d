"""The one way in which a station asks: in a worker, one question at a time, and never with an answer of another."""

from collections.abc import Callable
from typing import TypeVar

from PyQt6.QtCore import QObject, QTimer

from even_beam.app.job_runner import JobRunner
from even_beam.shell.job import Job
from even_beam.words import notation

Answer = TypeVar("Answer")

PATIENCE_MS = 400
"""What takes longer says that it is under way."""


class Asker(QObject):
    """Asks in a worker. A question leaves the one before it, whose answer is never shown; what has become `stale` is
    read anew, also where the question that was to do so was left. What lasts is told by `say`, and
    taken back by `unsay` once it is answered."""

    def __init__(
        self,
        jobs: JobRunner,
        say: Callable[[str], None] = lambda words: None,
        unsay: Callable[[str], None] = lambda words: None,
        parent: QObject | None = None,
    ) -> None:
        super().__init__(parent or jobs)  # it goes with them: nobody is told once the window is torn down
        self._jobs, self._say, self._unsay = jobs, say, unsay
        self._told = ""
        self._asking: Job | None = None
        self._anew = False
        self.stale = True
        self._patience = QTimer(self)
        self._patience.setSingleShot(True)
        self._patience.timeout.connect(self._tell)

    @property
    def is_asking(self) -> bool:
        """Whether an answer is on its way."""
        return self._asking is not None

    def ask(
        self,
        name: str,
        work: Callable[[Job, bool], Answer],
        done: Callable[[Answer], None],
        failed: Callable[[Exception], None],
        on_progress: Callable[[float, str], None] = lambda share, words: None,
    ) -> None:
        """Have a question answered. `work` is told whether to read anew; `name` says in words what is under way."""
        anew = self.stale or (self.is_asking and self._anew)
        self.leave()
        self.stale, self._anew = False, anew

        def answered(answer: Answer) -> None:
            self._end()
            done(answer)

        def not_answered(error: Exception) -> None:
            self._end()
            self.stale = True
            failed(error)

        self._asking = self._jobs.run(name, lambda job: work(job, anew), answered, not_answered, on_progress)
        self._patience.start(PATIENCE_MS)

    def leave(self) -> bool:
        """Leave what was asked; whether there was anything."""
        left = self._asking
        self._end()
        if left is not None:
            left.cancel()
        return left is not None

    def _end(self) -> None:
        self._asking = None
        self._patience.stop()
        if self._told:
            self._unsay(self._told)
        self._told = ""

    def _tell(self) -> None:
        if self._asking is not None:
            self._told = f"{notation.sentence(self._asking.name)} …"
            self._say(self._told)
