"""What is typed at the Bench: the line, the figure in doubt that waits for a decision, and what is then kept."""

from string import ascii_lowercase
from typing import TYPE_CHECKING

from even_beam.answers.bench import done
from even_beam.answers.bench import view as bench_view
from even_beam.answers.bench.line import LineShown, line_shown
from even_beam.answers.bench.tone_samples import Tone
from even_beam.app.keys import KeyHint
from even_beam.app.stations.bench.acts import IN_DOUBT, OF_A_LETTER, WAITS
from even_beam.bench.measured import Measured
from even_beam.desk.session.desk import Proposal, SessionDesk
from even_beam.words import notation
from even_beam.words.entry import AmbiguousEntryError, EntryError

WHICH_METER = "Which meter do these figures come from?"
ONCE = "It is asked once an evening; Alt M changes it."
NOT_NAMED = "a meter that is not named"

if TYPE_CHECKING:
    from collections.abc import Callable

    from even_beam.app.stations.bench.station import BenchStation
    from even_beam.said import Choice


class Typing:
    """Figures and terms by the keyboard. `proposal` is a line in doubt, not kept yet."""

    def __init__(self, station: "BenchStation") -> None:
        self._station = station
        self.proposal: Proposal | None = None
        self._desk: SessionDesk | None = None  # that the proposal was made to
        self._candidate = -1
        self._typed_meanwhile = ""

    def forget(self) -> None:
        """The line in doubt is settled."""
        self.proposal, self._candidate, self._typed_meanwhile = None, -1, ""

    def let_go(self) -> None:
        """Leave a line in doubt for good; its text stays in the history of its session."""
        proposal, desk = self.proposal, self._desk
        self.forget()
        if proposal is not None and desk is not None:
            self._station.guarded(lambda: desk.withdraw(proposal))

    def keep_undecided(self) -> None:
        """The session is left with a figure that nobody decided on: it is kept, in doubt."""
        proposal, desk = self.proposal, self._desk
        self.forget()
        if proposal is not None and desk is not None:
            desk.confirm(proposal, keep_in_doubt=True)

    def open(self, text: str = "") -> None:
        """Open the line for figures and terms, with what was typed already; a figure in doubt is decided first."""
        if self.proposal is not None:
            self._typed_meanwhile = text
            words = f"{notation.sentence(self.proposal.understood)} is in doubt, and not kept yet."
            self._station.tell("Decide on it first", words, in_doubt=True, keys=WAITS)
            return
        asked = self._station.desk.asked
        names = ", then ".join(bench_view.quantity_label(name) for name in asked[:3])
        caption = f"{names}; terms too, in any order, such as 50 % or spot"
        self._station.open_line(text, caption, self._shown, self.enter)

    def _shown(self, text: str) -> LineShown:
        hint = OF_A_LETTER.get(text.strip().upper())
        if hint is not None:
            return LineShown(
                f"{text.strip().upper()}: {hint.label}? Enter does it · or type on: Ra 96, spot, half green"
            )
        return line_shown(text, self._station.desk)

    def enter(self, text: str) -> None:
        """Take a line: keep it, ask about it, or say what is wrong with it; what was typed stands until then."""
        station = self._station
        if text.strip().upper() in OF_A_LETTER:
            station.close_line()
            station.press(text.strip().upper())
            return
        try:
            proposal = station.desk.propose(text)
        except AmbiguousEntryError as error:
            station.tell("Not kept yet", f"{error} A letter answers, or ↓ and Enter.", in_doubt=True)
            return
        except EntryError as error:
            station.tell("Not understood", f"{error}. What you typed still stands in the line.", in_doubt=True)
            station.board.entry.select_all()
            return
        if proposal.entries and not station.waiting.may_read():
            return
        if proposal.entries and station.desk.asks_for_meter:
            self._ask_for_meter(text)
            return
        if not proposal.entries and (last := station.desk.last_otherwise(proposal)) is not None:
            self._ask_since_when(proposal, last)
            return
        if proposal.look.asks and not proposal.look.in_doubt:
            self._ask_to_look(proposal)
            return
        station.close_line()
        self._settle(proposal)

    def _ask_to_look(self, proposal: Proposal) -> None:
        """A weak doubt: what was typed stands first, for it may well be right."""
        from even_beam.said import Choice  # not before a line is typed

        station, meant = self._station, proposal.look.candidates[0]
        offer, _ = bench_view.candidate_words(meant, proposal)
        choices = [Choice("a", f"{proposal.understood}, as it is", ""), Choice("b", offer, offer)]

        def answered(choice: "Choice") -> None:
            station.close_line()
            taken = station.desk.with_candidate(proposal, meant.value) if choice.text else proposal
            station.guarded(lambda: station.show_taken(station.desk.confirm(taken)))

        self._ask("Look at the meter once more", choices, answered, proposal.look.asks)

    def _ask_for_meter(self, text: str) -> None:
        """Once an evening: which meter the figures are typed from. They are judged by it, so nothing is kept before."""
        from even_beam.said import Choice  # not before a line is typed

        station = self._station
        meters = station.desk.meters_read_by_eye[: len(ascii_lowercase) - 1]
        named = [Choice(letter, one.nickname, one.id) for letter, one in zip(ascii_lowercase, meters, strict=False)]
        choices = [*named, Choice(ascii_lowercase[len(named)], NOT_NAMED, "")]

        def answered(choice: "Choice") -> None:
            station.desk.say_typed_from(choice.text or None)
            self.enter(text)

        self._ask(WHICH_METER, choices, answered, ONCE)

    def _ask(self, title: str, choices: "list[Choice]", answered: "Callable[[Choice], None]", more: str = "") -> None:
        self._station.board.entry.ask(title, choices, answered, more)
        self._station.host.announce(f"{title} " + "; ".join(f"{c.letter.upper()}: {c.label}" for c in choices))

    def _ask_since_when(self, proposal: Proposal, last: Measured) -> None:
        """Terms without a figure: people say them of what comes, and of what they have just read."""
        from even_beam.said import Choice  # not before a line is typed

        station = self._station
        said = notation.sentence(proposal.understood)
        read = done.reading_words(station.desk, last.reading.id)
        choices = [
            Choice("n", "from the next reading on", ""),
            Choice("l", f"of the last reading too: {read}", last.reading.id),
        ]

        def answered(choice: "Choice") -> None:
            station.close_line()
            if choice.text:
                station.guarded(lambda: station.desk.correct_all([choice.text], proposal.said.terms))
            self._settle(proposal)

        self._ask(f"{said}: since when?", choices, answered)

    def _settle(self, proposal: Proposal) -> None:
        station = self._station
        if not proposal.entries:
            station.guarded(lambda: self._set(proposal))
        elif proposal.look.in_doubt:
            self._doubt(proposal)
        else:
            station.guarded(lambda: station.show_taken(station.desk.confirm(proposal)))

    def look_again(self) -> None:
        """The lamp or the terms were named meanwhile: what is in doubt is looked at anew, and kept if it fits now."""
        if self.proposal is not None:
            text = self.proposal.text
            self.forget()
            self._settle(self._station.desk.propose(text))

    def _set(self, proposal: Proposal) -> None:
        """A line of terms alone."""
        station = self._station
        if station.desk.settle(proposal):
            station.forget_taken()
            station.tell("Set", f"{notation.sentence(proposal.understood)}, from the next reading on.")
            station.refresh()
        else:
            station.tell("No step asks for that", f"{notation.sentence(proposal.understood)}: + puts a step in here.")

    def _doubt(self, proposal: Proposal) -> None:
        self.proposal, self._desk = proposal, self._station.desk
        self._station.sound(Tone.IN_DOUBT)
        look = proposal.look
        hint = IN_DOUBT if look.candidates else (IN_DOUBT[0], IN_DOUBT[2])
        self._station.tell(look.title, look.explained, in_doubt=True, keys=hint)
        self._station.refresh()

    def read_again(self) -> None:
        """Give up the typed figure in doubt and type anew, from what was typed meanwhile."""
        begun = self._typed_meanwhile
        self.give_up()
        self.open(begun)

    def give_up(self) -> None:
        """Give up the typed figure in doubt; its text stays in the history."""
        station = self._station
        self.let_go()
        station.tell("Read again", "The figure was not kept; its text is in the history.")
        station.refresh()

    def choose_candidate(self) -> None:
        """Offer the next figure that one slip would explain; only holding + takes it."""
        if self.proposal is None or not self.proposal.look.candidates:
            self._station.host.say("There is no figure to choose from: read again, or hold + to keep it in doubt")
            return
        found = self.proposal.look.candidates
        self._candidate = (self._candidate + 1) % len(found)
        offer, reason = bench_view.candidate_words(found[self._candidate], self.proposal)
        choice = (IN_DOUBT[0], KeyHint("*", "another"), KeyHint("+", f"hold to take {offer}"))
        self._station.tell(f"Was it {offer}?", reason, in_doubt=True, keys=choice)

    def keep(self) -> bool:
        """Keep the figure in doubt, or the candidate that is offered; False when no line waits."""
        if self.proposal is None:
            return False
        station, proposal = self._station, self.proposal
        if self._candidate >= 0:
            proposal = station.desk.with_candidate(proposal, proposal.look.candidates[self._candidate].value)
        station.show_taken(station.desk.confirm(proposal, keep_in_doubt=True))
        return True
