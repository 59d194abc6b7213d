"""The readings of a session, newest first, each with what tells it from its neighbours, and mending one of them."""

from collections.abc import Sequence
from dataclasses import dataclass

from even_beam.bench import terms
from even_beam.bench.fields import BY_NAME
from even_beam.bench.measured import Measured
from even_beam.bench.run import Standing
from even_beam.desk.session.desk import SessionDesk
from even_beam.desk.session.situation import situation_of
from even_beam.known.choice import Entrant
from even_beam.known.doubts import TOLD_LITTLE, Flag, asked_about, flags
from even_beam.said import understand
from even_beam.words import notation
from even_beam.words.entry import EntryError
from even_beam.words.quantities import QUANTITIES


@dataclass(frozen=True, slots=True)
class EarlierRow:
    """A reading in a line; `number` counts back from the newest, `odd` is why it may be wrong.

    `noted` is what was noted of it, such as a figure of its table that was not understood. `meant` are figures that one
    slip would explain, as they are typed; `waits` tells whether it counts in nothing until someone decides, `asks`
    whether it counts but nobody has looked at a weak doubt yet.
    """

    reading_id: str
    number: int
    figures: str
    terms: str
    standing: str
    odd: str = ""
    noted: str = ""
    meant: tuple[str, ...] = ()
    waits: bool = False
    asks: bool = False

    @property
    def open(self) -> bool:
        """Whether somebody should look at it."""
        return self.waits or self.asks


_SAID_APART = frozenset({"session", "meter"})


def rows(desk: SessionDesk) -> list[EarlierRow]:
    """Every reading, the newest first; its terms are those that vary in this session."""
    readings = [m for m in desk.measured if m.terms.mode != "off"]
    varying = [name for name in BY_NAME if name in terms.varying(readings) - _SAID_APART]
    odd = _odd(desk, readings)
    why = {reading_id: flag.sentence for reading_id, flag in odd.items()} | _said_of_doubts(readings)
    return [
        EarlierRow(
            reading_id=m.reading.id,
            number=number,
            figures=figures_of(m),
            terms=" · ".join([desk.name_of(m.reading.source_ids), *_varying_words(m, varying)]),
            standing=_standing(m),
            odd=why.get(m.reading.id, ""),
            noted=" · ".join(note for note in (m.reading.note, *m.state.notes) if note),
            meant=_meant(odd.get(m.reading.id)),
            waits=_waits(m),
            asks=m.reading.id in odd and odd[m.reading.id].cause == TOLD_LITTLE,
        )
        for number, m in enumerate(reversed(readings), start=1)
    ]


def first_odd(found: Sequence[EarlierRow]) -> int:
    """The place of the row that is most likely to need mending: the newest that waits, the newest odd one, else the
    newest."""
    waiting = [place for wanted in ("waits", "asks", "odd") for place, row in enumerate(found) if getattr(row, wanted)]
    return next(iter(waiting), 0)


def next_odd(found: Sequence[EarlierRow], place: int) -> int:
    """The next row that somebody should look at, going round; none else: the place itself."""
    count = len(found)
    return next(((place + by) % count for by in range(count) if found[(place + by) % count].open), place)


def open_words(found: Sequence[EarlierRow]) -> str:
    """How many are to be looked at, and the keys that decide; empty where none is."""
    waiting, asked = sum(row.waits for row in found), sum(row.asks for row in found)
    parts = [f"{waiting} in doubt, counted in nothing yet"] if waiting else []
    parts += [f"{asked} to be looked at once more, counted"] if asked else []
    keeps = "+: keep it, in doubt" if waiting else "+: looked at, right as it is"
    return " · ".join([*parts, "*: what it was", keeps, "/: give it up"]) if parts else ""


def figures_of(measured: Measured) -> str:
    """The figures of a reading as they were given, the first three."""
    level, white = measured.value("illuminance"), measured.value("cct")
    known = [notation.light(level)] if level is not None else []
    known += [f"{notation.kelvin(white)} K"] if white is not None else []
    others = [v for v in measured.reading.values if v.quantity not in {"illuminance", "cct"} or v.value is None]
    typed = [v.text if v.text[:1].isalpha() else f"{QUANTITIES[v.quantity].label} {v.text}" for v in others]
    return " · ".join([*known, *typed][:3]) or "spectrum"


def _varying_words(measured: Measured, names: Sequence[str]) -> list[str]:
    return [text for name in names if (text := BY_NAME[name].words(terms.value(measured, name)))]


def _standing(measured: Measured) -> str:
    state = measured.state
    if state.standing is not Standing.COUNTED:
        return str(state.standing)
    if state.doubt:
        return "kept in doubt" if state.kept_in_doubt else "in doubt"
    return "suspect" if state.suspect else ""


def _odd(desk: SessionDesk, readings: Sequence[Measured]) -> dict[str, Flag]:
    """What speaks against readings that stand, also those that wait for a decision, by their id."""
    standing = [m for m in readings if m.state.standing is Standing.COUNTED]
    found: dict[str, Flag] = {}
    for source_id, own in terms.by_value_of(standing, lambda m: m.source_id).items():
        if isinstance(source_id, str):
            entrant = Entrant(source_id, desk.name_of((source_id,)), "", tuple(own))
            found |= {flag.reading_id: flag for flag in (*asked_about(entrant), *flags(entrant))}
    return found


def _waits(measured: Measured) -> bool:
    state = measured.state
    return state.standing is Standing.COUNTED and bool(state.doubt) and not state.kept_in_doubt


def _said_of_doubts(readings: Sequence[Measured]) -> dict[str, str]:
    return {m.reading.id: m.state.doubt for m in readings if _waits(m)}


def _meant(flag: Flag | None) -> tuple[str, ...]:
    """The figures that one slip would explain, as they would be typed."""
    if flag is None or flag.quantity != "illuminance":
        return ()
    return tuple(notation.light(value).replace(notation.THIN_SPACE, "") for value in flag.candidates)


def mend(desk: SessionDesk, reading_id: str, text: str) -> str:
    """Correct a reading by what is typed: a figure replaces its figure of that quantity, terms its terms.

    Returns what was done. The old stays in the logbook. Raises `EntryError`.
    """
    measured = desk.of(reading_id)
    quantities = tuple(value.quantity for value in measured.reading.values) or desk.asked
    said = understand(text, situation_of(desk, of=measured, asked=quantities))
    if said.choices:
        raise EntryError(said.question)
    if not said.entries and not said.terms:
        raise EntryError("type the figure as it should be, or a term such as 50 %")
    mended = desk.mend(reading_id, said)
    doubt = f" {mended.look.title}: {mended.look.text}" if mended is not None and mended.look.in_doubt else ""
    stays = "What stood there before stays in the logbook; Ctrl Z takes it back."
    return f"{notation.sentence(said.written)}.{doubt} {stays}"
