"""The shelf of lamps; their pages are `answers.findings.lamp_page`."""

from collections.abc import Sequence
from datetime import date
from pathlib import Path

from even_beam.answers.kit.joining import joining_done, joining_words
from even_beam.answers.kit.shelf import Record, Thing, ThingPage
from even_beam.desk.kit.desk import KitDesk
from even_beam.desk.kit.form_error import FormError
from even_beam.desk.kit.lamp_form import LampCard, LampForm, form_of
from even_beam.desk.kit.lamp_line import USUAL, partly_changed, words_between, words_of
from even_beam.desk.kit.view import cells, kind_text, worth_knowing


class LampShelf:
    """The lamps of a Kit, the retired ones where `with_retired` says so; `today` tells what presses."""

    one = "lamp"
    usual = USUAL
    files = ""
    from_files_alone = False
    empty = "No lamp yet. A adds one; on the Bench a lamp can also be named after it was read."

    def __init__(self, kit: KitDesk, today: date) -> None:
        self._kit, self._today = kit, today
        self.with_retired = False

    def card(self, key: str | None) -> LampCard | None:
        """A lamp with all that is known of its model."""
        return next((card for card in self._kit.lamps(retired=True) if card.source.id == key), None)

    def things(self) -> list[Thing]:
        """Every lamp, by nickname."""
        return [self._thing(card) for card in self._kit.lamps(retired=self.with_retired)]

    def _thing(self, card: LampCard) -> Thing:
        source = card.source
        worth, presses = worth_knowing(card, self._today)
        gear = " ".join(f"{row.name} {row.text}" for row in card.gear)
        return Thing(
            key=source.id,
            name=source.nickname,
            line=kind_text(card),
            worth=worth,
            presses=presses,
            faint=source.retired,
            search=" ".join((*cells(card), source.notes, source.supplied_by, gear)),
        )

    def page(self, key: str) -> ThingPage | None:
        """None: a lamp has a page of its own kind."""
        return None

    def record(self, key: str) -> Record | None:
        """None: what is known of a lamp is `answers.findings.told`."""
        return None

    def _form(self, text: str, key: str | None) -> tuple[LampForm, str]:
        card = self.card(key)
        if card is not None:
            return form_of(card), text
        nickname, _, more = text.partition(";")
        return LampForm(nickname.strip()), more

    def understood(self, text: str, key: str | None) -> str:
        """What a line would change."""
        form, more = self._form(text, key)
        if key is not None and (words := joining_words(text, form.nickname)):
            return words
        return words_of(more, form) if more.strip() else "; and more, such as 97 Ra; 820 EUR"

    def say(self, text: str, key: str | None) -> tuple[str, str]:
        """Change a lamp, or add one; join it with another, or part them."""
        own = self.card(key)
        if own is not None and (said := joining_done(self._kit, own.source, text)):
            return own.source.id, said
        form, more = self._form(text, key)
        after, left = partly_changed(more, form) if more.strip() else (form, [])
        if left and after == form:
            raise left[0][1]
        card = self.card(key)
        if card is None:
            source = self._kit.add_lamp(after)
            return source.id, f"{source.nickname} is in the Kit. Enter says more of it{_not_understood(left)}"
        self._kit.edit_lamp(card, after)
        said = f"{after.nickname}, {words_between(form, after)}. Ctrl Z takes it back"
        return card.source.id, f"{said}{_not_understood(left)}"

    def remove(self, key: str) -> str:
        """Retire a lamp, or bring a retired one back."""
        card = self.card(key)
        if card is None:
            raise FormError("line", "There is no such lamp")
        if card.source.retired:
            self._kit.bring_back(card)
            return f"{card.source.nickname} is back in the lists"
        self._kit.retire_lamp(card)
        return f"{card.source.nickname} is retired; its readings stay. Ctrl Z brings it back, R shows it"

    def take(self, path: Path) -> tuple[str, str]:
        """Refused: lamps come with sessions and old tables."""
        raise FormError("line", "Lamps come in with sessions and old tables: Ctrl I")

    def write(self, path: Path) -> str:
        """Refused: lamps go with the sessions that read them."""
        raise FormError("line", "Lamps go with the sessions that read them: D in the Report")


def _not_understood(left: Sequence[tuple[str, FormError]]) -> str:
    """The parts of a line that were not kept, each with what is wrong with it."""
    return "".join(f". Not kept: {error}" for _, error in left)
