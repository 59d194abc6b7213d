"""What the entry line is opened for besides figures: a step, a note, what the lamp shows, a target, the decision."""

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

from even_beam.answers.bench.calibration_form import ZEROING, zeroed
from even_beam.answers.bench.conditions_form import Noted, noted_of
from even_beam.answers.bench.line import LineShown
from even_beam.answers.bench.step_terms import differences, step_terms, terms_changed
from even_beam.answers.bench.target import TargetError, target_of, target_words
from even_beam.bench import terms_in_words
from even_beam.bench.field_texts import TermsError
from even_beam.bench.terms import terms_line
from even_beam.words.entry import EntryError

if TYPE_CHECKING:
    from even_beam.app.stations.bench.station import BenchStation


@dataclass(frozen=True, slots=True)
class LineAct:
    """A use of the entry line: its caption, what it says while one types, and what it does. Both may raise
    `ValueError`."""

    caption: str
    understand: Callable[[str], str]
    act: Callable[[str], None]


class LineActs:
    """Opens the line of a station for each of these acts."""

    def __init__(self, station: "BenchStation") -> None:
        self._station = station

    def _open(self, act: LineAct, text: str = "") -> None:
        def understood(text: str) -> LineShown:
            try:
                return LineShown(act.understand(text) if text.strip() else "")
            except (TermsError, TargetError, EntryError) as error:
                return LineShown(str(error))

        def confirmed(text: str) -> None:
            try:
                act.understand(text)
            except (TermsError, TargetError, EntryError) as error:
                self._station.tell("Not understood", str(error), in_doubt=True)
                self._station.board.entry.select_all()
                return
            self._station.close_line()
            self._station.guarded(lambda: act.act(text.strip()))

        self._station.open_line(text, act.caption, understood, confirmed)

    def insert_step(self) -> None:
        """Put a step in right here."""
        station = self._station
        if not station.desk.is_run:
            station.host.say("There is no run to insert a step into: Alt R plans one, and Enter reads without a plan")
            return
        unit = station.host.settings().distance_unit

        def insert(text: str) -> None:
            station.forget_taken()
            station.desk.insert_step(step_terms(text, station.desk.next_terms))
            station.tell("Inserted", "It is the next step; the run goes on after it.")

        self._open(
            LineAct(
                "insert a step here: 33 (level), 4400 K, 3 m; several with ;",
                lambda text: terms_line(step_terms(text, station.desk.next_terms), unit),
                insert,
            )
        )

    def new_session(self) -> None:
        """A session without a plan, by its name."""
        document = self._station.document
        if document is None:
            return
        usual = f"Readings of {document.clock():%-d %B %Y}"

        def begin(text: str) -> None:
            document.begin(text or usual)

        self._open(LineAct(f"name of the session: {usual}", lambda text: "", begin), usual)

    def conditions(self) -> None:
        """What the room is like: its temperature, the mains, its own light, what else is lit."""
        station = self._station
        desk = station.desk

        def noted(text: str) -> Noted:
            return noted_of(text, desk.session.id, desk.now(), desk.meter)

        def keep(text: str) -> None:
            found = noted(text)
            rows = [(row, zeroed(row.note) if row.kind == ZEROING else "") for row in found.calibrations]
            desk.note_room(found.room, rows)
            ratios = " The meter is for ratios only from here on; Kit, U changes that."
            only = ratios if any(row.kind == ZEROING for row in found.calibrations) else ""
            station.tell("Kept", f"{found.words(desk.meter)}. It stands in the report.{only}")

        self._open(
            LineAct(
                "the room: 21 °C; 231 V; 0.4 lx; blacked out; a fan on; or the meter: calibrated in March; zeroed on …",
                lambda text: noted(text).words(desk.meter),
                keep,
            )
        )

    def note(self) -> None:
        """A remark on the last reading."""

        def keep(text: str) -> None:
            last = self._station.desk.state.last_reading
            self._station.desk.note(text, last.reading.id if last else None)
            self._station.host.say("Note kept")

        self._open(LineAct("note on the last reading", lambda text: "", keep))

    def set_aside(self) -> None:
        """Leave the last reading out of every figure, with the reason."""
        station = self._station
        pending = station.desk.pending_doubt
        last = pending.state if pending is not None else station.desk.state.last_reading
        if last is None:
            station.host.say("Nothing was read yet that could be set aside")
            return

        def leave_out(text: str) -> None:
            station.forget_taken()
            station.desk.set_aside(last.reading.id, text)
            station.tell(
                "Set aside", f"No figure uses it any more: {text}. It stays in the logbook; Ctrl Z takes it in again."
            )

        self._open(LineAct("set the last reading aside, because:", lambda text: "", leave_out))

    def with_and_without(self) -> None:
        """A reading with something on the lamp and one without it."""
        station = self._station

        def begin(text: str) -> None:
            if not text:
                station.host.say("Say what goes on the lamp and off it, such as half CTB")
                return
            station.forget_taken()
            station.tell("On and off", station.desk.with_and_without.begin(text))

        known = ", ".join(sorted(station.desk.modifiers)[:3]) or "half CTB"
        self._open(LineAct(f"read with and without: {known} …", lambda text: "", begin))

    def lamp_shows(self) -> None:
        """The lamp displayed something else than it was asked for at the last reading."""
        station = self._station
        last = station.desk.state.last_reading
        if last is None:
            station.host.say("Nothing was read yet; what the lamp shows is kept with a reading")
            return
        asked = last.reading.terms

        def changes(text: str) -> dict[str, object]:
            return differences(asked, step_terms(text, asked))

        def understood(text: str) -> str:
            shown = replace(asked, **changes(text))  # type: ignore[arg-type]
            said = ", ".join(terms_changed(asked, shown)) or "just that"
            return f"asked {terms_in_words.setting(asked)}; shows {said}"

        def keep(text: str) -> None:
            if not changes(text):
                station.host.say("That is what the lamp was asked for: nothing to keep")
                return
            station.desk.lamp_shows(last.reading.id, changes(text))
            station.tell(
                "Kept as displayed", f"{understood(text).capitalize()}. The reading counts for what was displayed."
            )

        self._open(
            LineAct(
                "the lamp shows: 9 (level), 5550 K, tint 12, hue 36, sat 80, 230/255, spot; several with ;",
                understood,
                keep,
            )
        )

    def decide(self) -> None:
        """What the session decides, at its end."""
        station = self._station

        def keep(text: str) -> None:
            if station.document is not None:
                station.desk.describe(replace(station.desk.session, decision=text))
                station.tell("Decided", text)

        question = station.desk.session.question or "no question was asked"
        self._open(LineAct(f"decision · {question}", lambda text: "", keep))

    def target(self) -> None:
        """The white that all sources shall have."""
        station = self._station

        def enter(text: str) -> None:
            station.desk.set_target(target_of(text, station.desk))
            station.tell(
                "Target set",
                "Read any source: its distance and direction stand in the chart and the list. Alt G keeps the look.",
            )

        self._open(
            LineAct(
                "target: 5600, 3200 K +0.002, daylight 5600, or = for the last reading",
                lambda text: target_words(text, station.desk),
                enter,
            )
        )
