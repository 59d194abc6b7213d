"""What Compare shows: a question asked of a logbook, answered with plain values. May take a moment: ask in a worker."""

from collections.abc import Callable, Hashable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from pathlib import Path

from even_beam.answers.compare.chips import Chip, chips_of, choice_chip
from even_beam.answers.compare.headline import Told, lines_of
from even_beam.answers.compare.judged import Judged, judged_of
from even_beam.answers.compare.judged import sheet_of as judged_sheet
from even_beam.answers.compare.loading import compared, lamps_of
from even_beam.answers.compare.modifiers import modifier_lines
from even_beam.answers.compare.pictures import MOST_BESIDE, Picture, Scene, currency_of, patches_of, pictures_of
from even_beam.answers.compare.questions import Ask, Missing, missing_of
from even_beam.answers.compare.sheet import Figures, sheet_of, watts_of_lamps
from even_beam.answers.findings.witness import Witness
from even_beam.answers.spectrum.patches import Against, Seen
from even_beam.bench.records import FLASH, SOURCE_KINDS, Session
from even_beam.collection.collection import Collection, Lamp, Wanted
from even_beam.collection.read_once import ReadOnce
from even_beam.figures.patches import PatchSet
from even_beam.figures.spectrum import Scaling
from even_beam.known import compare
from even_beam.known.choice import Entrant
from even_beam.known.comparison import Comparison
from even_beam.known.split import Split, parted
from even_beam.known.value import full_cost
from even_beam.shell.line import Line
from even_beam.shell.settings import Settings
from even_beam.shell.sheet import Sheet

WHOLE = ""
"""In place of a session's id: the whole logbook."""

CHOSEN_AT_FIRST = 5
LOOKED_AT = 20
"""So many of the newest sessions are looked at for one that has two lamps."""


@dataclass(frozen=True, slots=True)
class Question:
    """What is asked. None for `session_id` picks a session that has something to compare, for `chosen` its first lamps.

    `asked` are terms chosen for all lamps by field, `own` those of one lamp by its key. `purpose` is a text as an
    earlier answer offered it; what is not offered falls back to the first. `lit` is a lamp that is lit among many,
    `laid_over` are readings whose spectra are laid over those of the lamps.
    """

    session_id: str | None = None
    at_work: str | None = None
    split: Split = Split.LAMPS
    chosen: tuple[str, ...] | None = None
    reference: str = ""
    asked: tuple[tuple[str, Hashable], ...] = ()
    own: tuple[tuple[str, str, Hashable], ...] = ()
    only_even: bool = False
    ask: Ask = Ask.BRIGHT
    lit: str = ""
    scaling: Scaling = Scaling.PEAK
    laid_over: tuple[str, ...] = ()
    against: Against = Against.OWN_REFERENCE
    seen: Seen = Seen.EYE
    purpose: str = ""
    settings: Settings = field(default_factory=Settings)


@dataclass(frozen=True, eq=False, slots=True)
class Shown:
    """The answer: what could be chosen and is, and what the question shows. `comparison` is None without a lamp.

    `numbers` are the series numbers of lamps by their keys: colour, shape and line for good. `notes` may be published.
    """

    question: Question
    sessions: tuple[tuple[str, str], ...]
    session_id: str
    lamps: tuple[Lamp, ...]
    chosen: tuple[str, ...]
    reference: str
    purposes: tuple[str, ...]
    purpose: str
    numbers: Mapping[str, int] = field(default_factory=dict)
    comparison: Comparison | None = None
    lines: tuple[Line, ...] = ()
    pictures: tuple[Picture, ...] = ()
    judged: Judged | None = None
    patches: tuple[PatchSet, ...] = ()
    sheet: Sheet = field(default_factory=Sheet)
    notes: tuple[str, ...] = ()
    missing: Mapping[Ask, Missing] = field(default_factory=dict)
    lamp_of_reading: Mapping[str, str] = field(default_factory=dict)
    chips: tuple[Chip, ...] = ()

    @property
    def session(self) -> str:
        """The name of what the readings are of."""
        return next(name for session_id, name in self.sessions if session_id == self.session_id)

    @property
    def published(self) -> str:
        """The answer as it may be published: the sentences with all their terms where there are any."""
        whole = self.comparison.sentences if self.comparison is not None and self.question.ask is Ask.BRIGHT else ()
        said = whole or [line.plain for line in self.lines]
        return "\n".join([*said, *(note for note in self.notes if note not in said)])

    def readings_of(self, key: str) -> list[str]:
        """The readings behind the figures of a lamp."""
        entries = self.comparison.entries if self.comparison is not None else ()
        return [m.reading.id for entry in entries if entry.key == key for m in entry.readings]


class Answers:
    """Answers questions about one logbook file, from any thread, one after the other."""

    def __init__(self, path: Path) -> None:
        self._file = ReadOnce(path)

    def forget(self) -> None:
        """Read the logbook anew for the next question."""
        self._file.forget()

    def ask(self, question: Question, pause: Callable[[], None] = lambda: None) -> Shown:
        """Answer; `pause` may raise to leave it. Raises `LogbookError`."""
        with self._file.collection() as collection:
            pause()
            return answer(collection, question)


