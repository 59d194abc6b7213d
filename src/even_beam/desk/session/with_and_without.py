"""What sits on a lamp, measured: one reading without it and one with it, all else equal; then it comes off again."""

from dataclasses import replace
from typing import TYPE_CHECKING

from even_beam.bench import fields
from even_beam.bench.judging.gels import is_gel
from even_beam.bench.measured import Measured
from even_beam.bench.records import GEL, Modifier, Terms, new_id

if TYPE_CHECKING:
    from even_beam.desk.session.desk import SessionDesk


class WithAndWithout:
    """What is being measured, and what comes next for it. Nothing is lost with it: its readings are kept as any."""

    def __init__(self, desk: "SessionDesk") -> None:
        self._desk = desk
        self._name = ""
        self._lamp: tuple[str, ...] = ()

    def begin(self, name: str) -> str:
        """Read the lamp at hand with `name` on it and without, as far as it was not read so; says what to do. In a run
        these are steps of it."""
        desk = self._desk
        self._name, self._lamp = _as_known(name, desk.modifiers), desk.next_sources
        if not desk.is_run:
            return self._ask_for_next(desk.next_terms)
        missing = self._missing(desk.next_terms)
        for terms in reversed(missing):
            desk.insert_step(terms)
        if not missing:
            return self._finished()
        return f"{_order(missing, self._name)}: put in right here."

    def go_on(self, measured: Measured) -> str:
        """After a reading that fits: what comes next, or what became of it; empty where nothing is measured so."""
        if not self._name or measured.reading.source_ids != self._lamp:
            return ""
        if self._desk.is_run:
            return "" if self._missing(measured.terms) else self._finished()
        return self._ask_for_next(measured.terms)

    def _ask_for_next(self, at: Terms) -> str:
        missing = self._missing(at)
        self._desk.free_terms = missing[0] if missing else _off(at, self._name)
        return f"Next: {_order(missing[:1], self._name)}." if missing else self._finished()

    def _finished(self) -> str:
        name, self._name = self._name, ""
        if not is_gel(name, self._desk.gels):
            return f"{name} comes off again."
        if name not in self._desk.gels:
            self._desk.logbook.save(Modifier(new_id(), name, GEL))
            self._desk.reload_kit()
        return f"{name} comes off again; Match takes it as it was read here."

    def _missing(self, at: Terms) -> list[Terms]:
        """At what the lamp was not read yet: without it, then with it."""
        return [terms for terms in (_off(at, self._name), _on(at, self._name)) if not self._was_read(terms)]

    def _was_read(self, at: Terms) -> bool:
        wanted = fields.key_of_terms(at)
        own = (m for m in self._desk.counted if m.reading.source_ids == self._lamp and m.value("illuminance"))
        return any(fields.key_of_terms(m.terms) == wanted for m in own)


def _order(terms: list[Terms], name: str) -> str:
    """What to read, in words: without half CTB, then with it."""
    has_it = [name in one.configuration for one in terms]
    words = [f"with {name}" if one else f"without {name}" for one in has_it]
    return f"{words[0]}, then with it" if len(words) > 1 else words[0]


def _as_known(name: str, known: tuple[str, ...]) -> str:
    """What the Kit calls it, where it has it."""
    plain = fields.plain(name)
    return next((one for one in known if fields.plain(one) == plain), " ".join(name.split()))


def _off(at: Terms, name: str) -> Terms:
    plain = fields.plain(name)
    return replace(at, configuration=tuple(part for part in at.configuration if fields.plain(part) != plain))


def _on(at: Terms, name: str) -> Terms:
    return replace(at, configuration=(*_off(at, name).configuration, name))
