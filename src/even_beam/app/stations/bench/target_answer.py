"""In target mode: the one line under the figures that says what to dial or clip on, asked in a worker."""

from pathlib import Path
from typing import TYPE_CHECKING

from even_beam.answers.bench import view as bench_view
from even_beam.bench.target import Target
from even_beam.shell.job import Job

if TYPE_CHECKING:
    from even_beam.app.stations.bench.station import BenchStation


class TargetAnswer:
    """Asks once for each reading and target, and shows the answer when it comes."""

    def __init__(self, station: "BenchStation") -> None:
        self._station = station
        self._asked: tuple[Path, str, Target] | None = None
        self._job: Job | None = None

    def refresh(self) -> None:
        """Ask for the newest reading, where a target is set; else show nothing."""
        station = self._station
        desk = station.desk
        newest = bench_view.latest(desk)
        if desk.target is None or newest is None or not newest.value("cct"):
            self._asked = None
            station.board.show_match("")
            return
        asked = desk.logbook.path, newest.reading.id, desk.target
        if asked == self._asked:
            return
        self._asked = asked
        if self._job is not None:
            self._job.cancel()
        path, reading_id, target = asked
        station.board.show_match("")
        self._job = station.host.jobs.run(
            "target", lambda job: _line(path, reading_id, target), self._show, self._failed
        )

    def _show(self, words: str) -> None:
        self._job = None
        self._station.board.show_match(words)

    def _failed(self, error: Exception) -> None:
        self._job, self._asked = None, None
        self._station.board.show_match(f"What to dial could not be found: {error}")


def _line(path: Path, reading_id: str, target: Target) -> str:
    """Of the logbook as it is now: the reading was committed a moment ago."""
    from even_beam.answers.match.view import Matches  # not at start-up: only target mode needs it

    matches = Matches(path)
    try:
        return matches.line_for(reading_id, target)
    finally:
        matches.forget()
