"""What Compare shows: a question asked of a logbook, answered with plain values. May take a moment: ask in a worker."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import partial
from pathlib import Path
from threading import Lock

from even_beam.bench import compare, notation
from even_beam.bench.compare import At, Comparison, Entrant, Split
from even_beam.bench.records import Session
from even_beam.figures.chart import Chart
from even_beam.figures.spectrum import Scaling
from even_beam.workspace import compare_judged, compare_table
from even_beam.workspace.collection import Collection, Lamp, Wanted
from even_beam.workspace.compare_charts import MOST_BESIDE, Scene, View, charts
from even_beam.workspace.compare_table import TableRow
from even_beam.workspace.evidence import Witness
from even_beam.workspace.patches import Against, PatchSet, Seen, patch_sets
from even_beam.workspace.settings import Settings

WHOLE = ""
"""In place of a session's id: the whole logbook."""

CHOSEN_AT_FIRST = 5
LOOKED_AT = 20
"""So many of the newest sessions are looked at for one that has two lamps."""

_ALL_FIGURES = {
    View.MISS, View.WHITES, View.BEAM, View.MATRIX, View.FEATURES, View.CLAIMS, View.VERDICT, View.FOR_AND_AGAINST,
}  # fmt: skip
"""Views that rest on more than the readings at the common terms."""


NO_CLAIMS = "Nothing is claimed of these lamps. Write down in the Kit what maker and seller say."
NOTHING_BESIDE_BARE = "No lamp was read both with and without something on it, at the same white, level and place."


@dataclass(frozen=True, slots=True)
class Question:
    """What is asked. None for `session_id` picks a session that has something to compare, for `chosen` its first lamps.

    `white`, `level` and `purpose` are texts as an earlier answer offered them; what is not offered falls back to the first.
    `laid_over` are readings whose spectra are laid over those of the lamps.
    """

    session_id: str | None = None
    at_work: str | None = None
    split: Split = Split.LAMPS
    chosen: tuple[str, ...] | None = None
    reference: str = ""
    white: str = ""
    level: str = ""
    only_even: bool = False
    view: View = View.OUTPUT
    scaling: Scaling = Scaling.PEAK
    laid_over: tuple[str, ...] = ()
    against: Against = Against.OWN_REFERENCE
    seen: Seen = Seen.EYE
    purpose: str = ""
    settings: Settings = field(default_factory=Settings)


@dataclass(frozen=True, eq=False, slots=True)
class Shown:
    """The answer: what could be chosen and is, and what the view shows. `comparison` is None when no lamp is chosen."""

    question: Question
    sessions: tuple[tuple[str, str], ...]
    session_id: str
    lamps: tuple[Lamp, ...]
    chosen: tuple[str, ...]
    reference: str
    whites: tuple[str, ...]
    white: str
    levels: tuple[str, ...]
    level: str
    purposes: tuple[str, ...]
    purpose: str
    comparison: Comparison | None = None
    corner: str = ""
    rows: tuple[TableRow, ...] = ()
    sentences: tuple[str, ...] = ()
    charts: tuple[Chart, ...] = ()
    patches: tuple[PatchSet, ...] = ()
    lamp_of_reading: Mapping[str, str] = field(default_factory=dict)

    @property
    def session(self) -> str:
        """The name of what the readings are of."""
        return next(name for session_id, name in self.sessions if session_id == self.session_id)

    def readings_of(self, key: str) -> list[str]:
        """The readings behind the figures of a lamp."""
        entries = self.comparison.entries if self.comparison is not None else ()
        return [m.reading.id for entry in entries if entry.key == key for m in entry.readings]


class Answers:
    """Answers questions about one logbook file, from any thread, one after the other."""

    def __init__(self, path: Path) -> None:
        self._path = path
        self._one_at_a_time = Lock()
        self._collection: Collection | None = None

    def forget(self) -> None:
        """Read the logbook anew for the next question."""
        with self._one_at_a_time:
            if self._collection is not None:
                self._collection.logbook.close()
            self._collection = None

    def ask(self, question: Question, pause: Callable[[], None] = lambda: None) -> Shown:
        """Answer; `pause` may raise to leave it. Raises `LogbookError`."""
        from even_beam.logbook.store import Logbook

        with self._one_at_a_time:
            pause()
            if self._collection is None:
                self._collection = Collection(Logbook.open_to_read(self._path))
            return answer(self._collection, question)


def answer(collection: Collection, question: Question) -> Shown:
    """The answer to a question."""
    session_id = _session(collection, question)
    lamps = _lamps(collection, session_id, question.split)
    known = [lamp.key for lamp in lamps]
    chosen = known[:CHOSEN_AT_FIRST] if question.chosen is None else [i for i in question.chosen if i in known]
    reference = question.reference if question.reference in chosen else next(iter(chosen), "")
    by_key = {lamp.key: lamp for lamp in lamps}
    picked = [by_key[key] for key in chosen]
    bare = _entrants(collection, session_id, question.split, picked, lambda key: lambda readings: ())
    whites, levels = compare.whites(bare), compare.levels(bare)
    white_texts = tuple(f"{notation.dialled(white)} K" for white in whites) or ("as found",)
    level_texts = tuple(f"{notation.percent(level)} %" for level in levels) or ("as found",)
    white, level = _place(white_texts, question.white), _place(level_texts, question.level)
    witness = Witness(collection, question.settings)
    purposes = tuple(one.name for one in witness.tolerance_sets())
    shown = Shown(
        question=question,
        sessions=(*((s.id, s.name) for s in reversed(collection.sessions)), (WHOLE, "the whole logbook")),
        session_id=session_id,
        lamps=lamps,
        chosen=tuple(chosen),
        reference=reference,
        whites=white_texts,
        white=white_texts[white],
        levels=level_texts,
        level=level_texts[level],
        purposes=purposes,
        purpose=purposes[_place(purposes, question.purpose)],
    )
    if not bare:
        return shown
    default = compare.default_terms(bare)
    at = At(whites[white] if whites else None, levels[level] if levels else None, default.configuration)
    return _with_figures(shown, collection, witness, at, picked)


