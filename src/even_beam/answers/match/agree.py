"""Lamps made to agree, in words and rows: for the station and for the report."""

from collections.abc import Mapping

from even_beam.answers.match.desk import Matched
from even_beam.bench.target import matches, off_words
from even_beam.known.matching.answer import Answer, colour_setting, headline
from even_beam.known.matching.clashes import Pair, groups
from even_beam.known.matching.gels import HEAT, off_both
from even_beam.shell.line import Line
from even_beam.shell.sheet import NOTHING, Cell, Sheet, figure_cell
from even_beam.words import notation


def agree_sheet(found: Matched, numbers: Mapping[str, int]) -> Sheet:
    """A row a source; `numbers` are the series numbers by name."""
    rows = [
        (one.name, numbers.get(one.name), (Cell(one.name, by=one.name), *agree_cells(one))) for one in found.answers
    ]
    return Sheet(("source", "off by mired, Duv", "dial", "gels", "stops lost", "then off by"), tuple(rows))


def _size(off: tuple[float, float | None]) -> str:
    """What words about a distance are sorted by: how far it is in matches, as text, for they stand like words."""
    return f"{float(off_both(off[0], off[1] or 0.0)):09.3f}"


def agree_lines(found: Matched) -> tuple[Line, ...]:
    """What to do with each in one line, and the two that clash most."""
    opposite = next((pair for pair in found.pairs if pair.opposite), None)
    lines = [Line(headline(found.answers) if len(found.answers) <= MOST_TOLD else _how_many(found))]
    if opposite is not None:
        lines.append(Line(opposite.sentence, "Mend these two first."))
    return tuple(lines)


MOST_TOLD = 3
"""So many sources are told one by one what to do; of more the table tells it."""


def _how_many(found: Matched) -> str:
    """How many can be made to agree, and which cannot."""
    left = [one.name for one in found.answers if one.leaves]
    others = [one for one in found.answers if not one.leaves]
    leave = f"Leave {notation.listed(left)}. " if 0 < len(left) <= MOST_TOLD else ""
    if not others:
        return f"All agree with {found.target.words} as they are."
    cannot = [one.name for one in others if not matches(*one.left)]
    if not cannot:
        rest = "All the others" if leave else f"All {len(others)}"
        return f"{leave}{rest} can be made to agree with {found.target.words}."
    named = notation.listed(cannot) if len(cannot) <= MOST_TOLD else f"{len(cannot)} of them"
    able = len(others) - len(cannot)
    rest = f"the other {len(others)}" if leave else str(len(others))
    return f"{leave}{able} of {rest} can be made to agree with {found.target.words}; {named} cannot."


def agree_cells(one: Answer) -> list[Cell]:
    """How far it is off, what to dial, which gels, what they cost, and how far it is off then."""
    dial, gel = one.to_dial, one.gels[0] if one.gels else None
    if one.leaves:
        turned = Cell("leave", quiet=True)
    elif one.to_colour is not None:
        turned = Cell(colour_setting(one.to_colour).removeprefix("dial "), by=f"{one.to_colour.hue_deg:09.1f}")
    elif dial is None:
        turned = Cell("no dial" if one.dial is None else "as it stands", quiet=True)
    elif dial.unread:
        turned = Cell("read one nearer", marked=True)
    elif dial.reachable:
        tint = f", tint {notation.number(dial.tint, 1, signed=True)}" if dial.tint else ""
        kelvin = " K" if dial.steps.numbered else ""
        tried = "try " if dial.tried else ""
        turned = Cell(f"{tried}{dial.steps.words(dial.dial_k)}{kelvin}{tint}", by=f"{dial.dial_k:09.1f}")
    else:
        turned = Cell(f"only to {notation.dialled(dial.dial_k)} K", marked=True, by=f"{dial.dial_k:09.1f}")
    cost = one.cost_stops
    words = gel.words if gel is not None else "" if one.leaves or matches(*one.dialled) else "none helps"
    return [
        Cell(off_words(*one.off, short=True), by=_size(one.off)),
        turned,
        Cell(words, quiet=gel is None),
        NOTHING if one.leaves else figure_cell(notation.number(cost, 1, signed=True), cost),
        Cell(f"{off_words(*one.left, short=True)}{gel_spread(one)}", quiet=one.leaves, by=_size(one.left)),
    ]


def gel_spread(one: Answer) -> str:
    """How far sheets of the gels' names stray in mired, where they were not read here."""
    if one.leaves or not one.gels or one.gels[0].is_read:
        return ""
    return f" ±{notation.half(one.gels[0].half_mired)}"


def agree_notes(found: Matched) -> tuple[str, ...]:
    """What the table does not tell of a lamp: its colours behind gels, how it strays off its axis; then what holds of
    all."""
    return (*(one.behind for one in found.answers if not one.leaves and one.behind), *notes_on_all(found))


def notes_on_all(found: Matched) -> tuple[str, ...]:
    """What agrees as it is, what was not read, and the caution that gels need."""
    notes: list[str] = []
    untold = {one.name for one in found.answers if one.duv is None}
    notes += [
        f"{notation.listed(group)} agree{' in white' if untold & set(group) else ''} as they are."
        for group in groups(found.answers)
    ]
    notes += [f"No tint was read of {notation.listed(sorted(untold))}: white alone is matched."] if untold else []
    notes += [f"No white was read of {notation.listed(found.unread)}."] if found.unread else []
    notes += [HEAT] if any(one.gels for one in found.answers) else []
    return tuple(notes)


MOST_PAIRS = 8


def pair_sheet(pairs: tuple[Pair, ...]) -> Sheet:
    """The pairs that are farthest apart, opposite tints first: as read, and after what each is told to do."""
    rows = [
        (
            f"{one.a.name} – {one.b.name}",
            None,
            (
                Cell(f"{one.a.name} – {one.b.name}", by=one.a.name),
                Cell(off_words(one.mired, one.duv, short=True), marked=one.opposite, by=_size((one.mired, one.duv))),
                Cell(
                    off_words(one.after_mired, one.after_duv, short=True),
                    quiet=one.agrees_after,
                    by=_size((one.after_mired, one.after_duv)),
                ),
                figure_cell(notation.score(one.tlmf), one.tlmf),
                figure_cell(notation.score(one.ssi), one.ssi),
                Cell(one.subjects, quiet=one.subjects == "as one", by=one.subjects) if one.subjects else NOTHING,
            ),
        )
        for one in pairs[:MOST_PAIRS]
    ]
    return (
        Sheet(("in pairs", "as read", "after that", "TLMF", "SSI", "subjects then"), tuple(rows)) if rows else Sheet()
    )
