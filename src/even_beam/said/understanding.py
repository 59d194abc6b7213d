"""A line as people say it: figures, the terms they belong to, and what it leaves open.

`820 50 %` is a level and the dimmer it was read at, `spot` alone moves the terms of what is read next. Every word is
understood, asked about or refused, and what it means does not hang on where it stands.
"""

from collections.abc import Mapping, Sequence

from even_beam.bench.exposure import HEADS, Exposure, ExposureError
from even_beam.said.answer import Choice, Part, Said
from even_beam.said.covering import Covering, Placed, coverings
from even_beam.said.situation import Situation
from even_beam.said.words_of_line import Word, words_of
from even_beam.words.entry import EntryError

LONGEST = 240
"""No line takes more characters."""

MOST_CHOICES = 5
_BETWEEN = " ;,·"


def understand(text: str, situation: Situation) -> Said:
    """A whole line. Raises `EntryError` for what is neither a figure nor a term; the message says what to type.

    A letter alone at the end answers what the line before it asks, wherever the number stands.
    """
    try:
        return _read(text, situation)
    except EntryError:
        line, letter = _answer_in(text)
        asked = _asked(line, situation) if letter else ()
        answer = next((choice for choice in asked if choice.letter == letter), None)
        if answer is None:
            raise
        return _read(answer.text, situation)


def _answer_in(text: str) -> tuple[str, str]:
    """A line before a letter that stands alone at its end, and the letter; empty where none stands there."""
    words = words_of(text[: LONGEST + 1])
    last = words[-1] if len(words) > 1 else None
    if last is None or len(last.text) != 1 or not last.text.isalpha():
        return "", ""
    return text[: last.start], last.text.lower()


def _asked(line: str, situation: Situation) -> tuple[Choice, ...]:
    """What a line asks; nothing where it is not understood."""
    try:
        return _read(line, situation).choices
    except EntryError:
        return ()


def _read(text: str, situation: Situation) -> Said:
    """A line as it stands. Raises `EntryError`."""
    if len(text) > LONGEST:
        raise EntryError(f"“{text[:20]}…” is longer than anything that is said of a reading")
    words = words_of(text)
    if not words:
        raise EntryError("nothing was typed; type a figure such as 1600 or 1.6k")
    found = coverings(words, situation)
    best = found[0]
    if best.refused:
        raise EntryError(best.refused)
    if len(found) == 1:
        return _said(words, best, situation)
    in_order = _ordered(found, situation)
    return _said(words, in_order[0], situation) if in_order else _question(text, words, found)


def _said(words: Sequence[Word], covering: Covering, situation: Situation) -> Said:
    meanings = [part.meaning for part in covering.parts if part.meaning is not None]
    terms = {name: value for one in meanings for name, value in one.terms.items()}
    exposure = _exposure({name: value for one in meanings for name, value in one.camera.items()}, situation)
    parts = _parts(words, covering)
    if exposure is not None:
        end = words[-1].end
        parts = (*parts, Part(end, end, f"f-numbers at {exposure.words}"))
    lamp = next((one.lamp for one in meanings if one.lamp), "")
    return Said(tuple(one.entry for one in meanings if one.entry is not None), terms, exposure, lamp, parts=parts)


def _parts(words: Sequence[Word], covering: Covering, open_words: frozenset[int] = frozenset()) -> tuple[Part, ...]:
    return tuple(
        Part(
            words[one.start].start,
            words[one.end - 1].end,
            one.meaning.words,
            (one.meaning.entry.quantity or "") if one.meaning.entry is not None else "",
            open=not open_words.isdisjoint(range(one.start, one.end)),
        )
        for one in covering.parts
        if one.meaning is not None
    )


def _exposure(stated: Mapping[str, float], situation: Situation) -> Exposure | None:
    """The exposure that the line states, completed by the one stated before."""
    if not stated:
        return None
    before = situation.exposure
    iso = stated.get("iso") or (before.iso if before else None)
    shutter_s = stated.get("shutter_s") or (before.shutter_s if before else None)
    if iso is None or shutter_s is None:
        missing = "ISO" if iso is None else "exposure time, such as 1/50"
        raise EntryError(f"what an f-number stands for needs the {missing} as well: ISO 800 1/50 dome")
    constant = stated.get("constant") or (before.constant if before else HEADS["flat"])
    try:
        return Exposure(iso, shutter_s, constant)
    except ExposureError as error:
        raise EntryError(str(error)) from error


# --- what is asked


def _question(text: str, words: Sequence[Word], found: Sequence[Covering]) -> Said:
    """The first words that the readings take otherwise, and what each would take them for."""
    differing = _open_words(found)
    first = min(differing)
    choices: dict[str, Choice] = {}
    for covering in sorted(found, key=lambda one: _sets_a_term(one, first)):
        here = _around(covering, first, differing)
        label = " and ".join(one.meaning.words for one in here if one.meaning is not None)
        if label in {choice.label for choice in choices.values()}:
            continue
        meant = "; ".join(one.meaning.text for one in here if one.meaning is not None)
        before, after = text[: words[here[0].start].start], text[words[here[-1].end - 1].end :]
        letter = next((one.meaning.letter for one in here if one.meaning is not None and one.meaning.letter), "")
        if not letter or letter in choices:
            letter = next(spare for spare in "abcxyzmnpq" if spare not in choices)
        line = "; ".join(filter(None, (before.strip(_BETWEEN), meant, after.strip(_BETWEEN))))
        choices[letter] = Choice(letter, label, line)
        if len(choices) == MOST_CHOICES:
            break
    question = " · ".join(f"{choice.letter.upper()}: {choice.label}" for choice in choices.values()) + " ?"
    return Said(question=question, choices=tuple(choices.values()), parts=_parts(words, found[0], differing))


def _sets_a_term(covering: Covering, word: int) -> bool:
    """Whether a word is a term in a reading: what may have been read is offered before."""
    return any(
        one.start <= word < one.end and one.meaning is not None and one.meaning.entry is None for one in covering.parts
    )


def _open_words(found: Sequence[Covering]) -> frozenset[int]:
    """The words that do not mean the same in all readings."""
    said: dict[int, set[object]] = {}
    for covering in found:
        for part in covering.parts:
            for word in range(part.start, part.end):
                slots = part.meaning.slots if part.meaning is not None else ()
                said.setdefault(word, set()).add((part.start, part.end, slots))
    return frozenset(word for word, meanings in said.items() if len(meanings) > 1)


def _around(covering: Covering, first: int, differing: frozenset[int]) -> list[Placed]:
    """The parts of a reading from the first open word on, as far as open words go on without a gap."""
    end = first
    while end + 1 in differing:
        end += 1
    return [one for one in covering.parts if one.end > first and one.start <= end]


def _ordered(found: Sequence[Covering], situation: Situation) -> list[Covering]:
    """The readings whose figures answer all that is asked, in its order, as the prompt shows it."""
    asked = _asked_here(situation)
    return [
        one
        for one in found
        if len(asked) > 1
        and [part.meaning.entry.quantity for part in one.parts if part.meaning is not None and part.meaning.entry]
        == list(asked)
    ]


def _asked_here(situation: Situation) -> tuple[str, ...]:
    """What the prompt shows; of a coloured light level, hue and saturation."""
    return situation.asked if situation.firm or situation.terms.hue_deg is not None else ()