def answer(collection: Collection, question: Question) -> Shown:
    """The answer to a question."""
    session_id = _session(collection, question)
    lamps = _lamps(collection, session_id, question.split)
    known = [lamp.key for lamp in lamps]
    chosen = known[:CHOSEN_AT_FIRST] if question.chosen is None else [i for i in question.chosen if i in known]
    by_key = {lamp.key: lamp for lamp in lamps}
    picked = [by_key[key] for key in chosen]
    reference = question.reference if question.reference in chosen else reference_of(picked)
    bare = _entrants(collection, session_id, question.split, picked, lambda key: lambda readings: ())
    numbers = series_numbers(collection, lamps) if question.split is Split.LAMPS else _numbered(chosen, known)
    witness = Witness(collection, question.settings)
    purposes = tuple(one.name for one in witness.tolerance_sets())
    shown = Shown(
        question=question,
        sessions=(*((s.id, s.name) for s in reversed(collection.sessions)), (WHOLE, "the whole logbook")),
        session_id=session_id,
        lamps=lamps,
        chosen=tuple(chosen),
        reference=reference,
        purposes=purposes,
        purpose=purposes[_place(purposes, question.purpose)],
        numbers=numbers,
        missing=missing_of(None, ()),
        chips=_choices(collection, question, session_id, purposes),
    )
    return _with_figures(shown, collection, witness, bare) if bare else shown


def reference_of(picked: Sequence[Lamp | Entrant]) -> str:
    """The key of what the others are set against when nobody says: a source of light that is no fixture, else the
    first. A flash is none: its f-stops are of no scale that lamps are read in."""
    steady = (lamp for lamp in picked if lamp.kind in SOURCE_KINDS[1:] and lamp.kind != FLASH)
    found = next(steady, None) or next(iter(picked), None)
    return found.key if found is not None else ""


def _with_figures(shown: Shown, collection: Collection, witness: Witness, bare: Sequence[Entrant]) -> Shown:
    """The answer with the figures at the terms."""
    question = shown.question
    own: dict[str, dict[str, Hashable]] = {}
    for key, field_, value in question.own:
        own.setdefault(key, {})[field_] = value
    asked = dict(question.asked)
    standing = [replace(entrant, own=own.get(entrant.key, {})) for entrant in bare]
    found, entrants = compared(collection, standing, asked, shown.reference)
    if question.ask is not Ask.COLOURS:
        everything = _entrants(
            collection,
            shown.session_id,
            question.split,
            [lamp for lamp in shown.lamps if lamp.key in shown.chosen],
            lambda key: lambda readings: readings,
        )
        loaded = {e.key: e.readings for e in everything}
        entrants = [replace(e, readings=loaded.get(e.key, e.readings)) for e in entrants]
    if question.only_even:
        even = [e for e in entrants if (entry := found.entry(e.key)) is not None and entry.readings]
        if even and len(even) < len(entrants):
            entrants = even
            found = compare.compare(entrants, asked, shown.reference, collection.meters)
    unit = question.settings.distance_unit
    scene = Scene(
        comparison=found,
        entrants=entrants,
        collection=collection,
        places=_lit(found, shown),
        scaling=question.scaling,
        laid_over=question.laid_over,
        unit=unit,
    )
    judged = judged_of(witness, entrants, shown.purpose, found) if question.ask is Ask.ENOUGH else None
    figures = Figures(scene, collection.meters, witness, collection, question.settings.illuminance_unit)
    currency = currency_of(collection, entrants)
    missing = missing_of(found, [e.name for e in entrants if full_cost(witness.evidence(e).costs, currency)])
    answered = question.ask not in missing
    return replace(
        shown,
        comparison=found,
        lines=lines_of(question.ask, Told(scene, collection.meters, judged)) if answered else (),
        pictures=pictures_of(question.ask, scene) if answered else (),
        judged=judged,
        patches=patches_of(scene, question.against, question.seen)[:MOST_BESIDE] if question.ask is Ask.COLOURS else (),
        sheet=judged_sheet(judged) if judged is not None else sheet_of(question.ask, figures),
        notes=_notes(question.ask, figures, judged),
        missing=missing,
        lamp_of_reading={m.reading.id: e.key for e in entrants for m in e.readings},
        chips=(*shown.chips, *chips_of(found, entrants, asked, collection)),
    )


MOST_LIT = 8
"""So many lamps have their colour in a picture; of more the others are grey."""


def series_numbers(collection: Collection, lamps: Sequence[Lamp | Entrant]) -> dict[str, int]:
    """The series number of every lamp by its key, for good; where one stands there twice, after all lamps."""
    count = len(collection.arrival)
    parts: dict[str, int] = {}
    found = {}
    for lamp in lamps:
        turn = parts[lamp.source_id] = parts.get(lamp.source_id, -1) + 1
        found[lamp.key] = collection.arrival[lamp.source_id] + turn * count
    return found


