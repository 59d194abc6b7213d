"""What may be published of a comparison: a sentence a lamp, with its terms, and a tie where the readings cannot
tell."""

from collections.abc import Sequence

from even_beam.bench import fields, terms, terms_in_words
from even_beam.bench.fields import UNSTATED
from even_beam.known.comparison import Entry, Sentence
from even_beam.known.split import says
from even_beam.words import notation


def sentences_of(entries: Sequence[Entry], reference: str) -> list[Sentence]:
    """Numbers, terms, and a tie where these readings cannot tell."""
    base = next((e for e in entries if e.key == reference), None)
    if base is None or base.level is None:
        return []
    return [_sentence(entry, base) for entry in entries if entry.key != reference and entry.ratio_stops is not None]


def _sentence(entry: Entry, base: Entry) -> Sentence:
    together = entry.is_fixture and base.is_fixture and entry.at_m == base.at_m
    where = f" {at}" if together and (at := _place(entry)) else ""
    shared = _shared_words(entry, base)
    ours, theirs = (_named(a, b) if together else _placed(a, b) for a, b in ((entry, base), (base, entry)))
    how = "".join(f", {e.name} {e.how.words}" for e in (entry, base) if e.how)
    if entry.how is not None and entry.how == base.how:
        how = f", both {entry.how.words}"
    how += "".join(f", {e.name} {e.joined}" for e in (entry, base) if e.joined)
    marks = [f"{e.name} rests on {e.doubtful}" for e in (entry, base) if e.doubtful]
    mark = f" {'; '.join(marks)}." if marks else ""
    size, half = abs(entry.ratio_stops or 0.0), entry.ratio_tolerance_stops or 0.0
    if entry.tie:
        tolerance = f"{notation.number(half, 2)} {notation.stop_word(half)}"
        judged = "are level" if entry.level_with else "cannot be told apart"
        text = (
            f"{ours} and {theirs} {judged}{where}{shared}{how}: they differ by less than the {tolerance} that"
            f" these readings can tell.{mark}"
        )
    else:
        direction = "brighter" if (entry.ratio_stops or 0.0) > 0.0 else "darker"
        times = notation.significant(2.0 ** (entry.ratio_stops or 0.0), 2)
        told = notation.stops_told(size, half)
        text = f"{ours} is {told} {direction} than {theirs}{where}{shared}{how}: {times} times as bright.{mark}"
    readings = dict.fromkeys(m.reading.id for e in (entry, base) for m in e.rests_on)
    return Sentence(text, (entry.key, base.key), tuple(readings))


_IN_SENTENCES = ("cct", "tint", "hue", "saturation", "zoom", "level", "angle", "turn")
"""What a sentence says of both lamps at once where it is the same."""


def _shared_words(entry: Entry, base: Entry) -> str:
    """The terms that both have, said once: `, 5600 K dialled, 100 %`."""
    if entry.first is None or base.first is None:
        return ""
    parts = []
    for name in _IN_SENTENCES:
        ours, theirs = terms.value(entry.first, name), terms.value(base.first, name)
        if ours == theirs and ours is not UNSTATED and ours != 0.0:
            said = terms.value_words(entry.first, name)
            parts.append(f"{said} dialled" if name == "cct" else said)
    return "".join(f", {part}" for part in parts if part)


def _place(entry: Entry) -> str:
    """Where its level stands, in words; empty where nothing was stated."""
    if entry.at_m is not None:
        return f"at {notation.distance(entry.at_m)}"
    equal = entry.first is not None and entry.first.terms.placement == "equal"
    return "at equal distance" if equal else ""


def _placed(entry: Entry, other: Entry) -> str:
    """A lamp with its own distance, which the other has not; sun, window or flash as they were found."""
    if not entry.is_fixture:
        return f"{entry.name} (as it was read)"
    named, at = _named(entry, other), _place(entry)
    return f"{named[:-1]}, {at})" if at and named.endswith(")") else named


def _named(entry: Entry, other: Entry) -> str:
    """A lamp with what sits on it, and every term in which the two differ."""
    first, theirs = entry.first, other.first
    if first is None or theirs is None:
        return entry.name
    parts = [f"with {terms_in_words.configuration(first.terms)}" if first.terms.configuration else "bare"]
    if says(entry.name, terms_in_words.configuration(first.terms)):
        parts = []
    for name in _IN_SENTENCES:
        if name == "cct" and first.terms.cct_k is None:
            if theirs.terms.cct_k is not None or first.terms.mode == theirs.terms.mode == "fixed":
                parts.append("at its own white")
        elif terms.value(first, name) != terms.value(theirs, name):
            said, stated = terms.value_words(first, name), terms.value(first, name) is not fields.UNSTATED
            parts.append(f"at {said}" if name in {"cct", "level"} and stated else said)
    parts = [part for part in parts if part and not says(entry.name, part.removeprefix("at "))]
    return f"{entry.name} ({', '.join(parts)})" if parts else entry.name
