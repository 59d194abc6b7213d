"""Going back to an earlier reading: to correct it, set it aside, name its lamp or note something."""

from typing import TYPE_CHECKING

from even_beam.answers.bench import earlier
from even_beam.app.stations.bench.earlier_dialog import EarlierDialog
from even_beam.bench.judging.second_look import LOOKED_AT
from even_beam.bench.limits import ImpossibleError
from even_beam.logbook import LogbookError
from even_beam.words.entry import EntryError

if TYPE_CHECKING:
    from even_beam.app.stations.bench.station import BenchStation


class Earlier:
    """Opens the list of a station's session, and does what is chosen there."""

    def __init__(self, station: "BenchStation") -> None:
        self._station = station

    def walk(self) -> None:
        """Go through what was brought in and is to be looked at; without any there is nothing to show."""
        if any(row.open for row in earlier.rows(self._station.desk)):
            self.open()

    def open(self) -> None:
        """Show the list; it is done with Escape or Done."""
        station, desk = self._station, self._station.desk
        found = earlier.rows(desk)
        if not found:
            station.host.say("Nothing was read yet in this session")
            return
        dialog = EarlierDialog(station.window(), found, self._act, lambda: earlier.rows(desk))
        dialog.exec()
        station.forget_taken()
        station.refresh()
        if dialog.done_words:
            station.tell("Mended", dialog.done_words)

    def _act(self, key: str, reading_id: str, text: str) -> str:
        desk = self._station.desk
        try:
            if key == "H":
                desk.set_aside(reading_id, text)
                return f"Set aside: {text}. It stays in the logbook; Ctrl Z takes it in again."
            if key == "+":
                return self._keep(reading_id)
            if key == "/":
                desk.set_aside(reading_id, "given up, in doubt")
                return "Given up: no figure uses it. It stays in the logbook; Ctrl Z takes it in again."
            if key == "U":
                undone = desk.undo_on(reading_id)
                if undone is None:
                    raise EntryError("nothing was done to it since it was taken")
                return f"Undone: {undone}. What came after it stands; Ctrl Shift Z does it again."
            if key == "N":
                desk.note(text, reading_id)
                return "Note kept."
            if key == "L":
                return self._station.name_lamp_of(reading_id)
            return earlier.mend(desk, reading_id, text)
        except ImpossibleError as error:
            raise EntryError(str(error)) from error
        except LogbookError as error:
            raise EntryError(f"{error.what} {error.kept} {error.do}") from error

    def _keep(self, reading_id: str) -> str:
        desk = self._station.desk
        state = desk.of(reading_id).state
        asks = next((row.odd for row in earlier.rows(desk) if row.reading_id == reading_id and row.asks), "")
        if asks:
            desk.note(f"{LOOKED_AT}: {asks}", reading_id)
            return "Looked at: it counts as it did, and says so."
        if state.counts:
            return "It counts already."
        if not state.doubt:
            raise EntryError("it was set aside or read again, and is not in doubt")
        desk.keep_in_doubt(reading_id)
        return "Kept, in doubt: it counts, and every figure that uses it says so."
