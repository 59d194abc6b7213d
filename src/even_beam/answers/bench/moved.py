"""Something moved: since when, which repeat would tell, and what is true when that was read."""

from collections.abc import Sequence
from dataclasses import dataclass

from even_beam.answers.bench.done import reading_words
from even_beam.bench import terms_in_words
from even_beam.bench.measured import Measured
from even_beam.bench.terms import terms_line
from even_beam.desk.session.desk import SessionDesk
from even_beam.shell.settings import Settings
from even_beam.words import notation

ASKS = (
    "All that was read since becomes suspect, until a repeat of what was read before agrees. The first line is the most"
    " cautious: nothing tells that it stood still since then."
)

AFTER_MOVING = (
    "Set it right, then read that step again (Alt ↑ goes to it): when it agrees, what comes after is trusted. If it"
    " agrees as it stands, nothing had moved: - then takes the mark away. So does Ctrl Z."
)


@dataclass(frozen=True, slots=True)
class Choice:
    """A line of the question since when: the reading that it begins with, None for *nothing moved*."""

    words: str
    reading_id: str | None


def choices(desk: SessionDesk, settings: Settings) -> list[Choice]:
    """What can be answered, the most cautious first; empty before any reading."""
    found = []
    for measured in desk.may_have_moved():
        what = reading_words(desk, measured.reading.id)
        place = terms_in_words.placement(measured.terms, settings.distance_unit)
        found.append(Choice(f"{measured.reading.at:%-H:%M}  {what}, {place}", measured.reading.id))
    suspect = sum(m.state.suspect for m in desk.counted)
    if suspect:
        found.append(Choice(f"Nothing had moved: {notation.count(suspect, 'suspect reading')} trusted again", None))
    return found


def mark(desk: SessionDesk, choice: Choice, settings: Settings) -> tuple[str, str]:
    """Do what was chosen; what is true now, and what to do."""
    if choice.reading_id is None:
        desk.nothing_moved()
        return "Nothing had moved", "What was suspect is trusted again. Ctrl Shift Z marks it once more."
    return suspect_words(desk.something_moved(choice.reading_id), desk, settings)


def suspect_words(suspect: Sequence[Measured], desk: SessionDesk, settings: Settings) -> tuple[str, str]:
    """How many readings are suspect; since which, which repeat would tell, and what to do."""
    since = terms_line(suspect[0].terms, settings.distance_unit)
    count = "1 reading" if len(suspect) == 1 else f"{len(suspect)} readings"
    told = telling_repeat(suspect, desk)
    if told is None:
        tells = "Nothing was read before it that a repeat could be held against"
    else:
        tells = f"A repeat of {desk.name_of(told.reading.source_ids)} at {terms_in_words.setting(told.terms)} tells"
    return f"Something moved: {count} suspect", f"Since {since}. {tells}: {AFTER_MOVING}"


def telling_repeat(suspect: Sequence[Measured], desk: SessionDesk) -> Measured | None:
    """The reading from before a suspect stretch whose repeat would tell whether the bench stood still: of the lamp that
    stands there now where there is one."""
    trusted = [m for m in desk.counted if m.reading.sequence < suspect[0].reading.sequence and not m.state.suspect]
    lamp = suspect[-1].reading.source_ids
    own = [m for m in trusted if m.reading.source_ids == lamp and m.value("illuminance")]
    return next(reversed(own or trusted), None)
