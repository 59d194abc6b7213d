"""Sentences for a script or an article: each with its number and its terms, short and long, metric and imperial, and
what must not be said."""

from collections.abc import Callable, Sequence
from dataclasses import asdict, dataclass, replace
from typing import Any

from even_beam.answers.compare.headline import lines_of
from even_beam.answers.compare.in_short import alike_of
from even_beam.answers.compare.questions import Ask, missing_of
from even_beam.answers.findings import told
from even_beam.handing_over.material import Material
from even_beam.known.comparison import Comparison, Entry
from even_beam.known.findings.claims import ClaimVerdict, Even, Holds, figure_claimed
from even_beam.words import notation
from even_beam.words.wording import Unsaid, stops_words, times_words, unsaid_of

MOST_LINES = 60


@dataclass(frozen=True, slots=True)
class Statement:
    """What may be said: in few words where some hold, in full with its terms, and in feet and footcandles where that
    is another sentence. `unsaid` is what must not be said instead.

    Sentences of a lamp that follow each other share their `terms`; `placed` says one with what differs from these.
    """

    about: str
    long: str
    short: str = ""
    imperial: str = ""
    unsaid: tuple[Unsaid, ...] = ()
    readings: tuple[str, ...] = ()
    terms: str = ""
    placed: str = ""


def statements(make: Callable[[], Material]) -> list[Statement]:
    """Everything that may be said of the lamps of a material, in both systems of units; `make` gives it anew for
    each."""
    with notation.speaking(notation.METRIC):
        metric = _statements(make())
    with notation.speaking(notation.IMPERIAL):
        imperial = _statements(make())
    return [
        replace(ours, imperial=(theirs.placed or theirs.long) if theirs.long != ours.long else "")
        for ours, theirs in zip(metric, imperial, strict=True)
    ]


def _statements(material: Material) -> list[Statement]:
    if not material.entrants:
        return []
    found = _side_by_side(material) if len(material.entrants) > 1 else []
    for entrant in material.entrants:
        claims = material.witness.claims(entrant)
        unsaid = tuple(one for judged in claims if (one := _unsaid_claim(judged)) is not None)
        own = [one for one in told.headline(material.witness, entrant) if one.subject != "in doubt"]
        at = f"Unless a line says otherwise: {told.block_terms(material.witness, entrant)}."
        found += [
            Statement(
                entrant.name, _named(entrant.name, one.sentence), readings=one.readings, terms=at, placed=one.in_block
            )
            for one in own
        ]
        if unsaid:
            holding = [figure_claimed(judged.claim) for judged in claims if judged.holds is Holds.YES]
            said = _borne_out(claims, holding)
            found.append(Statement(f"{entrant.name}, claims", f"{entrant.name}: {said}", unsaid=unsaid))
        material.witness.forget(entrant)
    return found


def _named(name: str, sentence: str) -> str:
    """A sentence with the lamp as its subject, as it can stand anywhere."""
    return f"{name} {sentence.removeprefix('It ')}" if sentence.startswith("It ") else f"{name}: {sentence}"


def _borne_out(claims: Sequence[ClaimVerdict], holding: Sequence[str]) -> str:
    """Which claims may be repeated: to be undecided is not to be refuted."""
    if holding:
        return f"of its claims borne out {'is' if len(holding) == 1 else 'are'} {notation.listed(holding)}."
    if any(judged.holds is Holds.NO for judged in claims):
        return "of its claims none is borne out by what was read."
    return "what was read bears out none of its claims, and refutes none."


def _unsaid_claim(judged: ClaimVerdict) -> Unsaid | None:
    """A claim that must not be repeated: it does not hold, or nobody can tell."""
    if judged.holds is Holds.YES or judged.even is Even.NOT_MEASURED:
        return None
    return Unsaid(figure_claimed(judged.claim), judged.sentence)


def _side_by_side(material: Material) -> list[Statement]:
    """Lamps beside each other; what is no lamp (a window, a flash) was read as it was found, and is no measure of how
    bright a lamp is."""
    lamps = [entrant for entrant in material.entrants if entrant.is_fixture]
    comparison = material.scene(*lamps).comparison if lamps else material.comparison
    missing = missing_of(material.comparison, ())
    base = comparison.entry(comparison.reference)
    found = []
    at = _even_terms(comparison)
    for sentence in comparison.said if len(lamps) > 1 else ():
        entry = next((e for key in sentence.keys if (e := comparison.entry(key)) is not None and e is not base), None)
        if entry is None or base is None or entry.ratio_stops is None:
            found.append(Statement("level", sentence.text, readings=sentence.readings))
        else:
            found.append(replace(_ratio(entry, base, sentence.text, sentence.readings), terms=at))
    for ask in (Ask.WHITE, Ask.COLOURS):
        if ask not in missing:
            found += [
                Statement(
                    str(ask),
                    f"{line.plain.rstrip('.')} ({_terms(material, line.text)}).",
                    line.text,
                    terms=at,
                    placed=line.aside,
                )
                for line in lines_of(ask, material.told(), MOST_LINES)
            ]
    return found