def _numbered(chosen: Sequence[str], known: Sequence[str]) -> dict[str, int]:
    """The series numbers of parts of lamps: those of one lamp must be told apart, so the chosen come first."""
    return {key: number for number, key in enumerate(dict.fromkeys([*chosen, *known]))}


def _lit(comparison: Comparison, shown: Shown) -> dict[str, int]:
    """The lamps that have their colour, by name: all of a few; of many the reference, the one looked at, the first."""
    entries = list(comparison.entries)
    first = {comparison.reference, shown.question.lit}
    entries.sort(key=lambda e: e.key not in first)
    return {e.name: shown.numbers[e.key] for e in entries[:MOST_LIT]}


_AGAINST = {Against.OWN_REFERENCE: "own reference", Against.REFERENCE_LAMP: "the reference lamp"}
_SEEN = {Seen.EYE: "eye", Seen.BALANCED: "camera, balanced", Seen.UNBALANCED: "camera, not balanced"}


def _choices(collection: Collection, question: Question, session_id: str, purposes: Sequence[str]) -> tuple[Chip, ...]:
    """What can be chosen beside terms, first on the strip."""
    sessions = [(s.id, s.name) for s in reversed(collection.sessions)]
    named = [*sessions, (WHOLE, "the whole logbook")]
    chips = [
        choice_chip("session_id", "of", named, session_id),
        choice_chip("split", "side by side:", [(one, str(one)) for one in Split], question.split),
    ]
    if question.ask is Ask.COLOURS:
        chips += [
            choice_chip("scaling", "spectra at", [(one, str(one)) for one in Scaling], question.scaling),
            choice_chip("against", "patches against", [(one, _AGAINST[one]) for one in Against], question.against),
            choice_chip("seen", "seen by", [(one, _SEEN[one]) for one in Seen], question.seen),
        ]
    if question.ask is Ask.ENOUGH:
        purpose = purposes[_place(purposes, question.purpose)]
        chips.insert(0, choice_chip("purpose", "for", [(one, one) for one in purposes], purpose))
    return tuple(chips)


def _notes(ask: Ask, figures: Figures, judged: Judged | None) -> tuple[str, ...]:
    """What belongs to an answer in words, and may be published."""
    if judged is not None:
        return (*judged.claims, *judged.sides)
    if ask is not Ask.BRIGHT:
        return ()
    hints = watts_of_lamps(figures.comparison, figures.witness, figures.scene.entrants)
    effects = modifier_lines(figures.witness, figures.scene.entrants)
    odd = tuple(hint.sentence for hint in hints if hint.odd)
    return (*odd, *effects)


def _session(collection: Collection, question: Question) -> str:
    """The session asked for, or the one at work when it has two lamps; else the newest in which a spectrometer read
    two, else the newest that has two, else all of them."""
    sessions: dict[str, Session] = {session.id: session for session in reversed(collection.sessions)}
    if question.session_id == WHOLE or question.session_id in sessions:
        return question.session_id or WHOLE
    if question.at_work in sessions and len(collection.entrants_in(question.at_work)) > 1:
        return question.at_work or WHOLE
    several = [i for i in list(sessions)[:LOOKED_AT] if len(collection.entrants_in(i)) > 1]
    whole = [i for i in several if sum(map(_has_spectra, collection.entrants_in(i))) > 1]
    return next(iter([*whole, *several]), WHOLE)


def _has_spectra(entrant: Entrant) -> bool:
    return any(m.computed is not None for m in entrant.readings)


def _lamps(collection: Collection, session_id: str, by: Split) -> tuple[Lamp, ...]:
    """What can be chosen."""
    if session_id == WHOLE:
        return tuple(collection.lamps(by))
    read = [part for e in collection.entrants_in(session_id) for part in parted(e, by, collection.part_names)]
    return tuple(Lamp(part.source_id, part.name, part.kind, part.part) for part in read)


def _entrants(
    collection: Collection, session_id: str, by: Split, picked: Sequence[Lamp], wanted: Callable[[str], Wanted]
) -> list[Entrant]:
    """What was chosen, in its order; `wanted` says by its key which of its readings need figures."""
    found: list[Entrant] = []
    of_session = lamps_of(collection, session_id, lambda readings: ()) if session_id != WHOLE else []
    read = {e.source_id: e for e in of_session}
    for lamp in picked:
        own = (
            [read[lamp.source_id]]
            if lamp.source_id in read
            else collection.entrants([lamp.source_id], wanted(lamp.key))
        )
        parts = [part for entrant in own for part in parted(entrant, by, collection.part_names)]
        found += [part for part in parts if part.key == lamp.key]
    return found


def _place(offered: Sequence[str], asked: str) -> int:
    return offered.index(asked) if asked in offered else 0
