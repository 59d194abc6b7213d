"""The even-terms strip: each term that varies, how even the lamps are in it, and the values that were read."""

from collections.abc import Hashable, Mapping, Sequence
from dataclasses import dataclass

from even_beam.bench import fields, terms
from even_beam.bench.records import OFF
from even_beam.collection.collection import Collection
from even_beam.known.choice import JOINABLE, JOINED, Entrant
from even_beam.known.comparison import Comparison, Evenness


@dataclass(frozen=True, slots=True)
class Option:
    """A value that was read, in words, with how many of the lamps were read there."""

    value: Hashable
    words: str
    lamps: int


@dataclass(frozen=True, slots=True)
class Chip:
    """One term: how it stands (`evenness`), what it is (`text`), and what can be asked of all lamps or of one.

    `own` are the options of each lamp by its key, with its name. `asked` tells whether it was chosen rather than taken.
    """

    field: str
    label: str
    evenness: Evenness
    text: str
    options: tuple[Option, ...] = ()
    own: tuple[tuple[str, str, tuple[Option, ...]], ...] = ()
    asked: bool = False


def choice_chip(field: str, label: str, choices: Sequence[tuple[Hashable, str]], chosen: Hashable) -> Chip:
    """What is chosen beside terms, such as a session or a purpose, on the same strip."""
    said = next((words for value, words in choices if value == chosen), "")
    options = tuple(Option(value, words, 0) for value, words in choices)
    return Chip(field, label, Evenness.SAME, f"{label} {said}", options, asked=False)


CHOICES = frozenset({"session_id", "split", "scaling", "against", "seen", "purpose"})
"""Chips that are no terms: what is picked there changes the question itself."""


_NEVER = frozenset({"mode", "placement", "plane"})
"""Fields that nobody asks for by themselves."""
_UNSAID = frozenset({"turn"})
"""Fields that are not worth a word as long as nothing differs."""


def chips_of(
    comparison: Comparison, entrants: Sequence[Entrant], asked: Mapping[str, Hashable], collection: Collection
) -> tuple[Chip, ...]:
    """A chip for every term that varies over the lamps' readings or is worth a word; all that is the same in one,
    first."""
    noted: dict[str, list[tuple[Evenness, str]]] = {}
    same: list[str] = []
    rest: list[Chip] = []
    meters = {key: meter.nickname for key, meter in collection.meters.items()}
    names = {**meters, **collection.session_names}
    for note in comparison.notes:
        if note.evenness is Evenness.SAME:
            continue
        for field in note.fields or ("",):
            noted.setdefault(field, []).append((note.evenness, note.text))
    for one in fields.FIELDS:
        every = _options(one.name, entrants, names)
        told = noted.pop(one.name, [])
        value = comparison.distance_m if one.name == "distance" else comparison.at.get(one.name)
        words = _shared(one, value, every)
        if (one.name in _NEVER or (one.name in _UNSAID and len(every) < 2)) and not told:
            continue
        if len(every) < 2 and not told:
            if words:
                same.append(words)
            continue
        own = tuple((e.key, e.name, options) for e in entrants if len(options := _options(one.name, [e], names)) > 1)
        evenness = told[0][0] if told else Evenness.SAME
        text = "; ".join(text for _, text in told) or words
        if not text:  # each as it was read, and not the same
            evenness, text = Evenness.DIFFERS, f"{one.label}s: {len(every)}"
        chip_asked = one.name in asked or any(one.name in e.own for e in entrants)
        rest.append(
            Chip(
                field=one.name,
                label=one.label,
                evenness=evenness,
                text=text,
                options=every,
                own=own if len(entrants) > 1 else (),
                asked=chip_asked,
            )
        )
    rest += [Chip("", "", evenness, text) for told in noted.values() for evenness, text in told]
    first = [Chip("", "", Evenness.SAME, ", ".join(same))] if same else []
    return (*first, *rest)


def _options(field: str, entrants: Sequence[Entrant], names: Mapping[str, str]) -> tuple[Option, ...]:
    lamps: dict[Hashable, set[str]] = {}
    said: dict[Hashable, str] = {}
    for entrant in entrants:
        for measured in entrant.readings:
            if measured.terms.mode != OFF:
                value = terms.value(measured, field)
                lamps.setdefault(value, set()).add(entrant.key)
                if value not in said:
                    said[value] = terms.value_words(measured, field, names) or _plainly(field)
    stated = [value for value in lamps if value is not fields.UNSTATED]
    ordered = sorted(stated, key=lambda v: (0, float(str(v)), "") if isinstance(v, int | float) else (1, 0.0, str(v)))
    found = [Option(v, said[v], len(lamps[v])) for v in ordered]
    if fields.UNSTATED in lamps:
        found.append(Option(fields.UNSTATED, "not stated", len(lamps[fields.UNSTATED])))
    if field in JOINABLE and len(found) > 1:
        found.append(Option(JOINED, "all of them, joined", len(set().union(*lamps.values()))))
    return tuple(found)


def _plainly(field: str) -> str:
    return fields.PLAIN.get(field, fields.BY_NAME[field].label)


def _shared(one: fields.Field, value: Hashable, every: Sequence[Option]) -> str:
    """What all have, in words: as it was read, or a distance that figures were brought to."""
    if value is fields.UNSTATED:
        return ""
    return next((option.words for option in every if option.value == value), one.words(value))