def _even_terms(comparison: Comparison) -> str:
    return " ".join(f"{heading}: {text}" for heading, text in alike_of(comparison))


def _terms(material: Material, text: str) -> str:
    """The terms of every lamp that a sentence names."""
    said = []
    for entrant in material.entrants:
        entry = material.comparison.entry(entrant.key) if entrant.name in text else None
        first = next(iter((*entry.colour, *entry.readings)), None) if entry is not None else None
        if first is not None:
            said.append(f"{entrant.name}: {material.witness.evidence(entrant).at(first)}")
    return "; ".join(said)


def _ratio(entry: Entry, base: Entry, long: str, readings: tuple[str, ...]) -> Statement:
    stops, half = entry.ratio_stops or 0.0, entry.ratio_tolerance_stops or 0.0
    about = f"{entry.name} beside {base.name}"
    if entry.tie:
        short = f"{entry.name} and {base.name} {'are level' if entry.level_with else 'cannot be told apart'}."
        placed = f"These readings cannot tell {notation.number(half, 2)} {notation.stop_word(half)}."
    else:
        direction = "brighter" if stops > 0.0 else "darker"
        words = times_words(stops, half)
        short = f"{entry.name} is {stops_words(stops)} {direction} than {base.name}{f': {words}' if words else ''}."
        ends = " to ".join(notation.times(2.0**end) for end in (stops - half, stops + half))
        placed = f"{notation.number(abs(stops), 2)} ±{notation.number(half, 2)} stops; {ends} times as bright."
    return Statement(about, long, short, unsaid=unsaid_of(stops, half), readings=readings, placed=placed)


BEFORE = "Before it is published"


def as_text(found: Sequence[Statement], before: Sequence[str] = (), *, markdown: bool = False) -> str:
    """All of it to read, or as Markdown; last what to look at `before` it is published."""
    lines: list[str] = []
    about = terms = ""
    for one in found:
        if one.about != about:
            about = one.about
            lines += ["", f"## {_escaped(about)}", ""] if markdown else ["", about]
            if one.terms and one.terms != terms:
                terms = one.terms
                lines += [_escaped(terms), ""] if markdown else [f"  {terms}"]
        lines += _marked(one) if markdown else _plain(one)
    if before:
        lines += ["", f"## {BEFORE}", "", *(f"- {_escaped(line)}" for line in before)] if markdown else []
        lines += ["", BEFORE, *(f"  {line}" for line in before)] if not markdown else []
    return "\n".join(lines).strip() + "\n" if lines else ""


def _plain(one: Statement) -> list[str]:
    lines = [f"  {' '.join(part for part in (one.short, one.placed) if part) or one.long}"]
    lines += [f"  in feet and footcandles: {one.imperial}"] if one.imperial and not one.short else []
    return [*lines, *(f"  do not say “{unsaid.words}”: {unsaid.why}" for unsaid in _worth_saying(one))]


def _worth_saying(one: Statement) -> tuple[Unsaid, ...]:
    """What must not be said; of a ratio its range says it already."""
    return () if one.short else one.unsaid


def _marked(one: Statement) -> list[str]:
    whole = _escaped(one.placed if one.short else one.placed or one.long)
    lines = [f"- **{_escaped(one.short)}** {whole}".rstrip() if one.short else f"- {whole}"]
    lines += [f"  - in feet and footcandles: {_escaped(one.imperial)}"] if one.imperial and not one.short else []
    return [*lines, *(f"  - do not say “{_escaped(u.words)}”: {_escaped(u.why)}" for u in _worth_saying(one))]


def _escaped(text: str) -> str:
    """As Markdown shows it unchanged."""
    return "".join(f"\\{character}" if character in "\\`*_{}[]<>#|" else character for character in text)


def as_json(found: Sequence[Statement], before: Sequence[str] = ()) -> dict[str, Any]:
    """All of it as plain values."""
    said = [{**asdict(one), "readings": list(one.readings)} for one in found]
    return {"statements": said, "before_published": list(before)}