def _with_figures(shown: Shown, collection: Collection, witness: Witness, at: At, picked: Sequence[Lamp]) -> Shown:
    """The answer with the figures at the terms."""
    question = shown.question

    def wanted(key: str) -> Wanted:
        if question.view in _ALL_FIGURES:
            return lambda readings: readings
        return partial(compare.needed, key=key, at=at)

    entrants = _entrants(collection, shown.session_id, question.split, picked, wanted)
    if question.only_even:
        entrants = [e for e in entrants if compare.at_terms(e, at)] or entrants
    compared = compare.compare(entrants, at, shown.reference, collection.meters)
    corner, rows, sentences = _table(shown, compared, entrants, collection, witness)
    return replace(
        shown,
        comparison=compared,
        corner=corner,
        rows=rows,
        sentences=sentences,
        charts=charts(question.view, Scene(compared, entrants, collection, question.scaling, question.laid_over)),
        patches=_patches(question, compared, collection) if question.view is View.PATCHES else (),
        lamp_of_reading={m.reading.id: e.key for e in entrants for m in e.readings},
    )


def _table(
    shown: Shown, compared: Comparison, entrants: Sequence[Entrant], collection: Collection, witness: Witness
) -> tuple[str, tuple[TableRow, ...], tuple[str, ...]]:
    """Corner, rows and sentences: the figures at the common terms, or what a view has in their place."""
    view, settings = shown.question.view, shown.question.settings
    if view is View.FEATURES:
        return "", compare_table.feature_table(witness, entrants, collection), compared.sentences
    if view is View.MATRIX:
        rows = compare_table.modifier_table(witness, entrants)
        return "against the barest", rows, () if rows else (NOTHING_BESIDE_BARE,)
    if view is View.CLAIMS:
        rows = compare_judged.claims_table(witness, entrants)
        return "claimed", rows, compare_judged.claim_sentences(witness, entrants) if rows else (NO_CLAIMS,)
    if view is View.VERDICT:
        rows = compare_judged.verdict_table(witness, entrants, shown.purpose)
        return shown.purpose, rows, compare_judged.decision_sentences(witness, entrants, shown.purpose)
    if view is View.FOR_AND_AGAINST:
        return shown.purpose, compare_judged.for_and_against(witness, entrants, shown.purpose), ()
    hints = compare_table.watts_of_lamps(compared, witness, entrants) if view is View.OUTPUT else ()
    rows = compare_table.table(compared, entrants, collection.meters, settings.illuminance_unit, hints)
    odd = tuple(hint.sentence for hint in hints if hint.odd)
    return f"{shown.white}, {shown.level}", rows, (*compared.sentences, *odd)


def _patches(question: Question, compared: Comparison, collection: Collection) -> tuple[PatchSet, ...]:
    """The first lamps whose spectrum at the common terms is known."""
    first = {entry.name: entry.readings[0].reading.id for entry in compared.entries if entry.readings}
    spectra = collection.logbook.spectra(first.values())
    reference = next((e.name for e in compared.entries if e.key == compared.reference), "")
    lamps = [(name, spectra[i]) for name, i in first.items() if i in spectra]
    return patch_sets(lamps, reference, question.against, question.seen)[:MOST_BESIDE]


def _session(collection: Collection, question: Question) -> str:
    """The session asked for, or the one at work when it has two lamps, else the newest that has, else all of them."""
    sessions: dict[str, Session] = {session.id: session for session in reversed(collection.sessions)}
    if question.session_id == WHOLE or question.session_id in sessions:
        return question.session_id or WHOLE
    newest = [question.at_work] if question.at_work in sessions else []
    for session_id in [*newest, *list(sessions)[:LOOKED_AT]]:
        if len(collection.entrants_in(session_id)) > 1:
            return session_id
    return WHOLE


def _lamps(collection: Collection, session_id: str, by: Split) -> tuple[Lamp, ...]:
    """What can be chosen."""
    if session_id == WHOLE:
        return tuple(collection.lamps(by))
    read = [part for e in collection.entrants_in(session_id) for part in compare.parted(e, by, collection.session_names)]  # fmt: skip
    return tuple(Lamp(part.source_id, part.name, part.kind, part.part) for part in read)


def _entrants(
    collection: Collection, session_id: str, by: Split, picked: Sequence[Lamp], wanted: Callable[[str], Wanted]
) -> list[Entrant]:
    """What was chosen, in its order; `wanted` says by its key which of its readings need figures."""
    found: list[Entrant] = []
    read = {e.source_id: e for e in collection.entrants_in(session_id)} if session_id != WHOLE else {}
    for lamp in picked:
        own = [read[lamp.source_id]] if lamp.source_id in read else collection.entrants([lamp.source_id], wanted(lamp.key))  # fmt: skip
        parts = [part for entrant in own for part in compare.parted(entrant, by, collection.session_names)]
        found += [part for part in parts if part.key == lamp.key]
    return found


def _place(offered: Sequence[str], asked: str) -> int:
    return offered.index(asked) if asked in offered else 0
