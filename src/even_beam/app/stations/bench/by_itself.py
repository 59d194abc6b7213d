"""The run that reads by itself, in the window: turn by turn, until the sheet is done or a key pauses it.

Lamps light only after a key has said so, and rest whenever nothing is read.
"""

from enum import Enum, auto
from pathlib import Path
from typing import TYPE_CHECKING, Any

from PyQt6.QtCore import Qt, QTimer

from even_beam.answers.bench.tone_samples import Tone
from even_beam.answers.plan.wired_run import Kind, Turn, WiredRun, hands_of
from even_beam.app.keys import KeyHint
from even_beam.app.stations.bench.stand_in_process import StandInProcess
from even_beam.app.stations.bench.wires_dialog import WiresDialog
from even_beam.instruments.bench_file import read_bench
from even_beam.instruments.protocols import InstrumentError, MeterReading
from even_beam.logbook.errors import LogbookError
from even_beam.words import notation

if TYPE_CHECKING:
    from even_beam.app.stations.bench.station import BenchStation

GOES_ON = (KeyHint("Enter", "go on"), KeyHint("Esc", "leave it"))
RUNS = (KeyHint("any key", "pause"), KeyHint("Esc", "lamps to rest at once"))
_NO_KEYS = {Qt.Key.Key_Alt, Qt.Key.Key_Shift, Qt.Key.Key_Control, Qt.Key.Key_AltGr, Qt.Key.Key_Meta}


class _At(Enum):
    """Where it is: nowhere, on its way to the instruments, waiting for the key that lights the lamps or that says that
    something was moved, or reading."""

    NOWHERE = auto()
    REACHING = auto()
    BEFORE_LIGHT = auto()
    BY_HAND = auto()
    READING = auto()


