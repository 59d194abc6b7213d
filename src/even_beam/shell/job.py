"""Work that takes longer than a tenth of a second: done in a thread, with progress and cancel."""

import threading
from collections.abc import Callable
from contextvars import copy_context
from typing import Any

from even_beam.shell.log import LOG


class CancelledError(Exception):
    """Raised inside a job that was asked to stop."""


class Job:
    """One piece of work. `work` gets the job, reports by `progress` and calls `stop_if_cancelled` at good moments.

    Exactly one of `done` and `failed` is called at the end, in the job's thread, unless it was cancelled; `deliver`
    brings them to another thread when the caller needs that.
    """

    def __init__(
        self,
        name: str,
        work: Callable[["Job"], Any],
        done: Callable[[Any], None],
        failed: Callable[[Exception], None],
        deliver: Callable[[Callable[[], None]], None] = lambda call: call(),
        on_progress: Callable[[float, str], None] = lambda share, words: None,
    ) -> None:
        self.name = name
        self._work, self._done, self._failed = work, done, failed
        self._deliver, self._on_progress = deliver, on_progress
        self._cancelled, self._ended = threading.Event(), threading.Event()
        context = copy_context()  # units are spoken there as where the job was asked for
        self._thread = threading.Thread(target=lambda: context.run(self._run), name=name, daemon=True)

    def start(self) -> "Job":
        """Begin, unless it was cancelled."""
        if not self.cancelled:
            self._thread.start()
        return self

    def cancel(self) -> None:
        """Ask it to stop; nothing is delivered any more, and what has not begun does not begin."""
        self._cancelled.set()
        if self._thread.ident is None:
            self._ended.set()

    @property
    def cancelled(self) -> bool:
        """Whether it was asked to stop."""
        return self._cancelled.is_set()

    @property
    def alive(self) -> bool:
        """Whether it is yet to end, be it that it is yet to begin."""
        return not self._ended.is_set()

    def stop_if_cancelled(self) -> None:
        """Leave the work here when it was asked to stop."""
        if self.cancelled:
            raise CancelledError

    def progress(self, share: float, words: str = "") -> None:
        """Say how far the work is, 0-1."""
        if not self.cancelled:
            self._deliver(lambda: self._on_progress(share, words))

    def wait(self, seconds: float | None = None) -> None:
        """Wait until it has ended, if it has begun."""
        if self._thread.ident is not None:
            self._thread.join(seconds)

    def _run(self) -> None:
        try:
            self._do()
        finally:
            self._ended.set()

    def _do(self) -> None:
        try:
            result = self._work(self)
        except CancelledError:
            return
        except Exception as error:
            LOG.exception("job “%s” failed", self.name)
            failure = error
            if not self.cancelled:
                self._deliver(lambda: self._failed(failure))
            return
        if not self.cancelled:
            self._deliver(lambda: self._done(result))