class ByItself:
    """What Alt A begins."""

    def __init__(self, station: "BenchStation") -> None:
        self._station = station
        self._at = _At.NOWHERE
        self._run: WiredRun | None = None
        self._pauses = False
        self._stand_ins: StandInProcess | None = None

    @property
    def is_under_way(self) -> bool:
        """Whether keys are its own."""
        return self._at is not _At.NOWHERE

    @property
    def hints(self) -> tuple[KeyHint, ...]:
        """The keys that matter meanwhile."""
        return RUNS if self._at in {_At.READING, _At.REACHING} else GOES_ON

    # --- keys

    def takes(self, key: int) -> bool:
        """Whether a key was for it: Enter goes on where it waits, Esc puts the lamps to rest, any other pauses."""
        if not self.is_under_way or key in _NO_KEYS:
            return self.is_under_way
        if key == Qt.Key.Key_Escape:
            self.stop("Esc was pressed.")
        elif self._at in {_At.BEFORE_LIGHT, _At.BY_HAND}:
            if key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
                self._go_on()
        elif self._at is _At.READING and not self._pauses:
            self._pauses = True
            self._station.tell("Pauses after this reading", "The lamps go to rest then. Alt A goes on.")
        return True

    def begin(self) -> None:
        """Ask what to reach, and reach it."""
        station = self._station
        if station.document is None or station.desk.step is None:
            station.host.say("There is no sheet to read: Alt R plans a run")
            return
        simulated = {s.nickname: s.simulated for s in self._sources().values() if s.simulated}
        dialog = WiresDialog(station.window(), station.host.settings().bench_file, list(simulated))
        if not dialog.exec():
            return
        self._at = _At.REACHING
        station.tell("Reaching the instruments", "Lamps stay dark until you say so.", keys=RUNS)
        if dialog.wants_stand_ins:
            distance = station.desk.next_terms.distance_m or 2.0
            meter = station.desk.meter
            name = meter.nickname if meter is not None else "Wall meter"
            played = self._played_by(simulated, name, distance)
            station.host.jobs.run("start the stand-ins", lambda job: played.wait(), self._reach, self._failed)
        elif dialog.chosen is not None:
            self._remember(dialog.chosen)
            self._reach(dialog.chosen)

    def _played_by(self, lamps: dict[str, str], meter: str, distance_m: float) -> StandInProcess:
        running = self._stand_ins
        if running is not None and running.still_plays(lamps, meter, distance_m):
            return running
        if running is not None:
            end = running.close  # which may take seconds
            self._station.host.jobs.run("end the stand-ins", lambda job: end(), lambda _: None, lambda _: None)
        self._stand_ins = StandInProcess(lamps, meter, distance_m)
        return self._stand_ins

    def _remember(self, path: Path) -> None:
        from dataclasses import replace

        host = self._station.host
        host.use_settings(replace(host.settings(), bench_file=str(path)))

    def _sources(self) -> dict[str, Any]:
        desk = self._station.desk
        named = {i for state in desk.state.steps for i in state.step.source_ids}
        return {i: desk.sources[i] for i in named if i in desk.sources}

    def _reach(self, path: Path) -> None:
        station = self._station
        if station.document is None or self._at is not _At.REACHING:
            return
        try:
            hands = hands_of(station.document, read_bench(path), self._sources())
            station.desk.reload_kit()
            run = WiredRun(station.desk, hands)
            run.look_whether_it_can()
        except (InstrumentError, LogbookError) as error:
            self._failed(error)
            return
        self._run = run
        station.host.jobs.run("reach the instruments", lambda job: list(hands.reach()), self._reached, self._failed)

    def _reached(self, lines: list[str]) -> None:
        lit = [line for line in lines if " will light: " in line]
        if self._run is None or self._at is not _At.REACHING:
            return
        self._at = _At.BEFORE_LIGHT
        what = "; ".join(lit) if lit else "No lamp is on a wire: each step is set by hand"
        stands = f"Make sure that all stands as the sheet has it: {self._run.begins_at}."
        words = f"{notation.sentence(what)}. {stands} Nobody looks into a lamp, nothing that burns stands near."
        self._station.tell("Lamps will light", words, keys=GOES_ON)
        self._station.sound(Tone.IN_DOUBT)
        self._station.hints_changed.emit()

    # --- turn by turn

    def _go_on(self) -> None:
        if self._run is None:
            return
        if self._at is _At.BY_HAND:
            self._run.moved()
        self._at, self._pauses = _At.READING, False
        self._station.hints_changed.emit()
        self._next()

    def _next(self) -> None:
        run, station = self._run, self._station
        if run is None or self._at is not _At.READING:
            return
        if self._pauses:
            run.hands.stop("it was paused.")
        turn = run.turn()
        if turn is None:
            self._end()
        elif turn.kind is Kind.LEFT_OUT:
            station.guarded(run.left_out)
            QTimer.singleShot(0, self._next)
        elif turn.kind is Kind.BY_HAND:
            run.move()
            self._at = _At.BY_HAND
            station.sound(Tone.IN_DOUBT)
            station.refresh()
            station.tell("By hand, please", turn.words.removeprefix("by hand: "), keys=GOES_ON)
            station.hints_changed.emit()
        else:
            station.host.jobs.run(
                "read by itself", lambda job: run.read(turn), lambda raw: self._arrived(turn, raw), self._failed
            )

    def _arrived(self, turn: Turn, raw: MeterReading) -> None:
        run, station = self._run, self._station
        if run is None or run.hands.stopped:  # what was read of a lamp that was put to rest is of nothing
            self._end()
            return
        try:
            words = run.keep(turn, raw)
            run.look_whether_doubts_end()
        except (InstrumentError, LogbookError) as error:
            self._failed(error)
            return
        left = run.seconds_left
        station.forget_taken()
        station.refresh()
        more = f"About {notation.span(left)} left. " if left else ""
        title = "Reads by itself" if not self._pauses else "Pauses"
        station.board.look.show_look(title, f"{more}{words.partition('  ')[2]}", in_doubt=False, keys=RUNS)
        QTimer.singleShot(0, self._next)

    # --- how it ends

    def stop(self, reason: str) -> None:
        """Put the lamps to rest at once; what is being read is not kept."""
        if self._run is not None:
            self._run.hands.stop(reason)
        if self._at is not _At.READING:  # nothing is on its way that would end it
            self._end()

    def rest(self) -> None:
        """The window or the logbook is about to close: lamps at rest, streams ended, stand-ins gone."""
        run, self._run, self._at = self._run, None, _At.NOWHERE
        if run is not None:
            run.hands.stop("the logbook was closed.")
            run.hands.close()
        self._end_stand_ins()

    def _end_stand_ins(self) -> None:
        if self._stand_ins is not None:
            self._stand_ins.close()
            self._stand_ins = None

    def _failed(self, error: Exception) -> None:
        if self._run is not None:
            self._run.hands.stop(str(error))
            self._end()
            return
        self._at = _At.NOWHERE
        self._station.tell("Not begun", f"{error} Nothing was lit, nothing was lost.", in_doubt=True)
        self._station.hints_changed.emit()

    def _end(self) -> None:
        run, self._run, self._at = self._run, None, _At.NOWHERE
        station = self._station
        station.refresh()
        if run is not None:
            station.host.jobs.run("let go", lambda job: run.hands.close(), lambda _: None, lambda _: None)
            if run.is_done:
                station.sound(Tone.FITS)
                station.tell("The sheet is read", "The lamps are at rest. Compare and the Kit have what was found.")
            else:
                station.sound(Tone.FAULT)
                words = f"{notation.sentence(run.left)} Alt A goes on there."
                station.tell("Stopped, lamps at rest", words, in_doubt=True)
        else:
            station.tell("Left", "Nothing was lit.")
        station.hints_changed.emit()
